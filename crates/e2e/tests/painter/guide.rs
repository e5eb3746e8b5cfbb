//! A painter who has never seen the program: the first hour, the words, why a colour is predicted, and practice.

use thirtyfour::{By, Key};
use warm_blend_e2e::{Hand, Painter};

use crate::put_on_the_bench;

/// The step of the first hour that is at hand.
async fn at_step(painter: &Painter, words: &str) {
    let found = async || {
        let line = painter.driver.find(By::Css("aside[aria-label='First hour']")).await;
        match line {
            Ok(line) => line.text().await.is_ok_and(|text| text.contains(words)),
            Err(_) => false,
        }
    };
    painter.until(&format!("the step is “{words}”"), found).await;
}

/// Where the marker points: the name of what it frames.
async fn marked(painter: &Painter, mark: &str) {
    let ask = "
        const marker = document.querySelector('[data-testid=marker]');
        const thing = document.querySelector(`[data-mark='${arguments[0]}']`);
        if (!marker || !thing) return false;
        const [a, b] = [marker.getBoundingClientRect(), thing.getBoundingClientRect()];
        return Math.abs(a.x - b.x) < 2 && Math.abs(a.y - b.y) < 2;";
    let framed = async || {
        let answer = painter.driver.execute(ask, vec![mark.into()]).await;
        answer.is_ok_and(|answer| answer.json().as_bool().unwrap_or(false))
    };
    painter.until(&format!("the marker frames “{mark}”"), framed).await;
}

#[tokio::test]
async fn the_first_hour_leads_to_the_first_day() {
    the_first_hour(Painter::at_an_empty_bench().await).await;
}

#[tokio::test]
async fn the_first_hour_goes_by_keys_alone() {
    let painter = Painter::at_an_empty_bench().await;
    painter.size(1024, 768).await;
    the_first_hour(painter.by(Hand::Keys).await).await;
}

#[tokio::test]
async fn the_first_hour_goes_by_finger_on_a_phone() {
    let painter = Painter::at_an_empty_bench().await;
    painter.size(390, 844).await;
    the_first_hour(painter.by(Hand::Finger).await).await;
}

/// On a phone a paint's page stands where its shelf was; the marker leads back.
async fn back_to_the_shelf(painter: &Painter) {
    let alone = async || !painter.names("button").await.contains(&"Add a paint".to_owned());
    if alone().await {
        marked(painter, "close").await;
        painter.click("button", "Close").await;
    }
}

/// From an empty file to the first step that is ticked off, following the line at the top.
async fn the_first_hour(painter: Painter) {
    painter.open("/").await;
    at_step(&painter, "Add your house white").await;
    marked(&painter, "screen /shelf").await;
    painter.click("link", "Show me").await;
    marked(&painter, "add a paint").await;
    painter.click("button", "Add a paint").await;
    painter.the("textbox", "Name").await;
    painter.press("lime white").await;
    // No code on this tin: the chart, and then the eye.
    painter.click("button", "On a chart").await;
    painter.click("button", "ivory").await;
    painter.gone("dialog", "Colour from the chart").await;
    assert_eq!(painter.value("textbox", "Hex code").await, "#f2ead7");
    // By eye, although the chart has given a colour: a detour that does not count.
    let before = painter.clicks();
    painter.click("button", "By eye").await;
    painter.click("radio", "Small steps").await;
    painter.click("button", "lighter").await;
    painter.click("button", "Use this colour").await;
    let detour = painter.clicks() - before;
    painter.until("the colour moved", async || painter.value("textbox", "Hex code").await != "#f2ead7").await;
    marked(&painter, "add to shelf").await;
    painter.click("button", "Add to shelf").await;
    painter.reads("it is the house white").await;
    at_step(&painter, "Add a base colour").await;
    for (name, colour) in [("dune", "sand"), ("harbour", "navy")] {
        back_to_the_shelf(&painter).await;
        painter.click("button", "Add a paint").await;
        painter.the("textbox", "Name").await;
        painter.press(name).await;
        painter.click("button", "On a chart").await;
        painter.click("button", colour).await;
        painter.click("button", "Add to shelf").await;
        painter.the("button", "Delete this paint").await;
    }
    at_step(&painter, "Make a tint test").await;
    marked(&painter, "first test").await;
    painter.click("button", "Tint 1 : 1").await;
    painter.click("radio", "Practise").await;
    painter.click("button", "Read it").await;
    painter.click("button", "Save reading").await;
    painter.reads("Mixes with harbour: now ±").await;
    painter.click("button", "Done").await;
    at_step(&painter, "Mix and pour").await;
    painter.click("link", "Show me").await;
    marked(&painter, "paints").await;
    painter.click("button", "harbour").await;
    painter.click("button", "lime white").await;
    painter.click("button", "Start pouring").await;
    painter.click("button", "All 125 ml").await;
    painter.reads("Last: 125 ml harbour").await;
    painter.click("button", "All 125 ml").await;
    painter.reads("Last: 125 ml lime white").await;
    painter.click("button", "Finish pouring").await;
    at_step(&painter, "Make a sample board").await;
    let clicks = painter.clicks() - detour;
    assert!(clicks <= 30, "{clicks} clicks to the first mix");
    painter.click("link", "Show me").await;
    painter.the("button", "Create board").await;
    // A finish that lacks a medium offers to add it.
    painter.click("button", "Add glazing liquid").await;
    painter.reads("glazing liquid is on the shelf").await;
    painter.click("button", "Create board").await;
    painter.the("image", "Strip A as it will look").await;
    at_step(&painter, "Dress a piece").await;
    painter.click("link", "Show me").await;
    marked(&painter, "kinds of piece").await;
    painter.click("button", "Chest of drawers").await;
    painter.reads("Nothing painted yet").await;
    painter.choose("Finish", "new board").await;
    painter.click("button", "Dress every part like this").await;
    at_step(&painter, "Tick off a step").await;
    painter.click("link", "Show me").await;
    marked(&painter, "tick").await;
    let first = painter.names("button").await.into_iter().find(|name| name.starts_with("Done: ")).unwrap();
    painter.click("button", &first).await;
    at_step(&painter, "That was the first hour").await;
    painter.click("button", "Close").await;
    painter.gone("complementary", "First hour").await;
    painter.leave().await;
}

