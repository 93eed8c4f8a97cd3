//! Slips on one typed value: digits exchanged, a decimal point moved, another trial's value, the planned amount.

use super::reach::{At, Reach, at};
use measure::{Decimal, Dimension, InstrumentKind, Unit};
use practical::file::Weighing;
use practical::slip::Slip;
use practical::{Material, Reading, Stated};
use sheet::Act;

impl<'a> Reach<'a> {
    pub(super) fn at_readings(&mut self) {
        let symbols: Vec<String> = self.practical.readings.iter().map(|r| r.symbol.clone()).collect();
        for symbol in symbols {
            let Some(reading) = self.practical.readings.iter().find(|r| r.symbol == symbol) else { continue };
            let places = self.reading_places(&symbol);
            for place in &places {
                let Some((slot, typed)) = self.typed(*place) else { continue };
                self.mistyped(reading, *place, &slot, typed);
                // A series of temperatures is there for its differences, which kelvins do not change.
                let alone = reading.repeats.is_none() && reading.unit.dimension() == Dimension::TEMPERATURE;
                if alone && reading.unit.written() == "°C" {
                    let celsius = typed.to_f64();
                    self.add(Slip::KelvinIgnored, &slot, 1.0, vec![at(*place, Act::Number(celsius))]);
                }
                for other in places.iter().filter(|o| *o != place) {
                    if let (Some(value), Some((theirs, written))) = (self.number(*other), self.typed(*other)) {
                        let words = (with_unit(typed, &reading.unit), with_unit(written, &reading.unit));
                        let place_at = At::exchanged(&slot, &theirs);
                        self.exchange(Slip::WrongTrial, place_at, 1.0, words, at(*place, Act::Number(value)));
                    }
                }
            }
            self.other_vessel(reading, &places);
            // Whoever takes minutes for seconds does so all along.
            if reading.unit.dimension() == Dimension::TIME {
                for times in [60.0, 1.0 / 60.0] {
                    let all = places.iter().map(|p| at(*p, Act::Times(times))).collect();
                    self.add(Slip::MinutesForSeconds, symbol.as_str(), 1.0, all);
                }
            }
        }
        self.planned();
    }

    fn mistyped(&mut self, reading: &Reading, place: sheet::Place, slot: &str, typed: Decimal) {
        let unit = &reading.unit;
        let right = || with_unit(typed, unit);
        for swapped in swaps(typed) {
            let words = (right(), with_unit(swapped, unit));
            let act = Act::Number(unit.to_base(swapped.to_f64()));
            self.exchange(Slip::DigitsSwapped, slot, 1.0, words, at(place, act));
        }
        for places in [-2, -1, 1, 2] {
            let moved = typed.shifted(places);
            let act = Act::Number(unit.to_base(moved.to_f64()));
            let share = if places.abs() == 1 { 1.0 } else { 0.3 };
            self.exchange(Slip::DecimalPoint, slot, share, (right(), with_unit(moved, unit)), at(place, act));
        }
        if unit.dimension() != Dimension::TEMPERATURE {
            for places in [-3, 3] {
                let moved = typed.shifted(places);
                let act = Act::Number(unit.to_base(moved.to_f64()));
                // Litres and millilitres are mixed up; a balance shows grams.
                let share = if unit.dimension() == Dimension::VOLUME { 1.0 } else { 0.1 };
                self.exchange(Slip::UnitThousand, slot, share, (right(), with_unit(moved, unit)), at(place, act));
            }
        }
    }

