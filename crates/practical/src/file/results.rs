//! Weighings, titres, methods and results; what differs between groups.

use crate::slip::Slip;
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;

/// How the mass of an object is found from readings.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "scheme", rename_all = "kebab-case", deny_unknown_fields)]
#[allow(missing_docs)] // `name` is the definition made, `label` its words; the others are symbols of readings
pub enum Weighing {
    /// The balance was set to zero with the container on it.
    Tared { name: String, label: String, reading: String },
    /// What left the container: before, less after.
    ByDifference { name: String, label: String, before: String, after: String },
    /// The object in its containers (dish, lid, paper, funnel), less the containers.
    ContainerAndContents { name: String, label: String, gross: String, containers: Vec<String> },
    /// The object on its paper, less an identical blank paper.
    MatchedBlank { name: String, label: String, gross: String, blank: String },
}

impl Weighing {
    /// The definition that it makes.
    #[must_use]
    pub fn name(&self) -> &str {
        match self {
            Weighing::Tared { name, .. }
            | Weighing::ByDifference { name, .. }
            | Weighing::ContainerAndContents { name, .. }
            | Weighing::MatchedBlank { name, .. } => name,
        }
    }

    /// All readings that it takes.
    #[must_use]
    pub fn readings(&self) -> Vec<&str> {
        match self {
            Weighing::Tared { reading, .. } => vec![reading],
            Weighing::ByDifference { before, after, .. } => vec![before, after],
            Weighing::ContainerAndContents { gross, containers, .. } => {
                std::iter::once(gross).chain(containers).map(String::as_str).collect()
            }
            Weighing::MatchedBlank { gross, blank, .. } => vec![gross, blank],
        }
    }

    /// The reading that the object itself is on: of what left a container, the one before.
    #[must_use]
    pub fn gross(&self) -> &str {
        match self {
            Weighing::Tared { reading, .. } => reading,
            Weighing::ByDifference { before, .. } => before,
            Weighing::ContainerAndContents { gross, .. } | Weighing::MatchedBlank { gross, .. } => gross,
        }
    }
}

/// A delivered volume: the final reading of a burette, less the initial one.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct TitreItem {
    /// The definition made: `V_titre`.
    pub name: String,
    /// In words.
    pub label: String,
    /// Symbol of the initial reading.
    pub start: String,
    /// Symbol of the final reading.
    pub end: String,
    /// How far the end is seen too early or too late, half-width: `0.03 mL`; half a drop, 0.025 mL, if left out.
    #[serde(default)]
    pub end_point: Option<String>,
    /// How its trials have to agree, where no method says it.
    #[serde(default)]
    pub agree: Option<AgreementItem>,
    /// What goes on in the flask, where it is acid and base: with it the titration can be practised.
    #[serde(default)]
    pub curve: Option<CurveItem>,
}

/// What goes on in the flask of a titration of acid and base.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct CurveItem {
    /// What is in the flask; the titrant is strong, and the other of the two.
    pub titrated: Titrated,
    /// Its pKa, or that of the acid that it becomes: one for each proton that is titrated, none where it is strong.
    #[serde(default)]
    pub pka: Vec<f64>,
    /// What shows the end.
    pub indicator: chem::Indicator,
    /// How strong the titrant is, about: `0.1 mol/L`.
    pub titrant: String,
    /// How much liquid is in the flask to begin with: `50 mL`.
    pub flask: String,
}

/// What is titrated.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Titrated {
    /// An acid, by a strong base.
    Acid,
    /// A base, by a strong acid.
    Base,
}

/// How the trials of a titre have to agree.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct AgreementItem {
    /// A definition that has a value for each trial, where each has a mass of its own; the titre itself if left out.
    #[serde(default)]
    pub of: Option<String>,
    /// The best set lies within this: `0.10 mL`.
    #[serde(default)]
    pub limit: Option<String>,
    /// The relative standard deviation is at most this: `0.5 %`; twice what the instruments let expect, if neither is said.
    #[serde(default)]
    pub rsd: Option<String>,
    /// So many have to agree; two, or three by the instruments, if left out.
    #[serde(default)]
    pub trials: Option<u32>,
}

