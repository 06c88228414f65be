//! How likely an idea for a fix is to be what was meant: all the weights, in one table.
//!
//! Ideas are tried in the order of their weights, as long as work is left, and offered in that order. A
//! weight is no probability; it only says which of two ideas comes first. What a relative says of itself in
//! so many words is about 1; a size out of thin air is about 0.3. A `_FACTOR` multiplies the weight of the
//! rule that is suspected, a `_STEP` is what an idea loses for each place that it stands further back among
//! its like.

/// What siblings, and views of the same name in siblings of the parent, say.
pub(crate) mod relatives {
    /// What one sibling counts.
    pub(crate) const SIBLING: f64 = 1.0;
    /// What a view of the same name in a sibling of the parent counts: it is liker.
    pub(crate) const NAMESAKE: f64 = 2.0;
    /// A text and a view without text say less of one another.
    pub(crate) const OTHER_KIND_FACTOR: f64 = 0.7;
    /// More, where the view has a rule in common with the relative already.
    pub(crate) const ALIKE_ALREADY: f64 = 0.5;
    /// More for a size, where the relative has a line in common with the view.
    pub(crate) const HAS_SAME_LINE: f64 = 1.2;
    /// A line that relatives have: this, and more for each of them up to a number.
    pub(crate) const LINE: f64 = 0.75;
    pub(crate) const LINE_EACH: f64 = 0.1;
    pub(crate) const LINE_MOST: f64 = 4.0;
    /// Only one relative says so.
    pub(crate) const ONLY_ONE: f64 = 2.0;
    pub(crate) const ONLY_ONE_FACTOR: f64 = 0.5;
    /// Many say the same but for a number, and hardly one says something else.
    pub(crate) const MANY: f64 = 4.0;
    pub(crate) const MANY_SHARE: f64 = 0.8;
    pub(crate) const MANY_FACTOR: f64 = 1.2;
    /// What relatives have is put into the view itself from here on, whatever the finding.
    pub(crate) const WORTH_ADDING: f64 = 0.9;
}

/// Rules of siblings that go on from one to the next: `left = 0`, `left = 48`, `left = 96`.
pub(crate) mod series {
    pub(crate) const NEXT: f64 = 0.9;
    /// The place one further on, where the rule stands at another.
    pub(crate) const MOVED_ON: f64 = 0.88;
    /// The rule written as the series goes on.
    pub(crate) const REWRITTEN_FACTOR: f64 = 0.9;
}

/// Required rules that contradict one another.
pub(crate) mod conflict {
    /// The rule written first, and how much more the one written last is likely to be wrong.
    pub(crate) const FIRST: f64 = 0.8;
    pub(crate) const LAST_MORE: f64 = 0.2;
    /// A rule with a label is meant to be there.
    pub(crate) const LABELLED_FACTOR: f64 = 0.8;
    /// A ratio is what one wants of a picture or a tile.
    pub(crate) const RATIO_FACTOR: f64 = 0.75;
    /// So is what a band says: it is there for its displays.
    pub(crate) const BAND_FACTOR: f64 = 0.6;
    /// So is one that relatives have as well.
    pub(crate) const USUAL_FACTOR: f64 = 0.7;
    /// A size that the pins of its view give already.
    pub(crate) const GIVEN_TWICE: f64 = 1.6;
    /// More for each required rule beyond the two that settle a view along an axis.
    pub(crate) const OVERDETERMINED_EACH: f64 = 0.4;
    pub(crate) const AS_RELATIVES_FACTOR: f64 = 1.1;
    pub(crate) const WEAKER_FACTOR: f64 = 0.9;
    pub(crate) const INEQUALITY_FACTOR: f64 = 0.8;
    /// A distance with the wrong sign, where the view goes over the edge that it is kept from.
    pub(crate) const SIGN_OVER_EDGE_FACTOR: f64 = 1.3;
    pub(crate) const SIGN_FACTOR: f64 = 0.7;
    pub(crate) const UNIT_OR_SHARE_FACTOR: f64 = 0.5;
    pub(crate) const SIDE_FACTOR: f64 = 0.4;
    /// Another place, where the rule reads the view that it is about.
    pub(crate) const PLACE_FOR_ITSELF_FACTOR: f64 = 1.4;
    pub(crate) const PLACE_FACTOR: f64 = 0.45;
    pub(crate) const PLACE_STEP: f64 = 0.02;
    pub(crate) const LEVEL_FACTOR: f64 = 0.3;
    /// A level declared, and the last rule on it, where the screen has none.
    pub(crate) const NEW_LEVEL: f64 = 0.6;
}

