//! A way from a length-rotation-angle table, as a bender was given or gives it.

use serde::Serialize;
use thiserror::Error;

use super::locked::lock_errors;
use super::route_geometry::{RouteEnds, course_of};
use super::{BendSpec, Centreline, ResolvedRun, Route};
use crate::measure::End;
use nook_geometry::units::{BendRadius, DualUnitText};
use nook_geometry::{Arc, Path, PathStep};

/// A row of the table: a straight in mm and the bend after it.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct TableRow {
    /// Straight before the bend, in mm.
    pub length: f64,
    /// Turn of the bend's plane from the one before, in degrees; the first from up.
    pub rotation: f64,
    /// Angle of the bend in degrees.
    pub angle: f64,
    /// Centre-line radius in mm.
    pub radius: f64,
}

/// Why a table makes no way for a run.
#[derive(Debug, Clone, Copy, PartialEq, Error, Serialize)]
#[serde(rename_all = "snake_case")]
pub enum TableError {
    /// A figure that no pipe has.
    #[error("row {row}: {what} of {value} cannot be; from {min} to {max}")]
    Figure {
        /// Which row, from 1.
        row: usize,
        /// Which figure.
        what: &'static str,
        /// The figure.
        value: f64,
        /// Least.
        min: f64,
        /// Most.
        max: f64,
    },
    /// The pipe of the table ends elsewhere.
    #[error(
        "the table's pipe ends {by:.1} mm and {degrees:.1} degrees off port B; {MOST_OFF} mm and {MOST_TURNED} degrees are the most that is taken up"
    )]
    EndsElsewhere {
        /// How far from B's mouth, in mm.
        by: f64,
        /// How far from facing B, in degrees.
        degrees: f64,
    },
    /// Bends that lie so that no way goes through them.
    #[error("the bends of the table make no way between these ports")]
    NoRoute,
}

/// How far off B a table's pipe may end, in mm: what a table rounded to hundredths and a port measured anew leave.
const MOST_OFF: f64 = 5.0;
/// The same in degrees.
const MOST_TURNED: f64 = 2.0;
/// Most bends a table has.
const MOST_ROWS: usize = crate::job::Job::MOST_BENDS;

/// A way taken from a table, and what in it is not as it was.
#[derive(Debug, Clone, PartialEq)]
pub struct TableRoute {
    /// The way. Bends keep the seams and ends that were chosen for them, and locks stay that still hold.
    pub way: Route,
    /// What differs from the way before, and what was let go; empty where nothing does.
    pub changes: Vec<DualUnitText>,
}

/// The way of `rows` and the straight after the last bend, in mm of tube, brought onto both ports. What was decided of the
/// way before holds on where it still applies.
///
/// # Errors
/// [`TableError`] when a figure is out of range, the pipe ends elsewhere, or its bends make no way.
pub fn way_of_table(run: &ResolvedRun, rows: &[TableRow], last: f64) -> Result<TableRoute, TableError> {
    let within = |row: usize, what, value: f64, min: f64, max: f64| {
        if (min..=max).contains(&value) {
            Ok(())
        } else {
            Err(TableError::Figure { row: row + 1, what, value, min, max })
        }
    };
    let count = f64::from(u32::try_from(rows.len()).unwrap_or(u32::MAX));
    within(rows.len(), "the number of bends", count, 0.0, f64::from(u32::try_from(MOST_ROWS).unwrap_or(0)))?;
    let mut legs = Vec::new();
    for (index, row) in rows.iter().enumerate() {
        within(index, "a length", row.length, -10_000.0, 10_000.0)?;
        within(index, "a rotation", row.rotation, -360.0, 360.0)?;
        within(index, "an angle", row.angle, 0.5, 175.0)?;
        within(index, "a radius", row.radius, BendRadius::MIN, BendRadius::MAX)?;
        let gap = if index == 0 { run.gap(End::A) } else { 0.0 };
        let bend = Arc { radius: row.radius, angle: row.angle.to_radians(), rotation: row.rotation.to_radians() };
        legs.push(PathStep { straight: row.length + gap, bend });
    }
    within(rows.len(), "the last length", last, -10_000.0, 10_000.0)?;
    let before = if rows.is_empty() { run.gap(End::A) } else { 0.0 };
    let [a, b] = [End::A, End::B].map(|end| run.outlet(end));
    let path = Path::new(a.at, a.out, legs, last + before + run.gap(End::B));
    let arrival = path.arrival();
    let by = (arrival.at - b.at.inner()).norm();
    let degrees = arrival.along.angle(b.out.reversed()).to_degrees();
    if by > MOST_OFF || degrees > MOST_TURNED {
        return Err(TableError::EndsElsewhere { by, degrees });
    }
    let course = match path.vertices().as_slice() {
        [] => Centreline::Straight,
        [_] => Centreline::OneBend,
        all => course_of(&RouteEnds::new(run, &[]).free(all)).ok_or(TableError::NoRoute)?,
    };
    let mut way = Route::along(course);
    let mut changes = keep_makes(run, &mut way, rows.len());
    for (index, row) in rows.iter().enumerate() {
        // What the table has in common with the run is left to the run.
        let own = (row.radius - run.radius.get()).abs() > 0.01;
        if let Some(bend) = way.bend_mut(index) {
            bend.radius = if own { BendRadius::new(row.radius).ok() } else { None };
        }
    }
    let now = super::build_path(run, &way).map_err(|_| TableError::NoRoute)?;
    let old = run.way();
    let mut figures =
        old.and_then(|old| super::build_path(run, old).ok()).map_or_else(Vec::new, |then| differing(&then, &now));
    figures.append(&mut changes);
    for lock in old.map_or(&[][..], |old| old.locks()) {
        let with = way.clone().locked(*lock);
        if lock_errors(run, &with).last().is_some_and(|off| *off < KEPT) {
            way = with;
        } else {
            figures.push(DualUnitText::new(|_| "a lock that no longer holds was let go".to_owned()));
        }
    }
    Ok(TableRoute { way, changes: figures })
}

