//! Methods expand into definitions of the sheet; they are no code path beside it.
//!
//! *Yield*: the amount of each reagent from what was used, its extent n/ν, the smallest extent, the theoretical yield
//! ξ·ν·M of the product in the form in which it is weighed, the percent yield. *Titration*: c = n/V with the ratio of the
//! equation. *Composition*: n = m/M of each part, their ratios. Each names what it defines; a sheet of one's own may go
//! on from there.
//!
//! Sources: IUPAC Green Book, 3rd ed., 2.10 (extent of reaction, stoichiometric number); Harris, Quantitative Chemical
//! Analysis, 9th ed., 7.1 (titrations, back titration) and 27.1 (gravimetric factor).

mod agreement;
mod asked;
mod composition;
mod measured;
mod titration;
mod yields;

pub use agreement::{Agreement, Compared, Rule};

use super::book;
use super::error::PracticalProblem as Problem;
use super::file::{Method, TitreItem, Weighing};
use super::place::Key;
use super::{Material, Roles, SheetRole, TitresAgree};
use sheet::{Draft, nearest};
use std::collections::{BTreeMap, BTreeSet};

/// The definitions of a practical before they are compiled, with what they mean.
#[derive(Debug, Default)]
pub(super) struct Expansion<'m> {
    pub materials: &'m [Material],
    pub drafts: Vec<Draft>,
    pub labels: BTreeMap<String, String>,
    /// Where in the file each definition comes from.
    pub origins: BTreeMap<String, Vec<Key>>,
    pub containers: BTreeMap<String, Vec<String>>,
    /// Two readings whose difference counts: the larger first.
    pub differences: Vec<(String, String)>,
    pub tared: Vec<String>,
    pub limiting: Option<(String, Vec<String>)>,
    pub roles: Roles,
    /// What a class finds of a result: its standard deviation as a part of its mean.
    pub class_scatter: BTreeMap<String, f64>,
    /// Readings, weighings and titres that have a value for each repeat.
    pub repeated: BTreeSet<String>,
    /// When titres agree, where the method does not say it.
    pub agreement: TitresAgree,
    /// Symbols of elements that methods speak of without a material.
    pub elements: Vec<String>,
}

impl<'m> Expansion<'m> {
    /// Over materials and the readings that repeat, in a school with its own rule for titres.
    pub fn over(materials: &'m [Material], repeated: BTreeSet<String>, agreement: TitresAgree) -> Expansion<'m> {
        Expansion { materials, repeated, agreement, ..Expansion::default() }
    }

    fn define(&mut self, name: impl Into<String>, label: impl Into<String>, expression: impl Into<String>) {
        let name = name.into();
        self.labels.insert(name.clone(), label.into());
        self.drafts.push(Draft::made(name, expression));
    }

    /// Defines something, and says what it stands for.
    fn define_as(
        &mut self,
        (role, of): (SheetRole, Option<&str>),
        name: impl Into<String>,
        label: impl Into<String>,
        expression: impl Into<String>,
    ) {
        let name = name.into();
        self.roles.give(&name, role, of);
        self.define(name, label, expression);
    }

    fn material(&self, symbol: &str) -> Result<&'m Material, Problem> {
        self.materials.iter().find(|m| m.symbol == symbol).ok_or_else(|| Problem::Unknown {
            what: "material",
            name: symbol.to_owned(),
            near: nearest(symbol, self.materials.iter().map(|m| m.symbol.as_str())),
        })
    }

    /// Defines the amount of a material from what was used of it, and gives the name of that.
    fn amount(&mut self, symbol: &str, used: &str) -> Result<String, Problem> {
        let material = self.material(symbol)?;
        let none = Problem::Senseless("nothing says how much of it is in there: state a density or a strength");
        let expression = material.supply.amount(symbol, used).ok_or(none)?;
        let name = amount_name(symbol);
        self.define_as((SheetRole::Amount, Some(symbol)), &name, format!("amount of {}", material.name), expression);
        Ok(name)
    }

