//! Edits of a practical's text by path: comments, order and everything untouched stay as they are.
//!
//! A form never writes the file anew. It says what changed and where, and the text is changed there.

use super::file::{File, MAX_CHARACTERS};
use super::place::Key;
use serde::Deserialize;
use serde_json::Value as Json;
use toml_edit::{Array, ArrayOfTables, DocumentMut, InlineTable, Item, Table, Value};

/// One change.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "kind", rename_all = "kebab-case", deny_unknown_fields)]
pub enum Edit {
    /// Puts a value there, whether or not one is there.
    Set {
        /// Where.
        path: Vec<Key>,
        /// What; `null` takes the key away.
        value: Json,
    },
    /// Puts an item into a list, before the one with this number or at the end.
    Insert {
        /// The list.
        path: Vec<Key>,
        /// Before which; at the end if left out.
        #[serde(default)]
        at: Option<usize>,
        /// What.
        value: Json,
    },
    /// Takes an item out of a list.
    Remove {
        /// The list.
        path: Vec<Key>,
        /// Which.
        at: usize,
    },
    /// Plans another amount of a material; the readings that measure it directly go along.
    Plan {
        /// The material, by its place in the list.
        material: usize,
        /// As written: `3.0 ± 0.1 g`.
        planned: String,
    },
    /// Moves an item of a list to another place.
    Move {
        /// The list.
        path: Vec<Key>,
        /// Which.
        from: usize,
        /// The place it has afterwards.
        to: usize,
    },
}

/// Why an edit was not made.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum EditError {
    /// The text cannot be parsed, so that nothing can be found in it.
    #[error("the text cannot be read at the moment: mend it first ({0})")]
    Unreadable(String),
    /// Nothing is there.
    #[error("there is nothing at {0} to change")]
    NoSuchPlace(String),
    /// A value that TOML cannot hold.
    #[error("this cannot be written there")]
    Unwritable,
    /// Larger than any practical.
    #[error("a practical file has at most {0} characters")]
    TooLong(usize),
}

/// The text after `edits`, in their order; all of them or none.
///
/// # Errors
/// [`EditError`] for the first that cannot be made.
pub fn edited(text: &str, edits: &[Edit]) -> Result<String, EditError> {
    if text.len() > MAX_CHARACTERS {
        return Err(EditError::TooLong(MAX_CHARACTERS));
    }
    let mut document: DocumentMut =
        text.parse().map_err(|e: toml_edit::TomlError| EditError::Unreadable(e.message().to_owned()))?;
    for edit in edits {
        apply(&mut document, edit)?;
    }
    let text = document.to_string();
    if text.len() > MAX_CHARACTERS { Err(EditError::TooLong(MAX_CHARACTERS)) } else { Ok(text) }
}

fn apply(document: &mut DocumentMut, edit: &Edit) -> Result<(), EditError> {
    match edit {
        Edit::Set { path, value } => set(document.as_item_mut(), path, value).ok_or_else(|| nowhere(path))?,
        Edit::Insert { path, at, value } => {
            let list = list(document, path)?;
            let at = at.unwrap_or(list.len());
            if at > list.len() {
                return Err(nowhere(path));
            }
            list.insert(at, value)?;
        }
        Edit::Plan { material, planned } => {
            let shape = toml_edit::de::from_document::<File>(document.clone());
            let shape = shape.map_err(|e| EditError::Unreadable(e.message().to_owned()))?;
            for edit in shape.planning(*material, planned) {
                apply(document, &edit)?;
            }
        }
        Edit::Remove { path, at } => {
            let mut list = list(document, path)?;
            if *at >= list.len() {
                return Err(nowhere(path));
            }
            list.remove(*at);
        }
        Edit::Move { path, from, to } => {
            let mut list = list(document, path)?;
            if *from >= list.len() || *to >= list.len() {
                return Err(nowhere(path));
            }
            list.shift(*from, *to);
        }
    }
    Ok(())
}

fn nowhere(path: &[Key]) -> EditError {
    let words: Vec<String> = path
        .iter()
        .map(|k| match k {
            Key::At(i) => (i + 1).to_string(),
            Key::Named(name) => name.chars().take(40).collect(),
        })
        .collect();
    EditError::NoSuchPlace(words.join(" › "))
}

