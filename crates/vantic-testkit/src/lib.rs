//! What the tests of several crates share. Nothing here is published.
