//! Sums looked at, ruled on and given back: by whom, what a group hears and when, and what stays as it was told.

use crate::process::{Client, Server, entry, groups_of, reading};
use serde_json::{Value, json};

const ENTRIES: &str = "/api/v1/bench/entries";
const CHECK: &str = "/api/v1/runs/1/check";
const REVIEWS: &str = "/api/v1/runs/1/reviews";
const RELEASES: &str = "/api/v1/runs/1/releases";

fn sheet(desk: &Client, name: &str) -> Value {
    let sheets = desk.get(CHECK).body["sheets"].as_array().unwrap().clone();
    sheets.into_iter().find(|s| s["name"] == name).unwrap_or_else(|| panic!("no sheet of {name}"))
}

fn review(id: u128, sheet: &Value, result: &str, ruling: &str, comment: &str) -> Value {
    json!({ "reviews": [{
        "id": uuid::Uuid::from_u128(id), "group": sheet["group"], "result": result,
        "answer": sheet["answers"][result]["id"], "ruling": ruling, "comment": comment,
    }] })
}

fn answer(result: &str, text: &str, unit: &str) -> Value {
    json!({ "kind": "answer", "result": result, "text": text, "unit": unit })
}

/// Calcite took the anhydrous salt: 3.01 g for 6.16 g; its percentage follows from that.
#[test]
fn a_slip_is_named_a_ruling_says_why_and_marks_follow() {
    let server = Server::demo();
    let desk = server.desk();
    let calcite = sheet(&desk, "Calcite");
    let named = &calcite["verdicts"]["m_theory"]["diagnosis"]["named"][0];
    assert_eq!(named["slip"], "hydrate-ignored");
    assert_eq!(
        named["at"],
        json!({ "what": [{ "symbol": "crystals", "label": "magnesium sulfate heptahydrate" }], "instead": null })
    );
    assert_eq!(calcite["verdicts"]["percent_yield"]["value"]["kind"], "carried-forward");
    assert_eq!(calcite["given"]["percent_yield"], 5.0);

    let (status, words) = desk.post(REVIEWS, &review(1, &calcite, "m_theory", "right", " ")).refusal();
    assert_eq!((status, words.as_str()), (422, "another ruling than the one worked out says why"));
    let ruled = review(2, &calcite, "m_theory", "right", "the bag said anhydrous");
    assert_eq!(desk.post(REVIEWS, &ruled).status, 204);
    assert_eq!(desk.post(REVIEWS, &ruled).status, 204, "sent again, it is stored once");
    let after = sheet(&desk, "Calcite");
    assert_eq!((&after["given"]["m_theory"], &after["reviews"]["m_theory"]["by"]), (&json!(3.0), &json!("R. Ashdown")));
    assert_eq!(desk.get(CHECK).body["remarks"], json!(["the bag said anhydrous"]));

    // Taken back, nobody has looked at it, and the marks are those that were worked out; the record keeps both.
    let mut back = review(30, &after, "m_theory", "right", "");
    back["reviews"][0]["ruling"] = Value::Null;
    assert_eq!(desk.post(REVIEWS, &back).status, 204);
    let open = sheet(&desk, "Calcite");
    assert_eq!(
        (&open["reviews"]["m_theory"], &open["given"]["m_theory"]),
        (&Value::Null, &calcite["given"]["m_theory"])
    );
    assert_eq!(desk.post(REVIEWS, &review(31, &open, "m_theory", "right", "the bag said anhydrous")).status, 204);

    let mut by_hand = review(3, &after, "percent_yield", "wrong", "copied from the board");
    by_hand["reviews"][0]["marks"] = json!("6");
    assert!(desk.post(REVIEWS, &by_hand).refusal().1.contains("0 to 5"));
    by_hand["reviews"][0]["marks"] = json!("1,5");
    assert_eq!(desk.post(REVIEWS, &by_hand).status, 204);
    assert_eq!(sheet(&desk, "Calcite")["given"]["percent_yield"], 1.5);
    let csv = desk.get("/api/v1/runs/1/export.csv").text;
    assert!(csv.contains("hydrate-ignored,3,the bag said anhydrous"), "{csv}");

    // An answer of another group, or none at all, is not ruled on.
    let beryl = sheet(&desk, "Beryl");
    let mut strange = review(4, &beryl, "m_theory", "as-judged", "");
    strange["reviews"][0]["group"] = calcite["group"].clone();
    assert_eq!(desk.post(REVIEWS, &strange).status, 404);
    assert_eq!(server.bench("Beryl", "418234").0.post(REVIEWS, &ruled).status, 401);
}

