//! What flows through a pipe and what that costs, each figure with the sum it came from; the same for the sizes beside.

use std::f64::consts::PI;

use serde::Serialize;
use utoipa::ToSchema;

use crate::assembly::Assembly;
use crate::flow::{
    BendMade, FlowAmount, Fluid, Losses, Stream, USUAL_COOLANT, USUAL_HP, USUAL_OIL, celsius_reason, fluid, losses,
    taper,
};
use crate::measure::End;
use crate::route::ResolvedRun;
use crate::stock::{Duty, HoseBuild, Tube, name_size};
use nook_geometry::units::{Measure, OutsideDiameter};

/// A figure and the sum it came from.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Figure {
    /// What it is.
    pub name: String,
    /// Its value with its unit.
    pub value: String,
    /// The formula with the numbers put in.
    pub sum: String,
    /// Where the formula is from.
    pub source: &'static str,
}

/// The same pipe in another size of tube.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct SizeBeside {
    /// What the size is called.
    pub name: String,
    /// The tube.
    #[schema(inline = false)]
    pub tube: Tube,
    /// Its outside diameter.
    pub od: Measure,
    /// Whether it is the one chosen.
    pub now: bool,
    /// Speed in m/s.
    pub speed: f64,
    /// Mach number; nothing for a liquid.
    pub mach: Option<f64>,
    /// Pressure lost in kPa.
    pub loss_kpa: f64,
    /// Litres inside.
    pub litres: f64,
    /// Mass of tube in kg.
    pub mass_kg: f64,
    /// Why not, where a limit is passed.
    pub warning: Option<&'static str>,
}

/// What flows through one pipe.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct FlowWorkup {
    /// Speed, Mach or Reynolds number, each part of the loss, volume, fill, surface.
    pub figures: Vec<Figure>,
    /// Pressure lost in kPa.
    pub loss_kpa: f64,
    /// The tube sizes beside the one chosen, smallest first.
    pub sizes: Vec<SizeBeside>,
    /// How hot it is taken to be, in degrees Celsius.
    pub celsius: f64,
    /// Why.
    pub celsius_reason: String,
    /// How much is taken to flow, in kg/s.
    pub kg_per_s: f64,
    /// Why.
    pub flow_reason: String,
    /// How hot the outside gets and what that asks for.
    pub surface: &'static str,
}

/// Mach number above which a charge pipe chokes. Source: handbook, "The sums", Flow.
const MOST_MACH: f64 = 0.3;
/// Coolant above this many m/s erodes elbows.
const MOST_COOLANT: f64 = 3.0;
/// Tube sizes charge and coolant pipes are made of, in mm.
const SIZES: [f64; 17] =
    [9.525, 12.7, 15.875, 19.05, 22.225, 25.4, 31.75, 38.1, 44.45, 50.8, 57.15, 63.5, 69.85, 76.2, 88.9, 101.6, 114.3];

impl FlowWorkup {
    /// Of a tube of `length` mm along its centre line and `sawn` along the middles of its pieces; nothing where the flow that
    /// was said does not suit the duty.
    pub(super) fn of(run: &ResolvedRun, pipe: &Assembly, length: f64, sawn: f64) -> Option<Self> {
        let fluid = fluid(run.duty, &run.flow, run.bar(), run.tube.bore()).ok()?;
        let made = |scale: f64| -> Vec<BendMade> {
            let arcs = pipe.tube.legs().iter().map(|step| step.bend);
            arcs.zip(&pipe.makes).map(|(arc, make)| (arc.radius * scale, arc.angle, make.mitres())).collect()
        };
        let ports = run.mouths();
        let stream = Stream::of(&fluid, run.tube).in_hose(run.hose);
        let lost = losses(&stream, length, &made(1.0), ports);
        let stubs = run.stubs.each().count();
        let fittings = stream.fittings_lose(run.hose) + stream.stubs_lose(stubs);
        let volume = PI / 4.0 * (run.tube.bore() * 1e-3).powi(2) * sawn * 1e-3;
        // Hose comes in sizes of its own.
        let beside = if run.hose.is_some() { vec![run.tube] } else { beside(run.tube) };
        let sizes = beside.into_iter().map(|tube| {
            let stream = Stream::of(&fluid, tube).in_hose(run.hose);
            let now = (tube.od() - run.tube.od()).abs() < 1e-9;
            SizeBeside {
                name: name_size(tube.od()).likely.map_or_else(|| format!("{:.1} mm", tube.od()), |size| size.name),
                od: Measure(tube.od()),
                now,
                speed: stream.speed,
                mach: stream.mach,
                loss_kpa: (losses(&stream, length, &made(tube.od() / run.tube.od()), ports).total()
                    + stream.fittings_lose(run.hose)
                    + stream.stubs_lose(stubs))
                    / 1000.0,
                litres: PI / 4.0 * (tube.bore() * 1e-2).powi(2) * sawn * 1e-2,
                mass_kg: tube.mass(sawn),
                warning: warning(run.duty, &stream),
                tube,
            }
        });
        Some(Self {
            figures: figures(run, &fluid, &stream, &lost, length, volume),
            loss_kpa: (lost.total() + fittings) / 1000.0,
            sizes: sizes.collect(),
            celsius: fluid.kelvin - 273.15,
            celsius_reason: match run.flow.temperature {
                Some(_) => "as you said".to_owned(),
                None => celsius_reason(run.duty, run.bar()),
            },
            kg_per_s: fluid.mass_flow,
            flow_reason: flow_reason(run),
            surface: surface(run.duty, fluid.kelvin - 273.15),
        })
    }
}

