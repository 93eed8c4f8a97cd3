//! By what some choose the reagent that limits: the smallest mass, or the smallest amount of substance.

use practical::{Practical, SheetRole};
use sheet::{Leaf, Otherwise};

/// What a definition or a reading comes to without a slip, in base units.
pub(super) fn value_of(practical: &Practical, plain: &Otherwise<'_>, name: &str) -> Option<f64> {
    let program = &practical.program;
    let place = program.place_of(name).or_else(|| program.place_of_leaf(&Leaf::Reading(name.to_owned())))?;
    plain.plain(place)
}

/// The mass of a material that was taken, in g; of a liquid by its density, of a solution none.
pub(super) fn mass_of(practical: &Practical, plain: &Otherwise<'_>, symbol: &str) -> Option<f64> {
    let taken = value_of(practical, plain, practical.measured_by(symbol)?)?;
    practical.material(symbol)?.supply.mass(taken)
}

/// Places among the arguments of `limiting`.
pub(super) struct Smallest {
    /// Of the reagent with the least mass, where all have one.
    pub by_mass: Option<usize>,
    /// Of the one with the least amount.
    pub by_amount: Option<usize>,
}

/// The reagents that are smallest in either way.
pub(super) fn smallest(practical: &Practical, plain: &Otherwise<'_>) -> Smallest {
    let reagents = practical.limiting.as_ref().map(|(_, r)| r.as_slice()).unwrap_or_default();
    let least = |of: &dyn Fn(&String) -> Option<f64>| {
        let known: Option<Vec<f64>> = reagents.iter().map(of).collect();
        known.and_then(|k| (0..k.len()).min_by(|a, b| k[*a].total_cmp(&k[*b])))
    };
    Smallest {
        by_mass: least(&|symbol| mass_of(practical, plain, symbol)),
        by_amount: least(&|symbol| value_of(practical, plain, practical.roles.named(SheetRole::Amount, symbol)?)),
    }
}
