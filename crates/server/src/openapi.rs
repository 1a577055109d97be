//! The description of the interface, and the JSON Schema of the job file made from it.

use crate::words;
use crate::{addresses, documented};
use axum::http::header;
use axum::response::{IntoResponse, Response};
use serde_json::{Map, Value, json};

/// The OpenAPI document.
pub fn openapi_json() -> Value {
    let mut document = serde_json::to_value(addresses::described()).unwrap_or_default();
    documented::complete(&mut document);
    document
}

/// JSON Schema (2020-12) of the job file: the same shapes as in the OpenAPI document.
pub fn job_schema() -> Value {
    schema_of("JobFile", "urn:cobaltine:job:1", words::COBALTINE_JOB_FILE_VERSION)
}

/// JSON Schema (2020-12) of the library file.
pub fn library_schema() -> Value {
    schema_of("LibraryFile", "urn:cobaltine:library:1", words::COBALTINE_LIBRARY_FILE_VERSION)
}

/// JSON Schema (2020-12) of a line of the workshop file.
pub fn workshop_schema() -> Value {
    schema_of("WorkshopLine", "urn:cobaltine:workshop-line:1", words::LINE_COBALTINE_WORKSHOP_FILE)
}

fn schema_of(root: &str, id: &str, title: &str) -> Value {
    let document = openapi_json();
    let all = &document["components"]["schemas"];
    let mut defs = Map::new();
    let mut wanted = vec![root.to_owned()];
    while let Some(name) = wanted.pop() {
        if defs.contains_key(&name) {
            continue;
        }
        let text = all[&name].to_string();
        for reference in text.split("#/components/schemas/").skip(1) {
            wanted.extend(reference.split('"').next().map(str::to_owned));
        }
        let moved = text.replace("#/components/schemas/", "#/$defs/");
        defs.insert(name, serde_json::from_str(&moved).unwrap_or_default());
    }
    json!({
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "$id": id,
        "title": title,
        "$ref": format!("#/$defs/{root}"),
        "$defs": defs,
    })
}

fn pretty(value: &Value, kind: &'static str) -> Response {
    let text = serde_json::to_string_pretty(value).unwrap_or_default();
    ([(header::CONTENT_TYPE, kind)], text).into_response()
}

pub(crate) async fn document() -> Response {
    pretty(&openapi_json(), "application/json")
}

pub(crate) async fn job_file() -> Response {
    pretty(&job_schema(), "application/schema+json")
}

pub(crate) async fn workshop_line() -> Response {
    pretty(&workshop_schema(), "application/schema+json")
}

pub(crate) async fn library_file() -> Response {
    pretty(&library_schema(), "application/schema+json")
}
