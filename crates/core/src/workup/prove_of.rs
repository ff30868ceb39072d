//! Working out whether a run's pipe is done.

use super::assemble::Given;
use super::landing::Made;
use super::prove::{CheckWorkup, ProveWorkup, SignWorkup, SoapWorkup, TestResult, TestWorkup, UnderTest};
use super::weld_words::Names;
use super::{ClearanceWorkup, Workup, workup_given};
use crate::assembly::Assembly;
use crate::cautions::{Beside, cautions};
use crate::edit::EditError;
use crate::environment::Thing;
use crate::findings::{Severity, assess};
use crate::job::Job;
use crate::measure::{KeepOutId, RunId};
use crate::prove::{
    CheckItem, Fingerprint, GaugeNoise, GaugeReading, Judged, LIQUID_HOLDS, MAY_LEAK, Verdict, bearing, check_items,
    judge, judge_liquid, soap_places,
};
use crate::record::{FitReading, FitStep, Progress, TestDone, TestKind};
use crate::route::ResolvedRun;
use crate::stock::Duty;
use crate::survey::Survey;
use crate::weld::{SeamId, WeldSeam, weld_seams};
use nook_geometry::units::{DualUnitText, capital};

/// At what is looked at with soap, in bar. Source: handbook, "Fit, weld, prove", Prove.
const SOAP: [f64; 2] = [0.2, 0.5];
/// What a pipe is tested at that works at less, in bar. Ours: enough for soap, and what a hand can hold back.
const LEAST: f64 = 0.3;
/// The pressure a test begins at is as it should be to this share.
const NEAR: f64 = 0.9;
/// What is above what a pipe may be brought to by more than this, in bar, is let off at once: what a gauge is read to.
const READ_TO: f64 = 0.02;
/// Things nearer than this to the pipe, in mm, are near enough to be asked about. Ours: where a spanner slips.
const BESIDE: f64 = 60.0;

/// Whether a run's pipe is done.
///
/// # Errors
/// [`EditError::NoSuchRun`] when the job has no such run.
pub fn prove(job: &Job, id: RunId, given: &Given<'_>) -> Result<ProveWorkup, EditError> {
    let decisions = job.run(id).ok_or(EditError::NoSuchRun { run: id })?;
    let survey = Survey::new(job);
    let run = survey.settle(decisions);
    let assessment = assess(&run);
    let sound = assessment.is_sound();
    let Some(pipe) = assessment.pipe.filter(|_| sound) else {
        return Ok(ProveWorkup::none(id, Fingerprint::of_run(&run)));
    };
    let workup = workup_given(job, id, given)?;
    let proof = Proof { job, run: &run, pipe: &pipe, progress: given.progress, workup: &workup };
    Ok(proof.workup())
}

/// How a test stands by its readings so far.
///
/// # Errors
/// [`EditError::NoSuchRun`] when the job has no such run.
pub fn under_test(job: &Job, id: RunId, kind: TestKind, readings: &[GaugeReading]) -> Result<UnderTest, EditError> {
    let decisions = job.run(id).ok_or(EditError::NoSuchRun { run: id })?;
    let run = Survey::new(job).settle(decisions);
    let assessment = assess(&run);
    let sound = assessment.is_sound();
    let limit = assessment.pipe.filter(|_| sound).map(|pipe| Limit::of(&run, &pipe));
    let Some(limit) = limit else {
        let words = "There is no sound pipe to test.".to_owned();
        return Ok(UnderTest {
            verdict: Verdict::Wait,
            words: words.clone(),
            leak: None,
            spread: None,
            wait: 0.0,
            refused: Some(words),
        });
    };
    let judged = judged(kind, readings);
    let refused = limit.refusal(kind, readings);
    Ok(UnderTest {
        verdict: judged.verdict,
        words: refused.clone().unwrap_or_else(|| said(kind, &judged)),
        leak: judged.leak,
        spread: judged.spread,
        wait: judged.wait,
        refused,
    })
}

fn judged(kind: TestKind, readings: &[GaugeReading]) -> Judged {
    match kind {
        TestKind::Air => judge(readings, &GaugeNoise::USUAL, MAY_LEAK),
        TestKind::Liquid => judge_liquid(readings, &GaugeNoise::USUAL),
    }
}

