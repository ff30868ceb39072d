//! The shelf and what can be bought as a table, out and in: one line for each stick, length, elbow, or box of pies.

use nook_core::Workshop;
use nook_core::route::{KitPie, StockElbow};
use nook_core::stock::{Material, Tube};
use nook_core::workshop::{ElbowId, PiesId, ShelfPies, StickId, WorkshopEdit};
use nook_geometry::units::{BendRadius, ElbowAngle, ElbowLeg, OutsideDiameter, PieAngle, Price, StickLength, Wall};

use crate::table::{Row, Table, TableFileError, text_of, writer};

const NEEDED: [&str; 4] = ["what", "material", "od_mm", "wall_mm"];
const OPTIONAL: [&str; 8] = ["number", "length_mm", "radius_mm", "angle_deg", "leg_1_mm", "leg_2_mm", "count", "price"];

/// The shelf and what can be bought as CSV (RFC 4180), a header first. A line with a price can be bought; one without lies on the shelf,
/// and its number is written on it.
///
/// # Errors
/// [`csv::Error`] cannot occur when writing to memory; the type is kept so that no caller has to believe it.
pub fn shelf_csv(workshop: &Workshop) -> Result<String, csv::Error> {
    let mut out = writer();
    out.write_record(NEEDED.iter().chain(&OPTIONAL))?;
    let nothing = String::new;
    let mut line = |what: &str, tube: Tube, rest: [String; 8]| {
        let first = [what.to_owned(), word(tube.material()).to_owned(), tube.od().to_string(), tube.wall().to_string()];
        out.write_record(first.into_iter().chain(rest))
    };
    let stick = |number: String, length: f64, price: String| {
        [number, length.to_string(), nothing(), nothing(), nothing(), nothing(), nothing(), price]
    };
    let elbow = |number: String, elbow: &StockElbow, price: String| {
        let [one, other] = elbow.legs.map(|leg| leg.get().to_string());
        let (radius, angle) = (elbow.radius.get().to_string(), elbow.angle.get().to_string());
        [number, nothing(), radius, angle, one, other, nothing(), price]
    };
    let pie = |number: String, pie: &KitPie, count: String, price: String| {
        let (radius, angle) = (pie.radius.get().to_string(), pie.angle.get().to_string());
        [number, nothing(), radius, angle, nothing(), nothing(), count, price]
    };
    for one in workshop.sticks() {
        line("stick", one.tube, stick(format!("S{}", one.id.0), one.length.get(), nothing()))?;
    }
    for one in workshop.elbows() {
        line("elbow", one.tube, elbow(format!("E{}", one.id.0), &one.elbow, nothing()))?;
    }
    for one in workshop.pies() {
        line("pie", one.tube, pie(format!("P{}", one.id.0), &one.pie, one.count.to_string(), nothing()))?;
    }
    for one in workshop.on_sale() {
        line("stick", one.tube, stick(nothing(), one.length.get(), one.price.get().to_string()))?;
    }
    for one in workshop.elbows_on_sale() {
        line("elbow", one.tube, elbow(nothing(), &one.elbow, one.price.get().to_string()))?;
    }
    for one in workshop.pies_on_sale() {
        line("pie", one.tube, pie(nothing(), &one.pie, nothing(), one.price.get().to_string()))?;
    }
    text_of(out)
}

