//! What every operation has besides what its handler says of it: refusals, headers, parameters. Each
//! follows from what lies around the addresses (`router.rs`), so it is written here once and not at
//! every handler; the HTTP tests compare every answer that they see with the document.

use crate::fresh;
use crate::rights::{self, Need};
use crate::words;
use axum::http::Method;
use serde_json::{Map, Value, json};
use std::collections::BTreeSet;

/// Refusals by status: name, what it means, and whether it says when to come again.
const REFUSALS: [(u16, &str, &str, bool); 13] = [
    (400, "NotReadable", words::REFUSED_400, false),
    (401, "SignedOut", words::REFUSED_401, false),
    (403, "NotAllowed", words::REFUSED_403, false),
    (404, "NotFound", words::REFUSED_404, false),
    (409, "Conflict", words::REFUSED_409, false),
    (413, "TooLarge", words::REFUSED_413, false),
    (415, "OtherKind", words::REFUSED_415, false),
    (421, "UnknownHost", words::REFUSED_421, false),
    (422, "WrongFields", words::REFUSED_422, false),
    (429, "TooSoon", words::REFUSED_429, true),
    (431, "HeadTooLarge", words::REFUSED_431, false),
    (500, "Failed", words::REFUSED_500, false),
    (503, "Unavailable", words::REFUSED_503, true),
];

/// Headers of answers.
const HEADERS: [(&str, &str); 11] = [
    ("cache-control", words::HEADER_CACHE_CONTROL),
    ("content-disposition", words::HEADER_CONTENT_DISPOSITION),
    ("content-security-policy", words::HEADER_CONTENT_SECURITY_POLICY),
    ("etag", words::HEADER_ETAG),
    ("referrer-policy", words::HEADER_REFERRER_POLICY),
    ("retry-after", words::HEADER_RETRY_AFTER),
    ("set-cookie", words::HEADER_SET_COOKIE),
    ("vary", words::HEADER_VARY),
    ("x-accel-buffering", words::HEADER_X_ACCEL_BUFFERING),
    ("x-clock", words::HEADER_X_CLOCK),
    ("x-content-type-options", words::HEADER_X_CONTENT_TYPE_OPTIONS),
];

/// Parameters that stand in the head of a request.
const PARAMETERS: [(&str, &str); 4] = [
    ("idempotency-key", words::PARAMETER_IDEMPOTENCY_KEY),
    ("if-none-match", words::PARAMETER_IF_NONE_MATCH),
    ("x-at-bench", words::PARAMETER_X_AT_BENCH),
    ("x-units", words::PARAMETER_X_UNITS),
];

/// Brings the document to what is really answered.
pub(crate) fn complete(document: &mut Value) {
    let mut responses = Map::new();
    for (status, name, says, waits) in REFUSALS {
        let content =
            json!({ "application/problem+json": { "schema": reference("schemas", "Problem") } });
        let mut response =
            json!({ "description": says, "content": content, "headers": headers(&[]) });
        if status == 431 {
            // Refused while its head is read, before there is a request to answer in words.
            response = json!({ "description": says });
        }
        if waits {
            response["headers"]["retry-after"] = reference("headers", "retry-after");
        }
        responses.insert(name.to_owned(), response);
    }
    let unchanged = json!({ "description": words::UNCHANGED, "headers": headers(&["etag"]) });
    responses.insert("Unchanged".to_owned(), unchanged);
    document["components"]["responses"] = Value::Object(responses);
    let number = json!({ "type": "integer" });
    let text = json!({ "type": "string" });
    let each =
        |name: &str| if ["retry-after", "x-clock"].contains(&name) { &number } else { &text };
    let all = HEADERS.map(|(name, says)| {
        (name.to_owned(), json!({ "description": says, "schema": each(name) }))
    });
    document["components"]["headers"] = Value::Object(all.into_iter().collect());
    let all = PARAMETERS.map(|(name, says)| {
        let of = json!({ "name": name, "in": "header", "description": says, "required": false, "schema": text });
        (name.to_owned(), of)
    });
    document["components"]["parameters"] = Value::Object(all.into_iter().collect());
    let mut parts = BTreeSet::new();
    parts_of(document, &mut parts);
    for (name, schema) in document["components"]["schemas"].as_object_mut().into_iter().flatten() {
        keys(schema);
        // What is a part of something larger does not refuse the rest of it; the whole does.
        if parts.contains(name)
            && let Some(of) = schema.as_object_mut()
            && of.get("additionalProperties") == Some(&json!(false))
        {
            of.remove("additionalProperties");
        }
    }
    let Some(paths) = document["paths"].as_object_mut() else { return };
    for (path, of) in paths {
        for (method, operation) in of.as_object_mut().into_iter().flatten() {
            let method = Method::from_bytes(method.to_uppercase().as_bytes());
            if let Ok(method) = method {
                operation_of(&method, path, operation);
            }
        }
    }
}

