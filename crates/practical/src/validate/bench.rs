//! Instruments, readings, observations and steps.

use super::{Report, keys, unknown};
use crate::error::PracticalProblem as Problem;
use crate::file::{
    Evidence, File, Judgement, Neutralising, Observation, ObservationKind, ReadingItem, ReadingKind, Step, Stop,
};
use crate::technique::technique;
use crate::{Amount, Held, Material, QuantityError, Reading, School, Stated, minutes};
use measure::{Decimal, Dimension, Unit};
use sheet::Repeats;

/// A series of readings is taken by hand: one every half minute for an hour.
const MOST_REPEATS: u32 = 120;

pub(super) fn readings(report: &mut Report<'_>, file: &File, materials: &[Material], school: &School) -> Vec<Reading> {
    report.distinct("instruments", "name", "instrument", file.instruments.iter().map(|i| i.name.as_str()));
    report.distinct("readings", "symbol", "reading", file.readings.iter().map(|r| r.symbol.as_str()));
    for (i, instrument) in file.instruments.iter().enumerate() {
        let positive = |x: f64| x.is_finite() && x > 0.0;
        let not_negative = |x: f64| x.is_finite() && x >= 0.0;
        let sound = positive(instrument.resolution)
            && positive(instrument.capacity)
            && not_negative(instrument.tolerance)
            && not_negative(instrument.repeatability)
            && not_negative(instrument.sensitivity);
        let words = format!("instrument '{}'", instrument.name);
        if !sound {
            let told = "resolution and capacity are more than nothing, tolerance and repeatability not negative";
            report.fail(&keys!["instruments", i, "resolution"], &words, Problem::Senseless(told));
        }
        if let Err(e) = Unit::parse(&instrument.unit) {
            let problem = Problem::Quantity { text: instrument.unit.clone(), reason: e.to_string() };
            report.fail(&keys!["instruments", i, "unit"], &words, problem);
        }
    }
    let mut out = Vec::new();
    for (i, item) in file.readings.iter().enumerate() {
        let words = format!("reading '{}'", item.symbol);
        let fail = |key: &'static str, problem| (key, problem);
        match reading(item, file, materials, school, fail) {
            Ok(reading) => out.push(reading),
            Err((key, problem)) => report.fail(&keys!["readings", i, key], words, problem),
        }
    }
    out
}

