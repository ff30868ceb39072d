//! Work shared among all cores, that can be called off, and whose results come in the same order every time.

use std::sync::Mutex;
use std::sync::atomic::{AtomicBool, AtomicUsize, Ordering};

/// The hands a search has.
pub(super) struct WorkerPool<'a> {
    hands: usize,
    stop: &'a AtomicBool,
}

impl<'a> WorkerPool<'a> {
    /// As many hands as there are cores; they stop when `stop` says so.
    #[must_use]
    pub(super) fn new(stop: &'a AtomicBool) -> Self {
        Self { hands: std::thread::available_parallelism().map_or(1, usize::from), stop }
    }

    /// Whether the work has been called off.
    #[must_use]
    pub(super) fn stopped(&self) -> bool {
        self.stop.load(Ordering::Relaxed)
    }

    /// Does `task` for each number below `count`, in order of the numbers as near as can be. Numbers that were not
    /// reached before the work was called off are left out.
    pub(super) fn each<T: Send>(&self, count: usize, task: impl Fn(usize) -> T + Sync) -> Vec<T> {
        let (next, done) = (AtomicUsize::new(0), Mutex::new(Vec::with_capacity(count)));
        let work = || {
            let mut mine = Vec::new();
            while !self.stopped() {
                let index = next.fetch_add(1, Ordering::Relaxed);
                if index >= count {
                    break;
                }
                mine.push((index, task(index)));
            }
            done.lock().unwrap_or_else(std::sync::PoisonError::into_inner).extend(mine);
        };
        std::thread::scope(|scope| {
            for _ in 1..self.hands.min(count) {
                scope.spawn(work);
            }
            work();
        });
        let mut done = done.into_inner().unwrap_or_else(std::sync::PoisonError::into_inner);
        done.sort_by_key(|(index, _)| *index);
        done.into_iter().map(|(_, result)| result).collect()
    }
}
