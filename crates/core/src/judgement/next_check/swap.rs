//! Exchanges among the checks: where a swap is fair, and which two cylinders change parts.

use super::super::evidence::Gathered;
use super::Ask;
use super::ask::{Mass, halves};

/// The step that exchanges two injectors.
pub(super) const SWAP: &str = "swap";
/// Both of injector and cylinder have to be at least this likely for a swap: less is settled without one
/// (house rule).
const FAIR: f64 = 0.1;

impl Ask<'_> {
    /// A swap tells the injector from its cylinder: worth its seals where one of them is off, and which is
    /// open at fair odds.
    pub(super) fn fair(&self, masses: &[Mass], gathered: &Gathered<'_>) -> bool {
        let odd = gathered.counted.iter().any(|one| one.finding.code.departs());
        let (injector, place) = halves(masses);
        odd && injector.min(place) >= FAIR
    }

    /// The two cylinders of an exchange: the one that it is about, and its neighbour.
    /// Of `among`, where that names any.
    pub(super) fn swapped(&self, at: usize, among: &[u32]) -> Vec<u32> {
        let meant =
            |place: usize| among.is_empty() || among.contains(&self.places.cylinders[place]);
        let each = self.settles[at].iter().enumerate().filter(|(place, _)| meant(*place));
        let best = each.rev().max_by(|one, other| one.1.total_cmp(other.1));
        let best = best.map_or(0, |(place, _)| place);
        let other =
            if best + 1 < self.places.cylinders.len() { best + 1 } else { best.saturating_sub(1) };
        vec![self.places.cylinders[best], self.places.cylinders[other]]
    }
}
