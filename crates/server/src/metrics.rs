//! Figures for whoever watches over several servers, in the Prometheus text format; only where `--metrics` asks for them.
//! They name nobody.

use actix_web::http::StatusCode;
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

    /// What was counted, and figures of now by name with what they are.
    ///
    /// # Errors
    /// A name that Prometheus does not take.
    pub fn written(&self, figures: &[(&str, &str, f64)]) -> anyhow::Result<Vec<u8>> {
        let registry = Registry::new();
        registry.register(Box::new(self.answers.clone()))?;
        for (name, help, value) in figures {
            let gauge = Gauge::new(*name, *help)?;
            gauge.set(*value);
            registry.register(Box::new(gauge))?;
        }
        let mut out = Vec::new();
        TextEncoder::new().encode(&registry.gather(), &mut out)?;
        Ok(out)
    }
}