fn step<'a>(item: &'a mut Item, key: &Key) -> Option<&'a mut Item> {
    match key {
        Key::Named(name) => item.get_mut(name.as_str()),
        Key::At(i) => item.get_mut(*i),
    }
}

/// Puts a value in its place; `None` where the way there does not exist or the value cannot be written.
fn set(root: &mut Item, path: &[Key], value: &Json) -> Option<()> {
    let (last, way) = path.split_last()?;
    // The last two steps may go through a value (an array in a line, an inline table) rather than an item.
    let mut item = root;
    for (i, key) in way.iter().enumerate() {
        if item.is_value() {
            return set_value(item.as_value_mut()?, &path[i..], value);
        }
        if let Item::ArrayOfTables(tables) = item {
            let Key::At(n) = key else { return None };
            return set_in_table(tables.get_mut(*n)?, &path[i + 1..], value);
        }
        if let Key::Named(name) = key
            && item.get(name.as_str()).is_none()
        {
            // What is said for the first time of a whole begins it: `disclosure`, `trial_run`.
            item.as_table_like_mut()?.insert(name, Item::Value(Value::InlineTable(InlineTable::new())));
        }
        item = step(item, key)?;
    }
    match item {
        Item::Value(inner) => set_value(inner, std::slice::from_ref(last), value),
        Item::Table(table) => set_key(table, last, value),
        Item::ArrayOfTables(tables) => match last {
            Key::At(n) => set_whole(tables.get_mut(*n)?, value),
            Key::Named(_) => None,
        },
        Item::None => None,
    }
}

/// Another item in the place of one: what both have keeps its remarks, what the new one has not goes.
fn set_whole(old: &mut Table, value: &Json) -> Option<()> {
    let new = value.as_object()?;
    let gone: Vec<String> =
        old.iter().map(|(name, _)| name.to_owned()).filter(|name| !new.contains_key(name)).collect();
    for name in gone {
        old.remove(&name);
    }
    new.iter().try_for_each(|(name, value)| set_key(old, &Key::Named(name.clone()), value))
}

fn set_in_table(table: &mut Table, path: &[Key], value: &Json) -> Option<()> {
    match path {
        [last] => set_key(table, last, value),
        [Key::Named(name), rest @ ..] => {
            let item = table.get_mut(name)?;
            match item {
                Item::Value(inner) => set_value(inner, rest, value),
                Item::Table(inner) => set_in_table(inner, rest, value),
                Item::ArrayOfTables(_) | Item::None => None,
            }
        }
        _ => None,
    }
}

fn set_key(table: &mut Table, key: &Key, value: &Json) -> Option<()> {
    let Key::Named(name) = key else { return None };
    if value.is_null() {
        table.remove(name);
        return Some(());
    }
    let mut new = written(value)?;
    // Remarks above the key and behind the old value stay where they are.
    match table.get_mut(name) {
        Some(old) => {
            if let Some(value) = old.as_value() {
                *new.decor_mut() = value.decor().clone();
            }
            *old = Item::Value(new);
        }
        None => {
            table.insert(name, Item::Value(new));
        }
    }
    Some(())
}

fn set_value(inner: &mut Value, path: &[Key], value: &Json) -> Option<()> {
    match (inner, path) {
        (Value::InlineTable(table), [Key::Named(name)]) if value.is_null() => {
            table.remove(name).map(|_| ()).or(Some(()))
        }
        (Value::InlineTable(table), [Key::Named(name)]) => {
            table.insert(name, written(value)?);
            Some(())
        }
        (Value::InlineTable(table), [Key::Named(name), rest @ ..]) => set_value(table.get_mut(name)?, rest, value),
        (Value::Array(values), [Key::At(i)]) if *i < values.len() => {
            values.replace(*i, written(value)?);
            Some(())
        }
        (Value::Array(values), [Key::At(i), rest @ ..]) => set_value(values.get_mut(*i)?, rest, value),
        _ => None,
    }
}

