//! What the scene looks up in its reel, once.

use lucky_reel::{ClipId, FactId, MarkId, NameError, Reel, RoleId};

#[derive(Clone, Debug)]
pub(crate) struct Ids {
    pub(crate) bram: RoleId,
    pub(crate) moth: RoleId,
    pub(crate) moving: FactId<bool>,
    pub(crate) airborne: FactId<bool>,
    pub(crate) pace: FactId<f32>,
    pub(crate) hurt: FactId<()>,
    pub(crate) near: FactId<f32>,
    pub(crate) step: MarkId,
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
            bram: reel.role_id("bram")?,
            moth: reel.role_id("moth")?,
            moving: reel.fact_id("moving")?,
            airborne: reel.fact_id("airborne")?,
            pace: reel.fact_id("pace")?,
            hurt: reel.fact_id("hurt")?,
            near: reel.fact_id("near")?,
            step: reel.mark_id("step")?,
            puff: reel.clip_id("puff")?,
            greenhouse: reel.clip_id("greenhouse")?,
            fan: reel.clip_id("fan")?,
            drip: reel.clip_id("drip")?,
            glow: reel.clip_id("glow")?,
            shine: reel.clip_id("shine")?,
        })
    }
}
