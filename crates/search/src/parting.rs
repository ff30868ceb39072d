//! Where a pipe should part so that every part of it comes out of the bay.

use std::cell::RefCell;
use std::collections::HashSet;
use std::sync::atomic::{AtomicBool, Ordering};

use nook_core::edit::{Edit, JoinEdit, apply};
use nook_core::environment::Scans;
use nook_core::findings::{Finding, FindingKind, Severity};
use nook_core::join::JointKind;
use nook_core::route::{AlongAnchor, LegEnd};
use nook_core::stock::Duty;
use nook_core::taken_out::{NotParted, taken_out};
use nook_core::workup::{Workup, workup_of_drag};
use nook_core::{Job, PartRef, RunId};
use nook_geometry::units::{AlongLeg, DualUnitText, Measure, PartLength};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::taking_apart::{Order, TakenOff, sections_of};

/// What is asked of the parts of a pipe.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum PartingSchool {
    /// As few joints as can be, soft ones last; one part may have to come out before another.
    Fewest,
    /// Each part comes out by itself, the others in their places.
    EachOut,
}

/// Ways to part a pipe.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Partings {
    /// The best first; none where nothing was found, or where it need not part.
    pub offers: Vec<Parting>,
    /// What came of it.
    pub words: DualUnitText,
}

/// A way to part a pipe.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Parting {
    /// What puts its joints in.
    #[schema(inline = false)]
    pub edit: Edit,
    /// The joints, in words.
    pub words: DualUnitText,
    /// In which order its parts come out, and how.
    pub steps: Vec<TakenOff>,
    /// How far its longest part is from end to end.
    pub longest: Measure,
    /// What there is to say against it.
    pub cautions: Vec<DualUnitText>,
}

/// Most joints that are put in.
const MOST: usize = 3;
/// Most places for one, and most ways to part that are tried with each number of joints.
const PLACES: f64 = 16.0;
const TRIED: [usize; MOST] = [16, 60, 40];
/// Most that are offered.
const OFFERED: usize = 3;
/// How often each tree of a search may ask for gaps, tried in turn.
const ASKS: [u32; 2] = [0, 40_000];

/// A joint where one may be.
struct Place {
    at: AlongAnchor,
    /// Its station along the tube in mm.
    station: f64,
    kind: JointKind,
    /// What there is to say against it.
    cautions: Vec<DualUnitText>,
}

/// Looks for the fewest joints more with which every part of a run comes out, no part longer than `longest`, every joint
/// reached and none asked for more than it gives. `tell` hears how far it is, 0 to 1.
///
/// # Errors
/// [`NotParted`] where there is no run or no pipe, or where what joins it now cannot be parted.
pub fn where_to_part(
    job: &Job,
    run: RunId,
    school: PartingSchool,
    longest: Option<PartLength>,
    scans: &Scans,
    stop: &AtomicBool,
    tell: &(dyn Fn(f64) + Sync),
) -> Result<Partings, NotParted> {
    job.run(run).ok_or(NotParted::NoSuchRun(run))?;
    let before = workup_of_drag(job, run, scans).map_err(|_| NotParted::NoPipe)?;
    let length = before.totals.as_ref().ok_or(NotParted::NoPipe)?.end_to_end.mm();
    let tried = Tried {
        job,
        run,
        school,
        longest: longest.map_or(f64::INFINITY, PartLength::get),
        scans,
        stop,
        stay: Stay::default(),
    };
    // What is welded to its port, or has a hose that no straight takes, does so wherever else it parts.
    for (section, _) in sections_of(job, run).enumerate() {
        taken_out(job, run, section, scans, &[])?;
    }
    if tried.parts(job).is_ok() {
        let words = "It need not part any further: every part of it comes out.".to_owned();
        return Ok(Partings { offers: Vec::new(), words: DualUnitText::same(words) });
    }
    let places = tried.places(&before);
    let mut offers: Vec<Parting> = Vec::new();
    for count in 1..=MOST {
        let mut sets = sets(places.len(), count);
        let parts = |set: &[usize]| {
            let joints = before.sections.iter().map(|section| section.from.mm()).chain([length]);
            let mut cuts: Vec<f64> = set.iter().map(|nth| places[*nth].station).chain(joints).collect();
            cuts.sort_by(f64::total_cmp);
            cuts.windows(2).map(|pair| pair[1] - pair[0]).fold(0.0, f64::max)
        };
        // The most even first: short parts come out more easily.
        sets.sort_by(|p, q| parts(p).total_cmp(&parts(q)));
        let most = TRIED[count - 1].min(sets.len());
        for (nth, set) in sets.iter().take(most).enumerate() {
            if stop.load(Ordering::Relaxed) {
                break;
            }
            #[expect(clippy::cast_precision_loss, reason = "some dozens")]
            tell((count - 1) as f64 / MOST as f64 + nth as f64 / (most * MOST) as f64);
            let set: Vec<&Place> = set.iter().map(|nth| &places[*nth]).collect();
            offers.extend(tried.parting(&set, &before));
        }
        if !offers.is_empty() {
            break;
        }
    }
    offers.sort_by(|p, q| p.rank().partial_cmp(&q.rank()).unwrap_or(std::cmp::Ordering::Equal));
    offers.truncate(OFFERED);
    let stopped = stop.load(Ordering::Relaxed);
    Ok(Partings { words: words(&offers, places.len(), stopped), offers })
}

