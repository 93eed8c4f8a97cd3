//! Titrations: agreement of titres, standardisation, analysis of a sample, back titration.
//!
//! c(titrant) = n(primary)·(aliquot/flask)·(ν titrant/ν primary)/(V − blank), with n = m·w/M. With a mass weighed for each
//! trial, concentrations are compared, never titres. A back titration subtracts what was left of the excess reagent.
//!
//! Source: Harris, Quantitative Chemical Analysis, 9th ed., chapter 7; EURACHEM/CITAC CG 4 (QUAM:2012), A2 and A3.

use super::agreement::agreement;
use super::worksheet::Worksheet;
use super::{Agreement, AgreementRule, ComputeError, Measured, Titre, Worked};
use chem::{Coefficient, MassTable};
use measure::Dimension;
use practical::book;
use serde::{Deserialize, Serialize};

/// A question about titres.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "ask", rename_all = "kebab-case")]
pub enum TitrationQuestion {
    /// Which titres agree?
    Concordance(Titres),
    /// Strength of the titrant from one primary standard, made up in a flask, by aliquots.
    Standardise(Standardise),
    /// Strength of the titrant from a primary standard weighed for each trial.
    WeighedReplicates(WeighedReplicates),
    /// What a sample contains.
    Sample(Sample),
    /// What a sample contains, by what it leaves of an excess.
    Back(Back),
}

/// What titres say.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct TitrationAnswer {
    /// How the titres agree, where titres were given one by one.
    pub agreement: Option<Agreement>,
    /// Each trial's concentration in mol/L, where each had its own mass.
    pub trials: Vec<f64>,
    /// Results and solution; none for mere agreement.
    pub worked: Option<Worked>,
}

pub(super) fn answer(question: &TitrationQuestion) -> Result<TitrationAnswer, ComputeError> {
    match question {
        TitrationQuestion::Concordance(q) => q.answer(),
        TitrationQuestion::Standardise(q) => q.answer(),
        TitrationQuestion::WeighedReplicates(q) => q.answer(),
        TitrationQuestion::Sample(q) => q.answer(),
        TitrationQuestion::Back(q) => q.answer(),
    }
}

/// Which titres agree?
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Titres {
    /// In the order run.
    pub titres: Vec<Titre>,
    /// The widest range that agrees.
    pub limit: String,
    /// What counts as agreement; the most titres within the limit unless said.
    #[serde(default)]
    pub school: AgreementRule,
}

impl Titres {
    /// What the titres say.
    fn answer(&self) -> Result<TitrationAnswer, ComputeError> {
        let (agreement, _) = agreement(&self.titres, &self.limit, self.school)?;
        Ok(TitrationAnswer { agreement: Some(agreement), trials: Vec::new(), worked: None })
    }
}

/// Strength of the titrant from one primary standard, made up in a flask, by aliquots.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Standardise {
    /// Formula of the primary standard.
    pub primary: String,
    /// What was weighed of it.
    pub mass: Measured,
    /// Its mass fraction; pure if left out.
    #[serde(default)]
    pub purity: Option<Measured>,
    /// Volume it was made up to.
    pub flask: Measured,
    /// What was titrated of that.
    pub aliquot: Measured,
    /// In the order run.
    pub titres: Vec<Titre>,
    /// The widest range that agrees.
    pub limit: String,
    /// What counts as agreement; the most titres within the limit unless said.
    #[serde(default)]
    pub school: AgreementRule,
    /// Titrant that the indicator takes alone.
    #[serde(default)]
    pub blank: Option<Measured>,
    /// Amount of titrant for one of primary standard: `1`, `6`, `2/5`.
    pub ratio: String,
    /// Relative atomic masses.
    #[serde(default)]
    pub masses: MassTable,
}

