//! The school's calendar: iCalendar in and out, lessons on days off, two classes at one oven.

use crate::process::{Client, Server};
use serde_json::{Value, json};

/// What is found in a file.
fn found(desk: &Client, lines: &str) -> Value {
    let text =
        format!("BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:x\r\n{}END:VCALENDAR\r\n", lines.replace('\n', "\r\n"));
    let reply = desk.post("/api/v1/calendar/file", &json!({ "text": text }));
    assert_eq!(reply.status, 200, "{}", reply.text);
    reply.body
}

/// So many days and minutes after the lesson of Thursday, 12 November, 10:05, in ms.
fn after(desk: &Client, days: i64, minutes: i64) -> i64 {
    let thursday = desk.get("/api/v1/runs/2/people").body["visits"][0]["begins_at"].as_i64().unwrap();
    thursday + (days * 24 * 60 + minutes) * 60_000
}

/// The demo's calendar, on the clocks of Lisbon.
fn in_lisbon(desk: &Client) -> Value {
    let mut calendar = desk.get("/api/v1/calendar").body;
    calendar["zone"] = json!("Europe/Lisbon");
    let kept = desk.put("/api/v1/calendar", &calendar);
    assert_eq!(kept.status, 200, "{}", kept.text);
    kept.body
}

/// Days with and without an end, times in three ways of writing them, a rule, a zone of nobody, and what makes no sense.
#[test]
fn a_calendar_file_is_read_and_what_was_not_read_is_told() {
    let server = Server::demo();
    let desk = server.desk();
    in_lisbon(&desk);
    let seen = found(
        &desk,
        "BEGIN:VEVENT\nUID:1\nDTSTART;VALUE=DATE:20270215\nDTEND;VALUE=DATE:20270220\nSUMMARY:Half\n  term\nEND:VEVENT\n\
         BEGIN:VEVENT\nUID:2\nDTSTART;VALUE=DATE:20270503\nSUMMARY:Fair\\, all day\nRRULE:FREQ=YEARLY\nEND:VEVENT\n\
         BEGIN:VEVENT\nUID:3\nDTSTART;VALUE=DATE:20200101\nSUMMARY:Long ago\nEND:VEVENT\n\
         BEGIN:VEVENT\nUID:4\nDTSTART;TZID=Europe/Madrid:20270308T115000\nDTEND;TZID=Europe/Madrid:20270308T124000\nSUMMARY:3\nEND:VEVENT\n\
         BEGIN:VEVENT\nUID:5\nDTSTART:20270309T105000Z\nDURATION:PT50M\nSUMMARY:3\nEND:VEVENT\n\
         BEGIN:VEVENT\nUID:6\nDTSTART;TZID=School Time:20270309T085000\nDTEND;TZID=School Time:20270309T094000\nSUMMARY:1\nEND:VEVENT\n\
         BEGIN:VEVENT\nUID:7\nDTSTART:soon\nSUMMARY:nonsense\nEND:VEVENT\n\
         BEGIN:VEVENT\nUID:8\nDTSTART:20270309T105000Z\nDTEND:20270309T095000Z\nSUMMARY:backwards\nEND:VEVENT\n",
    );
    assert_eq!(
        seen["days"],
        json!([
            { "name": "Half term", "from": "2027-02-15", "to": "2027-02-19" },
            { "name": "Fair, all day", "from": "2027-05-03", "to": "2027-05-03" },
        ])
    );
    assert_eq!(
        seen["periods"],
        json!([
            { "name": "1", "from": "08:50:00", "minutes": 50 },
            { "name": "2", "from": "10:50:00", "minutes": 50 },
        ])
    );
    assert_eq!((&seen["past"], &seen["unread"]), (&json!(1), &json!(2)));
    assert_eq!((&seen["repeating"], &seen["unknown_zones"]), (&json!(["Fair, all day"]), &json!(["School Time"])));
    // Years of lessons; one of them broken, one without end of lines, and both are told beside the others.
    let lesson = "BEGIN:VEVENT\nUID:9\nDTSTART:20270309T105000Z\nDTEND:20270309T114000Z\nSUMMARY:3\nEND:VEVENT\n";
    let long = format!("BEGIN:VEVENT\nDTSTART:20270309T105000Z\n{}END:VEVENT\n", "X-NOTE:y\n".repeat(30_000));
    let many = found(&desk, &format!("{}BEGIN:VEVENT\nnonsense\nEND:VEVENT\n{long}", lesson.repeat(15_000)));
    assert_eq!((many["periods"].as_array().unwrap().len(), &many["unread"]), (1, &json!(2)));
    let none = found(&desk, "");
    assert_eq!((&none["days"], &none["periods"]), (&json!([]), &json!([])));
}

