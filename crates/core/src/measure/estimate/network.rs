//! One least-squares adjustment of everything that was measured: datum points, mouths and keep-outs together with the
//! errors of the instruments, so that what two of them share (a datum that is 2 mm off, a bent hook, a sloping floor) is
//! estimated where it can be, and counted in full where it cannot.

use std::collections::{HashMap, HashSet};

use nalgebra::{DMatrix, DVector, Matrix2, Matrix3};

use super::instruments::Instruments;
use super::observation::{Leans, Observation, Pose, square_to};
use super::row::Row;
use super::solve::{STICK, Unknowns, moved, slopes_of, spreads_of};
use super::{Basis, PoseEstimate};
use crate::measure::Measurand;

/// One thing of a network.
#[derive(Debug, Clone, Copy)]
pub struct Member {
    /// Which.
    pub of: Measurand,
    start: Pose,
    free: Unknowns,
    /// Standard deviations in mm and radians of what was typed, for the parts that no reading fixes.
    typed: (f64, f64),
}

impl Member {
    /// A thing as it was found by itself; `typed` says to how many mm and radians what was typed of it is known.
    #[must_use]
    pub fn of(of: Measurand, found: &PoseEstimate, typed: (f64, f64)) -> Self {
        let free = Unknowns { place: found.place == Basis::Fixed, aim: found.aim == Basis::Fixed };
        Self { of, start: found.pose, free, typed }
    }
}

/// Where a thing is after the adjustment.
#[derive(Debug, Clone, Copy)]
pub struct Adjusted {
    /// The answer.
    pub pose: Pose,
    /// The place's covariance in mm2.
    pub spread: Matrix3<f64>,
    /// The direction's covariance in rad2.
    pub aim_spread: Matrix2<f64>,
}

/// What is adjusted together.
pub struct Network<'a> {
    /// The things that are found from readings, and those typed that others lean on.
    pub members: Vec<Member>,
    /// The instruments, as far as they are known before.
    pub instruments: Instruments,
    /// A thing's counting readings, with what they lean on where the poses say.
    pub sights: &'a Observations<'a>,
}

/// Gives a thing's counting readings, with what they lean on where the second argument says.
pub type Observations<'a> = dyn Fn(Measurand, &Poses<'_>) -> Vec<Observation> + 'a;
/// Says where things are.
pub type Poses<'a> = dyn Fn(Measurand) -> Option<Pose> + 'a;

/// The tilt's unknown is in mm per metre, which is of the others' size.
const TILT: f64 = 1000.0;
/// Unknowns of the instruments: the tape's zero and two of the tilt.
const COMMON: usize = 3;
const ROUNDS: usize = 12;
/// A step in mm that ends the adjustment.
const STEP: f64 = 1e-7;

/// Where a member's unknowns stand. What nothing leans on is eliminated by itself, so that the work grows with the
/// number of things and not with its cube.
struct Layout {
    /// First unknown of each member that others lean on.
    core: HashMap<Measurand, usize>,
    size: usize,
}

struct State {
    instruments: Instruments,
    poses: HashMap<Measurand, Pose>,
}

/// A member that nothing leans on, with what ties it to the core.
struct Leaf {
    member: usize,
    /// Unknowns of the core it touches.
    columns: Vec<usize>,
    /// The inverse of its own normal matrix.
    own: DMatrix<f64>,
    /// Its own normal matrix's inverse times what ties it to those columns.
    ties: DMatrix<f64>,
    /// Its own step with the core held.
    step: DVector<f64>,
}

/// The normal equations of the core, with every leaf eliminated.
struct Equations {
    core: DMatrix<f64>,
    right: DVector<f64>,
    leaves: Vec<Leaf>,
    /// Weighed sum of squares.
    squares: f64,
}

