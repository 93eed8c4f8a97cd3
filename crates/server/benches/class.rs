//! A class far larger than any: 300 devices on one run, each sending a reading every 2 s for 60 s, and somebody looking at
//! the board. Printed: time from request to acknowledgement (on disk), time from request to arrival on the board, memory;
//! and the rate at saturation beside a bare Actix endpoint that writes one row a request through the same writer thread.
//! All of it again with 5 ms added to each sync of the disk.
//!
//! `cargo bench -p keen-beaker --bench class`. Takes about four minutes. Traffic stays on the loopback address.

use actix_web::{App, HttpResponse, HttpServer, web};
use lab::bench::{Bottle, RoomItem};
use sha2::{Digest, Sha256};
use std::collections::HashMap;
use std::io::{BufRead, BufReader, Read, Write};
use std::net::{TcpListener, TcpStream};
use std::path::{Path, PathBuf};
use std::process::{Child, Command, Stdio};
use std::sync::{Arc, Mutex};
use std::time::{Duration, Instant};
use store::{Holder, NewGroup, NewRun, OfClass, Store};

const DEVICES: usize = 300;
const GROUPS: usize = 40;
const EVERY: Duration = Duration::from_secs(2);
const LASTS: Duration = Duration::from_mins(1);
const SATURATED: Duration = Duration::from_secs(8);
const CONNECTIONS: usize = 32;
/// Says to this program that it is the bare endpoint; its record is in this folder.
const BARE: &str = "KEEN_BEAKER_BARE";

fn main() {
    if let Ok(folder) = std::env::var(BARE) {
        bare(Path::new(&folder));
        return;
    }
    let shim = slow_sync();
    for (name, preload) in [("this disk", None), ("5 ms added to each sync", Some(shim.as_path()))] {
        println!("\n{name}");
        let class = Class::new(preload);
        class.lesson();
        let own = class.saturated();
        drop(class);
        let floor = Bare::new(preload).saturated();
        println!(
            "saturated, {CONNECTIONS} connections: {own:.0} entries/s; bare endpoint {floor:.0} rows/s; ratio {:.2}",
            own / floor
        );
    }
}

/// A server with its record, and the cookies of its devices and its desk.
struct Class {
    folder: tempfile::TempDir,
    child: Child,
    address: String,
    devices: Vec<(String, i64)>,
    desk: String,
}

impl Class {
    fn new(preload: Option<&Path>) -> Class {
        let folder = tempfile::tempdir().unwrap();
        let (devices, desk) = furnish(folder.path());
        let mut command = Command::new(env!("CARGO_BIN_EXE_keen-beaker"));
        command
            .args([
                "serve",
                "--port",
                "0",
                "--bind",
                "127.0.0.1",
                "--request-cap",
                "1000000",
                "--entry-rate",
                "1000000",
                "--data",
            ])
            .arg(folder.path());
        let (child, address) = started(&mut command, preload);
        Class { folder, child, address, devices, desk }
    }

    /// The lesson itself: what its devices and its board see.
    fn lesson(&self) {
        let arrived: Arc<Mutex<Vec<(i64, Instant)>>> = Arc::default();
        let board = watch(&self.address, &self.desk, Arc::clone(&arrived));
        let begun = Instant::now() + Duration::from_millis(300);
        let sent: Vec<(i64, Instant, Duration)> = std::thread::scope(|scope| {
            let all: Vec<_> = self
                .devices
                .iter()
                .enumerate()
                .map(|(n, (token, group))| {
                    scope.spawn(move || {
                        let mut line = Line::to(&self.address);
                        // Spread over the two seconds, as a class is.
                        let first = begun + EVERY.mul_f64((n as f64 * 0.618).fract());
                        let mut out = Vec::new();
                        for turn in 0..(LASTS.as_secs() / EVERY.as_secs()) {
                            let due = first + EVERY * u32::try_from(turn).unwrap();
                            std::thread::sleep(due.saturating_duration_since(Instant::now()));
                            let at = Instant::now();
                            let seq = line.enter(token, *group, turn).expect("acknowledged");
                            out.push((seq, at, at.elapsed()));
                        }
                        out
                    })
                })
                .collect();
            all.into_iter().flat_map(|t| t.join().unwrap()).collect()
        });
        // The last of them have at most a tenth of a second to arrive; a second is generous.
        std::thread::sleep(Duration::from_secs(1));
        // Nobody looks at the board any more.
        let _ = board.shutdown(std::net::Shutdown::Both);
        let arrived = arrived.lock().unwrap();
        let mut acknowledged: Vec<Duration> = sent.iter().map(|(_, _, took)| *took).collect();
        // An event's number says that all rows up to it are in what has come.
        let mut shown: Vec<Duration> = sent
            .iter()
            .filter_map(|(seq, at, _)| Some(arrived.iter().find(|(upto, _)| upto >= seq)?.1.duration_since(*at)))
            .collect();
        let within = shown.iter().filter(|d| **d <= Duration::from_millis(150)).count();
        println!("{} readings of {DEVICES} devices in {} groups", sent.len(), GROUPS);
        println!("  request to acknowledgement  {}", percentiles(&mut acknowledged));
        println!("  request to board            {}", percentiles(&mut shown));
        println!(
            "  on the board: {} of {}, {:.1} % within 150 ms",
            shown.len(),
            sent.len(),
            100.0 * within as f64 / sent.len() as f64
        );
        println!("  memory of the server        {} MB", memory(self.child.id()));
        self.nothing_lost(&sent);
    }

