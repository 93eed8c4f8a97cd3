//! The catalogue of slips: what students do wrong in a sum.
//!
//! Each slip has a stable code (its name in the record, in exports and on the wire), the level at which it acts, and how
//! common it is among beginners. A new slip is one line here and one entry at its level.

use serde::{Deserialize, Serialize};

/// Where a slip acts.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Level {
    /// On one typed value.
    Reading,
    /// On a number with chemical meaning: a ratio, a molar mass, a purity.
    Leaf,
    /// On an operation with a declared role.
    Node,
    /// On how a formula was read or reduced.
    Formula,
    /// On the written answer.
    Presentation,
}

macro_rules! slips {
    ($($slip:ident: $level:ident, $prior:literal, $what:literal;)+) => {
        /// What a student can do wrong in a sum.
        #[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
        #[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
        #[serde(rename_all = "kebab-case")]
        pub enum Slip {
            $(#[doc = $what] $slip,)+
        }

        impl Slip {
            /// All of them, in the order of the catalogue.
            pub const ALL: &[Slip] = &[$(Slip::$slip),+];

            /// Where it acts.
            #[must_use]
            pub fn level(self) -> Level {
                match self { $(Slip::$slip => Level::$level,)+ }
            }

            /// How common it is among beginners: 3 common, 2 sometimes, 1 rare.
            #[must_use]
            pub fn prior(self) -> f64 {
                match self { $(Slip::$slip => f64::from($prior),)+ }
            }
        }
    };
}

slips! {
    ContainerKept: Node, 3, "The gross mass was used; container, paper or lid not subtracted.";
    WrongContainer: Node, 2, "Only one of several containers was subtracted, or another object's mass.";
    DifferenceReversed: Node, 1, "Subtracted the wrong way round.";
    FirstReadingKept: Node, 3, "The final reading of a burette or balance was used as the difference.";
    RoughIncluded: Node, 3, "The rough titre is in the mean.";
    DiscordantIncluded: Node, 2, "Titres were averaged that do not agree.";
    SingleTrial: Node, 2, "One trial was used instead of the mean.";
    WrongTrial: Reading, 1, "A value of another trial was used.";
    DecimalPoint: Reading, 2, "A reading or an answer is moved by 10, 100 or 1000.";
    DigitsSwapped: Reading, 2, "Two neighbouring digits are exchanged.";
    UnitThousand: Reading, 3, "mL taken as L, mg as g, or the other way.";
    RatioIgnored: Leaf, 3, "The stoichiometric ratio was taken as 1:1.";
    RatioInverted: Leaf, 3, "The stoichiometric ratio is upside down.";
    DivisionInverted: Node, 2, "Divided the wrong way up.";
    MultipliedForDivided: Node, 2, "Multiplied where a division belongs, or the reverse.";
    WrongLimiting: Node, 3, "The product was computed from the reagent in excess.";
    SmallerMassLimits: Node, 2, "The smaller mass was taken as limiting, without amounts.";
    MassRatioYield: Node, 3, "The percent yield is mass of product over mass of starting material.";
    YieldInverted: Node, 2, "Theoretical over actual yield.";
    HydrateIgnored: Leaf, 3, "The molar mass of the anhydrous substance was used for the hydrate.";
    HydrateAssumed: Leaf, 1, "The molar mass of the hydrate was used for the anhydrous substance.";
    OtherSubstance: Leaf, 2, "The molar mass of another substance of the equation was used.";
    BracketIgnored: Formula, 2, "The subscript after a bracket was applied to the last atom only, or not at all.";
    AtomForMolecule: Leaf, 2, "A diatomic element was taken as one atom, or the reverse.";
    PurityIgnored: Leaf, 2, "Purity or mass fraction was left out.";
    DensityIgnored: Leaf, 2, "The volume of a liquid was used as its mass.";
    DilutionIgnored: Node, 3, "The aliquot or dilution factor was left out.";
    DilutionInverted: Node, 2, "The aliquot or dilution factor is upside down.";
    BlankIgnored: Node, 2, "The blank was not subtracted.";
    BackTitrationTotal: Node, 2, "Excess reagent was reported as the amount that reacted.";
    PercentForFraction: Presentation, 2, "A fraction was given as percent, or the reverse.";
    RoundedEarly: Presentation, 3, "A value on the way was rounded to fewer than three digits.";
    ForcedWhole: Formula, 3, "A ratio that is not whole was rounded to a whole number.";
    RatioNotReduced: Formula, 1, "The subscripts were not divided by their common factor.";
    MassRatioFormula: Formula, 3, "Masses were used as if they were amounts.";
    DigitsTooMany: Presentation, 3, "The right value with too many significant figures.";
    DigitsTooFew: Presentation, 2, "The right value with too few significant figures.";
    UnitWrong: Presentation, 2, "The right number with a wrong unit, or none.";
    MinusSign: Presentation, 1, "The sign was lost or added.";
    TargetForActual: Reading, 3, "The amount of the instructions was used, not the one that was weighed.";
    LabelForStandardised: Leaf, 3, "The strength on the label was used, not the standardised one.";
    SmallerAmountLimits: Node, 3, "The smaller amount was taken as limiting, without the coefficients.";
    VolumesSwapped: Node, 3, "The two volumes of a titration are exchanged.";
    CoefficientInMolarMass: Leaf, 3, "The molar mass was multiplied by the coefficient as well.";
    WrongMass: Node, 3, "Another of the recorded masses was used.";
    MassForAmount: Node, 2, "A mass stands where an amount belongs.";
    HydrateMisread: Leaf, 2, "One water was counted, or the salt was multiplied by the waters.";
    Truncated: Presentation, 2, "Digits were cut off instead of rounded.";
    ReactantsSummed: Node, 2, "The theoretical yield is the sum of the reactants' masses.";
    PercentErrorWrongBase: Node, 2, "Divided by something else than the accepted value.";
    TotalVolume: Reading, 2, "The volume of the flask was used instead of the aliquot's, or the reverse.";
    KelvinIgnored: Reading, 2, "A temperature in °C stands where kelvins belong.";
    AtomicNumberForMass: Leaf, 1, "Atomic numbers were used as masses.";
    MeanOfFinalReadings: Node, 1, "Burette readings were averaged instead of titres.";
    AntilogMissing: Node, 1, "Stopped at the logarithm.";
    PortionForgotten: Node, 3, "One of several portions, crops or fractions was not counted.";
    ContainerInBoth: Node, 2, "A container was left in every weighing, where the net sample is needed.";
    Complement: Presentation, 2, "What was lost stands for what is left, or 100 % minus the answer.";
    LeftForReacted: Node, 2, "What is left of a reagent was used for what reacted, or the reverse.";
    OtherReaction: Leaf, 2, "Computed with another of the reactions of this practical.";
    Capped: Presentation, 2, "A yield above 100 % was written as 100 %.";
    BasisSwapped: Leaf, 2, "A percentage by mass was read as mass in volume, or the reverse.";
    ConcentrationsSwapped: Leaf, 2, "The concentrations of two solutions are exchanged.";
    DensityInverted: Leaf, 2, "Divided by the density where it multiplies, or the reverse.";
    QuotientForProduct: Node, 3, "c/V for c·V, m·M for m/M, V/c for c·V.";
    PartForWholeSubstance: Leaf, 2, "The element or a part was used for the whole compound, or the reverse.";
    AxesSwapped: Node, 2, "The slope was taken the wrong way round: x against y.";
    InterceptIgnored: Node, 3, "The intercept of the line was not taken off.";
    CoolingIgnored: Node, 3, "The highest reading was used, what cooling took was not put back.";
    KelvinAdded: Node, 2, "273 was added to a difference of temperatures.";
    VapourPressureIgnored: Node, 3, "The vapour pressure of the water was not taken off.";
    ElectronsIgnored: Node, 2, "The electrons for each ion were left out.";
    MinutesForSeconds: Reading, 3, "A time in minutes stands where seconds belong, or the reverse.";
    DropsUncounted: Node, 1, "A volume added dropwise was left out of the total.";
}
