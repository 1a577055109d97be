//! Quantiles and distribution functions of the normal, of Student's t and of χ².
//!
//! The library's t quantile is good to about seven digits; verdicts are compared
//! to 1e-7, so the quantile is solved here from the distribution function.
//!
//! # Source
//! JCGM 100 annex G (Student t with effective degrees of freedom). The expansion
//! for many degrees of freedom is Abramowitz and Stegun 26.7.8, error below 1/ν².

use statrs::distribution::{ChiSquared, Continuous, ContinuousCDF, Normal, StudentsT};
use statrs::function::beta::checked_beta_reg;
use statrs::function::gamma::checked_gamma_lr;

/// Above this many degrees of freedom the expansion is more accurate than the
/// incomplete beta function, whose terms cancel.
const MANY_DOF: f64 = 1e5;

/// The distribution that a decision is taken with.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(crate) enum Spread {
    /// Infinite degrees of freedom.
    Normal,
    /// Student t with this many effective degrees of freedom, above zero.
    Student(f64),
}

impl Spread {
    pub(crate) fn with_dof(dof: Option<f64>) -> Self {
        dof.map_or(Self::Normal, Self::Student)
    }

    /// P(X ≤ x).
    pub(crate) fn cdf(self, x: f64) -> f64 {
        match self {
            Self::Normal => normal_cdf(x),
            Self::Student(dof) if dof > MANY_DOF => {
                let z = x * (1.0 - 1.0 / (4.0 * dof)) / (1.0 + x * x / (2.0 * dof)).sqrt();
                normal_cdf(z)
            }
            Self::Student(dof) => student_cdf(x, dof),
        }
    }

    /// The x with P(X ≤ x) = p, for p in [0.5, 1).
    pub(crate) fn quantile(self, p: f64) -> f64 {
        let z = normal_quantile(p);
        match self {
            Self::Normal => z,
            Self::Student(dof) if dof > MANY_DOF => z + (z * z * z + z) / (4.0 * dof),
            Self::Student(dof) => match StudentsT::new(0.0, 1.0, dof) {
                // The expansion in 1/ν (Abramowitz and Stegun 26.7.5) is a good first guess.
                Ok(t) => {
                    let guess = z
                        + (z * z * z + z) / (4.0 * dof)
                        + (5.0 * z.powi(5) + 16.0 * z.powi(3) + 3.0 * z) / (96.0 * dof * dof);
                    Inverse {
                        cdf: |x| student_cdf(x, dof),
                        pdf: |x| t.pdf(x),
                        bend: |x| -(dof + 1.0) * x / (dof + x * x),
                    }
                    .solve(p, guess.max(1e-9))
                }
                Err(_) => z,
            },
        }
    }
}

/// Student's distribution function by the incomplete beta function, taken from the side
/// where its argument is small: near the middle the library's own form loses eight digits.
/// Degrees of freedom too few for the library are as good as none: no finite x is far out.
fn student_cdf(x: f64, dof: f64) -> f64 {
    let square = x * x;
    if square < dof {
        let half = 0.5 * checked_beta_reg(0.5, 0.5 * dof, square / (dof + square)).unwrap_or(0.0);
        0.5 + half.copysign(x)
    } else {
        let tail = 0.5 * checked_beta_reg(0.5 * dof, 0.5, dof / (dof + square)).unwrap_or(1.0);
        if x > 0.0 { 1.0 - tail } else { tail }
    }
}

/// The normal quantile, polished by one Newton step on the distribution function.
fn normal_quantile(p: f64) -> f64 {
    let normal = Normal::standard();
    let x = normal.inverse_cdf(p);
    let slope = normal.pdf(x);
    if x.is_finite() && slope > 0.0 { x - (normal_cdf(x) - p) / slope } else { x }
}

/// The library's own error function is off by up to 2e-11; this one is not.
fn normal_cdf(x: f64) -> f64 {
    0.5 * libm::erfc(-x * std::f64::consts::FRAC_1_SQRT_2)
}

