//! A chain of rigid parts between joints that give: where it comes to rest as the things at its ends move, and how each part
//! moves over all of that.

mod errors;
mod floating;
mod settle;

pub use errors::{Compliance, JointErrors};
pub use floating::{Swept, SweptBy, floating};
pub use settle::{Linkage, LinkageJoint, NotSettled, Settled};
