//! The run-down of amounts of several reactions, vessel by vessel: what each uses, makes and leaves, what runs out, what
//! just enough would be, and all of it over the bands of what is planned.
//!
//! The computation is [`practical::RunDown`], the same that plan and bench go by.

use super::reaction::Supply;
use super::{ComputeError, Measured};
use chem::{Equation, Formula, MassTable};
use measure::{Dimension, Unit};
use practical::{Amounts, Run, RunDown, Stated};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;

/// Most supplies whose bands are gone through: all corners are.
const MOST_BANDS: usize = 10;

/// Several reactions on amounts that are there.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct RunDownQuestion {
    /// What there is.
    pub supplies: Vec<Supplied>,
    /// Where it reacts.
    pub vessels: Vec<ReactionVessel>,
    /// The species that is wanted, as in the equations.
    #[serde(default)]
    pub product: Option<String>,
    /// The product as it is weighed, if that differs (a hydrate).
    #[serde(default)]
    pub product_as: Option<String>,
    /// Relative atomic masses.
    #[serde(default)]
    pub masses: MassTable,
}

/// One supply.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Supplied {
    /// What it is called.
    pub name: String,
    /// As in the equations.
    pub species: String,
    /// As it is weighed, if that differs.
    #[serde(default)]
    pub weighed_as: Option<String>,
    /// How it is measured out.
    pub supply: Supply,
    /// Least and most of it that will do, as it is measured: `2.98 g`, `3.30 g`.
    #[serde(default)]
    pub band: Option<[Measured; 2]>,
}

/// A vessel with what goes into it and what happens there, in order.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct ReactionVessel {
    /// What it is called.
    pub name: String,
    /// The part of each supply that goes in, by name: `1`, `1/2`; all of every supply if left out.
    #[serde(default)]
    pub takes: Option<BTreeMap<String, String>>,
    /// In the order in which they happen.
    pub reactions: Vec<RunReaction>,
}

/// One reaction of a vessel.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct RunReaction {
    /// Balanced, with coefficients.
    pub equation: String,
    /// Equilibrium constant in amounts.
    #[serde(default)]
    pub equilibrium: Option<f64>,
    /// Part of what is possible that happens: `5 %`.
    #[serde(default)]
    pub part: Option<String>,
}

/// Amounts by species, mol.
type Moles = BTreeMap<String, f64>;

/// What happened.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RunDownAnswer {
    /// By vessel.
    pub vessels: BTreeMap<String, VesselRun>,
    /// Over all vessels, by species.
    pub totals: BTreeMap<String, SpeciesAmounts>,
    /// How much of each supply is used, as it is measured, g or mL; none where nothing is, where a reaction makes it too or
    /// another supply brings it.
    pub just_enough: BTreeMap<String, JustEnough>,
    /// The product, where one was named.
    pub product: Option<ProductMade>,
    /// The same over the bands; none where no supply has one.
    pub over_the_bands: Option<OverTheBands>,
}

/// How much of a supply is used.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct JustEnough {
    /// What was put in, mol.
    pub supplied: f64,
    /// What is used, as it is measured, g or mL.
    pub enough: f64,
}

/// What happened in one vessel.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct VesselRun {
    /// By reaction.
    pub reactions: Vec<ReactionRun>,
    /// What is there in the end, by species.
    pub species: BTreeMap<String, SpeciesAmounts>,
}

/// What one reaction did.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ReactionRun {
    /// In mol.
    pub extent: f64,
    /// Whether all that it uses was there.
    pub possible: bool,
    /// What was there of each reactant.
    pub available: Moles,
    /// What it used of each.
    pub used: Moles,
    /// Reactants of which nothing was left.
    pub runs_out: Vec<String>,
}

/// One species, mol.
#[derive(Debug, Clone, Copy, Default, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SpeciesAmounts {
    /// Put in.
    pub start: f64,
    /// Made.
    pub made: f64,
    /// Used.
    pub used: f64,
    /// There in the end.
    pub left: f64,
    /// What is left over what was used, in percent; none where nothing was used.
    pub excess_percent: Option<f64>,
}

