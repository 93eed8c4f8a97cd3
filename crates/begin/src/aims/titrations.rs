//! Titrations: how strong something is, by how much of another thing it takes.

use super::glass::{BuretteReads, WeighedOut, balance, burette, pipette};
use super::{disposal, marks, part, title};
use crate::interview::{Field, Interview, Proposed, Why};
use crate::matter::{Matter, Reaction, Species, one_of, round_mass};
use crate::write::{Reads, plain};
use measure::rounding::figures;
use measure::{Dimension, Instrument, InstrumentKind};
use minijinja::{Value, context};
use practical::Stated;
use serde::Serialize;

const STRENGTH: &[Dimension] = &[Dimension::CONCENTRATION];
/// A titre is read well up to this part of its burette.
const WELL_READ: f64 = 0.85;

/// What shows the end of a titration.
#[derive(Serialize)]
struct Shown {
    indicator: Option<String>,
    also: String,
    hazards: Vec<String>,
    end: String,
    /// What is seen otherwise: too far, or not there yet.
    other: String,
    /// Whether that is too far.
    is_past: bool,
    /// A sentence for the step in which the indicator is added; empty where there is none.
    added: String,
}

/// What is known of the end with such a titrant: indicator, what it is in, the end, what is seen otherwise, whether that is past it.
///
/// Source: Harris, Quantitative Chemical Analysis, 9th ed., 11.6 (indicators), 12.4 (EDTA), 16 (redox), 27 (silver).
fn usual_end(titrant: &str) -> Option<(&'static str, &'static str, &'static str, &'static str, bool)> {
    match titrant {
        "NaOH" | "KOH" | "OH^-" | "Ba(OH)2" => {
            Some(("phenolphthalein", "0.5 % w/v in ethanol, 2 drops", "first lasting pink", "deep pink", true))
        }
        "HCl" | "HNO3" | "H2SO4" | "H^+" | "H3O^+" => {
            Some(("methyl orange", "0.1 % w/v in water, 2 drops", "yellow to orange", "red", true))
        }
        "KMnO4" | "MnO4^-" => Some(("none", "", "first lasting pink", "deep pink", true)),
        "Na2S2O3" | "S2O3^2-" => {
            Some(("starch solution", "1 % w/v, near the end", "blue to colourless", "still blue", false))
        }
        "AgNO3" | "Ag^+" => {
            Some(("dichlorofluorescein", "0.1 % w/v in ethanol, 5 drops", "white to pink", "still white", false))
        }
        _ => None,
    }
}

impl Shown {
    fn asked(on: &mut Interview<'_>, titrant: &Species) -> Option<Shown> {
        let known = usual_end(titrant.typed());
        let propose = |text: &str| Proposed(text.to_owned(), Why::ShowsTheEnd);
        let indicator = on.suggested(Field::Indicator, vec!["none".into()], known.map(|k| propose(k.0)))?;
        let usual = known.filter(|k| k.0 == indicator);
        let end = on.text(Field::EndColour, usual.map(|k| propose(k.2)))?;
        let named = Some(indicator).filter(|i| i != "none");
        let also = usual.map_or("a few drops", |k| k.1);
        let hazards = if usual.is_some_and(|k| k.1.contains("in ethanol")) { vec!["H225", "H319"] } else { Vec::new() };
        Some(Shown {
            added: named.as_ref().map_or_else(String::new, |i| format!(" Add {i}, {also}.")),
            also: also.to_owned(),
            hazards: hazards.into_iter().filter_map(practical::substance::statement).collect(),
            other: usual.filter(|k| k.2 == end).map_or("not there yet", |k| k.3).to_owned(),
            is_past: usual.is_some_and(|k| k.2 == end && k.4),
            indicator: named,
            end,
        })
    }
}

/// A concentration, mol/L.
fn molar(stated: &Stated) -> f64 {
    stated.base()
}