    /// The amounts that the instructions name in the place of what was weighed or measured off, in every trial.
    fn planned(&mut self) {
        for material in &self.practical.materials {
            let Some(stated) = self.intended(material) else { continue };
            let Some(name) = self.taken_as(material) else { continue };
            let places = self.definition(name).map_or_else(|| self.reading_places(name), |p| vec![p]);
            let value = stated.base();
            let dimension = stated.amount.unit.dimension();
            let fits = self.program().definition(name).is_none_or(|d| d.dimension == dimension)
                && self.practical.reading(name).is_none_or(|r| r.unit.dimension() == dimension);
            let there: Vec<_> = places.into_iter().filter(|p| fits && self.number(*p).is_some()).collect();
            let words = with_unit(stated.amount.value, &stated.amount.unit);
            let changes = there.iter().map(|p| at(*p, Act::Number(value))).collect();
            if let ([only], Some((_, typed))) = (&there[..], there.first().and_then(|p| self.typed(*p))) {
                let words = (with_unit(typed, &stated.amount.unit), words);
                self.exchange(Slip::TargetForActual, name, 1.0, words, at(*only, Act::Number(value)));
            } else {
                self.add(Slip::TargetForActual, name, 1.0, changes);
            }
        }
    }

    /// The amount that the instructions name: of the material, or of the one step that adds it.
    fn intended(&self, material: &Material) -> Option<Stated> {
        let added = || {
            let mut amounts =
                self.practical.steps.iter().flat_map(|s| &s.adds).filter(|a| a.material == material.symbol);
            let only = Stated::parse(amounts.next()?.amount.as_deref()?).ok()?;
            amounts.next().is_none().then_some(only)
        };
        material.planned.clone().or_else(added)
    }

    /// The reading or the weighing that says how much of a material was taken; of a gross reading, what is weighed by it.
    fn taken_as(&self, material: &Material) -> Option<&'a str> {
        let gross = |r: &Reading| self.practical.containers.contains_key(&r.symbol);
        let weighed_by = |r: &Reading| {
            let by = self.practical.file.weighings.iter().find(|w| w.readings().contains(&r.symbol.as_str()));
            by.map(Weighing::name)
        };
        let read = self.practical.readings.iter().find(|r| r.of.as_ref() == Some(&material.symbol));
        let read = read.and_then(|r| if gross(r) { weighed_by(r) } else { Some(r.symbol.as_str()) });
        read.or_else(|| self.practical.measured_by(&material.symbol))
    }

    /// The volume of another vessel: of the flask for the aliquot, of the aliquot for the flask.
    fn other_vessel(&mut self, reading: &Reading, places: &[sheet::Place]) {
        let measured_off = |r: &Reading| {
            matches!(r.instrument.kind, InstrumentKind::VolumetricPipette | InstrumentKind::VolumetricFlask)
                && r.repeats.is_none()
        };
        let [place] = places else { return };
        if !measured_off(reading) {
            return;
        }
        let others: Vec<(String, Decimal, f64, Unit)> = self
            .practical
            .readings
            .iter()
            .filter(|r| r.symbol != reading.symbol && measured_off(r))
            .filter_map(|r| {
                let typed = *self.readings.get(&r.symbol)?;
                Some((r.symbol.clone(), typed, r.unit.to_base(typed.to_f64()), r.unit.clone()))
            })
            .collect();
        let Some((_, typed)) = self.typed(*place) else { return };
        for (_, written, value, unit) in others {
            let words = (with_unit(typed, &reading.unit), with_unit(written, &unit));
            self.exchange(Slip::TotalVolume, &reading.symbol, 1.0, words, at(*place, Act::Number(value)));
        }
    }
}

pub(super) fn with_unit(value: Decimal, unit: &Unit) -> String {
    format!("{value} {}", unit.written())
}

/// The number with two neighbouring digits exchanged, each pair that differs; what only moves the point is none.
pub(super) fn swaps(typed: Decimal) -> Vec<Decimal> {
    let text: Vec<char> = typed.to_string().chars().collect();
    let places: Vec<usize> = (0..text.len()).filter(|i| text[*i].is_ascii_digit()).collect();
    let pairs = places.windows(2).filter(|w| text[w[0]] != text[w[1]]);
    pairs
        .filter_map(|w| {
            let mut swapped = text.clone();
            swapped.swap(w[0], w[1]);
            Decimal::parse(&swapped.into_iter().collect::<String>()).ok()
        })
        // 0.2000 as 2.000 is a point that was moved.
        .filter(|swapped| (-2..=2).all(|p| typed.shifted(p).compare(*swapped).is_ne()))
        .collect()
}
