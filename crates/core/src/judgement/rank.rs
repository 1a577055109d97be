//! Ranked causes of one place: prior odds, what the story does to them, and every finding.
//!
//! Each cause is a question of its own, so two faults in one injector, a fault that all share and
//! no fault at all are ordinary answers: `odds = prior odds · story · Π factors`. Findings of one
//! group answer the same question, so of each group only the strongest for and the strongest
//! against count. Healthy is the chance that none of the causes is there. A finding against a
//! cause can therefore never raise it, and the order of findings does not matter.
//!
//! # Source
//! Bayes' rule on odds; house rule for the weights.

use super::cause::{Cause, With};
use super::finding::{Code, Finding};
use super::story::{self, Age};
use super::weights::Weights;
use crate::record::Intake;
use serde::Serialize;
use std::collections::BTreeMap;
use utoipa::ToSchema;
use uuid::Uuid;

/// One thing that moved a cause.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Evidence {
    /// What was found; none for the story of the job.
    pub code: Option<Code>,
    /// What it says.
    pub says: String,
    /// Why it weighs.
    pub reason: String,
    /// Above 1 for the cause, below 1 against it.
    pub factor: f64,
    /// False where a stronger finding of the same group already counts.
    pub counts: bool,
}

/// A cause at one place.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Ranked {
    /// Which; none for healthy.
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
}

/// One place: a cylinder and the injector in it.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) struct Place {
    pub cylinder: u32,
    pub injector: Uuid,
}

/// How likely each cause is, in the order of [`Cause::ALL`].
#[derive(Debug, Clone, PartialEq)]
pub(super) struct Belief(Vec<f64>);

impl Belief {
    pub(super) fn of(&self, cause: Cause) -> f64 {
        let at = Cause::ALL.iter().position(|one| *one == cause);
        at.and_then(|at| self.0.get(at)).copied().unwrap_or(0.0)
    }

    /// The chance that at least one of these is there.
    pub(super) fn any(&self, causes: impl IntoIterator<Item = Cause>) -> f64 {
        1.0 - causes.into_iter().map(|cause| 1.0 - self.of(cause)).product::<f64>()
    }

    pub(super) fn healthy(&self) -> f64 {
        self.0.iter().map(|p| 1.0 - p).product()
    }

    /// The likeliest cause.
    pub(super) fn first(&self) -> (Cause, f64) {
        let ranked = Cause::ALL.iter().copied().map(|cause| (cause, self.of(cause)));
        ranked
            .reduce(|best, one| if one.1 > best.1 { one } else { best })
            .unwrap_or((Cause::Restricted, 0.0))
    }
}

/// Whether a finding speaks about a cause at this place.
fn about(finding: &Finding, with: With, place: Place) -> bool {
    match with {
        With::Injector => {
            finding.injector == Some(place.injector)
                || (finding.injector.is_none() && finding.cylinder.is_none())
        }
        With::Cylinder => finding.cylinder.is_none_or(|cylinder| cylinder == place.cylinder),
        With::All => finding.cylinder.is_none(),
    }
}

fn odds(p: f64) -> f64 {
    p / (1.0 - p)
}

fn chance(odds: f64) -> f64 {
    if odds.is_infinite() { 1.0 } else { odds / (1.0 + odds) }
}

/// Everything that ranking needs of a job.
pub(super) struct Ranking<'a> {
    pub weights: &'a Weights,
    pub intake: &'a Intake,
    pub age: Option<Age>,
    pub findings: &'a [Finding],
}

impl<'a> Ranking<'a> {
    /// Before anything was measured: prior and story, with the rows that moved it.
    fn before(&self, cause: Cause) -> (f64, Vec<Evidence>) {
        let (prior, _) = self.weights.prior(cause, self.intake.fuel_system);
        let mut evidence = Vec::new();
        let mut at = odds(prior);
        for row in story::told(self.weights, self.intake, self.age) {
            let Some(factor) = row.times.get(&cause).copied() else { continue };
            at *= factor;
            let told = row.when.split(':').next_back().unwrap_or_default().replace('_', " ");
            evidence.push(Evidence {
                code: None,
                says: format!("Told: {told}"),
                reason: row.reason.clone(),
                factor,
                counts: true,
            });
        }
        (if prior == 0.0 { 0.0 } else { chance(at) }, evidence)
    }

