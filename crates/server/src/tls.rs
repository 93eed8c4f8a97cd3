//! TLS: the school's own certificate, or one that is made at first start and kept beside the record.
//!
//! A certificate made here is known to nobody: a browser asks once, and its fingerprint is printed on the console to be
//! compared. It is made anew when it ends, or when this machine has got another address.

use crate::clock::{Clock, DAY_MS};
use anyhow::Context;
use rcgen::{CertificateParams, DistinguishedName, DnType, KeyPair};
use rustls::ServerConfig;
use rustls::pki_types::pem::PemObject;
use rustls::pki_types::{CertificateDer, PrivateKeyDer};
use serde::{Deserialize, Serialize};
use sha2::{Digest, Sha256};
use std::fs;
use std::path::{Path, PathBuf};
use std::sync::Arc;

/// Longer than this, some devices take no certificate that is not from a public authority.
const LASTS_DAYS: i64 = 820;

/// How connections are made private.
pub struct Tls {
    /// For the server.
    pub config: ServerConfig,
    /// SHA-256 of the certificate, as browsers show it.
    pub fingerprint: String,
}

/// What is known of a certificate that was made here.
#[derive(Serialize, Deserialize)]
struct Made {
    names: Vec<String>,
    ends_at: i64,
}

/// The school's own certificate and key, PEM.
pub fn own(certificate: &Path, key: &Path) -> anyhow::Result<Tls> {
    read(certificate, key)
}

/// The certificate made for `names`, kept in `folder`; made if there is none that is good today.
pub fn made(folder: &Path, names: &[String], clock: Clock) -> anyhow::Result<Tls> {
    let file = |name: &str| -> PathBuf { folder.join(name) };
    let (certificate, key, about) = (file("certificate.pem"), file("key.pem"), file("about.json"));
    let known = fs::read_to_string(&about).ok().and_then(|text| serde_json::from_str::<Made>(&text).ok());
    let good =
        known.is_some_and(|m| m.ends_at > clock.now() + 30 * DAY_MS && names.iter().all(|n| m.names.contains(n)));
    if !(good && certificate.is_file() && key.is_file()) {
        fs::create_dir_all(folder)?;
        let ends_at = clock.now() + LASTS_DAYS * DAY_MS;
        let (pem, secret) = make(names, clock.now(), ends_at)?;
        write_private(&key, &secret)?;
        fs::write(&certificate, pem)?;
        fs::write(&about, serde_json::to_string(&Made { names: names.to_vec(), ends_at })?)?;
    }
    read(&certificate, &key)
}

/// When the certificate that was made here ends, in ms; none where there is none.
pub fn ends_at(folder: &Path) -> Option<i64> {
    let about = fs::read_to_string(folder.join("about.json")).ok()?;
    Some(serde_json::from_str::<Made>(&about).ok()?.ends_at)
}

fn make(names: &[String], from: i64, to: i64) -> anyhow::Result<(String, String)> {
    let mut params = CertificateParams::new(names.to_vec())?;
    let mut name = DistinguishedName::new();
    name.push(DnType::CommonName, "Keen Beaker of this school");
    params.distinguished_name = name;
    let date = |ms: i64| -> anyhow::Result<_> {
        let day = jiff::tz::TimeZone::UTC.to_datetime(jiff::Timestamp::from_millisecond(ms)?).date();
        let (month, of_month) = (day.month().unsigned_abs(), day.day().unsigned_abs());
        Ok(rcgen::date_time_ymd(day.year().into(), month, of_month))
    };
    // A day early: a tablet's clock may be behind.
    params.not_before = date(from - DAY_MS)?;
    params.not_after = date(to)?;
    let key = KeyPair::generate()?;
    Ok((params.self_signed(&key)?.pem(), key.serialize_pem()))
}

/// A key is nobody else's to read.
fn write_private(path: &Path, text: &str) -> anyhow::Result<()> {
    #[cfg(unix)]
    {
        use std::io::Write;
        use std::os::unix::fs::OpenOptionsExt;
        let mut options = fs::OpenOptions::new();
        let mut file = options.write(true).create(true).truncate(true).mode(0o600).open(path)?;
        file.write_all(text.as_bytes())?;
        Ok(())
    }
    #[cfg(not(unix))]
    {
        Ok(fs::write(path, text)?)
    }
}

fn read(certificate: &Path, key: &Path) -> anyhow::Result<Tls> {
    let told = |path: &Path| format!("reading {}", path.display());
    let chain: Vec<CertificateDer<'static>> = CertificateDer::pem_file_iter(certificate)
        .and_then(Iterator::collect::<Result<_, _>>)
        .with_context(|| told(certificate))?;
    let first = chain.first().with_context(|| format!("{} holds no certificate", certificate.display()))?;
    let fingerprint: Vec<String> = Sha256::digest(first).iter().map(|b| format!("{b:02X}")).collect();
    let secret = PrivateKeyDer::from_pem_file(key).with_context(|| told(key))?;
    let provider = Arc::new(rustls::crypto::ring::default_provider());
    let config = ServerConfig::builder_with_provider(provider)
        .with_safe_default_protocol_versions()?
        .with_no_client_auth()
        .with_single_cert(chain, secret)
        .context("the certificate and its key do not belong together")?;
    Ok(Tls { config, fingerprint: fingerprint.join(":") })
}

#[cfg(test)]
mod tests {
    use super::*;

    fn on(day: &str) -> Clock {
        Clock::set_to(&format!("{day}T10:00:00Z")).unwrap()
    }

    #[test]
    fn a_certificate_is_kept_until_it_ends_or_the_machine_is_elsewhere() {
        let folder = tempfile::tempdir().unwrap();
        let names = ["localhost".to_owned(), "192.168.1.20".to_owned()];
        let first = made(folder.path(), &names, on("2026-11-12")).unwrap().fingerprint;
        assert_eq!(first.split(':').count(), 32);
        assert_eq!(made(folder.path(), &names[..1], on("2027-11-12")).unwrap().fingerprint, first);
        let elsewhere = ["localhost".to_owned(), "10.0.0.7".to_owned()];
        let second = made(folder.path(), &elsewhere, on("2027-11-12")).unwrap().fingerprint;
        assert_ne!(second, first);
        assert_ne!(made(folder.path(), &elsewhere, on("2030-02-01")).unwrap().fingerprint, second, "it had ended");
    }

    #[test]
    fn a_certificate_without_its_key_is_told() {
        let folder = tempfile::tempdir().unwrap();
        let there = made(folder.path(), &["localhost".into()], on("2026-11-12"));
        assert!(there.is_ok());
        let certificate = folder.path().join("certificate.pem");
        let told = |c: &Path, k: &Path| own(c, k).err().map(|e| format!("{e:#}")).unwrap_or_default();
        assert!(told(&certificate, Path::new("/nowhere/key.pem")).contains("reading /nowhere/key.pem"));
        let other = tempfile::tempdir().unwrap();
        made(other.path(), &["localhost".into()], on("2026-11-12")).unwrap();
        assert!(told(&certificate, &other.path().join("key.pem")).contains("do not belong together"));
        #[cfg(unix)]
        {
            use std::os::unix::fs::PermissionsExt;
            let mode = fs::metadata(folder.path().join("key.pem")).unwrap().permissions().mode();
            assert_eq!(mode & 0o077, 0, "nobody else can read the key");
        }
    }
}