#[test]
fn a_group_sees_what_was_given_back_as_it_was_told_and_nothing_before() {
    let server = Server::demo();
    let desk = server.desk();
    let ((calcite, group), (beryl, _)) = (server.bench("Calcite", "735050"), server.bench("Beryl", "418234"));
    let back = |bench: &Client| bench.get("/api/v1/bench").body["feedback"]["given_back"].clone();
    assert_eq!(back(&calcite), json!({}));
    let given = desk.post(RELEASES, &json!({ "groups": [group], "with_values": false }));
    assert_eq!(given.body["sheets"], 1);
    let told = back(&calcite)["m_theory"].clone();
    assert_eq!((&told["stands"], &told["slips"][0]["slip"]), (&json!("wrong"), &json!("hydrate-ignored")));
    assert_eq!((&told["expected"], &told["marks"]), (&Value::Null, &json!(1.5)));
    assert_eq!(back(&beryl), json!({}));
    let whole = calcite.get("/api/v1/bench").body.to_string();
    assert!(!whole.contains("6.16") && !whole.contains("246.47"), "the value was not given back");

    // After class, from home. Corrected, the answer is judged anew at the desk; what was told stays until it is told again.
    assert_eq!(desk.put("/api/v1/runs/1/closed", &json!({ "closed": true })).status, 204);
    assert_eq!(calcite.post(ENTRIES, &entry(8, group, &reading("m_dish", "51.35", "g"))).status, 409);
    let again = entry(9, group, &answer("m_theory", "6.16", "g"));
    assert_eq!(calcite.post(ENTRIES, &again).status, 200);
    assert_eq!(back(&calcite)["m_theory"], told);
    let now = sheet(&desk, "Calcite");
    assert_eq!((&now["verdicts"]["m_theory"]["value"]["kind"], &now["changed_since"]), (&json!("right"), &json!(true)));

    assert_eq!(desk.post(RELEASES, &json!({ "groups": [], "with_values": true })).body["sheets"], 8);
    assert_eq!(back(&beryl)["percent_yield"]["expected"], "62.0 %");
    let late = calcite.post(ENTRIES, &entry(10, group, &answer("m_theory", "6.17", "g")));
    assert!(late.refusal().1.contains("given back already"));
}

/// A reading that is corrected after the answer makes it stale: judged anew, and what it was before is there beside it.
#[test]
fn an_answer_whose_readings_were_corrected_is_judged_anew_and_both_are_shown() {
    let server = Server::demo();
    let desk = server.desk();
    let beryl = sheet(&desk, "Beryl");
    assert_eq!(beryl["stale"], json!({}));
    let readings = desk.get("/api/v1/runs/1/board").body["rows"][0]["readings"].clone();
    let mended = json!({
        "id": uuid::Uuid::from_u128(5), "entry": reading("m_dish_crystals", "51.37", "g"),
        "supersedes": readings["m_dish_crystals"]["id"], "reason": "digits swapped",
    });
    let path = format!("/api/v1/runs/1/groups/{}/entries", beryl["group"]);
    assert_eq!(desk.post(&path, &mended).status, 200);
    let after = sheet(&desk, "Beryl");
    assert_eq!(after["verdicts"]["percent_yield"]["value"]["kind"], "wrong");
    assert_eq!(after["stale"]["percent_yield"]["value"]["kind"], "right");
    assert_eq!(after["stale"]["n_acid"], Value::Null);
    let named = &after["verdicts"]["percent_yield"]["diagnosis"]["named"][0];
    assert_eq!((named["slip"].as_str(), named["instead"].as_str()), (Some("digits-swapped"), Some("51.73 g")));
}

