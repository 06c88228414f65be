//! Several names at once: as many ids come back, in an array or in a list.

/// Names that are given at once: an array, a slice or a list of them.
pub trait Names {
    /// What comes back for them: an array for an array, else a list.
    type Of<T>;

    /// One for each name.
    fn each<T>(&self, one: impl FnMut(&str) -> T) -> Self::Of<T>;

    /// The names.
    fn texts(&self) -> Vec<String>;
}

impl<S: AsRef<str>, const N: usize> Names for [S; N] {
    type Of<T> = [T; N];

    fn each<T>(&self, mut one: impl FnMut(&str) -> T) -> [T; N] {
        self.each_ref().map(|name| one(name.as_ref()))
    }

    fn texts(&self) -> Vec<String> {
        self.each(str::to_owned).into()
    }
}

impl<S: AsRef<str>> Names for &[S] {
    type Of<T> = Vec<T>;

    fn each<T>(&self, mut one: impl FnMut(&str) -> T) -> Vec<T> {
        self.iter().map(|name| one(name.as_ref())).collect()
    }

    fn texts(&self) -> Vec<String> {
        self.each(str::to_owned)
    }
}

impl<S: AsRef<str>> Names for Vec<S> {
    type Of<T> = Vec<T>;

    fn each<T>(&self, one: impl FnMut(&str) -> T) -> Vec<T> {
        self.as_slice().each(one)
    }

    fn texts(&self) -> Vec<String> {
        self.as_slice().texts()
    }
}
