//! Formulas from masses, water of crystallisation, gravimetry.

use super::{Expansion, amount_name};
use crate::error::PracticalProblem as Problem;
use crate::file::Portion;
use crate::{QuantityError, SheetRole, Stated, book};
use measure::Dimension;

/// How far a ratio of amounts scatters when nothing is said: what is lost or left over in a crucible, together.
const USUAL_SCATTER: f64 = 0.02;
/// In %: beyond it nothing is decided.
const MOST_SCATTER: f64 = 49.0;

impl Expansion<'_> {
    /// Of a material that is an element (I₂), the atoms are counted (I): the formula is made of atoms.
    pub(super) fn empirical_formula(
        &mut self,
        parts: &[Portion],
        most: Option<u32>,
        scatter: Option<&str>,
    ) -> Result<(), Problem> {
        let percent = match scatter {
            Some(text) => {
                let quantity = |e: QuantityError| Problem::Quantity { text: text.to_owned(), reason: e.to_string() };
                100.0 * Stated::positive(text, &[Dimension::ONE]).map_err(quantity)?.base()
            }
            None => 100.0 * self.class_scatter.get("amount_ratio").copied().unwrap_or(USUAL_SCATTER),
        };
        if percent > MOST_SCATTER {
            return Err(Problem::Senseless("amounts that scatter by half and more stand for no formula"));
        }
        let mut arguments = Vec::new();
        for part in parts {
            let known = self.material(&part.material);
            let atoms = match &known {
                Ok(m) => m.formula.as_ref().and_then(|f| {
                    let mut atoms = f.composition().iter();
                    let first = atoms.next()?;
                    atoms.next().is_none().then(|| first.0.element.symbol.to_owned())
                }),
                Err(_) => chem::element(&part.material).map(|e| e.symbol.to_owned()),
            };
            let symbol = match (atoms, known) {
                (Some(element), _) => {
                    if !self.elements.contains(&element) {
                        self.elements.push(element.clone());
                    }
                    element
                }
                (None, Ok(m)) => m.symbol.clone(),
                (None, Err(unknown)) => return Err(unknown),
            };
            let amount = amount_name(&symbol);
            let moles = book::amount_of_solid(&part.mass, None, &format!("M({symbol})"));
            self.define_as((SheetRole::Amount, Some(&part.material)), &amount, format!("amount of {symbol}"), moles);
            arguments.push(format!("{symbol}, {amount}"));
        }
        let most = most.map_or(String::new(), |n| format!(", {n}"));
        let found = format!("formula({}{most}, {percent} %)", arguments.join(", "));
        self.define("simplest_formula", "simplest formula", found);
        if let [first, .., last] = parts {
            let amounts: Vec<&str> = arguments.iter().filter_map(|a| a.split(", ").nth(1)).collect();
            if let (Some(below), Some(above)) = (amounts.first(), amounts.last()) {
                let label = format!("amount of {} to {}", last.material, first.material);
                self.define_as((SheetRole::AmountRatio, None), "amount_ratio", label, book::part(above, below));
            }
        }
        Ok(())
    }

    pub(super) fn hydrate(&mut self, anhydrous: &str, residue: &str, water: &str, lost: &str) -> Result<(), Problem> {
        let (salt, h2o) = (self.material(anhydrous)?, self.material(water)?);
        let (n_salt, n_water) = (amount_name(anhydrous), amount_name(water));
        let (label, found) =
            (format!("amount of {}", salt.name), book::amount_of_solid(residue, None, &format!("M({anhydrous})")));
        self.define_as((SheetRole::Amount, Some(anhydrous)), &n_salt, label, found);
        let (label, found) =
            (format!("amount of {}", h2o.name), book::amount_of_solid(lost, None, &format!("M({water})")));
        self.define_as((SheetRole::Amount, Some(water)), &n_water, label, found);
        self.define_as(
            (SheetRole::Waters, None),
            "x_water",
            "waters of crystallisation",
            book::part(&n_water, &n_salt),
        );
        Ok(())
    }

    pub(super) fn gravimetric(
        &mut self,
        analyte: &str,
        precipitate: &str,
        precipitate_mass: &str,
        sample_mass: &str,
    ) -> Result<(), Problem> {
        let name = &self.material(analyte)?.name;
        self.material(precipitate)?;
        let [ratio, of, over] =
            [format!("ratio({analyte}, {precipitate})"), format!("M({analyte})"), format!("M({precipitate})")];
        let factor = book::gravimetric_factor(&ratio, &of, &over);
        self.define("gravimetric_factor", "gravimetric factor", factor);
        let (mass, fraction) = (format!("m_{analyte}"), format!("w_{analyte}"));
        let found = book::converted(precipitate_mass, "gravimetric_factor");
        self.define_as((SheetRole::Mass, Some(analyte)), &mass, format!("mass of {name}"), found);
        let (label, part) = (format!("mass fraction of {name}"), book::part(&mass, sample_mass));
        self.define_as((SheetRole::MassFraction, None), fraction, label, part);
        Ok(())
    }
}
