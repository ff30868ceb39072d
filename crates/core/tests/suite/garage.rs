//! A virtual garage: it saws, tacks, welds, hangs and reads pipes as a person would, and knows nothing of the product's own model of
//! errors. Metal is rigid transforms between sawn faces; what goes wrong is drawn from the handbook's table.

#![allow(clippy::unwrap_used, unreachable_pub, dead_code, reason = "support of tests, which fail by panicking")]

use nalgebra::{DMatrix, DVector, Isometry3, Matrix3, Point3, Rotation3, Translation3, UnitQuaternion, Vector3};
use nook_core::assembly::Assembly;
use nook_core::cut::{Piece, PieceId, PieceKind};
use nook_core::measure::End;
use nook_core::record::{FitAct, FitReading};
use nook_core::route::ResolvedRun;
use nook_geometry::Travel;
use rand::rngs::StdRng;
use rand::{RngExt, SeedableRng};
use rand_distr::StandardNormal;

/// One standard deviation each, in mm and degrees, as the bench truly is. Source: handbook, "Fit, weld, prove".
#[derive(Debug, Clone, Copy)]
pub struct Bench {
    pub piece: f64,
    pub saw_common: f64,
    pub saw_cut: f64,
    pub clock_round: f64,
    pub gap: f64,
    pub pull: f64,
    pub shrink: f64,
}

impl Bench {
    pub const HANDBOOK: Self =
        Self { piece: 0.5, saw_common: 0.3, saw_cut: 0.15, clock_round: 1.0, gap: 0.3, pull: 0.06, shrink: 0.15 };
}

/// A joint as it is put together: how much it takes closer and apart along it, beside it and tilted (radians).
#[derive(Debug, Clone, Copy)]
pub struct Slack {
    pub closer: f64,
    pub apart: f64,
    pub beside: f64,
    pub tilt: f64,
}

/// A pipe of one section, as it was made, and where its mouths truly are.
pub struct MadePipe {
    /// From a piece's face towards A to its face towards B.
    metal: Vec<Isometry3<f64>>,
    /// From a piece's face towards B to the next one's towards A.
    tacks: Vec<Isometry3<f64>>,
    /// What each weld will pull and shrink.
    welds: Vec<Isometry3<f64>>,
    /// Where the tube begins in the plan, looking along it.
    start: Isometry3<f64>,
    mouths: [Isometry3<f64>; 2],
    planned: [Isometry3<f64>; 2],
    slack: [Slack; 2],
    /// From the tube's end to the middle of B's joint, in mm.
    half_gap: f64,
    /// How it is put on at A: turned round the girth and left along in mm, tilted in degrees.
    seated: [f64; 4],
    random: StdRng,
}

fn frame(at: Point3<f64>, along: Vector3<f64>) -> Isometry3<f64> {
    // Clocks are from up, clockwise seen along the way: x is up, z is along.
    let aside = if along.z.abs() < 0.99 { Vector3::z() } else { Vector3::x() };
    let up = (aside - along * along.dot(&aside)).normalize();
    let turn = Rotation3::from_basis_unchecked(&[up, along.cross(&up), along]);
    Isometry3::from_parts(Translation3::from(at.coords), UnitQuaternion::from_rotation_matrix(&turn))
}

fn turn(axis: Vector3<f64>, by: f64) -> Isometry3<f64> {
    Isometry3::from_parts(Translation3::identity(), UnitQuaternion::from_scaled_axis(axis * by))
}

fn shift(by: Vector3<f64>) -> Isometry3<f64> {
    Isometry3::from_parts(Translation3::from(by), UnitQuaternion::identity())
}

fn way_of(clock: f64) -> Vector3<f64> {
    Vector3::new(clock.to_radians().cos(), clock.to_radians().sin(), 0.0)
}

/// What is known of a mouth: covariances of its place in mm2 and of its direction in rad2.
pub struct Known {
    pub place: Matrix3<f64>,
    pub aim: Matrix3<f64>,
}

