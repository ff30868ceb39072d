//! How long a search may take.

use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};
use std::time::Duration;

/// As long as somebody stands and waits.
pub(crate) const SEARCH: Duration = Duration::from_secs(10);

/// Sets `stop` when a search has had its time. The thread that waits ends by itself, and with the program.
pub(crate) fn stop_when_time_is_up(stop: &Arc<AtomicBool>, longest: Duration) {
    let stop = Arc::downgrade(stop);
    std::thread::spawn(move || {
        std::thread::sleep(longest);
        if let Some(stop) = stop.upgrade() {
            stop.store(true, Ordering::Relaxed);
        }
    });
}
