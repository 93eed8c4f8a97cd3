//! Slips on an operation with a declared role: a weighing, a titre, a mean, a yield, a blank, a dilution.

use super::reach::{At, Candidate, Made, Reach, at};
use super::smallest::{Smallest, mass_of, smallest};
use measure::Dimension;
use practical::SheetRole;
use practical::file::{Method, Weighing};
use practical::slip::Slip;
use sheet::{Act, Change, Gathered, Leaf, Place, Work};

/// Over volumes in mL, with the amount in mmol.
const IN_MILLILITRES: f64 = 1e-6;
/// Over or of amounts in mmol.
const IN_MILLIMOLES: f64 = 1e-3;

impl Reach<'_> {
    pub(super) fn at_weighings(&mut self) {
        for weighing in &self.practical.file.weighings {
            let Some(place) = self.definition(weighing.name()) else { continue };
            match weighing {
                Weighing::Tared { .. } => {}
                Weighing::ByDifference { name, .. } => {
                    self.add(Slip::ContainerKept, name, 1.0, vec![at(place, Act::First)]);
                    self.add(Slip::FirstReadingKept, name, 1.0, vec![at(place, Act::Second)]);
                    self.add(Slip::DifferenceReversed, name, 1.0, vec![at(place, Act::Reversed)]);
                }
                Weighing::ContainerAndContents { name, containers, .. } => {
                    self.containers(name, place, containers.len());
                    self.other_object(name, place, containers);
                }
                Weighing::MatchedBlank { name, blank, .. } => {
                    self.containers(name, place, 1);
                    self.other_object(name, place, std::slice::from_ref(blank));
                }
            }
        }
        self.container_in_all();
        // What was weighed, and what is chosen among weighings (the last of several heatings).
        let chosen = self.places.iter().filter(|p| matches!(self.work(**p), Work::Fold(_)) && self.is_mass(**p));
        let weighed = self.practical.file.weighings.iter().filter_map(|w| self.definition(w.name()));
        let single: Vec<Place> = weighed.chain(chosen.copied()).filter(|p| p.count() == 1).collect();
        for place in single {
            if let Some(name) = self.program().defines(place) {
                self.other_mass(name, place);
            }
        }
    }

    /// Whether a place is the value of a definition that is a mass.
    fn is_mass(&self, place: Place) -> bool {
        let definition = self.program().defines(place).and_then(|n| self.program().definition(n));
        definition.is_some_and(|d| d.dimension == Dimension::MASS)
    }

    /// Differences of a weighing, outermost first: gross − first − second.
    fn differences(&self, place: Place, containers: usize) -> Vec<Place> {
        let mut chain = vec![place];
        while chain.len() < containers {
            let inner = self.program().operands(chain[chain.len() - 1]);
            let Some(inner) = inner.first().filter(|p| self.work(**p) == Work::Difference) else { break };
            chain.push(*inner);
        }
        chain
    }

    fn containers(&mut self, name: &str, place: Place, containers: usize) {
        let chain = self.differences(place, containers);
        let keep = |places: &[Place]| places.iter().map(|p| at(*p, Act::First)).collect::<Vec<_>>();
        self.add(Slip::ContainerKept, name, 1.0, keep(&chain));
        if let [only] = chain[..] {
            self.add(Slip::DifferenceReversed, name, 1.0, vec![at(only, Act::Reversed)]);
        } else {
            for one in &chain {
                self.add(Slip::WrongContainer, name, 1.0, keep(&[*one]));
            }
        }
    }

    /// The mass of another empty vessel was subtracted.
    fn other_object(&mut self, name: &str, place: Place, own: &[String]) {
        let gross = own.iter().try_fold(self.number(place).unwrap_or(f64::NAN), |m, c| Some(m + self.value_of(c)?));
        let Some(gross) = gross.filter(|g| g.is_finite() && place.count() == 1) else { return };
        let others: Vec<(String, f64)> = self
            .practical
            .containers
            .values()
            .flatten()
            .filter(|c| !own.contains(c))
            .filter_map(|c| self.value_of(c).map(|v| (c.clone(), v)))
            .collect();
        for (other, mass) in others {
            let change = at(place, Act::Number(gross - mass));
            self.add(Slip::WrongContainer, At::exchanged(name, &other), 1.0, vec![change]);
        }
    }

    /// Another of the recorded masses stands in the place of this one.
    fn other_mass(&mut self, name: &str, place: Place) {
        let Some(own) = self.number(place) else { return };
        for (other, value) in self.masses() {
            // What is made of this one cannot stand in its place.
            let follows = self.program().places(&other, &[]).contains(&place);
            if other != name && !follows && value != own && value > 0.0 {
                let change = at(place, Act::Number(value));
                self.add(Slip::WrongMass, At::exchanged(name, &other), 1.0, vec![change]);
            }
        }
    }

    pub(super) fn at_operations(&mut self) {
        let titres: Vec<&str> = self.practical.file.titres.iter().map(|t| t.name.as_str()).collect();
        let weighed: Vec<&str> = self.practical.file.weighings.iter().map(Weighing::name).collect();
        for place in self.places.clone() {
            let name = self.program().defines(place).map(str::to_owned);
            let owner = self.owner(place);
            let own = name.as_deref();
            match self.work(place) {
                Work::Difference if own.is_some_and(|n| titres.contains(&n)) => {
                    let mut kept = vec![at(place, Act::First)];
                    kept.extend(self.mean_of_all(place));
                    self.add(Slip::FirstReadingKept, &owner, 1.0, kept);
                    self.add(Slip::DifferenceReversed, &owner, 1.0, vec![at(place, Act::Reversed)]);
                }
                Work::Difference if own.is_some_and(|n| weighed.contains(&n)) => {}
                Work::Difference => {
                    self.add(Slip::DifferenceReversed, &owner, 0.5, vec![at(place, Act::Reversed)]);
                    self.parts_exchanged(place, &owner);
                }
                Work::Sum => self.portion_left_out(place, &owner),
                Work::Quotient => self.quotient(place, &owner, own),
                Work::Product => {
                    let second = self.program().operands(place).get(1).map(|p| self.work(*p));
                    // Upside down there, it is the ratio's own slip.
                    if !matches!(second, Some(Work::Leaf(Leaf::Ratio(..) | Leaf::Coefficient(_)))) {
                        self.product(place, &owner);
                    }
                }
                Work::Limiting(extents) => self.limiting(place, extents),
                Work::Fold(gathered) => self.gathered(place, gathered, &owner),
                Work::PowerOfTen => self.add(Slip::AntilogMissing, &owner, 1.0, vec![at(place, Act::First)]),
                Work::Leaf(_) | Work::Formula | Work::Other => {}
            }
        }
    }

    /// c·V and n·M: divided instead, either way up; in millilitres, the calculator's number goes beside the millimoles.
    fn product(&mut self, place: Place, owner: &str) {
        let operands = self.program().operands(place);
        let is_strength = |p: &Place| {
            let defined =
                self.program().defines(*p).is_some_and(|n| self.practical.roles.has(n, SheetRole::Concentration));
            defined || matches!(self.work(*p), Work::Leaf(Leaf::Concentration(_)))
        };
        let is_molar = |p: &Place| matches!(self.work(*p), Work::Leaf(Leaf::MolarMass(_)));
        let scale = if operands.iter().any(is_strength) {
            IN_MILLILITRES
        } else if operands.iter().any(is_molar) {
            IN_MILLIMOLES
        } else {
            self.add(Slip::MultipliedForDivided, owner, 0.6, vec![at(place, Act::Inverse)]);
            return;
        };
        for act in [Act::Inverse, Act::SecondOverFirst(1.0), Act::SecondOverFirst(scale)] {
            self.add(Slip::QuotientForProduct, owner, 0.6, vec![at(place, act)]);
        }
    }

    fn quotient(&mut self, place: Place, owner: &str, own: Option<&str>) {
        let operands = self.program().operands(place);
        let below = operands.get(1).map(|p| self.work(*p));
        if own.is_some_and(|name| self.practical.roles.has(name, SheetRole::PercentYield)) {
            self.add(Slip::YieldInverted, owner, 1.0, vec![at(place, Act::Reversed)]);
        } else if !matches!(below, Some(Work::Leaf(Leaf::Coefficient(_)))) && !self.is_a_dilution(place) {
            let of_an_amount = matches!(below, Some(Work::Leaf(Leaf::MolarMass(_))));
            let multiplied = if of_an_amount { Slip::QuotientForProduct } else { Slip::MultipliedForDivided };
            self.add(Slip::DivisionInverted, owner, 1.0, vec![at(place, Act::Reversed)]);
            self.add(multiplied, owner, 1.0, vec![at(place, Act::Inverse)]);
            if self.is_concentration(place) {
                self.add(multiplied, owner, 1.0, vec![at(place, Act::ProductTimes(1.0 / IN_MILLILITRES))]);
            }
            self.as_asked(place, multiplied);
        }
        // A mass over a molar mass is an amount; in a sum that is no amount it may be anything.
        let is_amount = self.program().definition(owner).is_some_and(|d| d.dimension == Dimension::AMOUNT);
        if matches!(below, Some(Work::Leaf(Leaf::MolarMass(_)))) && is_amount {
            self.add(Slip::MassForAmount, owner, 1.0, vec![at(place, Act::First)]);
        }
        if let ([above, _], Some(Work::Leaf(Leaf::MolarMass(_)))) = (&operands[..], below) {
            self.other_mass_here(place, *above, owner);
        }
    }

    /// Whether a place is an amount over a volume.
    fn is_concentration(&self, place: Place) -> bool {
        let operands = self.program().operands(place);
        let [above, below] = operands[..] else { return false };
        self.measures(below) == Some(Dimension::VOLUME) && self.measures(above) == Some(Dimension::AMOUNT)
    }

    /// A result upside down is of no unit that was asked for; the number of the calculator is then written beside that one:
    /// 278.0 g/mol over 6.93 g are 40.1, and 40.1 mmol.
    fn as_asked(&mut self, place: Place, multiplied: Slip) {
        let unit = &self.result.unit;
        if self.definition(&self.result.name) != Some(place) || unit.to_base(1.0) == 1.0 {
            return;
        }
        let [Some(above), Some(below)] = [0, 1].map(|i| self.program().operands(place).get(i).copied()) else { return };
        let (Some(a), Some(b)) = (self.number(above), self.number(below)) else { return };
        for (slip, number) in [(Slip::DivisionInverted, b / a), (multiplied, a * b)] {
            let made = Made::Written(unit.to_base(number));
            let at = self.result.name.as_str().into();
            self.found.push(Candidate { slip, at, exchange: None, share: 1.0, made });
        }
    }

    /// The smallest of the extents that there are, by its place among them.
    pub(super) fn least_extent(&self, place: Place) -> Option<usize> {
        let extents = self.program().operands(place).into_iter().enumerate();
        let there = extents.filter_map(|(k, p)| Some((k, self.number(p)?)));
        there.min_by(|a, b| a.1.total_cmp(&b.1)).map(|(k, _)| k)
    }

    fn limiting(&mut self, place: Place, extents: usize) {
        let Some(least) = self.least_extent(place) else { return };
        let reagents = self.practical.limiting.as_ref().map(|(_, r)| r.clone()).unwrap_or_default();
        let name = |k: usize| reagents.get(k).cloned().unwrap_or_default();
        for k in (0..extents).filter(|k| *k != least) {
            self.add(Slip::WrongLimiting, name(k), 1.0, vec![at(place, Act::Extent(k))]);
        }
        let Smallest { by_mass, by_amount } = smallest(self.practical, self.plain);
        if let Some(k) = by_mass.filter(|k| *k != least) {
            self.add(Slip::SmallerMassLimits, name(k), 1.0, vec![at(place, Act::Extent(k))]);
        }
        if let Some(k) = by_amount.filter(|k| *k != least) {
            self.add(Slip::SmallerAmountLimits, name(k), 1.0, vec![at(place, Act::Extent(k))]);
        }
    }

    /// Where titres would be chosen by how they agree, the mean of all accurate ones: final readings need not agree.
    fn mean_of_all(&self, titres: Place) -> Option<Change> {
        let program = self.program();
        let fold =
            self.places.iter().copied().find(|p| {
                self.work(*p) == Work::Fold(Gathered::ConcordantMean) && program.folded(*p) == Some(titres)
            })?;
        let rough = titres.count() - program.operands(fold).len();
        let trials: Vec<Place> = program.trials(titres).collect();
        let there = (rough..trials.len()).filter(|t| self.number(trials[*t]).is_some()).collect();
        Some(at(fold, Act::MeanOf(there)))
    }

    fn gathered(&mut self, place: Place, gathered: Gathered, owner: &str) {
        let Some(all) = self.program().folded(place) else { return };
        let trials: Vec<Place> = self.program().trials(all).collect();
        let there: Vec<usize> = (0..trials.len()).filter(|t| self.number(trials[*t]).is_some()).collect();
        match gathered {
            Gathered::Other => return self.another_trial(place, all, &trials, &there),
            Gathered::Sum => return self.portions(place, all, &trials, &there),
            Gathered::Mean | Gathered::ConcordantMean => {}
        }
        let rough = trials.len() - self.program().operands(place).len();
        let accurate: Vec<usize> = there.iter().copied().filter(|t| *t >= rough).collect();
        if there.len() > accurate.len() {
            self.add(Slip::RoughIncluded, owner, 1.0, vec![at(place, Act::MeanOf(there.clone()))]);
        }
        if gathered == Gathered::ConcordantMean && accurate.len() > 1 {
            self.add(Slip::DiscordantIncluded, owner, 1.0, vec![at(place, Act::MeanOf(accurate.clone()))]);
        }
        for t in there.iter().filter(|_| there.len() > 1) {
            let share = if *t < rough { 0.5 } else { 1.0 };
            let of = self.program().defines(all).unwrap_or(owner).to_owned();
            let one = vec![at(place, Act::MeanOf(vec![*t]))];
            self.add(Slip::SingleTrial, sheet::trial_name(&of, *t), share, one);
        }
        let titre = self.program().defines(all).and_then(|n| self.practical.file.titres.iter().find(|t| t.name == n));
        if let Some(titre) = titre {
            let ends: Vec<f64> =
                self.reading_places(&titre.end).into_iter().skip(rough).filter_map(|p| self.number(p)).collect();
            if !ends.is_empty() {
                let mean = ends.iter().sum::<f64>() / ends.len() as f64;
                self.add(Slip::MeanOfFinalReadings, owner, 1.0, vec![at(place, Act::Number(mean))]);
            }
        }
    }

    pub(super) fn at_methods(&mut self) {
        let reagents = self.weighed_reagents();
        for names in self.practical.yields() {
            if let (Some(_), Some(theory)) =
                (self.definition(&names.percent), self.program().place_of(&names.theoretical))
            {
                for (reagent, mass) in &reagents {
                    let change = vec![at(theory, Act::Number(*mass))];
                    if self.result.name == names.percent {
                        self.add(Slip::MassRatioYield, reagent, 1.0, change);
                    }
                }
                // What was weighed is the yield; any other mass in its place is another mass.
                if let Some(place) = self.definition(&names.actual).filter(|p| p.count() == 1) {
                    let declared = self.practical.file.weighings.iter().any(|w| w.name() == names.actual);
                    if !declared {
                        self.other_mass(&names.actual, place);
                    }
                }
            }
            if let Some(theory) = self.definition(&names.theoretical).filter(|_| reagents.len() > 1) {
                let sum = reagents.iter().map(|(_, m)| m).sum();
                self.add(Slip::ReactantsSummed, &names.theoretical, 1.0, vec![at(theory, Act::Number(sum))]);
            }
        }
        for method in &self.practical.file.methods {
            self.method(method);
        }
        self.dilutions();
    }

    /// Reagents that have a mass, by name, with their masses in g.
    fn weighed_reagents(&self) -> Vec<(String, f64)> {
        let used = self.practical.materials.iter().filter(|m| m.term.is_some_and(|(_, used_up)| used_up));
        used.filter_map(|m| Some((m.symbol.clone(), mass_of(self.practical, self.plain, &m.symbol)?))).collect()
    }

    fn method(&mut self, method: &Method) {
        match method {
            Method::Standardise { titre, blank, standard, .. } => {
                self.blank(blank.as_deref());
                self.swapped_volumes(titre, &standard.reading);
            }
            Method::Titrate { titre, blank, aliquot, sample, dilution, .. } => {
                self.blank(blank.as_deref());
                self.swapped_volumes(titre, aliquot);
                let strength = self.practical.roles.named(SheetRole::Concentration, sample);
                if let (Some(strength), true) = (strength, dilution.is_some()) {
                    self.times(strength);
                }
            }
            Method::BackTitration { excess, .. } => {
                let roles = &self.practical.roles;
                let named = |role| roles.named(role, &excess.material).map(str::to_owned);
                if let (Some(left), Some(reacted)) = (named(SheetRole::ExcessLeft), named(SheetRole::Reacted))
                    && let Some(place) = self.definition(&reacted)
                {
                    self.add(Slip::BackTitrationTotal, left, 1.0, vec![at(place, Act::Second)]);
                    self.add(Slip::BackTitrationTotal, reacted, 1.0, vec![at(place, Act::First)]);
                }
            }
            Method::PercentError { found, .. } => {
                let name = self.practical.roles.all(SheetRole::PercentError).next().map(|r| r.definition.clone());
                let Some(name) = name else { return };
                let place = self.definition(&name);
                let above = place.and_then(|p| self.program().operands(p).first().copied());
                let difference = above.and_then(|p| self.number(p));
                if let (Some(place), Some(difference), Some(found)) = (place, difference, self.value_of(found)) {
                    let change = at(place, Act::Number(difference / found));
                    self.add(Slip::PercentErrorWrongBase, name, 1.0, vec![change]);
                }
            }
            // The precipitate's mass for that of what is sought in it.
            Method::Gravimetric { analyte, precipitate_mass, .. } => {
                let name = self.practical.roles.named(SheetRole::Mass, analyte).map(str::to_owned);
                let found = name.and_then(|n| Some((self.definition(&n)?, n)));
                if let (Some((place, name)), Some(whole)) = (found, self.value_of(precipitate_mass)) {
                    let change = vec![at(place, Act::Number(whole))];
                    self.add(Slip::PartForWholeSubstance, At::exchanged(&name, precipitate_mass), 1.0, change);
                }
            }
            Method::Calibration { x, y, through_zero, dilution, .. } => {
                self.calibration(x, y, *through_zero, dilution.is_some());
            }
            Method::Calorimetry { after, times, .. } => self.calorimetry(after, times.is_some()),
            Method::Gas { gas, temperature, pressure, over_water, .. } => {
                self.gas(gas, [temperature, pressure], *over_water);
            }
            Method::Charge { electrons, product, .. } => self.charge(*electrons, product),
            Method::LimitingYield { .. }
            | Method::Yield { .. }
            | Method::Recovery { .. }
            | Method::EmpiricalFormula { .. }
            | Method::Hydrate { .. }
            | Method::MassFraction { .. }
            | Method::MassBalance { .. }
            | Method::SolutionMade { .. } => {}
        }
    }
}