impl MadePipe {
    /// Makes the pipe of a run from its pieces, on a bench, for mouths that are somewhere within what is known of them; `trued` bends
    /// are held against a gauge.
    pub fn new(
        run: &ResolvedRun,
        pipe: &Assembly,
        pieces: &[Piece],
        known: &[Known; 2],
        slack: &[Slack; 2],
        bench: &Bench,
        seed: u64,
    ) -> Self {
        let mut random = StdRng::seed_from_u64(seed);
        let mut normal = |spread: f64| -> f64 { spread * random.sample::<f64, _>(StandardNormal) };
        let od = run.tube.od();
        let bias = normal(bench.saw_common).to_radians();
        let point = |at: [f64; 3]| Point3::from(at);
        let axis_of = |piece: &Piece, first: bool| {
            let solid = if first { piece.solids.first() } else { piece.solids.last() }.unwrap();
            (point(solid.to) - point(solid.from)).normalize()
        };
        let face = |piece: &Piece, first: bool| {
            let solid = if first { piece.solids.first() } else { piece.solids.last() }.unwrap();
            if first {
                frame(point(solid.from), Vector3::from(solid.from_normal))
            } else {
                frame(point(solid.to), Vector3::from(solid.to_normal))
            }
        };
        let (mut metal, mut tacks, mut welds) = (Vec::new(), Vec::new(), Vec::new());
        for (at, piece) in pieces.iter().enumerate() {
            let (from, to) = (face(piece, true), face(piece, false));
            // A face sawn at more leans the next piece further round the bend.
            let mut lean = |first: bool, other: Option<&Piece>, here: &Isometry3<f64>| {
                let Some(other) = other else { return Isometry3::identity() };
                let [before, after] = if first {
                    [axis_of(other, false), axis_of(piece, true)]
                } else {
                    [axis_of(piece, false), axis_of(other, true)]
                };
                let bend = before.cross(&after);
                if bend.norm() > 1e-6 {
                    let axis = here.inverse() * bend.normalize();
                    turn(axis, bias + normal(bench.saw_cut).to_radians())
                } else {
                    let way = normal(1.0).atan2(normal(1.0));
                    turn(Vector3::new(way.cos(), way.sin(), 0.0), normal(bench.saw_cut).to_radians())
                }
            };
            let before = at.checked_sub(1).map(|at| &pieces[at]);
            let start = lean(true, before, &from);
            let end = lean(false, pieces.get(at + 1), &to);
            let longer = from.inverse() * (axis_of(piece, false) * normal(bench.piece));
            metal.push(start * shift(longer) * from.inverse() * to * end);
            if at + 1 < pieces.len() {
                let clock = normal(bench.clock_round) / (od / 2.0);
                tacks.push(turn(Vector3::z(), clock) * shift(Vector3::z() * normal(bench.gap)));
                let way = normal(1.0).atan2(normal(1.0));
                let pull = turn(Vector3::new(way.cos(), way.sin(), 0.0), normal(bench.pull).to_radians());
                welds.push(pull * shift(Vector3::z() * normal(bench.shrink)));
            }
        }
        let planned = [End::A, End::B].map(|end| {
            let joint = if end == End::A { pipe.joints.first() } else { pipe.joints.last() }.unwrap();
            frame(joint.place, joint.along.vector())
        });
        let mouths = [0, 1].map(|end: usize| {
            let mut drawn = |spread: &Matrix3<f64>| {
                let eigen = spread.symmetric_eigen();
                let each = eigen.eigenvalues.iter().zip(eigen.eigenvectors.column_iter());
                each.map(|(value, axis)| axis * normal(value.max(0.0).sqrt())).sum::<Vector3<f64>>()
            };
            let (place, aside) = (drawn(&known[end].place), drawn(&known[end].aim));
            let along = planned[end] * Vector3::z();
            let swung = along.cross(&(along + aside));
            // The mouth itself is half a gap from the joint's middle, and swings about itself.
            let port = run.port(if end == 0 { End::A } else { End::B }).at.inner();
            let by = UnitQuaternion::from_scaled_axis(swung);
            let about = Isometry3::from_parts(Translation3::from(port.coords + place - by * port.coords), by);
            about * planned[end]
        });
        let start: Travel = pipe.tube.setting_out();
        let half_gap = pipe.joints.last().unwrap().needs.gap / 2.0;
        let seated = [normal(1.0), normal(1.0), normal(0.3), normal(0.3)];
        Self {
            seated,
            metal,
            tacks,
            welds,
            start: frame(start.at, start.along.vector()),
            mouths,
            planned,
            slack: *slack,
            half_gap,
            random,
        }
    }

    /// Where the middle of B's joint comes out with the tube begun where it was planned, welded or only tacked.
    fn end(&self, welded: bool) -> Isometry3<f64> {
        let mut now = self.start;
        for (at, metal) in self.metal.iter().enumerate() {
            now *= metal;
            if let Some(tack) = self.tacks.get(at) {
                now *= tack;
                if welded {
                    now *= self.welds[at];
                }
            }
        }
        now * shift(Vector3::z() * self.half_gap)
    }

