//! What is asked for a practical to begin, each with a proposal and its reason; what was typed stands before what is proposed.

use measure::{Dimension, Instrument, InstrumentKind};
use practical::{Stated, kit};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;

/// Longest answer that is read.
pub const LONGEST: usize = 400;

/// What is weighed, measured or heated on a bench, in base units (g, L, mol/L, K).
const BENCH: std::ops::RangeInclusive<f64> = 1e-7..=3000.0;

/// One thing that is asked.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = ToAnswer))]
#[serde(rename_all = "kebab-case")]
#[allow(missing_docs)] // the interface words each of them: `words/begin.ts`
pub enum Field {
    Equation,
    OtherEquation,
    Title,
    Standard,
    Sample,
    Titrant,
    Product,
    Limiting,
    Analyte,
    Element,
    Hydrate,
    Substance,
    Other,
    StandardFrom,
    TitrantFrom,
    SampleFrom,
    LimitingFrom,
    ProductFrom,
    OtherFrom,
    ThirdFrom,
    StandardStrength,
    TitrantStrength,
    SampleStrength,
    LimitingAs,
    OtherAs,
    ThirdAs,
    Catalyst,
    Strength,
    Titre,
    Mass,
    ProductMass,
    Excess,
    Part,
    Solvent,
    Aliquot,
    Dilution,
    Burette,
    Balance,
    Flask,
    SmallFlask,
    Volumes,
    Indicator,
    EndColour,
    Seen,
    SeenOtherwise,
    Blank,
    AsMass,
    AskWhichLimits,
    Melting,
    Agreement,
    Trials,
    Drying,
    Marks,
}

/// How it is answered.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = AnsweredBy))]
#[serde(tag = "kind", rename_all = "kebab-case")]
pub enum Takes {
    /// Typed; what is suggested is not all that can be said.
    Text {
        /// What is often said.
        suggested: Vec<String>,
    },
    /// One of these.
    Choice {
        /// At least one.
        of: Vec<String>,
    },
    /// `yes` or `no`.
    YesOrNo,
}

/// Why something is proposed.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = ProposedBecause))]
#[serde(tag = "kind", rename_all = "kebab-case")]
pub enum Why {
    /// It is what is usually taken.
    Usual,
    /// It stands in our room.
    InOurRoom,
    /// Our room has none of its kind: of a usual room.
    NotInOurRoom,
    /// Half of what the burette holds.
    HalfTheBurette {
        /// What it holds.
        burette: String,
    },
    /// This much takes about such a titre.
    TakesATitre {
        /// As in `25 mL`.
        titre: String,
    },
    /// Undiluted it would take such a titre, more than the burette reads well.
    UndilutedTakes {
        /// As in `210 mL`.
        titre: String,
    },
    /// So much of it could make so much product.
    CouldMake {
        /// As in `1.59 g`.
        amount: String,
        /// As in `5.0 g`.
        product: String,
    },
    /// So much of it fills the flask at this strength.
    FillsTheFlask {
        /// As in `250 mL`.
        volume: String,
    },
    /// This much would leave about so much.
    Leaves {
        /// As in `0.36 g`.
        mass: String,
    },
    /// It is what shows the end of this reaction.
    ShowsTheEnd,
    /// It stands in the equation.
    InTheEquation,
    /// The library of substances has it.
    InTheLibrary,
}

/// One question with its answer.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = AskedToBegin))]
pub struct Asked {
    /// What is asked.
    pub field: Field,
    /// Of which substance; empty where the field says it.
    pub about: String,
    /// How it is answered.
    pub takes: Takes,
    /// What stands there: what was typed, otherwise what is proposed; empty where nobody knows yet.
    pub value: String,
    /// Whether somebody typed it.
    pub typed: bool,
    /// Why it is proposed.
    pub why: Option<Why>,
    /// What is wrong with it.
    pub problem: Option<String>,
}

/// A proposal.
pub(crate) struct Proposed(pub String, pub Why);