/// A lock that is off by less than this, in mm, holds on: a table has hundredths.
const KEPT: f64 = 0.02;
/// Figures that differ by less, in mm and degrees, are as they were: a table is rounded.
const SAME: f64 = 0.02;

/// Puts the seams and ends that were chosen for the bends before on the bends now, in their order, where there are as
/// many. Says what had to be let go.
fn keep_makes(run: &ResolvedRun, way: &mut Route, count: usize) -> Vec<DualUnitText> {
    let before = run.way().map_or(&[][..], |old| old.bends());
    let chosen = before.iter().filter(|bend| bend.make.is_some()).count();
    if before.len() != count {
        let text = format!(
            "{} instead of {} bends: seams and ends chosen for {chosen} of them were let go",
            count,
            before.len()
        );
        return if chosen > 0 { vec![DualUnitText::new(|_| text.clone())] } else { Vec::new() };
    }
    for (index, old) in before.iter().enumerate() {
        if let Some(bend) = way.bend_mut(index) {
            *bend = BendSpec { radius: bend.radius, ..*old };
        }
    }
    Vec::new()
}

/// What of a pipe's figures is not as it was, bend by bend.
fn differing(then: &Path, now: &Path) -> Vec<DualUnitText> {
    let mut all = Vec::new();
    if then.legs().len() != now.legs().len() {
        let text = format!("{} bends, before {}", now.legs().len(), then.legs().len());
        return vec![DualUnitText::new(|_| text.clone())];
    }
    for (index, (before, after)) in then.legs().iter().zip(now.legs()).enumerate() {
        let number = index + 1;
        let mut length = |what: String, before: f64, after: f64| {
            if (before - after).abs() > SAME {
                all.push(DualUnitText::new(|unit| {
                    format!("{what} {}, before {}", unit.text(after), unit.text(before))
                }));
            }
        };
        length(format!("straight {number}"), before.straight, after.straight);
        length(format!("the radius of bend {number}"), before.bend.radius, after.bend.radius);
        for (what, before, after) in
            [("angle", before.bend.angle, after.bend.angle), ("rotation", before.bend.rotation, after.bend.rotation)]
        {
            let off = (after - before).sin().atan2((after - before).cos()).to_degrees().abs();
            if off > SAME {
                let (before, after) = (before.to_degrees(), after.to_degrees());
                let text = format!("the {what} of bend {number} {after:.2}\u{b0}, before {before:.2}\u{b0}");
                all.push(DualUnitText::new(|_| text.clone()));
            }
        }
    }
    if (then.last() - now.last()).abs() > SAME {
        all.push(DualUnitText::new(|unit| {
            format!("the last straight {}, before {}", unit.text(now.last()), unit.text(then.last()))
        }));
    }
    all
}