    /// Everything acknowledged is there, once.
    fn nothing_lost(&self, sent: &[(i64, Instant, Duration)]) {
        let mut numbers: Vec<i64> = sent.iter().map(|(seq, _, _)| *seq).collect();
        numbers.sort_unstable();
        numbers.dedup();
        let record = Store::open(&self.folder.path().join("record.db")).unwrap();
        let examined = record.examine();
        assert_eq!(numbers.len(), sent.len(), "two entries have one number");
        assert_eq!(examined.head.seq, i64::try_from(sent.len()).unwrap(), "the record has other entries");
        assert_eq!(examined.faults, [], "the record is not whole");
        println!("  lost 0, double 0, chain whole");
    }

    /// Entries a second when nobody waits.
    fn saturated(&self) -> f64 {
        rate(|n| {
            let mut line = Line::to(&self.address);
            // Each connection speaks for several devices, so that no device is beyond its own limit.
            let mine: Vec<&(String, i64)> = self.devices.iter().skip(n).step_by(CONNECTIONS).collect();
            let mut turn = 0;
            move || {
                let (token, group) = mine[usize::try_from(turn).unwrap() % mine.len()];
                turn += 1;
                line.enter(token, *group, turn).is_some()
            }
        })
    }
}

impl Drop for Class {
    fn drop(&mut self) {
        let _ = self.child.kill();
        let _ = self.child.wait();
    }
}

/// The bare endpoint in a process of its own.
struct Bare {
    _folder: tempfile::TempDir,
    child: Child,
    address: String,
}

impl Bare {
    fn new(preload: Option<&Path>) -> Bare {
        let folder = tempfile::tempdir().unwrap();
        let mut command = Command::new(std::env::current_exe().unwrap());
        command.env(BARE, folder.path());
        let (child, address) = started(&mut command, preload);
        Bare { _folder: folder, child, address }
    }

    fn saturated(&self) -> f64 {
        rate(|n| {
            let mut line = Line::to(&self.address);
            let mut turn = 0;
            move || {
                turn += 1;
                let body = serde_json::json!({ "name": format!("bottle {n}"), "holds": "water", "strength": format!("{turn}") });
                line.post("/", "", &body.to_string()).is_some()
            }
        })
    }
}

impl Drop for Bare {
    fn drop(&mut self) {
        let _ = self.child.kill();
        let _ = self.child.wait();
    }
}

/// One row a request, through the store's own writer thread, and nothing else.
fn bare(folder: &Path) {
    let store = Store::open(&folder.join("record.db")).unwrap();
    let listener = TcpListener::bind("127.0.0.1:0").unwrap();
    println!("listening on http://{}", listener.local_addr().unwrap());
    actix_web::rt::System::new().block_on(async move {
        let serve = HttpServer::new(move || {
            let store = store.clone();
            App::new().route(
                "/",
                web::post().to(move |body: web::Json<Bottle>| {
                    let store = store.clone();
                    async move {
                        let write = move || store.put_into_room(RoomItem::Bottle(body.into_inner()), "bare".into(), 1);
                        web::block(write).await.unwrap().unwrap();
                        HttpResponse::Ok().json(serde_json::json!({ "seq": 1 }))
                    }
                }),
            )
        });
        serve.workers(2).listen(listener).unwrap().run().await.unwrap();
    });
}

