//! Where views were drawn on a display; data only.

use crate::geometry::frame::Frame;
use crate::model::id::ViewId;

/// Where views were drawn on one display. Rules do not read it: it is held against what they give.
#[derive(Clone, Debug, PartialEq)]
pub struct DrawnFrames {
    /// The display, as it is named on the command line.
    pub on: String,
    /// The frames, in logical pixels from the screen's top left corner, y down.
    pub frames: Vec<(ViewId, Frame)>,
}
