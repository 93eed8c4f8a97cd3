//! The reactions of a practical and the numbers in which substances take part.
//!
//! In a sequence the ratio carries through what one reaction makes and the next uses: if 2 A → 2 B and B → C, then C to A
//! is 1 to 1. Of competing reactions the first is the one assumed; side by side, two materials that meet in a reaction
//! of their own have its ratio.

use super::error::PracticalProblem as Problem;
use super::file::{Arrangement, ReactionItem};
use chem::{Balance, Coefficient, Equation, Formula, Term};
use std::collections::BTreeMap;

/// One reaction, balanced.
#[derive(Debug, Clone, PartialEq)]
pub struct Reaction {
    /// What to call it.
    pub name: String,
    /// Balanced.
    pub equation: Equation,
    /// What would be seen if it is this one, by observation.
    pub predicts: BTreeMap<String, String>,
    /// Equilibrium constant, where it does not run to the end.
    pub equilibrium: Option<f64>,
    /// How often it runs for each time that the first one does.
    pub scale: Coefficient,
}

/// A reaction of the file, balanced as it stands.
pub(super) fn reaction(item: &ReactionItem) -> Result<Reaction, Problem> {
    let equation = Equation::parse(&item.equation)?;
    if let Err(imbalance) = equation.check() {
        return Err(match equation.balance() {
            Balance::Impossible { why, .. } => Problem::Impossible(format!("{imbalance}; {why}")),
            Balance::Unique { reactants, products } => {
                let balanced = equation.with_coefficients(&reactants, &products).map(|e| written(&e));
                Problem::Imbalance { imbalance, balanced }
            }
            Balance::Underdetermined { .. } => Problem::Imbalance { imbalance, balanced: None },
        });
    }
    if item.equilibrium.is_some_and(|k| !(k.is_finite() && k > 0.0)) {
        return Err(Problem::Senseless("an equilibrium constant is more than nothing"));
    }
    Ok(Reaction {
        name: item.name.clone(),
        equation,
        predicts: item.predicts.clone(),
        equilibrium: item.equilibrium,
        scale: Coefficient::from_integer(1),
    })
}

/// An equation as it is typed.
#[must_use]
pub fn written(equation: &Equation) -> String {
    let side = |terms: &[Term]| -> String {
        let one = Coefficient::from_integer(1);
        let term = |t: &Term| {
            let plain = t.coefficient == one && !t.formula.typed().starts_with(|c: char| c.is_ascii_digit());
            if plain { t.formula.typed().to_owned() } else { format!("{} {}", t.coefficient, t.formula.typed()) }
        };
        terms.iter().map(term).collect::<Vec<_>>().join(" + ")
    };
    format!("{} -> {}", side(&equation.reactants), side(&equation.products))
}

/// Sets the scales of a sequence; the number of the first reaction that nothing leads to, if there is one.
pub(super) fn carry(reactions: &mut [Reaction], arrangement: Arrangement) -> Result<(), usize> {
    if arrangement != Arrangement::Sequence {
        return Ok(());
    }
    for k in 1..reactions.len() {
        let (before, rest) = reactions.split_at_mut(k);
        let made = |f: &Formula| {
            let find =
                |r: &Reaction| r.equation.products.iter().find(|t| t.formula == *f).map(|t| t.coefficient * r.scale);
            before.iter().rev().find_map(find)
        };
        let link = rest[0].equation.reactants.iter().find_map(|t| Some(made(&t.formula)? / t.coefficient));
        rest[0].scale = link.ok_or(k)?;
    }
    Ok(())
}

/// How often `formula` takes part, and whether it is used up, in the first reaction that it stands in.
pub(super) fn term_of(reactions: &[Reaction], formula: &Formula) -> Option<(Coefficient, bool)> {
    reactions.iter().find_map(|r| r.equation.term_of(formula).map(|(c, used)| (c * r.scale, used)))
}

/// How often the species stands in one formula of what supplies it: two Na⁺ in Na₂SO₄. Counted in the atoms other
/// than hydrogen and oxygen; `None` where the one does not hold the other.
pub(super) fn units_of(species: &Formula, supplied_as: &Formula) -> Option<u32> {
    let wet = |symbol: &str| matches!(symbol, "H" | "O");
    let all = species.composition();
    let dry_only = all.iter().any(|(a, _)| !wet(a.element.symbol));
    let counted = all.iter().filter(|(a, _)| !dry_only || !wet(a.element.symbol));
    let times =
        counted.map(|(a, n)| supplied_as.composition().count(a.element.symbol) / n).fold(f64::INFINITY, f64::min);
    (1..=12u32).rev().find(|n| f64::from(*n) <= times + 1e-9)
}
