//! A burette over a flask.
//!
//! The flask turns by the exact curve of the practical; what is not mixed yet shows where it falls in and nowhere else.

use practical::file::TitreItem;
use practical::{Curve, Practical};
use rand::{Rng, SeedableRng};
use rand_chacha::ChaCha8Rng;
use serde::{Deserialize, Serialize};

/// Out of an open tap, mL/s: a 50 mL burette runs empty in a minute.
const STREAM: f64 = 0.8;
/// A drop, mL. Source: Harris, Quantitative Chemical Analysis, 9th ed., 2-5.
const DROP: f64 = 0.05;
/// Drops of one tip differ by so much of themselves, one standard deviation.
const DROPS_DIFFER: f64 = 0.03;
/// What of a drop is rinsed off the tip with a touch of the glass.
const SPLIT: f64 = 0.4;
/// What stays on the wall of a burette that runs fast, mL, and how long it takes to come down, s. Source: the waiting time of
/// 30 s of class AS burettes, ISO 385:2005.
const FILM: f64 = 0.04;
const COMES_DOWN: f64 = 12.0;
/// So much runs through the tip until a bubble goes with it, mL.
const CARRIES_AIR: f64 = 1.0;
/// A flask that nobody swirls mixes by itself, s.
const MIXES: f64 = 6.0;
/// Longest that one act lasts, s.
const LONGEST: f64 = 120.0;
/// The eye sees a change from the first of these parts on; at the second it has gone all the way.
const FIRST_SEEN: f64 = 0.1;
const ALL_THE_WAY: f64 = 0.9;

/// What is done.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "kind", rename_all = "kebab-case")]
pub enum TitrationAct {
    /// Titrant is filled in, to somewhere near the zero.
    Fill,
    /// The tap is opened over the beaker for waste.
    RunOff {
        /// For so long.
        seconds: f64,
    },
    /// The tap is opened over the flask.
    Run {
        /// For so long.
        seconds: f64,
    },
    /// One drop.
    Drop,
    /// A part of a drop, touched off and rinsed down.
    SplitDrop,
    /// The flask is swirled.
    Swirl,
    /// Nothing.
    Wait {
        /// For so long.
        seconds: f64,
    },
}

/// What the flask shows.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = FlaskShows))]
#[serde(rename_all = "kebab-case")]
pub enum Flask {
    /// As it was.
    Before,
    /// A change that lasts.
    First,
    /// All the way over.
    Past,
}

/// What is to be seen.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = TitrationSeen))]
pub struct Seen {
    /// Where the meniscus stands on the scale, mL.
    pub level: f64,
    /// A bubble hangs in the tip.
    pub air: bool,
    /// It stands below the last mark: nothing can be read.
    pub empty: bool,
    /// Which part of the indicator has turned in what is mixed, 0 to 1.
    pub turned: f64,
    /// How strong the colour is where the titrant falls in, 0 to 1.
    pub flash: f64,
    /// The same in words.
    pub flask: Flask,
}

/// One titration of a practical whose file says what goes on in the flask.
#[derive(Debug, Clone)]
pub struct Titrating {
    curve: Curve,
    /// What uses up what is in the flask, mL.
    equivalence: f64,
    /// Where it is filled to, mL.
    filled: f64,
    capacity: f64,
    /// In the tip after filling, mL.
    air: f64,
    /// Of the drops.
    seed: u64,
}

/// What somebody's reading of a titration was worth.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct TitreTold {
    /// The volume that was read, mL.
    pub read: f64,
    /// What really ran into the flask, mL.
    pub delivered: f64,
    /// What would have made the first lasting change, mL.
    pub end_point: f64,
}

#[derive(Debug, Clone, Copy, Default)]
struct State {
    /// Gone out of the burette, mL; none before it is filled.
    gone: Option<f64>,
    air: f64,
    /// Run out since it was filled, mL.
    carried: f64,
    /// On the wall, mL.
    film: f64,
    delivered: f64,
    unmixed: f64,
}

impl Titrating {
    /// The `trial`-th titration of a titre, counted from 0, in which `equivalence` mL use up what is there; none where the
    /// file does not say what goes on in the flask.
    #[must_use]
    pub fn of(practical: &Practical, titre: &TitreItem, equivalence: f64, seed: u64) -> Option<Titrating> {
        let capacity = practical.reading(&titre.end)?.instrument.capacity;
        let mut rng = ChaCha8Rng::seed_from_u64(seed);
        let filled = rng.random_range(0.02..0.6);
        let air = if rng.random_bool(0.4) { rng.random_range(0.08..0.25) } else { 0.0 };
        Some(Titrating { curve: titre.curve()?, equivalence, filled, capacity, air, seed })
    }

