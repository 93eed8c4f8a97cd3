//! Tolerances of volumetric glassware by class.
//!
//! Sources: ISO 385:2005 (burettes), ISO 648:2008 (single-volume pipettes), ISO 1042:1998 (one-mark flasks), ISO
//! 4788:2005 (measuring cylinders). Sizes whose value is not certain are left out rather than guessed.

use crate::InstrumentKind;
use serde::Serialize;

/// Accuracy class of a piece of glassware.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Class {
    /// The better one.
    A,
    /// About twice the tolerance of A.
    B,
}

/// One size of one kind of glassware; volumes in mL.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Glassware {
    /// What it is.
    pub kind: InstrumentKind,
    /// Nominal volume.
    pub volume: f64,
    /// Smallest division; none for one mark.
    pub division: Option<f64>,
    /// Half-width of the tolerance, class A.
    pub class_a: f64,
    /// Half-width of the tolerance, class B.
    pub class_b: f64,
}

impl Glassware {
    /// Half-width of the tolerance in mL.
    #[must_use]
    pub fn tolerance(&self, class: Class) -> f64 {
        match class {
            Class::A => self.class_a,
            Class::B => self.class_b,
        }
    }
}

const fn graduated(kind: InstrumentKind, volume: f64, division: f64, class_a: f64, class_b: f64) -> Glassware {
    Glassware { kind, volume, division: Some(division), class_a, class_b }
}

const fn marked(kind: InstrumentKind, volume: f64, class_a: f64, class_b: f64) -> Glassware {
    Glassware { kind, volume, division: None, class_a, class_b }
}

/// All sizes, by kind and volume.
pub const GLASSWARE: &[Glassware] = &[
    graduated(InstrumentKind::Burette, 25.0, 0.05, 0.03, 0.05),
    graduated(InstrumentKind::Burette, 25.0, 0.1, 0.05, 0.1),
    graduated(InstrumentKind::Burette, 50.0, 0.1, 0.05, 0.1),
    graduated(InstrumentKind::Burette, 100.0, 0.2, 0.1, 0.2),
    marked(InstrumentKind::VolumetricPipette, 1.0, 0.008, 0.015),
    marked(InstrumentKind::VolumetricPipette, 2.0, 0.010, 0.020),
    marked(InstrumentKind::VolumetricPipette, 5.0, 0.015, 0.030),
    marked(InstrumentKind::VolumetricPipette, 10.0, 0.020, 0.040),
    marked(InstrumentKind::VolumetricPipette, 20.0, 0.030, 0.060),
    marked(InstrumentKind::VolumetricPipette, 25.0, 0.030, 0.060),
    marked(InstrumentKind::VolumetricPipette, 50.0, 0.050, 0.100),
    marked(InstrumentKind::VolumetricFlask, 10.0, 0.025, 0.05),
    marked(InstrumentKind::VolumetricFlask, 25.0, 0.04, 0.08),
    marked(InstrumentKind::VolumetricFlask, 50.0, 0.06, 0.12),
    marked(InstrumentKind::VolumetricFlask, 100.0, 0.10, 0.20),
    marked(InstrumentKind::VolumetricFlask, 200.0, 0.15, 0.30),
    marked(InstrumentKind::VolumetricFlask, 250.0, 0.15, 0.30),
    marked(InstrumentKind::VolumetricFlask, 500.0, 0.25, 0.50),
    marked(InstrumentKind::VolumetricFlask, 1000.0, 0.40, 0.80),
    marked(InstrumentKind::VolumetricFlask, 2000.0, 0.60, 1.20),
    graduated(InstrumentKind::MeasuringCylinder, 10.0, 0.2, 0.10, 0.20),
    graduated(InstrumentKind::MeasuringCylinder, 25.0, 0.5, 0.25, 0.50),
    graduated(InstrumentKind::MeasuringCylinder, 50.0, 1.0, 0.50, 1.0),
    graduated(InstrumentKind::MeasuringCylinder, 100.0, 1.0, 0.50, 1.0),
    graduated(InstrumentKind::MeasuringCylinder, 250.0, 2.0, 1.0, 2.0),
    graduated(InstrumentKind::MeasuringCylinder, 500.0, 5.0, 2.5, 5.0),
    graduated(InstrumentKind::MeasuringCylinder, 1000.0, 10.0, 5.0, 10.0),
];

/// The piece of this kind and nominal volume in mL, if its tolerance is known here; of two divisions the finer one.
#[must_use]
pub fn glassware(kind: InstrumentKind, volume: f64) -> Option<&'static Glassware> {
    GLASSWARE.iter().find(|g| g.kind == kind && g.volume == volume)
}
