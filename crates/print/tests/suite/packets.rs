//! Whole packets: nothing is cut off, nothing mirrored, every page can be checked by its bars, and what is asked for is there.

use nook_core::record::Progress;
use nook_core::workup::weld;
use nook_core::{Given, Job, Scans, Workshop, workup};
use nook_geometry::units::LengthUnit;
use nook_print::{Paper, PrintError, PrintOptions, RunPacket, SheetKind, history_pdf, run_packet_pdf};

use crate::read_back::{Sheet, extent, fonts_are_embedded, read};

pub(crate) fn demo() -> Job {
    nook_formats::read_job(include_bytes!("../../../../demo/pellow-van.json")).unwrap()
}

pub(crate) fn packet(job: &Job, run: usize) -> RunPacket {
    let run = job.runs()[run].id;
    let progress = Progress::default();
    let given = Given { scans: &Scans::default(), progress: &progress, mend: false };
    let how = weld(job, &Workshop::default(), run, &given).unwrap();
    RunPacket::new(job, workup(job, run).unwrap(), &Scans::default()).with_weld(how)
}

pub(crate) fn printed(packet: &RunPacket, options: &PrintOptions) -> Vec<Sheet> {
    read(&run_packet_pdf("Pellow van", packet, options).unwrap())
}

/// Printers reach no further than this from the edge, in mm.
const REACH: f64 = 5.0;

fn holds(sheet: &Sheet, paper: Paper, stretch: f64) {
    let [width, height] = paper.size();
    assert!((sheet.size[0] - width).abs() < 0.02 && (sheet.size[1] - height).abs() < 0.02, "{:?}", sheet.size);
    // What is clipped away on purpose is on the next tile.
    let inside = sheet.painted.iter().filter(|one| one.clip[0][0] < 1.0);
    for painted in inside {
        let [low, high] = extent(&painted.points);
        assert!(low[0] > REACH && low[1] > REACH, "{low:?}");
        assert!(high[0] < width - REACH && high[1] < height - REACH, "{high:?}");
    }
    for (at, mirrored) in &sheet.letters {
        assert!(!mirrored, "text is mirrored at {at:?}");
        assert!(at[0] > REACH && at[1] > REACH && at[0] < width - REACH && at[1] < height - REACH, "{at:?}");
    }
    for (long, tall) in [(100.0, 1.6), (101.6, 1.0)] {
        let is_bar =
            |size: [f64; 2]| (size[0] - long * stretch).abs() < 0.01 && (size[1] - tall * stretch).abs() < 0.01;
        assert!(sheet.painted.iter().any(|one| one.filled && is_bar(one.size())), "no bar of {long}");
    }
}

#[test]
fn the_welder_is_told_every_seam_once_and_where_it_is() {
    let job = demo();
    let mut told = 0;
    for index in 0..job.runs().len() {
        let packet = packet(&job, index);
        let seams = &packet.weld.as_ref().unwrap().seams;
        let mut options = PrintOptions::usual(Paper::A4, LengthUnit::Mm);
        options.sheets = vec![SheetKind::Welding];
        if seams.is_empty() {
            assert!(matches!(run_packet_pdf("Pellow van", &packet, &options), Err(PrintError::Nothing)));
            continue;
        }
        let text: String = printed(&packet, &options).into_iter().map(|sheet| sheet.text).collect();
        let plain = |words: &str| words.replace(' ', "");
        for seam in seams {
            let amps = plain(&format!("{:.0} A", seam.amps));
            assert!(text.contains(&amps) && text.contains(&plain(&seam.name)), "{} {}", packet.workup.name, seam.name);
            told += 1;
        }
        assert!(text.contains("Neverweldwhatwaswipedwithachlorinatedcleaner"), "the caution is beside it");
    }
    assert!(told > 50);
}

