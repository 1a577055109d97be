//! An injector that was on a bench, with the newest value of each feature.

use super::{ShelfFeature, ShelfValue};
use crate::calc::CalcError;
use crate::judged::Judged;
use crate::quantity::shown;
use crate::record::{Injector, JobFile, Moment};
use crate::shelf::words;
use crate::standing::{Source, Stood, Test};
use crate::tests::bench::{BenchKind, BenchTest, Round, SessionRecord};
use crate::tests::engine::EngineTest;
use crate::work::Decision;
use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

/// An injector as it stands on the shelf.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Tested {
    /// The injector.
    pub injector: Uuid,
    /// Serial number or the workshop's own label; may be empty.
    pub label: String,
    /// Its job.
    pub job: Uuid,
    /// Number of the job, for people.
    pub job_number: u64,
    /// Whom it belongs to, as booked in; may be empty.
    #[serde(default)]
    pub owner: String,
    /// The cylinder that it came in.
    pub cylinder: u32,
    /// Its family, when it is known.
    pub family: Option<String>,
    /// The bench that it was on.
    pub kind: BenchKind,
    /// The session that speaks.
    pub session: Uuid,
    /// Its newest round.
    pub round: String,
    /// When it was last read.
    #[schema(value_type = String, format = DateTime)]
    pub read_at: Timestamp,
    /// The newest of each feature.
    pub values: Vec<ShelfValue>,
    /// Why it is not to go into a set as it is.
    pub held_back: Option<String>,
}

impl Tested {
    /// Its value of a feature.
    pub fn value(&self, feature: ShelfFeature) -> Option<&ShelfValue> {
        self.values.iter().find(|value| value.feature == feature)
    }
}

impl JobFile {
    /// The injectors of this job that were on a bench, in the order of their cylinders.
    ///
    /// # Errors
    /// What a computation refuses.
    pub fn tested(&self, judged: &Judged) -> Result<Vec<Tested>, CalcError> {
        let mut found = Vec::new();
        for injector in &self.job.injectors {
            found.extend(self.tested_one(judged, injector)?);
        }
        Ok(found)
    }

    fn tested_one(
        &self,
        judged: &Judged,
        injector: &Injector,
    ) -> Result<Option<Tested>, CalcError> {
        let hung = self.bench.iter().filter_map(|session| {
            let tag = session.injectors.iter().find(|one| one.injector == injector.id)?.tag;
            let read = session.cells.iter().map(|cell| cell.signed.moment()).max()?;
            Some((read, session, tag))
        });
        let mut hung: Vec<(Moment, &SessionRecord, u32)> = hung.collect();
        hung.sort_by_key(|(read, ..)| *read);
        let Some((read_at, session, _)) = hung.last().copied() else { return Ok(None) };
        let mut values: Vec<ShelfValue> = self.coil(judged, injector.id).into_iter().collect();
        for (_, session, tag) in &hung {
            for (at, value) in session.values(*tag)? {
                let worked = self.worked_at(injector.id, value.feature.test().property());
                if worked.is_none_or(|worked| at >= worked) {
                    values.retain(|held| held.feature != value.feature);
                    values.push(value);
                }
            }
        }
        values.sort_by_key(|value| value.feature);
        Ok(Some(Tested {
            injector: injector.id,
            label: injector.label.clone(),
            job: self.job.id,
            job_number: self.job.number,
            owner: self.job.intake.customer.trim().to_owned(),
            cylinder: injector.cylinder,
            family: self.family.clone(),
            kind: session.setup.kind,
            session: session.id,
            round: session.rounds.last().map(Round::word).unwrap_or_default(),
            read_at: read_at.at,
            held_back: self.held_back(judged, injector),
            values,
        }))
    }

    /// The coil at 20 °C, as the reading that counts has it.
    fn coil(&self, judged: &Judged, injector: Uuid) -> Option<ShelfValue> {
        let coil = |one: &&Stood| {
            one.test == Test::Engine(EngineTest::CoilResistance) && one.counts_for(injector)
        };
        let newest = judged.stood.iter().rev().find(coil)?;
        let lane = judged.with_verdicts(|verdicts| verdicts.lane(newest).cloned())?;
        let (value, u) = (lane.value?, lane.u?);
        Some(ShelfValue {
            feature: ShelfFeature::Resistance,
            value,
            u,
            shown: shown(value, u),
            pulse_ms: None,
            condition: "at 20 °C".to_owned(),
        })
    }

    /// What speaks against using it: what a test found that is not about being alike, as long as it was not
    /// looked at again since, whatever was done meanwhile; or a decision that it is not to go back.
    fn held_back(&self, judged: &Judged, injector: &Injector) -> Option<String> {
        let of = || judged.stood.iter().filter(|one| one.injector == Some(injector.id));
        let against = of().find_map(|one| {
            let Test::Bench(test) = one.test else { return None };
            let Source::Bench(session, at) = one.source else { return None };
            let newer = of().any(|other| other.test == one.test && other.at() > one.at());
            let speaks = condemns(test) && !newer && one.is_bad();
            let round = judged.benches.get(session)?.verdicts.get(at).filter(|_| speaks)?.round;
            let round = self.bench[session].rounds.iter().find(|one| one.id == round)?.word();
            let lane = judged.with_verdicts(|verdicts| verdicts.lane(one).cloned())?;
            Some(format!("{}, {round}: {}.", test.title(), lane.word))
        });
        // What was decided of it while it sat there holds also when another one took its place.
        let decided = self.decisions.iter().rfind(|one| {
            self.injector_at(Some(one.cylinder), one.signed.moment()) == Some(injector.id)
        });
        let replaced = decided.is_some_and(|one| one.decision == Decision::Replace);
        against.or_else(|| replaced.then(|| words::DECIDED_REPLACE.to_owned()))
    }
}

/// Whether what this test finds speaks against the injector itself, and not only against its
/// company in that session.
fn condemns(test: BenchTest) -> bool {
    match test {
        BenchTest::Visual
        | BenchTest::Leak
        | BenchTest::Spray
        | BenchTest::Map
        | BenchTest::Lift
        | BenchTest::Doser => true,
        BenchTest::Drive
        | BenchTest::Flow
        | BenchTest::Sweep
        | BenchTest::SupplyOffset
        | BenchTest::Cleaning
        | BenchTest::Parts
        | BenchTest::TrimCode => false,
    }
}
