use super::*;
use crate::tests::bench::import::Taken;

fn rail() -> SessionRecord {
    let mut s = session(BenchKind::Diesel, &[], &["F", "F"]);
    let point = |name: &str| Point { name: name.to_owned(), ..Point::default() };
    s.setup.points = vec![point("idle"), point("full load")];
    // Hung the other way round in this round.
    s.rounds[0].places = vec![RailPlace { position: 1, tag: 2 }, RailPlace { position: 2, tag: 1 }];
    s
}

type Read = Result<Vec<Taken>, (u64, Vec<(u64, String)>)>;

fn read(columns: &[(&str, Column)], rows: &[&[&str]]) -> Read {
    let s = rail();
    let columns: Vec<(String, Column)> =
        columns.iter().map(|(h, c)| ((*h).to_owned(), *c)).collect();
    let mut importer =
        Importer::new(&s, &s.rounds[0], &columns).map_err(|says| (0, vec![(0, says)]))?;
    for (line, row) in (2..).zip(rows) {
        importer.push(line, |column| row.get(column).copied());
    }
    importer
        .done()
        .map_err(|(n, list)| (n, list.into_iter().map(|p| (p.line, p.message)).collect()))
}

const COLUMNS: &[(&str, Column)] = &[
    ("Position", Column::Position),
    ("Point", Column::Point),
    ("Delivered (mm3)", Column::Delivered),
    ("Return [ml]", Column::Returned),
];

#[test]
fn rows_of_one_injector_at_one_point_are_samples_of_one_reading() {
    let taken = read(
        COLUMNS,
        &[
            &["1", "idle", "7000", "0,5"],
            &["1", "Idle", "7200", ""],
            &["1", "1", "7400", "0.7"],
            &["2", "full load", "62000", "2"],
        ],
    )
    .unwrap();
    // Position 1 holds tag 2; 7000 mm³ are 7 ml.
    let first = taken.iter().find(|t| t.tag == 2 && t.row == 1 && t.cell == "delivered").unwrap();
    assert!((first.value - 7.2).abs() < 1e-12 && first.samples.count == 3);
    assert!((first.samples.scatter - 0.2).abs() < 1e-12, "{}", first.samples.scatter);
    let back = taken.iter().find(|t| t.tag == 2 && t.cell == "returned").unwrap();
    assert!(
        (back.value - 0.6).abs() < 1e-12 && back.samples.count == 2,
        "the empty one is no reading"
    );
    assert_eq!(taken.len(), 4);
}

#[test]
fn each_line_that_cannot_be_read_is_named_and_then_nothing_is_taken() {
    let (count, problems) = read(
        COLUMNS,
        &[
            &["1", "idle", "7000", "0.5"],
            &["9", "idle", "7000", "0.5"],
            &["1", "boost", "7000", "0.5"],
            &["1", "idle", "seven", "0.5"],
            &["1", "idle", "7000", "-0.5"],
            &["1", "idle", "200000", "0.5"],
            &["1", "idle"],
        ],
    )
    .unwrap_err();
    let says: Vec<(u64, &str)> =
        problems.iter().map(|(line, says)| (*line, says.as_str())).collect();
    assert_eq!(count, 6);
    assert_eq!(
        says,
        [
            (3, "No position \"9\" here."),
            (4, "No point \"boost\" here."),
            (5, "delivered: \"seven\" is not a number."),
            (6, "returned: -0.5 is below zero."),
            (7, "delivered: 200000 is more than a tube holds."),
            (8, "It has fewer columns than the heading."),
        ]
    );
}

#[test]
fn columns_have_to_say_which_injector_which_point_and_a_quantity_once() {
    let refused = |columns: &[(&str, Column)]| read(columns, &[]).unwrap_err().1[0].1.clone();
    assert!(refused(&COLUMNS[1..]).contains("must name the injector"));
    assert!(refused(&[COLUMNS[0], COLUMNS[2]]).contains("must name the point"));
    assert!(refused(&COLUMNS[..2]).contains("No column holds a quantity"));
    assert!(refused(&[COLUMNS[0], COLUMNS[1], COLUMNS[2], COLUMNS[2]]).contains("Two columns"));
    let bar = ("Delivered (bar)", Column::Delivered);
    assert!(refused(&[COLUMNS[0], COLUMNS[1], bar]).contains("not a unit for this"));
    let volume = ("Tube", Column::Volume);
    assert_eq!(refused(&[COLUMNS[0], COLUMNS[1], volume]), "This bench has no \"volume\".");
    for (heading, column) in [
        ("Inj. position", Column::Position),
        ("Return qty", Column::Returned),
        ("Time", Column::Skip),
    ] {
        assert_eq!(Column::guessed(heading), column);
    }
}
