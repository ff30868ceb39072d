//! Every weld of a pipe: between its pieces, at its ends, and where something is let into it or stands on it.

use nalgebra::Point3;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::assembly::{Assembly, SeatedJoint};
use crate::cut::{Piece, PieceId, Saddle, seam_length};
use crate::fit::{Seam, sections_of};
use crate::join::{JointKind, SupportKind};
use crate::measure::{End, EndForm};
use crate::part_ref::PartRef;
use crate::route::{BranchId, JointId, ResolvedRun, SupportId};
use crate::stock::Material;
use nook_geometry::{Direction, Point, Travel, Vector};

/// Which weld of a run: named by what it joins, so that it is the same whatever else changes.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(tag = "seam", rename_all = "snake_case", deny_unknown_fields)]
pub enum SeamId {
    /// Between a piece and the next towards B.
    After {
        /// The one nearer A.
        piece: PieceId,
    },
    /// What is welded onto the tube at a joint.
    Joint {
        /// Which joint.
        joint: JointId,
        /// On the tube's end on which side of it.
        side: End,
    },
    /// Round something let into the tube.
    Branch {
        /// Which.
        branch: BranchId,
    },
    /// Along a tab that stands on the tube.
    Tab {
        /// Of which support.
        support: SupportId,
    },
}

/// What sort of weld.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum SeamKind {
    /// Tube to tube, edge to edge.
    Butt,
    /// A fillet round the tube on a flange.
    Flange,
    /// Tube to the ferrule of an O-ring joint.
    Ferrule,
    /// Tube to a bought flexible or slip joint, or to the component's own neck.
    Fitting,
    /// Round a bung.
    Bung,
    /// Round a stub's saddle.
    Saddle,
    /// Along both sides of a tab.
    Tab,
}

impl SeamKind {
    /// The kind as a word in a sentence.
    #[must_use]
    pub const fn word(self) -> &'static str {
        match self {
            Self::Butt => "butt",
            Self::Flange => "fillet on the flange",
            Self::Ferrule => "ferrule",
            Self::Fitting => "butt on the fitting",
            Self::Bung => "round the bung",
            Self::Saddle => "round the saddle",
            Self::Tab => "both sides of the tab",
        }
    }

    /// Whether it goes all round the tube, so that it tilts what is beyond it.
    #[must_use]
    pub const fn goes_round(self) -> bool {
        !matches!(self, Self::Bung | Self::Saddle | Self::Tab)
    }
}

/// One weld, where it stands.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct WeldSeam {
    /// Which.
    pub id: SeamId,
    /// What sort.
    pub kind: SeamKind,
    /// What is pointed at to mean it.
    pub part: PartRef,
    /// Which section of the pipe it is of, from A.
    pub section: usize,
    /// Its station from A's mouth, in mm.
    pub station: f64,
    /// Its middle, in mm, vehicle axes.
    pub at: Point3<f64>,
    /// The direction of travel across it, of length 1.
    pub along: Vector,
    /// The middle of its first quarter, square to that, of length 1: the throat of a mitred seam, up of any other.
    pub reference: Vector,
    /// Whether the reference is a throat.
    pub mitred: bool,
    /// Its length in mm.
    pub length: f64,
    /// Saw setting of its faces, in radians; 0 where they are square.
    pub saw: f64,
    /// Thickness of the tube, and of what it is welded to, in mm.
    pub walls: [f64; 2],
    /// What both are of.
    pub materials: [Material; 2],
}

impl WeldSeam {
    /// The thinner and the thicker of its two sides, in mm.
    #[must_use]
    pub fn thin_and_thick(&self) -> [f64; 2] {
        let [one, other] = self.walls;
        [one.min(other), one.max(other)]
    }
}

