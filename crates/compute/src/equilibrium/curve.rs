//! What a curve of pH against volume says: pKa on the way, the equivalence point by derivatives and by Gran's line.

use super::{log10_gamma, number, positive};
use crate::ComputeError;
use crate::statistics::read;
use practical::statistics::{self as stats, Weighting};
use serde::Serialize;

/// A pKa in three ways; concentrations in mol/L.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "schema", schema(as = HalfWayPoint))]
pub struct HalfWay {
    /// Acid and its anion together.
    pub acid: f64,
    /// The base's cation.
    pub base: f64,
    /// [H⁺].
    pub hydrogen: f64,
    /// [A⁻] = [Na⁺] + [H⁺] − [OH⁻].
    pub anion: f64,
    /// [HA].
    pub acid_left: f64,
    /// [Na⁺] + [H⁺].
    pub ionic_strength: f64,
    /// Activity coefficient of an ion of charge 1.
    pub gamma: f64,
    /// pH − lg(neutralised/left) by the titration alone: the pH itself half-way.
    pub simple: f64,
    /// −lg([H⁺][A⁻]/[HA]).
    pub by_concentrations: f64,
    /// pH − lg(γ[A⁻]/[HA]).
    pub by_activities: f64,
}

pub(super) fn half_way(
    [acid, acid_volume, base, base_volume, ph, pkw, davies]: [&String; 7],
) -> Result<HalfWay, ComputeError> {
    let (acid_volume, base_volume) = (positive("acid_volume", acid_volume)?, positive("base_volume", base_volume)?);
    let total = acid_volume + base_volume;
    let acid = positive("acid", acid)? * acid_volume / total;
    let base = positive("base", base)? * base_volume / total;
    let (ph, pkw, davies) = (number(ph)?, number(pkw)?, number(davies)?);
    // [H⁺] = 10^−pH/γ, and γ hangs on it: a few rounds settle what is a small correction.
    let (mut hydrogen, mut gamma) = (10f64.powf(-ph), 1.0);
    for _ in 0..200 {
        gamma = 10f64.powf(log10_gamma(davies, 1, base + hydrogen));
        let next = 10f64.powf(-ph) / gamma;
        let settled = (next - hydrogen).abs() <= 1e-15 * next;
        hydrogen = next;
        if settled {
            break;
        }
    }
    let hydroxide = 10f64.powf(ph - pkw) / gamma;
    let anion = base + hydrogen - hydroxide;
    let acid_left = acid - anion;
    let neutralised = base.min(acid);
    if anion <= 0.0 || acid_left <= 0.0 || acid <= neutralised || !hydrogen.is_finite() {
        return Err(ComputeError::undefined("at this pH there is none left of the acid or of its anion"));
    }
    Ok(HalfWay {
        acid,
        base,
        hydrogen,
        anion,
        acid_left,
        ionic_strength: base + hydrogen,
        gamma,
        simple: ph - (neutralised / (acid - neutralised)).log10(),
        by_concentrations: -(hydrogen * anion / acid_left).log10(),
        by_activities: ph - (gamma * anion / acid_left).log10(),
    })
}

/// An equivalence point by derivatives; volumes in mL.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Equivalence {
    /// Middle of the steepest interval.
    pub by_first: f64,
    /// pH for each mL there.
    pub steepest: f64,
    /// Where the second derivative passes zero; none where it does not beside the steepest interval.
    pub by_second: Option<f64>,
    /// In g/mol.
    pub molar_mass_by_first: f64,
    /// In g/mol.
    pub molar_mass_by_second: Option<f64>,
}

pub(super) fn equivalence(
    mass: &str,
    protons: u32,
    base: &str,
    volume: &[String],
    ph: &[String],
) -> Result<Equivalence, ComputeError> {
    let (volume, ph) = (read(volume)?, read(ph)?);
    let rising = volume.windows(2).all(|v| v[1] > v[0]);
    if volume.len() != ph.len() || volume.len() < 4 || !rising {
        return Err(ComputeError::quantity("volume", "four points or more, each with its pH, the volumes rising"));
    }
    if !(1..=6).contains(&protons) {
        return Err(ComputeError::quantity("protons", format!("a number from 1 to 6, not {protons}")));
    }
    let middles: Vec<f64> = volume.windows(2).map(|v| f64::midpoint(v[0], v[1])).collect();
    let slopes: Vec<f64> = volume.windows(2).zip(ph.windows(2)).map(|(v, p)| (p[1] - p[0]) / (v[1] - v[0])).collect();
    let steepest = (0..slopes.len()).max_by(|a, b| slopes[*a].total_cmp(&slopes[*b])).unwrap_or(0);
    // How the slope changes, at the middles between the middles; the two beside the steepest interval meet zero between them.
    let change = |i: usize| (slopes[i + 1] - slopes[i]) / (middles[i + 1] - middles[i]);
    let place = |i: usize| f64::midpoint(middles[i], middles[i + 1]);
    let by_second = (steepest > 0 && steepest + 1 < slopes.len()).then(|| {
        let (before, after) = (change(steepest - 1), change(steepest));
        place(steepest - 1) + (place(steepest) - place(steepest - 1)) * before / (before - after)
    });
    let per_litre = positive("mass", mass)? * f64::from(protons) / positive("base", base)?;
    let molar_mass = |v: f64| 1000.0 * per_litre / v;
    let by_second = by_second.filter(|v| v.is_finite());
    Ok(Equivalence {
        by_first: middles[steepest],
        steepest: slopes[steepest],
        molar_mass_by_first: molar_mass(middles[steepest]),
        molar_mass_by_second: by_second.map(molar_mass),
        by_second,
    })
}

/// An equivalence point by Gran's line; volumes in mL.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "schema", schema(as = GranPoint))]
pub struct Gran {
    /// V·10^(−pH) against V.
    pub line: stats::StraightLine,
    /// Where it meets zero.
    pub equivalence: f64,
    /// Its standard error.
    pub standard_error: f64,
    /// −lg of the slope's size.
    pub pka: f64,
}

pub(super) fn gran(volume: &[String], ph: &[String]) -> Result<Gran, ComputeError> {
    let (volume, ph) = (read(volume)?, read(ph)?);
    let y: Vec<f64> = volume.iter().zip(&ph).map(|(v, p)| v * 10f64.powf(-p)).collect();
    let line = stats::line(&volume, &y, &Weighting::Alike)?;
    let found = stats::meets_zero(&volume, &y)?;
    if line.slope >= 0.0 {
        return Err(ComputeError::undefined("before the equivalence point this line falls; this one does not"));
    }
    Ok(Gran { pka: -(-line.slope).log10(), equivalence: found.x, standard_error: found.standard_error, line })
}
