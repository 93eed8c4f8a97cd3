//! How well wrong sums are told apart: arithmetic written from the textbook, at the readings of simulated groups, right or
//! with planted slips, in pairs, wrong of no slip, and random. Prints a table and the worst kinds of slip.
//!
//! `cargo bench -p lab --bench diagnosis [-- GROUPS]`; `KINDS=1` prints every kind, `MISSED=code` each miss of one.

mod hand;

use hand::{Hand, Sheet, Sums, checked, last_only};
use lab::check::{Stands, ValueVerdict, Verdict};
use practical::Practical;
use practical::slip::Slip;
use rand::{Rng, SeedableRng};
use rand_chacha::ChaCha8Rng;
use std::collections::{BTreeMap, BTreeSet};
use std::time::Instant;

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
        let share = 100.0 * self.hit as f64 / self.of.max(1) as f64;
        if self.of == 0 { "-".into() } else { format!("{share:.1} % of {}", self.of) }
    }
}

/// What is counted, in the order of the columns.
const COLUMNS: [&str; 7] = ["right taken", "single first", "single, alone", "pairs", "carried on", "outside", "random"];
const RIGHT: usize = 0;
const SINGLE: usize = 1;
const ALONE: usize = 2;
const PAIRS: usize = 3;
const CARRIED: usize = 4;
const OUTSIDE: usize = 5;
const RANDOM: usize = 6;

#[derive(Default)]
struct Counted {
    rates: [Rate; 7],
    /// By code: how often named first, and in which practicals it can happen.
    kinds: BTreeMap<String, (Rate, BTreeSet<String>)>,
    /// What was not as wanted.
    missed: BTreeMap<String, usize>,
    spent: f64,
    judged: usize,
}

fn good(v: &Verdict) -> bool {
    matches!(v.value, ValueVerdict::Right | ValueVerdict::CarriedForward { .. })
}

fn code(slip: Slip) -> String {
    serde_json::to_value(slip).unwrap().as_str().unwrap().to_owned()
}

/// The first slip named, by its code.
fn first(v: &Verdict) -> Option<String> {
    v.diagnosis.named.first().map(|e| code(e.slip))
}

/// What was told, or what came near it.
fn told(v: &Verdict) -> String {
    let near = || v.diagnosis.near.iter().map(|e| format!(" {} {:.2}", code(e.slip), e.chance)).collect::<String>();
    let at = |e: &lab::check::Explanation| format!("{} ({:?} for {:?})", code(e.slip), e.at.instead, e.at.words());
    v.diagnosis.named.first().map_or_else(|| format!("nothing; near{}", near()), at)
}

fn main() {
    let groups = std::env::args().skip(1).find_map(|a| a.parse().ok()).unwrap_or(12);
    println!("{:<30}{}     µs", "practical", COLUMNS.map(|c| format!("{c:<19}")).concat());
    let mut all = Counted::default();
    for sheet in Sheet::all() {
        let counted = one(&sheet, groups);
        println!(
            "{:<30}{}{:>7.0}",
            sheet.name,
            counted.rates.map(|r| format!("{:<19}", r.shown())).concat(),
            1e6 * counted.spent / counted.judged.max(1) as f64
        );
        for (sum, rate) in all.rates.iter_mut().zip(counted.rates) {
            sum.hit += rate.hit;
            sum.of += rate.of;
        }
        for (code, (rate, at)) in counted.kinds {
            let kind = all.kinds.entry(code).or_default();
            kind.0.hit += rate.hit;
            kind.0.of += rate.of;
            kind.1.extend(at);
        }
        all.missed.extend(counted.missed.into_iter().map(|(what, n)| (format!("{}: {what}", sheet.name), n)));
    }
    println!("{:<30}{}", "all", all.rates.map(|r| format!("{:<19}", r.shown())).concat());
    let mut kinds: Vec<_> = all.kinds.into_iter().collect();
    kinds.sort_by(|a, b| (a.1.0.hit * b.1.0.of.max(1)).cmp(&(b.1.0.hit * a.1.0.of.max(1))));
    let most = if std::env::var_os("KINDS").is_some() { usize::MAX } else { 10 };
    println!("\nkinds of slip named least, and in how many practicals:");
    for (code, (rate, at)) in kinds.iter().take(most) {
        println!("  {code:<28}{:<20}{}", rate.shown(), at.len());
    }
    let wanted = std::env::var("MISSED").unwrap_or_default();
    println!("\nmissed most:");
    let mut missed: Vec<_> = all.missed.into_iter().filter(|(what, _)| what.contains(&wanted)).collect();
    missed.sort_by_key(|(_, n)| std::cmp::Reverse(*n));
    for (what, n) in missed.iter().take(if wanted.is_empty() { 40 } else { 200 }) {
        println!("  {n:>5}  {what}");
    }
}

