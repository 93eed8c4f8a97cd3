//! Rates, orders, rate constants and what temperature does to them. Numbers as typed, in the units that they have.
//!
//! Source: Atkins & de Paula, Physical Chemistry, 11th ed., topics 17A to 17D; fits by least squares, all points alike.

use super::ComputeError;
use super::statistics::read;
use practical::book::GAS_CONSTANT;
use practical::statistics::{self as stats, Weighting};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;

/// A question about rates.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "ask", rename_all = "kebab-case", deny_unknown_fields)]
pub enum KineticsQuestion {
    /// The rate at the beginning, from the first points of a curve.
    InitialRate {
        /// Times.
        time: Vec<String>,
        /// What is followed.
        value: Vec<String>,
        /// How it is taken.
        method: FirstRate,
        /// How many points count as the first.
        first: usize,
    },
    /// An order from two runs that differ in one concentration.
    OrderOfTwo {
        /// Of the one and of the other.
        concentration: [String; 2],
        /// Then.
        rate: [String; 2],
        /// Relative standard uncertainty of each concentration, in %.
        #[serde(default)]
        u_concentration: Option<String>,
        /// Relative standard uncertainty of each rate, in %.
        #[serde(default)]
        u_rate: Option<String>,
    },
    /// Orders in several species from many runs: least squares of ln rate.
    Orders {
        /// Each with its concentrations and its rate.
        runs: Vec<Run>,
    },
    /// A rate constant from the plot that is straight for an order.
    Integrated {
        /// 0, 1 or 2.
        order: u8,
        /// Times.
        time: Vec<String>,
        /// What is left.
        value: Vec<String>,
        /// What the value comes to at the end; only for order 1.
        #[serde(default)]
        end: Option<String>,
    },
    /// Which of the plots for orders 0, 1 and 2 is straightest?
    WhichOrder {
        /// Times.
        time: Vec<String>,
        /// What is left.
        value: Vec<String>,
    },
    /// When is a half, a quarter, an eighth left? Three half-lives at most: beyond, what is left drowns in the reading.
    HalfLives {
        /// Times.
        time: Vec<String>,
        /// What is left.
        value: Vec<String>,
    },
    /// The activation energy from rate constants at several temperatures.
    Arrhenius {
        /// In °C.
        celsius: Vec<String>,
        /// Rate constants.
        constant: Vec<String>,
        /// Where a rate constant is asked for, in °C.
        #[serde(default)]
        predict_at: Option<String>,
    },
    /// The activation energy from two rate constants.
    ArrheniusOfTwo {
        /// In °C.
        celsius: [String; 2],
        /// Rate constants.
        constant: [String; 2],
        /// Relative standard uncertainty of each constant, in %.
        #[serde(default)]
        u_constant: Option<String>,
        /// Standard uncertainty of each temperature, in K.
        #[serde(default)]
        u_temperature: Option<String>,
    },
    /// An order from the times of a clock at several concentrations: the rate is taken as 1/t.
    ClockOrder {
        /// Concentrations.
        concentration: Vec<String>,
        /// Times.
        time: Vec<String>,
    },
    /// Rates from the times of a clock and what it uses up until it strikes.
    ClockRate {
        /// Used up until it strikes.
        consumed: String,
        /// Of that, moles for each mole of reaction.
        per_reaction: String,
        /// Times.
        time: Vec<String>,
    },
    /// The activation energy from the times of a clock at several temperatures.
    ClockTemperature {
        /// In °C.
        celsius: Vec<String>,
        /// Times.
        time: Vec<String>,
    },
}

/// How a first rate is taken.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum FirstRate {
    /// From the first point to the last that counts.
    Chord,
    /// Slope of a line.
    Line,
    /// Slope of a line through zero; a point at zero counts.
    LineThroughZero,
    /// Slope of a parabola where it begins.
    Parabola,
}

