//! Will it dissolve, and what could perfect hands reach?
//!
//! A hydrate brings its own water: x g of it hold x·f of the salt counted and x·(1 − f) of water. It dissolves in W g of
//! water when x·f ≤ s/100·(W + x·(1 − f)), s being the grams of salt in 100 g of water. From W g of water in all, theory
//! t leaves c g of crystals with t·f − c·f = s/100·(W − c·(1 − f)). A precipitate keeps x mol/L in solution with
//! (ν₁x + e₁)^ν₁·(ν₂x + e₂)^ν₂ = K_sp, e being what is in excess. An equilibrium runs to K = Π n^ν in amounts.
//!
//! Water is taken as 1 g/mL. Source: mass balance with the solubility; IUPAC Green Book, 3rd ed., 2.11.

use super::{CeilingWhy, Consequence, Note, Setting, figures};
use practical::file::Crystallising;
use practical::{Key, Material, celsius, grams_of_water};

impl Setting<'_> {
    pub(super) fn solubility(&self, notes: &mut Vec<Note>) {
        for (i, step) in self.practical.steps.iter().enumerate() {
            let beside: Vec<Key> = vec!["steps".into(), i.into()];
            if let Some(d) = &step.dissolves {
                let what = self.dissolves(&d.material, &d.water, &d.at);
                notes.extend(what.map(|(what, fits)| Note { beside: beside.clone(), warns: !fits, what }));
            }
            if let Some(c) = &step.crystallises {
                let what = self.liquor(c).or_else(|| self.precipitate(c));
                notes.extend(what.map(|what| Note { beside, warns: false, what }));
            }
        }
        self.equilibrium(notes);
    }

    fn dissolves(&self, symbol: &str, water: &str, at: &str) -> Option<(Consequence, bool)> {
        let m = self.practical.material(symbol)?;
        // Of a volume, what it holds.
        let most = Self::most_planned(m)?;
        let held = || Some(self.moles(m, most)? * self.molar_mass(m)?);
        let grams = m.supply.mass(most).or_else(held)?;
        let (fraction, s) = self.practical.soluble(m, celsius(at)?)?;
        let own = grams * (1.0 - fraction);
        let needed = (grams * fraction * 100.0 / s - own).max(0.0);
        let fits = grams_of_water(water)? >= needed;
        let what = Consequence::Dissolves {
            material: m.name.clone(),
            amount: format!("{} g", figures(grams, 3)),
            water: water.to_owned(),
            at: at.to_owned(),
            smallest: format!("{} mL", figures(needed, 2)),
            fits,
        };
        Some((what, fits))
    }

    /// What crystallises from so much water, less what the washings take.
    fn liquor(&self, c: &Crystallising) -> Option<Consequence> {
        let m = self.practical.material(&c.product)?;
        let theory = self.theory(m)?;
        let (fraction, s) = self.practical.soluble(m, celsius(&c.at)?)?;
        let water = grams_of_water(&c.water)?;
        let bound = 1.0 - fraction;
        let crystals = (theory * fraction - s * water / 100.0) / (fraction - s * bound / 100.0);
        let washed = c.washed_with.as_deref().and_then(|w| {
            let (f, s) = self.practical.soluble(m, 0.0)?;
            Some(grams_of_water(w)? * s / 100.0 / (f - s * (1.0 - f) / 100.0))
        });
        let crystals = (crystals - washed.unwrap_or(0.0)).clamp(0.0, theory);
        let when = match &c.washed_with {
            Some(w) => format!("from {} of water at {}, washed with {w} of ice water", c.water, c.at),
            None => format!("from {} of water at {}", c.water, c.at),
        };
        Some(ceiling(m, crystals, theory, CeilingWhy::Liquor, when))
    }

    /// What a precipitate keeps in solution beside the excess of the other ion.
    fn precipitate(&self, c: &Crystallising) -> Option<Consequence> {
        let m = self.practical.material(&c.product)?;
        let (ksp, theory) = (m.ksp?, self.theory(m)?);
        let litres = grams_of_water(&c.water)? / 1000.0;
        let shares = self.shares();
        let [a, b] = &shares[..] else { return None };
        let coefficient = |m: &Material| Some(chem::number(m.term?.0));
        let (of_a, of_b) = (coefficient(a.material)?, coefficient(b.material)?);
        let least = (a.moles / of_a).min(b.moles / of_b);
        let per = chem::number(m.term?.0);
        let left = |s: &super::ledger::Share<'_>, of: f64| (s.moles - least * of) / litres;
        let (left_a, left_b) = (left(a, of_a), left(b, of_b));
        let (na, nb) = (of_a / per, of_b / per);
        let product = |x: f64| (na * x + left_a).powf(na) * (nb * x + left_b).powf(nb);
        let most = least * per / litres;
        let dissolved = rising(0.0, most, |x| product(x) - ksp);
        let lost = dissolved * litres * self.molar_mass(m)?;
        let when = format!("from {} at {}", c.water, c.at);
        Some(ceiling(m, (theory - lost).max(0.0), theory, CeilingWhy::SolubilityProduct, when))
    }

    /// A reaction that does not run to the end, from the planned amounts.
    fn equilibrium(&self, notes: &mut Vec<Note>) {
        for (i, reaction) in self.practical.reactions.iter().enumerate() {
            let Some(k) = reaction.equilibrium else { continue };
            let there = |formula: &chem::Formula| {
                let find = |m: &&Material| m.formula.as_ref() == Some(formula);
                let m = self.practical.materials.iter().find(find)?;
                self.moles(m, m.planned.as_ref()?.base())
            };
            let amounts = |terms: &[chem::Term]| -> Vec<(f64, f64)> {
                terms.iter().map(|t| (there(&t.formula).unwrap_or(0.0), chem::number(t.coefficient))).collect()
            };
            let (used, made) = (amounts(&reaction.equation.reactants), amounts(&reaction.equation.products));
            let most = used.iter().map(|(n, nu)| n / nu).fold(f64::INFINITY, f64::min);
            let product = reaction.equation.products.iter().find_map(|t| {
                self.practical
                    .materials
                    .iter()
                    .find(|m| m.formula.as_ref() == Some(&t.formula) && self.theory(m).is_some())
            });
            let Some(product) = product.filter(|_| most > 0.0 && most.is_finite()) else { continue };
            // Π n^ν of the products over that of the reactants rises with the extent.
            let quotient = |x: f64| {
                let over = |side: &[(f64, f64)], sign: f64| -> f64 {
                    side.iter().map(|(n, nu)| nu * (n + sign * nu * x).max(f64::MIN_POSITIVE).ln()).sum()
                };
                over(&made, 1.0) - over(&used, -1.0)
            };
            let extent = rising(0.0, most, |x| quotient(x) - k.ln());
            let Some(theory) = self.theory(product) else { continue };
            let when = format!("K = {k}");
            let what = ceiling(product, theory * extent / most, theory, CeilingWhy::Equilibrium, when);
            notes.push(Note { beside: vec!["reactions".into(), i.into()], warns: false, what });
        }
    }

    /// Theoretical yield of a product, g.
    fn theory(&self, m: &Material) -> Option<f64> {
        let names = self.practical.yield_of(&m.symbol)?;
        self.value(&names.theoretical)
    }
}

fn ceiling(m: &Material, mass: f64, theory: f64, why: CeilingWhy, when: String) -> Consequence {
    Consequence::Ceiling {
        product: m.name.clone(),
        percent: figures(100.0 * mass / theory, 2),
        mass: format!("{} g", figures(mass, 3)),
        why,
        when,
    }
}

/// The root of a function that rises from `low` to `high`, by halving; the end on whose side it lies if there is none.
fn rising(mut low: f64, mut high: f64, f: impl Fn(f64) -> f64) -> f64 {
    for _ in 0..200 {
        let middle = f64::midpoint(low, high);
        if f(middle) < 0.0 { low = middle } else { high = middle }
    }
    f64::midpoint(low, high)
}
