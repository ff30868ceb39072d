//! Pies that are bought sawn, all of one angle.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use nook_geometry::units::{BendRadius, PieAngle, SeamCount};

/// A pie as it is bought: a slice of tube between two faces of equal slope.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct KitPie {
    /// How far it turns from face to face, in degrees.
    pub angle: PieAngle,
    /// Centre-line radius in mm of a bend of them: the pie measures `2 R tan(angle/2)` along its centre line.
    pub radius: BendRadius,
}

impl KitPie {
    /// Angle in degrees of the pies that are commonly sold: ten to a quarter bend. Source: handbook, "The sums", Pie cuts.
    const SOLD: f64 = 9.0;

    /// What a bend of `radius` mm through so many radians is made of until one is chosen; `None` where it turns less than one.
    #[must_use]
    pub fn usual(radius: f64, angle: f64) -> Option<Self> {
        let pie = Self { angle: PieAngle::new(Self::SOLD).ok()?, radius: BendRadius::new(radius).ok()? };
        (pie.count(angle) > 0).then_some(pie)
    }

    /// Angles nearer than this, in radians, are one: less than any saw is set to.
    pub(super) const SAME: f64 = 1e-6;

    /// As many of them as a bend through `angle` radians turns, and no more than a bend may have.
    #[must_use]
    pub fn count(&self, angle: f64) -> u32 {
        let each = self.angle.get().to_radians();
        let mut count = 0;
        while count < u32::from(SeamCount::MAX) && f64::from(count + 1) * each <= angle + Self::SAME {
            count += 1;
        }
        count
    }

    /// Whether two are of one sort, to within what a caliper and an angle gauge tell.
    #[must_use]
    pub fn is_like(&self, other: &Self) -> bool {
        (self.angle.get() - other.angle.get()).abs() < 0.011 && (self.radius.get() - other.radius.get()).abs() < 0.011
    }
}