fn warning(duty: Duty, stream: &Stream) -> Option<&'static str> {
    if stream.mach.is_some_and(|mach| mach > MOST_MACH) {
        Some("above Mach 0.3: it chokes")
    } else if duty.is_liquid() && stream.speed > MOST_COOLANT {
        Some("above 3 m/s: it wears bends away")
    } else {
        None
    }
}

/// The tube with two sizes below it and two above, of the same wall where that leaves a bore.
fn beside(tube: Tube) -> Vec<Tube> {
    let below = SIZES.iter().filter(|od| **od < tube.od() - 1.0);
    let above = SIZES.iter().filter(|od| **od > tube.od() + 1.0);
    let count = below.clone().count();
    let near = below.skip(count.saturating_sub(2)).chain(above.take(2));
    let sized = |od: f64| OutsideDiameter::new(od).ok().and_then(|od| tube.with_od(od).ok());
    let mut all: Vec<Tube> = near.filter_map(|od| sized(*od)).collect();
    all.push(tube);
    all.sort_by(|p, q| p.od().total_cmp(&q.od()));
    all
}

/// Metal burns skin at a touch of a second or so above this, in degrees Celsius. Source: ISO 13732-1.
const SKIN: f64 = 60.0;
/// Wiring and common rubber age fast above this.
const AGES: f64 = 105.0;
/// Steel begins to glow in the dark.
const RED: f64 = 500.0;

/// Where the amount that flows is from.
fn flow_reason(run: &ResolvedRun) -> String {
    match (run.flow.amount, run.duty) {
        (Some(FlowAmount::Power { hp }), _) => format!("for {} hp, at 1330 hp to the kg/s", hp.get()),
        (Some(_), _) => "as you said".to_owned(),
        (None, Duty::Coolant) => format!("taken: nobody said. Coolant at {USUAL_COOLANT} m/s"),
        (None, Duty::Oil) => format!("taken: nobody said. Oil at {USUAL_OIL} m/s"),
        (None, _) => format!("taken: nobody said. Air for {USUAL_HP} hp, at 1330 hp to the kg/s"),
    }
}

const fn surface(duty: Duty, celsius: f64) -> &'static str {
    match duty {
        Duty::Coolant | Duty::Oil if celsius > 100.0 => "Scalds: never opened hot",
        _ if celsius > RED => "Red heat: a shield, or well off anything that ages",
        _ if celsius > AGES => "Hot enough to age rubber and wiring, and to burn at a touch",
        _ if celsius > SKIN => "Burns bare skin at a touch",
        _ if celsius > 45.0 => "Hot to the hand",
        _ => "Hand-warm at most",
    }
}

const TP410: &str = "Crane Technical Paper 410, appendix A";
const CONTINUITY: &str = "Continuity";

