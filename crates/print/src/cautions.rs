//! Cautions beside the step that needs them. Source: handbook, Cautions.

use nook_core::stock::Material;

/// Where a caution is printed.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Beside {
    /// The run as a whole, and fitting it.
    Run,
    /// Sawing and sanding.
    Cut,
}

/// What is said there of a pipe of this material.
pub(crate) fn cautions(beside: Beside, material: Material) -> Vec<&'static str> {
    match beside {
        Beside::Run => {
            let mut all = vec![
                "On the car: battery off and control units unplugged before any arc. Fuel, lines and rags away, an extinguisher by; stands, \
                 never a jack alone.",
                "Brake, steering, fuel and live electrical come before any pipe. What is printed here is planned and worked out, and certifies \
                 nothing: the rules where you are come first.",
            ];
            if matches!(material, Material::Stainless304l | Material::Stainless316l | Material::Stainless321) {
                all.push("Fume from stainless holds hexavalent chromium: draw it away at the arc.");
            }
            all
        }
        Beside::Cut => {
            let mut all = vec![
                "Guards on, eyes covered, gloves off near anything that spins. Clamp short pies in a jig, never in fingers.",
            ];
            if material == Material::TitaniumGrade2 {
                all.push(
                    "Titanium dust and swarf burn fiercely and water makes it worse: sweep often, keep dry sand by, and keep it off the \
                     grinder's sparks.",
                );
            }
            all
        }
    }
}
