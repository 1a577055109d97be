//! Of whom a test speaks, and what work ends what it read: each test says so in its own file.
//!
//! A swap and a new part need no word here: they follow from [`Of`], as they change who sits where.
//!
//! # Source
//! House rule: work ends the readings of the properties that it changes, and of no others.

use crate::named::named;

named! {
    /// Whom a reading belongs to.
    Of {
        // It stays with the injector, wherever that goes.
        Injector = injector,
        // It stays with the cylinder, whatever sits there.
        Cylinder = cylinder,
        // It holds for this injector in this cylinder.
        Both = both,
        // It is one reading of what all cylinders share.
        All = all,
    }
}

named! {
    /// Work after which something reads otherwise.
    Deed {
        // The injector was cleaned on a bench.
        Cleaning = cleaning,
        // Its lift was set, or parts of it were renewed.
        Setting = setting,
        // A fault that all cylinders share was put right.
        Repair = repair,
    }
}

/// Of whom a test speaks, and what work ends what it read.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Property {
    pub of: Of,
    pub ended_by: &'static [Deed],
}

impl Property {
    /// What an injector passes, on a running engine: work on it and a repair of what all share end it.
    pub(crate) const RUNNING: Self =
        Self { of: Of::Both, ended_by: &[Deed::Cleaning, Deed::Setting, Deed::Repair] };
    /// What an injector passes, with the engine off.
    pub(crate) const STANDING: Self =
        Self { of: Of::Both, ended_by: &[Deed::Cleaning, Deed::Setting] };
    /// What an injector passes on the bench.
    pub(crate) const PASSES: Self =
        Self { of: Of::Injector, ended_by: &[Deed::Cleaning, Deed::Setting] };
    /// What neither dirt nor a shim changes.
    pub(crate) const LASTS: Self = Self { of: Of::Injector, ended_by: &[] };
    /// What belongs to the cylinder: its feed and its drive.
    pub(crate) const PLACE: Self = Self { of: Of::Cylinder, ended_by: &[] };
    /// What may lie with the injector or with its place, and neither dirt nor a shim changes.
    pub(crate) const HERE: Self = Self { of: Of::Both, ended_by: &[] };
    /// One reading of what all cylinders share.
    pub(crate) const SHARED: Self = Self { of: Of::All, ended_by: &[] };
}
