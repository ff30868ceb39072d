//! What a test, an answer or a signature was about, so that a later change is noticed.

use serde::{Deserialize, Serialize};
use serde_json::Value;
use sha2::{Digest, Sha256};
use thiserror::Error;
use utoipa::ToSchema;

use crate::route::ResolvedRun;

/// What something was about when it was done, part by part: of each a short hash of what was decided of it then.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(try_from = "String", into = "String")]
#[schema(value_type = String, max_length = 200)]
pub struct Fingerprint(Vec<String>);

/// The text is none.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Error)]
#[error("what it was about is told by up to {} groups of {HEX} hexadecimal digits with full stops between", PARTS.len())]
pub struct FingerprintError;

/// Digits of each part.
const HEX: usize = 16;

/// The parts of a run that a pipe is made of, as they are told, and the fields that say them.
const PARTS: [(&str, &[&str]); 5] = [
    ("its tube", &["tube", "hose", "duty", "pressure", "insulation"]),
    ("its mouths", &["a", "b", "stubs"]),
    ("its way", &["route.course", "route.bends", "radius", "longest"]),
    ("its joints", &["route.joints"]),
    ("what holds it and what is let into it", &["route.supports", "route.branches"]),
];

fn hash(text: &str) -> String {
    let digest = Sha256::digest(text.as_bytes());
    digest.iter().take(HEX / 2).map(|byte| format!("{byte:02x}")).collect()
}

/// Figures are told apart to so many parts of one: what a sum leaves behind its last digit is no change.
const FINEST: f64 = 1000.0;

/// Rounds every figure in a value.
fn round(value: &mut Value) {
    match value {
        Value::Number(number) => {
            if let Some(rounded) = number.as_f64().map(|figure| (figure * FINEST).round() / FINEST) {
                // Nothing less is nothing.
                *value = Value::from(rounded + 0.0);
            }
        }
        Value::Array(all) => all.iter_mut().for_each(round),
        Value::Object(all) => all.values_mut().for_each(round),
        Value::Null | Value::Bool(_) | Value::String(_) => {}
    }
}

impl Fingerprint {
    /// Of a whole run, its mouths where they were found to be: what moves them changes the pipe.
    #[must_use]
    pub fn of_run(run: &ResolvedRun) -> Self {
        let mut all = serde_json::to_value(&**run).unwrap_or_default();
        round(&mut all);
        let field = |path: &str| {
            let found = path.split('.').try_fold(&all, |of, key| of.get(key));
            found.map_or_else(String::new, ToString::to_string)
        };
        let part = |fields: &[&str]| hash(&fields.iter().map(|path| field(path)).collect::<Vec<_>>().join("\n"));
        Self(PARTS.iter().map(|(_, fields)| part(fields)).collect())
    }

    /// Of one thing.
    #[must_use]
    pub fn of(what: &impl Serialize) -> Self {
        let mut what = serde_json::to_value(what).unwrap_or_default();
        round(&mut what);
        Self(vec![hash(&what.to_string())])
    }

    /// What is no longer as it was, in words; empty where all is.
    #[must_use]
    pub fn changed(&self, now: &Self) -> Vec<&'static str> {
        if self == now {
            return Vec::new();
        }
        if self.0.len() != PARTS.len() || now.0.len() != PARTS.len() {
            return vec!["what it is about"];
        }
        let each = self.0.iter().zip(&now.0).zip(PARTS);
        each.filter(|((then, now), _)| then != now).map(|(_, (name, _))| name).collect()
    }
}

impl TryFrom<String> for Fingerprint {
    type Error = FingerprintError;
    fn try_from(text: String) -> Result<Self, FingerprintError> {
        let parts: Vec<String> = text.split('.').map(str::to_owned).collect();
        let hex = |part: &String| part.len() == HEX && part.bytes().all(|byte| byte.is_ascii_hexdigit());
        if parts.len() <= PARTS.len() && parts.iter().all(hex) { Ok(Self(parts)) } else { Err(FingerprintError) }
    }
}

impl From<Fingerprint> for String {
    fn from(print: Fingerprint) -> Self {
        print.0.join(".")
    }
}
