//! A mesh's triangles in bunches of bunches, each in its box: what a search that divides space as well as triangles
//! walks down.

use parry3d_f64::math::Vector as Real3;

/// Most triangles in the last bunches: fewer boxes than triangles are looked at, and each is a cheaper look.
const FEW: usize = 8;

/// Triangles that lie together.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Bunch {
    /// Least coordinates of its box in mm.
    pub(crate) low: [f64; 3],
    /// Greatest coordinates of its box in mm.
    pub(crate) high: [f64; 3],
    /// Half the diagonal of its box in mm.
    pub(crate) spread: f64,
    /// What it is made of.
    pub(crate) of: Made,
}

/// What a bunch is made of.
#[derive(Debug, Clone, Copy)]
pub(crate) enum Made {
    /// Two smaller ones, by their places among all.
    Halves([u32; 2]),
    /// The triangles from one place among all to just before another.
    Triangles(u32, u32),
}

/// All bunches of a mesh.
#[derive(Debug, Clone)]
pub(crate) struct Bunches(Vec<Bunch>);

impl Bunches {
    /// The one that holds all.
    pub(crate) const WHOLE: u32 = 0;

    /// The bunches of triangles, and the triangles in their order: those of a bunch one after the other, so that they
    /// lie together in memory as well.
    pub(crate) fn of(vertices: &[Real3], triangles: Vec<[u32; 3]>) -> (Self, Vec<[u32; 3]>) {
        let corner = |index: u32| vertices.get(index as usize).copied().unwrap_or_default();
        let mut placed: Vec<Placed> = triangles
            .into_iter()
            .map(|corners| {
                let [a, b, c] = corners.map(corner);
                Placed { corners, low: a.min(b).min(c), high: a.max(b).max(c) }
            })
            .collect();
        let mut all = Self(Vec::new());
        all.divide(&mut placed, 0);
        (all, placed.into_iter().map(|one| one.corners).collect())
    }

    /// The bunch at a place, if there is one.
    pub(crate) fn get(&self, at: u32) -> Option<&Bunch> {
        self.0.get(at as usize)
    }

    /// Divides triangles, the first of which has the place `first` among all, across their longest way until few are
    /// left; gives the place of the bunch that holds them.
    fn divide(&mut self, triangles: &mut [Placed], first: u32) -> u32 {
        // A mesh has two million triangles at most, and fewer bunches than those.
        let place = |list: usize| u32::try_from(list).unwrap_or(u32::MAX);
        let at = place(self.0.len());
        let count = triangles.len();
        let boxed = |low: fn(&Placed) -> Real3, high: fn(&Placed) -> Real3| {
            triangles.iter().fold((Real3::INFINITY, Real3::NEG_INFINITY), |(least, most), one| {
                (least.min(low(one)), most.max(high(one)))
            })
        };
        let (low, high) = boxed(|one| one.low, |one| one.high);
        let of = Made::Triangles(first, first + place(count));
        let spread = (high - low).length() / 2.0;
        self.0.push(Bunch { low: low.to_array(), high: high.to_array(), spread, of });
        if count > FEW {
            let (low, high) = boxed(Placed::twice_middle, Placed::twice_middle);
            let wide = (high - low).to_array();
            let across = (0..3).fold(0, |most, i| if wide[i] > wide[most] { i } else { most });
            let along = |one: &Placed| one.twice_middle()[across];
            triangles.select_nth_unstable_by(count / 2, |one, other| along(one).total_cmp(&along(other)));
            let (before, after) = triangles.split_at_mut(count / 2);
            let middle = first + place(before.len());
            let halves = [self.divide(before, first), self.divide(after, middle)];
            if let Some(this) = self.0.get_mut(at as usize) {
                this.of = Made::Halves(halves);
            }
        }
        at
    }
}

/// A triangle with its box.
struct Placed {
    corners: [u32; 3],
    low: Real3,
    high: Real3,
}

impl Placed {
    fn twice_middle(&self) -> Real3 {
        self.low + self.high
    }
}
