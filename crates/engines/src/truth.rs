//! What is true of an injector: sound, marginal or faulty, and what puts it right.
//!
//! # Source
//! Handbook of the house: sound is what a new one may be; marginal is what the wider tolerance would still
//! call serviceable, and is neither condemned nor missed; faulty is the rest. Cleaning is the remedy where
//! it takes four fifths of the departure away.

use crate::fault::Remedy;
use crate::injector::{Injector, nominal};
use crate::reading::DROP_MG;

/// How it is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum State {
    /// As a new one may be.
    Sound,
    /// Serviceable by the wider tolerance.
    Marginal,
    /// Neither.
    Faulty,
}

/// Truth of one injector.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Truth {
    /// How it is.
    pub state: State,
    /// What puts it right; none when it is sound.
    pub remedy: Option<Remedy>,
}

/// A departure as a multiple of what a new one may have, and what it takes to put it right.
type Departure = (f64, Remedy);

/// The wider tolerance against that of a new one.
const WIDER: f64 = 2.0;
/// What a new seat may let out, mg/min: 2.5 mm³ of petrol.
const NEW_SEAT_MG: f64 = 2.0;
/// Share of the departure that cleaning has to take away.
const CLEANABLE: f64 = 0.8;

fn departures(one: &Injector) -> Vec<Departure> {
    let kind = nominal(one.fuel);
    let new = Injector::new(one.fuel);
    let flow = |of: &Injector| of.static_ml_min(kind.load_kpa, 800.0);
    let mut found = vec![
        ((flow(one) / flow(&new) - 1.0).abs() / 0.05, Remedy::Renew),
        ((one.late_ms + one.dirt.late_ms).abs() / (0.09 * kind.dead.usual_ms), Remedy::Renew),
        (leaking(one.drips_mg_min()), Remedy::Renew),
        (one.spray_bad() / 0.25, Remedy::Renew),
        ((one.guide_um - new.guide_um).max(0.0) / 1.0, Remedy::Renew),
        (one.valve_mm2 / 0.000_5, Remedy::Renew),
        ((one.lift - 1.0).abs() / 0.07, Remedy::Adjust),
        (one.code_mm3.abs() / 0.4, Remedy::Recode),
        (one.gas_mm2 / 0.5, Remedy::Place),
    ];
    if kind.coil_ohm > 0.0 {
        let off = (one.coil_ohm / kind.coil_ohm - 1.0).abs();
        found.push((if off.is_finite() { off / 0.06 } else { 99.0 }, Remedy::Renew));
    }
    if kind.stack_uf > 0.0 {
        found.push(((one.stack_uf / kind.stack_uf - 1.0).abs() / 0.12, Remedy::Renew));
    }
    found.push((if one.body_mohm < 1.0 { 5.0 } else { 0.0 }, Remedy::Renew));
    found
}

/// A new seat may let out some 2 mg a minute; up to a drop a minute is serviceable by the trade's line.
fn leaking(mg_min: f64) -> f64 {
    if mg_min <= NEW_SEAT_MG { mg_min / NEW_SEAT_MG } else { WIDER * (mg_min / DROP_MG).max(0.51) }
}

/// The largest departure of an injector, as a multiple of what a new one may have.
pub fn departure(one: &Injector) -> f64 {
    departures(one).into_iter().map(|(off, _)| off).fold(0.0, f64::max)
}

/// What is true of it.
pub fn truth(one: &Injector) -> Truth {
    let (off, remedy) = departures(one)
        .into_iter()
        .max_by(|a, b| a.0.total_cmp(&b.0))
        .unwrap_or((0.0, Remedy::Renew));
    let state = if off <= 1.0 {
        State::Sound
    } else if off <= WIDER {
        State::Marginal
    } else {
        State::Faulty
    };
    if state == State::Sound {
        return Truth { state, remedy: None };
    }
    let after = departure(&one.cleaned(1.0));
    let cleans = (off - after) / off >= CLEANABLE || after <= 1.0;
    Truth { state, remedy: Some(if cleans { Remedy::Clean } else { remedy }) }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::injector::Dirt;
    use cobaltine_core::engine::FuelSystem;

    #[test]
    fn dirt_is_cleaned_wear_is_renewed_and_a_little_of_either_is_marginal() {
        let new = Injector::new(FuelSystem::PetrolPort);
        assert_eq!(truth(&new), Truth { state: State::Sound, remedy: None });
        let dirty = |holes| Injector { dirt: Dirt { holes, ..Dirt::default() }, ..new };
        assert_eq!(truth(&dirty(0.07)).state, State::Marginal);
        let gross = truth(&dirty(0.25));
        assert_eq!((gross.state, gross.remedy), (State::Faulty, Some(Remedy::Clean)));
        let worn = truth(&Injector { holes: 1.2, ..new });
        assert_eq!((worn.state, worn.remedy), (State::Faulty, Some(Remedy::Renew)));
        // Worn and dirty at once: cleaning would not bring it back.
        let both = Injector { holes: 1.3, dirt: Dirt { holes: 0.1, ..Dirt::default() }, ..new };
        assert_eq!(truth(&both).remedy, Some(Remedy::Renew));
        let coded = Injector { code_mm3: 1.8, ..Injector::new(FuelSystem::DieselSolenoid) };
        assert_eq!(truth(&coded).remedy, Some(Remedy::Recode));
    }
}
