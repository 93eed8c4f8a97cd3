//! The elements and their relative atomic masses.
//!
//! Source: standard atomic weights 2021, abridged to five figures, with the uncertainty of the last digit
//! (Prohaska et al., Pure Appl. Chem. 94, 573, 2022). The one-decimal school values are the abridged ones rounded half
//! up. Elements without a standard atomic weight have none here.

/// One element.
#[derive(Debug, PartialEq)]
pub struct Element {
    /// As in `Mg`.
    pub symbol: &'static str,
    /// Protons.
    pub number: u8,
    /// English name.
    pub name: &'static str,
    /// Relative atomic mass by the abridged table, and its half-width.
    pub abridged: Option<(f64, f64)>,
    /// Relative atomic mass by the one-decimal school table.
    pub school: Option<f64>,
}

/// The element with this symbol, as written: `Co` is cobalt, `CO` is none.
#[must_use]
pub fn element(symbol: &str) -> Option<&'static Element> {
    ELEMENTS.iter().find(|e| e.symbol == symbol)
}

/// Isotopes that a formula may name, with their relative masses.
///
/// Source: AME2020 (Wang et al., Chinese Phys. C 45, 030003, 2021), rounded to 1e-9.
pub const ISOTOPES: &[(&str, u16, f64)] = &[
    ("H", 1, 1.007_825_032),
    ("H", 2, 2.014_101_778),
    ("H", 3, 3.016_049_281),
    ("C", 12, 12.0),
    ("C", 13, 13.003_354_835),
    ("N", 14, 14.003_074_004),
    ("N", 15, 15.000_108_899),
    ("O", 16, 15.994_914_619),
    ("O", 17, 16.999_131_757),
    ("O", 18, 17.999_159_613),
    ("Cl", 35, 34.968_852_694),
    ("Cl", 37, 36.965_902_574),
];

const fn known(
    symbol: &'static str,
    number: u8,
    name: &'static str,
    mass: f64,
    half_width: f64,
    school: f64,
) -> Element {
    Element { symbol, number, name, abridged: Some((mass, half_width)), school: Some(school) }
}

const fn unweighed(symbol: &'static str, number: u8, name: &'static str) -> Element {
    Element { symbol, number, name, abridged: None, school: None }
}

