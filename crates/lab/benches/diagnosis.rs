//! How well wrong sums are told apart: planted slips, pairs, wrong answers of no slip, random numbers. Prints a table.
//!
//! `cargo bench -p lab --bench diagnosis`

#[path = "../tests/lab/students.rs"]
// The tests use more of it.
#[allow(dead_code)]
mod students;

use lab::bench::Answer;
use lab::check::{ValueVerdict, Verdict};
use practical::slip::Slip;
use std::collections::BTreeMap;
use std::time::Instant;
use students::{Dice, Hand, SHEETS, Sheet, answers, checked, written};

const CLASSES: usize = 60;

/// So many of so many.
#[derive(Default, Clone, Copy)]
struct Rate {
    hit: usize,
    of: usize,
}

impl Rate {
    fn add(&mut self, hit: bool) {
        self.of += 1;
        self.hit += usize::from(hit);
    }

    fn shown(self) -> String {
        if self.of == 0 {
            return "-".into();
        }
        format!("{:.1} % ({} of {})", 100.0 * self.hit as f64 / self.of as f64, self.hit, self.of)
    }
}

fn code(slip: Slip) -> String {
    serde_json::to_value(slip).unwrap().as_str().unwrap().to_owned()
}

fn good(v: &Verdict) -> bool {
    matches!(v.value, ValueVerdict::Right | ValueVerdict::CarriedForward { .. })
}

/// The slip named first at a result, if any.
fn first(verdicts: &BTreeMap<String, Verdict>, result: &str) -> Option<String> {
    verdicts[result].diagnosis.named.first().map(|e| code(e.slip))
}

fn main() {
    println!(
        "{:<28} {:<24} {:<24} {:<24} {:<22} {:<22} {:<22} µs",
        "practical", "right accepted", "single named", "pair named", "outside blamed", "random blamed", "named wrongly"
    );
    let mut sums = [Rate::default(); 6];
    let mut missed: BTreeMap<String, Rate> = BTreeMap::new();
    for sheet in SHEETS {
        let (rates, micros) = one(sheet, &mut missed);
        let shown: Vec<String> = rates.iter().map(|r| r.shown()).collect();
        println!(
            "{:<28} {:<24} {:<24} {:<24} {:<22} {:<22} {:<22} {micros:.0}",
            sheet.id, shown[0], shown[1], shown[2], shown[3], shown[4], shown[5]
        );
        for (sum, rate) in sums.iter_mut().zip(rates) {
            sum.hit += rate.hit;
            sum.of += rate.of;
        }
    }
    let shown: Vec<String> = sums.iter().map(|r| r.shown()).collect();
    println!(
        "{:<28} {:<24} {:<24} {:<24} {:<22} {:<22} {:<22}",
        "all", shown[0], shown[1], shown[2], shown[3], shown[4], shown[5]
    );
    println!("\nnot always named first:");
    for (what, rate) in missed.iter().filter(|(_, r)| r.hit < r.of) {
        println!("  {what:<60} {}", rate.shown());
    }
}

fn one(sheet: &Sheet, missed: &mut BTreeMap<String, Rate>) -> ([Rate; 6], f64) {
    let practical = sheet.practical();
    let mut dice = Dice::new(20_261_125);
    let [mut right, mut single, mut pair, mut outside, mut random, mut misnamed] = [Rate::default(); 6];
    let (mut spent, mut judged) = (0.0, 0usize);
    for _ in 0..CLASSES {
        let readings = (sheet.take)(&mut dice);
        let mut judge = |a: &BTreeMap<String, Answer>| {
            let begun = Instant::now();
            let verdicts = checked(&practical, &readings, a);
            spent += begun.elapsed().as_secs_f64();
            judged += a.len();
            verdicts
        };
        let plain = (sheet.sums)(&readings, &|_| false, Hand::CAREFUL);
        for hand in Hand::ALL {
            let verdicts = judge(&answers(&(sheet.sums)(&readings, &|_| false, hand)));
            for (result, v) in &verdicts {
                right.add(good(v));
                if !good(v) {
                    missed.entry(format!("{} right {result} {hand:?}", sheet.id)).or_default().add(false);
                }
            }
            for (slip, at) in sheet.slips {
                let sums = (sheet.sums)(&readings, &|s| s == *slip, hand);
                let verdicts = judge(&answers(&sums));
                // Of its own: it does not come to what is right, or to another slip's value.
                if good(&verdicts[*at]) || is_shared(sheet, &readings, slip, at) {
                    continue;
                }
                let found = first(&verdicts, at);
                single.add(found.as_deref() == Some(*slip));
                misnamed.add(found.as_deref().is_some_and(|f| f != *slip));
                let told = found.unwrap_or_else(|| "unclear".into());
                missed
                    .entry(format!(
                        "{} {slip} at {at}{}",
                        sheet.id,
                        if told == *slip { String::new() } else { format!(": {told}") }
                    ))
                    .or_default()
                    .add(told == *slip);
            }
        }
        for (a, b) in sheet.pairs {
            let sums = (sheet.sums)(&readings, &|s| s == *a || s == *b, Hand::CAREFUL);
            let verdicts = judge(&answers(&sums));
            let shown = |slip: &str| sheet.slips.iter().find(|(s, _)| *s == slip).map(|(_, at)| *at).unwrap();
            let both =
                first(&verdicts, shown(a)).as_deref() == Some(a) && first(&verdicts, shown(b)).as_deref() == Some(b);
            pair.add(both);
            missed.entry(format!("{} {a} and {b}", sheet.id)).or_default().add(both);
        }
        for i in 0..plain.len() {
            // Of no slip: a sum of two results, a value scaled by something no slip scales by.
            for factor in [0.83, 1.17, 1.43, std::f64::consts::PI, 0.37] {
                let mut lines = plain.clone();
                lines[i].value *= factor;
                let verdicts = judge(&answers(&lines[..=i]));
                outside.add(!verdicts[lines[i].result].diagnosis.named.is_empty());
            }
            for _ in 0..20 {
                let mut lines = plain.clone();
                lines[i].value *= 3f64.powf(dice_in(&mut dice));
                let own = answers(&lines[..=i]);
                let v = &judge(&own)[lines[i].result];
                if !good(v) {
                    random.add(!v.diagnosis.named.is_empty());
                }
            }
            // The same, with nothing answered before.
            for _ in 0..20 {
                let mut lines = plain.clone();
                lines[i].value *= 3f64.powf(dice_in(&mut dice));
                let v = &judge(&answers(&lines[i..=i]))[lines[i].result];
                if !good(v) {
                    random.add(!v.diagnosis.named.is_empty());
                }
            }
        }
    }
    ([right, single, pair, outside, random, misnamed], 1e6 * spent / judged as f64)
}

fn dice_in(dice: &mut Dice) -> f64 {
    dice.between(-1.0, 1.0)
}

/// Whether another slip of the sheet writes down the same number.
fn is_shared(sheet: &Sheet, readings: &students::Readings, slip: &str, at: &str) -> bool {
    let of = |s: &str| {
        let lines = (sheet.sums)(readings, &|t| t == s, Hand::CAREFUL);
        lines.iter().find(|l| l.result == at).map(|l| written(l.value, l.figures))
    };
    sheet.slips.iter().any(|(other, where_)| *other != slip && *where_ == at && of(other) == of(slip))
}
