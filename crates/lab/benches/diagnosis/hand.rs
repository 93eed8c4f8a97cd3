//! Students at their sums, with pencil and calculator: arithmetic written out by hand in the tables beside this file, right
//! or with a slip, rounded on the way as students do. It shares nothing with the sheets that it is checked against.

// Small numbers of figures and places.
#![allow(clippy::cast_possible_truncation, clippy::cast_possible_wrap, clippy::cast_sign_loss)]

use lab::bench::{Answer, Entries};
use lab::check::Verdict;
use lab::evaluated::Evaluated;
use practical::Practical;
use serde::Deserialize;
use std::collections::BTreeMap;
use std::path::{Path, PathBuf};

/// How a student writes: which masses, and how many figures are kept on the way.
#[derive(Debug, Clone, Copy)]
pub struct Hand {
    /// Relative atomic masses to so many decimals; all that the table has where none.
    masses: Option<i32>,
    /// Figures kept on the way; all of them where none.
    keeps: Option<u32>,
}

impl Hand {
    pub const CAREFUL: Hand = Hand { masses: None, keeps: None };
    pub const ALL: [Hand; 6] = [
        Hand::CAREFUL,
        Hand { masses: Some(2), keeps: None },
        Hand { masses: Some(1), keeps: None },
        Hand { masses: None, keeps: Some(5) },
        Hand { masses: Some(2), keeps: Some(4) },
        Hand { masses: None, keeps: Some(4) },
    ];

    /// Aᵣ from the abridged table, typed by hand; atomic numbers by the name of `Z_`.
    fn atom(self, name: &str) -> Option<f64> {
        const TABLE: &[(&str, f64, f64)] = &[
            ("H", 1.0080, 1.0),
            ("C", 12.011, 6.0),
            ("N", 14.007, 7.0),
            ("O", 15.999, 8.0),
            ("Na", 22.990, 11.0),
            ("Mg", 24.305, 12.0),
            ("Al", 26.982, 13.0),
            ("S", 32.06, 16.0),
            ("Cl", 35.45, 17.0),
            ("K", 39.098, 19.0),
            ("Ca", 40.078, 20.0),
            ("Mn", 54.938, 25.0),
            ("Fe", 55.845, 26.0),
            ("Ni", 58.693, 28.0),
            ("Cu", 63.546, 29.0),
            ("Zn", 65.38, 30.0),
            ("Sr", 87.62, 38.0),
            ("Ag", 107.87, 47.0),
            ("I", 126.90, 53.0),
            ("Ba", 137.33, 56.0),
        ];
        let of = |symbol: &str| TABLE.iter().find(|(s, ..)| *s == symbol);
        if let Some(symbol) = name.strip_prefix("Z_") {
            return of(symbol).map(|(_, _, z)| *z);
        }
        let (_, full, _) = of(name.strip_prefix("A_")?)?;
        Some(self.masses.map_or(*full, |n| (full * 10f64.powi(n)).round() / 10f64.powi(n)))
    }
}

fn to_figures(x: f64, figures: u32) -> f64 {
    format!("{x:.*e}", figures as usize - 1).parse().unwrap()
}

/// One line of a student's sheet.
#[derive(Debug, Clone)]
pub struct Line {
    pub result: String,
    pub value: f64,
    pub unit: String,
    figures: u32,
}

impl Line {
    /// In plain digits, to its figures; a line without figures is a choice among the reagents, by its number.
    pub fn text(&self) -> String {
        let rounded = to_figures(self.value, self.figures);
        let magnitude = if rounded == 0.0 { 0 } else { rounded.abs().log10().floor() as i32 };
        format!("{rounded:.*}", usize::try_from(self.figures as i32 - 1 - magnitude).unwrap_or(0))
    }
}

