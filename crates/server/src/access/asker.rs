//! Who asks: from which address, and whether with a session that holds.

use crate::access::{Role, Token, token_of};
use crate::app::App;
use actix_web::http::header::HOST;
use actix_web::{HttpRequest, web};
use std::net::IpAddr;

/// Where a proxy says whom it asks for.
const FORWARDED_FOR: &str = "x-forwarded-for";
/// Where a proxy says how it was asked.
const FORWARDED_PROTO: &str = "x-forwarded-proto";

/// Whose requests are counted together.
#[derive(Debug, Clone, PartialEq, Eq, Hash)]
pub enum Asker {
    /// A device or a desk whose session held a moment ago, by the hash of its token.
    Known([u8; 32]),
    /// Anybody else, by address: a cookie that was made up is no device.
    Stranger(Option<IpAddr>),
}

/// Who sends this request.
pub fn asker_of(app: &App, request: &HttpRequest) -> Asker {
    let tokens = [Role::Bench, Role::Desk].into_iter().filter_map(|role| token_of(request, role));
    let known = tokens.map(|token| Token::hash(&token)).find(|hash| app.limits.knows(hash));
    known.map_or_else(|| Asker::Stranger(address_of(request)), Asker::Known)
}

/// The address that a request comes from. What a proxy says is believed of those alone that the operator trusts.
pub fn address_of(request: &HttpRequest) -> Option<IpAddr> {
    let peer = request.peer_addr()?.ip();
    let trusted = |ip: &IpAddr| proxies_of(request).contains(ip);
    if !trusted(&peer) {
        return Some(peer);
    }
    // Each proxy appends whom it was asked by: the last that is no proxy of ours is the one who asks.
    let said = request.headers().get_all(FORWARDED_FOR).filter_map(|v| v.to_str().ok());
    let all: Vec<IpAddr> = said.flat_map(|line| line.split(',')).filter_map(|ip| ip.trim().parse().ok()).collect();
    Some(all.into_iter().rev().find(|ip| !trusted(ip)).unwrap_or(peer))
}

/// Proxies whose word is taken.
fn proxies_of(request: &HttpRequest) -> &[IpAddr] {
    request.app_data::<web::Data<App>>().map_or(&[], |app| &app.proxies)
}

/// The same in words, for somebody who wants to know a place again.
pub fn written_address(request: &HttpRequest) -> String {
    address_of(request).map_or_else(String::new, |ip| ip.to_string())
}

/// Whether the way to the browser is private: to here, or to a proxy that is trusted.
pub fn is_secure(request: &HttpRequest) -> bool {
    let by_proxy = request.peer_addr().is_some_and(|peer| proxies_of(request).contains(&peer.ip()));
    let said = request.headers().get(FORWARDED_PROTO).is_some_and(|v| v == "https");
    request.app_config().secure() || (by_proxy && said)
}

/// Whether the request comes from this very machine, addressed as such (a page that only resolves to it does not), and
/// not through a proxy.
pub fn from_this_machine(request: &HttpRequest) -> bool {
    let host = host_of(request);
    let name = host.rsplit_once(':').map_or(host, |(name, _)| name);
    let addressed = matches!(name, "localhost" | "127.0.0.1" | "[::1]");
    let forwarded = [FORWARDED_FOR, FORWARDED_PROTO, "forwarded"].iter().any(|h| request.headers().contains_key(*h));
    addressed && !forwarded && request.peer_addr().is_some_and(|a| a.ip().is_loopback())
}

/// The name by which whoever asks reaches this server.
pub fn host_of(request: &HttpRequest) -> &str {
    request.headers().get(HOST).and_then(|h| h.to_str().ok()).unwrap_or_default()
}
