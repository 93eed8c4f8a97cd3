//! How the server is doing: what keeps it from its work, or soon will, in words for whoever can mend it.

use crate::app::{App, blocking};
use crate::clock::DAY_MS;
use crate::keeping::RECORD;
use crate::machine::room_left;
use crate::problem::ApiError;
use actix_web::{HttpResponse, get, web};
use serde::Serialize;
use store::CannotKeep;
use utoipa::ToSchema;

/// Less room than this is told, MB: a year of a school, and its backups.
pub const LITTLE_ROOM: u64 = 500;
/// A backup is made each day that the server runs for a minute; a week without one is no accident.
pub const OLD_BACKUP_MS: i64 = 7 * DAY_MS;

/// Something that is wrong.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum Trouble {
    /// Nobody can be served.
    #[error("the record cannot be read: see the log, and keen-beaker verify")]
    Unreadable,
    /// Nothing new is kept on the disk.
    #[error("{0}; what groups enter stays on their devices and is sent when it is mended")]
    NotKept(CannotKeep),
    /// The disk is filling up.
    #[error("the disk of the record has {0} MB left: make room, or move the backups")]
    LittleRoom(u64),
    /// The last backup is none.
    #[error("the last backup failed; why stands under Record, Backups")]
    Backup,
    /// Backups are old.
    #[error("the newest backup is {0} days old")]
    OldBackup(i64),
}

impl Trouble {
    /// Whether the class is kept from its work by it.
    fn stops(&self) -> bool {
        match self {
            Trouble::Unreadable | Trouble::NotKept(_) => true,
            Trouble::LittleRoom(_) | Trouble::Backup | Trouble::OldBackup(_) => false,
        }
    }
}

/// Everything that is wrong now, the worst first.
pub fn troubles(app: &App) -> Vec<Trouble> {
    let unreadable = app.store.is_new().is_err().then_some(Trouble::Unreadable);
    let not_kept = app.store.cannot_keep().map(Trouble::NotKept);
    let room = room_left(app.keeping.data()).filter(|left| *left < LITTLE_ROOM).map(Trouble::LittleRoom);
    let backup = match app.keeping.failed() {
        Some(_) => Some(Trouble::Backup),
        None => app.keeping.newest().and_then(|made| old(app.clock.now() - made)),
    };
    [unreadable, not_kept, room, backup].into_iter().flatten().collect()
}

fn old(age: i64) -> Option<Trouble> {
    (age > OLD_BACKUP_MS).then_some(Trouble::OldBackup(age / DAY_MS))
}

/// How the server is doing, in figures.
#[derive(Debug, Serialize, ToSchema)]
pub struct Doing {
    /// Devices and desks that asked for something within ten minutes.
    pub devices: u64,
    /// Boards and benches that are told of changes as they happen.
    pub streams: usize,
    /// Size of the record with its log of changes, bytes.
    pub record_bytes: u64,
    /// Room left on its disk, MB; none where the system does not tell.
    pub room_left: Option<u64>,
    /// What is wrong, in words.
    pub troubles: Vec<String>,
}

/// The figures of now.
pub fn doing(app: &App) -> Doing {
    let data = app.keeping.data();
    let bytes = |name: String| std::fs::metadata(data.join(name)).map_or(0, |file| file.len());
    Doing {
        devices: app.limits.known(),
        streams: app.live.streams(),
        record_bytes: bytes(RECORD.to_owned()) + bytes(format!("{RECORD}-wal")),
        room_left: room_left(data),
        troubles: troubles(app).iter().map(ToString::to_string).collect(),
    }
}

/// `GET /metrics`, for anybody who reaches the server, where the operator asks for it.
#[get("/metrics")]
pub async fn metrics(app: web::Data<App>) -> Result<HttpResponse, ApiError> {
    let text = blocking(&app, |app| app.metrics.written(&figures(&doing(app))).map_err(ApiError::Internal)).await?;
    Ok(HttpResponse::Ok().content_type("text/plain; version=0.0.4").body(text))
}

#[expect(clippy::cast_precision_loss, reason = "figures to look at")]
fn figures(doing: &Doing) -> [(&'static str, &'static str, f64); 5] {
    let room = doing.room_left.map_or(f64::NAN, |left| left as f64);
    [
        ("keen_beaker_devices", "Devices and desks heard within ten minutes", doing.devices as f64),
        ("keen_beaker_streams", "Boards and benches that are told of changes", doing.streams as f64),
        ("keen_beaker_record_bytes", "Size of the record", doing.record_bytes as f64),
        ("keen_beaker_room_megabytes", "Room left on its disk", room),
        ("keen_beaker_troubles", "Things that are wrong", doing.troubles.len() as f64),
    ]
}

/// `GET /healthz`, for anybody: `ok` while a class can work, else 503; and in words what is wrong, line by line.
#[get("/healthz")]
pub async fn healthz(app: web::Data<App>) -> HttpResponse {
    let found = blocking(&app, |app| Ok(troubles(app))).await.unwrap_or_else(|_| vec![Trouble::Unreadable]);
    let stopped = found.iter().any(Trouble::stops);
    let ok = (!stopped).then(|| "ok".to_owned());
    let lines: Vec<String> = ok.into_iter().chain(found.iter().map(ToString::to_string)).collect();
    let text = lines.join("\n") + "\n";
    if stopped { HttpResponse::ServiceUnavailable().body(text) } else { HttpResponse::Ok().body(text) }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_backup_is_old_after_a_week() {
        assert_eq!(old(7 * DAY_MS), None);
        assert_eq!(old(9 * DAY_MS + 1), Some(Trouble::OldBackup(9)));
        assert!(!Trouble::OldBackup(9).stops() && Trouble::NotKept(CannotKeep::Full).stops());
    }
}
