//! A line and an unknown read off it, heat in a cup, a gas, a charge.

use super::{Expansion, amount_name};
use crate::amount::Amount;
use crate::error::PracticalProblem as Problem;
use crate::file::ReagentItem;
use crate::{SheetRole, book};
use measure::{Dimension, Unit};

/// The temperatures of a reaction in a cup.
pub(super) struct Warmed<'f> {
    pub before: &'f str,
    pub after: &'f str,
    /// Times of the later readings, and the moment of mixing.
    pub tail: Option<(&'f str, &'f str)>,
}

impl Expansion<'_> {
    /// One value of what may have been read again and again.
    fn one_of(&self, reading: &str) -> String {
        if self.repeated.contains(reading) { format!("mean({reading})") } else { reading.to_owned() }
    }

    pub(super) fn calibration(&mut self, [x, y, unknown]: [&str; 3], through_zero: bool, dilution: Option<&str>) {
        let unknown = self.one_of(unknown);
        let above = if through_zero {
            let label = "slope of the line, through zero";
            self.define_as((SheetRole::LineSlope, None), "line_slope", label, book::slope_through_zero(y, x));
            unknown
        } else {
            self.define_as((SheetRole::LineSlope, None), "line_slope", "slope of the line", book::slope(y, x));
            self.define("line_intercept", "intercept of the line", book::intercept(y, x));
            format!("({unknown} - line_intercept)")
        };
        let read_off = format!("{above} / line_slope");
        self.define_as((SheetRole::ReadOff, None), "read_off", "what the line says of the unknown", read_off);
        if let Some(times) = dilution {
            self.define("undiluted", "the unknown before it was diluted", format!("read_off * {times}"));
        }
    }

    pub(super) fn calorimetry(
        &mut self,
        reagents: &[ReagentItem],
        heated: &str,
        specific_heat: &str,
        calorimeter: Option<&str>,
        warmed: &Warmed<'_>,
    ) -> Result<(), Problem> {
        let specific_heat = written_per_gram(specific_heat)?;
        self.extent(reagents)?;
        self.define("T_initial", "temperature before mixing", self.one_of(warmed.before));
        let after = match warmed.tail {
            Some((times, moment)) => book::carried_back(warmed.after, times, moment),
            None => self.one_of(warmed.after),
        };
        self.define_as((SheetRole::MixedTemperature, None), "T_mixed", "temperature at mixing", after);
        let (label, change) = ("change in temperature", book::difference("T_mixed", "T_initial"));
        self.define_as((SheetRole::TemperatureChange, None), "warmed", label, change);
        self.define("heat", "heat given off", book::heat(heated, &specific_heat, calorimeter, "warmed"));
        self.define_as((SheetRole::Enthalpy, None), "enthalpy", "enthalpy of the reaction", "-heat / extent");
        Ok(())
    }

    pub(super) fn gas(
        &mut self,
        gas: &str,
        [volume, temperature, pressure]: [&str; 3],
        over_water: bool,
        column: Option<&str>,
    ) -> Result<(), Problem> {
        let name = self.material(gas)?.name.clone();
        let mut dry = pressure.to_owned();
        if over_water {
            self.define("p_steam", "vapour pressure of the water", book::vapour_pressure(temperature));
            dry = format!("{dry} - p_steam");
        }
        if let Some(height) = column {
            dry = format!("{dry} - {}", book::pressure_of_column(height));
        }
        self.define_as((SheetRole::DryPressure, Some(gas)), "p_gas", format!("pressure of the dry {name}"), dry);
        let amount = book::amount_of_gas("p_gas", volume, temperature);
        let found = (SheetRole::Amount, Some(gas));
        self.define_as(found, amount_name(gas), format!("amount of {name}"), amount);
        Ok(())
    }

    pub(super) fn charge(
        &mut self,
        [current, time]: [&str; 2],
        electrons: u32,
        product: &str,
        mass: &str,
    ) -> Result<(), Problem> {
        if !(1..=20).contains(&electrons) {
            return Err(Problem::Senseless("electrons for each formula unit: 1 to 20"));
        }
        let material = self.material(product)?;
        let (of, name) = (Some(product), material.name.clone());
        self.roles.give(mass, SheetRole::ActualYield, of);
        self.define("charge", "charge", book::charge(current, time));
        self.define("n_electrons", "amount of electrons", book::amount_by_charge("charge", "1"));
        let made = format!("n_electrons / {electrons}");
        let theory = book::mass_of(&made, &format!("M({product})"));
        self.define_as((SheetRole::TheoreticalYield, of), "m_theory", format!("{name} by the charge"), theory);
        let part = book::part(mass, "m_theory");
        self.define_as((SheetRole::PercentYield, of), "current_efficiency", "current efficiency", part);
        Ok(())
    }
}

/// A specific heat as the sheet writes it, `4.18 J/g/K`.
fn written_per_gram(text: &str) -> Result<String, Problem> {
    let wrong = |reason: String| Problem::Quantity { text: text.to_owned(), reason };
    let amount = Amount::parse(text).map_err(|e| wrong(e.to_string()))?;
    let per_gram = Unit::parse("J/(g K)").expect("a unit of the job");
    if amount.unit.dimension() != Dimension::SPECIFIC_HEAT || !amount.unit.same_as(&per_gram) {
        return Err(wrong("a specific heat is written in J/(g K)".into()));
    }
    if amount.value.is_negative() || amount.value.to_f64() == 0.0 {
        return Err(wrong("a specific heat is above zero".into()));
    }
    Ok(format!("{} J/g/K", amount.value))
}
