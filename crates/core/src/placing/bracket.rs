//! A bracket from a mounting point to a hole of the car: its flat pattern, its bends and holes, and how far it gives.

use nalgebra::Point3;
use thiserror::Error;

use super::beam::{Beam, Compliance, Elastic, Section};
use crate::measure::BracketStock;
use crate::stock::Material;
use nook_geometry::Vector;

/// One end of a bracket: a hole in a face, and the bolt.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct BracketEnd {
    /// The middle of the hole, on the face that the bracket lies against.
    pub at: Point3<f64>,
    /// Out of that face, of length 1.
    pub out: Vector,
    /// The bolt's nominal diameter in mm.
    pub bolt: f64,
    /// Whether a second bolt keeps it from turning about the first.
    pub second: bool,
}

/// A hole of the flat pattern.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct FlatHole {
    /// From the end at the component, along the pattern, and from its middle line to the left, in mm.
    pub at: [f64; 2],
    /// Its diameter in mm.
    pub diameter: f64,
    /// Whether it is for the component; else for the car.
    pub component: bool,
}

/// A bend of the flat pattern.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct FlatBend {
    /// Where its middle line lies, along the pattern, in mm.
    pub at: f64,
    /// Degrees, above zero towards whoever looks at the pattern.
    pub angle: f64,
    /// Length of the neutral line round it, in mm.
    pub allowance: f64,
}

/// A bracket as it is cut and bent. The pattern is seen with the face that lies against the component down; along it runs from
/// the component to the car.
#[derive(Debug, Clone, PartialEq)]
pub struct BracketPlan {
    /// What it is cut from.
    pub stock: BracketStock,
    /// Length to cut, in mm.
    pub length: f64,
    /// Width of the pattern in mm: of strip its own, of angle both legs'.
    pub width: f64,
    /// Its holes, the component's first.
    pub holes: Vec<FlatHole>,
    /// Its bends; none of angle, whose heel runs along its middle line.
    pub bends: Vec<FlatBend>,
    /// Where its middle surface goes, hole to hole, as its legs meet.
    pub line: Vec<Point3<f64>>,
    /// Across the strip, of length 1.
    pub across: Vector,
    /// Its mass in kg, holes not taken off.
    pub mass: f64,
    beams: Vec<Beam>,
}

/// Why there is no such bracket.
#[derive(Debug, Clone, Copy, PartialEq, Error)]
pub enum BracketError {
    /// The holes lie beside each other by more than the strip's width takes.
    #[error("the holes lie {aside:.0} mm beside each other; strip {needed:.0} mm wide takes that, or a piece of angle")]
    Narrow {
        /// How far beside, in mm.
        aside: f64,
        /// The width that takes it, in mm.
        needed: f64,
    },
    /// No two bends or fewer lead from one face to the other with room for washers.
    #[error("no strip with two bends or fewer leads there with room for the washers; move the hole on the car")]
    NoWay,
    /// Angle joins faces that are square to each other.
    #[error("angle joins faces square to each other; these are at {degrees:.0} degrees, so bend strip")]
    NotSquare {
        /// The angle between them, in degrees.
        degrees: f64,
    },
    /// A hole would lie off the leg of the angle, or in its heel.
    #[error("a hole would lie {from_heel:.0} mm from the heel; a leg of this angle takes {least:.0} to {most:.0} mm")]
    OffTheLeg {
        /// From the heel's outside, in mm.
        from_heel: f64,
        /// Least, in mm.
        least: f64,
        /// Most, in mm.
        most: f64,
    },
}

