//! Methods expand into definitions of the sheet; they are no code path beside it.
//!
//! *Limiting reagent and yield*: the amount of each reagent from what was used (n = m·w/M for a solid, n = V·c for a
//! solution, n = V·ρ·w/M for a liquid), its extent n/ν, the smallest extent, the theoretical yield ξ·ν·M of the
//! product in the form in which it is weighed, and the percent yield.
//!
//! Source: IUPAC Green Book, 3rd ed., 2.10 (extent of reaction, stoichiometric number).

use super::file::{Form, Method, Weighing};
use super::{Material, PracticalProblem, YieldNames};
use sheet::Draft;
use std::collections::BTreeMap;

/// The definitions of a practical before they are compiled, with what they mean.
#[derive(Debug, Default)]
pub(super) struct Expansion {
    pub drafts: Vec<Draft>,
    pub labels: BTreeMap<String, String>,
    pub containers: BTreeMap<String, Vec<String>>,
    pub limiting: Option<(String, Vec<String>)>,
    pub yields: Option<YieldNames>,
}

impl Expansion {
    fn define(&mut self, name: impl Into<String>, label: impl Into<String>, expression: impl Into<String>) {
        let name = name.into();
        self.labels.insert(name.clone(), label.into());
        self.drafts.push(Draft::made(name, expression));
    }

    pub fn weighing(&mut self, weighing: &Weighing) {
        match weighing {
            Weighing::ContainerAndContents { name, label, gross, containers } => {
                self.containers.insert(gross.clone(), containers.clone());
                let less: Vec<&str> = std::iter::once(gross).chain(containers).map(String::as_str).collect();
                self.define(name, label, less.join(" - "));
            }
        }
    }

    pub fn method(&mut self, method: &Method, materials: &[Material]) -> Result<(), PracticalProblem> {
        let find = |symbol: &str| {
            let unknown = || PracticalProblem::Unknown { what: "material", name: symbol.to_owned() };
            materials.iter().find(|m| m.symbol == symbol).ok_or_else(unknown)
        };
        match method {
            Method::LimitingYield { reagents, product, product_mass } => {
                let mut extents = Vec::new();
                for reagent in reagents {
                    let material = find(&reagent.material)?;
                    let amount = amount_name(&material.symbol);
                    let label = format!("amount of {}", material.name);
                    self.define(&amount, label, amount_expression(material, &reagent.reading));
                    extents.push(format!("{amount} / coefficient({})", material.symbol));
                }
                let product = find(product)?;
                self.define("extent", "extent of the reaction", format!("limiting({})", extents.join(", ")));
                self.define(
                    "m_theory",
                    format!("theoretical yield of {}", product.name),
                    format!("extent * coefficient({0}) * M({0})", product.symbol),
                );
                self.define("percent_yield", "percent yield", format!("{product_mass} / m_theory"));
                self.limiting = Some(("extent".into(), reagents.iter().map(|r| r.material.clone()).collect()));
                self.yields = Some(YieldNames {
                    actual: product_mass.clone(),
                    theoretical: "m_theory".into(),
                    percent: "percent_yield".into(),
                    product: product.symbol.clone(),
                });
            }
        }
        Ok(())
    }
}

/// Name of the definition that holds a reagent's amount.
pub(crate) fn amount_name(material: &str) -> String {
    format!("n_{material}")
}

fn amount_expression(material: &Material, reading: &str) -> String {
    let symbol = &material.symbol;
    match &material.form {
        Form::Solid { purity: None } => format!("{reading} / M({symbol})"),
        Form::Solid { purity: Some(_) } => format!("{reading} * purity({symbol}) / M({symbol})"),
        Form::Solution { .. } => format!("{reading} * concentration({symbol})"),
        Form::Liquid { .. } => format!("{reading} * density({symbol}) / M({symbol})"),
    }
}
