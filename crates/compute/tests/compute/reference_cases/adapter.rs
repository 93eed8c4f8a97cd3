//! From the inputs of a case to a request, and from an answer to the fields of a case. Reshaping only: no arithmetic.

use super::{physical, recipes};
use compute::{Request, compute};
use serde_json::{Map, Value, json};

/// What the door says to the inputs of a case, in the case's own fields.
pub fn got(kind: &str, inputs: &Value) -> Result<Value, String> {
    match kind {
        _ if kind.starts_with("molar_mass") => Ok(molar_mass(text(inputs, "formula"))),
        _ if kind.starts_with("bad_formula") => Ok(bad_formula(inputs)),
        _ if kind.starts_with("balance") => Ok(balance(text(inputs, "equation"))),
        _ if kind.starts_with("limiting") => Ok(limiting(inputs)),
        _ if kind.starts_with("titr_gum") => Ok(gum(inputs)),
        _ if kind.starts_with("titr_") => titration(kind, inputs),
        _ if kind.starts_with("empirical") => Ok(empirical(kind, inputs)),
        "hydrate" => Ok(hydrate(inputs)),
        "scat_hydrate" => Ok(scattering_hydrate(inputs)),
        _ if kind.starts_with("scat_") => Ok(scattering(kind, inputs)),
        _ if kind.starts_with("run_") => Ok(run_down(inputs)),
        _ if kind.starts_with("schedule") => Ok(schedule(inputs)),
        _ if kind.starts_with("rec_") => recipes::recipe(kind, inputs),
        _ if kind.starts_with("sol_") => solution(kind, inputs),
        _ if kind.starts_with("stats_") => statistics(kind, inputs),
        "ph_titration" | "ph_static" => Ok(ph(kind, inputs)),
        _ if kind.starts_with("sigfig") => Ok(sigfig(kind, inputs)),
        "write_formula" => Ok(written_formula(text(inputs, "text"))),
        "write_formula_ask" => Ok(asked_formula(text(inputs, "text"))),
        _ if kind.starts_with("write_equation") => Ok(written_equation(text(inputs, "text"))),
        _ if kind.starts_with("write_") => Ok(written(inputs)),
        _ => physical::got(kind, inputs),
    }
}

/// The answer as JSON, or the refusal as JSON.
pub(super) fn ask(request: &Value) -> Result<Value, Value> {
    let request: Request = serde_json::from_value(request.clone()).unwrap_or_else(|e| panic!("{e} in {request}"));
    match compute(&request) {
        Ok(answer) => Ok(serde_json::to_value(answer).unwrap()),
        Err(error) => Err(serde_json::to_value(error).unwrap()),
    }
}

fn answered(request: &Value, shape: impl Fn(&Value) -> Value) -> Value {
    match ask(request) {
        Ok(answer) => shape(&answer),
        Err(error) => json!({ "reject": true, "error": error }),
    }
}

pub(super) fn text<'v>(inputs: &'v Value, name: &str) -> &'v str {
    inputs[name].as_str().unwrap_or_else(|| panic!("{name} is a text in {inputs}"))
}

/// `"24.10"` or 24.1 with a unit behind it.
pub(super) fn quantity(value: &Value, unit: &str) -> Value {
    let number = value.as_str().map_or_else(|| value.to_string(), str::to_owned);
    json!(format!("{number} {unit}"))
}

fn maybe(value: &Value, unit: &str) -> Value {
    if value.is_null() { Value::Null } else { quantity(value, unit) }
}

/// The unrounded value of one result.
fn result(answer: &Value, name: &str) -> Value {
    let worked = if answer["worked"].is_null() { answer } else { &answer["worked"] };
    worked["results"]
        .as_array()
        .and_then(|all| all.iter().find(|r| r["name"] == name))
        .map_or(Value::Null, |r| r["value"].clone())
}

pub(super) fn pick(answer: &Value, fields: &[(&str, &str)]) -> Value {
    fields.iter().map(|(field, name)| ((*field).to_owned(), result(answer, name))).collect::<Map<_, _>>().into()
}

fn molar_mass(formula: &str) -> Value {
    match ask(&json!({ "kind": "formula", "formula": formula })) {
        Ok(answer) => {
            let parts = answer["composition"].as_array().unwrap();
            let by = |what: &str| {
                parts.iter().map(|p| (p["symbol"].as_str().unwrap().to_owned(), p[what].clone())).collect::<Map<_, _>>()
            };
            let school = ask(&json!({ "kind": "formula", "formula": formula, "masses": "school" }));
            json!({
                "molar_mass": answer["molar_mass"],
                "charge": answer["charge"],
                "composition": by("count"),
                "mass_percent": by("percent"),
                "molar_mass_school_1dp": school.map_or(Value::Null, |s| s["molar_mass"].clone()),
            })
        }
        Err(error) => json!({ "reject": true, "no_standard_atomic_weight": [error["symbol"]] }),
    }
}

fn bad_formula(inputs: &Value) -> Value {
    let formula = match &inputs["formula_gen"] {
        Value::Null => text(inputs, "formula").to_owned(),
        made => {
            let part = |name: &str| made[name].as_str().unwrap_or_default();
            let times = usize::try_from(made["times"].as_u64().unwrap()).unwrap();
            format!("{}{}{}", part("prefix"), part("repeat").repeat(times), part("suffix"))
        }
    };
    match ask(&json!({ "kind": "formula", "formula": formula })) {
        Ok(_) => json!({ "reject": false }),
        Err(error) => json!({ "reject": true, "position": error["offset"] }),
    }
}

fn balance(equation: &str) -> Value {
    answered(&json!({ "kind": "equation", "equation": equation }), |answer| {
        let balance = &answer["balance"];
        let numbers = |side: &str| -> Value {
            balance[side].as_array().map_or(Value::Null, |all| {
                all.iter().map(|n| n.as_str().unwrap().parse::<u64>().unwrap()).collect::<Vec<_>>().into()
            })
        };
        json!({
            "status": balance["status"],
            "reactants": numbers("reactants"),
            "products": numbers("products"),
            "dimension": answer["dimension"],
        })
    })
}

