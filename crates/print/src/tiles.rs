//! Drawings at true scale, put on pages: as they are, turned, or in tiles that are laid over each other by their marks.

use crate::flow::{Flow, count};
use crate::fonts::Face;
use crate::page::{DYE, Page, SOFT, Set, mm};

/// A drawing whose user unit is a millimetre.
#[derive(Debug, Clone, PartialEq)]
pub(crate) struct Drawing {
    /// What it is called.
    pub(crate) name: String,
    /// Its width and height in mm.
    pub(crate) size: [f64; 2],
    /// What is drawn, as SVG.
    inner: String,
}

/// How far neighbouring tiles overlap, in mm: what a strip of tape holds.
pub(crate) const OVERLAP: f64 = 10.0;
/// How far the marks are from the ends of an overlap, and how long their arms are, in mm.
const MARK_IN: f64 = 15.0;
const ARM: f64 = 4.0;
/// Room below a drawing before the next one, in mm.
const BETWEEN: f64 = 6.0;
/// Room above a tile for its name, in mm.
const NAMED: f64 = 7.0;

impl Drawing {
    /// A drawing as this product writes them: its size is the view box of its first element. `None` of anything else.
    pub(crate) fn of(name: String, svg: &str) -> Option<Self> {
        let begin = svg.find("<svg")?;
        let head = begin + svg[begin..].find('>')?;
        let view = svg[begin..head].split_once("viewBox=\"")?.1.split_once('"')?.0;
        let mut numbers = view.split([' ', ',']).filter_map(|number| number.parse::<f64>().ok());
        let [_, _, width, height] = std::array::from_fn(|_| numbers.next());
        let inner = svg[head + 1..].rsplit_once("</svg>")?.0.to_owned();
        Some(Self { name, size: [width?, height?], inner })
    }

    /// The drawing with its upper left corner at the place, or turned a quarter to the right.
    fn placed(&self, [x, y]: [f64; 2], turned: bool) -> String {
        let turn = if turned { format!(" translate({} 0) rotate(90)", mm(self.size[1])) } else { String::new() };
        format!(
            "<g transform=\"translate({} {}){turn}\" font-family=\"'{}'\">{}</g>",
            mm(x),
            mm(y),
            Face::Text.family(),
            self.inner
        )
    }

    /// Its width and height as it lies on the page.
    const fn lying(&self, turned: bool) -> [f64; 2] {
        let [width, height] = self.size;
        if turned { [height, width] } else { [width, height] }
    }
}

/// Tiles across and down that a drawing of that size takes, each with `body` mm of room.
fn tiles(size: [f64; 2], body: [f64; 2]) -> [usize; 2] {
    [0, 1].map(|axis| {
        let mut some = 1;
        while count(some) * (body[axis] - OVERLAP) + OVERLAP < size[axis] - 1e-6 {
            some += 1;
        }
        some
    })
}

impl Flow {
    /// A drawing at true scale.
    pub(crate) fn drawing(&mut self, drawing: &Drawing) {
        let (_, [width, height]) = self.paper().body();
        let whole = [false, true].into_iter().find(|turned| {
            let [wide, tall] = drawing.lying(*turned);
            wide <= width && tall <= height
        });
        if let Some(turned) = whole {
            let (page, corner) = self.cell(drawing.lying(turned), BETWEEN);
            page.blob(drawing.placed(corner, turned));
            return;
        }
        let body = [width, height - NAMED];
        let of = |turned: &bool| {
            let [across, down] = tiles(drawing.lying(*turned), body);
            across * down
        };
        let turned = [false, true].into_iter().min_by_key(of).unwrap_or(false);
        self.tiled(drawing, turned, body);
    }

    fn tiled(&mut self, drawing: &Drawing, turned: bool, body: [f64; 2]) {
        let ([left, top], _) = self.paper().body();
        let top = top + NAMED;
        let step = body.map(|length| length - OVERLAP);
        let [across, down] = tiles(drawing.lying(turned), body);
        for row in 0..down {
            for column in 0..across {
                let shift = [count(column) * step[0], count(row) * step[1]];
                let name = format!("{}: tile {} of {}", drawing.name, row * across + column + 1, across * down);
                let id = format!("tile-{row}-{column}");
                let page = self.next_page();
                page.text([left, top - 2.5], Set::new(Face::Bold, 3.4), &name);
                let placed = drawing.placed([left - shift[0], top - shift[1]], turned);
                page.blob(format!(
                    "<clipPath id=\"{id}\"><rect x=\"{}\" y=\"{}\" width=\"{}\" height=\"{}\"/></clipPath><g clip-path=\"url(#{id})\">{placed}</g>",
                    mm(left), mm(top), mm(body[0]), mm(body[1])
                ));
                marks(page, [left, top], body, [column > 0, column + 1 < across], [row > 0, row + 1 < down]);
                // A whole page each: nothing is put below a tile.
                self.space(f64::INFINITY);
            }
        }
    }
}

/// Crosses on the middle of each overlap: those of two neighbours are laid over each other. `sides` and `ends` say where there is a
/// neighbour: to the left and right, above and below.
fn marks(page: &mut Page, [left, top]: [f64; 2], [width, height]: [f64; 2], sides: [bool; 2], ends: [bool; 2]) {
    let half = OVERLAP / 2.0;
    let small = Set::new(Face::Text, 2.6).ink(SOFT);
    for (there, x) in sides.into_iter().zip([left + half, left + width - half]) {
        if there {
            for y in [top + MARK_IN, top + height - MARK_IN] {
                cross(page, [x, y]);
            }
            page.dashed([x, top], [x, top + height], 0.1, SOFT);
            page.text_up([x - 1.0, top + height / 2.0], small, "lay over the next tile, cross on cross");
        }
    }
    for (there, y) in ends.into_iter().zip([top + half, top + height - half]) {
        if there {
            for x in [left + MARK_IN, left + width - MARK_IN] {
                cross(page, [x, y]);
            }
            page.dashed([left, y], [left + width, y], 0.1, SOFT);
            page.text([left + width / 2.0, y - 1.0], small, "lay over the next tile, cross on cross");
        }
    }
}

fn cross(page: &mut Page, [x, y]: [f64; 2]) {
    page.line([x - ARM, y], [x + ARM, y], 0.2, DYE);
    page.line([x, y - ARM], [x, y + ARM], 0.2, DYE);
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn tiles_cover_a_drawing_and_no_more_than_it_takes() {
        for size in [[100.0, 50.0], [192.0, 300.0], [500.0, 90.0], [1234.5, 700.0]] {
            let body = [192.0, 243.0];
            let counts = tiles(size, body);
            for axis in 0..2 {
                let covered = |of: usize| count(of) * (body[axis] - OVERLAP) + OVERLAP;
                assert!(covered(counts[axis]) >= size[axis] - 1e-6);
                assert!(counts[axis] == 1 || covered(counts[axis] - 1) < size[axis]);
            }
        }
    }

    #[test]
    fn a_drawing_is_its_view_box_and_what_is_in_it() {
        let svg = "<svg viewBox=\"0 0 120.5 80\" width=\"120.5mm\"><path d=\"M0 0\"/></svg>";
        let drawing = Drawing::of("one".to_owned(), svg).unwrap_or_else(|| panic!("it is a drawing"));
        assert_eq!((drawing.size, drawing.inner.as_str()), ([120.5, 80.0], "<path d=\"M0 0\"/>"));
        for none in ["", "<p>", "<svg>", "<svg viewBox=\"0 0 1\"></svg>"] {
            assert_eq!(Drawing::of(String::new(), none), None, "{none}");
        }
    }
}
