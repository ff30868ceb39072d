//! What happens to the folder from outside: told plainly, and nothing is acknowledged that does not last.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, reason = "a test fails by panicking")]

use std::fs;
use std::os::unix::fs::PermissionsExt;
use std::path::Path;

use nook_core::measure::ScanId;
use nook_core::workshop::PinnedSaw;
use nook_core::{CutEdit, Edit, Job};
use nook_geometry::units::{Kerf, Name};
use nook_store::{Author, KeptScan, LineOutcome, Revision, Step, Store, StoreError, Unreadable};
use sqlx::{Connection, Executor, Row, SqliteConnection};

fn new_job(name: &str) -> Job {
    Job::new(Name::new(name).unwrap())
}

fn nobody() -> Author {
    Author::nobody()
}

async fn begun(folder: &Path) -> (Store, Revision) {
    let store = Store::open(folder).await.unwrap();
    let begun = store.create(&new_job("Test bay"), &nobody()).await.unwrap();
    (store, begun)
}

async fn keep(store: &Store, now: &Revision, mm: f64) -> Result<Revision, StoreError> {
    store
        .keep(
            now.id,
            now.seq,
            &Edit::Cut(CutEdit::PinSaw {
                saw: PinnedSaw {
                    name: Name::new("Saw").unwrap(),
                    kerf: Kerf::new(mm).unwrap(),
                    bias: None,
                    reach: nook_core::workshop::SawReach::default(),
                },
            }),
            &nobody(),
        )
        .await
}

async fn raw(folder: &Path) -> SqliteConnection {
    SqliteConnection::connect(&format!("sqlite://{}", folder.join("jobs.sqlite").display())).await.unwrap()
}

#[tokio::test]
async fn a_folder_is_held_by_one_and_for_its_owner_alone() {
    let folder = tempfile::tempdir().unwrap();
    let data = folder.path().join("data");
    let (store, _) = begun(&data).await;
    assert_eq!(fs::metadata(&data).unwrap().permissions().mode() & 0o777, 0o700);
    let second = Store::open(&data).await.unwrap_err().to_string();
    assert!(
        second.contains("in use by another Nook Bend") && second.contains(&std::process::id().to_string()),
        "{second}"
    );
    store.close().await;
    // One that others may look into is closed to them; one with other things in it is not ours to close.
    fs::set_permissions(&data, fs::Permissions::from_mode(0o755)).unwrap();
    Store::open(&data).await.unwrap().close().await;
    assert_eq!(fs::metadata(&data).unwrap().permissions().mode() & 0o777, 0o700);
    fs::write(data.join("letter.txt"), "mine").unwrap();
    fs::set_permissions(&data, fs::Permissions::from_mode(0o755)).unwrap();
    Store::open(&data).await.unwrap().close().await;
    assert_eq!(fs::metadata(&data).unwrap().permissions().mode() & 0o777, 0o755);
}

#[tokio::test]
async fn nothing_is_acknowledged_once_the_files_are_gone() {
    type Harm = fn(&Path);
    let harms: [(&str, Harm); 4] = [
        ("the folder deleted", |data| fs::remove_dir_all(data).unwrap()),
        ("the folder moved", |data| fs::rename(data, data.with_extension("elsewhere")).unwrap()),
        ("the database emptied", |data| fs::write(data.join("jobs.sqlite"), "").unwrap()),
        ("the log deleted", |data| fs::remove_file(data.join("jobs.sqlite-wal")).unwrap()),
    ];
    for (harm, make) in harms {
        let folder = tempfile::tempdir().unwrap();
        let data = folder.path().join("data");
        let (store, now) = begun(&data).await;
        make(&data);
        let told = keep(&store, &now, 1.5).await.expect_err(harm);
        assert!(matches!(told, StoreError::Gone { .. }), "{harm}: {told}");
        assert!(told.to_string().contains(&data.display().to_string()), "{told}");
        assert!(store.create(&new_job("Another"), &nobody()).await.is_err(), "{harm}");
        if harm == "the folder moved" {
            fs::rename(data.with_extension("elsewhere"), &data).unwrap();
            let kept = keep(&store, &now, 1.5).await.expect("put back, it saves again");
            store.close().await;
            assert_eq!(Store::open(&data).await.unwrap().load(now.id, &nobody()).await.unwrap(), kept);
        }
    }
}

