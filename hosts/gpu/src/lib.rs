//! Instances on a GPU: a texture array for all images, one buffer and one draw call for all instances.

mod upload;

use std::error::Error;

use lucky_reel::assets::{Art, Pixels};
use lucky_reel::view::{Instance, SmallInstance};
use wgpu::util::DeviceExt;

use upload::{image_array, vertex_layouts};

/// Straight alpha in, straight alpha blended: the color is already that of the screen, so that neither the
/// textures nor the target are sRGB formats, which would convert on the way in and out.
pub const FORMAT: wgpu::TextureFormat = wgpu::TextureFormat::Rgba8Unorm;

/// What a renderer adds to the shader code of the library.
const SHADER: &str = include_str!("renderer.wgsl");

/// A device with everything that drawing needs.
pub struct Gpu {
    device: wgpu::Device,
    queue: wgpu::Queue,
    /// For instances of 48 and of 16 bytes.
    pipelines: [wgpu::RenderPipeline; 2],
    camera: wgpu::Buffer,
    bound: Option<[wgpu::BindGroup; 2]>,
    instances: wgpu::Buffer,
}

/// The surface of a window.
pub struct Screen {
    surface: wgpu::Surface<'static>,
    config: wgpu::SurfaceConfiguration,
}

/// Instances to draw, of either size.
#[derive(Clone, Copy)]
pub enum Batch<'d> {
    /// Each with all that is known of it.
    Full(&'d [Instance]),
    /// For the table, in which the shader looks the rest up.
    Small(&'d [SmallInstance]),
}

impl Gpu {
    /// Opens the first device there is, or else the software driver, to draw off screen.
    ///
    /// # Errors
    /// When there is no device.
    pub fn open() -> Result<Gpu, Box<dyn Error>> {
        let about = wgpu::InstanceDescriptor::new_without_display_handle();
        let instance = wgpu::Instance::new(about);
        let options = wgpu::RequestAdapterOptions::default();
        let adapter = pollster::block_on(instance.request_adapter(&options))?;
        Gpu::on(&adapter, FORMAT)
    }

    /// Opens a device to draw into a window of this size.
    ///
    /// # Errors
    /// When there is no device for the window.
    pub fn open_for(
        window: impl Into<wgpu::SurfaceTarget<'static>>,
        size: [u32; 2],
    ) -> Result<(Gpu, Screen), Box<dyn Error>> {
        let about = wgpu::InstanceDescriptor::new_without_display_handle();
        let instance = wgpu::Instance::new(about);
        let surface = instance.create_surface(window)?;
        let compatible_surface = Some(&surface);
        let options = wgpu::RequestAdapterOptions { compatible_surface, ..Default::default() };
        let adapter = pollster::block_on(instance.request_adapter(&options))?;
        let config = surface.get_default_config(&adapter, size[0].max(1), size[1].max(1));
        let mut config = config.ok_or("the window cannot be drawn into")?;
        let formats = surface.get_capabilities(&adapter).formats;
        let format = formats.into_iter().find(|format| !format.is_srgb());
        config.format = format.ok_or("the window has sRGB formats alone")?;
        let gpu = Gpu::on(&adapter, config.format)?;
        surface.configure(&gpu.device, &config);
        Ok((gpu, Screen { surface, config }))
    }

    fn on(adapter: &wgpu::Adapter, format: wgpu::TextureFormat) -> Result<Gpu, Box<dyn Error>> {
        let about = wgpu::DeviceDescriptor::default();
        let (device, queue) = pollster::block_on(adapter.request_device(&about))?;
        let source = format!("{}\n{SHADER}", Instance::WGSL);
        let module = device.create_shader_module(wgpu::ShaderModuleDescriptor {
            label: Some("instances"),
            source: wgpu::ShaderSource::Wgsl(source.into()),
        });
        let layouts = vertex_layouts();
        let pipeline = |entry: &str, layout: &wgpu::VertexBufferLayout<'_>| {
            device.create_render_pipeline(&wgpu::RenderPipelineDescriptor {
                label: Some(entry),
                layout: None,
                vertex: wgpu::VertexState {
                    module: &module,
                    entry_point: Some(entry),
                    compilation_options: Default::default(),
                    buffers: &[Some(layout.clone())],
                },
                // Two triangles; the corners of a flipped frame run the other way round.
                primitive: wgpu::PrimitiveState {
                    topology: wgpu::PrimitiveTopology::TriangleStrip,
                    cull_mode: None,
                    ..Default::default()
                },
                depth_stencil: None,
                multisample: Default::default(),
                fragment: Some(wgpu::FragmentState {
                    module: &module,
                    entry_point: Some("color"),
                    compilation_options: Default::default(),
                    targets: &[Some(wgpu::ColorTargetState {
                        format,
                        blend: Some(wgpu::BlendState::ALPHA_BLENDING),
                        write_mask: wgpu::ColorWrites::ALL,
                    })],
                }),
                multiview_mask: None,
                cache: None,
            })
        };
        let pipelines = [pipeline("full", &layouts[0]), pipeline("small", &layouts[1])];
        let buffer = |size, usage| {
            device.create_buffer(&wgpu::BufferDescriptor {
                label: None,
                size,
                usage: usage | wgpu::BufferUsages::COPY_DST,
                mapped_at_creation: false,
            })
        };
        let camera = buffer(16, wgpu::BufferUsages::UNIFORM);
        let instances = buffer(48 * 1_024, wgpu::BufferUsages::VERTEX);
        Ok(Gpu { pipelines, camera, bound: None, instances, device, queue })
    }

    /// Uploads all images, and the table for instances of 16 bytes: at the start, and after a reload.
    ///
    /// # Errors
    /// When the images are too large for one texture array.
    pub fn upload(&mut self, art: &Art, table: &[Instance]) -> Result<(), Box<dyn Error>> {
        let layers = art.layers().ok_or("the images are too large for one texture array")?;
        let images = image_array(&self.device, &self.queue, &layers);
        let table = self.device.create_buffer_init(&wgpu::util::BufferInitDescriptor {
            label: Some("table"),
            contents: bytemuck::cast_slice(table),
            usage: wgpu::BufferUsages::STORAGE,
        });
        let entry = |binding, resource| wgpu::BindGroupEntry { binding, resource };
        let common = [
            entry(0, self.camera.as_entire_binding()),
            entry(1, wgpu::BindingResource::TextureView(&images)),
        ];
        let with_table =
            [common[0].clone(), common[1].clone(), entry(2, table.as_entire_binding())];
        let bind = |pipeline: usize, entries: &[wgpu::BindGroupEntry<'_>]| {
            self.device.create_bind_group(&wgpu::BindGroupDescriptor {
                label: None,
                layout: &self.pipelines[pipeline].get_bind_group_layout(0),
                entries,
            })
        };
        self.bound = Some([bind(0, &common), bind(1, &with_table)]);
        Ok(())
    }

    /// Draws instances onto a target of this size in one call, each pixel of the art so many pixels wide
    /// and high.
    pub fn draw(
        &mut self,
        batch: Batch<'_>,
        target: &wgpu::TextureView,
        size: [u32; 2],
        zoom: f32,
    ) {
        let (bytes, count, pipeline): (&[u8], usize, usize) = match batch {
            Batch::Full(instances) => (bytemuck::cast_slice(instances), instances.len(), 0),
            Batch::Small(instances) => (bytemuck::cast_slice(instances), instances.len(), 1),
        };
        // From the art's pixels, y down, to clip space, y up.
        let scale = [2.0 * zoom / size[0] as f32, -2.0 * zoom / size[1] as f32];
        self.queue.write_buffer(&self.camera, 0, bytemuck::cast_slice(&[scale, [-1.0, 1.0]]));
        if self.instances.size() < bytes.len() as u64 {
            self.instances = self.device.create_buffer(&wgpu::BufferDescriptor {
                label: Some("instances"),
                size: (bytes.len() as u64).next_power_of_two(),
                usage: wgpu::BufferUsages::VERTEX | wgpu::BufferUsages::COPY_DST,
                mapped_at_creation: false,
            });
        }
        self.queue.write_buffer(&self.instances, 0, bytes);
        let mut encoder = self.device.create_command_encoder(&Default::default());
        let mut pass = encoder.begin_render_pass(&wgpu::RenderPassDescriptor {
            label: None,
            color_attachments: &[Some(wgpu::RenderPassColorAttachment {
                view: target,
                depth_slice: None,
                resolve_target: None,
                ops: wgpu::Operations {
                    load: wgpu::LoadOp::Clear(wgpu::Color::BLACK),
                    store: wgpu::StoreOp::Store,
                },
            })],
            depth_stencil_attachment: None,
            timestamp_writes: None,
            occlusion_query_set: None,
            multiview_mask: None,
        });
        if let Some(bound) = &self.bound {
            pass.set_pipeline(&self.pipelines[pipeline]);
            pass.set_bind_group(0, &bound[pipeline], &[]);
            pass.set_vertex_buffer(0, self.instances.slice(..));
            pass.draw(0..4, 0..count as u32);
        }
        drop(pass);
        self.queue.submit([encoder.finish()]);
    }

    /// Draws instances into a window of this size.
    pub fn show(&mut self, batch: Batch<'_>, screen: &mut Screen, size: [u32; 2], zoom: f32) {
        use wgpu::CurrentSurfaceTexture::{Lost, Outdated, Suboptimal, Success};
        let size = size.map(|side| side.max(1));
        if [screen.config.width, screen.config.height] != size {
            [screen.config.width, screen.config.height] = size;
            screen.surface.configure(&self.device, &screen.config);
        }
        match screen.surface.get_current_texture() {
            Success(frame) | Suboptimal(frame) => {
                let target = frame.texture.create_view(&Default::default());
                self.draw(batch, &target, size, zoom);
                self.queue.present(frame);
            }
            Outdated | Lost => screen.surface.configure(&self.device, &screen.config),
            _ => {} // nobody sees it now
        }
    }

    /// Draws instances off screen, and reads the picture back.
    ///
    /// # Errors
    /// When the device is lost.
    pub fn picture(
        &mut self,
        batch: Batch<'_>,
        size: [u32; 2],
        zoom: f32,
    ) -> Result<Pixels, Box<dyn Error>> {
        let [width, height] = size;
        let extent = wgpu::Extent3d { width, height, depth_or_array_layers: 1 };
        let target = self.device.create_texture(&wgpu::TextureDescriptor {
            label: Some("target"),
            size: extent,
            mip_level_count: 1,
            sample_count: 1,
            dimension: wgpu::TextureDimension::D2,
            format: FORMAT,
            usage: wgpu::TextureUsages::RENDER_ATTACHMENT | wgpu::TextureUsages::COPY_SRC,
            view_formats: &[],
        });
        self.draw(batch, &target.create_view(&Default::default()), size, zoom);
        // Rows are read in steps of 256 bytes.
        let row = (width * 4).next_multiple_of(256);
        let buffer = self.device.create_buffer(&wgpu::BufferDescriptor {
            label: Some("picture"),
            size: u64::from(row) * u64::from(height),
            usage: wgpu::BufferUsages::MAP_READ | wgpu::BufferUsages::COPY_DST,
            mapped_at_creation: false,
        });
        let mut encoder = self.device.create_command_encoder(&Default::default());
        let layout = wgpu::TexelCopyBufferLayout {
            offset: 0,
            bytes_per_row: Some(row),
            rows_per_image: None,
        };
        let copied = wgpu::TexelCopyBufferInfo { buffer: &buffer, layout };
        encoder.copy_texture_to_buffer(target.as_image_copy(), copied, extent);
        self.queue.submit([encoder.finish()]);
        buffer.map_async(wgpu::MapMode::Read, .., |_| {});
        self.device.poll(wgpu::PollType::wait_indefinitely())?;
        let bytes = buffer.get_mapped_range(..)?;
        let rows = bytes.chunks_exact(row as usize);
        let pixels = rows.flat_map(|row| &row[..width as usize * 4]).copied().collect();
        Pixels::from_rgba(size, pixels).ok_or_else(|| "the picture has another size".into())
    }
}
