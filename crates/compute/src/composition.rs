//! Formulas from masses: empirical formula, water of crystallisation, gravimetric factor, magnetic moment.
//!
//! Candidates are ranked by the search of the sheet itself ([`sheet::Candidates`]). All of this is *given the table of
//! atomic masses*: a formula is compared with masses of the same table, so that their tolerances (those of lead are
//! 0.5 %) do not blur which formula it is.

use super::worksheet::Worksheet;
use super::{ComputeError, Measured, Worked};
use chem::{MassTable, element};
use measure::Dimension;
use practical::{Stated, book};
use serde::{Deserialize, Serialize};
use sheet::{Evaluation, Outcome};

/// A question about a composition.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "ask", rename_all = "kebab-case", deny_unknown_fields)]
pub enum CompositionQuestion {
    /// Which formula has these parts by mass?
    Formula {
        /// Symbols, in the order in which the formula is written.
        elements: Vec<String>,
        /// Mass, or percent by mass, of each.
        parts: Vec<Measured>,
        /// Largest subscript tried; 6 unless said.
        #[serde(default = "six")]
        most: u32,
        /// How far the ratio of the amounts scatters beyond the balance, one standard deviation: `2 %`.
        #[serde(default)]
        scatter: Option<String>,
        /// The formula that was to be found.
        #[serde(default)]
        declared: Option<String>,
        /// Relative atomic masses.
        #[serde(default)]
        masses: MassTable,
    },
    /// Which formula comes from an element burnt, or otherwise combined, in a crucible?
    Crucible {
        /// The element weighed in, then the one taken up.
        elements: [String; 2],
        /// Empty.
        crucible: Measured,
        /// With the element.
        with_element: Measured,
        /// With the product.
        with_product: Measured,
        /// Largest subscript tried; 6 unless said.
        #[serde(default = "six")]
        most: u32,
        /// How far the ratio of the amounts scatters beyond the balance, one standard deviation: `2 %`.
        #[serde(default)]
        scatter: Option<String>,
        /// The formula that was to be found.
        #[serde(default)]
        declared: Option<String>,
        /// Relative atomic masses.
        #[serde(default)]
        masses: MassTable,
    },
    /// How much water of crystallisation did a hydrate lose?
    Hydrate {
        /// Formula of what is left.
        salt: String,
        /// Empty.
        crucible: Measured,
        /// With the hydrate.
        with_hydrate: Measured,
        /// With what is left.
        with_anhydrous: Measured,
        /// Numbers of water tried.
        candidates: Vec<f64>,
        /// How far the ratio of the amounts scatters beyond the balance, one standard deviation: `2 %`.
        #[serde(default)]
        scatter: Option<String>,
        /// The number of water that was to be found.
        #[serde(default)]
        declared: Option<f64>,
        /// Relative atomic masses.
        #[serde(default)]
        masses: MassTable,
    },
    /// Molecular formula from the empirical one and a molar mass.
    Molecular {
        /// Empirical formula.
        empirical: String,
        /// As measured.
        molar_mass: Measured,
        /// Relative atomic masses.
        #[serde(default)]
        masses: MassTable,
    },
    /// What part of a sample a weighed precipitate stands for.
    Gravimetric {
        /// Formula of what is looked for.
        analyte: String,
        /// Formula of what is weighed.
        weighed_as: String,
        /// Analyte units in one unit of what is weighed: `1`, `1/2`.
        ratio: String,
        /// Mass of the precipitate.
        precipitate: Measured,
        /// Mass of the sample.
        sample: Measured,
        /// Relative atomic masses.
        #[serde(default)]
        masses: MassTable,
    },
    /// Effective magnetic moment from a molar susceptibility, with the spin-only values beside it.
    MagneticMoment {
        /// Molar susceptibility as measured, in 10⁻⁶ cm³/mol (cgs).
        susceptibility: f64,
        /// Diamagnetic correction to be added, in 10⁻⁶ cm³/mol; a positive number.
        diamagnetic: f64,
        /// Temperature.
        temperature: Measured,
    },
}

fn six() -> u32 {
    6
}

/// A formula or hydrate that was tried.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Candidate {
    /// As written.
    pub formula: String,
    /// Subscripts in the order asked, or the one number of water.
    pub subscripts: Vec<f64>,
    /// How badly it fits.
    pub chi_squared: f64,
}

