//! Reagents that are weighed or measured out: how much of each follows from how much product there could be.

use super::glass::WeighedOut;
use crate::interview::{Field, Interview, Proposed, Why};
use crate::matter::{Matter, Reaction, Species, molar_mass, round_mass};
use crate::write::{Reads, decimals, plain};
use measure::rounding::figures;
use measure::{Decimal, Dimension, Instrument};
use practical::Stated;
use serde::Serialize;

/// How a reagent comes: weighed, or by volume.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "kebab-case")]
pub(super) enum Form {
    Solid,
    Liquid,
    Solution,
}

/// A reagent with its amount.
#[derive(Serialize)]
pub(super) struct Taken {
    pub matter: Matter,
    pub role: &'static str,
    pub form: Form,
    /// As written, of a solution.
    pub strength: String,
    /// With its band, as the ledger has it.
    pub planned: String,
    /// About so much, with its unit.
    pub about: String,
    /// The symbol of its reading.
    pub reading: String,
    pub read: Reads,
    /// In mL; none of what is weighed.
    #[serde(skip)]
    pub volume: f64,
    /// In g.
    #[serde(skip)]
    pub mass: f64,
    #[serde(skip)]
    pub instrument: Instrument,
}

/// The fields of one reagent.
#[derive(Clone, Copy)]
pub(super) struct Fields {
    from: Field,
    of_form: Field,
}

const LIMITING: Fields = Fields { from: Field::LimitingFrom, of_form: Field::LimitingAs };
const OTHERS: [Fields; 2] = [
    Fields { from: Field::OtherFrom, of_form: Field::OtherAs },
    Fields { from: Field::ThirdFrom, of_form: Field::ThirdAs },
];

/// How a reagent stands in another recipe.
#[derive(Serialize)]
pub(super) struct Otherwise {
    pub planned: String,
    pub about: String,
    pub expected: String,
}

impl Taken {
    /// So many times as much of it, and the reading that has room for both.
    pub fn times(&self, factor: f64) -> (Otherwise, Reads) {
        let places = decimals(&self.instrument);
        let (unit, amount) = if self.form == Form::Solid { ("g", self.mass) } else { ("mL", self.volume) };
        let other = factor * amount;
        let width =
            if self.form == Form::Solid { 0.03 * other } else { (0.02 * other).max(self.instrument.resolution) };
        let width: f64 = figures(width, 1).parse().unwrap_or(width);
        let less = width.max(0.05 * amount);
        let read = Reads::on(&self.instrument, amount, (amount - less, other + 2.0 * width));
        let otherwise = Otherwise {
            planned: format!("{other:.places$} ± {} {unit}", plain(width, places.max(1))),
            about: format!("{other:.places$} {unit}"),
            expected: format!("{other:.places$}"),
        };
        (otherwise, read)
    }
}

/// A recipe: what could be made, from what.
pub(super) struct Recipe {
    pub reaction: Reaction,
    pub product: Matter,
    /// Of product that there could be, g.
    pub theory: f64,
    /// The one that limits stands first.
    pub reagents: Vec<Taken>,
    pub balance: Instrument,
}

/// What aims differ in where they ask for a recipe.
pub(super) struct Wants<'a> {
    pub example: &'a str,
    /// Product that there should be, g.
    pub product: &'a str,
    /// How a reagent comes unless its substance says otherwise.
    pub strength: &'a str,
    /// Whether a solid that dissolves is taken as a solution of that strength.
    pub dissolved: bool,
    /// So many times as much has to go into the cylinders as well.
    pub times: f64,
}

