//! Where instruments and fields meet: reads every instrument, judges each reading for the field that waits, logs every
//! line as it came, and tells whoever listens.

use std::net::SocketAddr;
use std::sync::atomic::{AtomicU64, Ordering};
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};
use std::time::Duration;

use nook_devices::{Kind, Line, Order};
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
    /// Which.
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
        kind: Kind,
        /// In mm or degrees.
        value: f64,
    },
    /// A reading that is impossible for the field that waits; it is in the log.
    Refused {
        /// Which listener's field.
        listener: u64,
        /// Which instrument.
        kind: Kind,
        /// Why.
        why: String,
    },
    /// A line that could not be read; it is in the log.
    Garbled {
        /// Which instrument.
        kind: Kind,
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

/// All instruments.
pub(crate) struct Hub {
    instruments: Vec<Instrument>,
    news: broadcast::Sender<InstrumentNews>,
    /// The field that has the focus: the latest listener's.
    focus: Mutex<Option<(u64, Field)>>,
    listeners: AtomicU64,
}

struct Instrument {
    status: Mutex<InstrumentStatus>,
    orders: mpsc::Sender<Order>,
}

/// A panic while the lock was held leaves nothing half done behind it.
fn held<T>(lock: &Mutex<T>) -> MutexGuard<'_, T> {
    lock.lock().unwrap_or_else(PoisonError::into_inner)
}

impl Hub {
    /// Begins to read the instruments at these addresses.
    pub(crate) fn start(at: &[(Kind, SocketAddr)], store: &Store) -> Arc<Self> {
        let (news, _) = broadcast::channel(256);
        let mut ears = Vec::new();
        let instruments = at.iter().map(|(kind, address)| {
            let (orders, ear) = mpsc::channel(16);
            ears.push((*address, ear));
            let status = InstrumentStatus { kind: *kind, connected: false, battery: None, low: false, lost: 0 };
            Instrument { status: Mutex::new(status), orders }
        });
        let hub =
            Self { instruments: instruments.collect(), news, focus: Mutex::new(None), listeners: AtomicU64::new(1) };
        let hub = Arc::new(hub);
        for (index, (address, mut ear)) in ears.into_iter().enumerate() {
            let (hub, store) = (Arc::clone(&hub), store.clone());
            spawn(async move {
                loop {
                    // A broken connection is what instruments do; it is knocked on again.
                    drop(hub.converse(index, address, &mut ear, &store).await);
                    hub.change(index, |status| status.connected = false);
                    time::sleep(AGAIN).await;
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
            *held(&self.focus) = Some((id, field));
        }
        Listener { id, news: self.news.subscribe(), hub: Arc::clone(self) }
    }

    /// Tells a stand-in what to read and presses its button; false where there is no such instrument.
    pub(crate) async fn press(&self, kind: Kind, aim: Vec<f64>) -> bool {
        let Some(instrument) = self.instruments.iter().find(|one| held(&one.status).kind == kind) else { return false };
        let told = instrument.orders.send(Order::Aim(aim)).await.is_ok();
        told && instrument.orders.send(Order::Press).await.is_ok()
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
        ear: &mut mpsc::Receiver<Order>,
        store: &Store,
    ) -> std::io::Result<()> {
        let stream = TcpStream::connect(address).await?;
        let (hear, mut say) = stream.into_split();
        let mut hear = BufReader::new(hear);
        self.change(index, |status| status.connected = true);
        let (mut line, mut last) = (Vec::new(), None);
        loop {
            let mut limited = (&mut hear).take(LONGEST);
            select! {
                read = limited.read_until(b'\n', &mut line) => {
                    if read? == 0 {
                        return Ok(());
                    }
                    let text = String::from_utf8_lossy(&line).trim_end().to_owned();
                    line.clear();
                    self.heard(index, &text, &mut last, store).await;
                }
                order = ear.recv() => {
                    let Some(order) = order else { return Ok(()) };
                    say.write_all(format!("{order}\n").as_bytes()).await?;
                }
            }
        }
    }

    /// Judges a line, logs it and tells of it. `last` is the count of the reading before.
    async fn heard(&self, index: usize, text: &str, last: &mut Option<u32>, store: &Store) {
        let own = held(&self.instruments[index].status).kind;
        let mut news = None;
        let (outcome, why) = match text.parse::<Line>() {
            Err(error) => {
                self.change(index, |status| status.lost += 1);
                news = Some(InstrumentNews::Garbled { kind: own, why: error.to_string() });
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
                if missed > 0 {
                    self.change(index, |status| status.lost += missed);
                }
                let (judged, outcome, why) = self.judged(kind, &figures);
                news = judged;
                (outcome, why)
            }
        };
        if let Err(error) = store.log_line(own.word(), text, outcome, why.as_deref()).await {
            tracing::error!(%error, "an instrument's line was not logged");
        }
        // Told only once it is in the log: what somebody was told of can be looked up.
        if let Some(news) = news {
            let _ = self.news.send(news);
        }
    }

    fn judged(&self, kind: Kind, figures: &[f64]) -> (Option<InstrumentNews>, LineOutcome, Option<String>) {
        let focus = *held(&self.focus);
        let Some((listener, field)) = focus else {
            return (None, LineOutcome::Unclaimed, Some("no field was waiting".to_owned()));
        };
        match field.take(kind, figures) {
            Ok(value) => (Some(InstrumentNews::Taken { listener, kind, value }), LineOutcome::Taken, None),
            Err(why) => {
                let news = InstrumentNews::Refused { listener, kind, why: why.clone() };
                (Some(news), LineOutcome::Refused, Some(why))
            }
        }
    }
}

/// Somebody who listens. When it goes, its field no longer waits.
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
        let mut focus = held(&self.hub.focus);
        if focus.is_some_and(|(id, _)| id == self.id) {
            *focus = None;
        }
    }
}
