//! Sounds and currents from files or instruments: a sound of one injector, the current into it, the current
//! of the starter.

use crate::device::{DeviceTalk, InstrumentError};
use crate::extract::{Doing, Path};
use crate::jobs::kept;
use crate::traces::columns;
use crate::wire::{KeptView, RecordingRequest};
use crate::words;
use crate::{ApiError, AppState};
use axum::Json;
use axum::extract::State;
use base64::Engine;
use base64::engine::general_purpose::STANDARD;
use cobaltine_core::calc::CalcError;
use cobaltine_core::instrument_link::DeviceKind;
use cobaltine_core::job::Command;
use cobaltine_core::record::{Cranked, FieldProblem, Found, Recording};
use cobaltine_core::signal::cranking::cranking;
use cobaltine_core::signal::listening::{Sound, listen};
use cobaltine_core::signal::ramp::ramp;
use cobaltine_core::tests::engine::{EngineTest, RecordedKind};
use cobaltine_core::typed::Field;
use cobaltine_core::units::{Units, within};
use hound::{SampleFormat, WavReader};
use uuid::Uuid;

/// Turns of a four-stroke engine for a stroke of each injector.
const TURNS: f64 = 2.0;
/// Samples of a file at most: a minute of two channels at the highest rate.
const SAMPLES: u32 = 60 * 192_000 * 2;

/// Keeps a recording of one injector with what was found in it.
#[utoipa::path(post, path = "/sheets/{sheet}/recordings", request_body = RecordingRequest, responses((status = 200, body = KeptView)))]
pub(crate) async fn add(
    State(state): State<AppState>,
    Path(sheet): Path<Uuid>,
    Doing { asked: request, act, signed }: Doing<RecordingRequest>,
) -> Result<Json<KeptView>, ApiError> {
    if state.store.done_before(&act).await? {
        let job = state.store.job_with(sheet, "check").await?;
        return Ok(kept(state.store.first_answer(job, &act).await?));
    }
    let (id, cylinder, check) = (request.id, request.cylinder, request.check);
    let mut name: String = request.name.chars().take(120).collect();
    let mut shown_by = None;
    let raw = match request.connection {
        None => {
            let bytes = STANDARD.decode(&request.file);
            Raw::File(bytes.map_err(|_| problem("file", words::FILE_IS_NOT_BASE64))?)
        }
        Some(connection) => {
            let connection = state.store.connection(connection).await?;
            let (kind, seconds) = taken_by(check).ok_or(InstrumentError::OtherQuantity)?;
            if connection.kind != kind {
                return Err(InstrumentError::OtherQuantity.into());
            }
            let mut talk = DeviceTalk::open(&connection, state.any_address).await?;
            let (rate_hz, points) = talk.records(cylinder, seconds).await?;
            name.clone_from(&connection.name);
            shown_by = Some(talk.shown_by);
            Raw::Taken(rate_hz, points)
        }
    };
    // A second of spectra takes milliseconds; a minute of them is not for a thread that answers.
    let job = state.store.job_with(sheet, "check").await?;
    let drive = request.drive;
    let found = tokio::task::spawn_blocking(move || found(check, &drive, raw))
        .await
        .map_err(|_| ApiError::Panicked)??;
    // The places of the starter's peaks are told by the order, not by who is asked about.
    let cylinder = match &found {
        Found::Cranking(cranked) => cranked.order.first().copied().unwrap_or(cylinder),
        Found::Sound(_) | Found::Ramp(_) => cylinder,
    };
    let figures = found.figures();
    let recording = Recording { id, name, cylinder, found, figures, shown_by, signed };
    let command = Command::KeepRecording { sheet, recording };
    Ok(kept(state.store.apply(job, &act, command, signed).await?))
}

/// Where a recording comes from.
enum Raw {
    File(Vec<u8>),
    /// Points a second, and the points.
    Taken(f64, Vec<f64>),
}

/// What takes the recordings of a check, and for how long, s.
fn taken_by(check: EngineTest) -> Option<(DeviceKind, f64)> {
    match check.recorded()?.kind {
        RecordedKind::Sound => Some((DeviceKind::Microphone, 3.0)),
        RecordedKind::Ramp => Some((DeviceKind::Clamp, 0.2)),
        RecordedKind::Cranking => None,
    }
}

fn problem(field: &str, says: impl Into<String>) -> ApiError {
    ApiError::Fields(vec![FieldProblem::new(field, says.into())])
}

