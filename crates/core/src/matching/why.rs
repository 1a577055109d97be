//! Why an injector found no set: the nearest reason, in words.

use super::{Leftover, SLACK, Shelf};
use crate::matching::words;

/// Those that stand in no set, each with its reason.
pub(super) fn leftovers(
    shelf: &Shelf,
    scaled: &[Vec<Option<f64>>],
    sets: &[Vec<usize>],
) -> Vec<Leftover> {
    let mut used = vec![false; scaled.len()];
    sets.iter().flatten().for_each(|index| used[*index] = true);
    let open = (0..scaled.len()).filter(|index| !used[*index]);
    open.map(|index| Leftover { index, why: why(shelf, scaled, index) }).collect()
}

fn why(shelf: &Shelf, scaled: &[Vec<Option<f64>>], index: usize) -> String {
    if shelf.excluded.contains(&index) {
        return words::EXCLUDED_HAND.to_owned();
    }
    let lacks: Vec<&str> = shelf
        .features
        .iter()
        .zip(&scaled[index])
        .filter(|(_, value)| value.is_none())
        .map(|(feature, _)| feature.name.as_str())
        .collect();
    if !lacks.is_empty() {
        return words::not_measured(lacks.join(", "));
    }
    let alike = |other: usize, k: usize| match (scaled[index][k], scaled[other][k]) {
        (Some(one), Some(two)) => (one - two).abs() <= 1.0 + SLACK,
        (None, _) | (_, None) => false,
    };
    let others = (0..scaled.len()).filter(|other| *other != index);
    let with: Vec<usize> = others.clone().filter(|o| !shelf.excluded.contains(o)).collect();
    let features = 0..shelf.features.len();
    let mates = with.iter().filter(|o| features.clone().all(|k| alike(**o, k))).count();
    let needs = shelf.size - 1;
    if mates >= needs {
        return words::match_but_all_match(mates);
    }
    // The feature that parts it from most of them.
    let apart = features
        .map(|k| (with.iter().filter(|o| alike(**o, k)).count(), k))
        .min()
        .map_or(0, |(_, k)| k);
    let feature = &shelf.features[apart].name;
    let few = match mates {
        0 => "None is".to_owned(),
        1 => "One is".to_owned(),
        n => format!("Only {n} are"),
    };
    let needed =
        if needs == 1 { "one is needed".to_owned() } else { format!("{needs} are needed") };
    words::match_everything_sets_apart(&few, &needed, feature)
}