/// A reagent and the reading or definition that says how much of it was used.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct ReagentItem {
    /// Symbol of the material.
    pub material: String,
    /// Symbol of the reading, or name of the definition.
    pub reading: String,
}

/// An element or a component and its mass.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Portion {
    /// Symbol of the material.
    pub material: String,
    /// Symbol of the reading, or name of the definition.
    pub mass: String,
}

/// A method: what is computed, named; it expands into definitions of the sheet. Where there are several of one kind, `as` says
/// what each is called, and the names of all that it defines end in that: `percent_yield_crude`.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "kind", rename_all = "kebab-case", deny_unknown_fields)]
#[allow(missing_docs)] // materials by symbol, readings or definitions by name; docs/format.md has an example of each
pub enum Method {
    /// Limiting reagent, theoretical yield of a product, percent yield.
    LimitingYield {
        reagents: Vec<ReagentItem>,
        product: String,
        product_mass: String,
        #[serde(default, rename = "as", skip_serializing_if = "Option::is_none")]
        named: Option<String>,
    },
    /// Theoretical and percent yield from one reagent, the others being in excess.
    Yield {
        reagent: ReagentItem,
        product: String,
        product_mass: String,
        #[serde(default, rename = "as", skip_serializing_if = "Option::is_none")]
        named: Option<String>,
    },
    /// Percent recovery: the same substance in and out.
    Recovery {
        taken: String,
        recovered: String,
        #[serde(default, rename = "as", skip_serializing_if = "Option::is_none")]
        named: Option<String>,
    },
    /// Strength of a titrant from a standard: weighed for each trial, or pipetted from a standard solution.
    Standardise {
        titrant: String,
        standard: ReagentItem,
        titre: String,
        #[serde(default)]
        blank: Option<String>,
        #[serde(default)]
        limit: Option<String>,
        /// Of a weighed standard: the relative standard deviation that the concentrations may have, `0.5 %`.
        #[serde(default)]
        rsd: Option<String>,
        /// Accurate trials that are wanted at least; two if left out.
        #[serde(default)]
        trials: Option<u32>,
        #[serde(default, rename = "as", skip_serializing_if = "Option::is_none")]
        named: Option<String>,
    },
    /// Strength of a sample from titres with a titrant of known strength; concordant within `limit`, or all of them
    /// within the relative standard deviation `rsd`.
    Titrate {
        sample: String,
        aliquot: String,
        titrant: String,
        titre: String,
        #[serde(default)]
        limit: Option<String>,
        #[serde(default)]
        rsd: Option<String>,
        /// Titres that have to agree, two if left out.
        #[serde(default)]
        trials: Option<u32>,
        #[serde(default)]
        blank: Option<String>,
        /// Times that the sample was diluted, as a number or the name of a definition.
        #[serde(default)]
        dilution: Option<String>,
        #[serde(default)]
        as_mass: bool,
        #[serde(default, rename = "as", skip_serializing_if = "Option::is_none")]
        named: Option<String>,
    },
    /// What reacted with an excess: added, less what a titrant finds left over.
    BackTitration {
        sample: String,
        excess: ReagentItem,
        titrant: String,
        titre: String,
        #[serde(default)]
        limit: Option<String>,
        #[serde(default)]
        rsd: Option<String>,
        #[serde(default)]
        trials: Option<u32>,
        sample_mass: String,
        #[serde(default, rename = "as", skip_serializing_if = "Option::is_none")]
        named: Option<String>,
    },
    /// Simplest formula from the masses of its elements.
    EmpiricalFormula {
        elements: Vec<Portion>,
        #[serde(default)]
        most: Option<u32>,
        /// How far the ratio of the amounts scatters beyond the balance, one standard deviation: `2 %`. Left out, what a
        /// class finds of it, else 2 %.
        #[serde(default)]
        scatter: Option<String>,
        /// The formula that is taken as right wherever it is the nearest simple one.
        #[serde(default)]
        accepted: Option<String>,
        #[serde(default, rename = "as", skip_serializing_if = "Option::is_none")]
        named: Option<String>,
    },
    /// Waters of crystallisation from the masses of the residue and of the water lost.
    Hydrate {
        anhydrous: String,
        residue: String,
        water: String,
        lost: String,
        #[serde(default, rename = "as", skip_serializing_if = "Option::is_none")]
        named: Option<String>,
    },
    /// Mass fraction of a component in a sample.
    MassFraction {
        component: String,
        sample: String,
        #[serde(default, rename = "as", skip_serializing_if = "Option::is_none")]
        named: Option<String>,
    },
    /// Mass fraction of an analyte from a weighed precipitate, by the gravimetric factor.
    Gravimetric {
        analyte: String,
        precipitate: String,
        precipitate_mass: String,
        sample_mass: String,
        #[serde(default, rename = "as", skip_serializing_if = "Option::is_none")]
        named: Option<String>,
    },
    /// What the parts of a separated mixture add up to.
    MassBalance {
        parts: Vec<String>,
        whole: String,
        #[serde(default, rename = "as", skip_serializing_if = "Option::is_none")]
        named: Option<String>,
    },
    /// Strength of a solution made up from a weighed solid.
    SolutionMade {
        solute: ReagentItem,
        volume: String,
        #[serde(default, rename = "as", skip_serializing_if = "Option::is_none")]
        named: Option<String>,
    },
    /// How far a result lies from the accepted value, in percent of that.
    PercentError {
        found: String,
        accepted: String,
        #[serde(default, rename = "as", skip_serializing_if = "Option::is_none")]
        named: Option<String>,
    },
    /// A straight line through standards, and an unknown read off it.
    Calibration {
        /// What is known of each standard.
        x: String,
        /// What is read of each standard.
        y: String,
        /// What is read of the unknown; its mean where it is read again and again.
        unknown: String,
        /// The line is made to go through zero.
        #[serde(default)]
        through_zero: bool,
        /// Times that the unknown was diluted, as a number or the name of a definition.
        #[serde(default)]
        dilution: Option<String>,
        #[serde(default, rename = "as", skip_serializing_if = "Option::is_none")]
        named: Option<String>,
    },
    /// Enthalpy of a reaction in a cup, what cooling takes put back by a line.
    Calorimetry {
        reagents: Vec<ReagentItem>,
        /// Mass that is heated.
        heated: String,
        /// Of it: `4.18 J/(g K)`.
        specific_heat: String,
        /// Heat capacity of the cup, where it is counted: `12 J/K`, or the name of a definition.
        #[serde(default)]
        calorimeter: Option<String>,
        /// Temperature before mixing; the mean where it is read again and again.
        before: String,
        /// Temperature after mixing; with `times` the line through it.
        after: String,
        /// When it was read.
        #[serde(default)]
        times: Option<String>,
        /// When it was mixed: a reading, or `3 min`.
        #[serde(default)]
        mixed_at: Option<String>,
        #[serde(default, rename = "as", skip_serializing_if = "Option::is_none")]
        named: Option<String>,
    },
    /// Amount of a gas from what was read of it, dry or over water.
    Gas {
        gas: String,
        volume: String,
        temperature: String,
        /// Of the air around.
        pressure: String,
        #[serde(default)]
        over_water: bool,
        /// How much higher the water stands inside than outside.
        #[serde(default)]
        column: Option<String>,
        #[serde(default, rename = "as", skip_serializing_if = "Option::is_none")]
        named: Option<String>,
    },
    /// What a constant current deposits, and how much of it was found.
    Charge {
        current: String,
        time: String,
        /// For each formula unit of the product.
        electrons: u32,
        product: String,
        product_mass: String,
        #[serde(default, rename = "as", skip_serializing_if = "Option::is_none")]
        named: Option<String>,
    },
}

