use std::io::{self, BufWriter};

use lucky_reel::assets::Limits;
use lucky_reel::{ClipId, Player, Ticks};

use crate::arguments::Trace;
use crate::failure::Failure;
use crate::files::loader_of;
use crate::rows::{Output, Row};
use crate::updates::Updates;

pub(crate) fn run(arguments: &Trace, limits: Limits) -> Result<(), Failure> {
    let reel = loader_of([&arguments.reel], limits)?.load_reel()?;
    let clip: ClipId = reel.id(&arguments.clip)?;
    let mut player = Player::new(&reel, clip);
    player.set_speed(arguments.speed);
    let from = arguments.from.to_ticks();
    if from != Ticks::ZERO {
        player.seek(&reel, from);
    }
    let updates = Updates::open(&arguments.pacing, arguments.duration)?;
    let mut out = Output::new(BufWriter::new(io::stdout().lock()), arguments.format)?;
    let (mut update, mut passed) = (0, Ticks::ZERO);
    updates.each(|dt| {
        update += 1;
        for event in player.advance(&reel, dt) {
            out.row(&Row::of(&reel, update, passed + event.at, event))?;
        }
        passed += dt;
        out.row(&Row::show(&reel, update, passed, &player))?;
        Ok(())
    })?;
    out.finish()?;
    Ok(())
}
