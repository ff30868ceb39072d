//! Welding as it is said at the bench.

use super::landing::Made;
use crate::cut::{Piece, PieceId};
use crate::join::JointKind;
use crate::measure::End;
use crate::stock::Material;
use crate::weld::{Inside, Process, SeamId, SeamKind, Settings, WeldSeam, widest_gap};
use nook_geometry::units::{DualUnitText, capital};

/// What the pieces of a pipe are called.
pub(super) struct Names<'a> {
    pub(super) made: &'a Made<'a>,
    pub(super) pieces: Vec<(PieceId, String)>,
}

impl Names<'_> {
    /// What a seam joins.
    pub(super) fn seam(&self, seam: &WeldSeam) -> String {
        let pipe = &self.made.pipe;
        match seam.id {
            SeamId::After { piece } => {
                let at = self.pieces.iter().position(|(one, _)| *one == piece);
                let name = |at: Option<usize>| at.and_then(|at| self.pieces.get(at)).map(|(_, name)| name.as_str());
                let (one, other) = (name(at), name(at.map(|at| at + 1)));
                format!("{} to {}", one.unwrap_or("a piece"), other.unwrap_or("the next"))
            }
            SeamId::Joint { joint, .. } => {
                let found = pipe.joints.iter().find(|one| one.id == joint && self.holds(one, seam));
                found.map_or_else(
                    || "joint".to_owned(),
                    |joint| match joint.end {
                        Some(end) => format!("{} at {}", joint.kind.word(), end.letter()),
                        None => {
                            let side = if matches!(seam.id, SeamId::Joint { side: End::A, .. }) { 'A' } else { 'B' };
                            format!("{}, its half towards {side}", joint.kind.word())
                        }
                    },
                )
            }
            SeamId::Branch { branch } => pipe
                .branches
                .iter()
                .find(|one| one.id == branch)
                .map_or_else(|| "branch".to_owned(), |one| one.kind.word().to_owned()),
            SeamId::Tab { .. } => "welded tab".to_owned(),
        }
    }

    /// Joints at both ends may have one number.
    fn holds(&self, joint: &crate::assembly::SeatedJoint, seam: &WeldSeam) -> bool {
        joint.gap().iter().any(|station| (station - seam.station).abs() < 1e-6)
    }

    /// Between what a section lies.
    pub(super) fn section(&self, section: usize) -> String {
        let joints = &self.made.pipe.joints;
        let name = |at: usize| match joints.get(at) {
            Some(joint) => match joint.end {
                Some(end) => end.letter().to_string(),
                None => format!("the {}", joint.kind.word()),
            },
            None => "its end".to_owned(),
        };
        capital(&format!("{} to {}", name(section), name(section + 1)))
    }
}

/// Where a quarter of a seam is, seen from A: of a mitred one with its throat up, of any other as it lies in the car.
pub(super) const fn quarter_words(mitred: bool, quarter: usize) -> &'static str {
    match (mitred, quarter % 4) {
        (true, 0) => "throat",
        (true, 2) => "back",
        (false, 0) => "top",
        (false, 2) => "underneath",
        (_, 1) => "right",
        (_, _) => "left",
    }
}

/// Why a machine is set so.
pub(super) fn why_amps(set: &Settings, [thin, thick]: [f64; 2], own: bool) -> DualUnitText {
    DualUnitText::new(|unit| {
        let from = if own { "your coupon" } else { "the rule for its metal; prove it on a coupon" };
        if set.wanted > set.thin_alone + 0.5 {
            let more = (set.wanted / set.thin_alone - 1.0) * 100.0;
            format!(
                "{:.0} A for {} by {from}, and {more:.0} % more for {} beside it: aim at the thick side",
                set.thin_alone,
                unit.text(thin),
                unit.text(thick)
            )
        } else {
            format!("{} by {from}", unit.text(thin))
        }
    })
}

/// Where gas goes in and comes out of a section, as it lies in the car, and where air would stay.
pub(super) fn vent_words(made: &Made<'_>, pieces: &[Piece], section: usize, here: &[&WeldSeam]) -> DualUnitText {
    let pipe = &made.pipe;
    let end_name = |at: usize, other: &str| match pipe.joints[at].end {
        Some(end) => format!("the end at {}", end.letter()),
        None => format!("the end at the {}{other}", pipe.joints[at].kind.word()),
    };
    let mut openings = vec![
        (end_name(section, ""), pipe.joints[section].sides[1].0.z),
        (end_name(section + 1, ""), pipe.joints[section + 1].sides[0].0.z),
    ];
    let [from, to] = pipe.sections()[section];
    let branches = pipe.branches.iter().filter(|one| (from..=to).contains(&one.station));
    // A bung that is still to be welded in is a hole that gas comes out of.
    openings.extend(branches.map(|one| (format!("the {}", one.kind.word()), one.tip().z)));
    let by = |p: &&(String, f64), q: &&(String, f64)| p.1.total_cmp(&q.1);
    let (Some(high), Some(low)) = (openings.iter().max_by(by), openings.iter().take(2).min_by(by)) else {
        return DualUnitText::same("Gas in at one end, a small vent at the other".to_owned());
    };
    let sections = crate::fit::sections_of(pieces);
    let tops = pieces.iter().zip(&sections).filter(|(_, of)| **of == section);
    let top = tops.flat_map(|(piece, _)| &piece.solids).flat_map(|solid| [solid.from[2], solid.to[2]]);
    let top = top.fold(f64::NEG_INFINITY, f64::max);
    let pocket = top > high.1 + made.run.tube.bore();
    let others = here.iter().filter(|seam| !seam.kind.goes_round()).count();
    DualUnitText::new(|unit| {
        let mut said = format!(
            "As it lies in the car: gas in at {}, a small vent at {}, {} higher; everything else taped",
            low.0,
            high.0,
            unit.text(high.1 - low.1)
        );
        if pocket {
            said.push_str(&format!(
                ". Air stays in its hump, {} above the vent: turn it on the bench so that the vent is highest",
                unit.text(top - high.1)
            ));
        }
        if others > 0 {
            said.push_str(". Holes that are still open are taped too");
        }
        said
    })
}