/// Neutral line's place from the inside of a bend, as a share of the thickness. Source: Machinery's Handbook, Bending Sheet
/// Metal: 0.44 for bends in air where nothing was measured; a test strip tells better.
pub const NEUTRAL: f64 = 0.44;
/// From a hole's middle to the end of the strip, as bolt diameters: two thirds of that is metal beyond the hole.
const EDGE: f64 = 1.5;
/// From a hole's middle to where a bend begins: a washer lies flat. Source: ISO 7089: a washer is 2 to 2.2 bolts wide.
const FLAT: f64 = 1.2;
/// Between two holes of one end.
const PITCH: f64 = 3.0;
/// A hole is this much wider than its bolt. Source: ISO 273, medium.
const LOOSE: f64 = 1.1;
/// The sharpest bend in degrees that a vice and a hammer make.
const SHARPEST: f64 = 120.0;
/// Faces that lean no more than this, in radians, are parallel, or square.
const ALIKE: f64 = 0.5_f64.to_radians();
/// What a bend costs in length when strips are compared, in mm: it has to be made to its degree.
const A_BEND: f64 = 40.0;
/// Bends smaller than this, in radians, are none.
const STRAIGHT: f64 = 1e-6;

/// The bracket from `component` to `car`, cut from `stock`.
///
/// # Errors
/// [`BracketError`] as its variants say.
pub fn bracket_plan(
    component: &BracketEnd,
    car: &BracketEnd,
    stock: BracketStock,
    material: Material,
) -> Result<BracketPlan, BracketError> {
    let mut plan = match stock {
        BracketStock::Strip { width, thickness, radius } => {
            let strip = Strip { width: width.get(), thick: thickness.get(), radius: radius.get() };
            strip.between(component, car, stock)?
        }
        BracketStock::Angle { leg, thickness } => angle_between(component, car, stock, leg.get(), thickness.get())?,
    };
    let thick = match stock {
        BracketStock::Strip { thickness, .. } | BracketStock::Angle { thickness, .. } => thickness.get(),
    };
    plan.mass = plan.length * plan.width * thick * material.density() * 1e-9;
    Ok(plan)
}

impl BracketPlan {
    /// How far the component's end gives, the car's held: from wrenches to twists there.
    #[must_use]
    pub fn compliance(&self, material: Material) -> Option<Compliance> {
        let at = *self.line.first()?;
        let young = material.youngs_modulus() * 1e3;
        let shear = young / (2.0 * (1.0 + material.poisson_ratio()));
        Some(Compliance::of_chain(at, &self.beams, Elastic { young, shear }))
    }

    /// The same pattern to a millimetre and half a degree, as it is or with every bend the other way.
    #[must_use]
    pub fn is_alike(&self, other: &Self) -> bool {
        let near = |p: f64, q: f64, by: f64| (p - q).abs() <= by;
        let holes = |side: f64| {
            self.holes.iter().zip(&other.holes).all(|(p, q)| {
                near(p.at[0], q.at[0], 1.0) && near(p.at[1], side * q.at[1], 1.0) && near(p.diameter, q.diameter, 0.1)
            })
        };
        // A mirrored bracket is the pattern turned over: its holes on the other side, and its bends the other way.
        let same = |flip: f64| {
            self.bends
                .iter()
                .zip(&other.bends)
                .all(|(p, q)| near(p.at, q.at, 1.0) && near(p.angle, flip * q.angle, 0.5))
        };
        self.stock == other.stock
            && (self.holes.len(), self.bends.len()) == (other.holes.len(), other.bends.len())
            && near(self.length, other.length, 1.0)
            && ((holes(1.0) && same(1.0)) || (holes(-1.0) && (same(1.0) || same(-1.0))))
    }
}

struct Strip {
    width: f64,
    thick: f64,
    radius: f64,
}

/// A way of the strip's middle line: which way it leaves the component's hole, and its corners.
struct Way {
    leaves: Vector,
    corners: Vec<Point3<f64>>,
}

impl Strip {
    /// Radius of the middle line in a bend.
    fn middle_radius(&self) -> f64 {
        self.radius + self.thick / 2.0
    }

    fn tangent(&self, angle: f64) -> f64 {
        self.middle_radius() * (angle / 2.0).tan()
    }

