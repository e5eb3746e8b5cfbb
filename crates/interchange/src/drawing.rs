//! Outlines for stencils, from a drawing in SVG or from a word, as SVG path data.
//!
//! Of a drawing, its filled shapes are taken: paths, polygons, rectangles, circles and ellipses, wherever groups and
//! transforms put them. What a stencil cannot hold is refused by name: scripts, links to other files, pictures and text.

use std::fmt::Write as _;

use roxmltree::{Document, Node};
use svgtypes::{PointsParser, SimplePathSegment, SimplifyingPathParser, Transform};

/// Largest drawing, bytes.
pub const LARGEST_DRAWING: usize = 256 * 1024;
/// Most letters of a word.
const LETTERS: usize = 24;
/// How deep groups may lie in each other.
const DEEPEST: usize = 64;
/// How far the handles of a quarter of a circle reach, as a share of its radius (A. Riškus, *Information Technology and Control* 35
/// (2006) 371).
const QUARTER: f64 = 0.551_915;

static LETTERING: &[u8] = include_bytes!("../fonts/bricolage-grotesque-bold.ttf");

/// A drawing or a word that cannot be a stencil.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum BadDrawing {
    /// Too large.
    #[error("the drawing is {0} kB; the most is {kb} kB; simplify its paths", kb = LARGEST_DRAWING / 1024)]
    TooLarge(usize),
    /// Not SVG.
    #[error("this is not an SVG drawing; export it as plain SVG")]
    Unreadable,
    /// Groups within groups without end.
    #[error("the drawing has too many groups within groups; ungroup it, then export it as plain SVG")]
    TooDeep,
    /// Something a stencil cannot hold.
    #[error("the drawing contains {0}; remove it, or turn it into paths, then export it as plain SVG")]
    Contains(&'static str),
    /// No shapes.
    #[error("the drawing has no filled shapes; draw closed paths, and turn strokes into outlines")]
    Empty,
    /// No letters.
    #[error("enter a word, up to {LETTERS} letters")]
    NoWord,
    /// A word of too many letters.
    #[error("{0} letters are too many; the most is {LETTERS}")]
    LongWord(usize),
    /// A letter that the lettering lacks.
    #[error(
        "the lettering has no “{0}”; use Latin letters, or bring the word as an SVG drawing with its letters turned into paths"
    )]
    NoLetter(char),
}

/// Path data of the filled shapes of a drawing; bare path data is taken as it is.
pub fn outline_of_drawing(svg: &str) -> Result<String, BadDrawing> {
    if svg.len() > LARGEST_DRAWING {
        return Err(BadDrawing::TooLarge(svg.len().div_ceil(1024)));
    }
    let text = svg.trim().trim_start_matches('\u{feff}');
    if text.starts_with(['M', 'm']) {
        return Ok(text.to_owned());
    }
    let drawing = Document::parse(text).map_err(|_| BadDrawing::Unreadable)?;
    let root = drawing.root_element();
    if root.tag_name().name() != "svg" {
        return Err(BadDrawing::Unreadable);
    }
    let mut path = String::new();
    take(root, Transform::default(), &mut path, 0)?;
    if path.is_empty() { Err(BadDrawing::Empty) } else { Ok(path) }
}

