//! One row of a limits table as it comes from a file: text, read with a problem for each cell.

use super::words::Wrong;
use super::{FamilyKind, LimitCheck, LimitEntry};
use crate::limits::FieldProblem;
use crate::typed::{Field, date};
use crate::units::{Units, within};
use uuid::Uuid;

/// A column that is read and not written: the date of the source, which goes into its words.
pub const DATED: &str = "dated";

/// The columns of the CSV file, in the order in which they are written. In any order when read.
pub const COLUMNS: [&str; 11] = [
    "family",
    "kind",
    "check",
    "condition",
    "lower",
    "upper",
    "from_c",
    "to_c",
    "from_kpa",
    "to_kpa",
    "source",
];

/// Other words that people head these columns with, each as letters and digits only.
const HEADINGS: [(&str, &[&str]); 12] = [
    ("family", &["injectorfamily", "injector", "type", "name", "part"]),
    ("kind", &["kindofinjector", "fuelsystem", "system"]),
    ("check", &["test", "quantity", "what", "limitof", "measured"]),
    ("condition", &["conditioninwords", "regime", "point"]),
    ("lower", &["minimum", "min", "least", "lowest", "from", "lowerlimit"]),
    ("upper", &["maximum", "max", "most", "highest", "to", "upperlimit", "limit"]),
    ("from_c", &["validfrom", "temperaturefrom", "fromtemperature", "tempmin"]),
    ("to_c", &["validto", "temperatureto", "totemperature", "tempmax"]),
    ("from_kpa", &["pressurefrom", "frompressure", "pressure"]),
    ("to_kpa", &["pressureto", "topressure"]),
    ("source", &["reference", "document", "sheet", "origin", "wherefrom"]),
    (DATED, &["date", "issued", "asof", "edition", "revised"]),
];

/// The column that a heading means by its words, where one does. A unit in brackets does not matter.
///
/// ```
/// use cobaltine_core::library::column_named;
/// assert_eq!(column_named("Maximum (bar)"), Some("upper"));
/// assert_eq!(column_named("from_kpa"), Some("from_kpa"));
/// assert_eq!(column_named("Shelf"), None);
/// ```
pub fn column_named(heading: &str) -> Option<&'static str> {
    let own = heading.trim().to_lowercase();
    if let Some(column) = COLUMNS.into_iter().find(|column| *column == own) {
        return Some(column);
    }
    let before = own.split(['(', '[', ',']).next().unwrap_or_default();
    let plain: String = before.chars().filter(|c| c.is_alphanumeric()).collect();
    let found = HEADINGS.iter().find(|(column, words)| {
        *column == plain || column.replace('_', "") == plain || words.contains(&plain.as_str())
    });
    found.map(|(column, _)| *column)
}

/// A row as text.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct LimitRow {
    /// Family's name.
    pub family: String,
    /// Kind of the family; may be empty when the family is known.
    pub kind: String,
    /// See [`LimitCheck`].
    pub check: String,
    /// In words; may be empty.
    pub condition: String,
    /// With or without a unit; may be empty.
    pub lower: String,
    /// With or without a unit; may be empty.
    pub upper: String,
    /// May be empty.
    pub from_c: String,
    /// May be empty.
    pub to_c: String,
    /// May be empty.
    pub from_kpa: String,
    /// May be empty.
    pub to_kpa: String,
    /// Where the numbers come from.
    pub source: String,
    /// Date of the source; may be empty.
    pub dated: String,
}

/// A row that could be read. Revision, approval and identity are given when it is kept.
#[derive(Debug, Clone, PartialEq)]
pub struct ReadRow {
    /// The limit.
    pub entry: LimitEntry,
    /// The kind of its family, where the row says so.
    pub kind: Option<FamilyKind>,
}

/// The words of the screen, in any case and with or without their punctuation.
fn same(word: &str, typed: &str) -> bool {
    let plain = |text: &str| -> String {
        text.to_lowercase().chars().filter(|c| c.is_alphanumeric()).collect()
    };
    plain(word) == plain(typed)
}

