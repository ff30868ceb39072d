//! Who is at the far end: the server behind the front sees only the front, which notes whom it speaks for.

use std::collections::HashMap;
use std::net::IpAddr;
use std::sync::{Mutex, MutexGuard, PoisonError};

use rocket::Request;

/// Addresses of peers by the port from which the front speaks for each to the server behind it. Never from a header.
#[derive(Debug, Default)]
pub(crate) struct Peers(Mutex<HashMap<u16, IpAddr>>);

/// Forgets a peer when it is dropped.
pub(crate) struct KnownPeer<'a> {
    peers: &'a Peers,
    port: u16,
}

impl Peers {
    /// Notes that `port` speaks for `peer`, before anything is said from it.
    pub(crate) fn note(&self, port: u16, peer: IpAddr) -> KnownPeer<'_> {
        self.all().insert(port, peer.to_canonical());
        KnownPeer { peers: self, port }
    }

    /// Who asks; nobody where the connection is not the front's, or has ended meanwhile.
    pub(crate) fn of(&self, request: &Request<'_>) -> Option<IpAddr> {
        let remote = request.remote()?;
        if !remote.ip().is_loopback() {
            return None;
        }
        self.all().get(&remote.port()).copied()
    }

    fn all(&self) -> MutexGuard<'_, HashMap<u16, IpAddr>> {
        self.0.lock().unwrap_or_else(PoisonError::into_inner)
    }
}

impl Drop for KnownPeer<'_> {
    fn drop(&mut self) {
        self.peers.all().remove(&self.port);
    }
}