/// The workshop with the shelf, and what can be bought, as a table has them: what is not in it is not there any more. A line with a number
/// is the stick, elbow or box it is written on; one without is new.
///
/// # Errors
/// [`TableFileError`] naming line and column.
pub fn read_shelf(workshop: &Workshop, bytes: &[u8]) -> Result<Workshop, TableFileError> {
    let table = Table::read(bytes, &NEEDED, &OPTIONAL)?;
    let mut edits: Vec<(usize, WorkshopEdit)> = Vec::new();
    let (mut sticks, mut elbows, mut boxes): (Vec<StickId>, Vec<ElbowId>, Vec<PiesId>) = Default::default();
    let mut last = 1;
    for row in table.rows() {
        last = row.line();
        let tube = tube(&row)?;
        let price = match row.get("price") {
            "" => None,
            _ => Some(Price::new(row.number("price")?).map_err(|error| row.wrong("price", &error))?),
        };
        let edit = match (row.get("what").to_lowercase().as_str(), price) {
            ("stick", Some(price)) => WorkshopEdit::AddOnSale { tube, length: length(&row)?, price },
            ("elbow", Some(price)) => WorkshopEdit::AddElbowOnSale { tube, elbow: elbow(&row)?, price },
            ("stick", None) => {
                let length = length(&row)?;
                let known = |id| workshop.sticks().iter().find(|one| one.id == StickId(id)).map(|one| one.tube);
                match numbered(&row, 'S', known, tube)? {
                    None => WorkshopEdit::AddStick { tube, length },
                    Some(id) => {
                        once(&row, &mut sticks, StickId(id))?;
                        WorkshopEdit::SetStick { stick: StickId(id), length }
                    }
                }
            }
            ("elbow", None) => {
                let to = elbow(&row)?;
                let known = |id| workshop.elbows().iter().find(|one| one.id == ElbowId(id)).map(|one| one.tube);
                match numbered(&row, 'E', known, tube)? {
                    None => WorkshopEdit::AddElbow { tube, elbow: to },
                    Some(id) => {
                        once(&row, &mut elbows, ElbowId(id))?;
                        WorkshopEdit::SetElbow { elbow: ElbowId(id), to }
                    }
                }
            }
            ("pie", Some(price)) => WorkshopEdit::AddPiesOnSale { tube, pie: pie(&row)?, price },
            ("pie", None) => {
                let (pie, count) = (pie(&row)?, count(&row)?);
                let known = |id| workshop.pies().iter().find(|one| one.id == PiesId(id));
                match numbered(&row, 'P', |id| known(id).map(|one| one.tube), tube)? {
                    None => WorkshopEdit::AddPies { tube, pie, count },
                    Some(id) if known(id).is_some_and(|one| !one.pie.is_like(&pie)) => {
                        let why = format!("P{id} has pies of another sort; leave the number out of what is new");
                        return Err(row.wrong("number", &why));
                    }
                    Some(id) => {
                        once(&row, &mut boxes, PiesId(id))?;
                        WorkshopEdit::SetPies { pies: PiesId(id), count }
                    }
                }
            }
            (other, _) => {
                return Err(row.wrong("what", &format!("\u{201c}{other}\u{201d} is neither stick, elbow nor pie")));
            }
        };
        edits.push((row.line(), edit));
    }
    let gone = workshop.sticks().iter().filter(|one| !sticks.contains(&one.id));
    let gone = gone.map(|one| WorkshopEdit::RemoveStick { stick: one.id });
    let bent = workshop.elbows().iter().filter(|one| !elbows.contains(&one.id));
    let gone = gone.chain(bent.map(|one| WorkshopEdit::RemoveElbow { elbow: one.id }));
    let emptied = workshop.pies().iter().filter(|one| !boxes.contains(&one.id));
    let gone = gone.chain(emptied.map(|one| WorkshopEdit::SetPies { pies: one.id, count: 0 }));
    let sold = workshop.on_sale().iter().map(|one| one.id).chain(workshop.elbows_on_sale().iter().map(|one| one.id));
    let sold = sold.chain(workshop.pies_on_sale().iter().map(|one| one.id));
    let gone = gone.chain(sold.map(|on_sale| WorkshopEdit::RemoveOnSale { on_sale }));
    gone.map(|edit| (last, edit)).chain(edits).try_fold(workshop.clone(), |workshop, (line, edit)| {
        let refused = |why: String| TableFileError::Cell { line, column: "what", why };
        workshop.apply(&edit).map_err(|error| refused(error.to_string()))
    })
}

