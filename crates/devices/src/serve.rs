//! Stand-ins on loopback TCP, one port each.

use std::io;
use std::net::{Ipv4Addr, SocketAddr};
use std::sync::Arc;

use tokio::io::{AsyncBufReadExt, AsyncWriteExt, BufReader};
use tokio::net::{TcpListener, TcpStream};
use tokio::sync::Mutex;

use crate::{Kind, Order, Sent, StandIn};

/// Where the stand-ins listen, in the order of [`Kind::ALL`].
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct StandIns {
    /// Tape, gauge and caliper.
    pub at: [SocketAddr; 3],
}

/// Longest order a stand-in listens to, in bytes.
const LONGEST: u64 = 200;

/// The last port that has two more after it.
pub const LAST_FIRST_PORT: u16 = u16::MAX - 2;

/// Ports of tape, gauge and caliper when the tape's is `first`; nothing beyond [`LAST_FIRST_PORT`].
#[must_use]
pub fn ports_from(first: u16) -> Option<[u16; 3]> {
    Some([first, first.checked_add(1)?, first.checked_add(2)?])
}

/// Starts the three stand-ins on loopback: on `first`, `first + 1` and `first + 2`, or on any free ports when `first`
/// is 0. They serve until the runtime ends.
///
/// # Errors
/// When a port cannot be opened, or `first` is beyond [`LAST_FIRST_PORT`].
pub async fn serve_stand_ins(first: u16, stand_ins: [StandIn; 3]) -> io::Result<StandIns> {
    let none_left = || io::Error::new(io::ErrorKind::InvalidInput, format!("{LAST_FIRST_PORT} is the last first port"));
    let ports = if first == 0 { [0; 3] } else { ports_from(first).ok_or_else(none_left)? };
    let mut at = [SocketAddr::from((Ipv4Addr::LOCALHOST, 0)); 3];
    for (index, (stand_in, at)) in stand_ins.into_iter().zip(&mut at).enumerate() {
        let listener = TcpListener::bind((Ipv4Addr::LOCALHOST, ports[index])).await?;
        *at = listener.local_addr()?;
        let shared = Arc::new(Mutex::new(stand_in));
        tokio::spawn(async move {
            // An accept that fails (too many open files, say) is tried again when the next one knocks.
            loop {
                if let Ok((stream, _)) = listener.accept().await {
                    let shared = Arc::clone(&shared);
                    // A listener who goes away ends its own conversation and nothing else.
                    tokio::spawn(async move { drop(converse(stream, &shared).await) });
                }
            }
        });
    }
    debug_assert_eq!(at.len(), Kind::ALL.len());
    Ok(StandIns { at })
}

async fn converse(stream: TcpStream, stand_in: &Mutex<StandIn>) -> io::Result<()> {
    let (hear, mut say) = stream.into_split();
    for line in stand_in.lock().await.greeting() {
        say.write_all(format!("{line}\n").as_bytes()).await?;
    }
    let mut lines = BufReader::new(hear);
    loop {
        let mut line = Vec::new();
        let mut limited = tokio::io::AsyncReadExt::take(&mut lines, LONGEST);
        if limited.read_until(b'\n', &mut line).await? == 0 {
            return Ok(());
        }
        match String::from_utf8_lossy(&line).parse() {
            Ok(Order::Aim(figures)) => stand_in.lock().await.aim(&figures),
            Ok(Order::Press) => {
                for sent in stand_in.lock().await.press() {
                    match sent {
                        Sent::Line(line) | Sent::Cut(line) => say.write_all(format!("{line}\n").as_bytes()).await?,
                        Sent::Drop => return Ok(()),
                    }
                }
            }
            // Like a real one it does not answer what it does not understand.
            Err(_) => {}
        }
    }
}
