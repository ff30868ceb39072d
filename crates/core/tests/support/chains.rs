//! Pipes with errors in every straight, bend and clock, one end of which is held, as the reference numbers have them.

use nalgebra::Matrix3;
use nook_core::fit::{Body, ErrorAct, ErrorOf, ErrorSource, FitJoint, LandingModel, Takes, Twist, square_to};
use nook_core::measure::End;
use nook_geometry::{Path, Travel};

/// What each of a path's figures moves when it is off by one unit, from A: straights, and of each bend its clock and its angle.
pub fn path_twists(path: &Path) -> Vec<[Twist; 3]> {
    let mut travel = path.setting_out();
    let mut all = Vec::new();
    for leg in path.legs() {
        let begun: Travel = travel.straight(leg.straight).clocked(leg.bend.rotation);
        let (along, inward) = (begun.along.vector(), begun.at_clock(0.0).into_inner());
        let straight = Twist::shift(travel.along.vector());
        let bend = Twist::turn(begun.at + inward * leg.bend.radius, along.cross(&inward));
        all.push([straight, Twist::turn(begun.at, along), bend]);
        travel = begun.bend(leg.bend.radius, leg.bend.angle);
    }
    let last = Twist::shift(travel.along.vector());
    all.push([last, last, last]);
    all
}

/// A pipe held at A, with `spreads` of its straights (mm), bends and clocks (radians), and a joint at B whose port is known to `place`
/// and, about each of two square axes, to `axis` radians.
pub fn chain_model(path: &Path, spreads: [f64; 3], place: Matrix3<f64>, axis: f64, takes: Takes) -> LandingModel {
    let [straight, bend, clock] = spreads;
    let twists = path_twists(path);
    let mut sources = Vec::new();
    let mut station = 0.0;
    let mut push = |of, spread: f64, on, twist| {
        station += 1.0;
        if spread > 0.0 {
            sources.push(ErrorSource { of, spread, late: false, acts: vec![ErrorAct { on, station, twist }] });
        }
    };
    let count = twists.len();
    for (at, [one, turn, bent]) in twists.into_iter().enumerate() {
        push(ErrorOf::Length(at), straight, Body::Section(0), one);
        if at + 1 < count {
            push(ErrorOf::Clock(at), clock, Body::Section(0), turn);
            push(ErrorOf::Bend(at), bend, Body::Section(0), bent);
        }
    }
    let end = path.arrival();
    let half = place.symmetric_eigen();
    for (at, (value, way)) in (0..).zip(half.eigenvalues.iter().zip(half.eigenvectors.column_iter())) {
        push(ErrorOf::PortPlace(End::B, at), value.max(0.0).sqrt(), Body::Port(End::B), Twist::shift(way.into()));
    }
    for (at, about) in (0..).zip(square_to(end.along.vector())) {
        push(ErrorOf::PortAxis(End::B, at), axis, Body::Port(End::B), Twist::turn(end.at, about));
    }
    let start = path.setting_out();
    let held = Takes { angle: 0.0, offset: 0.0, axial: [0.0; 2] };
    let joint = |travel: &Travel, takes, twists| FitJoint {
        at: travel.at,
        along: travel.along.vector(),
        takes: Some(takes),
        twists,
    };
    LandingModel::new(vec![joint(&start, held, false), joint(&end, takes, true)], sources, Vec::new())
}

/// One standard deviation of what such a pipe is off by at B: axial and offset in mm, angle in radians; of the last two the root of
/// the sum of both squares.
pub fn misfit_spreads(model: &LandingModel, takes: Takes) -> [f64; 3] {
    let covariance = model.covariance();
    let at = |part: usize| covariance[(6 + part, 6 + part)];
    [at(0).sqrt() * takes.axial[0], (at(1) + at(2)).sqrt() * takes.offset, (at(3) + at(4)).sqrt() * takes.angle]
}
