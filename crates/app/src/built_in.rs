//! What is compiled into the binary.

use nook_core::Job;
use nook_core::join::JointPart;
use nook_core::measure::ComponentDesign;
use nook_core::record::Deed;
use nook_core::stock::Catalogue;
use nook_core::workshop::WorkshopEdit;
use nook_formats::{CatalogueError, DocumentError, read_catalogue, read_component_designs, read_job, read_joint_parts};

const TUBE: &str = include_str!("../../../catalogue/tube.toml");
const DEMO: &str = include_str!("../../../demo/pellow-van.json");

const DEMO_SCAN: &[u8] = include_bytes!("../../../demo/reservoir.ply");

/// Boxes that coolers, radiators and tanks come as.
pub(crate) fn component_designs() -> Result<Vec<ComponentDesign>, CatalogueError> {
    read_component_designs(include_str!("../../../catalogue/components.toml"))
}

/// Parts that joints are made with.
pub(crate) fn joint_parts() -> Result<Vec<JointPart>, CatalogueError> {
    read_joint_parts(include_str!("../../../catalogue/joints.toml"))
}

/// The catalogue.
pub(crate) fn catalogue() -> Result<Catalogue, CatalogueError> {
    read_catalogue(TUBE)
}

/// The demo job.
pub(crate) fn demo_job() -> Result<Job, DocumentError> {
    read_job(DEMO.as_bytes())
}

/// What the workshop of the demo is filled with: sticks and offcuts on its shelf, and what can be bought.
pub(crate) fn demo_workshop() -> Result<Vec<WorkshopEdit>, serde_json::Error> {
    serde_json::from_str(include_str!("../../../demo/workshop.json"))
}

/// What was done on the demo job: its intake pipe is cut, tacked and tried on.
pub(crate) fn demo_deeds() -> Result<Vec<Deed>, serde_json::Error> {
    serde_json::from_str(include_str!("../../../demo/deeds.json"))
}

/// The scanned part of the demo: its file and the file's name.
pub(crate) const fn demo_scan() -> (&'static [u8], &'static str) {
    (DEMO_SCAN, "reservoir.ply")
}

#[cfg(test)]
mod tests {
    use std::collections::HashSet;
    use std::mem::discriminant;

    use super::*;
    use nook_core::measure::estimate::OutlierTest;
    use nook_core::measure::{End, InstallState, KeepOutKind, KeepOutShape, PortRef};
    use nook_core::record::Progress;
    use nook_core::survey::Survey;
    use nook_core::workup::{fit, prove};
    use nook_core::{Given, Scans, workup};

    #[test]
    fn the_catalogue_is_sound_and_smallest_first() {
        let tubes = catalogue().unwrap().tubes;
        assert!(tubes.windows(2).all(|pair| pair[0].od <= pair[1].od));
    }

    #[test]
    fn every_demo_run_has_a_pipe_that_can_be_cut() {
        let job = demo_job().unwrap();
        assert!(job.runs().len() >= 7);
        for run in job.runs() {
            let workup = workup(&job, run.id).unwrap();
            assert!(workup.cutting.is_some() || workup.hose.is_some(), "{}: {:?}", workup.name, workup.findings);
        }
    }

    #[test]
    fn the_demo_has_a_pipe_that_is_tacked_and_takes_two_acts_to_land() {
        let job = demo_job().unwrap();
        let deeds = demo_deeds().unwrap();
        assert!(deeds.iter().all(Deed::is_sound));
        let run = job.runs().iter().find(|run| run.name.as_str() == "Intake pipe").unwrap().id;
        let (progress, scans) = (Progress::after(&deeds), Scans::default());
        let told = fit(&job, run, &Given { scans: &scans, progress: &progress, mend: false }).unwrap();
        assert!(told.pieces.iter().all(|piece| piece.cut && (piece.tacked || !piece.seam)));
        assert!(!told.likely && told.steps.iter().all(|step| !step.lost && !step.disagrees), "{:?}", told.steps);
        let first = &told.corrections[0];
        assert!(first.acts.len() == 2 && first.chance >= 0.95, "{first:?}");
    }

    #[test]
    fn the_demo_has_a_run_that_is_finished_and_signed() {
        let (job, deeds) = (demo_job().unwrap(), demo_deeds().unwrap());
        let run = job.runs().iter().find(|run| run.name.as_str() == "Oil cooler hose").unwrap().id;
        let (progress, scans) = (Progress::after(&deeds), Scans::default());
        let told = prove(&job, run, &Given { scans: &scans, progress: &progress, mend: false }).unwrap();
        assert!(
            told.sign.wanting.is_empty() && told.sign.changed.is_empty() && told.sign.who.is_some(),
            "{:?}",
            told.sign
        );
    }

    #[test]
    fn the_demo_bay_has_everything_that_can_be_in_the_way() {
        let job = demo_job().unwrap();
        let all = job.keep_outs();
        assert!(all.len() >= 25, "{}", all.len());
        let kinds: HashSet<KeepOutKind> = all.iter().map(|one| one.kind).collect();
        assert_eq!(kinds.len(), KeepOutKind::ALL.len());
        let shapes: HashSet<_> = all.iter().map(|one| discriminant(&one.shape)).collect();
        assert_eq!(shapes.len(), 7);
        assert!(
            all.iter().any(|one| one.standing == InstallState::Missing) && all.iter().any(|one| one.swing.is_some())
        );
        assert!(job.mounts().is_some() && !job.components().is_empty());
        // The scan is the one that ships, and its matched points put it in place.
        let scan = all.iter().find_map(|one| match &one.shape {
            KeepOutShape::Scan(scan) => Some((one.id, scan)),
            _ => None,
        });
        let (keep_out, scan) = scan.unwrap();
        let file = std::io::Cursor::new(DEMO_SCAN);
        let ships =
            crate::server::ready_to_keep(file, "reservoir.ply", &mut |_, _| std::ops::ControlFlow::Continue(()));
        assert_eq!(ships.unwrap().0.id, scan.scan);
        let residuals = Survey::new(&job).scan(keep_out, scan).unwrap().residuals;
        assert!(residuals.len() >= 4 && residuals.iter().all(|off| *off < 3.0), "{residuals:?}");
    }

    #[test]
    fn one_port_of_the_demo_was_taped_with_a_bad_reading_and_it_is_named() {
        let job = demo_job().unwrap();
        let port = PortRef { run: job.runs()[0].id, end: End::A };
        let found = Survey::new(&job).port(port).unwrap();
        let OutlierTest::Readings { wrong, .. } = found.outlier_test() else { panic!("{:?}", found.outlier_test()) };
        let [outlier] = wrong.as_slice() else { panic!("{wrong:?}") };
        assert_eq!(job.port(port).unwrap().readings[outlier.index].taken.datum(), Some(job.datums()[3].id));
        assert!((outlier.by - 24.0).abs() < 5.0, "{}", outlier.by);
    }
}
