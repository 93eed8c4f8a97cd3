//! Slips on a molar mass: another substance, a hydrate misread, brackets not seen, a part for the whole, atomic numbers.

use super::reach::{At, Reach, at};
use chem::{DOTS, Formula};
use measure::rounding::{Ties, decimal_of, to_place};
use practical::Material;
use practical::slip::Slip;
use sheet::{Act, Change, Leaf, Place, Work};

/// Elements whose molecules are of two atoms.
const DIATOMIC: [&str; 7] = ["H", "N", "O", "F", "Cl", "Br", "I"];

impl<'a> Reach<'a> {
    pub(super) fn molar_mass(&mut self, place: Place, symbol: &str) {
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
            let n = chem::number(n);
            found.push((Slip::CoefficientInMolarMass, 1.0, Some(n * right), format!("{n} {written}")));
        }
        for other in self.substances() {
            let is_hydrate_of_it = parted(other).is_some_and(|(salt, _)| salt == formula);
            let slip = if is_hydrate_of_it { Slip::HydrateAssumed } else { Slip::OtherSubstance };
            found.push((slip, 1.0, mass(other), other.typed().to_owned()));
        }
        let atoms_in = atoms.len();
        for (atom, count) in atoms.into_iter().filter(|_| atoms_in > 1) {
            let element = atom.element.symbol;
            let one = Formula::parse(element).ok().and_then(|f| mass(&f));
            // A salt is taken for its metal, a compound for the element that it is named after; hardly for its oxygen.
            let share = if ["H", "O"].contains(&element) { 0.1 } else { 1.0 };
            found.push((Slip::PartForWholeSubstance, share, one, element.to_owned()));
            if count > 1.0 {
                found.push((
                    Slip::PartForWholeSubstance,
                    0.5 * share,
                    one.map(|m| m * count),
                    format!("{count} {element}"),
                ));
            }
        }
        for (slip, share, value, words) in found {
            let Some(value) = value.filter(|v| (v - right).abs() > 1e-9 * right) else { continue };
            let words = (molar(right, written), molar(value, &words));
            self.exchange(slip, symbol, share, words, at(place, Act::Number(value)));
        }
    }

    /// Substances of the equations, and those that are weighed, each once.
    fn substances(&self) -> Vec<&'a Formula> {
        let weighed = |m: &&Material| m.term.is_some() || self.practical.measured_by(&m.symbol).is_some();
        let materials = self.practical.materials.iter().filter(weighed).filter_map(|m| m.formula.as_ref());
        let terms = self.practical.reactions.iter().flat_map(|r| r.equation.terms());
        let mut found: Vec<&Formula> = Vec::new();
        for formula in materials.chain(terms.map(|t| &t.formula)) {
            if !found.contains(&formula) {
                found.push(formula);
            }
        }
        found
    }

    /// Molar masses summed from atomic numbers: every one, or one of several.
    pub(super) fn atomic_numbers(&mut self) {
        let changes: Vec<(String, Change)> = self
            .places
            .iter()
            .filter_map(|place| {
                let Work::Leaf(Leaf::MolarMass(symbol)) = self.work(*place) else { return None };
                let formula = self.formula_of(symbol)?;
                let protons = formula.composition().iter().map(|(a, n)| n * f64::from(a.element.number)).sum();
                Some((symbol.clone(), at(*place, Act::Number(protons))))
            })
            .collect();
        for (symbol, change) in changes.iter().filter(|_| changes.len() > 1) {
            self.add(Slip::AtomicNumberForMass, symbol, 0.7, vec![change.clone()]);
        }
        let all = changes.into_iter().map(|(_, c)| c).collect();
        self.add(Slip::AtomicNumberForMass, At::all(&[]), 1.0, all);
    }
}

/// A hydrate as its salt and the number of its waters.
fn parted(formula: &Formula) -> Option<(Formula, f64)> {
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

/// A formula whose brackets were not seen: the number behind them counts the last atom only, or nothing at all; in every pair
/// of brackets, or in one of several.
fn without_brackets(typed: &str) -> Vec<(String, f64)> {
    let counted = typed.match_indices([')', ']']).filter(|(at, _)| number_at(typed, at + 1).0 > 1).count();
    let mut found = Vec::new();
    for which in (0..counted).map(Some).filter(|_| counted > 1).chain((counted > 0).then_some(None)) {
        found.push((misread(typed, which, true), 1.0));
        found.push((misread(typed, which, false), 0.7));
    }
    found
}

/// The formula without one of its pairs of brackets that have a number (all where none is said), that number counting the last
/// atom alone, or nothing.
fn misread(typed: &str, which: Option<usize>, last_atom: bool) -> String {
    let (mut out, mut rest, mut opened, mut seen) = (String::new(), typed, Vec::new(), 0);
    while let Some(c) = rest.chars().next() {
        rest = &rest[c.len_utf8()..];
        match c {
            '(' | '[' => {
                opened.push(out.len());
                out.push(c);
            }
            ')' | ']' => {
                let (number, length) = number_at(rest, 0);
                let open = opened.pop();
                let is_misread = number > 1 && which.is_none_or(|w| w == seen);
                seen += usize::from(number > 1);
                let (Some(open), true) = (open, is_misread) else {
                    out.push(c);
                    continue;
                };
                out.remove(open);
                rest = &rest[length..];
                if last_atom {
                    let own_at = out.trim_end_matches(is_digit).len();
                    let own = number_at(&out, own_at).0.max(1);
                    out.truncate(own_at);
                    out.push_str(&(own * number).to_string());
                }
            }
            c => out.push(c),
        }
    }
    out
}

fn is_digit(c: char) -> bool {
    c.is_ascii_digit() || ('₀'..='₉').contains(&c)
}

/// The whole number at a place of a formula, and how many bytes it takes.
fn number_at(typed: &str, at: usize) -> (u32, usize) {
    let digits: &str = &typed[at..];
    let length = digits.find(|c| !is_digit(c)).unwrap_or(digits.len());
    let value = digits[..length].chars().fold(0u32, |n, c| {
        let digit = c.to_digit(10).unwrap_or_else(|| (c as u32).saturating_sub('₀' as u32));
        n.saturating_mul(10).saturating_add(digit)
    });
    (value, length)
}

fn molar(value: f64, of: &str) -> String {
    let shown = decimal_of(value).map_or_else(String::new, |d| to_place(d, -2, Ties::HalfUp).to_string());
    format!("{shown} g/mol ({of})")
}
