//! What changed between two versions of a practical, item by item.

use serde::Serialize;
use std::collections::BTreeSet;
use toml_edit::{DocumentMut, Item, TableLike, Value};

/// One difference.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Change {
    /// Which item: `materials › acid › planned`.
    pub item: String,
    /// As it was; none where it was not there.
    pub before: Option<String>,
    /// As it is; none where it is gone.
    pub after: Option<String>,
}

/// Longest that a value is shown.
const SHOWN: usize = 160;

/// What changed from `old` to `new`; of a text that cannot be read, only that it differs.
#[must_use]
pub fn changes(old: &str, new: &str) -> Vec<Change> {
    let (Ok(before), Ok(after)) = (old.parse::<DocumentMut>(), new.parse::<DocumentMut>()) else {
        let differs = Change { item: "the text".into(), before: None, after: Some("cannot be read as a whole".into()) };
        return if old == new { Vec::new() } else { vec![differs] };
    };
    let mut out = Vec::new();
    tables(before.as_table(), after.as_table(), "", &mut out);
    out
}

fn tables(before: &dyn TableLike, after: &dyn TableLike, place: &str, out: &mut Vec<Change>) {
    let keys: BTreeSet<&str> = before.iter().chain(after.iter()).map(|(k, _)| k).collect();
    for key in keys {
        let place = if place.is_empty() { key.to_owned() } else { format!("{place} › {key}") };
        match (before.get(key), after.get(key)) {
            (Some(Item::ArrayOfTables(a)), Some(Item::ArrayOfTables(b))) => {
                let (a, b) = (named(a), named(b));
                let mut names: Vec<&String> = a.iter().map(|(n, _)| n).collect();
                names.extend(b.iter().map(|(n, _)| n).filter(|n| !a.iter().any(|(m, _)| m == *n)));
                for name in names {
                    let find = |list: &[(String, &toml_edit::Table)]| {
                        list.iter().find(|(n, _)| n == name).map(|(_, t)| (*t).clone())
                    };
                    let place = format!("{place} › {name}");
                    match (find(&a), find(&b)) {
                        (Some(x), Some(y)) => tables(&x, &y, &place, out),
                        (x, y) => out.push(Change {
                            item: place,
                            before: x.map(|_| "there".into()),
                            after: y.map(|_| "there".into()),
                        }),
                    }
                }
            }
            (a, b) => {
                let (x, y) = (a.map(shown), b.map(shown));
                if x != y {
                    out.push(Change { item: place, before: x, after: y });
                }
            }
        }
    }
}

/// The tables of a list by what a person calls them; a number where they have no name, or not one of their own.
fn named(list: &toml_edit::ArrayOfTables) -> Vec<(String, &toml_edit::Table)> {
    let mut seen = BTreeSet::new();
    let mut out = Vec::new();
    for (i, table) in list.iter().enumerate() {
        let name = ["symbol", "name", "title", "code", "equation"].iter().find_map(|k| table.get(k)?.as_str());
        let name = name.map_or_else(|| (i + 1).to_string(), str::to_owned);
        let name = if seen.insert(name.clone()) { name } else { format!("{name} ({})", i + 1) };
        out.push((name, table));
    }
    out
}

fn shown(item: &Item) -> String {
    let text = match item {
        Item::Value(Value::String(text)) => text.value().clone(),
        Item::Value(value) => value.clone().decorated("", "").to_string(),
        Item::Table(_) | Item::ArrayOfTables(_) => "there".into(),
        Item::None => String::new(),
    };
    let short: String = text.trim().chars().take(SHOWN).collect();
    if short.chars().count() < text.trim().chars().count() { format!("{short} …") } else { short }
}
