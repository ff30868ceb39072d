//! A pipe as a STEP solid (ISO 10303-21, AP214): true cylinders and tori, outside and inside, with flat ends. In mm,
//! vehicle axes.

use std::fmt::Write;

use nalgebra::{Point3, Rotation3, Unit};
use nook_geometry::{Path, PathStep, Vector};
use thiserror::Error;

use crate::Hollow;

/// Straights shorter than this, in mm, are left out: the bends beside them meet.
const NOTHING: f64 = 1e-6;

/// Why a path makes no solid.
#[derive(Debug, Clone, Copy, PartialEq, Error)]
pub enum NoSolid {
    /// A straight is negative.
    #[error("its bends overlap; mend that first")]
    BendsOverlap,
    /// The inside of a bend would run through itself.
    #[error("bend {} has a centre-line radius of {radius:.1} mm, and a solid needs more than half its tube, {least:.1} mm", bend + 1)]
    TooTight {
        /// Which bend, from 0.
        bend: usize,
        /// Its centre-line radius in mm.
        radius: f64,
        /// Half the outside diameter in mm.
        least: f64,
    },
}

/// Hollow bodies, one tube for each section from A and what is over them, as solids of one part named `name`.
///
/// # Errors
/// [`NoSolid`] where one of them is none; bends are counted through all of them.
pub fn pipe_step(bodies: &[Hollow], name: &str) -> Result<String, NoSolid> {
    if bodies.iter().flat_map(|body| body.path.straights()).any(|straight| straight < -NOTHING) {
        return Err(NoSolid::BendsOverlap);
    }
    let tight = |(bend, (leg, least)): (usize, (&PathStep, f64))| {
        let radius = leg.bend.radius;
        (radius < least + NOTHING).then_some(NoSolid::TooTight { bend, radius, least })
    };
    let bends = bodies.iter().flat_map(|body| body.path.legs().iter().map(move |leg| (leg, body.outside / 2.0)));
    if let Some(problem) = bends.enumerate().find_map(tight) {
        return Err(problem);
    }
    let mut file = File::default();
    let solids: Option<Vec<usize>> = bodies.iter().map(|body| file.solid(body)).collect();
    solids.map(|solids| file.finish(&solids, name)).ok_or(NoSolid::BendsOverlap)
}

/// A place on the centre line: where, the way on, and a direction square to it that does not twist.
#[derive(Clone, Copy)]
struct Frame {
    at: Point3<f64>,
    along: Vector,
    aside: Vector,
}

/// A stretch of centre line; a bend has its centre and axis.
#[derive(Clone, Copy)]
struct Span {
    from: Frame,
    to: Frame,
    bend: Option<(Point3<f64>, Vector, f64)>,
}

fn spans(path: &Path) -> Vec<Span> {
    let mut travel = path.setting_out();
    let mut aside = travel.clock().into_inner();
    let mut all = Vec::new();
    let straight = |travel: &nook_geometry::Travel, length: f64, aside: Vector, all: &mut Vec<Span>| {
        if length > NOTHING {
            let along = travel.along.vector();
            let from = Frame { at: travel.at, along, aside };
            all.push(Span { from, to: Frame { at: travel.straight(length).at, ..from }, bend: None });
        }
    };
    for leg in path.legs() {
        straight(&travel, leg.straight, aside, &mut all);
        let start = travel.straight(leg.straight).clocked(leg.bend.rotation);
        let inward = start.clock().into_inner();
        let axis = start.along.vector().cross(&inward);
        let end = start.bend(leg.bend.radius, leg.bend.angle);
        let from = Frame { at: start.at, along: start.along.vector(), aside };
        aside = Rotation3::from_axis_angle(&Unit::new_normalize(axis), leg.bend.angle) * aside;
        let to = Frame { at: end.at, along: end.along.vector(), aside };
        let centre = start.at + inward * leg.bend.radius;
        all.push(Span { from, to, bend: Some((centre, axis, leg.bend.radius)) });
        travel = end;
    }
    straight(&travel, path.last(), aside, &mut all);
    all
}

/// A circle round the pipe: its one corner and its edge, counter-clockwise about the way on.
struct Ring {
    corner: usize,
    edge: usize,
}

struct Skin {
    faces: Vec<usize>,
    rings: Vec<Ring>,
}

/// The file's entities as they are numbered.
#[derive(Default)]
struct File {
    text: String,
    count: usize,
}

impl File {
    fn add(&mut self, entity: &str) -> usize {
        self.count += 1;
        // Writing to a string cannot fail.
        let _ = writeln!(self.text, "#{}={entity};", self.count);
        self.count
    }

    fn point(&mut self, at: Point3<f64>) -> usize {
        self.add(&format!("CARTESIAN_POINT('',({},{},{}))", real(at.x), real(at.y), real(at.z)))
    }

