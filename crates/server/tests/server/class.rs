//! A class through its interface: what a bench enters is judged, corrected and told, live and afterwards.

use crate::process::{Client, Server, entry, reading};
use serde_json::{Value, json};

fn board_row(desk: &Client, name: &str) -> Value {
    let board = desk.get("/api/v1/runs/1/board").body;
    board["rows"].as_array().unwrap().iter().find(|r| r["name"] == name).unwrap().clone()
}

fn result(row: &Value, name: &str) -> Value {
    let results = row["outcome"]["results"].as_array().unwrap();
    results.iter().find(|r| r["name"] == name).unwrap()["state"].clone()
}

/// Galena: 53.11 − 50.08 = 3.03 g of 6.16 g are 49.2 %, by hand.
#[test]
fn a_reading_is_recomputed_and_a_correction_keeps_the_old_value() {
    let server = Server::demo();
    let (galena, id) = server.bench("Galena", "553943");
    let desk = server.desk();
    let waiting = result(&board_row(&desk, "Galena"), "percent_yield");
    assert_eq!((waiting["kind"].as_str(), &waiting["missing"]), (Some("not-yet"), &json!(["m_dish_crystals"])));

    assert_eq!(
        galena.post("/api/v1/bench/entries", &entry(1, id, &reading("m_dish_crystals", "5.311", "g"))).status,
        200
    );
    let finding = galena.get("/api/v1/bench").body["findings"]["m_dish_crystals"].clone();
    // Lighter than its dish: the pair says where to look, and no number is offered.
    assert_eq!((&finding[0]["fit"], finding[2]["kind"].as_str()), (&json!(null), Some("lighter-than-container")));

    let mut correction = entry(2, id, &reading("m_dish_crystals", "53.11", "g"));
    correction["supersedes"] = json!(uuid::Uuid::from_u128(1));
    correction["reason"] = json!("point in the wrong place");
    assert_eq!(galena.post("/api/v1/bench/entries", &correction).status, 200);
    let row = board_row(&desk, "Galena");
    let entered = &row["readings"]["m_dish_crystals"];
    assert_eq!((entered["text"].as_str(), &entered["struck"][0]["text"]), (Some("53.11"), &json!("5.311")));
    assert_eq!(entered["struck"][0]["reason"], "point in the wrong place");
    assert_eq!(result(&row, "percent_yield")["text"], "49.2");
    assert_eq!(row["outcome"]["findings"].get("m_dish_crystals"), None);
}

/// The demo's class: a damp product, a dish not subtracted, swapped digits, an answer carried forward, too many digits.
#[test]
fn the_demo_class_is_judged_as_its_story_says() {
    let server = Server::demo();
    let desk = server.desk();
    let verdict = |group: &str, result: &str| board_row(&desk, group)["outcome"]["verdicts"][result].clone();
    assert_eq!(verdict("Beryl", "percent_yield")["value"]["kind"], "right");
    assert_eq!(verdict("Calcite", "m_theory")["value"]["kind"], "wrong");
    let carried = verdict("Calcite", "percent_yield");
    assert_eq!(
        (&carried["value"]["kind"], &carried["value"]["origins"]),
        (&json!("carried-forward"), &json!(["m_theory"]))
    );
    assert_eq!(board_row(&desk, "Dolomite")["outcome"]["yield_findings"]["percent_yield"]["kind"], "damp");
    let feldspar = verdict("Feldspar", "percent_yield");
    assert_eq!(
        (&feldspar["value"]["kind"], feldspar["comparison"]["ratio_shown"].as_str()),
        (&json!("wrong"), Some("13.7"))
    );
    let swapped = board_row(&desk, "Haematite")["outcome"]["findings"]["m_carbonate"][0]["fit"].clone();
    assert_eq!(swapped, json!({ "kind": "digits-swapped", "reads": "2.91" }));
    assert_eq!(verdict("Olivine", "percent_yield")["digits"], json!({ "kind": "too-many", "typed": 5, "wanted": 3 }));
    // An amount in mol where mmol would do as well is right in its unit.
    assert_eq!(verdict("Galena", "n_acid")["unit"]["kind"], "right");
}