/// One run: concentrations by species, and the rate.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "schema", schema(as = RateRun))]
#[serde(deny_unknown_fields)]
pub struct Run {
    /// By species.
    pub concentrations: BTreeMap<String, String>,
    /// Rate.
    pub rate: String,
}

/// What rates say.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "ask", rename_all = "kebab-case")]
pub enum KineticsAnswer {
    /// A first rate.
    InitialRate {
        /// How many points were used.
        points_used: usize,
        /// The rate, with the sign of the change.
        rate: f64,
        /// Where the line begins.
        intercept: Option<f64>,
        /// Of the parabola.
        curvature: Option<f64>,
        /// Standard error of the rate; none where no point is left over.
        standard_error: Option<f64>,
    },
    /// An order.
    Order(Order),
    /// Several orders.
    Orders {
        /// By species.
        orders: BTreeMap<String, f64>,
        /// Standard errors; none where no run is left over.
        standard_errors: Option<BTreeMap<String, f64>>,
        /// Nearest whole numbers.
        nearest: BTreeMap<String, i64>,
        /// ln k.
        ln_constant: f64,
        /// Its standard error.
        se_ln_constant: Option<f64>,
        /// k.
        constant: f64,
        /// Runs less fitted numbers.
        degrees_of_freedom: usize,
    },
    /// A rate constant.
    Integrated(Integrated),
    /// The straightest plot.
    WhichOrder {
        /// r² of the plot for order 0, 1 and 2.
        r_squared: [f64; 3],
        /// The order whose plot is straightest; none where another is nearly as straight.
        order: Option<u8>,
    },
    /// Half-lives.
    HalfLives {
        /// When a half, a quarter, … was left, the points joined by straight lines.
        reached_at: Vec<f64>,
        /// How long each took.
        half_lives: Vec<f64>,
    },
    /// An activation energy by a line.
    Arrhenius(Arrhenius),
    /// An activation energy from two.
    ArrheniusOfTwo {
        /// In kJ/mol.
        activation_energy: f64,
        /// Its standard uncertainty, in kJ/mol.
        standard_uncertainty: f64,
        /// How many times faster from 25 to 35 °C.
        factor_per_ten_kelvin: f64,
    },
    /// An order by a clock.
    ClockOrder {
        /// 1/t of each.
        rates: Vec<f64>,
        /// ln(1/t) against ln c.
        line: stats::StraightLine,
        /// Nearest whole number to its slope.
        nearest: i64,
    },
    /// Rates by a clock.
    ClockRate {
        /// Of each.
        rates: Vec<f64>,
        /// Mean of these.
        mean: f64,
        /// Their standard deviation; none for one.
        sd: Option<f64>,
    },
}

/// An order from two runs.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "schema", schema(as = RateOrder))]
pub struct Order {
    /// ln(rate/rate)/ln(c/c).
    pub order: f64,
    /// Its standard uncertainty; 0 where none was given.
    pub standard_uncertainty: f64,
    /// Nearest whole number.
    pub nearest: i64,
    /// Within 2 u of it.
    pub consistent: bool,
}

/// A rate constant from a straight plot.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Integrated {
    /// Of what the order makes straight, against time.
    pub line: stats::StraightLine,
    /// k.
    pub constant: f64,
    /// ln 2/k, for order 1.
    pub half_life: Option<f64>,
    /// Its standard uncertainty.
    pub u_half_life: Option<f64>,
    /// What the line begins with.
    pub initial: f64,
    /// 1/(k·c₀) by the first value, for order 2.
    pub first_half_life: Option<f64>,
    /// When nothing is left, for order 0.
    pub time_to_nothing: Option<f64>,
}