/// Thickness in mm of what is welded on where nobody said: the lip of a V-band's flange and an O-ring joint's ferrule, a bung's collar, a
/// stub's wall, a tab. Ours: as such parts are commonly turned; a coupon on the part itself settles it.
const LIP: f64 = 3.0;
const BUNG: f64 = 4.0;
const STUB: f64 = 2.0;
const TAB: f64 = 3.0;
/// Thickness of a flange plate in mm where none is drawn. Source: handbook, "Joints, fittings, hoses and supports", What else is made.
const PLATE: [f64; 2] = [10.0, 8.0];
/// Turns in which a saddle's length is walked.
const STEPS: u32 = 720;

/// Every weld of a pipe of these pieces, from A.
#[must_use]
pub fn weld_seams(run: &ResolvedRun, pipe: &Assembly, pieces: &[Piece]) -> Vec<WeldSeam> {
    let of = Of { run, pipe };
    let sections = sections_of(pieces);
    let mut all: Vec<WeldSeam> = (0..pieces.len()).filter_map(|at| of.between(pieces, &sections, at)).collect();
    for (at, joint) in pipe.joints.iter().enumerate() {
        all.extend(of.at_joint(at, joint));
    }
    all.extend(of.branches());
    all.extend(of.tabs());
    all.sort_by(|p, q| p.station.total_cmp(&q.station));
    all
}

struct Of<'a> {
    run: &'a ResolvedRun,
    pipe: &'a Assembly,
}

