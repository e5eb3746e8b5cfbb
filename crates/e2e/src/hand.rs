//! What a painter works with.

/// What clicks.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Hand {
    Mouse,
    /// On a touchscreen, from the next page on.
    Finger,
    /// Tab to get there, Enter or Space to press, arrows within a group.
    Keys,
}
