//! What of a job is sawn from which stick of the shelf.

use std::sync::Arc;
use std::sync::atomic::AtomicBool;

use nook_core::Job;
use nook_core::RunId;
use nook_core::cut::PieceId;
use nook_core::record::{Deed, DeedId, Progress};
use nook_core::route::BendId;
use nook_core::workshop::StickId;
use nook_core::workup::{OnceSawn, StickPlan};
use nook_formats::{BuyingLine, buying_csv, stock_csv};
use nook_geometry::units::Name;
use nook_search::{ElbowSource, ShelfUses, StockPlan, shelf_uses, stock_plan};
use nook_store::{JobId, Store};
use rocket::http::{ContentType, Status};
use rocket::{State, get, post};
use serde::Deserialize;
use utoipa::ToSchema;

use super::body::Body;
use super::guards::{Id, Me};
use super::jobs::Download;
use super::meshes::Meshes;
use super::problem::Problem;
use super::record::progress;
use super::workers::{Computed, Workers};
use crate::time_limit::{search_limit, stop_when_time_is_up};

/// What of all runs that is not cut yet is sawn from which stick, and what is bought for it.
#[utoipa::path(get, path = "/api/jobs/{id}/stock", tag = "jobs", operation_id = "loadStockPlan", params(("id" = i64, Path)),
    responses((status = 200, body = StockPlan), (status = 404, body = Problem)))]
#[get("/jobs/<id>/stock")]
pub(super) async fn stock(store: &State<Store>, workers: &State<Workers>, id: Id) -> Result<Computed, Problem> {
    let (job, plan) = planned(store, id.0).await?;
    workers.json(move || plan(&job)).await
}

/// The same as a table for the saw: every cut of every stick, and how each piece meets its neighbours.
#[utoipa::path(get, path = "/api/jobs/{id}/stock.csv", tag = "jobs", operation_id = "downloadStockPlan",
    params(("id" = i64, Path)),
    responses((status = 200, body = String, content_type = "text/csv"), (status = 404, body = Problem)))]
#[get("/jobs/<id>/stock.csv")]
pub(super) async fn table(store: &State<Store>, workers: &State<Workers>, id: Id) -> Result<Download, Problem> {
    let (job, plan) = planned(store, id.0).await?;
    let work = move || {
        let plan = plan(&job)?;
        let sticks: Vec<_> = plan.tubes.iter().map(|tube| (tube.tube, tube.sticks.as_slice())).collect();
        let text = stock_csv(&sticks, job.kerf()).map_err(|error| Problem::internal(&error))?;
        Ok(Download::new(text, ContentType::CSV, &format!("{} from the shelf.csv", job.name())))
    };
    workers.run(work).await
}

/// What is bought for the whole vehicle, as a table.
#[utoipa::path(get, path = "/api/jobs/{id}/buying.csv", tag = "jobs", operation_id = "downloadBuyingList",
    params(("id" = i64, Path)),
    responses((status = 200, body = String, content_type = "text/csv"), (status = 404, body = Problem)))]
#[get("/jobs/<id>/buying.csv")]
pub(super) async fn buying(store: &State<Store>, workers: &State<Workers>, id: Id) -> Result<Download, Problem> {
    let (job, plan) = planned(store, id.0).await?;
    let work = move || {
        let text = buying_csv(&bought(&plan(&job)?)).map_err(|error| Problem::internal(&error))?;
        Ok(Download::new(text, ContentType::CSV, &format!("{} to buy.csv", job.name())))
    };
    workers.run(work).await
}

