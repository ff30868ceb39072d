//! What was done, as a line of the log.

use super::{BenchAct, CheckDone, Deed, Done, FitAct, FitReading, FitStep, TestKind};
use crate::cut::PieceId;
use crate::job::Job;
use crate::measure::{End, RunId};
use crate::weld::SeamId;
use crate::work_step::WorkStep;
use nook_geometry::units::DualUnitText;

/// A deed as a line of the log.
#[derive(Debug, Clone, PartialEq)]
pub struct DeedWords {
    /// Of which run.
    pub run: RunId,
    /// Of which step of the work.
    pub step: WorkStep,
    /// What was done.
    pub words: DualUnitText,
}

/// A deed as a line of the log of a job, as the job is now. What is written on a piece is told where the deed says it.
#[must_use]
pub fn deed_words(job: &Job, deed: &Deed) -> DeedWords {
    let (run, step, words) = said(&deed.done);
    let name = job.run(run).map_or_else(|| "A run that is gone".to_owned(), |run| run.name.as_str().to_owned());
    let words = DualUnitText { mm: format!("{name}: {}", words.mm), inch: format!("{name}: {}", words.inch) };
    DeedWords { run, step, words }
}

fn said(done: &Done) -> (RunId, WorkStep, DualUnitText) {
    let same = |text: String| DualUnitText::same(text);
    match done {
        Done::Cut { run, as_cut, .. } => {
            let words = DualUnitText::new(|unit| {
                format!("{} cut, {} on the centre line", as_cut.name.as_str(), unit.text(as_cut.size.centre))
            });
            (*run, WorkStep::Cut, words)
        }
        Done::NotCut { run, piece } => (*run, WorkStep::Cut, same(format!("{} not cut after all", of_piece(*piece)))),
        Done::Spoilt { run, piece } => (*run, WorkStep::Cut, same(format!("{} spoilt: it is scrap", of_piece(*piece)))),
        Done::Did { run, what } => {
            let (step, words) = of_act(*what);
            (*run, step, same(words))
        }
        Done::DidNot { run, what } => {
            let (step, words) = of_act(*what);
            (*run, step, same(format!("not so after all: {words}")))
        }
        Done::Fit { run, step } => (*run, WorkStep::Fit, of_fit(step)),
        Done::NotFit { run, .. } => (*run, WorkStep::Fit, same("a reading or an act taken back".to_owned())),
        Done::Bottle { run, bar } => (*run, WorkStep::Weld, same(format!("the gas bottle shows {bar:.0} bar"))),
        Done::Tested { run, test } => {
            let with = if test.kind == TestKind::Air { "air" } else { "liquid" };
            let words = format!("tested with {with} at {:.2} bar, {} readings", test.bar, test.readings.len());
            (*run, WorkStep::Prove, same(words))
        }
        Done::Checked { run, answer } => (*run, WorkStep::Prove, same(of_answer(answer))),
        Done::NotChecked { run, .. } => (*run, WorkStep::Prove, same("a check is asked again".to_owned())),
        Done::Signed { run, signature } => {
            (*run, WorkStep::Prove, same(format!("signed off as revision {}", signature.revision)))
        }
        Done::Worked { run, worked } => {
            let words = format!("{:.0} min worked, {:.0} planned for the whole step", worked.minutes, worked.planned);
            (*run, worked.step, same(words))
        }
        Done::Pictured { run, step, note, .. } => {
            let shows = note.as_ref().map_or("", |note| note.as_str());
            let words = if shows.is_empty() { "a picture".to_owned() } else { format!("a picture: {shows}") };
            (*run, *step, same(words))
        }
        Done::NotWorked { run, step } => (*run, *step, same("the last time noted taken back".to_owned())),
    }
}

/// A piece by where it is: what is written on it may be another's by now.
fn of_piece(piece: PieceId) -> String {
    match piece {
        PieceId::Tube { leg, .. } => format!("the tube on leg {}", leg.0),
        PieceId::Elbow { bend } => format!("the elbow of bend {}", bend.0),
        PieceId::Pie { bend, pie } => format!("pie {} of bend {}", pie + 1, bend.0),
    }
}

const fn end_word(end: End) -> &'static str {
    match end {
        End::A => "A",
        End::B => "B",
    }
}

fn of_act(act: BenchAct) -> (WorkStep, String) {
    match act {
        BenchAct::Scribe => (WorkStep::Cut, "lines scribed along the stick".to_owned()),
        BenchAct::Wedge { piece } => (WorkStep::Cut, format!("wedge off before {}", of_piece(piece))),
        BenchAct::Bead { piece, end } => {
            (WorkStep::Cut, format!("bead rolled on {} towards {}", of_piece(piece), end_word(end)))
        }
        BenchAct::Meet { piece } => (WorkStep::Fit, format!("{} tacked to the next", of_piece(piece))),
        BenchAct::Check { bend } => (WorkStep::Fit, format!("clock of bend {} seen to be right", bend.0)),
        BenchAct::Weld { seam } => {
            let what = match seam {
                SeamId::After { piece } => format!("the seam after {}", of_piece(piece)),
                SeamId::Joint { joint, side } => format!("the part of joint {} towards {}", joint.0, end_word(side)),
                SeamId::Branch { branch } => format!("branch {}", branch.0),
                SeamId::Tab { support } => format!("the tab of support {}", support.0),
            };
            (WorkStep::Weld, format!("{what} welded"))
        }
    }
}

fn of_fit(step: &FitStep) -> DualUnitText {
    match step {
        FitStep::Read { reading, .. } => {
            let (what, mm) = match *reading {
                FitReading::Length { mm, .. } => ("a piece measured", Some(mm)),
                FitReading::Lines { mm, .. } => ("lines read at a seam", Some(mm)),
                FitReading::SeamGap { mm, .. } => ("a seam\u{2019}s gap read", Some(mm)),
                FitReading::MouthGap { mm, .. } => ("the gap at B read", Some(mm)),
                FitReading::MouthStep { mm, .. } => ("the step at B read", Some(mm)),
                FitReading::EndToEnd { mm, .. } => ("read from end to end", Some(mm)),
                FitReading::Angle { degrees, .. } => {
                    return DualUnitText::same(format!("a bend gauged: {degrees:.1}\u{b0}"));
                }
                FitReading::TwoWays { .. } => ("an end measured across two ways", None),
                FitReading::Touches { .. } => ("found to touch", None),
                FitReading::Rough { .. } => ("tried on and looked at", None),
            };
            DualUnitText::new(|unit| match mm {
                Some(mm) => format!("{what}: {}", unit.text(mm)),
                None => what.to_owned(),
            })
        }
        FitStep::Acted { act } => DualUnitText::new(|unit| match *act {
            FitAct::Trim { mm, .. } => format!("an end trimmed by {}", unit.text(mm)),
            FitAct::Sand { mm, .. } => format!("a face sanded by {}", unit.text(mm)),
            FitAct::Turn { degrees, .. } => format!("turned {degrees:.1}\u{b0} at a seam"),
            FitAct::Bend { degrees, .. } => format!("bent {degrees:.1}\u{b0} at a seam"),
            FitAct::CutOtherwise { mm, .. } => format!("a piece cut {} otherwise than listed", unit.text(mm)),
            FitAct::Renew { mm, .. } => format!("a piece made new, {} otherwise", unit.text(mm)),
        }),
    }
}

fn of_answer(answer: &CheckDone) -> String {
    let how = if answer.good { "as it should be" } else { "not right" };
    let reading = answer.reading.map_or_else(String::new, |read| format!(", {read} read"));
    format!("checked, {}: {how}{reading}", answer.item.word())
}
