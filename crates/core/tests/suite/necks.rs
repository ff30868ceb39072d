//! A component's own neck, sawn back or turned: where its mouth comes then, and what is left for what sits on it.

#![allow(clippy::unwrap_used, clippy::panic, clippy::float_cmp, reason = "a test fails by panicking")]

use nalgebra::{Point3, Rotation3, Unit, Vector3};
use nook_core::edit::{EditError, SupportChange};
use nook_core::findings::FindingKind;
use nook_core::job::Invalid;
use nook_core::join::{JointKind, SupportKind};
use nook_core::measure::{
    ComponentId, End, EndForm, Freedom, Measurand, Neck, PortRef, Reading, Side, Taken, TurnRange,
};
use nook_core::survey::Survey;
use nook_core::{Edit, Job, MeasureEdit, PlaceEdit, RunId, apply};
use nook_geometry::units::{HeadingAngle, Name, PitchAngle, StandsOut, Straight, TurnAngle};
use nook_geometry::{Direction, Point};
use proptest::prelude::*;

use crate::support::by_place::kind;
use crate::support::held::{block, change, found, held, straight, told, with};
use crate::support::{draft, job_with, port};

type V3 = Vector3<f64>;

const OD: f64 = 63.5;

/// A charge pipe from the origin, whose neck at A is 80 long as it stands.
fn piped() -> (Job, RunId) {
    job_with(draft(port([0.0; 3], [1.0, 0.0, 0.0], OD), port([620.0, 360.0, 410.0], [0.0, 0.1, -1.0], OD)))
}

fn mm(length: f64) -> Straight {
    Straight::new(length).unwrap()
}

fn neck(cut_back: f64, must_stay: f64, turned: Option<V3>) -> Neck {
    let turned = turned.map(|way| Direction::new(way.x, way.y, way.z).unwrap());
    Neck { length: mm(80.0), cut_back: mm(cut_back), must_stay: mm(must_stay), turned }
}

fn necked(job: &Job, run: RunId, neck: Neck) -> Result<Job, EditError> {
    let mut a = job.run(run).unwrap().a.clone();
    a.neck = Some(Box::new(neck));
    apply(job, &Edit::Measure(MeasureEdit::SetPort { run, end: End::A, port: a })).map(|applied| applied.job)
}

fn mouth(job: &Job, run: RunId) -> (Point3<f64>, V3, EndForm) {
    let settled = Survey::new(job).settle(job.run(run).unwrap());
    (settled.a.at.inner(), settled.a.out.vector(), settled.a.form)
}

#[test]
fn what_is_sawn_off_moves_the_mouth_back_and_takes_its_bead() {
    let (job, run) = piped();
    let sawn = necked(&job, run, neck(22.0, 0.0, None)).unwrap();
    assert_eq!(mouth(&job, run).2, EndForm::Beaded);
    assert_eq!(mouth(&sawn, run), (Point3::new(-22.0, 0.0, 0.0), V3::x(), EndForm::Plain));
    // The pipe begins there.
    let all = told(&sawn, run);
    assert!((all.ends[0].tube_end[0] - (-22.0 + all.ends[0].gap.mm())).abs() < 1e-9);
    let told = all.ends[0].neck.as_ref().unwrap();
    assert_eq!((told.cut_back.mm(), told.left.mm(), told.mitre.is_none()), (22.0, 58.0, true));
    assert!(
        told.acts.iter().any(|act| act.mm.contains("22.0 mm off its end"))
            && told.acts.iter().any(|act| act.mm.contains("bead"))
    );
    // Dragged by hand it goes where it is put, and is sawn as before.
    let at = Point::new(-30.0, 5.0, 8.0).unwrap();
    let moved = with(&sawn, &[Edit::Measure(MeasureEdit::MovePort { run, end: End::A, at })]);
    assert!((mouth(&moved, run).0 - at.inner()).norm() < 1e-9);
    // One of which nothing is sawn says nothing.
    let whole = necked(&job, run, neck(0.0, 30.0, None)).unwrap();
    assert!(told_neck(&whole, run).is_none() && mouth(&whole, run) == mouth(&job, run));
}

fn told_neck(job: &Job, run: RunId) -> Option<nook_core::workup::NeckWorkup> {
    told(job, run).ends[0].neck.clone()
}

#[test]
fn too_little_left_for_what_sits_on_it_is_told_and_so_is_what_must_stay() {
    let (job, run) = piped();
    // The hose sits on 32 of a mouth of 63.5, and 6 more to the bead.
    for (left, short) in [(38.0, false), (37.0, true)] {
        let job = necked(&job, run, neck(80.0 - left, 0.0, None)).unwrap();
        assert_eq!(!found(&job, run, FindingKind::ShortNeck).is_empty(), short, "{left}");
    }
    // A V-band wants 15 behind its flange.
    let banded = with(&job, &[kind(&job, run, End::A, JointKind::VBand)]);
    for (left, short) in [(15.0, false), (14.0, true)] {
        let job = necked(&banded, run, neck(80.0 - left, 0.0, None)).unwrap();
        assert_eq!(!found(&job, run, FindingKind::ShortNeck).is_empty(), short, "{left}");
    }
    for (must_stay, into) in [(40.0, false), (41.0, true)] {
        let job = necked(&job, run, neck(40.0, must_stay, None)).unwrap();
        assert_eq!(!found(&job, run, FindingKind::NeckCutAway).is_empty(), into);
    }
}

