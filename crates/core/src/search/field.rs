//! What a way of one run has to keep from, made ready for asking thousands of times.

use nalgebra::Point3;
use smallvec::SmallVec;

use crate::clearance::{Convex, Nearest, Obstacle, Part, Solid, Span, Stretch, Thing, nearest};
use crate::geometry::Vector;
use crate::measure::{End, KeepOutId, Side};
use crate::route::{Bones, PieCut, Pies, Settled, Wishes, least_straights, skin, usual_seams};
use crate::surroundings::Surroundings;
use crate::units::Name;

/// The things around a run with the gaps a way can keep from them.
pub(super) struct Field<'a> {
    pub(super) run: &'a Settled,
    pub(super) around: &'a Surroundings,
    /// Gap in mm asked of each obstacle: what it wants, or what the mouths leave where they stand closer.
    pub(super) asked: Vec<f64>,
    /// The bans, as obstacles that ask for no air.
    bans: Vec<Obstacle>,
    /// What the tube rides on.
    rides: Side,
    /// Length of joint at A and B in mm, which every way begins and ends with.
    joints: [f64; 2],
    /// Air in mm that is left beyond what is asked.
    spare: f64,
}

/// Air in mm that ways are given beyond what is asked, so that pies, whose corners stand out of the arc, keep it too.
const SPARE: f64 = 0.2;
/// Longest straight in mm that is asked about in one: one answer of a long one would let its far end drift.
const LONGEST: f64 = 140.0;

/// A place where a way comes near something.
#[derive(Debug, Clone, Copy)]
pub(super) struct Contact {
    /// Which span of the way.
    pub(super) span: usize,
    /// How far along it, 0 to 1.
    pub(super) share: f64,
    /// By how much in mm the gap is more than asked.
    pub(super) left: f64,
    /// How the gap grows as the pipe moves.
    pub(super) away: Vector,
}

impl<'a> Field<'a> {
    pub(super) fn new(run: &'a Settled, around: &'a Surroundings, wishes: &Wishes) -> Self {
        let least = least_straights(run, 1);
        let straight = crate::geometry::Path::new(run.a.at, run.a.out, Vec::new(), run.a.at.distance(run.b.at));
        let rides = skin(run, &straight, &[]).iter().find(|s| s.joint.is_none()).map_or(run.b.rides, |s| s.rides);
        let asked = around.obstacles.iter().map(|obstacle| obstacle.gap).collect();
        let bans = wishes.bans.iter().map(|ban| {
            let room = Convex::Ball { centre: ban.at.inner(), radius: ban.radius };
            let parts = vec![Part::new(Solid::Convex(room), None)];
            let name = Name::new("place to keep out of").unwrap_or_else(|_| unreachable!("the name is sound"));
            Obstacle::new(Thing::KeepOut { keep_out: KeepOutId(0) }, name, 0.0, Some(rides), parts)
        });
        let bans = bans.collect();
        let mut field = Self { run, around, asked, bans, rides, joints: [least[0], least[1]], spare: SPARE };
        field.asked = field.what_the_mouths_leave();
        field
    }

    /// The same, with more air asked of everything.
    pub(super) fn roomier(self, by: f64) -> Self {
        Self { spare: SPARE + by, ..self }
    }

    /// What is asked of each obstacle: where the joint at an end comes nearer to it than it wants, no way can help
    /// that, so the way need only keep what the joint's inner end has.
    fn what_the_mouths_leave(&self) -> Vec<f64> {
        let mut asked = self.asked.clone();
        for (end, joint) in [(End::A, self.joints[0]), (End::B, self.joints[1])] {
            let port = self.run.port(end);
            let way = port.out.vector();
            let mouth = port.at.inner();
            let stretch = |from: f64, to: f64| {
                self.stretch(Span::between(mouth + way * from, mouth + way * to), self.radius_at(None))
            };
            let (whole, tip) = (stretch(0.0, joint), stretch(joint, joint + 0.1));
            // What the mouth stands on is left behind in a straight line, until a bend can be.
            let first = joint + self.run.radius.get() / 2.0;
            let bend = stretch(first, first + 0.1);
            for (index, (obstacle, asked)) in self.around.obstacles.iter().zip(&mut asked).enumerate() {
                let gap = |of: &Stretch| nearest([of], obstacle, self.around.movement.as_ref(), *asked).map(|n| n.gap);
                let left = if self.around.stands_on(end, index) {
                    gap(&bend)
                } else if gap(&whole).is_some() {
                    gap(&tip)
                } else {
                    None
                };
                *asked = left.map_or(*asked, |gap| (gap - 0.5).clamp(0.0, *asked));
            }
        }
        asked
    }

    fn stretch(&self, span: Span, radius: f64) -> Stretch {
        Stretch { span, radius, rides: self.rides, stations: [0.0, span.length()], joint: None, lead: None }
    }

    /// Half the thickness of a bend of centre-line radius `clr`, or of a straight, in mm.
    fn radius_at(&self, clr: Option<f64>) -> f64 {
        let tube = self.run.tube.od() / 2.0 + self.run.insulation();
        let Some(clr) = clr else { return tube };
        let seams = usual_seams(self.run.tube, clr, std::f64::consts::FRAC_PI_2);
        let saw = PieCut::new(self.run.tube.od(), clr, std::f64::consts::FRAC_PI_2, seams).saw;
        // The corners of its pies stand out to this.
        tube + (clr + tube) * (1.0 / saw.cos() - 1.0)
    }

