//! Answers that come late or not at all, and where the cursor is afterwards.

use crate::put_on_the_bench;
use serde_json::{Value, json};
use warm_blend_e2e::Painter;
use warm_blend_server::{Workspace, serve};

/// From now on, what is asked of addresses that hold `part` is answered late by so many ms, or, as often as `lost` says, carried out and
/// not answered at all.
async fn trouble(painter: &Painter, part: &str, late: u32, lost: u32) {
    let patch = "const [part, late, lost] = arguments;
        let left = lost;
        const ask = window.fetch;
        window.fetch = async (request, more) => {
            const answer = await ask(request, more);
            if (!String(request.url ?? request).includes(part)) return answer;
            await new Promise(resolve => setTimeout(resolve, late));
            if (left-- > 0) throw new TypeError('the answer was lost');
            return answer;
        };";
    painter.driver.execute(patch, vec![json!(part), json!(late), json!(lost)]).await.unwrap();
}

/// Two taps in one moment, as of a wet thumb.
async fn tap_twice(painter: &Painter, button: &str) {
    let element = painter.the("button", button).await.to_json().unwrap();
    painter.driver.execute("arguments[0].click(); arguments[0].click();", vec![element]).await.unwrap();
}

/// What has the cursor, as a screen reader would say it.
async fn cursor(painter: &Painter) -> String {
    let ask = "const at = document.activeElement;
        return at === document.body ? 'nothing' : at.getAttribute('aria-label') ?? at.textContent.slice(0, 60);";
    painter.driver.execute(ask, vec![]).await.unwrap().json().as_str().unwrap_or_default().to_owned()
}

/// A pot in which two spoons of brick dust were recorded, and the answer lost on its way.
async fn spooned_without_an_answer(lost: u32) -> Painter {
    let painter = Painter::at_the_demo().await;
    put_on_the_bench(&painter, "toasted straw").await;
    painter.click("button", "Start pouring").await;
    painter.choose("Amounts in", "tsp").await;
    painter.click("radio", "brick dust").await;
    trouble(&painter, "/steps", 0, lost).await;
    painter.click("button", "2 tsp").await;
    painter
}

#[tokio::test]
async fn a_tap_whose_answer_was_lost_counts_once() {
    // The first request and its three automatic repeats.
    let painter = spooned_without_an_answer(4).await;
    painter.reads("Couldn’t record that: Warm Blend isn’t responding").await;
    painter.click("button", "2 tsp").await;
    painter.reads("Last: 2 tsp brick dust").await;
    let pots = painter.meanwhile("GET", "/api/pours", Value::Null).await;
    let open = pots.as_array().unwrap().iter().find(|pot| pot["open"] == true).unwrap();
    let pot =
        painter.meanwhile("GET", &format!("/api/pours/{}", open["id"].as_str().unwrap()), Value::Null).await;
    assert_eq!(pot["steps"].as_array().unwrap().len(), 1, "{pot}");
    // Another tap is another spoon.
    painter.click("button", "2 tsp").await;
    painter.reads("4 tsp").await;
    painter.leave().await;
}

/// Whoever went on after a lost answer, having seen that it was recorded, means another spoon by the same tap later.
#[tokio::test]
async fn a_tap_after_others_is_a_tap_of_its_own() {
    let painter = spooned_without_an_answer(1).await;
    painter.reads("Last: 2 tsp brick dust").await;
    painter.click("button", "1 tsp").await;
    painter.reads("Last: 1 tsp brick dust").await;
    painter.click("button", "2 tsp").await;
    painter.reads("Last: 2 tsp brick dust").await;
    painter.saved().await;
    let pots = painter.meanwhile("GET", "/api/pours", Value::Null).await;
    let open = pots.as_array().unwrap().iter().find(|pot| pot["open"] == true).unwrap();
    let address = format!("/api/pours/{}", open["id"].as_str().unwrap());
    let pot = painter.meanwhile("GET", &address, Value::Null).await;
    assert_eq!(pot["steps"].as_array().unwrap().len(), 3, "{pot}");
    painter.leave().await;
}

