//! What is wrong with a scan that its parser gave up on, by the line of the file.

use std::io::{BufRead, BufReader, Result, Seek};

use super::ScanFormat;
use super::limits::MOST_CORNERS;
use super::watched::Watched;

/// Says where a file is not what its format asks for and what was expected there.
pub(super) fn what_is_wrong(file: &mut Watched<'_, '_>, format: ScanFormat) -> String {
    let fallback = || "it breaks off, or holds something that has no place in it".to_owned();
    let text = file.reads_text();
    let Ok(source) = file.again() else { return fallback() };
    if !text {
        return fallback();
    }
    let mut lines = Lines { from: BufReader::new(source), number: 0 };
    let found = match format {
        ScanFormat::Stl => stl(&mut lines),
        ScanFormat::Obj => obj(&mut lines),
        ScanFormat::Ply => ply(&mut lines),
    };
    found.unwrap_or_else(fallback)
}

/// What is wrong with the lines of a text PLY, if anything; the file is back at its start afterwards.
pub(super) fn ply_lines(file: &mut Watched<'_, '_>) -> Result<Option<String>> {
    let found = ply(&mut Lines { from: BufReader::new(&mut *file), number: 0 });
    file.rewind()?;
    Ok(found)
}

/// The words of each line that has any, with its number.
struct Lines<R> {
    from: R,
    number: usize,
}

impl<R: BufRead> Iterator for Lines<R> {
    type Item = (usize, Vec<String>);

    fn next(&mut self) -> Option<Self::Item> {
        let mut line = Vec::new();
        loop {
            line.clear();
            if self.from.read_until(b'\n', &mut line).ok()? == 0 {
                return None;
            }
            self.number += 1;
            let words: Vec<String> = String::from_utf8_lossy(&line).split_whitespace().map(str::to_owned).collect();
            if !words.is_empty() {
                return Some((self.number, words));
            }
        }
    }
}

fn said(number: usize, words: &[String], wanted: &str) -> String {
    let line = words.join(" ");
    let short: String = line.chars().take(40).collect();
    let more = if short.len() < line.len() { "\u{2026}" } else { "" };
    format!("line {number} reads \u{201c}{short}{more}\u{201d}; {wanted} was expected")
}

fn figures(words: &[String]) -> bool {
    words.iter().all(|word| word.parse::<f32>().is_ok_and(f32::is_finite))
}

/// A triangle's lines in text STL: their words, how many figures follow, and how they are called.
const STL: [(&[&str], usize, &str); 7] = [
    (&["facet", "normal"], 3, "\u{201c}facet normal\u{201d} and three numbers, or \u{201c}endsolid\u{201d},"),
    (&["outer", "loop"], 0, "\u{201c}outer loop\u{201d}"),
    (&["vertex"], 3, "\u{201c}vertex\u{201d} and three numbers"),
    (&["vertex"], 3, "\u{201c}vertex\u{201d} and three numbers"),
    (&["vertex"], 3, "\u{201c}vertex\u{201d} and three numbers"),
    (&["endloop"], 0, "\u{201c}endloop\u{201d}"),
    (&["endfacet"], 0, "\u{201c}endfacet\u{201d}"),
];

fn stl<R: BufRead>(lines: &mut Lines<R>) -> Option<String> {
    let mut at = 0;
    let mut last = 1;
    lines.next()?;
    for (number, words) in lines {
        last = number;
        if at == 0 && words[0] == "endsolid" {
            return None;
        }
        let (begins, count, wanted) = STL[at];
        let fits = words.len() == begins.len() + count
            && words.iter().zip(begins).all(|(word, begin)| word == begin)
            && figures(&words[begins.len()..]);
        if !fits {
            return Some(said(number, &words, wanted));
        }
        at = (at + 1) % STL.len();
    }
    Some(format!("it ends after line {last}; {} was expected", STL[at].2))
}

fn obj<R: BufRead>(lines: &mut Lines<R>) -> Option<String> {
    let mut vertices = 0_i64;
    for (number, words) in lines {
        match words[0].as_str() {
            "v" if words.len() < 4 || !figures(&words[1..4]) => {
                return Some(said(number, &words, "\u{201c}v\u{201d} and three numbers"));
            }
            "v" => vertices += 1,
            "f" => {
                let corner = |word: &String| word.split('/').next().and_then(|index| index.parse::<i64>().ok());
                let sound = |index: i64| (1..=vertices).contains(&index) || (-vertices..0).contains(&index);
                if words.len() < 4 || !words[1..].iter().all(|word| corner(word).is_some_and(sound)) {
                    let wanted = format!("\u{201c}f\u{201d} and at least three of the {vertices} vertices so far");
                    return Some(said(number, &words, &wanted));
                }
            }
            _ => {}
        }
    }
    None
}

fn ply<R: BufRead>(lines: &mut Lines<R>) -> Option<String> {
    // Name, count, and for each property whether it is a list.
    let mut elements: Vec<(String, usize, Vec<bool>)> = Vec::new();
    for (number, words) in lines.by_ref() {
        match (words[0].as_str(), words.len()) {
            ("end_header", _) => break,
            ("element", 3) if words[2].parse::<usize>().is_ok() => {
                elements.push((words[1].clone(), words[2].parse().unwrap_or_default(), Vec::new()));
            }
            ("property", 3 | 5) => match elements.last_mut() {
                Some(element) => element.2.push(words[1] == "list"),
                None => return Some(said(number, &words, "an element before its properties")),
            },
            ("ply" | "format" | "comment" | "obj_info", _) => {}
            _ => return Some(said(number, &words, "a line of a PLY header")),
        }
    }
    for (name, count, lists) in elements {
        for done in 0..count {
            let Some((number, words)) = lines.next() else {
                return Some(format!("it ends after {done} of {count} of its element {name}"));
            };
            let mut at = 0;
            let fits = lists.iter().all(|list| {
                let own = words.get(at);
                let held = if *list { own.and_then(|word| word.parse::<usize>().ok()) } else { Some(0) };
                at = at.saturating_add(held.unwrap_or(0)).saturating_add(1);
                own.is_some() && held.is_some()
            });
            if at > MOST_CORNERS {
                return Some(format!("line {number}: a face has more than {MOST_CORNERS} corners"));
            }
            if !fits || words.len() < at || !words.iter().all(|word| word.parse::<f64>().is_ok()) {
                return Some(said(number, &words, &format!("the numbers of one {name}")));
            }
        }
    }
    None
}
