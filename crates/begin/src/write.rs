//! From what was answered to the text of a file: the templates in `beginnings/`, filled in.

use measure::Instrument;
use minijinja::value::ValueKind;
use minijinja::{AutoEscape, Environment, UndefinedBehavior, Value};
use serde::Serialize;
use std::fmt::Write;
use std::sync::LazyLock;

macro_rules! templates {
    ($($name:literal),+ $(,)?) => {
        &[$(($name, include_str!(concat!("../../../beginnings/", $name, ".jinja")))),+]
    };
}

const TEMPLATES: &[(&str, &str)] = templates![
    "common",
    "stock",
    "titrant-by-mass",
    "titrant-by-solution",
    "sample-by-titration",
    "back-titration",
    "yield-of-salt",
    "yield-of-precipitate",
    "yield-of-organic-solid",
    "yield-of-organic-liquid",
    "simplest-formula",
    "waters-of-crystallisation",
    "part-by-precipitate",
    "part-by-residue",
    "recovery",
    "solution",
    "dilution-series",
    "which-limits",
    "which-reaction",
];

static WRITER: LazyLock<Environment<'static>> = LazyLock::new(|| {
    let mut writer = Environment::new();
    writer.set_undefined_behavior(UndefinedBehavior::Strict);
    writer.set_trim_blocks(true);
    writer.set_lstrip_blocks(true);
    writer.set_auto_escape_callback(|_| AutoEscape::Custom("toml"));
    writer.set_formatter(|out, _, value| {
        if value.is_safe() {
            write!(out, "{value}")?;
        } else if let Some(text) = value.as_str() {
            text.chars().try_for_each(|c| in_a_string(out, c))?;
        } else if let (ValueKind::Number, Ok(number)) = (value.kind(), f64::try_from(value.clone())) {
            // As a person writes it: 50, not 50.0.
            write!(out, "{number}")?;
        } else {
            write!(out, "{value}")?;
        }
        Ok(())
    });
    for (name, text) in TEMPLATES {
        writer.add_template(name, text).expect("the beginnings are part of this program and tested");
    }
    writer
});

/// A character as it stands in a basic string of TOML.
fn in_a_string(out: &mut minijinja::Output<'_>, c: char) -> std::fmt::Result {
    match c {
        '"' => out.write_str("\\\""),
        '\\' => out.write_str("\\\\"),
        c if c.is_control() => write!(out, "\\u{:04X}", u32::from(c)),
        c => out.write_char(c),
    }
}

/// The text of the beginning called `name`.
pub(crate) fn written(name: &str, with: Value) -> String {
    let template = WRITER.get_template(name).expect("every aim has a template; a test writes each");
    let text = template.render(with).expect("a template asks for what its aim gives; a test writes each");
    let mut out = String::with_capacity(text.len());
    let mut empty = 0;
    for line in text.lines().map(str::trim_end) {
        empty = if line.is_empty() { empty + 1 } else { 0 };
        if empty < 2 {
            out.push_str(line);
            out.push('\n');
        }
    }
    out
}

/// How a reading stands in the file.
#[derive(Debug, Clone, Serialize)]
pub(crate) struct Reads {
    unit: String,
    instrument: String,
    decimals: usize,
    low: String,
    high: String,
    expected: String,
}

impl Reads {
    /// A value on an instrument, expected within `low` and `high`, all in the instrument's unit.
    pub fn on(instrument: &Instrument, expected: f64, (low, high): (f64, f64)) -> Reads {
        let decimals = decimals(instrument);
        Reads {
            unit: instrument.unit.clone(),
            instrument: instrument.name.clone(),
            decimals,
            low: plain(low, decimals),
            high: plain(high, decimals),
            expected: format!("{expected:.decimals$}"),
        }
    }

    /// Glass with one mark.
    pub fn nominal(glass: &Instrument) -> Reads {
        let off = (2.0 * glass.tolerance).max(0.05);
        Reads::on(glass, glass.capacity, (glass.capacity - off, glass.capacity + off))
    }
}

/// Digits after the point that an instrument gives.
pub(crate) fn decimals(instrument: &Instrument) -> usize {
    let step = if instrument.is_nominal() { 0.01 } else { instrument.resolution };
    (0..6).find(|n| step * 10f64.powi(*n) >= 1.0 - 1e-9).map_or(0, |n| usize::try_from(n).unwrap_or(0))
}

/// A number to so many places, without zeros that say nothing.
pub(crate) fn plain(value: f64, places: usize) -> String {
    let text = format!("{value:.places$}");
    if text.contains('.') { text.trim_end_matches('0').trim_end_matches('.').to_owned() } else { text }
}
