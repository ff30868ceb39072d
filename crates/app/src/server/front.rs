//! The listener in front of the framework, which itself sets no time limits: it caps how many connections are open, and
//! closes those that do not say what they want, or say nothing more.

use std::io;
use std::net::{IpAddr, Ipv4Addr, SocketAddr};
use std::sync::Arc;
use std::sync::atomic::{AtomicU64, Ordering};
use std::time::Duration;

use rocket::Shutdown;
use rocket::tokio::io::{AsyncRead, AsyncReadExt, AsyncWrite, AsyncWriteExt, split};
use rocket::tokio::net::{TcpListener, TcpSocket, TcpStream};
use rocket::tokio::sync::Semaphore;
use rocket::tokio::time::{Instant, sleep, sleep_until, timeout};
use rocket::tokio::{join, select, spawn};
use tokio_rustls::TlsAcceptor;

use super::lan::Lan;

/// Most connections that are open at once: a browser opens six to one server.
const CONNECTIONS: usize = 200;
/// How long the first request's head may take.
const HEAD: Duration = Duration::from_secs(10);
/// Largest head in bytes, which is also what the framework takes at most.
const LARGEST_HEAD: usize = 16 * 1024;
/// How long a connection may lie idle in both directions. Streams of events send a sign of life twice as often.
const IDLE: Duration = Duration::from_secs(75);
/// Bytes that are passed on at once.
const BUFFER: usize = 32 * 1024;

const FULL: &[u8] = b"HTTP/1.1 503 Service Unavailable\r\nContent-Type: text/plain\r\nConnection: close\r\n\r\n\
    Too many connections are open. Close some pages and do it again.\n";
const LATE: &[u8] = b"HTTP/1.1 408 Request Timeout\r\nContent-Type: text/plain\r\nConnection: close\r\n\r\n\
    The request did not come to an end in time.\n";

/// What a listener does before it passes anything on.
#[derive(Clone)]
pub(super) enum Way {
    /// Nothing: it is reached from this machine alone.
    Plain,
    /// TLS, for the local network.
    Tls(TlsAcceptor, Arc<Lan>),
}

/// A listener.
pub(super) struct Front(TcpListener);

impl Front {
    /// Listens at an address.
    ///
    /// # Errors
    /// When it cannot be opened.
    pub(super) async fn bind(at: SocketAddr) -> io::Result<Self> {
        TcpListener::bind(at).await.map(Self)
    }

    /// Where it listens.
    ///
    /// # Errors
    /// When the system does not say.
    pub(super) fn at(&self) -> io::Result<SocketAddr> {
        self.0.local_addr()
    }

    /// Passes connections on to the server on port `inner` until `end`.
    pub(super) async fn serve(self, way: Way, inner: u16, mut end: Shutdown) {
        let places = Arc::new(Semaphore::new(CONNECTIONS));
        let inner = SocketAddr::from((Ipv4Addr::LOCALHOST, inner));
        loop {
            let accepted = select! {
                accepted = self.0.accept() => accepted,
                () = &mut end => return,
            };
            let Ok((mut client, peer)) = accepted else {
                // Out of file handles, most likely; some will be given back.
                sleep(Duration::from_millis(100)).await;
                continue;
            };
            // Only slower without.
            drop(client.set_nodelay(true));
            let place = Arc::clone(&places).try_acquire_owned();
            let way = way.clone();
            spawn(async move {
                let Ok(_place) = place else {
                    // Who does not read the answer is closed all the same.
                    if matches!(way, Way::Plain) {
                        drop(timeout(HEAD, client.write_all(FULL)).await);
                    }
                    return;
                };
                // A connection that breaks ends itself and nothing else.
                drop(match way {
                    Way::Plain => pass(client, inner, None).await,
                    Way::Tls(acceptor, lan) => pass_tls(client, inner, &acceptor, &lan, peer.ip()).await,
                });
            });
        }
    }
}

/// First byte of a TLS connection: a handshake record (RFC 8446, 5.1).
const HANDSHAKE: u8 = 22;

