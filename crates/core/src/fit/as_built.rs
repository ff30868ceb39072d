//! A pipe as it was built: where what is believed of its errors has brought its pieces.

use nalgebra::{DVector, Isometry3, Point3};

use super::{Body, ErrorAct, LandingModel, PipeToMake, Seam, sections_of};
use crate::assembly::SeatedJoint;
use crate::cut::{Along, PieceKind, Solid};
use crate::measure::{End, Port};
use crate::route::{Centreline, ResolvedRun, Run, course_of};
use nook_geometry::units::Gap;
use nook_geometry::{Direction, Point, Vector};

/// How a pipe stands while it is looked at.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Stands {
    /// Put on at A, every joint between sections straight, its other end where that comes to lie.
    OnAtA,
    /// Settled between its joints.
    Settled,
}

/// Where each piece has come to lie, from where it was planned.
#[derive(Debug, Clone)]
pub struct AsBuilt<'a> {
    pipe: PipeToMake<'a>,
    /// Of each piece at its face towards A, and of one that bends are drawn in after each.
    poses: Vec<Vec<Isometry3<f64>>>,
    /// Of each piece at its face towards B, where its own length has brought that.
    ends: Vec<Isometry3<f64>>,
    /// Where the mouths are, from where they were surveyed.
    mouths: [Isometry3<f64>; 2],
}

/// Axes that turn by less than this, in radians, have no place where they meet.
const PARALLEL: f64 = 1e-3;

impl<'a> PipeToMake<'a> {
    /// The pipe with these errors, in standard deviations of the sources of `model`.
    #[must_use]
    pub fn as_built(&self, model: &LandingModel, errors: &DVector<f64>, stands: Stands) -> AsBuilt<'a> {
        let (settled, suited) = model.settled_motions(errors);
        let sections = sections_of(self.pieces);
        let mut acts: Vec<(&ErrorAct, f64)> = model
            .sources()
            .iter()
            .zip(errors.iter())
            .flat_map(|(source, error)| source.acts.iter().map(move |act| (act, source.spread * error)))
            .chain(model.freedoms().iter().map(|free| &free.act).zip(suited))
            .collect();
        acts.sort_by(|p, q| p.0.station.total_cmp(&q.0.station));
        let port = |end| {
            let moved = acts.iter().filter(|(act, _)| act.on == Body::Port(end));
            moved.fold(Isometry3::identity(), |pose, (act, amount)| pose * act.twist.motion(*amount))
        };
        let until = |section: usize, station: f64| {
            let mut pose = match stands {
                Stands::OnAtA => port(End::A),
                Stands::Settled => settled.get(section).copied().unwrap_or_default(),
            };
            for (act, amount) in &acts {
                let counts = match (act.on, stands) {
                    (Body::Section(of), Stands::Settled) => of == section,
                    (Body::Section(of), Stands::OnAtA) => of <= section,
                    (Body::Port(_), _) => false,
                };
                // What comes before a bend that is drawn at this very place is before it.
                if counts && act.station < station {
                    pose *= act.twist.motion(*amount);
                }
            }
            pose
        };
        let mut station = 0.0;
        let mut ends = Vec::new();
        let each = self.pieces.iter().enumerate().map(|(at, piece)| {
            station += 1.0;
            // At a seam the next piece goes on from there; a free end is trimmed too.
            let free = Seam::after(self.pieces, &sections, at).is_none();
            ends.push(until(sections[at], station + if free { 0.95 } else { 0.55 }));
            let drawn = if let PieceKind::Tube { drawn, .. } = piece.kind { drawn } else { 0 };
            let mut into = 0.0;
            let legs = (0..=drawn).map(|_| {
                let pose = until(sections[at], station + 0.4 * into);
                into = f64::midpoint(into, 1.0);
                pose
            });
            legs.collect()
        });
        let poses = each.collect();
        AsBuilt { pipe: *self, poses, ends, mouths: [End::A, End::B].map(port) }
    }
}

