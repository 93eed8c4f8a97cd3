//! Which way a slip at the bench pushes a result, and by how much: from the calculation itself.
//!
//! Each slip names what it touches (the product's mass, a titre, a residue), the sign, and a usual size. What that does to a
//! result is the derivative of the result to those readings times the change. What a group has logged itself (a flag on a
//! weighing, something spilled) comes first.
//!
//! Source: first-order propagation (JCGM 100:2008, 5.1.2, used for a known error rather than an uncertainty); usual sizes
//! from teaching practice, stated with each.

use crate::bench::{Departure, Entries, Flag};
use crate::evaluated::Evaluated;
use measure::InstrumentKind;
use measure::rounding::figures;
use practical::file::{Role, TitreItem, Weighing};
use practical::technique::{BenchSlip, Technique, techniques};
use practical::{Practical, Reading, ResultSpec};
use serde::Serialize;
use sheet::{Evaluation, Outcome};
use std::collections::{BTreeMap, BTreeSet};

/// What a slip at the bench touches.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Touches {
    /// What was made, weighed.
    Product,
    /// What is left after heating.
    Residue,
    /// An empty vessel or paper, weighed.
    Container,
    /// The final reading of every accurate titration.
    Titre,
    /// The volume of a graduated flask.
    Flask,
    /// Both readings of every titration alike: a difference does not feel it.
    BothEnds,
    /// Nothing that is read.
    Nothing,
}

/// How much a slip usually changes what it touches.
#[derive(Debug, Clone, Copy, PartialEq)]
enum Size {
    /// A part of it.
    Part(f64),
    /// In mL.
    Millilitres(f64),
    /// In g.
    Grams(f64),
    /// The whole mass of the vessel or paper that it lies on.
    Vessel,
}

/// What each slip touches, and its usual size; what is not here moves no reading that a result hangs on.
const TOUCHES: &[(BenchSlip, Touches, Size)] = &[
    (BenchSlip::DampProduct, Touches::Product, Size::Part(0.05)),
    (BenchSlip::UnwashedProduct, Touches::Product, Size::Part(0.02)),
    (BenchSlip::SolventLeft, Touches::Product, Size::Part(0.03)),
    (BenchSlip::PaperMoisture, Touches::Product, Size::Part(0.02)),
    (BenchSlip::TransferLoss, Touches::Product, Size::Part(-0.03)),
    (BenchSlip::WashedAway, Touches::Product, Size::Part(-0.03)),
    (BenchSlip::FinesThrough, Touches::Product, Size::Part(-0.04)),
    (BenchSlip::IncompleteReaction, Touches::Product, Size::Part(-0.05)),
    (BenchSlip::Overheated, Touches::Product, Size::Part(-0.03)),
    (BenchSlip::Effloresced, Touches::Product, Size::Part(-0.04)),
    (BenchSlip::PaperTorn, Touches::Product, Size::Part(-0.02)),
    (BenchSlip::SideProduct, Touches::Product, Size::Part(-0.05)),
    (BenchSlip::BoiledDry, Touches::Product, Size::Part(0.05)),
    (BenchSlip::Sublimed, Touches::Product, Size::Part(-0.02)),
    (BenchSlip::LayerDiscarded, Touches::Product, Size::Part(-0.5)),
    (BenchSlip::PaperNotTared, Touches::Product, Size::Vessel),
    (BenchSlip::DifferentBalance, Touches::Product, Size::Grams(0.01)),
    (BenchSlip::LimitingReagentSpilled, Touches::Product, Size::Part(-0.03)),
    (BenchSlip::DepositLost, Touches::Product, Size::Part(-0.01)),
    (BenchSlip::ExcessReagentSpilled, Touches::Nothing, Size::Part(0.0)),
    (BenchSlip::Spattered, Touches::Residue, Size::Part(-0.01)),
    (BenchSlip::HotWeighing, Touches::Residue, Size::Part(-0.003)),
    (BenchSlip::MoistureRegained, Touches::Residue, Size::Part(0.01)),
    (BenchSlip::Soot, Touches::Residue, Size::Part(0.003)),
    (BenchSlip::LidMismatch, Touches::Residue, Size::Grams(0.05)),
    (BenchSlip::CrucibleDamp, Touches::Container, Size::Grams(0.02)),
    (BenchSlip::PastTheMark, Touches::Flask, Size::Part(0.005)),
    (BenchSlip::EyeAbove, Touches::BothEnds, Size::Millilitres(0.05)),
    (BenchSlip::EyeBelow, Touches::BothEnds, Size::Millilitres(-0.05)),
    (BenchSlip::WrongIndicator, Touches::Titre, Size::Millilitres(0.3)),
    (BenchSlip::AirInTip, Touches::Titre, Size::Millilitres(0.2)),
    (BenchSlip::OvershotEndpoint, Touches::Titre, Size::Millilitres(0.05)),
    (BenchSlip::BuretteNotRinsed, Touches::Titre, Size::Part(0.02)),
    (BenchSlip::FlaskRinsedWithSample, Touches::Titre, Size::Part(0.01)),
    (BenchSlip::CarbonDioxideUptake, Touches::Titre, Size::Part(0.005)),
    (BenchSlip::PipetteBlownOut, Touches::Titre, Size::Part(0.002)),
    (BenchSlip::FunnelLeftIn, Touches::Titre, Size::Millilitres(-0.05)),
    (BenchSlip::PipetteNotRinsed, Touches::Titre, Size::Part(-0.01)),
    (BenchSlip::SolidLeftInBoat, Touches::Titre, Size::Part(-0.01)),
    (BenchSlip::DampStandard, Touches::Titre, Size::Part(-0.01)),
];

