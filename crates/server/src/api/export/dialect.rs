//! A table as text, the way a spreadsheet of the country reads it: with a decimal point, or with a decimal comma and semicolons.

use crate::clock;
use lab::record::{Cell, Table};
use serde::Deserialize;

/// How numbers and columns are told apart.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Dialect {
    /// `24.85`, columns by commas.
    #[default]
    Point,
    /// `24,85`, columns by semicolons.
    Comma,
}

/// The table in UTF-8 with a mark at its beginning, by which a spreadsheet knows that it is.
pub fn written(table: &Table, dialect: Dialect) -> Result<Vec<u8>, csv::Error> {
    let separator = match dialect {
        Dialect::Point => b',',
        Dialect::Comma => b';',
    };
    let mut builder = csv::WriterBuilder::new();
    let mut out = builder.delimiter(separator).terminator(csv::Terminator::CRLF).from_writer(vec![0xEF, 0xBB, 0xBF]);
    out.write_record(table.head.iter().map(|cell| safe(cell)))?;
    for row in &table.rows {
        out.write_record(row.iter().map(|cell| shown(cell, dialect)))?;
    }
    out.into_inner().map_err(|e| e.into_error().into())
}

fn shown(cell: &Cell, dialect: Dialect) -> String {
    match (cell, dialect) {
        (Cell::Empty, _) => String::new(),
        (Cell::Text(text), _) => safe(text),
        (Cell::Number { text, .. }, Dialect::Point) => text.clone(),
        (Cell::Number { text, .. }, Dialect::Comma) => text.replace('.', ","),
        (Cell::Moment(at), _) => clock::written(*at),
    }
}

/// What parts cells in one country or another: a file may be opened where it is not this dialect's.
const SEPARATORS: [char; 5] = [';', ',', '\t', '\n', '\r'];

/// What a spreadsheet would run as a formula gets a leading apostrophe, wherever a cell could begin; a plain number does not.
pub fn safe(cell: &str) -> String {
    cell.split_inclusive(SEPARATORS).map(harmless).collect()
}

fn harmless(part: &str) -> String {
    let begins = part.trim_start().starts_with(['=', '+', '-', '@']);
    let is_number = part.trim_end_matches(SEPARATORS).trim().parse::<f64>().is_ok();
    if begins && !is_number { format!("'{part}") } else { part.to_owned() }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn formulas_are_quoted_and_numbers_are_not() {
        assert_eq!(safe("=HYPERLINK(\"x\")"), "'=HYPERLINK(\"x\")");
        assert_eq!(safe("@SUM(A1)"), "'@SUM(A1)");
        assert_eq!(safe("-cmd|' /C calc'!A0"), "'-cmd|' /C calc'!A0");
        assert_eq!(safe("-0.25"), "-0.25");
        assert_eq!(safe("Beryl"), "Beryl");
        // Where semicolons part cells the second half would be one.
        assert_eq!(safe("Beryl;=1+1"), "Beryl;'=1+1");
        assert_eq!(safe("pink, @SUM(A1)\t=2"), "pink,' @SUM(A1)\t'=2");
        assert_eq!(safe("Na+, Cl-; -0,25"), "Na+, Cl-; -0,25");
    }

    #[test]
    fn each_dialect_keeps_digits_and_quotes_what_it_must() {
        let row = vec![Cell::text("Grün; \"A\""), Cell::number("25.00"), Cell::text("=1+1"), Cell::Empty];
        let table =
            Table { name: "t", head: ["group", "V / mL", "said", "none"].map(str::to_owned).to_vec(), rows: vec![row] };
        let text = |dialect| String::from_utf8(written(&table, dialect).unwrap()).unwrap();
        assert_eq!(text(Dialect::Point), "\u{feff}group,V / mL,said,none\r\n\"Grün; \"\"A\"\"\",25.00,'=1+1,\r\n");
        assert_eq!(text(Dialect::Comma), "\u{feff}group;V / mL;said;none\r\n\"Grün; \"\"A\"\"\";25,00;'=1+1;\r\n");
    }
}
