//! What is checked of a finished pipe: made from what it has, never from a template.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::Fingerprint;
use crate::assembly::Assembly;
use crate::job::Job;
use crate::join::{BranchKind, JointKind, SupportKind};
use crate::measure::{End, EndForm, KeepOutId, KeepOutKind};
use crate::part_ref::PartRef;
use crate::route::{BranchId, JointId, ResolvedRun, SupportId};
use crate::stock::Duty;

/// Which thing is checked: named by what it is about, so that it is the same whatever else changes.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize, ToSchema)]
#[serde(tag = "check", rename_all = "snake_case", deny_unknown_fields)]
pub enum CheckId {
    /// Rags, plugs and tape counted out again.
    CountedOut,
    /// Chips are out: blown, washed, looked through.
    Clean,
    /// A gasket or seal was looked at.
    Seal {
        /// Of which joint.
        joint: JointId,
    },
    /// A joint is made up and tightened.
    Tight {
        /// Which.
        joint: JointId,
    },
    /// Something let in is sealed and tightened.
    LetIn {
        /// Which.
        branch: BranchId,
    },
    /// A support is fast, and holds the pipe off.
    Held {
        /// Which.
        support: SupportId,
    },
    /// A live terminal nearby has its cap.
    Capped {
        /// Which.
        terminal: KeepOutId,
    },
    /// The bonnet shuts.
    Bonnet,
    /// The engine was rolled by hand to either side and nothing touches.
    Rolled,
    /// A cap of the coolant's pressure is on.
    Cap,
    /// What was opened or followed a broken turbo was flushed and looked into.
    Flushed,
    /// It was bled.
    Bled,
    /// It was warm once and was looked at again cold.
    FirstHeat,
    /// It was driven and nothing rubs, leaks or hangs.
    FirstDrive,
    /// Clamps were tightened again after the first heat.
    Again,
    /// Heat-shrunk, wrapped or coloured: the weld's own colour was judged before.
    Colour,
}

impl CheckId {
    /// What sort of thing it is, in a few words.
    #[must_use]
    pub const fn word(self) -> &'static str {
        match self {
            Self::CountedOut => "rags counted out",
            Self::Clean => "clean inside",
            Self::Seal { .. } => "a seal",
            Self::Tight { .. } => "a joint made up",
            Self::LetIn { .. } => "what is let in",
            Self::Held { .. } => "a support",
            Self::Capped { .. } => "a terminal\u{2019}s cap",
            Self::Bonnet => "the bonnet shuts",
            Self::Rolled => "the engine rolled",
            Self::Cap => "the pressure cap",
            Self::Flushed => "flushed",
            Self::Bled => "bled",
            Self::FirstHeat => "the first heat",
            Self::FirstDrive => "the first drive",
            Self::Again => "tightened again",
            Self::Colour => "the welds\u{2019} colour",
        }
    }
}

/// When it is checked.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum CheckWhen {
    /// Before it is on the car.
    OffTheCar,
    /// Fitted, before the engine runs.
    Fitted,
    /// After it was hot, cold again.
    AfterHeat,
}

/// One thing to check.
#[derive(Debug, Clone, PartialEq)]
pub struct CheckItem {
    /// Which.
    pub id: CheckId,
    /// When.
    pub when: CheckWhen,
    /// What is pointed at.
    pub part: PartRef,
    /// What is asked.
    pub words: String,
    /// The unit of a reading that may be noted with it; `None` where there is nothing to read.
    pub reads: Option<&'static str>,
    /// What it is about as it is now.
    pub of: Fingerprint,
}

/// Everything there is to check of a run's pipe, in the order it is done.
#[must_use]
pub fn check_items(job: &Job, run: &ResolvedRun, pipe: &Assembly, near: &[KeepOutId]) -> Vec<CheckItem> {
    let mut items = Items { run, all: Vec::new() };
    items.off_the_car();
    items.joints(pipe);
    items.along(pipe);
    items.fitted(job, near);
    items.after_heat(pipe);
    items.all
}

struct Items<'a> {
    run: &'a ResolvedRun,
    all: Vec<CheckItem>,
}

