//! Moving a component until something about it is mended, tried before it is offered.

use super::Remedy;
use super::lack::stops;
use super::remedy::remedy;
use crate::edit::{PlaceEdit, apply};
use crate::environment::Scans;
use crate::job::Job;
use crate::measure::{Component, Freedom};
use crate::placing::Pairs;
use crate::survey::Survey;

/// A job with what was worked out of it.
pub(super) struct Looked<'a> {
    pub(super) job: &'a Job,
    pub(super) survey: &'a Survey<'a>,
    pub(super) pairs: &'a Pairs,
    pub(super) scans: &'a Scans,
}

/// Slides in mm and turns in degrees that are tried.
const SLIDES: [f64; 15] = [2.0, 4.0, 6.0, 8.0, 10.0, 12.0, 15.0, 20.0, 25.0, 30.0, 40.0, 50.0, 65.0, 80.0, 100.0];
const TURNS: [f64; 8] = [1.0, 2.0, 3.0, 5.0, 8.0, 12.0, 16.0, 20.0];
/// Air that is missing by less than this more, in mm, is no more.
const SAME_AIR: f64 = 0.1;

impl Looked<'_> {
    /// The smallest slide and the smallest turn of a component after which `mends` holds, nothing that it should not meet is
    /// nearer in all than before, and no run is worse off. Slides of less than `least` mm are not tried.
    pub(super) fn moved(&self, component: &Component, least: f64, mends: &dyn Fn(&Looked<'_>) -> bool) -> Vec<Remedy> {
        let mut slide = None;
        let mut turn = None;
        for (index, freedom) in component.freedoms.iter().enumerate() {
            let sizes: Vec<f64> = match (freedom, freedom.step()) {
                (_, Some(step)) => (1..=3).map(|count| step * f64::from(count)).collect(),
                (Freedom::Turn { .. }, None) => TURNS.to_vec(),
                (Freedom::Slide { .. }, None) => SLIDES.into_iter().filter(|by| *by >= least).collect(),
            };
            let best = if matches!(freedom, Freedom::Turn { .. }) { &mut turn } else { &mut slide };
            for size in sizes {
                if best.as_ref().is_some_and(|(known, _)| *known <= size) {
                    break;
                }
                let signed = [size, -size].into_iter().map(|by| freedom.setting() + by).filter(|to| freedom.takes(*to));
                if let Some(to) = signed.into_iter().find(|to| self.mended(component, index, *to, mends)) {
                    *best = Some((size, (index, to)));
                    break;
                }
            }
        }
        let offers = [slide, turn].into_iter().flatten();
        offers.map(|(_, (index, to))| offer(component, index, to)).collect()
    }

    fn mended(&self, component: &Component, index: usize, to: f64, mends: &dyn Fn(&Looked<'_>) -> bool) -> bool {
        let edit = PlaceEdit::SetFreedom { component: component.id, freedom: index, to };
        self.after(&edit, &|next| {
            let (before, after) = (self.pairs.lack(&component.body), next.pairs.lack(&component.body));
            let no_nearer = after.0 <= before.0 && after.1 <= before.1 + SAME_AIR;
            no_nearer && mends(next) && self.spares_runs(next)
        })
    }

    /// Whether something holds after an edit that moves components or says how they are held.
    pub(super) fn after(&self, edit: &PlaceEdit, holds: &dyn Fn(&Looked<'_>) -> bool) -> bool {
        let Ok(applied) = apply(self.job, &edit.clone().into()) else { return false };
        let job = applied.job;
        let survey = self.survey.with_components_of(&job);
        let pairs = Pairs::after(Some(self.pairs), &job, &survey, self.scans);
        holds(&Looked { job: &job, survey: &survey, pairs: &pairs, scans: self.scans })
    }

    /// Whether no run has more that keeps it from being built, whether it ends on what was moved or only passes it.
    fn spares_runs(&self, next: &Looked<'_>) -> bool {
        self.job.runs().iter().all(|run| {
            stops(next.job, next.survey, run.id, self.scans) <= stops(self.job, self.survey, run.id, self.scans)
        })
    }
}

/// A move as a button says it.
fn offer(component: &Component, index: usize, to: f64) -> Remedy {
    let name = component.name.as_str().to_owned();
    let freedom = component.freedoms[index];
    let by = to - freedom.setting();
    let edit = PlaceEdit::SetFreedom { component: component.id, freedom: index, to }.into();
    let say = |unit| {
        let words = freedom.move_words(by, unit);
        format!("{} the {name} {}", words.act, words.by)
    };
    remedy(say, edit)
}
