//! What follows for each support, and for each stretch between two holds.

use serde::Serialize;
use utoipa::ToSchema;

use super::TabWorkup;
use crate::assembly::{FreeSpan, SeatedSupport};
use crate::environment::Thing;
use crate::fastening::{Fastening, Foot};
use crate::findings::{Holds, moved_in};
use crate::job::Job;
use crate::join::SupportKind;
use crate::measure::Side;
use crate::part_ref::PartRef;
use crate::route::{LegId, ResolvedRun, SupportId};
use nook_geometry::Triple;
use nook_geometry::clearance::Rides;
use nook_geometry::units::{DualUnitText, Measure};

/// A support. Stations in mm along the tube's centre line, from the tube's end at A.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct SupportWorkup {
    /// Which.
    pub support: SupportId,
    /// What it is called.
    pub name: String,
    /// What it is.
    pub kind: SupportKind,
    /// What it is fixed to.
    pub fixed_to: Side,
    /// On which straight it is.
    pub straight: LegId,
    /// From the start of its straight to its middle.
    pub from_start: Measure,
    /// From its middle to the end of its straight.
    pub from_end: Measure,
    /// Station of its middle.
    pub at: Measure,
    /// Station at which it begins.
    pub from: Measure,
    /// Station at which it ends.
    pub to: Measure,
    /// The clock it leaves the pipe at, in degrees from up; nothing for a grommet.
    pub clock: Option<f64>,
    /// Whether that is held.
    pub clock_held: bool,
    /// Its feet.
    pub feet: Vec<FootWorkup>,
    /// How wide the hole is that it goes through; nothing where it stands on feet.
    pub hole: Option<Measure>,
    /// Whether somebody says how high they stand.
    pub height_held: bool,
    /// How high they are to stand at least, from the tube's skin.
    pub least: Measure,
    /// The tab it is cut as; nothing of other kinds, or where it stands too low to be bent.
    pub tab: Option<TabWorkup>,
    /// How far the tube moves in it; nothing where it does not, or that is not known.
    pub moves: Option<Measure>,
    /// How far it lets it; nothing where the two are one.
    pub gives: Option<Measure>,
}

/// One foot of a support.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct FootWorkup {
    /// Where it leaves the tube's skin, in mm, vehicle axes.
    #[schema(value_type = Triple)]
    pub from: [f64; 3],
    /// The middle of its hole.
    #[schema(value_type = Triple)]
    pub hole: [f64; 3],
    /// How high it stands, from the tube's skin.
    pub height: Measure,
    /// What it stands on; nothing where nothing is drawn there.
    pub on: Option<String>,
}

/// A stretch between two things that hold the pipe.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct SpanWorkup {
    /// Station at which it begins, from the tube's end at A.
    pub from: Measure,
    /// Where it ends.
    pub to: Measure,
    /// Its length along the pipe.
    pub length: Measure,
    /// Whether one end of it is open: it stands out from the other.
    pub overhangs: bool,
    /// Its first bending frequency.
    pub hz: f64,
    /// The least that is to be; nothing where it rides on an engine of which nobody said how fast it turns.
    pub least_hz: Option<f64>,
    /// Engine speed at which firing meets it, where it rides on the engine.
    pub rpm: Option<f64>,
    /// Whether it holds; nothing where that is not known.
    pub holds: Option<bool>,
    /// Whether it is the one of the pipe that is nearest to ringing.
    pub weakest: bool,
    /// That in words.
    pub said: DualUnitText,
}

impl SupportWorkup {
    pub(super) fn all(job: &Job, run: &ResolvedRun, holds: &Holds<'_>) -> Vec<Self> {
        let each = holds.pipe.supports.iter().zip(holds.fastened);
        each.map(|(support, fastened)| Self::of(job, run, holds, support, fastened)).collect()
    }

    fn of(job: &Job, run: &ResolvedRun, holds: &Holds<'_>, support: &SeatedSupport, fastened: &Fastening) -> Self {
        let begin = holds.pipe.begin();
        let [from, to] = support.reach();
        let straights = holds.pipe.straight_stations();
        let [start, end] = straights.get(support.leg).copied().unwrap_or([support.station; 2]);
        Self {
            support: support.id,
            name: run.route.support_name(support.id).unwrap_or_default(),
            kind: support.kind,
            fixed_to: support.to,
            straight: run.route.leg_id(support.leg),
            from_start: Measure(support.station - start),
            from_end: Measure(end - support.station),
            at: Measure(support.station - begin),
            from: Measure(from - begin),
            to: Measure(to - begin),
            clock: fastened.clock,
            clock_held: support.clock.is_some(),
            feet: fastened.feet.iter().map(|foot| FootWorkup::of(job, foot)).collect(),
            hole: (support.kind == SupportKind::Grommet)
                .then(|| Measure(run.tube.od() + 2.0 * support.kind.stands_out())),
            height_held: support.stand_off.is_some(),
            least: Measure(fastened.least),
            tab: fastened.feet.first().and_then(|foot| TabWorkup::of(holds.pipe, run.tube.od(), support, foot.height)),
            moves: support.kind.gives().and_then(|_| moved_in(holds, support)).map(Measure),
            gives: support.kind.gives().map(Measure),
        }
    }
}

impl FootWorkup {
    fn of(job: &Job, foot: &Foot) -> Self {
        let name = |thing: Thing| match thing {
            Thing::KeepOut { keep_out } => job.keep_out(keep_out).map(|one| one.name.as_str().to_owned()),
            Thing::Run { .. } | Thing::Itself => None,
        };
        Self {
            from: foot.from.coords.into(),
            hole: foot.hole.coords.into(),
            height: Measure(foot.height),
            on: foot.on.and_then(name),
        }
    }
}

impl SpanWorkup {
    pub(super) fn all(spans: &[FreeSpan], begin: f64) -> Vec<Self> {
        // Where nobody said what is wanted, the slowest.
        let share = |span: &FreeSpan| span.hz / span.least.unwrap_or(1.0);
        let weakest = (0..spans.len()).min_by(|p, q| share(&spans[*p]).total_cmp(&share(&spans[*q])));
        spans.iter().enumerate().map(|(index, span)| Self::of(span, begin, weakest == Some(index))).collect()
    }

    fn of(span: &FreeSpan, begin: f64, weakest: bool) -> Self {
        Self {
            from: Measure(span.stations[0] - begin),
            to: Measure(span.stations[1] - begin),
            length: Measure(span.length()),
            overhangs: span.overhangs,
            hz: span.hz,
            least_hz: span.least,
            rpm: span.rpm,
            holds: span.holds(),
            weakest,
            said: said(span),
        }
    }
}

fn said(span: &FreeSpan) -> DualUnitText {
    let hz = span.hz;
    let held = span.between.iter().filter(|part| matches!(part, PartRef::Support { .. })).count();
    let between = if span.overhangs {
        "out in the air"
    } else {
        ["between its joints", "from a joint to a support", "between two supports"][held.min(2)]
    };
    DualUnitText::new(|unit| {
        let long = unit.text(span.length());
        let against = match (span.least, span.rpm) {
            (None, _) => ": say how fast the engine turns".to_owned(),
            (Some(least), Some(rpm)) => format!(", which the engine fires at {rpm:.0} rpm; wanted {least:.0}"),
            (Some(least), None) => format!("; wanted {least:.0}"),
        };
        let rides = if span.rides == Rides::Engine { " on the engine" } else { "" };
        format!("{long} {between}{rides}: {hz:.0} Hz{against}")
    })
}
