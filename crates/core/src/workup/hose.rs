//! A hose as it is cut, made up and bought.

use serde::Serialize;
use utoipa::ToSchema;

use crate::assembly::{Assembly, insert_half};
use crate::cut::HosePiece;
use crate::measure::End;
use crate::route::{BendId, LegId, ResolvedRun};
use crate::stock::HoseBuild;
use nook_geometry::Travel;
use nook_geometry::units::{DualUnitText, Measure};

/// A hose as it is cut, made up and bought. Angles in degrees.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct HoseWorkup {
    /// How it is built.
    pub word: &'static str,
    /// What it is called on a shelf.
    pub called: DualUnitText,
    /// Inside diameter.
    pub bore: Measure,
    /// Least centre-line radius it bends to, or is moulded to.
    pub least_radius: Measure,
    /// Its fittings at A and at B; empty where the hose itself is pushed on.
    pub fittings: Vec<FittingWorkup>,
    /// What it is cut to where it is one length.
    pub length: Option<HoseLengthWorkup>,
    /// How the fitting at B is turned to that at A as it is made up, clockwise seen from A along the hose.
    pub clock: Option<f64>,
    /// The same as it is said, so that its sense cannot be taken for the other.
    pub clock_said: Option<String>,
    /// What to do about that; nothing where a fitting is straight or missing.
    pub clock_words: Option<&'static str>,
    /// Moulded pieces in order from A; empty where it is one length, or where a piece cannot be cut.
    pub pieces: Vec<HosePieceWorkup>,
    /// Stations along its centre line from A at which those meet.
    pub meets: Vec<Measure>,
    /// Inserts where pieces meet, their outside diameter and length.
    pub inserts: Option<InsertsWorkup>,
    /// Clamps: two at each insert, one at each mouth.
    pub clamps: usize,
}

/// A fitting of a hose.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct FittingWorkup {
    /// What it is called on a shelf.
    pub called: String,
    /// The clock it turns towards, from up, right-handed about the direction of travel; nothing for a straight one.
    pub clock: Option<f64>,
    /// Whether that was chosen; else it turns towards the other end.
    pub clock_chosen: bool,
    /// From its seat to where the hose is cut.
    pub cut_off: Measure,
    /// How far the hose goes into its socket; a mark there shows whether it creeps out.
    pub socket: Measure,
}

/// What a hose in one length is cut to.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct HoseLengthWorkup {
    /// What it is cut to.
    pub cut: Measure,
    /// Where that comes from, in words.
    pub words: DualUnitText,
}

/// A piece of a moulded hose.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct HosePieceWorkup {
    /// What it is called on a shelf.
    pub called: DualUnitText,
    /// For which bend; nothing for a straight.
    pub bend: Option<BendId>,
    /// On which straight; nothing for an elbow.
    pub straight: Option<LegId>,
    /// By how many degrees an elbow is turned from the one before it, clockwise seen from A along the hose; nothing for the first
    /// and for straights.
    pub turned: Option<f64>,
    /// The same as it is said.
    pub turned_said: Option<String>,
    /// What its straight legs are cut to beyond the bend, before and after it; of a straight its length.
    pub legs: Vec<Measure>,
}

/// Inserts where moulded pieces meet.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct InsertsWorkup {
    /// How many.
    pub count: usize,
    /// Outside diameter.
    pub od: Measure,
    /// How long each is.
    pub length: Measure,
}

