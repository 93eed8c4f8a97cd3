//! How a material is supplied, and how the amount of it follows from what is read.
//!
//! n = m·w/M (solid), V·c (solution by amount), V·ρ*/M (by mass per volume, ρ* = m/V), V·ρ·w/M (by mass fraction, and a
//! liquid), V·p/(R·T) (gas, ideal).
//!
//! Sources and expressions: [`book`].

use super::amount::{Basis, Stated};
use super::book;
use super::error::PracticalProblem as Problem;
use super::file::Form;
use measure::rounding::{Ties, decimal_of, to_figures};
use measure::{Decimal, Dimension, Unit};
use sheet::Quantity;

/// How a material is supplied, read and checked.
#[derive(Debug, Clone, PartialEq)]
pub enum Supply {
    /// Weighed.
    Solid {
        /// Mass fraction of the formula in it; pure if none.
        purity: Option<Stated>,
    },
    /// Measured by volume, or weighed.
    Liquid {
        /// Its density.
        density: Option<Stated>,
        /// Mass or volume fraction of the formula in it.
        purity: Option<Stated>,
        /// Weighed, not measured by volume.
        weighed: bool,
    },
    /// A solution, measured by volume.
    Solution(Strength),
    /// A saturated solution of which nothing says how much is in there.
    Saturated,
    /// A gas, measured by volume.
    Gas {
        /// p/(R·T).
        concentration: Quantity,
    },
}

/// How strong a solution is.
#[derive(Debug, Clone, PartialEq)]
pub struct Strength {
    /// As stated, of the solution before it is diluted.
    pub stated: Stated,
    /// What the figure is.
    pub kind: StrengthKind,
    /// Of the solution, for a mass fraction; of the pure liquid, for a volume fraction.
    pub density: Option<Stated>,
    /// How it is diluted, and how many times.
    pub dilution: Option<(String, f64)>,
    /// At which temperature it is saturated, as written, where its strength comes from that.
    pub saturated_at: Option<String>,
}

/// How far a strength that is only about so may be off, as a part of it.
const ABOUT: f64 = 0.1;

/// What the figure of a strength is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum StrengthKind {
    /// mol/L.
    Amount,
    /// g/L.
    MassPerVolume,
    /// A percentage; if its basis is not said, mass in volume is reckoned with.
    Percent(Option<Basis>),
}

impl Strength {
    /// Amount concentration, in mol/L, if the figure is of this kind; diluted.
    #[must_use]
    pub fn concentration(&self, kind: StrengthKind, m: f64) -> Option<f64> {
        let value = self.stated.base();
        let undiluted = match kind {
            StrengthKind::Amount => value,
            StrengthKind::MassPerVolume => value / m,
            // 10 % w/v is 0.10 g/mL, that is 100 g/L.
            StrengthKind::Percent(Some(Basis::MassInVolume) | None) => value * 1000.0 / m,
            StrengthKind::Percent(Some(Basis::MassInMass | Basis::VolumeInVolume)) => {
                value * self.density.as_ref()?.base() / m
            }
        };
        Some(undiluted / self.dilution.as_ref().map_or(1.0, |(_, n)| *n))
    }
}

fn read(text: &str, dimensions: &[Dimension]) -> Result<Stated, Problem> {
    Stated::positive(text, dimensions).map_err(|e| Problem::Quantity { text: text.to_owned(), reason: e.to_string() })
}

fn fraction(text: &str) -> Result<Stated, Problem> {
    let stated = read(text, &[Dimension::ONE])?;
    if stated.ends().1 > 1.0 + 1e-9 {
        return Err(Problem::Quantity { text: text.to_owned(), reason: "a part is not more than the whole".into() });
    }
    Ok(stated)
}

