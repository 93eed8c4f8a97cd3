//! Substances of school and general chemistry: what they are called, what is known of them, what they can do to someone.
//!
//! The library is `substances/substances.toml`; what is not certain is left out there, and a blank says "see the
//! supplier's sheet". Hazards belong to a form and a strength. The statements stand in `substances/statements.toml` in
//! their exact wording.
//!
//! Source of statements, pictograms and their precedence: Regulation (EC) No 1272/2008, annexes III to V and article 26.

use crate::file::Solubility;
use serde::{Deserialize, Serialize};
use sheet::nearest;
use std::collections::BTreeMap;
use std::sync::LazyLock;

static LIBRARY: LazyLock<Vec<Substance>> = LazyLock::new(|| {
    let file: Library = toml_edit::de::from_str(include_str!("../../../substances/substances.toml"))
        .expect("the library is part of this program and tested");
    file.substances
});

static STATEMENTS: LazyLock<Statements> = LazyLock::new(|| {
    toml_edit::de::from_str(include_str!("../../../substances/statements.toml"))
        .expect("the statements are part of this program and tested")
});

#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
struct Library {
    substances: Vec<Substance>,
}

#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
struct Statements {
    hazards: BTreeMap<String, String>,
    precautions: BTreeMap<String, String>,
    advice: BTreeMap<String, Vec<String>>,
}

/// One substance.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Substance {
    /// Systematic name.
    pub name: String,
    /// Common names.
    #[serde(default)]
    pub also: Vec<String>,
    /// As it is weighed.
    pub formula: String,
    /// How it looks.
    pub looks: String,
    /// g/mL at 20 °C, digits as tabulated.
    #[serde(default)]
    pub density: Option<String>,
    /// °C.
    #[serde(default)]
    pub melts: Option<String>,
    /// °C at 101.3 kPa.
    #[serde(default)]
    pub boils: Option<String>,
    /// In water.
    #[serde(default)]
    pub solubility: Option<Solubility>,
    /// pKa at 25 °C, the most acidic first; of a base those of its conjugate acid.
    #[serde(default)]
    pub acid_exponents: Vec<f64>,
    /// What each form and strength can do.
    #[serde(default)]
    pub forms: Vec<HazardForm>,
    /// Where what is left over usually goes.
    #[serde(default)]
    pub disposal: String,
    /// Concentrated, as it is usually sold, where its solutions are made from that.
    #[serde(default)]
    pub sold_as: Vec<SoldAs>,
    /// What to mind while a solution of it is made.
    #[serde(default)]
    pub making: Vec<String>,
    /// What its solutions are kept in.
    #[serde(default)]
    pub bottle: String,
    /// How long they keep.
    #[serde(default)]
    pub keeps: String,
}

/// A concentrated reagent as it is sold; the label of the bottle counts.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct SoldAs {
    /// As in `37 % w/w`.
    pub strength: String,
    /// As in `1.18 g/mL`.
    pub density: String,
}

/// One form or strength with its hazard statements.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct HazardForm {
    /// As in `solid`, `5 to 15 % w/w`.
    pub form: String,
    /// Codes: `H314`. Empty where it is not classified.
    pub hazards: Vec<String>,
}

/// A pictogram of the globally harmonised system.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Pictogram {
    /// Flame (GHS02).
    Flame,
    /// Flame over circle (GHS03).
    Oxidiser,
    /// Corrosion (GHS05).
    Corrosion,
    /// Skull and crossbones (GHS06).
    Skull,
    /// Exclamation mark (GHS07).
    Exclamation,
    /// Health hazard (GHS08).
    Health,
    /// Environment (GHS09).
    Environment,
}

/// All substances, in the order of the library.
#[must_use]
pub fn substances() -> &'static [Substance] {
    &LIBRARY
}

/// What a search has found.
#[derive(Debug, PartialEq)]
pub struct Found {
    /// Best first: a name or formula that is meant, then those that hold the words.
    pub substances: Vec<&'static Substance>,
    /// What was searched for instead, where nothing holds the words as they were typed.
    pub near: Option<String>,
}

