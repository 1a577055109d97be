//! What goes over the wire of the shelf, of matching and of places.

use super::typed::Reader;
use cobaltine_core::fuelling::{Fuelling, FuellingAsk};
use cobaltine_core::matching::FeatureKind;
use cobaltine_core::places::{Placement, Spare, WIDEST_WANT, Want};
use cobaltine_core::record::FieldProblem;
use cobaltine_core::shelf::{FeatureAsk, FeatureForm, MadeSets, MatchAsk, ShelfFeature, Tested};
use cobaltine_core::tests::bench::BenchKind;
use cobaltine_core::typed::Field;
use cobaltine_store::{KeptSet, ShelfQuery};
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

/// The question for families on the shelf.
#[derive(Debug, Deserialize, IntoParams)]
pub struct ShelfFamilyParams {
    /// Those of one job only.
    pub job: Option<Uuid>,
}

/// The question for a page of the shelf.
#[derive(Debug, Deserialize, IntoParams)]
pub struct ShelfParams {
    /// The bench that they go on.
    pub kind: BenchKind,
    /// Their family; empty when it is not known.
    #[serde(default)]
    pub family: String,
    /// Those of one job only.
    pub job: Option<Uuid>,
    /// From 1.
    pub page: Option<u32>,
}

/// A page of the shelf.
#[derive(Debug, Serialize, ToSchema)]
pub struct ShelfView {
    /// By job and cylinder.
    pub lines: Vec<Tested>,
    /// How many there are in all.
    pub total: u64,
    /// How many of them are held back.
    pub held_back: u64,
    /// Lines of a page.
    pub per_page: u32,
    /// What they can be matched by.
    pub features: Vec<FeatureForm>,
    /// Sets that are kept.
    pub kept: Vec<KeptSet>,
}

/// A feature with its tolerance as typed.
#[derive(Debug, Clone, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct FeatureTyped {
    /// Which.
    pub feature: ShelfFeature,
    /// As typed: % or the unit of the feature.
    pub tolerance: String,
}

/// Asks for sets.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct MatchingRequest {
    /// UUIDv7 made by the one who asks.
    pub id: Uuid,
    /// The bench that they go on.
    pub kind: BenchKind,
    /// Their family; empty when it is not known.
    pub family: String,
    /// Those of one job only.
    pub job: Option<Uuid>,
    /// What sets have to agree in.
    pub features: Vec<FeatureTyped>,
    /// Members of a set.
    pub size: u32,
    /// Injectors that must stay together.
    #[serde(default)]
    pub together: Vec<Vec<Uuid>>,
    /// Left out by hand.
    #[serde(default)]
    pub excluded: Vec<Uuid>,
    /// Held back, and used all the same.
    #[serde(default)]
    pub brought_in: Vec<Uuid>,
}

impl MatchingRequest {
    pub(crate) fn query(&self) -> ShelfQuery {
        ShelfQuery { kind: self.kind, family: self.family.clone(), job: self.job }
    }

    /// As the core takes it, with the sets that are kept.
    pub(crate) fn read(self, kept: &[KeptSet]) -> Result<MatchAsk, Vec<FieldProblem>> {
        let mut reader = Reader(Vec::new());
        let features = self.features.iter().map(|one| {
            let field = one.feature.rule().spec().field;
            let read = reader.needed::<f64>(one.feature.name(), field, &one.tolerance);
            let tolerance = match one.feature.kind() {
                FeatureKind::Ratio => read / 100.0,
                FeatureKind::Difference => read,
            };
            FeatureAsk { feature: one.feature, tolerance }
        });
        let features = features.collect();
        reader.done(MatchAsk {
            features,
            size: self.size as usize,
            together: self.together,
            excluded: self.excluded,
            brought_in: self.brought_in,
            pinned: kept.iter().map(|set| set.members.clone()).collect(),
        })
    }
}

/// How far a matching is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum MatchingState {
    /// At work.
    Running,
    /// Done, or stopped: what stands is the result.
    Done,
    /// It cannot be done as asked.
    Refused,
}

/// A matching at work or done.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct MatchingView {
    /// Which.
    pub id: Uuid,
    /// How far.
    pub state: MatchingState,
    /// Share of the work that is done.
    pub done: f64,
    /// Sets so far.
    pub sets: usize,
    /// No more than these are possible, as far as is known; none before the first step.
    pub bound: Option<usize>,
    /// What was made.
    pub result: Option<MadeSets>,
    /// What is wrong with it.
    pub problem: String,
}

