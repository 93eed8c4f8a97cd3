//! Cells of a spreadsheet file (Office Open XML, OpenDocument) or of text with separators, as they were typed where that can be
//! known. A number in a workbook has lost its last zeros; what was typed as text has not.
//!
//! What comes in is hostile: it is unpacked against a limit before anything reads it, formulas count with the value that they
//! show, and nothing is computed.

use calamine::{Data, Reader, Sheets, open_workbook_auto_from_rs};
use serde::{Deserialize, Serialize};
use std::io::{self, Cursor, Read};
use utoipa::ToSchema;
use zip::ZipArchive;

/// Largest file that is taken in.
pub const MOST_BYTES: usize = 4 * 1024 * 1024;
/// Largest that it may be unpacked.
const MOST_UNPACKED: u64 = 64 * 1024 * 1024;
/// Rows and columns of a sheet that are looked at: a class with its head.
pub const MOST_ROWS: usize = 500;
const MOST_COLUMNS: usize = 200;
/// Longest text of a cell.
const MOST_CHARACTERS: usize = 200;

/// What stands in a cell.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "is", content = "text", rename_all = "kebab-case")]
pub enum GridCell {
    /// Nothing.
    Nothing,
    /// As it was typed.
    Text(String),
    /// A number as the workbook has it, without zeros at its end.
    Number(String),
    /// A day or a time.
    Date(String),
    /// A formula that went wrong, or a value that is true or false.
    Other(String),
}

/// One sheet.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct Grid {
    /// As the workbook calls it; empty for text.
    pub name: String,
    /// Row by row, each as long as the longest.
    pub rows: Vec<Vec<GridCell>>,
    /// There is more in it than is looked at.
    pub cut: bool,
}

/// Why a file cannot be read.
#[derive(Debug, thiserror::Error)]
pub enum BadGrid {
    /// Larger than anything that holds a class.
    #[error("a spreadsheet has at most {} MB", MOST_BYTES / 1024 / 1024)]
    TooLarge,
    /// A small file that would unpack to a huge one.
    #[error("this file unpacks to more than {} MB: it is no class's spreadsheet", MOST_UNPACKED / 1024 / 1024)]
    Bomb,
    /// A workbook that is damaged, or locked with a password.
    #[error("this workbook cannot be read ({0})")]
    Workbook(String),
    /// Text that is not UTF-8.
    #[error("this is neither a workbook (XLSX, ODS) nor text in UTF-8")]
    NoText,
    /// Nothing in it.
    #[error("there is nothing in this file")]
    Empty,
}

/// The sheets of a file that have something in them.
///
/// # Errors
/// [`BadGrid`], with nothing kept of the file.
pub fn grids(bytes: &[u8]) -> Result<Vec<Grid>, BadGrid> {
    if bytes.len() > MOST_BYTES {
        return Err(BadGrid::TooLarge);
    }
    let grids = if bytes.starts_with(b"PK") { workbook(bytes)? } else { vec![separated(bytes)?] };
    let grids: Vec<Grid> = grids.into_iter().filter(|g| !g.rows.is_empty()).collect();
    if grids.is_empty() { Err(BadGrid::Empty) } else { Ok(grids) }
}

fn workbook(bytes: &[u8]) -> Result<Vec<Grid>, BadGrid> {
    let broken = |why: &dyn std::fmt::Display| BadGrid::Workbook(why.to_string());
    unpacks(bytes)?;
    let mut sheets: Sheets<_> = open_workbook_auto_from_rs(Cursor::new(bytes)).map_err(|e| broken(&e))?;
    let mut out = Vec::new();
    for name in sheets.sheet_names() {
        let range = sheets.worksheet_range(&name).map_err(|e| broken(&e))?;
        let cut = range.height() > MOST_ROWS || range.width() > MOST_COLUMNS;
        let rows = range.rows().take(MOST_ROWS).map(|row| row.iter().take(MOST_COLUMNS).map(cell).collect());
        out.push(Grid { name, rows: trimmed(rows.collect()), cut });
    }
    Ok(out)
}

/// Unpacks every part against the limit: what a file says of its own size is not believed.
fn unpacks(bytes: &[u8]) -> Result<(), BadGrid> {
    let broken = |e: &dyn std::fmt::Display| BadGrid::Workbook(e.to_string());
    let mut archive = ZipArchive::new(Cursor::new(bytes)).map_err(|e| broken(&e))?;
    let mut left = MOST_UNPACKED;
    for i in 0..archive.len() {
        let part = archive.by_index(i).map_err(|e| broken(&e))?;
        let read = io::copy(&mut part.take(left + 1), &mut io::sink()).map_err(|e| broken(&e))?;
        left = left.checked_sub(read).ok_or(BadGrid::Bomb)?;
    }
    Ok(())
}

fn cell(data: &Data) -> GridCell {
    match data {
        Data::Empty => GridCell::Nothing,
        Data::String(text) => typed(text),
        Data::Float(x) => GridCell::Number(x.to_string()),
        Data::Int(n) => GridCell::Number(n.to_string()),
        Data::DateTime(at) => GridCell::Date(at.to_string()),
        Data::DateTimeIso(at) | Data::DurationIso(at) => GridCell::Date(at.clone()),
        Data::Bool(b) => GridCell::Other(b.to_string()),
        Data::Error(e) => GridCell::Other(e.to_string()),
    }
}

fn typed(text: &str) -> GridCell {
    let plain: String = text.trim().chars().filter(|c| !c.is_control()).take(MOST_CHARACTERS).collect();
    if plain.is_empty() { GridCell::Nothing } else { GridCell::Text(plain) }
}

