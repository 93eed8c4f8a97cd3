//! Materials as a ledger: form, amount, moles, equivalents of the limiting one.

use super::{Setting, figures};
use chem::Run;
use measure::Decimal;
use practical::file::Role;
use practical::substance::{Pictogram, Signal, advice, codes, pictograms, signal};
use practical::{Classified, Material, Strength, Supply};
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
    /// As planned: number and unit; for a product its theoretical yield.
    pub planned: Option<Planned>,
    /// What that is of each time, where it is taken more than once: `trial`.
    pub each: Option<String>,
    /// For one group in all, where it is taken more than once: `100 mL`, of four trials of 25 mL.
    pub in_all: Option<String>,
    /// Amount that takes part; none for what does not react.
    pub equivalents: Option<Equivalents>,
    /// Hazard statements.
    pub hazards: Vec<String>,
    /// Why it carries these, or none.
    pub classified: Classified,
    /// The signal word that they carry.
    pub signal: Option<Signal>,
    /// The pictograms that they carry.
    pub pictograms: Vec<Pictogram>,
    /// What to do and to leave, and what to do when something has happened.
    pub precautions: Vec<String>,
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
    /// Amount of substance n, mmol, three figures.
    pub millimoles: String,
    /// n/ν, mmol, three figures: what is compared to see which reagent limits.
    pub per_coefficient: String,
    /// What is planned over what is just enough, all reactions counted; 1 for the reagent meant to limit.
    pub planned: f64,
    /// The same at the lower end of the band.
    pub low: f64,
    /// The same at the upper end of the band.
    pub high: f64,
}

/// A reagent of the plan beside what the reactions need of it.
pub(super) struct Share<'a> {
    pub material: &'a Material,
    /// Amount planned for one group in all, mol of its formula.
    pub moles: f64,
    /// What is planned over what is just enough; 1 of the yardstick.
    pub times: f64,
    /// The same at the worst within the bands: least of this, most of what it is measured by.
    pub low: f64,
    /// The same at the best.
    pub high: f64,
}

/// A planned amount of a reagent, mol, with both ends of its band.
struct InBand<'a> {
    material: &'a Material,
    moles: f64,
    low: f64,
    high: f64,
}

