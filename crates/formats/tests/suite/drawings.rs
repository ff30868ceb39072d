//! Brackets and jigs on paper: what is drawn is read back and measured.

#![allow(clippy::unwrap_used, clippy::panic, reason = "a test fails by panicking")]

use nook_core::Job;
use nook_core::edit::SupportChange;
use nook_core::job::upgraded;
use nook_core::join::SupportKind;
use nook_core::measure::{End, Neck};
use nook_core::route::{AlongAnchor, LegEnd, SupportDraft};
use nook_core::workup::{bay, jig};
use nook_core::{Edit, JoinEdit, MeasureEdit, PartRef, apply, workup};
use nook_formats::{bracket_svg, jig_svg, neck_svg, packet, tab_svg};
use nook_geometry::Direction;
use nook_geometry::units::{AlongLeg, StandsOut, Straight};
use svg::node::element::path::{Command, Data};
use svg::node::element::tag::{self, Circle, Line, Rectangle, SVG};
use svg::parser::Event;

fn demo() -> Job {
    let file: serde_json::Value = serde_json::from_str(include_str!("../../../../demo/pellow-van.json")).unwrap();
    let version = u32::try_from(file["version"].as_u64().unwrap()).unwrap();
    serde_json::from_value(upgraded(version, file["job"].clone())).unwrap()
}

/// Numbers of the attributes of every such element, by their names.
fn read(text: &str, tag: &str, names: &[&str]) -> Vec<Vec<f64>> {
    let number = |value: &svg::node::Value| value.trim_end_matches("mm").parse::<f64>().unwrap();
    let all = svg::read(text).unwrap().filter_map(|event| match event {
        Event::Tag(of, kind, attributes) if of == tag && !matches!(kind, svg::node::element::tag::Type::End) => {
            Some(names.iter().map(|name| attributes.get(*name).map_or(f64::NAN, number)).collect())
        }
        _ => None,
    });
    all.collect()
}

/// Left, top, width and height of a pattern's outline, by its corners.
fn outline(text: &str) -> [f64; 4] {
    let found = svg::read(text).unwrap().find_map(|event| match event {
        Event::Tag("path", _, attributes) if attributes.get("id").is_some_and(|id| **id == *"outline") => {
            Some(Data::parse(attributes.get("d").unwrap()).unwrap())
        }
        _ => None,
    });
    let way = found.unwrap();
    let corners = way.iter().filter_map(|command| match command {
        Command::Move(_, to) | Command::Line(_, to) => Some([f64::from(to[0]), f64::from(to[1])]),
        _ => None,
    });
    let corners: Vec<[f64; 2]> = corners.collect();
    let least = |side: usize| corners.iter().map(|corner| corner[side]).fold(f64::INFINITY, f64::min);
    let most = |side: usize| corners.iter().map(|corner| corner[side]).fold(f64::NEG_INFINITY, f64::max);
    [least(0), least(1), most(0) - least(0), most(1) - least(1)]
}

#[test]
fn a_bracket_is_drawn_at_true_scale_with_its_holes_where_they_are_drilled() {
    let bay = bay(&demo());
    let cooler = bay.components.iter().find(|one| one.name == "charge cooler").unwrap();
    for mount in &cooler.placing.mounts {
        let bracket = mount.bracket.as_ref().unwrap();
        let text = bracket_svg(&cooler.name, mount).unwrap();
        let sheet = &read(&text, SVG, &["width", "height"])[0];
        let boxes = read(&text, Rectangle, &["x", "y", "width", "height"]);
        let outline = outline(&text);
        assert!((outline[2] - bracket.length.mm()).abs() < 1e-3 && (outline[3] - bracket.width.mm()).abs() < 1e-3);
        assert!(boxes.iter().any(|bar| (bar[2] - 100.0).abs() < 1e-9), "a bar to check the scale by");
        let holes = read(&text, Circle, &["cx", "cy", "r"]);
        assert_eq!(holes.len(), bracket.holes.len());
        for (drawn, hole) in holes.iter().zip(&bracket.holes) {
            assert!((drawn[0] - outline[0] - hole.along.mm()).abs() < 1e-3);
            // To the left along the pattern is up on the paper.
            let middle = outline[1] + outline[3] / 2.0;
            assert!((middle - drawn[1] - hole.aside.mm()).abs() < 1e-3);
            assert!((2.0 * drawn[2] - hole.diameter.mm()).abs() < 1e-3);
        }
        let lines = read(&text, Line, &["x1", "y1", "x2", "y2"]);
        for bend in &bracket.bends {
            let x = outline[0] + bend.along.mm();
            assert!(lines.iter().any(|line| (line[0] - x).abs() < 1e-3 && (line[2] - x).abs() < 1e-3), "{bend:?}");
        }
        for line in &lines {
            assert!(
                line[0] >= 0.0 && line[2] <= sheet[0] && line[1] >= 0.0 && line[3] <= sheet[1],
                "nothing is clipped"
            );
        }
    }
}

