//! What would follow from the amounts planned, before anything is weighed.
//!
//! The practical's own sheet is run with planned amounts in place of readings: which reagent limits, how far the
//! others are in excess, the theoretical yield, the uncertainty that the chosen instruments allow, which readings
//! decide it, and everything that does not add up. Each consequence is a [`Consequence`] with its figures, beside the
//! line that causes it; the wording is the interface's. None of them blocks.

mod classes;
mod combinations;
mod consequence;
mod excess;
mod forms;
mod hypotheses;
mod ledger;
mod precision;
mod said;
mod solubility;
mod time;
mod titres;
mod unchecked;
mod vessels;

pub use combinations::Combination;
pub use consequence::{AsHydrate, CeilingWhy, Consequence, Decisive, Note, Unrecorded};
pub use ledger::{Equivalents, LedgerLine, Planned, form_words};
pub use unchecked::Unchecked;

use crate::evaluated::{ResultState, inputs, result_outcome};
use chem::Run;
use measure::Decimal;
use measure::rounding::{Ties, decimal_of, figures};
use practical::file::ReadingKind;
use practical::{Allotted, Key, Material, Part, Practical, Reading, Slot, Stated};
use serde::Serialize;
use sheet::{Evaluation, Inputs, Line};
use std::collections::BTreeMap;

/// A practical as its planner sees it.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Plan {
    /// The reactions, ready for setting.
    pub reactions: Vec<ReactionLine>,
    /// One line for each material.
    pub materials: Vec<LedgerLine>,
    /// What follows, each beside its line.
    pub notes: Vec<Note>,
    /// What could not be checked, because something is not said.
    pub unchecked: Vec<Unchecked>,
    /// What would come out.
    pub results: Vec<PlannedResult>,
    /// What differs for groups with their own recipe.
    pub recipes: Vec<Recipe>,
}

/// A reaction of the plan.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ReactionLine {
    /// What to call it.
    pub name: String,
    /// Ready for setting.
    pub runs: Vec<Run>,
    /// Atoms on either side, which agree.
    pub balance: Vec<AtomCount>,
}

/// How many of one element stand on either side.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct AtomCount {
    /// Symbol.
    pub symbol: String,
    /// On the left and on the right.
    pub count: f64,
}

/// What a result would be.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PlannedResult {
    /// Name of the definition.
    pub name: String,
    /// With the planned amounts.
    pub planned: ResultState,
    /// With the instructor's own readings, if there was a trial run.
    pub trial_run: Option<ResultState>,
    /// Its sheet, with the planned amounts put in.
    pub worked: Vec<Line>,
}

/// The plan of groups that work by an assignment of their own.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Recipe {
    /// As in `recipe A`.
    pub name: String,
    /// Its ledger.
    pub materials: Vec<LedgerLine>,
    /// What would come out.
    pub results: Vec<PlannedResult>,
    /// What does not add up, with these amounts.
    pub notes: Vec<Note>,
}

/// What follows from the practical as it is planned.
#[must_use]
pub fn plan(practical: &Practical) -> Plan {
    let bare = Bare::of(practical, &BTreeMap::new());
    let recipes = practical.file.assignments.iter().filter(|a| !a.planned.is_empty() || !a.expected.is_empty());
    Plan {
        reactions: practical.reactions.iter().map(reaction_line).collect(),
        materials: bare.setting().ledger(),
        notes: bare.setting().notes(),
        unchecked: bare.setting().unchecked(),
        results: bare.setting().results(),
        recipes: recipes.map(|a| recipe(practical, a)).collect(),
    }
}

/// What a result comes to with planned amounts and expected readings, in its own unit; of a group with an assignment by
/// those of its own.
#[must_use]
pub fn planned_value(practical: &Practical, result: &practical::ResultSpec) -> Option<f64> {
    let own = practical.allotted.assignment.as_deref().and_then(|name| practical.assignment(name));
    let bare = Bare::of(practical, &own.map(expected).unwrap_or_default());
    Some(result.unit.from_base(bare.setting().value(&result.name)?))
}

/// Readings that an assignment expects otherwise.
fn expected(assignment: &practical::file::Assignment) -> BTreeMap<String, Decimal> {
    assignment.expected.iter().filter_map(|(s, t)| Some((s.clone(), Decimal::parse(t).ok()?))).collect()
}

fn reaction_line(reaction: &practical::Reaction) -> ReactionLine {
    let balance = reaction.equation.check().unwrap_or_default();
    ReactionLine {
        name: reaction.name.clone(),
        runs: reaction.equation.runs(),
        balance: balance.into_iter().map(|(symbol, count)| AtomCount { symbol, count }).collect(),
    }
}

fn recipe(practical: &Practical, assignment: &practical::file::Assignment) -> Recipe {
    let own = practical.allotted(&Allotted { assignment: Some(assignment.name.clone()), unknown: None });
    let bare = Bare::of(&own, &expected(assignment));
    let setting = bare.setting();
    let amounts = |n: &Note| {
        use Consequence as C;
        matches!(n.what, C::InExcess { .. } | C::NotTheOneMeant { .. } | C::EnoughUpTo { .. } | C::TooFull { .. })
    };
    Recipe {
        name: assignment.name.clone(),
        materials: setting.ledger(),
        results: setting.results(),
        notes: setting.notes().into_iter().filter(amounts).collect(),
    }
}

/// The practical with planned amounts in place of readings.
struct Bare<'p> {
    practical: &'p Practical,
    inputs: Inputs,
}

