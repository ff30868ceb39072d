//! What tube is made of.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// A tube material.
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
}

impl Material {
    /// Every material, in the order they are offered.
    pub const ALL: [Self; 7] = [
        Self::Aluminium6061,
        Self::Aluminium6063,
        Self::Stainless304l,
        Self::Stainless316l,
        Self::Stainless321,
        Self::TitaniumGrade2,
        Self::MildSteel,
    ];

    /// Density in kg/m3. Source: handbook, "The sums", Materials.
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
        }
    }

    /// Young's modulus in GPa. Source: as for the density.
    #[must_use]
    pub const fn youngs_modulus(self) -> f64 {
        match self {
            Self::Aluminium6061 | Self::Aluminium6063 => 69.0,
            Self::Stainless304l | Self::Stainless316l | Self::Stainless321 => 193.0,
            Self::TitaniumGrade2 => 103.0,
            Self::MildSteel => 205.0,
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
        }
    }

    /// Poisson's ratio. Source: Young and Budynas, Roark's Formulas, table of material properties.
    #[must_use]
    pub const fn poisson_ratio(self) -> f64 {
        match self {
            Self::Aluminium6061 | Self::Aluminium6063 => 0.33,
            Self::Stainless304l | Self::Stainless316l | Self::Stainless321 | Self::MildSteel => 0.29,
            Self::TitaniumGrade2 => 0.34,
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
        }
    }
}