/// A reactant that is a solution of known or of sought strength, with its strength.
fn dissolved(
    on: &mut Interview<'_>,
    (from, strength): (Field, Field),
    species: &Species,
    proposed: &str,
) -> Option<(Matter, Stated, String)> {
    let matter = Matter::of(on, from, species)?;
    let stated = on.quantity(strength, STRENGTH, Some(Proposed(proposed.into(), Why::Usual)))?;
    let words = stated_words(on, strength);
    let matter = matter.taken_as(Some(&stated));
    Some((matter, stated, words))
}

/// What stands in a field, as it was written.
fn stated_words(on: &Interview<'_>, field: Field) -> String {
    on.asked.iter().find(|a| a.field == field).map_or_else(String::new, |a| a.value.clone())
}

/// What stands in the burette: of an acid and a base the base.
fn titrant_of(on: &mut Interview<'_>, reaction: &Reaction) -> Option<Species> {
    let is_base = |s: &Species| matches!(s.typed(), "NaOH" | "KOH" | "OH^-" | "Ba(OH)2");
    let has_base = reaction.reactants.iter().any(is_base);
    reaction.reactant(on, Field::Titrant, |s| if has_base { is_base(s) } else { usual_end(s.typed()).is_some() })
}

/// What the titrant reacts with: asked only where the equation has several such.
fn partner(on: &mut Interview<'_>, field: Field, reaction: &Reaction, titrant: &Species) -> Option<Species> {
    let others = reaction.others(&[titrant]);
    match others.as_slice() {
        [] => on.refuse(Field::Equation, "nothing reacts with the titrant but water"),
        [one] => Some(one.clone()),
        [_, ..] => {
            let helps = |s: &Species| matches!(s.typed(), "H^+" | "H3O^+" | "H2SO4" | "HCl" | "OH^-");
            one_of(on, field, &others, |s| !helps(s))
        }
    }
}

/// The volume that a titration takes, mL: `moles` of `of` with so strong a titrant.
fn titre_of(moles: f64, of: &Species, titrant: &Species, strength: f64) -> f64 {
    1000.0 * moles / of.coefficient * titrant.coefficient / strength
}

/// A titre that the burette cannot deliver, or that is too small to be read, is told at `field`.
fn on_the_burette(on: &mut Interview<'_>, field: Field, titre: f64, burette: &Instrument) -> Option<f64> {
    let shown = figures(titre, 3);
    let holds = plain(burette.capacity, 0);
    if titre > burette.capacity {
        return on.refuse(field, format!("that takes {shown} mL, and the burette holds {holds} mL"));
    }
    if titre < 0.1 * burette.capacity {
        return on.refuse(field, format!("that takes {shown} mL, too little to read on a burette of {holds} mL"));
    }
    Some(titre)
}

pub(super) fn titrant_by_mass(on: &mut Interview<'_>) -> Option<Value> {
    let reaction = Reaction::asked(on, Field::Equation, "Na2CO3 + HCl -> NaCl + H2O + CO2")?;
    let titrant = titrant_of(on, &reaction)?;
    let standard = partner(on, Field::Standard, &reaction, &titrant)?;
    let (titrant_matter, strength, words) =
        dissolved(on, (Field::TitrantFrom, Field::TitrantStrength), &titrant, "about 0.1 mol/L")?;
    let matter = Matter::of(on, Field::StandardFrom, &standard)?.taken_as(None).distinct(&[&titrant_matter]);
    let burette = burette(on)?;
    let half = Proposed(
        format!("{} mL", plain(burette.capacity / 2.0, 1)),
        Why::HalfTheBurette { burette: format!("{} mL", plain(burette.capacity, 0)) },
    );
    let titre = on.quantity(Field::Titre, &[Dimension::VOLUME], Some(half))?;
    let titre = on_the_burette(on, Field::Titre, 1000.0 * titre.base(), &burette)?;
    let strong = molar(&strength) * titrant_matter.brings;
    let moles = titre / 1000.0 * strong / titrant.coefficient * standard.coefficient / matter.brings;
    let takes = Why::TakesATitre { titre: format!("{} mL", figures(titre, 3)) };
    let proposed = Proposed(format!("{} g", plain(round_mass(moles * matter.molar_mass), 4)), takes);
    let mass = on.quantity(Field::Mass, &[Dimension::MASS], Some(proposed))?.base();
    let taken = mass / matter.molar_mass * matter.brings;
    let titre = titre_of(taken, &standard, &titrant, strong);
    on_the_burette(on, Field::Mass, titre, &burette)?;
    let balance = balance(on, mass, 0.01)?;
    let shown = Shown::asked(on, &titrant)?;
    let trials = on.count(Field::Trials, (2, 6), 3)?;
    let title = title(on, &format!("standardising {} with {}", titrant_matter.name, matter.name))?;
    Some(context! {
        title, trials, shown, burette, balance,
        foams => reaction.foams(),
        equation => reaction.text,
        disposal => disposal(&[&titrant_matter, &matter]),
        mass => WeighedOut::of(&balance, mass, 0.15),
        titre => figures(titre, 3),
        burette_readings => BuretteReads::of(&burette, titre),
        strength => words,
        standard => matter,
        titrant => titrant_matter,
        marks => marks(on),
    })
}

