use alloc::vec::Vec;

use lucky_reel_core::Area;

/// Areas of many things, to find those that overlap.
///
/// It lays a grid over all of them, so that each is compared with its neighbors alone. Kept from frame to
/// frame, it does not allocate.
///
/// ```
/// use lucky_reel::{*, crowd::MemberId, id::AreaId, view::AreaGrid};
///
/// # let mut builder = Reel::builder();
/// # let sheet = NewSheet::grid([64, 16], Grid::cell_size([16, 16])).area("body", .., [4.0, 4.0, 8.0, 8.0]);
/// # let sheet = builder.sheet("moth", sheet);
/// # let flutter = builder.clip("flutter", NewClip::of(sheet).frames(0..4).fps(12));
/// # let reel = builder.build()?;
/// # let (mut moths, mut nets) = (Crowd::new(&reel), Crowd::new(&reel));
/// # for _ in 0..3 { moths.spawn(flutter).unwrap(); nets.spawn(flutter).unwrap(); }
/// # let (at_moth, at_net) = ([[0.0, 0.0], [50.0, 0.0], [100.0, 0.0]], [[55.0, 3.0], [99.0, 9.0], [0.0, 70.0]]);
/// let body: AreaId = reel.id("body").unwrap();
/// let (mut bodies, mut catches) = (AreaGrid::new(), AreaGrid::new());
///
/// // Each frame:
/// bodies.clear();
/// bodies.extend(moths.areas(body, |moth| Placement::at(at_moth[moth.index()])));
/// catches.clear();
/// catches.extend(nets.areas(body, |net| Placement::at(at_net[net.index()])));
///
/// let mut caught = Vec::new();
/// bodies.overlaps(&catches, |moth: MemberId, net: MemberId| caught.push((moth.index(), net.index())));
/// assert_eq!(caught, [(1, 0)]);
/// # Ok::<(), BuildError>(())
/// ```
#[derive(Clone, Debug)]
pub struct AreaGrid<T> {
    things: Vec<Thing<T>>,
    /// Whether the cells are those of the things.
    is_sorted: bool,
    origin: [f32; 2],
    /// Cells per unit.
    scale: [f32; 2],
    cells: [usize; 2],
    /// Where the things of each cell begin in `in_cells`, and where those of the last one end.
    starts: Vec<u32>,
    in_cells: Vec<u32>,
}

#[derive(Clone, Copy, Debug)]
struct Thing<T> {
    id: T,
    area: Area,
    bounds: [[f32; 2]; 2],
}

impl<T> Default for AreaGrid<T> {
    fn default() -> AreaGrid<T> {
        AreaGrid {
            things: Vec::new(),
            is_sorted: false,
            origin: [0.0; 2],
            scale: [0.0; 2],
            cells: [1; 2],
            starts: Vec::new(),
            in_cells: Vec::new(),
        }
    }
}

impl<T: Copy> AreaGrid<T> {
    /// No areas.
    #[must_use]
    pub fn new() -> AreaGrid<T> {
        AreaGrid::default()
    }

    /// Removes all areas, and keeps the memory.
    pub fn clear(&mut self) {
        self.things.clear();
        self.is_sorted = false;
    }

    /// Adds the area of a thing; a thing may have several. Places that are not finite overlap nothing.
    pub fn add(&mut self, id: T, area: Area) {
        if is_finite(&area) {
            self.things.push(Thing { id, area, bounds: area.bounds() });
            self.is_sorted = false;
        }
    }

    /// Calls back with each pair of an area of these and one of the others that
    /// [overlap](Area::overlaps), once each, in an order that depends on the areas and on nothing else.
    pub fn overlaps<U: Copy>(&mut self, others: &AreaGrid<U>, mut found: impl FnMut(T, U)) {
        self.sort();
        for other in &others.things {
            self.find(&other.area, other.bounds, |id| found(id, other.id));
        }
    }

    /// Calls back with each of these that overlaps an area, once.
    pub fn overlapping(&mut self, area: &Area, found: impl FnMut(T)) {
        self.sort();
        if is_finite(area) {
            self.find(area, area.bounds(), found);
        }
    }