/// Substances whose names or formula hold the words of `wanted`; all for no words, near spellings where there are none.
#[must_use]
pub fn find(wanted: &str) -> Found {
    let wanted: String = wanted.trim().chars().take(80).collect();
    let exact = holding(&wanted);
    if !exact.is_empty() || wanted.chars().count() < 4 {
        return Found { substances: exact, near: None };
    }
    let typed = wanted.to_lowercase();
    let words: Vec<String> = LIBRARY.iter().flat_map(names).flat_map(|n| vec![n.to_lowercase()]).collect();
    let parts: Vec<&str> = words.iter().flat_map(|n| n.split([' ', '-', '(', ')']).chain([n.as_str()])).collect();
    // Word by word, so that one slip in a long name is still near.
    let mended: Vec<String> = typed
        .split_whitespace()
        .map(|w| nearest(w, parts.iter().copied().filter(|p| p.chars().count() >= 4)).unwrap_or_else(|| w.to_owned()))
        .collect();
    let near = mended.join(" ");
    let substances = if near == typed { Vec::new() } else { holding(&near) };
    let near = (!substances.is_empty()).then_some(near);
    Found { substances, near }
}

/// The substance that is called so, by any of its names.
#[must_use]
pub fn called(name: &str) -> Option<&'static Substance> {
    LIBRARY.iter().find(|s| names(s).iter().any(|n| n.eq_ignore_ascii_case(name.trim())))
}

/// The substance with this formula, as it is written in the library.
#[must_use]
pub fn with_formula(formula: &str) -> Option<&'static Substance> {
    LIBRARY.iter().find(|s| s.formula == formula)
}

fn names(s: &Substance) -> Vec<&str> {
    std::iter::once(s.name.as_str()).chain(s.also.iter().map(String::as_str)).collect()
}

fn holding(wanted: &str) -> Vec<&'static Substance> {
    let words: Vec<String> = wanted.split_whitespace().map(str::to_lowercase).collect();
    let holds = |s: &&Substance| {
        let text = format!("{} {}", names(s).join(" "), s.formula).to_lowercase();
        words.iter().all(|w| text.contains(w.as_str()))
    };
    let meant = |s: &&Substance| s.formula == wanted || names(s).iter().any(|n| n.eq_ignore_ascii_case(wanted));
    let mut found: Vec<&Substance> = LIBRARY.iter().filter(holds).collect();
    found.sort_by_key(|s| !meant(s));
    found
}

/// The exact wording of a hazard statement, code first: `H225 Highly flammable liquid and vapour.`
#[must_use]
pub fn statement(code: &str) -> Option<String> {
    STATEMENTS.hazards.get(code).map(|text| format!("{code} {text}"))
}

/// The codes of hazard statements: `H225` of `H225 Highly flammable liquid and vapour.`
#[must_use]
pub fn codes(statements: &[String]) -> Vec<String> {
    statements.iter().filter_map(|s| s.split_whitespace().next()).map(str::to_owned).collect()
}

/// Precautionary statements that usually follow these hazards, each once.
#[must_use]
pub fn advice(codes: &[String]) -> Vec<String> {
    let mut wanted: Vec<&String> = codes.iter().flat_map(|c| STATEMENTS.advice.get(c).into_iter().flatten()).collect();
    wanted.sort();
    wanted.dedup();
    wanted.into_iter().filter_map(|p| Some(format!("{p} {}", STATEMENTS.precautions.get(p)?))).collect()
}

