//! A scanned or modelled part: which file, in which unit, and the points that put it in place.

use std::borrow::Cow;

use nalgebra::{Isometry3, Matrix3, Point3, Rotation3, Translation3, UnitQuaternion};
use serde::{Deserialize, Serialize};
use thiserror::Error;
use utoipa::openapi::{RefOr, Schema};
use utoipa::{PartialSchema, ToSchema};

use super::DatumId;
use nook_geometry::units::OutOfRange;
use nook_geometry::{Point, Triple, Vector, spread_axes, turns};

/// Names a scan's triangles by their content: 64 hexadecimal digits.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(try_from = "String", into = "String")]
#[schema(value_type = String, pattern = "^[0-9a-f]{64}$")]
pub struct ScanId(String);

/// The text names no scan.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Error, Serialize)]
#[error("a scan is named by 64 hexadecimal digits")]
pub struct NoScanId;

impl ScanId {
    /// The digits.
    #[must_use]
    pub fn as_str(&self) -> &str {
        &self.0
    }
}

impl TryFrom<String> for ScanId {
    type Error = NoScanId;
    fn try_from(text: String) -> Result<Self, NoScanId> {
        let hex = |c: char| c.is_ascii_digit() || ('a'..='f').contains(&c);
        if text.len() == 64 && text.chars().all(hex) { Ok(Self(text)) } else { Err(NoScanId) }
    }
}

impl From<ScanId> for String {
    fn from(id: ScanId) -> Self {
        id.0
    }
}

/// The unit of a file's numbers, which such files do not say themselves.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum ScanUnit {
    /// Millimetres.
    #[default]
    Mm,
    /// Centimetres.
    Cm,
    /// Metres.
    M,
    /// Inches.
    In,
}

impl ScanUnit {
    /// How many mm one of it is.
    #[must_use]
    pub const fn in_mm(self) -> f64 {
        match self {
            Self::Mm => 1.0,
            Self::Cm => 10.0,
            Self::M => 1000.0,
            Self::In => nook_geometry::units::MM_PER_INCH,
        }
    }
}

/// Where on the vehicle a matched point is.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "is", rename_all = "snake_case", deny_unknown_fields)]
pub enum MatchedTo {
    /// At typed coordinates.
    Point {
        /// Where.
        at: Point,
    },
    /// At a datum point.
    Datum {
        /// Which.
        datum: DatumId,
    },
}

/// One point found both on the scan and on the vehicle.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Matched {
    /// On the scan, in the file's own axes and unit.
    #[schema(value_type = Triple)]
    pub scan: [f64; 3],
    /// On the vehicle.
    pub to: MatchedTo,
}

/// A scan in the bay.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Scan {
    /// Its triangles.
    pub scan: ScanId,
    /// The unit of its numbers.
    #[serde(default)]
    pub unit: ScanUnit,
    /// Points that put it in place: three or more, not in line. With none it lies as its file says.
    #[serde(default)]
    pub matched: Vec<Matched>,
}

/// What the description says of [`Scan`]. A keep-out writes its tag among a scan's own fields, so a schema that
/// forbids others would take none.
#[derive(ToSchema)]
#[expect(dead_code, reason = "only its description is used")]
struct Described {
    /// Its triangles.
    scan: ScanId,
    /// The unit of its numbers.
    #[schema(required = false)]
    unit: ScanUnit,
    /// Points that put it in place: three or more, not in line. With none it lies as its file says.
    #[schema(required = false)]
    matched: Vec<Matched>,
}

impl PartialSchema for Scan {
    fn schema() -> RefOr<Schema> {
        Described::schema()
    }
}

impl ToSchema for Scan {
    fn name() -> Cow<'static, str> {
        "Scan".into()
    }

    fn schemas(schemas: &mut Vec<(String, RefOr<Schema>)>) {
        Described::schemas(schemas);
    }
}

impl Scan {
    /// Most matched points.
    pub const MOST_MATCHED: u32 = 40;

