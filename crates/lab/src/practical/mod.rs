//! A practical: what is used, done, read and worked out, checked as a whole.
//!
//! [`Practical::parse`] turns the text of a `*.practical.toml` file into a checked definition with its compiled sheet.
//! What passes here can be run: every name resolves, every unit fits, the equation balances.

mod amount;
mod error;
pub mod file;
mod method;
mod validate;

pub use amount::Amount;
pub use error::{PracticalError, PracticalProblem};
pub(crate) use method::amount_name;

use chem::{Coefficient, Equation, Formula, MassTable};
use file::{DigitsPolicy, Observation, Role, Step};
use measure::{Decimal, Instrument, Unit};
use sheet::Program;
use std::collections::BTreeMap;

/// The newest format that this version reads.
pub const FORMAT: &str = "0.1";

/// A checked practical.
#[derive(Debug, Clone)]
pub struct Practical {
    /// Stable identity: `epsom-salt`.
    pub id: String,
    /// As a reader sees it.
    pub title: String,
    /// What sort of work it is.
    pub kind: String,
    /// What it finds.
    pub finds: String,
    /// For whom.
    pub level: String,
    /// Lessons it takes.
    pub visits: u32,
    /// Where molar masses come from.
    pub masses: MassTable,
    /// The reaction, balanced.
    pub equation: Equation,
    /// In the order of the file.
    pub materials: Vec<Material>,
    /// In bench order.
    pub readings: Vec<Reading>,
    /// What is looked at, in bench order.
    pub observations: Vec<Observation>,
    /// In bench order.
    pub steps: Vec<Step>,
    /// What is asked of a group or shown to the instructor, in order.
    pub results: Vec<ResultSpec>,
    /// Containers to subtract from a gross reading, by the gross reading's symbol.
    pub containers: BTreeMap<String, Vec<String>>,
    /// The compiled sheet.
    pub program: Program,
    /// What each definition is called in words.
    pub labels: BTreeMap<String, String>,
    /// Definitions that find the limiting reagent: name, and the reagents in the order of its arguments.
    pub limiting: Option<(String, Vec<String>)>,
    /// Result and theoretical yield to be compared, when a yield is computed.
    pub yields: Option<YieldNames>,
}

/// Names of the definitions that belong to a yield.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct YieldNames {
    /// Mass of product found.
    pub actual: String,
    /// Mass it could be at most.
    pub theoretical: String,
    /// One over the other.
    pub percent: String,
    /// Symbol of the product.
    pub product: String,
}

/// A substance on the bench.
#[derive(Debug, Clone)]
pub struct Material {
    /// As the sheet calls it.
    pub symbol: String,
    /// Systematic name.
    pub name: String,
    /// Common name or remark.
    pub also: String,
    /// What it does here.
    pub role: Role,
    /// What is weighed or dissolved.
    pub formula: Formula,
    /// How it is supplied.
    pub form: file::Form,
    /// How much is planned for one group.
    pub planned: Option<Amount>,
    /// How far from it will do, either way.
    pub band: Option<Amount>,
    /// Hazard statements of this form and strength.
    pub hazards: Vec<String>,
    /// Stoichiometric coefficient, and whether it is used up.
    pub term: Option<(Coefficient, bool)>,
}

/// A reading that groups take.
#[derive(Debug, Clone)]
pub struct Reading {
    /// As the sheet calls it.
    pub symbol: String,
    /// In words.
    pub label: String,
    /// In one or two words, for the head of a column.
    pub short: String,
    /// Unit it is read in.
    pub unit: Unit,
    /// What it is read on.
    pub instrument: Instrument,
    /// Digits after the point that this instrument gives.
    pub decimals: u32,
    /// Where it should lie, ends included.
    pub range: (f64, f64),
    /// What is planned or expected.
    pub expected: Decimal,
    /// The material that it measures, if it does.
    pub of: Option<String>,
}

/// A result of the sheet that is shown or asked for.
#[derive(Debug, Clone)]
pub struct ResultSpec {
    /// Name of the definition.
    pub name: String,
    /// In words.
    pub label: String,
    /// The unit asked for.
    pub unit: Unit,
    /// Units that a group can choose from.
    pub units: Vec<Unit>,
    /// How many digits are right.
    pub digits: DigitsPolicy,
    /// Legitimate spread, relative.
    pub tolerance: f64,
    /// Whether groups work it out themselves.
    pub asked: bool,
}

impl Practical {
    /// The practical that a file's text defines.
    ///
    /// # Errors
    /// [`PracticalError`]: what is wrong, in which item or on which line.
    pub fn parse(text: &str) -> Result<Practical, PracticalError> {
        validate::practical(file::read(text)?)
    }

    /// The reading with this symbol.
    #[must_use]
    pub fn reading(&self, symbol: &str) -> Option<&Reading> {
        self.readings.iter().find(|r| r.symbol == symbol)
    }

    /// The material with this symbol.
    #[must_use]
    pub fn material(&self, symbol: &str) -> Option<&Material> {
        self.materials.iter().find(|m| m.symbol == symbol)
    }

    /// The result with this name.
    #[must_use]
    pub fn result(&self, name: &str) -> Option<&ResultSpec> {
        self.results.iter().find(|r| r.name == name)
    }

    /// The observation with this symbol.
    #[must_use]
    pub fn observation(&self, symbol: &str) -> Option<&Observation> {
        self.observations.iter().find(|o| o.symbol == symbol)
    }
}
