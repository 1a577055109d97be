//! Input that is extreme, broken or empty.

use super::*;

/// Outputs that carry a number in every worked case must carry one in every answer: a NaN
/// would show as null in JSON.
fn always_numbers(id: CalcId) -> Vec<String> {
    let mut keys: BTreeMap<String, bool> = BTreeMap::new();
    for (_, output) in good(id) {
        walk(&output, "", &mut |path, value| {
            let number = keys.entry(path.to_owned()).or_insert(true);
            *number = *number && value.is_number();
        });
    }
    let may_miss =
        |key: &str| MAY_BE_MISSING.iter().any(|r| key.trim_end_matches("[]").ends_with(r));
    keys.into_iter()
        .filter_map(|(key, number)| (number && !may_miss(&key)).then_some(key))
        .collect()
}

fn walk(value: &Value, path: &str, see: &mut dyn FnMut(&str, &Value)) {
    match value {
        Value::Array(items) => items.iter().for_each(|item| walk(item, &format!("{path}[]"), see)),
        Value::Object(map) => {
            map.iter().for_each(|(key, item)| walk(item, &format!("{path}.{key}"), see));
        }
        Value::Null | Value::Bool(_) | Value::Number(_) | Value::String(_) => see(path, value),
    }
}

/// Replaces the `at`-th leaf; false when there are not so many.
fn replace_leaf(value: &mut Value, at: &mut usize, with: &Value) -> bool {
    match value {
        Value::Array(items) => items.iter_mut().any(|item| replace_leaf(item, at, with)),
        Value::Object(map) => map.values_mut().any(|item| replace_leaf(item, at, with)),
        Value::Null | Value::Bool(_) | Value::Number(_) | Value::String(_) => {
            let here = *at == 0;
            if here {
                *value = with.clone();
            }
            *at = at.saturating_sub(1);
            here
        }
    }
}

#[test]
fn extreme_and_broken_input_is_refused_or_answered_in_finite_numbers_and_never_panics() {
    let mut extremes: Vec<Value> =
        [0.0, -1.0, 1e-300, 5e-324, 1e150, 1e300, f64::MAX].iter().map(|x| json!(x)).collect();
    extremes.extend([json!(-1), json!(0), json!(u64::MAX), Value::Null, json!("x"), json!([])]);
    for id in CalcId::ALL.iter().copied() {
        let numbers = always_numbers(id);
        for (input, _) in good(id) {
            for extreme in &extremes {
                for leaf in 0.. {
                    let (mut hostile, mut at) = (input.clone(), leaf);
                    if !replace_leaf(&mut hostile, &mut at, extreme) {
                        break;
                    }
                    let Ok(answer) = run(id, hostile.clone()) else { continue };
                    // What was not measured has no number.
                    let there = !extreme.is_null();
                    walk(&answer, "", &mut |path, value| {
                        let broken =
                            there && numbers.iter().any(|n| n == path) && !value.is_number();
                        assert!(!broken, "{}: {path} is {value} for {hostile}", id.name());
                    });
                }
            }
        }
        for broken in [json!(null), json!([]), json!({}), json!("x"), json!({"values": ["a"]})] {
            assert!(run(id, broken.clone()).is_err(), "{} {broken}", id.name());
        }
    }
}

#[test]
fn an_empty_list_is_refused_and_null_is_the_same_as_nothing() {
    for id in CalcId::ALL.iter().copied() {
        for (input, output) in good(id) {
            for (key, value) in input.as_object().unwrap() {
                if value.is_array() {
                    let mut empty = input.clone();
                    empty[key] = json!([]);
                    assert!(run(id, empty).is_err(), "{}: {key} empty", id.name());
                }
                let (mut null, mut missing) = (input.clone(), input.clone());
                null[key] = Value::Null;
                missing.as_object_mut().unwrap().remove(key);
                assert_eq!(run(id, null).ok(), run(id, missing).ok(), "{}: {key}", id.name());
            }
            assert_eq!(run(id, input).unwrap(), output, "the same question, the same answer");
        }
    }
}
