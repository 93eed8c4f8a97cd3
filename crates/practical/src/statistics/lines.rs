//! Lines beyond the plain one: through zero, weighted, of several groups; and what is read off each.
//!
//! Sources: Miller & Miller, Statistics and Chemometrics for Analytical Chemistry, 6th ed., 5.5, 5.8 (standard additions),
//! 5.10 (weighted); Draper & Smith, Applied Regression Analysis, 3rd ed., 6.1 (a slope in common) and 14 (its F test).

use super::summary::student;
use super::{Undefined, mean, need, standard_deviation};
use serde::Serialize;
use statrs::distribution::{ContinuousCDF, FisherSnedecor};

/// A line y = slope · x, or y = intercept + slope · x, with all that is known of it.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StraightLine {
    /// How many points.
    pub n: usize,
    /// Slope.
    pub slope: f64,
    /// Where it meets x = 0; none for a line that is made to go through zero.
    pub intercept: Option<f64>,
    /// Points less fitted numbers.
    pub degrees_of_freedom: usize,
    /// Sum of squared residuals, each over its own standard deviation where those are given.
    pub rss: f64,
    /// Part of the variance of y that the line explains; none through zero, weighted, or where y does not vary.
    pub r_squared: Option<f64>,
    /// What the scatter of the points says; none where no point is left over.
    pub scatter: Option<LineScatter>,
    /// The same, taking the given standard deviations as they are; only for a weighted line.
    pub by_given_sd: Option<StandardErrors>,
}

/// How sure a line is by the scatter about it.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct LineScatter {
    /// Standard deviation of the residuals; for a weighted line the factor on the given ones.
    pub residual_sd: f64,
    /// Standard errors.
    pub standard: StandardErrors,
    /// Student's t for a two-sided 95 % interval.
    pub t_975: f64,
    /// t times the standard error of the slope.
    pub slope_half_width_95: f64,
    /// t times the standard error of the intercept.
    pub intercept_half_width_95: Option<f64>,
}

/// Standard errors of a line.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StandardErrors {
    /// Of the slope.
    pub slope: f64,
    /// Of the intercept; none through zero.
    pub intercept: Option<f64>,
}

/// How the points of a line are taken.
#[derive(Debug, Clone, PartialEq)]
pub enum Weighting {
    /// All alike.
    Alike,
    /// All alike, and the line goes through zero.
    ThroughZero,
    /// Each by its own standard deviation of y.
    BySd(Vec<f64>),
}

/// Points, how they are weighed, and the sums that everything comes from.
struct Fit<'a> {
    x: &'a [f64],
    y: &'a [f64],
    weights: Vec<f64>,
    through_zero: bool,
    scaled_only: bool,
    mx: f64,
    my: f64,
    sxx: f64,
    slope: f64,
    rss: f64,
}

const WHAT: &str = "a line";

