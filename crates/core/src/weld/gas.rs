//! How much argon a pipe takes, and what a bottle has.

use super::Purge;

/// Minutes of arc that `length` mm of weld take at `travel` mm/min.
#[must_use]
pub fn arc_minutes(length: f64, travel: f64) -> f64 {
    length / travel
}

/// What a pipe's gas is reckoned from.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct GasPlan {
    /// Gas inside; `None` where there is none.
    pub purge: Option<Purge>,
    /// Argon at the torch, in l/min.
    pub torch_flow: f64,
    /// Minutes of arc.
    pub arc: f64,
    /// Minutes it cools in between with the gas inside on.
    pub pauses: f64,
    /// Minutes the gas flows on at the torch after its arcs, all together.
    pub post_flow: f64,
}

impl GasPlan {
    /// Litres of it. Source: handbook, "The sums", Welding starts: purge volumes, the purge's flow while there is an arc and while it
    /// cools, the torch's while there is an arc and while it flows on.
    #[must_use]
    pub fn litres(&self) -> f64 {
        let inside = self.purge.map_or(0.0, |purge| purge.gas() + purge.flow * (self.arc + self.pauses));
        inside + self.torch_flow * (self.arc + self.post_flow)
    }
}

/// A bottle of gas.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Bottle {
    /// What it holds of water, in litres.
    pub litres: f64,
    /// What its gauge shows, in bar.
    pub bar: f64,
}

/// How well a bottle's gauge is read, in bar. Ours: half a mark of ten.
pub const READ_TO: f64 = 5.0;

impl Bottle {
    /// Litres of gas in it, at the pressure of the air. Source: Boyle's law; argon at 200 bar is 7 % more than that.
    #[must_use]
    pub fn gas(&self) -> f64 {
        self.litres * self.bar
    }
}
