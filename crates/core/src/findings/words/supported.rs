//! How what is wrong with a pipe's supports is said.

use crate::assembly::{FreeSpan, SeatedSupport, WeldOf};
use crate::measure::End;
use crate::part_ref::PartRef;
use crate::route::{BranchId, JointId, ResolvedRun, SupportId};
use nook_geometry::clearance::Rides;
use nook_geometry::units::DualUnitText;

/// What a support or a hole is too near to.
#[derive(Debug, Clone, Copy)]
pub(in crate::findings) enum Beside {
    /// A joint, with its bead and its seat.
    Joint(JointId),
    /// A bend, by its place, with the seam at its end.
    Bend(usize),
    /// A weld at the end of a bought elbow, or of a splice.
    Weld(WeldOf),
    /// Something let in.
    Branch(BranchId),
}

fn name(run: &ResolvedRun, support: SupportId) -> String {
    run.route.support_name(support).unwrap_or_else(|| "A support".to_owned())
}

impl Beside {
    /// The same as the object of a sentence.
    pub(in crate::findings) fn words(self, run: &ResolvedRun) -> String {
        match self {
            Self::Joint(joint) => format!("what {} takes of the tube", lower(&run.joint_name(joint))),
            Self::Bend(bend) => format!("the end of bend {}", bend + 1),
            Self::Weld(WeldOf::Elbow(bend)) => format!("the weld of bend {}'s elbow", bend + 1),
            Self::Weld(WeldOf::Splice) => "the weld of a splice".to_owned(),
            Self::Branch(branch) => {
                format!("the {}", lower(&run.route.branch_name(branch).unwrap_or_else(|| "branch".to_owned())))
            }
        }
    }
}

pub(in crate::findings) fn on_seam(run: &ResolvedRun, support: SupportId, apart: f64, beside: Beside) -> DualUnitText {
    let what = beside.words(run);
    let name = name(run, support);
    DualUnitText::new(|unit| {
        if apart < 0.0 {
            format!("{name} lies over {what} by {}: {} clear of it is right.", unit.text(-apart), unit.text(15.0))
        } else {
            format!("{name} is {} from {what}; {} is the least.", unit.text(apart), unit.text(15.0))
        }
    })
}

pub(super) fn lower(text: &str) -> String {
    let mut letters = text.chars();
    letters.next().map_or_else(String::new, |first| first.to_lowercase().chain(letters).collect())
}

pub(in crate::findings) fn low(
    run: &ResolvedRun,
    support: &SeatedSupport,
    height: f64,
    least: f64,
    on: Option<&str>,
) -> DualUnitText {
    let name = name(run, support.id);
    let on = on.map_or_else(String::new, |on| format!(" to the {on}"));
    DualUnitText::new(|unit| {
        let wrapped = if support.wrapped > 0.0 {
            format!(": {} of wrapping and 5 more", unit.text(support.wrapped))
        } else {
            String::new()
        };
        format!(
            "{name}: {}{on} from the tube\u{2019}s skin; it wants {}{wrapped}.",
            unit.text(height),
            unit.text(least)
        )
    })
}

pub(in crate::findings) fn nothing_there(
    run: &ResolvedRun,
    support: &SeatedSupport,
    missing: usize,
    feet: usize,
) -> DualUnitText {
    let name = name(run, support.id);
    let which = if missing < feet { "one of its feet finds" } else { "it finds" };
    DualUnitText::new(|unit| {
        let far = unit.text(crate::fastening::FARTHEST);
        format!(
            "{name}: {which} nothing on the {} within {far} to be bolted to. Turn it, move it, or say how high its stand-off is.",
            support.to.word()
        )
    })
}

pub(in crate::findings) fn over_give(
    run: &ResolvedRun,
    support: &SeatedSupport,
    moved: f64,
    gives: f64,
) -> DualUnitText {
    let name = name(run, support.id);
    DualUnitText::new(|unit| {
        let (moved, gives) = (unit.text(moved), unit.text(gives));
        format!("{name}: the tube moves {moved} against the {} there; it gives {gives}.", support.to.word())
    })
}

