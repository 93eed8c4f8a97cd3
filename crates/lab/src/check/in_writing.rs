//! Slips on the written answer: percent for fraction, a lost sign, digits exchanged or cut off, rounding on the way.

use super::at_readings::swaps;
use super::reach::{Candidate, Made, at};
use measure::rounding::{Ties, decimal_of, to_figures, to_place};
use measure::{Decimal, Dimension, Unit};
use practical::slip::Slip;
use practical::{Practical, ResultSpec};
use sheet::{Act, Otherwise, Place, Work};

/// What could have been written instead of `value`, in base units, by somebody who writes down to the place of `typed`.
pub(super) fn written(
    (practical, result): (&Practical, &ResultSpec),
    value: f64,
    typed: Decimal,
    unit: &Unit,
) -> Vec<Candidate> {
    let mut found = Vec::new();
    let mut add = |slip, share, made: f64| {
        found.push(Candidate {
            slip,
            at: result.name.as_str().into(),
            exchange: None,
            share,
            made: Made::Written(made),
        });
    };
    for power in [-2, -1, 1, 2] {
        add(Slip::DecimalPoint, if power == 1 || power == -1 { 1.0 } else { 0.5 }, value * 10f64.powi(power));
    }
    for power in [-3, 3] {
        add(Slip::UnitThousand, 1.0, value * 10f64.powi(power));
    }
    if unit.dimension() == Dimension::ONE {
        add(Slip::PercentForFraction, 1.0, value * 100.0);
        add(Slip::PercentForFraction, 1.0, value / 100.0);
    }
    add(Slip::MinusSign, 1.0, -value);
    if practical.is_part_of_a_whole(&result.name) {
        add(Slip::Complement, 1.0, 1.0 - value);
        if value > 1.0 {
            add(Slip::Capped, 1.0, 1.0);
        }
    }
    let in_unit = decimal_of(unit.from_base(value));
    if let Some(exact) = in_unit {
        let rounded = to_place(exact, typed.last_place(), Ties::HalfUp);
        for swapped in swaps(rounded) {
            add(Slip::DigitsSwapped, 0.5, unit.to_base(swapped.to_f64()));
        }
        let down = to_place(exact, typed.last_place(), Ties::HalfEven);
        let cut = if down.to_f64().abs() > exact.to_f64().abs() {
            down.to_f64() - exact.to_f64().signum() * 10f64.powi(typed.last_place())
        } else {
            down.to_f64()
        };
        add(Slip::Truncated, 1.0, unit.to_base(cut));
    }
    found
}

/// Values on the way rounded to one or two figures, in the unit in which they are shown.
pub(super) fn rounded_early(
    practical: &Practical,
    plain: &Otherwise<'_>,
    places: &[Place],
    result: &str,
) -> Vec<Candidate> {
    let program = &practical.program;
    let weighed = |name: &str| practical.file.weighings.iter().any(|w| w.name() == name);
    let mut found = Vec::new();
    for place in places.iter().filter(|p| p.count() == 1) {
        let Some(definition) = program.defines(*place).and_then(|n| program.definition(n)) else { continue };
        // What was only read is written down as it is.
        let computed = !matches!(program.work(*place), Work::Leaf(_)) && !weighed(&definition.name);
        let Some(value) = plain.plain(*place).filter(|_| definition.name != result && computed) else { continue };
        let Some(exact) = decimal_of(definition.unit.from_base(value)) else { continue };
        for figures in [1, 2] {
            let rounded = to_figures(exact, figures, Ties::HalfUp);
            let change = at(*place, Act::Number(definition.unit.to_base(rounded.to_f64())));
            let unit = definition.unit.written();
            found.push(Candidate {
                slip: Slip::RoundedEarly,
                at: definition.name.as_str().into(),
                exchange: Some((format!("{} {unit}", to_figures(exact, 4, Ties::HalfUp)), format!("{rounded} {unit}"))),
                // To one figure alone, hardly anybody does.
                share: if figures == 1 { 0.2 } else { 1.0 },
                made: Made::On(vec![change]),
            });
        }
    }
    found
}