#[tokio::test]
async fn two_taps_begin_one_board_and_one_mix() {
    let painter = Painter::at_the_demo().await;
    let count =
        async |path: &str| painter.meanwhile("GET", path, Value::Null).await.as_array().unwrap().len();
    let (boards, mixes) = (count("/api/boards").await, count("/api/mixes").await);
    painter.open("/board").await;
    painter.write("textbox", "Name", "tapped twice").await;
    tap_twice(&painter, "Create board").await;
    painter.the("image", "Strip A as it will look").await;
    assert_eq!(count("/api/boards").await, boards + 1);
    painter.open("/pot").await;
    tap_twice(&painter, "fern").await;
    painter.the("spinbutton", "Parts of fern").await;
    assert_eq!(count("/api/mixes").await, mixes + 1);
    painter.leave().await;
}

/// What was changed while an answer was on its way stays changed.
#[tokio::test]
async fn a_late_answer_writes_over_nothing() {
    let painter = Painter::at_the_demo().await;
    put_on_the_bench(&painter, "toasted straw").await;
    // What has no name is changed where it stands.
    painter.write("textbox", "Name of the mix", "").await;
    painter.press(thirtyfour::Key::Delete).await;
    painter.press(thirtyfour::Key::Enter).await;
    painter.saved().await;
    trouble(&painter, "/api/bench/make-into", 1500, 0).await;
    painter.choose("Make it into", "Glaze, 4 to 1").await;
    painter.write("textbox", "Name of the mix", "straw glaze").await;
    painter.press(thirtyfour::Key::Enter).await;
    painter.the("spinbutton", "Parts of glazing liquid").await;
    painter.saved().await;
    let mixes = painter.meanwhile("GET", "/api/mixes", Value::Null).await;
    let glaze = mixes.as_array().unwrap().iter().find(|mix| mix["entry"]["name"] == "straw glaze");
    assert_eq!(glaze.expect("the name stayed")["entry"]["components"].as_array().unwrap().len(), 4);
    painter.leave().await;
}

#[tokio::test]
async fn a_prediction_that_fails_is_told_and_asked_for_again() {
    let painter = Painter::at_the_demo().await;
    painter.open("/board").await;
    painter.click("link", "aged drift blue for the case").await;
    painter.the("image", "Strip A as it will look").await;
    trouble(&painter, "/api/boards/preview", 0, 3).await;
    painter.click("radio", "Wet").await;
    painter.reads("Not predicted: Warm Blend isn’t responding").await;
    painter.click("button", "Try again").await;
    painter.until("it is predicted", async || !painter.text().await.contains("Not predicted")).await;
    painter.leave().await;
}

/// A shelf without the medium: one touch puts it there and makes the mixture, and undo takes all of it back at once.
#[tokio::test]
async fn one_touch_is_one_step_back() {
    let painter = Painter::at_an_empty_bench().await;
    let red = json!({"name": "gate red", "class": "chalk", "colour": {"hex": "#7a2e22"}});
    painter.meanwhile("POST", "/api/paints", red).await;
    painter.open("/pot").await;
    painter.click("button", "gate red").await;
    painter.choose("Make it into", "Glaze, 4 to 1").await;
    painter.click("button", "Add to shelf").await;
    painter.reads("glazing liquid").await;
    painter.reads("5 parts").await;
    painter.click("button", "Undo").await;
    painter.until("the pot is as it was", async || !painter.text().await.contains("5 parts")).await;
    let shelf = painter.meanwhile("GET", "/api/paints", Value::Null).await;
    assert_eq!(shelf.as_array().unwrap().len(), 1);
    painter.leave().await;
}

/// The target that is shown is the one that was chosen last, typed or picked.
#[tokio::test]
async fn a_chosen_target_takes_the_place_of_a_typed_one() {
    let painter = Painter::at_the_demo().await;
    put_on_the_bench(&painter, "toasted straw").await;
    painter.click("button", "Set a target").await;
    painter.write("textbox", "Hex code", "#123456").await;
    let fern = painter.meanwhile("GET", "/api/paints", Value::Null).await;
    let fern = fern.as_array().unwrap().iter().find(|paint| paint["entry"]["name"] == "fern").unwrap();
    let colour = fern["entry"]["colour"].clone();
    painter.choose("A paint to match", "fern").await;
    painter
        .until("the field shows the paint's colour", async || match colour["hex"].as_str() {
            Some(hex) => painter.value("textbox", "Hex code").await == hex,
            None => painter.names("textbox").await.iter().any(|name| name == "L*"),
        })
        .await;
    painter.leave().await;
}