    /// Shares of what both joints take once the pipe hangs where it is used least.
    pub fn uses(&self, welded: bool) -> [f64; 2] {
        let b = self.end(welded);
        let ends = [self.planned[0], b];
        let shares = |pose: &DVector<f64>| {
            let about = self.planned[0].translation.vector;
            let by = UnitQuaternion::from_scaled_axis(Vector3::new(pose[3], pose[4], pose[5]));
            let moved = Isometry3::from_parts(
                Translation3::from(Vector3::new(pose[0], pose[1], pose[2]) + about - by * about),
                by,
            );
            let mut all = DVector::zeros(10);
            for end in 0..2 {
                let (mouth, tube, slack) = (self.mouths[end], moved * ends[end], self.slack[end]);
                let off = mouth.inverse() * tube;
                let place = off.translation.vector;
                let way = off.rotation * Vector3::z();
                // At A the tube is beyond the mouth, at B before it.
                let apart = if end == 0 { place.z } else { -place.z };
                let (half, middle) = ((slack.closer + slack.apart) / 2.0, (slack.apart - slack.closer) / 2.0);
                all[end * 5] = (apart - middle) / half;
                all[end * 5 + 1] = place.x / slack.beside;
                all[end * 5 + 2] = place.y / slack.beside;
                all[end * 5 + 3] = way.x / slack.tilt;
                all[end * 5 + 4] = way.y / slack.tilt;
            }
            all
        };
        let mut pose = DVector::zeros(6);
        for _ in 0..12 {
            let here = shares(&pose);
            let mut slope = DMatrix::zeros(10, 6);
            for at in 0..6 {
                let step = if at < 3 { 1e-4 } else { 1e-6 };
                let mut there = pose.clone();
                there[at] += step;
                slope.set_column(at, &((shares(&there) - &here) / step));
            }
            let square = slope.transpose() * &slope + DMatrix::identity(6, 6) * 1e-9;
            let Some(step) = square.cholesky().map(|factor| factor.solve(&(slope.transpose() * &here))) else { break };
            pose -= &step;
            if step.norm() < 1e-8 {
                break;
            }
        }
        let left = shares(&pose);
        [0, 1].map(|end| {
            let at = |part: usize| left[end * 5 + part];
            at(0).abs().max(at(1).hypot(at(2))).max(at(3).hypot(at(4)))
        })
    }

    /// Whether it lands, welded.
    pub fn lands(&self) -> bool {
        self.uses(true).iter().all(|used| *used <= 1.0)
    }

    fn normal(&mut self, spread: f64) -> f64 {
        spread * self.random.sample::<f64, _>(StandardNormal)
    }

    /// What a person reads of the tacked pipe, to half a millimetre or a fifth of a degree: at B with the pipe put on at A by its line
    /// and held, and on the bench.
    pub fn read(&mut self, what: FitReading, run: &ResolvedRun, pipe: &Assembly, pieces: &[Piece]) -> FitReading {
        let od = run.tube.od();
        match what {
            FitReading::MouthGap { clock, .. } => {
                let (tube, mouth) = (self.held(od), self.mouths[1]);
                let rim = Point3::from(way_of(clock) * (od / 2.0));
                let apart = mouth.inverse() * (mouth * rim - tube * rim);
                let gap = pipe.joints.last().unwrap().needs.gap;
                FitReading::MouthGap { clock, mm: self.rounded(gap + apart.z) }
            }
            FitReading::MouthStep { clock, .. } => {
                let (tube, mouth) = (self.held(od), self.mouths[1]);
                let proud = (od - run.port(End::B).od.get()) / 2.0;
                let beside = mouth.inverse() * (tube * Point3::origin() - mouth * Point3::origin());
                FitReading::MouthStep { clock, mm: self.rounded(proud + beside.dot(&way_of(clock))) }
            }
            FitReading::Length { piece, .. } => {
                let at = pieces.iter().position(|one| pipe.piece_id(&run.route, one) == piece).unwrap();
                FitReading::Length { piece, mm: self.rounded(self.metal[at].translation.vector.norm()) }
            }
            FitReading::Angle { bend, .. } => {
                let place = (0..).find(|at| run.route.bend_id(*at) == bend).unwrap();
                let is_before = |kind: PieceKind| matches!(kind, PieceKind::Tube { leg, .. } if leg == place);
                let is_after = |kind: PieceKind| matches!(kind, PieceKind::Tube { leg, .. } if leg == place + 1);
                let from = pieces.iter().rposition(|piece| is_before(piece.kind)).unwrap();
                let to = pieces.iter().position(|piece| is_after(piece.kind)).unwrap();
                let axis = |at: usize| self.metal[at].translation.vector.normalize();
                let mut between = self.metal[from] * self.tacks[from];
                for at in from + 1..to {
                    between *= self.metal[at] * self.tacks[at];
                }
                let angle = axis(from).angle(&(between * axis(to))).to_degrees();
                FitReading::Angle { bend, degrees: ((angle + self.normal(0.25)) * 5.0).round() / 5.0 }
            }
            FitReading::Lines { .. }
            | FitReading::SeamGap { .. }
            | FitReading::EndToEnd { .. }
            | FitReading::TwoWays { .. }
            | FitReading::Touches { .. }
            | FitReading::Rough { .. } => what,
        }
    }

