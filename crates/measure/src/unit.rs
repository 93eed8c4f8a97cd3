//! Units of the job, written as chemists write them.
//!
//! A unit is a product of named units with small whole powers: `mol/L`, `mol L^-1`, `mol dm⁻³`, `g/cm3`, `%`, `1`.
//! Inside, values are held in g, L, mol, s, K and A. A bare `%` is a fraction of the same quantity; what a percentage of
//! a solution refers to (w/v, w/w, v/v) belongs to the material, never to the unit.

use crate::Dimension;
use std::fmt;

/// One unit as written, with what it is worth in base units (g, L, mol, s, K, A).
#[derive(Debug, Clone, PartialEq)]
pub struct Unit {
    written: String,
    dimension: Dimension,
    /// Worth `up`/`down` in base units: both are whole for decimal prefixes, so that 25.0 mL is 25.0/1000 L.
    ///
    /// Dividing by a whole number rounds once; multiplying by 0.001 would round twice.
    up: f64,
    down: f64,
    /// What zero of this unit is in base units: 273.15 for °C alone, 0 for every other.
    zero: f64,
}

/// Why a unit could not be read.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum UnitError {
    /// No such unit.
    #[error(
        "'{0}' is no unit known here; known are g, mg, kg, µg, mL, L, cm³, dm³, µL, mol, mmol, µmol, M, s, min, h, °C, K, Pa, kPa, bar, atm, mmHg, J, kJ, V, mV, A, mA, C, cm, nm, %, ppm and 1"
    )]
    Unknown(String),
    /// A power that is no small whole number.
    #[error("'{0}' is no power of a unit")]
    Power(String),
    /// More than a unit can sensibly hold.
    #[error("a unit has at most 30 characters and sensible powers")]
    TooMuch,
}

const NAMED: &[(&str, Dimension, f64)] = &[
    ("1", Dimension::ONE, 1.0),
    ("%", Dimension::ONE, 1e-2),
    ("percent", Dimension::ONE, 1e-2),
    ("‰", Dimension::ONE, 1e-3),
    ("ppm", Dimension::ONE, 1e-6),
    ("ppb", Dimension::ONE, 1e-9),
    ("g", Dimension::MASS, 1.0),
    ("gram", Dimension::MASS, 1.0),
    ("grams", Dimension::MASS, 1.0),
    ("mg", Dimension::MASS, 1e-3),
    ("kg", Dimension::MASS, 1e3),
    ("µg", Dimension::MASS, 1e-6),
    ("ug", Dimension::MASS, 1e-6),
    ("ng", Dimension::MASS, 1e-9),
    ("L", Dimension::VOLUME, 1.0),
    ("l", Dimension::VOLUME, 1.0),
    ("mL", Dimension::VOLUME, 1e-3),
    ("ml", Dimension::VOLUME, 1e-3),
    ("µL", Dimension::VOLUME, 1e-6),
    ("µl", Dimension::VOLUME, 1e-6),
    ("uL", Dimension::VOLUME, 1e-6),
    ("ul", Dimension::VOLUME, 1e-6),
    ("cc", Dimension::VOLUME, 1e-3),
    // Lengths in dm, so that their cubes are litres.
    ("nm", Dimension::LENGTH, 1e-8),
    ("µm", Dimension::LENGTH, 1e-5),
    ("um", Dimension::LENGTH, 1e-5),
    ("mm", Dimension::LENGTH, 1e-2),
    ("cm", Dimension::LENGTH, 1e-1),
    ("dm", Dimension::LENGTH, 1.0),
    ("m", Dimension::LENGTH, 10.0),
    ("mol", Dimension::AMOUNT, 1.0),
    ("mmol", Dimension::AMOUNT, 1e-3),
    ("µmol", Dimension::AMOUNT, 1e-6),
    ("umol", Dimension::AMOUNT, 1e-6),
    ("nmol", Dimension::AMOUNT, 1e-9),
    ("kmol", Dimension::AMOUNT, 1e3),
    ("M", Dimension::CONCENTRATION, 1.0),
    ("mM", Dimension::CONCENTRATION, 1e-3),
    ("µM", Dimension::CONCENTRATION, 1e-6),
    ("uM", Dimension::CONCENTRATION, 1e-6),
    ("nM", Dimension::CONCENTRATION, 1e-9),
    ("s", Dimension::TIME, 1.0),
    ("sec", Dimension::TIME, 1.0),
    ("min", Dimension::TIME, 60.0),
    ("h", Dimension::TIME, 3600.0),
    ("K", Dimension::TEMPERATURE, 1.0),
    // In g, dm and s a pascal is 100.
    ("Pa", Dimension::PRESSURE, 1e2),
    ("hPa", Dimension::PRESSURE, 1e4),
    ("kPa", Dimension::PRESSURE, 1e5),
    ("bar", Dimension::PRESSURE, 1e7),
    ("mbar", Dimension::PRESSURE, 1e4),
    ("atm", Dimension::PRESSURE, 1.013_25e7),
    // Millimetres of mercury at 0 °C under standard gravity (ISO 80000-4).
    ("mmHg", Dimension::PRESSURE, 1.333_223_874_15e4),
    ("Torr", Dimension::PRESSURE, 1.013_25e7 / 760.0),
    ("J", Dimension::ENERGY, 1e5),
    ("kJ", Dimension::ENERGY, 1e8),
    ("MJ", Dimension::ENERGY, 1e11),
    ("A", Dimension::CURRENT, 1.0),
    ("mA", Dimension::CURRENT, 1e-3),
    ("C", Dimension::CHARGE, 1.0),
    // A volt is a joule for each coulomb.
    ("V", Dimension::POTENTIAL, 1e5),
    ("mV", Dimension::POTENTIAL, 1e2),
];

