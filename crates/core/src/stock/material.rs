//! What tube and hose are made of.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// What a tube or a hose is made of.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Material {
    /// Aluminium 6061.
    Aluminium6061,
    /// Aluminium 6063.
    Aluminium6063,
    /// Stainless 304L.
    Stainless304l,
    /// Stainless 316L.
    Stainless316l,
    /// Stainless 321.
    Stainless321,
    /// Commercially pure titanium, grade 2.
    TitaniumGrade2,
    /// Mild steel.
    MildSteel,
    /// Silicone rubber over plies of cloth.
    Silicone,
    /// The same with a fluoro lining, which oil mist does not swell.
    FluoroSilicone,
    /// EPDM rubber over a braid.
    Epdm,
    /// Nitrile rubber under a braid.
    Nitrile,
    /// A PTFE tube under a steel braid.
    Ptfe,
}

/// Metals that fuse with each other.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Family {
    Aluminium,
    Steel,
    Titanium,
}

impl Material {
    /// Every metal, in the order they are offered.
    pub const METALS: [Self; 7] = [
        Self::Aluminium6061,
        Self::Aluminium6063,
        Self::Stainless304l,
        Self::Stainless316l,
        Self::Stainless321,
        Self::TitaniumGrade2,
        Self::MildSteel,
    ];

    /// Everything hose is made of, likewise.
    pub const HOSES: [Self; 5] = [Self::Silicone, Self::FluoroSilicone, Self::Epdm, Self::Nitrile, Self::Ptfe];

    /// Whether two metals fuse in one weld: aluminium with aluminium, steels with each other, titanium with titanium alone.
    #[must_use]
    pub const fn fuses_with(self, other: Self) -> bool {
        matches!(
            (self.family(), other.family()),
            (Some(Family::Aluminium), Some(Family::Aluminium))
                | (Some(Family::Steel), Some(Family::Steel))
                | (Some(Family::Titanium), Some(Family::Titanium))
        )
    }

    const fn family(self) -> Option<Family> {
        match self {
            Self::Aluminium6061 | Self::Aluminium6063 => Some(Family::Aluminium),
            Self::Stainless304l | Self::Stainless316l | Self::Stainless321 | Self::MildSteel => Some(Family::Steel),
            Self::TitaniumGrade2 => Some(Family::Titanium),
            Self::Silicone | Self::FluoroSilicone | Self::Epdm | Self::Nitrile | Self::Ptfe => None,
        }
    }

    /// Whether it is hose: it bends by hand, and nothing is welded to it.
    #[must_use]
    pub const fn is_hose(self) -> bool {
        matches!(self, Self::Silicone | Self::FluoroSilicone | Self::Epdm | Self::Nitrile | Self::Ptfe)
    }

    /// Heat in degrees Celsius a hose of it bears for long; `None` for metal. Sources: handbook, "Joints, fittings, hoses
    /// and supports", Joint kinds (silicone) and Hose by what it carries (nitrile); SAE J20, class D (EPDM); SAE J517, 100R14
    /// (PTFE).
    #[must_use]
    pub const fn bears(self) -> Option<f64> {
        match self {
            Self::Silicone | Self::FluoroSilicone => Some(180.0),
            Self::Epdm => Some(125.0),
            Self::Nitrile => Some(100.0),
            Self::Ptfe => Some(204.0),
            _ => None,
        }
    }

    /// Density in kg/m3. Source: handbook, "The sums", Materials; of hoses ASM, Engineered Materials Handbook, Engineering
    /// Plastics, the compound's with what its plies add left out.
    #[must_use]
    pub const fn density(self) -> f64 {
        match self {
            Self::Aluminium6061 => 2700.0,
            Self::Aluminium6063 => 2690.0,
            Self::Stainless304l => 7930.0,
            Self::Stainless316l => 7990.0,
            Self::Stainless321 => 7920.0,
            Self::TitaniumGrade2 => 4510.0,
            Self::MildSteel => 7850.0,
            Self::Silicone => 1200.0,
            Self::FluoroSilicone => 1400.0,
            Self::Epdm => 1150.0,
            Self::Nitrile => 1250.0,
            Self::Ptfe => 2160.0,
        }
    }