/// How a material is written in a table: as in the job's file.
fn word(material: Material) -> &'static str {
    match material {
        Material::Aluminium6061 => "aluminium6061",
        Material::Aluminium6063 => "aluminium6063",
        Material::Stainless304l => "stainless304l",
        Material::Stainless316l => "stainless316l",
        Material::Stainless321 => "stainless321",
        Material::TitaniumGrade2 => "titanium_grade2",
        Material::MildSteel => "mild_steel",
        hose => hose.name(),
    }
}

fn tube(row: &Row<'_>) -> Result<Tube, TableFileError> {
    let said = row.get("material").to_lowercase().replace([' ', '-'], "_");
    let alike =
        |material: &&Material| word(**material) == said || word(**material).replace('_', "") == said.replace('_', "");
    let material = Material::METALS.iter().find(alike).copied().ok_or_else(|| {
        let all: Vec<&str> = Material::METALS.iter().map(|one| word(*one)).collect();
        row.wrong("material", &format!("\u{201c}{}\u{201d} is none of {}", row.get("material"), all.join(", ")))
    })?;
    let od = OutsideDiameter::new(row.number("od_mm")?).map_err(|error| row.wrong("od_mm", &error))?;
    let wall = Wall::new(row.number("wall_mm")?).map_err(|error| row.wrong("wall_mm", &error))?;
    Tube::new(material, od, wall).map_err(|error| row.wrong("wall_mm", &error))
}

fn length(row: &Row<'_>) -> Result<StickLength, TableFileError> {
    StickLength::new(row.number("length_mm")?).map_err(|error| row.wrong("length_mm", &error))
}

fn elbow(row: &Row<'_>) -> Result<StockElbow, TableFileError> {
    let radius = BendRadius::new(row.number("radius_mm")?).map_err(|error| row.wrong("radius_mm", &error))?;
    let angle = ElbowAngle::new(row.number("angle_deg")?).map_err(|error| row.wrong("angle_deg", &error))?;
    let leg = |column| ElbowLeg::new(row.number(column)?).map_err(|error| row.wrong(column, &error));
    Ok(StockElbow { radius, angle, legs: [leg("leg_1_mm")?, leg("leg_2_mm")?] })
}

fn pie(row: &Row<'_>) -> Result<KitPie, TableFileError> {
    let radius = BendRadius::new(row.number("radius_mm")?).map_err(|error| row.wrong("radius_mm", &error))?;
    let angle = PieAngle::new(row.number("angle_deg")?).map_err(|error| row.wrong("angle_deg", &error))?;
    Ok(KitPie { angle, radius })
}

fn count(row: &Row<'_>) -> Result<u32, TableFileError> {
    let said = row.get("count");
    let count = said.parse().ok().filter(|count| (1..=ShelfPies::MOST).contains(count));
    count.ok_or_else(|| {
        row.wrong("count", &format!("\u{201c}{said}\u{201d} is no count of pies from 1 to {}", ShelfPies::MOST))
    })
}

/// The number a line has; nothing where it is new.
fn numbered(
    row: &Row<'_>,
    letter: char,
    known: impl Fn(u32) -> Option<Tube>,
    tube: Tube,
) -> Result<Option<u32>, TableFileError> {
    let said = row.get("number");
    if said.is_empty() {
        return Ok(None);
    }
    let wrong = |why: String| row.wrong("number", &why);
    let digits = said.strip_prefix([letter, letter.to_ascii_lowercase()]).unwrap_or(said);
    let id: u32 =
        digits.parse().map_err(|_| wrong(format!("\u{201c}{said}\u{201d} is no number such as {letter}12")))?;
    match known(id) {
        None => Err(wrong(format!("the shelf has no {letter}{id}; leave the number out of what is new"))),
        Some(of) if of != tube => {
            Err(wrong(format!("{letter}{id} is of another tube; leave the number out of what is new")))
        }
        Some(_) => Ok(Some(id)),
    }
}

fn once<T: PartialEq>(row: &Row<'_>, seen: &mut Vec<T>, id: T) -> Result<(), TableFileError> {
    if seen.contains(&id) {
        return Err(row.wrong("number", &"it stands in another line already"));
    }
    seen.push(id);
    Ok(())
}
