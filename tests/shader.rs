//! The shader code that comes with instances compiles, for both forms.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use lucky_reel::view::Instance;
use naga::ShaderStage;
use naga::valid::{Capabilities, ValidationFlags, Validator};

/// What a renderer adds: a camera, a texture array, and both ways to an instance.
const RENDERER: &str = "
struct Camera { scale: vec2f, offset: vec2f, layer: vec2f }
@group(0) @binding(0) var<uniform> camera: Camera;
@group(0) @binding(1) var images: texture_2d_array<f32>;
@group(0) @binding(2) var pixels: sampler;
@group(0) @binding(3) var<storage, read> table: array<Row>;

struct Out {
    @builtin(position) position: vec4f,
    @location(0) texel: vec2f,
    @location(1) @interpolate(flat) image: u32,
    @location(2) tint: vec4f,
    @location(3) @interpolate(flat) source: vec4u,
    @location(4) @interpolate(flat) flash: vec4f,
}

fn out_of(instance: Instance, index: u32) -> Out {
    let corner = vec2f(f32(index & 1u), f32(index >> 1u));
    let place = corner_position(instance, corner) * camera.scale + camera.offset;
    var out: Out;
    out.position = vec4f(place, instance.depth, 1.0);
    out.texel = corner_texel(instance, corner);
    out.image = instance.image_and_user.x;
    out.tint = instance.tint;
    out.flash = instance.flash;
    out.source = instance.source;
    return out;
}

@vertex fn full(instance: Instance, @builtin(vertex_index) index: u32) -> Out {
    return out_of(instance, index);
}

@vertex fn small(
    @location(8) position: vec2f, @location(9) shown: u32, @location(10) user: u32,
    @builtin(vertex_index) index: u32,
) -> Out {
    let row = table[row_of(shown, arrayLength(&table))];
    return out_of(instance_of(row, position, user), index);
}

@fragment fn color(in: Out) -> @location(0) vec4f {
    let texel = clamped_texel(in.source, in.texel) / camera.layer;
    return shaded(textureSample(images, pixels, texel, in.image), in.tint, in.flash);
}
";

#[test]
fn the_shader_code_compiles_and_reads_instances_as_they_are_laid_out() {
    let code = format!("{}\n{RENDERER}", Instance::WGSL);
    let module = naga::front::wgsl::parse_str(&code)
        .unwrap_or_else(|error| panic!("{}", error.emit_to_string(&code)));
    let mut validator = Validator::new(ValidationFlags::all(), Capabilities::all());
    validator.validate(&module).unwrap();
    let stages: Vec<ShaderStage> = module.entry_points.iter().map(|entry| entry.stage).collect();
    assert_eq!(stages, [ShaderStage::Vertex, ShaderStage::Vertex, ShaderStage::Fragment]);

    // A row of the table is an instance, byte by byte.
    let (_, row) =
        module.types.iter().find(|(_, kind)| kind.name.as_deref() == Some("Row")).unwrap();
    let naga::TypeInner::Struct { members, span } = &row.inner else { panic!("{row:?}") };
    assert_eq!(*span as usize, size_of::<Instance>());
    let offsets = members.iter().map(|member| member.offset as usize);
    assert!(offsets.eq(Instance::ATTRIBUTES.map(|attribute| attribute.offset)));
}
