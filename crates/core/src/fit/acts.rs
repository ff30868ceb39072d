//! What may be done to a pipe: each act as a twist of what is beyond it, with what it is able to do, what it takes and how it comes out.

use nalgebra::{DVector, Point3};

use super::corrections::Built;
use super::{Belief, Body, ErrorAct, LandingModel, PipeToMake, Seam, Spreads, Twist, sections_of};
use crate::cut::{PieceId, PieceKind};
use crate::measure::End;
use crate::record::FitAct;
use crate::stock::{Material, Tube};
use nook_geometry::{Direction, Point, Travel, Vector};

/// Minutes each. Source: handbook, "Fit, weld, prove", Correcting.
const TRIM: f64 = 5.0;
const SAND: f64 = 10.0;
const TURN: f64 = 10.0;
const RETACK: f64 = 15.0;
const NEW_PIECE: f64 = 45.0;
/// Minutes to set out another figure for what is not cut or tacked yet. Ours.
const SET_OUT: f64 = 1.0;
/// Most that is taken off an end, in mm, sanded off a face, and bent at a broken tack, in degrees, or turned. Ours but for the degree.
const MOST_TRIM: f64 = 40.0;
const MOST_SAND: f64 = 3.0;
const MOST_BEND: f64 = 1.0;
const MOST_TURN: f64 = 10.0;
const MOST_LONGER: f64 = 60.0;
/// Errors of acts where the usual spreads do not say: of a sanded face and of a tack bent, in degrees. Ours.
const SANDED: f64 = 0.2;
const BENT: f64 = 0.3;

/// Share of the wall that a gap, or the step where two ends of unlike shape meet, is filled at most; less on titanium. Source: handbook,
/// "Fit, weld, prove", Tack and weld, and mistakes 16 and 19.
const FILLED: f64 = 0.5;
const FILLED_TITANIUM: f64 = 0.25;

/// The widest gap that is filled at a seam of a tube, in mm.
#[must_use]
pub fn filled_gap(tube: &Tube) -> f64 {
    let titanium = tube.material() == Material::TitaniumGrade2;
    tube.wall() * if titanium { FILLED_TITANIUM } else { FILLED }
}

/// One number to choose: how much of an act.
#[derive(Debug, Clone)]
pub(super) struct Candidate {
    pub(super) of: Sort,
    pub(super) at: usize,
    /// One or two columns of shares, per mm or degree.
    pub(super) columns: Vec<DVector<f64>>,
    /// What one of them is at the least, and all together at the most.
    pub(super) least: f64,
    pub(super) most: f64,
    pub(super) minutes: f64,
    pub(super) broken: u32,
    /// One standard deviation of how it comes out.
    pub(super) spread: f64,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Sort {
    Trim(End),
    Sand,
    Turn,
    Bend,
    CutOtherwise,
    Renew,
}

impl Sort {
    /// Whether no later act puts back what it takes.
    pub(super) const fn takes_metal_off(self) -> bool {
        matches!(self, Self::Trim(_) | Self::Sand | Self::Renew)
    }
}

impl PipeToMake<'_> {
    pub(super) fn piece_id(&self, at: usize) -> PieceId {
        self.pipe.piece_id(&self.run.route, &self.pieces[at])
    }

    /// All that may be done to a pipe that is built so far.
    pub(super) fn candidates(
        &self,
        model: &LandingModel,
        belief: &Belief,
        spreads: &Spreads,
        built: &Built<'_>,
    ) -> Vec<Candidate> {
        let beyond = self.beyond_mouth(model, belief);
        let sections = sections_of(self.pieces);
        let mut all = Vec::new();
        let round = (spreads.clock_round / (self.run.tube.od() / 2.0)).to_degrees();
        for (at, piece) in self.pieces.iter().enumerate() {
            let column = |twist: Twist| model.share_of_act(&act_on(sections[at], at, twist));
            let ends = piece.solids.first().zip(piece.solids.last());
            let axis =
                ends.and_then(|(first, last)| (Point3::from(last.to) - Point3::from(first.from)).try_normalize(1e-9));
            let straight = matches!(piece.kind, PieceKind::Tube { drawn: 0, .. });
            if let Some(axis) = axis.filter(|_| straight) {
                let longer = column(Twist::shift(axis));
                if (built.cut)(at) {
                    all.push(Candidate {
                        of: Sort::Renew,
                        at,
                        columns: vec![longer.clone()],
                        least: -MOST_LONGER,
                        most: MOST_LONGER,
                        minutes: NEW_PIECE,
                        broken: u32::from((built.tacked)(at)) + u32::from(at > 0 && (built.tacked)(at - 1)),
                        spread: spreads.piece,
                    });
                    let free =
                        |other: Option<usize>| other.and_then(|other| sections.get(other)) != Some(&sections[at]);
                    for (end, free) in [(End::A, free(at.checked_sub(1))), (End::B, free(Some(at + 1)))] {
                        if free {
                            all.push(Candidate {
                                of: Sort::Trim(end),
                                at,
                                columns: vec![-longer.clone()],
                                least: 0.0,
                                // Nobody saws off more than is too long that way.
                                most: MOST_TRIM.min(piece.centre / 2.0).min(beyond.dot(&axis).max(0.0)),
                                minutes: TRIM,
                                broken: 0,
                                spread: spreads.piece,
                            });
                        }
                    }
                } else {
                    all.push(Candidate {
                        of: Sort::CutOtherwise,
                        at,
                        columns: vec![longer],
                        least: -(piece.centre / 2.0).max(0.0),
                        most: MOST_LONGER,
                        minutes: SET_OUT,
                        broken: 0,
                        // Its own error is there already.
                        spread: 0.0,
                    });
                }
            }
            if let Some(seam) = Seam::after(self.pieces, &sections, at) {
                self.at_seam(at, &seam, (built.tacked)(at), round, &column, &mut all);
            }
        }
        all
    }