fn limiting(inputs: &Value) -> Value {
    let reagents: Vec<Value> = inputs["reagents"].as_array().unwrap().iter().map(reagent).collect();
    let request = json!({
        "kind": "reaction", "ask": "yield",
        "equation": inputs["equation"],
        "reagents": reagents,
        "product": inputs["product"],
        "product_as": inputs["product_weighed_as"],
        "actual": quantity(&inputs["actual_mass_g"], "g"),
    });
    answered(&request, |answer| {
        let used = answer["reagents"].as_array().unwrap();
        let limiting: Vec<&Value> = used.iter().filter(|r| r["limits"] == true).map(|r| &r["species"]).collect();
        let left = |(r, given): (&Value, &Value)| {
            let of = |what: &str| result(answer, &format!("{what}_{}", r["symbol"].as_str().unwrap()));
            let supplied = if given["form"] == "solid" { "mass_g" } else { "volume_mL" };
            json!({
                "species": r["species"],
                "moles": of("n"),
                "moles_over_coefficient": of("x"),
                "used_mol": of("used"),
                "left_mol": of("left"),
                "left_mass_g_pure_species": of("left_mass"),
                "left_as_supplied": { supplied: of("left_supply") },
            })
        };
        json!({
            "limiting": limiting,
            "tie": answer["tie"],
            "extent_mol": result(answer, "extent"),
            "relative_gap_to_next": answer["gap"],
            "reagents": used.iter().zip(inputs["reagents"].as_array().unwrap()).map(left).collect::<Vec<_>>(),
            "product": inputs["product"],
            "product_weighed_as": inputs["product_weighed_as"],
            "product_moles": result(answer, "n_product"),
            "theoretical_yield_g": result(answer, "m_theory"),
            "percent_yield": result(answer, "percent_yield"),
        })
    })
}

fn reagent(given: &Value) -> Value {
    let supply = match text(given, "form") {
        "solid" => {
            json!({ "form": "solid", "mass": quantity(&given["mass_g"], "g"), "purity": maybe(&given["purity_percent"], "%") })
        }
        "solution" => json!({
            "form": "solution",
            "volume": quantity(&given["volume_mL"], "mL"),
            "concentration": quantity(&given["concentration_mol_per_L"], "mol/L"),
        }),
        "liquid" => json!({
            "form": "liquid",
            "volume": quantity(&given["volume_mL"], "mL"),
            "density": quantity(&given["density_g_per_mL"], "g/mL"),
            "purity": maybe(&given["mass_percent"], "%"),
        }),
        other => panic!("no form '{other}' is known"),
    };
    json!({ "species": given["species"], "weighed_as": given["weighed_as"], "supply": supply })
}

fn gum(inputs: &Value) -> Value {
    let quantities: Vec<Value> = inputs["quantities"]
        .as_object()
        .unwrap()
        .iter()
        .map(|(symbol, q)| {
            let components: Vec<Value> = q["components"].as_array().unwrap().iter().map(component).collect();
            json!({ "symbol": symbol, "value": { "value": q["value"].to_string(), "components": components } })
        })
        .collect();
    let request = json!({
        "kind": "sheet",
        "quantities": quantities,
        "sheet": format!("result = {}", text(inputs, "model")),
        "samples": 200_000,
        "seed": 20_261_124,
    });
    answered(&request, |answer| {
        let y = &answer["results"][0];
        let by = |what: &str| {
            answer["inputs"]
                .as_array()
                .unwrap()
                .iter()
                .map(|i| (i["symbol"].as_str().unwrap().to_owned(), i[what].clone()))
                .collect::<Map<_, _>>()
        };
        let drawn = &answer["drawn"];
        json!({
            "value": y["value"],
            "standard_uncertainty": y["standard_uncertainty"],
            "relative_uncertainty": y["relative_uncertainty"],
            "expanded_uncertainty_k2": y["expanded_uncertainty"],
            "input_standard_uncertainties": by("standard_uncertainty"),
            "contributions": by("contribution"),
            "percent_of_variance": by("percent"),
            "monte_carlo_1e6": { "mean": drawn["mean"], "sd": drawn["sd"], "p2.5": drawn["low"], "p97.5": drawn["high"] },
        })
    })
}

/// A number, typed or as text.
fn plain(value: &Value) -> Value {
    value.as_str().map_or_else(|| value.clone(), |text| json!(text.parse::<f64>().unwrap()))
}

pub(super) fn component(c: &Value) -> Value {
    let times = c.get("count").cloned().unwrap_or(json!(1));
    match text(c, "type") {
        "standard" => json!({ "kind": "standard", "u": plain(&c["u"]) }),
        "rectangular" => json!({ "kind": "rectangular", "half_width": plain(&c["half_width"]), "times": times }),
        "triangular" => json!({ "kind": "triangular", "half_width": plain(&c["half_width"]), "times": times }),
        "repeat_mean" => json!({ "kind": "repeatability", "sd": c["sd"], "repeats": c["n"] }),
        "temperature" => json!({ "kind": "temperature", "half_width": c["delta_C"], "expansion": c["alpha_per_C"] }),
        other => panic!("no component '{other}' is known"),
    }
}

