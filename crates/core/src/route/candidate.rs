//! One way round on offer, and why somebody would take it.

use serde::Serialize;
use utoipa::ToSchema;

use super::Route;
use nook_geometry::Triple;
use nook_geometry::units::{DualUnitText, LengthUnit, Measure};

/// What is special about a way.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum RouteKind {
    /// No bend at all.
    Straight,
    /// One bend where the axes meet.
    OneBend,
    /// The shortest, brought to whole degrees where that fits.
    Shortest,
    /// The least turning for little more length.
    Gentlest,
    /// Both bends are square.
    SquareBends,
    /// Both bends alike.
    EqualBends,
    /// The middle leg is level.
    LevelMiddle,
    /// Both bends have angles that elbows are sold in.
    StockAngles,
    /// One bend has an angle that elbows are sold in.
    OneStockAngle,
}

/// A way round that joins both ports with room for its straights.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Candidate {
    /// The way, ready to be taken.
    pub way: Route,
    /// What is special about it.
    pub kind: RouteKind,
    /// Why to take it, and what it costs beside the shortest.
    pub reason: DualUnitText,
    /// Bend angles in degrees.
    pub angles: Vec<f64>,
    /// Length along the centre line from mouth to mouth.
    pub length: Measure,
    /// Seams at the usual count.
    pub seams: u32,
    /// Vertices with both mouths, for a small drawing.
    #[schema(value_type = Vec<Triple>)]
    pub corners: Vec<[f64; 3]>,
    /// Length plus what its seams and bends are worth in length (20 and 40 mm each); the smallest comes first.
    pub score: f64,
}

/// Length of pipe in mm that a builder would rather add than saw, dress, tack and weld one more seam: about
/// four minutes' work each way.
pub(super) const SEAM_WORTH: f64 = 20.0;
/// Length of pipe in mm that a builder would rather add than clock and fit one more bend.
pub(super) const BEND_WORTH: f64 = 40.0;

impl Candidate {
    /// Writes the reason, given the length in mm of the shortest way there is.
    pub(super) fn explain(&mut self, shortest: f64) {
        let longer = self.length.mm() - shortest;
        let (kind, angles) = (self.kind, &self.angles);
        self.reason = DualUnitText::new(|unit| {
            let cost =
                if longer < 0.5 { String::new() } else { format!("; {} longer than the shortest", unit.text(longer)) };
            format!("{}{cost}", praise(kind, angles, unit))
        });
    }
}

fn praise(kind: RouteKind, angles: &[f64], _unit: LengthUnit) -> String {
    let list = angles.iter().map(|angle| format!("{}\u{b0}", trimmed(*angle))).collect::<Vec<_>>().join(" and ");
    match kind {
        RouteKind::Straight => "The ports face each other: no bend".to_owned(),
        RouteKind::OneBend => format!("One bend of {list}: the axes meet"),
        RouteKind::Shortest => format!("The shortest: {list}"),
        RouteKind::Gentlest => format!("Turns least: {list}, so it flows best"),
        RouteKind::SquareBends => "Both bends square: easy to check with a square".to_owned(),
        RouteKind::EqualBends => format!(
            "Both bends {list}: one saw setting for every cut",
            list = angles.first().map_or_else(String::new, |a| format!("{}\u{b0}", trimmed(*a)))
        ),
        RouteKind::LevelMiddle => format!("The middle leg is level: {list}"),
        RouteKind::StockAngles => format!("{list}: whole elbows would do"),
        RouteKind::OneStockAngle => format!("{list}: a whole elbow would do for one"),
    }
}

/// One decimal, none where it is whole.
fn trimmed(angle: f64) -> String {
    let text = format!("{angle:.1}");
    text.strip_suffix(".0").map_or(text.clone(), str::to_owned)
}
