//! Edits of what was measured: datums, readings, components, mounts and keep-outs.

use super::lookup::take_id;
use super::{Edit, EditError, KeepOutChange};
use crate::job::Job;
use crate::measure::estimate::Basis;
use crate::measure::{
    Component, ComponentId, Datum, DatumId, InstallState, KeepOut, KeepOutId, Measurand, Port, PortRef, Reading,
};
use crate::survey::Survey;
use nook_geometry::Point;
use nook_geometry::units::{Name, TurnAngle};

/// Applies an edit of the Measure step.
pub(super) fn measured(job: &mut Job, edit: &Edit) -> Result<(), EditError> {
    match edit {
        Edit::AddDatum { name, at, rides } => {
            name_is_free(job, name, None)?;
            let id = DatumId(take_id(job)?);
            job.datums.push(Datum {
                id,
                name: name.clone(),
                at: *at,
                rides: *rides,
                spread: None,
                readings: Vec::new(),
            });
        }
        Edit::SetDatum { datum, name, at, rides } => {
            name_is_free(job, name, Some(*datum))?;
            let one = datum_mut(job, *datum)?;
            (one.name, one.at, one.rides) = (name.clone(), *at, *rides);
        }
        Edit::RemoveDatum { datum } => {
            datum_mut(job, *datum)?;
            job.datums.retain(|one| one.id != *datum);
        }
        Edit::AddReading { of, reading } => readings_mut(job, *of)?.1.push(*reading),
        Edit::SetReading { of, index, reading } => *reading_mut(job, *of, *index)? = *reading,
        Edit::RemoveReading { of, index } => {
            reading_mut(job, *of, *index)?;
            readings_mut(job, *of)?.1.remove(*index);
        }
        Edit::PickPlace { of, near, out } => {
            place_roughly(job, *of, *near)?;
            if let (Measurand::Port { port }, Some(out)) = (*of, out) {
                port_mut(job, port)?.out = *out;
            }
        }
        Edit::SetDatumSpread { datum, spread } => datum_mut(job, *datum)?.spread = *spread,
        Edit::SetInstruments { checks } => job.instruments = *checks,
        Edit::SetStanding { of, standing } => *standing_mut(job, *of)? = *standing,
        Edit::AddComponent { name, pivot, axis, range, ports } => {
            let id = ComponentId(take_id(job)?);
            let (name, ports) = (name.clone(), ports.clone());
            let turned = not_turned();
            job.components.push(Component { id, name, pivot: *pivot, axis: *axis, range: *range, turned, ports });
        }
        Edit::SetComponent { component, name, pivot, axis, range, ports } => {
            let one = component_mut(job, *component)?;
            let (id, name, ports) = (*component, name.clone(), ports.clone());
            let turned = not_turned();
            *one = Component { id, name, pivot: *pivot, axis: *axis, range: *range, turned, ports };
        }
        Edit::TurnComponent { component, turned } => component_mut(job, *component)?.turned = *turned,
        Edit::RemoveComponent { component } => {
            component_mut(job, *component)?;
            job.components.retain(|one| one.id != *component);
        }
        Edit::SetMounts { mounts } => job.mounts = *mounts,
        Edit::AddKeepOut { name, kind, rides, shape } => {
            let id = KeepOutId(take_id(job)?);
            job.keep_outs.push(KeepOut {
                id,
                name: name.clone(),
                kind: *kind,
                rides: *rides,
                shape: shape.clone(),
                gap: None,
                big: false,
                standing: InstallState::InPlace,
                swing: None,
                readings: Vec::new(),
            });
        }
        Edit::ChangeKeepOut { keep_out, to } => change(keep_out_mut(job, *keep_out)?, to),
        Edit::MoveKeepOut { keep_out, at } => {
            let name = keep_out_mut(job, *keep_out)?.name.as_str().to_owned();
            let of = Measurand::KeepOut { keep_out: *keep_out };
            if Survey::new(job).alone(of).is_some_and(|found| found.place == Basis::Fixed) {
                return Err(EditError::HeldByReadings { name });
            }
            place_roughly(job, of, *at)?;
        }
        Edit::RemoveKeepOut { keep_out } => {
            keep_out_mut(job, *keep_out)?;
            job.keep_outs.retain(|one| one.id != *keep_out);
        }
        _ => unreachable!("not an edit of what was measured"),
    }
    Ok(())
}

