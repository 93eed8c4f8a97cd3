//! Scales to be read: a meniscus somewhere between two marks, and an eye that is not level with it yet.

use measure::Decimal;
use rand::seq::IndexedRandom;
use rand::{Rng, SeedableRng};
use rand_chacha::ChaCha8Rng;
use serde::Serialize;

/// What is read.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum ScaleKind {
    /// 50 mL, marks each 0.1 mL, zero at the top.
    Burette,
    /// 10 mL, marks each 0.1 mL, zero at the top.
    GraduatedPipette,
    /// 100 mL, marks each 1 mL.
    Cylinder100,
    /// 10 mL, marks each 0.2 mL.
    Cylinder10,
    /// Marks each 1 °C; a thread, no meniscus.
    Thermometer,
}

/// Numbers of a scale.
struct Scale {
    capacity: f64,
    division: f64,
    /// What an eye reads it to: a part of a division.
    read_to: f64,
    decimals: u32,
    zero_at_top: bool,
    unit: &'static str,
}

impl ScaleKind {
    const ALL: [ScaleKind; 5] = [
        ScaleKind::Burette,
        ScaleKind::GraduatedPipette,
        ScaleKind::Cylinder100,
        ScaleKind::Cylinder10,
        ScaleKind::Thermometer,
    ];

    fn scale(self) -> Scale {
        let of = |capacity, division, read_to, decimals, zero_at_top, unit| Scale {
            capacity,
            division,
            read_to,
            decimals,
            zero_at_top,
            unit,
        };
        match self {
            ScaleKind::Burette => of(50.0, 0.1, 0.01, 2, true, "mL"),
            ScaleKind::GraduatedPipette => of(10.0, 0.1, 0.01, 2, true, "mL"),
            ScaleKind::Cylinder100 => of(100.0, 1.0, 0.1, 1, false, "mL"),
            ScaleKind::Cylinder10 => of(10.0, 0.2, 0.02, 2, false, "mL"),
            ScaleKind::Thermometer => of(100.0, 1.0, 0.1, 1, false, "°C"),
        }
    }
}

/// One scale to be read.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct MeniscusTask {
    /// On what.
    pub kind: ScaleKind,
    /// Where it stands.
    pub stands: f64,
    /// Between two marks.
    pub division: f64,
    /// The last mark.
    pub capacity: f64,
    /// The smaller numbers are above.
    pub zero_at_top: bool,
    /// How many decimals are read.
    pub decimals: u32,
    /// Of the numbers.
    pub unit: &'static str,
    /// Where the eye is: 0 is level with it, 1 is a hand above.
    pub eye: f64,
    /// What the scale seems to show more for each hand that the eye is above.
    pub parallax: f64,
}

/// Scales to be read, the same for the same seed.
#[must_use]
pub fn menisci(seed: u64, how_many: usize) -> Vec<MeniscusTask> {
    let mut rng = ChaCha8Rng::seed_from_u64(seed);
    let mut tasks = Vec::new();
    for _ in 0..how_many {
        // Burettes are what is read most.
        let kind = if rng.random_bool(0.4) {
            ScaleKind::Burette
        } else {
            ScaleKind::ALL.choose(&mut rng).copied().unwrap_or(ScaleKind::Burette)
        };
        let Scale { capacity, division, read_to, decimals, zero_at_top, unit } = kind.scale();
        let stands = rng.random_range(0.08 * capacity..0.92 * capacity);
        let above = rng.random_range(0.3..1.0);
        let eye = if rng.random_bool(0.5) { above } else { -above };
        tasks.push(MeniscusTask {
            kind,
            stands: (stands / read_to).round() * read_to,
            division,
            capacity,
            zero_at_top,
            decimals,
            unit,
            eye,
            // From above a meniscus seems to stand higher: less where the zero is at the top, more where it is below.
            parallax: if zero_at_top { -0.8 * division } else { 0.8 * division },
        });
    }
    tasks
}

/// How somebody reads.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = ReadingScatter))]
pub struct Scatter {
    /// Of each reading, in divisions, what was read less what is there; none where it was no number.
    pub off: Vec<Option<f64>>,
    /// Whether each has the decimals that the scale gives.
    pub decimals_right: Vec<bool>,
    /// Mean of them, in divisions: how far too high.
    pub bias: f64,
    /// Standard deviation of them, in divisions; none of a single one.
    pub scatter: Option<f64>,
}

/// Readings held against what is there, in the order of the tasks.
#[must_use]
pub fn judged(tasks: &[MeniscusTask], typed: &[String]) -> Scatter {
    let read: Vec<Option<Decimal>> = typed.iter().map(|t| Decimal::parse(t).ok()).collect();
    let pairs = || tasks.iter().zip(&read);
    let off: Vec<Option<f64>> =
        pairs().map(|(task, read)| read.map(|r| (r.to_f64() - task.stands) / task.division)).collect();
    let decimals = |r: &Decimal| u32::try_from(-r.last_place()).unwrap_or(0);
    let decimals_right =
        pairs().map(|(task, read)| read.as_ref().is_some_and(|r| decimals(r) == task.decimals)).collect();
    let numbers: Vec<f64> = off.iter().flatten().copied().collect();
    #[expect(clippy::cast_precision_loss, reason = "a few dozen readings")]
    let count = numbers.len() as f64;
    let bias = if numbers.is_empty() { 0.0 } else { numbers.iter().sum::<f64>() / count };
    let scatter =
        (numbers.len() > 1).then(|| (numbers.iter().map(|n| (n - bias).powi(2)).sum::<f64>() / (count - 1.0)).sqrt());
    Scatter { off, decimals_right, bias, scatter }
}
