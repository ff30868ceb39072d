//! Gas inside a pipe while it is welded. Source: handbook, "The sums", Welding starts.

use crate::stock::Material;

/// Argon that drives the air out of a pipe.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Purge {
    /// What is filled, in litres.
    pub litres: f64,
    /// How many times it is filled before an arc.
    pub volumes: f64,
    /// How fast, in l/min.
    pub flow: f64,
}

impl Purge {
    /// Seconds before an arc.
    #[must_use]
    pub fn seconds(&self) -> f64 {
        self.volumes * self.litres / self.flow * 60.0
    }

    /// Litres of argon before an arc.
    #[must_use]
    pub fn gas(&self) -> f64 {
        self.volumes * self.litres
    }
}

/// Parts of oxygen in a million parts that are left after so many volumes, perfectly mixed.
#[must_use]
pub fn oxygen_left(volumes: f64) -> f64 {
    210_000.0 * (-volumes).exp()
}

/// How many volumes a metal wants.
#[must_use]
pub const fn volumes_for(metal: Material) -> f64 {
    if matches!(metal, Material::TitaniumGrade2) { 10.0 } else { 7.0 }
}

/// Dams that shut off what need not be filled.
#[derive(Debug, Clone, PartialEq)]
pub struct Dams {
    /// Stretches between two dams, or a dam and an end, as stations in mm.
    pub stretches: Vec<[f64; 2]>,
    /// What is filled then, in litres.
    pub litres: f64,
}

/// From a seam to the dam beside it, in mm. Ours: paper that is not scorched, and cones that go round no mitre.
const BESIDE: f64 = 150.0;
/// Litres of gas that a dam costs: it is set, and pulled or washed out. Ours: a minute of purge each.
const COSTS: f64 = 8.0;

/// Dams in a stretch of tube of `bore` mm between two stations, whose seams are at `seams`, purged with `volumes`; `None` where they save less gas than they cost.
#[must_use]
pub fn dams([from, to]: [f64; 2], bore: f64, seams: &[f64], volumes: f64) -> Option<Dams> {
    let mut stretches: Vec<[f64; 2]> = Vec::new();
    let mut all = seams.to_vec();
    all.sort_by(f64::total_cmp);
    for at in all {
        let [start, end] = [(at - BESIDE).max(from), (at + BESIDE).min(to)];
        match stretches.last_mut() {
            Some(last) if start <= last[1] => last[1] = end,
            _ => stretches.push([start, end]),
        }
    }
    let area = std::f64::consts::PI / 4.0 * bore * bore;
    let inside: f64 = stretches.iter().map(|[start, end]| end - start).sum();
    let litres = area * inside * 1e-6;
    let whole = area * (to - from) * 1e-6;
    let ends = stretches.iter().flat_map(|[start, end]| [*start > from, *end < to]);
    let count = ends.filter(|dam| *dam).count();
    let costs = COSTS * u32::try_from(count).map_or(f64::INFINITY, f64::from);
    (count > 0 && volumes * (whole - litres) > costs).then_some(Dams { stretches, litres })
}
