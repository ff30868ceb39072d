//! Cautions beside the step that needs them. Source: handbook, Cautions.

use crate::stock::Material;

/// Beside what a caution is shown.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Beside {
    /// The run as a whole, and fitting it.
    Run,
    /// Sawing and sanding.
    Cut,
    /// Welding.
    Weld {
        /// Whether gas is let into the pipe.
        purged: bool,
        /// Whether paste is brushed into it.
        flux: bool,
    },
    /// Testing with air.
    AirTest,
    /// Filling and heating coolant.
    Coolant,
}

/// What is said there of a pipe of this material.
#[must_use]
pub fn cautions(beside: Beside, material: Material) -> Vec<&'static str> {
    let stainless = matches!(material, Material::Stainless304l | Material::Stainless316l | Material::Stainless321);
    let titanium = material == Material::TitaniumGrade2;
    let mut all = Vec::new();
    match beside {
        Beside::Run => {
            all.push(
                "On the car: battery off and control units unplugged before any arc. Fuel, lines and rags away, an extinguisher by; stands, \
                 never a jack alone.",
            );
            all.push(
                "Brake, steering, fuel and live electrical come before any pipe. What is printed here is planned and worked out, and certifies \
                 nothing: the rules where you are come first.",
            );
            if stainless {
                all.push("Fume from stainless holds hexavalent chromium: draw it away at the arc.");
            }
        }
        Beside::Cut => {
            all.push(
                "Guards on, eyes covered, gloves off near anything that spins. Clamp short pies in a jig, never in fingers.",
            );
            if titanium {
                all.push(
                    "Titanium dust and swarf burn fiercely and water makes it worse: sweep often, keep dry sand by, and keep it off the \
                     grinder's sparks.",
                );
            }
        }
        Beside::Weld { purged, flux } => {
            all.push(
                "Never weld what was wiped with a chlorinated cleaner, as brake cleaner is: the arc makes poison gas of it. Solvent is dry \
                 before the arc. Skin and eyes covered; zinc and paint off first.",
            );
            if stainless {
                all.push("Fume from stainless holds hexavalent chromium: draw it away at the arc.");
            }
            if purged {
                all.push(
                    "Argon is heavier than air and drives it out of pits, footwells and closed rooms: ventilate, and never put your head in \
                     a purged space.",
                );
            }
            if flux {
                all.push("Paste flux and its solvent are harmful: gloves, air, and clean the pipe before it feeds an engine.");
            }
        }
        Beside::AirTest => {
            all.push(
                "Compressed air stores energy and throws plugs. Through a regulator, with a relief valve set just above, the supply shut off, \
                 plugs tied, turbo and engine shut out, nobody in line with an end.",
            );
        }
        Beside::Coolant => {
            all.push(
                "Above 100 \u{b0}C under a cap it scalds: open it cold. Catch what runs out: it poisons animals. Drain and flush before any \
                 welding on a radiator or its neck.",
            );
        }
    }
    all
}
