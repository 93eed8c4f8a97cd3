//! What a class needs of each material: portions by recipe, totals, and how a solution of it can be made.
//!
//! Trials: as many as go well when all goes well (the rough one and those that have to agree), and one to spare where the
//! practical allows one more. Through a burette: two rinses of 5 mL, and whole fills; through a pipette: one rinse of 5 mL, and
//! 10 mL that stay in the beaker (methods.md). Which glass it goes through is what the file says: the titrant's is that of the
//! titres, another's is that of the reading of it.

use crate::ForClass;
use crate::amounts::{Portion, handy_step, rounded_up};
use chem::Run;
use lab::plan::form_words;
use measure::{Dimension, InstrumentKind};
use practical::file::{Role, Step};
use practical::substance::{self, Pictogram, Signal, SoldAs, Substance, codes, pictograms, signal};
use practical::{Allotted, Material, Practical, Reading, Stated, Strength, Supply};
use serde::Serialize;
use std::collections::BTreeMap;

/// A rinse of a burette or a pipette, mL.
const RINSE: f64 = 5.0;
/// Rinses of a burette.
const BURETTE_RINSES: u32 = 2;
/// What stays in the beaker that a pipette is filled from, mL.
const LEFT_IN_BEAKER: f64 = 10.0;

/// What is needed of a material.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct MaterialNeed {
    /// As the sheet calls it.
    pub symbol: String,
    /// Systematic name.
    pub name: String,
    /// Common name or remark.
    pub also: String,
    /// Formula, ready for setting.
    pub formula: Vec<Run>,
    /// What it does.
    pub role: Role,
    /// How it is supplied, in words.
    pub form: String,
    /// Hazard statements of this form.
    pub hazards: Vec<String>,
    /// Pictograms that they carry.
    pub pictograms: Vec<Pictogram>,
    /// The signal word that they carry; none where they carry none, or do not say which.
    pub signal: Option<Signal>,
    /// `mL` or `g`; the unit of everything here.
    pub unit: String,
    /// What each group takes, by recipe.
    pub shares: Vec<Share>,
    /// In words, where exactness does not matter: `3 drops`.
    pub roughly: Option<String>,
    /// For the class, with what is spare; none where the practical does not say how much.
    pub total: Option<ClassTotal>,
    /// Of a solution, how it can be made.
    pub solution: Option<SolutionNeed>,
}

/// What the groups of one recipe take.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Share {
    /// As in `recipe A`; none where all work alike.
    pub recipe: Option<String>,
    /// How many groups, spare ones not counted.
    pub groups: u32,
    /// What each of them takes.
    pub portion: Portion,
    /// What that comes to for one group.
    pub per_group: f64,
}

/// What stands on the trolley.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ClassTotal {
    /// Needed, with what is spare.
    pub exact: f64,
    /// To be provided.
    pub provide: f64,
    /// What is left over if all goes to plan.
    pub left_over: f64,
}

/// How a solution can be made.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SolutionNeed {
    /// mol/L; none where nothing says it.
    pub molar: Option<f64>,
    /// The formula dissolved, as it is typed; empty where there is none.
    pub formula: String,
    /// Solids that it can be made from, with the mass for what is provided, g; the one that the practical names first.
    pub solids: Vec<FromSolid>,
    /// Concentrated reagents that it can be made from, with the volume for what is provided, mL.
    pub concentrated: Vec<FromConcentrated>,
    /// What to mind while it is made.
    pub making: Vec<String>,
    /// What it is kept in; empty where the library does not say.
    pub bottle: String,
    /// How long it keeps; empty where the library does not say.
    pub keeps: String,
    /// Its strength is to be measured against a standard: what is weighed may be rough.
    pub to_be_standardised: bool,
}

/// A solid that a solution can be made from.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FromSolid {
    /// As it is weighed.
    pub formula: String,
    /// For what is provided, g.
    pub grams: f64,
}

/// A concentrated reagent that a solution can be made from.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FromConcentrated {
    /// As it is sold.
    pub sold: SoldAs,
    /// For what is provided, mL.
    pub millilitres: f64,
}