impl Parting {
    /// Less is better: what there is against it, what is off first, how long its longest part is.
    fn rank(&self) -> (usize, usize, f64) {
        (self.cautions.len(), self.steps.len(), self.longest.mm())
    }
}

/// Parts that stay by themselves, by the stations in hundredths of a mm between which they lie.
type Stay = RefCell<HashSet<[i64; 2]>>;

struct Tried<'a> {
    job: &'a Job,
    run: RunId,
    school: PartingSchool,
    longest: f64,
    scans: &'a Scans,
    stop: &'a AtomicBool,
    stay: Stay,
}

impl Tried<'_> {
    /// Places along the straights where a joint of some kind is sound.
    fn places(&self, before: &Workup) -> Vec<Place> {
        let all: f64 = before.straights.iter().map(|one| one.length.mm().max(0.0)).sum();
        let step = (all / PLACES).max(40.0);
        let mut places = Vec::new();
        for straight in &before.straights {
            let length = straight.length.mm();
            let count = (length / step).floor().max(1.0);
            let mut nth = 0.5;
            while nth < count && length > 0.0 {
                if let Ok(mm) = AlongLeg::new(length * nth / count) {
                    let at = AlongAnchor { leg: straight.straight, from: LegEnd::Start, mm };
                    places.extend(self.place(at, straight.from.mm() + mm.get(), before));
                }
                nth += 1.0;
            }
        }
        places
    }

    /// The first kind of joint that is sound at a place.
    fn place(&self, at: AlongAnchor, station: f64, before: &Workup) -> Option<Place> {
        kinds(before.decisions.duty, self.school).iter().find_map(|kind| {
            let applied = apply(self.job, &self.put(at, *kind)).ok()?;
            let made = *applied.made.first()?;
            let after = workup_of_drag(&applied.job, self.run, self.scans).ok()?;
            let of_it = |one: &&Finding| one.part == made && one.kind != FindingKind::OverGive;
            let errors = after.findings.iter().filter(of_it).any(|one| one.severity == Severity::Error);
            let cautions = after.findings.iter().filter(of_it).filter(|one| one.severity == Severity::Warning);
            let cautions = cautions.map(|one| one.words.clone()).collect();
            (!errors).then_some(Place { at, station, kind: *kind, cautions })
        })
    }

    const fn put(&self, at: AlongAnchor, kind: JointKind) -> Edit {
        Edit::Join(JoinEdit::AddJoint { run: self.run, at, kind })
    }

    /// What comes of joints at some places, if every part comes out and nothing is worse than it was.
    fn parting(&self, set: &[&Place], before: &Workup) -> Option<Parting> {
        let edit = Edit::Together { edits: set.iter().map(|place| self.put(place.at, place.kind)).collect() };
        let job = apply(self.job, &edit).ok()?.job;
        let after = workup_of_drag(&job, self.run, self.scans).ok()?;
        let parts: Vec<[i64; 2]> = after.sections.iter().map(|one| [&one.from, &one.to].map(key)).collect();
        if worse(before, &after) || parts.iter().any(|part| self.stay.borrow().contains(part)) {
            return None;
        }
        let (steps, longest) = match self.parts(&job) {
            Ok(parts) => parts,
            // It stays whatever else is off: so it will among other joints.
            Err(Stays(section)) => {
                self.stay.borrow_mut().extend(section.and_then(|section| parts.get(section)));
                return None;
            }
        };
        let words = DualUnitText::new(|unit| {
            let each = set.iter().map(|place| format!("{} {} from A", place.kind.word(), unit.text(place.station)));
            each.collect::<Vec<_>>().join(", ")
        });
        let cautions = set.iter().flat_map(|place| place.cautions.clone()).collect();
        Some(Parting { edit, words, steps, longest: Measure(longest), cautions })
    }

    /// How the parts of a pipe come out, and how long the longest is in mm.
    fn parts(&self, job: &Job) -> Result<(Vec<TakenOff>, f64), Stays> {
        let count = sections_of(job, self.run).count();
        let mut longest = 0.0_f64;
        for section in 0..count {
            let taken = taken_out(job, self.run, section, self.scans, &[]).map_err(|_| Stays(None))?;
            let size = taken.body.size();
            if size > self.longest {
                return Err(Stays(Some(section)));
            }
            longest = longest.max(size);
        }
        let mut steps = Vec::new();
        let mut out = |mut order: Order<'_>| {
            order.look(&ASKS, self.stop, &|_| ());
            steps.append(&mut order.steps);
            match order.left.as_slice() {
                [] => Ok(()),
                [last] if !self.stop.load(Ordering::Relaxed) => Err(Stays(Some(last.section))),
                _ => Err(Stays(None)),
            }
        };
        match self.school {
            PartingSchool::Fewest => out(Order::new(job, self.scans, sections_of(job, self.run)))?,
            PartingSchool::EachOut => {
                for section in sections_of(job, self.run) {
                    out(Order::new(job, self.scans, std::iter::once(section)))?;
                }
            }
        }
        Ok((steps, longest))
    }
}

