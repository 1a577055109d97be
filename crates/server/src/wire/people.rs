//! People on the wire.

use super::AccountView;
use cobaltine_core::record::Person;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

/// Someone, with what the list shows.
#[derive(Debug, Serialize, ToSchema)]
pub struct PersonView {
    /// Who.
    #[serde(flatten)]
    pub person: Person,
    /// A PIN is chosen; never which.
    pub has_pin: bool,
    /// The account; none for a name that was never let in.
    pub account: Option<AccountView>,
}

/// What becomes of a name.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct PersonRequest {
    /// It is not chosen any more; false brings it back.
    pub retired: bool,
    /// It is another name of this person.
    #[serde(default)]
    pub same_as: Option<Uuid>,
}

/// One's own PIN.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct PinRequest {
    /// 4 to 8 digits.
    pub pin: String,
    /// The one that is set now; empty where there is none.
    #[serde(default)]
    pub old: String,
}

impl std::fmt::Debug for PinRequest {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        // No log ever says a PIN.
        f.write_str("PinRequest")
    }
}
