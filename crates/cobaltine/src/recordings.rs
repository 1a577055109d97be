//! `cobaltine recordings`: what a microphone and a current clamp take up at a made-up engine, as files
//! that the checks read. The stand-in for instruments that nobody has at hand: to try, to teach, to test.

use crate::made::Made;
use crate::words;
use cobaltine_engines::signal::{
    Clamp, Hall, Recorded, drive_current, sound_at, starter_current, tick,
};
use hound::{SampleFormat, WavSpec, WavWriter};
use std::fmt::Write;
use std::path::{Path, PathBuf};

/// What is asked for.
#[derive(Debug, clap::Args)]
pub(crate) struct Asked {
    /// Folder of the files.
    #[arg(long)]
    pub out: PathBuf,
    #[command(flatten)]
    pub made: Made,
    /// Noise around against a tick, dB: -45 in a quiet room, -20 in a loud hall.
    #[arg(long, default_value_t = -32.0, allow_negative_numbers = true)]
    pub noise: f64,
}

/// Idle speed of the recordings.
const RPM: f64 = 800.0;
/// A clamp on a scope.
const CLAMP: Clamp = Clamp { rate_hz: 50_000.0, noise_a: 0.012, digit_a: 0.005, pulses: 8 };
/// Firing order, from 0.
const ORDER: [usize; 4] = [0, 2, 3, 1];

/// Writes a WAV and a CSV for each injector, and a CSV of the starter.
pub(crate) fn write(asked: &Asked) -> anyhow::Result<()> {
    let (engine, seed) = (asked.made.engine()?, asked.made.seed);
    std::fs::create_dir_all(&asked.out)?;
    let ticks: Vec<_> = (0..4).map(|cylinder| tick(&engine, cylinder)).collect();
    let hall = Hall { noise_db: asked.noise, bangs: 0.3, seconds: 5.0, rpm: RPM };
    for cylinder in 0..4 {
        let name = |end| asked.out.join(format!("cylinder-{}.{end}", cylinder + 1));
        wav(&name("wav"), &sound_at(&ticks, cylinder, &hall, seed))?;
        csv(&name("csv"), &drive_current(&engine, cylinder, &CLAMP, seed))?;
    }
    csv(&asked.out.join("starter.csv"), &starter_current(&engine, &ORDER, 6.0, seed))?;
    println!("{}", words::recordings_written(asked.out.display(), RPM));
    Ok(())
}

/// Two channels: the sound, and the drive beside it.
fn wav(file: &Path, of: &Recorded) -> anyhow::Result<()> {
    let sample_format = SampleFormat::Int;
    let sample_rate = of.rate_hz as u32;
    let spec = WavSpec { channels: 2, sample_rate, bits_per_sample: 16, sample_format };
    let mut out = WavWriter::create(file, spec)?;
    for (sample, drive) in of.samples.iter().zip(&of.drive) {
        for value in [sample, drive] {
            out.write_sample((value * f32::from(i16::MAX)) as i16)?;
        }
    }
    Ok(out.finalize()?)
}

fn csv(file: &Path, points: &[[f64; 2]]) -> anyhow::Result<()> {
    let mut text = "time (s),current (A)\n".to_owned();
    for [time, amps] in points {
        writeln!(text, "{time:.6},{amps:.4}")?;
    }
    Ok(std::fs::write(file, text)?)
}
