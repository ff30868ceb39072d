//! Pages turned into a PDF: vectors and embedded fonts.

use krilla::Document;
use krilla::geom::Size;
use krilla::metadata::Metadata;
use krilla::page::PageSettings;
use krilla_svg::{SurfaceExt, SvgSettings};
use thiserror::Error;
use usvg::{Options, Tree};

use crate::fonts::{Face, database};
use crate::page::Page;

/// Points of a millimetre.
const POINTS: f64 = 72.0 / 25.4;

/// Why nothing was printed.
#[derive(Debug, Error)]
pub enum PrintError {
    /// A page could not be drawn: a fault of this program.
    #[error("page {page} could not be drawn: {why}")]
    Page {
        /// Which, from 1.
        page: usize,
        /// Why.
        why: String,
    },
    /// The pages could not be put together: a fault of this program.
    #[error("the pages could not be put together: {0}")]
    Document(String),
    /// Every sheet that was asked for is empty.
    #[error("none of the sheets asked for has anything on it")]
    Nothing,
}

/// The pages as a PDF, under this title, everything on them drawn larger by `stretch`.
pub(crate) fn pdf(pages: &[Page], title: &str, stretch: f64) -> Result<Vec<u8>, PrintError> {
    if pages.is_empty() {
        return Err(PrintError::Nothing);
    }
    let options = Options { fontdb: database(), font_family: Face::Text.family().to_owned(), ..Options::default() };
    let mut document = Document::new();
    document.set_metadata(Metadata::new().title(title.to_owned()));
    for (index, page) in pages.iter().enumerate() {
        let failed = |why: String| PrintError::Page { page: index + 1, why };
        let tree = Tree::from_str(&page.svg(stretch), &options).map_err(|error| failed(error.to_string()))?;
        #[expect(clippy::cast_possible_truncation, reason = "a page is some hundred points wide")]
        let [width, height] = page.size.map(|length| (length * POINTS) as f32);
        let size = Size::from_wh(width, height).ok_or_else(|| failed("it has no size".to_owned()))?;
        let mut sheet = document.start_page_with(PageSettings::new(size));
        let mut surface = sheet.surface();
        let drawn = surface.draw_svg(&tree, size, SvgSettings::default());
        surface.finish();
        sheet.finish();
        drawn.ok_or_else(|| failed("its drawing is refused".to_owned()))?;
    }
    document.finish().map_err(|error| PrintError::Document(format!("{error:?}")))
}
