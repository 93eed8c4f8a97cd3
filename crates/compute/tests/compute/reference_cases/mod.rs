//! Independent reference cases, sent through the door.
//!
//! The cases in `tests/reference` were made without this program, each by at least two routes. A thin adapter
//! ([`adapter`]) reshapes inputs into a request and an answer into the fields of the case; it does no arithmetic. Every
//! field that a case expects is compared within the case's own tolerance ([`compare`]).
//!
//! `REFERENCE_CASES=<folder>` reads another folder of the same shape; `REFERENCE_ANSWERS=<file>` also writes what was
//! got for every case, a JSON object `{"id", "got"}` a line.

mod adapter;
mod compare;
mod physical;
mod recipes;

use serde_json::{Value, json};
use std::collections::BTreeMap;
use std::fmt::Write;
use std::path::{Path, PathBuf};

#[test]
fn reference_cases() {
    let own = || Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/reference");
    let folder = std::env::var_os("REFERENCE_CASES").map_or_else(own, PathBuf::from);
    let mut files: Vec<PathBuf> = std::fs::read_dir(&folder)
        .unwrap_or_else(|e| panic!("{}: {e}", folder.display()))
        .map(|entry| entry.unwrap().path())
        .filter(|p| p.extension().is_some_and(|e| e == "json"))
        .collect();
    files.sort();
    assert!(!files.is_empty(), "no cases in {}", folder.display());

    let mut families: BTreeMap<String, (usize, usize)> = BTreeMap::new();
    let (mut answers, mut failures) = (String::new(), String::new());
    for file in files {
        let family = file.file_stem().unwrap().to_string_lossy().into_owned();
        let cases: Vec<Value> = serde_json::from_str(&std::fs::read_to_string(&file).unwrap()).unwrap();
        for case in cases {
            let id = case["id"].as_str().unwrap_or("without id").to_owned();
            let kind = case["kind"].as_str().unwrap_or_default();
            let count = families.entry(family.clone()).or_default();
            count.1 += 1;
            let got = adapter::got(kind, &case["inputs"]);
            let line = json!({ "id": id, "got": got.clone().unwrap_or_else(|why| json!({ "unknown": why })) });
            writeln!(answers, "{line}").unwrap();
            let wrong = match (&got, case.get("expected")) {
                (Ok(got), Some(expected)) if family == "schedule" => compare::plan(&case["inputs"], expected, got),
                (Ok(got), Some(expected)) => compare::differences(expected, got, &case["tolerance"]),
                (Ok(_), None) => Vec::new(),
                (Err(why), _) => vec![why.clone()],
            };
            if wrong.is_empty() {
                count.0 += 1;
            }
            for words in wrong {
                writeln!(failures, "{id} ({kind}): {words}").unwrap();
            }
        }
    }
    if let Some(file) = std::env::var_os("REFERENCE_ANSWERS") {
        std::fs::write(file, answers).unwrap();
    }
    for (family, (passed, total)) in &families {
        println!("{family}: {passed} of {total}");
    }
    assert!(failures.is_empty(), "\n{failures}");
}
