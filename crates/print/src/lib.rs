//! What goes on paper: the packet of a run or of the whole vehicle as a PDF. Drawings that are wrapped, drilled or cut by are at true
//! scale; every page has a bar to check that.

mod flow;
mod fonts;
mod history;
mod page;
mod paper;
mod pdf;
mod run_packet;
mod sheet;
mod tiles;
mod vehicle_packet;
mod views;
mod weld_sheet;

pub use fonts::{HEADING_FONT, TEXT_FONT};
pub use history::history_pdf;
pub use paper::Paper;
pub use pdf::PrintError;
pub use run_packet::{RunPacket, Takes};
pub use sheet::SheetKind;
pub use vehicle_packet::VehiclePacket;

use nook_geometry::units::LengthUnit;

use flow::Flow;

/// How a packet is printed.
#[derive(Debug, Clone, PartialEq)]
pub struct PrintOptions {
    /// On what.
    pub paper: Paper,
    /// In which unit lengths are written; drawings are in mm whatever it is.
    pub unit: LengthUnit,
    /// Which sheets, in any order.
    pub sheets: Vec<SheetKind>,
    /// By what everything is drawn larger, for a printer that prints it smaller; 1 for a true one.
    pub stretch: f64,
}

impl PrintOptions {
    /// The usual sheets on this paper.
    #[must_use]
    pub fn usual(paper: Paper, unit: LengthUnit) -> Self {
        Self { paper, unit, sheets: SheetKind::USUAL.to_vec(), stretch: 1.0 }
    }
}

/// The packet of one run as a PDF; `job` is the vehicle's name.
///
/// # Errors
/// [`PrintError::Nothing`] where every sheet asked for is empty; the others are faults of this program.
pub fn run_packet_pdf(job: &str, run: &RunPacket, options: &PrintOptions) -> Result<Vec<u8>, PrintError> {
    let title = format!("{job} \u{b7} {}", run.workup.name);
    let mut flow = Flow::new(options.paper, &title);
    run.print(&mut flow, &options.sheets, options.unit);
    pdf::pdf(&flow.finish(), &title, options.stretch)
}

/// The packet of the whole vehicle as a PDF.
///
/// # Errors
/// As above.
pub fn vehicle_packet_pdf(vehicle: &VehiclePacket, options: &PrintOptions) -> Result<Vec<u8>, PrintError> {
    let mut flow = Flow::new(options.paper, &vehicle.name);
    vehicle.print(&mut flow, options);
    pdf::pdf(&flow.finish(), &vehicle.name, options.stretch)
}