impl Method {
    /// The titre of a blank, where one is taken off.
    #[must_use]
    pub fn blank(&self) -> Option<&str> {
        match self {
            Method::Standardise { blank, .. } | Method::Titrate { blank, .. } => blank.as_deref(),
            Method::LimitingYield { .. }
            | Method::Yield { .. }
            | Method::Recovery { .. }
            | Method::BackTitration { .. }
            | Method::EmpiricalFormula { .. }
            | Method::Hydrate { .. }
            | Method::MassFraction { .. }
            | Method::Gravimetric { .. }
            | Method::MassBalance { .. }
            | Method::SolutionMade { .. }
            | Method::PercentError { .. }
            | Method::Calibration { .. }
            | Method::Calorimetry { .. }
            | Method::Gas { .. }
            | Method::Charge { .. } => None,
        }
    }

    /// What it is called where there are several of its kind.
    #[must_use]
    pub fn named(&self) -> Option<&str> {
        match self {
            Method::LimitingYield { named, .. }
            | Method::Yield { named, .. }
            | Method::Recovery { named, .. }
            | Method::Standardise { named, .. }
            | Method::Titrate { named, .. }
            | Method::BackTitration { named, .. }
            | Method::EmpiricalFormula { named, .. }
            | Method::Hydrate { named, .. }
            | Method::MassFraction { named, .. }
            | Method::Gravimetric { named, .. }
            | Method::MassBalance { named, .. }
            | Method::SolutionMade { named, .. }
            | Method::PercentError { named, .. }
            | Method::Calibration { named, .. }
            | Method::Calorimetry { named, .. }
            | Method::Gas { named, .. }
            | Method::Charge { named, .. } => named.as_deref(),
        }
    }
}

