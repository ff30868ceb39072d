//! The fewest supports that hold a pipe up: so many that no span rings where it is run.

use thiserror::Error;

use crate::assembly::{Assembly, BeamOfPipe, Judged};
use crate::edit::{Applied, Edit, JoinEdit, apply};
use crate::findings::{Across, across};
use crate::job::Job;
use crate::join::{Beam, JointKind, SupportKind};
use crate::measure::{RunId, Side};
use crate::route::{AlongAnchor, ResolvedRun, SupportDraft};
use crate::stock::Duty;
use crate::survey::Survey;
use nook_geometry::clearance::Rides;
use nook_geometry::units::AlongLeg;

/// Why no supports are proposed.
#[derive(Debug, Clone, Copy, PartialEq, Error)]
pub enum NotHeldUp {
    /// The job has no such run.
    #[error("this job has no run {}; it may have been removed", .0.0)]
    NoSuchRun(RunId),
    /// There is no pipe yet.
    #[error("there is no pipe yet: it needs a way that joins its ports")]
    NoPipe,
    /// Supports of one section are on both sides.
    #[error("one section is held on both sides: choose one first")]
    HeldOnBothSides,
    /// Nothing is known of what flows.
    #[error("what flows through it is not known, so its weight is not: say that first")]
    FlowUnknown,
    /// A pipe on an engine of which nobody said how fast it turns.
    #[error("it rides on the engine: say how many cylinders that has and how fast it turns")]
    SpeedUnknown,
    /// A stretch without a straight where one could be put.
    #[error(
        "between {from:.0} and {to:.0} mm from A no straight has room for a support, and the stretch rings: a longer straight \
         or a thicker tube"
    )]
    NoPlace {
        /// Station in mm along the tube at which the stretch begins.
        from: f64,
        /// At which it ends.
        to: f64,
    },
    /// On either side its joints would take more than they give.
    #[error(
        "section {section} held on the engine or on the body asks more of a joint than it gives: put in one that gives more"
    )]
    NoSide {
        /// Which section, from 1 at A.
        section: usize,
    },
}

/// The fewest supports beside those it has with which no span of a run rings; none where none does.
///
/// # Errors
/// [`NotHeldUp`] as its variants say.
pub fn fewest_supports(job: &Job, id: RunId) -> Result<Vec<SupportDraft>, NotHeldUp> {
    let run = &Survey::new(job).settle(job.run(id).ok_or(NotHeldUp::NoSuchRun(id))?);
    let pipe = Assembly::build(run).and_then(Result::ok).ok_or(NotHeldUp::NoPipe)?;
    let moves = pipe.moves(run);
    if moves.is_torn() {
        return Err(NotHeldUp::HeldOnBothSides);
    }
    let tried = Tried { job, run, pipe: &pipe, tube: pipe.beam_of(run).ok_or(NotHeldUp::FlowUnknown)? };
    let mut all = Vec::new();
    for beam in pipe.beams(&moves) {
        all.extend(tried.on_beam(&beam, &all)?);
    }
    Ok(all)
}

/// The edit that puts supports on a run.
#[must_use]
pub fn put_on(run: RunId, supports: &[SupportDraft]) -> Edit {
    let add = |support: &SupportDraft| Edit::Join(JoinEdit::AddSupport { run, support: support.clone() });
    Edit::Together { edits: supports.iter().map(add).collect() }
}

struct Tried<'a> {
    job: &'a Job,
    run: &'a ResolvedRun,
    pipe: &'a Assembly,
    tube: Beam,
}

/// A stretch of a beam that nothing holds.
struct Gap {
    stations: [f64; 2],
    /// Whether an end of it is in the air.
    open: [bool; 2],
    /// Whether what holds an end could hold the stretch by itself: not a joint that gives.
    firm: [bool; 2],
}

/// The longest stretches in mm that hold: between two holds, and out from one.
#[derive(Clone, Copy)]
struct Longest {
    between: f64,
    overhang: f64,
}

