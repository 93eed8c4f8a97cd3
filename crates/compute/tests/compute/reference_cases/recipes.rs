//! Recipes: what to weigh and measure out, and what was made.

use super::adapter::{ask, component, quantity, text};
use serde_json::{Value, json};

pub fn recipe(kind: &str, inputs: &Value) -> Result<Value, String> {
    let got = match kind {
        "rec_solid" => solid(inputs),
        "rec_concentrated" => concentrated(inputs),
        "rec_dilution" => dilution(inputs),
        "rec_series" => series(inputs),
        "rec_serial" => serial(inputs),
        "rec_split" => split(inputs),
        "rec_vessels" => vessels(inputs),
        "rec_totals" => totals(inputs),
        "rec_edge" if inputs.get("needed_mL").is_some() => vessels(inputs),
        "rec_edge" if inputs.get("groups").is_some() => no_groups(inputs),
        "rec_edge" if inputs.get("stock_mol_per_L").is_some() => same_strength(inputs),
        "rec_edge" if inputs.get("mass_percent").is_some() => too_strong(inputs),
        "rec_edge" => too_little(inputs),
        _ => return Err(format!("no recipe of kind '{kind}' is known")),
    };
    match got {
        Ok(got) => Ok(got),
        Err(error) if error["error"] == "impossible" => Ok(json!({ "status": "impossible" })),
        Err(error) => Err(error.to_string()),
    }
}

fn molar(inputs: &Value, name: &str) -> Value {
    quantity(&inputs[name], "mol/L")
}

fn ml(inputs: &Value, name: &str) -> Value {
    quantity(&inputs[name], "mL")
}

fn unsure<'v>(inputs: &'v Value, name: &str) -> &'v Value {
    &inputs["uncertainty"][name]
}

fn solution(mut request: Value) -> Result<Value, Value> {
    request["kind"] = json!("solution");
    ask(&request)
}

fn number(text: &Value) -> Value {
    json!(text.as_str().unwrap().parse::<f64>().unwrap())
}

/// The numbers of quantities with their unit.
fn numbers(texts: &Value) -> Value {
    let plain = |t: &Value| number(&json!(t.as_str().unwrap().split(' ').next().unwrap()));
    texts.as_array().unwrap().iter().map(plain).collect::<Vec<_>>().into()
}

fn field(answer: &Value, name: &str, what: &str) -> Value {
    let results = answer["worked"]["results"].as_array().unwrap();
    results.iter().find(|r| r["name"] == name).map_or(Value::Null, |r| r[what].clone())
}

/// The same of each strength of a series.
fn all(answer: &Value, what: &str) -> Value {
    (1..=20).map(|i| field(answer, &format!("c_{i}"), what)).take_while(|v| !v.is_null()).collect::<Vec<_>>().into()
}

fn percent(relative: &Value) -> Value {
    json!(100.0 * relative.as_f64().unwrap())
}

/// `"0.200"` with a unit, as sure as its components say.
fn sure(value: &Value, unit: &str, components: &Value) -> Value {
    let components: Vec<Value> = components.as_array().into_iter().flatten().map(component).collect();
    json!({ "value": quantity(value, unit), "components": components })
}

/// What was really taken, or else what the recipe says.
fn taken(inputs: &Value, recipe: &Value) -> Value {
    let weighed = &inputs["actually_weighed_g"];
    if weighed.is_null() { recipe["rounded"]["take"].clone() } else { weighed.clone() }
}

fn solid(inputs: &Value) -> Result<Value, Value> {
    let recipe = solution(json!({
        "ask": "weigh-out", "solute": inputs["weighed_as"], "strength": molar(inputs, "concentration_mol_per_L"),
        "per_unit": inputs["species_per_formula"], "volume": ml(inputs, "volume_mL"),
        "purity": quantity(&inputs["purity_percent"], "%"),
        "step": quantity(&inputs["balance_resolution_g"], "g"),
    }))?;
    let made = solution(json!({
        "ask": "made", "solute": inputs["weighed_as"], "per_unit": inputs["species_per_formula"],
        "mass": sure(&taken(inputs, &recipe), "g", unsure(inputs, "mass")),
        "purity": sure(&inputs["purity_percent"], "%", unsure(inputs, "purity_percent")),
        "volume": sure(&inputs["volume_mL"], "mL", unsure(inputs, "flask")),
        "wanted": molar(inputs, "concentration_mol_per_L"),
    }))?;
    Ok(json!({
        "mass_exact_g": field(&recipe, "m_solute", "value"),
        "mass_to_weigh_g": number(&recipe["rounded"]["take"]),
        "concentration_made_mol_per_L": field(&made, "c", "value"),
        "u_concentration_mol_per_L": field(&made, "c", "standard_uncertainty"),
        "relative_u_percent": percent(&field(&made, "c", "relative_uncertainty")),
        "deviation_from_target_percent": field(&made, "off", "value"),
    }))
}

