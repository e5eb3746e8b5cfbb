//! Nothing is lost: undo, reload, two tabs.

use crate::put_on_the_bench;
use serde_json::Value;
use warm_blend_e2e::{Mishap, Painter};

/// Between a change elsewhere and hearing of it.
fn hear_nothing_of_others(painter: &Painter) {
    painter.line().fails(|_, path| (path == "/api/changes").then_some(Mishap::LoseRequest));
}

#[tokio::test]
async fn undo_goes_back_across_a_reload() {
    let painter = Painter::at_the_demo().await;
    put_on_the_bench(&painter, "toasted straw").await;
    painter.reads("2 : 1 : 2, 5 parts").await;
    painter.click("button", "One part more of brick dust").await;
    painter.reads("2 : 2 : 2, 6 parts").await;
    painter.click("button", "Simplify").await;
    painter.reads("1 : 1 : 1, 3 parts").await;
    painter.saved().await;
    painter.driver.refresh().await.unwrap();
    painter.click("button", "Undo changing toasted straw").await;
    painter.reads("2 : 2 : 2, 6 parts").await;
    painter.control('z').await;
    painter.reads("2 : 1 : 2, 5 parts").await;
    painter.click("button", "Redo changing toasted straw").await;
    painter.reads("2 : 2 : 2, 6 parts").await;
    painter.leave().await;
}

#[tokio::test]
async fn two_tabs_do_not_overwrite_each_other() {
    let painter = Painter::at_the_demo_on_a_line().await;
    hear_nothing_of_others(&painter);
    put_on_the_bench(&painter, "toasted straw").await;
    painter.reads("2 : 1 : 2, 5 parts").await;
    let address = painter.driver.current_url().await.unwrap();
    let path = format!("/api/mixes/{}", address.path_segments().unwrap().next_back().unwrap());
    // Another tab makes it four parts of the first paint.
    let elsewhere = async || {
        let kept = painter.meanwhile("GET", &path, Value::Null).await;
        let mut entry = kept["entry"].clone();
        entry["components"][0]["parts"] = 4.into();
        let changed = painter.meanwhile("PUT", &format!("{path}?revision={}", kept["revision"]), entry).await;
        assert_eq!(changed["entry"]["components"][0]["parts"], 4, "{changed}");
    };
    let parts = async || {
        let kept = painter.meanwhile("GET", &path, Value::Null).await;
        let components = kept["entry"]["components"].as_array().unwrap().clone();
        components.iter().map(|part| part["parts"].to_string()).collect::<Vec<_>>().join(" : ")
    };

    elsewhere().await;
    painter.click("button", "One part more of brick dust").await;
    painter.reads("was also changed elsewhere").await;
    assert_eq!(parts().await, "4 : 1 : 2", "theirs was not overwritten");
    painter.reads("2 : 2 : 2, 6 parts").await;
    painter.click("button", "Use the other version").await;
    painter.reads("4 : 1 : 2, 7 parts").await;

    painter.click("button", "One part less of fern").await;
    painter.saved().await;
    elsewhere().await;
    painter.click("button", "One part more of brick dust").await;
    painter.reads("was also changed elsewhere").await;
    painter.click("button", "Use this version").await;
    painter.saved().await;
    assert_eq!(parts().await, "3 : 2 : 2");
    // Theirs is one step back.
    painter.click("button", "Undo changing toasted straw").await;
    painter.reads("4 : 1 : 2, 7 parts").await;
    painter.leave().await;
}

/// What is still being typed is the change that is meant; what somebody else did in between is not.
#[tokio::test]
async fn undo_takes_back_what_its_button_says() {
    let painter = Painter::at_the_demo_on_a_line().await;
    hear_nothing_of_others(&painter);
    painter.open("/shelf").await;
    painter.click("button", "fern").await;
    painter.write("textbox", "Name", "fern green").await;
    painter.saved().await;
    painter.write("textbox", "Name", "fern grey").await;
    painter.click("button", "Undo changing fern green").await;
    painter.reads("Undone: changing fern grey").await;
    painter
        .until("the name of before is back", async || painter.value("textbox", "Name").await == "fern green")
        .await;
    painter.the("button", "Undo changing fern green").await;

    let rain = serde_json::json!({ "name": "rain", "class": "water" });
    painter.meanwhile("POST", "/api/paints", rain).await;
    painter.click("button", "Undo changing fern green").await;
    painter.reads("Couldn’t undo: something else has changed").await;
    painter.the("button", "Undo adding rain").await;
    assert_eq!(painter.value("textbox", "Name").await, "fern green");
    painter.leave().await;
}

