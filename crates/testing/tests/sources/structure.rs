//! How the sources hang together: what Cargo does not refuse on its own is refused here.

use std::collections::{BTreeMap, BTreeSet};
use std::fs;
use std::path::{Path, PathBuf};

use syn::visit::{self, Visit};
use syn::{Attribute, Item, UseTree, Visibility};

fn crates() -> Vec<PathBuf> {
    let root = Path::new(env!("CARGO_MANIFEST_DIR")).join("..");
    let mut found: Vec<PathBuf> = fs::read_dir(root).unwrap().map(|entry| entry.unwrap().path()).collect();
    found.retain(|path| path.join("src/lib.rs").exists());
    found.sort();
    assert!(found.len() > 10, "{found:?}");
    found
}

fn sources(folder: &Path) -> Vec<PathBuf> {
    let mut found = Vec::new();
    for entry in fs::read_dir(folder).unwrap() {
        let path = entry.unwrap().path();
        match path.is_dir() {
            true => found.extend(sources(&path)),
            false if path.extension().is_some_and(|extension| extension == "rs") => found.push(path),
            false => (),
        }
    }
    found
}

/// A module's path within its crate: empty for the root.
type Module = Vec<String>;

fn module_of(src: &Path, file: &Path) -> Module {
    let inside = file.strip_prefix(src).unwrap().with_extension("");
    let mut parts: Module = inside.iter().map(|part| part.to_str().unwrap().to_owned()).collect();
    if parts.last().is_some_and(|last| matches!(last.as_str(), "lib" | "mod" | "main")) {
        parts.pop();
    }
    parts
}

/// What a file takes from others of its crate, and what it passes on under a name of its own.
#[derive(Default)]
struct Paths {
    taken: Vec<Vec<String>>,
    passed_on: BTreeMap<String, Vec<String>>,
}

fn is_test(attributes: &[Attribute]) -> bool {
    attributes.iter().any(|attribute| {
        attribute.path().is_ident("cfg")
            && attribute.parse_args::<syn::Ident>().is_ok_and(|ident| ident == "test")
    })
}

fn leaves(tree: &UseTree, before: &[String], into: &mut Vec<Vec<String>>) {
    let longer = |ident: &syn::Ident| before.iter().cloned().chain([ident.to_string()]).collect::<Vec<_>>();
    match tree {
        UseTree::Path(path) => leaves(&path.tree, &longer(&path.ident), into),
        UseTree::Name(name) => into.push(longer(&name.ident)),
        UseTree::Rename(name) => into.push(longer(&name.ident)),
        UseTree::Glob(_) => into.push(before.to_vec()),
        UseTree::Group(group) => group.items.iter().for_each(|tree| leaves(tree, before, into)),
    }
}

impl<'ast> Visit<'ast> for Paths {
    fn visit_item(&mut self, item: &'ast Item) {
        let attributes = match item {
            Item::Mod(module) => &module.attrs,
            Item::Fn(function) => &function.attrs,
            Item::Impl(block) => &block.attrs,
            Item::Use(item) => &item.attrs,
            _ => &Vec::new(),
        };
        if is_test(attributes) {
            return;
        }
        if let Item::Use(item) = item {
            let mut found = Vec::new();
            leaves(&item.tree, &[], &mut found);
            match item.vis {
                Visibility::Inherited => self.taken.extend(found),
                _ => {
                    let named = found.into_iter().filter_map(|path| Some((path.last()?.clone(), path)));
                    self.passed_on.extend(named);
                }
            }
            return;
        }
        visit::visit_item(self, item);
    }

