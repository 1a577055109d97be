//! Writes the exercises of the demo workshop: `cargo run -p cobaltine-trainer --example demo`.
//!
//! One is done well, one with two mistakes, one is still open.

use cobaltine_core::exercise::{CaseRef, ExerciseAct};
use cobaltine_core::record::Person;
use cobaltine_core::rules::Rules;
use cobaltine_core::start::StartId;
use cobaltine_core::work::Decision;
use cobaltine_trainer::best::{decides, decisions, goes, steps};
use cobaltine_trainer::case::case;
use cobaltine_trainer::marks::result;
use cobaltine_trainer::{Learner, Stumble};
use jiff::{SignedDuration, Timestamp};
use std::error::Error;
use uuid::Uuid;

/// Case, number of the job, minutes before the demo is told, what goes wrong, how far it goes.
type Told = (&'static str, u64, i64, &'static [Stumble], Until);

#[derive(Clone, Copy, PartialEq)]
enum Until {
    Marks,
    OneTooMany,
    Readings,
}

const ALL: [Told; 3] = [
    ("needs_a_bath", 103, 1600, &[], Until::Marks),
    ("first_return_test", 102, 3000, &[Stumble::Without(StartId::HosesPurged)], Until::OneTooMany),
    ("two_of_four", 101, 90, &[], Until::Readings),
];

fn main() -> Result<(), Box<dyn Error>> {
    let by: Uuid = "01c30039-36c5-771e-822a-ae2b7ce1a845".parse()?;
    let told: Timestamp = "2031-05-20T09:00:00Z".parse()?;
    for (name, number, minutes, stumbles, until) in ALL {
        let case = case(&CaseRef::Written { name: name.to_owned() })?;
        let began = told - SignedDuration::from_mins(minutes);
        let mut one = Learner::comes(&case, by, began, number)?;
        one.stumbles.extend(stumbles);
        for step in steps(&case) {
            goes(&mut one, step)?;
        }
        if until != Until::Readings {
            let mut decided = decisions(&case);
            if until == Until::OneTooMany {
                decided[0].1 = Decision::Replace;
            }
            decides(&mut one, &decided)?;
            let marks = result(&case, &one.file, &Rules::default())?.marks;
            one.acts(ExerciseAct::Ended { marks })?;
        }
        one.file.people = vec![Person::new(by, "Maren")];
        let path = format!("demo/job-exercise-{}.json", name.replace('_', "-"));
        std::fs::write(path, serde_json::to_string_pretty(&one.file)? + "\n")?;
    }
    Ok(())
}