    /// Where the first change shows that lasts, mL.
    #[must_use]
    pub fn end_point(&self) -> f64 {
        let (mut low, mut high) = (0.5 * self.equivalence, 1.5 * self.equivalence);
        while high - low > 1e-6 {
            let middle = f64::midpoint(low, high);
            if self.turned(middle) < FIRST_SEEN { low = middle } else { high = middle }
        }
        f64::midpoint(low, high)
    }

    /// What is to be seen after all of this.
    #[must_use]
    pub fn after(&self, acts: &[TitrationAct]) -> Seen {
        let state = self.state(acts);
        let turned = self.turned(state.delivered - state.unmixed);
        Seen {
            level: self.level(&state),
            air: state.gone.is_some() && state.air > 0.0,
            empty: state.gone.is_none_or(|gone| self.filled + gone > self.capacity),
            turned,
            flash: (state.unmixed / DROP).min(1.0),
            flask: match turned {
                t if t < FIRST_SEEN => Flask::Before,
                t if t < ALL_THE_WAY => Flask::First,
                _ => Flask::Past,
            },
        }
    }

    /// What a reading of this titration is worth: the volume that was read, mL.
    #[must_use]
    pub fn told(&self, acts: &[TitrationAct], read: f64) -> TitreTold {
        TitreTold { read, delivered: self.state(acts).delivered, end_point: self.end_point() }
    }

    fn state(&self, acts: &[TitrationAct]) -> State {
        let mut rng = ChaCha8Rng::seed_from_u64(self.seed);
        let mut state = State::default();
        for act in acts {
            self.act(&mut state, *act, &mut rng);
        }
        state
    }

    fn level(&self, state: &State) -> f64 {
        state.gone.map_or(self.capacity, |gone| (self.filled + gone + state.film).min(self.capacity))
    }

    fn turned(&self, delivered: f64) -> f64 {
        self.curve.turned(delivered / 1000.0, self.equivalence / 1000.0)
    }

    fn act(&self, state: &mut State, act: TitrationAct, rng: &mut ChaCha8Rng) {
        match act {
            TitrationAct::Fill => {
                *state = State { gone: Some(0.0), air: self.air, film: 0.0, carried: 0.0, ..*state };
            }
            TitrationAct::RunOff { seconds } => {
                passes(state, lasting(seconds));
                self.runs(state, STREAM * lasting(seconds));
            }
            TitrationAct::Run { seconds } => {
                passes(state, lasting(seconds));
                let into = self.runs(state, STREAM * lasting(seconds));
                falls_in(state, into);
            }
            TitrationAct::Drop | TitrationAct::SplitDrop => {
                let scatter: f64 = rng.sample(rand_distr::StandardNormal);
                let drop = DROP * (1.0 + DROPS_DIFFER * scatter.clamp(-2.0, 2.0));
                passes(state, 1.0);
                let into = self.runs(state, if act == TitrationAct::Drop { drop } else { SPLIT * drop });
                falls_in(state, into);
            }
            TitrationAct::Swirl => {
                passes(state, 2.0);
                state.unmixed = 0.0;
            }
            TitrationAct::Wait { seconds } => passes(state, lasting(seconds)),
        }
    }

    /// So much leaves the tap, as long as there is some: what of it leaves the tip.
    fn runs(&self, state: &mut State, volume: f64) -> f64 {
        let Some(gone) = state.gone else { return 0.0 };
        let runs = volume.min((self.capacity + 1.0 - self.filled - gone).max(0.0));
        state.film += (FILM - state.film) * (1.0 - (-runs / 5.0).exp());
        state.carried += runs;
        // The bubble goes: what fills its place comes out of the burette and not into the flask.
        let bubble = if state.carried >= CARRIES_AIR { std::mem::take(&mut state.air) } else { 0.0 };
        state.gone = Some(gone + runs + bubble);
        runs
    }
}

fn lasting(seconds: f64) -> f64 {
    if seconds.is_finite() { seconds.clamp(0.0, LONGEST) } else { 0.0 }
}

fn passes(state: &mut State, seconds: f64) {
    state.film *= (-seconds / COMES_DOWN).exp();
    state.unmixed *= (-seconds / MIXES).exp();
}

fn falls_in(state: &mut State, volume: f64) {
    state.delivered += volume;
    state.unmixed += volume.min(2.0);
}