fn reading(
    item: &ReadingItem,
    file: &File,
    materials: &[Material],
    school: &School,
    at: impl Fn(&'static str, Problem) -> (&'static str, Problem),
) -> Result<Reading, (&'static str, Problem)> {
    let quantity = |text: &str, reason: String| Problem::Quantity { text: text.to_owned(), reason };
    let unit = Unit::parse(&item.unit).map_err(|e| at("unit", quantity(&item.unit, e.to_string())))?;
    let instruments = &file.instruments;
    let instrument = instruments.iter().find(|i| i.name == item.instrument).map(|i| school.as_read(i));
    let instrument = instrument.ok_or_else(|| {
        at("instrument", unknown("instrument", &item.instrument, instruments.iter().map(|i| i.name.as_str())))
    })?;
    if !Unit::parse(&instrument.unit).is_ok_and(|u| u.same_as(&unit)) {
        return Err(at("unit", Problem::Senseless("its unit is not the one that its instrument shows")));
    }
    let known = file.materials.iter().map(|m| m.symbol.as_str());
    if let Some(of) = item.of.as_deref().filter(|of| !materials.iter().any(|m| m.symbol == *of)) {
        if file.materials.iter().any(|m| m.symbol == of) {
            // The material itself is told already.
            return Err(at("of", Problem::Senseless("the material that it is of is not sound")));
        }
        return Err(at("of", unknown("material", of, known)));
    }
    let expected = crate::reading::expectation(item.kind, &item.expected);
    let (expected, expected_end) = expected.map_err(|e| at("expected", quantity(&item.expected, e.to_string())))?;
    let points: Vec<Decimal> = item
        .points
        .iter()
        .map(|p| Decimal::parse(p).map_err(|e| at("points", quantity(p, e.to_string()))))
        .collect::<Result<_, _>>()?;
    if points.len() > item.repeats.as_ref().map_or(0, |r| r.most as usize) {
        return Err(at("points", Problem::Senseless("it has more points than repeats")));
    }
    let [low, high] = item.range;
    if low.partial_cmp(&high) != Some(std::cmp::Ordering::Less) {
        return Err(at("range", Problem::Senseless("its range has no width")));
    }
    if item.decimals > 8 {
        return Err(at("decimals", Problem::Senseless("no instrument gives more than eight decimals")));
    }
    let repeats = item.repeats.as_ref().map(|r| {
        let enough = r.enough.is_none_or(|n| (1..=r.most).contains(&n));
        let sound = (1..=MOST_REPEATS).contains(&r.most) && r.rough < r.most && enough && !r.axis.trim().is_empty();
        let told = "it repeats 1 to 120 times, of which fewer are rough, along something with a name: 'trial'";
        let repeats = Repeats { axis: r.axis.clone(), most: r.most as usize, rough: r.rough as usize };
        sound.then_some(repeats).ok_or_else(|| at("repeats", Problem::Senseless(told)))
    });
    if item.repeats.is_some() && item.kind == ReadingKind::Interval {
        return Err(at("repeats", Problem::Senseless("an interval is taken once; take two readings if there are two")));
    }
    let other = |symbol: &str| file.readings.iter().find(|r| r.symbol == symbol && r.symbol != item.symbol);
    if let Some(against) = &item.against {
        let together = |r: &ReadingItem| r.repeats.as_ref().map(|n| (n.axis.clone(), n.most));
        let x = other(against).filter(|x| together(x).is_some() && together(x) == together(item));
        x.ok_or_else(|| at("against", Problem::Senseless("it is plotted against a reading that repeats with it")))?;
    }
    if let Some(alone) = &item.compared_with {
        let interval = |r: &ReadingItem| r.kind == ReadingKind::Interval && r.unit == item.unit;
        let sound = interval(item) && other(alone).is_some_and(interval);
        sound.then_some(()).ok_or_else(|| {
            at("compared_with", Problem::Senseless("a melting range is compared with another melting range"))
        })?;
    }
    Ok(Reading {
        symbol: item.symbol.clone(),
        label: item.label.clone(),
        short: item.short.clone(),
        kind: item.kind,
        unit,
        instrument,
        decimals: item.decimals,
        range: (low, high),
        expected,
        expected_end,
        points,
        of: item.of.clone(),
        enough: item.repeats.as_ref().and_then(|r| r.enough).map(|n| n as usize),
        repeats: repeats.transpose()?,
        tared: false,
        against: item.against.clone(),
        compared_with: item.compared_with.clone(),
    })
}

pub(super) fn observations(report: &mut Report<'_>, file: &File) {
    report.distinct("observations", "symbol", "observation", file.observations.iter().map(|o| o.symbol.as_str()));
    for (i, o) in file.observations.iter().enumerate() {
        let words = format!("observation '{}'", o.symbol);
        let problem = match o.kind {
            ObservationKind::Code if file.unknowns.is_empty() => {
                Some(("kind", Problem::Senseless("a code is one of the unknowns, and there are none")))
            }
            ObservationKind::Choice | ObservationKind::SpotTest if o.choices.len() < 2 => {
                Some(("choices", Problem::Senseless("there is nothing to choose between")))
            }
            ObservationKind::SpotTest if o.positive_control.is_empty() || o.negative_control.is_empty() => {
                Some(("kind", Problem::Senseless("a spot test has a positive and a negative control")))
            }
            ObservationKind::Choice | ObservationKind::SpotTest
                if !o.expected.is_empty() && !o.choices.contains(&o.expected) =>
            {
                Some(("expected", unknown("choice", &o.expected, o.choices.iter().map(String::as_str))))
            }
            ObservationKind::Note if !o.choices.is_empty() || !o.expected.is_empty() => {
                Some(("choices", Problem::Senseless("a note is in the group's own words: there is nothing to choose")))
            }
            ObservationKind::Choice | ObservationKind::SpotTest | ObservationKind::Code | ObservationKind::Note => None,
        };
        let means = o.means.keys().find(|choice| !o.choices.contains(choice));
        let told = means.map(|choice| ("means", unknown("choice", choice, o.choices.iter().map(String::as_str))));
        let problem = problem.or(told).or_else(|| o.evidence.as_ref().and_then(|e| evidence(file, o, e)));
        if let Some((key, problem)) = problem {
            report.fail(&keys!["observations", i, key], words, problem);
        }
    }
}