    fn find(&self, area: &Area, bounds: [[f32; 2]; 2], mut found: impl FnMut(T)) {
        let [from, to] = bounds.map(|corner| self.cell_at(corner));
        for row in from[1]..=to[1] {
            for column in from[0]..=to[0] {
                let cell = row * self.cells[0] + column;
                let range = self.starts[cell] as usize..self.starts[cell + 1] as usize;
                for thing in self.in_cells[range].iter().map(|nth| &self.things[*nth as usize]) {
                    let [least, most] = thing.bounds;
                    let apart = |axis: usize| {
                        bounds[1][axis] <= least[axis] || most[axis] <= bounds[0][axis]
                    };
                    if apart(0) || apart(1) {
                        continue;
                    }
                    // Of all cells that both are in, the first one reports the pair.
                    let first = self.cell_at(least);
                    let is_first = [from[0].max(first[0]), from[1].max(first[1])] == [column, row];
                    if is_first && thing.area.overlaps(area) {
                        found(thing.id);
                    }
                }
            }
        }
    }

    /// Puts the things into cells.
    fn sort(&mut self) {
        if core::mem::replace(&mut self.is_sorted, true) {
            return;
        }
        self.lay_cells();
        self.starts.clear();
        self.starts.resize(self.cells[0] * self.cells[1] + 1, 0);
        // Counted, then from counts to where each cell ends, then filled from its end to its start.
        for nth in 0..self.things.len() {
            self.for_cells_of(nth, |grid, cell| grid.starts[cell] += 1);
        }
        let mut end = 0;
        for start in &mut self.starts {
            end += *start;
            *start = end;
        }
        self.in_cells.clear();
        self.in_cells.resize(end as usize, 0);
        for nth in (0..self.things.len()).rev() {
            self.for_cells_of(nth, |grid, cell| {
                grid.starts[cell] -= 1;
                grid.in_cells[grid.starts[cell] as usize] = nth as u32;
            });
        }
    }

    /// Chooses how many cells there are: about as many as things, and none smaller than the things are on
    /// average (of their squares, so that a few large ones cannot be in all of many small cells).
    fn lay_cells(&mut self) {
        let (mut least, mut most) = ([f32::INFINITY; 2], [f32::NEG_INFINITY; 2]);
        let mut squares = [0.0; 2];
        for Thing { bounds: [from, to], .. } in &self.things {
            for axis in 0..2 {
                least[axis] = least[axis].min(from[axis]);
                most[axis] = most[axis].max(to[axis]);
                let side = f64::from(to[axis]) - f64::from(from[axis]);
                squares[axis] += side * side / self.things.len() as f64;
            }
        }
        let extent = [0, 1].map(|axis| (f64::from(most[axis]) - f64::from(least[axis])).max(0.0));
        self.cells = [1; 2];
        while self.cells[0] * self.cells[1] < self.things.len() {
            let half = [0, 1].map(|axis| extent[axis] / (2 * self.cells[axis]) as f64);
            let longer = usize::from(half[1] > half[0]);
            let can_halve =
                |axis: &usize| half[*axis] > 0.0 && half[*axis] * half[*axis] >= squares[*axis];
            let Some(axis) = [longer, 1 - longer].into_iter().find(can_halve) else { break };
            self.cells[axis] *= 2;
        }
        self.origin = least;
        self.scale = [0, 1].map(|axis| {
            let scale = self.cells[axis] as f64 / extent[axis];
            if scale.is_finite() { scale as f32 } else { 0.0 }
        });
    }

    /// The cell of a place, or the one nearest to it: column and row. It never decreases where a place
    /// moves right or down, whatever is rounded.
    fn cell_at(&self, place: [f32; 2]) -> [usize; 2] {
        [0, 1].map(|axis| {
            let cell = (place[axis] - self.origin[axis]) * self.scale[axis];
            (cell as usize).min(self.cells[axis] - 1)
        })
    }

    fn for_cells_of(&mut self, nth: usize, mut act: impl FnMut(&mut AreaGrid<T>, usize)) {
        let [from, to] = self.things[nth].bounds.map(|corner| self.cell_at(corner));
        for row in from[1]..=to[1] {
            for column in from[0]..=to[0] {
                act(self, row * self.cells[0] + column);
            }
        }
    }
}

fn is_finite(area: &Area) -> bool {
    area.corners.iter().flatten().all(|number| number.is_finite())
}

impl<T: Copy> Extend<(T, Area)> for AreaGrid<T> {
    fn extend<I: IntoIterator<Item = (T, Area)>>(&mut self, areas: I) {
        areas.into_iter().for_each(|(id, area)| self.add(id, area));
    }
}