/// What one slip at the bench would do to a result.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Effect {
    /// Which.
    pub slip: BenchSlip,
    /// Its usual size, written: `+5 % of the mass`, `+0.2 mL`.
    pub size: String,
    /// What that does to the result, as a part of it: 0.05 is 5 % high.
    pub relative: f64,
    /// The group has logged something of the kind.
    pub logged: bool,
}

impl Evaluated<'_> {
    /// What slips at the bench would do to a result of this group, those that it logged first, then the largest.
    #[must_use]
    pub fn effects(&self, result: &str) -> Vec<Effect> {
        self.practical.result(result).map_or_else(Vec::new, |r| effects(self, r))
    }
}

fn effects(bench: &Evaluated<'_>, result: &ResultSpec) -> Vec<Effect> {
    let Evaluated { practical, entries, evaluation, .. } = bench;
    let Some(value) = evaluation.value(&result.name).filter(|v| v.value != 0.0) else { return Vec::new() };
    let bench = Touched::of(practical, result, evaluation, entries);
    let logged = logged(practical, entries);
    let of = |(slip, touches, size): &(BenchSlip, Touches, Size)| {
        let (touches, size) = (*touches, *size);
        bench.touches(touches).then(|| Effect {
            slip: *slip,
            size: written(size),
            relative: bench.change(touches, size) / value.value,
            logged: logged.contains(slip),
        })
    };
    let elsewhere = of_other_techniques(practical);
    let here = |slip: BenchSlip| logged.contains(&slip) || !elsewhere.contains(&slip);
    let mut found: Vec<Effect> = TOUCHES.iter().filter(|(slip, ..)| here(*slip)).filter_map(of).collect();
    // What does nothing to a result is worth saying where people think that it does.
    let harmless = |slip: BenchSlip| {
        let nothing = |of: &Touches| matches!(of, Touches::Nothing | Touches::BothEnds);
        TOUCHES.iter().any(|(own, touches, _)| *own == slip && nothing(touches))
    };
    found.retain(|e| e.logged || harmless(e.slip) || e.relative.abs() > 1e-9);
    found.sort_by(|a, b| b.logged.cmp(&a.logged).then(b.relative.abs().total_cmp(&a.relative.abs())));
    found
}

