//! Where a pipe that leaks is most likely to leak: looked at with soap in this order.

use crate::assembly::Assembly;
use crate::join::JointKind;
use crate::measure::EndForm;
use crate::part_ref::PartRef;
use crate::route::ResolvedRun;
use crate::weld::Process;
use crate::weld::{SeamKind, WeldSeam, widest_gap};

/// A place to look at.
#[derive(Debug, Clone, PartialEq)]
pub struct SoapPlace {
    /// What is pointed at.
    pub part: PartRef,
    /// What it is.
    pub what: String,
    /// Why it may leak.
    pub why: &'static str,
    /// How likely beside the others; no chance.
    pub weight: f64,
}

/// Weights beside each other. Ours, in the order the handbook's mistakes name what leaked: hoses without beads, seams with wide gaps,
/// gaskets, bands, threads, then plain seams by their length.
const BARE: f64 = 5.0;
const GAPPED: f64 = 4.0;
const GASKET: f64 = 2.5;
const CLAMPED: f64 = 2.0;
const BAND: f64 = 1.5;
const THREAD: f64 = 1.2;
const RINGED: f64 = 1.0;
/// Of a plain seam, for each 100 mm.
const SEAM: f64 = 0.4;

/// Places of a pipe from the likeliest to leak, with what its seams' gaps were read to be, in mm.
#[must_use]
pub fn soap_places(
    run: &ResolvedRun,
    pipe: &Assembly,
    seams: &[(WeldSeam, String)],
    gap: &impl Fn(&WeldSeam) -> Option<f64>,
) -> Vec<SoapPlace> {
    let mut all: Vec<SoapPlace> = Vec::new();
    for joint in pipe.joints.iter().filter(|joint| joint.kind != JointKind::Open) {
        let bare = joint.end.is_some_and(|end| run.port(end).form == EndForm::Plain);
        let bolted = joint.end.is_some_and(|end| run.port(end).form == EndForm::Flanged);
        let (weight, why) = match joint.kind {
            kind if kind.has_hose() && bare => (BARE, "the port has no bead"),
            kind if kind.has_hose() => (CLAMPED, "clamps and a hose"),
            JointKind::HoseEnd if run.is_threaded() => (THREAD, "a cone and a thread"),
            JointKind::HoseEnd => (CLAMPED, "a clamp and a hose"),
            JointKind::Flange => (GASKET, "a gasket"),
            JointKind::Metal if bolted => (GASKET, "a gasket"),
            JointKind::VBand | JointKind::VBandSeal => (BAND, "two faces and a band"),
            JointKind::Sleeve | JointKind::RigidClamp => (RINGED, "O-rings"),
            JointKind::Slip | JointKind::Bellows => (BAND, "it moves"),
            _ => continue,
        };
        let what = match joint.end {
            Some(end) => format!("{} at {}", joint.kind.word(), end.letter()),
            None => joint.kind.word().to_owned(),
        };
        all.push(SoapPlace { part: PartRef::of_joint(run.id, joint.id, joint.end), what, why, weight });
    }
    for (seam, name) in seams.iter().filter(|(seam, _)| seam.kind != SeamKind::Tab) {
        let wide = gap(seam).is_some_and(|mm| mm > widest_gap(seam.materials[0], Process::Tig, seam.walls[0]));
        let (weight, why) =
            if wide { (GAPPED, "its gap was too wide") } else { (SEAM * seam.length / 100.0, "a weld") };
        all.push(SoapPlace { part: seam.part, what: name.clone(), why, weight });
    }
    for branch in &pipe.branches {
        let part = PartRef::Branch { run: run.id, branch: branch.id };
        all.push(SoapPlace { part, what: branch.kind.word().to_owned(), why: "a thread", weight: THREAD });
    }
    all.sort_by(|p, q| q.weight.total_cmp(&p.weight));
    all
}
