//! A PDF read back by somebody who knows nothing of what wrote it: the vectors of every page, in mm from its upper left corner.

use lopdf::content::Content;
use lopdf::{Document, Object};

pub(crate) type P = [f64; 2];

/// A path as it was painted.
#[derive(Debug, Clone)]
pub(crate) struct Painted {
    /// Its corners; a curve is its end.
    pub(crate) points: Vec<P>,
    pub(crate) stroked: bool,
    pub(crate) filled: bool,
    /// The clip it was painted in, as a box: its least and its greatest corner.
    pub(crate) clip: [P; 2],
}

impl Painted {
    /// Width and height of the box round it.
    pub(crate) fn size(&self) -> P {
        let [low, high] = extent(&self.points);
        [high[0] - low[0], high[1] - low[1]]
    }
}

/// The box round points.
pub(crate) fn extent(points: &[P]) -> [P; 2] {
    points.iter().fold([[f64::INFINITY; 2], [f64::NEG_INFINITY; 2]], |[low, high], at| {
        [[low[0].min(at[0]), low[1].min(at[1])], [high[0].max(at[0]), high[1].max(at[1])]]
    })
}

/// A page as it was read.
#[derive(Debug)]
pub(crate) struct Sheet {
    /// Width and height in mm.
    pub(crate) size: P,
    pub(crate) painted: Vec<Painted>,
    /// Where each letter that is seen stands, and whether it is mirrored.
    pub(crate) letters: Vec<(P, bool)>,
    /// All of its letters, blanks left out.
    pub(crate) text: String,
}

type M = [f64; 6];

fn times(a: M, b: M) -> M {
    [
        a[0] * b[0] + a[1] * b[2],
        a[0] * b[1] + a[1] * b[3],
        a[2] * b[0] + a[3] * b[2],
        a[2] * b[1] + a[3] * b[3],
        a[4] * b[0] + a[5] * b[2] + b[4],
        a[4] * b[1] + a[5] * b[3] + b[5],
    ]
}

fn apply(m: M, [x, y]: P) -> P {
    [m[0] * x + m[2] * y + m[4], m[1] * x + m[3] * y + m[5]]
}

const POINT: f64 = 25.4 / 72.0;

pub(crate) fn read(bytes: &[u8]) -> Vec<Sheet> {
    let document = Document::load_mem(bytes).unwrap();
    let pages = document.get_pages();
    let number = |object: &Object| f64::from(object.as_float().unwrap());
    let each = pages.into_iter().map(|(index, id)| {
        let dict = document.get_dictionary(id).unwrap();
        let media: Vec<f64> = dict.get(b"MediaBox").unwrap().as_array().unwrap().iter().map(number).collect();
        let content = Content::decode(&document.get_page_content(id)).unwrap();
        let size = [media[2] * POINT, media[3] * POINT];
        let whole = [[0.0, 0.0], size];
        let out = |[x, y]: P| [x * POINT, size[1] - y * POINT];
        let text = document.extract_text(&[index]).unwrap().split_whitespace().collect();
        let mut sheet = Sheet { size, painted: Vec::new(), letters: Vec::new(), text };
        let mut stack: Vec<(M, [P; 2])> = Vec::new();
        let (mut now, mut clip) = ([1.0, 0.0, 0.0, 1.0, 0.0, 0.0], whole);
        let (mut path, mut clips): (Vec<P>, bool) = (Vec::new(), false);
        for operation in content.operations {
            let n: Vec<f64> = operation.operands.iter().filter_map(|one| one.as_float().ok()).map(f64::from).collect();
            match operation.operator.as_str() {
                "q" => stack.push((now, clip)),
                "Q" => (now, clip) = stack.pop().unwrap(),
                "cm" => now = times([n[0], n[1], n[2], n[3], n[4], n[5]], now),
                "m" | "l" => path.push(out(apply(now, [n[0], n[1]]))),
                "c" => path.push(out(apply(now, [n[4], n[5]]))),
                "re" => {
                    let [x, y, w, h] = [n[0], n[1], n[2], n[3]];
                    path.extend([[x, y], [x + w, y], [x + w, y + h], [x, y + h]].map(|at| out(apply(now, at))));
                }
                "W" | "W*" => clips = true,
                "S" | "s" | "f" | "f*" | "B" | "B*" | "b" | "n" => {
                    if clips {
                        let [low, high] = extent(&path);
                        clip = [0, 1].map(|corner| {
                            [0, 1].map(|axis| {
                                if corner == 0 { clip[0][axis].max(low[axis]) } else { clip[1][axis].min(high[axis]) }
                            })
                        });
                    }
                    let painted = operation.operator.as_str();
                    if painted != "n" {
                        sheet.painted.push(Painted {
                            points: std::mem::take(&mut path),
                            stroked: painted.contains(['S', 's', 'B', 'b']),
                            filled: painted.contains(['f', 'B', 'b']),
                            clip,
                        });
                    }
                    path.clear();
                    clips = false;
                }
                "Tm" => {
                    let all = times([n[0], n[1], n[2], n[3], n[4], n[5]], now);
                    let at = out([all[4], all[5]]);
                    let seen = (0..2).all(|axis| at[axis] > clip[0][axis] && at[axis] < clip[1][axis]);
                    sheet.letters.extend(seen.then_some((at, all[0] * all[3] - all[1] * all[2] < 0.0)));
                }
                "Do" => panic!("a form or a picture: everything is drawn as it is"),
                _ => {}
            }
        }
        sheet
    });
    each.collect()
}

/// Whether every font of the file is in it.
pub(crate) fn fonts_are_embedded(bytes: &[u8]) -> bool {
    let document = Document::load_mem(bytes).unwrap();
    let descriptors = document.objects.values().filter_map(|object| object.as_dict().ok());
    let descriptors = descriptors
        .filter(|dict| dict.get(b"Type").is_ok_and(|kind| kind.as_name().is_ok_and(|name| name == b"FontDescriptor")));
    let mut any = false;
    let all = descriptors.into_iter().all(|dict| {
        any = true;
        [&b"FontFile"[..], b"FontFile2", b"FontFile3"].iter().any(|file| dict.get(file).is_ok())
    });
    any && all
}