/// All elements, by atomic number.
#[rustfmt::skip]
pub const ELEMENTS: [Element; 118] = [
    known("H", 1, "hydrogen", 1.0080, 0.0002, 1.0),
    known("He", 2, "helium", 4.0026, 0.0001, 4.0),
    known("Li", 3, "lithium", 6.94, 0.06, 6.9),
    known("Be", 4, "beryllium", 9.0122, 0.0001, 9.0),
    known("B", 5, "boron", 10.81, 0.02, 10.8),
    known("C", 6, "carbon", 12.011, 0.002, 12.0),
    known("N", 7, "nitrogen", 14.007, 0.001, 14.0),
    known("O", 8, "oxygen", 15.999, 0.001, 16.0),
    known("F", 9, "fluorine", 18.998, 0.001, 19.0),
    known("Ne", 10, "neon", 20.180, 0.001, 20.2),
    known("Na", 11, "sodium", 22.990, 0.001, 23.0),
    known("Mg", 12, "magnesium", 24.305, 0.002, 24.3),
    known("Al", 13, "aluminium", 26.982, 0.001, 27.0),
    known("Si", 14, "silicon", 28.085, 0.001, 28.1),
    known("P", 15, "phosphorus", 30.974, 0.001, 31.0),
    known("S", 16, "sulfur", 32.06, 0.02, 32.1),
    known("Cl", 17, "chlorine", 35.45, 0.01, 35.5),
    known("Ar", 18, "argon", 39.95, 0.16, 40.0),
    known("K", 19, "potassium", 39.098, 0.001, 39.1),
    known("Ca", 20, "calcium", 40.078, 0.004, 40.1),
    known("Sc", 21, "scandium", 44.956, 0.001, 45.0),
    known("Ti", 22, "titanium", 47.867, 0.001, 47.9),
    known("V", 23, "vanadium", 50.942, 0.001, 50.9),
    known("Cr", 24, "chromium", 51.996, 0.001, 52.0),
    known("Mn", 25, "manganese", 54.938, 0.001, 54.9),
    known("Fe", 26, "iron", 55.845, 0.002, 55.8),
    known("Co", 27, "cobalt", 58.933, 0.001, 58.9),
    known("Ni", 28, "nickel", 58.693, 0.001, 58.7),
    known("Cu", 29, "copper", 63.546, 0.003, 63.5),
    known("Zn", 30, "zinc", 65.38, 0.02, 65.4),
    known("Ga", 31, "gallium", 69.723, 0.001, 69.7),
    known("Ge", 32, "germanium", 72.630, 0.008, 72.6),
    known("As", 33, "arsenic", 74.922, 0.001, 74.9),
    known("Se", 34, "selenium", 78.971, 0.008, 79.0),
    known("Br", 35, "bromine", 79.904, 0.003, 79.9),
    known("Kr", 36, "krypton", 83.798, 0.002, 83.8),
    known("Rb", 37, "rubidium", 85.468, 0.001, 85.5),
    known("Sr", 38, "strontium", 87.62, 0.01, 87.6),
    known("Y", 39, "yttrium", 88.906, 0.001, 88.9),
    known("Zr", 40, "zirconium", 91.224, 0.002, 91.2),
    known("Nb", 41, "niobium", 92.906, 0.001, 92.9),
    known("Mo", 42, "molybdenum", 95.95, 0.01, 96.0),
    unweighed("Tc", 43, "technetium"),
    known("Ru", 44, "ruthenium", 101.07, 0.02, 101.1),
    known("Rh", 45, "rhodium", 102.91, 0.01, 102.9),
    known("Pd", 46, "palladium", 106.42, 0.01, 106.4),
    known("Ag", 47, "silver", 107.87, 0.01, 107.9),
    known("Cd", 48, "cadmium", 112.41, 0.01, 112.4),
    known("In", 49, "indium", 114.82, 0.01, 114.8),
    known("Sn", 50, "tin", 118.71, 0.01, 118.7),
    known("Sb", 51, "antimony", 121.76, 0.01, 121.8),
    known("Te", 52, "tellurium", 127.60, 0.03, 127.6),
    known("I", 53, "iodine", 126.90, 0.01, 126.9),
    known("Xe", 54, "xenon", 131.29, 0.01, 131.3),
    known("Cs", 55, "caesium", 132.91, 0.01, 132.9),
    known("Ba", 56, "barium", 137.33, 0.01, 137.3),
    known("La", 57, "lanthanum", 138.91, 0.01, 138.9),
    known("Ce", 58, "cerium", 140.12, 0.01, 140.1),
    known("Pr", 59, "praseodymium", 140.91, 0.01, 140.9),
    known("Nd", 60, "neodymium", 144.24, 0.01, 144.2),
    unweighed("Pm", 61, "promethium"),
    known("Sm", 62, "samarium", 150.36, 0.02, 150.4),
    known("Eu", 63, "europium", 151.96, 0.01, 152.0),
    known("Gd", 64, "gadolinium", 157.25, 0.03, 157.3),
    known("Tb", 65, "terbium", 158.93, 0.01, 158.9),
    known("Dy", 66, "dysprosium", 162.50, 0.01, 162.5),
    known("Ho", 67, "holmium", 164.93, 0.01, 164.9),
    known("Er", 68, "erbium", 167.26, 0.01, 167.3),
    known("Tm", 69, "thulium", 168.93, 0.01, 168.9),
    known("Yb", 70, "ytterbium", 173.05, 0.02, 173.1),
    known("Lu", 71, "lutetium", 174.97, 0.01, 175.0),
    known("Hf", 72, "hafnium", 178.49, 0.01, 178.5),
    known("Ta", 73, "tantalum", 180.95, 0.01, 181.0),
    known("W", 74, "tungsten", 183.84, 0.01, 183.8),
    known("Re", 75, "rhenium", 186.21, 0.01, 186.2),
    known("Os", 76, "osmium", 190.23, 0.03, 190.2),
    known("Ir", 77, "iridium", 192.22, 0.01, 192.2),
    known("Pt", 78, "platinum", 195.08, 0.02, 195.1),
    known("Au", 79, "gold", 196.97, 0.01, 197.0),
    known("Hg", 80, "mercury", 200.59, 0.01, 200.6),
    known("Tl", 81, "thallium", 204.38, 0.01, 204.4),
    known("Pb", 82, "lead", 207.2, 1.1, 207.2),
    known("Bi", 83, "bismuth", 208.98, 0.01, 209.0),
    unweighed("Po", 84, "polonium"),
    unweighed("At", 85, "astatine"),
    unweighed("Rn", 86, "radon"),
    unweighed("Fr", 87, "francium"),
    unweighed("Ra", 88, "radium"),
    unweighed("Ac", 89, "actinium"),
    known("Th", 90, "thorium", 232.04, 0.01, 232.0),
    known("Pa", 91, "protactinium", 231.04, 0.01, 231.0),
    known("U", 92, "uranium", 238.03, 0.01, 238.0),
    unweighed("Np", 93, "neptunium"),
    unweighed("Pu", 94, "plutonium"),
    unweighed("Am", 95, "americium"),
    unweighed("Cm", 96, "curium"),
    unweighed("Bk", 97, "berkelium"),
    unweighed("Cf", 98, "californium"),
    unweighed("Es", 99, "einsteinium"),
    unweighed("Fm", 100, "fermium"),
    unweighed("Md", 101, "mendelevium"),
    unweighed("No", 102, "nobelium"),
    unweighed("Lr", 103, "lawrencium"),
    unweighed("Rf", 104, "rutherfordium"),
    unweighed("Db", 105, "dubnium"),
    unweighed("Sg", 106, "seaborgium"),
    unweighed("Bh", 107, "bohrium"),
    unweighed("Hs", 108, "hassium"),
    unweighed("Mt", 109, "meitnerium"),
    unweighed("Ds", 110, "darmstadtium"),
    unweighed("Rg", 111, "roentgenium"),
    unweighed("Cn", 112, "copernicium"),
    unweighed("Nh", 113, "nihonium"),
    unweighed("Fl", 114, "flerovium"),
    unweighed("Mc", 115, "moscovium"),
    unweighed("Lv", 116, "livermorium"),
    unweighed("Ts", 117, "tennessine"),
    unweighed("Og", 118, "oganesson"),
];
