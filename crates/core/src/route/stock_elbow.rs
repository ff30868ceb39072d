//! Bought elbows, and what of one makes a bend.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::cut::ElbowCut;
use crate::measure::End;
use nook_geometry::units::{BendRadius, ElbowAngle, ElbowLeg};

/// A bent piece of tube as it is bought, or what is left of one: an arc between two straight legs.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct StockElbow {
    /// Centre-line radius in mm.
    pub radius: BendRadius,
    /// How far it turns, in degrees.
    pub angle: ElbowAngle,
    /// How long its legs are beyond the tangent lines, in mm; 0 at an end that is sawn in the arc. In a bend, A's side first.
    #[schema(min_items = 2, max_items = 2)]
    pub legs: [ElbowLeg; 2],
}

impl StockElbow {
    /// An elbow is whole where it turns within so many degrees of what is wanted: less than a saw cut shows.
    pub const WHOLE: f64 = 0.25;
    /// Radii nearer than this, in mm, are one.
    pub const SAME_RADIUS: f64 = 0.5;

    /// Angles that elbows are commonly sold in, in degrees.
    const SOLD: [f64; 3] = [45.0, 90.0, 180.0];
    /// Legs in mm that one is taken to have until one is measured: what a bead and a clamp need.
    const USUAL_LEG: f64 = 60.0;

    /// What a bend of `radius` mm through so many radians is made of until one is chosen: the least that is commonly sold and turns far
    /// enough; `None` where no elbow has that radius or turns that far.
    #[must_use]
    pub fn usual(radius: f64, angle: f64) -> Option<Self> {
        let enough = |sold: &f64| *sold >= angle.to_degrees() - Self::WHOLE;
        let angle = ElbowAngle::new(Self::SOLD.into_iter().find(enough)?).ok()?;
        let leg = ElbowLeg::new(Self::USUAL_LEG).ok()?;
        Some(Self { radius: BendRadius::new(radius).ok()?, angle, legs: [leg; 2] })
    }

    /// The same the other way round.
    #[must_use]
    pub const fn turned(self) -> Self {
        let [one, other] = self.legs;
        Self { legs: [other, one], ..self }
    }

    /// Whether it turns more than a bend of so many radians, so that it is trimmed.
    #[must_use]
    pub fn is_trimmed_to(&self, angle: f64) -> bool {
        self.angle.get() - angle.to_degrees() > Self::WHOLE
    }
}

/// What an elbow meets at an end.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum ElbowEnd {
    /// Nothing: its leg is where the tube ends.
    Free,
    /// A piece of tube, welded to it.
    Tube,
    /// The next elbow, welded to it.
    Elbow,
}

/// A bend made of a bought elbow.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct ElbowMake {
    /// What it is made of.
    pub stock: StockElbow,
    /// The end at which it is sawn in its arc; nothing where it is whole.
    pub trimmed: Option<End>,
    /// How much of its legs is used, in mm, A's side first.
    pub legs: [f64; 2],
    /// What it meets on either side.
    pub ends: [ElbowEnd; 2],
}

impl ElbowMake {
    /// An elbow for a bend of so many radians, sawn at `cut` where it turns more; all of its legs are used until it is known what is
    /// beside them.
    #[must_use]
    pub fn new(stock: StockElbow, cut: End, angle: f64) -> Self {
        let trimmed = stock.is_trimmed_to(angle).then_some(cut);
        let mut legs = stock.legs.map(ElbowLeg::get);
        if let Some(end) = trimmed {
            legs[usize::from(end == End::B)] = 0.0;
        }
        Self { stock, trimmed, legs, ends: [ElbowEnd::Tube; 2] }
    }

    /// What is left of it beyond the kerf, with the leg of the end it is sawn at, where the bend turns so many radians; `None` where it is
    /// used whole, or nothing is left.
    #[must_use]
    pub fn left_over(&self, od: f64, angle: f64, kerf: f64) -> Option<StockElbow> {
        let end = self.trimmed?;
        let cut = ElbowCut::new(od, self.stock.radius.get(), self.stock.angle.get().to_radians(), angle, kerf).ok()?;
        let leg = self.stock.legs[usize::from(end == End::B)];
        let angle = ElbowAngle::new(cut.left_over.to_degrees()).ok()?;
        Some(StockElbow { angle, legs: [leg, ElbowLeg::new(0.0).ok()?], ..self.stock })
    }

    /// Welds at its ends; that between two elbows counts once.
    #[must_use]
    pub fn welds(&self) -> u32 {
        u32::from(self.ends[0] != ElbowEnd::Free) + u32::from(self.ends[1] == ElbowEnd::Tube)
    }
}
