//! Preparing a class: who may, what is ticked, what was really weighed.

use crate::process::{Client, Server, entry, groups_of, reading};
use serde_json::{Value, json};

fn technician(server: &Server) -> Client {
    server.desk_of("T. Hollow", "kettles on a long shelf")
}

/// A technician prepares, and sees neither sums nor marks nor names.
#[test]
fn a_technician_prepares_and_sees_no_names() {
    let server = Server::demo();
    let technician = technician(&server);
    let session = technician.get("/api/v1/session").body;
    assert_eq!((&session["staff"], &session["role"]), (&json!("T. Hollow"), &json!("technician")));
    for path in ["/prepare", "/runs/2/preparation", "/prepare/practicals/vinegar?groups=8", "/room"] {
        let seen = technician.get(&format!("/api/v1{path}"));
        assert_eq!(seen.status, 200, "{path}: {}", seen.text);
        assert!(!seen.text.contains("Lena Copse"), "{path} names somebody");
    }
    for path in ["/shelf", "/runs/2/board", "/runs/2/check", "/runs/2/people", "/runs/2/expected", "/classes"] {
        let (status, words) = technician.get(&format!("/api/v1{path}")).refusal();
        assert_eq!((status, words.as_str()), (403, "this is for instructors: technicians prepare"), "{path}");
    }
    assert_eq!(technician.put("/api/v1/runs/2/closed", &json!({ "closed": true })).status, 403);
    // A colleague prepares for classes that are shared, and for no others.
    let colleague = server.fairlead();
    assert_eq!(colleague.get("/api/v1/runs/1/preparation").status, 404);
    assert_eq!(colleague.get("/api/v1/runs/2/preparation").status, 200);
    assert_eq!(server.client().get("/api/v1/prepare").status, 401);
}

/// Two tick one thing: who was first stands. What is not on the list cannot be ticked.
#[test]
fn who_ticked_first_stands() {
    let server = Server::demo();
    let (desk, technician) = (server.desk(), technician(&server));
    let tick = |who: &Client, done: bool| {
        who.put("/api/v1/runs/2/ticks", &json!({ "item": "material:base", "done": done })).body
    };
    assert_eq!(tick(&desk, true)[0]["by"], "R. Ashdown");
    assert_eq!(tick(&technician, true)[0]["by"], "R. Ashdown");
    let week = technician.get("/api/v1/prepare").body;
    let line = week["runs"].as_array().unwrap().iter().find(|r| r["run"] == 2).unwrap().clone();
    assert_eq!((&line["ready"], &line["solutions"][0]["ready"]), (&json!(1), &json!(true)));
    assert_eq!(tick(&technician, false), json!([]));
    let none = technician.put("/api/v1/runs/2/ticks", &json!({ "item": "material:gold", "done": true }));
    assert_eq!(none.refusal().0, 404);
}

