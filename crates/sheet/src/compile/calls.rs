//! Calls: leaves with chemical meaning, functions, folds and solvers.

use super::{Compiled, Compiler, Operand, together};
use crate::Precision;
use crate::candidates::Candidates;
use crate::error::{SheetProblem, nearest};
use crate::expression::{Expression, Kind, Leaf};
use crate::program::{Fold, Function, LinePart, Node, Protolyte, Search};
use crate::vocabulary::{Given, Material, Quantity};
use chem::{Coefficient, Formula};
use measure::{Contribution, Dimension, Distribution, Source, Unit, rounding};

/// Each is a search through thousands of candidates.
const MAX_FORMULAS: usize = 20;

const FOLDS: &[&str] =
    &["mean", "sum", "range", "sd", "smallest", "largest", "concordant_mean", "last_agreeing", "mean_without_outlier"];
const LEAF_FUNCTIONS: &[&str] =
    &["M", "coefficient", "ratio", "concentration", "purity", "density", "mass_concentration"];

/// Amounts that scatter by half and more stand for no formula.
const MOST_SCATTER: f64 = 0.5;

impl<'a> Compiler<'a> {
    pub(super) fn call(&mut self, at: usize, function: &str, arguments: &[Expression]) -> Compiled {
        let wrong = |wanted| (at, SheetProblem::Arguments { function: function.to_owned(), wanted });
        match function {
            "limiting" => return self.limiting(at, arguments),
            "acid_pH" => return self.ph(at, function, Protolyte::Acid, arguments),
            "base_pH" => return self.ph(at, function, Protolyte::Base, arguments),
            "formula" => return self.formula(at, arguments),
            "M" => {
                if let Some(found) = self.found_formula(arguments) {
                    return Ok(self.each(&[&found], found.dimension, |n| Node::Same(n[0])));
                }
            }
            _ => {}
        }
        if let Some(f) = mathematical(function) {
            let [argument] = arguments else { return Err(wrong("one value")) };
            let inner = self.expression(argument)?;
            let dimension = match (f, inner.dimension) {
                (Function::Absolute, d) => d,
                (Function::VapourPressure, Dimension::TEMPERATURE) => Dimension::PRESSURE,
                (Function::VapourPressure, _) => {
                    return Err(wrong("a temperature"));
                }
                (_, Dimension::ONE) => Dimension::ONE,
                (_, found) => return Err((at, SheetProblem::NeedsNumber { function: function.to_owned(), found })),
            };
            return Ok(self.each(&[&inner], dimension, |n| Node::Function(f, n[0])));
        }
        if let Some(part) = of_points(function) {
            return self.line(at, function, part, arguments);
        }
        if FOLDS.contains(&function) {
            return self.fold(at, function, arguments);
        }
        let materials: Vec<&Material> = arguments
            .iter()
            .map(|a| match &a.kind {
                Kind::Name(name) => self.material(name).map_err(|p| (a.at, p)),
                _ => Err(wrong("the symbol of a material")),
            })
            .collect::<Result<_, _>>()
            .or_else(|e| if LEAF_FUNCTIONS.contains(&function) { Err(e) } else { Ok(Vec::new()) })?;
        match (function, &materials[..]) {
            ("M", [m]) => self.molar_mass(m),
            ("coefficient", [m]) => self.coefficient(m),
            ("ratio", [of, per]) => self.ratio(of, per),
            ("concentration", [m]) => {
                self.stated(m, "concentration", m.concentration.as_ref(), Leaf::Concentration(m.symbol.clone()))
            }
            ("purity", [m]) => self.stated(m, "purity", m.purity.as_ref(), Leaf::Purity(m.symbol.clone())),
            ("density", [m]) => self.stated(m, "density", m.density.as_ref(), Leaf::Density(m.symbol.clone())),
            ("mass_concentration", [m]) => {
                let leaf = Leaf::MassConcentration(m.symbol.clone());
                self.stated(m, "mass concentration", m.mass_concentration.as_ref(), leaf)
            }
            ("ratio", _) => return Err(wrong("the symbols of two materials")),
            (known, _) if LEAF_FUNCTIONS.contains(&known) => return Err(wrong("the symbol of one material")),
            _ => return Err((at, SheetProblem::UnknownFunction(function.chars().take(30).collect()))),
        }
        .map_err(|p| (at, p))
    }

