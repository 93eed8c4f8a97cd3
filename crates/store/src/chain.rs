//! Tamper evidence: each event's hash covers the one before it.
//!
//! link = SHA-256(previous link ‖ seq ‖ id ‖ run ‖ group ‖ actor ‖ kind ‖ payload version ‖ supersedes ‖ received ‖
//! SHA-256(salt ‖ payload)). The payload enters by its salted hash alone, so that deleting a payload (a person's right)
//! leaves the chain whole, while nothing can be guessed from the hash that stays.

use crate::error::StoreError;
use crate::said::NewEvent;
use rusqlite::{Connection, OptionalExtension, Row};
use sha2::{Digest, Sha256};

/// The end of the chain.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Head {
    /// Sequence number of the last event, 0 when there is none.
    pub seq: i64,
    /// Its link.
    pub chain: [u8; 32],
}

impl Head {
    /// The first eight hexadecimal digits, for print.
    #[must_use]
    pub fn short(&self) -> String {
        self.chain.iter().take(4).map(|b| format!("{b:02x}")).collect()
    }
}

pub(crate) fn payload_hash(salt: &[u8], body: &str) -> [u8; 32] {
    Sha256::new().chain_update(salt).chain_update(body).finalize().into()
}

pub(crate) fn head(c: &Connection) -> Result<Head, StoreError> {
    let last = c
        .prepare_cached("SELECT seq, chain FROM event ORDER BY seq DESC LIMIT 1")?
        .query_row([], |r| Ok(Head { seq: r.get(0)?, chain: r.get(1)? }))
        .optional()?;
    Ok(last.unwrap_or(Head { seq: 0, chain: [0; 32] }))
}

/// The link of an event; before the first there is nothing.
pub(crate) fn head_at(c: &Connection, seq: i64) -> Result<Head, StoreError> {
    let sql = "SELECT chain FROM event WHERE seq = :seq";
    let chain = c.prepare_cached(sql)?.query_row(&[(":seq", &seq)], |r| r.get(0)).optional()?;
    Ok(Head { seq, chain: chain.unwrap_or([0; 32]) })
}

pub(crate) fn link(previous: &[u8; 32], seq: i64, event: &NewEvent, version: i64, payload_hash: &[u8; 32]) -> [u8; 32] {
    let fields = Fields {
        seq,
        id: *event.id.as_bytes(),
        run: event.run,
        group: event.group,
        actor: &event.actor.to_string(),
        kind: event.said.statement.kind(),
        version,
        supersedes: event.supersedes.map(|s| *s.as_bytes()),
        received_at: event.received_at,
    };
    fields.link(previous, payload_hash)
}

struct Fields<'a> {
    seq: i64,
    id: [u8; 16],
    run: i64,
    group: Option<i64>,
    actor: &'a str,
    kind: &'a str,
    version: i64,
    supersedes: Option<[u8; 16]>,
    received_at: i64,
}

impl Fields<'_> {
    fn link(&self, previous: &[u8; 32], payload_hash: &[u8; 32]) -> [u8; 32] {
        let mut hash = Sha256::new().chain_update(previous).chain_update(self.seq.to_be_bytes()).chain_update(self.id);
        for number in [self.run, self.group.unwrap_or(-1), self.version, self.received_at] {
            hash.update(number.to_be_bytes());
        }
        for text in [self.actor, self.kind] {
            // The length keeps "ab" + "c" apart from "a" + "bc".
            hash.update((text.len() as u64).to_be_bytes());
            hash.update(text);
        }
        hash.chain_update(self.supersedes.unwrap_or([0; 16])).chain_update(payload_hash).finalize().into()
    }
}

/// Events with all that their links cover.
pub(crate) const LINKED: &str =
    "SELECT e.seq, e.id, e.run_id, e.group_id, e.actor, e.kind, e.payload_version, e.supersedes,
    e.received_at, e.payload_hash, e.chain, p.salt, p.body, p.person_id
    FROM event e LEFT JOIN payload p ON p.seq = e.seq";

/// What an event says, as it is stored.
pub(crate) struct Payload {
    salt: Vec<u8>,
    pub body: String,
    pub person: Option<i64>,
}

/// An event as it is stored.
pub(crate) struct Linked {
    pub seq: i64,
    id: [u8; 16],
    pub run: i64,
    pub group: Option<i64>,
    actor: String,
    pub kind: String,
    pub version: i64,
    supersedes: Option<[u8; 16]>,
    received_at: i64,
    payload_hash: [u8; 32],
    pub chain: [u8; 32],
    pub payload: Option<Payload>,
}

impl Linked {
    /// A row of [`LINKED`].
    pub fn read(r: &Row<'_>) -> rusqlite::Result<Linked> {
        let payload = match r.get::<_, Option<Vec<u8>>>(11)? {
            Some(salt) => Some(Payload { salt, body: r.get(12)?, person: r.get(13)? }),
            None => None,
        };
        Ok(Linked {
            seq: r.get(0)?,
            id: r.get(1)?,
            run: r.get(2)?,
            group: r.get(3)?,
            actor: r.get(4)?,
            kind: r.get(5)?,
            version: r.get(6)?,
            supersedes: r.get(7)?,
            received_at: r.get(8)?,
            payload_hash: r.get(9)?,
            chain: r.get(10)?,
            payload,
        })
    }

    /// Whether it is the next one after `previous`, and its link covers it.
    pub fn follows(&self, previous: &Head) -> bool {
        let fields = Fields {
            seq: self.seq,
            id: self.id,
            run: self.run,
            group: self.group,
            actor: &self.actor,
            kind: &self.kind,
            version: self.version,
            supersedes: self.supersedes,
            received_at: self.received_at,
        };
        self.seq == previous.seq + 1 && fields.link(&previous.chain, &self.payload_hash) == self.chain
    }

    /// Whether these are the words that it was written with.
    pub fn says(&self, payload: &Payload) -> bool {
        payload_hash(&payload.salt, &payload.body) == self.payload_hash
    }
}
