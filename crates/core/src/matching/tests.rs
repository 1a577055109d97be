//! Matching: by trying everything, by what has to hold, and as fast as it has to be.

use super::*;
use proptest::prelude::*;
use std::time::Instant;

fn feature(name: &str, tolerance: f64) -> Feature {
    Feature { name: name.to_owned(), kind: FeatureKind::Ratio, tolerance }
}

fn shelf(values: &[[f64; 2]], size: usize) -> Shelf {
    Shelf {
        features: vec![feature("static flow", 0.02), feature("short pulse", 0.04)],
        values: values.iter().map(|v| v.iter().copied().map(Some).collect()).collect(),
        size,
        ..Shelf::default()
    }
}

fn quietly(_: Progress) -> ControlFlow<()> {
    ControlFlow::Continue(())
}

/// A shelf as a workshop has one: three features around a middle, some of them far off.
fn workshop(count: usize, seed: u64) -> Shelf {
    let mut state = seed.wrapping_mul(0x9E37_79B9_7F4A_7C15) | 1;
    let mut uniform = move || {
        state ^= state << 13;
        state ^= state >> 7;
        state ^= state << 17;
        (state >> 11) as f64 / (1_u64 << 53) as f64
    };
    // The sum of twelve uniform numbers is close to normal.
    let mut normal = move |sd: f64| ((0..12).map(|_| uniform()).sum::<f64>() - 6.0) * sd;
    let values = (0..count)
        .map(|_| {
            let flow = 250.0 * (1.0 + normal(0.012));
            vec![
                Some(flow),
                Some(14.0 * (1.0 + normal(0.02)) * (flow / 250.0)),
                Some(14.5 * (1.0 + normal(0.008))),
            ]
        })
        .collect();
    Shelf {
        features: vec![
            feature("static flow", 0.02),
            feature("short pulse", 0.04),
            feature("resistance", 0.03),
        ],
        values,
        size: 6,
        ..Shelf::default()
    }
}

/// Every set holds, nobody stands twice, and everybody is told of.
fn holds(shelf: &Shelf, out: &Matched) {
    let mut seen: Vec<usize> = out.sets.concat();
    seen.extend(out.leftovers.iter().map(|left| left.index));
    seen.sort_unstable();
    assert_eq!(seen, (0..shelf.values.len()).collect::<Vec<_>>());
    for set in &out.sets {
        assert_eq!(set.len(), shelf.size);
        for (k, feature) in shelf.features.iter().enumerate() {
            let of = set.iter().map(|i| shelf.values[*i][k].unwrap());
            let (low, high) = of.fold((f64::INFINITY, 0.0_f64), |(l, h), v| (l.min(v), h.max(v)));
            assert!(high / low <= 1.0 + feature.tolerance + 1e-9, "{set:?} in {}", feature.name);
        }
    }
    assert!(out.sets.len() <= out.bound);
}

#[test]
fn a_wish_is_kept_or_refused_and_leftovers_say_why() {
    let mut s = shelf(
        &[[100.0, 10.0], [100.5, 10.1], [101.0, 10.2], [101.2, 10.0], [120.0, 10.0], [100.2, 13.0]],
        2,
    );
    s.values.push(vec![Some(100.0), None]);
    let out = matched(&s, 1, &mut quietly).unwrap();
    holds(&s, &out);
    assert_eq!((out.sets.len(), out.bound, out.exact), (2, 2, true));
    let why: Vec<&str> = out.leftovers.iter().map(|left| left.why.as_str()).collect();
    assert_eq!(
        why,
        [
            "None is a match in everything, one is needed; static flow sets it apart.",
            "None is a match in everything, one is needed; short pulse sets it apart.",
            "Not measured: short pulse."
        ]
    );
    s.together = vec![vec![0, 3]];
    s.excluded = vec![1];
    let out = matched(&s, 1, &mut quietly).unwrap();
    assert_eq!(out.sets, [[0, 3]]);
    assert!(out.leftovers.iter().any(|left| left.why == "Excluded by hand."));
    s.pinned = vec![vec![2, 3]];
    let refused = matched(&s, 1, &mut quietly).unwrap_err();
    assert_eq!(refused.to_string(), "injector 4 appears twice");
    s.together.clear();
    s.pinned = vec![vec![0, 4]];
    let refused = matched(&s, 1, &mut quietly).unwrap_err();
    assert!(refused.to_string().starts_with("pinned set 1 is not valid"), "{refused}");
    s.pinned = vec![vec![0, 2]];
    assert_eq!(matched(&s, 1, &mut quietly).unwrap().sets, [[0, 2]]);
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(32))]
    #[test]
    fn the_search_finds_what_trying_everything_finds_and_the_bound_is_never_below_it(
        values in prop::collection::vec((96.0..104.0_f64, 9.4..10.6_f64), 4..13), size in 2..5_usize,
    ) {
        let values: Vec<[f64; 2]> = values.into_iter().map(|(a, b)| [a, b]).collect();
        let s = shelf(&values, size);
        let exact = matched(&s, 1, &mut quietly).unwrap();
        holds(&s, &exact);
        let (packing, _) = packing(&s, &scaled(&s).unwrap()).unwrap();
        let searched = search::solve(&packing, 7, &mut quietly);
        prop_assert!(searched.bound >= exact.sets.len(), "{} < {}", searched.bound, exact.sets.len());
        prop_assert_eq!(searched.sets.len(), exact.sets.len());
    }

    #[test]
    fn a_larger_unit_changes_no_set(scale in 0.1..10.0_f64, seed in 0..50_u64) {
        let s = workshop(40, seed);
        let mut larger = s.clone();
        larger.values.iter_mut().flatten().flatten().for_each(|v| *v *= scale);
        let (one, other) = (matched(&s, 3, &mut quietly).unwrap(), matched(&larger, 3, &mut quietly).unwrap());
        holds(&s, &one);
        prop_assert_eq!(one.sets.len(), other.sets.len());
        prop_assert_eq!(one.bound, other.bound);
    }
}

#[test]
fn a_large_shelf_is_matched_in_time_with_a_stated_gap_and_can_be_stopped() {
    for tightness in [1.0, 0.75, 0.5] {
        for seed in 1..=4 {
            let mut s = workshop(300, seed);
            s.features.iter_mut().for_each(|feature| feature.tolerance *= tightness);
            let from = Instant::now();
            let out = matched(&s, 1, &mut quietly).unwrap();
            let took = from.elapsed().as_secs_f64();
            holds(&s, &out);
            println!(
                "300 in sets of 6, tolerances × {tightness}: {} sets, at most {}, gap {:.1} %, spread {:.2}, {took:.2} s",
                out.sets.len(),
                out.bound,
                100.0 * out.gap(),
                out.spread / out.sets.len() as f64
            );
            // In the usual tolerances of the trade; tighter ones state their gap.
            assert!(tightness < 1.0 || out.gap() < 0.01);
        }
    }
    let mut s = workshop(300, 9);
    s.features.iter_mut().for_each(|feature| feature.tolerance *= 0.5);
    let mut heard = 0;
    let stopped = matched(&s, 1, &mut |progress: Progress| {
        heard += 1;
        assert!(progress.sets <= progress.bound && progress.step < progress.steps);
        if heard == 2 { ControlFlow::Break(()) } else { ControlFlow::Continue(()) }
    })
    .unwrap();
    holds(&s, &stopped);
    assert!(stopped.stopped && heard == 2 && !stopped.sets.is_empty());
}
