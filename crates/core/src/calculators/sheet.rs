//! What a calculator is made of: fields with units, results with digits, steps with arithmetic.

use crate::calc::CalcError;
use crate::limits::FieldProblem;
use crate::rules::{RuleId, Rules};
use crate::tests::Because;
use crate::typed::{Field, Typed, TypedError};
use crate::units::{self, Units};
use serde::Serialize;
use std::collections::BTreeMap;
use utoipa::ToSchema;

/// A calculator as a view draws it.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Calculator {
    /// Its address.
    pub id: String,
    /// Its name.
    pub title: String,
    /// What it answers, in a sentence.
    pub says: String,
    /// In the order of typing.
    pub fields: Vec<FieldInfo>,
}

/// One field.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct FieldInfo {
    /// Its name in the address.
    pub name: String,
    /// The word beside it.
    pub word: String,
    /// The unit of a bare number.
    pub unit: String,
    /// What stands in it at first.
    pub example: String,
    /// May be left empty.
    pub optional: bool,
    /// The values to choose from, when it is a choice.
    pub choices: Vec<Choice>,
}

/// One value of a choice.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Choice {
    /// As sent.
    pub value: String,
    /// As read.
    pub word: String,
}

/// What came out.
#[derive(Debug, Clone, Default, PartialEq, Serialize, ToSchema)]
pub struct Worked {
    /// The answer first.
    pub results: Vec<ResultLine>,
    /// The formula with the numbers filled in.
    pub steps: Vec<Because>,
    /// What to know before it is used.
    pub warnings: Vec<String>,
    /// Fields that were typed in another unit, in both.
    pub read_as: BTreeMap<String, String>,
}

/// One number.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct ResultLine {
    /// What it is.
    pub word: String,
    /// Four significant digits at most: more than any instrument of the trade.
    pub shown: String,
    /// Its unit.
    pub unit: String,
}

pub(super) struct Spec {
    pub title: &'static str,
    pub says: &'static str,
    pub fields: &'static [Slot],
    pub work: fn(&Sheet<'_>) -> Result<Worked, CalcError>,
}

pub(super) struct Slot {
    pub name: &'static str,
    pub word: &'static str,
    pub example: &'static str,
    pub takes: Takes,
}

pub(super) enum Takes {
    Needed(Field),
    Maybe(Field),
    OneOf(&'static [(&'static str, &'static str)]),
}

pub(super) const fn needed(
    name: &'static str,
    word: &'static str,
    example: &'static str,
    field: Field,
) -> Slot {
    Slot { name, word, example, takes: Takes::Needed(field) }
}

pub(super) const fn maybe(
    name: &'static str,
    word: &'static str,
    example: &'static str,
    field: Field,
) -> Slot {
    Slot { name, word, example, takes: Takes::Maybe(field) }
}

impl Spec {
    pub(super) fn describe(&self, id: &str) -> Calculator {
        let fields = self.fields.iter().map(|slot| {
            let (unit, optional, choices): (_, _, &[_]) = match slot.takes {
                Takes::Needed(field) => (field.unit(), false, &[]),
                Takes::Maybe(field) => (field.unit(), true, &[]),
                Takes::OneOf(choices) => ("", false, choices),
            };
            FieldInfo {
                name: slot.name.to_owned(),
                word: slot.word.to_owned(),
                unit: unit.to_owned(),
                example: slot.example_here(),
                optional,
                choices: choices
                    .iter()
                    .map(|(value, word)| Choice { value: (*value).into(), word: (*word).into() })
                    .collect(),
            }
        });
        Calculator {
            id: id.to_owned(),
            title: self.title.to_owned(),
            says: self.says.to_owned(),
            fields: fields.collect(),
        }
    }
}

/// The fields of one calculator as they were read.
pub(super) struct Sheet<'a> {
    read: BTreeMap<&'static str, Typed>,
    picked: BTreeMap<&'static str, &'static str>,
    texts: &'a BTreeMap<String, String>,
    /// The rules of the house.
    pub(super) rules: &'a Rules,
}

impl Slot {
    /// What the field is filled with at first: a bare number turned into the unit beside the field.
    fn example_here(&self) -> String {
        let field = match self.takes {
            Takes::Needed(field) | Takes::Maybe(field) => field,
            Takes::OneOf(_) => return self.example.to_owned(),
        };
        // Read canonically: an example is written for every workshop.
        let read = units::within(Units::default(), || field.read_typed(self.example));
        let other = field.unit() != field.kept_unit();
        match read.ok().filter(|typed| other && typed.typed_unit.is_none()) {
            Some(typed) => field.said(typed.value),
            None => self.example.to_owned(),
        }
    }
}

impl<'a> Sheet<'a> {
    pub(super) fn read(
        spec: &Spec,
        texts: &'a BTreeMap<String, String>,
        rules: &'a Rules,
    ) -> Result<Self, Vec<FieldProblem>> {
        let mut sheet = Self { read: BTreeMap::new(), picked: BTreeMap::new(), texts, rules };
        let mut problems = Vec::new();
        for slot in spec.fields {
            let text = texts.get(slot.name).map_or("", |text| text.trim());
            match slot.takes {
                Takes::OneOf(choices) => {
                    let picked = choices.iter().find(|(value, _)| *value == text);
                    if let Some((value, _)) = picked.or_else(|| choices.first()) {
                        sheet.picked.insert(slot.name, value);
                    }
                }
                Takes::Maybe(_) if text.is_empty() => {}
                Takes::Needed(field) | Takes::Maybe(field) => match field.read_typed(text) {
                    Ok(typed) => {
                        sheet.read.insert(slot.name, typed);
                    }
                    Err(error) => problems.push(problem(slot.name, &error)),
                },
            }
        }
        if problems.is_empty() { Ok(sheet) } else { Err(problems) }
    }