impl Standardise {
    /// What the titres say.
    fn answer(&self) -> Result<TitrationAnswer, ComputeError> {
        let Standardise { primary, mass, purity, flask, aliquot, titres, limit, blank, ratio, masses, school: _ } =
            self;
        let (agreement, unit) = agreement(titres, limit, self.school)?;
        let [set] = &agreement.sets[..] else {
            let words =
                if agreement.sets.is_empty() { "no two titres agree" } else { "several sets agree equally well" };
            return Err(ComputeError::undefined(format!("{words} within {limit}: run another titration")));
        };
        let mut sheet = Worksheet::new(masses);
        let chosen = set.indices.iter().map(|i| Measured::Typed(format!("{} {unit}", agreement.titres[*i])));
        sheet.series("V", "titre", &chosen.collect::<Vec<_>>(), Dimension::VOLUME)?;
        sheet.material("primary", primary, None)?;
        sheet.reading("m_primary", "mass", mass, Dimension::MASS)?;
        sheet.divisor("V_flask", "flask", flask, Dimension::VOLUME)?;
        sheet.reading("V_aliquot", "aliquot", aliquot, Dimension::VOLUME)?;
        let purity = purity_factor(&mut sheet, purity.as_ref())?;
        sheet.define(
            "c_primary",
            "strength of the primary standard",
            book::in_volume(&book::amount_of_solid("m_primary", purity, "M(primary)"), "V_flask"),
            "mol/L",
        );
        sheet.define("V_mean", "mean of the concordant titres", "mean(V)", "mL");
        let used = less_blank(&mut sheet, "V_mean", blank.as_ref())?;
        let ratio = factor(ratio)?;
        sheet.define(
            "c_titrant",
            "strength of the titrant",
            format!("c_primary * V_aliquot * {ratio} / {used}"),
            "mol/L",
        );
        let worked = sheet.solve()?;
        Ok(TitrationAnswer { agreement: Some(agreement), trials: Vec::new(), worked: Some(worked) })
    }
}

/// Strength of the titrant from a primary standard weighed for each trial.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct WeighedReplicates {
    /// Formula of the primary standard.
    pub primary: String,
    /// Its mass fraction; pure if left out.
    #[serde(default)]
    pub purity: Option<Measured>,
    /// Mass of each trial.
    pub weighed: Vec<Measured>,
    /// Titre of each trial.
    pub titres: Vec<Measured>,
    /// Titrant that the indicator takes alone.
    #[serde(default)]
    pub blank: Option<Measured>,
    /// Amount of titrant for one of primary standard.
    pub ratio: String,
    /// Relative atomic masses.
    #[serde(default)]
    pub masses: MassTable,
}

impl WeighedReplicates {
    /// What the titres say.
    fn answer(&self) -> Result<TitrationAnswer, ComputeError> {
        let WeighedReplicates { primary, purity, weighed, titres, blank, ratio, masses } = self;
        if weighed.len() != titres.len() || weighed.is_empty() {
            return Err(ComputeError::undefined(format!(
                "{} masses and {} titres do not belong together",
                weighed.len(),
                titres.len()
            )));
        }
        let mut sheet = Worksheet::new(masses);
        sheet.material("primary", primary, None)?;
        sheet.series("m", "mass", weighed, Dimension::MASS)?;
        sheet.series("V", "titre", titres, Dimension::VOLUME)?;
        let purity = purity_factor(&mut sheet, purity.as_ref())?;
        let used = less_blank(&mut sheet, "V", blank.as_ref())?;
        let ratio = factor(ratio)?;
        sheet.define(
            "c",
            "strength of the titrant, each trial",
            book::strength_from_standard(&book::amount_of_solid("m", purity, "M(primary)"), &ratio, &used),
            "mol/L",
        );
        sheet.define("c_mean", "strength of the titrant", "mean(c)", "mol/L");
        if weighed.len() > 1 {
            sheet.define("c_sd", "standard deviation of the trials", "sd(c)", "mol/L");
            sheet.define("rsd", "relative standard deviation", "c_sd / c_mean", "%");
        }
        let solved = sheet.finish()?;
        let evaluation = solved.evaluate();
        let trials = match evaluation.outcome("c") {
            Some(sheet::Outcome::Series(all)) => {
                all.iter().filter_map(|o| if let sheet::Outcome::Value(v) = o { Some(v.value) } else { None }).collect()
            }
            _ => Vec::new(),
        };
        Ok(TitrationAnswer { agreement: None, trials, worked: Some(solved.worked(&evaluation)?) })
    }
}

