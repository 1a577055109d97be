//! What an instrument showed, point by point, packed small enough to be kept with a reading.
//!
//! Times in ms and values to a thousandth of their unit; each is kept as its difference from the one before,
//! so that a level that hardly moves costs hardly anything, then deflated, as base64 text. Nothing is
//! thinned.
//!
//! # Source
//! Variable-length integers with the sign in the lowest bit; RFC 1951 (deflate); RFC 4648 (base64).
//!
//! ```
//! use cobaltine_core::raw::{Point, pack, unpack};
//! let points: Vec<Point> =
//!     (0..500).map(|i| Point { ms: i * 20, values: vec![f64::from(i / 7) / 10.0; 8] }).collect();
//! let packed = pack(&points);
//! assert!(packed.len() < 400, "500 points of eight bottles: {} bytes", packed.len());
//! assert_eq!(unpack(&packed).unwrap(), points);
//! ```

mod words;

use base64::Engine as _;
use base64::engine::general_purpose::STANDARD_NO_PAD;
use flate2::Compression;
use flate2::read::{DeflateDecoder, DeflateEncoder};
use std::io::Read as _;
use thiserror::Error;

/// Points of one stretch at most.
pub const POINTS: usize = 6000;
/// Channels at most.
pub const CHANNELS: usize = 32;
/// Parts of a unit that are kept.
const PARTS: f64 = 1000.0;
/// Longest stretch, bytes before it is deflated: each number of the longest takes ten at most.
const LONGEST: u64 = (POINTS * (CHANNELS + 1) * 10) as u64;

/// What was shown at one moment.
#[derive(Debug, Clone, PartialEq)]
pub struct Point {
    /// Since the run began, ms.
    pub ms: u32,
    /// Channel by channel.
    pub values: Vec<f64>,
}

/// It is no packed stretch.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Error)]
#[error("{}", words::CANNOT_BE_UNPACKED)]
pub struct NotPacked;

/// Packs points. Values are kept to a thousandth; all points have the channels of the first.
pub fn pack(points: &[Point]) -> String {
    let channels = points.first().map_or(0, |point| point.values.len());
    let mut bytes = Vec::new();
    put(&mut bytes, points.len() as u64);
    put(&mut bytes, channels as u64);
    let mut before = 0;
    for point in points {
        put(&mut bytes, u64::from(point.ms.wrapping_sub(before)));
        before = point.ms;
    }
    // A channel at a time: neighbours that are alike pack better.
    for channel in 0..channels {
        let mut before = 0;
        for point in points {
            let value = point.values.get(channel).copied().unwrap_or_default();
            let value = (value * PARTS).round() as i64;
            let step = value.wrapping_sub(before);
            put(&mut bytes, ((step << 1) ^ (step >> 63)) as u64);
            before = value;
        }
    }
    let mut packed = Vec::new();
    // Reading from memory into memory cannot fail.
    let _ = DeflateEncoder::new(bytes.as_slice(), Compression::best()).read_to_end(&mut packed);
    STANDARD_NO_PAD.encode(packed)
}

/// Unpacks points.
///
/// # Errors
/// [`NotPacked`].
pub fn unpack(packed: &str) -> Result<Vec<Point>, NotPacked> {
    let packed = STANDARD_NO_PAD.decode(packed).map_err(|_| NotPacked)?;
    let mut bytes = Vec::new();
    let read = DeflateDecoder::new(packed.as_slice()).take(LONGEST).read_to_end(&mut bytes);
    read.map_err(|_| NotPacked)?;
    let rest = &mut bytes.as_slice();
    let (count, channels) = (get(rest)? as usize, get(rest)? as usize);
    if count > POINTS || channels > CHANNELS {
        return Err(NotPacked);
    }
    let mut points = Vec::with_capacity(count);
    let mut ms = 0_u32;
    for _ in 0..count {
        ms = ms.wrapping_add(u32::try_from(get(rest)?).map_err(|_| NotPacked)?);
        points.push(Point { ms, values: Vec::with_capacity(channels) });
    }
    for _ in 0..channels {
        let mut value = 0_i64;
        for point in &mut points {
            let step = get(rest)?;
            value = value.wrapping_add((step >> 1) as i64 ^ -((step & 1) as i64));
            point.values.push(value as f64 / PARTS);
        }
    }
    if rest.is_empty() { Ok(points) } else { Err(NotPacked) }
}

fn put(bytes: &mut Vec<u8>, mut value: u64) {
    while value >= 0x80 {
        bytes.push(value as u8 | 0x80);
        value >>= 7;
    }
    bytes.push(value as u8);
}

fn get(rest: &mut &[u8]) -> Result<u64, NotPacked> {
    let mut value = 0;
    for shift in (0..64).step_by(7) {
        let (byte, after) = rest.split_first().ok_or(NotPacked)?;
        *rest = after;
        value |= u64::from(byte & 0x7f) << shift;
        if byte & 0x80 == 0 {
            return Ok(value);
        }
    }
    Err(NotPacked)
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn what_was_packed_comes_back_to_a_thousandth(
            rows in prop::collection::vec((0_u32..4_000_000, prop::array::uniform3(-4e8_f64..4e8)), 0..60)
        ) {
            let points: Vec<Point> = rows
                .into_iter()
                .map(|(ms, values)| Point { ms, values: values.to_vec() })
                .collect();
            let back = unpack(&pack(&points)).unwrap();
            prop_assert_eq!(back.len(), points.len());
            for (back, point) in back.iter().zip(&points) {
                prop_assert_eq!(back.ms, point.ms);
                for (back, value) in back.values.iter().zip(&point.values) {
                    prop_assert!((back - value).abs() <= 0.000_51 + value.abs() * 1e-15, "{} {}", back, value);
                }
            }
        }

        #[test]
        fn what_is_no_stretch_is_refused_and_panics_nowhere(text in "[A-Za-z0-9+/]{0,200}") {
            let _ = unpack(&text);
        }
    }

    #[test]
    fn a_stretch_that_claims_more_than_it_holds_is_refused() {
        let some = [Point { ms: 20, values: vec![1.0, 2.0] }];
        let packed = STANDARD_NO_PAD.decode(pack(&some)).unwrap();
        for cut in 0..packed.len() - 1 {
            assert!(unpack(&STANDARD_NO_PAD.encode(&packed[..cut])).is_err(), "{cut}");
        }
        assert_eq!(unpack("§"), Err(NotPacked));
    }
}
