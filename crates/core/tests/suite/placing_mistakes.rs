//! Mistakes with the big boxes, each built and each not: the numbers are those of the handbook's table.

#![allow(clippy::unwrap_used, clippy::panic, reason = "a test fails by panicking")]

use crate::demo::demo;
use crate::support::{draft, empty_job, port};
use nook_core::edit::ComponentChange;
use nook_core::findings::{Finding, FindingKind, Severity};
use nook_core::measure::{
    Bracket, BracketStock, ComponentId, Foot, FootPlace, Freedom, Holding, InstallState, KeepOutId, KeepOutKind,
    KeepOutShape, MountId, MountKind, MountPoint, Mounts, PortRef, Side, Stance, TurnRange,
};
use nook_core::stock::Material;
use nook_core::workup::bay;
use nook_core::{Edit, Job, JobEdit, MeasureEdit, PlaceEdit, apply};
use nook_geometry::units::{
    BoltSize, BossDepth, Mass, MountHeight, Name, OutsideDiameter, SheetThickness, StripWidth, TurnAngle,
};
use nook_geometry::{Direction, Point};

fn at(x: f64, y: f64, z: f64) -> Point {
    Point::new(x, y, z).unwrap()
}

fn way(x: f64, y: f64, z: f64) -> Direction {
    Direction::new(x, y, z).unwrap()
}

fn done(job: &Job, edit: impl Into<Edit>) -> Job {
    apply(job, &edit.into()).unwrap().job
}

fn with(job: &Job, name: &str, kind: KeepOutKind, rides: Side, shape: KeepOutShape) -> (Job, KeepOutId) {
    let name = Name::new(name).unwrap();
    let job = done(job, MeasureEdit::AddKeepOut { name, kind, rides, shape, big: true });
    let id = job.keep_outs().last().unwrap().id;
    (job, id)
}

fn cuboid(x: f64, y: f64, z: f64, size: [f64; 3]) -> KeepOutShape {
    KeepOutShape::Box { centre: at(x, y, z), size, heading: 0.0, pitch: 0.0, roll: 0.0 }
}

fn component(
    job: &Job,
    name: &str,
    body: Vec<KeepOutId>,
    ports: Vec<PortRef>,
    freedoms: Vec<Freedom>,
) -> (Job, ComponentId) {
    let name = Name::new(name).unwrap();
    let job = done(job, PlaceEdit::AddComponent { name, body, ports, freedoms });
    let id = job.components().last().unwrap().id;
    (job, id)
}

fn of_kind(job: &Job, kind: FindingKind) -> Vec<Finding> {
    bay(job).findings.into_iter().filter(|finding| finding.kind == kind).collect()
}

/// Every edit offered for a finding mends it, and makes nothing run into anything.
fn mends(job: &Job, finding: &Finding) {
    for remedy in &finding.remedies {
        let mended = done(job, remedy.edit.clone());
        let left = bay(&mended).findings;
        let same =
            |other: &Finding| (other.kind, other.part, other.against) == (finding.kind, finding.part, finding.against);
        assert!(!left.iter().any(same), "{} is still there after {}", finding.words.mm, remedy.label.mm);
        let fouls = |all: &[Finding]| all.iter().filter(|one| one.kind == FindingKind::ThingsFoul).count();
        assert!(fouls(&left) <= fouls(&bay(job).findings), "{}", remedy.label.mm);
    }
}

