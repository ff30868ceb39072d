//! Tubes that hang towards an open end in rubber: whether enough holds them, and how far they swing.

use nalgebra::Point3;

use super::{Assembly, SeatedSupport};

/// Two things that hold a tube nearer to each other than this, in mm, hold it as one. Ours.
const LEAST_APART: f64 = 30.0;

/// A tube towards an open end, from one joint that gives to the next.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) struct Hung {
    /// Its first and its last section.
    pub(super) sections: [usize; 2],
    /// How far in mm any place of it swings at most.
    pub(super) held: Result<f64, Dangling>,
}

/// Fewer than two things hold a tube, so that it swings freely.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) struct Dangling {
    /// The joint towards what is held; `None` where nothing is.
    pub(super) joint: Option<usize>,
}

impl Assembly {
    /// The tubes of sections `from` to `to`, which nothing fixes; the joint with index `anchored` is held, if there is one. Nothing
    /// of them is further than `skin` mm from their centre line.
    pub(super) fn hung(&self, [from, to]: [usize; 2], anchored: Option<usize>, skin: f64) -> Vec<Hung> {
        let gives = |joint: usize| !self.joints[joint].spec.give.is_none();
        let mut tubes: Vec<[usize; 2]> = Vec::new();
        for section in from..=to {
            match tubes.last_mut().filter(|_| !gives(section)) {
                Some(tube) => tube[1] = section,
                None => tubes.push([section; 2]),
            }
        }
        let mut held: Vec<Option<f64>> = vec![None; tubes.len()];
        // What is held holds its neighbours in turn.
        loop {
            let next = (0..tubes.len()).find_map(|nth| {
                held[nth]
                    .is_none()
                    .then(|| Some((nth, self.swing(tubes[nth], &self.held_at(&tubes, &held, nth, anchored), skin)?)))?
            });
            let Some((nth, swing)) = next else { break };
            held[nth] = Some(swing);
        }
        let towards = |nth: usize| {
            let before = tubes[..nth].iter().zip(&held).rposition(|(_, held)| held.is_some());
            let after = held[nth..].iter().position(Option::is_some).map(|more| nth + more);
            match (before, after) {
                (Some(tube), _) => Some(tubes[tube][1] + 1),
                (None, Some(tube)) => Some(tubes[tube][0]),
                (None, None) => anchored,
            }
        };
        let tubes_held = tubes.iter().zip(&held).enumerate();
        tubes_held
            .map(|(nth, (sections, held))| Hung {
                sections: *sections,
                held: held.ok_or_else(|| Dangling { joint: towards(nth) }),
            })
            .collect()
    }

    /// The joints of a tube whose other side is held, each with how far in mm that swings.
    fn held_at(
        &self,
        tubes: &[[usize; 2]],
        held: &[Option<f64>],
        nth: usize,
        anchored: Option<usize>,
    ) -> Vec<(Point3<f64>, f64)> {
        let [first, last] = tubes[nth];
        let swings = [nth.checked_sub(1), Some(nth + 1)].map(|other| held.get(other?).copied().flatten());
        let joints = [first, last + 1].into_iter().zip(swings);
        let held = joints.filter_map(|(joint, swings)| {
            let swings = if anchored == Some(joint) { Some(0.0) } else { swings };
            Some((self.joints[joint].place, swings?))
        });
        held.collect()
    }

    /// How far in mm any place of a tube swings that hangs in rubber and in these joints; `None` where fewer than two things
    /// hold it. Each lets it go by so much at most, and it leans by twice the most between the two that are furthest apart;
    /// about the line through those its weight holds it.
    fn swing(&self, [first, last]: [usize; 2], joints: &[(Point3<f64>, f64)], skin: f64) -> Option<f64> {
        let on = |one: &&SeatedSupport| self.section_of(one.station).is_some_and(|at| (first..=last).contains(&at));
        let rubber = self.supports.iter().filter(on).filter_map(|one| Some((one.place(), one.kind.gives()?)));
        let held: Vec<(Point3<f64>, f64)> = rubber.chain(joints.iter().copied()).collect();
        let apart = held.iter().flat_map(|(p, _)| held.iter().map(move |(q, _)| (p - q).norm())).fold(0.0, f64::max);
        if apart < LEAST_APART {
            return None;
        }
        let gives = held.iter().map(|(_, gives)| *gives).fold(0.0, f64::max);
        let places = (first..=last).flat_map(|section| self.hull(section));
        let off = |place: Point3<f64>| held.iter().map(|(one, _)| (one - place).norm()).fold(f64::INFINITY, f64::min);
        let furthest = places.map(off).fold(0.0, f64::max) + skin;
        Some(gives * (1.0 + 2.0 * furthest / apart))
    }
}
