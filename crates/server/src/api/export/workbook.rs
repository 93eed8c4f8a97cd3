//! Workbooks: a sheet for each table. Numbers are numbers, with as many places as they were written with; what was typed is text
//! and never a formula.

use crate::clock;
use lab::record::{Cell, Table};
use rust_xlsxwriter::{Format, Workbook};
use spreadsheet_ods::{Sheet, WorkBook};

/// Widest that a column is made, in characters.
const WIDEST: usize = 48;

/// Office Open XML.
pub fn xlsx(tables: &[Table]) -> anyhow::Result<Vec<u8>> {
    let mut book = Workbook::new();
    let head = Format::new().set_bold();
    for table in tables {
        let sheet = book.add_worksheet();
        sheet.set_name(table.name)?;
        sheet.set_freeze_panes(1, 1)?;
        for (column, name) in (0u16..).zip(&table.head) {
            sheet.write_string_with_format(0, column, name, &head)?;
            let cells = table.rows.iter().filter_map(|row| row.get(usize::from(column)));
            let widest = cells.map(|c| shown(c).chars().count()).chain([name.chars().count()]).max().unwrap_or(0);
            sheet.set_column_width(column, f64::from(u8::try_from(widest.min(WIDEST) + 2).unwrap_or(u8::MAX)))?;
        }
        for (line, row) in (1u32..).zip(&table.rows) {
            for (column, cell) in (0u16..).zip(row) {
                match cell {
                    Cell::Empty => {}
                    Cell::Number { text, value } => {
                        let format = Format::new().set_num_format(places(text));
                        sheet.write_number_with_format(line, column, *value, &format)?;
                    }
                    Cell::Text(_) | Cell::Moment(_) => {
                        sheet.write_string(line, column, shown(cell))?;
                    }
                }
            }
        }
    }
    Ok(book.save_to_buffer()?)
}

/// OpenDocument.
pub fn ods(tables: &[Table]) -> anyhow::Result<Vec<u8>> {
    let mut book = WorkBook::default();
    for table in tables {
        let mut sheet = Sheet::new(table.name);
        for (column, name) in (0u32..).zip(&table.head) {
            sheet.set_value(0, column, name.as_str());
        }
        for (line, row) in (1u32..).zip(&table.rows) {
            for (column, cell) in (0u32..).zip(row) {
                match cell {
                    Cell::Empty => {}
                    Cell::Number { value, .. } => sheet.set_value(line, column, *value),
                    Cell::Text(_) | Cell::Moment(_) => sheet.set_value(line, column, shown(cell)),
                }
            }
        }
        book.push_sheet(sheet);
    }
    Ok(spreadsheet_ods::write_ods_buf(&mut book, Vec::new())?)
}

fn shown(cell: &Cell) -> String {
    match cell {
        Cell::Empty => String::new(),
        Cell::Text(text) | Cell::Number { text, .. } => text.clone(),
        Cell::Moment(at) => clock::written(*at),
    }
}

/// The format that shows as many places as were written: `0.00` for 25.00.
fn places(text: &str) -> String {
    let after = text.split_once('.').map_or(0, |(_, after)| after.len());
    if text.contains(['e', 'E']) || after == 0 { "General".into() } else { format!("0.{}", "0".repeat(after.min(15))) }
}
