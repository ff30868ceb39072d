//! The pieces of a pipe as they stand in the vehicle: straights with their mitred ends, and pies.

use nalgebra::{Point3, Vector2};
use serde::Serialize;
use utoipa::ToSchema;

use crate::route::{PieCut, PieEnds};
use nook_geometry::units::SeamCount;
use nook_geometry::{Path, Travel, Triple};

/// What a piece is part of. Counts are from 0.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(tag = "kind", rename_all = "snake_case")]
pub enum PieceKind {
    /// A straight, counted from A.
    Straight {
        /// Which straight.
        straight: usize,
    },
    /// A slice of a bend.
    Pie {
        /// Which bend.
        bend: usize,
        /// Which slice of it.
        pie: usize,
    },
}

/// One sawn face of a piece.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Face {
    /// Saw setting in radians from square; 0 is a square cut.
    pub saw: f64,
    /// Clock in radians, about the direction of travel, of the line along which the piece is shortest. Clocks
    /// count from "up" at A and are carried along the pipe without twist. No meaning on a square cut.
    pub short_at: f64,
}

impl Face {
    const SQUARE: Self = Self { saw: 0.0, short_at: 0.0 };
}

/// A plane that ends a piece, in mm, vehicle axes.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, ToSchema)]
pub struct Solid {
    /// Where the piece's axis meets its first face.
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
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Piece {
    /// What it is part of.
    pub kind: PieceKind,
    /// Length on the centre line in mm; negative where it cannot exist.
    pub centre: f64,
    /// The face towards A.
    pub from: Face,
    /// The face towards B.
    pub to: Face,
    /// Where it stands in the vehicle.
    pub solid: Solid,
}

impl Piece {
    /// Lengths in mm along its shortest and its longest line; the shortest is negative where it cannot exist.
    #[must_use]
    pub fn extremes(&self, od: f64) -> [f64; 2] {
        // The length along clock c is centre + slope . e(c); the extremes over all clocks take the whole slope.
        let towards = |face: &Face| Vector2::new(face.short_at.cos(), face.short_at.sin()) * face.saw.tan();
        let reach = od / 2.0 * (towards(&self.from) + towards(&self.to)).norm();
        [self.centre - reach, self.centre + reach]
    }
}

/// How each bend of `path` is made, with its pie figures.
struct Bend {
    cut: PieCut,
    seams: SeamCount,
    ends: PieEnds,
    radius: f64,
    angle: f64,
    theta: f64,
}

impl Bend {
    /// How far the neighbouring straights run past the tangent points, in mm.
    fn overrun(&self) -> f64 {
        match self.ends {
            PieEnds::Mitred => self.radius * self.cut.saw.tan(),
            PieEnds::Square => 0.0,
        }
    }

    /// The face of the straights beside this bend.
    fn neighbour_face(&self) -> Face {
        match self.ends {
            PieEnds::Mitred => self.face(),
            PieEnds::Square => Face::SQUARE,
        }
    }

    fn face(&self) -> Face {
        Face { saw: self.cut.saw, short_at: self.theta }
    }

