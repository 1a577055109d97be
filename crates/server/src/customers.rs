//! Customers with their machines and earlier jobs.

use crate::extract::{Doing, Path, Query};
use crate::wire::CustomerParams;
use crate::{ApiError, AppState};
use axum::Json;
use axum::extract::State;
use cobaltine_core::customer::Customer;
use cobaltine_store::{CustomerLife, CustomerPage};
use uuid::Uuid;

/// A page of customers, by name.
#[utoipa::path(get, path = "/customers", params(CustomerParams), responses((status = 200, body = CustomerPage)))]
pub(crate) async fn list(
    State(state): State<AppState>,
    Query(asked): Query<CustomerParams>,
) -> Result<Json<CustomerPage>, ApiError> {
    Ok(Json(state.store.customers(&asked.q, asked.page).await?))
}

/// One customer with machines and jobs.
#[utoipa::path(get, path = "/customers/{customer}", responses((status = 200, body = CustomerLife)))]
pub(crate) async fn read(
    State(state): State<AppState>,
    Path(customer): Path<Uuid>,
) -> Result<Json<CustomerLife>, ApiError> {
    Ok(Json(state.store.customer(customer).await?))
}

/// Keeps a customer: revision 0 for a new one, otherwise the revision that was changed.
#[utoipa::path(put, path = "/customers", request_body = Customer, responses((status = 200, body = CustomerLife)))]
pub(crate) async fn keep(
    State(state): State<AppState>,
    Doing { asked, act, signed }: Doing<Customer>,
) -> Result<Json<CustomerLife>, ApiError> {
    state.store.keep_customer(&act, &asked, signed.at).await?;
    Ok(Json(state.store.customer(asked.id).await?))
}