    pub(super) fn check(&self) -> Result<(), OutOfRange> {
        let count = u32::try_from(self.matched.len()).unwrap_or(u32::MAX);
        let out = |what, value, max, unit| OutOfRange { what, value, min: 0.0, max, unit };
        if count > Self::MOST_MATCHED {
            return Err(out("the number of matched points", f64::from(count), f64::from(Self::MOST_MATCHED), "points"));
        }
        let far = |value: &&f64| !(value.is_finite() && value.abs() <= 1e7);
        match self.matched.iter().flat_map(|matched| &matched.scan).find(far) {
            Some(value) => {
                Err(OutOfRange { min: -1e7, ..out("a point on a scan", *value, 1e7, "of the file's units") })
            }
            None => Ok(()),
        }
    }
}

/// Why matched points put nothing in place.
#[derive(Debug, Clone, Copy, PartialEq, Error)]
pub enum MatchError {
    /// Fewer than three.
    #[error("{have} of at least 3 matched points")]
    TooFew {
        /// How many there are.
        have: usize,
    },
    /// All in one line, so that the part could still turn about it.
    #[error("the matched points lie in one line, so the part could still turn about it; match one to the side")]
    InLine,
}

/// Where matched points put a part.
#[derive(Debug, Clone, PartialEq)]
pub struct Placement {
    /// From the file's axes, scaled to mm, to the vehicle's.
    pub pose: Isometry3<f64>,
    /// How far each matched point ends from where it should be, in mm.
    pub residuals: Vec<f64>,
}

/// The same point on the part and on the vehicle, both in mm.
pub type MatchedPair = (Point3<f64>, Point3<f64>);

/// Sideways spread in mm below which points are in line: what a scribed mark is good to.
const IN_LINE: f64 = 2.0;

/// The turn and shift that bring `pairs` (on the part, on the vehicle; both in mm) together with the least sum of
/// squares. Source: Kabsch, "A solution for the best rotation to relate two sets of vectors" (1976), with the
/// reflection ruled out after Umeyama (1991).
///
/// # Errors
/// [`MatchError`] with fewer than three pairs, or when either side's points lie in line to 2 mm.
pub fn match_points(pairs: &[MatchedPair]) -> Result<Placement, MatchError> {
    let count = u32::try_from(pairs.len()).ok().filter(|count| *count >= 3).map(f64::from);
    let count = count.ok_or(MatchError::TooFew { have: pairs.len() })?;
    let middle = |side: fn(&MatchedPair) -> Point3<f64>| {
        Point3::from(pairs.iter().map(|pair| side(pair).coords).sum::<Vector>() / count)
    };
    let (on_part, on_car) = (middle(|pair| pair.0), middle(|pair| pair.1));
    let sideways =
        |points: Matrix3<f64>| spread_axes(points).map_or(0.0, |[_, middle, _]| (middle.0.max(0.0) / count).sqrt());
    let (mut part, mut car, mut across) = (Matrix3::zeros(), Matrix3::zeros(), Matrix3::zeros());
    for (p, q) in pairs {
        let (p, q) = (p - on_part, q - on_car);
        part += p * p.transpose();
        car += q * q.transpose();
        across += p * q.transpose();
    }
    if sideways(part) < IN_LINE || sideways(car) < IN_LINE {
        return Err(MatchError::InLine);
    }
    let (u, v_t) = turns(across).ok_or(MatchError::InLine)?;
    let v = v_t.transpose();
    let upright = Matrix3::from_diagonal(&Vector::new(1.0, 1.0, (v * u.transpose()).determinant().signum()));
    let turn = UnitQuaternion::from_rotation_matrix(&Rotation3::from_matrix_unchecked(v * upright * u.transpose()));
    let shift = Translation3::from(on_car.coords - turn * on_part.coords);
    let pose = Isometry3::from_parts(shift, turn);
    let residuals = pairs.iter().map(|(p, q)| (pose * p - q).norm()).collect();
    Ok(Placement { pose, residuals })
}