#[test]
fn what_cannot_be_sawn_is_refused() {
    let (job, run) = piped();
    let refused = |neck: Neck| match necked(&job, run, neck) {
        Err(EditError::Invalid { problem: Invalid::Neck { problem, .. } }) => problem.to_string(),
        other => panic!("{other:?}"),
    };
    assert!(refused(neck(80.0, 0.0, None)).contains("nothing would be left"));
    assert!(refused(neck(0.0, 0.0, Some(V3::new(-0.1, 1.0, 0.0)))).contains("less than 90"));
    // 80 degrees at a mitre of 40: 31.75 tan 40 on each side of the cut, and 30 that must stay.
    let turned = V3::new(80.0_f64.to_radians().cos(), 80.0_f64.to_radians().sin(), 0.0);
    assert!(refused(neck(0.0, 30.0, Some(turned))).contains("83.3 mm"));
}

/// A housing at A that may be turned a quarter about an axis through the origin, and its number.
fn housed(job: &Job, run: RunId, axis: Direction) -> (Job, ComponentId) {
    let turn = |degrees: f64| TurnAngle::new(degrees).unwrap();
    let range = TurnRange::Freely { from: turn(0.0), to: turn(90.0) };
    let turns = Freedom::Turn { pivot: Point::new(0.0, 0.0, 0.0).unwrap(), axis, range, turned: turn(0.0) };
    let (name, ports) = (Name::new("housing").unwrap(), vec![PortRef { run, end: End::A }]);
    let add = PlaceEdit::AddComponent { name, body: Vec::new(), ports, freedoms: vec![turns] };
    let job = with(job, &[Edit::Place(add)]);
    let component = job.components()[0].id;
    (job, component)
}

#[test]
fn a_neck_found_to_point_elsewhere_than_typed_is_checked_where_it_was_found() {
    let (job, run) = piped();
    let leaned = |degrees: f64| V3::new(degrees.to_radians().cos(), degrees.to_radians().sin(), 0.0);
    let sawn = necked(&job, run, neck(0.0, 10.0, Some(leaned(40.0)))).unwrap();
    assert!(told_neck(&sawn, run).is_some() && found(&sawn, run, FindingKind::NeckImpossible).is_empty());
    // The gauge says it points the other way: what it is to be turned to is then more than a mitre does.
    let of = Measurand::Port { port: PortRef { run, end: End::A } };
    let gauge = [
        Taken::Heading { degrees: HeadingAngle::new(-80.0).unwrap() },
        Taken::Pitch { degrees: PitchAngle::new(0.0).unwrap() },
    ];
    let gauge = gauge.map(|taken| Edit::Measure(MeasureEdit::AddReading { of, reading: Reading::of(taken) }));
    let read = with(&sawn, &gauge);
    let found = found(&read, run, FindingKind::NeckImpossible);
    assert!(found.len() == 1 && found[0].words.mm.contains("less than 90"), "{found:?}");
    assert!(told_neck(&read, run).is_none(), "nothing is printed of what cannot be sawn");
}

