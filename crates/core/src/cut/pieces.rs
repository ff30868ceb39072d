//! The pieces of a pipe as they stand in the vehicle: straights with their mitred ends, and pies.

use nalgebra::{Point3, Vector2, Vector3};
use serde::Serialize;
use utoipa::ToSchema;

use crate::route::{ElbowEnd, ElbowMake, PieCut, ResolvedMake};
use nook_geometry::{Arc, Path, Travel, Triple};

/// What a piece is part of. Counts are from 0 at A.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum PieceKind {
    /// Tube, straight but for bends drawn in it.
    Tube {
        /// On which leg it begins.
        leg: usize,
        /// Which section it is of: one more after each gap.
        section: usize,
        /// How many bends are drawn in it, from the one at the end of that leg.
        drawn: usize,
        /// After how many splices on that leg it begins, counted from the leg's start or the gap before.
        spliced: usize,
    },
    /// A bought elbow with what is used of its legs; it is not sawn from a stick.
    Elbow {
        /// Which bend.
        bend: usize,
        /// Which section it is of.
        section: usize,
    },
    /// A slice of a bend.
    Pie {
        /// Which bend.
        bend: usize,
        /// Which slice of it.
        pie: usize,
        /// Whether it is bought as it is.
        kit: bool,
    },
}

/// One sawn face of a piece.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Face {
    /// Saw setting in radians from square; 0 is a square cut.
    pub saw: f64,
    /// Clock in radians, about the direction of travel, of the line along which the piece is shortest. Clocks
    /// count from "up" at A and are carried along the pipe without twist. No meaning on a square cut, but that of an elbow's throat
    /// on its ends.
    pub short_at: f64,
}

impl Face {
    const SQUARE: Self = Self { saw: 0.0, short_at: 0.0 };
}

/// What a stretch of a piece is of. Counts are from 0 at A.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Along {
    /// A leg.
    Leg(usize),
    /// A bend.
    Bend(usize),
}

/// A straight stretch of a piece between two planes, in mm, vehicle axes.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, ToSchema)]
pub struct Solid {
    /// What it is of.
    #[serde(skip)]
    pub along: Along,
    /// Where its axis meets its first face.
    #[schema(value_type = Triple)]
    pub from: [f64; 3],
    /// First face's normal, along travel.
    #[schema(value_type = Triple)]
    pub from_normal: [f64; 3],
    /// Where its axis meets its last face.
    #[schema(value_type = Triple)]
    pub to: [f64; 3],
    /// Last face's normal, along travel.
    #[schema(value_type = Triple)]
    pub to_normal: [f64; 3],
}

/// One piece of tube between two cuts.
#[derive(Debug, Clone, PartialEq)]
pub struct Piece {
    /// What it is part of.
    pub kind: PieceKind,
    /// Length on the centre line in mm, as it is sawn, before anything is bent; negative where it cannot exist.
    pub centre: f64,
    /// The face towards A.
    pub from: Face,
    /// The face towards B.
    pub to: Face,
    /// Where it stands in the vehicle: one stretch, and where a bend is drawn as many as it takes to look round.
    pub solids: Vec<Solid>,
}

impl Piece {
    /// Whether it is a bought elbow or a bought pie, so that no stick gives it.
    #[must_use]
    pub const fn is_bought(&self) -> bool {
        matches!(self.kind, PieceKind::Elbow { .. } | PieceKind::Pie { kit: true, .. })
    }

    /// Lengths in mm along its shortest and its longest line, before anything is bent; the shortest is negative where it
    /// cannot exist.
    #[must_use]
    pub fn extremes(&self, od: f64) -> [f64; 2] {
        // The length along clock c is centre + slope . e(c); the extremes over all clocks take the whole slope.
        let towards = |face: &Face| Vector2::new(face.short_at.cos(), face.short_at.sin()) * face.saw.tan();
        let reach = od / 2.0 * (towards(&self.from) + towards(&self.to)).norm();
        [self.centre - reach, self.centre + reach]
    }
}

/// A bend drawn in a piece is shown in stretches of this many radians.
const SHOWN: f64 = 0.1;

/// Where tube ends and begins again on a straight.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Parted {
    /// A joint's gap: from and to, in mm from the straight's start.
    Gap([f64; 2]),
    /// The weld of a splice, as far from there.
    Splice(f64),
}

