//! Everything that may be off about a pipe as its list has it made: pieces, faces, tacks, welds, and the ports it joins.

use nalgebra::{Matrix3, Point3};

use super::seam::{Seam, sections_of};
use super::{Body, ErrorAct, ErrorOf, ErrorSource, FitJoint, Freedom, LandingModel, Spreads, Takes, Twist};
use crate::assembly::{Assembly, SeatedJoint};
use crate::cut::{Piece, PieceKind};
use crate::join::JointKind;
use crate::measure::{End, PortRef};
use crate::route::{Making, ResolvedMake, ResolvedRun};
use crate::survey::Survey;
use nook_geometry::Vector;

/// How far a tube may be pushed in where a hose is slipped over it, and how far it may be left out, in mm. Source: handbook, "The
/// sums", Joints.
const SLIDE: [f64; 2] = [6.0, 10.0];
/// Share of its give that a joint may be off by when it is put together. Source: handbook, "Fit, weld, prove", Correcting.
const HALF: f64 = 0.5;
/// How far a piece that is cut in place is readily made longer or shorter, in mm, and a bend turned to suit, in radians. Ours: further
/// off, something else is wrong.
const LONGER: f64 = 30.0;
const TURNED: f64 = 0.1;

/// A pipe that is to be made.
#[derive(Debug, Clone, Copy)]
pub struct PipeToMake<'a> {
    /// Of which run.
    pub run: &'a ResolvedRun,
    /// Where its ports are, and how well that is known.
    pub survey: &'a Survey<'a>,
    /// As it is when it is finished.
    pub pipe: &'a Assembly,
    /// Its pieces, from A.
    pub pieces: &'a [Piece],
    /// The place of the piece that is cut last where one is.
    pub closing: Option<usize>,
}

impl PipeToMake<'_> {
    /// The model of it, with what its joints take once movement and growth have had theirs.
    #[must_use]
    pub fn landing_model(&self, making: Making, spreads: &Spreads) -> LandingModel {
        let Self { run, survey, pipe, pieces, closing } = *self;
        let uses = pipe.moves(run).uses(pipe);
        let joints = pipe.joints.iter().map(|joint| {
            let used = uses.iter().find(|used| used.joint == joint.id).map_or(0.0, |used| used.share);
            fit_joint(joint, used)
        });
        let (sources, freedoms) = (Vec::new(), Vec::new());
        let mut errors = PipeErrors { run, pipe, pieces, spreads, making, closing, sources, freedoms };
        errors.ports(survey);
        errors.pieces();
        for (at, (spread, _)) in (0..).zip(self.seating()) {
            errors.sources.push(ErrorSource { of: ErrorOf::Seating(at), spread, late: false, acts: Vec::new() });
        }
        LandingModel::new(joints.collect(), errors.sources, errors.freedoms)
    }
}

/// A joint, of whose give `used` is spent once it runs.
fn fit_joint(joint: &SeatedJoint, used: f64) -> FitJoint {
    let left = HALF.min(1.0 - used).max(0.0);
    let give = joint.spec.give;
    let slide = if joint.kind.has_hose() { [SLIDE[0].min(joint.needs.gap), SLIDE[1]] } else { [0.0; 2] };
    let takes = Takes {
        angle: give.angle.to_radians() * left,
        offset: give.offset * left,
        axial: slide.map(|slide| slide + give.axial * left),
    };
    FitJoint {
        at: joint.place,
        along: joint.along.vector(),
        takes: (joint.kind != JointKind::Open).then_some(takes),
        // Bolt holes hold a flange at its clock; everything else is turned as it is put together.
        twists: !matches!(joint.kind, JointKind::Flange | JointKind::Metal),
    }
}

struct PipeErrors<'a> {
    run: &'a ResolvedRun,
    pipe: &'a Assembly,
    pieces: &'a [Piece],
    spreads: &'a Spreads,
    making: Making,
    closing: Option<usize>,
    sources: Vec<ErrorSource>,
    freedoms: Vec<Freedom>,
}

