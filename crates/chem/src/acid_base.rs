//! Acid–base equilibria by exact charge balance, without approximation and without activities.
//!
//! Every solute is a *proton ladder* (its pKa values, the charge of its fully protonated form) with counter-ions that
//! take no part. The pH is where the charges add up to nothing:
//! [H⁺] − K_w/[H⁺] + Σ cᵢ·(zᵢ − n̄ᵢ(H) + sᵢ) = 0, where n̄ is the mean number of protons given up and s the charge of the
//! counter-ions. The left side falls steadily with pH, so there is one root and bisection cannot miss it.
//!
//! Units: concentrations in mol/L, volumes in any one unit. Activity coefficients are taken as 1, and no carbon
//! dioxide is lost or taken up.
//!
//! Source: charge and mass balance, e.g. Harris, Quantitative Chemical Analysis, 9th ed., chapters 8 to 11.

/// A solute that gives or takes protons.
#[derive(Debug, Clone, PartialEq)]
pub struct AcidBase {
    /// Acid exponents of the fully protonated form, in order.
    pka: Vec<f64>,
    /// Charge number of the fully protonated form.
    charge: i32,
    /// Charge of the counter-ions per formula unit.
    counter_ions: i32,
}

/// What a solute does to protons, as people name it.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Role {
    /// Gives its proton up completely: HCl.
    StrongAcid,
    /// Takes a proton up completely: NaOH.
    StrongBase,
    /// Neutral, with one or more pKa.
    WeakAcid,
    /// Neutral; the exponents are those of its conjugate acid.
    WeakBase,
    /// First proton given up completely; the exponents are those of what is left: H₂SO₄.
    FirstProtonStrong,
    /// Salt of a weak acid with so many single-charged cations per acid.
    Salt(u8),
    /// Hydrochloride or the like: a protonated base, or an amino acid, with its anions.
    Hydrochloride(u8),
}

impl AcidBase {
    /// A solute by its role and the pKa of its ladder, lowest first.
    #[must_use]
    pub fn new(role: Role, pka: &[f64]) -> AcidBase {
        let ladder = i32::try_from(pka.len()).unwrap_or(i32::MAX);
        let (charge, counter_ions) = match role {
            Role::StrongAcid => (0, -1),
            Role::StrongBase => (0, 1),
            Role::WeakAcid => (0, 0),
            Role::WeakBase => (ladder, 0),
            Role::FirstProtonStrong => (-1, 0),
            Role::Salt(cations) => (0, i32::from(cations)),
            Role::Hydrochloride(anions) => (i32::from(anions), -i32::from(anions)),
        };
        AcidBase { pka: pka.to_vec(), charge, counter_ions }
    }

    /// Mean number of protons given up by the fully protonated form, between 0 and the length of the ladder.
    #[must_use]
    pub fn protons_given(&self, ph: f64) -> f64 {
        // Fractions relative to the protonated form, scaled by the largest so that nothing overflows.
        let mut exponents = vec![0.0];
        for pka in &self.pka {
            exponents.push(exponents.last().copied().unwrap_or(0.0) + ph - pka);
        }
        let largest = exponents.iter().copied().fold(f64::MIN, f64::max);
        let weights: Vec<f64> = exponents.iter().map(|e| 10f64.powf(e - largest)).collect();
        let total: f64 = weights.iter().sum();
        weights.iter().zip(0u32..).map(|(w, n)| f64::from(n) * w).sum::<f64>() / total
    }

    /// The part of the solute that has given up `protons` of its protons at this pH: the converted fraction.
    #[must_use]
    pub fn fraction(&self, protons: usize, ph: f64) -> f64 {
        let exponent = |n: usize| self.pka.iter().take(n).map(|pka| ph - pka).sum::<f64>();
        let own = exponent(protons);
        1.0 / (0..=self.pka.len()).map(|n| 10f64.powf(exponent(n) - own)).sum::<f64>()
    }

