//! The straight line through points, with what each point has to say in it.
//!
//! Ordinary least squares: all scatter is in y and alike for all points. What the points scatter about the line is an
//! uncertainty of its own, beside that of the instruments: each y counts with the standard deviation of the residuals.
//!
//! Source: Miller & Miller, Statistics and Chemometrics for Analytical Chemistry, 6th ed., 5.4 to 5.6 and 5.9.

use crate::program::LinePart;

/// One point of the sheet's numbers.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(crate) struct Point {
    pub x: f64,
    pub y: f64,
}

/// Why points have no line.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum NoLine {
    /// Fewer than it takes.
    TooFew,
    /// All at one x.
    Upright,
}

/// What is asked of the points.
pub(crate) fn of_points(part: LinePart, points: &[Point]) -> Result<f64, NoLine> {
    if points.len() < part.needs() {
        return Err(NoLine::TooFew);
    }
    let sums = Sums::of(part, points);
    let slope = || if sums.xx == 0.0 { Err(NoLine::Upright) } else { Ok(sums.xy / sums.xx) };
    match part {
        LinePart::Slope | LinePart::SlopeThroughZero => slope(),
        LinePart::Intercept => slope().map(|slope| sums.y - slope * sums.x),
        LinePart::Area => Ok(in_order(points).windows(2).map(|pair| area_of(points, pair)).sum()),
    }
}

/// Derivative of what is asked to the y and to the x of each point.
pub(crate) fn derivatives(part: LinePart, points: &[Point]) -> Vec<(f64, f64)> {
    let n = points.len() as f64;
    let sums = Sums::of(part, points);
    let slope = sums.xy / sums.xx;
    let of_slope = |p: &Point| {
        let (x, y) = (p.x - sums.x, p.y - sums.y);
        (x / sums.xx, (y - 2.0 * slope * x) / sums.xx)
    };
    match part {
        LinePart::Slope | LinePart::SlopeThroughZero => points.iter().map(of_slope).collect(),
        LinePart::Intercept => {
            let of_intercept = |(to_y, to_x): (f64, f64)| (1.0 / n - sums.x * to_y, -sums.x * to_x - slope / n);
            points.iter().map(of_slope).map(of_intercept).collect()
        }
        LinePart::Area => {
            let mut out = vec![(0.0, 0.0); points.len()];
            for pair in in_order(points).windows(2) {
                let (from, to) = (points[pair[0]], points[pair[1]]);
                let (width, height) = (to.x - from.x, f64::midpoint(from.y, to.y));
                out[pair[0]].0 += width / 2.0;
                out[pair[1]].0 += width / 2.0;
                out[pair[0]].1 -= height;
                out[pair[1]].1 += height;
            }
            out
        }
    }
}

/// Standard deviation of the residuals; none where no point is left over to show any.
pub(crate) fn residual_sd(part: LinePart, points: &[Point]) -> Option<f64> {
    let free = points.len().checked_sub(part.parameters()?).filter(|free| *free > 0)?;
    let sums = Sums::of(part, points);
    let slope = sums.xy / sums.xx;
    let squares: f64 = points.iter().map(|p| (p.y - sums.y - slope * (p.x - sums.x)).powi(2)).sum();
    let sd = (squares / free as f64).sqrt();
    sd.is_finite().then_some(sd)
}

impl LinePart {
    /// How many points it takes.
    fn needs(self) -> usize {
        match self {
            LinePart::Slope | LinePart::Intercept | LinePart::Area => 2,
            LinePart::SlopeThroughZero => 1,
        }
    }

    /// How many numbers are fitted; none where nothing is.
    fn parameters(self) -> Option<usize> {
        match self {
            LinePart::Slope | LinePart::Intercept => Some(2),
            LinePart::SlopeThroughZero => Some(1),
            LinePart::Area => None,
        }
    }

    /// Whether it is of a line that is made to go through (0, 0).
    fn passes_zero(self) -> bool {
        self == LinePart::SlopeThroughZero
    }
}

/// Sums about the middle of the points, or about zero for a line that goes through it.
struct Sums {
    x: f64,
    y: f64,
    xx: f64,
    xy: f64,
}

impl Sums {
    fn of(part: LinePart, points: &[Point]) -> Sums {
        let n = points.len() as f64;
        let mean = |of: fn(&Point) -> f64| {
            let first = points.first().map_or(0.0, of);
            first + points.iter().map(|p| of(p) - first).sum::<f64>() / n
        };
        let (x, y) = if part.passes_zero() { (0.0, 0.0) } else { (mean(|p| p.x), mean(|p| p.y)) };
        let xx = points.iter().map(|p| (p.x - x).powi(2)).sum();
        let xy = points.iter().map(|p| (p.x - x) * (p.y - y)).sum();
        Sums { x, y, xx, xy }
    }
}

/// The points by rising x.
fn in_order(points: &[Point]) -> Vec<usize> {
    let mut order: Vec<usize> = (0..points.len()).collect();
    order.sort_by(|a, b| points[*a].x.total_cmp(&points[*b].x));
    order
}

fn area_of(points: &[Point], pair: &[usize]) -> f64 {
    let (from, to) = (points[pair[0]], points[pair[1]]);
    (to.x - from.x) * f64::midpoint(from.y, to.y)
}
