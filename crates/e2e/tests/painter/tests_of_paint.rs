//! Tests of a paint, and what they teach.

use thirtyfour::prelude::*;
use warm_blend_e2e::Painter;

/// From a hex code to a tested paint: what to test first and why, the tint with the simulated reader, and at once the band
/// of every mix that uses it is narrower. Undo forgets it again.
#[tokio::test]
async fn one_tint_test_narrows_every_mix() {
    let painter = Painter::at_an_empty_bench().await;
    for (name, hex) in [("house white", "#f0ede6"), ("sea blue", "#2f5f8e")] {
        painter.click("button", "Add a paint").await;
        painter.write("textbox", "Name", name).await;
        painter.write("textbox", "Hex code", hex).await;
        painter.click("button", "Add to shelf").await;
        painter.the("button", "Delete this paint").await;
    }
    painter.reads("Test next: A").await;
    painter.reads("A 1 : 1 tint with house white would make its mixes surer: ±").await;

    painter.alt('3').await;
    painter.click("button", "sea blue").await;
    painter.click("button", "house white").await;
    painter.reads("1 : 1, 2 parts").await;
    painter.click("button", "One part more of house white").await;
    painter.reads(", ±").await;
    painter.saved().await;
    let band = async || {
        let text = painter.text().await;
        let (_, after) = text.split_once(", ±").expect("a band");
        after
            .split(|c: char| c != '.' && !c.is_ascii_digit())
            .next()
            .unwrap()
            .trim_end_matches('.')
            .parse::<f64>()
            .unwrap()
    };
    let before = band().await;

    let start = std::time::Instant::now();
    painter.click("link", "Test sea blue").await;
    painter.click("button", "Tint 1 : 1").await;
    // Where tins are real the stand-in for a reader is chosen, and says that it is practice.
    painter.click("radio", "Practise").await;
    painter.reads("marked as practice").await;
    painter.click("button", "Read it").await;
    painter.click("button", "Save reading").await;
    painter.reads("Mixes with sea blue: now ±").await;
    painter.click("button", "Done").await;
    painter.reads("1 reading").await;
    let took = start.elapsed();
    assert!(took.as_secs() < 60, "{took:?}");
    // The pot is where it was left: the mix was not lost on the way to the test.
    painter.alt('3').await;
    painter.the("button", "One part more of house white").await;
    painter.until("the band is less than half of what it was", async || band().await < 0.5 * before).await;

    painter.click("button", "Undo adding a reading").await;
    painter.until("what it taught is forgotten", async || (band().await - before).abs() < 0.05).await;
    painter.leave().await;
}

/// What contradicts the rest is asked about and left out; saying that it is right lets it in, taking it out ends it.
#[tokio::test]
async fn a_contradiction_is_asked_about() {
    let painter = Painter::at_the_demo().await;
    painter.click("button", "oxblood").await;
    painter.reads("A reading contradicts the others").await;
    painter.reads("not used").await;
    painter.click("button", "Delete the reading of oxblood 1 : chimney white 1").await;
    painter.reads("2 readings").await;
    painter.until("nothing is asked any more", async || !painter.text().await.contains("not used")).await;
    painter.click("button", "Undo deleting a reading").await;
    painter.reads("not used").await;
    painter.leave().await;
}

/// A photo with a grey card: the colour of the dab is found under a yellow lamp, and kept as a reading.
#[tokio::test]
async fn a_colour_is_picked_from_a_photo() {
    let painter = Painter::at_the_demo().await;
    painter.click("button", "fern").await;
    painter.click("button", "Masstone").await;
    painter.click("radio", "From a photo").await;
    // Left third: a white card; right third: the dab. Both under the same yellow light, the middle a dark table.
    let card = [212, 200, 160];
    let dab = [106, 128, 80];
    let photo = image::RgbImage::from_fn(600, 400, |x, _| {
        image::Rgb(match x / 200 {
            0 => card,
            1 => [9, 8, 7],
            _ => dab,
        })
    });
    let mut png = std::io::Cursor::new(Vec::new());
    photo.write_to(&mut png, image::ImageFormat::Png).unwrap();
    painter.bring("Choose a photo", "dab.png", png.get_ref()).await;
    // In so yellow a light nothing is taken for a card: both spots start in the dark middle, which is refused, by name.
    let toward = async |spot: &str, key: Key, times: usize| {
        painter.the("button", spot).await.focus().await.unwrap();
        for _ in 0..times {
            painter.press(key.clone()).await;
        }
    };
    toward("Spot on the card", Key::Right, 5).await;
    painter.click("button", "Pick the colour").await;
    painter.reads("too dark to judge colours by").await;
    toward("Spot on the card", Key::Left, 25).await;
    toward("Spot on the dab", Key::Right, 15).await;
    painter.click("button", "Pick the colour").await;
    let picked = painter.the("image", "Picked: #").await;
    let name = picked.attr("aria-label").await.unwrap().unwrap();
    // In linear light 0.144, 0.216, 0.080 of the dab by 0.658, 0.578, 0.352 of a card that reflects 0.9 or so in all
    // bands: green, neither yellow nor dark.
    let code = u32::from_str_radix(name.trim_start_matches("Picked: #"), 16).unwrap();
    let [_, red, green, blue] = code.to_be_bytes();
    assert!(green > red && green > blue, "{name}");
    assert!(
        (113..=133).contains(&red) && (150..=172).contains(&green) && (113..=133).contains(&blue),
        "{name}"
    );
    painter.click("button", "Save reading").await;
    painter.click("button", "Done").await;
    painter.reads("from a photo").await;
    painter.leave().await;
}

/// White tells little of a paint that is nearly white: it is tested with a dark one.
#[tokio::test]
async fn a_pale_paint_is_darkened() {
    let painter = Painter::at_the_demo().await;
    painter.click("button", "dove grey").await;
    painter.click("button", "Darkened 4 : 1").await;
    painter.reads("Stir four spoons of dove grey with one spoon of").await;
    painter.click("button", "Read it").await;
    painter.click("button", "Save reading").await;
    painter.the("list", "What it taught").await;
    painter.leave().await;
}
