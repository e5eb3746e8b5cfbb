//! Tins on the shelf, and files in and out of it.

use crate::put_on_the_bench;
use warm_blend_e2e::Painter;

#[tokio::test]
async fn a_tin_is_added_corrected_and_taken_away() {
    let painter = Painter::at_an_empty_bench().await;
    painter.the("heading", "Start with your white").await;
    painter.click("button", "Add a paint").await;
    painter.click("button", "Add to shelf").await;
    painter.reads("enter a name").await;
    painter.write("textbox", "Name", "house white").await;
    painter.write("textbox", "Hex code", "#f0ede").await;
    painter.reads("a hex code has 3, 6 or 8 digits, not 5").await;
    painter.write("textbox", "Hex code", "F0EDE6").await;
    painter.write("textbox", "Coats to cover", "two").await;
    painter.reads("“two” is not a number").await;
    painter.write("textbox", "Coats to cover", "2,5").await;
    painter.click("button", "Add to shelf").await;
    painter.reads("Covers in 2½ coats").await;
    painter.the("button", "Delete this paint").await;

    // Kept at once, without a button.
    painter.write("textbox", "Name", "chapel white").await;
    painter.saved().await;
    painter.driver.refresh().await.unwrap();
    painter.the("button", "chapel white").await;
    assert_eq!(painter.value("textbox", "Coats to cover").await, "2.5");

    // Nobody uses it: it goes without a question, and undo brings it back.
    painter.click("button", "Delete this paint").await;
    painter.the("heading", "Start with your white").await;
    painter.click("button", "Undo deleting chapel white").await;
    painter.the("button", "chapel white").await;
    painter.leave().await;
}

#[tokio::test]
async fn taking_away_a_used_tin_asks_first() {
    let painter = Painter::at_the_demo().await;
    painter.click("button", "slate blue").await;
    painter.click("button", "Delete this paint").await;
    painter.the("alertdialog", "Delete slate blue?").await;
    painter.reads("Used in the mix drift blue for the case").await;
    painter.click("button", "Keep it").await;
    painter.gone("alertdialog", "Delete slate blue?").await;
    painter.click("button", "Delete this paint").await;
    painter.click("button", "Delete").await;
    painter.reads("slate blue deleted").await;
    put_on_the_bench(&painter, "drift blue for the case").await;
    painter.reads("no longer on the shelf").await;
    painter.leave().await;
}

/// Two tins of the same paint become one: its mixes go over, and one step of undo parts them again.
#[tokio::test]
async fn two_tins_become_one() {
    let painter = Painter::at_the_demo().await;
    painter.click("button", "slate blue").await;
    painter.click("button", "Merge with…").await;
    painter.the("list", "The tin that stays").await;
    painter.click("button", "duck egg").await;
    painter.reads("slate blue merged into duck egg").await;
    painter.gone("button", "slate blue").await;
    put_on_the_bench(&painter, "drift blue for the case").await;
    painter.the("spinbutton", "Parts of duck egg").await;
    painter.control('z').await;
    // Undo leads to what it changed.
    painter.reads("Undone: ").await;
    put_on_the_bench(&painter, "drift blue for the case").await;
    painter.the("spinbutton", "Parts of slate blue").await;
    painter.leave().await;
}

/// A table of colours: what it would do is seen first, in percent it is asked about, and undo takes it out again.
#[tokio::test]
async fn a_file_is_looked_at_and_imported() {
    let painter = Painter::at_the_demo().await;
    painter.click("button", "Files").await;
    painter.click("menuitem", "Import a file…").await;
    painter.bring("Choose a file", "photo.csv", b"\x89PNG\r\n").await;
    painter.reads("this is a picture, not a table").await;
    painter.the("alert", "").await;
    let torn = b"name,hex\nsea glass,#9cb0a8\nmoss,#12\n";
    painter.bring("photo.csv", "torn.csv", torn).await;
    painter.reads("a hex code has").await;
    painter.the("button", "Import the other one").await;
    let file = "\u{feff}name;L*;a*;b*\r\nslate blue;42,5;-3,0;-13,0\r\nsea glass;70;-12;2\r\n";
    painter.bring("torn.csv", "card.csv", file.as_bytes()).await;
    painter.click("button", "By colour reader").await;
    painter.reads("1 new, 1 reading of a paint on the shelf").await;
    painter.click("button", "Cancel").await;
    painter.gone("dialog", "Import a file").await;
    painter.gone("button", "sea glass").await;

    painter.click("button", "Files").await;
    painter.click("menuitem", "Import a file…").await;
    painter.bring("Choose a file", "card.csv", file.as_bytes()).await;
    // Nothing says what read it: that is asked, and can be changed.
    painter.reads("The file does not say").await;
    painter.click("button", "By colour reader").await;
    painter.reads("a reading of slate blue, by colour reader").await;
    painter.choose("How it was measured", "From chips or codes").await;
    painter.reads("a reading of slate blue, from a colour card or code").await;
    painter.reads("a new paint, from a colour card or code").await;
    painter.click("button", "Import it").await;
    painter.reads("Undo removes it").await;
    painter.the("button", "sea glass").await;
    painter.control('z').await;
    painter.gone("button", "sea glass").await;
    painter.leave().await;
}