    /// `mean(x)`, `concordant_mean(x, 0.10 mL)`, `last_agreeing(m, 0.002 g)`: one value from the values of an axis, rough ones left out.
    fn fold(&mut self, at: usize, function: &str, arguments: &[Expression]) -> Compiled {
        let wrong = |wanted| (at, SheetProblem::Arguments { function: function.to_owned(), wanted });
        let [of, rest @ ..] = arguments else { return Err(wrong("a value for each trial")) };
        let operand = self.expression(of)?;
        let fold = match (function, rest) {
            ("mean", []) => Fold::Mean,
            ("sum", []) => Fold::Sum,
            ("range", []) => Fold::Range,
            ("sd", []) => Fold::StandardDeviation,
            ("smallest", []) => Fold::Smallest,
            ("largest", []) => Fold::Largest,
            ("mean_without_outlier", []) => Fold::MeanWithoutOutlier,
            ("concordant_mean" | "last_agreeing", [limit]) => match &limit.kind {
                Kind::Number { value, unit } if unit.dimension() == operand.dimension => {
                    let limit = unit.to_base(value.to_f64());
                    if function == "last_agreeing" { Fold::LastAgreeing(limit) } else { Fold::ConcordantMean(limit) }
                }
                _ => return Err((limit.at, wrong("a value for each trial and the limit, in its unit").1)),
            },
            _ => return Err(wrong("a value for each trial, and concordant_mean and last_agreeing also the limit")),
        };
        let Some(repeats) = operand.repeats.as_ref() else {
            return Err((at, SheetProblem::NothingToFold(function.to_owned())));
        };
        let nodes = (repeats.rough.min(repeats.most)..repeats.most).map(|t| operand.at(t)).collect();
        Ok(Operand { first: self.alone(Node::Fold(fold, nodes)), dimension: operand.dimension, repeats: None })
    }

    /// `slope(A, c)`: of the straight line through the points (c, A), one for each trial, rough ones left out.
    fn line(&mut self, at: usize, function: &str, part: LinePart, arguments: &[Expression]) -> Compiled {
        let wanted = "a value of y and one of x for each point, in this order";
        let [y, x] = arguments else {
            return Err((at, SheetProblem::Arguments { function: function.to_owned(), wanted }));
        };
        let (y, x) = (self.expression(y)?, self.expression(x)?);
        together(&[&y, &x]).map_err(|p| (at, p))?;
        let (Some(repeats), true) = (&y.repeats, x.repeats.is_some()) else {
            return Err((at, SheetProblem::NothingToFold(function.to_owned())));
        };
        let dimension = match part {
            LinePart::Slope | LinePart::SlopeThroughZero => x.dimension.power(-1).and_then(|d| y.dimension.times(d)),
            LinePart::Intercept => Some(y.dimension),
            LinePart::Area => y.dimension.times(x.dimension),
        };
        let dimension = dimension.ok_or((at, SheetProblem::BadPower))?;
        let points = repeats.rough.min(repeats.most)..repeats.most;
        let node = Node::Line(part, points.clone().map(|t| y.at(t)).collect(), points.map(|t| x.at(t)).collect());
        Ok(Operand { first: self.alone(node), dimension, repeats: None })
    }

    fn limiting(&mut self, at: usize, extents: &[Expression]) -> Compiled {
        if extents.len() < 2 {
            let wanted = "the extents of two or more reagents";
            return Err((at, SheetProblem::Arguments { function: "limiting".into(), wanted }));
        }
        let operands: Vec<Operand> = extents.iter().map(|e| self.expression(e)).collect::<Result<_, _>>()?;
        let dimension = operands[0].dimension;
        if let Some(other) = operands.iter().map(|o| o.dimension).find(|d| *d != dimension) {
            return Err((at, SheetProblem::Dimensions { left: other, action: "compared with", right: dimension }));
        }
        let all: Vec<&Operand> = operands.iter().collect();
        together(&all).map_err(|p| (at, p))?;
        Ok(self.each(&all, dimension, |n| Node::Limiting(n.to_vec())))
    }

