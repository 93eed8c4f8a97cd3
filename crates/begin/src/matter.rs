//! What takes part: the species of an equation, what each is weighed or dissolved as, and what is known of that.

use crate::interview::{Field, Interview, Proposed, Why};
use chem::{Balance, Equation, Formula, MassTable, Term, number};
use measure::rounding::figures;
use practical::substance::{Substance, called, statement, substances, with_formula};
use practical::{Stated, hazard_form, mass_percent, written};
use serde::Serialize;

const WATER: &str = "H2O";

/// A substance or an ion of an equation.
#[derive(Debug, Clone)]
pub(crate) struct Species {
    pub formula: Formula,
    /// How often it takes part.
    pub coefficient: f64,
}

impl Species {
    fn of(term: &Term) -> Species {
        Species { formula: term.formula.clone(), coefficient: number(term.coefficient) }
    }

    pub fn typed(&self) -> &str {
        self.formula.typed()
    }

    pub fn is_water(&self) -> bool {
        self.typed() == WATER
    }
}

/// A balanced equation.
#[derive(Debug, Clone)]
pub(crate) struct Reaction {
    /// As a file has it.
    pub text: String,
    pub reactants: Vec<Species>,
    pub products: Vec<Species>,
}

impl Reaction {
    /// The equation of `field`, balanced for whoever typed it.
    pub fn asked(on: &mut Interview<'_>, field: Field, example: &str) -> Option<Reaction> {
        let typed = on.suggested(field, vec![example.to_owned()], None)?;
        let equation = match Equation::parse(&typed) {
            Ok(equation) => equation,
            Err(problem) => return on.refuse(field, problem.to_string()),
        };
        let balanced = match (equation.check(), equation.balance()) {
            (Ok(_), _) => Some(equation.clone()),
            (_, Balance::Unique { reactants, products }) => equation.with_coefficients(&reactants, &products),
            (_, Balance::Impossible { why, .. }) => return on.refuse(field, format!("it cannot balance: {why}")),
            (_, Balance::Underdetermined { .. }) => {
                return on.refuse(field, "several reactions in one: write the coefficients, or one reaction alone");
            }
        };
        let Some(balanced) = balanced else { return on.refuse(field, "its coefficients are beyond counting") };
        let all = |terms: &[Term]| terms.iter().map(Species::of).collect();
        Some(Reaction {
            text: written(&balanced),
            reactants: all(&balanced.reactants),
            products: all(&balanced.products),
        })
    }

    /// Which of its reactants; water is none of them. Chosen by formula, the first that `likely` knows being proposed.
    pub fn reactant(&self, on: &mut Interview<'_>, field: Field, likely: impl Fn(&Species) -> bool) -> Option<Species> {
        one_of(on, field, &self.reactants, likely)
    }

    /// Which of its products.
    pub fn product(&self, on: &mut Interview<'_>, field: Field, likely: impl Fn(&Species) -> bool) -> Option<Species> {
        one_of(on, field, &self.products, likely)
    }

    /// Whether a gas comes off.
    pub fn foams(&self) -> bool {
        self.products.iter().any(|p| matches!(p.typed(), "CO2" | "H2" | "SO2" | "NH3" | "O2"))
    }

    /// The reactants without water and without `but`.
    pub fn others(&self, but: &[&Species]) -> Vec<Species> {
        let known = |s: &&Species| !s.is_water() && !but.iter().any(|b| b.formula == s.formula);
        self.reactants.iter().filter(known).cloned().collect()
    }
}

/// Which of these; water is none of them.
pub(crate) fn one_of(
    on: &mut Interview<'_>,
    field: Field,
    of: &[Species],
    likely: impl Fn(&Species) -> bool,
) -> Option<Species> {
    let of: Vec<&Species> = of.iter().filter(|s| !s.is_water()).collect();
    let names: Vec<String> = of.iter().map(|s| s.typed().to_owned()).collect();
    let first = of.iter().position(|s| likely(s)).unwrap_or(0);
    if of.is_empty() {
        return on.refuse(Field::Equation, "there is nothing but water on that side");
    }
    on.choice(field, &names, first, Why::InTheEquation).map(|at| of[at].clone())
}

/// g/mol by the abridged values; 0 where an element has none.
pub(crate) fn molar_mass(formula: &Formula) -> f64 {
    formula.molar_mass(&MassTable::Abridged).map_or(0.0, |m| m.value)
}

