//! Lines survive their way or are known to be damaged; stand-ins have the faults they are given, and no others.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, reason = "a test fails by panicking")]

use std::io::{BufRead, BufReader, Write};
use std::net::TcpStream;

use nook_devices::{Faults, Garbled, Kind, Line, Order, Sent, StandIn, serve_stand_ins};
use proptest::prelude::*;

fn any_line() -> impl Strategy<Value = Line> {
    // In tenths, as displays have them.
    let tenths = |least: i32, most: i32| (least..most).prop_map(|tenths| f64::from(tenths) / 10.0);
    prop_oneof![
        prop::sample::select(Kind::ALL.to_vec()).prop_map(|kind| Line::Hello { kind }),
        (0..=100_u8).prop_map(|percent| Line::Battery { percent }),
        (any::<u32>(), tenths(0, 99_999)).prop_map(|(count, mm)| Line::Read {
            count,
            kind: Kind::Tape,
            figures: vec![mm]
        }),
        (any::<u32>(), prop::collection::vec(tenths(-1800, 1800), 3)).prop_map(|(count, figures)| Line::Read {
            count,
            kind: Kind::Gauge,
            figures
        }),
    ]
}

proptest! {
    #[test]
    fn a_line_reads_back_as_it_was(line in any_line()) {
        prop_assert_eq!(line.to_string().parse::<Line>().unwrap(), line);
    }

    #[test]
    fn a_line_with_one_byte_changed_is_never_taken(line in any_line(), at in any::<prop::sample::Index>(), by in 1..127_u8) {
        let mut bytes = line.to_string().into_bytes();
        let at = at.index(bytes.len());
        bytes[at] ^= by;
        if let Ok(text) = String::from_utf8(bytes) {
            prop_assert_ne!(text.trim_end().parse::<Line>().ok(), Some(line.clone()), "{}", text);
            prop_assert!(text.contains(['\r', '\n']) || text.parse::<Line>().is_err(), "{}", text);
        }
    }

    #[test]
    fn a_line_cut_off_is_known_to_be(line in any_line(), at in any::<prop::sample::Index>()) {
        let text = line.to_string();
        let cut = &text[..at.index(text.len())];
        prop_assert!(cut.parse::<Line>().is_err(), "{}", cut);
    }

    #[test]
    fn anything_at_all_is_answered_without_panic(text in ".{0,60}") {
        let _ = text.parse::<Line>();
        let _ = text.parse::<Order>();
    }
}

#[test]
fn numbers_that_are_none_are_refused() {
    for text in ["READ 1 D nan", "READ 1 D inf", "READ 1 A 1 2", "READ 1 X 3", "BAT 101", "HELLO 2 tape"] {
        let sum = text.bytes().fold(0_u8, |sum, byte| sum ^ byte);
        let error = format!("{text}*{sum:02X}").parse::<Line>().unwrap_err();
        assert_eq!(error, Garbled::Unknown { line: text.to_owned() });
    }
}

#[test]
fn without_faults_it_reads_what_it_is_aimed_at() {
    let mut tape = StandIn::new(Kind::Tape, Faults::NONE, 1);
    tape.aim(&[523.4]);
    let sent = tape.press();
    let [Sent::Line(line)] = sent.as_slice() else { panic!("{sent:?}") };
    assert_eq!(line.parse(), Ok(Line::Read { count: 1, kind: Kind::Tape, figures: vec![523.4] }));
}

#[test]
fn its_faults_come_as_often_as_they_are_said_to() {
    let faults = Faults::usual(Kind::Tape);
    let mut tape = StandIn::new(Kind::Tape, faults, 7);
    tape.aim(&[1000.0]);
    let (mut whole, mut cut, mut drops, mut far, mut low) = (0, 0, 0, 0, false);
    let presses = 4000;
    for _ in 0..presses {
        for sent in tape.press() {
            match sent {
                Sent::Line(line) => match line.parse::<Line>().unwrap() {
                    Line::Read { figures, .. } => {
                        whole += 1;
                        far += i32::from((figures[0] - 1000.0).abs() > 8.0);
                    }
                    Line::Battery { percent } => low |= percent < 15,
                    Line::Hello { .. } => panic!("it greets only who connects"),
                },
                Sent::Cut(line) => {
                    cut += 1;
                    assert!(line.parse::<Line>().is_err());
                }
                Sent::Drop => drops += 1,
            }
        }
    }
    let share = |count: i32| f64::from(count) / f64::from(presses);
    assert!((share(cut) - faults.cut).abs() < 0.01, "{cut}");
    assert!((share(drops) - faults.drops).abs() < 0.01, "{drops}");
    assert!((share(far) - faults.outliers).abs() < 0.015, "{far}");
    assert!((share(whole) - (1.0 - faults.cut) * (1.0 - faults.lost)).abs() < 0.02, "{whole}");
    assert!(low, "its battery runs low");
}

#[tokio::test]
async fn it_talks_over_tcp_as_the_protocol_says() {
    let stand_ins = Kind::ALL.map(|kind| (StandIn::new(kind, Faults::NONE, 3), 0));
    let at = serve_stand_ins(stand_ins).await.unwrap();
    let said = tokio::task::spawn_blocking(move || {
        let mut stream = TcpStream::connect(at[1]).unwrap();
        let mut lines = BufReader::new(stream.try_clone().unwrap()).lines().map(Result::unwrap);
        let greeting = [lines.next().unwrap(), lines.next().unwrap()];
        writeln!(stream, "nonsense").unwrap();
        writeln!(stream, "{}", Order::Aim(vec![-30.0, 12.5, 0.0])).unwrap();
        writeln!(stream, "{}", Order::Press).unwrap();
        (greeting, lines.next().unwrap())
    });
    let (greeting, read) = said.await.unwrap();
    assert_eq!(greeting[0].parse(), Ok(Line::Hello { kind: Kind::Gauge }));
    assert!(matches!(greeting[1].parse(), Ok(Line::Battery { .. })));
    assert_eq!(read.parse(), Ok(Line::Read { count: 1, kind: Kind::Gauge, figures: vec![-30.0, 12.5, 0.0] }));
}