// One table of kinds, however long.
#[allow(clippy::too_many_lines)]
fn titration(kind: &str, inputs: &Value) -> Result<Value, String> {
    let purity = |of: &Value| maybe(&of["purity_percent"], "%");
    let ratio = |r: &Value| json!(format!("{}/{}", r["titrant"], r["primary"]));
    Ok(match kind {
        "titr_concordance" => {
            let request = json!({
                "kind": "titration", "ask": "concordance",
                "titres": titres(inputs),
                "limit": quantity(&inputs["limit_mL"], "mL"),
            });
            answered(&request, |answer| agreement(&answer["agreement"]))
        }
        "titr_standardise" => {
            let request = json!({
                "kind": "titration", "ask": "standardise",
                "primary": inputs["primary"]["formula"],
                "mass": quantity(&inputs["primary"]["mass_g"], "g"),
                "purity": purity(&inputs["primary"]),
                "flask": quantity(&inputs["flask_mL"], "mL"),
                "aliquot": quantity(&inputs["aliquot_mL"], "mL"),
                "titres": titres(inputs),
                "limit": quantity(&inputs["concordance_limit_mL"], "mL"),
                "blank": maybe(&inputs["blank_mL"], "mL"),
                "ratio": ratio(&inputs["mole_ratio"]),
            });
            let corrected = if inputs["blank_mL"].is_null() { "V_mean" } else { "V_used" };
            answered(&request, |answer| {
                json!({
                    "primary_concentration_mol_per_L": result(answer, "c_primary"),
                    "concordance": agreement(&answer["agreement"]),
                    "corrected_titre_mL": result(answer, corrected),
                    "titrant_concentration_mol_per_L": result(answer, "c_titrant"),
                })
            })
        }
        "titr_weighed_replicates" => {
            let each = |name: &str, unit: &str| {
                inputs["replicates"].as_array().unwrap().iter().map(|r| quantity(&r[name], unit)).collect::<Vec<_>>()
            };
            let request = json!({
                "kind": "titration", "ask": "weighed-replicates",
                "primary": inputs["primary"]["formula"],
                "purity": purity(&inputs["primary"]),
                "weighed": each("mass_g", "g"),
                "titres": each("titre_mL", "mL"),
                "blank": maybe(&inputs["blank_mL"], "mL"),
                "ratio": ratio(&inputs["mole_ratio"]),
            });
            answered(&request, |answer| {
                json!({
                    "concentrations_mol_per_L": answer["trials"],
                    "mean_mol_per_L": result(answer, "c_mean"),
                    "sd_mol_per_L": result(answer, "c_sd"),
                    "rsd_percent": result(answer, "rsd"),
                })
            })
        }
        "titr_back" => {
            let (excess, titrant) = (&inputs["excess_reagent"], &inputs["back_titrant"]);
            let request = json!({
                "kind": "titration", "ask": "back",
                "analyte": inputs["analyte"],
                "taken": quantity(&inputs["sample_mass_g"], "g"),
                "excess": quantity(&excess["concentration_mol_per_L"], "mol/L"),
                "volume": quantity(&excess["volume_mL"], "mL"),
                "flask": maybe(&inputs["flask_mL"], "mL"),
                "aliquot": maybe(&inputs["aliquot_mL"], "mL"),
                "concentration": quantity(&titrant["concentration_mol_per_L"], "mol/L"),
                "titre": quantity(&titrant["mean_titre_mL"], "mL"),
                "excess_per_analyte": excess["mol_per_mol_analyte"],
                "excess_per_titrant": titrant["excess_reagent_mol_per_mol_titrant"],
            });
            answered(&request, |answer| {
                pick(
                    answer,
                    &[
                        ("excess_added_mol", "n_added"),
                        ("excess_left_mol", "n_left"),
                        ("analyte_mol", "n_analyte"),
                        ("analyte_mass_g", "m_analyte"),
                        ("analyte_percent", "w_analyte"),
                    ],
                )
            })
        }
        "titr_sample" => {
            let taken = if inputs["sample_mass_g"].is_null() {
                quantity(&inputs["sample_volume_mL"], "mL")
            } else {
                quantity(&inputs["sample_mass_g"], "g")
            };
            let request = json!({
                "kind": "titration", "ask": "sample",
                "analyte": inputs["analyte"],
                "taken": taken,
                "flask": maybe(&inputs["flask_mL"], "mL"),
                "aliquot": maybe(&inputs["aliquot_mL"], "mL"),
                "concentration": quantity(&inputs["titrant_concentration_mol_per_L"], "mol/L"),
                "titre": quantity(&inputs["mean_titre_mL"], "mL"),
                "blank": maybe(&inputs["blank_mL"], "mL"),
                "ratio": inputs["analyte_mol_per_mol_titrant"],
            });
            answered(&request, |answer| {
                pick(
                    answer,
                    &[
                        ("titrant_mol", "n_titrant"),
                        ("analyte_mol_total", "n_analyte"),
                        ("analyte_mass_g", "m_analyte"),
                        ("analyte_percent", "w_analyte"),
                        ("analyte_mol_per_L", "c_analyte"),
                        ("analyte_g_per_L", "rho_analyte"),
                    ],
                )
            })
        }
        _ => return Err(format!("no titration of kind '{kind}' is known")),
    })
}

fn titres(inputs: &Value) -> Vec<Value> {
    let one = |t: &Value| {
        let at = if t["mL"].is_null() { &t["final_mL"] } else { &t["mL"] };
        json!({ "at": quantity(at, "mL"), "from": maybe(&t["initial_mL"], "mL"), "rough": t["rough"] })
    };
    inputs["titres"].as_array().unwrap().iter().map(one).collect()
}

fn agreement(answer: &Value) -> Value {
    let set = |s: &Value| {
        json!({
            "indices": s["indices"], "n": s["n"], "range_mL": s["range"], "mean_mL": s["mean"], "sd_mL": s["sd"], "rsd_percent": s["rsd_percent"],
        })
    };
    let titres: Vec<Value> = answer["titres"]
        .as_array()
        .unwrap()
        .iter()
        .map(|t| json!(t.as_str().unwrap().parse::<f64>().unwrap()))
        .collect();
    let sets: Vec<Value> = answer["sets"].as_array().unwrap().iter().map(set).collect();
    let (status, mut out) = match &sets[..] {
        [] => ("none", json!({})),
        [only] => ("ok", only.clone()),
        [first, ..] => ("tied", json!({ "tied_sets": sets, "n": first["n"], "range_mL": first["range_mL"] })),
    };
    out["status"] = json!(status);
    out["titres_mL"] = json!(titres);
    out
}

