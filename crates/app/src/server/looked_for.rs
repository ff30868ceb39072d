//! What has to be looked for: started once, followed by any number, called off when nobody follows any more, and kept in
//! memory by a hash of exactly what it read. Told as not looked at yet, looking, or the answer.

use std::collections::HashMap;
use std::hash::Hash;
use std::panic::{AssertUnwindSafe, catch_unwind};
use std::sync::atomic::{AtomicBool, AtomicUsize, Ordering};
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};
use std::time::Duration;

use rocket::tokio::sync::{OwnedSemaphorePermit, watch};
use rocket::tokio::task::spawn_blocking;

use crate::time_limit::stop_when_time_is_up;

/// A search under way, or over: everything it told, in order.
pub(super) struct Looking<N> {
    /// Told so far; the last is the answer once it is over.
    told: Mutex<Vec<N>>,
    /// How much that is, and whether it is over.
    state: watch::Sender<(usize, bool)>,
    followers: AtomicUsize,
    stop: Arc<AtomicBool>,
}

enum Entry<N, A> {
    Looking {
        reads: u64,
        looking: Arc<Looking<N>>,
    },
    /// `whole` unless its time was up before it was done.
    Known {
        answers: Vec<u64>,
        answer: Arc<A>,
        whole: bool,
    },
}

/// How a question stands.
pub(super) enum Standing<N, A> {
    /// Nobody has asked, or what was asked is not what is now.
    NotLookedAt,
    /// Somebody is looking.
    Looking(Arc<Looking<N>>),
    /// It is known.
    Known(Arc<A>),
    /// As much of it is known as was found until the time was up.
    Partly(Arc<A>),
}

/// Questions by their key, each as it was asked last.
pub(super) struct LookedFor<K, N, A>(Mutex<HashMap<K, Entry<N, A>>>);

impl<K, N, A> Default for LookedFor<K, N, A> {
    fn default() -> Self {
        Self(Mutex::default())
    }
}

/// Most questions that are remembered: each holds some tens of kilobytes.
const MOST: usize = 200;

/// A panic while the lock was held leaves nothing half done behind it.
fn held<T>(lock: &Mutex<T>) -> MutexGuard<'_, T> {
    lock.lock().unwrap_or_else(PoisonError::into_inner)
}

impl<K: Hash + Eq + Clone, N, A> LookedFor<K, N, A> {
    /// How a question stands, now that it reads `reads`.
    pub(super) fn standing(&self, key: &K, reads: u64) -> Standing<N, A> {
        match held(&self.0).get(key) {
            Some(Entry::Known { answers, answer, whole }) if answers.contains(&reads) => {
                let answer = Arc::clone(answer);
                if *whole { Standing::Known(answer) } else { Standing::Partly(answer) }
            }
            Some(Entry::Looking { reads: asked, looking }) if *asked == reads && !looking.is_stopped() => {
                Standing::Looking(Arc::clone(looking))
            }
            _ => Standing::NotLookedAt,
        }
    }

    /// What was the answer when it was asked last, of whatever it read then.
    pub(super) fn before(&self, key: &K) -> Option<Arc<A>> {
        match held(&self.0).get(key)? {
            Entry::Known { answer, .. } => Some(Arc::clone(answer)),
            Entry::Looking { .. } => None,
        }
    }

    /// Notes that a search is under way. Whoever looked for an older form of the question goes on for those who follow.
    pub(super) fn begin(&self, key: K, reads: u64, stop: Arc<AtomicBool>) -> Arc<Looking<N>> {
        let (state, _) = watch::channel((0, false));
        let looking = Looking { told: Mutex::default(), state, followers: AtomicUsize::new(0), stop };
        let looking = Arc::new(looking);
        let mut all = held(&self.0);
        if all.len() >= MOST && !all.contains_key(&key) {
            all.retain(|_, entry| matches!(entry, Entry::Looking { looking, .. } if !looking.is_stopped()));
        }
        all.insert(key, Entry::Looking { reads, looking: Arc::clone(&looking) });
        looking
    }

    /// Keeps an answer, for everything it reads that has these hashes; a search that was called off has none, and one whose time
    /// was up has what it found by then.
    pub(super) fn known(&self, key: K, looking: &Arc<Looking<N>>, answers: Vec<u64>, answer: Arc<A>) {
        let mut all = held(&self.0);
        // Somebody may have asked anew in the meantime.
        let own = matches!(all.get(&key), Some(Entry::Looking { looking: now, .. }) if Arc::ptr_eq(now, looking));
        let whole = !looking.is_stopped();
        if own && (whole || looking.is_followed()) {
            all.insert(key, Entry::Known { answers, answer, whole });
        }
    }
}

/// Shares of a search, as far as they are worth telling.
#[derive(Default)]
pub(super) struct Twentieths(Mutex<Option<u32>>);

impl Twentieths {
    /// The share to the nearest twentieth, unless that was told last.
    pub(super) fn next(&self, share: f64) -> Option<f32> {
        #[expect(clippy::cast_possible_truncation, reason = "a share of 0 to 1")]
        let share = (share * 20.0).round() as f32 / 20.0;
        let mut before = held(&self.0);
        (*before != Some(share.to_bits())).then(|| {
            *before = Some(share.to_bits());
            share
        })
    }
}

/// How a search ended: what is told last and, where it has an answer, the hashes of what that answers for.
pub(super) struct Ended<N, A> {
    pub(super) news: N,
    pub(super) answer: Option<(Vec<u64>, Arc<A>)>,
}