impl PipeErrors<'_> {
    fn push(&mut self, of: ErrorOf, spread: f64, acts: Vec<ErrorAct>) {
        if spread > 0.0 && !acts.is_empty() {
            let suits = self.making.closing_last || self.making.on_vehicle;
            let late = suits && matches!(of, ErrorOf::Pull(..) | ErrorOf::Shrink(_));
            self.sources.push(ErrorSource { of, spread, late, acts });
        }
    }

    fn ports(&mut self, survey: &Survey<'_>) {
        for end in [End::A, End::B] {
            if self.run.is_open(end) {
                continue;
            }
            let (port, id) = (self.run.port(end), PortRef { run: self.run.id, end });
            let act = |twist| vec![ErrorAct { on: Body::Port(end), station: 0.0, twist }];
            for (axis, by) in (0..).zip(axes_of(&survey.port_place_spread(id))) {
                self.push(ErrorOf::PortPlace(end, axis), by.norm(), act(Twist::shift(by.normalize())));
            }
            // A direction that goes aside turns its port about what is square to both.
            for (axis, aside) in (0..).zip(axes_of(&survey.port_aim_spread(id))) {
                let about = port.out.vector().cross(&aside);
                let Some(about) = about.try_normalize(1e-12) else { continue };
                self.push(ErrorOf::PortAxis(end, axis), aside.norm(), act(Twist::turn(port.at.inner(), about)));
            }
        }
    }

    fn pieces(&mut self) {
        let pieces = self.pieces;
        let sections = sections_of(pieces);
        let suits = self.making.closing_last || self.making.on_vehicle;
        let mut biased = Vec::new();
        let mut station = 0.0;
        let mut begun = None;
        for (at, piece) in pieces.iter().enumerate() {
            let on = Body::Section(sections[at]);
            station += 1.0;
            self.along(at, on, station);
            let Some([from, to]) = ends_of(piece) else { continue };
            if let Some(axis) = (to - from).try_normalize(1e-9) {
                let act = ErrorAct { on, station: station + 0.5, twist: Twist::shift(axis) };
                self.push(ErrorOf::Length(at), self.spreads.piece, vec![act]);
                if suits && self.closing == Some(at) {
                    self.freedoms.push(Freedom { act, range: LONGER });
                    // What it comes out at once it is cut to suit.
                    if let Some(last) = self.sources.last_mut() {
                        last.late = true;
                    }
                }
            }
            let Some(seam) = Seam::after(pieces, &sections, at) else { continue };
            let act = |twist| ErrorAct { on, station: station + 0.6, twist };
            self.faces(at, &seam, act, &mut biased);
            let along = Twist::turn(seam.at, seam.along);
            let round = self.spreads.clock_round / (self.run.tube.od() / 2.0);
            if self.making.on_vehicle && seam.bend.is_some() && begun != seam.bend {
                // Turned to suit, it has no clock to miss.
                begun = seam.bend;
                self.freedoms.push(Freedom { act: act(along), range: TURNED });
            } else {
                self.push(ErrorOf::Clock(at), round, vec![act(along)]);
            }
            self.push(ErrorOf::Gap(at), self.spreads.seam_gap, vec![act(Twist::shift(seam.along))]);
            self.push(ErrorOf::Shrink(at), self.spreads.shrink, vec![act(Twist::shift(seam.along))]);
            // Towards which side is not known: as much about either axis makes the whole.
            let pull = self.spreads.pull.to_radians() * std::f64::consts::FRAC_1_SQRT_2;
            for (axis, about) in (0..).zip(super::square_to(seam.along)) {
                self.push(ErrorOf::Pull(at, axis), pull, vec![act(Twist::turn(seam.at, about))]);
            }
        }
        self.push(ErrorOf::SawBias, self.spreads.saw_common.to_radians(), biased);
    }

    /// Bends drawn in a piece, or made by an elbow that is bought.
    fn along(&mut self, at: usize, on: Body, station: f64) {
        let piece = &self.pieces[at];
        let first = match piece.kind {
            PieceKind::Elbow { bend, .. } => bend..bend + 1,
            PieceKind::Tube { leg, drawn, .. } => leg..leg + drawn,
            PieceKind::Pie { bend, pie: 0, .. } if self.making.true_bends => bend..bend + 1,
            PieceKind::Pie { .. } => return,
        };
        let drawn = matches!(piece.kind, PieceKind::Tube { .. });
        let mut travel = self.pipe.tube.setting_out();
        let mut into = 0.0;
        for (bend, leg) in self.pipe.tube.legs().iter().enumerate() {
            let setting_in = travel.straight(leg.straight).clocked(leg.bend.rotation);
            travel = setting_in.bend(leg.bend.radius, leg.bend.angle);
            if !first.contains(&bend) {
                continue;
            }
            let half = setting_in.bend(leg.bend.radius, leg.bend.angle / 2.0);
            let along = setting_in.along.vector();
            let about = along.cross(&setting_in.at_clock(0.0));
            let spread = self.spreads.bend.to_radians();
            // Drawn bends follow each other in one piece.
            let station = station + 0.4 * into;
            into = f64::midpoint(into, 1.0);
            if drawn {
                let round = self.spreads.clock_round / (self.run.tube.od() / 2.0);
                let act = ErrorAct { on, station, twist: Twist::turn(setting_in.at, along) };
                self.push(ErrorOf::BendClock(bend), round, vec![act]);
            }
            let act = ErrorAct { on, station: station + 0.01, twist: Twist::turn(half.at, about) };
            self.push(ErrorOf::Bend(bend), spread, vec![act]);
        }
    }

    /// The two faces of a seam.
    fn faces(&mut self, at: usize, seam: &Seam, act: impl Fn(Twist) -> ErrorAct, biased: &mut Vec<ErrorAct>) {
        let trued = self.making.true_bends && seam.bend.is_some_and(|bend| self.is_of_pies(bend));
        let cut = self.spreads.saw_cut.to_radians();
        for (piece, end) in [(at, End::B), (at + 1, End::A)] {
            if self.pieces[piece].is_bought() && !matches!(self.pieces[piece].kind, PieceKind::Elbow { .. }) {
                continue;
            }
            match seam.bends_about {
                // Trued, it is told as one with its bend.
                Some(_) if trued => {}
                Some(about) => {
                    let twist = Twist::turn(seam.at, about);
                    biased.push(act(twist));
                    self.push(ErrorOf::Face(piece, end, 0), cut, vec![act(twist)]);
                }
                None => {
                    let cut = cut * std::f64::consts::FRAC_1_SQRT_2;
                    for (axis, about) in (0..).zip(super::square_to(seam.along)) {
                        self.push(ErrorOf::Face(piece, end, axis), cut, vec![act(Twist::turn(seam.at, about))]);
                    }
                }
            }
        }
    }

    fn is_of_pies(&self, bend: usize) -> bool {
        matches!(self.pipe.makes.get(bend), Some(ResolvedMake::Pies { .. } | ResolvedMake::KitPies { .. }))
    }
}

/// Where a piece's axis begins and ends.
fn ends_of(piece: &Piece) -> Option<[Point3<f64>; 2]> {
    Some([piece.solids.first()?.from.into(), piece.solids.last()?.to.into()])
}

/// The axes of a covariance, each as long as one standard deviation; those of nothing are left out.
fn axes_of(spread: &Matrix3<f64>) -> Vec<Vector> {
    let eigen = spread.symmetric_eigen();
    let each = eigen.eigenvalues.iter().zip(eigen.eigenvectors.column_iter());
    each.filter(|(value, _)| **value > 1e-18).map(|(value, axis)| axis * value.sqrt()).collect()
}
