//! Every kind of finding: what brings it about, that it says how much against which limit, and that its remedies work.

#![allow(
    clippy::unwrap_used,
    clippy::expect_used,
    clippy::panic,
    clippy::float_cmp,
    reason = "a test fails by panicking, and compares what must be the same to the bit"
)]

use crate::support::by_place::{bend, change, kind, leg, pies};
use crate::support::{draft, job_with, port, tube};
use nook_core::PartRef;
use nook_core::edit::JointChange;
use nook_core::findings::{Finding, FindingKind, Severity};
use nook_core::join::JointKind;
use nook_core::measure::{End, EndForm, Port};
use nook_core::route::{BendId, Centreline, LegId, PieEnds, Route, Target};
use nook_core::stock::Material;
use nook_core::{CutEdit, Edit, Job, MeasureEdit, RouteEdit, RunId, SpecEdit, apply, workup};
use nook_geometry::units::{BendRadius, Gap, Lead, OutsideDiameter, Straight};

fn a() -> Port {
    port([0.0; 3], [1.0, 0.0, 0.0], 63.5)
}

fn two_bends() -> (Job, RunId) {
    job_with(draft(a(), port([520.0, 260.0, 310.0], [0.0, 0.1, -1.0], 63.5)))
}

/// Axes that meet at right angles, with room for one bend.
fn one_bend() -> (Job, RunId) {
    let (job, run) = job_with(draft(a(), port([400.0, 300.0, 0.0], [0.0, -1.0, 0.0], 63.5)));
    (apply(&job, &Edit::Route(RouteEdit::TakeWay { run, way: Route::along(Centreline::OneBend) })).unwrap().job, run)
}

fn findings(job: &Job, run: RunId) -> Vec<Finding> {
    workup(job, run).unwrap().findings
}

/// The finding at `place` after `edit`, checked: it says `says`, and each remedy removes it.
#[track_caller]
fn found(job: &Job, run: RunId, edit: &Edit, place: PartRef, severity: Severity, says: &str) -> Finding {
    let spoilt = apply(job, edit).unwrap().job;
    let all = findings(&spoilt, run);
    let finding = all.iter().find(|finding| finding.part == place && finding.words.mm.contains(says));
    let finding = finding.unwrap_or_else(|| panic!("nothing at {place:?} says {says:?}: {all:#?}")).clone();
    assert_eq!(finding.severity, severity);
    for remedy in &finding.remedies {
        let mended = apply(&spoilt, &remedy.edit).unwrap().job;
        assert!(!findings(&mended, run).iter().any(|left| left.words == finding.words), "{}", remedy.label.mm);
    }
    finding
}

#[test]
fn a_sound_pipe_has_nothing_to_say() {
    for (job, run) in [two_bends(), one_bend()] {
        // But for a note of what is to be done first.
        let all = findings(&job, run);
        assert!(all.iter().all(|one| one.kind == FindingKind::BeadFirst && one.severity == Severity::Info), "{all:?}");
    }
}

#[test]
fn bends_that_overlap_cannot_be() {
    let (job, run) = two_bends();
    let close = Centreline::Vertices {
        lead_a: Lead::new(30.0).unwrap(),
        between: Vec::new(),
        lead_b: Lead::new(180.0).unwrap(),
    };
    let edit = Edit::Route(RouteEdit::TakeWay { run, way: Route::along(close) });
    let place = PartRef::Straight { run, straight: LegId::FROM_A };
    let finding = found(&job, run, &edit, place, Severity::Error, "the bends overlap by");
    assert!(!finding.remedies.is_empty());
    let spoilt = workup(&apply(&job, &edit).unwrap().job, run).unwrap();
    assert_eq!(spoilt.cutting, None, "what cannot be built has no cut list");
}

#[test]
fn bends_too_close_to_weld_are_tight() {
    // An offset of 90 mm between mouths that face each other: steeper bends bring the seams together.
    let (job, run) = job_with(draft(a(), port([460.0, 90.0, 0.0], [-1.0, 0.0, 0.0], 63.5)));
    let target = Target::Straight { straight: leg(&job, run, 1), length: Straight::new(4.0).unwrap() };
    let edit = Edit::Route(RouteEdit::shaped(run, target));
    let finding = found(
        &job,
        run,
        &edit,
        PartRef::Straight { run, straight: leg(&job, run, 1) },
        Severity::Warning,
        "4.0 mm between two bends; 10.0 mm wanted",
    );
    assert!(finding.remedies.iter().any(|remedy| remedy.label.mm == "Make straight 2 10.0 mm long"));
}