/// The product.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ProductMade {
    /// Made, mol.
    pub made: f64,
    /// There in the end, mol.
    pub remaining: f64,
    /// What is there in the end, as it is weighed, g.
    pub mass: f64,
}

/// Least and most.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Span {
    /// Least.
    pub min: f64,
    /// Most.
    pub max: f64,
}

/// What can be, each supply anywhere in its band.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct OverTheBands {
    /// What is left of each species that was put in, mol.
    pub left: BTreeMap<String, Span>,
    /// The same in percent of what was used.
    pub excess_percent: BTreeMap<String, Span>,
    /// Species that were put in and run out somewhere in the bands.
    pub runs_out_somewhere: Vec<String>,
    /// Mass of the product, g.
    pub product_mass: Option<Span>,
}

/// A supply, read.
struct Read {
    name: String,
    species: Formula,
    /// As measured, g or mL, and the amount in one of it, mol.
    measured: f64,
    per_measured: f64,
    band: Option<(f64, f64)>,
}

/// A vessel, read.
struct Vessel<'q> {
    name: &'q str,
    /// The part of each supply, in their order.
    takes: Vec<f64>,
    reactions: Vec<(Equation, Option<f64>, Option<f64>)>,
}

pub(super) fn answer(question: &RunDownQuestion) -> Result<RunDownAnswer, ComputeError> {
    let supplies: Vec<Read> = question.supplies.iter().map(|s| read(s, &question.masses)).collect::<Result<_, _>>()?;
    let vessels: Vec<Vessel<'_>> = question.vessels.iter().map(|v| vessel(v, &supplies)).collect::<Result<_, _>>()?;
    let product = question.product.as_deref().map(Formula::parse).transpose()?;
    let weighed_as = question.product_as.as_deref().map(Formula::parse).transpose()?;
    let molar_mass = match weighed_as.as_ref().or(product.as_ref()) {
        Some(formula) => formula.molar_mass(&question.masses)?.value,
        None => 0.0,
    };
    let all = |measured: &[f64]| -> Vec<RunDown> { vessels.iter().map(|v| v.run(&supplies, measured)).collect() };
    let usual: Vec<f64> = supplies.iter().map(|s| s.measured).collect();
    let downs = all(&usual);
    let totals = total(&downs);
    let made = |totals: &BTreeMap<String, SpeciesAmounts>| {
        let line = totals.get(product.as_ref()?.typed()).copied().unwrap_or_default();
        Some(ProductMade { made: line.made, remaining: line.left, mass: line.left * molar_mass })
    };
    let just_enough = supplies.iter().filter_map(|s| {
        let line = totals.get(s.species.typed())?;
        let alone = supplies.iter().filter(|o| o.species == s.species).count() == 1;
        let enough = s.measured * line.used / line.start;
        let told = JustEnough { supplied: line.start, enough };
        (alone && line.made == 0.0 && enough.is_finite()).then(|| (s.name.clone(), told))
    });
    Ok(RunDownAnswer {
        just_enough: just_enough.collect(),
        product: made(&totals),
        over_the_bands: over_the_bands(&supplies, |measured| {
            let totals = total(&all(measured));
            let mass = made(&totals).map(|p| p.mass);
            (totals, mass)
        })?,
        vessels: vessels.iter().zip(&downs).map(|(v, down)| (v.name.to_owned(), told(down))).collect(),
        totals,
    })
}

impl Vessel<'_> {
    fn run(&self, supplies: &[Read], measured: &[f64]) -> RunDown {
        let put_in: Vec<(Formula, f64)> = supplies
            .iter()
            .zip(measured)
            .zip(&self.takes)
            .filter(|(_, part)| **part > 0.0)
            .map(|((s, measured), part)| (s.species.clone(), s.per_measured * measured * part))
            .collect();
        let runs: Vec<Run<'_>> =
            self.reactions.iter().map(|(equation, k, part)| Run { equation, equilibrium: *k, part: *part }).collect();
        RunDown::of(&runs, &put_in)
    }
}