    fn at_seam(
        &self,
        at: usize,
        seam: &Seam,
        tacked: bool,
        round: f64,
        column: &impl Fn(Twist) -> DVector<f64>,
        all: &mut Vec<Candidate>,
    ) {
        let degree = 1.0_f64.to_radians();
        let retack = if tacked { RETACK } else { 0.0 };
        all.push(Candidate {
            of: Sort::Turn,
            at,
            columns: vec![column(Twist::turn(seam.at, seam.along * degree))],
            least: -MOST_TURN,
            most: MOST_TURN,
            minutes: if tacked { TURN + retack } else { SET_OUT },
            broken: u32::from(tacked),
            // One that is not tacked yet has its error still before it.
            spread: if tacked { round } else { 0.0 },
        });
        if !tacked {
            return;
        }
        let Some([up, side]) = clocks_at(seam) else { return };
        let towards = |way: Vector| seam.along.cross(&way);
        all.push(Candidate {
            of: Sort::Bend,
            at,
            columns: vec![
                column(Twist::turn(seam.at, towards(up) * degree)),
                column(Twist::turn(seam.at, towards(side) * degree)),
            ],
            least: f64::NEG_INFINITY,
            // Bent open it gapes on one side, which is filled up to a share of the wall.
            most: MOST_BEND.min((filled_gap(&self.run.tube) / self.run.tube.od()).asin().to_degrees()),
            minutes: retack,
            broken: 1,
            spread: BENT,
        });
        let od = self.run.tube.od();
        all.push(Candidate {
            of: Sort::Sand,
            at,
            columns: vec![
                column(Twist::turn(seam.at, towards(up) / od)),
                column(Twist::turn(seam.at, towards(side) / od)),
            ],
            least: f64::NEG_INFINITY,
            most: MOST_SAND,
            minutes: SAND + retack,
            broken: 1,
            spread: SANDED.to_radians() * od,
        });
    }

    /// What an act that was done moves, per standard deviation of how it came out: that deviation, the motion of one unit, and how many
    /// units were asked; `None` where the pipe has no such place.
    #[must_use]
    pub fn motion_of(&self, act: &FitAct, spreads: &Spreads) -> Option<(f64, ErrorAct, f64)> {
        let sections = sections_of(self.pieces);
        let place = |piece: PieceId| (0..self.pieces.len()).find(|at| self.piece_id(*at) == piece);
        let along = |at: usize| {
            let piece = &self.pieces[at];
            let [from, to] = [piece.solids.first()?.from, piece.solids.last()?.to].map(Point3::from);
            (to - from).try_normalize(1e-9)
        };
        let on = |at: usize, twist| act_on(sections[at], at, twist);
        let degree = 1.0_f64.to_radians();
        match *act {
            FitAct::Trim { piece, mm, .. } => {
                let at = place(piece)?;
                Some((spreads.piece, on(at, Twist::shift(-along(at)?)), mm))
            }
            FitAct::CutOtherwise { piece, mm } => {
                let at = place(piece)?;
                Some((0.0, on(at, Twist::shift(along(at)?)), mm))
            }
            FitAct::Renew { piece, mm } => {
                let at = place(piece)?;
                Some((spreads.piece, on(at, Twist::shift(along(at)?)), mm))
            }
            FitAct::Turn { piece, degrees } => {
                let at = place(piece)?;
                let seam = Seam::after(self.pieces, &sections, at)?;
                let round = (spreads.clock_round / (self.run.tube.od() / 2.0)).to_degrees();
                Some((round, on(at, Twist::turn(seam.at, seam.along * degree)), degrees))
            }
            FitAct::Bend { piece, clock, degrees } => {
                let at = place(piece)?;
                let seam = Seam::after(self.pieces, &sections, at)?;
                Some((BENT, on(at, Twist::turn(seam.at, towards(&seam, clock)? * degree)), degrees))
            }
            FitAct::Sand { piece, clock, mm } => {
                let at = place(piece)?;
                let seam = Seam::after(self.pieces, &sections, at)?;
                let od = self.run.tube.od();
                // Half of the wedge comes off the middle.
                let twist = Twist { at: seam.at, turn: towards(&seam, clock)? / od, shift: -seam.along / 2.0 };
                Some((SANDED.to_radians() * od, on(at, twist), mm))
            }
        }
    }
}

fn act_on(section: usize, at: usize, twist: Twist) -> ErrorAct {
    let station = (0..=at).fold(0.7, |station, _| station + 1.0);
    ErrorAct { on: Body::Section(section), station, twist }
}

/// Up and a quarter clockwise from it, seen along the pipe from A, at a seam.
fn clocks_at(seam: &Seam) -> Option<[Vector; 2]> {
    let travel = travel_at(seam)?;
    Some([travel.at_clock(0.0).into_inner(), travel.at_clock(std::f64::consts::FRAC_PI_2).into_inner()])
}

fn travel_at(seam: &Seam) -> Option<Travel> {
    let at = Point::new(seam.at.x, seam.at.y, seam.at.z).ok()?;
    Some(Travel::start(at, Direction::of(seam.along).ok()?).upright())
}

/// About what turns that bends a pipe towards a clock, in degrees.
fn towards(seam: &Seam, clock: f64) -> Option<Vector> {
    Some(seam.along.cross(&travel_at(seam)?.at_clock(clock.to_radians()).into_inner()))
}
