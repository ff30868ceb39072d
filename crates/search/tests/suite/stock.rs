//! The whole vehicle from the shelf: every piece is sawn once, and what is sawn, its cuts and what is left are the sticks.

#![allow(clippy::unwrap_used, clippy::panic, reason = "a test fails by panicking")]

use std::collections::HashMap;
use std::sync::atomic::AtomicBool;

use nook_core::measure::End;
use nook_core::record::Progress;
use nook_core::route::{BendMake, KitPie, StockElbow};
use nook_core::stock::Tube;
use nook_core::workshop::{Workshop, WorkshopEdit};
use nook_core::{CutEdit, Job, apply, workup};
use nook_geometry::units::{
    BendRadius, ElbowAngle, ElbowLeg, OutsideDiameter, PieAngle, Price, ScrapRate, StickLength, Wall,
};
use nook_search::{ElbowSource, StockPlan, spare_count, stock_plan};

pub(crate) fn demo() -> Job {
    let file: serde_json::Value = serde_json::from_str(include_str!("../../../../demo/pellow-van.json")).unwrap();
    let version = u32::try_from(file["version"].as_u64().unwrap()).unwrap();
    serde_json::from_value(nook_core::job::upgraded(version, file["job"].clone())).unwrap()
}

fn with(workshop: &Workshop, edit: &WorkshopEdit) -> Workshop {
    workshop.apply(edit).unwrap()
}

fn stick(tube: Tube, mm: f64) -> WorkshopEdit {
    WorkshopEdit::AddStick { tube, length: StickLength::new(mm).unwrap() }
}

fn on_sale(tube: Tube, mm: f64, price: f64) -> WorkshopEdit {
    WorkshopEdit::AddOnSale { tube, length: StickLength::new(mm).unwrap(), price: Price::new(price).unwrap() }
}

fn planned(job: &Job, workshop: &Workshop) -> StockPlan {
    stock_plan(job, &Progress::default(), workshop, &AtomicBool::new(false)).unwrap()
}

/// A workshop that sells every tube of the job by the metre and by three.
fn sells_all(job: &Job) -> Workshop {
    let mut workshop = Workshop::default();
    let mut seen: Vec<Tube> = Vec::new();
    for run in job.runs().iter().filter(|run| run.hose.is_none()) {
        if !seen.contains(&run.tube) {
            seen.push(run.tube);
            for (mm, price) in [(1000.0, 30.0), (3000.0, 78.0)] {
                workshop = with(&workshop, &on_sale(run.tube, mm, price));
            }
        }
    }
    workshop
}

fn holds(job: &Job, plan: &StockPlan) {
    let mut named: HashMap<(u32, String), usize> = HashMap::new();
    for tube in &plan.tubes {
        assert!(tube.found, "{}", tube.words.mm);
        for stick in &tube.sticks {
            let mut from = 0.0;
            for chain in &stick.chains {
                assert!((chain.from.mm() - from).abs() < 1e-6);
                from += chain.takes.mm() + job.kerf();
                for name in &chain.pieces {
                    *named.entry((chain.run.0, name.clone())).or_default() += 1;
                }
                let frees: Vec<String> = chain.cuts.iter().filter_map(|cut| cut.frees.clone()).collect();
                assert_eq!(frees, chain.pieces);
            }
            // What is cut, its kerfs and what is left are the stick.
            assert!(from <= stick.length.mm() + job.kerf() + 1e-3);
            assert!((stick.left.mm() - (stick.length.mm() - from).max(0.0)).abs() < 1e-2);
        }
        let bought: f64 = tube.buy.iter().fold(0.0, |sum, buy| (0..buy.count).fold(sum, |sum, _| sum + buy.price));
        assert!((bought - tube.cost).abs() < 1e-6);
    }
    for run in job.runs().iter().filter(|run| run.hose.is_none()) {
        for piece in workup(job, run.id).unwrap().pieces {
            assert_eq!(
                named.remove(&(run.id.0, piece.name.clone())),
                Some(1),
                "{} of {}",
                piece.name,
                run.name.as_str()
            );
        }
    }
    assert!(named.is_empty(), "nothing else is sawn");
}

