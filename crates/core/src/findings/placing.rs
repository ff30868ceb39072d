//! What is wrong with where the big things stand and how they are held, with what mends it.

use super::lack::too_near_of;
use super::pairs::pairs;
use super::place_mend::Looked;
use super::remedy::remedy;
use super::words::{air_goes_round, face_hidden, lifted, no_hand_room, not_level, off_centre, scrapes, sway_words};
use super::{Finding, FindingKind, Remedy, Severity};
use crate::edit::{ComponentChange, Edit, PlaceEdit, apply};
use crate::environment::{Scans, Thing};
use crate::job::Job;
use crate::measure::{Bracket, BracketStock, Component, Holding, KeepOutId, KeepOutKind, MountPoint};
use crate::part_ref::PartRef;
use crate::placing::{
    BoltError, BracketError, Ground, LEAST_FREQUENCY, Pairs, Rules, SwayError, bolt_fit, bracket_ends, bracket_meets,
    bracket_plan, clamped, over_ground, rules, sway,
};
use crate::survey::Survey;
use nook_geometry::units::{DualUnitText, Gap, MountHeight, PitchAngle, Share, SheetThickness, StripWidth, capital};

/// Everything that is wrong with where the big things stand. What mends it is looked for where `mend` says so.
pub(crate) fn placing(job: &Job, survey: &Survey<'_>, pairs_of_job: &Pairs, scans: &Scans, mend: bool) -> Vec<Finding> {
    let looked = Looked { job, survey, pairs: pairs_of_job, scans };
    let mut all = pairs(&looked, mend);
    for component in job.components() {
        all.extend(by_rules(&looked, component, mend));
        all.extend(by_mounts(&looked, component, mend));
        if mend {
            all.extend(by_height(&looked, component));
        }
    }
    all.extend(lone_boxes(&looked));
    all
}

/// A rule that may be broken: what is found when it is, from what it is judged by.
type Broken<'a> = Box<dyn Fn(&Looked<'_>, &Rules) -> Option<Finding> + 'a>;

fn by_rules(looked: &Looked<'_>, component: &Component, mend: bool) -> Vec<Finding> {
    let judged = rules(looked.job, looked.survey, component, looked.scans);
    let broken = broken(component);
    let each = broken.iter().filter_map(|rule| {
        let finding = rule(looked, &judged)?;
        if !mend {
            return Some(finding);
        }
        let kept = |next: &Looked<'_>| {
            let moved = next.job.component(component.id);
            let after = moved.map(|moved| rules(next.job, next.survey, moved, next.scans)).unwrap_or_default();
            rule(next, &after).is_none()
        };
        Some(finding.mended_by(looked.moved(component, 0.0, &kept)))
    });
    each.collect()
}

fn broken(component: &Component) -> Vec<Broken<'_>> {
    let part = PartRef::Component { component: component.id };
    let name = component.name.as_str();
    let wishes = component.wishes;
    let warning = move |kind, words: DualUnitText, value, limit| {
        Finding::new(kind, Severity::Warning, part, words).measured(value, limit)
    };
    let opening = move |looked: &Looked<'_>| {
        let through = component.breathing.and_then(|breathing| looked.job.opening(breathing.through?));
        through.map_or_else(String::new, |opening| opening.name.as_str().to_owned())
    };
    vec![
        Box::new(move |looked, rules| {
            let (shown, wanted) = (rules.shown?, wishes.share.map(Share::get)?);
            let words = face_hidden(name, &opening(looked), &shown, wanted);
            (shown.share < wanted).then(|| warning(FindingKind::FaceHidden, words, shown.share, wanted))
        }),
        Box::new(move |looked, rules| {
            let (shown, most) = (rules.shown?, wishes.centred.map(Gap::get)?);
            let words = off_centre(name, &opening(looked), shown.aside, most);
            (shown.aside.abs() > most).then(|| warning(FindingKind::OffCentre, words, shown.aside.abs(), most))
        }),
        Box::new(move |_, rules| {
            let (level, most) = (rules.level?, wishes.level.map(PitchAngle::get)?.abs());
            let words = not_level(name, level, most);
            (level.abs() > most).then(|| warning(FindingKind::NotLevel, words, level.abs(), most))
        }),
        Box::new(move |looked, rules| {
            let (core, most) = (rules.core?, wishes.duct.map(Gap::get)?);
            let ahead = looked.job.component(core.component).map_or("", |one| one.name.as_str());
            let words = air_goes_round(name, ahead, core.gap, most);
            (core.gap > most).then(|| warning(FindingKind::AirGoesRound, words, core.gap, most))
        }),
        Box::new(move |looked, rules| {
            let hand = rules.hand?;
            let by = hand.by?;
            let what = looked.job.keep_out(by).map_or("", |one| one.name.as_str());
            let words = no_hand_room(name, what, hand.free, hand.wanted);
            let finding = warning(FindingKind::NoHandRoom, words, hand.free, hand.wanted);
            (hand.free < hand.wanted).then(|| finding.against(Thing::KeepOut { keep_out: by }))
        }),
        Box::new(move |looked, rules| scraping(looked, part, name, &rules.ground?)),
    ]
}

