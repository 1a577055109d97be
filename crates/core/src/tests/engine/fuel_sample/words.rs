//! The sentences of `fuel_sample`, and nothing else.

pub(super) const CLEAR_JAR_FILTER_DRAIN: &str = "A clear jar from the filter or drain, left to stand during the next check: look, smell, water.";
pub(super) const CLEAN_CLEAR_JAR_WATER: &str = "Clean clear jar, water paste, rags";
pub(super) const REFUELLED_SOMEWHERE_UNUSUAL_FIRST: &str =
    "Refuelled somewhere unusual: the first suspect, and it affects all cylinders.";
pub(super) const FUEL_KNOWN_GOOD: &str = "Fuel known to be good.";
pub(super) const BAD_FUEL_HITS_ALL: &str = "Bad fuel hits all cylinders; a sample rules it out.";
pub(super) const ONLY_ONE_CYLINDER_AFFECTED: &str =
    "Only one cylinder affected, and the fuel is known.";
pub(super) const HAZY_FUEL_WATER_WAX: &str = "Hazy fuel: water or wax.";
pub(super) const DARK_FUEL_OLD_MIXED: &str = "Dark fuel: old, or mixed.";
pub(super) const FUEL_DIRTY_SEPARATED: &str = "The fuel is dirty or has separated.";
pub(super) const SMELLS_ANOTHER_FUEL_NOT: &str =
    "Smells of another fuel: do not run the engine on it.";
pub(super) const SMELLS_SOUR_VARNISH_OLD: &str = "Smells sour or of varnish: old fuel.";
pub(super) const DROPS_WATER_FUEL: &str = "Drops of water in the fuel.";
pub(super) const LAYER_WATER_FUEL: &str = "A layer of water in the fuel.";
pub(super) const TAKE_SAMPLE_FIRST_TAKES: &str =
    "Take a sample first: it takes five minutes and covers all cylinders.";
pub(super) const SAMPLE_LOOKS_SMELLS_NORMAL: &str = "The sample looks and smells normal.";
pub(super) const ALL_CYLINDERS_AFFECTED_ALL: &str = "All cylinders affected, all on this fuel: change fuel and filter, flush, and retest before judging any injector.";
pub(super) const BAD_FUEL_HITS_ALL_CYLINDERS: &str =
    "Bad fuel hits all cylinders, not one: change it, and still check the affected cylinder.";
pub(super) const ALL_CYLINDERS_AFFECTED_CHECK: &str =
    "All cylinders affected: check what they share before removing any injector.";
pub(super) const ENTER_CYLINDERS_AFFECTED_DECIDES: &str =
    "Enter which cylinders are affected: it decides what this sample means.";
pub(super) const CLEAR_SAMPLE_DOES_NOT: &str = "A clear sample does not prove the right grade.";
