//! Requests made from the document by a seed, good ones and bad ones: none ends in a defect of the
//! program, or in an answer that the document does not know. `COBALTINE_REQUESTS=100000` makes as many.

use crate::Workshop;
use crate::documented::{DOCUMENT, seen};
use serde_json::{Map, Value, json};
use uuid::Uuid;

/// How many in an ordinary run.
const REQUESTS: u64 = 5000;
/// After so many findings it is enough.
const MOST: usize = 30;
/// Shapes are followed so deep.
const DEPTH: u32 = 6;
const TEXTS: [&str; 24] = [
    "",
    " ",
    "a",
    "0",
    "-1",
    "12",
    "12,5",
    "1e308",
    "NaN",
    "2:00",
    "82",
    "100 ml",
    "12 bar",
    "0R4",
    "É☃",
    "2026-11-27",
    "2026-11-27T08:00:00Z",
    "99999999999999999999",
    "'; DROP TABLE jobs; --",
    "=1+1",
    "<script>",
    "\u{0}",
    "idle_only",
    "\u{202e}abc",
];

/// Numbers without chance (splitmix64).
struct Seeded(u64);

impl Seeded {
    fn next(&mut self) -> u64 {
        self.0 = self.0.wrapping_add(0x9e37_79b9_7f4a_7c15);
        let mut z = self.0;
        z = (z ^ (z >> 30)).wrapping_mul(0xbf58_476d_1ce4_e5b9);
        z = (z ^ (z >> 27)).wrapping_mul(0x94d0_49bb_1331_11eb);
        z ^ (z >> 31)
    }

    fn below(&mut self, most: usize) -> usize {
        (self.next() % most.max(1) as u64) as usize
    }

    fn one_in(&mut self, of: usize) -> bool {
        self.below(of) == 0
    }

    fn pick<'a, T>(&mut self, from: &'a [T]) -> &'a T {
        &from[self.below(from.len())]
    }
}

/// What makes the requests: ids that were given before come again.
struct Maker {
    seeded: Seeded,
    ids: Vec<Uuid>,
}

impl Maker {
    fn id(&mut self) -> Uuid {
        if !self.ids.is_empty() && !self.seeded.one_in(3) {
            return *self.seeded.pick(&self.ids);
        }
        let id = Uuid::from_u64_pair(
            self.seeded.next() & !0xf000 | 0x7000,
            self.seeded.next() >> 1 | 1 << 63,
        );
        if self.ids.len() < 400 {
            self.ids.push(id);
        }
        id
    }

    fn text(&mut self) -> String {
        if self.seeded.one_in(40) {
            return "long ".repeat(1 + self.seeded.below(3000));
        }
        (*self.seeded.pick(&TEXTS)).to_owned()
    }

    fn number(&mut self, whole: bool) -> Value {
        let wholes = [0_i64, 1, 2, 4, -1, 7, 100, 1_000_000, i64::MAX, i64::MIN];
        if whole || self.seeded.one_in(2) {
            return json!(*self.seeded.pick(&wholes));
        }
        json!(*self.seeded.pick(&[0.0, 0.5, -3.25, 12.5, 1e-12, 1e300, -1e300, 4e9]))
    }

    /// Something that fits a shape, or nearly.
    fn value(&mut self, schema: &Value, depth: u32) -> Value {
        if self.seeded.one_in(60) {
            return self.anything();
        }
        if let Some(at) = schema["$ref"].as_str() {
            let of = DOCUMENT.pointer(at.trim_start_matches('#')).unwrap();
            return if depth == 0 { Value::Null } else { self.value(of, depth - 1) };
        }
        for key in ["oneOf", "anyOf"] {
            if let Some(all) = schema[key].as_array() {
                let one = self.seeded.pick(all).clone();
                return self.value(&one, depth);
            }
        }
        if let Some(all) = schema["allOf"].as_array() {
            let mut of = Map::new();
            for part in all {
                if let Value::Object(more) = self.value(part, depth) {
                    of.extend(more);
                }
            }
            return Value::Object(of);
        }
        if let Some(all) = schema["enum"].as_array() {
            return self.seeded.pick(all).clone();
        }
        let kinds: Vec<&str> = match &schema["type"] {
            Value::Array(all) => all.iter().filter_map(Value::as_str).collect(),
            Value::String(one) => vec![one],
            Value::Null | Value::Bool(_) | Value::Number(_) | Value::Object(_) => vec![],
        };
        let kind = if kinds.is_empty() { "object" } else { *self.seeded.pick(&kinds) };
        match kind {
            "string" if schema["format"] == "uuid" => json!(self.id()),
            "string" if schema["format"] == "date-time" => json!("2026-11-27T08:00:00Z"),
            "string" => json!(self.text()),
            "integer" | "number" => {
                if let (Some(least), true) = (schema["minimum"].as_i64(), self.seeded.one_in(2)) {
                    return json!(least + self.seeded.below(9) as i64);
                }
                self.number(kind == "integer")
            }
            "boolean" => json!(self.seeded.one_in(2)),
            "null" => Value::Null,
            "array" => {
                let many = if depth == 0 { 0 } else { self.seeded.below(4) };
                let items = schema["items"].clone();
                Value::Array((0..many).map(|_| self.value(&items, depth - 1)).collect())
            }
            _ => self.object(schema, depth),
        }
    }

