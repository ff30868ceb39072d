//! Documents of earlier versions, brought to what this one says. What is not as those versions had it is left as it is:
//! reading it then tells where and why.

use serde_json::{Map, Value, json};

/// A job's document of `version` as one of [`super::Job::VERSION`].
#[must_use]
pub fn upgraded(version: u32, mut job: Value) -> Value {
    if version < 5 {
        if let Some(kerf) = job.as_object_mut().and_then(|job| job.remove("kerf")) {
            job["saw"] = json!({ "name": "Cold saw", "kerf": kerf });
        }
        for run in job.get_mut("runs").and_then(Value::as_array_mut).into_iter().flatten() {
            if let Value::Object(run) = run {
                joints_into_the_route(run);
            }
        }
    }
    if version < 6 {
        for component in job.get_mut("components").and_then(Value::as_array_mut).into_iter().flatten() {
            if let Value::Object(component) = component {
                turn_into_a_freedom(component);
            }
        }
    }
    job
}

/// Until version 5 a component was turned and nothing else.
fn turn_into_a_freedom(component: &mut Map<String, Value>) {
    let fields = ["pivot", "axis", "range", "turned"];
    if component.contains_key("freedoms") || !fields.iter().all(|field| component.contains_key(*field)) {
        return;
    }
    let mut turn = Map::from_iter([("moves".to_owned(), json!("turn"))]);
    turn.extend(fields.iter().filter_map(|field| Some(((*field).to_owned(), component.remove(*field)?))));
    component.insert("freedoms".to_owned(), json!([turn]));
}

/// Until version 4 the joints at the ends were fields of the run, and bends and legs were counted from A.
fn joints_into_the_route(run: &mut Map<String, Value>) {
    if run.contains_key("route") {
        return;
    }
    let mut numbers = Numbers::after(run);
    let ends: Vec<Value> = [("joint_a", "a"), ("joint_b", "b")]
        .into_iter()
        .zip(1_u64..)
        .filter_map(|((field, end), id)| {
            let Some(Value::Object(mut joint)) = run.remove(field) else { return None };
            joint.insert("id".to_owned(), json!(id));
            joint.insert("at".to_owned(), json!({ "on": "end", "end": end }));
            Some(Value::Object(joint))
        })
        .collect();
    let mut route = match run.remove("way") {
        None | Some(Value::Null) => json!({ "course": { "kind": "undecided" }, "bends": [] }),
        Some(way) => way,
    };
    route_of_names(&mut route, &ends, &mut numbers);
    for kept in run.get_mut("kept").and_then(Value::as_array_mut).into_iter().flatten() {
        if let Some(way) = kept.get_mut("way") {
            route_of_names(way, &ends, &mut numbers);
        }
    }
    run.insert("route".to_owned(), route);
    run.insert("next_part".to_owned(), json!(numbers.next()));
}

/// What numbers of joints along a pipe grow by: its ends take the first two, as in a run begun now, so that a twin's ends
/// and what it takes from the other are never of one number.
const ENDS: u64 = 2;

/// Numbers that no joint of a run has.
struct Numbers(u64);

impl Numbers {
    fn after(run: &Map<String, Value>) -> Self {
        let kept = run.get("kept").and_then(Value::as_array).into_iter().flatten().filter_map(|kept| kept.get("way"));
        let routes = run.get("way").into_iter().chain(kept);
        let joints = routes.filter_map(|route| route.get("joints")?.as_array()).flatten();
        Self(joints.filter_map(|joint| joint.get("id")?.as_u64()).max().unwrap_or(0).saturating_add(ENDS))
    }

    fn next(&mut self) -> u64 {
        self.0 = self.0.saturating_add(1);
        self.0
    }
}

/// Names the bends of a route, what was counted among them, and adds the joints at its ends.
fn route_of_names(route: &mut Value, ends: &[Value], numbers: &mut Numbers) {
    let Value::Object(route) = route else { return };
    let mut ids = Vec::new();
    for bend in route.get_mut("bends").and_then(Value::as_array_mut).into_iter().flatten() {
        let Value::Object(bend) = bend else { continue };
        let id = numbers.next();
        ids.push(id);
        bend.insert("id".to_owned(), json!(id));
        let (seams, pies) = (bend.remove("seams"), bend.remove("ends"));
        // Mitred pies of the usual count are what nobody had chosen.
        let chosen = pies.as_ref().is_some_and(|ends| *ends != json!("mitred"));
        if seams.as_ref().is_some_and(|seams| !seams.is_null()) || chosen {
            let mut make = Map::from_iter([("how".to_owned(), json!("pies"))]);
            make.extend(seams.map(|seams| ("seams".to_owned(), seams)));
            make.extend(pies.map(|ends| ("ends".to_owned(), ends)));
            bend.insert("make".to_owned(), Value::Object(make));
        }
    }
    let name = |place: &Value, leg: bool| -> Value {
        let Some(place) = place.as_u64().and_then(|place| usize::try_from(place).ok()) else { return place.clone() };
        let index = if leg { place.checked_sub(1) } else { Some(place) };
        // A place that is not there gets a number that is not either.
        index.map_or(json!(0), |index| json!(ids.get(index).copied().unwrap_or(u64::from(u32::MAX))))
    };
    for lock in route.get_mut("locks").and_then(Value::as_array_mut).into_iter().flatten() {
        for (field, leg) in [("straight", true), ("leg", true), ("bend", false)] {
            if let Some(place) = lock.get_mut(field) {
                *place = name(place, leg);
            }
        }
    }
    let mut joints = ends.to_vec();
    if let Some(Value::Array(along)) = route.remove("joints") {
        joints.extend(along.into_iter().map(|mut joint| {
            if let Some(id) = joint.get_mut("id") {
                *id = id.as_u64().map_or_else(|| id.clone(), |id| json!(id.saturating_add(ENDS)));
            }
            if let Some(Value::Object(at)) = joint.get_mut("at") {
                at.insert("on".to_owned(), json!("leg"));
                if let Some(leg) = at.get_mut("leg") {
                    *leg = name(leg, true);
                }
            }
            joint
        }));
    }
    route.insert("joints".to_owned(), Value::Array(joints));
}