impl Recipe {
    pub fn asked(on: &mut Interview<'_>, wants: &Wants<'_>) -> Option<Recipe> {
        let reaction = Reaction::asked(on, Field::Equation, wants.example)?;
        let product = reaction.product(on, Field::Product, |s| is_made(&s.formula))?;
        let product_matter = Matter::of(on, Field::ProductFrom, &product)?.taken_as(None);
        let limiting = reaction.reactant(on, Field::Limiting, |s| !is_an_element(&s.formula))?;
        let others = reaction.others(&[&limiting]);
        if others.len() > OTHERS.len() {
            return on.refuse(Field::Equation, "more than three reagents: begin with the main reaction");
        }
        let mass =
            on.quantity(Field::ProductMass, &[Dimension::MASS], Some(Proposed(wants.product.into(), Why::Usual)))?;
        let theory = mass.base();
        let extent = theory / product_matter.molar_mass / product.coefficient;
        let excess = if others.is_empty() {
            0.0
        } else {
            let usual = Proposed("20 %".into(), Why::Usual);
            on.quantity(Field::Excess, &[Dimension::ONE], Some(usual))?.base()
        };
        let balance = super::glass::balance(on, theory, 0.002)?;
        let mut reagents: Vec<Taken> = Vec::new();
        for (i, species) in std::iter::once(&limiting).chain(&others).enumerate() {
            let (fields, role, more) = match i {
                0 => (LIMITING, "limiting", 1.0),
                n => (OTHERS[n - 1], "excess", 1.0 + excess),
            };
            let moles = extent * species.coefficient * more;
            let known: Vec<&Matter> = reagents.iter().map(|t| &t.matter).chain([&product_matter]).collect();
            let matter = Matter::of(on, fields.from, species)?.distinct(&known);
            let name = matter.name.clone();
            let taken = reagent(on, fields, (matter, role), moles, &balance, wants);
            on.about(fields.of_form, &name);
            let taken = taken?;
            let product = format!("{} g", plain(theory, 3));
            on.because(fields.of_form, Why::CouldMake { amount: taken.about.clone(), product });
            reagents.push(taken);
        }
        Some(Recipe { reaction, product: product_matter, theory, reagents, balance })
    }

    /// Everything that readings are taken on, once.
    pub fn instruments(&self) -> Vec<Instrument> {
        let mut all = vec![self.balance.clone()];
        for taken in &self.reagents {
            if !all.iter().any(|i| i.name == taken.instrument.name) {
                all.push(taken.instrument.clone());
            }
        }
        all
    }

    pub fn disposal(&self) -> String {
        super::disposal(&self.reagents.iter().map(|t| &t.matter).chain([&self.product]).collect::<Vec<_>>())
    }

    /// All that is liquid, mL.
    pub fn liquid(&self) -> f64 {
        self.reagents.iter().map(|t| t.volume).sum()
    }
}