fn empirical(kind: &str, inputs: &Value) -> Value {
    let elements: Vec<&str> = inputs["elements"].as_array().unwrap().iter().map(|e| e.as_str().unwrap()).collect();
    let stated = |values: &Value, uncertainties: &Value, unit: &str| -> Vec<Value> {
        let one = |e: &&str| {
            let u: f64 = uncertainties[*e].as_str().unwrap().parse().unwrap();
            json!({ "value": quantity(&values[*e], unit), "components": [{ "kind": "standard", "u": u }] })
        };
        elements.iter().map(one).collect()
    };
    let request = match kind {
        "empirical_percent" => json!({
            "kind": "composition", "ask": "formula", "elements": elements,
            "parts": stated(&inputs["percent"], &inputs["standard_uncertainty_percent"], "%"),
            "most": inputs["max_subscript"],
        }),
        "empirical_mass" => json!({
            "kind": "composition", "ask": "formula", "elements": elements,
            "parts": stated(&inputs["mass_g"], &inputs["standard_uncertainty_g"], "g"),
            "most": inputs["max_subscript"],
        }),
        _ => {
            let with = |what: &str| reading(inputs, what);
            json!({
                "kind": "composition", "ask": "crucible", "elements": elements,
                "crucible": with("crucible"),
                "with_element": with(&format!("crucible_plus_{}", elements[0])),
                "with_product": with("crucible_plus_product"),
                "most": inputs["max_subscript"],
            })
        }
    };
    answered(&request, |answer| {
        let consistent = answer["consistent"].as_array().unwrap();
        let by_element = |values: &Value| {
            elements
                .iter()
                .zip(values.as_array().unwrap())
                .map(|(e, v)| ((*e).to_owned(), v.clone()))
                .collect::<Map<_, _>>()
        };
        let moles =
            elements.iter().map(|e| ((*e).to_owned(), result(answer, &format!("n_{e}")))).collect::<Map<_, _>>();
        json!({
            "status": answer["status"],
            "consistent": consistent.iter().map(|c| &c["formula"]).collect::<Vec<_>>(),
            "subscripts": consistent.iter().map(|c| by_element(&c["subscripts"])).collect::<Vec<_>>(),
            "chi2": consistent.iter().map(|c| &c["chi_squared"]).collect::<Vec<_>>(),
            "degrees_of_freedom": answer["degrees_of_freedom"],
            "chi2_critical_95": answer["critical"],
            "moles": moles,
            "mole_ratio_to_smallest": by_element(&answer["ratios"]),
            "best": consistent.first().map_or(&Value::Null, |c| &c["formula"]),
            "simplest": answer["simplest"],
        })
    })
}

fn reading(inputs: &Value, what: &str) -> Value {
    let half_width: f64 = text(inputs, "reading_half_width_rectangular_g").parse().unwrap();
    json!({ "value": quantity(&inputs["readings_g"][what], "g"), "components": [{ "kind": "rectangular", "half_width": half_width }] })
}

fn hydrate(inputs: &Value) -> Value {
    let request = json!({
        "kind": "composition", "ask": "hydrate",
        "salt": inputs["salt"],
        "crucible": reading(inputs, "crucible"),
        "with_hydrate": reading(inputs, "crucible_plus_hydrate"),
        "with_anhydrous": reading(inputs, "crucible_plus_anhydrous"),
        "candidates": inputs["candidates_x"],
    });
    answered(&request, |answer| {
        let mut consistent = answer["consistent"].as_array().unwrap().clone();
        let best = consistent.first().map_or(Value::Null, |c| c["subscripts"][0].clone());
        consistent
            .sort_by(|a, b| a["subscripts"][0].as_f64().unwrap().total_cmp(&b["subscripts"][0].as_f64().unwrap()));
        let x = answer["worked"]["results"].as_array().unwrap().iter().find(|r| r["name"] == "x").unwrap();
        json!({
            "x": x["value"],
            "standard_uncertainty_x": x["standard_uncertainty"],
            "interval_95": answer["interval"],
            "water_percent": result(answer, "w_water"),
            "status": answer["status"],
            "consistent_x": consistent.iter().map(|c| &c["subscripts"][0]).collect::<Vec<_>>(),
            "consistent": consistent.iter().map(|c| &c["formula"]).collect::<Vec<_>>(),
            "best_x": best,
        })
    })
}

