//! Edits of what holds a pipe between its joints.

#![allow(clippy::unwrap_used, reason = "each value is within its bounds")]

use nook_core::edit::{BranchChange, SupportChange};
use nook_core::join::{BranchKind, EngineFiring, SupportKind};
use nook_core::measure::Side;
use nook_core::route::{BranchId, SupportDraft, SupportId};
use nook_core::{Edit, JoinEdit, MeasureEdit, RunId};
use nook_geometry::units::{BranchAngle, BranchOffset, BranchReach, EngineSpeed, OutsideDiameter, Rotation, StandsOut};
use proptest::prelude::*;

use super::any_anchor;

fn any_kind() -> impl Strategy<Value = SupportKind> {
    prop::sample::select(SupportKind::ALL.to_vec())
}

fn any_side() -> impl Strategy<Value = Side> {
    prop_oneof![Just(Side::Engine), Just(Side::Body)]
}

fn any_change() -> impl Strategy<Value = SupportChange> {
    let clock = prop::option::of((0.0..360.0_f64).prop_map(|clock| Rotation::new(clock).unwrap()));
    let stand_off = prop::option::of((0.0..100.0_f64).prop_map(|mm| StandsOut::new(mm).unwrap()));
    prop_oneof![
        any_kind().prop_map(|kind| SupportChange::Kind { kind }),
        any_side().prop_map(|to| SupportChange::To { to }),
        any_anchor().prop_map(|at| SupportChange::Place { at }),
        clock.prop_map(|clock| SupportChange::Clock { clock }),
        stand_off.prop_map(|stand_off| SupportChange::StandOff { stand_off }),
    ]
}

fn any_branch_kind() -> impl Strategy<Value = BranchKind> {
    prop::sample::select(BranchKind::ALL.to_vec())
}

fn any_branch_change() -> impl Strategy<Value = BranchChange> {
    let clock = prop::option::of((0.0..360.0_f64).prop_map(|clock| Rotation::new(clock).unwrap()));
    let od = prop::option::of((6.0..80.0_f64).prop_map(|mm| OutsideDiameter::new(mm).unwrap()));
    let reach = prop::option::of((3.0..120.0_f64).prop_map(|mm| BranchReach::new(mm).unwrap()));
    let angle = prop::option::of((20.0..160.0_f64).prop_map(|angle| BranchAngle::new(angle).unwrap()));
    let offset = prop::option::of((-40.0..40.0_f64).prop_map(|mm| BranchOffset::new(mm).unwrap()));
    prop_oneof![
        any_branch_kind().prop_map(|kind| BranchChange::Kind { kind }),
        any_anchor().prop_map(|at| BranchChange::Place { at }),
        clock.prop_map(|clock| BranchChange::Clock { clock }),
        od.prop_map(|od| BranchChange::Od { od }),
        reach.prop_map(|reach| BranchChange::Reach { reach }),
        angle.prop_map(|angle| BranchChange::Angle { angle }),
        offset.prop_map(|offset| BranchChange::Offset { offset }),
    ]
}

/// An edit of something let into a pipe that may or may not be there.
pub fn any_branch_edit() -> impl Strategy<Value = Edit> {
    let run = || (1..4_u32).prop_map(RunId);
    let which = || (1..14_u32).prop_map(BranchId);
    prop_oneof![
        4 => (run(), any_anchor(), any_branch_kind())
            .prop_map(|(run, at, kind)| Edit::Join(JoinEdit::AddBranch { run, at, kind })),
        3 => (run(), which(), any_branch_change())
            .prop_map(|(run, branch, to)| Edit::Join(JoinEdit::ChangeBranch { run, branch, to })),
        1 => (run(), which()).prop_map(|(run, branch)| Edit::Join(JoinEdit::RemoveBranch { run, branch })),
    ]
}

fn any_firing() -> impl Strategy<Value = EngineFiring> {
    let speed = |range: std::ops::Range<f64>| range.prop_map(|rpm| EngineSpeed::new(rpm).unwrap());
    (1..=12_u8, speed(4000.0..9000.0), prop::option::of(speed(500.0..5000.0)))
        .prop_map(|(cylinders, top, least)| EngineFiring { cylinders, top, least })
}

/// An edit of a support that may or may not be there, or of how fast the engine turns.
pub fn any_support_edit() -> impl Strategy<Value = Edit> {
    let run = || (1..4_u32).prop_map(RunId);
    let which = || (1..14_u32).prop_map(SupportId);
    prop_oneof![
        4 => (run(), any_anchor(), any_kind(), prop::option::of(any_side()))
            .prop_map(|(run, at, kind, to)| Edit::Join(JoinEdit::AddSupport { run, support: SupportDraft { at, kind, to } })),
        3 => (run(), which(), any_change())
            .prop_map(|(run, support, to)| Edit::Join(JoinEdit::ChangeSupport { run, support, to })),
        1 => (run(), which()).prop_map(|(run, support)| Edit::Join(JoinEdit::RemoveSupport { run, support })),
        1 => prop::option::of(any_firing()).prop_map(|firing| Edit::Measure(MeasureEdit::SetFiring { firing })),
    ]
}
