//! Balancing: the smallest whole coefficients that conserve every element and charge, exactly.
//!
//! Each element, and charge, gives one linear equation in the coefficients; their solutions are the null space of a
//! small matrix. It is found by elimination over exact fractions, so that no rounding can make 12 out of 11.9999.
//! One dimension with all coefficients of one sign is *the* balanced equation. None, or no solution in which every
//! substance takes part on its own side, is *impossible*; more than one dimension with such solutions has *more than
//! one way*, because several independent reactions are written as one.
//!
//! Source: linear algebra of the conservation conditions; positivity by the simplex method with Bland's rule (Bland,
//! Math. Oper. Res. 2, 103, 1977), which cannot cycle.

use crate::equation::Equation;
use num_bigint::BigInt;
use num_integer::Integer;
use num_rational::BigRational;
use num_traits::{One, Signed, Zero};
use std::collections::BTreeMap;

/// What balancing an equation comes to. Coefficients stand in the order typed, left side first.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Balance {
    /// One way, up to a factor: the smallest whole coefficients.
    Unique {
        /// Of the reactants.
        reactants: Vec<BigInt>,
        /// Of the products.
        products: Vec<BigInt>,
    },
    /// No way in which each substance is used or made where it stands.
    Impossible {
        /// Why.
        why: Impossible,
        /// How many independent ways conserve everything, signs aside.
        dimension: usize,
    },
    /// Several independent reactions in one: infinitely many ways.
    Underdetermined {
        /// How many independent reactions.
        dimension: usize,
        /// One way, as an example: reactants, then products.
        example: Vec<BigInt>,
    },
}

/// Why an equation cannot be balanced.
#[derive(Debug, Clone, Copy, PartialEq, Eq, thiserror::Error)]
pub enum Impossible {
    /// An element (or charge) cannot be conserved at all.
    #[error("no coefficients conserve every element and charge")]
    NothingConserves,
    /// It would take a negative coefficient.
    #[error("it would take a negative coefficient: a substance stands on the wrong side")]
    WrongSide,
    /// It would take a zero coefficient.
    #[error("a substance takes no part: its coefficient would be zero")]
    TakesNoPart,
}

impl Equation {
    /// The coefficients that balance this equation; those typed are not looked at.
    #[must_use]
    pub fn balance(&self) -> Balance {
        let left = self.reactants.len();
        let columns = left + self.products.len();
        let null = null_space(self.conservation(), columns);
        match &null[..] {
            [] => Balance::Impossible { why: Impossible::NothingConserves, dimension: 0 },
            [only] => unique(only, left),
            _ => match positive(&null, columns) {
                Some(example) => Balance::Underdetermined { dimension: null.len(), example: smallest_whole(&example) },
                None => Balance::Impossible { why: Impossible::WrongSide, dimension: null.len() },
            },
        }
    }

    /// One row for each element and one for charge; products count negative.
    fn conservation(&self) -> Vec<Vec<BigRational>> {
        let terms = self.reactants.iter().map(|t| (t, 1)).chain(self.products.iter().map(|t| (t, -1)));
        let columns = self.reactants.len() + self.products.len();
        let mut rows = BTreeMap::new();
        let mut charge = vec![BigRational::zero(); columns];
        for (column, (term, side)) in terms.enumerate() {
            charge[column] = whole(i64::from(term.formula.charge() * side));
            for (atom, count) in term.formula.composition().exact() {
                let row = rows.entry(*atom).or_insert_with(|| vec![BigRational::zero(); columns]);
                row[column] =
                    BigRational::new(BigInt::from(*count.numer()), BigInt::from(*count.denom())) * whole(side.into());
            }
        }
        rows.into_values().chain([charge]).collect()
    }
}

fn whole(n: i64) -> BigRational {
    BigRational::from_integer(BigInt::from(n))
}