// One table of kinds, however long.
#[allow(clippy::too_many_lines)]
fn solution(kind: &str, inputs: &Value) -> Result<Value, String> {
    let molar = |name: &str| quantity(&inputs[name], "mol/L");
    let ml = |name: &str| quantity(&inputs[name], "mL");
    let (mut request, fields): (Value, &[(&str, &str)]) = match kind {
        "sol_solid_mass" => (
            json!({ "ask": "weigh-out", "solute": inputs["solute"], "strength": molar("concentration_mol_per_L"), "volume": ml("volume_mL"), "purity": maybe(&inputs["purity_percent"], "%") }),
            &[("moles", "n"), ("mass_g", "m_solute")],
        ),
        "sol_ion_mass" => (
            json!({ "ask": "weigh-out", "solute": inputs["salt"], "strength": molar("ion_concentration_mol_per_L"), "species": inputs["ion"], "per_unit": inputs["ions_per_formula_unit"], "volume": ml("volume_mL") }),
            &[("salt_moles", "n"), ("mass_g", "m_solute")],
        ),
        "sol_ppm_mass" => (
            json!({ "ask": "weigh-out", "solute": inputs["salt"], "strength": quantity(&inputs["mg_per_L"], "mg/L"), "species": inputs["species"], "per_unit": inputs["species_per_formula_unit"], "volume": ml("volume_mL") }),
            &[("salt_mass_g", "m_solute"), ("concentration_mol_per_L_species", "c")],
        ),
        "sol_concentration_from_mass" => (
            json!({ "ask": "made", "solute": inputs["solute"], "mass": quantity(&inputs["mass_g"], "g"), "volume": ml("volume_mL") }),
            &[("concentration_mol_per_L", "c"), ("concentration_g_per_L", "rho")],
        ),
        "sol_dilution_volume" => (
            json!({ "ask": "dilute", "stock": molar("stock_mol_per_L"), "target": molar("target_mol_per_L"), "volume": ml("final_volume_mL") }),
            &[
                ("stock_volume_mL", "V_stock"),
                ("solvent_volume_mL_additive", "V_solvent"),
                ("dilution_factor", "factor"),
            ],
        ),
        "sol_impossible" if inputs.get("mass_percent").is_some() => (concentrated(inputs), &[]),
        "sol_impossible" => (
            json!({ "ask": "dilute", "stock": molar("stock_mol_per_L"), "target": molar("target_mol_per_L"), "volume": ml("final_volume_mL") }),
            &[],
        ),
        "sol_dilution_concentration" => (
            json!({ "ask": "diluted", "stock": molar("stock_mol_per_L"), "taken": ml("stock_volume_mL"), "volume": ml("final_volume_mL") }),
            &[("concentration_mol_per_L", "c")],
        ),
        "sol_concentrated_reagent" => (
            concentrated(inputs),
            &[
                ("stock_mol_per_L", "c_stock"),
                ("stock_volume_mL", "V_stock"),
                ("stock_mass_g", "m_stock"),
                ("stock_molality_mol_per_kg_solvent", "molality"),
            ],
        ),
        "sol_percent_ww_to_wv" => (
            json!({ "ask": "describe", "solute": inputs["solute"], "solute_mass": quantity(&inputs["solute_mass_g"], "g"), "solvent_mass": quantity(&inputs["solvent_mass_g"], "g"), "density": quantity(&inputs["solution_density_g_per_mL"], "g/mL") }),
            &[
                ("percent_w_w", "w_w"),
                ("percent_w_v", "w_v"),
                ("solution_volume_mL", "V"),
                ("concentration_mol_per_L", "c"),
                ("molality_mol_per_kg", "b"),
                ("mole_fraction", "x"),
            ],
        ),
        "sol_percent_wv_mass" => (
            json!({ "ask": "percent-wv", "solute": inputs["solute"], "percent": quantity(&inputs["percent_w_v"], "%"), "volume": ml("volume_mL") }),
            &[("mass_g", "m_solute"), ("concentration_mol_per_L", "c")],
        ),
        "sol_percent_vv_dilution" => (
            json!({ "ask": "dilute", "stock": quantity(&inputs["stock_percent_v_v"], "%"), "target": quantity(&inputs["target_percent_v_v"], "%"), "volume": ml("final_volume_mL") }),
            &[("stock_volume_mL", "V_stock")],
        ),
        "sol_percent_vv_to_molar" => (
            json!({ "ask": "percent-vv", "solute": inputs["solute"], "percent": quantity(&inputs["percent_v_v"], "%"), "density": quantity(&inputs["pure_density_g_per_mL"], "g/mL") }),
            &[("percent_w_v", "w_v"), ("concentration_mol_per_L", "c")],
        ),
        "sol_serial_dilution" => (
            json!({ "ask": "serial", "stock": molar("initial_mol_per_L"), "transfer": ml("transfer_mL"), "volume": ml("final_mL"), "steps": inputs["steps"] }),
            &[("total_factor", "factor")],
        ),
        "sol_standards" => {
            let targets: Vec<Value> =
                inputs["targets"].as_array().unwrap().iter().map(|t| quantity(t, "mol/L")).collect();
            (
                json!({ "ask": "standards", "stock": molar("stock_concentration"), "volume": ml("final_volume_mL"), "targets": targets }),
                &[("total_stock_mL", "V_total")],
            )
        }
        "sol_mixing" => {
            let part = |c: &str, v: &str| json!({ "strength": molar(c), "volume": ml(v) });
            (
                json!({ "ask": "mix", "parts": [part("c1_mol_per_L", "V1_mL"), part("c2_mol_per_L", "V2_mL")] }),
                &[("concentration_mol_per_L", "c")],
            )
        }
        "sol_mixing_ion" => {
            let part = |s: &Value| json!({ "strength": quantity(&s["mol_per_L"], "mol/L"), "volume": quantity(&s["mL"], "mL"), "per_unit": s["ions_per_formula_unit"] });
            (
                json!({ "ask": "mix", "parts": [part(&inputs["solution1"]), part(&inputs["solution2"])] }),
                &[("ion_mol_per_L", "c")],
            )
        }
        "sol_mixing_target" => (
            json!({ "ask": "mix-to", "high": molar("c_high"), "low": molar("c_low"), "target": molar("target"), "volume": ml("final_volume_mL") }),
            &[("high_volume_mL", "V_high"), ("low_volume_mL", "V_low")],
        ),
        _ => return Err(format!("no solution of kind '{kind}' is known")),
    };
    request["kind"] = json!("solution");
    let answer = match ask(&request) {
        Ok(answer) => answer,
        Err(error) => return Ok(json!({ "error": refusal(&error) })),
    };
    let mut got = pick(&answer, fields);
    let numbered = |from: usize, prefix: &str| -> Vec<Value> {
        (from..100).map(|i| result(&answer, &format!("{prefix}_{i}"))).take_while(|v| !v.is_null()).collect()
    };
    if kind == "sol_serial_dilution" {
        let strengths = numbered(0, "c");
        got["last"] = strengths.last().cloned().unwrap_or_default();
        got["concentrations_mol_per_L"] = json!(strengths);
    }
    if kind == "sol_standards" {
        got["stock_volumes_mL"] = json!(numbered(1, "V"));
    }
    Ok(got)
}

fn concentrated(inputs: &Value) -> Value {
    json!({
        "ask": "concentrated",
        "solute": inputs["solute"],
        "mass_fraction": quantity(&inputs["mass_percent"], "%"),
        "density": quantity(&inputs["density_g_per_mL"], "g/mL"),
        "target": quantity(&inputs["target_mol_per_L"], "mol/L"),
        "volume": quantity(&inputs["final_volume_mL"], "mL"),
    })
}

/// The case's words for what the door says in its own.
fn refusal(error: &Value) -> Value {
    let message = error["message"].as_str().unwrap_or_default();
    let words = [
        ("a dilution cannot be stronger than its stock", "target above stock"),
        ("stock cannot be zero", "stock concentration zero"),
        ("mass fraction cannot be above 100 %", "percent above 100"),
    ];
    words.iter().find(|(ours, _)| message.starts_with(ours)).map_or(error.clone(), |(_, theirs)| json!(theirs))
}

