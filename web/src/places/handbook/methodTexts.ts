export interface Method {
  title: string
  formula: string
  meaning: string
  source: string
}

/** The methods of the core, in the words of a chemist; `docs/methods.md` says more of each. */
export const METHODS: readonly Method[] = [
  {
    title: 'Amount of substance',
    formula: 'n = m·w/M   n = c·V   n = V·ρ·w/M   n = p·V/(R·T)',
    meaning:
      'Of a solid of purity w, a solution, a liquid, a gas taken as ideal. A hydrate is weighed with its water.',
    source: 'IUPAC Green Book, 3rd ed., 2.10',
  },
  {
    title: 'Limiting reagent',
    formula: 'ξ = min(nᵢ/νᵢ)   left = nᵢ − νᵢ·ξ',
    meaning:
      'The smallest extent decides. Within twice its uncertainty of the next one, the chance that each limits is given instead.',
    source: 'IUPAC Green Book, 3rd ed., 2.10; JCGM 101:2008',
  },
  {
    title: 'Percent yield, percent recovery',
    formula: 'yield = m/(ξ·ν·M)   recovery = m out/m in',
    meaning:
      'Yield compares amounts. Recovery is of the same substance in and out; any other mass over mass is a mass ratio.',
    source: 'IUPAC Gold Book, yield',
  },
  {
    title: 'Concordant titres',
    formula: 'most titres with range ≤ limit, then the smallest range',
    meaning:
      'Compared as exact decimals. Rough titres are kept apart. Equally good sets are told, not chosen between.',
    source: 'school practice; the limit is the instructor’s',
  },
  {
    title: 'Standardisation',
    formula: 'c = m·w/M · (V aliquot/V flask) · ν/(V titre − V blank)',
    meaning: 'With a mass weighed for each trial the concentrations are compared, never the titres.',
    source: 'QUAM:2012, A2 and A3',
  },
  {
    title: 'Back titration',
    formula: 'n = (n added − n left)/ν',
    meaning: 'What the excess reagent lost is what the sample took.',
    source: 'Harris, Quantitative Chemical Analysis, chapter 7',
  },
  {
    title: 'Empirical formula',
    formula: 'χ² = min (n − k·s)ᵀ V⁻¹ (n − k·s)',
    meaning:
      'Every formula with small subscripts is tried; those within 95 % are consistent. Several are called ambiguous, and the precision that would decide is named.',
    source: 'generalised least squares; JCGM 102:2011',
  },
  {
    title: 'Water of crystallisation',
    formula: 'x = (m lost/M(H₂O))/(m left/M(salt))',
    meaning: 'With its uncertainty; candidates within x ± 1.96 u are consistent.',
    source: 'JCGM 100:2008',
  },
  {
    title: 'pH',
    formula: '[H⁺] − Kw/[H⁺] + Σ c·(z − n̄ + s) = 0',
    meaning: 'Exact charge balance for strong and weak acids and bases, salts and mixtures; no activities.',
    source: 'Harris, chapters 8 to 11',
  },
  {
    title: 'Standard uncertainty',
    formula: 'u²(y) = Σ over sources (Σ ∂y/∂x·u)²',
    meaning:
      'What is shared (one burette, one balance, one atomic mass) is added before it is squared. Rectangular a/√3, triangular a/√6, a step δ/√12.',
    source: 'JCGM 100:2008, 4.3 and 5.1.2',
  },
  {
    title: 'Expanded uncertainty',
    formula: 'U = 2 u',
    meaning: 'What stands after ± on screens and print, always named with k = 2.',
    source: 'JCGM 100:2008, 6.2',
  },
  {
    title: 'Significant figures',
    formula: '+ − coarsest last place; × ÷ fewest figures; log: decimals = figures',
    meaning: 'Molar masses, coefficients and plain numbers count as exact. Rounding is the last step.',
    source: 'school rule',
  },
  {
    title: 'Apparatus error, simple school',
    formula: 'Σ |∂y/∂x| · half a division',
    meaning: 'Both readings of a difference count; for products the percentages add up.',
    source: 'school rule',
  },
  {
    title: 'Outliers',
    formula: 'G = |x − x̄|/s   Q = gap/range',
    meaning: 'Two-sided at 5 %. A test marks a value; removing it takes a reason from the bench.',
    source: 'ISO 5725-2 (Grubbs); Rorabacher 1991 (Dixon)',
  },
  {
    title: 'Robust mean of a class',
    formula: 'Algorithm A: values beyond 1.5 s* drawn in, until nothing changes',
    meaning: 'A few wild values do not move it.',
    source: 'ISO 13528, C.3.1',
  },
]
