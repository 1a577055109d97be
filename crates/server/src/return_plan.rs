//! Before a return test: what it would be judged by, and whether the bottles can carry that.
//! After it: the same readings judged by today's library.

use crate::extract::{Body, Path};
use crate::wire::{LookedUp, Reference, RejudgeView, SetUpPreview, SetUpRequest};
use crate::words;
use crate::{ApiError, AppState, trainer};
use axum::Json;
use axum::extract::State;
use cobaltine_core::calc::return_plan::{ReturnPlanInput, return_plan};
use cobaltine_core::instrument::{Instrument, InstrumentKind};
use cobaltine_core::library::Limit;
use cobaltine_core::library::{LimitCheck, LimitEntry};
use cobaltine_core::quantity::{Celsius, Quantity, Second, trimmed};
use cobaltine_core::record::TestSetup;
use cobaltine_core::record::rejudge;
use cobaltine_core::rules::{RuleId, Rules};
use cobaltine_core::tests::can_decide::{Question, can_decide};
use cobaltine_core::tests::engine::return_test::HouseRules;
use cobaltine_core::tests::house_reference::{HouseReference, house_reference};
use cobaltine_core::typed::Field;
use cobaltine_core::work::Regime;
use cobaltine_trainer::workshop::return_limit;
use uuid::Uuid;

/// What a set-up rests on.
pub(crate) struct Known {
    /// As the test keeps it.
    pub for_test: LookedUp,
    rules: Rules,
    /// The library has a limit that holds at this temperature.
    holds: bool,
    reference: Option<Reference>,
}

/// Looks up everything that a set-up refers to.
pub(crate) async fn look_up(
    state: &AppState,
    job: Uuid,
    request: &SetUpRequest,
) -> Result<Known, ApiError> {
    let held = state.store.state(job).await?;
    let made_up = trainer::case_if(&held)?;
    let rules = state.store.rules().await?;
    let temperature = Field::TEMPERATURE.read(&request.temperature).ok();
    let family = held.file.job.intake.family_id;
    let mut limit = match &made_up {
        Some(case) => return_limit(case).filter(|_| request.regime == Regime::IdleOnly),
        None => library_limit(state, family, request.regime, temperature).await?,
    };
    let holds = limit.as_ref().is_some_and(|limit| limit.holds_at(temperature));
    let mut reference = None;
    if let (false, Some(family)) = (holds, family) {
        let readings = state.store.good_return_flows(family, request.regime, temperature).await?;
        let answer = house_reference(&readings, "ml/min", &rules);
        if let (Ok(own), true) = (&answer, request.by_house_reference) {
            limit = Some(as_limit(own));
        }
        reference = Some(Reference::of(request.regime, answer));
    }
    let find = async |id: Option<Uuid>| match id {
        Some(id) => state.store.instrument(id).await.map(Some),
        None => Ok(None),
    };
    let for_test = LookedUp {
        bottles: find(request.bottles).await?,
        timer: find(request.timer).await?,
        rules: HouseRules::of(&rules),
        timer_u_s: rules.get(RuleId::TimerU),
        limit,
    };
    Ok(Known { for_test, rules, holds, reference })
}

async fn library_limit(
    state: &AppState,
    family: Option<Uuid>,
    regime: Regime,
    temperature: Option<Celsius>,
) -> Result<Option<Limit>, ApiError> {
    let Some(family) = family else { return Ok(None) };
    let newest = state.store.newest_limits(family, LimitCheck::ReturnFlow).await?;
    Ok(LimitEntry::pick_for_return_test(&newest, regime, temperature))
}

/// The house's own reference as a limit, labelled as such. Revision 0: nobody published it.
fn as_limit(own: &HouseReference) -> Limit {
    Limit {
        upper_ml_min: own.upper,
        from_c: None,
        to_c: None,
        source: words::workshops_own_reference_proven(
            own.count,
            own.from.strftime("%Y-%m-%d"),
            own.to.strftime("%Y-%m-%d"),
        ),
        revision: 0,
    }
}

