//! The workshop: what the builder works with, whatever the job. It outlives jobs and is shared by them.

mod drills;
mod lesson;
mod printer;
mod saw;
mod shelf;
mod workshop_edit;
mod workshop_error;

pub use drills::{Drills, DrillsError};
pub use lesson::{Lesson, LessonError};
pub use printer::{Printer, PrinterId};
pub use saw::{PinnedSaw, Saw, SawCoupon, SawId, SawKind, SawReach, bend_out};
pub use shelf::{
    ElbowId, ElbowOnSale, OnSaleId, PiesId, PiesOnSale, ShelfElbow, ShelfPies, Stick, StickId, StickOnSale,
};
pub use workshop_edit::WorkshopEdit;
pub use workshop_error::WorkshopError;

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::weld::{WeldCoupon, Welder};
use nook_geometry::units::{Kerf, Name, SawBias, ScrapRate};

/// What a builder works with. Its fields change only through [`Workshop::apply`], so what that checks always holds.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(try_from = "Parts", into = "Parts")]
pub struct Workshop {
    /// Saws; there is always one.
    saws: Vec<Saw>,
    /// The one that new jobs are made with.
    saw: SawId,
    /// Sticks and offcuts on the shelf.
    sticks: Vec<Stick>,
    /// Lengths that can be bought.
    on_sale: Vec<StickOnSale>,
    /// Elbows on the shelf.
    elbows: Vec<ShelfElbow>,
    /// Elbows that can be bought.
    elbows_on_sale: Vec<ElbowOnSale>,
    /// Bought pies on the shelf, one box of each sort.
    pies: Vec<ShelfPies>,
    /// Pies that can be bought.
    pies_on_sale: Vec<PiesOnSale>,
    /// What share of all pieces is spoilt, as the builder knows himself; nothing where nobody said.
    scrap: Option<ScrapRate>,
    /// Printers.
    printers: Vec<Printer>,
    /// How truly the builder works, as drills show it.
    #[schema(required = false)]
    drills: Drills,
    /// What is welded with.
    #[schema(required = false)]
    welder: Welder,
    /// Beads laid on scraps to try settings, the latest last.
    #[schema(required = false)]
    weld_coupons: Vec<WeldCoupon>,
    /// What was learnt, the latest last.
    #[schema(required = false)]
    lessons: Vec<Lesson>,
    /// The next number to give; numbers are never used twice.
    next_id: u32,
}

#[derive(Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
struct Parts {
    saws: Vec<Saw>,
    saw: SawId,
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    sticks: Vec<Stick>,
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    on_sale: Vec<StickOnSale>,
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    elbows: Vec<ShelfElbow>,
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    elbows_on_sale: Vec<ElbowOnSale>,
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pies: Vec<ShelfPies>,
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pies_on_sale: Vec<PiesOnSale>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    scrap: Option<ScrapRate>,
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    printers: Vec<Printer>,
    #[serde(default, skip_serializing_if = "Drills::is_empty")]
    drills: Drills,
    #[serde(default, skip_serializing_if = "is_usual")]
    welder: Welder,
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    weld_coupons: Vec<WeldCoupon>,
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    lessons: Vec<Lesson>,
    next_id: u32,
}

fn is_usual(welder: &Welder) -> bool {
    *welder == Welder::default()
}

/// Kerf in mm of a common 14 inch cold saw, until the builder says otherwise.
const USUAL_KERF: f64 = 2.0;

impl Workshop {
    /// Version of the document. Version 1 had no shelf and no coupons, version 2 no elbows, and until version 4 every saw was set to any
    /// angle, and there were no bought pies. Version 4 had no drills, version 5 nothing to weld with and
    /// nothing learnt.
    pub const VERSION: u32 = 6;
    /// Most saws.
    pub const MOST_SAWS: usize = 30;
    /// Most sticks on the shelf.
    pub const MOST_STICKS: usize = 400;
    /// Most lengths on sale.
    pub const MOST_ON_SALE: usize = 100;
    /// Most elbows on the shelf.
    pub const MOST_ELBOWS: usize = 400;
    /// Most elbows on sale.
    pub const MOST_ELBOWS_ON_SALE: usize = 100;
    /// Most printers.
    pub const MOST_PRINTERS: usize = 20;
    /// Most boxes of pies on the shelf.
    pub const MOST_PIES: usize = 200;
    /// Most sorts of pies on sale.
    pub const MOST_PIES_ON_SALE: usize = 100;

    /// Saws.
    #[must_use]
    pub fn saws(&self) -> &[Saw] {
        &self.saws
    }

    /// The saw that new jobs are made with.
    #[must_use]
    pub fn saw(&self) -> &Saw {
        // There is always one, and the one in use is among them.
        self.saws.iter().find(|saw| saw.id == self.saw).unwrap_or(&self.saws[0])
    }

