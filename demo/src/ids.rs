//! What the scene looks up in its reel, once.

use lucky_reel::{
    ClipId, MarkId, Reel,
    id::{FactId, LookId, RoleId},
    reel::NameError,
};

#[derive(Clone, Debug)]
pub(crate) struct Ids {
    pub(crate) bram: RoleId,
    pub(crate) moth: RoleId,
    pub(crate) moving: FactId<bool>,
    pub(crate) airborne: FactId<bool>,
    pub(crate) pace: FactId<f32>,
    pub(crate) hurt: FactId<()>,
    pub(crate) near: FactId<f32>,
    pub(crate) dusk: LookId,
    pub(crate) step: MarkId,
    pub(crate) left_step: MarkId,
    pub(crate) drop: MarkId,
    pub(crate) puff: ClipId,
    pub(crate) greenhouse: ClipId,
    pub(crate) fan: ClipId,
    pub(crate) drip: ClipId,
    pub(crate) glow: ClipId,
    pub(crate) shine: ClipId,
}

impl Ids {
    pub(crate) fn of(reel: &Reel) -> Result<Ids, NameError> {
        Ok(Ids {
            bram: reel.id::<RoleId>("bram")?,
            moth: reel.id::<RoleId>("moth")?,
            moving: reel.id("moving")?,
            airborne: reel.id("airborne")?,
            pace: reel.id("pace")?,
            hurt: reel.id("hurt")?,
            near: reel.id("near")?,
            dusk: reel.id::<LookId>("dusk")?,
            step: reel.id::<MarkId>("step")?,
            left_step: reel.id::<MarkId>("step-left")?,
            drop: reel.id::<MarkId>("drop")?,
            puff: reel.id::<ClipId>("puff")?,
            greenhouse: reel.id::<ClipId>("greenhouse")?,
            fan: reel.id::<ClipId>("fan")?,
            drip: reel.id::<ClipId>("drip")?,
            glow: reel.id::<ClipId>("glow")?,
            shine: reel.id::<ClipId>("shine")?,
        })
    }
}