    pub fn weighing(&mut self, weighing: &Weighing) {
        if weighing.readings().iter().any(|r| self.repeated.contains(*r)) {
            self.repeated.insert(weighing.name().to_owned());
        }
        match weighing {
            Weighing::Tared { name, label, reading } => {
                self.tared.push(reading.clone());
                self.define(name, label, reading.as_str());
            }
            Weighing::ByDifference { name, label, before, after } => {
                self.differences.push((before.clone(), after.clone()));
                self.containers.insert(before.clone(), vec![after.clone()]);
                self.define(name, label, format!("{before} - {after}"));
            }
            Weighing::ContainerAndContents { name, label, gross, containers } => {
                self.containers.insert(gross.clone(), containers.clone());
                self.differences.extend(containers.first().map(|c| (gross.clone(), c.clone())));
                let less: Vec<&str> = std::iter::once(gross).chain(containers).map(String::as_str).collect();
                self.define(name, label, less.join(" - "));
            }
            Weighing::MatchedBlank { name, label, gross, blank } => {
                self.containers.insert(gross.clone(), vec![blank.clone()]);
                self.differences.push((gross.clone(), blank.clone()));
                self.define(name, label, format!("{gross} - {blank}"));
            }
        }
    }

    pub fn titre(&mut self, titre: &TitreItem) {
        self.differences.push((titre.end.clone(), titre.start.clone()));
        self.define(&titre.name, &titre.label, format!("{} - {}", titre.end, titre.start));
    }

    /// Defines what a method computes; where it has a name, all that it defines ends in that.
    pub fn method(&mut self, method: &Method) -> Result<(), Problem> {
        let Some(suffix) = method.named() else { return self.expand(method) };
        let plain = |c: char| c.is_ascii_alphanumeric() || c == '_';
        if suffix.is_empty() || suffix.len() > MOST_OF_A_NAME || !suffix.chars().all(plain) {
            return Err(Problem::Senseless("a method is called by letters, digits and '_': as = \"crude\""));
        }
        let mut own = Expansion { materials: self.materials, repeated: self.repeated.clone(), ..Expansion::default() };
        own.agreement.clone_from(&self.agreement);
        own.class_scatter.clone_from(&self.class_scatter);
        own.expand(method)?;
        let names: BTreeSet<String> = own.drafts.iter().map(|d| d.name.clone()).collect();
        let called = |name: &str| if names.contains(name) { format!("{name}_{suffix}") } else { name.to_owned() };
        for draft in own.drafts {
            self.drafts.push(Draft {
                name: called(&draft.name),
                expression: renamed(&draft.expression, called),
                ..draft
            });
        }
        self.labels.extend(own.labels.into_iter().map(|(name, label)| (called(&name), format!("{label} ({suffix})"))));
        self.roles.declare(&own.roles.renamed(called));
        self.elements.extend(own.elements);
        let limiting = own.limiting.map(|(name, reagents)| (called(&name), reagents));
        self.limiting = self.limiting.take().or(limiting);
        Ok(())
    }