/// Names of the shapes that are parts of larger ones.
fn parts_of(value: &Value, into: &mut BTreeSet<String>) {
    let parts = value["allOf"].as_array().into_iter().flatten();
    let names = parts.filter_map(|part| part["$ref"].as_str()?.rsplit('/').next());
    into.extend(names.map(str::to_owned));
    match value {
        Value::Object(of) => of.values().for_each(|one| parts_of(one, into)),
        Value::Array(of) => of.iter().for_each(|one| parts_of(one, into)),
        Value::Null | Value::Bool(_) | Value::Number(_) | Value::String(_) => {}
    }
}

/// Keys are text in JSON, whatever they count.
fn keys(value: &mut Value) {
    match value {
        Value::Object(of) => {
            if of.get("propertyNames").is_some_and(|names| names["type"] == "integer") {
                let digits = json!({ "type": "string", "pattern": "^[0-9]+$" });
                of.insert("propertyNames".to_owned(), digits);
            }
            of.values_mut().for_each(keys);
        }
        Value::Array(of) => of.iter_mut().for_each(keys),
        Value::Null | Value::Bool(_) | Value::Number(_) | Value::String(_) => {}
    }
}

fn operation_of(method: &Method, path: &str, operation: &mut Value) {
    let writes = *method != Method::GET;
    let need = rights::need(method, path);
    let guarded = path.starts_with("/api") && !matches!(need, Some(Need::Nothing));
    let has_body = operation["requestBody"].is_object();
    let tagged = !writes && path.starts_with("/api") && fresh::is_tagged(path);
    let asks = operation["parameters"].as_array().is_some_and(|all| !all.is_empty());
    let mut statuses = vec![400, 421, 431, 500, 503];
    if guarded {
        statuses.extend([401, 403, 409]);
    }
    if path.contains('{') {
        statuses.push(404);
    }
    if writes {
        statuses.extend([401, 403, 404, 409, 422]);
    }
    if asks {
        statuses.extend([404, 422]);
    }
    if has_body {
        statuses.extend([413, 415]);
    }
    if path.contains("/sign-in") || path.ends_with("/pin") || path.ends_with("/events") {
        statuses.push(429);
    }
    let mut of_success: Vec<&str> = Vec::new();
    if tagged {
        of_success.push("etag");
        operation["responses"]["304"] = reference("responses", "Unchanged");
    }
    if path.contains("export") || path.ends_with(".csv") || path.ends_with("/file") {
        of_success.push("content-disposition");
    }
    if path.ends_with("/changes") || (path.ends_with("/live") && !writes) {
        of_success.push("x-accel-buffering");
    }
    for (status, response) in operation["responses"].as_object_mut().into_iter().flatten() {
        if status.starts_with('2') {
            response["headers"] = headers(&of_success);
        }
    }
    for (status, name, ..) in REFUSALS.iter().filter(|(status, ..)| statuses.contains(status)) {
        operation["responses"][status.to_string()] = reference("responses", name);
    }
    let mut named: Vec<&str> = Vec::new();
    if tagged {
        named.push("if-none-match");
    }
    if guarded {
        named.extend(["x-at-bench", "x-units"]);
    }
    if writes {
        named.push("idempotency-key");
    }
    if !operation["parameters"].is_array() {
        operation["parameters"] = json!([]);
    }
    if let Some(parameters) = operation["parameters"].as_array_mut() {
        parameters.extend(named.iter().map(|name| reference("parameters", name)));
    }
}

/// The headers of every answer, and these.
fn headers(more: &[&str]) -> Value {
    let all = [
        "cache-control",
        "content-security-policy",
        "referrer-policy",
        "set-cookie",
        "vary",
        "x-clock",
        "x-content-type-options",
    ];
    let each = |name: &&str| ((*name).to_owned(), reference("headers", name));
    Value::Object(all.iter().chain(more).map(each).collect())
}

fn reference(of: &str, name: &str) -> Value {
    json!({ "$ref": format!("#/components/{of}/{name}") })
}