/// Files of no calendar, of a broken one, of one that nests without end, of a million events: told, and the server stands.
#[test]
fn a_file_that_is_no_calendar_is_refused_with_a_reason() {
    let server = Server::demo();
    let desk = server.desk();
    let before = desk.get("/api/v1/calendar").body;
    let refused = |text: &str| desk.post("/api/v1/calendar/file", &json!({ "text": text })).refusal();
    let kept = "; the calendar is as it was";
    assert_eq!(
        refused("name,date\n"),
        (422, format!("this is no iCalendar file: it begins with BEGIN:VCALENDAR{kept}"))
    );
    let (status, words) = refused("BEGIN:VCALENDAR\r\nBEGIN:VEVENT\r\nDTSTART:20270215\r\n");
    assert!(status == 422 && words.starts_with("this iCalendar file is broken: "), "{words}");
    let (status, words) = refused(&format!("BEGIN:VCALENDAR\n{}", "BEGIN:X\n".repeat(200_000)));
    assert!(status == 422 && words.contains("line 5 begins something within something"), "{words}");
    // Folded, or with ends that end nothing, it is as deep.
    let folded = refused(&format!("BEGIN:VCALENDAR\n{}", "BE\n GIN:X\n".repeat(200_000))).1;
    assert!(folded.contains("begins something within something"), "{folded}");
    let twice = refused(&format!("BEGIN:VCALENDAR\n{}", "BE\n\n  GIN:X\n".repeat(200_000)));
    assert!(twice.0 == 422 && twice.1.contains("has no end"), "{}", twice.1);
    let ended = refused(&format!("BEGIN:VCALENDAR\n{}", "BEGIN:X\nEND:Y\n".repeat(200_000))).1;
    assert!(ended.contains("begins something within something"), "{ended}");
    let event = "BEGIN:VEVENT\nDTSTART:20270215\nEND:VEVENT\n";
    let (status, words) = refused(&format!("BEGIN:VCALENDAR\n{}END:VCALENDAR\n", event.repeat(20_001)));
    assert!(status == 422 && words.contains("this calendar has 20001 events; 20000 are read at most"), "{words}");
    let (status, words) = refused(&"BEGIN:VCALENDAR\n".repeat(300_000));
    assert!(status == 422 && words.contains("larger than allowed"), "{words}");

    let put = |change: &dyn Fn(&mut Value)| {
        let mut calendar = before.clone();
        change(&mut calendar);
        desk.put("/api/v1/calendar", &calendar).refusal()
    };
    let words = put(&|c| c["zone"] = json!("Moon/Tycho")).1;
    assert_eq!(words, "the calendar: 'Moon/Tycho' is no time zone that is known; write it as Europe/Lisbon");
    let words = put(&|c| c["periods"][0]["from"] = json!("a quarter past")).1;
    assert!(words.contains("as hour"), "{words}");
    assert!(put(&|c| c["days_off"][0]["name"] = json!("")).1.contains("the name of days off has 1 to"));
    assert_eq!(desk.get("/api/v1/calendar").body, before);
}

/// What is written is read again: each lesson once, each day off; a lesson on one of them says so wherever lessons stand.
#[test]
fn lessons_go_out_and_a_lesson_on_a_day_off_is_told() {
    let server = Server::demo();
    let desk = server.desk();
    let monday = after(&desk, 4, 0);
    let visits = json!({ "visits": [{ "begins_at": monday, "minutes": 90 }] });
    assert_eq!(desk.put("/api/v1/runs/2/visits", &visits).status, 204);
    let off = json!({ "closed": "day-off", "name": "staff day" });
    assert_eq!(desk.get("/api/v1/runs/2/preparation").body["visits"][0]["closed"], off);
    assert_eq!(desk.get("/api/v1/runs/2/people").body["visits"][0]["closed"], off);

    let file = desk.get("/api/v1/calendar.ics").text;
    assert_eq!(file.matches("\r\nUID:lesson-").count(), 5, "{file}");
    assert!(file.contains("SUMMARY:12-Gneiss: Standardising sodium"), "{file}");
    let read = desk.post("/api/v1/calendar/file", &json!({ "text": file })).body;
    assert_eq!(read["days"], desk.get("/api/v1/calendar").body["days_off"]);
    assert!(read["periods"].as_array().unwrap().iter().any(|p| p["from"] == "10:05:00" && p["minutes"] == 90));
    // Whoever has nothing to prepare gets no lessons of others.
    let colleague = server.fairlead();
    assert!(!colleague.get("/api/v1/calendar.ics").text.contains("lesson-1-"));
}

/// Barium sulfate dries from Wednesday to Friday; planned for Monday a week later it stays too long.
#[test]
fn what_waits_is_held_against_the_lesson_that_is_planned() {
    let server = Server::demo();
    let desk = server.desk();
    let waits = || desk.get("/api/v1/runs/4/preparation").body["returns"].clone();
    assert_eq!((&waits()[0]["after"], &waits()[0]["stands"]), (&json!(1), &json!({ "stands": "fits" })));
    let visits = json!({ "visits": [
        { "begins_at": after(&desk, -1, 180), "minutes": 100 },
        { "begins_at": after(&desk, 11, 0), "minutes": 60 },
    ] });
    assert_eq!(desk.put("/api/v1/runs/4/visits", &visits).status, 204);
    let late = waits()[0].clone();
    assert_eq!(late["stands"], json!({ "stands": "too-late" }));
    assert_eq!(late["could"][0]["begins_at"], json!(after(&desk, 0, 180)));
    assert_eq!((&late["could"][0]["first"], &late["could"][0]["last"]), (&json!("5"), &json!("6")));
}
