//! What a form offers: the instruments of a usual room, and a practical with nothing in it yet.

use super::FORMAT;
use measure::{Instrument, InstrumentKind as K};

/// Instruments of a usual room, with the tolerances of class B glass (ISO 385, 648, 1042, 4788) and of school balances.
#[must_use]
pub fn kit() -> Vec<Instrument> {
    let balance = |name: &str, step: f64, repeatability: f64, capacity: f64| Instrument {
        name: name.into(),
        kind: K::Balance,
        unit: "g".into(),
        resolution: step,
        tolerance: step,
        repeatability,
        capacity,
        sensitivity: 0.0,
    };
    let glass = |name: &str, kind, resolution, capacity: f64| Instrument {
        name: name.into(),
        kind,
        unit: "mL".into(),
        resolution,
        tolerance: measure::glassware(kind, capacity).map_or(0.0, |g| g.tolerance(measure::Class::B)),
        repeatability: resolution / 2.0,
        capacity,
        sensitivity: 0.0,
    };
    let meter = |name: &str, kind, unit: &str, resolution: f64, tolerance: f64, capacity: f64| Instrument {
        name: name.into(),
        kind,
        unit: unit.into(),
        resolution,
        tolerance,
        repeatability: 0.0,
        capacity,
        sensitivity: 0.0,
    };
    vec![
        balance("Balance, 0.01 g", 0.01, 0.005, 300.0),
        balance("Balance, 1 mg", 0.001, 0.0005, 200.0),
        glass("Burette 50 mL", K::Burette, 0.05, 50.0),
        glass("Burette 25 mL", K::Burette, 0.05, 25.0),
        glass("Pipette 10 mL", K::VolumetricPipette, 0.02, 10.0),
        glass("Pipette 25 mL", K::VolumetricPipette, 0.04, 25.0),
        glass("Flask 100 mL", K::VolumetricFlask, 0.1, 100.0),
        glass("Flask 250 mL", K::VolumetricFlask, 0.1, 250.0),
        glass("Syringe 2.5 mL", K::Syringe, 0.02, 2.5),
        glass("Syringe 5 mL", K::Syringe, 0.05, 5.0),
        glass("Cylinder 10 mL", K::MeasuringCylinder, 0.1, 10.0),
        glass("Cylinder 25 mL", K::MeasuringCylinder, 0.25, 25.0),
        glass("Cylinder 50 mL", K::MeasuringCylinder, 0.5, 50.0),
        glass("Cylinder 100 mL", K::MeasuringCylinder, 0.5, 100.0),
        meter("Thermometer", K::Thermometer, "°C", 0.5, 1.0, 150.0),
        meter("Melting-point apparatus", K::MeltingPoint, "°C", 0.5, 1.0, 300.0),
        meter("pH meter", K::PhMeter, "1", 0.01, 0.02, 14.0),
        meter("pH paper", K::PhPaper, "1", 1.0, 0.5, 14.0),
        meter("Drops, counted", K::DroppingPipette, "1", 1.0, 0.0, 200.0),
        meter("Timer", K::Timer, "min", 0.1, 0.0, 600.0),
    ]
}

/// The text of a practical with nothing in it yet.
#[must_use]
pub fn blank(id: &str, title: &str) -> String {
    let quoted = |text: &str| toml_edit::Value::from(text).to_string();
    format!(
        "# A practical of Keen Beaker. The format is described in docs/format.md.\nformat = \"{FORMAT}\"\nid = {}\n\
         title = {}\nkind = \"practical\"\nfinds = \"\"\nlevel = \"\"\nvisits = 1\n",
        quoted(id),
        quoted(title),
    )
}