/// Adds what an element and those within it draw.
fn take(node: Node, around: Transform, path: &mut String, depth: usize) -> Result<(), BadDrawing> {
    if depth > DEEPEST {
        return Err(BadDrawing::TooDeep);
    }
    refuse(node)?;
    let own = |text: &str| text.parse::<Transform>().map_err(|_| BadDrawing::Unreadable);
    let own = node.attribute("transform").map(own).transpose()?.unwrap_or_default();
    let at = within(around, own);
    let number = |name: &str| node.attribute(name).and_then(|text| text.trim_end_matches("px").parse().ok());
    let length = |name: &str| number(name).unwrap_or(0.0f64);
    match node.tag_name().name() {
        // What is only defined is not drawn.
        "defs" | "metadata" | "title" | "desc" | "clipPath" | "mask" | "pattern" | "marker" | "symbol" => {
            return Ok(());
        }
        _ if node.attribute("display") == Some("none")
            || node.attribute("fill") == Some("none") && !is_group(node) =>
        {
            return Ok(());
        }
        "path" => add(node.attribute("d").unwrap_or_default(), at, path)?,
        "polygon" | "polyline" => {
            let points = PointsParser::from(node.attribute("points").unwrap_or_default());
            let all: Vec<String> = points.map(|(x, y)| format!("{x} {y}")).collect();
            if all.len() > 2 {
                add(&format!("M{}Z", all.join("L")), at, path)?;
            }
        }
        "rect" => {
            let (x, y, w, h) = (length("x"), length("y"), length("width"), length("height"));
            add(&format!("M{x} {y}h{w}v{h}h{}Z", -w), at, path)?;
        }
        "circle" => add(&ellipse(length("cx"), length("cy"), length("r"), length("r")), at, path)?,
        "ellipse" => add(&ellipse(length("cx"), length("cy"), length("rx"), length("ry")), at, path)?,
        _ => {}
    }
    node.children().filter(Node::is_element).try_for_each(|child| take(child, at, path, depth + 1))
}

fn is_group(node: Node) -> bool {
    matches!(node.tag_name().name(), "svg" | "g" | "a")
}

/// Refuses what a stencil cannot hold.
fn refuse(node: Node) -> Result<(), BadDrawing> {
    let what = match node.tag_name().name() {
        "script" => Some("a script"),
        "image" => Some("a picture"),
        "text" | "tspan" => Some("text"),
        "foreignObject" => Some("parts of a web page"),
        "use" => Some("copies of other shapes"),
        _ if node.attributes().any(|one| one.name().starts_with("on")) => Some("a script"),
        _ => None,
    };
    let linked = |one: roxmltree::Attribute| one.name() == "href" && !one.value().starts_with('#');
    let what = what.or_else(|| node.attributes().any(linked).then_some("a link to another file"));
    what.map_or(Ok(()), |what| Err(BadDrawing::Contains(what)))
}

/// A transform inside another.
fn within(outer: Transform, inner: Transform) -> Transform {
    Transform {
        a: outer.a * inner.a + outer.c * inner.b,
        b: outer.b * inner.a + outer.d * inner.b,
        c: outer.a * inner.c + outer.c * inner.d,
        d: outer.b * inner.c + outer.d * inner.d,
        e: outer.a * inner.e + outer.c * inner.f + outer.e,
        f: outer.b * inner.e + outer.d * inner.f + outer.f,
    }
}

fn ellipse(cx: f64, cy: f64, rx: f64, ry: f64) -> String {
    let (kx, ky) = (QUARTER * rx, QUARTER * ry);
    format!(
        "M{} {cy}c0 {ky} {} {ry} {} {ry}c{kx} 0 {rx} {} {rx} {}c0 {} {} {} {} {}c{} 0 {} {} {} {ry}Z",
        cx - rx,
        rx - kx,
        rx,
        ky - ry,
        -ry,
        -ky,
        kx - rx,
        -ry,
        -rx,
        -ry,
        -kx,
        -rx,
        ry - ky,
        -rx
    )
}

/// Adds path data in its place.
fn add(data: &str, at: Transform, path: &mut String) -> Result<(), BadDrawing> {
    let placed = |x: f64, y: f64| (at.a * x + at.c * y + at.e, at.b * x + at.d * y + at.f);
    let mut write = |letter: char, points: &[(f64, f64)]| {
        path.push(letter);
        for (x, y) in points {
            let (x, y) = placed(*x, *y);
            let _ = write!(path, "{x} {y} ");
        }
    };
    for segment in SimplifyingPathParser::from(data) {
        match segment.map_err(|_| BadDrawing::Unreadable)? {
            SimplePathSegment::MoveTo { x, y } => write('M', &[(x, y)]),
            SimplePathSegment::LineTo { x, y } => write('L', &[(x, y)]),
            SimplePathSegment::Quadratic { x1, y1, x, y } => write('Q', &[(x1, y1), (x, y)]),
            SimplePathSegment::CurveTo { x1, y1, x2, y2, x, y } => write('C', &[(x1, y1), (x2, y2), (x, y)]),
            SimplePathSegment::ClosePath => write('Z', &[]),
        }
    }
    Ok(())
}

