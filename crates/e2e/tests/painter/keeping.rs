//! Nothing is lost: undo, reload, two tabs.

use crate::put_on_the_bench;
use serde_json::Value;
use warm_blend_e2e::Painter;

#[tokio::test]
async fn undo_goes_back_across_a_reload() {
    let painter = Painter::at_the_demo().await;
    put_on_the_bench(&painter, "toasted straw").await;
    painter.reads("2 : 1 : 2, 5 parts").await;
    painter.click("button", "One part more of brick dust").await;
    painter.reads("2 : 2 : 2, 6 parts").await;
    painter.click("button", "Simplest parts").await;
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
    let painter = Painter::at_the_demo().await;
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
    painter.reads("was changed in another tab").await;
    assert_eq!(parts().await, "4 : 1 : 2", "theirs was not overwritten");
    painter.reads("2 : 2 : 2, 6 parts").await;
    painter.click("button", "Take theirs").await;
    painter.reads("4 : 1 : 2, 7 parts").await;

    painter.click("button", "One part less of fern").await;
    painter.saved().await;
    elsewhere().await;
    painter.click("button", "One part more of brick dust").await;
    painter.reads("was changed in another tab").await;
    painter.click("button", "Keep mine").await;
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
    let painter = Painter::at_the_demo().await;
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
    painter.reads("Nothing was undone: something else was changed in the meantime").await;
    painter.the("button", "Undo adding rain").await;
    assert_eq!(painter.value("textbox", "Name").await, "fern green");
    painter.leave().await;
}
