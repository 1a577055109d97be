//! Secrets that people choose: kept as salted hashes, and looked at seldom after wrong tries.
//!
//! # Source
//! RFC 9106 (Argon2) for the hash; the pauses are a house rule: with them ten thousand guesses take
//! longer than a year.

use crate::StoreError;
use crate::rows;
use argon2::{Argon2, PasswordHasher, PasswordVerifier};
use jiff::{SignedDuration, Timestamp};
use std::panic::{AssertUnwindSafe, catch_unwind};
use std::sync::{LazyLock, mpsc};
use tokio::sync::oneshot;

/// Wrong tries without a pause.
const FREE: u32 = 3;
/// The longest pause, minutes.
const LONGEST: i64 = 60;

/// How long nobody's next try is looked at, after so many.
pub(crate) fn pause(tries: u32) -> SignedDuration {
    let minutes = tries.checked_sub(FREE).map_or(0, |over| (1_i64 << over.min(10)).min(LONGEST));
    SignedDuration::from_mins(minutes)
}

/// Minutes until a try is looked at again.
pub(crate) fn minutes(open_at: Timestamp, at: Timestamp) -> i64 {
    open_at.duration_since(at).as_mins() + 1
}

/// The hash to keep of a secret.
pub(crate) async fn hashed(secret: String) -> Result<String, StoreError> {
    beside(move || Argon2::default().hash_password(secret.as_bytes()).map(|hash| hash.to_string()))
        .await
}

/// Whether this is the secret behind a hash. Without a hash it is none, and takes as long to say.
pub(crate) async fn matches(hash: Option<String>, secret: String) -> Result<bool, StoreError> {
    let Some(hash) = hash else {
        hashed(secret).await?;
        return Ok(false);
    };
    beside(move || {
        let hash = argon2::PasswordHash::new(&hash)?;
        Ok(Argon2::default().verify_password(secret.as_bytes(), &hash).is_ok())
    })
    .await
}

/// Work for the one thread that hashes.
type Hashing = Box<dyn FnOnce() + Send>;

/// Hashing takes 19 MiB and a core for tens of milliseconds: one after the other, on a thread of its own,
/// so that the memory is taken once and not by every thread that ever did it.
static HASHING: LazyLock<mpsc::Sender<Hashing>> = LazyLock::new(|| {
    let (send, work) = mpsc::channel::<Hashing>();
    // One that panics is told as an error to whoever asked for it; the next goes on.
    std::thread::spawn(move || {
        work.iter().for_each(|one| drop(catch_unwind(AssertUnwindSafe(one))));
    });
    send
});

async fn beside<T: Send + 'static>(
    make: impl FnOnce() -> Result<T, argon2::password_hash::Error> + Send + 'static,
) -> Result<T, StoreError> {
    let (send, made) = oneshot::channel();
    // Whoever asked may have gone meanwhile.
    let hashing = Box::new(move || drop(send.send(make())));
    HASHING.send(hashing).map_err(|_| std::io::Error::other("hashing ended"))?;
    let made = made.await.map_err(std::io::Error::other)?;
    Ok(made.map_err(|error| std::io::Error::other(error.to_string()))?)
}

/// A secret that the program makes: 244 random bits, and the hash that is kept of it.
pub(crate) fn token() -> (String, String) {
    let text = format!("{}{}", uuid::Uuid::new_v4().simple(), uuid::Uuid::new_v4().simple());
    let kept = rows::hexadecimal(text.as_bytes());
    (text, kept)
}
