//! A flange plate as it is cut.

use serde::Serialize;
use utoipa::ToSchema;

use crate::join::FlangePlate;
use crate::route::{Joint, ResolvedRun};
use nook_geometry::units::Measure;

/// A flange plate as it is cut. Places in mm, x to the right and y up as one looks at the component's face, about the mouth's
/// middle.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct PlateWorkup {
    /// What was measured of it.
    #[schema(inline = false)]
    pub plate: FlangePlate,
    /// Middles of its holes, clockwise from the first; empty where its distances make no plate.
    pub holes: Vec<[f64; 2]>,
    /// Its outline; empty likewise.
    pub outline: Vec<[f64; 2]>,
    /// From the mouth's middle to the first and to the second hole; empty likewise.
    pub middle_to: Vec<Measure>,
    /// Diameter of the hole the tube goes into.
    pub bore: Measure,
    /// Thickness.
    pub thickness: Measure,
    /// How large a piece it is cut from: across and up.
    #[schema(min_items = 2, max_items = 2)]
    pub size: [Measure; 2],
    /// What is wrong with it, in words.
    pub wrong: Option<String>,
}

impl PlateWorkup {
    /// Of a joint that is bolted by a plate; nothing of any other.
    pub(super) fn of(run: &ResolvedRun, joint: &Joint) -> Option<Self> {
        let plate = run.plate_of(joint)?;
        let od = run.tube.od();
        let found = plate.holes();
        let wrong = found.as_ref().err().map(ToString::to_string);
        let holes = found.map(|found| found.holes).unwrap_or_default();
        let outline = if holes.is_empty() { Vec::new() } else { plate.outline(&holes, od) };
        let across = |axis: usize| {
            let each = || outline.iter().map(move |point| point[axis]);
            Measure(each().fold(0.0, f64::max) - each().fold(0.0, f64::min))
        };
        Some(Self {
            middle_to: holes.iter().take(2).map(|hole| Measure(hole.coords.norm())).collect(),
            holes: holes.iter().map(|hole| [hole.x, hole.y]).collect(),
            size: [across(0), across(1)],
            outline: outline.iter().map(|point| [point.x, point.y]).collect(),
            bore: Measure(od),
            thickness: Measure(plate.thick(run.tube.material())),
            plate: plate.clone(),
            wrong,
        })
    }
}
