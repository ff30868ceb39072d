//! The ground floor: units, points, directions, frames of travel, paths of straights and bends, meshes, and how near
//! one thing comes to another.
//!
//! Conventions: lengths in millimetres and angles in degrees at every boundary, radians inside. Vehicle axes
//! after ISO 8855: x forward, y left, z up, right-handed.

pub mod clearance;
pub mod linkage;
pub mod units;

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
pub use spread::{least_axis, spread_axes, turns};
pub use travel::Travel;

/// A displacement in mm, vehicle axes.
pub type Vector = nalgebra::Vector3<f64>;
