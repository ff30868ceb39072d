//! Bench cards: what is done on a run's pipe, one act at a time, in the order of its list.

use serde::Serialize;
use utoipa::ToSchema;

use super::cutting::{CutRow, CuttingWorkup, MeetingRow, PieceWorkup, Turn, TurnWay};
use super::{BeadWorkup, ClockCheck, Workup};
use crate::cut::PieceId;
use crate::measure::RunId;
use crate::record::{BenchAct, Done, PieceCut, PieceSize, Progress};
use nook_geometry::units::{DualUnitText, HeldEnd, LengthUnit, Measure, Name};

/// The cards of a run.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct DeckWorkup {
    /// Which run.
    pub run: RunId,
    /// What it is called.
    pub name: String,
    /// What its pieces' names begin with.
    pub mark: String,
    /// In the order they are done.
    pub cards: Vec<CardWorkup>,
    /// Why there are none; nothing where there are some.
    pub none: Option<DualUnitText>,
}

/// One act at the bench.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct CardWorkup {
    /// Which: the same whatever else changes.
    pub key: String,
    /// What it is about, such as the piece's name.
    pub title: String,
    /// What is done, in a few words, such as `cut 7 of 14`.
    pub what: String,
    /// Figures to read from the saw; two or four.
    pub figures: Vec<CardFigure>,
    /// What else is to be minded.
    pub words: Vec<DualUnitText>,
    /// What is drawn.
    #[schema(inline = false)]
    pub picture: CardPicture,
    /// Whether it is done.
    pub done: bool,
    /// What the button says that does it.
    pub button: &'static str,
    /// What is noted when it is done; nothing where that only comes before what is.
    pub does: Option<Done>,
    /// What is noted when it is not after all.
    pub undoes: Option<Done>,
    /// The piece as its list has it, which may come out otherwise or be spoilt; nothing of other acts.
    pub piece: Option<CardPiece>,
    /// What is left of the stick along its shortest line once the piece is off; nothing where no stick is named.
    pub left: Option<Measure>,
}

/// A piece that comes off.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct CardPiece {
    /// Of which run.
    pub run: RunId,
    /// Which.
    pub piece: PieceId,
    /// As its list has it.
    #[schema(inline = false)]
    pub as_cut: PieceCut,
    /// Length along its longest line.
    pub longest: Measure,
}

/// A figure on a card.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct CardFigure {
    /// What it is.
    pub name: &'static str,
    /// How much.
    pub value: DualUnitText,
}

/// What a card shows.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
#[serde(tag = "shows", rename_all = "snake_case")]
pub enum CardPicture {
    /// A cut across the stick, its squared end to the left.
    Cut {
        /// The line that faces up; nothing on a square cut.
        line: Option<String>,
        /// Mark on it.
        up: Measure,
        /// Mark underneath.
        down: Measure,
        /// Outside of the tube in mm.
        od: f64,
    },
    /// Lines along the stick: their names, and where round the girth each is, in degrees clockwise seen from the squared end.
    Lines {
        /// Each.
        lines: Vec<(String, f64)>,
    },
    /// Two pieces that meet, seen along the pipe from A: the line on which they do.
    Meeting {
        /// Clock in degrees from up, clockwise, at which it stands.
        stands: f64,
        /// Its name on either piece.
        lines: [String; 2],
    },
    /// Nothing.
    Nothing,
}

/// Pieces shorter than this along their shortest line, in mm, are told not to be held by hand, where nobody said what the vice holds.
/// Ours: a hand's width from the blade.
const SHORT: f64 = 80.0;

/// The cards of a run from its workup, and what is done.
#[must_use]
pub fn deck(workup: &Workup, progress: &Progress) -> DeckWorkup {
    let of = Deck { workup, progress, run: workup.run };
    let cards = workup.cutting.as_ref().map(|cutting| of.cards(cutting)).unwrap_or_default();
    let none = cards.is_empty().then(|| {
        let worst = workup.findings.first().map(|finding| finding.words.clone());
        let hose =
            || DualUnitText::same("A hose is not sawn: how it is cut and made up is on its Cut page.".to_owned());
        match worst {
            _ if workup.hose.is_some() => hose(),
            Some(words) => {
                DualUnitText::new(|unit| format!("Nothing to cut until this is mended: {}", words.get(unit)))
            }
            None => DualUnitText::same("Nothing to cut yet.".to_owned()),
        }
    });
    DeckWorkup { run: workup.run, name: workup.name.clone(), mark: workup.mark.clone(), cards, none }
}

struct Deck<'a> {
    workup: &'a Workup,
    progress: &'a Progress,
    run: RunId,
}