#[test]
fn a_worked_solution_is_from_the_groups_own_readings() {
    let server = Server::demo();
    let desk = server.desk();
    let id = board_row(&desk, "Beryl")["group"].clone();
    let worked = desk.get(&format!("/api/v1/runs/1/groups/{id}/worked/percent_yield")).body;
    let lines = worked["lines"].as_array().unwrap();
    let last = lines.last().unwrap();
    assert_eq!((last["name"].as_str(), last["result"].as_str()), (Some("percent_yield"), Some("62.0")));
    let readings: Vec<&str> =
        lines.iter().flat_map(|l| l["numbers"].as_array().unwrap()).filter_map(|t| t["reading"].as_str()).collect();
    assert!(
        ["m_dish", "m_dish_crystals", "V_acid", "m_carbonate"].iter().all(|r| readings.contains(r)),
        "{readings:?}"
    );
    assert_eq!(desk.get(&format!("/api/v1/runs/1/groups/{id}/worked/nothing")).refusal().0, 404);
    assert_eq!(desk.get("/api/v1/runs/1/groups/999/worked/percent_yield").refusal().0, 404);
}

/// A time is the device's, held between its last contact and receipt; what had to be held is marked as doubtful.
#[test]
fn the_time_of_a_reading_is_held_between_contact_and_receipt() {
    let server = Server::demo();
    let (galena, id) = server.bench("Galena", "553943");
    let now = galena.get("/api/v1/bench").body["now"].as_i64().unwrap();
    let enter = |n: u128, symbol: &str, text: &str, taken_at: i64| {
        let mut e = entry(n, id, &reading(symbol, text, "g"));
        e["taken_at"] = json!(taken_at);
        e["last_contact"] = json!(now);
        let standing = galena.get("/api/v1/bench").body["entered"][symbol]["id"].clone();
        if standing.is_string() {
            e["supersedes"] = standing;
            e["reason"] = json!("read anew");
        }
        assert_eq!(galena.post("/api/v1/bench/entries", &e).status, 200);
        galena.get("/api/v1/bench").body["entered"][symbol].clone()
    };
    let from_the_future = enter(1, "m_dish_crystals", "53.11", now + 86_400_000);
    assert_eq!(from_the_future["about"], true);
    assert!(from_the_future["at"].as_i64().unwrap() < now + 600_000);
    let from_the_past = enter(2, "m_carbonate", "3.11", 5);
    assert_eq!((from_the_past["about"].as_bool(), from_the_past["at"].as_i64()), (Some(true), Some(now)));
    let honest = enter(3, "m_dish", "50.09", now);
    assert_eq!((honest["about"].as_bool(), honest["at"].as_i64()), (Some(false), Some(now)));
}

/// The instructor's stream tells the recomputed row of the group that entered something, and its number.
#[test]
fn an_entry_is_told_live_to_the_board() {
    let server = Server::demo();
    let desk = server.desk();
    let (galena, id) = server.bench("Galena", "553943");
    let told = desk.first_event("/api/v1/runs/1/events", || {
        assert_eq!(
            galena.post("/api/v1/bench/entries", &entry(1, id, &reading("m_dish_crystals", "53.11", "g"))).status,
            200
        );
    });
    assert_eq!((told["kind"].as_str(), told["rows"][0]["name"].as_str()), (Some("rows"), Some("Galena")));
    assert_eq!(result(&told["rows"][0], "percent_yield")["text"], "49.2");
}

#[test]
fn the_export_holds_what_was_typed_and_what_was_corrected() {
    let server = Server::demo();
    let desk = server.desk();
    let csv = desk.get("/api/v1/runs/1/export.csv").text;
    let mut reader = csv::Reader::from_reader(csv.as_bytes());
    let head = reader.headers().unwrap().clone();
    let rows: Vec<csv::StringRecord> = reader.records().map(Result::unwrap).collect();
    let cell = |group: &str, column: &str| {
        let at = head.iter().position(|h| h == column).unwrap_or_else(|| panic!("no column '{column}' in {head:?}"));
        rows.iter().find(|r| &r[0] == group).unwrap()[at].to_owned()
    };
    assert_eq!(rows.len(), 8);
    assert_eq!(cell("Jasper", "mass of basic magnesium carbonate / g"), "3.02");
    assert_eq!(
        cell("Jasper", "mass of basic magnesium carbonate, earlier values and why"),
        "30.2 (point in the wrong place)"
    );
    assert_eq!(cell("Olivine", "percent yield, answer"), "72.545");
    assert_eq!(cell("Olivine", "percent yield, digits"), "too many: 5 for 3");
    assert_eq!(cell("Galena", "percent yield recomputed / %"), "");
    assert_eq!(cell("Calcite", "percent yield, value"), "right with own m_theory");
}
