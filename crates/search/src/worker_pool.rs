//! Work shared among all cores, that can be called off, and whose results come in the same order every time.

use std::sync::atomic::{AtomicBool, Ordering};

use rayon::iter::{ParallelBridge, ParallelIterator};

/// The cores a search works on.
pub(super) struct WorkerPool<'a> {
    stop: &'a AtomicBool,
}

impl<'a> WorkerPool<'a> {
    /// All cores; they stop when `stop` says so.
    #[must_use]
    pub(super) const fn new(stop: &'a AtomicBool) -> Self {
        Self { stop }
    }

    /// Whether the work has been called off.
    #[must_use]
    pub(super) fn stopped(&self) -> bool {
        self.stop.load(Ordering::Relaxed)
    }

    /// Does `task` for each number below `count`, in order of the numbers as near as can be. Numbers that were not
    /// reached before the work was called off are left out.
    pub(super) fn each<T: Send>(&self, count: usize, task: impl Fn(usize) -> T + Sync) -> Vec<T> {
        // Bridged, the numbers are handed out one by one, so that the most promising come first.
        let numbers = (0..count).par_bridge().filter(|_| !self.stopped());
        let mut done: Vec<(usize, T)> = numbers.map(|index| (index, task(index))).collect();
        done.sort_by_key(|(index, _)| *index);
        done.into_iter().map(|(_, result)| result).collect()
    }
}