#[test]
fn thin_throats_are_mended_by_fewer_seams_or_a_wider_bend() {
    let (job, run) = two_bends();
    let edit = pies(&job, run, 0, Some(20), PieEnds::Mitred);
    let finding = found(
        &job,
        run,
        &edit,
        PartRef::Bend { run, bend: bend(&job, run, 0) },
        Severity::Warning,
        "with 20 seams; 6.0 mm wanted",
    );
    assert!(finding.remedies[0].label.mm.starts_with("Use "), "{finding:?}");
}

#[test]
fn a_radius_inside_the_tube_cannot_be() {
    let (job, run) = two_bends();
    let radius = Some(BendRadius::new(25.0).unwrap());
    let seams = pies(&job, run, 0, Some(4), PieEnds::Mitred);
    let job = apply(&job, &seams).unwrap().job;
    let edit = Edit::Route(RouteEdit::SetBendRadius { run, bend: bend(&job, run, 0), radius });
    found(&job, run, &edit, PartRef::Bend { run, bend: bend(&job, run, 0) }, Severity::Error, "under half the tube");
}

#[test]
fn a_drawn_bend_tighter_than_thin_tube_takes_is_opened_or_sawn() {
    let (job, run) = job_with(draft(
        Port { od: OutsideDiameter::new(12.7).unwrap(), ..a() },
        port([520.0, 260.0, 310.0], [0.0, 0.1, -1.0], 12.7),
    ));
    let job = apply(&job, &Edit::Spec(SpecEdit::SetTube { run, tube: tube(12.7, 1.0) })).unwrap().job;
    let first = bend(&job, run, 0);
    let place = PartRef::Bend { run, bend: first };
    let at = |radius: f64| {
        Edit::Route(RouteEdit::SetBendRadius { run, bend: first, radius: Some(BendRadius::new(radius).unwrap()) })
    };
    let finding =
        found(&job, run, &at(15.0), place, Severity::Warning, "drawn at 15.0 mm radius; 19.0 mm is the least");
    let labels: Vec<_> = finding.remedies.iter().map(|remedy| remedy.label.mm.as_str()).collect();
    assert_eq!(labels, ["Open bend 1 to 19.5 mm radius", "Saw it as pies"]);
    assert_eq!((finding.value, finding.limit), (Some(15.0), Some(12.7 * 1.5)));
    found(&job, run, &at(6.0), place, Severity::Error, "under half the tube");
    let kind = |radius| {
        let job = apply(&job, &at(radius)).unwrap().job;
        findings(&job, run).iter().any(|finding| finding.kind == FindingKind::TightBend)
    };
    assert!(kind(19.04) && !kind(19.05));
}

#[test]
fn a_single_mitre_beyond_what_saws_do_gets_a_second_seam() {
    let (job, run) = job_with(draft(a(), port([500.0, -100.0, 300.0], [0.5, 0.0, -0.8], 63.5)));
    let bends = workup(&job, run).unwrap().bends;
    let sharp = bends.iter().position(|bend| bend.angle > 90.0).expect("one bend turns more than a right angle");
    let edit = pies(&job, run, sharp, Some(1), PieEnds::Mitred);
    let finding = found(
        &job,
        run,
        &edit,
        PartRef::Bend { run, bend: bend(&job, run, sharp) },
        Severity::Error,
        "45\u{b0} is the most a saw does",
    );
    assert_eq!(finding.remedies[0].label.mm, "Use two seams");
}

#[test]
fn a_hose_on_a_flange_cannot_be() {
    let (job, run) = two_bends();
    let flanged = Port { form: EndForm::Flanged, ..a() };
    let edit = Edit::Measure(MeasureEdit::SetPort { run, end: End::A, port: flanged });
    let place = PartRef::End { run, end: End::A };
    let finding = found(&job, run, &edit, place, Severity::Error, "cannot be clamped on a flanged port");
    assert_eq!(finding.remedies[0].edit, kind(&job, run, End::A, JointKind::Metal));
}

