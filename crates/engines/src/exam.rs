//! One job, done by every technician, each scored against the truth.

use crate::draw::Draw;
use crate::fault::Remedy;
use crate::population::{MadeJob, Population, PopulationError, Shift};
use crate::score::{Calibration, JobScore, Tally, causes_at, score, wanted};
use crate::second::Second;
use crate::technician::Work;
use crate::technician::follows::{Tools, follow};
use crate::technician::school::{SHIPPED, School, SchoolsError, schools};
use crate::truth::{State, truth};
use cobaltine_core::record::JobFile;
use thiserror::Error;

/// The name of the technician who follows the program.
pub const FOLLOWS: &str = "Cobaltine";

/// Why no exam can be held.
#[derive(Debug, Error)]
pub enum ExamError {
    /// The population.
    #[error(transparent)]
    Population(#[from] PopulationError),
    /// The schools.
    #[error(transparent)]
    Schools(#[from] SchoolsError),
    /// The tools of the one who follows the program.
    #[error("{0}")]
    Tools(String),
    /// A job that the program refused, which is a defect of one of the two.
    #[error("job {0}: {1}")]
    Refused(u64, String),
}

/// Everything that is made once for many jobs.
#[derive(Debug)]
pub struct Exam {
    people: People,
    tools: Tools,
    schools: Vec<School>,
}

/// Who comes in.
#[derive(Debug)]
enum People {
    First(Box<Population>),
    Second(Box<Second>),
}

/// Which population an exam is held on.
#[derive(Debug, Clone, PartialEq)]
pub enum Whose {
    /// The first, shifted.
    First(Shift),
    /// The second, with who does what is named.
    Second,
    /// The second, with who errs.
    SecondErring,
}

/// A job with what each technician made of it.
#[derive(Debug)]
pub struct Marked {
    /// The job and its truth.
    pub job: MadeJob,
    /// The record as it is at the end.
    pub file: JobFile,
    /// How the first technician did it.
    pub work: Work,
    /// Technicians in the order of [`Exam::names`]; none where one has no ground.
    pub scores: Vec<Option<JobScore>>,
    /// What the first one stated.
    pub calibration: Calibration,
}

/// What is true of one place.
#[derive(Debug, Clone, PartialEq)]
pub struct PlaceTruth {
    /// The injector by itself.
    pub injector: State,
    /// What is to be done there; none where nothing is.
    pub wanted: Option<Remedy>,
    /// Causes that were put in here, what all share among them.
    pub causes: Vec<&'static str>,
}

/// Sums over many jobs.
#[derive(Debug, Clone, Default)]
pub struct Results {
    /// By technician.
    pub tallies: Vec<Tally>,
    /// The first technician on the ground of each.
    pub on_ground: Vec<Tally>,
    /// What the first one stated.
    pub calibration: Calibration,
}

impl Exam {
    /// With the files that ship, and a workshop's own rows laid over the
    /// weights (none: an empty text).
    ///
    /// # Errors
    /// A file that cannot be used.
    pub fn new(whose: &Whose, own_rows: &str) -> Result<Self, ExamError> {
        let second = || Second::shipped().map(Box::new);
        let people = match whose {
            Whose::First(shift) => People::First(Box::new(Population::shipped()?.shifted(shift))),
            Whose::Second => People::Second(second()?),
            Whose::SecondErring => {
                let mut second = second()?;
                second.person = second.erring.clone();
                People::Second(second)
            }
        };
        Ok(Self {
            people,
            tools: Tools::with(own_rows).map_err(ExamError::Tools)?,
            schools: schools(SHIPPED)?,
        })
    }

    /// Technicians, the one who follows the program first.
    pub fn names(&self) -> Vec<&str> {
        [FOLLOWS].into_iter().chain(self.schools.iter().map(|one| one.name.as_str())).collect()
    }

    /// The seed of the nth job of a run.
    pub fn seed(run: u64, nth: u64) -> u64 {
        // Streams of neighbouring runs share nothing.
        (Draw::new(run, nth).bits() >> 64) as u64 >> 12
    }

    /// Every technician does this job.
    ///
    /// # Errors
    /// A job that the program refused.
    pub fn job(&self, seed: u64) -> Result<Marked, ExamError> {
        let (job, person) = match &self.people {
            People::First(people) => (people.job(seed), &people.person),
            People::Second(people) => (people.job(seed), &people.person),
        };
        let (file, work) =
            follow(&job, person, &self.tools).map_err(|why| ExamError::Refused(seed, why))?;
        let mut scores = vec![Some(score(&job, &work, &self.tools.rules))];
        for school in &self.schools {
            scores.push(
                school
                    .speaks(&job.engine)
                    .then(|| score(&job, &school.follow(&job, person), &self.tools.rules)),
            );
        }
        let mut calibration = Calibration::default();
        calibration.add(&job, &work);
        Ok(Marked { job, file, work, scores, calibration })
    }
}

impl Results {
    /// For so many technicians.
    pub fn of(technicians: usize) -> Self {
        Self {
            tallies: vec![Tally::default(); technicians],
            on_ground: vec![Tally::default(); technicians],
            calibration: Calibration::default(),
        }
    }

    /// Adds what one job came to.
    pub fn add(&mut self, scores: &[Option<JobScore>], calibration: &Calibration) {
        let first = scores.first().copied().flatten();
        for (at, one) in scores.iter().enumerate() {
            if let (Some(one), Some(first)) = (one, &first) {
                self.tallies[at].add(one);
                self.on_ground[at].add(first);
            }
        }
        self.calibration.merge(calibration);
    }
}

impl Marked {
    /// How badly the first technician did: a good one condemned weighs most.
    pub fn worth_reading(&self) -> f64 {
        let Some(first) = self.scores.first().copied().flatten() else { return 0.0 };
        f64::from(first.condemned) * 3.0
            + f64::from(first.faults - first.found.min(first.faults))
            + f64::from(first.undecided) * 0.2
    }

    /// What was done, what was decided and what would have been right, line by line.
    pub fn told(&self) -> String {
        let mut text = format!(
            "{:?}, {} cylinders, {:.0} h, told {:?}, {:?}\ntrue: {}\ndone: {}\n",
            self.job.engine.fuel,
            self.job.engine.seats.len(),
            self.job.hours,
            self.job.symptoms,
            self.job.story.cylinders,
            self.truth(),
            self.work.done.join(", "),
        );
        for one in &self.work.unsafe_steps {
            text.push_str(&format!("unsafe: {one}\n"));
        }
        for (cylinder, call) in self.work.calls.iter().enumerate() {
            let (state, remedy) = wanted(&self.job, cylinder);
            let odds: Vec<String> = self
                .work
                .stated
                .iter()
                .filter(|one| one.cylinder == cylinder && one.odds > 0.08)
                .map(|one| format!("{} {:.0} %", one.cause, one.odds * 100.0))
                .collect();
            let line = format!("{}: {call:?}; is {state:?}, {remedy:?}", cylinder + 1);
            text.push_str(&format!("{line}; {}\n", odds.join(", ")));
        }
        text
    }

    /// What is true of each place: the injector that came in it, and what is to be done there.
    pub fn places(&self) -> impl Iterator<Item = PlaceTruth> {
        (0..self.job.engine.seats.len()).map(|cylinder| PlaceTruth {
            injector: truth(&self.job.engine.injectors[cylinder]).state,
            wanted: wanted(&self.job, cylinder).1,
            causes: causes_at(&self.job, cylinder),
        })
    }

    /// What is wrong, in short: `guide at 2, 0.48`.
    pub fn truth(&self) -> String {
        let faults = self.job.faults.iter().map(|put| {
            format!("{:?} at {}, {:.2}", put.fault, put.cylinder + 1, put.size).to_lowercase()
        });
        let said: Vec<String> = faults.collect();
        if said.is_empty() { "nothing".to_owned() } else { said.join("; ") }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_same_seed_scores_the_same_and_sums_do_not_depend_on_the_order() {
        let exam = Exam::new(&Whose::First(Shift::default()), "").unwrap();
        let seeds: Vec<u64> = (0..40).map(|nth| Exam::seed(77, nth)).collect();
        let sum = |seeds: &[u64]| {
            let mut all = Results::of(exam.names().len());
            for seed in seeds {
                let marked = exam.job(*seed).unwrap();
                all.add(&marked.scores, &marked.calibration);
            }
            let counts = |tally: &Tally| (tally.jobs, tally.sum.found, tally.sum.condemned);
            all.tallies.iter().map(counts).collect::<Vec<_>>()
        };
        let mut turned = seeds.clone();
        turned.reverse();
        assert_eq!(sum(&seeds), sum(&turned));
        assert_ne!(Exam::seed(77, 0), Exam::seed(78, 0));
    }
}
