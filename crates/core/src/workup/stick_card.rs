//! Bench cards of a stick: what is sawn from it, one act at a time, and what is left of it after each.

use serde::Serialize;
use utoipa::ToSchema;

use super::card::{CardFigure, CardPicture, CardPiece, CardWorkup, cut_figures};
use super::cutting::CutRow;
use super::{ChainWorkup, StickPlan};
use crate::record::Done;
use crate::stock::Tube;
use crate::workshop::{PinnedSaw, StickId};
use nook_geometry::units::{DualUnitText, Measure};

/// The cards of a stick of the shelf.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct StickDeck {
    /// Which.
    pub stick: StickId,
    /// What it is of.
    pub what: DualUnitText,
    /// How long it is before anything is sawn.
    pub length: Measure,
    /// In the order they are done.
    pub cards: Vec<CardWorkup>,
}

/// The cards of a stick from its plan; `None` where it is no stick of the shelf. `what` says what the tube is.
#[must_use]
pub fn stick_deck(plan: &StickPlan, tube: &Tube, saw: &PinnedSaw, what: DualUnitText) -> Option<StickDeck> {
    let stick = plan.stick?;
    let of = Deck { plan, tube, saw, stick };
    let mut cards = vec![of.take(&what)];
    let pieces = plan.chains.iter().flat_map(|chain| &chain.cuts).filter(|cut| cut.piece.is_some()).count();
    let mut number = 0;
    for (place, chain) in plan.chains.iter().enumerate() {
        if !chain.lines.is_empty() {
            cards.push(of.scribe(place, chain));
        }
        for (index, cut) in chain.cuts.iter().enumerate() {
            number += usize::from(cut.piece.is_some());
            let last = number == pieces && chain.cuts[index + 1..].is_empty();
            cards.push(of.cut(place, chain, cut, &format!("piece {number} of {pieces}"), last)?);
        }
    }
    cards.push(of.put_back());
    Some(StickDeck { stick, what, length: plan.length, cards })
}

struct Deck<'a> {
    plan: &'a StickPlan,
    tube: &'a Tube,
    saw: &'a PinnedSaw,
    stick: StickId,
}

impl Deck<'_> {
    /// A card of what is noted nowhere: it only comes before what is.
    fn step(&self, key: String, what: &str, button: &'static str, words: DualUnitText) -> CardWorkup {
        CardWorkup {
            key,
            title: format!("S{}", self.stick.0),
            what: what.to_owned(),
            figures: Vec::new(),
            words: vec![words],
            picture: CardPicture::Nothing,
            done: false,
            button,
            does: None,
            undoes: None,
            piece: None,
            left: None,
        }
    }

    fn take(&self, what: &DualUnitText) -> CardWorkup {
        let length = self.plan.length;
        let words = DualUnitText::new(|unit| {
            format!(
                "Take S{} off the shelf: {}. Square one end; every mark is measured from it.",
                self.stick.0,
                what.get(unit)
            )
        });
        let figures = vec![CardFigure { name: "It is", value: DualUnitText::new(|unit| unit.figure(length.mm())) }];
        CardWorkup { figures, ..self.step("take".to_owned(), "take the stick", "I have it", words) }
    }

    fn scribe(&self, place: usize, chain: &ChainWorkup) -> CardWorkup {
        let girth = std::f64::consts::PI * self.tube.od();
        let lines = chain.lines.iter().map(|line| (line.name.clone(), 360.0 * line.round.mm() / girth)).collect();
        let figures = chain.lines.iter().map(|line| CardFigure {
            name: "Line",
            value: DualUnitText::new(|unit| format!("{} at {}", line.name, unit.figure(line.round.mm()))),
        });
        let (from, to) = (chain.from.mm(), chain.from.mm() + chain.takes.mm());
        let words = DualUnitText::new(|unit| {
            format!(
                "For {}: scribe the lines from {} to {}, so far clockwise round the girth from line 1a as you look at the squared end.",
                chain.name,
                unit.text(from),
                unit.text(to)
            )
        });
        CardWorkup {
            figures: figures.collect(),
            picture: CardPicture::Lines { lines },
            ..self.step(format!("scribe {place}"), "scribe the stick", "They are scribed", words)
        }
    }

    fn cut(&self, place: usize, chain: &ChainWorkup, cut: &CutRow, what: &str, last: bool) -> Option<CardWorkup> {
        let picture = CardPicture::Cut { line: cut.line_up.clone(), up: cut.up, down: cut.down, od: self.tube.od() };
        let figures = cut_figures(Measure(self.saw.kerf.get()), cut);
        let key = format!("cut {place} {}", cut.number);
        let (Some(id), Some(name)) = (cut.piece, cut.frees.as_ref()) else {
            let words = DualUnitText::same("A wedge comes off: it is waste.".to_owned());
            let card = self.step(key, "waste", "It is off", words);
            return Some(CardWorkup { figures, picture, ..card });
        };
        let is_it = |done: &&Done| matches!(done, Done::Cut { run, piece, .. } if *run == chain.run && *piece == id);
        let does = self.plan.once_sawn.done.iter().find(is_it)?.clone();
        let Done::Cut { as_cut, .. } = &does else { return None };
        let longest = Measure(as_cut.size.longest);
        let piece = CardPiece { run: chain.run, piece: id, as_cut: as_cut.clone(), longest };
        let mut words = vec![DualUnitText::same(format!(
            "For {}. Write {name} and an arrow to B on the piece before it comes off.",
            chain.name
        ))];
        if last {
            words.extend(self.plan.hold.clone());
        }
        // A stick that is used up may be left with less than nothing by a rounding, which no shelf takes.
        let left = if last { Measure(self.plan.left.mm().max(0.0)) } else { self.left_after(cut) };
        words.push(DualUnitText::new(|unit| format!("Of the stick {} is left then.", unit.text(left.mm()))));
        let undoes = Done::NotCut { run: chain.run, piece: id };
        let step = self.step(key, what, "Cut it is", DualUnitText::same(String::new()));
        Some(CardWorkup {
            title: name.clone(),
            figures,
            picture,
            words,
            does: Some(does),
            undoes: Some(undoes),
            piece: Some(piece),
            left: Some(left),
            ..step
        })
    }

    /// What is left of the stick along its shortest line once a cut is through, and its end squared again.
    fn left_after(&self, cut: &CutRow) -> Measure {
        let kerf = self.saw.kerf.get();
        let through = cut.up.mm().max(cut.down.mm()) + kerf / cut.saw.to_radians().cos();
        let squared = if cut.saw > 0.0 { kerf } else { 0.0 };
        Measure((self.plan.length.mm() - through - squared).max(0.0))
    }

    fn put_back(&self) -> CardWorkup {
        let left = self.plan.left.mm();
        let words = DualUnitText::new(|unit| {
            if left > super::LEAST_OFFCUT {
                format!("Write S{} and {} on the rest, and put it back on the shelf.", self.stick.0, unit.text(left))
            } else {
                "What is left is too short to be held again: it is scrap.".to_owned()
            }
        });
        self.step("put back".to_owned(), "the rest", "It is done", words)
    }
}
