//! What the product calls clear, sampled densely by somebody who trusts nothing: in random bays with scans, a rolling
//! engine, lids, leaning boxes, neighbours, and mouths that stand on things.

#![allow(clippy::unwrap_used, clippy::panic, clippy::print_stdout, reason = "a test fails by panicking")]

use crate::support::by_place;
use std::sync::Arc;
use std::sync::atomic::AtomicBool;

use crate::crowded::{Filling, P3, Solid, V3, crowded, job_of};
use crate::sampler::{Line, Moves, sample, sample_itself, things};
use nook_core::edit::{JointChange, KeepOutChange};
use nook_core::findings::{FindingKind, Severity};
use nook_core::join::{JointKind, SupportKind};
use nook_core::measure::{
    CrankTurn, End, EndForm, InstallState, KeepOutKind, KeepOutShape, MatchedTo, MountKind, Mounts, Port, ScanUnit,
    Side, Swing,
};
use nook_core::route::{AlongAnchor, Centreline, LegEnd, Route, RunDraft, StubEnds, SupportDraft};
use nook_core::stock::{Duty, Material, Tube};
use nook_core::workup::JointWorkup;
use nook_core::{
    Applied, Edit, Job, JobEdit, JoinEdit, MeasureEdit, RouteEdit, RunId, Scans, Workup, apply, workup_among,
};
use nook_geometry::units::{AlongLeg, Gap, Name, OutsideDiameter, TurnAngle, Wall};
use nook_geometry::{Direction, Mesh, Point};
use nook_search::search;
use rand::rngs::StdRng;
use rand::{RngExt, SeedableRng};

/// What sampling may find below the gap: the product proves its own to half of it, and the sample's grid adds nothing.
const HOLDS: f64 = 0.1;

struct Bay {
    job: Job,
    run: RunId,
    scans: Scans,
    triangles: Vec<[P3; 3]>,
}

fn name(text: &str) -> Name {
    Name::new(text).unwrap()
}

fn point(at: P3) -> Point {
    Point::try_from([at.x, at.y, at.z]).unwrap()
}

fn any_way(random: &mut StdRng) -> V3 {
    V3::new(random.random_range(-1.0..1.0), random.random_range(-1.0..1.0), random.random_range(-0.7..0.7)).normalize()
}

/// A box behind a mouth, its face in the mouth's plane or some mm off it, as wide as a flange or much wider.
fn footing(random: &mut StdRng, mouth: P3, out: V3, od: f64) -> Solid {
    let deep = random.random_range(20.0..120.0);
    let off = [0.0, 1.0, 2.0, 6.0, 20.0][random.random_range(0..5_usize)];
    let (heading, pitch) = (out.y.atan2(out.x).to_degrees(), out.z.clamp(-1.0, 1.0).asin().to_degrees());
    let wide = od * random.random_range(0.6..2.5);
    let half = V3::new(deep / 2.0, wide, wide * random.random_range(0.6..1.4));
    Solid::Block { centre: mouth - out * (deep / 2.0 + off), half, heading, pitch, roll: 0.0 }
}