fn one(sheet: &Sheet, groups: u64) -> Counted {
    let practical = sheet.practical();
    let mut counted = Counted::default();
    let mut rng = ChaCha8Rng::seed_from_u64(20_261_129);
    for seed in 0..groups {
        let Some(taken) = sheet.taken(&practical, seed) else { continue };
        for sums in &sheet.orders {
            for hand in Hand::ALL {
                right(&mut counted, &practical, sums, &taken, hand);
                singles(&mut counted, sheet, &practical, sums, &taken, hand);
            }
            pairs(&mut counted, sheet, &practical, sums, &taken);
        }
        of_no_slip(&mut counted, &practical, &sheet.orders[0], &taken, &mut rng);
    }
    counted
}

/// The verdicts on a sheet of answers, with the time that they took.
fn judged(
    counted: &mut Counted,
    practical: &Practical,
    taken: &hand::Taken,
    lines: &[hand::Line],
) -> BTreeMap<String, Verdict> {
    let begun = Instant::now();
    let verdicts = checked(practical, taken, lines);
    counted.spent += begun.elapsed().as_secs_f64();
    counted.judged += lines.len();
    verdicts
}

fn right(counted: &mut Counted, practical: &Practical, sums: &Sums, taken: &hand::Taken, hand: Hand) {
    let lines = sums.worked(taken, &[], hand);
    let alone = lines.last().map(|l| judged(counted, practical, taken, std::slice::from_ref(l)));
    for v in judged(counted, practical, taken, &lines).into_iter().chain(alone.into_iter().flatten()) {
        let taken_as_right = good(&v.1) && v.1.stands != Stands::Written;
        counted.rates[RIGHT].add(taken_as_right);
        if !taken_as_right {
            *counted.missed.entry(format!("right {} {hand:?} {:?} {:?}", v.0, v.1.value, v.1.digits)).or_default() += 1;
        }
    }
}

fn singles(counted: &mut Counted, sheet: &Sheet, practical: &Practical, sums: &Sums, taken: &hand::Taken, hand: Hand) {
    let plain = sums.worked(taken, &[], hand);
    for slip in sheet.slips.iter().filter(|s| sums.has(s)) {
        let lines = sums.worked(taken, &[slip], hand);
        let Some(own) = lines.iter().find(|l| l.result == slip.at) else { continue };
        // Another slip that writes down the same number cannot be told from it, nor can nothing at all. One that would have
        // shown before can, where there are answers before.
        let same = |other: &hand::Slip| {
            let same = |l: &hand::Line| l.result == slip.at && l.text() == own.text();
            other.code != slip.code && sums.has(other) && sums.worked(taken, &[other], hand).iter().any(same)
        };
        let shared = sheet.slips.iter().any(|other| other.at == slip.at && same(other));
        let shared_alone = sheet.slips.iter().any(same);
        let unchanged = plain.iter().any(|l| l.result == slip.at && l.text() == own.text());
        let verdicts = judged(counted, practical, taken, &lines);
        if shared || unchanged || good(&verdicts[&slip.at]) {
            continue;
        }
        let found = first(&verdicts[&slip.at]);
        let is = |found: &Option<String>| found.as_ref().is_some_and(|f| slip.is(f));
        counted.rates[SINGLE].add(is(&found));
        let kind = counted.kinds.entry(slip.code.clone()).or_default();
        kind.0.add(is(&found));
        kind.1.insert(sheet.name.clone());
        if !is(&found) {
            *counted
                .missed
                .entry(format!("{} at {}: {}", slip.code, slip.at, told(&verdicts[&slip.at])))
                .or_default() += 1;
        }
        let alone = judged(counted, practical, taken, &last_only(&lines, &slip.at));
        if !good(&alone[&slip.at]) && !shared_alone {
            let found = first(&alone[&slip.at]);
            counted.rates[ALONE].add(is(&found));
            if !is(&found) {
                *counted
                    .missed
                    .entry(format!("alone {} at {}: {}", slip.code, slip.at, told(&alone[&slip.at])))
                    .or_default() += 1;
            }
        }
        // What follows: right with what stands before it, or the same slip once more.
        let after = lines.iter().skip_while(|l| l.result != slip.at).skip(1);
        for line in after.filter(|l| plain.iter().any(|p| p.result == l.result && p.text() != l.text())) {
            let v = &verdicts[&line.result];
            let carried = good(v) || v.diagnosis.named.iter().any(|e| e.again.is_some());
            counted.rates[CARRIED].add(carried);
            if !carried {
                *counted
                    .missed
                    .entry(format!("carried {} to {}: {:?}", slip.code, line.result, first(v)))
                    .or_default() += 1;
            }
        }
    }
}