    /// Whom a name is shown to says nothing of what is taken.
    fn visit_vis_restricted(&mut self, _: &'ast syn::VisRestricted) {}

    fn visit_path(&mut self, path: &'ast syn::Path) {
        self.taken.push(path.segments.iter().map(|segment| segment.ident.to_string()).collect());
        visit::visit_path(self, path);
    }
}

/// The module of a crate that a path comes from, seen from `here`.
fn comes_from(path: &[String], here: &Module, files: &BTreeMap<Module, Paths>) -> Option<Module> {
    let mut at: Module = match path.first()?.as_str() {
        "crate" => Module::new(),
        "super" => here[..here.len().checked_sub(1)?].to_vec(),
        "self" => here.clone(),
        child => {
            let inside: Module = here.iter().cloned().chain([child.to_owned()]).collect();
            files.contains_key(&inside).then(|| here.clone())?
        }
    };
    let from = usize::from(matches!(path[0].as_str(), "crate" | "super" | "self"));
    for (n, part) in path[from..].iter().enumerate() {
        if part == "super" {
            at.pop();
            continue;
        }
        let inside: Module = at.iter().cloned().chain([part.clone()]).collect();
        if files.contains_key(&inside) {
            at = inside;
            continue;
        }
        // A name that the module only passes on comes from where that has it.
        let passed_on = files.get(&at).and_then(|paths| paths.passed_on.get(part));
        return match passed_on.filter(|onward| onward.as_slice() != &path[from + n..]) {
            Some(onward) => comes_from(onward, &at, files).or(Some(at)),
            None => Some(at),
        };
    }
    Some(at)
}

/// Modules in a circle, if there is one.
fn circle(edges: &BTreeMap<Module, BTreeSet<Module>>) -> Option<Vec<Module>> {
    fn walk(
        at: &Module,
        edges: &BTreeMap<Module, BTreeSet<Module>>,
        path: &mut Vec<Module>,
        done: &mut BTreeSet<Module>,
    ) -> Option<Vec<Module>> {
        if let Some(from) = path.iter().position(|earlier| earlier == at) {
            return Some(path[from..].to_vec());
        }
        if !done.insert(at.clone()) {
            return None;
        }
        path.push(at.clone());
        let found = edges.get(at)?.iter().find_map(|next| walk(next, edges, path, done));
        path.pop();
        found
    }
    let mut done = BTreeSet::new();
    edges.keys().find_map(|start| walk(start, edges, &mut Vec::new(), &mut done))
}

fn edges_of(folder: &Path) -> BTreeMap<Module, BTreeSet<Module>> {
    let src = folder.join("src");
    let mut files: BTreeMap<Module, Paths> = BTreeMap::new();
    for file in sources(&src).into_iter().filter(|file| !file.ends_with("main.rs")) {
        let mut paths = Paths::default();
        paths.visit_file(&syn::parse_file(&fs::read_to_string(&file).unwrap()).unwrap());
        files.insert(module_of(&src, &file), paths);
    }
    let from = |module: &Module, paths: &Paths| {
        let taken = paths.taken.iter().filter_map(|path| comes_from(path, module, &files));
        taken.filter(|other| other != module).collect()
    };
    files.iter().map(|(module, paths)| (module.clone(), from(module, paths))).collect()
}

#[test]
fn no_modules_of_a_crate_take_from_each_other_in_a_circle() {
    let circle_in = |folder: &PathBuf| Some((folder.file_name()?.to_owned(), circle(&edges_of(folder))?));
    let found: Vec<_> = crates().iter().filter_map(circle_in).collect();
    assert!(found.is_empty(), "{found:#?}");
}

/// The finder of circles finds one, also through a name that the root passes on.
#[test]
fn a_circle_is_found() {
    let folder = std::env::temp_dir().join(format!("warm-blend-circle-{}", std::process::id()));
    fs::create_dir_all(folder.join("src")).unwrap();
    let write = |name: &str, text: &str| fs::write(folder.join("src").join(name), text).unwrap();
    write("lib.rs", "mod one;\nmod other;\npub use one::One;\n");
    write("one.rs", "use crate::other::Other;\npub struct One(Other);\n");
    write("other.rs", "pub struct Other;\n");
    assert_eq!(circle(&edges_of(&folder)), None);
    write("other.rs", "pub struct Other;\nfn of(_: crate::One) {}\n");
    assert_eq!(circle(&edges_of(&folder)).unwrap().len(), 2);
    write("other.rs", "pub struct Other;\n#[cfg(test)]\nmod tests { fn of(_: crate::One) {} }\n");
    assert_eq!(circle(&edges_of(&folder)), None);
    fs::remove_dir_all(folder).unwrap();
}

/// One word for one thing.
#[test]
fn no_two_public_types_share_a_name() {
    let mut named: BTreeMap<String, Vec<PathBuf>> = BTreeMap::new();
    for file in crates().iter().flat_map(|folder| sources(&folder.join("src"))) {
        for item in syn::parse_file(&fs::read_to_string(&file).unwrap()).unwrap().items {
            let (vis, ident) = match &item {
                Item::Struct(item) => (&item.vis, &item.ident),
                Item::Enum(item) => (&item.vis, &item.ident),
                Item::Trait(item) => (&item.vis, &item.ident),
                Item::Type(item) => (&item.vis, &item.ident),
                _ => continue,
            };
            if matches!(vis, Visibility::Public(_)) {
                named.entry(ident.to_string()).or_default().push(file.clone());
            }
        }
    }
    let twice: Vec<_> = named.iter().filter(|(_, files)| files.len() > 1).collect();
    assert!(named.len() > 300 && twice.is_empty(), "{twice:?}");
}

/// `parts` know their props alone, `state` what is kept, `common` both.
#[test]
fn the_front_end_points_one_way() {
    let web = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../web/src");
    for (folder, never) in [
        ("parts", &["../state/", "../common/", "../screens/", "../frame/"][..]),
        ("state", &["../common/", "../screens/", "../frame/"]),
        ("common", &["../screens/", "../frame/"]),
    ] {
        let mut seen = 0;
        for file in fs::read_dir(web.join(folder)).unwrap() {
            let text = fs::read_to_string(file.unwrap().path()).unwrap();
            let from = text.lines().filter_map(|line| line.split(" from '").nth(1));
            for taken in from {
                assert!(!never.iter().any(|never| taken.starts_with(never)), "{folder} takes from {taken}");
                seen += 1;
            }
        }
        assert!(seen > 10, "{folder}: {seen}");
    }
}

/// Most lines of what a handler does.
const LONGEST_HANDLER: usize = 14;

#[test]
fn handlers_are_short() {
    let routes = Path::new(env!("CARGO_MANIFEST_DIR")).join("../server/src/routes");
    let mut seen = 0;
    for file in sources(&routes) {
        let text = fs::read_to_string(&file).unwrap();
        for handler in text.split("#[utoipa::path(").skip(1) {
            let body = handler.split_once(" {\n").unwrap().1.split("\n}").next().unwrap();
            let name = handler.split("async fn ").nth(1).unwrap().split('(').next().unwrap();
            assert!(body.lines().count() <= LONGEST_HANDLER, "{name} in {}", file.display());
            seen += 1;
        }
    }
    assert!(seen > 80, "{seen} handlers");
}

/// A rule of the job stands in a pure crate: the server weighs, prices and judges nothing, and holds no constant of paint.
#[test]
fn no_rule_of_the_job_is_in_the_server() {
    let server = Path::new(env!("CARGO_MANIFEST_DIR")).join("../server/src");
    let forbidden = ["Verdict", "Ensemble", "by_ml", "density", "spreading_rate", "difference(", ": f64 ="];
    for file in sources(&server) {
        // The demo writes down what a painter would have; the stand-ins behave like devices.
        let inside = file.strip_prefix(&server).unwrap();
        if inside.starts_with("demo") || ["demo.rs", "device.rs"].iter().any(|own| inside.ends_with(own)) {
            continue;
        }
        let text = fs::read_to_string(&file).unwrap();
        let code = text.lines().filter(|line| !line.trim_start().starts_with("//"));
        for (n, line) in code.enumerate() {
            let found = forbidden.iter().find(|word| line.contains(**word));
            assert!(found.is_none(), "{} has {found:?} about line {n}: {line}", inside.display());
        }
    }
}
