//! Checks that are looked at and answered, not measured: what each answer says, worst first.

mod words;

use super::{Cell, Found, Outcome, Sheet};

/// What one answer says: how it weighs, and the sentence.
pub(super) type Said = (Outcome, &'static str);

/// Answers of a check about what all cylinders share.
pub(super) struct Looked {
    said: Vec<Said>,
    open: Vec<&'static str>,
}

impl Looked {
    /// Takes every answer that was given; `says` has one entry for each choice of its cell, none
    /// for a choice that is no answer.
    pub(super) fn at(sheet: &Sheet, cells: &[Cell], says: &[(&str, &[Option<Said>])]) -> Self {
        let mut looked = Self { said: Vec::new(), open: Vec::new() };
        for (name, answers) in says {
            let answer =
                sheet.of_set(name).and_then(|v| answers.get(v as usize).copied().flatten());
            let word = cells.iter().find(|cell| cell.name == *name).map_or("", |cell| cell.word);
            match answer {
                Some(said) => looked.said.push(said),
                None => looked.open.push(word),
            }
        }
        looked.said.sort_by_key(|(outcome, _)| std::cmp::Reverse(*outcome));
        looked
    }

    /// The worst of the answers.
    pub(super) fn worst(&self) -> Outcome {
        self.said.first().map_or(Outcome::Open, |(outcome, _)| *outcome)
    }

    /// The finding: the worst answer leads, the others follow, what is open is named.
    pub(super) fn found(self, first: &str, clear: &str) -> Found {
        let worst = self.worst();
        let headline = match worst {
            Outcome::Open => first.to_owned(),
            Outcome::Clear => clear.to_owned(),
            Outcome::Hint | Outcome::Fault => self.said[0].1.to_owned(),
        };
        let mut advice: Vec<String> = self
            .said
            .iter()
            .skip(usize::from(worst != Outcome::Clear))
            .filter(|(outcome, _)| *outcome != Outcome::Clear)
            .map(|(_, says)| (*says).to_owned())
            .collect();
        if !self.open.is_empty() && worst != Outcome::Open {
            advice.push(words::not_checked_yet(self.open.join(", ").to_lowercase()));
        }
        Found { headline, advice, outcome: Some(worst), ..Found::default() }
    }
}
