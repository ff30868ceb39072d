//! What is printed for a branch, put back onto the pipe by numbers: the hole on the tube's skin, the cope round the branch.

#![allow(clippy::unwrap_used, clippy::panic, reason = "a test fails by panicking")]

use nalgebra::Vector3;
use nook_core::edit::BranchChange;
use nook_core::join::BranchKind;
use nook_core::route::{AlongAnchor, LegEnd};
use nook_core::{Edit, Job, JoinEdit, PartRef, RunId, apply, workup};
use nook_formats::{branch_template, fittings_csv, packet, read_job, write_job};
use nook_geometry::units::{AlongLeg, BranchAngle, BranchOffset, Rotation};

type V3 = Vector3<f64>;

/// The demo's cold side with a stub that leans and stands aside, on its longest straight.
fn let_in() -> (Job, RunId) {
    let job = read_job(include_bytes!("../../../../demo/pellow-van.json")).unwrap();
    let run = RunId(38);
    let all = workup(&job, run).unwrap();
    let long = all.straights.iter().max_by(|p, q| p.length.mm().total_cmp(&q.length.mm())).unwrap();
    let at =
        AlongAnchor { leg: long.straight, from: LegEnd::Start, mm: AlongLeg::new(long.length.mm() * 0.4).unwrap() };
    let applied = apply(&job, &Edit::Join(JoinEdit::AddBranch { run, at, kind: BranchKind::Recirculation })).unwrap();
    let Some(PartRef::Branch { branch, .. }) = applied.made.first().copied() else { panic!("it names what it made") };
    let change = |to| Edit::Join(JoinEdit::ChangeBranch { run, branch, to });
    let edits = vec![
        change(BranchChange::Clock { clock: Rotation::new(70.0).ok() }),
        change(BranchChange::Angle { angle: BranchAngle::new(55.0).ok() }),
        change(BranchChange::Offset { offset: BranchOffset::new(6.0).ok() }),
    ];
    (apply(&applied.job, &Edit::Together { edits }).unwrap().job, run)
}

/// The places of a path of a drawing, by its id.
fn path(svg: &str, id: &str) -> Vec<[f64; 2]> {
    let tag = svg.split('<').find(|tag| tag.contains(&format!("id=\"{id}\""))).unwrap();
    let data = tag.split(" d=\"").nth(1).unwrap().split('"').next().unwrap();
    let numbers: Vec<f64> = data
        .split(|c: char| !(c.is_ascii_digit() || c == '.' || c == '-'))
        .filter_map(|number| number.parse().ok())
        .collect();
    numbers.chunks_exact(2).map(|pair| [pair[0], pair[1]]).collect()
}

#[test]
fn a_printed_template_put_back_on_the_pipe_is_the_seam() {
    let (job, run) = let_in();
    let all = workup(&job, run).unwrap();
    let branch = all.branches.iter().find(|one| one.kind == BranchKind::Recirculation).unwrap().clone();
    let svg = branch_template(&all, branch.branch).unwrap();
    let straight = all.straights.iter().find(|one| one.straight == branch.straight).unwrap();
    let (forward, out) = (V3::from(straight.along), V3::from(branch.out));
    let pierces = V3::from(branch.pierces);
    let (main, radius) = (all.od.mm() / 2.0, branch.od.mm() / 2.0);
    // The clock it is said to be at, from world up made square to travel; clockwise for who looks from A to B.
    let up = (V3::z() - forward * forward.z).normalize();
    let at_clock = |clock: f64| up * clock.cos() + forward.cross(&up) * clock.sin();
    let clock = branch.clock.to_radians();
    let side = (out - forward * forward.dot(&out)).normalize();
    assert!((side - at_clock(clock)).norm() < 1e-6, "it leaves at its clock");
    // From what is written: so far round the skin from the line that faces up, its axis pierces it.
    let middle_of_tube = pierces - at_clock(branch.round.mm() / main) * main;
    let aside = branch.offset.mm();
    let left = side.cross(&forward);
    let meets = pierces - middle_of_tube;
    assert!((meets.norm() - main).abs() < 1e-6 && (meets.dot(&left) - aside).abs() < 1e-6);

    // Marked on the piece as it is sawn: so far from the place where its A face meets the line on the skin through the hole.
    let words: Vec<&str> = svg.split('>').map(|text| text.split('<').next().unwrap().trim()).collect();
    let words = words.join(" ");
    let said = words.split("on piece ").nth(1).unwrap();
    let name = said.split(',').next().unwrap();
    let from_a: f64 = said.split("through it ").nth(1).unwrap().split(" mm").next().unwrap().parse().unwrap();
    let piece = all.pieces.iter().find(|piece| piece.name == name).unwrap();
    let face = &piece.solids[0].solid;
    let marked = pierces - forward * from_a;
    let off = (marked - V3::from(face.from)).dot(&V3::from(face.from_normal));
    assert!(off.abs() <= 0.05 + 1e-9, "{off} mm off the sawn face, printed to a tenth");

    // The hole, laid on the tube with its arrow to B and read from outside, is one radius from the branch's axis all round.
    let hole = path(&svg, "hole");
    let paper = (2.0 * main + 0.2) / (2.0 * main);
    // On the page its middle is where the two dashed lines cross.
    let lines: Vec<&str> = svg.split('<').filter(|tag| tag.starts_with("line") && tag.contains("dasharray")).collect();
    let value = |tag: &str, name: &str| -> f64 {
        tag.split(&format!(" {name}=\"")).nth(1).unwrap().split('"').next().unwrap().parse().unwrap()
    };
    let (cx, cy) = (value(lines[1], "x1"), value(lines[0], "y1"));
    for [x, y] in &hole {
        let (along, round) = (x - cx, (cy - y) / paper);
        // Up the page is to the left of who travels: against the clock.
        let turn = clock - round / main;
        let place = middle_of_tube + forward * along + at_clock(turn) * main;
        let from_axis = (place - pierces) - out * (place - pierces).dot(&out);
        assert!((from_axis.norm() - radius).abs() < 0.01, "{}", from_axis.norm());
    }

    // The cope, wrapped round the branch with "to B" towards B, print outside, its lowest places furthest in, lies on the skin.
    let cope = path(&svg, "cope");
    let curve = &cope[..cope.len() - 2];
    let [x0, foot] = [curve[0][0], curve.iter().map(|place| place[1]).fold(f64::MIN, f64::max)];
    let girth = curve.last().unwrap()[0] - x0;
    let forward_side = (forward - out * out.dot(&forward)).normalize();
    let left_side = out.cross(&forward_side);
    let skin = |t: f64, phi: f64| {
        let place = pierces + out * t + (forward_side * phi.cos() + left_side * phi.sin()) * radius;
        let from = place - middle_of_tube;
        (from - forward * forward.dot(&from)).norm() - main
    };
    // How far in the square end must be for one place of the curve to meet the skin; all others then do too.
    let mut depth: Option<f64> = None;
    for [x, y] in curve {
        let (phi, height) = ((x - x0) / girth * std::f64::consts::TAU, foot - y);
        let (mut low, mut high) = (-main, main);
        for _ in 0..60 {
            let t = f64::midpoint(low, high);
            if skin(t, phi) < 0.0 { low = t } else { high = t }
        }
        let end = low - height;
        let known = *depth.get_or_insert(end);
        assert!((end - known).abs() < 0.01, "{end} {known} at {phi}");
    }
    assert!(svg.contains("width=\"100\"") && svg.contains("Recirculation stub on straight"));
}

