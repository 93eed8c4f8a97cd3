//! What a teacher would type, for each aim twice: the second is nothing like the first.

use begin::{Aim, Field as F};

type Case = (Aim, &'static [(F, &'static str)]);

pub const CASES: &[Case] = &[
    (Aim::TitrantByMass, &[(F::Equation, "Na2CO3 + HCl -> NaCl + H2O + CO2")]),
    (Aim::TitrantByMass, &[(F::Equation, "H2C2O4 + NaOH -> Na2C2O4 + H2O"), (F::TitrantStrength, "about 0.2 mol/L")]),
    (
        Aim::TitrantByMass,
        &[
            (F::Equation, "2 MnO4^- + 5 C2O4^2- + 16 H^+ -> 2 Mn^2+ + 10 CO2 + 8 H2O"),
            (F::TitrantStrength, "about 0.02 mol/L"),
        ],
    ),
    (Aim::TitrantBySolution, &[(F::Equation, "HCl + NaOH -> NaCl + H2O")]),
    (
        Aim::TitrantBySolution,
        &[
            (F::Equation, "AgNO3 + NaCl -> AgCl + NaNO3"),
            (F::StandardStrength, "0.0500 ± 0.0002 mol/L"),
            (F::TitrantStrength, "about 0.05 mol/L"),
        ],
    ),
    (
        Aim::SampleByTitration,
        &[(F::Equation, "CH3COOH + NaOH -> CH3COONa + H2O"), (F::SampleStrength, "0.7 to 1.0 mol/L")],
    ),
    (
        Aim::SampleByTitration,
        &[
            (F::Equation, "Ag^+ + Cl^- -> AgCl"),
            (F::SampleStrength, "0.04 to 0.06 mol/L"),
            (F::TitrantStrength, "0.0500 ± 0.0002 mol/L"),
            (F::Blank, "yes"),
        ],
    ),
    (
        Aim::BackTitration,
        &[(F::Equation, "CaCO3 + HCl -> CaCl2 + H2O + CO2"), (F::OtherEquation, "HCl + NaOH -> NaCl + H2O")],
    ),
    (
        Aim::BackTitration,
        &[
            (F::Equation, "MgO + H2SO4 -> MgSO4 + H2O"),
            (F::OtherEquation, "H2SO4 + 2 NaOH -> Na2SO4 + 2 H2O"),
            (F::StandardStrength, "0.250 ± 0.001 mol/L"),
            (F::Part, "60 %"),
        ],
    ),
    (Aim::YieldOfSalt, &[(F::Equation, "CuO + H2SO4 + H2O -> CuSO4·5H2O"), (F::Limiting, "H2SO4")]),
    (
        Aim::YieldOfSalt,
        &[(F::Equation, "FeSO4·7H2O + (NH4)2SO4 -> (NH4)2Fe(SO4)2·6H2O + H2O"), (F::ProductMass, "8.0 g")],
    ),
    (Aim::YieldOfPrecipitate, &[(F::Equation, "CaCl2 + Na2CO3 -> CaCO3 + NaCl")]),
    (Aim::YieldOfPrecipitate, &[(F::Equation, "Sr^2+ + SO4^2- -> SrSO4"), (F::AskWhichLimits, "no")]),
    (Aim::YieldOfOrganicSolid, &[(F::Equation, "C7H9N + C7H5ClO -> C14H13NO + HCl"), (F::Melting, "105 °C")]),
    (
        Aim::YieldOfOrganicSolid,
        &[(F::Equation, "C7H6O3 + C4H6O3 -> C9H8O4 + C2H4O2"), (F::OtherAs, "solid"), (F::Solvent, "water")],
    ),
    (
        Aim::YieldOfOrganicLiquid,
        &[(F::Equation, "CH3COOH + C2H5OH -> CH3COOC2H5 + H2O"), (F::Catalyst, "sulfuric acid")],
    ),
    (Aim::YieldOfOrganicLiquid, &[(F::Equation, "C6H12O -> C6H10 + H2O"), (F::ProductMass, "8 g")]),
    (Aim::SimplestFormula, &[(F::Equation, "Mg + O2 -> MgO")]),
    (Aim::SimplestFormula, &[(F::Equation, "CuO + H2 -> Cu + H2O")]),
    (Aim::WatersOfCrystallisation, &[(F::Hydrate, "MgSO4·7H2O")]),
    (Aim::WatersOfCrystallisation, &[(F::Hydrate, "barium chloride dihydrate"), (F::Mass, "1.5 g")]),
    (Aim::PartByPrecipitate, &[(F::Equation, "Ba^2+ + SO4^2- -> BaSO4")]),
    (Aim::PartByPrecipitate, &[(F::Equation, "Ag^+ + Cl^- -> AgCl"), (F::Part, "30 %")]),
    (Aim::PartByResidue, &[(F::Substance, "sodium chloride"), (F::Other, "sand")]),
    (Aim::PartByResidue, &[(F::Substance, "sucrose"), (F::Other, "calcium carbonate"), (F::Part, "70 %")]),
    (Aim::Recovery, &[(F::Substance, "benzoic acid")]),
    (Aim::Recovery, &[(F::Substance, "ethanamide"), (F::Solvent, "propan-2-ol"), (F::Mass, "1.2 g")]),
    (Aim::Solution, &[(F::Substance, "CuSO4·5H2O")]),
    (Aim::Solution, &[(F::Substance, "potassium hydrogen phthalate"), (F::Strength, "0.05 mol/L")]),
    (Aim::DilutionSeries, &[(F::Substance, "potassium permanganate"), (F::Strength, "0.004 mol/L")]),
    (Aim::DilutionSeries, &[(F::Substance, "CuSO4·5H2O"), (F::Volumes, "5, 10, 20")]),
    (Aim::WhichLimits, &[(F::Equation, "CaCl2 + Na2CO3 -> CaCO3 + NaCl"), (F::Excess, "40 %")]),
    (Aim::WhichLimits, &[(F::Equation, "Sr^2+ + SO4^2- -> SrSO4"), (F::LimitingAs, "solid"), (F::Excess, "50 %")]),
    (
        Aim::WhichReaction,
        &[
            (F::Equation, "Cu + AgNO3 -> Cu(NO3)2 + Ag"),
            (F::OtherEquation, "Cu + AgNO3 -> CuNO3 + Ag"),
            (F::Seen, "blue"),
            (F::SeenOtherwise, "colourless"),
        ],
    ),
    (
        Aim::WhichReaction,
        &[
            (F::Equation, "Fe + CuSO4 -> FeSO4 + Cu"),
            (F::OtherEquation, "2 Fe + 3 CuSO4 -> Fe2(SO4)3 + 3 Cu"),
            (F::Seen, "pale green"),
            (F::SeenOtherwise, "yellow-brown"),
        ],
    ),
];
