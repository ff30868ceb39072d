//! Working out how a run's pipe is welded.

use super::assemble::Given;
use super::landing::Made;
use super::weld::{
    CounterPie, GasWorkup, PurgeWorkup, SeamWorkup, TurnerWorkup, WeldSectionWorkup, WeldWarning, WeldWarningKind,
    WeldWorkup,
};
use super::weld_words::{Names, after, before, quarter_words, vent_words, why_amps};
use crate::cautions::{Beside, cautions};
use crate::cut::Piece;
use crate::edit::EditError;
use crate::fit::Spreads;
use crate::job::Job;
use crate::measure::RunId;
use crate::record::{BenchAct, FitReading, FitStep};
use crate::stock::Material;
use crate::weld::{
    Effect, GasPlan, Inside, Process, PulledSeam, Purge, READ_TO, SeamId, Settings, Strayed, WeldCoupon, WeldPull,
    WeldSeam, WeldTimes, dams, filler, least_pull, oxygen_left, tack_count, turner, volumes_for, weld_order,
    weld_seams, widest_gap,
};
use crate::workshop::Workshop;
use nook_geometry::units::{DualUnitText, Measure};

/// Minutes to set up for welding: handbook, "Fit, weld, prove", Record.
const SET_UP: f64 = 30.0;
/// Saw settings nearer than this, in radians, want one pie on the chuck.
const ALIKE: f64 = 0.001;
/// More gas than planned by this share is gone some other way. Ours: nobody welds to the second.
const LEAKS: f64 = 0.3;

/// How a run's pipe is welded with what the workshop has.
///
/// # Errors
/// [`EditError::NoSuchRun`] when the job has no such run.
pub fn weld(job: &Job, workshop: &Workshop, id: RunId, given: &Given<'_>) -> Result<WeldWorkup, EditError> {
    let decisions = job.run(id).ok_or(EditError::NoSuchRun { run: id })?;
    let welder = workshop.welder();
    let nothing = |why: &str| WeldWorkup::none(id, welder.process(), why);
    let Some(made) = Made::of(job, id, given.progress) else {
        return Ok(nothing(if decisions.hose.is_some() {
            "Nothing is welded to a hose."
        } else {
            "There is no sound pipe yet: mend what is wrong first."
        }));
    };
    let pieces = made.to_make().pieces;
    let seams = weld_seams(&made.run, &made.pipe, pieces);
    if seams.is_empty() {
        return Ok(nothing("Nothing of this pipe is welded: it is one piece between hoses."));
    }
    let names = Names { made: &made, pieces: made.names(given.progress) };
    Ok(Plan { workshop, given, made: &made, pieces, seams: &seams, names: &names }.workup())
}

struct Plan<'a> {
    workshop: &'a Workshop,
    given: &'a Given<'a>,
    made: &'a Made<'a>,
    pieces: &'a [Piece],
    seams: &'a [WeldSeam],
    names: &'a Names<'a>,
}

/// The order in which all seams are welded, which quarter each begins with, and what that comes to, section by section.
struct Ordered {
    turns: Vec<usize>,
    first: Vec<usize>,
    tilts: Vec<f64>,
    left: Vec<[Strayed; 2]>,
}

