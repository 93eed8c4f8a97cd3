//! Chemical equations as typed, and whether they balance.
//!
//! Sides are parted by `->`, `→`, `⇌` or `=`, terms by ` + `. A leading number is the stoichiometric coefficient of the
//! whole term; where the substance itself begins with a count, the coefficient stands before it with a blank:
//! `1 4MgCO3·Mg(OH)2·5H2O + 5 H2SO4 + …`.

use crate::composition::Atom;
use crate::formula::vulgar_fraction;
use crate::notation::{Run, Script};
use crate::{Formula, FormulaError};
use num_bigint::BigInt;
use num_rational::Ratio;
use std::collections::BTreeMap;
use std::fmt;

const MAX_EQUATION_CHARACTERS: usize = 600;
const MAX_TERMS: usize = 30;

/// A stoichiometric coefficient: mostly a whole number, sometimes a half.
pub type Coefficient = Ratio<i64>;

/// A coefficient as a number.
#[must_use]
pub fn number(coefficient: Coefficient) -> f64 {
    *coefficient.numer() as f64 / *coefficient.denom() as f64
}

/// One substance of an equation with its coefficient as typed.
#[derive(Debug, Clone, PartialEq)]
pub struct Term {
    /// 1 where none was typed.
    pub coefficient: Coefficient,
    /// The substance.
    pub formula: Formula,
}

/// An equation that was read; whether it balances is asked separately.
#[derive(Debug, Clone, PartialEq)]
pub struct Equation {
    /// Left of the arrow.
    pub reactants: Vec<Term>,
    /// Right of the arrow.
    pub products: Vec<Term>,
}

/// Why an equation could not be read.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum EquationError {
    /// No arrow, or more than one.
    #[error("an equation has one arrow, written ->, →, ⇌ or =")]
    Arrow,
    /// Longer than any equation.
    #[error("an equation has at most {MAX_EQUATION_CHARACTERS} characters and {MAX_TERMS} substances")]
    TooLong,
    /// Nothing between two plus signs or on one side.
    #[error("a substance is missing on the {0} side")]
    MissingTerm(&'static str),
    /// A coefficient of zero or beyond counting.
    #[error("'{0}' is no stoichiometric coefficient")]
    Coefficient(String),
    /// A substance that could not be read.
    #[error("in '{term}': {error}")]
    Formula {
        /// The term as typed.
        term: String,
        /// What is wrong in it.
        error: FormulaError,
    },
}

/// What is not conserved: every element (or the charge) whose two sides differ.
#[derive(Debug, Clone, PartialEq)]
pub struct Imbalance {
    /// Symbol or `charge`, count on the left, count on the right.
    pub differences: Vec<(String, f64, f64)>,
}

impl fmt::Display for Imbalance {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let parts: Vec<String> =
            self.differences.iter().map(|(what, l, r)| format!("{what} {l} on the left, {r} on the right")).collect();
        write!(f, "not balanced: {}", parts.join("; "))
    }
}

impl Equation {
    /// The equation that a text means.
    ///
    /// # Errors
    /// [`EquationError`]: the term that could not be read, or what is missing.
    pub fn parse(typed: &str) -> Result<Equation, EquationError> {
        if typed.chars().take(MAX_EQUATION_CHARACTERS + 1).count() > MAX_EQUATION_CHARACTERS {
            return Err(EquationError::TooLong);
        }
        let mut plain = typed.to_owned();
        // The longest spelling first, so that `<=>` is one arrow and not two.
        for arrow in
            ["<-->", "<==>", "<=>", "<->", "-->", "==>", "=>", "->", "–>", "—>", "⇌", "⇋", "⟶", "⇄", "⟷", "↔", "⇒", "="]
        {
            plain = plain.replace(arrow, "→");
        }
        let sides: Vec<&str> = plain.split('→').collect();
        let [left, right] = sides[..] else { return Err(EquationError::Arrow) };
        let equation = Equation { reactants: side(left, "left")?, products: side(right, "right")? };
        if equation.reactants.len() + equation.products.len() > MAX_TERMS {
            return Err(EquationError::TooLong);
        }
        Ok(equation)
    }

