//! The control unit: stores a code for each cylinder, takes its time, and fails as real ones do.
//!
//! It has no clock: whoever speaks for it says what time it is, so that a test needs none. A code is
//! erased before the new one is written; what is interrupted in between leaves an empty slot.

use cobaltine_core::unit_link::{Answer, Ask, Refusal};
use std::collections::HashMap;
use std::time::Duration;

/// Below this it does not write, V.
const LEAST_VOLTS: f64 = 11.8;
/// Vehicles that are held at most; the program makes no more by itself.
const MOST_VEHICLES: usize = 4096;

/// Kinds of run that a learning drive has to fill, and how often each.
const DRIVE: [(&str, u32); 3] = [("idle", 3), ("cruise", 4), ("coast", 6)];

/// What goes wrong next. Each happens once.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
pub enum Fault {
    /// Nothing.
    #[default]
    None,
    /// So many questions are answered with `no busy`.
    Busy(u32),
    /// The next write is refused.
    Refuse,
    /// The talk ends at this percent of a write; the slot is left empty.
    Drop(u32),
    /// The next write goes into the slot after the one that was meant.
    WrongSlot,
    /// The supply sags at this percent of a write, and the unit gives it up.
    Sag(u32),
    /// The next clearing is taken on and not done.
    KeepLearned,
}

#[derive(Debug, Clone)]
struct Writing {
    slot: usize,
    code: String,
    begun: Duration,
}

#[derive(Debug)]
struct Vehicle {
    slots: Vec<Option<String>>,
    ignition: bool,
    engine: bool,
    volts: f64,
    writing: Option<Writing>,
    fault: Fault,
    /// Runs of the learning drive, in the order of [`DRIVE`].
    driven: [u32; 3],
    /// What it learned before it was cleared is gone.
    wiped: bool,
}

/// What the unit does about a line.
#[derive(Debug, Clone, PartialEq)]
pub enum Reply {
    /// It answers.
    Says(Answer),
    /// It ends the talk without a word.
    HangsUp,
}

/// One talk: the vehicle that was opened in it.
#[derive(Debug, Clone, Default)]
pub struct Talk(Option<String>);

/// All vehicles that the stand-in stands for.
#[derive(Debug)]
pub struct Unit {
    vehicles: HashMap<String, Vehicle>,
    /// How long one code takes.
    takes: Duration,
    /// Codes that a vehicle of this name is delivered with.
    delivered: HashMap<String, Vec<Option<String>>>,
    /// Runs that a vehicle of this name has driven since it was cleared.
    driven: HashMap<String, [u32; 3]>,
}

impl Unit {
    /// A unit that takes this long for a code.
    pub fn new(takes: Duration) -> Self {
        Self { vehicles: HashMap::new(), takes, delivered: HashMap::new(), driven: HashMap::new() }
    }

    /// What a vehicle has stored when it is first opened.
    pub fn deliver(&mut self, vehicle: &str, codes: Vec<Option<String>>) {
        self.delivered.insert(vehicle.to_owned(), codes);
    }

    /// A vehicle comes cleared, and with so many runs of each kind driven since.
    pub fn deliver_driven(&mut self, vehicle: &str, driven: [u32; 3]) {
        self.driven.insert(vehicle.to_owned(), driven);
    }

