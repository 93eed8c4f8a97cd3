//! Nobody stops a class: whoever is slow, many, or guesses.

use crate::process::{CODE, NAME, PASSPHRASE, Server, answer_on, entry, reading, written};
use serde_json::{Value, json};
use std::io::{Read, Write};
use std::time::{Duration, Instant};

/// Who has no session is told so before anything of a large body is read; who has one must send it in time.
#[test]
fn a_body_is_read_of_those_alone_who_may_send_it_and_not_for_ever() {
    let server = Server::demo();
    let head = |headers: &str, length: usize| {
        format!(
            "POST /api/v1/classes/1/people HTTP/1.1\r\nhost: localhost\r\nx-keen-beaker: 1\r\n{headers}\
             content-type: application/json\r\ncontent-length: {length}\r\n\r\n{{\"text\": \""
        )
    };
    let begun = Instant::now();
    let mut stranger = server.line_from([127, 0, 0, 1]);
    stranger.write_all(head("cookie: kb_desk=abcdef\r\n", 4_000_000).as_bytes()).unwrap();
    let mut first = [0; 12];
    stranger.read_exact(&mut first).unwrap();
    assert_eq!((&first, begun.elapsed() < Duration::from_secs(5)), (b"HTTP/1.1 401", true));

    let mut slow = server.line_from([127, 0, 0, 1]);
    slow.write_all(head(&format!("cookie: {}\r\n", cookie(&server)), 4_000).as_bytes()).unwrap();
    let mut answer = [0; 4096];
    let length = slow.read(&mut answer).unwrap();
    let answer = String::from_utf8_lossy(&answer[..length]);
    assert!(answer.starts_with("HTTP/1.1 408") && answer.contains("nothing of it was taken"), "{answer}");
    assert!((8..20).contains(&begun.elapsed().as_secs()), "{:?}", begun.elapsed());
}

/// The cookie of the demo's instructor.
fn cookie(server: &Server) -> String {
    let body = json!({ "name": NAME, "passphrase": PASSPHRASE });
    let answer = server.told_from([127, 0, 0, 1], &written("POST", "session", "", &body));
    let set = answer.lines().find_map(|line| line.strip_prefix("set-cookie: ")).expect("signed in");
    set.split(';').next().unwrap().to_owned()
}

#[test]
fn a_refusal_at_the_gate_carries_every_header_and_what_holds_names_is_stored_nowhere() {
    let server = Server::demo();
    let refused =
        server.told_from([127, 0, 0, 1], &written("PUT", "runs/1/closed", "origin: http://other.test\r\n", &json!({})));
    let seen = server.told_from(
        [127, 0, 0, 1],
        &written("GET", "classes", &format!("cookie: {}\r\n", cookie(&server)), &Value::Null),
    );
    assert!(refused.starts_with("HTTP/1.1 403") && seen.starts_with("HTTP/1.1 200"), "{refused}\n{seen}");
    for answer in [refused, seen] {
        for header in [
            "content-security-policy: default-src 'self'",
            "x-content-type-options: nosniff",
            "cache-control: no-store",
        ] {
            assert!(answer.contains(header), "{header} is not in\n{answer}");
        }
    }
}

/// Connections that say nothing are of one address, and end by themselves; another address is served all the while.
#[test]
fn connections_that_say_nothing_keep_nobody_out() {
    let server = Server::demo();
    let mut silent: Vec<_> = (0..200).map(|_| server.line_from([127, 0, 9, 9])).collect();
    // The last of them are closed at once: nothing is waited for.
    let begun = Instant::now();
    assert_eq!(answer_on(&mut silent[199]), "");
    assert!(begun.elapsed() < Duration::from_secs(5), "{:?}", begun.elapsed());
    let page = server.told_from([127, 0, 0, 1], &written("GET", "session", "", &Value::Null));
    assert!(page.starts_with("HTTP/1.1 200"), "{page}");
    drop(silent);
    let again = server.told_from([127, 0, 9, 9], &written("GET", "session", "", &Value::Null));
    assert!(again.starts_with("HTTP/1.1 200"), "{again}");
}

/// Sixty wrong passphrases from sixty addresses at once: they wait for their turn, the class does not, and memory comes back.
#[test]
fn a_crowd_that_tries_passphrases_holds_neither_memory_nor_the_class() {
    let server = Server::demo();
    let (galena, _) = server.bench("Galena", "553943");
    let before = memory(server.pid());
    let wrong = written("POST", "session", "", &json!({ "name": NAME, "passphrase": "granite under cold snow" }));
    let statuses: Vec<String> = std::thread::scope(|scope| {
        let crowd: Vec<_> = (1..=60)
            .map(|n| {
                scope.spawn({
                    let (server, wrong) = (&server, &wrong);
                    move || server.told_from([127, 0, 2, n], wrong)
                })
            })
            .collect();
        for _ in 0..20 {
            let begun = Instant::now();
            assert_eq!(galena.get("/api/v1/bench").status, 200);
            assert!(begun.elapsed() < Duration::from_secs(2), "{:?}", begun.elapsed());
        }
        crowd.into_iter().map(|one| one.join().unwrap()[9..12].to_owned()).collect()
    });
    assert!(statuses.iter().all(|s| s == "403" || s == "429"), "{statuses:?}");
    assert!(statuses.iter().any(|s| s == "403"));
    let grown = memory(server.pid()).saturating_sub(before);
    assert!(grown < 120, "{grown} MB more than before");
}

