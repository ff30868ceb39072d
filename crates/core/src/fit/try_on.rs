//! What is read of a pipe on the bench and on the vehicle, as sums of its errors.

use nalgebra::{DVector, Point3};

use super::{Belief, Body, ErrorAct, ErrorOf, LandingModel, Observed, PipeToMake, Twist, sections_of, square_to};
use crate::cut::{Piece, PieceId, PieceKind, Solid};
use crate::measure::{End, KeepOutId};
use crate::record::FitReading;
use crate::route::ResolvedMake;
use nook_geometry::{Travel, Vector};

/// A reading that is about nothing this pipe has.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct NotOfThisPipe;

/// Where a pipe would touch a thing, were it nearer.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Touch {
    /// The thing.
    pub keep_out: KeepOutId,
    /// The nearest place on the pipe's skin as planned, in mm.
    pub at: Point3<f64>,
    /// From there to the thing, a unit vector.
    pub towards: Vector,
    /// How far that is, in mm.
    pub gap: f64,
}

/// How a pipe is put on at A while its other end is looked at, one standard deviation each: turned round the girth in mm, along it
/// in mm, tilted in degrees. Ours: a mark is met to a millimetre, and a hose holds a mouth no truer than it is looked at.
const SEATED: [f64; 3] = [1.0, 1.0, 0.3];

/// Of a way that is square to a mouth's axis by less than this share, nothing is seen at the mouth.
const UPRIGHT: f64 = 0.3;