impl LimitRow {
    /// A cell by the name of its column.
    pub fn cell(&mut self, column: &str) -> Option<&mut String> {
        Some(match column {
            "family" => &mut self.family,
            "kind" => &mut self.kind,
            "check" => &mut self.check,
            "condition" => &mut self.condition,
            "lower" => &mut self.lower,
            "upper" => &mut self.upper,
            "from_c" => &mut self.from_c,
            "to_c" => &mut self.to_c,
            "from_kpa" => &mut self.from_kpa,
            "to_kpa" => &mut self.to_kpa,
            "source" => &mut self.source,
            DATED => &mut self.dated,
            _ => return None,
        })
    }

    /// Reads every cell. A bare number is canonical: a file means the same in every workshop.
    ///
    /// # Errors
    /// A problem for each cell that cannot be read, under the name of its column.
    pub fn read(&self) -> Result<ReadRow, Vec<FieldProblem>> {
        within(Units::default(), || self.read_cells())
    }

    fn read_cells(&self) -> Result<ReadRow, Vec<FieldProblem>> {
        let mut problems = Vec::new();
        let family = self.family.trim();
        if family.is_empty() || family.chars().count() > 80 {
            problems.push(Wrong::Name.at("family"));
        }
        for (column, text, most) in
            [("condition", &self.condition, 120), ("source", &self.source, 300)]
        {
            if text.chars().count() > most {
                problems.push(Wrong::LongerThan(most).at(column));
            }
        }
        if self.source.trim().is_empty() {
            problems.push(Wrong::NoSource.at("source"));
        }
        let dated = match self.dated.trim() {
            "" => None,
            text => date(text)
                .map_err(|error| problems.push(FieldProblem::new(DATED, error.to_string())))
                .ok(),
        };
        let kind = match self.kind.trim() {
            "" => None,
            text => {
                let known = FamilyKind::ALL
                    .into_iter()
                    .find(|kind| kind.name() == text || same(kind.word(), text));
                if known.is_none() {
                    let names = FamilyKind::ALL.map(FamilyKind::name).to_vec();
                    problems.push(Wrong::NoneOf(text, names).at("kind"));
                }
                known
            }
        };
        let check = self.check.trim();
        let check = LimitCheck::parse(check)
            .or_else(|| LimitCheck::ALL.into_iter().find(|one| same(one.word(), check)));
        if check.is_none() {
            let names = LimitCheck::ALL.map(LimitCheck::name).to_vec();
            problems.push(Wrong::NoneOf(self.check.trim(), names).at("check"));
        }
        let mut number = |column: &str, text: &str, field: Field| match text.trim() {
            "" => None,
            text => field
                .read(text)
                .map_err(|error| problems.push(FieldProblem::new(column, error.to_string())))
                .ok(),
        };
        let field = check.map(LimitCheck::field);
        let mut end =
            |column: &str, text: &str| field.and_then(|field| number(column, text, field));
        let (lower, upper) = (end("lower", &self.lower), end("upper", &self.upper));
        let pressure = Field::from_zero("kPa", 1e7);
        let from_c = number("from_c", &self.from_c, Field::TEMPERATURE.bare());
        let to_c = number("to_c", &self.to_c, Field::TEMPERATURE.bare());
        let from_kpa = number("from_kpa", &self.from_kpa, pressure);
        let to_kpa = number("to_kpa", &self.to_kpa, pressure);
        if self.lower.trim().is_empty() && self.upper.trim().is_empty() {
            problems.push(Wrong::NoEnd.at("upper"));
        }
        for (column, from, to) in
            [("upper", lower, upper), ("to_c", from_c, to_c), ("to_kpa", from_kpa, to_kpa)]
        {
            if from.zip(to).is_some_and(|(from, to)| from > to) {
                problems.push(Wrong::Turned.at(column));
            }
        }
        let Some(check) = check.filter(|_| problems.is_empty()) else { return Err(problems) };
        let typed = match (self.lower.trim(), self.upper.trim()) {
            ("", upper) => upper.to_owned(),
            (lower, "") => lower.to_owned(),
            (lower, upper) => format!("{lower} to {upper}"),
        };
        Ok(ReadRow {
            entry: LimitEntry {
                id: Uuid::nil(),
                family: family.to_owned(),
                check,
                condition: self.condition.trim().to_owned(),
                revision: 0,
                lower,
                upper,
                typed,
                from_c,
                to_c,
                from_kpa,
                to_kpa,
                source: match dated {
                    Some(day) => format!("{}, {}", self.source.trim(), day.strftime("%-d %b %Y")),
                    None => self.source.trim().to_owned(),
                },
                approved: None,
            },
            kind,
        })
    }
}

