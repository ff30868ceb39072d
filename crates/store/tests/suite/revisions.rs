//! Undo and redo against a plain model: a list of documents and a finger on one of them.

#![allow(
    clippy::unwrap_used,
    clippy::expect_used,
    clippy::panic,
    clippy::float_cmp,
    reason = "a test fails by panicking, and compares what must be the same to the bit"
)]

use nook_core::workshop::PinnedSaw;
use nook_core::{CutEdit, Edit, Job, JobEdit};
use nook_geometry::units::Kerf;
use nook_geometry::units::Name;
use nook_store::{Author, JobId, Step, Store, StoreError};
use proptest::prelude::*;

#[derive(Debug, Clone, Copy)]
enum Move {
    Edit(f64),
    Undo,
    Redo,
}

fn any_move() -> impl Strategy<Value = Move> {
    prop_oneof![3 => (0.0..6.0_f64).prop_map(Move::Edit), 3 => Just(Move::Undo), 2 => Just(Move::Redo)]
}

fn kerf(mm: f64) -> Edit {
    Edit::Cut(CutEdit::PinSaw {
        saw: PinnedSaw {
            name: Name::new("Saw").unwrap(),
            kerf: Kerf::new(mm).unwrap(),
            bias: None,
            reach: nook_core::workshop::SawReach::default(),
        },
    })
}

fn me() -> Author {
    Author::new("me").unwrap()
}

fn new_job() -> Job {
    Job::new(Name::new("Test bay").unwrap())
}

async fn temporary() -> (tempfile::TempDir, Store) {
    let folder = tempfile::tempdir().unwrap();
    let store = Store::open(folder.path()).await.unwrap();
    (folder, store)
}

async fn walk(moves: Vec<Move>) {
    let (folder, store) = temporary().await;
    let mut now = store.create(&new_job(), &me()).await.unwrap();
    let (mut documents, mut finger) = (vec![now.job.clone()], 0);
    for made in moves {
        let answer = match made {
            Move::Edit(mm) => store.keep(now.id, now.seq, &kerf(mm), &me()).await,
            Move::Undo => store.step(now.id, now.seq, Step::Undo, &me()).await,
            Move::Redo => store.step(now.id, now.seq, Step::Redo, &me()).await,
        };
        let possible = match made {
            Move::Edit(_) => true,
            Move::Undo => finger > 0,
            Move::Redo => finger + 1 < documents.len(),
        };
        let Ok(next) = answer else {
            assert!(!possible, "{made:?} was refused");
            continue;
        };
        assert!(possible, "{made:?} had nowhere to go");
        match made {
            Move::Edit(_) => {
                documents.truncate(finger + 1);
                documents.push(next.job.clone());
                finger += 1;
            }
            Move::Undo => finger -= 1,
            Move::Redo => finger += 1,
        }
        assert_eq!(next.job, documents[finger]);
        assert_eq!((next.can_undo, next.can_redo), (finger > 0, finger + 1 < documents.len()));
        assert_eq!(next.seq, now.seq + 1, "every step is a new revision");
        now = next;
    }
    store.close().await;
    let again = Store::open(folder.path()).await.unwrap();
    assert_eq!(again.load(now.id, &me()).await.unwrap(), now, "what was kept is there after opening again");
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(12))]
    #[test]
    fn undo_and_redo_walk_like_a_finger_on_a_list(moves in prop::collection::vec(any_move(), 1..24)) {
        tokio::runtime::Runtime::new().unwrap().block_on(walk(moves));
    }
}

#[tokio::test]
async fn two_people_do_not_overwrite_each_other() {
    let (_folder, store) = temporary().await;
    let begun = store.create(&new_job(), &me()).await.unwrap();
    let first = store.keep(begun.id, begun.seq, &kerf(1.0), &me()).await.unwrap();
    let second = store.keep(begun.id, begun.seq, &kerf(3.0), &me()).await;
    assert!(matches!(second, Err(StoreError::MovedOn { seen: 1, now: 2 })), "{second:?}");
    assert_eq!(store.load(begun.id, &me()).await.unwrap(), first);
}

#[tokio::test]
async fn a_refused_edit_changes_nothing() {
    let (_folder, store) = temporary().await;
    let begun = store.create(&new_job(), &me()).await.unwrap();
    let refused =
        store.keep(begun.id, begun.seq, &Edit::Job(JobEdit::RemoveRun { run: nook_core::RunId(7) }), &me()).await;
    assert!(matches!(refused, Err(StoreError::Refused(_))), "{refused:?}");
    assert_eq!(store.load(begun.id, &me()).await.unwrap(), begun);
}

#[tokio::test]
async fn a_deleted_job_is_gone_and_the_others_stay() {
    let (_folder, store) = temporary().await;
    let (one, two) = (store.create(&new_job(), &me()).await.unwrap(), store.create(&new_job(), &me()).await.unwrap());
    store.delete(one.id, &me()).await.unwrap();
    assert!(matches!(store.load(one.id, &me()).await, Err(StoreError::NoSuchJob(id)) if id == one.id));
    assert!(matches!(store.delete(JobId(99), &me()).await, Err(StoreError::NoSuchJob(_))));
    let left: Vec<JobId> = store.list().await.unwrap().into_iter().map(|job| job.id).collect();
    assert_eq!(left, [two.id]);
}
