//! The workshop and its shelf as files: out and in again it is the same, and what is wrong is refused by line and column.

#![allow(clippy::unwrap_used, clippy::panic, reason = "a test fails by panicking")]

use nook_core::Workshop;
use nook_core::route::{KitPie, StockElbow};
use nook_core::stock::{Material, Tube};
use nook_core::workshop::{SawReach, WorkshopEdit};
use nook_formats::{DocumentError, TableFileError, read_shelf, read_workshop, shelf_csv, write_workshop};
use nook_geometry::units::{
    BendRadius, ElbowAngle, ElbowLeg, OutsideDiameter, PieAngle, Price, SawStep, ScrapRate, StickLength, Wall,
};
use proptest::prelude::*;

fn demo() -> Workshop {
    let edits: Vec<WorkshopEdit> = serde_json::from_str(include_str!("../../../../demo/workshop.json")).unwrap();
    edits.iter().fold(Workshop::default(), |workshop, edit| workshop.apply(edit).unwrap())
}

#[test]
fn the_demos_workshop_comes_back_from_its_file_and_its_shelf_from_the_table() {
    let workshop = demo();
    let text = write_workshop(&workshop).unwrap();
    assert!(text.starts_with("{\n  \"format\": \"nook-bend workshop\",\n  \"version\": 6,"), "{}", &text[..80]);
    assert_eq!(read_workshop(text.as_bytes()).unwrap(), workshop);
    let table = shelf_csv(&workshop).unwrap();
    assert_eq!(
        table.lines().count(),
        1 + workshop.sticks().len()
            + workshop.on_sale().len()
            + workshop.elbows().len()
            + workshop.elbows_on_sale().len()
            + workshop.pies().len()
            + workshop.pies_on_sale().len()
    );
    let back = read_shelf(&workshop, table.as_bytes()).unwrap();
    // What lies on the shelf keeps the number that is written on it.
    assert_eq!((back.sticks(), back.elbows()), (workshop.sticks(), workshop.elbows()));
    assert_eq!(
        (back.on_sale().len(), back.elbows_on_sale().len()),
        (workshop.on_sale().len(), workshop.elbows_on_sale().len())
    );
    assert_eq!(shelf_csv(&back).unwrap(), table);
}

#[test]
fn a_table_is_the_shelf_lines_without_a_number_are_new_and_what_is_not_in_it_is_gone() {
    let workshop = demo();
    let [first, second] = [0, 1].map(|at| workshop.sticks()[at].clone());
    let table = format!(
        "what;material;od_mm;wall_mm;number;length_mm;price\nstick;aluminium6061;63,5;2,0;S{};400,5;\nStick;Aluminium 6061;63,5;2,0;;777;\nstick;mild steel;50,8;1,5;;2000;18,5\n",
        first.id.0
    );
    let next = read_shelf(&workshop, table.as_bytes()).unwrap();
    let lengths: Vec<f64> = next.sticks().iter().map(|stick| stick.length.get()).collect();
    assert_eq!(lengths, [400.5, 777.0]);
    assert_eq!(next.sticks()[0].id, first.id);
    assert!(next.sticks().iter().all(|stick| stick.id != second.id) && next.elbows().is_empty());
    assert_eq!((next.on_sale().len(), next.on_sale()[0].tube.material()), (1, Material::MildSteel));
    assert_eq!(next.saws(), workshop.saws(), "saws are no part of the shelf");
}

