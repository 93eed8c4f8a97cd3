//! What is missing on a fresh machine, installed once.

use crate::stage::{Outcome, root, stage};
use std::fs;
use std::path::Path;

const CHROMIUM: &str = "/usr/bin/chromium";

/// Node packages, exactly as the lock file says; again whenever it has changed.
pub fn node_modules() -> Outcome {
    let lock = fs::read(root().join("web/package-lock.json")).map_err(|e| format!("web/package-lock.json: {e}"))?;
    let installed = root().join("web/node_modules/.installed-lock.json");
    if fs::read(&installed).is_ok_and(|known| known == lock) {
        return Ok(());
    }
    stage("node packages", "npm", &["ci", "--no-audit", "--no-fund", "--prefix", "web"])?;
    fs::write(&installed, lock).map_err(|e| format!("{}: {e}", installed.display()))
}

/// Debian's Chromium, for the interface tests.
pub fn chromium() -> Outcome {
    if Path::new(CHROMIUM).exists() {
        return Ok(());
    }
    stage("package lists", "sh", &["-c", &as_root("apt-get update -qq")])?;
    stage("chromium", "sh", &["-c", &as_root("apt-get install -y -qq --no-install-recommends chromium")])
}

/// Installing needs root: as it is in a container, by sudo on somebody's own machine.
fn as_root(command: &str) -> String {
    format!("if [ \"$(id -u)\" = 0 ]; then {command}; else sudo {command}; fi")
}
