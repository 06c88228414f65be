//! Lists of which a copy costs little, and a change of one entry as well.

use std::ops::{Index, IndexMut};
use std::sync::Arc;

/// A list whose entries copies of it share until one of them is changed.
#[derive(Clone, Debug, PartialEq)]
pub(crate) struct Table<T>(Vec<Arc<T>>);

impl<T> Default for Table<T> {
    fn default() -> Self {
        Self(Vec::new())
    }
}

impl<T> Table<T> {
    pub(crate) fn len(&self) -> usize {
        self.0.len()
    }

    pub(crate) fn push(&mut self, entry: T) {
        self.0.push(Arc::new(entry));
    }

    pub(crate) fn pop(&mut self) {
        self.0.pop();
    }

    pub(crate) fn get(&self, index: usize) -> Option<&T> {
        self.0.get(index).map(|entry| &**entry)
    }

    pub(crate) fn iter(&self) -> impl DoubleEndedIterator<Item = &T> + ExactSizeIterator {
        self.0.iter().map(|entry| &**entry)
    }

    pub(crate) fn resize_with(&mut self, len: usize, mut entry: impl FnMut() -> T) {
        self.0.resize_with(len, || Arc::new(entry()));
    }

    /// The entries that are not the very same ones as in another list of as many: pairs of what is there and here.
    /// `None` for lists of other lengths.
    pub(crate) fn differing<'a>(&'a self, other: &'a Self) -> Option<impl Iterator<Item = (&'a T, &'a T)>> {
        let pairs = std::iter::zip(&self.0, &other.0).filter(|(a, b)| !Arc::ptr_eq(a, b));
        (self.len() == other.len()).then(|| pairs.map(|(a, b)| (&**a, &**b)))
    }
}

impl<T> Index<usize> for Table<T> {
    type Output = T;

    fn index(&self, index: usize) -> &T {
        &self.0[index]
    }
}

/// A changed entry is no longer shared.
impl<T: Clone> IndexMut<usize> for Table<T> {
    fn index_mut(&mut self, index: usize) -> &mut T {
        Arc::make_mut(&mut self.0[index])
    }
}