    fn between(
        &self,
        component: &BracketEnd,
        car: &BracketEnd,
        stock: BracketStock,
    ) -> Result<BracketPlan, BracketError> {
        let across = across(component, car);
        let aside = (car.at - component.at).dot(&across);
        let bolt = component.bolt.max(car.bolt);
        let needed = aside.abs() + 2.0 * EDGE * bolt;
        if needed > self.width {
            return Err(BracketError::Narrow { aside: aside.abs(), needed });
        }
        // The middle line runs half-way between the holes.
        let from = component.at + component.out * (self.thick / 2.0) + across * (aside / 2.0);
        let to = car.at + car.out * (self.thick / 2.0) - across * (aside / 2.0);
        let least = [component, car].map(|end| FLAT * end.bolt);
        let sides = |end: &BracketEnd| {
            let along = across.cross(&end.out).normalize();
            [along, -along]
        };
        let mut best: Option<(f64, Way)> = None;
        for leaves in sides(component) {
            for reaches in sides(car) {
                let ways = [self.straight(from, to, leaves, reaches), self.one_bend(from, to, leaves, reaches, least)];
                let two = self.two_bends(from, to, leaves, reaches, least);
                for corners in ways.into_iter().flatten().chain(two) {
                    let cost = length_of(from, &corners, to)
                        + A_BEND * f64::from(u8::try_from(corners.len()).unwrap_or(u8::MAX));
                    if best.as_ref().is_none_or(|(known, _)| cost < *known) {
                        best = Some((cost, Way { leaves, corners }));
                    }
                }
            }
        }
        let (_, way) = best.ok_or(BracketError::NoWay)?;
        Ok(self.plan([component, car], [from, to], &way, across, aside, stock))
    }

    /// A flat strip: its bolts pull it onto faces that lie a tenth of its thickness off level.
    fn straight(
        &self,
        from: Point3<f64>,
        to: Point3<f64>,
        leaves: Vector,
        reaches: Vector,
    ) -> Option<Vec<Point3<f64>>> {
        let along = to - from;
        let off = (along - leaves * along.dot(&leaves)).norm();
        let straight = leaves.angle(&reaches) < ALIKE && along.dot(&leaves) > 0.0 && off < self.thick / 10.0;
        straight.then(Vec::new)
    }

    fn one_bend(
        &self,
        from: Point3<f64>,
        to: Point3<f64>,
        leaves: Vector,
        reaches: Vector,
        [first, last]: [f64; 2],
    ) -> Option<Vec<Point3<f64>>> {
        let angle = leaves.angle(&reaches);
        if !(ALIKE..=SHARPEST.to_radians()).contains(&angle) {
            return None;
        }
        // Where the two lines meet, in their plane.
        let (p, q) = (leaves, reaches);
        let dot = p.dot(&q);
        let across = to - from;
        let along = (across.dot(&p) - across.dot(&q) * dot) / (1.0 - dot * dot);
        let before = (across.dot(&p) * dot - across.dot(&q)) / (1.0 - dot * dot);
        let tangent = self.tangent(angle);
        let fits = along >= first + tangent && -before >= last + tangent;
        fits.then(|| vec![from + p * along])
    }

    /// Rounds of bringing the bends to where washers and tangents leave them.
    const ROUNDS: usize = 80;