/// What a plan buys: sticks by their length, those for spares, then elbows and pies.
pub(super) fn bought(plan: &StockPlan) -> Vec<BuyingLine> {
    let sticks = plan.tubes.iter().flat_map(|tube| {
        tube.buy.iter().map(|buy| {
            let of = tube.sticks.iter().filter(|stick| stick.on_sale == Some(buy.on_sale));
            let mut runs: Vec<&str> = of.flat_map(|stick| &stick.chains).map(|chain| chain.name.as_str()).collect();
            runs.dedup();
            BuyingLine {
                what: "stick",
                tube: tube.tube,
                which: format!("{:.1} mm", buy.length.mm()),
                count: buy.count,
                price: Some(buy.price),
                used_for: runs.join(", "),
            }
        })
    });
    let elbows = plan.elbows.iter().filter_map(|elbow| {
        let price = match elbow.source {
            ElbowSource::Shelf { .. } => return None,
            ElbowSource::Bought { price, .. } => Some(price),
            ElbowSource::Nowhere => None,
        };
        let used_for = format!("{} of {}", elbow.piece, elbow.name);
        Some(BuyingLine { what: "elbow", tube: elbow.tube, which: elbow.what.mm.clone(), count: 1, price, used_for })
    });
    let spares = plan.tubes.iter().flat_map(|tube| {
        let spare = tube.spare.iter().flat_map(|spare| &spare.buy);
        spare.map(|one| BuyingLine {
            what: "stick",
            tube: tube.tube,
            which: format!("{:.1} mm", one.length.mm()),
            count: one.count,
            price: Some(one.price),
            used_for: "spare".to_owned(),
        })
    });
    let pies = plan.pies.iter().flat_map(|pies| {
        let line = |count: u32, price| BuyingLine {
            what: "pie",
            tube: pies.tube,
            which: pies.what.mm.clone(),
            count: usize::try_from(count).unwrap_or(usize::MAX),
            price,
            used_for: format!("bend {} of {}", pies.number, pies.name),
        };
        [line(pies.bought, Some(pies.price)), line(pies.missing, None)].into_iter().filter(|line| line.count > 0)
    });
    sticks.chain(spares).chain(elbows).chain(pies).collect()
}

/// What the elbows of the shelf could make of the job's bends, each tried before it is told.
#[utoipa::path(get, path = "/api/jobs/{id}/stock/elbows", tag = "jobs", operation_id = "loadShelfUses",
    params(("id" = i64, Path)),
    responses((status = 200, body = ShelfUses), (status = 404, body = Problem), (status = 503, body = Problem)))]
#[get("/jobs/<id>/stock/elbows")]
pub(super) async fn elbows(
    store: &State<Store>,
    meshes: &State<Meshes>,
    workers: &State<Workers>,
    id: Id,
) -> Result<Computed, Problem> {
    let leave = workers.search()?;
    let (job, workshop) = (store.job(id.0).await?, store.workshop().await?.workshop);
    let (progress, scans) = (progress(store, id.0).await?, meshes.of(store, &job).await);
    let stop = Arc::new(AtomicBool::new(false));
    stop_when_time_is_up(&stop, search_limit());
    let work = move || {
        let uses = shelf_uses(&job, &progress, &workshop, &scans, &stop);
        drop(leave);
        Ok(uses)
    };
    workers.json(work).await
}

/// What was sawn or used: a stick, an elbow or the pies of a bend of the plan.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(tag = "what", rename_all = "snake_case", deny_unknown_fields)]
pub(super) enum SawnFrom {
    /// A stick, with all that is planned on it.
    Stick {
        /// Which of the shelf; nothing where it was bought.
        #[serde(default)]
        stick: Option<StickId>,
        /// What was sawn from it, in order.
        pieces: Vec<SawnPiece>,
    },
    /// An elbow.
    Elbow {
        /// What it became.
        piece: SawnPiece,
    },
    /// The bought pies of a bend.
    Pies {
        /// Of which run.
        run: RunId,
        /// Which bend.
        bend: BendId,
    },
}

/// A piece of a run.
#[derive(Debug, Clone, Copy, PartialEq, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct SawnPiece {
    run: RunId,
    piece: PieceId,
}

/// That a stick or an elbow was sawn as planned.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct Sawn {
    /// Named by whoever did it, so that it may be sent again without harm.
    id: DeedId,
    /// Who did it, as that device is named.
    by: Name,
    /// What.
    from: SawnFrom,
}

