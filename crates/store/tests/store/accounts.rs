//! Guessing, by a clock that is passed in.

use super::Shop;
use cobaltine_store::StoreError;
use jiff::{SignedDuration, Timestamp};

/// One guess in every ten seconds or so, through a whole day: how many of them were looked at.
const GUESSES: i64 = 10_000;

fn at_guess(begin: Timestamp, guess: i64) -> Timestamp {
    begin + SignedDuration::from_millis(86_400_000 / GUESSES * guess)
}

#[tokio::test]
async fn ten_thousand_guesses_get_nowhere_in_a_day_and_the_right_one_still_does() {
    let shop = Shop::open().await;
    let begin = shop.signed.at;
    let token = shop.store.owner_link(begin).await.unwrap();
    let person = shop.store.join(&token, "maren", "three lamps at dusk", begin).await.unwrap();
    assert_eq!(person, shop.signed.by, "a name that is here already gets the account");
    shop.store.set_pin(person, "4711", Some(""), begin).await.unwrap();

    let (mut passwords, mut pins) = (0, 0);
    for guess in 0..GUESSES {
        let at = at_guess(begin, guess);
        let password = format!("three lamps at {guess}");
        match shop.store.prove_password("Maren", &password, "192.0.2.7", at).await {
            Err(StoreError::Invalid(_)) => passwords += 1,
            Err(StoreError::TooSoon { minutes }) => assert!((1..=60).contains(&minutes)),
            other => unreachable!("{other:?}"),
        }
        // Every PIN but the right one, and that one too while a pause goes on.
        let pin = format!("{guess:04}");
        match shop.store.prove_pin(person, &pin, at).await {
            Err(StoreError::Invalid(said)) if said[0].message.starts_with("Wrong") => pins += 1,
            Err(StoreError::Invalid(said)) => assert!(said[0].message.contains("Try again in")),
            other => unreachable!("{pin}: {other:?}"),
        }
    }
    assert!((20..40).contains(&passwords) && (20..40).contains(&pins), "{passwords} {pins}");
    // Somebody at another place comes in by the right one meanwhile, and the PIN is open again.
    let end = at_guess(begin, GUESSES);
    let right = "three lamps at dusk";
    let told = shop.store.prove_password("Maren", right, "192.0.2.8", end).await;
    assert_eq!(told.unwrap(), person);
    shop.store.prove_pin(person, "4711", end).await.unwrap();
    // An unknown name is refused in the same words.
    let unknown = shop.store.prove_password("Nobody", right, "192.0.2.9", end).await;
    let wrong = shop.store.prove_password("Maren", "wrong", "192.0.2.9", end).await;
    assert_eq!(format!("{unknown:?}"), format!("{wrong:?}"));
}