fn scraping(looked: &Looked<'_>, part: PartRef, name: &str, ground: &Ground) -> Option<Finding> {
    let (least, ramp) = (KeepOutKind::Ground.default_gap(), looked.job.stance()?.ramp());
    let [value, limit] = if ground.flat < least {
        [ground.flat, least]
    } else if ground.ramp < 0.0 {
        [ground.ramp, 0.0]
    } else {
        return None;
    };
    let words = scrapes(name, ground, least, ramp);
    Some(Finding::new(FindingKind::Scrapes, Severity::Warning, part, words).measured(value, limit))
}

/// Big boxes that are part of no component scrape as well.
fn lone_boxes(looked: &Looked<'_>) -> Vec<Finding> {
    let boxes = looked.job.keep_outs().iter().filter(|one| one.big && looked.job.whole_of(one.id).is_none());
    let each = boxes.filter_map(|one| {
        let ground = over_ground(looked.job, looked.survey, &[one.id], looked.scans)?;
        scraping(looked, PartRef::KeepOut { keep_out: one.id }, one.name.as_str(), &ground)
    });
    each.collect()
}

/// What comes too near only since the mounts lift a component: its own body, and the pipes that end on it.
fn by_height(looked: &Looked<'_>, component: &Component) -> Vec<Finding> {
    let Some(raised) = component.raised.map(MountHeight::get).filter(|raised| *raised > 0.0) else { return Vec::new() };
    let set = |raised: Option<MountHeight>| {
        let to = ComponentChange::Raised { raised };
        PlaceEdit::ChangeComponent { component: component.id, to }
    };
    let now = near_with(looked, component);
    let mut before = Vec::new();
    let found = std::cell::RefCell::new(&mut before);
    let known = looked.after(&set(None), &|next| {
        **found.borrow_mut() = near_with(next, component);
        true
    });
    if !known {
        return Vec::new();
    }
    let lifted_to: Vec<&Near> = now.iter().filter(|near| !before.iter().any(|one| one.same(near))).collect();
    let part = PartRef::Component { component: component.id };
    let each = lifted_to.iter().map(|near| {
        // The tallest mounts under which it clears.
        let heights = (0..TRIED).rev().map(|part| (raised * f64::from(part) / f64::from(TRIED)).floor());
        let clears = |to: &f64| {
            looked.after(&set(MountHeight::new(*to).ok()), &|next| {
                !near_with(next, component).iter().any(|one| one.same(near))
            })
        };
        let lower = heights.filter(|to| *to < raised).find(clears);
        let mend = lower.map(|to| {
            remedy(|unit| format!("Use mounts {} high", unit.text(to)), set(MountHeight::new(to).ok()).into())
        });
        let words = lifted(component.name.as_str(), raised, &near.what, &near.to, near.gaps);
        let severity = if near.gaps[0] <= 0.0 { Severity::Error } else { Severity::Warning };
        Finding::new(FindingKind::LiftedByMounts, severity, part, words)
            .measured(near.gaps[0], near.gaps[1])
            .against(near.thing)
            .mended_by(mend.into_iter().collect())
    });
    each.collect()
}

