//! How well one thing's place is known, reading by reading.

use std::f64::consts::PI;

use serde::Serialize;
use utoipa::ToSchema;

use nalgebra::{Matrix2, Matrix3};

use super::help::{HelpWorkup, help, line_of};
use crate::findings::job_names;
use crate::job::Job;
use crate::measure::estimate::{Basis, Observation, OutlierTest, PoseEstimate, within_95};
use crate::measure::{Measurand, Reading, SpreadUnit, Taken};
use crate::survey::Survey;
use nook_geometry::Triple;
use nook_geometry::units::{DualUnitText, LengthUnit, Measure, capital};

/// How a place or a direction came about.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum EstimatedBy {
    /// As typed; no reading bears on it.
    Typed,
    /// As typed, since the readings leave it open.
    Open,
    /// From readings.
    Readings,
}

impl From<Basis> for EstimatedBy {
    fn from(basis: Basis) -> Self {
        match basis {
            Basis::Typed => Self::Typed,
            Basis::Open => Self::Open,
            Basis::Fixed => Self::Readings,
        }
    }
}

/// Whether a reading is checked by others.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum CheckedBy {
    /// Nothing: an error in it would move the answer and not show.
    Nothing,
    /// Hardly: less than a tenth of an error in it shows.
    Hardly,
    /// The others.
    Others,
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
    pub spread: DualUnitText,
    /// Whether it counts.
    pub counts: bool,
    /// What the answer gives less what was read; nothing where there is no answer to compare with.
    pub off: Option<DualUnitText>,
    /// How far off it is beside what it may be: 0 agrees, 1 is the limit of chance.
    pub strain: f64,
    /// Whether the others check it. What nothing checks agrees with itself, which says nothing.
    pub checked: CheckedBy,
    /// How large an error in it would have to be to be told.
    pub check: DualUnitText,
    /// Whether it is one that looks wrong.
    pub suspect: bool,
    /// What the answer gives for it, in mm or degrees, for readings of one figure.
    pub predicted: Option<f64>,
    /// The tape or plumb line, from what it starts at to where it ends, in mm.
    #[schema(value_type = Option<Vec<Triple>>)]
    pub line: Option<[[f64; 3]; 2]>,
}

/// Where one thing was found to be, and how well that is known.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct EstimateWorkup {
    /// How its place came about.
    pub place: EstimatedBy,
    /// How its direction came about; for a port.
    pub aim: EstimatedBy,
    /// Within how much its place is known, 95 times in 100; nothing where it was typed, or where its readings do not
    /// agree or fit two places.
    pub good_to: Option<Measure>,
    /// The same for its direction, in degrees.
    pub aim_good_to: Option<f64>,
    /// Half axes in mm of the ellipsoid it lies in 95 times in 100, the longest first; nothing where it was typed.
    #[schema(value_type = Option<Vec<Triple>>)]
    pub ellipsoid: Option<[[f64; 3]; 3]>,
    /// How good the answer is, in a sentence.
    pub verdict: DualUnitText,
    /// Its readings in order.
    pub readings: Vec<ReadingWorkup>,
    /// The other place that fits as well, or of several the one nearest to what was typed.
    #[schema(value_type = Option<Triple>)]
    pub other: Option<[f64; 3]>,
    /// The direction there.
    #[schema(value_type = Option<Triple>)]
    pub other_out: Option<[f64; 3]>,
    /// The reading that would help most.
    pub help: Option<HelpWorkup>,
}

/// Standard deviations of an ellipsoid that holds 95 times in 100: the root of chi squared 0.95 with 3 degrees.
const ELLIPSOID: f64 = 2.795_5;
/// A reading of whose error less shows than this share is hardly checked. Source: the usual least redundancy number of
/// geodetic networks.
const HARDLY: f64 = 0.1;
impl EstimateWorkup {
    pub(super) fn of(
        job: &Job,
        survey: &Survey<'_>,
        of: Measurand,
        readings: &[Reading],
        estimate: &PoseEstimate,
    ) -> Self {
        let fixed = estimate.place == Basis::Fixed;
        let aimed = estimate.aim == Basis::Fixed;
        let sure = estimate.others.is_empty() && *estimate.outlier_test() == OutlierTest::Nothing;
        let each = |(index, reading): (usize, &Reading)| {
            reading_workup(job, survey, of, (index, reading), survey.sight(of, index, reading), estimate)
        };
        Self {
            place: estimate.place.into(),
            aim: estimate.aim.into(),
            good_to: (fixed && sure).then(|| Measure(within_95(estimate.spread))),
            aim_good_to: (aimed && sure).then(|| within_95(estimate.aim_spread).to_degrees()),
            ellipsoid: fixed.then(|| estimate.axes().map(|axis| (axis * ELLIPSOID).into())),
            verdict: verdict(of, estimate, readings),
            readings: readings.iter().enumerate().map(each).collect(),
            other: estimate.others.first().map(|other| other.at.coords.into()),
            other_out: estimate.others.first().and_then(|other| other.out).map(|out| out.into_inner().into()),
            help: help(job, survey, of, readings, estimate),
        }
    }
}