/// By keys alone, and with a will of its own: skipped, put away, taken up again; what is done is known.
#[tokio::test]
async fn the_first_hour_is_skipped_put_away_and_taken_up_by_keys() {
    let painter = Painter::at_an_empty_bench().await;
    painter.open("/shelf").await;
    at_step(&painter, "Add your house white").await;
    painter.tab_to("button", "Add a paint").await;
    painter.press(Key::Enter).await;
    painter.the("textbox", "Name").await;
    painter.press("harbour").await;
    painter.tab_to("button", "On a chart").await;
    painter.press(Key::Enter).await;
    painter.tab_to("button", "navy").await;
    painter.press(Key::Enter).await;
    painter.gone("dialog", "Colour from the chart").await;
    painter.tab_to("button", "Add to shelf").await;
    painter.press(Key::Enter).await;
    painter.the("button", "Delete this paint").await;
    // A strong colour is no white.
    at_step(&painter, "Add your house white").await;
    painter.tab_to("button", "Skip").await;
    painter.press(Key::Enter).await;
    at_step(&painter, "Add a base colour").await;
    painter.tab_to("button", "Not now").await;
    painter.press(Key::Enter).await;
    painter.gone("complementary", "First hour").await;
    painter.open("/pot").await;
    painter.the("heading", "Empty pot").await;
    painter.gone("complementary", "First hour").await;
    painter.tab_to("button", "Help").await;
    painter.press(Key::Enter).await;
    painter.tab_to("button", "Show me the first steps").await;
    painter.press(Key::Enter).await;
    at_step(&painter, "Add your house white").await;
    // A reload changes nothing.
    painter.open("/log").await;
    at_step(&painter, "Add your house white").await;
    painter.leave().await;
}

/// With a finger: the line and its buttons, on a phone.
#[tokio::test]
async fn the_first_steps_fit_a_phone() {
    let painter = Painter::at_an_empty_bench().await;
    painter.size(390, 844).await;
    painter.with_touchscreen().await;
    painter.open("/").await;
    at_step(&painter, "Add your house white").await;
    let wide = painter.driver.execute("return document.documentElement.scrollWidth", vec![]).await.unwrap();
    assert!(wide.json().as_u64().unwrap() <= 390, "{}", wide.json());
    let link = painter.the("link", "Show me").await;
    let place = link.rect().await.unwrap();
    let at = (place.x + place.width / 2.0, place.y + place.height / 2.0);
    painter.touch("touchStart", &[at]).await;
    painter.touch("touchEnd", &[]).await;
    marked(&painter, "add a paint").await;
    let violations = painter.violations().await;
    assert!(violations.is_empty(), "{violations:#?}");
    painter.leave().await;
}