/// A rule that differs from those of all relatives.
pub(crate) mod outlier {
    pub(crate) const AS_RELATIVES: f64 = 1.0;
    pub(crate) const PLACE: f64 = 0.6;
    pub(crate) const PLACE_STEP: f64 = 0.03;
    pub(crate) const SHARE: f64 = 0.7;
}

/// Preferences on one level between which nothing decides.
pub(crate) mod tie {
    pub(crate) const AS_RELATIVES: f64 = 1.2;
    /// On another level; more for rules written later, less for levels further away.
    pub(crate) const OTHER_LEVEL: f64 = 0.8;
    pub(crate) const LATER: f64 = 0.1;
    pub(crate) const LEVEL_STEP: f64 = 0.1;
    /// Up the ladder counts as so much further away than down.
    pub(crate) const UPWARDS: f64 = 2.0;
    pub(crate) const WEIGHTED: f64 = 0.5;
    pub(crate) const REMOVED: f64 = 0.2;
    pub(crate) const SNUG_ON_LEVEL: f64 = 0.5;
    pub(crate) const SNUG_WEIGHTED: f64 = 0.4;
}

/// A view that collapses to zero.
pub(crate) mod collapse {
    pub(crate) const OWN_SIZE: f64 = 0.6;
    /// A size for the view around it: where several collapse, and where one does.
    pub(crate) const PARENT_OF_SEVERAL: f64 = 0.7;
    pub(crate) const PARENT_OF_ONE: f64 = 0.4;
    /// A size for each cell of a grid.
    pub(crate) const EACH: f64 = 0.8;
    /// A size for an arrangement, which its children then fill across.
    pub(crate) const STRETCHED: f64 = 0.75;
    /// A size that the screen uses, for the view around it.
    pub(crate) const PARENT_USED_LESS: f64 = 0.1;
    pub(crate) const PARENT_USED_EACH: f64 = 0.1;
}

/// A child that takes its size from the view around it, while that takes its own from its children.
pub(crate) mod circular {
    pub(crate) const AS_RELATIVES: f64 = 1.2;
    pub(crate) const UNIT: f64 = 1.3;
    pub(crate) const PLACE: f64 = 0.7;
    pub(crate) const PLACE_STEP: f64 = 0.03;
    pub(crate) const OTHERWISE: f64 = 0.4;
    pub(crate) const REMOVED: f64 = 0.5;
}

/// Which rules are behind what landed in the wrong place.
pub(crate) mod suspect {
    /// A rule that gave way: more the further it is from being kept.
    pub(crate) const GAVE_WAY: f64 = 0.7;
    pub(crate) const GAVE_WAY_FAR_MORE: f64 = 0.3;
    /// Another rule of the views that the finding is about.
    pub(crate) const OWN_RULE: f64 = 0.6;
    /// More for each other finding about the rule, and about its view.
    pub(crate) const OTHER_FINDING_EACH: f64 = 0.1;
    pub(crate) const OTHER_FINDING_OF_VIEW_EACH: f64 = 0.05;
}

/// The rules behind what landed in the wrong place, written otherwise.
pub(crate) mod misplaced {
    pub(crate) const AS_RELATIVES_FACTOR: f64 = 1.2;
    /// What relatives have as well is less likely to be wrong.
    pub(crate) const USUAL_FACTOR: f64 = 0.6;
    pub(crate) const SIGN_OVER_EDGE_FACTOR: f64 = 1.3;
    pub(crate) const SIGN_FACTOR: f64 = 0.9;
    pub(crate) const PLACE_FACTOR: f64 = 0.75;
    pub(crate) const PLACE_STEP: f64 = 0.03;
    pub(crate) const UNIT_FACTOR: f64 = 0.65;
    /// A number that is far off may be meant as a share.
    pub(crate) const SHARE_FAR_OFF_FACTOR: f64 = 0.85;
    pub(crate) const SHARE_FACTOR: f64 = 0.44;
    pub(crate) const SIDE_FACTOR: f64 = 0.5;
    /// What gave way may have been meant to be stronger.
    pub(crate) const LEVEL_GAVE_WAY_FACTOR: f64 = 0.75;
    pub(crate) const LEVEL_FACTOR: f64 = 0.5;
    /// A share of a size is a wish more often than a distance is.
    pub(crate) const WEAKER_SHARE_FACTOR: f64 = 0.8;
    pub(crate) const WEAKER_FACTOR: f64 = 0.55;
    pub(crate) const INEQUALITY_FACTOR: f64 = 0.45;
    pub(crate) const REMOVED_FACTOR: f64 = 0.35;
    /// To the middle, or to another side, of what is around the view.
    pub(crate) const MIDDLE: f64 = 0.5;
    pub(crate) const OTHER_SIDE: f64 = 0.42;
    pub(crate) const FAR_EDGE: f64 = 0.8;
    /// As a relative is, and as a relative is, mirrored.
    pub(crate) const LIKE_RELATIVE_FACTOR: f64 = 0.75;
    pub(crate) const MIRRORED_FACTOR: f64 = 0.7;
}