#[test]
fn what_is_let_in_is_listed_packed_and_kept() {
    let (job, run) = let_in();
    let all = workup(&job, run).unwrap();
    let rows = fittings_csv(&all).unwrap().unwrap();
    let mut reader = csv::Reader::from_reader(rows.as_bytes());
    let row = reader.records().map(Result::unwrap).find(|row| row[0].starts_with("Recirculation")).unwrap();
    let said: Vec<f64> = (11..17).map(|column| row[column].parse().unwrap()).collect();
    let one = all.branches.iter().find(|one| one.kind == BranchKind::Recirculation).unwrap();
    let figures = [one.od.mm(), one.reach.mm(), one.angle, one.offset.mm(), one.round.mm(), one.from_start.mm()];
    assert!(said.iter().zip(figures).all(|(said, figure)| (said - figure).abs() <= 0.005), "{said:?} {figures:?}");
    assert!(packet(&all).unwrap().iter().any(|file| file.name.starts_with("branch-")));
    assert_eq!(read_job(write_job(&job).unwrap().as_bytes()).unwrap(), job);
}

/// A file in which something is let in where nothing can be is refused with what is wrong, and nothing else is.
#[test]
fn a_file_with_a_branch_on_nothing_is_refused() {
    let (job, _) = let_in();
    let good: serde_json::Value = serde_json::from_str(&write_job(&job).unwrap()).unwrap();
    let run = good["job"]["runs"].as_array().unwrap().iter().position(|run| run["id"] == 38).unwrap();
    let branches =
        |file: &mut serde_json::Value| -> serde_json::Value { file["job"]["runs"][run]["route"]["branches"].take() };
    let refused = |change: &dyn Fn(&mut Vec<serde_json::Value>)| {
        let mut file = good.clone();
        let mut all = branches(&mut file).as_array().unwrap().clone();
        change(&mut all);
        file["job"]["runs"][run]["route"]["branches"] = all.into();
        read_job(&serde_json::to_vec(&file).unwrap()).unwrap_err().to_string()
    };
    type Change = &'static dyn Fn(&mut Vec<serde_json::Value>);
    let changes: [(&str, Change); 6] = [
        ("does not have", &|all| all[0]["at"]["leg"] = 77.into()),
        ("number", &|all| all[1]["id"] = all[0]["id"].clone()),
        ("angle", &|all| all[0]["angle"] = 5.into()),
        ("branch stands out", &|all| all[0]["reach"] = (-1e300).into()),
        ("kind", &|all| all[0]["kind"] = "window".into()),
        ("colour", &|all| all[0]["colour"] = "red".into()),
    ];
    for (words, change) in changes {
        let said = refused(change);
        assert!(said.contains(words), "{words}: {said}");
    }
    assert_eq!(read_job(&serde_json::to_vec(&good).unwrap()).unwrap(), job);
}
