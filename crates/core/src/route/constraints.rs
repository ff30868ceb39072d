//! What the builder asks of a way round, beyond that it fits.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use nook_geometry::units::{Coordinate, OutOfRange};
use nook_geometry::{Direction, Point, Vector};

/// A place the pipe shall pass.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Pin {
    /// Where.
    pub at: Point,
    /// How near the centre line must come, in mm.
    pub within: f64,
}

/// A ball the pipe shall keep out of.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ExclusionZone {
    /// Its centre.
    pub at: Point,
    /// Its radius in mm; the pipe's skin stays outside.
    pub radius: f64,
}

/// Which way a leg shall run.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "runs", rename_all = "snake_case", deny_unknown_fields)]
pub enum LegDirection {
    /// Level.
    Level,
    /// Plumb.
    Plumb,
    /// Straight along the vehicle.
    Lengthwise,
    /// Straight across the vehicle.
    Across,
    /// Along a direction, either way.
    Along {
        /// The direction.
        direction: Direction,
    },
}

impl LegDirection {
    /// The direction nearest to `now` that runs this way; `None` where a level one has no heading.
    #[must_use]
    pub(crate) fn nearest(self, now: Vector) -> Option<Direction> {
        let along = |way: Vector| if way.dot(&now) < 0.0 { -way } else { way };
        let way = match self {
            Self::Level => Vector::new(now.x, now.y, 0.0),
            Self::Plumb => along(Vector::z()),
            Self::Lengthwise => along(Vector::x()),
            Self::Across => along(Vector::y()),
            Self::Along { direction } => along(direction.vector()),
        };
        Direction::of(way).ok()
    }
}

/// A leg that shall run a certain way.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct LegConstraint {
    /// Which leg: the one nearest to this place, or the longest between the first and the last bend.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub near: Option<Point>,
    /// Which way.
    pub way: LegDirection,
}

/// Which angles bends may have.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum AngleChoice {
    /// Any: pies, or elbows cut down.
    Free,
    /// Only what whole elbows are sold in.
    WholeElbows,
    /// Both are offered.
    #[default]
    Either,
}

/// What the builder asks of a way round.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct RouteConstraints {
    /// Places to pass, at most six.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub pins: Vec<Pin>,
    /// Places to keep out of, at most twelve.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub bans: Vec<ExclusionZone>,
    /// Legs that run a certain way, at most four.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub legs: Vec<LegConstraint>,
    /// Height in mm that the legs between the bends keep near, where they can.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub height: Option<Coordinate>,
    /// No more bends than this, 1 to 5.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub most_bends: Option<u8>,
    /// No more welded seams than this.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub most_seams: Option<u16>,
    /// Which angles bends may have.
    #[serde(default, skip_serializing_if = "is_usual")]
    pub angles: AngleChoice,
    /// Whether a tight spot may have pies of a tighter radius than the run's.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub tight_pies: bool,
    /// Whether components may be turned on their bolts.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub turn_components: bool,
}

fn is_usual(angles: &AngleChoice) -> bool {
    *angles == AngleChoice::default()
}

impl RouteConstraints {
    /// Most bends a search goes to.
    pub const MOST_BENDS: u8 = 5;

    /// Whether nothing is asked.
    #[must_use]
    pub fn is_none(&self) -> bool {
        *self == Self::default()
    }

    /// Checks what the types alone do not.
    ///
    /// # Errors
    /// [`OutOfRange`] naming the count or size that is out of range.
    pub fn check(&self) -> Result<(), OutOfRange> {
        let count = |what, count: usize, max: f64| {
            within(what, f64::from(u32::try_from(count).unwrap_or(u32::MAX)), 0.0, max, "places")
        };
        count("the pins", self.pins.len(), 6.0)?;
        count("the bans", self.bans.len(), 12.0)?;
        count("the legs that are told their way", self.legs.len(), 4.0)?;
        self.pins.iter().try_for_each(|pin| within("a pin's reach", pin.within, 1.0, 200.0, "mm"))?;
        self.bans.iter().try_for_each(|ban| within("a ban's radius", ban.radius, 1.0, 500.0, "mm"))?;
        let most = f64::from(Self::MOST_BENDS);
        self.most_bends.map_or(Ok(()), |bends| within("the most bends", f64::from(bends), 1.0, most, "bends"))?;
        self.most_seams.map_or(Ok(()), |seams| within("the most seams", f64::from(seams), 1.0, 200.0, "seams"))
    }
}

fn within(what: &'static str, value: f64, min: f64, max: f64, unit: &'static str) -> Result<(), OutOfRange> {
    if (min..=max).contains(&value) { Ok(()) } else { Err(OutOfRange { what, value, min, max, unit }) }
}
