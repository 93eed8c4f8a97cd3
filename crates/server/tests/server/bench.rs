//! The bench over the wire: clocks that survive, two devices at one reading, the instruments of the room.

use crate::process::{Client, PASSPHRASE, Server, entry, groups_of, reading};
use serde_json::{Value, json};

const ENTRIES: &str = "/api/v1/bench/entries";

fn row(desk: &Client, name: &str) -> Value {
    let board = desk.get("/api/v1/runs/1/board").body;
    board["rows"].as_array().unwrap().iter().find(|r| r["name"] == name).unwrap().clone()
}

#[test]
fn a_clock_outlives_the_server_and_stands_on_the_board() {
    let server = Server::empty();
    let account = json!({ "name": "R. Ashdown", "passphrase": PASSPHRASE });
    assert_eq!(server.client().post("/api/v1/accounts", &account).status, 204);
    let desk = server.desk();
    let new = json!({ "practical": "epsom-salt", "class": "11-Slate", "groups": groups_of(&["Galena"]) });
    let run = desk.post("/api/v1/runs", &new).body;
    let code = run["code"].as_str().unwrap().to_owned();
    let id = server.client().post("/api/v1/join", &json!({ "code": code })).body["groups"][0]["id"].as_i64().unwrap();
    let galena = server.client();
    assert_eq!(galena.post("/api/v1/join/claim", &json!({ "code": code, "group": id })).status, 204);

    let start = json!({ "kind": "clock", "step": 5, "running": true, "seconds": 1200 });
    assert_eq!(galena.post(ENTRIES, &entry(1, id, &start)).status, 200);
    let of = |clocks: &Value| {
        let clock = clocks.as_array().unwrap().iter().find(|c| c["step"] == 5).unwrap().clone();
        (clock["since"].as_i64().unwrap(), clock["seconds"].clone(), clock["stopped"].clone())
    };
    let before = of(&row(&desk, "Galena")["clocks"]);
    assert_eq!((before.1.clone(), before.2.clone()), (json!(1200), Value::Null));
    let again = Server::start(server.kill(), &[]);
    let (galena, desk) = (galena.at(&again), desk.at(&again));
    assert_eq!(of(&galena.get("/api/v1/bench").body["clocks"]), before);
    let stop = json!({ "kind": "clock", "step": 5, "running": false });
    assert_eq!(galena.post(ENTRIES, &entry(2, id, &stop)).status, 200);
    let (since, _, stopped) = of(&row(&desk, "Galena")["clocks"]);
    assert_eq!(since, before.0);
    assert!(stopped.as_i64().unwrap() >= since);
}

#[test]
fn a_clock_and_a_call_for_another_group_are_not_taken() {
    let server = Server::demo();
    let (galena, _) = server.bench("Galena", "553943");
    let (_, beryl) = server.bench("Beryl", "418234");
    for said in [json!({ "kind": "clock", "step": 1, "running": true }), json!({ "kind": "help", "wanted": true })] {
        let (status, words) = galena.post(ENTRIES, &entry(3, beryl, &said)).refusal();
        assert_eq!((status, words.as_str()), (403, "this entry was made for another group; it was not taken"));
    }
    assert_eq!(row(&server.desk(), "Beryl")["help"], Value::Null);
}

