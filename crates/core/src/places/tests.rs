//! Placement, against trying every order by hand.

use super::*;
use crate::engine::{BankNumbering, EngineEnd};
use crate::record::{Event, Injector, Placing};
use crate::sample::{at, event, job};
use crate::shelf::ShelfValue;
use crate::tests::bench::BenchKind;
use proptest::prelude::*;

/// An engine of so many cylinders on so many banks; odd cylinders left, even right.
fn engine(fuel: FuelSystem, cylinders: u32, banks: u32) -> JobFile {
    let mut file = job(fuel, &[]);
    file.job.intake.layout = Layout {
        cylinders,
        banks,
        first_at: EngineEnd::Pulley,
        numbering: BankNumbering::Alternating,
    };
    file.job.injectors = (1..=cylinders)
        .map(|cylinder| Injector {
            id: Uuid::from_u128(u128::from(cylinder)),
            cylinder,
            label: format!("L{cylinder}"),
        })
        .collect();
    file
}

/// One for each value, in the order of the cylinders that they came in.
fn tested(values: &[f64], u: f64) -> Vec<Tested> {
    let one = |(cylinder, value): (u32, &f64)| Tested {
        injector: Uuid::from_u128(u128::from(cylinder)),
        label: format!("L{cylinder}"),
        job: Uuid::nil(),
        job_number: 1,
        owner: String::new(),
        cylinder,
        family: None,
        kind: BenchKind::Petrol,
        session: Uuid::nil(),
        round: String::new(),
        read_at: at(0).at,
        values: vec![ShelfValue {
            feature: ShelfFeature::StaticFlow,
            value: *value,
            u,
            shown: String::new(),
            pulse_ms: None,
            condition: String::new(),
        }],
        held_back: None,
    };
    (1..).zip(values).map(one).collect()
}

fn by_flow(file: &JobFile, tested: &[Tested], wants: &[Want]) -> Placement {
    places(file, tested, ShelfFeature::StaticFlow, wants).unwrap()
}

#[test]
fn each_bank_gets_those_that_are_alike_and_codes_go_along() {
    let file = engine(FuelSystem::PetrolDirect, 4, 2);
    let placed = by_flow(&file, &tested(&[250.0, 251.0, 260.0, 261.0], 0.1), &[]);
    // 1 and 3 are one bank, 2 and 4 the other: two change over.
    assert_eq!(placed.moves, 2);
    assert!((placed.apart_now - 0.04).abs() < 1e-9 && (placed.apart - 0.004).abs() < 1e-9);
    assert!(placed.codes.contains("→") && placed.codes.contains("read back"), "{}", placed.codes);
    assert!(placed.says.starts_with("Move 2: bank spread 0.4 %"), "{}", placed.says);
    let port = engine(FuelSystem::PetrolPort, 4, 2);
    assert_eq!(by_flow(&port, &tested(&[250.0, 251.0, 260.0, 261.0], 0.1), &[]).codes, "");
}

#[test]
fn nothing_moves_for_less_than_the_bench_can_tell() {
    let file = engine(FuelSystem::PetrolPort, 4, 2);
    let placed = by_flow(&file, &tested(&[250.0, 250.5, 251.0, 251.5], 1.0), &[]);
    assert_eq!(placed.moves, 0);
    assert!(placed.says.starts_with("Leave them in place"), "{}", placed.says);
}

#[test]
fn a_cylinder_that_wants_more_gets_the_one_that_passes_more() {
    let file = engine(FuelSystem::PetrolPort, 4, 1);
    let want = [Want { cylinder: 4, share: 0.04 }];
    let placed = by_flow(&file, &tested(&[260.0, 250.0, 250.0, 250.0], 0.1), &want);
    let at_four = &placed.placed[3];
    assert_eq!((at_four.cylinder, at_four.sits, placed.moves), (4, 1, 2));
    assert!(at_four.share.unwrap().abs() < 1e-9 && placed.apart < 1e-9, "{placed:?}");
    assert_eq!(at_four.says, "from cylinder 1, wants +4 %");
}

