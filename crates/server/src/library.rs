//! The built-in library of practicals, embedded at build.

use anyhow::Context;
use practical::Practical;
use rust_embed::RustEmbed;
use store::Store;

#[derive(RustEmbed)]
#[folder = "../../practicals"]
struct Library;

/// Puts every built-in practical on the shelf, as a new version where its text has changed.
pub fn stock(store: &Store, now: i64) -> anyhow::Result<()> {
    for name in Library::iter().filter(|n| n.ends_with(".practical.toml")) {
        let file = Library::get(&name).with_context(|| format!("{name} is not embedded"))?;
        let text = String::from_utf8(file.data.into_owned()).with_context(|| format!("{name} is not UTF-8"))?;
        let practical = Practical::parse(&text).with_context(|| format!("practicals/{name}"))?;
        store.stock_practical(practical.file.id, text, now)?;
    }
    Ok(())
}

/// The text of a built-in practical.
pub fn text(id: &str) -> Option<String> {
    let file = Library::get(&format!("{id}.practical.toml"))?;
    String::from_utf8(file.data.into_owned()).ok()
}
