//! Competing reactions: what each would make from the planned amounts, and what would be seen.

use super::{Consequence, Note, Setting, figures};
use practical::Material;
use practical::file::{Arrangement, Role};

impl Setting<'_> {
    pub(super) fn hypotheses(&self, notes: &mut Vec<Note>) {
        let practical = self.practical;
        if practical.arrangement != Arrangement::Competing {
            return;
        }
        for (i, reaction) in practical.reactions.iter().enumerate() {
            let term = |m: &Material| reaction.equation.term_of(m.formula.as_ref()?);
            let extent = |m: &Material| -> Option<f64> {
                let (coefficient, used) = term(m)?;
                let there = self.moles(m, m.planned.as_ref()?.base())?;
                used.then(|| there / chem::number(coefficient))
            };
            let extents = practical.materials.iter().filter_map(|m| Some((m, extent(m)?)));
            let Some((limits, least)) = extents.min_by(|a, b| a.1.total_cmp(&b.1)) else { continue };
            let product = practical.materials.iter().find_map(|m| {
                let (coefficient, used) = term(m)?;
                let mass = least * chem::number(coefficient) * self.molar_mass(m)?;
                (!used && m.role == Role::Product).then_some((m, mass))
            });
            let Some((product, mass)) = product else { continue };
            let what = Consequence::Hypothesis {
                name: reaction.name.clone(),
                limits: limits.name.clone(),
                product: product.name.clone(),
                theory: format!("{} g", figures(mass, 3)),
                seen: reaction.predicts.values().cloned().collect(),
            };
            notes.push(Note { beside: vec!["reactions".into(), i.into()], warns: false, what });
        }
    }
}
