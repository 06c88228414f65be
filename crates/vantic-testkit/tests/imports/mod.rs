//! Reads which file of a crate imports which, by parsing it.

use std::collections::{BTreeMap, BTreeSet};
use std::path::Path;
use syn::visit::Visit;

/// One source file of a crate.
#[derive(Debug, Default)]
pub(crate) struct File {
    /// Its path below `src`.
    pub(crate) path: String,
    /// The modules it declares.
    children: BTreeSet<String>,
    /// What it brings into scope, by name: where that comes from. Names of crates stay as they are.
    scope: BTreeMap<String, Vec<String>>,
    /// Everything it names by path, `crate::` and `super::` resolved.
    paths: BTreeSet<Vec<String>>,
    /// The types and traits it defines.
    pub(crate) types: BTreeSet<String>,
    /// The types that it gives methods of their own.
    pub(crate) extends: BTreeSet<String>,
}

/// A crate: its files by module path.
#[derive(Debug)]
pub(crate) struct Imports {
    pub(crate) files: BTreeMap<Vec<String>, File>,
}

/// An import: the file that imports, the file where the item stands, and the item.
pub(crate) type Edge<'a> = (&'a File, &'a File, String);

impl Imports {
    /// Parses every file below `src`.
    pub(crate) fn of(src: &Path) -> Self {
        let mut files = BTreeMap::new();
        read(src, src, &mut files);
        Self { files }
    }

    /// The file where a path from the crate's root leads, re-exports followed, and the name that is left.
    fn resolve(&self, path: &[String], depth: usize) -> Option<(&File, String)> {
        let length = (0..=path.len()).rev().find(|&n| self.files.contains_key(&path[..n]))?;
        let (file, rest) = (&self.files[&path[..length]], &path[length..]);
        let Some(name) = rest.first() else { return Some((file, String::new())) };
        // A file that only re-exports a name is not where it stands.
        match file.scope.get(name) {
            Some(from) if depth < 16 && !file.types.contains(name) => {
                let whole: Vec<String> = from.iter().chain(&rest[1..]).cloned().collect();
                self.resolve(&whole, depth + 1)
            }
            _ => Some((file, name.clone())),
        }
    }

    /// Every import of one file from another.
    pub(crate) fn edges(&self) -> Vec<Edge<'_>> {
        let mut edges = Vec::new();
        for file in self.files.values() {
            for path in &file.paths {
                let Some((target, name)) = self.resolve(path, 0) else { continue };
                if target.path != file.path && !name.is_empty() {
                    edges.push((file, target, name));
                }
            }
        }
        edges.sort_by(|a, b| (&a.0.path, &a.1.path, &a.2).cmp(&(&b.0.path, &b.1.path, &b.2)));
        edges.dedup_by(|a, b| (&a.0.path, &a.1.path, &a.2) == (&b.0.path, &b.1.path, &b.2));
        edges
    }
}

fn read(src: &Path, folder: &Path, files: &mut BTreeMap<Vec<String>, File>) {
    for entry in std::fs::read_dir(folder).unwrap() {
        let path = entry.unwrap().path();
        if path.is_dir() {
            read(src, &path, files);
        } else if path.extension().is_some_and(|e| e == "rs") {
            let below = path.strip_prefix(src).unwrap().to_string_lossy().replace('\\', "/");
            let mut module: Vec<String> =
                below.trim_end_matches(".rs").split('/').map(str::to_owned).collect();
            if module.last().is_some_and(|m| ["mod", "lib", "main"].contains(&m.as_str())) {
                module.pop();
            }
            let parsed = syn::parse_file(&std::fs::read_to_string(&path).unwrap()).unwrap();
            files.insert(module.clone(), file_of(below, module, &parsed));
        }
    }
}

fn file_of(path: String, module: Vec<String>, parsed: &syn::File) -> File {
    let mut reader = Reader { module, file: File { path, ..File::default() } };
    for item in &parsed.items {
        if let syn::Item::Mod(child) = item
            && child.content.is_none()
        {
            reader.file.children.insert(child.ident.to_string());
        }
    }
    // Uses first, so that `name::item` is known for an imported module.
    for item in &parsed.items {
        if let syn::Item::Use(item) = item {
            let is_inside = matches!(item.vis, syn::Visibility::Inherited);
            reader.tree(&item.tree, &mut Vec::new(), is_inside);
        }
    }
    reader.visit_file(parsed);
    reader.file
}