    /// Puts it on at A anew.
    pub fn put_on(&mut self) {
        self.seated = [self.normal(1.0), self.normal(1.0), self.normal(0.3), self.normal(0.3)];
    }

    fn rounded(&mut self, mm: f64) -> f64 {
        ((mm + self.normal(0.4)) * 2.0).round() / 2.0
    }

    /// Where its end at B is, the same until it is put on again.
    fn held(&self, od: f64) -> Isometry3<f64> {
        let [round, along, tilt, other] = self.seated;
        self.mouths[0]
            * turn(Vector3::z(), round / (od / 2.0))
            * turn(Vector3::x(), tilt.to_radians())
            * turn(Vector3::y(), other.to_radians())
            * shift(Vector3::z() * along)
            * self.planned[0].inverse()
            * self.end(false)
    }

    /// How its end lies at B, put on at A, as it is seen to 3 mm: beside its mouth, and further than it should reach.
    pub fn seen(&mut self, od: f64) -> [f64; 2] {
        let off = self.mouths[1].inverse() * self.held(od) * Point3::origin();
        let beside = Vector3::new(off.x + self.normal(3.0), off.y + self.normal(3.0), 0.0);
        [beside.norm().round(), (off.z + self.normal(3.0)).round()]
    }

    /// What its joints are able to take from here on.
    pub const fn join(&mut self, slack: &[Slack; 2]) {
        self.slack = *slack;
    }

    /// How long a piece has become on its centre line.
    pub fn length(&self, at: usize) -> f64 {
        self.metal[at].translation.vector.norm()
    }

    /// Does an act as well as a person does.
    pub fn act(&mut self, act: &FitAct, run: &ResolvedRun, pipe: &Assembly, pieces: &[Piece]) {
        let od = run.tube.od();
        let at = |id: PieceId| pieces.iter().position(|piece| pipe.piece_id(&run.route, piece) == id).unwrap();
        let bent = |clock: f64, by: f64| {
            let clock = clock.to_radians();
            turn(Vector3::new(-clock.sin(), clock.cos(), 0.0), by)
        };
        match *act {
            FitAct::Trim { piece, end, mm } => {
                let off = Vector3::z() * -(mm + self.normal(0.5));
                let metal = &mut self.metal[at(piece)];
                *metal = if end == End::A { shift(off) * *metal } else { *metal * shift(off) };
            }
            FitAct::CutOtherwise { piece, mm } | FitAct::Renew { piece, mm } => {
                let longer = mm + self.normal(0.5);
                let metal = &mut self.metal[at(piece)];
                let axis = metal.translation.vector.normalize();
                *metal = shift(axis * longer) * *metal;
            }
            FitAct::Turn { piece, degrees } => {
                let by = degrees.to_radians() + self.normal(1.0) / (od / 2.0);
                let tack = &mut self.tacks[at(piece)];
                *tack = turn(Vector3::z(), by) * *tack;
            }
            FitAct::Bend { piece, clock, degrees } => {
                let by = (degrees + self.normal(0.3)).to_radians();
                let tack = &mut self.tacks[at(piece)];
                *tack = bent(clock, by) * *tack;
            }
            FitAct::Sand { piece, clock, mm } => {
                let by = mm / od + self.normal(0.2).to_radians();
                let tack = &mut self.tacks[at(piece)];
                *tack = bent(clock, by) * shift(Vector3::z() * (-mm / 2.0)) * *tack;
            }
        }
    }
}
