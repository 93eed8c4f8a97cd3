//! Lines, heat in a cup, a gas over water, a charge: each slip that goes with them is named, on a practical of the library and on
//! one in other words; the right answer and a number that nobody comes to are not blamed.

use super::bench::Bench;
use lab::check::{Stands, ValueVerdict};
use practical::slip::Slip;

fn series(symbol: &str, values: &[&str]) -> Vec<(String, String)> {
    values.iter().enumerate().map(|(i, v)| (format!("{symbol}[{}]", i + 1), (*v).to_owned())).collect()
}

fn one(symbol: &str, value: &str) -> Vec<(String, String)> {
    vec![(symbol.to_owned(), value.to_owned())]
}

fn bench(text: &str, readings: &[Vec<(String, String)>]) -> Bench {
    readings.concat().iter().fold(Bench::on(text), |bench, (symbol, value)| bench.read(symbol, value))
}

fn of_library(id: &str) -> String {
    std::fs::read_to_string(format!("../../practicals/{id}.practical.toml")).unwrap()
}

fn line() -> Bench {
    bench(
        &of_library("permanganate-by-line"),
        &[
            series("V_taken", &["2.00", "4.00", "6.00", "8.00", "10.00"]),
            series("A", &["0.118", "0.213", "0.310", "0.403", "0.501"]),
            one("V_small", "25.00"),
            one("V_unknown", "10.00"),
            one("V_large", "100.00"),
            series("A_unknown", &["0.300", "0.301", "0.299"]),
        ],
    )
}

fn heat() -> Bench {
    bench(
        &of_library("neutralisation-heat"),
        &[
            one("V_acid", "50.00"),
            one("V_base", "50.00"),
            series("t_before", &["0.0", "1.0", "2.0"]),
            series("T_before", &["20.2", "20.1", "20.1"]),
            series("t_after", &["4.0", "5.0", "6.0", "7.0", "8.0", "9.0", "10.0"]),
            series("T_after", &["26.5", "26.2", "25.9", "25.6", "25.3", "25.0", "24.7"]),
        ],
    )
}

fn gas() -> Bench {
    let read =
        [("m_magnesium", "0.0345"), ("T_water", "21.0"), ("p_air", "1010.0"), ("h_column", "60"), ("V_gas", "35.9")];
    bench(&of_library("magnesium-by-gas"), &read.map(|(s, v)| one(s, v)))
}

fn charge() -> Bench {
    let read = [("m_before", "8.214"), ("m_after", "8.450"), ("I", "0.400"), ("t", "1800")];
    bench(&of_library("copper-by-current"), &read.map(|(s, v)| one(s, v)))
}

/// Zinc from its sulfate: another metal, minutes on the clock, mg on the balance.
fn zinc() -> Bench {
    let text = of_library("copper-by-current")
        .replace("Cu^2+ + 2 e^- -> Cu", "Zn^2+ + 2 e^- -> Zn")
        .replace("formula = \"Cu\"", "formula = \"Zn\"")
        .replace("formula = \"CuSO4\"\nsupplies = \"Cu^2+\"", "formula = \"ZnSO4\"\nsupplies = \"Zn^2+\"")
        .replace("2 * m_copper", "1 * 2 * m_copper");
    let read = [("m_before", "8.214"), ("m_after", "8.456"), ("I", "0.400"), ("t", "1800")];
    bench(&text, &read.map(|(s, v)| one(s, v)))
}

/// Oxygen from peroxide, in a syringe: no water under it, so that nobody can have forgotten its vapour.
fn dry_gas() -> Bench {
    let text = of_library("magnesium-by-gas").replace("over_water = true\ncolumn = \"h_column\"\n", "");
    let text = text.replace(
        "records = [\"V_gas\", \"T_water\", \"h_column\", \"p_air\"]",
        "records = [\"V_gas\", \"T_water\", \"p_air\"]",
    );
    let read = [("m_magnesium", "0.0345"), ("T_water", "21.0"), ("p_air", "1010.0"), ("V_gas", "35.9")];
    bench(&without_column(&text), &read.map(|(s, v)| one(s, v)))
}

fn without_column(text: &str) -> String {
    let at = text.find("[[readings]]\nsymbol = \"h_column\"").unwrap();
    let end = at + text[at..].find("\n\n").unwrap() + 2;
    format!("{}{}", &text[..at], &text[end..])
}

/// Sugar in a drink: another line, of densities, and nothing diluted.
fn drink() -> Bench {
    bench(
        &of_library("sugar-by-density"),
        &[
            series("m_sugar", &["2.50", "5.00", "7.50", "10.00"]),
            series("m_water", &["47.50", "45.00", "42.50", "40.00"]),
            series("m_25", &["25.45", "25.95", "26.48", "27.02"]),
            one("V_pipette", "25.00"),
            one("m_drink", "26.05"),
        ],
    )
}

/// Two lines through zero, of gas against time.
fn rates() -> Bench {
    bench(
        &of_library("magnesium-rate"),
        &[
            series("t_strong", &["10.0", "20.0", "30.0", "40.0"]),
            series("V_strong", &["10.0", "20.0", "29.5", "38.5"]),
            series("t_weak", &["20.0", "40.0", "60.0", "80.0"]),
            series("V_weak", &["10.0", "20.0", "29.5", "38.5"]),
        ],
    )
}