/// Thousands are thousands, what is no number says what to write, and a price waits for its tin with a word.
#[tokio::test]
async fn numbers_are_taken_as_they_are_meant() {
    let painter = Painter::at_the_demo().await;
    painter.open("/shelf").await;
    painter.click("button", "fern").await;
    painter.write("textbox", "Tin", " ").await;
    let left = async || {
        let tins = painter.meanwhile("GET", "/api/paints", serde_json::Value::Null).await;
        let fern =
            tins.as_array().unwrap().iter().find(|tin| tin["entry"]["name"] == "fern").unwrap().clone();
        fern["entry"].clone()
    };
    for (written, ml) in
        [("1,200", 1200.0), ("1.5", 1.5), ("0,125", 0.125), ("1,250.5", 1250.5), ("2 400", 2400.0)]
    {
        painter.write("textbox", "Amount left", written).await;
        painter.until(written, async || left().await["stock_ml"] == ml).await;
    }
    painter.write("textbox", "Amount left", "£300").await;
    painter.reads("“£300” is not a number; enter 300 alone").await;
    painter.write("textbox", "Amount left", "plenty").await;
    painter.reads("“plenty” is not a number; enter one like 61.2").await;
    painter.write("textbox", "Price", "18,50").await;
    painter.reads("Enter the tin size to save the price.").await;
    painter.write("textbox", "Tin", "750").await;
    painter.until("the price is kept", async || left().await["price"]["amount"] == 18.5).await;
    painter.leave().await;
}

/// What cannot be read of a brief is said, and takes nothing else with it.
#[tokio::test]
async fn a_brief_keeps_what_can_be_read() {
    let painter = Painter::at_the_demo().await;
    painter.open("/piece").await;
    painter.click("button", "Brief").await;
    painter.write("textbox", "Budget", "£300").await;
    painter.reads("“£300” is not a number; enter 300 alone").await;
    painter.write("textbox", "Client", "the new tenants").await;
    let brief = async || {
        painter.meanwhile("GET", "/api/piece", serde_json::Value::Null).await["entry"]["brief"].clone()
    };
    painter.until("the client is kept", async || brief().await["client"] == "the new tenants").await;
    painter.write("textbox", "Budget", "1,300").await;
    painter.until("the budget is kept", async || brief().await["budget"] == 1300.0).await;
    painter.leave().await;
}

/// Prices are in the workshop's currency, chosen beside any of them, and told so wherever something costs.
#[tokio::test]
async fn money_is_told_in_its_currency() {
    let painter = Painter::at_the_demo().await;
    put_on_the_bench(&painter, "toasted straw").await;
    painter.reads("costs €").await;
    painter.open("/shelf").await;
    painter.click("button", "fern").await;
    painter.choose("Currency", "Prices in GBP, British Pound").await;
    painter.the("button", "Undo changing workshop settings").await;
    put_on_the_bench(&painter, "toasted straw").await;
    painter.reads("costs £").await;
    painter.click("button", "Undo changing workshop settings").await;
    painter.reads("costs €").await;
    painter.leave().await;
}

/// A fan deck is more than is asked for at a time: all of it comes, and the last tin is found.
#[tokio::test]
async fn a_shelf_of_hundreds_comes_in_parts() {
    let painter = Painter::at_an_empty_bench().await;
    let tin = |i: u32| format!("tin {i};{};0;0\n", 20 + i % 70);
    let deck = format!("name;L*;a*;b*\n{}", (0..260).map(tin).collect::<String>());
    let send = "const [body, done] = arguments;
        fetch('/api/import?file=deck.csv&source=chip', {method: 'POST', body}).then(answer => answer.json()).then(done);";
    let shown = painter.driver.execute_async(send, vec![deck.into()]).await.unwrap();
    assert_eq!(shown.json()["summary"], "260 new, 0 readings of paints on the shelf, 0 left out");
    painter.driver.refresh().await.unwrap();
    painter.the("button", "tin 0").await;
    painter.click("button", "tin 259").await;
    assert_eq!(painter.value("textbox", "Name").await, "tin 259");
    painter.until("all of it is there", async || !painter.text().await.contains("more are coming")).await;
    painter.leave().await;
}