/// Slips that the library of techniques knows of techniques alone that this practical does not have: nobody tears a paper at
/// a distillation. Of a practical that does not name the technique of every step that reads something, nothing is known.
fn of_other_techniques(practical: &Practical) -> BTreeSet<BenchSlip> {
    let named = practical.steps.iter().filter(|s| !s.records.is_empty()).all(|s| s.technique.is_some());
    if !named {
        return BTreeSet::new();
    }
    let weighings = practical.file.weighings.iter().map(|w| match w {
        Weighing::Tared { .. } => "weighing-tared",
        Weighing::ByDifference { .. } => "weighing-by-difference",
        Weighing::ContainerAndContents { .. } => "weighing-container",
        Weighing::MatchedBlank { .. } => "weighing-matched-blank",
    });
    let used: BTreeSet<&str> = practical.steps.iter().filter_map(|s| s.technique.as_deref()).chain(weighings).collect();
    let (here, elsewhere): (Vec<_>, Vec<_>) = techniques().iter().partition(|t| used.contains(t.id.as_str()));
    let codes = |of: Vec<&Technique>| -> BTreeSet<BenchSlip> {
        of.into_iter().flat_map(|t| &t.slips).map(|s| s.code).collect()
    };
    let here = codes(here);
    codes(elsewhere).into_iter().filter(|code| !here.contains(code)).collect()
}

/// Everything that slips can touch on the way to one result, with how much it hangs on each reading.
struct Touched<'a> {
    practical: &'a Practical,
    entries: &'a Entries,
    sensitivities: BTreeMap<String, f64>,
    /// Places with gross readings of what was made, with the net mass of each: one of a crop, the last of several dryings.
    products: Vec<(String, f64)>,
    /// The same of what is left after heating.
    residues: Vec<(String, f64)>,
}

impl<'a> Touched<'a> {
    fn of(
        practical: &'a Practical,
        result: &ResultSpec,
        evaluation: &Evaluation<'_>,
        entries: &'a Entries,
    ) -> Touched<'a> {
        // A mass is weighed itself, or brought together from what is: crops that are added up, the last of several heatings.
        let weighed = |mass: &str| -> Vec<(String, f64)> {
            let of_it = practical
                .file
                .weighings
                .iter()
                .filter(|w| w.name() == mass || practical.program.hangs_on(mass, w.name()));
            of_it.flat_map(|w| nets(evaluation, w)).collect()
        };
        let made = practical.materials.iter().filter(|m| m.role == Role::Product);
        let products = made.filter_map(|m| practical.measured_by(&m.symbol)).flat_map(weighed).collect();
        let residues = practical.residues().flat_map(weighed);
        Touched {
            practical,
            entries,
            sensitivities: evaluation.sensitivities(&result.name),
            products,
            residues: residues.collect(),
        }
    }

    fn touches(&self, what: Touches) -> bool {
        match what {
            Touches::Product => !self.products.is_empty(),
            Touches::Residue => !self.residues.is_empty(),
            Touches::Container => !self.residues.is_empty() && !self.practical.containers.is_empty(),
            Touches::Titre | Touches::BothEnds => !self.practical.file.titres.is_empty(),
            Touches::Flask => self.flasks().next().is_some(),
            Touches::Nothing => self.practical.yields().next().is_some() && self.practical.limiting.is_some(),
        }
    }

    /// The change of the result, in base units, to first order.
    fn change(&self, what: Touches, size: Size) -> f64 {
        match what {
            Touches::Product => self.of_masses(&self.products, size),
            Touches::Residue => self.of_masses(&self.residues, size),
            Touches::Container => {
                let Size::Grams(grams) = size else { return 0.0 };
                let vessels: BTreeSet<&String> = self.practical.containers.values().flatten().collect();
                vessels.into_iter().map(|v| self.on(v) * grams).sum()
            }
            Touches::Titre => self.practical.file.titres.iter().map(|t| self.of_titre(t, size)).sum(),
            Touches::Flask => {
                let Size::Part(part) = size else { return 0.0 };
                self.flasks().map(|r| self.on(&r.symbol) * part * self.read(&r.symbol)).sum()
            }
            Touches::BothEnds | Touches::Nothing => 0.0,
        }
    }

    fn flasks(&self) -> impl Iterator<Item = &Reading> {
        self.practical.readings.iter().filter(|r| r.instrument.kind == InstrumentKind::VolumetricFlask)
    }

    /// How much the result hangs on a reading, all its repeats together.
    fn on(&self, reading: &str) -> f64 {
        self.sensitivities.iter().filter(|(s, _)| s.split('[').next() == Some(reading)).map(|(_, d)| d).sum()
    }

    /// A reading in base units; nothing where there is none.
    fn read(&self, slot: &str) -> f64 {
        let typed = self.entries.readings.get(slot).and_then(|t| measure::Decimal::parse(t).ok());
        let reading = self.practical.reading(slot);
        typed.zip(reading).map_or(0.0, |(typed, reading)| reading.unit.to_base(typed.to_f64()))
    }

    fn of_masses(&self, masses: &[(String, f64)], size: Size) -> f64 {
        let by = |(gross, net): &(String, f64)| match size {
            Size::Part(part) => part * net,
            Size::Grams(grams) => grams,
            Size::Vessel => {
                let reading = gross.split('[').next().unwrap_or(gross);
                self.practical.containers.get(reading).into_iter().flatten().map(|c| self.read(c)).sum()
            }
            Size::Millilitres(_) => 0.0,
        };
        let on = |place: &str| self.sensitivities.get(place).copied().unwrap_or(0.0);
        masses.iter().map(|mass| on(&mass.0) * by(mass)).sum()
    }

    fn of_titre(&self, titre: &TitreItem, size: Size) -> f64 {
        let ends = self.sensitivities.iter().filter(|(s, _)| s.split('[').next() == Some(&titre.end));
        let one = |(slot, d): (&String, &f64)| {
            let start = slot.replacen(&titre.end, &titre.start, 1);
            let litres = self.read(slot) - self.read(&start);
            d * match size {
                Size::Part(part) => part * litres,
                Size::Millilitres(v) => v / 1000.0,
                Size::Grams(_) | Size::Vessel => 0.0,
            }
        };
        ends.map(one).sum()
    }
}