/// A run of this practical with one group, and a device of it.
fn begun(server: &Server, practical: &str) -> (Client, i64, i64) {
    let desk = server.desk();
    let opened = desk.post(
        "/api/v1/runs",
        &json!({ "practical": practical, "class": "11-Basalt", "groups": groups_of(&["Pumice"]) }),
    );
    let (run, code) = (opened.body["id"].as_i64().unwrap(), opened.body["code"].as_str().unwrap().to_owned());
    let board = desk.get(&format!("/api/v1/runs/{run}/board")).body;
    let group = board["rows"][0]["group"].as_i64().unwrap();
    let device = server.client();
    let joined = device.post("/api/v1/join/claim", &json!({ "code": code, "group": group }));
    assert_eq!(joined.status, 204, "{:?}", joined.body);
    (device, run, group)
}

/// Gypsum is told at once and three times at most: right, or where to look again; never the value.
#[test]
fn a_hint_comes_at_once_where_the_practical_says_so_and_attempts_end() {
    let server = Server::demo();
    let (device, _, group) = begun(&server, "gypsum-water");
    let mut id = 100;
    let mut say = |body: &Value| {
        id += 1;
        device.post(ENTRIES, &entry(id, group, body))
    };
    for (symbol, text) in
        [("m_crucible", "31.250"), ("m_filled", "33.262"), ("m_heated[1]", "32.842"), ("m_heated[2]", "32.841")]
    {
        assert_eq!(say(&reading(symbol, text, "g")).status, 200, "{symbol}");
    }
    let hint = |device: &Client| device.get("/api/v1/bench").body["feedback"]["at_once"]["m_water"].clone();
    // 33.262 − 31.250 = 2.012 g of gypsum and 1.591 g of residue leave 0.421 g.
    assert_eq!(say(&answer("m_water", "1.591", "g")).status, 200);
    assert_eq!((&hint(&device)["stands"], &hint(&device)["slip"]), (&json!("wrong"), &json!("complement")));
    assert_eq!(say(&answer("m_water", "0.421", "g")).status, 200);
    assert_eq!(hint(&device)["stands"], "right");
    assert_eq!(say(&answer("m_water", "0.42", "g")).status, 200);
    let (status, words) = say(&answer("m_water", "0.43", "g")).refusal();
    assert_eq!((status, words.as_str()), (422, "here an answer is given 3 times; the last one stands"));
}

/// Twelve phones of one group answer at the same moment: what may be answered three times is answered three times.
#[test]
fn attempts_are_counted_where_they_are_kept() {
    let server = Server::demo();
    let (device, _, group) = begun(&server, "gypsum-water");
    let statuses: Vec<u16> = std::thread::scope(|scope| {
        let say = |n: u128| {
            let body = entry(200 + n, group, &answer("m_water", &format!("0.4{n:02}"), "g"));
            scope.spawn({
                let device = &device;
                move || device.post(ENTRIES, &body).status
            })
        };
        let all: Vec<_> = (0..12).map(say).collect();
        all.into_iter().map(|one| one.join().unwrap()).collect()
    });
    let taken = statuses.iter().filter(|s| **s == 200).count();
    assert_eq!((taken, statuses.iter().filter(|s| **s == 422).count()), (3, 9), "{statuses:?}");
}