/// What is thrown away together.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct WasteNeed {
    /// The disposal group.
    pub group: String,
    /// Names of what goes there.
    pub materials: Vec<String>,
    /// Liquid at most, mL: all that is provided.
    pub millilitres: f64,
    /// Solid at most, g.
    pub grams: f64,
}

/// Whether something is still taken from a step on: added there, or measured there. What no step names may be taken at any time.
#[must_use]
pub fn is_taken_from(practical: &Practical, symbol: &str, step: usize) -> bool {
    let takes = |s: &Step| {
        let added = s.adds.iter().any(|a| a.material == symbol);
        added || s.records.iter().any(|r| practical.reading(r).is_some_and(|r| r.of.as_deref() == Some(symbol)))
    };
    let named = practical.steps.iter().rposition(takes);
    named.is_none_or(|last| last >= step)
}

/// Everything that is needed of the materials, in the order of the file. What is made, and what an unknown may consist of, is
/// not.
pub(crate) fn materials(practical: &Practical, class: &ForClass) -> Vec<MaterialNeed> {
    let parts: Vec<&String> = practical.materials.iter().flat_map(|m| &m.mixture_of).collect();
    let made = |m: &Material| m.role == Role::Product || m.planned.is_none() && m.term.is_some_and(|(_, used)| !used);
    let wanted = practical.materials.iter().filter(|m| !made(m) && !parts.contains(&&m.symbol));
    wanted.map(|m| material(practical, class, m)).collect()
}

fn material(practical: &Practical, class: &ForClass, m: &Material) -> MaterialNeed {
    let mut recipes: BTreeMap<Option<String>, u32> = BTreeMap::new();
    for group in &class.groups {
        *recipes.entry(group.assignment.clone()).or_default() += 1;
    }
    let mut unit = "g";
    let mut shares = Vec::new();
    for (recipe, groups) in recipes {
        let own = practical.allotted(&Allotted { assignment: recipe.clone(), unknown: None });
        let Some((portion, measured)) = own.material(&m.symbol).and_then(|m| portion(&own, m)) else { continue };
        unit = measured;
        shares.push(Share { recipe, groups, portion, per_group: portion.per_group() });
    }
    // All alike: which recipe it is does not matter here.
    if let [first, rest @ ..] = shares.as_slice()
        && rest.iter().all(|s| s.portion == first.portion)
    {
        let groups = shares.iter().map(|s| s.groups).sum();
        shares = vec![Share { recipe: None, groups, ..first.clone() }];
    }
    let total = total(class, &shares);
    MaterialNeed {
        symbol: m.symbol.clone(),
        name: m.name.clone(),
        also: m.also.clone(),
        formula: m.formula.as_ref().map_or_else(Vec::new, |f| f.runs().to_vec()),
        role: m.role,
        form: form_words(&m.supply),
        pictograms: pictograms(&codes(&m.hazards)),
        signal: signal(&codes(&m.hazards)),
        hazards: m.hazards.clone(),
        unit: unit.into(),
        roughly: m.roughly.clone(),
        solution: total.and_then(|t| solution(practical, m, t.provide)),
        total,
        shares,
    }
}

/// For all groups, those to spare by the recipe that takes most.
fn total(class: &ForClass, shares: &[Share]) -> Option<ClassTotal> {
    let most = shares.iter().map(|s| s.per_group).max_by(f64::total_cmp)?;
    let planned: f64 = shares.iter().map(|s| f64::from(s.groups) * s.per_group).sum();
    let exact = (planned + f64::from(class.spare_groups) * most) * (1.0 + class.percent_on_top / 100.0);
    let provide = rounded_up(exact, handy_step(exact));
    let used: f64 = shares.iter().map(|s| f64::from(s.groups) * s.portion.used()).sum();
    Some(ClassTotal { exact, provide, left_over: provide - used })
}

