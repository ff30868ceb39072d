//! A welded tab as it is cut and bent: a strip that stands on the tube and is bolted by its foot.

use std::f64::consts::FRAC_PI_2;

use serde::Serialize;
use utoipa::ToSchema;

use crate::assembly::{Assembly, SeatedSupport};
use crate::findings::clear_of_seams;
use crate::join::SupportKind;
use crate::placing::NEUTRAL;
use nook_geometry::units::Measure;

/// A tab's flat pattern, from the corners of the edge that is welded to the tube. It stands across the tube, its foot along it.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct TabWorkup {
    /// Length to cut.
    pub length: Measure,
    /// Width of the strip, across the tube.
    pub width: Measure,
    /// Its thickness.
    pub thickness: Measure,
    /// How deep the welded edge is hollowed in its middle, to the radius of the tube's outside, so that it lies on it all along.
    pub hollow: Measure,
    /// Where the middle of its bend of 90 degrees lies.
    pub bend: Measure,
    /// Where the middle of its hole lies.
    pub hole: Measure,
    /// The hole's diameter.
    pub diameter: Measure,
    /// From the hole's middle along the tube to the face of the standing leg that is turned to it.
    pub beside: Measure,
    /// Station at which that face is welded, along the tube's centre line from the tube's end at A: on the side of the hole that is
    /// farther from the nearest seam.
    pub weld: Measure,
    /// Whether that is on the side towards A.
    pub towards_a: bool,
}

/// Thickness in mm, and the bolt. Ours: what holds a pipe of a car.
const THICK: f64 = 3.0;
const BOLT: f64 = 6.0;
/// A hole is this much wider than its bolt. Source: ISO 273, medium.
const LOOSE: f64 = 1.1;
/// From a hole's middle to the end of the strip, and to where the bend begins, as bolt diameters: as of brackets.
const EDGE: f64 = 1.5;
const FLAT: f64 = 1.2;

impl TabWorkup {
    /// Of a support whose bolted face is `height` mm from the skin of a tube of `od` mm; nothing of other kinds, and where that leaves no leg to bend.
    pub(super) fn of(pipe: &Assembly, od: f64, support: &SeatedSupport, height: f64) -> Option<Self> {
        // Bent round its own thickness. The outside of the foot lies against what it is bolted to.
        let inside = THICK;
        let leg = height - THICK - inside;
        if support.kind != SupportKind::Tab || leg < THICK {
            return None;
        }
        let width = support.kind.long();
        // Where the strip is wider than the tube its corners hang past it.
        let (radius, half) = (od / 2.0, (width / 2.0).min(od / 2.0));
        let hollow = radius - (radius * radius - half * half).sqrt();
        let round = FRAC_PI_2 * (inside + NEUTRAL * THICK);
        let flat = FLAT * BOLT;
        let beside = inside + flat;
        let clear = |towards_a: bool| {
            let weld = support.station + if towards_a { -beside } else { beside };
            let leg = if towards_a { [weld - THICK, weld] } else { [weld, weld + THICK] };
            (weld, towards_a, clear_of_seams(pipe, support.leg, weld, leg).unwrap_or(f64::INFINITY))
        };
        let (one, other) = (clear(true), clear(false));
        let (weld, towards_a, _) = if other.2 > one.2 { other } else { one };
        Some(Self {
            length: Measure(hollow + leg + round + flat + EDGE * BOLT),
            width: Measure(width),
            thickness: Measure(THICK),
            hollow: Measure(hollow),
            bend: Measure(hollow + leg + round / 2.0),
            hole: Measure(hollow + leg + round + flat),
            diameter: Measure(BOLT * LOOSE),
            beside: Measure(beside),
            weld: Measure(weld - pipe.begin()),
            towards_a,
        })
    }
}
