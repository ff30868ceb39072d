//! Decisions about what was measured: ports, datums, readings, mounts and keep-outs.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::lookup::{find_first_way, index_of, sound, take_id};
use super::twins::twin_follows;
use super::{EditError, KeepOutChange, Made};
use crate::job::Job;
use crate::join::EngineFiring;
use crate::measure::estimate::{Basis, PoseEstimate};
use crate::measure::{
    Component, Datum, DatumId, End, InstallState, InstrumentChecks, KeepOut, KeepOutId, KeepOutKind, KeepOutShape,
    Measurand, Mounts, Port, PortRef, Reading, RunId, Side,
};
use crate::route::StubRef;
use crate::survey::Survey;
use nook_geometry::units::{Name, Spread};
use nook_geometry::{Direction, Point};

/// A decision about what was measured.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "edit", rename_all = "snake_case", deny_unknown_fields)]
pub enum MeasureEdit {
    /// Describes a port anew.
    SetPort {
        /// Which pipe.
        run: RunId,
        /// Which end.
        end: End,
        /// The port.
        port: Port,
    },
    /// Makes a mouth the end of a stub that is let into another pipe, wherever that goes; nothing leaves it where it is, by itself.
    JoinStub {
        /// Which pipe.
        run: RunId,
        /// Which end of it.
        end: End,
        /// Which stub.
        stub: Option<StubRef>,
    },
    /// Moves a port.
    MovePort {
        /// Which pipe.
        run: RunId,
        /// Which end.
        end: End,
        /// Where its mouth's centre is now.
        at: Point,
    },
    /// Points a port another way.
    AimPort {
        /// Which pipe.
        run: RunId,
        /// Which end.
        end: End,
        /// Direction out of the component.
        out: Direction,
    },
    /// Adds a datum point.
    AddDatum {
        /// What it is.
        name: Name,
        /// Where it is assumed to be, or roughly is.
        at: Point,
        /// What it is part of.
        rides: Side,
    },
    /// Describes a datum point anew; its readings stay.
    SetDatum {
        /// Which one.
        datum: DatumId,
        /// What it is.
        name: Name,
        /// Where it is assumed to be, or roughly is.
        at: Point,
        /// What it is part of.
        rides: Side,
    },
    /// Takes a datum point away.
    RemoveDatum {
        /// Which one.
        datum: DatumId,
    },
    /// Adds a reading.
    AddReading {
        /// Of what.
        of: Measurand,
        /// What was read.
        reading: Reading,
    },
    /// Puts another reading in one's place, or sets it aside.
    SetReading {
        /// Of what.
        of: Measurand,
        /// Which one, from 0.
        index: usize,
        /// What was read.
        reading: Reading,
    },
    /// Takes a reading out for good.
    RemoveReading {
        /// Of what.
        of: Measurand,
        /// Which one, from 0.
        index: usize,
    },
    /// Says roughly where something is: which of two places that fit its readings is meant.
    PickPlace {
        /// What.
        of: Measurand,
        /// A place nearer to the one that is meant.
        near: Point,
        /// For a port, a direction nearer to the one that is meant.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        out: Option<Direction>,
    },
    /// Says how far a datum point may be from where it was typed.
    SetDatumSpread {
        /// Which one.
        datum: DatumId,
        /// One standard deviation each way in mm; nothing for the usual.
        spread: Option<Spread>,
    },
    /// Says what was checked of tape and level.
    SetInstruments {
        /// All of it.
        checks: InstrumentChecks,
    },
    /// Says whether something was there when it was measured.
    SetStanding {
        /// What.
        of: Measurand,
        /// In place, a mock-up or missing.
        standing: InstallState,
    },
    /// Says how many cylinders the engine has and how fast it turns, or that nobody knows.
    SetFiring {
        /// Both.
        firing: Option<EngineFiring>,
    },
    /// Says how the engine moves on its mounts, or that it does not.
    SetMounts {
        /// The mounts.
        mounts: Option<Mounts>,
    },
    /// Adds something that is in the way.
    AddKeepOut {
        /// What it is.
        name: Name,
        /// What sort of thing.
        kind: KeepOutKind,
        /// What it rides on.
        rides: Side,
        /// The room it takes.
        shape: KeepOutShape,
        /// Whether it is one of the big boxes.
        #[serde(default, skip_serializing_if = "std::ops::Not::not")]
        big: bool,
    },
    /// Changes one thing about a keep-out.
    ChangeKeepOut {
        /// Which one.
        keep_out: KeepOutId,
        /// What is changed.
        to: KeepOutChange,
    },
    /// Moves a keep-out.
    MoveKeepOut {
        /// Which one.
        keep_out: KeepOutId,
        /// Where the point it is placed by is now.
        at: Point,
    },
    /// Takes a keep-out away.
    RemoveKeepOut {
        /// Which one.
        keep_out: KeepOutId,
    },
}

