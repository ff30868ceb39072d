//! How well one thing's place is known, reading by reading.

use std::f64::consts::PI;

use serde::Serialize;
use utoipa::ToSchema;

use crate::findings::job_names;
use crate::geometry::{Triple, Vector};
use crate::job::Job;
use crate::measure::fix::{Basis, Doubt, Fix, Kind, Lever, Sight};
use crate::measure::{Anchor, Axis, Reading, Spot, SpreadUnit, Subject, Taken};
use crate::survey::Survey;
use crate::units::{Coordinate, HeadingAngle, LengthUnit, Measure, OnStick, PitchAngle, TapeLength, Words};

/// How a place or a direction came about.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum FoundBy {
    /// As typed; no reading bears on it.
    Typed,
    /// As typed, since the readings leave it open.
    Open,
    /// From readings.
    Readings,
}

impl From<Basis> for FoundBy {
    fn from(basis: Basis) -> Self {
        match basis {
            Basis::Typed => Self::Typed,
            Basis::Open => Self::Open,
            Basis::Fixed => Self::Readings,
        }
    }
}

/// One reading beside the answer.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct ReadingWorkup {
    /// What it is, such as `tape from left strut bolt`.
    pub name: String,
    /// What was read, where it is a length.
    pub length: Option<Measure>,
    /// What was read, where it is an angle, in degrees.
    pub degrees: Option<f64>,
    /// How far it may be out, and why.
    pub spread: Words,
    /// Whether it counts.
    pub counts: bool,
    /// What the answer gives less what was read; nothing where there is no answer to compare with.
    pub off: Option<Words>,
    /// How far off it is beside what it may be: 0 agrees, 1 is the limit of chance.
    pub strain: f64,
    /// Whether it is the one that looks wrong.
    pub suspect: bool,
    /// What the answer gives for it, in mm or degrees, for readings of one figure.
    pub predicted: Option<f64>,
    /// The tape or plumb line, from what it starts at to where it ends, in mm.
    #[schema(value_type = Option<Vec<Triple>>)]
    pub line: Option<[[f64; 3]; 2]>,
}

/// The reading that would help most.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct HelpWorkup {
    /// What to take, and by how much it would help.
    pub words: Words,
    /// The reading, with what it would be if the answer now were right.
    pub taken: Taken,
}

/// Where one thing was found to be, and how well that is known.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct FoundWorkup {
    /// How its place came about.
    pub place: FoundBy,
    /// How its direction came about; for a port.
    pub aim: FoundBy,
    /// Within how much its place is known along its worst axis, 95 times in 100; nothing where it was typed.
    pub good_to: Option<Measure>,
    /// The same for its direction, in degrees.
    pub aim_good_to: Option<f64>,
    /// Half axes in mm of the ellipsoid it lies in 95 times in 100, the longest first; nothing where it was typed.
    #[schema(value_type = Option<Vec<Triple>>)]
    pub ellipsoid: Option<[[f64; 3]; 3]>,
    /// How good the answer is, in a sentence.
    pub verdict: Words,
    /// Its readings in order.
    pub readings: Vec<ReadingWorkup>,
    /// The other place that fits as well.
    #[schema(value_type = Option<Triple>)]
    pub other: Option<[f64; 3]>,
    /// The reading that would help most.
    pub help: Option<HelpWorkup>,
}

/// Standard deviations that hold 95 times in 100 along one line.
const ONE_LINE: f64 = 1.96;
/// Standard deviations of an ellipsoid that holds 95 times in 100: the root of chi squared 0.95 with 3 degrees.
const ELLIPSOID: f64 = 2.795_5;
/// A mark on the stick that helps most without being unwieldy.
const STICK_MARK: f64 = 300.0;