impl Candidate {
    pub(super) fn of(all: &sheet::Candidates, candidate: &sheet::Candidate) -> Candidate {
        Candidate {
            formula: all.written(candidate),
            subscripts: candidate.subscripts.iter().map(|n| f64::from(*n)).collect(),
            chi_squared: candidate.chi_squared,
        }
    }
}

/// What fits.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Fitted {
    /// One candidate.
    Unique,
    /// Several: the data cannot decide.
    Ambiguous,
    /// None.
    None,
}

/// What the masses say.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "ask", rename_all = "kebab-case")]
pub enum CompositionAnswer {
    /// Candidates for a formula.
    Formula {
        /// Whether the data decide.
        status: Fitted,
        /// Those that fit within 95 %, best first.
        consistent: Vec<Candidate>,
        /// The nearest that does not fit.
        nearest_rejected: Option<Candidate>,
        /// Elements less one.
        degrees_of_freedom: usize,
        /// χ² that 5 % of true formulas exceed.
        critical: f64,
        /// Amounts of each element over the smallest.
        ratios: Vec<f64>,
        /// Of two elements, the amount of the second to that of the first.
        ratio: Option<AmountRatio>,
        /// Of the consistent ones, the one with the smallest subscripts.
        simplest: Option<String>,
        /// The nearest with no subscript above three, whether it fits or not.
        nearest_simple: Option<String>,
        /// How the declared formula stands; none where none was declared.
        declared: Option<Declared>,
        /// Relative uncertainty of the amounts that would leave only the best, in percent; none where it is alone.
        decided_by_percent: Option<f64>,
        /// Amounts and solution.
        worked: Worked,
    },
    /// Candidates for a hydrate.
    Hydrate {
        /// Whether the data decide.
        status: Fitted,
        /// Those within the 95 % interval, best first.
        consistent: Vec<Candidate>,
        /// x ± 1.96 u, the scatter of the chemistry in it.
        interval: [f64; 2],
        /// Standard uncertainty of x, the scatter of the chemistry in it.
        uncertainty: f64,
        /// Of the balance alone, in percent of x.
        balance_percent: f64,
        /// The nearest candidate, whether it fits or not.
        nearest: Option<f64>,
        /// How the declared number stands; none where none was declared.
        declared: Option<Declared>,
        /// x and solution.
        worked: Worked,
    },
    /// A molecular formula.
    Molecular {
        /// How many empirical formulas make one molecule.
        multiple: u32,
        /// As measured over the empirical one, unrounded.
        ratio: f64,
        /// Within U (k = 2) of a whole number.
        whole: bool,
        /// Solution.
        worked: Worked,
    },
    /// A mass fraction.
    Gravimetric {
        /// Results and solution.
        worked: Worked,
    },
    /// A magnetic moment.
    MagneticMoment {
        /// μ_eff in Bohr magnetons.
        moment: f64,
        /// Unpaired electrons whose spin-only moment is nearest.
        unpaired: u32,
        /// √(n(n + 2)) for none to seven unpaired electrons.
        spin_only: Vec<f64>,
    },
}

/// A ratio of amounts.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct AmountRatio {
    /// Unrounded.
    pub value: f64,
    /// Standard uncertainty, the scatter of the chemistry in it.
    pub standard_uncertainty: f64,
    /// Of the balance alone, in percent of the ratio.
    pub balance_percent: f64,
}

/// How a formula that was to be found stands beside the data. It is accepted where either holds.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = DeclaredFormula))]
pub struct Declared {
    /// It fits within 95 %.
    pub consistent: bool,
    /// It is the nearest simple one.
    pub nearest_simple: bool,
}

/// A scatter as a part; nothing where none is said.
fn scatter_of(text: Option<&str>) -> Result<f64, ComputeError> {
    let Some(text) = text else { return Ok(0.0) };
    let field = "scatter";
    let stated = Stated::parse(text).map_err(|e| ComputeError::quantity(field, format!("{field}: {e}")))?;
    let sound = stated.amount.unit.dimension() == Dimension::ONE && (0.0..0.5).contains(&stated.base());
    sound.then(|| stated.base()).ok_or_else(|| ComputeError::impossible("a scatter lies between 0 % and 50 %"))
}