    /// Everything in it, reactants first.
    pub fn terms(&self) -> impl Iterator<Item = &Term> {
        self.reactants.iter().chain(&self.products)
    }

    /// How often `formula` occurs, and whether it is used up (`true`) or made.
    #[must_use]
    pub fn term_of(&self, formula: &Formula) -> Option<(Coefficient, bool)> {
        let find = |terms: &[Term]| terms.iter().find(|t| t.formula == *formula).map(|t| t.coefficient);
        find(&self.reactants).map(|c| (c, true)).or_else(|| find(&self.products).map(|c| (c, false)))
    }

    /// The same substances with these coefficients; `None` where one is beyond counting or is missing.
    #[must_use]
    pub fn with_coefficients(&self, reactants: &[BigInt], products: &[BigInt]) -> Option<Equation> {
        let side = |terms: &[Term], numbers: &[BigInt]| -> Option<Vec<Term>> {
            let whole = |n: &BigInt| i64::try_from(n).ok().map(Ratio::from_integer);
            let pairs = terms.iter().zip(numbers);
            let all = pairs.map(|(t, n)| Some(Term { coefficient: whole(n)?, formula: t.formula.clone() }));
            (terms.len() == numbers.len()).then(|| all.collect())?
        };
        Some(Equation { reactants: side(&self.reactants, reactants)?, products: side(&self.products, products)? })
    }

    /// Atoms on either side, by symbol, when both sides agree in every element and in charge.
    ///
    /// # Errors
    /// [`Imbalance`], element by element.
    pub fn check(&self) -> Result<Vec<(String, f64)>, Imbalance> {
        let (left, right) = (totals(&self.reactants), totals(&self.products));
        let shown = |r: &Ratio<i128>| *r.numer() as f64 / *r.denom() as f64;
        let mut atoms: Vec<&Atom> = left.0.keys().chain(right.0.keys()).collect();
        atoms.sort();
        atoms.dedup();
        let zero = Ratio::from_integer(0);
        let mut same = Vec::new();
        let mut differences = Vec::new();
        for atom in atoms {
            let (l, r) = (left.0.get(atom).unwrap_or(&zero), right.0.get(atom).unwrap_or(&zero));
            let symbol = atom.element.symbol.to_owned();
            if l == r {
                same.push((symbol, shown(l)));
            } else {
                differences.push((symbol, shown(l), shown(r)));
            }
        }
        if left.1 != right.1 {
            differences.push(("charge".into(), shown(&left.1), shown(&right.1)));
        }
        if differences.is_empty() { Ok(same) } else { Err(Imbalance { differences }) }
    }

    /// For setting: coefficients, substances, signs and the arrow.
    #[must_use]
    pub fn runs(&self) -> Vec<Run> {
        let mut runs = Vec::new();
        for (terms, arrow) in [(&self.reactants, ""), (&self.products, " → ")] {
            Run::push(&mut runs, Script::Plain, arrow);
            for (i, term) in terms.iter().enumerate() {
                if i > 0 {
                    Run::push(&mut runs, Script::Plain, " + ");
                }
                if term.coefficient != Ratio::from_integer(1) {
                    Run::push(&mut runs, Script::Coefficient, &term.coefficient.to_string());
                    Run::push(&mut runs, Script::Plain, " ");
                }
                // A substance that begins with a count of its own stands in brackets, or both would read as one number.
                let counted = term.formula.typed().starts_with(|c: char| c.is_ascii_digit());
                Run::push(&mut runs, Script::Plain, if counted { "(" } else { "" });
                for run in term.formula.runs() {
                    Run::push(&mut runs, run.script, &run.text);
                }
                Run::push(&mut runs, Script::Plain, if counted { ")" } else { "" });
            }
        }
        runs.retain(|r| !r.text.is_empty());
        runs
    }
}

