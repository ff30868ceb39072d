//! The open files Nook Bend reads and writes: the job as JSON, the catalogue as TOML, cut lists and
//! length-rotation-angle tables as CSV, a pipe as DXF, STEP, STL and glTF, datum points and readings as CSV, scans, the bay as glTF and STL, wrap templates, brackets and jigs as SVG at true scale, and the packet of all of them.

mod bay_model;
mod bracket_svg;
mod catalogue_toml;
mod cut_list_csv;
mod drawing;
mod fittings_csv;
mod hollow;
mod hose_csv;
mod jig_svg;
mod job_file;
mod lra_csv;
mod packet;
mod pipe_dxf;
mod pipe_model;
mod pipe_step;
mod plate_svg;
mod saddle_svg;
pub mod scan;
mod survey_csv;
mod table;
mod template_svg;

pub use bay_model::{ModelError, Part, bay_glb, bay_stl};
pub use bracket_svg::bracket_svg;
pub use catalogue_toml::{CatalogueError, read_catalogue, read_component_designs, read_joint_parts};
pub use cut_list_csv::cut_list_csv;
pub use fittings_csv::fittings_csv;
pub use hollow::Hollow;
pub use hose_csv::hose_csv;
pub use jig_svg::jig_svg;
pub use job_file::{JobFileError, LARGEST_JOB_FILE, job_schema, read_job, write_job};
pub use lra_csv::{LraError, lra_csv, read_lra};
pub use packet::{PacketFile, packet};
pub use pipe_dxf::pipe_dxf;
pub use pipe_model::pipe_part;
pub use pipe_step::{NoSolid, pipe_step};
pub use plate_svg::plate_svg;
pub use saddle_svg::branch_template;
pub use survey_csv::{datums_csv, read_datums, read_readings, readings_csv};
pub use table::{LARGEST_TABLE, TableFileError};
pub use template_svg::{template_of, template_svg};