/// What is known so far, and what was asked on the way.
pub(crate) struct Interview<'a> {
    answers: &'a BTreeMap<Field, String>,
    room: &'a [Instrument],
    /// In the order of asking.
    pub asked: Vec<Asked>,
}

impl<'a> Interview<'a> {
    pub fn new(answers: &'a BTreeMap<Field, String>, room: &'a [Instrument]) -> Interview<'a> {
        Interview { answers, room, asked: Vec::new() }
    }

    fn ask(&mut self, field: Field, takes: Takes, proposed: Option<Proposed>) -> String {
        let typed = self.answers.get(&field).map(|t| t.trim()).filter(|t| !t.is_empty());
        let typed: Option<String> = typed.map(|t| t.chars().take(LONGEST).collect());
        let (proposal, why) = proposed.map_or((None, None), |Proposed(value, why)| (Some(value), Some(why)));
        // Where what was typed is what is proposed, the reason still holds.
        let why = why.filter(|_| typed.is_none() || typed == proposal);
        let value = typed.clone().or(proposal).unwrap_or_default();
        self.asked.push(Asked {
            field,
            about: String::new(),
            takes,
            value: value.clone(),
            typed: typed.is_some(),
            why,
            problem: None,
        });
        value
    }

    /// Says what is wrong with the answer to `field`; nothing comes of it.
    pub fn refuse<T>(&mut self, field: Field, problem: impl Into<String>) -> Option<T> {
        if let Some(asked) = self.asked.iter_mut().find(|a| a.field == field) {
            asked.problem = Some(problem.into());
        }
        None
    }

    /// Says which substance a question that was asked is about.
    pub fn about(&mut self, field: Field, substance: &str) {
        if let Some(asked) = self.asked.iter_mut().find(|a| a.field == field) {
            substance.clone_into(&mut asked.about);
        }
    }

    /// Says why, once more is known than when it was asked; of what was typed as well.
    pub fn because(&mut self, field: Field, why: Why) {
        if let Some(asked) = self.asked.iter_mut().find(|a| a.field == field) {
            asked.why = Some(why);
        }
    }

    /// Whether anything that was asked is answered in a way that cannot be.
    pub fn is_sound(&self) -> bool {
        self.asked.iter().all(|a| a.problem.is_none())
    }

    /// A text, typed or proposed.
    pub fn text(&mut self, field: Field, proposed: Option<Proposed>) -> Option<String> {
        self.suggested(field, Vec::new(), proposed)
    }

    /// A text, with what is often said.
    pub fn suggested(&mut self, field: Field, suggested: Vec<String>, proposed: Option<Proposed>) -> Option<String> {
        Some(self.ask(field, Takes::Text { suggested }, proposed)).filter(|v| !v.is_empty())
    }

    /// One of `of`; the one at `proposed` unless another was chosen.
    pub fn choice(&mut self, field: Field, of: &[String], proposed: usize, why: Why) -> Option<usize> {
        let proposal = of.get(proposed).map(|value| Proposed(value.clone(), why));
        let value = self.ask(field, Takes::Choice { of: of.to_vec() }, proposal);
        match of.iter().position(|o| *o == value) {
            Some(at) => Some(at),
            None => self.refuse(field, format!("'{value}' is none of these: {}", of.join(", "))),
        }
    }

    /// Yes or no.
    pub fn yes(&mut self, field: Field, proposed: bool) -> bool {
        let word = if proposed { "yes" } else { "no" };
        let value = self.ask(field, Takes::YesOrNo, Some(Proposed(word.into(), Why::Usual)));
        match value.as_str() {
            "yes" => true,
            "no" => false,
            _ => self.refuse(field, format!("'{value}' is neither yes nor no")).unwrap_or(proposed),
        }
    }

    /// A quantity of one of these dimensions, more than nothing.
    pub fn quantity(&mut self, field: Field, of: &[Dimension], proposed: Option<Proposed>) -> Option<Stated> {
        let value = self.text(field, proposed)?;
        self.read(field, &value, of)
    }

    /// An answer as a quantity of one of these dimensions, more than nothing.
    pub fn read(&mut self, field: Field, value: &str, of: &[Dimension]) -> Option<Stated> {
        // A strength that is to be found out is about so much: within what the file's own words mean by it.
        match Stated::positive(value.strip_prefix("about ").unwrap_or(value), of) {
            Ok(stated) if BENCH.contains(&stated.base()) => Some(stated),
            Ok(_) => self.refuse(field, format!("'{value}' is beyond what a bench can do")),
            Err(problem) => self.refuse(field, format!("'{value}': {problem}")),
        }
    }

    /// A whole number from `least` to `most`.
    pub fn count(&mut self, field: Field, (least, most): (u32, u32), proposed: u32) -> Option<u32> {
        let value = self.text(field, Some(Proposed(proposed.to_string(), Why::Usual)))?;
        match value.parse().ok().filter(|n| (least..=most).contains(n)) {
            Some(n) => Some(n),
            None => self.refuse(field, format!("'{value}': a whole number from {least} to {most}")),
        }
    }

    /// What a volume is measured in, mL: of our room if it has something that will do, else of a usual one. A cylinder
    /// before a syringe and that before a burette, the smallest that holds `most`, if half its step is less than 1 % of `volume`.
    pub fn graduated(&self, volume: f64, most: f64) -> Option<Instrument> {
        const KINDS: [InstrumentKind; 3] =
            [InstrumentKind::MeasuringCylinder, InstrumentKind::Syringe, InstrumentKind::Burette];
        let usual = kit();
        let all = || self.room.iter().chain(&usual);
        let holds = |i: &&Instrument| KINDS.contains(&i.kind) && i.unit == "mL" && i.capacity >= most;
        let order = |i: &&Instrument| KINDS.iter().position(|k| *k == i.kind);
        let fine = |i: &&Instrument| i.resolution / 2.0 < 0.0099 * volume;
        let smallest =
            |a: &&Instrument, b: &&Instrument| order(a).cmp(&order(b)).then(a.capacity.total_cmp(&b.capacity));
        let best = all().filter(holds).filter(fine).min_by(smallest);
        best.or_else(|| all().filter(holds).min_by(|a, b| a.resolution.total_cmp(&b.resolution))).cloned()
    }

    /// An instrument of the kind that will do: of our room, and of a usual one; the first that `best` likes is proposed.
    pub fn instrument(
        &mut self,
        field: Field,
        kind: InstrumentKind,
        will_do: impl Fn(&Instrument) -> bool,
        best: impl Fn(&Instrument) -> bool,
    ) -> Option<Instrument> {
        let fits = |i: &&Instrument| i.kind == kind && will_do(i);
        let ours: Vec<Instrument> = self.room.iter().filter(fits).cloned().collect();
        let usual: Vec<Instrument> =
            kit().into_iter().filter(|i| fits(&i) && !ours.iter().any(|o| o.name == i.name)).collect();
        let why = match (ours.is_empty(), self.room.is_empty()) {
            (false, _) => Why::InOurRoom,
            (true, false) => Why::NotInOurRoom,
            (true, true) => Why::Usual,
        };
        let from = if ours.is_empty() { 0..usize::MAX } else { 0..ours.len() };
        let all: Vec<Instrument> = ours.into_iter().chain(usual).collect();
        let names: Vec<String> = all.iter().map(|i| i.name.clone()).collect();
        let offered = || all.iter().enumerate().filter(|(at, _)| from.contains(at));
        let finest = || offered().min_by(|a, b| a.1.resolution.total_cmp(&b.1.resolution));
        let liked = offered().find(|(_, i)| best(i)).or_else(finest).map_or(0, |(at, _)| at);
        if all.is_empty() {
            self.ask(field, Takes::Choice { of: Vec::new() }, None);
            return self.refuse(field, "there is none that would do, neither in our room nor in a usual one");
        }
        self.choice(field, &names, liked, why).map(|at| all[at].clone())
    }
}
