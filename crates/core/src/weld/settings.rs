//! How a machine is set for a seam to begin with. Source of all figures, unless said otherwise: handbook, "The sums", Welding starts, and
//! "Fit, weld, prove", Tack and weld. Each is a start that a coupon proves.

use super::{Process, Welder};
use crate::stock::Material;

/// How a machine is set for one seam.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Settings {
    /// What is set, in A.
    pub amps: f64,
    /// What the sums ask for, in A; more than what is set where the machine ends before.
    pub wanted: f64,
    /// What the thin side alone would have, in A.
    pub thin_alone: f64,
    /// The electrode's diameter in mm; `None` where there is none.
    pub electrode: Option<f64>,
    /// The cup's bore in mm. Ours: the handbook says only that titanium has the largest.
    pub cup: f64,
    /// Argon at the torch in l/min. Of titanium the handbook's; of the others ours, as is usual for such a cup.
    pub flow: f64,
    /// Seconds the gas flows on after each arc. Ours: about one for ten A, and twice that over titanium, at least 8.
    pub post_flow: f64,
}

/// A per mm of the thinner wall.
const fn per_mm(metal: Material) -> f64 {
    match metal {
        Material::Aluminium6061 | Material::Aluminium6063 => 45.0,
        Material::TitaniumGrade2 => 35.0,
        _ => 40.0,
    }
}

/// Walls that differ by less than this share are one thickness. Ours.
const ALIKE: f64 = 1.25;
/// From here on, as a ratio of walls, a thick side asks for the most. Ours.
const THICKEST: f64 = 3.0;
/// What a thick side adds to what the thin side alone would have, as shares: the least and the most.
const MORE: [f64; 2] = [0.25, 0.5];
/// Never above so many times what the thin side alone would have.
const NEVER_ABOVE: f64 = 2.0;

impl Settings {
    /// For a seam of `metal` between walls of `thin` and `thick` mm, at a machine; `own` A where a coupon of the builder's own proved those
    /// for the thin side.
    #[must_use]
    pub fn of(metal: Material, [thin, thick]: [f64; 2], welder: &Welder, own: Option<f64>) -> Self {
        let thin_alone = own.unwrap_or_else(|| per_mm(metal) * thin);
        let ratio = thick / thin;
        let more = if ratio < ALIKE {
            0.0
        } else {
            let along = ((ratio - ALIKE) / (THICKEST - ALIKE)).min(1.0);
            MORE[0] + (MORE[1] - MORE[0]) * along
        };
        let wanted = (thin_alone * (1.0 + more)).min(thin_alone * NEVER_ABOVE);
        let amps = wanted.min(welder.most_amps());
        let titanium = metal == Material::TitaniumGrade2;
        let (cup, flow) = match metal {
            Material::TitaniumGrade2 => (19.0, 12.0),
            Material::Stainless304l | Material::Stainless316l | Material::Stainless321 => (13.0, 9.0),
            _ => (11.0, 8.0),
        };
        let electrode = match welder.process() {
            Process::Mig => None,
            _ if amps <= 90.0 => Some(1.6),
            _ if amps <= 160.0 => Some(2.4),
            // Ours: above what the handbook tells.
            _ => Some(3.2),
        };
        let post_flow = (amps / 10.0 * if titanium { 2.0 } else { 1.0 }).max(8.0);
        Self { amps, wanted, thin_alone, electrode, cup, flow, post_flow }
    }

    /// Whether the machine ends before what is asked for: the thick side stays cold.
    #[must_use]
    pub fn is_cold(&self) -> bool {
        self.amps < self.wanted - 0.5
    }
}

/// How long a seam takes.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct WeldTimes {
    /// Seconds of arc.
    pub arc: f64,
    /// Seconds it cools after each of its quarters.
    pub pause: f64,
}

impl WeldTimes {
    /// Of `length` mm of seam on a wall of `thin` mm, at `travel` mm/min. Pauses are told at 1 mm of wall; a thicker one holds as much more heat.
    /// Of aluminium the handbook says nothing: as steel.
    #[must_use]
    pub fn of(metal: Material, length: f64, thin: f64, travel: f64) -> Self {
        let pause = match metal {
            Material::TitaniumGrade2 => 90.0,
            Material::Stainless304l | Material::Stainless316l | Material::Stainless321 => 60.0,
            _ => 20.0,
        };
        Self { arc: length / travel * 60.0, pause: pause * thin }
    }
}

/// How many tacks hold a seam of a tube of `od` mm.
#[must_use]
pub const fn tack_count(od: f64) -> u32 {
    if od <= 60.0 {
        4
    } else if od <= 90.0 {
        6
    } else {
        8
    }
}

/// The widest gap in mm that is welded over at a wall of `wall` mm: half of it with filler, a quarter on titanium, a tenth without.
#[must_use]
pub fn widest_gap(metal: Material, process: Process, wall: f64) -> f64 {
    let share = match (process, metal) {
        (Process::TigFused, _) => 0.1,
        (_, Material::TitaniumGrade2) => 0.25,
        _ => 0.5,
    };
    share * wall
}
