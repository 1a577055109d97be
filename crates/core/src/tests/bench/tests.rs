//! The bench, by what a technician would check on paper. One session builder serves all tests.

use super::import::{Column, Importer};
use super::*;
use crate::library::{CodePattern, FamilyDetail, FamilyKind, LimitCheck, LimitEntry};
use crate::mark::Mark;
use crate::sample::at;
use uuid::Uuid;

mod adjusting;
mod cleaning;
pub(crate) mod diesel;
mod files;
mod flow;
mod laws;

/// A limit of a family.
pub(crate) fn limit(check: LimitCheck, condition: &str, window: [Option<f64>; 2]) -> LimitEntry {
    LimitEntry {
        id: Uuid::now_v7(),
        family: "F".to_owned(),
        check,
        condition: condition.to_owned(),
        revision: 2,
        lower: window[0],
        upper: window[1],
        typed: String::new(),
        from_c: None,
        to_c: None,
        from_kpa: None,
        to_kpa: None,
        source: "bench book".to_owned(),
        approved: None,
    }
}

pub(crate) fn family(name: &str, kind: FamilyKind, limits: Vec<LimitEntry>) -> FamilyThen {
    let detail = FamilyDetail {
        kind,
        peak_voltage_v: Some(16.0),
        service_life_h: Some(6000.0),
        ..FamilyDetail::default()
    };
    FamilyThen { name: name.to_owned(), detail, limits }
}

/// A session of injectors of these families, tubes marked every 0.5 ml, one round as received.
pub(crate) fn session(kind: BenchKind, families: &[FamilyThen], of: &[&str]) -> SessionRecord {
    let injectors: Vec<Tagged> = (1..)
        .zip(of)
        .map(|(tag, family)| Tagged {
            tag,
            injector: Uuid::from_u128(u128::from(tag)),
            job: Uuid::nil(),
            job_number: 7,
            cylinder: tag,
            label: format!("L{tag}"),
            family: Some((*family).to_owned()),
        })
        .collect();
    SessionRecord {
        id: Uuid::nil(),
        number: 1,
        setup: BenchSetup {
            kind,
            bench: None,
            overdue: false,
            graduation: 0.5,
            capacity_ml: 100.0,
            entry: Entry::Volume,
            points: if kind == BenchKind::Petrol { petrol_points() } else { Vec::new() },
            families: families.to_vec(),
            rules: Vec::new(),
        },
        rounds: Vec::new(),
        injectors,
        cells: Vec::new(),
        signed: at(0),
    }
    .then(RoundStage::Received)
}

impl SessionRecord {
    /// Another round, all hanging in the order of their tags.
    pub(crate) fn then(mut self, stage: RoundStage) -> Self {
        let number = 1 + self.rounds.iter().filter(|r| r.stage == stage).count() as u32;
        let places = self.injectors.iter().map(|i| RailPlace { position: i.tag, tag: i.tag });
        self.rounds.push(Round {
            id: Uuid::now_v7(),
            stage,
            number,
            places: places.collect(),
            signed: at(self.rounds.len() as i64 * 100),
        });
        self
    }

    /// A reading of the newest round, this many minutes into it.
    fn put(
        mut self,
        minute: i64,
        test: BenchTest,
        spot: Spot<'_>,
        value: f64,
        typed: &str,
    ) -> Self {
        let round = self.rounds.last().unwrap().id;
        self.cells.push(BenchCell {
            id: Uuid::now_v7(),
            round,
            test,
            cell: spot.cell.to_owned(),
            row: spot.row,
            tag: spot.tag,
            value: Some(value),
            typed: typed.to_owned(),
            samples: None,
            shown_by: None,
            corrects: None,
            signed: at(self.rounds.len() as i64 * 100 + minute),
        });
        self
    }

    /// This injector was not cleaned in this round.
    pub(crate) fn left_out(self, tag: u32) -> Self {
        let spot = Spot { cell: "left_out", row: None, tag: Some(tag) };
        self.put(1, BenchTest::Cleaning, spot, 1.0, "")
    }

    /// Cells of the round.
    pub(crate) fn set(self, test: BenchTest, cells: &[(&str, f64)]) -> Self {
        cells.iter().fold(self, |s, (cell, value)| {
            s.put(0, test, Spot { cell, row: None, tag: None }, *value, "")
        })
    }

    /// A cell of a row.
    pub(crate) fn row(self, test: BenchTest, row: u32, cell: &str, value: f64) -> Self {
        self.put(0, test, Spot { cell, row: Some(row), tag: None }, value, "")
    }