/// Notes that a stick or an elbow was sawn as planned: its pieces are cut, and what is left of it is on the shelf. All of it or nothing.
#[utoipa::path(post, path = "/api/jobs/{id}/stock/sawn", tag = "jobs", operation_id = "sawnAsPlanned", request_body = Sawn,
    params(("id" = i64, Path), ("Nook-Author" = Option<String>, Header, description = super::jobs::AUTHOR_IS)),
    responses((status = 204), (status = 404, body = Problem), (status = 409, body = Problem), (status = 412, body = Problem),
        (status = 422, body = Problem)))]
#[post("/jobs/<id>/stock/sawn", data = "<sawn>")]
pub(super) async fn sawn(
    store: &State<Store>,
    workers: &State<Workers>,
    id: Id,
    me: Result<Me, Problem>,
    sawn: Result<Body<Sawn>, Problem>,
) -> Result<Status, Problem> {
    let (me, Sawn { id: deed, by, from }) = (me?.0, sawn?.0);
    let named = |count: usize| DeedId::try_from(format!("{}-{count}", deed.as_str()));
    let first = named(0).map_err(|error| Problem::refused(error.to_string()))?;
    let record = store.record(id.0).await?;
    if record.deeds.iter().any(|kept| kept.deed.id == first) {
        return Ok(Status::NoContent);
    }
    let seen = store.workshop().await?.seq;
    let (job, plan) = planned(store, id.0).await?;
    let plan = workers.run(move || plan(&job)).await?;
    let Some(once) = found(&plan, &from) else { return Err(Problem::plan_changed()) };
    let deeds = once.done.iter().enumerate().map(|(count, done)| {
        let id = named(count).map_err(|error| Problem::refused(error.to_string()))?;
        Ok(Deed { id, by: by.clone(), done: done.clone() })
    });
    let deeds: Vec<Deed> = deeds.collect::<Result<_, Problem>>()?;
    let so_far = progress(store, id.0).await?;
    if deeds.iter().any(|deed| !deed.is_sound() || so_far.too_many_with(deed)) {
        let most = Progress::MOST_CUT;
        return Err(Problem::refused(format!("A run has at most {most} cut pieces of at most 50 m. Set some aside.")));
    }
    store.done_with(id.0, &deeds, once.shelf.as_ref().map(|edit| (seen, edit)), &me).await?;
    Ok(Status::NoContent)
}

/// What is noted once something of the plan is sawn; `None` where the plan has no such thing any more.
fn found<'a>(plan: &'a StockPlan, from: &SawnFrom) -> Option<&'a OnceSawn> {
    match from {
        SawnFrom::Stick { stick, pieces } => {
            let sawn_from = |planned: &StickPlan| {
                let cuts = planned.chains.iter().flat_map(|chain| chain.cuts.iter().map(|cut| (chain.run, cut.piece)));
                let planned = cuts.filter_map(|(run, piece)| Some(SawnPiece { run, piece: piece? }));
                planned.eq(pieces.iter().copied())
            };
            let mut sticks = plan.tubes.iter().flat_map(|tube| &tube.sticks);
            sticks.find(|one| one.stick == *stick && sawn_from(one)).map(|one| &one.once_sawn)
        }
        SawnFrom::Elbow { piece } => {
            let elbow = plan.elbows.iter().find(|one| one.run == piece.run && one.id == piece.piece);
            elbow.map(|one| &one.once_sawn)
        }
        SawnFrom::Pies { run, bend } => {
            let pies = plan.pies.iter().find(|one| one.run == *run && one.bend == *bend);
            pies.map(|one| &one.once_sawn)
        }
    }
}

/// A job, and what plans it with the workshop and the record as they are.
pub(super) async fn planned(
    store: &Store,
    id: JobId,
) -> Result<(Job, impl FnOnce(&Job) -> Result<StockPlan, Problem> + Send + 'static), Problem> {
    let (job, workshop) = (store.job(id).await?, store.workshop().await?.workshop);
    let progress = progress(store, id).await?;
    let plan = move |job: &Job| {
        stock_plan(job, &progress, &workshop, &AtomicBool::new(false)).map_err(|error| Problem::internal(&error))
    };
    Ok((job, plan))
}
