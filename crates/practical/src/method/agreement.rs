//! By what the repeats of a titration are judged: the titre's own declaration, else the method that uses it.

use crate::file::{AgreementItem, Method, TitreItem};
use crate::{Amount, Practical, Reading, SheetRole, TitresAgree};

/// What is compared of the trials of a titre.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Compared<'p> {
    /// The volumes delivered: of equal portions.
    Titres,
    /// A definition with a value for each trial, where each has a mass or a volume of its own.
    Each(&'p str),
}

/// When trials agree.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Rule {
    /// The best set lies within a limit, in mL.
    Within(String),
    /// The relative standard deviation of all accurate ones is at most this.
    Rsd(String),
    /// It is at most twice what the instruments let expect.
    AsInstrumentsAllow,
    /// There are enough of them: all count but one that an outlier test marks.
    OutlierTest,
}

/// How the trials of a titre have to agree.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Agreement<'p> {
    /// What is compared.
    pub of: Compared<'p>,
    /// When they agree.
    pub rule: Rule,
    /// So many have to.
    pub wanted: usize,
}

/// Trials that have to agree, unless something else is said.
const WANTED: u32 = 2;
/// A standard deviation or an outlier test needs one more.
const WANTED_BY_ALL: u32 = 3;

/// How far from the end a titration is stopped by eye, half-width, L: half a drop of 0.05 mL.
///
/// Source: Harris, Quantitative Chemical Analysis, 9th ed., 7.1; EURACHEM/CITAC CG 4 (QUAM:2012), example A2.
const HALF_A_DROP: f64 = 0.025e-3;

impl Practical {
    /// How far the end of a titration is seen too early or too late, half-width in L, where a reading is one.
    #[must_use]
    pub fn end_point(&self, reading: &Reading) -> Option<f64> {
        let titre = self.file.titres.iter().find(|t| t.end == reading.symbol)?;
        // Read when the practical was checked.
        let stated = titre.end_point.as_deref().and_then(|text| Amount::parse(text).ok());
        Some(stated.map_or(HALF_A_DROP, |a| a.base()))
    }

    /// How the trials of a titre have to agree; none where nothing says that they have to.
    #[must_use]
    pub fn agreement<'p>(&'p self, titre: &'p TitreItem) -> Option<Agreement<'p>> {
        let by_method = || self.file.methods.iter().find_map(|method| titrating(method, &titre.name));
        let AgreementItem { of, limit, rsd, trials } = titre.agree.clone().or_else(by_method)?;
        let named = of.and_then(|name| self.program.definition(&name)).map(|d| Compared::Each(&d.name));
        let of = named.unwrap_or_else(|| self.compared(titre));
        let rule = match (limit, rsd) {
            (Some(limit), _) => Rule::Within(limit),
            (None, Some(rsd)) => Rule::Rsd(rsd),
            (None, None) => match &self.school.agreement {
                TitresAgree::Instruments => Rule::AsInstrumentsAllow,
                TitresAgree::Within(limit) => Rule::Within(limit.clone()),
                TitresAgree::Rsd(rsd) => Rule::Rsd(rsd.clone()),
                TitresAgree::OutlierTest => Rule::OutlierTest,
            },
        };
        let usual = match rule {
            Rule::Within(_) | Rule::Rsd(_) => WANTED,
            Rule::AsInstrumentsAllow | Rule::OutlierTest => WANTED_BY_ALL,
        };
        Some(Agreement { of, rule, wanted: trials.unwrap_or(usual).max(WANTED) as usize })
    }

    /// Where a method finds a value for each trial, these are compared.
    fn compared(&self, titre: &TitreItem) -> Compared<'_> {
        let each = self.roles.all(SheetRole::ConcentrationEach).chain(self.roles.all(SheetRole::MassFractionEach));
        let hangs = |name: &str| self.program.hangs_on(name, &titre.name);
        each.map(|r| r.definition.as_str()).find(|name| hangs(name)).map_or(Compared::Titres, Compared::Each)
    }
}

/// How a method wants the trials of a titre to agree; none where it does not use that titre.
fn titrating(method: &Method, name: &str) -> Option<AgreementItem> {
    match method {
        Method::Titrate { titre, limit, rsd, trials, .. }
        | Method::BackTitration { titre, limit, rsd, trials, .. }
        | Method::Standardise { titre, limit, rsd, trials, .. } => {
            (titre == name).then(|| AgreementItem { of: None, limit: limit.clone(), rsd: rsd.clone(), trials: *trials })
        }
        Method::LimitingYield { .. }
        | Method::Yield { .. }
        | Method::Recovery { .. }
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