/// What is done before the first arc.
pub(super) fn before(
    names: &Names<'_>,
    seams: &[WeldSeam],
    process: Process,
    inside: Option<Inside>,
) -> Vec<DualUnitText> {
    let same = |text: &str| DualUnitText::same(text.to_owned());
    let made = names.made;
    let metal = made.run.tube.material();
    let mut all = vec![
        same(
            "Tack all of it on the car, try it on with the bonnet shut and the engine rolled by hand, and mark across every seam",
        ),
        DualUnitText::new(|unit| {
            format!(
                "Bright to {} on both sides of every seam, wiped with solvent and dry, tools kept for this metal alone",
                unit.text(15.0)
            )
        }),
    ];
    if matches!(
        metal,
        Material::TitaniumGrade2 | Material::Stainless304l | Material::Stainless316l | Material::Stainless321
    ) {
        all.push(same(
            "Clean gloves from the solvent on: a fingerprint shows under a weld, and under any colour after it",
        ));
    }
    let soft = made.pipe.joints.iter().filter(|joint| joint.kind.is_soft());
    let soft: Vec<String> = soft
        .map(|joint| match joint.end {
            Some(end) => format!("the {} at {}", joint.kind.word(), end.letter()),
            None => format!("the {}", joint.kind.word()),
        })
        .collect();
    if !soft.is_empty() {
        all.push(DualUnitText::same(format!("Hoses and seals off: {}", soft.join(", "))));
    }
    if made.pipe.joints.iter().any(|joint| matches!(joint.kind, JointKind::VBand | JointKind::VBandSeal)) {
        all.push(same(
            "Clamp the halves of every V-band together, marks in line, and leave them so until they are cold",
        ));
    }
    if seams.iter().any(|seam| matches!(seam.kind, SeamKind::Bung | SeamKind::Saddle | SeamKind::Tab)) {
        all.push(same("Bungs, stubs and tabs first, while the tube is open beside them"));
    }
    let cast = [End::A, End::B].into_iter().any(|end| {
        seams.iter().any(|seam| seam.kind == SeamKind::Fitting && made.run.joint(end).kind == JointKind::Metal)
    });
    if cast && matches!(metal, Material::Aluminium6061 | Material::Aluminium6063) {
        all.push(same(
            "Where it is welded to a casting: 4047, the casting warmed to 120 \u{b0}C at most, and covered to cool slowly",
        ));
    }
    match inside {
        Some(Inside::Flux) => all.push(same("Paste flux brushed inside every seam, dry before the arc")),
        Some(Inside::Purge) => all.push(same(
            "A test bead inside, or a meter, says when the gas is good; the flow is turned down before the last seam closes",
        )),
        None => {}
    }
    match process {
        Process::Mig => all.push(DualUnitText::new(|unit| {
            format!(
                "Wire {} to {}, volts and feed by the machine\u{2019}s chart, a coupon first",
                unit.text(0.6),
                unit.text(0.8)
            )
        })),
        Process::TigFused => all.push(DualUnitText::new(|unit| {
            let gap = widest_gap(metal, process, made.run.tube.wall());
            format!("Nothing fills a gap: none above {} at any seam", unit.text(gap))
        })),
        Process::Tig => {}
    }
    match metal {
        Material::TitaniumGrade2 => all.push(DualUnitText::new(|unit| {
            format!(
                "Without a trailing shield no run longer than {}: what the cup still covers while it cools",
                unit.text(20.0)
            )
        })),
        Material::Aluminium6061 | Material::Aluminium6063 if process != Process::Mig => all.push(same(
            "Alternating current: about 65 to 70 % electrode negative and 100 to 120 Hz on thin tube, wiped and brushed again before the arc",
        )),
        _ => {}
    }
    all.push(same("The earth clamp on the pipe itself, never through a turner\u{2019}s bearing or across the car"));
    all.push(same("Starts lie between tacks, never on one; read the bottle"));
    all
}

/// What is done once all is cold.
pub(super) fn after(seams: &[WeldSeam], metal: Material) -> Vec<DualUnitText> {
    let same = |text: &str| DualUnitText::same(text.to_owned());
    let mut all = vec![same("Cold before it is let go: then try it on again, before anything is ground")];
    if seams.iter().any(|seam| seam.kind == SeamKind::Flange) {
        all.push(same("Flanges are faced flat once they are cold"));
    }
    match metal {
        Material::TitaniumGrade2 => all.push(same(
            "Silver or straw is good, blue is doubtful, grey or white is scrap: judge that before anything is coloured for looks",
        )),
        Material::Stainless304l | Material::Stainless316l | Material::Stainless321 => {
            all.push(same("Judge the weld\u{2019}s own colour before any heat colour for looks: clean, even, in passes"));
        }
        _ => {}
    }
    all.push(same("What is ground flush or polished is filled high for it"));
    all.push(same("Read the bottle again"));
    all
}