/// An activation energy from ln k against 1/T.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Arrhenius {
    /// ln k against 1/T.
    pub line: stats::StraightLine,
    /// In kJ/mol.
    pub activation_energy: f64,
    /// Its standard error, in kJ/mol; none for two temperatures.
    pub standard_error: Option<f64>,
    /// t times that.
    pub half_width_95: Option<f64>,
    /// ln A.
    pub ln_factor: f64,
    /// Its standard error.
    pub se_ln_factor: Option<f64>,
    /// A, in the unit of the constants.
    pub factor: f64,
    /// k where it was asked for.
    pub predicted: Option<f64>,
    /// u(k)/k of it, by the line alone.
    pub relative_u_of_predicted: Option<f64>,
}

/// A line is clearly straighter when the next one misses four times as much of the variance.
const CLEARLY: f64 = 4.0;

pub(super) fn answer(question: &KineticsQuestion) -> Result<KineticsAnswer, ComputeError> {
    match question {
        KineticsQuestion::InitialRate { time, value, method, first } => {
            initial_rate(&read(time)?, &read(value)?, *method, *first)
        }
        KineticsQuestion::OrderOfTwo { concentration, rate, u_concentration, u_rate } => {
            let part = |u: &Option<String>| u.as_ref().map_or(Ok(0.0), |t| number(t)).map(|u| u / 100.0);
            order_of_two(positive(concentration)?, positive(rate)?, part(u_concentration)?, part(u_rate)?)
        }
        KineticsQuestion::Orders { runs } => orders(runs),
        KineticsQuestion::Integrated { order, time, value, end } => {
            let end = end.as_ref().map(|t| number(t)).transpose()?;
            integrated(*order, &read(time)?, &read(value)?, end)
        }
        KineticsQuestion::WhichOrder { time, value } => which_order(&read(time)?, &read(value)?),
        KineticsQuestion::HalfLives { time, value } => half_lives(&read(time)?, &read(value)?),
        KineticsQuestion::Arrhenius { celsius, constant, predict_at } => {
            let at = predict_at.as_ref().map(|t| kelvin(std::slice::from_ref(t))).transpose()?;
            arrhenius(&kelvin(celsius)?, &logarithms(constant)?, at.map(|t| t[0])).map(KineticsAnswer::Arrhenius)
        }
        KineticsQuestion::ArrheniusOfTwo { celsius, constant, u_constant, u_temperature } => {
            let given = |u: &Option<String>| u.as_ref().map_or(Ok(0.0), |t| number(t));
            let (u_k, u_t) = (given(u_constant)? / 100.0, given(u_temperature)?);
            arrhenius_of_two(&kelvin(celsius)?, &logarithms(constant)?, u_k, u_t)
        }
        KineticsQuestion::ClockOrder { concentration, time } => {
            let (c, rates) = (logarithms(concentration)?, one_over(time)?);
            let line = stats::line(&c, &rates.iter().map(|r| r.ln()).collect::<Vec<_>>(), &Weighting::Alike)?;
            Ok(KineticsAnswer::ClockOrder { nearest: nearest(line.slope), rates, line })
        }
        KineticsQuestion::ClockRate { consumed, per_reaction, time } => {
            let [consumed, each] = positive(&[consumed.clone(), per_reaction.clone()])?;
            let rates: Vec<f64> = one_over(time)?.iter().map(|r| consumed / each * r).collect();
            let summary = stats::summary(&rates)?;
            Ok(KineticsAnswer::ClockRate { mean: summary.mean, sd: summary.spread.map(|s| s.sd), rates })
        }
        KineticsQuestion::ClockTemperature { celsius, time } => {
            let rates: Vec<f64> = one_over(time)?.iter().map(|r| r.ln()).collect();
            arrhenius(&kelvin(celsius)?, &rates, None).map(KineticsAnswer::Arrhenius)
        }
    }
}

fn number(text: &str) -> Result<f64, ComputeError> {
    Ok(read(&[text.to_owned()])?[0])
}

/// Numbers above zero.
fn positive<const N: usize>(texts: &[String; N]) -> Result<[f64; N], ComputeError> {
    let mut out = [0.0; N];
    for (o, text) in out.iter_mut().zip(texts) {
        *o = number(text)?;
        if *o <= 0.0 {
            return Err(ComputeError::undefined(format!("{text} has no logarithm")));
        }
    }
    Ok(out)
}

