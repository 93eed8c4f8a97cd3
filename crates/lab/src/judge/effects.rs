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
use practical::file::{Role, TitreItem};
use practical::{Practical, Reading, ResultSpec};
use serde::Serialize;
use sheet::Evaluation;
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

macro_rules! bench_slips {
    ($($slip:ident: $touches:ident, $size:expr;)+) => {
        /// A slip at the bench: it changes a reading, not the sum.
        #[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize)]
        #[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
        #[serde(rename_all = "kebab-case")]
        #[allow(missing_docs)] // the names are the catalogue's own words
        pub enum BenchSlip { $($slip),+ }

        impl BenchSlip {
            const ALL: &[BenchSlip] = &[$(BenchSlip::$slip),+];

            fn touches(self) -> (Touches, Size) {
                match self { $(BenchSlip::$slip => (Touches::$touches, $size),)+ }
            }
        }
    };
}

bench_slips! {
    DampProduct: Product, Size::Part(0.05);
    UnwashedProduct: Product, Size::Part(0.02);
    SolventLeft: Product, Size::Part(0.03);
    PaperMoisture: Product, Size::Part(0.02);
    TransferLoss: Product, Size::Part(-0.03);
    WashedAway: Product, Size::Part(-0.03);
    FinesThrough: Product, Size::Part(-0.04);
    IncompleteReaction: Product, Size::Part(-0.05);
    Overheated: Product, Size::Part(-0.03);
    Effloresced: Product, Size::Part(-0.04);
    PaperTorn: Product, Size::Part(-0.02);
    SideProduct: Product, Size::Part(-0.05);
    BoiledDry: Product, Size::Part(0.05);
    Sublimed: Product, Size::Part(-0.02);
    LayerDiscarded: Product, Size::Part(-0.5);
    PaperNotTared: Product, Size::Vessel;
    DifferentBalance: Product, Size::Grams(0.01);
    LimitingReagentSpilled: Product, Size::Part(-0.03);
    ExcessReagentSpilled: Nothing, Size::Part(0.0);
    Spattered: Residue, Size::Part(-0.01);
    HotWeighing: Residue, Size::Part(-0.003);
    MoistureRegained: Residue, Size::Part(0.01);
    Soot: Residue, Size::Part(0.003);
    LidMismatch: Residue, Size::Grams(0.05);
    CrucibleDamp: Container, Size::Grams(0.02);
    PastTheMark: Flask, Size::Part(0.005);
    EyeAbove: BothEnds, Size::Millilitres(0.05);
    EyeBelow: BothEnds, Size::Millilitres(-0.05);
    WrongIndicator: Titre, Size::Millilitres(0.3);
    AirInTip: Titre, Size::Millilitres(0.2);
    OvershotEndpoint: Titre, Size::Millilitres(0.05);
    BuretteNotRinsed: Titre, Size::Part(0.02);
    FlaskRinsedWithSample: Titre, Size::Part(0.01);
    CarbonDioxideUptake: Titre, Size::Part(0.005);
    PipetteBlownOut: Titre, Size::Part(0.002);
    FunnelLeftIn: Titre, Size::Millilitres(-0.05);
    PipetteNotRinsed: Titre, Size::Part(-0.01);
    SolidLeftInBoat: Titre, Size::Part(-0.01);
    DampStandard: Titre, Size::Part(-0.01);
}

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
    let of = |slip: &BenchSlip| {
        let (touches, size) = slip.touches();
        bench.touches(touches).then(|| Effect {
            slip: *slip,
            size: written(size),
            relative: bench.change(touches, size) / value.value,
            logged: logged.contains(slip),
        })
    };
    let mut found: Vec<Effect> = BenchSlip::ALL.iter().filter_map(of).collect();
    // What does nothing to a result is worth saying where people think that it does.
    let harmless = |slip: BenchSlip| matches!(slip.touches().0, Touches::Nothing | Touches::BothEnds);
    found.retain(|e| e.logged || harmless(e.slip) || e.relative.abs() > 1e-9);
    found.sort_by(|a, b| b.logged.cmp(&a.logged).then(b.relative.abs().total_cmp(&a.relative.abs())));
    found
}

/// Everything that slips can touch on the way to one result, with how much it hangs on each reading.
struct Touched<'a> {
    practical: &'a Practical,
    entries: &'a Entries,
    sensitivities: BTreeMap<String, f64>,
    /// Gross readings of what was made, with the net mass of each.
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
        let value = |name: &str| evaluation.value(name).map_or(0.0, |v| v.value);
        let weighed = |definition: &str, net: f64| -> Vec<(String, f64)> {
            let weighings = practical.file.weighings.iter().filter(|w| w.name() == definition);
            weighings.map(|w| (w.gross().to_owned(), net)).collect()
        };
        let made = practical.materials.iter().filter(|m| m.role == Role::Product);
        let products =
            made.filter_map(|m| practical.measured_by(&m.symbol)).flat_map(|d| weighed(d, value(d))).collect();
        // The last of several heatings is what counts; what it is made of is weighed.
        let residues = practical.residues().flat_map(|residue| {
            let definition = practical.program.definition(residue);
            let parts = definition.map(|d| practical.program.definitions_in(d)).unwrap_or_default();
            let names = parts.iter().map(|u| u.name.as_str()).chain([residue]);
            names.flat_map(|name| weighed(name, value(residue))).collect::<Vec<_>>()
        });
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
            Size::Vessel => self.practical.containers.get(gross).into_iter().flatten().map(|c| self.read(c)).sum(),
            Size::Millilitres(_) => 0.0,
        };
        masses.iter().map(|mass| self.on(&mass.0) * by(mass)).sum()
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
