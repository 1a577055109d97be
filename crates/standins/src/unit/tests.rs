use super::*;

const TAKES: Duration = Duration::from_millis(1000);

/// Says lines one after the other, a quarter of a writing apart.
fn talk(unit: &mut Unit, lines: &[&str]) -> Vec<String> {
    let mut talk = Talk::default();
    let mut now = Duration::ZERO;
    let mut one = |line: &&str| {
        now += TAKES / 4;
        match unit.said(&mut talk, line, now) {
            Reply::Says(answer) => answer.to_string(),
            Reply::HangsUp => "hangs up".to_owned(),
        }
    };
    lines.iter().map(&mut one).collect()
}

fn delivered() -> Unit {
    let mut unit = Unit::new(TAKES);
    unit.deliver("7", ["AA", "BB", "CC"].map(|code| Some(code.to_owned())).to_vec());
    unit
}

fn check(lines: &[&str], expected: &[&str]) {
    assert_eq!(talk(&mut delivered(), lines), expected);
}

#[test]
fn a_code_is_erased_written_and_stored_when_its_time_is_over() {
    let lines = ["open 7 3", "write 2 XX", "progress", "progress", "progress", "progress", "codes"];
    let stored = "codes 1=AA 2=XX 3=CC";
    check(
        &lines,
        &["ok", "ok", "progress 25", "progress 50", "progress 75", "progress 100", stored],
    );
}

#[test]
fn it_writes_only_with_ignition_on_engine_off_and_enough_supply() {
    check(&["write 1 XX"], &["no not_open"]);
    let no = |knob: &str, why: &str| {
        check(
            &["open 7 3", knob, "write 1 XX", "codes"],
            &["ok", "ok", why, "codes 1=AA 2=BB 3=CC"],
        );
    };
    no("knob ignition off", "no ignition");
    no("knob engine on", "no engine");
    no("knob volts 11.2", "no voltage");
    no("knob fault refuse", "no refused");
    check(&["open 7 3", "write 4 XX", "hello"], &["ok", "no slot", "no unknown"]);
    check(&["open 7 3", "write 1 XX", "write 2 YY"], &["ok", "ok", "no busy"]);
    check(
        &["open 7 3", "knob fault busy:2", "codes", "state", "state"],
        &["ok", "ok", "no busy", "no busy", "state on off 12.8"],
    );
}

#[test]
fn what_is_interrupted_leaves_an_empty_slot_and_the_next_write_goes_through() {
    let mut unit = delivered();
    let lines = ["open 7 3", "knob fault drop:50", "write 2 XX", "progress", "progress"];
    assert_eq!(talk(&mut unit, &lines), ["ok", "ok", "ok", "progress 25", "hangs up"]);
    assert_eq!(talk(&mut unit, &["open 7 3", "codes"]), ["ok", "codes 1=AA 2=- 3=CC"]);
    let again = ["open 7 3", "write 2 XX", "progress", "progress", "progress", "progress", "codes"];
    assert_eq!(talk(&mut unit, &again)[6], "codes 1=AA 2=XX 3=CC");
    let sag = ["open 7 3", "knob fault sag:25", "write 1 YY", "progress", "state", "codes"];
    let left = ["ok", "ok", "ok", "no interrupted", "state on off 10.8", "codes 1=- 2=XX 3=CC"];
    assert_eq!(talk(&mut unit, &sag), left);
}

#[test]
fn clearing_empties_the_counters_and_only_driving_fills_them() {
    let mut unit = delivered();
    let before = talk(&mut unit, &["open 7 3", "learned", "counters"]);
    assert_eq!(
        before[1..],
        ["learned 1=1.2 2=6.5 3=-0.8", "counters idle=3/3 cruise=4/4 coast=6/6"]
    );
    let kept = talk(&mut unit, &["open 7 3", "knob fault keep-learned", "clear", "counters"]);
    assert_eq!(kept[2..], ["ok", "counters idle=3/3 cruise=4/4 coast=6/6"]);
    let cleared = ["open 7 3", "knob engine on", "clear", "knob engine off", "clear", "learned"];
    assert_eq!(talk(&mut unit, &cleared)[2..], ["no engine", "ok", "ok", "learned 1=0 2=0 3=0"]);
    let mut drive = vec!["open 7 3", "knob drive idle", "counters", "knob engine on"];
    drive.extend(["knob drive idle"; 4]);
    drive.extend(["knob drive cruise"; 4]);
    drive.extend(["knob drive coast"; 6]);
    drive.extend(["counters", "learned", "knob drive moon"]);
    let said = talk(&mut unit, &drive);
    assert_eq!(said[2], "counters idle=0/3 cruise=0/4 coast=0/6", "the engine is off");
    let end =
        ["counters idle=3/3 cruise=4/4 coast=6/6", "learned 1=0.3 2=-0.5 3=0.1", "no unknown"];
    assert_eq!(said[said.len() - 3..], end);
}

#[test]
fn a_write_can_go_into_the_wrong_slot_and_only_reading_back_tells() {
    let lines = [
        "open 7 3",
        "knob fault wrong-slot",
        "write 3 XX",
        "progress",
        "progress",
        "progress",
        "progress",
        "codes",
    ];
    let said = talk(&mut delivered(), &lines);
    assert_eq!((said[6].as_str(), said[7].as_str()), ("progress 100", "codes 1=XX 2=BB 3=CC"));
}
