//! The structure that the folders promise: within a folder modules use each other one way, pairs at the most.
//!
//! A *knot* is a set of modules of which each reaches each other one by its imports. Modules are the children of one folder:
//! files, and folders as wholes. What a folder's own `mod.rs` (or a crate's `lib.rs`) passes on counts for the module that
//! it comes from.

use petgraph::algo::tarjan_scc;
use petgraph::graphmap::DiGraphMap;
use std::collections::BTreeMap;
use std::path::{Path, PathBuf};

/// Two modules may need each other, a type and what is done with it; more are a knot.
const MOST_IN_A_KNOT: usize = 2;

struct File {
    /// `["api", "bench"]` for `src/api/bench.rs`.
    module: Vec<String>,
    /// Without remarks.
    text: String,
    /// A `lib.rs`, `main.rs` or `mod.rs`.
    is_contents: bool,
}

fn files(source: &Path) -> Vec<File> {
    let mut out = Vec::new();
    let mut folders = vec![source.to_owned()];
    while let Some(folder) = folders.pop() {
        for entry in std::fs::read_dir(&folder).unwrap() {
            let path = entry.unwrap().path();
            if path.is_dir() {
                folders.push(path);
            } else if path.extension().is_some_and(|e| e == "rs") {
                out.push(file(source, &path));
            }
        }
    }
    out
}

fn file(source: &Path, path: &Path) -> File {
    let parts = path.strip_prefix(source).unwrap().with_extension("");
    let mut module: Vec<String> = parts.iter().map(|p| p.to_str().unwrap().to_owned()).collect();
    let is_contents = matches!(module.last().map(String::as_str), Some("lib" | "main" | "mod"));
    if is_contents {
        module.pop();
    }
    let text = std::fs::read_to_string(path).unwrap();
    let code = text.split("#[cfg(test)]").next().unwrap();
    let text = code.lines().map(|l| l.split("//").next().unwrap()).collect::<Vec<_>>().join("\n");
    File { module, text, is_contents }
}

/// Absolute paths that a file's text speaks of: `crate::a::b` and `super::c`, groups taken apart one level deep.
fn mentions(file: &File) -> Vec<Vec<String>> {
    let mut out = Vec::new();
    for (start, _) in file.text.match_indices("crate::").chain(file.text.match_indices("super::")) {
        let before = file.text[..start].chars().next_back();
        if before.is_some_and(|c| c == ':' || c.is_alphanumeric() || c == '_') {
            continue;
        }
        let mut rest = &file.text[start..];
        let mut base: Vec<String> = Vec::new();
        if let Some(after) = rest.strip_prefix("crate::") {
            rest = after;
        } else {
            base.clone_from(&file.module);
            while let Some(after) = rest.strip_prefix("super::") {
                base.pop();
                rest = after;
            }
        }
        let end = rest.find([';', '(', ')', '<', '>', ',', ' ', '\n']).unwrap_or(rest.len());
        let path = if let Some(open) = rest.find('{').filter(|open| *open <= end) {
            let close = rest[open..].find('}').map_or(rest.len(), |c| open + c);
            let stem: Vec<String> = segments(&rest[..open]);
            let names = rest[open + 1..close].split(',').map(|n| [stem.clone(), segments(n.trim())].concat());
            names.collect::<Vec<_>>()
        } else {
            vec![segments(&rest[..end])]
        };
        out.extend(path.into_iter().map(|p| [base.clone(), p].concat()));
    }
    out
}

fn segments(path: &str) -> Vec<String> {
    let plain = |s: &str| s.trim().split(' ').next().unwrap_or_default().to_owned();
    path.split("::").map(plain).filter(|s| !s.is_empty()).collect()
}

/// The names that a folder's table of contents passes on, with the module that each comes from.
fn passed_on(contents: &str) -> BTreeMap<String, String> {
    let mut out = BTreeMap::new();
    for statement in contents.split(';') {
        let Some(uses) = statement.trim().strip_prefix("pub use ").or(statement.trim().strip_prefix("pub(crate) use "))
        else {
            continue;
        };
        let Some((module, names)) = uses.split_once("::") else { continue };
        for name in names.trim_matches(['{', '}', '\n', ' ']).split(',') {
            out.insert(name.trim().to_owned(), module.to_owned());
        }
    }
    out
}

fn knots(source: &Path) -> Vec<String> {
    let files = files(source);
    let mut found = Vec::new();
    for folder in files.iter().filter(|f| f.is_contents) {
        let depth = folder.module.len();
        let inside = |f: &&File| f.module.len() > depth && f.module.starts_with(&folder.module);
        let children: Vec<&str> = files.iter().filter(inside).map(|f| f.module[depth].as_str()).collect();
        let passed_on = passed_on(&folder.text);
        let mut graph: DiGraphMap<&str, ()> = DiGraphMap::new();
        for file in files.iter().filter(inside) {
            let own = file.module[depth].as_str();
            for path in mentions(file).iter().filter(|p| p.len() > depth && p.starts_with(&folder.module)) {
                let first = path[depth].as_str();
                let module = passed_on.get(first).map_or(first, String::as_str);
                if let Some(other) = children.iter().find(|c| **c == module && **c != own) {
                    graph.add_edge(own, other, ());
                }
            }
        }
        let knots = tarjan_scc(&graph).into_iter().filter(|k| k.len() > MOST_IN_A_KNOT);
        found.extend(knots.map(|k| format!("{}::{}: {}", source.display(), folder.module.join("::"), k.join(", "))));
    }
    found
}

#[test]
fn no_folder_has_a_knot() {
    let crates = Path::new(env!("CARGO_MANIFEST_DIR")).join("..");
    let sources: Vec<PathBuf> =
        std::fs::read_dir(crates).unwrap().map(|e| e.unwrap().path().join("src")).filter(|p| p.is_dir()).collect();
    assert!(sources.len() >= 9, "{sources:?}");
    let found: Vec<String> = sources.iter().flat_map(|s| knots(s)).collect();
    assert!(found.is_empty(), "modules that need each other:\n{}", found.join("\n"));
}

/// The check sees a knot where there is one, through names that a table of contents passes on, and none in a chain.
#[test]
fn a_knot_of_three_is_seen() {
    let folder = std::env::temp_dir().join(format!("knots-{}", std::process::id()));
    std::fs::create_dir_all(&folder).unwrap();
    let write = |name: &str, text: &str| std::fs::write(folder.join(name), text).unwrap();
    write("lib.rs", "mod a;\nmod b;\nmod c;\npub use c::{C, D};\n");
    write("a.rs", "use crate::b::B;\n// use crate::c::C;\n");
    write("b.rs", "use super::{C, E};\n");
    write("c.rs", "pub struct C;\n");
    assert_eq!(knots(&folder), Vec::<String>::new());
    write("c.rs", "fn f(a: crate::a::A) {}\n");
    let found = knots(&folder);
    std::fs::remove_dir_all(&folder).unwrap();
    assert_eq!(found.len(), 1);
    assert!(["a", "b", "c"].iter().all(|m| found[0].contains(m)), "{found:?}");
}
