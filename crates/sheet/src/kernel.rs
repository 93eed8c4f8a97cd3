//! The program run on plain numbers: values forward, derivatives backward, nothing allocated on the way.
//!
//! A [`Runner`] holds one number and one state for each node. A value that is missing or impossible spreads to what
//! hangs on it; a fold takes the values that are there. Derivatives are found by going through the program backwards
//! once (reverse accumulation), given the branch that `limiting` took and the set that a fold selected.
//!
//! What must stay true: a node uses earlier nodes only, so that one pass in either direction is enough.
//!
//! Source: Griewank & Walther, Evaluating Derivatives, 2nd ed., chapter 3 (reverse mode).

use crate::candidates::Candidates;
use crate::expression::Leaf;
use crate::inputs::Inputs;
use crate::line::{self, NoLine, Point};
use crate::program::{Fold, Function, LinePart, Node, Op, Program, Protolyte, Search};
use crate::vocabulary::Given;
use chem::{AcidBase, AcidBaseRole, Solution};
use measure::rounding::{Ties, decimal_of, to_figures};
use measure::{Concordance, Decimal, Source, concordance, grubbs};
use std::collections::BTreeMap;

/// Whether a node has a number.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum State {
    Ready,
    NotYet,
    Failed(Trouble),
}

/// Why a node can have no number.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Trouble {
    DividedByZero,
    LogOfNothing,
    RootOfNegative,
    TooLarge,
    Discordant,
    Tied,
    NoFormula,
    NoLine,
    NoLiquidWater,
}

/// A program with room for one set of numbers, to be run again and again.
#[derive(Debug, Clone)]
pub struct Runner<'p> {
    program: &'p Program,
    pub(crate) values: Vec<f64>,
    pub(crate) states: Vec<State>,
    adjoints: Vec<f64>,
    /// Nodes whose number is given instead of computed, in order.
    fixed: Vec<(usize, f64)>,
    /// What the search of each formula node found, in order; none where nothing could be ranked.
    ///
    /// Found once from the numbers and uncertainties of the inputs, and kept when numbers are filled in anew: the
    /// samples of a Monte Carlo are *given* the formula that the data as a whole decided on.
    decided: Vec<(usize, Option<Candidates>)>,
    /// Inputs that have no number yet.
    gaps: usize,
    /// Every state is known to be ready.
    settled: bool,
}

