//! A pipe's centre line as DXF: its straights as lines, its bends as true arcs in their own planes, and the same again as
//! one 3-D polyline for programs that follow only those. In mm, vehicle axes.

use dxf::entities::{Arc, Entity, EntityCommon, EntityType, Line, Polyline, Vertex};
use dxf::enums::{AcadVersion, DrawingUnits, Units};
use dxf::{Drawing, DxfError, Point, Vector as Normal};
use nalgebra::Point3;
use nook_geometry::{Path, Vector};

/// Degrees of bend between two corners of the polyline.
const STEP: f64 = 2.0;

/// The centre line of `path`.
///
/// # Errors
/// [`DxfError`] when the writer fails.
pub fn pipe_dxf(path: &Path) -> Result<Vec<u8>, DxfError> {
    let mut drawing = Drawing::new();
    // Older versions have no place for the unit.
    drawing.header.version = AcadVersion::R2000;
    drawing.header.default_drawing_units = Units::Millimeters;
    drawing.header.drawing_units = DrawingUnits::Metric;
    let mut corners = Vec::new();
    let mut travel = path.setting_out();
    corners.push(travel.at);
    for leg in path.legs() {
        let next = travel.straight(leg.straight);
        add(&mut drawing, "centre line", line(travel.at, next.at));
        let bend = next.clocked(leg.bend.rotation);
        let inward = bend.clock().into_inner();
        let normal = bend.along.vector().cross(&inward);
        add(
            &mut drawing,
            "centre line",
            arc(bend.at + inward * leg.bend.radius, normal, -inward, leg.bend.radius, leg.bend.angle),
        );
        let count = (leg.bend.angle.to_degrees() / STEP).ceil().max(1.0);
        let mut k = 0.0;
        while k <= count {
            corners.push(bend.bend(leg.bend.radius, leg.bend.angle * k / count).at);
            k += 1.0;
        }
        travel = bend.bend(leg.bend.radius, leg.bend.angle);
    }
    let end = travel.straight(path.last()).at;
    add(&mut drawing, "centre line", line(travel.at, end));
    corners.push(end);
    let mut polyline = Polyline::default();
    polyline.set_is_3d_polyline(true);
    for corner in corners {
        let mut vertex = Vertex::new(point(corner));
        vertex.set_is_3d_polyline_vertex(true);
        polyline.add_vertex(&mut drawing, vertex);
    }
    add(&mut drawing, "polyline", EntityType::Polyline(polyline));
    let mut out = Vec::new();
    drawing.save(&mut out)?;
    Ok(out)
}

fn add(drawing: &mut Drawing, layer: &str, specific: EntityType) {
    let common = EntityCommon { layer: layer.to_owned(), ..EntityCommon::default() };
    drawing.add_entity(Entity { common, specific });
}

fn point(at: Point3<f64>) -> Point {
    Point::new(at.x, at.y, at.z)
}

fn line(from: Point3<f64>, to: Point3<f64>) -> EntityType {
    EntityType::Line(Line::new(point(from), point(to)))
}

/// An arc about `centre` from the direction `start` on, right-handed about `normal`. DXF keeps it in axes of its own, made
/// from the normal by the arbitrary axis algorithm (DXF Reference, "Arbitrary axis algorithm").
fn arc(centre: Point3<f64>, normal: Vector, start: Vector, radius: f64, angle: f64) -> EntityType {
    let near_z = normal.x.abs() < 1.0 / 64.0 && normal.y.abs() < 1.0 / 64.0;
    let helper = if near_z { Vector::y() } else { Vector::z() };
    let x = helper.cross(&normal).normalize();
    let y = normal.cross(&x);
    let own = |v: Vector| Point::new(v.dot(&x), v.dot(&y), v.dot(&normal));
    let from = start.dot(&y).atan2(start.dot(&x)).to_degrees();
    let mut arc = Arc::new(own(centre.coords), radius, from, from + angle.to_degrees());
    arc.normal = Normal::new(normal.x, normal.y, normal.z);
    EntityType::Arc(arc)
}
