//! The shapes that ship accept what the program writes, to the last field.

use crate::cobaltine;
use cobaltine_e2e::Program;
use jsonschema::Validator;
use serde_json::Value;

#[test]
fn the_shipped_schemas_accept_every_job_and_every_line_of_the_made_up_workshop()
-> anyhow::Result<()> {
    let mut program = Program::demo()?;
    let data = program.data.path().to_owned();
    assert!(program.end()?);
    let out = |words: &[&str]| -> anyhow::Result<String> {
        Ok(String::from_utf8(cobaltine(words, &data, "")?.stdout)?)
    };
    let validator = |word: &str| -> anyhow::Result<Validator> {
        let schema: Value = serde_json::from_str(&out(&[word])?)?;
        Ok(jsonschema::draft202012::new(&schema)?)
    };
    let (job, library) = (validator("schema")?, validator("library-schema")?);
    let line = validator("workshop-schema")?;
    let all = out(&["export-workshop", "--data", data.to_str().unwrap_or_default()])?;
    let (mut jobs, mut lines) = (0, 0);
    for text in all.lines() {
        let value: Value = serde_json::from_str(text)?;
        let of = |validator: &Validator, value: &Value| {
            let wrong = validator.iter_errors(value).next();
            wrong.map(|wrong| format!("{wrong} at {} of line {lines}", wrong.instance_path()))
        };
        assert_eq!(of(&line, &value), None);
        match value["line"].as_str() {
            Some("job") => {
                assert_eq!(of(&job, &value["of"]), None);
                jobs += 1;
            }
            Some("library") => assert_eq!(of(&library, &value["of"]), None),
            _ => {}
        }
        lines += 1;
    }
    assert!(jobs > 20 && lines > 50, "{jobs} jobs, {lines} lines");
    Ok(())
}