/// Units that a chemist takes for a quantity where they stand alone: an absorbance, a heat capacity, a volume, the mass of A.
const QUANTITIES_FIRST: [&str; 6] = ["A", "C", "V", "mA", "mV", "MJ"];

/// Where the scale of degrees Celsius has its zero, in K. Exact by definition.
const CELSIUS_ZERO: f64 = 273.15;

impl Unit {
    /// The unit of a pure number.
    #[must_use]
    pub fn one() -> Unit {
        Unit { written: "1".into(), dimension: Dimension::ONE, up: 1.0, down: 1.0, zero: 0.0 }
    }

    /// The product of base units with this dimension, for a quantity that no usual unit fits.
    #[must_use]
    pub fn in_base(dimension: Dimension) -> Unit {
        Unit { written: format!("(g, dm, mol, s, K, A): {dimension}"), dimension, up: 1.0, down: 1.0, zero: 0.0 }
    }

    /// The unit that a text names.
    ///
    /// # Errors
    /// [`UnitError`], naming the part that is not known.
    ///
    /// ```
    /// use measure::Unit;
    /// let molar = Unit::parse("mol dm⁻³").unwrap();
    /// assert_eq!(molar.dimension(), Unit::parse("mol/L").unwrap().dimension());
    /// assert!((Unit::parse("mL").unwrap().to_base(25.0) - 0.025).abs() < 1e-15);
    /// ```
    pub fn parse(text: &str) -> Result<Unit, UnitError> {
        // The Greek letter and the micro sign look the same.
        let text = text.trim().replace('μ', "µ");
        let text = text.as_str();
        if text.chars().count() > 30 {
            return Err(UnitError::TooMuch);
        }
        if text.is_empty() {
            return Err(UnitError::Unknown(String::new()));
        }
        if matches!(text, "°C" | "℃" | "ºC" | "degC" | "deg C") {
            let dimension = Dimension::TEMPERATURE;
            return Ok(Unit { written: "°C".into(), dimension, up: 1.0, down: 1.0, zero: CELSIUS_ZERO });
        }
        let mut dimension = Dimension::ONE;
        let (mut up, mut down) = (1.0f64, 1.0f64);
        for (name, power) in powers(text)? {
            let (d, f) = named(name).ok_or_else(|| UnitError::Unknown(name.to_owned()))?;
            dimension = d.power(power).and_then(|d| dimension.times(d)).ok_or(UnitError::TooMuch)?;
            let (more, less) = if f < 1.0 { (1.0, (1.0 / f).round()) } else { (f, 1.0) };
            let (above, below) = if power < 0 { (less, more) } else { (more, less) };
            up *= above.powi(i32::from(power.abs()));
            down *= below.powi(i32::from(power.abs()));
        }
        Ok(Unit { written: text.to_owned(), dimension, up, down, zero: 0.0 })
    }

