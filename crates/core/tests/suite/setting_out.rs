//! What is set out on the car comes out where it was planned: the readings are taken as printed, by a sum of its own.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, reason = "a test fails by panicking")]

use crate::demo::demo;
use nalgebra::{Matrix3, Vector3};
use nook_core::measure::{End, KeepOutKind, KeepOutShape, Side};
use nook_core::workup::{SetKind, SetPoint, setting_out, workup};
use nook_core::{Edit, Job, MeasureEdit, PartRef, Scans, apply};
use nook_geometry::Point;
use nook_geometry::units::Name;

type V3 = Vector3<f64>;

/// Every part of the demo that has points to mark.
fn parts(job: &Job) -> Vec<PartRef> {
    let mut all: Vec<PartRef> = job.keep_outs().iter().map(|one| PartRef::KeepOut { keep_out: one.id }).collect();
    for run in job.runs() {
        all.extend([End::A, End::B].map(|end| PartRef::End { run: run.id, end }));
        all.extend(run.route.bends().iter().map(|bend| PartRef::Bend { run: run.id, bend: bend.id }));
    }
    all
}

/// Where every datum of a job stands, as the bay tells.
fn places(job: &Job) -> Vec<(nook_core::measure::DatumId, V3)> {
    let bay = nook_core::workup::bay(job);
    bay.datums.iter().map(|one| (one.datum, V3::from(one.at.map(|c| c.mm())))).collect()
}

/// What a reading would be at a place, and how it changes there.
fn read(kind: SetKind, datum: V3, at: V3) -> (f64, V3) {
    match kind {
        SetKind::Tape => ((at - datum).norm(), (at - datum).normalize()),
        SetKind::Height => (at.z - datum.z, V3::z()),
    }
}

/// The place that fits three readings, by Newton's iteration from near by.
fn found(job: &Job, point: &SetPoint, values: [f64; 3], from: V3) -> V3 {
    let (places, set) = (places(job), point.set.as_ref().unwrap());
    let mut at = from;
    for _ in 0..60 {
        let rows = set.readings.each_ref().map(|reading| {
            let datum = places.iter().find(|(id, _)| *id == reading.datum).unwrap().1;
            read(reading.kind, datum, at)
        });
        let slopes = Matrix3::from_rows(&rows.map(|(_, slope)| slope.transpose()));
        let miss = V3::new(values[0] - rows[0].0, values[1] - rows[1].0, values[2] - rows[2].0);
        let Some(inverse) = slopes.try_inverse() else { break };
        let step = inverse * miss;
        at += step * (50.0 / step.norm().max(50.0));
    }
    at
}

#[test]
fn readings_taken_as_printed_land_where_it_was_planned_and_the_words_say_which_side() {
    let job = demo();
    let (mut fixed, mut all) = (0, 0);
    for part in parts(&job) {
        for point in setting_out(&job, part, &Scans::default()).points {
            all += 1;
            let Some(set) = &point.set else { continue };
            fixed += 1;
            let at = V3::from(point.at);
            // To the tenth of a millimetre that is printed.
            let printed = set.readings.each_ref().map(|reading| (reading.mm.mm() * 10.0).round() / 10.0);
            let back = found(&job, &point, printed, at);
            assert!((back - at).norm() <= 0.05 / 2.0 * set.off.mm() + 1e-3, "{}: {back} for {at}", point.name);
            // Each reading off by two, every way: never further than is said.
            for signs in 0..8 {
                let off = [0, 1, 2].map(|k| if signs >> k & 1 == 1 { 2.0 } else { -2.0 });
                let wrong = found(&job, &point, [0, 1, 2].map(|k| set.readings[k].mm.mm() + off[k]), at);
                let moved = (wrong - at).norm();
                assert!(moved <= set.off.mm() + 0.01, "{}: {moved} for {}", point.name, set.off.mm());
            }
            // The place on the other side fits as well, and the words tell the two apart.
            let which = &set.words.mm;
            if !which.starts_with("They meet") {
                let side = [
                    ("forward", V3::x()),
                    ("back", -V3::x()),
                    ("left", V3::y()),
                    ("right", -V3::y()),
                    ("higher", V3::z()),
                    ("lower", -V3::z()),
                ];
                let way = side.iter().find(|(word, _)| which.contains(word)).unwrap().1;
                let apart: f64 = which.split(' ').find_map(|word| word.parse().ok()).unwrap();
                let values = set.readings.each_ref().map(|reading| reading.mm.mm());
                let other = found(&job, &point, values, at - way * apart);
                let there = set.readings.iter().zip(values).all(|(reading, value)| {
                    let datum = places(&job).into_iter().find(|(id, _)| *id == reading.datum).unwrap().1;
                    (read(reading.kind, datum, other).0 - value).abs() < 1e-3
                });
                if there && (other - at).norm() > 3.0 {
                    assert!((at - other).dot(&way) > 0.0, "{}: {which}", point.name);
                    assert!(((at - other).norm() - apart).abs() < 0.1, "{}: {which}", point.name);
                }
            }
        }
    }
    assert!(all > 100 && fixed * 2 > all, "{fixed} of {all} points can be set out");
}

