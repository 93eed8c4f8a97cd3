//! Is a second crop worth it? By what the liquor still holds.
//!
//! A liquor that stands over crystals is saturated. From W g of water at a temperature at which 100 g of water take up s g of
//! the salt counted, evaporated to W' g and cooled to the same temperature, come c g of a hydrate with a mass fraction f of
//! that salt: c·f = s/100·(W − W' + c·(1 − f)). The volume is the one read, or the water planned less what the crystals
//! took with them; water is taken as 1 g/mL. Nothing of it hangs on the theoretical yield, so that it gives none away.
//!
//! Source: mass balance with the solubility, as for the first crop.

use super::advice::plain;
use super::{Advice, Matter, Standing, number};
use crate::evaluated::Evaluated;
use measure::rounding::figures;
use practical::file::Crystallising;
use practical::{Amount, celsius, grams_of_water};

impl Evaluated<'_> {
    /// Told while the liquor is there.
    pub(super) fn second_crops(&self, out: &mut Vec<Advice>) {
        for (i, step) in self.practical.steps.iter().enumerate() {
            let told = step.crystallises.as_ref().and_then(|c| self.second_crop(number(i), c));
            out.extend(told);
        }
    }

    fn second_crop(&self, crystallising: u32, c: &Crystallising) -> Option<Advice> {
        let asked = c.second_crop.as_ref()?;
        let product = self.practical.material(&c.product)?;
        let (fraction, s) = self.practical.soluble(product, celsius(&c.at)?)?;
        let own_water = 1.0 - fraction;
        // Where its volume is read, it is told there, before anybody pours the liquor away; else where the first crop is
        // weighed, if it is still there, or where it crystallised.
        let (liquor, step) = if let Some(symbol) = &asked.liquor {
            let unit = &self.practical.reading(symbol)?.unit;
            let volume = grams_of_water(&format!("{} {}", self.readings.get(symbol)?, unit.written()))?;
            (volume, self.step_recording(symbol))
        } else {
            let names = self.practical.yield_of(&c.product)?;
            let found = self.value(&names.actual)?;
            (grams_of_water(&c.water)? - own_water * found, self.step_completing(&names.actual))
        };
        let evaporated = (liquor - grams_of_water(&asked.evaporated_to)?).max(0.0);
        let gain = s / 100.0 * evaporated / (fraction - s / 100.0 * own_water);
        let (worth, written) = (Amount::parse(&asked.worth).ok()?.base(), format!("{} g", figures(gain, 2)));
        let matter = if gain >= worth {
            Matter::SecondCrop {
                gain: written,
                worth: asked.worth.clone(),
                to: asked.evaporated_to.clone(),
                at: c.at.clone(),
            }
        } else {
            Matter::NoSecondCrop { gain: written, worth: asked.worth.clone() }
        };
        let standing = if gain >= worth { Standing::Waiting } else { Standing::Settled };
        Some(plain(step.unwrap_or(crystallising), standing, matter))
    }
}