    /// Whether a word standing alone is a unit: `mL` is one, `V` is a volume before it is a volt.
    #[must_use]
    pub fn is_one(word: &str) -> bool {
        !QUANTITIES_FIRST.contains(&word) && Unit::parse(word).is_ok()
    }

    /// What it measures.
    #[must_use]
    pub fn dimension(&self) -> Dimension {
        self.dimension
    }

    /// A value in this unit, in base units. Rounded once, where it has to be rounded at all.
    #[must_use]
    pub fn to_base(&self, value: f64) -> f64 {
        self.difference_to_base(value) + self.zero
    }

    /// A value in base units, in this unit.
    #[must_use]
    pub fn from_base(&self, value: f64) -> f64 {
        self.difference_from_base(value - self.zero)
    }

    /// A difference, a half-width or an uncertainty in this unit, in base units: 0.5 °C is 0.5 K.
    #[must_use]
    pub fn difference_to_base(&self, value: f64) -> f64 {
        value * self.up / self.down
    }

    /// A difference, a half-width or an uncertainty in base units, in this unit.
    #[must_use]
    pub fn difference_from_base(&self, value: f64) -> f64 {
        value * self.down / self.up
    }

    /// As it was written.
    #[must_use]
    pub fn written(&self) -> &str {
        &self.written
    }

    /// Whether two spellings mean the same unit: `mol/L` and `M` do, `mL` and `L` do not.
    #[must_use]
    pub fn same_as(&self, other: &Unit) -> bool {
        let same_size = (self.up * other.down / (self.down * other.up) - 1.0).abs() < 1e-12;
        self.dimension == other.dimension && same_size && self.zero == other.zero
    }
}

impl fmt::Display for Unit {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(&self.written)
    }
}

fn named(name: &str) -> Option<(Dimension, f64)> {
    NAMED.iter().find(|(n, ..)| *n == name).map(|&(_, d, f)| (d, f))
}

/// The named units of a text with their powers: `J/(g K)` is J, g⁻¹ and K⁻¹.
fn powers(text: &str) -> Result<Vec<(&str, i8)>, UnitError> {
    let unknown = || UnitError::Unknown(text.to_owned());
    let mut found = Vec::new();
    for (i, side) in text.split('/').enumerate() {
        let below = i > 0;
        let side = match side.trim().strip_prefix('(') {
            Some(bracketed) => bracketed.strip_suffix(')').filter(|_| below).ok_or_else(unknown)?,
            None => side,
        };
        let before = found.len();
        for part in side.split([' ', '\u{a0}', '\u{2009}', '\u{202f}', '·', '⋅', '*']).filter(|p| !p.is_empty()) {
            let (name, power) = split_power(part)?;
            // `moldm-3`: what carries a negative power may be written close to what stands before it.
            let close = name.find("dm").or_else(|| name.find("cm")).or_else(|| name.find("mol")).filter(|at| *at > 0);
            match close.filter(|_| power < 0 && named(name).is_none()) {
                Some(at) => found.extend([(&name[..at], 1), (&name[at..], power)]),
                None => found.push((name, if below { -power } else { power })),
            }
        }
        // `/s` has one above; `g/` has lost what stood below.
        if below && found.len() == before {
            return Err(unknown());
        }
    }
    Ok(found)
}

