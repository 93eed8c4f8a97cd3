//! Acid–base indicators: which part of one is in its basic form at a pH.
//!
//! One pair of acid and base, with the pKa in the middle of the transition range of the tables; an ideal dilute solution.
//!
//! Source: Harris, Quantitative Chemical Analysis, 9th ed., table 11-3 (transition ranges) and 11.6.

use serde::{Deserialize, Serialize};

/// An indicator of acid–base titrations.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Indicator {
    /// Colourless to pink.
    Phenolphthalein,
    /// Red to yellow, in acid solution.
    MethylOrange,
    /// Red to yellow, nearer to neutral.
    MethylRed,
    /// Yellow to blue, about neutral.
    BromothymolBlue,
}

impl Indicator {
    /// The middle of its transition range.
    #[must_use]
    pub fn pka(self) -> f64 {
        match self {
            Indicator::Phenolphthalein => 9.0,
            Indicator::MethylOrange => 3.8,
            Indicator::MethylRed => 5.4,
            Indicator::BromothymolBlue => 6.8,
        }
    }

    /// The part of it that is in its basic form, 0 to 1.
    #[must_use]
    pub fn basic_part(self, ph: f64) -> f64 {
        1.0 / (1.0 + 10f64.powf(self.pka() - ph))
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Over its transition range an indicator goes from a tenth to nine tenths or so: none is changed outside of it.
    #[test]
    fn each_turns_within_its_range() {
        let ranges = [
            (Indicator::Phenolphthalein, 8.0, 10.0),
            (Indicator::MethylOrange, 3.1, 4.4),
            (Indicator::MethylRed, 4.8, 6.0),
            (Indicator::BromothymolBlue, 6.0, 7.6),
        ];
        for (indicator, low, high) in ranges {
            assert!(indicator.basic_part(low) < 0.25 && indicator.basic_part(high) > 0.75, "{indicator:?}");
            assert!((low..high).contains(&indicator.pka()));
        }
    }
}
