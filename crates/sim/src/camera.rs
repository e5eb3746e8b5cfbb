//! A simulated camera: invented finishes on a panel, each with a white card, in lights like those of shop windows.
//!
//! Its white balance adapts less than an eye does, it underexposes a little, and the light falls off towards one side.

use palette::encoding::{FromLinear, IntoLinear, Srgb as Coding};
use warm_blend_board::{Below, Family, Ground, GroundKind, Place, Share, Stack, Technique};
use warm_blend_paint::{Class, CoatsToHide, FilmState, Masstone, Material, Parts, Seen, mix};
use warm_blend_piece::{Age, Mark};
use warm_blend_render::{Closer, Coats, Fineness, Picture, Relief, Shading, draw};
use warm_blend_spectral::{Lab, Light, Reflectance, Srgb};

/// Its pictures, pixels.
const SIZE: (u32, u32) = (1080, 720);
/// What comes of a white that fills the sensor in the middle of the picture.
const EXPOSURE: f64 = 0.92;
/// How much more of the light's cast it lets through than an eye does.
const CAST: f64 = 1.5;
/// How much darker it is in the farthest corner.
const FALLS_OFF: f64 = 0.08;
/// Where the white card lies: its left, top, right and bottom, as shares of width and height.
const CARD: [f64; 4] = [0.05, 0.74, 0.17, 0.94];
/// What a white card gives back.
const CARD_REFLECTS: f64 = 0.9;

/// What is done, in which code, and with how many parts of a medium.
type Coat = (Technique, [u8; 3], Option<(Class, f64)>);

/// A scene in front of the camera.
#[derive(Debug, Clone, Copy)]
pub struct Scene {
    /// Stable identifier.
    pub id: &'static str,
    /// Name.
    pub name: &'static str,
    /// Light.
    pub light: Light,
    ground: GroundKind,
    coats: &'static [Coat],
    /// What age left on it, and how much.
    aged: &'static [(Age, f64)],
}

/// All scenes.
pub const SCENES: [Scene; 5] = [
    Scene {
        id: "window",
        name: "Blue door in a shop window",
        light: Light::ShopTube,
        ground: GroundKind::MidWood,
        coats: &[
            (Technique::BrushedCoat, [92, 58, 44], None),
            (Technique::BrushedCoat, [74, 104, 128], None),
            (Technique::WashPatted, [226, 220, 204], Some((Class::Water, 1.5))),
            (Technique::SandBack, [0, 0, 0], None),
        ],
        aged: &[],
    },
    Scene {
        id: "lamp",
        name: "Straw cupboard by a lamp",
        light: Light::Bulb,
        ground: GroundKind::PaleWood,
        coats: &[
            (Technique::BrushedCoat, [222, 196, 140], None),
            (Technique::BrushedCoat, [222, 196, 140], None),
            (Technique::TintedWax, [70, 54, 44], Some((Class::ClearWax, 1.0))),
        ],
        aged: &[],
    },
    Scene {
        id: "north",
        name: "Green chest in the shade",
        light: Light::NorthShade,
        ground: GroundKind::DarkWood,
        coats: &[
            (Technique::BrushedCoat, [96, 116, 84], None),
            (Technique::BrushedCoat, [96, 116, 84], None),
            (Technique::DryBrush, [178, 188, 160], None),
            (Technique::SandBack, [0, 0, 0], None),
        ],
        aged: &[],
    },
    Scene {
        id: "hall",
        name: "Red box under warm LED",
        light: Light::WarmLed,
        ground: GroundKind::RedStain,
        coats: &[
            (Technique::BrushedCoat, [150, 66, 52], None),
            (Technique::BrushedCoat, [150, 66, 52], None),
            (Technique::Gilding, [184, 147, 79], None),
        ],
        aged: &[],
    },
    Scene {
        id: "barn",
        name: "Cream dresser out of a barn",
        light: Light::Sun,
        ground: GroundKind::PaleWood,
        coats: &[
            (Technique::BrushedCoat, [226, 214, 184], None),
            (Technique::BrushedCoat, [226, 214, 184], None),
        ],
        aged: &[(Age::Grime, 1.0)],
    },
];