fn statistics(kind: &str, inputs: &Value) -> Result<Value, String> {
    let groups: Vec<&Value> = inputs["groups"].as_object().map(|g| g.values().collect()).unwrap_or_default();
    let request = match kind {
        "stats_summary" => json!({ "kind": "statistics", "ask": "summary", "values": inputs["values"] }),
        "stats_grubbs" => json!({ "kind": "statistics", "ask": "grubbs", "values": inputs["values"] }),
        "stats_dixon" => json!({ "kind": "statistics", "ask": "dixon", "values": inputs["values"] }),
        "stats_algorithm_a" => json!({ "kind": "statistics", "ask": "algorithm-a", "values": inputs["values"] }),
        "stats_regression" => json!({
            "kind": "statistics", "ask": "regression", "x": inputs["x"], "y": inputs["y"],
            "y0": inputs["y0"], "replicates": inputs.get("replicates_of_y0").unwrap_or(&json!(1)),
        }),
        "stats_welch" => json!({ "kind": "statistics", "ask": "welch", "a": inputs["a"], "b": inputs["b"] }),
        "stats_anova" => json!({ "kind": "statistics", "ask": "anova", "groups": groups }),
        "stats_kruskal" => json!({ "kind": "statistics", "ask": "kruskal-wallis", "groups": groups }),
        _ => return Err(format!("no statistics of kind '{kind}' is known")),
    };
    let Ok(answer) = ask(&request) else { return Ok(json!({ "status": "undefined" })) };
    let mut got = answer.clone();
    match kind {
        "stats_summary" => {
            for (name, value) in answer["spread"].as_object().into_iter().flatten() {
                got[name] = value.clone();
            }
        }
        "stats_grubbs" => {
            let suspect = usize::try_from(answer["suspect"].as_u64().unwrap()).unwrap();
            got = json!({
                "status": "ok", "G": answer["g"], "suspect_index": suspect, "suspect_value": inputs["values"][suspect],
                "critical_two_sided": answer["critical"], "outlier": answer["outlier"],
            });
        }
        "stats_dixon" => {
            got = json!({
                "status": "ok", "Q": answer["q"], "Q_low": answer["q_low"], "Q_high": answer["q_high"],
                "suspect_value": answer["suspect"], "critical_95": answer["critical"], "outlier": answer["outlier"],
            });
        }
        "stats_algorithm_a" => {
            got = json!({
                "status": "ok", "initial_mean": answer["initial_mean"], "initial_sd": answer["initial_sd"], "robust_mean": answer["mean"],
                "robust_sd": answer["sd"], "standard_uncertainty_of_mean": answer["standard_uncertainty"],
            });
        }
        "stats_regression" => {
            let (line, errors) = (&answer["line"], &answer["line"]["errors"]);
            got = json!({
                "n": line["n"], "slope": line["slope"], "intercept": line["intercept"], "r_squared": line["r_squared"], "rss": line["rss"],
                "se_slope": errors["slope"], "se_intercept": errors["intercept"], "residual_sd": errors["residual_sd"],
                "x0": answer["inverse"]["x"], "se_x0": answer["inverse"]["standard_error"],
            });
            if errors.is_null() {
                got["status"] = json!("no standard errors with n = 2");
            }
        }
        "stats_anova" => {
            got["F"] = answer["f"].clone();
            got["between_group_sd"] = answer["between_sd"].clone();
        }
        "stats_kruskal" => got["H"] = answer["h"].clone(),
        _ => {}
    }
    got["significant_0.05"] = answer["significant"].clone();
    Ok(got)
}

fn ph(kind: &str, inputs: &Value) -> Value {
    let solutes = |list: &Value| list.as_array().unwrap().iter().map(solute).collect::<Vec<_>>();
    if kind == "ph_static" {
        let request =
            json!({ "kind": "acid_base", "ask": "ph", "solutes": solutes(&inputs["solutes"]), "pkw": inputs["pKw"] });
        return answered(&request, |answer| json!({ "pH": answer["ph"] }));
    }
    let request = json!({
        "kind": "acid_base", "ask": "titration",
        "flask": solutes(&inputs["flask_solutes"]),
        "volume": quantity(&inputs["flask_volume_mL"], "mL"),
        "titrant": solute(&inputs["titrant"]),
        "at": inputs["volumes_mL"],
        "pkw": inputs["pKw"],
    });
    answered(
        &request,
        |answer| json!({ "pH": answer["ph"], "equivalence_volumes_mL": answer["equivalence_volumes"], "pH_at_equivalence": answer["ph_at_equivalence"] }),
    )
}

fn solute(given: &Value) -> Value {
    let roles = [
        ("strong_acid", "strong-acid"),
        ("strong_base", "strong-base"),
        ("weak_acid", "weak-acid"),
        ("weak_base", "weak-base"),
        ("sulfuric_acid", "first-proton-strong"),
        ("sodium_salt_of_weak_acid", "salt"),
        ("chloride_of_weak_base", "hydrochloride"),
        ("weak_acid_hydrochloride", "hydrochloride"),
    ];
    let role =
        roles.iter().find(|(name, _)| given.get(*name).is_some()).unwrap_or_else(|| panic!("no role in {given}"));
    let pka = [&given["pKa"], &given["pKa_of_conjugate_acid"]].into_iter().find(|p| p.is_array()).cloned();
    let second = given.get("pKa2").map(|p| json!([p]));
    json!({
        "role": role.1,
        "concentration": quantity(&given["mol_per_L"], "mol/L"),
        "pka": pka.or(second).unwrap_or_else(|| json!([])),
        "counter_ions": given.get("sodium_per_acid").unwrap_or(&json!(1)),
    })
}