/// What is wrong with what an observation is evidence of.
fn evidence(file: &File, o: &Observation, evidence: &Evidence) -> Option<(&'static str, Problem)> {
    let told = |problem| Some(("evidence", problem));
    if o.kind == ObservationKind::Note {
        return told(Problem::Senseless("a note is read by people; it is evidence of nothing"));
    }
    match evidence.of {
        Judgement::Limiting | Judgement::Purity | Judgement::Identity | Judgement::Dryness => {}
        Judgement::Yield | Judgement::Concordance | Judgement::Needed => {
            let sense = "something seen is evidence of what limits, of purity, of dryness or of what it is";
            return told(Problem::Senseless(sense));
        }
    }
    if let Some(choice) = evidence.says.keys().find(|c| !o.choices.contains(c)) {
        return told(unknown("choice", choice, o.choices.iter().map(String::as_str)));
    }
    if evidence.of == Judgement::Limiting && evidence.says.is_empty() {
        return told(Problem::Senseless("say which material limits where it is seen: says = { fizzes = \"solid\" }"));
    }
    let materials = || file.materials.iter().map(|m| m.symbol.as_str());
    let stray = evidence.says.values().find(|m| !materials().any(|known| known == m.as_str()));
    stray.filter(|_| evidence.of == Judgement::Limiting).and_then(|m| told(unknown("material", m, materials())))
}

/// The observations, with the codes of the unknowns to choose from where one is asked for.
pub(super) fn with_codes(file: &File) -> Vec<Observation> {
    let codes: Vec<String> = file.unknowns.iter().map(|u| u.code.clone()).collect();
    let own = |o: &Observation| match o.kind {
        ObservationKind::Code => Observation { choices: codes.clone(), ..o.clone() },
        ObservationKind::Choice | ObservationKind::SpotTest | ObservationKind::Note => o.clone(),
    };
    file.observations.iter().map(own).collect()
}

pub(super) fn steps(report: &mut Report<'_>, file: &File, materials: &[Material]) {
    report.distinct("vessels", "name", "vessel", file.vessels.iter().map(|v| v.name.as_str()));
    report.distinct("resources", "name", "resource", file.resources.iter().map(|r| r.name.as_str()));
    for (i, vessel) in file.vessels.iter().enumerate() {
        let path = &keys!["vessels", i, "capacity"];
        quantity(report, path, format!("vessel '{}'", vessel.name), &vessel.capacity, &[Dimension::VOLUME]);
        let known: Vec<&str> = file.readings.iter().map(|r| r.symbol.as_str()).collect();
        if let Some(reading) = vessel.weighed_as.as_deref().filter(|r| !known.contains(r)) {
            let problem = unknown("reading", reading, known.iter().copied());
            report.fail(&keys!["vessels", i, "weighed_as"], format!("vessel '{}'", vessel.name), problem);
        }
    }
    for (i, step) in file.steps.iter().enumerate() {
        names(report, file, materials, i, step);
        quantities(report, i, step);
        for (symbol, choice) in &step.when {
            let path = &keys!["steps", i, "when", symbol.as_str()];
            let words = format!("step '{}'", step.title);
            let earlier = file.steps[..i].iter().any(|s| s.observes.contains(symbol));
            match file.observations.iter().find(|o| o.symbol == *symbol) {
                None => {
                    let known = file.observations.iter().map(|o| o.symbol.as_str());
                    report.fail(path, words, unknown("observation", symbol, known));
                }
                Some(o) if !o.choices.contains(choice) => {
                    report.fail(path, words, unknown("choice", choice, o.choices.iter().map(String::as_str)));
                }
                Some(_) if !earlier => {
                    let told = "what decides whether a step is done is looked at in a step before it";
                    report.fail(path, words, Problem::Senseless(told));
                }
                Some(_) => {}
            }
        }
        if let Some(problem) = step.stop.as_ref().and_then(|stop| stop_that_cannot_be(file, step, stop)) {
            report.fail(&keys!["steps", i, "stop"], format!("step '{}'", step.title), problem);
        }
    }
}

