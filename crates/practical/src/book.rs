//! The book of formulas: each once, as an expression of the sheet over the names that it is asked for.
//!
//! Methods of a practical, questions at the door and the Handbook read from here, so that one amount is computed in one way
//! wherever it is asked. An operand is a name of the sheet or a leaf with meaning (`M(acid)`, `concentration(acid)`).
//! [`METHODS`] says the same in a chemist's words, for the Handbook.
//!
//! Sources: IUPAC Green Book, 3rd ed., 2.10 (amounts, extent of reaction); Harris, Quantitative Chemical Analysis, 9th ed.,
//! 7.1 (titrations, back titration) and 27.1 (gravimetric factor).

use serde::Serialize;

/// Gas constant in J/(mol K). CODATA 2022, exact.
pub const GAS_CONSTANT: &str = "8.314462618";

/// Faraday constant in C/mol. CODATA 2022, exact.
pub const FARADAY_CONSTANT: &str = "96485.33212";

/// n = m·w/M: what was weighed, of this purity if it is not pure.
#[must_use]
pub fn amount_of_solid(mass: &str, purity: Option<&str>, molar_mass: &str) -> String {
    format!("{mass}{} / {molar_mass}", times(purity))
}

/// n = V·ρ·w/M: a liquid, or a solution by mass fraction.
#[must_use]
pub fn amount_of_liquid(volume: &str, density: &str, purity: Option<&str>, molar_mass: &str) -> String {
    format!("{volume} * {density}{} / {molar_mass}", times(purity))
}

/// n = V·c.
#[must_use]
pub fn amount_of_solution(volume: &str, concentration: &str) -> String {
    format!("{volume} * {concentration}")
}

/// n = V·ρ*/M with ρ* the mass in a volume of solution.
#[must_use]
pub fn amount_by_mass_concentration(volume: &str, strength: &str, molar_mass: &str) -> String {
    format!("{volume} * {strength} / {molar_mass}")
}

/// n = p·V/(R·T), ideal.
#[must_use]
pub fn amount_of_gas(pressure: &str, volume: &str, temperature: &str) -> String {
    format!("{pressure} * {volume} / ({GAS_CONSTANT} J/mol/K * {temperature})")
}

/// p = ρ·g·h of a column of water, 1000 kg/m³ under standard gravity.
#[must_use]
pub fn pressure_of_column(height: &str) -> String {
    format!("1000 kg/m3 * 9.80665 m/s2 * {height}")
}

/// Q = I·t.
#[must_use]
pub fn charge(current: &str, time: &str) -> String {
    format!("{current} * {time}")
}

/// n = Q/(z·F): what so much charge changes, z electrons each.
#[must_use]
pub fn amount_by_charge(charge: &str, electrons: &str) -> String {
    format!("{charge} / ({electrons} * {FARADAY_CONSTANT} C/mol)")
}

/// Heat that warms something: (m·c + C)·ΔT, with the vessel's own heat capacity C where it is counted.
#[must_use]
pub fn heat(mass: &str, specific_heat: &str, vessel: Option<&str>, warmed: &str) -> String {
    match vessel {
        Some(vessel) => format!("({mass} * {specific_heat} + {vessel}) * {warmed}"),
        None => format!("{mass} * {specific_heat} * {warmed}"),
    }
}

/// Slope of the line through the points (x, y).
#[must_use]
pub fn slope(y: &str, x: &str) -> String {
    format!("slope({y}, {x})")
}

/// Where that line meets x = 0.
#[must_use]
pub fn intercept(y: &str, x: &str) -> String {
    format!("intercept({y}, {x})")
}

/// Slope of the line through zero and the points.
#[must_use]
pub fn slope_through_zero(y: &str, x: &str) -> String {
    format!("slope_through_zero({y}, {x})")
}

/// Vapour pressure of water. Wagner & Pruß, J. Phys. Chem. Ref. Data 31, 387 (2002).
#[must_use]
pub fn vapour_pressure(temperature: &str) -> String {
    format!("p_water({temperature})")
}

/// Temperature that a line through later readings has at the moment of mixing: what cooling has taken is put back.
#[must_use]
pub fn carried_back(temperatures: &str, times: &str, moment: &str) -> String {
    format!("{} + {} * {moment}", intercept(temperatures, times), slope(temperatures, times))
}

