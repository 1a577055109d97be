//! Sounds and currents from files: a WAV of one injector, a CSV of the current into it.

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
use cobaltine_core::job::Command;
use cobaltine_core::record::{FieldProblem, Found, Recording};
use cobaltine_core::signal::listening::{Sound, listen};
use cobaltine_core::signal::ramp::ramp;
use cobaltine_core::tests::engine::EngineTest;
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
    let (id, name, cylinder, check) =
        (request.id, request.name.chars().take(120).collect(), request.cylinder, request.check);
    // A second of spectra takes milliseconds; a minute of them is not for a thread that answers.
    let found = tokio::task::spawn_blocking(move || found(check, &request))
        .await
        .map_err(|_| ApiError::Panicked)??;
    let figures = found.figures();
    let recording = Recording { id, name, cylinder, found, figures, signed };
    let job = state.store.job_with(sheet, "check").await?;
    let command = Command::KeepRecording { sheet, recording };
    Ok(kept(state.store.apply(job, &act, command, signed).await?))
}

fn problem(field: &str, says: impl Into<String>) -> ApiError {
    ApiError::Fields(vec![FieldProblem::new(field, says.into())])
}

fn found(check: EngineTest, request: &RecordingRequest) -> Result<Found, ApiError> {
    let bytes = STANDARD.decode(&request.file);
    let bytes = bytes.map_err(|_| problem("file", words::FILE_IS_NOT_BASE64))?;
    let number = |field: &str, of: Field, typed: &str| {
        of.read(typed).map_err(|error| problem(field, error.to_string()))
    };
    if check == EngineTest::Listening {
        let rpm = number("drive", Field::above_zero("rpm", 60.0, 6000.0), &request.drive)?;
        let file = Wav::read(&bytes).map_err(|says| problem("file", says))?;
        let (samples, drive) = (&file.samples, file.drive.as_deref());
        let (rate_hz, expected_hz) = (file.rate_hz, rpm / 60.0 / TURNS);
        let heard = listen(&Sound { rate_hz, samples, drive, expected_hz });
        return heard.map(Found::Sound).map_err(|error| problem("file", format!("{error}.")));
    }
    let volts = Field::above_zero("V", 1.0, 400.0);
    let volts = match request.drive.trim() {
        "" => None,
        typed => Some(number("drive", volts, typed)?),
    };
    let text = std::str::from_utf8(&bytes);
    let text = text.map_err(|_| problem("file", words::FILE_IS_NO_TEXT))?;
    let amps = (Field::signed("A", -500.0, 500.0), "current");
    // A machine wrote it: a bare number is canonical, whatever the workshop reads.
    let points = within(Units::default(), || columns(text, amps));
    let points = points.map_err(|says| problem("file", says))?;
    ramp(&points, volts).map(Found::Ramp).map_err(|error| problem("file", format!("{error}.")))
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
