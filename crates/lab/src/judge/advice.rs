//! What a group is told while there is still time, beside the step that it concerns.
//!
//! A [`Matter`] is a judgement with its figures; the interface has one sentence for each. What could give an asked
//! answer away belongs to a [`Judgement`], for which the practical says when it may be told ([`may_be_told`]).

use crate::Figure;
use crate::bench::Entries;
use practical::Practical;
use practical::file::{Disclosed, Judgement};
use serde::Serialize;

/// One thing to be told.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Advice {
    /// The step that it belongs to, counted from 0.
    pub step: u32,
    /// How it stands.
    pub standing: Standing,
    /// What may have to wait for an answer; none for what gives nothing away.
    pub judgement: Option<Judgement>,
    /// What there is to tell.
    pub matter: Matter,
}

/// How a matter stands, from the best to the worst: one tone, one shape, one word on every screen.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Standing {
    /// As it should be; go on.
    Settled,
    /// Something is still to be done.
    Waiting,
    /// Look again.
    Doubtful,
    /// It cannot be.
    Wrong,
}

/// One titre beside its trial.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = DeliveredTitre))]
pub struct Titre {
    /// Counted from 1.
    pub trial: u32,
    /// Final less initial reading, to the last decimal of both.
    pub text: String,
    /// Whether it is a rough one.
    pub rough: bool,
    /// Whether it belongs to the set that agrees.
    pub agrees: bool,
}

/// What is compared between trials.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = Compared))]
#[serde(rename_all = "kebab-case")]
pub enum ComparedTrials {
    /// Of equal aliquots, the volumes.
    Titres,
    /// Where each trial has a mass of its own, what follows from both.
    Concentrations,
}

impl From<practical::Compared<'_>> for ComparedTrials {
    fn from(compared: practical::Compared<'_>) -> ComparedTrials {
        match compared {
            practical::Compared::Titres => ComparedTrials::Titres,
            practical::Compared::Each(_) => ComparedTrials::Concentrations,
        }
    }
}