impl Fit<'_> {
    fn of<'a>(x: &'a [f64], y: &'a [f64], how: &Weighting) -> Result<Fit<'a>, Undefined> {
        if x.len() != y.len() {
            return Err(Undefined::Unequal { what: WHAT, left: x.len(), right: y.len() });
        }
        let through_zero = *how == Weighting::ThroughZero;
        need(WHAT, x, if through_zero { 1 } else { 2 })?;
        let weights = match how {
            Weighting::Alike | Weighting::ThroughZero => vec![1.0; x.len()],
            Weighting::BySd(sd) if sd.len() != x.len() => {
                return Err(Undefined::Unequal { what: "weighing", left: x.len(), right: sd.len() });
            }
            Weighting::BySd(sd) if sd.iter().any(|s| *s <= 0.0) => {
                return Err(Undefined::NoSpread { what: "weighing by a standard deviation of zero" });
            }
            Weighting::BySd(sd) => sd.iter().map(|s| s.powi(-2)).collect(),
        };
        let total: f64 = weights.iter().sum();
        let middle = |v: &[f64]| {
            let from = v[0];
            from + v.iter().zip(&weights).map(|(v, w)| w * (v - from)).sum::<f64>() / total
        };
        let (mx, my) = if through_zero { (0.0, 0.0) } else { (middle(x), middle(y)) };
        let sxx: f64 = x.iter().zip(&weights).map(|(x, w)| w * (x - mx).powi(2)).sum();
        if sxx == 0.0 {
            return Err(Undefined::NoSpread { what: WHAT });
        }
        let points = || x.iter().zip(y).zip(&weights);
        let slope = points().map(|((x, y), w)| w * (x - mx) * (y - my)).sum::<f64>() / sxx;
        let rss: f64 = points().map(|((x, y), w)| w * (y - my - slope * (x - mx)).powi(2)).sum();
        if !slope.is_finite() || !rss.is_finite() {
            return Err(Undefined::TooLarge { what: WHAT });
        }
        let scaled_only = !matches!(how, Weighting::BySd(_));
        Ok(Fit { x, y, weights, through_zero, scaled_only, mx, my, sxx, slope, rss })
    }

    fn degrees_of_freedom(&self) -> usize {
        self.x.len().saturating_sub(if self.through_zero { 1 } else { 2 })
    }

    /// Standard deviation of the residuals; none where no point is left over.
    fn residual_sd(&self) -> Option<f64> {
        let free = self.degrees_of_freedom();
        (free > 0).then(|| (self.rss / free as f64).sqrt())
    }

    /// Standard errors for residuals of this standard deviation (times the given ones).
    fn standard(&self, sd: f64) -> StandardErrors {
        let total: f64 = self.weights.iter().sum();
        StandardErrors {
            slope: sd / self.sxx.sqrt(),
            intercept: (!self.through_zero).then(|| sd * (1.0 / total + self.mx.powi(2) / self.sxx).sqrt()),
        }
    }

    fn line(&self) -> StraightLine {
        let free = self.degrees_of_freedom();
        let scatter = self.residual_sd().map(|residual_sd| {
            let standard = self.standard(residual_sd);
            let t_975 = student(0.975, free as f64);
            LineScatter {
                residual_sd,
                t_975,
                slope_half_width_95: t_975 * standard.slope,
                intercept_half_width_95: standard.intercept.map(|se| t_975 * se),
                standard,
            }
        });
        let syy: f64 = self.y.iter().map(|y| (y - self.my).powi(2)).sum();
        StraightLine {
            n: self.x.len(),
            slope: self.slope,
            intercept: (!self.through_zero).then_some(self.my - self.slope * self.mx),
            degrees_of_freedom: free,
            rss: self.rss,
            r_squared: (!self.through_zero && self.scaled_only && syy > 0.0).then(|| 1.0 - self.rss / syy),
            scatter,
            by_given_sd: (!self.scaled_only).then(|| self.standard(1.0)),
        }
    }

    /// The x for a mean `y0` that itself has the variance `own` (of residuals of one), and its standard error for residuals of
    /// standard deviation one.
    fn at(&self, y0: f64, own: f64) -> Result<(f64, f64), Undefined> {
        if self.slope == 0.0 {
            return Err(Undefined::NoSpread { what: "reading off a line" });
        }
        let x = self.mx + (y0 - self.my) / self.slope;
        let line = if self.through_zero { 0.0 } else { 1.0 / self.weights.iter().sum::<f64>() };
        let away = (x - self.mx).powi(2) / self.sxx;
        Ok((x, (own + line + away).sqrt() / self.slope.abs()))
    }
}

/// The line through the points.
///
/// # Errors
/// [`Undefined`] for lists of different length, too few points, an x that does not vary, or a weight without sense.
pub fn line(x: &[f64], y: &[f64], how: &Weighting) -> Result<StraightLine, Undefined> {
    Fit::of(x, y, how).map(|fit| fit.line())
}

/// An x read off a line.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ReadOff {
    /// The x.
    pub x: f64,
    /// By the scatter about the line; none where no point is left over.
    pub standard_error: Option<f64>,
    /// t times that.
    pub half_width_95: Option<f64>,
    /// By the given standard deviations of a weighted line.
    pub by_given_sd: Option<f64>,
    /// Within the x of the line's points.
    pub inside: bool,
}

/// The x for readings `unknown` of one thing; `sd_unknown` is the standard deviation of one of them, for a weighted line.
///
/// # Errors
/// [`Undefined`] as for [`line`], for no reading, or a line without slope.
pub fn read_off(
    x: &[f64],
    y: &[f64],
    how: &Weighting,
    unknown: &[f64],
    sd_unknown: Option<f64>,
) -> Result<ReadOff, Undefined> {
    need("reading off a line", unknown, 1)?;
    read_off_mean(x, y, how, mean(unknown), sd_unknown.unwrap_or(1.0).powi(2) / unknown.len() as f64)
}