    /// Answers a line at this time.
    pub fn said(&mut self, talk: &mut Talk, line: &str, now: Duration) -> Reply {
        let no = |why| Reply::Says(Answer::No(why));
        let Ok(ask) = line.parse::<Ask>() else { return no(Refusal::Unknown) };
        if let Ask::Open { vehicle, slots } = &ask {
            if !self.vehicles.contains_key(vehicle) && self.vehicles.len() >= MOST_VEHICLES {
                return no(Refusal::Refused);
            }
            let mut codes = self.delivered.get(vehicle).cloned().unwrap_or_default();
            codes.resize(*slots as usize, None);
            let driven = self.driven.get(vehicle).copied();
            self.vehicles.entry(vehicle.clone()).or_insert(Vehicle {
                slots: codes,
                ignition: true,
                engine: false,
                volts: 12.8,
                writing: None,
                fault: Fault::None,
                driven: driven.unwrap_or(DRIVE.map(|(_, full)| full)),
                wiped: driven.is_some(),
            });
            talk.0 = Some(vehicle.clone());
            return Reply::Says(Answer::Ok);
        }
        let opened = talk.0.as_ref().and_then(|name| self.vehicles.get_mut(name));
        let Some(vehicle) = opened else { return no(Refusal::NotOpen) };
        vehicle.answer(&ask, now, self.takes)
    }
}

impl Vehicle {
    fn answer(&mut self, ask: &Ask, now: Duration, takes: Duration) -> Reply {
        let no = |why| Reply::Says(Answer::No(why));
        if let Ask::Knob { what, to } = ask {
            return if self.turn(what, to) {
                Reply::Says(Answer::Ok)
            } else {
                no(Refusal::Unknown)
            };
        }
        if let Fault::Busy(times) = self.fault {
            self.fault = if times > 1 { Fault::Busy(times - 1) } else { Fault::None };
            return no(Refusal::Busy);
        }
        match ask {
            Ask::State => Reply::Says(Answer::State {
                ignition: self.ignition,
                engine: self.engine,
                volts: self.volts,
            }),
            Ask::Codes if self.writing.is_some() => self.progress(now, takes),
            Ask::Codes => {
                let slots = (1..).zip(self.slots.iter().cloned());
                Reply::Says(Answer::Codes(slots.collect()))
            }
            Ask::Write { slot, code } => self.write(*slot, code, now),
            Ask::Progress => self.progress(now, takes),
            Ask::Learned => Reply::Says(Answer::Learned((1..).zip(self.learned()).collect())),
            Ask::Counters => {
                let one = |((band, full), done): ((&str, u32), u32)| (band.to_owned(), done, full);
                Reply::Says(Answer::Counters(DRIVE.into_iter().zip(self.driven).map(one).collect()))
            }
            Ask::Clear => self.clear(),
            Ask::Open { .. } | Ask::Knob { .. } => no(Refusal::Unknown),
        }
    }

    fn write(&mut self, slot: u32, code: &str, now: Duration) -> Reply {
        let no = |why| Reply::Says(Answer::No(why));
        let at = (slot as usize).wrapping_sub(1);
        let fine = code.chars().all(|c| c.is_ascii_alphanumeric());
        match () {
            () if self.writing.is_some() => no(Refusal::Busy),
            () if !self.ignition => no(Refusal::Ignition),
            () if self.engine => no(Refusal::Engine),
            () if self.volts < LEAST_VOLTS => no(Refusal::Voltage),
            () if at >= self.slots.len() => no(Refusal::Slot),
            () if !fine => no(Refusal::Code),
            () if self.fault == Fault::Refuse => {
                self.fault = Fault::None;
                no(Refusal::Refused)
            }
            () => {
                let slot = if self.fault == Fault::WrongSlot {
                    self.fault = Fault::None;
                    (at + 1) % self.slots.len()
                } else {
                    at
                };
                self.slots[slot] = None;
                self.writing = Some(Writing { slot, code: code.to_owned(), begun: now });
                Reply::Says(Answer::Ok)
            }
        }
    }

    /// What it has learned, percent: much before it was cleared, little after a whole drive.
    fn learned(&self) -> Vec<f64> {
        let full = self.driven == DRIVE.map(|(_, full)| full);
        let of = |slot: usize| match (self.wiped, full) {
            (false, _) => [1.2, 6.5, -0.8, 0.4][slot % 4],
            (true, true) => [0.3, -0.5, 0.1, 0.4][slot % 4],
            (true, false) => 0.0,
        };
        (0..self.slots.len()).map(of).collect()
    }

