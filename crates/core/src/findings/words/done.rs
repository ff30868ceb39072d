//! Pieces that are cut and are not as they are wanted.

use nook_geometry::units::DualUnitText;

/// A cut piece that the pipe has no more.
pub(in crate::findings) fn cut_gone(name: &str) -> DualUnitText {
    DualUnitText::new(|_| format!("{name} is cut, and this pipe has no such piece any more."))
}

/// A piece that was cut `cut` mm long where `wanted` mm are wanted.
pub(in crate::findings) fn cut_longer(name: &str, cut: f64, wanted: f64) -> DualUnitText {
    DualUnitText::new(|unit| {
        let (cut, wanted) = (unit.text(cut), unit.text(wanted));
        format!("{name} is cut {cut} long on its centre line; the pipe now wants {wanted}.")
    })
}

/// A piece with a face sawn at `cut` degrees from square where `wanted` degrees are wanted.
pub(in crate::findings) fn cut_slanted(name: &str, cut: f64, wanted: f64) -> DualUnitText {
    DualUnitText::new(|_| format!("{name} is cut at {cut:.2}\u{b0}; the pipe now wants {wanted:.2}\u{b0}."))
}
