//! What goes to the GPU, and how it is laid out there.

use lucky_reel::Instance;
use lucky_reel::assets::Pixmap;

use crate::FORMAT;

/// The layouts of instances of 48 and of 16 bytes, as the shader reads them.
pub(crate) fn vertex_layouts() -> [wgpu::VertexBufferLayout<'static>; 2] {
    use wgpu::VertexFormat::{Float32, Float32x2, Uint16x2, Uint16x4, Uint32, Unorm8x4};
    const FULL: [wgpu::VertexFormat; 8] =
        [Float32x2, Float32x2, Float32x2, Uint16x4, Uint16x2, Unorm8x4, Float32, Uint32];
    const ATTRIBUTES: [wgpu::VertexAttribute; 8] = {
        let mut all =
            [wgpu::VertexAttribute { format: Float32x2, offset: 0, shader_location: 0 }; 8];
        let mut nth = 0;
        while nth < all.len() {
            all[nth].format = FULL[nth];
            all[nth].offset = Instance::ATTRIBUTES[nth].offset as u64;
            all[nth].shader_location = nth as u32;
            nth += 1;
        }
        all
    };
    let layout = |array_stride, attributes| wgpu::VertexBufferLayout {
        array_stride,
        step_mode: wgpu::VertexStepMode::Instance,
        attributes,
    };
    const SMALL: [wgpu::VertexAttribute; 3] =
        wgpu::vertex_attr_array![8 => Float32x2, 9 => Uint32, 10 => Uint32];
    [layout(48, &ATTRIBUTES), layout(16, &SMALL)]
}

/// A texture array with a layer for each image.
pub(crate) fn image_array(
    device: &wgpu::Device,
    queue: &wgpu::Queue,
    layers: &[Pixmap],
) -> wgpu::TextureView {
    let [width, height] = layers.first().map_or([1, 1], Pixmap::size);
    let count = layers.len().max(1) as u32;
    let texture = device.create_texture(&wgpu::TextureDescriptor {
        label: Some("images"),
        size: wgpu::Extent3d { width, height, depth_or_array_layers: count },
        mip_level_count: 1,
        sample_count: 1,
        dimension: wgpu::TextureDimension::D2,
        format: FORMAT,
        usage: wgpu::TextureUsages::TEXTURE_BINDING | wgpu::TextureUsages::COPY_DST,
        view_formats: &[],
    });
    for (z, layer) in (0..).zip(layers) {
        let mut place = texture.as_image_copy();
        place.origin.z = z;
        let layout = wgpu::TexelCopyBufferLayout {
            offset: 0,
            bytes_per_row: Some(width * 4),
            rows_per_image: None,
        };
        let size = wgpu::Extent3d { width, height, depth_or_array_layers: 1 };
        queue.write_texture(place, layer.rgba(), layout, size);
    }
    // A single layer is an array, too.
    texture.create_view(&wgpu::TextureViewDescriptor {
        dimension: Some(wgpu::TextureViewDimension::D2Array),
        ..Default::default()
    })
}