impl HoseWorkup {
    /// Of the hose of a run, whose pipe has no bends that overlap; nothing where it is tube.
    pub(super) fn of(run: &ResolvedRun, pipe: &Assembly) -> Option<Self> {
        let hose = run.hose?;
        let (material, bore) = (run.tube.material().name(), run.tube.bore());
        let threaded = hose.fittings();
        let called = match threaded {
            Some((dash, _)) => DualUnitText::same(format!("{} {material} hose", dash.name())),
            None => DualUnitText::new(|unit| format!("{} {material} {}", unit.text(bore), hose.word())),
        };
        let fittings = [End::A, End::B].into_iter().filter_map(|end| FittingWorkup::of(run, end)).collect();
        let clock = pipe.fitting_clock(run);
        let swivels = threaded.is_some_and(|(_, fittings)| fittings.iter().any(|one| one.swivels));
        let moulded = matches!(hose, HoseBuild::Moulded { .. });
        let pieces = if moulded { pipe.hose_pieces(run).unwrap_or_default() } else { Vec::new() };
        let meetings = pieces.len().saturating_sub(1);
        let length = (!moulded).then(|| {
            let length = pipe.hose_length(run);
            HoseLengthWorkup {
                cut: Measure(length.cut()),
                words: DualUnitText::new(|unit| {
                    let pulled = if length.pulled > 0.05 {
                        format!(", {} for how far the engine takes its ends apart", unit.text(length.pulled))
                    } else {
                        String::new()
                    };
                    let (way, slack) = (unit.text(length.way), unit.text(length.slack));
                    format!("{way} between its cut ends, {slack} of slack: 3 in 100{pulled}")
                }),
            }
        });
        Some(Self {
            word: hose.word(),
            called,
            bore: Measure(bore),
            least_radius: Measure(hose.least_radius(run.tube)),
            fittings,
            length,
            clock,
            clock_said: clock.map(|clock| turned_words(clock, "as A")),
            meets: pipe.hose_meetings(run).into_iter().map(|(_, station)| Measure(station)).collect(),
            clock_words: clock.map(|_| {
                if swivels {
                    "from A, seen along the hose from A. One of them swivels: it turns to this by itself."
                } else {
                    "from A, seen along the hose from A. Neither swivels: set it before the second socket is done up."
                }
            }),
            inserts: (meetings > 0).then(|| InsertsWorkup {
                count: meetings,
                od: Measure(bore),
                length: Measure(2.0 * insert_half(run)),
            }),
            clamps: if threaded.is_some() { 0 } else { 2 * meetings + 2 },
            pieces: pieces.iter().map(|piece| HosePieceWorkup::of(run, pipe, piece)).collect(),
        })
    }
}

/// A turn seen along the hose from A, in degrees, with its sense in words.
fn turned_words(degrees: f64, none: &str) -> String {
    let turned = degrees.round();
    let way = if turned < 0.0 { "anticlockwise" } else { "clockwise" };
    if turned == 0.0 { none.to_owned() } else { format!("{:.0}\u{b0} {way}", turned.abs()) }
}

impl FittingWorkup {
    fn of(run: &ResolvedRun, end: End) -> Option<Self> {
        let fitted = run.fitted(end)?;
        let degrees = fitted.fitting.angle.degrees();
        let called = if degrees == 0.0 {
            format!("{} straight fitting", fitted.dash.name())
        } else {
            format!("{} fitting of {degrees:.0}\u{b0}", fitted.dash.name())
        };
        let port = run.port(end);
        let along = if end == End::A { port.out } else { port.out.reversed() };
        let towards = fitted.on_seat().clock().into_inner();
        let clock = Travel::start(port.at, along).upright().rotation_towards(towards).map(f64::to_degrees);
        Some(Self {
            called: format!("{called}{}", if fitted.fitting.swivels { ", swivelling" } else { "" }),
            clock: clock.filter(|_| degrees > 0.0),
            clock_chosen: fitted.fitting.clock.is_some(),
            cut_off: Measure(fitted.length()),
            socket: Measure(fitted.dash.socket()),
        })
    }
}

impl HosePieceWorkup {
    fn of(run: &ResolvedRun, pipe: &Assembly, piece: &HosePiece) -> Self {
        match *piece {
            HosePiece::Elbow { bend, legs } => {
                let arc = pipe.whole.legs().get(bend).map(|step| step.bend);
                let turned = arc.map(|arc| arc.rotation.to_degrees()).filter(|_| bend > 0);
                let (angle, radius) = arc.map_or((0.0, 0.0), |arc| (arc.angle.to_degrees(), arc.radius));
                Self {
                    called: DualUnitText::new(|unit| {
                        format!("elbow of {angle:.0}\u{b0}, {} radius", unit.text(radius))
                    }),
                    bend: Some(run.route.bend_id(bend)),
                    straight: None,
                    turned,
                    turned_said: turned.map(|turned| turned_words(turned, "as the one before")),
                    legs: legs.map(Measure).into(),
                }
            }
            HosePiece::Straight { leg, length } => Self {
                called: DualUnitText::same("straight".to_owned()),
                bend: None,
                straight: Some(run.route.leg_id(leg)),
                turned: None,
                turned_said: None,
                legs: vec![Measure(length)],
            },
        }
    }
}
