//! Connections that have not said anything yet: of each address so many. Nobody holds them all open, and lets no one in.

use actix_tls::accept::rustls_0_23::TlsStream;
use actix_web::dev::Extensions;
use actix_web::rt::net::TcpStream;
use socket2::SockRef;
use std::any::Any;
use std::collections::HashMap;
use std::net::{IpAddr, Shutdown};
use std::sync::atomic::{AtomicBool, Ordering};
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};

/// Connections of one address that have sent no request yet. A browser opens six; a class may share an address.
const MOST_SILENT: usize = 128;

/// How many connections of each address are silent.
#[derive(Debug, Default)]
pub struct Connections(Mutex<HashMap<IpAddr, usize>>);

/// One connection, for as long as it is open.
pub struct Connection {
    all: Arc<Connections>,
    from: IpAddr,
    silent: AtomicBool,
}

impl Connections {
    /// Takes a new connection in, or ends it when too many of its address have said nothing.
    pub fn take(self: &Arc<Self>, stream: &dyn Any, into: &mut Extensions) {
        let tcp = stream.downcast_ref::<TcpStream>();
        let by_tls = || stream.downcast_ref::<TlsStream<TcpStream>>().map(|tls| tls.get_ref().0);
        let Some((tcp, from)) = tcp.or_else(by_tls).and_then(|tcp| Some((tcp, tcp.peer_addr().ok()?.ip()))) else {
            return;
        };
        if self.counted(from) {
            into.insert(Connection { all: Arc::clone(self), from, silent: AtomicBool::new(true) });
        } else {
            // Whoever opens so many cannot be told: the other end sees it closed.
            let _ = SockRef::from(tcp).shutdown(Shutdown::Both);
        }
    }

    fn counted(&self, from: IpAddr) -> bool {
        let mut silent = self.silent();
        let count = silent.entry(from).or_default();
        let room = *count < MOST_SILENT;
        *count += usize::from(room);
        room
    }

    fn silent(&self) -> MutexGuard<'_, HashMap<IpAddr, usize>> {
        // A count is one step: nothing is half done behind a panic.
        self.0.lock().unwrap_or_else(PoisonError::into_inner)
    }
}

impl Connection {
    /// A request came over it: it is no longer one of the silent ones.
    pub fn spoke(&self) {
        if !self.silent.swap(false, Ordering::Relaxed) {
            return;
        }
        let mut silent = self.all.silent();
        if let Some(count) = silent.get_mut(&self.from) {
            *count -= 1;
            if *count == 0 {
                silent.remove(&self.from);
            }
        }
    }
}

impl Drop for Connection {
    fn drop(&mut self) {
        self.spoke();
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn silent_connections_of_one_address_end_and_others_come_in() {
        let all = Arc::new(Connections::default());
        let (flood, class) = (IpAddr::from([10, 0, 0, 9]), IpAddr::from([10, 0, 0, 10]));
        let held = (0..MOST_SILENT).map(|_| {
            assert!(all.counted(flood));
            Connection { all: Arc::clone(&all), from: flood, silent: AtomicBool::new(true) }
        });
        let held: Vec<Connection> = held.collect();
        assert!(!all.counted(flood) && all.counted(class));
        held[0].spoke();
        held[0].spoke();
        assert!(all.counted(flood) && !all.counted(flood), "one that spoke makes room for one, once");
        drop(held);
        assert_eq!(all.silent().values().sum::<usize>(), 2, "of the closed ones nothing is left");
    }
}