    fn obstacles(&self) -> impl Iterator<Item = (usize, &Obstacle, f64)> {
        let asked = self.asked.iter().copied().chain(std::iter::repeat(0.0));
        self.around.obstacles.iter().chain(&self.bans).zip(asked).enumerate().map(|(i, (o, asked))| (i, o, asked))
    }

    /// The gap that obstacle `index` is asked for, as told to the builder.
    pub(super) fn obstacle(&self, index: usize) -> Option<&Obstacle> {
        self.around.obstacles.get(index).or_else(|| self.bans.get(index - self.around.obstacles.len()))
    }

    /// Every place where the way has less than `interest` mm more than is asked.
    pub(super) fn contacts(&self, bones: &Bones, interest: f64) -> Vec<Contact> {
        let spans = bones.spans();
        let mut all = Vec::new();
        let last = spans.len() - 1;
        for (index, span) in spans.iter().enumerate() {
            let (mut from, mut to) = (0.0, span.length());
            if index == 0 {
                from = self.joints[0].min(to);
            }
            if index == last {
                to = (to - self.joints[1]).max(from);
            }
            let negative = index % 2 == 0 && bones.straights[index / 2] < 0.0;
            if negative || to - from < 1e-6 {
                continue;
            }
            let bent = if index % 2 == 1 { bones.radii.get(index / 2).copied() } else { None };
            let mut stretch = self.stretch(*span, self.radius_at(bent));
            stretch.lead = if index == 0 {
                Some(End::A)
            } else if index == last {
                Some(End::B)
            } else {
                None
            };
            let count = if bent.is_some() { 1.0 } else { ((to - from) / LONGEST).ceil().max(1.0) };
            for (thing, obstacle, asked) in self.obstacles() {
                if self.around.excused(&stretch, thing) {
                    continue;
                }
                let beyond = asked + self.spare + interest;
                let mut k = 0.0;
                while k < count {
                    let range = [from + (to - from) * k / count, from + (to - from) * (k + 1.0) / count];
                    k += 1.0;
                    if let Some(near) = obstacle.gap_to(&stretch, range, self.around.movement.as_ref(), beyond) {
                        let Nearest { gap, station, away, .. } = near;
                        let share = station / span.length();
                        all.push(Contact { span: index, share, left: gap - asked - self.spare, away });
                    }
                }
            }
        }
        all
    }

    /// By how much in mm a bare leg comes too near to things, roughly: the sum of the worst shortfall of each, or
    /// anything above `most`. Its ends are left out, where bends will cut the corner.
    pub(super) fn leg_shortfall(&self, from: Point3<f64>, to: Point3<f64>, trims: [f64; 2], most: f64) -> f64 {
        let span = Span::between(from, to);
        let (start, end) = (trims[0], span.length() - trims[1]);
        if end - start < 1.0 {
            return 0.0;
        }
        let still = self.stretch(span, self.radius_at(None));
        // The worst of a roll is nearly always at one of its ends; where it is not, bringing a way to its best finds it.
        let rolled = self.around.movement.map(|moves| {
            let radius = still.radius + moves.shift;
            [moves.roll.from, moves.roll.to].map(|angle| Stretch {
                span: span.carried(&moves.roll.at(angle)),
                radius,
                ..still
            })
        });
        let mut short = 0.0;
        for (_, obstacle, asked) in self.obstacles() {
            let by = |stretch: &Stretch| obstacle.rough_shortfall(stretch, [start, end], asked, most - short);
            short += match &rolled {
                Some(ends) if obstacle.moves_against(still.rides) => ends.iter().map(by).fold(0.0, f64::max),
                _ => by(&still),
            };
            if short > most {
                break;
            }
        }
        short
    }

    /// The skin of a way as it will be built, and what it comes too near to: obstacle, gap and limit in mm.
    pub(super) fn shortfalls(&self, skin: &[Stretch]) -> SmallVec<[(usize, Nearest); 4]> {
        let mut all = SmallVec::new();
        for (index, obstacle, asked) in self.obstacles() {
            let bound = skin.iter().filter(|s| s.joint.is_none() && !self.around.excused(s, index));
            if let Some(near) = nearest(bound, obstacle, self.around.movement.as_ref(), asked) {
                all.push((index, near));
            }
        }
        all
    }

    /// The least air in mm left beyond what is asked, along a way as it will be built; at most `most`.
    pub(super) fn in_hand(&self, skin: &[Stretch], most: f64) -> f64 {
        let mut least = most;
        for (index, obstacle, asked) in self.obstacles() {
            let bound = skin.iter().filter(|s| s.joint.is_none() && !self.around.excused(s, index));
            if let Some(near) = nearest(bound, obstacle, self.around.movement.as_ref(), asked + least) {
                least = near.gap - asked;
            }
        }
        least
    }

    /// How the bends of a way are made for measuring: pies of the usual count.
    pub(super) fn pies(&self, bones: &Bones) -> Vec<Pies> {
        let pies = |(angle, radius): (&f64, &f64)| {
            (usual_seams(self.run.tube, *radius, *angle), crate::route::PieEnds::Mitred)
        };
        bones.angles.iter().zip(&bones.radii).map(pies).collect()
    }
}