    /// One cell of every injector in a row, in the order of the tags.
    pub(crate) fn tubes(
        self,
        test: BenchTest,
        row: Option<u32>,
        cell: &str,
        values: &[f64],
    ) -> Self {
        (1..).zip(values).fold(self, |s, (tag, value)| {
            s.put(5, test, Spot { cell, row, tag: Some(tag) }, *value, "")
        })
    }

    fn verdict(&self, test: BenchTest) -> Verdict {
        self.verdict_with(test, &[])
    }

    /// The verdict of the newest round.
    fn verdict_with(&self, test: BenchTest, stock: &[Shim]) -> Verdict {
        let last = self.rounds.last().unwrap().id;
        let judged = self.judged(stock).verdicts;
        let found = judged.into_iter().find(|v| v.test == test && v.round == last).unwrap();
        found.verdict.unwrap_or_else(|| panic!("{test:?} refused: {:?}", found.refused))
    }
}

fn words(verdict: &Verdict) -> Vec<&str> {
    verdict.lanes.iter().map(|lane| lane.word.as_str()).collect()
}

fn marks(verdict: &Verdict) -> Vec<Mark> {
    verdict.lanes.iter().map(|lane| lane.mark).collect()
}

#[test]
fn every_test_is_found_by_its_name_has_cautions_and_its_cells_are_read_back() {
    for test in BenchTest::ALL {
        assert_eq!(BenchTest::parse(test.name()), Some(*test));
        let form = test.form(Entry::Volume);
        assert!(!form.cautions.is_empty() && form.title.len() < 40, "{test:?}");
        let kinds = [BenchKind::Petrol, BenchKind::Diesel, BenchKind::Doser];
        let kind = kinds.into_iter().find(|kind| test.fits(*kind)).unwrap();
        let mut session = session(kind, &[], &["F"]);
        session.setup.points = petrol_points();
        let rows = form.by_points || form.most_rows > 0;
        let at = |cells: &[crate::tests::CellForm], row: bool, tag: bool| {
            for cell in cells {
                let spot = Spot { cell: &cell.name, row: row.then_some(1), tag: tag.then_some(1) };
                let read =
                    test.read(spot, &session.setup, if cell.unit == "ms" { "0.9" } else { "1" });
                assert!(read.is_some(), "{test:?} has no {}", cell.name);
            }
        };
        at(&form.set, false, false);
        at(&form.row, true, false);
        at(&form.each, rows, true);
        let nowhere = Spot { cell: "nothing", row: None, tag: None };
        assert!(test.read(nowhere, &session.setup, "1").is_none());
    }
}

#[test]
fn a_file_with_a_session_that_cannot_be_is_refused_with_the_place() {
    let good = session(BenchKind::Petrol, &[], &["F", "F"]).tubes(
        BenchTest::Flow,
        Some(1),
        "volume",
        &[40.0, 41.0],
    );
    assert_eq!(good.problems("bench[0]"), []);
    let says = |session: SessionRecord| -> Vec<String> {
        session.problems("bench[0]").into_iter().map(|p| p.field).collect()
    };
    let mut twice = good.clone();
    twice.rounds[0].places[1].position = 1;
    assert_eq!(says(twice), ["bench[0].rounds"]);
    let mut nowhere = good.clone();
    nowhere.cells[0].row = Some(99);
    nowhere.cells[1].value = Some(f64::NAN);
    assert_eq!(says(nowhere), ["bench[0].cells", "bench[0].cells"]);
    let mut tags = good.clone();
    tags.injectors[1].tag = 3;
    assert!(says(tags).contains(&"bench[0].injectors".to_owned()));
    let mut coarse = good;
    coarse.setup.graduation = 200.0;
    assert_eq!(says(coarse), ["bench[0].setup"]);
}