/// A part that stays or is too long, whatever else is off; `None` where that was not found out.
struct Stays(Option<usize>);

fn key(station: &Measure) -> i64 {
    #[expect(clippy::cast_possible_truncation, reason = "a pipe is some metres long")]
    let key = (station.mm() * 100.0).round() as i64;
    key
}

/// Kinds of joint that are tried, in their order: who wants few soft joints takes metal where metal will do.
const fn kinds(duty: Duty, school: PartingSchool) -> &'static [JointKind] {
    match (duty, school) {
        (Duty::Exhaust, _) => &[JointKind::VBand, JointKind::Flange, JointKind::Slip],
        (Duty::Coolant, _) => &[JointKind::Coupler, JointKind::Hump],
        (Duty::Oil, _) => &[JointKind::Flange],
        (_, PartingSchool::Fewest) => &[JointKind::VBand, JointKind::Coupler, JointKind::Hump, JointKind::Sleeve],
        (_, PartingSchool::EachOut) => &[JointKind::Coupler, JointKind::Hump, JointKind::Sleeve, JointKind::VBand],
    }
}

/// Whether a pipe has an error that it did not have.
fn worse(before: &Workup, after: &Workup) -> bool {
    let errors = |workup: &Workup| -> Vec<(FindingKind, PartRef)> {
        let all = workup.findings.iter().filter(|one| one.severity == Severity::Error);
        all.map(|one| (one.kind, one.part)).collect()
    };
    let known = errors(before);
    errors(after).iter().any(|one| !known.contains(one))
}

/// Every choice of `count` of `of` things, in order.
fn sets(of: usize, count: usize) -> Vec<Vec<usize>> {
    let mut all = vec![Vec::new()];
    for _ in 0..count {
        let longer = all.iter().flat_map(|set: &Vec<usize>| {
            let next = set.last().map_or(0, |last| last + 1);
            (next..of).map(move |nth| [set.as_slice(), &[nth]].concat())
        });
        all = longer.collect();
    }
    all
}

fn words(offers: &[Parting], places: usize, stopped: bool) -> DualUnitText {
    DualUnitText::same(match (offers.len(), places, stopped) {
        (0, 0, _) => "No straight of it has room for a joint that is reached and sound.".to_owned(),
        (0, _, true) => {
            "Nothing was found in the time there was. That does not prove that there is nothing.".to_owned()
        }
        (0, ..) => format!(
            "No way to part it with up to {MOST} joints more was found. That does not prove that there is none."
        ),
        (1, ..) => "One way to part it.".to_owned(),
        (count, ..) => format!("{count} ways to part it, the best first."),
    })
}
