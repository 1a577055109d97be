//! What of all findings counts at one place: of each group the best, and whose it is.
//!
//! A reading of an injector that still sits where it was read speaks of both, injector and
//! cylinder. One whose injector moved on, was replaced or was worked on since speaks of what
//! remains: the other half is taken as it is before anything is known.

use super::finding::Finding;
use super::weights::{CheckRow, Weights};
use crate::said::{Code, Lack};
use uuid::Uuid;

/// One place: a cylinder and the injector in it.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) struct Place {
    pub cylinder: u32,
    pub injector: Uuid,
    /// It was fitted new in this job.
    pub new: bool,
}

/// Of what a reading speaks at this place.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum View {
    Whole,
    Injector,
    Cylinder,
}

/// A finding as it counts at one place.
#[derive(Debug, Clone, Copy)]
pub(super) struct Reading<'a> {
    pub finding: &'a Finding,
    /// Place in the checks of the weights.
    pub check: usize,
    /// Which outcome.
    pub outcome: usize,
    pub view: View,
    /// 0 to 1: the check at its best times what this reading lacks.
    pub quality: f64,
}

/// What counts at a place, what counts once with it, and what cannot be told.
#[derive(Debug, Default)]
pub(super) struct Gathered<'a> {
    pub counted: Vec<Reading<'a>>,
    pub besides: Vec<Reading<'a>>,
    /// Readings that cannot carry a decision, oldest first.
    pub open: Vec<&'a Finding>,
}

impl Gathered<'_> {
    /// What the checks said at a place, oldest first, each once.
    pub(super) fn sentences(&self, weights: &Weights) -> Vec<String> {
        let told = self.counted.iter().chain(&self.besides).map(|one| one.finding);
        let mut all: Vec<&Finding> = told.chain(self.open.iter().copied()).collect();
        all.sort_by_key(|finding| finding.at);
        let mut sentences: Vec<String> = Vec::new();
        for finding in all.into_iter().filter(|finding| !finding.says.is_empty()) {
            let of = weights.checks().iter().find(|check| check.id == finding.check);
            let of = of.map_or(String::new(), |check| format!("{}: ", check.title));
            let sentence = format!("{of}{}", finding.says);
            if !sentences.contains(&sentence) {
                sentences.push(sentence);
            }
        }
        sentences
    }
}

/// Whether a finding is about a place, and in which view.
fn view(finding: &Finding, place: Place) -> Option<View> {
    match (finding.is_of(place.injector), finding.is_at(place.cylinder)) {
        (true, true) => Some(View::Whole),
        (true, false) => Some(View::Injector),
        (false, true) => Some(View::Cylinder),
        (false, false) => None,
    }
}

/// What counts at a place.
pub(super) fn at_place<'a>(
    weights: &Weights,
    findings: &'a [Finding],
    place: Place,
) -> Gathered<'a> {
    let mut gathered = Gathered::default();
    let mut readings = Vec::new();
    for finding in findings {
        let Some(view) = view(finding, place) else { continue };
        match weights.at(finding.code) {
            // Asked about, and not judged until it is answered.
            _ if finding.lacks.contains(&Lack::LikeSlip) => gathered.open.push(finding),
            Some((check, outcome)) => {
                let quality = weights.check(check).0.quality * finding.quality;
                readings.push(Reading { finding, check, outcome, view, quality });
            }
            None if finding.code.is_open() => gathered.open.push(finding),
            None => {}
        }
    }
    best_of_groups(weights, readings, &mut gathered);
    gathered
}

/// What counts of what all share.
pub(super) fn shared<'a>(weights: &Weights, findings: &'a [Finding]) -> Gathered<'a> {
    let mut gathered = Gathered::default();
    let of_all = |one: &&Finding| {
        one.cylinder.is_none() && one.injector.is_none() && one.of_injector && one.of_cylinder
    };
    let readings = findings.iter().filter(of_all).filter_map(|finding| {
        let (check, outcome) = weights.at(finding.code)?;
        let quality = weights.check(check).0.quality * finding.quality;
        Some(Reading { finding, check, outcome, view: View::Whole, quality })
    });
    best_of_groups(weights, readings.collect(), &mut gathered);
    gathered
}

/// Of each group the newest of the highest quality, for the injector and for the cylinder.
fn best_of_groups<'a>(weights: &Weights, readings: Vec<Reading<'a>>, into: &mut Gathered<'a>) {
    let group = |one: &Reading<'_>| weights.check(one.check).0.group_of(one.finding.code);
    let made_for = |one: &Reading<'_>| weights.check(one.check).0.group == group(one);
    let better = |one: &Reading<'_>, other: &Reading<'_>| {
        one.quality
            .total_cmp(&other.quality)
            // A check that answers a question beside its own never outranks the one that was made for it.
            .then(made_for(one).cmp(&made_for(other)))
            .then(one.finding.at.cmp(&other.finding.at))
            // Two that are equal in both are told apart by their place in the weights.
            .then(other.check.cmp(&one.check))
            .then(other.outcome.cmp(&one.outcome))
    };
    for one in &readings {
        let rivals = readings.iter().filter(|other| group(other) == group(one));
        let wins = |part: View| {
            one.view != other_part(part)
                && rivals
                    .clone()
                    .filter(|other| other.view != other_part(part))
                    .all(|other| better(one, other).is_ge())
        };
        let view = match (wins(View::Injector), wins(View::Cylinder)) {
            (true, true) => Some(View::Whole),
            (true, false) => Some(View::Injector),
            (false, true) => Some(View::Cylinder),
            (false, false) => None,
        };
        let twin = |held: &Reading<'_>| {
            held.check == one.check && held.outcome == one.outcome && held.quality == one.quality
        };
        match view {
            Some(_) if into.counted.iter().any(|held| twin(held) && held.view == one.view) => {
                into.besides.push(*one);
            }
            Some(view) => into.counted.push(Reading { view, ..*one }),
            None => into.besides.push(*one),
        }
    }
}

fn other_part(part: View) -> View {
    match part {
        View::Injector => View::Cylinder,
        View::Cylinder => View::Injector,
        View::Whole => View::Whole,
    }
}

impl<'a> Gathered<'a> {
    /// The newest counted finding with one of these codes.
    pub(super) fn has(&self, codes: &[Code]) -> Option<&'a Finding> {
        let hits = self.counted.iter().filter(|one| codes.contains(&one.finding.code));
        hits.map(|one| one.finding).max_by_key(|finding| finding.at)
    }

    /// Counted readings of checks with this property.
    pub(super) fn of<'b>(
        &'b self,
        weights: &'b Weights,
        wanted: impl Fn(&CheckRow) -> bool + 'b,
    ) -> impl Iterator<Item = &'b Reading<'a>> {
        self.counted.iter().filter(move |one| wanted(weights.check(one.check).0))
    }
}
