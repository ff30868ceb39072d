//! Decisions about the workshop.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::{
    Drills, ElbowId, ElbowOnSale, Lesson, OnSaleId, PiesId, PiesOnSale, Printer, PrinterId, Saw, SawCoupon, SawId,
    SawReach, ShelfElbow, ShelfPies, Stick, StickId, StickOnSale, Workshop, WorkshopError,
};
use crate::route::{KitPie, StockElbow};
use crate::stock::Tube;
use crate::weld::{WeldCoupon, Welder};
use nook_geometry::units::{Kerf, Name, Price, PrintedBar, ScrapRate, StickLength};

/// One decision about the workshop.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "edit", rename_all = "snake_case", deny_unknown_fields)]
pub enum WorkshopEdit {
    /// Adds a saw.
    AddSaw {
        /// What it is called.
        name: Name,
        /// Width of its cut in mm.
        kerf: Kerf,
    },
    /// Gives a saw another name.
    RenameSaw {
        /// Which one.
        saw: SawId,
        /// The new name.
        name: Name,
    },
    /// Says how wide a saw cuts: a blade was changed, or a cut was measured.
    SetKerf {
        /// Which saw.
        saw: SawId,
        /// Width in mm.
        kerf: Kerf,
    },
    /// Says what was measured of how true a saw cuts; nothing forgets it: the blade or the fence was changed.
    SetCoupon {
        /// Which saw.
        saw: SawId,
        /// What was measured.
        coupon: Option<SawCoupon>,
    },
    /// Says what a saw is able to do.
    SetReach {
        /// Which saw.
        saw: SawId,
        /// Its sort, the step of its scale, and what its vice holds.
        reach: SawReach,
    },
    /// New jobs are made with this saw.
    UseSaw {
        /// Which one.
        saw: SawId,
    },
    /// Takes a saw out that is not in use.
    RemoveSaw {
        /// Which one.
        saw: SawId,
    },
    /// Puts a stick on the shelf.
    AddStick {
        /// What it is of.
        tube: Tube,
        /// How long it is, in mm.
        length: StickLength,
    },
    /// Says how long a stick is: it was measured anew, or something was sawn off it.
    SetStick {
        /// Which one.
        stick: StickId,
        /// How long it is, in mm.
        length: StickLength,
    },
    /// Takes a stick off the shelf.
    RemoveStick {
        /// Which one.
        stick: StickId,
    },
    /// Says that a length can be bought.
    AddOnSale {
        /// What it is of.
        tube: Tube,
        /// How long it is, in mm.
        length: StickLength,
        /// What one costs.
        price: Price,
    },
    /// Puts an elbow, or what is left of one, on the shelf.
    AddElbow {
        /// What it is of.
        tube: Tube,
        /// Its radius, angle and legs.
        elbow: StockElbow,
    },
    /// Says what an elbow is: something was sawn off it.
    SetElbow {
        /// Which one.
        elbow: ElbowId,
        /// Its radius, angle and legs.
        to: StockElbow,
    },
    /// Takes an elbow off the shelf.
    RemoveElbow {
        /// Which one.
        elbow: ElbowId,
    },
    /// Says that an elbow can be bought.
    AddElbowOnSale {
        /// What it is of.
        tube: Tube,
        /// Its radius, angle and legs.
        elbow: StockElbow,
        /// What one costs.
        price: Price,
    },
    /// Puts bought pies on the shelf, into the box of their sort if there is one.
    AddPies {
        /// What they are of.
        tube: Tube,
        /// What one of them is.
        pie: KitPie,
        /// How many.
        count: u32,
    },
    /// Says how many pies a box has; none takes the box away.
    SetPies {
        /// Which box.
        pies: PiesId,
        /// How many.
        count: u32,
    },
    /// Says that pies can be bought.
    AddPiesOnSale {
        /// What they are of.
        tube: Tube,
        /// What one of them is.
        pie: KitPie,
        /// What one costs.
        price: Price,
    },
    /// Says what drills showed of how truly the builder works.
    SetDrills {
        /// What was read, try by try.
        drills: Drills,
    },
    /// Says what is welded with.
    SetWelder {
        /// Machine, bottle and hand.
        welder: Welder,
    },
    /// Notes a bead laid on a scrap to try a setting.
    AddWeldCoupon {
        /// What was set, and how it came out.
        coupon: WeldCoupon,
    },
    /// Notes what was learnt.
    AddLesson {
        /// What, and where it returns.
        lesson: Lesson,
    },
    /// Takes a lesson out.
    RemoveLesson {
        /// Which: its place, from 0.
        at: usize,
    },
    /// Takes a bead out that was noted wrongly.
    RemoveWeldCoupon {
        /// Which: its place, from 0.
        at: usize,
    },
    /// Says what share of all pieces is spoilt, as the builder knows himself; nothing forgets it.
    SetScrap {
        /// The share.
        scrap: Option<ScrapRate>,
    },
    /// Adds a printer.
    AddPrinter {
        /// What it is called.
        name: Name,
    },
    /// Says what the bar of 100 mm measures as it prints it; nothing forgets it.
    SetPrintedBar {
        /// Which printer.
        printer: PrinterId,
        /// In mm.
        bar: Option<PrintedBar>,
    },
    /// Takes a printer out.
    RemovePrinter {
        /// Which.
        printer: PrinterId,
    },
    /// Takes another workshop in place of this one: from a file, or with a shelf from a table. Numbers that were given are never given
    /// again.
    Replace {
        /// The other.
        workshop: Box<Workshop>,
    },
    /// Says that a length, an elbow or a pie can be bought no more.
    RemoveOnSale {
        /// Which line.
        on_sale: OnSaleId,
    },
}

