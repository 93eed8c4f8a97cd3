//! Starting and stopping the server.

use crate::access::{Allowance, Connections, HEAD_TAKES, Limits, Token, guard, security_headers};
use crate::app::App;
use crate::clock::{Clock, is_behind};
use crate::instruments::Instruments;
use crate::keeping::{Keeping, RECORD, is_backup};
use crate::photos::Photos;
use crate::rounds::rounds;
use crate::{api, demo, health, library, machine, pages, tls};
use actix_web::middleware::{Compress, from_fn};
use actix_web::{App as Actix, HttpServer, web};
use anyhow::{Context, bail};
use clap::Args;
use std::fs::{File, TryLockError};
use std::net::{IpAddr, TcpListener, UdpSocket};
use std::num::NonZeroU32;
use std::path::{Path, PathBuf};
use std::sync::Arc;
use store::{Fault, Look, Store, examine};
use tracing_actix_web::TracingLogger;

/// How to serve.
#[derive(Args)]
pub struct Options {
    /// Folder for the record; made if it is not there.
    #[arg(long, default_value = "keen-beaker-data", env = "KEEN_BEAKER_DATA")]
    data: PathBuf,
    /// Port; 0 takes any free one.
    #[arg(long, default_value_t = 8080)]
    port: u16,
    /// Address to listen on. The default lets phones and tablets of the room in.
    #[arg(long, default_value = "0.0.0.0")]
    bind: IpAddr,
    /// Port for connections by TLS; left out, 363 above the other one (8443 for 8080), or any free one.
    #[arg(long)]
    tls_port: Option<u16>,
    /// The school's own certificate, PEM; left out, one is made at first start.
    #[arg(long, requires = "tls_key")]
    tls_cert: Option<PathBuf>,
    /// The key of the certificate, PEM.
    #[arg(long, requires = "tls_cert")]
    tls_key: Option<PathBuf>,
    /// Requests a second that are answered at most, over all devices; a single device has a limit of its own.
    #[arg(long, default_value = "2000")]
    request_cap: NonZeroU32,
    /// Entries of one group that are taken a minute, after 60 at once.
    #[arg(long, default_value = "30")]
    entry_rate: NonZeroU32,
    /// A proxy before this server: what it says of who asks is believed. Can be given several times.
    #[arg(long = "trusted-proxy", value_name = "ADDRESS")]
    trusted_proxies: Vec<IpAddr>,
    /// One more folder for the daily backups, on another disk; can be given several times.
    #[arg(long = "backups", value_name = "FOLDER")]
    backups: Vec<PathBuf>,
    /// Instruments of the room that speak, in a file of their own (docs/instruments.md).
    #[arg(long, value_name = "FILE")]
    instruments: Option<PathBuf>,
    /// Show figures for a watching program at /metrics, in the Prometheus text format.
    #[arg(long)]
    metrics: bool,
    /// Serve a record although something in it is not as it was written.
    #[arg(long)]
    anyway: bool,
    /// The demo school, in a folder that is thrown away at the end, on the demo's own day.
    #[arg(long)]
    demo: bool,
    /// Set the clock, which then runs on: `2026-11-12T11:04` (local) or with an offset.
    #[arg(long)]
    now: Option<String>,
    /// The address under which groups reach this server, if it is not this machine's own.
    #[arg(long)]
    public_url: Option<String>,
}

