//! What concerns the vehicle as a whole.

use serde::Serialize;
use utoipa::ToSchema;

use super::{FindingCounts, size_words};
use crate::join::JointKind;
use crate::measure::InstallState;
use crate::rates::Rates;
use crate::stock::Tube;
use crate::workup::{BayWorkup, HoseWorkup, Workup};
use nook_geometry::units::{DualUnitText, LengthUnit, Measure};

/// What concerns the vehicle as a whole, each part from the step that knows it.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct VehicleWorkup {
    /// What to begin with, in the order the work goes.
    pub begin: Vec<BeginLine>,
    /// What was measured.
    pub measured: MeasuredLine,
    /// Pieces of tube in all runs.
    pub pieces: usize,
    /// How many of them are cut.
    pub cut: usize,
    /// What is needed for what is not cut yet.
    pub buy: Vec<BuyLine>,
    /// Hours to make all runs, by the handbook's rates.
    pub hours: f64,
    /// Between which hours that likely is.
    #[schema(min_items = 2, max_items = 2)]
    pub likely: [f64; 2],
    /// How many runs of the builder's own that is from; none where it is by the usual rates alone.
    pub from_runs: usize,
    /// Hours that were worked on it.
    pub spent: f64,
}

/// What the bay is made of before there is any pipe.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum BeginStage {
    /// Points that everything is taped from.
    Datums,
    /// The big boxes: where they stand decides the rest.
    Boxes,
    /// The first two mouths.
    Ports,
    /// What is in the way.
    Way,
}

/// One of the things to begin with.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct BeginLine {
    /// Which.
    pub stage: BeginStage,
    /// How many there are.
    pub count: usize,
    /// Whether that is enough to go on.
    pub enough: bool,
    /// Why, and how many it takes.
    pub words: &'static str,
}

/// What was measured.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct MeasuredLine {
    /// Datum points.
    pub datums: usize,
    /// Big boxes.
    pub boxes: usize,
    /// Everything else in the way.
    pub things: usize,
    /// Things that were not there when they were measured.
    pub not_in_place: Vec<String>,
    /// What is wrong with it.
    pub counts: FindingCounts,
    /// The worst of that.
    pub worst: Option<DualUnitText>,
}

/// Something to buy or to take from the shelf.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct BuyLine {
    /// What.
    pub what: DualUnitText,
    /// How long in all, kerf included; nothing for what is counted.
    pub length: Option<Measure>,
    /// How many; nothing for what is measured.
    pub count: Option<usize>,
}

/// Datum points that fix a place by tape: three distances.
const DATUMS: usize = 3;

impl VehicleWorkup {
    pub(super) fn of(bay: &BayWorkup, workups: &[&Workup], rates: &Rates) -> Self {
        let pieces = || workups.iter().flat_map(|workup| &workup.pieces);
        let big = bay.keep_outs.iter().filter(|one| one.big).count();
        let missing = bay.keep_outs.iter().filter(|one| one.standing != InstallState::InPlace);
        let measured = MeasuredLine {
            datums: bay.datums.len(),
            boxes: big,
            things: bay.keep_outs.len() - big,
            not_in_place: missing.map(|one| one.name.clone()).collect(),
            counts: FindingCounts::of(&bay.findings),
            worst: bay.findings.first().map(|finding| finding.words.clone()),
        };
        let labour = workups.iter().filter_map(|workup| workup.totals.as_ref()).flat_map(|totals| &totals.labour);
        let hours = rates.hours(&labour.copied().collect::<Vec<_>>());
        Self {
            begin: begin(&measured, bay.ports.len()),
            measured,
            pieces: pieces().count(),
            cut: pieces().filter(|piece| piece.cut).count(),
            buy: buy(workups),
            hours: hours.mean,
            likely: hours.range(),
            from_runs: rates.runs(),
            spent: workups.iter().map(|workup| workup.made.minutes).sum::<f64>() / 60.0,
        }
    }
}

