//! What is wrong with how something was measured, with the edits that mend it.

use super::remedy::remedy;
use super::{Finding, FindingKind, Remedy, Severity};
use crate::edit::{Edit, MeasureEdit, apply};
use crate::job::Job;
use crate::join::SizeMatch;
use crate::measure::estimate::{AnchorShape, Basis, Outlier, OutlierTest, Pose, PoseEstimate};
use crate::measure::{InstallState, Measurand, PortRef, Reading};
use crate::part_ref::PartRef;
use crate::stock::{Nominal, name_size};
use crate::survey::{Survey, measured_od};
use nook_geometry::units::{DualUnitText, LengthUnit, capital};
use nook_geometry::{Direction, Point};

/// So many other answers of one thing are told; where there are more, any further reading takes most of them away.
const MOST_OTHERS: usize = 3;

/// What is wrong with the measuring of one thing.
pub(crate) fn measuring(job: &Job, survey: &Survey<'_>, of: Measurand, part: PartRef) -> Vec<Finding> {
    let Some((name, readings, estimate)) = found(job, survey, of) else { return Vec::new() };
    let mut findings = Vec::new();
    let mut add = |kind, severity, words, remedies: Vec<Remedy>| {
        let sound = |remedy: &Remedy| apply(job, &remedy.edit).is_ok();
        let remedies = remedies.into_iter().filter(sound).collect();
        findings.push(Finding::new(kind, severity, part, words).mended_by(remedies));
    };
    if estimate.place == Basis::Open || estimate.aim == Basis::Open {
        add(FindingKind::NotFixed, Severity::Warning, open_words(&name, &estimate), Vec::new());
    }
    for other in estimate.others.iter().take(MOST_OTHERS) {
        let near = Point::new(other.at.x, other.at.y, other.at.z).ok();
        let out = other.out.and_then(|out| Direction::of(out.into_inner()).ok());
        let pick = near.map(|near| {
            remedy(|_| "Take the other".to_owned(), Edit::Measure(MeasureEdit::PickPlace { of, near, out }))
        });
        add(
            FindingKind::TwoAnswers,
            Severity::Warning,
            two_answers(&name, &estimate.pose, other),
            pick.into_iter().collect(),
        );
    }
    match estimate.outlier_test() {
        OutlierTest::Nothing => {}
        OutlierTest::Readings { wrong, .. } => {
            let words = DualUnitText::new(|unit| outliers(job, &name, readings, wrong, unit));
            let aside = wrong.iter().flat_map(|outlier| {
                set_aside(of, readings, outlier.index, &reading_name(job, readings, outlier.index))
            });
            add(FindingKind::ReadingsDisagree, Severity::Warning, words, aside.collect());
        }
        OutlierTest::OneOf { indices } => {
            let names: Vec<String> = indices.iter().map(|index| reading_name(job, readings, *index)).collect();
            let words = format!(
                "{name}: the readings do not agree, and there are too few to tell which is wrong ({}). Take one more.",
                names.join(", ")
            );
            add(FindingKind::ReadingsDisagree, Severity::Warning, DualUnitText::new(|_| words.clone()), Vec::new());
        }
        OutlierTest::Many => {
            let words =
                format!("{name}: the readings do not agree, and no one or two of them explain it. Take them again.");
            add(FindingKind::ReadingsDisagree, Severity::Warning, DualUnitText::new(|_| words.clone()), Vec::new());
        }
    }
    if let Measurand::Port { port } = of {
        if let Some((words, severity)) = size_words(job, survey, port) {
            add(FindingKind::SizeMistaken, severity, words, Vec::new());
        }
        if let Some(standing) = job.port(port).map(|port| port.standing).filter(|standing| !standing.is_in_place()) {
            let words = standing_words(&name, standing);
            add(FindingKind::NotInPlace, standing_severity(standing), words, vec![now_in_place(of)]);
        }
    }
    findings
}

