//! A way round on offer: what it is, what is good about it and what is not.

use nalgebra::Point3;
use serde::Serialize;
use utoipa::ToSchema;

use super::Figures;
use super::field::{Field, Shortfall};
use nook_core::environment::FROM_ITSELF;
use nook_core::environment::Thing;
use nook_core::measure::{ComponentId, End};
use nook_core::route::{Route, RouteGeometry};
use nook_core::stock::HoseBuild;
use nook_geometry::Triple;
use nook_geometry::units::{DualUnitText, LengthUnit, Measure, TurnAngle, capital};

/// A component turned on its bolts for a way to fit.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct TurnFirst {
    /// Which.
    pub component: ComponentId,
    /// Its name.
    pub name: String,
    /// Which of its freedoms, from 0.
    pub freedom: usize,
    /// To how many degrees from how it was measured.
    pub turned: TurnAngle,
}

/// Something a way comes too near to.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Short {
    /// What.
    pub thing: Thing,
    /// What it is called.
    pub name: String,
    /// The gap there is.
    pub gap: Measure,
    /// The gap it asks for.
    pub limit: Measure,
    /// The end whose mouth stands too near to it, so that no way can help; nothing where another way might.
    pub mouth: Option<End>,
    /// Said in words.
    pub words: DualUnitText,
}

/// A way round that was found.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Offer {
    /// The way, ready to be taken.
    pub way: Route,
    /// What must be turned first.
    pub turn: Option<TurnFirst>,
    /// The fittings a hose must be given first; nothing where those it has do.
    pub hose: Option<HoseBuild>,
    /// What it is, in a few words.
    pub name: String,
    /// What is good about it.
    pub good: DualUnitText,
    /// What is not; nothing where nothing is.
    pub but: Option<DualUnitText>,
    /// Bend angles in degrees.
    pub angles: Vec<f64>,
    /// What it is compared by.
    pub figures: Figures,
    /// What it comes too near to; empty where it fits.
    pub short: Vec<Short>,
    /// Mouths and vertices, for a small drawing.
    #[schema(value_type = Vec<Triple>)]
    pub corners: Vec<[f64; 3]>,
    /// Whether its figures are those of bought elbows.
    #[serde(skip)]
    pub(super) elbows: bool,
    /// Places along its centre line, for telling whether two are one.
    #[serde(skip)]
    pub(super) line: Vec<Point3<f64>>,
}

/// What sort of way a candidate is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub(super) enum Style {
    /// As it fits best.
    DesignVector,
    /// Bent to whole degrees.
    WholeDegrees,
    /// Legs run level, plumb, lengthwise or across.
    Square,
    /// Every bend a whole elbow.
    WholeElbows,
    /// With more air than is asked.
    Roomy,
    /// Pies of a tighter radius.
    Tight,
}

impl Offer {
    /// Whether it fits.
    #[must_use]
    pub fn fits(&self) -> bool {
        self.short.is_empty()
    }

    /// Whether nothing but the mouths' own places keeps it from fitting.
    #[must_use]
    pub fn fits_but_for_the_mouths(&self) -> bool {
        self.short.iter().all(|short| short.mouth.is_some())
    }
}

/// Names a way by its bends and how it runs.
pub(super) fn name_of(
    route_geometry: &RouteGeometry,
    style: Style,
    turn: Option<&TurnFirst>,
    hose: Option<HoseBuild>,
) -> String {
    let bends = match route_geometry.angles.len() {
        0 => "Straight across".to_owned(),
        1 => "One bend".to_owned(),
        n => format!("{} bends", ["Two", "Three", "Four", "Five"].get(n - 2).copied().unwrap_or("Many")),
    };
    let ends = route_geometry.vertices.first().zip(route_geometry.vertices.last());
    let middle = ends.map_or(0.0, |(a, b)| f64::midpoint(a.z, b.z));
    let spread = route_geometry
        .vertices
        .iter()
        .map(|v| v.z - middle)
        .fold(0.0_f64, |m, d| if d.abs() > m.abs() { d } else { m });
    let runs = if route_geometry.vertices.len() < 3 || spread.abs() < 60.0 {
        ""
    } else if spread > 0.0 {
        ", over the top"
    } else {
        ", low"
    };
    let how = match style {
        Style::DesignVector | Style::WholeDegrees => "",
        Style::Square => ", level and square",
        Style::WholeElbows => ", whole elbows",
        Style::Roomy => ", roomy",
        Style::Tight => ", tight pies",
    };
    let first = turn.map_or_else(String::new, |turn| format!(", {} turned {:.0}\u{b0}", turn.name, turn.turned.get()));
    let fittings = hose.and_then(HoseBuild::fittings).map_or_else(String::new, |(_, [a, b])| {
        let [a, b] = [a, b].map(|one| one.angle.degrees());
        format!(", fittings of {a:.0}\u{b0} and {b:.0}\u{b0}")
    });
    format!("{bends}{runs}{how}{first}{fittings}")
}

/// The best of each figure among the ways found, which praise and blame are measured by.
#[derive(Debug, Clone, Copy)]
pub(super) struct Best {
    length: f64,
    seams: u32,
    loss: f64,
    bends: u32,
    air: f64,
}

