//! What an edit is about, in a few words: for undo, and for whoever has the job open elsewhere.

use crate::edit::{CutEdit, Edit, JobEdit, JoinEdit, MeasureEdit, PlaceEdit, RouteEdit, SpecEdit};
use crate::findings::part_words;
use crate::job::Job;
use crate::measure::{ComponentId, DatumId, KeepOutId, Measurand, PortRef, RunId};
use crate::part_ref::PartRef;
use crate::route::{Lock, Target};

/// What `edit` is about in `job`, before it or after: things that are not there are said without their names.
#[must_use]
pub fn edit_words(edit: &Edit, job: &Job) -> String {
    let said = Said { job };
    match edit {
        Edit::Together { edits } => match edits.as_slice() {
            [] => "nothing".to_owned(),
            [one] => edit_words(one, job),
            [first, rest @ ..] => format!("{} and {} more", edit_words(first, job), rest.len()),
        },
        Edit::Job(edit) => said.job_edit(edit),
        Edit::Spec(edit) => said.spec(edit),
        Edit::Measure(edit) => said.measure(edit),
        Edit::Place(edit) => said.place(edit),
        Edit::Route(edit) => said.route(edit),
        Edit::Join(edit) => said.join(edit),
        Edit::Cut(edit) => said.cut(edit),
    }
}

struct Said<'a> {
    job: &'a Job,
}