    /// `acid_pH(c, pKa, …)`: a named solver with its own derivative.
    fn ph(&mut self, at: usize, function: &str, side: Protolyte, arguments: &[Expression]) -> Compiled {
        let operands: Vec<Operand> = arguments.iter().map(|e| self.expression(e)).collect::<Result<_, _>>()?;
        let fits = match &operands[..] {
            [c, exponents @ ..] => {
                c.dimension == Dimension::CONCENTRATION
                    && (1..=6).contains(&exponents.len())
                    && exponents.iter().all(|e| e.dimension == Dimension::ONE)
            }
            [] => false,
        };
        if !fits {
            let wanted = "an amount concentration, then one to six pKa";
            return Err((at, SheetProblem::Arguments { function: function.to_owned(), wanted }));
        }
        let all: Vec<&Operand> = operands.iter().collect();
        together(&all).map_err(|p| (at, p))?;
        Ok(self.each(&all, Dimension::ONE, |n| Node::Ph(side, n.to_vec())))
    }

    /// `formula(Cu, n_Cu, Cl, n_Cl, 6, 2 %)`: a named solver, given the table of masses. It is a step in its amounts, so it
    /// has a derivative to the molar masses of its parts only.
    fn formula(&mut self, at: usize, arguments: &[Expression]) -> Compiled {
        let wanted = "two to six materials, each with its amount (not for each trial), then, if it is not 6, the \
                      largest subscript: up to 12, of five parts 8, of six 6; then, in %, how far the chemistry scatters";
        let wrong = (at, SheetProblem::Arguments { function: "formula".into(), wanted });
        let figure = |e: &Expression| match &e.kind {
            Kind::Number { value, unit } => Some((value.to_f64(), unit.clone())),
            _ => None,
        };
        let numbers = arguments.iter().rev().map_while(figure).count().min(2);
        let (pairs, rest) = arguments.split_at(arguments.len() - numbers);
        let rest: Vec<(f64, Unit)> = rest.iter().filter_map(figure).collect();
        let percent = |(_, unit): &(f64, Unit)| unit.written() == "%";
        let (most, scatter) = match &rest[..] {
            [] => (None, None),
            [scatter] if percent(scatter) => (None, Some(scatter)),
            [most] => (Some(most), None),
            [most, scatter] if percent(scatter) => (Some(most), Some(scatter)),
            _ => return Err(wrong),
        };
        let most = match most {
            Some((value, unit)) if *unit == Unit::one() => {
                (1..=Candidates::most(pairs.len() / 2)).find(|n| f64::from(*n) == *value)
            }
            None => Some(6),
            Some(_) => None,
        };
        let scatter = scatter.map_or(0.0, |(value, unit)| unit.to_base(*value));
        let (Some(most), 4..=12, true, 0.0..MOST_SCATTER) = (most, pairs.len(), pairs.len().is_multiple_of(2), scatter)
        else {
            return Err(wrong);
        };
        if self.program.nodes.iter().filter(|n| matches!(n, Node::Formula(_))).count() >= MAX_FORMULAS {
            return Err((at, SheetProblem::TooMuch("20 formulas to be found")));
        }
        let mut search = Search { parts: Vec::new(), amounts: Vec::new(), masses: Vec::new(), most, scatter };
        for pair in pairs.chunks_exact(2) {
            let Kind::Name(symbol) = &pair[0].kind else { return Err((pair[0].at, wrong.1)) };
            let material = self.material(symbol).map_err(|p| (pair[0].at, p))?;
            let mass = self.molar_mass(material).map_err(|p| (pair[0].at, p))?;
            let amount = self.expression(&pair[1])?;
            if amount.dimension != Dimension::AMOUNT || amount.repeats.is_some() {
                return Err((pair[1].at, wrong.1));
            }
            search.parts.push(material.formula.as_ref().map_or(symbol.as_str(), Formula::typed).to_owned());
            search.amounts.push(amount.first);
            search.masses.push(mass.first);
        }
        Ok(Operand { first: self.alone(Node::Formula(search)), dimension: Dimension::MOLAR_MASS, repeats: None })
    }

