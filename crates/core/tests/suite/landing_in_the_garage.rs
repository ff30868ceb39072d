//! Whether what is told of landing is so: pipes of the demo made in a virtual garage that has its own picture of what goes wrong.

#![allow(
    clippy::unwrap_used,
    clippy::cast_precision_loss,
    clippy::print_stdout,
    reason = "a test fails by panicking, counts are small and its table is read"
)]

use nook_core::assembly::{Assembly, SeatedJoint};
use nook_core::cut::Piece;
use nook_core::edit::JointChange;
use nook_core::fit::{PipeToMake, Spreads};
use nook_core::join::JointKind;
use nook_core::measure::{End, PortRef};
use nook_core::record::{BenchAct, Deed, DeedId, Done, FitAct, FitReading, FitStep, PieceCut, PieceSize, Progress};
use nook_core::route::{Making, ResolvedRun};
use nook_core::survey::Survey;
use nook_core::workup::{FitActWorkup, FitWorkup, fit};
use nook_core::{Edit, Job, JoinEdit, RunId, Scans, apply};
use nook_geometry::units::Name;

use crate::garage::{Bench, Known, MadePipe, Slack};

const DEMO: &str = include_str!("../../../../demo/pellow-van.json");
/// Readings that are taken more where it is asked for them.
const MORE: usize = 6;
/// How often what stands against the rest is read again.
const AGAIN: usize = 3;
/// Pipes made of each variant.
const EACH: u64 = 120;

fn demo() -> Job {
    let file: serde_json::Value = serde_json::from_str(DEMO).unwrap();
    serde_json::from_value(file["job"].clone()).unwrap()
}

/// What a joint is off by at most when it is put together: half its give or what running leaves of it, and the slide of a hose.
/// Source: handbook, "The sums", Joints, and "Fit, weld, prove", Correcting.
fn slack(joint: &SeatedJoint, used: f64) -> Slack {
    let give = joint.spec.give;
    let share = (1.0 - used).clamp(0.0, 0.5);
    let slides = joint.kind.has_hose();
    Slack {
        closer: give.axial * share + if slides { joint.needs.gap.min(6.0) } else { 0.0 },
        apart: give.axial * share + if slides { 10.0 } else { 0.0 },
        beside: give.offset * share,
        tilt: give.angle.to_radians() * share,
    }
}

/// What is told of a run's pipe, and the share of those made that land; `None` of a pipe the garage does not make.
fn told_and_made(job: &Job, id: RunId, bench: &Bench, seed: u64) -> Option<(f64, u64)> {
    in_the_garage(job, id, |given| {
        let Given { run, pipe, pieces, survey, known, slack } = given;
        let spreads = Spreads { saw_common: bench.saw_common, ..Spreads::USUAL };
        let to_make = PipeToMake { run, survey, pipe, pieces, closing: None };
        let told = to_make.landing_model(Making::default(), &spreads).chance();
        let made = |k| MadePipe::new(run, pipe, pieces, known, slack, bench, seed * 10_000 + k).lands();
        (told, (0..EACH).filter(|k| made(*k)).count() as u64)
    })
}

/// What the garage works from.
struct Given<'a> {
    run: &'a ResolvedRun,
    pipe: &'a Assembly,
    pieces: &'a [Piece],
    survey: &'a Survey<'a>,
    known: &'a [Known; 2],
    slack: &'a [Slack; 2],
}