/// Aluminium is not welded to steel, whatever filler; a joint in two halves has one of each.
#[test]
fn two_metals_are_clamped_and_never_fused() {
    let (job, run) = two_bends();
    let of = |metal: Material, joint: JointKind| {
        let port = Port { form: EndForm::Plain, metal: Some(metal), ..a() };
        let edits =
            vec![Edit::Measure(MeasureEdit::SetPort { run, end: End::A, port }), kind(&job, run, End::A, joint)];
        apply(&job, &Edit::Together { edits }).unwrap().job
    };
    let told = |job: &Job| workup(job, run).unwrap();
    let fused = |job: &Job| told(job).findings.into_iter().find(|one| one.kind == FindingKind::TwoMetals);
    // The tube is stainless.
    for (metal, joint, wrong) in [
        (Material::Aluminium6061, JointKind::Metal, true),
        (Material::TitaniumGrade2, JointKind::Metal, true),
        (Material::Silicone, JointKind::Metal, true),
        (Material::MildSteel, JointKind::Metal, false),
        (Material::Stainless321, JointKind::Metal, false),
        (Material::Aluminium6061, JointKind::VBand, false),
        (Material::Aluminium6061, JointKind::Coupler, false),
    ] {
        let finding = fused(&of(metal, joint));
        assert_eq!(finding.is_some(), wrong, "{metal:?} {joint:?}");
        let Some(finding) = finding else { continue };
        assert!(!finding.remedies.is_empty());
        for remedy in finding.remedies {
            let mended = apply(&of(metal, joint), &remedy.edit).unwrap().job;
            assert!(fused(&mended).is_none());
            let half = told(&mended).ends[0].figures.as_ref().and_then(|figures| figures.port_half);
            assert_eq!(half, Some(metal.name()), "the half on the port is of the port's metal");
        }
    }
}

#[test]
fn a_wide_gap_under_boost_is_closed() {
    let (job, run) = two_bends();
    let edit = change(&job, run, End::B, JointChange::Gap { gap: Gap::new(40.0).ok() });
    // 63.5 by 1.5 mm tube has a bore of 60.5, half of which is 30.25.
    let place = PartRef::End { run, end: End::B };
    let finding =
        found(&job, run, &edit, place, Severity::Warning, "40.0 mm gap inside a hose under boost; 30.3 mm is the most");
    assert_eq!(finding.remedies[0].label.mm, "Close the gap to 30.0 mm");
    assert_eq!(finding.remedies[0].label.inch, "Close the gap to 1.181 in");
}

#[test]
fn a_reducer_between_like_sizes_is_a_note() {
    let (job, run) = two_bends();
    let edit = kind(&job, run, End::A, JointKind::Reducer);
    found(&job, run, &edit, PartRef::End { run, end: End::A }, Severity::Info, "a plain coupler does");
}

#[test]
fn square_ends_with_a_step_are_a_note() {
    let (job, run) = two_bends();
    let few = pies(&job, run, 0, Some(1), PieEnds::Mitred);
    let job = apply(&job, &few).unwrap().job;
    let edit = pies(&job, run, 0, Some(1), PieEnds::Square);
    found(&job, run, &edit, PartRef::Bend { run, bend: bend(&job, run, 0) }, Severity::Info, "square pie ends stand");
}

#[test]
fn one_bend_whose_port_moves_off_no_longer_joins_and_says_by_how_much() {
    let (job, run) = one_bend();
    let off = nook_geometry::Point::new(400.0, 300.0, 12.5).unwrap();
    let edit = Edit::Measure(MeasureEdit::MovePort { run, end: End::B, at: off });
    let finding = found(&job, run, &edit, PartRef::Run { run }, Severity::Error, "pass 12.500 mm from each other");
    let labels: Vec<&str> = finding.remedies.iter().map(|remedy| remedy.label.mm.as_str()).collect();
    assert!(labels.iter().any(|label| label.starts_with("Take the best way")), "{labels:?}");
    assert!(labels.contains(&"Move B by 12.5 mm so that one bend does it"), "{labels:?}");
}

#[test]
fn what_one_bend_cannot_do_is_refused_with_its_reason() {
    let (job, run) = one_bend();
    let target = Target::Straight { straight: LegId::FROM_A, length: Straight::new(100.0).unwrap() };
    let refused = apply(&job, &Edit::Route(RouteEdit::shaped(run, target))).unwrap_err().to_string();
    assert!(refused.contains("fewer than two bends"), "{refused}");
    let missing = Target::Straight { straight: LegId(900), length: Straight::new(100.0).unwrap() };
    let refused = apply(&job, &Edit::Route(RouteEdit::shaped(run, missing))).unwrap_err().to_string();
    assert!(refused.contains("no such straight"), "{refused}");
}

#[test]
fn a_length_out_of_reach_is_refused_with_the_nearest() {
    let (job, run) = two_bends();
    // The ports' axes pass 260 mm from each other, so the middle straight cannot be next to nothing.
    let target = Target::Straight { straight: leg(&job, run, 1), length: Straight::new(4.0).unwrap() };
    let refused = apply(&job, &Edit::Route(RouteEdit::shaped(run, target))).unwrap_err().to_string();
    assert!(refused.contains("nearest found is"), "{refused}");
    let same =
        apply(&job, &Edit::Cut(CutEdit::SetMake { run, bend: BendId(900), make: None })).unwrap_err().to_string();
    assert_eq!(same, "this way has no bend of number 900; it may have been taken out");
}

