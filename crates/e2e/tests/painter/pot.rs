//! Mixing in the Pot.

use crate::{aim_at_a_photo, put_on_the_bench};
use serde_json::Value;
use thirtyfour::prelude::*;
use warm_blend_e2e::Painter;

/// 3 : 1 of two demo paints by mouse: seen to change in another light, named, found again after a reload.
#[tokio::test]
async fn three_to_one_by_mouse() {
    let painter = Painter::at_the_demo().await;
    painter.click("link", "Pot").await;
    painter.click("button", "dove grey").await;
    painter.click("button", "night blue").await;
    painter.the("spinbutton", "Parts of night blue").await;
    let even = painter.fill("image", "Mix").await;
    painter.click("button", "One part more of dove grey").await;
    painter.click("button", "One part more of dove grey").await;
    painter.reads("3 : 1, 4 parts").await;
    painter.until("the mix shows three to one", async || painter.fill("image", "Mix").await != even).await;
    let daylight = painter.fill("image", "Mix").await;

    painter.click("radio", "Bulb").await;
    painter.reads("in bulb, dry").await;
    painter
        .until("the mix is seen by the bulb", async || painter.fill("image", "Mix").await != daylight)
        .await;
    let by_bulb = painter.fill("image", "Mix").await;

    painter.write("textbox", "Name of the mix", "case, first try").await;
    painter.click("button", "One part more of night blue").await;
    painter.click("button", "One part less of night blue").await;
    painter.saved().await;
    painter.driver.refresh().await.unwrap();
    painter.reads("3 : 1, 4 parts").await;
    assert_eq!(painter.value("textbox", "Name of the mix").await, "case, first try");
    painter.until("the bulb is still on", async || painter.fill("image", "Mix").await == by_bulb).await;

    painter.open("/pot").await;
    painter.click("tab", "Mixes 4").await;
    painter.click("link", "case, first try").await;
    assert_eq!(painter.value("spinbutton", "Parts of dove grey").await, "3");
    assert_eq!(painter.value("spinbutton", "Parts of night blue").await, "1");
    painter.leave().await;
}

/// Paints that are picked in one breath, before the mix of the first is on the screen, are all in one mix.
#[tokio::test]
async fn paints_picked_in_one_breath_are_one_mix() {
    let painter = Painter::at_the_demo().await;
    painter.click("link", "Pot").await;
    painter.the("button", "dove grey").await;
    let picked = "const named = (name) => [...document.querySelectorAll('button')].find((button) => button.textContent.includes(name));
        for (const name of ['dove grey', 'night blue', 'barley']) named(name).click();";
    painter.driver.execute(picked, Vec::new()).await.unwrap();
    for paint in ["dove grey", "night blue", "barley"] {
        painter.the("spinbutton", &format!("Parts of {paint}")).await;
    }
    painter.reads("1 : 1 : 1, 3 parts").await;
    painter.open("/pot").await;
    painter.click("tab", "Mixes 4").await;
    painter.leave().await;
}

