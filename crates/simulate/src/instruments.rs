//! What an instrument shows of something that is there: its step, its tolerance (one draw for each), its repeatability.

use measure::InstrumentKind;
use practical::Reading;
use practical::file::ReadingKind;
use rand::Rng;
use rand_distr::StandardNormal;
use std::collections::BTreeMap;

/// The instruments of one bench, each as far off as it happens to be.
#[derive(Debug, Clone, Default)]
pub(crate) struct Instruments {
    /// As a part of the tolerance, −1 to 1, by name.
    off: BTreeMap<String, f64>,
}

impl Instruments {
    /// As a group writes it down.
    pub fn shown(&mut self, reading: &Reading, value: f64, rng: &mut impl Rng) -> String {
        let instrument = &reading.instrument;
        let decimals = reading.decimals as usize;
        if instrument.is_nominal() {
            return reading.expected.to_string();
        }
        let shared = *self.off.entry(instrument.name.clone()).or_insert_with(|| rng.random_range(-1.0..1.0));
        let own: f64 = rng.random_range(-1.0..1.0);
        let off = match instrument.kind {
            // Linearity counts at each point.
            InstrumentKind::Balance => own * instrument.tolerance,
            // A volume is off in proportion to what was delivered.
            InstrumentKind::Burette
            | InstrumentKind::MeasuringCylinder
            | InstrumentKind::GraduatedPipette
            | InstrumentKind::Syringe => shared * instrument.tolerance * value / instrument.capacity,
            InstrumentKind::VolumetricPipette
            | InstrumentKind::VolumetricFlask
            | InstrumentKind::DroppingPipette
            | InstrumentKind::Thermometer
            | InstrumentKind::PhMeter
            | InstrumentKind::PhPaper
            | InstrumentKind::Timer
            | InstrumentKind::MeltingPoint
            | InstrumentKind::Meter => shared * instrument.tolerance,
        };
        let scatter: f64 = rng.sample(StandardNormal);
        let seen = value + off + instrument.repeatability * scatter.clamp(-3.0, 3.0);
        let step = if reading.kind == ReadingKind::Count { 1.0 } else { instrument.resolution };
        let stepped = (seen / step).round() * step;
        // Nothing shows less than nothing but what has a scale below it.
        let least = if reading.is_temperature() { f64::NEG_INFINITY } else { 0.0 };
        format!("{:.decimals$}", stepped.max(least))
    }
}
