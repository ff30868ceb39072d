//! Two browsers on one job: each undoes what it did itself, and what the other did stays.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, reason = "a test fails by panicking")]

use nook_core::measure::{DatumId, Side};
use nook_core::{Edit, Job, MeasureEdit};
use nook_geometry::Point;
use nook_geometry::units::Name;
use nook_store::{Author, Revision, Step, Store, StoreError};
use proptest::prelude::*;

fn author(name: &str) -> Author {
    Author::new(name).unwrap()
}

/// A job that somebody else set up.
async fn job_with_datums(folder: &std::path::Path, count: u32) -> (Store, Revision) {
    let somebody = author("somebody");
    let store = Store::open(folder).await.unwrap();
    let mut now = store.create(&Job::new(Name::new("Test bay").unwrap()), &somebody).await.unwrap();
    for k in 0..count {
        let (name, at) = (Name::new(&format!("bolt {k}")).unwrap(), Point::default());
        let add = Edit::Measure(MeasureEdit::AddDatum { name, at, rides: Side::Body });
        now = store.keep(now.id, now.seq, &add, &somebody).await.unwrap();
    }
    (store, now)
}

fn names(job: &Job) -> Vec<String> {
    job.datums().iter().map(|datum| datum.name.as_str().to_owned()).collect()
}

fn rename(job: &Job, index: usize, name: &str) -> Edit {
    let datum = &job.datums()[index];
    Edit::Measure(MeasureEdit::SetDatum {
        datum: datum.id,
        name: Name::new(name).unwrap(),
        at: datum.at,
        rides: datum.rides,
    })
}

/// One of two authors renames one of his own two datums, or undoes, or redoes.
#[derive(Debug, Clone, Copy)]
enum Move {
    Rename(usize, u32),
    Undo,
    Redo,
}

fn any_move() -> impl Strategy<Value = (usize, Move)> {
    let made = prop_oneof![
        4 => (0..2_usize, 0..1000_u32).prop_map(|(which, name)| Move::Rename(which, name)),
        3 => Just(Move::Undo),
        2 => Just(Move::Redo)
    ];
    (0..2_usize, made)
}

/// Each author's two names as an undo list of its own would have them: what the store must agree with.
#[derive(Default)]
struct Model {
    states: Vec<[String; 2]>,
    finger: usize,
}

/// A name that no other datum is given: a job refuses two alike.
fn named(who: usize, which: usize, name: u32) -> String {
    format!("{who} {which} n{name}")
}

async fn walk(moves: Vec<(usize, Move)>) {
    let folder = tempfile::tempdir().unwrap();
    let (store, mut now) = job_with_datums(folder.path(), 4).await;
    let start = names(&now.job);
    let mut models = [0, 2].map(|at| Model { states: vec![[start[at].clone(), start[at + 1].clone()]], finger: 0 });
    let authors = [author("left"), author("right")];
    for (who, made) in moves {
        let (model, me) = (&mut models[who], &authors[who]);
        let answer = match made {
            Move::Rename(which, name) => {
                let edit = rename(&now.job, who * 2 + which, &named(who, which, name));
                store.keep(now.id, now.seq, &edit, me).await
            }
            Move::Undo => store.step(now.id, now.seq, Step::Undo, me).await,
            Move::Redo => store.step(now.id, now.seq, Step::Redo, me).await,
        };
        match made {
            Move::Rename(which, name) => {
                let mut next = model.states[model.finger].clone();
                next[which] = named(who, which, name);
                model.states.truncate(model.finger + 1);
                model.states.push(next);
                model.finger += 1;
            }
            Move::Undo if model.finger > 0 => model.finger -= 1,
            Move::Redo if model.finger + 1 < model.states.len() => model.finger += 1,
            Move::Undo | Move::Redo => {
                assert!(matches!(answer, Err(StoreError::NothingTo(_))), "{answer:?}");
                continue;
            }
        }
        now = answer.unwrap();
        let wanted: Vec<String> = models.iter().flat_map(|model| model.states[model.finger].clone()).collect();
        assert_eq!(names(&now.job), wanted, "{who} {made:?}");
        for (model, author) in models.iter().zip(&authors) {
            let seen = store.load(now.id, author).await.unwrap();
            assert_eq!((seen.can_undo, seen.can_redo), (model.finger > 0, model.finger + 1 < model.states.len()));
        }
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(10))]
    #[test]
    fn each_author_walks_his_own_list(moves in prop::collection::vec(any_move(), 1..24)) {
        tokio::runtime::Runtime::new().unwrap().block_on(walk(moves));
    }
}

#[tokio::test]
async fn what_the_other_changed_since_is_not_undone_beneath_him() {
    let folder = tempfile::tempdir().unwrap();
    let (store, now) = job_with_datums(folder.path(), 1).await;
    let (mine, yours) = (author("mine"), author("yours"));
    let now = store.keep(now.id, now.seq, &rename(&now.job, 0, "mine"), &mine).await.unwrap();
    let now = store.keep(now.id, now.seq, &rename(&now.job, 0, "yours"), &yours).await.unwrap();
    let refused = store.step(now.id, now.seq, Step::Undo, &mine).await.unwrap_err();
    assert!(refused.to_string().contains("\u{201c}yours\u{201d} has been changed again by somebody else"), "{refused}");
    assert_eq!(store.load(now.id, &mine).await.unwrap().seq, now.seq, "nothing was changed");
    let back = store.step(now.id, now.seq, Step::Undo, &yours).await.unwrap();
    assert_eq!(names(&store.step(now.id, back.seq, Step::Undo, &mine).await.unwrap().job), ["bolt 0"]);
}

#[tokio::test]
async fn numbers_are_not_given_twice_after_an_undo() {
    let folder = tempfile::tempdir().unwrap();
    let (store, now) = job_with_datums(folder.path(), 1).await;
    let back = store.step(now.id, now.seq, Step::Undo, &author("somebody")).await.unwrap();
    let (name, at) = (Name::new("another").unwrap(), Point::default());
    let add = Edit::Measure(MeasureEdit::AddDatum { name, at, rides: Side::Body });
    let now = store.keep(now.id, back.seq, &add, &author("other")).await.unwrap();
    assert_eq!(now.job.datums()[0].id, DatumId(2));
}

#[tokio::test]
async fn every_change_is_told_to_who_listens() {
    let folder = tempfile::tempdir().unwrap();
    let (store, now) = job_with_datums(folder.path(), 1).await;
    let (mut news, me) = (store.changes(), author("me"));
    let now = store.keep(now.id, now.seq, &rename(&now.job, 0, "renamed"), &me).await.unwrap();
    store.delete(now.id, &Author::nobody()).await.unwrap();
    let told = [news.recv().await.unwrap(), news.recv().await.unwrap()];
    assert_eq!(told.each_ref().map(|one| one.seq), [Some(now.seq), None]);
    assert_eq!(told[0].author, me);
}