fn verdict(of: Measurand, estimate: &PoseEstimate, readings: &[Reading]) -> DualUnitText {
    let datum = matches!(of, Measurand::Datum { .. });
    let counting = readings.iter().filter(|reading| reading.counts).count();
    // What nothing checks could be wrong by any amount.
    let placed = estimate.readings.iter().filter(|fit| readings.get(fit.index).is_some_and(|reading| reading.counts));
    let unchecked = placed.clone().count() > 0 && placed.clone().all(|fit| fit.normalised.is_none());
    let proviso = if unchecked { " Nothing checks that: one wrong reading would not show." } else { "" };
    let aimed = |aim: Matrix2<f64>| format!("its direction within {:.1}\u{b0}", within_95(aim).to_degrees());
    let held = |unit: LengthUnit, place: Matrix3<f64>, aim: Matrix2<f64>| match (estimate.place, estimate.aim) {
        (Basis::Fixed, Basis::Fixed) => format!("within {} and {}", unit.text(within_95(place)), aimed(aim)),
        (Basis::Fixed, _) => format!("within {}", unit.text(within_95(place))),
        (_, _) => aimed(aim),
    };
    DualUnitText::new(|unit| match (estimate.place, estimate.aim, estimate.outlier_test()) {
        (Basis::Typed, Basis::Typed, _) if datum => {
            let now = estimate.worst();
            format!("As typed, \u{b1}{} each way: it is part of the frame the rest is measured in.", unit.text(now))
        }
        (Basis::Typed, Basis::Typed, _) => "As typed. Nothing is measured yet.".to_owned(),
        (Basis::Open, _, _) => format!("Not fixed yet by {counting} reading{}.", if counting == 1 { "" } else { "s" }),
        (_, _, OutlierTest::Readings { wrong, without }) => {
            let (which, them) = match wrong.len() {
                1 => ("One reading looks", "it"),
                _ => ("Two readings look", "them"),
            };
            let rest = held(unit, without.spread, without.aim_spread);
            format!("{which} wrong. Without {them} good to {rest}, 95 times in 100; with {them} not to be trusted.")
        }
        (_, _, OutlierTest::OneOf { .. } | OutlierTest::Many) => {
            "Not to be trusted: the readings do not agree.".to_owned()
        }
        (_, _, OutlierTest::Nothing) if !estimate.others.is_empty() => {
            let count =
                if estimate.others.len() == 1 { "Two".to_owned() } else { (estimate.others.len() + 1).to_string() };
            format!("{count} answers fit these readings as well as each other: see which is meant.")
        }
        (Basis::Typed, Basis::Open, OutlierTest::Nothing) => "As typed; its direction is not fixed yet.".to_owned(),
        (place, _, OutlierTest::Nothing) => {
            let typed = if place == Basis::Typed { "Its place is as typed; " } else { "" };
            let text =
                format!("{typed}{}, 95 times in 100.{proviso}", held(unit, estimate.spread, estimate.aim_spread));
            capital(&text)
        }
    })
}

fn angle(degrees: f64) -> DualUnitText {
    DualUnitText::new(|_| format!("{degrees:.1}\u{b0}"))
}