impl Best {
    pub(super) fn of<'a>(all: impl Iterator<Item = &'a Figures>) -> Self {
        let none = Self {
            length: f64::INFINITY,
            seams: u32::MAX,
            loss: f64::INFINITY,
            bends: u32::MAX,
            air: f64::NEG_INFINITY,
        };
        all.fold(none, |best, one| Self {
            length: best.length.min(one.length.mm()),
            seams: best.seams.min(one.seams),
            loss: best.loss.min(one.loss_kpa.unwrap_or(f64::INFINITY)),
            bends: best.bends.min(one.bends),
            air: best.air.max(one.margin.mm()),
        })
    }
}

impl Offer {
    /// Says what is good about it and what is not, beside the others found.
    pub(super) fn explain(&mut self, best: &Best, most_air: f64) {
        let figures = self.figures.clone();
        let list = said(&self.angles);
        self.good = DualUnitText::new(|unit| {
            let mut all = Vec::new();
            if figures.length.mm() <= best.length + 1.0 {
                all.push("the shortest".to_owned());
            }
            // Nothing of a drawn tube or a hose is sawn at its bends.
            let sawn = figures.seams > 0;
            if sawn && figures.seams == best.seams {
                all.push("fewest seams".to_owned());
            } else if figures.bends == best.bends {
                all.push("fewest bends".to_owned());
            }
            if sawn && figures.whole_elbows == figures.bends && figures.bends > 0 {
                all.push("no angle to saw".to_owned());
            }
            if figures.true_lines > 0.75 {
                all.push("runs level or plumb".to_owned());
            }
            if figures.loss_kpa.is_some_and(|loss| loss <= best.loss + 0.01) {
                all.push("flows best".to_owned());
            }
            if figures.margin.mm() >= best.air - 0.1 && figures.margin.mm() > 1.0 {
                all.push("most air".to_owned());
            }
            let air = air_said(figures.margin.mm(), most_air, unit);
            let praise = if all.is_empty() { String::new() } else { format!("{}; ", all.join(", ")) };
            capital(&format!("{praise}{list}{air}"))
        });
        let (longer, more) = (figures.length.mm() - best.length, figures.seams.saturating_sub(best.seams));
        let loss = figures.loss_kpa.map_or(0.0, |loss| loss - best.loss);
        let but = |unit: LengthUnit| {
            let mut all: Vec<String> =
                self.short.iter().take(2).map(|short| short.words.get(unit).to_owned()).collect();
            if longer > 30.0 {
                all.push(format!("{} longer than the shortest", unit.text(longer)));
            }
            if more > 3 {
                all.push(format!("{more} more seams"));
            }
            if loss > 0.3 {
                all.push(format!("loses {loss:.1} kPa more"));
            }
            if figures.margin.mm() < LITTLE_AIR && self.short.is_empty() {
                all.push("nothing in hand".to_owned());
            }
            if let Some(turn) = &self.turn {
                all.push(format!("the {} must be turned", turn.name));
            }
            if self.elbows {
                // Until a bend can be said to be an elbow.
                all.push("costed as bought elbows; the cut list shows pies".to_owned());
            }
            capital(&all.join("; "))
        };
        self.but = Some(DualUnitText::new(but)).filter(|words| !words.mm.is_empty());
    }
}

/// What a way comes too near to, in words.
pub(super) fn short_of(field: &Field<'_>, short: &Shortfall) -> Short {
    let Shortfall { near, mouth, .. } = *short;
    let (thing, name, limit) = match short.obstacle {
        Some(index) => {
            let (thing, name) = field.identity(index);
            (thing, name, field.obstacle(index).map_or(0.0, |obstacle| obstacle.gap))
        }
        None => (Thing::Itself, "pipe itself", FROM_ITSELF),
    };
    let rolled = if near.roll.to_degrees().abs() < 0.05 { "" } else { " as the engine rolls" };
    let whatever = mouth.map_or_else(String::new, |end| format!(" at mouth {}, whatever the way", end.letter()));
    let gap = near.gap;
    let words = DualUnitText::new(|unit| {
        if gap <= 0.0 {
            format!("runs {} into the {name}{rolled}{whatever}", unit.text(-gap))
        } else {
            format!("{} to the {name}{rolled}{whatever}, {} wanted", unit.text(gap), unit.text(limit))
        }
    });
    Short { thing, name: name.to_owned(), gap: Measure(gap), limit: Measure(limit), mouth, words }
}

/// Air in hand below this, in mm, is as good as none.
const LITTLE_AIR: f64 = 1.0;

fn air_said(air: f64, most: f64, unit: LengthUnit) -> String {
    if air >= most - 0.1 {
        format!("; {} and more of air in hand", unit.text(most))
    } else if air >= LITTLE_AIR {
        format!("; {} of air in hand", unit.text(air))
    } else {
        // That there is none is said by what speaks against the way.
        String::new()
    }
}

fn said(angles: &[f64]) -> String {
    let each: Vec<String> = angles
        .iter()
        .map(|angle| {
            let text = format!("{angle:.1}");
            format!("{}\u{b0}", text.strip_suffix(".0").unwrap_or(&text))
        })
        .collect();
    match each.as_slice() {
        [] => "no bend".to_owned(),
        [one] => one.clone(),
        [all @ .., last] => format!("{} and {last}", all.join(", ")),
    }
}
