//! Who may ask what: every route of the interface document has a line here, and every kind of asker is tried on it.

use crate::process::{Client, NAME, PASSPHRASE, Reply, Server};
use serde_json::{Map, Value, json};
use std::collections::BTreeMap;
use std::time::Duration;

/// Who may ask, besides the owner of the class, who looks after the record as well.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
enum Who {
    /// Whoever reaches the server.
    Anybody,
    /// A device of a group, for its own bench.
    Group,
    /// Whoever has an account, and devices of groups.
    Practising,
    /// Instructors and technicians.
    Staff,
    /// Technicians, and instructors who see the class.
    Prepares,
    /// Instructors.
    Instructor,
    /// Instructors who see the class.
    Class,
    /// The first account.
    Keeper,
}
use Who::{Anybody, Class, Group, Instructor, Keeper, Practising, Prepares, Staff};

const ROUTES: &[(Who, &[&str])] = &[
    (
        Anybody,
        &[
            "POST accounts",
            "GET session",
            "POST session",
            "DELETE session",
            "POST join",
            "POST join/claim",
            "DELETE bench/session",
        ],
    ),
    (
        Group,
        &[
            "GET bench",
            "POST bench/entries",
            "GET bench/instruments/{name}",
            "POST bench/photos",
            "GET bench/photos/{name}",
            "DELETE bench/photos/{name}",
            "GET bench/events",
        ],
    ),
    (
        Practising,
        &[
            "GET practice",
            "POST practice/balance",
            "POST practice/burette",
            "POST practice/judged",
            "POST practice/problem",
            "POST practice/scales",
            "POST practice/slip",
            "POST practice/slip/named",
            "POST practice/worked",
        ],
    ),
    (
        Staff,
        &[
            "GET accounts",
            "DELETE accounts/mine/elsewhere",
            "GET calendar",
            "PUT calendar",
            "POST calendar/file",
            "GET calendar.ics",
            "POST compute",
            "GET handbook/elements",
            "GET handbook/glassware",
            "GET handbook/instruments",
            "GET handbook/methods",
            "GET handbook/substances",
            "GET handbook/techniques",
            "PUT passphrase",
            "GET prepare",
            "GET prepare/practicals/{practical}",
            "GET room",
            "PUT room",
            "GET room/bottles/{name}",
            "GET room/bottles/{name}/code.svg",
            "DELETE room/{kind}/{name}",
            "GET stock",
            "POST stock",
            "GET stock.csv",
            "POST stock/list",
            "PUT stock/{id}",
            "DELETE stock/{id}",
        ],
    ),
    (
        Prepares,
        &[
            "GET runs/{run}/preparation",
            "PUT runs/{run}/preparation",
            "PUT runs/{run}/ticks",
            "POST runs/{run}/bottles",
        ],
    ),
    (
        Instructor,
        &[
            "GET classes",
            "POST classes",
            "POST colleagues",
            "GET keeping",
            "POST keeping/backups",
            "POST keeping/examined",
            "POST practicals",
            "POST practicals/begun",
            "GET practicals/{id}",
            "DELETE practicals/{id}",
            "PUT practicals/{id}/archived",
            "POST practicals/{id}/draft",
            "GET practicals/{id}/file",
            "POST practicals/{id}/publish",
            "GET practicals/{id}/versions",
            "GET rehearsals",
            "POST rehearsals",
            "POST runs",
            "POST runs/whole",
            "GET school",
            "PUT school",
            "GET search",
            "GET shelf",
        ],
    ),
    (
        Class,
        &[
            "DELETE classes/{class}",
            "PUT classes/{class}/keep",
            "PUT classes/{class}/name",
            "POST classes/{class}/people",
            "DELETE classes/{class}/people",
            "DELETE classes/{class}/people/{person}",
            "PUT classes/{class}/people/{person}/name",
            "PUT classes/{class}/share",
            "GET people/{person}",
            "DELETE runs/{run}",
            "GET runs/{run}/afterwards",
            "PUT runs/{run}/archived",
            "GET runs/{run}/board",
            "GET runs/{run}/bottles/{name}/found",
            "PUT runs/{run}/bottles/{name}/found",
            "GET runs/{run}/check",
            "PUT runs/{run}/closed",
            "POST runs/{run}/deal",
            "GET runs/{run}/devices",
            "DELETE runs/{run}/devices/{device}",
            "GET runs/{run}/events",
            "GET runs/{run}/expected",
            "GET runs/{run}/export.csv",
            "GET runs/{run}/export.ods",
            "GET runs/{run}/export.xlsx",
            "POST runs/{run}/groups",
            "GET runs/{run}/groups/{group}",
            "PUT runs/{run}/groups/{group}/allotted",
            "PUT runs/{run}/groups/{group}/bench",
            "POST runs/{run}/groups/{group}/borrow",
            "DELETE runs/{run}/groups/{group}/devices",
            "POST runs/{run}/groups/{group}/entries",
            "POST runs/{run}/groups/{group}/merge",
            "GET runs/{run}/groups/{group}/photos/{name}",
            "DELETE runs/{run}/groups/{group}/photos/{name}",
            "GET runs/{run}/groups/{group}/worked/{result}",
            "POST runs/{run}/import",
            "GET runs/{run}/join.svg",
            "POST runs/{run}/messages",
            "PUT runs/{run}/next-time",
            "PUT runs/{run}/paused",
            "GET runs/{run}/people",
            "PUT runs/{run}/photos",
            "PUT runs/{run}/product",
            "GET runs/{run}/rehearsal",
            "PUT runs/{run}/rehearsal",
            "POST runs/{run}/releases",
            "POST runs/{run}/reviews",
            "PUT runs/{run}/seats",
            "POST runs/{run}/signed-off",
            "POST runs/{run}/spreadsheet",
            "GET runs/{run}/tables/{table}.csv",
            "PUT runs/{run}/title",
            "PUT runs/{run}/visits",
            "GET runs/{run}/whole.zip",
        ],
    ),
    (Keeper, &["DELETE accounts/{person}", "PUT accounts/{person}/passphrase", "POST keeping/restored"]),
];