/// 4.02 g for 1 L of 0.1000 mol/L: 0.1005 mol/L, and the sums of those who take from the bottle say so.
#[test]
fn what_was_really_weighed_counts_in_the_sums() {
    let server = Server::demo();
    let (desk, technician) = (server.desk(), technician(&server));
    let new = json!({ "practical": "vinegar", "class": "12-Schist", "groups": groups_of(&["Topaz"]) });
    let run = desk.post("/api/v1/runs", &new).body;
    let make = |name: &str, recipe: Value| {
        let bottle = json!({ "material": "base", "name": name, "from": "4.02 g NaOH in 1000 mL", "recipe": recipe,
                             "keep_until": "2026-12-12" });
        technician.post(&format!("/api/v1/runs/{}/bottles", run["id"]), &bottle)
    };
    let weighed = |grams: &str| {
        json!({ "ask": "made", "solute": "NaOH", "mass": format!("{grams} g"),
                "volume": { "value": "1000 mL", "components": [{ "kind": "rectangular", "half_width": 0.8, "times": 1 }] } })
    };
    let made = make("bottle K", weighed("4.02"));
    assert_eq!(made.status, 200, "{}", made.text);
    let bottles = made.body["bottles"].as_array().unwrap().clone();
    let bottle = bottles.iter().find(|b| b["name"] == "bottle K").unwrap();
    // 4.02 g / 39.997 g/mol in 1 L; U from half a unit of the last digit and the flask.
    assert!(bottle["measured"].as_str().unwrap().starts_with("0.1005"), "{bottle}");
    assert_eq!(
        (&bottle["made"]["by"], &bottle["made"]["from"]),
        (&json!("T. Hollow"), &json!("4.02 g NaOH in 1000 mL"))
    );

    let kept = |until: &str| {
        let bottle = json!({ "material": "base", "name": "bottle M", "from": "x", "recipe": weighed("4.00"),
                             "keep_until": until });
        technician.post(&format!("/api/v1/runs/{}/bottles", run["id"]), &bottle).refusal().1
    };
    assert_eq!(kept("2026-11-11"), "'2026-11-11' has passed: a bottle made today keeps longer");
    assert_eq!(kept("soon"), "'soon' is no date: write 2027-06-30");
    let (status, words) = make("bottle K", weighed("4.00")).refusal();
    assert_eq!((status, words.contains("there is a 'bottle K' in the room")), (422, true), "{words}");
    let asked = json!({ "ask": "totals", "groups": 1, "trials": 1, "per_trial": "1 mL" });
    assert!(make("bottle L", asked).refusal().1.contains("made up to a volume"));
    assert_eq!(make("bottle L", weighed("-4.0")).refusal().0, 422);

    let code = run["code"].as_str().unwrap();
    let client = server.client();
    let id = client.post("/api/v1/join", &json!({ "code": code })).body["groups"][0]["id"].as_i64().unwrap();
    assert_eq!(client.post("/api/v1/join/claim", &json!({ "code": code, "group": id })).status, 204);
    let mut n = 0;
    let mut say = |body: &Value| {
        n += 1;
        let said = client.post("/api/v1/bench/entries", &entry(n, id, body));
        assert_eq!(said.status, 200, "{}", said.text);
    };
    for (symbol, text) in [("V_vinegar", "25.00"), ("V_flask", "250.00"), ("V_aliquot", "25.00")] {
        say(&reading(symbol, text, "mL"));
    }
    for trial in 1..=3 {
        say(&reading(&format!("V_start[{trial}]"), "0.00", "mL"));
        say(&reading(&format!("V_end[{trial}]"), "21.00", "mL"));
    }
    let found = || {
        let board = desk.get(&format!("/api/v1/runs/{}/board", run["id"])).body;
        let results = board["rows"][0]["outcome"]["results"].as_array().unwrap().clone();
        results.iter().find(|r| r["name"] == "c_vinegar").unwrap()["state"]["value"].as_f64().unwrap()
    };
    let by_the_label = found();
    say(&json!({ "kind": "bottle", "material": "base", "name": "bottle K" }));
    assert!((found() / by_the_label - 1.005).abs() < 2e-4, "{} after {by_the_label}", found());

    // Its page: the sum anew, who took from it; a colleague who does not see the class is told only that somebody did.
    let page = technician.get("/api/v1/room/bottles/bottle%20K").body;
    assert_eq!(page["worked"]["results"][0]["unit"], "mol/L");
    assert_eq!((&page["is_old"], &page["bottle"]["made"]["keep_until"]), (&json!(false), &json!("2026-12-12")));
    let used = json!([{ "run": run["id"], "title": run["title"], "class": "12-Schist", "group": "Topaz" }]);
    assert_eq!((&page["uses"], &page["others"]), (&used, &json!(0)));
    let colleague = server.fairlead();
    let page = colleague.get("/api/v1/room/bottles/bottle%20K").body;
    assert_eq!((&page["uses"], &page["others"]), (&json!([]), &json!(1)));
    assert!(technician.get("/api/v1/room/bottles/bottle%20K/code.svg").text.starts_with("<svg"));
    assert_eq!(technician.get("/api/v1/room/bottles/bottle%20X").status, 404);
}

