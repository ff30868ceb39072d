//! Bench cards: every act of a run's list once, in its order, and what is noted of each is seen on it.

#![allow(clippy::unwrap_used, clippy::panic, reason = "a test fails by panicking")]

use std::collections::HashSet;

use nook_core::record::{BenchAct, Deed, DeedId, Done, Progress};
use nook_core::workup::{CardPicture, CardWorkup, DeckWorkup, deck};
use nook_core::{Given, Job, RunId, Scans, Workup, workup_given};
use nook_geometry::units::{LengthUnit, Name};
use proptest::prelude::*;

use crate::support::{any_draft, job_with};

fn of(job: &Job, run: RunId, deeds: &[Deed]) -> (Workup, DeckWorkup) {
    let progress = Progress::after(deeds);
    let scans = Scans::default();
    let given = Given { scans: &scans, progress: &progress, mend: false };
    let workup = workup_given(job, run, &given).unwrap();
    let deck = deck(&workup, &progress);
    (workup, deck)
}

fn deed(number: usize, done: &Done) -> Deed {
    let id = DeedId::try_from(format!("deed-{number:05}")).unwrap();
    Deed { id, by: Name::new("phone").unwrap(), done: done.clone() }
}

/// The pieces that the cards of a deck cut, in their order.
fn cut(deck: &DeckWorkup) -> Vec<String> {
    let pieces = deck.cards.iter().filter(|card| card.piece.is_some());
    pieces.map(|card| card.title.clone()).collect()
}

fn is_open(card: &CardWorkup) -> bool {
    !card.done
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(60))]

    /// Whatever the pipe: each piece is cut by one card, in the order and with the figures of the list; what is noted in any order is
    /// done and taken back is not, and nothing else changes its standing.
    #[test]
    fn every_act_has_one_card_and_standing_is_what_was_noted(draft in any_draft(), picks in prop::collection::vec(any::<prop::sample::Index>(), 0..12)) {
        let (job, run) = job_with(draft);
        let (workup, plain) = of(&job, run, &[]);
        let Some(cutting) = workup.cutting.as_ref() else {
            prop_assert!(plain.cards.is_empty() && plain.none.is_some());
            return Ok(());
        };
        prop_assert!(plain.none.is_none() && plain.cards.iter().all(is_open));
        let listed: Vec<String> = cutting.cuts.iter().filter_map(|cut| cut.frees.clone()).collect();
        prop_assert_eq!(&cut(&plain), &listed);
        let keys: HashSet<&str> = plain.cards.iter().map(|card| card.key.as_str()).collect();
        prop_assert_eq!(keys.len(), plain.cards.len());
        prop_assert_eq!(plain.cards.iter().filter(|card| card.key.starts_with("meet")).count(), cutting.meetings.len());
        let cuts: Vec<&CardWorkup> = plain.cards.iter().filter(|card| matches!(card.picture, CardPicture::Cut { .. })).collect();
        prop_assert_eq!(cuts.len(), cutting.cuts.len());
        for (card, cut) in cuts.iter().zip(&cutting.cuts) {
            prop_assert_eq!(&card.figures[0].value.mm, &LengthUnit::Mm.figure(cut.up.mm()));
            prop_assert_eq!(&card.figures[0].value.inch, &LengthUnit::In.figure(cut.up.mm()));
        }
        // Some are done, one of them twice over, and the first taken back again.
        let chosen: Vec<usize> = picks.iter().map(|pick| pick.index(plain.cards.len())).collect();
        let mut deeds: Vec<Deed> = chosen.iter().enumerate().map(|(number, at)| deed(number, plain.cards[*at].does.as_ref().unwrap())).collect();
        deeds.extend(chosen.first().map(|at| deed(99_000, plain.cards[*at].undoes.as_ref().unwrap())));
        let (_, told) = of(&job, run, &deeds);
        let done: Vec<bool> = plain.cards.iter().map(|card| told.cards.iter().any(|one| one.key == card.key && one.done)).collect();
        for (at, done) in done.iter().enumerate() {
            let wanted = chosen.contains(&at) && chosen.first() != Some(&at);
            // Wedges of one piece are one act.
            let twin = plain.cards.iter().enumerate().any(|(other, card)| other != at && card.does == plain.cards[at].does);
            prop_assert!(twin || *done == wanted, "{}", plain.cards[at].key);
        }
    }
}

#[test]
fn what_is_spoilt_is_still_to_cut_and_is_counted() {
    let (job, run) = job_with(crate::support::draft(
        crate::support::port([0.0; 3], [1.0, 0.0, 0.0], 63.5),
        crate::support::port([520.0, 260.0, 310.0], [0.0, 0.1, -1.0], 63.5),
    ));
    let (_, plain) = of(&job, run, &[]);
    let card = plain.cards.iter().find(|card| card.piece.is_some()).unwrap();
    let piece = card.piece.as_ref().unwrap();
    let spoilt = Done::Spoilt { run, piece: piece.piece };
    let deeds = [deed(1, card.does.as_ref().unwrap()), deed(2, &spoilt), deed(3, &spoilt)];
    let (_, told) = of(&job, run, &deeds);
    assert!(told.cards.iter().filter(|one| one.piece.is_some()).all(is_open));
    assert_eq!(Progress::after(&deeds).scrap(), [2, 0]);
    // Cut otherwise than listed it is cut, and the workup says by how much.
    let mut other = piece.as_cut.clone();
    other.size.centre -= 4.0;
    other.size.longest -= 4.0;
    let deeds = [deed(1, &Done::Cut { run, piece: piece.piece, as_cut: other })];
    let (workup, told) = of(&job, run, &deeds);
    assert!(told.cards.iter().any(|one| one.key == card.key && one.done));
    let kind = nook_core::findings::FindingKind::CutOtherwise;
    assert!(workup.findings.iter().any(|finding| finding.kind == kind), "{:?}", workup.findings);
}

#[test]
fn acts_of_one_run_are_not_anothers() {
    let did = |run: u32| Done::Did { run: RunId(run), what: BenchAct::Scribe };
    let progress = Progress::after(&[deed(1, &did(4))]);
    assert!(progress.did(RunId(4), BenchAct::Scribe) && !progress.did(RunId(5), BenchAct::Scribe));
    let back = Done::DidNot { run: RunId(4), what: BenchAct::Scribe };
    let progress = Progress::after(&[deed(1, &did(4)), deed(2, &back)]);
    assert!(!progress.did(RunId(4), BenchAct::Scribe));
}
