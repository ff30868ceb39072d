//! Where instruments and fields meet: reads every instrument, judges each reading for the field that waits, logs every
//! line as it came, and tells whoever listens.

use std::convert::Infallible;
use std::net::{Ipv4Addr, SocketAddr};
use std::sync::atomic::{AtomicU64, Ordering};
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};
use std::time::{Duration, Instant};

use nook_devices::{Kind, Line, NamedInstrument, Order};
use nook_store::{LineOutcome, Store};
use rocket::tokio::io::{AsyncBufReadExt, AsyncReadExt, AsyncWriteExt, BufReader};
use rocket::tokio::net::TcpStream;
use rocket::tokio::sync::{broadcast, mpsc};
use rocket::tokio::{select, spawn, time};
use serde::Serialize;
use utoipa::ToSchema;

use super::Field;

/// How an instrument is.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub(crate) struct InstrumentStatus {
    /// What it is called.
    pub(super) name: String,
    /// What it is.
    pub(super) kind: Kind,
    /// Whether it answers.
    pub(super) connected: bool,
    /// Charge left in percent, once it has told.
    pub(super) battery: Option<u8>,
    /// Whether its battery should be changed.
    pub(super) low: bool,
    /// Readings whose line never arrived whole.
    pub(super) lost: u32,
}

/// What listeners are told, as server-sent events.
#[derive(Debug, Clone, Serialize, ToSchema)]
#[serde(tag = "is", rename_all = "snake_case")]
pub(crate) enum InstrumentNews {
    /// An instrument came, went, or told of its battery.
    Status {
        /// How it is.
        status: InstrumentStatus,
    },
    /// A reading for the field that waits.
    Taken {
        /// Which listener's field.
        listener: u64,
        /// Which instrument.
        instrument: String,
        /// In mm, degrees or bar.
        value: f64,
        /// All figures of the reading, in its instrument's order.
        figures: Vec<f64>,
    },
    /// A reading that is impossible for the field that waits; it is in the log.
    Refused {
        /// Which listener's field.
        listener: u64,
        /// Which instrument.
        instrument: String,
        /// Why.
        why: String,
    },
    /// A line that could not be read; it is in the log.
    Garbled {
        /// Which instrument.
        instrument: String,
        /// Why.
        why: String,
    },
}

/// Charge in percent below which a battery should be changed.
const LOW: u8 = 15;
/// Longest line that is listened to, in bytes.
const LONGEST: u64 = 400;
/// How long to wait before knocking again.
const AGAIN: Duration = Duration::from_millis(700);
/// How long to wait after an instrument sent more than anybody can press.
const AFTER_FLOOD: Duration = Duration::from_secs(30);
/// Most lines that are heard in [`FLOOD_SPAN`].
const MOST_LINES: u32 = 60;
const FLOOD_SPAN: Duration = Duration::from_secs(3);
/// Readings that can be lost one after the other; a larger jump is an instrument that began to count anew.
const MOST_LOST: u32 = 1000;

/// All instruments.
pub(crate) struct Hub {
    instruments: Vec<Instrument>,
    news: broadcast::Sender<InstrumentNews>,
    /// Fields that wait, each with its listener; the last has the focus.
    waiting: Mutex<Vec<(u64, Field)>>,
    listeners: AtomicU64,
}

struct Instrument {
    status: Mutex<InstrumentStatus>,
    /// What it should read when it is pressed next.
    presses: mpsc::Sender<Vec<f64>>,
}

/// Why a stand-in was not pressed.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum NotPressed {
    /// The server was started without instruments.
    NoSuch,
    /// Nothing answers where it should be.
    NotConnected,
    /// It has not done what it was told before.
    Busy,
}

/// Why a conversation ended.
enum Ended {
    /// The other side is gone.
    Gone,
    /// It sent more than anybody can press.
    Flood,
}

impl From<std::io::Error> for Ended {
    fn from(_: std::io::Error) -> Self {
        Self::Gone
    }
}

/// A panic while the lock was held leaves nothing half done behind it.
fn held<T>(lock: &Mutex<T>) -> MutexGuard<'_, T> {
    lock.lock().unwrap_or_else(PoisonError::into_inner)
}