    fn object(&mut self, schema: &Value, depth: u32) -> Value {
        let mut of = Map::new();
        let needed: Vec<&str> =
            schema["required"].as_array().into_iter().flatten().filter_map(Value::as_str).collect();
        for (name, shape) in schema["properties"].as_object().into_iter().flatten() {
            let left_out = if needed.contains(&name.as_str()) { 60 } else { 2 };
            if !self.seeded.one_in(left_out) {
                let value = self.value(shape, depth.saturating_sub(1));
                of.insert(name.clone(), value);
            }
        }
        if self.seeded.one_in(50) {
            of.insert("stranger".to_owned(), self.anything());
        }
        Value::Object(of)
    }

    fn anything(&mut self) -> Value {
        match self.seeded.below(7) {
            0 => Value::Null,
            1 => json!(true),
            2 => self.number(false),
            3 => json!(self.text()),
            4 => json!([[[[]]], {}]),
            5 => json!({ "": [1] }),
            _ => json!(self.id()),
        }
    }

    /// A part of an address, as it is written there.
    fn part(&mut self, of: &Value) -> String {
        let raw = match self.seeded.below(12) {
            0 => self.text(),
            1 => "..".to_owned(),
            _ => {
                let value = self.value(&of["schema"], 2);
                value.as_str().map_or_else(|| value.to_string(), str::to_owned)
            }
        };
        raw.bytes()
            .map(|b| {
                if b.is_ascii_alphanumeric() || b"-_".contains(&b) {
                    (b as char).to_string()
                } else {
                    format!("%{b:02X}")
                }
            })
            .collect()
    }
}

impl Workshop {
    /// One request of an operation; the status that it was answered with, and what was wrong with that.
    async fn generated(
        &self,
        maker: &mut Maker,
        method: &str,
        path: &str,
        of: &Value,
    ) -> (u16, Option<String>) {
        let mut at = path.to_owned();
        let mut question = Vec::new();
        let mut headers = Vec::new();
        for parameter in of["parameters"].as_array().into_iter().flatten() {
            let parameter = match parameter["$ref"].as_str() {
                Some(at) => DOCUMENT.pointer(at.trim_start_matches('#')).unwrap(),
                None => parameter,
            };
            let name = parameter["name"].as_str().unwrap();
            match parameter["in"].as_str().unwrap() {
                "path" => at = at.replace(&format!("{{{name}}}"), &maker.part(parameter)),
                "query" if maker.seeded.one_in(2) => {
                    question.push(format!("{name}={}", maker.part(parameter)));
                }
                "header" if maker.seeded.one_in(6) => {
                    headers.push((name.to_owned(), maker.part(parameter)));
                }
                _ => {}
            }
        }
        let url = format!("{}{at}?{}", self.address, question.join("&"));
        let mut request = self.http.request(method.to_uppercase().parse().unwrap(), url);
        if !headers.iter().any(|(name, _)| name == "x-at-bench") && !maker.seeded.one_in(20) {
            headers.push(("x-at-bench".to_owned(), self.bench.to_string()));
        }
        for (name, value) in headers {
            request = request.header(name, value);
        }
        if let Some((kind, content)) =
            of["requestBody"]["content"].as_object().and_then(|all| all.iter().next())
        {
            let body = match maker.seeded.below(20) {
                0 => maker.text(),
                1 => maker.anything().to_string(),
                _ => maker.value(&content["schema"], DEPTH).to_string(),
            };
            let kind = if maker.seeded.one_in(30) { "text/plain" } else { kind.as_str() };
            request = request.header("content-type", kind).body(body);
        }
        let (seen, wrong) = seen(request).await;
        let defect = (seen.status >= 500).then(|| format!("{method} {path}: {}", seen.text));
        (seen.status, defect.or(wrong))
    }
}

#[tokio::test]
async fn requests_made_from_the_document_end_in_nothing_that_it_does_not_know() {
    let asked = std::env::var("COBALTINE_REQUESTS").ok().and_then(|many| many.parse().ok());
    let requests = asked.unwrap_or(REQUESTS);
    let shop = Workshop::open_with(None).await;
    let sample = shop.read_job().await;
    let mut maker = Maker { seeded: Seeded(16), ids: vec![sample.job, sample.run, shop.bench] };
    let paths = DOCUMENT["paths"].as_object().unwrap();
    let operations: Vec<(&str, &str, &Value)> = paths
        .iter()
        .flat_map(|(path, of)| {
            of.as_object().unwrap().iter().map(|(method, of)| (path.as_str(), method.as_str(), of))
        })
        .collect();
    let (mut good, mut refused, mut found) = (0, 0, Vec::new());
    for n in 0..requests {
        let (path, method, of) = operations[n as usize % operations.len()];
        let (status, wrong) = shop.generated(&mut maker, method, path, of).await;
        found.extend(wrong.map(|wrong| format!("request {n}: {wrong}")));
        assert!(found.len() < MOST, "{}", found.join("\n"));
        if status < 400 { good += 1 } else { refused += 1 }
    }
    assert!(found.is_empty(), "{}", found.join("\n"));
    println!("{good} done, {refused} refused");
    assert!(good > requests / 5 && refused > requests / 5, "both kinds: {good}, {refused}");
}
