//! What is sawn from which stick as a table for the bench, and for whoever saws it elsewhere.

use nook_core::stock::Tube;
use nook_core::workup::{ChainJoin, ChainWorkup, StickPlan};

use crate::cut_list_csv::{CUT_HEADS, cut_cells, two};
use crate::table::{cell, text_of, writer};

/// Sticks of one sort of tube, with what is sawn from them.
pub type Sticks<'a> = (Tube, &'a [StickPlan]);

/// The cuts of all sticks as CSV (RFC 4180), a header first; marks are from each stick's own squared end, lines from line 1a of each
/// chain, and `kerf` is the saw's, in mm. What a piece's lines meet is said on both sides of every joint.
///
/// # Errors
/// [`csv::Error`] cannot occur when writing to memory; the type is kept so that no caller has to believe it.
pub fn stock_csv(tubes: &[Sticks<'_>], kerf: f64) -> Result<String, csv::Error> {
    let mut out = writer();
    let before = ["tube", "stick", "stick_mm", "run", "chain_from_mm", "cut", "piece"];
    let after = [
        "meets_towards_a",
        "line_towards_a",
        "line_towards_a_round_mm",
        "line_towards_a_stands_deg_clockwise_from_up_seen_from_a",
        "meets_towards_b",
        "line_towards_b",
        "line_towards_b_round_mm",
        "line_towards_b_stands_deg_clockwise_from_up_seen_from_a",
    ];
    out.write_record(before.into_iter().chain(CUT_HEADS).chain(after))?;
    let mut bought = 0;
    for (tube, sticks) in tubes {
        let what = format!("{} x {} mm {}", two(tube.od()), two(tube.wall()), tube.material().name());
        for stick in *sticks {
            let label = stick.stick.map_or_else(
                || {
                    bought += 1;
                    format!("to buy {bought}")
                },
                |id| format!("S{}", id.0),
            );
            for chain in &stick.chains {
                for cut in &chain.cuts {
                    let first = [
                        what.clone(),
                        label.clone(),
                        two(stick.length.mm()),
                        cell(&chain.name),
                        two(chain.from.mm()),
                        cut.number.to_string(),
                        cell(cut.frees.as_deref().unwrap_or("waste")),
                    ];
                    let saw = cut_cells(cut, &chain.lines, tube.od(), kerf);
                    let joins = [true, false].map(|side| join_cells(chain, cut.frees.as_deref(), side));
                    out.write_record(first.into_iter().chain(saw).chain(joins.into_iter().flatten()))?;
                }
            }
        }
    }
    text_of(out)
}

/// What a piece meets on one side: which, by which of its lines, where that is scribed, and at which clock it stands.
fn join_cells(chain: &ChainWorkup, piece: Option<&str>, towards_a: bool) -> [String; 4] {
    let is_it = |join: &&ChainJoin| Some(join.piece.as_str()) == piece && join.towards_a == towards_a;
    chain.joins.iter().find(is_it).map_or_else(Default::default, |join| {
        [cell(&join.meets), join.line.clone(), two(join.round.mm()), two(join.stands)]
    })
}
