//! Which bought pies each bend that is made of them takes: off the shelf, and bought.

use nook_core::RunId;
use nook_core::route::{BendId, KitPie};
use nook_core::stock::Tube;
use nook_core::workshop::{OnSaleId, PiesId, PiesOnSale, Workshop};
use nook_core::workup::{OnceSawn, ToSaw};
use nook_geometry::units::DualUnitText;
use serde::Serialize;
use utoipa::ToSchema;

/// The bought pies of a bend.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct PiePlan {
    /// Which run it is of.
    pub run: RunId,
    /// What that is called.
    pub name: String,
    /// Which bend.
    pub bend: BendId,
    /// Its place, from 1 at A.
    pub number: usize,
    /// What one of them is, such as its tube, angle and radius.
    pub what: DualUnitText,
    /// What they are of.
    #[schema(inline = false)]
    pub tube: Tube,
    /// How many it takes.
    pub need: u32,
    /// The box they come from as far as that goes; nothing where the shelf has none.
    pub shelf: Option<PiesId>,
    /// How many come from it.
    pub from_shelf: u32,
    /// Which line of what is on sale gives the rest; nothing where the shelf has enough, or nobody said.
    pub on_sale: Option<OnSaleId>,
    /// How many are bought.
    pub bought: u32,
    /// What one of these costs.
    pub price: f64,
    /// How many are to be had nowhere.
    pub missing: u32,
    /// What is noted once they are used.
    #[serde(skip)]
    pub once_sawn: OnceSawn,
}

/// A pie in words.
fn words(tube: Tube, pie: KitPie) -> DualUnitText {
    DualUnitText::new(|unit| {
        format!(
            "{} \u{d7} {} {} pies of {}\u{b0} at {} radius",
            unit.figure(tube.od()),
            unit.text(tube.wall()),
            tube.material().name(),
            pie.angle.get(),
            unit.text(pie.radius.get()),
        )
    })
}

/// The bought pies of all runs that are not used yet: off the shelf in the order of the runs, the rest bought where one costs least.
pub(super) fn pie_plan(runs: &[ToSaw], workshop: &Workshop) -> Vec<PiePlan> {
    let mut shelf: Vec<_> = workshop.pies().to_vec();
    let mut all = Vec::new();
    for run in runs {
        for kit in &run.kits {
            let need = u32::try_from(kit.at.len()).unwrap_or(u32::MAX);
            let known = shelf.iter_mut().find(|one| one.tube == run.tube && one.pie.is_like(&kit.pie));
            let done = kit.at.iter().filter_map(|at| run.is_cut(*at)).collect();
            let from_shelf = known.as_ref().map_or(0, |one| one.count.min(need));
            // Each bend's are told of the box as it is now: which is used first is the builder's to choose.
            let full = known.as_ref().and_then(|one| workshop.pies().iter().find(|full| full.id == one.id));
            let once_sawn = OnceSawn::pies(full.filter(|_| from_shelf > 0).map(|one| (one, from_shelf)), done);
            let id = known.filter(|_| from_shelf > 0).map(|one| {
                one.count -= from_shelf;
                one.id
            });
            let of_sort = |one: &&PiesOnSale| one.tube == run.tube && one.pie.is_like(&kit.pie);
            let rest = need - from_shelf;
            let on_sale = workshop.pies_on_sale().iter().filter(of_sort).filter(|_| rest > 0);
            let cheapest = on_sale.min_by(|p, q| p.price.get().total_cmp(&q.price.get()));
            all.push(PiePlan {
                run: run.run,
                name: run.name.clone(),
                bend: kit.bend,
                number: kit.number,
                what: words(run.tube, kit.pie),
                tube: run.tube,
                need,
                shelf: id,
                from_shelf,
                on_sale: cheapest.map(|one| one.id),
                bought: if cheapest.is_some() { rest } else { 0 },
                price: cheapest.map_or(0.0, |one| one.price.get()),
                missing: if cheapest.is_some() { 0 } else { rest },
                once_sawn,
            });
        }
    }
    all
}

/// What is bought of it costs so much.
pub(super) fn cost(plan: &[PiePlan]) -> f64 {
    plan.iter().map(|one| f64::from(one.bought) * one.price).sum()
}
