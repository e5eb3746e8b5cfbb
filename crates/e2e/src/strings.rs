//! Every string that a painter can read, from the sources in both languages: `make strings` prints them.
//!
//! Formatted parts appear as `{}`. Strings for programmers are left out: tests, panics, SQL, field names.

use std::{
    fs,
    path::{Path, PathBuf},
    process::Command,
};

use proc_macro2::{TokenStream, TokenTree};
use serde::Deserialize;
use syn::visit::{self, Visit};

/// A string and its position.
#[derive(Debug, Clone, Deserialize)]
pub struct Visible {
    /// Path of its file relative to the repository.
    pub file: String,
    /// Its line, from 1.
    pub line: usize,
    /// The string, with `{}` for formatted parts.
    pub text: String,
}

/// Crates whose strings reach a painter.
const CRATES: [&str; 18] = [
    "archive",
    "board",
    "device",
    "interchange",
    "learn",
    "mixing",
    "network",
    "paint",
    "photo",
    "piece",
    "plan",
    "practice",
    "render",
    "server",
    "spectral",
    "store",
    "documents",
    "workshop",
];

/// Macros whose strings are for programmers.
const UNSEEN: [&str; 14] = [
    "assert",
    "assert_eq",
    "assert_ne",
    "debug_assert",
    "debug_assert_eq",
    "panic",
    "unreachable",
    "unimplemented",
    "info",
    "warn",
    "error",
    "debug",
    "env",
    "include_str",
];

/// Parts of the names of functions that give words to a painter.
const NAMING: [&str; 9] = ["many", "name", "named", "names", "parts", "said", "size", "title", "words"];

/// All strings by file and line.
///
/// # Panics
///
/// If a source cannot be read, or Node does not run.
pub fn visible_strings() -> Vec<Visible> {
    let root = Path::new(env!("CARGO_MANIFEST_DIR")).join("../..");
    let mut all: Vec<Visible> = CRATES
        .iter()
        .flat_map(|name| sources(&root.join("crates").join(name).join("src")))
        .flat_map(|path| rust_strings(&root, &path))
        .collect();
    let node = Command::new("node").arg("strings.mjs").current_dir(root.join("web")).output();
    let node = node.unwrap_or_else(|error| panic!("node strings.mjs: {error}"));
    assert!(node.status.success(), "{}", String::from_utf8_lossy(&node.stderr));
    let lines = String::from_utf8_lossy(&node.stdout).into_owned();
    all.extend(lines.lines().filter_map(|line| serde_json::from_str::<Visible>(line).ok()));
    all.sort_by(|one, other| (&one.file, one.line).cmp(&(&other.file, other.line)));
    all
}

fn sources(folder: &Path) -> Vec<PathBuf> {
    let entries = fs::read_dir(folder).unwrap_or_else(|error| panic!("{}: {error}", folder.display()));
    let mut found = Vec::new();
    for path in entries.filter_map(|entry| Some(entry.ok()?.path())) {
        match path.is_dir() {
            true => found.extend(sources(&path)),
            false if path.extension().is_some_and(|extension| extension == "rs") => found.push(path),
            false => (),
        }
    }
    found
}

fn rust_strings(root: &Path, path: &Path) -> Vec<Visible> {
    let text = fs::read_to_string(path).unwrap_or_else(|error| panic!("{}: {error}", path.display()));
    let file = syn::parse_file(&text).unwrap_or_else(|error| panic!("{}: {error}", path.display()));
    let name = path.strip_prefix(root).unwrap_or(path).display().to_string();
    let mut strings = Strings { file: name, source: &text, at: 0, names: false, found: Vec::new() };
    strings.visit_file(&file);
    strings.found
}

struct Strings<'a> {
    file: String,
    source: &'a str,
    /// Up to where the source was read.
    at: usize,
    /// True in a function that gives names or words, where a single word is visible too.
    names: bool,
    found: Vec<Visible>,
}

impl Strings<'_> {
    /// Adds a literal, which stands in the source as `written`.
    fn add(&mut self, text: &str, written: &str) {
        if let Some(found) = self.source.get(self.at..).and_then(|rest| rest.find(written)) {
            self.at += found + written.len();
        }
        let line = 1 + self.source.get(..self.at).unwrap_or_default().matches('\n').count();
        let text = text.split_whitespace().collect::<Vec<_>>().join(" ");
        if is_visible(&text, self.names) {
            self.found.push(Visible { file: self.file.clone(), line, text: holes(&text) });
        }
    }

    /// Line after a line break at which a text stands.
    fn line_of(&self, text: &str) -> usize {
        let before = self.source.split(text).next().unwrap_or_default();
        2 + before.matches('\n').count()
    }

    fn add_all(&mut self, tokens: TokenStream) {
        for token in tokens {
            match token {
                TokenTree::Group(group) => self.add_all(group.stream()),
                TokenTree::Literal(literal) => {
                    if let Ok(text) = syn::parse_str::<syn::LitStr>(&literal.to_string()) {
                        self.add(&text.value(), &literal.to_string());
                    }
                }
                _ => (),
            }
        }
    }
}

