//! What goes over the wire of the report and of passports.

use cobaltine_core::codes::Coding;
use cobaltine_core::fitting::Fitting;
use cobaltine_core::judgement::{Cost, NextStep, Overtaken, Review};
use cobaltine_core::mark::Mark;
use cobaltine_core::plain::Plain;
use cobaltine_core::proving::Proof;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

/// What the report needs besides the job.
#[derive(Debug, Serialize, ToSchema)]
pub struct ReportView {
    /// The customer's page in sentences.
    pub plain: Plain,
    /// Each position: what was found there, a sentence each.
    pub positions: Vec<FoundAt>,
    /// One, several or all.
    pub cost: Option<Cost>,
    /// The newest review by a second person.
    pub review: Option<Review>,
    /// The one next step.
    pub step: NextStep,
    /// Decisions whose ground changed since they were signed.
    pub overtaken: Vec<Overtaken>,
    /// How the codes stand; none when the unit was never read.
    pub coding: Option<Coding>,
    /// The fitting card.
    pub fitting: Fitting,
    /// The proof.
    pub proof: Proof,
    /// A label for each injector.
    pub labels: Vec<LabelView>,
    /// SHA-256 of the job file as it is exported, in hexadecimal digits.
    pub hash: String,
}

/// What was found at a position.
#[derive(Debug, Serialize, ToSchema)]
pub struct FoundAt {
    /// Cylinder.
    pub cylinder: u32,
    /// How its injector reads.
    pub mark: Mark,
    /// What the checks said there; empty when nothing was measured.
    pub found: Vec<String>,
}

/// A label to print.
#[derive(Debug, Serialize, ToSchema)]
pub struct LabelView {
    /// The injector.
    pub injector: Uuid,
    /// Where it sits.
    pub cylinder: u32,
    /// Its own label; may be empty.
    pub label: String,
    /// The two-dimensional code as an SVG path, a module a unit.
    pub path: String,
    /// Modules across, the quiet zone included.
    pub size: usize,
}

/// The question to the passports.
#[derive(Debug, Deserialize, IntoParams)]
pub struct PassportParams {
    /// How the label begins, or what a scanner read off a printed one.
    #[serde(default)]
    pub q: String,
    /// From 0.
    #[serde(default)]
    pub page: u32,
    /// At most 60; 30 when missing.
    pub per_page: Option<u32>,
}
