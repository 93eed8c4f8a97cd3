//! Limiting reagent, theoretical and percent yield.

use super::Expansion;
use crate::SheetRole;
use crate::error::PracticalProblem as Problem;
use crate::file::ReagentItem;

impl Expansion<'_> {
    pub(super) fn limiting_yield(
        &mut self,
        reagents: &[ReagentItem],
        product: &str,
        mass: &str,
    ) -> Result<(), Problem> {
        let mut extents = Vec::new();
        for reagent in reagents {
            let amount = self.amount(&reagent.material, &reagent.reading)?;
            extents.push(format!("{amount} / coefficient({})", reagent.material));
        }
        match &extents[..] {
            [] => return Err(Problem::Senseless("a yield needs at least one reagent")),
            [only] => self.extent(only),
            all => self.extent(&format!("limiting({})", all.join(", "))),
        }
        if extents.len() > 1 {
            self.limiting = Some(("extent".into(), reagents.iter().map(|r| r.material.clone()).collect()));
        }
        self.percent_yield(product, mass, format!("extent * coefficient({product}) * M({product})"))
    }

    pub(super) fn one_yield(&mut self, reagent: &ReagentItem, product: &str, mass: &str) -> Result<(), Problem> {
        let amount = self.amount(&reagent.material, &reagent.reading)?;
        let theory = format!("{amount} * ratio({product}, {}) * M({product})", reagent.material);
        self.percent_yield(product, mass, theory)
    }

    fn percent_yield(&mut self, product: &str, mass: &str, theory: String) -> Result<(), Problem> {
        let product = self.material(product)?;
        let of = Some(product.symbol.as_str());
        self.roles.give(mass, SheetRole::ActualYield, of);
        let label = format!("theoretical yield of {}", product.name);
        self.define_as((SheetRole::TheoreticalYield, of), "m_theory", label, theory);
        let percent = format!("{mass} / m_theory");
        self.define_as((SheetRole::PercentYield, of), "percent_yield", "percent yield", percent);
        Ok(())
    }

    fn extent(&mut self, expression: &str) {
        self.define_as((SheetRole::Extent, None), "extent", "extent of the reaction", expression);
    }
}