impl Hub {
    /// Begins to read the instruments at these addresses.
    pub(crate) fn start(at: &[NamedInstrument], store: &Store) -> Arc<Self> {
        let (news, _) = broadcast::channel(256);
        let mut ears = Vec::new();
        let instruments = at.iter().map(|NamedInstrument { name, kind, port }| {
            let (presses, ear) = mpsc::channel(16);
            ears.push((SocketAddr::from((Ipv4Addr::LOCALHOST, *port)), ear));
            let (name, kind) = (name.clone(), *kind);
            let status = InstrumentStatus { name, kind, connected: false, battery: None, low: false, lost: 0 };
            Instrument { status: Mutex::new(status), presses }
        });
        let hub =
            Self { instruments: instruments.collect(), news, waiting: Mutex::default(), listeners: AtomicU64::new(1) };
        let hub = Arc::new(hub);
        for (index, (address, mut ear)) in ears.into_iter().enumerate() {
            let (hub, store) = (Arc::clone(&hub), store.clone());
            spawn(async move {
                loop {
                    // A broken connection is what instruments do; it is knocked on again.
                    let Err(ended) = hub.converse(index, address, &mut ear, &store).await;
                    hub.change(index, |status| status.connected = false);
                    match ended {
                        Ended::Gone => time::sleep(AGAIN).await,
                        Ended::Flood => {
                            hub.flooded(index, &store).await;
                            time::sleep(AFTER_FLOOD).await;
                        }
                    }
                }
            });
        }
        hub
    }

    /// How every instrument is.
    pub(crate) fn statuses(&self) -> Vec<InstrumentStatus> {
        self.instruments.iter().map(|instrument| held(&instrument.status).clone()).collect()
    }

    /// Listens, with a field that waits for a reading or without. The latest field has the focus.
    pub(crate) fn listen(self: &Arc<Self>, field: Option<Field>) -> Listener {
        let id = self.listeners.fetch_add(1, Ordering::Relaxed);
        if let Some(field) = field {
            held(&self.waiting).push((id, field));
        }
        Listener { id, news: self.news.subscribe(), hub: Arc::clone(self) }
    }

    /// Tells a stand-in what to read and presses its button.
    ///
    /// # Errors
    /// [`NotPressed`] as its variants say; it never waits for an instrument that does not answer.
    pub(crate) fn press(&self, name: &str, aim: Vec<f64>) -> Result<(), NotPressed> {
        let instrument =
            self.instruments.iter().find(|one| held(&one.status).name == name).ok_or(NotPressed::NoSuch)?;
        if !held(&instrument.status).connected {
            return Err(NotPressed::NotConnected);
        }
        instrument.presses.try_send(aim).map_err(|_| NotPressed::Busy)
    }

    fn change(&self, index: usize, change: impl FnOnce(&mut InstrumentStatus)) {
        let status = {
            let mut status = held(&self.instruments[index].status);
            change(&mut status);
            status.clone()
        };
        // Nobody need be listening.
        let _ = self.news.send(InstrumentNews::Status { status });
    }

    async fn converse(
        &self,
        index: usize,
        address: SocketAddr,
        ear: &mut mpsc::Receiver<Vec<f64>>,
        store: &Store,
    ) -> Result<Infallible, Ended> {
        let stream = TcpStream::connect(address).await?;
        let (hear, mut say) = stream.into_split();
        let mut hear = BufReader::new(hear);
        // What was pressed while it was away is not pressed now.
        while ear.try_recv().is_ok() {}
        self.change(index, |status| status.connected = true);
        let (mut line, mut last) = (Vec::new(), None);
        let (mut since, mut lines) = (Instant::now(), 0_u32);
        loop {
            let mut limited = (&mut hear).take(LONGEST);
            select! {
                read = limited.read_until(b'\n', &mut line) => {
                    if read? == 0 {
                        return Err(Ended::Gone);
                    }
                    if since.elapsed() > FLOOD_SPAN {
                        (since, lines) = (Instant::now(), 0);
                    }
                    lines += 1;
                    if lines > MOST_LINES {
                        return Err(Ended::Flood);
                    }
                    let text = String::from_utf8_lossy(&line).trim_end().to_owned();
                    line.clear();
                    self.heard(index, &text, &mut last, store).await;
                }
                aim = ear.recv() => {
                    let aim = aim.ok_or(Ended::Gone)?;
                    say.write_all(format!("{}\n{}\n", Order::Aim(aim), Order::Press).as_bytes()).await?;
                }
            }
        }
    }