#[tokio::test]
async fn the_cursor_stays_where_the_work_is() {
    let painter = Painter::at_the_demo().await;
    for (opener, title) in [("Help", "Help"), ("Find", "Find")] {
        painter.click("button", opener).await;
        painter.the("dialog", title).await;
        painter.press(thirtyfour::Key::Escape).await;
        painter.gone("dialog", title).await;
        assert_eq!(cursor(&painter).await, opener);
    }
    painter.open("/piece").await;
    for opener in ["Dimensions", "Brief"] {
        painter.click("button", opener).await;
        painter.click("button", "Close").await;
        painter.gone("dialog", opener).await;
        assert_eq!(cursor(&painter).await.trim(), opener);
    }
    // A mix that is deleted leaves the cursor on the screen it was on.
    put_on_the_bench(&painter, "toasted straw").await;
    painter.click("button", "Delete this mix").await;
    painter.reads("toasted straw deleted").await;
    painter.until("the cursor is somewhere", async || cursor(&painter).await != "nothing").await;
    painter.leave().await;
}

/// On some keyboards Alt makes a letter of a digit: who types it means it.
#[tokio::test]
async fn alt_writes_letters_where_somebody_types() {
    let painter = Painter::at_the_demo().await;
    painter.click("button", "fern").await;
    painter.click("textbox", "Hex code").await;
    let typed = "const send = key => document.activeElement.dispatchEvent(
            new KeyboardEvent('keydown', {key, code: 'Digit3', altKey: true, bubbles: true, cancelable: true}));
        return [send('#'), send('3')];";
    let heard = painter.driver.execute(typed, vec![]).await.unwrap();
    assert_eq!(heard.json(), &json!([true, false]), "a hash is typed, Alt 3 goes to the pot");
    painter.the("heading", "Empty pot").await;
    painter.leave().await;
}

/// Another program on the same file is shown on the page, and the notice can be closed.
#[tokio::test]
async fn a_second_program_on_the_file_is_told_on_the_page() {
    let painter = Painter::at_the_demo().await;
    let second = serve(Workspace::open(&painter.file()).unwrap(), 0).await.unwrap();
    painter.driver.goto(second.url()).await.unwrap();
    painter.reads("nother Warm Blend has this workspace file open").await;
    painter.the("link", "Client sheet").await;
    let none: Vec<String> = Vec::new();
    assert_eq!(painter.violations().await, none);
    painter.click("button", "Close this notice").await;
    painter.gone("button", "Close this notice").await;
    painter.leave().await;
}

/// A form that nobody has touched asks nothing that is refused.
#[tokio::test]
async fn an_untouched_form_is_refused_nothing() {
    let painter = Painter::at_an_empty_bench().await;
    painter.click("button", "Add a paint").await;
    painter.the("textbox", "Hex code").await;
    painter.write("textbox", "Name", "rain").await;
    painter.settled().await;
    let ask = "return performance.getEntriesByType('resource')
        .filter(one => one.responseStatus >= 400).map(one => one.name)";
    let refused = painter.driver.execute(ask, vec![]).await.unwrap();
    assert_eq!(refused.json(), &json!([]));
    // What is written is seen at once.
    painter.write("textbox", "Hex code", "#b08d57").await;
    painter.reads("L* 60").await;
    painter.leave().await;
}

/// A tab that is closed in the middle of a word asks nobody and waits for nothing: what was typed is kept all the same.
#[tokio::test]
async fn what_was_typed_last_goes_with_the_page() {
    let painter = Painter::at_the_demo().await;
    // A tablet asks nobody on the way out.
    let deaf = "addEventListener('beforeunload', event => event.stopImmediatePropagation());";
    let page = json!({"source": deaf});
    painter.driver.cdp().send_raw("Page.addScriptToEvaluateOnNewDocument", page).await.unwrap();
    painter.driver.refresh().await.unwrap();
    painter.click("button", "slate blue").await;
    let name = painter.the("textbox", "Name").await.to_json().unwrap();
    // The last letter and the end in one moment.
    let end = "const [field] = arguments;
        Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set.call(field, 'slate blue, the old tin');
        field.dispatchEvent(new Event('input', {bubbles: true}));
        setTimeout(() => { location.href = 'about:blank'; }, 20);";
    painter.driver.execute(end, vec![name]).await.unwrap();
    painter
        .until("the page is gone", async || {
            painter.driver.current_url().await.unwrap().as_str() == "about:blank"
        })
        .await;
    painter.open("/shelf").await;
    painter.the("button", "slate blue, the old tin").await;
    painter.leave().await;
}