impl Supply {
    /// The checked form of a file's form; `dissolved` is the mass fraction of the material in its saturated solution, by the
    /// temperature in °C, where its solubility is known.
    ///
    /// # Errors
    /// What is wrong with a quantity of it.
    pub fn read(form: &Form, dissolved: impl Fn(f64) -> Option<f64>) -> Result<Supply, Problem> {
        let density = |text: &Option<String>| text.as_deref().map(|d| read(d, &[Dimension::DENSITY])).transpose();
        let purity = |text: &Option<String>| -> Result<Option<Stated>, Problem> {
            let stated = text.as_deref().map(fraction).transpose()?;
            if stated.as_ref().is_some_and(|s| matches!(s.basis, Some(Basis::MassInVolume | Basis::VolumeInVolume))) {
                return Err(Problem::Senseless("a purity is a mass fraction: write '% w/w'"));
            }
            Ok(stated)
        };
        Ok(match form {
            Form::Solid { purity: p } => Supply::Solid { purity: purity(p)? },
            Form::Liquid { density: d, purity: p, weighed } => {
                let density = density(d)?;
                // 96 % v/v of a liquid measured by volume: the density is that of the pure one.
                let purity = match p.as_deref().map(fraction).transpose()?.filter(by_volume) {
                    Some(_) if *weighed || density.is_none() => {
                        let told =
                            "a purity v/v is of a liquid measured by volume, with the density of the pure liquid";
                        return Err(Problem::Senseless(told));
                    }
                    Some(stated) => Some(stated),
                    None => purity(p)?,
                };
                Supply::Liquid { density, purity, weighed: *weighed }
            }
            Form::Saturated { at, density: d } => {
                let celsius = read(at, &[Dimension::TEMPERATURE])?.base() - 273.15;
                let Some(fraction) = dissolved(celsius) else {
                    return Err(Problem::Senseless("nothing says how much of it water takes up at this temperature"));
                };
                match density(d)? {
                    None => Supply::Saturated,
                    Some(density) => {
                        let value = decimal_of(100.0 * fraction).map(|d| to_figures(d, 4, Ties::HalfUp));
                        let value = value.ok_or(Problem::Senseless("no solution is as strong as this"))?;
                        let unit = Unit::parse("%").expect("a unit of the job");
                        let amount = super::Amount { value, unit };
                        let basis = Some(Basis::MassInMass);
                        Supply::Solution(Strength {
                            stated: Stated { amount, half_width: 0.0, ranged: false, basis },
                            kind: StrengthKind::Percent(basis),
                            density: Some(density),
                            dilution: None,
                            saturated_at: Some(at.trim().to_owned()),
                        })
                    }
                }
            }
            Form::Gas { temperature, pressure } => {
                let t = read(temperature, &[Dimension::TEMPERATURE])?;
                let p = read(pressure, &[Dimension::PRESSURE])?;
                if t.base() <= 0.0 {
                    return Err(Problem::Senseless("a gas has a temperature above absolute zero"));
                }
                // In g, dm and s a pascal is 100, and so is a joule 10⁵: p/(R·T) comes out in mol/L.
                let gas_constant: f64 = book::GAS_CONSTANT.parse().expect("a number");
                let value = p.base() / (gas_constant * 1e5 * t.base());
                let value = decimal_of(value).map(|d| to_figures(d, 4, Ties::HalfUp));
                let value = value.ok_or(Problem::Senseless("no gas has this pressure"))?;
                let unit = Unit::parse("mol/L").expect("a unit of the job");
                Supply::Gas { concentration: Quantity { value, unit, half_width: 0.0 } }
            }
            Form::Solution { strength, density: d, dilution } => {
                let (strength, about) = match strength.trim().strip_prefix("about ") {
                    Some(rest) => (rest, true),
                    None => (strength.as_str(), false),
                };
                let mut stated = read(strength, &[Dimension::CONCENTRATION, Dimension::DENSITY, Dimension::ONE])?;
                if about {
                    stated.half_width = stated.half_width.max(ABOUT * stated.amount.value.to_f64());
                    stated.ranged = true;
                }
                let dimension = stated.amount.unit.dimension();
                let kind = match dimension {
                    Dimension::CONCENTRATION => StrengthKind::Amount,
                    Dimension::DENSITY => StrengthKind::MassPerVolume,
                    _ => StrengthKind::Percent(fraction(strength)?.basis),
                };
                let density = density(d)?;
                if matches!(kind, StrengthKind::Percent(Some(Basis::MassInMass | Basis::VolumeInVolume)))
                    && density.is_none()
                {
                    return Err(Problem::Senseless(
                        "a percentage w/w needs the density of the solution, one v/v that of the pure liquid",
                    ));
                }
                let dilution = dilution.as_deref().map(|d| times(d).map(|n| (d.to_owned(), n))).transpose()?;
                Supply::Solution(Strength { stated, kind, density, dilution, saturated_at: None })
            }
        })
    }