/// What a sample contains.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Sample {
    /// Formula of what is looked for.
    pub analyte: String,
    /// What was taken: a mass or a volume.
    pub taken: Measured,
    /// Volume it was made up to; left out when all of it was titrated.
    #[serde(default)]
    pub flask: Option<Measured>,
    /// What was titrated of that.
    #[serde(default)]
    pub aliquot: Option<Measured>,
    /// Strength of the titrant.
    pub concentration: Measured,
    /// Mean titre.
    pub titre: Measured,
    /// Titrant that the indicator takes alone.
    #[serde(default)]
    pub blank: Option<Measured>,
    /// Amount of analyte for one of titrant: `1/2`.
    pub ratio: String,
    /// Relative atomic masses.
    #[serde(default)]
    pub masses: MassTable,
}

impl Sample {
    /// What the titres say.
    fn answer(&self) -> Result<TitrationAnswer, ComputeError> {
        let Sample { analyte, taken, flask, aliquot, concentration, titre, blank, ratio, masses } = self;
        let mut sheet = Worksheet::new(masses);
        sheet.material("analyte", analyte, None)?;
        let by_volume = is_volume(taken);
        if by_volume {
            sheet.divisor("V_sample", "sample", taken, Dimension::VOLUME)?;
        } else {
            sheet.divisor("m_sample", "sample", taken, Dimension::MASS)?;
        }
        sheet.reading("c_titrant", "strength of the titrant", concentration, Dimension::CONCENTRATION)?;
        sheet.reading("V_titre", "titre", titre, Dimension::VOLUME)?;
        let used = less_blank(&mut sheet, "V_titre", blank.as_ref())?;
        let part = dilution(&mut sheet, flask.as_ref(), aliquot.as_ref())?;
        let ratio = factor(ratio)?;
        sheet.define("n_titrant", "amount of titrant", book::amount_of_solution(&used, "c_titrant"), "mol");
        sheet.define(
            "n_analyte",
            format!("amount of {analyte} in the sample"),
            format!("{}{part}", book::converted("n_titrant", &ratio)),
            "mol",
        );
        sheet.define(
            "m_analyte",
            format!("mass of {analyte} in the sample"),
            book::mass_of("n_analyte", "M(analyte)"),
            "g",
        );
        if by_volume {
            sheet.define(
                "c_analyte",
                format!("strength of {analyte}"),
                book::in_volume("n_analyte", "V_sample"),
                "mol/L",
            );
            sheet.define(
                "rho_analyte",
                format!("{analyte} per volume"),
                book::in_volume("m_analyte", "V_sample"),
                "g/L",
            );
        } else {
            sheet.define("w_analyte", format!("{analyte} by mass"), book::part("m_analyte", "m_sample"), "%");
        }
        Ok(only(sheet.solve()?))
    }
}

/// What a sample contains, by what it leaves of an excess.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Back {
    /// Formula of what is looked for.
    pub analyte: String,
    /// What was taken.
    pub taken: Measured,
    /// Strength of the reagent added in excess.
    pub excess: Measured,
    /// Volume of it.
    pub volume: Measured,
    /// Volume that the mixture was made up to; left out when all of it was titrated.
    #[serde(default)]
    pub flask: Option<Measured>,
    /// What was titrated of that.
    #[serde(default)]
    pub aliquot: Option<Measured>,
    /// Strength of the titrant.
    pub concentration: Measured,
    /// Mean titre.
    pub titre: Measured,
    /// Amount of excess reagent for one of analyte.
    pub excess_per_analyte: String,
    /// Amount of excess reagent for one of titrant.
    pub excess_per_titrant: String,
    /// Relative atomic masses.
    #[serde(default)]
    pub masses: MassTable,
}