fn concentrated(inputs: &Value) -> Result<Value, Value> {
    let recipe = solution(json!({
        "ask": "concentrated", "solute": inputs["formula"], "target": molar(inputs, "concentration_mol_per_L"),
        "mass_fraction": quantity(&inputs["mass_percent"], "%"),
        "density": quantity(&inputs["density_g_per_mL"], "g/mL"),
        "volume": ml(inputs, "volume_mL"), "step": ml(inputs, "measure_resolution_mL"),
    }))?;
    let made = solution(json!({
        "ask": "made-from-concentrated", "solute": inputs["formula"],
        "mass_fraction": sure(&inputs["mass_percent"], "%", unsure(inputs, "mass_percent")),
        "density": sure(&inputs["density_g_per_mL"], "g/mL", unsure(inputs, "density")),
        "taken": sure(&recipe["rounded"]["take"], "mL", unsure(inputs, "measured_volume")),
        "volume": sure(&inputs["volume_mL"], "mL", unsure(inputs, "flask")),
    }))?;
    Ok(json!({
        "stock_mol_per_L": field(&recipe, "c_stock", "value"),
        "volume_exact_mL": field(&recipe, "V_stock", "value"),
        "volume_to_take_mL": number(&recipe["rounded"]["take"]),
        "mass_of_stock_g": field(&recipe, "m_stock", "value"),
        "concentration_made_mol_per_L": field(&made, "c", "value"),
        "u_concentration_mol_per_L": field(&made, "c", "standard_uncertainty"),
        "relative_u_percent": percent(&field(&made, "c", "relative_uncertainty")),
    }))
}

fn dilution(inputs: &Value) -> Result<Value, Value> {
    let recipe = solution(json!({
        "ask": "dilute", "stock": molar(inputs, "stock_mol_per_L"), "target": molar(inputs, "concentration_mol_per_L"),
        "volume": ml(inputs, "volume_mL"), "step": ml(inputs, "measure_resolution_mL"),
    }))?;
    let made = solution(json!({
        "ask": "diluted", "stock": sure(&inputs["stock_mol_per_L"], "mol/L", unsure(inputs, "stock")),
        "taken": sure(&recipe["rounded"]["take"], "mL", unsure(inputs, "measured_volume")),
        "volume": sure(&inputs["volume_mL"], "mL", unsure(inputs, "flask")),
    }))?;
    Ok(json!({
        "volume_exact_mL": field(&recipe, "V_stock", "value"),
        "volume_to_take_mL": number(&recipe["rounded"]["take"]),
        "factor": field(&recipe, "factor", "value"),
        "concentration_made_mol_per_L": field(&made, "c", "value"),
        "u_concentration_mol_per_L": field(&made, "c", "standard_uncertainty"),
        "relative_u_percent": percent(&field(&made, "c", "relative_uncertainty")),
    }))
}

fn series(inputs: &Value) -> Result<Value, Value> {
    let targets: Vec<Value> =
        inputs["concentrations"].as_array().unwrap().iter().map(|t| quantity(t, "mol/L")).collect();
    let recipe = solution(json!({
        "ask": "standards", "stock": molar(inputs, "stock_mol_per_L"), "volume": ml(inputs, "flask_mL"),
        "targets": targets, "step": ml(inputs, "measure_resolution_mL"), "left_in_glass": ml(inputs, "dead_volume_mL"),
    }))?;
    let exact: Vec<Value> = (1..=targets.len()).map(|i| field(&recipe, &format!("V_{i}"), "value")).collect();
    let rounded: Vec<Value> = recipe["each_rounded"].as_array().unwrap().iter().map(|r| r["take"].clone()).collect();
    let made = rounded.iter().map(|take| {
        solution(json!({
            "ask": "diluted", "stock": sure(&inputs["stock_mol_per_L"], "mol/L", unsure(inputs, "stock")),
            // Nothing taken is nothing unsure.
            "taken": if take == "0" { sure(take, "mL", &json!([])) } else { sure(take, "mL", unsure(inputs, "each_measured_volume")) },
            "volume": sure(&inputs["flask_mL"], "mL", unsure(inputs, "each_flask")),
        }))
    });
    let made: Vec<Value> = made.collect::<Result<_, _>>()?;
    let of = |what: &str| made.iter().map(|m| field(m, "c", what)).collect::<Vec<_>>();
    Ok(json!({
        "volumes_exact_mL": exact,
        "volumes_to_take_mL": numbers(&json!(rounded)),
        "concentrations_made_mol_per_L": of("value"),
        "u_concentrations_mol_per_L": of("standard_uncertainty"),
        "stock_needed_mL": field(&recipe, "V_total", "value"),
    }))
}

