//! Clips of any kind, written down plainly, and the reel that they make.

use lucky_reel_core::*;
use proptest::prelude::*;

#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) enum Ends {
    Stay,
    First,
    Vanish,
    Play(usize),
}

#[derive(Clone, Debug)]
pub(crate) struct ModelClip {
    pub(crate) ticks: Vec<i64>,
    pub(crate) mode: Mode,
    pub(crate) repeat: Option<i64>,
    pub(crate) end: Ends,
    pub(crate) marks: Vec<u32>,
    pub(crate) rest: usize,
}

impl ModelClip {
    /// One hold without a duration.
    pub(crate) fn is_still(&self) -> bool {
        self.ticks == [0]
    }

    /// Its holds, each showing the frame that it is given.
    pub(crate) fn add_holds(&self, new: NewClip, frame: impl Fn(u32) -> u32) -> NewClip {
        if self.is_still() {
            return new.frames([frame(0)]);
        }
        let holds = (0..).zip(&self.ticks);
        holds.fold(new, |new, (hold, ticks)| new.hold(frame(hold), Ticks::new(*ticks as u64)))
    }

    /// All of it but its marks, each hold showing the frame that it is given.
    pub(crate) fn new_clip(&self, new: NewClip, frame: impl Fn(u32) -> u32) -> NewClip {
        let mut new = self.add_holds(new.mode(self.mode).rest(self.rest as u32), frame);
        if let (Some(cycles), true) = (self.repeat, self.mode != Mode::Once) {
            new = new.repeat(cycles as u32);
        }
        match self.end {
            _ if self.cycles().is_none() => new,
            Ends::Stay => new.end(ClipEnd::Stay),
            Ends::First => new.end(ClipEnd::First),
            Ends::Vanish => new.end(ClipEnd::Vanish),
            Ends::Play(next) => new.end(ClipEnd::Play(format!("c{next}"))),
        }
    }

    /// The same as a table of a reel file, without marks.
    pub(crate) fn in_reel_file(&self, name: &str) -> String {
        let hold = |(nth, ticks)| match self.is_still() {
            true => "0".to_owned(),
            false => format!("\"{} for {ticks}t\"", nth % 8),
        };
        let holds: Vec<String> = (0_usize..).zip(&self.ticks).map(hold).collect();
        let mut text = format!("[clips.{name}]\nframes = [{}]\n", holds.join(", "));
        text += &format!("mode = \"{}\"\nrest = {}\n", self.mode, self.rest);
        if let (Some(cycles), true) = (self.repeat, self.mode != Mode::Once) {
            text += &format!("repeat = {cycles}\n");
        }
        text += &match self.end {
            _ if self.cycles().is_none() => String::new(),
            Ends::Stay => "end = \"stay\"\n".to_owned(),
            Ends::First => "end = \"first\"\n".to_owned(),
            Ends::Vanish => "end = \"vanish\"\n".to_owned(),
            Ends::Play(next) => format!("end = {{ play = \"c{next}\" }}\n"),
        };
        text
    }

    pub(crate) fn cycles(&self) -> Option<i64> {
        if self.mode == Mode::Once { Some(1) } else { self.repeat }
    }
}

/// A clip of any kind, among so many that may follow it.
pub(crate) fn any_clip(clips: usize) -> impl Strategy<Value = ModelClip> {
    any_clip_marked(clips, (0_u32..8).boxed())
}

/// The same with these marks on a hold, by bits.
pub(crate) fn any_clip_marked(
    clips: usize,
    marks: BoxedStrategy<u32>,
) -> impl Strategy<Value = ModelClip> {
    let mode = prop_oneof![Just(Mode::Loop), Just(Mode::PingPong), Just(Mode::Once)];
    let end = prop_oneof![
        1 => Just(Ends::Stay),
        1 => Just(Ends::First),
        1 => Just(Ends::Vanish),
        2 => (0..clips).prop_map(Ends::Play),
    ];
    let holds = prop::collection::vec((1_i64..6, marks.clone()), 1..6);
    let still = marks.prop_map(|marks| ModelClip {
        ticks: vec![0],
        mode: Mode::Loop,
        repeat: None,
        end: Ends::Stay,
        marks: vec![marks],
        rest: 0,
    });
    let clip = (holds, mode, proptest::option::of(1_i64..4), end, 0_usize..6).prop_map(
        |(holds, mode, repeat, end, rest)| {
            let (ticks, marks): (Vec<i64>, Vec<u32>) = holds.into_iter().unzip();
            let rest = rest % ticks.len();
            ModelClip { ticks, mode, repeat, end, marks, rest }
        },
    );
    prop_oneof![12 => clip, 1 => still]
}

/// The same clips as a reel; clip `n` is called `cN`, mark `n` is called `mNN`.
pub(crate) fn build(clips: &[ModelClip]) -> (Reel, Vec<ClipId>) {
    build_into(Reel::builder(), clips)
}

/// The same as a version of the reel that the builder is for.
pub(crate) fn build_into(mut builder: ReelBuilder, clips: &[ModelClip]) -> (Reel, Vec<ClipId>) {
    let sheet = builder.sheet("s", NewSheet::grid([64, 8], Grid::cell_size([8, 8])));
    let ids = clips.iter().enumerate().map(|(index, clip)| {
        let mut new = clip.new_clip(NewClip::of(sheet), |hold| hold % 8);
        for nth in 0..3 {
            let marked = |hold: &u32| clip.marks[*hold as usize] >> nth & 1 == 1;
            let holds: Vec<u32> = (0..clip.ticks.len() as u32).filter(marked).collect();
            new = new.mark(format!("m{nth}"), holds);
        }
        builder.clip(format!("c{index}"), new)
    });
    let ids: Vec<ClipId> = ids.collect();
    (builder.build().unwrap(), ids)
}
