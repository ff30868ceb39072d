//! A pipe for other programs: what is written is closed, true to size, and comes back the same where it is read.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, reason = "a test fails by panicking")]

use std::collections::HashMap;

use crate::support::by_place::{bend, pies};
use dxf::Drawing;
use dxf::entities::EntityType;
use nook_core::assembly::Assembly;
use nook_core::route::{BendMake, Lock, PieEnds, ResolvedRun, build_path, tube_path};
use nook_core::survey::Survey;
use nook_core::{Edit, Job, RouteEdit, apply, workup};
use nook_formats::{Hollow, LraError, bay_glb, lra_csv, pipe_dxf, pipe_part, pipe_step, read_job, read_lra};
use nook_geometry::units::SeamCount;
use nook_geometry::{Path, Vector};

fn demo() -> Job {
    read_job(include_bytes!("../../../../demo/pellow-van.json")).unwrap()
}

/// Every run of the demo whose way joins its ports without overlapping bends.
fn pipes() -> Vec<(ResolvedRun, Path)> {
    let job = demo();
    let survey = Survey::new(&job);
    let runs = job.runs().iter().map(|run| survey.settle(run));
    let pipes = runs.map(|run| {
        let path = tube_path(&run, &build_path(&run, run.way().unwrap()).unwrap());
        (run, path)
    });
    pipes.filter(|(_, path)| path.straights().all(|straight| straight > 0.0)).collect()
}

#[test]
fn the_solid_of_a_pipe_is_closed_and_as_heavy_as_its_tube() {
    for (run, path) in pipes() {
        let part = pipe_part(&Hollow::tube(path.clone(), run.tube, "pipe"));
        let mut edges: HashMap<(u32, u32), i32> = HashMap::new();
        let mut volume = 0.0;
        for corners in &part.facets.triangles {
            for k in 0..3 {
                let (from, to) = (corners[k], corners[(k + 1) % 3]);
                *edges.entry((from.min(to), from.max(to))).or_default() += if from < to { 1 } else { -1 };
            }
            let [a, b, c] = corners.map(|corner| Vector::from(part.facets.vertices[corner as usize]));
            volume += a.dot(&b.cross(&c)) / 6.0;
        }
        assert!(edges.values().all(|balance| *balance == 0), "{}: every edge is used once each way", run.name.as_str());
        let metal = std::f64::consts::PI / 4.0 * (run.tube.od().powi(2) - run.tube.bore().powi(2)) * path.length();
        assert!((volume / metal - 1.0).abs() < 0.01, "{}: {volume} against {metal}", run.name.as_str());
    }
}

#[test]
fn the_centre_line_in_dxf_has_its_lines_and_arcs_where_the_pipe_is() {
    for (run, path) in pipes() {
        let bytes = pipe_dxf(&path).unwrap();
        let drawing = Drawing::load(&mut bytes.as_slice()).unwrap();
        let (mut length, mut arcs) = (0.0, 0);
        for entity in drawing.entities() {
            match &entity.specific {
                EntityType::Line(line) => {
                    let way = |p: &dxf::Point| Vector::new(p.x, p.y, p.z);
                    length += (way(&line.p2) - way(&line.p1)).norm();
                }
                EntityType::Arc(arc) => {
                    arcs += 1;
                    length += arc.radius * (arc.end_angle - arc.start_angle).to_radians();
                    // Back from the arc's own axes to the vehicle's: its start lies on the pipe.
                    let normal = Vector::new(arc.normal.x, arc.normal.y, arc.normal.z);
                    let near_z = normal.x.abs() < 1.0 / 64.0 && normal.y.abs() < 1.0 / 64.0;
                    let x = if near_z { Vector::y() } else { Vector::z() }.cross(&normal).normalize();
                    let y = normal.cross(&x);
                    let turn = arc.start_angle.to_radians();
                    let centre = x * arc.center.x + y * arc.center.y + normal * arc.center.z;
                    let start = centre + (x * turn.cos() + y * turn.sin()) * arc.radius;
                    let mut travel = path.setting_out();
                    let off = path.legs().iter().map(|leg| {
                        let bend = travel.straight(leg.straight).clocked(leg.bend.rotation);
                        travel = bend.bend(leg.bend.radius, leg.bend.angle);
                        (bend.at.coords - start).norm()
                    });
                    assert!(off.fold(f64::INFINITY, f64::min) < 1e-6, "an arc begins off the pipe");
                }
                _ => {}
            }
        }
        assert_eq!(arcs, path.legs().len(), "{}", run.name.as_str());
        assert!((length - path.length()).abs() < 1e-6);
    }
}

