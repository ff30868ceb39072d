//! The outside of a pipe: stretches of tube from mouth to mouth, and what stands out over them.

use smallvec::SmallVec;

use super::EnvelopePart;

/// The outside of a pipe.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Envelope {
    tube: Vec<EnvelopePart>,
    over: Vec<EnvelopePart>,
    length: f64,
}

impl Envelope {
    /// The outside of a pipe of `length` mm from mouth to mouth: its tube, in order and without a gap, and what stands out
    /// over it (hoses, clamps, flanges, corners of pies). The tube is cut square at both mouths.
    #[must_use]
    pub fn new(tube: &[EnvelopePart], over: Vec<EnvelopePart>, length: f64) -> Self {
        let mouths = [0.0, length];
        Self { tube: tube.iter().filter_map(|stretch| stretch.between(mouths)).collect(), over, length }
    }

    /// The tube from A to B.
    #[must_use]
    pub fn tube(&self) -> &[EnvelopePart] {
        &self.tube
    }

    /// What stands out over the tube.
    #[must_use]
    pub fn over(&self) -> &[EnvelopePart] {
        &self.over
    }

    /// All of it.
    pub fn all(&self) -> impl Iterator<Item = &EnvelopePart> {
        self.tube.iter().chain(&self.over)
    }

    /// Length of its centre line from mouth to mouth in mm.
    #[must_use]
    pub const fn length(&self) -> f64 {
        self.length
    }

    /// What of it lies between two stations, cut square there.
    #[must_use]
    pub fn between(&self, limits: [f64; 2]) -> Self {
        let cut = |all: &[EnvelopePart]| all.iter().filter_map(|stretch| stretch.between(limits)).collect();
        Self { tube: cut(&self.tube), over: cut(&self.over), length: self.length }
    }
}

/// A pipe's outside and, for what a mouth of it stands on, only the part that must keep from that.
#[derive(Debug, Clone)]
pub struct Counted<'a> {
    whole: &'a Envelope,
    /// Parts of it, each between two stations.
    parts: SmallVec<[([f64; 2], Envelope); 3]>,
    /// Obstacles that only a part must keep from, and which.
    which: SmallVec<[(usize, usize); 8]>,
    /// What stands out over the tube and is bolted to an obstacle: it may touch that, and must not be in it.
    bolted: SmallVec<[(usize, EnvelopePart); 4]>,
}

impl<'a> Counted<'a> {
    /// All of it must keep from everything.
    #[must_use]
    pub fn whole(whole: &'a Envelope) -> Self {
        Self { whole, parts: SmallVec::new(), which: SmallVec::new(), bolted: SmallVec::new() }
    }

    /// Only what lies between two stations must keep from obstacle `index`.
    pub fn limit(&mut self, index: usize, limits: [f64; 2]) {
        let same = |one: &[f64; 2]| one.iter().zip(&limits).all(|(p, q)| (p - q).abs() < 1e-9);
        let known = self.parts.iter().position(|(between, _)| same(between));
        let part = known.unwrap_or_else(|| {
            self.parts.push((limits, self.whole.between(limits)));
            self.parts.len() - 1
        });
        self.which.push((index, part));
    }

    /// What stands out over the tube just between two stations, at `radius` mm, is bolted to obstacle `index`.
    pub fn bolt(&mut self, index: usize, stations: [f64; 2], radius: f64) {
        let is = |part: &EnvelopePart| {
            let within = stations[0] - 1e-9 <= part.stations[0] && part.stations[1] <= stations[1] + 1e-9;
            within && (part.radius - radius).abs() < 1e-9
        };
        let bolted: SmallVec<[EnvelopePart; 4]> = self.against(index).over.iter().copied().filter(is).collect();
        if bolted.is_empty() {
            return;
        }
        let mut rest = self.against(index).clone();
        rest.over.retain(|part| !is(part));
        let limits = self.limits(index).unwrap_or([f64::NEG_INFINITY, f64::INFINITY]);
        self.which.retain(|(obstacle, _)| *obstacle != index);
        self.parts.push((limits, rest));
        self.which.push((index, self.parts.len() - 1));
        self.bolted.extend(bolted.into_iter().map(|part| (index, part)));
    }

    /// What is bolted to obstacle `index`.
    pub fn bolted(&self, index: usize) -> impl Iterator<Item = &EnvelopePart> {
        self.bolted.iter().filter(move |(obstacle, _)| *obstacle == index).map(|(_, part)| part)
    }

    /// Whether a part of it is bolted to obstacle `index`.
    #[must_use]
    pub fn is_bolted(&self, index: usize, part: &EnvelopePart) -> bool {
        self.bolted(index).any(|one| {
            one.stations.map(f64::to_bits) == part.stations.map(f64::to_bits)
                && one.radius.to_bits() == part.radius.to_bits()
        })
    }

    /// What must keep from obstacle `index`.
    #[must_use]
    pub fn against(&self, index: usize) -> &Envelope {
        let part = self.which.iter().find(|(obstacle, _)| *obstacle == index);
        part.and_then(|(_, part)| self.parts.get(*part)).map_or(self.whole, |(_, part)| part)
    }

    /// The stations between which it must keep from obstacle `index`; `None` where all of it must.
    #[must_use]
    pub fn limits(&self, index: usize) -> Option<[f64; 2]> {
        let part = self.which.iter().find(|(obstacle, _)| *obstacle == index)?.1;
        self.parts.get(part).map(|(limits, _)| *limits).filter(|limits| limits[0].is_finite())
    }

    /// The pipe's outside.
    #[must_use]
    pub const fn envelope(&self) -> &'a Envelope {
        self.whole
    }
}