impl Items<'_> {
    fn push(&mut self, id: CheckId, when: CheckWhen, part: PartRef, words: &str, of: Fingerprint) {
        self.all.push(CheckItem { id, when, part, words: words.to_owned(), reads: None, of });
    }

    fn whole(&self) -> (PartRef, Fingerprint) {
        (PartRef::Run { run: self.run.id }, Fingerprint::of_run(self.run))
    }

    fn off_the_car(&mut self) {
        let (part, of) = self.whole();
        let when = CheckWhen::OffTheCar;
        let words = "Rags, plugs and tape that went into it and into the ports counted out again";
        self.push(CheckId::CountedOut, when, part, words, of.clone());
        let clean = if self.run.hose.is_some() {
            "Cut clean, blown through and looked through"
        } else {
            "Chips and grinding dust out: blown, washed, and looked through from both ends"
        };
        self.push(CheckId::Clean, when, part, clean, of.clone());
        if self.run.duty.is_boost() || self.run.duty == Duty::Oil {
            let words = "What it joins was flushed and looked into, if it was opened or a turbo broke before it";
            self.push(CheckId::Flushed, when, part, words, of.clone());
        }
        if self.run.hose.is_none() && !self.run.tube.material().is_hose() && self.run.tube.material().colours() {
            let words = "The welds\u{2019} own colour was judged before anything was coloured for looks";
            self.push(CheckId::Colour, when, part, words, of);
        }
    }

    fn joints(&mut self, pipe: &Assembly) {
        let run = self.run;
        for joint in &pipe.joints {
            let part = PartRef::of_joint(run.id, joint.id, joint.end);
            let place = match joint.end {
                Some(end) => format!("at {}", end.letter()),
                None => "between".to_owned(),
            };
            let decided = match joint.end {
                Some(end) => (Some(run.joint(end)), Some(run.port(end))),
                None => (run.route.joints().iter().find(|one| one.id == joint.id), None),
            };
            let of = Fingerprint::of(&(decided, run.tube));
            let bolted = joint.kind == JointKind::Flange
                || (joint.kind == JointKind::Metal
                    && joint.end.is_some_and(|end| run.port(end).form == EndForm::Flanged));
            let seal = match joint.kind {
                _ if bolted => Some("gasket"),
                JointKind::VBandSeal => Some("seal"),
                JointKind::Sleeve | JointKind::RigidClamp => Some("O-rings"),
                _ => None,
            };
            if let Some(seal) = seal {
                let words = format!("{} {place}: the {seal} looked at: whole, clean, in its place", joint.kind.word());
                self.push(CheckId::Seal { joint: joint.id }, CheckWhen::Fitted, part, &capital(&words), of.clone());
            }
            let how = match joint.kind {
                JointKind::Open => continue,
                _ if bolted => "bolts tightened across, in two rounds",
                kind if kind.has_hose() => {
                    "hose over both beads, clamps behind them and square, tightened for good last of all"
                }
                JointKind::VBand | JointKind::VBandSeal => {
                    "halves true, band all round, nut tightened, tapped round and tightened again"
                }
                JointKind::Sleeve | JointKind::RigidClamp => "latch shut and safe",
                JointKind::HoseEnd if run.is_threaded() => "nut tightened with the socket held",
                JointKind::HoseEnd => "hose home, clamp behind the bead",
                JointKind::Slip => "clamped, and free to slide",
                _ => "looked at all round",
            };
            let clock = joint.clock.filter(|_| joint.spec.screw.is_some());
            let at = clock.map_or_else(String::new, |clock| format!(", screw at {clock:.0}\u{b0}"));
            let words = capital(&format!("{} {place}{at}: {how}", joint.kind.word()));
            self.push(CheckId::Tight { joint: joint.id }, CheckWhen::Fitted, part, &words, of);
            if let Some(last) = self.all.last_mut() {
                // The maker's figure, typed in or left blank: none is made up here.
                last.reads = (!matches!(joint.kind, JointKind::Sleeve | JointKind::RigidClamp)).then_some("Nm");
            }
        }
    }

    fn along(&mut self, pipe: &Assembly) {
        let run = self.run;
        for branch in &pipe.branches {
            let words = match branch.kind {
                BranchKind::TemperatureSensor | BranchKind::PressureSensor => {
                    "sealed, tightened, its plug on and its wire tied"
                }
                BranchKind::Bleed | BranchKind::Drain => "sealed and tightened",
                _ => "its hose on and clamped",
            };
            let decided = run.route.branches().iter().find(|one| one.id == branch.id);
            let of = Fingerprint::of(&(decided, run.tube));
            let part = PartRef::Branch { run: run.id, branch: branch.id };
            let words = capital(&format!("{}: {words}", branch.kind.word()));
            self.push(CheckId::LetIn { branch: branch.id }, CheckWhen::Fitted, part, &words, of);
        }
        for support in &pipe.supports {
            let decided = run.route.supports().iter().find(|one| one.id == support.id);
            let of = Fingerprint::of(&(decided, run.tube));
            let part = PartRef::Support { run: run.id, support: support.id };
            let words = match support.kind {
                SupportKind::Tab | SupportKind::Clamps => "bolted fast, stood off, nothing bent to reach it",
                SupportKind::Grommet => "in its hole, not pinched",
                SupportKind::Hanger => "hung free, its rubber whole",
            };
            let words = capital(&format!("{}: {words}", support.kind.word()));
            self.push(CheckId::Held { support: support.id }, CheckWhen::Fitted, part, &words, of);
        }
    }

    fn fitted(&mut self, job: &Job, near: &[KeepOutId]) {
        let run = self.run;
        let (part, of) = self.whole();
        for id in near {
            let Some(thing) = job.keep_out(*id).filter(|thing| thing.kind == KeepOutKind::LiveTerminal) else {
                continue;
            };
            let words = format!("The {} has its cap on", thing.name.as_str());
            let at = PartRef::KeepOut { keep_out: *id };
            self.push(CheckId::Capped { terminal: *id }, CheckWhen::Fitted, at, &words, Fingerprint::of(&(thing, &of)));
        }
        let moves = [End::A, End::B].into_iter().any(|end| run.port(end).rides == crate::measure::Side::Engine);
        if moves {
            let words = "The engine rolled by hand to both sides: nothing touches, no hose is drawn";
            self.push(CheckId::Rolled, CheckWhen::Fitted, part, words, of.clone());
        }
        let bonnet = job.keep_outs().iter().find(|thing| thing.kind == KeepOutKind::Bonnet);
        if let Some(bonnet) = bonnet {
            let of = Fingerprint::of(&(bonnet, &of));
            self.push(
                CheckId::Bonnet,
                CheckWhen::Fitted,
                part,
                "The bonnet shuts on putty and leaves it thick enough",
                of,
            );
        }
        if run.duty == Duty::Coolant {
            let words = "Its cap is on and of the pressure it should be";
            self.push(CheckId::Cap, CheckWhen::Fitted, part, words, of.clone());
            if let Some(last) = self.all.last_mut() {
                last.reads = Some("bar");
            }
            let words = "Filled at the engine\u{2019}s side, then the radiator\u{2019}s, and bled at every high until no air comes";
            self.push(CheckId::Bled, CheckWhen::Fitted, part, words, of);
        }
    }

    fn after_heat(&mut self, pipe: &Assembly) {
        let (part, of) = self.whole();
        let when = CheckWhen::AfterHeat;
        self.push(
            CheckId::FirstHeat,
            when,
            part,
            "Hot once, cold again: dry all along, nothing scorched, level as it was",
            of.clone(),
        );
        if pipe.joints.iter().any(|joint| joint.kind.has_hose() || joint.spec.screw.is_some()) {
            self.push(CheckId::Again, when, part, "Every clamp and bolt tightened again, cold", of.clone());
        }
        self.push(
            CheckId::FirstDrive,
            when,
            part,
            "After the first drive: nothing rubs, drips, hangs or has moved",
            of,
        );
    }
}

fn capital(text: &str) -> String {
    nook_geometry::units::capital(text)
}