fn pairs(counted: &mut Counted, sheet: &Sheet, practical: &Practical, sums: &Sums, taken: &hand::Taken) {
    let usable: Vec<_> = sheet.slips.iter().filter(|s| sums.has(s)).collect();
    let plain = sums.worked(taken, &[], Hand::CAREFUL);
    for (i, a) in usable.iter().enumerate() {
        for b in usable[i + 1..].iter().filter(|b| b.at != a.at && !b.overlaps(a)) {
            let lines = sums.worked(taken, &[a, b], Hand::CAREFUL);
            let verdicts = judged(counted, practical, taken, &lines);
            let shows = |s: &hand::Slip| {
                let changed = lines.iter().zip(&plain).any(|(l, p)| l.result == s.at && l.text() != p.text());
                changed && !good(&verdicts[&s.at])
            };
            if !shows(a) || !shows(b) {
                continue;
            }
            let both = [a, b].iter().all(|s| first(&verdicts[&s.at]).is_some_and(|f| s.is(&f)));
            counted.rates[PAIRS].add(both);
            if !both {
                let told = [a, b].map(|s| first(&verdicts[&s.at]).unwrap_or_else(|| "nothing".into()));
                *counted
                    .missed
                    .entry(format!("pair {} {} at {} {}: {told:?}", a.code, b.code, a.at, b.at))
                    .or_default() += 1;
            }
        }
    }
}

/// A sum of no slip, and a number of nothing: with what comes before, and without.
fn of_no_slip(counted: &mut Counted, practical: &Practical, sums: &Sums, taken: &hand::Taken, rng: &mut ChaCha8Rng) {
    let plain = sums.worked(taken, &[], Hand::CAREFUL);
    for i in (0..plain.len()).filter(|i| plain[*i].unit != "choice") {
        let blamed = |counted: &mut Counted, factor: f64, alone: bool, column: usize| {
            let mut lines = plain.clone();
            lines[i].value *= factor;
            let own = if alone { &lines[i..=i] } else { &lines[..=i] };
            let v = &judged(counted, practical, taken, own)[&lines[i].result];
            if !good(v) {
                counted.rates[column].add(!v.diagnosis.named.is_empty());
                if let Some(found) = first(v) {
                    *counted
                        .missed
                        .entry(format!("blamed {found}{}", if alone { " alone" } else { "" }))
                        .or_default() += 1;
                }
            }
        };
        for factor in [0.83, 1.17, 1.43, std::f64::consts::PI, 0.41] {
            blamed(counted, factor, false, OUTSIDE);
        }
        for _ in 0..20 {
            let random = 3f64.powf(rng.random_range(-1.0..1.0));
            blamed(counted, random, false, RANDOM);
            blamed(counted, random, true, RANDOM);
        }
    }
}
