//! Instruments of the teaching laboratory and how sure a reading on one is.
//!
//! Each reading gets a list of [`Contribution`]s: standard uncertainties, each with its [`Source`]. Contributions from
//! one source are shared by every reading on that instrument (the calibration of one pipette does not shrink when it
//! is used twice); those of the reading itself are not. What is shared and what is not decides what cancels in a
//! difference, so the source travels with the number instead of being squared away here.
//!
//! Balance: the display step and the repeatability count at every reading, a tared one included (it has two
//! readings); linearity counts at each point too; an offset cancels in a difference and is left out; sensitivity is
//! in proportion to the load and shared.
//!
//! Sources: JCGM 100:2008 (GUM), 4.3 and F.2.2.1; EURACHEM/CITAC CG 4 (QUAM:2012), appendix E.1 and example A2.

use serde::{Deserialize, Serialize};

/// Standard uncertainty of a quantity known to lie within ± `half_width`, nowhere more likely: a/√3.
///
/// Source: JCGM 100:2008 (GUM), 4.3.7.
#[must_use]
pub fn rectangular(half_width: f64) -> f64 {
    half_width / 3f64.sqrt()
}

/// How a tolerance lies about the nominal value, as a school takes it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Tolerances {
    /// Anywhere within, nowhere more likely: a/√3.
    #[default]
    Rectangular,
    /// Mostly near the middle: a/√6.
    ///
    /// Source: JCGM 100:2008 (GUM), 4.3.9; EURACHEM/CITAC CG 4 (QUAM:2012), example A2.
    Triangular,
}

impl Tolerances {
    /// Standard uncertainty of a quantity known to lie within ± `half_width`.
    #[must_use]
    pub fn standard(self, half_width: f64) -> f64 {
        match self {
            Tolerances::Rectangular => rectangular(half_width),
            Tolerances::Triangular => half_width / 6f64.sqrt(),
        }
    }

    /// How it is drawn at random.
    #[must_use]
    pub fn distribution(self) -> Distribution {
        match self {
            Tolerances::Rectangular => Distribution::Rectangular,
            Tolerances::Triangular => Distribution::Triangular,
        }
    }
}

/// What kind of instrument a reading is taken on; it decides how the digits are read.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum InstrumentKind {
    /// Digital: every digit shown is written, none is estimated.
    Balance,
    /// One mark: delivers its nominal volume and is never "read".
    VolumetricPipette,
    /// One mark: holds its nominal volume and is never "read".
    VolumetricFlask,
    /// Graduated, zero at the top; one digit is estimated between the marks.
    Burette,
    /// Graduated; one digit is estimated between the marks.
    MeasuringCylinder,
    /// Graduated, zero at the top; one digit is estimated between the marks.
    GraduatedPipette,
    /// Graduated; one digit is estimated between the marks.
    Syringe,
    /// Drops are counted; a drop has a volume that somebody has measured.
    DroppingPipette,
    /// Liquid in glass, or a display.
    Thermometer,
    /// Digital, calibrated with buffers.
    PhMeter,
    /// Compared with a colour chart.
    PhPaper,
    /// Digital.
    Timer,
    /// A range: where it begins to melt, where all is clear.
    MeltingPoint,
    /// Anything else that shows a value: a conductivity meter, a colorimeter.
    Meter,
}

/// One named instrument of the room, in the unit it shows.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Instrument {
    /// As the room calls it: `Balance 1`.
    pub name: String,
    /// What kind it is.
    pub kind: InstrumentKind,
    /// The unit it shows.
    pub unit: String,
    /// Display step, or the smallest part of a division that is estimated.
    pub resolution: f64,
    /// Half-width of the tolerance of the volume, or the linearity of a balance.
    pub tolerance: f64,
    /// Standard deviation of repeated readings of one thing.
    pub repeatability: f64,
    /// The most it can show or deliver.
    pub capacity: f64,
    /// Half-width of the relative error of a balance's sensitivity: in proportion to the load, shared by all weighings.
    #[serde(default)]
    pub sensitivity: f64,
}

/// Where a part of the uncertainty comes from.
#[derive(Debug, Clone, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "kind", content = "of", rename_all = "kebab-case")]
pub enum Source {
    /// The tolerance of one named instrument: shared by all that is measured with it.
    Calibration(String),
    /// Reading it once: this reading's own.
    Reading(String),
    /// Where the end of a titration was seen: each titration's own.
    EndPoint(String),
    /// A stated property of a material, such as the strength on the label.
    Stated(String),
    /// The relative atomic mass of one element.
    AtomicMass(String),
    /// How points lie about a straight line through them.
    Scatter {
        /// What the points are of.
        what: String,
        /// One point, counted from 0; none for all together.
        point: Option<usize>,
    },
}

/// How a value lies about its best estimate; needed only when it is drawn at random.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Distribution {
    /// Many small reasons together.
    #[default]
    Normal,
    /// A tolerance, a display step: anywhere within, nowhere beyond.
    Rectangular,
    /// A tolerance that is mostly kept well.
    Triangular,
}

/// One standard uncertainty with its source, in the unit of the value it belongs to.
#[derive(Debug, Clone, PartialEq)]
pub struct Contribution {
    /// Where it comes from.
    pub source: Source,
    /// Standard uncertainty; the sign says which way a shared source moves this value.
    pub standard_uncertainty: f64,
    /// How it lies.
    pub distribution: Distribution,
}