/// What one group takes, in mL or g.
fn portion(practical: &Practical, m: &Material) -> Option<(Portion, &'static str)> {
    let (amount, axis) = match &m.planned {
        Some(planned) => ((planned.base(), planned.amount.unit.dimension()), m.each.clone()),
        None => said_elsewhere(practical, m)?,
    };
    let (per_trial, unit) = match amount {
        (base, Dimension::VOLUME) => (1000.0 * base, "mL"),
        (base, Dimension::MASS) => (base, "g"),
        _ => return None,
    };
    let trials = axis.map_or(1, |axis| trials(practical, &axis));
    let mut portion = Portion { trials, per_trial, rinses: 0, per_rinse: 0.0, left_in_glass: 0.0 };
    match glass(practical, m).filter(|_| unit == "mL") {
        Some((InstrumentKind::Burette, capacity)) if per_trial > 0.0 => {
            let fills = if per_trial <= capacity {
                (f64::from(trials) / (capacity / per_trial + 1e-9).floor()).ceil()
            } else {
                f64::from(trials) * (per_trial / capacity).ceil()
            };
            portion.rinses = BURETTE_RINSES;
            portion.per_rinse = RINSE;
            portion.left_in_glass = fills * capacity - f64::from(trials) * per_trial;
        }
        Some((InstrumentKind::VolumetricPipette | InstrumentKind::GraduatedPipette, _)) => {
            portion.rinses = 1;
            portion.per_rinse = RINSE;
            portion.left_in_glass = LEFT_IN_BEAKER;
        }
        _ => {}
    }
    Some((portion, unit))
}

/// What is taken of something of which nothing is planned: what the steps add of it, or else what the reading of it expects. In
/// base units, with the axis along which it is taken anew.
fn said_elsewhere(practical: &Practical, m: &Material) -> Option<((f64, Dimension), Option<String>)> {
    let added = practical.steps.iter().flat_map(|step| {
        let own = step.adds.iter().filter(|a| a.material == m.symbol);
        own.filter_map(move |a| Some((step, Stated::parse(a.amount.as_deref()?).ok()?)))
    });
    let added: Vec<(&Step, Stated)> = added.collect();
    if let Some((step, first)) = added.first() {
        let dimension = first.amount.unit.dimension();
        let same = added.iter().filter(|(_, a)| a.amount.unit.dimension() == dimension);
        let sum = same.map(|(_, a)| a.base()).sum();
        return Some(((sum, dimension), axis_of(practical, step)));
    }
    let reading = reading_of(practical, m)?;
    let expected = reading.unit.to_base(reading.expected.to_f64());
    Some(((expected, reading.unit.dimension()), reading.repeats.as_ref().map(|r| r.axis.clone())))
}

/// The axis along which a step is done anew: of what it records, or of what it adds.
pub(crate) fn axis_of(practical: &Practical, step: &Step) -> Option<String> {
    let recorded = step.records.iter().find_map(|r| practical.reading(r)?.repeats.as_ref().map(|n| n.axis.clone()));
    recorded.or_else(|| step.adds.iter().find_map(|a| practical.material(&a.material)?.each.clone()))
}

/// How often something is done along an axis: when all goes well, and once more where the practical allows that.
fn trials(practical: &Practical, axis: &str) -> u32 {
    let mut along = practical.readings.iter().filter(|r| r.repeats.as_ref().is_some_and(|n| n.axis == axis));
    let most = along.clone().filter_map(|r| r.repeats.as_ref()).map(|n| n.most).max().unwrap_or(1);
    let open = along.any(Reading::is_open_ended);
    let wanted = practical.times_along(axis);
    let spare = usize::from(wanted > 1 && wanted < most && !open);
    u32::try_from(wanted + spare).unwrap_or(u32::MAX)
}

/// The glass that a liquid goes through, with what it holds in mL.
fn glass(practical: &Practical, m: &Material) -> Option<(InstrumentKind, f64)> {
    let reading = if m.role == Role::Titrant {
        let titre = practical.file.titres.first()?;
        practical.readings.iter().find(|r| r.symbol == titre.end)?
    } else {
        reading_of(practical, m)?
    };
    Some((reading.instrument.kind, reading.instrument.capacity))
}

