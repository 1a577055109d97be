//! An old test judged by a newer limit or newer rules, beside its own verdict.

use super::TestRecord;
use crate::calc::CalcError;
use crate::engine::Layout;
use crate::library::Limit;
use crate::record::words;
use crate::tests::Verdict;
use crate::tests::engine::return_test::HouseRules;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// What judging anew would change. The old verdict stays what it is.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct Rejudged {
    /// The limit then, in words.
    pub limit_then: String,
    /// The limit now, in words.
    pub limit_now: String,
    /// Revision of the house rules then.
    pub rules_then: u32,
    /// Revision of the house rules now.
    pub rules_now: u32,
    /// One line for each injector that would be called otherwise.
    pub changes: Vec<String>,
    /// All of it in one text, to be kept as a note.
    pub text: String,
}

/// Judges a test by another limit and other rules.
///
/// # Errors
/// What the calcs refuse.
pub fn rejudge(
    test: &TestRecord,
    layout: &Layout,
    limit: Option<Limit>,
    rules: HouseRules,
) -> Result<(Verdict, Rejudged), CalcError> {
    let then = test.verdict(layout)?;
    let mut anew = test.clone();
    anew.setup.limit = limit;
    anew.setup.rules = rules;
    let now = anew.verdict(layout)?;
    let changes: Vec<String> = then
        .lanes
        .iter()
        .zip(&now.lanes)
        .filter(|(old, new)| old.mark != new.mark)
        .map(|(old, new)| words::cylinder_now(old.place, &old.word, &new.word))
        .collect();
    let (rules_then, rules_now) = (test.setup.rules.revision, anew.setup.rules.revision);
    let mut text = words::assessed_again_now(&then.limit_note, &now.limit_note);
    if rules_then != rules_now {
        text += &words::workshop_rules_revision_now(rules_then, rules_now);
    }
    text += " ";
    text += &if changes.is_empty() {
        words::NO_INJECTORS_RESULT_WOULD.to_owned()
    } else {
        changes.join(" ")
    };
    let difference = Rejudged {
        limit_then: then.limit_note,
        limit_now: now.limit_note.clone(),
        rules_then,
        rules_now,
        changes,
        text,
    };
    Ok((now, difference))
}
