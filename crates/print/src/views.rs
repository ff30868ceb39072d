//! A pipe seen from three sides and from one corner, with its measures.

use nook_core::Workup;
use nook_core::workup::SolidWorkup;
use nook_geometry::units::LengthUnit;

use crate::flow::count;
use crate::fonts::Face;
use crate::page::{Align, DYE, Page, SOFT, Set};

/// How one looks at a pipe: what is to the right on the paper and what is up, in vehicle axes (x forward, y left, z up). Their cross
/// product points to the eye, so that nothing is mirrored.
#[derive(Debug, Clone, Copy)]
pub(crate) struct View {
    /// What it is called.
    pub(crate) name: &'static str,
    right: [f64; 3],
    up: [f64; 3],
    /// Which axes run to the right and up; nothing of the free view, which is not measured.
    axes: Option<[&'static str; 2]>,
}

const S2: f64 = std::f64::consts::FRAC_1_SQRT_2;
/// 1/sqrt(6).
const S6: f64 = 0.408_248_290_463_863;

/// From above, from the left, and from the front.
const SIDES: [View; 3] = [
    View { name: "From above", right: [1.0, 0.0, 0.0], up: [0.0, 1.0, 0.0], axes: Some(["forward", "left"]) },
    View { name: "From the left", right: [-1.0, 0.0, 0.0], up: [0.0, 0.0, 1.0], axes: Some(["back", "up"]) },
    View { name: "From the front", right: [0.0, 1.0, 0.0], up: [0.0, 0.0, 1.0], axes: Some(["left", "up"]) },
];
/// From above each corner of the vehicle.
const CORNERS: [View; 4] = [
    View { name: "From above, front left", right: [-S2, S2, 0.0], up: [-S6, -S6, 2.0 * S6], axes: None },
    View { name: "From above, front right", right: [S2, S2, 0.0], up: [-S6, S6, 2.0 * S6], axes: None },
    View { name: "From above, rear left", right: [-S2, -S2, 0.0], up: [S6, -S6, 2.0 * S6], axes: None },
    View { name: "From above, rear right", right: [S2, -S2, 0.0], up: [S6, S6, 2.0 * S6], axes: None },
];

/// The three sides, and the corner from which a pipe's line is seen longest.
pub(crate) fn views(workup: &Workup) -> [View; 4] {
    let named = names(workup);
    let seen = |view: &View| -> f64 {
        let flat = named.iter().map(|(_, at)| view.flat(*at)).collect::<Vec<_>>();
        flat.windows(2).map(|pair| (pair[1][0] - pair[0][0]).hypot(pair[1][1] - pair[0][1])).sum()
    };
    let corner = CORNERS.into_iter().max_by(|p, q| seen(p).total_cmp(&seen(q))).unwrap_or(CORNERS[0]);
    let [above, left, front] = SIDES;
    [above, left, front, corner]
}

/// Scales that are drawn at: so many mm of pipe to one of paper.
const SCALES: [f64; 14] = [1.0, 1.5, 2.0, 2.5, 3.0, 4.0, 5.0, 6.0, 7.5, 8.0, 10.0, 12.5, 15.0, 20.0];
/// Room in mm to the left of the pipe and below it for its measures, and to the right and above.
const MEASURES: [f64; 2] = [20.0, 18.0];
const BESIDE: [f64; 2] = [7.0, 11.0];
/// How far names stand off the tube, in mm.
const OFF: f64 = 3.6;
/// Figures of measures stand so far apart at least, in mm.
const APART: f64 = 3.4;
/// Points round a tube's rim that is drawn.
const RIM_POINTS: u32 = 36;

pub(crate) type V3 = [f64; 3];

fn dot(a: V3, b: V3) -> f64 {
    a[0] * b[0] + a[1] * b[1] + a[2] * b[2]
}

fn cross(a: V3, b: V3) -> V3 {
    [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]]
}

fn unit(a: V3) -> V3 {
    let length = dot(a, a).sqrt();
    a.map(|part| part / length)
}

impl View {
    /// Where a place is on the paper, in mm of the pipe, up counted upwards.
    pub(crate) fn flat(&self, at: V3) -> [f64; 2] {
        [dot(self.right, at), dot(self.up, at)]
    }

