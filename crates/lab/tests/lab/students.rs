//! Students at their sums, with pencil and calculator: arithmetic written out by hand for five practicals, right or with a
//! slip, rounded on the way as students do. It shares nothing with the sheets that it is checked against.

// Small numbers of figures and places, and an index below a count.
#![allow(clippy::cast_possible_truncation, clippy::cast_possible_wrap, clippy::cast_sign_loss)]

use lab::bench::Answer;
use lab::bench::Entries;
use lab::check::Verdict;
use lab::evaluated::Evaluated;
use practical::Practical;
use std::collections::BTreeMap;
use std::path::Path;

/// A seeded die (xorshift64*, Vigna 2016).
pub struct Dice(u64);

impl Dice {
    pub fn new(seed: u64) -> Dice {
        Dice(seed.wrapping_mul(0x9E37_79B9_7F4A_7C15) | 1)
    }

    /// Even between 0 and 1.
    pub fn even(&mut self) -> f64 {
        self.0 ^= self.0 >> 12;
        self.0 ^= self.0 << 25;
        self.0 ^= self.0 >> 27;
        (self.0.wrapping_mul(0x2545_F491_4F6C_DD1D) >> 11) as f64 / (1u64 << 53) as f64
    }

    pub fn between(&mut self, low: f64, high: f64) -> f64 {
        low + (high - low) * self.even()
    }

    pub fn below(&mut self, n: usize) -> usize {
        ((self.even() * n as f64) as usize).min(n - 1)
    }
}

/// How a student writes: which masses, and how many figures are kept on the way.
#[derive(Debug, Clone, Copy)]
pub struct Hand {
    /// Relative atomic masses to so many decimals; all that the table has where none.
    pub mass_decimals: Option<i32>,
    /// Figures kept on the way; all of them where none.
    pub keep: Option<u32>,
}

impl Hand {
    pub const CAREFUL: Hand = Hand { mass_decimals: None, keep: None };
    pub const ALL: [Hand; 6] = [
        Hand::CAREFUL,
        Hand { mass_decimals: Some(2), keep: None },
        Hand { mass_decimals: Some(1), keep: None },
        Hand { mass_decimals: None, keep: Some(5) },
        Hand { mass_decimals: Some(2), keep: Some(4) },
        Hand { mass_decimals: None, keep: Some(4) },
    ];

    fn on_the_way(self, x: f64) -> f64 {
        self.keep.map_or(x, |n| to_figures(x, n))
    }

    /// Aᵣ from the abridged table, typed by hand.
    fn a(self, symbol: &str) -> f64 {
        let full = match symbol {
            "H" => 1.0080,
            "C" => 12.011,
            "N" => 14.007,
            "O" => 15.999,
            "Na" => 22.990,
            "Mg" => 24.305,
            "S" => 32.06,
            "Cl" => 35.45,
            "K" => 39.098,
            "Ca" => 40.078,
            "Zn" => 65.38,
            "Sr" => 87.62,
            "I" => 126.90,
            other => panic!("no mass for {other}"),
        };
        self.mass_decimals.map_or(full, |n| (full * 10f64.powi(n)).round() / 10f64.powi(n))
    }

    fn m(self, atoms: &[(&str, f64)]) -> f64 {
        atoms.iter().map(|(s, n)| self.a(s) * n).sum()
    }
}

pub fn to_figures(x: f64, figures: u32) -> f64 {
    format!("{x:.*e}", figures as usize - 1).parse().unwrap()
}

/// `0.09731` to so many figures, in plain digits.
pub fn written(x: f64, figures: u32) -> String {
    let rounded = to_figures(x, figures);
    let magnitude = if rounded == 0.0 { 0 } else { rounded.abs().log10().floor() as i32 };
    format!("{rounded:.*}", usize::try_from(figures as i32 - 1 - magnitude).unwrap_or(0))
}

/// One line of a student's sheet.
#[derive(Debug, Clone)]
pub struct Line {
    pub result: &'static str,
    pub value: f64,
    pub unit: &'static str,
    pub figures: u32,
}