/// What a test set up like this would be judged by. Nothing is kept.
#[utoipa::path(post, path = "/jobs/{job}/return-tests/preview", request_body = SetUpRequest, responses((status = 200, body = SetUpPreview)))]
pub(crate) async fn preview(
    State(state): State<AppState>,
    Path(job): Path<Uuid>,
    Body(request): Body<SetUpRequest>,
) -> Result<Json<SetUpPreview>, ApiError> {
    let Known { for_test, rules, holds, reference } = look_up(&state, job, &request).await?;
    let bottles = for_test.bottles.clone();
    let setup = request.setup(for_test).map_err(ApiError::Fields)?;
    let bottles = bottles.unwrap_or_else(|| unnamed(&setup));
    let timer_u = setup.timer_u_s.map_or(rules.get(RuleId::TimerU), Second::value);
    let applied = setup.limit.as_ref().filter(|limit| limit.holds_at(setup.temperature_c));
    let can = applied.map(|limit| {
        can_decide(&Question {
            instrument: &bottles,
            lower: None,
            upper: Some(limit.upper_ml_min),
            run: Some((setup.planned_s.0, timer_u)),
            confidence: setup.rules.confidence,
        })
    });
    let limit = match (&setup.limit, applied) {
        (_, Some(limit)) => words::most_ml_min(trimmed(limit.upper_ml_min), &limit.source),
        (Some(limit), None) => words::librarys_limit_ml_min(trimmed(limit.upper_ml_min)),
        (None, None) => words::LIBRARY_NO_LIMIT_INJECTORS.to_owned(),
    };
    let expected = reference
        .as_ref()
        .and_then(|r| r.reference.as_ref())
        .map(|own| own.mean)
        .or(applied.map(|limit| 0.5 * limit.upper_ml_min));
    Ok(Json(SetUpPreview {
        limit,
        holds,
        can_decide: can.transpose()?,
        plan: expected.and_then(|rate| plan_words(&setup, rate, &rules)),
        flags: setup.flags(),
        reference,
    }))
}

/// Bottles that are no instrument of the workshop: their marks are all that is known.
fn unnamed(setup: &TestSetup) -> Instrument {
    Instrument {
        id: Uuid::nil(),
        name: "These bottles".to_owned(),
        kind: InstrumentKind::Bottles,
        resolution: setup.graduation_ml.0,
        accuracy_pct: 0.0,
        accuracy_digits: 0.0,
        lead_ohm: None,
        capacity_ml: Some(setup.capacity_ml.0),
        calibration_due: None,
        certificate: String::new(),
        revision: 0,
    }
}

fn plan_words(setup: &TestSetup, rate: f64, rules: &Rules) -> Option<String> {
    let plan = return_plan(&ReturnPlanInput {
        graduation_ml: setup.graduation_ml.0,
        capacity_ml: setup.capacity_ml.0,
        expected_ml_min: rate,
        worst_ratio: Some(rules.get(RuleId::RunWorst)),
        discriminate: Some(rules.share(RuleId::RunDifference)),
    })
    .ok()?;
    let clock = |s: f64| format!("{}:{:02}", s.ceil() as u64 / 60, s.ceil() as u64 % 60);
    let difference = rules.get(RuleId::RunDifference);
    Some(if plan.seconds <= setup.planned_s.0 {
        words::run_shows_between_two(clock(setup.planned_s.0), difference)
    } else if plan.feasible {
        words::show_between_two_bottles(difference, clock(plan.seconds), rate)
    } else {
        words::show_run_would_take(difference, clock(plan.seconds), clock(plan.worst_fills_s))
    })
}

/// An old test judged by today's limit and rules; the old verdict is not touched.
#[utoipa::path(get, path = "/jobs/{job}/return-tests/{test}/rejudged", responses((status = 200, body = RejudgeView)))]
pub(crate) async fn rejudged(
    State(state): State<AppState>,
    Path((job, test)): Path<(Uuid, Uuid)>,
) -> Result<Json<RejudgeView>, ApiError> {
    let file = state.store.job(job).await?;
    let test = file
        .return_tests
        .iter()
        .find(|held| held.id == test)
        .ok_or(cobaltine_store::StoreError::NotFound("return test"))?;
    let family = file.job.intake.family_id;
    let (regime, temperature) = (test.setup.regime, test.setup.temperature_c);
    let published = library_limit(&state, family, regime, temperature).await?;
    // A test by the house's own reference is judged by that reference as it is today.
    let by_own = test.setup.limit.as_ref().is_some_and(|limit| limit.revision == 0);
    let rules = state.store.rules().await?;
    let limit = match (published, family) {
        (None, Some(family)) if by_own => {
            let readings = state.store.good_return_flows(family, regime, temperature).await?;
            house_reference(&readings, "ml/min", &rules).ok().as_ref().map(as_limit)
        }
        (published, _) => published,
    };
    let (verdict, difference) =
        rejudge(test, &file.job.intake.layout, limit, HouseRules::of(&rules))?;
    Ok(Json(RejudgeView::of(verdict, difference)))
}