/// 3: a cooler under a bonnet, on mounts of some height.
fn cooler_under_bonnet(raised: f64) -> (Job, ComponentId) {
    let job = empty_job();
    let mut pipe =
        draft(port([0.0, 300.0, 60.0], [-1.0, 0.0, 0.0], 63.5), port([-420.0, 300.0, -300.0], [0.0, 0.0, 1.0], 63.5));
    pipe.name = Name::new("Hot side").unwrap();
    let job = done(&job, JobEdit::AddRun { run: pipe });
    let run = job.runs()[0].id;
    let (job, cooler) =
        with(&job, "charge cooler", KeepOutKind::StillMetal, Side::Body, cuboid(40.0, 0.0, 0.0, [60.0, 640.0, 120.0]));
    let bonnet =
        KeepOutShape::Plane { centre: at(-200.0, 0.0, 130.0), normal: way(0.0, 0.0, -1.0), size: [1200.0, 1200.0] };
    let (job, _) = with(&job, "closed bonnet", KeepOutKind::Bonnet, Side::Body, bonnet);
    let ports = vec![PortRef { run, end: nook_core::measure::End::A }];
    let (job, id) = component(&job, "charge cooler", vec![cooler], ports, vec![]);
    let raised = MountHeight::new(raised).ok();
    (done(&job, PlaceEdit::ChangeComponent { component: id, to: ComponentChange::Raised { raised } }), id)
}

#[test]
fn mistake_3_mounts_that_lift_a_cooler_until_its_pipe_meets_the_bonnet() {
    let (job, id) = cooler_under_bonnet(20.0);
    let found = of_kind(&job, FindingKind::LiftedByMounts);
    let pipe = found.iter().find(|one| one.words.mm.contains("Hot side")).unwrap();
    assert!(pipe.words.mm.contains("closed bonnet") && pipe.words.mm.contains("20.0 mm"), "{}", pipe.words.mm);
    // The skin was 38 under the bonnet, the coupler and its clamps nearer: low mounts leave their 12.
    assert_eq!(pipe.remedies.len(), 1, "{pipe:?}");
    mends(&job, pipe);
    let (low, _) = cooler_under_bonnet(2.0);
    assert_eq!(of_kind(&low, FindingKind::LiftedByMounts), []);
    // Without any height the same place is nobody's fault but the bonnet's.
    let level = done(&job, PlaceEdit::ChangeComponent { component: id, to: ComponentChange::Raised { raised: None } });
    assert_eq!(of_kind(&level, FindingKind::LiftedByMounts), []);
}

/// 7: a radiator before a pulley that rolls with the engine, leaned back by some degrees about its lower edge.
fn leaned(degrees: f64) -> Job {
    let job = empty_job();
    let (job, radiator) =
        with(&job, "radiator", KeepOutKind::StillMetal, Side::Body, cuboid(600.0, 0.0, 100.0, [40.0, 600.0, 400.0]));
    let pulley = KeepOutShape::Cylinder {
        from: at(440.0, 0.0, 250.0),
        to: at(500.0, 0.0, 250.0),
        diameter: OutsideDiameter::new(120.0).unwrap(),
    };
    let (job, _) = with(&job, "crank pulley", KeepOutKind::BeltOrPulley, Side::Engine, pulley);
    let mounts = Some(Mounts {
        kind: MountKind::Soft,
        from: at(-400.0, 0.0, 0.0),
        to: at(0.0, 0.0, 0.0),
        roll: None,
        overrun: None,
        crank: None,
        shift: None,
    });
    let job = done(&job, MeasureEdit::SetMounts { mounts });
    let turn = |degrees: f64| TurnAngle::new(degrees).unwrap();
    // Right-handed about the car's left drops the nose: leaning back is below zero.
    let lean = Freedom::Turn {
        pivot: at(600.0, 0.0, -100.0),
        axis: way(0.0, 1.0, 0.0),
        range: TurnRange::Freely { from: turn(-20.0), to: turn(5.0) },
        turned: turn(-degrees),
    };
    component(&job, "radiator", vec![radiator], vec![], vec![lean]).0
}

#[test]
fn mistake_7_a_radiator_leaned_back_until_it_meets_a_pulley() {
    for (degrees, kind) in [(4.0, None), (8.0, Some(FindingKind::ThingsTooNear)), (16.0, Some(FindingKind::ThingsFoul))]
    {
        let job = leaned(degrees);
        let found: Vec<Finding> =
            bay(&job).findings.into_iter().filter(|one| one.words.mm.contains("crank pulley")).collect();
        assert_eq!(found.first().map(|one| one.kind), kind, "{degrees}: {found:?}");
        for finding in &found {
            assert!(finding.words.mm.starts_with("Radiator"), "what can be moved is named first");
            assert!(
                finding.remedies.iter().any(|one| one.label.mm.starts_with("Lean the radiator")),
                "{:?}",
                finding.remedies
            );
            mends(&job, finding);
        }
    }
}