/// An answer that no screen can draw takes one screen, not the rail beside it, and is asked for again.
#[tokio::test]
async fn a_screen_that_cannot_be_drawn_says_so() {
    let painter = Painter::at_the_demo().await;
    painter.open("/piece").await;
    painter.the("link", "Shelf").await;
    let mangle = "const ask = window.fetch;
        window.fetch = async (request, more) => {
            const answer = await ask(request, more);
            const mangled = new URL(request.url ?? request, location).pathname === '/api/paints';
            return mangled ? new Response('[{\"id\": 1}]', answer) : answer;
        };";
    painter.driver.execute(mangle, vec![]).await.unwrap();
    painter.click("link", "Shelf").await;
    painter.reads("This screen met something it cannot show").await;
    painter.reads("What was saved is safe.").await;
    painter.the("link", "Board").await;
    painter.click("button", "Try again").await;
    painter.the("button", "oat white").await;
    painter.leave().await;
}

/// The end of every list can be reached, however near the edge of the window it opens.
#[tokio::test]
async fn pick_lists_stay_within_the_window() {
    let painter = Painter::at_the_demo().await;
    for (width, height) in [(1280, 800), (1024, 768), (390, 844)] {
        painter.size(width, height).await;
        painter.open("/shelf").await;
        painter.click("button", "fern").await;
        let field = painter.the("combobox", "Type").await;
        for block in ["start", "center", "end"] {
            let scroll = format!("arguments[0].scrollIntoView({{block: '{block}'}})");
            painter.driver.execute(&scroll, vec![field.to_json().unwrap()]).await.unwrap();
            field.send_keys(" ").await.unwrap();
            painter.the("listbox", "").await;
            let within = "const list = document.querySelector('[role=listbox]').getBoundingClientRect();
                return list.top >= 0 && list.bottom <= window.innerHeight";
            let at = format!("{width}x{height}, {block}");
            painter
                .until(&at, async || {
                    painter.driver.execute(within, vec![]).await.unwrap().json() == &Value::Bool(true)
                })
                .await;
            painter.press(thirtyfour::Key::Escape).await;
        }
    }
    painter.leave().await;
}

/// What is deleted says so, with the way back beside it; every screen has its title, and the rail leads back to where one was.
#[tokio::test]
async fn what_is_deleted_comes_back_from_its_notice() {
    let painter = Painter::at_the_demo().await;
    put_on_the_bench(&painter, "toasted straw").await;
    painter.titled("Pot – Warm Blend").await;
    let here = painter.driver.current_url().await.unwrap();
    painter.click("link", "Shelf").await;
    // The pot, too, has a button named after each of its paints.
    painter.titled("Shelf – Warm Blend").await;
    painter.the("button", "oat white").await;
    painter.click("link", "Pot").await;
    painter.reads("2 : 1 : 2, 5 parts").await;
    assert_eq!(painter.driver.current_url().await.unwrap(), here);
    // From the screen itself the rail leads to where it begins.
    painter.click("link", "Pot").await;
    painter.the("heading", "Empty pot").await;
    painter.driver.back().await.unwrap();
    painter.reads("2 : 1 : 2, 5 parts").await;

    painter.click("button", "Delete this mix").await;
    painter.reads("toasted straw deleted").await;
    assert!(painter.names("button").await.contains(&"Undo".to_owned()));
    painter.click("button", "Undo").await;
    painter.reads("Undone: deleting toasted straw").await;
    put_on_the_bench(&painter, "toasted straw").await;
    painter.reads("2 : 1 : 2, 5 parts").await;
    painter.leave().await;
}