#[test]
fn every_piece_of_the_demo_is_sawn_once_and_the_shelf_is_used_first() {
    let job = demo();
    let sells = sells_all(&job);
    let bought = planned(&job, &sells);
    holds(&job, &bought);
    assert!(bought.cost > 0.0);
    let hot = job.runs()[0].tube;
    let shelf = with(&with(&sells, &stick(hot, 900.0)), &stick(hot, 700.0));
    let with_shelf = planned(&job, &shelf);
    holds(&job, &with_shelf);
    assert!(with_shelf.cost < bought.cost, "{} {}", with_shelf.cost, bought.cost);
    // Taking a stick off again never makes it cheaper.
    for id in shelf.sticks().iter().map(|stick| stick.id) {
        let less = planned(&job, &with(&shelf, &WorkshopEdit::RemoveStick { stick: id }));
        assert!(less.cost >= with_shelf.cost - 1e-9);
    }
}

#[test]
fn a_chain_longer_than_any_stick_is_parted_and_a_piece_longer_than_any_is_told() {
    let job = demo();
    let tubes: Vec<Tube> = sells_all(&job).on_sale().iter().map(|one| one.tube).collect();
    let sold_by = |mm: f64| {
        let mut workshop = Workshop::default();
        for tube in tubes.iter().step_by(2) {
            workshop = with(&workshop, &on_sale(*tube, mm, 20.0));
        }
        planned(&job, &workshop)
    };
    // The heater lines' long straights want more than a metre; the rest is parted into what half a metre holds.
    let short = sold_by(560.0);
    let told: Vec<bool> = short.tubes.iter().map(|tube| tube.found).collect();
    assert!(told.contains(&true) && told.contains(&false), "{told:?}");
    for tube in &short.tubes {
        assert_eq!(tube.found, !tube.words.mm.contains("part the pipe there"), "{}", tube.words.mm);
    }
    holds(&job, &sold_by(2500.0));
    // With nothing on the shelf and nothing on sale it says so.
    let nothing = planned(&job, &Workshop::default());
    assert!(nothing.tubes.iter().all(|tube| !tube.found && tube.words.mm.contains("nobody said what can be bought")));
}

#[test]
fn what_is_longer_than_any_stick_is_spliced_on_request_and_then_every_piece_goes() {
    let job = demo();
    let tubes: Vec<Tube> = sells_all(&job).on_sale().iter().map(|one| one.tube).collect();
    let sold = |mm: f64| {
        tubes.iter().step_by(2).fold(Workshop::default(), |workshop, tube| with(&workshop, &on_sale(*tube, mm, 20.0)))
    };
    let workshop = sold(560.0);
    let before = planned(&job, &workshop);
    let edits: Vec<_> = before.tubes.iter().filter_map(|tube| tube.splice.clone()).collect();
    assert!(!edits.is_empty());
    for tube in &before.tubes {
        assert_eq!(tube.splice.is_some(), !tube.found, "{}", tube.words.mm);
    }
    let spliced = edits.iter().fold(job.clone(), |job, edit| apply(&job, edit).unwrap().job);
    let after = planned(&spliced, &workshop);
    assert!(after.tubes.iter().all(|tube| tube.found && tube.splice.is_none()));
    holds(&spliced, &after);
    // Only what is too long is parted.
    for run in job.runs().iter().filter(|run| run.hose.is_none()) {
        let [was, is] = [&job, &spliced].map(|job| workup(job, run.id).unwrap());
        let long = was.pieces.iter().filter(|piece| piece.longest.mm() > 560.0).count();
        assert_eq!(long > 0, !is.splices.is_empty(), "{}", was.name);
        assert_eq!(is.pieces.len(), was.pieces.len() + is.splices.len());
    }
}