/// What a process holds, MB.
fn memory(pid: u32) -> u64 {
    let status = std::fs::read_to_string(format!("/proc/{pid}/status")).unwrap();
    let held = status.lines().find_map(|line| line.strip_prefix("VmRSS:")).unwrap();
    held.trim().trim_end_matches(" kB").parse::<u64>().unwrap() / 1024
}

/// A phone that floods, known or not, takes nothing from the group beside it.
#[test]
fn beside_a_flood_the_class_is_served() {
    let server = Server::demo();
    let (galena, _) = server.bench("Galena", "553943");
    let ask = written("GET", "session", &format!("cookie: kb_bench={}\r\n", "f".repeat(64)), &Value::Null);
    let done = std::sync::atomic::AtomicBool::new(false);
    let (slow, refused) = std::thread::scope(|scope| {
        let floods: Vec<_> = (0..4)
            .map(|_| {
                scope.spawn(|| {
                    let mut refused = 0;
                    while !done.load(std::sync::atomic::Ordering::Relaxed) {
                        refused += usize::from(server.told_from([127, 0, 7, 7], &ask).contains("429"));
                    }
                    refused
                })
            })
            .collect();
        let asked = (0..60).map(|_| {
            let begun = Instant::now();
            assert_eq!(galena.get("/api/v1/bench").status, 200);
            begun.elapsed()
        });
        let slow = asked.filter(|took| *took > Duration::from_millis(1500)).count();
        done.store(true, std::sync::atomic::Ordering::Relaxed);
        (slow, floods.into_iter().map(|one| one.join().unwrap()).sum::<usize>())
    });
    assert!(slow <= 3, "{slow} of 60 took long");
    assert!(refused > 0, "the flood was never held up");
}

/// Entries come at the pace of hands, after what an hour without network may have held back.
#[test]
fn a_group_enters_no_faster_than_hands_and_its_neighbours_do_not_notice() {
    let server = Server::demo();
    let ((galena, id), (beryl, other)) = (server.bench("Galena", "553943"), server.bench("Beryl", "418234"));
    let send = |n: u128| {
        galena.post("/api/v1/bench/entries", &entry(n, id, &reading("m_dish", &format!("5{}.08", n % 10), "g")))
    };
    let statuses: Vec<_> = (1..=80).map(|n| send(n).status).collect();
    let held = statuses.iter().filter(|s| **s == 429).count();
    assert!((10..=20).contains(&held) && statuses[..60].iter().all(|s| *s != 429), "{statuses:?}");
    let (status, words) = (81..120).map(send).find(|r| r.status == 429).unwrap().refusal();
    assert!(status == 429 && words.contains("this one was not taken yet: send it again in"), "{words}");
    let theirs = entry(900, other, &reading("m_dish_crystals", "51.73", "g"));
    assert_eq!(beryl.post("/api/v1/bench/entries", &theirs).status, 200);
}

/// Guesses from many phones are counted together; the board says so, and the right PIN is not locked out for long.
#[test]
fn guesses_at_a_pin_are_slow_from_wherever_and_told_to_the_desk() {
    let server = Server::demo();
    let (galena, id) = server.bench("Galena", "553943");
    let guess = |n: u8, place: u8| {
        let claim = json!({ "code": CODE, "group": id, "pin": format!("{n:06}") });
        server
            .told_from([127, 0, 4, place], &written("POST", "join/claim", "user-agent: Firefox/1 Android\r\n", &claim))
    };
    let answers: Vec<String> = (0..30).map(|n| guess(n, 1 + n / 5)[9..12].to_owned()).collect();
    let (told, held) = answers.split_at(19);
    assert!(told.iter().all(|s| s == "403") && held.iter().filter(|s| *s == "429").count() >= 9, "{answers:?}");
    let board = server.desk().get("/api/v1/runs/1/board").body;
    let row = board["rows"].as_array().unwrap().iter().find(|r| r["group"] == id).unwrap();
    assert!(row["wrong_pins"]["tries"].as_u64().unwrap() >= 18, "{}", row["wrong_pins"]);
    assert!(row["wrong_pins"]["place"].as_str().unwrap().starts_with("Firefox, Android, 127.0.4."));
    assert_eq!(galena.get("/api/v1/bench").status, 200, "who is in stays in");
}