    /// How truly the builder works, as drills show it.
    #[must_use]
    pub const fn drills(&self) -> &Drills {
        &self.drills
    }

    /// What is welded with.
    #[must_use]
    pub const fn welder(&self) -> &Welder {
        &self.welder
    }

    /// Beads laid on scraps to try settings, the latest last.
    #[must_use]
    pub fn weld_coupons(&self) -> &[WeldCoupon] {
        &self.weld_coupons
    }

    /// What was learnt, the latest last.
    #[must_use]
    pub fn lessons(&self) -> &[Lesson] {
        &self.lessons
    }

    /// Sticks and offcuts on the shelf.
    #[must_use]
    pub fn sticks(&self) -> &[Stick] {
        &self.sticks
    }

    /// Lengths that can be bought.
    #[must_use]
    pub fn on_sale(&self) -> &[StickOnSale] {
        &self.on_sale
    }

    /// Elbows on the shelf.
    #[must_use]
    pub fn elbows(&self) -> &[ShelfElbow] {
        &self.elbows
    }

    /// Elbows that can be bought.
    #[must_use]
    pub fn elbows_on_sale(&self) -> &[ElbowOnSale] {
        &self.elbows_on_sale
    }

    /// Bought pies on the shelf, one box of each sort.
    #[must_use]
    pub fn pies(&self) -> &[ShelfPies] {
        &self.pies
    }

    /// Pies that can be bought.
    #[must_use]
    pub fn pies_on_sale(&self) -> &[PiesOnSale] {
        &self.pies_on_sale
    }

    /// What share of all pieces is spoilt; `None` where nobody said.
    #[must_use]
    pub const fn scrap(&self) -> Option<ScrapRate> {
        self.scrap
    }

    /// Printers.
    #[must_use]
    pub fn printers(&self) -> &[Printer] {
        &self.printers
    }

    fn check_shelf(&self) -> Result<(), WorkshopError> {
        let at_most = |what, count, most| {
            if count <= most { Ok(()) } else { Err(WorkshopError::TooMany { what, count, most }) }
        };
        at_most("sticks", self.sticks.len(), Self::MOST_STICKS)?;
        at_most("lengths on sale", self.on_sale.len(), Self::MOST_ON_SALE)?;
        at_most("elbows", self.elbows.len(), Self::MOST_ELBOWS)?;
        at_most("elbows on sale", self.elbows_on_sale.len(), Self::MOST_ELBOWS_ON_SALE)?;
        at_most("printers", self.printers.len(), Self::MOST_PRINTERS)?;
        at_most("boxes of pies", self.pies.len(), Self::MOST_PIES)?;
        at_most("pies on sale", self.pies_on_sale.len(), Self::MOST_PIES_ON_SALE)?;
        at_most("weld coupons", self.weld_coupons.len(), WeldCoupon::MOST)?;
        self.weld_coupons.iter().try_for_each(WeldCoupon::check)?;
        at_most("lessons", self.lessons.len(), Lesson::MOST)?;
        self.lessons.iter().try_for_each(Lesson::check)?;
        if let Some(one) = self.pies.iter().find(|one| one.count < 1 || one.count > ShelfPies::MOST) {
            return Err(WorkshopError::PieCount { count: one.count, most: ShelfPies::MOST });
        }
        let sticks = self.sticks.iter().map(|stick| stick.tube).chain(self.on_sale.iter().map(|one| one.tube));
        let elbows = self.elbows.iter().map(|one| (one.tube, one.elbow));
        let elbows: Vec<_> = elbows.chain(self.elbows_on_sale.iter().map(|one| (one.tube, one.elbow))).collect();
        let pies = self.pies.iter().map(|one| (one.tube, one.pie));
        let pies: Vec<_> = pies.chain(self.pies_on_sale.iter().map(|one| (one.tube, one.pie))).collect();
        let bent = elbows.iter().map(|(tube, elbow)| (tube, elbow.radius));
        let mut bent = bent.chain(pies.iter().map(|(tube, pie)| (tube, pie.radius)));
        if let Some((tube, radius)) = bent.find(|(tube, radius)| radius.get() < tube.od() / 2.0) {
            let (radius, least) = (radius.get(), tube.od() / 2.0);
            return Err(WorkshopError::NoThroat { radius, least });
        }
        let all = sticks.chain(elbows.iter().map(|(tube, _)| *tube)).chain(pies.iter().map(|(tube, _)| *tube));
        if let Some(tube) = all.into_iter().find(|tube| tube.material().is_hose()) {
            return Err(WorkshopError::NotTube { material: tube.material().name() });
        }
        let mut numbers: Vec<u32> = self.saws.iter().map(|saw| saw.id.0).collect();
        numbers.extend(self.sticks.iter().map(|stick| stick.id.0));
        numbers.extend(self.on_sale.iter().map(|one| one.id.0));
        numbers.extend(self.elbows.iter().map(|one| one.id.0));
        numbers.extend(self.elbows_on_sale.iter().map(|one| one.id.0));
        numbers.extend(self.printers.iter().map(|one| one.id.0));
        numbers.extend(self.pies.iter().map(|one| one.id.0));
        numbers.extend(self.pies_on_sale.iter().map(|one| one.id.0));
        numbers.sort_unstable();
        let twice = numbers.windows(2).find(|pair| pair[0] == pair[1]).map(|pair| pair[0]);
        let beyond = numbers.last().copied().filter(|last| *last >= self.next_id);
        match twice.or(beyond) {
            Some(id) => Err(WorkshopError::Numbering { id }),
            None => Ok(()),
        }
    }