impl Said<'_> {
    fn run(&self, run: RunId) -> String {
        self.job.run(run).map_or_else(|| "a run".to_owned(), |run| run.name.as_str().to_owned())
    }

    /// A part of a run with the run's name: `bend 2 of Hot side charge pipe`.
    fn part(&self, run: RunId, part: PartRef) -> String {
        let Some(of) = self.job.run(run) else { return "a run".to_owned() };
        let part = part_words(of, part);
        let mut letters = part.chars();
        let lower: String = letters.next().into_iter().flat_map(char::to_lowercase).chain(letters).collect();
        format!("{lower} of {}", of.name.as_str())
    }

    fn port(&self, PortRef { run, end }: PortRef) -> String {
        format!("mouth {} of {}", end.letter(), self.run(run))
    }

    fn datum(&self, id: DatumId) -> String {
        let known = self.job.datums().iter().find(|datum| datum.id == id);
        known.map_or_else(|| "a datum point".to_owned(), |datum| datum.name.as_str().to_owned())
    }

    fn keep_out(&self, id: KeepOutId) -> String {
        self.job.keep_out(id).map_or_else(|| "a thing in the way".to_owned(), |one| one.name.as_str().to_owned())
    }

    fn component(&self, id: ComponentId) -> String {
        let known = self.job.components().iter().find(|one| one.id == id);
        known.map_or_else(|| "a component".to_owned(), |one| one.name.as_str().to_owned())
    }

    fn measurand(&self, of: &Measurand) -> String {
        match of {
            Measurand::Port { port } => self.port(*port),
            Measurand::Datum { datum } => self.datum(*datum),
            Measurand::KeepOut { keep_out } => self.keep_out(*keep_out),
        }
    }

    fn job_edit(&self, edit: &JobEdit) -> String {
        match edit {
            JobEdit::RenameJob { .. } => "the job\u{2019}s name".to_owned(),
            JobEdit::AddRun { run } => format!("{} added", run.name.as_str()),
            JobEdit::RemoveRun { run } => format!("{} taken out", self.run(*run)),
            JobEdit::RenameRun { run, .. } => format!("the name of {}", self.run(*run)),
            JobEdit::SetMark { run, .. } => format!("the mark of {}", self.run(*run)),
            JobEdit::PlaceRun { run, .. } => format!("{} moved on the rack", self.run(*run)),
        }
    }

    fn spec(&self, edit: &SpecEdit) -> String {
        match edit {
            SpecEdit::SetDuty { run, .. } => format!("what {} carries", self.run(*run)),
            SpecEdit::SetTube { run, .. } => format!("the tube of {}", self.run(*run)),
            SpecEdit::SetDrains { run, .. } => format!("whether {} drains by gravity", self.run(*run)),
            SpecEdit::SetHose { run, .. } => format!("what {} is built of", self.run(*run)),
            SpecEdit::SetPressure { run, .. } => format!("the pressure of {}", self.run(*run)),
            SpecEdit::WrapStretch { run, .. } => format!("the wrapping of a stretch of {}", self.run(*run)),
            SpecEdit::SetInsulation { run, .. } => format!("the wrapping of {}", self.run(*run)),
            SpecEdit::SetFlow { run, .. } => format!("the flow of {}", self.run(*run)),
        }
    }

    fn measure(&self, edit: &MeasureEdit) -> String {
        match edit {
            MeasureEdit::SetPort { run, end, .. } => self.port(PortRef { run: *run, end: *end }),
            MeasureEdit::JoinStub { run, end, .. } => {
                format!("what {} goes on from", self.port(PortRef { run: *run, end: *end }))
            }
            MeasureEdit::MovePort { run, end, .. } => format!("{} moved", self.port(PortRef { run: *run, end: *end })),
            MeasureEdit::AimPort { run, end, .. } => format!("{} aimed", self.port(PortRef { run: *run, end: *end })),
            MeasureEdit::AddDatum { name, .. } => format!("{} added", name.as_str()),
            MeasureEdit::SetDatum { datum, .. } => self.datum(*datum),
            MeasureEdit::RemoveDatum { datum } => format!("{} taken away", self.datum(*datum)),
            MeasureEdit::AddReading { of, .. }
            | MeasureEdit::SetReading { of, .. }
            | MeasureEdit::RemoveReading { of, .. } => format!("a reading of {}", self.measurand(of)),
            MeasureEdit::PickPlace { of, .. } => format!("which place of {} is meant", self.measurand(of)),
            MeasureEdit::SetDatumSpread { datum, .. } => format!("how well {} is known", self.datum(*datum)),
            MeasureEdit::SetInstruments { .. } => "what was checked of tape and level".to_owned(),
            MeasureEdit::SetStanding { of, .. } => format!("whether {} is in place", self.measurand(of)),
            MeasureEdit::SetMounts { .. } => "how the engine moves".to_owned(),
            MeasureEdit::SetFiring { .. } => "how fast the engine turns".to_owned(),
            MeasureEdit::AddKeepOut { name, .. } => format!("{} added", name.as_str()),
            MeasureEdit::ChangeKeepOut { keep_out, .. } => self.keep_out(*keep_out),
            MeasureEdit::MoveKeepOut { keep_out, .. } => format!("{} moved", self.keep_out(*keep_out)),
            MeasureEdit::RemoveKeepOut { keep_out } => format!("{} taken away", self.keep_out(*keep_out)),
        }
    }

    fn place(&self, edit: &PlaceEdit) -> String {
        let mount = |component: ComponentId| format!("a mounting point of {}", self.component(component));
        match edit {
            PlaceEdit::AddComponent { name, .. } | PlaceEdit::AddOpening { name, .. } => {
                format!("{} added", name.as_str())
            }
            PlaceEdit::ChangeComponent { component, .. } => self.component(*component),
            PlaceEdit::SetFreedom { component, .. } | PlaceEdit::MoveComponent { component, .. } => {
                format!("{} moved", self.component(*component))
            }
            PlaceEdit::CopyComponent { component, .. } => format!("{} copied", self.component(*component)),
            PlaceEdit::SwapComponent { component, with } => {
                format!("{} in the place of {}", with.name.as_str(), self.component(*component))
            }
            PlaceEdit::RemoveComponent { component } => format!("{} taken apart", self.component(*component)),
            PlaceEdit::AddMount { component, .. }
            | PlaceEdit::SetMount { component, .. }
            | PlaceEdit::RemoveMount { component, .. } => mount(*component),
            PlaceEdit::SetOpening { name, .. } => name.as_str().to_owned(),
            PlaceEdit::RemoveOpening { .. } => "an opening taken away".to_owned(),
            PlaceEdit::SetStance { .. } => "how the car stands".to_owned(),
            PlaceEdit::BelongTogether { pairs } => match pairs.as_slice() {
                [[one, other]] => format!("{} and {} belong together", self.keep_out(*one), self.keep_out(*other)),
                pairs => format!("{} pairs that belong together", pairs.len()),
            },
            PlaceEdit::StandApart { pair: [one, other] } => {
                format!("{} and {} stand apart", self.keep_out(*one), self.keep_out(*other))
            }
        }
    }

    fn route(&self, edit: &RouteEdit) -> String {
        match edit {
            RouteEdit::SetWishes { run, .. } => format!("what is asked of the way of {}", self.run(*run)),
            RouteEdit::TakeWay { run, .. } | RouteEdit::TakeKept { run, .. } => {
                format!("the way round of {}", self.run(*run))
            }
            RouteEdit::SetRadius { run, .. } => format!("the bend radius of {}", self.run(*run)),
            RouteEdit::SetBendRadius { run, bend, .. } => {
                format!("the radius of {}", self.part(*run, PartRef::Bend { run: *run, bend: *bend }))
            }
            RouteEdit::Reshape { run, target, .. } => self.target(*run, target),
            RouteEdit::AddBend { run, .. } => format!("a bend put into {}", self.run(*run)),
            RouteEdit::RemoveBend { run, .. } => format!("a bend taken out of {}", self.run(*run)),
            RouteEdit::SplitBend { run, .. } => format!("a bend of {} parted", self.run(*run)),
            RouteEdit::MergeBends { run, .. } => format!("two bends of {} made one", self.run(*run)),
            RouteEdit::SetLock { run, lock, .. } => {
                let part = match *lock {
                    Lock::Straight { straight, .. } | Lock::Leg { leg: straight, .. } => {
                        PartRef::Straight { run: *run, straight }
                    }
                    Lock::Angle { bend, .. } | Lock::Rotation { bend, .. } => PartRef::Bend { run: *run, bend },
                };
                format!("a lock on {}", self.part(*run, part))
            }
            RouteEdit::HoldLocks { run } => format!("the locks of {}", self.run(*run)),
            RouteEdit::KeepWay { run, .. } => format!("a way of {} kept", self.run(*run)),
            RouteEdit::DropKept { run, .. } => format!("a kept way of {} let go", self.run(*run)),
            RouteEdit::SetTwin { run, .. } => format!("the twin of {}", self.run(*run)),
        }
    }

    fn target(&self, run: RunId, target: &Target) -> String {
        let bend = |bend| self.part(run, PartRef::Bend { run, bend });
        let straight = |straight| self.part(run, PartRef::Straight { run, straight });
        match *target {
            Target::Straight { straight: which, .. } => format!("the length of {}", straight(which)),
            Target::Angle { bend: which, .. } => format!("the angle of {}", bend(which)),
            Target::Rotation { bend: which, .. } => format!("the clock of {}", bend(which)),
            Target::Vertex { bend: which, .. } => format!("{} moved", bend(which)),
            Target::Leg { leg, .. } => format!("{} moved", straight(leg)),
            Target::LegWay { leg, .. } => format!("which way {} runs", straight(leg)),
        }
    }

    fn join(&self, edit: &JoinEdit) -> String {
        match edit {
            JoinEdit::AddJoint { run, .. } => format!("a joint put into {}", self.run(*run)),
            JoinEdit::AddElbow { run, bend } => {
                format!("a moulded elbow for {}", self.part(*run, PartRef::Bend { run: *run, bend: *bend }))
            }
            JoinEdit::ChangeJoint { run, joint, .. } => {
                let end = self.job.run(*run).and_then(|of| of.route.joint(*joint)?.end());
                self.part(*run, PartRef::of_joint(*run, *joint, end))
            }
            JoinEdit::RemoveJoint { run, .. } => format!("a joint taken out of {}", self.run(*run)),
            JoinEdit::AddSupport { run, .. } => format!("a support put on {}", self.run(*run)),
            JoinEdit::ChangeSupport { run, support, .. } => {
                self.part(*run, PartRef::Support { run: *run, support: *support })
            }
            JoinEdit::AddBranch { run, kind, .. } => format!("a {} let into {}", kind.word(), self.run(*run)),
            JoinEdit::ChangeBranch { run, branch, .. } => {
                self.part(*run, PartRef::Branch { run: *run, branch: *branch })
            }
            JoinEdit::RemoveBranch { run, .. } => format!("a branch taken out of {}", self.run(*run)),
            JoinEdit::RemoveSupport { run, .. } => format!("a support taken off {}", self.run(*run)),
        }
    }

    fn cut(&self, edit: &CutEdit) -> String {
        match edit {
            CutEdit::PinSaw { .. } => "the saw".to_owned(),
            CutEdit::PinDrills { .. } => "how truly you work".to_owned(),
            CutEdit::SetMaking { run, .. } => format!("how {} is made", self.run(*run)),
            CutEdit::SetLongest { run, .. } => format!("the longest stick for {}", self.run(*run)),
            CutEdit::SetMake { run, bend, .. } => {
                format!("how {} is made", self.part(*run, PartRef::Bend { run: *run, bend: *bend }))
            }
        }
    }
}