/// How many lower heights of mounts are tried, evenly down to none.
const TRIED: u32 = 10;

/// Something of a component, or a pipe that ends on it, near to something.
struct Near {
    what: String,
    thing: Thing,
    to: String,
    gaps: [f64; 2],
}

impl Near {
    fn same(&self, other: &Self) -> bool {
        self.what == other.what && self.thing == other.thing
    }
}

fn near_with(looked: &Looked<'_>, component: &Component) -> Vec<Near> {
    let name = |id: KeepOutId| looked.job.keep_out(id).map_or_else(String::new, |one| one.name.as_str().to_owned());
    let bodies = looked.pairs.near().iter().filter_map(|pair| {
        let own = pair.things.iter().position(|id| component.body.contains(id))?;
        let other = pair.things[1 - own];
        let gaps = [pair.near.gap, pair.limit];
        Some(Near { what: name(pair.things[own]), thing: Thing::KeepOut { keep_out: other }, to: name(other), gaps })
    });
    let pipes = component.ports.iter().flat_map(|port| {
        let what = looked.job.run(port.run).map_or_else(String::new, |run| run.name.as_str().to_owned());
        let near = too_near_of(looked.job, looked.survey, port.run, looked.scans);
        near.into_iter().map(move |(thing, to, gaps)| Near { what: what.clone(), thing, to, gaps })
    });
    bodies.chain(pipes).collect()
}

/// How a component is held: whether it sways, whether its brackets can be made and its bolts fit.
fn by_mounts(looked: &Looked<'_>, component: &Component, mend: bool) -> Vec<Finding> {
    if component.mounts.is_empty() {
        return Vec::new();
    }
    let part = PartRef::Component { component: component.id };
    let mut all = Vec::new();
    let judged = sway(looked.job, looked.survey, component);
    let said = |kind, severity| {
        let words = sway_words(&judged);
        let name = capital(component.name.as_str());
        Finding::new(kind, severity, part, DualUnitText::new(|unit| format!("{name}: {}", words.get(unit))))
    };
    match &judged {
        Ok(sway) if sway.mode.frequency < LEAST_FREQUENCY => {
            let remedies = if mend { steadied(looked, component) } else { Vec::new() };
            let finding = said(FindingKind::Sways, Severity::Warning);
            all.push(finding.measured(sway.mode.frequency, LEAST_FREQUENCY).mended_by(remedies));
        }
        Ok(_) => {}
        // A bracket that cannot be made is told by itself.
        Err(SwayError::NoBracket { .. }) => {}
        Err(_) => all.push(said(FindingKind::HoldUnknown, Severity::Info)),
    }
    for mount in &component.mounts {
        all.extend(by_bracket(looked, component, mount, mend));
        if let (Some(stack), Some(boss)) = (clamped(mount), mount.boss)
            && let Err(problem) = bolt_fit(mount.bolt.get(), stack, boss.get())
        {
            let severity =
                if matches!(problem, BoltError::Shallow { .. }) { Severity::Warning } else { Severity::Info };
            let part = PartRef::Mount { component: component.id, mount: mount.id };
            let words = problem.words(&capital(mount.name.as_str()));
            all.push(Finding::new(FindingKind::BoltInBoss, severity, part, words));
        }
    }
    all
}

