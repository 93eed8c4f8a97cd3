//! The door: one question in, one answer out.
//!
//! [`compute`] is total and deterministic: a question that makes no sense gets a [`ComputeError`] that says why, and a
//! seed is part of the question. The same JSON goes through the server, the command line and the tests.

mod acid_base;
mod agreement;
mod bench;
mod calibration;
mod calorimetry;
mod class;
mod composition;
mod electrochemistry;
mod equation;
mod equilibrium;
mod error;
mod formula;
mod found;
mod gas;
mod kinetics;
mod measured;
mod number;
mod practical;
mod preparing;
mod reaction;
mod run_down;
mod schedule;
mod sheet;
mod solution;
mod statistics;
mod titration;
mod worksheet;

pub use acid_base::{AcidBaseAnswer, AcidBaseQuestion, Curve, Solute, SoluteRole};
pub use agreement::{AgreeingSet, Agreement, AgreementRule, Titre};
pub use bench::{BenchAnswer, BenchQuestion, OddReading, Sent, SimulateAnswer, SimulateQuestion, Told};
pub use calibration::{CalibrationAnswer, CalibrationQuestion, GroupLine, Original, Points, UnknownOff};
pub use calorimetry::{Burning, CalorimetryAnswer, CalorimetryQuestion, CupPart, CycleStep, Mixing};
pub use class::{CheckAnswer, CheckQuestion, CohortGroup, CohortQuestion, PracticalSource};
pub use composition::{AmountRatio, Candidate, CompositionAnswer, CompositionQuestion, Declared, Fitted};
pub use electrochemistry::{
    CellSpecies, ChargeFound, ElectrochemistryAnswer, ElectrochemistryQuestion, Electrode, ElectrodeUnknown, HalfCell,
};
pub use equation::{Balanced, Difference, EquationAnswer, EquationQuestion};
pub use equilibrium::{
    CommonIon, ComplexRun, ComplexRunFound, EquilibriumAnswer, EquilibriumQuestion, Equivalence, Esterification, Gran,
    HalfWay, IonOfSalt, Saturated, Solubility, SolubilityProduct, WhichIon,
};
pub use error::ComputeError;
pub use formula::{AtomShare, FormulaAnswer, FormulaQuestion};
pub use found::{Found, Remark};
pub use gas::{Conditions, Displaced, GasQuestion, GasSample, Vapour};
pub use kinetics::{Arrhenius, FirstRate, Integrated, KineticsAnswer, KineticsQuestion, Order, Run};
pub use measured::Measured;
pub use number::{NumberAnswer, NumberQuestion, UnitTyped};
pub use practical::{PracticalAnswer, PracticalQuestion};
pub use preparing::PrepareQuestion;
pub use reaction::{Competitor, Left, Ranked, ReactionAnswer, ReactionQuestion, Reagent, Supply};
pub use run_down::{
    JustEnough, OverTheBands, ProductMade, ReactionRun, ReactionVessel, RunDownAnswer, RunDownQuestion, RunReaction,
    Span, SpeciesAmounts, Supplied, VesselRun,
};
pub use schedule::{ScheduleAnswer, ScheduleQuestion, ScheduleStatus, ScheduleStep};
pub use sheet::{DrawnAnswer, InputShare, SheetAnswer, SheetMaterial, SheetQuantity, SheetQuestion};
pub use solution::{
    Concentrated, Describe, Dilute, Diluted, InTurn, IntoVessels, Made, MadeFromConcentrated, Mix, MixPart, MixTo,
    PercentVv, PercentWv, Portions, Rounded, Serial, SolutionAnswer, SolutionQuestion, Split, Standards, Total, Totals,
    TurnStep, VesselsThere, WeighOut,
};
pub use statistics::{StatisticsAnswer, StatisticsQuestion};
pub use titration::{Back, Sample, Standardise, TitrationAnswer, TitrationQuestion, Titres, WeighedReplicates};
pub use worksheet::{Computed, Worked};

use lab::cohort::Cohort;
use prepare::Preparation;
use serde::{Deserialize, Serialize};

/// Most samples that a question may ask to be drawn.
pub const MOST_SAMPLES: usize = 1_000_000;

/// A question. Quantities are written with their unit: `25.00 mL`.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "kind", rename_all = "snake_case")]
pub enum Request {
    /// What does a typed number claim, how is it rounded, what may a result claim?
    Number(NumberQuestion),
    /// What is in a formula, and what does a mole of it weigh?
    Formula(FormulaQuestion),
    /// Does an equation balance, and how?
    Equation(EquationQuestion),
    /// Which reagent limits, what is left, what could be made?
    Reaction(ReactionQuestion),
    /// What do the titres say?
    Titration(TitrationQuestion),
    /// Which formula do the masses allow?
    Composition(CompositionQuestion),
    /// How is a solution made, or what was made?
    Solution(SolutionQuestion),
    /// What is the pH?
    AcidBase(AcidBaseQuestion),
    /// What do many values say together?
    Statistics(StatisticsQuestion),
    /// What does a calculation sheet come to, and how sure is it?
    Sheet(SheetQuestion),
    /// Is this file a practical, and what follows from it?
    Practical(PracticalQuestion),
    /// Are these sums right, and what went wrong where they are not?
    Check(CheckQuestion),
    /// What do the groups of a class say together?
    Cohort(CohortQuestion),
    /// What is said of a bench, by all that it sent?
    Bench(BenchQuestion),
    /// What would a faultless group send?
    Simulate(SimulateQuestion),
    /// What do several reactions use, make and leave?
    RunDown(RunDownQuestion),
    /// Who does what when, with what the room has?
    Schedule(ScheduleQuestion),
    /// What is put out for a class, and does it fit its lessons?
    Prepare(PrepareQuestion),
    /// What does a line through points say, and an unknown read off it?
    Calibration(CalibrationQuestion),
    /// How much heat, for each mole?
    Calorimetry(CalorimetryQuestion),
    /// How fast, of which order, and how does temperature change it?
    Kinetics(KineticsQuestion),
    /// How much gas, dry?
    Gas(GasQuestion),
    /// What does a charge change, what does a potential say?
    Electrochemistry(ElectrochemistryQuestion),
    /// Where does it come to rest?
    Equilibrium(EquilibriumQuestion),
}