    /// The argument of `M(…)`, where that is a formula which the sheet itself has found.
    fn found_formula(&self, arguments: &[Expression]) -> Option<Operand> {
        let [Expression { kind: Kind::Name(name), .. }] = arguments else { return None };
        if self.material(name).is_ok() {
            return None;
        }
        let definition = self.program.definition(name).filter(|d| self.program.is_formula(d))?;
        Some(Operand { first: definition.root, dimension: definition.dimension, repeats: None })
    }

    fn material(&self, symbol: &str) -> Result<&'a Material, SheetProblem> {
        self.vocabulary.materials.iter().find(|m| m.symbol == symbol).ok_or_else(|| SheetProblem::UnknownMaterial {
            name: symbol.to_owned(),
            near: nearest(symbol, self.vocabulary.materials.iter().map(|m| m.symbol.as_str())),
        })
    }

    fn molar_mass(&mut self, material: &Material) -> Result<Operand, SheetProblem> {
        let missing =
            || SheetProblem::NotStated { material: material.symbol.clone(), property: "formula with a molar mass" };
        let formula = material.formula.as_ref().ok_or_else(missing)?;
        let mass = formula.molar_mass(&self.vocabulary.masses).map_err(|_| missing())?;
        // The table's digits: sums of five-figure masses are shown to the thousandth.
        let shown = rounding::decimal_of(mass.value).ok_or_else(missing)?;
        let shown = rounding::to_place(shown, -3, rounding::Ties::HalfUp);
        let contributions = mass
            .contributions
            .iter()
            .filter(|_| !self.vocabulary.masses_exact)
            .map(|(symbol, u)| Contribution {
                source: Source::AtomicMass((*symbol).to_owned()),
                standard_uncertainty: *u,
                distribution: Distribution::Rectangular,
            })
            .collect();
        let unit = Unit::parse("g/mol")?;
        let given = Given {
            value: mass.value,
            contributions,
            precision: Precision::Exact,
            written: shown.to_string(),
            unit,
            half_division: 0.0,
        };
        Ok(self.input(Leaf::MolarMass(material.symbol.clone()), Dimension::MOLAR_MASS, Some(given)))
    }

    fn coefficient(&mut self, material: &Material) -> Result<Operand, SheetProblem> {
        let given = Given::ratio(coefficient_of(material)?);
        Ok(self.input(Leaf::Coefficient(material.symbol.clone()), Dimension::ONE, Some(given)))
    }

    fn ratio(&mut self, of: &Material, per: &Material) -> Result<Operand, SheetProblem> {
        let own = self.vocabulary.ratios.iter().find(|(a, b, _)| *a == of.symbol && *b == per.symbol);
        let ratio = match own {
            Some((.., ratio)) => *ratio,
            None => coefficient_of(of)? / coefficient_of(per)?,
        };
        let given = Given::ratio(ratio);
        Ok(self.input(Leaf::Ratio(of.symbol.clone(), per.symbol.clone()), Dimension::ONE, Some(given)))
    }

    fn stated(
        &mut self,
        material: &Material,
        property: &'static str,
        quantity: Option<&Quantity>,
        leaf: Leaf,
    ) -> Result<Operand, SheetProblem> {
        let quantity =
            quantity.ok_or_else(|| SheetProblem::NotStated { material: material.symbol.clone(), property })?;
        let given = Given::stated(format!("{property} of {}", material.symbol), quantity, self.vocabulary.writing);
        Ok(self.input(leaf, quantity.unit.dimension(), Some(given)))
    }
}

fn coefficient_of(material: &Material) -> Result<Coefficient, SheetProblem> {
    let property = "place in the reaction";
    material.coefficient.ok_or_else(|| SheetProblem::NotStated { material: material.symbol.clone(), property })
}

fn mathematical(name: &str) -> Option<Function> {
    Some(match name {
        "sqrt" => Function::SquareRoot,
        "ln" => Function::NaturalLog,
        "log10" => Function::CommonLog,
        "exp10" => Function::PowerOfTen,
        "exp" => Function::Exponential,
        "abs" => Function::Absolute,
        "p_water" => Function::VapourPressure,
        _ => return None,
    })
}

fn of_points(name: &str) -> Option<LinePart> {
    Some(match name {
        "slope" => LinePart::Slope,
        "intercept" => LinePart::Intercept,
        "slope_through_zero" => LinePart::SlopeThroughZero,
        "area" => LinePart::Area,
        _ => return None,
    })
}
