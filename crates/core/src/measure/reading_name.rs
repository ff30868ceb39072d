//! What readings are called on the screen.

use super::{Against, Anchor, Axis, Measurand, RimSide, Spot, Taken};

impl Taken {
    /// The reading as a phrase, such as `tape from left strut bolt`; `name` calls what it leans on.
    #[must_use]
    pub fn name(&self, name: impl Fn(Measurand) -> String) -> String {
        let anchor = |from: Anchor| match from {
            Anchor::Zero => "zero".to_owned(),
            Anchor::Datum { datum } => name(Measurand::Datum { datum }),
            Anchor::Port { port, rim: None } => name(Measurand::Port { port }),
            Anchor::Port { port, rim: Some(side) } => {
                format!("{}\u{2019}s {} rim", name(Measurand::Port { port }), side.word())
            }
        };
        let against = |to: Against| match to {
            Against::Axis { axis } => format!("the {} axis", axis.word()),
            Against::Port { port } => name(Measurand::Port { port }),
        };
        match self {
            Self::Tape { from, to, .. } => format!("tape from {}{}", anchor(*from), to.words()),
            Self::Offset { from: Anchor::Zero, to, axis, .. } => format!("{} coordinate{}", axis.letter(), to.words()),
            Self::Offset { from, to, axis, .. } => {
                let how = match axis {
                    Axis::X => "forward of",
                    Axis::Y => "left of",
                    Axis::Z => "level above",
                };
                format!("{how} {}{}", anchor(*from), to.words())
            }
            Self::Heading { .. } => "heading".to_owned(),
            Self::Pitch { .. } => "pitch".to_owned(),
            Self::Square { to } => format!("square to {}", against(*to)),
            Self::Parallel { to, opposite: false } => format!("same way as {}", against(*to)),
            Self::Parallel { to, opposite: true } => format!("opposite to {}", against(*to)),
            Self::Mirror { of } => format!("mirror of {}", name(Measurand::Port { port: *of })),
            Self::Caliper { .. } => "caliper".to_owned(),
            Self::Girth { .. } => "girth".to_owned(),
            Self::Bore { .. } => "bore".to_owned(),
            Self::Between { port, .. } => format!("angle to {}", name(Measurand::Port { port: *port })),
        }
    }
}

impl Spot {
    fn words(self) -> String {
        match self {
            Self::Centre => String::new(),
            Self::Stick { mm } => format!(" to the stick at {} mm", mm.get()),
            Self::Rim { side } => format!(" to the {} rim", side.word()),
            Self::Face { clock, mm } => format!(" to the face at {} o\u{2019}clock, {} mm out", clock.get(), mm.get()),
            Self::Corner { towards } => {
                let sides = [["back", "", "front"], ["right", "", "left"], ["lower", "", "upper"]];
                let named = towards.iter().zip(sides).map(|(side, names)| match side.signum() {
                    -1 => names[0],
                    1 => names[2],
                    _ => names[1],
                });
                let words: Vec<&str> = named.filter(|word| !word.is_empty()).collect();
                format!(" to the {} corner", words.join(" "))
            }
        }
    }
}

impl RimSide {
    /// `near` or `far`.
    #[must_use]
    pub const fn word(self) -> &'static str {
        match self {
            Self::Near => "near",
            Self::Far => "far",
        }
    }
}

impl Axis {
    /// x, y or z.
    #[must_use]
    pub const fn letter(self) -> char {
        match self {
            Self::X => 'x',
            Self::Y => 'y',
            Self::Z => 'z',
        }
    }

    /// The axis by the way it runs.
    #[must_use]
    pub const fn word(self) -> &'static str {
        match self {
            Self::X => "forward",
            Self::Y => "left",
            Self::Z => "up",
        }
    }
}