/// A verdict in words.
fn said(kind: TestKind, judged: &Judged) -> String {
    let leak = match (judged.leak, judged.spread) {
        (Some(leak), Some(spread)) => {
            // A gauge that wanders upwards shows no leak; no pipe sucks.
            format!("{:.1} \u{b1} {spread:.1} standard cm\u{b3}/min a litre, {MAY_LEAK:.0} allowed", leak.max(0.0))
        }
        _ => "nothing to tell yet".to_owned(),
    };
    match (judged.verdict, kind) {
        (Verdict::Wait, _) => {
            let wait = if judged.wait < 90.0 {
                format!("{:.0} s", judged.wait.max(1.0))
            } else {
                format!("{:.0} min", (judged.wait / 60.0).ceil())
            };
            let now = if kind == TestKind::Air { format!(" So far {leak}.") } else { String::new() };
            format!("Wait {wait} more.{now}")
        }
        (Verdict::Pass, TestKind::Air) => format!("Tight: {leak}."),
        (Verdict::Fail, TestKind::Air) if judged.out_of_time => {
            format!("Not shown to be tight within half an hour, {leak}: find a better gauge, or the leak.")
        }
        (Verdict::Fail, TestKind::Air) => format!("It leaks: {leak}."),
        (Verdict::Pass, TestKind::Liquid) => {
            format!("Tight: no drop in {:.0} minutes beyond what the gauge is read to.", LIQUID_HOLDS / 60.0)
        }
        (Verdict::Fail, TestKind::Liquid) => "It drops: look for the wet place.".to_owned(),
    }
}

/// What a pipe may be brought to.
struct Limit {
    kind: TestKind,
    bar: f64,
    never: f64,
    by: String,
}

impl Limit {
    fn of(run: &ResolvedRun, pipe: &Assembly) -> Self {
        let works = run.bar();
        let weakest = bearing(run, pipe).into_iter().next();
        let kind = if run.duty.is_liquid() { TestKind::Liquid } else { TestKind::Air };
        let wanted = if kind == TestKind::Air { works.max(LEAST) } else { works };
        let never = weakest.as_ref().map_or(wanted, |weakest| weakest.bar.min(wanted));
        let by = match weakest {
            Some(weakest) if weakest.bar < wanted => format!("{} bears {:.2} bar", weakest.what, weakest.bar),
            _ if works < LEAST && kind == TestKind::Air => {
                format!("it works at {works:.2} bar, and soap wants {LEAST:.1}")
            }
            _ => format!("it works at {works:.2} bar; more is a proof test, done with water"),
        };
        Self { kind, bar: never, never, by }
    }

    /// Why readings are no test of a pipe that may be brought to so much.
    fn refusal(&self, kind: TestKind, readings: &[GaugeReading]) -> Option<String> {
        if kind != self.kind {
            let with = if self.kind == TestKind::Air { "air" } else { "liquid, cold" };
            return Some(format!("This pipe is tested with {with}."));
        }
        let most = readings.iter().map(|one| one.bar).fold(f64::NEG_INFINITY, f64::max);
        if most > self.never + READ_TO {
            return Some(format!(
                "Let it off: the gauge shows {most:.2} bar and {:.2} is the most, since {}.",
                self.never, self.by
            ));
        }
        let first = readings.first()?;
        (first.bar < self.bar * NEAR).then(|| {
            format!(
                "It was shut in at {:.2} bar and is to be tested at {:.2}: that proves nothing.",
                first.bar, self.bar
            )
        })
    }
}

struct Proof<'a> {
    job: &'a Job,
    run: &'a ResolvedRun,
    pipe: &'a Assembly,
    progress: &'a Progress,
    workup: &'a Workup,
}

