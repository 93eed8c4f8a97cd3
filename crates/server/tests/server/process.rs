//! A server of one's own on a free port, and a client that speaks to it as a page would.

use serde_json::Value;
use std::io::{BufRead, BufReader, Read, Write};
use std::net::{SocketAddr, TcpStream};
use std::process::{Child, Command, Stdio};
use std::sync::{Arc, Mutex};
use std::time::Duration;
use tempfile::TempDir;

pub const NAME: &str = "R. Ashdown";
pub const PASSPHRASE: &str = "slate under warm rain";
pub const CODE: &str = "TARN 47";

/// Groups of a run to be opened.
pub fn groups_of<N: AsRef<str>>(names: &[N]) -> Value {
    names.iter().map(|name| serde_json::json!({ "name": name.as_ref() })).collect()
}

/// A running server; killed when it goes out of scope.
pub struct Server {
    pub base: String,
    folder: TempDir,
    said: Arc<Mutex<String>>,
    child: Child,
}

impl Server {
    /// The demo school.
    pub fn demo() -> Server {
        Server::start(tempfile::tempdir().unwrap(), &["--demo"])
    }

    /// Nobody's school yet, in a fresh folder.
    pub fn empty() -> Server {
        Server::start(tempfile::tempdir().unwrap(), &[])
    }

    pub fn start(folder: TempDir, options: &[&str]) -> Server {
        Server::started(Command::new(env!("CARGO_BIN_EXE_keen-beaker")), folder, options)
    }

    /// One whose files may be no larger than so many blocks of 512 bytes: what is written beyond fails, as on a full disk.
    pub fn on_a_small_disk(folder: TempDir, blocks: u32) -> Server {
        let mut shell = Command::new("sh");
        let serve = format!("trap '' XFSZ; ulimit -f {blocks}; exec {} \"$@\"", env!("CARGO_BIN_EXE_keen-beaker"));
        shell.args(["-c", &serve, "sh"]);
        Server::started(shell, folder, &[])
    }

    fn started(mut program: Command, folder: TempDir, options: &[&str]) -> Server {
        let mut child = program
            .args(["serve", "--port", "0", "--bind", "127.0.0.1", "--data"])
            .arg(folder.path())
            .args(options)
            .stdout(Stdio::piped())
            .stderr(Stdio::piped())
            .spawn()
            .expect("the program starts");
        let mut lines = BufReader::new(child.stdout.take().expect("piped")).lines();
        let first = lines.next().expect("a line").expect("readable");
        let base = first.strip_prefix("listening on ").expect("its address first").to_owned();
        let said = Arc::new(Mutex::new(String::new()));
        let keep = |mut from: Box<dyn Read + Send>| {
            let said = Arc::clone(&said);
            std::thread::spawn(move || {
                let mut buffer = [0u8; 4096];
                while let Ok(n @ 1..) = from.read(&mut buffer) {
                    said.lock().unwrap().push_str(&String::from_utf8_lossy(&buffer[..n]));
                }
            })
        };
        keep(Box::new(child.stderr.take().expect("piped")));
        // The rest of its lines, drained so that it never waits for us.
        let rest = Arc::clone(&said);
        std::thread::spawn(move || lines.map_while(Result::ok).for_each(|line| rest.lock().unwrap().push_str(&line)));
        Server { base, folder, said, child }
    }

    /// Everything that it printed and logged so far.
    pub fn said(&self) -> String {
        self.said.lock().unwrap().clone()
    }

    /// The folder of its record.
    pub fn folder(&self) -> &std::path::Path {
        self.folder.path()
    }

    /// Its process.
    pub fn pid(&self) -> u32 {
        self.child.id()
    }

    /// A connection of its own, from an address of this machine's loopback net: `127.0.3.7` is another place.
    pub fn line_from(&self, address: [u8; 4]) -> TcpStream {
        let socket = socket2::Socket::new(socket2::Domain::IPV4, socket2::Type::STREAM, None).unwrap();
        socket.bind(&SocketAddr::from((address, 0)).into()).unwrap();
        let to: SocketAddr = self.base.strip_prefix("http://").unwrap().parse().unwrap();
        socket.connect(&to.into()).unwrap();
        socket.set_read_timeout(Some(Duration::from_secs(30))).unwrap();
        socket.into()
    }

