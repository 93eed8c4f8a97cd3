//! The interface in a real browser: one server for each file of scenarios in `web/e2e`, driven by Playwright.

use crate::instruments::{StandIn, named};
use crate::process::Server;
use std::path::{Path, PathBuf};
use std::process::Command;
use std::sync::Mutex;

/// One browser at a time: two on two cores only wait for each other.
static BROWSER: Mutex<()> = Mutex::new(());

fn web() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("../../web")
}

fn npx(arguments: &[&str], base: Option<&str>) {
    for (needed, what) in [("node_modules", "node packages"), ("dist/index.html", "the built front end")] {
        assert!(web().join(needed).exists(), "{what} missing: run `cargo xtask test`, which installs and builds it");
    }
    let mut command = Command::new("npx");
    command.arg("--no-install").args(arguments).current_dir(web()).env("CI", "true");
    if let Some(base) = base {
        assert!(Path::new("/usr/bin/chromium").exists(), "chromium missing: run `cargo xtask test`, which installs it");
        command.env("KEEN_BEAKER", base);
    }
    let done = command.output().expect("npx starts: is Node.js installed?");
    let words = String::from_utf8_lossy(&done.stdout);
    assert!(done.status.success(), "{words}{}", String::from_utf8_lossy(&done.stderr));
}

fn scenarios(file: &str, server: &Server) {
    some_scenarios(file, "", server);
}

/// Those of a file whose names hold some words.
fn some_scenarios(file: &str, named: &str, server: &Server) {
    let _one_at_a_time = BROWSER.lock().unwrap_or_else(std::sync::PoisonError::into_inner);
    npx(&["playwright", "test", file, "--grep", named], Some(&server.base));
    assert!(!server.said().contains("panicked"), "{}", server.said());
}

#[test]
fn parts_without_a_browser() {
    npx(&["vitest", "run"], None);
}

#[test]
fn a_class_at_work() {
    scenarios("class.spec.ts", &Server::demo());
}

#[test]
fn sums_looked_at_and_given_back() {
    scenarios("check.spec.ts", &Server::demo());
}

#[test]
fn a_class_over_several_days() {
    scenarios("days.spec.ts", &Server::demo());
}

#[test]
fn a_night_in_the_oven_with_the_server_off() {
    let wednesday = Server::start(tempfile::tempdir().unwrap(), &["--now", "2026-11-11T13:00"]);
    some_scenarios("oven.spec.ts", "first visit", &wednesday);
    let friday = Server::start(wednesday.kill(), &["--now", "2026-11-13T13:05"]);
    some_scenarios("oven.spec.ts", "second visit", &friday);
}

#[test]
fn practicals_of_every_kind_at_the_bench() {
    scenarios("practicals.spec.ts", &Server::demo());
}

#[test]
fn a_practical_begun_from_what_it_is_to_find() {
    scenarios("begin.spec.ts", &Server::demo());
}

#[test]
fn a_record_for_whoever_was_not_there() {
    scenarios("record.spec.ts", &Server::demo());
}

#[test]
fn a_new_school() {
    scenarios("school.spec.ts", &Server::empty());
}

#[test]
fn every_view_can_be_read_by_everybody() {
    scenarios("views.spec.ts", &Server::demo());
}

#[test]
fn questions_on_the_workbench() {
    scenarios("workbench.spec.ts", &Server::demo());
}

#[test]
fn designing_a_practical() {
    scenarios("plan.spec.ts", &Server::demo());
}

#[test]
fn what_is_practised_and_rehearsed() {
    scenarios("practice.spec.ts", &Server::demo());
}

#[test]
fn preparing_a_class() {
    scenarios("prepare.spec.ts", &Server::demo());
}

#[test]
fn a_balance_that_speaks() {
    let (balance, home) = (StandIn::balance(), tempfile::tempdir().unwrap());
    let file = named(home.path(), &[("Balance 1", &balance.1)]);
    let server = Server::start(tempfile::tempdir().unwrap(), &["--demo", "--instruments", &file]);
    scenarios("instruments.spec.ts", &server);
}