impl FoundWorkup {
    pub(super) fn of(job: &Job, survey: &Survey<'_>, of: Subject, readings: &[Reading], fix: &Fix) -> Self {
        let fixed = fix.place == Basis::Fixed;
        let aimed = fix.aim == Basis::Fixed;
        let corner = |towards| corner_of(job, of, towards);
        let each = |(index, reading): (usize, &Reading)| {
            let sight = survey.sight(index, reading, corner);
            reading_workup(job, survey, of, (index, reading), sight, fix)
        };
        Self {
            place: fix.place.into(),
            aim: fix.aim.into(),
            good_to: fixed.then(|| Measure(fix.worst() * ONE_LINE)),
            aim_good_to: aimed.then(|| fix.aim_spread.to_degrees() * ONE_LINE),
            ellipsoid: fixed.then(|| fix.axes().map(|axis| (axis * ELLIPSOID).into())),
            verdict: verdict(of, fix, readings),
            readings: readings.iter().enumerate().map(each).collect(),
            other: fix.other.map(|other| other.coords.into()),
            help: help(job, survey, of, readings, fix),
        }
    }
}

fn corner_of(job: &Job, of: Subject, towards: [i8; 3]) -> Vector {
    let Subject::KeepOut { keep_out } = of else { return Vector::zeros() };
    job.keep_out(keep_out).and_then(|one| one.shape.corner(towards)).unwrap_or_else(Vector::zeros)
}

fn verdict(of: Subject, fix: &Fix, readings: &[Reading]) -> Words {
    let datum = matches!(of, Subject::Datum { .. });
    let good = fix.worst() * ONE_LINE;
    let counting = readings.iter().filter(|reading| reading.counts).count();
    let aim = match fix.aim {
        Basis::Fixed => format!(", and points to {:.1}\u{b0}", fix.aim_spread.to_degrees() * ONE_LINE),
        Basis::Typed | Basis::Open => String::new(),
    };
    Words::new(|unit| match (fix.place, fix.doubt()) {
        (Basis::Typed, _) if fix.aim == Basis::Fixed => format!("Its place is as typed{aim}."),
        (Basis::Typed, _) if datum => {
            "Assumed to be exactly there: it makes the frame the rest is measured in.".to_owned()
        }
        (Basis::Typed, _) => "As typed. Nothing is measured yet.".to_owned(),
        (Basis::Open, _) => format!("Not fixed yet by {counting} reading{}.", if counting == 1 { "" } else { "s" }),
        (Basis::Fixed, Doubt::Nothing) => format!("Good to {} along its worst axis{aim}.", unit.say(good)),
        (Basis::Fixed, Doubt::Reading { .. }) => {
            format!("One reading looks wrong. Without it good to {}, with it not to be trusted.", unit.say(good))
        }
        (Basis::Fixed, Doubt::OneOf { .. } | Doubt::Many) => "Not to be trusted: the readings do not agree.".to_owned(),
    })
}

fn angle(degrees: f64) -> Words {
    Words::new(|_| format!("{degrees:.1}\u{b0}"))
}

fn signed(mm: f64) -> Words {
    Words::new(|unit| {
        let text = unit.say(mm);
        if text.starts_with('-') { text } else { format!("+{text}") }
    })
}

fn read_figure(taken: &Taken) -> Option<f64> {
    match taken {
        Taken::Tape { mm, .. } => Some(mm.get()),
        Taken::Offset { mm, .. } => Some(mm.get()),
        Taken::Heading { degrees } => Some(degrees.get()),
        Taken::Pitch { degrees } => Some(degrees.get()),
        Taken::Caliper { mm } => Some(mm.get()),
        Taken::Girth { mm } => Some(mm.get()),
        Taken::Square { .. } | Taken::Parallel { .. } | Taken::Mirror { .. } => None,
    }
}

