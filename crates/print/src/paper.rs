//! Paper that printers have, and what of it they reach.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// Paper that printers have.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Paper {
    /// 210 by 297 mm.
    #[default]
    A4,
    /// 8.5 by 11 inches.
    Letter,
}

/// Rim in mm that is left white: what common printers do not reach, and a little.
pub(crate) const RIM: f64 = 9.0;
/// Room in mm for the head of each page, and for the bars at its foot.
pub(crate) const HEAD: f64 = 14.0;
pub(crate) const FOOT: f64 = 13.0;

impl Paper {
    /// Width and height in mm, upright.
    #[must_use]
    pub const fn size(self) -> [f64; 2] {
        match self {
            Self::A4 => [210.0, 297.0],
            Self::Letter => [215.9, 279.4],
        }
    }

    /// What is drawn on: its upper left corner, and its width and height, in mm.
    pub(crate) const fn body(self) -> ([f64; 2], [f64; 2]) {
        let [width, height] = self.size();
        ([RIM, RIM + HEAD], [width - 2.0 * RIM, height - 2.0 * RIM - HEAD - FOOT])
    }
}
