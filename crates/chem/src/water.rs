//! The vapour pressure of water, for gases collected over it.
//!
//! Source: Wagner & Pruß, J. Phys. Chem. Ref. Data 31, 387 (2002), eq. 2.5 (IAPWS-95, saturation line).

const CRITICAL_KELVIN: f64 = 647.096;
const CRITICAL_PASCAL: f64 = 22.064e6;

/// Coefficient and power of 1 − T/Tc.
const TERMS: [(f64, f64); 6] = [
    (-7.859_517_83, 1.0),
    (1.844_082_59, 1.5),
    (-11.786_649_7, 3.0),
    (22.680_741_1, 3.5),
    (-15.961_871_9, 4.0),
    (1.801_225_02, 7.5),
];

/// Vapour pressure over liquid water at `kelvin`, in Pa, and its slope, in Pa/K; none where there is no liquid water.
///
/// Supercooled water down to −20 °C is taken along: a cold room is not refused.
///
/// ```
/// // 2.339 kPa at 20 °C, 101.4 kPa at 100 °C (tables of IAPWS).
/// let (room, _) = chem::vapour_pressure_of_water(293.15).unwrap();
/// assert_eq!(room.round(), 2339.0);
/// ```
#[must_use]
pub fn vapour_pressure_of_water(kelvin: f64) -> Option<(f64, f64)> {
    if !(253.15..CRITICAL_KELVIN).contains(&kelvin) {
        return None;
    }
    let from_critical = 1.0 - kelvin / CRITICAL_KELVIN;
    let sum: f64 = TERMS.iter().map(|(a, power)| a * from_critical.powf(*power)).sum();
    let slope: f64 = TERMS.iter().map(|(a, power)| a * power * from_critical.powf(power - 1.0)).sum();
    let pressure = CRITICAL_PASCAL * (CRITICAL_KELVIN / kelvin * sum).exp();
    // d ln p/dT = −(ln(p/pc) + d sum/d(1 − T/Tc))/T.
    let relative = -(CRITICAL_KELVIN / kelvin * sum + slope) / kelvin;
    Some((pressure, pressure * relative))
}

#[cfg(test)]
mod tests {
    use super::*;

    /// 611.2, 1228, 3169.9 and 101 418 Pa: the tables of the same equation; the slope against a difference.
    #[test]
    fn as_the_tables_say() {
        for (celsius, table, within) in
            [(0.01, 611.7, 0.2), (10.0, 1228.2, 0.3), (25.0, 3169.9, 0.5), (100.0, 101_418.0, 20.0)]
        {
            let (p, slope) = vapour_pressure_of_water(celsius + 273.15).unwrap();
            assert!((p - table).abs() < within, "{celsius} °C: {p}");
            let ahead = vapour_pressure_of_water(celsius + 273.151).unwrap().0;
            assert!(((ahead - p) / 0.001 / slope - 1.0).abs() < 1e-4, "{celsius} °C: slope {slope}");
        }
        assert_eq!(vapour_pressure_of_water(200.0), None);
        assert_eq!(vapour_pressure_of_water(700.0), None);
        assert_eq!(vapour_pressure_of_water(f64::NAN), None);
    }
}