fn found(check: EngineTest, drive: &str, raw: Raw) -> Result<Found, ApiError> {
    let kind = check.recorded().map(|recorded| recorded.kind);
    let kind = kind.ok_or_else(|| problem("check", words::CHECK_TAKES_NO_RECORDING))?;
    let wrong = |error: CalcError| problem("file", format!("{error}."));
    let number = |of: Field| of.read(drive).map_err(|error| problem("drive", error.to_string()));
    match kind {
        RecordedKind::Sound => {
            let rpm = number(Field::above_zero("rpm", 60.0, 6000.0))?;
            let file = match raw {
                Raw::File(bytes) => Wav::read(&bytes).map_err(|says| problem("file", says))?,
                Raw::Taken(rate_hz, points) => {
                    let samples = points.into_iter().map(|one| one as f32).collect();
                    Wav { rate_hz, samples, drive: None }
                }
            };
            let (samples, drive) = (&file.samples, file.drive.as_deref());
            let (rate_hz, expected_hz) = (file.rate_hz, rpm / 60.0 / TURNS);
            listen(&Sound { rate_hz, samples, drive, expected_hz }).map(Found::Sound).map_err(wrong)
        }
        RecordedKind::Ramp => {
            let volts = match drive.trim() {
                "" => None,
                _ => Some(number(Field::above_zero("V", 1.0, 400.0))?),
            };
            ramp(&raw.amps()?, volts).map(Found::Ramp).map_err(wrong)
        }
        RecordedKind::Cranking => {
            let parts = drive.split(|c: char| !c.is_ascii_digit()).filter(|part| !part.is_empty());
            let typed: Option<Vec<u32>> = parts.map(|part| part.parse().ok()).collect();
            // The peaks name no cylinder by themselves: which one the first belongs to has to be said.
            let order = if drive.trim().is_empty() { None } else { typed };
            let order = order.filter(|order| (2..=16).contains(&order.len()));
            let order = order.ok_or_else(|| problem("drive", words::ENTER_FIRING_ORDER))?;
            let read = cranking(&raw.amps()?, order.len() as u32).map_err(wrong)?;
            Ok(Found::Cranking(Cranked { order, read }))
        }
    }
}

impl Raw {
    /// Time in s and current in A.
    fn amps(self) -> Result<Vec<[f64; 2]>, ApiError> {
        match self {
            Self::Taken(rate_hz, points) => {
                let at = |(i, amps): (usize, f64)| [i as f64 / rate_hz, amps];
                Ok(points.into_iter().enumerate().map(at).collect())
            }
            Self::File(bytes) => {
                let text = std::str::from_utf8(&bytes);
                let text = text.map_err(|_| problem("file", words::FILE_IS_NO_TEXT))?;
                let amps = (Field::signed("A", -3000.0, 3000.0), "current");
                // A machine wrote it: a bare number is canonical, whatever the workshop reads.
                let points = within(Units::default(), || columns(text, amps));
                points.map_err(|says| problem("file", says))
            }
        }
    }
}

/// A sound as a file holds it; a second channel is the drive of the injector.
struct Wav {
    rate_hz: f64,
    samples: Vec<f32>,
    drive: Option<Vec<f32>>,
}

impl Wav {
    fn read(bytes: &[u8]) -> Result<Self, String> {
        let no = |error: hound::Error| words::no_wav(error);
        let reader = WavReader::new(bytes).map_err(no)?;
        let (spec, count) = (reader.spec(), reader.len());
        if !(1..=2).contains(&spec.channels) || count > SAMPLES {
            return Err(words::WAV_OF_ONE_OR_TWO.to_owned());
        }
        let all: Vec<f32> = match spec.sample_format {
            SampleFormat::Float => reader.into_samples::<f32>().collect::<Result<_, _>>(),
            SampleFormat::Int => {
                let whole = (1_i64 << (spec.bits_per_sample.clamp(1, 32) - 1)) as f32;
                let samples = reader.into_samples::<i32>();
                samples.map(|one| one.map(|one| one as f32 / whole)).collect()
            }
        }
        .map_err(no)?;
        let channels = usize::from(spec.channels);
        let channel = |of: usize| all.iter().skip(of).step_by(channels).copied().collect();
        let drive = (channels == 2).then(|| channel(1));
        Ok(Self { rate_hz: f64::from(spec.sample_rate), samples: channel(0), drive })
    }
}
