//! Where a sum comes to a wanted value.

/// Steps after which nothing more is gained.
const MOST_STEPS: usize = 40;

/// The place at which `off` is nothing, from two places near it, by secants: within `near` of it. None where the sum has no
/// value on the way, does not change, or does not get there.
#[must_use]
pub fn secant(off: impl Fn(f64) -> Option<f64>, (mut a, mut b): (f64, f64), near: f64) -> Option<f64> {
    let (mut fa, mut fb) = (off(a)?, off(b)?);
    for _ in 0..MOST_STEPS {
        if fb.abs() <= near {
            return Some(b);
        }
        let next = b - fb * (b - a) / (fb - fa);
        if !next.is_finite() {
            return None;
        }
        (a, fa) = (b, fb);
        b = next;
        fb = off(b)?;
    }
    None
}
