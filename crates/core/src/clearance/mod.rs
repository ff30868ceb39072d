//! How near a pipe comes to what is in the way: proven, not sampled.

mod convex;
mod facets;
mod least;
mod obstacle;
mod span;
mod trace;

pub use convex::Convex;
pub use least::TOLERANCE;
pub use obstacle::{Movement, Nearest, Obstacle, Part, Solid, Thing};
pub use span::{Span, Stretch, Turning};
pub use trace::{OF_INTEREST, TraceGap, TracePiece, nearest, trace};