fn reading_of<'p>(practical: &'p Practical, m: &Material) -> Option<&'p Reading> {
    practical.readings.iter().find(|r| r.of.as_ref() == Some(&m.symbol))
}

/// How `provide` mL of a solution can be made.
fn solution(practical: &Practical, m: &Material, provide: f64) -> Option<SolutionNeed> {
    let Supply::Solution(strength) = &m.supply else { return None };
    // What is to be found out comes as it is.
    if m.role == Role::Sample {
        return None;
    }
    let masses = &practical.school.atomic_masses;
    let molar_mass = m.formula.as_ref().and_then(|f| Some(f.molar_mass(masses).ok()?.value));
    let molar = molar_mass.and_then(|mass| strength.concentration(strength.kind, mass));
    let known = substance::called(&m.name);
    let litres = provide / 1000.0;
    let formula = m.formula.as_ref().map(|f| f.typed().to_owned());
    let sold = known.map_or(&[] as &[SoldAs], |s| s.sold_as.as_slice());
    let concentrated: Vec<FromConcentrated> = match (molar, molar_mass) {
        (Some(c), Some(mass)) => sold
            .iter()
            .filter_map(|sold| {
                let millilitres = 1000.0 * c * litres / stock_strength(sold, mass)?;
                // What is as strong as it is sold is not made.
                (millilitres < 0.9 * provide).then(|| FromConcentrated { sold: sold.clone(), millilitres })
            })
            .collect(),
        _ => Vec::new(),
    };
    // What is sold concentrated is no solid on a shelf.
    let solids = match (molar, molar_mass, &formula) {
        (Some(c), Some(mass), Some(formula)) if sold.is_empty() => {
            vec![FromSolid { formula: formula.clone(), grams: c * litres * mass }]
        }
        _ => Vec::new(),
    };
    let said = |pick: fn(&Substance) -> &String| known.map_or_else(String::new, |s| pick(s).clone());
    Some(SolutionNeed {
        molar,
        formula: formula.unwrap_or_default(),
        solids,
        concentrated,
        making: known.map_or_else(Vec::new, |s| s.making.clone()),
        bottle: said(|s| &s.bottle),
        keeps: said(|s| &s.keeps),
        to_be_standardised: is_found_out(practical, m, strength),
    })
}

/// mol/L of a reagent as it is sold: ρ·w/M.
fn stock_strength(sold: &SoldAs, molar_mass: f64) -> Option<f64> {
    let base = |text: &str, dimension| Stated::positive(text, &[dimension]).ok().map(|s| s.base());
    // g/L and a fraction, as the sheet reckons.
    Some(base(&sold.density, Dimension::DENSITY)? * base(&sold.strength, Dimension::ONE)? / molar_mass)
}

/// Whether its strength is what the practical finds out, or only about so.
fn is_found_out(practical: &Practical, m: &Material, strength: &Strength) -> bool {
    let found = practical.roles.named(practical::SheetRole::Concentration, &m.symbol).is_some();
    found || strength.stated.ranged
}

/// What is thrown away, by disposal group, in the order of the file.
pub(crate) fn waste(practical: &Practical, needs: &[MaterialNeed]) -> Vec<WasteNeed> {
    let mut out: Vec<WasteNeed> = Vec::new();
    for need in needs {
        let Some(m) = practical.material(&need.symbol).filter(|m| !m.waste.is_empty()) else { continue };
        let provided = need.total.map_or(0.0, |t| t.provide);
        let at = out.iter().position(|w| w.group == m.waste).unwrap_or_else(|| {
            let group = m.waste.clone();
            out.push(WasteNeed { group, materials: Vec::new(), millilitres: 0.0, grams: 0.0 });
            out.len() - 1
        });
        out[at].materials.push(m.name.clone());
        *if need.unit == "mL" { &mut out[at].millilitres } else { &mut out[at].grams } += provided;
    }
    out
}
