//! What to do to a pipe that does not land: the cheapest acts, in order, after which it is likely to.
//!
//! Every act is one more twist of what is beyond it, with an error of its own. The amounts are those after which the sections settle
//! with least use, within what an act is able to do; metal is only ever taken off. Source: handbook, "Fit, weld, prove", Correcting.

use nalgebra::{DMatrix, DVector, Point3};

use super::{Belief, Body, ErrorAct, LandingModel, PipeToMake, Seam, Spreads, Twist, sections_of};
use crate::cut::{PieceId, PieceKind};
use crate::measure::End;
use crate::record::FitAct;
use nook_geometry::{Direction, Point, Travel, Vector};

/// Acts that mend a pipe, and what they come to.
#[derive(Debug, Clone, PartialEq)]
pub struct Correction {
    /// In the order they are done.
    pub acts: Vec<FitAct>,
    /// What they take, in minutes.
    pub minutes: f64,
    /// Tacks that are broken for them.
    pub broken: u32,
    /// The chance that it lands then.
    pub chance: f64,
    /// Shares of what joints take then, as far as is known.
    pub uses: Vec<f64>,
}

/// How far the pipe is built.
pub struct Built<'a> {
    /// Whether a piece is cut, by its place.
    pub cut: &'a dyn Fn(usize) -> bool,
    /// Whether the seam after a piece is tacked.
    pub tacked: &'a dyn Fn(usize) -> bool,
}

/// What sort of acts are looked among.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Among {
    /// All.
    All,
    /// Ends are trimmed and nothing else.
    Trims,
    /// Joints are turned and nothing else.
    Turns,
    /// No tack is broken.
    Unbroken,
}

/// It is likely to land from here on.
pub const LIKELY: f64 = 0.95;
/// Minutes each. Source: as above.
const TRIM: f64 = 5.0;
const SAND: f64 = 10.0;
const TURN: f64 = 10.0;
const RETACK: f64 = 15.0;
const NEW_PIECE: f64 = 45.0;
/// Most that is taken off an end, in mm, sanded off a face, and bent at a broken tack, in degrees, or turned. Ours but for the degree.
const MOST_TRIM: f64 = 40.0;
const MOST_SAND: f64 = 3.0;
const MOST_BEND: f64 = 1.0;
const MOST_TURN: f64 = 10.0;
const MOST_LONGER: f64 = 60.0;
/// An act that comes to less than this is none: mm, and degrees.
const LEAST: f64 = 0.2;
/// Errors of acts where the usual spreads do not say: of a sanded face and of a tack bent, in degrees. Ours.
const SANDED: f64 = 0.2;
const BENT: f64 = 0.3;
/// Sets whose chances are worked out at most; those that leave least come first.
const WEIGHED: usize = 24;

/// So many are told.
const TOLD: usize = 3;