/// Serves until the process is told to stop.
pub fn serve(options: &Options) -> anyhow::Result<()> {
    let filter = tracing_subscriber::EnvFilter::try_from_default_env().unwrap_or_else(|_| "warn".into());
    tracing_subscriber::fmt().with_env_filter(filter).with_writer(std::io::stderr).init();
    let instruments = options.instruments.as_deref().map(Instruments::read).transpose()?.unwrap_or_default();
    let throwaway = options.demo.then(tempfile::tempdir).transpose()?;
    let folder = throwaway.as_ref().map_or(options.data.as_path(), |t| t.path());
    std::fs::create_dir_all(folder).with_context(|| format!("making {}", folder.display()))?;
    machine::close_to_others(folder)?;
    let _lock = locked(folder)?;
    looked_at(folder, options.anyway)?;
    let store = Store::open(&folder.join(RECORD))?;

    let school = options.demo.then(demo::school).transpose()?;
    let set = options.now.as_deref().or(school.as_ref().map(|s| s.now.as_str()));
    let clock = set.map_or(Ok(Clock::Machine), Clock::set_to).context("--now")?;
    library::stock(&store, clock.now())?;
    if let Some(school) = &school {
        demo::furnish(&store, school)?;
    }
    let console_token = if store.is_new()? { Some(Token::fresh().map_err(anyhow::Error::from)?.0) } else { None };

    let listener = TcpListener::bind((options.bind, options.port)).with_context(|| format!("port {}", options.port))?;
    let port = listener.local_addr()?.port();
    let lan = lan_address().filter(|_| options.bind.is_unspecified()).map(|ip| format!("http://{ip}:{port}"));
    println!("listening on http://127.0.0.1:{port}");
    if let Some(lan) = &lan {
        println!("for phones and tablets: {lan}");
    }
    if let Some(school) = &school {
        println!("{} signs in with: {}", school.instructor, school.passphrase);
        for run in &school.runs {
            println!("groups of {} join with: {}", run.class, run.code);
        }
    }
    if let Some(token) = &console_token {
        println!("nobody has an account yet: open the address on this machine, or elsewhere with the token {token}");
    }
    let private = private(options, folder, clock, port);
    if let Some(last) = store.last_receipt()?.filter(|last| is_behind(clock.now(), *last)) {
        let told = "warning: this machine's clock is behind the record, which was last written to at";
        println!("{told} {}; the order of entries is kept all the same", crate::clock::written(last));
    }
    let public_url = options.public_url.clone().or(lan);
    let limits =
        Limits::new(Allowance { requests_a_second: options.request_cap, entries_a_minute: options.entry_rate });
    let photos = Photos::in_folder(folder.join("photos"));
    // What is left lying about stops no class: it is tried again at the next start.
    let swept = store.photos_kept().map_err(anyhow::Error::from).and_then(|kept| Ok(photos.sweep(&kept)?));
    let keeping = Keeping::of(folder, &options.backups);
    if let Err(why) = swept.and_then(|()| keeping.sweep()) {
        eprintln!("warning: {why:#}");
    }
    let app = App::new(store, clock, photos, keeping, limits, console_token, public_url)
        .hearing(instruments)
        .behind(options.trusted_proxies.clone());
    let app = web::Data::new(app);
    open_files();
    actix_web::rt::System::new().block_on(run(app, listener, private, options.metrics))
}

/// Takes the folder for this process alone: two servers on one record would not know of each other's entries.
pub fn locked(folder: &Path) -> anyhow::Result<File> {
    let lock = File::create(folder.join("lock")).with_context(|| format!("writing to {}", folder.display()))?;
    match lock.try_lock() {
        Ok(()) => Ok(lock),
        Err(TryLockError::WouldBlock) => bail!(
            "another server is at work on {}: stop it first, or choose another folder with --data",
            folder.display()
        ),
        Err(TryLockError::Error(why)) => Err(why).with_context(|| format!("locking {}", folder.display())),
    }
}

/// Looks at the record quickly before anybody works on it.
fn looked_at(folder: &Path, anyway: bool) -> anyhow::Result<()> {
    if is_backup(folder) {
        bail!("{} is a backup; put it back first: keen-beaker restore --from {0} --data FOLDER", folder.display());
    }
    let faults = examine(&folder.join(RECORD), Look::Quick).faults;
    // A folder without a record begins a new one.
    let mut wrong = faults.iter().filter(|fault| **fault != Fault::Missing).peekable();
    if wrong.peek().is_none() {
        return Ok(());
    }
    eprintln!("something is wrong with the record in {}:", folder.display());
    wrong.for_each(|fault| eprintln!("  {fault}"));
    let serves = faults.iter().all(|fault| matches!(fault, Fault::Changed { .. } | Fault::Words(_) | Fault::Gone(_)));
    eprintln!("'keen-beaker verify' tells all of it; 'keen-beaker restore' puts a backup back");
    if serves && anyway {
        return Ok(());
    }
    bail!(if serves { "nothing was changed; --anyway serves it as it is" } else { "nothing was changed" })
}