impl Scene {
    /// Finds a scene by its id.
    pub fn find(id: &str) -> Option<&'static Scene> {
        SCENES.iter().find(|scene| scene.id == id)
    }

    /// Main colour of its flat surfaces, in daylight.
    pub fn mostly(&self) -> Option<Lab> {
        let stack = self.stack()?;
        let seen = stack.seen(Place::Field, stack.len(), FilmState::Dry);
        seen.states.first().map(|state| Seen::of(&state.seen, Light::Daylight).lab)
    }

    /// Centre of its card, as shares of the picture's width.
    pub fn card(&self) -> (f64, f64) {
        let high = f64::from(SIZE.1) / f64::from(SIZE.0);
        (0.5 * (CARD[0] + CARD[2]), 0.5 * (CARD[1] + CARD[3]) * high)
    }

    fn stack(&self) -> Option<Stack> {
        let mut stack = Stack::over(&Ground::of(self.ground)).ok()?;
        for (technique, code, medium) in self.coats {
            if technique.takes_away() {
                stack.take_away(technique.usual(), 0);
                continue;
            }
            let own = paint(*code)?;
            let pot = match medium {
                Some((class, parts)) => with(&own, *class, *parts)?,
                None => own,
            };
            let seals = matches!(technique.family(), Family::Seal | Family::Wax);
            let below = Below { seals, soaks: technique.soaks() };
            stack.lay(pot, technique.usual(), below, None);
        }
        for (age, amount) in self.aged {
            age.lay_on(&mut stack, Share::of(*amount));
        }
        Some(stack)
    }

    /// A picture of it, the same each time; `None` if its paints are impossible.
    pub fn taken(&self) -> Option<Picture> {
        let stack = self.stack()?;
        let by = self.coats.iter().map(|(technique, ..)| Mark::By(*technique));
        let marks: Vec<Mark> = by.chain(self.aged.iter().map(|(age, _)| Mark::Aged(*age))).collect();
        let relief = Relief::panelled(SIZE.0, SIZE.1, Closer::WHOLE, Fineness::Quick).ok()?;
        let coats = Coats { stack: &stack, marks: &marks, layers: stack.len() };
        let mut picture = draw(&relief, &[coats], self.light, FilmState::Dry, Shading::default());
        self.expose(&mut picture);
        Some(picture)
    }

    /// Lays the card down, and takes both as the camera does.
    fn expose(&self, picture: &mut Picture) {
        let card = Seen::linear(&Reflectance::grey(CARD_REFLECTS), self.light);
        let most = card.iter().copied().fold(f64::MIN_POSITIVE, f64::max);
        let cast = card.map(|channel| (channel / most).powf(CAST));
        let light: Vec<f32> = (0..=u8::MAX).map(Coding::into_linear).collect();
        let (wide, high) = (picture.width as usize, picture.height as usize);
        for (i, pixel) in picture.rgb.chunks_exact_mut(3).enumerate() {
            let (x, y) = ((i % wide) as f64 / wide as f64, (i / wide) as f64 / high as f64);
            let on_card = (CARD[0]..CARD[2]).contains(&x) && (CARD[1]..CARD[3]).contains(&y);
            let lit = EXPOSURE * (1.0 - FALLS_OFF * 0.5 * (x * x + y * y));
            for ((code, card), cast) in pixel.iter_mut().zip(card).zip(cast) {
                let seen = if on_card { card } else { f64::from(light[usize::from(*code)]) };
                *code = Coding::from_linear((lit * cast * seen) as f32);
            }
        }
    }
}

fn paint([red, green, blue]: [u8; 3]) -> Option<Material> {
    let code = Masstone::Hex(Srgb::new(red, green, blue));
    Material::of(Class::Chalk, Some(code), CoatsToHide::new(1.75).ok()).ok()
}

fn with(paint: &Material, medium: Class, parts: f64) -> Option<Material> {
    let medium = Material::of(medium, None, None).ok()?;
    mix(&[(Parts::new(1.0).ok()?, paint), (Parts::new(parts).ok()?, &medium)]).ok()
}

#[cfg(test)]
mod tests {
    use super::*;
    use warm_blend_photo::{Card, Photo, PhotoSpot};
    use warm_blend_spectral::difference;

    fn photo(picture: &Picture) -> Photo {
        let light = |code: u8| -> f32 { Coding::into_linear(code) };
        let pixels = picture.rgb.chunks_exact(3).map(|rgb| [rgb[0], rgb[1], rgb[2]].map(light));
        let clipped = picture.rgb.chunks_exact(3).map(|rgb| rgb.contains(&u8::MAX)).collect();
        Photo::new(picture.width as usize, pixels.collect(), clipped).unwrap()
    }

    /// Each picture lies by its light, and the card brings its paint back: what covers most of it is found by the palette, though
    /// waxed, washed and shaded, nearer than it looks; not under warm LED, where the red itself looks like another.
    #[test]
    fn lights_lie_and_the_card_tells() {
        let mut all = (0.0, 0.0);
        for scene in SCENES {
            let picture = scene.taken().unwrap();
            assert_eq!(picture.rgb, scene.taken().unwrap().rgb);
            let photo = photo(&picture);
            let (x, y) = scene.card();
            let card = PhotoSpot { x, y, radius: 0.03 };
            let palette = photo.palette(Card::White, card, 8).unwrap();
            let truth = scene.mostly().unwrap();
            let off = |lab: Lab| difference(lab, truth).value();
            let found = &palette.colours[0];
            let (told, (x, y)) = (off(found.lab), found.at);
            let wide = f64::from(picture.width);
            let at = 3 * ((y * wide) as usize * picture.width as usize + (x * wide) as usize);
            let [red, green, blue] = [0, 1, 2].map(|channel| picture.rgb[at + channel]);
            let seen = off(Srgb::new(red, green, blue).to_lab());
            println!(
                "{}: {seen:.1} as it is seen, {told:.1} by the card, share {:.2}",
                scene.id, found.share
            );
            assert!(told < 6.0 && found.share > 0.5, "{}: {told}", scene.id);
            all = (all.0 + seen, all.1 + told);
            assert_eq!(Scene::find(scene.id).map(|scene| scene.name), Some(scene.name));
        }
        let (seen, told) = all;
        assert!(told < 0.7 * seen, "{told} of {seen}");
        assert!(Scene::find("nowhere").is_none());
    }
}