fn signed(mm: f64) -> DualUnitText {
    DualUnitText::new(|unit| {
        let text = unit.text(mm);
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
        Taken::Bore { mm, .. } => Some(mm.get()),
        Taken::Between { degrees, .. } => Some(degrees.get()),
        Taken::Square { .. } | Taken::Parallel { .. } | Taken::Mirror { .. } => None,
    }
}

fn reading_workup(
    job: &Job,
    survey: &Survey<'_>,
    of: Measurand,
    (index, reading): (usize, &Reading),
    sight: Option<Observation>,
    estimate: &PoseEstimate,
) -> ReadingWorkup {
    let fit = estimate.readings.iter().find(|fit| fit.index == index);
    let sigma = reading.sigma();
    let spread = DualUnitText::new(|unit| {
        let size = match reading.taken.spread_unit() {
            SpreadUnit::Mm => unit.text(sigma),
            SpreadUnit::Degrees => format!("{sigma}\u{b0}"),
        };
        let why = if reading.spread.is_some() { "as you said" } else { reading.taken.spread_reason() };
        format!("\u{b1}{size}: {why}")
    });
    // A size is no part of the sum of places; it is compared with the mean of the sizes read.
    let size_off = match (reading.taken, of) {
        (Taken::Caliper { mm }, Measurand::Port { port }) => od_of(job, survey, port).map(|od| od - mm.get()),
        (Taken::Girth { mm }, Measurand::Port { port }) => od_of(job, survey, port).map(|od| od * PI - mm.get()),
        (Taken::Bore { mm, wall }, Measurand::Port { port }) => {
            od_of(job, survey, port).map(|od| od - 2.0 * wall.get() - mm.get())
        }
        _ => None,
    };
    let answered = fit.filter(|_| estimate.place != Basis::Open || estimate.aim == Basis::Fixed);
    let (off, figure) = match (size_off, answered) {
        (Some(mm), _) => (Some(signed(mm)), Some(mm)),
        (None, Some(fit)) if fit.angle => {
            // In the sum a heading is how far the way out leans from an upright plane; on a gauge it is what turns.
            let off = gauged(&reading.taken, estimate).unwrap_or(fit.off.to_degrees());
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
    let outlier = match estimate.outlier_test() {
        OutlierTest::Readings { wrong, .. } => wrong.iter().find(|outlier| outlier.index == index),
        _ => None,
    };
    // One that looks wrong is held against what the others say without it.
    let (off, figure) = match outlier {
        Some(outlier) if outlier.angle => {
            let degrees = -outlier.by.to_degrees();
            (Some(angle(degrees)), Some(degrees))
        }
        Some(outlier) => (Some(signed(-outlier.by)), Some(-outlier.by)),
        None => (off, figure),
    };
    let size = matches!(reading.taken, Taken::Caliper { .. } | Taken::Girth { .. } | Taken::Bore { .. });
    let checked = match fit {
        Some(fit) if reading.counts && fit.normalised.is_none() => CheckedBy::Nothing,
        Some(fit) if reading.counts && fit.checked < HARDLY => CheckedBy::Hardly,
        None if size && reading.counts && !others_size(job, of, index) => CheckedBy::Nothing,
        _ => CheckedBy::Others,
    };
    let least = fit.and_then(|fit| fit.least_told.map(|least| (least, fit.angle)));
    let check = DualUnitText::new(|unit| match (checked, least) {
        (CheckedBy::Nothing, _) => "Nothing checks it: it agrees with itself.".to_owned(),
        (_, Some((least, true))) => format!("An error under {:.1}\u{b0} in it would not show.", least.to_degrees()),
        (_, Some((least, false))) => format!("An error under {} in it would not show.", unit.text(least)),
        (_, None) => String::new(),
    });
    // What nothing checks is off by nothing, whatever it reads: that is no agreement.
    let (off, figure) = if checked == CheckedBy::Nothing { (None, figure) } else { (off, figure) };
    let figure_read = read_figure(&reading.taken);
    let is_angle = matches!(reading.taken, Taken::Heading { .. } | Taken::Pitch { .. } | Taken::Between { .. });
    ReadingWorkup {
        name: reading.taken.name(job_names(job)),
        length: figure_read.filter(|_| !is_angle).map(Measure),
        degrees: figure_read.filter(|_| is_angle),
        spread,
        counts: reading.counts,
        off,
        strain,
        checked,
        check,
        suspect: outlier.is_some(),
        predicted: figure_read.zip(figure).map(|(read, off)| read + off),
        line: sight.and_then(|sight| line_of(&sight, estimate)),
    }
}

/// What an angle gauge would show less what it read, in degrees, -180 to 180; `None` for other readings.
fn gauged(taken: &Taken, estimate: &PoseEstimate) -> Option<f64> {
    let out = estimate.pose.out?;
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

/// Whether another counting reading of a port's size checks this one.
fn others_size(job: &Job, of: Measurand, index: usize) -> bool {
    let Measurand::Port { port } = of else { return false };
    let readings = job.port(port).map_or(&[][..], |port| &port.readings);
    readings.iter().enumerate().any(|(other, reading)| {
        let size = matches!(reading.taken, Taken::Caliper { .. } | Taken::Girth { .. } | Taken::Bore { .. });
        other != index && reading.counts && size
    })
}