/// The same without touching the mouse.
#[tokio::test]
async fn three_to_one_by_keyboard_alone() {
    let painter = Painter::at_the_demo().await;
    painter.the("heading", "Shelf").await;
    painter.alt('3').await;
    painter.tab_to("button", "dove grey").await;
    painter.press(Key::Enter).await;
    painter.the("spinbutton", "Parts of dove grey").await;
    painter.tab_to("button", "night blue").await;
    painter.press(Key::Enter).await;
    painter.tab_to("spinbutton", "Parts of dove grey").await;
    painter.press(Key::Up).await;
    painter.press(Key::Up).await;
    painter.reads("3 : 1, 4 parts").await;
    let daylight = painter.fill("image", "Mix").await;

    // On the joint of the bar, an arrow moves one part across and another brings it back.
    painter.tab_to("slider", "Divider between dove grey and night blue").await;
    painter.press(Key::Left).await;
    painter.reads("2 : 2, 4 parts").await;
    painter.press(Key::Right).await;
    painter.reads("3 : 1, 4 parts").await;

    painter.alt('l').await;
    painter.reads("in sun, dry").await;
    painter.until("the sun changes it", async || painter.fill("image", "Mix").await != daylight).await;
    painter.tab_to("textbox", "Name of the mix").await;
    painter.press("by keys").await;
    painter.press(Key::Enter).await;
    painter.saved().await;
    painter.driver.refresh().await.unwrap();
    painter.reads("3 : 1, 4 parts").await;

    // Eight teaspoons of it, still by keys: six and two.
    painter.tab_to("textbox", "Batch").await;
    painter.control('a').await;
    painter.press("8").await;
    painter.tab_to("combobox", "Batch in").await;
    painter.press(Key::Enter).await;
    painter.the("option", "tsp").await;
    painter.press("tsp").await;
    painter.press(Key::Enter).await;
    painter.reads("6 tsp dove grey").await;
    painter.reads("2 tsp night blue").await;
    painter.reads("rounding won’t show").await;

    // Away to the shelf, and back to the mix by typing its name.
    painter.alt('2').await;
    painter.the("heading", "Shelf").await;
    painter.control('k').await;
    painter.the("combobox", "Screen, paint, mix or light").await;
    painter.press("by keys").await;
    painter.the("option", "by keys").await;
    painter.press(Key::Enter).await;
    painter.reads("3 : 1, 4 parts").await;
    assert_eq!(painter.value("textbox", "Name of the mix").await, "by keys");
    painter.leave().await;
}

#[tokio::test]
async fn a_joint_is_dragged_and_snaps_to_whole_parts() {
    let painter = Painter::at_the_demo().await;
    put_on_the_bench(&painter, "drift blue for the case").await;
    painter.reads("5 : 1, 6 parts").await;
    painter.reads("than the target").await;
    let verdict = painter.text().await;
    painter.click("button", "Double the parts").await;
    painter.reads("10 : 2, 12 parts").await;
    let joint = painter.the("slider", "Divider between slate blue and barley").await;
    // The bar is 892 px of 12 parts: 130 px to the right is nearly two parts, which is held back at the last part.
    let hand = painter.driver.action_chain().move_to_element_center(&joint).click_and_hold();
    hand.move_by_offset(60, 0).move_by_offset(70, 0).release().perform().await.unwrap();
    painter.reads("11 : 1, 12 parts").await;
    painter.saved().await;
    painter.until("the verdict follows", async || painter.text().await != verdict).await;
    painter.driver.refresh().await.unwrap();
    painter.reads("11 : 1, 12 parts").await;
    painter.leave().await;
}

#[tokio::test]
async fn a_target_is_set_judged_and_taken_away() {
    let painter = Painter::at_the_demo().await;
    put_on_the_bench(&painter, "toasted straw").await;
    painter.click("button", "Set a target").await;
    painter.write("textbox", "Hex code", "#9a9a5").await;
    painter.reads("a hex code has 3, 6 or 8 digits").await;
    painter.write("textbox", "Hex code", "#9a9a5e").await;
    painter.click("button", "Done").await;
    painter.reads("than the target").await;
    painter.reads("ΔE00").await;
    assert_eq!(painter.fill("image", "Target, #9a9a5e").await, "rgba(154, 154, 94, 1)");
    painter.saved().await;
    painter.click("button", "Target").await;
    painter.click("button", "Clear target").await;
    painter.gone("image", "Target").await;
    painter.leave().await;
}

