//! The run-down of amounts: what each of several reactions uses, makes and leaves, by what is really there.
//!
//! The reactions run in the order given, each as far as the amounts that are there allow, or a stated part of that, or to its
//! equilibrium constant in amounts; what one makes the next can use. Whatever a reaction uses is gone for the next, so that a
//! reagent which several of them use counts in all.
//!
//! ξ = min(nᵢ/νᵢ); used νᵢ·ξ, made νⱼ·ξ. To K: Π(nⱼ + νⱼ·ξ)^νⱼ = K·Π(nᵢ − νᵢ·ξ)^νᵢ, for which the numbers of molecules on both
//! sides have to be the same, so that no volume enters.
//!
//! Source: IUPAC Green Book, 3rd ed., 2.10 (extent of reaction).

use super::file::{Arrangement, Role};
use super::{Material, Practical};
use chem::{Equation, Formula, Term};

/// One of several reactions, as it runs.
#[derive(Debug, Clone, PartialEq)]
pub struct Run<'a> {
    /// Balanced.
    pub equation: &'a Equation,
    /// Equilibrium constant in amounts, where it does not run to the end.
    pub equilibrium: Option<f64>,
    /// Part of what is possible that happens: 0.05 of a side reaction.
    pub part: Option<f64>,
}

/// What one reaction did.
#[derive(Debug, Clone, PartialEq)]
pub struct Ran {
    /// In mol.
    pub extent: f64,
    /// Whether all that it uses was there.
    pub possible: bool,
    /// What was there of each reactant before it ran, mol.
    pub available: Vec<(Formula, f64)>,
    /// What it used of each, mol.
    pub used: Vec<(Formula, f64)>,
    /// Reactants of which nothing was left.
    pub runs_out: Vec<Formula>,
}

/// One species over all reactions, mol.
#[derive(Debug, Clone, PartialEq)]
pub struct Amounts {
    /// Which.
    pub species: Formula,
    /// What was put in.
    pub start: f64,
    /// What the reactions made.
    pub made: f64,
    /// What they used.
    pub used: f64,
    /// What is there in the end.
    pub left: f64,
}

impl Amounts {
    /// What is left over what was used; none where nothing was used.
    #[must_use]
    pub fn excess(&self) -> Option<f64> {
        (self.used > 0.0).then(|| self.left / self.used)
    }
}

/// What all reactions did.
#[derive(Debug, Clone, PartialEq)]
pub struct RunDown {
    /// By reaction, in order.
    pub ran: Vec<Ran>,
    /// By species, in the order in which they were put in and made.
    pub species: Vec<Amounts>,
}

/// Two amounts that differ by less than this part are used up together.
const TIE: f64 = 1e-12;