    fn expand(&mut self, method: &Method) -> Result<(), Problem> {
        match method {
            Method::LimitingYield { reagents, product, product_mass, .. } => {
                self.limiting_yield(reagents, product, product_mass)
            }
            Method::Yield { reagent, product, product_mass, .. } => self.one_yield(reagent, product, product_mass),
            Method::Recovery { taken, recovered, .. } => {
                let part = book::part(recovered, taken);
                self.define_as((SheetRole::Recovery, None), "percent_recovery", "percent recovery", part);
                Ok(())
            }
            Method::Standardise { titrant, standard, titre, blank, limit, .. } => {
                self.standardise(titrant, standard, titre, blank.as_deref(), limit.as_deref())
            }
            Method::Titrate { sample, aliquot, titrant, titre, limit, rsd, blank, dilution, as_mass, .. } => {
                let found = titration::Found { aliquot, dilution: dilution.as_deref(), as_mass: *as_mass };
                let agreement = titration::agreement(limit, rsd, &self.agreement.clone())?;
                let mean = |e: &mut Self| e.mean_titre(titre, &agreement, blank.as_deref());
                let own = blank.as_ref().map_or(titre.clone(), |b| format!("({titre} - {b})"));
                self.titrate(sample, titrant, &own, mean, &found)
            }
            Method::BackTitration { sample, excess, titrant, titre, limit, rsd, sample_mass, .. } => {
                let agreement = titration::agreement(limit, rsd, &self.agreement.clone())?;
                self.back_titration(sample, excess, titrant, titre, &agreement, sample_mass)
            }
            Method::EmpiricalFormula { elements, most, scatter, accepted, .. } => {
                if let Some(formula) = accepted {
                    chem::Formula::parse(formula)?;
                }
                self.empirical_formula(elements, *most, scatter.as_deref())
            }
            Method::Hydrate { anhydrous, residue, water, lost, .. } => self.hydrate(anhydrous, residue, water, lost),
            Method::MassFraction { component, sample, .. } => {
                let part = book::part(component, sample);
                self.define_as((SheetRole::MassFraction, None), "mass_fraction", "mass fraction", part);
                Ok(())
            }
            Method::Gravimetric { analyte, precipitate, precipitate_mass, sample_mass, .. } => {
                self.gravimetric(analyte, precipitate, precipitate_mass, sample_mass)
            }
            Method::MassBalance { parts, whole, .. } => {
                self.define("m_found", "mass found in all parts", parts.join(" + "));
                let (label, part) = ("recovery of the sample", book::part("m_found", whole));
                self.define_as((SheetRole::PartsFound, None), "recovered", label, part);
                self.define("unaccounted", "mass unaccounted for", book::difference(whole, "m_found"));
                Ok(())
            }
            Method::SolutionMade { solute, volume, .. } => {
                let material = self.material(&solute.material)?;
                let n = self.amount(&solute.material, &solute.reading)?;
                let label = format!("concentration of {} made", material.name);
                let made = (SheetRole::Concentration, Some(solute.material.as_str()));
                self.define_as(made, format!("c_{}", solute.material), label, book::in_volume(&n, volume));
                Ok(())
            }
            Method::PercentError { found, accepted, .. } => {
                let label = "percent error, of the accepted value";
                let part = book::relative_error(found, accepted);
                self.define_as((SheetRole::PercentError, None), "percent_error", label, part);
                Ok(())
            }
            Method::Calibration { x, y, unknown, through_zero, dilution, .. } => {
                self.calibration([x, y, unknown], *through_zero, dilution.as_deref());
                Ok(())
            }
            Method::Calorimetry {
                reagents,
                heated,
                specific_heat,
                calorimeter,
                before,
                after,
                times,
                mixed_at,
                ..
            } => {
                let tail = times.as_deref().zip(mixed_at.as_deref());
                if times.is_some() != mixed_at.is_some() {
                    return Err(Problem::Senseless("a line carried back needs the times and the moment of mixing"));
                }
                let warmed = measured::Warmed { before, after, tail };
                self.calorimetry(reagents, heated, specific_heat, calorimeter.as_deref(), &warmed)
            }
            Method::Gas { gas, volume, temperature, pressure, over_water, column, .. } => {
                self.gas(gas, [volume, temperature, pressure], *over_water, column.as_deref())
            }
            Method::Charge { current, time, electrons, product, product_mass, .. } => {
                self.charge([current, time], *electrons, product, product_mass)
            }
        }
    }
}

/// Longest name that a method is called by.
const MOST_OF_A_NAME: usize = 30;

/// An expression with every name as it is called.
fn renamed(expression: &str, called: impl Fn(&str) -> String) -> String {
    let part = |c: char| c.is_alphanumeric() || c == '_';
    let mut out = String::new();
    let mut rest = expression;
    while let Some(at) = rest.find(|c: char| c.is_alphabetic() || c == '_') {
        let length = rest[at..].find(|c: char| !part(c)).unwrap_or(rest.len() - at);
        // Digits before letters are a number with its exponent or unit, and no name.
        out.push_str(&rest[..at]);
        out.push_str(&called(&rest[at..at + length]));
        rest = &rest[at + length..];
    }
    out + rest
}

/// Name of the definition that holds a reagent's amount.
fn amount_name(material: &str) -> String {
    format!("n_{material}")
}
