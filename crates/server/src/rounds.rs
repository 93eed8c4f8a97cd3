//! What is looked after while the server runs: the day's backup, and erasures that had to wait for readers.

use crate::app::{App, blocking};
use actix_web::web;
use std::time::Duration;
use store::Erasure;

/// A class that has just begun is left alone.
const FIRST: Duration = Duration::from_mins(1);
const EVERY: Duration = Duration::from_mins(5);

/// Goes its rounds until the server ends.
pub async fn rounds(app: web::Data<App>) {
    actix_web::rt::time::sleep(FIRST).await;
    loop {
        let went = blocking(&app, |app| {
            if app.store.erasure() == Erasure::Pending && app.store.finish_erasing()? == Erasure::Pending {
                tracing::warn!("what was erased is still in the log of changes: somebody reads the record");
            }
            // What went wrong stands on the page, and is tried again at the next round.
            app.keeping.back_up_today(&app.store, app.clock);
            Ok(())
        });
        if let Err(error) = went.await {
            tracing::warn!(%error, "the rounds");
        }
        actix_web::rt::time::sleep(EVERY).await;
    }
}
