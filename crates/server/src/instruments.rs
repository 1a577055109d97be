//! The instruments, and whether one can decide a limit.

use crate::extract::{Body, Doing, today};
use crate::wire::{CanDecideRequest, InstrumentRequest, InstrumentView};
use crate::words;
use crate::{ApiError, AppState};
use axum::Json;
use axum::extract::State;
use cobaltine_core::instrument::InstrumentKind;
use cobaltine_core::record::FieldProblem;
use cobaltine_core::rules::RuleId;
use cobaltine_core::tests::can_decide::{CanDecide, Carries, Question, can_decide};
use cobaltine_core::typed::Field;
use cobaltine_core::units;

/// All instruments, with their calibration beside today's date.
#[utoipa::path(get, path = "/instruments", responses((status = 200, body = Vec<InstrumentView>)))]
pub(crate) async fn list(
    State(state): State<AppState>,
) -> Result<Json<Vec<InstrumentView>>, ApiError> {
    let all = state.store.instruments().await?;
    let today = today();
    Ok(Json(all.into_iter().map(|instrument| InstrumentView::of(instrument, today)).collect()))
}

/// Keeps an instrument: revision 0 for a new one, otherwise the revision that was changed.
#[utoipa::path(put, path = "/instruments", request_body = InstrumentRequest, responses((status = 200, body = InstrumentView)))]
pub(crate) async fn keep(
    State(state): State<AppState>,
    Doing { asked: request, act, signed }: Doing<InstrumentRequest>,
) -> Result<Json<InstrumentView>, ApiError> {
    let instrument = request.read().map_err(ApiError::Fields)?;
    let kept = state.store.keep_instrument(&act, &instrument, signed).await?;
    Ok(Json(InstrumentView::of(kept, today())))
}

/// Whether an instrument can carry a limit, before anything is measured.
#[utoipa::path(post, path = "/instruments/can-decide", request_body = CanDecideRequest, responses((status = 200, body = CanDecide)))]
pub(crate) async fn decide(
    State(state): State<AppState>,
    Body(request): Body<CanDecideRequest>,
) -> Result<Json<CanDecide>, ApiError> {
    let instrument = state.store.instrument(request.instrument).await?;
    let rules = state.store.rules().await?;
    let unit = if instrument.kind.catches_volume() {
        units::ML_MIN
    } else {
        match instrument.kind {
            InstrumentKind::Meter => "ohm",
            InstrumentKind::Gauge => units::KPA,
            InstrumentKind::Timer | InstrumentKind::Bottles | InstrumentKind::Bench => "s",
        }
    };
    let mut problems = Vec::new();
    let mut read = |name: &str, field: Field, text: &str| match text.trim() {
        "" => None,
        text => field
            .read(text)
            .map_err(|error| problems.push(FieldProblem::new(name, error.to_string())))
            .ok(),
    };
    let window = Field::from_zero(unit, 1e9);
    let lower = read("lower", window, &request.lower);
    let upper = read("upper", window, &request.upper);
    let seconds = read("planned", Field::RUN_TIME.bare(), &request.planned);
    if lower.is_none() && upper.is_none() && problems.is_empty() {
        problems.push(FieldProblem::new("upper", words::ENTER_LOWER_LIMIT_UPPER));
    }
    if instrument.kind.catches_volume() && seconds.is_none() && problems.is_empty() {
        problems.push(FieldProblem::new("planned", words::ENTER_LONG_RUN_TAKES));
    }
    if !problems.is_empty() {
        return Err(ApiError::Fields(problems));
    }
    let timer_u = match request.timer {
        Some(timer) => state.store.instrument(timer).await?.u(seconds.unwrap_or(0.0)),
        None => rules.get(RuleId::TimerU),
    };
    let run = seconds.filter(|_| instrument.kind.catches_volume()).map(|s| (s, timer_u));
    let confidence = rules.share(RuleId::GuardConfidence);
    let question = Question { instrument: &instrument, lower, upper, run, confidence };
    let mut answer = can_decide(&question)?;
    if answer.carries != Carries::Well {
        // What stands on the shelf already comes before what would have to be bought.
        let others = state.store.instruments().await?;
        for other in others.iter().filter(|o| o.kind == instrument.kind && o.id != instrument.id) {
            let asked = can_decide(&Question { instrument: other, ..question.clone() })?;
            if asked.carries == Carries::Well {
                answer.would.insert(0, words::you(&other.name));
            }
        }
    }
    Ok(Json(answer))
}
