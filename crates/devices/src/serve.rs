//! Stand-ins on loopback TCP, one port each.

use std::io;
use std::net::{Ipv4Addr, SocketAddr};
use std::sync::Arc;
use std::time::Instant;

use tokio::io::{AsyncBufReadExt, AsyncWriteExt, BufReader};
use tokio::net::{TcpListener, TcpStream};
use tokio::sync::Mutex;

use crate::{Order, Sent, StandIn};

/// Longest order a stand-in listens to, in bytes.
const LONGEST: u64 = 200;

/// Starts stand-ins on loopback, each on its port or, where that is 0, on any free one; tells where they listen, in their
/// order. They serve until the runtime ends.
///
/// # Errors
/// When a port cannot be opened.
pub async fn serve_stand_ins(stand_ins: impl IntoIterator<Item = (StandIn, u16)>) -> io::Result<Vec<SocketAddr>> {
    let mut at = Vec::new();
    for (stand_in, port) in stand_ins {
        let listener = TcpListener::bind((Ipv4Addr::LOCALHOST, port)).await?;
        at.push(listener.local_addr()?);
        let shared = Arc::new(Mutex::new(stand_in));
        let since = Instant::now();
        tokio::spawn(async move {
            // An accept that fails (too many open files, say) is tried again when the next one knocks.
            loop {
                if let Ok((stream, _)) = listener.accept().await {
                    let shared = Arc::clone(&shared);
                    // A listener who goes away ends its own conversation and nothing else.
                    tokio::spawn(async move { drop(converse(stream, &shared, since).await) });
                }
            }
        });
    }
    Ok(at)
}

async fn converse(stream: TcpStream, stand_in: &Mutex<StandIn>, since: Instant) -> io::Result<()> {
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
            Ok(Order::Aim(figures)) => {
                let mut stand_in = stand_in.lock().await;
                stand_in.tick(since.elapsed().as_secs_f64());
                stand_in.aim(&figures);
            }
            Ok(Order::Press) => {
                let mut stand_in = stand_in.lock().await;
                stand_in.tick(since.elapsed().as_secs_f64());
                for sent in stand_in.press() {
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
