//! Formulas and equations as the interface sets them: runs of upright text, subscripts and superscripts.

use serde::Serialize;

/// Where a run of characters stands.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Script {
    /// On the line.
    Plain,
    /// A count, below the line.
    Sub,
    /// A charge, above the line.
    Super,
    /// A stoichiometric coefficient.
    Coefficient,
}

/// Characters that stand at one height.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Run {
    /// Where they stand.
    pub script: Script,
    /// The characters.
    pub text: String,
}

impl Run {
    pub(crate) fn new(script: Script, text: impl Into<String>) -> Run {
        Run { script, text: text.into() }
    }

    /// Adds a run, or lengthens the last one when it stands at the same height.
    pub(crate) fn push(runs: &mut Vec<Run>, script: Script, text: &str) {
        match runs.last_mut() {
            Some(last) if last.script == script => last.text.push_str(text),
            _ => runs.push(Run::new(script, text)),
        }
    }
}
