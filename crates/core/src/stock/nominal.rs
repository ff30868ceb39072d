//! What the trade calls a size, and the sizes it is easily mistaken for.

use std::sync::LazyLock;

/// How a size is named.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum System {
    /// Inch tube, named by its outside diameter.
    InchTube,
    /// Pipe, named by NPS.
    Pipe,
    /// Metric tube, named by its outside diameter.
    Metric,
}

/// A named size.
#[derive(Debug, Clone, PartialEq)]
pub struct Nominal {
    /// Such as `2 1/2 in tube`.
    pub name: String,
    /// Real outside diameter in mm; of a bore's name the inside diameter.
    pub od: f64,
}

/// What an outside diameter most likely is, and what it must not be mixed up with.
#[derive(Debug, Clone, PartialEq)]
pub struct SizeGuess {
    /// The nearest named size, if one lies within [`NEAR`].
    pub likely: Option<Nominal>,
    /// Other sizes so near that one is bought for the other.
    pub twins: Vec<Nominal>,
    /// The size of the same name in the other inch system: 1 1/2 pipe for 1 1/2 tube.
    pub namesake: Option<Nominal>,
}

/// A measured diameter within this many mm of a named size is likely that size: paint, a bead's root and a tube that
/// is not quite round.
pub const NEAR: f64 = 1.0;
/// Named sizes within this many mm of each other are mistaken for each other.
pub const TWIN: f64 = 3.0;

/// Outside diameters of pipe by NPS: in eighths of an inch, the same size's DN, and mm. Source: ASME B36.10M, ISO 6708.
const PIPE: [(u32, u32, f64); 15] = [
    (1, 6, 10.29),
    (2, 8, 13.72),
    (3, 10, 17.15),
    (4, 15, 21.34),
    (6, 20, 26.67),
    (8, 25, 33.40),
    (10, 32, 42.16),
    (12, 40, 48.26),
    (16, 50, 60.33),
    (20, 65, 73.03),
    (24, 80, 88.90),
    (28, 90, 101.60),
    (32, 100, 114.30),
    (40, 125, 141.30),
    (48, 150, 168.28),
];

/// Metric tube commonly sold, outside diameters in mm.
const METRIC: [u32; 36] = [
    6, 8, 10, 12, 14, 15, 16, 18, 20, 22, 25, 28, 30, 32, 34, 35, 38, 40, 42, 45, 48, 50, 54, 57, 60, 63, 65, 70, 76,
    80, 85, 90, 100, 104, 110, 120,
];

/// A number of eighths of an inch as a fraction: `2 1/2`.
fn eighths(count: u32) -> String {
    let (whole, mut over, mut under) = (count / 8, count % 8, 8);
    while over > 0 && over % 2 == 0 {
        over /= 2;
        under /= 2;
    }
    match (whole, over) {
        (_, 0) => whole.to_string(),
        (0, _) => format!("{over}/{under}"),
        _ => format!("{whole} {over}/{under}"),
    }
}

type Named = (System, Option<u32>, Nominal);

/// Every named size, written out once.
static ALL: LazyLock<Vec<Named>> = LazyLock::new(|| {
    let inch = (2..=64_u32).map(|count| {
        let name = format!("{} in tube", eighths(count));
        (
            System::InchTube,
            Some(count),
            Nominal { name, od: f64::from(count) * nook_geometry::units::MM_PER_INCH / 8.0 },
        )
    });
    let pipe = PIPE.into_iter().map(|(count, dn, od)| {
        (System::Pipe, Some(count), Nominal { name: format!("{} in pipe (NPS, DN {dn})", eighths(count)), od })
    });
    let metric = METRIC
        .into_iter()
        .map(|od| (System::Metric, None, Nominal { name: format!("{od} mm tube"), od: f64::from(od) }));
    inch.chain(pipe).chain(metric).collect()
});

/// Dash sizes of hose, a sixteenth of an inch of bore to each. Source: handbook, "The sums", Joints.
const DASH: [u32; 13] = [3, 4, 5, 6, 8, 10, 12, 14, 16, 20, 24, 32, 40];
/// DN of hose with its bore in mm. Source: ISO 1307.
const HOSE_DN: [(u32, f64); 13] = [
    (5, 5.0),
    (6, 6.3),
    (8, 8.0),
    (10, 10.0),
    (12, 12.5),
    (16, 16.0),
    (19, 19.0),
    (25, 25.0),
    (31, 31.5),
    (38, 38.0),
    (51, 51.0),
    (63, 63.0),
    (76, 76.0),
];

/// Names a bore in mm: the dash and DN sizes of hose within [`NEAR`] of it, the nearest first.
#[must_use]
pub fn name_bore(bore: f64) -> Vec<Nominal> {
    let dash = DASH
        .into_iter()
        .map(|count| (format!("dash {count}"), f64::from(count) * nook_geometry::units::MM_PER_INCH / 16.0));
    let dn = HOSE_DN.into_iter().map(|(dn, bore)| (format!("DN {dn} hose"), bore));
    let mut near: Vec<Nominal> =
        dash.chain(dn).filter(|(_, each)| (each - bore).abs() <= NEAR).map(|(name, od)| Nominal { name, od }).collect();
    near.sort_by(|p, q| (p.od - bore).abs().total_cmp(&(q.od - bore).abs()));
    near
}

/// Names an outside diameter in mm, and warns of near-twins. Source: handbook, "The sums", Joints: inch tube is
/// named by its outside diameter, pipe by NPS.
#[must_use]
pub fn name_size(od: f64) -> SizeGuess {
    let mut sizes: Vec<&Named> = ALL.iter().filter(|(_, _, size)| (size.od - od).abs() <= NEAR + TWIN).collect();
    // Of two at one distance tube comes before pipe, as it does in a rack.
    sizes.sort_by(|p, q| (p.2.od - od).abs().total_cmp(&(q.2.od - od).abs()));
    let likely = sizes.first().filter(|(_, _, size)| (size.od - od).abs() <= NEAR);
    let Some((system, count, likely)) = likely else {
        let twins = sizes.into_iter().map(|(_, _, size)| size).filter(|size| (size.od - od).abs() <= TWIN);
        let twins = twins.cloned().collect();
        return SizeGuess { likely: None, twins, namesake: None };
    };
    let twin = |size: &Nominal| (size.od - likely.od).abs() <= TWIN && (size.od - likely.od).abs() > 1e-9;
    let twins = sizes.iter().map(|(_, _, size)| size).filter(|size| twin(size)).cloned().collect();
    let other = match system {
        System::InchTube => Some(System::Pipe),
        System::Pipe => Some(System::InchTube),
        System::Metric => None,
    };
    let namesake = ALL
        .iter()
        .find(|(kind, eighths, _)| Some(*kind) == other && eighths == count && count.is_some())
        .map(|(_, _, size)| size)
        .filter(|size| (size.od - likely.od).abs() > TWIN);
    SizeGuess { likely: Some(likely.clone()), twins, namesake: namesake.cloned() }
}