    /// The expression for the amount of `symbol` in what `reading` says was used; none where nothing says how much
    /// of it is in there.
    #[must_use]
    pub fn amount(&self, symbol: &str, reading: &str) -> Option<String> {
        let leaf = |of: &str| format!("{of}({symbol})");
        let (molar_mass, density, purity) = (leaf("M"), leaf("density"), leaf("purity"));
        let stated = |p: &Option<Stated>| p.is_some().then_some(purity.as_str());
        Some(match self {
            Supply::Solid { purity } | Supply::Liquid { purity, weighed: true, .. } => {
                book::amount_of_solid(reading, stated(purity), &molar_mass)
            }
            Supply::Liquid { density: None, .. } | Supply::Saturated => return None,
            Supply::Liquid { purity, .. } => book::amount_of_liquid(reading, &density, stated(purity), &molar_mass),
            Supply::Gas { .. } => book::amount_of_solution(reading, &leaf("concentration")),
            Supply::Solution(strength) => {
                let undiluted = match strength.kind {
                    StrengthKind::Amount => book::amount_of_solution(reading, &leaf("concentration")),
                    StrengthKind::MassPerVolume | StrengthKind::Percent(Some(Basis::MassInVolume) | None) => {
                        book::amount_by_mass_concentration(reading, &leaf("mass_concentration"), &molar_mass)
                    }
                    StrengthKind::Percent(Some(Basis::MassInMass | Basis::VolumeInVolume)) => {
                        book::amount_of_liquid(reading, &density, Some(&purity), &molar_mass)
                    }
                };
                match &strength.dilution {
                    Some((_, n)) => format!("{undiluted} / {n}"),
                    None => undiluted,
                }
            }
        })
    }

    /// Amount of substance, in mol, in `quantity` of it (g or L), of molar mass `m` in g/mol.
    ///
    /// The same as [`Supply::amount`] says in the sheet's language, for plans that have no reading yet.
    #[must_use]
    pub fn moles(&self, quantity: f64, m: f64) -> Option<f64> {
        let part = |purity: &Option<Stated>| purity.as_ref().map_or(1.0, Stated::base);
        Some(match self {
            Supply::Solid { purity } | Supply::Liquid { purity, weighed: true, .. } => quantity * part(purity) / m,
            Supply::Liquid { density, purity, .. } => quantity * density.as_ref()?.base() * part(purity) / m,
            Supply::Saturated => return None,
            Supply::Gas { concentration } => quantity * concentration.unit.to_base(concentration.value.to_f64()),
            Supply::Solution(s) => quantity * s.concentration(s.kind, m)?,
        })
    }

    /// The mass of `quantity` of it (g or L), in g: of a solid what was weighed, of a liquid by its density; of a solution or a
    /// gas nobody weighs what reacts.
    #[must_use]
    pub fn mass(&self, quantity: f64) -> Option<f64> {
        match self {
            Supply::Solid { .. } | Supply::Liquid { weighed: true, .. } => Some(quantity),
            Supply::Liquid { density, .. } => Some(quantity * density.as_ref()?.base()),
            Supply::Gas { .. } | Supply::Solution(_) | Supply::Saturated => None,
        }
    }

    /// Whether its amount is computed from a mass; from a volume otherwise.
    #[must_use]
    pub fn is_weighed(&self) -> bool {
        matches!(self, Supply::Solid { .. } | Supply::Liquid { weighed: true, .. })
    }

    /// The stated quantity that scales its amount: purity or strength.
    #[must_use]
    pub fn stated(&self) -> Option<&Stated> {
        match self {
            Supply::Solid { purity } | Supply::Liquid { purity, .. } => purity.as_ref(),
            Supply::Solution(strength) => Some(&strength.stated),
            Supply::Gas { .. } | Supply::Saturated => None,
        }
    }

