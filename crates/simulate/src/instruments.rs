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

#[cfg(test)]
mod tests {
    use super::*;
    use practical::Practical;
    use rand::SeedableRng;
    use rand_chacha::ChaCha8Rng;

    /// Each kind of the library, ten thousand times: the digits that it has, no bias, and the scatter of its numbers; of a
    /// volume the tolerance counts in proportion.
    #[test]
    fn ten_thousand_readings_of_each_instrument_are_as_its_numbers_say() {
        let readings = [
            ("vinegar", "V_end", 40.0),
            ("epsom-salt", "m_dish", 50.0),
            ("unknown-by-melting", "T_melt", 120.0),
            ("buffer", "pH_at", 4.0),
        ];
        for (id, symbol, value) in readings {
            let file = format!("{}/../../practicals/{id}.practical.toml", env!("CARGO_MANIFEST_DIR"));
            let practical = Practical::parse(&std::fs::read_to_string(file).unwrap()).unwrap();
            let reading = practical.readings.iter().find(|r| r.symbol == symbol).unwrap();
            let on = &reading.instrument;
            let mut rng = ChaCha8Rng::seed_from_u64(11);
            let texts: Vec<String> =
                (0..10_000).map(|_| Instruments::default().shown(reading, value, &mut rng)).collect();
            let decimals = |t: &String| t.split_once('.').map_or(0, |(_, d)| d.len());
            assert!(texts.iter().all(|t| decimals(t) == reading.decimals as usize), "{id}: {:?}", &texts[..3]);
            let numbers: Vec<f64> = texts.iter().map(|t| t.parse().unwrap()).collect();
            let steps = numbers.iter().map(|n| n / on.resolution);
            assert!(steps.into_iter().all(|s| (s - s.round()).abs() < 1e-6), "{id}: whole steps");
            let mean = numbers.iter().sum::<f64>() / 10_000.0;
            let spread = (numbers.iter().map(|n| (n - mean).powi(2)).sum::<f64>() / 9_999.0).sqrt();
            let is_burette = on.kind == InstrumentKind::Burette;
            let tolerance = on.tolerance * if is_burette { value / on.capacity } else { 1.0 };
            let stated = (tolerance.powi(2) / 3.0 + on.repeatability.powi(2) + on.resolution.powi(2) / 12.0).sqrt();
            assert!((mean - value).abs() < 4.0 * stated / 100.0, "{id}: bias {}", mean - value);
            assert!((spread / stated - 1.0).abs() < 0.06, "{id}: {spread} where {stated} is stated");
        }
    }
}
