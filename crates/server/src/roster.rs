//! A roster as it is typed, pasted from a spreadsheet or read from a CSV file.
//!
//! One person a line. Where the first line names columns (`name`, or `first name` and `last name`, in any order and beside
//! others), those columns count; otherwise the whole line is the name, and `Marl, Ona` is turned round. Cells are parted
//! by tabs, semicolons or commas, whichever the first line has.

use crate::line::one_line;

/// Most people of one list.
pub const MOST_PEOPLE: usize = 400;
/// Longest name.
pub const LONGEST_NAME: usize = 80;

/// Why a list of names is not taken.
#[derive(Debug, thiserror::Error)]
pub enum BadRoster {
    /// More lines than any class has people.
    #[error("a list has at most {MOST_PEOPLE} people, and this one has {0} lines")]
    TooManyLines(usize),
    /// More names than any class has people.
    #[error("a list has at most {MOST_PEOPLE} people, and this one has {0}")]
    TooMany(usize),
    /// Cells that cannot be told apart.
    #[error("the list cannot be read ({0})")]
    Unreadable(#[from] csv::Error),
    /// A name beyond any roster, or none.
    #[error("line {0}: a name has 1 to {LONGEST_NAME} characters")]
    Name(u64),
    /// Nobody.
    #[error("there is no name in this list")]
    Empty,
}

/// The names, in order; each once as often as it stands there.
///
/// # Errors
/// [`BadRoster`], with the line, for a list without a name, one that is too long, or a name beyond any roster.
pub fn names(text: &str) -> Result<Vec<String>, BadRoster> {
    // Counted before anything is read: a list of a hundred thousand lines is told apart at once.
    let lines = text.lines().filter(|l| !l.trim().is_empty()).count();
    if lines > MOST_PEOPLE + 1 {
        return Err(BadRoster::TooManyLines(lines));
    }
    let first = text.lines().find(|l| !l.trim().is_empty()).unwrap_or_default();
    let parted = ['\t', ';', ','].into_iter().find(|c| first.contains(*c)).unwrap_or(',');
    let mut reader = csv::ReaderBuilder::new()
        .has_headers(false)
        .flexible(true)
        .delimiter(u8::try_from(parted).expect("one of three ASCII characters"))
        .from_reader(text.trim_start_matches('\u{feff}').as_bytes());
    let mut columns: Option<Columns> = None;
    let mut out = Vec::new();
    for (i, record) in reader.records().enumerate() {
        let record = record?;
        let line = record.position().map_or(i as u64 + 1, csv::Position::line);
        let cells: Vec<&str> = record.iter().map(str::trim).collect();
        if cells.iter().all(|c| c.is_empty()) {
            continue;
        }
        if out.is_empty() && columns.is_none() {
            columns = Columns::of(&cells);
            if columns.is_some() {
                continue;
            }
        }
        let name = match &columns {
            Some(columns) => columns.name(&cells),
            None => whole(&cells, parted),
        };
        out.push(one_line(&name, LONGEST_NAME).ok_or(BadRoster::Name(line))?);
    }
    if out.is_empty() {
        return Err(BadRoster::Empty);
    }
    if out.len() > MOST_PEOPLE {
        return Err(BadRoster::TooMany(out.len()));
    }
    Ok(out)
}

/// Where the names stand.
enum Columns {
    Whole(usize),
    Parts { first: usize, last: usize },
}

impl Columns {
    fn of(cells: &[&str]) -> Option<Columns> {
        let at = |known: &[&str]| {
            cells.iter().position(|c| known.contains(&c.to_lowercase().replace(['_', '-'], " ").trim()))
        };
        let parts = at(&["first name", "given name", "forename", "first"]).zip(at(&[
            "last name",
            "family name",
            "surname",
            "last",
        ]));
        if let Some((first, last)) = parts {
            return Some(Columns::Parts { first, last });
        }
        at(&["name", "full name", "student", "pupil"]).map(Columns::Whole)
    }

    fn name(&self, cells: &[&str]) -> String {
        let cell = |i: usize| cells.get(i).copied().unwrap_or_default();
        match self {
            Columns::Whole(at) => cell(*at).to_owned(),
            Columns::Parts { first, last } => format!("{} {}", cell(*first), cell(*last)),
        }
    }
}

/// A line without columns: one name. A comma turns it round, a tab does not.
fn whole(cells: &[&str], parted: char) -> String {
    match cells {
        [last, first] if parted == ',' => format!("{first} {last}"),
        _ => cells.join(" "),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    macro_rules! reads {
        ($($name:ident: $text:literal => $names:expr,)+) => {$(
            #[test]
            fn $name() {
                assert_eq!(names($text).unwrap(), $names);
            }
        )+};
    }
    reads! {
        one_a_line: "Ona Marl\n\n  Pim   Talus \r\nOna Marl\n" => ["Ona Marl", "Pim Talus", "Ona Marl"],
        a_comma_turns_it_round: "Marl, Ona\nTalus, Pim" => ["Ona Marl", "Pim Talus"],
        pasted_from_a_spreadsheet: "Ona\tMarl\nPim\tTalus" => ["Ona Marl", "Pim Talus"],
        a_file_with_columns: "\u{feff}No;Last name;First name;Form\n1;Marl;Ona;11b\n2;\"Talus; jr\";Pim;11b" => ["Ona Marl", "Pim Talus; jr"],
        a_column_of_names: "id,Name\n7,Ona Marl" => ["Ona Marl"],
        a_name_that_looks_like_a_page: "<script>alert(1)</script>\n=HYPERLINK(1)" => ["<script>alert(1)</script>", "=HYPERLINK(1)"],
        letters_of_any_script: "Łucja Ødegård\n王 小明" => ["Łucja Ødegård", "王 小明"],
    }

    #[test]
    fn what_is_no_roster_is_told_with_its_line_and_nobody_is_enrolled() {
        let told = |text: &str| crate::invalid::Invalid::from(names(text).unwrap_err()).to_string();
        assert_eq!(
            told(&"Ona Marl\n".repeat(100_000)),
            "a list has at most 400 people, and this one has 100000 lines; nobody was put on the roster"
        );
        assert_eq!(told(" \n\n"), "there is no name in this list; nobody was put on the roster");
        assert_eq!(told("name\n"), "there is no name in this list; nobody was put on the roster");
        let long = format!("Ona Marl\n{}", "x".repeat(81));
        assert_eq!(told(&long), "line 2: a name has 1 to 80 characters; nobody was put on the roster");
        assert_eq!(told("Ona\u{7}Marl"), "line 1: a name has 1 to 80 characters; nobody was put on the roster");
    }
}
