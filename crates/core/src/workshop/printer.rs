//! Printers, and how true each prints.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use nook_geometry::units::{Name, PrintedBar};

/// Which printer of a workshop; the number never changes.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, ToSchema)]
#[serde(transparent)]
pub struct PrinterId(pub u32);

/// A printer that templates come from.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Printer {
    /// Which.
    pub id: PrinterId,
    /// What it is called.
    pub name: Name,
    /// What the bar of 100 mm measured that every page has; nothing where nobody measured it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub bar: Option<PrintedBar>,
}

impl Printer {
    /// By what a drawing is drawn larger, so that it comes out at true scale.
    #[must_use]
    pub fn stretch(&self) -> f64 {
        self.bar.map_or(1.0, |bar| 100.0 / bar.get())
    }
}