#[test]
fn a_jig_s_feet_and_heights_are_drawn_where_they_are_told() {
    let job = demo();
    for run in job.runs() {
        let jig = jig(&job, run.id).unwrap();
        let text = jig_svg(run.name.as_str(), &jig);
        let sheet = &read(&text, SVG, &["width", "height"])[0];
        let lines = read(&text, Line, &["x1", "y1", "x2", "y2"]);
        // The first line runs from foot to foot.
        let feet = &lines[0];
        let drawn = (feet[2] - feet[0]).hypot(feet[3] - feet[1]);
        let [a, b] = jig.posts.each_ref().map(|post| post.foot.map(|one| one.mm()));
        let told = (b[0] - a[0]).hypot(b[1] - a[1]);
        assert!((drawn - told).abs() < 2e-3, "{}: {drawn} and {told}", run.name.as_str());
        for post in &jig.posts {
            let height = post.height.mm();
            assert!(
                lines.iter().any(|line| (line[0] - line[2]).abs() < 1e-6 && (line[1] - line[3] - height).abs() < 2e-3),
                "an upright {height} high"
            );
        }
        for line in &lines {
            assert!(line.iter().all(|at| *at >= -1e-6), "{line:?}");
            assert!(line[0].max(line[2]) <= sheet[0] + 1e-6 && line[1].max(line[3]) <= sheet[1] + 1e-6, "{line:?}");
        }
    }
}

/// The line of a path, as places of the paper.
fn line_of(text: &str) -> Vec<[f64; 2]> {
    let data = svg::read(text).unwrap().find_map(|event| match event {
        Event::Tag(of, _, attributes) if of == tag::Path => attributes.get("d").map(ToString::to_string),
        _ => None,
    });
    let numbers = data.unwrap().replace(['M', 'L', 'z', 'Z', ','], " ");
    let numbers: Vec<f64> = numbers.split_whitespace().map(|one| one.parse().unwrap()).collect();
    numbers.chunks_exact(2).map(|pair| [pair[0], pair[1]]).collect()
}

#[test]
fn a_turned_neck_s_paper_wraps_into_the_plane_of_its_mitre() {
    let job = demo();
    let run = job.runs().iter().find(|run| run.name.as_str() == "Bottom coolant line").unwrap().clone();
    let mm = |length: f64| Straight::new(length).unwrap();
    let mut b = run.b.clone();
    let turned = Direction::from_gauge(b.out.heading() + 25.0, b.out.pitch() + 10.0).unwrap();
    let neck = Neck { length: mm(90.0), cut_back: mm(10.0), must_stay: mm(20.0), turned: Some(turned) };
    b.neck = Some(Box::new(neck));
    let edit = Edit::Measure(MeasureEdit::SetPort { run: run.id, end: End::B, port: b.clone() });
    let all = workup(&apply(&job, &edit).unwrap().job, run.id).unwrap();
    let text = neck_svg(&all, End::B).unwrap();
    assert!(neck_svg(&all, End::A).is_none(), "nothing is turned there");
    assert!(packet(&all).unwrap().iter().any(|file| file.name == "neck-B.svg" && file.text == text));
    let outline = line_of(&text);
    let (left, right) = (outline[0][0], outline[outline.len() - 1][0]);
    let girth = right - left;
    let radius = girth / std::f64::consts::TAU;
    assert!((radius - (b.od.get() / 2.0 + 0.1)).abs() < 1e-3, "round the neck and its own thickness");
    // Wrapped, the curve lies in a plane that leans by half of what the neck turns; its throat is at both ends.
    let saw = b.out.angle(turned) / 2.0;
    let base = outline[1][1];
    for [x, y] in &outline[1..outline.len() - 1] {
        let around = (x - left) / radius;
        let lean = b.od.get() / 2.0 * saw.tan() * (1.0 - around.cos());
        assert!((base - y - lean).abs() < 2e-3, "{x} {y}");
    }
    let mitre = all.ends[1].neck.as_ref().unwrap().mitre.as_ref().unwrap();
    assert!(
        (mitre.saw - saw.to_degrees()).abs() < 1e-6
            && text.contains(&format!("{:.1} mm from the component", mitre.lines[0].mm()))
    );
}

#[test]
fn a_tab_is_drawn_at_true_scale() {
    let job = demo();
    let run = job.runs().iter().find(|run| run.name.as_str() == "Top coolant line").unwrap();
    let leg = run.route.leg_id(1);
    let at = AlongAnchor { leg, from: LegEnd::Start, mm: AlongLeg::new(200.0).unwrap() };
    let support = SupportDraft { at, kind: SupportKind::Tab, to: None };
    let applied = apply(&job, &Edit::Join(JoinEdit::AddSupport { run: run.id, support })).unwrap();
    let Some(PartRef::Support { support, .. }) = applied.made.first().copied() else { panic!("it names what it made") };
    let stand_off = StandsOut::new(24.0).ok();
    let high = JoinEdit::ChangeSupport { run: run.id, support, to: SupportChange::StandOff { stand_off } };
    let all = workup(&apply(&applied.job, &Edit::Join(high)).unwrap().job, run.id).unwrap();
    let support = all.supports.iter().find(|one| one.kind == SupportKind::Tab).unwrap();
    let (id, tab) = (support.support, support.tab.clone().unwrap());
    let text = tab_svg(&all, id).unwrap();
    let outline = outline(&text);
    assert!((outline[2] - tab.length.mm()).abs() < 1e-3 && (outline[3] - tab.width.mm()).abs() < 1e-3);
    let hole = &read(&text, Circle, &["cx", "cy", "r"])[0];
    assert!((hole[0] - outline[0] - tab.hole.mm()).abs() < 1e-3 && (2.0 * hole[2] - tab.diameter.mm()).abs() < 1e-3);
    let lines = read(&text, Line, &["x1", "y1", "x2", "y2"]);
    assert!(
        lines
            .iter()
            .any(|line| (line[0] - outline[0] - tab.bend.mm()).abs() < 1e-3 && (line[2] - line[0]).abs() < 1e-6)
    );
}
