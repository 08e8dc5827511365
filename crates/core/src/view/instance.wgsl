// An instance as vertex attributes, one step an instance.
struct Instance {
    @location(0) origin: vec2f,
    @location(1) axis_x: vec2f,
    @location(2) axis_y: vec2f,
    @location(3) source: vec4u, // left, top, width, height in pixels
    @location(4) image_and_user: vec2u,
    @location(5) tint: vec4f,
    @location(6) flash: vec4f, // toward this color, by this amount
    @location(7) depth: f32,
}

// Where a corner of the unit square lands, in the game's units.
fn corner_position(instance: Instance, corner: vec2f) -> vec2f {
    return instance.origin + corner.x * instance.axis_x + corner.y * instance.axis_y;
}

// The texel at a corner: divide by the size of the texture, or of the layer.
fn corner_texel(instance: Instance, corner: vec2f) -> vec2f {
    return vec2f(instance.source.xy) + corner * vec2f(instance.source.zw);
}

// The color of a texel, with straight alpha: tinted, and mixed toward the flash. Of a texture whose colors are
// multiplied by alpha, multiply the flash by the texel's alpha first.
fn shaded(texel: vec4f, tint: vec4f, flash: vec4f) -> vec4f {
    let tinted = texel * tint;
    return vec4f(mix(tinted.rgb, flash.rgb, flash.a), tinted.a);
}

// For smooth sampling only, in the fragment shader: neighbors on the sheet do not bleed in.
// With nearest sampling it would spoil the outermost pixels.
fn clamped_texel(source: vec4u, texel: vec2f) -> vec2f {
    let near = vec2f(source.xy) + 0.5;
    return clamp(texel, near, near + vec2f(source.zw) - 1.0);
}

// A row of the table of compact instances, 48 bytes in a storage buffer.
struct Row {
    origin: vec2f,
    axis_x: vec2f,
    axis_y: vec2f,
    source: vec2u, // left and top, width and height, 16 bits each
    image_and_user: u32,
    tint: u32,
    flash: u32,
    depth: f32,
}

// The number of the row of what a compact instance shows, in a table of so many rows.
fn row_of(shown: u32, rows: u32) -> u32 {
    let each = rows / 4u;
    return (shown >> 30u) * each + (shown & (each - 1u));
}

// A row as an instance whose pivot is on a position.
fn instance_of(row: Row, position: vec2f, user: u32) -> Instance {
    var instance: Instance;
    instance.origin = position + row.origin;
    instance.axis_x = row.axis_x;
    instance.axis_y = row.axis_y;
    instance.source = vec4u(
        row.source.x & 0xffffu, row.source.x >> 16u, row.source.y & 0xffffu, row.source.y >> 16u,
    );
    instance.image_and_user = vec2u(row.image_and_user & 0xffffu, user);
    instance.tint = unpack4x8unorm(row.tint);
    instance.flash = unpack4x8unorm(row.flash);
    instance.depth = row.depth;
    return instance;
}
