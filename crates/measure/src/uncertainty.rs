//! Standard uncertainty of one input, from what is known about it.
//!
//! A *component* is one reason why a value is not exact. Components of one input are independent and combine in
//! quadrature; a component that occurs several times (the two readings of a difference) counts that often.
//!
//! Sources: JCGM 100:2008 (GUM), 4.2.3 (mean of repeats), 4.3.7 (rectangular), 4.3.9 (triangular), F.2.2.1
//! (resolution); EURACHEM/CITAC CG 4 (QUAM:2012), example A2 (expansion of a volume with temperature).

use serde::{Deserialize, Serialize};

/// One reason why a value is not exact, in the unit of the value.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "kind", rename_all = "kebab-case", deny_unknown_fields)]
pub enum Component {
    /// A standard uncertainty that somebody states: u.
    Standard {
        /// u itself.
        u: f64,
    },
    /// A standard uncertainty in proportion to the value, in %.
    Relative {
        /// 100·u/value.
        percent: f64,
    },
    /// Within ± the half-width, nowhere more likely: a/√3.
    Rectangular {
        /// a.
        half_width: f64,
        /// How often it counts; 2 for a difference of two readings.
        #[serde(default = "once")]
        times: u32,
    },
    /// Within ± the half-width, most likely in the middle: a/√6.
    Triangular {
        /// a.
        half_width: f64,
        /// How often it counts.
        #[serde(default = "once")]
        times: u32,
    },
    /// Read or shown in steps of δ: δ/√12.
    Resolution {
        /// δ.
        step: f64,
        /// How often it counts.
        #[serde(default = "once")]
        times: u32,
    },
    /// Mean of repeats with standard deviation s: s/√n.
    Repeatability {
        /// s.
        sd: f64,
        /// n.
        repeats: u32,
    },
    /// A volume that expands: V·α·ΔT, rectangular.
    Temperature {
        /// How far from the temperature of calibration it may be, in K.
        half_width: f64,
        /// α of the liquid, per K.
        expansion: f64,
    },
}

fn once() -> u32 {
    1
}

impl Component {
    /// Standard uncertainty that this component gives to an input of this `value`.
    #[must_use]
    pub fn standard_uncertainty(&self, value: f64) -> f64 {
        let often = |u: f64, times: u32| u * f64::from(times).sqrt();
        match *self {
            Component::Standard { u } => u,
            Component::Relative { percent } => (value * percent / 100.0).abs(),
            Component::Rectangular { half_width, times } => often(half_width / 3f64.sqrt(), times),
            Component::Triangular { half_width, times } => often(half_width / 6f64.sqrt(), times),
            Component::Resolution { step, times } => often(step / 12f64.sqrt(), times),
            Component::Repeatability { sd, repeats } => sd / f64::from(repeats.max(1)).sqrt(),
            Component::Temperature { half_width, expansion } => (value * expansion * half_width / 3f64.sqrt()).abs(),
        }
    }
}

/// Components combined in quadrature: u² = Σ uᵢ².
#[must_use]
pub fn combined(components: &[Component], value: f64) -> f64 {
    components.iter().map(|c| c.standard_uncertainty(value).powi(2)).sum::<f64>().sqrt()
}

#[cfg(test)]
mod tests {
    use super::*;

    /// EURACHEM/CITAC QUAM:2012, A2: burette ± 0.03 mL triangular and 3 K on 18.64 mL give 0.014 mL (0.013998…).
    #[test]
    fn quam_a2_volume_of_titrant() {
        let parts = [
            Component::Triangular { half_width: 0.03, times: 1 },
            Component::Temperature { half_width: 3.0, expansion: 2.1e-4 },
        ];
        assert_eq!(format!("{:.5}", combined(&parts, 18.64)), "0.01400");
    }

    /// By hand: 0.01/√12 twice is 0.0040825; 0.02 over three repeats is 0.011547.
    #[test]
    fn steps_and_repeats() {
        let twice = Component::Resolution { step: 0.01, times: 2 };
        assert_eq!(format!("{:.7}", twice.standard_uncertainty(1.0)), "0.0040825");
        let mean = Component::Repeatability { sd: 0.02, repeats: 3 };
        assert_eq!(format!("{:.6}", mean.standard_uncertainty(1.0)), "0.011547");
    }
}