fn serial(inputs: &Value) -> Result<Value, Value> {
    let steps = inputs["steps"].as_array().unwrap().iter().map(|s| {
        json!({
            "taken": sure(&s["pipette_mL"], "mL", &s["uncertainty"]["pipette"]),
            "volume": sure(&s["flask_mL"], "mL", &s["uncertainty"]["flask"]),
        })
    });
    let made = solution(json!({
        "ask": "in-turn", "stock": sure(&inputs["stock_mol_per_L"], "mol/L", unsure(inputs, "stock")),
        "steps": steps.collect::<Vec<_>>(),
    }))?;
    Ok(json!({
        "concentrations_mol_per_L": all(&made, "value"),
        "u_concentrations_mol_per_L": all(&made, "standard_uncertainty"),
        "overall_factor": field(&made, "factor", "value"),
    }))
}

fn split(inputs: &Value) -> Result<Value, Value> {
    let flasks = inputs["vessels_mL"].as_array().unwrap().iter().map(|v| quantity(v, "mL"));
    let recipe = solution(json!({
        "ask": "split", "solute": inputs["weighed_as"], "strength": molar(inputs, "concentration_mol_per_L"),
        "volumes": flasks.collect::<Vec<_>>(), "purity": quantity(&inputs["purity_percent"], "%"),
        "step": quantity(&inputs["balance_resolution_g"], "g"),
    }))?;
    let total = &recipe["rounded"]["take"];
    Ok(json!({
        "mass_exact_g": field(&recipe, "m_solute", "value"),
        "mass_total_g": number(total),
        "parts_g": numbers(&recipe["portions"]),
        "sum_of_parts_g": number(total),
        "total_volume_mL": field(&recipe, "V_total", "value"),
        "parts_exact_g": recipe["exact_portions"],
    }))
}

fn vessels(inputs: &Value) -> Result<Value, Value> {
    let there = inputs["vessels"].as_array().unwrap().iter();
    let there: Vec<Value> =
        there.map(|v| json!({ "size": quantity(&v["size_mL"], "mL"), "count": v["count"] })).collect();
    let chosen = solution(json!({ "ask": "into-vessels", "volume": ml(inputs, "needed_mL"), "vessels": there }))?;
    Ok(json!({
        "status": "ok",
        "vessels_mL": numbers(&chosen["portions"]),
        "total_mL": chosen["total"]["rounded_up"],
        "over_mL": chosen["total"]["left_over"],
    }))
}

fn totals(inputs: &Value) -> Result<Value, Value> {
    let unit = text(inputs, "unit");
    let total = solution(json!({
        "ask": "totals", "groups": inputs["groups"], "spare_groups": inputs["spare_groups"],
        "trials": inputs["trials"], "per_trial": quantity(&inputs["per_trial"], unit),
        "rinses": inputs["rinses"], "per_rinse": quantity(&inputs["per_rinse"], unit),
        "left_in_glass": quantity(&inputs["dead_per_group"], unit),
        "percent_on_top": number(&inputs["percent_on_top"]),
        "step": quantity(&inputs["round_up_to"], unit),
    }))?;
    let total = &total["total"];
    Ok(json!({
        "per_group": total["per_group"],
        "exact": total["exact"],
        "rounded_up": total["rounded_up"],
        "left_over_if_all_goes_to_plan": total["left_over"],
    }))
}

fn no_groups(inputs: &Value) -> Result<Value, Value> {
    let total = solution(json!({
        "ask": "totals", "groups": inputs["groups"], "spare_groups": inputs["spare_groups"],
        "trials": inputs["trials"], "per_trial": quantity(&inputs["per_trial"], "mL"),
    }))?;
    Ok(json!({ "status": "ok", "exact": total["total"]["exact"] }))
}

fn same_strength(inputs: &Value) -> Result<Value, Value> {
    let recipe = solution(json!({
        "ask": "dilute", "stock": molar(inputs, "stock_mol_per_L"), "target": molar(inputs, "concentration_mol_per_L"),
        "volume": ml(inputs, "volume_mL"),
    }))?;
    Ok(json!({ "status": "ok", "volume_to_take_mL": field(&recipe, "V_stock", "value") }))
}

fn too_strong(inputs: &Value) -> Result<Value, Value> {
    solution(json!({
        "ask": "concentrated", "solute": inputs["formula"], "target": molar(inputs, "concentration_mol_per_L"),
        "mass_fraction": quantity(&inputs["mass_percent"], "%"),
        "density": quantity(&inputs["density_g_per_mL"], "g/mL"), "volume": ml(inputs, "volume_mL"),
    }))
}

fn too_little(inputs: &Value) -> Result<Value, Value> {
    solution(json!({
        "ask": "weigh-out", "solute": inputs["weighed_as"], "strength": molar(inputs, "concentration_mol_per_L"),
        "volume": ml(inputs, "volume_mL"), "purity": quantity(&inputs["purity_percent"], "%"),
        "step": quantity(&inputs["balance_resolution_g"], "g"),
    }))
}