/// A set to keep.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct KeepSetRequest {
    /// UUIDv7 made by the one who asks.
    pub id: Uuid,
    /// The bench that they go on.
    pub kind: BenchKind,
    /// Their family; empty when it is not known.
    pub family: String,
    /// Its injectors.
    pub members: Vec<Uuid>,
    /// What it is for; may be empty.
    pub note: String,
    /// Its injectors belong to more than one owner, and they agree.
    #[serde(default)]
    pub owners_agree: bool,
}

/// What a cylinder wants, as typed.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct WantTyped {
    /// Cylinder number.
    pub cylinder: u32,
    /// Percent more; less with a minus.
    pub percent: String,
}

/// What is asked about places and fuelling. Empty fields take what is usual.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct PlacesRequest {
    /// What placement goes by; the first that was measured when none is said.
    pub feature: Option<ShelfFeature>,
    /// Cylinders that want more or less.
    #[serde(default)]
    pub wants: Vec<WantTyped>,
    /// Static flow that the control unit reckons with, ml/min.
    #[serde(default)]
    pub static_flow: String,
    /// Dead time that it reckons with, ms.
    #[serde(default)]
    pub dead_time: String,
    /// Pulse at idle, ms.
    #[serde(default)]
    pub idle: String,
    /// Pulse at full load, ms.
    #[serde(default)]
    pub full: String,
    /// Highest speed, rpm.
    #[serde(default)]
    pub limit: String,
    /// Two-stroke.
    #[serde(default)]
    pub two_stroke: bool,
}

impl PlacesRequest {
    /// What the cylinders want, and what is asked about fuelling, from what is usual.
    pub(crate) fn read(
        &self,
        usual: Option<FuellingAsk>,
    ) -> Result<(Vec<Want>, Option<FuellingAsk>), Vec<FieldProblem>> {
        let mut reader = Reader(Vec::new());
        let percent = Field::signed("%", -100.0 * WIDEST_WANT, 100.0 * WIDEST_WANT);
        let wants = self.wants.iter().filter_map(|one| {
            let name = format!("want{}", one.cylinder);
            let read: Option<f64> = reader.number(&name, percent, &one.percent);
            Some(Want { cylinder: one.cylinder, share: read? / 100.0 })
        });
        let wants = wants.collect();
        let flow = Field::above_zero("ml/min", 0.1, 100_000.0);
        let (dead, pulse) = (Field::from_zero("ms", 50.0), Field::above_zero("ms", 0.01, 1000.0));
        let asked = usual.map(|usual| FuellingAsk {
            static_ml_min: reader
                .number("static_flow", flow, &self.static_flow)
                .unwrap_or(usual.static_ml_min),
            dead_time_ms: reader
                .number("dead_time", dead, &self.dead_time)
                .unwrap_or(usual.dead_time_ms),
            idle_ms: reader.number("idle", pulse, &self.idle).unwrap_or(usual.idle_ms),
            full_ms: reader.number("full", pulse, &self.full).unwrap_or(usual.full_ms),
            limit_rpm: reader
                .number("limit", Field::above_zero("rpm", 1.0, 30_000.0), &self.limit)
                .unwrap_or(usual.limit_rpm),
            two_stroke: self.two_stroke,
        });
        reader.done((wants, asked))
    }
}

/// Where the injectors of a job go, and what the set means for the control unit.
#[derive(Debug, Serialize, ToSchema)]
pub struct PlacesView {
    /// What placement can go by.
    pub features: Vec<FeatureForm>,
    /// The proposal; none when fewer than two were measured.
    pub placement: Option<Placement>,
    /// What could take the place of one that does not go back; empty when all do.
    pub spares: Vec<Spare>,
    /// What was asked about fuelling, with what is usual filled in.
    pub asked: Option<FuellingAsk>,
    /// The answer; none when flow and dead time are not known.
    pub fuelling: Option<Fuelling>,
    /// What stands against an answer to what was asked; may be empty.
    pub fuelling_says: String,
    /// Why there is no answer; may be empty.
    pub says: String,
}