    /// A field that is needed. Every needed field was read, or the sheet would not be here.
    pub(super) fn number(&self, name: &str) -> f64 {
        self.maybe(name).unwrap_or(f64::NAN)
    }

    pub(super) fn maybe(&self, name: &str) -> Option<f64> {
        self.read.get(name).map(|typed| typed.value)
    }

    /// Steps that name the rules which the house changed, and why.
    pub(super) fn reasons(&self, of: &[RuleId]) -> Vec<Because> {
        self.rules.reasons(of).into_iter().map(Because::says).collect()
    }

    pub(super) fn text(&self, name: &str) -> &str {
        self.texts.get(name).map_or("", |text| text.trim())
    }

    pub(super) fn picked(&self, name: &str) -> &'static str {
        self.picked.get(name).copied().unwrap_or_default()
    }

    pub(super) fn read_as(&self) -> BTreeMap<String, String> {
        let converted = self.read.iter().filter(|(_, typed)| typed.typed_unit.is_some());
        converted.map(|(name, typed)| ((*name).to_owned(), typed.both())).collect()
    }
}

fn problem(name: &str, error: &TypedError) -> FieldProblem {
    FieldProblem::new(name, error.to_string())
}

/// A refusal of a calc as a sentence of its own.
pub(super) fn sentence(text: &str) -> String {
    let mut letters = text.chars();
    let first = letters.next().map(|c| c.to_uppercase().to_string()).unwrap_or_default();
    format!("{first}{}.", letters.as_str().trim_end_matches('.'))
}

/// Four significant digits at most, never in powers of ten: more than the trade measures.
pub(super) fn digits(value: f64) -> String {
    if value == 0.0 {
        return "0".to_owned();
    }
    let before = value.abs().log10().floor() as i32 + 1;
    let decimals = (4 - before).clamp(0, 9) as usize;
    let text = format!("{value:.decimals$}");
    if decimals == 0 { text } else { text.trim_end_matches('0').trim_end_matches('.').to_owned() }
}

pub(super) fn line(word: &str, value: f64, unit: &'static str) -> ResultLine {
    let shown = digits(units::value(value, unit));
    ResultLine { word: word.to_owned(), shown, unit: units::unit(unit).to_owned() }
}