#[test]
fn elbows_come_off_the_shelf_first_and_each_once() {
    let job = demo();
    let run = job.runs().iter().find(|run| run.hose.is_none() && run.tube.od() > 60.0).unwrap();
    let (id, tube) = (run.id, run.tube);
    let told = workup(&job, id).unwrap();
    let sort = |bend: usize, legs: [f64; 2]| StockElbow {
        radius: BendRadius::new(told.bends[bend].radius.mm()).unwrap(),
        angle: ElbowAngle::new(told.bends[bend].angle.ceil()).unwrap(),
        legs: legs.map(|leg| ElbowLeg::new(leg).unwrap()),
    };
    let make = |job: &Job, bend: usize, stock: StockElbow| {
        let make = Some(BendMake::Elbow { stock, cut: End::B });
        apply(job, &CutEdit::SetMake { run: id, bend: told.bends[bend].bend, make }.into()).unwrap().job
    };
    let (one, other) = (sort(0, [20.0, 30.0]), sort(1, [25.0, 25.0]));
    let job = make(&make(&job, 0, one), 1, other);
    let workshop = sells_all(&job);
    let bare = planned(&job, &workshop);
    assert_eq!(bare.elbows.iter().map(|elbow| elbow.source).collect::<Vec<_>>(), [ElbowSource::Nowhere; 2]);
    assert!(!bare.proven, "what comes from nowhere is no plan");
    let elbow_on_sale =
        |elbow, price: f64| WorkshopEdit::AddElbowOnSale { tube, elbow, price: Price::new(price).unwrap() };
    let mut sold = workshop;
    for (elbow, price) in [(one, 9.0), (one, 7.5), (other, 4.0)] {
        sold = with(&sold, &elbow_on_sale(elbow, price));
    }
    let bought = planned(&job, &sold);
    assert!(
        (bought.cost - bare.cost - 11.5).abs() < 1e-9 && bought.proven == bought.tubes.iter().all(|tube| tube.cheapest)
    );
    // On the shelf, and lying the other way round, it is not bought; one of another tube does not serve.
    let thicker = Wall::new(tube.wall() + 0.5).unwrap();
    let other_tube = Tube::new(tube.material(), OutsideDiameter::new(tube.od()).unwrap(), thicker).unwrap();
    let useless = with(&sold, &WorkshopEdit::AddElbow { tube: other_tube, elbow: one });
    assert!((planned(&job, &useless).cost - bought.cost).abs() < 1e-9);
    let shelf = with(&useless, &WorkshopEdit::AddElbow { tube, elbow: one.turned() });
    let taken = planned(&job, &shelf);
    assert!((taken.cost - bought.cost + 7.5).abs() < 1e-9);
    assert!(matches!(taken.elbows[0].source, ElbowSource::Shelf { .. }));
    // Two bends of one sort do not take the one elbow twice.
    let both = told.bends[0].angle.max(told.bends[1].angle).ceil();
    let both = StockElbow { angle: ElbowAngle::new(both).unwrap(), ..one };
    let twice = make(&make(&job, 1, both), 0, both);
    let shelf = with(&sells_all(&twice), &WorkshopEdit::AddElbow { tube, elbow: both });
    let plan = planned(&twice, &shelf);
    let off =
        |plan: &StockPlan| plan.elbows.iter().filter(|one| matches!(one.source, ElbowSource::Shelf { .. })).count();
    assert_eq!((plan.elbows.len(), off(&plan)), (2, 1));
}

