//! What of the whole vehicle is sawn from which stick of the shelf, and what is bought.

use std::sync::atomic::AtomicBool;

use serde::Serialize;
use utoipa::ToSchema;

use crate::elbow_plan::{ElbowPlan, ElbowSource, cost, elbow_plan};
use crate::nest::{BuyLength, Nest, NestError, NestGiven, StickSource};
use crate::nest_bound::least_of_any;
use crate::nesting::{NEST_STEPS, nest};
use crate::pie_plan::{self, PiePlan, pie_plan};
use crate::spares::{SparePlan, spares};
use nook_core::cut::{Chain, Piece};
use nook_core::edit::{CutEdit, Edit};
use nook_core::job::Job;
use nook_core::measure::RunId;
use nook_core::record::{Done, Progress};
use nook_core::stock::Tube;
use nook_core::survey::Survey;
use nook_core::workshop::{OnSaleId, PinnedSaw, Stick, StickOnSale, Workshop};
use nook_core::workup::{LEAST_OFFCUT, OnceSawn, StickPlan, ToSaw, last_cut, to_saw};
use nook_geometry::units::{DualUnitText, LongestStick, Measure, ScrapRate};

/// What is sawn from which stick.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct StockPlan {
    /// For each tube that something is to be sawn from, the widest first.
    pub tubes: Vec<TubePlan>,
    /// Elbows that runs are made of and that are not sawn yet.
    pub elbows: Vec<ElbowPlan>,
    /// Bought pies that runs are made of and that are not used yet.
    pub pies: Vec<PiePlan>,
    /// Runs that nothing is planned for yet, and why.
    pub left_out: Vec<LeftOut>,
    /// What all of it costs to buy.
    pub cost: f64,
    /// Whether there is none that costs less.
    pub proven: bool,
    /// What was spoilt so far.
    #[schema(inline = false)]
    pub scrap: ScrapCount,
}

/// What of a job's pieces was spoilt so far, to say how many will be.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
pub struct ScrapCount {
    /// Pieces that were spoilt.
    pub spoilt: usize,
    /// Pieces that are cut.
    pub cut: usize,
}

/// A run that nothing is planned for yet.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct LeftOut {
    /// Which.
    pub run: RunId,
    /// Why, and what to do.
    pub words: DualUnitText,
}

/// What is sawn from one sort of tube.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct TubePlan {
    /// What it is called.
    pub what: DualUnitText,
    /// The tube.
    #[schema(inline = false)]
    pub tube: Tube,
    /// Sticks that are touched: those of the shelf first.
    pub sticks: Vec<StickPlan>,
    /// What is bought.
    pub buy: Vec<BuyPlan>,
    /// What that costs.
    pub cost: f64,
    /// Length of the sticks touched.
    pub touched: Measure,
    /// How good that is, or why there is none.
    pub words: DualUnitText,
    /// Whether there is a plan.
    pub found: bool,
    /// Splices the pieces that are longer than the longest stick; nothing where none is.
    #[schema(inline = false)]
    pub splice: Option<Edit>,
    /// What is kept beside for pieces that are spoilt; nothing where nobody said how many are, or none is that often.
    pub spare: Option<SparePlan>,
    /// Whether it is proven that none costs less, wherever chains are parted.
    pub cheapest: bool,
    /// Whether it is proven besides that none of that cost touches less.
    pub proven: bool,
}

/// A length that is bought.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct BuyPlan {
    /// Which line of what is on sale.
    pub on_sale: OnSaleId,
    /// How long it is.
    pub length: Measure,
    /// What one costs.
    pub price: f64,
    /// How many.
    pub count: usize,
}

