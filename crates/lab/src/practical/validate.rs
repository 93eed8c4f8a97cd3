//! From a file's shape to a practical that can be run: every name resolves, every unit fits, the equation balances.

use super::error::PracticalProblem as Problem;
use super::file::{File, Form, MaterialItem, ReadingItem, ResultItem};
use super::method::Expansion;
use super::{Amount, Material, Practical, PracticalError, Reading, ResultSpec};
use chem::{Equation, Formula};
use measure::{Decimal, Unit};
use sheet::{Draft, Program, Quantity, ReadingName, Vocabulary, read_definitions};
use std::collections::BTreeSet;

pub(super) fn practical(file: File) -> Result<Practical, PracticalError> {
    let equation = within("reaction", equation(&file.reaction.equation))?;
    let materials: Vec<Material> = file
        .materials
        .into_iter()
        .map(|m| within(format!("material '{}'", m.symbol), material(m, &equation)))
        .collect::<Result<_, _>>()?;
    let readings: Vec<Reading> = file
        .readings
        .iter()
        .map(|r| within(format!("reading '{}'", r.symbol), reading(r, &file.instruments, &materials)))
        .collect::<Result<_, _>>()?;
    distinct("material", materials.iter().map(|m| m.symbol.as_str()))?;
    distinct("reading", readings.iter().map(|r| r.symbol.as_str()))?;
    distinct("observation", file.observations.iter().map(|o| o.symbol.as_str()))?;
    distinct("result", file.results.iter().map(|r| r.name.as_str()))?;
    for o in &file.observations {
        if !o.choices.contains(&o.expected) {
            let unknown = Problem::Unknown { what: "choice", name: o.expected.clone() };
            return within(format!("observation '{}'", o.symbol), Err(unknown));
        }
    }

    let mut expansion = Expansion::default();
    file.weighings.iter().for_each(|w| expansion.weighing(w));
    for method in &file.methods {
        within("methods", expansion.method(method, &materials))?;
    }
    for written in within("sheet", read_definitions(&file.sheet).map_err(Problem::from))? {
        expansion.drafts.push(Draft::from(written));
    }
    let results: Vec<ResultSpec> = file
        .results
        .iter()
        .map(|r| within(format!("result '{}'", r.name), result(r, &mut expansion)))
        .collect::<Result<_, _>>()?;
    let vocabulary = within("materials", vocabulary(&readings, &materials, file.atomic_masses.clone()))?;
    let program = within("sheet", Program::compile(&expansion.drafts, &vocabulary).map_err(Problem::from))?;

    for step in &file.steps {
        let place = format!("step '{}'", step.title);
        let known: [(&'static str, &[String], BTreeSet<&str>); 3] = [
            ("reading", &step.records, readings.iter().map(|r| r.symbol.as_str()).collect()),
            ("observation", &step.observes, file.observations.iter().map(|o| o.symbol.as_str()).collect()),
            ("result", &step.answers, results.iter().filter(|r| r.asked).map(|r| r.name.as_str()).collect()),
        ];
        for (what, used, names) in known {
            if let Some(name) = used.iter().find(|u| !names.contains(u.as_str())) {
                return within(&place, Err(Problem::Unknown { what, name: name.clone() }));
            }
        }
    }
    let taken: BTreeSet<&String> = file.steps.iter().flat_map(|s| &s.records).collect();
    if let Some(never) = readings.iter().find(|r| !taken.contains(&r.symbol)) {
        return within(format!("reading '{}'", never.symbol), Err(Problem::Senseless("no step records it")));
    }
    Ok(Practical {
        id: file.id,
        title: file.title,
        kind: file.kind,
        finds: file.finds,
        level: file.level,
        visits: file.visits,
        masses: file.atomic_masses,
        equation,
        materials,
        readings,
        observations: file.observations,
        steps: file.steps,
        results,
        containers: expansion.containers,
        program,
        labels: expansion.labels,
        limiting: expansion.limiting,
        yields: expansion.yields,
    })
}

fn within<T>(place: impl Into<String>, result: Result<T, Problem>) -> Result<T, PracticalError> {
    result.map_err(|problem| PracticalError { place: place.into(), problem })
}

fn distinct<'a>(what: &str, names: impl Iterator<Item = &'a str>) -> Result<(), PracticalError> {
    let mut seen = BTreeSet::new();
    for name in names {
        if !seen.insert(name) {
            return within(format!("{what} '{name}'"), Err(Problem::Twice));
        }
    }
    Ok(())
}

fn equation(text: &str) -> Result<Equation, Problem> {
    let equation = Equation::parse(text)?;
    equation.check().map_err(Problem::Imbalance)?;
    Ok(equation)
}

fn amount(text: &str) -> Result<Amount, Problem> {
    Amount::parse(text).map_err(|reason| Problem::Quantity { text: text.to_owned(), reason })
}

