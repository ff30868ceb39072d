//! What follows for a component's neck that is sawn off or turned.

use serde::Serialize;
use utoipa::ToSchema;

use crate::measure::{End, NeckCut};
use crate::route::ResolvedRun;
use nook_geometry::units::{DualUnitText, Measure};

/// A neck as it is sawn, on the car, before the pipe is made.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct NeckWorkup {
    /// How much is sawn off its end, square.
    pub cut_back: Measure,
    /// How long it is then.
    pub left: Measure,
    /// How long the joint that sits on it wants it to be.
    pub needed: Measure,
    /// How it is sawn through to be turned; nothing where it stays on.
    pub mitre: Option<MitreWorkup>,
    /// What is done, in order, each in a sentence.
    pub acts: Vec<DualUnitText>,
}

/// A neck as it is sawn through to be turned.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct MitreWorkup {
    /// Saw setting from square, in degrees.
    pub saw: f64,
    /// By how much the end turns, in degrees.
    pub turns: f64,
    /// From where it leaves the component to where the cut crosses its axis.
    pub at: Measure,
    /// The same along its shortest line and its longest.
    pub lines: [Measure; 2],
    /// The clock of the shortest line, in degrees from up, clockwise for who looks from the component out of its mouth.
    pub towards: f64,
}

impl NeckWorkup {
    pub(super) fn of(run: &ResolvedRun, end: End) -> Option<Self> {
        let NeckCut { neck, mitre, towards, problem: None } = *run.neck_cut(end)? else { return None };
        let half = run.port(end).od.get() / 2.0;
        let mitre = mitre.map(|mitre| {
            let reach = half * mitre.saw.to_radians().tan();
            MitreWorkup {
                saw: mitre.saw,
                turns: 2.0 * mitre.saw,
                at: Measure(mitre.at),
                lines: [mitre.at - reach, mitre.at + reach].map(Measure),
                towards,
            }
        });
        let cut_back = neck.cut_back.get();
        let mut acts =
            vec![DualUnitText::same("Stop its bore with a rag behind the cut, and tie a string to that.".to_owned())];
        if cut_back > 0.0 {
            acts.push(DualUnitText::new(|unit| {
                format!(
                    "Saw {} off its end, square; {} are left from where it leaves the component.",
                    unit.text(cut_back),
                    unit.text(neck.left())
                )
            }));
        }
        if let Some(mitre) = &mitre {
            acts.push(DualUnitText::new(|unit| {
                let [short, long] = mitre.lines.each_ref().map(|line| unit.text(line.mm()));
                format!(
                    "Scribe a line along it at {:.0}\u{b0} from up, clockwise seen from the component, and saw it through at {:.1}\u{b0}: \
                     {short} from the component on that line, {long} on the other side.",
                    mitre.towards, mitre.saw
                )
            }));
            acts.push(DualUnitText::same(format!(
                "Turn the end half round on its own axis, so that its line comes to the other side, and weld it: it leans {:.1}\u{b0} to \
                 the scribed line.",
                mitre.turns
            )));
        }
        let hose = run.joint(end).kind.has_hose() || run.hose.is_some_and(|hose| hose.fittings().is_none());
        if cut_back > 0.0 && hose {
            acts.push(DualUnitText::same("Roll a new bead; the old one went with the end.".to_owned()));
        }
        acts.push(DualUnitText::same("Take the rag out, wash out every chip, and measure the mouth anew: the blade took its width, and welds pull."
                .to_owned()));
        Some(Self {
            cut_back: Measure(cut_back),
            left: Measure(neck.left()),
            needed: Measure(run.neck_needed(end)),
            mitre,
            acts,
        })
    }
}