fn logarithms(texts: &[String]) -> Result<Vec<f64>, ComputeError> {
    above_zero(texts, "has no logarithm").map(|values| values.iter().map(|v| v.ln()).collect())
}

fn one_over(times: &[String]) -> Result<Vec<f64>, ComputeError> {
    above_zero(times, "is no time to divide by").map(|values| values.iter().map(|t| 1.0 / t).collect())
}

fn above_zero(texts: &[String], why: &str) -> Result<Vec<f64>, ComputeError> {
    let values = read(texts)?;
    match values.iter().zip(texts).find(|(v, _)| **v <= 0.0) {
        Some((_, text)) => Err(ComputeError::undefined(format!("{text} {why}"))),
        None => Ok(values),
    }
}

fn kelvin(celsius: &[String]) -> Result<Vec<f64>, ComputeError> {
    let kelvin: Vec<f64> = read(celsius)?.iter().map(|t| t + 273.15).collect();
    if kelvin.iter().any(|t| *t <= 0.0) {
        return Err(ComputeError::impossible("a temperature below absolute zero"));
    }
    Ok(kelvin)
}

#[allow(clippy::cast_possible_truncation)] // orders are small; beyond that the cast saturates
fn nearest(value: f64) -> i64 {
    value.round() as i64
}

fn initial_rate(time: &[f64], value: &[f64], method: FirstRate, first: usize) -> Result<KineticsAnswer, ComputeError> {
    if time.len() != value.len() || first < 2 || first > time.len() {
        return Err(ComputeError::quantity("first", format!("of {} points, {first} cannot be the first", time.len())));
    }
    let (time, value) = (&time[..first], &value[..first]);
    let mut out = (0.0, None, None, None);
    match method {
        FirstRate::Chord => {
            let took = time[first - 1] - time[0];
            if took == 0.0 {
                return Err(ComputeError::undefined("the first and the last point are at one time"));
            }
            out.0 = (value[first - 1] - value[0]) / took;
        }
        FirstRate::Line => {
            let line = stats::line(time, value, &Weighting::Alike)?;
            out = (line.slope, line.intercept, None, line.scatter.map(|e| e.standard.slope));
        }
        FirstRate::LineThroughZero => {
            let line = stats::line(time, value, &Weighting::ThroughZero)?;
            out = (line.slope, None, None, line.scatter.map(|e| e.standard.slope));
        }
        FirstRate::Parabola => {
            let curve = stats::parabola(time, value)?;
            out = (curve.slope, None, Some(curve.curvature), curve.se_slope);
        }
    }
    let (rate, intercept, curvature, standard_error) = out;
    Ok(KineticsAnswer::InitialRate { points_used: first, rate, intercept, curvature, standard_error })
}

/// n = ln(r₂/r₁)/ln(c₂/c₁), both runs with the same relative uncertainties.
fn order_of_two(c: [f64; 2], r: [f64; 2], u_c: f64, u_r: f64) -> Result<KineticsAnswer, ComputeError> {
    let apart = (c[1] / c[0]).ln();
    if apart == 0.0 {
        return Err(ComputeError::undefined("the two concentrations are the same"));
    }
    let order = (r[1] / r[0]).ln() / apart;
    let standard_uncertainty = (2.0 * (u_r.powi(2) + (order * u_c).powi(2))).sqrt() / apart.abs();
    let nearest = nearest(order);
    let consistent = (order - nearest as f64).abs() <= 2.0 * standard_uncertainty;
    Ok(KineticsAnswer::Order(Order { order, standard_uncertainty, nearest, consistent }))
}