/// What of all runs of a job that is not cut yet is sawn from which stick, with the saw the job is made with.
///
/// # Errors
/// [`NestError::Stopped`] where it was called off.
pub fn stock_plan(
    job: &Job,
    progress: &Progress,
    workshop: &Workshop,
    stop: &AtomicBool,
) -> Result<StockPlan, NestError> {
    let survey = Survey::new(job);
    let (mut all, mut left_out) = (Vec::new(), Vec::new());
    // A hose is cut by a list of its own.
    for run in job.runs().iter().filter(|run| run.hose.is_none()) {
        let can_be_cut = |saw: &ToSaw| {
            let whole = 0..saw.pieces.len();
            Chain::all(&saw.pieces, whole, saw.tube.od(), job.kerf()).is_some()
        };
        match to_saw(job, &survey, run.id, progress).filter(can_be_cut) {
            Some(saw) => all.push(saw),
            None => left_out.push(LeftOut {
                run: run.id,
                words: DualUnitText::same(format!(
                    "{} is no pipe that can be sawn yet: mend what it is told of first. It is not counted here.",
                    run.name.as_str()
                )),
            }),
        }
    }
    let mut tubes: Vec<Tube> = Vec::new();
    for one in all.iter().filter(|one| !one.uncut.is_empty()) {
        if !tubes.contains(&one.tube) {
            tubes.push(one.tube);
        }
    }
    tubes.sort_by(|p, q| q.od().total_cmp(&p.od()));
    let plan = |tube: &Tube| {
        let of: Vec<&ToSaw> = all.iter().filter(|one| one.tube == *tube).collect();
        let shelf: Vec<&Stick> = workshop.sticks().iter().filter(|stick| stick.tube == *tube).collect();
        let on_sale: Vec<&StickOnSale> = workshop.on_sale().iter().filter(|one| one.tube == *tube).collect();
        Sorted { tube: *tube, of, shelf, on_sale, saw: job.saw(), kerf: job.kerf(), scrap: workshop.scrap() }.plan(stop)
    };
    let tubes: Vec<TubePlan> = tubes.iter().map(plan).collect::<Result<_, _>>()?;
    let elbows = elbow_plan(&all, workshop);
    let pies = pie_plan(&all, workshop);
    let cost = tubes.iter().map(|tube| tube.cost).sum::<f64>() + cost(&elbows) + pie_plan::cost(&pies);
    let every_elbow =
        elbows.iter().all(|elbow| elbow.source != ElbowSource::Nowhere) && pies.iter().all(|pies| pies.missing == 0);
    let proven = left_out.is_empty() && every_elbow && tubes.iter().all(|tube| tube.cheapest);
    let [spoilt, cut] = progress.scrap();
    Ok(StockPlan { scrap: ScrapCount { spoilt, cut }, cost, proven, elbows, pies, left_out, tubes })
}

/// A chain of a run, by the run's place.
type Unit = (usize, Chain);

/// Steps of the search for what parting a chain would save.
const TRIAL: u64 = 2_000_000;
/// Partings that are tried at most.
const PARTINGS: usize = 60;

/// One sort of tube.
struct Sorted<'a> {
    tube: Tube,
    of: Vec<&'a ToSaw>,
    shelf: Vec<&'a Stick>,
    on_sale: Vec<&'a StickOnSale>,
    saw: &'a PinnedSaw,
    kerf: f64,
    scrap: Option<ScrapRate>,
}