/// A basis of the vectors that every row sends to zero, by elimination to reduced row echelon form.
fn null_space(mut rows: Vec<Vec<BigRational>>, columns: usize) -> Vec<Vec<BigRational>> {
    let mut pivots: Vec<usize> = Vec::new();
    for column in 0..columns {
        let Some(found) = (pivots.len()..rows.len()).find(|r| !rows[*r][column].is_zero()) else { continue };
        let at = pivots.len();
        rows.swap(at, found);
        pivot(&mut rows, at, column);
        pivots.push(column);
    }
    let free = (0..columns).filter(|c| !pivots.contains(c));
    free.map(|f| {
        let mut vector = vec![BigRational::zero(); columns];
        vector[f] = BigRational::one();
        for (row, p) in pivots.iter().enumerate() {
            vector[*p] = -rows[row][f].clone();
        }
        vector
    })
    .collect()
}

/// Makes the entry at `row`, `column` 1 and every other one in its column 0.
fn pivot(rows: &mut [Vec<BigRational>], row: usize, column: usize) {
    let by = rows[row][column].clone();
    rows[row].iter_mut().for_each(|x| *x /= &by);
    let this = rows[row].clone();
    for (r, other) in rows.iter_mut().enumerate() {
        if r != row && !other[column].is_zero() {
            let times = other[column].clone();
            other.iter_mut().zip(&this).for_each(|(x, t)| *x -= &times * t);
        }
    }
}

fn unique(vector: &[BigRational], left: usize) -> Balance {
    let (positive, negative) = (vector.iter().any(Signed::is_positive), vector.iter().any(Signed::is_negative));
    if positive && negative {
        return Balance::Impossible { why: Impossible::WrongSide, dimension: 1 };
    }
    if vector.iter().any(Zero::is_zero) {
        return Balance::Impossible { why: Impossible::TakesNoPart, dimension: 1 };
    }
    let mut reactants = smallest_whole(&vector.iter().map(Signed::abs).collect::<Vec<_>>());
    let products = reactants.split_off(left);
    Balance::Unique { reactants, products }
}

/// The smallest whole numbers in the proportions of `vector`.
fn smallest_whole(vector: &[BigRational]) -> Vec<BigInt> {
    let common = vector.iter().fold(BigInt::one(), |m, x| m.lcm(x.denom()));
    let scaled: Vec<BigInt> = vector.iter().map(|x| (x * &common).to_integer()).collect();
    let divisor = scaled.iter().fold(BigInt::zero(), |g, x| g.gcd(x));
    scaled.iter().map(|x| x / &divisor).collect()
}