/// Where connections by TLS come in, and how. Without it the plain address still works, so that a certificate gone wrong
/// does not keep a class from its benches.
fn private(options: &Options, folder: &Path, clock: Clock, port: u16) -> Option<(TcpListener, rustls::ServerConfig)> {
    let wanted = options.tls_port.unwrap_or(if options.port == 0 { 0 } else { port.saturating_add(363) });
    let lan = lan_address().map(|ip| ip.to_string());
    let names: Vec<String> = ["localhost".to_owned(), "127.0.0.1".to_owned()].into_iter().chain(lan).collect();
    let tls = match (&options.tls_cert, &options.tls_key) {
        (Some(certificate), Some(key)) => tls::own(certificate, key),
        _ => tls::made(&folder.join("tls"), &names, clock),
    };
    let listening = tls.and_then(|tls| {
        let listener = TcpListener::bind((options.bind, wanted)).with_context(|| format!("port {wanted}"))?;
        Ok((listener.local_addr()?.port(), listener, tls))
    });
    match listening {
        Ok((port, listener, tls)) => {
            let host = names.last().filter(|_| options.bind.is_unspecified()).map_or("127.0.0.1", String::as_str);
            println!("by TLS: https://{host}:{port}");
            println!("its certificate has the fingerprint {}", tls.fingerprint);
            Some((listener, tls.config))
        }
        Err(error) => {
            println!("warning: no connections by TLS ({error:#})");
            None
        }
    }
}

async fn run(
    app: web::Data<App>,
    listener: TcpListener,
    private: Option<(TcpListener, rustls::ServerConfig)>,
    with_metrics: bool,
) -> anyhow::Result<()> {
    actix_web::rt::spawn(rounds(app.clone()));
    app.instruments.listen();
    let connections = Arc::new(Connections::default());
    let server = HttpServer::new(move || {
        Actix::new()
            .app_data(app.clone())
            .wrap(from_fn(guard))
            .wrap(security_headers())
            .wrap(TracingLogger::default())
            .service(health::healthz)
            .configure(api::routes)
            .configure(|config| {
                if with_metrics {
                    config.service(health::metrics);
                }
            })
            .service(web::resource("/{path:.*}").wrap(Compress::default()).route(web::get().to(pages::page)))
    })
    .workers(2)
    .client_request_timeout(HEAD_TAKES)
    .on_connect(move |stream, into| connections.take(stream, into))
    // Open event streams would hold up the end.
    .shutdown_timeout(2)
    .listen(listener)?;
    let server = match private {
        Some((listener, config)) => server.listen_rustls_0_23(listener, config)?,
        None => server,
    };
    server.run().await?;
    Ok(())
}

/// Connections that are open at least while a class is at work: six of each of three hundred browsers.
pub const FILES_FOR_A_SCHOOL: u64 = 2_048;

/// Lets as many files and connections be open as the system allows, and says so where that is too few.
fn open_files() {
    match rlimit::increase_nofile_limit(u64::MAX) {
        Ok(files) if files < FILES_FOR_A_SCHOOL => println!(
            "warning: the system lets {files} files be open at once; a large school needs {FILES_FOR_A_SCHOOL} (ulimit -n)"
        ),
        Ok(_) => {}
        Err(why) => println!("warning: how many files may be open cannot be raised ({why})"),
    }
}

/// This machine's address on the local network. Nothing is sent: a datagram socket only asks for the route.
pub fn lan_address() -> Option<IpAddr> {
    let socket = UdpSocket::bind("0.0.0.0:0").ok()?;
    socket.connect("10.255.255.255:9").ok()?;
    Some(socket.local_addr().ok()?.ip()).filter(|ip| !ip.is_loopback() && !ip.is_unspecified())
}
