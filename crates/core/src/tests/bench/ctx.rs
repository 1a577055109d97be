//! What a test sees of its session: every reading at hand by where it stands.

use super::plan::Point;
use super::record::{BenchCell, FamilyThen, SessionRecord, Shim, Tagged};
use super::{BenchTest, Rows};
use crate::library::{LimitCheck, LimitEntry};
use crate::rules::Rules;
use std::collections::{BTreeSet, HashMap};

type Key<'a> = (usize, BenchTest, &'a str, Option<u32>, Option<u32>);

/// The newest reading of each cell.
pub(super) struct Cells<'a> {
    held: HashMap<Key<'a>, &'a BenchCell>,
    read: BTreeSet<(usize, &'static str)>,
}

impl<'a> Cells<'a> {
    pub fn of(session: &'a SessionRecord) -> Self {
        let at: HashMap<_, _> = session.rounds.iter().enumerate().map(|(i, r)| (r.id, i)).collect();
        let mut held = HashMap::with_capacity(session.cells.len());
        for cell in &session.cells {
            let Some(round) = at.get(&cell.round) else { continue };
            held.insert((*round, cell.test, cell.cell.as_str(), cell.row, cell.tag), cell);
        }
        held.retain(|_, cell| cell.value.is_some());
        let read = held.keys().map(|key| (key.0, key.1.name())).collect();
        Self { held, read }
    }

    /// Something was read by this test in this round.
    pub fn any(&self, round: usize, test: BenchTest) -> bool {
        self.read.contains(&(round, test.name()))
    }
}

/// One round of a session as its tests see it.
#[derive(Clone, Copy)]
pub(super) struct Ctx<'a> {
    pub session: &'a SessionRecord,
    /// Place of the round in the session.
    pub round: usize,
    pub rules: &'a Rules,
    /// Shims on hand.
    pub stock: &'a [Shim],
    cells: &'a Cells<'a>,
}

impl<'a> Ctx<'a> {
    pub fn new(
        session: &'a SessionRecord,
        round: usize,
        cells: &'a Cells<'a>,
        rules: &'a Rules,
        stock: &'a [Shim],
    ) -> Self {
        Self { session, round, rules, stock, cells }
    }

    /// The same session at another round.
    pub fn at(self, round: usize) -> Self {
        Self { round, ..self }
    }

    pub fn cell(
        &self,
        test: BenchTest,
        row: Option<u32>,
        tag: Option<u32>,
        name: &str,
    ) -> Option<&'a BenchCell> {
        self.cells.held.get(&(self.round, test, name, row, tag)).copied()
    }

    /// A cell of the round.
    pub fn set(&self, test: BenchTest, name: &str) -> Option<f64> {
        self.cell(test, None, None, name)?.value
    }

    /// A cell of the round, or the one that an earlier round was told last.
    pub fn carried(&self, test: BenchTest, name: &str) -> Option<f64> {
        (0..=self.round).rev().find_map(|round| self.at(round).set(test, name))
    }

    /// A cell of a row.
    pub fn row(&self, test: BenchTest, row: u32, name: &str) -> Option<f64> {
        self.cell(test, Some(row), None, name)?.value
    }

    /// A cell of an injector in a row.
    pub fn of(&self, test: BenchTest, row: Option<u32>, tag: u32, name: &str) -> Option<f64> {
        self.cell(test, row, Some(tag), name)?.value
    }

    /// The tags whose cell was read, in their order.
    pub fn read(&self, test: BenchTest, row: Option<u32>, name: &str) -> Vec<(u32, f64)> {
        self.tags().filter_map(|tag| Some((tag, self.of(test, row, tag, name)?))).collect()
    }

    pub fn tags(&self) -> impl Iterator<Item = u32> + 'a {
        self.session.injectors.iter().map(|one| one.tag)
    }

    pub fn tagged(&self, tag: u32) -> Option<&'a Tagged> {
        self.session.injectors.iter().find(|one| one.tag == tag)
    }

    /// Something was read by this test in this round.
    pub fn any(&self, test: BenchTest) -> bool {
        self.cells.any(self.round, test)
    }

    /// The rows of a test that can be read, from 1.
    pub fn rows(&self, test: BenchTest) -> std::ops::RangeInclusive<u32> {
        let most = match test.spec().rows {
            Rows::None => 0,
            Rows::Points => self.session.setup.points.len() as u32,
            Rows::UpTo(most) => most,
        };
        1..=most
    }

    pub fn point(&self, row: u32) -> Option<&'a Point> {
        self.session.setup.points.get((row as usize).checked_sub(1)?)
    }

    /// The family of an injector as the library had it.
    pub fn family(&self, tag: u32) -> Option<&'a FamilyThen> {
        let name = self.tagged(tag)?.family.as_deref()?;
        self.session.setup.families.iter().find(|family| family.name == name)
    }

    /// The limit of an injector's family for a check under a condition, any case.
    pub fn limit(&self, tag: u32, check: LimitCheck, condition: &str) -> Option<&'a LimitEntry> {
        let wanted = condition.trim().to_lowercase();
        self.family(tag)?
            .limits
            .iter()
            .filter(|limit| limit.check == check)
            .find(|limit| limit.condition.trim().to_lowercase() == wanted)
    }

    /// Injectors that may be compared with each other: of one family, or of none.
    pub fn groups(&self) -> Vec<(Option<&'a str>, Vec<u32>)> {
        let mut groups: Vec<(Option<&'a str>, Vec<u32>)> = Vec::new();
        for one in &self.session.injectors {
            let family = one.family.as_deref();
            match groups.iter_mut().find(|(held, _)| *held == family) {
                Some((_, tags)) => tags.push(one.tag),
                None => groups.push((family, vec![one.tag])),
            }
        }
        groups
    }
}