/// A list of the file: `[[readings]]`, or an array in a line.
enum List<'a> {
    Tables(&'a mut ArrayOfTables),
    Values(&'a mut Array),
}

fn list<'a>(document: &'a mut DocumentMut, path: &[Key]) -> Result<List<'a>, EditError> {
    let wrong = || nowhere(path);
    // A list that is not there yet begins with its first item.
    let mut item = document.as_item_mut();
    for (i, key) in path.iter().enumerate() {
        let last = i + 1 == path.len();
        if let Key::Named(name) = key
            && last
            && item.get(name.as_str()).is_none()
        {
            let new = if i == 0 {
                Item::ArrayOfTables(ArrayOfTables::new())
            } else {
                Item::Value(Value::Array(Array::new()))
            };
            item.as_table_like_mut().ok_or_else(wrong)?.insert(name, new);
        }
        item = match (item, key) {
            (Item::ArrayOfTables(tables), Key::At(n)) => {
                let table = tables.get_mut(*n).ok_or_else(wrong)?;
                return list_in_table(table, &path[i + 1..]).ok_or_else(wrong);
            }
            (item, key) => step(item, key).ok_or_else(wrong)?,
        };
    }
    match item {
        Item::ArrayOfTables(tables) => Ok(List::Tables(tables)),
        Item::Value(Value::Array(values)) => Ok(List::Values(values)),
        Item::Value(_) | Item::Table(_) | Item::None => Err(wrong()),
    }
}

fn list_in_table<'a>(table: &'a mut Table, path: &[Key]) -> Option<List<'a>> {
    let [Key::Named(name), rest @ ..] = path else { return None };
    let item = table.entry(name).or_insert_with(|| Item::Value(Value::Array(Array::new())));
    let mut value = item.as_value_mut()?;
    for key in rest {
        value = match (value, key) {
            (Value::InlineTable(inner), Key::Named(name)) => inner.get_mut(name)?,
            (Value::Array(values), Key::At(i)) => values.get_mut(*i)?,
            _ => return None,
        };
    }
    value.as_array_mut().map(List::Values)
}

impl List<'_> {
    fn len(&self) -> usize {
        match self {
            List::Tables(tables) => tables.len(),
            List::Values(values) => values.len(),
        }
    }

    fn insert(self, at: usize, value: &Json) -> Result<(), EditError> {
        match self {
            List::Tables(tables) => {
                let new = table(value).ok_or(EditError::Unwritable)?;
                let mut all: Vec<Table> = tables.iter().cloned().collect();
                all.insert(at, new);
                refill(tables, all);
            }
            List::Values(values) => values.insert(at, written(value).ok_or(EditError::Unwritable)?),
        }
        Ok(())
    }

    fn remove(&mut self, at: usize) {
        match self {
            List::Tables(tables) => {
                tables.remove(at);
            }
            List::Values(values) => {
                values.remove(at);
            }
        }
    }

    fn shift(&mut self, from: usize, to: usize) {
        match self {
            List::Tables(tables) => {
                let mut all: Vec<Table> = tables.iter().cloned().collect();
                let moved = all.remove(from);
                all.insert(to, moved);
                refill(tables, all);
            }
            List::Values(values) => {
                let moved = values.remove(from);
                values.insert(to, moved);
            }
        }
    }
}

/// The tables in this order. Where a table stands in the text is kept in it, so that the places are dealt out anew.
fn refill(tables: &mut ArrayOfTables, all: Vec<Table>) {
    let mut places: Vec<Option<isize>> = all.iter().map(Table::position).collect();
    let last = places.iter().flatten().max().copied();
    places.sort_by_key(|p| p.unwrap_or(isize::MAX));
    tables.clear();
    for (mut table, place) in all.into_iter().zip(places) {
        table.set_position(place.or(last));
        if table.decor().prefix().is_none() {
            table.decor_mut().set_prefix("\n");
        }
        tables.push(table);
    }
}

fn table(value: &Json) -> Option<Table> {
    let mut table = Table::new();
    for (key, value) in value.as_object()? {
        if !value.is_null() {
            table.insert(key, Item::Value(written(value)?));
        }
    }
    Some(table)
}

fn written(value: &Json) -> Option<Value> {
    Some(match value {
        Json::Null => return None,
        Json::Bool(b) => (*b).into(),
        Json::Number(n) => match n.as_i64() {
            Some(whole) => whole.into(),
            None => n.as_f64()?.into(),
        },
        Json::String(text) => text.as_str().into(),
        Json::Array(values) => Value::Array(values.iter().map(written).collect::<Option<Array>>()?),
        Json::Object(pairs) => {
            let mut table = InlineTable::new();
            for (key, value) in pairs.iter().filter(|(_, v)| !v.is_null()) {
                table.insert(key, written(value)?);
            }
            Value::InlineTable(table)
        }
    })
}