/// A school with one run, its devices signed in beforehand: joining has limits of its own.
fn furnish(folder: &Path) -> (Vec<(String, i64)>, String) {
    let practical = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../practicals/epsom-salt.practical.toml");
    let store = Store::open(&folder.join("record.db")).unwrap();
    let owner = store.create_first_account("R. Ashdown".into(), "none".into(), 1).unwrap().id;
    let text = std::fs::read_to_string(practical).unwrap();
    let kept = store.keep_practical("epsom-salt".into(), text, "person 1".into(), 1).unwrap();
    let group = |n: usize| NewGroup { name: format!("Group {n}"), pin: "1234".into(), ..NewGroup::default() };
    let run = store
        .open_run(NewRun {
            practical: kept.id,
            version: kept.version,
            class: OfClass::Named("everybody".into()),
            owner,
            code: "TARN 47".into(),
            groups: (1..=GROUPS).map(group).collect(),
            visits: Vec::new(),
            photos: false,
            masses: String::new(),
            school: practical::School::default(),
            rehearsal: None,
            now: 1,
        })
        .unwrap();
    let groups = store.groups(run.id).unwrap();
    let far = i64::MAX / 2;
    let sign_in = |name: String, holder: Holder| {
        let token: String = Sha256::digest(name.as_bytes()).iter().map(|b| format!("{b:02x}")).collect();
        store.open_session(Sha256::digest(token.as_bytes()).into(), holder, String::new(), 1, far).unwrap();
        token
    };
    let device = |n: usize| {
        let group = groups[n % GROUPS].id;
        (sign_in(format!("device {n}"), Holder::Group(group)), group)
    };
    ((0..DEVICES).map(device).collect(), sign_in("desk".into(), Holder::Person(owner)))
}

fn started(command: &mut Command, preload: Option<&Path>) -> (Child, String) {
    if let Some(shim) = preload {
        command.env("LD_PRELOAD", shim);
    }
    let mut child = command.stdout(Stdio::piped()).stderr(Stdio::null()).spawn().expect("it starts");
    let mut lines = BufReader::new(child.stdout.take().unwrap()).lines();
    let first = lines.next().unwrap().unwrap();
    let address = first.strip_prefix("listening on http://").expect("its address first").to_owned();
    std::thread::spawn(move || lines.map_while(Result::ok).for_each(drop));
    (child, address)
}

/// Entries or rows a second over all connections.
fn rate<F: FnMut() -> bool>(connection: impl Fn(usize) -> F + Sync) -> f64 {
    let begun = Instant::now();
    let counts: Vec<u64> = std::thread::scope(|scope| {
        let all: Vec<_> = (0..CONNECTIONS)
            .map(|n| {
                let connection = &connection;
                scope.spawn(move || {
                    let mut again = connection(n);
                    let mut count = 0;
                    while begun.elapsed() < SATURATED {
                        count += u64::from(again());
                    }
                    count
                })
            })
            .collect();
        all.into_iter().map(|t| t.join().unwrap()).collect()
    });
    counts.iter().sum::<u64>() as f64 / begun.elapsed().as_secs_f64()
}

/// One connection that is kept, as a browser keeps it.
struct Line {
    stream: BufReader<TcpStream>,
}

impl Line {
    fn to(address: &str) -> Line {
        let stream = TcpStream::connect(address).unwrap();
        stream.set_nodelay(true).unwrap();
        Line { stream: BufReader::new(stream) }
    }

    /// Enters a reading; the record's number of it.
    fn enter(&mut self, token: &str, group: i64, turn: u64) -> Option<i64> {
        let symbol = ["m_carbonate", "m_dish", "m_dish_crystals"][usize::try_from(turn).unwrap() % 3];
        let text = [format!("3.{:02}", turn % 20), format!("48.{:02}", turn % 100), format!("52.{:02}", turn % 100)];
        let body = serde_json::json!({
            "id": uuid::Uuid::now_v7(), "group": group, "taken_at": 0,
            "entry": { "kind": "reading", "symbol": symbol, "text": text[usize::try_from(turn).unwrap() % 3], "unit": "g" },
        });
        self.post("/api/v1/bench/entries", &format!("kb_bench={token}"), &body.to_string())
    }