impl Request {
    /// The question with practicals of the library in the place of their identities; `library` gives the text of one.
    #[must_use]
    pub fn resolved(mut self, library: &dyn Fn(&str) -> Option<String>) -> Request {
        match &mut self {
            Request::Check(q) => q.practical.resolve(library),
            Request::Cohort(q) => q.practical.resolve(library),
            Request::Bench(q) => q.practical.resolve(library),
            Request::Simulate(q) => q.practical.resolve(library),
            Request::Prepare(q) => q.practical.resolve(library),
            Request::Number(_)
            | Request::Formula(_)
            | Request::Equation(_)
            | Request::Reaction(_)
            | Request::Titration(_)
            | Request::Composition(_)
            | Request::Solution(_)
            | Request::AcidBase(_)
            | Request::Statistics(_)
            | Request::Sheet(_)
            | Request::Practical(_)
            | Request::RunDown(_)
            | Request::Schedule(_)
            | Request::Calibration(_)
            | Request::Calorimetry(_)
            | Request::Kinetics(_)
            | Request::Gas(_)
            | Request::Electrochemistry(_)
            | Request::Equilibrium(_) => {}
        }
        self
    }
}

/// The answer to a [`Request`] of the same kind.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "kind", rename_all = "snake_case")]
pub enum Response {
    /// About a number.
    Number(NumberAnswer),
    /// About a formula.
    Formula(FormulaAnswer),
    /// About an equation.
    Equation(EquationAnswer),
    /// About a reaction.
    Reaction(ReactionAnswer),
    /// About titres.
    Titration(TitrationAnswer),
    /// About a composition.
    Composition(CompositionAnswer),
    /// About a solution.
    Solution(SolutionAnswer),
    /// About a pH.
    AcidBase(AcidBaseAnswer),
    /// About many values.
    Statistics(StatisticsAnswer),
    /// About a sheet.
    Sheet(SheetAnswer),
    /// About a practical.
    Practical(Box<PracticalAnswer>),
    /// About sums.
    Check(CheckAnswer),
    /// About a class.
    Cohort(Cohort),
    /// About a bench.
    Bench(Box<BenchAnswer>),
    /// A group.
    Simulate(SimulateAnswer),
    /// About several reactions.
    RunDown(RunDownAnswer),
    /// About the room's time.
    Schedule(ScheduleAnswer),
    /// What is put out.
    Prepare(Box<Preparation>),
    /// About lines.
    Calibration(CalibrationAnswer),
    /// About heat.
    Calorimetry(CalorimetryAnswer),
    /// About rates.
    Kinetics(KineticsAnswer),
    /// About a gas.
    Gas(Found),
    /// About charge and potential.
    Electrochemistry(ElectrochemistryAnswer),
    /// About an equilibrium.
    Equilibrium(EquilibriumAnswer),
}

/// The answer to `request`.
///
/// # Errors
/// [`ComputeError`]: what is wrong with the question, and where.
pub fn compute(request: &Request) -> Result<Response, ComputeError> {
    Ok(match request {
        Request::Number(q) => Response::Number(number::answer(q)?),
        Request::Formula(q) => Response::Formula(formula::answer(q)?),
        Request::Equation(q) => Response::Equation(equation::answer(q)?),
        Request::Reaction(q) => Response::Reaction(reaction::answer(q)?),
        Request::Titration(q) => Response::Titration(titration::answer(q)?),
        Request::Composition(q) => Response::Composition(composition::answer(q)?),
        Request::Solution(q) => Response::Solution(solution::answer(q)?),
        Request::AcidBase(q) => Response::AcidBase(acid_base::answer(q)?),
        Request::Statistics(q) => Response::Statistics(statistics::answer(q)?),
        Request::Sheet(q) => Response::Sheet(sheet::answer(q)?),
        Request::Practical(q) => Response::Practical(Box::new(practical::answer(q))),
        Request::Check(q) => Response::Check(class::checked(q)?),
        Request::Cohort(q) => Response::Cohort(class::of_class(q)?),
        Request::Bench(q) => Response::Bench(Box::new(bench::answer(q)?)),
        Request::Simulate(q) => Response::Simulate(bench::simulated(q)?),
        Request::RunDown(q) => Response::RunDown(run_down::answer(q)?),
        Request::Schedule(q) => Response::Schedule(schedule::answer(q)?),
        Request::Prepare(q) => Response::Prepare(Box::new(preparing::answer(q)?)),
        Request::Calibration(q) => Response::Calibration(calibration::answer(q)?),
        Request::Calorimetry(q) => Response::Calorimetry(calorimetry::answer(q)?),
        Request::Kinetics(q) => Response::Kinetics(kinetics::answer(q)?),
        Request::Gas(q) => Response::Gas(gas::answer(q)?),
        Request::Electrochemistry(q) => Response::Electrochemistry(electrochemistry::answer(q)?),
        Request::Equilibrium(q) => Response::Equilibrium(equilibrium::answer(q)?),
    })
}
