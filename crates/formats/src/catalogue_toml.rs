//! The catalogue of what can be bought.

use nook_core::join::JointPart;
use nook_core::measure::ComponentDesign;
use nook_core::stock::{Catalogue, TubeError};
use thiserror::Error;

/// Why a catalogue was not read.
#[derive(Debug, Error)]
pub enum CatalogueError {
    /// Not TOML, or not a catalogue; says the line.
    #[error("the catalogue cannot be read: {0}")]
    Toml(#[from] toml::de::Error),
    /// A size that is no tube.
    #[error("the catalogue lists an impossible tube: {0}")]
    Tube(#[from] TubeError),
}

#[derive(serde::Deserialize)]
#[serde(deny_unknown_fields)]
struct Designs {
    components: Vec<ComponentDesign>,
}

/// Reads the boxes that coolers, radiators and tanks come as.
///
/// # Errors
/// [`CatalogueError::Toml`] where the text is none, or a box is out of range.
pub fn read_component_designs(text: &str) -> Result<Vec<ComponentDesign>, CatalogueError> {
    Ok(toml::from_str::<Designs>(text)?.components)
}

#[derive(serde::Deserialize)]
#[serde(deny_unknown_fields)]
struct Joints {
    joints: Vec<JointPart>,
}

/// Reads the parts that joints are made with.
///
/// # Errors
/// [`CatalogueError::Toml`] where the text is none, or a figure is out of range.
pub fn read_joint_parts(text: &str) -> Result<Vec<JointPart>, CatalogueError> {
    Ok(toml::from_str::<Joints>(text)?.joints)
}

/// Reads a catalogue and checks every tube in it.
///
/// # Errors
/// [`CatalogueError`] as its variants say.
pub fn read_catalogue(text: &str) -> Result<Catalogue, CatalogueError> {
    let catalogue: Catalogue = toml::from_str(text)?;
    catalogue.all_tubes()?;
    Ok(catalogue)
}