/// Calls with a run's pipe where the garage makes such: `None` where it does not.
fn in_the_garage<T>(job: &Job, id: RunId, call: impl FnOnce(&Given<'_>) -> T) -> Option<T> {
    let survey = Survey::new(job);
    let run = survey.settle(job.run(id)?);
    let pipe = Assembly::build(&run)?.ok()?;
    if pipe.joints.len() != 2 || pipe.joints.iter().any(|joint| joint.spec.give.is_none()) {
        return None;
    }
    let pieces = pipe.pieces();
    if pieces.iter().any(|piece| piece.solids.len() != 1) {
        return None;
    }
    let uses = pipe.moves(&run).uses(&pipe);
    let used = |joint: &SeatedJoint| uses.iter().find(|used| used.joint == joint.id).map_or(0.0, |used| used.share);
    let slack = [&pipe.joints[0], &pipe.joints[1]].map(|joint| slack(joint, used(joint)));
    if slack.iter().any(|one| one.tilt <= 0.0) {
        return None;
    }
    let known = [End::A, End::B].map(|end| {
        let port = PortRef { run: id, end };
        Known { place: survey.port_place_spread(port), aim: survey.port_aim_spread(port) }
    });
    Some(call(&Given { run: &run, pipe: &pipe, pieces: &pieces, survey: &survey, known: &known, slack: &slack }))
}

/// The demo's runs with other joints at their ends.
fn variants() -> Vec<(Job, RunId)> {
    let job = demo();
    let mut all = Vec::new();
    for run in job.runs() {
        let ends: Vec<_> =
            run.route.joints().iter().filter(|joint| joint.end().is_some()).map(|joint| joint.id).collect();
        for kinds in [vec![], vec![0], vec![1], vec![0, 1]] {
            for kind in [JointKind::Coupler, JointKind::Hump] {
                let edits = kinds.iter().filter_map(|at| ends.get(*at)).map(|joint| {
                    Edit::Join(JoinEdit::ChangeJoint { run: run.id, joint: *joint, to: JointChange::Kind { kind } })
                });
                let mut edits = edits;
                let next = edits.try_fold(job.clone(), |job, edit| Some(apply(&job, &edit).ok()?.job));
                all.extend(next.map(|job| (job, run.id)));
            }
        }
    }
    all
}

#[test]
fn what_is_told_before_cutting_is_what_the_garage_finds() {
    // Bins of what was told: how many pipes, how many of them should land by that, and how many do.
    let edges = [0.1, 0.4, 0.7, 0.9, 0.99];
    let mut bins = [(0_u64, 0.0, 0_u64); 4];
    let benches = [Bench::HANDBOOK, Bench { saw_common: Spreads::COUPON, ..Bench::HANDBOOK }];
    let mut seed = 0;
    for (job, run) in variants() {
        for bench in &benches {
            seed += 1;
            let Some((told, landed)) = told_and_made(&job, run, bench, seed) else { continue };
            let Some(bin) = (0..4).find(|bin| (edges[*bin]..edges[*bin + 1]).contains(&told)) else { continue };
            bins[bin].0 += EACH;
            bins[bin].1 += told * EACH as f64;
            bins[bin].2 += landed;
        }
    }
    println!("told      pipes  told  landed");
    for (bin, (count, should, did)) in bins.iter().enumerate() {
        let count_f = (*count).max(1) as f64;
        let (told, landed) = (should / count_f, *did as f64 / count_f);
        println!("{:.2}-{:.2}  {count:6}  {told:.3}  {landed:.3}", edges[bin], edges[bin + 1]);
    }
    for (bin, (count, should, did)) in bins.iter().enumerate() {
        assert!(*count >= 400, "bin {bin} has {count}");
        let count = *count as f64;
        let (told, landed) = (should / count, *did as f64 / count);
        // 95 of 100 such bins hold within this.
        let within = 1.96 * (told * (1.0 - told) / count).sqrt();
        assert!((told - landed).abs() <= within, "bin {bin}: {told} {landed} {within}");
    }
}

/// The record of a bench where every piece of a pipe is cut and tacked.
struct Bookkeeping {
    run: RunId,
    deeds: Vec<Deed>,
}

impl Bookkeeping {
    fn tacked(given: &Given<'_>) -> Self {
        let mut all = Self { run: given.run.id, deeds: Vec::new() };
        for piece in given.pieces {
            let id = given.pipe.piece_id(&given.run.route, piece);
            let (name, saws) = (Name::new(&format!("P{}", all.deeds.len())).unwrap(), [0.0; 2]);
            let size = PieceSize { centre: piece.centre, longest: piece.centre, saws };
            all.note(Done::Cut { run: all.run, piece: id, as_cut: PieceCut { name, size } });
            all.note(Done::Did { run: all.run, what: BenchAct::Meet { piece: id } });
        }
        all
    }

    fn note(&mut self, done: Done) {
        let id = DeedId::try_from(format!("garage-{}", self.deeds.len())).unwrap();
        self.deeds.push(Deed { id, by: Name::new("garage").unwrap(), done });
    }

    fn fit(&mut self, step: FitStep) {
        let run = self.run;
        self.note(Done::Fit { run, step });
    }

    /// What was read by a deed.
    fn read(&self, deed: &str) -> Option<FitReading> {
        let done = &self.deeds.iter().find(|one| one.id.as_str() == deed)?.done;
        if let Done::Fit { step: FitStep::Read { reading, .. }, .. } = done { Some(*reading) } else { None }
    }

    fn told(&self, job: &Job) -> FitWorkup {
        let (progress, scans) = (Progress::after(&self.deeds), Scans::default());
        fit(job, self.run, &nook_core::Given { scans: &scans, progress: &progress, mend: false }).unwrap()
    }
}

/// What became of a pipe.
#[derive(Default)]
struct Tally {
    pipes: u32,
    /// How many were done after so many rounds, and how many of all those landed once welded.
    done: [u32; 4],
    landed: u32,
    /// Of how many it was said after the first readings that they land, as they are or once what is asked is done; how many of those do,
    /// once that is done, and once what is asked then is done too.
    promised: [u32; 3],
    /// Tacks that were broken, and joints that were changed for others.
    broken: u32,
    joints: u32,
    /// Tube that was sawn off or thrown away, in mm, beyond the kerf.
    wasted: f64,
}

impl Tally {
    fn print(&self, name: &str) {
        let done: u32 = self.done.iter().sum();
        let per = |figure: f64| figure / f64::from(self.pipes.max(1));
        let [said, one, two] = self.promised;
        if said > 0 {
            println!("{name}: of {said} said to land {one} do after one round, {two} after two");
        }
        println!(
            "{name}: of {} pipes {done} are done, after so many rounds {:?}; {} of them land; a pipe: {:.0} mm of tube, {:.1} tacks, {:.1} joints",
            self.pipes,
            self.done,
            self.landed,
            per(self.wasted),
            per(f64::from(self.broken)),
            per(f64::from(self.joints)),
        );
    }
}

const ROUNDS: usize = 3;

/// Rounds of trying on, mending and trying again by what the product says, until it says that it lands.
fn mended(job: &Job, given: &Given<'_>, seed: u64, tally: &mut Tally) {
    let mut job = job.clone();
    let mut metal =
        MadePipe::new(given.run, given.pipe, given.pieces, given.known, given.slack, &Bench::HANDBOOK, seed);
    let mut book = Bookkeeping::tacked(given);
    tally.pipes += 1;
    let mut promised = false;
    for round in 0..=ROUNDS {
        metal.put_on();
        // Round the mouth first, then what is said to help most.
        for clock in [0.0, 90.0, 180.0, 270.0] {
            for what in [FitReading::MouthGap { clock, mm: 0.0 }, FitReading::MouthStep { clock, mm: 0.0 }] {
                let reading = metal.read(what, given.run, given.pipe, given.pieces);
                book.fit(FitStep::Read { reading, spread: None });
            }
        }
        let mut told = book.told(&job);
        // What stands against the rest is read again, as it is asked.
        for _ in 0..AGAIN {
            let again: Vec<FitReading> =
                told.steps.iter().filter(|step| step.disagrees).filter_map(|step| book.read(&step.deed)).collect();
            for what in &again {
                let reading = metal.read(*what, given.run, given.pipe, given.pieces);
                book.fit(FitStep::Read { reading, spread: None });
            }
            if again.is_empty() {
                break;
            }
            told = book.told(&job);
        }
        for _ in 0..MORE {
            let sure = told.likely || told.corrections.first().is_some_and(|way| way.chance >= 0.95);
            let Some(next) = told.next.as_ref().filter(|_| !sure) else { break };
            let reading = metal.read(next.reading, given.run, given.pipe, given.pieces);
            book.fit(FitStep::Read { reading, spread: None });
            told = book.told(&job);
        }
        if let Some(edit) = told.corrections.first().filter(|_| !told.likely).and_then(|way| way.edit.clone()) {
            tally.joints += 1;
            job = apply(&job, &edit).unwrap().job;
            in_the_garage(&job, given.run.id, |other| metal.join(other.slack)).unwrap();
            told = book.told(&job);
        }
        if round == 0 {
            promised = told.likely || told.corrections.first().is_some_and(|way| way.chance >= 0.95);
            tally.promised[0] += u32::from(promised);
        }
        if told.likely {
            tally.done[round] += 1;
            let lands = metal.lands();
            tally.landed += u32::from(lands);
            // After as many rounds as it was worked on it was counted already.
            (round + 1..=2).for_each(|round| tally.promised[round] += u32::from(promised && lands));
            return;
        }
        let Some(way) = told.corrections.first().filter(|_| round < ROUNDS) else { return };
        tally.broken += way.broken;
        for FitActWorkup { act, .. } in &way.acts {
            tally.wasted += match act {
                FitAct::Trim { mm, .. } => *mm,
                FitAct::Renew { piece, .. } => {
                    let is = |one: &Piece| given.pipe.piece_id(&given.run.route, one) == *piece;
                    metal.length(given.pieces.iter().position(is).unwrap())
                }
                _ => 0.0,
            };
            metal.act(act, given.run, given.pipe, given.pieces);
            book.fit(FitStep::Acted { act: *act });
        }
        if round < 2 {
            tally.promised[round + 1] += u32::from(promised && metal.lands());
        }
    }
}

/// The same by hand: it is hung on, what is too long is trimmed by eye, and what then does not go on is thrown away and made again.
fn by_hand(given: &Given<'_>, seed: u64, tally: &mut Tally) {
    tally.pipes += 1;
    let last = given.pieces.len() - 1;
    let mut seeds = (0..).map(|again| seed + 1_000_000 * again);
    let made =
        |seed| MadePipe::new(given.run, given.pipe, given.pieces, given.known, given.slack, &Bench::HANDBOOK, seed);
    let mut metal = made(seeds.next().unwrap());
    for round in 0..=ROUNDS {
        metal.put_on();
        if metal.uses(false).iter().all(|used| *used <= 1.0) {
            // It goes on, and is welded.
            tally.done[round] += 1;
            tally.landed += u32::from(metal.lands());
            return;
        }
        let [beside, long] = metal.seen(given.run.tube.od());
        if long >= 2.0 && beside < 10.0 {
            let piece = given.pipe.piece_id(&given.run.route, &given.pieces[last]);
            let trim = FitAct::Trim { piece, end: End::B, mm: long };
            metal.act(&trim, given.run, given.pipe, given.pieces);
            tally.wasted += long;
        } else {
            tally.wasted += given.pieces.iter().map(|piece| piece.centre).sum::<f64>();
            metal = made(seeds.next().unwrap());
        }
    }
}

#[test]
fn what_is_said_to_land_after_it_was_mended_does() {
    let each: u64 = std::env::var("NOOK_BEND_GARAGE").ok().and_then(|count| count.parse().ok()).unwrap_or(1);
    let (mut product, mut hand, mut first) = (Tally::default(), Tally::default(), 0_u32);
    for (at, (job, id)) in (0..).zip(variants()) {
        in_the_garage(&job, id, |given| {
            for seed in (0..each).map(|pipe| at * 1000 + pipe) {
                let Given { run, pipe, pieces, known, slack, .. } = given;
                first += u32::from(MadePipe::new(run, pipe, pieces, known, slack, &Bench::HANDBOOK, seed).lands());
                mended(&job, given, seed, &mut product);
                by_hand(given, seed, &mut hand);
            }
        });
    }
    println!("{first} land as they are made");
    product.print("by the product");
    hand.print("by hand");
    let done: u32 = product.done.iter().sum();
    assert!(done > 0, "nothing is ever said to land");
    assert!(f64::from(product.landed) >= 0.95 * f64::from(done) - 1.0, "{} of {done}", product.landed);
}
