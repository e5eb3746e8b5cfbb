//! Two browsers on one workspace: the painter's own machine, and another that was let in.

use std::net::TcpListener;

use serde_json::{Value, json};
use thirtyfour::Key;
use warm_blend_e2e::Painter;

use crate::put_on_the_bench;

/// Turns the network on, on the page, and says under which address other machines find it.
async fn turn_on(painter: &Painter) -> String {
    painter.click("button", "Network").await;
    painter.reads("Off: only this machine opens your work.").await;
    let free = TcpListener::bind("0.0.0.0:0").unwrap().local_addr().unwrap().port();
    painter.write("textbox", "Your name", "Ada").await;
    painter.write("textbox", "Port", "80").await;
    painter.click("button", "Turn on").await;
    painter.reads("port from 1024 to 65535").await;
    painter.write("textbox", "Port", &free.to_string()).await;
    painter.click("button", "Turn on").await;
    painter.reads("On. Nobody is let in yet.").await;
    format!("https://localhost:{free}")
}

/// Makes a code for somebody, on the page.
async fn code_for(painter: &Painter, name: &str, role: &str) -> String {
    painter.write("textbox", "Name", name).await;
    painter.click("radio", role).await;
    painter.click("button", "Make a code").await;
    painter.the("image", "Square code with the address and the code").await;
    let network = painter.meanwhile("GET", "/api/network", Value::Null).await;
    let code = network["invitation"]["code"].as_str().unwrap().to_owned();
    painter.reads(&code).await;
    code
}

async fn join(visitor: &Painter, code: &str) {
    visitor.write("textbox", "Code shown on the workshop’s machine", code).await;
    visitor.click("button", "Join").await;
    visitor.the("link", "Shelf").await;
}

#[tokio::test]
async fn a_helper_joins_and_both_edit_one_mix() {
    let painter = Painter::at_the_demo().await;
    let address = turn_on(&painter).await;
    let code = code_for(&painter, "Robin", "A helper, who may change things").await;
    assert_eq!(painter.violations().await, Vec::<String>::new());

    let helper = Painter::at_another_machine(&address).await;
    let words = helper.the("list", "Words of this workshop").await.text().await.unwrap();
    assert_eq!(painter.the("list", "Words of this workshop").await.text().await.unwrap(), words);
    assert_eq!(helper.violations().await, Vec::<String>::new());
    helper.write("textbox", "Code shown on the workshop’s machine", "1234").await;
    helper.click("button", "Join").await;
    helper.reads("this code is wrong").await;
    join(&helper, &code).await;
    painter.reads("On. One other machine is let in.").await;
    painter.the("button", "Shut out Robin").await;

    // Each sees what the other saves.
    put_on_the_bench(&helper, "toasted straw").await;
    put_on_the_bench(&painter, "toasted straw").await;
    helper.write("textbox", "Name of the mix", "straw for the chairs").await;
    helper.press(Key::Enter).await;
    let shown = async |who: &Painter| who.value("textbox", "Name of the mix").await;
    painter.until("the name has come", async || shown(&painter).await == "straw for the chairs").await;
    // Both at once: the second is asked, and nothing is written over.
    painter.the("textbox", "Name of the mix").await;
    let mixes = painter.meanwhile("GET", "/api/mixes", Value::Null).await;
    let mix = mixes.as_array().unwrap().iter().find(|mix| mix["entry"]["name"] == "straw for the chairs");
    let (id, revision) = (mix.unwrap()["id"].as_str().unwrap().to_owned(), mix.unwrap()["revision"].clone());
    let mut entry = mix.unwrap()["entry"].clone();
    entry["name"] = json!("straw, by Ada");
    helper.write("textbox", "Name of the mix", "straw, by Robin").await;
    painter.meanwhile("PUT", &format!("/api/mixes/{id}?revision={revision}"), entry).await;
    helper.press(Key::Enter).await;
    helper
        .until("one of the two stands on both", async || {
            let both = (shown(&helper).await, shown(&painter).await);
            let asked = helper.text().await.contains("was also changed elsewhere");
            asked || both.0 == both.1
        })
        .await;
    if helper.text().await.contains("was also changed elsewhere") {
        helper.click("button", "Use the other version").await;
    }
    helper.until("both see the same", async || shown(&helper).await == shown(&painter).await).await;

    // The log says who did what.
    helper.click("button", "night blue").await;
    helper.saved().await;
    helper.click("link", "Log").await;
    helper.write("textbox", "Note", "Two coats on the chairs").await;
    helper.click("button", "Add note").await;
    painter.click("link", "Log").await;
    painter.reads("Two coats on the chairs").await;
    painter.reads("Robin").await;

    // Shut out, it is asked for a code again.
    painter.click("button", "Network").await;
    painter.click("button", "Shut out Robin").await;
    painter.click("button", "Shut out").await;
    helper.reads("Join the workshop").await;
    painter.reads("On. Nobody is let in yet.").await;
    helper.leave().await;
    painter.leave().await;
}