/// What each kind of asker is told who may not; nothing for those who may.
fn told(asker: &str, who: Who, route: &str) -> Option<u16> {
    // A reader is a colleague who changes nothing but what is the reader's own.
    let own = ["POST compute", "PUT passphrase", "DELETE accounts/mine/elsewhere"].contains(&route);
    let asker = match (asker, who) {
        ("reader", Anybody | Practising | Group) => "colleague",
        ("reader", _) if own || route.starts_with("GET ") => "colleague",
        ("reader", _) => return Some(403),
        _ => asker,
    };
    match (asker, who) {
        (_, Anybody)
        | ("device", Group | Practising)
        | ("technician" | "colleague", Practising | Staff)
        | ("technician", Prepares)
        | ("colleague", Instructor) => None,
        ("stranger" | "forged" | "device", _) | (_, Group) => Some(401),
        ("technician", Instructor | Class | Keeper) | ("colleague", Keeper) => Some(403),
        ("colleague", Prepares | Class) => Some(404),
        _ => unreachable!("{asker} at {who:?}"),
    }
}

#[test]
fn every_route_of_the_document_is_for_whom_it_says() {
    let document: Value = serde_json::from_str(include_str!("../../../../openapi.json")).unwrap();
    let rows: BTreeMap<&str, Who> =
        ROUTES.iter().flat_map(|(who, routes)| routes.iter().map(|route| (*route, *who))).collect();
    let documented: Vec<(String, Value)> = document["paths"].as_object().unwrap().iter().flat_map(operations).collect();
    let unlisted: Vec<&String> = documented.iter().map(|(r, _)| r).filter(|r| !rows.contains_key(r.as_str())).collect();
    assert!(unlisted.is_empty(), "say who may ask {unlisted:?}");
    assert_eq!(rows.len(), documented.len(), "a line of a route that is no more");

    let server = Server::demo();
    let (owner, device) = (server.desk(), server.bench("Galena", "553943").0);
    let here = Here::of(&owner);
    let account = json!({ "name": "I. Sill", "passphrase": "lanterns over the weir", "role": "reader" });
    assert_eq!(owner.post("/api/v1/colleagues", &account).status, 204);
    let askers = [
        ("stranger", server.client(), None),
        ("forged", server.client(), Some(format!("kb_desk={0}; kb_bench={0}", "a".repeat(64)))),
        ("device", device, None),
        ("technician", server.desk_of("T. Hollow", "kettles on a long shelf"), None),
        ("colleague", server.fairlead(), None),
        ("reader", server.desk_of("I. Sill", "lanterns over the weir"), None),
    ];
    let mut wrong = Vec::new();
    for (asker, client, cookie) in &askers {
        for (route, operation) in &documented {
            let Some(wanted) = told(asker, rows[route.as_str()], route) else { continue };
            let (method, path) = route.split_once(' ').unwrap();
            let body = body_of(&document, operation);
            let reply = sent(client, method, &(here.filled(path) + &query_of(operation)), &body, cookie.as_deref());
            if reply.status != wanted {
                let told: String = reply.text.chars().take(160).collect();
                wrong.push(format!("{asker}: {route} was {} ({told}), not {wanted}", reply.status));
            }
        }
    }
    assert!(wrong.is_empty(), "{}", wrong.join("\n"));
    // Whoever may look is let in: none of the above was refused because the address leads nowhere.
    for (route, operation) in &documented {
        let nowhere = ["{name}", "{table}", "events", ".xlsx", ".ods", "whole.zip", "/rehearsal"];
        let path = route.strip_prefix("GET ").filter(|p| !nowhere.iter().any(|n| p.contains(n)));
        if let Some(path) = path.filter(|_| rows[route.as_str()] != Group) {
            let reply = sent(&owner, "GET", &(here.filled(path) + &query_of(operation)), &Value::Null, None);
            assert_eq!(reply.status, 200, "{route}: {}", reply.text);
        }
    }
    let owners = json!({ "name": NAME, "passphrase": PASSPHRASE });
    let signed_in = sent(&server.client(), "POST", "/api/v1/session", &owners, None);
    assert_eq!(signed_in.status, 204, "nothing was changed by any of them");
}