    fn clear(&mut self) -> Reply {
        let no = |why| Reply::Says(Answer::No(why));
        match () {
            () if !self.ignition => no(Refusal::Ignition),
            () if self.engine => no(Refusal::Engine),
            () if self.writing.is_some() => no(Refusal::Busy),
            () => {
                if self.fault == Fault::KeepLearned {
                    self.fault = Fault::None;
                } else {
                    (self.wiped, self.driven) = (true, [0; 3]);
                }
                Reply::Says(Answer::Ok)
            }
        }
    }

    /// Drives one run; nothing is counted with the engine off or where a code is missing.
    fn drive(&mut self, band: &str) -> bool {
        let Some(at) = DRIVE.iter().position(|(name, _)| *name == band) else { return false };
        if self.engine && self.slots.iter().all(Option::is_some) {
            self.driven[at] = (self.driven[at] + 1).min(DRIVE[at].1);
        }
        true
    }

    fn progress(&mut self, now: Duration, takes: Duration) -> Reply {
        let Some(writing) = self.writing.clone() else {
            return Reply::Says(Answer::Progress(100));
        };
        let share = now.saturating_sub(writing.begun).as_secs_f64() / takes.as_secs_f64().max(1e-9);
        let percent = (share.min(1.0) * 100.0) as u32;
        match self.fault {
            Fault::Drop(at) if percent >= at => {
                (self.fault, self.writing) = (Fault::None, None);
                return Reply::HangsUp;
            }
            Fault::Sag(at) if percent >= at => {
                (self.fault, self.writing, self.volts) = (Fault::None, None, LEAST_VOLTS - 1.0);
                return Reply::Says(Answer::No(Refusal::Interrupted));
            }
            Fault::None
            | Fault::Busy(_)
            | Fault::Refuse
            | Fault::WrongSlot
            | Fault::KeepLearned
            | Fault::Drop(_)
            | Fault::Sag(_) => {}
        }
        if percent >= 100 {
            self.slots[writing.slot] = Some(writing.code);
            self.writing = None;
        }
        Reply::Says(Answer::Progress(percent))
    }

    /// Turns a knob of the stand-in.
    fn turn(&mut self, what: &str, to: &str) -> bool {
        let switch = match to {
            "on" => Some(true),
            "off" => Some(false),
            _ => None,
        };
        let (kind, number) = to.split_once(':').unwrap_or((to, ""));
        let number = number.parse::<u32>().ok().filter(|n| *n <= 100);
        match (what, switch) {
            ("ignition", Some(on)) => self.ignition = on,
            ("engine", Some(on)) => self.engine = on,
            ("volts", None) => match to.parse().ok().filter(|v: &f64| (0.0..100.0).contains(v)) {
                Some(volts) => self.volts = volts,
                None => return false,
            },
            ("drive", None) => return self.drive(to),
            // A vehicle comes with codes stored, slot by slot.
            ("store", None) => {
                let Some((slot, code)) = to.split_once(':') else { return false };
                let at = slot.parse::<usize>().ok().and_then(|slot| slot.checked_sub(1));
                let held = at.and_then(|at| self.slots.get_mut(at));
                let Some(held) = held.filter(|_| !code.is_empty()) else { return false };
                *held = Some(code.to_owned());
            }
            ("fault", None) => {
                self.fault = match (kind, number) {
                    ("none", None) => Fault::None,
                    ("refuse", None) => Fault::Refuse,
                    ("keep-learned", None) => Fault::KeepLearned,
                    ("wrong-slot", None) => Fault::WrongSlot,
                    ("busy", Some(times)) => Fault::Busy(times),
                    ("drop", Some(percent)) => Fault::Drop(percent),
                    ("sag", Some(percent)) => Fault::Sag(percent),
                    _ => return false,
                }
            }
            _ => return false,
        }
        true
    }
}

#[cfg(test)]
mod tests;
