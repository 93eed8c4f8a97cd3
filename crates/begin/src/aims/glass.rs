//! Instruments that several aims ask for, and how their readings stand in the file.

use crate::interview::{Field, Interview};
use crate::write::{Reads, decimals, plain};
use measure::{Instrument, InstrumentKind as Kind};
use serde::Serialize;

/// A balance that shows a mass to at least this part of it.
pub(super) fn balance(on: &mut Interview<'_>, grams: f64, part: f64) -> Option<Instrument> {
    on.instrument(Field::Balance, Kind::Balance, |i| i.unit == "g", |i| i.resolution <= part * grams)
}

pub(super) fn burette(on: &mut Interview<'_>) -> Option<Instrument> {
    on.instrument(Field::Burette, Kind::Burette, |_| true, |i| i.capacity >= 50.0)
}

/// The pipette of an aliquot.
pub(super) fn pipette(on: &mut Interview<'_>) -> Option<Instrument> {
    on.instrument(Field::Aliquot, Kind::VolumetricPipette, |_| true, |i| (i.capacity - 25.0).abs() < 1e-9)
}

/// Both readings of a titration, in mL.
#[derive(Serialize)]
pub(super) struct BuretteReads {
    start: Reads,
    end: Reads,
}

impl BuretteReads {
    pub fn of(burette: &Instrument, titre: f64) -> BuretteReads {
        let half = burette.capacity / 2.0;
        BuretteReads {
            start: Reads::on(burette, 0.1, (0.0, half)),
            end: Reads::on(burette, 0.1 + titre, ((0.4 * titre).round(), burette.capacity)),
        }
    }
}

/// A mass that is weighed out, with the band in which it will do, in g.
#[derive(Serialize)]
pub(super) struct WeighedOut {
    /// As the ledger has it: `0.13 ± 0.02 g`.
    pub band: String,
    /// Both ends, with their unit.
    pub from: String,
    pub to: String,
    /// About so much, with its unit.
    pub about: String,
    /// On the pan.
    pub read: Reads,
    /// By difference, from a bottle of 12 g.
    pub before: Reads,
    pub after: Reads,
}

impl WeighedOut {
    /// So many grams, give or take a part of them.
    pub fn of(balance: &Instrument, grams: f64, part: f64) -> WeighedOut {
        let places = decimals(balance);
        let step = 10f64.powi(-i32::try_from(places).unwrap_or(3));
        let exact = plain(grams, places);
        let least = exact.split_once('.').map_or(0, |(_, after)| after.len()).max(1);
        let width = (part * grams).max(2.0 * step);
        let width: f64 = measure::rounding::figures(width, 1).parse().unwrap_or(width);
        let (low, high) = (grams - width, grams + width);
        let shown = |x: f64| format!("{} g", plain(x, places));
        let bottle = 12.0;
        WeighedOut {
            band: format!("{grams:.least$} ± {} g", plain(width, places)),
            from: shown(low),
            to: shown(high),
            about: shown(grams),
            read: Reads::on(balance, grams, (low, high)),
            before: Reads::on(balance, bottle + grams, (5.0, 40.0 + grams)),
            after: Reads::on(balance, bottle, (5.0, 40.0)),
        }
    }
}