/// Where each student has a sheet: whose answer it is is part of it, and it goes when the student's name goes.
#[test]
fn a_student_has_a_sheet_of_their_own_on_the_readings_of_the_group() {
    let server = Server::demo();
    let desk = server.desk();
    let epsom = desk.get("/api/v1/practicals/epsom-salt").body["text"].as_str().unwrap().to_owned();
    let own = epsom.replacen("id = \"epsom-salt\"", "id = \"epsom-alone\"", 1).replacen(
        "\n[[results]]",
        "\n[feedback]\nanswers_of = \"student\"\n\n[[results]]",
        1,
    );
    let imported = desk.post("/api/v1/practicals", &json!({ "kind": "import", "text": own }));
    assert!(imported.status < 300, "{:?}", imported.body);
    let published =
        desk.post("/api/v1/practicals/epsom-alone/publish", &json!({ "step": imported.body["draft"]["step"] }));
    assert_eq!(published.status, 200, "{:?}", published.body);
    let (device, run, group) = begun(&server, "epsom-alone");
    for (i, (symbol, text, unit)) in [("m_carbonate", "3.04", "g"), ("V_acid", "25.00", "mL")].iter().enumerate() {
        assert_eq!(device.post(ENTRIES, &entry(300 + i as u128, group, &reading(symbol, text, unit))).status, 200);
    }
    let theirs = device.post(ENTRIES, &entry(310, group, &answer("n_acid", "25.0", "mmol")));
    assert!(theirs.refusal().1.contains("say whose answer it is"));
    let mut of_a_stranger = answer("n_acid", "25.0", "mmol");
    of_a_stranger["by"] = json!(1);
    assert_eq!(device.post(ENTRIES, &entry(311, group, &of_a_stranger)).status, 403);
    let mut claimed = entry(312, group, &of_a_stranger);
    claimed["person"] = json!(1);
    assert_eq!(device.post(ENTRIES, &claimed).status, 404, "nobody of that number sits here");
    let check = format!("/api/v1/runs/{run}/check");
    assert_eq!(desk.get(&check).body["sheets"], json!([]));

    let roster = desk.get(&format!("/api/v1/runs/{run}/people")).body;
    let student = roster["people"][0]["id"].as_i64().unwrap_or_else(|| panic!("{roster}"));
    let seated = json!({ "visit": 1, "person": student, "group": group });
    assert_eq!(desk.put(&format!("/api/v1/runs/{run}/seats"), &seated).status, 204);
    let mut own = answer("n_acid", "2.50", "mmol");
    own["by"] = json!(student);
    let mut said = entry(313, group, &own);
    said["person"] = json!(student);
    assert_eq!(device.post(ENTRIES, &said).status, 200);
    let sheets = desk.get(&check).body["sheets"].clone();
    assert_eq!((&sheets[0]["person"], &sheets[0]["answers"]["n_acid"]["text"]), (&json!(student), &json!("2.50")));
    assert!(sheets[0]["name"].as_str().unwrap().starts_with("Pumice · "));
    assert_eq!(sheets[0]["verdicts"]["n_acid"]["diagnosis"]["named"][0]["slip"], "decimal-point");
    // A second answer of theirs stands on paper, and is typed in at the desk; nobody else's can be.
    let from_paper = |by: i64, id: u128| {
        let mut typed = answer("m_theory", "0.616", "g");
        typed["by"] = json!(by);
        let body = json!({ "id": uuid::Uuid::from_u128(id), "entry": typed });
        desk.post(&format!("/api/v1/runs/{run}/groups/{group}/entries"), &body).status
    };
    assert_eq!((from_paper(student, 320), from_paper(student + 1, 321)), (200, 404));
    let view = desk.get(&check).body;
    assert_eq!(view["sheets"][0]["verdicts"]["m_theory"]["value"]["kind"], "carried-forward");
    assert_eq!(view["sheets"][0]["answers"]["m_theory"]["by_instructor"], true);
    assert_eq!(view["answerers"][0]["key"], format!("{group}.{student}"));
    let released = desk.post(&format!("/api/v1/runs/{run}/releases"), &json!({ "groups": [], "with_values": false }));
    assert_eq!(released.body["sheets"], 1);
    let back = device.get("/api/v1/bench").body["feedback"]["given_back"].clone();
    assert_eq!(back[format!("n_acid by {student}")]["stands"], "wrong");

    let classes = desk.get("/api/v1/classes").body["classes"].as_array().unwrap().clone();
    let class = &classes.iter().find(|c| c["name"] == "11-Basalt").unwrap()["id"];
    assert_eq!(desk.delete(&format!("/api/v1/classes/{class}/people/{student}")).status, 204);
    assert_eq!(desk.get(&check).body["sheets"], json!([]));
    assert_eq!(device.get("/api/v1/bench").body["feedback"]["given_back"], json!({}));
}