#[tokio::test]
async fn what_is_no_folder_or_no_database_is_told_with_its_path() {
    let folder = tempfile::tempdir().unwrap();
    let file = folder.path().join("file");
    fs::write(&file, "no folder").unwrap();
    let told = Store::open(&file).await.unwrap_err().to_string();
    assert!(told.contains(&file.display().to_string()) && told.contains("choose another folder"), "{told}");
    let told = Store::open(Path::new("/proc/nook-bend")).await.unwrap_err().to_string();
    assert!(told.contains("/proc/nook-bend cannot be used"), "{told}");

    let data = folder.path().join("data");
    fs::create_dir(&data).unwrap();
    fs::write(data.join("jobs.sqlite"), "this was a shopping list once ".repeat(400)).unwrap();
    let told = Store::open(&data).await.unwrap_err();
    assert!(matches!(told, StoreError::Corrupt { .. }), "{told}");
    assert!(told.to_string().contains("jobs.sqlite is damaged or is no database"), "{told}");
}

#[tokio::test]
async fn a_newer_database_is_told_and_left_alone() {
    let folder = tempfile::tempdir().unwrap();
    let (store, _) = begun(folder.path()).await;
    store.close().await;
    let mut db = raw(folder.path()).await;
    let newer = "INSERT INTO _sqlx_migrations (version, description, success, checksum, execution_time)
                 VALUES (9000, 'later', TRUE, x'00', 1)";
    db.execute(newer).await.unwrap();
    db.close().await.unwrap();
    let told = Store::open(folder.path()).await.unwrap_err();
    assert!(matches!(told, StoreError::NewerDatabase { .. }), "{told}");
    assert!(told.to_string().contains("Update Nook Bend"), "{told}");
}

#[tokio::test]
async fn one_unreadable_job_is_listed_with_its_reason_and_the_others_work() {
    let folder = tempfile::tempdir().unwrap();
    let (store, sound) = begun(folder.path()).await;
    let cut = store.create(&new_job("Cut off"), &nobody()).await.unwrap();
    let cut = keep(&store, &cut, 1.0).await.unwrap();
    let newer = store.create(&new_job("From the future"), &nobody()).await.unwrap();
    store.close().await;
    let mut db = raw(folder.path()).await;
    db.execute("UPDATE revision SET document = substr(document, 1, 40) WHERE name = 'Cut off' AND seq = 2")
        .await
        .unwrap();
    db.execute("UPDATE revision SET version = 99 WHERE name = 'From the future'").await.unwrap();
    db.close().await.unwrap();

    let store = Store::open(folder.path()).await.unwrap();
    let list = store.list().await.unwrap();
    let of = |name: &str| list.iter().find(|job| job.name == name).unwrap().unreadable.clone();
    assert_eq!(of("Test bay"), None);
    assert!(matches!(of("Cut off"), Some(Unreadable::Damaged { .. })));
    assert_eq!(of("From the future"), Some(Unreadable::Newer { version: 99 }));
    keep(&store, &sound, 2.5).await.unwrap();
    let told = keep(&store, &newer, 2.5).await.unwrap_err().to_string();
    assert!(told.contains("\u{201c}From the future\u{201d} cannot be opened") && told.contains("version 99"), "{told}");
    assert!(matches!(store.load(cut.id, &nobody()).await, Err(StoreError::Unreadable { .. })));

    let (name, text) = store.raw(newer.id).await.unwrap();
    assert_eq!(name, "From the future");
    assert!(String::from_utf8(text).unwrap().contains("From the future"));
    assert!(!store.raw(cut.id).await.unwrap().1.is_empty(), "what is left of it");
    // The damaged one goes back to what it was before; undo is left out, since what it would undo cannot be read.
    let back = store.recover(cut.id, &nobody()).await.unwrap();
    assert_eq!((back.seq, back.can_undo), (3, false));
    assert_eq!(store.load(cut.id, &nobody()).await.unwrap().job, new_job("Cut off"));
    assert!(store.list().await.unwrap().iter().filter(|job| job.unreadable.is_some()).count() == 1);
}

