//! The words of the checklist: each condition as ticked, and what a result is worth without it.

use super::StartId;
use std::fmt::Display;

/// Condition and reason.
pub(super) fn of(id: StartId) -> (&'static str, &'static str) {
    match id {
        StartId::Warm => {
            ("engine at operating temperature", "cold fuel is thicker and leaks off less")
        }
        StartId::AccessoriesOff => {
            ("accessories off", "a compressor or fan cutting in changes the idle")
        }
        StartId::Parked => (
            "park or neutral, brake on, wheels chocked",
            "a vehicle that is under load or can move spoils the test",
        ),
        StartId::LowPressureProven => {
            ("fuel supply pressure proven", "a starved pump makes good injectors look bad")
        }
        StartId::ChargerOn => {
            ("support charger on", "a falling battery shifts the readings in test order")
        }
        StartId::ExtractionOn => ("exhaust extraction on", "exhaust gas harms and distracts"),
        StartId::FuelAboveLow => {
            ("tank above low mark", "a pump that draws air gives false readings")
        }
        StartId::IgnitionOff => {
            ("ignition off, waiting time over", "stored charge reads as a fault and can injure")
        }
        StartId::RailBlanked => ("return rail blanked off", "an open return rail draws air"),
        StartId::HosesPurged => (
            "hoses purged, no bubbles, bottles emptied",
            "air in a hose is fuel missing in its bottle",
        ),
        StartId::Settled => {
            ("pressure settled before each pulse", "a moving gauge gives no start pressure")
        }
        StartId::PlugsOut => (
            "all spark or glow plugs out, throttle open",
            "the other cylinders slow the starter unevenly",
        ),
        StartId::LeadsZeroed => ("meter leads zeroed", "the leads add to the reading"),
    }
}
pub(super) fn unticked_start(words: impl Display) -> String {
    format!("Unticked at start: {words}.")
}

pub(super) fn unticked_start_2(because: impl Display) -> String {
    format!("Unticked at start: {because}.")
}