/// The line of the permanganate made to go through zero, its blank taken off by hand.
fn blanked() -> Bench {
    let text = of_library("permanganate-by-line")
        .replace("unknown = \"A_unknown\"", "unknown = \"A_net\"\nthrough_zero = true")
        .replace("sheet = '''\n", "sheet = '''\nA_net = mean(A_unknown) - 0.020\n");
    bench(
        &text,
        &[
            series("V_taken", &["2.00", "4.00", "6.00", "8.00", "10.00"]),
            series("A", &["0.098", "0.193", "0.290", "0.383", "0.481"]),
            one("V_small", "25.00"),
            one("V_unknown", "10.00"),
            one("V_large", "100.00"),
            series("A_unknown", &["0.300", "0.301", "0.299"]),
        ],
    )
}

/// A salt in water, without a line: what cooling took cannot have been put back.
fn cold() -> Bench {
    let read = [("m_salt", "5.00"), ("V_water", "50.0"), ("T_before", "20.0"), ("T_after", "13.0")];
    bench(&of_library("cold-salt"), &read.map(|(s, v)| one(s, v)))
}

/// Result, what is typed, its unit.
type Typed<'a> = (&'a str, &'a str, &'a str);

/// A bench with its readings.
type At = fn() -> Bench;

fn slips(bench: Bench, (result, text, unit): Typed<'_>) -> Vec<Slip> {
    bench.answer(result, text, unit).outcome().verdicts[result].slips()
}

#[test]
fn every_slip_of_these_methods_is_named() {
    let rows: [(At, Typed<'_>, Slip); 14] = [
        // Slope 0.956/0.4 = 2.39 L/mmol; x against y has 0.4184 mmol/L.
        (line, ("line_slope", "0.418", "L/mmol"), Slip::AxesSwapped),
        // (0.300 − 0.0222)/2.39 = 0.1162; without the intercept 0.1255.
        (line, ("read_off", "0.1255", "mmol/L"), Slip::InterceptIgnored),
        (line, ("undiluted", "0.1162", "mmol/L"), Slip::DilutionIgnored),
        // By the line 26.8 − 20.133 = 6.667 K; the highest reading 6.367 K.
        (heat, ("warmed", "6.37", "K"), Slip::CoolingIgnored),
        (heat, ("warmed", "279.8", "K"), Slip::KelvinAdded),
        (gas, ("p_gas", "101.0", "kPa"), Slip::VapourPressureIgnored),
        // 1.437 mmol; with 21.0 for 294.15 K fourteen times that.
        (gas, ("n_hydrogen", "20.13", "mmol"), Slip::KelvinIgnored),
        (charge, ("charge", "12.0", "C"), Slip::MinutesForSeconds),
        (charge, ("m_theory", "0.474", "g"), Slip::ElectronsIgnored),
        // 720 C/(2·F)·65.38 = 0.2439 g of zinc.
        (zinc, ("m_theory", "0.488", "g"), Slip::ElectronsIgnored),
        // 0.419 g/mL; density along, sugar up the page: 2.386.
        (drink, ("line_slope", "2.386", "g/mL"), Slip::AxesSwapped),
        // 1.042/0.419 without the intercept of 0.997.
        (drink, ("read_off", "248.6", "%"), Slip::InterceptIgnored),
        (cold, ("warmed", "266.15", "K"), Slip::KelvinAdded),
        // 0.975 mL/s are 58.5 mL/min: the number is right, and its unit is not.
        (rates, ("rate_strong", "58.5", "mL/s"), Slip::UnitWrong),
    ];
    for (of, typed, slip) in rows {
        let found = slips(of(), typed);
        assert_eq!(found.first(), Some(&slip), "{typed:?}: {found:?}");
    }
}

/// Right to the last digit asked, and four numbers that nobody comes to.
#[test]
fn what_is_right_is_right_and_what_is_of_no_slip_is_not_blamed() {
    let right: [(At, Typed<'_>); 8] = [
        (line, ("line_slope", "2.39", "L/mmol")),
        (line, ("undiluted", "1.16", "mmol/L")),
        (heat, ("enthalpy", "-55.7", "kJ/mol")),
        (heat, ("heat", "2.79", "kJ")),
        (gas, ("p_gas", "97.92", "kPa")),
        (gas, ("molar_mass", "24.0", "g/mol")),
        (zinc, ("m_theory", "0.244", "g")),
        (dry_gas, ("p_gas", "101.0", "kPa")),
    ];
    for (of, (result, text, unit)) in right {
        let verdict = of().answer(result, text, unit).outcome().verdicts.remove(result).unwrap();
        assert_eq!((verdict.value.clone(), verdict.stands), (ValueVerdict::Right, Stands::Right), "{result} {text}");
    }
    let nobody: [(At, Typed<'_>); 4] = [
        (line, ("line_slope", "3.17", "L/mmol")),
        (heat, ("warmed", "4.9", "K")),
        (gas, ("n_hydrogen", "1.87", "mmol")),
        (charge, ("m_theory", "0.317", "g")),
    ];
    for (of, typed) in nobody {
        assert_eq!(slips(of(), typed), [], "{typed:?}");
    }
    // Of a line through zero no intercept is left out: 0.300 over the slope of 2.400 is a blank that was not taken off.
    assert!(!slips(blanked(), ("read_off", "0.1250", "mmol/L")).contains(&Slip::InterceptIgnored));
    // Without a line nothing is put back.
    assert!(!slips(cold(), ("warmed", "-6.0", "K")).contains(&Slip::CoolingIgnored));
    // Where no water is under the gas, its pressure is that of the air: 97.9 is of no slip that we know.
    assert_eq!(slips(dry_gas(), ("p_gas", "97.92", "kPa")), []);
}

/// The sign of an enthalpy is half of it.
#[test]
fn heat_given_off_is_negative() {
    assert!(slips(heat(), ("enthalpy", "55.7", "kJ/mol")).contains(&Slip::MinusSign));
}