    /// What the sheet is told of it.
    pub(super) fn tell(&self, known: &mut sheet::Material) {
        match self {
            Supply::Solid { purity } => known.purity = purity.as_ref().map(quantity),
            Supply::Saturated => {}
            Supply::Liquid { density, purity, .. } => {
                known.density = density.as_ref().map(quantity);
                known.purity = purity.as_ref().map(quantity);
            }
            Supply::Gas { concentration } => known.concentration = Some(concentration.clone()),
            Supply::Solution(s) => {
                known.density = s.density.as_ref().map(quantity);
                match s.kind {
                    StrengthKind::Amount => known.concentration = Some(quantity(&s.stated)),
                    StrengthKind::MassPerVolume => known.mass_concentration = Some(quantity(&s.stated)),
                    StrengthKind::Percent(Some(Basis::MassInVolume) | None) => {
                        known.mass_concentration = Some(mass_in_volume(&s.stated));
                    }
                    StrengthKind::Percent(Some(Basis::MassInMass | Basis::VolumeInVolume)) => {
                        known.purity = Some(quantity(&s.stated));
                    }
                }
            }
        }
    }
}

fn by_volume(stated: &Stated) -> bool {
    stated.basis == Some(Basis::VolumeInVolume)
}

fn quantity(stated: &Stated) -> Quantity {
    let Stated { amount, half_width, .. } = stated;
    Quantity { value: amount.value, unit: amount.unit.clone(), half_width: *half_width }
}

/// 10 % w/v is 0.10 g/mL.
fn mass_in_volume(stated: &Stated) -> Quantity {
    let unit = Unit::parse("g/mL").expect("a unit of the job");
    Quantity { value: stated.amount.value.shifted(-2), unit, half_width: stated.half_width / 100.0 }
}

/// How many times weaker `1 + 4` (four parts added to one) and `1 in 5` (one part made up to five) are: five.
///
/// `1 : 4` says neither and is refused.
fn times(text: &str) -> Result<f64, Problem> {
    let wrong = |reason: &str| Problem::Quantity { text: text.to_owned(), reason: reason.into() };
    let part = |t: &str| Decimal::parse(t.trim()).ok().map(Decimal::to_f64).filter(|n| *n > 0.0);
    if text.contains(':') {
        return Err(wrong("a colon does not say whether it is added to or made up to: write '1 + 4' or '1 in 5'"));
    }
    let parts = |(a, b): (&str, &str)| Some((part(a)?, part(b)?));
    let told = || wrong("a dilution reads '1 + 4' or '1 in 5'");
    if let Some(pair) = text.split_once('+') {
        let (one, added) = parts(pair).ok_or_else(told)?;
        return Ok((one + added) / one);
    }
    let (one, total) = text.split_once(" in ").and_then(parts).ok_or_else(told)?;
    if total < one {
        return Err(wrong("a dilution is not stronger than its stock"));
    }
    Ok(total / one)
}

#[cfg(test)]
mod tests {
    use super::*;

    fn solution(strength: &str, density: Option<&str>, dilution: Option<&str>) -> Result<Supply, String> {
        let owned = |t: Option<&str>| t.map(str::to_owned);
        let form = Form::Solution { strength: strength.into(), density: owned(density), dilution: owned(dilution) };
        Supply::read(&form, |_| None).map_err(|e| e.to_string())
    }

    /// Four parts added to one part make five, and so does one part made up to five.
    #[test]
    fn dilutions_say_whether_they_are_added_to_or_made_up_to() {
        for written in ["1 + 4", "1 in 5"] {
            let Ok(Supply::Solution(s)) = solution("5.0 mol/L", None, Some(written)) else { panic!("{written}") };
            assert_eq!(s.dilution.unwrap().1, 5.0);
        }
        assert!(solution("5.0 mol/L", None, Some("1:4")).unwrap_err().contains("a colon does not say"));
        assert!(solution("5.0 mol/L", None, Some("5 in 1")).unwrap_err().contains("not stronger than its stock"));
    }