impl Tried<'_> {
    /// The fewest on one beam, beside `before` on others.
    fn on_beam(&self, beam: &BeamOfPipe, before: &[SupportDraft]) -> Result<Vec<SupportDraft>, NotHeldUp> {
        let sides: &[Side] = match beam.rides {
            Rides::Body => &[Side::Body],
            Rides::Engine => &[Side::Engine],
            // As it is, it is shaken by its joints only; what fixes it decides.
            Rides::Floats(_) | Rides::Between => {
                let longest = self.longest(Rides::Body).ok_or(NotHeldUp::SpeedUnknown)?;
                if self.gaps(beam).iter().all(|gap| gap.holds(longest, gap.stations[0], true)) {
                    return Ok(Vec::new());
                }
                &[Side::Body, Side::Engine]
            }
        };
        let mut best: Option<(usize, f64, Vec<SupportDraft>)> = None;
        let mut why = None;
        for side in sides {
            let found = match self.on_side(beam, *side) {
                Ok(found) => found,
                Err(error) => {
                    why = why.or(Some(error));
                    continue;
                }
            };
            let Some(worst) = self.worst_with(before, &found) else { continue };
            if best.as_ref().is_none_or(|(count, least, _)| (found.len(), worst) < (*count, *least)) {
                best = Some((found.len(), worst, found));
            }
        }
        let section = beam.sections[0] + 1;
        best.map(|best| best.2).ok_or_else(|| why.unwrap_or(NotHeldUp::NoSide { section }))
    }

    /// The longest stretches that hold on something; `None` where that is not known.
    fn longest(&self, rides: Rides) -> Option<Longest> {
        let least = Judged::of(0.0, rides, self.job.firing()).least?;
        Some(Longest { between: self.tube.longest(least), overhang: self.tube.longest_overhang(least) })
    }

    /// Stretches of a beam that nothing holds.
    fn gaps(&self, beam: &BeamOfPipe) -> Vec<Gap> {
        let [from, to] = beam.stations;
        let joints = [beam.sections[0], beam.sections[1] + 1].map(|joint| &self.pipe.joints[joint]);
        let open = joints.map(|joint| joint.kind == JointKind::Open);
        let firm = joints.map(|joint| joint.spec.give.is_none());
        let on = self.pipe.supports.iter().map(|one| one.station).filter(|station| (from..=to).contains(station));
        let holders: Vec<f64> = std::iter::once(from).chain(on).chain([to]).collect();
        let last = holders.len() - 2;
        let gap = |(nth, pair): (usize, &[f64])| Gap {
            stations: [pair[0], pair[1]],
            open: [nth == 0 && open[0], nth == last && open[1]],
            firm: [nth != 0 || firm[0], nth != last || firm[1]],
        };
        holders.windows(2).enumerate().map(gap).collect()
    }

    fn on_side(&self, beam: &BeamOfPipe, side: Side) -> Result<Vec<SupportDraft>, NotHeldUp> {
        let kind = match (self.run.duty, side) {
            // Cushions do not stand an exhaust's heat; rubber beside it on a rod does.
            (Duty::Exhaust, Side::Body) => SupportKind::Hanger,
            (Duty::Exhaust, Side::Engine) => SupportKind::Tab,
            _ => SupportKind::Clamps,
        };
        let longest = self.longest(side.into()).ok_or(NotHeldUp::SpeedUnknown)?;
        let places = self.pipe.places_for(kind);
        let begin = self.pipe.begin();
        let mut all = Vec::new();
        for gap in self.gaps(beam) {
            let stations = fewest(&gap, longest, &places)
                .map_err(|[from, to]| NotHeldUp::NoPlace { from: from - begin, to: to - begin })?;
            let exact: Vec<AlongAnchor> =
                stations.iter().filter_map(|station| self.pipe.anchor_at(&self.run.route, *station)).collect();
            let taped = self.taped(&gap, &exact, longest, &places).unwrap_or(exact);
            all.extend(taped.into_iter().map(|at| SupportDraft { at, kind, to: Some(side) }));
        }
        Ok(all)
    }

    /// Anchors as a tape reads them, where they hold so too.
    fn taped(
        &self,
        gap: &Gap,
        exact: &[AlongAnchor],
        longest: Longest,
        places: &[[f64; 2]],
    ) -> Option<Vec<AlongAnchor>> {
        let mut at = gap.stations[0];
        let mut all = Vec::with_capacity(exact.len());
        for anchor in exact {
            let taped = AlongAnchor { mm: AlongLeg::new((anchor.mm.get() * 2.0).round() / 2.0).ok()?, ..*anchor };
            let station = self.pipe.station_of(&self.run.route, taped)?;
            let there = places.iter().any(|[first, last]| (*first..=*last).contains(&station));
            if !there || station - at > gap.reach(longest, at) {
                return None;
            }
            at = station;
            all.push(taped);
        }
        gap.holds(longest, at, exact.is_empty()).then_some(all)
    }

    /// The largest share of its give that any joint takes with these supports; `None` where that is too much, and more than
    /// without them.
    fn worst_with(&self, before: &[SupportDraft], found: &[SupportDraft]) -> Option<f64> {
        let supports: Vec<SupportDraft> = before.iter().chain(found).cloned().collect();
        let Applied { job, .. } = apply(self.job, &put_on(self.run.id, &supports)).ok()?;
        let run = Survey::new(&job).settle(job.run(self.run.id)?);
        let (worst, wrong) = judged(&run)?;
        let (already, _) = judged(self.run)?;
        (!wrong || worst <= already).then_some(worst)
    }
}