fn read(supplied: &Supplied, masses: &MassTable) -> Result<Read, ComputeError> {
    let Supplied { name, species, weighed_as, supply, band } = supplied;
    let species = Formula::parse(species)?;
    let weighed = weighed_as.as_deref().map(Formula::parse).transpose()?;
    let molar_mass = weighed.as_ref().unwrap_or(&species).molar_mass(masses)?.value;
    let field = |of: &str| format!("{}.{of}", name.chars().take(60).collect::<String>());
    let part = |purity: &Option<Measured>| match purity {
        Some(p) => p.positive(&field("purity"), Dimension::ONE).map(|a| a.base()),
        None => Ok(1.0),
    };
    let (quantity, dimension, per_base) = match supply {
        Supply::Solid { mass, purity } => (mass, Dimension::MASS, part(purity)? / molar_mass),
        Supply::Solution { volume, concentration } => {
            let c = concentration.positive(&field("concentration"), Dimension::CONCENTRATION)?.base();
            (volume, Dimension::VOLUME, c)
        }
        Supply::MassConcentration { volume, strength } => {
            let rho = strength.positive(&field("strength"), Dimension::DENSITY)?.base();
            (volume, Dimension::VOLUME, rho / molar_mass)
        }
        Supply::Liquid { volume, density, purity } => {
            let rho = density.positive(&field("density"), Dimension::DENSITY)?.base();
            (volume, Dimension::VOLUME, rho * part(purity)? / molar_mass)
        }
        Supply::Gas { .. } => {
            return Err(ComputeError::undefined(format!("{}: a gas is no supply of a run-down", field("supply"))));
        }
    };
    let unit = Unit::parse(if dimension == Dimension::MASS { "g" } else { "mL" })
        .map_err(|e| ComputeError::quantity(field("supply"), e.to_string()))?;
    let shown = |m: &Measured| m.not_negative(&field("quantity"), dimension).map(|a| unit.from_base(a.base()));
    let band = match band {
        Some([least, most]) => Some((shown(least)?, shown(most)?)),
        None => None,
    };
    if band.is_some_and(|(least, most)| least > most) {
        return Err(ComputeError::impossible(format!("{}: a band goes from the least to the most", field("band"))));
    }
    Ok(Read {
        name: name.clone(),
        species,
        measured: shown(quantity)?,
        per_measured: per_base * unit.to_base(1.0),
        band,
    })
}

fn vessel<'q>(vessel: &'q ReactionVessel, supplies: &[Read]) -> Result<Vessel<'q>, ComputeError> {
    let takes = match &vessel.takes {
        None => vec![1.0; supplies.len()],
        Some(takes) => {
            if let Some(name) = takes.keys().find(|n| !supplies.iter().any(|s| s.name == **n)) {
                let name: String = name.chars().take(60).collect();
                return Err(ComputeError::undefined(format!("there is no supply '{name}'")));
            }
            let part = |s: &Read| takes.get(&s.name).map_or(Ok(0.0), |text| fraction(text));
            supplies.iter().map(part).collect::<Result<_, _>>()?
        }
    };
    let reactions = vessel.reactions.iter().map(|r| {
        let equation = Equation::parse(&r.equation)?;
        if let Err(imbalance) = equation.check() {
            return Err(ComputeError::Equation { message: imbalance.to_string() });
        }
        if r.equilibrium.is_some_and(|k| !(k.is_finite() && k > 0.0)) {
            return Err(ComputeError::impossible("an equilibrium constant is more than nothing"));
        }
        let part = r.part.as_deref().map(|text| {
            let stated = Stated::positive(text, &[Dimension::ONE]);
            stated.map(|s| s.base()).map_err(|e| ComputeError::quantity("part", format!("part: {e}")))
        });
        let part = part.transpose()?;
        if part.is_some_and(|p| p > 1.0) {
            return Err(ComputeError::impossible("no more happens than is possible: a part of 100 % at most"));
        }
        Ok((equation, r.equilibrium, part))
    });
    Ok(Vessel { name: &vessel.name, takes, reactions: reactions.collect::<Result<_, _>>()? })
}