/// A random bay in which nothing is promised to fit.
fn bay(seed: u64) -> Bay {
    let mut random = StdRng::seed_from_u64(seed);
    let od = [38.1, 50.8, 63.5][random.random_range(0..3_usize)];
    let (out_a, out_b) = (any_way(&mut random), any_way(&mut random));
    let b = P3::origin() + any_way(&mut random) * random.random_range(380.0..700.0);
    let mut solids = vec![footing(&mut random, P3::origin(), out_a, od), footing(&mut random, b, out_b, od)];
    let free = |solid: &Solid, mouth: P3, out: V3| {
        (0..8).all(|k| solid.distance(&(mouth + out * (15.0 * f64::from(k)))) > od / 2.0 + 13.0)
    };
    while solids.len() < 16 {
        let centre = P3::from(b.coords * random.random_range(-0.2..1.2))
            + any_way(&mut random) * random.random_range(60.0..330.0);
        let solid = Solid::any(&mut random, centre);
        if free(&solid, P3::origin(), out_a) && free(&solid, b, out_b) {
            solids.push(solid);
        }
    }
    let (mut job, run) = job_of(od, out_a, b, out_b, &solids);
    // Half of what there is rides on the engine; a lid opens; A is on the engine as often as not, with hoses or without.
    let ids: Vec<_> = job.keep_outs().iter().map(|keep_out| keep_out.id).collect();
    let a_side = if random.random_range(0..2) == 0 { Side::Engine } else { Side::Body };
    for (index, keep_out) in ids.into_iter().enumerate() {
        let rides = match index {
            0 => a_side,
            1 => Side::Body,
            _ if random.random_range(0..2) == 0 => Side::Engine,
            _ => Side::Body,
        };
        job = apply(&job, &Edit::Measure(MeasureEdit::ChangeKeepOut { keep_out, to: KeepOutChange::Rides { rides } }))
            .unwrap()
            .job;
        if index == 5 || index == 9 {
            let pivot = point(P3::from(b.coords * 0.5) + any_way(&mut random) * 250.0);
            let axis = Direction::of(any_way(&mut random)).unwrap();
            let angle = |degrees: f64| TurnAngle::new(degrees).unwrap();
            let swing = Some(Swing { pivot, axis, from: angle(0.0), to: angle(random.random_range(10.0..60.0)) });
            job = apply(
                &job,
                &Edit::Measure(MeasureEdit::ChangeKeepOut { keep_out, to: KeepOutChange::Swing { swing } }),
            )
            .unwrap()
            .job;
        }
    }
    let mut port = job.run(run).unwrap().a.clone();
    port.rides = a_side;
    job = apply(&job, &Edit::Measure(MeasureEdit::SetPort { run, end: End::A, port })).unwrap().job;
    let kinds = [JointKind::Metal, JointKind::Coupler];
    for end in [End::A, End::B] {
        let kind = kinds[random.random_range(0..2_usize)];
        job = apply(&job, &by_place::kind(&job, run, end, kind)).unwrap().job;
    }
    let axis = any_way(&mut random);
    let from = P3::from(b.coords * 0.4) + any_way(&mut random) * 200.0;
    let crank = [None, Some(CrankTurn::Clockwise), Some(CrankTurn::Anticlockwise)][random.random_range(0..3_usize)];
    let (from, to) = (point(from), point(from + axis * 400.0));
    let mounts = Mounts { kind: MountKind::Firm, from, to, roll: None, overrun: None, crank, shift: None };
    job = apply(&job, &Edit::Measure(MeasureEdit::SetMounts { mounts: Some(mounts) })).unwrap().job;
    job = with_neighbour(&mut random, &job, b, out_a);
    let (job, scans, triangles) = with_scan(&mut random, &job, b);
    Bay { job, run, scans, triangles }
}

/// Another pipe beside, straight, from engine to body by two hoses or on the engine.
fn with_neighbour(random: &mut StdRng, job: &Job, b: P3, out_a: V3) -> Job {
    let along = any_way(random);
    let middle = P3::from(b.coords * 0.5) + out_a * 60.0 + any_way(random) * random.random_range(90.0..200.0);
    let mouth = |at: P3, out: V3, rides: Side| Port {
        name: "mouth".to_owned(),
        at: point(at),
        out: Direction::of(out).unwrap(),
        od: OutsideDiameter::new(38.1).unwrap(),
        form: EndForm::Plain,
        rides,
        metal: None,
        neck: None,
        standing: InstallState::InPlace,
        readings: Vec::new(),
    };
    let far = if random.random_range(0..2) == 0 { Side::Engine } else { Side::Body };
    let tube =
        Tube::new(Material::Aluminium6061, OutsideDiameter::new(38.1).unwrap(), Wall::new(1.6).unwrap()).unwrap();
    let draft = RunDraft {
        name: name("neighbour"),
        duty: Duty::Coolant,
        tube,
        hose: None,
        radius: None,
        a: mouth(middle - along * 150.0, along, Side::Engine),
        b: mouth(middle + along * 150.0, -along, far),
        stubs: StubEnds::default(),
    };
    let job = apply(job, &Edit::Job(JobEdit::AddRun { run: draft })).unwrap().job;
    let run = job.runs().last().unwrap().id;
    apply(&job, &Edit::Route(RouteEdit::TakeWay { run, way: Route::along(Centreline::Straight) }))
        .map_or(job, |applied| applied.job)
}