/// Limits that keep a view where it may be.
pub(crate) mod limit {
    pub(crate) const INSIDE_WITH_GAP: f64 = 0.7;
    pub(crate) const INSIDE: f64 = 0.6;
    pub(crate) const SAFE: f64 = 0.6;
    pub(crate) const TARGET_SIZE: f64 = 0.8;
    pub(crate) const WHOLE_SCREEN: f64 = 0.8;
    pub(crate) const CONTENT_HEIGHT: f64 = 0.6;
    pub(crate) const CONTENT_WIDTH: f64 = 0.5;
    /// Clear of another view: a text gives way sideways, before or behind the other, sooner than anything
    /// else.
    pub(crate) const TEXT_ENDS_BEFORE: f64 = 0.75;
    pub(crate) const TEXT_STARTS_AFTER: f64 = 0.7;
    pub(crate) const APART: f64 = 0.4;
}

/// Rules that may be missing where a place or a size is ambiguous. `ACROSS` is along the width.
pub(crate) mod missing {
    /// The mirror of what relatives have.
    pub(crate) const MIRRORED_FACTOR: f64 = 0.82;
    pub(crate) const AFTER_PREVIOUS: f64 = 0.72;
    pub(crate) const AFTER_PREVIOUS_ACROSS: f64 = 0.6;
    pub(crate) const LEVEL_WITH_PREVIOUS: f64 = 0.5;
    pub(crate) const LEVEL_WITH_PREVIOUS_ACROSS: f64 = 0.66;
    pub(crate) const BESIDE_MORE: f64 = 0.25;
    pub(crate) const BEFORE_NEXT: f64 = 0.55;
    /// A lone child is mostly in the middle; a text is, down, more often than other views.
    pub(crate) const MIDDLE_LONE: f64 = 0.82;
    pub(crate) const MIDDLE_TEXT: f64 = 0.68;
    pub(crate) const MIDDLE: f64 = 0.56;
    /// In the middle, where it has a width and its siblings are as wide as what is around them.
    pub(crate) const MIDDLE_OF_PAGE: f64 = 0.75;
    /// What is declared first is mostly at the top.
    pub(crate) const FIRST_AT_TOP: f64 = 0.8;
    pub(crate) const NEAR_SIDE: f64 = 0.54;
    pub(crate) const FAR_SIDE: f64 = 0.53;
    /// The far side, where the place is open and the size as well.
    pub(crate) const FAR_SIDE_FOR_SIZE: f64 = 0.58;
    pub(crate) const SIZE_OF_SIBLING: f64 = 0.5;
    /// A size at one of the ends of what is possible.
    pub(crate) const SIZE_AT_END: f64 = 0.42;
    /// As wide as it is high, where neither is said, and where one is.
    pub(crate) const SQUARE: f64 = 0.4;
    pub(crate) const SQUARE_SIZED: f64 = 0.7;
    pub(crate) const SIZE_OF_PICTURE: f64 = 0.75;
    pub(crate) const SIZE_AS_SEEN: f64 = 0.35;
    /// Two lines that relatives have: the weight of the less likely, and this.
    pub(crate) const PAIR_MORE: f64 = 0.05;
    pub(crate) const BOTH_SIDES: f64 = 0.7;
    pub(crate) const LIKE_PREVIOUS: f64 = 0.65;
    pub(crate) const USUAL_CONTROL: f64 = 0.3;
    /// A size that the screen uses, the most frequent first.
    pub(crate) const SIZE_USED: f64 = 0.46;
    pub(crate) const SIZE_USED_STEP: f64 = 0.01;
    /// More for a size below this weight, where the place is settled.
    pub(crate) const SIZE_ALONE_BELOW: f64 = 0.6;
    pub(crate) const SIZE_ALONE_MORE: f64 = 0.2;
    /// More for what a band says under the same label.
    pub(crate) const AS_BAND_MORE: f64 = 0.1;
    /// The same for others of the block: more where they lack it too, less where they do not.
    pub(crate) const WITH_OTHERS: f64 = 0.03;
    /// What the view says of one side, said of the other, and of other siblings.
    pub(crate) const FACING: f64 = 0.9;
    pub(crate) const FACING_SIBLING: f64 = 0.88;
    pub(crate) const FACING_STEP: f64 = 0.02;
    /// One more side of a pin: along the axis that it has a side of, or along the other.
    pub(crate) const OPPOSITE_SIDE: f64 = 0.85;
    pub(crate) const OTHER_AXIS_FAR: f64 = 0.62;
    pub(crate) const LAST_TO_THE_END: f64 = 0.84;
    pub(crate) const OTHER_AXIS_NEAR: f64 = 0.6;
    pub(crate) const LIMIT_MET: f64 = 0.64;
    /// Around its children: with the distance that they keep elsewhere, or none.
    pub(crate) const AROUND_CHILD_WITH_GAP: f64 = 0.88;
    pub(crate) const AROUND_CHILD: f64 = 0.6;
    pub(crate) const AROUND_CHILD_STEP: f64 = 0.04;
    /// Two ideas at once: the weight of the less likely, and this share of the other's.
    pub(crate) const TOGETHER_SHARE: f64 = 0.05;
}