/// How many significant figures an answer should have.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum DigitsPolicy {
    /// As many as the reading with the fewest.
    AsFewest,
    /// One more or less is accepted as well.
    AsFewestWithinOne,
    /// Two or more.
    AtLeastTwo,
    /// This many.
    Exactly(u32),
    /// To the first figure of the expanded uncertainty; to the second where the first is 1.
    ToUncertainty,
}

/// What an answer to a result is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum AnswerKind {
    /// A number with its unit.
    #[default]
    Number,
    /// A formula; of a definition that is one it need not be said.
    Formula,
    /// The reagent that limits, chosen from those of the reaction.
    Limiting,
    /// A reason in a sentence or two, for the instructor to read; asked for under `[[reasons]]`.
    Words,
}

/// When something may be told at the bench.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Disclosed {
    /// At once.
    Before,
    /// Once the group has answered what it would give away.
    #[default]
    AfterAnswer,
    /// Never at the bench.
    Instructor,
}

/// A judgement that could give an answer away.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Judgement {
    /// Which reagent limits.
    Limiting,
    /// A yield that cannot be.
    Yield,
    /// Whether titres agree.
    Concordance,
    /// Whether it is dry.
    Dryness,
    /// How much is still needed.
    Needed,
    /// Whether it is pure.
    Purity,
    /// Which substance an unknown is.
    Identity,
}

/// Marks for one result.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Marks {
    /// For the way.
    #[serde(default)]
    pub method: f64,
    /// For the number.
    #[serde(default)]
    pub value: f64,
    /// For the unit.
    #[serde(default)]
    pub unit: f64,
    /// For the digits.
    #[serde(default)]
    pub digits: f64,
}

impl Marks {
    /// What the result is worth in all.
    #[must_use]
    pub fn most(&self) -> f64 {
        self.method + self.value + self.unit + self.digits
    }
}

/// A result that is shown or asked for.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct ResultItem {
    /// Name of the definition.
    pub name: String,
    /// In words.
    pub label: String,
    /// An expression of one's own; what a method or the sheet defines under this name, if left out.
    #[serde(default)]
    pub expression: Option<String>,
    /// The unit it is shown in.
    pub unit: String,
    /// Units that a group can choose from.
    #[serde(default)]
    pub units: Vec<String>,
    /// How many digits are right; as the school writes results, if left out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub digits: Option<DigitsPolicy>,
    /// Legitimate spread: `0.5 %` of the value, `0.02 g`, or `1 in the last digit`.
    pub tolerance: String,
    /// Whether groups work it out themselves.
    #[serde(default)]
    pub asked: bool,
    /// What is answered.
    #[serde(default)]
    pub answer: AnswerKind,
    /// When it may be shown at the bench.
    #[serde(default)]
    pub disclosed: Disclosed,
    /// What it is worth.
    #[serde(default)]
    pub marks: Marks,
    /// How good it should be: `1 %`; the plan says at which smallest scale that is still so.
    #[serde(default)]
    pub wanted: Option<String>,
}

