//! A fitting of a hose with threaded ends as it stands on its port: where the hose leaves it, and the room it takes.

use std::f64::consts::FRAC_PI_6;

use nalgebra::Point3;

use super::Run;
use crate::measure::{End, Port};
use crate::stock::{Dash, HoseFitting};
use nook_geometry::{Direction, Point, Travel};

/// Where a run's centre line begins or ends, and the way out of the component there.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Outlet {
    /// Where.
    pub at: Point,
    /// Away from the port.
    pub out: Direction,
}

/// A fitting on its port.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Fitted {
    /// Its size.
    pub dash: Dash,
    /// What was decided of it.
    pub fitting: HoseFitting,
    /// On the seat of the thread, its clock towards where the fitting turns.
    seat: Travel,
    port: Outlet,
}

/// A round bar of a fitting, by how far along it its ends are from the seat, in mm.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct FittedBar {
    /// From where to where along the fitting.
    pub along: [f64; 2],
    /// Middles of its ends.
    pub ends: [Point3<f64>; 2],
    /// In mm.
    pub radius: f64,
}

impl Fitted {
    /// A fitting on the port at `end`, whose run's other port is `other`. Where no clock was chosen it turns towards that; where
    /// that lies straight ahead, up.
    #[must_use]
    pub fn on(port: &Port, other: &Port, end: End, (dash, fitting): (Dash, HoseFitting)) -> Self {
        let start = Travel::start(port.at, port.out);
        let along = if end == End::A { port.out } else { port.out.reversed() };
        let towards = fitting
            .clock
            .map(|clock| Travel::start(port.at, along).upright().at_clock(clock.get().to_radians()).into_inner());
        let towards = towards.unwrap_or_else(|| port.at.to(other.at));
        let seat = start.rotation_towards(towards).map_or(start, |by| start.clocked(by));
        Self { dash, fitting, seat, port: Outlet { at: port.at, out: port.out } }
    }

    /// From the seat to where the hose is cut, in mm along it.
    #[must_use]
    pub fn length(&self) -> f64 {
        self.dash.cut_off(self.fitting.angle)
    }

    /// Whoever walks out of the port along it, its clock towards where it turns.
    #[must_use]
    pub const fn on_seat(&self) -> Travel {
        self.seat
    }

    /// By how much it turns, in radians.
    #[must_use]
    pub fn turned(&self) -> f64 {
        self.fitting.angle.degrees().to_radians()
    }

    /// Straight before and after its bend, in mm.
    fn neck(&self) -> f64 {
        (self.length() - self.dash.neck_radius() * self.turned()) / 2.0
    }

    /// Whoever walks out of it, its clock in the fitting's plane, on its inside.
    #[must_use]
    pub fn leaving(&self) -> Travel {
        self.at(self.length())
    }

    /// Whoever has walked so far from the seat, in mm.
    fn at(&self, along: f64) -> Travel {
        let (neck, radius) = (self.neck(), self.dash.neck_radius());
        let arc = radius * self.turned();
        let turned = (along - neck).clamp(0.0, arc);
        let bent = self.seat.straight(along.min(neck)).bend(radius, turned / radius);
        bent.straight((along - neck - arc).max(0.0))
    }

    /// Where the hose leaves it; the port's mouth itself where that is at the edge of the world.
    #[must_use]
    pub fn outlet(&self) -> Outlet {
        let leaving = self.leaving();
        let at = Point::new(leaving.at.x, leaving.at.y, leaving.at.z);
        at.map_or(self.port, |at| Outlet { at, out: leaving.along })
    }

    /// The room it takes: its nut, its neck, and what of its socket is before the hose's cut end. A bend is in chords so thick
    /// that they hold it.
    #[must_use]
    pub fn bars(&self) -> Vec<FittedBar> {
        let (neck, radius, angle) = (self.neck(), self.dash.neck_radius(), self.turned());
        let tube = self.dash.size().outside / 2.0;
        let bar = |from: f64, to: f64, radius: f64| FittedBar {
            along: [from, to],
            ends: [self.at(from).at, self.at(to).at],
            radius,
        };
        let mut all = vec![bar(0.0, neck, self.dash.nut_radius())];
        if angle > 0.0 {
            let chords = (angle / FRAC_PI_6).ceil();
            let sagitta = radius * (1.0 - (angle / chords / 2.0).cos());
            let mut from = neck;
            while from < neck + radius * angle - 1e-9 {
                let to = from + radius * angle / chords;
                all.push(bar(from, to, tube + sagitta));
                from = to;
            }
        }
        all.push(bar(self.length() - neck, self.length(), self.dash.socket_radius()));
        all
    }
}

impl Run {
    /// The fitting at an end, on its port; `None` where there is none.
    #[must_use]
    pub fn fitted(&self, end: End) -> Option<Fitted> {
        let (dash, fittings) = self.hose?.fittings()?;
        let fitting = fittings[usize::from(end == End::B)];
        Some(Fitted::on(self.port(end), self.port(end.other()), end, (dash, fitting)))
    }

    /// Where its centre line begins or ends: at the mouth, or where the hose leaves its fitting.
    #[must_use]
    pub fn outlet(&self, end: End) -> Outlet {
        let port = self.port(end);
        self.fitted(end).map_or(Outlet { at: port.at, out: port.out }, |fitted| fitted.outlet())
    }
}