/// Nobody writes over what they had seen without saying so, nor over what the instructor put right meanwhile.
#[test]
fn what_stands_is_corrected_and_not_written_over() {
    let server = Server::demo();
    let desk = server.desk();
    let (galena, id) = server.bench("Galena", "553943");
    let now = desk.get("/api/v1/session").body["now"].as_i64().unwrap();
    let send = |n: u128, text: &str, more: &Value| {
        let mut new = entry(n, id, &reading("m_dish", text, "g"));
        new["last_contact"] = json!(now);
        new["taken_at"] = json!(now);
        new.as_object_mut().unwrap().extend(more.as_object().unwrap().clone());
        galena.post(ENTRIES, &new)
    };
    let (status, words) = send(1, "51.08", &json!({})).refusal();
    assert_eq!(status, 409);
    assert!(words.starts_with("there is a reading here already, 50.08 g: correct that one, and say why"), "{words}");
    let standing = || row(&desk, "Galena")["readings"]["m_dish"].clone();
    let before = standing();
    assert_eq!(send(2, "50.18", &json!({ "supersedes": before["id"], "reason": "misread" })).status, 200);
    let mended = json!({
        "id": uuid::Uuid::from_u128(3), "entry": reading("m_dish", "50.28", "g"),
        "supersedes": standing()["id"], "reason": "seen on the display"
    });
    assert_eq!(desk.post(&format!("/api/v1/runs/1/groups/{id}/entries"), &mended).status, 200);
    // The phone that was offline still corrects what it had seen.
    let stale = json!({ "supersedes": uuid::Uuid::from_u128(2), "reason": "misread again" });
    assert!(send(4, "50.38", &stale).refusal().1.starts_with("your instructor has entered 50.28 g here"));
    assert_eq!(standing()["text"], "50.28");
    let named = json!({ "supersedes": standing()["id"], "reason": "weighed once more" });
    assert_eq!(send(5, "50.38", &named).status, 200);
    let struck: Vec<Value> = standing()["struck"].as_array().unwrap().iter().map(|s| s["text"].clone()).collect();
    assert_eq!(struck, [json!("50.08"), json!("50.18"), json!("50.28")], "nothing is lost");
}

#[test]
fn two_devices_correct_one_reading_and_both_hear_in_which_order() {
    let server = Server::demo();
    let ((one, id), (two, _)) = (server.bench("Galena", "553943"), server.bench("Galena", "553943"));
    let first = one.post(ENTRIES, &entry(10, id, &reading("m_dish_crystals", "5.311", "g"))).body;
    assert_eq!(first["overtook"], false);
    let correct = |by: &Client, n: u128, text: &str| {
        let mut new = entry(n, id, &reading("m_dish_crystals", text, "g"));
        new["supersedes"] = json!(uuid::Uuid::from_u128(10));
        // At once: nobody is asked why.
        by.post(ENTRIES, &new).body
    };
    assert_eq!(correct(&one, 11, "53.11")["overtook"], false);
    assert_eq!(correct(&two, 12, "53.12")["overtook"], true);
    let stands = &one.get("/api/v1/bench").body["entered"]["m_dish_crystals"];
    assert_eq!(stands["text"], "53.12");
    let struck: Vec<&str> = stands["struck"].as_array().unwrap().iter().map(|s| s["text"].as_str().unwrap()).collect();
    assert_eq!(struck, ["5.311", "53.11"], "both are kept, in the order in which they came");
}

#[test]
fn a_reason_is_asked_for_after_a_minute_and_not_before() {
    let server = Server::demo();
    let (galena, id) = server.bench("Galena", "553943");
    let first = entry(20, id, &reading("m_dish_crystals", "53.11", "g"));
    galena.post(ENTRIES, &first);
    let taken = galena.get("/api/v1/bench").body["entered"]["m_dish_crystals"]["at"].as_i64().unwrap();
    let correct = |n: u128, after_ms: i64| {
        let mut new = entry(n, id, &reading("m_dish_crystals", "53.12", "g"));
        new["supersedes"] = json!(uuid::Uuid::from_u128(20));
        new["taken_at"] = json!(taken + after_ms);
        new
    };
    // A device cannot claim a time that has not come: it was entered now, at once.
    assert_eq!(galena.post(ENTRIES, &correct(21, 3_600_000)).status, 200);
    // Of a reading of two days ago a reason is asked for.
    let dish = galena.get("/api/v1/bench").body["entered"]["m_dish"]["id"].clone();
    let mut late = entry(22, id, &reading("m_dish", "50.80", "g"));
    late["supersedes"] = dish;
    assert_eq!(galena.post(ENTRIES, &late).refusal(), (422, "a correction says why; the earlier value stays".into()));
    late["reason"] = json!("mistyped");
    assert_eq!(galena.post(ENTRIES, &late).status, 200);
}

