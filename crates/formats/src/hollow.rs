//! The round hollow bodies a finished pipe is made of, for solids and meshes.

use nook_core::assembly::{Assembly, Over};
use nook_core::join::{HOSE, OverKind};
use nook_core::route::ResolvedRun;
use nook_core::stock::Tube;
use nook_geometry::{Direction, Path, Point};

/// A round hollow body along a path; diameters in mm.
#[derive(Debug, Clone)]
pub struct Hollow {
    /// Its centre line.
    pub path: Path,
    /// Its outside diameter.
    pub outside: f64,
    /// Its inside diameter.
    pub inside: f64,
    /// What it is.
    pub name: String,
}

impl Hollow {
    /// Tube along a path.
    #[must_use]
    pub fn tube(path: Path, tube: Tube, name: &str) -> Self {
        Self { path, outside: tube.od(), inside: tube.bore(), name: name.to_owned() }
    }

    /// Everything of a pipe that is round: the tube of each section, hoses, clamps' bands, flanges, bands and what of its
    /// supports is round it; screws, which stand beside, are left out. `None` where bends or joints overlap.
    #[must_use]
    pub fn all_of(run: &ResolvedRun, pipe: &Assembly) -> Option<Vec<Self>> {
        let name = run.name.as_str();
        let tubes = pipe.section_paths()?;
        let tubes = tubes.into_iter().map(|path| Self::tube(path, run.tube, name));
        let over = pipe.over(run);
        let over = over.iter().filter(|over| {
            over.what == OverKind::Branch
                || (!matches!(over.what, OverKind::Screw | OverKind::Elbow) && over.radius > run.tube.od() / 2.0)
        });
        let elbows = pipe.joints.iter().filter(|joint| joint.in_bend).map(|joint| {
            let path = pipe.whole.between(joint.gap())?;
            let [outside, inside] = [run.tube.od() + 2.0 * HOSE, run.tube.od()];
            Some(Self { path, outside, inside, name: format!("{name}, {}", joint.kind.word()) })
        });
        let elbows: Vec<Self> = elbows.collect::<Option<_>>()?;
        Some(tubes.chain(elbows).chain(over.filter_map(|over| Self::over(run, pipe, over))).collect())
    }

    /// What is over the tube, or between two tube ends as wide inside as they are.
    fn over(run: &ResolvedRun, pipe: &Assembly, over: &Over) -> Option<Self> {
        let [from, to] = [over.from, over.to].map(|at| Point::try_from(at).ok());
        let (from, to) = (from?, to?);
        let along = Direction::of(from.to(to)).ok()?;
        let gaps = pipe.joints.iter().map(nook_core::assembly::SeatedJoint::gap);
        let mut between = gaps.filter(|gap| gap[0] - 1e-6 <= over.stations[0] && over.stations[1] <= gap[1] + 1e-6);
        let inside = match over.what {
            OverKind::Branch => (2.0 * (over.radius - run.tube.wall())).max(over.radius),
            _ if between.next().is_some() => run.tube.bore(),
            _ => run.tube.od(),
        };
        Some(Self {
            path: Path::new(from, along, Vec::new(), from.distance(to)),
            outside: 2.0 * over.radius,
            inside,
            name: format!("{}, {}", run.name.as_str(), word(over.what)),
        })
    }
}

const fn word(what: OverKind) -> &'static str {
    match what {
        OverKind::Hose | OverKind::Elbow => "hose",
        OverKind::Clamp => "clamp",
        OverKind::Flange => "flange",
        OverKind::Band => "band",
        OverKind::Screw => "screw",
        OverKind::Flexible => "flexible",
        OverKind::Support => "support",
        OverKind::Branch => "branch",
        OverKind::Fitting => "fitting",
    }
}
