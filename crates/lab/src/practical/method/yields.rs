//! Limiting reagent, theoretical and percent yield.

use super::Expansion;
use crate::practical::YieldNames;
use crate::practical::error::PracticalProblem as Problem;
use crate::practical::file::ReagentItem;

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
            [only] => self.define("extent", "extent of the reaction", only.as_str()),
            all => self.define("extent", "extent of the reaction", format!("limiting({})", all.join(", "))),
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
        self.define("m_theory", format!("theoretical yield of {}", product.name), theory);
        self.define("percent_yield", "percent yield", format!("{mass} / m_theory"));
        self.yields = Some(YieldNames {
            actual: mass.to_owned(),
            theoretical: "m_theory".into(),
            percent: "percent_yield".into(),
            product: product.symbol.clone(),
        });
        Ok(())
    }
}