async fn pass_tls(
    mut client: TcpStream,
    inner: SocketAddr,
    acceptor: &TlsAcceptor,
    lan: &Lan,
    peer: IpAddr,
) -> io::Result<()> {
    let mut cuts = lan.cuts();
    let mut first = [0];
    let Ok(peeked) = timeout(HEAD, client.peek(&mut first)).await else { return Ok(()) };
    if peeked? > 0 && first[0] != HANDSHAKE {
        // Somebody left out the https.
        let answer = format!(
            "HTTP/1.1 308 Permanent Redirect\r\nLocation: {}/\r\nContent-Length: 0\r\nConnection: close\r\n\r\n",
            lan.url()
        );
        let mut head = Vec::new();
        drop(timeout(HEAD, read_head(&mut client, &mut head)).await);
        return client.write_all(answer.as_bytes()).await;
    }
    let Ok(client) = timeout(HEAD, acceptor.accept(client)).await else { return Ok(()) };
    let client = client?;
    select! {
        passed = pass(client, inner, Some((lan, peer))) => passed,
        _ = cuts.changed() => Ok(()),
    }
}

async fn pass(
    mut client: impl AsyncRead + AsyncWrite + Unpin,
    inner: SocketAddr,
    of: Option<(&Lan, IpAddr)>,
) -> io::Result<()> {
    let mut head = Vec::with_capacity(1024);
    let Ok(read) = timeout(HEAD, read_head(&mut client, &mut head)).await else {
        return if head.is_empty() { Ok(()) } else { client.write_all(LATE).await };
    };
    read?;
    if head.is_empty() {
        return Ok(());
    }
    let socket = TcpSocket::new_v4()?;
    socket.bind((Ipv4Addr::LOCALHOST, 0).into())?;
    let port = socket.local_addr()?.port();
    let known = of.map(|(lan, peer)| lan.peers.note(port, peer));
    let server = socket.connect(inner).await?;
    server.set_nodelay(true)?;
    let (mut from_server, mut to_server) = server.into_split();
    to_server.write_all(&head).await?;
    let (mut from_client, mut to_client) = split(client);
    // Dropped before the connection is, whose port may then speak for somebody else.
    let _known = known;
    let life = Life::new();
    let both = async {
        join!(pump(&mut from_client, &mut to_server, &life), pump(&mut from_server, &mut to_client, &life));
    };
    select! {
        () = both => {}
        () = life.ends() => {}
    }
    Ok(())
}

/// Reads until the head of a request is whole, too large, or there is no more.
async fn read_head(client: &mut (impl AsyncRead + Unpin), head: &mut Vec<u8>) -> io::Result<()> {
    loop {
        let from = head.len().saturating_sub(3);
        if client.read_buf(head).await? == 0 || head.len() >= LARGEST_HEAD {
            return Ok(());
        }
        if head[from..].windows(4).any(|end| end == b"\r\n\r\n") {
            return Ok(());
        }
    }
}

/// Passes on what comes until there is no more.
async fn pump(from: &mut (impl AsyncRead + Unpin), to: &mut (impl AsyncWrite + Unpin), life: &Life) {
    let mut buffer = vec![0; BUFFER];
    loop {
        let count = match from.read(&mut buffer).await {
            Ok(0) | Err(_) => break,
            Ok(count) => count,
        };
        life.sign();
        if to.write_all(&buffer[..count]).await.is_err() {
            break;
        }
        life.sign();
    }
    // The other direction may still have something to say.
    drop(to.shutdown().await);
}

/// When a connection last gave a sign of life.
struct Life {
    began: Instant,
    last: AtomicU64,
}

impl Life {
    fn new() -> Self {
        Self { began: Instant::now(), last: AtomicU64::new(0) }
    }

    fn sign(&self) {
        let millis = u64::try_from(self.began.elapsed().as_millis()).unwrap_or(u64::MAX);
        self.last.store(millis, Ordering::Relaxed);
    }

    /// Returns once it has lain idle for [`IDLE`].
    async fn ends(&self) {
        loop {
            let until = self.began + Duration::from_millis(self.last.load(Ordering::Relaxed)) + IDLE;
            if until <= Instant::now() {
                return;
            }
            sleep_until(until).await;
        }
    }
}