    /// Angles from the start of the bend to the faces of its pies, in radians.
    fn pie_faces(&self) -> Vec<f64> {
        let n = self.seams.get();
        match self.ends {
            PieEnds::Mitred => (0..n).map(|k| (f64::from(k) + 0.5) * self.cut.seam_angle).collect(),
            PieEnds::Square => (0..=n).map(|k| f64::from(k) * self.cut.seam_angle).collect(),
        }
    }
}

/// The pieces of a tube of `od` mm along `path`, from A to B. `makes` says the seams and ends of each bend;
/// it must have as many entries as the path has bends. `gaps` says where each straight is parted, from and to, in mm from
/// its start; a straight beyond them is whole.
#[must_use]
pub fn pieces(path: &Path, od: f64, makes: &[(SeamCount, PieEnds)], gaps: &[Vec<[f64; 2]>]) -> Vec<Piece> {
    debug_assert_eq!(path.legs().len(), makes.len(), "every bend has a make");
    let mut theta = 0.0;
    let bends: Vec<Bend> = path
        .legs()
        .iter()
        .zip(makes)
        .map(|(leg, &(seams, ends))| {
            theta += leg.bend.rotation;
            let cut = PieCut::new(od, leg.bend.radius, leg.bend.angle, seams, ends);
            Bend { cut, seams, ends, radius: leg.bend.radius, angle: leg.bend.angle, theta }
        })
        .collect();

    let mut out = Vec::new();
    let mut travel = path.setting_out();
    for (straight, length) in path.straights().enumerate() {
        let before = straight.checked_sub(1).and_then(|i| bends.get(i));
        let after = bends.get(straight);
        let whole = straight_piece(straight, travel, length, before, path, after);
        let overrun = before.map_or(0.0, Bend::overrun);
        out.extend(parted(whole, &travel, overrun, gaps.get(straight).map_or(&[], Vec::as_slice)));
        travel = travel.straight(length);
        if let (Some(bend), Some(leg)) = (after, path.legs().get(straight)) {
            let setting_in = travel.clocked(leg.bend.rotation);
            out.extend(pies(straight, setting_in, bend));
            travel = setting_in.bend(bend.radius, bend.angle);
        }
    }
    out
}

fn straight_piece(
    straight: usize,
    travel: Travel,
    length: f64,
    before: Option<&Bend>,
    path: &Path,
    after: Option<&Bend>,
) -> Piece {
    let start = travel.straight(-before.map_or(0.0, Bend::overrun));
    let end = travel.straight(length + after.map_or(0.0, Bend::overrun));
    let mitred = |bend: Option<&Bend>| bend.is_some_and(|b| b.ends == PieEnds::Mitred);
    // After a bend the clock points to that bend's centre, so half a seam back is a turn away from it.
    let from_normal = before.filter(|b| mitred(Some(b))).map_or(start.along, |b| start.turned(-b.cut.saw).along);
    let to_normal = after
        .filter(|b| mitred(Some(b)))
        .zip(path.legs().get(straight))
        .map_or(end.along, |(b, leg)| end.clocked(leg.bend.rotation).turned(b.cut.saw).along);
    Piece {
        kind: PieceKind::Straight { straight },
        centre: length + before.map_or(0.0, Bend::overrun) + after.map_or(0.0, Bend::overrun),
        from: before.map_or(Face::SQUARE, Bend::neighbour_face),
        to: after.map_or(Face::SQUARE, Bend::neighbour_face),
        solid: Solid {
            from: start.at.coords.into(),
            from_normal: from_normal.to_array(),
            to: end.at.coords.into(),
            to_normal: to_normal.to_array(),
        },
    }
}

/// A straight piece in the parts that gaps leave of it, cut square there. It begins `overrun` mm before `travel`, from
/// where the gaps are counted.
fn parted(whole: Piece, travel: &Travel, overrun: f64, gaps: &[[f64; 2]]) -> Vec<Piece> {
    let mut rest = whole;
    let mut begin = -overrun;
    let mut parts = Vec::with_capacity(gaps.len() + 1);
    for [from, to] in gaps {
        let along = travel.along.to_array();
        let mut part = rest;
        part.centre = from - begin;
        part.to = Face::SQUARE;
        part.solid.to = travel.straight(*from).at.coords.into();
        part.solid.to_normal = along;
        parts.push(part);
        rest.centre -= to - begin;
        rest.from = Face::SQUARE;
        rest.solid.from = travel.straight(*to).at.coords.into();
        rest.solid.from_normal = along;
        begin = *to;
    }
    parts.push(rest);
    parts
}

fn pies(index: usize, setting_in: Travel, bend: &Bend) -> impl Iterator<Item = Piece> {
    let faces: Vec<(Point3<f64>, [f64; 3])> = bend
        .pie_faces()
        .into_iter()
        .map(|angle| {
            let on_arc = setting_in.bend(bend.radius, angle);
            let at = on_arc.at - on_arc.clock().into_inner() * bend.cut.outside;
            (at, on_arc.along.to_array())
        })
        .collect();
    let face = bend.face();
    let centre = bend.cut.centre;
    (0..faces.len().saturating_sub(1)).map(move |pie| Piece {
        kind: PieceKind::Pie { bend: index, pie },
        centre,
        from: face,
        to: face,
        solid: Solid {
            from: faces[pie].0.coords.into(),
            from_normal: faces[pie].1,
            to: faces[pie + 1].0.coords.into(),
            to_normal: faces[pie + 1].1,
        },
    })
}
