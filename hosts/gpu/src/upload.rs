//! What goes to the GPU, and how it is laid out there.

use lucky_reel::assets::Pixels;

use crate::FORMAT;

/// The layouts of instances of 48 and of 16 bytes, as the shader reads them. A test holds the first one to
/// `Instance::ATTRIBUTES`.
pub(crate) fn vertex_layouts() -> [wgpu::VertexBufferLayout<'static>; 2] {
    const FULL: [wgpu::VertexAttribute; 8] = wgpu::vertex_attr_array![
        0 => Float32x2, 1 => Float32x2, 2 => Float32x2, 3 => Uint16x4,
        4 => Uint16x2, 5 => Unorm8x4, 6 => Unorm8x4, 7 => Float32,
    ];
    const SMALL: [wgpu::VertexAttribute; 3] =
        wgpu::vertex_attr_array![8 => Float32x2, 9 => Uint32, 10 => Uint32];
    let layout = |array_stride, attributes| wgpu::VertexBufferLayout {
        array_stride,
        step_mode: wgpu::VertexStepMode::Instance,
        attributes,
    };
    [layout(48, &FULL), layout(16, &SMALL)]
}

/// A texture array with a layer for each image.
pub(crate) fn image_array(
    device: &wgpu::Device,
    queue: &wgpu::Queue,
    layers: &[Pixels],
) -> wgpu::TextureView {
    let [width, height] = layers.first().map_or([1, 1], Pixels::size);
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

#[cfg(test)]
mod tests {
    use super::*;
    use lucky_reel::view::Instance;

    #[test]
    fn attributes_are_where_the_library_says() {
        let [full, _] = vertex_layouts();
        let offsets: Vec<usize> = full.attributes.iter().map(|at| at.offset as usize).collect();
        let wanted = Instance::ATTRIBUTES.map(|at| at.offset);
        assert_eq!(offsets, wanted);
        let names = full.attributes.iter().map(|at| format!("{:?}", at.format).to_lowercase());
        assert!(names.eq(Instance::ATTRIBUTES.map(|at| at.format.to_owned())));
    }
}
