//! One command with its name and the time it took.

use std::path::Path;
use std::process::{Command, Stdio};
use std::time::Instant;

/// Nothing, or why it failed.
pub type Outcome = Result<(), String>;

/// Runs a command from the workspace's root.
pub fn stage(name: &str, program: &str, arguments: &[&str]) -> Outcome {
    eprintln!("── {name}");
    let start = Instant::now();
    let status =
        command(program, arguments).status().map_err(|e| format!("{name}: {program} cannot be started: {e}"))?;
    eprintln!("── {name}: {:.1} s", start.elapsed().as_secs_f64());
    if status.success() { Ok(()) } else { Err(format!("{name} failed")) }
}

/// Runs a command and hands on what it prints.
pub fn told(name: &str, program: &str, arguments: &[&str]) -> Result<String, String> {
    eprintln!("── {name}");
    let start = Instant::now();
    let output = command(program, arguments).stderr(Stdio::inherit()).output();
    let output = output.map_err(|e| format!("{name}: {program} cannot be started: {e}"))?;
    let printed = String::from_utf8_lossy(&output.stdout).into_owned();
    eprintln!("── {name}: {:.1} s", start.elapsed().as_secs_f64());
    if output.status.success() { Ok(printed) } else { Err(format!("{name} failed\n{printed}")) }
}

/// Runs a command and writes what it prints to a file, if that differs from what is there.
pub fn into_file(name: &str, file: &str, program: &str, arguments: &[&str]) -> Outcome {
    let printed = told(name, program, arguments)?;
    let path = root().join(file);
    if std::fs::read_to_string(&path).ok().as_deref() != Some(&printed) {
        std::fs::write(&path, printed).map_err(|e| format!("writing {file}: {e}"))?;
    }
    Ok(())
}

/// The workspace's root.
pub fn root() -> &'static Path {
    Path::new(concat!(env!("CARGO_MANIFEST_DIR"), "/../.."))
}

fn command(program: &str, arguments: &[&str]) -> Command {
    let mut command = Command::new(program);
    command.args(arguments).current_dir(root());
    command
}