    /// Findings that move a cause at this place; within a group the strongest each way counts.
    fn moved(&self, cause: Cause, place: Place) -> Vec<Evidence> {
        let with = self.weights.with(cause);
        let mut of_group: BTreeMap<&str, Vec<Evidence>> = BTreeMap::new();
        let about: Vec<&Finding> =
            self.findings.iter().filter(|one| about(one, with, place)).collect();
        // Of a place the newest of each check holds, whichever injector sat there.
        let newest = |finding: &Finding| {
            let same = about.iter().filter(|one| one.check == finding.check);
            same.map(|one| one.at).max() == Some(finding.at)
        };
        for finding in about.iter().copied() {
            if with == With::Cylinder && !newest(finding) {
                continue;
            }
            let Some(code) = finding.code else { continue };
            let Some((check, row)) = self.weights.row(code) else { continue };
            let factor = self.weights.factor(code, cause);
            if (factor - 1.0).abs() < SLIGHT {
                continue;
            }
            of_group.entry(check.group.as_str()).or_default().push(Evidence {
                code: Some(code),
                says: format!("{}: {}", self.weights.title(code), finding.says),
                reason: row.reason.clone(),
                factor,
                counts: false,
            });
        }
        for group in of_group.values_mut() {
            let strongest = |group: &[Evidence], sign: f64| {
                let side = |e: &&Evidence| e.factor.ln() * sign > 0.0;
                group
                    .iter()
                    .filter(side)
                    .map(|e| e.factor)
                    .reduce(|a, b| if a.ln() * sign >= b.ln() * sign { a } else { b })
            };
            for sign in [1.0, -1.0] {
                let Some(strongest) = strongest(group, sign) else { continue };
                if let Some(one) = group.iter_mut().find(|e| e.factor == strongest) {
                    one.counts = true;
                }
            }
        }
        let mut evidence: Vec<Evidence> = of_group.into_values().flatten().collect();
        let weight = |e: &Evidence| e.factor.ln().abs();
        evidence.sort_by(|a, b| {
            b.counts.cmp(&a.counts).then(weight(b).total_cmp(&weight(a))).then(a.says.cmp(&b.says))
        });
        evidence
    }

    /// How likely each cause is at a place, without the words.
    pub(super) fn belief(&self, place: Place) -> Belief {
        let of = |cause: Cause| {
            let (before, _) = self.before(cause);
            let factors = self.moved(cause, place).into_iter().filter(|e| e.counts);
            let times: f64 = factors.map(|e| e.factor).product();
            if before == 0.0 { 0.0 } else { chance(odds(before) * times) }
        };
        Belief(Cause::ALL.iter().copied().map(of).collect())
    }

    /// The causes of a place, likeliest first, healthy among them.
    pub(super) fn ranked(&self, place: Place, belief: &Belief) -> Vec<Ranked> {
        let mut ranked: Vec<Ranked> = Cause::ALL
            .iter()
            .copied()
            .filter(|cause| belief.of(*cause) >= self.weights.shown())
            .map(|cause| {
                let (before, told) = self.before(cause);
                let (_, prior_reason) = self.weights.prior(cause, self.intake.fuel_system);
                Ranked {
                    cause: Some(cause),
                    word: self.weights.word(cause).to_owned(),
                    p: belief.of(cause),
                    before,
                    prior_reason: prior_reason.to_owned(),
                    evidence: self.moved(cause, place).into_iter().chain(told).collect(),
                }
            })
            .collect();
        let before: f64 = Cause::ALL.iter().map(|cause| 1.0 - self.before(*cause).0).product();
        ranked.push(Ranked {
            cause: None,
            word: "healthy".to_owned(),
            p: belief.healthy(),
            before,
            prior_reason: "None of the causes is there.".to_owned(),
            evidence: Vec::new(),
        });
        ranked.sort_by(|a, b| b.p.total_cmp(&a.p).then(a.cause.cmp(&b.cause)));
        ranked
    }
}

/// Factors this close to 1 say nothing.
const SLIGHT: f64 = 0.08;