impl PipeToMake<'_> {
    /// How the pipe sits on the port at A while it is tried: spreads, and what each moves.
    #[must_use]
    pub fn seating(&self) -> Vec<(f64, Twist)> {
        let Some(joint) = self.pipe.joints.first() else { return Vec::new() };
        let (at, along) = (joint.place, joint.along.vector());
        let [round, axial, tilt] = SEATED;
        let [up, side] = square_to(along);
        let tilt = tilt.to_radians();
        vec![
            (round / (self.run.tube.od() / 2.0), Twist::turn(at, along)),
            (axial, Twist::shift(along)),
            (tilt, Twist::turn(at, up)),
            (tilt, Twist::turn(at, side)),
        ]
    }

    /// A reading as so much of each error of `model`, and with so many further errors that it does not depend on; several where it
    /// says several things.
    ///
    /// # Errors
    /// [`NotOfThisPipe`] where the pipe has no such piece, bend or mouth.
    pub fn observed(
        &self,
        model: &LandingModel,
        reading: &FitReading,
        spread: Option<f64>,
    ) -> Result<Vec<Observed>, NotOfThisPipe> {
        let spread = spread.unwrap_or_else(|| reading.usual_spread());
        let one = |of: ErrorOf, per: f64, off: f64| {
            let row = row_of(model, |source| if source.of == of { source.spread * per } else { 0.0 });
            Ok(vec![Observed { row, off, spread }])
        };
        match *reading {
            FitReading::Length { piece, mm } => {
                let at = self.place_of(piece)?;
                one(ErrorOf::Length(at), 1.0, mm - self.pieces[at].centre)
            }
            FitReading::Lines { piece, mm } => one(ErrorOf::Clock(self.place_of(piece)?), self.run.tube.od() / 2.0, mm),
            FitReading::SeamGap { piece, mm } => one(ErrorOf::Gap(self.place_of(piece)?), 1.0, mm),
            FitReading::Angle { bend, degrees } => {
                let at = (0..self.pipe.tube.legs().len()).find(|at| self.run.route.bend_id(*at) == bend);
                let at = at.ok_or(NotOfThisPipe)?;
                if self.pipe.makes.get(at) == Some(&ResolvedMake::Moulded) {
                    return Err(NotOfThisPipe);
                }
                let (about, stations) = self.bend(at).ok_or(NotOfThisPipe)?;
                let planned = self.pipe.tube.legs()[at].bend.angle.to_degrees();
                let row = row_of(model, |source| {
                    // Several bends may be drawn in one piece, and a clock turns a bend without changing it.
                    let other = match source.of {
                        ErrorOf::Bend(bend) => bend != at,
                        ErrorOf::BendClock(_) | ErrorOf::Clock(_) => true,
                        of => !done(of),
                    };
                    let within = source.acts.iter().filter(|act| !other && stations.contains(&act.station));
                    source.spread * within.map(|act| act.twist.turn.dot(&about).to_degrees()).sum::<f64>()
                });
                Ok(vec![Observed { row, off: degrees - planned, spread }])
            }
            FitReading::MouthGap { clock, mm } => {
                let mouth = self.mouth(clock).ok_or(NotOfThisPipe)?;
                let row = self.at_mouth(model, &mouth, |shift, turn| {
                    mouth.along.dot(&(shift + turn.cross(&(mouth.outward * self.run.tube.od() / 2.0))))
                });
                Ok(vec![Observed { row, off: mm - mouth.gap, spread }])
            }
            FitReading::MouthStep { clock, mm } => {
                let mouth = self.mouth(clock).ok_or(NotOfThisPipe)?;
                let row = self.at_mouth(model, &mouth, |shift, _| -mouth.outward.dot(&shift));
                Ok(vec![Observed { row, off: mm - mouth.step, spread }])
            }
            FitReading::EndToEnd { from, to, mm } => {
                let (between, row) = self.end_to_end(model, from, to).ok_or(NotOfThisPipe)?;
                Ok(vec![Observed { row, off: mm - between, spread }])
            }
            // It says nothing of where the pipe lies.
            FitReading::TwoWays { piece, .. } => self.place_of(piece).map(|_| Vec::new()),
            // Where it would is the surroundings' to say.
            FitReading::Touches { .. } => Err(NotOfThisPipe),
            FitReading::Rough { low, left, long } => {
                let mouth = self.mouth(0.0).ok_or(NotOfThisPipe)?;
                let parts = [(low, Vector::z()), (left, -Vector::y()), (long, -mouth.along)];
                let each = parts.into_iter().map(|(off, way)| {
                    // What the axis' own direction takes is told as long, not as low or left.
                    let way = if way == -mouth.along { way } else { way - mouth.along * way.dot(&mouth.along) };
                    // A mouth that faces up has no low.
                    let off = if way.norm() < UPRIGHT { 0.0 } else { off };
                    Observed { row: self.at_mouth(model, &mouth, |shift, _| way.dot(&shift)), off, spread }
                });
                Ok(each.collect())
            }
        }
    }

    /// What touching a thing says of the pipe: put on at A, it lies `gap` nearer to it than planned, at a place on its skin and in a
    /// direction.
    #[must_use]
    pub fn touching(&self, model: &LandingModel, touch: &Touch, spread: Option<f64>) -> Observed {
        let sections = sections_of(self.pieces);
        let from_it = |solid: &Solid| {
            let (from, to) = (Point3::from(solid.from), Point3::from(solid.to));
            let share = (touch.at - from).dot(&(to - from)) / (to - from).norm_squared().max(1e-12);
            (from + (to - from) * share.clamp(0.0, 1.0) - touch.at).norm()
        };
        let nearest = |piece: &Piece| piece.solids.iter().map(from_it).fold(f64::INFINITY, f64::min);
        let each = self.pieces.iter().map(nearest).enumerate();
        let at = each.min_by(|p, q| p.1.total_cmp(&q.1)).map_or(0, |(at, _)| at);
        let station = (0..=at).fold(0.0, |station, _| station + 1.0);
        let section = sections.get(at).copied().unwrap_or(0);
        let seating = self.seating();
        let row = row_of(model, |source| {
            if let ErrorOf::Seating(way) = source.of {
                let Some((spread, twist)) = seating.get(usize::from(way)) else { return 0.0 };
                return -spread * touch.towards.dot(&twist.at(touch.at));
            }
            if !done(source.of) {
                return 0.0;
            }
            let before = |act: &&ErrorAct| match act.on {
                Body::Section(of) => of <= section && act.station < station,
                Body::Port(end) => end == End::A,
            };
            let each = source.acts.iter().filter(before).map(|act| -touch.towards.dot(&act.twist.at(touch.at)));
            source.spread * each.sum::<f64>()
        });
        let usual = FitReading::Touches { keep_out: touch.keep_out }.usual_spread();
        Observed { row, off: -touch.gap, spread: spread.unwrap_or(usual) }
    }

    /// How far the pipe's end is believed to lie beyond its mouth at B, put on at A; nothing where B is open.
    pub(super) fn beyond_mouth(&self, model: &LandingModel, belief: &Belief) -> Vector {
        let Some(mouth) = self.mouth(0.0) else { return Vector::zeros() };
        let along = |axis: usize| {
            let row = self.at_mouth(model, &mouth, |shift, _| -shift[axis]);
            row.dot(&belief.mean().rows(0, row.len()))
        };
        Vector::new(along(0), along(1), along(2))
    }

    /// Straight across between two marks on the rims of a pipe that is one piece of metal, and what every error adds to that.
    fn end_to_end(&self, model: &LandingModel, from: f64, to: f64) -> Option<(f64, DVector<f64>)> {
        if sections_of(self.pieces).last() != Some(&0) {
            return None;
        }
        let rim = |travel: Travel, clock: f64| {
            let travel = travel.upright();
            travel.at + travel.at_clock(clock.to_radians()).into_inner() * (self.run.tube.od() / 2.0)
        };
        let [begun, ended] = [rim(self.pipe.tube.setting_out(), from), rim(self.pipe.tube.arrival(), to)];
        let way = (ended - begun).try_normalize(1e-9)?;
        let row = row_of(model, |source| {
            let on = source.acts.iter().filter(|act| done(source.of) && matches!(act.on, Body::Section(_)));
            source.spread * on.map(|act| way.dot(&act.twist.at(ended))).sum::<f64>()
        });
        Some(((ended - begun).norm(), row))
    }

    fn place_of(&self, piece: PieceId) -> Result<usize, NotOfThisPipe> {
        let found = self.pieces.iter().position(|one| self.pipe.piece_id(&self.run.route, one) == piece);
        found.ok_or(NotOfThisPipe)
    }

    /// About what a bend turns, and the stations between which it does.
    fn bend(&self, bend: usize) -> Option<(Vector, std::ops::Range<f64>)> {
        let mut travel = self.pipe.tube.setting_out();
        for leg in &self.pipe.tube.legs()[..bend] {
            travel = travel.straight(leg.straight).clocked(leg.bend.rotation).bend(leg.bend.radius, leg.bend.angle);
        }
        let leg = self.pipe.tube.legs().get(bend)?;
        let begun = travel.straight(leg.straight).clocked(leg.bend.rotation);
        let about = begun.along.vector().cross(&begun.at_clock(0.0));
        // The piece that the leg before ends in, and the one that the leg after begins in.
        let (mut from, mut to) = (None, None);
        let mut station = 0.0;
        for piece in self.pieces {
            station += 1.0;
            let (first, last) = match piece.kind {
                PieceKind::Tube { leg, drawn, .. } => (leg, leg + drawn),
                PieceKind::Elbow { bend, .. } | PieceKind::Pie { bend, .. } => (bend, bend + 1),
            };
            let pie = matches!(piece.kind, PieceKind::Pie { .. });
            if last <= bend && !pie {
                from = Some(station + 0.55);
            }
            if first <= bend && last > bend {
                from = from.or(Some(station));
                to = Some(station + if pie { 0.9 } else { 0.55 });
            }
        }
        // Two tubes mitred against each other have no piece in the bend.
        let from = from.unwrap_or(0.0);
        Some((about, from..to.unwrap_or(from + 0.3)))
    }

    fn mouth(&self, clock: f64) -> Option<Mouth> {
        let joint = self.pipe.joints.last().filter(|_| !self.run.is_open(End::B))?;
        let end: Travel = self.pipe.tube.arrival().upright();
        let port = self.run.port(End::B).od.get();
        Some(Mouth {
            at: joint.place,
            along: joint.along.vector(),
            outward: end.at_clock(clock.to_radians()).into_inner(),
            gap: joint.needs.gap,
            step: (self.run.tube.od() - port) / 2.0,
        })
    }

    /// What every error does to the mouth at B as seen from the tube's end there, the pipe put on at A: `told` makes a figure of a
    /// shift in mm and a turn in radians.
    fn at_mouth(&self, model: &LandingModel, mouth: &Mouth, told: impl Fn(Vector, Vector) -> f64) -> DVector<f64> {
        let seating = self.seating();
        row_of(model, |source| {
            if let ErrorOf::Seating(at) = source.of {
                let Some((spread, twist)) = seating.get(usize::from(at)) else { return 0.0 };
                return -spread * told(twist.at(mouth.at), twist.turn);
            }
            if !done(source.of) {
                return 0.0;
            }
            let each = source.acts.iter().map(|ErrorAct { on, twist, .. }| {
                // The pipe is put on at A wherever that is; what moves a port moves it, or the mouth.
                let sign = if *on == Body::Port(End::B) { 1.0 } else { -1.0 };
                sign * told(twist.at(mouth.at), twist.turn)
            });
            source.spread * each.sum::<f64>()
        })
    }
}

/// The mouth at B beside the tube's end.
struct Mouth {
    at: nalgebra::Point3<f64>,
    along: Vector,
    outward: Vector,
    gap: f64,
    step: f64,
}

/// Whether an error has happened by the time a tacked pipe is tried.
const fn done(of: ErrorOf) -> bool {
    !matches!(of, ErrorOf::Pull(..) | ErrorOf::Shrink(_))
}

fn row_of(model: &LandingModel, of: impl Fn(&super::ErrorSource) -> f64) -> DVector<f64> {
    DVector::from_iterator(model.sources().len(), model.sources().iter().map(of))
}
