//! What water takes up of a substance, at a temperature.

use super::{Amount, Material, Practical};
use measure::Dimension;

impl Practical {
    /// Mass fraction of what the solubility counts in the material, and grams of it in 100 g of water at `celsius`.
    #[must_use]
    pub fn soluble(&self, m: &Material, celsius: f64) -> Option<(f64, f64)> {
        let (of, at) = m.solubility.as_ref()?;
        let counted = of.molar_mass(&self.school.atomic_masses).ok()?.value;
        let supplied = m.formula.as_ref()?;
        let fraction = counted / supplied.molar_mass(&self.school.atomic_masses).ok()?.value;
        Some((fraction.min(1.0), grams_taken_up(at, celsius)?))
    }
}

/// Grams in 100 g of water at a temperature between those of the table; none beyond them, or where it takes up nothing.
pub(super) fn grams_taken_up(at: &[[f64; 2]], celsius: f64) -> Option<f64> {
    let (first, last) = (at.first()?, at.last()?);
    if !(first[0]..=last[0]).contains(&celsius) {
        return None;
    }
    let upper = at.iter().position(|p| p[0] >= celsius)?;
    let [t1, s1] = at[upper];
    let [t0, s0] = at[upper.saturating_sub(1)];
    let s = if t1 > t0 { s0 + (s1 - s0) * (celsius - t0) / (t1 - t0) } else { s1 };
    (s > 0.0).then_some(s)
}

/// A temperature as written, in °C.
#[must_use]
pub fn celsius(text: &str) -> Option<f64> {
    Amount::parse(text).ok().map(|a| a.base() - 273.15)
}

/// Grams of water in a mass or a volume of it.
#[must_use]
pub fn grams_of_water(text: &str) -> Option<f64> {
    let amount = Amount::parse(text).ok()?;
    match amount.unit.dimension() {
        Dimension::VOLUME => Some(amount.base() * 1000.0),
        Dimension::MASS => Some(amount.base()),
        _ => None,
    }
}
