//! Slips on numbers with chemical meaning: ratios, coefficients, molar masses, purities, densities, strengths.

use super::reach::{At, Candidate, Made, Reach, at};
use chem::{Coefficient, DOTS, Equation, Formula};
use measure::Dimension;
use measure::rounding::{Ties, decimal_of, to_place};
use practical::slip::Slip;
use practical::{Basis, Material, SheetRole, StrengthKind, Supply};
use sheet::{Act, Change, Leaf, Place, Work};

/// Elements whose molecules are of two atoms.
const DIATOMIC: [&str; 7] = ["H", "N", "O", "F", "Cl", "Br", "I"];
/// Pure water has this density; so has a liquid whose volume is used as its mass, in g/L.
const ONE_GRAM_PER_MILLILITRE: f64 = 1000.0;

impl<'a> Reach<'a> {
    pub(super) fn at_leaves(&mut self) {
        let mut coefficients: Vec<(Place, String, f64)> = Vec::new();
        let mut strengths: Vec<(Place, String, f64)> = Vec::new();
        for place in self.places.clone() {
            let Work::Leaf(leaf) = self.work(place) else { continue };
            let Some(value) = self.number(place) else { continue };
            match leaf {
                Leaf::Ratio(of, per) => {
                    if value == 1.0 {
                        self.of_another_reaction(place, of, per, value);
                        continue;
                    }
                    let name = || At::all(&[of, per]);
                    let (right, upside_down) = (shown(value), shown(1.0 / value));
                    let one = at(place, Act::Number(1.0));
                    self.exchange(Slip::RatioIgnored, name(), 1.0, (right.clone(), "1".into()), one);
                    let inverted = at(place, Act::Number(1.0 / value));
                    self.exchange(Slip::RatioInverted, name(), 1.0, (right, upside_down), inverted);
                    self.of_another_reaction(place, of, per, value);
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
                    let upside_down = ONE_GRAM_PER_MILLILITRE * ONE_GRAM_PER_MILLILITRE / value;
                    self.add(Slip::DensityInverted, material, 1.0, vec![at(place, Act::Number(upside_down))]);
                }
                Leaf::Concentration(material) => {
                    self.label(place, &material.clone());
                    self.other_basis(place, &material.clone(), value);
                    strengths.push((place, material.clone(), value));
                }
                Leaf::Number => self.written_ratio(place, value),
                Leaf::Reading(_) | Leaf::Trial(..) | Leaf::MassConcentration(_) => {}
            }
        }
        self.coefficients(&coefficients);
        self.exchanged_strengths(&strengths);
        self.standardised();
        self.atomic_numbers();
    }

    /// A whole number that somebody wrote into an amount by hand, where it is the ratio of two coefficients of a declared
    /// reaction.
    fn written_ratio(&mut self, place: Place, value: f64) {
        let owner = self.owner(place);
        let of_an_amount = self.program().definition(&owner).is_some_and(|d| d.dimension == Dimension::AMOUNT);
        let coefficients = |e: &Equation| -> Vec<f64> {
            let terms = e.reactants.iter().chain(&e.products);
            terms.map(|t| *t.coefficient.numer() as f64 / *t.coefficient.denom() as f64).collect()
        };
        let is_ratio = self
            .practical
            .reactions
            .iter()
            .map(|r| coefficients(&r.equation))
            .any(|all| all.iter().any(|a| all.iter().any(|b| (a / b - value).abs() < 1e-9)));
        // 2 over the molar mass of O2 counts atoms of oxygen.
        let counts_atoms = self.places.iter().filter(|p| self.owner(**p) == owner).any(|p| {
            let Some(Leaf::MolarMass(symbol)) = self.work(*p).leaf() else { return false };
            let formula = self.formula_of(symbol);
            let atoms: Vec<f64> = formula.iter().flat_map(|f| f.composition().iter()).map(|(_, n)| n).collect();
            atoms == [value]
        });
        if of_an_amount && counts_atoms {
            let words = (shown(value), "1".into());
            self.exchange(Slip::AtomForMolecule, owner.as_str(), 1.0, words, at(place, Act::Number(1.0)));
        } else if of_an_amount && is_ratio && value != 1.0 {
            for (slip, made) in [(Slip::RatioIgnored, 1.0), (Slip::RatioInverted, 1.0 / value)] {
                self.exchange(slip, owner.as_str(), 1.0, (shown(value), shown(made)), at(place, Act::Number(made)));
            }
        }
    }

