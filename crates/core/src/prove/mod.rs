//! Prove: whether a finished pipe is tight, held and done.

mod check_item;
mod decay;
mod fingerprint;
mod leak_test;
mod soap_places;
mod weakest_part;

pub use check_item::{CheckId, CheckItem, CheckWhen, check_items};
pub use decay::{AMBIENT, Decay, Held, KELVIN, decay, sccm_a_litre};
pub use fingerprint::{Fingerprint, FingerprintError};
pub use leak_test::{
    GaugeNoise, GaugeReading, Judged, LIQUID_HOLDS, LONGEST, MAY_LEAK, SETTLES, Verdict, can_tell, judge, judge_liquid,
};
pub use soap_places::{SoapPlace, soap_places};
pub use weakest_part::{Bears, bearing, hoop_stress};