/// The same, evaluated; what every check looks at.
struct Setting<'p> {
    practical: &'p Practical,
    inputs: &'p Inputs,
    evaluation: Evaluation<'p>,
}

/// Every reading, by slot, as it would be if all went by the plan, in the unit that it is read in: what is planned of the
/// material that it measures, otherwise what is expected; of a group with an assignment by its own.
#[must_use]
pub fn planned_readings(practical: &Practical) -> BTreeMap<String, Decimal> {
    let own = practical.allotted.assignment.as_deref().and_then(|name| practical.assignment(name));
    by_plan(practical, &own.map(expected).unwrap_or_default())
}

fn by_plan(practical: &Practical, expected: &BTreeMap<String, Decimal>) -> BTreeMap<String, Decimal> {
    // Of portions that add up, the plan is the total: it is all in the first.
    let later_portion = |s: &&Slot<'_>| s.reading.adds_up() && !matches!(s.part, Part::Trial(0));
    let slots = practical.slots();
    let planned = |s: &Slot<'_>| match (s.part, s.reading.points.as_slice()) {
        // A series goes up or down, and ends where its points do.
        (Part::Trial(trial), points @ [_, ..]) => points.get(trial).copied(),
        (Part::Trial(_) | Part::Whole | Part::From | Part::To, _) => {
            let own = expected.get(&s.reading.symbol).copied();
            let end = s.reading.expected_end.filter(|_| s.part == Part::To);
            Some(end.or(own).unwrap_or_else(|| planned_reading(practical, s.reading)))
        }
    };
    let values = slots.iter().filter(|s| !later_portion(s));
    let values = values.filter_map(|s| planned(s).map(|value| (s.symbol.clone(), value)));
    values.collect()
}

impl<'p> Bare<'p> {
    fn of(practical: &'p Practical, expected: &BTreeMap<String, Decimal>) -> Bare<'p> {
        Bare { practical, inputs: inputs(practical, &by_plan(practical, expected)) }
    }

    fn setting(&self) -> Setting<'_> {
        let evaluation = self.practical.program.evaluate(&self.inputs);
        Setting { practical: self.practical, inputs: &self.inputs, evaluation }
    }
}

/// What is planned of the material that a reading measures, to the reading's decimals; otherwise what is expected.
fn planned_reading(practical: &Practical, reading: &Reading) -> Decimal {
    let planned = reading.of.as_ref().filter(|_| reading.kind == ReadingKind::Number).and_then(|of| {
        let planned = practical.material(of)?.planned.as_ref()?;
        (planned.amount.unit.dimension() == reading.unit.dimension()).then_some(())?;
        let value = decimal_of(reading.unit.from_base(planned.base()))?;
        let place = -i32::try_from(reading.decimals).ok()?;
        Some(measure::rounding::to_place(value, place, Ties::HalfUp))
    });
    // One of two readings whose difference counts is no amount of its own.
    let paired = practical.differences.iter().any(|(a, b)| *a == reading.symbol || *b == reading.symbol);
    planned.filter(|_| !paired).unwrap_or(reading.expected)
}

impl Setting<'_> {
    fn notes(&self) -> Vec<Note> {
        let mut notes = Vec::new();
        self.excess(&mut notes);
        self.forms(&mut notes);
        self.hypotheses(&mut notes);
        self.solubility(&mut notes);
        self.precision(&mut notes);
        self.titres(&mut notes);
        self.vessels(&mut notes);
        self.combinations(&mut notes);
        self.said(&mut notes);
        self.time(&mut notes);
        notes
    }

    fn results(&self) -> Vec<PlannedResult> {
        let trial = self.practical.file.trial_run.as_ref().map(|t| {
            let typed = t.readings.iter().filter_map(|(s, text)| Some((s.clone(), Decimal::parse(text).ok()?)));
            inputs(self.practical, &typed.collect())
        });
        let found = trial.as_ref().map(|i| self.practical.program.evaluate(i));
        let state = |e: &Evaluation<'_>, name: &str| result_outcome(self.practical, e, name).state;
        let results = self.practical.results.iter().filter(|r| r.is_worked_out());
        let result = |r: &practical::ResultSpec| PlannedResult {
            name: r.name.clone(),
            planned: state(&self.evaluation, &r.name),
            trial_run: found.as_ref().map(|e| state(e, &r.name)),
            worked: self.evaluation.worked(&r.name),
        };
        results.map(result).collect()
    }

    /// The number that a definition comes to, in base units.
    fn value(&self, name: &str) -> Option<f64> {
        self.evaluation.value(name).map(|v| v.value)
    }

    /// Molar mass of a material, g/mol.
    fn molar_mass(&self, material: &Material) -> Option<f64> {
        Some(material.formula.as_ref()?.molar_mass(&self.practical.school.atomic_masses).ok()?.value)
    }

    /// Amount of substance in a quantity of a material (g or L), in mol.
    fn moles(&self, material: &Material, quantity: f64) -> Option<f64> {
        material.supply.moles(quantity, self.molar_mass(material)?)
    }

    /// Where a material stands in the file.
    fn line_of(&self, material: &Material) -> Vec<Key> {
        let at = self.practical.materials.iter().position(|m| m.symbol == material.symbol);
        vec!["materials".into(), at.unwrap_or(0).into()]
    }
}

/// A quantity in the unit of `like`, to three figures, with that unit.
fn in_unit_of(like: &Stated, base: f64) -> String {
    let unit = &like.amount.unit;
    format!("{} {}", figures(unit.from_base(base), 3), unit.written())
}