fn begin(measured: &MeasuredLine, ports: usize) -> Vec<BeginLine> {
    let line = |stage, count, least, words| BeginLine { stage, count, enough: count >= least, words };
    vec![
        line(BeginStage::Datums, measured.datums, DATUMS, "Three points or more that everything is taped from."),
        line(
            BeginStage::Boxes,
            measured.boxes,
            1,
            "Engine, radiator, cooler, turbo: where they stand decides the rest.",
        ),
        line(BeginStage::Ports, ports, 2, "Two mouths make a run; its pipe is there at once."),
        line(BeginStage::Way, measured.things, 1, "Belts, wires, frame, bonnet: what the pipe must keep from."),
    ]
}

/// Tube by size, as long as one endless stick would have to be, then hoses and their clamps; of runs of which nothing is
/// cut yet.
fn buy(workups: &[&Workup]) -> Vec<BuyLine> {
    let mut tubes: Vec<(Tube, f64)> = Vec::new();
    let mut hoses: Vec<(DualUnitText, usize)> = Vec::new();
    let mut clamps = 0;
    let untouched = workups.iter().filter(|workup| workup.pieces.iter().all(|piece| !piece.cut));
    for workup in untouched {
        let tube = workup.decisions.tube;
        if let Some(cutting) = &workup.cutting {
            let length = cutting.stock_used.mm();
            match tubes.iter_mut().find(|(known, _)| *known == tube) {
                Some((_, sum)) => *sum += length,
                None => tubes.push((tube, length)),
            }
        }
        for bought in workup.bends.iter().filter_map(|bend| bend.bought.as_ref()) {
            let what = DualUnitText::new(|unit| {
                format!(
                    "{} {} elbow {}\u{b0}, {} radius",
                    size_words(tube.od(), tube.wall(), unit),
                    tube.material().name(),
                    bought.angle,
                    unit.text(bought.radius.mm())
                )
            });
            count(&mut hoses, what, 1);
        }
        let ends = workup.ends.iter().map(|end| (end.joint, end.port_od.mm(), end.figures.as_ref(), None));
        let along = workup.joints.iter();
        let along = along.map(|joint| (joint.kind, tube.od(), Some(&joint.figures), joint.elbow.as_ref()));
        for (kind, port, figures, elbow) in ends
            .chain(along)
            .filter(|(kind, ..)| !matches!(kind, JointKind::Metal | JointKind::HoseEnd | JointKind::Open))
        {
            let what = match (figures.and_then(|figures| figures.part.as_ref()), elbow) {
                (Some(part), _) => DualUnitText::new(|_| part.name.as_str().to_owned()),
                (None, Some(elbow)) => DualUnitText::new(|unit| {
                    format!("{} {} {:.0}\u{b0}", unit.text(tube.od()), kind.word(), elbow.moulded)
                }),
                (None, None) => hose_words(kind, port, tube.od()),
            };
            count(&mut hoses, what, 1);
            clamps += if kind.has_hose() { 2 } else { 0 };
        }
    }
    let mut lengths: Vec<(DualUnitText, f64)> = Vec::new();
    let mut made_up: Vec<(DualUnitText, usize)> = Vec::new();
    for hose in workups.iter().filter_map(|workup| workup.hose.as_ref()) {
        clamps += hose.clamps;
        hose_parts(hose, &mut lengths, &mut made_up);
    }
    for (workup, figures) in workups.iter().flat_map(|workup| {
        let ends = workup.ends.iter().filter_map(|end| end.figures.as_ref()).map(|figures| (figures, 1));
        let along = workup.joints.iter().map(|joint| (&joint.figures, 2));
        ends.chain(along).map(move |of| (workup, of))
    }) {
        let (figures, plates) = figures;
        if let Some(plate) = figures.plate.as_ref().filter(|plate| plate.wrong.is_none()) {
            let metal = workup.decisions.tube.material().name();
            let what = DualUnitText::new(|unit| {
                let [wide, high] = plate.size.map(|side| side.mm());
                format!(
                    "{metal} plate {} \u{d7} {}, {} thick",
                    unit.figure(wide),
                    unit.text(high),
                    unit.text(plate.thickness.mm())
                )
            });
            count(&mut made_up, what, plates);
        }
    }
    let mut held: Vec<(DualUnitText, usize)> = Vec::new();
    let supports =
        workups.iter().flat_map(|workup| workup.supports.iter().map(|one| (workup.od.mm(), one.kind.word())));
    let branches = workups.iter().flat_map(|workup| workup.branches.iter().map(|one| (one.od.mm(), one.kind.word())));
    for (od, word) in supports.chain(branches) {
        let what = DualUnitText::new(|unit| format!("{} {word}", unit.text(od)));
        count(&mut held, what, 1);
    }
    let tube_line = |(tube, length): (Tube, f64)| BuyLine {
        what: DualUnitText::new(|unit| {
            format!("{} {} tube", size_words(tube.od(), tube.wall(), unit), tube.material().name())
        }),
        length: Some(Measure(length)),
        count: None,
    };
    let counted = |(what, count): (DualUnitText, usize)| BuyLine { what, length: None, count: Some(count) };
    let bands = (clamps > 0).then(|| (DualUnitText::new(|_| "hose clamps".to_owned()), clamps));
    let length = |(what, length): (DualUnitText, f64)| BuyLine { what, length: Some(Measure(length)), count: None };
    let tubes = tubes.into_iter().map(tube_line).chain(lengths.into_iter().map(length));
    tubes
        .chain(made_up.into_iter().map(counted))
        .chain(hoses.into_iter().chain(bands).chain(held).map(counted))
        .collect()
}

