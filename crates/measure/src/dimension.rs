//! Dimensions at run time: what a quantity may be added to.

use std::fmt;
use std::ops::{Div, Mul};

/// Exponents of the base quantities of the job: mass, length, amount of substance, time, temperature,
/// electric current.
///
/// A volume is length³ and a density mass/length³, so a density times a volume is seen to be a mass.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default)]
pub struct Dimension([i8; 6]);

impl Dimension {
    /// A pure number, a ratio, a percentage.
    pub const ONE: Dimension = Dimension([0; 6]);
    /// Mass.
    pub const MASS: Dimension = Dimension([1, 0, 0, 0, 0, 0]);
    /// Length.
    pub const LENGTH: Dimension = Dimension([0, 1, 0, 0, 0, 0]);
    /// Volume.
    pub const VOLUME: Dimension = Dimension([0, 3, 0, 0, 0, 0]);
    /// Amount of substance.
    pub const AMOUNT: Dimension = Dimension([0, 0, 1, 0, 0, 0]);
    /// Time.
    pub const TIME: Dimension = Dimension([0, 0, 0, 1, 0, 0]);
    /// Temperature.
    pub const TEMPERATURE: Dimension = Dimension([0, 0, 0, 0, 1, 0]);
    /// Energy for each kelvin.
    pub const HEAT_CAPACITY: Dimension = Dimension([1, 2, 0, -2, -1, 0]);
    /// Energy for each gram and kelvin.
    pub const SPECIFIC_HEAT: Dimension = Dimension([0, 2, 0, -2, -1, 0]);
    /// Temperature for each amount in a mass of solvent.
    pub const CRYOSCOPIC: Dimension = Dimension([1, 0, -1, 0, 1, 0]);
    /// Electric current.
    pub const CURRENT: Dimension = Dimension([0, 0, 0, 0, 0, 1]);
    /// Current times time.
    pub const CHARGE: Dimension = Dimension([0, 0, 0, 1, 0, 1]);
    /// Energy per charge.
    pub const POTENTIAL: Dimension = Dimension([1, 2, 0, -3, 0, -1]);
    /// Mass per amount of substance.
    pub const MOLAR_MASS: Dimension = Dimension([1, 0, -1, 0, 0, 0]);
    /// Amount of substance per volume.
    pub const CONCENTRATION: Dimension = Dimension([0, -3, 1, 0, 0, 0]);
    /// Force per area.
    pub const PRESSURE: Dimension = Dimension([1, -1, 0, -2, 0, 0]);
    /// Force times length.
    pub const ENERGY: Dimension = Dimension([1, 2, 0, -2, 0, 0]);
    /// Mass per volume.
    pub const DENSITY: Dimension = Dimension([1, -3, 0, 0, 0, 0]);

    /// This dimension to the power `n`; `None` when an exponent would leave any sensible range.
    #[must_use]
    pub fn power(self, n: i8) -> Option<Dimension> {
        self.map(|e| e.checked_mul(n))
    }

    /// The product, `None` when an exponent would leave any sensible range.
    #[must_use]
    pub fn times(self, other: Dimension) -> Option<Dimension> {
        let mut out = [0; 6];
        for (o, (a, b)) in out.iter_mut().zip(self.0.iter().zip(other.0)) {
            *o = a.checked_add(b).filter(|e| e.abs() <= 24)?;
        }
        Some(Dimension(out))
    }

    fn map(self, f: impl Fn(i8) -> Option<i8>) -> Option<Dimension> {
        let mut out = [0; 6];
        for (o, e) in out.iter_mut().zip(self.0) {
            *o = f(e).filter(|e| e.abs() <= 24)?;
        }
        Some(Dimension(out))
    }
}

/// For dimensions known in the code; text goes through [`Dimension::times`].
impl Mul for Dimension {
    type Output = Dimension;
    fn mul(self, other: Dimension) -> Dimension {
        self.times(other).expect("the dimensions of the code stay small")
    }
}

/// For dimensions known in the code; text goes through [`Dimension::times`].
impl Div for Dimension {
    type Output = Dimension;
    fn div(self, other: Dimension) -> Dimension {
        other.power(-1).and_then(|inverse| self.times(inverse)).expect("the dimensions of the code stay small")
    }
}

/// In the words of the bench where there is one: `a mass`, `an amount concentration`; else by base quantities.
impl fmt::Display for Dimension {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let known = [
            (Dimension::ONE, "a pure number"),
            (Dimension::MASS, "a mass"),
            (Dimension::VOLUME, "a volume"),
            (Dimension::AMOUNT, "an amount of substance"),
            (Dimension::TIME, "a time"),
            (Dimension::TEMPERATURE, "a temperature"),
            (Dimension::MOLAR_MASS, "a molar mass"),
            (Dimension::CONCENTRATION, "an amount concentration"),
            (Dimension::DENSITY, "a density"),
            (Dimension::PRESSURE, "a pressure"),
            (Dimension::ENERGY, "an energy"),
            (Dimension::HEAT_CAPACITY, "a heat capacity"),
            (Dimension::SPECIFIC_HEAT, "a specific heat"),
            (Dimension::CURRENT, "a current"),
            (Dimension::CHARGE, "a charge"),
            (Dimension::POTENTIAL, "a potential"),
        ];
        if let Some((_, word)) = known.iter().find(|(d, _)| d == self) {
            return f.write_str(word);
        }
        let names = ["mass", "length", "amount", "time", "temperature", "current"];
        let parts: Vec<String> =
            names.iter().zip(self.0).filter(|(_, e)| *e != 0).map(|(n, e)| format!("{n}^{e}")).collect();
        f.write_str(&parts.join(" "))
    }
}