/// What a species is weighed or dissolved as: one material of the file.
#[derive(Debug, Clone, Serialize)]
pub(crate) struct Matter {
    pub symbol: String,
    pub name: String,
    pub formula: String,
    /// The species that it brings, where that is another formula.
    pub supplies: Option<String>,
    /// Numbers of water that it is sold with.
    pub hydrates: Vec<f64>,
    /// Statements, code first.
    pub hazards: Vec<String>,
    /// Disposal group.
    pub waste: String,
    /// g/mL, of a liquid.
    pub density: Option<String>,
    pub boils: Option<String>,
    pub melts: Option<String>,
    /// g/mol.
    #[serde(skip)]
    pub molar_mass: f64,
    /// Units of the species that one of its formula brings.
    #[serde(skip)]
    pub brings: f64,
    #[serde(skip)]
    pub substance: Option<&'static Substance>,
}

impl Matter {
    /// What a species is taken as. Asked only where it is not itself a substance of the library: a hydrate, a salt of the ion.
    pub fn of(on: &mut Interview<'_>, field: Field, species: &Species) -> Option<Matter> {
        let typed = species.typed();
        if let Some(known) = with_formula(typed) {
            return Matter::new(known.formula.as_str(), Some(known), typed, 1.0).weighable(on);
        }
        let sources = sources(&species.formula);
        if sources.is_empty() && species.formula.charge() == 0 {
            return Matter::new(typed, None, typed, 1.0).weighable(on);
        }
        let suggested: Vec<String> = sources.iter().map(|s| s.name.clone()).collect();
        let first = suggested.first().cloned().map(|name| Proposed(name, Why::InTheLibrary));
        let said = on.suggested(field, suggested, first);
        on.about(field, typed);
        let said = said?;
        let known = called(&said).or_else(|| with_formula(&said));
        let Ok(formula) = Formula::parse(known.map_or(said.as_str(), |s| s.formula.as_str())) else {
            return on.refuse(field, format!("the library has no '{said}': write its formula"));
        };
        let brings = brought(&formula, &species.formula);
        if brings <= 0.0 {
            return on.refuse(field, format!("there is no {typed} in {}", formula.typed()));
        }
        Matter::new(formula.typed(), known, typed, brings).weighable(on)
    }

    /// A substance by name or formula.
    pub fn called(on: &mut Interview<'_>, field: Field, example: &str) -> Option<Matter> {
        let said = on.suggested(field, vec![example.to_owned()], None)?;
        let known = called(&said).or_else(|| with_formula(&said));
        match Formula::parse(known.map_or(said.as_str(), |s| s.formula.as_str())) {
            Ok(formula) if molar_mass(&formula) > 0.0 => {
                Some(Matter::new(formula.typed(), known, formula.typed(), 1.0))
            }
            _ => on.refuse(field, format!("the library has no '{said}': write its formula")),
        }
    }

    fn new(formula: &str, known: Option<&'static Substance>, species: &str, brings: f64) -> Matter {
        let parsed = Formula::parse(formula).ok();
        let name = known.map_or_else(|| formula.to_owned(), |s| s.name.clone());
        let degrees = |text: &Option<String>| text.as_ref().map(|t| format!("{t} °C"));
        Matter {
            symbol: symbol_of(&name),
            formula: formula.to_owned(),
            supplies: (formula != species).then(|| species.to_owned()),
            hydrates: hydrates(formula),
            hazards: Vec::new(),
            waste: known.map_or_else(String::new, |s| s.disposal.clone()),
            density: known.and_then(|s| s.density.as_ref()).map(|d| format!("{d} g/mL")),
            boils: known.and_then(|s| degrees(&s.boils)),
            melts: known.and_then(|s| degrees(&s.melts)),
            molar_mass: parsed.as_ref().map_or(0.0, molar_mass),
            brings,
            substance: known,
            name,
        }
    }

    /// The same, if an amount of it has a mass.
    fn weighable(self, on: &mut Interview<'_>) -> Option<Matter> {
        if self.molar_mass > 0.0 {
            return Some(self);
        }
        on.refuse(Field::Equation, format!("{} has an element without a standard atomic mass", self.formula))
    }

    /// With the hazards of the substance as it is, or of its solution where a strength is said.
    pub fn taken_as(mut self, strength: Option<&Stated>) -> Matter {
        let percent = strength.map(|s| mass_percent(s, self.molar_mass));
        self.hazards = self.substance.map_or_else(Vec::new, |s| statements(s, percent));
        self
    }