/// The second layout as it was, with a damaged job in it.
#[tokio::test]
async fn what_the_second_layout_kept_is_carried_over_with_its_undo() {
    let folder = tempfile::tempdir().unwrap();
    {
        let path = folder.path().join("jobs.sqlite");
        let mut db = SqliteConnection::connect(&format!("sqlite://{}?mode=rwc", path.display())).await.unwrap();
        let mut migrator = sqlx::migrate!();
        migrator.migrations = migrator.migrations.iter().filter(|one| one.version < 3).cloned().collect();
        migrator.run(&mut db).await.unwrap();
        let text = |name: &str| serde_json::to_string(&new_job(name)).unwrap();
        db.execute("INSERT INTO job DEFAULT VALUES; INSERT INTO job DEFAULT VALUES").await.unwrap();
        // Named 0, 1, 2, and 2 taken back.
        for (seq, kind, name, undo_to, redo_to) in [
            (1, "begin", "0", None, None),
            (2, "edit", "1", Some(1), None),
            (3, "edit", "2", Some(2), None),
            (4, "undo", "1", Some(1), Some(3)),
        ] {
            sqlx::query("INSERT INTO revision (job, seq, kind, document, undo_to, redo_to) VALUES (1, ?, ?, ?, ?, ?)")
                .bind(seq)
                .bind(kind)
                .bind(text(name))
                .bind(undo_to)
                .bind(redo_to)
                .execute(&mut db)
                .await
                .unwrap();
        }
        db.execute("INSERT INTO revision (job, seq, kind, document) VALUES (2, 1, 'begin', '{\"name\": \"torn')")
            .await
            .unwrap();
        db.close().await.unwrap();
    }
    let store = Store::open(folder.path()).await.unwrap();
    let list = store.list().await.unwrap();
    assert_eq!(list.iter().map(|job| job.name.as_str()).filter(|name| *name == "1" || *name == "job 2").count(), 2);
    let me = Author::new("somebody-new").unwrap();
    let now = store.load(list.iter().find(|job| job.name == "1").unwrap().id, &me).await.unwrap();
    assert_eq!((now.seq, now.can_undo, now.can_redo), (4, true, true));
    let again = store.step(now.id, 4, Step::Redo, &me).await.unwrap();
    assert_eq!((again.job.name(), again.can_redo), ("2", false));
    let back = store.step(now.id, 5, Step::Undo, &me).await.unwrap();
    let first = store.step(now.id, back.seq, Step::Undo, &me).await.unwrap();
    assert_eq!((first.job.name(), first.can_undo, first.can_redo), ("0", false, true));
    // Carrying over leaves references out; afterwards they hold again.
    store.delete(now.id, &me).await.unwrap();
    let mut db = raw(folder.path()).await;
    let left: i64 = db.fetch_one("SELECT count(*) FROM revision WHERE job = 1").await.unwrap().get(0);
    assert_eq!(left, 0, "a job's revisions go with it");
}

#[tokio::test]
async fn the_instruments_log_keeps_the_latest_lines() {
    let folder = tempfile::tempdir().unwrap();
    let store = Store::open(folder.path()).await.unwrap();
    store.close().await;
    let mut db = raw(folder.path()).await;
    let many = "WITH RECURSIVE n (k) AS (SELECT 1 UNION ALL SELECT k + 1 FROM n WHERE k < 30199)
                INSERT INTO instrument_line (instrument, line, outcome) SELECT 'tape', k, 'garbled' FROM n";
    db.execute(many).await.unwrap();
    let store = Store::open(folder.path()).await.unwrap();
    store.log_line("tape", "the last", LineOutcome::Garbled, None).await.unwrap();
    let left: i64 = db.fetch_one("SELECT count(*) FROM instrument_line").await.unwrap().get(0);
    assert_eq!(left, 20_000);
    assert_eq!(store.logged_lines(1).await.unwrap()[0].line, "the last");
}

#[tokio::test]
async fn a_scan_is_deleted_only_when_no_revision_leans_on_it() {
    let folder = tempfile::tempdir().unwrap();
    let (store, now) = begun(folder.path()).await;
    let id = ScanId::try_from("ab".repeat(32)).unwrap();
    let scan = KeptScan {
        id: id.clone(),
        name: "part.stl".to_owned(),
        vertices: 3,
        triangles: 1,
        kept: vec![1],
        drawn: vec![2],
    };
    store.keep_scan(&scan).await.unwrap();
    store.keep_scan(&scan).await.unwrap();
    let edit = serde_json::json!({
        "step": "measure", "edit": "add_keep_out", "name": "pump", "kind": "still_metal", "rides": "engine",
        "shape": { "shape": "scan", "scan": id, "unit": "mm", "matched": [] },
    });
    let now = store.keep(now.id, now.seq, &serde_json::from_value(edit).unwrap(), &nobody()).await.unwrap();
    let now = store.step(now.id, now.seq, Step::Undo, &nobody()).await.unwrap();
    assert_eq!(store.scans().await.unwrap()[0].jobs, 1);
    let told = store.delete_scan(&id).await.unwrap_err().to_string();
    assert!(told.contains("used by \u{201c}Test bay\u{201d}"), "redo may come back to it: {told}");
    store.delete(now.id, &nobody()).await.unwrap();
    store.delete_scan(&id).await.unwrap();
    assert!(matches!(store.delete_scan(&id).await, Err(StoreError::NoSuchScan)));
    assert_eq!(store.scans().await.unwrap(), []);
}