impl Proof<'_> {
    fn workup(&self) -> ProveWorkup {
        let Self { job, run, pipe, progress, workup } = *self;
        let test = self.test();
        let near = near(workup.air.as_ref());
        let checks: Vec<CheckWorkup> =
            check_items(job, run, pipe, &near).into_iter().map(|item| answered(item, run.id, progress)).collect();
        let sign = self.sign(test.as_ref(), &checks);
        let beside = if run.duty.is_liquid() { Beside::Coolant } else { Beside::AirTest };
        ProveWorkup {
            run: run.id,
            none: None,
            soap: self.soap(),
            filling: self.filling(),
            cautions: cautions(beside, run.tube.material()),
            test,
            checks,
            sign,
        }
    }

    fn test(&self) -> Option<TestWorkup> {
        let Self { run, pipe, progress, workup, .. } = *self;
        // What is open to the air holds nothing in.
        if run.duty == Duty::Exhaust {
            return None;
        }
        let limit = Limit::of(run, pipe);
        let air = limit.kind == TestKind::Air;
        let of = Fingerprint::of_run(run);
        let last = progress.test_of(run.id, limit.kind).map(|noted| {
            let TestDone { readings, of: then, .. } = &noted.what;
            let judged = judged(limit.kind, readings);
            let refused = limit.refusal(limit.kind, readings);
            TestResult {
                verdict: if refused.is_some() { Verdict::Fail } else { judged.verdict },
                words: refused.unwrap_or_else(|| said(limit.kind, &judged)),
                who: noted.who.as_str().to_owned(),
                changed: then.changed(&of),
            }
        });
        let text = |words: &str| words.to_owned();
        let steps = if air {
            vec![
                text("Plugs tied; turbo, engine and cooler shut out; relief valve set just above"),
                format!("Soap at {:.1} to {:.1} bar, place by place", SOAP[0], SOAP[1].min(limit.bar)),
                format!("Up to {:.2} bar through the regulator, the supply shut off", limit.bar),
                text("Watch the gauge: it says when it is sure"),
                text("Let it off slowly before a plug is touched"),
            ]
        } else {
            vec![
                text("Cold and full, no air in it"),
                format!("Pumped by hand to {:.2} bar", limit.bar),
                format!("Ten minutes, and a dry hand along every joint: no drop beyond what the gauge is read to"),
                text("Then the first heat, tightened again cold, and a second look"),
            ]
        };
        Some(TestWorkup {
            kind: limit.kind,
            bar: limit.bar,
            limited_by: limit.by.clone(),
            never: limit.never,
            soap: air.then_some([SOAP[0].min(limit.bar), SOAP[1].min(limit.bar)]),
            litres: workup.totals.as_ref().map_or(0.0, |totals| totals.litres),
            may_leak: air.then_some(MAY_LEAK),
            steps,
            of,
            last,
        })
    }

    fn soap(&self) -> Vec<SoapWorkup> {
        let Self { job, run, pipe, progress, .. } = *self;
        if run.duty.is_liquid() {
            return Vec::new();
        }
        let seams: Vec<(WeldSeam, String)> = match Made::of(job, run.id, progress) {
            Some(made) => {
                let all = weld_seams(&made.run, &made.pipe, made.to_make().pieces);
                let names = Names { made: &made, pieces: made.names(progress) };
                all.into_iter().map(|seam| (seam, format!("weld {}", names.seam(&seam)))).collect()
            }
            None => Vec::new(),
        };
        let gaps = progress.fit_of(run.id);
        let gap = |seam: &WeldSeam| {
            gaps.iter().rev().find_map(|entry| match (entry.step, seam.id) {
                (FitStep::Read { reading: FitReading::SeamGap { piece, mm }, .. }, SeamId::After { piece: its })
                    if piece == its =>
                {
                    Some(mm)
                }
                _ => None,
            })
        };
        let all = soap_places(run, pipe, &seams, &gap);
        all.into_iter().map(|one| SoapWorkup { part: one.part, what: capital(&one.what), why: one.why }).collect()
    }

    /// How coolant is filled, bled and first heated, from the highs of this run.
    fn filling(&self) -> Vec<DualUnitText> {
        let Self { run, workup, .. } = *self;
        if run.duty != Duty::Coolant {
            return Vec::new();
        }
        let mut all = vec![
            "Heater wide open, bleeds open, the car\u{2019}s nose up if it can be".to_owned(),
            "Filled slowly at the engine\u{2019}s side until it stands there, then at the radiator\u{2019}s".to_owned(),
        ];
        let highs: Vec<&super::BoreExtremeWorkup> = workup.bore_extremes.iter().filter(|one| one.high).collect();
        let bleeds = workup.branches.iter().filter(|one| one.kind.lets_air_out()).count();
        if highs.is_empty() && bleeds == 0 {
            all.push("This run has no high of its own: its air goes to what it joins".to_owned());
        }
        let mut all: Vec<DualUnitText> = all.into_iter().map(DualUnitText::same).collect();
        for high in highs {
            all.push(DualUnitText::new(|unit| {
                let at = match unit {
                    nook_geometry::units::LengthUnit::Mm => format!("{:.0} mm", high.at.mm()),
                    nook_geometry::units::LengthUnit::In => unit.text(high.at.mm()),
                };
                format!("Its high {at} from A bled until no bubble comes")
            }));
        }
        let rest = [
            "Cap on, engine run until the thermostat opens and the fan has come on",
            "Cold again before the cap is touched: level looked at and filled up, clamps tightened, dry all along",
        ];
        all.extend(rest.map(|words| DualUnitText::same(words.to_owned())));
        all
    }

    fn sign(&self, test: Option<&TestWorkup>, checks: &[CheckWorkup]) -> SignWorkup {
        let of = Fingerprint::of_run(self.run);
        let mut wanting = Vec::new();
        let findings = &self.workup.findings;
        let cannot = findings.iter().filter(|finding| finding.severity == Severity::Error).count();
        if cannot > 0 {
            wanting.push(format!("{} cannot be as planned: mend it on the screen it is told on", things(cannot)));
        }
        let left = self.workup.made.seams - self.workup.made.welded;
        if left > 0 {
            let seams = if left == 1 { "1 seam is".to_owned() } else { format!("{left} seams are") };
            wanting.push(format!("{seams} not welded yet"));
        }
        if let Some(test) = test {
            match &test.last {
                None => wanting.push("It was not tested yet".to_owned()),
                Some(last) if !last.changed.is_empty() => {
                    wanting.push(format!("Since it was tested, {} changed: test it again", last.changed.join(" and ")));
                }
                Some(last) if last.verdict != Verdict::Pass => wanting.push("It did not pass its test".to_owned()),
                Some(_) => {}
            }
        }
        let open = checks.iter().filter(|check| check.good.is_none()).count();
        if open > 0 {
            let are = if open == 1 { "is" } else { "are" };
            wanting.push(format!("{} {are} not checked yet", things(open)));
        }
        let bad = checks.iter().filter(|check| check.good == Some(false));
        wanting.extend(bad.map(|check| format!("Not as it should be: {}", check.words)));
        let signed = self.progress.signature_of(self.run.id);
        let mut changed = signed.map_or_else(Vec::new, |signed| signed.what.of.changed(&of));
        if signed.is_some() && cannot > 0 && changed.is_empty() {
            // The pipe is as it was, and something came into its way.
            changed.push("what is round it");
        }
        SignWorkup {
            wanting,
            who: signed.map(|signed| signed.who.as_str().to_owned()),
            revision: signed.map(|signed| signed.what.revision),
            changed,
            of,
        }
    }
}

