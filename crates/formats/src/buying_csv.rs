//! What is bought for the whole vehicle, as a table for the shop.

use nook_core::stock::Tube;

use crate::table::{cell, text_of, writer};

/// A line of what is bought.
#[derive(Debug, Clone, PartialEq)]
pub struct BuyingLine {
    /// What it is: `stick` or `elbow`.
    pub what: &'static str,
    /// The tube it is of.
    pub tube: Tube,
    /// How long, or which elbow, in a few words.
    pub which: String,
    /// How many.
    pub count: usize,
    /// What one costs; nothing where nobody said that it can be bought.
    pub price: Option<f64>,
    /// What it is for.
    pub used_for: String,
}

/// What is bought as CSV (RFC 4180), a header first, with a last line for the sum.
///
/// # Errors
/// [`csv::Error`] cannot occur when writing to memory; the type is kept so that no caller has to believe it.
pub fn buying_csv(lines: &[BuyingLine]) -> Result<String, csv::Error> {
    let mut out = writer();
    out.write_record(["what", "material", "od_mm", "wall_mm", "which", "count", "price_each", "price", "for"])?;
    let money = |price: Option<f64>| price.map_or_else(String::new, |price| format!("{price:.2}"));
    let count = |count: usize| f64::from(u32::try_from(count).unwrap_or(u32::MAX));
    for line in lines {
        let sum = line.price.map(|price| price * count(line.count));
        out.write_record([
            line.what.to_owned(),
            line.tube.material().name().to_owned(),
            line.tube.od().to_string(),
            line.tube.wall().to_string(),
            cell(&line.which),
            line.count.to_string(),
            money(line.price),
            money(sum),
            cell(&line.used_for),
        ])?;
    }
    let sum: f64 = lines.iter().filter_map(|line| Some(line.price? * count(line.count))).sum();
    out.write_record(["sum", "", "", "", "", "", "", &money(Some(sum)), ""])?;
    text_of(out)
}
