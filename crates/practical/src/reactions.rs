//! The reactions of a practical and the numbers in which substances take part.
//!
//! In a sequence the ratio carries through what one reaction makes and the next uses: if 2 A → 2 B and B → C, then C to A
//! is 1 to 1. Of competing reactions the first is the one assumed; side by side, two materials that meet in a reaction
//! of their own have its ratio.

use super::amount::{QuantityError, Stated};
use super::error::PracticalProblem as Problem;
use super::file::{Arrangement, ReactionItem};
use chem::{Balance, Coefficient, Equation, Formula, Term};
use measure::Dimension;
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
    /// How much of what is possible happens, where it is not all.
    pub part: Option<f64>,
    /// How often it runs for each time that the first one does; none of a reaction that stands beside the others.
    pub scale: Option<Coefficient>,
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
    let part = item.part.as_deref().map(|text| {
        let quantity = |e: QuantityError| Problem::Quantity { text: text.to_owned(), reason: e.to_string() };
        let part = Stated::positive(text, &[Dimension::ONE]).map_err(quantity)?.base();
        (part <= 1.0).then_some(part).ok_or(Problem::Senseless("no more happens than is possible: 100 % at most"))
    });
    Ok(Reaction {
        name: item.name.clone(),
        equation,
        predicts: item.predicts.clone(),
        equilibrium: item.equilibrium,
        part: part.transpose()?,
        scale: Some(Coefficient::from_integer(1)),
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

/// Sets the scales of a sequence. A reaction that uses nothing that an earlier one makes stands beside it and has none; how
/// far it goes the run-down of amounts says.
pub(super) fn carry(reactions: &mut [Reaction], arrangement: Arrangement) {
    if arrangement != Arrangement::Sequence {
        return;
    }
    for k in 1..reactions.len() {
        let (before, rest) = reactions.split_at_mut(k);
        let made = |f: &Formula| {
            let find =
                |r: &Reaction| Some(r.equation.products.iter().find(|t| t.formula == *f)?.coefficient * r.scale?);
            before.iter().rev().find_map(find)
        };
        rest[0].scale = rest[0].equation.reactants.iter().find_map(|t| Some(made(&t.formula)? / t.coefficient));
        // What happens in part only is no step on the way.
        if rest[0].part.is_some() {
            rest[0].scale = None;
        }
    }
}

/// How often `formula` takes part, and whether it is used up: in the first reaction that it stands in; in a sequence, where
/// several use it and none makes it, or several make it and none uses it, in all of them together.
pub(super) fn term_of(
    reactions: &[Reaction],
    arrangement: Arrangement,
    formula: &Formula,
) -> Option<(Coefficient, bool)> {
    let stands = reactions.iter().filter_map(|r| r.equation.term_of(formula).map(|(c, used)| (r.scale, c, used)));
    let (linked, beside): (Vec<_>, Vec<_>) = stands.partition(|(scale, ..)| scale.is_some());
    let on_the_way: Vec<(Coefficient, bool)> =
        linked.into_iter().filter_map(|(scale, c, used)| Some((c * scale?, used))).collect();
    let Some((first, used)) = on_the_way.first().copied() else {
        return beside.first().map(|(_, c, used)| (*c, *used));
    };
    let alike = on_the_way.iter().all(|(_, u)| *u == used);
    let total = on_the_way.iter().skip(1).fold(first, |sum, (c, _)| sum + *c);
    Some((if alike && arrangement == Arrangement::Sequence { total } else { first }, used))
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
