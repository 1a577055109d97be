//! Each calculator on numbers that can be checked by hand, with its warnings and its refusals.

use cobaltine_core::calculators::{CalculatorId, Worked};
use cobaltine_core::rules::Rules;

fn work(id: &str, typed: &[(&str, &str)]) -> Result<Worked, String> {
    let id = CalculatorId::parse(id).unwrap();
    let typed = typed.iter().map(|(k, v)| ((*k).to_owned(), (*v).to_owned())).collect();
    id.work(&typed, &Rules::default()).map_err(|problems| {
        problems.iter().map(|p| format!("{}: {}", p.field, p.message)).collect::<Vec<_>>().join(" ")
    })
}

/// The results as `word shown unit`.
fn lines(worked: &Worked) -> Vec<String> {
    let line =
        |l: &cobaltine_core::calculators::ResultLine| format!("{} {} {}", l.word, l.shown, l.unit);
    worked.results.iter().map(line).map(|l| l.trim().to_owned()).collect()
}

fn arithmetic(worked: &Worked) -> Vec<String> {
    worked.steps.iter().filter_map(|s| s.arithmetic.clone()).collect()
}

#[test]
fn units_go_into_every_unit_of_their_kind_and_through_the_density_when_there_is_one() {
    let pressure = work("units", &[("value", "3 bar"), ("density", "")]).unwrap();
    assert_eq!(lines(&pressure), ["300 kPa", "0.3 MPa", "43.51 psi"]);
    let flow = work("units", &[("value", "240 cc/min"), ("density", "")]).unwrap();
    assert_eq!(lines(&flow), ["240 ml/min", "14.4 l/h", "4 ml/s"]);
    assert_eq!(flow.warnings, ["Enter the density to convert between volume and mass."]);
    let mass = work("units", &[("value", "250 ml/min"), ("density", "740")]).unwrap();
    assert!(
        lines(&mass).contains(&"185 g/min".to_owned())
            && lines(&mass).contains(&"24.47 lb/h".to_owned())
    );
    assert!(arithmetic(&mass)[0].contains("250 ml/min → 185 g/min"));
    let warm = work("units", &[("value", "180 F"), ("density", "")]).unwrap();
    assert_eq!(lines(&warm), ["82.22 °C", "355.4 K"]);
    let bare = work("units", &[("value", "43,5"), ("density", "")]).unwrap_err();
    assert_eq!(bare, ": Add a unit after the number, such as 43.5 psi.");
}

#[test]
fn pulses_duty_and_sizing_are_what_the_hand_gets() {
    let pulse = work(
        "pulse_quantity",
        &[("static", "240"), ("offset", "0,9"), ("pulse", "3,2"), ("rpm", "2400")],
    )
    .unwrap();
    assert_eq!(lines(&pulse), ["per pulse 9.2 mm³", "per minute 11.04 ml/min"]);
    assert_eq!(arithmetic(&pulse)[0], "240 ÷ 60 × (3.2 − 0.9) = 9.2 mm³");
    let short = work("pulse_quantity", &[("static", "240"), ("offset", "0.9"), ("pulse", "0.9")])
        .unwrap_err();
    assert_eq!(short, ": A pulse no longer than the dead time opens nothing.");

    let four = work("duty_at_speed", &[("rpm", "6000"), ("pulse", "10")]).unwrap();
    assert_eq!(lines(&four), ["open 50 %", "from pulse to pulse 20 ms"]);
    let two = work("duty_at_speed", &[("rpm", "6000"), ("pulse", "10"), ("cycle", "2")]).unwrap();
    assert_eq!(lines(&two)[0], "open 100 %");
    assert!(two.warnings[0].contains("never closes"));
    let tight = work("duty_at_speed", &[("rpm", "6000"), ("pulse", "18")]).unwrap();
    assert_eq!(
        tight.warnings,
        ["Above 85 % there is no reserve, and the injector may not close fully (workshop rule)."]
    );

    let size = work(
        "sizing",
        &[("power", "92"), ("bsfc", "300"), ("injectors", "4"), ("duty", "85"), ("density", "740")],
    )
    .unwrap();
    assert_eq!(lines(&size), ["each, by volume 182.8 ml/min", "each, by mass 135.3 g/min"]);
    assert_eq!(arithmetic(&size)[0], "92 × 300 ÷ (4 × 0.85 × 60) = 135.3 g/min");

    let change = [
        ("pulse", "5"),
        ("old_static", "200"),
        ("old_offset", "1"),
        ("new_static", "400"),
        ("new_offset", "0.8"),
    ];
    let known = work("pulse_change", &change).unwrap();
    assert_eq!(
        (lines(&known)[0].as_str(), known.warnings.len()),
        ("pulse with the new one 2.8 ms", 1)
    );
    let unknown = work("pulse_change", &[&change[..2], &change[3..]].concat()).unwrap();
    assert!(unknown.warnings[0].contains("unknown and taken as 0"), "{:?}", unknown.warnings);
}

