//! `cargo xtask`: everything that a fresh machine with Rust, Node.js and apt needs, in one command each.
//!
//! * `cargo xtask demo [serve options]`: builds the front end into the program and starts the demo school.
//! * `cargo xtask test [filter]`: installs what is missing, then `cargo test --workspace`, interface tests included.
//! * `cargo xtask lint`: formatting, clippy, eslint, prettier, tsc, and whether the generated types are up to date.
//! * `cargo xtask types`: writes `openapi.json`, the schema of the practical file and the TypeScript types anew.
//! * `cargo xtask fuzz --seconds N`: the properties of the core with ever new cases, for so long.
//! * `cargo xtask pictures`: takes the pictures in `docs/screenshots` anew, from the demo school.
//!
//! Every stage prints how long it took.

mod install;
mod stage;

use stage::{Outcome, stage};
use std::process::ExitCode;

fn main() -> ExitCode {
    let mut arguments = std::env::args().skip(1);
    let command = arguments.next().unwrap_or_default();
    let rest: Vec<String> = arguments.collect();
    let outcome = match command.as_str() {
        "demo" => demo(&rest),
        "test" => test(&rest),
        "lint" => lint(),
        "types" => types(),
        "pictures" => pictures(),
        "fuzz" => fuzz(&rest),
        other => Err(format!("'{other}' is none of: demo, test, lint, types, pictures, fuzz")),
    };
    match outcome {
        Ok(()) => ExitCode::SUCCESS,
        Err(words) => {
            eprintln!("xtask: {words}");
            ExitCode::FAILURE
        }
    }
}

fn demo(options: &[String]) -> Outcome {
    install::node_modules()?;
    stage("front end", "npm", &["run", "--silent", "bundle", "--prefix", "web"])?;
    stage("program", "cargo", &["build", "--release", "--package", "keen-beaker"])?;
    let mut serve = vec!["serve", "--demo"];
    serve.extend(options.iter().map(String::as_str));
    stage("demo school", "target/release/keen-beaker", &serve)
}

fn test(filter: &[String]) -> Outcome {
    install::node_modules()?;
    install::chromium()?;
    stage("front end", "npm", &["run", "--silent", "bundle", "--prefix", "web"])?;
    let mut tests = vec!["test", "--workspace"];
    tests.extend(filter.iter().map(String::as_str));
    stage("tests", "cargo", &tests)
}

fn lint() -> Outcome {
    install::node_modules()?;
    stage("rustfmt", "cargo", &["fmt", "--all", "--check"])?;
    stage("clippy", "cargo", &["clippy", "--workspace", "--all-targets", "--", "-D", "warnings"])?;
    types()?;
    stage(
        "generated types are committed",
        "git",
        &["diff", "--exit-code", "--stat", "--", "openapi.json", SCHEMA, TYPES],
    )?;
    stage("prettier", "npm", &["run", "--silent", "format", "--prefix", "web"])?;
    stage("eslint", "npm", &["run", "--silent", "lint", "--prefix", "web"])?;
    stage("tsc", "npm", &["run", "--silent", "check", "--prefix", "web"])
}

const SCHEMA: &str = "docs/practical.schema.json";
const TYPES: &str = "web/src/api/generated/schema.d.ts";

fn types() -> Outcome {
    install::node_modules()?;
    stage::into_file(
        "interface document",
        "openapi.json",
        "cargo",
        &["run", "--quiet", "--package", "keen-beaker", "--", "openapi"],
    )?;
    let schema = ["run", "--quiet", "--package", "keen-beaker", "--", "schema"];
    stage::into_file("schema of the practical file", SCHEMA, "cargo", &schema)?;
    stage("types for the front end", "npm", &["run", "--silent", "types", "--prefix", "web"])
}

fn pictures() -> Outcome {
    install::node_modules()?;
    install::chromium()?;
    stage("front end", "npm", &["run", "--silent", "bundle", "--prefix", "web"])?;
    let folder = stage::root().join("docs/screenshots");
    std::fs::create_dir_all(&folder).map_err(|e| format!("{}: {e}", folder.display()))?;
    let folder = folder.canonicalize().map_err(|e| format!("{}: {e}", folder.display()))?;
    let set = format!("KEEN_BEAKER_PICTURES={}", folder.display());
    let looked_at = ["interface::every_view", "interface::practicals_of_every_kind", "interface::sums_looked_at"];
    let test = ["cargo", "test", "--package", "keen-beaker", "--test", "server", "--"];
    let test = [test.as_slice(), looked_at.as_slice()].concat();
    stage("pictures", "env", &[&[set.as_str()], test.as_slice()].concat())
}

/// The properties by the words in their names: hostile text, conservation, derivatives, round trips.
const PROPERTIES: &[&str] = &["arbitrary", "damaged", "conserves", "derivatives", "conversion", "prints", "shown"];

fn fuzz(options: &[String]) -> Outcome {
    let seconds = match options {
        [name, seconds] if name == "--seconds" => seconds.parse().map_err(|_| format!("'{seconds}' are no seconds"))?,
        [] => 60,
        _ => return Err("fuzz takes --seconds N".into()),
    };
    let start = std::time::Instant::now();
    let packages = ["-p", "measure", "-p", "chem", "-p", "sheet", "-p", "lab"];
    let test = ["PROPTEST_CASES=20000", "cargo", "test", "--release", "--quiet"];
    let arguments = [test.as_slice(), &packages, &["--lib", "--tests", "--"], PROPERTIES].concat();
    let mut rounds = 0;
    while rounds == 0 || start.elapsed().as_secs() < seconds {
        stage("properties, 20 000 new cases each", "env", &arguments)?;
        rounds += 1;
    }
    eprintln!("{rounds} rounds, nothing found");
    Ok(())
}