impl Network<'_> {
    /// Adjusts everything together. `None` where it does not settle, or something in it is not fixed after all.
    #[must_use]
    pub fn adjust(&self) -> Option<(Instruments, HashMap<Measurand, Adjusted>)> {
        let poses = self.members.iter().map(|member| (member.of, member.start)).collect();
        let mut state = State { instruments: self.instruments, poses };
        let layout = self.layout(&state);
        let mut first = None;
        for round in 0..ROUNDS {
            let Equations { core, right, leaves, squares } = self.equations(&state, &layout)?;
            let begun = *first.get_or_insert(squares);
            let factor = core.cholesky()?;
            let step = factor.solve(&right);
            let far = self.take(&mut state, &layout, &leaves, &step);
            if !far.is_finite() || squares > begun * 1.01 + 1.0 {
                return None;
            }
            if far < STEP || round + 1 == ROUNDS {
                if far > 1e-3 {
                    return None;
                }
                let core = factor.inverse();
                let mut instruments = state.instruments;
                instruments.tape_zero_spread = core[(0, 0)].max(0.0).sqrt();
                instruments.tilt_spread = (core[(1, 1)].max(core[(2, 2)])).max(0.0).sqrt() / TILT;
                return Some((instruments, self.spreads(&state, &layout, &leaves, &core)));
            }
        }
        None
    }

    fn sights_of(&self, member: &Member, state: &State) -> Vec<Observation> {
        (self.sights)(member.of, &|of| state.poses.get(&of).copied())
    }

    fn layout(&self, state: &State) -> Layout {
        let mut leaned = HashSet::new();
        for member in &self.members {
            leaned.extend(self.sights_of(member, state).iter().filter_map(|sight| match sight.leans {
                Leans::Thing(of) => Some(of),
                Leans::Nothing | Leans::Plumb => None,
            }));
        }
        let mut layout = Layout { core: HashMap::new(), size: COMMON };
        for member in self.members.iter().filter(|member| leaned.contains(&member.of)) {
            layout.core.insert(member.of, layout.size);
            layout.size += 3 + if member.start.out.is_some() { 2 } else { 0 };
        }
        layout
    }

    fn equations(&self, state: &State, layout: &Layout) -> Option<Equations> {
        let mut core = DMatrix::zeros(layout.size, layout.size);
        let (mut right, mut squares) = (DVector::zeros(layout.size), 0.0);
        let mut prior = |at: usize, off: f64, sigma: f64, core: &mut DMatrix<f64>, right: &mut DVector<f64>| {
            // What is exact is held by a spread far below what anything is read to.
            let weight = sigma.max(1e-6).powi(-2);
            core[(at, at)] += weight;
            right[at] -= weight * off;
            squares += weight * off * off;
        };
        let (now, before) = (&state.instruments, &self.instruments);
        prior(0, now.tape_zero - before.tape_zero, before.tape_zero_spread, &mut core, &mut right);
        for side in 0..2 {
            let off = (now.tilt[side] - before.tilt[side]) * TILT;
            prior(1 + side, off, before.tilt_spread * TILT, &mut core, &mut right);
        }
        for member in &self.members {
            let (Some(first), Some(pose)) = (layout.core.get(&member.of), state.poses.get(&member.of)) else {
                continue;
            };
            if !member.free.place {
                let off = pose.at - member.start.at;
                (0..3).for_each(|axis| prior(first + axis, off[axis], member.typed.0, &mut core, &mut right));
            }
            if let (false, Some((out, start))) = (member.free.aim, pose.out.zip(member.start.out)) {
                let off = out.into_inner() - start.into_inner();
                for (side, way) in square_to(out).into_iter().enumerate() {
                    prior(first + 3 + side, way.dot(&off) * STICK, member.typed.1 * STICK, &mut core, &mut right);
                }
            }
        }
        let mut leaves = Vec::new();
        for (index, member) in self.members.iter().enumerate() {
            let pose = state.poses.get(&member.of)?;
            let mut rows = Vec::new();
            self.sights_of(member, state).iter().for_each(|sight| sight.rows(pose, now, &mut rows));
            rows.retain(|row| member.free.takes(row));
            if rows.is_empty() {
                continue;
            }
            squares += rows.iter().map(|row| (row.residual / row.sigma).powi(2)).sum::<f64>();
            let own = slopes_of(&rows, pose, member.free);
            match layout.core.get(&member.of) {
                Some(first) => {
                    let mine = mine(member, *first);
                    for (line, row) in rows.iter().enumerate() {
                        let mut slopes = ties_of(row, state, layout);
                        slopes.extend(mine.iter().copied().zip(own.row(line).iter().copied()));
                        add(&mut core, &mut right, &slopes, row);
                    }
                }
                None => leaves.push(leaf(index, &rows, &own, state, layout, &mut core, &mut right)?),
            }
        }
        Some(Equations { core, right, leaves, squares })
    }

    /// Takes a step of the core, and of every leaf with it. Gives the longest, in mm.
    fn take(&self, state: &mut State, layout: &Layout, leaves: &[Leaf], step: &DVector<f64>) -> f64 {
        state.instruments.tape_zero += step[0];
        (0..2).for_each(|side| state.instruments.tilt[side] += step[1 + side] / TILT);
        let mut far = step.amax();
        for member in &self.members {
            let (Some(first), Some(pose)) = (layout.core.get(&member.of), state.poses.get_mut(&member.of)) else {
                continue;
            };
            moved(pose, Unknowns::BOTH, step.rows(*first, layout.size - first).iter().copied());
        }
        for leaf in leaves {
            let touched = DVector::from_iterator(leaf.columns.len(), leaf.columns.iter().map(|column| step[*column]));
            let by = &leaf.step - &leaf.ties * touched;
            far = far.max(by.amax());
            let member = &self.members[leaf.member];
            if let Some(pose) = state.poses.get_mut(&member.of) {
                moved(pose, member.free, by.iter().copied());
            }
        }
        far
    }

    fn spreads(
        &self,
        state: &State,
        layout: &Layout,
        leaves: &[Leaf],
        core: &DMatrix<f64>,
    ) -> HashMap<Measurand, Adjusted> {
        let mut all = HashMap::new();
        let mut put = |of: Measurand, spread, aim_spread| {
            if let Some(pose) = state.poses.get(&of) {
                all.insert(of, Adjusted { pose: *pose, spread, aim_spread });
            }
        };
        for (of, first) in &layout.core {
            let aimed = state.poses.get(of).is_some_and(|pose| pose.out.is_some());
            let size = if aimed { 5 } else { 3 };
            let block = core.view((*first, *first), (size, size)).into_owned();
            let (place, aim) = spreads_of(&block, Unknowns { place: true, aim: aimed });
            put(*of, place, aim);
        }
        for leaf in leaves {
            let member = &self.members[leaf.member];
            let touched = DMatrix::from_fn(leaf.columns.len(), leaf.columns.len(), |i, j| {
                core[(leaf.columns[i], leaf.columns[j])]
            });
            let whole = &leaf.own + &leaf.ties * touched * leaf.ties.transpose();
            let (place, aim) = spreads_of(&whole, member.free);
            put(member.of, place, aim);
        }
        all
    }
}