/// What a class found of a bottle becomes its strength with one press of its instructor, and of nobody else.
#[test]
fn a_bottle_is_standardised_by_a_class() {
    let server = Server::demo();
    let (desk, technician) = (server.desk(), technician(&server));
    let path = |bottle: &str| format!("/api/v1/runs/2/bottles/{bottle}/found");
    // Two of Alder, Birch and the three at bottle B have come to a strength: the mean is theirs, and no other's.
    let board = desk.get("/api/v1/runs/2/board").body;
    let strength = |group: &str| {
        let row = board["rows"].as_array().unwrap().iter().find(|r| r["name"] == group).unwrap().clone();
        let results = row["outcome"]["results"].as_array().unwrap().clone();
        results.iter().find(|r| r["name"] == "c_base").unwrap()["state"]["value"].as_f64().unwrap()
    };
    let found = desk.get(&path("bottle%20A")).body;
    assert_eq!(found["groups"], json!(["Alder", "Birch"]));
    let mean = f64::midpoint(strength("Alder"), strength("Birch"));
    assert!((found["value"].as_f64().unwrap() - mean).abs() < 1e-9, "{found}");
    // Two groups are a class of two: t is 12.7.
    let spread = (strength("Alder") - strength("Birch")).abs() / 2.0;
    assert!(found["expanded"].as_f64().unwrap() > 12.7 * spread, "{found}");

    assert_eq!(technician.put(&path("bottle%20A"), &json!({})).status, 403);
    let bottle = desk.put(&path("bottle%20A"), &json!({})).body;
    assert_eq!(
        (&bottle["measured"], &bottle["standardised"]["from"]),
        (&found["shown"], &json!("12-Gneiss, 2 groups"))
    );
    let page = technician.get("/api/v1/room/bottles/bottle%20A").body;
    assert_eq!((&page["bottle"], &page["worked"]), (&bottle, &Value::Null));
    // A practical that finds nothing of it, and a bottle that is not there.
    let (status, words) = desk.get("/api/v1/runs/1/bottles/bottle%20A/found").refusal();
    assert_eq!((status, words.contains("does not find out how strong 'sodium hydroxide' is")), (422, true), "{words}");
    assert_eq!(desk.get(&path("bottle%20X")).status, 404);
}

/// Choices that make no sense are refused in words, and what was chosen before stands.
#[test]
fn choices_of_a_preparation_are_looked_at() {
    let server = Server::demo();
    let technician = technician(&server);
    let choose = |choices: Value| technician.put("/api/v1/runs/2/preparation", &choices);
    let kept =
        choose(json!({ "spare_groups": 2, "percent_on_top": 10, "resources": { "balance": 1 }, "lesson_minutes": 60 }));
    assert_eq!(kept.status, 200, "{}", kept.text);
    let lesson = |view: &Value| view["preparation"]["time"]["lessons"][0].clone();
    assert_eq!((&lesson(&kept.body)["minutes"], &lesson(&kept.body)["shared"][0]["count"]), (&json!(60), &json!(1)));
    for (choices, words) in [
        (json!({ "spare_groups": 21 }), "at most 20 spare groups"),
        (json!({ "percent_on_top": 201 }), "at most 200 per cent on top"),
        (json!({ "lesson_minutes": 0 }), "a visit lasts 1 to 600 minutes"),
        (json!({ "resources": { "balance": 101 } }), "a room has at most 100 of one thing"),
        (json!({ "resources": { "oven": 1 } }), "the groups of this practical do not share 'oven'"),
    ] {
        assert_eq!(choose(choices).refusal(), (422, words.to_owned()));
    }
    assert_eq!(technician.get("/api/v1/runs/2/preparation").body["choices"]["lesson_minutes"], 60);
    // A room without a balance: told, not failed.
    let none = choose(json!({ "resources": { "balance": 0 } })).body;
    assert_eq!(lesson(&none)["no_plan"]["why"], "none-of-it");
    for query in ["groups=0", "groups=61", "groups=8&spare_groups=400", "groups=many"] {
        assert_eq!(technician.get(&format!("/api/v1/prepare/practicals/vinegar?{query}")).status, 422, "{query}");
    }
    assert_eq!(technician.get("/api/v1/prepare/practicals/nothing?groups=8").status, 404);
}

