//! Which injector goes to which cylinder, and what the set means for the control unit.

use crate::extract::{Body, Path};
use crate::wire::{PlacesRequest, PlacesView};
use crate::words;
use crate::{ApiError, AppState};
use axum::Json;
use axum::extract::State;
use cobaltine_core::fuelling::{FuellingAsk, fuelling};
use cobaltine_core::places::{places, spares};
use cobaltine_core::shelf::{ShelfFeature, Tested};
use cobaltine_store::ShelfQuery;
use uuid::Uuid;

/// Proposes places for the injectors of a job. Nothing is written.
#[utoipa::path(post, path = "/jobs/{job}/places", request_body = PlacesRequest, responses((status = 200, body = PlacesView)))]
pub(crate) async fn propose(
    State(state): State<AppState>,
    Path(job): Path<Uuid>,
    Body(request): Body<PlacesRequest>,
) -> Result<Json<PlacesView>, ApiError> {
    let file = state.store.job(job).await?;
    let rules = state.store.rules().await?;
    let tested = file.tested(&file.judged()?)?;
    let count = |feature| tested.iter().filter(|one| one.value(feature).is_some()).count() as u64;
    let features = ShelfFeature::ALL.iter().map(|one| one.form(&rules, count(*one)));
    let features: Vec<_> = features.filter(|form| form.measured > 1).collect();
    let feature = request.feature.or_else(|| features.first().map(|form| form.feature));
    let usual = FuellingAsk::usual(&file, &tested);
    let (wants, asked) = request.read(usual).map_err(ApiError::Fields)?;
    let placement = feature.and_then(|feature| places(&file, &tested, feature, &wants));
    // One that was taken out already is missing no more.
    let seats = file.seats(None);
    let sits = |one: &&Tested| seats.iter().any(|seat| seat.injector == one.injector);
    let missing = tested.iter().filter(sits).find(|one| one.held_back.is_some());
    let spares = match missing {
        Some(one) => {
            let family = one.family.clone().unwrap_or_default();
            let query = ShelfQuery { kind: one.kind, family, job: None };
            let kept: Vec<Uuid> =
                state.store.kept_sets(&query).await?.into_iter().flat_map(|k| k.members).collect();
            let mut shelf = state.store.whole_shelf(&query).await?;
            shelf.retain(|one| !kept.contains(&one.injector));
            spares(&tested, &shelf, &rules)
        }
        None => Vec::new(),
    };
    // What cannot be reckoned for the control unit says so beside the places, which stand anyway.
    let reckoned =
        asked.as_ref().map(|ask| fuelling(&file, &tested, ask, &rules, placement.as_ref()));
    let (fuelling, fuelling_says) = match reckoned.transpose() {
        Ok(fuelling) => (fuelling.flatten(), String::new()),
        Err(refused) => (None, format!("{refused}.")),
    };
    let says = if placement.is_none() { words::TEST_TWO_MORE_INJECTORS } else { "" };
    let says = says.to_owned();
    Ok(Json(PlacesView { features, placement, spares, asked, fuelling, fuelling_says, says }))
}