/// What is wrong with a stop that goes by a level or a colour.
fn stop_that_cannot_be(file: &File, step: &Step, stop: &Stop) -> Option<Problem> {
    let quantity =
        |text: &str, e: QuantityError| Some(Problem::Quantity { text: text.to_owned(), reason: e.to_string() });
    let level = match stop.level() {
        Ok(level) => level,
        Err(e) => return quantity("stop", e),
    };
    if let (Some(level), Some(margin)) = (&level, stop.margin()) {
        match Amount::parse(margin) {
            Err(e) => return quantity(margin, e),
            Ok(m) if m.unit.dimension() != level.amount.unit.dimension() => {
                return Some(Problem::Senseless("how near it has to be is said in the unit of the level"));
            }
            Ok(m) if m.value.to_f64() <= 0.0 => {
                return Some(Problem::Senseless("how near it has to be is more than nothing"));
            }
            Ok(_) => {}
        }
    }
    if let Some(name) = stop.names_a_reading().filter(|name| !step.records.iter().any(|r| r == name)) {
        return Some(unknown("reading that this step records", name, step.records.iter().map(String::as_str)));
    }
    let Stop::Colour { past, .. } = stop else { return None };
    let choices = || {
        let seen = file.observations.iter().filter(|o| step.observes.contains(&o.symbol));
        seen.flat_map(|o| &o.choices).map(String::as_str)
    };
    let stray = past.iter().find(|p| !choices().any(|c| c == p.as_str()))?;
    Some(unknown("choice that this step observes", stray, choices()))
}

