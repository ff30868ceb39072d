//! Pressure lost on the way. Sources: C. F. Colebrook, "Turbulent flow in pipes", J. ICE 11, 1939; Crane Technical Paper
//! 410, "Flow of fluids", appendix A: resistance of bends, mitre bends, and sudden and gradual changes of size.

use std::f64::consts::{FRAC_PI_2, PI};

use serde::Serialize;

use super::Fluid;
use crate::stock::{HoseBuild, HoseFitting, Material, Tube};

/// A fluid in a bore.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
pub struct Stream {
    /// Bore in mm.
    pub bore: f64,
    /// Mean speed in m/s.
    pub speed: f64,
    /// Reynolds number.
    pub reynolds: f64,
    /// Mach number; nothing for a liquid.
    pub mach: Option<f64>,
    /// Dynamic pressure in Pa.
    pub dynamic: f64,
    /// Darcy friction factor.
    pub friction: f64,
    /// Friction factor of fully rough flow, which resistances are counted in.
    pub rough: f64,
    /// Roughness of the wall in mm.
    pub roughness: f64,
}

/// How a bend loses.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
pub struct BendLoss {
    /// Resistance in dynamic pressures.
    pub resistance: f64,
    /// Loss in Pa.
    pub pascal: f64,
    /// Whether its seams decide, rather than its radius.
    pub mitred: bool,
}

/// What a pipe loses, by part: pressures in Pa.
#[derive(Debug, Clone, PartialEq, Serialize)]
pub struct Losses {
    /// Along the wall.
    pub friction: f64,
    /// Length in mm that the friction is counted along: what no bend's coefficient has in it.
    pub wall: f64,
    /// In each bend.
    pub bends: Vec<BendLoss>,
    /// In the change of size at A and B.
    pub steps: [f64; 2],
}

impl Losses {
    /// All of it in Pa.
    #[must_use]
    pub fn total(&self) -> f64 {
        self.friction + self.bends.iter().map(|bend| bend.pascal).sum::<f64>() + self.steps.iter().sum::<f64>()
    }
}

/// Roughness in mm: drawn aluminium and titanium are smooth; welded steel tube is what Crane calls commercial; rubber is as
/// Idelchik, Handbook of Hydraulic Resistance, table 2-5, has it for hoses, and PTFE as drawn.
const fn roughness(material: Material) -> f64 {
    match material {
        Material::Aluminium6061 | Material::Aluminium6063 | Material::TitaniumGrade2 => 0.0015,
        Material::Stainless304l | Material::Stainless316l | Material::Stainless321 => 0.015,
        Material::MildSteel => 0.045,
        Material::Silicone | Material::FluoroSilicone | Material::Epdm | Material::Nitrile => 0.01,
        Material::Ptfe => 0.0015,
    }
}

impl Stream {
    /// The fluid in this tube.
    #[must_use]
    pub fn of(fluid: &Fluid, tube: Tube) -> Self {
        let bore = tube.bore();
        let area = PI / 4.0 * (bore * 1e-3).powi(2);
        let speed = fluid.mass_flow / (fluid.density * area);
        let reynolds = fluid.density * speed * bore * 1e-3 / fluid.viscosity;
        let roughness = roughness(tube.material());
        Self {
            bore,
            speed,
            reynolds,
            mach: fluid.sound.map(|sound| speed / sound),
            dynamic: fluid.density * speed * speed / 2.0,
            friction: friction_factor(reynolds, roughness / bore),
            rough: rough_factor(bore),
            roughness,
        }
    }
}

/// Pitch of the corrugations of hose of a bore, both in mm. Ours: what is sold.
fn corrugation(bore: f64) -> f64 {
    (0.12 * bore).max(4.0)
}

impl Stream {
    /// The same in corrugated hose: each corrugation lets the stream spread and narrows it again. Source: R. C. Hawthorne and H.
    /// C. von Helms, "Flow in corrugated hose", Product Engineering 34, 1963. It is never less than in the smooth bore.
    #[must_use]
    pub fn corrugated(self) -> Self {
        let pitch = corrugation(self.bore);
        let spread = self.bore / (self.bore + 0.438 * pitch);
        let friction = self.bore / pitch * (1.0 - spread * spread).powi(2);
        Self { friction: friction.max(self.friction), ..self }
    }

