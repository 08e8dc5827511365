//! Players as components: they are small `Copy` values, so any entity store takes them as they are.
//!
//! `cargo run --example 08_with_an_ecs`

use std::path::Path;

use hecs::World;
use lucky_reel::prelude::*;
use lucky_reel::{InstanceWriter, view::Instance};

/// In pixels, and pixels a second.
struct Position([f32; 2]);
struct Velocity([f32; 2]);

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("demo/greenhouse");
    let art =
        assets::load_all(["moth", "puff"].map(|role| folder.join(format!("{role}.reel.toml"))))?;
    let reel = art.reel;
    let (flutter, puff) = (reel.id::<ClipId>("flutter")?, reel.id::<ClipId>("puff")?);

    let mut world = World::new();
    for id in 0..5_u8 {
        let mut moth = Player::new(&reel, flutter);
        moth.random_start(&reel, 2_026, id.into());
        let velocity = Velocity([12.0 + f32::from(id), -4.0]);
        world.spawn((moth, Position([40.0 * f32::from(id), 100.0]), velocity));
    }
    world.spawn((Player::new(&reel, puff), Position([80.0, 60.0])));

    let writer = InstanceWriter::new(&reel);
    let mut instances: Vec<Instance> = Vec::new();
    for update in 0..60 {
        let dt = Ticks::from_rate(60);
        // Moves.
        for (Position(at), Velocity(velocity)) in world.query_mut::<(&mut Position, &Velocity)>() {
            *at = [0, 1].map(|axis| at[axis] + velocity[axis] / 60.0);
        }
        // Plays, and takes away what is over.
        let mut over = Vec::new();
        for (entity, player) in world.query_mut::<(hecs::Entity, &mut Player)>() {
            if player.advance(&reel, dt).any(|event| event.is_end()) {
                over.push(entity);
            }
        }
        for entity in over {
            world.despawn(entity)?;
            println!("update {update}: the puff is over");
        }
        // Draws.
        instances.clear();
        let drawn = world.query_mut::<(&Player, &Position)>().into_iter();
        instances.extend(drawn.map(|(player, position)| -> Instance {
            writer.make(player.packed_frame(&reel), Placement::at(position.0))
        }));
    }
    println!("{} instances to upload:", instances.len());
    for Instance { origin: [x, y], source: [left, ..], .. } in &instances {
        println!("  at {x:>5.1}, {y:>5.1} from column {left} of the sheet");
    }
    Ok(())
}