/// Sums in wide integers: counts are bounded, so that these cannot overflow.
fn totals(terms: &[Term]) -> (BTreeMap<Atom, Ratio<i128>>, Ratio<i128>) {
    let mut sum = BTreeMap::new();
    let mut charge = Ratio::from_integer(0);
    for term in terms {
        let n = Ratio::new(i128::from(*term.coefficient.numer()), i128::from(*term.coefficient.denom()));
        charge += n * i128::from(term.formula.charge());
        for (atom, count) in term.formula.composition().exact() {
            let count = Ratio::new(i128::from(*count.numer()), i128::from(*count.denom()));
            *sum.entry(*atom).or_insert_with(|| Ratio::from_integer(0)) += count * n;
        }
    }
    (sum, charge)
}

fn side(text: &str, name: &'static str) -> Result<Vec<Term>, EquationError> {
    // A plus between blanks parts terms. Without blanks one that ends a charge does not: `Ag+ + Cl-`, `H2+O2`.
    let terms: Vec<&str> = if text.contains(" + ") || text.trim().ends_with('+') {
        text.split(" + ").collect()
    } else {
        text.split('+').collect()
    };
    terms
        .into_iter()
        .map(str::trim)
        .map(|t| if t.is_empty() { Err(EquationError::MissingTerm(name)) } else { term(t) })
        .collect()
}

/// `5 H2SO4`, `5H2SO4`; `1 4MgCO3·Mg(OH)2·5H2O` or `(4MgCO3·Mg(OH)2·5H2O)` where the substance begins with a count of its own.
fn term(text: &str) -> Result<Term, EquationError> {
    let digits = text.find(|c: char| !(c.is_ascii_digit() || c == '.' || "½⅓⅔¼¾".contains(c))).unwrap_or(text.len());
    let (number, rest) = text.split_at(digits);
    let coefficient =
        coefficient(number).ok_or_else(|| EquationError::Coefficient(number.chars().take(20).collect()))?;
    if matches!(rest.trim(), "e-" | "e^-" | "e⁻" | "e\u{2212}") {
        return Ok(Term { coefficient, formula: Formula::electron() });
    }
    let rest = rest.trim();
    let counted = rest
        .strip_prefix('(')
        .and_then(|r| r.strip_suffix(')'))
        .filter(|r| r.starts_with(|c: char| c.is_ascii_digit()));
    let formula = Formula::parse(counted.unwrap_or(rest))
        .map_err(|error| EquationError::Formula { term: text.to_owned(), error })?;
    Ok(Term { coefficient, formula })
}