/// Repairs inside of bands.
pub(crate) mod band {
    pub(crate) const REPLACES: f64 = 1.8;
    pub(crate) const SAID_OF_AROUND: f64 = 1.4;
    pub(crate) const NOT_DROPPED: f64 = 1.3;
    /// More for what is put into the band where it is missing than for the same elsewhere.
    pub(crate) const MISSING_MORE: f64 = 0.15;
    pub(crate) const ONLY_THERE: f64 = 1.75;
    pub(crate) const BESIDE_HIDDEN: f64 = 1.7;
}

/// A band with smaller letters from where words stop fitting.
pub(crate) mod breakpoint {
    pub(crate) const BAND: f64 = 0.25;
    pub(crate) const STEP: f64 = 0.02;
}

/// What is offered, once it has been tried.
pub(crate) mod offered {
    /// Nothing below the best by more than this is tried.
    pub(crate) const CUTOFF: f64 = 0.5;
    /// What is settled by evidence and so far ahead of the next is sure; from this weight on it is likely.
    pub(crate) const AHEAD: f64 = 0.15;
    pub(crate) const LIKELY: f64 = 1.0;
    /// What is settled by evidence and likelier than this is right, whatever another one puts right besides.
    pub(crate) const PLAIN: f64 = 1.4;
    /// What is likelier than this may be joined with a view that scrolls what does not fit by it.
    pub(crate) const JOINED: f64 = 0.6;
    /// More for what is made in all copies at once.
    pub(crate) const ALL_COPIES: f64 = 0.05;
    /// Less for each view that moves, up to a number, and for each doubt.
    pub(crate) const MOVED_LESS: f64 = 0.005;
    pub(crate) const MOVED_MOST: usize = 20;
    pub(crate) const DOUBT_LESS: f64 = 0.05;
}