impl Deck<'_> {
    fn cards(&self, cutting: &CuttingWorkup) -> Vec<CardWorkup> {
        let mut all = Vec::new();
        if !cutting.lines.is_empty() {
            all.push(self.scribe(cutting));
        }
        for (index, cut) in cutting.cuts.iter().enumerate() {
            all.extend(self.cut(cutting, index, cut));
            // A bead that no roller reaches later is rolled as soon as its piece is off.
            let of_piece = |bead: &&BeadWorkup| bead.first && Some(&bead.piece) == cut.frees.as_ref();
            all.extend(cutting.beads.iter().filter(of_piece).filter_map(|bead| self.bead(bead)));
        }
        all.extend(self.workup.pieces.iter().filter_map(|piece| self.elbow(piece)));
        for meeting in &cutting.meetings {
            all.extend(self.meeting(meeting));
        }
        all.extend(cutting.checks.iter().map(|check| self.check(check)));
        all.extend(cutting.beads.iter().filter(|bead| !bead.first).filter_map(|bead| self.bead(bead)));
        all
    }

    fn named(&self, name: &str) -> Option<&PieceWorkup> {
        self.workup.pieces.iter().find(|piece| piece.name == name)
    }

    /// A card of an act that leaves no piece.
    fn act(&self, key: String, act: BenchAct, title: String, what: &str, words: Vec<DualUnitText>) -> CardWorkup {
        CardWorkup {
            key,
            title,
            what: what.to_owned(),
            figures: Vec::new(),
            words,
            picture: CardPicture::Nothing,
            done: self.progress.did(self.run, act),
            button: "It is done",
            does: Some(Done::Did { run: self.run, what: act }),
            undoes: Some(Done::DidNot { run: self.run, what: act }),
            piece: None,
            left: None,
        }
    }

    fn scribe(&self, cutting: &CuttingWorkup) -> CardWorkup {
        let girth = std::f64::consts::PI * self.workup.od.mm();
        let lines = cutting.lines.iter().map(|line| (line.name.clone(), 360.0 * line.round.mm() / girth));
        let figures = cutting.lines.iter().map(|line| CardFigure {
            name: "Line",
            value: DualUnitText::new(|unit| format!("{} at {}", line.name, unit.figure(line.round.mm()))),
        });
        let words = DualUnitText::new(|unit| {
            format!(
                "Square one end. Scribe the lines along the whole stick, {} of it, so far clockwise round the girth from line 1a as you look at \
                 the squared end.",
                unit.text(cutting.stock_used.mm())
            )
        });
        CardWorkup {
            figures: figures.collect(),
            picture: CardPicture::Lines { lines: lines.collect() },
            button: "They are scribed",
            ..self.act("scribe".to_owned(), BenchAct::Scribe, self.workup.mark.clone(), "scribe the stick", vec![words])
        }
    }

    fn cut(&self, cutting: &CuttingWorkup, index: usize, cut: &CutRow) -> Option<CardWorkup> {
        let what = format!("cut {} of {}", index + 1, cutting.cuts.len());
        let figures = cut_figures(cutting.kerf, cut);
        let picture =
            CardPicture::Cut { line: cut.line_up.clone(), up: cut.up, down: cut.down, od: self.workup.od.mm() };
        let Some(piece) = cut.piece.and_then(|id| self.workup.pieces.iter().find(|piece| piece.piece == id)) else {
            // The wedge before the next piece; the last cut of all squares the stick.
            let next = cutting.cuts[index + 1..].iter().find_map(|cut| cut.piece);
            let before = next.or_else(|| cutting.cuts[..index].iter().rev().find_map(|cut| cut.piece))?;
            let words = vec![DualUnitText::same("A wedge comes off: it is waste.".to_owned())];
            let key = format!("wedge {index} {before:?}");
            return Some(CardWorkup {
                figures,
                picture,
                button: "It is off",
                ..self.act(key, BenchAct::Wedge { piece: before }, "Waste".to_owned(), &what, words)
            });
        };
        let holds = cutting.reach.holds.map_or(SHORT, HeldEnd::get);
        let mut words = vec![DualUnitText::new(|unit| {
            let short = if piece.shortest.mm() < holds {
                let length = unit.text(piece.shortest.mm());
                format!(" It is {length} along its shortest line: clamp it in a jig, fingers away.")
            } else {
                String::new()
            };
            format!("Write {} and an arrow to B on the piece before it comes off.{short}", piece.name)
        })];
        words
            .extend(cutting.closing.iter().filter(|closing| closing.piece == piece.piece).map(|one| one.words.clone()));
        Some(CardWorkup { figures, picture, button: "Cut it is", ..self.piece(piece, &what, words)? })
    }

    /// A card of a piece that is cut, or sawn of an elbow, without figures.
    fn piece(&self, piece: &PieceWorkup, what: &str, words: Vec<DualUnitText>) -> Option<CardWorkup> {
        let size =
            PieceSize { centre: piece.centre.mm(), longest: piece.longest.mm(), saws: [piece.saw_from, piece.saw_to] };
        let as_cut = PieceCut { name: Name::new(&piece.name).ok()?, size };
        Some(CardWorkup {
            key: format!("cut {:?}", piece.piece),
            title: piece.name.clone(),
            what: what.to_owned(),
            figures: Vec::new(),
            words,
            picture: CardPicture::Nothing,
            done: piece.cut,
            button: "It is sawn",
            does: Some(Done::Cut { run: self.run, piece: piece.piece, as_cut: as_cut.clone() }),
            undoes: Some(Done::NotCut { run: self.run, piece: piece.piece }),
            piece: Some(CardPiece { run: self.run, piece: piece.piece, as_cut, longest: piece.longest }),
            left: None,
        })
    }

    fn elbow(&self, piece: &PieceWorkup) -> Option<CardWorkup> {
        let bend = self.workup.bends.iter().find(|bend| Some(bend.bend) == piece.elbow)?;
        self.piece(piece, "saw the elbow", bend.bought.as_ref()?.acts.clone())
    }

    fn bead(&self, bead: &BeadWorkup) -> Option<CardWorkup> {
        let piece = self.named(&bead.piece)?.piece;
        let figures = vec![
            CardFigure { name: "Middle from the end", value: said(bead.from_end) },
            CardFigure { name: "Height", value: said(bead.height) },
        ];
        let act = BenchAct::Bead { piece, end: bead.end };
        let key = format!("bead {piece:?} {:?}", bead.end);
        let what = format!("bead at its end to {}", bead.end.letter());
        Some(CardWorkup { figures, ..self.act(key, act, bead.piece.clone(), &what, vec![bead.words.clone()]) })
    }

    fn meeting(&self, meeting: &MeetingRow) -> Option<CardWorkup> {
        let piece = self.named(&meeting.piece)?.piece;
        let mut figures = vec![
            CardFigure {
                name: "Line on line",
                value: DualUnitText::same(format!("{} on {}", meeting.line, meeting.next_line)),
            },
            CardFigure { name: "It stands at", value: DualUnitText::same(format!("{:.0}\u{b0}", meeting.stands)) },
        ];
        figures.extend(meeting.gap.map(|gap| CardFigure { name: "Between the ends", value: said(gap) }));
        figures.extend(meeting.hose.map(|hose| CardFigure { name: "Hose cut to", value: said(hose) }));
        let words = DualUnitText::same(match &meeting.joint_word {
            Some(word) => format!("A {word} joins them. Arrows to B."),
            None => format!(
                "Arrows to B. {} tacks of 3 to 5 mm, in opposite pairs.",
                if self.workup.od.mm() <= 60.0 {
                    "Four"
                } else if self.workup.od.mm() <= 90.0 {
                    "Six"
                } else {
                    "Eight"
                }
            ),
        });
        let stands = DualUnitText::same(
            "The clock is the line\u{2019}s in the car: clockwise from up as you look along the pipe from A."
                .to_owned(),
        );
        let title = format!("{} to {}", meeting.piece, meeting.next);
        let what = if meeting.joint.is_some() { "join" } else { "tack" };
        let picture =
            CardPicture::Meeting { stands: meeting.stands, lines: [meeting.line.clone(), meeting.next_line.clone()] };
        let act = BenchAct::Meet { piece };
        let card = self.act(format!("meet {piece:?}"), act, title, what, vec![words, stands]);
        let button = if meeting.joint.is_some() { "They are joined" } else { "It is tacked" };
        Some(CardWorkup { figures, picture, button, ..card })
    }

    fn check(&self, check: &ClockCheck) -> CardWorkup {
        let act = BenchAct::Check { bend: check.bend };
        let title = format!("Bend {}", check.number);
        let figures = vec![CardFigure { name: "Stands over the bench", value: said(check.height) }];
        let card =
            self.act(format!("check {}", check.bend.0), act, title, "check its clock", vec![check.words.clone()]);
        CardWorkup { figures, button: "It is right", ..card }
    }
}