/// So many moles of a reagent, weighed or measured.
fn reagent(
    on: &mut Interview<'_>,
    fields: Fields,
    (matter, role): (Matter, &'static str),
    moles: f64,
    balance: &Instrument,
    wants: &Wants<'_>,
) -> Option<Taken> {
    let usual = usual_form(&matter, wants);
    let suggested = vec!["solid".into(), "liquid".into(), "1.0 mol/L".into()];
    let said = on.suggested(fields.of_form, suggested, Some(Proposed(usual, Why::Usual)))?;
    let moles = moles / matter.brings;
    let grams = moles * matter.molar_mass;
    match said.as_str() {
        "solid" => {
            let mass = to_the_pan(grams, balance);
            let weighed = WeighedOut::of(balance, mass, 0.03);
            Some(Taken {
                reading: format!("m_{}", matter.symbol),
                matter: matter.taken_as(None),
                role,
                form: Form::Solid,
                strength: String::new(),
                planned: weighed.band,
                about: weighed.about,
                read: weighed.read,
                volume: 0.0,
                mass,
                instrument: balance.clone(),
            })
        }
        "liquid" => {
            let density = matter.density.as_deref().and_then(|d| Stated::parse(d).ok());
            let Some(density) = density else {
                return on.refuse(
                    fields.of_form,
                    format!("the density of {} is not known: weigh it, or take a solution", matter.name),
                );
            };
            // g/mL is g/L in base units, a thousandth of it.
            let volume = grams / (density.base() / 1000.0);
            measured(on, fields, (matter.taken_as(None), role), (Form::Liquid, String::new()), volume, wants.times)
        }
        _ => {
            let strength = on.read(fields.of_form, &said, &[Dimension::CONCENTRATION]);
            let Some(strength) = strength else {
                return on.refuse(fields.of_form, format!("'{said}': write solid, liquid, or a strength in mol/L"));
            };
            let volume = 1000.0 * moles / strength.base();
            let matter = matter.taken_as(Some(&strength));
            measured(on, fields, (matter, role), (Form::Solution, said), volume, wants.times)
        }
    }
}

/// So much of it by volume.
fn measured(
    on: &mut Interview<'_>,
    fields: Fields,
    (matter, role): (Matter, &'static str),
    (form, strength): (Form, String),
    millilitres: f64,
    times: f64,
) -> Option<Taken> {
    let volume: f64 = figures(millilitres, 2).parse().unwrap_or(millilitres);
    let volume =
        if volume < millilitres * 0.97 { figures(millilitres, 3).parse().unwrap_or(millilitres) } else { volume };
    if !(0.2..=250.0).contains(&volume) {
        return on.refuse(fields.of_form, format!("that takes {} mL", figures(volume, 3)));
    }
    let Some(instrument) = on.graduated(volume, times * volume) else {
        return on.refuse(
            fields.of_form,
            format!("nothing measures {} mL: take less, or something stronger", figures(volume, 3)),
        );
    };
    let places = decimals(&instrument);
    let width = (0.02 * volume).max(instrument.resolution);
    let width: f64 = figures(width, 1).parse().unwrap_or(width);
    Some(Taken {
        reading: format!("V_{}", matter.symbol),
        matter,
        role,
        form,
        strength,
        planned: format!("{volume:.places$} ± {} mL", plain(width, 2)),
        about: format!("{volume:.places$} mL"),
        read: Reads::on(&instrument, volume, (volume - width, volume + width)),
        volume,
        mass: 0.0,
        instrument,
    })
}

/// A mass as this balance is asked to show it: three figures, no more places than it has.
fn to_the_pan(grams: f64, balance: &Instrument) -> f64 {
    let places = decimals(balance);
    let rounded = format!("{:.places$}", round_mass(grams));
    Decimal::parse(&rounded).map_or(grams, Decimal::to_f64)
}

/// How a substance usually comes.
fn usual_form(matter: &Matter, wants: &Wants<'_>) -> String {
    let looks = matter.substance.map_or("", |s| s.looks.as_str());
    let is_sold_strong = matter.substance.is_some_and(|s| !s.sold_as.is_empty()) || looks.contains("solution");
    let dissolves = wants.dissolved && matter.substance.is_some_and(|s| s.solubility.is_some());
    if matter.density.is_some() && looks.contains("liquid") && !wants.dissolved {
        "liquid".into()
    } else if is_sold_strong || dissolves {
        wants.strength.into()
    } else {
        "solid".into()
    }
}

/// What is made on purpose: more than a gas that leaves.
fn is_made(formula: &chem::Formula) -> bool {
    !matches!(formula.typed(), "CO2" | "H2" | "O2" | "SO2" | "NH3" | "HCl" | "NaCl" | "Cl2" | "N2")
        && molar_mass(formula) > 0.0
}

fn is_an_element(formula: &chem::Formula) -> bool {
    formula.composition().iter().count() == 1
}

/// Whether a species is the only kind of atom: what a formula is found of.
pub(super) fn element(species: &Species) -> Option<&'static str> {
    let mut atoms = species.formula.composition().iter();
    let (atom, _) = atoms.next()?;
    atoms.next().is_none().then_some(atom.element.symbol)
}