    fn post(&mut self, path: &str, cookie: &str, body: &str) -> Option<i64> {
        let request = format!(
            "POST {path} HTTP/1.1\r\nhost: bench\r\nx-keen-beaker: 1\r\ncookie: {cookie}\r\ncontent-type: application/json\r\n\
             content-length: {}\r\n\r\n{body}",
            body.len()
        );
        self.stream.get_mut().write_all(request.as_bytes()).unwrap();
        let mut status = String::new();
        self.stream.read_line(&mut status).unwrap();
        let mut length = 0;
        loop {
            let mut header = String::new();
            self.stream.read_line(&mut header).unwrap();
            if header.trim().is_empty() {
                break;
            }
            if let Some(value) = header.to_lowercase().strip_prefix("content-length:") {
                length = value.trim().parse().unwrap();
            }
        }
        let mut answer = vec![0; length];
        self.stream.read_exact(&mut answer).unwrap();
        let kept: serde_json::Value = serde_json::from_slice(&answer).ok()?;
        kept["seq"].as_i64().filter(|_| status.contains(" 200 "))
    }
}

/// Looks at the board, until what is returned is shut.
fn watch(address: &str, desk: &str, arrived: Arc<Mutex<Vec<(i64, Instant)>>>) -> TcpStream {
    let mut stream = TcpStream::connect(address).unwrap();
    let request = format!("GET /api/v1/runs/1/events HTTP/1.1\r\nhost: bench\r\ncookie: kb_desk={desk}\r\n\r\n");
    stream.write_all(request.as_bytes()).unwrap();
    let reader = BufReader::new(stream.try_clone().unwrap());
    std::thread::spawn(move || {
        for line in reader.lines().map_while(Result::ok) {
            if let Some(seq) = line.strip_prefix("id: ").and_then(|id| id.parse().ok()) {
                arrived.lock().unwrap().push((seq, Instant::now()));
            }
        }
    });
    stream
}

fn percentiles(of: &mut [Duration]) -> String {
    of.sort_unstable();
    let at = |part: f64| {
        let last = of.len().saturating_sub(1) as f64;
        #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "an index into what is there")]
        let index = (last * part).round() as usize;
        of.get(index).map_or(0.0, |d| d.as_secs_f64() * 1000.0)
    };
    format!("p50 {:.1} ms, p95 {:.1} ms, p99 {:.1} ms, longest {:.1} ms", at(0.5), at(0.95), at(0.99), at(1.0))
}

/// Memory that the process holds, in MB.
fn memory(process: u32) -> u64 {
    let status = std::fs::read_to_string(format!("/proc/{process}/status")).unwrap_or_default();
    let fields: HashMap<&str, &str> = status.lines().filter_map(|l| l.split_once(':')).collect();
    let kilobytes = fields.get("VmRSS").and_then(|v| v.trim().strip_suffix(" kB")).and_then(|v| v.parse::<u64>().ok());
    kilobytes.unwrap_or_default() / 1024
}

/// A library that adds 5 ms to each sync, put in front of the C library.
fn slow_sync() -> PathBuf {
    let folder = std::env::temp_dir().join("keen-beaker-slow-sync");
    std::fs::create_dir_all(&folder).unwrap();
    let (source, library) = (folder.join("slow.c"), folder.join("libslow.so"));
    std::fs::write(
        &source,
        "#define _GNU_SOURCE\n#include <time.h>\n#include <unistd.h>\n#include <sys/syscall.h>\n\
         static void wait5(void) { struct timespec t = {0, 5000000}; nanosleep(&t, 0); }\n\
         int fsync(int fd) { wait5(); return syscall(SYS_fsync, fd); }\n\
         int fdatasync(int fd) { wait5(); return syscall(SYS_fdatasync, fd); }\n",
    )
    .unwrap();
    let built = Command::new("cc").args(["-shared", "-fPIC", "-o"]).args([&library, &source]).status().unwrap();
    assert!(built.success(), "cc builds the library");
    library
}
