//! A run as a workbook and as text: written here, read by another library, with every digit that was typed.

use crate::process::Server;
use calamine::{Data, Range, Reader, open_workbook_from_rs};
use serde_json::Value;
use std::collections::BTreeSet;
use std::io::Cursor;

const SHEETS: [&str; 5] = ["marks", "readings", "worked out", "answers", "observations"];

/// A sheet of a workbook as another library reads it, and whether a formula is anywhere in it.
fn sheet<R: Reader<Cursor<Vec<u8>>>>(bytes: &[u8], name: &str) -> Range<Data>
where
    R::Error: std::fmt::Debug,
{
    let mut book: R = open_workbook_from_rs(Cursor::new(bytes.to_vec())).unwrap();
    assert!(book.sheet_names().iter().map(String::as_str).eq(SHEETS), "{:?}", book.sheet_names());
    for name in SHEETS {
        let formulas = book.worksheet_formula(name).unwrap();
        assert!(formulas.used_cells().all(|(_, _, formula)| formula.is_empty()), "{name}");
    }
    book.worksheet_range(name).unwrap()
}

fn column(of: &Range<Data>, head: &str) -> usize {
    of.headers().unwrap().iter().position(|h| h == head).unwrap_or_else(|| panic!("{head}: {:?}", of.headers()))
}

/// Group, as typed, and what it is as a number, of every reading.
fn readings(of: &Range<Data>) -> BTreeSet<(String, String, String)> {
    let [group, typed, value] = ["group", "as typed", "value"].map(|h| column(of, h));
    of.rows().skip(1).map(|r| (r[group].to_string(), r[typed].to_string(), r[value].to_string())).collect()
}

/// What the board says was typed.
fn on_the_board(board: &Value) -> BTreeSet<(String, String, String)> {
    let rows = board["rows"].as_array().unwrap();
    let of = |row: &Value| {
        let group = row["name"].as_str().unwrap().to_owned();
        let typed = row["readings"].as_object().unwrap().values().map(|r| r["text"].as_str().unwrap().to_owned());
        typed
            .map(|t| (group.clone(), t.clone(), t.replace(',', ".").parse::<f64>().unwrap().to_string()))
            .collect::<Vec<_>>()
    };
    rows.iter().flat_map(of).collect()
}

#[test]
fn a_workbook_holds_what_the_board_shows_in_either_format() {
    let server = Server::demo();
    let desk = server.desk();
    for run in [1, 2, 3, 4] {
        let board = on_the_board(&desk.get(&format!("/api/v1/runs/{run}/board")).body);
        assert!(board.iter().any(|(_, typed, value)| typed != value), "a zero at the end of a number");
        let xlsx = desk.bytes(&format!("/api/v1/runs/{run}/export.xlsx"));
        let ods = desk.bytes(&format!("/api/v1/runs/{run}/export.ods"));
        assert_eq!(readings(&sheet::<calamine::Xlsx<_>>(&xlsx, "readings")), board, "run {run}");
        assert_eq!(readings(&sheet::<calamine::Ods<_>>(&ods, "readings")), board, "run {run}");
        let rows = |bytes: &[u8]| sheet::<calamine::Xlsx<_>>(bytes, "worked out").height();
        assert_eq!(rows(&xlsx), sheet::<calamine::Ods<_>>(&ods, "worked out").height());
    }
}

/// Titres and net masses are there, a row each, and the marks add up.
#[test]
fn titres_masses_and_marks_need_no_sum_of_ones_own() {
    let server = Server::demo();
    let desk = server.desk();
    let xlsx = desk.bytes("/api/v1/runs/2/export.xlsx");
    let worked = sheet::<calamine::Xlsx<_>>(&xlsx, "worked out");
    let [group, quantity, trial, written] = ["group", "quantity", "trial", "as written"].map(|h| column(&worked, h));
    let titre = |r: &&[Data]| r[group] == "Alder" && r[quantity] == "titre" && r[trial] == 2.0;
    let board = desk.get("/api/v1/runs/2/board").body;
    let alder = board["rows"].as_array().unwrap().iter().find(|r| r["name"] == "Alder").unwrap();
    let read = |slot: &str| alder["readings"][slot]["text"].as_str().unwrap().parse::<f64>().unwrap();
    let expected = format!("{:.2}", read("V_end[2]") - read("V_start[2]"));
    assert_eq!(worked.rows().find(titre).unwrap()[written], expected.as_str());
    let marks = sheet::<calamine::Xlsx<_>>(&xlsx, "marks");
    for row in marks.rows().skip(1) {
        let given: Vec<f64> =
            row[1..].iter().filter_map(|c| if let Data::Float(f) = c { Some(*f) } else { None }).collect();
        let (sum, parts) = given.split_last().unwrap();
        assert!((sum - parts.iter().sum::<f64>()).abs() < 1e-9, "{row:?}");
    }
}

#[test]
fn text_tables_speak_the_dialect_and_names_stand_only_where_wanted() {
    let server = Server::demo();
    let desk = server.desk();
    let table = |path: &str| desk.get(&format!("/api/v1/runs/2/tables/{path}"));
    let point = table("readings.csv").text;
    let comma = table("readings.csv?decimal=comma").text;
    assert!(
        point.starts_with("\u{feff}group,reading,trial,value")
            && comma.starts_with("\u{feff}group;reading;trial;value")
    );
    assert_eq!(point.lines().count(), comma.lines().count());
    assert_eq!(table("nothing.csv").status, 404);
    assert_eq!(table("readings.csv?decimal=hash").status, 422);
    let people = table("people.csv?names=true").text;
    let name = people.lines().nth(1).unwrap().split(',').next().unwrap().to_owned();
    assert!(name.len() > 3, "{people}");
    assert_eq!(table("people.csv").status, 404);
    for path in ["readings.csv", "answers.csv", "marks.csv", "observations.csv"] {
        assert!(!table(path).text.contains(&name), "{path}");
    }
    // Whoever may not see the run gets no table of it.
    let (group, _) = server.bench("Beryl", "418234");
    assert_eq!(group.get("/api/v1/runs/1/tables/readings.csv").status, 401);
}