pub(super) fn titrant_by_solution(on: &mut Interview<'_>) -> Option<Value> {
    let reaction = Reaction::asked(on, Field::Equation, "HCl + NaOH -> NaCl + H2O")?;
    let titrant = titrant_of(on, &reaction)?;
    let standard = partner(on, Field::Standard, &reaction, &titrant)?;
    let (titrant_matter, strength, words) =
        dissolved(on, (Field::TitrantFrom, Field::TitrantStrength), &titrant, "about 0.1 mol/L")?;
    let (matter, known, known_words) =
        dissolved(on, (Field::StandardFrom, Field::StandardStrength), &standard, "0.1000 ± 0.0005 mol/L")?;
    let matter = matter.distinct(&[&titrant_matter]);
    let pipette = pipette(on)?;
    let burette = burette(on)?;
    let moles = pipette.capacity / 1000.0 * molar(&known) * matter.brings;
    let titre = titre_of(moles, &standard, &titrant, molar(&strength) * titrant_matter.brings);
    let titre = on_the_burette(on, Field::StandardStrength, titre, &burette)?;
    let shown = Shown::asked(on, &titrant)?;
    let limit = agreement(on)?;
    let trials = on.count(Field::Trials, (2, 6), 2)?;
    let title = title(on, &format!("standardising {} with a solution of {}", titrant_matter.name, matter.name))?;
    Some(context! {
        title, trials, shown,
        foams => reaction.foams(),
        instruments => vec![pipette.clone(), burette.clone()],
        limit,
        equation => reaction.text,
        disposal => disposal(&[&titrant_matter, &matter]),
        aliquot => Reads::nominal(&pipette),
        aliquot_volume => nominal(&pipette),
        titre => figures(titre, 3),
        burette_readings => BuretteReads::of(&burette, titre),
        strength => words,
        known => known_words,
        standard => matter,
        titrant => titrant_matter,
        marks => marks(on),
    })
}

/// How closely titres have to agree, as it was written.
fn agreement(on: &mut Interview<'_>) -> Option<String> {
    on.quantity(Field::Agreement, &[Dimension::VOLUME], Some(Proposed("0.10 mL".into(), Why::Usual)))?;
    Some(stated_words(on, Field::Agreement))
}

/// `25.00 mL`.
fn nominal(glass: &Instrument) -> String {
    format!("{:.2} mL", glass.capacity)
}

/// A dilution: so much of the sample, made up to so much.
struct Dilution {
    pipette: f64,
    flask: f64,
}

const DILUTIONS: [(&str, Option<Dilution>); 5] = [
    ("undiluted", None),
    ("25 mL in 100 mL", Some(Dilution { pipette: 25.0, flask: 100.0 })),
    ("25 mL in 250 mL", Some(Dilution { pipette: 25.0, flask: 250.0 })),
    ("10 mL in 100 mL", Some(Dilution { pipette: 10.0, flask: 100.0 })),
    ("10 mL in 250 mL", Some(Dilution { pipette: 10.0, flask: 250.0 })),
];

