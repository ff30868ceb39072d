//! What is wrong with how something was measured.

use crate::findings::job_names;
use crate::job::Job;
use crate::join::SizeMatch;
use crate::measure::estimate::{AnchorShape, Basis, Outlier, Pose, PoseEstimate};
use crate::measure::{InstallState, Reading};
use crate::stock::Nominal;
use nook_geometry::units::{DualUnitText, LengthUnit};

fn degrees(radians: f64) -> String {
    format!("{:.1}\u{b0}", radians.to_degrees())
}

/// What a reading is called, by its place.
pub(in crate::findings) fn reading_name(job: &Job, readings: &[Reading], index: usize) -> String {
    readings.get(index).map_or_else(String::new, |reading| reading.taken.name(job_names(job)))
}

/// Readings do not fix where something is, or which way it points.
pub(in crate::findings) fn not_fixed(name: &str, estimate: &PoseEstimate) -> DualUnitText {
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
pub(in crate::findings) fn two_answers(name: &str, here: &Pose, other: &Pose) -> DualUnitText {
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
pub(in crate::findings) fn some_are_wrong(
    job: &Job,
    name: &str,
    readings: &[Reading],
    wrong: &[Outlier],
) -> DualUnitText {
    DualUnitText::new(|unit| outliers(job, name, readings, wrong, unit))
}

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

/// Something was not there when it was measured.
pub(in crate::findings) fn standing(name: &str, standing: InstallState) -> DualUnitText {
    let text = match standing {
        InstallState::Missing => {
            format!("{name} is not in place yet. Room measured without it may be gone once it is in.")
        }
        InstallState::OnOrder => {
            format!("{name} is on order. Its place is planned; measure again once it is in.")
        }
        InstallState::MockUp | InstallState::InPlace => {
            format!("{name} is a mock-up. Measure again when the real one is in.")
        }
    };
    DualUnitText::new(|_| text.clone())
}

/// Readings that do not agree, of which too few are there to tell which is wrong.
pub(in crate::findings) fn one_of_is_wrong(name: &str, readings: &[String]) -> DualUnitText {
    let words = format!(
        "{name}: the readings do not agree, and there are too few to tell which is wrong ({}). Take one more.",
        readings.join(", ")
    );
    DualUnitText::new(|_| words.clone())
}

/// Readings that do not agree for no one or two of them.
pub(in crate::findings) fn many_are_wrong(name: &str) -> DualUnitText {
    let words = format!("{name}: the readings do not agree, and no one or two of them explain it. Take them again.");
    DualUnitText::new(|_| words.clone())
}

/// A diameter of `od` mm that is likely one size and easily taken for its twin.
pub(in crate::findings) fn size_mistaken(name: &str, od: f64, likely: &Nominal, twin: &Nominal) -> DualUnitText {
    let consequence = SizeMatch::of(twin.od, likely.od).consequence();
    DualUnitText::new(|unit: LengthUnit| {
        format!(
            "{name} measures {}: likely {}, {}. Not {}, {}: {consequence}.",
            unit.text(od),
            likely.name,
            unit.text(likely.od),
            twin.name,
            unit.text(twin.od),
        )
    })
}

/// A mouth of which nothing is known but its mirror image.
pub(in crate::findings) fn taken_as_twin(name: &str) -> DualUnitText {
    DualUnitText::same(format!(
        "{name} is taken to be where its mirror image is, and no side of a vehicle is its other's. Read one distance to it on its own side."
    ))
}