/// What practitioners reach for before they change a number.
pub(crate) mod structure {
    /// What a second choice loses.
    pub(crate) const SECOND: f64 = 0.1;
    /// Along the axis on which two overlap more.
    pub(crate) const OTHER_AXIS: f64 = 0.3;
    /// A box that grows round what is in it.
    pub(crate) const GROWN: f64 = 1.9;
    pub(crate) const GROWN_ACROSS: f64 = 1.2;
    /// A page that scrolls, a row that scrolls, wraps or shares.
    pub(crate) const SCROLL: f64 = 1.5;
    pub(crate) const SCROLL_ACROSS: f64 = 1.3;
    pub(crate) const INTO_SCROLLER: f64 = 1.25;
    pub(crate) const WRAP: f64 = 1.55;
    pub(crate) const SHARED_BY_FEW: f64 = 1.7;
    pub(crate) const SHARED_BY_MANY: f64 = 1.35;
    pub(crate) const SHARED_BY_WIDEST: f64 = 1.65;
    pub(crate) const AS_MANY_COLUMNS: f64 = 1.7;
    pub(crate) const STRETCHED: f64 = 1.6;
    /// As large as stated where there is space.
    pub(crate) const NO_LARGER: f64 = 1.6;
    pub(crate) const NO_HIGHER: f64 = 1.0;
    pub(crate) const TO_THE_END: f64 = 1.6;
    pub(crate) const ENDED: f64 = 1.45;
    pub(crate) const BAR_AT_END: f64 = 1.6;
    pub(crate) const SITS: f64 = 1.7;
    /// Bare numbers measured from the parent.
    pub(crate) const FROM_PARENT: f64 = 1.95;
    /// Two that lie over one another.
    pub(crate) const BEHIND: f64 = 1.4;
    pub(crate) const USUAL_LESS: f64 = 0.5;
    pub(crate) const NEXT_NEIGHBOUR: f64 = 1.5;
    pub(crate) const HANGS_ABOVE: f64 = 0.95;
    pub(crate) const PREFERRED_SIZE: f64 = 1.5;
    pub(crate) const ENDS_BEFORE: f64 = 1.3;
    pub(crate) const TEXT_ENDS: f64 = 1.6;
    pub(crate) const HALVES: f64 = 1.65;
    pub(crate) const FLOATS_AS_BADGE: f64 = 1.45;
    pub(crate) const FLOATS_IN_STATE: f64 = 1.8;
    pub(crate) const FLOATS_OVER_PAGE: f64 = 1.6;
    pub(crate) const SCROLLED_CLEAR: f64 = 1.75;
    pub(crate) const ABOVE_KEYBOARD: f64 = 1.8;
    pub(crate) const LARGE_ENOUGH: f64 = 1.6;
    pub(crate) const IN_PROPORTION: f64 = 1.7;
    /// What has no end, or is pushed over one.
    pub(crate) const SCROLLER_ENDS_AT_BAR: f64 = 1.9;
    pub(crate) const AS_LARGE_AS_FITS: f64 = 1.4;
    pub(crate) const KEPT_ON_ONE_LINE: f64 = 0.05;
    pub(crate) const FEWER_LINES: f64 = 0.02;
    pub(crate) const LARGEST_GIVES_WAY: f64 = 1.45;
    pub(crate) const FAR_SIDE: f64 = 1.3;
    pub(crate) const ENDS_AT_BAR: f64 = 0.95;
    pub(crate) const CONTENT_ENDS: f64 = 1.5;
    pub(crate) const LAST_OF_EQUAL: f64 = 1.2;
    /// What is open.
    pub(crate) const SIZE_OF_SIBLINGS: f64 = 1.0;
    pub(crate) const SCROLLER_ENDS: f64 = 1.4;
    pub(crate) const HOLDER_ENDS: f64 = 0.7;
    pub(crate) const HOLDS_PICTURE: f64 = 0.9;
    pub(crate) const ONE_SIZE: f64 = 1.4;
    pub(crate) const APART: f64 = 1.6;
    pub(crate) const AS_EXPECTED: f64 = 1.4;
    pub(crate) const OTHER_WAY_ROUND: f64 = 1.3;
    pub(crate) const AS_USUAL: f64 = 1.4;
    pub(crate) const TAKEN_AWAY: f64 = 1.0;
    pub(crate) const WORDS_FIT: f64 = 1.5;
    pub(crate) const WORDS_HAVE_ROOM: f64 = 1.6;
    pub(crate) const ROOM_FOR_BOTH: f64 = 1.2;
    /// An edge tied to the same edge of what it lies over: as siblings are tied, and otherwise.
    pub(crate) const OTHER_EDGE_AS_SIBLINGS: f64 = 1.7;
    pub(crate) const OTHER_EDGE: f64 = 1.15;
    /// What is tied to a middle was thought of; what is a number may not have been.
    pub(crate) const AT_MIDDLE_LESS: f64 = 0.2;
    pub(crate) const SHARES_AS_SIBLINGS: f64 = 1.5;
    pub(crate) const SHARES_WHAT_IS_LEFT: f64 = 1.2;
    pub(crate) const SHARED_CHAIN: f64 = 1.5;
    pub(crate) const REANCHORED: f64 = 1.3;
    pub(crate) const IN_A_COLUMN: f64 = 1.6;
    pub(crate) const AS_CLAIMED: f64 = 1.5;
    pub(crate) const ALONG_READING: f64 = 1.8;
    pub(crate) const BOTH_ORIENTATIONS: f64 = 1.5;
}

/// What drawings say.
pub(crate) mod drawn {
    /// A constant that gives the drawn place, and one along each axis.
    pub(crate) const RULES: f64 = 1.1;
    pub(crate) const RULES_BOTH: f64 = 1.2;
    /// The drawing as the rules have it.
    pub(crate) const DRAWING: f64 = 1.0;
    /// A rule that gives a view its drawn place, less for what it costs to say that.
    pub(crate) const MISSING: f64 = 3.0;
    pub(crate) const COST_FACTOR: f64 = 0.2;
}