/// One device, one group; a claim that should not be is undone with one press; what is over is not claimed.
#[test]
fn a_claim_is_seen_and_undone() {
    let server = Server::demo();
    let desk = server.desk();
    let run = desk
        .post(
            "/api/v1/runs",
            &json!({ "practical": "epsom-salt", "class": "11", "groups": [{ "name": "Opal" }, { "name": "Jet" }] }),
        )
        .body;
    let at = format!("/api/v1/runs/{}", run["id"]);
    let (prankster, opal) = (server.client(), server.client());
    let groups = opal.post("/api/v1/join", &json!({ "code": run["code"] })).body["groups"].clone();
    let claim = |client: &crate::process::Client, group: usize| {
        client.post("/api/v1/join/claim", &json!({ "code": run["code"], "group": groups[group]["id"] }))
    };
    assert_eq!(claim(&prankster, 0).status, 204);
    assert!(claim(&prankster, 1).refusal().1.contains("belongs to another group of the class"));
    assert_eq!(claim(&opal, 0).refusal().0, 403, "it has a device already");
    let devices = desk.get(&format!("{at}/devices")).body["devices"].clone();
    assert_eq!((devices.as_array().unwrap().len(), &devices[0]["group"]), (1, &groups[0]["id"]));
    let pin = desk.get(&format!("{at}/board")).body["rows"][0]["pin"].clone();
    assert_eq!(pin.as_str().unwrap().len(), 6);
    assert_eq!(desk.delete(&format!("{at}/devices/{}", devices[0]["id"])).status, 204);
    assert_eq!(desk.delete(&format!("{at}/devices/{}", devices[0]["id"])).status, 404);
    assert_eq!(prankster.get("/api/v1/bench").status, 401);
    assert_ne!(desk.get(&format!("{at}/board")).body["rows"][0]["pin"], pin, "the device knew it");
    assert_eq!(claim(&opal, 0).status, 204, "as if nobody had come");
    // A device that leaves before anything was entered leaves the group as it was.
    assert_eq!(claim(&prankster, 1).status, 204);
    assert_eq!(prankster.delete("/api/v1/bench/session").status, 204);
    assert_eq!(desk.put(&format!("{at}/closed"), &json!({ "closed": true })).status, 204);
    assert!(claim(&prankster, 1).refusal().1.contains("this run is closed"));
    assert_eq!(desk.get("/api/v1/runs/2/devices").status, 200);
    assert_eq!(server.fairlead().delete(&format!("{at}/devices/1")).status, 404);
}

/// A stream asks again: who is signed out, or sees the class no longer, hears nothing more.
#[test]
fn a_stream_ends_when_it_is_no_longer_ones_own() {
    let server = Server::demo();
    let (desk, colleague) = (server.desk(), server.fairlead());
    let (galena, id) = server.bench("Galena", "553943");
    let (board, bench) = (colleague.stream("/api/v1/runs/2/events"), galena.stream("/api/v1/bench/events"));
    let classes = desk.get("/api/v1/classes").body;
    let person =
        classes["colleagues"].as_array().unwrap().iter().find(|c| c["name"] == "O. Fairlead").unwrap()["id"].clone();
    for class in
        classes["classes"].as_array().unwrap().iter().filter(|k| !k["shared_with"].as_array().unwrap().is_empty())
    {
        let share = json!({ "person": person, "shared": false });
        assert_eq!(desk.put(&format!("/api/v1/classes/{}/share", class["id"]), &share).status, 204);
    }
    let begun = Instant::now();
    board.for_each(drop);
    assert_eq!(desk.delete(&format!("/api/v1/runs/1/groups/{id}/devices")).status, 204);
    bench.for_each(drop);
    assert!(begun.elapsed() < Duration::from_secs(10), "{:?}", begun.elapsed());
}

/// What a proxy says of who asks is believed of a trusted one alone, and never makes anybody this machine.
#[test]
fn a_proxy_is_believed_when_it_is_trusted() {
    let account = json!({ "name": NAME, "passphrase": PASSPHRASE });
    let forwarded = "x-forwarded-for: 10.1.1.1, 10.2.3.4\r\nx-forwarded-proto: https\r\n";
    let place = |server: &Server| {
        assert_eq!(server.client().post("/api/v1/accounts", &account).status, 204);
        let signed_in = server.told_from([127, 0, 0, 1], &written("POST", "session", forwarded, &account));
        let secure = signed_in.contains("set-cookie: __Host-kb_desk=");
        let cookie = signed_in
            .lines()
            .find_map(|l| l.strip_prefix("set-cookie: "))
            .unwrap()
            .split(';')
            .next()
            .unwrap()
            .to_owned();
        let asked = written("GET", "accounts", &format!("{forwarded}cookie: {cookie}\r\n"), &Value::Null);
        let shown = server.told_from([127, 0, 0, 1], &asked);
        (secure, shown.contains("\"place\":\"10.2.3.4\""), shown.contains("\"place\":\"127.0.0.1\""))
    };
    let plain = Server::empty();
    let elsewhere = plain.told_from([127, 0, 0, 1], &written("POST", "accounts", forwarded, &account));
    assert!(elsewhere.starts_with("HTTP/1.1 403"), "{elsewhere}");
    assert_eq!(place(&plain), (false, false, true));
    let trusting = Server::start(tempfile::tempdir().unwrap(), &["--trusted-proxy", "127.0.0.1"]);
    let elsewhere = trusting.told_from([127, 0, 0, 1], &written("POST", "accounts", forwarded, &account));
    assert!(elsewhere.starts_with("HTTP/1.1 403"), "{elsewhere}");
    assert_eq!(place(&trusting), (true, true, false));
}