    /// Protons that it can still give (positive) or take up (negative) from where it stands in its own solution.
    fn given_at_start(&self) -> i32 {
        self.charge + self.counter_ions
    }

    fn charge_at(&self, ph: f64) -> f64 {
        f64::from(self.charge + self.counter_ions) - self.protons_given(ph)
    }
}

/// What is dissolved, and the exponent of the ion product of water.
#[derive(Debug, Clone, PartialEq)]
pub struct Solution {
    /// Each solute with its concentration in mol/L.
    pub solutes: Vec<(AcidBase, f64)>,
    /// 14.00 at 25 °C.
    pub pkw: f64,
}

/// A solution at its pH.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Equilibrium {
    /// −lg [H⁺].
    pub ph: f64,
    /// d(charge)/d(pH) with the sign turned: mol/L of strong base per unit of pH, the buffer value.
    pub buffer_value: f64,
}

impl Solution {
    /// The pH, by bisection to 1e-12.
    #[must_use]
    pub fn equilibrium(&self) -> Equilibrium {
        let (mut low, mut high) = (-3.0, self.pkw + 3.0);
        while high - low > 1e-12 {
            let middle = f64::midpoint(low, high);
            if middle <= low || middle >= high {
                break;
            }
            if self.excess_charge(middle) > 0.0 { low = middle } else { high = middle }
        }
        let ph = f64::midpoint(low, high);
        let step = 1e-4;
        let buffer_value = (self.excess_charge(ph - step) - self.excess_charge(ph + step)) / (2.0 * step);
        Equilibrium { ph, buffer_value }
    }

    /// Concentration of strong base (negative: of strong acid), in mol/L, that would bring this solution to `ph`.
    #[must_use]
    pub fn base_needed(&self, ph: f64) -> f64 {
        -self.excess_charge(ph)
    }

    fn excess_charge(&self, ph: f64) -> f64 {
        let ions = 10f64.powf(-ph) - 10f64.powf(ph - self.pkw);
        ions + self.solutes.iter().map(|(solute, c)| c * solute.charge_at(ph)).sum::<f64>()
    }
}

/// A strong titrant running into a flask. Volumes are additive.
#[derive(Debug, Clone, PartialEq)]
pub struct Titration {
    /// What is in the flask.
    pub flask: Solution,
    /// Its volume.
    pub volume: f64,
    /// The titrant's solute.
    pub titrant: AcidBase,
    /// Its concentration, mol/L.
    pub concentration: f64,
}

/// A strong acid or base in the flask is not told apart from a weak stage this near to complete.
const HARDLY_WEAK: f64 = 4.0;

impl Titration {
    /// pH after `delivered` of titrant, in the unit of the flask's volume.
    #[must_use]
    pub fn ph_at(&self, delivered: f64) -> f64 {
        let total = self.volume + delivered;
        let mut solutes: Vec<(AcidBase, f64)> =
            self.flask.solutes.iter().map(|(s, c)| (s.clone(), c * self.volume / total)).collect();
        solutes.push((self.titrant.clone(), self.concentration * delivered / total));
        Solution { solutes, pkw: self.flask.pkw }.equilibrium().ph
    }