/// The x for a mean `y0` that has the variance `own`, in those of the residuals.
pub(super) fn read_off_mean(x: &[f64], y: &[f64], how: &Weighting, y0: f64, own: f64) -> Result<ReadOff, Undefined> {
    let fit = Fit::of(x, y, how)?;
    let (at, unit_error) = fit.at(y0, own)?;
    let standard_error = fit.residual_sd().map(|sd| sd * unit_error);
    let t = student(0.975, fit.degrees_of_freedom() as f64);
    let (low, high) = x.iter().fold((f64::MAX, f64::MIN), |(l, h), v| (l.min(*v), h.max(*v)));
    Ok(ReadOff {
        x: at,
        standard_error,
        half_width_95: standard_error.map(|se| t * se),
        by_given_sd: (!fit.scaled_only).then_some(unit_error),
        inside: (low..=high).contains(&at),
    })
}

/// An x read off the line for a measured y.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Inverse {
    /// The x.
    pub x: f64,
    /// Its standard error.
    pub standard_error: f64,
}

/// Where the line through the points meets y = 0: the end of a Gran plot, what was there before a standard addition with its sign
/// turned.
///
/// # Errors
/// [`Undefined`] as for [`read_off`], and for fewer than three points.
pub fn meets_zero(x: &[f64], y: &[f64]) -> Result<Inverse, Undefined> {
    let what = "where a line meets zero";
    need(what, x, 3)?;
    let fit = Fit::of(x, y, &Weighting::Alike)?;
    let (at, unit_error) = fit.at(0.0, 0.0)?;
    let sd = fit.residual_sd().ok_or(Undefined::NoSpread { what })?;
    Ok(Inverse { x: at, standard_error: sd * unit_error })
}

/// The points of one group, with its readings of an unknown.
#[derive(Debug, Clone, PartialEq)]
pub struct GroupPoints {
    /// x of each point.
    pub x: Vec<f64>,
    /// y of each point.
    pub y: Vec<f64>,
    /// Readings of the unknown; may be none.
    pub unknown: Vec<f64>,
}

/// One slope for all groups, an intercept for each.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct CommonSlope {
    /// The slope.
    pub slope: f64,
    /// Its standard error.
    pub se_slope: f64,
    /// Standard deviation of the residuals.
    pub residual_sd: f64,
    /// Points less groups less one.
    pub degrees_of_freedom: usize,
    /// Of each group.
    pub intercepts: Vec<f64>,
}

/// The lines of several groups, put together in three ways.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PooledLines {
    /// One line through the points of all.
    pub one_line: StraightLine,
    /// One slope, an intercept for each.
    pub common_slope: CommonSlope,
    /// Slope of each group alone.
    pub slopes: Vec<f64>,
    /// Mean of these.
    pub mean_slope: f64,
    /// Their standard deviation.
    pub sd_of_slopes: f64,
    /// That over √k.
    pub se_of_mean_slope: f64,
    /// F of equal slopes.
    pub equal_slopes_f: f64,
    /// Chance of so large an F where the slopes do not differ.
    pub equal_slopes_p: f64,
}