#[test]
fn the_rooms_instruments_are_chosen_at_the_bench_and_stay_with_their_readings() {
    let server = Server::demo();
    let desk = server.desk();
    let balance = |name: &str, step: f64| {
        json!({ "sort": "instrument", "name": name, "kind": "balance", "unit": "g", "resolution": step, "tolerance": step,
                "repeatability": 0.0005, "capacity": 100.0, "sensitivity": 0.0 })
    };
    let refused = |item: &Value| desk.put("/api/v1/room", item).refusal();
    assert_eq!(refused(&balance("Balance 9", 0.0)).0, 422);
    assert!(refused(&balance(" ", 0.01)).1.contains("1 to 60 characters"));
    assert!(
        refused(&json!({ "sort": "vessel", "vessel": "vial", "tag": "1", "mass": "light" })).1.contains("its mass")
    );
    assert_eq!(desk.put("/api/v1/room", &balance("Balance 9", 0.001)).status, 200);

    let (galena, id) = server.bench("Galena", "553943");
    let view = galena.get("/api/v1/bench").body;
    let offered = view["instruments"]["m_dish"].as_array().unwrap();
    assert_eq!(offered.iter().find(|i| i["name"] == "Balance 9").unwrap()["decimals"], 3);
    let on = |n: u128, name: &str| {
        let mut said = reading("m_dish_crystals", "53.11", "g");
        said["on"] = json!(name);
        galena.post(ENTRIES, &entry(n, id, &said))
    };
    assert_eq!(
        on(30, "Balance 77").refusal(),
        (404, "there is no such instrument for this reading in the room".into())
    );
    assert_eq!(on(31, "Balance 9").status, 200);
    let findings = |of: &Client| of.get("/api/v1/bench").body["findings"]["m_dish_crystals"].clone();
    assert_eq!(findings(&galena), json!([{ "kind": "decimals", "expected": 3, "typed": 2 }]));
    // Taken out of the room it can no longer be chosen; what was read on it keeps it.
    assert_eq!(desk.delete("/api/v1/room/instrument/Balance%209").status, 200);
    assert_eq!(desk.delete("/api/v1/room/instrument/Balance%209").refusal().0, 404);
    assert_eq!(on(32, "Balance 9").refusal().0, 404);
    assert_eq!(findings(&galena), json!([{ "kind": "decimals", "expected": 3, "typed": 2 }]));
    // A group does not furnish the room.
    assert_eq!(galena.put("/api/v1/room", &balance("Balance 8", 0.01)).refusal().0, 401);
}

