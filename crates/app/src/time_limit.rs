//! How long a search may take.

use std::sync::atomic::{AtomicBool, Ordering};
use std::sync::{Arc, LazyLock};
use std::time::Duration;

/// Where another limit is said, in whole seconds: on a slow machine a search finds more in a longer time.
const SAID: &str = "NOOK_BEND_SEARCH_SECONDS";
/// As long as somebody stands and waits.
const USUAL: u64 = 10;
/// Nobody waits longer than this.
const LONGEST: u64 = 600;

static SEARCH: LazyLock<Duration> = LazyLock::new(|| {
    let said = std::env::var(SAID).ok().and_then(|said| said.parse::<u64>().ok());
    Duration::from_secs(said.unwrap_or(USUAL).clamp(1, LONGEST))
});

/// The longest a search may take.
pub(crate) fn search_limit() -> Duration {
    *SEARCH
}

/// The longest that something else may take which usually has `usual`: as much more or less as a search.
pub(crate) fn limit_of(usual: Duration) -> Duration {
    let share = SEARCH.as_secs_f64() / Duration::from_secs(USUAL).as_secs_f64();
    usual.mul_f64(share)
}

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
