//! Solutions that are made from a weighed solid, and their dilutions.

use super::glass::{WeighedOut, balance, burette};
use super::{disposal, marks, title};
use crate::interview::{Field, Interview, LONGEST, Proposed, Why};
use crate::matter::{Matter, round_mass};
use crate::write::{Reads, plain};
use measure::{Dimension, Instrument, InstrumentKind as Kind};
use minijinja::{Value, context};

/// A solution of known strength, as it is made.
struct Stock {
    solute: Matter,
    flask: Instrument,
    balance: Instrument,
    mass: f64,
    strength: f64,
}

fn stock(on: &mut Interview<'_>) -> Option<Stock> {
    let solute = Matter::called(on, Field::Substance, "CuSO4·5H2O")?.taken_as(None);
    let proposed = Proposed("0.100 mol/L".into(), Why::Usual);
    let strength = on.quantity(Field::Strength, &[Dimension::CONCENTRATION], Some(proposed))?.base();
    let flask = on.instrument(Field::Flask, Kind::VolumetricFlask, |_| true, |i| i.capacity >= 250.0)?;
    let needed = strength * flask.capacity / 1000.0 * solute.molar_mass;
    let why = Why::FillsTheFlask { volume: format!("{} mL", plain(flask.capacity, 0)) };
    let proposed = Proposed(format!("{} g", plain(round_mass(needed), 4)), why);
    let mass = on.quantity(Field::Mass, &[Dimension::MASS], Some(proposed))?.base();
    let balance = balance(on, mass, 0.002)?;
    let strength = mass / solute.molar_mass / flask.capacity * 1000.0;
    Some(Stock { solute, flask, balance, mass, strength })
}

impl Stock {
    fn filled(self, on: &mut Interview<'_>, name: &str, more: Value) -> Option<Value> {
        let title = title(on, &format!("{name} of {}", self.solute.name))?;
        Some(context! {
            title,
            marks => marks(on),
            disposal => disposal(&[&self.solute]),
            taken => WeighedOut::of(&self.balance, self.mass, 0.02),
            flask => Reads::nominal(&self.flask),
            flask_holds => format!("{} mL", plain(self.flask.capacity, 0)),
            half => format!("{} mL", plain((0.4 * self.flask.capacity).round(), 0)),
            solute => self.solute,
            ..more
        })
    }
}

pub(super) fn one(on: &mut Interview<'_>) -> Option<Value> {
    let stock = stock(on)?;
    let more = context! { instruments => vec![stock.balance.clone(), stock.flask.clone()] };
    stock.filled(on, "a standard solution", more)
}

pub(super) fn series(on: &mut Interview<'_>) -> Option<Value> {
    let stock = stock(on)?;
    let small = on.instrument(Field::SmallFlask, Kind::VolumetricFlask, |_| true, |i| i.capacity <= 100.0)?;
    let burette = burette(on)?;
    let most = small.capacity.min(burette.capacity);
    let proposed = [1.0, 2.0, 3.0, 4.0, 5.0].map(|n| plain(n * most / 10.0, 1)).join(", ");
    let said = on.text(Field::Volumes, Some(Proposed(proposed, Why::Usual)))?;
    let volumes: Option<Vec<f64>> = said.split([',', ';']).map(|v| v.trim().parse().ok()).collect();
    let fits = |v: &f64| v.is_finite() && *v > 0.0 && *v <= most;
    let Some(volumes) = volumes.filter(|v| (2..=10).contains(&v.len()) && v.iter().all(fits)) else {
        let shown: String = said.chars().take(LONGEST / 4).collect();
        return on.refuse(Field::Volumes, format!("'{shown}': two to ten volumes up to {most} mL, as in 5, 10, 15"));
    };
    let (low, high) = volumes.iter().fold((f64::INFINITY, 0.0f64), |(l, h), v| (l.min(*v), h.max(*v)));
    let middle = volumes[volumes.len() / 2];
    let more = context! {
        count => volumes.len(),
        small => Reads::nominal(&small),
        small_holds => format!("{} mL", plain(small.capacity, 0)),
        volumes => volumes.iter().map(|v| plain(*v, 2)).collect::<Vec<_>>().join(", "),
        volume => Reads::on(&burette, middle, ((0.9 * low - 0.5).max(0.1), (1.1 * high + 0.5).min(burette.capacity))),
        strongest => stock.strength * high / small.capacity,
        instruments => distinct(vec![stock.balance.clone(), stock.flask.clone(), small, burette]),
    };
    stock.filled(on, "a dilution series", more)
}

fn distinct(all: Vec<Instrument>) -> Vec<Instrument> {
    let mut out: Vec<Instrument> = Vec::new();
    for one in all {
        if !out.iter().any(|i| i.name == one.name) {
            out.push(one);
        }
    }
    out
}