impl Of<'_> {
    fn between(&self, pieces: &[Piece], sections: &[usize], at: usize) -> Option<WeldSeam> {
        let (run, pipe) = (self.run, self.pipe);
        let seam = Seam::after(pieces, sections, at)?;
        let (od, wall, metal) = (run.tube.od(), run.tube.wall(), run.tube.material());
        let saw = pieces[at].to.saw.max(pieces[at + 1].from.saw);
        let piece = pipe.piece_id(&run.route, &pieces[at]);
        let throat = seam.bends_about.and_then(|about| about.cross(&seam.along).try_normalize(1e-9));
        Some(WeldSeam {
            id: SeamId::After { piece },
            kind: SeamKind::Butt,
            part: PartRef::Piece { run: run.id, piece },
            section: sections[at],
            station: pipe.place_of(&pieces[at]).0[1],
            at: seam.at,
            along: seam.along,
            reference: throat.unwrap_or_else(|| up(seam.along)),
            mitred: throat.is_some(),
            length: seam_length(od, saw),
            saw,
            walls: [wall; 2],
            materials: [metal; 2],
        })
    }

    /// What is welded onto the tube's ends at a joint, which is the nth from A.
    fn at_joint(&self, nth: usize, joint: &SeatedJoint) -> Vec<WeldSeam> {
        let (run, pipe) = (self.run, self.pipe);
        let (wall, metal) = (run.tube.wall(), run.tube.material());
        let last = pipe.joints.len().saturating_sub(1);
        let form = joint.end.map(|end| run.port(end).form);
        let (kind, thick) = match joint.kind {
            JointKind::VBand | JointKind::VBandSeal => (SeamKind::Flange, LIP),
            JointKind::Sleeve | JointKind::RigidClamp => (SeamKind::Ferrule, LIP),
            JointKind::Flange => (SeamKind::Flange, self.plate(joint)),
            JointKind::Slip | JointKind::Bellows => (SeamKind::Fitting, wall),
            // Bolted to a flanged port by a plate; threads are screwed.
            JointKind::Metal if form == Some(EndForm::Flanged) => (SeamKind::Flange, self.plate(joint)),
            JointKind::Metal if form == Some(EndForm::Threaded) => return Vec::new(),
            JointKind::Metal => (SeamKind::Fitting, wall),
            JointKind::Coupler
            | JointKind::Hump
            | JointKind::Reducer
            | JointKind::Elbow
            | JointKind::HoseEnd
            | JointKind::Open => return Vec::new(),
        };
        // What it is welded to is of the tube's metal, but for a component's own neck.
        let other = match joint.end {
            Some(end) if kind == SeamKind::Fitting && joint.kind == JointKind::Metal => {
                run.port(end).metal.unwrap_or(metal)
            }
            _ => metal,
        };
        let sides = [(End::A, nth > 0), (End::B, nth < last)];
        let each = sides.into_iter().filter(|(_, tube)| *tube).map(|(side, _)| {
            let index = usize::from(side == End::B);
            let (at, along) = joint.sides[index];
            let along = along.vector();
            WeldSeam {
                id: SeamId::Joint { joint: joint.id, side },
                kind,
                part: PartRef::of_joint(run.id, joint.id, joint.end),
                section: if side == End::B { nth } else { nth - 1 },
                station: joint.gap()[index],
                at,
                along,
                reference: up(along),
                mitred: false,
                length: seam_length(run.tube.od(), 0.0),
                saw: 0.0,
                walls: [wall, thick],
                materials: [metal, other],
            }
        });
        each.collect()
    }

    fn plate(&self, joint: &SeatedJoint) -> f64 {
        let metal = self.run.tube.material();
        let run = self.run;
        let one = match joint.end {
            Some(end) => Some(run.joint(end)),
            None => run.route.joints().iter().find(|one| one.id == joint.id),
        };
        let drawn = one.and_then(|one| run.plate_of(one));
        let aluminium = matches!(metal, Material::Aluminium6061 | Material::Aluminium6063);
        drawn.map_or(if aluminium { PLATE[0] } else { PLATE[1] }, |plate| plate.thick(metal))
    }

    fn section_at(&self, station: f64) -> usize {
        let sections = self.pipe.sections();
        sections.iter().position(|[_, to]| station <= *to + 1e-6).unwrap_or(sections.len().saturating_sub(1))
    }

    fn branches(&self) -> Vec<WeldSeam> {
        let metal = self.run.tube.material();
        // One that does not sit is told where it is let in; there is no seam to weld yet.
        let seated = self.pipe.branches.iter().filter_map(|one| Some((one, one.saddle.ok()?)));
        let each = seated.map(|(one, saddle)| {
            let stub = one.kind.is_stub();
            WeldSeam {
                id: SeamId::Branch { branch: one.id },
                kind: if stub { SeamKind::Saddle } else { SeamKind::Bung },
                part: PartRef::Branch { run: self.run.id, branch: one.id },
                section: self.section_at(one.station),
                station: one.station,
                at: one.at,
                along: one.along,
                reference: up(one.along),
                mitred: false,
                length: saddle_length(&saddle),
                saw: 0.0,
                walls: [self.run.tube.wall(), if stub { STUB } else { BUNG }],
                materials: [metal; 2],
            }
        });
        each.collect()
    }

    fn tabs(&self) -> Vec<WeldSeam> {
        let (wall, metal) = (self.run.tube.wall(), self.run.tube.material());
        let tabs = self.pipe.supports.iter().filter(|one| one.kind == SupportKind::Tab);
        let each = tabs.map(|one| {
            let along = one.travel.along.vector();
            WeldSeam {
                id: SeamId::Tab { support: one.id },
                kind: SeamKind::Tab,
                part: PartRef::Support { run: self.run.id, support: one.id },
                section: self.section_at(one.station),
                station: one.station,
                at: one.place(),
                along,
                reference: up(along),
                mitred: false,
                length: 2.0 * one.kind.long(),
                saw: 0.0,
                walls: [wall, TAB],
                materials: [metal; 2],
            }
        });
        each.collect()
    }
}

/// Length in mm of the seam round a saddle, on the tube's skin.
fn saddle_length(saddle: &Saddle) -> f64 {
    let outline = saddle.outline(STEPS);
    outline.windows(2).map(|pair| (pair[1].along - pair[0].along).hypot(pair[1].round - pair[0].round)).sum()
}

/// Up, square to the way along, as one who sets out there has it.
fn up(along: Vector) -> Vector {
    let Ok(along) = Direction::of(along) else { return Vector::z() };
    Travel::start(Point::default(), along).clock().into_inner()
}