/// Containers come one by one or as a list, which is taken whole or not at all; what is wrong is told with its line.
#[test]
fn what_stands_on_the_shelf_is_kept_and_held_against_what_is_needed() {
    let server = Server::demo();
    let technician = technician(&server);
    let list = |csv: &str| technician.post("/api/v1/stock/list", &json!({ "csv": csv }));
    for (csv, words) in [
        ("holds,amount\nzinc,5\n", "line 1: there is no column 'unit'; nothing was put on the shelf"),
        ("holds,amount,unit\nzinc,5,g\niron,some,g\n", "line 3: amount: "),
        ("holds,amount,unit\nzinc,5,kg\n", "line 2: 'kg' is no unit here: g or mL; nothing was put on the shelf"),
        ("holds,amount,unit\n,5,g\n", "line 2: what is in it has 1 to 80 characters; nothing was put on the shelf"),
        ("holds,amount,unit,keep until\nzinc,5,g,soon\n", "line 2: 'soon' is no date: write 2027-06-30"),
        ("holds,amount,unit\n", "line 1: there is nothing in the list; nothing was put on the shelf"),
    ] {
        let (status, told) = list(csv).refusal();
        assert!(status == 422 && told.starts_with(words), "{csv}: {told}");
    }
    assert_eq!(technician.get("/api/v1/stock").body, json!([]));

    let there = list(
        "holds,form,amount,unit,place,keep until\r\nsodium hydroxide,pellets,3.0,g,cupboard 2,2026-06-30\r\n\"=cmd|' /C calc'!A0\",,1,mL,,\r\n",
    );
    assert_eq!(there.status, 200, "{}", there.text);
    let base = there.body.as_array().unwrap().iter().find(|s| s["container"]["holds"] == "sodium hydroxide").unwrap();
    assert_eq!((&base["amount"], &base["is_old"]), (&json!(3.0), &json!(true)));
    let csv = technician.get("/api/v1/stock.csv").text;
    assert!(
        csv.contains("\r\n'=cmd|") && csv.contains("sodium hydroxide,pellets,3,g,cupboard 2,2026-06-30\r\n"),
        "{csv}"
    );

    // Five groups and one to spare take 960 mL: 3.84 g.
    let shelf = || technician.get("/api/v1/runs/2/preparation").body["on_shelf"][0].clone();
    assert_eq!((&shelf()["symbol"], &shelf()["there"]), (&json!("base"), &json!(3.0)));
    assert!((shelf()["needed"].as_f64().unwrap() - 3.84).abs() < 1e-3);
    let at = format!("/api/v1/stock/{}", base["id"]);
    assert_eq!(technician.put(&at, &json!({ "amount": 250.0, "reason": "a new bottle" })).status, 200);
    assert_eq!(shelf()["there"], 250.0);
    assert_eq!(technician.put(&at, &json!({ "amount": -1.0, "reason": "x" })).refusal().0, 422);
    assert_eq!(technician.put(&at, &json!({ "amount": 1.0, "reason": " " })).refusal().0, 422);
    assert_eq!(technician.delete(&at).status, 200);
    assert_eq!(technician.delete(&at).refusal().0, 404);
    assert!(shelf().is_null());
    assert_eq!(server.client().get("/api/v1/stock").status, 401);
}