/// The entities of a STEP file by number: name and what is between its brackets.
fn entities(text: &str) -> HashMap<usize, String> {
    let lines = text.lines().filter(|line| line.starts_with('#'));
    let split = lines.map(|line| {
        let (number, rest) = line[1..].split_once('=').unwrap();
        (number.parse().unwrap(), rest.trim_end_matches(';').to_owned())
    });
    split.collect()
}

fn references(entity: &str) -> Vec<usize> {
    let parts = entity.split('#').skip(1);
    parts.map(|part| part.chars().take_while(char::is_ascii_digit).collect::<String>().parse().unwrap()).collect()
}

/// Everything round of the demo's pipes is in the file as a solid of its own: tube for each section, hoses, bands, flanges and
/// clamps, none with an inside as wide as its outside.
#[test]
fn what_joins_and_holds_a_pipe_is_in_its_solid() {
    let job = read_job(include_bytes!("../../../../demo/pellow-van.json")).unwrap();
    let survey = Survey::new(&job);
    let (mut bands, mut supports, mut branches) = (0, 0, 0);
    for run in job.runs().iter().map(|run| survey.settle(run)) {
        let pipe = Assembly::build(&run).unwrap().unwrap();
        let bodies = Hollow::all_of(&run, &pipe).unwrap();
        let tubes: f64 = bodies[..pipe.sections().len()].iter().map(|body| body.path.length()).sum();
        let sections: f64 = pipe.sections().iter().map(|[from, to]| to - from).sum();
        assert!((tubes - sections).abs() < 1e-6, "{}", run.name.as_str());
        let of_the_tube = |body: &&Hollow| !body.name.ends_with(", branch");
        assert!(bodies.iter().all(|body| body.inside < body.outside));
        assert!(bodies.iter().filter(of_the_tube).all(|body| body.inside >= run.tube.bore() - 1e-9));
        let named = |word: &str| bodies.iter().filter(|body| body.name.ends_with(word)).count();
        bands += named(", band");
        supports += named(", support");
        branches += named(", branch");
        let text = pipe_step(&bodies, run.name.as_str()).unwrap();
        assert_eq!(text.matches("MANIFOLD_SOLID_BREP").count(), bodies.len());
        assert!(bay_glb(&bodies.iter().map(pipe_part).collect::<Vec<_>>()).is_ok());
    }
    assert_eq!((bands, supports), (1, 2), "a V-band half-way the cold side, the heater lines on clamps");
    assert_eq!(branches, 4, "a bleed, a blow-off with its recirculation, a temperature bung");
}

#[test]
fn the_step_solid_is_closed_and_its_corners_lie_on_its_surfaces() {
    for (run, path) in pipes() {
        let text = pipe_step(&[Hollow::tube(path.clone(), run.tube, run.name.as_str())], run.name.as_str()).unwrap();
        assert!(text.starts_with("ISO-10303-21;") && text.ends_with("END-ISO-10303-21;\n"));
        let all = entities(&text);
        for entity in all.values() {
            assert!(
                references(entity).iter().all(|to| all.contains_key(to)),
                "{entity} names something that is not there"
            );
        }
        let count = |name: &str| all.values().filter(|entity| entity.starts_with(name)).count();
        assert_eq!(count("TOROIDAL_SURFACE"), 2 * path.legs().len());
        assert_eq!(count("CYLINDRICAL_SURFACE"), 2 * (path.legs().len() + 1));
        assert_eq!(count("PLANE("), 2);
        // Closed: every edge is used once each way.
        let mut used: HashMap<usize, i32> = HashMap::new();
        for entity in all.values().filter(|entity| entity.starts_with("ORIENTED_EDGE")) {
            *used.entry(references(entity)[0]).or_default() += if entity.ends_with(".T.)") { 1 } else { -1 };
        }
        assert_eq!(used.len(), count("EDGE_CURVE"));
        assert!(used.values().all(|balance| *balance == 0));
        // Every corner is a tube's radius from the centre line.
        let point = |number: usize| {
            let inside = all[&number].split("((").nth(1).or_else(|| all[&number].split(",(").nth(1)).unwrap();
            let numbers = inside.trim_end_matches(')').split(',').map(|n| n.parse::<f64>().unwrap());
            Vector::from_iterator(numbers)
        };
        for entity in all.values().filter(|entity| entity.starts_with("VERTEX_POINT")) {
            let at = point(references(entity)[0]);
            let near = [run.tube.od() / 2.0, run.tube.bore() / 2.0];
            let mut travel = path.setting_out();
            let mut least = vec![(at - travel.at.coords).norm()];
            for leg in path.legs() {
                let start = travel.straight(leg.straight);
                travel = start.clocked(leg.bend.rotation).bend(leg.bend.radius, leg.bend.angle);
                least.extend([(at - start.at.coords).norm(), (at - travel.at.coords).norm()]);
            }
            least.push((at - travel.straight(path.last()).at.coords).norm());
            let on = least.iter().any(|off| near.iter().any(|radius| (off - radius).abs() < 1e-6));
            assert!(on, "a corner of {} lies off its ring", run.name.as_str());
        }
    }
}

