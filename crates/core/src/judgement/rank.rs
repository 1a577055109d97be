//! Causes of one place, likeliest first, each followable by hand: prior odds, what the story does
//! to them, the factor of every reading against sound, and what else explains the same better.
//!
//! `odds against sound = prior odds · story · Π factors`. All states share one sum, so a cause that
//! another explains away stands lower than its own factors say; that last step is shown as one.
//!
//! # Source
//! As [`super::posterior`].

use super::cause::{Cause, With};
use super::evidence::{Gathered, Reading};
use super::posterior::{AtPlace, Likelihood, Posterior, Priors};
use super::states::{SHARES, State};
use super::story::{self, Age};
use super::weights::Weights;
use crate::judgement::words;
use crate::named::named;
use crate::record::Intake;
use crate::said::Code;
use serde::Serialize;
use utoipa::ToSchema;

named! {
    /// What moved a cause.
    Moved {
        Found = found,
        Told = told,
        Others = others,
    }
}

/// One thing that moved a cause.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Evidence {
    /// A reading, the story of the job, or how well other states explain it all.
    pub kind: Moved,
    /// What was found; none for the story and for other states.
    pub code: Option<Code>,
    /// What it says.
    pub says: String,
    /// Why it weighs.
    pub reason: String,
    /// What the reading lacks, in words; empty when nothing.
    pub lacks: String,
    /// Above 1 for the cause, below 1 against it.
    pub factor: f64,
    /// False where a better reading of the same group already counts.
    pub counts: bool,
}

/// A cause at one place.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Ranked {
    /// Which; none for sound.
    pub cause: Option<Cause>,
    /// As read.
    pub word: String,
    /// How likely it is now, 0 to 1.
    pub p: f64,
    /// How likely before anything was measured, the story told.
    pub before: f64,
    /// Where that comes from.
    pub prior_reason: String,
    /// What moved it, strongest first.
    pub evidence: Vec<Evidence>,
    /// Which state explains the same findings better; empty where none does.
    pub better: String,
}

/// What a new injector does to the odds of wear (house rule): it is seldom worn.
const NEW_TIMES: f64 = 0.3;
/// From this factor on a reading weighs as much as its slips allow, however far off it is.
const CAPPED: f64 = 100.0;
/// Factors this close to 1 say nothing.
const SLIGHT: f64 = 0.08;

fn odds(p: f64) -> f64 {
    p / (1.0 - p)
}

/// What is known of a place before anything was measured there.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
pub(super) struct Told {
    /// Its injector was fitted new in this job.
    pub new: bool,
    /// It was named as affected, or another one was.
    pub named: Option<bool>,
}

/// The odds of a cause with the story told.
pub(super) fn told_odds(
    weights: &Weights,
    intake: &Intake,
    age: Option<Age>,
    cause: Cause,
    at: Told,
) -> f64 {
    let (prior, _) = weights.prior(cause, intake.fuel_system);
    let told = story::told(weights, intake, age, at.named);
    let times: f64 = told.iter().filter_map(|row| row.times.get(&cause)).product();
    let fresh = at.new && cause.with() == With::Injector && cause != Cause::WrongCode;
    odds(prior) * times * if fresh { NEW_TIMES } else { 1.0 }
}

/// Everything that a ranking of one place is made from.
pub(super) struct Ranking<'a> {
    pub weights: &'a Weights,
    pub intake: &'a Intake,
    pub age: Option<Age>,
    pub posterior: &'a Posterior<'a>,
}