/// A scan of two lumps, one of which may be near a mouth.
fn with_scan(random: &mut StdRng, job: &Job, b: P3) -> (Job, Scans, Vec<[P3; 3]>) {
    let (mut vertices, mut triangles) = (Vec::new(), Vec::new());
    for _ in 0..2 {
        let at =
            P3::from(b.coords * random.random_range(0.2..0.8)) + any_way(random) * random.random_range(40.0..260.0);
        let half =
            V3::new(random.random_range(15.0..70.0), random.random_range(15.0..70.0), random.random_range(15.0..70.0));
        let first = u32::try_from(vertices.len()).unwrap();
        vertices.extend((0..8).map(|k| [0, 1, 2].map(|i| at[i] + if k >> i & 1 == 0 { -half[i] } else { half[i] })));
        let faces = [[0, 2, 3, 1], [4, 5, 7, 6], [0, 1, 5, 4], [2, 6, 7, 3], [0, 4, 6, 2], [1, 3, 7, 5]];
        let corners = faces.iter().flat_map(|[a, b, c, d]| [[*a, *b, *c], [*a, *c, *d]]);
        triangles.extend(corners.map(|t: [u32; 3]| t.map(|i| i + first)));
    }
    let solid: Vec<[P3; 3]> =
        triangles.iter().map(|t| t.map(|i| P3::from(vertices[usize::try_from(i).unwrap()]))).collect();
    let id = nook_core::measure::ScanId::try_from("ab".repeat(32)).unwrap();
    let matched = [[0.0; 3], [100.0, 0.0, 0.0], [0.0, 100.0, 0.0]]
        .map(|at| nook_core::measure::Matched { scan: at, to: MatchedTo::Point { at: Point::try_from(at).unwrap() } });
    let scan = nook_core::measure::Scan { scan: id.clone(), unit: ScanUnit::Mm, matched: matched.to_vec() };
    let shape = KeepOutShape::Scan(scan);
    let kind = KeepOutKind::StillMetal;
    let edit = Edit::Measure(MeasureEdit::AddKeepOut {
        name: name("scanned lumps"),
        kind,
        rides: Side::Body,
        shape,
        big: false,
    });
    let mut scans = Scans::default();
    scans.insert(id, ScanUnit::Mm, Arc::new(Mesh::new(&vertices, triangles).unwrap()));
    (apply(job, &edit).unwrap().job, scans, solid)
}

/// Everything a stranger finds wrong with a pipe that was called clear.
fn wrong(bay: &Bay, job: &Job) -> Vec<String> {
    let line = Line::of(job.run(bay.run).unwrap()).unwrap();
    let moves = Moves::of(job);
    let mut wrong = Vec::new();
    for thing in things(job, bay.run, &bay.triangles) {
        let found = sample(&line, &thing, moves.as_ref());
        if found.gap < thing.gap - HOLDS {
            wrong.push(format!("{:.2} mm to {} at {:.0}, {} asked", found.gap, thing.name, found.station, thing.gap));
        }
    }
    let itself = sample_itself(&line);
    if itself < 10.0 - HOLDS {
        wrong.push(format!("{itself:.2} mm to itself"));
    }
    wrong
}

fn taken(job: &Job, run: RunId, way: &Route) -> Job {
    apply(job, &Edit::Route(RouteEdit::TakeWay { run, way: way.clone() })).unwrap().job
}

#[test]
fn every_offer_and_every_workup_called_clear_is_clear_however_it_moves() {
    let (mut offers, mut workups, mut touched) = (0, 0, 0);
    for seed in 0..9 {
        let bay = bay(seed);
        let found = search(&bay.job, bay.run, &bay.scans, &AtomicBool::new(false), &|_| {}).unwrap();
        for offer in &found.offers {
            let job = taken(&bay.job, bay.run, &offer.way);
            let told = workup_among(&job, bay.run, &bay.scans).unwrap();
            let near = |words: &str| words.contains("wanted.") && !words.contains("seat");
            let clear = !told.findings.iter().any(|f| near(&f.words.mm));
            let fouls = told.findings.iter().any(|f| f.severity == Severity::Error && f.words.mm.contains("runs"));
            if !offer.fits() && !clear && !fouls {
                continue;
            }
            let wrong = wrong(&bay, &job);
            if offer.fits() {
                assert!(wrong.is_empty(), "seed {seed}, offered {}: {wrong:?}", offer.name);
                offers += 1;
            }
            if clear {
                assert!(wrong.is_empty(), "seed {seed}, workup of {}: {wrong:?}", offer.name);
                workups += 1;
            }
            touched += usize::from(fouls);
        }
    }
    println!("{offers} offers and {workups} workups are clear; {touched} foul");
    assert!(offers >= 40 && workups >= 40, "the bays are worth searching: {offers}, {workups}");
}