/// One number to choose: how much of an act.
#[derive(Debug, Clone)]
struct Candidate {
    of: Sort,
    at: usize,
    /// One or two columns of shares, per mm or degree.
    columns: Vec<DVector<f64>>,
    /// What one of them is at the least, and all together at the most.
    least: f64,
    most: f64,
    minutes: f64,
    broken: u32,
    /// One standard deviation of how it comes out.
    spread: f64,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Sort {
    Trim(End),
    Sand,
    Turn,
    Bend,
    CutOtherwise,
    Renew,
}

impl PipeToMake<'_> {
    /// The cheapest acts after which it is likely to land, then others that are, cheapest first; where none is, the best there are. An
    /// empty set of acts where it is likely to land as it is.
    #[must_use]
    pub fn corrections(
        &self,
        model: &LandingModel,
        belief: &Belief,
        spreads: &Spreads,
        built: &Built<'_>,
        among: Among,
    ) -> Vec<Correction> {
        let (mean, covariance) = model.left(belief);
        let none = Correction {
            acts: Vec::new(),
            minutes: 0.0,
            broken: 0,
            chance: model.chance_of(&mean, &covariance),
            uses: model.used(&mean),
        };
        if none.chance >= LIKELY {
            return vec![none];
        }
        let candidates: Vec<Candidate> =
            self.candidates(model, spreads, built).into_iter().filter(|one| among.allows(one)).collect();
        let mut sets: Vec<(Vec<usize>, Vec<Vec<f64>>, f64)> = Vec::new();
        let mut try_set = |set: Vec<usize>| {
            let chosen: Vec<&Candidate> = set.iter().map(|at| &candidates[*at]).collect();
            let amounts = amounts(&mean, &chosen);
            let left = after(&mean, &chosen, &amounts).norm_squared();
            sets.push((set, amounts, left));
        };
        for one in 0..candidates.len() {
            try_set(vec![one]);
            for other in one + 1..candidates.len() {
                try_set(vec![one, other]);
            }
        }
        // A third act beside the pairs that leave least.
        sets.sort_by(|p, q| p.2.total_cmp(&q.2));
        let pairs: Vec<Vec<usize>> =
            sets.iter().filter(|(set, ..)| set.len() == 2).take(6).map(|(set, ..)| set.clone()).collect();
        for pair in pairs {
            for third in (0..candidates.len()).filter(|third| !pair.contains(third)) {
                let set: Vec<usize> = pair.iter().copied().chain([third]).collect();
                let chosen: Vec<&Candidate> = set.iter().map(|at| &candidates[*at]).collect();
                let amounts = amounts(&mean, &chosen);
                let left = after(&mean, &chosen, &amounts).norm_squared();
                sets.push((set, amounts, left));
            }
        }
        sets.sort_by(|p, q| p.2.total_cmp(&q.2));
        // The best of each price as well as the best of all.
        let price = |set: &[usize]| set.iter().map(|at| candidates[*at].minutes).sum::<f64>();
        let mut weighed: Vec<usize> = (0..sets.len()).take(WEIGHED / 2).collect();
        let mut cheap: Vec<usize> = (0..sets.len()).collect();
        cheap.sort_by(|p, q| price(&sets[*p].0).total_cmp(&price(&sets[*q].0)).then(sets[*p].2.total_cmp(&sets[*q].2)));
        let mut last = f64::NAN;
        for at in cheap {
            let here = price(&sets[at].0);
            if (here - last).abs() > 1e-9 || last.is_nan() {
                last = here;
                weighed.push(at);
            }
        }
        weighed.sort_unstable();
        weighed.dedup();
        let mut found: Vec<(Correction, DVector<f64>, DMatrix<f64>)> = weighed
            .into_iter()
            .map(|at| {
                let (set, amounts, _) = &sets[at];
                let chosen: Vec<&Candidate> = set.iter().map(|at| &candidates[*at]).collect();
                self.correction((model, spreads), &mean, &covariance, &chosen, amounts)
            })
            .filter(|(one, ..)| !one.acts.is_empty() && one.chance > none.chance)
            .collect();
        found.sort_by(|(p, ..), (q, ..)| {
            let likely = |one: &Correction| one.chance >= LIKELY;
            let by_chance = if likely(p) { std::cmp::Ordering::Equal } else { q.chance.total_cmp(&p.chance) };
            likely(q)
                .cmp(&likely(p))
                .then(by_chance)
                .then(p.minutes.total_cmp(&q.minutes))
                .then(q.chance.total_cmp(&p.chance))
        });
        // Ranked roughly, told exactly.
        found
            .into_iter()
            .take(TOLD)
            .map(|(one, mean, covariance)| Correction { chance: model.chance_of(&mean, &covariance), ..one })
            .collect()
    }

    /// What acts come to, their chance roughly, and what is left to the joints then.
    fn correction(
        &self,
        (model, spreads): (&LandingModel, &Spreads),
        mean: &DVector<f64>,
        covariance: &DMatrix<f64>,
        chosen: &[&Candidate],
        amounts: &[Vec<f64>],
    ) -> (Correction, DVector<f64>, DMatrix<f64>) {
        let mut then = mean.clone();
        let mut spread = covariance.clone();
        let (mut acts, mut minutes, mut broken) = (Vec::new(), 0.0, 0);
        for (one, amounts) in chosen.iter().zip(amounts) {
            let Some(act) = self.act(one, amounts) else { continue };
            let Some((_, motion, amount)) = self.motion_of(&act, spreads) else { continue };
            // As it is done, a wedge off a face makes a pipe shorter too.
            then += model.share_of_act(&motion) * amount;
            acts.push((one, act));
            minutes += one.minutes;
            broken += one.broken;
            for column in &one.columns {
                spread += column * column.transpose() * (one.spread * one.spread);
            }
        }
        // What is undone by a later act comes before what is not: turning before sanding before sawing.
        acts.sort_by_key(|(one, _)| match one.of {
            Sort::CutOtherwise => 0,
            Sort::Turn => 1,
            Sort::Bend => 2,
            Sort::Sand => 3,
            Sort::Renew => 4,
            Sort::Trim(_) => 5,
        });
        let one = Correction {
            acts: acts.into_iter().map(|(_, act)| act).collect(),
            minutes,
            broken,
            chance: model.chance_roughly(&then, &spread),
            uses: model.used(&then),
        };
        (one, then, spread)
    }

