//! `cargo xtask`: everything that a fresh machine with Rust, Node.js and apt needs, in one command each; `cargo xtask help`
//! lists them. Every stage prints how long it took.

mod fuzz;
mod install;
mod stage;

use clap::Parser;
use stage::{Outcome, stage};
use std::process::ExitCode;

#[derive(Parser)]
#[command(name = "cargo xtask", about = "What a fresh machine with Rust, Node.js and apt needs")]
enum Task {
    /// Builds the front end into the program and starts the demo school
    Demo {
        /// Options of `keen-beaker serve`
        #[arg(trailing_var_arg = true, allow_hyphen_values = true)]
        options: Vec<String>,
    },
    /// Installs what is missing, then runs every test, those of the interface included
    Test {
        /// Handed to `cargo test`
        #[arg(trailing_var_arg = true, allow_hyphen_values = true)]
        filter: Vec<String>,
    },
    /// Formatting, clippy, eslint, prettier, tsc, and whether the generated types are up to date
    Lint,
    /// Writes `openapi.json`, the schema of the practical file and the TypeScript types anew
    Types,
    /// Takes the pictures in `docs/screenshots` anew, from the demo school
    Pictures,
    /// What faultless groups hear at every practical of the library; fails above the law
    Innocence {
        /// Groups of each practical, recipe and unknown
        #[arg(long, default_value_t = 200)]
        groups: u64,
        /// How planted slips are told instead
        #[arg(long)]
        guilt: bool,
        /// Only these practicals, by identity; or other files
        only: Vec<String>,
    },
    /// Every property of the core with ever new cases
    Fuzz {
        /// For so long, and one round at least
        #[arg(long, default_value_t = 60)]
        seconds: u64,
    },
}

fn main() -> ExitCode {
    let outcome = match Task::parse() {
        Task::Demo { options } => demo(&options),
        Task::Test { filter } => test(&filter),
        Task::Lint => lint(),
        Task::Types => types(),
        Task::Pictures => pictures(),
        Task::Innocence { groups, guilt, only } => innocence(groups, guilt, &only),
        Task::Fuzz { seconds } => fuzz::rounds(seconds),
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

fn innocence(groups: u64, guilt: bool, only: &[String]) -> Outcome {
    let groups = groups.to_string();
    let mut run =
        vec!["run", "--quiet", "--release", "--package", "simulate", "--bin", "innocence", "--", "--groups", &groups];
    run.extend(guilt.then_some("--guilt"));
    run.extend(only.iter().map(String::as_str));
    stage("innocence", "cargo", &run)
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
    let looked_at = [
        "interface::every_view",
        "interface::practicals_of_every_kind",
        "interface::sums_looked_at",
        "interface::what_is_practised",
    ];
    let test = ["cargo", "test", "--package", "keen-beaker", "--test", "server", "--"];
    let test = [test.as_slice(), looked_at.as_slice()].concat();
    stage("pictures", "env", &[&[set.as_str()], test.as_slice()].concat())
}
