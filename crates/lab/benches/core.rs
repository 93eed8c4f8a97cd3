//! How fast the core is, each figure beside a floor measured in the same run: plain `f64` code that does the same
//! arithmetic by hand, or a plain walk over the same text.
//!
//! The machine is noisy: read the ratios, not the times. Each figure is the median of many batches.

use lab::bench::Entries;
use lab::evaluated::{Evaluated, inputs};
use measure::{Decimal, Instrument, InstrumentKind, Unit};
use practical::Practical;
use sheet::{Draft, Given, Inputs, Material, Program, ReadingName, Repeats, Runner, Vocabulary, read_definitions};
use std::hint::black_box;
use std::time::Instant;

const BATCHES: usize = 41;

/// Median time of one call, in ns.
fn time(calls: u32, mut work: impl FnMut()) -> f64 {
    let mut times: Vec<f64> = (0..BATCHES)
        .map(|_| {
            let start = Instant::now();
            for _ in 0..calls {
                work();
            }
            start.elapsed().as_secs_f64() * 1e9 / f64::from(calls)
        })
        .collect();
    times.sort_by(f64::total_cmp);
    times[BATCHES / 2]
}

fn row(what: &str, ns: f64, floor: f64, wanted: &str) {
    println!("{what:<58} {ns:>12.1} ns  floor {floor:>9.1} ns  ratio {:>7.1}  wanted: {wanted}", ns / floor);
}

fn main() {
    formulas();
    equations();
    epsom();
    standardisation();
    class();
}

fn formulas() {
    let texts =
        ["H2O", "MgSO4·7H2O", "K4[Fe(CN)6]·3H2O", "C8H5KO4", "4MgCO3·Mg(OH)2·5H2O", "SO4^2-", "(NH4)2Fe(SO4)2.6H2O"];
    let each = 1.0 / texts.len() as f64;
    let parse = time(200, || texts.iter().for_each(|t| drop(black_box(chem::Formula::parse(black_box(t)))))) * each;
    // The floor walks over the same characters and counts capitals.
    let floor = time(2000, || {
        for t in texts {
            black_box(black_box(t).chars().filter(char::is_ascii_uppercase).count());
        }
    }) * each;
    row("one formula read", parse, floor, "below 5 000 ns (200 000 a second)");
}

fn equations() {
    let equation =
        chem::Equation::parse("K2Cr2O7 + FeSO4 + H2SO4 -> Cr2(SO4)3 + Fe2(SO4)3 + K2SO4 + H2O").expect("it is one");
    let exact = time(100, || drop(black_box(black_box(&equation).balance())));
    // The floor eliminates a 7 × 7 matrix of plain numbers.
    let floor = time(2000, || {
        let mut a = black_box([[1.0f64; 7]; 7]);
        for (i, row) in a.iter_mut().enumerate() {
            row[i] += 2.0;
        }
        for c in 0..7 {
            let pivot = a[c];
            for (_, row) in a.iter_mut().enumerate().filter(|(r, _)| *r != c) {
                let times = row[c] / pivot[c];
                row.iter_mut().zip(pivot).for_each(|(x, p)| *x -= times * p);
            }
        }
        black_box(a);
    });
    row("one equation of seven substances balanced exactly", exact, floor, "exact fractions; no target");
}

fn practical() -> Practical {
    Practical::parse(include_str!("../../../practicals/epsom-salt.practical.toml")).expect("the library is sound")
}

fn bench_entries(shift: u32) -> Entries {
    let text = |whole: u32, part: u32| format!("{whole}.{part:02}");
    let readings = [
        ("m_carbonate", text(3, shift % 10)),
        ("V_acid", "25.00".to_owned()),
        ("m_dish", text(47, 10 + shift % 80)),
        ("m_dish_crystals", text(51, 10 + shift % 80)),
    ];
    Entries { readings: readings.map(|(s, t)| (s.to_owned(), t)).into(), ..Entries::default() }
}

fn epsom() {
    let practical = practical();
    let typed = bench_entries(3).readings;
    let decimals = typed.iter().map(|(s, t)| (s.clone(), Decimal::parse(t).expect("a number"))).collect();
    let inputs = inputs(&practical, &decimals);
    let mut runner = Runner::new(&practical.program, &inputs);
    let last = practical.program.definitions().iter().position(|d| d.name == "percent_yield").expect("it has one");
    let slots = ["m_carbonate", "V_acid", "m_dish", "m_dish_crystals"].map(|s| runner.slot(s).expect("a reading"));
    let ours = time(2000, || {
        for (slot, value) in slots.iter().zip(black_box([3.03, 0.025, 47.13, 51.13])) {
            runner.fill(*slot, value);
        }
        runner.run();
        runner.differentiate(last);
        black_box(runner.value(last));
    });
    let floor = time(20_000, || {
        let [m, v, dish, full] = black_box([3.03f64, 0.025, 47.13, 51.13]);
        let [m_carbonate, m_crystals, c] = black_box([485.646f64, 246.466, 1.00]);
        let net = full - dish;
        let n_carbonate = m / m_carbonate;
        let n_acid = v * c;
        let extent = (n_carbonate / 1.0).min(n_acid / 5.0);
        black_box(net / (extent * 5.0 * m_crystals));
    });
    row("Epsom sheet, values and sensitivities to all inputs", ours, floor, "within 20");
}

