//! The template of a stencil as it lies on paper, measured in the printed file.

use lopdf::{Document, Object, content::Content};
use serde_json::{Value, json};
use warm_blend_e2e::Painter;

/// Millimetres in a point.
const MM: f64 = 25.4 / 72.0;

/// Straight lines on a page, in mm from a corner of the paper.
fn lines(pdf: &Document, page: lopdf::ObjectId) -> Vec<[(f64, f64); 2]> {
    let content = Content::decode(&pdf.get_page_content(page)).unwrap();
    let number = |object: &Object| f64::from(object.as_float().unwrap());
    let (mut at, mut saved) = ([1.0, 0.0, 0.0, 1.0, 0.0, 0.0], Vec::new());
    let (mut last, mut lines) = ((0.0, 0.0), Vec::new());
    for operation in &content.operations {
        let of: Vec<f64> = match operation.operator.as_str() {
            "cm" | "m" | "l" => operation.operands.iter().map(number).collect(),
            _ => Vec::new(),
        };
        let placed = |x: f64, y: f64| (at[0] * x + at[2] * y + at[4], at[1] * x + at[3] * y + at[5]);
        match operation.operator.as_str() {
            "q" => saved.push(at),
            "Q" => at = saved.pop().unwrap_or(at),
            "cm" => {
                let [a, b, c, d, e, f] = of[..] else { panic!("a matrix") };
                at = [
                    a * at[0] + b * at[2],
                    a * at[1] + b * at[3],
                    c * at[0] + d * at[2],
                    c * at[1] + d * at[3],
                    e * at[0] + f * at[2] + at[4],
                    e * at[1] + f * at[3] + at[5],
                ];
            }
            "m" => last = placed(of[0], of[1]),
            "l" => {
                let next = placed(of[0], of[1]);
                lines.push([(last.0 * MM, last.1 * MM), (next.0 * MM, next.1 * MM)]);
                last = next;
            }
            _ => {}
        }
    }
    lines
}

/// The rings of a drawer front, 120 mm across, print at 120 mm; the check line is 100 mm long; a motif larger than paper goes over several
/// sheets.
#[tokio::test]
async fn a_template_prints_at_its_size() {
    let painter = Painter::at_the_demo().await;
    let piece = painter.meanwhile("GET", "/api/piece", Value::Null).await;
    let mut entry = piece["entry"].clone();
    let pot = entry["schemes"][0]["wears"]["fall"]["stencil"]["pot"].clone();
    let ring = |size: f64| json!({"motif": "ring", "size": size, "pot": pot});
    entry["schemes"][0]["wears"]["panels"]["stencil"] = ring(120.0);
    entry["schemes"][0]["wears"]["top"] = json!({"wears": {"paint": {"pot": pot}}, "stencil": ring(250.0), "ageing": entry["schemes"][0]["wears"]["fall"]["ageing"]});
    let path = format!("/api/pieces/{}?revision={}", piece["id"].as_str().unwrap(), piece["revision"]);
    let kept = painter.meanwhile("PUT", &path, entry).await;
    assert!(kept["revision"].is_i64(), "{kept}");

    painter.open("/piece").await;
    painter.click("button", "Panels").await;
    painter.click("link", "Template to print").await;
    painter.the("image", "Rings at true size").await;
    let violations = painter.violations().await;
    assert!(violations.is_empty(), "{violations:#?}");
    let pdf = Document::load_mem(&painter.on_paper().await).unwrap();
    let pages: Vec<_> = pdf.get_pages().into_values().collect();
    assert_eq!(pages.len(), 1);
    let lines = lines(&pdf, pages[0]);
    let long = |[(x0, y0), (x1, y1)]: &[(f64, f64); 2]| (x1 - x0).hypot(y1 - y0);
    let check = lines.iter().map(long).find(|length| (length - 100.0).abs() < 0.2);
    assert!(check.is_some(), "no line of 100 mm among {}", lines.len());
    // A ring touches all four sides of its square: its outline, of short pieces, is as wide and as high.
    let outline = lines.iter().filter(|line| long(line) < 2.0).flatten();
    let (mut x, mut y) = ((f64::MAX, f64::MIN), (f64::MAX, f64::MIN));
    for (px, py) in outline {
        x = (x.0.min(*px), x.1.max(*px));
        y = (y.0.min(*py), y.1.max(*py));
    }
    assert!((x.1 - x.0 - 120.0).abs() < 0.6 && (y.1 - y.0 - 120.0).abs() < 0.6, "{x:?} {y:?}");

    painter.open("/piece/template?zone=top").await;
    painter.the("image", "Rings at true size").await;
    assert_eq!(painter.pages_on_paper().await, 4);
    painter.open("/piece/template?zone=legs").await;
    painter.reads("there is no pattern on this part").await;
    painter.leave().await;
}