    /// How near to the eye a place is.
    fn nearness(&self, at: V3) -> f64 {
        dot(cross(self.right, self.up), at)
    }

    /// Draws the pipe with its measures into a box of the page: its upper left corner, and its size, in mm.
    pub(crate) fn draw(&self, page: &mut Page, workup: &Workup, corner: [f64; 2], size: [f64; 2], unit: LengthUnit) {
        self.draw_named(page, workup, &names(workup), Some(unit), corner, size);
    }

    /// The same with other places named, and measures only in a unit.
    pub(crate) fn draw_named(
        &self,
        page: &mut Page,
        workup: &Workup,
        named: &[(String, V3)],
        measured: Option<LengthUnit>,
        corner: [f64; 2],
        size: [f64; 2],
    ) {
        let radius = workup.od.mm() / 2.0;
        let solids: Vec<&SolidWorkup> = workup.pieces.iter().flat_map(|piece| &piece.solids).collect();
        let mut shapes: Vec<(f64, Vec<[f64; 2]>)> = solids
            .iter()
            .map(|one| {
                let middle = std::array::from_fn(|axis| (one.solid.from[axis] + one.solid.to[axis]) / 2.0);
                (self.nearness(middle), self.outline(one, radius))
            })
            .collect();
        shapes.sort_by(|p, q| p.0.total_cmp(&q.0));
        let all = || shapes.iter().flat_map(|(_, shape)| shape.iter());
        let ends = |axis: usize| {
            all()
                .map(|point| point[axis])
                .fold([f64::INFINITY, f64::NEG_INFINITY], |[low, high], at| [low.min(at), high.max(at)])
        };
        let [wide, tall] = [ends(0), ends(1)];
        let free = [0, 1].map(|axis| size[axis] - MEASURES[axis] - BESIDE[axis]);
        let needs = ((wide[1] - wide[0]) / free[0]).max((tall[1] - tall[0]) / free[1]);
        let scale = SCALES.into_iter().find(|scale| *scale >= needs).unwrap_or(needs.ceil());
        let middle = [(wide[0] + wide[1]) / 2.0, (tall[0] + tall[1]) / 2.0];
        let centre = [corner[0] + MEASURES[0] + free[0] / 2.0, corner[1] + BESIDE[1] + free[1] / 2.0];
        let put = |[x, y]: [f64; 2]| [centre[0] + (x - middle[0]) / scale, centre[1] - (y - middle[1]) / scale];
        for (_, shape) in &shapes {
            let shape: Vec<[f64; 2]> = shape.iter().map(|point| put(*point)).collect();
            page.polygon(&shape, "#eef0f2", DYE, 0.2);
        }
        let name = match self.axes {
            Some([right, up]) => format!("{}, 1 : {scale}; right is {right}, up is {up}", self.name),
            None => format!("{}, 1 : {scale}", self.name),
        };
        page.text([corner[0], corner[1] + 3.5], Set::new(Face::Bold, 3.2), &name);
        let places: Vec<[f64; 2]> = named.iter().map(|(_, at)| put(self.flat(*at))).collect();
        for (index, (label, _)) in named.iter().enumerate() {
            let [x, y] = beside(&places, index, radius / scale + OFF);
            page.text([x, y + 1.2], Set::new(Face::Bold, 3.4).align(Align::Middle), label);
        }
        let Some(unit) = measured else { return };
        if self.axes.is_some() {
            let low = put([wide[0], tall[0]]);
            self.measures(page, named, &put, low, unit);
        } else {
            straights(page, workup, &|at| put(self.flat(at)), radius / scale + OFF, unit);
        }
    }