pub(in crate::findings) fn both_sides(run: &ResolvedRun, one: &SeatedSupport, other: &SeatedSupport) -> DualUnitText {
    let names = [one, other].map(|support| name(run, support.id));
    DualUnitText::same(format!(
        "{} fixes one rigid section to the {}, and {} fixes it to the {}: as the engine moves it cracks.",
        names[0],
        one.to.word(),
        lower(&names[1]),
        other.to.word()
    ))
}

/// What a tab and a tube have a growth between.
#[derive(Debug, Clone, Copy)]
pub(in crate::findings) enum Fixed {
    /// Another tab.
    Tab(SupportId),
    /// A port that holds it without give.
    Port(JointId),
}

pub(in crate::findings) fn grows(
    run: &ResolvedRun,
    tab: SupportId,
    other: Fixed,
    apart: f64,
    grown: f64,
) -> DualUnitText {
    let other = match other {
        Fixed::Tab(other) => lower(&name(run, other)),
        Fixed::Port(joint) => lower(&run.joint_name(joint)),
    };
    let name = name(run, tab);
    DualUnitText::new(|unit| {
        let (apart, grown) = (unit.text(apart), unit.text(grown));
        format!("{name} and {other} are {apart} apart: hot, the tube grows {grown} between them and has nowhere to go.")
    })
}

pub(in crate::findings) fn one_way(run: &ResolvedRun, support: &SeatedSupport, count: usize) -> DualUnitText {
    let name = name(run, support.id);
    let held = if count > 1 { format!("{name} and the others hold") } else { format!("{name} holds") };
    DualUnitText::same(format!(
        "{held} its section from one direction only: it sways. A second direction stops that, not a stronger first."
    ))
}

pub(in crate::findings) fn open_end(run: &ResolvedRun, end: End) -> DualUnitText {
    let port = run.port(end);
    let (heading, pitch) = (port.out.heading(), port.out.pitch());
    // The way out of the mouth as the pipe leaves it: a port looks back into the pipe.
    let (heading, pitch) = ((heading + 180.0).rem_euclid(360.0), -pitch);
    let heading = if heading > 180.0 { heading - 360.0 } else { heading };
    let side = if heading < 0.0 { "right" } else { "left" };
    let way = if pitch < 0.0 { "below" } else { "above" };
    let (turned, steep) = (heading.abs(), pitch.abs());
    let at = port.at.to_array();
    DualUnitText::new(|unit| {
        let place = [("forward", "back"), ("left", "right"), ("up", "down")].into_iter().zip(at);
        let place: Vec<String> = place
            .map(|((more, less), mm)| format!("{} {}", unit.text(mm.abs()), if mm < 0.0 { less } else { more }))
            .collect();
        let place = place.join(", ");
        format!(
            "End {} is open: its middle at {place}, looking {turned:.1}\u{b0} {side} of forward and {steep:.1}\u{b0} {way} level. \
             Have that agreed to before the first cut: a tip turned afterwards is a bend made new.",
            end.letter()
        )
    })
}

pub(in crate::findings) fn speed_unknown() -> DualUnitText {
    DualUnitText::same(
        "It rides on the engine, and nobody said how many cylinders that has and how fast it turns: whether its spans ring cannot be told."
            .to_owned(),
    )
}

pub(in crate::findings) fn flow_unknown() -> DualUnitText {
    DualUnitText::same(
        "What flows through it is not known, so neither is its weight: whether its spans ring cannot be told. Say what flows, in the \
         measure that suits it."
            .to_owned(),
    )
}

pub(in crate::findings) fn rings(run: &ResolvedRun, span: &FreeSpan) -> DualUnitText {
    let call = |part: PartRef| match part {
        PartRef::Support { support, .. } => lower(&name(run, support)),
        PartRef::Joint { joint, .. } => lower(&run.joint_name(joint)),
        other => lower(&super::part_words(run, other)),
    };
    let [one, other] = span.between.map(call);
    let (hz, least) = (span.hz, span.least.unwrap_or(0.0));
    DualUnitText::new(|unit| {
        let long = unit.text(span.length());
        let why = match (span.rides, span.rpm) {
            (Rides::Engine, Some(rpm)) => format!(", met at {:.0} rpm; {least:.0} is over what the engine fires", rpm),
            _ => format!("; {least:.0} is the least on the body"),
        };
        format!("{long} from {one} to {other} ring at {hz:.0} Hz{why}. One support more between.")
    })
}
