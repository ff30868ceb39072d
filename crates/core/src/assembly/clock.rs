//! The clock of a hose between its two fittings: how the second is turned to the first as the hose is made up.

use super::Assembly;
use crate::measure::End;
use crate::route::ResolvedRun;

impl Assembly {
    /// By how many degrees the fitting at B is turned to that at A, seen along the hose from A, clockwise, where the hose is not
    /// twisted; from -180 to 180, and 0 where both turn to one side in one plane. `None` where a fitting is straight or missing.
    #[must_use]
    pub fn fitting_clock(&self, run: &ResolvedRun) -> Option<f64> {
        let [a, b] = [End::A, End::B].map(|end| run.fitted(end));
        let (a, b) = (a?, b?);
        if [a, b].iter().any(|fitted| fitted.fitting.angle.degrees() == 0.0) {
            return None;
        }
        // Untwisted, a line along the hose's skin turns with its bends and not about its middle.
        let mut travel = self.whole.setting_out();
        let mut line = a.leaving().clock().into_inner();
        for step in self.whole.legs() {
            travel = travel.straight(step.straight).clocked(step.bend.rotation);
            let axis = travel.along.vector().cross(&travel.clock());
            let turn = nalgebra::Rotation3::new(axis * step.bend.angle);
            line = turn * line;
            travel = travel.bend(step.bend.radius, step.bend.angle);
        }
        let along = travel.along.vector();
        // Both clocks look to the inside of their own fitting's bend.
        let other = b.leaving().clock().into_inner();
        Some(along.cross(&line).dot(&other).atan2(line.dot(&other)).to_degrees())
    }
}