    /// Tells and logs that an instrument was hung up on, once for all the lines that are not in the log.
    async fn flooded(&self, index: usize, store: &Store) {
        let name = held(&self.instruments[index].status).name.clone();
        let (span, pause) = (FLOOD_SPAN.as_secs(), AFTER_FLOOD.as_secs());
        let why = format!("more than {MOST_LINES} lines in {span} s; nothing is heard from it for {pause} s");
        if let Err(error) = store.log_line(&name, "", LineOutcome::Garbled, Some(&why)).await {
            tracing::error!(%error, "a flood of lines was not logged");
        }
        let _ = self.news.send(InstrumentNews::Garbled { instrument: name, why });
    }

    /// Judges a line, logs it and tells of it. `last` is the count of the reading before.
    async fn heard(&self, index: usize, text: &str, last: &mut Option<u32>, store: &Store) {
        let (name, own) = {
            let status = held(&self.instruments[index].status);
            (status.name.clone(), status.kind)
        };
        let mut news = None;
        let (outcome, why) = match text.parse::<Line>() {
            Err(error) => {
                self.change(index, |status| status.lost = status.lost.saturating_add(1));
                news = Some(InstrumentNews::Garbled { instrument: name.clone(), why: error.to_string() });
                (LineOutcome::Garbled, Some(error.to_string()))
            }
            Ok(Line::Hello { kind }) if kind == own => (LineOutcome::Status, None),
            Ok(Line::Hello { kind }) => {
                (LineOutcome::Status, Some(format!("a {} answers where the {} should", kind.word(), own.word())))
            }
            Ok(Line::Battery { percent }) => {
                self.change(index, |status| (status.battery, status.low) = (Some(percent), percent < LOW));
                (LineOutcome::Status, None)
            }
            Ok(Line::Read { count, kind, figures }) => {
                let missed = last.map_or(0, |last| count.saturating_sub(last).saturating_sub(1));
                *last = Some(count);
                if (1..=MOST_LOST).contains(&missed) {
                    self.change(index, |status| status.lost = status.lost.saturating_add(missed));
                }
                let (judged, outcome, why) = self.judged(&name, kind, &figures);
                news = judged;
                (outcome, why)
            }
        };
        if let Err(error) = store.log_line(&name, text, outcome, why.as_deref()).await {
            tracing::error!(%error, "an instrument's line was not logged");
        }
        // Told only once it is in the log: what somebody was told of can be looked up.
        if let Some(news) = news {
            let _ = self.news.send(news);
        }
    }

    fn judged(&self, name: &str, kind: Kind, figures: &[f64]) -> (Option<InstrumentNews>, LineOutcome, Option<String>) {
        let focus = held(&self.waiting).last().copied();
        let Some((listener, field)) = focus else {
            return (None, LineOutcome::Unclaimed, Some("no field was waiting".to_owned()));
        };
        let instrument = name.to_owned();
        match field.take(kind, figures) {
            Ok(value) => {
                let figures = figures.to_vec();
                (Some(InstrumentNews::Taken { listener, instrument, value, figures }), LineOutcome::Taken, None)
            }
            Err(why) => {
                let news = InstrumentNews::Refused { listener, instrument, why: why.clone() };
                (Some(news), LineOutcome::Refused, Some(why))
            }
        }
    }
}

/// Somebody who listens. When it goes, its field no longer waits, and the one that waited before has the focus again.
pub(crate) struct Listener {
    id: u64,
    news: broadcast::Receiver<InstrumentNews>,
    hub: Arc<Hub>,
}

impl Listener {
    /// The next news that is for this listener; `None` when there will be no more.
    pub(crate) async fn next(&mut self) -> Option<InstrumentNews> {
        loop {
            match self.news.recv().await {
                Ok(InstrumentNews::Taken { listener, .. } | InstrumentNews::Refused { listener, .. })
                    if listener != self.id => {}
                Ok(news) => return Some(news),
                // A listener who was too slow goes on with what is new.
                Err(broadcast::error::RecvError::Lagged(_)) => {}
                Err(broadcast::error::RecvError::Closed) => return None,
            }
        }
    }
}

impl Drop for Listener {
    fn drop(&mut self) {
        held(&self.hub.waiting).retain(|(id, _)| *id != self.id);
    }
}