fn orders(runs: &[Run]) -> Result<KineticsAnswer, ComputeError> {
    let Some(first) = runs.first() else { return Err(ComputeError::quantity("runs", "no run")) };
    let species: Vec<&String> = first.concentrations.keys().collect();
    let mut rows = Vec::new();
    for (i, run) in runs.iter().enumerate() {
        let mut row = vec![1.0];
        for name in &species {
            let Some(text) = run.concentrations.get(*name).filter(|_| run.concentrations.len() == species.len()) else {
                return Err(ComputeError::quantity("runs", format!("run {}: the same species in every run", i + 1)));
            };
            row.extend(logarithms(std::slice::from_ref(text))?);
        }
        rows.push(row);
    }
    let rates = logarithms(&runs.iter().map(|r| r.rate.clone()).collect::<Vec<_>>())?;
    let fit = stats::least_squares(&rows, &rates)?;
    let by_species = |values: &[f64]| -> BTreeMap<String, f64> {
        species.iter().map(|s| (*s).clone()).zip(values[1..].iter().copied()).collect()
    };
    let orders = by_species(&fit.values);
    Ok(KineticsAnswer::Orders {
        nearest: orders.iter().map(|(s, n)| (s.clone(), nearest(*n))).collect(),
        orders,
        standard_errors: fit.standard_errors.as_ref().map(|se| by_species(se)),
        ln_constant: fit.values[0],
        se_ln_constant: fit.standard_errors.as_ref().map(|se| se[0]),
        constant: fit.values[0].exp(),
        degrees_of_freedom: fit.degrees_of_freedom,
    })
}

/// What the order makes straight.
fn straightened(order: u8, value: &[f64], end: Option<f64>) -> Result<Vec<f64>, ComputeError> {
    let left = |v: &f64| end.map_or(*v, |end| (v - end).abs());
    let impossible = |v: &f64| ComputeError::undefined(format!("a value of {v} has no place in this plot"));
    match order {
        0 => Ok(value.to_vec()),
        1 => value.iter().map(|v| if left(v) > 0.0 { Ok(left(v).ln()) } else { Err(impossible(v)) }).collect(),
        2 => value.iter().map(|v| if *v > 0.0 { Ok(1.0 / v) } else { Err(impossible(v)) }).collect(),
        _ => Err(ComputeError::quantity("order", format!("0, 1 or 2, not {order}"))),
    }
}

fn integrated(order: u8, time: &[f64], value: &[f64], end: Option<f64>) -> Result<KineticsAnswer, ComputeError> {
    if end.is_some() && order != 1 {
        return Err(ComputeError::quantity("end", "a value at the end is for order 1"));
    }
    let line = stats::line(time, &straightened(order, value, end)?, &Weighting::Alike)?;
    let constant = if order == 2 { line.slope } else { -line.slope };
    let start = line.intercept.unwrap_or_default();
    let half_life = (order == 1 && constant > 0.0).then(|| std::f64::consts::LN_2 / constant);
    let relative = line.scatter.as_ref().map(|e| e.standard.slope / constant);
    Ok(KineticsAnswer::Integrated(Integrated {
        constant,
        half_life,
        u_half_life: half_life.zip(relative).map(|(t, r)| t * r),
        initial: match order {
            1 => start.exp(),
            2 => 1.0 / start,
            _ => start,
        },
        first_half_life: (order == 2 && constant > 0.0).then(|| 1.0 / (constant * value[0])),
        time_to_nothing: (order == 0 && constant > 0.0).then(|| start / constant),
        line,
    }))
}

fn which_order(time: &[f64], value: &[f64]) -> Result<KineticsAnswer, ComputeError> {
    let mut r_squared = [0.0; 3];
    for (order, out) in [0, 1, 2].into_iter().zip(&mut r_squared) {
        let line = stats::line(time, &straightened(order, value, None)?, &Weighting::Alike)?;
        *out = line.r_squared.ok_or_else(|| ComputeError::undefined("the values do not change"))?;
    }
    let mut ranked: Vec<(u8, f64)> = (0u8..3).zip(r_squared).collect();
    ranked.sort_by(|a, b| b.1.total_cmp(&a.1));
    let clear = 1.0 - ranked[1].1 > CLEARLY * (1.0 - ranked[0].1);
    Ok(KineticsAnswer::WhichOrder { r_squared, order: clear.then_some(ranked[0].0) })
}

