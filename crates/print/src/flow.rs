//! Pages that are filled from above: headings, paragraphs, tables and drawings, each on the next page where it does not fit any more.

use crate::fonts::Face;
use crate::page::{Align, DYE, HAIRLINE, INK, Page, SOFT, Set};
use crate::paper::{FOOT, HEAD, Paper, RIM};

/// Sizes in mm: of running text, its lines' distance, and of a table's.
const TEXT: f64 = 3.4;
const LINE: f64 = 4.6;
const CELL: f64 = 3.3;
const CELL_LINE: f64 = 4.4;

/// A column of a table.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Column {
    /// What stands above it.
    pub(crate) head: &'static str,
    /// Its share of the table's width.
    pub(crate) share: f64,
    /// Where its texts stand.
    pub(crate) align: Align,
    /// Whether they must be seen first.
    pub(crate) bold: bool,
}

impl Column {
    pub(crate) const fn new(head: &'static str, share: f64) -> Self {
        Self { head, share, align: Align::Left, bold: false }
    }

    pub(crate) const fn right(self) -> Self {
        Self { align: Align::Right, ..self }
    }

    pub(crate) const fn bold(self) -> Self {
        Self { bold: true, ..self }
    }
}

/// Pages as they are filled.
pub(crate) struct Flow {
    paper: Paper,
    title: String,
    pages: Vec<Page>,
    /// How far from the top the last page is filled, in mm.
    down: f64,
    /// Drawings side by side: where the next begins, and how tall the tallest is.
    row: Option<Row>,
}

/// Drawings side by side on the last page, in mm.
#[derive(Debug, Clone, Copy)]
struct Row {
    left: f64,
    top: f64,
    tall: f64,
}

impl Flow {
    pub(crate) fn new(paper: Paper, title: &str) -> Self {
        Self { paper, title: title.to_owned(), pages: Vec::new(), down: f64::INFINITY, row: None }
    }

    /// Width there is, in mm.
    pub(crate) fn width(&self) -> f64 {
        self.paper.body().1[0]
    }

    pub(crate) const fn paper(&self) -> Paper {
        self.paper
    }

    fn bottom(&self) -> f64 {
        let ([_, top], [_, height]) = self.paper.body();
        top + height
    }

    /// Begins another page.
    pub(crate) fn next_page(&mut self) -> &mut Page {
        self.row = None;
        let mut page = Page::new(self.paper.size());
        let right = self.paper.size()[0] - RIM;
        page.text([RIM, RIM + 6.0], Set::new(Face::Head, 6.0).ink(DYE), &self.title);
        page.line([RIM, RIM + 8.5], [right, RIM + 8.5], 0.5, DYE);
        bars(&mut page, self.paper);
        self.pages.push(page);
        self.down = RIM + HEAD;
        let last = self.pages.len() - 1;
        &mut self.pages[last]
    }

    /// Room of so many mm on the present page or the next: the page, and where it begins.
    pub(crate) fn room(&mut self, height: f64) -> (&mut Page, f64) {
        if self.down + height > self.bottom() + 1e-9 {
            self.next_page();
        }
        let top = self.down;
        self.down += height;
        let last = self.pages.len() - 1;
        (&mut self.pages[last], top)
    }

    /// Room of so many mm for a drawing, beside the last one where that leaves it: the page, and its upper left corner. Nothing else may
    /// be put on this page afterwards.
    pub(crate) fn cell(&mut self, [wide, tall]: [f64; 2], between: f64) -> (&mut Page, [f64; 2]) {
        let right = RIM + self.width();
        let fits = |row: &Row| row.left + wide <= right + 1e-9 && row.top + tall <= self.bottom() + 1e-9;
        let row = self.row.filter(fits).unwrap_or_else(|| {
            let below = self.row.map_or(self.down, |row| row.top + row.tall + between);
            self.down = below;
            let top = self.room(tall).1;
            Row { left: RIM, top, tall: 0.0 }
        });
        self.row = Some(Row { left: row.left + wide + between, top: row.top, tall: row.tall.max(tall) });
        let last = self.pages.len() - 1;
        (&mut self.pages[last], [row.left, row.top])
    }

    /// Room that is left on the present page, in mm.
    pub(crate) fn left(&self) -> f64 {
        (self.bottom() - self.down).max(0.0)
    }

    pub(crate) fn space(&mut self, height: f64) {
        self.down += height;
    }

    /// A heading, with room for something below it on the same page.
    pub(crate) fn heading(&mut self, text: &str) {
        if self.left() < 24.0 {
            self.next_page();
        }
        let (page, top) = self.room(8.0);
        page.text([RIM, top + 5.5], Set::new(Face::Head, 5.0), text);
        self.space(0.5);
    }

    pub(crate) fn paragraph(&mut self, text: &str) {
        self.lines(text, Set::new(Face::Text, TEXT), 0.0);
        self.space(1.2);
    }

    /// What must be seen first.
    pub(crate) fn stressed(&mut self, text: &str) {
        self.lines(text, Set::new(Face::Bold, TEXT), 0.0);
        self.space(1.2);
    }