pub type Readings = BTreeMap<String, String>;
type Slips<'a> = &'a dyn Fn(&str) -> bool;

/// A practical with the arithmetic that students do for it.
pub struct Sheet {
    pub id: &'static str,
    pub take: fn(&mut Dice) -> Readings,
    pub sums: fn(&Readings, Slips<'_>, Hand) -> Vec<Line>,
    /// Slips that can be made in it, with the result at which each shows first.
    pub slips: &'static [(&'static str, &'static str)],
    /// Two slips that show at different results.
    pub pairs: &'static [(&'static str, &'static str)],
}

impl Sheet {
    pub fn practical(&self) -> Practical {
        let file = Path::new(env!("CARGO_MANIFEST_DIR")).join(format!("../../practicals/{}.practical.toml", self.id));
        Practical::parse(&std::fs::read_to_string(file).unwrap()).unwrap()
    }
}

pub fn answers(lines: &[Line]) -> BTreeMap<String, Answer> {
    let of = |l: &Line| Answer { text: written(l.value, l.figures), unit: l.unit.to_owned() };
    lines.iter().map(|l| (l.result.to_owned(), of(l))).collect()
}

pub fn checked(
    practical: &Practical,
    readings: &Readings,
    answers: &BTreeMap<String, Answer>,
) -> BTreeMap<String, Verdict> {
    let entries = Entries { readings: readings.clone(), ..Entries::default() };
    Evaluated::of(practical, &entries).checked(answers)
}

fn r(readings: &Readings, symbol: &str) -> f64 {
    readings[symbol].parse().unwrap()
}

/// Neighbouring digits of a reading exchanged: the first pair after the point that differs.
fn swapped(readings: &Readings, symbol: &str) -> f64 {
    let mut c: Vec<char> = readings[symbol].chars().collect();
    let point = c.iter().position(|x| *x == '.').unwrap();
    if let Some(i) = (point + 1..c.len() - 1).find(|i| c[*i] != c[i + 1]) {
        c.swap(i, i + 1);
    }
    c.into_iter().collect::<String>().parse().unwrap()
}

fn put(readings: &mut Readings, symbol: &str, value: f64, decimals: usize) {
    readings.insert(symbol.to_owned(), format!("{value:.decimals$}"));
}

fn line(result: &'static str, value: f64, unit: &'static str, figures: u32) -> Line {
    Line { result, value, unit, figures }
}

pub const SHEETS: &[Sheet] = &[EPSOM, STANDARD, IODIDE, STRONTIUM, ANTACID];

const EPSOM: Sheet = Sheet {
    id: "epsom-salt",
    take: |d| {
        let mut out = Readings::new();
        put(&mut out, "m_carbonate", d.between(2.90, 3.10), 2);
        put(&mut out, "V_acid", 25.0, 2);
        let dish = d.between(44.0, 56.0);
        put(&mut out, "m_dish", dish, 2);
        put(&mut out, "m_dish_crystals", dish + 6.16 * d.between(0.5, 0.88), 2);
        out
    },
    sums: |x, slip, hand| {
        let keep = |y: f64| hand.on_the_way(y);
        // 4 MgCO3·Mg(OH)2·5 H2O: 5 Mg, 4 C, 12 H, 19 O.
        let m_carbonate = hand.m(&[("Mg", 5.0), ("C", 4.0), ("H", 12.0), ("O", 19.0)]);
        let dry = hand.m(&[("Mg", 1.0), ("S", 1.0), ("O", 4.0)]);
        let water = hand.m(&[("H", 2.0), ("O", 1.0)]);
        let mut molar = dry + 7.0 * water;
        if slip("hydrate-ignored") {
            molar = dry;
        }
        if slip("hydrate-misread") {
            molar = dry + water;
        }
        if slip("coefficient-in-molar-mass") {
            molar *= 5.0;
        }
        if slip("other-substance") {
            molar = hand.m(&[("H", 2.0), ("S", 1.0), ("O", 4.0)]);
        }
        if slip("atomic-number-for-mass") {
            molar = 12.0 + 16.0 + 4.0 * 8.0 + 7.0 * 10.0;
        }
        let volume = if slip("decimal-point") { r(x, "V_acid") / 10.0 } else { r(x, "V_acid") };
        let n_acid = if slip("division-inverted") { 1.00 / volume * 1000.0 } else { keep(volume * 1.00) };
        let mut n = keep(n_acid / 1000.0);
        if slip("wrong-limiting") {
            n = keep(r(x, "m_carbonate") / keep(m_carbonate)) * 5.0;
        }
        let theory = n * keep(molar);
        let full = r(x, "m_dish_crystals");
        let mut crystals = full - r(x, "m_dish");
        if slip("container-kept") {
            crystals = full;
        }
        if slip("digits-swapped") {
            crystals = swapped(x, "m_dish_crystals") - r(x, "m_dish");
        }
        let own_theory = keep(theory);
        let mut percent = 100.0 * crystals / own_theory;
        if slip("yield-inverted") {
            percent = 100.0 * own_theory / crystals;
        }
        if slip("mass-ratio-yield") {
            percent = 100.0 * crystals / r(x, "m_carbonate");
        }
        if slip("percent-for-fraction") {
            percent /= 100.0;
        }
        vec![
            line("n_acid", n_acid, "mmol", 3),
            line("m_theory", theory, "g", 3),
            line("percent_yield", percent, "%", 3),
        ]
    },
    slips: &[
        ("hydrate-ignored", "m_theory"),
        ("hydrate-misread", "m_theory"),
        ("coefficient-in-molar-mass", "m_theory"),
        ("other-substance", "m_theory"),
        ("atomic-number-for-mass", "m_theory"),
        ("decimal-point", "n_acid"),
        ("wrong-limiting", "m_theory"),
        ("container-kept", "percent_yield"),
        ("digits-swapped", "percent_yield"),
        ("yield-inverted", "percent_yield"),
        ("mass-ratio-yield", "percent_yield"),
        ("percent-for-fraction", "percent_yield"),
    ],
    pairs: &[
        ("hydrate-ignored", "container-kept"),
        ("hydrate-ignored", "yield-inverted"),
        ("wrong-limiting", "yield-inverted"),
        ("wrong-limiting", "container-kept"),
        ("hydrate-misread", "container-kept"),
        ("hydrate-misread", "yield-inverted"),
    ],
};

const STANDARD: Sheet = Sheet {
    id: "sodium-hydroxide-standard",
    take: |d| {
        let mut out = Readings::new();
        let c = d.between(0.0962, 0.0984);
        for trial in 1..=4 {
            let m = d.between(0.45, 0.55);
            let after = d.between(14.0, 22.0);
            put(&mut out, &format!("m_before[{trial}]"), after + m, 3);
            put(&mut out, &format!("m_after[{trial}]"), after, 3);
            let start = d.between(0.1, 3.0);
            let noise = if trial == 1 { d.between(1.01, 1.04) } else { d.between(0.997, 1.003) };
            put(&mut out, &format!("V_start[{trial}]"), start, 2);
            put(&mut out, &format!("V_end[{trial}]"), start + noise * 1000.0 * m / 204.222 / c, 2);
        }
        out
    },
    sums: |x, slip, hand| {
        let keep = |y: f64| hand.on_the_way(y);
        let mut molar = hand.m(&[("K", 1.0), ("H", 5.0), ("C", 8.0), ("O", 4.0)]);
        if slip("other-substance") {
            molar = hand.m(&[("Na", 1.0), ("O", 1.0), ("H", 1.0)]);
        }
        let at = |symbol: &str, t: usize| r(x, &format!("{symbol}[{t}]"));
        let mass = |t: usize| {
            if slip("container-kept") {
                at("m_before", t)
            } else if slip("target-for-actual") {
                0.50
            } else {
                at("m_before", t) - at("m_after", t)
            }
        };
        let amount = |t: usize| keep(mass(t) / keep(molar));
        let titre = |t: usize| {
            if slip("first-reading-kept") { at("V_end", t) } else { at("V_end", t) - at("V_start", t) }
        };
        let concentration = |t: usize| {
            if slip("division-inverted") {
                keep(titre(t) / 1000.0 / amount(t))
            } else if slip("multiplied-for-divided") {
                keep(amount(t) * titre(t) / 1000.0)
            } else {
                keep(amount(t) / (titre(t) / 1000.0))
            }
        };
        let mean = |of: &dyn Fn(usize) -> f64, from: usize| (from..=4).map(of).sum::<f64>() / (5 - from) as f64;
        let first = if slip("rough-included") { 1 } else { 2 };
        let mut c = mean(&concentration, first);
        if slip("single-trial") {
            c = concentration(2);
        }
        if slip("decimal-point") {
            c *= 10.0;
        }
        if slip("unit-thousand") {
            c /= 1000.0;
        }
        vec![line("n_second", 1000.0 * mean(&amount, 2), "mmol", 3), line("c_base", c, "mol/L", 4)]
    },
    slips: &[
        ("other-substance", "n_second"),
        ("container-kept", "n_second"),
        ("target-for-actual", "n_second"),
        ("first-reading-kept", "c_base"),
        ("division-inverted", "c_base"),
        ("multiplied-for-divided", "c_base"),
        ("rough-included", "c_base"),
        ("single-trial", "c_base"),
        ("decimal-point", "c_base"),
        ("unit-thousand", "c_base"),
    ],
    pairs: &[
        ("other-substance", "first-reading-kept"),
        ("other-substance", "rough-included"),
        ("container-kept", "first-reading-kept"),
        ("container-kept", "division-inverted"),
        ("other-substance", "division-inverted"),
    ],
};

const IODIDE: Sheet = Sheet {
    id: "zinc-iodide",
    take: |d| {
        let mut out = Readings::new();
        let (zinc, iodine) = (d.between(1.45, 1.55), d.between(1.96, 2.04));
        let (flask, dish) = (d.between(40.0, 60.0), d.between(30.0, 45.0));
        let used = iodine / 253.80 * 65.38 * d.between(0.98, 1.04);
        put(&mut out, "m_zinc", zinc, 3);
        put(&mut out, "m_iodine", iodine, 3);
        put(&mut out, "m_flask", flask, 3);
        put(&mut out, "m_flask_zinc", flask + zinc - used, 3);
        put(&mut out, "m_dish", dish, 3);
        put(&mut out, "m_dish_iodide", dish + (iodine * 319.18 / 253.80) * d.between(0.96, 1.02), 3);
        out
    },
    sums: |x, slip, hand| {
        let keep = |y: f64| hand.on_the_way(y);
        let left = if slip("wrong-container") {
            r(x, "m_flask_zinc") - r(x, "m_dish")
        } else {
            r(x, "m_flask_zinc") - r(x, "m_flask")
        };
        let mut used = r(x, "m_zinc") - left;
        if slip("left-for-reacted") {
            used = left;
        }
        let iodine = if slip("target-for-actual") { 2.00 } else { r(x, "m_iodine") };
        let n_zinc = keep(used / hand.a("Zn"));
        let n_iodine = keep(iodine / if slip("atom-for-molecule") { 2.0 * hand.a("I") } else { hand.a("I") });
        let mut ratio = n_iodine / n_zinc;
        if slip("mass-ratio-formula") {
            ratio = iodine / used;
        }
        if slip("division-inverted") {
            ratio = n_zinc / n_iodine;
        }
        if slip("forced-whole") {
            ratio = 2.0;
        }
        let molar = hand.m(&[("Zn", 1.0), ("I", 2.0)]);
        let theory = keep(keep(iodine / (2.0 * hand.a("I"))) * molar);
        let full = r(x, "m_dish_iodide");
        let iodide = if slip("container-kept") { full } else { full - r(x, "m_dish") };
        let mut percent = 100.0 * iodide / theory;
        if slip("mass-ratio-yield") {
            percent = 100.0 * iodide / iodine;
        }
        if slip("yield-inverted") {
            percent = 100.0 * theory / iodide;
        }
        vec![
            // To the last decimal of the balance.
            line("m_zinc_used", used, "g", if used.abs() < 1.0 { 3 } else { 4 }),
            line("amount_ratio", ratio, "1", 4),
            line("percent_yield", percent, "%", 4),
        ]
    },
    slips: &[
        ("wrong-container", "m_zinc_used"),
        ("left-for-reacted", "m_zinc_used"),
        ("atom-for-molecule", "amount_ratio"),
        ("mass-ratio-formula", "amount_ratio"),
        ("division-inverted", "amount_ratio"),
        ("container-kept", "percent_yield"),
        ("mass-ratio-yield", "percent_yield"),
        ("yield-inverted", "percent_yield"),
    ],
    pairs: &[
        ("mass-ratio-formula", "container-kept"),
        ("division-inverted", "yield-inverted"),
        ("atom-for-molecule", "mass-ratio-yield"),
        ("left-for-reacted", "mass-ratio-formula"),
        ("left-for-reacted", "container-kept"),
    ],
};

const STRONTIUM: Sheet = Sheet {
    id: "strontium-sulfate",
    take: |d| {
        let mut out = Readings::new();
        let paper = d.between(0.55, 0.75);
        put(&mut out, "m_strontium", d.between(1.46, 1.54), 3);
        put(&mut out, "V_sulfate", d.between(19.6, 20.4), 2);
        put(&mut out, "m_paper", paper, 3);
        put(&mut out, "m_paper_product", paper + 0.735 * d.between(0.85, 1.0), 3);
        out
    },
    sums: |x, slip, hand| {
        let keep = |y: f64| hand.on_the_way(y);
        let dry = hand.m(&[("Sr", 1.0), ("Cl", 2.0)]);
        let water = hand.m(&[("H", 2.0), ("O", 1.0)]);
        let mut salt = dry + 6.0 * water;
        if slip("hydrate-ignored") {
            salt = dry;
        }
        if slip("hydrate-misread") {
            salt = dry + water;
        }
        let taken = if slip("target-for-actual") { 1.50 } else { r(x, "m_strontium") };
        let n_strontium = if slip("division-inverted") { salt / taken } else { keep(taken / keep(salt)) };
        let volume = if slip("digits-swapped") { swapped(x, "V_sulfate") } else { r(x, "V_sulfate") };
        let mut n_sulfate = keep(volume / 1000.0 * 0.200);
        if slip("quotient-for-product") {
            n_sulfate = volume / 1000.0 / 0.200;
        }
        let limits = if slip("wrong-limiting") { n_strontium.max(n_sulfate) } else { n_strontium.min(n_sulfate) };
        let molar = if slip("other-substance") { salt } else { hand.m(&[("Sr", 1.0), ("S", 1.0), ("O", 4.0)]) };
        let theory = keep(limits * keep(molar));
        let full = r(x, "m_paper_product");
        let product = if slip("container-kept") { full } else { full - r(x, "m_paper") };
        let mut percent = 100.0 * product / theory;
        if slip("yield-inverted") {
            percent = 100.0 * theory / product;
        }
        if slip("mass-ratio-yield") {
            percent = 100.0 * product / r(x, "m_strontium");
        }
        if slip("percent-for-fraction") {
            percent /= 100.0;
        }
        vec![
            line("n_strontium", 1000.0 * n_strontium, "mmol", 4),
            line("n_sulfate", 1000.0 * n_sulfate, "mmol", 3),
            line("m_theory", theory, "g", 3),
            line("percent_yield", percent, "%", 3),
        ]
    },
    slips: &[
        ("hydrate-ignored", "n_strontium"),
        ("hydrate-misread", "n_strontium"),
        ("target-for-actual", "n_strontium"),
        ("division-inverted", "n_strontium"),
        ("digits-swapped", "n_sulfate"),
        ("quotient-for-product", "n_sulfate"),
        ("wrong-limiting", "m_theory"),
        ("other-substance", "m_theory"),
        ("container-kept", "percent_yield"),
        ("yield-inverted", "percent_yield"),
        ("mass-ratio-yield", "percent_yield"),
        ("percent-for-fraction", "percent_yield"),
    ],
    pairs: &[
        ("hydrate-ignored", "mass-ratio-yield"),
        ("hydrate-ignored", "container-kept"),
        ("hydrate-misread", "yield-inverted"),
        ("wrong-limiting", "container-kept"),
        ("other-substance", "yield-inverted"),
        ("wrong-limiting", "yield-inverted"),
    ],
};

const ANTACID: Sheet = Sheet {
    id: "antacid",
    take: |d| {
        let mut out = Readings::new();
        put(&mut out, "V_acid", 25.0, 2);
        let fraction = d.between(0.72, 0.86);
        for trial in 1..=3 {
            let m = d.between(0.49, 0.51);
            put(&mut out, &format!("m_tablet[{trial}]"), m, 3);
            let left = 12.5 - 2.0 * 1000.0 * m * fraction / 100.086;
            let start = d.between(0.1, 2.0);
            put(&mut out, &format!("V_start[{trial}]"), start, 2);
            put(&mut out, &format!("V_end[{trial}]"), start + left / 0.2 + d.between(-0.06, 0.06), 2);
        }
        out
    },
    sums: |x, slip, hand| {
        let keep = |y: f64| hand.on_the_way(y);
        let at = |symbol: &str, t: usize| r(x, &format!("{symbol}[{t}]"));
        let titre = |t: usize| {
            if slip("first-reading-kept") { at("V_end", t) } else { at("V_end", t) - at("V_start", t) }
        };
        let mean = keep((titre(1) + titre(2) + titre(3)) / 3.0);
        let mut left = mean * 0.2000;
        if slip("quotient-for-product") {
            left = mean / 0.2000;
        }
        let left = keep(left);
        let total = r(x, "V_acid") * 0.500;
        let mut reacted = total - left;
        if slip("back-titration-total") {
            reacted = total;
        }
        let own = keep(reacted);
        let mut n = own / 2.0;
        if slip("ratio-ignored") {
            n = own;
        }
        if slip("ratio-inverted") {
            n = own * 2.0;
        }
        let mut molar = hand.m(&[("Ca", 1.0), ("C", 1.0), ("O", 3.0)]);
        if slip("other-substance") {
            molar = hand.m(&[("H", 1.0), ("Cl", 1.0)]);
        }
        let mass = keep(keep(n) / 1000.0 * keep(molar));
        let powder = keep((at("m_tablet", 1) + at("m_tablet", 2) + at("m_tablet", 3)) / 3.0);
        let mut percent = 100.0 * mass / powder;
        if slip("division-inverted") {
            percent = 100.0 * powder / mass;
        }
        if slip("percent-for-fraction") {
            percent /= 100.0;
        }
        vec![line("n_left", left, "mmol", 4), line("n_reacted", reacted, "mmol", 3), line("w_antacid", percent, "%", 3)]
    },
    slips: &[
        ("first-reading-kept", "n_left"),
        ("quotient-for-product", "n_left"),
        ("back-titration-total", "n_reacted"),
        ("ratio-ignored", "w_antacid"),
        ("ratio-inverted", "w_antacid"),
        ("other-substance", "w_antacid"),
        ("division-inverted", "w_antacid"),
        ("percent-for-fraction", "w_antacid"),
    ],
    pairs: &[
        ("first-reading-kept", "ratio-ignored"),
        ("back-titration-total", "ratio-ignored"),
        ("back-titration-total", "other-substance"),
        ("first-reading-kept", "back-titration-total"),
        ("first-reading-kept", "division-inverted"),
    ],
};
