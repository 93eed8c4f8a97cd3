//! Slips on numbers with chemical meaning: ratios, coefficients, molar masses, purities, densities, strengths.

use super::reach::{At, Reach, at};
use chem::{DOTS, Formula};
use measure::rounding::{Ties, decimal_of, to_place};
use practical::slip::Slip;
use practical::{Material, SheetRole};
use sheet::{Act, Change, Leaf, Place, Work};

/// Elements whose molecules are of two atoms.
const DIATOMIC: [&str; 7] = ["H", "N", "O", "F", "Cl", "Br", "I"];
/// Pure water has this density; so has a liquid whose volume is used as its mass, in g/L.
const ONE_GRAM_PER_MILLILITRE: f64 = 1000.0;

impl Reach<'_> {
    pub(super) fn at_leaves(&mut self) {
        let mut coefficients: Vec<(Place, String, f64)> = Vec::new();
        for place in self.places.clone() {
            let Work::Leaf(leaf) = self.work(place) else { continue };
            let Some(value) = self.number(place) else { continue };
            match leaf {
                Leaf::Ratio(of, per) => {
                    if value == 1.0 {
                        continue;
                    }
                    let name = || At::all(&[of, per]);
                    let (right, upside_down) = (shown(value), shown(1.0 / value));
                    let one = at(place, Act::Number(1.0));
                    self.exchange(Slip::RatioIgnored, name(), 1.0, (right.clone(), "1".into()), one);
                    let inverted = at(place, Act::Number(1.0 / value));
                    self.exchange(Slip::RatioInverted, name(), 1.0, (right, upside_down), inverted);
                }
                Leaf::Coefficient(material) => {
                    if value != 1.0 {
                        coefficients.push((place, material.clone(), value));
                    }
                }
                Leaf::MolarMass(material) => self.molar_mass(place, &material.clone()),
                Leaf::Purity(material) => {
                    let words = (shown(value), "1".into());
                    self.exchange(Slip::PurityIgnored, material, 1.0, words, at(place, Act::Number(1.0)));
                }
                Leaf::Density(material) => {
                    let words = (format!("{} g/mL", shown(value / 1000.0)), "1 g/mL".into());
                    let one = at(place, Act::Number(ONE_GRAM_PER_MILLILITRE));
                    self.exchange(Slip::DensityIgnored, material, 1.0, words, one);
                }
                Leaf::Concentration(material) => self.label(place, &material.clone()),
                Leaf::Reading(_) | Leaf::Trial(..) | Leaf::MassConcentration(_) | Leaf::Number => {}
            }
        }
        self.coefficients(&coefficients);
        self.standardised();
        self.atomic_numbers();
    }

    /// Coefficients go together: all left out, or all upside down; or one of them.
    fn coefficients(&mut self, found: &[(Place, String, f64)]) {
        let all = |act: &dyn Fn(f64) -> f64| -> Vec<Change> {
            found.iter().map(|(p, _, n)| at(*p, Act::Number(act(*n)))).collect()
        };
        let names: Vec<&str> = found.iter().map(|(_, m, _)| m.as_str()).collect();
        self.add(Slip::RatioIgnored, At::all(&names), 1.0, all(&|_| 1.0));
        self.add(Slip::RatioInverted, At::all(&names), 1.0, all(&|n| 1.0 / n));
        for (place, material, n) in found.iter().filter(|_| found.len() > 1) {
            let words = (shown(*n), "1".into());
            self.exchange(Slip::RatioIgnored, material, 0.5, words, at(*place, Act::Number(1.0)));
            let words = (shown(*n), shown(1.0 / n));
            self.exchange(Slip::RatioInverted, material, 0.5, words, at(*place, Act::Number(1.0 / n)));
        }
    }

    fn molar_mass(&mut self, place: Place, symbol: &str) {
        let (Some(formula), Some(right)) = (self.formula_of(symbol), self.number(place)) else { return };
        let mass = |f: &Formula| f.molar_mass(&self.practical.school.atomic_masses).ok().map(|m| m.value);
        let mut found: Vec<(Slip, f64, Option<f64>, String)> = Vec::new();
        let water = Formula::parse("H2O").ok().and_then(|f| mass(&f)).unwrap_or(f64::NAN);
        let written = formula.typed();
        if let Some((salt, waters)) = parted(&formula) {
            let (dry, salt) = (mass(&salt), salt.typed().to_owned());
            found.push((Slip::HydrateIgnored, 1.0, dry, salt.clone()));
            if waters != 1.0 {
                found.push((Slip::HydrateMisread, 1.0, dry.map(|m| m + water), format!("{salt} and one H2O")));
                let times = format!("{salt} times {waters} H2O");
                found.push((Slip::HydrateMisread, 0.5, dry.map(|m| m * waters * water), times));
                let times = format!("{waters} times {salt} with H2O");
                found.push((Slip::HydrateMisread, 0.5, dry.map(|m| waters * (m + water)), times));
            }
        } else {
            let known = self.practical.material(symbol).map(|m| m.hydrates.clone()).unwrap_or_default();
            for waters in known.into_iter().filter(|n| *n > 0.0) {
                let wet = format!("{written}·{waters}H2O");
                found.push((Slip::HydrateAssumed, 1.0, Some(right + waters * water), wet));
            }
        }
        for (text, share) in without_brackets(written) {
            let misread = Formula::parse(&text).ok().and_then(|f| mass(&f));
            found.push((Slip::BracketIgnored, share, misread, text));
        }
        let atoms: Vec<_> = formula.composition().iter().collect();
        if let [(atom, count)] = atoms[..] {
            let element = atom.element.symbol;
            if count == 2.0 {
                found.push((Slip::AtomForMolecule, 1.0, Some(right / 2.0), element.to_owned()));
            } else if count == 1.0 && DIATOMIC.contains(&element) {
                found.push((Slip::AtomForMolecule, 1.0, Some(right * 2.0), format!("{element}2")));
            }
        }
        let term = self.practical.material(symbol).and_then(|m| m.term);
        if let Some((n, _)) = term.filter(|(n, _)| n.numer() != n.denom()) {
            let n = *n.numer() as f64 / *n.denom() as f64;
            found.push((Slip::CoefficientInMolarMass, 1.0, Some(n * right), format!("{n} {written}")));
        }
        for (_, other) in self.substances().filter(|(s, _)| *s != symbol) {
            let is_hydrate_of_it = parted(other).is_some_and(|(salt, _)| salt == formula);
            let slip = if is_hydrate_of_it { Slip::HydrateAssumed } else { Slip::OtherSubstance };
            found.push((slip, 1.0, mass(other), other.typed().to_owned()));
        }
        for (slip, share, value, words) in found {
            let Some(value) = value.filter(|v| (v - right).abs() > 1e-9 * right) else { continue };
            let words = (molar(right, written), molar(value, &words));
            self.exchange(slip, symbol, share, words, at(place, Act::Number(value)));
        }
    }

    /// Substances with a place in the reaction, or weighed.
    fn substances(&self) -> impl Iterator<Item = (&str, &Formula)> {
        let counted = |m: &&Material| m.term.is_some() || self.practical.measured_by(&m.symbol).is_some();
        self.practical.materials.iter().filter(counted).filter_map(|m| Some((m.symbol.as_str(), m.formula.as_ref()?)))
    }

    /// The formula of a material, or of an element that a method speaks of without a material.
    fn formula_of(&self, symbol: &str) -> Option<Formula> {
        match self.practical.material(symbol) {
            Some(material) => material.formula.clone(),
            None => Formula::parse(symbol).ok(),
        }
    }

    /// The strength on the label of a bottle whose measured strength is known.
    fn label(&mut self, place: Place, material: &str) {
        let Some(label) = self.practical.labelled.get(material) else { return };
        let (value, right) = (label.base(), self.number(place));
        let Some(right) = right.filter(|r| (r - value).abs() > 1e-9 * r) else { return };
        let words =
            (format!("{} mol/L", shown(right)), format!("{} {}", label.amount.value, label.amount.unit.written()));
        self.exchange(Slip::LabelForStandardised, material, 1.0, words, at(place, Act::Number(value)));
    }

    /// A strength that the sheet itself has found: the label's in its place.
    fn standardised(&mut self) {
        let materials: Vec<(String, f64, String)> = self
            .practical
            .materials
            .iter()
            .filter_map(|m| {
                let stated = m.supply.stated()?;
                let words = format!("{} {}", stated.amount.value, stated.amount.unit.written());
                let found = self.practical.roles.named(SheetRole::Concentration, &m.symbol)?;
                Some((found.to_owned(), stated.base(), words))
            })
            .collect();
        for (name, value, words) in materials.into_iter().filter(|(n, ..)| *n != self.result.name) {
            let Some(place) = self.definition(&name) else { continue };
            let Some(right) = self.number(place) else { continue };
            let words = (format!("{} mol/L", shown(right)), words);
            self.exchange(Slip::LabelForStandardised, name, 1.0, words, at(place, Act::Number(value)));
        }
    }

    /// Every molar mass summed from atomic numbers.
    fn atomic_numbers(&mut self) {
        let changes: Vec<Change> = self
            .places
            .iter()
            .filter_map(|place| {
                let Work::Leaf(Leaf::MolarMass(symbol)) = self.work(*place) else { return None };
                let formula = self.formula_of(symbol)?;
                let protons = formula.composition().iter().map(|(a, n)| n * f64::from(a.element.number)).sum();
                Some(at(*place, Act::Number(protons)))
            })
            .collect();
        self.add(Slip::AtomicNumberForMass, At::all(&[]), 1.0, changes);
    }
}

