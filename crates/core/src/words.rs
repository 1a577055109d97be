//! Lists, counts and plurals: the one helper of every sentence.

use std::fmt::Display;

/// `1`, `1 and 2`, `1, 2 and 4`.
///
/// ```
/// use cobaltine_core::words::list;
/// assert_eq!(list(&[1, 2, 4]), "1, 2 and 4");
/// assert_eq!(list(&["bore", "seat"]), "bore and seat");
/// assert_eq!(list::<u32>(&[]), "");
/// ```
pub fn list<T: Display>(items: &[T]) -> String {
    let names: Vec<String> = items.iter().map(ToString::to_string).collect();
    match names.split_last() {
        None => String::new(),
        Some((last, [])) => last.clone(),
        Some((last, rest)) => format!("{} and {last}", rest.join(", ")),
    }
}

/// The one word for one, the other for any other number.
///
/// ```
/// use cobaltine_core::words::by_number;
/// assert_eq!(by_number(1, "leaks", "leak"), "leaks");
/// ```
pub fn by_number<'a>(n: usize, one: &'a str, many: &'a str) -> &'a str {
    if n == 1 { one } else { many }
}

/// A number with its noun.
///
/// ```
/// use cobaltine_core::words::counted;
/// assert_eq!((counted(1, "run", "runs"), counted(3, "run", "runs")), ("1 run".to_owned(), "3 runs".to_owned()));
/// ```
pub fn counted(n: usize, one: &str, many: &str) -> String {
    format!("{n} {}", by_number(n, one, many))
}

/// `Cylinder 2` or `Cylinders 2 and 4`, in the order of numbering.
pub fn cylinders(numbers: &[u32]) -> String {
    named(numbers, "Cylinder", "Cylinders")
}

/// `Injector 2` or `Injectors 2 and 4`, in the order of numbering.
pub fn injectors(tags: &[u32]) -> String {
    named(tags, "Injector", "Injectors")
}

fn named(numbers: &[u32], one: &str, many: &str) -> String {
    let mut numbers = numbers.to_vec();
    numbers.sort_unstable();
    format!("{} {}", by_number(numbers.len(), one, many), list(&numbers))
}