impl Sorted<'_> {
    fn plan(&self, stop: &AtomicBool) -> Result<TubePlan, NestError> {
        let units = match self.units() {
            Ok(units) => units,
            Err(why) => return Ok(self.none(why)),
        };
        let first = match self.nested(&units, NEST_STEPS, stop) {
            Ok(nest) => nest,
            Err(NestError::Stopped) => return Err(NestError::Stopped),
            Err(why) => return Ok(self.none(why)),
        };
        // Chains may be parted elsewhere than they were: what no parting betters is proven, and nothing else.
        let whole = self.is_whole(&units).then(|| self.given(&units));
        let single = units.iter().all(|(_, chain)| chain.pieces.len() == 1);
        let (units, nest) = self.parted(units, first, stop)?;
        let least = match whole {
            // What is one piece is parted nowhere.
            Some(_) if single => [nest.least_cost, nest.least_touched],
            Some(given) => least_of_any(&given, nest.cost)?,
            None => [0.0; 2],
        };
        let spare = self.spare(&units, &nest, stop)?;
        Ok(TubePlan { spare, ..self.told(&units, &nest, least) })
    }

    /// What is kept beside for pieces that are spoilt, from what is left of the shelf and of what is bought.
    fn spare(&self, units: &[Unit], nest: &Nest, stop: &AtomicBool) -> Result<Option<SparePlan>, NestError> {
        let Some(scrap) = self.scrap else { return Ok(None) };
        let alone = |(run, chain): &Unit| {
            let pieces = &self.of[*run].pieces;
            chain.pieces.clone().filter_map(|at| Some(Chain::of(pieces, at..at + 1, self.tube.od(), self.kerf)?.takes))
        };
        let alone: Vec<f64> = units.iter().flat_map(|unit| alone(unit).collect::<Vec<_>>()).collect();
        let touched = |index: usize| nest.sticks.iter().any(|one| one.source == StickSource::Shelf { index });
        let whole = self.shelf.iter().enumerate().filter(|(index, _)| !touched(*index));
        let left = whole.map(|(_, stick)| stick.length.get()).chain(nest.sticks.iter().map(|stick| stick.left));
        let shelf = left.filter(|left| *left > LEAST_OFFCUT).collect();
        spares(alone, scrap, NestGiven { shelf, ..self.given(&[]) }, stop)
    }

    /// Everything that is to be sawn, in chains no longer than the longest stick there is.
    fn units(&self) -> Result<Vec<Unit>, NestError> {
        let (od, kerf) = (self.tube.od(), self.kerf);
        let lengths = self.shelf.iter().map(|stick| stick.length.get());
        let longest = lengths.chain(self.on_sale.iter().map(|one| one.length.get())).fold(0.0, f64::max);
        let mut all = Vec::new();
        for (run, saw) in self.of.iter().enumerate() {
            let mut open: Vec<Chain> = Vec::new();
            for span in &saw.uncut {
                // All of them can be cut: what cannot was left out.
                open.extend(Chain::all(&saw.pieces, span.clone(), od, kerf).unwrap_or_default());
            }
            open.reverse();
            while let Some(chain) = open.pop() {
                if chain.takes <= longest || longest <= 0.0 {
                    all.push((run, chain));
                    continue;
                }
                // As much of it as goes into the longest, then the rest.
                let fits = (chain.pieces.start + 1..chain.pieces.end)
                    .rev()
                    .find_map(|at| chain.parted(&saw.pieces, at, od, kerf).filter(|[first, _]| first.takes <= longest));
                let Some([first, rest]) = fits else {
                    let piece = Chain::of(&saw.pieces, chain.pieces.start..chain.pieces.start + 1, od, kerf);
                    return Err(NestError::TooLong { piece: piece.map_or(chain.takes, |one| one.takes), longest });
                };
                all.push((run, first));
                open.push(rest);
            }
        }
        Ok(all)
    }

    fn nested(&self, units: &[Unit], steps: u64, stop: &AtomicBool) -> Result<Nest, NestError> {
        nest(&self.given(units), steps, stop)
    }

    fn given(&self, units: &[Unit]) -> NestGiven {
        let on_sale = self.on_sale.iter();
        NestGiven {
            pieces: units.iter().map(|(_, chain)| chain.takes).collect(),
            shelf: self.shelf.iter().map(|stick| stick.length.get()).collect(),
            buys: on_sale.map(|one| BuyLength { length: one.length.get(), price: one.price.get() }).collect(),
            kerf: self.kerf,
        }
    }

    /// Whether no chain was parted because no stick is long enough: it might have been parted elsewhere.
    fn is_whole(&self, units: &[Unit]) -> bool {
        let chains = self.of.iter().flat_map(|saw| {
            let spans = saw.uncut.iter();
            spans
                .filter_map(|span| Chain::all(&saw.pieces, span.clone(), self.tube.od(), self.kerf))
                .map(|all| all.len())
        });
        chains.sum::<usize>() == units.len()
    }

    /// The same with chains parted where that saves something to buy.
    fn parted(&self, mut units: Vec<Unit>, mut best: Nest, stop: &AtomicBool) -> Result<(Vec<Unit>, Nest), NestError> {
        let mut tries = 0;
        let mut at = 0;
        while at < units.len() && best.cost > 0.0 && tries < PARTINGS {
            let (run, chain) = units[at].clone();
            let saw = self.of[run];
            let mut saved = false;
            for place in chain.pieces.start + 1..chain.pieces.end {
                let Some(two) = chain.parted(&saw.pieces, place, self.tube.od(), self.kerf) else { continue };
                let mut other = units.clone();
                other.splice(at..=at, two.map(|chain| (run, chain)));
                tries += 1;
                match self.nested(&other, TRIAL, stop) {
                    Ok(nest) if nest.cost < best.cost - 1e-9 => {
                        (units, best, saved) = (other, nest, true);
                        break;
                    }
                    Err(NestError::Stopped) => return Err(NestError::Stopped),
                    Ok(_) | Err(_) => {}
                }
                if tries >= PARTINGS {
                    break;
                }
            }
            at += usize::from(!saved);
        }
        Ok((units, best))
    }

    fn told(&self, units: &[Unit], nest: &Nest, [least, least_touched]: [f64; 2]) -> TubePlan {
        let sticks = nest.sticks.iter().map(|stick| {
            // As they lie in the vehicle, not by their lengths.
            let mut on: Vec<&Unit> = stick.pieces.iter().map(|piece| &units[*piece]).collect();
            on.sort_by_key(|(run, chain)| (*run, chain.pieces.start));
            let mut from = 0.0;
            let done = on.iter().flat_map(|(run, chain)| {
                let saw = self.of[*run];
                chain.pieces.clone().filter_map(|at| saw.is_cut(at))
            });
            let done: Vec<Done> = done.collect();
            let last = on.last().and_then(|(run, chain)| {
                let (saw, at) = (self.of[*run], chain.pieces.end.checked_sub(1)?);
                let shortest = saw.pieces.get(at)?.extremes(self.tube.od())[0];
                last_cut(self.saw, &saw.names.get(at)?.1, shortest, stick.left)
            });
            let chains = on.into_iter().filter_map(|(run, chain)| {
                let sawn = self.of[*run].sawn(chain, from, self.saw);
                from += chain.takes + self.kerf;
                sawn
            });
            let chains = chains.collect();
            let (id, on_sale) = match stick.source {
                StickSource::Shelf { index } => (Some(self.shelf[index].id), None),
                StickSource::Bought { index } => (None, Some(self.on_sale[index].id)),
            };
            let once_sawn = OnceSawn::stick(id, self.tube, stick.left, done);
            let (length, left) = (Measure(stick.length), Measure(stick.left));
            StickPlan { stick: id, on_sale, length, chains, left, hold: last, once_sawn }
        });
        let buy = self.on_sale.iter().enumerate().map(|(index, one)| {
            let bought = nest.sticks.iter().filter(|stick| stick.source == StickSource::Bought { index });
            let (length, price) = (Measure(one.length.get()), one.price.get());
            BuyPlan { on_sale: one.id, length, price, count: bought.count() }
        });
        let (cost, touched) = (nest.cost, nest.touched);
        let cheapest = cost <= least + 1e-9;
        let proven = nest.proven && cheapest && touched <= least_touched + 0.05;
        let words = DualUnitText::new(|unit| {
            if proven {
                "Nothing costs less, and nothing of that price touches less tube.".to_owned()
            } else if !cheapest {
                format!(
                    "Not proven: none costs less than {least:.2}; whether one costs less than this was not ruled out."
                )
            } else {
                format!(
                    "Nothing costs less; at least {} of {} must be touched.",
                    unit.text(least_touched),
                    unit.text(touched)
                )
            }
        });
        TubePlan {
            what: self.what(),
            tube: self.tube,
            sticks: sticks.collect(),
            buy: buy.filter(|buy| buy.count > 0).collect(),
            cost,
            touched: Measure(touched),
            words,
            found: true,
            splice: None,
            spare: None,
            cheapest,
            proven,
        }
    }

    fn what(&self) -> DualUnitText {
        let (od, wall, material) = (self.tube.od(), self.tube.wall(), self.tube.material().name());
        DualUnitText::new(|unit| format!("{} \u{d7} {} {material} tube", unit.figure(od), unit.text(wall)))
    }

    fn none(&self, why: NestError) -> TubePlan {
        let words = DualUnitText::new(|unit| match why {
            NestError::TooLong { longest, .. } if longest <= 0.0 => {
                "There is none of it on the shelf, and nobody said what can be bought.".to_owned()
            }
            NestError::TooLong { piece, longest } => format!(
                "A piece takes {}, and the longest stick there is, or can be bought, is {}: splice it, part the pipe there, or say what longer one can be bought.",
                unit.text(piece),
                unit.text(longest)
            ),
            NestError::NotEnough { shelf, need } => {
                format!("It takes {} and the shelf has {}; say what can be bought.", unit.text(need), unit.text(shelf))
            }
            NestError::Figure { .. } | NestError::TooMany { .. } | NestError::Stopped => why.to_string(),
        });
        TubePlan {
            what: self.what(),
            tube: self.tube,
            sticks: Vec::new(),
            buy: Vec::new(),
            cost: 0.0,
            touched: Measure(0.0),
            words,
            found: false,
            splice: match why {
                NestError::TooLong { longest, .. } => self.spliced(longest),
                _ => None,
            },
            spare: None,
            cheapest: false,
            proven: false,
        }
    }

    /// Tells the runs that no stick is long enough for how long the longest is.
    fn spliced(&self, longest: f64) -> Option<Edit> {
        let stick = LongestStick::new(longest).ok()?;
        let too_long = |piece: &Piece| !piece.is_bought() && piece.extremes(self.tube.od())[1] > longest;
        // One that is spliced at that already has no place for a splice.
        let open = |one: &&&ToSaw| one.longest.is_none_or(|known| known > longest);
        let runs = self.of.iter().filter(open).filter(|one| one.pieces.iter().any(too_long));
        let edits = runs.map(|one| CutEdit::SetLongest { run: one.run, longest: Some(stick) }.into());
        let edits: Vec<Edit> = edits.collect();
        (!edits.is_empty()).then_some(Edit::Together { edits })
    }
}