#[test]
fn no_other_three_readings_move_the_point_less() {
    let job = demo();
    let places = places(&job);
    for part in parts(&job).into_iter().step_by(5) {
        for point in setting_out(&job, part, &Scans::default()).points {
            let Some(set) = &point.set else { continue };
            let at = V3::from(point.at);
            let hidden = |id| {
                let name = job.datums().iter().find(|one| one.id == id).unwrap().name.as_str();
                point.hidden.iter().any(|one| one == name)
            };
            let seen: Vec<V3> = places
                .iter()
                .filter(|(id, at_datum)| !hidden(*id) && (at - at_datum).norm() > 60.0)
                .map(|(_, at)| *at)
                .collect();
            for (i, p) in seen.iter().enumerate() {
                for (j, q) in seen.iter().enumerate().skip(i + 1) {
                    let third = seen[j + 1..].iter().map(|r| (at - r).normalize());
                    for third in third.chain([V3::z()]) {
                        let slopes = Matrix3::from_rows(
                            &[(at - p).normalize(), (at - q).normalize(), third].map(|slope| slope.transpose()),
                        );
                        let Some(inverse) = slopes.try_inverse() else { continue };
                        let moved = |signs: i32| {
                            let off = [0, 1, 2].map(|k| if signs >> k & 1 == 1 { 2.0 } else { -2.0 });
                            (inverse * V3::from(off)).norm()
                        };
                        let most = (0..8).map(moved).fold(0.0, f64::max);
                        // To first order; where that is little, how tapes bend over it is less than a tenth of it.
                        let told = set.off.mm();
                        assert!(most > 12.0 || told <= most * 1.1 + 0.05, "{}: {told}, {most} there is", point.name);
                    }
                }
            }
        }
    }
}

#[test]
fn a_wall_hides_a_datum_and_the_bonnet_does_not() {
    let job = demo();
    let run = job.runs()[0].id;
    let part = PartRef::End { run, end: End::B };
    let point = |job: &Job| setting_out(job, part, &Scans::default()).points.remove(0);
    let before = point(&job);
    let set = before.set.as_ref().unwrap();
    let (datum, name) = {
        let reading = &set.readings[0];
        let datum = job.datums().iter().find(|one| one.id == reading.datum).unwrap();
        (places(&job).into_iter().find(|(id, _)| *id == reading.datum).unwrap().1, datum.name.as_str().to_owned())
    };
    let middle = (datum + V3::from(before.at)) / 2.0;
    let wall = |kind: KeepOutKind| {
        let centre = Point::new(middle.x, middle.y, middle.z).unwrap();
        let shape = KeepOutShape::Sphere { centre, diameter: 40.0 };
        let name = Name::new("wall").unwrap();
        let edit = MeasureEdit::AddKeepOut { name, kind, rides: Side::Body, shape, big: false };
        apply(&job, &Edit::Measure(edit)).unwrap().job
    };
    let walled = point(&wall(KeepOutKind::StillMetal));
    assert!(walled.hidden.contains(&name), "{walled:?}");
    assert!(walled.set.is_none_or(|set| set.readings.iter().all(|one| one.words.mm.contains("above")
        || one.words.mm.contains("below")
        || !one.words.mm.ends_with(&name))));
    assert_eq!(point(&wall(KeepOutKind::Sweep)), before, "what only sweeps is not there");
}

#[test]
fn the_crest_of_a_bend_lies_on_its_skin_furthest_from_the_inside() {
    let job = demo();
    for run in job.runs() {
        let workup = workup(&job, run.id).unwrap();
        for bend in &workup.bends {
            let part = PartRef::Bend { run: run.id, bend: bend.bend };
            let points = setting_out(&job, part, &Scans::default()).points;
            let (crest, corner) = (V3::from(points[0].at), V3::from(bend.vertex.map(|c| c.mm())));
            assert!((V3::from(points[1].at) - corner).norm() < 1e-6);
            // From the arc's centre: a radius and half a tube out.
            let half = bend.angle.to_radians() / 2.0;
            let from_centre = bend.radius.mm() / half.cos()
                - (crest - corner).norm() * (crest - corner).dot(&(crest - corner)).signum();
            let wanted = bend.radius.mm() + workup.od.mm() / 2.0;
            let other = bend.radius.mm() / half.cos() + (crest - corner).norm();
            assert!((from_centre - wanted).abs() < 1e-6 || (other - wanted).abs() < 1e-6, "{}", points[0].name);
        }
    }
}