fn said(length: Measure) -> DualUnitText {
    DualUnitText::new(|unit| unit.figure(length.mm()))
}

/// Figures of a cut, read from the saw.
pub(super) fn cut_figures(kerf: Measure, cut: &CutRow) -> Vec<CardFigure> {
    let turn = DualUnitText::new(|unit| turn_words(&cut.turn, unit));
    let set = if cut.saw > 0.0 { format!("{:.1}\u{b0}", cut.set) } else { "square".to_owned() };
    vec![
        CardFigure { name: if cut.line_up.is_some() { "Mark, on the line up" } else { "Mark" }, value: said(cut.up) },
        CardFigure { name: "Saw at", value: DualUnitText::same(set) },
        CardFigure { name: "Turn the tube", value: turn },
        CardFigure {
            name: "Blade on the far side of the mark",
            value: DualUnitText::new(|unit| format!("kerf {}", unit.figure(kerf.mm()))),
        },
    ]
}

/// How the tube is turned, as one looks at its squared end.
fn turn_words(turn: &Turn, unit: LengthUnit) -> String {
    match turn {
        Turn::AsItLies => "as it lies".to_owned(),
        Turn::First => "line up".to_owned(),
        Turn::Stay => "stay".to_owned(),
        Turn::HalfTurn => "half a turn".to_owned(),
        Turn::Clock { way, degrees, girth } => {
            let way = match way {
                TurnWay::Clockwise => "clockwise",
                TurnWay::Anticlockwise => "anticlockwise",
            };
            format!("{degrees:.1}\u{b0} {way}, {} round", unit.figure(girth.mm()))
        }
    }
}