impl Workshop {
    /// The workshop after one more decision; this one is not touched.
    ///
    /// # Errors
    /// [`WorkshopError`] as its variants say.
    pub fn apply(&self, edit: &WorkshopEdit) -> Result<Self, WorkshopError> {
        let mut next = self.clone();
        match edit {
            WorkshopEdit::AddSaw { name, kerf } => {
                let id = SawId(next.take_id()?);
                next.saws.push(Saw { id, name: name.clone(), kerf: *kerf, coupon: None, reach: SawReach::default() });
            }
            WorkshopEdit::RenameSaw { saw, name } => next.saw_mut(*saw)?.name = name.clone(),
            WorkshopEdit::SetKerf { saw, kerf } => next.saw_mut(*saw)?.kerf = *kerf,
            WorkshopEdit::SetCoupon { saw, coupon } => next.saw_mut(*saw)?.coupon.clone_from(coupon),
            WorkshopEdit::SetReach { saw, reach } => next.saw_mut(*saw)?.reach = *reach,
            WorkshopEdit::UseSaw { saw } => next.saw = next.saw_mut(*saw)?.id,
            WorkshopEdit::RemoveSaw { saw } => {
                let name = next.saw_mut(*saw)?.name.as_str().to_owned();
                if *saw == next.saw {
                    return Err(WorkshopError::InUse { name });
                }
                next.saws.retain(|one| one.id != *saw);
            }
            WorkshopEdit::AddStick { tube, length } => {
                let id = StickId(next.take_id()?);
                next.sticks.push(Stick { id, tube: *tube, length: *length });
            }
            WorkshopEdit::SetStick { stick, length } => {
                let known = next.sticks.iter_mut().find(|one| one.id == *stick);
                known.ok_or(WorkshopError::NoSuchStick { stick: *stick })?.length = *length;
            }
            WorkshopEdit::RemoveStick { stick } => {
                let count = next.sticks.len();
                next.sticks.retain(|one| one.id != *stick);
                if next.sticks.len() == count {
                    return Err(WorkshopError::NoSuchStick { stick: *stick });
                }
            }
            WorkshopEdit::AddOnSale { tube, length, price } => {
                let id = OnSaleId(next.take_id()?);
                next.on_sale.push(StickOnSale { id, tube: *tube, length: *length, price: *price });
            }
            WorkshopEdit::AddElbow { tube, elbow } => {
                let id = ElbowId(next.take_id()?);
                next.elbows.push(ShelfElbow { id, tube: *tube, elbow: *elbow });
            }
            WorkshopEdit::SetElbow { elbow, to } => {
                let known = next.elbows.iter_mut().find(|one| one.id == *elbow);
                known.ok_or(WorkshopError::NoSuchElbow { elbow: *elbow })?.elbow = *to;
            }
            WorkshopEdit::RemoveElbow { elbow } => {
                let count = next.elbows.len();
                next.elbows.retain(|one| one.id != *elbow);
                if next.elbows.len() == count {
                    return Err(WorkshopError::NoSuchElbow { elbow: *elbow });
                }
            }
            WorkshopEdit::AddElbowOnSale { tube, elbow, price } => {
                let id = OnSaleId(next.take_id()?);
                next.elbows_on_sale.push(ElbowOnSale { id, tube: *tube, elbow: *elbow, price: *price });
            }
            WorkshopEdit::AddPies { tube, pie, count } => {
                match next.pies.iter_mut().find(|one| one.tube == *tube && one.pie.is_like(pie)) {
                    Some(known) => known.count = known.count.saturating_add(*count),
                    None => {
                        let id = PiesId(next.take_id()?);
                        next.pies.push(ShelfPies { id, tube: *tube, pie: *pie, count: *count });
                    }
                }
            }
            WorkshopEdit::SetPies { pies, count } => {
                let known = next.pies.iter_mut().find(|one| one.id == *pies);
                known.ok_or(WorkshopError::NoSuchPies { pies: *pies })?.count = *count;
                next.pies.retain(|one| one.id != *pies || one.count > 0);
            }
            WorkshopEdit::AddPiesOnSale { tube, pie, price } => {
                let id = OnSaleId(next.take_id()?);
                next.pies_on_sale.push(PiesOnSale { id, tube: *tube, pie: *pie, price: *price });
            }
            WorkshopEdit::AddPrinter { name } => {
                if next.printers.iter().any(|one| one.name.as_str().eq_ignore_ascii_case(name.as_str())) {
                    return Err(WorkshopError::NameTaken { name: name.as_str().to_owned() });
                }
                let id = PrinterId(next.take_id()?);
                next.printers.push(Printer { id, name: name.clone(), bar: None });
            }
            WorkshopEdit::SetPrintedBar { printer, bar } => {
                let known = next.printers.iter_mut().find(|one| one.id == *printer);
                known.ok_or(WorkshopError::NoSuchPrinter { printer: *printer })?.bar = *bar;
            }
            WorkshopEdit::RemovePrinter { printer } => {
                let count = next.printers.len();
                next.printers.retain(|one| one.id != *printer);
                if next.printers.len() == count {
                    return Err(WorkshopError::NoSuchPrinter { printer: *printer });
                }
            }
            WorkshopEdit::SetDrills { drills } => next.drills.clone_from(drills),
            WorkshopEdit::SetWelder { welder } => next.welder.clone_from(welder),
            WorkshopEdit::AddWeldCoupon { coupon } => next.weld_coupons.push(coupon.clone()),
            WorkshopEdit::AddLesson { lesson } => next.lessons.push(lesson.clone()),
            WorkshopEdit::RemoveLesson { at } => {
                if *at >= next.lessons.len() {
                    let why = format!("there is no lesson {}; it may have been taken out", at + 1);
                    return Err(WorkshopError::Noted { why });
                }
                next.lessons.remove(*at);
            }
            WorkshopEdit::RemoveWeldCoupon { at } => {
                if *at >= next.weld_coupons.len() {
                    let why = format!("there is no weld coupon {}; it may have been taken out", at + 1);
                    return Err(WorkshopError::Noted { why });
                }
                next.weld_coupons.remove(*at);
            }
            WorkshopEdit::SetScrap { scrap } => next.scrap = *scrap,
            WorkshopEdit::Replace { workshop } => {
                let given = next.next_id;
                next = (**workshop).clone();
                next.next_id = next.next_id.max(given);
            }
            WorkshopEdit::RemoveOnSale { on_sale } => {
                let lines = |of: &Self| of.on_sale.len() + of.elbows_on_sale.len() + of.pies_on_sale.len();
                let count = lines(&next);
                next.on_sale.retain(|one| one.id != *on_sale);
                next.elbows_on_sale.retain(|one| one.id != *on_sale);
                next.pies_on_sale.retain(|one| one.id != *on_sale);
                if lines(&next) == count {
                    return Err(WorkshopError::NotOnSale { on_sale: *on_sale });
                }
            }
        }
        next.check()?;
        Ok(next)
    }

    fn take_id(&mut self) -> Result<u32, WorkshopError> {
        let id = self.next_id;
        self.next_id = id.checked_add(1).ok_or(WorkshopError::NumbersUsedUp)?;
        Ok(id)
    }

    fn saw_mut(&mut self, saw: SawId) -> Result<&mut Saw, WorkshopError> {
        self.saws.iter_mut().find(|one| one.id == saw).ok_or(WorkshopError::NoSuchSaw { saw })
    }
}