pub(super) fn sample_by_titration(on: &mut Interview<'_>) -> Option<Value> {
    let reaction = Reaction::asked(on, Field::Equation, "CH3COOH + NaOH -> CH3COONa + H2O")?;
    let titrant = titrant_of(on, &reaction)?;
    let sample = partner(on, Field::Sample, &reaction, &titrant)?;
    let (titrant_matter, strength, words) =
        dissolved(on, (Field::TitrantFrom, Field::TitrantStrength), &titrant, "0.1000 ± 0.0005 mol/L")?;
    let matter = Matter::of(on, Field::SampleFrom, &sample)?;
    // Nobody but the instructor knows about how strong it is.
    let expected = on.quantity(Field::SampleStrength, STRENGTH, None)?;
    let expected_words = stated_words(on, Field::SampleStrength);
    let matter = matter.taken_as(Some(&expected)).distinct(&[&titrant_matter]);
    let aliquot = pipette(on)?;
    let burette = burette(on)?;
    let undiluted = {
        let moles = aliquot.capacity / 1000.0 * molar(&expected) * matter.brings;
        titre_of(moles, &sample, &titrant, molar(&strength) * titrant_matter.brings)
    };
    let times = |d: &Option<Dilution>| d.as_ref().map_or(1.0, |d| d.flask / d.pipette);
    let fits = |d: &Option<Dilution>| undiluted / times(d) <= WELL_READ * burette.capacity;
    let likely = DILUTIONS.iter().position(|(_, d)| fits(d)).unwrap_or(DILUTIONS.len() - 1);
    let why = if likely == 0 {
        Why::TakesATitre { titre: format!("{} mL", figures(undiluted, 3)) }
    } else {
        Why::UndilutedTakes { titre: format!("{} mL", figures(undiluted, 3)) }
    };
    let names: Vec<String> = DILUTIONS.iter().map(|(name, _)| (*name).to_owned()).collect();
    let (_, dilution) = &DILUTIONS[on.choice(Field::Dilution, &names, likely, why)?];
    let titre = on_the_burette(on, Field::Dilution, undiluted / times(dilution), &burette)?;
    let shown = Shown::asked(on, &titrant)?;
    let blank = on.yes(Field::Blank, false);
    let as_mass = on.yes(Field::AsMass, sample.formula.charge() == 0);
    let limit = agreement(on)?;
    let trials = on.count(Field::Trials, (2, 6), 2)?;
    let title = title(on, &format!("{} in a sample, by titration", matter.name))?;
    let diluted = dilution.as_ref().map(|d| {
        let pipette = kit_of(InstrumentKind::VolumetricPipette, d.pipette);
        let flask = kit_of(InstrumentKind::VolumetricFlask, d.flask);
        context! {
            pipette => Reads::nominal(&pipette), flask => Reads::nominal(&flask),
            taken => nominal(&pipette), made => format!("{} mL", plain(flask.capacity, 0)),
            own => [pipette, flask].into_iter().filter(|i| i.name != aliquot.name).collect::<Vec<_>>(),
        }
    });
    let blank = blank.then(|| Reads::on(&burette, 0.1, (0.0, 2.0)));
    Some(context! {
        title, trials, shown, as_mass, diluted, blank,
        foams => reaction.foams(),
        instruments => vec![aliquot.clone(), burette.clone()],
        limit,
        equation => reaction.text,
        disposal => disposal(&[&titrant_matter, &matter]),
        aliquot => Reads::nominal(&aliquot),
        aliquot_volume => nominal(&aliquot),
        titre => figures(titre, 3),
        burette_readings => BuretteReads::of(&burette, titre + if blank.is_some() { 0.1 } else { 0.0 }),
        strength => words,
        expected => expected_words,
        sample => matter,
        titrant => titrant_matter,
        marks => marks(on),
    })
}

fn kit_of(kind: InstrumentKind, capacity: f64) -> Instrument {
    let found = practical::kit().into_iter().find(|i| i.kind == kind && (i.capacity - capacity).abs() < 1e-9);
    found.expect("a usual room has the glass that the dilutions name; a test begins each")
}

