//! Brackets and jigs on paper: what is drawn is read back and measured.

#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

use nook_core::Job;
use nook_core::job::upgraded;
use nook_core::workup::{bay, jig};
use nook_formats::{bracket_svg, jig_svg};
use svg::node::element::tag::{Circle, Line, Rectangle, SVG};
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

#[test]
fn a_bracket_is_drawn_at_true_scale_with_its_holes_where_they_are_drilled() {
    let bay = bay(&demo());
    let cooler = bay.components.iter().find(|one| one.name == "charge cooler").unwrap();
    for mount in &cooler.placing.mounts {
        let bracket = mount.bracket.as_ref().unwrap();
        let text = bracket_svg(&cooler.name, mount).unwrap();
        let sheet = &read(&text, SVG, &["width", "height"])[0];
        let boxes = read(&text, Rectangle, &["x", "y", "width", "height"]);
        let outline = &boxes[0];
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