    /// What is answered to a request written by hand, on a connection from this address.
    pub fn told_from(&self, address: [u8; 4], request: &str) -> String {
        let mut line = self.line_from(address);
        line.write_all(request.as_bytes()).unwrap();
        answer_on(&mut line)
    }

    /// Ends it as a power cut would, and keeps its folder.
    pub fn kill(mut self) -> TempDir {
        self.child.kill().unwrap();
        self.child.wait().unwrap();
        std::mem::replace(&mut self.folder, tempfile::tempdir().unwrap())
    }

    pub fn client(&self) -> Client {
        let config = ureq::Agent::config_builder().http_status_as_error(false).build();
        Client { agent: config.into(), base: self.base.clone() }
    }

    /// A client that is signed in as the instructor of the demo.
    pub fn desk(&self) -> Client {
        self.desk_of(NAME, PASSPHRASE)
    }

    /// A client of whoever is called so.
    pub fn desk_of(&self, name: &str, passphrase: &str) -> Client {
        let client = self.client();
        assert_eq!(client.sign_in(name, passphrase).status, 204);
        client
    }

    /// The colleague of the demo, who sees what is shared.
    pub fn fairlead(&self) -> Client {
        self.desk_of("O. Fairlead", "copper over still water")
    }

    /// A client that is signed in as a colleague with an account of their own, made by this instructor.
    pub fn colleague(&self, desk: &Client) -> Client {
        let account = serde_json::json!({ "name": "E. Loam", "passphrase": "copper under still water" });
        assert_eq!(desk.post("/api/v1/colleagues", &account).status, 204);
        self.desk_of("E. Loam", "copper under still water")
    }

    /// A second device of a group of the demo, with the group's id.
    pub fn bench(&self, group: &str, pin: &str) -> (Client, i64) {
        self.bench_of(CODE, group, pin)
    }

    /// The same of the run with this code.
    pub fn bench_of(&self, code: &str, group: &str, pin: &str) -> (Client, i64) {
        let client = self.client();
        let found = client.post("/api/v1/join", &serde_json::json!({ "code": code }));
        let groups = found.body["groups"].as_array().unwrap().clone();
        let id = groups.iter().find(|g| g["name"] == group).unwrap()["id"].as_i64().unwrap();
        let claim = serde_json::json!({ "code": code, "group": id, "pin": pin });
        assert_eq!(client.post("/api/v1/join/claim", &claim).status, 204);
        (client, id)
    }
}

impl Drop for Server {
    fn drop(&mut self) {
        // It may have been killed already.
        let _ = self.child.kill();
        let _ = self.child.wait();
    }
}

/// A request with a small body, as a page sends it, on a connection that ends with it.
pub fn written(method: &str, path: &str, headers: &str, body: &Value) -> String {
    let body = if body.is_null() { String::new() } else { body.to_string() };
    format!(
        "{method} /api/v1/{path} HTTP/1.1\r\nhost: localhost\r\nx-keen-beaker: 1\r\nconnection: close\r\n{headers}\
         content-type: application/json\r\ncontent-length: {}\r\n\r\n{body}",
        body.len()
    )
}

/// Everything that comes until the other end closes.
pub fn answer_on(line: &mut TcpStream) -> String {
    let mut answer = Vec::new();
    // A connection that is cut has said what it had to say.
    let _ = line.read_to_end(&mut answer);
    String::from_utf8_lossy(&answer).into_owned()
}

/// A browser without a screen: keeps cookies, sends our header.
pub struct Client {
    agent: ureq::Agent,
    base: String,
}

pub struct Reply {
    pub status: u16,
    pub kind: String,
    pub policy: String,
    pub body: Value,
    pub text: String,
}

impl Reply {
    /// What a refusal says; the answer must be a problem document.
    pub fn refusal(&self) -> (u16, String) {
        assert_eq!(self.kind, "application/problem+json", "{}", self.text);
        assert_eq!(self.body["status"], self.status);
        (self.status, self.body["detail"].as_str().unwrap().to_owned())
    }
}

impl Client {
    pub fn get(&self, path: &str) -> Reply {
        self.get_with_cookie(path, None)
    }

    /// A file, byte by byte.
    pub fn bytes(&self, path: &str) -> Vec<u8> {
        let mut response = self.agent.get(format!("{}{path}", self.base)).call().unwrap();
        response.body_mut().read_to_vec().unwrap()
    }