    fn two_bends(
        &self,
        from: Point3<f64>,
        to: Point3<f64>,
        leaves: Vector,
        reaches: Vector,
        [first, last]: [f64; 2],
    ) -> Option<Vec<Point3<f64>>> {
        let [mut before, mut after] = [first, last];
        let mut corners = [from, to];
        let mut angles = [0.0; 2];
        for _ in 0..Self::ROUNDS {
            corners = [from + leaves * before, to - reaches * after];
            let middle = corners[1] - corners[0];
            if middle.norm() < 1e-6 {
                return None;
            }
            angles = [leaves.angle(&middle), middle.angle(&reaches)];
            if angles.iter().any(|angle| *angle > SHARPEST.to_radians()) {
                return None;
            }
            let next = [first + self.tangent(angles[0]), last + self.tangent(angles[1])];
            let moved = (next[0] - before).abs().max((next[1] - after).abs());
            [before, after] = next;
            if moved < 1e-9 {
                break;
            }
        }
        let [one, two] = angles.map(|angle| self.tangent(angle));
        let settled = before + 1e-6 >= first + one && after + 1e-6 >= last + two;
        let room = (corners[1] - corners[0]).norm() >= one + two + self.thick;
        let bends = angles.iter().all(|angle| *angle > STRAIGHT);
        (settled && room && bends).then(|| corners.to_vec())
    }

    /// The flat pattern of a way.
    fn plan(
        &self,
        [component, car]: [&BracketEnd; 2],
        [from, to]: [Point3<f64>; 2],
        way: &Way,
        across: Vector,
        aside: f64,
        stock: BracketStock,
    ) -> BracketPlan {
        let line: Vec<Point3<f64>> = [from].into_iter().chain(way.corners.iter().copied()).chain([to]).collect();
        let tails = [component, car].map(|end| (EDGE + if end.second { PITCH } else { 0.0 }) * end.bolt);
        // To the left of whoever looks at the face that is up and along the pattern.
        let left = component.out.cross(&way.leaves);
        let holed = |end: &BracketEnd, component: bool, at: f64, outward: f64| {
            let beside = if component { -aside } else { aside } / 2.0 * across.dot(&left);
            let hole =
                |at: f64| FlatHole { at: [at, beside], diameter: (end.bolt * LOOSE * 10.0).round() / 10.0, component };
            [Some(hole(at)), end.second.then(|| hole(at + outward * PITCH * end.bolt))].into_iter().flatten()
        };
        let mut at = tails[0];
        let mut holes: Vec<FlatHole> = holed(component, true, at, -1.0).collect();
        let mut bends = Vec::new();
        let mut trimmed = 0.0;
        for pair in line.windows(3) {
            let (before, after) = (pair[1] - pair[0], pair[2] - pair[1]);
            let angle = before.angle(&after);
            let tangent = self.tangent(angle);
            at += before.norm() - trimmed - tangent;
            let allowance = angle * (self.radius + NEUTRAL * self.thick);
            let up = before.cross(&left).dot(&after) > 0.0;
            bends.push(FlatBend {
                at: at + allowance / 2.0,
                angle: if up { angle.to_degrees() } else { -angle.to_degrees() },
                allowance,
            });
            at += allowance;
            trimmed = tangent;
        }
        let last = line[line.len() - 1] - line[line.len() - 2];
        at += last.norm() - trimmed;
        holes.extend(holed(car, false, at, 1.0));
        let section = Section::rectangle(self.width, self.thick);
        let beams = line.windows(2).rev().map(|pair| Beam { root: pair[1], tip: pair[0], across, section });
        let beams = beams.collect();
        BracketPlan { stock, length: at + tails[1], width: self.width, holes, bends, line, across, mass: 0.0, beams }
    }
}

/// Across a strip that lies against both faces: along both. Where they are parallel, square to the way between the holes.
fn across(component: &BracketEnd, car: &BracketEnd) -> Vector {
    let both = component.out.cross(&car.out);
    if both.norm() > ALIKE.sin() {
        return both.normalize();
    }
    let way = car.at - component.at;
    let along = way - component.out * way.dot(&component.out);
    // Holes right over each other: any way across will do, level where it can be.
    let along = along.try_normalize(1e-3).or_else(|| component.out.cross(&Vector::z()).try_normalize(1e-3));
    component.out.cross(&along.unwrap_or_else(Vector::x)).normalize()
}

