//! What goes on in the flask of a titration, where its file says it.

use crate::amount::Amount;
use crate::file::{CurveItem, Titrated, TitreItem};
use chem::{AcidBase, AcidBaseRole, Indicator, Solution, Titration};

/// What goes on in the flask of a titration of acid and base.
#[derive(Debug, Clone, PartialEq)]
pub struct Curve {
    titrated: Titrated,
    pka: Vec<f64>,
    /// What shows the end.
    pub indicator: Indicator,
    /// In mol/L.
    titrant: f64,
    /// In L.
    flask: f64,
}

impl TitreItem {
    /// What goes on in the flask; none where the file does not say it.
    #[must_use]
    pub fn curve(&self) -> Option<Curve> {
        let CurveItem { titrated, pka, indicator, titrant, flask } = self.curve.clone()?;
        // Read when the practical was checked.
        let base = |text: &str| Some(Amount::parse(text).ok()?.base());
        Some(Curve { titrated, pka, indicator, titrant: base(&titrant)?, flask: base(&flask)? })
    }
}

impl Curve {
    /// pH after `delivered` of titrant where `equivalence` uses up what is there, both in L; all protons of the list are
    /// titrated, carbon dioxide stays in solution.
    ///
    /// Source: charge balance, see `chem::Titration`.
    #[must_use]
    pub fn ph_at(&self, delivered: f64, equivalence: f64) -> f64 {
        let mut pka = self.pka.clone();
        pka.sort_by(f64::total_cmp);
        let protons = u8::try_from(pka.len()).unwrap_or(u8::MAX);
        let (role, titrant) = match (self.titrated, protons) {
            (Titrated::Acid, 0) => (AcidBaseRole::StrongAcid, AcidBaseRole::StrongBase),
            (Titrated::Acid, _) => (AcidBaseRole::WeakAcid, AcidBaseRole::StrongBase),
            (Titrated::Base, 0) => (AcidBaseRole::StrongBase, AcidBaseRole::StrongAcid),
            (Titrated::Base, n) => (AcidBaseRole::Salt(n), AcidBaseRole::StrongAcid),
        };
        let there = self.titrant * equivalence / f64::from(protons.max(1)) / self.flask;
        let flask = Solution { solutes: vec![(AcidBase::new(role, &pka), there)], pkw: 14.0 };
        let titrant = AcidBase::new(titrant, &[]);
        Titration { flask, volume: self.flask, titrant, concentration: self.titrant }.ph_at(delivered)
    }

    /// Which part of the indicator has turned by then, 0 to 1: from the side where the titration begins to the other.
    #[must_use]
    pub fn turned(&self, delivered: f64, equivalence: f64) -> f64 {
        let basic = self.indicator.basic_part(self.ph_at(delivered, equivalence));
        match self.titrated {
            Titrated::Acid => basic,
            Titrated::Base => 1.0 - basic,
        }
    }

    /// Whether the indicator begins in its acid form.
    #[must_use]
    pub fn begins_acid(&self) -> bool {
        self.titrated == Titrated::Acid
    }
}