pub(super) fn answer(question: &CompositionQuestion) -> Result<CompositionAnswer, ComputeError> {
    match question {
        CompositionQuestion::Formula { elements, parts, most, scatter, declared, masses } => {
            if elements.len() != parts.len() || !(2..=6).contains(&elements.len()) {
                return Err(ComputeError::undefined("give two to six elements, each with its part"));
            }
            let mut sheet = Worksheet::by_table(masses);
            for (symbol, part) in elements.iter().zip(parts) {
                sheet.material(symbol, known(symbol)?, None)?;
                let name = format!("m_{symbol}");
                // Percent by mass are grams in 100 g: the unit goes when amounts are compared.
                if part.amount("part", Dimension::MASS).is_ok() {
                    sheet.divisor(&name, &format!("mass of {symbol}"), part, Dimension::MASS)?;
                    sheet.define(
                        &format!("n_{symbol}"),
                        format!("amount of {symbol}"),
                        format!("{name} / M({symbol})"),
                        "mol",
                    );
                } else {
                    sheet.divisor(&name, &format!("percent of {symbol}"), part, Dimension::ONE)?;
                    let expression = format!("{name} * 100 g / M({symbol})");
                    sheet.define(&format!("n_{symbol}"), format!("amount of {symbol} in 100 g"), expression, "mol");
                }
            }
            fit(sheet, elements, *most, scatter.as_deref(), declared.as_deref())
        }
        CompositionQuestion::Crucible {
            elements,
            crucible,
            with_element,
            with_product,
            most,
            scatter,
            declared,
            masses,
        } => {
            let mut sheet = Worksheet::by_table(masses);
            for symbol in elements {
                sheet.material(symbol, known(symbol)?, None)?;
            }
            let [first, second] = elements;
            sheet.reading("m_empty", "crucible", crucible, Dimension::MASS)?;
            sheet.reading("m_with_element", "crucible with the element", with_element, Dimension::MASS)?;
            sheet.reading("m_with_product", "crucible with the product", with_product, Dimension::MASS)?;
            let amount = |of: &str, more: &str, less: &str| format!("({more} - {less}) / M({of})");
            sheet.define(
                &format!("n_{first}"),
                format!("amount of {first}"),
                amount(first, "m_with_element", "m_empty"),
                "mol",
            );
            sheet.define(
                &format!("n_{second}"),
                format!("amount of {second}"),
                amount(second, "m_with_product", "m_with_element"),
                "mol",
            );
            fit(sheet, elements, *most, scatter.as_deref(), declared.as_deref())
        }
        CompositionQuestion::Hydrate {
            salt,
            crucible,
            with_hydrate,
            with_anhydrous,
            candidates,
            scatter,
            declared,
            masses,
        } => {
            let scatter = scatter_of(scatter.as_deref())?;
            hydrate(salt, [crucible, with_hydrate, with_anhydrous], candidates, (scatter, *declared), masses)
        }
        CompositionQuestion::Molecular { empirical, molar_mass, masses } => {
            let mut sheet = Worksheet::by_table(masses);
            sheet.material("unit", empirical, None)?;
            sheet.divisor("M_found", "molar mass", molar_mass, Dimension::MOLAR_MASS)?;
            sheet.define("multiple", "molar mass over that of the empirical formula", "M_found / M(unit)", "1");
            let worked = sheet.solve()?;
            let (ratio, u) = worked.result("multiple").map_or((0.0, 0.0), |r| (r.value, r.standard_uncertainty));
            #[allow(clippy::cast_possible_truncation, clippy::cast_sign_loss)] // a small positive number
            let multiple = ratio.round().clamp(1.0, 1e6) as u32;
            let whole = (ratio - f64::from(multiple)).abs() <= 2.0 * u;
            Ok(CompositionAnswer::Molecular { multiple, ratio, whole, worked })
        }
        CompositionQuestion::Gravimetric { analyte, weighed_as, ratio, precipitate, sample, masses } => {
            gravimetric([analyte, weighed_as, ratio], precipitate, sample, masses)
        }
        CompositionQuestion::MagneticMoment { susceptibility, diamagnetic, temperature } => {
            magnetic_moment(*susceptibility, *diamagnetic, temperature)
        }
    }
}