/// Two bends of 90 that meet in one plane are a bend of 180, which no vertex can say; a little straight between, or another
/// plane, is still too short to weld.
#[test]
fn two_bends_of_90_that_meet_are_one_of_180() {
    let radius = 95.25;
    let (job, run) = job_with(draft(a(), port([0.0, 2.0 * radius, 0.0], [1.0, 0.0, 0.0], 63.5)));
    let lead = |mm: f64| Lead::new(mm).unwrap();
    let way = |lead_b: f64| {
        Route::along(Centreline::Vertices { lead_a: lead(250.0), between: Vec::new(), lead_b: lead(lead_b) })
    };
    let back = apply(&job, &Edit::Route(RouteEdit::TakeWay { run, way: way(250.0) })).unwrap().job;
    let told = workup(&back, run).unwrap();
    assert!(told.findings.is_empty(), "{:?}", told.findings);
    assert_eq!(told.bends.iter().map(|bend| bend.angle.round()).collect::<Vec<_>>(), [90.0, 90.0]);
    assert!(told.straights[1].length.mm().abs() < 1e-6 && told.cutting.is_some());
}

#[test]
fn a_pipe_that_crosses_itself_cannot_be() {
    // Once round to the right and back over its own first straight: B is reached from the far side of A's axis.
    let (job, run) = job_with(draft(a(), port([300.0, -400.0, 20.0], [0.0, 1.0, 0.0], 63.5)));
    let point = |x: f64, y: f64, z: f64| nook_geometry::Point::new(x, y, z).unwrap();
    let lead = |mm: f64| Lead::new(mm).unwrap();
    let course = |height: f64| Centreline::Vertices {
        lead_a: lead(700.0),
        between: vec![point(700.0, 400.0, height)],
        lead_b: lead(800.0),
    };
    let edit = Edit::Route(RouteEdit::TakeWay { run, way: Route::along(course(20.0)) });
    let crossing = found(
        &job,
        run,
        &edit,
        PartRef::Straight { run, straight: LegId::FROM_A },
        Severity::Error,
        "same pipe's straight 4",
    );
    assert!(crossing.words.mm.contains("43.5 mm into"), "{}", crossing.words.mm);
}

/// Metal at both ends, one of them on the engine, is a fault; a hose whose gap the engine outruns is told as well.
#[test]
fn joints_that_do_not_take_the_engines_movement_are_told() {
    use nook_core::measure::{MountKind, Mounts, Side};
    use nook_geometry::Point;
    let (job, run) = two_bends();
    let mut engine = a();
    engine.rides = Side::Engine;
    let mut job = apply(&job, &Edit::Measure(MeasureEdit::SetPort { run, end: End::A, port: engine })).unwrap().job;
    let at = |x: f64| Point::new(x, -200.0, -300.0).unwrap();
    let mounts = |stiff| Mounts {
        kind: stiff,
        from: at(-200.0),
        to: at(400.0),
        roll: None,
        overrun: None,
        crank: None,
        shift: None,
    };
    let soft = Edit::Measure(MeasureEdit::SetMounts { mounts: Some(mounts(MountKind::Soft)) });
    // 4 degrees at 361 mm are 25.2 mm, and 6 mm of shift: far more than two couplers give.
    let place = PartRef::End { run, end: End::A };
    let wide = found(&job, run, &soft, place, Severity::Error, "the coupler gives");
    assert_eq!(wide.step, nook_core::WorkStep::Join);
    assert!(wide.value.unwrap() > wide.limit.unwrap());
    for end in [End::A, End::B] {
        job = apply(&job, &kind(&job, run, end, JointKind::Metal)).unwrap().job;
    }
    let stiff = found(&job, run, &soft, place, Severity::Error, "gives nowhere");
    assert!(!stiff.remedies.is_empty(), "something that gives, somewhere");
    // Solid mounts make it a warning, and so does not knowing.
    let solid = Edit::Measure(MeasureEdit::SetMounts { mounts: Some(mounts(MountKind::Solid)) });
    found(&job, run, &solid, place, Severity::Warning, "gives nowhere");
    let unknown = Edit::Measure(MeasureEdit::SetMounts { mounts: None });
    found(&job, run, &unknown, place, Severity::Warning, "nobody has said yet");
}