impl Parted {
    /// Where the tube before it ends, in mm from the straight's start.
    #[must_use]
    pub const fn from(&self) -> f64 {
        match self {
            Self::Gap([from, _]) | Self::Splice(from) => *from,
        }
    }
}

/// A tube whose far end is not reached yet.
struct Open {
    leg: usize,
    section: usize,
    drawn: usize,
    spliced: usize,
    from: Face,
    centre: f64,
    /// Stretches that are closed.
    solids: Vec<Solid>,
    /// Where the present stretch begins, with its normal.
    begin: (Point3<f64>, [f64; 3]),
    /// Whether there is tube; not where an elbow's leg goes on to what comes next.
    tube: bool,
}

impl Open {
    fn new(leg: usize, section: usize, from: Face, begin: (Point3<f64>, [f64; 3])) -> Self {
        Self { leg, section, drawn: 0, spliced: 0, from, centre: 0.0, solids: Vec::new(), begin, tube: true }
    }

    /// Goes on straight by `length` mm to where `to` stands, whose plane is normal to `normal`.
    fn stretch(&mut self, along: Along, to: Point3<f64>, normal: [f64; 3]) {
        let (from, from_normal) = self.begin;
        // An elbow without a leg begins with its arc.
        let turned = Vector3::from(from_normal) - Vector3::from(normal);
        if (to - from).norm() < 1e-9 && turned.norm() < 1e-9 {
            return;
        }
        self.solids.push(Solid {
            along,
            from: from.coords.into(),
            from_normal,
            to: to.coords.into(),
            to_normal: normal,
        });
        self.begin = (to, normal);
    }

    /// Goes round bend `bend`, which is drawn, from its tangent point.
    fn draw(&mut self, bend: usize, setting_in: &Travel, arc: &Arc) {
        self.stretch(Along::Leg(bend), setting_in.at, setting_in.along.to_array());
        let steps = (arc.angle / SHOWN).ceil().max(1.0);
        let each = arc.angle / steps;
        let mut step = 1.0;
        while step <= steps {
            let there = setting_in.bend(arc.radius, each * step);
            self.stretch(Along::Bend(bend), there.at, there.along.to_array());
            step += 1.0;
        }
        self.centre += arc.length();
        self.drawn += 1;
    }

    /// The piece of tube that ends here, if there is any.
    fn close(mut self, to: Face, at: Point3<f64>, normal: [f64; 3]) -> Option<Piece> {
        self.stretch(Along::Leg(self.leg + self.drawn), at, normal);
        let Self { leg, section, drawn, spliced, from, centre, solids, tube, .. } = self;
        tube.then_some(Piece { kind: PieceKind::Tube { leg, section, drawn, spliced }, centre, from, to, solids })
    }
}