    /// With a symbol that none of `taken` has.
    pub fn distinct(mut self, taken: &[&Matter]) -> Matter {
        let base = self.symbol.clone();
        let mut n = 2;
        while taken.iter().any(|t| t.symbol == self.symbol) {
            self.symbol = format!("{base}_{n}");
            n += 1;
        }
        self
    }
}

/// Substances that bring a species: its hydrates, or salts of an ion.
fn sources(species: &Formula) -> Vec<&'static Substance> {
    let core = |formula: &str| formula.split('·').next().unwrap_or_default().to_owned();
    let is_salt = |s: &Substance| {
        let partner =
            if species.charge() > 0 { ["chloride", "nitrate", "sulfate"] } else { ["sodium", "potassium", "ammonium"] };
        partner.iter().any(|p| s.name.contains(p))
    };
    let brings = |s: &&Substance| match species.charge() {
        0 => core(&s.formula) == species.typed(),
        _ => is_salt(s) && Formula::parse(&s.formula).is_ok_and(|f| carries(&f, species)),
    };
    let mut found: Vec<&Substance> = substances().iter().filter(brings).collect();
    // What is known to dissolve comes first.
    found.sort_by_key(|s| s.solubility.is_none());
    found
}

/// Whether the formula of a salt is the ion and one partner: no element of the ion is in the partner as well.
fn carries(salt: &Formula, ion: &Formula) -> bool {
    let n = brought(salt, ion);
    let water = salt.typed().split_once('·').is_some();
    let kept = |symbol: &str| (salt.composition().count(symbol) - n * ion.composition().count(symbol)).abs() < 1e-9;
    let own = |s: &str| !(water && matches!(s, "H" | "O"));
    let oxygens = water || ion.composition().count("O") == 0.0 || kept("O");
    n > 0.0
        && oxygens
        && ion
            .composition()
            .iter()
            .all(|(a, _)| !own(a.element.symbol) || a.element.symbol == "O" || kept(a.element.symbol))
}

/// How many of a species one formula holds, by the element that allows the fewest; water of crystallisation brings none.
fn brought(formula: &Formula, species: &Formula) -> f64 {
    let dry = formula.typed().split('·').next().and_then(|f| Formula::parse(f).ok());
    let of = dry.as_ref().filter(|_| !species.typed().contains('·')).unwrap_or(formula);
    let each = species.composition().iter().map(|(atom, n)| (of.composition().count(atom.element.symbol) / n).floor());
    each.fold(f64::INFINITY, f64::min)
}

/// Numbers of water that the library knows a salt with.
fn hydrates(formula: &str) -> Vec<f64> {
    let core = formula.split('·').next().unwrap_or_default();
    let waters = |s: &Substance| {
        let (own, water) = s.formula.split_once('·').unwrap_or((s.formula.as_str(), "0H2O"));
        (own == core)
            .then(|| water.strip_suffix(WATER))?
            .map(|n| if n.is_empty() { 1.0 } else { n.parse().unwrap_or(0.0) })
    };
    let mut found: Vec<f64> = substances().iter().filter_map(waters).collect();
    found.sort_by(f64::total_cmp);
    if found.len() > 1 { found } else { Vec::new() }
}

/// The word by which the sheet calls a substance: the last one of its name that is no count of waters.
fn symbol_of(name: &str) -> String {
    let word = name.split([' ', ',']).rfind(|w| !w.is_empty() && !w.ends_with("hydrate")).unwrap_or(name);
    let word = word.split('(').next().filter(|w| !w.is_empty()).unwrap_or(word);
    let plain: String = word.chars().filter(char::is_ascii_alphanumeric).collect::<String>().to_lowercase();
    if plain.len() < 3 || plain.starts_with(|c: char| c.is_ascii_digit()) { format!("s_{plain}") } else { plain }
}

/// The statements of a substance as it is, or as a solution of so many per cent. A solution of a salt of which only the solid is
/// classified has none by us: see the supplier's sheet.
fn statements(of: &Substance, percent: Option<f64>) -> Vec<String> {
    let form = hazard_form(of, percent);
    form.map_or_else(Vec::new, |f| f.hazards.iter().filter_map(|c| statement(c)).collect())
}

/// The statements of what has this name in the library, as it is.
pub(crate) fn statements_of(name: &str) -> Vec<String> {
    called(name).map_or_else(Vec::new, |s| statements(s, None))
}

/// A mass as somebody would plan it: two figures, three from a gram on.
pub(crate) fn round_mass(grams: f64) -> f64 {
    let text = figures(grams, if grams >= 1.0 { 3 } else { 2 });
    text.parse().unwrap_or(grams)
}
