//! The next version of a crowd's reel.

use alloc::sync::Arc;

use super::{Crowd, Lanes};
use crate::play::Steps;
use crate::reel::Reel;

impl Crowd {
    /// Whether it plays from this reel, of which it takes the newest version in; with a foreign one it
    /// is left alone.
    pub(super) fn fit(&mut self, reel: &Reel) -> bool {
        if self.reel.stamp.is_ready_for(reel.stamp) {
            return true;
        }
        if !self.reel.stamp.same_family(reel.stamp) {
            return false;
        }
        self.take_in_version(reel);
        true
    }

    /// Every member finds its place again by clip and hold.
    #[cold]
    fn take_in_version(&mut self, reel: &Reel) {
        let (old, before) = (self.reel.clone(), self.steps.clone());
        let steps = Arc::new(Steps::of(reel));
        for at in 0..self.blocks.len() {
            let Some(mut block) = self.block_mut(at) else { continue };
            for lane in Lanes(block.block.alive) {
                let mut player = block.as_ref().player(&old, &before, lane);
                let changed = match block.as_ref().actor(&old, &before, lane) {
                    Some(mut actor) => {
                        actor.refit(reel);
                        block.put_actor(reel, &steps, lane, actor)
                    }
                    None => {
                        player.refit(reel);
                        block.put_player(reel, &steps, lane, &player)
                    }
                };
                let _ = changed; // its picture may be another one under the same number
                block.tell_changed(lane);
            }
        }
        (self.reel, self.steps) = (reel.clone(), steps);
    }
}
