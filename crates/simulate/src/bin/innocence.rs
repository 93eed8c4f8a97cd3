//! `cargo xtask innocence`: what faultless groups hear at every practical, recipe and unknown of the library; with `--guilt`
//! how planted slips are told.

use practical::Practical;
use simulate::innocence::{Doubt, Tally, allotments, of_one};
use simulate::{Slip, Told, guilt};
use std::path::PathBuf;
use std::process::ExitCode;

/// Words of doubt in a thousand readings and answers, at most.
const LAW: f64 = 3.0;

fn main() -> ExitCode {
    let mut groups = 200_u64;
    let mut only = Vec::new();
    let mut planted = false;
    let mut args = std::env::args().skip(1);
    while let Some(arg) = args.next() {
        if arg == "--groups" {
            groups = args.next().and_then(|n| n.parse().ok()).unwrap_or(groups);
        } else if arg == "--guilt" {
            planted = true;
        } else {
            only.push(arg);
        }
    }
    let folder = PathBuf::from(env!("CARGO_MANIFEST_DIR")).join("../../practicals");
    let mut files: Vec<PathBuf> =
        std::fs::read_dir(folder).into_iter().flatten().filter_map(|e| Some(e.ok()?.path())).collect();
    files.extend(only.iter().map(PathBuf::from).filter(|p| p.is_file()));
    files.sort();
    let mut all = Tally::default();
    let mut slips = guilt::Tally::default();
    let mut breaks = false;
    for file in files {
        let Ok(text) = std::fs::read_to_string(&file) else { continue };
        let practical = match Practical::parse(&text) {
            Ok(practical) => practical,
            Err(errors) => {
                eprintln!("{}: {errors}", file.display());
                breaks = true;
                continue;
            }
        };
        let named = only.is_empty() || only.contains(&practical.file.id) || only.iter().any(|o| file.ends_with(o));
        if !named {
            continue;
        }
        if planted {
            plant(&practical, groups, &mut slips);
            continue;
        }
        let mut tally = Tally::default();
        for to in allotments(&practical) {
            let own = practical.allotted(&to);
            (0..groups).for_each(|seed| tally.add(of_one(&own, seed)));
        }
        println!("{}", line(&practical.file.id, &tally));
        for ((doubt, kind), (n, example)) in &tally.heard {
            println!("    {n:>5} {doubt:?} {kind}: {example}");
        }
        let never = [Doubt::Untrue, Doubt::Refused, Doubt::DeadEnd];
        breaks |= tally.flagged_in_1000() > LAW || never.into_iter().any(|d| tally.of(d) > 0);
        all.add(tally);
    }
    if planted {
        return told(&slips);
    }
    println!("{}", line("all together", &all));
    if breaks { ExitCode::FAILURE } else { ExitCode::SUCCESS }
}

fn line(name: &str, tally: &Tally) -> String {
    let n = |d| tally.of(d);
    format!(
        "{name}: {} groups, {} readings and answers; {:.1} in 1000 flagged; untrue {}, unneeded {}, fair {}, refused {}, dead ends {}",
        tally.groups,
        tally.given,
        tally.flagged_in_1000(),
        n(Doubt::Untrue),
        n(Doubt::Unneeded),
        n(Doubt::Fair),
        n(Doubt::Refused),
        n(Doubt::DeadEnd),
    )
}

/// Every slip that can happen, in so many groups of each allotment.
fn plant(practical: &Practical, groups: u64, slips: &mut guilt::Tally) {
    let (mut right, mut all) = (0, 0);
    for to in allotments(practical) {
        let own = practical.allotted(&to);
        for slip in Slip::all() {
            for seed in 0..groups {
                if let Some((told, example)) = guilt::of_one(&own, seed, slip) {
                    all += 1;
                    right += usize::from(told == Told::Right);
                    slips.count(slip, told, example);
                }
            }
        }
    }
    println!("{}: {right} of {all} told right and in time", practical.file.id);
}

/// Right and in time at least 92 %, wrongly explained at most 2 %, not told at most 3 %.
fn told(slips: &guilt::Tally) -> ExitCode {
    for slip in Slip::all() {
        let n = |told| slips.0.get(&(slip, told)).map_or(0, |(n, _)| *n);
        let name: &'static str = slip.into();
        let counts = [Told::Right, Told::Late, Told::Otherwise, Told::Silent].map(n);
        println!("{name}: right {}, late {}, otherwise {}, silent {}", counts[0], counts[1], counts[2], counts[3]);
        for told in [Told::Otherwise, Told::Silent] {
            if let Some((_, example)) = slips.0.get(&(slip, told)) {
                println!("    {told:?}: {}", example.chars().take(300).collect::<String>());
            }
        }
    }
    let n = |told| slips.of(told);
    let (right, late, otherwise, silent) = (n(Told::Right), n(Told::Late), n(Told::Otherwise), n(Told::Silent));
    let all = (right + late + otherwise + silent).max(1);
    #[expect(clippy::cast_precision_loss, reason = "counts")]
    let percent = |n: usize| 100.0 * n as f64 / all as f64;
    println!(
        "{all} slips: right {:.1} %, late {:.1} %, otherwise {:.1} %, silent {:.1} %",
        percent(right),
        percent(late),
        percent(otherwise),
        percent(silent)
    );
    let lawful = percent(right) >= 92.0 && percent(otherwise) <= 2.0 && percent(silent) <= 3.0;
    if lawful { ExitCode::SUCCESS } else { ExitCode::FAILURE }
}