/// Readings of a group, by slot.
pub type Taken = BTreeMap<String, String>;

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Table {
    practical: String,
    /// Trials that do not count.
    #[serde(default)]
    rough: usize,
    /// A series whose accurate trials are all within so much of each other in the groups that are used.
    agree: Option<(String, f64)>,
    sums: String,
    /// In another order of working.
    otherwise: Option<String>,
    slip: Vec<SlipLine>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct SlipLine {
    code: String,
    /// Names that say the same.
    #[serde(default)]
    or: Vec<String>,
    at: String,
    is: String,
}

/// A line of arithmetic: `name : unit : figures = expression`, the middle for what is asked; `name[t]` of each trial.
#[derive(Debug, Clone)]
struct Step {
    name: String,
    each: bool,
    asked: Option<(String, u32)>,
    expression: String,
}

/// Arithmetic from the readings to the last answer.
#[derive(Debug, Clone)]
pub struct Sums {
    steps: Vec<Step>,
    rough: usize,
}

/// What a student does instead.
pub struct Slip {
    pub code: String,
    or: Vec<String>,
    /// The result at which it shows first.
    pub at: String,
    steps: Vec<Step>,
}

impl Slip {
    /// Whether a name that was told says what happened.
    pub fn is(&self, told: &str) -> bool {
        self.code == told || self.or.iter().any(|o| o == told)
    }

    /// Whether both change the same line.
    pub fn overlaps(&self, other: &Slip) -> bool {
        self.steps.iter().any(|s| other.steps.iter().any(|o| o.name == s.name))
    }
}

/// A practical with the arithmetic that students do for it.
pub struct Sheet {
    pub name: String,
    practical: String,
    agree: Option<(String, f64)>,
    /// Each order of working.
    pub orders: Vec<Sums>,
    pub slips: Vec<Slip>,
}

impl Sheet {
    /// All tables beside this file.
    pub fn all() -> Vec<Sheet> {
        let only = std::env::var("ONLY").unwrap_or_default();
        let mut files: Vec<PathBuf> = std::fs::read_dir(folder()).unwrap().map(|e| e.unwrap().path()).collect();
        files.retain(|p| p.to_string_lossy().ends_with(".sums.toml") && p.to_string_lossy().contains(&only));
        files.sort();
        files.iter().map(|p| Sheet::read(p)).collect()
    }

    fn read(file: &Path) -> Sheet {
        let text = std::fs::read_to_string(file).unwrap();
        let table: Table = toml_edit::de::from_str(&text).unwrap_or_else(|e| panic!("{}: {e}", file.display()));
        let sums = |text: &String| Sums { steps: steps(text), rough: table.rough };
        let orders = [Some(&table.sums), table.otherwise.as_ref()].into_iter().flatten().map(sums).collect();
        let slip = |s: SlipLine| Slip { code: s.code, or: s.or, at: s.at, steps: steps(&s.is) };
        let name = file.file_name().unwrap().to_string_lossy().trim_end_matches(".sums.toml").to_owned();
        let slips = table.slip.into_iter().map(slip).collect();
        Sheet { name, practical: table.practical, agree: table.agree, orders, slips }
    }

    pub fn practical(&self) -> Practical {
        let named = format!("{}.practical.toml", self.practical);
        let own = folder().join(&named);
        let library = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../practicals").join(&named);
        let file = if own.exists() { own } else { library };
        Practical::parse(&std::fs::read_to_string(file).unwrap()).unwrap_or_else(|e| panic!("{named}: {e:?}"))
    }

    /// What a simulated group reads; none where its titres would not all be used.
    pub fn taken(&self, practical: &Practical, seed: u64) -> Option<Taken> {
        let mut group = simulate::Group::at(practical, seed);
        group.work(|_| ());
        let taken = group.entries().readings.clone();
        let Some((series, within)) = &self.agree else { return Some(taken) };
        let values = self.orders[0].series(series, &taken)?;
        let range = values.iter().copied().fold(f64::MIN, f64::max) - values.iter().copied().fold(f64::MAX, f64::min);
        (range <= within * (1.0 + 1e-9)).then_some(taken)
    }
}

fn folder() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("benches/diagnosis")
}

fn steps(text: &str) -> Vec<Step> {
    let one = |line: &str| {
        let (left, expression) = line.split_once('=').unwrap_or_else(|| panic!("no = in {line}"));
        let parts: Vec<&str> = left.split(" : ").map(str::trim).collect();
        let name = parts[0].trim_end_matches("[t]").to_owned();
        let asked = (parts.len() == 3).then(|| (parts[1].to_owned(), parts[2].parse().unwrap()));
        Step { name, each: parts[0].ends_with("[t]"), asked, expression: expression.trim().to_owned() }
    };
    text.lines().flat_map(|l| l.split(';')).map(str::trim).filter(|l| !l.is_empty()).map(one).collect()
}

impl Sums {
    /// Whether the slip can be made in this order of working.
    pub fn has(&self, slip: &Slip) -> bool {
        slip.steps.iter().all(|s| self.steps.iter().any(|own| own.name == s.name))
    }

    /// The answers with these slips made, as this hand writes them.
    pub fn worked(&self, taken: &Taken, slips: &[&Slip], hand: Hand) -> Vec<Line> {
        let (_, lines) = self.run(taken, slips, hand);
        lines
    }

    /// The accurate values of a series.
    fn series(&self, name: &str, taken: &Taken) -> Option<Vec<f64>> {
        let (values, _) = self.run(taken, &[], Hand::CAREFUL);
        let accurate =
            (self.rough + 1..20).filter_map(|t| values.get(&format!("{name}__{t}")).copied()).collect::<Vec<_>>();
        (!accurate.is_empty()).then_some(accurate)
    }

