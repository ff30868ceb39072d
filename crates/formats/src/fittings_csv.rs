//! What joins and holds a pipe and what is let into it as a table for the bench: joints, supports and branches in their order
//! along the tube.

use nook_core::Workup;
use nook_core::join::SupportKind;
use nook_core::measure::Side;
use nook_core::workup::{BranchMark, BranchWorkup, JointFigures, SupportWorkup};
use nook_geometry::units::Measure;

use crate::cut_list_csv::two;
use crate::table::{cell, text_of, writer};

/// Joints, supports and branches of a workup as CSV (RFC 4180), a header first; `None` where the way does not join the ports. Stations
/// are along the tube's centre line from its end at A, clocks from up and clockwise for who looks from A to B; holes in mm,
/// vehicle axes, the first two feet of a support.
///
/// # Errors
/// [`csv::Error`] cannot occur when writing to memory; the type is kept so that no caller has to believe it.
pub fn fittings_csv(workup: &Workup) -> Result<Option<String>, csv::Error> {
    let Some(totals) = &workup.totals else { return Ok(None) };
    let mut out = writer();
    out.write_record([
        "what",
        "at_mm_from_a",
        "clock_deg_from_up_seen_from_a",
        "gap_mm",
        "hose_cut_to_mm",
        "takes_share_of_give",
        "fixed_to",
        "stand_off_mm",
        "stands_on",
        "hole_1_x_y_z_mm",
        "hole_2_x_y_z_mm",
        "let_in_od_mm",
        "let_in_stands_out_mm",
        "let_in_angle_to_travel_deg",
        "let_in_left_of_middle_mm",
        "let_in_round_mm_clockwise_from_up_seen_from_a",
        "let_in_from_a_end_of_its_straight_mm",
        "let_in_piece",
        "let_in_from_a_end_of_piece_along_its_line_mm",
        "let_in_from_b_end_of_piece_along_its_line_mm",
    ])?;
    let joint = |what: String, at: f64, gap: f64, hose: Option<f64>, figures: Option<&JointFigures>| {
        let clock = figures.and_then(|figures| figures.screw.as_ref()).map(|screw| two(screw.clock));
        let share = figures.and_then(|figures| figures.takes.as_ref()?.share).map(two);
        let row = [
            cell(&what),
            two(at),
            clock.unwrap_or_default(),
            two(gap),
            hose.map(two).unwrap_or_default(),
            share.unwrap_or_default(),
        ];
        (at, row.into_iter().chain(std::iter::repeat_n(String::new(), 5 + LET_IN)).collect())
    };
    let end = |index: usize, at: f64| {
        let end = &workup.ends[index];
        let what = format!("{} at {}", end.joint.word(), end.end.letter());
        joint(what, at, end.gap.mm(), end.hose.map(|hose| hose.mm()), end.figures.as_ref())
    };
    let mut rows: Vec<(f64, Vec<String>)> = vec![end(0, 0.0), end(1, totals.end_to_end.mm())];
    rows.extend(workup.joints.iter().map(|one| {
        let hose = one.hose.map(|hose| hose.mm());
        joint(one.name.clone(), one.at.mm(), one.gap.mm(), hose, Some(&one.figures))
    }));
    rows.extend(workup.branches.iter().map(|one| (one.at.mm(), let_in(one))));
    rows.extend(workup.supports.iter().map(|one| (one.at.mm(), support(one))));
    rows.sort_by(|p, q| p.0.total_cmp(&q.0));
    for (_, row) in rows {
        out.write_record(row)?;
    }
    text_of(out).map(Some)
}

fn support(one: &SupportWorkup) -> Vec<String> {
    let hole = |nth: usize| one.feet.get(nth).map(|foot| foot.hole.map(two).join(" ")).unwrap_or_default();
    let lowest = one.feet.iter().map(|foot| foot.height.mm()).reduce(f64::min);
    let on = one.feet.iter().find_map(|foot| foot.on.as_deref());
    let fixed_to = match one.fixed_to {
        Side::Engine => "engine",
        Side::Body => "body",
    };
    let through = if one.kind == SupportKind::Grommet { "a panel" } else { "" };
    [
        cell(&one.name),
        two(one.at.mm()),
        one.clock.map(two).unwrap_or_default(),
        String::new(),
        String::new(),
        String::new(),
        fixed_to.to_owned(),
        lowest.map(two).unwrap_or_default(),
        cell(on.unwrap_or(through)),
        hole(0),
        hole(1),
    ]
    .into_iter()
    .chain(std::iter::repeat_n(String::new(), LET_IN))
    .collect()
}

/// Columns that only a branch fills.
const LET_IN: usize = 9;
/// Columns between a branch's clock and those.
const NOT_LET_IN: usize = 8;

fn let_in(one: &BranchWorkup) -> Vec<String> {
    let first = [cell(&one.name), two(one.at.mm()), two(one.clock)];
    let from = |end: fn(&BranchMark) -> Option<&Measure>| {
        one.mark.as_ref().and_then(end).map(|from| two(from.mm())).unwrap_or_default()
    };
    let last = [
        two(one.od.mm()),
        two(one.reach.mm()),
        two(one.angle),
        two(one.offset.mm()),
        two(one.round.mm()),
        two(one.from_start.mm()),
        one.mark.as_ref().map(|mark| cell(&mark.piece)).unwrap_or_default(),
        from(|mark| mark.from_a.as_ref()),
        from(|mark| mark.from_b.as_ref()),
    ];
    first.into_iter().chain(std::iter::repeat_n(String::new(), NOT_LET_IN)).chain(last).collect()
}
