//! Files of earlier formats, brought to the present one.
//!
//! Format 0.1 had one `[reaction]`, a band beside the planned amount, and strength and half-width of a solution apart.

use toml_edit::{ArrayOfTables, DocumentMut, Item, Table, Value};

/// The text in the present format, if it is of an earlier one that is known; comments and order stay.
#[must_use]
pub fn upgraded(text: &str) -> Option<String> {
    let mut document: DocumentMut = text.parse().ok()?;
    if document.get("format")?.as_str()? != "0.1" {
        return None;
    }
    *document.get_mut("format")?.as_value_mut()? = Value::from(super::FORMAT).decorated(" ", "");
    if let Some(Item::Table(reaction)) = document.remove("reaction") {
        let mut list = ArrayOfTables::new();
        list.push(reaction);
        document.insert("reactions", Item::ArrayOfTables(list));
    }
    if let Some(Item::ArrayOfTables(materials)) = document.get_mut("materials") {
        materials.iter_mut().for_each(material);
    }
    Some(document.to_string())
}

fn material(table: &mut Table) {
    let text = |table: &Table, key: &str| table.get(key).and_then(Item::as_str).map(str::to_owned);
    if let Some((planned, band)) = text(table, "planned").zip(text(table, "band")) {
        table.insert("planned", Item::Value(with_tolerance(&planned, &band).into()));
        table.remove("band");
    }
    let Some(form) = table.get_mut("form").and_then(Item::as_inline_table_mut) else { return };
    let Some(strength) = form.remove("concentration").and_then(|v| v.as_str().map(str::to_owned)) else { return };
    let half_width = form.remove("half_width").and_then(|v| v.as_str().map(str::to_owned));
    let strength = half_width.map_or(strength.clone(), |h| with_tolerance(&strength, &h));
    form.insert("strength", strength.into());
}

/// `3.0 g` and `0.1 g` are `3.0 ± 0.1 g`.
fn with_tolerance(value: &str, tolerance: &str) -> String {
    let (number, unit) = value.split_once(' ').unwrap_or((value, ""));
    let (width, _) = tolerance.split_once(' ').unwrap_or((tolerance, ""));
    format!("{number} ± {width} {unit}").trim_end().to_owned()
}

#[cfg(test)]
mod tests {
    use super::upgraded;

    #[test]
    fn a_file_of_the_first_format_says_the_same_in_the_present_one() {
        let old = "format = \"0.1\"\n\n# kept\n[reaction]\nequation = \"A\"\n\n[[materials]]\nplanned = \"3.0 g\"\nband = \"0.1 g\"\n\
                   form = { kind = \"solution\", concentration = \"1.00 mol/L\", half_width = \"0.003 mol/L\" }\n";
        let new = upgraded(old).unwrap();
        for kept in [
            "format = \"1.1\"",
            "# kept\n[[reactions]]",
            "planned = \"3.0 ± 0.1 g\"",
            "strength = \"1.00 ± 0.003 mol/L\"",
        ] {
            assert!(new.contains(kept), "{new}");
        }
        assert_eq!(upgraded(&new), None);
    }
}