/// A keep-out that was not there when the bay was measured.
pub(crate) fn not_in_place(job: &Job) -> Vec<Finding> {
    let away = job.keep_outs().iter().filter(|keep_out| !keep_out.standing.is_in_place());
    away.map(|keep_out| {
        let part = PartRef::KeepOut { keep_out: keep_out.id };
        let words = standing_words(keep_out.name.as_str(), keep_out.standing);
        Finding::new(FindingKind::NotInPlace, standing_severity(keep_out.standing), part, words)
            .mended_by(vec![now_in_place(Measurand::KeepOut { keep_out: keep_out.id })])
    })
    .collect()
}

fn found<'a>(job: &'a Job, survey: &Survey<'_>, of: Measurand) -> Option<(String, &'a [Reading], PoseEstimate)> {
    match of {
        Measurand::Datum { datum } => {
            let one = job.datum(datum)?;
            Some((one.name.as_str().to_owned(), &one.readings, (*survey.datum(datum)?).clone()))
        }
        Measurand::Port { port } => {
            let one = job.port(port)?;
            Some((capital(&one.name), &one.readings, (*survey.port(port)?).clone()))
        }
        Measurand::KeepOut { keep_out } => {
            let one = job.keep_out(keep_out)?;
            Some((capital(one.name.as_str()), &one.readings, (*survey.keep_out(keep_out)?).clone()))
        }
    }
}

fn degrees(radians: f64) -> String {
    format!("{:.1}\u{b0}", radians.to_degrees())
}

fn reading_name(job: &Job, readings: &[Reading], index: usize) -> String {
    readings.get(index).map_or_else(String::new, |reading| reading.taken.name(job_names(job)))
}

/// How readings call what they lean on.
pub(crate) fn job_names(job: &Job) -> impl Fn(Measurand) -> String {
    move |of| {
        match of {
            Measurand::Datum { datum } => job.datum(datum).map(|one| one.name.as_str().to_owned()),
            Measurand::Port { port } => job.port(port).map(|one| one.name.clone()),
            Measurand::KeepOut { keep_out } => job.keep_out(keep_out).map(|one| one.name.as_str().to_owned()),
        }
        .unwrap_or_else(|| "something removed".to_owned())
    }
}

fn open_words(name: &str, estimate: &PoseEstimate) -> DualUnitText {
    let counting = estimate.readings.len();
    let text = if estimate.place == Basis::Open {
        let why = match estimate.anchors {
            AnchorShape::InLine => {
                "the tapes start from points in one line, so it could be anywhere on a circle about that line. Take one \
                 from a point well to the side, or a level"
                    .to_owned()
            }
            AnchorShape::Few => {
                let way = estimate.loose.map_or(String::new(), |way| format!(" It can still go {}.", way_words(way.into_inner())));
                format!("{counting} readings do not fix where it is.{way} Take another")
            }
            AnchorShape::InPlane | AnchorShape::InSpace => {
                let way = estimate.loose.map_or("some way".to_owned(), |way| way_words(way.into_inner()));
                format!("the readings leave it free to go {way}. Take one that measures along that")
            }
        };
        format!("{name}: {why}. Until then it stands where it was typed.")
    } else {
        format!(
            "{name}: the readings do not fix which way it points. Take a heading and a pitch, or tapes to a mark on the stick. Until then it points as typed."
        )
    };
    DualUnitText::new(|_| text.clone())
}

/// A direction in a builder's words, to the nearest axis or two.
fn way_words(way: nook_geometry::Vector) -> String {
    let names = ["forward and back", "side to side", "up and down"];
    let mut along: Vec<(f64, &str)> = way.iter().map(|c| c.abs()).zip(names).collect();
    along.sort_by(|p, q| q.0.total_cmp(&p.0));
    let near: Vec<&str> = along.iter().filter(|(part, _)| *part > 0.5 * along[0].0).map(|(_, name)| *name).collect();
    near.join(" with ")
}

