//! Which reagent limits, how far the others are in excess, and how sure that is.
//!
//! What is planned of each is held against what the reactions together would use of it, were there plenty (the run-down of
//! amounts); the bands count at both ends, of the limiting reagent too. *Near the edge*: within 5 % of just enough somewhere in the band. *Flip value*: the strength,
//! purity or amount at which another reagent would limit. *Worst case*: a sample of unknown composition taken as all
//! one component.

use super::ledger::{Share, stated_words};
use super::{Consequence, Note, Setting, figures, in_unit_of};
use practical::file::Role;
use practical::{Material, Stated};

/// An excess below this part is near the edge.
const EDGE: f64 = 0.05;

impl Setting<'_> {
    pub(super) fn excess(&self, notes: &mut Vec<Note>) {
        let shares = self.shares();
        if let Some(yardstick) = Self::yardstick(&shares) {
            self.over_the_yardstick(&shares, yardstick, notes);
        }
        self.flips(&shares, notes);
        self.worst_case(notes);
        self.roles(notes);
    }

    fn over_the_yardstick(&self, shares: &[Share<'_>], yardstick: &Share<'_>, notes: &mut Vec<Note>) {
        let least = shares.iter().min_by(|a, b| a.times.total_cmp(&b.times));
        if let Some(s) = least.filter(|s| s.material.role != Role::Limiting && s.times < yardstick.times) {
            let what = Consequence::NotTheOneMeant { limits: s.material.name.clone() };
            notes.push(Note { beside: self.line_of(s.material), warns: true, what });
        }
        // In excess over something: a reagent is not measured by itself.
        let over = |s: &&Share<'_>| s.material.role == Role::Excess && s.material.symbol != yardstick.material.symbol;
        for s in shares.iter().filter(over) {
            let Some(planned) = &s.material.planned else { continue };
            let over = |times: f64| format!("{:.0}", (times - 1.0) * 100.0);
            let near_edge = s.low < 1.0 + EDGE;
            let what = Consequence::InExcess {
                material: s.material.name.clone(),
                percent: over(s.times),
                low: over(s.low),
                high: over(s.high),
                enough: in_unit_of(planned, planned.base() / s.times),
                near_edge,
            };
            notes.push(Note { beside: self.line_of(s.material), warns: near_edge, what });
            self.enough_up_to(s, yardstick, notes);
        }
    }

    /// A measured volume against a weighed solid that it is to use up.
    fn enough_up_to(&self, volume: &Share<'_>, solid: &Share<'_>, notes: &mut Vec<Note>) {
        if volume.material.supply.is_weighed() || !solid.material.supply.is_weighed() {
            return;
        }
        let (Some(v), Some(m)) = (&volume.material.planned, &solid.material.planned) else { return };
        // Of the volume at its least, beside the solid as planned.
        let least = volume.times * v.ends().0 / v.base();
        let most = m.base() * least;
        let (_, high) = m.ends();
        let enough = most >= high;
        let what = Consequence::EnoughUpTo {
            volume: stated_words(v),
            material: volume.material.name.clone(),
            upto: in_unit_of(m, most),
            of: solid.material.name.clone(),
            band: in_unit_of(m, high),
            enough,
        };
        notes.push(Note { beside: self.line_of(volume.material), warns: !enough, what });
    }

    /// For everything that is known only within a range: where in it another reagent would limit.
    fn flips(&self, shares: &[Share<'_>], notes: &mut Vec<Note>) {
        for s in shares {
            let others = shares.iter().filter(|o| o.material.symbol != s.material.symbol);
            let Some(next) = others.map(|o| o.times).min_by(f64::total_cmp) else { continue };
            let factor = next / s.times;
            let property = if s.material.supply.is_weighed() { "purity" } else { "strength" };
            for (what, stated) in [(property, s.material.supply.stated()), ("amount", s.material.planned.as_ref())] {
                let Some(stated) = stated.filter(|stated| stated.ranged) else { continue };
                let at = stated.base() * factor;
                let (low, high) = stated.ends();
                let inside = (low..=high).contains(&at);
                let what = Consequence::Flip {
                    material: s.material.name.clone(),
                    what,
                    at: in_unit_of(stated, at),
                    range: stated_words(stated),
                    inside,
                };
                notes.push(Note { beside: self.line_of(s.material), warns: inside, what });
            }
        }
    }

    /// Every reagent against a sample that might be all one of its components.
    fn worst_case(&self, notes: &mut Vec<Note>) {
        let practical = self.practical;
        for sample in practical.materials.iter().filter(|m| !m.mixture_of.is_empty()) {
            let times = |m: &Material| practical.times_planned(m) as f64;
            let Some(taken) = sample.planned.as_ref().map(|p| p.ends().1 * times(sample)) else { continue };
            for reagent in practical.materials.iter().filter(|m| m.role.counts() && m.symbol != sample.symbol) {
                let Some(there) =
                    reagent.planned.as_ref().and_then(|p| self.moles(reagent, p.ends().0 * times(reagent)))
                else {
                    continue;
                };
                let needs = sample.mixture_of.iter().filter_map(|c| {
                    let component = practical.material(c)?;
                    Some((component, taken / self.molar_mass(component)? * self.per(reagent, component)?))
                });
                let Some((component, needed)) = needs.max_by(|a, b| a.1.total_cmp(&b.1)) else { continue };
                let enough = there >= needed;
                let what = Consequence::WorstCase {
                    sample: sample.name.clone(),
                    reagent: reagent.name.clone(),
                    component: component.name.clone(),
                    percent: figures(100.0 * there / needed, 3),
                    enough,
                };
                notes.push(Note { beside: self.line_of(reagent), warns: !enough, what });
            }
        }
    }

    /// How much reagent one component takes, in the reaction where both are used up.
    fn per(&self, reagent: &Material, component: &Material) -> Option<f64> {
        let (r, c) = (reagent.formula.as_ref()?, component.formula.as_ref()?);
        self.practical.reactions.iter().find_map(|reaction| {
            let (above, used) = reaction.equation.term_of(r)?;
            let (below, also_used) = reaction.equation.term_of(c)?;
            (used && also_used).then(|| chem::number(above / below))
        })
    }

    /// What is said of a material against what the reactions do with it.
    fn roles(&self, notes: &mut Vec<Note>) {
        if self.practical.reactions.is_empty() {
            return;
        }
        for m in &self.practical.materials {
            let is_used_up = m.term.is_some_and(|(_, used_up)| used_up);
            let what = if m.role == Role::Catalyst && is_used_up {
                Consequence::CatalystCounts { material: m.name.clone() }
            } else if matches!(m.role, Role::Limiting | Role::Excess) && m.term.is_none() && m.mixture_of.is_empty() {
                Consequence::NotInReaction { material: m.name.clone() }
            } else {
                continue;
            };
            notes.push(Note { beside: self.line_of(m), warns: true, what });
        }
    }

    /// Whether a planned amount, taken `factor` times, makes another reagent limit than the plan does.
    pub(super) fn limits_otherwise(&self, material: &Material, factor: f64) -> bool {
        let shares = self.shares();
        let least = |own: f64| {
            let times = |s: &Share<'_>| if s.material.symbol == material.symbol { s.times * own } else { s.times };
            let first = shares.iter().min_by(|a, b| times(a).total_cmp(&times(b)));
            first.map(|s| s.material.symbol.clone())
        };
        least(1.0) != least(factor)
    }

    /// The planned quantity of a material, g or L; its upper end.
    pub(super) fn most_planned(material: &Material) -> Option<f64> {
        material.planned.as_ref().map(|p: &Stated| p.ends().1)
    }
}