/// 1 where none was typed; a whole number; or a fraction such as `½` or `0.5`, exactly.
fn coefficient(number: &str) -> Option<Coefficient> {
    if number.is_empty() {
        return Some(Ratio::from_integer(1));
    }
    if let Some(fraction) = number.chars().next().filter(|_| number.chars().count() == 1).and_then(vulgar_fraction) {
        return Some(fraction);
    }
    let (whole, part) = number.split_once('.').unwrap_or((number, ""));
    if part.len() > 4 || whole.len() > 4 {
        return None;
    }
    let scale = 10i64.pow(u32::try_from(part.len()).ok()?);
    let digits: i64 = format!("{whole}{part}").parse().ok()?;
    Some(Ratio::new(digits, scale)).filter(|r| *r > Ratio::from_integer(0))
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    /// Counted by hand: Mg 5, C 4, S 5, O 63, H 70 on both sides.
    #[test]
    fn epsom_salt_from_basic_magnesium_carbonate_balances() {
        let e = Equation::parse("1 4MgCO3·Mg(OH)2·5H2O + 5 H2SO4 + 24 H2O -> 5 MgSO4·7H2O + 4 CO2").unwrap();
        let atoms = e.check().unwrap();
        let count = |s: &str| atoms.iter().find(|(symbol, _)| symbol == s).unwrap().1;
        assert_eq!(["Mg", "C", "S", "O", "H"].map(count), [5.0, 4.0, 5.0, 63.0, 70.0]);
        assert_eq!(e.term_of(&Formula::parse("MgSO4.7H2O").unwrap()), Some((Ratio::from_integer(5), false)));
    }

    #[test]
    fn what_is_not_conserved_is_named() {
        let e = Equation::parse("Zn + Ag+ → Zn^2+ + Ag").unwrap();
        assert_eq!(e.check().unwrap_err().to_string(), "not balanced: charge 1 on the left, 2 on the right");
        let e = Equation::parse("H2 + O2 = H2O").unwrap();
        assert_eq!(e.check().unwrap_err().to_string(), "not balanced: O 2 on the left, 1 on the right");
    }

    #[test]
    fn spellings_people_use() {
        let balanced = |text: &str| Equation::parse(text).unwrap_or_else(|e| panic!("{text}: {e}")).check().is_ok();
        for typed in [
            "2 H2 + O2 → 2 H2O",
            "2H2+O2=2H2O",
            "2 H2 + O2 <=> 2 H2O",
            "2 H₂ + O₂ ⟶ 2 H₂O",
            "H2 + ½O2 -> H2O",
            "H2 + 0.5 O2 => H2O",
            "MnO4^- + 8 H^+ + 5 e^- -> Mn^2+ + 4 H2O",
            "Ag+ + Cl- -> AgCl",
            "CuSO4·5H2O -> CuSO4 + 5 H2O",
        ] {
            assert!(balanced(typed), "{typed}");
        }
        assert_eq!(Equation::parse("H2 -> H2 -> H2").unwrap_err(), EquationError::Arrow);
        assert_eq!(Equation::parse(&"H2 + ".repeat(1000)).unwrap_err(), EquationError::TooLong);
    }

    /// What is printed, read again, is the same equation.
    #[test]
    fn printing_and_reading_go_together() {
        let typed = "1 4MgCO3·Mg(OH)2·5H2O + 5 H2SO4 + 24 H2O -> 5 MgSO4·7H2O + 4 CO2";
        let equation = Equation::parse(typed).unwrap();
        let printed: String = equation.runs().iter().map(|r| r.text.as_str()).collect();
        assert_eq!(printed, "(4MgCO3·Mg(OH)2·5H2O) + 5 H2SO4 + 24 H2O → 5 MgSO4·7H2O + 4 CO2");
        assert_eq!(Equation::parse(&printed).unwrap(), equation);
        let twice = Equation::parse("2(4MgCO3·Mg(OH)2·5H2O) -> 2 4MgCO3·Mg(OH)2·5H2O").unwrap();
        assert_eq!(twice.reactants, twice.products);
    }

    #[test]
    fn an_unreadable_equation_says_why() {
        assert_eq!(Equation::parse("H2 + O2").unwrap_err(), EquationError::Arrow);
        assert_eq!(Equation::parse("H2 + -> H2O").unwrap_err().to_string(), "a substance is missing on the left side");
        assert_eq!(
            Equation::parse("H2 + Xl -> H2O").unwrap_err().to_string(),
            "in 'Xl': no element has the symbol 'Xl' (character 1 of 'Xl')"
        );
        assert_eq!(Equation::parse("0 H2 -> H2").unwrap_err().to_string(), "'0' is no stoichiometric coefficient");
    }

    proptest! {
        #[test]
        fn arbitrary_text_never_panics(text in "\\PC{0,60}", close in "[A-Z0-9a-z()+\\-=>^·. ½]{0,60}") {
            for t in [&text, &close] {
                if let Ok(equation) = Equation::parse(t) {
                    let _ = (equation.check(), equation.balance(), equation.runs());
                }
            }
        }
    }
}