    /// A caution: a bar beside it, so that it is no running text.
    pub(crate) fn caution(&mut self, text: &str) {
        let lines = Face::Text.wrapped(text, TEXT, self.width() - 6.0);
        let height = LINE * count(lines.len()) + 1.5;
        let (page, top) = self.room(height);
        page.rect([RIM, top], [1.2, height - 1.0], DYE, "none");
        for (index, line) in lines.iter().enumerate() {
            page.text([RIM + 4.0, top + LINE * (count(index) + 0.8)], Set::new(Face::Text, TEXT), line);
        }
    }

    fn lines(&mut self, text: &str, set: Set, inward: f64) {
        let width = self.width() - inward;
        for line in set.face.wrapped(text, set.size, width) {
            let (page, top) = self.room(LINE);
            page.text([RIM + inward, top + 0.8 * LINE], set, &line);
        }
    }

    /// A table; its head stands on every page it goes on to. A box to tick stands before each row where `ticks` says so.
    pub(crate) fn table(&mut self, columns: &[Column], rows: &[Vec<String>], ticks: bool) {
        if rows.is_empty() {
            return;
        }
        let before = if ticks { 6.0 } else { 0.0 };
        let whole = self.width() - before;
        let shares: f64 = columns.iter().map(|column| column.share).sum();
        let mut left = RIM + before;
        let places: Vec<(f64, f64)> = columns
            .iter()
            .map(|column| {
                let width = whole * column.share / shares;
                let place = (left, width - 2.0);
                left += width;
                place
            })
            .collect();
        let put = |page: &mut Page, top: f64, column: usize, set: Set, text: &str| {
            let (x, width) = places[column];
            let x = if set.align == Align::Right { x + width } else { x };
            page.text([x, top], set, text);
        };
        let heads: Vec<Vec<String>> = columns
            .iter()
            .zip(&places)
            .map(|(column, (_, width))| Face::Text.wrapped(column.head, 2.8, *width))
            .collect();
        let tall = 3.6 * count(heads.iter().map(Vec::len).max().unwrap_or(1)) + 1.4;
        let mut headed = None;
        for row in rows {
            let cells: Vec<Vec<String>> = row
                .iter()
                .zip(columns)
                .zip(&places)
                .map(|((text, column), (_, width))| face_of(column).wrapped(text, CELL, *width))
                .collect();
            let height = CELL_LINE * count(cells.iter().map(Vec::len).max().unwrap_or(1)) + 1.2;
            let fresh = self.left() < height || self.pages.is_empty();
            if fresh {
                self.next_page();
            }
            if fresh || headed != Some(self.pages.len()) {
                if self.left() < height + tall {
                    self.next_page();
                }
                let (page, top) = self.room(tall);
                for (index, (column, lines)) in columns.iter().zip(&heads).enumerate() {
                    for (line, text) in lines.iter().enumerate() {
                        let set = Set::new(Face::Text, 2.8).ink(SOFT).align(column.align);
                        put(page, top + 3.0 + 3.6 * count(line), index, set, text);
                    }
                }
                headed = Some(self.pages.len());
            }
            let right = RIM + self.width();
            let (page, top) = self.room(height);
            page.line([RIM, top], [right, top], 0.15, HAIRLINE);
            if ticks {
                page.rect([RIM + 0.5, top + 1.0], [3.4, 3.4], "none", INK);
            }
            for (index, (column, lines)) in columns.iter().zip(&cells).enumerate() {
                for (line, text) in lines.iter().enumerate() {
                    let set = Set::new(face_of(column), CELL).align(column.align);
                    put(page, top + 0.2 + CELL_LINE * (count(line) + 0.8), index, set, text);
                }
            }
        }
        self.space(2.5);
    }

    /// The pages, each with its number.
    pub(crate) fn finish(self) -> Vec<Page> {
        let Self { mut pages, paper, .. } = self;
        let (all, right) = (pages.len(), paper.size()[0] - RIM);
        for (index, page) in pages.iter_mut().enumerate() {
            let number = format!("{} of {all}", index + 1);
            page.text([right, RIM + 6.0], Set::new(Face::Text, 3.0).ink(SOFT).align(Align::Right), &number);
        }
        pages
    }
}

const fn face_of(column: &Column) -> Face {
    if column.bold { Face::Bold } else { Face::Text }
}

/// A count as a factor of lengths.
pub(crate) fn count(of: usize) -> f64 {
    f64::from(u32::try_from(of).unwrap_or(u32::MAX))
}

/// Bars at the foot by which the print is checked: 100 mm, and 4 inches.
fn bars(page: &mut Page, paper: Paper) {
    let top = paper.size()[1] - RIM - FOOT + 5.0;
    let small = Set::new(Face::Text, 2.5).ink(SOFT);
    page.rect([RIM, top], [100.0, 1.6], INK, "none");
    page.text([RIM, top + 4.6], small, "100 mm. If it is not, print again at 100 %, not fitted to the page.");
    page.rect([RIM, top - 2.4], [4.0 * 25.4, 1.0], SOFT, "none");
    page.text([RIM + 4.0 * 25.4 + 1.5, top - 1.4], small, "4 in");
}