impl Ranking<'_> {
    /// The causes of a place, likeliest first, sound among them.
    pub(super) fn ranked(
        &self,
        at: &AtPlace<'_>,
        gathered: &Gathered<'_>,
        priors: &Priors,
        named: Option<bool>,
    ) -> Vec<Ranked> {
        let belief = &at.belief;
        let mut ranked: Vec<Ranked> = Cause::ALL
            .iter()
            .copied()
            .filter(|cause| belief.chance(*cause) >= self.weights.shown())
            .map(|cause| {
                let (p, before) = (belief.chance(cause), priors.chance(cause));
                let mut evidence = self.moved(cause, at, gathered);
                if (at.complaint - 1.0).abs() > SLIGHT {
                    evidence.push(Evidence {
                        kind: Moved::Told,
                        code: None,
                        says: words::COMPLAINT_NEEDS_CAUSE.to_owned(),
                        reason: words::SELDOM_TOLD_WITHOUT.to_owned(),
                        lacks: String::new(),
                        factor: at.complaint,
                        counts: true,
                    });
                }
                let counted: f64 = evidence.iter().filter(|e| e.counts).map(|e| e.factor).product();
                let rest = odds(p.min(0.999_999)) / (odds(before) * counted);
                let better = self.better(cause, at);
                if (rest - 1.0).abs() > SLIGHT && rest.is_finite() {
                    evidence.push(Evidence {
                        kind: Moved::Others,
                        code: None,
                        says: match (better.is_empty(), rest < 1.0) {
                            (false, _) => better.clone(),
                            (true, true) => words::OTHER_CAUSES_FIT_SAME.to_owned(),
                            (true, false) => words::OTHER_CAUSES_FIT_FINDINGS.to_owned(),
                        },
                        reason: words::ONLY_ONE_STATE_TRUE.to_owned(),
                        lacks: String::new(),
                        factor: rest,
                        counts: true,
                    });
                }
                evidence.extend(self.story(cause, named));
                let (_, reason) = self.weights.prior(cause, self.intake.fuel_system);
                Ranked {
                    cause: Some(cause),
                    word: self.weights.word(cause).to_owned(),
                    p,
                    before,
                    prior_reason: reason.to_owned(),
                    evidence,
                    better,
                }
            })
            .collect();
        ranked.push(Ranked {
            cause: None,
            word: "sound".to_owned(),
            p: belief.sound(),
            before: priors.sound(),
            prior_reason: words::NONE_CAUSES_PRESENT.to_owned(),
            evidence: Vec::new(),
            better: String::new(),
        });
        ranked.sort_by(|a, b| b.p.total_cmp(&a.p).then(a.cause.cmp(&b.cause)));
        ranked
    }

    /// Readings that move a cause against sound, strongest first; then those that count once with them.
    fn moved(&self, cause: Cause, at: &AtPlace<'_>, gathered: &Gathered<'_>) -> Vec<Evidence> {
        let shared = cause.with() == With::All;
        let of = |one: &Likelihood<'_>| self.found(cause, &one.reading, one.factor(cause), true);
        let mut found: Vec<Evidence> = if shared {
            let mut told: Vec<Evidence> = self.posterior.shared.iter().map(of).collect();
            told.push(Evidence {
                kind: Moved::Found,
                code: None,
                says: words::READINGS_ALL_CYLINDERS_TOGETHER.to_owned(),
                reason: words::SHARED_FAULT_SHOWS_ALL.to_owned(),
                lacks: String::new(),
                factor: self.posterior.places_say(cause),
                counts: true,
            });
            told
        } else {
            at.readings.iter().map(of).collect()
        };
        if !shared {
            found.extend(gathered.besides.iter().map(|one| {
                self.found(cause, one, self.weights.factor(one.finding.code, cause), false)
            }));
        }
        found.retain(|one| (one.factor - 1.0).abs() > SLIGHT);
        let weight = |e: &Evidence| e.factor.ln().abs();
        found.sort_by(|a, b| {
            b.counts.cmp(&a.counts).then(weight(b).total_cmp(&weight(a))).then(a.says.cmp(&b.says))
        });
        found
    }

    fn found(&self, cause: Cause, one: &Reading<'_>, factor: f64, counts: bool) -> Evidence {
        let (check, _) = self.weights.check(one.check);
        let row = check.rows.get(cause.name()).or_else(|| check.rows.get("sound"));
        let lacks: Vec<&str> = one.finding.lacks.iter().map(|lack| lack.word()).collect();
        Evidence {
            kind: Moved::Found,
            code: Some(one.finding.code),
            says: format!("{}: {}", check.title, one.finding.says),
            reason: self.reason(one, row.map_or("", |row| row.why.as_str()), factor),
            lacks: lacks.join(", "),
            factor,
            counts,
        }
    }

    /// Why a reading weighs; of one that weighs as much as it can, what holds it there.
    fn reason(&self, one: &Reading<'_>, why: &str, factor: f64) -> String {
        let (_, table) = self.weights.check(one.check);
        let slip = 100.0 * table.sound()[one.outcome];
        let at_most = factor >= CAPPED && one.quality >= 0.9;
        if at_most { words::capped_by_slips(why, slip) } else { why.to_owned() }
    }

    fn story(&self, cause: Cause, named: Option<bool>) -> Vec<Evidence> {
        let named = named.filter(|_| cause.with() != With::All);
        let told = story::told(self.weights, self.intake, self.age, named);
        let moved = told.into_iter().filter_map(|row| Some((row, row.times.get(&cause)?)));
        moved
            .map(|(row, factor)| Evidence {
                kind: Moved::Told,
                code: None,
                says: format!("Told: {}", story::as_told(row)),
                reason: row.reason.clone(),
                lacks: String::new(),
                factor: *factor,
                counts: true,
            })
            .collect()
    }

    /// The likeliest state without this cause, where it is likelier than the cause itself.
    fn better(&self, cause: Cause, at: &AtPlace<'_>) -> String {
        let joint = at.belief.joint();
        let own = at.belief.chance(cause);
        let p = |state: &State| -> f64 {
            let from = state.index() * SHARES;
            if cause.with() == With::All {
                joint[from]
            } else {
                joint[from..from + SHARES].iter().sum()
            }
        };
        let without = State::all().filter(|state| *state != State::Sound && !state.has(cause));
        let Some(best) = without.max_by(|one, other| p(one).total_cmp(&p(other))) else {
            return String::new();
        };
        if p(&best) <= own {
            return String::new();
        }
        let words: Vec<&str> = best.causes().map(|held| self.weights.word(held)).collect();
        format!("Explained better by: {} ({:.0} %)", words.join(" and "), 100.0 * p(&best))
    }
}