/// The largest share a joint of a run takes, and whether its movement is more than it is made for.
fn judged(run: &ResolvedRun) -> Option<(f64, bool)> {
    let pipe = Assembly::build(run)?.ok()?;
    let moves = pipe.moves(run);
    let uses = moves.uses(&pipe);
    let wrong = across(run, &pipe, &moves, &uses);
    let stuck = wrong.iter().any(|one| !matches!(one, Across::Over(_)));
    let worst = uses.iter().map(|used| used.share).fold(0.0, f64::max);
    Some((if stuck { f64::INFINITY } else { worst }, !wrong.is_empty()))
}

impl Gap {
    /// How far on from `at` the next hold may be.
    fn reach(&self, longest: Longest, at: f64) -> f64 {
        if at <= self.stations[0] && self.open[0] { longest.overhang } else { longest.between }
    }

    /// Whether what is left from a hold at `at` to its end holds; `alone` where that hold is the one it begins with.
    fn holds(&self, longest: Longest, at: f64, alone: bool) -> bool {
        let rest = self.stations[1] - at;
        match (self.open[0] && alone, self.open[1]) {
            (true, true) => false,
            (true, false) => self.firm[1] && rest <= longest.overhang,
            (false, true) => (self.firm[0] || !alone) && rest <= longest.overhang,
            (false, false) => rest <= longest.between,
        }
    }
}

/// The fewest stations among `places` that part a stretch into spans that hold, as evenly as so many can; the part that none
/// parts where there are none.
fn fewest(gap: &Gap, longest: Longest, places: &[[f64; 2]]) -> Result<Vec<f64>, [f64; 2]> {
    let first = as_far_as_each_goes(gap, longest, places)?;
    let count = first.len();
    let (mut low, mut high, mut best) = (0.0, 1.0, first);
    for _ in 0..40 {
        let share = f64::midpoint(low, high);
        let less = Longest { between: longest.between * share, overhang: longest.overhang * share };
        match as_far_as_each_goes(gap, less, places) {
            Ok(found) if found.len() == count => {
                best = found;
                high = share;
            }
            _ => low = share,
        }
    }
    Ok(best)
}

/// Each as far from the one before as it may be: no other choice needs fewer.
fn as_far_as_each_goes(gap: &Gap, longest: Longest, places: &[[f64; 2]]) -> Result<Vec<f64>, [f64; 2]> {
    let [mut at, to] = gap.stations;
    let mut all = Vec::new();
    while !gap.holds(longest, at, all.is_empty()) {
        let reach = at + gap.reach(longest, at);
        let next = places.iter().filter(|place| place[0] <= reach).map(|place| place[1].min(reach)).fold(at, f64::max);
        if next <= at + 1e-6 || next >= to {
            let beyond = places.iter().map(|place| place[0]).filter(|start| *start > reach && *start < to);
            return Err([at, beyond.fold(to, f64::min)]);
        }
        all.push(next);
        at = next;
    }
    Ok(all)
}

#[cfg(test)]
mod tests {
    use super::*;

    const HELD: Gap = Gap { stations: [0.0, 1000.0], open: [false; 2], firm: [false; 2] };

    fn all_of(gap: &Gap, between: f64, places: &[[f64; 2]]) -> Result<Vec<f64>, [f64; 2]> {
        fewest(gap, Longest { between, overhang: between * 0.6 }, places)
    }

    #[test]
    fn one_support_stands_in_the_middle_where_it_can() {
        assert!((all_of(&HELD, 600.0, &[[50.0, 950.0]]).unwrap()[0] - 500.0).abs() < 1e-6);
        assert_eq!(all_of(&Gap { stations: [0.0, 500.0], ..HELD }, 600.0, &[[50.0, 450.0]]), Ok(vec![]));
    }

    #[test]
    fn what_no_place_parts_is_told() {
        assert_eq!(all_of(&HELD, 400.0, &[[50.0, 300.0], [750.0, 900.0]]), Err([300.0, 750.0]));
    }

    #[test]
    fn what_stands_out_is_held_nearer_and_a_joint_that_gives_holds_nothing_out() {
        let open = Gap { open: [false, true], ..HELD };
        // 600 between and 360 out, in the same proportion.
        let one = all_of(&open, 700.0, &[[50.0, 950.0]]).unwrap();
        assert!((one[0] - 1000.0 / 1.6).abs() < 1e-6, "{one:?}");
        let short = Gap { stations: [0.0, 300.0], ..open };
        assert_eq!(all_of(&short, 600.0, &[[50.0, 250.0]]).unwrap().len(), 1);
        assert_eq!(all_of(&Gap { firm: [true, false], ..short }, 600.0, &[[50.0, 250.0]]), Ok(vec![]));
        assert_eq!(all_of(&Gap { open: [true; 2], ..short }, 600.0, &[[50.0, 250.0]]).unwrap().len(), 1);
    }
}
