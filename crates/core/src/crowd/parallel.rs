//! Time passes for a crowd on several threads.

use rayon::prelude::*;

use super::Crowd;
use super::advance::Columns;
use super::pass::Context;
use super::tell::Tell;
use super::told::{Part, Told};
use crate::reel::Reel;
use crate::time::Ticks;

/// So many blocks are given to a thread at a time.
const SHARE: usize = 64;

impl Crowd {
    /// As [`advance_into`](Crowd::advance_into), on the threads of rayon's pool: the same, bit for bit,
    /// events and their order included.
    pub fn advance_in_parallel(&mut self, reel: &Reel, dt: Ticks, tell: Tell, told: &mut Told) {
        if !self.begin_pass(reel, dt) {
            return told.begin(Tell::NOTHING, &self.steps, &[]);
        }
        told.begin(tell, &self.steps, &self.passes);
        let mut parts = core::mem::take(&mut told.parts);
        parts.resize_with(self.blocks.len().div_ceil(SHARE).max(parts.len()), Part::default);
        let Crowd { steps, passes, hot, codes, rows, blocks, leaving, .. } = self;
        let context = Context { reel, steps, passes, tell };
        let columns = hot
            .par_chunks_mut(SHARE)
            .zip(codes.par_chunks_mut(SHARE))
            .zip(rows.par_chunks_mut(SHARE))
            .zip(blocks.par_chunks_mut(SHARE))
            .zip(&mut parts)
            .enumerate();
        columns.for_each(|(nth, ((((hot, codes), rows), blocks), part))| {
            part.told.begin(tell, steps, passes);
            let columns = Columns { first: nth * SHARE, hot, codes, rows, blocks };
            columns.pass(context, &mut part.leaving, &mut part.told);
        });
        for part in parts.iter_mut().take(blocks.len().div_ceil(SHARE)) {
            told.append(&part.told);
            leaving.append(&mut part.leaving);
        }
        told.parts = parts;
        self.end_pass();
    }
}
