//! What every operation may answer beside what it says itself: the guards, limits and failures that all share.

use utoipa::Modify;
use utoipa::openapi::path::{Operation, ParameterIn};
use utoipa::openapi::schema::{ObjectBuilder, Schema, Type};
use utoipa::openapi::{Content, OpenApi, Ref, RefOr, Response, ResponseBuilder};

/// Adds the problems that every operation may answer, all of them as problem details (RFC 9457).
pub(super) struct Statuses;

const PROBLEM: &str = "application/problem+json";
const EVENTS: &str = "text/event-stream";

/// What any operation may answer: asked by a page of another site, under another name, more than there is room for at
/// once, or a failure of ours.
const ANY: [(&str, &str); 4] = [
    ("403", "Asked by a page of another site"),
    ("421", "Asked under another name than this server's"),
    ("500", "The server failed"),
    ("503", "Busy, or the data folder is gone; nothing was changed"),
];
const OF_A_JOB: [(&str, &str); 2] =
    [("404", "There is no such thing"), ("422", "It cannot be, cannot be opened, or its number is none")];
const WITH_A_BODY: [(&str, &str); 3] =
    [("400", "It cannot be read"), ("413", "It is too large"), ("415", "It is of another type")];
const BASED_ON_A_REVISION: [(&str, &str); 3] = [
    ("400", "The revision cannot be read"),
    ("412", "Someone else was first"),
    ("428", "The revision this changes is not said"),
];
const WITH_AN_AUTHOR: [(&str, &str); 1] = [("400", "The author cannot be read")];
const SAVED: [(&str, &str); 2] = [("409", "There are as many as are kept, or it is used"), ("507", "The disk is full")];

/// Lets what is described as an edit of a step have that step's name beside its own fields: each is read on its own and
/// refuses what it does not know, but a description that combines the two cannot say so.
pub(super) struct Steps;

impl Modify for Steps {
    fn modify(&self, openapi: &mut OpenApi) {
        let schemas = openapi.components.iter_mut().flat_map(|components| &mut components.schemas);
        for (_, schema) in schemas.filter(|(name, _)| name.len() > 4 && name.ends_with("Edit")) {
            let RefOr::T(Schema::OneOf(kinds)) = schema else { continue };
            for kind in &mut kinds.items {
                if let RefOr::T(Schema::Object(kind)) = kind {
                    kind.additional_properties = None;
                }
            }
        }
    }
}

impl Modify for Statuses {
    fn modify(&self, openapi: &mut OpenApi) {
        for (path, item) in &mut openapi.paths.paths {
            let has_id = path.contains('{');
            let changing = [&mut item.post, &mut item.put, &mut item.delete].map(|operation| operation.as_mut());
            for operation in changing.into_iter().flatten() {
                add(operation, has_id, true);
            }
            if let Some(operation) = &mut item.get {
                add(operation, has_id, false);
            }
        }
    }
}

fn add(operation: &mut Operation, has_id: bool, saved: bool) {
    let header = |name: &str| {
        let parameters = operation.parameters.iter().flatten();
        parameters.into_iter().any(|one| match one {
            RefOr::T(one) => one.name == name && one.parameter_in == ParameterIn::Header,
            RefOr::Ref(_) => false,
        })
    };
    let mut more = ANY.to_vec();
    let optional = [
        (has_id, &OF_A_JOB[..]),
        (operation.request_body.is_some(), &WITH_A_BODY),
        (operation.request_body.is_some(), &OF_A_JOB[1..]),
        (header("If-Match"), &BASED_ON_A_REVISION),
        (header("Nook-Author"), &WITH_AN_AUTHOR),
        (saved, &SAVED),
    ];
    for (applies, statuses) in optional {
        if applies {
            more.extend_from_slice(statuses);
        }
    }
    for (status, why) in more {
        operation.responses.responses.entry(status.to_owned()).or_insert_with(|| RefOr::T(problem(why)));
    }
    for (status, response) in &mut operation.responses.responses {
        let RefOr::T(response) = response else { continue };
        if !status.starts_with('2') {
            let why = response.description.clone();
            *response = problem(&why);
        } else if let Some(RefOr::T(events)) = response.content.get_mut(EVENTS) {
            *events = Content::new(Some(event(events)));
        }
    }
}

/// One event of a stream: an object with its data as text, which is JSON of what the operation says it tells.
fn event(told: &Content) -> Schema {
    let what = match &told.schema {
        Some(RefOr::Ref(of)) => format!("JSON, as {} describes it", of.ref_location),
        _ => "JSON".to_owned(),
    };
    let data = ObjectBuilder::new().schema_type(Type::String).content_media_type("application/json");
    ObjectBuilder::new().property("data", data.description(Some(what))).required("data").into()
}

fn problem(why: &str) -> Response {
    let content = Content::new(Some(Ref::from_schema_name("Problem")));
    ResponseBuilder::new().description(why).content(PROBLEM, content).build()
}
