//! The tape and the level: what was checked of them, and what the readings tell.

use serde::Serialize;
use utoipa::ToSchema;

use crate::job::Job;
use crate::measure::InstrumentChecks;
use crate::survey::Survey;
use nook_geometry::units::DualUnitText;

/// What is known of the instruments.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct InstrumentsWorkup {
    /// What was checked.
    pub checks: InstrumentChecks,
    /// What that makes of the tape, and what all readings together tell of it.
    pub tape: DualUnitText,
    /// What that makes of how the vehicle stands, and what all readings together tell of it.
    pub tilt: DualUnitText,
}

/// Standard deviations that hold 95 times in 100 along one line.
const ONE_LINE: f64 = 1.96;

impl InstrumentsWorkup {
    pub(super) fn of(job: &Job, survey: &Survey<'_>) -> Self {
        let checks = *job.instruments();
        let (before, after) = (checks.instruments(), survey.instruments());
        let tape = DualUnitText::new(|unit| {
            let off = match after.tape_zero {
                zero if zero.abs() < 0.05 => "true".to_owned(),
                zero if zero < 0.0 => format!("{} short", unit.text(-zero)),
                zero => format!("{} long", unit.text(zero)),
            };
            let told = format!("{off}, \u{b1}{} 95 times in 100", unit.text(after.tape_zero_spread * ONE_LINE));
            match (checks.tape, after.tape_zero_spread < before.tape_zero_spread * TOLD) {
                (None, false) => {
                    format!(
                        "Not checked: every tape may be out by up to {} alike.",
                        unit.text(InstrumentChecks::TAPE_ZERO * ONE_LINE)
                    )
                }
                (None, true) => format!("Not checked, but the readings tell: it reads {told}."),
                (Some(_), _) => format!("It reads {told}. That is taken off every tape."),
            }
        });
        let tilt = DualUnitText::new(|_| {
            let [nose, left] = after.tilt.map(|sine| sine.clamp(-1.0, 1.0).asin().to_degrees());
            let spread = after.tilt_spread.to_degrees() * ONE_LINE;
            let leaning = |degrees: f64, what: &str| match degrees {
                small if small.abs() < 0.05 => None,
                down if down < 0.0 => Some(format!("{what} down by {:.1}\u{b0}", -down)),
                up => Some(format!("{what} up by {up:.1}\u{b0}")),
            };
            let leans: Vec<String> =
                [leaning(nose, "nose"), leaning(left, "left side")].into_iter().flatten().collect();
            let stands = if leans.is_empty() { "level".to_owned() } else { leans.join(" and ") };
            let told = format!("{stands}, \u{b1}{spread:.1}\u{b0} 95 times in 100");
            match (checks.tilt, after.tilt_spread < before.tilt_spread * TOLD) {
                (None, false) => format!(
                    "Not checked: every level and gauge may be out by up to {:.1}\u{b0} alike.",
                    InstrumentChecks::TILT * ONE_LINE
                ),
                (None, true) => format!("Not checked, but the readings tell: it stands {told}."),
                (Some(_), _) => format!("It stands {told}. That is taken off every level and gauge."),
            }
        });
        Self { checks, tape, tilt }
    }
}

/// What is known to this share of what it was before, the readings have told.
const TOLD: f64 = 0.7;