pub(super) fn back_titration(on: &mut Interview<'_>) -> Option<Value> {
    let reaction = Reaction::asked(on, Field::Equation, "CaCO3 + HCl -> CaCl2 + H2O + CO2")?;
    let left = Reaction::asked(on, Field::OtherEquation, "HCl + NaOH -> NaCl + H2O")?;
    let shared = |s: &&Species| !s.is_water() && left.reactants.iter().any(|o| o.formula == s.formula);
    let Some(excess) = reaction.reactants.iter().find(shared).cloned() else {
        return on.refuse(Field::OtherEquation, "what is left over has to react in both equations");
    };
    let titrant = left.others(&[&excess]).first().cloned();
    let sample = reaction.others(&[&excess]).first().cloned();
    let (Some(titrant), Some(sample)) = (titrant, sample) else {
        return on.refuse(Field::OtherEquation, "each equation has to use something besides the excess");
    };
    let left_of = left.reactants.iter().find(|s| s.formula == excess.formula).cloned()?;
    let matter = Matter::of(on, Field::SampleFrom, &sample)?.taken_as(None);
    let (excess_matter, excess_strength, excess_words) =
        dissolved(on, (Field::OtherFrom, Field::StandardStrength), &excess, "0.500 ± 0.002 mol/L")?;
    let excess_matter = excess_matter.distinct(&[&matter]);
    let (titrant_matter, strength, words) =
        dissolved(on, (Field::TitrantFrom, Field::TitrantStrength), &titrant, "0.2000 ± 0.0010 mol/L")?;
    let titrant_matter = titrant_matter.distinct(&[&matter, &excess_matter]);
    let pipette = pipette(on)?;
    let burette = burette(on)?;
    let part = part(on, "80 %")?;
    let added = pipette.capacity / 1000.0 * molar(&excess_strength) * excess_matter.brings;
    // What is left over should fill half of the burette.
    let to_half = burette.capacity / 2.0 / 1000.0 * molar(&strength) * titrant_matter.brings / titrant.coefficient
        * left_of.coefficient;
    let to_react = if to_half < 0.9 * added { added - to_half } else { 0.6 * added };
    let per_gram = part / matter.molar_mass * matter.brings / sample.coefficient * excess.coefficient;
    let why = Why::TakesATitre {
        titre: format!(
            "{} mL",
            figures(titre_of(added - to_react, &left_of, &titrant, molar(&strength) * titrant_matter.brings), 3)
        ),
    };
    let proposed = Proposed(format!("{} g", plain(round_mass(to_react / per_gram), 4)), why);
    let mass = on.quantity(Field::Mass, &[Dimension::MASS], Some(proposed))?.base();
    let rest = added - mass * per_gram;
    if rest <= 0.0 {
        return on.refuse(Field::Mass, format!("{} g would use up all of the {}", plain(mass, 3), excess_matter.name));
    }
    let titre = titre_of(rest, &left_of, &titrant, molar(&strength) * titrant_matter.brings);
    let titre = on_the_burette(on, Field::Mass, titre, &burette)?;
    let balance = balance(on, mass, 0.004)?;
    let shown = Shown::asked(on, &titrant)?;
    let trials = on.count(Field::Trials, (2, 5), 3)?;
    let title = title(on, &format!("{} by back titration", matter.name))?;
    Some(context! {
        title, trials, shown,
        instruments => vec![balance.clone(), pipette.clone(), burette.clone()],
        equation => reaction.text,
        other_equation => left.text,
        disposal => disposal(&[&titrant_matter, &excess_matter, &matter]),
        mass => WeighedOut::of(&balance, mass, 0.1),
        part => stated_words(on, Field::Part),
        aliquot => Reads::nominal(&pipette),
        aliquot_volume => nominal(&pipette),
        titre => figures(titre, 3),
        burette_readings => BuretteReads::of(&burette, titre),
        excess_strength => excess_words,
        strength => words,
        sample => matter,
        excess => excess_matter,
        titrant => titrant_matter,
        marks => marks(on),
    })
}