/// `dm⁻³`, `dm^-3` and `dm3` are `dm` and its power; without one the power is 1.
fn split_power(part: &str) -> Result<(&str, i8), UnitError> {
    let end = part
        .char_indices()
        .skip(1)
        .find(|(_, c)| c.is_ascii_digit() || matches!(c, '^' | '-' | '\u{2212}' | '⁻' | '¹' | '²' | '³'))
        .map_or(part.len(), |(i, _)| i);
    let (name, power) = part.split_at(end);
    if power.is_empty() {
        return Ok((name, 1));
    }
    let plain: String = power
        .chars()
        .filter(|c| *c != '^')
        .map(|c| match c {
            '⁻' | '\u{2212}' => '-',
            '¹' => '1',
            '²' => '2',
            '³' => '3',
            other => other,
        })
        .collect();
    match plain.parse::<i8>() {
        Ok(n) if n != 0 && n.abs() <= 6 => Ok((name, n)),
        _ => Err(UnitError::Power(power.to_owned())),
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn unit(text: &str) -> Unit {
        Unit::parse(text).unwrap()
    }

    /// One mole per litre, and the gram per cubic centimetre, in the spellings of both schools.
    #[test]
    fn both_schools_of_writing_mean_the_same() {
        for spelling in ["M", "mol/L", "mol L^-1", "mol·L⁻¹", "mol dm^-3", "mol dm⁻³", "mmol/mL", "mol/dm3"] {
            assert!(unit(spelling).same_as(&unit("mol/L")), "{spelling}");
        }
        assert!(unit("g/cm³").same_as(&unit("kg/L")));
        assert!(!unit("mL").same_as(&unit("L")));
        assert_eq!(unit("g/cm3").dimension(), Dimension::DENSITY);
        assert_eq!(unit("g/mol").dimension(), Dimension::MOLAR_MASS);
    }

    #[test]
    fn a_value_goes_to_base_units_and_back() {
        for (written, base) in
            [("mL", 0.025), ("L", 25.0), ("%", 0.25), ("min", 1500.0), ("cm3", 0.025), ("°C", 298.15), ("kPa", 2.5e6)]
        {
            let u = unit(written);
            assert!((u.to_base(25.0) - base).abs() < 1e-12 * base, "{written}");
            assert!((u.from_base(u.to_base(0.1)) - 0.1).abs() < 1e-13);
        }
        assert_eq!(unit("mL").to_base(24.35), 0.02435);
        assert_eq!(unit("°C").difference_to_base(0.5), 0.5);
        assert!(!unit("°C").same_as(&unit("K")));
        // A watt for a second, and a volt through which a coulomb falls, are a joule each.
        assert!(unit("V C").same_as(&unit("J")) && unit("V A s").same_as(&unit("J")));
        // 8.314 46 J/(mol K) in kPa·L: both routes to the gas constant agree.
        assert!((unit("kPa").to_base(8.314) - unit("J").to_base(8.314)).abs() < 1e-6);
    }

    proptest! {
        #[test]
        fn conversion_goes_there_and_back(value in -1e6f64..1e6, which in 0usize..NAMED.len()) {
            let u = unit(NAMED[which].0);
            let back = u.from_base(u.to_base(value));
            prop_assert!((back - value).abs() <= 1e-12 * value.abs().max(1e-3));
        }
    }

    /// `0.5 mol / V` divides by a volume, as it did before there were volts.
    #[test]
    fn letters_of_quantities_are_no_units_where_they_stand_alone() {
        assert!(Unit::is_one("mL") && Unit::is_one("kJ") && Unit::is_one("g"));
        assert!(
            !Unit::is_one("mA")
                && !Unit::is_one("V")
                && !Unit::is_one("A")
                && !Unit::is_one("C")
                && !Unit::is_one("titre")
        );
        assert_eq!(unit("V").dimension(), Dimension::POTENTIAL);
    }

    #[test]
    fn an_unknown_unit_is_named() {
        assert!(Unit::parse("ml/furlong").unwrap_err().to_string().starts_with("'furlong' is no unit known here"));
        assert_eq!(Unit::parse("g^99").unwrap_err().to_string(), "'^99' is no power of a unit");
        assert_eq!(Unit::parse("<b>g</b>").unwrap_err(), UnitError::Unknown("<b>g<".into()));
    }
}