/// What there is to tell.
#[derive(Debug, Clone, PartialEq, Serialize, strum::IntoStaticStr)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "kind", rename_all = "kebab-case")]
#[strum(serialize_all = "kebab-case")]
pub enum Matter {
    /// Enough titres agree: no further one is needed.
    TitresAgree {
        /// All of them, in order.
        titres: Vec<Titre>,
        /// Range of those that agree.
        range: Figure,
        /// What it may be.
        limit: Figure,
        /// The accurate ones rise, or fall, from each to the next.
        drift: bool,
    },
    /// One more titration is needed.
    OneMore {
        /// All of them, in order.
        titres: Vec<Titre>,
        /// How near those are that agree already, or the two nearest; none while there is but one.
        closest: Option<Figure>,
        /// How many agree already.
        agreeing: u32,
        /// How many have to.
        wanted: u32,
        /// What it may be.
        limit: Figure,
        /// Places that are left for one more.
        left: u32,
        /// The accurate ones rise, or fall, from each to the next.
        drift: bool,
    },
    /// All accurate trials scatter little enough.
    TrialsAgree {
        /// What is compared.
        of: ComparedTrials,
        /// How many accurate trials.
        trials: u32,
        /// Their relative standard deviation.
        rsd: Figure,
        /// What it may be.
        limit: Figure,
    },
    /// One more is needed: too few, or they scatter too much.
    AnotherTrial {
        /// What is compared.
        of: ComparedTrials,
        /// How many accurate trials there are.
        trials: u32,
        /// How many are wanted.
        wanted: u32,
        /// Their relative standard deviation; none while there are fewer than two.
        rsd: Option<Figure>,
        /// That is more than it may be.
        scattered: bool,
        /// The one trial, counted from 1, without which the others would agree.
        spoiled_by: Option<u32>,
        /// Places that are left for one more; with none left, all that there are count, and the instructor hears of it.
        left: u32,
        /// What it may be.
        limit: Figure,
    },
    /// Trials enough, and an outlier test has looked at them: all that it left count.
    TrialsCount {
        /// What is compared.
        of: ComparedTrials,
        /// How many accurate trials count.
        trials: u32,
        /// The one that the test marked, counted from 1.
        set_aside: Option<u32>,
    },
    /// One more before an outlier test says anything: too few, or one of three was marked.
    OutlierTestWaits {
        /// What is compared.
        of: ComparedTrials,
        /// How many accurate trials there are.
        trials: u32,
        /// How many are wanted.
        wanted: u32,
        /// The one that it would set aside, counted from 1.
        set_aside: Option<u32>,
        /// Places that are left for one more.
        left: u32,
    },
    /// Dried for the time of its step, where the school weighs once.
    DriedForItsTime,
    /// Where the next titration should end.
    NextTitre {
        /// Counted from 1.
        trial: u32,
        /// The titre to expect, with its unit.
        about: String,
        /// Where to slow down, with its unit: a burette reading where the initial one is there, a volume otherwise.
        slow_from: String,
        /// It is a reading of the burette.
        on_scale: bool,
    },
    /// Two weighings in a row agree.
    ConstantMass {
        /// How far they are apart.
        difference: Figure,
        /// What it may be.
        within: Figure,
    },
    /// They do not agree yet; provisional until they do.
    OnceAgain {
        /// How far they are apart; none while there is but one.
        difference: Option<Figure>,
        /// What it may be.
        within: Figure,
    },
    /// Weighed once, by the group's own decision, with its reason.
    WeighedOnce {
        /// The reason.
        because: String,
    },
    /// The stop rule of the step is met.
    StopReached {
        /// What was to be reached: `pH 2.0`.
        target: String,
        /// What it is, where it is a number.
        found: Option<String>,
    },
    /// It is not met yet.
    StopNotYet {
        /// What is to be reached.
        target: String,
        /// What it is, where it is a number.
        found: Option<String>,
        /// How far it still is, where it is a number.
        by: Option<String>,
    },
    /// The stop rule of the step was passed, or the level is left: by how much, and the way back.
    StopPassed {
        /// What was to be reached: `pH 5.00`.
        target: String,
        /// What it is: a number, or what was seen.
        found: Option<String>,
        /// How far beyond, where it is a number.
        by: Option<String>,
        /// It lies below.
        below: bool,
        /// What to do, in the practical's own words.
        back: Option<String>,
    },
    /// A time was cut short, or what has to wait was read before.
    TooEarly {
        /// How long it was.
        waited: String,
        /// How long it has to be, as the step says it.
        least: String,
    },
    /// What the portions so far add up to.
    PortionsSoFar {
        /// How many.
        portions: u32,
        /// In the unit of the reading.
        total: String,
        /// What is added.
        of: String,
    },
    /// How much of something is needed, by what was really weighed.
    Needed {
        /// Name of the material.
        material: String,
        /// Just enough, with unit.
        enough: String,
        /// With the excess that is planned, with unit; none where none is.
        planned: Option<String>,
    },
    /// What was taken is enough.
    TakenIsEnough {
        /// Name of the material.
        material: String,
        /// In excess by, in %.
        over: String,
    },
    /// What was taken is not enough.
    TakenIsShort {
        /// Name of the material.
        material: String,
        /// This much more is just enough, with unit.
        short_by: String,
    },
    /// Another reagent runs out first than the one meant to.
    AnotherLimits {
        /// Name of the one that does.
        limits: String,
        /// Name of the one that was meant to.
        meant: String,
    },
    /// The numbers say one thing of the reagent that limits, and what was seen another.
    SeenOtherwise {
        /// Name of the one that limits by the readings.
        limits: String,
        /// What was seen that speaks against it.
        seen: Vec<String>,
    },
    /// More product than theory allows.
    AboveTheory {
        /// By this much, with unit; withheld while it would give the theoretical yield away.
        excess: Option<String>,
        /// Far above: something was weighed with it.
        far: bool,
    },
    /// What the liquor still holds is worth a second crop.
    SecondCrop {
        /// What could still come, with unit.
        gain: String,
        /// What makes it worth it.
        worth: String,
        /// To which volume the liquor is evaporated.
        to: String,
        /// At which temperature it stands afterwards.
        at: String,
    },
    /// It is not.
    NoSecondCrop {
        /// What could still come, with unit.
        gain: String,
        /// What would make it worth it.
        worth: String,
    },
    /// A mass that comes out below nothing.
    BelowNothing {
        /// What it is of.
        what: String,
    },
    /// Heavier after heating, where heating can only drive off.
    HeavierAfterHeating {
        /// By this much, with unit.
        by: String,
    },
    /// A part that is larger than the whole.
    PartAboveWhole {
        /// What it is.
        what: String,
        /// In % of the whole.
        percent: String,
    },
    /// A melting range as of the pure substance.
    MeltsAsPure {
        /// Name of the substance.
        substance: String,
        /// Its own range.
        known: String,
    },
    /// Lower or wider: impure, or damp.
    MeltsLow {
        /// Name of the substance.
        substance: String,
        /// Its own range.
        known: String,
        /// How far below it begins, in °C.
        below: String,
        /// How wide it is, in °C.
        width: String,
    },
    /// Higher: heated too fast, the thermometer, or another substance.
    MeltsHigh {
        /// Name of the substance.
        substance: String,
        /// Its own range.
        known: String,
        /// How far above it ends, in °C.
        above: String,
    },
    /// Not as the pure substance, and where the practical expects it: a crude distillate, a second crop.
    RangeAsExpected {
        /// Name of the substance.
        substance: String,
        /// Where the pure one melts or boils.
        known: String,
    },
    /// Another range than the key gives for the vial; for the desk alone.
    OtherThanItsVial {
        /// Code of the vial.
        code: String,
        /// What is in it.
        is: String,
        /// Its range.
        known: String,
    },
    /// A boiling range as of the pure substance, at the day's pressure.
    BoilsAsPure {
        /// Name of the substance.
        substance: String,
        /// Where it boils at that pressure, in °C.
        known: String,
    },
    /// Something came over that boils lower or higher.
    BoilsOutside {
        /// Name of the substance.
        substance: String,
        /// Where it boils at the day's pressure, in °C.
        known: String,
        /// How far below it began, in °C; none if it did not.
        below: Option<String>,
        /// How far above it ended, in °C; none if it did not.
        above: Option<String>,
    },
    /// Which of the candidates melt like this.
    Candidates {
        /// Their names; none fits if empty.
        names: Vec<String>,
    },
    /// A mixed melting range as of the substance alone: the same substance.
    MixtureMeltsAlike,
    /// A mixed melting range lower or wider: another substance.
    MixtureMeltsLower {
        /// How far lower it begins, in °C.
        by: String,
    },
    /// What was seen means this for the work, in the practical's own words.
    SeenMeans {
        /// What was seen.
        seen: String,
        /// What it means, and what to do next.
        means: String,
    },
    /// The code noted is not that of the unknown that the group was given.
    OtherUnknown {
        /// The code given to the group.
        allotted: String,
        /// The code noted.
        noted: String,
    },
    /// Not what is seen when all is as it should be.
    NotAsExpected {
        /// What was asked.
        question: String,
        /// What was seen.
        seen: String,
    },
    /// A spot test that looks as it should beside its controls.
    TestPassed {
        /// What was seen.
        seen: String,
    },
    /// A spot test that does not.
    TestFailed {
        /// What was seen.
        seen: String,
        /// How it looks when the substance is there.
        positive: String,
        /// How it looks when it is not.
        negative: String,
    },
    /// A departure from the plan, with what it changes.
    Departed {
        /// Its number.
        nr: String,
        /// Results that come out otherwise with it; those that may be told.
        changes: Vec<Changed>,
        /// Another reagent limits with it.
        limits: Option<String>,
    },
}

