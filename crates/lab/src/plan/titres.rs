//! The titre that the plan foresees, from the planned amounts and strengths: does it lie well on the burette, is it the one
//! that the readings expect, and can faultless groups agree as closely as they have to?
//!
//! The titre is the one at which the sheet, with every other reading as planned, comes to the strength or the part that the
//! plan states. The chance that n faultless trials of relative scatter s miss a relative standard deviation L is that of
//! χ² with n − 1 degrees of freedom above (n − 1)·L²/s².
//!
//! Source: Harris, Quantitative Chemical Analysis, 9th ed., 2.5 (titres of a good part of the burette); JCGM 100:2008 (GUM),
//! 4.2.3 (distribution of an experimental variance).

use super::{Consequence, Note, Setting, by_plan, figures};
use crate::evaluated::inputs;
use crate::judge::own_part;
use crate::secant::secant;
use measure::rounding::decimal_of;
use practical::file::{Method, TitreItem};
use practical::{Amount, Compared, Rule, SheetRole, Stated, StrengthKind, Supply};
use sheet::Outcome;
use statrs::distribution::{ChiSquared, ContinuousCDF};
use std::collections::BTreeMap;

/// A titre is read well between these parts of its burette.
const WELL_READ: std::ops::RangeInclusive<f64> = 0.2..=0.9;
/// Two ways of saying one titre differ by less than this part.
const SAME: f64 = 0.1;
/// More faultless groups than this may not miss the limit.
const MISSED: f64 = 0.1;
/// A class and the plan differ by so many standard deviations of the class.
const APART: f64 = 3.0;

/// What a plan states of something, in base units, with both its ends.
struct States {
    middle: f64,
    low: f64,
    high: f64,
}

impl States {
    /// The middle, with ends in the proportion of what is stated.
    fn about(stated: &Stated, middle: f64) -> States {
        let (low, high) = stated.ends();
        let of = |end: f64| middle * end / stated.base();
        States { middle, low: of(low), high: of(high) }
    }
}

/// A titre that follows from that, in the unit of its burette.
struct ByPlan {
    middle: f64,
    least: f64,
    most: f64,
}

