//! Everything that a plan can tell, each with its figures.

use super::Combination;
use practical::Key;
use serde::Serialize;

/// Something that follows, beside the line that causes it.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Note {
    /// Path of that line; empty for the practical as a whole.
    pub beside: Vec<Key>,
    /// Whether somebody should do something about it.
    pub warns: bool,
    /// What it is.
    pub what: Consequence,
}

/// Something that follows from the plan.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "kind", rename_all = "kebab-case")]
pub enum Consequence {
    /// A reagent is in excess, by these percentages over its band, and this much of it would be just enough.
    InExcess {
        /// Name of the reagent.
        material: String,
        /// As planned.
        percent: String,
        /// At the lower end of the band.
        low: String,
        /// At the upper end of the band.
        high: String,
        /// Just enough, with its unit.
        enough: String,
        /// Within 5 % of just enough somewhere in its band.
        near_edge: bool,
    },
    /// A solution is stated as stronger than a saturated one.
    StrongerThanSaturated {
        /// Of what.
        material: String,
        /// As stated.
        written: String,
        /// What a saturated one has at 20 °C at most.
        most: String,
    },
    /// The titre that follows from the planned amounts and strengths.
    TitreForeseen {
        /// Label of the titre.
        titre: String,
        /// With its unit.
        volume: String,
        /// What the burette holds, with its unit.
        burette: String,
        /// It lies between a fifth and nine tenths of that.
        fits: bool,
        /// What the readings expect instead, where that is another one.
        expected: Option<String>,
    },
    /// Faultless groups miss the agreement that is asked for.
    LimitMissed {
        /// Label of the titre.
        titre: String,
        /// The relative standard deviation that is asked for.
        limit: String,
        /// What the instruments and the end point let expect.
        scatter: String,
        /// So many of ten groups miss it.
        of_ten: String,
    },
    /// A class usually finds something else than the plan comes to.
    ClassOtherwise {
        /// Label of the result.
        result: String,
        /// By the plan, with its unit.
        planned: String,
        /// By the class, with its unit.
        class: String,
    },
    /// Another reagent than the one meant to limit does.
    NotTheOneMeant {
        /// The one that limits.
        limits: String,
    },
    /// A volume suffices up to this mass of what it is to use up.
    EnoughUpTo {
        /// The volume, with its unit.
        volume: String,
        /// Of what.
        material: String,
        /// The mass, with its unit.
        upto: String,
        /// Of what.
        of: String,
        /// The upper end of the band, with its unit.
        band: String,
        /// Whether the band stays below.
        enough: bool,
    },
    /// Where a strength, a purity or an amount that is not known exactly changes which reagent limits.
    Flip {
        /// Of what.
        material: String,
        /// `strength`, `purity` or `amount`.
        what: &'static str,
        /// The value at which it changes, with its unit.
        at: String,
        /// The range that it is known to lie in.
        range: String,
        /// Whether that contains the value.
        inside: bool,
    },
    /// Whether a portion is enough if the sample were all one component.
    WorstCase {
        /// The sample.
        sample: String,
        /// The reagent.
        reagent: String,
        /// The component that needs most of it.
        component: String,
        /// What there is, in percent of what would be needed.
        percent: String,
        /// Whether that is enough.
        enough: bool,
    },
    /// A percentage that does not say of what; both figures.
    BasisOpen {
        /// Of what.
        material: String,
        /// As written.
        written: String,
        /// Amount concentration if it is mass in volume.
        in_volume: String,
        /// The same if it is mass in mass; needs a density.
        in_mass: Option<String>,
    },
    /// The same amount as every hydrate.
    Hydrates {
        /// Of what.
        material: String,
        /// One for each.
        forms: Vec<AsHydrate>,
    },
    /// Something dissolves, or does not.
    Dissolves {
        /// What.
        material: String,
        /// How much, with its unit.
        amount: String,
        /// In how much.
        water: String,
        /// At which temperature.
        at: String,
        /// The smallest volume of water that holds it.
        smallest: String,
        /// Whether it dissolves.
        fits: bool,
    },
    /// What perfect hands could reach.
    Ceiling {
        /// Name of the product.
        product: String,
        /// In percent of theory.
        percent: String,
        /// With its unit.
        mass: String,
        /// What keeps the rest back.
        why: CeilingWhy,
        /// Under which conditions, as the file says them.
        when: String,
    },
    /// More liquid than a vessel holds, or than it should hold while it is heated or foams.
    TooFull {
        /// The vessel.
        vessel: String,
        /// What it holds.
        capacity: String,
        /// What would be in it.
        volume: String,
        /// It fits, but not with room for boiling.
        only_for_heat: bool,
    },
    /// A bath that cannot bring it to the boil.
    CannotBoil {
        /// What is to boil.
        material: String,
        /// At which temperature it does.
        boils: String,
        /// What the bath reaches.
        reaches: String,
    },
    /// Dried hotter than it bears.
    TooHot {
        /// What is dried.
        material: String,
        /// What it bears.
        bears: String,
        /// What is planned.
        planned: String,
    },
    /// One fact said in two ways.
    SaidTwoWays {
        /// What it is about.
        about: String,
        /// One way, and where.
        one: String,
        /// Where that stands.
        here: String,
        /// The other way.
        other: String,
        /// Where that stands.
        there: String,
    },
    /// A result needs it, and nobody writes it down.
    NeverRecorded {
        /// What is not recorded.
        what: Unrecorded,
        /// Of what.
        of: String,
    },
    /// Things that do not go together, or not in this order.
    Together {
        /// Which danger.
        danger: Combination,
        /// One of them.
        one: String,
        /// The other.
        other: String,
        /// Title of the step.
        step: String,
    },
    /// What would be made and seen if it were this one of several reactions.
    Hypothesis {
        /// What the reaction is called.
        name: String,
        /// What limits then.
        limits: String,
        /// The product, by name.
        product: String,
        /// What it could be at most, with its unit.
        theory: String,
        /// What would be seen.
        seen: Vec<String>,
    },
    /// A catalyst that the equation uses up.
    CatalystCounts {
        /// Which.
        material: String,
    },
    /// Its amount is to count, and no reaction uses it.
    NotInReaction {
        /// Which.
        material: String,
    },
    /// Expected uncertainty of a result with these instruments.
    Precision {
        /// In words.
        result: String,
        /// Relative U (k = 2), in percent.
        percent: String,
    },
    /// Readings that decide the result: record every digit.
    Critical {
        /// The result, in words.
        result: String,
        /// Labels, most important first, with their part of the variance.
        readings: Vec<Decisive>,
    },
    /// Readings that hardly matter.
    RoughWillDo {
        /// Labels.
        readings: Vec<String>,
    },
    /// An instrument that is coarse for what it measures here.
    Coarse {
        /// The reading.
        reading: String,
        /// The instrument.
        instrument: String,
        /// Its step alone, in percent of the value.
        percent: String,
    },
    /// The smallest scale that is still as good as wanted.
    SmallestScale {
        /// In words.
        result: String,
        /// Relative U (k = 2) wanted, in percent.
        wanted: String,
        /// Of what is planned, in percent.
        scale: String,
        /// What that is of the first weighed or measured reagent.
        example: String,
        /// Whether the planned scale reaches it.
        reached: bool,
    },
    /// Time at the bench.
    Time {
        /// Shortest and longest, in minutes.
        minutes: [u32; 2],
        /// Waits, in words.
        waits: Vec<String>,
        /// Lessons it takes.
        visits: u32,
    },
}

/// A salt as another hydrate of it.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct AsHydrate {
    /// Waters.
    pub waters: f64,
    /// The formula.
    pub formula: String,
    /// What to weigh for the same amount, with its unit.
    pub mass: String,
    /// Whether the planned mass of this one would make another reagent limit.
    pub flips: bool,
}

/// What keeps product back.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum CeilingWhy {
    /// It stays dissolved in the liquor and the washings.
    Liquor,
    /// The solubility product, with the excess of the other ion.
    SolubilityProduct,
    /// The reaction does not run to the end.
    Equilibrium,
}

/// What nobody writes down.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Unrecorded {
    /// How much of a reagent was used.
    Amount,
    /// How strong a solution really is: no tolerance, no range, no measurement.
    Strength,
    /// The volume of solvent that decides what crystallises.
    SolventVolume,
    /// Drops or volume added up to a stop.
    Added,
    /// The empty vessel.
    Container,
    /// The temperature at which it is dried.
    DryingTemperature,
}

/// A source with its part of the variance.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Decisive {
    /// In words.
    pub label: String,
    /// In percent, whole.
    pub percent: String,
}