/// Pipes put anywhere: what is called a touch is touched, and what is called clear is clear.
#[test]
fn what_is_called_a_touch_is_touched() {
    let (mut touches, mut clear) = (0, 0);
    for seed in 100..124 {
        let bay = bay(seed);
        let mut random = StdRng::seed_from_u64(seed);
        for _ in 0..4 {
            let lead =
                |random: &mut StdRng| nook_geometry::units::Lead::new(random.random_range(100.0..260.0)).unwrap();
            let course =
                Centreline::Vertices { lead_a: lead(&mut random), between: Vec::new(), lead_b: lead(&mut random) };
            let job = taken(&bay.job, bay.run, &Route::along(course));
            let told = workup_among(&job, bay.run, &bay.scans).unwrap();
            let Some(air) = told.air else { continue };
            let line = Line::of(job.run(bay.run).unwrap()).unwrap();
            let moves = Moves::of(&job);
            for thing in things(&job, bay.run, &bay.triangles) {
                let said = told
                    .findings
                    .iter()
                    .find(|f| [" ", ";"].iter().any(|end| f.words.mm.contains(&format!("the {}{end}", thing.name))));
                // Pies stand out of the arc that is sampled.
                let stands_out = 2.0;
                match said {
                    Some(finding) if finding.words.mm.contains("runs") => {
                        let found = sample(&line, &thing, moves.as_ref());
                        assert!(found.gap < stands_out, "seed {seed}: {} but {:.2}", finding.words.mm, found.gap);
                        touches += 1;
                    }
                    None => {
                        let found = sample(&line, &thing, moves.as_ref());
                        assert!(
                            found.gap >= thing.gap - HOLDS,
                            "seed {seed}: nothing said of {:.2} mm to {} at {:.0}",
                            found.gap,
                            thing.name,
                            found.station
                        );
                        clear += 1;
                    }
                    Some(_) => {}
                }
            }
            assert!(air.trace.windows(2).all(|pair| (pair[0].to - pair[1].from).abs() < 1e-6));
        }
    }
    assert!(touches > 20 && clear > 500, "{touches} touches, {clear} clear");
}

/// The same with couplers along the pipe, whatever its ends are: sections that ride with either side, or hang between.
#[test]
fn a_parted_pipe_that_is_called_clear_is_clear_and_touches_what_it_is_said_to() {
    let (mut clear, mut touches, mut held, mut elbows) = (0, 0, 0, 0);
    for seed in 200..230 {
        let bay = bay(seed);
        let mut random = StdRng::seed_from_u64(seed);
        let lead = |random: &mut StdRng| nook_geometry::units::Lead::new(random.random_range(160.0..300.0)).unwrap();
        let course = Centreline::Vertices { lead_a: lead(&mut random), between: Vec::new(), lead_b: lead(&mut random) };
        let mut job = taken(&bay.job, bay.run, &Route::along(course));
        // A moulded elbow in place of one of its bends, before what makes room for it.
        if seed % 2 == 0 {
            let bend = by_place::bend(&job, bay.run, usize::from(seed % 4 == 0));
            job = apply(&job, &Edit::Join(JoinEdit::AddElbow { run: bay.run, bend })).unwrap().job;
            elbows += 1;
        }
        for leg in 0..3 {
            let told = workup_among(&job, bay.run, &bay.scans).unwrap();
            let Some(straight) = told.straights.get(leg) else { continue };
            let mm = straight.length.mm() * random.random_range(0.35..0.65);
            let at = AlongAnchor {
                leg: by_place::leg(&job, bay.run, leg),
                from: LegEnd::Start,
                mm: AlongLeg::new(mm.max(0.0)).unwrap(),
            };
            let edit = Edit::Join(JoinEdit::AddJoint { run: bay.run, at, kind: JointKind::Coupler });
            let Ok(Applied { job: parted, .. }) = apply(&job, &edit) else { continue };
            let added = parted.run(bay.run).unwrap().way().unwrap().joints().last().unwrap().id;
            let to = JointChange::Gap { gap: Gap::new(random.random_range(4.0..30.0)).ok() };
            let parted =
                apply(&parted, &Edit::Join(JoinEdit::ChangeJoint { run: bay.run, joint: added, to })).unwrap().job;
            // Only where it stands as it is meant to: the sampler knows of no making room.
            let seated = |job: &Job| {
                let told = workup_among(job, bay.run, &bay.scans).unwrap();
                let route = &job.run(bay.run).unwrap().route;
                let straight =
                    |joint: &JointWorkup| told.straights.iter().find(|one| one.straight == joint.straight).unwrap();
                told.joints.iter().filter(|joint| joint.elbow.is_none()).all(|joint| {
                    let at = route.joint(joint.joint).unwrap().along().unwrap();
                    let meant = at.from_start(straight(joint).length.mm());
                    joint.short.mm() < 1e-9 && (joint.from_start.mm() - meant).abs() < 1e-6
                })
            };
            if seated(&parted) {
                job = parted;
            }
        }
        if seed % 3 != 0 {
            job = clamped(&job, bay.run, &mut random);
        }
        let told = workup_among(&job, bay.run, &bay.scans).unwrap();
        if told.air.is_none() || told.joints.is_empty() {
            continue;
        }
        held += told.supports.len();
        let mut line = Line::of(job.run(bay.run).unwrap()).unwrap();
        for ((_, on), support) in line.bands.iter_mut().zip(&told.supports) {
            on.extend(support.feet.iter().filter_map(|foot| foot.on.clone()));
        }
        let moves = Moves::of(&job);
        for thing in things(&job, bay.run, &bay.triangles) {
            let named = |words: &str| [" ", ";"].iter().any(|end| words.contains(&format!("the {}{end}", thing.name)));
            let said: Vec<&str> =
                told.findings.iter().map(|one| one.words.mm.as_str()).filter(|words| named(words)).collect();
            let found = sample(&line, &thing, moves.as_ref());
            if said.is_empty() {
                assert!(
                    found.gap >= thing.gap - HOLDS,
                    "seed {seed}: nothing said of {:.2} mm to {} at {:.0}",
                    found.gap,
                    thing.name,
                    found.station
                );
                clear += 1;
            } else if said.iter().any(|words| words.contains("runs")) {
                // Pies stand out of the arc that is sampled, and a section that floats is told by a turn and what may lie beside it.
                // Another pipe floats likewise.
                let other = job.runs().iter().find(|run| run.name.as_str() == thing.name);
                let other = other.map(|run| workup_among(&job, run.id, &bay.scans).unwrap());
                let beside = |told: &Workup| {
                    let each = told.sections.iter().filter_map(|one| Some(one.turns.as_ref()?.beside.mm()));
                    each.fold(0.0, f64::max)
                };
                let beside = beside(&told) + other.as_ref().map_or(0.0, beside);
                assert!(found.gap < 2.0 + beside, "seed {seed}: {said:?} but {:.2}", found.gap);
                touches += 1;
            }
        }
    }
    assert!(
        touches > 5 && clear > 150 && held > 12 && elbows > 12,
        "{touches} touches, {clear} clear, {held} held, {elbows} elbows"
    );
}

