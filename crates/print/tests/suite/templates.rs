//! Templates as they are printed: wrapped round their tube they are a plane cut, and tiles laid cross on cross are the drawing.

use std::f64::consts::{PI, TAU};

use nook_core::Workup;
use nook_core::stock::Tube;
use nook_geometry::units::{LengthUnit, OutsideDiameter, Wall};
use nook_print::{Paper, PrintOptions, SheetKind};

use crate::packets::{demo, packet, printed};
use crate::read_back::{P, Painted, Sheet};

/// Common paper in mm.
const THICK: f64 = 0.1;

fn templates_only(paper: Paper) -> PrintOptions {
    PrintOptions { sheets: vec![SheetKind::Templates], ..PrintOptions::usual(paper, LengthUnit::Mm) }
}

fn off(p: P, q: P) -> f64 {
    (p[0] - q[0]).hypot(p[1] - q[1])
}

/// Outlines of wrap templates: closed curves of many points.
fn outlines(sheet: &Sheet) -> impl Iterator<Item = &Painted> {
    sheet.painted.iter().filter(|one| one.stroked && !one.filled && one.points.len() > 300)
}

/// Girth along the straight edge, and how high the curve stands over it at each place, however the paper lies.
fn unrolled(outline: &Painted) -> (f64, Vec<P>) {
    let points = &outline.points;
    // The straight edge joins the two corners that are nowhere on the curve: the first point and the one before it is closed.
    let count = points.len();
    let corner = points[0];
    let other = points.iter().rev().copied().find(|at| off(*at, corner) > 1.0).unwrap();
    let girth = off(corner, other);
    let along = [0, 1].map(|axis| (other[axis] - corner[axis]) / girth);
    let curve = points[1..count - 1].iter().filter(|at| off(**at, other) > 1e-6).map(|at| {
        let from = [at[0] - corner[0], at[1] - corner[1]];
        let x = from[0] * along[0] + from[1] * along[1];
        [x, (from[0] * along[1] - from[1] * along[0]).abs()]
    });
    (girth, curve.collect())
}

/// The slope of the plane that the curve lies in when it is wrapped round, in radians from square; how far it strays from it in mm.
fn wrapped(od: f64, girth: f64, curve: &[P]) -> (f64, f64) {
    let radius = od / 2.0;
    // Heights over the skirt, against a plane that leans in the direction of the throat.
    let place = |x: f64| radius * (TAU * x / girth).cos();
    let (throat, back) =
        (curve.iter().map(|at| at[1]).fold(f64::INFINITY, f64::min), curve.iter().map(|at| at[1]).fold(0.0, f64::max));
    let slope = (back - throat) / od;
    let strays = curve.iter().map(|at| (at[1] - (throat + (radius - place(at[0])) * slope)).abs());
    (slope.atan(), strays.fold(0.0, f64::max))
}

#[test]
fn every_template_of_the_demo_wraps_into_a_plane_cut_at_its_saw_setting() {
    let job = demo();
    let mut count = 0;
    for paper in [Paper::A4, Paper::Letter] {
        for index in 0..job.runs().len() {
            let packet = packet(&job, index);
            let Some(cutting) = packet.workup.cutting.as_ref().filter(|cutting| !cutting.settings.is_empty()) else {
                continue;
            };
            let sheets = printed(&packet, &templates_only(paper));
            let all: Vec<&Painted> = sheets.iter().flat_map(outlines).collect();
            let od = packet.workup.od.mm();
            let wraps: Vec<(f64, f64, f64)> = all
                .iter()
                .map(|outline| unrolled(outline))
                .filter(|(girth, _)| (girth - PI * (od + 2.0 * THICK)).abs() < 0.02)
                .map(|(girth, curve)| {
                    let (saw, strays) = wrapped(od, girth, &curve);
                    (girth, saw.to_degrees(), strays)
                })
                .collect();
            for setting in &cutting.settings {
                let found = wraps.iter().find(|(_, saw, _)| (saw - setting).abs() < 0.01);
                let (_, _, strays) =
                    found.unwrap_or_else(|| panic!("{}: no template of {setting}", packet.workup.name));
                assert!(*strays < 0.01, "{}: {strays} off a plane", packet.workup.name);
                count += 1;
            }
        }
    }
    assert!(count > 20, "{count}");
}

