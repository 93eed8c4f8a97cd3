//! The properties of the core with ever new cases: which there are is read from the code, and each must have run.

use crate::stage::{self, Outcome};
use proc_macro2::{TokenStream, TokenTree};
use std::collections::BTreeSet;
use std::path::Path;
use std::time::Instant;

/// Cases of a property in one round; one that says that it is slow takes its share of them.
const CASES: &str = "PROPTEST_CASES=2000";

/// Rounds of all properties, until so many seconds have passed.
pub fn rounds(seconds: u64) -> Outcome {
    let properties = properties(&stage::root().join("crates"))?;
    let packages: BTreeSet<&str> = properties.iter().map(|p| p.package.as_str()).collect();
    let packages = packages.iter().flat_map(|p| ["-p", p]);
    let names = properties.iter().map(|p| p.name.as_str());
    let arguments: Vec<&str> = [CASES, "cargo", "test", "--release"]
        .into_iter()
        .chain(packages)
        .chain(["--lib", "--tests", "--"])
        .chain(names)
        .collect();
    let start = Instant::now();
    let mut rounds = 0;
    while rounds == 0 || start.elapsed().as_secs() < seconds {
        let told = stage::told(&format!("{} properties, new cases", properties.len()), "env", &arguments)?;
        let missed = missed(&properties, &told);
        if !missed.is_empty() {
            return Err(format!("properties that did not run: {}", missed.join(", ")));
        }
        rounds += 1;
    }
    eprintln!("{rounds} rounds of {} properties, nothing found", properties.len());
    Ok(())
}

struct Property {
    package: String,
    name: String,
}

/// Names that passed less often in the test programs' own report than there are properties of that name.
fn missed<'a>(properties: &'a [Property], told: &str) -> Vec<&'a str> {
    let passed = |name: &str| {
        let tests = told.lines().filter_map(|l| l.strip_prefix("test ")?.strip_suffix(" ... ok"));
        tests.filter(|test| test.rsplit("::").next() == Some(name)).count()
    };
    let there = |name: &str| properties.iter().filter(|p| p.name == name).count();
    properties.iter().map(|p| p.name.as_str()).filter(|name| passed(name) < there(name)).collect()
}

/// Every test within a `proptest!` of the workspace's packages.
fn properties(crates: &Path) -> Result<Vec<Property>, String> {
    let mut out = Vec::new();
    for file in walkdir::WalkDir::new(crates).sort_by_file_name() {
        let file = file.map_err(|e| e.to_string())?.into_path();
        if file.extension().is_none_or(|e| e != "rs") {
            continue;
        }
        let text = std::fs::read_to_string(&file).map_err(|e| format!("{}: {e}", file.display()))?;
        let code: TokenStream = text.parse().map_err(|e| format!("{}: {e}", file.display()))?;
        let package = file.strip_prefix(crates).ok().and_then(|p| p.iter().next()).and_then(|p| p.to_str());
        let package = package.ok_or_else(|| format!("{}: in no package", file.display()))?;
        let names = named(code, false).into_iter();
        out.extend(names.map(|name| Property { package: package.to_owned(), name }));
    }
    if out.is_empty() { Err(format!("no properties in {}", crates.display())) } else { Ok(out) }
}

/// The functions that are written within a `proptest!`, at any depth; `within` says whether `code` is in one.
fn named(code: TokenStream, within: bool) -> Vec<String> {
    let tokens: Vec<TokenTree> = code.into_iter().collect();
    let mut out = Vec::new();
    for (i, token) in tokens.iter().enumerate() {
        match token {
            TokenTree::Group(group) => {
                let opens = i >= 2 && tokens[i - 1].to_string() == "!" && tokens[i - 2].to_string() == "proptest";
                out.extend(named(group.stream(), within || opens));
            }
            TokenTree::Ident(word) if within && word == "fn" => {
                out.extend(tokens.get(i + 1).map(ToString::to_string));
            }
            TokenTree::Ident(_) | TokenTree::Punct(_) | TokenTree::Literal(_) => {}
        }
    }
    out
}

#[cfg(test)]
mod tests {
    use super::{Property, missed, named};

    #[test]
    fn a_property_is_found_by_the_macro_that_it_stands_in_and_passes_only_by_its_own_line() {
        let code = "fn helper() {} mod t { proptest! { #[test] fn holds(x in 0..9) { other!{} } fn too(y in 0..1) {} } } fn not() {}";
        assert_eq!(named(code.parse().unwrap(), false), ["holds", "too"]);
        let property = |package: &str| Property { package: package.into(), name: "holds".into() };
        let one = [property("measure")];
        assert!(missed(&one, "running 2 tests\ntest unit::t::holds ... ok\n").is_empty());
        assert_eq!(missed(&one, "test unit::t::holds_not ... ok\ntest holds ... FAILED\n"), ["holds"]);
        // Two of one name, and one of them ran.
        assert_eq!(missed(&[property("chem"), property("sheet")], "test a::holds ... ok\n"), ["holds", "holds"]);
    }
}