/// The pipe with clamps on one or two straights, each to either side, where there is room for them.
fn clamped(job: &Job, run: RunId, random: &mut StdRng) -> Job {
    let mut job = job.clone();
    for leg in [0, 1, 2, 0, 1, 2, 0, 1, 2] {
        let told = workup_among(&job, run, &Scans::default()).unwrap();
        if told.supports.len() >= 2 {
            break;
        }
        let Some(straight) = told.straights.get(leg) else { continue };
        let mm = straight.length.mm() * random.random_range(0.2..0.8);
        let to = if random.random_bool(0.5) { Side::Engine } else { Side::Body };
        let at = AlongAnchor {
            leg: by_place::leg(&job, run, leg),
            from: LegEnd::Start,
            mm: AlongLeg::new(mm.max(0.0)).unwrap(),
        };
        let support = SupportDraft { at, kind: SupportKind::Clamps, to: Some(to) };
        let held = apply(&job, &Edit::Join(JoinEdit::AddSupport { run, support })).unwrap().job;
        let told = workup_among(&held, run, &Scans::default()).unwrap();
        let wrong =
            [FindingKind::SupportOnSeam, FindingKind::HeldOnBothSides, FindingKind::Bracketed, FindingKind::HangsLoose];
        if !told.findings.iter().any(|one| wrong.contains(&one.kind)) {
            job = held;
        }
    }
    job
}

/// The same in bays so crowded that ways have a hair's breadth.
#[test]
fn offers_in_crowded_bays_are_clear() {
    for seed in [5_003, 5_007, 5_012] {
        let Some(bay) = crowded(seed, Filling { things: 150, within: 30.0 }) else { continue };
        let found = search(&bay.job, bay.run, &Scans::default(), &AtomicBool::new(false), &|_| {}).unwrap();
        let bay = Bay { job: bay.job, run: bay.run, scans: Scans::default(), triangles: Vec::new() };
        for offer in found.offers.iter().filter(|offer| offer.fits()) {
            let wrong = wrong(&bay, &taken(&bay.job, bay.run, &offer.way));
            assert!(wrong.is_empty(), "seed {seed}, {}: {wrong:?}", offer.name);
        }
    }
}
