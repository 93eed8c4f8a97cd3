//! How long a backup is kept: the newest of each of seven days, five weeks and twelve months.

use super::backup::in_folder;
use anyhow::Context;
use jiff::civil::Date;
use jiff::{Timestamp, tz::TimeZone};
use std::collections::BTreeSet;
use std::path::Path;

const DAYS: usize = 7;
const WEEKS: usize = 5;
const MONTHS: usize = 12;

/// Which of the days on which backups were made, newest first, are kept, by position: all of today, then by turns.
fn kept(made: &[Date], today: Date) -> BTreeSet<usize> {
    let mut keep: BTreeSet<usize> = (0..made.len()).filter(|i| made[*i] == today).collect();
    newest_of_each(made, DAYS, |d| d, &mut keep);
    newest_of_each(made, WEEKS, |d| (d.iso_week_date().year(), d.iso_week_date().week()), &mut keep);
    newest_of_each(made, MONTHS, |d| (d.year(), d.month()), &mut keep);
    keep
}

fn newest_of_each<P: Ord>(made: &[Date], most: usize, part: impl Fn(Date) -> P, keep: &mut BTreeSet<usize>) {
    let mut seen = BTreeSet::new();
    for (i, date) in made.iter().enumerate() {
        if seen.len() < most && seen.insert(part(*date)) {
            keep.insert(i);
        }
    }
}

/// The day of a moment in ms, on this machine's clock.
pub fn day_of(ms: i64) -> anyhow::Result<Date> {
    Ok(Timestamp::from_millisecond(ms)?.to_zoned_datetime(TimeZone::system()).date())
}

/// Deletes the backups of a folder that are no longer kept. What was there before a restore is left to a person.
///
/// # Errors
/// What the disk says.
pub fn drop_old(folder: &Path, now: i64) -> anyhow::Result<()> {
    let backups: Vec<_> = in_folder(folder).into_iter().filter(|b| !b.manifest.before_restore).collect();
    let made = backups.iter().map(|b| day_of(b.manifest.made_ms)).collect::<anyhow::Result<Vec<_>>>()?;
    let keep = kept(&made, day_of(now)?);
    for (i, backup) in backups.iter().enumerate() {
        // One from the future is of a clock that was wrong: it is left to a person.
        if !keep.contains(&i) && backup.manifest.made_ms <= now {
            let name = backup.folder.display();
            std::fs::remove_dir_all(&backup.folder).with_context(|| format!("taking {name} away"))?;
        }
    }
    Ok(())
}

#[cfg(test)]
mod tests {
    use super::*;
    use jiff::ToSpan;

    /// Three years of daily backups, seen on a Wednesday.
    #[test]
    fn seven_days_five_weeks_twelve_months() {
        let today = Date::constant(2026, 11, 18);
        let made: Vec<Date> = (0..1000).map(|ago| today - ago.days()).collect();
        let keep: Vec<String> = kept(&made, today).into_iter().map(|i| made[i].to_string()).collect();
        let wanted = [
            "2026-11-18",
            "2026-11-17",
            "2026-11-16",
            "2026-11-15",
            "2026-11-14",
            "2026-11-13",
            "2026-11-12",
            // Ends of weeks; the 15th is there already.
            "2026-11-08",
            "2026-11-01",
            "2026-10-25",
            // Ends of months.
            "2026-10-31",
            "2026-09-30",
            "2026-08-31",
            "2026-07-31",
            "2026-06-30",
            "2026-05-31",
            "2026-04-30",
            "2026-03-31",
            "2026-02-28",
            "2026-01-31",
            "2025-12-31",
        ];
        let mut wanted: Vec<String> = wanted.map(str::to_owned).into();
        wanted.sort_by(|a, b| b.cmp(a));
        assert_eq!(keep, wanted);
    }

    /// A laptop that is on for lessons only keeps as many, however far back they go.
    #[test]
    fn days_without_one_do_not_count() {
        let made = ["2026-11-18", "2026-11-18", "2026-06-02", "2025-03-01"].map(|d| d.parse::<Date>().unwrap());
        assert_eq!(kept(&made, Date::constant(2026, 11, 19)), BTreeSet::from([0, 2, 3]), "of one day the newest");
        assert_eq!(kept(&made, made[0]), BTreeSet::from([0, 1, 2, 3]), "of today all: one of them may be the good one");
        assert_eq!(kept(&[], made[0]), BTreeSet::new());
    }
}
