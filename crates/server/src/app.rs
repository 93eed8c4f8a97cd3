//! What all handlers share: the record, the clock, the practicals in use, the limits, the live channels.

use crate::access::{Guesses, Limits, Passphrases};
use crate::clock::{Clock, zone_name};
use crate::instruments::Instruments;
use crate::keeping::Keeping;
use crate::live::Live;
use crate::metrics::Metrics;
use crate::photos::Photos;
use crate::problem::ApiError;
use crate::rehearsing::Rehearsing;
use crate::summary::{AsOf, Summary};
use crate::turns::Turns;
use actix_web::web;
use anyhow::anyhow;
use lab::bench::{Entries, Room};
use moka::sync::Cache;
use practical::{Allotted, Practical, School, edited, upgraded};
use prepare::calendar::SchoolCalendar;
use prepare::schedule::Effort;
use prepare::{ForClass, Preparation, preparation};
use std::net::IpAddr;
use std::sync::Arc;
use store::{Run, Store};

/// Practicals that are kept compiled: some hundred kilobytes each.
const MOST_PRACTICALS: u64 = 512;

/// Preparations that are kept.
const MOST_PREPARATIONS: u64 = 256;

/// Closed runs whose summary is kept: ten years of a school.
const MOST_SUMMARIES: u64 = 4096;

/// A version of a practical as some group works it.
#[derive(Debug, Clone, PartialEq, Eq, Hash)]
struct Worked {
    id: String,
    version: i64,
    /// What the group was given that others were not.
    allotted: Allotted,
    /// Measured strengths of the bottles that it took from, as changes of the text.
    strengths: Vec<String>,
    /// What the school chose, as it is kept.
    school: String,
}

/// The running school.
pub struct App {
    /// The record.
    pub store: Store,
    /// The time.
    pub clock: Clock,
    /// Who is told what has changed.
    pub live: Live,
    /// What is counted.
    pub metrics: Metrics,
    /// Whose entry is looked at, by group.
    pub turns: Turns,
    /// How much a device may ask.
    pub limits: Limits,
    /// Where passphrases are hashed.
    pub passphrases: Passphrases,
    /// Wrong PINs, for the desk to hear of.
    pub guesses: Guesses,
    /// Proxies whose word is taken for who asks.
    pub proxies: Vec<IpAddr>,
    /// Opens the first account from another machine; printed on the console, none once there is an account.
    pub console_token: Option<String>,
    /// Where photos lie.
    pub photos: Photos,
    /// Where backups lie.
    pub keeping: Keeping,
    /// Instruments that speak.
    pub instruments: Instruments,
    /// Classes that were never there, at work.
    pub rehearsing: Rehearsing,
    /// How groups reach this server, for the join code: `http://192.168.1.20:8080`.
    pub public_url: Option<String>,
    /// Practicals in use, checked and compiled; the least used go first.
    practicals: Cache<Worked, Arc<Practical>>,
    /// What was prepared for whom: a timetable takes up to seconds.
    preparations: Cache<String, Arc<Preparation>>,
    /// What closed runs come to.
    summaries: Cache<AsOf, Arc<Summary>>,
}

impl App {
    /// The school kept in `store`.
    pub fn new(
        store: Store,
        clock: Clock,
        photos: Photos,
        keeping: Keeping,
        limits: Limits,
        console_token: Option<String>,
        public_url: Option<String>,
    ) -> App {
        App {
            store,
            clock,
            photos,
            keeping,
            instruments: Instruments::default(),
            rehearsing: Rehearsing::default(),
            live: Live::default(),
            metrics: Metrics::default(),
            turns: Turns::default(),
            limits,
            passphrases: Passphrases::default(),
            guesses: Guesses::default(),
            proxies: Vec::new(),
            console_token,
            public_url,
            practicals: Cache::new(MOST_PRACTICALS),
            preparations: Cache::new(MOST_PREPARATIONS),
            summaries: Cache::new(MOST_SUMMARIES),
        }
    }

    /// The same, with instruments that speak.
    pub fn hearing(self, instruments: Instruments) -> App {
        App { instruments, ..self }
    }

    /// The same, behind proxies that are trusted.
    pub fn behind(self, proxies: Vec<IpAddr>) -> App {
        App { proxies, ..self }
    }

    /// Another record is in the place of the one that all of this was read from.
    pub fn forget_all(&self) {
        self.practicals.invalidate_all();
        self.preparations.invalidate_all();
        self.summaries.invalidate_all();
        self.live.tell_all();
    }

    /// One version of a practical as a school works it, checked and compiled; kept for the next request.
    pub fn practical(&self, id: &str, version: i64, school: &School) -> Result<Arc<Practical>, ApiError> {
        let (allotted, strengths) = (Allotted::default(), Vec::new());
        let key = Worked { id: id.to_owned(), version, allotted, strengths, school: written(school)? };
        if let Some(practical) = self.practicals.get(&key) {
            return Ok(practical);
        }
        let kept = self.store.practical(id, version)?;
        let practical =
            Practical::parse_in(&kept.text, school).map_err(|e| ApiError::Internal(anyhow!("practical {id}: {e}")))?;
        let practical = Arc::new(practical);
        self.practicals.insert(key, Arc::clone(&practical));
        Ok(practical)
    }