impl<'p> Setting<'p> {
    /// The reagents whose amounts the plan says, each beside what all reactions together need of it.
    pub(super) fn shares(&self) -> Vec<Share<'p>> {
        let planned: Vec<InBand<'p>> = self.practical.materials.iter().filter_map(|m| self.in_band(m)).collect();
        let at = |pick: &dyn Fn(&InBand<'p>) -> f64| -> Vec<(&'p str, f64)> {
            planned.iter().map(|p| (p.material.symbol.as_str(), pick(p))).collect()
        };
        // What the others are at their least, as planned, at their most.
        let (least, usual, most) = (at(&|p| p.low), at(&|p| p.moles), at(&|p| p.high));
        let times = |p: &InBand<'p>, own: f64, others: &[(&str, f64)]| {
            Some(own / self.practical.just_enough(&p.material.symbol, others)?)
        };
        let beside: Vec<(&InBand<'p>, f64)> =
            planned.iter().filter_map(|p| Some((p, times(p, p.moles, &usual)?))).collect();
        let meant = beside.iter().find(|(p, _)| p.material.role == Role::Limiting);
        let yardstick = meant.or_else(|| beside.iter().min_by(|a, b| a.1.total_cmp(&b.1)));
        let yardstick = yardstick.map(|(p, _)| p.material.symbol.clone());
        let share = |(p, usual): &(&InBand<'p>, f64)| {
            // Side by side, each reaction has a yardstick of its own.
            let own = p.material.role == Role::Limiting || Some(&p.material.symbol) == yardstick.as_ref();
            let (low, high) = if own {
                (p.low / p.moles, p.high / p.moles)
            } else {
                (times(p, p.low, &most)?, times(p, p.high, &least)?)
            };
            Some(Share { material: p.material, moles: p.moles, times: if own { 1.0 } else { *usual }, low, high })
        };
        beside.iter().filter_map(share).collect()
    }

    /// A reagent that is used up, with what is planned of it.
    fn in_band(&self, material: &'p Material) -> Option<InBand<'p>> {
        let (_, used) = material.term?;
        let counts = used && matches!(material.role, Role::Limiting | Role::Excess);
        let planned = material.planned.as_ref().filter(|_| counts)?;
        let (low, high) = planned.ends();
        // In all trials together, so that what is taken once stands beside what is taken in each.
        let times = self.practical.times_planned(material) as f64;
        let moles = |quantity: f64| self.moles(material, quantity).map(|n| n * times);
        Some(InBand { material, moles: moles(planned.base())?, low: moles(low)?, high: moles(high)? })
    }

    /// The reagent that everything is measured by: the one meant to limit, or the one that does.
    pub(super) fn yardstick<'s>(shares: &'s [Share<'p>]) -> Option<&'s Share<'p>> {
        let meant = shares.iter().find(|s| s.material.role == Role::Limiting);
        meant.or_else(|| shares.iter().min_by(|a, b| a.times.total_cmp(&b.times)))
    }

    pub(super) fn ledger(&self) -> Vec<LedgerLine> {
        let shares = self.shares();
        let times = |m: &Material| self.practical.times_planned(m) as f64;
        let in_all = |m: &Material| {
            let planned = m.planned.as_ref().filter(|_| times(m) > 1.0)?;
            Some(super::in_unit_of(planned, planned.base() * times(m)))
        };
        let line = |m: &'p Material| {
            let own = shares.iter().find(|s| s.material.symbol == m.symbol);
            let equivalents = own.filter(|_| shares.len() > 1).map(|s| Equivalents {
                millimoles: figures(1000.0 * s.moles / times(m), 3),
                per_coefficient: figures(
                    1000.0 * s.moles / times(m) / chem::number(m.term.map_or(1.into(), |(c, _)| c)),
                    3,
                ),
                planned: s.times,
                low: s.low,
                high: s.high,
            });
            LedgerLine {
                symbol: m.symbol.clone(),
                name: m.name.clone(),
                also: m.also.clone(),
                formula: m.formula.as_ref().map_or_else(Vec::new, |f| f.runs().to_vec()),
                role: m.role,
                form: form_words(&m.supply),
                planned: self.planned(m),
                each: m.each.clone(),
                in_all: in_all(m),
                equivalents,
                hazards: m.hazards.clone(),
                classified: m.classified(),
                signal: signal(&codes(&m.hazards)),
                pictograms: pictograms(&codes(&m.hazards)),
                precautions: advice(&codes(&m.hazards)),
            }
        };
        self.practical.materials.iter().map(line).collect()
    }

    fn planned(&self, m: &Material) -> Option<Planned> {
        if let Some((value, unit)) = m.roughly.as_deref().and_then(|said| said.split_once(' ')) {
            return Some(Planned { value: value.to_owned(), unit: unit.to_owned(), band: None });
        }
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

/// How a material is supplied, in words: `1.00 mol/L`, `solid, 98.5 % w/w`.
#[must_use]
pub fn form_words(supply: &Supply) -> String {
    match supply {
        Supply::Solid { purity: None } => "solid".into(),
        Supply::Solid { purity: Some(p) } => format!("solid, {}", stated_words(p)),
        Supply::Liquid { purity: None, .. } => "liquid".into(),
        Supply::Liquid { purity: Some(p), .. } => format!("liquid, {}", stated_words(p)),
        Supply::Gas { .. } => "gas".into(),
        Supply::Saturated => "saturated".into(),
        Supply::Solution(Strength { saturated_at: Some(at), .. }) => format!("saturated at {at}"),
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