    fn direction(&mut self, way: Vector) -> usize {
        self.add(&format!("DIRECTION('',({},{},{}))", real(way.x), real(way.y), real(way.z)))
    }

    fn placement(&mut self, at: Point3<f64>, axis: Vector, reference: Vector) -> usize {
        let (at, axis, reference) = (self.point(at), self.direction(axis), self.direction(reference));
        self.add(&format!("AXIS2_PLACEMENT_3D('',#{at},#{axis},#{reference})"))
    }

    fn ring(&mut self, frame: &Frame, radius: f64) -> Ring {
        let point = self.point(frame.at + frame.aside * radius);
        let corner = self.add(&format!("VERTEX_POINT('',#{point})"));
        let placed = self.placement(frame.at, frame.along, frame.aside);
        let circle = self.add(&format!("CIRCLE('',#{placed},{})", real(radius)));
        let edge = self.add(&format!("EDGE_CURVE('',#{corner},#{corner},#{circle},.T.)"));
        Ring { corner, edge }
    }

    /// The edge along a span where its face closes on itself.
    fn seam(&mut self, span: &Span, radius: f64, [from, to]: [usize; 2]) -> usize {
        let start = span.from.at + span.from.aside * radius;
        let curve = match span.bend {
            None => {
                let (point, way) = (self.point(start), self.direction(span.from.along));
                let vector = self.add(&format!("VECTOR('',#{way},1.)"));
                self.add(&format!("LINE('',#{point},#{vector})"))
            }
            Some((centre, axis, _)) => {
                let arm = start - centre;
                let middle = centre + axis * axis.dot(&arm);
                let out = start - middle;
                let placed = self.placement(middle, axis, out.normalize());
                self.add(&format!("CIRCLE('',#{placed},{})", real(out.norm())))
            }
        };
        self.add(&format!("EDGE_CURVE('',#{from},#{to},#{curve},.T.)"))
    }

    fn skin(&mut self, spans: &[Span], radius: f64, outward: bool) -> Skin {
        let mut rings: Vec<Ring> = spans.first().map(|span| self.ring(&span.from, radius)).into_iter().collect();
        let mut faces = Vec::new();
        for (index, span) in spans.iter().enumerate() {
            rings.push(self.ring(&span.to, radius));
            let (near, far) = (&rings[index], &rings[index + 1]);
            let seam = self.seam(span, radius, [near.corner, far.corner]);
            let surface = match span.bend {
                None => {
                    let placed = self.placement(span.from.at, span.from.along, span.from.aside);
                    self.add(&format!("CYLINDRICAL_SURFACE('',#{placed},{})", real(radius)))
                }
                Some((centre, axis, clr)) => {
                    let placed = self.placement(centre, axis, (span.from.at - centre).normalize());
                    self.add(&format!("TOROIDAL_SURFACE('',#{placed},{},{})", real(clr), real(radius)))
                }
            };
            // Counter-clockwise as seen from where there is no metal.
            let edges = [(near.edge, outward), (seam, true), (far.edge, !outward), (seam, false)];
            let bound = self.bound("FACE_OUTER_BOUND", &edges);
            faces.push(self.add(&format!("ADVANCED_FACE('',(#{bound}),#{surface},{})", truth(outward))));
        }
        Skin { faces, rings }
    }

    fn bound(&mut self, kind: &str, edges: &[(usize, bool)]) -> usize {
        let used: Vec<String> = edges
            .iter()
            .map(|(edge, forward)| {
                format!("#{}", self.add(&format!("ORIENTED_EDGE('',*,*,#{edge},{})", truth(*forward))))
            })
            .collect();
        let around = self.add(&format!("EDGE_LOOP('',({}))", used.join(",")));
        self.add(&format!("{kind}('',#{around},.T.)"))
    }

    /// A flat end between the outside and the inside.
    fn end(&mut self, frame: &Frame, first: bool, outside: &Ring, inside: &Ring) -> usize {
        let normal = if first { -frame.along } else { frame.along };
        let placed = self.placement(frame.at, normal, frame.aside);
        let plane = self.add(&format!("PLANE('',#{placed})"));
        let (outer, inner) = (
            self.bound("FACE_OUTER_BOUND", &[(outside.edge, !first)]),
            self.bound("FACE_BOUND", &[(inside.edge, first)]),
        );
        self.add(&format!("ADVANCED_FACE('',(#{outer},#{inner}),#{plane},.T.)"))
    }

