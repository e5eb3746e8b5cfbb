//! Somebody who opens the program for the first time.

use warm_blend_e2e::Painter;

/// Two paints, a tint test, a mix, a pour, a board, a piece and its run sheet: at most thirty clicks, with what is typed aside.
#[tokio::test]
async fn the_newcomers_path_is_short() {
    let painter = Painter::at_an_empty_bench().await;
    painter.open("/").await;
    painter.the("heading", "What is it?").await;
    painter.click("link", "Shelf").await;
    for (name, hex) in [("house white", "#f0ede6"), ("sea blue", "#2f5f8e")] {
        painter.click("button", "Add a paint").await;
        // The name has the cursor already.
        painter.the("textbox", "Name").await;
        painter.press(name).await;
        painter.write("textbox", "Hex code", hex).await;
        painter.click("button", "Add to shelf").await;
        painter.the("button", "Delete this paint").await;
    }
    painter.click("button", "Tint 1 : 1").await;
    painter.click("radio", "Practise").await;
    painter.click("button", "Read it").await;
    painter.click("button", "Save reading").await;
    painter.reads("Mixes with sea blue: now ±").await;
    painter.click("button", "Done").await;

    painter.click("link", "Pot").await;
    painter.click("button", "sea blue").await;
    painter.click("button", "house white").await;
    painter.click("button", "Start pouring").await;
    painter.click("button", "All 125 ml").await;
    painter.reads("Last: 125 ml sea blue").await;
    painter.click("button", "All 125 ml").await;
    painter.reads("Last: 125 ml house white").await;
    painter.click("button", "Finish pouring").await;
    painter.reads("Pot finished").await;

    painter.click("link", "Board").await;
    painter.click("button", "Create board").await;
    painter.the("image", "Strip A as it will look").await;

    painter.click("link", "Piece").await;
    painter.click("button", "Chest of drawers").await;
    painter.reads("Nothing painted yet").await;
    painter.click("combobox", "Finish").await;
    painter.click("option", "new board").await;
    painter.click("button", "Dress every part like this").await;
    painter.until("it is painted", async || !painter.text().await.contains("Nothing painted yet")).await;

    painter.click("link", "Run sheet").await;
    painter.reads("Ready on").await;
    let clicks = painter.clicks();
    assert!(clicks <= 30, "{clicks} clicks");
    painter.leave().await;
}