fn reading_workup(
    job: &Job,
    survey: &Survey<'_>,
    of: Subject,
    (index, reading): (usize, &Reading),
    sight: Option<Sight>,
    fix: &Fix,
) -> ReadingWorkup {
    let fit = fix.readings.iter().find(|fit| fit.index == index);
    let sigma = reading.sigma();
    let spread = Words::new(|unit| {
        let size = match reading.taken.spread_unit() {
            SpreadUnit::Mm => unit.say(sigma),
            SpreadUnit::Degrees => format!("{sigma}\u{b0}"),
        };
        let why = if reading.spread.is_some() { "as you said" } else { reading.taken.spread_reason() };
        format!("\u{b1}{size}: {why}")
    });
    // A size is no part of the sum of places; it is compared with the mean of the sizes read.
    let size_off = match (reading.taken, of) {
        (Taken::Caliper { mm }, Subject::Port { port }) => od_of(job, survey, port).map(|od| od - mm.get()),
        (Taken::Girth { mm }, Subject::Port { port }) => od_of(job, survey, port).map(|od| od * PI - mm.get()),
        _ => None,
    };
    let answered = fit.filter(|_| fix.place != Basis::Open || fix.aim == Basis::Fixed);
    let (off, figure) = match (size_off, answered) {
        (Some(mm), _) => (Some(signed(mm)), Some(mm)),
        (None, Some(fit)) if fit.angle => {
            // In the sum a heading is how far the way out leans from an upright plane; on a gauge it is what turns.
            let off = gauged(&reading.taken, fix).unwrap_or(fit.off.to_degrees());
            (Some(angle(off)), Some(off))
        }
        (None, Some(fit)) => (Some(signed(fit.off)), Some(fit.off)),
        (None, None) => (None, None),
    };
    // Where nothing else checks a reading, it agrees with itself.
    let strain = match (size_off, fit.and_then(|fit| fit.normalised)) {
        (Some(mm), _) => mm.abs() / sigma / 3.29,
        (None, Some(normalised)) => normalised.abs() / 3.29,
        (None, None) if !reading.counts => figure.map_or(0.0, |off| off.abs() / sigma / 3.29),
        (None, None) => 0.0,
    };
    let suspect = match fix.doubt() {
        Doubt::Reading { index: wrong, .. } => *wrong == index,
        _ => false,
    };
    let figure_read = read_figure(&reading.taken);
    let is_angle = matches!(reading.taken, Taken::Heading { .. } | Taken::Pitch { .. });
    ReadingWorkup {
        name: reading.taken.name(job_names(job)),
        length: figure_read.filter(|_| !is_angle).map(Measure),
        degrees: figure_read.filter(|_| is_angle),
        spread,
        counts: reading.counts,
        off,
        strain,
        suspect,
        predicted: figure_read.zip(figure).map(|(read, off)| read + off),
        line: sight.and_then(|sight| line_of(&sight, fix)),
    }
}

/// What an angle gauge would show less what it read, in degrees, -180 to 180; `None` for other readings.
fn gauged(taken: &Taken, fix: &Fix) -> Option<f64> {
    let out = fix.pose.out?;
    let off = match taken {
        Taken::Heading { degrees } => out.y.atan2(out.x) - degrees.get().to_radians(),
        Taken::Pitch { degrees } => out.z.clamp(-1.0, 1.0).asin() - degrees.get().to_radians(),
        _ => return None,
    };
    Some(off.sin().atan2(off.cos()).to_degrees())
}

fn od_of(job: &Job, survey: &Survey<'_>, port: crate::measure::PortRef) -> Option<f64> {
    Some(survey.settle(job.run(port.run)?).port(port.end).od.get())
}

fn line_of(sight: &Sight, fix: &Fix) -> Option<[[f64; 3]; 2]> {
    let reach = |to: Lever| match (to, fix.pose.out) {
        (Lever::Fixed(by), _) => fix.pose.at + by,
        (Lever::Stick(mm), out) => fix.pose.at + out.map_or_else(Vector::zeros, |out| out.into_inner() * mm),
    };
    match sight.kind {
        Kind::Tape { from, to, .. } => Some([from.coords.into(), reach(to).coords.into()]),
        Kind::Offset { from, to, axis, .. } => {
            let end = reach(to);
            let mut start = end;
            start[axis] = from[axis];
            Some([start.coords.into(), end.coords.into()])
        }
        _ => None,
    }
}