    /// Coefficients go together: all left out, or all upside down; or one of them. Whichever reagent limits by the right ones
    /// is the one that the sum goes on with: the slip is in its own step.
    fn coefficients(&mut self, found: &[(Place, String, f64)]) {
        let stays = self.choices_stay();
        let all = |act: &dyn Fn(f64) -> f64| -> Vec<Change> {
            let changed: Vec<Change> = found.iter().map(|(p, _, n)| at(*p, Act::Number(act(*n)))).collect();
            if changed.is_empty() { changed } else { [&changed[..], &stays].concat() }
        };
        let names: Vec<&str> = found.iter().map(|(_, m, _)| m.as_str()).collect();
        self.add(Slip::RatioIgnored, At::all(&names), 1.0, all(&|_| 1.0));
        self.add(Slip::RatioInverted, At::all(&names), 1.0, all(&|n| 1.0 / n));
        for (place, material, n) in found.iter().filter(|_| found.len() > 1) {
            for (slip, made) in [(Slip::RatioIgnored, 1.0), (Slip::RatioInverted, 1.0 / n)] {
                let changes = [&[at(*place, Act::Number(made))][..], &stays].concat();
                let (at, exchange) = (material.as_str().into(), Some((shown(*n), shown(made))));
                self.found.push(Candidate { slip, at, exchange, share: 0.5, made: Made::On(changes) });
            }
        }
    }

    /// Every reagent that limits, held to.
    fn choices_stay(&self) -> Vec<Change> {
        let limits = |p: &Place| {
            let Work::Limiting(_) = self.work(*p) else { return None };
            let extents: Vec<f64> = self.program().operands(*p).into_iter().filter_map(|o| self.number(o)).collect();
            (0..extents.len()).min_by(|a, b| extents[*a].total_cmp(&extents[*b])).map(|k| at(*p, Act::Extent(k)))
        };
        self.places.iter().filter_map(limits).collect()
    }

    /// The ratio of one of the two to a substance of another declared reaction.
    fn of_another_reaction(&mut self, place: Place, of: &str, per: &str, right: f64) {
        let number = |n: Coefficient| *n.numer() as f64 / *n.denom() as f64;
        let term = |equation: &Equation, symbol: &str| {
            let formula = self.practical.material(symbol)?.formula.as_ref()?;
            equation.term_of(formula).map(|(n, _)| number(n))
        };
        let mut found: Vec<f64> = Vec::new();
        for reaction in self.practical.reactions.iter().filter(|_| self.practical.reactions.len() > 1) {
            let others =
                || reaction.equation.reactants.iter().chain(&reaction.equation.products).map(|t| number(t.coefficient));
            found.extend(term(&reaction.equation, of).into_iter().flat_map(|n| others().map(move |o| n / o)));
            found.extend(term(&reaction.equation, per).into_iter().flat_map(|n| others().map(move |o| o / n)));
        }
        found.retain(|r| [right, 1.0, 1.0 / right].iter().all(|known| (r - known).abs() > 1e-9));
        found.sort_by(f64::total_cmp);
        found.dedup_by(|a, b| (*a - *b).abs() < 1e-9);
        for other in found {
            let words = (shown(right), shown(other));
            self.exchange(Slip::OtherReaction, At::all(&[of, per]), 1.0, words, at(place, Act::Number(other)));
        }
    }

    /// A percentage of a solution taken by mass for one in volume, or the other way.
    fn other_basis(&mut self, place: Place, symbol: &str, value: f64) {
        let Some(Supply::Solution(strength)) = self.practical.material(symbol).map(|m| &m.supply) else { return };
        let density = strength.density.as_ref().map(|d| d.base() / ONE_GRAM_PER_MILLILITRE);
        let by_mass = match (strength.kind, density) {
            (StrengthKind::Percent(Some(Basis::MassInMass)), Some(density)) => 1.0 / density,
            (StrengthKind::Percent(Some(Basis::MassInVolume)), Some(density)) => density,
            (StrengthKind::Percent(_) | StrengthKind::Amount | StrengthKind::MassPerVolume, _) => return,
        };
        self.add(Slip::BasisSwapped, symbol, 1.0, vec![at(place, Act::Number(value * by_mass))]);
    }

    /// The strengths of two solutions in each other's places.
    fn exchanged_strengths(&mut self, found: &[(Place, String, f64)]) {
        for (i, (one, first, a)) in found.iter().enumerate() {
            for (other, second, b) in found[i + 1..].iter().filter(|(_, s, v)| s != first && v != a) {
                let changes = vec![at(*one, Act::Number(*b)), at(*other, Act::Number(*a))];
                self.add(Slip::ConcentrationsSwapped, At::all(&[first, second]), 1.0, changes);
            }
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
        let terms =
            self.practical.reactions.iter().flat_map(|r| r.equation.reactants.iter().chain(&r.equation.products));
        let mut found: Vec<&Formula> = Vec::new();
        for formula in materials.chain(terms.map(|t| &t.formula)) {
            if !found.contains(&formula) {
                found.push(formula);
            }
        }
        found
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

    /// Molar masses summed from atomic numbers: every one, or one of several.
    fn atomic_numbers(&mut self) {
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

/// A number to four figures at most, without trailing zeros.
pub(super) fn shown(value: f64) -> String {
    let text = measure::rounding::figures(value, 4);
    if text.contains('.') { text.trim_end_matches('0').trim_end_matches('.').to_owned() } else { text }
}