#[test]
fn a_table_that_was_written_is_read_back_as_the_same_way() {
    let job = demo();
    for run in job.runs() {
        let settled = Survey::new(&job).settle(run);
        let text = lra_csv(&workup(&job, run.id).unwrap()).unwrap().unwrap();
        if run.route.joints().iter().any(|joint| joint.end().is_none()) {
            // Two tubes are bent one by one.
            assert!(matches!(read_lra(text.as_bytes(), &settled), Err(LraError::AfterEnd { .. })));
            continue;
        }
        let taken = read_lra(text.as_bytes(), &settled).unwrap();
        assert_eq!(taken.changes, [], "{}", run.name.as_str());
        assert_eq!(taken.way.bends(), run.way().unwrap().bends(), "seams and ends stay as they were chosen");
        let back = apply(&job, &Edit::Route(RouteEdit::TakeWay { run: run.id, way: taken.way })).unwrap().job;
        let (before, after) = (workup(&job, run.id).unwrap(), workup(&back, run.id).unwrap());
        // A table is written to hundredths, which bends turn into a few tenths at the far end.
        for (one, other) in before.bends.iter().zip(&after.bends) {
            assert!((one.angle - other.angle).abs() < 0.2 && (one.radius.mm() - other.radius.mm()).abs() < 0.02);
        }
        assert!((before.totals.unwrap().developed.mm() - after.totals.unwrap().developed.mm()).abs() < 2.0);
    }
}

#[test]
fn a_table_that_does_not_suit_is_refused_with_where_and_how_much() {
    let job = demo();
    let run = Survey::new(&job).settle(&job.runs()[0]);
    let refused = |text: &str| read_lra(text.as_bytes(), &run).unwrap_err().to_string();
    let head = "bend,length_mm,rotation_deg,angle_deg,radius_mm\n";
    assert!(
        refused(&format!("{head}1,100,0,ninety,95\nend,50,,,\n"))
            .contains("line 2, angle_deg: \u{201c}ninety\u{201d} is no number")
    );
    assert!(refused(&format!("{head}1,100,0,45,95\n")).contains("last row"));
    assert!(refused(&format!("{head}1,100,0,270,95\nend,50,,,\n")).contains("an angle of 270"));
    assert!(refused(&format!("{head}1,100,0,45,95\nend,50,,,\n")).contains("off port B"));
}

