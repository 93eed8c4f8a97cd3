//! The practical file as it stands on disk: format 0.1 of `*.practical.toml`.
//!
//! Nothing is interpreted here but the shape: an unknown key, a missing one and a wrong kind of value are told with
//! their line. Documented with an example in `docs/format.md`.

use super::{FORMAT, PracticalError, PracticalProblem};
use chem::MassTable;
use measure::Instrument;
use serde::{Deserialize, Serialize};

const MAX_CHARACTERS: usize = 200_000;

/// A practical file.
#[derive(Debug, Clone, Deserialize)]
#[serde(deny_unknown_fields)]
#[allow(missing_docs)] // the keys are documented in docs/format.md, under their own names
pub struct File {
    pub format: String,
    pub id: String,
    pub title: String,
    pub kind: String,
    pub finds: String,
    pub level: String,
    pub visits: u32,
    #[serde(default)]
    pub atomic_masses: MassTable,
    pub reaction: Reaction,
    pub materials: Vec<MaterialItem>,
    pub instruments: Vec<Instrument>,
    pub readings: Vec<ReadingItem>,
    #[serde(default)]
    pub observations: Vec<Observation>,
    pub steps: Vec<Step>,
    #[serde(default)]
    pub weighings: Vec<Weighing>,
    #[serde(default)]
    pub methods: Vec<Method>,
    #[serde(default)]
    pub sheet: String,
    pub results: Vec<ResultItem>,
}

/// The reaction.
#[derive(Debug, Clone, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Reaction {
    /// With coefficients.
    pub equation: String,
}

/// What a material does in the practical.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Role {
    /// Meant to run out first.
    Limiting,
    /// Meant to be left over.
    Excess,
    /// What is made and weighed.
    Product,
    /// What it happens in.
    Solvent,
    /// What the product is washed with.
    Wash,
}

/// How a material is supplied, with what its amount is computed from.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[serde(tag = "kind", rename_all = "kebab-case", deny_unknown_fields)]
pub enum Form {
    /// Weighed; `purity` is the mass fraction of the formula in it.
    Solid {
        /// As in `98.5 %`; pure if left out.
        #[serde(default)]
        purity: Option<String>,
    },
    /// Measured by volume.
    Solution {
        /// Amount concentration, as in `1.00 mol/L`.
        concentration: String,
        /// How far it may be off.
        #[serde(default)]
        half_width: Option<String>,
    },
    /// Measured by volume, with or without a density.
    Liquid {
        /// As in `0.789 g/mL`; needed only where its amount is computed.
        #[serde(default)]
        density: Option<String>,
    },
}

#[derive(Debug, Clone, Deserialize)]
#[serde(deny_unknown_fields)]
#[allow(missing_docs)]
pub struct MaterialItem {
    pub symbol: String,
    pub name: String,
    #[serde(default)]
    pub also: String,
    pub formula: String,
    pub role: Role,
    pub form: Form,
    pub planned: Option<String>,
    pub band: Option<String>,
    #[serde(default)]
    pub hazards: Vec<String>,
}

#[derive(Debug, Clone, Deserialize)]
#[serde(deny_unknown_fields)]
#[allow(missing_docs)]
pub struct ReadingItem {
    pub symbol: String,
    pub label: String,
    pub short: String,
    pub unit: String,
    pub instrument: String,
    pub decimals: u32,
    pub range: [f64; 2],
    pub expected: String,
    pub of: Option<String>,
}

/// Something to look at, with the answers that can be given.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Observation {
    /// Its name.
    pub symbol: String,
    /// As the group is asked.
    pub question: String,
    /// What can be seen.
    pub choices: Vec<String>,
    /// What is seen when the reagent meant to limit does limit.
    pub expected: String,
}

/// One step at the bench.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Step {
    /// In a few words.
    pub title: String,
    /// What to do.
    pub text: String,
    /// Shortest and longest time at the bench, in minutes.
    #[serde(default)]
    pub minutes: Option<[u32; 2]>,
    /// A wait that needs nobody, in words.
    #[serde(default)]
    pub wait: Option<String>,
    /// Whether the work can safely rest after this step.
    #[serde(default)]
    pub stopping_point: bool,
    /// Readings taken.
    #[serde(default)]
    pub records: Vec<String>,
    /// Observations made.
    #[serde(default)]
    pub observes: Vec<String>,
    /// Results worked out.
    #[serde(default)]
    pub answers: Vec<String>,
    /// What can hurt someone here.
    #[serde(default)]
    pub cautions: Vec<String>,
}

/// How the mass of an object is found from readings.
#[derive(Debug, Clone, Deserialize)]
#[serde(tag = "scheme", rename_all = "kebab-case", deny_unknown_fields)]
#[allow(missing_docs)]
pub enum Weighing {
    /// The object in its containers, less the containers.
    ContainerAndContents { name: String, label: String, gross: String, containers: Vec<String> },
}

/// A method: what is computed, named; it expands into definitions of the sheet.
#[derive(Debug, Clone, Deserialize)]
#[serde(tag = "kind", rename_all = "kebab-case", deny_unknown_fields)]
#[allow(missing_docs)]
pub enum Method {
    /// Limiting reagent, theoretical yield of a product, percent yield.
    LimitingYield { reagents: Vec<Reagent>, product: String, product_mass: String },
}

/// A reagent and the reading that says how much of it was used.
#[derive(Debug, Clone, Deserialize)]
#[serde(deny_unknown_fields)]
#[allow(missing_docs)]
pub struct Reagent {
    pub material: String,
    pub reading: String,
}

/// How many significant figures an answer should have.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum DigitsPolicy {
    /// As many as the reading with the fewest.
    AsFewest,
    /// One more or less is accepted as well.
    AsFewestWithinOne,
}

#[derive(Debug, Clone, Deserialize)]
#[serde(deny_unknown_fields)]
#[allow(missing_docs)]
pub struct ResultItem {
    pub name: String,
    pub label: String,
    pub unit: String,
    #[serde(default)]
    pub units: Vec<String>,
    pub digits: DigitsPolicy,
    pub tolerance: String,
    #[serde(default)]
    pub asked: bool,
}

/// The shape of a practical's text.
///
/// # Errors
/// [`PracticalError`] with line and character.
pub fn read(text: &str) -> Result<File, PracticalError> {
    let here = |place: String, problem| PracticalError { place, problem };
    if text.len() > MAX_CHARACTERS {
        return Err(here("the file".into(), PracticalProblem::TooLong(MAX_CHARACTERS)));
    }
    // The version first: a newer file may well have keys that are unknown here.
    if let Some(found) = text.lines().find_map(|l| l.trim().strip_prefix("format")).and_then(quoted)
        && found != FORMAT
    {
        let problem = PracticalProblem::Format { found: found.to_owned(), known: FORMAT };
        return Err(here("the file".into(), problem));
    }
    toml::from_str(text).map_err(|e| {
        let at = e.span().map_or(0, |s| s.start).min(text.len());
        let before = text.get(..at).unwrap_or_default();
        let line = before.matches('\n').count() + 1;
        let column = before.chars().rev().take_while(|c| *c != '\n').count() + 1;
        here(format!("line {line}, character {column}"), PracticalProblem::Text(e.message().to_owned()))
    })
}

fn quoted(rest: &str) -> Option<&str> {
    let value = rest.trim_start().strip_prefix('=')?.trim();
    value.strip_prefix('"')?.split('"').next()
}
