//! How well two sizes go together.

/// How well two real outside diameters go together.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum SizeMatch {
    /// Within 0.5 mm.
    Good,
    /// Within 2 mm: stretch or sleeve a hose, share the step of a weld.
    Stretch,
    /// More than that: a reducer.
    Reducer,
}

impl SizeMatch {
    /// What comes of taking one size for the other, in a few words.
    #[must_use]
    pub const fn consequence(self) -> &'static str {
        match self {
            Self::Good => "goes together, but is not the same",
            Self::Stretch => "a hose must stretch, a weld has a step",
            Self::Reducer => "needs a reducer",
        }
    }

    /// Largest difference in mm that is no difference. Source: handbook, "The sums", Joints.
    pub const GOOD: f64 = 0.5;
    /// Largest difference in mm a hose may be stretched over. Source: as above.
    pub const STRETCH: f64 = 2.0;

    /// Judges two outside diameters in mm. A hair of 1e-9 mm keeps 38.1 and 36.1 at 2.0 exactly.
    #[must_use]
    pub fn of(one: f64, other: f64) -> Self {
        let apart = (one - other).abs() - 1e-9;
        if apart <= Self::GOOD {
            Self::Good
        } else if apart <= Self::STRETCH {
            Self::Stretch
        } else {
            Self::Reducer
        }
    }
}