#[test]
fn a_drive_higher_than_a_family_takes_is_refused_and_an_unknown_one_is_warned_of() {
    let known = family("F", FamilyKind::PetrolPortHigh, Vec::new());
    let mut low = family("G", FamilyKind::PetrolPortLow, Vec::new());
    low.detail.peak_voltage_v = None;
    let rail = || session(BenchKind::Petrol, &[known.clone(), low.clone()], &["F", "F", "G"]);
    let boosted = rail().set(BenchTest::Drive, &[("drive", 3.0), ("polarity", 1.0)]);
    let verdict = boosted.verdict(BenchTest::Drive);
    assert_eq!(words(&verdict), ["too high", "too high", "unknown"]);
    let refused = boosted.drive_refused().unwrap();
    assert_eq!(refused, "Do not pulse: boosted, 65 V, 18 A is more than injectors 1 and 2 take.");
    // A later round still knows it; a lower one chosen there lifts the refusal.
    let later = boosted.then(RoundStage::Cleaned);
    assert!(later.drive_refused().is_some());
    let later = later.set(BenchTest::Drive, &[("drive", 0.0)]);
    assert_eq!(later.drive_refused(), None);
    assert_eq!(words(&later.verdict(BenchTest::Drive)), ["suitable", "suitable", "unknown"]);
    let hold = rail().set(BenchTest::Drive, &[("drive", 1.0)]).verdict(BenchTest::Drive);
    assert_eq!(words(&hold)[0], "suitable", "a high-resistance coil draws no 4 A from 12 V");
    low.detail.peak_voltage_v = Some(16.0);
    let plain = session(BenchKind::Petrol, &[low], &["G"]).set(BenchTest::Drive, &[("drive", 0.0)]);
    let verdict = plain.verdict(BenchTest::Drive);
    assert_eq!(words(&verdict), ["no hold"], "a low-impedance coil on a plain drive");
    assert_eq!(verdict.flags, ["Polarity not checked."]);
    let hand = plain.set(BenchTest::Drive, &[("drive", 5.0)]).verdict(BenchTest::Drive);
    assert!(hand.advice[0].contains("half a second"), "{:?}", hand.advice);
}

#[test]
fn a_short_look_at_a_tight_leak_limit_is_undecided_and_a_long_one_decides() {
    // One drop a minute is the limit. 60 s: u = 60/60/√12 = 0.289, guard 0.475: 0 and 1 a minute
    // are inside and undecided; 4 a minute leaks.
    let looked = |seconds: f64, drops: &[f64]| {
        session(BenchKind::Petrol, &[], &["F", "F", "F"])
            .set(BenchTest::Leak, &[("seconds", seconds), ("pressure", 300.0)])
            .tubes(BenchTest::Leak, None, "drops", drops)
            .verdict(BenchTest::Leak)
    };
    let short = looked(60.0, &[0.0, 1.0, 4.0]);
    assert_eq!(marks(&short), [Mark::Inside, Mark::Undecided, Mark::TooMuch]);
    assert_eq!(short.headline, "Injector 3 leaks.");
    // The same rate watched ten times as long: guard 0.0475 a minute.
    let long = looked(600.0, &[0.0, 9.0, 40.0]);
    assert_eq!(marks(&long), [Mark::Inside, Mark::Inside, Mark::TooMuch]);
}

#[test]
fn another_part_number_in_the_set_is_named_and_what_was_left_in_the_bore_comes_first() {
    let part = |s: SessionRecord, tag, typed: &str| {
        s.put(1, BenchTest::Visual, Spot { cell: "part", row: None, tag: Some(tag) }, 1.0, typed)
    };
    let mut set = session(BenchKind::Petrol, &[], &["F", "F", "F", "F"]);
    for (tag, typed) in [(1, "sp2-110"), (2, "SP2-110 "), (3, "SP2-114"), (4, "SP2-110")] {
        set = part(set, tag, typed);
    }
    let verdict = set.verdict(BenchTest::Visual);
    assert_eq!(words(&verdict), ["sound", "sound", "other part", "sound"]);
    assert_eq!(verdict.headline, "Injector 3: part number SP2-114; the others have SP2-110.");
    let left =
        set.put(2, BenchTest::Visual, Spot { cell: "seals", row: None, tag: Some(2) }, 3.0, "3");
    assert!(left.verdict(BenchTest::Visual).lanes[1].sentence.contains("Seal left in the bore"));
}