    /// The same in what a run is built of.
    #[must_use]
    pub fn in_hose(self, hose: Option<HoseBuild>) -> Self {
        if hose == Some(HoseBuild::Corrugated) { self.corrugated() } else { self }
    }

    /// What the fittings of a hose lose, in Pa: each as the standard elbow that the book gives 30 rough friction factors for 90
    /// degrees, by its share.
    #[must_use]
    pub fn fittings_lose(&self, hose: Option<HoseBuild>) -> f64 {
        let fittings = hose.and_then(HoseBuild::fittings).map_or([HoseFitting::STRAIGHT; 2], |(_, fittings)| fittings);
        let degrees: f64 = fittings.iter().map(|one| one.angle.degrees()).sum();
        30.0 * self.rough * degrees / 90.0 * self.dynamic
    }
}

impl Stream {
    /// What is lost where a pipe begins or ends at the stub of another, in Pa for each such end: through the branch of the book's
    /// standard tee, 60 rough friction factors. A stub that leans loses less.
    #[must_use]
    pub fn stubs_lose(&self, count: usize) -> f64 {
        let each = 60.0 * self.rough * self.dynamic;
        (0..count).map(|_| each).sum()
    }
}

/// Darcy friction factor at a Reynolds number and relative roughness: 64/Re while laminar, Colebrook when turbulent, and
/// the larger of both in the doubtful range between.
#[must_use]
pub fn friction_factor(reynolds: f64, relative: f64) -> f64 {
    if reynolds <= 0.0 {
        return 0.0;
    }
    let laminar = 64.0 / reynolds;
    if reynolds < 2300.0 {
        return laminar;
    }
    // Newton on x = 1/sqrt(f), from Haaland's explicit form.
    let mut x = -1.8 * ((relative / 3.7).powf(1.11) + 6.9 / reynolds).log10();
    for _ in 0..6 {
        let inside = relative / 3.7 + 2.51 * x / reynolds;
        let off = x + 2.0 * inside.log10();
        x -= off / (1.0 + 2.0 * 2.51 / (reynolds * inside * std::f64::consts::LN_10));
    }
    let turbulent = 1.0 / (x * x);
    if reynolds < 4000.0 { turbulent.max(laminar) } else { turbulent }
}

/// Friction factor of fully rough flow in clean commercial pipe of `bore` mm, which Crane counts resistances in.
#[must_use]
pub fn rough_factor(bore: f64) -> f64 {
    0.25 / (0.045 / bore / 3.7).log10().powi(2)
}

/// Crane's smooth 90-degree bends: radius over bore, resistance in rough friction factors.
const SMOOTH: [(f64, f64); 11] = [
    (1.0, 20.0),
    (1.5, 14.0),
    (2.0, 12.0),
    (3.0, 12.0),
    (4.0, 14.0),
    (6.0, 17.0),
    (8.0, 24.0),
    (10.0, 30.0),
    (12.0, 34.0),
    (16.0, 42.0),
    (20.0, 50.0),
];
/// Crane's mitres from 15 degrees on: degrees, resistance in rough friction factors.
const MITRE: [(f64, f64); 7] =
    [(0.0, 0.0), (15.0, 4.0), (30.0, 8.0), (45.0, 15.0), (60.0, 25.0), (75.0, 40.0), (90.0, 60.0)];

fn table(of: &[(f64, f64)], at: f64) -> f64 {
    let (Some(first), Some(last)) = (of.first(), of.last()) else { return f64::NAN };
    let at = at.clamp(first.0, last.0);
    let pair = of.windows(2).find(|pair| at <= pair[1].0);
    pair.map_or(last.1, |pair| pair[0].1 + (at - pair[0].0) / (pair[1].0 - pair[0].0) * (pair[1].1 - pair[0].1))
}

