//! A group at work: its row on the board, the practical as it works it, what it has entered.

use crate::access::WrongPins;
use crate::app::App;
use crate::problem::ApiError;
use lab::bench::{Clock, Deviation, Entered, Entries, Room, Struck};
use lab::cohort::Member;
use lab::evaluated::Evaluated;
use lab::group::GroupOutcome;
use practical::{Allotted, Practical};
use serde::Serialize;
use std::collections::BTreeMap;
use std::sync::Arc;
use store::{Group, Run};
use utoipa::ToSchema;

/// One group at work.
#[derive(Debug, Serialize, ToSchema)]
pub struct Row {
    /// Id of the group.
    pub group: i64,
    /// Its name.
    pub name: String,
    /// What its second device must know.
    pub pin: String,
    /// Whether a device has come.
    pub claimed: bool,
    /// Wrong PINs that somebody typed for it within the last hour.
    pub wrong_pins: Option<WrongPins>,
    /// Readings by symbol.
    pub readings: BTreeMap<String, Entered>,
    /// Observations by symbol.
    pub observations: BTreeMap<String, Entered>,
    /// Answers by result.
    pub answers: BTreeMap<String, Entered>,
    /// Steps done.
    pub steps_done: u32,
    /// The step begun last, counted from 0, while it is not done.
    pub at: Option<u32>,
    /// Clocks that were started, by step.
    pub clocks: Vec<ClockView>,
    /// What was taken out, and nothing put in its place, by symbol of the reading.
    pub taken_out: BTreeMap<String, Vec<Struck>>,
    /// Departures from the plan.
    pub deviations: Vec<Deviation>,
    /// The group asks for somebody to come, about this.
    pub help: Option<String>,
    /// What it was given that others were not.
    pub allotted: Allotted,
    /// The bench that it stands at.
    pub bench: Option<String>,
    /// The group at whose bench it goes on.
    pub merged_into: Option<i64>,
    /// Its own vessels: `crucible 7`.
    pub tags: Vec<String>,
    /// Tags of its vessels and bottles that it took from, in words.
    pub uses: Vec<String>,
    /// Everything recomputed.
    pub outcome: GroupOutcome,
    /// When something last arrived, ms.
    pub last_at: Option<i64>,
}

/// A clock at a bench.
#[derive(Debug, Serialize, ToSchema)]
pub struct ClockView {
    /// The step, counted from 0.
    pub step: u32,
    /// Since when, ms.
    pub since: i64,
    /// How long it runs down, s; none if it counts up.
    pub seconds: Option<u32>,
    /// When it was stopped, ms.
    pub stopped: Option<i64>,
}

/// The clocks of a group, by step.
pub fn clocks(entries: &Entries) -> Vec<ClockView> {
    let view =
        |(step, c): (&u32, &Clock)| ClockView { step: *step, since: c.since, seconds: c.seconds, stopped: c.stopped };
    entries.clocks.iter().map(view).collect()
}

/// One group's bench as it is now: its row, the practical as the group works it, and what it has entered.
pub struct GroupAtWork {
    /// What the board shows.
    pub row: Row,
    /// With what the group was given, and took from bottles.
    pub practical: Arc<Practical>,
    /// As they stand.
    pub entries: Entries,
}

impl GroupAtWork {
    /// As the core looks at a class: at which lesson it was last, and at which bench it stands.
    pub fn member<'a>(&'a self, visit: Option<&'a str>, bench: Option<&'a str>) -> Member<'a> {
        Member {
            name: &self.row.name,
            practical: &self.practical,
            entries: &self.entries,
            outcome: &self.row.outcome,
            visit,
            bench,
        }
    }
}

/// All benches of a run, in bench order.
pub fn groups_at_work(app: &App, run: &Run) -> Result<Vec<GroupAtWork>, ApiError> {
    let room = app.store.room_of(run.id)?;
    app.store.groups(run.id)?.iter().map(|g| at_work(app, run, g, &room)).collect()
}

/// All rows of a run.
pub fn rows(app: &App, run: &Run) -> Result<Vec<Row>, ApiError> {
    Ok(groups_at_work(app, run)?.into_iter().map(|b| b.row).collect())
}

/// The bench of one group, recomputed; `room` is the one that the run is computed with.
pub fn at_work(app: &App, run: &Run, group: &Group, room: &Room) -> Result<GroupAtWork, ApiError> {
    let record = app.store.bench(group.run, group.id)?;
    let current = record.current(room);
    let practical = app.practical_for(run, &group.allotted, &current, room)?;
    let own = |of: &BTreeMap<String, String>| of.iter().map(|(k, v)| format!("{k} {v}")).collect::<Vec<_>>();
    let from = current.bottles.iter().filter_map(|(m, b)| Some(format!("{} from {b}", practical.material(m)?.name)));
    let readings = record.readings();
    let row = Row {
        group: group.id,
        name: group.name.clone(),
        pin: group.pin.clone(),
        claimed: group.claimed_at.is_some(),
        wrong_pins: app.guesses.at(group.id),
        readings: readings.now,
        taken_out: readings.taken_out,
        observations: record.observations().now,
        answers: record.answers().now,
        steps_done: u32::try_from(current.done.len()).unwrap_or(u32::MAX),
        at: current.at.filter(|step| !current.done.contains_key(step)),
        clocks: clocks(&current),
        allotted: practical.allotted.clone(),
        bench: group.bench.clone(),
        merged_into: group.merged_into,
        tags: own(&current.tags),
        uses: own(&current.tags).into_iter().chain(from).collect(),
        outcome: Evaluated::of(&practical, &current).outcome(),
        deviations: current.deviations.clone(),
        help: current.help.clone(),
        last_at: record.filed().last().map(|f| f.received_at),
    };
    Ok(GroupAtWork { row, practical, entries: current })
}