fn standardisation() {
    let trials = 4;
    let repeats = || Some(Repeats { axis: "trial".into(), most: trials, rough: 1 });
    let reading = |symbol: &str, unit: &str| ReadingName {
        symbol: symbol.into(),
        unit: Unit::parse(unit).expect("a unit"),
        repeats: repeats(),
    };
    let vocabulary = Vocabulary {
        readings: vec![reading("m", "g"), reading("V_start", "mL"), reading("V_end", "mL")],
        materials: vec![Material {
            symbol: "khp".into(),
            formula: chem::Formula::parse("KHC8H4O4").ok(),
            coefficient: None,
            concentration: None,
            purity: None,
            density: None,
            mass_concentration: None,
        }],
        ..Vocabulary::default()
    };
    let text = "titre = V_end - V_start\nc = m / M(khp) / titre\nc_mean = mean(c)";
    let drafts: Vec<Draft> = read_definitions(text).expect("a sheet").into_iter().map(Draft::from).collect();
    let program = Program::compile(&drafts, &vocabulary).expect("it compiles");
    let instrument = |kind, unit: &str| Instrument {
        name: "one".into(),
        kind,
        unit: unit.into(),
        resolution: 0.001,
        tolerance: 0.01,
        repeatability: 0.001,
        capacity: 100.0,
        sensitivity: 0.0,
    };
    let mut inputs = Inputs::default();
    for (symbol, unit, kind, texts) in [
        ("m", "g", InstrumentKind::Balance, ["0.5000", "0.5105", "0.4870", "0.4962"]),
        ("V_start", "mL", InstrumentKind::Burette, ["0.00", "0.10", "0.20", "0.35"]),
        ("V_end", "mL", InstrumentKind::Burette, ["25.90", "25.80", "24.70", "25.30"]),
    ] {
        let of = Unit::parse(unit).expect("a unit");
        let given = texts.map(|t| {
            Some(Given::reading(
                symbol,
                Decimal::parse(t).expect("a number"),
                &of,
                &instrument(kind, unit),
                sheet::Writing::default(),
            ))
        });
        inputs.series.insert(symbol.into(), given.into());
    }
    let mut runner = Runner::new(&program, &inputs);
    let ours = time(2000, || {
        black_box(&mut runner).run();
        runner.differentiate(2);
        black_box(runner.value(2));
    });
    let floor = time(20_000, || {
        let [m, start, end] = black_box([
            [0.5000f64, 0.5105, 0.4870, 0.4962],
            [0.0, 0.000_10, 0.000_20, 0.000_35],
            [0.025_90, 0.025_80, 0.024_70, 0.025_30],
        ]);
        let mut sum = 0.0;
        for i in 1..4 {
            sum += m[i] / 204.222 / (end[i] - start[i]);
        }
        black_box(sum / 3.0);
    });
    row("standardisation, four trials, all sensitivities", ours, floor, "within 20");
}

fn class() {
    let practical = practical();
    let decimals =
        bench_entries(0).readings.iter().map(|(s, t)| (s.clone(), Decimal::parse(t).expect("a number"))).collect();
    let inputs = inputs(&practical, &decimals);
    let mut runner = Runner::new(&practical.program, &inputs);
    let definitions = practical.program.definitions().len();
    let slots = ["m_carbonate", "V_acid", "m_dish", "m_dish_crystals"].map(|s| runner.slot(s).expect("a reading"));
    // 40 groups, every definition with its sensitivities: eight results each at least.
    let ours = time(20, || {
        for group in 0..40 {
            let more = f64::from(group) * 0.01;
            for (slot, value) in slots.iter().zip([3.00 + more, 0.025, 47.0 + more, 51.0 + more]) {
                runner.fill(*slot, value);
            }
            runner.run();
            for definition in 0..8 {
                runner.differentiate(definition % definitions);
            }
            black_box(runner.value(definitions - 1));
        }
    });
    let floor = time(2000, || {
        for group in 0..40 {
            let more = black_box(f64::from(group) * 0.01);
            let n = (3.0 + more) / 485.646;
            black_box((4.0 + more) / (n.min(0.025 / 5.0) * 5.0 * 246.466));
        }
    });
    row("class of 40 groups × 8 results with sensitivities", ours, floor, "below 2 000 000 ns");
    let entries: Vec<Entries> = (0..40).map(bench_entries).collect();
    let whole = time(3, || entries.iter().for_each(|e| drop(black_box(Evaluated::of(&practical, e).outcome()))));
    row("the same class, judged, with budgets and digits", whole, floor, "no target; what the board asks for");
}