    /// The silhouette of a stretch of tube between two planes: what its two rims' points span.
    fn outline(&self, one: &SolidWorkup, radius: f64) -> Vec<[f64; 2]> {
        let solid = &one.solid;
        let axis = unit(std::array::from_fn(|at| solid.to[at] - solid.from[at]));
        let least = if axis[0].abs() < 0.7 { [1.0, 0.0, 0.0] } else { [0.0, 1.0, 0.0] };
        let first = unit(cross(axis, least));
        let second = cross(axis, first);
        let mut points = Vec::new();
        for step in 0..RIM_POINTS {
            let (sin, cos) = (std::f64::consts::TAU * f64::from(step) / f64::from(RIM_POINTS)).sin_cos();
            let out: V3 = std::array::from_fn(|at| (first[at] * cos + second[at] * sin) * radius);
            for (at, normal) in [(solid.from, solid.from_normal), (solid.to, solid.to_normal)] {
                // Along the axis until the plane is met.
                let along = -dot(out, normal) / dot(axis, normal);
                points.push(self.flat(std::array::from_fn(|k| at[k] + out[k] + axis[k] * along)));
            }
        }
        hull(points)
    }

    /// How far every named place is from A, to the right and up, below and beside the drawing.
    fn measures(
        &self,
        page: &mut Page,
        named: &[(String, V3)],
        put: &dyn Fn([f64; 2]) -> [f64; 2],
        [left, bottom]: [f64; 2],
        unit: LengthUnit,
    ) {
        let Some((_, a)) = named.first() else { return };
        let from = self.flat(*a);
        let set = Set::new(Face::Text, 2.9);
        for axis in 0..2 {
            let mut marks: Vec<(f64, f64)> = named
                .iter()
                .map(|(_, at)| {
                    let flat = self.flat(*at);
                    (put(flat)[axis], flat[axis] - from[axis])
                })
                .collect();
            marks.sort_by(|p, q| p.0.total_cmp(&q.0));
            marks.dedup_by(|p, q| (p.1 - q.1).abs() < 0.05);
            let mut texts: Vec<f64> = marks.iter().map(|mark| mark.0).collect();
            spread(&mut texts, APART);
            for ((at, value), text) in marks.iter().zip(&texts) {
                let figure = unit.figure(*value);
                if axis == 0 {
                    page.line([*at, bottom + 1.5], [*at, bottom + 3.5], 0.15, SOFT);
                    page.line([*at, bottom + 3.5], [*text, bottom + 6.5], 0.15, SOFT);
                    page.text_up([text + 1.0, bottom + 7.0], set.align(Align::Right), &figure);
                } else {
                    page.line([left - 1.5, *at], [left - 3.5, *at], 0.15, SOFT);
                    page.line([left - 3.5, *at], [left - 6.5, *text], 0.15, SOFT);
                    page.text([left - 7.0, text + 1.0], set.align(Align::Right), &figure);
                }
            }
        }
    }
}

/// A, each bend's corner by its number, and B.
fn names(workup: &Workup) -> Vec<(String, V3)> {
    let mut all = vec![("A".to_owned(), workup.ends[0].tube_end)];
    let corners = workup.bends.iter().enumerate();
    all.extend(corners.map(|(index, bend)| ((index + 1).to_string(), bend.vertex.map(|at| at.mm()))));
    all.push(("B".to_owned(), workup.ends[1].tube_end));
    all
}

/// Where a name stands: beyond an end, or outside a corner, so far off its place.
fn beside(places: &[[f64; 2]], index: usize, off: f64) -> [f64; 2] {
    let here = places[index];
    let away = |other: [f64; 2]| [here[0] - other[0], here[1] - other[1]];
    let before = index.checked_sub(1).map(|before| away(places[before]));
    let after = places.get(index + 1).map(|after| away(*after));
    let size = |way: [f64; 2]| way[0].hypot(way[1]);
    let short = |way: [f64; 2]| if size(way) > 1e-6 { way.map(|part| part / size(way)) } else { [0.0, 0.0] };
    let ways = [before, after].map(|way| way.map_or([0.0, 0.0], short));
    let sum = [ways[0][0] + ways[1][0], ways[0][1] + ways[1][1]];
    // Where the pipe goes straight on as it is seen, above it.
    let out = if size(sum) > 0.15 { short(sum) } else { short([ways[0][1], -ways[0][0]]) };
    [here[0] + out[0] * off, here[1] + out[1] * off]
}

