//! What is measured of a pipe and done to it, as it is said at the bench.

use crate::cut::PieceId;
use crate::fit::{ErrorOf, PipeToMake, Suspect};
use crate::job::Job;
use crate::measure::End;
use crate::record::{FitAct, FitReading};
use crate::route::BendId;
use nook_geometry::units::DualUnitText;

/// Words for what is measured and done.
pub(super) struct Say<'a> {
    pub(super) names: &'a [(PieceId, String)],
    pub(super) pipe: &'a PipeToMake<'a>,
    /// Where things have their names.
    pub(super) job: &'a Job,
}

impl Say<'_> {
    fn at(&self, piece: PieceId) -> Option<usize> {
        self.names.iter().position(|(one, _)| *one == piece)
    }

    pub(super) fn name(&self, piece: PieceId) -> String {
        self.at(piece).map_or_else(|| "a piece that is gone".to_owned(), |at| self.names[at].1.clone())
    }

    /// The seam after a piece.
    pub(super) fn seam_name(&self, piece: PieceId) -> String {
        let next = self.at(piece).and_then(|at| self.names.get(at + 1));
        let next = next.map_or_else(|| "the next".to_owned(), |(_, name)| name.clone());
        format!("{} to {next}", self.name(piece))
    }

    pub(super) fn seam(&self, at: usize) -> bool {
        let sections = crate::fit::sections_of(self.pipe.pieces);
        crate::fit::Seam::after(self.pipe.pieces, &sections, at).is_some()
    }

    fn bend(&self, bend: BendId) -> usize {
        let mut bends = 0..self.pipe.pipe.tube.legs().len();
        bends.find(|at| self.pipe.run.route.bend_id(*at) == bend).map_or(0, |at| at + 1)
    }

    /// A mistake, as it would show on the bench.
    pub(super) fn suspect(&self, one: &Suspect) -> Option<DualUnitText> {
        let piece = |at: usize| self.names.get(at);
        match one.of {
            ErrorOf::Length(at) => {
                let (_, name) = piece(at)?;
                let way = if one.by > 0.0 { "longer" } else { "shorter" };
                Some(DualUnitText::new(|unit| format!("{name} {} {way} than listed", unit.text(one.by.abs()))))
            }
            ErrorOf::Clock(at) => {
                let (id, _) = piece(at)?;
                let (seam, by) = (self.seam_name(*id), one.by.to_degrees());
                let way = if by > 0.0 { "clockwise" } else { "anticlockwise" };
                Some(DualUnitText::same(format!("{seam} tacked {:.0}\u{b0} {way}, seen from A", by.abs())))
            }
            ErrorOf::Bend(at) => {
                let by = one.by.to_degrees();
                let way = if by > 0.0 { "more" } else { "less" };
                Some(DualUnitText::same(format!("bend {} {:.1}\u{b0} {way} than it should turn", at + 1, by.abs())))
            }
            _ => None,
        }
    }

    pub(super) fn to_read(&self, reading: &FitReading) -> DualUnitText {
        DualUnitText::same(match reading {
            FitReading::Length { piece, .. } => format!("The length of {} on its centre line", self.name(*piece)),
            FitReading::Angle { bend, .. } => format!("The angle of bend {}, by the gauge", self.bend(*bend)),
            FitReading::Lines { piece, .. } => format!("The lines of {} at their seam", self.seam_name(*piece)),
            FitReading::SeamGap { piece, .. } => format!("The gap of {}", self.seam_name(*piece)),
            FitReading::MouthGap { clock, .. } => format!("The gap at B, {}", clock_words(*clock)),
            FitReading::MouthStep { clock, .. } => format!("The step at B, {}", clock_words(*clock)),
            FitReading::EndToEnd { from, to, .. } => {
                format!("Straight across, from A {} to B {}", clock_words(*from), clock_words(*to))
            }
            FitReading::TwoWays { piece, end, .. } => {
                let end = if *end == End::A { 'A' } else { 'B' };
                format!("{} across two ways at its end towards {end}", self.name(*piece))
            }
            FitReading::Touches { keep_out } => {
                let name = self.job.keep_out(*keep_out).map_or("something that is gone", |thing| thing.name.as_str());
                format!("It touches the {name}")
            }
            FitReading::Rough { .. } => "How the end lies at B, roughly".to_owned(),
        })
    }

    pub(super) fn reading(&self, reading: &FitReading) -> DualUnitText {
        let what = self.to_read(reading);
        match *reading {
            FitReading::Angle { degrees, .. } => DualUnitText::same(format!("{}: {degrees:.1}\u{b0}", what.mm)),
            FitReading::Rough { low, left, long } => DualUnitText::new(|unit| {
                let part = |mm: f64, more: &str, less: &str| {
                    (mm.abs() > 1e-9).then(|| format!("{} {}", unit.text(mm.abs()), if mm > 0.0 { more } else { less }))
                };
                let parts =
                    [part(low, "low", "high"), part(left, "left", "right"), part(long, "too long", "too short")];
                let said: Vec<String> = parts.into_iter().flatten().collect();
                if said.is_empty() {
                    "At B it looks right".to_owned()
                } else {
                    format!("At B, roughly: {}", said.join(", "))
                }
            }),
            FitReading::TwoWays { one, other, .. } => {
                DualUnitText::new(|unit| format!("{}: {} and {}", what.get(unit), unit.text(one), unit.text(other)))
            }
            FitReading::Touches { .. } => what,
            FitReading::Length { mm, .. }
            | FitReading::EndToEnd { mm, .. }
            | FitReading::Lines { mm, .. }
            | FitReading::SeamGap { mm, .. }
            | FitReading::MouthGap { mm, .. }
            | FitReading::MouthStep { mm, .. } => {
                DualUnitText::new(|unit| format!("{}: {}", what.get(unit), unit.text(mm)))
            }
        }
    }

    /// An act as a mark on metal.
    pub(super) fn act(&self, act: &FitAct) -> DualUnitText {
        DualUnitText::new(|unit| match *act {
            FitAct::Trim { piece, end, mm } => {
                let end = if end == End::A { 'A' } else { 'B' };
                format!("Trim {} square by {} at its end towards {end}", self.name(piece), unit.text(mm))
            }
            FitAct::Sand { piece, clock, mm } => format!(
                "Break the tack of {}, and sand {} off the face, {}, falling to nothing across",
                self.seam_name(piece),
                unit.text(mm),
                clock_words(clock)
            ),
            FitAct::Turn { piece, degrees } => {
                let round = degrees.abs().to_radians() * self.pipe.run.tube.od() / 2.0;
                let way = if degrees > 0.0 { "clockwise" } else { "anticlockwise" };
                format!(
                    "At {}: turn what is beyond {:.1}\u{b0} {way} seen from A, {} round the girth between the lines",
                    self.seam_name(piece),
                    degrees.abs(),
                    unit.text(round)
                )
            }
            FitAct::Bend { piece, clock, degrees } => format!(
                "Break the tack of {}, and bend what is beyond {degrees:.1}\u{b0} towards {}",
                self.seam_name(piece),
                towards_words(clock)
            ),
            FitAct::CutOtherwise { piece, mm } => {
                let way = if mm > 0.0 { "longer" } else { "shorter" };
                format!("Cut {} {} {way} than its list says", self.name(piece), unit.text(mm.abs()))
            }
            FitAct::Renew { piece, mm } => {
                let way = if mm > 0.0 { "longer" } else { "shorter" };
                format!("Make {} new, {} {way} than it is", self.name(piece), unit.text(mm.abs()))
            }
        })
    }
}

/// A clock as a direction.
fn towards_words(clock: f64) -> String {
    let at = clock_words(clock);
    match at.strip_prefix("at ") {
        Some(rest) => rest.to_owned(),
        // What is underneath is pointed at as the bottom.
        None => at.replacen("underneath", "the bottom", 1),
    }
}

/// A clock as it is pointed at: by the nearest quarter, else in degrees.
fn clock_words(clock: f64) -> String {
    let clock = clock.rem_euclid(360.0);
    let quarters = [(0.0, "at the top"), (90.0, "at the right"), (180.0, "underneath"), (270.0, "at the left")];
    let near = |to: f64| (clock - to + 180.0).rem_euclid(360.0) - 180.0;
    match quarters.iter().find(|(at, _)| near(*at).abs() < 0.5) {
        Some((_, words)) => format!("{words} seen from A"),
        None => format!("at {clock:.0}\u{b0} clockwise from up seen from A"),
    }
}