/// Pictograms that these hazard statements carry.
///
/// The skull replaces the exclamation mark for acute toxicity, corrosion for irritation of skin and eyes, the health
/// hazard of H334 for sensitisation and irritation of the skin.
#[must_use]
pub fn pictograms(codes: &[String]) -> Vec<Pictogram> {
    let has = |any: &[&str]| codes.iter().any(|c| any.iter().any(|a| c.starts_with(a)));
    let skull = has(&["H300", "H301", "H310", "H311", "H330", "H331"]);
    let corrosion = has(&["H314", "H318"]);
    let sensitiser = has(&["H334"]);
    let exclamation = (has(&["H302", "H312", "H332"]) && !skull)
        || (has(&["H315", "H319"]) && !corrosion && !sensitiser)
        || (has(&["H317"]) && !sensitiser)
        || has(&["H335", "H336"]);
    let carried = [
        (has(&["H220", "H224", "H225", "H226", "H228", "H25", "H26"]), Pictogram::Flame),
        (has(&["H270", "H271", "H272"]), Pictogram::Oxidiser),
        (corrosion || has(&["H290"]), Pictogram::Corrosion),
        (skull, Pictogram::Skull),
        (exclamation, Pictogram::Exclamation),
        (has(&["H304", "H334", "H34", "H350", "H351", "H360", "H361", "H37"]), Pictogram::Health),
        (has(&["H400", "H410", "H411"]), Pictogram::Environment),
    ];
    carried.into_iter().filter_map(|(on, p)| on.then_some(p)).collect()
}

/// The word over the statements of a label.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Signal {
    /// For the more severe hazards; it stands alone.
    Danger,
    /// For the less severe ones.
    Warning,
}