#[test]
fn bought_pies_come_out_of_their_box_first_and_the_rest_is_bought() {
    let job = demo();
    let run = job.runs().iter().find(|run| run.hose.is_none() && run.tube.od() > 60.0).unwrap();
    let (id, tube) = (run.id, run.tube);
    let told = workup(&job, id).unwrap();
    let pie =
        KitPie { angle: PieAngle::new(9.0).unwrap(), radius: BendRadius::new(told.bends[0].radius.mm()).unwrap() };
    let make = |job: &Job, bend: usize| {
        let make = Some(BendMake::KitPies { pie });
        apply(job, &CutEdit::SetMake { run: id, bend: told.bends[bend].bend, make }.into()).unwrap().job
    };
    let (workshop, job) = (sells_all(&job), make(&make(&job, 0), 1));
    let need =
        [0, 1].map(|bend| (1..40_u32).rev().find(|count| f64::from(*count) * 9.0 <= told.bends[bend].angle).unwrap());
    let bare = planned(&job, &workshop);
    assert_eq!(
        bare.pies.iter().map(|one| (one.number, one.need, one.missing)).collect::<Vec<_>>(),
        [(1, need[0], need[0]), (2, need[1], need[1])]
    );
    assert!(!bare.proven, "what comes from nowhere is no plan");
    holds_all_but_pies(&job, &bare);
    let add = |count| WorkshopEdit::AddPies { tube, pie, count };
    // Two lots of one sort lie in one box.
    let shelf = with(&with(&workshop, &add(need[0])), &add(2));
    assert_eq!((shelf.pies().len(), shelf.pies()[0].count), (1, need[0] + 2));
    let sold = |price: f64| WorkshopEdit::AddPiesOnSale { tube, pie, price: Price::new(price).unwrap() };
    let shelf = with(&with(&shelf, &sold(3.0)), &sold(2.5));
    let plan = planned(&job, &shelf);
    let from = |one: &nook_search::PiePlan| (one.from_shelf, one.bought, one.missing);
    assert_eq!(plan.pies.iter().map(from).collect::<Vec<_>>(), [(need[0], 0, 0), (2, need[1] - 2, 0)]);
    assert!((plan.cost - bare.cost - 2.5 * f64::from(need[1] - 2)).abs() < 1e-9);
    // Once they are used the box has what is left of them, and they are asked for no more.
    let used = &plan.pies[0].once_sawn;
    assert_eq!(used.done.len(), usize::try_from(need[0]).unwrap());
    let after = with(&shelf, used.shelf.as_ref().unwrap());
    assert_eq!(after.pies()[0].count, 2);
    let other_first = with(&shelf, plan.pies[1].once_sawn.shelf.as_ref().unwrap());
    assert_eq!(other_first.pies()[0].count, need[0]);
}

/// The plan's tubes are whole: every piece but the bought pies is sawn once.
fn holds_all_but_pies(job: &Job, plan: &StockPlan) {
    let pieces = job.runs().iter().filter(|run| run.hose.is_none());
    let pieces: usize = pieces.map(|run| workup(job, run.id).unwrap().pieces.len()).sum();
    let sawn: usize = plan
        .tubes
        .iter()
        .flat_map(|tube| &tube.sticks)
        .flat_map(|stick| &stick.chains)
        .map(|chain| chain.pieces.len())
        .sum();
    let pies: u32 = plan.pies.iter().map(|one| one.need).sum();
    assert_eq!(sawn + usize::try_from(pies).unwrap(), pieces);
}

#[test]
fn spares_are_kept_for_as_many_as_are_spoilt_nine_times_in_ten() {
    let rate = |share: f64| ScrapRate::new(share).unwrap();
    // By hand: 0.95^2 = 0.9025; 0.9^10 = 0.349, + 10 x 0.1 x 0.9^9 = 0.736, + 45 x 0.01 x 0.9^8 = 0.930.
    assert_eq!([spare_count(0, rate(0.5)), spare_count(2, rate(0.05)), spare_count(3, rate(0.05))], [0, 0, 1]);
    assert_eq!([spare_count(10, rate(0.1)), spare_count(10, rate(0.0)), spare_count(1, rate(0.5))], [2, 0, 1]);
    let job = demo();
    let workshop = sells_all(&job);
    assert!(planned(&job, &workshop).tubes.iter().all(|tube| tube.spare.is_none()), "nobody said how many are spoilt");
    let with_scrap = with(&workshop, &WorkshopEdit::SetScrap { scrap: Some(rate(0.1)) });
    let (plan, bare) = (planned(&job, &with_scrap), planned(&job, &workshop));
    assert!((plan.cost - bare.cost).abs() < 1e-9, "spares are told beside the plan");
    for tube in &plan.tubes {
        let pieces: Vec<usize> =
            tube.sticks.iter().flat_map(|stick| &stick.chains).map(|chain| chain.pieces.len()).collect();
        let count = spare_count(pieces.iter().sum(), rate(0.1));
        let Some(spare) = &tube.spare else {
            assert_eq!(count, 0);
            continue;
        };
        assert_eq!(spare.pieces, count);
        // What is left over and what is bought are long enough for them.
        let left: f64 = tube.sticks.iter().map(|stick| stick.left.mm()).sum();
        let bought: f64 =
            spare.buy.iter().map(|one| one.length.mm() * f64::from(u8::try_from(one.count).unwrap())).sum();
        assert!(left + bought >= spare.takes.mm(), "{}", spare.words.mm);
        assert_eq!(spare.words.mm.contains("what is left over holds them"), spare.buy.is_empty());
    }
}
