//! `cargo xtask innocence`: what faultless groups hear at every practical, recipe and unknown of the library.

use practical::Practical;
use simulate::innocence::{Doubt, Tally, allotments, of_one};
use std::path::PathBuf;
use std::process::ExitCode;

/// Words of doubt in a thousand readings and answers, at most.
const LAW: f64 = 3.0;

fn main() -> ExitCode {
    let mut groups = 200_u64;
    let mut only = Vec::new();
    let mut args = std::env::args().skip(1);
    while let Some(arg) = args.next() {
        if arg == "--groups" {
            groups = args.next().and_then(|n| n.parse().ok()).unwrap_or(groups);
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
