//! What a way costs and gives, in figures that ways are compared by.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use nook_core::assembly::Assembly;
use nook_core::cut::{cut_plan, seam_length};
use nook_core::flow::{Stream, fluid, losses};
use nook_core::labour::{Labour, LabourStep};
use nook_core::route::{ResolvedRun, RouteGeometry, elbow_angles};
use nook_geometry::units::{Measure, OutOfRange};

/// What ways are compared by.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Figures {
    /// Least air beyond what each thing asks for, all along; below zero where something is too near.
    pub margin: Measure,
    /// How many bends.
    pub bends: u32,
    /// How many welded seams: pies of the usual count, or both ends of whole elbows.
    pub seams: u32,
    /// Bends whose angle whole elbows are sold in.
    pub whole_elbows: u32,
    /// Hours to make it.
    pub hours: f64,
    /// The steps those are of.
    pub labour: Vec<LabourStep>,
    /// Length along the centre line, mouth to mouth.
    pub length: Measure,
    /// Litres inside.
    pub litres: f64,
    /// Pressure lost at the run's flow, in kPa; nothing where the flow is not known.
    pub loss_kpa: Option<f64>,
    /// Mass of its tube in kg.
    pub mass_kg: f64,
    /// Share of its straights that run level, plumb, lengthwise or across, 0 to 1.
    pub true_lines: f64,
    /// Metres of tube to buy, pies and kerf included.
    pub tube_m: f64,
}

/// Directions within this many radians of level or plumb read as meant: what a level shows.
const TRUE: f64 = 0.0087;

/// Whether whole elbows are sold with an angle in radians, to a quarter of a degree: less than a saw cut shows.
pub(super) fn is_whole(run: &ResolvedRun, angle: f64) -> bool {
    elbow_angles(run).iter().chain(&[180.0]).any(|degrees| (angle.to_degrees() - degrees).abs() < 0.25)
}

impl Figures {
    /// The figures of a pipe as it will be built with a saw that cuts `kerf` mm wide. `elbows` says that every bend is a
    /// whole elbow, bought and welded in by both its ends.
    pub(super) fn of(run: &ResolvedRun, pipe: &Assembly, kerf: f64, margin: f64, elbows: bool) -> Self {
        let (od, bore) = (run.tube.od(), run.tube.bore());
        let arcs = || pipe.whole.legs().iter().map(|leg| leg.bend);
        let bends = u32::try_from(pipe.whole.legs().len()).unwrap_or(u32::MAX);
        let pieces = pipe.pieces();
        let built = pipe.figures(run, &pieces, cut_plan(&pieces, od, kerf).as_ref());
        let (labour, seams, tube) = if elbows {
            // Bought whole, nothing of them is sawn: straights are cut apart, and off the stick at both ends.
            let seams = 2 * bends;
            let parted = u32::try_from(pipe.between().len()).unwrap_or(u32::MAX);
            let weld = f64::from(seams) * seam_length(od, 0.0);
            let cuts = bends + 2 + parted;
            let tube = pipe.sections().iter().map(|[from, to]| to - from).sum::<f64>()
                - arcs().map(|arc| arc.length()).sum::<f64>();
            let kerfs = f64::from(cuts) * kerf;
            (Labour { cuts, seams, weld, bends, drawn: 0, material: run.tube.material() }, seams, tube + kerfs)
        } else {
            // Where a piece cannot be cut nothing is sawn at all; what would be is the least there is to say.
            (built.labour(run, bends), built.seams, built.stick.unwrap_or(built.sawn))
        };
        let made: Vec<_> = arcs()
            .zip(&pipe.makes)
            .map(|(arc, make)| (arc.radius, arc.angle, if elbows { None } else { make.mitres() }))
            .collect();
        let loss = fluid(run.duty, &run.flow, run.bar(), bore).ok().map(|fluid| {
            let stream = Stream::of(&fluid, run.tube).in_hose(run.hose);
            let lost = losses(&stream, pipe.tube.length(), &made, run.mouths()).total();
            (lost + stream.fittings_lose(run.hose) + stream.stubs_lose(run.stubs.each().count())) / 1000.0
        });
        Self {
            margin: Measure(margin),
            bends,
            seams,
            whole_elbows: u32::try_from(arcs().filter(|arc| is_whole(run, arc.angle)).count()).unwrap_or(u32::MAX),
            hours: labour.hours(),
            labour: labour.steps(),
            length: Measure(built.mouth_to_mouth),
            litres: built.litres,
            loss_kpa: loss,
            mass_kg: built.mass_kg,
            true_lines: true_lines(&RouteGeometry::of(&pipe.whole)),
            tube_m: tube / 1000.0,
        }
    }
}

/// The share of a way's straights that run level, plumb, lengthwise or across.
fn true_lines(route_geometry: &RouteGeometry) -> f64 {
    let straights = route_geometry.straights.iter().zip(&route_geometry.along);
    let (all, meant) = straights.fold((0.0, 0.0), |(all, meant), (straight, along)| {
        let true_line = along.iter().filter(|c| c.abs() < TRUE).count();
        let share = if along.z.abs() < TRUE || true_line == 2 { 1.0 } else { 0.0 };
        (all + straight, meant + straight * share)
    });
    if all > 0.0 { meant / all } else { 0.0 }
}