impl Plan<'_> {
    fn workup(&self) -> WeldWorkup {
        let Self { workshop, made, seams, .. } = *self;
        let welder = workshop.welder();
        let metal = made.run.tube.material();
        let inside = Inside::wanted(metal, welder.inside()).filter(|_| welder.process() != Process::Mig);
        let ordered = self.ordered();
        let all: Vec<SeamWorkup> = (0..seams.len()).map(|at| self.seam(at, &ordered)).collect();
        let open = || all.iter().filter(|seam| !seam.welded);
        let arc = open().map(|seam| seam.arc).sum::<f64>() / 60.0;
        let pauses = open().map(|seam| seam.pause * 4.0).sum::<f64>() / 60.0;
        let sections: Vec<WeldSectionWorkup> = (0..made.pipe.sections().len())
            .filter(|section| seams.iter().any(|seam| seam.section == *section))
            .map(|section| self.section(section, &ordered, inside))
            .collect();
        let gas = (welder.process() != Process::Mig).then(|| self.gas(&all, inside));
        let mut warnings = self.warnings(&all);
        warnings.extend(gas.iter().flat_map(|gas| self.gas_warnings(gas, &all, inside)));
        let purged = inside == Some(Inside::Purge);
        WeldWorkup {
            run: made.run.id,
            none: None,
            process: welder.process(),
            inside,
            arc,
            pauses,
            hours: (SET_UP + arc + pauses) / 60.0,
            turner: Some(self.turner()),
            before: before(self.names, seams, welder.process(), inside),
            after: after(seams, metal),
            warnings,
            cautions: cautions(Beside::Weld { purged, flux: inside == Some(Inside::Flux) }, metal),
            seams: all,
            sections,
            gas,
        }
    }

    /// Each section is welded for itself: its seams that go round in the order in which it strays least, what is let in and stands on it before those beside it.
    fn ordered(&self) -> Ordered {
        let Self { made, seams, .. } = *self;
        let pull = WeldPull::usual();
        let count = seams.len();
        let (mut turns, mut first, mut tilts) = (vec![0; count], vec![0; count], vec![0.0; count]);
        let (mut left, mut turn) = (Vec::new(), 0);
        for section in 0..made.pipe.sections().len() {
            let here: Vec<usize> = (0..count).filter(|at| seams[*at].section == section).collect();
            let far = made.pipe.joints[section + 1].sides[0].0;
            let round: Vec<usize> = here.iter().copied().filter(|at| seams[*at].kind.goes_round()).collect();
            let pulled: Vec<PulledSeam> = round
                .iter()
                .map(|at| PulledSeam { at: seams[*at].at, along: seams[*at].along, reference: seams[*at].reference })
                .collect();
            let found = least_pull(&pulled, far, &pull);
            left.push([found.left, found.one_way]);
            for (at, one) in round.iter().zip(&found.first) {
                first[*at] = *one;
                let turn = pull.turn(WeldPull::opposite(*one), &seams[*at].along, &seams[*at].reference);
                tilts[*at] = turn.norm().to_degrees();
            }
            let each: Vec<Effect> = here
                .iter()
                .map(|at| round.iter().position(|one| one == at).map_or_else(Effect::zeros, |one| found.each[one]))
                .collect();
            let stations: Vec<f64> = here.iter().map(|at| seams[*at].station).collect();
            // What is let in is welded while the tube is still open on both sides of it.
            let is_first = |at: usize| !seams[here[at]].kind.goes_round();
            let must: Vec<(usize, usize)> = (0..here.len())
                .filter(|one| is_first(*one))
                .flat_map(|one| (0..here.len()).filter(|other| !is_first(*other)).map(move |other| (one, other)))
                .collect();
            for place in weld_order(&each, &stations, &must) {
                turn += 1;
                turns[here[place]] = turn;
            }
        }
        Ordered { turns, first, tilts, left }
    }

    fn settings(&self, seam: &WeldSeam) -> Settings {
        Settings::of(seam.materials[0], seam.thin_and_thick(), self.workshop.welder(), self.own_of(seam))
    }

    fn is_welded(&self, seam: SeamId) -> bool {
        self.given.progress.did(self.made.run.id, BenchAct::Weld { seam })
    }

    fn seam(&self, at: usize, ordered: &Ordered) -> SeamWorkup {
        let Self { workshop, made, seams, .. } = *self;
        let (seam, welder) = (&seams[at], workshop.welder());
        let [thin, thick] = seam.thin_and_thick();
        let set = self.settings(seam);
        let times = WeldTimes::of(seam.materials[0], seam.length, thin, welder.travel());
        let fed = filler(seam.materials[0], seam.materials[1]).filter(|_| welder.process() == Process::Tig);
        let round = seam.kind.goes_round();
        let quarters = if round { WeldPull::opposite(ordered.first[at]).to_vec() } else { Vec::new() };
        SeamWorkup {
            seam: seam.id,
            number: at + 1,
            turn: ordered.turns[at],
            name: self.names.seam(seam),
            kind: seam.kind,
            word: seam.kind.word(),
            part: seam.part,
            station: Measure(seam.station - made.pipe.begin()),
            at: seam.at.coords.into(),
            length: Measure(seam.length),
            walls: seam.walls.map(Measure),
            amps: set.amps.round(),
            why: why_amps(&set, [thin, thick], self.own_of(seam).is_some()),
            electrode: set.electrode.map(Measure),
            cup: Measure(set.cup),
            flow: set.flow,
            filler: fed.map(|fed| DualUnitText::same(format!("{}: {}", fed.name, fed.why))),
            tacks: if round { tack_count(made.run.tube.od()) } else { 2 },
            quarters: quarters.into_iter().map(|quarter| quarter_words(seam.mitred, quarter).to_owned()).collect(),
            arc: times.arc,
            pause: times.pause,
            tilts: ordered.tilts[at],
            welded: self.is_welded(seam.id),
        }
    }

    fn own_of(&self, seam: &WeldSeam) -> Option<f64> {
        let process = self.workshop.welder().process();
        let [thin, _] = seam.thin_and_thick();
        WeldCoupon::proved(self.workshop.weld_coupons(), seam.materials[0], thin, process)
    }

    fn section(&self, section: usize, ordered: &Ordered, inside: Option<Inside>) -> WeldSectionWorkup {
        let Self { made, seams, .. } = *self;
        let here: Vec<&WeldSeam> = seams.iter().filter(|seam| seam.section == section).collect();
        let [pulled, straight] = ordered.left[section];
        let round = here.iter().filter(|seam| seam.kind.goes_round()).count();
        WeldSectionWorkup {
            name: self.names.section(section),
            seams: here.len(),
            pulled: Measure(pulled.mm),
            pulled_degrees: pulled.degrees,
            straight: Measure(straight.mm),
            straight_degrees: straight.degrees,
            shrinks: Measure(Spreads::USUAL.shrink * u32::try_from(round).map_or(f64::INFINITY, f64::from)),
            purge: (inside == Some(Inside::Purge)).then(|| self.purge(section, &here, made.run.tube.material())),
        }
    }

    /// What is filled of a section, in litres, and the dams where they pay.
    fn filled(&self, section: usize, metal: Material) -> (f64, Option<Vec<[f64; 2]>>) {
        let Self { made, seams, .. } = *self;
        let bore = made.run.tube.bore();
        let [from, to] = made.pipe.sections()[section];
        let stations: Vec<f64> = seams.iter().filter(|seam| seam.section == section).map(|seam| seam.station).collect();
        let whole = std::f64::consts::PI / 4.0 * bore * bore * (to - from) * 1e-6;
        match dams([from, to], bore, &stations, volumes_for(metal)) {
            Some(dams) => (dams.litres, Some(dams.stretches)),
            None => (whole, None),
        }
    }

    fn purge_of(&self, section: usize, metal: Material) -> Purge {
        let litres = self.filled(section, metal).0;
        Purge { litres, volumes: volumes_for(metal), flow: self.workshop.welder().purge_flow() }
    }

    fn purge(&self, section: usize, here: &[&WeldSeam], metal: Material) -> PurgeWorkup {
        let purge = self.purge_of(section, metal);
        let stretches = self.filled(section, metal).1;
        let begin = self.made.pipe.begin();
        let said = stretches.map(|stretches| {
            DualUnitText::new(|unit| {
                let each = stretches
                    .iter()
                    .map(|[from, to]| format!("{} to {}", unit.text(from - begin), unit.text(to - begin)));
                format!("Dams save gas: fill only {} from A", each.collect::<Vec<_>>().join(" and "))
            })
        });
        PurgeWorkup {
            litres: purge.litres,
            volumes: purge.volumes,
            flow: purge.flow,
            seconds: purge.seconds(),
            oxygen: oxygen_left(purge.volumes),
            vent: vent_words(self.made, self.pieces, section, here),
            dams: said,
        }
    }

    fn gas(&self, all: &[SeamWorkup], inside: Option<Inside>) -> GasWorkup {
        let welder = self.workshop.welder();
        let litres = self.litres_of(all, inside, |seam| !seam.welded);
        let bottle = self.given.progress.bottle_of(self.made.run.id).last().map(|read| read.bar);
        GasWorkup {
            litres,
            bar: litres / welder.bottle_at(1.0).gas(),
            bottle,
            left: bottle.map(|bar| welder.bottle_at(bar).gas()),
        }
    }

    /// Litres for some of the seams.
    fn litres_of(&self, all: &[SeamWorkup], inside: Option<Inside>, of: impl Fn(&SeamWorkup) -> bool) -> f64 {
        let metal = self.made.run.tube.material();
        let sections = 0..self.made.pipe.sections().len();
        let each = sections.map(|section| {
            let here: Vec<&SeamWorkup> = all
                .iter()
                .zip(self.seams)
                .filter(|(seam, stands)| stands.section == section && of(seam))
                .map(|(seam, _)| seam)
                .collect();
            if here.is_empty() {
                return 0.0;
            }
            let sum = |of: fn(&SeamWorkup) -> f64| here.iter().map(|seam| of(seam)).sum::<f64>() / 60.0;
            let flows = here.iter().map(|seam| seam.flow).fold(0.0, f64::max);
            let post_flow: f64 = self
                .seams
                .iter()
                .filter(|seam| here.iter().any(|one| one.seam == seam.id))
                .map(|seam| self.settings(seam).post_flow * if seam.kind.goes_round() { 4.0 } else { 2.0 })
                .sum();
            let plan = GasPlan {
                purge: (inside == Some(Inside::Purge)).then(|| self.purge_of(section, metal)),
                torch_flow: flows,
                arc: sum(|seam| seam.arc),
                pauses: sum(|seam| seam.pause * 4.0),
                post_flow: post_flow / 60.0,
            };
            plan.litres()
        });
        each.sum()
    }

    fn turner(&self) -> TurnerWorkup {
        let Self { workshop, made, seams, pieces, .. } = *self;
        let speed = turner(made.run.tube.od(), workshop.welder().travel());
        let mut pies: Vec<CounterPie> = Vec::new();
        for seam in seams.iter().filter(|seam| seam.saw > ALIKE) {
            let saw = seam.saw.to_degrees();
            // The pie beside it, by whose half the seam lies off the chuck.
            let beside = pieces
                .iter()
                .position(|piece| SeamId::After { piece: made.pipe.piece_id(&made.run.route, piece) } == seam.id);
            let pie = |at: usize| {
                let one = pieces.get(at)?;
                matches!(one.kind, crate::cut::PieceKind::Pie { .. }).then_some(one.centre / 2.0)
            };
            let offset = beside.and_then(|at| pie(at).or_else(|| pie(at + 1))).unwrap_or(0.0);
            match pies
                .iter_mut()
                .find(|one| (one.saw - saw).abs() < ALIKE.to_degrees() && (one.offset.mm() - offset).abs() < 0.05)
            {
                Some(one) => one.seams += 1,
                None => pies.push(CounterPie { saw, offset: Measure(offset), seams: 1 }),
            }
        }
        TurnerWorkup { rpm: speed.rpm, seconds: speed.seconds, pies }
    }

    fn warnings(&self, all: &[SeamWorkup]) -> Vec<WeldWarning> {
        let Self { workshop, made, seams, given, .. } = *self;
        let welder = workshop.welder();
        let process = welder.process();
        let mut warnings = Vec::new();
        let mut push = |kind, seam, words| warnings.push(WeldWarning { kind, seam, words });
        let mut refused = Vec::new();
        for (seam, told) in seams.iter().zip(all).filter(|(_, told)| !told.welded) {
            if let Err(why) = process.suits(seam.materials[0], seam.materials[1])
                && !refused.contains(&why)
            {
                refused.push(why);
                let words = format!("Seam {}, {}: {}", told.number, told.name, why.words());
                push(WeldWarningKind::Process, Some(seam.id), DualUnitText::same(words));
            }
            let set = self.settings(seam);
            if set.is_cold() {
                let warm = match seam.materials[0] {
                    Material::Aluminium6061 | Material::Aluminium6063 => {
                        "warm the thick side first, to 120 \u{b0}C at most"
                    }
                    _ => "thin the thick side\u{2019}s edge to the tube\u{2019}s wall, or take it to a larger machine",
                };
                let words = DualUnitText::new(|unit| {
                    let [thin, thick] = seam.thin_and_thick();
                    format!(
                        "Seam {}, {}: {} on {} asks for {:.0} A and the machine gives {:.0}: the thick side stays cold; {warm}",
                        told.number,
                        told.name,
                        unit.text(thin),
                        unit.text(thick),
                        set.wanted,
                        set.amps
                    )
                });
                push(WeldWarningKind::Cold, Some(seam.id), words);
            }
        }
        let wall = made.run.tube.wall();
        let most = widest_gap(made.run.tube.material(), process, wall);
        let entries = given.progress.fit_of(made.run.id);
        let gaps = entries.iter().filter_map(|entry| match entry.step {
            FitStep::Read { reading: FitReading::SeamGap { piece, mm }, .. } => Some((piece, mm)),
            _ => None,
        });
        let gaps: Vec<_> = gaps.collect();
        for (at, (piece, mm)) in gaps.iter().enumerate() {
            let told = all.iter().find(|told| told.seam == SeamId::After { piece: *piece } && !told.welded);
            let again = gaps[at + 1..].iter().any(|(later, _)| later == piece);
            if let Some(told) = told.filter(|_| *mm > most && !again) {
                let words = DualUnitText::new(|unit| {
                    format!(
                        "Seam {}, {}: a gap of {} burns through; {} is the most on {} of wall. Break the tack and dress the face",
                        told.number,
                        told.name,
                        unit.text(*mm),
                        unit.text(most),
                        unit.text(wall)
                    )
                });
                push(WeldWarningKind::Gap, Some(told.seam), words);
            }
        }
        warnings
    }

    fn gas_warnings(&self, gas: &GasWorkup, all: &[SeamWorkup], inside: Option<Inside>) -> Vec<WeldWarning> {
        let mut warnings = Vec::new();
        let welder = self.workshop.welder();
        let mut push = |kind, words| warnings.push(WeldWarning { kind, seam: None, words: DualUnitText::same(words) });
        if let Some(left) = gas.left.filter(|left| *left < gas.litres) {
            push(
                WeldWarningKind::GasRunsOut,
                format!(
                    "The bottle has {left:.0} l of gas and what is left to weld takes {:.0}: it would run out in the middle. Change it first",
                    gas.litres
                ),
            );
        }
        // What went since the bottle was first read, against what was welded since; a bottle that was changed begins anew.
        let read = self.given.progress.bottle_of(self.made.run.id);
        let begun = (1..read.len()).rev().find(|at| read[*at].bar > read[at - 1].bar + READ_TO).unwrap_or(0);
        if let (Some(first), Some(last)) = (read.get(begun), read.last())
            && begun + 1 < read.len()
        {
            let gone = welder.bottle_at(first.bar - last.bar).gas();
            let planned = self.litres_of(all, inside, |seam| seam.welded && !first.welded.contains(&seam.seam));
            let sure = welder.bottle_at(READ_TO * std::f64::consts::SQRT_2).gas();
            if gone > planned * (1.0 + LEAKS) + sure {
                push(
                    WeldWarningKind::GasLeaks,
                    format!(
                        "{gone:.0} l of gas are gone and what was welded explains {planned:.0}: the regulator or a hose leaks. Shut the bottle, and look with soap"
                    ),
                );
            }
        }
        warnings
    }
}

impl WeldWorkup {
    fn none(run: RunId, process: Process, why: &str) -> Self {
        Self {
            run,
            none: Some(DualUnitText::same(why.to_owned())),
            process,
            inside: None,
            seams: Vec::new(),
            sections: Vec::new(),
            arc: 0.0,
            pauses: 0.0,
            hours: 0.0,
            gas: None,
            turner: None,
            before: Vec::new(),
            after: Vec::new(),
            warnings: Vec::new(),
            cautions: Vec::new(),
        }
    }
}
