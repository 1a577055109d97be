//! Pressure in a rail that is drained, and where it settles between pump and consumers.
//!
//! # Source
//! Balance of volumes: C·dp/dt = Q_in − Q_out. With an orifice as the only way out, Q = a·√p, the root of
//! the pressure falls in a line. Settling: the pump gives what it can, less what leaks.

/// What is left in a closed rail after draining through an orifice, kPa: `flow` in ml/min at the start
/// pressure, the time that it is open in s, the compliance of hose and rail in ml/kPa.
///
/// ```
/// // 240 ml/min at 300 kPa for 0.3 s from 0.013 ml/kPa: √p falls by 4·0.3/(2·0.013·17.32) = 2.665.
/// let left = cobaltine_engines::physics::drained_kpa(300.0, 240.0, 0.3, 0.013);
/// assert!((left - 214.8).abs() < 0.1, "{left}");
/// ```
pub fn drained_kpa(start_kpa: f64, flow_ml_min: f64, open_s: f64, compliance: f64) -> f64 {
    if start_kpa <= 0.0 || compliance <= 0.0 {
        return start_kpa.max(0.0);
    }
    let root = libm::sqrt(start_kpa);
    let fall = flow_ml_min / 60.0 * open_s / (2.0 * compliance * root);
    let left = (root - fall).max(0.0);
    left * left
}

/// Where a rail settles, kPa: the pump gives `pump` ml/min until it has reached what is wanted; `taken` is
/// what leaks and is injected, ml/min, at the wanted pressure, and falls in a line with the pressure.
pub fn settled_kpa(wanted_kpa: f64, pump: f64, taken: f64) -> f64 {
    if taken <= pump { wanted_kpa } else { wanted_kpa * (pump / taken).max(0.0) }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_root_of_the_pressure_falls_in_a_line_and_what_leaves_was_there() {
        let (compliance, flow, start): (f64, f64, f64) = (0.013, 240.0, 300.0);
        let once = drained_kpa(start, flow, 0.2, compliance);
        // The flow goes on from the new pressure: by the root law it has fallen with it.
        let then = drained_kpa(once, flow * libm::sqrt(once / start), 0.1, compliance);
        assert!((then - drained_kpa(start, flow, 0.3, compliance)).abs() < 1e-9);
        // What left is what the compliance gave: integrated in small steps.
        let (mut p, mut out) = (start, 0.0);
        for _ in 0..3000 {
            let q = flow * libm::sqrt(p / start) / 60.0 * 1e-4;
            out += q;
            p -= q / compliance;
        }
        assert!((out - compliance * (start - then)).abs() / out < 1e-3, "conserved");
        assert_eq!(drained_kpa(10.0, 240.0, 9.0, compliance), 0.0);
    }

    #[test]
    fn a_pump_that_gives_less_than_is_taken_lets_the_pressure_sag() {
        assert_eq!(settled_kpa(30_000.0, 100.0, 80.0), 30_000.0);
        assert_eq!(settled_kpa(30_000.0, 60.0, 120.0), 15_000.0);
    }
}