/// Titre 25.10 mL of aliquots in the vinegar: the acid's concentration goes with that of the base that was taken.
#[test]
fn a_measured_bottle_counts_in_the_sums_of_those_who_took_from_it() {
    let server = Server::demo();
    let desk = server.desk();
    let new = json!({ "practical": "vinegar", "class": "12-Schist", "groups": groups_of(&["Topaz", "Zircon"]) });
    let run = desk.post("/api/v1/runs", &new).body;
    let bottle = json!({ "sort": "bottle", "name": "bottle M", "holds": "sodium hydroxide", "strength": "0.1 mol/L",
                         "measured": "0.1080 ± 0.0003 mol/L" });
    assert_eq!(desk.put("/api/v1/room", &bottle).status, 200);
    let strong = json!({ "sort": "bottle", "name": "bottle N", "holds": "sodium hydroxide", "measured": "strong" });
    assert!(desk.put("/api/v1/room", &strong).refusal().1.contains("its measured strength"));

    let at = |name: &str| {
        let client = server.client();
        let code = run["code"].as_str().unwrap();
        let groups = client.post("/api/v1/join", &json!({ "code": code })).body["groups"].as_array().unwrap().clone();
        let id = groups.iter().find(|g| g["name"] == name).unwrap()["id"].as_i64().unwrap();
        assert_eq!(client.post("/api/v1/join/claim", &json!({ "code": code, "group": id })).status, 204);
        (client, id)
    };
    let mut n = 40;
    let mut say = |(client, id): &(Client, i64), said: &Value| {
        n += 1;
        let sent = client.post(ENTRIES, &entry(n, *id, said));
        assert_eq!(sent.status, 200, "{}", sent.text);
    };
    let (topaz, zircon) = (at("Topaz"), at("Zircon"));
    let view = topaz.0.get("/api/v1/bench").body;
    let specs = view["readings"].as_array().unwrap().clone();
    for group in [&topaz, &zircon] {
        for spec in specs.iter().filter(|s| s["axis"].is_null()) {
            let nominal = spec["nominal"].as_str().unwrap_or("1.00");
            let said = reading(spec["symbol"].as_str().unwrap(), nominal, spec["unit"].as_str().unwrap());
            say(group, &said);
        }
        for trial in [2, 3] {
            say(group, &reading(&format!("V_start[{trial}]"), "0.10", "mL"));
            say(group, &reading(&format!("V_end[{trial}]"), "21.20", "mL"));
        }
    }
    say(&topaz, &json!({ "kind": "bottle", "material": "base", "name": "bottle M" }));
    let board = desk.get(&format!("/api/v1/runs/{}/board", run["id"])).body;
    let concentration = |name: &str| {
        let row = board["rows"].as_array().unwrap().iter().find(|r| r["name"] == name).unwrap().clone();
        let results = row["outcome"]["results"].as_array().unwrap().clone();
        let mol = results.iter().find(|r| r["state"]["unit"] == "mol/L").unwrap_or_else(|| panic!("{results:?}"));
        (mol["state"]["value"].as_f64().unwrap(), row["uses"].to_string())
    };
    let ((plain, _), (measured, uses)) = (concentration("Zircon"), concentration("Topaz"));
    // Labelled 0.1000 mol/L, measured 0.1080 mol/L.
    assert!((measured / plain - 1.08).abs() < 1e-9, "{measured} {plain}");
    assert!(uses.contains("sodium hydroxide from bottle M"), "{uses}");
}

/// The story that the core's and the page's tests tell as well.
#[test]
fn a_story_told_over_the_wire_comes_to_what_it_says() {
    let story: Value = serde_json::from_str(include_str!("../../../lab/tests/lab/story.json")).unwrap();
    let server = Server::empty();
    let account = json!({ "name": "R. Ashdown", "passphrase": PASSPHRASE });
    assert_eq!(server.client().post("/api/v1/accounts", &account).status, 204);
    let new = json!({ "practical": story["practical"], "class": "11-Slate", "groups": groups_of(&["Galena"]) });
    let code = server.desk().post("/api/v1/runs", &new).body["code"].as_str().unwrap().to_owned();
    let id = server.client().post("/api/v1/join", &json!({ "code": code })).body["groups"][0]["id"].as_i64().unwrap();
    let galena = server.client();
    assert_eq!(galena.post("/api/v1/join/claim", &json!({ "code": code, "group": id })).status, 204);
    for (n, said) in (1..).zip(story["said"].as_array().unwrap()) {
        let mut new = entry(n, id, &said["entry"]);
        new["reason"] = said["reason"].clone();
        assert_eq!(galena.post(ENTRIES, &new).status, 200, "{said}");
    }
    let view = galena.get("/api/v1/bench").body;
    let shown = |places: &Value| -> Value {
        let one = |e: &Value| {
            let struck = e["struck"].as_array().unwrap().iter().map(|s| json!([s["text"], s["reason"]]));
            json!({ "text": e["text"], "confirmed": e["confirmed"], "struck": struck.collect::<Vec<_>>() })
        };
        places.as_object().unwrap().iter().map(|(k, e)| (k.clone(), one(e))).collect::<serde_json::Map<_, _>>().into()
    };
    let list = |of: &Value, make: &dyn Fn(&Value) -> Value| -> Vec<Value> {
        of.as_array().unwrap().iter().map(make).collect()
    };
    let found = json!({
        "readings": shown(&view["entered"]),
        "answers": shown(&view["answered"]),
        "done": view["steps_done"],
        "clocks": list(&view["clocks"], &|c| json!([c["step"], c["seconds"]])),
        "deviations": list(&view["deviations"], &|d| d["nr"].clone()),
        "help": view["help"],
    });
    assert_eq!(found, story["stands"]);
}