/// A prediction says what it rests on, and leads to the test that helps.
#[tokio::test]
async fn a_colour_says_why() {
    let painter = Painter::at_the_demo().await;
    put_on_the_bench(&painter, "toasted straw").await;
    painter.click("button", "Why?").await;
    painter.the("dialog", "Why this colour?").await;
    painter.reads("Least sure: how strong brick dust is").await;
    painter.reads("would bring this mix from").await;
    painter.the("region", "Readings it rests on").await;
    painter.reads("Without it:").await;
    painter.click("link", "Test it").await;
    painter.the("heading", "brick dust").await;
    // A term says what it means where it stands.
    painter.click("button", "tint strength").await;
    painter.reads("How much a paint changes what it is mixed with").await;
    painter.press(Key::Escape).await;
    // A step of the run sheet says what its time is made of, down to the table or one's own pace.
    painter.open("/run-sheet").await;
    painter.reads("Why this long?").await;
    let why = painter.driver.find(By::XPath("//summary[.='Why this long?']")).await.unwrap();
    why.click().await.unwrap();
    painter.reads("min to get ready and clean up, then").await;
    painter.reads("a tenth more stays in brush and tray").await;
    // So does a price, and its figures are changed where they stand.
    painter.click("radio", "Cost").await;
    let price = async || {
        let rows = painter.driver.find_all(By::Css("details > summary")).await.unwrap();
        let mut found = String::new();
        for row in rows {
            let text = row.text().await.unwrap_or_default();
            if text.contains("Asking price") {
                found = text;
            }
        }
        found
    };
    let before = price().await;
    painter
        .driver
        .find(By::XPath("//summary[contains(., 'Paints and products')]"))
        .await
        .unwrap()
        .click()
        .await
        .unwrap();
    painter.the("link", "slate blue").await;
    painter.driver.find(By::XPath("//summary[contains(., 'Work, ')]")).await.unwrap().click().await.unwrap();
    painter.write("textbox", "Hourly rate", "55").await;
    painter.press(Key::Tab).await;
    painter.until("the price follows", async || price().await != before).await;
    painter.click("button", "Undo").await;
    painter.until("it is the old price", async || price().await == before).await;
    // And a verdict says whether other tins would change it.
    painter.open("/piece").await;
    let why = painter.driver.find(By::XPath("//summary[.='Why?']"));
    painter.reads("clash").await;
    why.await.unwrap().click().await.unwrap();
    painter.reads("give or take").await;
    painter.reads("Least sure: ").await;
    painter.leave().await;
}

/// A round of practice by keys: eight questions, and the level is on the list afterwards.
#[tokio::test]
async fn a_round_is_practised() {
    let painter = Painter::at_the_demo().await;
    let history = painter.meanwhile("GET", "/api/history", serde_json::Value::Null).await;
    painter.open("/practice").await;
    painter.the("image", "Eleven greys from black to white").await;
    let violations = painter.violations().await;
    assert!(violations.is_empty(), "{violations:#?}");
    painter.the("button", "Start: halfway between").await;
    painter.click("button", "Lighter or darker").await;
    for question in 0..8 {
        painter.reads(&format!("{question} of 8 answered")).await;
        painter.reads("Which is lighter, and by how much?").await;
        let choices = painter.names("button").await;
        let first = choices.into_iter().find(|name| name.contains(", by ")).unwrap();
        painter.tab_to("button", &first).await;
        painter.press(Key::Enter).await;
        let next = if question == 7 { "See how it went" } else { "Next" };
        painter.the("button", next).await;
        painter.reads(" lighter.").await;
        // The cursor is on it already.
        painter.press(Key::Enter).await;
    }
    painter.reads("of 8 right").await;
    painter.click("button", "Back to practice").await;
    painter.the("button", "Start: halfway between").await;
    assert_eq!(painter.meanwhile("GET", "/api/history", serde_json::Value::Null).await, history);
    painter.leave().await;
}

/// The practice card is made, printed, painted, read back; what it says of the hand is kept.
#[tokio::test]
async fn a_practice_card_shows_the_hand() {
    let painter = Painter::at_the_demo().await;
    painter.open("/practice").await;
    painter.click("button", "Make a practice card").await;
    painter.the("heading", "Practice card").await;
    painter.until("six strips", async || painter.text().await.matches("paint here").count() == 6).await;
    painter.reads("hardly any paint on the brush").await;
    painter.reads("wiped hard").await;
    let violations = painter.violations().await;
    assert!(violations.is_empty(), "{violations:#?}");
    assert!(painter.pages_on_paper().await <= 2);
    painter.click("link", "The board").await;
    painter.the("image", "Strip A as it will look").await;
    painter.click("button", "Why?").await;
    painter.reads("Least sure").await;
    painter.reads("how much your touch leaves and covers").await;
    painter.escape("Why this look?").await;
    painter.click("radio", "Read the real board").await;
    for place in ["flat", "recess", "edge"] {
        painter.click("button", &format!("Read the {place}")).await;
        painter.reads(&format!("{place}: predicted, then 1 read")).await;
    }
    painter.click("button", "Calibrate to me from these 3 spots").await;
    painter.reads("Your touch on this board").await;
    painter.open("/practice").await;
    painter.the("link", "Open the practice card").await;
    painter.leave().await;
}
