//! The further reading of a thing that would help most.

use serde::Serialize;
use utoipa::ToSchema;

use crate::findings::job_names;
use crate::job::Job;
use crate::measure::estimate::{Basis, Kind, Observation, OutlierTest, PoseEstimate, within_95};
use crate::measure::{Anchor, Axis, Measurand, Reading, Spot, Taken};
use crate::survey::Survey;
use nook_geometry::Vector;
use nook_geometry::units::{
    Coordinate, DualUnitText, HeadingAngle, LengthUnit, OnStick, PitchAngle, TapeLength, capital,
};

/// The reading that would help most.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct HelpWorkup {
    /// What to take, and by how much it would help.
    pub words: DualUnitText,
    /// The reading, with what it would be if the answer now were right.
    pub taken: Taken,
}

/// A mark on the stick that helps most without being unwieldy.
const STICK_MARK: f64 = 300.0;

/// The reading, among those usually taken, that would shrink the worst axis most.
pub(super) fn help(
    job: &Job,
    survey: &Survey<'_>,
    of: Measurand,
    readings: &[Reading],
    estimate: &PoseEstimate,
) -> Option<HelpWorkup> {
    // Where readings stand against each other, one more comes after the wrong one is read again.
    if readings.is_empty() || *estimate.outlier_test() != OutlierTest::Nothing {
        return None;
    }
    let taken =
        |candidate: &Taken| readings.iter().any(|reading| reading.counts && same_kind(&reading.taken, candidate));
    let options = candidates(job, of, estimate).into_iter().filter(|candidate| !taken(candidate));
    let weighed = options.filter_map(|candidate| {
        let sight = survey.sight(of, 0, &Reading::of(candidate))?;
        let gain = estimate.with(&sight)?;
        Some((gain, candidate, sight))
    });
    let (gain, candidate, sight) = weighed.min_by(|p, q| p.0.then.total_cmp(&q.0.then))?;
    // Under a tenth less is not worth bending down for.
    if gain.then > gain.now * 0.9 {
        return None;
    }
    let name = candidate.name(job_names(job));
    let open = estimate.place == Basis::Open || estimate.aim == Basis::Open;
    // Adjusted with all others it is better known than by itself; one more reading helps by the same share.
    let share = |[now, then]: [f64; 2]| if now > 0.0 { then / now } else { 1.0 };
    let (place, aim) = (within_95(estimate.spread), within_95(estimate.aim_spread).to_degrees());
    let words = DualUnitText::new(|unit: LengthUnit| {
        if open && gain.then > 200.0 {
            format!("Next, take {name}; more will be needed.")
        } else if open {
            format!("Next, take {name}: that fixes it to within {}.", unit.text(gain.then))
        } else if share(gain.place) <= share(gain.aim) {
            let then = unit.text(place * share(gain.place));
            format!("{} would help most: from within {} to within {then}.", capital(&name), unit.text(place))
        } else {
            let then = aim * share(gain.aim);
            format!("{} would help most: its direction from within {aim:.1}\u{b0} to {then:.1}\u{b0}.", capital(&name))
        }
    });
    Some(HelpWorkup { words, taken: predicted(candidate, &sight, estimate) })
}

/// Two readings of one figure, whatever they read.
fn same_kind(one: &Taken, other: &Taken) -> bool {
    match (one, other) {
        (Taken::Tape { from, to, .. }, Taken::Tape { from: f, to: t, .. }) => from == f && to == t,
        (Taken::Offset { from, to, axis, .. }, Taken::Offset { from: f, to: t, axis: a, .. }) => {
            (axis == a) && (from, to) == (f, t)
        }
        (Taken::Heading { .. }, Taken::Heading { .. }) | (Taken::Pitch { .. }, Taken::Pitch { .. }) => true,
        _ => false,
    }
}