/// Text with tabs, semicolons or commas between its fields: whichever most lines agree on.
fn separated(bytes: &[u8]) -> Result<Grid, BadGrid> {
    let text = std::str::from_utf8(bytes).map_err(|_| BadGrid::NoText)?;
    let text = text.strip_prefix('\u{feff}').unwrap_or(text);
    if text.contains('\0') {
        return Err(BadGrid::NoText);
    }
    let first = text.lines().find(|l| !l.trim().is_empty()).ok_or(BadGrid::Empty)?;
    // A decimal comma is more than a separator only where nothing else separates.
    let separator = [b'\t', b';', b','].into_iter().find(|s| first.as_bytes().contains(s)).unwrap_or(b'\t');
    let mut lines = csv::ReaderBuilder::new();
    let lines = lines.delimiter(separator).has_headers(false).flexible(true);
    let mut rows = Vec::new();
    let mut cut = false;
    for line in lines.from_reader(text.as_bytes()).records() {
        let line = line.map_err(|_| BadGrid::NoText)?;
        if rows.len() == MOST_ROWS {
            cut = true;
            break;
        }
        cut |= line.len() > MOST_COLUMNS;
        rows.push(line.iter().take(MOST_COLUMNS).map(typed).collect());
    }
    Ok(Grid { name: String::new(), rows: trimmed(rows), cut })
}

/// Rows of one length, without the empty ones at the end.
fn trimmed(mut rows: Vec<Vec<GridCell>>) -> Vec<Vec<GridCell>> {
    while rows.last().is_some_and(|row| row.iter().all(|c| *c == GridCell::Nothing)) {
        rows.pop();
    }
    let width = rows.iter().map(Vec::len).max().unwrap_or(0);
    for row in &mut rows {
        row.resize(width, GridCell::Nothing);
    }
    rows
}

#[cfg(test)]
mod tests {
    use super::*;
    use rust_xlsxwriter::{ExcelDateTime, Format, Formula, Workbook};
    use std::io::Write;
    use zip::ZipWriter;
    use zip::write::SimpleFileOptions;

    fn text(of: &str) -> GridCell {
        GridCell::Text(of.into())
    }

    #[test]
    fn a_workbook_is_read_as_it_shows() {
        let mut book = Workbook::new();
        let sheet = book.add_worksheet();
        sheet.write(0, 0, "group").unwrap().write(0, 1, "Schale / g").unwrap();
        sheet.write(1, 0, "Beryl").unwrap().write(1, 1, 47.9).unwrap();
        sheet.write(2, 0, "Quarz, grün").unwrap().write(2, 1, "48.10").unwrap();
        sheet.write_formula(3, 1, Formula::new("=40+8.25").set_result("48.25")).unwrap();
        let day = ExcelDateTime::from_ymd(2026, 11, 10).unwrap();
        sheet.write_with_format(4, 1, day, &Format::new().set_num_format("d mmm")).unwrap();
        book.add_worksheet().set_name("empty").unwrap();
        let grids = grids(&book.save_to_buffer().unwrap()).unwrap();
        assert_eq!(grids.len(), 1, "an empty sheet is not shown");
        let rows = &grids[0].rows;
        assert_eq!(rows[0], [text("group"), text("Schale / g")]);
        assert_eq!(rows[1], [text("Beryl"), GridCell::Number("47.9".into())]);
        assert_eq!(rows[2], [text("Quarz, grün"), text("48.10")], "typed as text: the zero is there");
        assert_eq!(rows[3][1], GridCell::Number("48.25".into()), "a formula is what it shows");
        assert!(matches!(rows[4][1], GridCell::Date(_)), "{:?}", rows[4][1]);
    }

    #[test]
    fn text_is_read_with_the_separator_of_its_first_line() {
        let read = |of: &str| grids(of.as_bytes()).unwrap().remove(0).rows;
        assert_eq!(
            read("\u{feff}group;m\r\nBeryl;47,90\r\n\r\n"),
            [[text("group"), text("m")], [text("Beryl"), text("47,90")]]
        );
        assert_eq!(read("a\tb\n1,5\t2"), [[text("a"), text("b")], [text("1,5"), text("2")]]);
        assert_eq!(
            read("a,b,c\n\"x, y\",2"),
            [[text("a"), text("b"), text("c")], [text("x, y"), text("2"), GridCell::Nothing]]
        );
    }

    #[test]
    fn what_is_no_spreadsheet_is_refused_in_words() {
        let told = |of: &[u8]| grids(of).unwrap_err().to_string();
        assert!(told(b"").contains("nothing in this file"));
        assert!(told(b"\xff\xfe\x00g").contains("neither a workbook"));
        assert!(told(b"PK\x03\x04 not a zip at all").contains("cannot be read"));
        assert!(told(&vec![b'x'; MOST_BYTES + 1]).contains("at most 4 MB"));
        let mut bomb = ZipWriter::new(Cursor::new(Vec::new()));
        bomb.start_file("xl/workbook.xml", SimpleFileOptions::default()).unwrap();
        (0..70).for_each(|_| bomb.write_all(&vec![b' '; 1024 * 1024]).unwrap());
        let bomb = bomb.finish().unwrap().into_inner();
        assert!(bomb.len() < 200_000 && told(&bomb).contains("unpacks to more than 64 MB"));
        let many = "a,b\n".repeat(2000);
        let grid = grids(many.as_bytes()).unwrap().remove(0);
        assert!(grid.cut && grid.rows.len() == MOST_ROWS);
    }
}
