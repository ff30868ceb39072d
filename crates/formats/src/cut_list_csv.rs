//! The cut list as a table for the bench.

use nook_core::Workup;
use nook_core::workup::{CutRow, LineWorkup, MeetingRow, Turn, TurnWay};
use nook_geometry::units::MM_PER_INCH;

use crate::table::{cell, text_of, writer};

/// The cut list of a workup as CSV (RFC 4180), a header first; `None` where there is nothing to cut. Each row is one cut
/// and says, in words where a sign could be read two ways, all that the saw and the table need: where the lines are, which
/// way the tube is turned and seen from where, which side of its mark the blade takes, and how the piece meets the next.
///
/// # Errors
/// [`csv::Error`] cannot occur when writing to memory; the type is kept so that no caller has to believe it.
pub fn cut_list_csv(workup: &Workup) -> Result<Option<String>, csv::Error> {
    let Some(cutting) = &workup.cutting else { return Ok(None) };
    let mut out = writer();
    let after = [
        "piece_centre_mm",
        "piece_shortest_mm",
        "piece_longest_mm",
        "left_long_by_mm",
        "meets_piece",
        "this_line",
        "this_line_stands_deg_clockwise_from_up_seen_from_a",
        "meets_line",
        "joined_by",
        "gap_between_mm",
        "hose_cut_to_mm",
        "tube",
        "tube_used_mm",
    ];
    out.write_record(["cut", "piece"].into_iter().chain(CUT_HEADS).chain(after))?;
    let tube =
        format!("{} x {} mm {}", two(workup.od.mm()), two(workup.wall.mm()), workup.decisions.tube.material().name());
    for cut in &cutting.cuts {
        let piece = cut.piece.and_then(|id| workup.pieces.iter().find(|piece| piece.piece == id));
        let of =
            |length: fn(&nook_core::workup::PieceWorkup) -> f64| piece.map_or_else(String::new, |p| two(length(p)));
        let meeting = cut.frees.as_ref().and_then(|piece| cutting.meetings.iter().find(|one| one.piece == *piece));
        let meets = |what: fn(&MeetingRow) -> String| meeting.map_or_else(String::new, what);
        let what = [cut.number.to_string(), cell(cut.frees.as_deref().unwrap_or("waste"))];
        let after = [
            of(|piece| piece.centre.mm()),
            of(|piece| piece.shortest.mm()),
            of(|piece| piece.longest.mm()),
            cutting
                .closing
                .as_ref()
                .filter(|closing| Some(closing.piece) == cut.piece)
                .map_or_else(String::new, |closing| two(closing.long.mm())),
            meets(|one| cell(&one.next)),
            meets(|one| one.line.clone()),
            meets(|one| two(one.stands)),
            meets(|one| one.next_line.clone()),
            meets(|one| cell(one.joint_word.as_deref().unwrap_or("weld"))),
            meets(|one| one.gap.map_or_else(String::new, |gap| two(gap.mm()))),
            meets(|one| one.hose.map_or_else(String::new, |hose| two(hose.mm()))),
            tube.clone(),
            two(cutting.stock_used.mm()),
        ];
        let cut = cut_cells(cut, &cutting.lines, workup.od.mm(), cutting.kerf.mm());
        out.write_record(what.into_iter().chain(cut).chain(after))?;
    }
    text_of(out).map(Some)
}

/// What the saw is told of a cut.
pub(crate) const CUT_HEADS: [&str; 14] = [
    "saw_deg",
    "saw_set_deg",
    "line_up",
    "line_up_round_mm_clockwise_from_1a_seen_from_squared_end",
    "turn",
    "turn_deg",
    "turn_girth_mm",
    "mark_centre_mm",
    "mark_up_mm",
    "mark_down_mm",
    "mark_up_in",
    "mark_down_in",
    "kerf_mm",
    "blade_takes",
];

/// That, of a cut of tube of `od` mm on which those lines are scribed, with a saw of so many mm of kerf.
pub(crate) fn cut_cells(cut: &CutRow, lines: &[LineWorkup], od: f64, kerf: f64) -> [String; 14] {
    let (turn, degrees, girth) = turn_words(&cut.turn, od);
    let line = cut.line_up.as_ref().and_then(|name| lines.iter().find(|line| line.name == *name));
    [
        two(cut.saw),
        two(cut.set),
        cut.line_up.clone().unwrap_or_default(),
        line.map_or_else(String::new, |line| two(line.round.mm())),
        turn.to_owned(),
        degrees,
        girth,
        two(cut.centre.mm()),
        two(cut.up.mm()),
        two(cut.down.mm()),
        format!("{:.3}", cut.up.mm() / MM_PER_INCH),
        format!("{:.3}", cut.down.mm() / MM_PER_INCH),
        two(kerf),
        "beyond the mark, away from the squared end".to_owned(),
    ]
}

/// How the tube is turned before a cut, in words, degrees and mm round the girth.
fn turn_words(turn: &Turn, od: f64) -> (&'static str, String, String) {
    match turn {
        Turn::AsItLies => ("as it lies", String::new(), String::new()),
        Turn::First => ("line up", String::new(), String::new()),
        Turn::Stay => ("stay", two(0.0), two(0.0)),
        Turn::HalfTurn => ("half turn", two(180.0), two(od * std::f64::consts::FRAC_PI_2)),
        Turn::Clock { way, degrees, girth } => {
            let way = match way {
                TurnWay::Clockwise => "clockwise seen from the squared end",
                TurnWay::Anticlockwise => "anticlockwise seen from the squared end",
            };
            (way, two(*degrees), two(girth.mm()))
        }
    }
}

/// Hundredths: finer than any saw, so that summing rows does not wander.
pub(crate) fn two(value: f64) -> String {
    format!("{value:.2}")
}