    /// Young's modulus in GPa. Source: as for the density; of rubber A. N. Gent, Engineering with Rubber, Elasticity.
    #[must_use]
    pub const fn youngs_modulus(self) -> f64 {
        match self {
            Self::Aluminium6061 | Self::Aluminium6063 => 69.0,
            Self::Stainless304l | Self::Stainless316l | Self::Stainless321 => 193.0,
            Self::TitaniumGrade2 => 103.0,
            Self::MildSteel => 205.0,
            Self::Silicone | Self::FluoroSilicone | Self::Epdm | Self::Nitrile => 0.005,
            Self::Ptfe => 0.5,
        }
    }

    /// Coefficient of expansion in 1/K. Source: as for the density.
    #[must_use]
    pub const fn expansion(self) -> f64 {
        match self {
            Self::Aluminium6061 => 23.6e-6,
            Self::Aluminium6063 => 23.4e-6,
            Self::Stainless304l => 17.3e-6,
            Self::Stainless316l => 16.0e-6,
            Self::Stainless321 => 16.6e-6,
            Self::TitaniumGrade2 => 8.6e-6,
            Self::MildSteel => 11.7e-6,
            Self::Silicone | Self::FluoroSilicone => 2.5e-4,
            Self::Epdm | Self::Nitrile => 1.6e-4,
            Self::Ptfe => 1.3e-4,
        }
    }

    /// Yield stress as welded or annealed, in MPa; `None` of hose. Source: handbook, "The sums", Materials.
    #[must_use]
    pub const fn yield_stress(self) -> Option<f64> {
        match self {
            Self::Aluminium6061 => Some(105.0),
            Self::Aluminium6063 => Some(76.0),
            Self::Stainless304l | Self::Stainless316l => Some(170.0),
            Self::Stainless321 => Some(205.0),
            Self::TitaniumGrade2 => Some(275.0),
            Self::MildSteel => Some(220.0),
            Self::Silicone | Self::FluoroSilicone | Self::Epdm | Self::Nitrile | Self::Ptfe => None,
        }
    }

    /// Whether a weld's colour tells how it was kept from the air: of stainless and titanium.
    #[must_use]
    pub const fn colours(self) -> bool {
        matches!(self, Self::Stainless304l | Self::Stainless316l | Self::Stainless321 | Self::TitaniumGrade2)
    }

    /// Poisson's ratio. Source: Young and Budynas, Roark's Formulas, table of material properties.
    #[must_use]
    pub const fn poisson_ratio(self) -> f64 {
        match self {
            Self::Aluminium6061 | Self::Aluminium6063 => 0.33,
            Self::Stainless304l | Self::Stainless316l | Self::Stainless321 | Self::MildSteel => 0.29,
            Self::TitaniumGrade2 => 0.34,
            Self::Silicone | Self::FluoroSilicone | Self::Epdm | Self::Nitrile => 0.49,
            Self::Ptfe => 0.46,
        }
    }

    /// The name as a shelf label has it.
    #[must_use]
    pub const fn name(self) -> &'static str {
        match self {
            Self::Aluminium6061 => "aluminium 6061",
            Self::Aluminium6063 => "aluminium 6063",
            Self::Stainless304l => "stainless 304L",
            Self::Stainless316l => "stainless 316L",
            Self::Stainless321 => "stainless 321",
            Self::TitaniumGrade2 => "titanium grade 2",
            Self::MildSteel => "mild steel",
            Self::Silicone => "plain silicone",
            Self::FluoroSilicone => "fluoro-lined silicone",
            Self::Epdm => "EPDM rubber",
            Self::Nitrile => "nitrile rubber",
            Self::Ptfe => "PTFE",
        }
    }
}