    pub fn get_with_cookie(&self, path: &str, cookie: Option<&str>) -> Reply {
        let mut request = self.agent.get(format!("{}{path}", self.base));
        if let Some(cookie) = cookie {
            request = request.header("cookie", cookie);
        }
        reply(request.call())
    }

    /// The first event of a stream after something is done while it is open.
    pub fn first_event(&self, path: &str, cause: impl FnOnce()) -> Value {
        let mut response = self.agent.get(format!("{}{path}", self.base)).call().unwrap();
        let lines = BufReader::new(response.body_mut().as_reader()).lines();
        cause();
        let data = lines.map_while(Result::ok).find_map(|l| l.strip_prefix("data: ").map(str::to_owned));
        serde_json::from_str(&data.expect("an event before the stream ends")).unwrap()
    }

    /// The lines of a stream, until it ends.
    pub fn stream(&self, path: &str) -> impl Iterator<Item = String> + use<> {
        let response = self.agent.get(format!("{}{path}", self.base)).call().unwrap();
        BufReader::new(response.into_body().into_reader()).lines().map_while(Result::ok)
    }

    pub fn sign_in(&self, name: &str, passphrase: &str) -> Reply {
        self.post("/api/v1/session", &serde_json::json!({ "name": name, "passphrase": passphrase }))
    }

    pub fn post(&self, path: &str, body: &Value) -> Reply {
        self.send(path, body.to_string().as_bytes(), &[("x-keen-beaker", "1")])
    }

    pub fn put(&self, path: &str, body: &Value) -> Reply {
        let request = self.agent.put(format!("{}{path}", self.base));
        reply(request.header("x-keen-beaker", "1").content_type("application/json").send(body.to_string()))
    }

    pub fn delete(&self, path: &str) -> Reply {
        reply(self.agent.delete(format!("{}{path}", self.base)).header("x-keen-beaker", "1").call())
    }

    /// Any method, with a cookie that is not its own.
    pub fn ask(&self, method: &str, path: &str, body: &Value, cookie: Option<&str>) -> Reply {
        let mut request = ureq::http::Request::builder().method(method).uri(format!("{}{path}", self.base));
        request = request.header("x-keen-beaker", "1").header("content-type", "application/json");
        if let Some(cookie) = cookie {
            request = request.header("cookie", cookie);
        }
        let body = if body.is_null() { String::new() } else { body.to_string() };
        reply(self.agent.run(request.body(body).unwrap()))
    }

    /// The same browser, at another server.
    pub fn at(self, server: &Server) -> Client {
        Client { base: server.base.clone(), ..self }
    }

    /// The sequence number of an entry that was acknowledged; nothing when the server is gone.
    pub fn try_enter(&self, entry: &Value) -> Option<i64> {
        let request = self.agent.post(format!("{}/api/v1/bench/entries", self.base));
        let sent = request.header("x-keen-beaker", "1").content_type("application/json").send(entry.to_string());
        let mut response = sent.ok().filter(|r| r.status() == 200)?;
        let kept: Value = serde_json::from_str(&response.body_mut().read_to_string().ok()?).ok()?;
        kept["seq"].as_i64()
    }

    /// Any body with any headers, as something that is not our page would send it.
    pub fn send(&self, path: &str, body: &[u8], headers: &[(&str, &str)]) -> Reply {
        let mut request = self.agent.post(format!("{}{path}", self.base)).content_type("application/json");
        for (name, value) in headers {
            request = request.header(*name, *value);
        }
        reply(request.send(body))
    }
}

fn reply(answer: Result<ureq::http::Response<ureq::Body>, ureq::Error>) -> Reply {
    let mut response = answer.expect("the server answers");
    let header = |name: &str| response.headers().get(name).and_then(|v| v.to_str().ok()).unwrap_or_default().to_owned();
    let (kind, policy) = (header("content-type"), header("content-security-policy"));
    let text = response.body_mut().read_to_string().unwrap();
    let body = serde_json::from_str(&text).unwrap_or_default();
    Reply { status: response.status().as_u16(), kind, policy, body, text }
}

/// An entry as a device makes it.
pub fn entry(id: u128, group: i64, body: &Value) -> Value {
    let id = uuid::Uuid::from_u128(id);
    serde_json::json!({ "id": id, "group": group, "entry": body, "taken_at": 1_794_481_440_000_i64 })
}

pub fn reading(symbol: &str, text: &str, unit: &str) -> Value {
    serde_json::json!({ "kind": "reading", "symbol": symbol, "text": text, "unit": unit })
}
