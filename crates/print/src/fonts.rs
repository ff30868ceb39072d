//! The fonts that everything on paper is set in, and how wide a text is in them.

use std::sync::{Arc, LazyLock};

use ttf_parser::Face as Parsed;
use usvg::fontdb::Database;

/// What a text is set in.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Face {
    /// Running text and figures.
    Text,
    /// The same where it must be seen first.
    Bold,
    /// Names and headings.
    Head,
}

/// The font of running text and figures, as TrueType.
pub const TEXT_FONT: &[u8] = include_bytes!("../fonts/atkinson-hyperlegible-next-latin-regular.ttf");
/// The font of names and headings, as TrueType.
pub const HEADING_FONT: &[u8] = include_bytes!("../fonts/saira-condensed-latin-600.ttf");

const TEXT: [&[u8]; 2] = [TEXT_FONT, include_bytes!("../fonts/atkinson-hyperlegible-next-latin-ext-regular.ttf")];
const BOLD: [&[u8]; 2] = [
    include_bytes!("../fonts/atkinson-hyperlegible-next-latin-bold.ttf"),
    include_bytes!("../fonts/atkinson-hyperlegible-next-latin-ext-bold.ttf"),
];
const HEAD: [&[u8]; 2] = [HEADING_FONT, include_bytes!("../fonts/saira-condensed-latin-ext-600.ttf")];

/// Width of a letter that no font has, as a share of the size.
const UNKNOWN: f64 = 0.6;

static PARSED: LazyLock<[Vec<Parsed<'static>>; 3]> = LazyLock::new(|| {
    [TEXT, BOLD, HEAD].map(|files| files.into_iter().filter_map(|file| Parsed::parse(file, 0).ok()).collect())
});

static DATABASE: LazyLock<Arc<Database>> = LazyLock::new(|| {
    let mut all = Database::new();
    for file in TEXT.into_iter().chain(BOLD).chain(HEAD) {
        all.load_font_data(file.to_vec());
    }
    all.set_sans_serif_family(Face::Text.family());
    Arc::new(all)
});

/// All of them, for whoever turns drawings into pages.
pub(crate) fn database() -> Arc<Database> {
    Arc::clone(&DATABASE)
}

impl Face {
    /// The family's name.
    pub(crate) const fn family(self) -> &'static str {
        match self {
            Self::Text | Self::Bold => "Atkinson Hyperlegible Next",
            Self::Head => "Saira Condensed SemiBold",
        }
    }

    fn parsed(self) -> &'static [Parsed<'static>] {
        &PARSED[match self {
            Self::Text => 0,
            Self::Bold => 1,
            Self::Head => 2,
        }]
    }

    /// Whether there is a glyph for a letter.
    pub(crate) fn has(self, letter: char) -> bool {
        self.parsed().iter().any(|face| face.glyph_index(letter).is_some())
    }

    /// Width in mm of a text of `size` mm, without kerning.
    pub(crate) fn width(self, text: &str, size: f64) -> f64 {
        let of = |letter: char| {
            let known = self.parsed().iter().find_map(|face| {
                let advance = face.glyph_hor_advance(face.glyph_index(letter)?)?;
                Some(f64::from(advance) / f64::from(face.units_per_em()))
            });
            known.unwrap_or(UNKNOWN)
        };
        text.chars().map(of).sum::<f64>() * size
    }

    /// A text in lines no wider than `width` mm; a word that is wider is broken.
    pub(crate) fn wrapped(self, text: &str, size: f64, width: f64) -> Vec<String> {
        let mut lines = vec![String::new()];
        for word in text.split(' ') {
            let mut rest = word.to_owned();
            let last = lines.last_mut().filter(|line| {
                line.is_empty() || self.width(line, size) + self.width(&format!(" {rest}"), size) <= width
            });
            match last {
                Some(line) if line.is_empty() => *line = std::mem::take(&mut rest),
                Some(line) => {
                    line.push(' ');
                    line.push_str(&rest);
                    rest.clear();
                }
                None => lines.push(std::mem::take(&mut rest)),
            }
            while let Some(line) = lines.last_mut().filter(|line| self.width(line, size) > width) {
                let mut letters: Vec<char> = line.chars().collect();
                let mut over = Vec::new();
                while letters.len() > 1 && self.width(&letters.iter().collect::<String>(), size) > width {
                    over.extend(letters.pop());
                }
                if over.is_empty() {
                    break;
                }
                *line = letters.into_iter().collect();
                lines.push(over.into_iter().rev().collect());
            }
        }
        lines
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn lines_are_no_wider_than_they_may_be_and_lose_nothing() {
        for face in [Face::Text, Face::Bold, Face::Head] {
            let text = "Scribe line 2a 31.4 mm round the girth, Donaudampfschifffahrtsgesellschaftskapitän, x";
            let lines = face.wrapped(text, 3.0, 30.0);
            assert!(lines.iter().all(|line| face.width(line, 3.0) <= 30.0), "{lines:?}");
            let letters = |text: &str| text.chars().filter(|one| *one != ' ').collect::<String>();
            assert_eq!(letters(&lines.concat()), letters(text));
        }
    }

    #[test]
    fn all_that_is_set_has_a_glyph() {
        for letter in "AZaz09äöüßéčłő°×·–’“”²½…±".chars() {
            assert!(Face::Text.has(letter) && Face::Bold.has(letter), "{letter}");
        }
    }
}