fn sigfig(kind: &str, inputs: &Value) -> Value {
    let request = match kind {
        "sigfig_round" => {
            json!({ "kind": "number", "ask": "round", "text": inputs["text"], "figures": inputs["significant_figures"] })
        }
        "sigfig_round_decimals" => {
            json!({ "kind": "number", "ask": "round", "text": inputs["text"], "decimals": inputs["decimal_places"] })
        }
        "sigfig_propagate" => propagate(inputs),
        _ => json!({ "kind": "number", "ask": "read", "text": inputs["text"] }),
    };
    answered(&request, |answer| {
        let number = |name: &str| json!(answer[name].as_str().unwrap().parse::<f64>().unwrap());
        json!({
            "value": if kind == "sigfig_typed" { answer["value"].clone() } else { number("half_up") },
            "unrounded": answer["value"],
            "value_decimal": answer["half_up"],
            "decimal_places": answer["decimals"],
            "significant_figures": answer["figures"],
            "significant_figures_max": answer["figures_at_most"],
            "ambiguous": answer["ambiguous"],
            "last_digit_exponent": answer["last_place"],
            "half_up": answer["half_up"],
            "half_even": answer["half_even"],
            "half_up_value": number("half_up"),
            "half_even_value": number("half_even"),
        })
    })
}

/// A number typed into a field: taken, or asked back where its unit does not fit the field. A refusal is an asking back: what
/// was typed is kept.
fn written(inputs: &Value) -> Value {
    let asked = &inputs["asked_unit"];
    match ask(&json!({ "kind": "number", "ask": "written", "text": inputs["text"], "unit": asked })) {
        Ok(answer) => {
            let unit = answer["unit"]["kind"].as_str().unwrap_or("fits");
            json!({
                "reading": if unit == "fits" { "value" } else { "ask" },
                "value": answer["value"],
                "significant_figures": answer["figures"],
                "significant_figures_max": answer["figures_at_most"],
                "approximate": answer["approximate"],
                "unit_is": unit,
                "value_in_asked_unit": answer["unit"]["value"],
            })
        }
        Err(_) => json!({ "reading": "refuse" }),
    }
}

fn written_formula(formula: &str) -> Value {
    let got = molar_mass(formula);
    match got["reject"].as_bool() {
        Some(true) => json!({ "reading": "refuse" }),
        _ => json!({ "reading": "value", "composition": got["composition"], "charge": got["charge"] }),
    }
}

/// A formula that may mean two things; a usual charge may be read in the usual way.
fn asked_formula(formula: &str) -> Value {
    let got = written_formula(formula);
    if got["charge"].as_i64().unwrap_or(0) == 0 { got } else { json!({ "reading": "ask" }) }
}

/// The terms of an equation as they are set again, coefficients apart.
fn written_equation(equation: &str) -> Value {
    let Ok(answer) = ask(&json!({ "kind": "equation", "equation": equation })) else {
        return json!({ "reading": "refuse" });
    };
    let set = answer["runs"].as_array().unwrap().iter().map(|run| {
        let text = run["text"].as_str().unwrap();
        match run["script"].as_str().unwrap() {
            "coefficient" => format!("{}#", text.trim()),
            "super" => format!("^{}", text.replace('\u{2212}', "-")),
            _ => text.to_owned(),
        }
    });
    let set: String = set.collect();
    let term = |term: &str| {
        let (n, formula) = term.trim().split_once('#').unwrap_or(("1", term.trim()));
        let bare = ["(s)", "(l)", "(g)", "(aq)"].iter().find_map(|s| formula.strip_suffix(s)).unwrap_or(formula);
        json!([bare.trim(), n.parse::<u64>().unwrap()])
    };
    let sides: Vec<Value> = set.split(['→', '⇌']).map(|side| side.split(" + ").map(term).collect()).collect();
    json!({ "reading": "value", "left": sides[0], "right": sides[1] })
}

fn propagate(inputs: &Value) -> Value {
    let operands: Vec<&str> = inputs["operands"].as_array().unwrap().iter().map(|o| o.as_str().unwrap()).collect();
    let names = ["a", "b", "c", "d", "e", "f"];
    let values: Map<String, Value> = names.iter().zip(&operands).map(|(n, o)| ((*n).to_owned(), json!(o))).collect();
    let exact: Vec<&str> = names
        .iter()
        .zip(&operands)
        .filter(|(_, o)| inputs["exact_operands"].as_array().unwrap().iter().any(|e| e == *o))
        .map(|(n, _)| *n)
        .collect();
    let expression = match text(inputs, "operation") {
        "log10" => "log10(a)".to_owned(),
        "ln" => "ln(a)".to_owned(),
        "10^x" => "exp10(a)".to_owned(),
        sign => names[..operands.len()].join(&format!(" {sign} ")),
    };
    json!({ "kind": "number", "ask": "calculate", "expression": expression, "values": values, "exact": exact })
}

fn scattering(kind: &str, inputs: &Value) -> Value {
    let elements: Vec<&str> = inputs["elements"].as_array().unwrap().iter().map(|e| e.as_str().unwrap()).collect();
    let scatter = quantity(&inputs["process_scatter_percent"], "%");
    let request = if kind == "scat_three" {
        let u: f64 = text(inputs, "standard_uncertainty_g").parse().unwrap();
        let part = |e: &&str| {
            let value = quantity(&inputs["mass_g"][*e], "g");
            json!({ "value": value, "components": [{ "kind": "standard", "u": u }] })
        };
        json!({
            "kind": "composition", "ask": "formula", "elements": elements,
            "parts": elements.iter().map(part).collect::<Vec<_>>(),
            "most": inputs["max_subscript"], "scatter": scatter, "declared": inputs["declared"],
        })
    } else {
        json!({
            "kind": "composition", "ask": "crucible", "elements": elements,
            "crucible": reading(inputs, "empty"),
            "with_element": reading(inputs, &format!("with_{}", elements[0])),
            "with_product": reading(inputs, "with_product"),
            "most": inputs["max_subscript"], "scatter": scatter, "declared": inputs["declared"],
        })
    };
    answered(&request, |answer| {
        let consistent = answer["consistent"].as_array().unwrap();
        let by_element = |values: &Value| {
            elements
                .iter()
                .zip(values.as_array().unwrap())
                .map(|(e, v)| ((*e).to_owned(), v.clone()))
                .collect::<Map<_, _>>()
        };
        let moles =
            elements.iter().map(|e| ((*e).to_owned(), result(answer, &format!("n_{e}")))).collect::<Map<_, _>>();
        json!({
            "moles": moles,
            "ratio": answer["ratio"]["value"],
            "u_ratio": answer["ratio"]["standard_uncertainty"],
            "relative_u_balance_percent": answer["ratio"]["balance_percent"],
            "status": answer["status"],
            "consistent": consistent.iter().map(|c| &c["formula"]).collect::<Vec<_>>(),
            "subscripts": consistent.iter().map(|c| by_element(&c["subscripts"])).collect::<Vec<_>>(),
            "simplest": answer["simplest"],
            "nearest_simple": answer["nearest_simple"],
            "declared_consistent": answer["declared"]["consistent"],
            "declared_is_nearest_simple": answer["declared"]["nearest_simple"],
        })
    })
}

