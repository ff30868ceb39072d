//! How near a pipe comes to what is in the way: proven, not sampled.

mod carried;
mod closest;
mod convex;
mod envelope;
mod facets;
mod flat;
mod floating;
mod itself;
mod least;
mod movement;
mod obstacle;
mod pair;
mod part;
mod slice;
mod span;
mod trace;

pub use carried::{Advance, Carried, Held};
pub use closest::Closest;
pub use convex::Convex;
pub use envelope::{Counted, Envelope};
pub use floating::Floating;
pub(crate) use floating::{NOT_QUITE, best_turn};
pub use itself::{SelfNear, nearest_to_itself};
pub use least::TOLERANCE;
pub use movement::{Movement, Rides};
pub use obstacle::{Moves, Nearest, Obstacle};
pub use pair::PairNear;
pub use part::{Part, Solid};
pub use span::{EnvelopePart, Span, Turning};
pub use trace::{OF_INTEREST, TraceGap, TracePiece, nearest, trace};