#[test]
fn one_that_does_not_go_back_is_not_placed() {
    let file = engine(FuelSystem::PetrolPort, 4, 1);
    let mut tested = tested(&[250.0, 251.0, 252.0, 300.0], 0.1);
    tested[3].held_back = Some("Leak: drips.".to_owned());
    let placed = by_flow(&file, &tested, &[]);
    assert_eq!(placed.placed[3].share, None);
    assert!(placed.placed[3].says.contains("Leak: drips."));
    assert!(placed.says.ends_with("Cylinder 4 not placed."), "{}", placed.says);
    tested[0].values.clear();
    tested[1].values.clear();
    assert!(places(&file, &tested, ShelfFeature::StaticFlow, &[]).is_none());
}

#[test]
fn placing_moves_the_strip_and_refuses_two_in_one_cylinder() {
    let mut file = engine(FuelSystem::PetrolPort, 4, 1);
    let to = |pairs: &[(u128, u32)]| -> Vec<Placing> {
        let one = |(injector, cylinder): &(u128, u32)| Placing {
            injector: Uuid::from_u128(*injector),
            cylinder: *cylinder,
        };
        pairs.iter().map(one).collect()
    };
    let round = to(&[(1, 2), (2, 3), (3, 1)]);
    assert_eq!(file.placing_refused(&round), None);
    file.events.push(event(5, Event::Placed { seats: round.clone() }));
    let sits: Vec<(u32, u32)> =
        file.seats(None).iter().map(|seat| (seat.cylinder, seat.came_from)).collect();
    assert_eq!(sits, [(1, 3), (2, 1), (3, 2), (4, 4)]);
    assert!(file.placing_refused(&to(&[(1, 4), (2, 3)])).unwrap().starts_with("Two injectors"));
    assert!(file.placing_refused(&to(&[(9, 1)])).unwrap().contains("not part of this engine"));
    // The same again, from where they sit now, moves nobody into a cylinder that is taken.
    file.events.push(event(6, Event::Placed { seats: to(&[(1, 2), (2, 1)]) }));
    let mut cylinders: Vec<u32> = file.seats(None).iter().map(|seat| seat.cylinder).collect();
    cylinders.dedup();
    assert_eq!(cylinders, [1, 2, 3, 4]);
}

/// The smallest spread over every order there is.
fn by_hand(values: &[f64], wants: &[Want]) -> f64 {
    fn orders(rest: &[u32], so_far: &mut Vec<u32>, each: &mut dyn FnMut(&[u32])) {
        if rest.is_empty() {
            each(so_far);
        }
        for (i, one) in rest.iter().enumerate() {
            so_far.push(*one);
            let others = [&rest[..i], &rest[i + 1..]].concat();
            orders(&others, so_far, each);
            so_far.pop();
        }
    }
    let cylinders: Vec<u32> = (1..=values.len() as u32).collect();
    let mut best = f64::INFINITY;
    orders(&cylinders, &mut Vec::new(), &mut |to| {
        let spread = |odd: bool| {
            let got = values.iter().zip(to).filter(|(_, c)| (**c % 2 == 1) == odd).map(|(v, c)| {
                let want = wants.iter().find(|w| w.cylinder == *c).map_or(0.0, |w| w.share);
                v / (1.0 + want)
            });
            let (low, high) = got.fold((f64::INFINITY, 0.0_f64), |(l, h), v| (l.min(v), h.max(v)));
            high / low - 1.0
        };
        best = best.min(spread(true).max(spread(false)));
    });
    best
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(48))]

    /// With readings that carry no doubt nothing is better than what is proposed, and what is
    /// proposed is an order: each cylinder once, each injector once.
    #[test]
    fn no_order_is_better_than_the_one_proposed(
        values in proptest::collection::vec(200.0..300.0_f64, 6),
        share in -0.05..0.05_f64,
        cylinder in 1..=6_u32,
    ) {
        let file = engine(FuelSystem::PetrolPort, 6, 2);
        let wants = [Want { cylinder, share }];
        let placed = by_flow(&file, &tested(&values, 0.0), &wants);
        let best = by_hand(&values, &wants);
        prop_assert!((placed.apart - best).abs() < 1e-9, "{} against {best}", placed.apart);
        let mut to: Vec<u32> = placed.placed.iter().map(|one| one.cylinder).collect();
        to.dedup();
        prop_assert_eq!(to, vec![1, 2, 3, 4, 5, 6]);
    }
}