/// 23: a heat shield, planned, beside a solenoid on the same engine, some mm off.
fn shield_beside_solenoid(gap: f64, standing: InstallState) -> Job {
    let (job, _) = with(
        &empty_job(),
        "starter solenoid",
        KeepOutKind::LiveTerminal,
        Side::Engine,
        cuboid(0.0, 0.0, 0.0, [60.0, 60.0, 60.0]),
    );
    let shield = KeepOutShape::Sheet {
        corners: vec![
            at(-60.0, 30.0 + gap, -80.0),
            at(60.0, 30.0 + gap, -80.0),
            at(60.0, 30.0 + gap, 80.0),
            at(-60.0, 30.0 + gap, 80.0),
        ],
    };
    let (job, shield) = with(&job, "heat shield", KeepOutKind::StillMetal, Side::Engine, shield);
    let of = nook_core::measure::Measurand::KeepOut { keep_out: shield };
    done(&job, MeasureEdit::SetStanding { of, standing })
}

#[test]
fn mistake_23_a_shield_that_fouls_a_solenoid_though_no_pipe_is_near() {
    let near = |gap, standing| {
        let job = shield_beside_solenoid(gap, standing);
        bay(&job)
            .findings
            .into_iter()
            .find(|one| one.against.is_some())
            .map(|one| (one.kind, one.severity, one.value.unwrap()))
    };
    let (kind, severity, gap) = near(8.0, InstallState::OnOrder).unwrap();
    assert_eq!((kind, severity), (FindingKind::ThingsTooNear, Severity::Warning));
    assert!((gap - 8.0).abs() < 0.06);
    assert_eq!(near(-3.0, InstallState::OnOrder).unwrap().0, FindingKind::ThingsFoul);
    // In place and still to each other the car itself shows it: it is asked for once, not forgotten.
    assert_eq!(near(8.0, InstallState::InPlace).unwrap().0, FindingKind::ThingsAsMeasured);
    assert_eq!(near(26.0, InstallState::OnOrder), None);
    let job = shield_beside_solenoid(8.0, InstallState::InPlace);
    let asked = of_kind(&job, FindingKind::ThingsAsMeasured);
    let said = done(&job, asked[0].remedies[0].edit.clone());
    assert_eq!(of_kind(&said, FindingKind::ThingsAsMeasured), []);
    // That excuses this pair and no other.
    let (more, _) =
        with(&said, "bracket", KeepOutKind::StillMetal, Side::Engine, cuboid(0.0, 0.0, 35.0, [20.0, 20.0, 20.0]));
    assert_eq!(of_kind(&more, FindingKind::ThingsAsMeasured).len(), 1);
}

/// 27: a cooler ahead of the wheels with its underside at some height over the ground.
fn cooler_over_ground(underside: f64) -> Job {
    let (job, cooler) = with(
        &empty_job(),
        "charge cooler",
        KeepOutKind::StillMetal,
        Side::Body,
        cuboid(800.0, 0.0, underside + 100.0, [60.0, 600.0, 200.0]),
    );
    let freedom = Freedom::Slide {
        along: way(0.0, 0.0, 1.0),
        from: nook_geometry::units::Slide::new(0.0).unwrap(),
        to: nook_geometry::units::Slide::new(150.0).unwrap(),
        slid: nook_geometry::units::Slide::new(0.0).unwrap(),
    };
    let (job, _) = component(&job, "charge cooler", vec![cooler], vec![], vec![freedom]);
    let stance = Some(Stance { front: at(0.0, 0.0, 0.0), rear: at(-2500.0, 0.0, 0.0), travel: None, ramp: None });
    done(&job, PlaceEdit::SetStance { stance })
}