fn scattering_hydrate(inputs: &Value) -> Value {
    let request = json!({
        "kind": "composition", "ask": "hydrate",
        "salt": inputs["salt"],
        "crucible": reading(inputs, "empty"),
        "with_hydrate": reading(inputs, "with_hydrate"),
        "with_anhydrous": reading(inputs, "with_anhydrous"),
        "candidates": inputs["candidates_x"],
        "scatter": quantity(&inputs["process_scatter_percent"], "%"),
        "declared": inputs["declared_x"],
    });
    answered(&request, |answer| {
        json!({
            "x": result(answer, "x"),
            "u_x": answer["uncertainty"],
            "relative_u_balance_percent": answer["balance_percent"],
            "water_percent": result(answer, "w_water"),
            "status": answer["status"],
            "consistent_x": answer["consistent"].as_array().unwrap().iter().map(|c| &c["subscripts"][0]).collect::<Vec<_>>(),
            "nearest_x": answer["nearest"],
            "declared_consistent": answer["declared"]["consistent"],
            "declared_is_nearest": answer["declared"]["nearest_simple"],
        })
    })
}

/// The fields of one object under other names.
fn renamed(value: &Value, names: &[(&str, &str)]) -> Value {
    names.iter().map(|(case, own)| ((*case).to_owned(), value[*own].clone())).collect::<Map<_, _>>().into()
}

fn each(values: &Value, shape: impl Fn(&Value) -> Value) -> Map<String, Value> {
    values.as_object().into_iter().flatten().map(|(name, value)| (name.clone(), shape(value))).collect()
}

fn run_down(inputs: &Value) -> Value {
    let materials = inputs["materials"].as_array().unwrap();
    let supply = |m: &Value| {
        let amount = |value: &Value| quantity(value, text(m, "quantity_unit"));
        let form = match text(m, "form") {
            "solid" => {
                json!({ "form": "solid", "mass": amount(&m["quantity"]), "purity": maybe(&m["purity_percent"], "%") })
            }
            "solution" => json!({
                "form": "solution", "volume": amount(&m["quantity"]),
                "concentration": quantity(&m["concentration_mol_per_L"], "mol/L"),
            }),
            _ => json!({
                "form": "liquid", "volume": amount(&m["quantity"]),
                "density": quantity(&m["density_g_per_mL"], "g/mL"), "purity": maybe(&m["mass_percent"], "%"),
            }),
        };
        json!({
            "name": m["name"], "species": m["species"], "weighed_as": m["weighed_as"], "supply": form,
            "band": m["band"].as_array().map(|ends| ends.iter().map(amount).collect::<Vec<_>>()),
        })
    };
    let reaction = |r: &Value| {
        let number = |value: &Value| value.as_str().map(|t| t.parse::<f64>().unwrap());
        json!({ "equation": r["equation"], "equilibrium": number(&r["K"]), "part": maybe(&r["extent_fraction"], "1") })
    };
    let vessel = |v: &Value| {
        json!({
            "name": v["name"], "takes": v["takes"],
            "reactions": v["reactions"].as_array().unwrap().iter().map(reaction).collect::<Vec<_>>(),
        })
    };
    let request = json!({
        "kind": "run_down",
        "supplies": materials.iter().map(supply).collect::<Vec<_>>(),
        "vessels": inputs["vessels"].as_array().unwrap().iter().map(vessel).collect::<Vec<_>>(),
        "product": inputs["product"]["species"], "product_as": inputs["product"]["weighed_as"],
    });
    answered(&request, |answer| {
        let ran = |r: &Value| {
            let names = [
                ("extent_mol", "extent"),
                ("runs_out", "runs_out"),
                ("possible", "possible"),
                ("available_mol", "available"),
                ("needed_mol", "used"),
            ];
            renamed(r, &names)
        };
        let amounts = [("start_mol", "start"), ("made_mol", "made"), ("used_mol", "used"), ("left_mol", "left")];
        let vessel = |v: &Value| {
            let with_excess = [&amounts[..], &[("excess_percent", "excess_percent")]].concat();
            json!({
                "reactions": v["reactions"].as_array().unwrap().iter().map(ran).collect::<Vec<_>>(),
                "final_mol": each(&v["species"], |s| s["left"].clone()),
                "reagents": each(&v["species"], |s| renamed(s, &with_excess)),
            })
        };
        let enough = [("supplied_mol", "supplied"), ("just_enough", "enough")];
        let bands = &answer["over_the_bands"];
        json!({
            "vessels": each(&answer["vessels"], vessel),
            "totals": each(&answer["totals"], |s| renamed(s, &amounts)),
            "just_enough_as_supplied": each(&answer["just_enough"], |s| renamed(s, &enough)),
            "theoretical_yield": renamed(&answer["product"], &[("made_mol", "made"), ("remaining_mol", "remaining"), ("mass_g", "mass")]),
            "over_the_bands": {
                "left_mol": bands["left"], "excess_percent": bands["excess_percent"],
                "runs_out_somewhere": bands["runs_out_somewhere"], "theoretical_yield_g": bands["product_mass"],
            },
        })
    })
}

fn schedule(inputs: &Value) -> Value {
    let request = json!({
        "kind": "schedule",
        "groups": inputs["groups"],
        "steps": inputs["steps"],
        "resources": inputs["resources"],
    });
    answered(&request, Value::clone)
}
