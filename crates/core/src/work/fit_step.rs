//! The steps of fitting an injector, and what is found on the way.

use crate::engine::FuelSystem;
use crate::named::named;

named! {
    /// One step of fitting.
    FitStep {
        Bore = bore,
        Washer = washer,
        Seals = seals,
        CombustionSeal = combustion_seal,
        BoltNew = bolt_new,
        BoltHand = bolt_hand,
        Torque = torque,
        Line = line,
        ReturnClip = return_clip,
        Clip = clip,
        Plug = plug,
    }
}

named! {
    /// What was found while taking out or fitting.
    Trouble {
        Stuck = stuck,
        SealLeftBehind = seal_left_behind,
        Thread = thread,
        SeatBurnt = seat_burnt,
        LineDamaged = line_damaged,
        Other = other,
    }
}

impl Trouble {
    /// As tapped.
    pub fn word(self) -> &'static str {
        match self {
            Self::Stuck => "stuck in the bore",
            Self::SealLeftBehind => "seal left behind",
            Self::Thread => "thread damaged",
            Self::SeatBurnt => "seat burnt or pitted",
            Self::LineDamaged => "line or connector damaged",
            Self::Other => "something else",
        }
    }

    /// What has to be done before it goes back in.
    pub fn advice(self) -> &'static str {
        match self {
            Self::Stuck => {
                "Pull straight with the maker's puller; no prying at the body or the coil."
            }
            Self::SealLeftBehind => "Find it before the new one goes in: two seals leak.",
            Self::Thread => "Repair the thread before anything is tightened in it.",
            Self::SeatBurnt => {
                "Cut or clean the seat with the right tool, or it burns through again."
            }
            Self::LineDamaged => "A bent or nicked line is renewed, never bent back.",
            Self::Other => "Say what it is, and settle it before fitting.",
        }
    }
}

impl FitStep {
    /// The step, and why it is there.
    pub fn words(self) -> (&'static str, &'static str) {
        match self {
            Self::Bore => (
                "Bore and seat clean",
                "a grain or an old washer under it leaks and burns the seat",
            ),
            Self::Washer => ("New sealing washer", "a washer seals once; one, never two"),
            Self::Seals => {
                ("New O-rings, oiled", "a dry ring rolls and tears where nobody sees it")
            }
            Self::CombustionSeal => (
                "New combustion seal, sized, dry",
                "it is stretched on and has to shrink back before it goes in; no oil on it",
            ),
            Self::BoltNew => {
                ("New clamp bolt", "a bolt that is turned by an angle stretches and is used once")
            }
            Self::BoltHand => (
                "Bolt started by hand",
                "a thread that is felt is not crossed; anti-seize only where the maker allows it, never on the tip",
            ),
            Self::Torque => {
                ("Clamp tightened in stages", "too little blows by, too much bends the body")
            }
            Self::Line => (
                "Line straight, tightened to figure",
                "a line that is bent to fit breaks; hold against it with a second wrench",
            ),
            Self::ReturnClip => (
                "Return clip home, tugged",
                "a clip that only looks closed draws air or drips on a hot engine",
            ),
            Self::Clip => {
                ("Retaining clip home, tugged", "rail pressure lifts an injector that is not held")
            }
            Self::Plug => ("Plug latched", "half in works until the first bump"),
        }
    }

    /// The part that is due with it.
    pub fn part(self) -> Option<&'static str> {
        match self {
            Self::Washer => Some("sealing washer"),
            Self::Seals => Some("set of O-rings"),
            Self::CombustionSeal => Some("combustion seal"),
            Self::BoltNew => Some("clamp bolt"),
            Self::Bore
            | Self::BoltHand
            | Self::Torque
            | Self::Line
            | Self::ReturnClip
            | Self::Clip
            | Self::Plug => None,
        }
    }

    /// Whether it belongs to this fuel system. `stretched`: a stage of tightening is an angle.
    pub(crate) fn fits(self, fuel: FuelSystem, stretched: bool) -> bool {
        let port = fuel == FuelSystem::PetrolPort;
        match self {
            Self::Bore | Self::Seals | Self::Plug => true,
            Self::Washer => match fuel {
                FuelSystem::DieselSolenoid | FuelSystem::DieselPiezo | FuelSystem::ExhaustDoser => {
                    true
                }
                FuelSystem::PetrolPort | FuelSystem::PetrolDirect => false,
            },
            Self::CombustionSeal => fuel == FuelSystem::PetrolDirect,
            Self::BoltNew => stretched && !port,
            Self::BoltHand | Self::Torque | Self::Line => !port,
            Self::ReturnClip => fuel.has_return(),
            Self::Clip => port,
        }
    }
}
