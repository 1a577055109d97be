//! The program from the command line, as a script uses it.

mod care;
mod instruments;
mod kills;
mod schemas;
mod thousands;
mod tour;

use cobaltine_e2e::{Program, binary};
use serde_json::Value;
use std::io::Write;
use std::path::Path;
use std::process::{Command, Output, Stdio};

fn cobaltine(words: &[&str], folder: &Path, input: &str) -> anyhow::Result<Output> {
    let mut command = Command::new(binary()?);
    command.args(words).current_dir(folder);
    let mut child =
        command.stdin(Stdio::piped()).stdout(Stdio::piped()).stderr(Stdio::piped()).spawn()?;
    if let Some(mut pipe) = child.stdin.take() {
        pipe.write_all(input.as_bytes())?;
    }
    Ok(child.wait_with_output()?)
}

#[test]
fn the_worked_numbers_come_out_of_the_program_in_order() -> anyhow::Result<()> {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("../core/tests/vectors");
    let mut input = String::new();
    let mut files: Vec<_> = std::fs::read_dir(&folder)?
        .map(|entry| Ok(entry?.path()))
        .collect::<anyhow::Result<_>>()?;
    files.sort();
    assert_eq!(files.len(), 25);
    for file in files {
        input.push_str(&std::fs::read_to_string(file)?);
    }
    // The lines carry their expected output too; the program reads what it knows.
    let out = cobaltine(&["calc"], &folder, &input)?;
    let answers: Vec<Value> = String::from_utf8(out.stdout)?
        .lines()
        .map(serde_json::from_str)
        .collect::<Result<_, _>>()?;
    let cases: Vec<Value> = input
        .lines()
        .filter(|l| !l.is_empty())
        .map(serde_json::from_str)
        .collect::<Result<_, _>>()?;
    assert_eq!(answers.len(), cases.len());
    for (answer, case) in answers.iter().zip(&cases) {
        assert_eq!(answer["id"], case["id"]);
        assert_eq!(answer["error"].is_string(), case["error"] == Value::Bool(true), "{answer}");
        if let Some(wanted) = case["output"]["mean"].as_f64() {
            let got = answer["output"]["mean"].as_f64().unwrap_or(f64::NAN);
            assert!((got - wanted).abs() <= 1e-7 * wanted.abs(), "{answer}");
        }
    }
    Ok(())
}

#[test]
fn one_folder_one_program_and_files_go_in_and_out_between_runs() -> anyhow::Result<()> {
    let mut program = Program::demo()?;
    let data = program.data.path().to_owned();
    let folder = data.to_str().unwrap_or_default();
    let refused =
        cobaltine(&["serve", "--open", "--data", folder, "--listen", "127.0.0.1:0"], &data, "")?;
    assert!(!refused.status.success());
    let words = String::from_utf8(refused.stderr)?;
    assert!(words.contains("in use by another Cobaltine. Stop that one"), "{words}");
    assert!(program.end()?, "it ends in good order when asked");

    let demo = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo/job-malt-kiln.json");
    let file: Value = serde_json::from_str(&std::fs::read_to_string(&demo)?)?;
    let id = file["job"]["id"].as_str().unwrap_or_default();
    let exported = cobaltine(&["export", "--data", folder, id], &data, "")?;
    std::fs::write(data.join("out.json"), &exported.stdout)?;
    let again = cobaltine(&["import", "--data", folder, "out.json"], &data, "")?;
    assert!(String::from_utf8(again.stdout)?.contains("already here"));

    let fresh = tempfile::tempdir()?;
    let target = fresh.path().to_str().unwrap_or_default();
    let first = cobaltine(&["import", "--data", target, "out.json"], &data, "")?;
    assert!(first.status.success(), "{}", String::from_utf8_lossy(&first.stderr));
    let round = cobaltine(&["export", "--data", target, id], &data, "")?;
    let [mut a, mut b]: [Value; 2] =
        [serde_json::from_slice(&exported.stdout)?, serde_json::from_slice(&round.stdout)?];
    for file in [&mut a, &mut b] {
        // The fresh folder's library does not know the family; everything else is the same.
        file["family"] = Value::Null;
        file["job"]["intake"]["family_id"] = Value::Null;
    }
    assert_eq!(a, b);

    let broken = String::from_utf8(exported.stdout)?.replace("\"cylinder\": 4", "\"cylinder\": 14");
    std::fs::write(data.join("broken.json"), broken)?;
    let other = tempfile::tempdir()?;
    let target = other.path().to_str().unwrap_or_default();
    let refused = cobaltine(&["import", "--data", target, "broken.json"], &data, "")?;
    let words = String::from_utf8(refused.stderr)?;
    assert!(
        !refused.status.success() && words.contains("Enter one injector for each cylinder"),
        "{words}"
    );
    Ok(())
}
