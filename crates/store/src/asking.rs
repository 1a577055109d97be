//! Who asks, around a piece of work: whoever reads a list finds in it what they wrote themselves.

use std::future::Future;
use uuid::Uuid;

tokio::task_local! {
    static WHO: Option<Uuid>;
}

/// Does this for someone; where nobody is named, lists wait for what everyone wrote.
pub async fn asked_by<F: Future>(who: Option<Uuid>, work: F) -> F::Output {
    WHO.scope(who, work).await
}

/// Who asks; none where that is not known.
pub(crate) fn who() -> Option<Uuid> {
    WHO.try_with(|who| *who).unwrap_or_default()
}