/// A vector of the space with every entry at least 1, if there is one.
///
/// With x = 1 + y, y ≥ 0, membership in the space is a set of linear equations for y; the first phase of the simplex
/// method finds a solution or shows that there is none.
fn positive(null: &[Vec<BigRational>], columns: usize) -> Option<Vec<BigRational>> {
    // Rows that vanish exactly on the space: the null space of its basis.
    let conditions = null_space(null.to_vec(), columns);
    let artificial = conditions.len();
    let mut table: Vec<Vec<BigRational>> = conditions
        .iter()
        .enumerate()
        .map(|(i, row)| {
            let sum: BigRational = row.iter().sum();
            // Right-hand sides have to start non-negative.
            let sign = if sum.is_positive() { -BigRational::one() } else { BigRational::one() };
            let mut line: Vec<BigRational> = row.iter().map(|x| x * &sign).collect();
            line.extend((0..artificial).map(|a| whole(i64::from(a == i))));
            line.push(-sum * sign);
            line
        })
        .collect();
    let width = columns + artificial;
    let mut basis: Vec<usize> = (columns..width).collect();
    loop {
        // The artificial variables are to vanish: reduced cost of a column is minus the sum over their rows.
        let cost = |c: usize| -> BigRational {
            (0..table.len()).filter(|r| basis[*r] >= columns).map(|r| table[r][c].clone()).sum()
        };
        let Some(entering) = (0..columns).find(|c| !basis.contains(c) && cost(*c).is_positive()) else { break };
        let candidates = (0..table.len()).filter(|r| table[*r][entering].is_positive());
        let leaving = candidates.min_by(|a, b| {
            let ratio = |r: &usize| &table[*r][width] / &table[*r][entering];
            ratio(a).cmp(&ratio(b)).then(basis[*a].cmp(&basis[*b]))
        })?;
        pivot(&mut table, leaving, entering);
        basis[leaving] = entering;
    }
    if basis.iter().zip(&table).any(|(b, row)| *b >= columns && !row[width].is_zero()) {
        return None;
    }
    let mut x = vec![BigRational::one(); columns];
    for (b, row) in basis.iter().zip(&table).filter(|(b, _)| **b < columns) {
        x[*b] += &row[width];
    }
    Some(x)
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn balanced(typed: &str) -> String {
        match Equation::parse(typed).unwrap().balance() {
            Balance::Unique { reactants, products } => {
                let side = |v: &[BigInt]| v.iter().map(ToString::to_string).collect::<Vec<_>>().join(" ");
                format!("{} -> {}", side(&reactants), side(&products))
            }
            Balance::Impossible { why, .. } => format!("{why:?}"),
            Balance::Underdetermined { dimension, .. } => format!("{dimension} ways"),
        }
    }

    /// Textbook equations; each was checked atom by atom by hand.
    #[test]
    fn the_smallest_whole_coefficients() {
        for (typed, expected) in [
            ("MnO4^- + Fe^2+ + H^+ -> Mn^2+ + Fe^3+ + H2O", "1 5 8 -> 1 5 4"),
            ("Cr2O7^2- + H^+ + e^- -> Cr^3+ + H2O", "1 14 6 -> 2 7"),
            ("CuSO4·5H2O -> CuSO4 + H2O", "1 -> 1 5"),
            ("CaSO4·0.5H2O + H2O -> CaSO4·2H2O", "2 3 -> 2"),
            ("½O2 + H2 => H2O", "1 2 -> 2"),
            ("H2+O2->H2O", "2 1 -> 2"),
            ("CH4 + O2 -> CO2", "NothingConserves"),
            ("H2O + CO2 -> H2 + H2O", "TakesNoPart"),
            ("NaCl + H2O -> Na^+ + Cl^- + H2O", "2 ways"),
            ("KMnO4 + H2O2 + H2SO4 -> K2SO4 + MnSO4 + O2 + H2O", "2 ways"),
        ] {
            assert_eq!(balanced(typed), expected, "{typed}");
        }
    }

    #[test]
    fn a_substance_on_the_wrong_side_is_told() {
        assert_eq!(balanced("Zn + H2 -> ZnCl2 + HCl"), "WrongSide");
        assert_eq!(balanced("H2 + O2 + N2 -> H2O"), "TakesNoPart");
    }

    proptest! {
        /// What a balanced equation conserves, scrambled coefficients or not: every element, and in the smallest numbers.
        #[test]
        fn balancing_conserves_and_is_minimal(c in 1u8..8, h in 1u8..16, o in 0u8..6) {
            let fuel = if o == 0 { format!("C{c}H{h}") } else { format!("C{c}H{h}O{o}") };
            let equation = Equation::parse(&format!("{fuel} + O2 -> CO2 + H2O")).unwrap();
            if let Balance::Unique { reactants, products } = equation.balance() {
                let all: Vec<&BigInt> = reactants.iter().chain(&products).collect();
                let divisor = all.iter().fold(BigInt::zero(), |g, x| g.gcd(x));
                prop_assert_eq!(divisor, BigInt::one());
                let typed = format!("{} {fuel} + {} O2 -> {} CO2 + {} H2O", all[0], all[1], all[2], all[3]);
                prop_assert!(Equation::parse(&typed).unwrap().check().is_ok());
            }
        }
    }
}
