//! A class from a spreadsheet: all or nothing, and what is wrong by its cell.

use crate::process::{Client, Server};
use rust_xlsxwriter::Workbook;
use serde_json::{Value, json};

struct Class {
    server: Server,
    desk: Client,
    run: i64,
    groups: Vec<String>,
}

impl Class {
    fn fresh() -> Class {
        let server = Server::demo();
        let desk = server.desk();
        let open = json!({ "practical": "epsom-salt", "class": "10-Shale", "groups": [{ "name": "Talc" }, { "name": "Opal" }] });
        let run = desk.post("/api/v1/runs", &open).body["id"].as_i64().unwrap();
        Class { server, desk, run, groups: vec!["Talc".into(), "Opal".into()] }
    }

    fn path(&self, what: &str) -> String {
        format!("/api/v1/runs/{}/{what}", self.run)
    }

    /// The rows below the head of a workbook with these cells, as the server shows them.
    fn rows(&self, cells: &[[&str; 3]], numbers: bool) -> Value {
        let mut book = Workbook::new();
        let sheet = book.add_worksheet();
        for (r, row) in (0u32..).zip(cells) {
            for (c, text) in (0u16..).zip(row) {
                match text.parse::<f64>() {
                    Ok(x) if numbers => sheet.write(r, c, x).unwrap(),
                    _ => sheet.write(r, c, *text).unwrap(),
                };
            }
        }
        let file = book.save_to_buffer().unwrap();
        let shown = self.desk.send(&self.path("spreadsheet"), &file, &[("x-keen-beaker", "1")]);
        assert_eq!(shown.status, 200, "{}", shown.text);
        json!(shown.body["sheets"][0]["rows"].as_array().unwrap()[1..])
    }

    fn import(&self, rows: &Value, more: &Value) -> Value {
        let mut body = json!({
            "rows": rows, "names": 0, "names_of": "groups",
            "columns": [
                { "column": 1, "of": { "kind": "reading", "symbol": "m_dish" } },
                { "column": 2, "of": { "kind": "answer", "result": "m_theory", "unit": "g" } },
            ],
        });
        body.as_object_mut().unwrap().extend(more.as_object().unwrap().clone());
        let done = self.desk.post(&self.path("import"), &body);
        assert_eq!(done.status, 200, "{}", done.text);
        done.body
    }

    /// What stands at the benches: dish and answer of each group.
    fn stand(&self) -> Vec<(Option<String>, Option<String>)> {
        let board = self.desk.get(&self.path("board")).body;
        let of = |row: &Value, kind: &str, at: &str| row[kind][at]["text"].as_str().map(str::to_owned);
        board["rows"]
            .as_array()
            .unwrap()
            .iter()
            .map(|r| (of(r, "readings", "m_dish"), of(r, "answers", "m_theory")))
            .collect()
    }
}

#[test]
fn two_bad_cells_keep_a_whole_class_out_and_are_named() {
    let class = Class::fresh();
    let bad = class.rows(&[["group", "dish", "theory"], ["Talc", "4791g?", "6.16"], ["Opul", "48.10", "6.20"]], false);
    let told = class.import(&bad, &json!({}));
    let refused = told["refused"].as_array().unwrap();
    assert_eq!((refused.len(), told["taken"].as_bool()), (2, Some(false)), "{told}");
    assert_eq!((&refused[0]["row"], &refused[0]["column"]), (&json!(0), &json!(1)));
    assert_eq!(refused[1]["why"], "nobody in this run is called “Opul”");
    assert_eq!(class.stand(), [(None, None), (None, None)], "nothing half taken");

    let good = class.rows(&[["group", "dish", "theory"], ["talc ", "47,91", "6160 mg"], ["Opal", "48.10", ""]], false);
    let looked = class.import(&good, &json!({ "only_look": true }));
    assert_eq!((looked["fresh"].as_u64(), looked["taken"].as_bool()), (Some(3), Some(false)));
    assert_eq!(class.stand()[0], (None, None));
    assert_eq!(class.import(&good, &json!({}))["taken"], true);
    let stand = class.stand();
    assert_eq!(stand[0].1.as_deref(), Some("6160"));
    assert_eq!(stand[1], (Some("48.10".into()), None), "digits as typed");
    assert_eq!(class.groups.len(), stand.len());
}

#[test]
fn the_same_file_twice_changes_nothing_and_another_value_wants_a_reason() {
    let class = Class::fresh();
    let rows = class.rows(&[["group", "dish", "theory"], ["Talc", "47.9", "6.16"], ["Opal", "48.1", "6.20"]], true);
    let first = class.import(&rows, &json!({}));
    // The workbook has 47.9 and 6.2: the balance shows 47.90; what a student wrote of a sum nobody knows.
    assert_eq!((first["taken"].as_bool(), first["filled_up"].as_u64()), (Some(true), Some(2)));
    assert_eq!(class.stand()[1], (Some("48.10".into()), Some("6.2".into())));
    let again = class.import(&rows, &json!({}));
    assert_eq!(
        (again["alike"].as_u64(), again["fresh"].as_u64(), again["taken"].as_bool()),
        (Some(4), Some(0), Some(false))
    );

    let other = class.rows(&[["group", "dish", "theory"], ["Talc", "47.95", "6.16"], ["", "", ""]], true);
    let told = class.import(&other, &json!({}));
    assert_eq!(told["refused"][0]["wants_reason"], true, "{told}");
    let done = class.import(&other, &json!({ "reason": "copied from the paper sheet" }));
    assert_eq!((done["replaced"].as_u64(), done["taken"].as_bool()), (Some(1), Some(true)));
    let struck = class.desk.get(&class.path("board")).body["rows"][0]["readings"]["m_dish"]["struck"].clone();
    assert_eq!((&struck[0]["text"], &struck[0]["reason"]), (&json!("47.90"), &json!("copied from the paper sheet")));
}

#[test]
fn what_is_no_spreadsheet_is_refused_and_so_is_a_stranger() {
    let class = Class::fresh();
    let send =
        |client: &Client, bytes: &[u8]| client.send(&class.path("spreadsheet"), bytes, &[("x-keen-beaker", "1")]);
    let (status, why) = send(&class.desk, b"PK\x03\x04 and then nothing").refusal();
    assert!(status == 422 && why.contains("nothing of it was taken"), "{why}");
    assert_eq!(send(&class.server.fairlead(), b"a,b\n1,2").refusal().0, 404);
    assert_eq!(send(&class.server.client(), b"a,b\n1,2").refusal().0, 401);
}