fn figures(run: &ResolvedRun, fluid: &Fluid, stream: &Stream, lost: &Losses, length: f64, volume: f64) -> Vec<Figure> {
    let mut all = Vec::new();
    let mut add = |name: &str, value: String, sum: String, source| {
        all.push(Figure { name: name.to_owned(), value, sum, source });
    };
    let area = PI / 4.0 * (stream.bore * 1e-3).powi(2);
    if fluid.sound.is_some() {
        add(
            "Density",
            format!("{:.2} kg/m\u{b3}", fluid.density),
            format!("p / (R T) = {:.0} / (287.05 \u{d7} {:.1})", fluid.pressure, fluid.kelvin),
            "Ideal gas",
        );
    }
    add(
        "Speed",
        format!("{:.1} m/s", stream.speed),
        format!("m / (\u{3c1} A) = {:.4} / ({:.2} \u{d7} {area:.6})", fluid.mass_flow, fluid.density),
        CONTINUITY,
    );
    if let (Some(mach), Some(sound)) = (stream.mach, fluid.sound) {
        add(
            "Mach",
            format!("{mach:.3}"),
            format!("v / \u{221a}(1.4 R T) = {:.1} / {sound:.1}", stream.speed),
            "Keep it below 0.3",
        );
    }
    add(
        "Reynolds",
        format!("{:.0}", stream.reynolds),
        format!(
            "\u{3c1} v D / \u{3bc} = {:.2} \u{d7} {:.2} \u{d7} {:.4} / {:.3e}",
            fluid.density,
            stream.speed,
            stream.bore / 1e3,
            fluid.viscosity
        ),
        "Sutherland for air, ASHRAE for coolant, ASTM D341 for oil",
    );
    add(
        "Along the wall",
        kpa(lost.friction),
        format!(
            "f L/D \u{bd}\u{3c1}v\u{b2} = {:.4} \u{d7} {:.1} / {:.1} \u{d7} {:.0}",
            stream.friction, lost.wall, stream.bore, stream.dynamic
        ),
        if run.hose == Some(HoseBuild::Corrugated) {
            "Darcy-Weisbach, f by Hawthorne and von Helms for corrugated hose"
        } else {
            "Darcy-Weisbach, f by Colebrook"
        },
    );
    for (bend, loss) in lost.bends.iter().enumerate() {
        let how = if loss.mitred { "its seams" } else { "as smooth" };
        add(
            &format!("Bend {}, {how}", bend + 1),
            kpa(loss.pascal),
            format!("K \u{bd}\u{3c1}v\u{b2} = {:.3} \u{d7} {:.0}", loss.resistance, stream.dynamic),
            TP410,
        );
    }
    for (end, step) in [End::A, End::B].into_iter().zip(lost.steps).filter(|(_, step)| *step > 0.0) {
        let name = format!("Taper at {}", end.letter());
        add(&name, kpa(step), taper_sum(run, end, stream.bore), TP410);
    }
    let fittings = stream.fittings_lose(run.hose);
    if fittings > 0.0 {
        add("Fittings", kpa(fittings), format!("30 f \u{3b8}/90 \u{bd}\u{3c1}v\u{b2}, f = {:.4}", stream.rough), TP410);
    }
    for (end, _) in run.stubs.each() {
        let name = format!("Round the corner of the stub at {}", end.letter());
        add(&name, kpa(stream.stubs_lose(1)), format!("60 f \u{bd}\u{3c1}v\u{b2}, f = {:.4}", stream.rough), TP410);
    }
    add(
        "Inside",
        format!("{:.2} l", volume * 1e3),
        format!("A L = {area:.6} m\u{b2} \u{d7} {:.3} m", length / 1e3),
        "Cylinder",
    );
    if fluid.sound.is_some() {
        let rise = run.bar() * 1e5;
        let grams = rise * volume / (287.05 * fluid.kelvin) * 1e3;
        add(
            "To fill it",
            format!("{grams:.1} g of air"),
            format!("\u{394}p V / (R T) = {rise:.0} \u{d7} {volume:.5} / (287.05 \u{d7} {:.1})", fluid.kelvin),
            "Ideal gas",
        );
    } else {
        add(
            "To fill it",
            format!("{:.2} kg", fluid.density * volume),
            format!("\u{3c1} V = {:.0} \u{d7} {volume:.5}", fluid.density),
            "Cylinder",
        );
    }
    all
}

fn taper_sum(run: &ResolvedRun, end: End, bore: f64) -> String {
    let [a, b] = run.mouths();
    let mouth = if end == End::A { a } else { b };
    let half = taper(mouth.bore, bore, mouth.gap).to_degrees();
    format!("{:.1} to {bore:.1} mm bore within {:.1}: {half:.1}\u{b0} each side", mouth.bore, mouth.gap)
}

fn kpa(pascal: f64) -> String {
    format!("{:.2} kPa", pascal / 1000.0)
}
