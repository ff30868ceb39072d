//! The ground floor: points, directions, frames of travel and paths of straights and bends.

mod bunches;
mod direction;
mod mesh;
mod path;
mod point;
mod schema;
mod spread;
mod travel;

pub(crate) use bunches::{Bunch, Bunches, Made};
pub use direction::{Direction, NoDirection};
pub use mesh::{Mesh, MeshError};
pub use path::{Arc, Mouth, Path, PathError, PathStep};
pub use point::Point;
pub use schema::{Pair, Triple};
pub(crate) use spread::{least_axis, spread_axes, turns};
pub use travel::Travel;

/// A displacement in mm, vehicle axes.
pub type Vector = nalgebra::Vector3<f64>;