/// From a colour in a photo to a recipe of the shelf, and into the pot.
#[tokio::test]
async fn a_colour_in_a_photo_is_matched() {
    let painter = Painter::at_the_demo().await;
    put_on_the_bench(&painter, "toasted straw").await;
    painter.click("radio", "Match").await;
    painter.reads("Set a target first").await;
    aim_at_a_photo(&painter, [110, 122, 96]).await;
    painter.reads("Best of every mix of your 14 paints.").await;
    let recipes =
        painter.names("button").await.into_iter().filter(|name| name.starts_with("Use this recipe: "));
    let best = recipes.clone().next().expect("a recipe");
    assert!(recipes.count() >= 6);
    // How far off it is likely to be stands first, then how it would differ.
    let (recipe, shown) = best.split_once(" Likely within ").unwrap_or_else(|| panic!("not ranked: {best}"));
    let likely: f64 = shown.split([' ', ',']).next().unwrap().parse().unwrap();
    assert!(likely <= 3.0 && (shown.contains("a hair") || shown.contains("no difference")), "{shown}");
    let best = recipe.to_owned();

    // Without what the best is made of, another comes first; with it again, the same.
    let first =
        best.trim_start_matches("Use this recipe: ").split_once(' ').unwrap().1.split(" : ").next().unwrap();
    let first = first.trim().to_owned();
    painter.choose("Paint to leave out", &first).await;
    painter.reads("Best of every mix of your 13 paints.").await;
    painter.gone("button", &best).await;
    painter.click("button", &format!("Without {first}")).await;
    painter.reads("Best of every mix of your 14 paints.").await;

    painter.click("button", &best).await;
    painter.saved().await;
    painter.click("radio", "Mix").await;
    painter.the("spinbutton", &format!("Parts of {first}")).await;
    painter.driver.refresh().await.unwrap();
    painter.the("spinbutton", &format!("Parts of {first}")).await;
    painter.reads("Target left, mix right.").await;
    painter.leave().await;
}

/// Three shades darker, for a glaze over what is in the pot, in one touch.
#[tokio::test]
async fn three_shades_darker_is_one_touch() {
    let painter = Painter::at_the_demo().await;
    put_on_the_bench(&painter, "drift blue for the case").await;
    painter.click("radio", "Ladder").await;
    painter.the("radio", "The base").await;
    painter.reads("3 shades darker").await;
    painter.reads("hue shift").await;
    painter.write("textbox", "One shade, L*", "40").await;
    painter.reads("a shade must be 1 to 20 L*").await;
    painter.write("textbox", "One shade, L*", "5").await;
    // The pot is L* 48.2.
    let shade = async || -> f64 {
        let text = painter.text().await;
        let (_, after) = text.split_once("of its shade, L* ").unwrap_or_default();
        after.split(',').next().and_then(|lightness| lightness.parse().ok()).unwrap_or(f64::NAN)
    };
    painter.until("the ladder has shades of 5", async || (shade().await - (48.2 - 15.0)).abs() < 1.5).await;
    painter.settled().await;
    // By keys: from three darker to two, and back.
    painter.the("radio", "3 shades darker").await.focus().await.unwrap();
    painter
        .hold(Key::Right, "the keys go from three darker to two", async || {
            painter.text().await.contains("2 shades darker")
        })
        .await;
    painter.click("radio", "3 shades darker").await;
    let laddered = shade().await;
    painter.click("button", "Mix it").await;
    painter.the("tab", "Mixes 4").await;
    painter
        .until("the new mix has its name", async || {
            painter.value("textbox", "Name of the mix").await == "drift blue for the case, 3 shades darker"
        })
        .await;
    // The new mix is the shade that the ladder showed.
    painter.reads(&format!("L* {laddered:.1}")).await;
    painter.leave().await;
}

/// Blue and yellow turn green on one brush; a green of the shelf bridges them.
#[tokio::test]
async fn a_blend_says_what_lies_between() {
    let painter = Painter::at_the_demo().await;
    put_on_the_bench(&painter, "drift blue for the case").await;
    painter.click("radio", "Blend").await;
    painter.click("combobox", "Blend into").await;
    painter.click("option", "mustard seed").await;
    painter.reads("turns green in between").await;
    painter.reads("Use a brush for each").await;
    painter.click("button", "Add fern between").await;
    painter.the("region", "From drift blue for the case to fern").await;
    painter.the("region", "From fern to mustard seed").await;
    painter.click("button", "mustard seed (remove it from the blend)").await;
    painter.gone("region", "From fern to mustard seed").await;
    painter.leave().await;
}