fn gravimetric(
    [analyte, weighed_as, ratio]: [&str; 3],
    precipitate: &Measured,
    sample: &Measured,
    masses: &MassTable,
) -> Result<CompositionAnswer, ComputeError> {
    let mut sheet = Worksheet::by_table(masses);
    sheet.material("analyte", analyte, None)?;
    sheet.material("precipitate", weighed_as, None)?;
    sheet.reading("m_precipitate", "precipitate", precipitate, Dimension::MASS)?;
    sheet.divisor("m_sample", "sample", sample, Dimension::MASS)?;
    let ratio: chem::Coefficient =
        ratio.trim().parse().map_err(|_| ComputeError::quantity("ratio", "a ratio is written 1, 2 or 1/2"))?;
    let ratio = format!("{} / {}", ratio.numer(), ratio.denom());
    sheet.define("factor", "gravimetric factor", book::gravimetric_factor(&ratio, "M(analyte)", "M(precipitate)"), "1");
    sheet.define("m_analyte", format!("mass of {analyte}"), book::converted("m_precipitate", "factor"), "g");
    sheet.define("w_analyte", format!("{analyte} by mass"), book::part("m_analyte", "m_sample"), "%");
    Ok(CompositionAnswer::Gravimetric { worked: sheet.solve()? })
}

fn magnetic_moment(
    susceptibility: f64,
    diamagnetic: f64,
    temperature: &Measured,
) -> Result<CompositionAnswer, ComputeError> {
    let kelvin = temperature.amount("temperature", Dimension::TEMPERATURE)?.base();
    let corrected = (susceptibility + diamagnetic) * 1e-6;
    if corrected < 0.0 || kelvin <= 0.0 || !corrected.is_finite() {
        return Err(ComputeError::impossible("a diamagnetic substance, or a temperature below zero, has no moment"));
    }
    // μ_eff = √(3k/(N_A μ_B²)) √(χT) = 2.8279 √(χT) in cgs (CODATA 2022).
    let moment = 2.827_9 * (corrected * kelvin).sqrt();
    let spin_only: Vec<f64> = (0..=7u32).map(|n| f64::from(n * (n + 2)).sqrt()).collect();
    let nearest = (0..=7u32).min_by(|a, b| {
        let off = |n: u32| (spin_only[n as usize] - moment).abs();
        off(*a).total_cmp(&off(*b))
    });
    Ok(CompositionAnswer::MagneticMoment { moment, unpaired: nearest.unwrap_or(0), spin_only })
}

fn known(symbol: &str) -> Result<&str, ComputeError> {
    let unknown = || {
        ComputeError::quantity(
            "elements",
            format!("no element has the symbol '{}'", symbol.chars().take(10).collect::<String>()),
        )
    };
    element(symbol).map(|_| symbol).ok_or_else(unknown)
}

/// All formulas up to `most`, ranked by how they fit the amounts.
fn fit(
    mut sheet: Worksheet,
    elements: &[String],
    most: u32,
    scatter: Option<&str>,
    declared: Option<&str>,
) -> Result<CompositionAnswer, ComputeError> {
    let scatter = 100.0 * scatter_of(scatter)?;
    let declared = declared.map(chem::Formula::parse).transpose()?;
    let parts: Vec<String> = elements.iter().map(|e| format!("{e}, n_{e}")).collect();
    let most = most.clamp(1, sheet::Candidates::most(elements.len()));
    if let [first, second] = elements {
        let part = book::part(&format!("n_{second}"), &format!("n_{first}"));
        sheet.draft("ratio_found", part);
    }
    sheet.draft("formula_found", format!("formula({}, {most}, {scatter} %)", parts.join(", ")));
    let solved = sheet.finish()?;
    let evaluation = solved.evaluate();
    let worked = solved.worked(&evaluation)?;
    let names: Vec<String> = elements.iter().map(|e| format!("n_{e}")).collect();
    let amounts: Vec<f64> = names.iter().map(|n| amount(&evaluation, n)).collect::<Result<_, _>>()?;
    if amounts.iter().any(|n| *n <= 0.0) {
        return Err(ComputeError::impossible("an amount is zero or less: are two readings exchanged?"));
    }
    let found = evaluation
        .candidates("formula_found")
        .ok_or_else(|| ComputeError::undefined("without an uncertainty nothing can be ranked"))?;
    let least = amounts.iter().copied().fold(f64::INFINITY, f64::min);
    // χ² goes with the square of the uncertainty: this much smaller, and the nearest rival would just be rejected.
    let relative = names.iter().zip(&amounts).map(|(n, x)| evaluation.covariance(n, n).unwrap_or(0.0).sqrt() / x);
    let decided_by_percent = found.consistent.get(1).map(|rival| {
        let lead = (rival.chi_squared - found.consistent[0].chi_squared).max(0.0);
        100.0 * relative.fold(0.0, f64::max) * (lead / found.critical).sqrt()
    });
    Ok(CompositionAnswer::Formula {
        status: status(found.consistent.len()),
        consistent: found.consistent.iter().map(|c| Candidate::of(found, c)).collect(),
        nearest_rejected: found.nearest_rejected.as_ref().map(|c| Candidate::of(found, c)),
        degrees_of_freedom: elements.len() - 1,
        critical: found.critical,
        ratios: amounts.iter().map(|n| n / least).collect(),
        ratio: evaluation.value("ratio_found").filter(|v| v.value != 0.0).map(|v| AmountRatio {
            value: v.value,
            standard_uncertainty: v.standard_uncertainty.hypot(scatter / 100.0 * v.value),
            balance_percent: 100.0 * v.standard_uncertainty / v.value.abs(),
        }),
        simplest: found.simplest().map(|c| found.written(c)),
        nearest_simple: found.nearest_simple.as_ref().map(|c| found.written(c)),
        declared: declared.map(|formula| {
            let is = |c: &sheet::Candidate| chem::Formula::parse(&found.written(c)).is_ok_and(|f| f == formula);
            Declared {
                consistent: found.consistent.iter().any(is),
                nearest_simple: found.nearest_simple.as_ref().is_some_and(is),
            }
        }),
        decided_by_percent,
        worked,
    })
}

