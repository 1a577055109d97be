//! Coming in, on the wire.

use cobaltine_core::record::Signed;
use cobaltine_core::role::Role;
use serde::{Deserialize, Serialize};
use std::fmt;
use utoipa::ToSchema;
use uuid::Uuid;

/// Who is in.
#[derive(Debug, Serialize, ToSchema)]
pub struct SignInView {
    /// Nobody signs in here: one person on one machine.
    pub open: bool,
    /// No owner has an account yet.
    pub first: bool,
    /// Why nothing is saved to this folder; none where it is.
    pub read_only: Option<String>,
    /// Who is in; none in an open workshop, or before somebody signed in.
    pub person: Option<SignedInView>,
    /// The tablet that asks, by its name.
    pub tablet: Option<String>,
    /// Who can come in by PIN on this tablet.
    pub bench: Vec<BenchName>,
}

/// Somebody who is in.
#[derive(Debug, Serialize, ToSchema)]
pub struct SignedInView {
    /// Who.
    pub id: Uuid,
    /// As called in the workshop.
    pub name: String,
    /// What the person is in the workshop.
    pub role: Role,
    /// The password was entered a moment ago.
    pub fresh: bool,
}

/// Someone who has a PIN.
#[derive(Debug, Serialize, ToSchema)]
pub struct BenchName {
    /// Who.
    pub id: Uuid,
    /// As called in the workshop.
    pub name: String,
}

/// What an account is.
#[derive(Debug, Serialize, ToSchema)]
pub struct AccountView {
    /// What the person is in the workshop.
    pub role: Role,
    /// A password was chosen; until then the link leads in.
    pub has_password: bool,
    /// Nobody comes in by it any more.
    pub closed: bool,
}

/// A role, or the end of an account.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct AccountRequest {
    /// The role from now on; none leaves it.
    #[serde(default)]
    pub role: Option<Role>,
    /// The account is closed.
    #[serde(default)]
    pub closed: bool,
}

/// A link by which one person chooses a password, shown once.
#[derive(Debug, Serialize, ToSchema)]
pub struct LinkView {
    /// What stands behind `/join#`.
    pub token: String,
}

/// A new name for a shared screen.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct TabletRequest {
    /// As called in the workshop.
    pub name: String,
}

/// A shared screen.
#[derive(Debug, Serialize, ToSchema)]
pub struct TabletView {
    /// Identity.
    pub id: Uuid,
    /// As called in the workshop.
    pub name: String,
    /// Who enrolled it, and when.
    pub signed: Signed,
}

/// Requests that carry a secret: no log ever says it.
macro_rules! secret {
    ($($(#[$doc:meta])* $of:ident { $($(#[$field:meta])* $name:ident: $type:ty,)* })*) => {$(
        $(#[$doc])*
        #[derive(Deserialize, ToSchema)]
        #[serde(deny_unknown_fields)]
        pub struct $of {
            $($(#[$field])* pub $name: $type,)*
        }

        impl fmt::Debug for $of {
            fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
                f.write_str(stringify!($of))
            }
        }
    )*};
}

secret! {
    /// Name and password.
    PasswordRequest {
        /// As called in the workshop.
        name: String,
        /// The password.
        password: String,
    }
    /// A PIN, on an enrolled tablet.
    SignInPinRequest {
        /// Who.
        person: Uuid,
        /// The PIN.
        pin: String,
    }
    /// The password of whoever is in.
    FreshRequest {
        /// The password.
        password: String,
    }
    /// Another password.
    NewPasswordRequest {
        /// The one that is set now.
        old: String,
        /// The one from now on.
        password: String,
    }
    /// A link with the password that is chosen by it.
    JoinRequest {
        /// What stood behind `/join#`.
        token: String,
        /// The name of the first owner; passed over for everyone else.
        #[serde(default)]
        name: String,
        /// The password.
        password: String,
    }
}