impl Figures {
    /// Whether no figure is better than another's, or only by less than anybody sees.
    pub(super) fn nowhere_better(&self, other: &Self) -> bool {
        let less = [
            (self.length.mm(), other.length.mm(), 0.5),
            (self.hours, other.hours, 0.01),
            (self.litres, other.litres, 0.01),
            (self.loss_kpa.unwrap_or(0.0), other.loss_kpa.unwrap_or(0.0), 0.005),
            (self.mass_kg, other.mass_kg, 0.005),
            (self.tube_m, other.tube_m, 0.001),
            (f64::from(self.bends), f64::from(other.bends), 0.0),
            (f64::from(self.seams), f64::from(other.seams), 0.0),
        ];
        let more = [
            (self.margin.mm(), other.margin.mm(), 0.05),
            (self.true_lines, other.true_lines, 0.005),
            (f64::from(self.whole_elbows), f64::from(other.whole_elbows), 0.0),
        ];
        less.iter().all(|(mine, its, hair)| *mine >= its - hair)
            && more.iter().all(|(mine, its, hair)| *mine <= its + hair)
    }
}

/// How much each figure counts, 0 for not at all; 1 is usual.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Weights {
    /// Air in hand, up to 15 mm.
    pub air: f64,
    /// Few bends.
    pub bends: f64,
    /// Few seams.
    pub seams: f64,
    /// Few hours.
    pub hours: f64,
    /// Short.
    pub length: f64,
    /// Little pressure lost.
    pub loss: f64,
    /// Light.
    pub mass: f64,
    /// Level, plumb and parallel.
    pub looks: f64,
    /// Whole elbows, little to buy.
    pub stock: f64,
}

impl Default for Weights {
    fn default() -> Self {
        Self { air: 1.0, bends: 1.0, seams: 1.0, hours: 1.0, length: 1.0, loss: 1.0, mass: 0.5, looks: 0.5, stock: 0.3 }
    }
}

/// A school's weights.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Preset {
    /// What it is called.
    pub name: &'static str,
    /// What it is for.
    pub reason: &'static str,
    /// Its weights.
    pub weights: Weights,
}

/// The schools. Source: handbook, "The work", Route.
#[must_use]
pub fn presets() -> Vec<Preset> {
    let none = Weights {
        air: 0.5,
        bends: 0.0,
        seams: 0.0,
        hours: 0.0,
        length: 0.0,
        loss: 0.0,
        mass: 0.0,
        looks: 0.0,
        stock: 0.0,
    };
    vec![
        Preset { name: "Balanced", reason: "a bit of everything", weights: Weights::default() },
        Preset {
            name: "Fewest seams",
            reason: "least to saw and weld",
            weights: Weights { seams: 4.0, bends: 2.0, hours: 1.0, ..none },
        },
        Preset {
            name: "Shortest",
            reason: "quick to fill, light",
            weights: Weights { length: 4.0, loss: 1.0, mass: 1.0, ..none },
        },
        Preset {
            name: "Level and square",
            reason: "reads as planned",
            weights: Weights { looks: 6.0, length: 0.5, bends: 0.5, ..none },
        },
        Preset {
            name: "Whole elbows",
            reason: "no angle to saw",
            weights: Weights { stock: 8.0, bends: 1.0, length: 0.3, ..none },
        },
        Preset { name: "Most room", reason: "least likely to rub", weights: Weights { air: 8.0, length: 0.5, ..none } },
    ]
}

/// Air in mm beyond what is asked that is worth nothing more: a finger.
const FINGER: f64 = 15.0;

impl Weights {
    /// Checks that each is from 0 to 20.
    ///
    /// # Errors
    /// [`OutOfRange`] naming the first that is not.
    pub fn check(&self) -> Result<(), OutOfRange> {
        let all = [
            ("the weight of air", self.air),
            ("the weight of bends", self.bends),
            ("the weight of seams", self.seams),
            ("the weight of hours", self.hours),
            ("the weight of length", self.length),
            ("the weight of pressure lost", self.loss),
            ("the weight of mass", self.mass),
            ("the weight of looks", self.looks),
            ("the weight of stock", self.stock),
        ];
        let (min, max, unit) = (0.0, 20.0, "times");
        all.into_iter().try_for_each(|(what, value)| {
            if (min..=max).contains(&value) { Ok(()) } else { Err(OutOfRange { what, value, min, max, unit }) }
        })
    }

    /// What a way costs by these weights, in mm of pipe it stands for; the least is the best. Each figure is first put
    /// in mm by what a builder would trade for it at weight 1.
    #[must_use]
    pub fn cost(&self, figures: &Figures) -> f64 {
        let air = (FINGER - figures.margin.mm().min(FINGER)) * 4.0;
        let odd = f64::from(figures.bends.saturating_sub(figures.whole_elbows));
        self.air * air
            + self.bends * 40.0 * f64::from(figures.bends)
            + self.seams * 20.0 * f64::from(figures.seams)
            + self.hours * 40.0 * figures.hours
            + self.length * figures.length.mm()
            + self.loss * 60.0 * figures.loss_kpa.unwrap_or(0.0)
            + self.mass * 100.0 * figures.mass_kg
            + self.looks * 300.0 * (1.0 - figures.true_lines)
            + self.stock * (150.0 * odd + 100.0 * figures.tube_m)
    }

    /// Places of `figures`, the best first; of two as good the one named first.
    #[must_use]
    pub fn order(&self, figures: &[&Figures]) -> Vec<usize> {
        let mut order: Vec<usize> = (0..figures.len()).collect();
        let key = |i: usize| (figures[i].margin.mm() < 0.0, self.cost(figures[i]));
        order.sort_by(|p, q| {
            let ((p_short, p_cost), (q_short, q_cost)) = (key(*p), key(*q));
            p_short.cmp(&q_short).then(p_cost.total_cmp(&q_cost)).then(p.cmp(q))
        });
        order
    }
}
