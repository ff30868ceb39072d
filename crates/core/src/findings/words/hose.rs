//! How what is wrong with hoses and drains is said.

use super::part_words;
use crate::assembly::{LeastFall, SLOPE, Slope};
use crate::cut::CutOnCurve;
use crate::measure::End;
use crate::part_ref::PartRef;
use crate::route::ResolvedRun;
use crate::stock::{Dash, HoseBuild, Material};
use nook_geometry::units::{DualUnitText, capital};

fn at(run: &ResolvedRun, end: End) -> String {
    format!("End {}, {}", end.letter(), run.port(end).name)
}

pub(in crate::findings) fn unfit(material: Material, why: &str) -> DualUnitText {
    DualUnitText::same(format!("{} must not carry this: {why}.", capital(material.name())))
}

pub(in crate::findings) fn too_hot(material: Material, celsius: f64, most: f64) -> DualUnitText {
    DualUnitText::same(format!("{celsius:.0} \u{b0}C in it; {} bears {most:.0} \u{b0}C for long.", material.name()))
}

pub(in crate::findings) fn bursts(bar: f64, most: f64) -> DualUnitText {
    DualUnitText::same(format!("{bar:.2} bar in it; hose of this size pushed over its mouths bears {most:.2} bar."))
}

pub(in crate::findings) fn no_thread(run: &ResolvedRun, end: End) -> DualUnitText {
    let (at, form) = (at(run, end), run.port(end).form.word());
    DualUnitText::same(format!(
        "{at}: the hose ends in a nut, and the port is {form}. Fit an adapter and measure that."
    ))
}

pub(in crate::findings) fn other_thread(run: &ResolvedRun, end: End, dash: Dash) -> DualUnitText {
    let (at, have, size) = (at(run, end), run.port(end).od.get(), dash.size());
    let fits = Dash::nearest(have);
    DualUnitText::new(|unit| {
        format!(
            "{at}: its thread is {} across, a {} hose wants {} ({}). The nearest is {}.",
            unit.text(have),
            dash.name(),
            unit.text(size.thread_od),
            size.thread,
            fits.name()
        )
    })
}

pub(in crate::findings) fn not_pushed_on(run: &ResolvedRun, end: End) -> DualUnitText {
    let (at, form) = (at(run, end), run.port(end).form.word());
    DualUnitText::same(format!("{at}: a hose cannot be clamped on a {form} port."))
}

pub(in crate::findings) fn other_bore(run: &ResolvedRun, end: End) -> DualUnitText {
    let (at, mouth, bore) = (at(run, end), run.port(end).od.get(), run.tube.bore());
    DualUnitText::new(|unit| {
        let (mouth, bore) = (unit.text(mouth), unit.text(bore));
        format!("{at}: the mouth is {mouth} and the hose {bore} inside. It takes a stepped piece or another bore.")
    })
}

pub(in crate::findings) fn tight(
    run: &ResolvedRun,
    part: PartRef,
    build: HoseBuild,
    [radius, least]: [f64; 2],
) -> DualUnitText {
    let what = part_words(run, part);
    DualUnitText::new(|unit| {
        let (radius, least) = (unit.text(radius), unit.text(least));
        match build {
            HoseBuild::Moulded { .. } => {
                format!("{what}: {radius} radius; moulded elbows begin at {least}, once the bore.")
            }
            HoseBuild::Threaded { .. } | HoseBuild::Corrugated => {
                format!("{what}: {radius} radius on its middle; this hose kinks below {least}.")
            }
        }
    })
}

pub(in crate::findings) fn odd_angle(run: &ResolvedRun, part: PartRef, degrees: f64, nearest: f64) -> DualUnitText {
    DualUnitText::same(format!(
        "{}: turns {degrees:.1}\u{b0}, and moulded elbows turn 45, 90 or 135. {nearest:.0}\u{b0} is the nearest.",
        part_words(run, part)
    ))
}

pub(in crate::findings) fn cut_on_curve(run: &ResolvedRun, part: PartRef, short: &CutOnCurve) -> DualUnitText {
    let what = part_words(run, part);
    DualUnitText::new(|unit| {
        format!(
            "{what}: {} of straight hose for the legs on it; {} wanted. It would be cut on the curve, which does not seat.",
            unit.text(short.have),
            unit.text(short.need)
        )
    })
}

pub(in crate::findings) fn no_insert(meetings: usize) -> DualUnitText {
    let where_to = if meetings == 1 { "Where two pieces meet".to_owned() } else { format!("In {meetings} places") };
    DualUnitText::same(format!("{where_to} hose is clamped on hose without an insert: it leaks."))
}

pub(in crate::findings) fn swivels(end: End) -> DualUnitText {
    DualUnitText::same(format!(
        "The fitting at {} swivels: do not clock it at the vice, it turns to where it wants as its nut is done up.",
        end.letter()
    ))
}

pub(in crate::findings) fn chokes(now: f64, smooth: f64) -> DualUnitText {
    DualUnitText::same(format!(
        "Its corrugations lose {now:.2} kPa where smooth hose of the same bore loses {smooth:.2}. Take moulded pieces, or one \
         size wider."
    ))
}

pub(in crate::findings) fn falls_little(run: &ResolvedRun, least: &LeastFall, to: End, wanted: f64) -> DualUnitText {
    let what = match least.part {
        PartRef::End { end, .. } => format!("The fitting at {}", end.letter()),
        part => part_words(run, part),
    };
    let stands = match least.slope {
        Slope::Level => "the car level".to_owned(),
        Slope::NoseUp => format!("the nose up {SLOPE:.0}\u{b0}"),
        Slope::NoseDown => format!("the nose down {SLOPE:.0}\u{b0}"),
        Slope::LeftUp => format!("the left side up {SLOPE:.0}\u{b0}"),
        Slope::RightUp => format!("the right side up {SLOPE:.0}\u{b0}"),
    };
    let how = if least.degrees < 0.0 {
        format!("rises {:.1}\u{b0}", -least.degrees)
    } else {
        format!("falls only {:.1}\u{b0}", least.degrees)
    };
    DualUnitText::same(format!(
        "{what}: {how} towards {} with {stands}; {wanted:.0}\u{b0} of fall wanted.",
        to.letter()
    ))
}

pub(in crate::findings) fn drain_narrow(run: &ResolvedRun, from: End) -> DualUnitText {
    let (at, mouth, bore) = (at(run, from), run.port(from).od.get(), run.tube.bore());
    DualUnitText::new(|unit| {
        format!(
            "{at}: {} across, and the drain {} inside. What runs out by its own weight wants a bore as wide as the outlet.",
            unit.text(mouth),
            unit.text(bore)
        )
    })
}