#[test]
fn its_line_is_scribed_from_up_as_its_housing_is_set() {
    let (job, run) = piped();
    let (job, component) = housed(&job, run, Direction::new(1.0, 0.0, 0.0).unwrap());
    let job = necked(&job, run, neck(0.0, 10.0, Some(V3::new(1.0, 0.0, 0.4)))).unwrap();
    let towards = |job: &Job| told_neck(job, run).unwrap().mitre.unwrap().towards;
    assert!(towards(&job).abs() < 1e-9);
    // Rolled a third about its own axis, what it is turned towards is rolled with it.
    let rolled = with(&job, &[Edit::Place(PlaceEdit::SetFreedom { component, freedom: 0, to: 30.0 })]);
    assert!((towards(&rolled) - 30.0).abs() < 1e-6, "{}", towards(&rolled));
    let points = mouth(&rolled, run).1;
    assert!((points.y + 0.2 / 1.16_f64.sqrt()).abs() < 1e-9, "{points}");
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(128))]

    /// Sawn as printed, turned half round and put together, the neck's end is where the mouth is said to be.
    #[test]
    fn the_printed_mitre_put_together_is_the_mouth(
        lean in 2.0..60.0_f64, clock in 0.0..360.0_f64, cut_back in 0.0..20.0_f64, must_stay in 0.0..15.0_f64,
        heading in -180.0..180.0_f64, pitch in -80.0..80.0_f64,
    ) {
        let out = Direction::from_gauge(heading, pitch).unwrap();
        let (job, run) = piped();
        let job = with(&job, &[Edit::Measure(MeasureEdit::AimPort { run, end: End::A, out })]);
        let along = out.vector();
        // Up, and clockwise from it for who looks along the neck.
        let up = (V3::z() - along * along.z).normalize();
        let beside = along.cross(&up);
        let turn = clock.to_radians();
        let towards = up * turn.cos() + beside * turn.sin();
        let way = along * lean.to_radians().cos() + towards * lean.to_radians().sin();
        let Ok(job) = necked(&job, run, neck(cut_back, must_stay, Some(way))) else { return Ok(()) };
        let told = told_neck(&job, run).unwrap();
        let mitre = told.mitre.unwrap();
        // The saw cuts the plane through these two places of the skin, and square to the plane they lie in with the axis.
        let root = -along * 80.0;
        let line = mitre.towards.to_radians();
        let scribed = up * line.cos() + beside * line.sin();
        let [short, long] = mitre.lines.each_ref().map(|line| line.mm());
        let low = root + scribed * (OD / 2.0) + along * short;
        let high = root - scribed * (OD / 2.0) + along * long;
        let across = Unit::new_normalize(along.cross(&scribed));
        let normal = Unit::new_normalize(across.cross(&(high - low)));
        prop_assert!((normal.dot(&along).abs().acos().to_degrees() - mitre.saw).abs() < 1e-6);
        prop_assert!(short >= must_stay - 1e-9);
        // The end, as long as is left, turned half round about its own axis: its sawn face is turned over onto the cut.
        let middle = (low + high) / 2.0;
        let end = root + along * told.left.mm() - middle;
        let spun = Rotation3::from_axis_angle(&Unit::new_normalize(along), std::f64::consts::PI);
        // Its face then leans the other way; laid face to face, that is brought onto the cut.
        let face = spun * normal.into_inner();
        let laid = Rotation3::rotation_between(&face, &normal.into_inner()).unwrap();
        let mouth_at = middle + laid * (spun * end);
        let (at, points, _) = mouth(&job, run);
        prop_assert!((at.coords - mouth_at).norm() < 1e-6, "{at} {mouth_at}");
        prop_assert!((points - laid * along).norm() < 1e-6);
    }
}

#[test]
fn a_tab_bent_as_printed_puts_its_hole_where_it_is_bolted() {
    let (job, run) = straight([Side::Body, Side::Body]);
    let job = with(&job, &[block([400.0, 0.0, -80.0], [300.0, 80.0, 40.0], Side::Body)]);
    let (job, _) = held(&job, run, (0, 400.0), SupportKind::Tab, Side::Body);
    let all = told(&job, run);
    let support = &all.supports[0];
    let height = support.feet[0].height.mm();
    let tab = support.tab.as_ref().unwrap();
    // Bent by 90 degrees round its own thickness: the neutral line is a quarter round 0.44 of it outside the inside radius.
    let (inside, thick) = (tab.thickness.mm(), tab.thickness.mm());
    let round = std::f64::consts::FRAC_PI_2 * (inside + 0.44 * thick);
    // Its welded edge lies on the tube all along: its middle on the skin's top, its corners as much lower as the skin is there.
    let (radius, half) = (crate::support::held::OD / 2.0, tab.width.mm() / 2.0);
    let low = radius - tab.hollow.mm();
    assert!((low.hypot(half) - radius).abs() < 1e-9);
    let leg = tab.bend.mm() - round / 2.0 - tab.hollow.mm();
    assert!((leg + inside + thick - height).abs() < 1e-9, "its foot's outside lies on what it is bolted to");
    let flat = tab.hole.mm() - tab.bend.mm() - round / 2.0;
    assert!((tab.beside.mm() - (inside + flat)).abs() < 1e-9 && flat >= 1.2 * 6.0 - 1e-9);
    assert!(tab.length.mm() - tab.hole.mm() >= 1.5 * 6.0 - 1e-9);
    // It is welded beside its hole, on the side that is farther from the pipe's end.
    let shift = if tab.towards_a { -1.0 } else { 1.0 } * tab.beside.mm();
    assert!((tab.weld.mm() - support.at.mm() - shift).abs() < 1e-9);
    for (mm, towards_a) in [(80.0, false), (820.0, true)] {
        let (beside_end, _) = held(&job, run, (0, mm), SupportKind::Tab, Side::Body);
        let all = told(&beside_end, run);
        let one = all.supports.iter().find(|one| (one.from_start.mm() - mm).abs() < 1e-6).unwrap();
        let high = SupportChange::StandOff { stand_off: StandsOut::new(30.0).ok() };
        let all = told(&with(&beside_end, &[change(run, one.support, high)]), run);
        let one = all.supports.iter().find(|one| (one.from_start.mm() - mm).abs() < 1e-6).unwrap();
        assert_eq!(one.tab.as_ref().unwrap().towards_a, towards_a, "{mm}");
    }
    // Too low there is no leg to bend.
    let too_low = SupportChange::StandOff { stand_off: StandsOut::new(8.0).ok() };
    let low = with(&job, &[change(run, support.support, too_low)]);
    assert!(told(&low, run).supports[0].tab.is_none());
}
