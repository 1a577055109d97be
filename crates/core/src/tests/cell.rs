//! One cell of a check: its name, its word, and how what is typed into it is read.

use crate::instrument_link::Quantity;
use crate::typed::{Field, TypedError};
use serde::Serialize;
use utoipa::ToSchema;

/// What a cell holds.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(crate) enum Holds {
    /// A quantity.
    Number(Field),
    /// One of these answers; what is read is the place in this list.
    Choice(&'static [&'static str]),
    /// Words as they are, such as a part number; what is read is only that something stands there.
    Words,
}

/// One cell.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Cell {
    pub name: &'static str,
    pub word: &'static str,
    pub holds: Holds,
    /// Asked for only when someone wants it.
    pub more: bool,
    /// Read in old files, asked for no more.
    pub retired: bool,
    /// The answer that a sound injector gives: "all as expected" fills a row with it.
    pub sound: Option<u32>,
    /// A workshop keeps it as a preset: it is the same at the next job.
    pub preset: bool,
    /// What somebody says that it has to be: no instrument shows it.
    pub told: bool,
    /// A real fault moves it tenfold and more: a decimal is not asked about.
    pub wide: bool,
}

/// Longest words of a cell.
const LONGEST: usize = 60;

impl Cell {
    pub const fn more(self) -> Self {
        Self { more: true, ..self }
    }

    /// The workshop keeps it as a preset.
    pub const fn preset(self) -> Self {
        Self { preset: true, ..self }
    }

    /// A real fault moves it tenfold.
    pub const fn wide(self) -> Self {
        Self { wide: true, ..self }
    }

    /// Said by the maker or the library, not measured.
    pub const fn told(self) -> Self {
        Self { told: true, ..self }
    }

    /// Which of its answers a sound injector gives.
    pub const fn sound(self, answer: u32) -> Self {
        Self { sound: Some(answer), ..self }
    }

    /// No longer asked for; what older files hold of it stays readable.
    pub const fn retired(self) -> Self {
        Self { retired: true, ..self }
    }

    /// The answers to choose from; none for a number or words.
    pub fn choices(&self) -> &'static [&'static str] {
        match self.holds {
            Holds::Choice(choices) => choices,
            Holds::Number(_) | Holds::Words => &[],
        }
    }

    /// How a number is read.
    fn field(&self) -> Option<Field> {
        match self.holds {
            Holds::Number(field) => Some(field),
            Holds::Choice(_) | Holds::Words => None,
        }
    }

    /// Reads what was typed, with the text as it is kept.
    ///
    /// # Errors
    /// As [`Self::read`].
    pub fn take(&self, typed: &str) -> Result<ReadCell, TypedError> {
        let kept = self.field().map_or_else(|| typed.to_owned(), |field| field.spelled(typed));
        Ok(ReadCell { value: self.read(typed)?, kept })
    }

    /// Reads what was typed.
    ///
    /// # Errors
    /// What cannot be read, in words for the cell.
    pub fn read(&self, typed: &str) -> Result<f64, TypedError> {
        match self.holds {
            Holds::Number(field) => field.read(typed),
            Holds::Choice(choices) => {
                let value: f64 = Field::from_zero("", 100.0).read(typed)?;
                let known = value.fract() == 0.0 && (value as usize) < choices.len();
                if known { Ok(value) } else { Err(TypedError::NotANumber(typed.to_owned())) }
            }
            Holds::Words if typed.chars().count() <= LONGEST => Ok(1.0),
            Holds::Words => Err(TypedError::OutOfRange {
                low: "0".to_owned(),
                high: LONGEST.to_string(),
                unit: "characters",
            }),
        }
    }

    /// What an instrument has to show that can fill it.
    fn shown_by(&self) -> Option<Quantity> {
        let quantity = Quantity::in_unit(self.field()?.kept_unit()).filter(|_| !self.told)?;
        // Both stand in ml: what came back has its own name.
        let returned = quantity == Quantity::Volume && self.name == "returned";
        Some(if returned { Quantity::Returned } else { quantity })
    }

    /// As a view draws it.
    pub fn form(&self) -> CellForm {
        CellForm {
            name: self.name.to_owned(),
            word: self.word.to_owned(),
            unit: self.field().map_or("", Field::unit).to_owned(),
            kept_unit: self.field().map_or("", Field::kept_unit).to_owned(),
            choices: self.choices().iter().map(|c| (*c).to_owned()).collect(),
            words: matches!(self.holds, Holds::Words),
            more: self.more,
            sound: self.sound,
            preset: self.preset,
            shown_by: self.shown_by(),
        }
    }
}

/// What was typed into a cell.
#[derive(Debug, Clone, PartialEq)]
pub struct ReadCell {
    /// In the canonical unit of the cell.
    pub value: f64,
    /// As it is kept: with its unit, where a bare number is not in the canonical one.
    pub kept: String,
}

pub(crate) const fn cell(name: &'static str, word: &'static str, field: Field) -> Cell {
    Cell {
        name,
        word,
        holds: Holds::Number(field),
        more: false,
        retired: false,
        sound: None,
        preset: false,
        told: false,
        wide: false,
    }
}

/// A cell that is answered by choosing.
pub(crate) const fn choice(
    name: &'static str,
    word: &'static str,
    choices: &'static [&'static str],
) -> Cell {
    Cell {
        name,
        word,
        holds: Holds::Choice(choices),
        more: false,
        retired: false,
        sound: None,
        preset: false,
        told: false,
        wide: false,
    }
}

/// A cell of words.
pub(crate) const fn words(name: &'static str, word: &'static str) -> Cell {
    Cell {
        name,
        word,
        holds: Holds::Words,
        more: false,
        retired: false,
        sound: None,
        preset: false,
        told: false,
        wide: false,
    }
}

/// One cell as a view draws it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct CellForm {
    /// Its name.
    pub name: String,
    /// The word beside it.
    pub word: String,
    /// The unit of a bare number that is typed now: the workshop's own.
    pub unit: String,
    /// The unit of a bare number that is kept, whatever the workshop chose since.
    pub kept_unit: String,
    /// The answers to choose from.
    pub choices: Vec<String>,
    /// Words are typed, not a number.
    pub words: bool,
    /// Asked for only when someone wants it.
    pub more: bool,
    /// Place of the answer that a sound injector gives, where there is one.
    pub sound: Option<u32>,
    /// A preset of the workshop holds it.
    pub preset: bool,
    /// What an instrument has to show that can fill it in place of typing.
    pub shown_by: Option<Quantity>,
}