    /// What a plan reckons with is what the sheet computes, for every way of supplying 58.44 g/mol.
    #[test]
    fn a_plan_and_the_sheet_compute_one_amount() {
        let forms = [
            ("kind = \"solid\"", "g"),
            ("kind = \"solid\"\npurity = \"98.5 % w/w\"", "g"),
            ("kind = \"liquid\"\ndensity = \"0.789 g/mL\"\npurity = \"96 % w/w\"", "mL"),
            ("kind = \"solution\"\nstrength = \"1.00 mol/L\"\ndilution = \"1 + 4\"", "mL"),
            ("kind = \"solution\"\nstrength = \"9.0 g/L\"", "mL"),
            ("kind = \"solution\"\nstrength = \"10 % w/v\"", "mL"),
            ("kind = \"solution\"\nstrength = \"37 % w/w\"\ndensity = \"1.18 g/mL\"", "mL"),
            ("kind = \"liquid\"\npurity = \"37 % w/w\"\nweighed = true", "g"),
            ("kind = \"liquid\"\ndensity = \"0.789 g/mL\"\npurity = \"96 % v/v\"", "mL"),
            ("kind = \"saturated\"\nat = \"20 °C\"\ndensity = \"1.20 g/mL\"", "mL"),
            ("kind = \"solution\"\nstrength = \"about 0.1 mol/L\"", "mL"),
            ("kind = \"gas\"\ntemperature = \"20 °C\"\npressure = \"101.3 kPa\"", "mL"),
        ];
        for (form, unit) in forms {
            let supply = Supply::read(&toml_edit::de::from_str(form).unwrap(), |_| Some(0.264)).unwrap();
            let unit = Unit::parse(unit).unwrap();
            let formula = chem::Formula::parse("NaCl").unwrap();
            let mut known = sheet::Material {
                symbol: "a".into(),
                formula: Some(formula.clone()),
                coefficient: None,
                concentration: None,
                purity: None,
                density: None,
                mass_concentration: None,
            };
            supply.tell(&mut known);
            let used = sheet::ReadingName { symbol: "used".into(), unit: unit.clone(), repeats: None };
            let vocabulary = sheet::Vocabulary {
                readings: vec![used],
                materials: vec![known],
                masses: chem::MassTable::default(),
                masses_exact: false,
                ratios: Vec::new(),
                writing: sheet::Writing::default(),
            };
            let expression = supply.amount("a", "used").unwrap();
            let program = sheet::Program::compile(&[sheet::Draft::made("n", expression)], &vocabulary).unwrap();
            let mut inputs = sheet::Inputs::default();
            let taken = Decimal::parse("2.50").unwrap();
            let plain = measure::Instrument { resolution: 0.01, ..crate::kit()[0].clone() };
            inputs
                .readings
                .insert("used".into(), sheet::Given::reading("used", taken, &unit, &plain, sheet::Writing::default()));
            let in_sheet = program.evaluate(&inputs).value("n").unwrap().value;
            let m = formula.molar_mass(&chem::MassTable::default()).unwrap().value;
            let in_plan = supply.moles(unit.to_base(2.50), m).unwrap();
            assert!((in_sheet / in_plan - 1.0).abs() < 1e-9, "{form}: {in_sheet} and {in_plan}");
        }
    }

    #[test]
    fn every_basis_has_its_own_expression() {
        let of = |strength, density| solution(strength, density, None).unwrap().amount("a", "V").unwrap();
        assert_eq!(of("1.00 mol/L", None), "V * concentration(a)");
        assert_eq!(of("9.0 g/L", None), "V * mass_concentration(a) / M(a)");
        assert_eq!(of("10 % w/v", None), "V * mass_concentration(a) / M(a)");
        assert_eq!(of("37 % w/w", Some("1.18 g/mL")), "V * density(a) * purity(a) / M(a)");
        assert!(solution("37 % w/w", None, None).unwrap_err().contains("needs the density"));
        assert!(solution("120 % w/v", None, None).unwrap_err().contains("not more than the whole"));
    }

    /// By hand: 101 325 Pa / (8.314 462 618 J/(mol K) × 273.15 K) = 44.615 mol/m³.
    #[test]
    fn a_gas_has_the_concentration_of_an_ideal_one() {
        let form = Form::Gas { temperature: "0 °C".into(), pressure: "101.325 kPa".into() };
        let Ok(Supply::Gas { concentration }) = Supply::read(&form, |_| None) else { panic!() };
        assert_eq!(concentration.value.to_string(), "0.04462");
    }
}
