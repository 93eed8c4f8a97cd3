//! Slips on how a formula is read or reduced, as far as they change a number.

use super::reach::{Candidate, Made, Reach, at};
use measure::Dimension;
use practical::file::Method;
use practical::slip::Slip;
use sheet::{Act, Change, Leaf, Place, Work};

impl Reach<'_> {
    pub(super) fn in_formulas(&mut self) {
        let composition = |m: &Method| matches!(m, Method::EmpiricalFormula { .. } | Method::Hydrate { .. });
        let asked = self.practical.file.methods.iter().any(composition);
        if asked || self.is_ratio_of_amounts() {
            self.masses_as_amounts();
            self.forced_whole();
        }
    }

    /// Whether the result is one mass over its molar mass, over another.
    fn is_ratio_of_amounts(&self) -> bool {
        let program = self.program();
        let Some(place) = program.place_of(&self.result.name).filter(|p| self.work(*p) == Work::Quotient) else {
            return false;
        };
        program.operands(place).len() == 2 && program.operands(place).into_iter().all(|p| self.is_amount(p))
    }

    /// Whether a place is something over a molar mass.
    fn is_amount(&self, place: Place) -> bool {
        let below = self.program().operands(place).get(1).map(|p| self.work(*p));
        self.work(place) == Work::Quotient && matches!(below, Some(Work::Leaf(Leaf::MolarMass(_))))
    }

    /// Every amount on the way is the mass it was to be found from.
    fn masses_as_amounts(&mut self) {
        let amount = |p: &&Place| {
            let defined = self.program().defines(**p).and_then(|n| self.program().definition(n));
            let named = defined.is_some_and(|d| d.dimension == Dimension::AMOUNT) && self.work(**p) == Work::Quotient;
            named || self.is_amount(**p)
        };
        let changes: Vec<Change> = self.places.iter().filter(amount).map(|p| at(*p, Act::First)).collect();
        if changes.len() > 1 {
            self.add(Slip::MassRatioFormula, self.result.name.clone(), 1.0, changes);
        }
        self.ratio_of_the_masses();
    }

    /// The masses themselves in the place of both amounts, whether these were answered before or not.
    fn ratio_of_the_masses(&mut self) {
        let program = self.program();
        let Some(place) = program.place_of(&self.result.name).filter(|p| self.work(*p) == Work::Quotient) else {
            return;
        };
        let masses: Vec<f64> = program.operands(place).into_iter().filter_map(|p| self.mass_behind(p)).collect();
        if let [above, below] = masses[..] {
            let change = at(place, Act::Number(above / below));
            self.add(Slip::MassRatioFormula, self.result.name.clone(), 1.0, vec![change]);
        }
    }

    /// The mass that an amount was found from by a molar mass.
    fn mass_behind(&self, amount: Place) -> Option<f64> {
        let program = self.program();
        let above = *program.operands(amount).first().filter(|_| self.is_amount(amount))?;
        let is_number = |p: &Place| matches!(self.work(*p), Work::Leaf(Leaf::Number));
        if self.work(above) != Work::Product {
            return self.plain.plain(above);
        }
        let operands = program.operands(above);
        let number = operands.iter().any(is_number);
        let mass = operands.into_iter().find(|p| !is_number(p)).filter(|_| number).unwrap_or(above);
        self.plain.plain(mass)
    }

    fn forced_whole(&mut self) {
        let pure_number = self.result.unit.dimension() == Dimension::ONE && self.result.unit.written() != "%";
        let value = self.value_of(&self.result.name).filter(|v| pure_number && *v > 0.5);
        for whole in value.into_iter().flat_map(|v| [v.floor(), v.ceil()]).filter(|w| *w > 0.0) {
            let made = Made::Written(whole);
            let at = self.result.name.clone();
            self.found.push(Candidate { slip: Slip::ForcedWhole, at: at.into(), exchange: None, share: 1.0, made });
        }
    }
}