impl AsBuilt<'_> {
    /// The solids of each piece, where they have come to lie.
    #[must_use]
    pub fn solids(&self) -> Vec<Vec<Solid>> {
        let each = self.pipe.pieces.iter().zip(&self.poses).zip(&self.ends).map(|((piece, poses), end)| {
            let first = if let PieceKind::Tube { leg, .. } = piece.kind { leg } else { 0 };
            let last = piece.solids.len().saturating_sub(1);
            let moved = piece.solids.iter().enumerate().map(|(at, solid)| {
                // Beyond a bend that is drawn in it a piece lies as the bend turned out.
                let bent = match (piece.kind, solid.along) {
                    (PieceKind::Tube { .. }, Along::Leg(leg)) => leg.saturating_sub(first),
                    (PieceKind::Tube { .. }, Along::Bend(bend)) => bend.saturating_sub(first),
                    _ => 0,
                };
                let pose = poses.get(bent).or(poses.last()).copied().unwrap_or_default();
                let place = |pose: &Isometry3<f64>, at: [f64; 3]| (pose * Point3::from(at)).coords.into();
                let way = |along: [f64; 3]| (pose.rotation * Vector::from(along)).into();
                Solid {
                    from: place(&pose, solid.from),
                    from_normal: way(solid.from_normal),
                    to: place(if at == last { end } else { &pose }, solid.to),
                    to_normal: way(solid.to_normal),
                    ..*solid
                }
            });
            moved.collect()
        });
        each.collect()
    }

    /// Where the mouth at B is believed to be, and the way out of it.
    #[must_use]
    pub fn mouth(&self) -> (Point3<f64>, Vector) {
        let port = self.pipe.run.port(End::B);
        (self.mouths[1] * port.at.inner(), self.mouths[1].rotation * port.out.vector())
    }

    /// The most that anything of it lies beside its place, in mm.
    #[must_use]
    pub fn stray(&self) -> f64 {
        let far = |was: [f64; 3], is: [f64; 3]| (Point3::from(was) - Point3::from(is)).norm();
        let each = self.pipe.pieces.iter().zip(self.solids()).flat_map(|(piece, moved)| {
            let pairs = piece.solids.iter().zip(moved);
            pairs.map(move |(was, is)| far(was.from, is.from).max(far(was.to, is.to))).collect::<Vec<f64>>()
        });
        each.fold(0.0, f64::max)
    }

    /// The run that the pipe as it stands is laid out as: its vertices where the axes of its straights come nearest each other, its mouths
    /// where its ends look for them. `None` where it bends too little somewhere for its axes to meet.
    #[must_use]
    pub fn run(&self) -> Option<ResolvedRun> {
        let (run, pipe) = (self.pipe.run, self.pipe.pipe);
        let axes = self.axes()?;
        let mut vertices = Vec::new();
        for pair in axes.windows(2) {
            let [(p, u), (q, v)] = pair else { return None };
            let normal = u.cross(v);
            if normal.norm() < PARALLEL {
                return None;
            }
            let across = q - p;
            let [along_p, along_q] = [v, u].map(|other| across.cross(other).dot(&normal) / normal.norm_squared());
            vertices.push(nalgebra::center(&(p + u * along_p), &(q + v * along_q)));
        }
        let [first, last] = [axes.first()?, axes.last()?];
        let [joint_a, joint_b] = [pipe.joints.first()?, pipe.joints.last()?];
        let [begun, ended] = [self.poses.first().and_then(|poses| poses.first()), self.ends.last()]
            .map(|pose| pose.copied().unwrap_or_default());
        // A hose is as long between as the two ends have come to lie; where nothing slides the mouth is where the end looks for it.
        let gap = |joint: &SeatedJoint, tube: Point3<f64>, end: End| {
            let mouth = self.mouths[usize::from(end == End::B)] * run.port(end).at.inner();
            let apart = (mouth - tube).dot(&joint.along.vector()).abs();
            Gap::new(apart).ok().filter(|_| joint.kind.has_hose())
        };
        let half = |joint: &SeatedJoint| joint.along.vector() * (joint.needs.gap / 2.0);
        let (tube_a, tube_b) = (begun * (joint_a.place + half(joint_a)), ended * (joint_b.place - half(joint_b)));
        let gaps = [gap(joint_a, tube_a, End::A), gap(joint_b, tube_b, End::B)];
        let whole = |joint: &SeatedJoint, gap: Option<Gap>| gap.map_or(joint.needs.gap, Gap::get);
        let mouth_a = tube_a - begun * joint_a.along.vector() * whole(joint_a, gaps[0]);
        let mouth_b = tube_b + ended * joint_b.along.vector() * whole(joint_b, gaps[1]);
        // On the axes that go through the first and the last vertex.
        let through = |mouth: Point3<f64>, vertex: Option<&Point3<f64>>, along: Vector| match vertex {
            Some(vertex) => vertex + along * along.dot(&(mouth - vertex)),
            None => mouth,
        };
        let mouth_a = through(mouth_a, vertices.first(), first.1);
        let mouth_b = if vertices.is_empty() {
            mouth_a + first.1 * first.1.dot(&(mouth_b - mouth_a))
        } else {
            through(mouth_b, vertices.last(), last.1)
        };
        let port = |end, at: Point3<f64>, out: Vector| {
            let at = Point::new(at.x, at.y, at.z).ok()?;
            Some(Port { at, out: Direction::of(out).ok()?, ..run.port(end).clone() })
        };
        let (a, b) = (port(End::A, mouth_a, first.1)?, port(End::B, mouth_b, -last.1)?);
        let course = match &vertices[..] {
            [] => Centreline::Straight,
            [_] => Centreline::OneBend,
            [first, between @ .., last] => {
                let lead = |port: &Port, vertex: &Point3<f64>| port.out.vector().dot(&(vertex - port.at.inner()));
                let between = between.iter().flat_map(|at| [at.x, at.y, at.z]);
                let free: Vec<f64> = [lead(&a, first)].into_iter().chain(between).chain([lead(&b, last)]).collect();
                course_of(&free)?
            }
        };
        let decisions: &Run = run;
        let mut route = run.route.rerouted(course);
        for (gap, seated) in gaps.into_iter().zip([joint_a, joint_b]) {
            let found = route.joints_mut().iter_mut().find(|joint| joint.id == seated.id);
            if let (Some(joint), Some(gap)) = (found, gap) {
                joint.gap = Some(gap);
            }
        }
        Some(run.with_decisions_of(&Run { route, a, b, ..decisions.clone() }))
    }

    /// A point and the direction of each straight from A.
    fn axes(&self) -> Option<Vec<(Point3<f64>, Vector)>> {
        let mut travel = self.pipe.pipe.tube.setting_out();
        let mut axes = Vec::new();
        for (leg, step) in self.pipe.pipe.tube.legs().iter().enumerate() {
            axes.push(self.moved(leg, travel.at, travel.along.vector())?);
            travel = travel.straight(step.straight).clocked(step.bend.rotation).bend(step.bend.radius, step.bend.angle);
        }
        axes.push(self.moved(axes.len(), travel.at, travel.along.vector())?);
        Some(axes)
    }

    /// A place and a way on a leg, moved as the piece that holds it; of a leg too short for tube as what comes before.
    fn moved(&self, leg: usize, at: Point3<f64>, along: Vector) -> Option<(Point3<f64>, Vector)> {
        let mut pose = self.poses.first()?.first()?;
        for (piece, poses) in self.pipe.pieces.iter().zip(&self.poses) {
            match piece.kind {
                PieceKind::Tube { leg: first, drawn, .. } if (first..=first + drawn).contains(&leg) => {
                    return poses.get(leg - first).map(|pose| (pose * at, pose.rotation * along));
                }
                PieceKind::Tube { leg: first, .. } if first > leg => break,
                PieceKind::Elbow { bend, .. } | PieceKind::Pie { bend, .. } if bend >= leg => break,
                _ => pose = poses.last()?,
            }
        }
        Some((pose * at, pose.rotation * along))
    }
}
