//! Which bought elbow each bend that is made of one comes from: off the shelf, or bought.

use nook_core::RunId;
use nook_core::cut::PieceId;
use nook_core::route::StockElbow;
use nook_core::stock::Tube;
use nook_core::workshop::{ElbowId, ElbowOnSale, OnSaleId, ShelfElbow, Workshop};
use nook_core::workup::{ElbowToSaw, OnceSawn, ToSaw};
use nook_geometry::units::{DualUnitText, ElbowLeg};
use serde::Serialize;
use utoipa::ToSchema;

/// Where an elbow comes from.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, ToSchema)]
#[serde(tag = "from", rename_all = "snake_case")]
pub enum ElbowSource {
    /// Off the shelf.
    Shelf {
        /// Which.
        elbow: ElbowId,
    },
    /// It is bought.
    Bought {
        /// Which line of what is on sale.
        on_sale: OnSaleId,
        /// What it costs.
        price: f64,
    },
    /// The shelf has none and nobody said that it can be bought.
    Nowhere,
}

/// An elbow that a run needs.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct ElbowPlan {
    /// Which run it is for.
    pub run: RunId,
    /// What that is called.
    pub name: String,
    /// What is written on it.
    pub piece: String,
    /// What it is, such as its tube, radius, angle and legs.
    pub what: DualUnitText,
    /// What it is of.
    #[schema(inline = false)]
    pub tube: Tube,
    /// Which piece that is.
    pub id: PieceId,
    /// Where it comes from.
    pub source: ElbowSource,
    /// What is noted once it is sawn.
    #[serde(skip)]
    pub once_sawn: OnceSawn,
}

/// Figures nearer than this, in mm or degrees, are one: they are typed with a digit or two.
const SAME: f64 = 0.011;

/// Whether two elbows are of one sort, whichever way round they lie.
fn is_one_sort(one: &StockElbow, other: &StockElbow) -> bool {
    let legs = |elbow: &StockElbow| elbow.legs.map(ElbowLeg::get);
    let same = |p: f64, q: f64| (p - q).abs() < SAME;
    let lie = |other: StockElbow| legs(one).into_iter().zip(legs(&other)).all(|(p, q)| same(p, q));
    same(one.radius.get(), other.radius.get())
        && same(one.angle.get(), other.angle.get())
        && (lie(*other) || lie(other.turned()))
}

/// An elbow in words.
fn words(tube: Tube, elbow: &StockElbow) -> DualUnitText {
    DualUnitText::new(|unit| {
        let [one, other] = elbow.legs.map(|leg| unit.figure(leg.get()));
        format!(
            "{} \u{d7} {} {} elbow, {}\u{b0} at {} radius, legs {one} / {other}",
            unit.figure(tube.od()),
            unit.text(tube.wall()),
            tube.material().name(),
            Degrees(elbow.angle.get()),
            unit.text(elbow.radius.get()),
        )
    })
}

/// Degrees as they are spoken: no more digits than they have.
struct Degrees(f64);

impl std::fmt::Display for Degrees {
    fn fmt(&self, out: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        let hundredths = (self.0 * 100.0).round() / 100.0;
        write!(out, "{hundredths}")
    }
}

/// The elbows of all runs that are not sawn yet, each from the shelf where that has one of its sort, else bought where it costs least.
/// Those of one sort stand for each other, so that none of the shelf is better used elsewhere.
pub(super) fn elbow_plan(runs: &[ToSaw], workshop: &Workshop) -> Vec<ElbowPlan> {
    let mut shelf: Vec<&ShelfElbow> = workshop.elbows().iter().collect();
    let mut all = Vec::new();
    for run in runs {
        for ElbowToSaw { at, stock, left } in &run.elbows {
            let Some((id, piece)) = run.names.get(*at).cloned() else { continue };
            let of_sort = |tube: Tube, elbow: &StockElbow| tube == run.tube && is_one_sort(elbow, stock);
            let source = if let Some(place) = shelf.iter().position(|one| of_sort(one.tube, &one.elbow)) {
                ElbowSource::Shelf { elbow: shelf.remove(place).id }
            } else {
                let on_sale = workshop.elbows_on_sale().iter().filter(|one| of_sort(one.tube, &one.elbow));
                let cheapest = on_sale.min_by(|p: &&ElbowOnSale, q| p.price.get().total_cmp(&q.price.get()));
                cheapest
                    .map_or(ElbowSource::Nowhere, |one| ElbowSource::Bought { on_sale: one.id, price: one.price.get() })
            };
            all.push(ElbowPlan {
                run: run.run,
                name: run.name.clone(),
                piece,
                id,
                what: words(run.tube, stock),
                tube: run.tube,
                once_sawn: match source {
                    ElbowSource::Shelf { elbow } => OnceSawn::elbow(Some(elbow), run.tube, *left, run.is_cut(*at)),
                    ElbowSource::Bought { .. } | ElbowSource::Nowhere => {
                        OnceSawn::elbow(None, run.tube, *left, run.is_cut(*at))
                    }
                },
                source,
            });
        }
    }
    all
}

/// What is bought of it costs so much.
pub(super) fn cost(plan: &[ElbowPlan]) -> f64 {
    let price = |one: &ElbowPlan| match one.source {
        ElbowSource::Bought { price, .. } => price,
        ElbowSource::Shelf { .. } | ElbowSource::Nowhere => 0.0,
    };
    plan.iter().map(price).sum()
}