/// Two answers that fit as well as each other, by what tells them apart.
fn two_answers(name: &str, here: &Pose, other: &Pose) -> DualUnitText {
    let off = (other.at - here.at).norm();
    let turned = here.out.zip(other.out).map_or(0.0, |(here, other)| here.angle(&other));
    DualUnitText::new(|unit| {
        let place = format!("x {}, y {}, z {}", unit.text(other.at.x), unit.text(other.at.y), unit.text(other.at.z));
        let way = if turned > 0.05 { format!(", pointing {} another way", degrees(turned)) } else { String::new() };
        if off < 5.0 {
            format!(
                "{name}: two directions fit the readings, {} apart. It points the way nearer to what was typed. A heading or \
                 a pitch settles it.",
                degrees(turned)
            )
        } else {
            format!(
                "{name}: two places fit the readings: here, and {} away at {place}{way}. It stands at the one nearer to \
                 what was typed. A level settles it.",
                unit.text(off)
            )
        }
    })
}

/// What the readings that look wrong read beyond all the others. Where one is taken from a point that was typed, that
/// point may be what is wrong.
fn outliers(job: &Job, name: &str, readings: &[Reading], wrong: &[Outlier], unit: LengthUnit) -> String {
    let each = wrong.iter().map(|outlier| {
        let what = reading_name(job, readings, outlier.index);
        let off = if outlier.angle { degrees(outlier.by.abs()) } else { unit.text(outlier.by.abs()) };
        let which = if outlier.by > 0.0 { "too much" } else { "too little" };
        format!("the {what} ({off} {which})")
    });
    let list = each.collect::<Vec<_>>().join(" and ");
    let datums = wrong.iter().filter_map(|outlier| readings.get(outlier.index)?.taken.datum());
    let typed = datums.filter_map(|datum| job.datum(datum)).find(|datum| datum.readings.is_empty());
    let or_else = typed.map_or_else(String::new, |datum| {
        format!(" If it reads the same, {} is not where it was typed.", datum.name.as_str())
    });
    let (looks, it) = if wrong.len() == 1 { ("looks", "it") } else { ("look", "them") };
    format!("{name}: {list} {looks} wrong, against all the others. Read {it} again.{or_else}")
}

fn set_aside(of: Measurand, readings: &[Reading], index: usize, what: &str) -> Vec<Remedy> {
    let reading = readings.get(index).map(|reading| Reading { counts: false, ..*reading });
    let edit = reading.map(|reading| Edit::Measure(MeasureEdit::SetReading { of, index, reading }));
    edit.map(|edit| remedy(|_| format!("Set the {what} aside"), edit)).into_iter().collect()
}

const fn standing_severity(standing: InstallState) -> Severity {
    match standing {
        InstallState::Missing => Severity::Warning,
        InstallState::MockUp | InstallState::InPlace => Severity::Info,
    }
}

fn standing_words(name: &str, standing: InstallState) -> DualUnitText {
    let text = match standing {
        InstallState::Missing => {
            format!("{name} is not in place yet. Room measured without it may be gone once it is in.")
        }
        InstallState::MockUp | InstallState::InPlace => {
            format!("{name} is a mock-up. Measure again when the real one is in.")
        }
    };
    DualUnitText::new(|_| text.clone())
}

fn now_in_place(of: Measurand) -> Remedy {
    remedy(
        |_| "It is in place now".to_owned(),
        Edit::Measure(MeasureEdit::SetStanding { of, standing: InstallState::InPlace }),
    )
}

/// A diameter that is easily taken for another, and readings of it that do not agree.
fn size_words(job: &Job, survey: &Survey<'_>, id: PortRef) -> Option<(DualUnitText, Severity)> {
    let port = job.port(id)?;
    let run = survey.settle(job.run(id.run)?);
    let od = run.port(id.end).od.get();
    measured_od(&port.readings)?;
    let guess = name_size(od);
    let likely = guess.likely?;
    // Of the sizes it is taken for, the nearest that does not go together with it.
    let off = |twin: &&Nominal| SizeMatch::of(twin.od, likely.od);
    let twin = guess.twins.iter().find(|twin| off(twin) != SizeMatch::Good)?;
    let name = capital(&port.name);
    let words = DualUnitText::new(|unit: LengthUnit| {
        format!(
            "{name} measures {}: likely {}, {}. Not {}, {}: {}.",
            unit.text(od),
            likely.name,
            unit.text(likely.od),
            twin.name,
            unit.text(twin.od),
            off(&twin).consequence()
        )
    });
    Some((words, Severity::Info))
}
