//! A balance: it settles, feels a draught, and shows too little of what is still hot.

use rand::{Rng, SeedableRng};
use rand_chacha::ChaCha8Rng;
use serde::{Deserialize, Serialize};

/// The display's step, g.
const STEP: f64 = 0.001;
/// It comes to rest, s: to the last digit in some three seconds.
const SETTLES: f64 = 0.25;
/// A draught through open doors, g.
const DRAUGHT: f64 = 0.006;
/// What is warm stands in rising air, and shows so much less for each kelvin, g.
///
/// Source: a hot crucible of 30 g reads some hundredths of a gram low; e.g. Harris, Quantitative Chemical Analysis, 9th ed.,
/// 2-3, on weighing warm objects.
const LESS_FOR_EACH_KELVIN: f64 = 0.00012;
/// What is hot cools, s.
const COOLS: f64 = 150.0;
/// Longest that one act lasts, s.
const LONGEST: f64 = 600.0;

/// What is done.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "kind", rename_all = "kebab-case")]
pub enum BalanceAct {
    /// Put on the pan.
    Put {
        /// What.
        what: Pan,
    },
    /// The pan is empty again.
    TakeOff,
    /// What was spilled on the pan is brushed off.
    Brush,
    /// The key that sets the display to nothing.
    Tare,
    /// The doors.
    Doors {
        /// Open.
        open: bool,
    },
    /// Nothing.
    Wait {
        /// For so long.
        seconds: f64,
    },
}

/// What can be put on the pan.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Pan {
    /// The boat with the solid in it.
    FullBoat,
    /// The boat, the solid shaken out.
    EmptyBoat,
    /// The crucible as it comes from the flame.
    HotCrucible,
}

/// What the display shows.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = BalanceShows))]
pub struct Shown {
    /// The digits.
    pub text: String,
    /// They have come to rest.
    pub stable: bool,
    /// Something lies on the pan that does not belong there.
    pub spill: bool,
}

/// A balance, and what there is to be weighed.
#[derive(Debug, Clone)]
pub struct Weighing {
    boat: f64,
    solid: f64,
    crucible: f64,
    /// What was left on the pan by whoever was here before, g.
    spill: f64,
    /// The crucible above the room, K.
    hot: f64,
    seed: u64,
}

#[derive(Debug, Clone, Copy)]
struct State {
    on: Option<Pan>,
    spill: f64,
    zero: f64,
    open: bool,
    /// Since the first act, s.
    time: f64,
    /// When the load or the doors changed last.
    moved: f64,
    /// What it showed before that, g.
    before: f64,
}

impl Weighing {
    /// The same for the same seed.
    #[must_use]
    pub fn at(seed: u64) -> Weighing {
        let mut rng = ChaCha8Rng::seed_from_u64(seed);
        Weighing {
            boat: rng.random_range(1.8..2.6),
            solid: rng.random_range(0.45..0.62),
            crucible: rng.random_range(24.0..31.0),
            spill: if rng.random_bool(0.5) { rng.random_range(0.008..0.05) } else { 0.0 },
            hot: rng.random_range(250.0..400.0),
            seed,
        }
    }

    /// What is really there of this, g.
    #[must_use]
    pub fn mass(&self, of: Pan) -> f64 {
        match of {
            Pan::FullBoat => self.boat + self.solid,
            Pan::EmptyBoat => self.boat,
            Pan::HotCrucible => self.crucible,
        }
    }

    /// What the display shows after all of this.
    #[must_use]
    pub fn after(&self, acts: &[BalanceAct]) -> Shown {
        let start =
            State { on: None, spill: self.spill, zero: 0.0, open: false, time: 0.0, moved: -60.0, before: self.spill };
        let state = acts.iter().fold(start, |state, act| self.act(state, *act));
        let shown = self.shows(&state);
        let earlier = self.shows(&State { time: state.time - 0.7, ..state });
        let stable = !state.open && state.time - state.moved > 2.5 && (shown - earlier).abs() < 0.6 * STEP;
        let stepped = (shown / STEP).round() * STEP;
        // No display shows a minus before nothing.
        let text = format!("{:.3}", if stepped.abs() < STEP / 2.0 { 0.0 } else { stepped });
        Shown { text, stable, spill: state.spill > 0.0 }
    }

    /// Without the display's step, g.
    fn shows(&self, state: &State) -> f64 {
        let since = state.time - state.moved;
        let load = self.load(state);
        let settled = load + (state.before - load) * (-since / SETTLES).exp();
        let draught = if state.open { DRAUGHT * wobble(self.seed, state.time) } else { 0.0 };
        settled + draught - state.zero
    }

    fn load(&self, state: &State) -> f64 {
        let on = state.on.map_or(0.0, |what| {
            let warm = if what == Pan::HotCrucible { self.hot * (-state.time / COOLS).exp() } else { 0.0 };
            self.mass(what) - LESS_FOR_EACH_KELVIN * warm
        });
        on + state.spill
    }

    fn act(&self, state: State, act: BalanceAct) -> State {
        let moved = State { moved: state.time, before: self.load(&state), ..state };
        match act {
            BalanceAct::Put { what } => State { on: Some(what), ..moved },
            BalanceAct::TakeOff => State { on: None, ..moved },
            BalanceAct::Brush => State { spill: 0.0, ..moved },
            BalanceAct::Doors { open } => State { open, ..moved },
            BalanceAct::Tare => State { zero: self.shows(&State { zero: 0.0, ..state }), ..state },
            BalanceAct::Wait { seconds } => {
                let seconds = if seconds.is_finite() { seconds.clamp(0.0, LONGEST) } else { 0.0 };
                State { time: state.time + seconds, ..state }
            }
        }
    }
}

/// Somewhere between -1 and 1, the same at the same time.
fn wobble(seed: u64, time: f64) -> f64 {
    #[expect(clippy::cast_precision_loss, reason = "any phase will do")]
    let phase = (seed % 628) as f64 / 100.0;
    0.6 * (2.3 * time + phase).sin() + 0.4 * (5.9 * time + 2.0 * phase).sin()
}