/// A member's own unknowns in the core.
fn mine(member: &Member, first: usize) -> Vec<usize> {
    let place = (0..3).filter(|_| member.free.place);
    place.chain((3..5).filter(|_| member.free.aim)).map(|at| first + at).collect()
}

/// A row's slopes against instruments and anchor, by unknown of the core.
fn ties_of(row: &Row, state: &State, layout: &Layout) -> Vec<(usize, f64)> {
    let mut ties = vec![(0, row.by_tape), (1, row.by_tilt[0] / TILT), (2, row.by_tilt[1] / TILT)];
    if let Leans::Thing(of) = row.leans
        && let Some(first) = layout.core.get(&of)
    {
        ties.extend((0..3).map(|axis| (first + axis, row.by_anchor[axis])));
        if let Some(out) = state.poses.get(&of).and_then(|pose| pose.out) {
            let sides = square_to(out).into_iter().enumerate();
            ties.extend(sides.map(|(side, way)| (first + 3 + side, way.dot(&row.by_anchor_aim) / STICK)));
        }
    }
    ties.retain(|(_, slope)| *slope != 0.0);
    ties
}

fn add(core: &mut DMatrix<f64>, right: &mut DVector<f64>, slopes: &[(usize, f64)], row: &Row) {
    let weight = row.sigma.powi(-2);
    for (i, slope) in slopes {
        right[*i] -= weight * slope * row.residual;
        for (j, other) in slopes {
            core[(*i, *j)] += weight * slope * other;
        }
    }
}

/// Eliminates a member that nothing leans on: what its rows say of the core is left in the core's equations. `None`
/// where its own readings do not fix it.
fn leaf(
    member: usize,
    rows: &[Row],
    own: &DMatrix<f64>,
    state: &State,
    layout: &Layout,
    core: &mut DMatrix<f64>,
    right: &mut DVector<f64>,
) -> Option<Leaf> {
    let each: Vec<Vec<(usize, f64)>> = rows.iter().map(|row| ties_of(row, state, layout)).collect();
    let mut columns: Vec<usize> = each.iter().flatten().map(|(column, _)| *column).collect();
    columns.sort_unstable();
    columns.dedup();
    let mut common = DMatrix::zeros(rows.len(), columns.len());
    for (line, ties) in each.iter().enumerate() {
        for (column, slope) in ties {
            if let Ok(at) = columns.binary_search(column) {
                common[(line, at)] = *slope;
            }
        }
        add(core, right, ties, &rows[line]);
    }
    let weights = DVector::from_iterator(rows.len(), rows.iter().map(|row| row.sigma.powi(-2)));
    let off = DVector::from_iterator(rows.len(), rows.iter().map(|row| -row.residual * row.sigma.powi(-2)));
    let weighed = DMatrix::from_fn(rows.len(), own.ncols(), |i, j| own[(i, j)] * weights[i]);
    let inverse = weighed.tr_mul(own).cholesky()?.inverse();
    let tied = weighed.tr_mul(&common);
    let (ties, step) = (&inverse * &tied, &inverse * own.tr_mul(&off));
    let (taken, said) = (tied.tr_mul(&ties), tied.tr_mul(&step));
    for (i, column) in columns.iter().enumerate() {
        right[*column] -= said[i];
        for (j, other) in columns.iter().enumerate() {
            core[(*column, *other)] -= taken[(i, j)];
        }
    }
    Some(Leaf { member, columns, own: inverse, ties, step })
}
