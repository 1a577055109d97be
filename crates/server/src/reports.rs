//! What the printed report needs besides the job: plain words, cost, codes, proof, labels, and the hash
//! of the job file that it was made from.

use crate::extract::Path;
use crate::wire::{FoundAt, LabelView, ReportView};
use crate::{ApiError, AppState, judgement};
use axum::Json;
use axum::extract::State;
use cobaltine_core::codes::coding;
use cobaltine_core::fitting::fitting;
use cobaltine_core::judgement::Judgement;
use cobaltine_core::passport::label_text;
use cobaltine_core::plain::plain;
use cobaltine_core::proving::proof;
use cobaltine_core::record::JobFile;
use qrcode::{Color, EcLevel, QrCode};
use sha2::{Digest, Sha256};
use std::fmt::Write;
use uuid::Uuid;

/// The report of a job.
#[utoipa::path(get, path = "/jobs/{job}/report", responses((status = 200, body = ReportView)))]
pub(crate) async fn read(
    State(state): State<AppState>,
    Path(job): Path<Uuid>,
) -> Result<Json<ReportView>, ApiError> {
    let held = state.store.judged(job).await?;
    let file = &held.file;
    let family = state.store.torque_of(file.job.intake.family_id).await?;
    let judged = &held.opinion()?.judged;
    let (fitting, proof) = (fitting(file, &family), proof(file, judged, &family));
    let judgement = judgement::of(&state, &held).await?;
    let coding = coding(file);
    Ok(Json(ReportView {
        plain: plain(file, judged, &fitting, &proof),
        positions: found(&judgement),
        cost: judgement.cost,
        step: judgement.step,
        overtaken: judgement.overtaken,
        review: judgement.review,
        coding: coding.read.then_some(coding),
        labels: labels(file),
        hash: hash(file)?,
        fitting,
        proof,
    }))
}

fn found(judgement: &Judgement) -> Vec<FoundAt> {
    let at = judgement.positions.iter();
    at.map(|at| FoundAt { cylinder: at.cylinder, mark: at.mark, found: at.found.clone() }).collect()
}

/// SHA-256 of the job file, byte for byte as it is exported, in hexadecimal digits.
fn hash(file: &JobFile) -> Result<String, ApiError> {
    let bytes = serde_json::to_vec(file).map_err(cobaltine_store::StoreError::from)?;
    let mut text = String::new();
    for byte in Sha256::digest(&bytes) {
        // Writing into a string cannot fail.
        let _ = write!(text, "{byte:02x}");
    }
    Ok(text)
}

/// A label for each injector that sits in the engine, in the order of cylinders.
fn labels(file: &JobFile) -> Vec<LabelView> {
    let seats = file.seats(None).into_iter();
    let label = |seat: cobaltine_core::record::Seat| {
        let (path, size) = drawn(&label_text(seat.injector))?;
        let (injector, cylinder, label) = (seat.injector, seat.cylinder, seat.label);
        Some(LabelView { injector, cylinder, label, path, size })
    };
    seats.filter_map(label).collect()
}

/// The dark modules of a two-dimensional code as one path, and how many modules it is wide with the
/// quiet zone of four around it.
fn drawn(text: &str) -> Option<(String, usize)> {
    const QUIET: usize = 4;
    let code = QrCode::with_error_correction_level(text, EcLevel::M).ok()?;
    let width = code.width();
    let mut path = String::new();
    for (at, color) in code.to_colors().into_iter().enumerate() {
        if color == Color::Dark {
            let _ = write!(path, "M{} {}h1v1h-1z", at % width + QUIET, at / width + QUIET);
        }
    }
    Some((path, width + 2 * QUIET))
}