/// V = n·R·T/p, ideal.
#[must_use]
pub fn volume_of_gas(amount: &str, temperature: &str, pressure: &str) -> String {
    format!("{amount} * {GAS_CONSTANT} J/mol/K * {temperature} / {pressure}")
}

/// ξ = n/ν that one reagent allows.
#[must_use]
pub fn extent_allowed(amount: &str, coefficient: &str) -> String {
    format!("{amount} / {coefficient}")
}

/// ξ: the smallest of those that the reagents allow; none for none.
#[must_use]
pub fn extent(allowed: &[String]) -> Option<String> {
    match allowed {
        [] => None,
        [only] => Some(only.clone()),
        several => Some(format!("limiting({})", several.join(", "))),
    }
}

/// Amount of one species in so much extent: ν·ξ.
#[must_use]
pub fn amount_in_extent(extent: &str, coefficient: &str) -> String {
    format!("{extent} * {coefficient}")
}

/// Mass of an amount: n·M.
#[must_use]
pub fn mass_of(amount: &str, molar_mass: &str) -> String {
    format!("{amount} * {molar_mass}")
}

/// A part of a whole: yield, recovery, mass fraction.
#[must_use]
pub fn part(of: &str, whole: &str) -> String {
    format!("{of} / {whole}")
}

/// What is in a volume: c = n/V, ρ* = m/V.
#[must_use]
pub fn in_volume(what: &str, volume: &str) -> String {
    format!("{what} / {volume}")
}

/// Strength of a titrant: n·ν/V of a standard and the titre that it took.
#[must_use]
pub fn strength_from_standard(amount: &str, ratio: &str, titre: &str) -> String {
    format!("{amount} * {ratio} / {titre}")
}

/// What one amount stands for of another substance: n·ν₁/ν₂.
#[must_use]
pub fn converted(amount: &str, ratio: &str) -> String {
    format!("{amount} * {ratio}")
}

/// What is there less what is left.
#[must_use]
pub fn difference(there: &str, left: &str) -> String {
    format!("{there} - {left}")
}

/// Gravimetric factor: ν·M(analyte)/M(precipitate).
#[must_use]
pub fn gravimetric_factor(ratio: &str, analyte: &str, precipitate: &str) -> String {
    format!("{ratio} * {analyte} / {precipitate}")
}

/// How far a result lies from the accepted value, as a part of that.
#[must_use]
pub fn relative_error(found: &str, accepted: &str) -> String {
    format!("({found} - {accepted}) / {accepted}")
}

fn times(purity: Option<&str>) -> String {
    purity.map_or(String::new(), |w| format!(" * {w}"))
}

/// A method in a chemist's words.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = MethodText))]
pub struct MethodText {
    /// What it is called.
    pub title: &'static str,
    /// As it is written.
    pub formula: &'static str,
    /// What it says, and what it does not.
    pub meaning: &'static str,
    /// By which authority.
    pub source: &'static str,
}

