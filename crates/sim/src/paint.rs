//! Virtual paints, and samples of them.

use warm_blend_paint::{
    Class, CoatsToHide, FilmState, Material, Microns, Optics, Parts, SurfaceReflection, chart_black,
    chart_white, mix,
};
use warm_blend_spectral::{BANDS, Lab, Light, Reflectance, Srgb, Xyz, on_screen, smoothest};

use crate::Pigment;

/// A tin whose contents are known only here.
#[derive(Debug, Clone, PartialEq)]
pub struct VirtualPaint {
    /// Label.
    pub name: String,
    /// Class of product.
    pub class: Class,
    pub(crate) truth: Material,
}

/// A sample for the reader.
#[derive(Debug, Clone)]
pub struct VirtualSample {
    truth: Reflectance,
}

impl VirtualPaint {
    /// A tin of pigments at given loads in a clear vehicle, with a surface α and air φ.
    pub fn new(name: &str, class: Class, pigments: &[(Pigment, f64)], [alpha, voids]: [f64; 2]) -> Self {
        let (mut k, mut s) = ([0.02; BANDS], [0.02; BANDS]);
        for (pigment, load) in pigments {
            let (own_k, own_s) = (pigment.k(), pigment.s());
            for i in 0..BANDS {
                k[i] += load * own_k[i];
                // Voids between the grains scatter as the pigment does: the dry film's S is the larger for them.
                s[i] += load * own_s[i] * (1.0 + voids);
            }
        }
        let milk = if matches!(class, Class::LatexSatin | Class::AcrylicCraft) { 17.0 } else { 0.0 };
        let truth = Material {
            optics: Optics::new(k, s),
            sheen: SurfaceReflection::new(alpha),
            stays: 1.0,
            voids,
            milk,
            lustre: 0.0,
        };
        Self { name: name.to_owned(), class, truth }
    }

    /// A medium, with the optics of its class.
    pub fn medium(name: &str, class: Class) -> Option<Self> {
        let truth = Material::of(class, None, None).ok().filter(|_| class.is_medium())?;
        Some(Self { name: name.to_owned(), class, truth })
    }

    /// The same paint with this factor on its pigments: the same colour, another strength.
    pub(crate) fn richer(mut self, times: f64) -> Self {
        let optics = &self.truth.optics;
        self.truth.optics = Optics::new(optics.k().map(|k| k * times), optics.s().map(|s| s * times));
        self
    }

    /// The same paint with absorption adjusted in each band, by as much as the smoothest curves of the two colours
    /// differ, so that its masstone comes closer to a colour.
    pub(crate) fn nearer(mut self, chip: Lab) -> Self {
        let seen = self.masstone();
        let own = Lab::of(Xyz::of(&seen, Light::Daylight), Light::Daylight.white());
        let (Ok(own), Ok(goal)) = (smoothest(own), smoothest(chip)) else { return self };
        let wanted = Reflectance::from_fn(|i| {
            (seen.bands()[i] * goal.bands()[i] / own.bands()[i].max(1e-6)).clamp(0.005, 0.95)
        });
        self.truth.sheen = self.truth.sheen.limited_by(&wanted);
        let inside = self.truth.sheen.inside(&wanted);
        let s = *self.truth.optics.s();
        let k = std::array::from_fn(|i| {
            let r = inside.bands()[i];
            s[i] * (1.0 - r) * (1.0 - r) / (2.0 * r)
        });
        self.truth.optics = Optics::new(k, s);
        self
    }

    /// True dry masstone.
    pub fn masstone(&self) -> Reflectance {
        self.truth.masstone()
    }

    /// True number of coats that hide black and white.
    pub fn coats_to_hide(&self) -> Option<CoatsToHide> {
        self.truth.coats_to_hide()
    }

    /// 8-bit code that its maker would print.
    pub fn code(&self) -> Srgb {
        on_screen(
            Xyz::of(&self.masstone(), Light::Daylight),
            Light::Daylight,
            warm_blend_spectral::Degree::FULL,
        )
        .srgb
    }
}

impl VirtualSample {
    /// A sample of this reflectance.
    pub fn measured(truth: Reflectance) -> Self {
        Self::of(truth)
    }

    pub(crate) fn of(truth: Reflectance) -> Self {
        Self { truth }
    }

    /// A thick sample of these parts in a state.
    pub fn thick(of: &[(Parts, &VirtualPaint)], state: FilmState) -> Option<Self> {
        Some(Self::of(stirred(of)?.in_state(state).masstone()))
    }

    /// A dry film over the black and the white half of a chart.
    pub fn drawdown(of: &[(Parts, &VirtualPaint)], wet: Microns) -> Option<[Self; 2]> {
        let truth = stirred(of)?;
        Some([chart_black(), chart_white()].map(|half| Self::of(truth.film(wet, half))))
    }

    /// True reflectance.
    pub fn reflectance(&self) -> Reflectance {
        self.truth
    }

    /// True colour in daylight.
    pub fn lab(&self) -> Lab {
        Lab::of(Xyz::of(&self.reflectance(), Light::Daylight), Light::Daylight.white())
    }
}

fn stirred(of: &[(Parts, &VirtualPaint)]) -> Option<Material> {
    let truths: Vec<(Parts, &Material)> = of.iter().map(|(parts, paint)| (*parts, &paint.truth)).collect();
    mix(&truths).ok()
}
