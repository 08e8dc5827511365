// Appended to `Instance::WGSL`.

// From the art's pixels to clip space.
struct Camera {
    scale: vec2f,
    offset: vec2f,
}
@group(0) @binding(0) var<uniform> camera: Camera;
@group(0) @binding(1) var images: texture_2d_array<f32>;
@group(0) @binding(2) var<storage, read> table: array<Row>;

struct Corner {
    @builtin(position) position: vec4f,
    @location(0) texel: vec2f,
    @location(1) @interpolate(flat) image: u32,
    @location(2) @interpolate(flat) tint: vec4f,
    @location(3) @interpolate(flat) source: vec4u,
    @location(4) @interpolate(flat) flash: vec4f,
}

fn corner_of(instance: Instance, index: u32) -> Corner {
    let corner = vec2f(f32(index & 1u), f32(index >> 1u));
    var out: Corner;
    // The list is in order: no depth buffer is needed, and edges that are seen through come out right.
    out.position = vec4f(corner_position(instance, corner) * camera.scale + camera.offset, 0.0, 1.0);
    out.texel = corner_texel(instance, corner);
    out.image = instance.image_and_user.x;
    out.tint = instance.tint;
    out.flash = instance.flash;
    out.source = instance.source;
    return out;
}

@vertex fn full(instance: Instance, @builtin(vertex_index) index: u32) -> Corner {
    return corner_of(instance, index);
}

@vertex fn small(
    @location(8) position: vec2f, @location(9) shown: u32, @location(10) user: u32,
    @builtin(vertex_index) index: u32,
) -> Corner {
    let row = table[row_of(shown, arrayLength(&table))];
    return corner_of(instance_of(row, position, user), index);
}

// The nearest texel, and none beyond the source.
// What has no source is a rectangle in its tint: a line of the overlay.
@fragment fn color(in: Corner) -> @location(0) vec4f {
    if in.source.z == 0u { return in.tint; }
    let last = in.source.xy + max(in.source.zw, vec2u(1u)) - 1u;
    let texel = clamp(vec2u(max(in.texel, vec2f(0.0))), in.source.xy, last);
    return shaded(textureLoad(images, vec2i(texel), i32(in.image), 0), in.tint, in.flash);
}