/// Letters as path data, with y downwards.
struct Letters {
    path: String,
    x: f32,
}

impl Letters {
    fn write(&mut self, letter: char, points: &[(f32, f32)]) {
        self.path.push(letter);
        for (x, y) in points {
            let _ = write!(self.path, "{} {} ", x + self.x, -y);
        }
    }
}

impl ttf_parser::OutlineBuilder for Letters {
    fn move_to(&mut self, x: f32, y: f32) {
        self.write('M', &[(x, y)]);
    }

    fn line_to(&mut self, x: f32, y: f32) {
        self.write('L', &[(x, y)]);
    }

    fn quad_to(&mut self, x1: f32, y1: f32, x: f32, y: f32) {
        self.write('Q', &[(x1, y1), (x, y)]);
    }

    fn curve_to(&mut self, x1: f32, y1: f32, x2: f32, y2: f32, x: f32, y: f32) {
        self.write('C', &[(x1, y1), (x2, y2), (x, y)]);
    }

    fn close(&mut self) {
        self.write('Z', &[]);
    }
}

/// Path data of a word in the lettering that ships with the program.
pub fn outline_of_word(word: &str) -> Result<String, BadDrawing> {
    let word = word.trim();
    match word.chars().count() {
        0 => return Err(BadDrawing::NoWord),
        n if n > LETTERS => return Err(BadDrawing::LongWord(n)),
        _ => {}
    }
    let font = ttf_parser::Face::parse(LETTERING, 0).map_err(|_| BadDrawing::Unreadable)?;
    let mut letters = Letters { path: String::new(), x: 0.0 };
    for letter in word.chars() {
        let glyph = font.glyph_index(letter).ok_or(BadDrawing::NoLetter(letter))?;
        font.outline_glyph(glyph, &mut letters);
        letters.x += f32::from(font.glyph_hor_advance(glyph).unwrap_or(0));
    }
    if letters.path.is_empty() { Err(BadDrawing::NoWord) } else { Ok(letters.path) }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    /// Signed area of path data by Green's theorem, curves in 64 straight pieces.
    fn area(path: &str) -> f64 {
        let (mut sum, mut at, mut start) = (0.0, (0.0, 0.0), (0.0, 0.0));
        let mut to = |from: &mut (f64, f64), x: f64, y: f64| {
            sum += 0.5 * (from.0 * y - x * from.1);
            *from = (x, y);
        };
        for segment in SimplifyingPathParser::from(path) {
            match segment.unwrap() {
                SimplePathSegment::MoveTo { x, y } => (at, start) = ((x, y), (x, y)),
                SimplePathSegment::LineTo { x, y } => to(&mut at, x, y),
                SimplePathSegment::Quadratic { x1, y1, x, y } => {
                    let (x0, y0) = at;
                    for n in 1..=64 {
                        let t = f64::from(n) / 64.0;
                        let by = |a: f64, b: f64, c: f64| {
                            (1.0 - t) * ((1.0 - t) * a + t * b) + t * ((1.0 - t) * b + t * c)
                        };
                        to(&mut at, by(x0, x1, x), by(y0, y1, y));
                    }
                }
                SimplePathSegment::CurveTo { x1, y1, x2, y2, x, y } => {
                    let (x0, y0) = at;
                    for n in 1..=64 {
                        let t = f64::from(n) / 64.0;
                        let s = 1.0 - t;
                        let by = |a: f64, b: f64, c: f64, d: f64| {
                            s * s * s * a + 3.0 * s * s * t * b + 3.0 * s * t * t * c + t * t * t * d
                        };
                        to(&mut at, by(x0, x1, x2, x), by(y0, y1, y2, y));
                    }
                }
                SimplePathSegment::ClosePath => to(&mut at, start.0, start.1),
            }
        }
        sum
    }

    fn drawing(inside: &str) -> String {
        format!("<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 100 100'>{inside}</svg>")
    }

    proptest! {
        /// Shapes have the areas that geometry gives them, whatever moves them, and are scaled by the square of what scales them.
        #[test]
        fn shapes_have_their_areas(x in -50.0..50.0f64, w in 1.0..80.0f64, h in 1.0..80.0f64, turn in 0.0..360.0f64, scale in 0.2..4.0f64) {
            let place = format!("translate({x} 3) rotate({turn}) scale({scale})");
            let shapes = [
                (format!("<rect x='{x}' y='2' width='{w}' height='{h}'/>"), w * h),
                (format!("<ellipse cx='{x}' cy='5' rx='{w}' ry='{h}'/>"), std::f64::consts::PI * w * h),
                (format!("<circle r='{w}'/>"), std::f64::consts::PI * w * w),
                (format!("<polygon points='0,0 {w},0 0,{h}'/>"), 0.5 * w * h),
                (format!("<path d='m{x} 1 h{w} v{h} z'/>"), 0.5 * w * h),
            ];
            for (shape, expected) in shapes {
                let path = outline_of_drawing(&drawing(&format!("<g transform='{place}'><a>{shape}</a></g>"))).unwrap();
                let found = area(&path).abs() / (scale * scale);
                prop_assert!((found - expected).abs() < 2e-3 * expected + 1e-6, "{shape}: {found} for {expected}");
            }
        }

        /// Whatever is brought, it is refused in words or taken.
        #[test]
        fn nothing_breaks_it(text in "\\PC{0,200}") {
            let _ = outline_of_drawing(&text);
            let _ = outline_of_drawing(&drawing(&text));
            let _ = outline_of_word(&text);
        }
    }

    #[test]
    fn what_a_stencil_cannot_hold_is_refused_by_name() {
        let deep = format!("{}<rect width='1' height='1'/>{}", "<g>".repeat(100), "</g>".repeat(100));
        for (inside, why) in [
            ("<script>alert(1)</script><path d='M0 0h9v9z'/>", "a script"),
            ("<path onclick='x()' d='M0 0h9v9z'/>", "a script"),
            ("<image href='http://example.org/a.png'/>", "a picture"),
            ("<g><a href='file:///etc/passwd'><path d='M0 0h9v9z'/></a></g>", "a link to another file"),
            ("<text>moss</text>", "text"),
            ("<use href='#a'/>", "copies of other shapes"),
            ("<path d='M0 0h9v9z' fill='none'/>", "no filled shapes"),
            ("<line x1='0' y1='0' x2='9' y2='9'/>", "no filled shapes"),
            ("<path d='M0 0 wherever'/>", "not an SVG drawing"),
            ("<g transform='melt(3)'/>", "not an SVG drawing"),
            (deep.as_str(), "too many groups"),
        ] {
            let error = outline_of_drawing(&drawing(inside)).unwrap_err().to_string();
            assert!(error.contains(why), "{inside:.60}: {error}");
        }
        for (text, why) in [
            ("", "not an SVG drawing"),
            ("{}", "not an SVG drawing"),
            ("<html/>", "not an SVG drawing"),
            ("<!DOCTYPE svg [<!ENTITY a 'b'>]><svg>&a;</svg>", "not an SVG drawing"),
        ] {
            assert!(outline_of_drawing(text).unwrap_err().to_string().contains(why), "{text}");
        }
        let megabyte = drawing(&format!("<path d='M0 0{}z'/>", "l1 1".repeat(250_000)));
        assert!(outline_of_drawing(&megabyte).unwrap_err().to_string().contains("977 kB"));
    }

    /// A word has its letters side by side, each as it is alone; what the lettering lacks is named.
    #[test]
    fn a_word_is_its_letters() {
        let alone: f64 = ["m", "o", "s", "s"].iter().map(|one| area(&outline_of_word(one).unwrap())).sum();
        assert!((area(&outline_of_word("moss").unwrap()) / alone - 1.0).abs() < 1e-4);
        assert!(outline_of_word("Blüte & Œuvre").is_ok());
        assert_eq!(outline_of_word("ورد"), Err(BadDrawing::NoLetter('و')));
        assert_eq!(outline_of_word("🌿"), Err(BadDrawing::NoLetter('🌿')));
        assert_eq!(outline_of_word("  "), Err(BadDrawing::NoWord));
        assert_eq!(outline_of_word(&"a".repeat(25)), Err(BadDrawing::LongWord(25)));
    }
}
