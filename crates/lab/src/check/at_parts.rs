//! Slips on wholes and their parts: portions of a sum, what is left and what is gone, containers left in everywhere.

use super::reach::{At, Reach, at};
use measure::{Dimension, InstrumentKind};
use practical::SheetRole;
use practical::file::Weighing;
use practical::slip::Slip;
use sheet::{Act, Change, Leaf, Place, trial_name};

/// Quantities of which there are portions.
const IN_PORTIONS: [Dimension; 3] = [Dimension::MASS, Dimension::VOLUME, Dimension::AMOUNT];

impl Reach<'_> {
    /// What a place measures, where it is the value of a definition or a reading.
    pub(super) fn measures(&self, place: Place) -> Option<Dimension> {
        let defined = self.program().defines(place).and_then(|n| self.program().definition(n));
        let read = || {
            let Some(Leaf::Reading(s) | Leaf::Trial(s, _)) = self.work(place).leaf() else { return None };
            self.practical.reading(s).map(|r| r.unit.dimension())
        };
        defined.map(|d| d.dimension).or_else(read)
    }

    /// Whether a place is of something that comes in portions; by itself, or by what it is made of.
    fn in_portions(&self, place: Place) -> bool {
        let own = self.measures(place);
        let made_of = || self.program().operands(place).into_iter().find_map(|o| self.measures(o));
        own.or_else(made_of).is_some_and(|d| IN_PORTIONS.contains(&d))
    }

    /// A portion of several that is not in the sum.
    pub(super) fn portions(&mut self, place: Place, all: Place, trials: &[Place], there: &[usize]) {
        if there.len() < 2 || !self.in_portions(place) {
            return;
        }
        let Some(sum) = self.number(place) else { return };
        let of = self.program().defines(all).unwrap_or_default().to_owned();
        for t in there {
            let Some(one) = self.number(trials[*t]) else { continue };
            let change = vec![at(place, Act::Number(sum - one))];
            self.add(Slip::PortionForgotten, trial_name(&of, *t), 1.0, change);
        }
    }

    /// Of trials of which one counts (the last of several heatings), another one.
    pub(super) fn another_trial(&mut self, place: Place, all: Place, trials: &[Place], there: &[usize]) {
        let Some(counts) = self.number(place) else { return };
        let of = self.program().defines(all).unwrap_or_default().to_owned();
        for t in there {
            let Some(one) = self.number(trials[*t]).filter(|x| *x != counts) else { continue };
            let change = vec![at(place, Act::Number(one))];
            self.add(Slip::WrongTrial, trial_name(&of, *t), 1.0, change);
        }
    }

    /// One of two terms left out; of what was added dropwise that is a slip with a name of its own.
    pub(super) fn portion_left_out(&mut self, place: Place, owner: &str) {
        let operands = self.program().operands(place);
        let [first, second] = operands[..] else { return };
        if !self.in_portions(place) {
            return;
        }
        for (left_out, act) in [(second, Act::First), (first, Act::Second)] {
            let dropping = |s: &String| {
                self.practical.reading(s).is_some_and(|r| r.instrument.kind == InstrumentKind::DroppingPipette)
            };
            let dropwise = matches!(self.work(left_out).leaf(), Some(Leaf::Reading(s)) if dropping(s));
            let slip = if dropwise { Slip::DropsUncounted } else { Slip::PortionForgotten };
            self.add(slip, owner, 1.0, vec![at(place, act)]);
        }
    }

    /// Of a difference that is no weighing, the whole, or the other part: what is left of a reagent for what reacted, what is
    /// left for what was lost.
    pub(super) fn parts_exchanged(&mut self, place: Place, owner: &str) {
        if self.practical.roles.has(owner, SheetRole::Reacted) || !self.in_portions(place) {
            return;
        }
        let used_up = |m: &&practical::Material| m.term.is_some_and(|(_, used_up)| used_up);
        let reagents = self.practical.materials.iter().filter(used_up);
        let is_used = reagents.clone().any(|m| self.practical.measured_by(&m.symbol) == Some(owner));
        let of_amounts = self.measures(place) == Some(Dimension::AMOUNT);
        let (other, whole) = if is_used || of_amounts {
            (Slip::LeftForReacted, Slip::LeftForReacted)
        } else {
            (Slip::Complement, Slip::WrongMass)
        };
        self.add(other, owner, 1.0, vec![at(place, Act::Second)]);
        self.add(whole, owner, 1.0, vec![at(place, Act::First)]);
    }

    /// A container that stays in every weighing in which it stands.
    pub(super) fn container_in_all(&mut self) {
        let single = |w: &Weighing| match w {
            Weighing::ContainerAndContents { name, containers, .. } => match &containers[..] {
                [only] => Some((only.clone(), name.clone())),
                _ => None,
            },
            Weighing::MatchedBlank { name, blank, .. } => Some((blank.clone(), name.clone())),
            Weighing::Tared { .. } | Weighing::ByDifference { .. } => None,
        };
        let weighings: Vec<(String, String)> = self.practical.file.weighings.iter().filter_map(single).collect();
        let mut containers: Vec<&String> = weighings.iter().map(|(c, _)| c).collect();
        containers.sort();
        containers.dedup();
        for container in containers {
            let of_it = weighings.iter().filter(|(c, _)| c == container);
            let places: Vec<Place> = of_it.filter_map(|(_, name)| self.definition(name)).collect();
            if places.len() > 1 {
                let changes: Vec<Change> = places.into_iter().map(|p| at(p, Act::First)).collect();
                self.add(Slip::ContainerInBoth, container, 1.0, changes);
            }
        }
    }

    /// Another of the recorded masses in one step alone, where it is divided by a molar mass.
    pub(super) fn other_mass_here(&mut self, amount: Place, mass: Place, owner: &str) {
        let Some(own) = self.number(mass).filter(|m| *m != 0.0 && amount.count() == 1) else { return };
        let Some(name) = self.program().defines(mass).map(str::to_owned) else { return };
        for (other, value) in self.masses() {
            if other != name && value > 0.0 && (value - own).abs() > 1e-9 * own.abs() {
                let change = vec![at(amount, Act::Times(value / own))];
                self.add(Slip::WrongMass, At::exchanged(owner, &other), 0.5, change);
            }
        }
    }
}