/// A reason that is asked for in words: why is the yield below theory?
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct ReasonItem {
    /// A name that nothing else has.
    pub name: String,
    /// The question, as a group reads it.
    pub label: String,
    /// What a good answer says, for the instructor.
    #[serde(default)]
    pub model: String,
    /// What it is worth.
    #[serde(default)]
    pub marks: f64,
}

/// How the work of some groups differs.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Assignment {
    /// As in `recipe A`.
    pub name: String,
    /// The reagent that is meant to limit, where it is another one.
    #[serde(default)]
    pub limiting: Option<String>,
    /// Planned amounts by material, where they differ.
    #[serde(default)]
    pub planned: BTreeMap<String, String>,
    /// Expected readings by symbol, where they differ.
    #[serde(default)]
    pub expected: BTreeMap<String, String>,
    /// What its groups see when all is as it should be, by observation, where it differs.
    #[serde(default)]
    pub observed: BTreeMap<String, String>,
    /// Code of the unknown.
    #[serde(default)]
    pub unknown: Option<String>,
    /// Accepted values by result, with their unit.
    #[serde(default)]
    pub accepted: BTreeMap<String, String>,
}

/// A coded sample. What it is stays with the instructor.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Unknown {
    /// What is written on it.
    pub code: String,
    /// What is in it.
    pub is: String,
    /// Expected readings by symbol, for whoever works on it.
    #[serde(default)]
    pub expected: BTreeMap<String, String>,
    /// What is seen of it when all is as it should be, by observation.
    #[serde(default)]
    pub observed: BTreeMap<String, String>,
}

/// What the instructor found beforehand.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct TrialRun {
    /// In a line.
    #[serde(default)]
    pub note: String,
    /// As read, by symbol.
    pub readings: BTreeMap<String, String>,
}

/// How a class usually comes out.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct ClassResult {
    /// Name of the result.
    pub result: String,
    /// Mean, in the unit of the result.
    pub mean: f64,
    /// Standard deviation between groups.
    pub sd: f64,
    /// Under which conditions: `cooled`.
    #[serde(default)]
    pub when: String,
}

/// Whose answers are asked for.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum AnswersOf {
    /// One sheet for the group.
    #[default]
    Group,
    /// Each student has a sheet, on the readings that the group shares.
    Student,
}

/// When a group hears how its answers are.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum FeedbackWhen {
    /// Once the instructor has looked at them and releases them.
    #[default]
    OnRelease,
    /// At once: right, or a hint what to look at again; never the value.
    AtOnce,
}

/// How answers are taken and what is said to them at the bench.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Feedback {
    /// Whose answers.
    #[serde(default)]
    pub answers_of: AnswersOf,
    /// When the bench hears.
    #[serde(default)]
    pub when: FeedbackWhen,
    /// How often an answer may be given; any number if left out.
    #[serde(default)]
    pub attempts: Option<u32>,
    /// The practical's own hints, by slip: `container-kept = "look again at the mass of the dish"`.
    #[serde(default)]
    pub hints: BTreeMap<Slip, String>,
}

/// How sheets are marked beyond the weights of each result.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Marking {
    /// Digits that were cut off instead of rounded count as right.
    #[serde(default)]
    pub truncated_counts: bool,
    /// A right last number earns the marks of all that was left out on the way to it.
    #[serde(default)]
    pub last_earns_all: bool,
    /// For recording: every reading there, with the decimals of its instrument.
    #[serde(default)]
    pub recording: f64,
    /// For repeats that agree as the practical wants it.
    #[serde(default)]
    pub agreement: f64,
    /// For a result near the accepted value.
    #[serde(default)]
    pub closeness: Option<Closeness>,
}

/// Marks on a sliding scale for a result near the accepted value.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Closeness {
    /// Name of the result.
    pub result: String,
    /// What it is worth.
    pub marks: f64,
    /// Up to this far off all of them: `0.5 %` of the accepted value.
    pub all_within: String,
    /// From this far on none: `3 %`.
    pub none_beyond: String,
}

/// A line through the points of all groups.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Pooled {
    /// In words: `mass of iodine against mass of zinc`.
    pub label: String,
    /// Name of the definition along the line.
    pub x: String,
    /// Name of the definition across it.
    pub y: String,
}