impl RunDown {
    /// Runs the reactions down on what was put in, mol; what is put in twice is added.
    #[must_use]
    pub fn of(runs: &[Run<'_>], put_in: &[(Formula, f64)]) -> RunDown {
        let mut down = RunDown { ran: Vec::new(), species: Vec::new() };
        for (formula, amount) in put_in {
            let line = down.line(formula);
            line.start += amount;
            line.left += amount;
        }
        for run in runs {
            let ran = down.run(run);
            down.ran.push(ran);
        }
        down
    }

    /// A species; none where nothing speaks of it.
    #[must_use]
    pub fn amounts(&self, species: &Formula) -> Option<&Amounts> {
        self.species.iter().find(|a| a.species == *species)
    }

    fn line(&mut self, species: &Formula) -> &mut Amounts {
        let at = self.species.iter().position(|a| a.species == *species).unwrap_or_else(|| {
            let none = Amounts { species: species.clone(), start: 0.0, made: 0.0, used: 0.0, left: 0.0 };
            self.species.push(none);
            self.species.len() - 1
        });
        &mut self.species[at]
    }

    fn run(&mut self, run: &Run<'_>) -> Ran {
        let Equation { reactants, products, .. } = run.equation;
        let available: Vec<(Formula, f64)> =
            reactants.iter().map(|t| (t.formula.clone(), self.line(&t.formula).left)).collect();
        let most = reactants.iter().zip(&available).map(|(t, (_, n))| n / times(t)).fold(f64::INFINITY, f64::min);
        let most = if most.is_finite() { most.max(0.0) } else { 0.0 };
        let extent = match run.equilibrium {
            Some(k) => self.extent_to_k(run.equation, k, most),
            None => most * run.part.unwrap_or(1.0),
        };
        let mut runs_out = Vec::new();
        for term in reactants {
            let line = self.line(&term.formula);
            let used = times(term) * extent;
            let before = line.left;
            line.used += used;
            line.left = before - used;
            if line.left <= TIE * before {
                line.left = 0.0;
                if before > 0.0 && extent > 0.0 {
                    runs_out.push(term.formula.clone());
                }
            }
        }
        for term in products {
            let line = self.line(&term.formula);
            line.made += times(term) * extent;
            line.left += times(term) * extent;
        }
        let used = reactants.iter().map(|t| (t.formula.clone(), times(t) * extent)).collect();
        Ran { extent, possible: most > 0.0, available, used, runs_out }
    }

    /// The extent at which the quotient of the amounts is K, between nothing and all; by halving.
    fn extent_to_k(&mut self, equation: &Equation, k: f64, most: f64) -> f64 {
        let there: Vec<(f64, f64)> =
            equation.reactants.iter().map(|t| (self.line(&t.formula).left, times(t))).collect();
        let made: Vec<(f64, f64)> = equation.products.iter().map(|t| (self.line(&t.formula).left, times(t))).collect();
        // ln Q − ln K rises with the extent, from below nothing to above everything.
        let off = |extent: f64| {
            let of = |side: &[(f64, f64)], sign: f64| -> f64 {
                side.iter().map(|(n, v)| v * (n + sign * v * extent).max(0.0).ln()).sum()
            };
            of(&made, 1.0) - of(&there, -1.0) - k.ln()
        };
        if off(0.0) >= 0.0 {
            return 0.0;
        }
        let (mut low, mut high) = (0.0, most);
        for _ in 0..200 {
            let middle = f64::midpoint(low, high);
            if off(middle) < 0.0 { low = middle } else { high = middle }
        }
        f64::midpoint(low, high)
    }
}

impl Practical {
    /// The run-down of amounts of materials, mol of the formula that each is taken as, by symbol. Of competing reactions the
    /// first is the one assumed. A material that no reaction knows takes no part; of what nobody counts, water and the like,
    /// there is plenty.
    #[must_use]
    pub fn run_down(&self, amounts: &[(&str, f64)]) -> RunDown {
        let put_in = amounts.iter().filter_map(|(symbol, amount)| {
            let (species, units) = self.material(symbol)?.species.as_ref()?;
            Some((species.clone(), amount * f64::from(*units)))
        });
        let mut put_in: Vec<(Formula, f64)> = put_in.collect();
        let several = self.arrangement != Arrangement::Competing;
        let runs = self.reactions.iter().take(if several { usize::MAX } else { 1 });
        let runs: Vec<Run<'_>> =
            runs.map(|r| Run { equation: &r.equation, equilibrium: r.equilibrium, part: r.part }).collect();
        let all: f64 = put_in.iter().map(|(_, n)| n).sum();
        for (k, run) in runs.iter().enumerate() {
            for term in &run.equation.reactants {
                let species = &term.formula;
                let made = runs[..k].iter().any(|r| r.equation.products.iter().any(|t| t.formula == *species));
                let uncounted = self.materials.iter().any(|m| {
                    !m.role.counts() && m.role != Role::Product && m.species.as_ref().is_some_and(|(s, _)| s == species)
                });
                if (!made || uncounted) && !put_in.iter().any(|(s, _)| s == species) {
                    put_in.push((species.clone(), PLENTY * all));
                }
            }
        }
        RunDown::of(&runs, &put_in)
    }

    /// How much of a material all reactions would use of it, were there plenty: what just enough is, mol of its formula.
    /// Nothing where they use none, or where a partner of it is a material of which no amount is known: a component of a
    /// mixture.
    #[must_use]
    pub fn just_enough(&self, symbol: &str, amounts: &[(&str, f64)]) -> Option<f64> {
        let (species, units) = self.material(symbol)?.species.as_ref()?;
        let brings = |m: &Material, partner: &Formula| m.species.as_ref().is_some_and(|(s, _)| s == partner);
        let known = |partner: &Formula| {
            let there = amounts.iter().any(|(s, _)| self.material(s).is_some_and(|m| brings(m, partner)));
            let counted = |m: &&Material| m.role.counts() || m.role == Role::Product;
            there || !self.materials.iter().filter(counted).any(|m| brings(m, partner))
        };
        let made = |k: usize, partner: &Formula| {
            self.reactions[..k].iter().any(|r| r.equation.products.iter().any(|t| t.formula == *partner))
        };
        for (k, reaction) in self.reactions.iter().enumerate() {
            let partners = || reaction.equation.reactants.iter().map(|t| &t.formula);
            if partners().any(|p| p == species) && partners().any(|p| p != species && !known(p) && !made(k, p)) {
                return None;
            }
        }
        let all: f64 = amounts.iter().map(|(_, n)| n).sum();
        let plenty = amounts.iter().map(|(s, n)| (*s, if *s == symbol { PLENTY * all } else { *n }));
        let used = self.run_down(&plenty.collect::<Vec<_>>()).amounts(species)?.used;
        (used > 0.0).then(|| used / f64::from(*units))
    }
}

/// More of one reagent than any ratio of coefficients asks for, beside all the others together.
const PLENTY: f64 = 1e4;

fn times(term: &Term) -> f64 {
    chem::number(term.coefficient)
}