fn positive(text: &str) -> Result<Amount, Problem> {
    let amount = amount(text)?;
    if amount.base() > 0.0 {
        return Ok(amount);
    }
    Err(Problem::Quantity { text: text.to_owned(), reason: "an amount is more than nothing".into() })
}

fn material(item: MaterialItem, equation: &Equation) -> Result<Material, Problem> {
    let formula = Formula::parse(&item.formula)?;
    Ok(Material {
        term: equation.term_of(&formula),
        formula,
        planned: item.planned.as_deref().map(positive).transpose()?,
        band: item.band.as_deref().map(positive).transpose()?,
        symbol: item.symbol,
        name: item.name,
        also: item.also,
        role: item.role,
        form: item.form,
        hazards: item.hazards,
    })
}

fn reading(
    item: &ReadingItem,
    instruments: &[measure::Instrument],
    materials: &[Material],
) -> Result<Reading, Problem> {
    let quantity = |text: &str, reason: String| Problem::Quantity { text: text.to_owned(), reason };
    let unit = Unit::parse(&item.unit).map_err(|e| quantity(&item.unit, e.to_string()))?;
    let instrument = instruments
        .iter()
        .find(|i| i.name == item.instrument)
        .cloned()
        .ok_or_else(|| Problem::Unknown { what: "instrument", name: item.instrument.clone() })?;
    if !Unit::parse(&instrument.unit).is_ok_and(|u| u.same_as(&unit)) {
        return Err(Problem::Senseless("its unit is not the one that its instrument shows"));
    }
    if let Some(of) = item.of.as_deref().filter(|of| !materials.iter().any(|m| m.symbol == *of)) {
        return Err(Problem::Unknown { what: "material", name: of.to_owned() });
    }
    let [low, high] = item.range;
    if low.partial_cmp(&high) != Some(std::cmp::Ordering::Less) {
        return Err(Problem::Senseless("its range has no width"));
    }
    Ok(Reading {
        symbol: item.symbol.clone(),
        label: item.label.clone(),
        short: item.short.clone(),
        unit,
        instrument,
        decimals: item.decimals,
        range: (low, high),
        expected: Decimal::parse(&item.expected).map_err(|e| quantity(&item.expected, e.to_string()))?,
        of: item.of.clone(),
    })
}

fn result(item: &ResultItem, expansion: &mut Expansion) -> Result<ResultSpec, Problem> {
    let unit =
        |text: &str| Unit::parse(text).map_err(|e| Problem::Quantity { text: text.to_owned(), reason: e.to_string() });
    let shown = unit(&item.unit)?;
    let draft = expansion
        .drafts
        .iter_mut()
        .find(|d| d.name == item.name)
        .ok_or_else(|| Problem::Unknown { what: "definition", name: item.name.clone() })?;
    draft.unit = Some(shown.clone());
    expansion.labels.insert(item.name.clone(), item.label.clone());
    Ok(ResultSpec {
        name: item.name.clone(),
        label: item.label.clone(),
        unit: shown,
        units: item.units.iter().map(|u| unit(u)).collect::<Result<_, _>>()?,
        digits: item.digits,
        tolerance: positive(&item.tolerance)?.base(),
        asked: item.asked,
    })
}

fn vocabulary(readings: &[Reading], materials: &[Material], masses: chem::MassTable) -> Result<Vocabulary, Problem> {
    let quantity = |text: &str, half_width: Option<&str>| {
        let stated = positive(text)?;
        let half_width = half_width.map(positive).transpose()?;
        if half_width.as_ref().is_some_and(|h| !h.unit.same_as(&stated.unit)) {
            return Err(Problem::Senseless("a half-width has the unit of what it belongs to"));
        }
        let half_width = half_width.map_or(0.0, |h| h.value.to_f64());
        Ok(Quantity { value: stated.value, unit: stated.unit, half_width })
    };
    let materials = materials
        .iter()
        .map(|m| {
            let mut known = sheet::Material {
                symbol: m.symbol.clone(),
                formula: Some(m.formula.clone()),
                coefficient: m.term.map(|(c, _)| c),
                concentration: None,
                purity: None,
                density: None,
            };
            match &m.form {
                Form::Solid { purity } => known.purity = purity.as_deref().map(|p| quantity(p, None)).transpose()?,
                Form::Solution { concentration, half_width } => {
                    known.concentration = Some(quantity(concentration, half_width.as_deref())?);
                }
                Form::Liquid { density } => {
                    known.density = density.as_deref().map(|d| quantity(d, None)).transpose()?;
                }
            }
            Ok(known)
        })
        .collect::<Result<_, Problem>>()?;
    let readings = readings
        .iter()
        .map(|r| ReadingName { symbol: r.symbol.clone(), unit: r.unit.clone(), repeats: None })
        .collect();
    Ok(Vocabulary { readings, materials, masses, masses_exact: false })
}