/// What is calculated, how, and by which authority; `docs/methods.md` says more of each.
pub const METHODS: &[MethodText] = &[
    MethodText {
        title: "Amount of substance",
        formula: "n = m·w/M   n = c·V   n = V·ρ·w/M   n = p·V/(R·T)",
        meaning: "Of a solid of purity w, a solution, a liquid, a gas taken as ideal. A hydrate is weighed with its water.",
        source: "IUPAC Green Book, 3rd ed., 2.10",
    },
    MethodText {
        title: "Limiting reagent",
        formula: "ξ = min(nᵢ/νᵢ)   left = nᵢ − νᵢ·ξ",
        meaning: "The smallest extent decides. Within twice its uncertainty of the next one, the chance that each limits is given instead.",
        source: "IUPAC Green Book, 3rd ed., 2.10; JCGM 101:2008",
    },
    MethodText {
        title: "Percent yield, percent recovery",
        formula: "yield = m/(ξ·ν·M)   recovery = m out/m in",
        meaning: "Yield compares amounts. Recovery is of the same substance in and out; any other mass over mass is a mass ratio.",
        source: "IUPAC Gold Book, yield",
    },
    MethodText {
        title: "Concordant titres",
        formula: "most titres with range ≤ limit, then the smallest range",
        meaning: "Compared as exact decimals. Rough titres are kept apart. Equally good sets are told, not chosen between.",
        source: "school practice; the limit is the instructor’s",
    },
    MethodText {
        title: "Standardisation",
        formula: "c = m·w/M · (V aliquot/V flask) · ν/(V titre − V blank)",
        meaning: "With a mass weighed for each trial the concentrations are compared, never the titres.",
        source: "QUAM:2012, A2 and A3",
    },
    MethodText {
        title: "Back titration",
        formula: "n = (n added − n left)/ν",
        meaning: "What the excess reagent lost is what the sample took.",
        source: "Harris, Quantitative Chemical Analysis, chapter 7",
    },
    MethodText {
        title: "Calibration line",
        formula: "y = a + b·x   x₀ = (y₀ − a)/b",
        meaning: "Least squares, all points alike, or through zero. How the points lie about the line is an uncertainty of its own, beside that of the instruments; the unknown’s own scatter is not in it.",
        source: "Miller & Miller, Statistics and Chemometrics, 6th ed., 5.4 to 5.6",
    },
    MethodText {
        title: "Enthalpy in a cup",
        formula: "q = (m·c + C)·(T at mixing − T before)   ΔH = −q/ξ",
        meaning: "The line through the later readings, carried back to the moment of mixing, puts back what cooling took. Heat given off is negative.",
        source: "Shoemaker, Garland & Nibler, Experiments in Physical Chemistry, 8th ed., VI",
    },
    MethodText {
        title: "Gas over water",
        formula: "p = p air − p water(T) − ρ·g·h   n = p·V/(R·T)",
        meaning: "Vapour pressure by the equation of IAPWS; the column of water inside counts where it is read. Ideal gas.",
        source: "Wagner & Pruß 2002; IUPAC Green Book, 3rd ed., 2.10",
    },
    MethodText {
        title: "Charge",
        formula: "n = I·t/(z·F)   efficiency = m/(n·M)",
        meaning: "What a constant current could deposit, and how much of it was found.",
        source: "IUPAC Green Book, 3rd ed., 2.13",
    },
    MethodText {
        title: "Empirical formula",
        formula: "χ² = min (n − k·s)ᵀ V⁻¹ (n − k·s)",
        meaning: "Every formula with small subscripts is tried; those within 95 % are consistent. Several are called ambiguous, and the precision that would decide is named.",
        source: "generalised least squares; JCGM 102:2011",
    },
    MethodText {
        title: "Water of crystallisation",
        formula: "x = (m lost/M(H₂O))/(m left/M(salt))",
        meaning: "With its uncertainty; candidates within x ± 1.96 u are consistent.",
        source: "JCGM 100:2008",
    },
    MethodText {
        title: "pH",
        formula: "[H⁺] − Kw/[H⁺] + Σ c·(z − n̄ + s) = 0",
        meaning: "Exact charge balance for strong and weak acids and bases, salts and mixtures; no activities.",
        source: "Harris, chapters 8 to 11",
    },
    MethodText {
        title: "Standard uncertainty",
        formula: "u²(y) = Σ over sources (Σ ∂y/∂x·u)²",
        meaning: "What is shared (one burette, one balance, one atomic mass) is added before it is squared. Rectangular a/√3, triangular a/√6, a step δ/√12.",
        source: "JCGM 100:2008, 4.3 and 5.1.2",
    },
    MethodText {
        title: "Expanded uncertainty",
        formula: "U = 2 u",
        meaning: "What stands after ± on screens and print, always named with k = 2.",
        source: "JCGM 100:2008, 6.2",
    },
    MethodText {
        title: "Significant figures",
        formula: "+ − coarsest last place; × ÷ fewest figures; log: decimals = figures",
        meaning: "Molar masses, coefficients and plain numbers count as exact. Rounding is the last step.",
        source: "school rule",
    },
    MethodText {
        title: "Apparatus error, simple school",
        formula: "Σ |∂y/∂x| · half a division",
        meaning: "Both readings of a difference count; for products the percentages add up.",
        source: "school rule",
    },
    MethodText {
        title: "Outliers",
        formula: "G = |x − x̄|/s   Q = gap/range",
        meaning: "Two-sided at 5 %. A test marks a value; removing it takes a reason from the bench.",
        source: "ISO 5725-2 (Grubbs); Rorabacher 1991 (Dixon)",
    },
    MethodText {
        title: "Robust mean of a class",
        formula: "Algorithm A: values beyond 1.5 s* drawn in, until nothing changes",
        meaning: "A few wild values do not move it.",
        source: "ISO 13528, C.3.1",
    },
];