#[test]
fn what_is_wrong_in_a_table_is_named_by_line_and_column_with_the_limit() {
    let workshop = demo();
    let head = "what,material,od_mm,wall_mm,number,length_mm,radius_mm,angle_deg,leg_1_mm,leg_2_mm,price,count\n";
    let other = workshop.sticks().iter().find(|stick| stick.tube.od() < 60.0).unwrap().id.0;
    let wrong = [
        ("stick,aluminium6061,63.5,2,,5,,,,,", "length_mm", "between 10 and 20000"),
        ("stick,unobtainium,63.5,2,,500,,,,,", "material", "is none of aluminium6061"),
        ("stick,aluminium6061,63.5,40,,500,,,,,", "wall_mm", "between 0.3 and 12"),
        ("stick,aluminium6061,20,10,,500,,,,,", "wall_mm", "bore"),
        ("pipe,aluminium6061,63.5,2,,500,,,,,", "what", "neither stick, elbow nor pie"),
        ("stick,aluminium6061,63.5,2,S9999,500,,,,,", "number", "the shelf has no S9999"),
        ("stick,aluminium6061,63.5,2,E,500,,,,,", "number", "no number such as S12"),
        ("elbow,aluminium6061,63.5,2,,,95,400,60,60,", "angle_deg", "400"),
        ("elbow,aluminium6061,63.5,2,,,95,90,60,,", "leg_2_mm", "missing"),
        ("stick,aluminium6061,63.5,2,,500,,,,,-3", "price", "-3"),
        ("elbow,aluminium6061,63.5,2,,,20,90,60,60,", "what", "has no inside"),
        ("pie,aluminium6061,63.5,2,,,95,9,,,,0", "count", "from 1 to 1000"),
        ("pie,aluminium6061,63.5,2,,,95,9,,,,1.5", "count", "1.5"),
        ("pie,aluminium6061,63.5,2,,,95,80,,,,4", "angle_deg", "between 1 and 60"),
        ("pie,aluminium6061,63.5,2,P9999,,95,9,,,,4", "number", "the shelf has no P9999"),
    ];
    for (line, column, why) in wrong {
        let good = "stick,aluminium6061,63.5,2,,500,,,,,\n";
        let error = read_shelf(&workshop, format!("{head}{good}{line}\n").as_bytes()).unwrap_err();
        let TableFileError::Cell { line: at, column: of, why: said } = &error else { panic!("{error}") };
        assert!((*at, *of) == (3, column) && said.contains(why), "{line}: {error}");
    }
    let other = format!("{head}stick,aluminium6061,63.5,2,S{other},500,,,,,\n");
    assert!(read_shelf(&workshop, other.as_bytes()).unwrap_err().to_string().contains("of another tube"));
    let first = workshop.sticks()[0].id.0;
    let line = format!("stick,aluminium6061,63.5,2,S{first},500,,,,,\n");
    let twice = read_shelf(&workshop, format!("{head}{line}{line}").as_bytes()).unwrap_err();
    assert!(twice.to_string().contains("line 3, number: it stands in another line"), "{twice}");
    assert!(matches!(read_shelf(&workshop, b""), Err(TableFileError::Empty { .. })));
    assert!(matches!(read_shelf(&workshop, b"what,od_mm\n"), Err(TableFileError::Columns { missing: "material", .. })));
}