/// The reading, among those usually taken, that would shrink the worst axis most.
fn help(job: &Job, survey: &Survey<'_>, of: Subject, readings: &[Reading], fix: &Fix) -> Option<HelpWorkup> {
    if readings.is_empty() {
        return None;
    }
    let taken =
        |candidate: &Taken| readings.iter().any(|reading| reading.counts && same_kind(&reading.taken, candidate));
    let corner = |towards| corner_of(job, of, towards);
    let options = candidates(job, of, fix).into_iter().filter(|candidate| !taken(candidate));
    let weighed = options.filter_map(|candidate| {
        let sight = survey.sight(0, &Reading::of(candidate), corner)?;
        let gain = fix.with(&sight)?;
        Some((gain, candidate, sight))
    });
    let (gain, candidate, sight) = weighed.min_by(|p, q| p.0.then.total_cmp(&q.0.then))?;
    // Under a tenth less is not worth bending down for.
    if gain.then > gain.now * 0.9 {
        return None;
    }
    let name = candidate.name(job_names(job));
    let open = fix.place == Basis::Open || fix.aim == Basis::Open;
    let words = Words::new(|unit: LengthUnit| {
        let then = unit.say(gain.then * ONE_LINE);
        if open && gain.then > 100.0 {
            format!("Next, take {name}; more will be needed.")
        } else if open {
            format!("Next, take {name}: that fixes it to {then}.")
        } else {
            format!(
                "{} would help most: from {} to {then} on the worst axis.",
                capital(&name),
                unit.say(gain.now * ONE_LINE)
            )
        }
    });
    Some(HelpWorkup { words, taken: predicted(candidate, &sight, fix) })
}

fn capital(name: &str) -> String {
    let mut letters = name.chars();
    letters.next().into_iter().flat_map(char::to_uppercase).chain(letters).collect()
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

fn candidates(job: &Job, of: Subject, fix: &Fix) -> Vec<Taken> {
    let mut options = Vec::new();
    let Ok(any_length) = TapeLength::new(500.0) else { return options };
    let (Ok(level), Ok(mark)) = (Coordinate::new(0.0), OnStick::new(STICK_MARK)) else { return options };
    let own = |anchor: &Anchor| matches!((anchor, of), (Anchor::Datum { datum }, Subject::Datum { datum: me }) if *datum == me);
    // A datum whose own readings lean on this thing would make a circle; apply refuses it, so it is not offered.
    let anchors = job.datums().iter().filter(|datum| datum.readings.is_empty());
    let anchors: Vec<Anchor> =
        anchors.map(|datum| Anchor::Datum { datum: datum.id }).filter(|anchor| !own(anchor)).collect();
    let spot = match of {
        Subject::KeepOut { keep_out } => match job.keep_out(keep_out).and_then(|one| one.shape.corner([1, 1, 1])) {
            Some(_) => Spot::Corner { towards: [1, 1, 1] },
            None => Spot::Centre,
        },
        Subject::Datum { .. } | Subject::Port { .. } => Spot::Centre,
    };
    options.extend(anchors.iter().map(|from| Taken::Tape { from: *from, to: spot, mm: any_length }));
    let nearest = anchors.iter().copied().min_by(|p, q| {
        let far = |anchor: &Anchor| match anchor {
            Anchor::Datum { datum } => {
                job.datum(*datum).map_or(f64::INFINITY, |datum| (datum.at.inner() - fix.pose.at).norm())
            }
            Anchor::Zero | Anchor::Port { .. } => f64::INFINITY,
        };
        far(p).total_cmp(&far(q))
    });
    let from = nearest.unwrap_or(Anchor::Zero);
    options.extend(Axis::ALL.map(|axis| Taken::Offset { from, to: spot, axis, mm: level }));
    if let (Subject::Port { .. }, true) = (of, fix.aim != Basis::Typed) {
        let to = Spot::Stick { mm: mark };
        options.extend(anchors.iter().map(|from| Taken::Tape { from: *from, to, mm: any_length }));
        if let (Ok(heading), Ok(pitch)) = (HeadingAngle::new(0.0), PitchAngle::new(0.0)) {
            options.extend([Taken::Heading { degrees: heading }, Taken::Pitch { degrees: pitch }]);
        }
    }
    options
}

/// The reading with the figure it would have if the answer now were right.
fn predicted(taken: Taken, sight: &Sight, fix: &Fix) -> Taken {
    let line = line_of(sight, fix).map(|ends| ends.map(Vector::from));
    let out = fix.pose.out;
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