/// The lines of several groups together.
///
/// # Errors
/// [`Undefined`] for fewer than two groups, a group without a line, or no point left over.
pub fn pooled_lines(groups: &[GroupPoints]) -> Result<PooledLines, Undefined> {
    let what = "lines of several groups";
    if groups.len() < 2 {
        return Err(Undefined::TooFew { what, needed: 2, given: groups.len() });
    }
    let fits: Vec<Fit<'_>> = groups.iter().map(|g| Fit::of(&g.x, &g.y, &Weighting::Alike)).collect::<Result<_, _>>()?;
    let (n, k) = (fits.iter().map(|f| f.x.len()).sum::<usize>(), fits.len());
    if n <= 2 * k {
        return Err(Undefined::TooFew { what, needed: 2 * k + 1, given: n });
    }
    let sxx: f64 = fits.iter().map(|f| f.sxx).sum();
    let slope = fits.iter().map(|f| f.slope * f.sxx).sum::<f64>() / sxx;
    // What is left about lines of the common slope: the own residuals, and what each own slope takes more.
    let apart: f64 = fits.iter().map(|f| f.rss).sum();
    let by_slopes: f64 = fits.iter().map(|f| (f.slope - slope).powi(2) * f.sxx).sum();
    let degrees_of_freedom = n - k - 1;
    let residual_sd = ((apart + by_slopes) / degrees_of_freedom as f64).sqrt();
    let slopes: Vec<f64> = fits.iter().map(|f| f.slope).collect();
    if apart == 0.0 {
        return Err(Undefined::NoSpread { what });
    }
    let (more, own) = ((k - 1) as f64, (n - 2 * k) as f64);
    let f = by_slopes / more / (apart / own);
    let sd_of_slopes = standard_deviation(&slopes);
    let all = |of: fn(&GroupPoints) -> &Vec<f64>| groups.iter().flat_map(|g| of(g).iter().copied()).collect::<Vec<_>>();
    Ok(PooledLines {
        one_line: line(&all(|g| &g.x), &all(|g| &g.y), &Weighting::Alike)?,
        common_slope: CommonSlope {
            slope,
            se_slope: residual_sd / sxx.sqrt(),
            residual_sd,
            degrees_of_freedom,
            intercepts: fits.iter().map(|f| f.my - slope * f.mx).collect(),
        },
        mean_slope: mean(&slopes),
        sd_of_slopes,
        se_of_mean_slope: sd_of_slopes / (k as f64).sqrt(),
        equal_slopes_f: f,
        equal_slopes_p: FisherSnedecor::new(more, own).map_or(1.0, |d| d.sf(f)),
        slopes,
    })
}

/// An unknown that every group read off a line of its own.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ClassUnknown {
    /// Of each group.
    pub groups: Vec<Inverse>,
    /// Mean of these, each counting alike.
    pub mean: f64,
    /// Their standard deviation.
    pub sd_between_groups: f64,
    /// That over √k.
    pub se_of_mean: f64,
    /// t (k − 1) times that.
    pub half_width_95_of_mean: f64,
    /// Mean weighed by 1/se².
    pub weighted_mean: f64,
    /// Its standard error, the standard errors of the groups taken as they are.
    pub se_of_weighted_mean: f64,
}

/// The unknown of a class.
///
/// # Errors
/// [`Undefined`] for fewer than two groups, or one whose line has no slope or no point left over.
pub fn class_unknown(groups: &[GroupPoints]) -> Result<ClassUnknown, Undefined> {
    let what = "an unknown of several groups";
    let each: Vec<Inverse> = groups
        .iter()
        .map(|g| {
            let read = read_off(&g.x, &g.y, &Weighting::Alike, &g.unknown, None)?;
            let standard_error = read.standard_error.filter(|se| *se > 0.0).ok_or(Undefined::NoSpread { what })?;
            Ok(Inverse { x: read.x, standard_error })
        })
        .collect::<Result<_, Undefined>>()?;
    let found: Vec<f64> = each.iter().map(|i| i.x).collect();
    need(what, &found, 2)?;
    let k = found.len() as f64;
    let weights: Vec<f64> = each.iter().map(|i| i.standard_error.powi(-2)).collect();
    let total: f64 = weights.iter().sum();
    let sd = standard_deviation(&found);
    Ok(ClassUnknown {
        mean: mean(&found),
        sd_between_groups: sd,
        se_of_mean: sd / k.sqrt(),
        half_width_95_of_mean: student(0.975, k - 1.0) * sd / k.sqrt(),
        weighted_mean: found.iter().zip(&weights).map(|(x, w)| x * w).sum::<f64>() / total,
        se_of_weighted_mean: total.powf(-0.5),
        groups: each,
    })
}

/// The start of a curve: y = y₀ + slope · x + ½ · curvature · x², its slope at x = 0.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Parabola {
    /// Slope at x = 0.
    pub slope: f64,
    /// How the slope changes with x: the second derivative.
    pub curvature: f64,
    /// Standard error of the slope; none for three points.
    pub se_slope: Option<f64>,
}