/// True of a sentence, a name, or a part of one, and among `names` of a single word; false of identifiers, addresses, SQL and
/// file formats.
fn is_visible(text: &str, names: bool) -> bool {
    let letters = text.chars().filter(|letter| letter.is_alphabetic()).count();
    let is_sentence = names || text.contains(' ') || text.starts_with(char::is_uppercase);
    let is_code =
        ["SELECT ", "INSERT ", "UPDATE ", "DELETE ", "CREATE ", "PRAGMA", "DROP ", "ALTER ", "WITH "]
            .iter()
            .any(|sql| text.contains(sql))
            || text.contains("::")
            || text.starts_with(['/', '<', '#'])
            || text.chars().all(|letter| letter.is_uppercase() || !letter.is_alphabetic());
    letters > 1 && is_sentence && !is_code
}

/// `{name:.1}` as `{}`.
fn holes(text: &str) -> String {
    let mut plain = String::new();
    let mut depth = 0;
    for letter in text.chars() {
        match letter {
            '{' => {
                depth += 1;
                if depth == 1 {
                    plain.push_str("{}");
                }
            }
            '}' => depth = (depth - 1).max(0),
            _ if depth == 0 => plain.push(letter),
            _ => (),
        }
    }
    plain
}

fn is_test(attributes: &[syn::Attribute]) -> bool {
    attributes.iter().any(|attribute| {
        attribute.path().is_ident("test")
            || attribute.path().is_ident("cfg")
                && attribute.parse_args::<syn::Ident>().is_ok_and(|ident| ident == "test")
    })
}

impl<'ast> Visit<'ast> for Strings<'_> {
    fn visit_item_mod(&mut self, item: &'ast syn::ItemMod) {
        if !is_test(&item.attrs) {
            visit::visit_item_mod(self, item);
        }
    }

    fn visit_item_fn(&mut self, item: &'ast syn::ItemFn) {
        if !is_test(&item.attrs) {
            visit::visit_item_fn(self, item);
        }
    }

    fn visit_signature(&mut self, signature: &'ast syn::Signature) {
        let name = signature.ident.to_string();
        self.names = NAMING.iter().any(|part| name.split('_').any(|word| word == *part));
        visit::visit_signature(self, signature);
    }

    fn visit_item_enum(&mut self, item: &'ast syn::ItemEnum) {
        // The identifier of a choice is its name where it has no other.
        let derives = |attribute: &syn::Attribute| {
            attribute.path().is_ident("derive")
                && matches!(&attribute.meta, syn::Meta::List(list) if list.tokens.to_string().contains("IntoStaticStr"))
        };
        if item.attrs.iter().any(derives) {
            for variant in &item.variants {
                let name = variant.ident.to_string();
                let line = self.line_of(&format!("\n    {name}"));
                let mut words = String::new();
                for letter in name.chars() {
                    if letter.is_uppercase() && !words.is_empty() {
                        words.push(' ');
                    }
                    words.extend(letter.to_lowercase());
                }
                self.found.push(Visible { file: self.file.clone(), line, text: words });
            }
        }
        visit::visit_item_enum(self, item);
    }

    fn visit_attribute(&mut self, attribute: &'ast syn::Attribute) {
        // Of attributes only the words of an error are read.
        if attribute.path().is_ident("error")
            && let syn::Meta::List(list) = &attribute.meta
        {
            self.add_all(list.tokens.clone());
        }
    }

    fn visit_macro(&mut self, call: &'ast syn::Macro) {
        let name = call.path.segments.last().map(|segment| segment.ident.to_string());
        if !name.is_some_and(|name| UNSEEN.contains(&name.as_str())) {
            self.add_all(call.tokens.clone());
        }
    }

    fn visit_expr_method_call(&mut self, call: &'ast syn::ExprMethodCall) {
        if call.method != "expect" {
            visit::visit_expr_method_call(self, call);
        }
    }

    fn visit_lit_str(&mut self, literal: &'ast syn::LitStr) {
        self.add(&literal.value(), &literal.token().to_string());
    }
}
