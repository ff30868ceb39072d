//! The way in from the local network: over TLS, and only for devices that were paired on this machine.
//!
//! A second server is mounted behind a listener of its own, so that what comes from outside can never be taken for what
//! comes from the machine itself, which stays open to all its programs as before.

mod certificate;
mod desk;
mod guard;
mod page;
mod peers;

use std::net::{IpAddr, SocketAddr};
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};
use std::time::Instant;

use nook_store::Store;
use rocket::tokio::sync::watch;
use rocket::{Build, Rocket, routes};
use thiserror::Error;
use time::OffsetDateTime;
use tokio_rustls::TlsAcceptor;

pub(crate) use certificate::CertificateError;
pub(super) use desk::Desk;
pub(super) use guard::{OnThisMachine, Paired};
pub(super) use peers::Peers;

use certificate::Certificate;

/// Why an address cannot be served to the local network.
#[derive(Debug, Error)]
#[error("--host {address}: {why}")]
pub(crate) struct UnfitAddress {
    address: IpAddr,
    why: &'static str,
}

/// Refuses addresses that no certificate or no link to scan can name.
///
/// # Errors
/// What is wrong with it.
pub(crate) fn fit_address(address: IpAddr) -> Result<(), UnfitAddress> {
    let why = match address.to_canonical() {
        address if address.is_unspecified() => {
            "phones must be told one address to ask; give this machine's own on your network, such as 192.168.1.20"
        }
        address if address.is_multicast() => "that address is nobody's own",
        IpAddr::V4(address) if address.is_broadcast() => "that address is nobody's own",
        IpAddr::V6(address) if address.is_unicast_link_local() => {
            "an address that begins with fe80 means another thing on every device; give one of another kind"
        }
        _ => return Ok(()),
    };
    Err(UnfitAddress { address, why })
}

/// What is known of the way in while it is open.
pub(crate) struct Lan {
    /// Where it is.
    pub(super) at: SocketAddr,
    /// SHA-256 of its certificate.
    pub(super) fingerprint: String,
    /// What a device may be told to trust: DER.
    pub(super) authority: Vec<u8>,
    /// Who asks.
    pub(super) peers: Peers,
    desk: Mutex<Desk>,
    cut: watch::Sender<u64>,
}

impl Lan {
    /// Makes ready to serve at an address, with the certificate that is kept in the store's folder.
    ///
    /// # Errors
    /// When there is none and none can be made or kept.
    pub(super) fn open(at: SocketAddr, store: &Store) -> Result<(Arc<Self>, TlsAcceptor), CertificateError> {
        let certificate = Certificate::keep(store.folder(), at.ip(), OffsetDateTime::now_utc())?;
        let acceptor = TlsAcceptor::from(Arc::new(certificate.tls));
        let lan = Self {
            at,
            fingerprint: certificate.fingerprint,
            authority: certificate.authority,
            peers: Peers::default(),
            desk: Mutex::default(),
            cut: watch::Sender::new(0),
        };
        Ok((Arc::new(lan), acceptor))
    }

    /// The address to open on a device.
    pub(super) fn url(&self) -> String {
        format!("https://{}", self.at)
    }

    /// The desk where codes are put out and tried.
    pub(super) fn desk(&self) -> MutexGuard<'_, Desk> {
        self.desk.lock().unwrap_or_else(PoisonError::into_inner)
    }

    /// Puts out a new code.
    ///
    /// # Errors
    /// When the operating system has no random number.
    pub(super) fn put_out_code(&self) -> Result<(), getrandom::Error> {
        let number = getrandom::u64()?;
        self.desk().put_out(number, Instant::now());
        Ok(())
    }

    /// Closes every connection from outside: a device whose session was ended may have a stream open that was begun
    /// before. Those that are still paired come back by themselves.
    pub(super) fn cut_connections(&self) {
        self.cut.send_modify(|times| *times += 1);
    }

    /// Tells when connections are to be closed.
    pub(super) fn cuts(&self) -> watch::Receiver<u64> {
        self.cut.subscribe()
    }
}

/// Where a server is reached from; one that does not say is taken for the network's.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Reach {
    /// From this machine alone.
    Machine,
    /// From the local network.
    Network,
}

/// Lets only paired devices in, but for the page where one pairs.
pub(super) fn paired_only(rocket: Rocket<Build>) -> Rocket<Build> {
    rocket
        .attach(guard::PairedOnly)
        .mount("/", routes![page::show, page::pair, page::font, page::authority])
        .mount("/api", routes![guard::unpaired, guard::unknown_device])
}

#[cfg(test)]
mod tests {
    use super::fit_address;

    #[test]
    fn only_addresses_that_a_phone_can_ask_are_fit() {
        for good in ["192.168.1.20", "127.0.0.1", "10.0.0.3", "fd00::7", "::1", "2001:db8::1"] {
            assert!(good.parse().is_ok_and(|address| fit_address(address).is_ok()), "{good}");
        }
        for bad in ["0.0.0.0", "::", "224.0.0.1", "ff02::1", "255.255.255.255", "fe80::1", "::ffff:0.0.0.0"] {
            assert!(bad.parse().is_ok_and(|address| fit_address(address).is_err()), "{bad}");
        }
    }
}
