//! One bend of a route: which it is, how wide, how it is made. And the legs, which are named by the bend before them.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::{KitPie, PieEnds, StockElbow};
use crate::measure::End;
use crate::stock::Tube;
use nook_geometry::units::{BendRadius, Insulation, SeamCount};

/// Which bend of a route; the number never changes, and is of this run.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, ToSchema)]
#[serde(transparent)]
pub struct BendId(pub u32);

impl BendId {
    /// From here up numbers are of bends on offer, which get one of their own once their route is taken.
    const ON_OFFER: u32 = 1 << 31;

    /// The bend in this place of a route that nobody has taken yet.
    #[must_use]
    pub fn on_offer(index: usize) -> Self {
        Self(Self::ON_OFFER.saturating_add(u32::try_from(index).unwrap_or(u32::MAX)))
    }
}

/// Which leg of a route: 0 is the one from A, any other has the number of the bend it follows.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, ToSchema)]
#[serde(transparent)]
pub struct LegId(pub u32);

impl LegId {
    /// The leg from A.
    pub const FROM_A: Self = Self(0);

    /// The leg after a bend.
    #[must_use]
    pub const fn after(bend: BendId) -> Self {
        Self(bend.0)
    }
}

/// How a bend is made.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "how", rename_all = "snake_case", deny_unknown_fields)]
pub enum BendMake {
    /// Sawn slices, welded.
    Pies {
        /// Seams; by default one for every ten degrees begun that leaves a useful throat.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        seams: Option<SeamCount>,
        /// How the pies meet the straights.
        #[serde(default)]
        ends: PieEnds,
    },
    /// Bought pies of one angle, as many as the bend turns; the straights' ends are sawn at what is left of it.
    KitPies {
        /// What one of them is, as it was when that was decided.
        pie: KitPie,
    },
    /// The tube itself, bent by a tube bender: a true arc without seams. Springback is the bender's.
    Drawn,
    /// A bought elbow, whole or trimmed, its legs used as straights.
    Elbow {
        /// What it is made of, as it was when that was decided.
        stock: StockElbow,
        /// The end of the pipe towards which it is sawn where it turns too far.
        cut: End,
    },
}

/// Tube of a smaller outside diameter in mm is bent, not sawn: a pie of it would be too short to hold.
const DRAWN_BELOW: f64 = 25.0;

impl BendMake {
    /// Pies of the usual count, mitred.
    pub const PIES: Self = Self::Pies { seams: None, ends: PieEnds::Mitred };

    /// How a bend of this tube is made when nobody said.
    #[must_use]
    pub fn usual(tube: Tube) -> Self {
        if tube.od() < DRAWN_BELOW || tube.material().is_hose() { Self::Drawn } else { Self::PIES }
    }

    /// The least centre-line radius in mm that tube of `od` mm is made to like this: pies of less than one diameter are
    /// seldom cut, and thin tube drawn to less than one and a half kinks without a mandrel.
    #[must_use]
    pub fn least_radius(&self, od: f64) -> f64 {
        match self {
            Self::Pies { .. } => od,
            Self::Drawn => 1.5 * od,
            // They are as they were bought.
            Self::Elbow { stock, .. } => stock.radius.get(),
            Self::KitPies { pie } => pie.radius.get(),
        }
    }
}

/// What was decided about one bend; what is left open follows from the run and the angle.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct BendSpec {
    /// Which.
    pub id: BendId,
    /// Centre-line radius; by default the run's.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub radius: Option<BendRadius>,
    /// How it is made; by default pies, and of small tube drawn.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub make: Option<BendMake>,
    /// How thick what is wrapped round it is, 0 where it is bare; by default as the run.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub wrapped: Option<Insulation>,
    /// The same of the leg after it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub leg_wrapped: Option<Insulation>,
}

/// A stretch of a pipe that may be wrapped otherwise than the rest.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "on", rename_all = "snake_case", deny_unknown_fields)]
pub enum Stretch {
    /// A straight.
    Leg {
        /// Which.
        leg: LegId,
    },
    /// A bend.
    Bend {
        /// Which.
        bend: BendId,
    },
}

impl BendSpec {
    /// A bend of which nothing else was decided.
    #[must_use]
    pub const fn new(id: BendId) -> Self {
        Self { id, radius: None, make: None, wrapped: None, leg_wrapped: None }
    }
}