/// `1`, `0.5`, `1/2`.
fn fraction(text: &str) -> Result<f64, ComputeError> {
    let wrong = || ComputeError::quantity("takes", "takes: a part is written 1, 0.5 or 1/2");
    let read = |t: &str| t.trim().parse::<f64>().map_err(|_| wrong());
    let part = match text.split_once('/') {
        Some((above, below)) => read(above)? / read(below)?,
        None => read(text)?,
    };
    (0.0..=1.0).contains(&part).then_some(part).ok_or_else(wrong)
}

fn of_species(line: &Amounts) -> SpeciesAmounts {
    let Amounts { start, made, used, left, .. } = *line;
    SpeciesAmounts { start, made, used, left, excess_percent: line.excess().map(|part| 100.0 * part) }
}

fn told(down: &RunDown) -> VesselRun {
    let by_name = |of: &[(Formula, f64)]| of.iter().map(|(f, n)| (f.typed().to_owned(), *n)).collect();
    let reactions = down.ran.iter().map(|ran| ReactionRun {
        extent: ran.extent,
        possible: ran.possible,
        available: by_name(&ran.available),
        used: by_name(&ran.used),
        runs_out: ran.runs_out.iter().map(|f| f.typed().to_owned()).collect(),
    });
    let species = down.species.iter().map(|line| (line.species.typed().to_owned(), of_species(line)));
    VesselRun { reactions: reactions.collect(), species: species.collect() }
}

fn total(downs: &[RunDown]) -> BTreeMap<String, SpeciesAmounts> {
    let mut totals: BTreeMap<String, SpeciesAmounts> = BTreeMap::new();
    for line in downs.iter().flat_map(|d| &d.species) {
        let sum = totals.entry(line.species.typed().to_owned()).or_default();
        sum.start += line.start;
        sum.made += line.made;
        sum.used += line.used;
        sum.left += line.left;
        sum.excess_percent = (sum.used > 0.0).then(|| 100.0 * sum.left / sum.used);
    }
    totals
}

/// All corners of the bands: what is piecewise linear in each supply is least and most there.
fn over_the_bands(
    supplies: &[Read],
    at: impl Fn(&[f64]) -> (BTreeMap<String, SpeciesAmounts>, Option<f64>),
) -> Result<Option<OverTheBands>, ComputeError> {
    let banded: Vec<usize> = (0..supplies.len()).filter(|i| supplies[*i].band.is_some()).collect();
    if banded.is_empty() {
        return Ok(None);
    }
    if banded.len() > MOST_BANDS {
        return Err(ComputeError::impossible(format!("at most {MOST_BANDS} supplies have a band")));
    }
    let mut out = OverTheBands {
        left: BTreeMap::new(),
        excess_percent: BTreeMap::new(),
        runs_out_somewhere: Vec::new(),
        product_mass: None,
    };
    let wider = |span: Option<Span>, x: f64| {
        span.map_or(Span { min: x, max: x }, |s| Span { min: s.min.min(x), max: s.max.max(x) })
    };
    for corner in 0..1u32 << banded.len() {
        let mut measured: Vec<f64> = supplies.iter().map(|s| s.measured).collect();
        for (bit, i) in banded.iter().enumerate() {
            let (least, most) = supplies[*i].band.unwrap_or_default();
            measured[*i] = if corner >> bit & 1 == 1 { most } else { least };
        }
        let (totals, mass) = at(&measured);
        for supply in supplies {
            let name = supply.species.typed();
            let Some(line) = totals.get(name) else { continue };
            let left = wider(out.left.get(name).copied(), line.left);
            out.left.insert(name.to_owned(), left);
            if let Some(excess) = line.excess_percent {
                let span = wider(out.excess_percent.get(name).copied(), excess);
                out.excess_percent.insert(name.to_owned(), span);
            }
            if line.left <= 0.0 && !out.runs_out_somewhere.iter().any(|n| n == name) {
                out.runs_out_somewhere.push(name.to_owned());
            }
        }
        out.product_mass = mass.map(|m| wider(out.product_mass, m)).or(out.product_mass);
    }
    out.runs_out_somewhere.sort();
    Ok(Some(out))
}