#[test]
fn mistake_27_a_cooler_that_scrapes_on_a_ramp_or_at_full_bump() {
    // Its front lower edge is 830 ahead of the tyres: a ramp of 9.5 degrees is 138.9 high there.
    let steep = 830.0 * 9.5_f64.to_radians().tan();
    for (underside, scrapes) in [(60.0, true), (steep - 1.0, true), (steep + 1.0, false), (200.0, false)] {
        let job = cooler_over_ground(underside);
        let found = of_kind(&job, FindingKind::Scrapes);
        assert_eq!(found.len(), usize::from(scrapes), "{underside}: {found:?}");
        for finding in &found {
            assert!(!finding.remedies.is_empty(), "{}", finding.words.mm);
            mends(&job, finding);
        }
    }
    // 70 over the ground leaves 10 at full bump, of 12; that is told before the ramp.
    assert!(of_kind(&cooler_over_ground(70.0), FindingKind::Scrapes)[0].words.mm.contains("full bump"));
    let nobody = done(&cooler_over_ground(60.0), PlaceEdit::SetStance { stance: None });
    assert_eq!(of_kind(&nobody, FindingKind::Scrapes), []);
}

/// 28: a cooler of 6 kg held by two upright strips from below, each by so many bolts, of some thickness.
fn on_two_strips(thick: f64, second: bool) -> Job {
    let (job, cooler) = with(
        &empty_job(),
        "charge cooler",
        KeepOutKind::StillMetal,
        Side::Body,
        cuboid(0.0, 0.0, 200.0, [60.0, 600.0, 200.0]),
    );
    let (mut job, id) = component(&job, "charge cooler", vec![cooler], vec![], vec![]);
    job = done(
        &job,
        PlaceEdit::ChangeComponent { component: id, to: ComponentChange::Mass { mass: Mass::new(6.0).ok() } },
    );
    for y in [-250.0, 250.0] {
        let sheet = |mm| SheetThickness::new(mm).unwrap();
        let stock = BracketStock::Strip {
            width: StripWidth::new(40.0).unwrap(),
            thickness: sheet(thick),
            radius: sheet(thick),
        };
        let foot = Foot {
            at: FootPlace::Drilled { at: at(-30.0, y, -20.0) },
            out: way(-1.0, 0.0, 0.0),
            bolt: BoltSize::new(8.0).unwrap(),
        };
        let held = Some(Holding::Bracket {
            bracket: Bracket { foot, stock, material: Material::MildSteel, second_bolt: [second; 2] },
        });
        let mount = MountPoint {
            id: MountId(0),
            name: Name::new("foot").unwrap(),
            at: at(-30.0, y, 130.0),
            out: way(-1.0, 0.0, 0.0),
            bolt: BoltSize::new(8.0).unwrap(),
            boss: BossDepth::new(16.0).ok(),
            rubber: None,
            held,
        };
        job = done(&job, PlaceEdit::AddMount { component: id, mount });
    }
    job
}

#[test]
fn mistake_28_a_mount_that_sways() {
    let loose = on_two_strips(3.0, false);
    let found = of_kind(&loose, FindingKind::Sways);
    assert_eq!(found[0].value, Some(0.0), "{found:?}");
    assert!(found[0].words.mm.contains("Nothing but friction"), "{}", found[0].words.mm);
    let bolted = on_two_strips(3.0, true);
    let sways = of_kind(&bolted, FindingKind::Sways);
    assert!(
        sways[0].words.mm.contains("forward and back"),
        "thin strips bend where they are thin: {}",
        sways[0].words.mm
    );
    assert!((1.0..20.0).contains(&sways[0].value.unwrap()));
    assert_eq!(sways[0].remedies.len(), 1);
    mends(&bolted, &sways[0]);
    assert_eq!(of_kind(&on_two_strips(12.0, true), FindingKind::Sways), []);
}

#[test]
fn every_remedy_in_the_demo_s_bay_mends() {
    let job = demo();
    for finding in bay(&job).findings.iter().filter(|one| !one.remedies.is_empty()) {
        mends(&job, finding);
    }
}