#[test]
fn what_is_measured_on_the_bench_and_on_the_engine_is_brought_over_with_its_doubts() {
    let flow =
        work("flow_at_pressure", &[("flow", "240"), ("test", "3 bar"), ("reference", "4 bar")])
            .unwrap();
    assert_eq!(lines(&flow), ["flow 277.1 ml/min"]);
    assert_eq!(arithmetic(&flow), ["240 × √(400 ÷ 300) = 277.1 ml/min"]);
    let fluid = [("flow", "240"), ("test", "300"), ("reference", "300"), ("test_density", "780")];
    assert!(work("flow_at_pressure", &fluid).unwrap_err().contains("both densities"));

    let coil = [
        ("measured", "14,9"),
        ("temp", "62"),
        ("resolution", "0,1"),
        ("lower", "11,5"),
        ("upper", "13,5"),
    ];
    let zeroed = work("coil_temperature", &[&coil[..], &[("lead", "0R2")]].concat()).unwrap();
    assert_eq!(lines(&zeroed)[..2], ["against the limits within", "at 20 °C 12.6 Ω"]);
    let leads = [
        ("measured", "0R68"),
        ("temp", "22"),
        ("resolution", "0.01"),
        ("lower", "0.25"),
        ("upper", "0.6"),
    ];
    let unknown = work("coil_temperature", &leads).unwrap();
    assert_eq!(lines(&unknown)[0], "against the limits inconclusive");
    assert!(unknown.warnings[0].contains("zero the meter"));

    let plan =
        work("run_time", &[("graduation", "2"), ("capacity", "100"), ("rate", "12")]).unwrap();
    assert_eq!(lines(&plan)[0], "run for 132.3 s");
    assert!(plan.warnings[0].contains("fills first"));
    let large =
        work("run_time", &[("graduation", "2"), ("capacity", "500"), ("rate", "12")]).unwrap();
    assert!(large.warnings.is_empty());

    let warm = work("viscosity", &[("test", "18,6"), ("reference", "60"), ("rate", "10")]).unwrap();
    assert_eq!(lines(&warm), ["estimated rate 23.96 ml/min", "times 2.396"]);
    assert!(warm.warnings[0].starts_with("An estimate"));
    assert!(
        work("viscosity", &[("test", "400"), ("reference", "60")])
            .unwrap_err()
            .contains("between -40 and 150")
    );

    let torque = work("torque", &[("first", "44 in·lb"), ("angle", "90")]).unwrap();
    assert_eq!(
        lines(&torque)[..3],
        ["first stage 4.971 N·m", "first stage 44 in·lb", "first stage 3.667 ft·lb"]
    );
    assert_eq!(lines(&torque)[4], "flats of a hexagon 1.5");
    assert!(torque.warnings[0].contains("stretch"));
}

#[test]
fn fuel_in_a_cylinder_stops_before_it_locks_and_the_house_can_only_be_stricter() {
    use cobaltine_core::rules::{RuleChange, RuleId, read};
    let cylinder = |runs: &str| {
        [
            ("static", "240"),
            ("pulses", "50"),
            ("pulse", "6"),
            ("bore", "84"),
            ("stroke", "88"),
            ("ratio", "9,8"),
            ("runs", runs),
        ]
        .map(|(k, v)| (k.to_owned(), v.to_owned()))
        .into()
    };
    let level = |runs: &str, rules: &Rules| {
        CalculatorId::ResidualFuel.work(&cylinder(runs), rules).unwrap().results[0].shown.clone()
    };
    let trade = Rules::default();
    // 1.2 ml a run into 55.4 ml: 2.2 % after one, 20 % after ten.
    assert_eq!(
        [level("1", &trade), level("9", &trade), level("10", &trade)],
        ["caution", "caution", "stop"]
    );
    let strict = Rules::after([RuleChange {
        rule: RuleId::ResidualStop,
        value: 5.0,
        reason: "a bent rod once".to_owned(),
        revision: 1,
    }]);
    assert_eq!(level("3", &strict), "stop");
    assert!(read(RuleId::ResidualStop, "25").is_err(), "never laxer than the trade");
}
