//! `cobaltine calc`: lines in, lines out, in order.

use cobaltine_core::calc::{self, CalcError, CalcId};
use serde::Deserialize;
use serde_json::{Value, json};
use std::io::{BufRead, BufWriter, Write};

#[derive(Deserialize)]
struct Line {
    #[serde(default)]
    id: Value,
    calc: String,
    input: Value,
}

/// Answers each line with `{"id", "output"}` or `{"id", "error"}`; empty lines are passed over.
pub(crate) fn answer(lines: impl BufRead, out: impl Write) -> anyhow::Result<()> {
    let mut out = BufWriter::new(out);
    for line in lines.lines() {
        let line = line?;
        if line.trim().is_empty() {
            continue;
        }
        let answer = match serde_json::from_str::<Line>(&line) {
            Ok(line) => match run(&line.calc, line.input) {
                Ok(output) => json!({ "id": line.id, "output": output }),
                Err(error) => json!({ "id": line.id, "error": error.to_string() }),
            },
            Err(error) => {
                json!({ "id": id_of(&line), "error": format!("not understood: {error}") })
            }
        };
        writeln!(out, "{answer}")?;
    }
    out.flush()?;
    Ok(())
}

fn run(calc: &str, input: Value) -> Result<Value, CalcError> {
    calc::run(CalcId::parse(calc)?, input)
}

/// The id of a line whose rest could not be understood.
fn id_of(line: &str) -> Value {
    serde_json::from_str::<Value>(line).map_or(Value::Null, |value| value["id"].clone())
}

#[cfg(test)]
mod tests {
    #[test]
    fn lines_are_answered_in_order_and_bad_ones_say_why() {
        let input = concat!(
            "{\"id\":1,\"calc\":\"convert\",\"input\":{\"value\":1,\"from\":\"bar\",\"to\":\"kPa\"}}\n\n",
            "{\"id\":2,\"calc\":\"convert\",\"input\":{\"value\":1,\"from\":\"bar\",\"to\":\"ml\"}}\n",
            "{\"id\":3,\"calc\":\"tarot\",\"input\":{}}\n",
            "{\"id\":4}\nnonsense\n",
        );
        let mut out = Vec::new();
        super::answer(input.as_bytes(), &mut out).unwrap();
        let out = String::from_utf8(out).unwrap();
        let lines: Vec<serde_json::Value> =
            out.lines().map(|line| serde_json::from_str(line).unwrap()).collect();
        assert_eq!(lines[0], serde_json::json!({"id": 1, "output": {"value": 100.0}}));
        assert!(lines[1]["error"].as_str().unwrap().contains("do not measure the same thing"));
        assert!(lines[2]["error"].as_str().unwrap().contains("compare_set, convert"));
        assert!(lines[3]["error"].as_str().unwrap().contains("calc") && lines[3]["id"] == 4);
        assert_eq!(lines.len(), 5);
    }
}
