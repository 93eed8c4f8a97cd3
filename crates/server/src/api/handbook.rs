//! The tables of the handbook, as the core computes with them.

use crate::access::Staff;
use actix_web::{get, web};
use chem::{ELEMENTS, Formula, MassTable, Run};
use measure::rounding::{Ties, decimal_of, to_place};
use measure::{GLASSWARE, Glassware};
use practical::book::{METHODS, MethodText};
use practical::substance::{HazardForm, Pictogram, Substance, advice, find, pictograms, statement};
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};

/// One element of the table in use.
#[derive(Debug, Serialize, ToSchema)]
pub struct ElementView {
    /// Protons.
    number: u8,
    /// Symbol.
    symbol: &'static str,
    /// Name.
    name: &'static str,
    /// Relative atomic mass by the standard abridged table, digits of the table; none where there is no standard one.
    abridged: Option<String>,
    /// Half-width of its interval.
    half_width: Option<String>,
    /// By the one-decimal school table.
    school: Option<String>,
}

/// `GET /handbook/elements`, for instructors and technicians.
#[utoipa::path(get, path = "/api/v1/handbook/elements", responses((status = 200, body = [ElementView])))]
#[get("/handbook/elements")]
pub async fn elements(_staff: Staff) -> web::Json<Vec<ElementView>> {
    let view = |e: &chem::Element| ElementView {
        number: e.number,
        symbol: e.symbol,
        name: e.name,
        abridged: e.abridged.map(|(mass, half_width)| with_digits_of(mass, half_width)),
        half_width: e.abridged.map(|(_, half_width)| half_width.to_string()),
        school: e.school.map(|mass| format!("{mass:.1}")),
    };
    web::Json(ELEMENTS.iter().map(view).collect())
}

/// `GET /handbook/glassware`, for instructors and technicians.
#[utoipa::path(get, path = "/api/v1/handbook/glassware", responses((status = 200, body = [Glassware])))]
#[get("/handbook/glassware")]
pub async fn show_glassware(_staff: Staff) -> web::Json<&'static [Glassware]> {
    web::Json(GLASSWARE)
}

/// The mass with as many decimals as its half-width has: 1.0080 ± 0.0002.
fn with_digits_of(mass: f64, half_width: f64) -> String {
    let decimals = half_width.to_string().split_once('.').map_or(0, |(_, part)| part.len());
    format!("{mass:.decimals$}")
}

/// What is looked for.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Wanted {
    /// Words of a name, or a formula; everything if empty.
    #[serde(default)]
    find: String,
}

/// Substances that were found.
#[derive(Debug, Serialize, ToSchema)]
pub struct SubstancesView {
    /// Best first.
    found: Vec<SubstanceView>,
    /// What was searched for instead, where nothing holds the words as they were typed.
    near: Option<String>,
}

/// A substance of the library, with what follows from its formula and its hazards.
#[derive(Debug, Serialize, ToSchema)]
pub struct SubstanceView {
    /// As it stands in the library.
    substance: Substance,
    /// The formula, ready for setting.
    runs: Vec<Run>,
    /// g/mol by the standard abridged masses, to the thousandth.
    molar_mass: String,
    /// Each form with its statements in full.
    hazards: Vec<HazardView>,
}

/// One form or strength of a substance.
#[derive(Debug, Serialize, ToSchema)]
pub struct HazardView {
    /// As in `5 to 15 % w/w`.
    form: String,
    /// Hazard statements in their exact wording.
    statements: Vec<String>,
    /// Precautionary statements that usually follow.
    advice: Vec<String>,
    /// The marks on its label.
    pictograms: Vec<Pictogram>,
}

/// `GET /handbook/substances`, for instructors and technicians.
#[utoipa::path(get, path = "/api/v1/handbook/substances", params(Wanted), responses((status = 200, body = SubstancesView)))]
#[get("/handbook/substances")]
pub async fn show_substances(_staff: Staff, wanted: web::Query<Wanted>) -> web::Json<SubstancesView> {
    let found = find(&wanted.find);
    web::Json(SubstancesView { found: found.substances.into_iter().map(substance_view).collect(), near: found.near })
}

fn substance_view(s: &Substance) -> SubstanceView {
    let formula = Formula::parse(&s.formula).ok();
    let mass = formula.as_ref().and_then(|f| decimal_of(f.molar_mass(&MassTable::Abridged).ok()?.value));
    let hazard = |f: &HazardForm| HazardView {
        form: f.form.clone(),
        statements: f.hazards.iter().filter_map(|h| statement(h)).collect(),
        advice: advice(&f.hazards),
        pictograms: pictograms(&f.hazards),
    };
    SubstanceView {
        runs: formula.map_or_else(Vec::new, |f| f.runs().to_vec()),
        molar_mass: mass.map_or_else(String::new, |m| to_place(m, -3, Ties::HalfUp).to_string()),
        hazards: s.forms.iter().map(hazard).collect(),
        substance: s.clone(),
    }
}

/// `GET /handbook/methods`, for instructors and technicians: what is calculated, how, and by which authority.
#[utoipa::path(get, path = "/api/v1/handbook/methods", responses((status = 200, body = [MethodText])))]
#[get("/handbook/methods")]
pub async fn show_methods(_staff: Staff) -> web::Json<&'static [MethodText]> {
    web::Json(METHODS)
}
