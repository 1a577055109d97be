//! Every sentence of the library that says what is wrong with a field.

use crate::limits::FieldProblem;

/// What is wrong with a field of the library, as a code with what belongs into its sentence.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(super) enum Wrong<'a> {
    /// No name, or too long a one.
    Name,
    /// Zero, below it, or no number.
    NotAboveZero,
    /// Longer than this.
    LongerThan(usize),
    /// More stages or a longer note than a family holds.
    MoreThanAFamily,
    /// Driven with more than it takes.
    DrivenOverPeak,
    /// No point, or too many.
    Points,
    /// A preset of nothing, or of too much.
    NoCells,
    /// A point without strokes or with a time below zero.
    Point(&'a str),
    /// None of the words that are known.
    NoneOf(&'a str, Vec<&'static str>),
    /// Nobody says where the numbers come from.
    NoSource,
    /// Neither a lower nor an upper end.
    NoEnd,
    /// The lower end lies above the upper one.
    Turned,
}

impl Wrong<'_> {
    /// The problem of this field, in words.
    pub fn at(&self, field: &str) -> FieldProblem {
        FieldProblem::new(field, self.says())
    }

    fn says(&self) -> String {
        match self {
            Self::Name => "Enter a name of 1 to 80 characters.".to_owned(),
            Self::NotAboveZero => "Enter a value above zero.".to_owned(),
            Self::LongerThan(most) => format!("Maximum {most} characters."),
            Self::MoreThanAFamily => {
                "Maximum 8 stages of tightening and 2000 characters.".to_owned()
            }
            Self::DrivenOverPeak => {
                "Drive voltage is above the peak voltage. Correct one of them.".to_owned()
            }
            Self::Points => "Enter 1 to 40 points.".to_owned(),
            Self::NoCells => "Fill in 1 to 40 fields first.".to_owned(),
            Self::Point(name) => {
                format!("\"{name}\": enter strokes, and an energising time from zero.")
            }
            Self::NoneOf(typed, known) => {
                format!("\"{typed}\" is not known. Known: {}.", known.join(", "))
            }
            Self::NoSource => "Enter where the numbers come from.".to_owned(),
            Self::NoEnd => "Enter a lower end, an upper end, or both.".to_owned(),
            Self::Turned => "Upper end is below the lower end.".to_owned(),
        }
    }
}