fn by_bracket(looked: &Looked<'_>, component: &Component, mount: &MountPoint, mend: bool) -> Option<Finding> {
    let Some(Holding::Bracket { bracket }) = mount.held else { return None };
    let part = PartRef::Mount { component: component.id, mount: mount.id };
    let ends = bracket_ends(looked.survey, component, mount, &bracket)?;
    let told = |words: String| {
        let text = format!("Bracket at the {}: {words}", mount.name.as_str());
        Finding::new(FindingKind::BracketFouls, Severity::Warning, part, DualUnitText::new(|_| text.clone()))
    };
    let plan = match bracket_plan(&ends[0], &ends[1], bracket.stock, bracket.material) {
        Ok(plan) => plan,
        Err(problem) => {
            let wider = if mend { widened(looked, component, mount, &problem) } else { None };
            return Some(told(format!("{problem}.")).mended_by(wider.into_iter().collect()));
        }
    };
    let met = bracket_meets(looked.job, looked.survey, &plan, &ends, looked.scans)?;
    let name = looked.job.keep_out(met).map_or("", |one| one.name.as_str());
    Some(told(format!("it runs through the {name}.")).against(Thing::KeepOut { keep_out: met }))
}

/// The same bracket of strip as wide as its holes ask, tried.
fn widened(looked: &Looked<'_>, component: &Component, mount: &MountPoint, problem: &BracketError) -> Option<Remedy> {
    let (BracketError::Narrow { needed, .. }, Some(Holding::Bracket { mut bracket })) = (problem, mount.held) else {
        return None;
    };
    let wide = (needed / 5.0).ceil() * 5.0;
    let width = StripWidth::new(wide).ok()?;
    if let BracketStock::Strip { width: now, .. } = &mut bracket.stock {
        *now = width;
    }
    let mount = MountPoint { held: Some(Holding::Bracket { bracket }), ..mount.clone() };
    let edit = PlaceEdit::SetMount { component: component.id, mount: mount.clone() };
    let mends = looked.after(&edit, &|next| {
        let now = next.job.component(component.id);
        now.is_some_and(|now| by_bracket(next, now, &mount, false).is_none())
    });
    mends.then(|| remedy(|unit| format!("Cut it from strip {} wide", unit.text(wide)), edit.into()))
}

/// Brackets held by a second bolt at each end, or of thicker strip, after which a component no longer sways.
fn steadied(looked: &Looked<'_>, component: &Component) -> Vec<Remedy> {
    let with = |change: &dyn Fn(&mut Bracket)| {
        let mounts = component.mounts.iter().filter_map(|mount| {
            let Some(Holding::Bracket { mut bracket }) = mount.held else { return None };
            change(&mut bracket);
            Some(MountPoint { held: Some(Holding::Bracket { bracket }), ..mount.clone() })
        });
        let edits: Vec<_> = mounts.map(|mount| PlaceEdit::SetMount { component: component.id, mount }.into()).collect();
        Edit::Together { edits }
    };
    let firm = |edit: &Edit| {
        let Ok(applied) = apply(looked.job, edit) else { return false };
        let survey = looked.survey.with_components_of(&applied.job);
        let now = applied.job.component(component.id);
        let judged = now.and_then(|now| sway(&applied.job, &survey, now).ok());
        judged.is_some_and(|sway| sway.mode.frequency >= LEAST_FREQUENCY)
    };
    let bolted = with(&|bracket| bracket.second_bolt = [true; 2]);
    if firm(&bolted) {
        return vec![remedy(|_| "Hold each bracket by two bolts at each end".to_owned(), bolted)];
    }
    for thick in [3.0, 4.0, 5.0, 6.0, 8.0] {
        for second in [false, true] {
            let edit = with(&|bracket| {
                if second {
                    bracket.second_bolt = [true; 2];
                }
                if let BracketStock::Strip { thickness, radius, .. } = &mut bracket.stock
                    && thickness.get() < thick
                    && let Ok(new) = SheetThickness::new(thick)
                {
                    (*thickness, *radius) = (new, if radius.get() < thick { new } else { *radius });
                }
            });
            if firm(&edit) {
                let bolts = if second { ", two bolts at each end" } else { "" };
                return vec![remedy(|unit| format!("Bend the brackets from {} strip{bolts}", unit.text(thick)), edit)];
            }
        }
    }
    Vec::new()
}