#[tokio::test]
async fn a_guest_looks_and_changes_nothing() {
    let painter = Painter::at_the_demo().await;
    let address = turn_on(&painter).await;
    let code = code_for(&painter, "The client", "A guest, who only looks, for a day").await;
    let before = painter.meanwhile("GET", "/api/history", Value::Null).await;
    let guest = Painter::at_another_machine(&address).await;
    // The camera has read the code from the square.
    guest.driver.goto(format!("{address}/shelf#{}", code.replace(' ', ""))).await.unwrap();
    guest
        .until("the code is there", async || {
            guest.value("textbox", "Code shown on the workshop’s machine").await == code.replace(' ', "")
        })
        .await;
    guest.click("button", "Join").await;
    guest.reads("You are looking as a guest").await;
    assert!(!guest.names("button").await.iter().any(|name| ["Network", "Backups"].contains(&&**name)));
    // Plays with a mix: it is predicted, and kept nowhere.
    put_on_the_bench(&guest, "toasted straw").await;
    guest.the("image", "Mix").await;
    let own = guest.fill("image", "Mix").await;
    guest.click("button", "night blue").await;
    guest.until("the mix looks different", async || guest.fill("image", "Mix").await != own).await;
    // What is asked for by a button is refused, with the reason.
    guest.click("link", "Shelf").await;
    guest.click("button", "Add a paint").await;
    guest.write("textbox", "Name", "rain").await;
    guest.click("button", "Add to shelf").await;
    guest.reads("you are a guest here").await;
    assert_eq!(painter.meanwhile("GET", "/api/history", Value::Null).await, before);
    guest.leave().await;
    painter.leave().await;
}

/// A pot is poured at the bench, and watched from the office.
#[tokio::test]
async fn a_pour_is_watched_from_the_other_screen() {
    let painter = Painter::at_the_demo_with_a_scale().await;
    let address = turn_on(&painter).await;
    let code = code_for(&painter, "Bench tablet", "A helper, who may change things").await;
    let tablet = Painter::at_another_machine(&address).await;
    join(&tablet, &code).await;
    put_on_the_bench(&tablet, "toasted straw").await;
    tablet.click("button", "Start pouring").await;
    tablet.reads("The pot is empty: pour the first paint").await;
    let mix = tablet.driver.current_url().await.unwrap().path().to_owned();
    painter.open(&mix).await;
    painter.reads("The pot is empty: pour the first paint").await;
    tablet.click("button", "Pour what is wanted").await;
    tablet
        .until("it is at rest", async || {
            let record = tablet.the("button", "Record").await;
            tablet.text().await.contains("At rest") && record.is_enabled().await.unwrap_or(false)
        })
        .await;
    tablet.click("button", "Record").await;
    painter
        .until("the other screen shows it", async || {
            painter
                .names("heading")
                .await
                .iter()
                .any(|name| name.contains("in the pot") && !name.starts_with('0'))
                && !painter.text().await.contains("The pot is empty")
        })
        .await;
    // Its label leads a phone that is let in to its page.
    let pots = painter.meanwhile("GET", "/api/pours", Value::Null).await;
    let pot = pots.as_array().unwrap().iter().find(|pot| pot["open"] == true).unwrap();
    let id = pot["id"].as_str().unwrap();
    let page = format!("/label/{id}");
    painter.open(&page).await;
    painter.choose("QR code", "Its page on a phone").await;
    painter.the("image", "QR code that opens this page").await;
    let label = painter.meanwhile("GET", &format!("/api/pours/{id}/label"), Value::Null).await;
    let leads_to = label["page"]["address"].as_str().unwrap().to_owned();
    assert!(leads_to.starts_with("https://") && leads_to.ends_with(&page), "{leads_to}");
    tablet.open(&page).await;
    tablet.reads("Label for").await;
    tablet.leave().await;
    painter.leave().await;
}
