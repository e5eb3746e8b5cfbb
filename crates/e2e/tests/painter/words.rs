//! Every word on the screens stands in the list that `make strings` prints.

use std::collections::{BTreeMap, BTreeSet};

use serde_json::Value;
use warm_blend_e2e::{Painter, strings::visible_strings};

/// Text of the page, element by element, with everything that a screen reader says of it.
const TEXTS: &str = "
    const texts = [];
    for (const one of document.body.querySelectorAll('*')) {
        const own = [...one.childNodes].filter((node) => node.nodeType === Node.TEXT_NODE);
        if (own.length > 0 && one.checkVisibility()) texts.push(own.map((node) => node.data).join(''));
        for (const name of ['aria-label', 'title', 'placeholder', 'alt']) texts.push(one.getAttribute(name) ?? '');
    }
    return texts;";

/// Names of days, months and currencies, which the browser writes.
const CALENDAR: &str = "
    const words = new Set();
    for (let day = 0; day < 366; day += 1)
        for (const length of ['long', 'short'])
            for (const word of new Date(2026, 0, day + 1).toLocaleDateString('en', { weekday: length, month: length }).split(/[ ,]+/))
                words.add(word);
    return [...words, new Intl.DisplayNames('en', { type: 'currency' }).of('EUR')];";

/// Names that the painter of the demo gave, and codes of pots.
const GIVEN: &str = "
    const done = arguments[0];
    const lists = ['paints', 'mixes', 'boards', 'pieces', 'pours', 'jars'];
    Promise.all(lists.map((list) => fetch(`/api/${list}`).then((answer) => answer.json()))).then((all) => {
        const names = [];
        for (const one of all.flatMap((list) => list.jars ?? list)) names.push(one.name, one.entry?.name, one.client, one.place, one.code);
        done(names.filter(Boolean));
    });";

/// The words of a text: at least three letters, so that units are none.
fn words(text: &str) -> impl Iterator<Item = String> {
    text.split(|c: char| !c.is_alphabetic() && c != '’' && c != '\'')
        .map(|word| word.trim_matches(['’', '\'']).to_lowercase())
        .filter(|word| word.chars().count() > 2)
}

fn texts(of: &Value) -> impl Iterator<Item = &str> {
    of.as_array().into_iter().flatten().filter_map(Value::as_str)
}

#[tokio::test]
async fn every_word_is_in_the_printed_list() {
    let painter = Painter::at_the_demo().await;
    painter.the("button", "oat white").await;
    let mut known: BTreeSet<String> =
        visible_strings().iter().flat_map(|string| words(&string.text)).collect();
    let calendar = painter.driver.execute(CALENDAR, vec![]).await.expect("a calendar");
    let given = painter.driver.execute_async(GIVEN, vec![]).await.expect("names");
    for list in [calendar.json(), given.json()] {
        known.extend(texts(list).flat_map(words));
    }

    let mut unknown: BTreeMap<String, String> = BTreeMap::new();
    let mut read = 0;
    for (at, there) in [
        ("/shelf", "Delete this paint"),
        ("/pot", "Mixes"),
        ("/board", "Sample boards"),
        ("/piece", "Verdict"),
        ("/run-sheet", "Ready on"),
        ("/log", "Prediction accuracy"),
        ("/piece/sheet", "Care"),
        ("/jars", "unheated shed"),
        ("/piece/touch-up", "Clean and dry the spot"),
    ] {
        painter.open(at).await;
        if at == "/shelf" {
            painter.click("button", "fern").await;
            painter.the("button", there).await;
        }
        painter.drawn_finely().await;
        painter.settled().await;
        let seen = painter.driver.execute(TEXTS, vec![]).await.expect("texts");
        for text in texts(seen.json()) {
            read += 1;
            for word in words(text).filter(|word| !known.contains(word)) {
                unknown.entry(word).or_insert_with(|| format!("{at}: {}", text.trim()));
            }
        }
    }
    assert!(read > 500, "{read} texts");
    let unknown: Vec<String> = unknown.iter().map(|(word, text)| format!("{word} ({text})")).collect();
    assert!(unknown.is_empty(), "not in the list of `make strings`:\n{}", unknown.join("\n"));
    painter.leave().await;
}