#[test]
fn a_file_that_is_no_workshop_is_refused_with_its_place() {
    let text = write_workshop(&demo()).unwrap();
    let refused = |text: &str| read_workshop(text.as_bytes()).unwrap_err();
    assert!(matches!(
        refused(&text.replace("nook-bend workshop", "nook-bend job")),
        DocumentError::OtherFormat { what: "workshop" }
    ));
    assert!(matches!(
        refused(&text.replace("\"version\": 6", "\"version\": 99")),
        DocumentError::TooNew { version: 99, .. }
    ));
    assert!(matches!(refused(&text[..text.len() / 2]), DocumentError::NotJson(_)));
    let long = refused(&text.replacen("\"length\": 1180.0", "\"length\": 99999999.0", 1)).to_string();
    assert!(long.contains("workshop") && long.contains("between 10 and 20000"), "{long}");
    let extra = refused(&text.replacen("\"version\": 6,", "\"version\": 6, \"more\": 1,", 1)).to_string();
    assert!(extra.contains("more"), "{extra}");
    // Earlier versions are read as they are.
    let old = text.replace("\"version\": 6", "\"version\": 1");
    assert_eq!(read_workshop(old.as_bytes()).unwrap(), demo());
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(64))]

    /// Whatever lies there: it comes back the same from both, to the last figure.
    #[test]
    fn whatever_lies_on_the_shelf_comes_back(
        sticks in prop::collection::vec((0..7_usize, 6.0..150.0_f64, 10.0..20_000.0_f64, prop::option::of(0.0..500.0_f64)), 0..12),
        elbows in prop::collection::vec((6.0..90.0_f64, 1.0..4.0_f64, 1.0..180.0_f64, prop::array::uniform2(0.0..900.0_f64)), 0..8),
        pies in prop::collection::vec((6.0..90.0_f64, 1.0..4.0_f64, 1.0..60.0_f64, 1..1000_u32, any::<bool>()), 0..6),
        step in prop::option::of(0.1..5.0_f64),
        scrap in prop::option::of(0.0..0.5_f64),
    ) {
        let tube = |material, od: f64| Tube::new(material, OutsideDiameter::new(od).unwrap(), Wall::new(od / 20.0).unwrap());
        let mut workshop = Workshop::default();
        for (material, od, mm, price) in sticks {
            let Ok(tube) = tube(Material::METALS[material], od) else { continue };
            let length = StickLength::new(mm).unwrap();
            let edit = match price {
                None => WorkshopEdit::AddStick { tube, length },
                Some(price) => WorkshopEdit::AddOnSale { tube, length, price: Price::new(price).unwrap() },
            };
            workshop = workshop.apply(&edit).unwrap();
        }
        for (od, diameters, angle, legs) in elbows {
            let Ok(tube) = tube(Material::Stainless321, od) else { continue };
            let elbow = StockElbow {
                radius: BendRadius::new(od * diameters).unwrap(),
                angle: ElbowAngle::new(angle).unwrap(),
                legs: legs.map(|leg| ElbowLeg::new(leg).unwrap()),
            };
            workshop = workshop.apply(&WorkshopEdit::AddElbow { tube, elbow }).unwrap();
        }
        for (od, diameters, angle, count, sold) in pies {
            let Ok(tube) = tube(Material::TitaniumGrade2, od) else { continue };
            let pie = KitPie { radius: BendRadius::new(od * diameters).unwrap(), angle: PieAngle::new(angle).unwrap() };
            let price = Price::new(3.25).unwrap();
            let edit = if sold { WorkshopEdit::AddPiesOnSale { tube, pie, price } } else { WorkshopEdit::AddPies { tube, pie, count } };
            workshop = workshop.apply(&edit).unwrap();
        }
        let scrap = scrap.map(|share| ScrapRate::new(share).unwrap());
        workshop = workshop.apply(&WorkshopEdit::SetScrap { scrap }).unwrap();
        let reach = SawReach { step: step.map(|step| SawStep::new(step).unwrap()), ..SawReach::default() };
        workshop = workshop.apply(&WorkshopEdit::SetReach { saw: workshop.saw().id, reach }).unwrap();
        prop_assert_eq!(&read_workshop(write_workshop(&workshop).unwrap().as_bytes()).unwrap(), &workshop);
        let back = read_shelf(&workshop, shelf_csv(&workshop).unwrap().as_bytes()).unwrap();
        prop_assert_eq!((back.sticks(), back.elbows(), back.pies()), (workshop.sticks(), workshop.elbows(), workshop.pies()));
        prop_assert_eq!(shelf_csv(&back).unwrap(), shelf_csv(&workshop).unwrap());
        // Taken in place of another, no number is given twice.
        let taken = Workshop::default().apply(&WorkshopEdit::Replace { workshop: Box::new(workshop.clone()) }).unwrap();
        let more = taken.apply(&WorkshopEdit::AddStick { tube: tube(Material::MildSteel, 50.0).unwrap(), length: StickLength::new(100.0).unwrap() }).unwrap();
        let new = more.sticks().last().unwrap().id;
        prop_assert!(workshop.sticks().iter().all(|stick| stick.id != new) && workshop.elbows().iter().all(|elbow| elbow.id.0 != new.0));
    }
}