impl Back {
    /// What the titres say.
    fn answer(&self) -> Result<TitrationAnswer, ComputeError> {
        let Back {
            analyte,
            taken,
            excess,
            volume,
            flask,
            aliquot,
            concentration,
            titre,
            excess_per_analyte,
            excess_per_titrant,
            masses,
        } = self;
        let mut sheet = Worksheet::new(masses);
        sheet.material("analyte", analyte, None)?;
        sheet.divisor("m_sample", "sample", taken, Dimension::MASS)?;
        sheet.reading("c_excess", "strength of the excess reagent", excess, Dimension::CONCENTRATION)?;
        sheet.reading("V_excess", "volume of the excess reagent", volume, Dimension::VOLUME)?;
        sheet.reading("c_titrant", "strength of the titrant", concentration, Dimension::CONCENTRATION)?;
        sheet.reading("V_titre", "titre", titre, Dimension::VOLUME)?;
        let part = dilution(&mut sheet, flask.as_ref(), aliquot.as_ref())?;
        let (per_analyte, per_titrant) = (factor(excess_per_analyte)?, factor(excess_per_titrant)?);
        sheet.define("n_added", "excess reagent added", book::amount_of_solution("V_excess", "c_excess"), "mol");
        sheet.define(
            "n_left",
            "excess reagent left",
            format!("{}{part}", book::converted(&book::amount_of_solution("V_titre", "c_titrant"), &per_titrant)),
            "mol",
        );
        sheet.define(
            "n_analyte",
            format!("amount of {analyte}"),
            format!("({}) / {per_analyte}", book::difference("n_added", "n_left")),
            "mol",
        );
        sheet.define("m_analyte", format!("mass of {analyte}"), book::mass_of("n_analyte", "M(analyte)"), "g");
        sheet.define("w_analyte", format!("{analyte} by mass"), book::part("m_analyte", "m_sample"), "%");
        Ok(only(sheet.solve()?))
    }
}

fn only(worked: Worked) -> TitrationAnswer {
    TitrationAnswer { agreement: None, trials: Vec::new(), worked: Some(worked) }
}

fn is_volume(taken: &Measured) -> bool {
    taken.amount("sample", Dimension::VOLUME).is_ok()
}

fn purity_factor(sheet: &mut Worksheet, purity: Option<&Measured>) -> Result<Option<&'static str>, ComputeError> {
    let Some(purity) = purity else { return Ok(None) };
    sheet.fraction("w_primary", "purity", purity)?;
    Ok(Some("w_primary"))
}

/// The titre, or the titre less the blank as a definition of its own.
fn less_blank(sheet: &mut Worksheet, titre: &str, blank: Option<&Measured>) -> Result<String, ComputeError> {
    let Some(blank) = blank else { return Ok(titre.to_owned()) };
    sheet.reading("V_blank", "blank", blank, Dimension::VOLUME)?;
    sheet.define("V_used", "titre less the blank", book::difference(titre, "V_blank"), "mL");
    Ok("V_used".into())
}

fn dilution(
    sheet: &mut Worksheet,
    flask: Option<&Measured>,
    aliquot: Option<&Measured>,
) -> Result<&'static str, ComputeError> {
    match (flask, aliquot) {
        (Some(flask), Some(aliquot)) => {
            sheet.reading("V_flask", "flask", flask, Dimension::VOLUME)?;
            sheet.divisor("V_aliquot", "aliquot", aliquot, Dimension::VOLUME)?;
            Ok(" * V_flask / V_aliquot")
        }
        (None, None) => Ok(""),
        _ => Err(ComputeError::undefined("a flask and an aliquot go together")),
    }
}

/// A stoichiometric ratio as an expression of exact numbers.
fn factor(ratio: &str) -> Result<String, ComputeError> {
    let wrong = || {
        ComputeError::quantity(
            "ratio",
            format!("'{}' is no ratio such as 1, 6 or 2/5", ratio.chars().take(20).collect::<String>()),
        )
    };
    let parsed: Coefficient = ratio.trim().parse().map_err(|_| wrong())?;
    if parsed <= Coefficient::from_integer(0) {
        return Err(wrong());
    }
    Ok(if parsed.is_integer() { parsed.to_string() } else { format!("({} / {})", parsed.numer(), parsed.denom()) })
}