impl Setting<'_> {
    pub(super) fn titres(&self, notes: &mut Vec<Note>) {
        for (i, titre) in self.practical.file.titres.iter().enumerate() {
            let beside = || vec!["titres".into(), i.into()];
            if let Some((what, warns)) = self.foreseen(titre) {
                notes.push(Note { beside: beside(), warns, what });
            }
            if let Some((what, warns)) = self.within_reach(titre) {
                notes.push(Note { beside: beside(), warns, what });
            }
        }
        for (i, class) in self.practical.file.class.iter().enumerate() {
            let Some(what) = self.class_otherwise(class) else { continue };
            notes.push(Note { beside: vec!["class".into(), i.into()], warns: true, what });
        }
    }

    /// The titre to come, beside the burette and the readings that are expected.
    fn foreseen(&self, titre: &TitreItem) -> Option<(Consequence, bool)> {
        let end = self.practical.reading(&titre.end)?;
        let start = self.practical.reading(&titre.start)?;
        let expected = end.expected.to_f64() - start.expected.to_f64();
        let by_plan = self.titre_by_plan(titre, expected)?;
        let volume = by_plan.middle;
        let fits = WELL_READ.contains(&(volume / end.instrument.capacity));
        let same = (by_plan.least * (1.0 - SAME)..=by_plan.most * (1.0 + SAME)).contains(&expected);
        let shown = |v: f64| format!("{} {}", figures(v, 3), end.unit.written());
        let what = Consequence::TitreForeseen {
            titre: titre.label.clone(),
            volume: shown(volume),
            burette: shown(end.instrument.capacity),
            fits,
            expected: (!same).then(|| shown(expected)),
        };
        Some((what, !fits || !same))
    }

    /// The volume, in the unit of the burette, at which the sheet comes to what the plan states; at both ends of that as well.
    fn titre_by_plan(&self, titre: &TitreItem, expected: f64) -> Option<ByPlan> {
        let practical = self.practical;
        let (definition, stated) = practical.file.methods.iter().find_map(|m| self.stated(m, &titre.name))?;
        let start = practical.reading(&titre.start)?.expected.to_f64();
        let ends = practical.reading(&titre.end)?.slots();
        let planned = by_plan(practical, &BTreeMap::new());
        let found = |volume: f64| {
            let mut readings = planned.clone();
            let end = decimal_of(start + volume)?;
            readings.extend(ends.iter().map(|s| (s.symbol.clone(), end)));
            let inputs = inputs(practical, &readings);
            Some(practical.program.evaluate(&inputs).value(definition)?.value)
        };
        let at = |stated: f64| {
            // A strength is as the titre or as one over it: straight in logarithms, however far the plan is off.
            let off = |power: f64| Some((found(power.exp())? / stated).ln()).filter(|off| off.is_finite());
            let powers = secant(off, (expected.ln(), (1.02 * expected).ln()), 1e-6).map(f64::exp);
            let straight = || {
                let off = |volume: f64| Some(found(volume)? - stated);
                secant(off, (expected, 1.02 * expected), 1e-6 * stated.abs()).filter(|v| *v > 0.0)
            };
            powers.or_else(straight)
        };
        // More of what is found may take more titrant or less.
        let (one, other) = (at(stated.low)?, at(stated.high)?);
        Some(ByPlan { middle: at(stated.middle)?, least: one.min(other), most: one.max(other) })
    }

    /// What a method finds by a titre, and what the plan states of it, in base units; none where nothing states it.
    fn stated(&self, method: &Method, of: &str) -> Option<(&str, States)> {
        let practical = self.practical;
        let strength = |symbol: &str| {
            let material = practical.material(symbol)?;
            let Supply::Solution(s) = &material.supply else { return None };
            let known = s.dilution.is_none() && s.kind != StrengthKind::Percent(None);
            let m = self.molar_mass(material).or((s.kind == StrengthKind::Amount).then_some(1.0))?;
            let middle = s.concentration(s.kind, m).filter(|_| known)?;
            Some(States::about(&s.stated, middle))
        };
        let (symbol, titre) = match method {
            Method::Standardise { titrant, titre, .. } => (titrant, titre),
            Method::Titrate { sample, titre, .. } => (sample, titre),
            Method::BackTitration { sample, titre, .. } => {
                let purity = practical.material(sample)?.supply.stated()?;
                let purity = States::about(purity, purity.base());
                let found = practical.roles.all(SheetRole::MassFraction).map(|r| r.definition.as_str());
                let found = found.into_iter().find(|d| practical.program.hangs_on(d, titre))?;
                return (titre == of).then_some((found, purity));
            }
            Method::LimitingYield { .. }
            | Method::Yield { .. }
            | Method::Recovery { .. }
            | Method::EmpiricalFormula { .. }
            | Method::Hydrate { .. }
            | Method::MassFraction { .. }
            | Method::Gravimetric { .. }
            | Method::MassBalance { .. }
            | Method::SolutionMade { .. }
            | Method::PercentError { .. }
            | Method::Calibration { .. }
            | Method::Calorimetry { .. }
            | Method::Gas { .. }
            | Method::Charge { .. } => return None,
        };
        let found = practical.roles.named(SheetRole::Concentration, symbol)?;
        Some((found, strength(symbol)?)).filter(|_| titre == of)
    }

    /// How many faultless groups miss the relative standard deviation that is asked for.
    fn within_reach(&self, titre: &TitreItem) -> Option<(Consequence, bool)> {
        let agreement = self.practical.agreement(titre)?;
        let Rule::Rsd(limit) = &agreement.rule else { return None };
        let allowed = Amount::parse(limit).ok()?.base();
        let name = match agreement.of {
            Compared::Titres => titre.name.as_str(),
            Compared::Each(name) => name,
        };
        let Some(Outcome::Series(each)) = self.evaluation.outcome(name) else { return None };
        let values = each.iter().filter_map(|o| if let Outcome::Value(v) = o { own_part(v) } else { None });
        let scatter = values.reduce(f64::max).filter(|s| *s > 0.0)?;
        let free = agreement.wanted.saturating_sub(1).max(1) as f64;
        let missed = ChiSquared::new(free).ok()?.sf(free * (allowed / scatter).powi(2));
        let what = Consequence::LimitMissed {
            titre: titre.label.clone(),
            limit: limit.clone(),
            scatter: format!("{} %", figures(100.0 * scatter, 2)),
            of_ten: format!("{:.0}", 10.0 * missed),
        };
        (missed > MISSED).then_some((what, true))
    }

    /// What a class usually finds beside what the plan comes to.
    fn class_otherwise(&self, class: &practical::file::ClassResult) -> Option<Consequence> {
        let result = self.practical.result(&class.result)?;
        // A yield is as large as hands are skilled; what a titration finds is there before anybody comes.
        let titres = &self.practical.file.titres;
        titres.iter().find(|t| self.practical.program.hangs_on(&result.name, &t.name))?;
        let planned = result.unit.from_base(self.value(&result.name)?);
        let apart = (planned - class.mean).abs();
        let clearly = apart > APART * class.sd && apart > SAME * class.mean.abs() && class.mean != 0.0;
        let unit = result.unit.written();
        let shown = |x: f64| if unit == "1" { figures(x, 3) } else { format!("{} {unit}", figures(x, 3)) };
        clearly.then(|| Consequence::ClassOtherwise {
            result: result.label.clone(),
            planned: shown(planned),
            class: shown(class.mean),
        })
    }
}
