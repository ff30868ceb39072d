//! How a fixed row of numbers is described to readers of the published schemas.

use std::borrow::Cow;

use utoipa::openapi::RefOr;
use utoipa::openapi::schema::{ArrayBuilder, ObjectBuilder, Schema, Type};
use utoipa::{PartialSchema, ToSchema};

/// Three numbers: along x, y and z.
#[derive(Debug, Clone, Copy, PartialEq, serde::Deserialize)]
#[serde(transparent)]
pub struct Triple(pub [f64; 3]);

/// Two numbers.
pub struct Pair;

fn numbers(count: usize) -> RefOr<Schema> {
    let number = ObjectBuilder::new().schema_type(Type::Number);
    ArrayBuilder::new().items(number).min_items(Some(count)).max_items(Some(count)).into()
}

impl PartialSchema for Triple {
    fn schema() -> RefOr<Schema> {
        numbers(3)
    }
}

impl ToSchema for Triple {
    fn name() -> Cow<'static, str> {
        "Triple".into()
    }
}

impl PartialSchema for Pair {
    fn schema() -> RefOr<Schema> {
        numbers(2)
    }
}

impl ToSchema for Pair {
    fn name() -> Cow<'static, str> {
        "Pair".into()
    }
}
