//! Which way a slip at the bench pushes a result, and by how much: from the calculation itself.
//!
//! Each slip names what it touches (the product's mass, a titre, a residue), the sign, and a usual size. What that does to a
//! result is the derivative of the result to those readings times the change. What a group has logged itself (a flag on a
//! weighing, something spilled) comes first.
//!
//! Source: first-order propagation (JCGM 100:2008, 5.1.2, used for a known error rather than an uncertainty); usual sizes
//! from teaching practice, stated with each.

use crate::bench::{Departure, Entries, Flag};
use crate::practical::file::{Method, Role};
use crate::practical::{Practical, ResultSpec};
use measure::rounding::figures;
use serde::Serialize;
use sheet::{Evaluation, Outcome};

/// What a slip at the bench touches.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Touches {
    /// What was made, weighed.
    Product,
    /// What is left after heating.
    Residue,
    /// The final reading of every accurate titration.
    Titre,
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
    LimitingReagentSpilled: Product, Size::Part(-0.03);
    ExcessReagentSpilled: Nothing, Size::Part(0.0);
    Spattered: Residue, Size::Part(-0.01);
    HotWeighing: Residue, Size::Part(-0.003);
    MoistureRegained: Residue, Size::Part(0.01);
    Soot: Residue, Size::Part(0.003);
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

/// What slips at the bench would do to a result of this group, those that it logged first, then the largest.
#[must_use]
pub fn effects(
    practical: &Practical,
    result: &ResultSpec,
    evaluation: &Evaluation<'_>,
    entries: &Entries,
) -> Vec<Effect> {
    let Some(Outcome::Value(value)) = evaluation.outcome(&result.name) else { return Vec::new() };
    if value.value == 0.0 {
        return Vec::new();
    }
    let sensitivities = evaluation.sensitivities(&result.name);
    let number = |name: &str| match evaluation.outcome(name) {
        Some(Outcome::Value(v)) => Some(v.value),
        _ => None,
    };
    // The gross readings of a weighing, with the net mass that they stand for.
    let weighed = |definition: &str| -> Vec<(String, f64)> {
        let weighings = practical.file.weighings.iter().filter(|w| w.name() == definition);
        let net = number(definition).unwrap_or(0.0);
        weighings.map(|w| (w.gross().to_owned(), net)).collect()
    };
    let products: Vec<(String, f64)> = practical
        .materials
        .iter()
        .filter(|m| m.role == Role::Product)
        .filter_map(|m| practical.measured_by(&m.symbol))
        .flat_map(weighed)
        .collect();
    let residues: Vec<(String, f64)> = practical
        .file
        .methods
        .iter()
        .filter_map(|m| match m {
            Method::Hydrate { residue, .. } => Some(residue.as_str()),
            _ => None,
        })
        .flat_map(|residue| match practical.program.definition(residue) {
            // The last of several heatings is what counts; what it is made of is weighed.
            Some(d) => practical
                .program
                .definitions_in(d)
                .iter()
                .flat_map(|u| weighed(&u.name))
                .chain(weighed(residue))
                .collect(),
            None => Vec::new(),
        })
        .collect();
    let change = |touches: Touches, size: Size| -> f64 {
        let of_masses = |masses: &[(String, f64)]| {
            let Size::Part(part) = size else { return 0.0 };
            let of = |(reading, net): &(String, f64)| {
                let on = sensitivities.iter().filter(|(s, _)| s.split('[').next() == Some(reading));
                on.map(|(_, d)| d * part * net).sum::<f64>()
            };
            masses.iter().map(of).sum()
        };
        match touches {
            Touches::Product => of_masses(&products),
            Touches::Residue => of_masses(&residues),
            Touches::Nothing => 0.0,
            Touches::Titre => {
                let titres = practical.file.titres.iter();
                titres
                    .map(|t| {
                        let ends = sensitivities.iter().filter(|(s, _)| s.split('[').next() == Some(&t.end));
                        ends.map(|(slot, d)| {
                            let start = slot.replacen(&t.end, &t.start, 1);
                            let read = |s: &str| {
                                entries
                                    .readings
                                    .get(s)
                                    .and_then(|t| measure::Decimal::parse(t).ok())
                                    .map(measure::Decimal::to_f64)
                            };
                            let litres = read(slot).zip(read(&start)).map_or(0.0, |(e, s)| (e - s) / 1000.0);
                            d * match size {
                                Size::Part(part) => part * litres,
                                Size::Millilitres(v) => v / 1000.0,
                            }
                        })
                        .sum::<f64>()
                    })
                    .sum()
            }
        }
    };
    let touched = |touches: Touches| match touches {
        Touches::Product => !products.is_empty(),
        Touches::Residue => !residues.is_empty(),
        Touches::Titre => !practical.file.titres.is_empty(),
        Touches::Nothing => practical.yields.is_some() && practical.limiting.is_some(),
    };
    let logged = logged(practical, entries);
    let of = |slip: &BenchSlip| {
        let (touches, size) = slip.touches();
        touched(touches).then(|| Effect {
            slip: *slip,
            size: written(size),
            relative: change(touches, size) / value.value,
            logged: logged.contains(slip),
        })
    };
    let mut found: Vec<Effect> = BenchSlip::ALL.iter().filter_map(of).collect();
    found.retain(|e| e.logged || e.slip == BenchSlip::ExcessReagentSpilled || e.relative.abs() > 1e-9);
    found.sort_by(|a, b| b.logged.cmp(&a.logged).then(b.relative.abs().total_cmp(&a.relative.abs())));
    found
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
            _ => None,
        },
        Departure::WeighedOnce { .. } => Some(BenchSlip::DampProduct),
        _ => None,
    });
    flags.chain(spilled).collect()
}

fn written(size: Size) -> String {
    let sign = |x: f64| if x < 0.0 { "\u{2212}" } else { "+" };
    match size {
        Size::Part(part) => format!("{}{} %", sign(part), figures(100.0 * part.abs(), 1)),
        Size::Millilitres(v) => format!("{}{} mL", sign(v), v.abs()),
    }
}