/// Method and path of each operation under an address.
fn operations((path, methods): (&String, &Value)) -> Vec<(String, Value)> {
    let path = path.strip_prefix("/api/v1/").unwrap();
    let all = methods.as_object().unwrap().iter();
    all.map(|(method, operation)| (format!("{} {path}", method.to_uppercase()), operation.clone())).collect()
}

/// What stands for the parts of an address: a run of a class that is not shared, with what is in it.
struct Here(Vec<(&'static str, String)>);

impl Here {
    fn of(owner: &Client) -> Here {
        let classes = owner.get("/api/v1/classes").body["classes"].clone();
        let board = owner.get("/api/v1/runs/1/board").body;
        let class = classes.as_array().unwrap().iter().find(|k| k["name"] == board["run"]["class"]).unwrap().clone();
        let of = |value: &Value| value.to_string().trim_matches('"').to_owned();
        Here(vec![
            ("{run}", "1".into()),
            ("{class}", of(&class["id"])),
            ("{person}", of(&class["people"][0]["id"])),
            ("{group}", of(&board["rows"][0]["group"])),
            ("{result}", of(&board["results"][0]["name"])),
            ("{practical}", "epsom-salt".into()),
            ("{id}", "epsom-salt".into()),
            ("{name}", "nothing".into()),
            ("{kind}", "bottle".into()),
            ("{table}", "readings".into()),
            ("{device}", "1".into()),
        ])
    }

    fn filled(&self, path: &str) -> String {
        let path = if path.starts_with("stock/") { path.replace("{id}", "1") } else { path.to_owned() };
        self.0.iter().fold(format!("/api/v1/{path}"), |path, (part, is)| path.replace(part, is))
    }
}

/// Sent once more when the server says that it was too much at once, after the time that it says.
fn sent(client: &Client, method: &str, path: &str, body: &Value, cookie: Option<&str>) -> Reply {
    loop {
        let reply = client.ask(method, path, body, cookie);
        if reply.status != 429 {
            return reply;
        }
        std::thread::sleep(Duration::from_secs(1));
    }
}

/// What must follow the question mark.
fn query_of(operation: &Value) -> String {
    let all = operation["parameters"].as_array().into_iter().flatten();
    let needed = all.filter(|p| p["in"] == "query" && p["required"] == true);
    let parts: Vec<String> = needed.map(|p| format!("{}=11", p["name"].as_str().unwrap())).collect();
    if parts.is_empty() { String::new() } else { format!("?{}", parts.join("&")) }
}

/// The least that an operation takes as its body.
fn body_of(document: &Value, operation: &Value) -> Value {
    let schema = &operation["requestBody"]["content"]["application/json"]["schema"];
    least(document, schema)
}

fn least(document: &Value, schema: &Value) -> Value {
    let within = |schema: &Value| least(document, schema);
    if let Some(name) = schema["$ref"].as_str() {
        return within(&document["components"]["schemas"][name.rsplit('/').next().unwrap()]);
    }
    if let Some(all) = schema["allOf"].as_array() {
        let parts = all.iter().map(within).filter_map(|part| part.as_object().cloned());
        return Value::Object(parts.flatten().collect());
    }
    if let Some(one) = schema["oneOf"].as_array() {
        return one.iter().find(|s| s["type"] != "null").map_or(Value::Null, within);
    }
    if let Some(value) = schema["enum"].get(0) {
        return value.clone();
    }
    let kind = schema["type"].as_str().or(schema["type"][0].as_str());
    match kind {
        Some("object") => {
            let required = schema["required"].as_array().into_iter().flatten().filter_map(Value::as_str);
            let fields = required.map(|name| {
                let id = name == "id" && schema["properties"][name]["type"] == "string";
                let value = if id { json!(uuid::Uuid::from_u128(1)) } else { within(&schema["properties"][name]) };
                (name.to_owned(), value)
            });
            Value::Object(fields.collect::<Map<_, _>>())
        }
        Some("array") => json!([]),
        Some("string") => json!("1"),
        Some("integer" | "number") => json!(1),
        Some("boolean") => json!(true),
        _ => Value::Null,
    }
}