    /// Volumes at which the titrant has just used up what is there, stage by stage, strongest first.
    ///
    /// Empty when the titrant is neither a strong acid nor a strong base. A strong acid or base in the flask forms one
    /// stage together with a weak one that is nearly complete as well (pKa or pKb below 4).
    #[must_use]
    pub fn equivalence_volumes(&self) -> Vec<f64> {
        let adds_base = match (self.titrant.pka.is_empty(), self.titrant.counter_ions) {
            (true, 1) => true,
            (true, -1) => false,
            _ => return Vec::new(),
        };
        let opposite = if adds_base { -1 } else { 1 };
        let mut strong = 0.0;
        let mut stages: Vec<(f64, f64)> = Vec::new();
        for (solute, c) in &self.flask.solutes {
            if solute.pka.is_empty() {
                strong += if solute.counter_ions == opposite { *c } else { 0.0 };
                continue;
            }
            let ladder = i32::try_from(solute.pka.len()).unwrap_or(i32::MAX);
            let start = solute.given_at_start();
            // A proton given up completely before the ladder starts counts as strong acid.
            if start < 0 && adds_base {
                strong += c * f64::from(-start);
            }
            let range = if adds_base { start.max(0)..ladder } else { 0..start.min(ladder) };
            for n in range.filter_map(|n| usize::try_from(n).ok()) {
                stages.push((if adds_base { solute.pka[n] } else { self.flask.pkw - solute.pka[n] }, *c));
            }
        }
        stages.sort_by(|a, b| a.0.total_cmp(&b.0));
        let mut used = strong;
        let mut volumes = Vec::new();
        let merges = stages.first().is_some_and(|(exponent, _)| *exponent < HARDLY_WEAK);
        if strong > 0.0 && !merges {
            volumes.push(used);
        }
        for (_, c) in stages {
            used += c;
            volumes.push(used);
        }
        volumes.iter().map(|n| n * self.volume / self.concentration).collect()
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn ph(solutes: Vec<(AcidBase, f64)>) -> String {
        format!("{:.3}", Solution { solutes, pkw: 14.0 }.equilibrium().ph)
    }

    /// Worked by hand from the quadratic: 0.1 mol/L ethanoic acid, pKa 4.756: [H⁺] = 1.316e-3; equal parts of acid and
    /// salt give the pKa but for the small correction; 1e-7 mol/L HCl is (1 + √5)/2 · 1e-7.
    #[test]
    fn textbook_solutions() {
        let acid = AcidBase::new(Role::WeakAcid, &[4.756]);
        let salt = AcidBase::new(Role::Salt(1), &[4.756]);
        assert_eq!(ph(vec![(acid.clone(), 0.1)]), "2.881");
        assert_eq!(ph(vec![(acid, 0.1), (salt, 0.1)]), "4.756");
        assert_eq!(ph(vec![(AcidBase::new(Role::StrongAcid, &[]), 1e-7)]), "6.791");
        assert_eq!(ph(Vec::new()), "7.000");
    }

    /// Half of a monoprotic acid is converted at its pKa; at pKa + 1 ten elevenths.
    #[test]
    fn the_converted_fraction() {
        let acid = AcidBase::new(Role::WeakAcid, &[4.44]);
        assert!((acid.fraction(1, 4.44) - 0.5).abs() < 1e-12);
        assert!((acid.fraction(1, 5.44) - 10.0 / 11.0).abs() < 1e-12);
        assert!((acid.protons_given(5.44) - 10.0 / 11.0).abs() < 1e-12);
    }

    /// 25.0 mL of 0.04 mol/L NaOH with 0.03 mol/L carbonate take 17.5 mL of 0.1 mol/L HCl to hydrogencarbonate.
    #[test]
    fn stages_of_a_mixture() {
        let flask = Solution {
            solutes: vec![
                (AcidBase::new(Role::StrongBase, &[]), 0.04),
                (AcidBase::new(Role::Salt(2), &[6.352, 10.329]), 0.03),
            ],
            pkw: 14.0,
        };
        let titrant = AcidBase::new(Role::StrongAcid, &[]);
        let t = Titration { flask, volume: 25.0, titrant, concentration: 0.1 };
        let volumes: Vec<String> = t.equivalence_volumes().iter().map(|v| format!("{v:.2}")).collect();
        assert_eq!(volumes, ["17.50", "25.00"]);
        // Bringing the flask to a pH takes what the curve says.
        let needed = -t.flask.base_needed(t.ph_at(0.0));
        assert!(needed.abs() < 1e-9);
    }
}