#[test]
fn doser_over_its_limit_by_less_than_its_uncertainty_is_not_replaced() {
    let doser = family(
        "F",
        FamilyKind::ExhaustDoser,
        vec![
            limit(LimitCheck::DoserVolume, "one minute", [Some(205.0), Some(365.0)]),
            limit(LimitCheck::DoserVolume, "one minute, edition B", [Some(180.0), Some(320.0)]),
            limit(LimitCheck::LeakVolume, "one minute closed", [None, Some(2.0)]),
        ],
    );
    let ran = |runs: [f64; 3], leak: f64, says: f64| {
        let mut s = session(BenchKind::Doser, std::slice::from_ref(&doser), &["F"]);
        s.setup.graduation = 10.0;
        s = s.set(
            BenchTest::Doser,
            &[
                ("capped", 1.0),
                ("tip", 1.0),
                ("pressure", 550.0),
                ("unit_says", says),
                ("leak_marks", 0.5),
            ],
        );
        for (cell, value) in
            [("leak", leak), ("run_1", runs[0]), ("run_2", runs[1]), ("run_3", runs[2])]
        {
            s = s.tubes(BenchTest::Doser, None, cell, &[value]);
        }
        s
    };
    // Mean 367 against 365; marks 10/√12 = 2.9 and three runs: over by less than the guard.
    let over = ran([365.0, 369.0, 367.0], 0.0, 0.0).verdict(BenchTest::Doser);
    assert_eq!((words(&over), marks(&over)), (vec!["over, inconclusive"], vec![Mark::Undecided]));
    assert_eq!(
        words(&ran([395.0, 396.0, 394.0], 0.0, 0.0).verdict(BenchTest::Doser)),
        ["too high"]
    );
    let low = ran([190.0, 191.0, 189.0], 0.0, 0.0);
    assert_eq!(words(&low.verdict(BenchTest::Doser)), ["low"]);
    let good = ran([280.0, 282.0, 281.0], 0.0, 1.0).verdict(BenchTest::Doser);
    assert!(good.headline.contains("points downstream"), "{}", good.headline);
    assert!(good.flags.iter().any(|f| f.contains("revision")), "two revisions, none typed");
    let half = Spot { cell: "seconds", row: None, tag: None };
    let timed = ran([140.0, 141.0, 140.5], 0.0, 0.0).put(1, BenchTest::Doser, half, 30.0, "30");
    assert_eq!(words(&timed.verdict(BenchTest::Doser)), ["within"], "280 in a minute");
    // Under the newer edition the same 330 is too much.
    let edition = Spot { cell: "edition", row: None, tag: None };
    let plain = ran([330.0, 331.0, 329.0], 0.0, 0.0);
    assert_eq!(words(&plain.verdict(BenchTest::Doser)), ["within"]);
    let newer = plain.put(1, BenchTest::Doser, edition, 1.0, "edition b").verdict(BenchTest::Doser);
    assert_eq!(words(&newer), ["too high"]);
    // Marks of 0.5 ml: guard 0.24. 1.9 of 2 is too close; flow that is too much needs no leak.
    assert_eq!(words(&ran([280.0; 3], 1.9, 0.0).verdict(BenchTest::Doser)), ["leak inconclusive"]);
    assert_eq!(words(&ran([395.0; 3], 1.9, 0.0).verdict(BenchTest::Doser)), ["too high"]);
    assert_eq!(words(&ran([280.0; 3], 20.0, 0.0).verdict(BenchTest::Doser)), ["leaks"]);
}

#[test]
fn nothing_that_was_read_makes_a_test_panic_or_say_nothing() {
    // Every cell of every test filled with extremes, one at a time and all together.
    for test in BenchTest::ALL {
        let kinds = [BenchKind::Petrol, BenchKind::Diesel, BenchKind::Doser];
        for kind in kinds.into_iter().filter(|kind| test.fits(*kind)) {
            for value in [0.0, 1.0, 1e5, 1e-9] {
                let mut s = session(
                    kind,
                    &[family("F", FamilyKind::DieselSolenoid, Vec::new())],
                    &["F", "F"],
                );
                s.setup.points = petrol_points();
                let form = test.form(Entry::Volume);
                for cell in &form.set {
                    s = s.set(*test, &[(&cell.name, value)]);
                }
                let most = if form.by_points || form.most_rows > 0 { 3 } else { 0 };
                let rows = 1..=most;
                for row in rows.clone() {
                    for cell in &form.row {
                        s = s.row(*test, row, &cell.name, value * f64::from(row));
                    }
                }
                let rows: Vec<Option<u32>> =
                    if rows.is_empty() { vec![None] } else { rows.map(Some).collect() };
                for row in rows {
                    for cell in &form.each {
                        s = s.tubes(*test, row, &cell.name, &[value, value]);
                    }
                }
                let judged = s.judged(&[Shim { size_um: 1000.0, count: 1 }]);
                let own = judged.verdicts.iter().find(|v| v.test == *test).unwrap();
                let says = own.verdict.as_ref().map(|v| v.headline.clone()).or(own.refused.clone());
                assert!(says.is_some_and(|says| says.ends_with(['.', '!'])), "{test:?} {value}");
            }
        }
    }
}