struct Reader {
    module: Vec<String>,
    file: File,
}

impl Reader {
    /// A path from the crate's root; `None` for one that leads out of the crate.
    fn seen_from_root(&self, path: &[String]) -> Option<Vec<String>> {
        let (first, rest) = path.split_first()?;
        let mut from = match first.as_str() {
            "crate" => Vec::new(),
            "self" => self.module.clone(),
            "super" => {
                let ups = path.iter().take_while(|s| *s == "super").count();
                let base = self.module.len().checked_sub(ups)?;
                return Some(self.module[..base].iter().chain(&path[ups..]).cloned().collect());
            }
            name if self.file.children.contains(name) => {
                return Some(self.module.iter().chain(path).cloned().collect());
            }
            name => self.file.scope.get(name)?.clone(),
        };
        from.extend(rest.iter().cloned());
        Some(from)
    }

    fn tree(&mut self, tree: &syn::UseTree, so_far: &mut Vec<String>, is_inside: bool) {
        let (name, alias) = match tree {
            syn::UseTree::Path(path) => {
                so_far.push(path.ident.to_string());
                self.tree(&path.tree, so_far, is_inside);
                so_far.pop();
                return;
            }
            syn::UseTree::Group(group) => {
                group.items.iter().for_each(|item| self.tree(item, so_far, is_inside));
                return;
            }
            syn::UseTree::Glob(_) => return,
            syn::UseTree::Name(name) => (name.ident.to_string(), name.ident.to_string()),
            syn::UseTree::Rename(rename) => (rename.ident.to_string(), rename.rename.to_string()),
        };
        let mut path = so_far.clone();
        if name != "self" {
            path.push(name);
        }
        let alias = if alias == "self" { path.last().cloned().unwrap_or_default() } else { alias };
        if let Some(from) = self.seen_from_root(&path) {
            // What is re-exported is not used by that.
            if is_inside {
                self.file.paths.insert(from.clone());
            }
            self.file.scope.insert(alias, from);
        }
    }
}

impl<'ast> Visit<'ast> for Reader {
    fn visit_item_mod(&mut self, item: &'ast syn::ItemMod) {
        let is_test = item.attrs.iter().any(|a| a.path().is_ident("cfg"));
        if !is_test {
            syn::visit::visit_item_mod(self, item);
        }
    }

    fn visit_path(&mut self, path: &'ast syn::Path) {
        let segments: Vec<String> = path.segments.iter().map(|s| s.ident.to_string()).collect();
        if segments.len() > 1
            && let Some(from) = self.seen_from_root(&segments)
        {
            self.file.paths.insert(from);
        }
        syn::visit::visit_path(self, path);
    }

    fn visit_macro(&mut self, item: &'ast syn::Macro) {
        // Arguments of `format!`, `vec!`, `matches!` and the like are read as expressions where they are
        // some.
        let tokens = item.tokens.clone();
        let parser = syn::punctuated::Punctuated::<syn::Expr, syn::Token![,]>::parse_terminated;
        if let Ok(expressions) = syn::parse::Parser::parse2(parser, tokens) {
            for expression in expressions {
                let mut inner = Reader { module: self.module.clone(), file: std::mem::take(&mut self.file) };
                inner.visit_expr(&expression);
                self.file = inner.file;
            }
        }
    }

    fn visit_item_struct(&mut self, item: &'ast syn::ItemStruct) {
        self.file.types.insert(item.ident.to_string());
        syn::visit::visit_item_struct(self, item);
    }

    fn visit_item_enum(&mut self, item: &'ast syn::ItemEnum) {
        self.file.types.insert(item.ident.to_string());
        syn::visit::visit_item_enum(self, item);
    }

    fn visit_item_trait(&mut self, item: &'ast syn::ItemTrait) {
        self.file.types.insert(item.ident.to_string());
        syn::visit::visit_item_trait(self, item);
    }

    fn visit_item_impl(&mut self, item: &'ast syn::ItemImpl) {
        if item.trait_.is_none()
            && let syn::Type::Path(path) = &*item.self_ty
            && let Some(last) = path.path.segments.last()
        {
            self.file.extends.insert(last.ident.to_string());
        }
        syn::visit::visit_item_impl(self, item);
    }
}