impl<'p> Runner<'p> {
    /// A runner with the numbers of `inputs` filled in, not run yet.
    #[must_use]
    pub fn new(program: &'p Program, inputs: &Inputs) -> Runner<'p> {
        let count = program.nodes.len();
        let mut fixed: Vec<(usize, f64)> = program
            .definitions
            .iter()
            .filter(|d| d.repeats.is_none())
            .filter_map(|d| inputs.substituted.get(&d.name).map(|s| (d.root, s.value)))
            .collect();
        fixed.sort_by_key(|(node, _)| *node);
        let mut runner = Runner {
            program,
            values: vec![0.0; count],
            states: vec![State::NotYet; count],
            adjoints: vec![0.0; count],
            fixed,
            decided: Vec::new(),
            gaps: program.inputs.len(),
            settled: false,
        };
        for (i, node) in program.nodes.iter().enumerate() {
            if let Node::Input(input) = node
                && let Some(given) = given(program, *input, inputs)
            {
                runner.fill(i, given.value);
            }
        }
        runner.decide(inputs);
        runner
    }

    /// Searches the formula of each node whose amounts are there.
    ///
    /// Given the table of atomic masses: amounts are compared by masses of the same table, so that their tolerances
    /// (those of lead are 0.5 %) do not blur which formula it is.
    fn decide(&mut self, inputs: &Inputs) {
        let program = self.program;
        for (i, node) in program.nodes.iter().enumerate() {
            let Node::Formula(search) = node else { continue };
            self.run();
            if search.amounts.iter().any(|n| self.states[*n] != State::Ready) {
                continue;
            }
            let amounts: Vec<f64> = search.amounts.iter().map(|n| self.values[*n]).collect();
            let mut sources: Vec<BTreeMap<Source, f64>> = Vec::new();
            for n in &search.amounts {
                let mut by_source = self.by_source(*n, inputs);
                by_source.retain(|source, _| !matches!(source, Source::AtomicMass(_)));
                sources.push(by_source);
            }
            let mut covariance: Vec<Vec<f64>> =
                sources.iter().map(|a| sources.iter().map(|b| covariance(a, b)).collect()).collect();
            // The chemistry scatters more than the balance: each amount beside the first, in proportion.
            for (i, amount) in amounts.iter().enumerate().skip(1) {
                covariance[i][i] += (search.scatter * amount).powi(2);
            }
            self.decided.push((i, Candidates::rank(search.parts.clone(), &amounts, &covariance, search.most)));
        }
    }

    /// What the search of a formula node found.
    pub(crate) fn candidates(&self, node: usize) -> Option<&Candidates> {
        self.decided.iter().find(|(i, _)| *i == node)?.1.as_ref()
    }

    /// Molar mass of the formula found.
    fn found(&self, node: usize, search: &Search) -> (f64, State) {
        let needed = || search.amounts.iter().chain(&search.masses);
        if let Some(state) = needed().map(|n| self.states[*n]).find(|s| *s != State::Ready) {
            return (0.0, state);
        }
        if !self.decided.iter().any(|(i, _)| *i == node) {
            return (0.0, State::NotYet);
        }
        match self.candidates(node).and_then(Candidates::simplest) {
            Some(formula) => {
                let parts = formula.subscripts.iter().zip(&search.masses);
                (parts.map(|(s, m)| f64::from(*s) * self.values[*m]).sum(), State::Ready)
            }
            None => (0.0, State::Failed(Trouble::NoFormula)),
        }
    }

    /// Where the number of a reading stands.
    #[must_use]
    pub fn slot(&self, symbol: &str) -> Option<usize> {
        let wanted = Leaf::Reading(symbol.to_owned());
        let input = self.program.inputs.iter().position(|i| i.leaf == wanted)?;
        self.program.nodes.iter().position(|n| *n == Node::Input(input))
    }

    /// Puts a number, in base units, into the slot of a reading.
    #[inline]
    pub fn fill(&mut self, slot: usize, value: f64) {
        self.values[slot] = value;
        if self.states[slot] != State::Ready {
            self.states[slot] = State::Ready;
            self.gaps -= 1;
        }
    }

    /// Computes every node.
    pub fn run(&mut self) {
        // Where everything is there, numbers alone say whether something is wrong: they stop being finite.
        if self.gaps == 0 && self.fixed.is_empty() && self.run_plainly() {
            if !self.settled {
                self.states.fill(State::Ready);
                self.settled = true;
            }
        } else {
            self.settled = false;
            self.run_with_states();
        }
    }

    /// Every node by plain arithmetic; false where a number is not finite, or a node needs more than arithmetic.
    fn run_plainly(&mut self) -> bool {
        let program = self.program;
        let values = &mut self.values[..];
        let mut finite = true;
        for op in &program.steps {
            let (at, y) = match *op {
                Op::Sum(at, a, b) => (at, values[a as usize] + values[b as usize]),
                Op::Difference(at, a, b) => (at, values[a as usize] - values[b as usize]),
                Op::Product(at, a, b) => (at, values[a as usize] * values[b as usize]),
                Op::Quotient(at, a, b) => (at, values[a as usize] / values[b as usize]),
                Op::Same(at, a) => (at, values[a as usize]),
                Op::Smaller(at, a, b) => (at, values[a as usize].min(values[b as usize])),
                Op::Other(at) => match other(&program.nodes[at as usize], values) {
                    Some(y) => (at, y),
                    None => return false,
                },
            };
            finite &= y.is_finite();
            values[at as usize] = y;
        }
        finite
    }

    fn run_with_states(&mut self) {
        let fixed = std::mem::take(&mut self.fixed);
        self.run_up_to(self.program.nodes.len(), &fixed, &[]);
        self.fixed = fixed;
    }

    /// The value of node `root` with numbers in the place of some nodes, and other nodes in the place of others, each
    /// in order. The numbers stay in the slots of inputs until they are filled in again.
    pub(crate) fn run_otherwise(
        &mut self,
        fixed: &[(usize, f64)],
        nodes: &[(usize, Node)],
        root: usize,
    ) -> Option<f64> {
        self.settled = false;
        self.run_up_to(root + 1, fixed, nodes);
        (self.states[root] == State::Ready).then(|| self.values[root])
    }

    /// Nodes whose number is given instead of computed.
    pub(crate) fn given(&self) -> &[(usize, f64)] {
        &self.fixed
    }

    /// Takes the number out of an input's slot.
    pub(crate) fn empty(&mut self, slot: usize) {
        if self.states[slot] == State::Ready {
            self.states[slot] = State::NotYet;
            self.gaps += 1;
        }
    }

    fn run_up_to(&mut self, end: usize, fixed: &[(usize, f64)], otherwise: &[(usize, Node)]) {
        let mut fixed = fixed.iter().peekable();
        let mut otherwise = otherwise.iter().peekable();
        for i in 0..end {
            let other = otherwise.next_if(|(node, _)| *node == i);
            if let Some((_, value)) = fixed.next_if(|(node, _)| *node == i) {
                if matches!(self.program.nodes[i], Node::Input(_)) {
                    self.fill(i, *value);
                } else {
                    (self.values[i], self.states[i]) = (*value, State::Ready);
                }
                continue;
            }
            let node = other.map_or(&self.program.nodes[i], |(_, node)| node);
            let (value, state) = match node {
                Node::Input(_) => continue,
                Node::Fold(fold, of) => self.fold(*fold, of),
                Node::Line(part, ys, xs) => self.line(*part, ys, xs),
                Node::Formula(search) => self.found(i, search),
                _ => self.step(node),
            };
            self.values[i] = value;
            self.states[i] =
                if state == State::Ready && !value.is_finite() { State::Failed(Trouble::TooLarge) } else { state };
        }
    }

    /// The number of the definition counted `definition` from 0; its first one where it repeats.
    #[inline]
    #[must_use]
    pub fn value(&self, definition: usize) -> Option<f64> {
        let root = self.program.definitions[definition].root;
        (self.states[root] == State::Ready).then(|| self.values[root])
    }

    /// Finds the derivatives of a definition to every slot; read them with [`Runner::derivative`].
    pub fn differentiate(&mut self, definition: usize) {
        let program = self.program;
        let definition = &program.definitions[definition];
        if !self.settled || !self.fixed.is_empty() {
            return self.backward(definition.root);
        }
        self.adjoints.fill(0.0);
        self.adjoints[definition.root] = 1.0;
        for op in definition.backwards.iter().copied() {
            let (values, adjoints) = (&self.values[..], &mut self.adjoints[..]);
            match op {
                Op::Sum(at, a, b) => {
                    let d = adjoints[at as usize];
                    adjoints[a as usize] += d;
                    adjoints[b as usize] += d;
                }
                Op::Difference(at, a, b) => {
                    let d = adjoints[at as usize];
                    adjoints[a as usize] += d;
                    adjoints[b as usize] -= d;
                }
                Op::Product(at, a, b) => {
                    let d = adjoints[at as usize];
                    adjoints[a as usize] += d * values[b as usize];
                    adjoints[b as usize] += d * values[a as usize];
                }
                Op::Quotient(at, a, b) => {
                    let d = adjoints[at as usize] / values[b as usize];
                    adjoints[a as usize] += d;
                    adjoints[b as usize] -= d * values[at as usize];
                }
                Op::Same(at, a) => adjoints[a as usize] += adjoints[at as usize],
                Op::Smaller(at, a, b) => {
                    let least = if values[a as usize] <= values[b as usize] { a } else { b };
                    adjoints[least as usize] += adjoints[at as usize];
                }
                Op::Other(at) => self.spread(at as usize, self.adjoints[at as usize]),
            }
        }
    }

    /// Derivative, last found, to the number in this slot.
    #[inline]
    #[must_use]
    pub fn derivative(&self, slot: usize) -> f64 {
        self.adjoints[slot]
    }

    pub(crate) fn is_fixed(&self, node: usize) -> bool {
        self.fixed.iter().any(|(f, _)| *f == node)
    }

    fn step(&self, node: &Node) -> (f64, State) {
        let ready = |n: usize| (self.states[n] == State::Ready).then(|| self.values[n]);
        let first_trouble =
            |of: &[usize]| of.iter().map(|n| self.states[*n]).find(|s| *s != State::Ready).unwrap_or(State::NotYet);
        let failed = |trouble| (0.0, State::Failed(trouble));
        let done = |value: f64| (value, State::Ready);
        match *node {
            Node::Negative(a) => ready(a).map_or((0.0, self.states[a]), |a| done(-a)),
            Node::Same(a) => ready(a).map_or((0.0, self.states[a]), done),
            Node::Power(a, n) => match ready(a) {
                None => (0.0, self.states[a]),
                Some(x) if x == 0.0 && n < 0.0 => failed(Trouble::DividedByZero),
                Some(x) if x < 0.0 && n.fract() != 0.0 => failed(Trouble::RootOfNegative),
                Some(x) => done(x.powf(n)),
            },
            Node::Function(f, a) => match ready(a) {
                None => (0.0, self.states[a]),
                Some(x) => apply(f, x).map_or_else(failed, done),
            },
            Node::Sum(a, b) | Node::Difference(a, b) | Node::Product(a, b) | Node::Quotient(a, b) => {
                let (Some(x), Some(y)) = (ready(a), ready(b)) else { return (0.0, first_trouble(&[a, b])) };
                match node {
                    Node::Sum(..) => done(x + y),
                    Node::Difference(..) => done(x - y),
                    Node::Product(..) => done(x * y),
                    _ if y == 0.0 => failed(Trouble::DividedByZero),
                    _ => done(x / y),
                }
            }
            Node::Limiting(ref of) => {
                let mut least = f64::INFINITY;
                for n in of {
                    match ready(*n) {
                        Some(x) => least = least.min(x),
                        None => return (0.0, first_trouble(of)),
                    }
                }
                done(least)
            }
            Node::Ph(side, ref of) => {
                if of.iter().any(|n| ready(*n).is_none()) {
                    return (0.0, first_trouble(of));
                }
                let numbers: Vec<f64> = of.iter().map(|n| self.values[*n]).collect();
                done(weak_solution(side, &numbers).equilibrium().ph)
            }
            Node::Input(_) | Node::Fold(..) | Node::Line(..) | Node::Formula(_) => {
                unreachable!("inputs are filled in; folds, lines and formulas have their own step")
            }
        }
    }

    /// A fold takes what is there; what is missing is not yet counted, and one impossible value spoils it.
    fn fold(&self, fold: Fold, of: &[usize]) -> (f64, State) {
        if let Some(failed) = of.iter().map(|n| self.states[*n]).find(|s| matches!(s, State::Failed(_))) {
            return (0.0, failed);
        }
        let there = || of.iter().filter(|n| self.states[**n] == State::Ready).map(|n| self.values[*n]);
        let count = there().count();
        let enough = match fold {
            Fold::Range | Fold::StandardDeviation | Fold::ConcordantMean(_) => 2,
            Fold::Mean
            | Fold::MeanWithoutOutlier
            | Fold::Sum
            | Fold::Smallest
            | Fold::Largest
            | Fold::LastAgreeing(_) => 1,
        };
        if count < enough {
            return (0.0, State::NotYet);
        }
        // From the first one on, so that equal values have exactly their own mean, and no spread.
        let first = there().next().unwrap_or(0.0);
        let mean = first + there().map(|x| x - first).sum::<f64>() / count as f64;
        let value = match fold {
            Fold::Mean => mean,
            Fold::Sum => there().sum(),
            Fold::Range => there().fold(f64::MIN, f64::max) - there().fold(f64::MAX, f64::min),
            Fold::StandardDeviation => (there().map(|x| (x - mean).powi(2)).sum::<f64>() / (count - 1) as f64).sqrt(),
            Fold::Smallest => there().fold(f64::MAX, f64::min),
            Fold::Largest => there().fold(f64::MIN, f64::max),
            Fold::LastAgreeing(limit) => self.last_agreeing(of, limit).map_or(0.0, |n| self.values[n]),
            Fold::MeanWithoutOutlier => {
                let kept = self.without_outlier(of);
                kept.iter().map(|n| self.values[*n]).sum::<f64>() / kept.len() as f64
            }
            Fold::ConcordantMean(limit) => match self.selected(of, limit) {
                Ok(set) => set.iter().map(|n| self.values[*n]).sum::<f64>() / set.len() as f64,
                Err(trouble) => return (0.0, State::Failed(trouble)),
            },
        };
        (value, State::Ready)
    }

    /// What is asked of the points that are there; one impossible value spoils it.
    fn line(&self, part: LinePart, ys: &[usize], xs: &[usize]) -> (f64, State) {
        let failed = |n: &usize| matches!(self.states[*n], State::Failed(_)).then(|| self.states[*n]);
        if let Some(state) = ys.iter().chain(xs).find_map(failed) {
            return (0.0, state);
        }
        let (_, points) = self.points(ys, xs);
        match line::of_points(part, &points) {
            Ok(value) => (value, State::Ready),
            Err(NoLine::TooFew) => (0.0, State::NotYet),
            Err(NoLine::Upright) => (0.0, State::Failed(Trouble::NoLine)),
        }
    }

    /// The points whose y and x are both there, with their places among all.
    fn points(&self, ys: &[usize], xs: &[usize]) -> (Vec<usize>, Vec<Point>) {
        let ready = |n: usize| self.states[n] == State::Ready;
        let there = ys.iter().zip(xs).enumerate().filter(|(_, (y, x))| ready(**y) && ready(**x));
        there.map(|(i, (y, x))| (i, Point { x: self.values[*x], y: self.values[*y] })).unzip()
    }

    /// The node of the later of the last two in a row that agree; the last one until two do.
    fn last_agreeing(&self, of: &[usize], limit: f64) -> Option<usize> {
        let there: Vec<usize> = of.iter().copied().filter(|n| self.states[*n] == State::Ready).collect();
        // What binary fractions leave is no difference.
        let agree = |pair: &&[usize]| (self.values[pair[0]] - self.values[pair[1]]).abs() <= limit * (1.0 + 1e-9);
        there.windows(2).rev().find(agree).map(|pair| pair[1]).or(there.last().copied())
    }

    /// The nodes that are there, but for the one that an outlier test marks.
    fn without_outlier(&self, of: &[usize]) -> Vec<usize> {
        let there: Vec<usize> = of.iter().copied().filter(|n| self.states[*n] == State::Ready).collect();
        let values: Vec<f64> = there.iter().map(|n| self.values[*n]).collect();
        let marked = grubbs(&values).filter(|g| g.outlier).map(|g| there[g.suspect]);
        there.into_iter().filter(|n| Some(*n) != marked).collect()
    }

    /// The nodes of the best concordant set.
    ///
    /// Numbers are taken to twelve figures: far beyond any reading, and short of what binary fractions blur, so that
    /// 24.30 − 24.20 is within 0.10.
    pub(crate) fn selected(&self, of: &[usize], limit: f64) -> Result<Vec<usize>, Trouble> {
        let there: Vec<usize> = of.iter().copied().filter(|n| self.states[*n] == State::Ready).collect();
        let exact = |x: f64| decimal_of(x).map_or(Decimal::ZERO, |d| to_figures(d, 12, Ties::HalfUp));
        let repeats: Vec<Decimal> = there.iter().map(|n| exact(self.values[*n])).collect();
        match concordance(&repeats, exact(limit)) {
            Concordance::Agree(set) => Ok(set.into_iter().map(|i| there[i]).collect()),
            Concordance::Tied(_) => Err(Trouble::Tied),
            Concordance::None => Err(Trouble::Discordant),
        }
    }

    /// Derivatives of a node to the inputs it hangs on, by input.
    pub(crate) fn gradient(&mut self, root: usize) -> Vec<(usize, f64)> {
        self.backward(root);
        let nodes = self.program.nodes.iter().enumerate();
        nodes
            .filter_map(|(i, node)| match node {
                Node::Input(input) => Some((*input, self.derivative(i))).filter(|(_, d)| *d != 0.0),
                _ => None,
            })
            .collect()
    }

    /// What each source contributes to a node, with its sign: what is shared adds up before it is squared.
    pub(crate) fn by_source(&mut self, root: usize, inputs: &Inputs) -> BTreeMap<Source, f64> {
        let mut by_source: BTreeMap<Source, f64> = BTreeMap::new();
        for (input, d) in self.gradient(root) {
            for c in given(self.program, input, inputs).iter().flat_map(|g| &g.contributions) {
                *by_source.entry(c.source.clone()).or_default() += d * c.standard_uncertainty;
            }
        }
        self.scatter(&mut by_source);
        by_source
    }

    /// Adds how points lie about their lines, by the derivatives last found: slope and intercept of one line share it.
    fn scatter(&self, by_source: &mut BTreeMap<Source, f64>) {
        for (i, node) in self.program.nodes.iter().enumerate() {
            let (Node::Line(part, ys, xs), d) = (node, self.adjoints[i]) else { continue };
            if d == 0.0 || self.is_fixed(i) {
                continue;
            }
            let (places, points) = self.points(ys, xs);
            let Some(sd) = line::residual_sd(*part, &points) else { continue };
            let what = self.program.name_of(ys[0]);
            for (place, (to_y, _)) in places.iter().zip(line::derivatives(*part, &points)) {
                let source = Source::Scatter { what: what.clone(), point: Some(*place) };
                *by_source.entry(source).or_default() += d * to_y * sd;
            }
        }
    }

    /// Derivatives of one node to all it hangs on.
    pub(crate) fn backward(&mut self, root: usize) {
        self.adjoints.fill(0.0);
        if self.states[root] != State::Ready {
            return;
        }
        self.adjoints[root] = 1.0;
        let fixed = !self.fixed.is_empty();
        for i in (0..=root).rev() {
            let d = self.adjoints[i];
            if d != 0.0 && !(fixed && self.is_fixed(i)) {
                self.spread(i, d);
            }
        }
    }

    /// A derivative in equal parts to the nodes that make a mean.
    fn share(&mut self, d: f64, of: &[usize]) {
        for n in of {
            self.adjoints[*n] += d / of.len() as f64;
        }
    }

    /// Hands the derivative of node `i` on to what it uses.
    #[inline]
    fn spread(&mut self, i: usize, d: f64) {
        let y = self.values[i];
        let program = self.program;
        match &program.nodes[i] {
            Node::Input(_) => {}
            Node::Negative(a) => self.adjoints[*a] -= d,
            Node::Sum(a, b) => {
                self.adjoints[*a] += d;
                self.adjoints[*b] += d;
            }
            Node::Difference(a, b) => {
                self.adjoints[*a] += d;
                self.adjoints[*b] -= d;
            }
            Node::Product(a, b) => {
                let (x, z) = (self.values[*a], self.values[*b]);
                self.adjoints[*a] += d * z;
                self.adjoints[*b] += d * x;
            }
            Node::Quotient(a, b) => {
                let below = self.values[*b];
                self.adjoints[*a] += d / below;
                self.adjoints[*b] -= d * y / below;
            }
            Node::Same(a) => self.adjoints[*a] += d,
            Node::Power(a, n) => {
                let x = self.values[*a];
                self.adjoints[*a] += d * n * x.powf(n - 1.0);
            }
            Node::Function(f, a) => {
                let x = self.values[*a];
                self.adjoints[*a] += d * slope(*f, x, y);
            }
            Node::Limiting(of) => {
                if let Some(least) = of.iter().find(|n| self.values[**n] == y) {
                    self.adjoints[*least] += d;
                }
            }
            Node::Ph(side, of) => {
                let numbers: Vec<f64> = of.iter().map(|n| self.values[*n]).collect();
                for (k, n) in of.iter().enumerate() {
                    self.adjoints[*n] += d * ph_slope(*side, &numbers, k, y);
                }
            }
            Node::Fold(fold, of) => self.spread_fold(*fold, of, d, y),
            Node::Line(part, ys, xs) => {
                let (places, points) = self.points(ys, xs);
                for (place, (to_y, to_x)) in places.into_iter().zip(line::derivatives(*part, &points)) {
                    self.adjoints[ys[place]] += d * to_y;
                    self.adjoints[xs[place]] += d * to_x;
                }
            }
            Node::Formula(search) => {
                let found = self.candidates(i).and_then(Candidates::simplest).map(|c| c.subscripts.clone());
                for (s, m) in found.unwrap_or_default().into_iter().zip(&search.masses) {
                    self.adjoints[*m] += d * f64::from(s);
                }
            }
        }
    }

    fn spread_fold(&mut self, fold: Fold, of: &[usize], d: f64, y: f64) {
        let is_there = |states: &[State], n: usize| states[n] == State::Ready;
        let count = of.iter().filter(|n| is_there(&self.states, **n)).count() as f64;
        let mean = of.iter().filter(|n| is_there(&self.states, **n)).map(|n| self.values[*n]).sum::<f64>() / count;
        let at = |values: &[f64], states: &[State], wanted: f64| {
            of.iter().copied().find(|n| is_there(states, *n) && values[*n] == wanted)
        };
        let end = |this: &Runner, least: bool| {
            let there = of.iter().filter(|n| is_there(&this.states, **n)).map(|n| this.values[*n]);
            if least { there.fold(f64::MAX, f64::min) } else { there.fold(f64::MIN, f64::max) }
        };
        match fold {
            Fold::Mean | Fold::Sum | Fold::StandardDeviation => {
                for n in of.iter().copied().filter(|n| self.states[*n] == State::Ready) {
                    self.adjoints[n] += match fold {
                        Fold::Mean => d / count,
                        Fold::StandardDeviation if y == 0.0 => 0.0,
                        Fold::StandardDeviation => d * (self.values[n] - mean) / ((count - 1.0) * y),
                        _ => d,
                    };
                }
            }
            Fold::Range => {
                let (low, high) = (end(self, true), end(self, false));
                if let (Some(a), Some(b)) = (at(&self.values, &self.states, low), at(&self.values, &self.states, high))
                {
                    self.adjoints[a] -= d;
                    self.adjoints[b] += d;
                }
            }
            Fold::Smallest | Fold::Largest => {
                if let Some(n) = at(&self.values, &self.states, y) {
                    self.adjoints[n] += d;
                }
            }
            Fold::LastAgreeing(limit) => {
                if let Some(n) = self.last_agreeing(of, limit) {
                    self.adjoints[n] += d;
                }
            }
            Fold::MeanWithoutOutlier => self.share(d, &self.without_outlier(of)),
            Fold::ConcordantMean(limit) => {
                let Ok(set) = self.selected(of, limit) else { return };
                self.share(d, &set);
            }
        }
    }
}

/// Covariance of two values by what each source contributes to them: sources of both count together.
pub(crate) fn covariance(one: &BTreeMap<Source, f64>, other: &BTreeMap<Source, f64>) -> f64 {
    one.iter().filter_map(|(source, u)| other.get(source).map(|v| u * v)).sum()
}

/// The rarer nodes that plain arithmetic can do; `None` where more is needed.
fn other(node: &Node, values: &[f64]) -> Option<f64> {
    match *node {
        Node::Negative(a) => Some(-values[a]),
        Node::Power(a, n) => Some(values[a].powf(n)),
        Node::Limiting(ref of) => Some(of.iter().map(|n| values[*n]).fold(f64::INFINITY, f64::min)),
        Node::Fold(Fold::Mean, ref of) => Some(of.iter().map(|n| values[*n]).sum::<f64>() / of.len() as f64),
        Node::Fold(Fold::Sum, ref of) => Some(of.iter().map(|n| values[*n]).sum()),
        _ => None,
    }
}

/// The number that an input has: known from the start, or a reading of the group.
pub(crate) fn given<'a>(program: &'a Program, input: usize, inputs: &'a Inputs) -> Option<&'a Given> {
    let input = &program.inputs[input];
    input.given.as_ref().or_else(|| inputs.given(&input.leaf))
}

fn apply(f: Function, x: f64) -> Result<f64, Trouble> {
    match f {
        Function::SquareRoot if x < 0.0 => Err(Trouble::RootOfNegative),
        Function::NaturalLog | Function::CommonLog if x <= 0.0 => Err(Trouble::LogOfNothing),
        Function::SquareRoot => Ok(x.sqrt()),
        Function::NaturalLog => Ok(x.ln()),
        Function::CommonLog => Ok(x.log10()),
        Function::PowerOfTen => Ok(10f64.powf(x)),
        Function::Exponential => Ok(x.exp()),
        Function::Absolute => Ok(x.abs()),
        // In base units a pascal is 100.
        Function::VapourPressure => {
            chem::vapour_pressure_of_water(x).map(|(p, _)| 100.0 * p).ok_or(Trouble::NoLiquidWater)
        }
    }
}

fn slope(f: Function, x: f64, y: f64) -> f64 {
    match f {
        Function::SquareRoot => 0.5 / y,
        Function::NaturalLog => 1.0 / x,
        Function::CommonLog => 1.0 / (x * std::f64::consts::LN_10),
        Function::PowerOfTen => y * std::f64::consts::LN_10,
        Function::Exponential => y,
        Function::Absolute => x.signum(),
        Function::VapourPressure => chem::vapour_pressure_of_water(x).map_or(0.0, |(_, slope)| 100.0 * slope),
    }
}

/// A weak acid or base alone in water at 25 °C: concentration, then its pKa.
fn weak_solution(side: Protolyte, numbers: &[f64]) -> Solution {
    let role = match side {
        Protolyte::Acid => AcidBaseRole::WeakAcid,
        Protolyte::Base => AcidBaseRole::WeakBase,
    };
    Solution { solutes: vec![(AcidBase::new(role, &numbers[1..]), numbers[0])], pkw: 14.0 }
}

/// Derivative of the pH to its k-th argument, by the implicit function theorem: −(∂F/∂p)/(∂F/∂pH) of the charge
/// balance F = 0. The partial to the argument is a central difference of F, which is smooth and cheap.
fn ph_slope(side: Protolyte, numbers: &[f64], k: usize, ph: f64) -> f64 {
    let step = 1e-6 * numbers[k].abs().max(1e-9);
    let charge = |shift: f64| {
        let mut moved = numbers.to_vec();
        moved[k] += shift;
        -weak_solution(side, &moved).base_needed(ph)
    };
    let partial = (charge(step) - charge(-step)) / (2.0 * step);
    let buffer = weak_solution(side, numbers).equilibrium().buffer_value;
    partial / buffer
}