fn things(count: usize) -> String {
    if count == 1 { "1 thing".to_owned() } else { format!("{count} things") }
}

/// What the pipe is near to, by its air.
fn near(air: Option<&ClearanceWorkup>) -> Vec<KeepOutId> {
    let things = air.into_iter().flat_map(|air| &air.things);
    let near = things.filter(|thing| thing.gap.mm() < BESIDE).filter_map(|thing| match thing.thing {
        Thing::KeepOut { keep_out } => Some(keep_out),
        _ => None,
    });
    near.collect()
}

fn answered(item: CheckItem, run: RunId, progress: &Progress) -> CheckWorkup {
    let CheckItem { id, when, part, words, reads, of } = item;
    let noted = progress.answer_of(run, id);
    let valid = noted.filter(|noted| noted.what.of == of);
    CheckWorkup {
        item: id,
        when,
        part,
        words,
        reads,
        of,
        good: valid.map(|noted| noted.what.good),
        reading: valid.and_then(|noted| noted.what.reading),
        note: valid.and_then(|noted| noted.what.note.as_ref()).map(|note| note.as_str().to_owned()),
        who: valid.map(|noted| noted.who.as_str().to_owned()),
        void: noted.is_some() && valid.is_none(),
    }
}

impl ProveWorkup {
    fn none(run: RunId, of: Fingerprint) -> Self {
        Self {
            run,
            none: Some(DualUnitText::same("There is no sound pipe yet: mend what is wrong first.".to_owned())),
            test: None,
            soap: Vec::new(),
            checks: Vec::new(),
            filling: Vec::new(),
            sign: SignWorkup {
                wanting: vec!["There is no sound pipe yet".to_owned()],
                of,
                who: None,
                revision: None,
                changed: Vec::new(),
            },
            cautions: Vec::new(),
        }
    }
}
