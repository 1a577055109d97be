//! Where sentences stand: in the `words` rooms and the lists of labels, nowhere between the lines
//! of logic. Read as sources, of every crate and of the browser's scripts.

use std::fs;
use std::path::{Path, PathBuf};

/// A text that a person would read as a sentence: four words, or two that end like one.
fn is_sentence(text: &str) -> bool {
    let code = [
        "SELECT ",
        "INSERT ",
        "DELETE ",
        "UPDATE ",
        "CREATE ",
        "PRAGMA ",
        "DROP TABLE",
        " WHERE ",
        "ORDER BY ",
    ];
    if code.iter().any(|word| text.contains(word)) {
        return false;
    }
    let mut plain = String::new();
    let mut depth = 0;
    for c in text.chars() {
        match c {
            '{' => depth += 1,
            '}' => depth -= 1,
            c if depth <= 0 => plain.push(c),
            _ => plain.push(' '),
        }
    }
    let is_word = |word: &&str| {
        let bare = word.trim_matches(|c: char| "\"'(),.:;?!’“”".contains(c));
        bare.chars().next().is_some_and(char::is_alphabetic)
            && bare.chars().all(|c| c.is_ascii_alphabetic() || "-'’".contains(c))
    };
    let words = plain.split_whitespace().filter(is_word).count();
    words >= 4 || (words >= 2 && plain.trim_end().ends_with(['.', '?', '!']))
}

/// Texts in double quotes with what stands before each; comments are left out.
fn texts_of_rust(source: &str) -> Vec<(String, String)> {
    let chars: Vec<char> = source.chars().collect();
    let (mut found, mut at) = (Vec::new(), 0);
    let mut before = String::new();
    while at < chars.len() {
        let two: String = chars[at..chars.len().min(at + 2)].iter().collect();
        if two == "//" {
            while at < chars.len() && chars[at] != '\n' {
                at += 1;
            }
        } else if chars[at] == '"' {
            let mut text = String::new();
            at += 1;
            while at < chars.len() && chars[at] != '"' {
                if chars[at] == '\\' {
                    at += 1;
                    text.push(' ');
                } else {
                    text.push(chars[at]);
                }
                at += 1;
            }
            at += 1;
            let tail: String =
                before.chars().rev().take(90).collect::<Vec<_>>().into_iter().rev().collect();
            found.push((tail, text));
            before.push('§');
        } else if chars[at] == '\'' && chars.get(at + 2) == Some(&'\'') {
            at += 3;
        } else if chars[at] == '\'' && chars.get(at + 1) == Some(&'\\') {
            at += 4;
        } else {
            before.push(chars[at]);
            at += 1;
        }
    }
    found
}

/// What only a programmer reads, or a document is made from: logs, panics, attributes.
fn is_for_programmers(before: &str) -> bool {
    let call =
        before.trim_end().trim_end_matches(|c: char| c != '(' && c != '=' && c != ';' && c != '{');
    let macros = [
        "expect(",
        "panic!(",
        "assert!(",
        "unreachable!(",
        "debug!(",
        "info!(",
        "warn!(",
        "error!(",
    ];
    macros.iter().any(|name| call.ends_with(name))
        || ["reason =", "about =", "description =", "title =", "include_str!("]
            .iter()
            .any(|name| before.trim_end().ends_with(name))
}

fn sources(folder: &Path, end: &str, found: &mut Vec<PathBuf>) {
    for entry in fs::read_dir(folder).unwrap() {
        let path = entry.unwrap().path();
        let name = path.file_name().unwrap().to_string_lossy().into_owned();
        if path.is_dir() {
            if !matches!(name.as_str(), "target" | "node_modules" | "golden") {
                sources(&path, end, found);
            }
        } else if name.ends_with(end) {
            found.push(path);
        }
    }
}

/// Rooms of words, lists of labels, tests, samples, and the frozen reader of old folders.
fn may_speak(path: &str) -> bool {
    [
        "/words.rs",
        "/words/",
        "/words.ts",
        "/labels.rs",
        "/tests.rs",
        "/src/sample.rs",
        "/upgrade/old.rs",
    ]
    .iter()
    .any(|end| path.contains(end))
        || path.contains("/bench/tests/")
        || path.contains("/judged/tests/")
        || path.contains("/judgement/tests/")
        || path.contains("/engine/tests")
        || path.contains("/standing/tests/")
}

#[test]
fn sentences_stand_in_the_rooms_of_words() {
    let root = Path::new(env!("CARGO_MANIFEST_DIR")).join("..");
    let mut files = Vec::new();
    for of in ["core", "store", "server", "standins", "cobaltine"] {
        sources(&root.join(of).join("src"), ".rs", &mut files);
    }
    assert!(files.len() > 300, "{} sources were found", files.len());
    let mut astray = Vec::new();
    for file in &files {
        let path = file.to_string_lossy().replace('\\', "/");
        if may_speak(&path) {
            continue;
        }
        let source = fs::read_to_string(file).unwrap();
        let code = source.split("#[cfg(test)]\nmod ").next().unwrap_or_default();
        for (before, text) in texts_of_rust(code) {
            if is_sentence(&text) && !is_for_programmers(&before) {
                astray.push(format!("{path}: {text}"));
            }
        }
    }
    assert!(astray.is_empty(), "{} astray:\n{}", astray.len(), astray.join("\n"));
}

/// The scripts of the browser; templates keep their labels beside what they label.
#[test]
fn the_scripts_of_the_browser_hold_no_sentence() {
    let web = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../web/src");
    let mut files = Vec::new();
    sources(&web, ".vue", &mut files);
    sources(&web, ".ts", &mut files);
    let mut astray = Vec::new();
    for file in &files {
        let path = file.to_string_lossy().replace('\\', "/");
        if may_speak(&path) || path.ends_with(".d.ts") {
            continue;
        }
        let source = fs::read_to_string(file).unwrap();
        let script = match source.split_once("<script setup lang=\"ts\">") {
            Some((_, rest)) => rest.split("</script>").next().unwrap_or_default(),
            None if path.ends_with(".vue") => "",
            None => source.as_str(),
        };
        for line in script.lines().filter(|line| !line.trim_start().starts_with(['/', '*'])) {
            let quoted = line.split(['\'', '`']).skip(1).step_by(2);
            let code = |text: &str| {
                line.contains("throw new")
                    || ["src ", "font:", "from_c"].iter().any(|mark| text.contains(mark))
            };
            astray.extend(
                quoted
                    .filter(|text| is_sentence(text) && !code(text))
                    .map(|text| format!("{path}: {text}")),
            );
        }
    }
    assert!(astray.is_empty(), "{} astray:\n{}", astray.len(), astray.join("\n"));
}