/// Five groups of six said how the filtrate showed it; only somebody who reads it can say whether that is right.
#[test]
fn a_reason_is_read_and_marks_at_the_bench_go_back_with_the_sheet() {
    let server = Server::demo();
    let desk = server.desk();
    let check = || desk.get("/api/v1/runs/3/check").body;
    let sheet = |name: &str| {
        let sheets = check()["sheets"].as_array().unwrap().clone();
        sheets.into_iter().find(|s| s["name"] == name).unwrap()
    };
    let nautilus = sheet("Nautilus");
    assert_eq!(nautilus["verdicts"]["filtrate"]["value"]["kind"], "to-read");
    assert_eq!(nautilus["given"]["filtrate"], 0.0);
    let say = |id: u128, ruling: &str, comment: &str| {
        desk.post("/api/v1/runs/3/reviews", &review(id, &nautilus, "filtrate", ruling, comment)).status
    };
    assert_eq!(say(20, "wrong", ""), 422, "what is wrong with it is said");
    assert_eq!(say(21, "right", ""), 204, "that it is right needs no words");
    assert_eq!(sheet("Nautilus")["given"]["filtrate"], 2.0);

    let given = desk.post("/api/v1/runs/3/releases", &json!({ "groups": [nautilus["group"]], "with_values": true }));
    assert_eq!(given.body["sheets"], 1);
    let (phone, _) = server.bench_of("WOLD 31", "Nautilus", "773147");
    let back = phone.get("/api/v1/bench").body["feedback"].clone();
    assert_eq!(back["given_back"]["filtrate"]["stands"], "right");
    assert!(back["given_back"]["filtrate"]["expected"].as_str().unwrap().starts_with("A few drops"));
    let recorded = &back["bench_marks"][0];
    assert_eq!(
        (&recorded["found"]["kind"], &recorded["found"]["good"], &recorded["marks"]),
        (&json!("recording"), &json!(3), &json!(1.5))
    );
    let csv = desk.get("/api/v1/runs/3/export.csv").text;
    assert!(
        csv.contains("\"at the bench, recording, marks\"") && csv.contains("so strontium was left over\",2,,1.5,"),
        "{csv}"
    );
}

/// Where a group stands is known to the desk, and the class is looked through for it.
#[test]
fn a_bench_is_named_and_looked_for_as_a_cause() {
    let server = Server::demo();
    let desk = server.desk();
    let rows = desk.get(CHECK).body["rows"].as_array().unwrap().clone();
    let address = |i: usize| format!("/api/v1/runs/1/groups/{}/bench", rows[i]["group"]);
    for i in 0..rows.len() {
        let bench = if i < 4 { "window" } else { " wall " };
        assert_eq!(desk.put(&address(i), &json!({ "bench": bench })).status, 204);
    }
    let too_long = json!({ "bench": "x".repeat(21) });
    assert_eq!(desk.put(&address(0), &too_long).status, 422);
    let view = desk.get(CHECK).body;
    assert_eq!(view["rows"][7]["bench"], "wall");
    let results = view["class"]["results"].as_array().unwrap().clone();
    let yields = results.iter().find(|r| r["name"] == "percent_yield").unwrap();
    let causes = yields["causes"].as_array().unwrap();
    assert!(causes.iter().any(|c| c["kind"] == "bench"), "{causes:?}");
}
