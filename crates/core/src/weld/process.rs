//! How metal is fused, and what is fed into it.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::stock::Material;

/// How a seam is welded.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Process {
    /// A tungsten electrode under argon, filler fed by hand.
    Tig,
    /// The same without filler: the edges are fused.
    TigFused,
    /// Wire fed by the machine.
    Mig,
}

/// What keeps the air from the inside of a seam where the metal needs that.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Inside {
    /// Argon.
    Purge,
    /// A paste brushed inside; never in titanium.
    Flux,
}

/// What is fed into a seam.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Filler {
    /// Its name as the box has it.
    pub name: &'static str,
    /// Why that one.
    pub why: &'static str,
}

/// Why a process is none for a metal.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum NotSo {
    /// 6000 aluminium cracks hot without filler.
    CracksWithoutFiller,
    /// By wire only steel is planned.
    NotByWire,
    /// The two metals do not fuse.
    TwoMetals,
}

impl NotSo {
    /// In words.
    #[must_use]
    pub const fn words(self) -> &'static str {
        match self {
            Self::CracksWithoutFiller => {
                "aluminium of the 6000 series cracks as it sets without filler: feed 4043, whatever the gap"
            }
            Self::NotByWire => "by wire only steel is planned here: weld this by TIG, with filler",
            Self::TwoMetals => "the two metals do not fuse: join them by a clamp, each half of its own metal",
        }
    }
}

const fn is_aluminium(metal: Material) -> bool {
    matches!(metal, Material::Aluminium6061 | Material::Aluminium6063)
}

/// Whether a metal is a stainless steel.
const fn is_stainless(metal: Material) -> bool {
    matches!(metal, Material::Stainless304l | Material::Stainless316l | Material::Stainless321)
}

impl Process {
    /// Every process, in the order they are offered.
    pub const ALL: [Self; 3] = [Self::Tig, Self::TigFused, Self::Mig];

    /// Whether it is one for two metals. Source: handbook, "The sums", Welding starts; that 6000 aluminium cracks without filler: AWS
    /// Welding Handbook, volume 5, Aluminum and aluminum alloys.
    ///
    /// # Errors
    /// [`NotSo`] as its variants say.
    pub const fn suits(self, one: Material, other: Material) -> Result<(), NotSo> {
        if !one.fuses_with(other) {
            return Err(NotSo::TwoMetals);
        }
        match self {
            Self::Tig => Ok(()),
            Self::TigFused if is_aluminium(one) || is_aluminium(other) => Err(NotSo::CracksWithoutFiller),
            Self::TigFused => Ok(()),
            Self::Mig if is_aluminium(one) || matches!(one, Material::TitaniumGrade2) => Err(NotSo::NotByWire),
            Self::Mig => Ok(()),
        }
    }

    /// In words.
    #[must_use]
    pub const fn words(self) -> &'static str {
        match self {
            Self::Tig => "TIG with filler",
            Self::TigFused => "TIG without filler",
            Self::Mig => "MIG",
        }
    }
}

impl Inside {
    /// What a metal wants inside a seam; `None` where it wants nothing. Source: handbook, "The work", Weld, and "The sums",
    /// Welding starts.
    #[must_use]
    pub const fn wanted(metal: Material, chosen: Self) -> Option<Self> {
        match metal {
            Material::TitaniumGrade2 => Some(Self::Purge),
            _ if is_stainless(metal) => Some(chosen),
            _ => None,
        }
    }
}

/// What is fed into a seam between two metals; `None` where they do not fuse. Source: handbook, "The sums", Welding starts; stainless 321 to
/// other stainless is fed what the 321 is.
#[must_use]
pub const fn filler(one: Material, other: Material) -> Option<Filler> {
    if !one.fuses_with(other) {
        return None;
    }
    Some(match (one, other) {
        (Material::TitaniumGrade2, _) => Filler { name: "ER-Ti-2", why: "the tube\u{2019}s own grade" },
        _ if is_aluminium(one) => {
            Filler { name: "4043", why: "6000 aluminium; 5356 cracks where it is warmer than 65 \u{b0}C" }
        }
        (Material::MildSteel, Material::MildSteel) => Filler { name: "ER70S-2", why: "mild steel; ER70S-6 as well" },
        (Material::MildSteel, _) | (_, Material::MildSteel) => Filler { name: "309L", why: "stainless to mild steel" },
        (Material::Stainless321, _) | (_, Material::Stainless321) => Filler { name: "347", why: "stainless 321" },
        (Material::Stainless316l, _) | (_, Material::Stainless316l) => Filler { name: "316L", why: "stainless 316" },
        _ => Filler { name: "308L", why: "stainless 304" },
    })
}