impl From<&LimitEntry> for LimitRow {
    fn from(entry: &LimitEntry) -> Self {
        let text = |value: Option<f64>| value.map(|v| v.to_string()).unwrap_or_default();
        Self {
            family: entry.family.clone(),
            kind: String::new(),
            check: entry.check.name().to_owned(),
            condition: entry.condition.clone(),
            lower: text(entry.lower),
            upper: text(entry.upper),
            from_c: text(entry.from_c),
            to_c: text(entry.to_c),
            from_kpa: text(entry.from_kpa),
            to_kpa: text(entry.to_kpa),
            source: entry.source.clone(),
            dated: String::new(),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_value_of_the_starter_library_is_read_aloud_with_its_unit() {
        let text = include_str!("../../../../web/src/start/starter.csv");
        let mut lines = text.lines();
        let columns: Vec<&str> = lines.next().unwrap().split(',').collect();
        let aloud: Vec<String> = lines
            .map(|line| {
                let mut row = LimitRow::default();
                for (column, cell) in columns.iter().zip(line.split(',')) {
                    row.cell(column).unwrap().push_str(cell);
                }
                let read = row.read().unwrap();
                format!("{:?}: {} {}", read.kind, read.entry.check.name(), read.entry.window())
            })
            .collect();
        let expected = [
            "Some(PetrolPortHigh): coil_resistance 10.5 to 18.5 Ω",
            "Some(PetrolPortLow): coil_resistance 1.3 to 5.6 Ω",
            "Some(PetrolDirectSolenoid): coil_resistance 0.8 to 3.2 Ω",
            "Some(DieselSolenoid): coil_resistance 0.15 to 0.9 Ω",
            "Some(DieselPiezo): insulation at least 9 MΩ",
        ];
        assert_eq!(aloud, expected);
    }

    #[test]
    fn a_row_is_read_in_any_unit_and_each_bad_cell_is_named() {
        let row = LimitRow {
            family: "Brennick 4N".to_owned(),
            check: "opening_pressure".to_owned(),
            lower: "230 bar".to_owned(),
            upper: "24 MPa".to_owned(),
            source: "sheet 4".to_owned(),
            dated: "30.6.2031".to_owned(),
            ..LimitRow::default()
        };
        let read = row.read().unwrap().entry;
        assert_eq!((read.lower, read.upper), (Some(23_000.0), Some(24_000.0)));
        assert_eq!(read.source, "sheet 4, 30 Jun 2031");
        assert_eq!(
            (read.typed.as_str(), read.window().as_str()),
            ("230 bar to 24 MPa", "23000 to 24000 kPa")
        );
        assert_eq!(LimitRow::from(&read).read().unwrap().entry.upper, read.upper, "there and back");

        let bad = LimitRow {
            check: "weight".to_owned(),
            kind: "steam".to_owned(),
            from_c: "warm".to_owned(),
            ..row.clone()
        };
        let columns: Vec<String> = bad.read().unwrap_err().into_iter().map(|p| p.field).collect();
        assert_eq!(columns, ["kind", "check", "from_c"]);
        let turned = LimitRow { lower: "26 MPa".to_owned(), ..row.clone() };
        assert_eq!(turned.read().unwrap_err(), [Wrong::Turned.at("upper")]);
        let empty =
            LimitRow { lower: String::new(), upper: String::new(), source: String::new(), ..row };
        assert_eq!(empty.read().unwrap_err().len(), 2);
    }
}
