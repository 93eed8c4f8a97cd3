//! Tamper evidence: each event's hash covers the one before it.
//!
//! link = SHA-256(previous link ‖ seq ‖ id ‖ run ‖ group ‖ actor ‖ kind ‖ payload version ‖ supersedes ‖ received ‖
//! SHA-256(salt ‖ payload)). The payload enters by its salted hash alone, so that deleting a payload (a person's right)
//! leaves the chain whole, while nothing can be guessed from the hash that stays.

use crate::db::Store;
use crate::error::StoreError;
use crate::said::NewEvent;
use rusqlite::{Connection, OptionalExtension};
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

/// What a walk along the chain found.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Verified {
    /// The end of the chain.
    pub head: Head,
    /// Payloads that were erased.
    pub erased: u64,
    /// Sequence numbers where a link or a payload does not fit.
    pub broken: Vec<i64>,
}

impl Store {
    /// Walks the whole chain and recomputes every link and every payload's hash.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn verify(&self) -> Result<Verified, StoreError> {
        self.read(verify)
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

fn verify(c: &Connection) -> Result<Verified, StoreError> {
    let mut statement = c.prepare(
        "SELECT e.seq, e.id, e.run_id, e.group_id, e.actor, e.kind, e.payload_version, e.supersedes, e.received_at,
                e.payload_hash, e.chain, p.salt, p.body
         FROM event e LEFT JOIN payload p ON p.seq = e.seq ORDER BY e.seq",
    )?;
    let mut rows = statement.query([])?;
    let mut found = Verified { head: Head { seq: 0, chain: [0; 32] }, erased: 0, broken: Vec::new() };
    while let Some(r) = rows.next()? {
        let (actor, kind): (String, String) = (r.get(4)?, r.get(5)?);
        let fields = Fields {
            seq: r.get(0)?,
            id: r.get(1)?,
            run: r.get(2)?,
            group: r.get(3)?,
            actor: &actor,
            kind: &kind,
            version: r.get(6)?,
            supersedes: r.get(7)?,
            received_at: r.get(8)?,
        };
        let (stored_hash, chain): ([u8; 32], [u8; 32]) = (r.get(9)?, r.get(10)?);
        let payload: Option<(Vec<u8>, String)> = r.get::<_, Option<Vec<u8>>>(11)?.zip(r.get(12)?);
        found.erased += u64::from(payload.is_none());
        let intact = payload.is_none_or(|(salt, body)| payload_hash(&salt, &body) == stored_hash);
        let follows = fields.seq == found.head.seq + 1 && fields.link(&found.head.chain, &stored_hash) == chain;
        if !intact || !follows {
            found.broken.push(fields.seq);
        }
        found.head = Head { seq: fields.seq, chain };
    }
    Ok(found)
}