/// Every name that a step uses is there.
fn names(report: &mut Report<'_>, file: &File, materials: &[Material], i: usize, step: &Step) {
    let words = format!("step '{}'", step.title);
    let all: Vec<&str> = file.materials.iter().map(|m| m.symbol.as_str()).collect();
    let sound = |m: &str| materials.iter().any(|k| k.symbol == m) || all.contains(&m);
    let vessels: Vec<&str> = file.vessels.iter().map(|v| v.name.as_str()).collect();
    let listed: [(&str, &'static str, Vec<&str>, Vec<&str>); 4] = [
        ("records", "reading", owned(&step.records), file.readings.iter().map(|r| r.symbol.as_str()).collect()),
        (
            "observes",
            "observation",
            owned(&step.observes),
            file.observations.iter().map(|o| o.symbol.as_str()).collect(),
        ),
        ("answers", "result", owned(&step.answers), asked(file)),
        ("uses", "resource", owned(&step.uses), file.resources.iter().map(|r| r.name.as_str()).collect()),
    ];
    for (key, what, used, known) in listed {
        for (n, name) in used.iter().enumerate().filter(|(_, u)| !known.contains(*u)) {
            report.fail(&keys!["steps", i, key, n], &words, unknown(what, name, known.iter().copied()));
        }
    }
    for (key, vessel) in [("vessel", &step.vessel), ("pours_into", &step.pours_into)] {
        if let Some(name) = vessel.as_deref().filter(|v| !vessels.contains(v)) {
            report.fail(&keys!["steps", i, key], &words, unknown("vessel", name, vessels.iter().copied()));
        }
    }
    let liquor = step.crystallises.as_ref().and_then(|c| c.second_crop.as_ref()?.liquor.as_deref());
    let single = file.readings.iter().filter(|r| r.repeats.is_none());
    let single: Vec<&str> = single.map(|r| r.symbol.as_str()).collect();
    if let Some(name) = liquor.filter(|l| !single.contains(l)) {
        report.fail(&keys!["steps", i, "crystallises"], &words, unknown("single reading", name, single.into_iter()));
    }
    let neutralises = |pick: fn(&Neutralising) -> &str| step.neutralises.as_ref().map(pick);
    let single = [
        ("neutralises", neutralises(|n| &n.what)),
        ("neutralises", neutralises(|n| &n.with)),
        ("boils", step.boils.as_deref()),
        ("dries", step.dries.as_deref()),
        ("dissolves", step.dissolves.as_ref().map(|d| d.material.as_str())),
        ("crystallises", step.crystallises.as_ref().map(|c| c.product.as_str())),
    ];
    let added = step.adds.iter().map(|a| ("adds", Some(a.material.as_str())));
    for (key, name) in single.into_iter().chain(added) {
        if let Some(name) = name.filter(|n| !sound(n)) {
            report.fail(&keys!["steps", i, key], &words, unknown("material", name, all.iter().copied()));
        }
    }
    if let Some(name) = step.technique.as_deref().filter(|t| technique(t).is_none()) {
        let known = crate::technique::techniques().iter().map(|t| t.id.as_str());
        report.fail(&keys!["steps", i, "technique"], &words, unknown("technique", name, known));
    }
}

fn owned(names: &[String]) -> Vec<&str> {
    names.iter().map(String::as_str).collect()
}

fn asked(file: &File) -> Vec<&str> {
    let worked_out = file.results.iter().filter(|r| r.asked).map(|r| r.name.as_str());
    worked_out.chain(file.reasons.iter().map(|r| r.name.as_str())).collect()
}

/// Every quantity that a step states is one.
fn quantities(report: &mut Report<'_>, i: usize, step: &Step) {
    use Dimension as D;
    let words = format!("step '{}'", step.title);
    let wet = &[D::VOLUME, D::MASS];
    for (n, addition) in step.adds.iter().enumerate() {
        if let Some(amount) = &addition.amount {
            quantity(report, &keys!["steps", i, "adds", n, "amount"], words.clone(), amount, wet);
        }
    }
    let mut stated = |key: &str, text: Option<&String>, dimensions: &[Dimension]| {
        if let Some(text) = text {
            quantity(report, &keys!["steps", i, key], words.clone(), text, dimensions);
        }
    };
    stated("temperature", step.temperature.as_ref(), &[D::TEMPERATURE]);
    stated("leaves", step.leaves.as_ref(), &[D::VOLUME]);
    stated("dissolves", step.dissolves.as_ref().map(|d| &d.water), wet);
    stated("dissolves", step.dissolves.as_ref().map(|d| &d.at), &[D::TEMPERATURE]);
    stated("crystallises", step.crystallises.as_ref().map(|c| &c.water), wet);
    stated("crystallises", step.crystallises.as_ref().map(|c| &c.at), &[D::TEMPERATURE]);
    stated("crystallises", step.crystallises.as_ref().and_then(|c| c.washed_with.as_ref()), wet);
    let second = step.crystallises.as_ref().and_then(|c| c.second_crop.as_ref());
    stated("crystallises", second.map(|s| &s.evaporated_to), wet);
    stated("crystallises", second.map(|s| &s.worth), &[D::MASS]);
    if let Some(Stop::ConstantMass { within }) = &step.stop {
        stated("stop", Some(within), &[D::MASS]);
    }
    if let Some((lasts, _)) = step.stop.as_ref().and_then(Stop::lasts) {
        time(report, &keys!["steps", i, "stop"], &words, lasts);
    }
    for (resource, text) in &step.held {
        let path = &keys!["steps", i, "held", resource.as_str()];
        if !step.uses.contains(resource) {
            report.fail(path, &words, unknown("resource of this step", resource, step.uses.iter().map(String::as_str)));
        } else if let Err(reason) = Held::parse(text) {
            report.fail(path, &words, Problem::Quantity { text: text.clone(), reason });
        }
    }
    if let Some(within) = &step.within {
        time(report, &keys!["steps", i, "within"], &words, within);
    }
    if let Some(wait) = &step.wait {
        time(report, &keys!["steps", i, "wait"], &words, wait);
    }
    let spans = std::iter::once(&step.minutes).chain(step.variants.iter().map(|v| &v.minutes));
    if spans.flatten().any(|[least, most]| least > most || *most > 100_000) {
        report.fail(
            &keys!["steps", i, "minutes"],
            &words,
            Problem::Senseless("minutes go from the shortest to the longest"),
        );
    }
    if step.neutralises.as_ref().and_then(|n| n.ratio).is_some_and(|r| !(r.is_finite() && r > 0.0)) {
        report.fail(&keys!["steps", i, "neutralises"], &words, Problem::Senseless("its ratio is more than nothing"));
    }
    if step.portions.is_some_and(|n| !(1..=100).contains(&n)) {
        report.fail(&keys!["steps", i, "portions"], &words, Problem::Senseless("a step has 1 to 100 portions"));
    }
}

fn quantity(report: &mut Report<'_>, path: &[super::Key], words: String, text: &str, dimensions: &[Dimension]) {
    // A temperature may be below zero on its scale; a mass or a volume may not.
    let read = if dimensions == [Dimension::TEMPERATURE] {
        Amount::parse(text).and_then(|a| {
            let fits = a.unit.dimension() == Dimension::TEMPERATURE;
            let wanted = || dimensions.to_vec();
            fits.then_some(()).ok_or_else(|| QuantityError::Dimension { found: a.unit.dimension(), wanted: wanted() })
        })
    } else {
        Stated::positive(text, dimensions).map(|_| ())
    };
    if let Err(reason) = read {
        report.fail(path, words, Problem::Quantity { text: text.to_owned(), reason: reason.to_string() });
    }
}

fn time(report: &mut Report<'_>, path: &[super::Key], words: &str, text: &str) {
    if let Err(reason) = minutes(text) {
        report.fail(path, words, Problem::Quantity { text: text.to_owned(), reason });
    }
}
