//! Places in a practical file: the path of an item, and the line and character where it stands.

use serde::{Deserialize, Serialize};
use std::fmt;
use std::ops::Range;
use toml_edit::{Document, Item, Value};

/// One step of a path: a key, or a number in a list, from 0.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(untagged)]
pub enum Key {
    /// In a list.
    At(usize),
    /// In a table.
    Named(String),
}

impl From<&str> for Key {
    fn from(name: &str) -> Key {
        Key::Named(name.to_owned())
    }
}

impl From<usize> for Key {
    fn from(at: usize) -> Key {
        Key::At(at)
    }
}

/// Where something stands in a practical file.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Place {
    /// From 1.
    pub line: usize,
    /// Character of the line, from 1.
    pub column: usize,
    /// The item in words: `reading 'm_dish'`; empty for the file as a whole.
    pub item: String,
    /// The path, for the field of a form; empty where only the text knows.
    pub path: Vec<Key>,
}

impl fmt::Display for Place {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "line {}, character {}", self.line, self.column)?;
        if self.item.is_empty() { Ok(()) } else { write!(f, ", {}", self.item) }
    }
}

/// Line and character, from 1, of a byte of `text`.
pub(super) fn line_and_column(text: &str, at: usize) -> (usize, usize) {
    let before = text.get(..at.min(text.len())).unwrap_or_default();
    let line = before.matches('\n').count() + 1;
    (line, before.chars().rev().take_while(|c| *c != '\n').count() + 1)
}

/// The place of `path`, or of the nearest item around it that is there.
pub(super) fn locate(document: &Document<String>, path: &[Key], item: String) -> Place {
    let root = document.as_item();
    let found = (0..=path.len()).rev().find_map(|n| span(root, &path[..n])).unwrap_or(0..0);
    let (line, column) = line_and_column(document.raw(), if path.is_empty() { 0 } else { found.start });
    Place { line, column, item, path: path.to_vec() }
}

fn span(item: &Item, path: &[Key]) -> Option<Range<usize>> {
    match (path.split_first(), item) {
        (None, _) => item.span(),
        (Some((Key::Named(name), rest)), _) => span(item.get(name.as_str())?, rest),
        (Some((Key::At(i), rest)), Item::ArrayOfTables(tables)) => {
            let table = tables.get(*i)?;
            match rest {
                [] => table.span(),
                [Key::Named(name), rest @ ..] => span(table.get(name)?, rest),
                [Key::At(_), ..] => None,
            }
        }
        (Some((Key::At(i), rest)), Item::Value(Value::Array(values))) => value_span(values.get(*i)?, rest),
        (Some((Key::At(_), _)), _) => None,
    }
}

fn value_span(value: &Value, path: &[Key]) -> Option<Range<usize>> {
    match (path.split_first(), value) {
        (None, _) => value.span(),
        (Some((Key::Named(name), rest)), Value::InlineTable(table)) => value_span(table.get(name)?, rest),
        (Some((Key::At(i), rest)), Value::Array(values)) => value_span(values.get(*i)?, rest),
        _ => None,
    }
}
