//! The packet on paper: a run's, or the whole vehicle's.

use nook_core::rates::Rates;
use nook_core::workup::weld;
use nook_core::{Given, Job, RunId, Scans, Workshop, workup_given};
use nook_geometry::units::LengthUnit;
use nook_print::{
    Paper, PrintError, PrintOptions, RunPacket, SheetKind, Takes, VehiclePacket, run_packet_pdf, vehicle_packet_pdf,
};
use nook_store::Store;
use rocket::http::ContentType;
use rocket::{FromForm, State, get};

use super::guards::Id;
use super::jobs::Download;
use super::log::rates;
use super::meshes::Meshes;
use super::problem::Problem;
use super::runs::given;
use super::stock::{bought, planned};
use super::workers::Workers;

impl From<PrintError> for Problem {
    fn from(error: PrintError) -> Self {
        match error {
            PrintError::Nothing => Self::refused(
                "None of the sheets asked for has anything on it yet. Choose others, or mend the run first.",
            ),
            PrintError::Page { .. } | PrintError::Document(_) => Self::internal(&error),
        }
    }
}

/// How it is printed, as an address says it; what that leaves out is usual.
#[derive(FromForm)]
pub(super) struct Printing<'a> {
    paper: Option<&'a str>,
    unit: Option<&'a str>,
    sheets: Option<&'a str>,
    printer: Option<u32>,
}

impl Printing<'_> {
    /// The same as the product's own options.
    async fn options(&self, store: &Store) -> Result<PrintOptions, Problem> {
        let mut options = options(self.paper, self.unit, self.sheets)?;
        if let Some(printer) = self.printer {
            let workshop = store.workshop().await?.workshop;
            let known = workshop.printers().iter().find(|one| one.id.0 == printer);
            let missing =
                || Problem::refused(format!("The workshop has no printer {printer}; it may have been removed."));
            options.stretch = known.ok_or_else(missing)?.stretch();
        }
        Ok(options)
    }
}

fn options(paper: Option<&str>, unit: Option<&str>, sheets: Option<&str>) -> Result<PrintOptions, Problem> {
    let paper = match paper {
        None | Some("a4") => Paper::A4,
        Some("letter") => Paper::Letter,
        Some(other) => {
            return Err(Problem::refused(format!("There is no paper \u{201c}{other}\u{201d}: a4 or letter.")));
        }
    };
    let unit = match unit {
        None | Some("mm") => LengthUnit::Mm,
        Some("in") => LengthUnit::In,
        Some(other) => return Err(Problem::refused(format!("There is no unit \u{201c}{other}\u{201d}: mm or in."))),
    };
    let Some(sheets) = sheets else { return Ok(PrintOptions::usual(paper, unit)) };
    let known = |word: &str| SheetKind::ALL.into_iter().find(|sheet| sheet.word() == word);
    let sheets = sheets.split(',').map(|word| {
        known(word).ok_or_else(|| {
            let all = SheetKind::ALL.map(SheetKind::word).join(", ");
            Problem::refused(format!("There is no sheet \u{201c}{word}\u{201d}: {all}."))
        })
    });
    Ok(PrintOptions { paper, unit, sheets: sheets.collect::<Result<_, _>>()?, stretch: 1.0 })
}

fn packet_of(
    job: &Job,
    workshop: &Workshop,
    run: RunId,
    given: &Given<'_>,
    scans: &Scans,
    rates: &Rates,
) -> Result<RunPacket, Problem> {
    let packet = RunPacket::new(job, workup_given(job, run, given)?, scans);
    let labour = packet.workup.totals.as_ref().map_or(&[][..], |totals| &totals.labour);
    let takes = Takes { hours: rates.hours(labour).range(), from_runs: rates.runs() };
    Ok(packet.with_takes(takes).with_weld(weld(job, workshop, run, given)?))
}

/// What a run needs on paper, as a PDF.
#[utoipa::path(get, path = "/api/jobs/{id}/runs/{run}/packet.pdf", tag = "runs", operation_id = "printRun",
    params(("id" = i64, Path), ("run" = u32, Path),
        ("paper" = Option<Paper>, Query, description = "A4 where it is left out"),
        ("unit" = Option<String>, Query, description = "mm or in; mm where it is left out"),
        ("sheets" = Option<String>, Query, description = "Words of sheets with commas between; the usual ones where it is left out"),
        ("printer" = Option<u32>, Query, description = "A printer of the workshop, whose scale is made good; none where it is left out")),
    responses((status = 200, content_type = "application/pdf"), (status = 404, body = Problem), (status = 422, body = Problem)))]
#[get("/jobs/<id>/runs/<run>/packet.pdf?<how..>")]
pub(super) async fn run_packet(
    store: &State<Store>,
    meshes: &State<Meshes>,
    workers: &State<Workers>,
    id: Id,
    run: u32,
    how: Printing<'_>,
) -> Result<Download, Problem> {
    let options = how.options(store).await?;
    let (job, scans, progress) = given(store, meshes, id).await?;
    let workshop = store.workshop().await?.workshop;
    let rates = rates(store).await?;
    let work = move || {
        let given = Given { scans: &scans, progress: &progress, mend: false };
        let packet = packet_of(&job, &workshop, RunId(run), &given, &scans, &rates)?;
        let bytes = run_packet_pdf(job.name(), &packet, &options)?;
        Ok(Download::of_bytes(bytes, ContentType::PDF, &format!("{}.pdf", packet.workup.name)).shown())
    };
    workers.run(work).await
}

/// What the whole vehicle needs on paper, as a PDF.
#[utoipa::path(get, path = "/api/jobs/{id}/packet.pdf", tag = "jobs", operation_id = "printJob",
    params(("id" = i64, Path),
        ("paper" = Option<Paper>, Query, description = "A4 where it is left out"),
        ("unit" = Option<String>, Query, description = "mm or in; mm where it is left out"),
        ("sheets" = Option<String>, Query, description = "Words of sheets with commas between; the usual ones where it is left out"),
        ("printer" = Option<u32>, Query, description = "A printer of the workshop, whose scale is made good; none where it is left out")),
    responses((status = 200, content_type = "application/pdf"), (status = 404, body = Problem), (status = 422, body = Problem)))]
#[get("/jobs/<id>/packet.pdf?<how..>")]
pub(super) async fn job_packet(
    store: &State<Store>,
    meshes: &State<Meshes>,
    workers: &State<Workers>,
    id: Id,
    how: Printing<'_>,
) -> Result<Download, Problem> {
    let options = how.options(store).await?;
    let (_, plan) = planned(store, id.0).await?;
    let (job, scans, progress) = given(store, meshes, id).await?;
    let workshop = store.workshop().await?.workshop;
    let rates = rates(store).await?;
    let work = move || {
        let plan = plan(&job)?;
        let given = Given { scans: &scans, progress: &progress, mend: false };
        let runs = job.runs().iter().map(|run| packet_of(&job, &workshop, run.id, &given, &scans, &rates));
        let vehicle = VehiclePacket {
            name: job.name().to_owned(),
            buying: bought(&plan),
            sticks: plan.tubes.into_iter().map(|tube| (tube.tube, tube.sticks)).collect(),
            runs: runs.collect::<Result<_, Problem>>()?,
        };
        let bytes = vehicle_packet_pdf(&vehicle, &options)?;
        Ok(Download::of_bytes(bytes, ContentType::PDF, &format!("{}.pdf", vehicle.name)).shown())
    };
    workers.run(work).await
}
