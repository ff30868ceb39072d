//! What is compiled into the binary.

use nook_core::Job;
use nook_core::stock::Catalogue;
use nook_formats::{CatalogueError, JobFileError, read_catalogue, read_job};
use rust_embed::RustEmbed;

/// The built front end. The folder is made by `cargo xtask`; without it only the API is served.
#[derive(RustEmbed)]
#[folder = "../../web/dist"]
#[allow_missing = true]
pub(crate) struct FrontEnd;

const TUBE: &str = include_str!("../../../catalogue/tube.toml");
const DEMO: &str = include_str!("../../../demo/pellow-van.json");

/// The catalogue.
pub(crate) fn catalogue() -> Result<Catalogue, CatalogueError> {
    read_catalogue(TUBE)
}

/// The demo job.
pub(crate) fn demo_job() -> Result<Job, JobFileError> {
    read_job(DEMO.as_bytes())
}

#[cfg(test)]
mod tests {
    use super::*;
    use nook_core::workup;

    #[test]
    fn the_catalogue_is_sound_and_smallest_first() {
        let tubes = catalogue().unwrap().tubes;
        assert!(tubes.windows(2).all(|pair| pair[0].od <= pair[1].od));
    }

    #[test]
    fn every_demo_run_has_a_pipe_that_can_be_cut() {
        let job = demo_job().unwrap();
        assert!(job.runs().len() >= 2 && job.keep_outs().len() >= 5);
        for run in job.runs() {
            let workup = workup(&job, run.id).unwrap();
            assert!(workup.cutting.is_some(), "{}: {:?}", workup.name, workup.findings);
        }
    }
}
