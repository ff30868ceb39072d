//! What is wrong with how something was measured, with the edits that mend it.

use super::remedy::remedy;
use super::words::{
    many_are_wrong, not_fixed, one_of_is_wrong, reading_name, size_mistaken, some_are_wrong, standing, taken_as_twin,
    two_answers,
};
use super::{Finding, FindingKind, Remedy, Severity};
use crate::edit::{ComponentChange, Edit, MeasureEdit, PlaceEdit, apply};
use crate::job::Job;
use crate::join::SizeMatch;
use crate::measure::estimate::{Basis, OutlierTest, PoseEstimate};
use crate::measure::{ComponentId, InstallState, KeepOut, Measurand, PortRef, Reading, Taken};
use crate::part_ref::PartRef;
use crate::stock::{Nominal, name_size};
use crate::survey::{Survey, measured_od};
use nook_geometry::units::{DualUnitText, capital};
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
        add(FindingKind::NotFixed, Severity::Warning, not_fixed(&name, &estimate), Vec::new());
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
            let words = some_are_wrong(job, &name, readings, wrong);
            let aside = wrong.iter().flat_map(|outlier| {
                set_aside(of, readings, outlier.index, &reading_name(job, readings, outlier.index))
            });
            add(FindingKind::ReadingsDisagree, Severity::Warning, words, aside.collect());
        }
        OutlierTest::OneOf { indices } => {
            let names: Vec<String> = indices.iter().map(|index| reading_name(job, readings, *index)).collect();
            add(FindingKind::ReadingsDisagree, Severity::Warning, one_of_is_wrong(&name, &names), Vec::new());
        }
        OutlierTest::Many => {
            add(FindingKind::ReadingsDisagree, Severity::Warning, many_are_wrong(&name), Vec::new());
        }
    }
    if let Measurand::Port { port } = of {
        if let Some(words) = mistaken(job, survey, port) {
            add(FindingKind::SizeMistaken, Severity::Info, words, Vec::new());
        }
        let counted = || readings.iter().filter(|reading| reading.counts);
        if counted().any(is_mirror) && counted().all(is_mirror) {
            add(FindingKind::TakenAsTwin, Severity::Info, taken_as_twin(&name), Vec::new());
        }
        let own = job.port(port).map(|port| port.standing).unwrap_or_default();
        let carrier = job.carrier_of(port).filter(|carrier| carrier.standing > own);
        let state = carrier.map_or(own, |carrier| carrier.standing);
        if !state.is_in_place() {
            let remedy = carrier.map_or_else(|| now_in_place(of), |carrier| whole_in_place(carrier.id));
            add(FindingKind::NotInPlace, standing_severity(state), standing(&name, state), vec![remedy]);
        }
    }
    findings
}

const fn is_mirror(reading: &Reading) -> bool {
    matches!(reading.taken, Taken::Mirror { .. })
}

/// Components and keep-outs that were not there when the bay was measured; one that is not is told once for all its body.
pub(crate) fn not_in_place(job: &Job) -> Vec<Finding> {
    let wholes = job.components().iter().filter(|component| !component.standing.is_in_place());
    let wholes = wholes.map(|component| {
        let part = PartRef::Component { component: component.id };
        let words = standing(&capital(component.name.as_str()), component.standing);
        Finding::new(FindingKind::NotInPlace, standing_severity(component.standing), part, words)
            .mended_by(vec![whole_in_place(component.id)])
    });
    let told = |keep_out: &KeepOut| job.whole_of(keep_out.id).is_some();
    let away = job.keep_outs().iter().filter(|keep_out| !keep_out.standing.is_in_place() && !told(keep_out));
    let lone = away.map(|keep_out| {
        let part = PartRef::KeepOut { keep_out: keep_out.id };
        let words = standing(keep_out.name.as_str(), keep_out.standing);
        Finding::new(FindingKind::NotInPlace, standing_severity(keep_out.standing), part, words)
            .mended_by(vec![now_in_place(Measurand::KeepOut { keep_out: keep_out.id })])
    });
    wholes.chain(lone).collect()
}

fn whole_in_place(component: ComponentId) -> Remedy {
    let to = ComponentChange::Standing { standing: InstallState::InPlace };
    remedy(|_| "It is in place now".to_owned(), PlaceEdit::ChangeComponent { component, to }.into())
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

fn set_aside(of: Measurand, readings: &[Reading], index: usize, what: &str) -> Vec<Remedy> {
    let reading = readings.get(index).map(|reading| Reading { counts: false, ..*reading });
    let edit = reading.map(|reading| Edit::Measure(MeasureEdit::SetReading { of, index, reading }));
    edit.map(|edit| remedy(|_| format!("Set the {what} aside"), edit)).into_iter().collect()
}

const fn standing_severity(standing: InstallState) -> Severity {
    match standing {
        InstallState::Missing | InstallState::OnOrder => Severity::Warning,
        InstallState::MockUp | InstallState::InPlace => Severity::Info,
    }
}

fn now_in_place(of: Measurand) -> Remedy {
    remedy(
        |_| "It is in place now".to_owned(),
        Edit::Measure(MeasureEdit::SetStanding { of, standing: InstallState::InPlace }),
    )
}

/// A diameter that is easily taken for another, and readings of it that do not agree.
fn mistaken(job: &Job, survey: &Survey<'_>, id: PortRef) -> Option<DualUnitText> {
    let port = job.port(id)?;
    let run = survey.settle(job.run(id.run)?);
    let od = run.port(id.end).od.get();
    measured_od(&port.readings)?;
    let guess = name_size(od);
    let likely = guess.likely?;
    // Of the sizes it is taken for, the nearest that does not go together with it.
    let off = |twin: &&Nominal| SizeMatch::of(twin.od, likely.od);
    let twin = guess.twins.iter().find(|twin| off(twin) != SizeMatch::Good)?;
    Some(size_mistaken(&capital(&port.name), od, &likely, twin))
}