    fn check(&self) -> Result<(), WorkshopError> {
        self.check_shelf()?;
        if self.saws.len() > Self::MOST_SAWS {
            return Err(WorkshopError::TooManySaws { count: self.saws.len(), most: Self::MOST_SAWS });
        }
        if !self.saws.iter().any(|saw| saw.id == self.saw) {
            return Err(WorkshopError::NoSuchSaw { saw: self.saw });
        }
        for (index, saw) in self.saws.iter().enumerate() {
            if let Some(coupon) = &saw.coupon {
                if coupon.joints.is_empty() || coupon.joints.len() > SawCoupon::MOST {
                    let (count, most) = (coupon.joints.len(), SawCoupon::MOST);
                    return Err(WorkshopError::Pairs { count, most });
                }
                if let Some(bias) = coupon.bias().filter(|bias| SawBias::new(*bias).is_err()) {
                    return Err(WorkshopError::FarOff { bias });
                }
            }
            let others = &self.saws[..index];
            if saw.id.0 >= self.next_id || others.iter().any(|other| other.id == saw.id) {
                return Err(WorkshopError::Numbering { id: saw.id.0 });
            }
            if others.iter().any(|other| other.name.as_str().eq_ignore_ascii_case(saw.name.as_str())) {
                return Err(WorkshopError::NameTaken { name: saw.name.as_str().to_owned() });
            }
        }
        Ok(())
    }
}

impl Default for Workshop {
    fn default() -> Self {
        let name = Name::new("Cold saw").unwrap_or_else(|_| unreachable!("a name of two words"));
        let kerf = Kerf::new(USUAL_KERF).unwrap_or_else(|_| unreachable!("2 mm is within the range of a kerf"));
        let saws = vec![Saw { id: SawId(1), name, kerf, coupon: None, reach: SawReach::default() }];
        Self {
            saws,
            saw: SawId(1),
            sticks: Vec::new(),
            on_sale: Vec::new(),
            elbows: Vec::new(),
            elbows_on_sale: Vec::new(),
            pies: Vec::new(),
            pies_on_sale: Vec::new(),
            scrap: None,
            printers: Vec::new(),
            drills: Drills::default(),
            welder: Welder::default(),
            weld_coupons: Vec::new(),
            lessons: Vec::new(),
            next_id: 2,
        }
    }
}

impl TryFrom<Parts> for Workshop {
    type Error = WorkshopError;
    fn try_from(
        Parts {
            saws,
            saw,
            sticks,
            on_sale,
            elbows,
            elbows_on_sale,
            pies,
            pies_on_sale,
            scrap,
            printers,
            drills,
            welder,
            weld_coupons,
            lessons,
            next_id,
        }: Parts,
    ) -> Result<Self, WorkshopError> {
        let workshop = Self {
            saws,
            saw,
            sticks,
            on_sale,
            elbows,
            elbows_on_sale,
            pies,
            pies_on_sale,
            scrap,
            printers,
            drills,
            welder,
            weld_coupons,
            lessons,
            next_id,
        };
        workshop.check()?;
        Ok(workshop)
    }
}

impl From<Workshop> for Parts {
    fn from(workshop: Workshop) -> Self {
        let Workshop {
            saws,
            saw,
            sticks,
            on_sale,
            elbows,
            elbows_on_sale,
            pies,
            pies_on_sale,
            scrap,
            printers,
            drills,
            welder,
            weld_coupons,
            lessons,
            next_id,
        } = workshop;
        Self {
            saws,
            saw,
            sticks,
            on_sale,
            elbows,
            elbows_on_sale,
            pies,
            pies_on_sale,
            scrap,
            printers,
            drills,
            welder,
            weld_coupons,
            lessons,
            next_id,
        }
    }
}