/// A hydrate as its salt and the number of its waters.
pub(super) fn parted(formula: &Formula) -> Option<(Formula, f64)> {
    let parts: Vec<&str> = formula.typed().split(DOTS).map(str::trim).collect();
    let waters = |part: &str| match part.strip_suffix("H2O").or_else(|| part.strip_suffix("H₂O"))? {
        "" => Some(1.0),
        "½" => Some(0.5),
        count => count.trim().parse::<f64>().ok().filter(|n| n.is_finite() && *n > 0.0),
    };
    let wet = parts.iter().skip(1).find_map(|p| waters(p))?;
    let dry: Vec<&str> =
        parts.iter().enumerate().filter(|(i, p)| *i == 0 || waters(p).is_none()).map(|(_, p)| *p).collect();
    Some((Formula::parse(&dry.join("·")).ok()?, wet))
}

/// A formula whose brackets were not seen: the subscript counts the last atom only, or nothing at all.
fn without_brackets(typed: &str) -> Vec<(String, f64)> {
    let characters: Vec<char> = typed.chars().collect();
    let counted = characters
        .windows(2)
        .any(|w| matches!(w[0], ')' | ']') && (w[1].is_ascii_digit() || ('₀'..='₉').contains(&w[1])));
    if !counted {
        return Vec::new();
    }
    let last_atom: String = characters.iter().filter(|c| !matches!(c, '(' | ')' | '[' | ']')).collect();
    let mut nothing = String::new();
    let mut closed = false;
    for c in &characters {
        let digit = c.is_ascii_digit() || ('₀'..='₉').contains(c);
        closed = matches!(c, ')' | ']') || closed && digit;
        if !(closed || matches!(c, '(' | '[')) {
            nothing.push(*c);
        }
    }
    vec![(last_atom, 1.0), (nothing, 0.7)]
}

fn molar(value: f64, of: &str) -> String {
    let shown = decimal_of(value).map_or_else(String::new, |d| to_place(d, -2, Ties::HalfUp).to_string());
    format!("{shown} g/mol ({of})")
}

/// A number to four figures at most, without trailing zeros.
pub(super) fn shown(value: f64) -> String {
    let text = measure::rounding::figures(value, 4);
    if text.contains('.') { text.trim_end_matches('0').trim_end_matches('.').to_owned() } else { text }
}