/// The hot side of the demo as it would be of tube of another size.
fn of_tube(od: f64) -> Workup {
    let job = demo();
    let run = &job.runs()[0];
    let tube = Tube::new(run.tube.material(), OutsideDiameter::new(od).unwrap(), Wall::new(2.0).unwrap()).unwrap();
    let wider = nook_core::SpecEdit::SetTube { run: run.id, tube };
    let radius =
        nook_core::RouteEdit::SetRadius { run: run.id, radius: nook_geometry::units::BendRadius::new(od).unwrap() };
    let job = [nook_core::Edit::Spec(wider), radius.into()]
        .iter()
        .fold(job.clone(), |job, edit| nook_core::apply(&job, edit).unwrap().job);
    nook_core::workup(&job, run.id).unwrap()
}

/// Crosses of a page: the middles of two lines of one length across each other.
fn crosses(sheet: &Sheet) -> Vec<P> {
    let lines: Vec<(P, P)> = sheet
        .painted
        .iter()
        .filter(|one| one.points.len() == 2 && (off(one.points[0], one.points[1]) - 8.0).abs() < 0.01)
        .map(|one| (one.points[0], one.points[1]))
        .collect();
    let middle = |(p, q): (P, P)| [(p[0] + q[0]) / 2.0, (p[1] + q[1]) / 2.0];
    let flat = |(p, q): (P, P)| (p[1] - q[1]).abs() < 0.001;
    let across = lines.iter().filter(|line| flat(**line));
    let met =
        across.filter(|line| lines.iter().any(|other| !flat(*other) && off(middle(*other), middle(**line)) < 0.001));
    met.map(|line| middle(*line)).collect()
}

#[test]
fn tiles_laid_cross_on_cross_are_the_whole_drawing() {
    for (od, paper) in [(120.0, Paper::A4), (150.0, Paper::Letter), (120.0, Paper::Letter)] {
        let job = demo();
        let mut packet = packet(&job, 0);
        packet.workup = of_tube(od);
        assert!(
            packet.workup.cutting.is_some(),
            "{:?}",
            packet.workup.findings.first().map(|one| one.words.mm.clone())
        );
        let sheets = printed(&packet, &templates_only(paper));
        let tiles: Vec<&Sheet> = sheets.iter().filter(|sheet| outlines(sheet).next().is_some()).collect();
        assert!(tiles.len() >= 2 * packet.workup.cutting.as_ref().unwrap().settings.len(), "{} tiles", tiles.len());
        let per = tiles.len() / packet.workup.cutting.as_ref().unwrap().settings.len();
        for of_one in tiles.chunks(per) {
            let first = outlines(of_one[0]).next().unwrap();
            let (girth, curve) = unrolled(first);
            assert!((girth - PI * (od + 2.0 * THICK)).abs() < 0.02, "{girth}");
            assert!(wrapped(od, girth, &curve).1 < 0.01);
            // Laid over each other by two crosses, the next tile's drawing is the same drawing.
            let mut shift = [0.0; 2];
            let mut covered: Vec<[P; 2]> = vec![first.clip];
            for pair in of_one.windows(2) {
                let moves = crosses(pair[0])
                    .into_iter()
                    .flat_map(|p| crosses(pair[1]).into_iter().map(move |q| [p[0] - q[0], p[1] - q[1]]));
                let moves: Vec<P> = moves.collect();
                let [here, there] = [0, 1].map(|index: usize| outlines(pair[index]).next().unwrap());
                let wanted = [here.points[0][0] - there.points[0][0], here.points[0][1] - there.points[0][1]];
                let same = moves.iter().filter(|one| off(**one, wanted) < 0.01).count();
                assert!(same >= 2, "{same} crosses meet, of {moves:?}, wanted {wanted:?}");
                let alike = here
                    .points
                    .iter()
                    .zip(&there.points)
                    .all(|(p, q)| off(*p, [q[0] + wanted[0], q[1] + wanted[1]]) < 0.01);
                assert!(alike);
                shift = [shift[0] + wanted[0], shift[1] + wanted[1]];
                covered.push(there.clip.map(|corner| [corner[0] + shift[0], corner[1] + shift[1]]));
            }
            // Every place of the outline is on one of the tiles, and not at its very edge.
            for at in &first.points {
                let on = covered
                    .iter()
                    .any(|[low, high]| (0..2).all(|axis| at[axis] > low[axis] - 0.01 && at[axis] < high[axis] + 0.01));
                assert!(on, "{at:?} is on no tile of {covered:?}");
            }
        }
    }
}