impl Instrument {
    /// The contributions to one reading of `symbol`, showing `value`, in the instrument's own unit.
    #[must_use]
    pub fn contributions(&self, symbol: &str, value: f64, tolerances: Tolerances) -> Vec<Contribution> {
        let own = |u: f64| Contribution {
            source: Source::Reading(symbol.to_owned()),
            standard_uncertainty: u,
            distribution: Distribution::Normal,
        };
        let shared = |half_width: f64| Contribution {
            source: Source::Calibration(self.name.clone()),
            standard_uncertainty: tolerances.standard(half_width),
            distribution: tolerances.distribution(),
        };
        let resolution = self.resolution / 12f64.sqrt();
        match self.kind {
            InstrumentKind::Balance => {
                let mut parts =
                    vec![own(resolution.hypot(tolerances.standard(self.tolerance)).hypot(self.repeatability))];
                if self.sensitivity > 0.0 {
                    parts.push(shared(self.sensitivity * value));
                }
                parts
            }
            // Filled to its one mark: repeatability is how well the mark is hit; there is nothing to read off.
            InstrumentKind::VolumetricPipette | InstrumentKind::VolumetricFlask => {
                vec![shared(self.tolerance), own(self.repeatability)]
            }
            InstrumentKind::Burette
            | InstrumentKind::MeasuringCylinder
            | InstrumentKind::GraduatedPipette
            | InstrumentKind::Syringe
            | InstrumentKind::DroppingPipette
            | InstrumentKind::Thermometer
            | InstrumentKind::PhMeter
            | InstrumentKind::PhPaper
            | InstrumentKind::Timer
            | InstrumentKind::MeltingPoint
            | InstrumentKind::Meter => {
                vec![shared(self.tolerance), own(resolution.hypot(self.repeatability))]
            }
        }
    }

    /// The contributions to a tared weighing: the zero is a reading as well, so that its own part counts twice.
    #[must_use]
    pub fn tared_contributions(&self, symbol: &str, value: f64, tolerances: Tolerances) -> Vec<Contribution> {
        let mut parts = self.contributions(symbol, value, tolerances);
        for part in &mut parts {
            if matches!(part.source, Source::Reading(_)) {
                part.standard_uncertainty *= std::f64::consts::SQRT_2;
            }
        }
        parts
    }

    /// Whether its value is fixed by a mark instead of being read.
    #[must_use]
    pub fn is_nominal(&self) -> bool {
        matches!(self.kind, InstrumentKind::VolumetricPipette | InstrumentKind::VolumetricFlask)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn total(parts: &[Contribution]) -> f64 {
        parts.iter().map(|c| c.standard_uncertainty.powi(2)).sum::<f64>().sqrt()
    }

    /// EURACHEM/CITAC QUAM:2012, A2: linearity ± 0.15 mg counted at each of two points is 0.12 mg.
    #[test]
    fn linearity_of_a_balance_counts_at_both_points_of_a_difference() {
        let balance = Instrument {
            name: "Balance 1".into(),
            kind: InstrumentKind::Balance,
            unit: "mg".into(),
            resolution: 0.0,
            tolerance: 0.15,
            repeatability: 0.0,
            capacity: 200_000.0,
            sensitivity: 0.0,
        };
        let one = total(&balance.contributions("gross", 60_000.0, Tolerances::default()));
        assert_eq!(format!("{:.2}", one.hypot(one)), "0.12");
        // Tared, it is the same two points.
        assert_eq!(format!("{:.2}", total(&balance.tared_contributions("net", 388.8, Tolerances::default()))), "0.12");
        // 1 part in 10⁵ of 388.8 mg, rectangular, is 0.0022 mg and belongs to the balance, not to the reading.
        let drifting = Instrument { sensitivity: 1e-5, tolerance: 0.0, ..balance };
        let parts = drifting.contributions("net", 388.8, Tolerances::default());
        assert_eq!(parts[1].source, Source::Calibration("Balance 1".into()));
        assert_eq!(format!("{:.4}", parts[1].standard_uncertainty), "0.0022");
    }

    /// By hand: 0.03/√3 = 0.01732 shared, 0.01 of its own.
    #[test]
    fn a_pipette_has_a_shared_part_and_a_part_of_its_own() {
        let pipette = Instrument {
            name: "Pipette 25".into(),
            kind: InstrumentKind::VolumetricPipette,
            unit: "mL".into(),
            resolution: 0.0,
            tolerance: 0.03,
            repeatability: 0.01,
            capacity: 25.0,
            sensitivity: 0.0,
        };
        let parts = pipette.contributions("V_acid", 25.0, Tolerances::default());
        assert_eq!(parts[0].source, Source::Calibration("Pipette 25".into()));
        assert_eq!(format!("{:.5}", parts[0].standard_uncertainty), "0.01732");
        assert_eq!(parts[1].source, Source::Reading("V_acid".into()));
        assert_eq!(format!("{:.4}", total(&parts)), "0.0200");
        // Where the school takes a tolerance as triangular: 0.03/√6 = 0.01225.
        let parts = pipette.contributions("V_acid", 25.0, Tolerances::Triangular);
        assert_eq!(format!("{:.5}", parts[0].standard_uncertainty), "0.01225");
    }
}