impl MeasureEdit {
    pub(super) fn apply(&self, job: &mut Job, made: &mut Made) -> Result<(), EditError> {
        match self {
            Self::SetPort { run, end, port } => {
                let index = index_of(job, *run)?;
                let (run, port) = (&mut job.runs[index], port.clone());
                // Of a stub nothing is said but what it is called, and whether it is there.
                if run.stubs.at(*end).is_some() {
                    let own = run.port_mut(*end);
                    (own.name, own.standing) = (port.name, port.standing);
                } else {
                    *run.port_mut(*end) = port;
                }
                port_moved(job, index)?;
            }
            Self::JoinStub { run, end, stub } => {
                let index = index_of(job, *run)?;
                if job.carrier_of(PortRef { run: *run, end: *end }).is_some() {
                    return Err(EditError::PartOfAComponent);
                }
                // Let go, it stays where it stands.
                let stands = Survey::new(job).settle(&job.runs[index]).port(*end).clone();
                let run = &mut job.runs[index];
                *run.port_mut(*end) = Port { readings: Vec::new(), neck: None, ..stands };
                run.stubs.set(*end, *stub);
                port_moved(job, index)?;
            }
            Self::MovePort { run, end, at } => {
                let index = index_of(job, *run)?;
                not_a_stub(job, index, *end)?;
                not_held(job, PortRef { run: *run, end: *end }, |estimate| estimate.place)?;
                // What is sawn off or turned is told from where the mouth stands now.
                let port = job.runs[index].port_mut(*end);
                port.at = match &port.neck {
                    Some(neck) => {
                        let (mouth, _) = neck.altered(port.at.inner(), port.out, port.od.get());
                        port.at.moved(at.inner() - mouth)?
                    }
                    None => *at,
                };
                port_moved(job, index)?;
            }
            Self::AimPort { run, end, out } => {
                let index = index_of(job, *run)?;
                not_a_stub(job, index, *end)?;
                not_held(job, PortRef { run: *run, end: *end }, |estimate| estimate.aim)?;
                let port = job.runs[index].port_mut(*end);
                match port.neck.as_mut().filter(|neck| neck.turned.is_some()) {
                    Some(neck) => neck.turned = Some(*out),
                    None => port.out = *out,
                }
                port_moved(job, index)?;
            }
            Self::AddDatum { name, at, rides } => {
                name_is_free(job, name, None)?;
                let id = DatumId(take_id(job)?);
                made.datum(id);
                job.datums.push(Datum {
                    id,
                    name: name.clone(),
                    at: *at,
                    rides: *rides,
                    spread: None,
                    readings: Vec::new(),
                });
            }
            Self::SetDatum { datum, name, at, rides } => {
                name_is_free(job, name, Some(*datum))?;
                let one = datum_mut(job, *datum)?;
                (one.name, one.at, one.rides) = (name.clone(), *at, *rides);
            }
            Self::RemoveDatum { datum } => {
                datum_mut(job, *datum)?;
                job.datums.retain(|one| one.id != *datum);
            }
            Self::AddReading { of, reading } => readings_mut(job, *of)?.1.push(*reading),
            Self::SetReading { of, index, reading } => *reading_mut(job, *of, *index)? = *reading,
            Self::RemoveReading { of, index } => {
                reading_mut(job, *of, *index)?;
                readings_mut(job, *of)?.1.remove(*index);
            }
            Self::PickPlace { of, near, out } => {
                place_roughly(job, *of, *near)?;
                if let (Measurand::Port { port }, Some(out)) = (*of, out) {
                    port_mut(job, port)?.out = *out;
                }
            }
            Self::SetDatumSpread { datum, spread } => datum_mut(job, *datum)?.spread = *spread,
            Self::SetInstruments { checks } => job.instruments = *checks,
            Self::SetStanding { of, standing } => *standing_mut(job, *of)? = *standing,
            Self::SetMounts { mounts } => job.mounts = *mounts,
            Self::SetFiring { firing } => job.firing = *firing,
            Self::AddKeepOut { name, kind, rides, shape, big } => {
                let id = KeepOutId(take_id(job)?);
                made.keep_out(id);
                job.keep_outs.push(KeepOut {
                    id,
                    name: name.clone(),
                    kind: *kind,
                    rides: *rides,
                    shape: shape.clone(),
                    gap: None,
                    big: *big,
                    comes_off: false,
                    standing: InstallState::InPlace,
                    swing: None,
                    readings: Vec::new(),
                });
            }
            Self::ChangeKeepOut { keep_out, to } => change(keep_out_mut(job, *keep_out)?, to),
            Self::MoveKeepOut { keep_out, at } => {
                let name = keep_out_mut(job, *keep_out)?.name.as_str().to_owned();
                not_moved(job.whole_of(*keep_out), || name.clone())?;
                let of = Measurand::KeepOut { keep_out: *keep_out };
                if Survey::new(job).alone(of).is_some_and(|found| found.place == Basis::Fixed) {
                    return Err(EditError::HeldByReadings { name });
                }
                place_roughly(job, of, *at)?;
            }
            Self::RemoveKeepOut { keep_out } => {
                keep_out_mut(job, *keep_out)?;
                job.keep_outs.retain(|one| one.id != *keep_out);
                job.together.retain(|pair| !pair.contains(keep_out));
                for whole in &mut job.components {
                    whole.body.retain(|part| part != keep_out);
                    whole.breathing = whole.breathing.filter(|breathing| breathing.body != *keep_out);
                    whole.wishes.hand = whole.wishes.hand.filter(|hand| hand.body != *keep_out);
                }
            }
        }
        Ok(())
    }

