//! What is wrong with the flange plates of a pipe.

use super::{Finding, FindingKind, Severity};
use crate::part_ref::PartRef;
use crate::route::ResolvedRun;
use nook_geometry::units::DualUnitText;

/// A distance measured to check the others may be off by so much, in mm: what a caliper over two holes is good to, three times.
const CHECK_OFF: f64 = 0.6;

/// What is wrong with the plates that were measured.
pub(crate) fn plates(run: &ResolvedRun) -> Vec<Finding> {
    let mut all = Vec::new();
    for joint in run.route.joints() {
        let Some(plate) = run.plate_of(joint) else { continue };
        let part = PartRef::of_joint(run.id, joint.id, joint.end());
        let name = run.joint_name(joint.id);
        let found = match plate.holes() {
            Ok(found) => found,
            Err(error) => {
                let words = DualUnitText::same(format!("{name}: {error}."));
                all.push(Finding::new(FindingKind::NoPlate, Severity::Error, part, words));
                continue;
            }
        };
        if let Some(off) = found.check_off.filter(|off| off.abs() > CHECK_OFF) {
            let last = plate.count();
            let words = DualUnitText::new(|unit| {
                let (off, way) = (unit.text(off.abs()), if off > 0.0 { "more" } else { "less" });
                format!(
                    "{name}: from hole 2 to hole {last} is {off} {way} than the other distances make it. Measure again."
                )
            });
            let finding = Finding::new(FindingKind::PlateCheck, Severity::Error, part, words);
            all.push(finding.measured(off.abs(), CHECK_OFF));
        }
        let clear = plate.clear_of_weld(&found.holes, run.tube.od());
        if clear < 0.0 {
            let words = DualUnitText::new(|unit| {
                format!(
                    "{name}: a bolt hole is {} too near to the tube for its weld and the bolt\u{2019}s head.",
                    unit.text(-clear)
                )
            });
            all.push(Finding::new(FindingKind::HoleInWeld, Severity::Error, part, words).measured(clear, 0.0));
        }
    }
    all
}