fn candidates(job: &Job, of: Measurand, estimate: &PoseEstimate) -> Vec<Taken> {
    let mut options = Vec::new();
    let Ok(any_length) = TapeLength::new(500.0) else { return options };
    let (Ok(level), Ok(mark)) = (Coordinate::new(0.0), OnStick::new(STICK_MARK)) else { return options };
    let own = |anchor: &Anchor| matches!((anchor, of), (Anchor::Datum { datum }, Measurand::Datum { datum: me }) if *datum == me);
    // A datum whose own readings lean on this thing would make a circle; apply refuses it, so it is not offered.
    let anchors = job.datums().iter().filter(|datum| datum.readings.is_empty());
    let anchors: Vec<Anchor> =
        anchors.map(|datum| Anchor::Datum { datum: datum.id }).filter(|anchor| !own(anchor)).collect();
    let spot = match of {
        Measurand::KeepOut { keep_out } => match job.keep_out(keep_out).and_then(|one| one.shape.corner([1, 1, 1])) {
            Some(_) => Spot::Corner { towards: [1, 1, 1] },
            None => Spot::Centre,
        },
        Measurand::Datum { .. } | Measurand::Port { .. } => Spot::Centre,
    };
    options.extend(anchors.iter().map(|from| Taken::Tape { from: *from, to: spot, mm: any_length }));
    let nearest = anchors.iter().copied().min_by(|p, q| {
        let far = |anchor: &Anchor| match anchor {
            Anchor::Datum { datum } => {
                job.datum(*datum).map_or(f64::INFINITY, |datum| (datum.at.inner() - estimate.pose.at).norm())
            }
            Anchor::Zero | Anchor::Port { .. } => f64::INFINITY,
        };
        far(p).total_cmp(&far(q))
    });
    let from = nearest.unwrap_or(Anchor::Zero);
    options.extend(Axis::ALL.map(|axis| Taken::Offset { from, to: spot, axis, mm: level }));
    if let (Measurand::Port { .. }, true) = (of, estimate.aim != Basis::Typed) {
        let to = Spot::Stick { mm: mark };
        options.extend(anchors.iter().map(|from| Taken::Tape { from: *from, to, mm: any_length }));
        if let (Ok(heading), Ok(pitch)) = (HeadingAngle::new(0.0), PitchAngle::new(0.0)) {
            options.extend([Taken::Heading { degrees: heading }, Taken::Pitch { degrees: pitch }]);
        }
    }
    options
}

/// The reading with the figure it would have if the answer now were right.
fn predicted(taken: Taken, sight: &Observation, estimate: &PoseEstimate) -> Taken {
    let line = line_of(sight, estimate).map(|ends| ends.map(Vector::from));
    let out = estimate.pose.out;
    match (taken, line) {
        (Taken::Tape { from, to, mm }, Some([start, end])) => {
            Taken::Tape { from, to, mm: TapeLength::new((end - start).norm()).unwrap_or(mm) }
        }
        (Taken::Offset { from, to, axis, mm }, Some([start, end])) => {
            let far = (end - start)[axis.index()];
            Taken::Offset { from, to, axis, mm: Coordinate::new(far).unwrap_or(mm) }
        }
        (Taken::Heading { degrees }, _) => {
            let now = out.map_or(0.0, |out| out.y.atan2(out.x).to_degrees());
            Taken::Heading { degrees: HeadingAngle::new(now).unwrap_or(degrees) }
        }
        (Taken::Pitch { degrees }, _) => {
            let now = out.map_or(0.0, |out| out.z.clamp(-1.0, 1.0).asin().to_degrees());
            Taken::Pitch { degrees: PitchAngle::new(now).unwrap_or(degrees) }
        }
        (other, _) => other,
    }
}

/// The tape or plumb line, from what it starts at to where it ends, in mm.
pub(super) fn line_of(sight: &Observation, estimate: &PoseEstimate) -> Option<[[f64; 3]; 2]> {
    let [end, start] = sight.ends(&estimate.pose)?;
    match sight.kind {
        Kind::Tape { .. } => Some([start.coords.into(), end.coords.into()]),
        Kind::Offset { axis, .. } => {
            let mut level = end;
            level[axis] = start[axis];
            Some([level.coords.into(), end.coords.into()])
        }
        _ => None,
    }
}
