//! Slips on numbers with chemical meaning: ratios, coefficients, molar masses, purities, densities, strengths.

use super::reach::{At, Candidate, Made, Reach, at};
use chem::{Equation, Formula, number};
use measure::Dimension;
use practical::slip::Slip;
use practical::{Basis, SheetRole, Stated, Strength, StrengthKind, Supply};
use sheet::{Act, Change, Leaf, Place, Work};

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
                    if self.is_percent_by(material, Basis::MassInMass) {
                        let in_volume = at(place, Act::Number(ONE_GRAM_PER_MILLILITRE));
                        self.add(Slip::BasisSwapped, material, 1.0, vec![in_volume]);
                    }
                }
                Leaf::Concentration(material) => {
                    self.label(place, &material.clone());
                    strengths.push((place, material.clone(), value));
                }
                Leaf::Number => self.written_ratio(place, value),
                Leaf::MassConcentration(material) => {
                    let density =
                        self.density_of(material).filter(|_| self.is_percent_by(material, Basis::MassInVolume));
                    let by_mass = density.map(|d| at(place, Act::Times(d / ONE_GRAM_PER_MILLILITRE)));
                    self.add(Slip::BasisSwapped, material, 1.0, by_mass.into_iter().collect());
                }
                Leaf::Reading(_) | Leaf::Trial(..) => {}
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
        let is_ratio = self.practical.reactions.iter().any(|r| {
            let coefficients = || r.equation.terms().map(|t| number(t.coefficient));
            coefficients().any(|a| coefficients().any(|b| (a / b - value).abs() < 1e-9))
        });
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
            self.least_extent(*p).map(|k| at(*p, Act::Extent(k)))
        };
        self.places.iter().filter_map(limits).collect()
    }

    /// The ratio of one of the two to a substance of another declared reaction.
    fn of_another_reaction(&mut self, place: Place, of: &str, per: &str, right: f64) {
        let term = |equation: &Equation, symbol: &str| {
            let formula = self.practical.material(symbol)?.formula.as_ref()?;
            equation.term_of(formula).map(|(n, _)| number(n))
        };
        let mut found: Vec<f64> = Vec::new();
        for reaction in self.practical.reactions.iter().filter(|_| self.practical.reactions.len() > 1) {
            let others = || reaction.equation.terms().map(|t| number(t.coefficient));
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

    /// The strength of a solution.
    fn strength_of(&self, symbol: &str) -> Option<&'a Strength> {
        match &self.practical.material(symbol)?.supply {
            Supply::Solution(strength) => Some(strength),
            Supply::Solid { .. } | Supply::Liquid { .. } | Supply::Saturated | Supply::Gas { .. } => None,
        }
    }

    /// Whether a solution is labelled in per cent on this basis, which may be read as the other one.
    fn is_percent_by(&self, symbol: &str, basis: Basis) -> bool {
        self.strength_of(symbol).is_some_and(|s| s.kind == StrengthKind::Percent(Some(basis)))
    }

    /// The density of a solution, in g/L.
    fn density_of(&self, symbol: &str) -> Option<f64> {
        self.strength_of(symbol)?.density.as_ref().map(Stated::base)
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

    /// The formula of a material, or of an element that a method speaks of without a material.
    pub(super) fn formula_of(&self, symbol: &str) -> Option<Formula> {
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
}

/// A number to four figures at most, without trailing zeros.
pub(super) fn shown(value: f64) -> String {
    let text = measure::rounding::figures(value, 4);
    if text.contains('.') { text.trim_end_matches('0').trim_end_matches('.').to_owned() } else { text }
}