/// The pot is off: what to add next is said, and when it has been added the pot is nearer. Undo takes it back.
#[tokio::test]
async fn a_pot_is_brought_nearer() {
    let painter = Painter::at_the_demo().await;
    put_on_the_bench(&painter, "drift blue for the case").await;
    painter.the("region", "Bring it nearer").await;
    // One addition is as likely to do as two: it is the next one and the last.
    painter.reads("Next: add").await;
    painter.reads("Gives likely within").await;
    let off = async || {
        let text = painter.text().await;
        let (_, after) = text.split_once("Target left, mix right. ΔE00 ").expect("a verdict");
        after.split(' ').next().unwrap().parse::<f64>().unwrap()
    };
    let before = off().await;
    let way =
        painter.names("button").await.into_iter().rfind(|name| name.starts_with("I added it ")).unwrap();
    painter.click("button", &way).await;
    painter.until("the pot is nearer", async || off().await < 0.5 * before).await;
    painter.saved().await;
    painter.click("button", "Undo changing drift blue for the case").await;
    painter.reads("5 : 1, 6 parts").await;
    painter.leave().await;
}

/// A dab of the pot is read: what it teaches is said, and the doubt of the mix is less than before.
#[tokio::test]
async fn a_dab_of_the_pot_teaches() {
    let painter = Painter::at_the_demo().await;
    put_on_the_bench(&painter, "drift blue for the case").await;
    painter.reads(", ±").await;
    let band = async || {
        let text = painter.text().await;
        let (_, after) = text.split_once(", ±").expect("a band");
        let number = |c: char| c.is_ascii_digit() || c == '.';
        after.chars().take_while(|c| number(*c)).collect::<String>().parse::<f64>().expect("a number")
    };
    let before = band().await;
    assert!(before > 1.4, "±{before} before anything was read");
    painter.click("button", "Read a dab").await;
    painter.click("button", "Read it").await;
    painter.click("button", "Save reading").await;
    painter.the("list", "What it taught").await;
    painter.click("button", "Done").await;
    // A mix that the reader has read is known.
    painter.until("the mix is known", async || band().await <= 1.4).await;
    painter.click("button", "Undo adding a reading").await;
    painter.until("it is as it was", async || band().await == before).await;
    painter.leave().await;
}

/// An empty pot starts from a colour to match, and takes a recipe of the shelf.
#[tokio::test]
async fn an_empty_pot_starts_from_a_target() {
    let painter = Painter::at_the_demo().await;
    painter.open("/pot").await;
    painter.click("button", "Start from a target").await;
    painter.write("textbox", "Hex code", "#8a7b63").await;
    painter.click("button", "Done").await;
    painter.reads("Best of every mix").await;
    painter.click("button", "Use this recipe").await;
    painter.reads("than the target").await;
    painter.saved().await;
    painter.leave().await;
}

/// A named mix is copied into a scumble, with what the shelf lacks put on it in one touch, and stays as it was; the film over a ground
/// is seen; too much water is warned of.
#[tokio::test]
async fn a_mix_is_made_into_a_scumble() {
    let painter = Painter::at_the_demo().await;
    put_on_the_bench(&painter, "toasted straw").await;
    painter.choose("Make it into", "Scumble").await;
    painter.reads("No acrylic scumble or water on the shelf.").await;
    painter.click("button", "Add to shelf").await;
    painter.reads("2 : 1 : 2 : 5 : 5, 15 parts").await;
    assert_eq!(painter.value("textbox", "Name of the mix").await, "toasted straw, scumble");
    let mixes = painter.meanwhile("GET", "/api/mixes", Value::Null).await;
    let straw = mixes.as_array().unwrap().iter().find(|mix| mix["entry"]["name"] == "toasted straw");
    assert_eq!(straw.expect("it is still there")["entry"]["components"].as_array().unwrap().len(), 3);
    painter.the("region", "Film over a ground").await;
    painter.click("combobox", "Over which ground").await;
    painter.click("option", "over night blue").await;
    painter.reads("lighter").await;
    painter.write("spinbutton", "Parts of water", "60").await;
    painter.press(Key::Enter).await;
    painter.reads("Too much water").await;
    painter.choose("Make it into", "Paint, without").await;
    painter.reads("2 : 1 : 2, 5 parts").await;
    painter.gone("region", "Film over a ground").await;
    painter.leave().await;
}