    fn run(&self, taken: &Taken, slips: &[&Slip], hand: Hand) -> (BTreeMap<String, f64>, Vec<Line>) {
        let slot = |s: &String| s.replace('[', "__").replace(']', "");
        let mut values: BTreeMap<String, f64> =
            taken.iter().filter_map(|(s, text)| Some((slot(s), text.parse().ok()?))).collect();
        let trials = (1..20).filter(|t| values.keys().any(|k| k.ends_with(&format!("__{t}")))).collect::<Vec<usize>>();
        let mut lines = Vec::new();
        for own in &self.steps {
            let step = slips.iter().flat_map(|s| &s.steps).find(|s| s.name == own.name).unwrap_or(own);
            let mut put = |name: String, expression: &str| {
                // What vanishes is nothing, whatever binary fractions leave of it.
                let value =
                    self.value(expression, taken, &values, hand).map(|v| if v.abs() < 1e-12 { 0.0 } else { v })?;
                values.insert(name, hand.keeps.map_or(value, |n| to_figures(value, n)));
                Some(value)
            };
            if own.each {
                for t in &trials {
                    put(format!("{}__{t}", own.name), &step.expression.replace("[t]", &format!("__{t}")));
                }
                continue;
            }
            let value = put(own.name.clone(), &step.expression)
                .unwrap_or_else(|| panic!("{} = {} has no value", own.name, step.expression));
            if let Some((unit, figures)) = &own.asked {
                lines.push(Line { result: own.name.clone(), value, unit: unit.clone(), figures: *figures });
            }
        }
        (values, lines)
    }

    /// The value of an expression; none where a number is not there. `mean_x` is over the accurate trials, `meanall_x` over
    /// all, `second_x` one of the accurate ones, `last_x` and `first_x` the last and first of all,
    /// `swapped_x` a reading with two of its digits exchanged.
    fn value(&self, expression: &str, taken: &Taken, values: &BTreeMap<String, f64>, hand: Hand) -> Option<f64> {
        let series = |name: &str, from: usize| -> Vec<f64> {
            (from..20).filter_map(|t| values.get(&format!("{name}__{t}")).copied()).collect()
        };
        let mean = |of: Vec<f64>| (!of.is_empty()).then(|| of.iter().sum::<f64>() / of.len() as f64);
        let mut known = |name: &str, _: Vec<f64>| -> Option<f64> {
            let by = |prefix: &str| name.strip_prefix(prefix);
            let own = values.get(name).copied().or_else(|| hand.atom(name));
            own.or_else(|| swapped(taken.get(by("swapped_")?)?))
                .or_else(|| mean(series(by("mean_")?, self.rough + 1)))
                .or_else(|| mean(series(by("meanall_")?, 1)))
                .or_else(|| series(by("second_")?, self.rough + 1).get(1).copied())
                .or_else(|| series(by("last_")?, 1).last().copied())
                .or_else(|| series(by("first_")?, 1).first().copied())
                .or_else(|| Some(series(by("sum_")?, 1).iter().sum()))
        };
        fasteval::ez_eval(expression, &mut known).ok().filter(|v| v.is_finite())
    }
}

/// A reading with the first two neighbours after the point that differ exchanged; as it is where none do.
fn swapped(text: &str) -> Option<f64> {
    let mut digits: Vec<char> = text.chars().collect();
    let point = digits.iter().position(|c| *c == '.')?;
    if let Some(at) = (point + 1..digits.len() - 1).find(|i| digits[*i] != digits[i + 1]) {
        digits.swap(at, at + 1);
    }
    digits.into_iter().collect::<String>().parse().ok()
}

/// The answer to one result and none before it.
pub fn last_only(lines: &[Line], result: &str) -> Vec<Line> {
    lines.iter().filter(|l| l.result == result).cloned().collect()
}

pub fn checked(practical: &Practical, taken: &Taken, lines: &[Line]) -> BTreeMap<String, Verdict> {
    let entries = Entries { readings: taken.clone(), ..Entries::default() };
    let of = |l: &Line| {
        let text = match l.unit.as_str() {
            // A choice is written as the number of the reagent in the question, from 1.
            "choice" => practical.limiting.as_ref().unwrap().1[l.value as usize - 1].clone(),
            _ => l.text(),
        };
        Answer { text, unit: l.unit.replace("choice", "") }
    };
    let answers = lines.iter().map(|l| (l.result.clone(), of(l))).collect();
    Evaluated::of(practical, &entries).checked(&answers)
}
