//! Materials as a ledger: form, amount, moles, equivalents of the limiting one.

use super::{Setting, figures, number};
use chem::Run;
use measure::Decimal;
use practical::file::Role;
use practical::{Material, Strength, Supply};
use serde::Serialize;

/// A material in the ledger.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct LedgerLine {
    /// As the sheet calls it.
    pub symbol: String,
    /// Systematic name.
    pub name: String,
    /// Common name or remark.
    pub also: String,
    /// Formula, ready for setting; empty where there is none.
    pub formula: Vec<Run>,
    /// What it does here.
    pub role: Role,
    /// How it is supplied, in words: `1.00 mol/L`.
    pub form: String,
    /// Planned for one group: number and unit; for a product its theoretical yield.
    pub planned: Option<Planned>,
    /// Amount that takes part; none for what does not react.
    pub equivalents: Option<Equivalents>,
    /// Hazard statements.
    pub hazards: Vec<String>,
}

/// A planned amount as written.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Planned {
    /// Digits as written.
    pub value: String,
    /// Unit.
    pub unit: String,
    /// How far from it will do.
    pub band: Option<String>,
}

/// How much of a reagent there is, measured by what the limiting one needs.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Equivalents {
    /// Amount of substance, mmol, three figures, counted in partners of the limiting reagent.
    pub millimoles: String,
    /// Extent over that of the reagent meant to limit; 1 for that one.
    pub planned: f64,
    /// The same at the lower end of the band.
    pub low: f64,
    /// The same at the upper end of the band.
    pub high: f64,
}

/// A reagent of the plan with its extents, mol.
pub(super) struct Share<'a> {
    pub material: &'a Material,
    pub coefficient: f64,
    pub extent: f64,
    pub low: f64,
    pub high: f64,
}

impl<'p> Setting<'p> {
    /// The reagents whose amounts the plan says: what is used up, with its extents.
    pub(super) fn shares(&self) -> Vec<Share<'p>> {
        let share = |material: &'p Material| {
            let (coefficient, used) = material.term?;
            let counts = used && matches!(material.role, Role::Limiting | Role::Excess);
            let planned = material.planned.as_ref().filter(|_| counts)?;
            let coefficient = number(coefficient);
            let extent = |quantity: f64| Some(self.moles(material, quantity)? / coefficient);
            let (low, high) = planned.ends();
            Some(Share {
                material,
                coefficient,
                extent: extent(planned.base())?,
                low: extent(low)?,
                high: extent(high)?,
            })
        };
        self.practical.materials.iter().filter_map(share).collect()
    }

    /// The reagent that everything is measured by: the one meant to limit, or the one that does.
    pub(super) fn yardstick<'s>(shares: &'s [Share<'p>]) -> Option<&'s Share<'p>> {
        let meant = shares.iter().find(|s| s.material.role == Role::Limiting);
        meant.or_else(|| shares.iter().min_by(|a, b| a.extent.total_cmp(&b.extent)))
    }

    pub(super) fn ledger(&self) -> Vec<LedgerLine> {
        let shares = self.shares();
        let yardstick = Self::yardstick(&shares);
        let line = |m: &'p Material| {
            let own = shares.iter().find(|s| s.material.symbol == m.symbol);
            let equivalents = own.zip(yardstick).filter(|_| shares.len() > 1).map(|(s, y)| Equivalents {
                // Counted in partners of the limiting reagent, so that the columns can be compared down the page.
                millimoles: figures(s.extent * y.coefficient * 1000.0, 3),
                planned: s.extent / y.extent,
                low: s.low / y.extent,
                high: s.high / y.extent,
            });
            LedgerLine {
                symbol: m.symbol.clone(),
                name: m.name.clone(),
                also: m.also.clone(),
                formula: m.formula.as_ref().map_or_else(Vec::new, |f| f.runs().to_vec()),
                role: m.role,
                form: form_words(&m.supply),
                planned: self.planned(m),
                equivalents,
                hazards: m.hazards.clone(),
            }
        };
        self.practical.materials.iter().map(line).collect()
    }

    fn planned(&self, m: &Material) -> Option<Planned> {
        if let Some(p) = &m.planned {
            let band = Decimal::parse(&format!("{}", p.half_width)).ok().filter(|_| p.half_width > 0.0);
            return Some(Planned {
                value: p.amount.value.to_string(),
                unit: p.amount.unit.written().to_owned(),
                band: band.map(|b| b.to_string()),
            });
        }
        let yields = self.practical.yield_of(&m.symbol)?;
        let unit = self.practical.program.definition(&yields.theoretical)?.unit.written().to_owned();
        Some(Planned { value: self.evaluation.shown(&yields.theoretical)?, unit, band: None })
    }
}

fn form_words(supply: &Supply) -> String {
    match supply {
        Supply::Solid { purity: None } => "solid".into(),
        Supply::Solid { purity: Some(p) } => format!("solid, {}", stated_words(p)),
        Supply::Liquid { purity: None, .. } => "liquid".into(),
        Supply::Liquid { purity: Some(p), .. } => format!("liquid, {}", stated_words(p)),
        Supply::Gas { .. } => "gas".into(),
        Supply::Solution(Strength { stated, dilution, .. }) => match dilution {
            Some((written, _)) => format!("{}, diluted {written}", stated_words(stated)),
            None => stated_words(stated),
        },
    }
}

/// A stated quantity as it is said: digits, unit, basis; a range with both its ends.
pub(super) fn stated_words(stated: &practical::Stated) -> String {
    use practical::Basis;
    let unit = stated.amount.unit.written();
    let basis = match stated.basis {
        None => "",
        Some(Basis::MassInMass) => " w/w",
        Some(Basis::MassInVolume) => " w/v",
        Some(Basis::VolumeInVolume) => " v/v",
    };
    if stated.ranged {
        let (low, high) = stated.ends();
        let shown = |base: f64| figures(stated.amount.unit.from_base(base), 3);
        return format!("{} to {} {unit}{basis}", shown(low), shown(high));
    }
    format!("{} {unit}{basis}", stated.amount.value)
}
