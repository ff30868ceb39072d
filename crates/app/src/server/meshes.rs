//! Scans ready to be measured against, kept at hand so that a drag does not read them anew.

use std::sync::Arc;

use nook_core::measure::{KeepOutShape, ScanId, ScanUnit};
use nook_core::{Job, Scans};
use nook_formats::scan::read_kept;
use nook_geometry::Mesh;
use nook_store::Store;
use rocket::tokio::sync::Mutex;
use rocket::tokio::task::spawn_blocking;

type Key = (ScanId, ScanUnit);

type Kept = Vec<(Key, Arc<Mesh>)>;

/// Meshes that were measured against lately, the latest last. The lock is held while one is made, so that each is made
/// once and one at a time: a large one takes hundreds of megabytes meanwhile.
#[derive(Clone, Default)]
pub(super) struct Meshes(Arc<Mutex<Kept>>);

/// Most triangles kept at hand, beside the latest mesh: a million take some hundred megabytes.
const MOST_TRIANGLES: usize = 4_000_000;

impl Meshes {
    /// The scans a job leans on. One that is not here or cannot be read is left out: the core then says that the gap to
    /// it is not known.
    pub(super) async fn of(&self, store: &Store, job: &Job) -> Scans {
        let mut scans = Scans::default();
        for keep_out in job.keep_outs() {
            let KeepOutShape::Scan(scan) = &keep_out.shape else { continue };
            let key = (scan.scan.clone(), scan.unit);
            if let Some(mesh) = self.mesh(store, &key).await {
                scans.insert(key.0, key.1, mesh);
            }
        }
        scans
    }

    async fn mesh(&self, store: &Store, key: &Key) -> Option<Arc<Mesh>> {
        let mut all = self.0.lock().await;
        if let Some(at) = all.iter().position(|(one, _)| one == key) {
            let latest = all.remove(at);
            let mesh = Arc::clone(&latest.1);
            all.push(latest);
            return Some(mesh);
        }
        let kept = store.kept_scan(&key.0).await.ok()?;
        let unit = key.1;
        let read = spawn_blocking(move || read_kept(&kept).and_then(|scan| scan.mesh(unit))).await;
        let mesh = match read {
            Ok(Ok(mesh)) => Arc::new(mesh),
            Ok(Err(error)) => {
                tracing::warn!(scan = key.0.as_str(), %error, "a kept scan cannot be measured against");
                return None;
            }
            Err(_) => return None,
        };
        all.push((key.clone(), Arc::clone(&mesh)));
        while all.len() > 1 && all.iter().map(|(_, mesh)| mesh.triangles()).sum::<usize>() > MOST_TRIANGLES {
            all.remove(0);
        }
        Some(mesh)
    }
}