    /// An act of so much; `None` where that is as good as nothing.
    fn act(&self, one: &Candidate, amounts: &[f64]) -> Option<FitAct> {
        let piece = self.piece_id(one.at);
        let size = amounts.iter().map(|amount| amount * amount).sum::<f64>().sqrt();
        if size < LEAST {
            return None;
        }
        // Clocks of the two columns are up and a quarter on.
        let clock = || amounts.get(1).copied().unwrap_or(0.0).atan2(amounts[0]).to_degrees();
        Some(match one.of {
            Sort::Trim(end) => FitAct::Trim { piece, end, mm: size },
            Sort::Turn => FitAct::Turn { piece, degrees: amounts[0] },
            Sort::CutOtherwise => FitAct::CutOtherwise { piece, mm: amounts[0] },
            Sort::Renew => FitAct::Renew { piece, mm: amounts[0] },
            Sort::Bend => FitAct::Bend { piece, clock: clock(), degrees: size },
            Sort::Sand => FitAct::Sand { piece, clock: clock(), mm: size },
        })
    }

    fn piece_id(&self, at: usize) -> PieceId {
        self.pipe.piece_id(&self.run.route, &self.pieces[at])
    }

    fn candidates(&self, model: &LandingModel, spreads: &Spreads, built: &Built<'_>) -> Vec<Candidate> {
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
                                most: MOST_TRIM.min(piece.centre / 2.0),
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
                        minutes: 0.0,
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
            minutes: if tacked { TURN + retack } else { 0.0 },
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
            most: MOST_BEND,
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

impl Among {
    fn allows(self, one: &Candidate) -> bool {
        match self {
            Self::All => true,
            Self::Trims => matches!(one.of, Sort::Trim(_) | Sort::CutOtherwise),
            Self::Turns => one.of == Sort::Turn,
            Self::Unbroken => one.broken == 0,
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

/// What is left of shares once so much of each act is done.
fn after(mean: &DVector<f64>, chosen: &[&Candidate], amounts: &[Vec<f64>]) -> DVector<f64> {
    let mut left = mean.clone();
    for (one, amounts) in chosen.iter().zip(amounts) {
        for (column, amount) in one.columns.iter().zip(amounts) {
            left += column * *amount;
        }
    }
    left
}

/// The amounts that leave least, each act within what it is able to do: one after the other until nothing changes.
fn amounts(mean: &DVector<f64>, chosen: &[&Candidate]) -> Vec<Vec<f64>> {
    let mut held: Vec<Option<Vec<f64>>> = vec![None; chosen.len()];
    loop {
        let mut left = mean.clone();
        let mut free: Vec<(usize, usize)> = Vec::new();
        for (at, one) in chosen.iter().enumerate() {
            match &held[at] {
                Some(amounts) => one.columns.iter().zip(amounts).for_each(|(column, by)| left += column * *by),
                None => free.extend((0..one.columns.len()).map(|column| (at, column))),
            }
        }
        let mut all: Vec<Vec<f64>> = chosen
            .iter()
            .zip(&held)
            .map(|(one, held)| held.clone().unwrap_or_else(|| vec![0.0; one.columns.len()]))
            .collect();
        if free.is_empty() {
            return all;
        }
        let columns: Vec<DVector<f64>> = free.iter().map(|(at, column)| chosen[*at].columns[*column].clone()).collect();
        let matrix = DMatrix::from_columns(&columns);
        let square = matrix.transpose() * &matrix;
        let Some(solved) = square.svd(true, true).solve(&(-(matrix.transpose() * left)), 1e-12).ok() else {
            return all;
        };
        for ((at, column), amount) in free.iter().zip(solved.iter()) {
            all[*at][*column] = *amount;
        }
        // The one that is furthest over what it is able to do is held there, and the others found again.
        let over = |at: usize| {
            let size = all[at].iter().map(|amount| amount * amount).sum::<f64>().sqrt();
            let below = all[at].iter().map(|amount| chosen[at].least - amount).fold(f64::NEG_INFINITY, f64::max);
            (size / chosen[at].most.max(1e-9)).max(if below > 1e-9 { 2.0 } else { 0.0 })
        };
        let worst = (0..chosen.len()).filter(|at| held[*at].is_none()).max_by(|p, q| over(*p).total_cmp(&over(*q)));
        let Some(worst) = worst.filter(|at| over(*at) > 1.0 + 1e-9) else { return all };
        let one = chosen[worst];
        let size = all[worst].iter().map(|amount| amount * amount).sum::<f64>().sqrt();
        let shorter = (one.most / size.max(1e-12)).min(1.0);
        held[worst] = Some(all[worst].iter().map(|amount| (amount * shorter).max(one.least)).collect());
    }
}