/// The pieces of a tube along `path`, from A to B. `makes` says how each bend is made; it must have as many entries as the
/// path has bends. `parted` says where each straight is parted, in order; a straight beyond them is whole. `beside` says of each bend how far from its tangent points, in mm, the tube ends where no tube goes round it.
#[must_use]
pub fn pieces(path: &Path, makes: &[ResolvedMake], parted: &[Vec<Parted>], beside: &[f64]) -> Vec<Piece> {
    debug_assert_eq!(path.legs().len(), makes.len(), "every bend has a make");
    let mut out = Vec::new();
    let mut travel = path.setting_out();
    let mut theta = 0.0;
    let mut section = 0;
    let mut open = Open::new(0, 0, Face::SQUARE, (travel.at, travel.along.to_array()));
    for (leg, length) in path.straights().enumerate() {
        let along = travel.along.to_array();
        let mut done = 0.0;
        let mut spliced = 0;
        for parted in parted.get(leg).map_or(&[][..], Vec::as_slice) {
            open.centre += parted.from() - done;
            out.extend(open.close(Face::SQUARE, travel.straight(parted.from()).at, along));
            match parted {
                Parted::Gap([_, to]) => (section, spliced, done) = (section + 1, 0, *to),
                Parted::Splice(at) => (spliced, done) = (spliced + 1, *at),
            }
            open = Open::new(leg, section, Face::SQUARE, (travel.straight(done).at, along));
            open.spliced = spliced;
        }
        open.centre += length - done;
        let end = travel.straight(length);
        let Some((step, make)) = path.legs().get(leg).zip(makes.get(leg)) else {
            out.extend(open.close(Face::SQUARE, end.at, along));
            break;
        };
        let arc = step.bend;
        theta += arc.rotation;
        let setting_in = end.clocked(arc.rotation);
        travel = setting_in.bend(arc.radius, arc.angle);
        match make {
            ResolvedMake::Drawn => open.draw(leg, &setting_in, &arc),
            ResolvedMake::Elbow(elbow) => {
                let [into, after] = elbow.legs;
                open.centre -= into;
                open.tube &= elbow.ends[0] == ElbowEnd::Tube;
                out.extend(open.close(Face::SQUARE, end.straight(-into).at, along));
                out.push(elbow_piece((leg, section), elbow, &setting_in, &arc, theta));
                open = Open::new(leg + 1, section, Face::SQUARE, (travel.straight(after).at, travel.along.to_array()));
                open.centre = -after;
                open.tube = elbow.ends[1] == ElbowEnd::Tube;
            }
            ResolvedMake::Moulded => {
                let beside = beside.get(leg).copied().unwrap_or(0.0);
                open.centre -= beside;
                out.extend(open.close(Face::SQUARE, end.straight(-beside).at, along));
                section += 1;
                open = Open::new(leg + 1, section, Face::SQUARE, (travel.straight(beside).at, travel.along.to_array()));
                open.centre = -beside;
            }
            ResolvedMake::Pies { cut, .. } | ResolvedMake::KitPies { cut, .. } => {
                let kit = matches!(make, ResolvedMake::KitPies { .. });
                let face = if cut.end_saw > 0.0 { Face { saw: cut.end_saw, short_at: theta } } else { Face::SQUARE };
                open.centre += cut.overrun;
                let normal = setting_in.turned(cut.end_saw).along.to_array();
                out.extend(open.close(face, end.straight(cut.overrun).at, normal));
                out.extend(pies((leg, kit), setting_in, &arc, cut, theta));
                // After a bend the clock points to that bend's centre, so back by what the end is sawn at is a turn away from it.
                let normal = travel.turned(-cut.end_saw).along.to_array();
                open = Open::new(leg + 1, section, face, (travel.straight(-cut.overrun).at, normal));
                open.centre = cut.overrun;
            }
        }
    }
    out
}

/// An elbow with what is used of its legs.
fn elbow_piece(
    (bend, section): (usize, usize),
    elbow: &ElbowMake,
    setting_in: &Travel,
    arc: &Arc,
    theta: f64,
) -> Piece {
    let [into, out] = elbow.legs;
    let face = Face { saw: 0.0, short_at: theta };
    let mut piece = Open::new(bend, section, face, (setting_in.straight(-into).at, setting_in.along.to_array()));
    piece.draw(bend, setting_in, arc);
    let travel = setting_in.bend(arc.radius, arc.angle);
    piece.stretch(Along::Leg(bend + 1), travel.straight(out).at, travel.along.to_array());
    let (kind, centre) = (PieceKind::Elbow { bend, section }, into + arc.length() + out);
    Piece { kind, centre, from: face, to: face, solids: piece.solids }
}

fn pies(
    (bend, kit): (usize, bool),
    setting_in: Travel,
    arc: &Arc,
    cut: &PieCut,
    theta: f64,
) -> impl Iterator<Item = Piece> {
    let faces: Vec<Travel> = cut.faces().map(|turned| cut.face(&setting_in, arc, turned)).collect();
    let face = Face { saw: cut.saw, short_at: theta };
    let centre = cut.centre;
    (0..faces.len().saturating_sub(1)).map(move |pie| Piece {
        kind: PieceKind::Pie { bend, pie, kit },
        centre,
        from: face,
        to: face,
        solids: vec![Solid {
            along: Along::Bend(bend),
            from: faces[pie].at.coords.into(),
            from_normal: faces[pie].along.to_array(),
            to: faces[pie + 1].at.coords.into(),
            to_normal: faces[pie + 1].along.to_array(),
        }],
    })
}
