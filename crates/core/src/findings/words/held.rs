//! Joints that no hand reaches, and joints that pressure pushes apart.

use crate::assembly::SeatedJoint;
use crate::environment::Thing;
use crate::job::Job;
use crate::join::Reached;
use crate::reach::Reach;
use crate::route::ResolvedRun;
use nook_geometry::units::DualUnitText;

/// What a thing is called.
pub(in crate::findings) fn thing_name(job: &Job, run: &ResolvedRun, thing: Thing) -> Option<String> {
    match thing {
        Thing::KeepOut { keep_out } => Some(job.keep_out(keep_out)?.name.as_str().to_owned()),
        Thing::Run { run } => Some(job.run(run)?.name.as_str().to_owned()),
        Thing::Itself => Some(format!("{} itself", run.name.as_str())),
    }
}

/// No hand or tool gets to a joint's screw.
pub(in crate::findings) fn not_reached(
    run: &ResolvedRun,
    joint: &SeatedJoint,
    reach: &Reach,
    by: Option<&str>,
) -> DualUnitText {
    let (what, tool) = match joint.spec.screw.map(|screw| screw.reached) {
        Some(Reached::Driver) | None => {
            ("the clamp\u{2019}s screw", "a hand and a driver want 60 round it and 150 straight to it")
        }
        Some(Reached::Socket) => ("the nut", "a hand and a socket want 60 round it and 80 along the bolt"),
        Some(Reached::Hand) => ("the latch", "a hand wants 60 round it"),
    };
    let name = run.joint_name(joint.id);
    let by = by.unwrap_or("something");
    let facing = if reach.live { ", which is live" } else { "" };
    DualUnitText::new(|unit| {
        let place = if reach.held {
            format!("{what} is held at {:.0}\u{b0} from up and is not reached there", reach.clock)
        } else {
            format!("{what} is reached at no clock")
        };
        format!("{name}: {place}: {tool}; {} too little at best, for the {by}{facing}.", unit.text(-reach.spare))
    })
}

/// Pressure pushes a joint apart harder than it holds.
pub(in crate::findings) fn pushed_apart(
    run: &ResolvedRun,
    joint: &SeatedJoint,
    force: f64,
    holds: f64,
) -> DualUnitText {
    let name = run.joint_name(joint.id);
    let bar = run.bar();
    DualUnitText::new(|_| {
        format!(
            "{name}: {bar:.2} bar pushes it apart with {force:.0} N; its clamps hold {holds:.0} N{}. A tie, a bead or a kind that locks.",
            if joint.end.is_some_and(|end| run.port(end).form == crate::measure::EndForm::Plain) {
                ", without a bead on the port"
            } else {
                ""
            }
        )
    })
}