/// So many more of something.
fn count(of: &mut Vec<(DualUnitText, usize)>, what: DualUnitText, more: usize) {
    match of.iter_mut().find(|(known, _)| *known == what) {
        Some((_, count)) => *count += more,
        None => of.push((what, more)),
    }
}

/// What a hose is bought as: by length, or elbow by elbow, with its fittings and inserts.
fn hose_parts(hose: &HoseWorkup, lengths: &mut Vec<(DualUnitText, f64)>, parts: &mut Vec<(DualUnitText, usize)>) {
    let mut long = |length: f64| match lengths.iter_mut().find(|(known, _)| *known == hose.called) {
        Some((_, sum)) => *sum += length,
        None => lengths.push((hose.called.clone(), length)),
    };
    if let Some(length) = &hose.length {
        long(length.cut.mm());
    }
    for piece in &hose.pieces {
        match (piece.bend, piece.legs.as_slice()) {
            (None, legs) => long(legs.iter().map(|leg| leg.mm()).sum()),
            (Some(_), _) => {
                let bore = hose.bore;
                let what = DualUnitText {
                    mm: format!("{} {}", LengthUnit::Mm.text(bore.mm()), piece.called.mm),
                    inch: format!("{} {}", LengthUnit::In.text(bore.mm()), piece.called.inch),
                };
                count(parts, what, 1);
            }
        }
    }
    for fitting in &hose.fittings {
        count(parts, DualUnitText::same(fitting.called.clone()), 1);
    }
    if let Some(inserts) = &hose.inserts {
        let what = DualUnitText::new(|unit| {
            format!("{} insert {} long", unit.text(inserts.od.mm()), unit.text(inserts.length.mm()))
        });
        count(parts, what, inserts.count);
    }
}

fn hose_words(kind: JointKind, port: f64, tube: f64) -> DualUnitText {
    DualUnitText::new(|unit| match kind {
        JointKind::Reducer => {
            let [wide, narrow] = [port.max(tube), port.min(tube)];
            format!("{} to {} {}", unit.figure(wide), unit.text(narrow), kind.word())
        }
        _ => format!("{} {}", unit.text(tube), kind.word()),
    })
}
