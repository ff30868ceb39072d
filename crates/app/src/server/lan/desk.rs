//! Pairing codes, and how often they may be tried.

use std::collections::HashMap;
use std::net::{IpAddr, Ipv6Addr};
use std::time::{Duration, Instant};

/// How long a code is good for.
const GOOD_FOR: Duration = Duration::from_mins(10);
/// Wrong tries that one peer has within [`WINDOW`].
const TRIES: u32 = 5;
/// How long a peer's wrong tries count.
const WINDOW: Duration = Duration::from_mins(15);
/// Wrong tries, by whomever, after which a code is void: of a hundred million codes that leaves one in five million.
const TRIES_IN_ALL: u32 = 20;
/// Peers whose tries are counted.
const MOST_PEERS: usize = 1000;

/// A code of eight digits, good for one device.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) struct Code {
    /// Eight digits.
    pub(crate) digits: String,
    made: Instant,
    wrong: u32,
}

/// What became of a try.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Try {
    /// It is the code, which is used up by it.
    Right,
    /// It is not; so many tries are left to this peer.
    Wrong {
        /// How many.
        left: u32,
    },
    /// No code is out.
    NoCode,
    /// This peer has tried too often.
    Wait {
        /// How long.
        time: Duration,
    },
}

/// The code that is out, and who tried.
#[derive(Debug, Default)]
pub(crate) struct Desk {
    code: Option<Code>,
    /// Whether the last code is void because it was tried too often.
    void: bool,
    tries: HashMap<IpAddr, (u32, Instant)>,
}

impl Desk {
    /// Puts out a code in place of any other; `number` is from the operating system's random source.
    pub(crate) fn put_out(&mut self, number: u64, now: Instant) {
        self.void = false;
        self.code = Some(Code { digits: format!("{:08}", number % 100_000_000), made: now, wrong: 0 });
    }

    /// Takes the code back.
    pub(crate) fn take_back(&mut self) {
        self.code = None;
        self.void = false;
    }

    /// The code that is out, and how long it is good for.
    pub(crate) fn out(&self, now: Instant) -> Option<(&Code, Duration)> {
        let code = self.code.as_ref()?;
        let left = GOOD_FOR.checked_sub(now.saturating_duration_since(code.made))?;
        (!left.is_zero()).then_some((code, left))
    }

    /// Whether the last code was tried too often.
    pub(crate) const fn is_void(&self) -> bool {
        self.void
    }

    /// A peer tries a code. Blanks and dashes in it do not count.
    pub(crate) fn try_code(&mut self, peer: IpAddr, code: &str, now: Instant) -> Try {
        let peer = one_place(peer);
        self.tries.retain(|_, (_, first)| now.saturating_duration_since(*first) < WINDOW);
        let (before, first) = self.tries.get(&peer).copied().unwrap_or((0, now));
        if before >= TRIES {
            return Try::Wait { time: WINDOW.saturating_sub(now.saturating_duration_since(first)) };
        }
        let Some((out, _)) = self.out(now) else { return Try::NoCode };
        let tried: String = code.chars().filter(|letter| !letter.is_whitespace() && *letter != '-').collect();
        if tried == out.digits {
            self.code = None;
            self.tries.remove(&peer);
            return Try::Right;
        }
        if self.tries.len() >= MOST_PEERS && !self.tries.contains_key(&peer) {
            return Try::Wait { time: WINDOW };
        }
        self.tries.insert(peer, (before + 1, first));
        if let Some(out) = &mut self.code {
            out.wrong += 1;
            if out.wrong >= TRIES_IN_ALL {
                self.code = None;
                self.void = true;
            }
        }
        Try::Wrong { left: TRIES - before - 1 }
    }
}

/// A device may take any address of its link's block (IPv6, 64 bits): the block counts as one peer.
fn one_place(peer: IpAddr) -> IpAddr {
    match peer.to_canonical() {
        IpAddr::V6(peer) => Ipv6Addr::from_bits(peer.to_bits() & !u128::from(u64::MAX)).into(),
        peer @ IpAddr::V4(_) => peer,
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn peer(last: u8) -> IpAddr {
        IpAddr::from([192, 168, 1, last])
    }

    fn desk() -> (Desk, Instant) {
        let now = Instant::now();
        let mut desk = Desk::default();
        desk.put_out(7_012_345_678, now);
        (desk, now)
    }

    #[test]
    fn a_code_pairs_one_device_within_ten_minutes() {
        let (mut desk, now) = desk();
        let late = now + Duration::from_mins(10);
        assert!(desk.out(late).is_none());
        assert_eq!(desk.try_code(peer(1), "12345678", late), Try::NoCode);
        assert_eq!(desk.try_code(peer(1), " 1234-5678 ", now + Duration::from_secs(599)), Try::Right);
        assert_eq!(desk.try_code(peer(1), "12345678", now), Try::NoCode);
    }

    #[test]
    fn after_five_wrong_tries_a_peer_waits_even_with_the_right_code_and_others_do_not() {
        let (mut desk, now) = desk();
        for left in (0..TRIES).rev() {
            assert_eq!(desk.try_code(peer(1), "12345679", now), Try::Wrong { left });
        }
        let later = now + Duration::from_mins(6);
        assert_eq!(desk.try_code(peer(1), "12345678", later), Try::Wait { time: Duration::from_mins(9) });
        assert_eq!(desk.try_code(peer(2), "12345678", later), Try::Right);
        let mut again = Desk { tries: desk.tries, ..Desk::default() };
        again.put_out(7, now + WINDOW);
        assert_eq!(again.try_code(peer(1), "00000007", now + WINDOW), Try::Right);
    }

    #[test]
    fn a_new_code_gives_no_new_tries() {
        let (mut desk, now) = desk();
        for _ in 0..TRIES {
            desk.try_code(peer(1), "0", now);
        }
        desk.put_out(8, now);
        assert!(matches!(desk.try_code(peer(1), "00000008", now), Try::Wait { .. }));
    }

    #[test]
    fn many_peers_together_void_a_code_after_twenty_tries() {
        let (mut desk, now) = desk();
        for last in 0..20 {
            assert!(!desk.is_void());
            assert_eq!(desk.try_code(peer(last), "1", now), Try::Wrong { left: 4 });
        }
        assert!(desk.is_void());
        assert_eq!(desk.try_code(peer(99), "12345678", now), Try::NoCode);
        desk.put_out(5, now);
        assert!(!desk.is_void());
    }

    #[test]
    fn addresses_of_one_block_are_one_peer_and_so_is_one_written_two_ways() {
        let (mut desk, now) = desk();
        for last in 0..5 {
            let here: IpAddr = format!("fd00:1:2:3::{last}").parse().unwrap_or(peer(0));
            desk.try_code(here, "1", now);
        }
        let again = "fd00:1:2:3:ffff::1".parse().unwrap_or(peer(0));
        assert!(matches!(desk.try_code(again, "12345678", now), Try::Wait { .. }));
        let mapped = "::ffff:192.168.1.7".parse().unwrap_or(peer(0));
        assert_eq!(one_place(mapped), peer(7));
    }
}