/// Names that differ only in their capitals are one to whoever reads them out.
fn name_is_free(job: &Job, name: &Name, of: Option<DatumId>) -> Result<(), EditError> {
    let same = |datum: &&Datum| datum.name.as_str().to_lowercase() == name.as_str().to_lowercase();
    match job.datums.iter().filter(same).find(|datum| Some(datum.id) != of) {
        Some(datum) => Err(EditError::DatumNameTaken { name: datum.name.as_str().to_owned() }),
        None => Ok(()),
    }
}

fn not_turned() -> TurnAngle {
    TurnAngle::new(0.0).unwrap_or_else(|_| unreachable!("0 degrees is a turn"))
}

fn change(keep_out: &mut KeepOut, to: &KeepOutChange) {
    match to {
        KeepOutChange::Name { name } => keep_out.name = name.clone(),
        KeepOutChange::Kind { kind } => keep_out.kind = *kind,
        KeepOutChange::Rides { rides } => keep_out.rides = *rides,
        KeepOutChange::Shape { shape } => keep_out.shape = shape.clone(),
        KeepOutChange::Gap { gap } => keep_out.gap = *gap,
        KeepOutChange::Big { big } => keep_out.big = *big,
        KeepOutChange::Swing { swing } => keep_out.swing = *swing,
    }
}

fn place_roughly(job: &mut Job, of: Measurand, at: Point) -> Result<(), EditError> {
    match of {
        Measurand::Datum { datum } => datum_mut(job, datum)?.at = at,
        Measurand::Port { port } => port_mut(job, port)?.at = at,
        Measurand::KeepOut { keep_out } => {
            let one = keep_out_mut(job, keep_out)?;
            let moved = one.shape.moved(one.shape.reference().to(at));
            one.shape = moved.map_err(|problem| {
                let name = one.name.as_str().to_owned();
                EditError::Invalid { problem: crate::job::Invalid::KeepOut { name, problem } }
            })?;
        }
    }
    Ok(())
}

fn datum_mut(job: &mut Job, datum: DatumId) -> Result<&mut Datum, EditError> {
    job.datums.iter_mut().find(|one| one.id == datum).ok_or(EditError::NoSuchDatum { datum })
}

fn component_mut(job: &mut Job, component: ComponentId) -> Result<&mut Component, EditError> {
    job.components.iter_mut().find(|one| one.id == component).ok_or(EditError::NoSuchComponent { component })
}

fn keep_out_mut(job: &mut Job, keep_out: KeepOutId) -> Result<&mut KeepOut, EditError> {
    job.keep_outs.iter_mut().find(|one| one.id == keep_out).ok_or(EditError::NoSuchKeepOut { keep_out })
}

fn port_mut(job: &mut Job, port: PortRef) -> Result<&mut Port, EditError> {
    let run = job.runs.iter_mut().find(|run| run.id == port.run).ok_or(EditError::NoSuchRun { run: port.run })?;
    Ok(run.port_mut(port.end))
}

fn standing_mut(job: &mut Job, of: Measurand) -> Result<&mut InstallState, EditError> {
    match of {
        Measurand::Datum { .. } => Err(EditError::AlwaysInPlace),
        Measurand::Port { port } => Ok(&mut port_mut(job, port)?.standing),
        Measurand::KeepOut { keep_out } => Ok(&mut keep_out_mut(job, keep_out)?.standing),
    }
}

fn readings_mut(job: &mut Job, of: Measurand) -> Result<(String, &mut Vec<Reading>), EditError> {
    Ok(match of {
        Measurand::Datum { datum } => {
            let one = datum_mut(job, datum)?;
            (one.name.as_str().to_owned(), &mut one.readings)
        }
        Measurand::Port { port } => {
            let one = port_mut(job, port)?;
            (one.name.clone(), &mut one.readings)
        }
        Measurand::KeepOut { keep_out } => {
            let one = keep_out_mut(job, keep_out)?;
            (one.name.as_str().to_owned(), &mut one.readings)
        }
    })
}

fn reading_mut(job: &mut Job, of: Measurand, index: usize) -> Result<&mut Reading, EditError> {
    let (name, list) = readings_mut(job, of)?;
    let readings = list.len();
    list.get_mut(index).ok_or(EditError::NoSuchReading { name, readings, index })
}