fn half_lives(time: &[f64], value: &[f64]) -> Result<KineticsAnswer, ComputeError> {
    if time.len() != value.len() || value.is_empty() || value[0] <= 0.0 {
        return Err(ComputeError::quantity("value", "a value for each time, the first above zero"));
    }
    let mut reached_at = Vec::new();
    let mut wanted = value[0] / 2.0;
    for (t, v) in time.windows(2).zip(value.windows(2)) {
        while reached_at.len() < 3 && v[0] > wanted && v[1] <= wanted {
            reached_at.push(t[0] + (t[1] - t[0]) * (v[0] - wanted) / (v[0] - v[1]));
            wanted /= 2.0;
        }
    }
    let since = std::iter::once(time[0]).chain(reached_at.iter().copied());
    let half_lives = reached_at.iter().zip(since).map(|(at, from)| at - from).collect();
    Ok(KineticsAnswer::HalfLives { half_lives, reached_at })
}

fn gas_constant() -> f64 {
    GAS_CONSTANT.parse().expect("the gas constant is a number")
}

/// ln k against 1/T: Ea = −slope·R.
fn arrhenius(kelvin: &[f64], ln_constant: &[f64], predict_at: Option<f64>) -> Result<Arrhenius, ComputeError> {
    let inverse: Vec<f64> = kelvin.iter().map(|t| 1.0 / t).collect();
    let line = stats::line(&inverse, ln_constant, &Weighting::Alike)?;
    let to_energy = gas_constant() / 1000.0;
    let ln_factor = line.intercept.unwrap_or_default();
    let errors = line.scatter.as_ref();
    let relative_u_of_predicted = predict_at.zip(errors).map(|(t, e)| {
        // The variance of a line at one place: s²(1/n + (x − x̄)²/Sxx).
        let mean = inverse.iter().sum::<f64>() / inverse.len() as f64;
        (e.residual_sd.powi(2) / inverse.len() as f64 + ((1.0 / t - mean) * e.standard.slope).powi(2)).sqrt()
    });
    Ok(Arrhenius {
        activation_energy: -line.slope * to_energy,
        standard_error: errors.map(|e| e.standard.slope * to_energy),
        half_width_95: errors.map(|e| e.slope_half_width_95 * to_energy),
        ln_factor,
        se_ln_factor: errors.and_then(|e| e.standard.intercept),
        factor: ln_factor.exp(),
        predicted: predict_at.map(|t| (ln_factor + line.slope / t).exp()),
        relative_u_of_predicted,
        line,
    })
}

/// Ea = R·ln(k₂/k₁)/(1/T₁ − 1/T₂).
fn arrhenius_of_two(kelvin: &[f64], ln_k: &[f64], u_k: f64, u_t: f64) -> Result<KineticsAnswer, ComputeError> {
    let (inverse, rise) = (1.0 / kelvin[0] - 1.0 / kelvin[1], ln_k[1] - ln_k[0]);
    if inverse == 0.0 {
        return Err(ComputeError::undefined("the two temperatures are the same"));
    }
    let energy = gas_constant() * rise / inverse;
    let by_constants = gas_constant() * u_k * 2f64.sqrt() / inverse;
    let by_temperatures = energy / inverse * u_t * kelvin[0].powi(-2).hypot(kelvin[1].powi(-2));
    Ok(KineticsAnswer::ArrheniusOfTwo {
        activation_energy: energy / 1000.0,
        standard_uncertainty: by_constants.hypot(by_temperatures) / 1000.0,
        factor_per_ten_kelvin: (energy / gas_constant() * (1.0 / 298.15 - 1.0 / 308.15)).exp(),
    })
}
