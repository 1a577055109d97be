//! Every answer that the tests see, compared with the document: its status, its headers, its body to the
//! last field.

use cobaltine_server::openapi_json;
use jsonschema::Validator;
use reqwest::{Method, RequestBuilder};
use serde_json::{Map, Value, json};
use std::collections::{BTreeSet, HashMap};
use std::sync::{Arc, LazyLock, Mutex};

/// Headers that HTTP itself knows, and what a body is said to be.
const OF_HTTP: [&str; 6] = [
    "connection",
    "content-encoding",
    "content-length",
    "content-type",
    "date",
    "transfer-encoding",
];

pub(crate) static DOCUMENT: LazyLock<Value> = LazyLock::new(openapi_json);
static CLOSED: LazyLock<Value> = LazyLock::new(|| closed(&DOCUMENT["components"]["schemas"]));
type Validators = HashMap<String, Arc<Validator>>;
static VALIDATORS: LazyLock<Mutex<Validators>> = LazyLock::new(Mutex::default);

/// An answer that is as the document says.
pub(crate) struct Seen {
    pub status: u16,
    pub headers: reqwest::header::HeaderMap,
    pub text: String,
}

impl Seen {
    pub fn json(&self) -> Value {
        serde_json::from_str(&self.text).unwrap()
    }
}

/// Sends a request, and holds its answer against the document.
pub(crate) async fn answer(request: RequestBuilder) -> Seen {
    let (seen, wrong) = seen(request).await;
    assert_eq!(wrong, None);
    seen
}

/// The same, with what is not as the document says.
pub(crate) async fn seen(request: RequestBuilder) -> (Seen, Option<String>) {
    let (http, request) = request.build_split();
    let request = request.unwrap();
    let (method, path) = (request.method().clone(), request.url().path().to_owned());
    let answer = http.execute(request).await.unwrap();
    let (status, headers) = (answer.status().as_u16(), answer.headers().clone());
    // What never ends is looked at by its head alone.
    let endless = status == 200 && (path == "/api/changes" || path.ends_with("/live"));
    let text = if endless { String::new() } else { answer.text().await.unwrap() };
    let seen = Seen { status, headers, text };
    let wrong = if endless { None } else { compare(&method, &path, &seen).err() };
    let start = seen.text.chars().take(300).collect::<String>();
    let wrong = wrong.map(|wrong| format!("{method} {path}: {status}: {wrong}: {start}"));
    (seen, wrong)
}

/// The operation of an address, and how the document writes it.
fn operation(method: &Method, path: &str) -> Option<(&'static str, &'static Value)> {
    let fits = |at: &str| {
        at.split('/').count() == path.split('/').count()
            && at.split('/').zip(path.split('/')).all(|(a, b)| a.starts_with('{') || a == b)
    };
    let paths = DOCUMENT["paths"].as_object().unwrap();
    let mut fitting: Vec<_> = paths.iter().filter(|(at, _)| fits(at)).collect();
    // What is written out goes before what is filled in.
    fitting.sort_by_key(|(at, _)| at.matches('{').count());
    let (at, of) = fitting.first()?;
    of.get(method.as_str().to_lowercase()).map(|operation| (at.as_str(), operation))
}

fn resolved(value: &'static Value) -> &'static Value {
    match value["$ref"].as_str() {
        Some(at) => DOCUMENT.pointer(at.trim_start_matches('#')).unwrap(),
        None => value,
    }
}

fn compare(method: &Method, path: &str, seen: &Seen) -> Result<(), String> {
    let Seen { status, headers, text } = seen;
    let Some((at, operation)) = operation(method, path) else {
        let other = path.starts_with("/api/openapi") || path.starts_with("/api/schema");
        let fine = other || *status >= 400 || !path.starts_with("/api/");
        return if fine { Ok(()) } else { Err("no such operation".to_owned()) };
    };
    let said = operation["responses"].as_object().unwrap().get(&status.to_string());
    let said = resolved(said.ok_or("no such status")?);
    for name in headers.keys().map(|name| name.as_str()) {
        if !OF_HTTP.contains(&name) && said["headers"][name].is_null() {
            return Err(format!("no such header: {name}"));
        }
    }
    let Some(contents) = said["content"].as_object() else {
        return if text.is_empty() { Ok(()) } else { Err("nothing is said of a body".to_owned()) };
    };
    let kind = headers.get("content-type").map(|kind| kind.to_str().unwrap()).ok_or("no kind")?;
    let kind = kind.split(';').next().unwrap();
    let content = contents.get(kind).ok_or_else(|| format!("no such kind: {kind}"))?;
    if !kind.ends_with("json") {
        return Ok(());
    }
    let body: Value = serde_json::from_str(text).map_err(|error| error.to_string())?;
    let key = format!("{method} {at} {status}");
    let held = VALIDATORS.lock().unwrap().get(&key).cloned();
    let validator = held.unwrap_or_else(|| {
        let schema = json!({ "components": { "schemas": &*CLOSED }, "allOf": [content["schema"]] });
        let made = Arc::new(jsonschema::draft202012::new(&schema).unwrap());
        VALIDATORS.lock().unwrap().insert(key, Arc::clone(&made));
        made
    });
    match validator.iter_errors(&body).next() {
        Some(wrong) => Err(format!("{wrong} at {}", wrong.instance_path())),
        None => Ok(()),
    }
}

/// The shapes, each closed: what is not named in them may not stand in an answer.
fn closed(schemas: &Value) -> Value {
    let mut parts = BTreeSet::new();
    parts_of(schemas, &mut parts);
    let of = schemas.as_object().unwrap();
    let close = |(name, schema): (&String, &Value)| {
        let mut schema = schema.clone();
        shut(&mut schema, parts.contains(name));
        (name.clone(), schema)
    };
    Value::Object(of.iter().map(close).collect::<Map<_, _>>())
}

/// Shapes that are parts of larger ones.
fn parts_of(value: &Value, into: &mut BTreeSet<String>) {
    if let Some(parts) = value["allOf"].as_array() {
        let names = parts.iter().filter_map(|part| part["$ref"].as_str());
        into.extend(names.map(|at| at.rsplit('/').next().unwrap().to_owned()));
    }
    match value {
        Value::Object(of) => of.values().for_each(|one| parts_of(one, into)),
        Value::Array(of) => of.iter().for_each(|one| parts_of(one, into)),
        Value::Null | Value::Bool(_) | Value::Number(_) | Value::String(_) => {}
    }
}

fn shut(schema: &mut Value, is_part: bool) {
    let Value::Object(of) = schema else {
        if let Value::Array(all) = schema {
            all.iter_mut().for_each(|one| shut(one, is_part));
        }
        return;
    };
    let whole = of.contains_key("allOf");
    for (key, value) in of.iter_mut() {
        match key.as_str() {
            "properties" => {
                for one in value.as_object_mut().unwrap().values_mut() {
                    shut(one, false);
                }
            }
            "allOf" => shut(value, true),
            "oneOf" | "anyOf" => shut(value, is_part),
            "items" | "additionalProperties" | "prefixItems" => shut(value, false),
            _ => {}
        }
    }
    if whole && !is_part {
        of.insert("unevaluatedProperties".to_owned(), json!(false));
    } else if of.contains_key("properties") && !is_part && !of.contains_key("additionalProperties")
    {
        of.insert("additionalProperties".to_owned(), json!(false));
    }
}