/// The signal word that these hazard statements carry (Regulation (EC) No 1272/2008, annex I and article 20).
///
/// H228, H261 and H272 stand for a category with either word: where nothing else decides, none is given.
#[must_use]
pub fn signal(codes: &[String]) -> Option<Signal> {
    const DANGER: [&str; 20] = [
        "H220", "H224", "H225", "H260", "H271", "H300", "H301", "H304", "H310", "H311", "H314", "H318", "H330", "H331",
        "H334", "H340", "H350", "H360", "H370", "H372",
    ];
    const EITHER: [&str; 3] = ["H228", "H261", "H272"];
    const WARNING: [&str; 18] = [
        "H226", "H252", "H290", "H302", "H312", "H315", "H317", "H319", "H332", "H335", "H336", "H341", "H351", "H361",
        "H371", "H373", "H400", "H410",
    ];
    let has = |any: &[&str]| codes.iter().any(|c| any.iter().any(|a| c.starts_with(a)));
    if has(&DANGER) {
        return Some(Signal::Danger);
    }
    (has(&WARNING) && !has(&EITHER)).then_some(Signal::Warning)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::Stated;
    use chem::{Formula, MassTable};
    use measure::Dimension;
    use std::collections::BTreeSet;

    #[test]
    fn every_substance_can_be_weighed_and_every_statement_is_known() {
        let mut seen = BTreeSet::new();
        assert!(substances().len() >= 150);
        for s in substances() {
            let mass = Formula::parse(&s.formula).map(|f| f.molar_mass(&MassTable::Abridged));
            assert!(matches!(mass, Ok(Ok(_))), "{}: {mass:?}", s.name);
            assert!(seen.insert((s.name.clone(), s.formula.clone())), "{} stands twice", s.name);
            for code in s.forms.iter().flat_map(|f| &f.hazards) {
                assert!(statement(code).is_some(), "{}: {code}", s.name);
            }
            let numbers = [&s.density, &s.melts, &s.boils].into_iter().flatten();
            assert!(numbers.into_iter().all(|n| n.parse::<f64>().is_ok()), "{}", s.name);
            // Nothing melts above its own boiling point.
            let degrees = |t: &Option<String>| t.as_deref().and_then(|t| t.parse::<f64>().ok());
            if let (Some(melts), Some(boils)) = (degrees(&s.melts), degrees(&s.boils)) {
                assert!(melts < boils, "{}", s.name);
            }
            for sold in &s.sold_as {
                let of = |text: &str, dimension| Stated::positive(text, &[dimension]).map(|s| s.base());
                let (part, density) = (of(&sold.strength, Dimension::ONE), of(&sold.density, Dimension::DENSITY));
                assert!(part.is_ok_and(|w| w <= 1.0) && density.is_ok(), "{}: {sold:?}", s.name);
            }
            let exponents = &s.acid_exponents;
            assert!(exponents.windows(2).all(|p| p[0] < p[1]), "{}", s.name);
        }
        for precaution in STATEMENTS.advice.values().flatten() {
            assert!(STATEMENTS.precautions.contains_key(precaution), "{precaution}");
        }
    }

    #[test]
    fn a_substance_is_found_by_any_of_its_names_and_near_spellings() {
        let first = |wanted: &str| find(wanted).substances.first().map(|s| s.name.as_str());
        assert_eq!(first("Epsom salt"), Some("magnesium sulfate heptahydrate"));
        assert_eq!(first("acetic acid"), Some("ethanoic acid"));
        assert_eq!(first("NaOH"), Some("sodium hydroxide"));
        assert_eq!(first("C"), Some("carbon"));
        let misspelt = find("sulphuric acid");
        assert_eq!(
            (misspelt.substances[0].name.as_str(), misspelt.near.as_deref()),
            ("sulfuric acid", Some("sulfuric acid"))
        );
        assert_eq!(find("unobtainium").substances.len(), 0);
        assert_eq!(find("").substances.len(), substances().len());
        assert_eq!(find(&"x".repeat(10_000)).substances.len(), 0);
    }

    /// CLP, annex V and article 26: rows where a mark stands, and near twins where another takes its place.
    #[test]
    fn pictograms_follow_the_statements_and_their_precedence() {
        use Pictogram as P;
        let of = |codes: &str| pictograms(&codes.split(' ').map(str::to_owned).collect::<Vec<_>>());
        assert_eq!(of("H225 H319 H336"), [P::Flame, P::Exclamation]);
        assert_eq!(of("H315 H319"), [P::Exclamation]);
        assert_eq!(of("H314 H335"), [P::Corrosion, P::Exclamation]);
        assert_eq!(of("H302 H314"), [P::Corrosion, P::Exclamation]);
        assert_eq!(of("H318 H315"), [P::Corrosion]);
        assert_eq!(of("H301 H312"), [P::Skull]);
        assert_eq!(of("H317 H334"), [P::Health]);
        assert_eq!(of("H272 H410"), [P::Oxidiser, P::Environment]);
        assert_eq!(of("H412"), []);
    }

    /// CLP, article 20: danger stands alone; what may be either says nothing by itself.
    #[test]
    fn the_signal_word_follows_the_statements() {
        let of = |codes: &str| signal(&codes.split(' ').map(str::to_owned).collect::<Vec<_>>());
        assert_eq!(of("H302 H318"), Some(Signal::Danger));
        assert_eq!(of("H290"), Some(Signal::Warning));
        assert_eq!(of("H360Df H373"), Some(Signal::Danger));
        assert_eq!(of("H315 H319 H335"), Some(Signal::Warning));
        assert_eq!(of("H272 H314"), Some(Signal::Danger));
        // Potassium nitrate carries warning, potassium permanganate danger: H272 alone does not say which.
        assert_eq!((of("H272"), of("H272 H319"), of("H412"), of("H411")), (None, None, None, None));
        // Every statement of the library is placed, or carries no word.
        let silent = ["H228", "H261", "H272", "H362", "H411", "H412"];
        for code in STATEMENTS.hazards.keys() {
            assert_eq!(signal(std::slice::from_ref(code)).is_none(), silent.contains(&code.as_str()), "{code}");
        }
    }

    /// 0.1 mol/L sodium hydroxide is not its pellets.
    #[test]
    fn hazards_belong_to_a_form() {
        let base = &find("NaOH").substances[0].forms;
        assert!(base[0].hazards.contains(&"H314".to_owned()));
        assert_eq!(base.last().unwrap().hazards, ["H290"]);
        assert_eq!(statement("H314").unwrap(), "H314 Causes severe skin burns and eye damage.");
        assert!(advice(&base[0].hazards).iter().any(|p| p.starts_with("P305+P351+P338 IF IN EYES")));
    }
}
