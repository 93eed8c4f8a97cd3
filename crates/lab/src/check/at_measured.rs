//! Slips on a line, a temperature carried back, a gas over water, a charge.

use super::reach::{Reach, at};
use practical::SheetRole;
use practical::slip::Slip;
use practical::statistics::{Weighting, line};
use sheet::{Act, Place, Work};

/// What is added to a temperature in °C.
const CELSIUS_ZERO: f64 = 273.15;

impl Reach<'_> {
    pub(super) fn calibration(&mut self, x: &str, y: &str, through_zero: bool, diluted: bool) {
        self.swapped_axes(x, y, if through_zero { &Weighting::ThroughZero } else { &Weighting::Alike });
        for (place, name) in self.owners(SheetRole::ReadOff) {
            // (y₀ − a)/b without the a. A line through zero has none: a difference there is of something else.
            let above = self.program().operands(place).first().copied();
            if let Some(difference) = above.filter(|p| !through_zero && self.work(*p) == Work::Difference) {
                self.add(Slip::InterceptIgnored, &name, 1.0, vec![at(difference, Act::First)]);
            }
            if diluted {
                self.times(&name);
            }
        }
    }

    pub(super) fn calorimetry(&mut self, after: &str, by_line: bool) {
        if by_line {
            self.without_cooling(after);
        }
        for (place, name) in self.owners(SheetRole::TemperatureChange) {
            if let Some(change) = self.number(place) {
                let added = Act::Number(change + CELSIUS_ZERO);
                self.add(Slip::KelvinAdded, name, 1.0, vec![at(place, added)]);
            }
        }
    }

    pub(super) fn gas(&mut self, gas: &str, [temperature, pressure]: [&str; 2], over_water: bool) {
        let amount = self.practical.roles.named(SheetRole::Amount, gas).map(str::to_owned);
        let kelvin = self.value_of(temperature).filter(|k| *k > CELSIUS_ZERO);
        if let (Some(place), Some(kelvin)) = (amount.and_then(|n| self.definition(&n)), kelvin) {
            // n goes as 1/T; the vapour pressure is looked up by °C and stays.
            let times = Act::Times(kelvin / (kelvin - CELSIUS_ZERO));
            self.add(Slip::KelvinIgnored, temperature, 1.0, vec![at(place, times)]);
        }
        let dry = self.practical.roles.named(SheetRole::DryPressure, gas).map(str::to_owned);
        let dry = dry.and_then(|name| Some((self.definition(&name)?, name))).filter(|_| over_water);
        if let (Some((place, name)), Some(wet)) = (dry, self.value_of(pressure)) {
            self.add(Slip::VapourPressureIgnored, name, 1.0, vec![at(place, Act::Number(wet))]);
        }
    }

    pub(super) fn charge(&mut self, electrons: u32, product: &str) {
        let theory = self.practical.roles.named(SheetRole::TheoreticalYield, product).map(str::to_owned);
        let found = theory.and_then(|name| Some((self.definition(&name)?, name)));
        if let Some((place, name)) = found.filter(|_| electrons > 1) {
            self.add(Slip::ElectronsIgnored, name, 1.0, vec![at(place, Act::Times(f64::from(electrons)))]);
        }
    }

    /// Definitions of this role that the result hangs on.
    fn owners(&self, role: SheetRole) -> Vec<(Place, String)> {
        let all = self.practical.roles.all(role).map(|r| r.definition.clone());
        all.filter_map(|name| Some((self.definition(&name)?, name))).collect()
    }

    /// x against y: the slope of the line the other way round.
    fn swapped_axes(&mut self, x: &str, y: &str, how: &Weighting) {
        let (xs, ys) = (self.values_of(x), self.values_of(y));
        let Ok(line) = line(&ys, &xs, how) else { return };
        for (place, name) in self.owners(SheetRole::LineSlope) {
            // Its number comes out in the units turned over, and is written down with the unit that was asked for.
            let unit = self.program().definition(&name).map_or(1.0, |d| d.unit.difference_to_base(1.0));
            self.add(Slip::AxesSwapped, name, 1.0, vec![at(place, Act::Number(line.slope * unit * unit))]);
        }
    }

    /// The reading farthest from the beginning, for what the line says of the moment of mixing.
    fn without_cooling(&mut self, after: &str) {
        let Some(start) = self.owners(SheetRole::TemperatureChange).first().and_then(|(p, _)| {
            let operands = self.program().operands(*p);
            operands.get(1).and_then(|initial| self.number(*initial))
        }) else {
            return;
        };
        let far = |a: &f64, b: &f64| (a - start).abs().total_cmp(&(b - start).abs());
        let Some(farthest) = self.values_of(after).into_iter().max_by(far) else { return };
        for (place, name) in self.owners(SheetRole::MixedTemperature) {
            self.add(Slip::CoolingIgnored, name, 1.0, vec![at(place, Act::Number(farthest))]);
        }
    }

    /// The numbers of all trials of a reading or a definition, in base units.
    fn values_of(&self, name: &str) -> Vec<f64> {
        let place = self.definition(name);
        let places: Vec<Place> = match place {
            Some(place) => self.program().trials(place).collect(),
            None => self.reading_places(name),
        };
        places.into_iter().filter_map(|p| self.number(p)).collect()
    }
}
