//! What was done to an injector at a bench, round by round: work that ends readings from before it.

use super::{BenchTest, RoundStage, SessionRecord, Spot};
use crate::moment::Signed;
use crate::tests::property::Deed;

impl SessionRecord {
    /// What was done to the injector with this tag, oldest first, each signed by whoever began the round
    /// after it. One that was skipped in a cleaning, as that stands by now, was not cleaned; one whose lift
    /// and parts were not touched in a round of adjusting was not set.
    pub(crate) fn deeds(&self, tag: u32) -> Vec<(Deed, Signed)> {
        let spot = Spot { cell: super::cleaning::SKIPPED, row: None, tag: Some(tag) };
        let deed = |round: &super::Round| match round.stage {
            RoundStage::Received | RoundStage::Final => None,
            RoundStage::Cleaned => {
                let skipped = self.standing(round.id, BenchTest::Cleaning, spot);
                (skipped.and_then(|cell| cell.value) != Some(1.0)).then_some(Deed::Cleaning)
            }
            RoundStage::Adjusted => {
                let set = self.cells.iter().filter(|cell| {
                    let works = matches!(cell.test, BenchTest::Lift | BenchTest::Parts);
                    works && cell.round == round.id && cell.tag == Some(tag)
                });
                let mut stands = set.filter(|cell| {
                    let spot = Spot { cell: &cell.cell, row: cell.row, tag: cell.tag };
                    self.standing(round.id, cell.test, spot).is_some_and(|c| c.value.is_some())
                });
                stands.next().is_some().then_some(Deed::Setting)
            }
        };
        self.rounds.iter().filter_map(|round| Some((deed(round)?, round.signed))).collect()
    }
}