/// The places of a weighing's gross reading, with the mass found in each.
fn nets(evaluation: &Evaluation<'_>, weighing: &Weighing) -> Vec<(String, f64)> {
    let gross = weighing.gross();
    match evaluation.outcome(weighing.name()) {
        Some(Outcome::Value(v)) => vec![(gross.to_owned(), v.value)],
        Some(Outcome::Series(each)) => {
            let one = |(t, o): (usize, &Outcome)| match o {
                Outcome::Value(v) => Some((sheet::trial_name(gross, t), v.value)),
                Outcome::NotYet { .. } | Outcome::Failed(_) | Outcome::Series(_) => None,
            };
            each.iter().enumerate().filter_map(one).collect()
        }
        Some(Outcome::NotYet { .. } | Outcome::Failed(_)) | None => Vec::new(),
    }
}

/// What a group has told itself.
fn logged(practical: &Practical, entries: &Entries) -> Vec<BenchSlip> {
    let flags = entries.circumstances.values().flat_map(|h| &h.flags).map(|f| match f {
        Flag::Torn | Flag::Trimmed => BenchSlip::PaperTorn,
        Flag::Scorched => BenchSlip::Overheated,
        Flag::Hot => BenchSlip::HotWeighing,
        Flag::Damp => BenchSlip::DampProduct,
    });
    let spilled = entries.deviations.iter().filter_map(|d| match &d.what {
        Departure::Lost { material, .. } => match practical.material(material)?.role {
            Role::Limiting => Some(BenchSlip::LimitingReagentSpilled),
            Role::Excess => Some(BenchSlip::ExcessReagentSpilled),
            Role::Product => Some(BenchSlip::TransferLoss),
            Role::Catalyst
            | Role::Solvent
            | Role::Quench
            | Role::Wash
            | Role::Indicator
            | Role::Seed
            | Role::Test
            | Role::Titrant
            | Role::Standard
            | Role::Sample => None,
        },
        Departure::WeighedOnce { .. } => Some(BenchSlip::DampProduct),
        Departure::Added { .. } | Departure::Sampled { .. } | Departure::Seeded { .. } | Departure::Otherwise => None,
    });
    flags.chain(spilled).collect()
}

fn written(size: Size) -> String {
    let sign = |x: f64| if x < 0.0 { "\u{2212}" } else { "+" };
    match size {
        Size::Part(part) => format!("{}{} %", sign(part), figures(100.0 * part.abs(), 1)),
        Size::Millilitres(v) => format!("{}{} mL", sign(v), v.abs()),
        Size::Grams(g) => format!("{}{} g", sign(g), g.abs()),
        Size::Vessel => "its mass".into(),
    }
}