/// The parabola through the points by least squares.
///
/// # Errors
/// [`Undefined`] for fewer than three points, or fewer than three places in x.
pub fn parabola(x: &[f64], y: &[f64]) -> Result<Parabola, Undefined> {
    let what = "a parabola";
    need(what, x, 3)?;
    // The residuals of y, of x² and of 1 about lines in x reduce it to lines: first x² and 1 against each other.
    let (mx, n) = (mean(x), x.len() as f64);
    let moved: Vec<f64> = x.iter().map(|v| v - mx).collect();
    let squared: Vec<f64> = moved.iter().map(|v| v * v).collect();
    let fitted = |y: &[f64]| line(&moved, y, &Weighting::Alike).map(|l| (l.slope, l.intercept.unwrap_or_default()));
    let (of_square, square_at_middle) = fitted(&squared)?;
    let (of_y, y_at_middle) = fitted(y)?;
    let rest: Vec<f64> = moved.iter().zip(&squared).map(|(m, s)| s - square_at_middle - of_square * m).collect();
    let weight: f64 = rest.iter().map(|r| r * r).sum();
    let sxx: f64 = squared.iter().sum();
    if weight <= 1e-12 * squared.iter().map(|s| s * s).sum::<f64>() {
        return Err(Undefined::NoSpread { what });
    }
    let curvature = rest.iter().zip(y).map(|(r, y)| r * y).sum::<f64>() / weight;
    // About the middle: y = a + b·(x − mx) + c·(x − mx)², so that the slope at 0 is b − 2·c·mx.
    let middle = of_y - curvature * of_square;
    let slope = middle - 2.0 * curvature * mx;
    let start = y_at_middle - curvature * square_at_middle;
    let rss: f64 = moved.iter().zip(y).map(|(m, y)| (y - start - middle * m - curvature * m * m).powi(2)).sum();
    let free = n - 3.0;
    // slope = (b of the line) − curvature·(slope of x² on the line + 2·mx), whose two parts are independent.
    let lever = of_square + 2.0 * mx;
    let se_slope = (free > 0.0).then(|| (rss / free * (1.0 / sxx + lever.powi(2) / weight)).sqrt());
    Ok(Parabola { slope, curvature: 2.0 * curvature, se_slope })
}

/// Several numbers fitted at once.
#[derive(Debug, Clone, PartialEq)]
pub struct Fitted {
    /// One for each column.
    pub values: Vec<f64>,
    /// Standard errors by the scatter; none where no row is left over.
    pub standard_errors: Option<Vec<f64>>,
    /// Rows less columns.
    pub degrees_of_freedom: usize,
}

/// Least squares of `y` over the columns of `rows`, all rows alike.
///
/// # Errors
/// [`Undefined`] for fewer rows than columns, or columns that do not tell each other apart.
pub fn least_squares(rows: &[Vec<f64>], y: &[f64]) -> Result<Fitted, Undefined> {
    let what = "a fit";
    let (n, k) = (rows.len(), rows.first().map_or(0, Vec::len));
    if n < k || k == 0 {
        return Err(Undefined::TooFew { what, needed: k.max(1), given: n });
    }
    let columns = nalgebra::DMatrix::from_fn(n, k, |i, j| rows[i][j]);
    let observed = nalgebra::DVector::from_column_slice(y);
    let svd = columns.clone().svd(true, true);
    let largest = svd.singular_values.max();
    if svd.singular_values.min() <= 1e-10 * largest {
        return Err(Undefined::NoSpread { what });
    }
    let values = svd.solve(&observed, 0.0).map_err(|_| Undefined::NoSpread { what })?;
    let degrees_of_freedom = n - k;
    let rss = (&columns * &values - observed).norm_squared();
    let standard_errors = (degrees_of_freedom > 0).then(|| {
        // Covariance s²·V·S⁻²·Vᵀ, of which the diagonal.
        let v = svd.v_t.as_ref().expect("asked for").transpose();
        let of = |j: usize| (0..k).map(|i| (v[(j, i)] / svd.singular_values[i]).powi(2)).sum::<f64>();
        (0..k).map(|j| (rss / degrees_of_freedom as f64 * of(j)).sqrt()).collect()
    });
    Ok(Fitted { values: values.iter().copied().collect(), standard_errors, degrees_of_freedom })
}
