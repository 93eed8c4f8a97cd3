//! Figures for whoever watches over several servers, in the Prometheus text format; only where `--metrics` asks for them.
//! They name nobody.

use crate::app::{App, blocking};
use crate::health::{Doing, doing};
use crate::problem::ApiError;
use actix_web::http::StatusCode;
use actix_web::{HttpResponse, get, web};
use anyhow::Context;
use prometheus::{Encoder, Gauge, IntCounterVec, Opts, Registry, TextEncoder};

/// What is counted while the server runs.
pub struct Metrics {
    answers: IntCounterVec,
}

impl Default for Metrics {
    fn default() -> Metrics {
        let about = Opts::new("keen_beaker_answers_total", "Answers by the first digit of their status");
        Metrics { answers: IntCounterVec::new(about, &["status"]).expect("a sound name") }
    }
}

impl Metrics {
    /// One more answer.
    pub fn answered(&self, status: StatusCode) {
        self.answers.with_label_values(&[&format!("{}xx", status.as_u16() / 100)]).inc();
    }

    fn written(&self, doing: &Doing) -> anyhow::Result<Vec<u8>> {
        let registry = Registry::new();
        registry.register(Box::new(self.answers.clone()))?;
        #[expect(clippy::cast_precision_loss, reason = "figures to look at")]
        let gauges = [
            ("keen_beaker_devices", "Devices and desks heard within ten minutes", doing.devices as f64),
            ("keen_beaker_streams", "Boards and benches that are told of changes", doing.streams as f64),
            ("keen_beaker_record_bytes", "Size of the record", doing.record_bytes as f64),
            (
                "keen_beaker_room_megabytes",
                "Room left on its disk",
                doing.room_left.map_or(f64::NAN, |left| left as f64),
            ),
            ("keen_beaker_troubles", "Things that are wrong", doing.troubles.len() as f64),
        ];
        for (name, help, value) in gauges {
            let gauge = Gauge::new(name, help)?;
            gauge.set(value);
            registry.register(Box::new(gauge))?;
        }
        let mut out = Vec::new();
        TextEncoder::new().encode(&registry.gather(), &mut out)?;
        Ok(out)
    }
}

/// `GET /metrics`, for anybody who reaches the server.
#[get("/metrics")]
pub async fn show(app: web::Data<App>) -> Result<HttpResponse, ApiError> {
    let written = blocking(&app, |app| {
        app.metrics.written(&doing(app)).context("writing the figures").map_err(ApiError::Internal)
    });
    Ok(HttpResponse::Ok().content_type("text/plain; version=0.0.4").body(written.await?))
}
