//! What a departure from the plan changes: the sheet evaluated once more with it.
//!
//! Each departure is taken together with those told before it, so that a top-up after a spill is seen to mend it. A
//! reagent's quantity goes up or down by the amount told; of a product, what was taken for a test counts as made, and a
//! seed does not. The readings stay as they were read.

use super::advice::plain;
use super::{Advice, Changed, Matter, Standing};
use crate::bench::Deviation;
use crate::evaluated::Evaluated;
use crate::evaluated::{ResultState, result_outcome};
use practical::file::Role;
use practical::{Amount, Material, Practical};
use sheet::{Evaluation, Inputs, Substitute};

impl Evaluated<'_> {
    pub(super) fn departures(&self, out: &mut Vec<Advice>) {
        let mut inputs = self.evaluation.inputs().clone();
        for deviation in &self.entries.deviations {
            let before = inputs.clone();
            self.apply(deviation, &mut inputs);
            let (old, new) = (self.practical.program.evaluate(&before), self.practical.program.evaluate(&inputs));
            let changes = changed(self.practical, &old, &new);
            let name = |e: &Evaluation<'_>| limiting_now(self.practical, e).map(|m| m.name.clone());
            let limits = name(&new).filter(|now| name(&old).as_ref() != Some(now));
            let standing = if limits.is_some() { Standing::Doubtful } else { Standing::Settled };
            let matter = Matter::Departed { nr: deviation.nr.clone(), changes, limits };
            out.push(plain(deviation.step, standing, matter));
        }
    }

    /// What departures make more (or less) of a material, g or L.
    pub(super) fn departed_by(&self, material: &Material) -> f64 {
        let own = self.entries.deviations.iter().filter_map(|d| signed(d, self.practical));
        own.filter(|(of, _)| of.symbol == material.symbol).map(|(_, by)| by).sum()
    }

    /// The inputs with all departures in them.
    pub(super) fn departed_inputs(&self) -> Inputs {
        let mut inputs = self.evaluation.inputs().clone();
        for deviation in &self.entries.deviations {
            self.apply(deviation, &mut inputs);
        }
        inputs
    }

    /// Puts one departure into the inputs: on the reading of the material, or on the definition of its mass.
    fn apply(&self, deviation: &Deviation, inputs: &mut Inputs) {
        let Some((material, by)) = signed(deviation, self.practical) else { return };
        let measured = self.practical.measured_by(&material.symbol).map(str::to_owned);
        let own = || self.practical.readings.iter().find(|r| r.of.as_deref() == Some(&material.symbol));
        let Some(name) = measured.or_else(|| Some(own()?.symbol.clone())) else { return };
        if let Some(given) = inputs.readings.get_mut(&name) {
            given.value += by;
            return;
        }
        let Some(found) = self.practical.program.evaluate(inputs).value(&name) else { return };
        let with_it = Substitute { value: found.value + by, precision: found.precision };
        inputs.substituted.insert(name, with_it);
    }
}

/// The material that a departure is about, and how much more of it there is, g or L.
fn signed<'p>(deviation: &Deviation, practical: &'p Practical) -> Option<(&'p Material, f64)> {
    let (symbol, amount, more) = deviation.what.amount()?;
    let material = practical.material(symbol)?;
    let amount = Amount::parse(amount).ok()?.base();
    // What was lost of a product was made all the same, and what was put into it was not.
    let turned = material.role == Role::Product && is_loss_or_gain(deviation);
    let more = more != turned;
    Some((material, if more { amount } else { -amount }))
}

fn is_loss_or_gain(deviation: &Deviation) -> bool {
    use crate::bench::Departure;
    match deviation.what {
        Departure::Lost { .. } | Departure::Added { .. } => true,
        Departure::Sampled { .. } | Departure::Seeded { .. } | Departure::WeighedOnce { .. } | Departure::Otherwise => {
            false
        }
    }
}

/// Results that come out otherwise, as they are shown.
fn changed(practical: &Practical, old: &Evaluation<'_>, new: &Evaluation<'_>) -> Vec<Changed> {
    let state = |e: &Evaluation<'_>, name: &str| match result_outcome(practical, e, name).state {
        ResultState::Value(v) => Some(v),
        ResultState::NotYet { .. } | ResultState::Failed { .. } => None,
    };
    let one = |r: &practical::ResultSpec| {
        let (before, with_it) = (state(old, &r.name)?, state(new, &r.name)?);
        (before.text != with_it.text).then(|| Changed {
            result: r.name.clone(),
            label: r.label.clone(),
            before: before.text,
            with_it: with_it.text,
            unit: before.unit,
        })
    };
    practical.results.iter().filter_map(one).collect()
}

/// The reagent that limits.
pub(super) fn limiting_now<'p>(practical: &'p Practical, evaluation: &Evaluation<'_>) -> Option<&'p Material> {
    let (name, reagents) = practical.limiting.as_ref()?;
    practical.material(reagents.get(evaluation.limiting_argument(name)?)?)
}
