//! Readings, results and materials as pages need them.

use measure::InstrumentKind;
use practical::file::AnswerKind;
use practical::{Material, Practical, Slot};
use serde::Serialize;
use utoipa::ToSchema;

/// A symbol and what it stands for.
#[derive(Debug, Serialize, ToSchema)]
pub struct Named {
    /// As the sheet calls it.
    pub symbol: String,
    /// In words.
    pub name: String,
}

pub fn named_materials<'m>(materials: impl Iterator<Item = &'m Material>) -> Vec<Named> {
    materials.map(|m| Named { symbol: m.symbol.clone(), name: m.name.clone() }).collect()
}

/// A reading as the interface needs it.
#[derive(Debug, Serialize, ToSchema)]
#[expect(clippy::struct_excessive_bools, reason = "each is a question of its own that the pad asks")]
pub struct ReadingSpec {
    /// As the sheet calls it.
    pub symbol: String,
    /// In words.
    pub label: String,
    /// In one or two words.
    pub short: String,
    /// Unit.
    pub unit: String,
    /// Name of the instrument.
    pub instrument: String,
    /// Kind of the instrument.
    pub instrument_kind: InstrumentKind,
    /// Smallest step that it shows.
    pub resolution: f64,
    /// Digits after the point.
    pub decimals: u32,
    /// A burette that is read to half a division here: its last digit is 0 or 5.
    pub halves: bool,
    /// Where it should lie.
    pub range: [f64; 2],
    /// Something is weighed out here, in as many portions as it takes.
    pub weighed_out: bool,
    /// The value of the mark, where the instrument has one mark and is not read.
    pub nominal: Option<String>,
    /// The reading that it is a place of: `V_end` of `V_end[2]`.
    pub reading: String,
    /// What one of its repeats is called, if it repeats: `trial`.
    pub axis: Option<String>,
    /// There are as many of them as the work needs, one more at a time: points, portions.
    pub open_ended: bool,
    /// The reading that this one is plotted against.
    pub against: Option<String>,
    /// It ends a delivered volume: what it says is told as a titre.
    pub delivers: bool,
}

impl ReadingSpec {
    /// One place in which a group writes a number down.
    pub fn of(practical: &Practical, slot: &Slot<'_>) -> ReadingSpec {
        let reading = slot.reading;
        let instrument = &reading.instrument;
        ReadingSpec {
            symbol: slot.symbol.clone(),
            label: slot.label.clone(),
            short: slot.short.clone(),
            unit: reading.unit.written().to_owned(),
            instrument: instrument.name.clone(),
            instrument_kind: instrument.kind,
            resolution: instrument.resolution,
            decimals: reading.decimals,
            halves: practical.school.burette_step(instrument).is_some(),
            range: [reading.range.0, reading.range.1],
            weighed_out: practical.is_weighed_out(reading),
            nominal: instrument.is_nominal().then(|| reading.expected.to_string()),
            reading: reading.symbol.clone(),
            axis: reading.repeats.as_ref().map(|r| r.axis.clone()),
            open_ended: reading.is_open_ended(),
            against: reading.against.clone(),
            delivers: practical.file.titres.iter().any(|t| t.end == reading.symbol),
        }
    }
}

/// A result as the interface needs it.
#[derive(Debug, Serialize, ToSchema)]
pub struct ResultSpec {
    /// Name of the definition.
    pub name: String,
    /// In words.
    pub label: String,
    /// The unit it is shown in.
    pub unit: String,
    /// Units that a group can choose from.
    pub units: Vec<String>,
    /// Whether groups work it out.
    pub asked: bool,
    /// What is answered.
    pub answer: AnswerKind,
    /// Marks there are to have.
    pub most: f64,
    /// Of a reason in words, what a good one says.
    pub model: String,
    /// Reagents to choose from, where one is chosen.
    pub reagents: Vec<Named>,
    /// It is a part of a whole, and more than the whole cannot be.
    pub part_of_a_whole: bool,
}

/// The results of a practical as the interface needs them.
pub fn result_specs(practical: &Practical) -> Vec<ResultSpec> {
    let spec = |r: &practical::ResultSpec| ResultSpec {
        name: r.name.clone(),
        label: r.label.clone(),
        unit: r.unit.written().to_owned(),
        units: r.units.iter().map(|u| u.written().to_owned()).collect(),
        asked: r.asked,
        answer: r.answer,
        most: r.marks.most(),
        model: r.model.clone(),
        reagents: reagents(practical, r.answer),
        part_of_a_whole: practical.is_part_of_a_whole(&r.name),
    };
    practical.results.iter().map(spec).collect()
}

/// Reagents that one is chosen from.
pub fn reagents(practical: &Practical, answer: AnswerKind) -> Vec<Named> {
    let choices = practical.limiting.iter().filter(|_| answer == AnswerKind::Limiting).flat_map(|(_, r)| r);
    let named =
        |symbol: &String| Some(Named { symbol: symbol.clone(), name: practical.material(symbol)?.name.clone() });
    choices.filter_map(named).collect()
}