/// Resistance of a smooth bend through `angle` radians at `radius` mm in `bore` mm, in rough friction factors: the
/// book's 90-degree bend, by its share of 90 degrees.
#[must_use]
pub fn bend_resistance(radius: f64, bore: f64, angle: f64) -> f64 {
    table(&SMOOTH, radius / bore) * angle / FRAC_PI_2
}

/// Resistance of a bend of `seams` mitres, in rough friction factors: the book's single mitre, once for each seam.
/// Below its 15 degrees it falls to nothing with the angle: the 2 that the book gives at 0 is a straight pipe, which loses
/// nothing beyond its wall.
#[must_use]
pub fn mitre_resistance(angle: f64, seams: u32) -> f64 {
    let seams = f64::from(seams.max(1));
    seams * table(&MITRE, (angle / seams).to_degrees())
}

/// A bend of the pipe: radius in mm, angle in radians, and its seams; none in an elbow.
pub type BendMade = (f64, f64, Option<u32>);

/// A port as the stream meets it.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Mouth {
    /// Its bore in mm.
    pub bore: f64,
    /// The gap in mm within which a change of size happens.
    pub gap: f64,
}

/// What `stream` loses along `length` mm of its centre line, through `bends`, and where the ports' bores differ. A smooth
/// bend's coefficient has the friction along its arc in it; beside mitres, which are a loss at a place, it counts.
#[must_use]
pub fn losses(stream: &Stream, length: f64, bends: &[BendMade], ports: [Mouth; 2]) -> Losses {
    let along = |mm: f64| stream.friction * mm / stream.bore;
    let mut wall = length;
    let bends = bends
        .iter()
        .map(|&(radius, angle, seams)| {
            let arc = radius * angle;
            let smooth = bend_resistance(radius, stream.bore, angle) * stream.rough;
            let cut = seams.map_or(0.0, |seams| mitre_resistance(angle, seams)) * stream.rough;
            let mitred = cut + along(arc) > smooth;
            let resistance = if mitred { cut } else { smooth };
            wall -= if mitred { 0.0 } else { arc };
            BendLoss { resistance, pascal: resistance * stream.dynamic, mitred }
        })
        .collect();
    let wall = wall.max(0.0);
    let [a, b] = ports;
    Losses {
        friction: along(wall) * stream.dynamic,
        wall,
        bends,
        steps: [
            step(a.bore, stream.bore, a.gap) * dynamic_in(stream, a.bore),
            step(stream.bore, b.bore, b.gap) * dynamic_in(stream, b.bore),
        ],
    }
}

/// Bores this near, in mm, are one size: a caliper and a wall apart.
const SAME: f64 = 2.0;
/// Sine of half of 45 degrees: wider tapers lose as Crane's second formulas say.
const WIDE: f64 = 0.382_683_432_365_089_8;

/// Half the angle in radians at which a bore changes to another within `gap` mm.
#[must_use]
pub fn taper(from: f64, to: f64, gap: f64) -> f64 {
    ((from - to).abs() / 2.0).atan2(gap)
}

/// Resistance of a taper from one bore to another in mm within a gap, in dynamic pressures of the smaller. Source:
/// Crane, A-26: gradual and sudden changes of size.
fn step(from: f64, to: f64, gap: f64) -> f64 {
    if (from - to).abs() < SAME {
        return 0.0;
    }
    let beta = from.min(to) / from.max(to);
    let open = 1.0 - beta * beta;
    let sine = taper(from, to, gap).sin();
    match (to < from, sine <= WIDE) {
        (true, true) => 0.8 * sine * open,
        (true, false) => 0.5 * sine.sqrt() * open,
        (false, true) => 2.6 * sine * open * open,
        (false, false) => open * open,
    }
}

/// Dynamic pressure in the smaller of the stream's bore and another, in Pa.
fn dynamic_in(stream: &Stream, other: f64) -> f64 {
    stream.dynamic * (stream.bore / stream.bore.min(other)).powi(4)
}