/// The length of every straight beside its middle.
fn straights(page: &mut Page, workup: &Workup, put: &dyn Fn(V3) -> [f64; 2], off: f64, unit: LengthUnit) {
    let named = names(workup);
    for (straight, pair) in workup.straights.iter().zip(named.windows(2)) {
        let [p, q] = [put(pair[0].1), put(pair[1].1)];
        // Beside the tube, to the right of it as it is seen.
        let length = (q[0] - p[0]).hypot(q[1] - p[1]).max(1e-6);
        let aside = [-(q[1] - p[1]) / length, (q[0] - p[0]) / length];
        let aside = if aside[0] < 0.0 { aside.map(|part| -part) } else { aside };
        let [x, y] = [0, 1].map(|axis| (p[axis] + q[axis]) / 2.0 + aside[axis] * off);
        let figure = unit.figure(straight.length.mm());
        page.text([x - 1.0, y + 1.0], Set::new(Face::Text, 2.9).ink(DYE), &figure);
    }
}

/// Places along a line moved apart, in their order, so that they are `apart` mm from each other at least.
fn spread(places: &mut [f64], apart: f64) {
    let wanted = places.to_vec();
    for at in 1..places.len() {
        places[at] = places[at].max(places[at - 1] + apart);
    }
    // Back by half of what they were moved on the mean, so that they stay over their marks.
    let moved: f64 = places.iter().zip(&wanted).map(|(now, then)| now - then).sum();
    let back = moved / count(places.len().max(1));
    places.iter_mut().for_each(|place| *place -= back);
}

/// The convex outline of points, anticlockwise. Source: A. M. Andrew, Another efficient algorithm for convex hulls in two dimensions,
/// Information Processing Letters 9 (1979).
fn hull(mut points: Vec<[f64; 2]>) -> Vec<[f64; 2]> {
    points.sort_by(|p, q| p[0].total_cmp(&q[0]).then(p[1].total_cmp(&q[1])));
    let turns = |a: [f64; 2], b: [f64; 2], c: [f64; 2]| (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);
    let half = |points: &mut dyn Iterator<Item = [f64; 2]>| {
        let mut chain: Vec<[f64; 2]> = Vec::new();
        for point in points {
            while let [.., before, last] = chain[..]
                && turns(before, last, point) <= 0.0
            {
                chain.pop();
            }
            chain.push(point);
        }
        chain.pop();
        chain
    };
    let mut all = half(&mut points.iter().copied());
    all.extend(half(&mut points.iter().rev().copied()));
    all
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn no_view_is_mirrored() {
        // By hand: where the eye is.
        let eyes = [[0.0, 0.0, 1.0], [0.0, 1.0, 0.0], [1.0, 0.0, 0.0]];
        for (view, eye) in SIDES.iter().zip(eyes) {
            let found = cross(view.right, view.up);
            assert!(found.iter().zip(eye).all(|(part, want)| (part - want).abs() < 1e-12), "{}: {found:?}", view.name);
        }
        // Front is x above 0, left y above 0.
        for (view, signs) in CORNERS.iter().zip([[1.0, 1.0], [1.0, -1.0], [-1.0, 1.0], [-1.0, -1.0]]) {
            let eye = cross(view.right, view.up);
            let wanted = [signs[0], signs[1], 1.0].map(|part| part / 3.0_f64.sqrt());
            assert!(eye.iter().zip(wanted).all(|(part, want)| (part - want).abs() < 1e-9), "{}: {eye:?}", view.name);
        }
        for view in SIDES.into_iter().chain(CORNERS) {
            assert!(dot(view.right, view.up).abs() < 1e-12 && (dot(view.up, view.up) - 1.0).abs() < 1e-12);
        }
    }

    #[test]
    fn a_hull_holds_its_points() {
        let points = vec![[0.0, 0.0], [4.0, 0.0], [4.0, 3.0], [0.0, 3.0], [2.0, 1.0], [4.0, 1.5]];
        assert_eq!(hull(points), [[0.0, 0.0], [4.0, 0.0], [4.0, 3.0], [0.0, 3.0]]);
    }

    #[test]
    fn figures_stand_apart_in_their_order() {
        let mut places = [1.0, 1.1, 1.2, 40.0];
        spread(&mut places, 3.0);
        assert!(places.windows(2).all(|pair| pair[1] - pair[0] >= 3.0 - 1e-9));
    }
}