fn length_of(from: Point3<f64>, corners: &[Point3<f64>], to: Point3<f64>) -> f64 {
    let all: Vec<Point3<f64>> = [from].into_iter().chain(corners.iter().copied()).chain([to]).collect();
    all.windows(2).map(|pair| (pair[1] - pair[0]).norm()).sum()
}

/// A piece of equal angle between two faces square to each other.
fn angle_between(
    component: &BracketEnd,
    car: &BracketEnd,
    stock: BracketStock,
    leg: f64,
    thick: f64,
) -> Result<BracketPlan, BracketError> {
    let between = component.out.angle(&car.out);
    if (between - std::f64::consts::FRAC_PI_2).abs() > ALIKE {
        return Err(BracketError::NotSquare { degrees: between.to_degrees() });
    }
    let along = component.out.cross(&car.out).normalize();
    let way = car.at - component.at;
    // From the outside of the heel to each hole, along the leg it is in: the other leg is `thick` deep along its own face's out.
    let from_heel = |to_other: f64| if to_other >= 0.0 { to_other } else { thick - to_other };
    let of_component = from_heel(-way.dot(&car.out));
    let of_car = from_heel(way.dot(&component.out));
    for (from_heel, end) in [(of_component, component), (of_car, car)] {
        let (least, most) = (2.0 * thick + FLAT * end.bolt, leg - EDGE * end.bolt);
        if !(least..=most).contains(&from_heel) {
            return Err(BracketError::OffTheLeg { from_heel, least, most });
        }
    }
    let aside = way.dot(&along);
    let tail = EDGE * component.bolt.max(car.bolt);
    let pitch = |end: &BracketEnd| if end.second { PITCH * end.bolt } else { 0.0 };
    // The second holes lie outward.
    let ends = [tail + pitch(component), tail + pitch(car)];
    let length = ends[0] + aside.abs() + ends[1];
    let hole = |end: &BracketEnd, component: bool, at: f64, beside: f64| FlatHole {
        at: [at, beside],
        diameter: (end.bolt * LOOSE * 10.0).round() / 10.0,
        component,
    };
    // Seen with the component's face down and the pattern running from its hole to the car's, its leg is to one side.
    let on = if aside < 0.0 { -along } else { along };
    let side = component.out.cross(&on).dot(&car.out) * if -way.dot(&car.out) >= 0.0 { 1.0 } else { -1.0 };
    let side = if side < 0.0 { -1.0 } else { 1.0 };
    let mut holes = vec![hole(component, true, ends[0], side * of_component)];
    if component.second {
        holes.push(hole(component, true, ends[0] - pitch(component), side * of_component));
    }
    holes.push(hole(car, false, ends[0] + aside.abs(), -side * of_car));
    if car.second {
        holes.push(hole(car, false, ends[0] + aside.abs() + pitch(car), -side * of_car));
    }
    let from = component.at + component.out * (thick / 2.0);
    let to = car.at + car.out * (thick / 2.0);
    // Into the heel from each hole, and along it between them.
    let into = |at: Point3<f64>, other: &BracketEnd, from_heel: f64, towards: f64| {
        at - other.out * ((from_heel - thick / 2.0) * towards)
    };
    let sign = |value: f64| if value >= 0.0 { 1.0 } else { -1.0 };
    let first = into(from, car, of_component, sign(-way.dot(&car.out)));
    let second = into(to, component, of_car, sign(way.dot(&component.out)));
    let plate = Section::rectangle(length, thick);
    let heel = Section::angle(leg, thick);
    let diagonal = (component.out + car.out).normalize();
    let mut beams = vec![Beam { root: to, tip: second, across: along, section: plate }];
    if (first - second).norm() > 1e-6 {
        beams.push(Beam { root: second, tip: first, across: diagonal, section: heel });
    }
    beams.push(Beam { root: first, tip: from, across: along, section: plate });
    let line = vec![from, first, second, to];
    Ok(BracketPlan { stock, length, width: 2.0 * leg, holes, bends: Vec::new(), line, across: along, mass: 0.0, beams })
}
