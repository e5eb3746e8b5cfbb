//! What stands on the screens is what `make strings` prints: it can be read aloud as a whole.

use std::collections::BTreeSet;

use serde_json::Value;
use warm_blend_e2e::{Painter, strings::visible_strings};

/// Days and months as a browser writes them.
const CALENDAR: &str = "Monday Tuesday Wednesday Thursday Friday Saturday Sunday Mon Tue Wed Thu Fri Sat Sun January February March April May
    June July August September October November December Jan Feb Mar Apr Jun Jul Aug Sep Sept Oct Nov Dec";

/// Words of three letters and more, in small letters.
fn words(text: &str) -> BTreeSet<String> {
    let apart = |c: char| !c.is_alphabetic() && c != '’' && c != '\'';
    let long = |word: &&str| word.chars().count() > 2;
    text.split(apart).map(|word| word.trim_matches('’')).filter(long).map(str::to_lowercase).collect()
}

/// What the painter has named.
async fn names(painter: &Painter) -> BTreeSet<String> {
    let mut names = BTreeSet::new();
    for list in ["/api/paints", "/api/mixes", "/api/boards", "/api/pieces"] {
        let all = painter.meanwhile("GET", list, Value::Null).await;
        for one in all.as_array().expect("a list") {
            let entry = if one["entry"].is_object() { &one["entry"] } else { one };
            names.extend(words(entry["name"].as_str().unwrap_or_default()));
            for scheme in entry["schemes"].as_array().into_iter().flatten() {
                names.extend(words(scheme["name"].as_str().unwrap_or_default()));
            }
        }
    }
    names
}

/// Every word on every screen stands in the printed list, or is the painter's own.
#[tokio::test]
async fn every_word_on_a_screen_is_in_the_printed_list() {
    let painter = Painter::at_the_demo().await;
    painter.the("button", "oat white").await;
    let mut known: BTreeSet<String> =
        visible_strings().iter().flat_map(|string| words(&string.text)).collect();
    assert!(known.len() > 1000, "{}", known.len());
    known.extend(words(CALENDAR));
    known.extend(names(&painter).await);
    let check = async |screen: &str| {
        let text = painter.text().await;
        let shown = words(&text);
        assert!(shown.len() > 30, "{screen}: {text}");
        let unknown: Vec<&String> = shown.difference(&known).collect();
        assert!(unknown.is_empty(), "{screen}: {unknown:?}");
    };
    check("shelf").await;
    painter.click("button", "oxblood").await;
    painter.reads("not used").await;
    check("one paint").await;
    painter.open("/pot").await;
    painter.click("tab", "Mixes 3").await;
    painter.click("link", "drift blue for the case").await;
    painter.reads("Enough for one layer").await;
    check("pot").await;
    for (tool, until) in [("Match", "Best of every mix"), ("Ladder", "hue shift")] {
        painter.click("radio", tool).await;
        painter.reads(until).await;
        check(tool).await;
    }
    painter.open("/board").await;
    painter.reads("Ready finishes").await;
    check("boards").await;
    painter.click("link", "aged drift blue for the case").await;
    painter.the("image", "Strip A as it will look").await;
    check("board").await;
    painter.open("/piece").await;
    painter.reads("Panels and mouldings clash").await;
    check("piece").await;
    painter.open("/run-sheet").await;
    painter.reads("Ready on").await;
    for beside in ["Mix", "Buy", "Tools", "Cost"] {
        painter.click("radio", beside).await;
        painter.settled().await;
        check(beside).await;
    }
    painter.leave().await;
}