/// The x with P(χ² ≤ x) = p, for p in (0, 1) and ν above zero.
pub(crate) fn chi_squared_quantile(p: f64, dof: f64) -> f64 {
    match ChiSquared::new(dof) {
        Ok(chi) => {
            // Wilson and Hilferty: the cube root is nearly normal.
            let z = normal_quantile(p);
            let share = 2.0 / (9.0 * dof);
            let guess = (dof * (1.0 - share + z * share.sqrt()).powi(3)).max(1e-3 * dof);
            Inverse {
                cdf: |x| checked_gamma_lr(0.5 * dof, 0.5 * x).unwrap_or(0.0),
                pdf: |x| chi.pdf(x),
                bend: |x| (0.5 * dof - 1.0) / x - 0.5,
            }
            .solve(p, guess)
        }
        Err(_) => f64::NAN,
    }
}

/// A distribution function with what is needed to invert it.
struct Inverse<C, P, S> {
    cdf: C,
    pdf: P,
    /// Slope of the density over the density.
    bend: S,
}

impl<C: Fn(f64) -> f64, P: Fn(f64) -> f64, S: Fn(f64) -> f64> Inverse<C, P, S> {
    /// Halley's steps from a guess above zero, kept inside a bracket on [0, ∞) that closes in.
    /// Each step cubes the error, so one of 1e-5 leaves nothing that a verdict could see.
    fn solve(&self, p: f64, guess: f64) -> f64 {
        let (mut low, mut high, mut x) = (0.0_f64, f64::INFINITY, guess);
        for _ in 0..2000 {
            let error = (self.cdf)(x) - p;
            if error > 0.0 {
                high = x;
            } else {
                low = x;
            }
            let newton = error / (self.pdf)(x);
            let next = x - newton / (1.0 - 0.5 * newton * (self.bend)(x));
            let inside = next.is_finite() && next > low && next < high;
            let next = match (inside, high.is_finite()) {
                (true, _) => next,
                (false, true) => 0.5 * (low + high),
                (false, false) => 2.0 * x,
            };
            let step = (next - x).abs() / x;
            if (inside && step <= 1e-5) || step <= 1e-15 || next > 1e300 {
                return next;
            }
            x = next;
        }
        x
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn student_quantiles_match_closed_forms_and_meet_the_normal() {
        // One degree of freedom is the Cauchy distribution: tan(π(p − ½)).
        let cauchy = (std::f64::consts::PI * 0.475).tan();
        assert!((Spread::Student(1.0).quantile(0.975) / cauchy - 1.0).abs() < 1e-12);
        // Two: 2(2p−1)/√(1−(2p−1)²)/√2.
        let two = 0.95 * (2.0_f64 / (1.0 - 0.95 * 0.95)).sqrt();
        assert!((Spread::Student(2.0).quantile(0.975) / two - 1.0).abs() < 1e-12);
        let (below, above) =
            (Spread::Student(0.99999e5).quantile(0.95), Spread::Student(1.00001e5).quantile(0.95));
        assert!((below / above - 1.0).abs() < 1e-8, "no step where the method changes");
        let z = Spread::Normal.quantile(0.95);
        assert!((z - 1.644_853_626_951_472_2).abs() < 1e-14, "{z}");
    }

    #[test]
    fn chi_squared_quantiles_match_closed_forms() {
        // Two degrees of freedom: −2·ln(1 − p). One: the square of a normal quantile.
        let two = -2.0 * (1.0_f64 - 0.05).ln();
        assert!((chi_squared_quantile(0.05, 2.0) / two - 1.0).abs() < 1e-12);
        let one = Spread::Normal.quantile(0.975).powi(2);
        assert!((chi_squared_quantile(0.95, 1.0) / one - 1.0).abs() < 1e-10);
    }

    #[test]
    fn the_quantile_inverts_the_distribution() {
        for dof in [0.5, 1.7, 3.1, 22.0, 4e3, 1e6] {
            for p in [0.5, 0.8, 0.95, 0.999] {
                let spread = Spread::Student(dof);
                assert!((spread.cdf(spread.quantile(p)) - p).abs() < 1e-10, "{dof} {p}");
            }
        }
    }
}