    /// The practical of a run as one group works it: with what it was allotted, and the measured strengths of the
    /// bottles that it took from.
    pub fn practical_for(
        &self,
        run: &Run,
        allotted: &Allotted,
        entries: &Entries,
        room: &Room,
    ) -> Result<Arc<Practical>, ApiError> {
        let plain = self.practical_of(run)?;
        let strengths = room.strengths(&plain, entries);
        if strengths.is_empty() && *allotted == Allotted::default() {
            return Ok(plain);
        }
        let key = Worked {
            id: run.practical.clone(),
            version: run.version,
            allotted: allotted.clone(),
            strengths: strengths.iter().map(|edit| format!("{edit:?}")).collect(),
            school: written(&run.school)?,
        };
        if let Some(practical) = self.practicals.get(&key) {
            return Ok(practical);
        }
        let text = self.store.practical(&run.practical, run.version)?.text;
        let text = upgraded(&text).unwrap_or(text);
        let own = edited(&text, &strengths).map_err(|e| e.to_string());
        let own = own.and_then(|text| Practical::parse_in(&text, &run.school).map_err(|e| e.to_string()));
        // A strength that does not fit leaves the practical as it was planned; an operator finds out why.
        let practical = own.unwrap_or_else(|why| {
            tracing::warn!(practical = run.practical, why, "a measured strength does not fit the practical");
            (*plain).clone()
        });
        let practical = Arc::new(practical.labelled_as(&plain).allotted(allotted));
        self.practicals.insert(key, Arc::clone(&practical));
        Ok(practical)
    }

    /// What is prepared of a version of a practical for a class; kept for the next request.
    pub fn preparation(
        &self,
        id: &str,
        version: i64,
        school: &School,
        class: &ForClass,
    ) -> Result<Arc<Preparation>, ApiError> {
        let practical = self.practical(id, version, school)?;
        let key = prepared(id, version, school, class)?;
        Ok(self.preparations.get_with(key, || Arc::new(preparation(&practical, class, Effort::Thorough))))
    }

    /// The same where somebody has looked at it already: a bench does not wait for a timetable.
    pub fn known_preparation(&self, run: &Run, class: &ForClass) -> Result<Option<Arc<Preparation>>, ApiError> {
        Ok(self.preparations.get(&prepared(&run.practical, run.version, &run.school, class)?))
    }

    /// When there is school; by the machine's clock until somebody has said.
    pub fn calendar(&self) -> Result<SchoolCalendar, ApiError> {
        Ok(self.store.calendar()?.unwrap_or_else(|| SchoolCalendar::unsaid(zone_name())))
    }

    /// Something of a run was changed that is no event: who was given what, which groups go on together.
    pub fn forget_summaries(&self) {
        self.summaries.invalidate_all();
    }

    /// What a closed run comes to: summed up once.
    pub fn summary(
        &self,
        as_of: AsOf,
        fresh: impl FnOnce() -> Result<Summary, ApiError>,
    ) -> Result<Arc<Summary>, ApiError> {
        if let Some(known) = self.summaries.get(&as_of) {
            return Ok(known);
        }
        let summary = Arc::new(fresh()?);
        self.summaries.insert(as_of, Arc::clone(&summary));
        Ok(summary)
    }

    /// What a run is called: by its instructors, or as its practical.
    pub fn title_of(&self, run: &Run) -> Result<String, ApiError> {
        let own = &run.title;
        Ok(if own.is_empty() { self.practical_of(run)?.file.title.clone() } else { own.clone() })
    }

    /// The time at a run: of a rehearsal, when something was said last.
    pub fn now_in(&self, run: &Run) -> i64 {
        let at = run.rehearsal.and_then(|_| self.rehearsing.time(run.id));
        at.map_or_else(|| self.clock.now(), |at| run.opened_at + 1000 * at)
    }

    /// The practical of a run.
    pub fn practical_of(&self, run: &Run) -> Result<Arc<Practical>, ApiError> {
        self.practical(&run.practical, run.version, &run.school)
    }
}

/// What a preparation is kept under.
fn prepared(id: &str, version: i64, school: &School, class: &ForClass) -> Result<String, ApiError> {
    Ok(format!("{id} {version} {} {class:?}", written(school)?))
}

/// The choices of a school as a key.
fn written(school: &School) -> Result<String, ApiError> {
    serde_json::to_string(school).map_err(|e| ApiError::Internal(e.into()))
}

/// Runs `work`, which may wait for the disk, off the async threads.
pub async fn blocking<T: Send + 'static>(
    app: &web::Data<App>,
    work: impl FnOnce(&App) -> Result<T, ApiError> + Send + 'static,
) -> Result<T, ApiError> {
    let app = app.clone();
    web::block(move || work(&app)).await.map_err(|e| ApiError::Internal(e.into()))?
}