impl<K, N, A> LookedFor<K, N, A>
where
    K: Hash + Eq + Clone + Send + 'static,
    N: Clone + Send + Sync + 'static,
    A: Send + Sync + 'static,
{
    /// Begins a search on a thread of its own and follows it; it is called off when its time is up or nobody follows any more.
    /// What `broke` says is told where it breaks off.
    pub(super) fn look(
        self: &Arc<Self>,
        key: K,
        reads: u64,
        longest: Duration,
        leave: OwnedSemaphorePermit,
        broke: impl FnOnce() -> N + Send + 'static,
        work: impl FnOnce(&Looking<N>, &AtomicBool) -> Ended<N, A> + Send + 'static,
    ) -> Follower<N> {
        let stop = Arc::new(AtomicBool::new(false));
        stop_when_time_is_up(&stop, longest);
        let looking = self.begin(key.clone(), reads, Arc::clone(&stop));
        let follower = looking.follow();
        let all = Arc::clone(self);
        spawn_blocking(move || {
            // Kept until the search has ended, however soon nobody listens any more.
            let _leave = leave;
            let searched = catch_unwind(AssertUnwindSafe(|| work(&looking, &stop)));
            looking.end(match searched {
                Ok(Ended { news, answer }) => {
                    if let Some((answers, answer)) = answer {
                        all.known(key, &looking, answers, answer);
                    }
                    news
                }
                Err(_) => broke(),
            });
        });
        follower
    }
}

impl<N: Clone> Looking<N> {
    /// Tells of how it goes.
    pub(super) fn tell(&self, news: N) {
        let mut told = held(&self.told);
        told.push(news);
        self.state.send_modify(|state| state.0 = told.len());
    }

    /// Tells how it ended.
    pub(super) fn end(&self, news: N) {
        self.tell(news);
        self.state.send_modify(|state| state.1 = true);
    }

    /// What it told last that `of` knows of.
    pub(super) fn latest<T>(&self, of: impl Fn(&N) -> Option<T>) -> Option<T> {
        held(&self.told).iter().rev().find_map(of)
    }

    /// Follows it from its beginning. When the last one who follows goes, it is called off.
    pub(super) fn follow(self: &Arc<Self>) -> Follower<N> {
        self.followers.fetch_add(1, Ordering::SeqCst);
        Follower { heard: 0, state: self.state.subscribe(), looking: Arc::clone(self) }
    }
}

impl<N> Looking<N> {
    fn is_followed(&self) -> bool {
        self.followers.load(Ordering::SeqCst) > 0
    }

    fn is_stopped(&self) -> bool {
        self.stop.load(Ordering::Relaxed)
    }
}

/// Somebody who follows a search.
pub(super) struct Follower<N> {
    heard: usize,
    state: watch::Receiver<(usize, bool)>,
    looking: Arc<Looking<N>>,
}

impl<N: Clone> Follower<N> {
    /// What is told next; `None` once it is over.
    pub(super) async fn next(&mut self) -> Option<N> {
        loop {
            if let Some(news) = held(&self.looking.told).get(self.heard).cloned() {
                self.heard += 1;
                return Some(news);
            }
            if self.state.borrow_and_update().1 {
                return held(&self.looking.told).get(self.heard).cloned().inspect(|_| self.heard += 1);
            }
            self.state.changed().await.ok()?;
        }
    }
}

impl<N> Drop for Follower<N> {
    fn drop(&mut self) {
        if self.looking.followers.fetch_sub(1, Ordering::SeqCst) == 1 && !self.state.borrow().1 {
            self.looking.stop.store(true, Ordering::Relaxed);
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    type Asked = LookedFor<u8, &'static str, u8>;

    fn begin(all: &Asked, reads: u64) -> Arc<Looking<&'static str>> {
        all.begin(1, reads, Arc::new(AtomicBool::new(false)))
    }

    #[rocket::async_test]
    async fn who_comes_late_hears_all_and_the_last_to_go_calls_it_off() {
        let all = Asked::default();
        assert!(matches!(all.standing(&1, 7), Standing::NotLookedAt));
        let looking = begin(&all, 7);
        let mut first = looking.follow();
        looking.tell("half");
        let Standing::Looking(same) = all.standing(&1, 7) else { panic!("it is under way") };
        let mut second = same.follow();
        assert_eq!((first.next().await, second.next().await), (Some("half"), Some("half")));
        drop(first);
        assert!(!looking.is_stopped(), "somebody follows still");
        looking.end("done");
        assert_eq!((second.next().await, second.next().await), (Some("done"), None));
        all.known(1, &looking, vec![7, 8], Arc::new(42));
        drop(second);
        assert!(matches!(all.standing(&1, 8), Standing::Known(answer) if *answer == 42));
        assert!(matches!(all.standing(&1, 9), Standing::NotLookedAt), "it read something else");
    }

    #[rocket::async_test]
    async fn what_was_called_off_or_overtaken_is_no_answer() {
        let all = Asked::default();
        let old = begin(&all, 7);
        drop(old.follow());
        assert!(old.is_stopped() && matches!(all.standing(&1, 7), Standing::NotLookedAt));
        let stale = begin(&all, 7);
        let _follows = stale.follow();
        let new = begin(&all, 8);
        all.known(1, &stale, vec![7], Arc::new(1));
        assert!(matches!(all.standing(&1, 8), Standing::Looking(now) if Arc::ptr_eq(&now, &new)));
    }
}
