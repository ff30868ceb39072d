//! How much pressure a pipe bears, and which part of it bears least.

use crate::assembly::Assembly;
use crate::join::JointKind;
use crate::part_ref::PartRef;
use crate::route::ResolvedRun;

/// Stress in MPa round a tube of `od` and `wall` mm under `bar`. Source: handbook, "The sums", Materials.
#[must_use]
pub fn hoop_stress(od: f64, wall: f64, bar: f64) -> f64 {
    bar / BAR_IN_MPA * (od - wall) / (2.0 * wall)
}

const BAR_IN_MPA: f64 = 10.0;
/// Yield is this many times the stress that is allowed: a sanity check, not a certificate. Source: as above.
const FACTOR: f64 = 4.0;

/// What a part of a pipe bears.
#[derive(Debug, Clone, PartialEq)]
pub struct Bears {
    /// Which part.
    pub part: PartRef,
    /// What it is.
    pub what: String,
    /// In bar gauge.
    pub bar: f64,
}

/// What each part of a pipe bears that is known to bear only so much, the weakest first.
#[must_use]
pub fn bearing(run: &ResolvedRun, pipe: &Assembly) -> Vec<Bears> {
    let mut all = Vec::new();
    for joint in pipe.joints.iter().filter(|joint| joint.kind != JointKind::Open) {
        if let Some(bar) = joint.spec.bar {
            let what = match joint.end {
                Some(end) => format!("the {} at {}", joint.kind.word(), end.letter()),
                None => format!("the {}", joint.kind.word()),
            };
            all.push(Bears { part: PartRef::of_joint(run.id, joint.id, joint.end), what, bar });
        }
    }
    // A hose bears what its maker says; what is not known of it limits nothing here, and is asked.
    if let Some(yields) = run.tube.material().yield_stress() {
        let bar = yields / FACTOR / hoop_stress(run.tube.od(), run.tube.wall(), 1.0);
        all.push(Bears {
            part: PartRef::Run { run: run.id },
            what: "the tube, at a quarter of its yield".to_owned(),
            bar,
        });
    }
    all.sort_by(|p, q| p.bar.total_cmp(&q.bar));
    all
}
