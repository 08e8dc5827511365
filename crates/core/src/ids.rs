//! Numbers with a type.

macro_rules! id {
    ($(#[$doc:meta])* $name:ident($number:ty)) => {
        $(#[$doc])*
        #[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
        #[repr(transparent)]
        pub struct $name(pub(crate) $number);

        impl $name {
            /// The number itself: dense, from 0.
            #[must_use]
            pub const fn index(self) -> usize {
                self.0 as usize
            }
        }
    };
}

id! {
    /// A clip of a reel.
    ClipId(u16)
}
id! {
    /// A sheet of a reel.
    SheetId(u16)
}
id! {
    /// An image of a reel: a dense index over all of its images.
    ImageId(u16)
}
id! {
    /// A frame of a reel: a dense index over all frames of all of its sheets.
    FrameId(u32)
}
id! {
    /// The name of a mark.
    MarkId(u16)
}
id! {
    /// The name of a span.
    SpanId(u16)
}
id! {
    /// The name of a point of frames.
    PointId(u16)
}
id! {
    /// A role of a reel that has cues.
    RoleId(u16)
}
id! {
    /// A facing set of a reel.
    FacingsId(u16)
}
id! {
    /// A look of a reel.
    LookId(u16)
}
id! {
    /// A cue of a reel.
    CueId(u16)
}
id! {
    /// A bridge of a reel.
    BridgeId(u16)
}