/// What a departure makes of a result.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Changed {
    /// Name of the result.
    pub result: String,
    /// In words.
    pub label: String,
    /// As recorded.
    pub before: String,
    /// With the departure.
    pub with_it: String,
    /// Unit of both.
    pub unit: String,
}

/// A matter of a step that gives nothing away.
pub(super) fn plain(step: u32, standing: Standing, matter: Matter) -> Advice {
    Advice { step, standing, judgement: None, matter }
}

/// A matter of a step that belongs to a judgement.
pub(super) fn judged(step: u32, standing: Standing, judgement: Judgement, matter: Matter) -> Advice {
    Advice { step, standing, judgement: Some(judgement), matter }
}

/// The advice that may be told at this bench now.
///
/// A judgement waits for the answers where the practical says so. Figures of the theoretical yield, and what a departure
/// makes of a result, wait in any case until that result was answered, if it is asked at all.
#[must_use]
pub fn may_be_told(practical: &Practical, entries: &Entries, all: Vec<Advice>) -> Vec<Advice> {
    // A reason in words may well come of what is told.
    let mut asked = practical.results.iter().filter(|r| r.asked && r.is_worked_out());
    let answered = asked.all(|r| entries.answers.contains_key(&r.name));
    let declared = |judgement: Judgement| match judgement {
        // What an unknown is was said with purity before it had a disclosure of its own.
        Judgement::Identity => {
            let of = |j| practical.file.disclosure.get(&j).copied();
            of(Judgement::Identity).or_else(|| of(Judgement::Purity))
        }
        Judgement::Limiting
        | Judgement::Yield
        | Judgement::Concordance
        | Judgement::Dryness
        | Judgement::Needed
        | Judgement::Purity => practical.file.disclosure.get(&judgement).copied(),
    };
    let open = |judgement: Judgement| match declared(judgement).unwrap_or(Disclosed::Before) {
        Disclosed::Before => true,
        Disclosed::AfterAnswer => answered,
        Disclosed::Instructor => false,
    };
    let known = |name: &str| {
        let Some(result) = practical.result(name) else { return false };
        match result.disclosed {
            Disclosed::Before => true,
            Disclosed::AfterAnswer => entries.answers.contains_key(name),
            Disclosed::Instructor => false,
        }
    };
    let theory = practical.yields().all(|y| known(&y.theoretical) && known(&y.percent));
    // How much of an excess is needed says as well which reagent limits.
    let may = |judgement: Judgement| open(judgement) && (judgement != Judgement::Needed || open(Judgement::Limiting));
    let by_the_key = |matter: &Matter| matches!(matter, Matter::OtherThanItsVial { .. });
    let told = all.into_iter().filter(|a| a.judgement.is_none_or(may) && !by_the_key(&a.matter)).map(|advice| {
        let matter = match advice.matter {
            Matter::AboveTheory { excess, far } => Matter::AboveTheory { excess: excess.filter(|_| theory), far },
            Matter::Departed { nr, mut changes, limits } => {
                changes.retain(|c| known(&c.result));
                Matter::Departed { nr, changes, limits: limits.filter(|_| open(Judgement::Limiting)) }
            }
            other => other,
        };
        Advice { matter, ..advice }
    });
    told.collect()
}