    /// Whether it only writes down what it is told, and works nothing out from what is there.
    pub(super) const fn only_notes(&self) -> bool {
        matches!(
            self,
            Self::AddDatum { .. }
                | Self::SetDatum { .. }
                | Self::SetDatumSpread { .. }
                | Self::AddReading { .. }
                | Self::SetReading { .. }
                | Self::RemoveReading { .. }
                | Self::AddKeepOut { .. }
        )
    }
}

/// After a port was set or moved by hand: a run without a way may have one now, and a twin follows.
fn port_moved(job: &mut Job, index: usize) -> Result<(), EditError> {
    sound(job)?;
    find_first_way(job, index)?;
    twin_follows(job, index);
    Ok(())
}

/// A mouth on a stub is not moved by hand.
fn not_a_stub(job: &Job, index: usize, end: End) -> Result<(), EditError> {
    if job.runs[index].stubs.at(end).is_some() { Err(EditError::StaysOnItsStub) } else { Ok(()) }
}

/// A port whose place or direction follows from readings is not moved by hand.
fn not_held(job: &Job, port: PortRef, basis: fn(&PoseEstimate) -> Basis) -> Result<(), EditError> {
    let survey = Survey::new(job);
    let name = || job.port(port).map_or_else(String::new, |port| port.name.clone());
    not_moved(job.carrier_of(port), name)?;
    match survey.alone(Measurand::Port { port }) {
        Some(estimate) if basis(&estimate) == Basis::Fixed => Err(EditError::HeldByReadings { name: name() }),
        _ => Ok(()),
    }
}

/// What is on a component that is moved from where it was measured is not placed by hand where it seems to stand.
fn not_moved(whole: Option<&Component>, name: impl Fn() -> String) -> Result<(), EditError> {
    match whole.filter(|whole| whole.is_moved()) {
        Some(whole) => Err(EditError::OnMoved { name: name(), component: whole.name.as_str().to_owned() }),
        None => Ok(()),
    }
}

/// Names that differ only in their capitals are one to whoever reads them out.
fn name_is_free(job: &Job, name: &Name, of: Option<DatumId>) -> Result<(), EditError> {
    let same = |datum: &&Datum| datum.name.as_str().to_lowercase() == name.as_str().to_lowercase();
    match job.datums.iter().filter(same).find(|datum| Some(datum.id) != of) {
        Some(datum) => Err(EditError::DatumNameTaken { name: datum.name.as_str().to_owned() }),
        None => Ok(()),
    }
}

fn change(keep_out: &mut KeepOut, to: &KeepOutChange) {
    match to {
        KeepOutChange::Name { name } => keep_out.name = name.clone(),
        KeepOutChange::Kind { kind } => keep_out.kind = *kind,
        KeepOutChange::Rides { rides } => keep_out.rides = *rides,
        KeepOutChange::Shape { shape } => keep_out.shape = shape.clone(),
        KeepOutChange::Gap { gap } => keep_out.gap = *gap,
        KeepOutChange::Big { big } => keep_out.big = *big,
        KeepOutChange::ComesOff { comes_off } => keep_out.comes_off = *comes_off,
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
        // What is part of a component is there when that is.
        Measurand::KeepOut { keep_out } => match job.components.iter().position(|one| one.body.contains(&keep_out)) {
            Some(whole) => Ok(&mut job.components[whole].standing),
            None => Ok(&mut keep_out_mut(job, keep_out)?.standing),
        },
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