fn hydrate(
    salt: &str,
    readings: [&Measured; 3],
    candidates: &[f64],
    (scatter, declared): (f64, Option<f64>),
    masses: &MassTable,
) -> Result<CompositionAnswer, ComputeError> {
    let mut sheet = Worksheet::by_table(masses);
    sheet.material("salt", salt, None)?;
    sheet.material("water", "H2O", None)?;
    for (symbol, field, reading) in [
        ("m_empty", "crucible", readings[0]),
        ("m_hydrate", "crucible with the hydrate", readings[1]),
        ("m_residue", "crucible with the residue", readings[2]),
    ] {
        sheet.reading(symbol, field, reading, Dimension::MASS)?;
    }
    sheet.define("m_water", "water lost", book::difference("m_hydrate", "m_residue"), "g");
    sheet.define("n_water", "amount of water", book::amount_of_solid("m_water", None, "M(water)"), "mol");
    sheet.define("n_salt", format!("amount of {salt}"), "(m_residue - m_empty) / M(salt)", "mol");
    sheet.define("x", "water of crystallisation", book::part("n_water", "n_salt"), "1");
    sheet.define("w_water", "water by mass", "m_water / (m_hydrate - m_empty)", "%");
    let worked = sheet.solve()?;
    let (x, u) = worked.result("x").map_or((0.0, 0.0), |r| (r.value, r.standard_uncertainty));
    let balance_percent = 100.0 * u / x.abs();
    let u = u.hypot(scatter * x);
    let reach = 1.96 * u;
    let mut consistent: Vec<Candidate> = candidates
        .iter()
        .filter(|c| (x - **c).abs() <= reach)
        .map(|c| Candidate {
            formula: if *c == 1.0 { format!("{salt}·H2O") } else { format!("{salt}·{c}H2O") },
            subscripts: vec![*c],
            chi_squared: ((x - c) / u).powi(2),
        })
        .collect();
    consistent.sort_by(|a, b| a.chi_squared.total_cmp(&b.chi_squared));
    Ok(CompositionAnswer::Hydrate {
        status: status(consistent.len()),
        declared: declared.map(|d| Declared {
            consistent: (x - d).abs() <= reach,
            nearest_simple: nearest(x, candidates).is_some_and(|c| c == d),
        }),
        nearest: nearest(x, candidates),
        consistent,
        interval: [x - reach, x + reach],
        uncertainty: u,
        balance_percent,
        worked,
    })
}

fn nearest(x: f64, candidates: &[f64]) -> Option<f64> {
    candidates.iter().copied().min_by(|a, b| (x - a).abs().total_cmp(&(x - b).abs()))
}

pub(super) fn status(consistent: usize) -> Fitted {
    match consistent {
        0 => Fitted::None,
        1 => Fitted::Unique,
        _ => Fitted::Ambiguous,
    }
}

fn amount(evaluation: &Evaluation<'_>, name: &str) -> Result<f64, ComputeError> {
    match evaluation.outcome(name) {
        Some(Outcome::Value(v)) => Ok(v.value),
        Some(Outcome::Failed(failure)) => Err(failure.into()),
        Some(Outcome::NotYet { .. } | Outcome::Series(_)) | None => {
            Err(ComputeError::undefined("an amount is missing"))
        }
    }
}
