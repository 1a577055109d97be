use super::*;
use crate::raw::unpack;
use proptest::prelude::*;

fn by() -> ShownBy {
    let (name, identity) = ("Bay 1 bottles".to_owned(), "COBALTINE,BOTTLES,1,1.0".to_owned());
    ShownBy { connection: Uuid::nil(), name, identity }
}

/// Two bottles with this mark, run for this long.
fn bottles(mark_ml: Option<f64>, planned_ms: u32) -> Catching {
    let lanes = vec![Bottle::new(1, false), Bottle::new(2, false)];
    let bottles = Bottles { lanes, mark_ml, full_ml: 99.5, planned_ms, over: false };
    Catching::of(Quantity::Volume, What::Run(bottles))
}

/// Level of a bottle that takes so much a second, to a tenth.
fn level(ms: u32, per_second: f64) -> f64 {
    (f64::from(ms) / 1000.0 * per_second * 10.0).round() / 10.0
}

/// Stretches as they are kept and read again.
fn points(caught: &[Caught]) -> (Vec<Point>, Vec<Gap>) {
    let (mut points, mut gaps) = (Vec::new(), Vec::new());
    for one in caught {
        if let Caught::Stretch(stretch) = one {
            let kept = stretch
                .clone()
                .kept(Uuid::nil(), Signed::new(Uuid::nil(), jiff::Timestamp::UNIX_EPOCH));
            points.extend(unpack(&kept.packed).unwrap());
            gaps.extend(kept.gaps);
        }
    }
    (points, gaps)
}

fn reached(caught: &[Caught]) -> Vec<(u32, ReadingKind, f64)> {
    let of = |one: &Caught| match one {
        Caught::Reached { cylinder, kind, seconds, .. } => Some((*cylinder, *kind, *seconds)),
        Caught::Stretch(_) | Caught::Over { .. } => None,
    };
    caught.iter().filter_map(of).collect()
}

fn over(caught: &[Caught]) -> (f64, &[(u32, f64)]) {
    let Some(Caught::Over { seconds, levels, .. }) = caught.last() else { panic!("{caught:?}") };
    (*seconds, levels)
}

#[test]
fn every_point_is_kept_and_the_bottles_are_read_when_the_time_is_up() {
    let mut catching = bottles(None, 60_000);
    let takes = |ms| catching.takes(ms, &by(), &[level(ms, 0.5), level(ms, 0.25)]);
    let caught: Vec<Caught> = (20..=60_040).step_by(20).flat_map(takes).collect();
    let (points, gaps) = points(&caught);
    assert_eq!((points.len(), gaps.len()), (3000, 0), "one every 20 ms, and none after the end");
    assert!(points.iter().zip(1..).all(|(point, i)| point.ms == i * 20));
    assert_eq!(over(&caught), (60.0, [(1, 30.0), (2, 15.0)].as_slice()));
}

#[test]
fn a_mark_is_read_when_the_level_passes_it_and_the_run_ends_with_the_last() {
    let mut catching = bottles(Some(10.0), 600_000);
    let takes = |ms| {
        // A spike of one point is no level.
        let spike = if ms == 5000 { 40.0 } else { 0.0 };
        catching.takes(ms, &by(), &[level(ms, 0.5) + spike, level(ms, 0.25)])
    };
    let caught: Vec<Caught> = (20..=45_000).step_by(20).flat_map(takes).collect();
    let [(1, ReadingKind::Mark, first), (2, ReadingKind::Mark, second)] = reached(&caught)[..]
    else {
        panic!("{:?}", reached(&caught))
    };
    // A tenth of a millilitre is 0.2 s of the one and 0.4 s of the other.
    assert!((first - 20.0).abs() < 0.25 && (second - 40.0).abs() < 0.45, "{first} {second}");
    assert!(over(&caught).1.is_empty());
}

#[test]
fn what_passed_its_mark_in_a_gap_is_left_for_a_person_and_the_gap_says_why() {
    let mut catching = bottles(Some(10.0), 60_000);
    let mut caught = Vec::new();
    for ms in (20..=60_000).step_by(20) {
        if (15_000..30_000).contains(&ms) {
            catching.is_silent("Unplugged.");
        } else {
            caught.extend(catching.takes(ms, &by(), &[level(ms, 0.5), level(ms, 0.1)]));
        }
    }
    assert_eq!(reached(&caught), [], "nobody saw it pass");
    let gap = Gap { from_ms: 14_980, to_ms: 30_000, why: "Unplugged.".to_owned() };
    assert_eq!(points(&caught).1, [gap]);
    assert_eq!(over(&caught).1, [(1, 30.0), (2, 6.0)], "what stands in them now is known again");
}

#[test]
fn one_that_is_silent_at_the_end_reads_no_bottle() {
    for (silent, end) in [(false, 50_000), (true, 40_100)] {
        let mut catching = bottles(None, 600_000);
        for ms in (20..=40_000).step_by(20) {
            catching.takes(ms, &by(), &[level(ms, 0.5), level(ms, 0.25)]);
        }
        if silent {
            catching.is_silent("Unplugged.");
        }
        let caught = catching.end(end);
        assert_eq!(over(&caught), (f64::from(end) / 1000.0, [].as_slice()));
    }
}

#[test]
fn a_trace_finds_its_drops_as_it_comes() {
    let mut catching = Catching::trace();
    let pressure = |ms: u32| match ms % 4000 {
        late if late > 3000 => 210.0 + f64::from(late - 3000) * 0.09,
        fall if fall > 2000 => 300.0 - f64::from(fall - 2000) * 0.09,
        _ => 300.0,
    };
    let mut seen = Vec::new();
    for ms in (20..=12_000).step_by(20) {
        catching.takes(ms, &by(), &[pressure(ms)]);
        seen.extend(catching.drops().map(|drops| drops.len()));
    }
    assert!(seen.contains(&1) && seen.contains(&2) && seen.last() == Some(&3), "{seen:?}");
    assert_eq!(catching.into_trace().len(), 600);
}

proptest! {
    /// Whatever comes and however it breaks off: what is kept was shown, in order.
    #[test]
    fn nothing_is_kept_that_was_not_shown(
        came in prop::collection::vec((1_u32..4000, prop::option::of(prop::array::uniform2(0.0_f64..120.0))), 0..300)
    ) {
        let mut catching = bottles(Some(50.0), 300_000);
        let (mut ms, mut shown, mut caught) = (0, Vec::new(), Vec::new());
        for (step, values) in came {
            ms += step;
            if let Some(values) = values {
                let values = values.map(|value| (value * 10.0).round() / 10.0);
                shown.push(Point { ms, values: values.to_vec() });
                caught.extend(catching.takes(ms, &by(), &values));
            } else {
                catching.is_silent("Silent.");
            }
        }
        caught.extend(catching.leave());
        let kept = points(&caught).0;
        prop_assert_eq!(&kept[..], &shown[..kept.len()]);
        for (_, _, seconds) in reached(&caught) {
            prop_assert!(seconds * 1000.0 <= f64::from(ms));
        }
        for one in &caught {
            if let Caught::Over { levels, .. } = one {
                for (cylinder, level) in levels {
                    let channel = *cylinder as usize - 1;
                    prop_assert!(shown.iter().any(|point| point.values[channel] == *level));
                }
            }
        }
    }
}