    /// One body; `None` where it has no length.
    fn solid(&mut self, body: &Hollow) -> Option<usize> {
        let spans = spans(&body.path);
        let outside = self.skin(&spans, body.outside / 2.0, true);
        let inside = self.skin(&spans, body.inside / 2.0, false);
        let (first, last) = (spans.first()?.from, spans.last()?.to);
        let mut faces = [outside.faces, inside.faces].concat();
        faces.push(self.end(&first, true, outside.rings.first()?, inside.rings.first()?));
        faces.push(self.end(&last, false, outside.rings.last()?, inside.rings.last()?));
        let shell = self.add(&format!("CLOSED_SHELL('',({}))", listed(&faces)));
        Some(self.add(&format!("MANIFOLD_SOLID_BREP('{}',#{shell})", encoded(&body.name))))
    }

    fn finish(mut self, solids: &[usize], name: &str) -> String {
        let name = &encoded(name);
        let solids = listed(solids);
        let length = self.add("(LENGTH_UNIT() NAMED_UNIT(*) SI_UNIT(.MILLI.,.METRE.))");
        let angle = self.add("(NAMED_UNIT(*) PLANE_ANGLE_UNIT() SI_UNIT($,.RADIAN.))");
        let solid_angle = self.add("(NAMED_UNIT(*) SI_UNIT($,.STERADIAN.) SOLID_ANGLE_UNIT())");
        let sure = self.add(&format!(
            "UNCERTAINTY_MEASURE_WITH_UNIT(LENGTH_MEASURE(1.E-06),#{length},'distance_accuracy_value','')"
        ));
        let context = self.add(&format!(
            "(GEOMETRIC_REPRESENTATION_CONTEXT(3) GLOBAL_UNCERTAINTY_ASSIGNED_CONTEXT((#{sure})) GLOBAL_UNIT_ASSIGNED_CONTEXT((#{length},#{angle},#{solid_angle})) REPRESENTATION_CONTEXT('',''))"
        ));
        let origin = self.placement(Point3::origin(), Vector::z(), Vector::x());
        let shape = self.add(&format!("ADVANCED_BREP_SHAPE_REPRESENTATION('{name}',(#{origin},{solids}),#{context})"));
        let application = self.add("APPLICATION_CONTEXT('automotive design')");
        self.add(&format!(
            "APPLICATION_PROTOCOL_DEFINITION('international standard','automotive_design',2000,#{application})"
        ));
        let product_context = self.add(&format!("PRODUCT_CONTEXT('',#{application},'mechanical')"));
        let product = self.add(&format!("PRODUCT('{name}','{name}','',(#{product_context}))"));
        let formation = self.add(&format!("PRODUCT_DEFINITION_FORMATION('','',#{product})"));
        let part = self.add(&format!("PRODUCT_DEFINITION_CONTEXT('part definition',#{application},'design')"));
        let definition = self.add(&format!("PRODUCT_DEFINITION('design','',#{formation},#{part})"));
        let defined = self.add(&format!("PRODUCT_DEFINITION_SHAPE('','',#{definition})"));
        self.add(&format!("SHAPE_DEFINITION_REPRESENTATION(#{defined},#{shape})"));
        format!(
            "ISO-10303-21;\nHEADER;\nFILE_DESCRIPTION(('pipe'),'2;1');\nFILE_NAME('{name}','',(''),(''),'Nook Bend','Nook Bend','');\nFILE_SCHEMA(('AUTOMOTIVE_DESIGN {{ 1 0 10303 214 1 1 1 1 }}'));\nENDSEC;\nDATA;\n{}ENDSEC;\nEND-ISO-10303-21;\n",
            self.text
        )
    }
}

fn listed(entities: &[usize]) -> String {
    entities.iter().map(|entity| format!("#{entity}")).collect::<Vec<_>>().join(",")
}

/// A text as the format's strings hold it: a quote or a backslash is doubled, and what is no plain letter is given by its
/// code. Source: ISO 10303-21, 6.4.3.
fn encoded(text: &str) -> String {
    let mut out = String::new();
    let mut wide = false;
    for letter in text.chars().filter(|letter| !letter.is_control()) {
        let plain = letter.is_ascii();
        if wide && plain {
            out.push_str("\\X0\\");
        } else if !wide && !plain {
            out.push_str("\\X4\\");
        }
        wide = !plain;
        match letter {
            '\'' | '\\' => out.extend([letter, letter]),
            _ if plain => out.push(letter),
            _ => out.push_str(&format!("{:08X}", u32::from(letter))),
        }
    }
    if wide {
        out.push_str("\\X0\\");
    }
    out
}

const fn truth(is: bool) -> &'static str {
    if is { ".T." } else { ".F." }
}

/// A real as the format wants it: with a point, to a millionth of a millimetre and better.
fn real(value: f64) -> String {
    let text = format!("{value:.9}");
    let trimmed = text.trim_end_matches('0');
    if trimmed == "-0." { "0.".to_owned() } else { trimmed.to_owned() }
}