#[test]
fn a_benders_table_keeps_what_was_decided_and_says_what_it_changes() {
    let job = demo();
    let run = job.runs().iter().find(|run| run.way().is_some_and(|way| way.bends().len() > 1)).unwrap();
    let seams = SeamCount::new(3).unwrap();
    let job = apply(&job, &pies(&job, run.id, 1, Some(3), PieEnds::Mitred)).unwrap().job;
    let job = apply(&job, &pies(&job, run.id, 0, None, PieEnds::Square)).unwrap().job;
    let lock = Lock::Angle { bend: bend(&job, run.id, 1), angle: workup(&job, run.id).unwrap().bends[1].angle };
    let job = apply(&job, &RouteEdit::SetLock { run: run.id, lock, on: true }.into()).unwrap().job;
    let settled = Survey::new(&job).settle(job.run(run.id).unwrap());
    let text = lra_csv(&workup(&job, run.id).unwrap()).unwrap().unwrap();
    // The bender made bend 1 of another radius, whole rows further off than rounding: both straights beside it shorter.
    let mut rows: Vec<Vec<String>> = text.lines().map(|line| line.split(',').map(str::to_owned).collect()).collect();
    let (angle, radius): (f64, f64) = (rows[1][3].parse().unwrap(), rows[1][4].parse().unwrap());
    let shorter = 2.0 * (angle.to_radians() / 2.0).tan();
    rows[1][4] = format!("{:.2}", radius + 2.0);
    for row in [1, 2] {
        let length: f64 = rows[row][1].parse().unwrap();
        rows[row][1] = format!("{:.2}", length - shorter);
    }
    // As a spreadsheet in another language saves it.
    let lines = rows.iter().map(|row| row.iter().map(|cell| cell.replace('.', ",")).collect::<Vec<_>>().join(";"));
    let file = format!("sep=;\r\n{}\r\n;;;;\r\n", lines.collect::<Vec<_>>().join("\r\n").replace('\u{feff}', ""));
    let taken = read_lra(file.as_bytes(), &settled).unwrap();
    let makes: Vec<_> = taken.way.bends().iter().take(2).map(|bend| bend.make.unwrap()).collect();
    let chosen = |seams, ends| BendMake::Pies { seams, ends };
    assert_eq!(makes, [chosen(None, PieEnds::Square), chosen(Some(seams), PieEnds::Mitred)]);
    let kept = apply(&job, &RouteEdit::TakeWay { run: run.id, way: taken.way.clone() }.into()).unwrap().job;
    assert_eq!(bend(&kept, run.id, 1), bend(&job, run.id, 1), "they are the same bends");
    assert_eq!(kept.run(run.id).unwrap().route.locks(), [lock]);
    let says: Vec<&str> = taken.changes.iter().map(|change| change.mm.as_str()).collect();
    assert!(says.iter().any(|text| text.starts_with("the radius of bend 1 ")), "{says:?}");
    assert!(says.iter().any(|text| text.starts_with("straight 2 ")) && says.len() <= 4, "{says:?}");
}

#[test]
fn names_in_other_scripts_are_in_the_solid() {
    let (run, path) = pipes().remove(0);
    let name = "R\u{f6}hre \u{5de6}'s";
    let text = pipe_step(&[Hollow::tube(path.clone(), run.tube, name)], name).unwrap();
    assert!(text.contains("'R\\X4\\000000F6\\X0\\hre \\X4\\00005DE6\\X0\\''s'"), "{}", &text[text.len() - 900..]);
    assert!(text.is_ascii());
}

#[test]
fn a_pipe_whose_bends_meet_has_no_triangle_of_nothing_and_one_too_tight_no_solid() {
    let (run, path) = pipes().into_iter().find(|(_, path)| path.legs().len() > 1).unwrap();
    let mut legs = path.legs().to_vec();
    for leg in &mut legs {
        leg.straight = 0.0;
    }
    let start = nook_geometry::Point::new(0.0, 0.0, 0.0).unwrap();
    let along = nook_geometry::Direction::new(1.0, 0.0, 0.0).unwrap();
    let meeting = Path::new(start, along, legs.clone(), 0.0);
    let body = Hollow::tube(meeting, run.tube, "pipe");
    let facets = pipe_part(&body).facets;
    let corner = |at: u32| facets.vertices[usize::try_from(at).unwrap()];
    for [a, b, c] in facets.triangles.iter().map(|corners| corners.map(corner)) {
        let side = |p: [f64; 3], q: [f64; 3]| (0..3).map(|i| (p[i] - q[i]).powi(2)).sum::<f64>().sqrt();
        assert!(side(a, b).min(side(b, c)).min(side(c, a)) > 1e-4, "{a:?} {b:?} {c:?}");
    }
    assert!(pipe_step(&[body], "pipe").is_ok());
    legs[1].bend.radius = run.tube.od() / 2.0;
    let tight = pipe_step(&[Hollow::tube(Path::new(start, along, legs, 0.0), run.tube, "pipe")], "pipe").unwrap_err();
    assert!(tight.to_string().starts_with("bend 2 has a centre-line radius of"), "{tight}");
}

#[test]
fn the_drawing_says_its_unit() {
    let (_, path) = pipes().remove(0);
    let text = String::from_utf8(pipe_dxf(&path).unwrap()).unwrap();
    let lines: Vec<&str> = text.lines().map(str::trim).collect();
    let at = lines.iter().position(|line| *line == "$INSUNITS").expect("it says its unit");
    assert_eq!(lines[at + 2], "4", "millimetres");
}
