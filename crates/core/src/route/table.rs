//! A way from a length-rotation-angle table, as a bender was given or gives it.

use serde::Serialize;
use thiserror::Error;

use super::bones::{Hung, course_of};
use super::{Course, Way};
use crate::geometry::{Arc, Leg, Path};
use crate::measure::End;
use crate::route::Settled;
use crate::units::BendRadius;

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
    NoWay,
}

/// How far off B a table's pipe may end, in mm: what a table rounded to hundredths and a port measured anew leave.
const MOST_OFF: f64 = 5.0;
/// The same in degrees.
const MOST_TURNED: f64 = 2.0;
/// Most bends a table has.
const MOST_ROWS: usize = crate::job::Job::MOST_BENDS;

/// The way of `rows` and the straight after the last bend, in mm of tube, brought onto both ports.
///
/// # Errors
/// [`TableError`] when a figure is out of range, the pipe ends elsewhere, or its bends make no way.
pub fn way_of_table(run: &Settled, rows: &[TableRow], last: f64) -> Result<Way, TableError> {
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
        legs.push(Leg { straight: row.length + gap, bend });
    }
    within(rows.len(), "the last length", last, -10_000.0, 10_000.0)?;
    let before = if rows.is_empty() { run.gap(End::A) } else { 0.0 };
    let path = Path::new(run.a.at, run.a.out, legs, last + before + run.gap(End::B));
    let arrival = path.arrival();
    let by = (arrival.at - run.b.at.inner()).norm();
    let degrees = arrival.along.angle(run.b.out.reversed()).to_degrees();
    if by > MOST_OFF || degrees > MOST_TURNED {
        return Err(TableError::EndsElsewhere { by, degrees });
    }
    let course = match path.vertices().as_slice() {
        [] => Course::Straight,
        [_] => Course::OneBend,
        all => course_of(&Hung::new(run, &[]).free(all)).ok_or(TableError::NoWay)?,
    };
    let mut way = Way::along(course);
    for (index, row) in rows.iter().enumerate() {
        // What the table has in common with the run is left to the run.
        let own = (row.radius - run.radius.get()).abs() > 0.01;
        if let (true, Some(bend)) = (own, way.bend_mut(index)) {
            bend.radius = BendRadius::new(row.radius).ok();
        }
    }
    super::lay(run, &way).map(|_| way).map_err(|_| TableError::NoWay)
}