#[test]
fn a_history_is_told_day_by_day_and_an_empty_one_is_none() {
    let line = |at: &str, what: &str| [at.to_owned(), "Bench phone".to_owned(), what.to_owned()];
    let lines: Vec<[String; 3]> = (0..80)
        .map(|at| line(&format!("2026-03-{:02}T09:{:02}:00.000Z", 1 + at / 40, at % 60), &format!("Pipe: N{at} cut")))
        .collect();
    let sheets = read(&history_pdf("Pellow van", &lines).unwrap());
    sheets.iter().for_each(|sheet| holds(sheet, Paper::A4, 1.0));
    let text: String = sheets.into_iter().map(|sheet| sheet.text).collect();
    assert!(text.contains("2026-03-01") && text.contains("2026-03-02"));
    assert!((0..80).all(|at| text.contains(&format!("Pipe:N{at}cut"))), "every line is there");
    assert!(matches!(history_pdf("Pellow van", &[]), Err(PrintError::Nothing)));
}

#[test]
fn every_page_of_the_demo_is_whole_on_either_paper_and_its_fonts_are_in_it() {
    let job = demo();
    for index in 0..job.runs().len() {
        let packet = packet(&job, index);
        for paper in [Paper::A4, Paper::Letter] {
            let mut options = PrintOptions::usual(paper, LengthUnit::Mm);
            options.sheets = SheetKind::ALL.to_vec();
            let bytes = run_packet_pdf(job.name(), &packet, &options).unwrap();
            assert!(fonts_are_embedded(&bytes), "{}", packet.workup.name);
            let sheets = read(&bytes);
            sheets.iter().for_each(|sheet| holds(sheet, paper, 1.0));
            for (number, sheet) in sheets.iter().enumerate() {
                assert!(sheet.text.contains(&format!("{}of{}", number + 1, sheets.len())), "{}", sheet.text);
            }
        }
    }
}

#[test]
fn a_printer_that_prints_small_is_given_larger_pages() {
    let job = demo();
    let mut options = PrintOptions::usual(Paper::A4, LengthUnit::Mm);
    options.stretch = 100.0 / 98.5;
    let sheets = printed(&packet(&job, 0), &options);
    sheets.iter().for_each(|sheet| holds(sheet, Paper::A4, options.stretch));
}

#[test]
fn the_cut_list_says_every_cut_as_the_workup_has_it() {
    let job = demo();
    for unit in [LengthUnit::Mm, LengthUnit::In] {
        let packet = packet(&job, 0);
        let options = PrintOptions { sheets: vec![SheetKind::Cuts], ..PrintOptions::usual(Paper::A4, unit) };
        let text: String = printed(&packet, &options).iter().map(|sheet| sheet.text.as_str()).collect();
        let cutting = packet.workup.cutting.as_ref().unwrap();
        assert!(cutting.cuts.len() > 5);
        for cut in &cutting.cuts {
            for figure in [unit.figure(cut.up.mm()), unit.figure(cut.down.mm())].map(|one| one.replace(' ', "")) {
                assert!(text.contains(&figure), "{figure} is not in\n{text}");
            }
            let name = cut.frees.as_deref().unwrap_or("waste");
            assert!(text.contains(name), "{name}");
        }
        for line in &cutting.lines {
            let said = format!("{} at {}", line.name, unit.text(line.round.mm())).replace(' ', "");
            assert!(text.contains(&said), "{said}");
        }
    }
}

#[test]
fn sheets_that_are_empty_print_nothing_and_say_so() {
    let job = demo();
    let hose = job.runs().iter().position(|run| run.hose.is_some()).unwrap();
    let options = PrintOptions {
        sheets: vec![SheetKind::Cuts, SheetKind::Templates],
        ..PrintOptions::usual(Paper::A4, LengthUnit::Mm)
    };
    let refused = run_packet_pdf("Pellow van", &packet(&job, hose), &options).unwrap_err();
    assert!(matches!(refused, PrintError::Nothing), "{refused}");
    let none = PrintOptions { sheets: Vec::new(), ..options };
    assert!(matches!(run_packet_pdf("", &packet(&job, 0), &none), Err(PrintError::Nothing)));
}

#[test]
fn names_in_any_script_neither_break_a_page_nor_run_off_it() {
    let job = demo();
    let mut packet = packet(&job, 0);
    packet.workup.name =
        "Ł<&>\"'труба 管 \u{1f6e0} ]]> very long indeed, as nobody would ever call a pipe of a van".to_owned();
    for sheet in printed(&packet, &PrintOptions::usual(Paper::Letter, LengthUnit::In)) {
        holds(&sheet, Paper::Letter, 1.0);
    }
}
