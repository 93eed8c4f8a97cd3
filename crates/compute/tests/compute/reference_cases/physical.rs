//! Lines, heat, rates, gases, charge, equilibria: from the inputs of a case to a request, and back. No arithmetic.

use super::adapter::{ask, pick, quantity, text};
use serde_json::{Map, Value, json};

/// What the door says to a case of these families; an error where the kind is not known.
pub fn got(kind: &str, inputs: &Value) -> Result<Value, String> {
    let request = match kind.split_once('_').map(|(family, _)| family) {
        Some("cal") => calibration(kind, inputs),
        Some("calo") => calorimetry(kind, inputs),
        Some("kin") => kinetics(kind, inputs),
        Some("gas") => gas(kind, inputs),
        Some("ele") => electro(kind, inputs),
        Some("eq") => equilibrium(kind, inputs),
        _ => None,
    };
    let request = request.ok_or_else(|| format!("no case of kind '{kind}' is known"))?;
    Ok(match ask(&request) {
        Ok(answer) => fields(kind, inputs, &answer),
        Err(error) => json!({ "status": "undefined", "error": error }),
    })
}

/// A quantity with its components of uncertainty; exact where none are listed.
fn known(value: &Value, unit: &str, uncertainty: &Value) -> Value {
    let number = |v: &Value| v.as_f64().unwrap_or_else(|| v.as_str().unwrap().parse().unwrap());
    let component = |c: &Value| match text(c, "type") {
        "standard" => json!({ "kind": "standard", "u": number(&c["u"]) }),
        "relative" => json!({ "kind": "relative", "percent": number(&c["u_percent"]) }),
        shape => {
            json!({ "kind": shape, "half_width": number(&c["half_width"]), "times": c["count"].as_u64().unwrap_or(1) })
        }
    };
    let components: Vec<Value> = uncertainty.as_array().into_iter().flatten().map(component).collect();
    json!({ "value": quantity(value, unit), "components": components })
}

fn exact(value: &Value, unit: &str) -> Value {
    known(value, unit, &Value::Null)
}

/// `["36.8", "mL"]`.
fn with_unit(pair: &Value, uncertainty: &Value) -> Value {
    known(&pair[0], pair[1].as_str().unwrap(), uncertainty)
}

fn list(values: &Value, unit: &str, uncertainty: &Value) -> Value {
    values.as_array().unwrap().iter().map(|v| known(v, unit, uncertainty)).collect()
}

fn without_nulls(value: Value) -> Value {
    match value {
        Value::Object(map) => map
            .into_iter()
            .filter(|(_, v)| !v.is_null())
            .map(|(k, v)| (k, without_nulls(v)))
            .collect::<Map<_, _>>()
            .into(),
        Value::Array(all) => all.into_iter().map(without_nulls).collect(),
        other => other,
    }
}

/// Fields of the answer by their paths; what is not there is left out.
fn at(answer: &Value, paths: &[(&str, &str)]) -> Value {
    paths
        .iter()
        .filter_map(|(name, path)| {
            answer.pointer(path).filter(|v| !v.is_null()).map(|v| ((*name).to_owned(), v.clone()))
        })
        .collect::<Map<_, _>>()
        .into()
}

/// The standard uncertainty of one result.
fn uncertainty(answer: &Value, name: &str) -> Value {
    answer["worked"]["results"]
        .as_array()
        .and_then(|all| all.iter().find(|r| r["name"] == name))
        .map_or(Value::Null, |r| r["standard_uncertainty"].clone())
}

fn joined(mut one: Value, other: Value) -> Value {
    if let (Value::Object(a), Value::Object(b)) = (&mut one, other) {
        a.extend(b);
    }
    one
}

fn calibration(kind: &str, i: &Value) -> Option<Value> {
    let points = |origin: bool| json!({ "x": i["x"], "y": i["y"], "sd": i["sd_y"], "through_zero": origin });
    let unknown = |origin: bool| {
        json!({
            "ask": "unknown", "points": points(origin), "unknown": i["unknown_y"], "blank": i["blank_y"],
            "dilution": i["dilution_factor"], "sd_unknown": i["sd_unknown_y"],
        })
    };
    let groups = || -> Value {
        let of = |g: &Value| json!({ "x": g["x"], "y": g["y"], "unknown": g["unknown_y"] });
        i["groups"].as_array().unwrap().iter().map(of).collect()
    };
    let question = match kind {
        "cal_line" | "cal_line_weighted" => json!({ "ask": "line", "points": points(false) }),
        "cal_undefined" if i["unknown_y"].is_null() => json!({ "ask": "line", "points": points(false) }),
        "cal_line_through_origin" => json!({ "ask": "line", "points": points(true) }),
        "cal_unknown" | "cal_unknown_weighted" | "cal_undefined" => unknown(false),
        "cal_unknown_through_origin" => unknown(true),
        "cal_standard_addition" => {
            json!({ "ask": "addition", "added": i["added_x"], "y": i["y"], "dilution": i["dilution_factor"] })
        }
        "cal_groups" => json!({ "ask": "groups", "groups": groups() }),
        "cal_class_unknown" => json!({ "ask": "class-unknown", "groups": groups() }),
        _ => return None,
    };
    Some(joined(json!({ "kind": "calibration" }), without_nulls(question)))
}

fn calorimetry(kind: &str, i: &Value) -> Option<Value> {
    let u = &i["uncertainty"];
    let specific = exact(&i["specific_heat_J_per_gK"], "J/(g K)");
    let density = || exact(&i["density_g_per_mL"], "g/mL");
    let question = match kind {
        "calo_neutralisation" => {
            let part = |side: &str| {
                json!({
                    "name": side, "heated": true, "density": density(),
                    "volume": known(&i[side]["volume_mL"], "mL", &u[format!("volume_{side}")]),
                    "concentration": known(&i[side]["concentration_mol_per_L"], "mol/L", &u[format!("concentration_{side}")]),
                    "coefficient": format!("1/{}", i[side]["equivalents"]),
                })
            };
            mixing(i, &json!([part("acid"), part("base")]))
        }
        "calo_solution" => mixing(
            i,
            &json!([
                {
                    "name": i["solid"]["formula"], "formula": i["solid"]["formula"],
                    "mass": known(&i["solid"]["mass_g"], "g", &u["mass"]),
                    "heated": i["heated_mass"] == "water and solid",
                },
                { "name": "water", "volume": known(&i["water_mL"], "mL", &u["volume_water"]), "density": density(), "heated": true },
            ]),
        ),
        "calo_displacement" => mixing(
            i,
            &json!([
                {
                    "name": i["metal"]["formula"], "formula": i["metal"]["formula"],
                    "mass": known(&i["metal"]["mass_g"], "g", &u["mass"]),
                    "coefficient": i["metal"]["coefficient"].to_string(),
                },
                {
                    "name": i["salt"]["species"], "heated": true, "density": density(),
                    "volume": known(&i["salt"]["volume_mL"], "mL", &u["volume_salt"]),
                    "concentration": known(&i["salt"]["concentration_mol_per_L"], "mol/L", &u["concentration_salt"]),
                    "coefficient": i["salt"]["coefficient"].to_string(),
                },
            ]),
        ),
        "calo_constant_mixing" => {
            let mass = |name: &str| known(&i[name], "g", &u["each_mass"]);
            let temperature = |name: &str| known(&i[name], "°C", &u["each_temperature"]);
            json!({
                "ask": "constant-by-mixing", "hot": mass("hot_water_g"), "cold": mass("cold_water_g"),
                "hot_temperature": temperature("T_hot_C"), "cold_temperature": temperature("T_cold_C"),
                "final_temperature": temperature("T_final_C"), "specific_heat": specific,
            })
        }
        "calo_constant_electrical" => json!({
            "ask": "constant-by-heater", "voltage": exact(&i["voltage_V"], "V"), "current": exact(&i["current_A"], "A"),
            "time": exact(&i["time_s"], "s"), "water": exact(&i["water_g"], "g"), "warmed": exact(&i["delta_T_K"], "K"),
            "specific_heat": specific,
        }),
        "calo_combustion" => combustion(i),
        "calo_undefined" if !i["burner_before_g"].is_null() => combustion(i),
        "calo_undefined" => json!({
            "ask": "per-mole", "heated": exact(&i["heated_mass_g"], "g"), "specific_heat": specific,
            "warmed": exact(&i["delta_T_K"], "K"), "amount": exact(&i["n_mol"], "mol"),
        }),
        "calo_cycle" => {
            let step = |s: &Value| {
                let u = json!([{ "type": "standard", "u": s["standard_uncertainty"] }]);
                json!({ "times": s["times"], "enthalpy": known(&s["enthalpy_kJ_per_mol"], "kJ/mol", &u) })
            };
            json!({ "ask": "cycle", "steps": i["steps"].as_array().unwrap().iter().map(step).collect::<Vec<_>>() })
        }
        _ => return None,
    };
    Some(joined(json!({ "kind": "calorimetry" }), without_nulls(question)))
}

/// The readings before mixing, and those of the tail.
fn mixing(i: &Value, parts: &Value) -> Value {
    let number = |v: &Value| v.as_str().unwrap().parse::<f64>().unwrap();
    let (mixed, from, to) = (number(&i["mixing_time_min"]), number(&i["tail_min"][0]), number(&i["tail_min"][1]));
    let readings = || i["time_min"].as_array().unwrap().iter().zip(i["temperature_C"].as_array().unwrap());
    let temperature = |t: &Value| known(t, "°C", &i["uncertainty"]["thermometer"]);
    let tail = || readings().filter(|(t, _)| (from..=to).contains(&number(t)));
    json!({
        "ask": "reaction", "parts": parts, "specific_heat": exact(&i["specific_heat_J_per_gK"], "J/(g K)"),
        "calorimeter": known(&i["calorimeter_J_per_K"], "J/K", &i["uncertainty"]["calorimeter"]),
        "before": readings().filter(|(t, _)| number(t) < mixed).map(|(_, v)| temperature(v)).collect::<Vec<_>>(),
        "times": tail().map(|(t, _)| exact(t, "min")).collect::<Vec<_>>(),
        "after": tail().map(|(_, v)| temperature(v)).collect::<Vec<_>>(),
        "mixed_at": exact(&i["mixing_time_min"], "min"),
    })
}

fn combustion(i: &Value) -> Value {
    let u = &i["uncertainty"];
    let specific = i["specific_heat_J_per_gK"].as_str().unwrap_or("4.18");
    let maybe = |value: &Value, unit: &str| if value.is_null() { Value::Null } else { exact(value, unit) };
    let density = i["density_g_per_mL"].as_str().unwrap_or("1.00");
    json!({
        "ask": "combustion", "fuel": i["fuel"],
        "before": known(&i["burner_before_g"], "g", &u["each_burner_mass"]),
        "after": known(&i["burner_after_g"], "g", &u["each_burner_mass"]),
        "water": known(&i["water_mL"], "mL", &u["water"]), "density": exact(&json!(density), "g/mL"),
        "specific_heat": exact(&json!(specific), "J/(g K)"), "warmed": known(&i["delta_T_K"], "K", &u["delta_T"]),
        "can": maybe(&i["can_g"], "g"), "can_specific_heat": maybe(&i["can_specific_heat_J_per_gK"], "J/(g K)"),
        "accepted": maybe(&i["accepted_kJ_per_mol"], "kJ/mol"),
        "loss_of_another": maybe(&i["loss_percent_from_another_fuel"], "%"),
    })
}

fn kinetics(kind: &str, i: &Value) -> Option<Value> {
    let question = match kind {
        "kin_initial_rate" => {
            let method = text(i, "method").replace("origin", "zero").replace(' ', "-");
            json!({ "ask": "initial-rate", "time": i["time"], "value": i["y"], "method": method, "first": i["first_points"] })
        }
        "kin_order_two_runs" | "kin_order_undefined" => json!({
            "ask": "order-of-two", "concentration": [i["concentration_1"], i["concentration_2"]],
            "rate": [i["rate_1"], i["rate_2"]], "u_concentration": i["relative_u_percent"]["each_concentration"],
            "u_rate": i["relative_u_percent"]["each_rate"],
        }),
        "kin_order_many_runs" => {
            let run = |r: &Value| {
                let mut concentrations = r.as_object().unwrap().clone();
                let rate = concentrations.remove("rate").unwrap();
                json!({ "concentrations": concentrations, "rate": rate })
            };
            json!({ "ask": "orders", "runs": i["runs"].as_array().unwrap().iter().map(run).collect::<Vec<_>>() })
        }
        "kin_integrated" => json!({
            "ask": "integrated", "order": i["order"], "time": i["time"], "value": i["value"], "end": i["final_value"],
        }),
        "kin_which_order" => json!({ "ask": "which-order", "time": i["time"], "value": i["value"] }),
        "kin_successive_half_lives" => json!({ "ask": "half-lives", "time": i["time"], "value": i["value"] }),
        "kin_arrhenius" => json!({
            "ask": "arrhenius", "celsius": i["temperature_C"], "constant": i["rate_constant"], "predict_at": i["predict_at_C"],
        }),
        "kin_arrhenius_two" => json!({
            "ask": "arrhenius-of-two", "celsius": [i["temperature_1_C"], i["temperature_2_C"]],
            "constant": [i["k_1"], i["k_2"]], "u_constant": i["relative_u_k_percent"], "u_temperature": i["u_temperature_C"],
        }),
        "kin_clock_order" => json!({ "ask": "clock-order", "concentration": i["concentration"], "time": i["time_s"] }),
        "kin_clock_rate" => json!({
            "ask": "clock-rate", "consumed": i["consumed_mol_per_L"],
            "per_reaction": i["mol_consumed_per_mol_reaction"].to_string(), "time": i["time_s"],
        }),
        "kin_clock_temperature" => {
            json!({ "ask": "clock-temperature", "celsius": i["temperature_C"], "time": i["time_s"] })
        }
        _ => return None,
    };
    Some(joined(json!({ "kind": "kinetics" }), without_nulls(question)))
}

fn gas(kind: &str, i: &Value) -> Option<Value> {
    let u = &i["uncertainty"];
    let column = &i["water_column_mm"];
    let pressure = if i["pressure"].is_null() { &i["atmospheric_pressure"] } else { &i["pressure"] };
    let sample = || {
        // A pressure's uncertainty is given in Pa: the pressure is then written in Pa as well.
        json!({
            "volume": with_unit(&i["volume"], &u["volume"]), "temperature": known(&i["temperature_C"], "°C", &u["temperature"]),
            "pressure": pressure_of(pressure, &u["pressure_Pa"]), "over_water": i["over_water"] == true || kind == "gas_over_water",
            "column": if column.is_null() || column == "0" { Value::Null } else { exact(column, "mm") },
        })
    };
    let conditions = |c: &Value| json!({ "temperature": exact(&c["temperature_C"], "°C"), "pressure": with_unit(&c["pressure"], &Value::Null) });
    let metal = |ask: &str| {
        json!({
            "ask": ask, "metal": i["metal"], "mass": known(&i["mass_g"], "g", &u["mass"]),
            "ratio": i["gas_mol_per_metal_mol"], "sample": sample(),
        })
    };
    let question = match kind {
        "gas_dry" | "gas_over_water" | "gas_undefined" => json!({ "ask": "amount", "sample": sample() }),
        "gas_vapour_pressure_water" => {
            json!({ "ask": "vapour-pressure", "temperature": exact(&i["temperature_C"], "°C") })
        }
        "gas_metal" => metal("metal"),
        "gas_constant" => metal("constant"),
        "gas_volatile_liquid" => {
            let air = &i["displaced_air"];
            json!({
                "ask": "volatile-liquid", "gain": known(&i["mass_gain_g"], "g", &u["mass"]),
                "volume": with_unit(&i["flask_volume"], &u["volume_mL"]),
                "temperature": known(&i["bath_temperature_C"], "°C", &u["temperature"]),
                "pressure": pressure_of(pressure, &u["pressure_Pa"]),
                "displaced": if air.is_null() { Value::Null } else { json!({
                    "vapour_pressure": exact(&air["vapour_pressure_at_room_Pa"], "Pa"),
                    "temperature": exact(&air["room_temperature_C"], "°C"),
                    "molar_mass": exact(&air["molar_mass_of_air_g_per_mol"], "g/mol"),
                }) },
            })
        }
        "gas_density" => json!({
            "ask": "density", "mass": exact(&i["mass_g"], "g"), "volume": with_unit(&i["volume"], &Value::Null),
            "temperature": exact(&i["temperature_C"], "°C"), "pressure": with_unit(pressure, &Value::Null),
        }),
        "gas_yield" => json!({
            "ask": "yield", "substance": i["substance"], "mass": exact(&i["mass_g"], "g"),
            "purity": if i["purity_percent"].is_null() { Value::Null } else { exact(&i["purity_percent"], "%") },
            "ratio": i["gas_mol_per_mol"], "sample": sample(),
        }),
        "gas_correction" => json!({
            "ask": "correction", "volume": with_unit(&i["volume"], &Value::Null),
            "from": conditions(&i["from"]), "to": conditions(&i["to"]),
        }),
        "gas_molar_volume" => json!({ "ask": "molar-volume", "at": conditions(i) }),
        _ => return None,
    };
    Some(joined(json!({ "kind": "gas" }), without_nulls(question)))
}

/// A pressure whose uncertainty, if any, is told in Pa: the same pressure spelled in Pa by moving its point.
fn pressure_of(pair: &Value, in_pascal: &Value) -> Value {
    let places = match (in_pascal.is_null(), pair[1].as_str().unwrap()) {
        (true, _) => return with_unit(pair, in_pascal),
        (_, "Pa") => 0,
        (_, "hPa" | "mbar") => 2,
        (_, "kPa") => 3,
        (_, "bar") => 5,
        (_, "mmHg") => {
            let pascal = pair[0].as_str().unwrap().parse::<f64>().unwrap() * 133.322_387_415;
            return known(&json!(pascal), "Pa", in_pascal);
        }
        (_, unit) => panic!("{unit} is not known here"),
    };
    known(&json!(format!("{}e{places}", pair[0].as_str().unwrap())), "Pa", in_pascal)
}

fn electro(kind: &str, i: &Value) -> Option<Value> {
    let u = &i["uncertainty"];
    let maybe = |name: &str, unit: &str| if i[name].is_null() { Value::Null } else { exact(&i[name], unit) };
    let measured = |name: &str, unit: &str, of: &str| {
        if i[name].is_null() { Value::Null } else { known(&i[name], unit, &u[of]) }
    };
    let question = match kind {
        "ele_undefined" if !i["half_cell"].is_null() => json!({
            "ask": "cell", "temperature": exact(&i["temperature_C"], "°C"), "electrons": 2,
            "cathode": { "standard": "0 V", "electrons": 2, "species": [{ "value": exact(&i["concentration_mol_per_L"], "1"), "power": 1 }] },
            "anode": { "standard": "0 V", "electrons": 2 },
        }),
        "ele_deposit" | "ele_undefined" => json!({
            "ask": "deposit", "substance": i["metal"], "electrons": i["electrons_per_ion"],
            "current": measured("current_A", "A", "current"), "time": measured("time_s", "s", "time"),
            "mass": measured("mass_change_g", "g", "mass"),
        }),
        "ele_preparation" => json!({
            "ask": "deposit", "substance": i["product"], "electrons": i["electrons_per_formula_unit"],
            "current": maybe("current_A", "A"), "time": maybe("time_s", "s"), "mass": maybe("mass_g", "g"),
            "purity": maybe("purity_percent", "%"),
        }),
        "ele_time_or_current" => json!({
            "ask": "needed", "substance": i["metal"], "electrons": i["electrons_per_ion"], "mass": maybe("mass_g", "g"),
            "current": maybe("current_A", "A"), "time": maybe("time_s", "s"),
        }),
        "ele_varying_current" => json!({
            "ask": "varying", "substance": i["metal"], "electrons": i["electrons_per_ion"],
            "time": list(&i["time_s"], "s", &Value::Null), "current": list(&i["current_A"], "A", &Value::Null),
        }),
        "ele_gas" => json!({
            "ask": "gas", "electrons": i["electrons_per_molecule"], "current": maybe("current_A", "A"),
            "time": maybe("time_s", "s"), "volume": maybe("volume_mL", "mL"), "temperature": maybe("temperature_C", "°C"),
            "pressure": with_unit(&i["pressure"], &Value::Null), "over_water": i["over_water"],
        }),
        "ele_cell" => {
            let half = |h: &Value| {
                let species = |s: &Value| json!({ "value": exact(&s["value"], "1"), "power": s["power"] });
                let all: Vec<Value> = h["species"].as_array().unwrap().iter().map(species).collect();
                json!({ "standard": exact(&h["standard_potential_V"], "V"), "electrons": h["electrons"], "species": all })
            };
            json!({
                "ask": "cell", "temperature": maybe("temperature_C", "°C"), "cathode": half(&i["cathode"]),
                "anode": half(&i["anode"]), "electrons": i["electrons_in_equation"], "measured": maybe("measured_V", "V"),
            })
        }
        "ele_slope" => json!({
            "ask": "slope", "temperature": maybe("temperature_C", "°C"), "charge": i["charge"],
            "concentration": i["concentration_mol_per_L"], "potential": i["potential_mV"], "unknown": i["unknown_potential_mV"],
        }),
        "ele_concentration_cell" => json!({
            "ask": "concentration-cell", "temperature": maybe("temperature_C", "°C"), "electrons": i["electrons"],
            "measured": maybe("measured_mV", "mV"), "known": maybe("known_mol_per_L", "mol/L"),
            "unknown_is_dilute": i["unknown_is"] == "the less concentrated",
        }),
        "ele_solubility_cell" => json!({
            "ask": "solubility-cell", "temperature": maybe("temperature_C", "°C"), "electrons": 1,
            "measured": maybe("measured_mV", "mV"), "reference": maybe("reference_silver_mol_per_L", "mol/L"),
            "other_ion": maybe("anion_mol_per_L", "mol/L"),
        }),
        _ => return None,
    };
    Some(joined(json!({ "kind": "electrochemistry" }), without_nulls(question)))
}

fn equilibrium(kind: &str, i: &Value) -> Option<Value> {
    let u = &i["uncertainty"];
    let of = |value: &Value, unit: &str| exact(value, unit);
    let ion = |side: &str| json!({ "charge": i[side]["charge"], "count": i[side]["per_formula"] });
    let common = || {
        let c = &i["common_ion"];
        let side = if c["which"].is_null() {
            if c["ion"] == i["cation"]["ion"] { "cation" } else { "anion" }
        } else {
            c["which"].as_str().unwrap()
        };
        if c.is_null() { Value::Null } else { json!({ "ion": side, "concentration": c["mol_per_L"] }) }
    };
    let question = match kind {
        "eq_ksp_titration" => json!({
            "ask": "solubility-product", "salt": i["salt"], "cation": ion("cation"), "anion": ion("anion"),
            "titrated": i["titrated"], "ratio": i["mol_ion_per_mol_titrant"], "titrant": i["titrant_mol_per_L"],
            "titre": i["mean_titre_mL"], "aliquot": i["aliquot_mL"], "common_ion": common(), "davies": i["davies_A"],
        }),
        "eq_solubility" => json!({
            "ask": "solubility", "pksp": i["pKsp"], "cation": ion("cation"), "anion": ion("anion"),
            "common_ion": common(), "davies": i["davies_A"],
        }),
        "eq_kc_absorbance" => {
            let run = |r: &Value| {
                json!({
                    "a": r["A_mol_per_L"], "a_volume": r["A_mL"], "b": r["B_mol_per_L"], "b_volume": r["B_mL"],
                    "total": r["total_mL"], "absorbance": r["absorbance"],
                })
            };
            let runs: Vec<Value> = i["runs"].as_array().unwrap().iter().map(run).collect();
            json!({ "ask": "complex", "slope": i["slope_absorbance_per_mol_per_L"], "intercept": i["intercept"], "runs": runs })
        }
        "eq_undefined" if !i["complex"].is_null() => {
            json!({ "ask": "complex-of", "a": i["A_initial"], "b": i["B_initial"], "complex": i["complex"] })
        }
        "eq_kc_titration" => {
            let start = |name: &str| of(&i["start_mol"][name], "mol");
            json!({
                "ask": "ester", "acid": start("acid"), "alcohol": start("alcohol"), "ester": start("ester"), "water": start("water"),
                "total": of(&i["total_mL"], "mL"), "aliquot": of(&i["aliquot_mL"], "mL"),
                "titrant": of(&i["titrant_mol_per_L"], "mol/L"), "titre": of(&i["titre_mL"], "mL"),
                "catalyst_titre": of(&i["catalyst_titre_mL"], "mL"),
            })
        }
        "eq_pk_indicator" => json!({
            "ask": "indicator", "absorbance": of(&i["absorbance"], "1"), "acid_form": of(&i["absorbance_acid_form"], "1"),
            "base_form": of(&i["absorbance_base_form"], "1"), "ph": of(&i["pH"], "1"),
        }),
        "eq_pka_half" | "eq_undefined" => json!({
            "ask": "half-way", "acid": i["acid_mol_per_L"], "acid_volume": i["acid_mL"], "base": i["base_mol_per_L"],
            "base_volume": i["base_added_mL"].to_string(), "ph": i["pH_reading"],
            "pkw": i["pKw"].as_str().unwrap_or("14.00"), "davies": i["davies_A"].as_str().unwrap_or("0.509"),
        }),
        "eq_equivalence" => json!({
            "ask": "equivalence", "mass": i["acid_mass_g"], "protons": i["protons_titrated"], "base": i["base_mol_per_L"],
            "volume": i["volume_mL"], "ph": i["pH"],
        }),
        "eq_gran" => json!({ "ask": "gran", "volume": i["volume_mL"], "ph": i["pH"] }),
        "eq_freezing_molar_mass" => {
            let particles: u32 = text(i, "particles_per_formula").parse().unwrap();
            json!({
                "ask": "freezing-point", "solute": known(&i["solute_g"], "g", &u["solute"]),
                "solvent": known(&i["solvent_g"], "g", &u["solvent"]), "constant": of(&i["Kf_K_kg_per_mol"], "K kg/mol"),
                "pure": known(&i["T_freezing_solvent_C"], "°C", &u["each_temperature"]),
                "solution": known(&i["T_freezing_solution_C"], "°C", &u["each_temperature"]), "particles": particles,
            })
        }
        "eq_van_t_hoff" => json!({
            "ask": "vant-hoff", "solute": of(&i["solute_g"], "g"), "molar_mass": of(&i["molar_mass_g_per_mol"], "g/mol"),
            "solvent": of(&i["solvent_g"], "g"), "constant": of(&i["Kf_K_kg_per_mol"], "K kg/mol"),
            "depression": of(&i["depression_K"], "K"), "ions": i["ions_per_formula"],
        }),
        _ => return None,
    };
    Some(joined(json!({ "kind": "equilibrium" }), without_nulls(question)))
}

const LINE: &[(&str, &str)] = &[
    ("n", "/n"),
    ("slope", "/slope"),
    ("intercept", "/intercept"),
    ("degrees_of_freedom", "/degrees_of_freedom"),
    ("residual_sd", "/scatter/residual_sd"),
    ("se_slope", "/scatter/standard/slope"),
    ("se_intercept", "/scatter/standard/intercept"),
    ("t_975", "/scatter/t_975"),
    ("slope_half_width_95", "/scatter/slope_half_width_95"),
    ("intercept_half_width_95", "/scatter/intercept_half_width_95"),
    ("r_squared", "/r_squared"),
];

/// The answer in the fields of the case.
#[allow(clippy::too_many_lines)] // one row a kind
fn fields(kind: &str, inputs: &Value, answer: &Value) -> Value {
    let line = |path: &str| at(answer.pointer(path).unwrap_or(&Value::Null), LINE);
    let results = |pairs: &[(&str, &str)]| pick(answer, pairs);
    let with_u = |fields: Value, name: &str, of: &str| joined(fields, json!({ name: uncertainty(answer, of) }));
    match kind {
        "cal_line" | "cal_line_through_origin" => at(answer, LINE),
        "cal_line_weighted" => joined(
            at(answer, LINE),
            at(
                answer,
                &[
                    ("chi_squared", "/rss"),
                    ("se_slope_sd_known", "/by_given_sd/slope"),
                    ("se_intercept_sd_known", "/by_given_sd/intercept"),
                    ("se_slope_scaled", "/scatter/standard/slope"),
                    ("se_intercept_scaled", "/scatter/standard/intercept"),
                ],
            ),
        ),
        "cal_undefined" if answer["ask"] == "line" => at(answer, LINE),
        "cal_unknown" | "cal_unknown_through_origin" | "cal_unknown_weighted" | "cal_undefined" => joined(
            line("/line"),
            at(
                answer,
                &[
                    ("mean_unknown_y", "/mean_y"),
                    ("x_measured", "/measured/x"),
                    ("se_x_measured", "/measured/standard_error"),
                    ("half_width_95_measured", "/measured/half_width_95"),
                    ("x_original", "/original/x"),
                    ("se_x_original", "/original/standard_error"),
                    ("half_width_95_original", "/original/half_width_95"),
                    ("inside_calibration", "/measured/inside"),
                    ("se_x_sd_known", "/measured/by_given_sd"),
                    ("se_x_scaled", "/measured/standard_error"),
                ],
            ),
        ),
        "cal_standard_addition" => joined(
            line("/line"),
            at(
                answer,
                &[
                    ("x_in_measured_volume", "/measured/x"),
                    ("se_x", "/measured/standard_error"),
                    ("half_width_95", "/measured/half_width_95"),
                    ("x_original", "/original/x"),
                    ("half_width_95_original", "/original/half_width_95"),
                ],
            ),
        ),
        "cal_groups" => joined(
            json!({ "one_line_through_all": line("/one_line") }),
            at(
                answer,
                &[
                    ("common_slope_own_intercepts", "/common_slope"),
                    ("slopes_by_group", "/slopes"),
                    ("mean_of_group_slopes", "/mean_slope"),
                    ("sd_of_group_slopes", "/sd_of_slopes"),
                    ("se_of_mean_slope", "/se_of_mean_slope"),
                    ("equal_slopes_F", "/equal_slopes_f"),
                    ("equal_slopes_p", "/equal_slopes_p"),
                ],
            ),
        ),
        "cal_class_unknown" => {
            let each = |field: &str| -> Value {
                answer["groups"].as_array().unwrap().iter().map(|g| g[field].clone()).collect()
            };
            joined(
                json!({ "x_by_group": each("x"), "se_by_group": each("standard_error") }),
                at(
                    answer,
                    &[
                        ("mean", "/mean"),
                        ("sd_between_groups", "/sd_between_groups"),
                        ("se_of_mean", "/se_of_mean"),
                        ("half_width_95_of_mean", "/half_width_95_of_mean"),
                        ("weighted_mean", "/weighted_mean"),
                        ("se_of_weighted_mean_sd_known", "/se_of_weighted_mean"),
                    ],
                ),
            )
        }
        "calo_neutralisation" | "calo_solution" | "calo_displacement" => {
            let limiting = answer["limiting"].as_array().unwrap();
            // n of what limits: the result of its own name.
            let labels = answer["worked"]["results"].as_array().unwrap();
            let label = format!("amount of {}", limiting[0].as_str().unwrap());
            let amount =
                labels.iter().find(|r| r["label"] == label.as_str()).map_or(Value::Null, |r| r["value"].clone());
            let found = results(&[
                ("T_initial_C", "T_initial"),
                ("tail_slope_K_per_min", "cooling"),
                ("T_mixing_C", "T_mixing"),
                ("delta_T_K", "dT"),
                ("heated_mass_g", "m_heated"),
                ("heat_J", "heat"),
                ("n_reaction_mol", "extent"),
                ("enthalpy_kJ_per_mol", "enthalpy"),
            ]);
            let found = joined(
                found,
                json!({
                    "limiting": limiting, "n_limiting_mol": amount, "u_T_mixing_from_line": answer["scatter_at_mixing"],
                }),
            );
            with_u(found, "u_enthalpy_kJ_per_mol", "enthalpy")
        }
        "calo_constant_mixing" => {
            let says = |remark: &str| answer["remarks"].as_array().is_some_and(|all| all.iter().any(|r| r == remark));
            let found = joined(
                results(&[("constant_J_per_K", "constant")]),
                json!({ "negative": says("below-nothing"), "consistent_with_zero": says("consistent-with-zero") }),
            );
            with_u(found, "u_constant_J_per_K", "constant")
        }
        "calo_constant_electrical" => results(&[("energy_J", "energy"), ("constant_J_per_K", "constant")]),
        "calo_combustion" => with_u(
            results(&[
                ("burnt_g", "m_burnt"),
                ("burnt_mol", "n_burnt"),
                ("heat_to_water_and_can_J", "heat"),
                ("enthalpy_kJ_per_mol", "enthalpy"),
                ("heat_lost_percent", "lost"),
                ("heat_per_gram_kJ", "per_gram"),
                ("enthalpy_corrected_kJ_per_mol", "corrected"),
            ]),
            "u_enthalpy_kJ_per_mol",
            "enthalpy",
        ),
        "calo_cycle" => with_u(results(&[("enthalpy_kJ_per_mol", "enthalpy")]), "u_enthalpy_kJ_per_mol", "enthalpy"),
        "kin_initial_rate" => at(
            answer,
            &[
                ("points_used", "/points_used"),
                ("initial_rate", "/rate"),
                ("intercept", "/intercept"),
                ("curvature", "/curvature"),
                ("se_initial_rate", "/standard_error"),
            ],
        ),
        "kin_order_two_runs" | "kin_order_undefined" => at(
            answer,
            &[
                ("order", "/order"),
                ("u_order", "/standard_uncertainty"),
                ("nearest_integer", "/nearest"),
                ("consistent_with_integer", "/consistent"),
            ],
        ),
        "kin_order_many_runs" => at(
            answer,
            &[
                ("orders", "/orders"),
                ("ln_k", "/ln_constant"),
                ("rate_constant", "/constant"),
                ("degrees_of_freedom", "/degrees_of_freedom"),
                ("se_orders", "/standard_errors"),
                ("se_ln_k", "/se_ln_constant"),
                ("nearest_integers", "/nearest"),
            ],
        ),
        "kin_integrated" => joined(
            line("/line"),
            at(
                answer,
                &[
                    ("rate_constant", "/constant"),
                    ("se_rate_constant", "/line/scatter/standard/slope"),
                    ("half_width_95_rate_constant", "/line/scatter/slope_half_width_95"),
                    ("half_life", "/half_life"),
                    ("u_half_life", "/u_half_life"),
                    ("initial_from_intercept", "/initial"),
                    ("first_half_life_from_first_value", "/first_half_life"),
                    ("time_to_nothing", "/time_to_nothing"),
                ],
            ),
        ),
        "kin_which_order" => {
            let r = &answer["r_squared"];
            let order = if answer["order"].is_null() { json!({}) } else { json!({ "order": answer["order"] }) };
            joined(json!({ "r_squared": { "0": r[0], "1": r[1], "2": r[2] } }), order)
        }
        "kin_successive_half_lives" => at(answer, &[("reached_at", "/reached_at"), ("half_lives", "/half_lives")]),
        "kin_arrhenius" | "kin_clock_temperature" => at(
            answer,
            &[
                ("slope_K", "/line/slope"),
                ("r_squared", "/line/r_squared"),
                ("activation_energy_kJ_per_mol", "/activation_energy"),
                ("se_activation_energy_kJ_per_mol", "/standard_error"),
                ("half_width_95_activation_energy_kJ_per_mol", "/half_width_95"),
                ("ln_A", "/ln_factor"),
                ("se_ln_A", "/se_ln_factor"),
                ("A", "/factor"),
                ("k_at_predicted_temperature", "/predicted"),
                ("relative_u_of_predicted_k", "/relative_u_of_predicted"),
            ],
        ),
        "kin_arrhenius_two" => at(
            answer,
            &[
                ("activation_energy_kJ_per_mol", "/activation_energy"),
                ("u_activation_energy_kJ_per_mol", "/standard_uncertainty"),
                ("factor_per_10_K_from_25_C", "/factor_per_ten_kelvin"),
            ],
        ),
        "kin_clock_order" => at(
            answer,
            &[
                ("rates_1_per_s", "/rates"),
                ("order", "/line/slope"),
                ("se_order", "/line/scatter/standard/slope"),
                ("half_width_95_order", "/line/scatter/slope_half_width_95"),
                ("r_squared", "/line/r_squared"),
                ("nearest_integer", "/nearest"),
            ],
        ),
        "kin_clock_rate" => at(answer, &[("rates_mol_per_L_s", "/rates"), ("mean_rate", "/mean"), ("sd_rate", "/sd")]),
        "gas_dry" | "gas_over_water" => {
            let named = results(&[
                ("STP 1 bar (273.15 K, 100 kPa)", "V_stp_bar"),
                ("STP 1 atm (273.15 K, 101.325 kPa)", "V_stp_atm"),
                ("SATP (298.15 K, 100 kPa)", "V_satp"),
                ("room (20 °C, 101.325 kPa)", "V_room"),
            ]);
            let volumes = if kind == "gas_dry" { "volume_mL_at" } else { "dry_volume_mL_at" };
            joined(
                results(&[
                    ("amount_mol", "n"),
                    ("molar_volume_L_per_mol", "V_m"),
                    ("p_water_Pa", "p_water"),
                    ("p_dry_Pa", "p"),
                ]),
                json!({ volumes: named }),
            )
        }
        "gas_undefined" => results(&[("amount_mol", "n")]),
        "gas_vapour_pressure_water" => results(&[("p_water_Pa", "p_water")]),
        "gas_metal" => with_u(
            results(&[
                ("gas_mol", "n"),
                ("molar_mass_g_per_mol", "molar_mass"),
                ("gas_per_metal_mol", "per_metal"),
                ("molar_volume_at_lab_L_per_mol", "V_m"),
                ("molar_volume_dry_STP_1_bar_L_per_mol", "V_m_stp_bar"),
                ("molar_volume_dry_STP_1_atm_L_per_mol", "V_m_stp_atm"),
                ("gas_yield_percent", "gas_yield"),
            ]),
            "u_molar_mass_g_per_mol",
            "molar_mass",
        ),
        "gas_volatile_liquid" => with_u(
            results(&[("vapour_mass_g", "m_vapour"), ("amount_mol", "n"), ("molar_mass_g_per_mol", "molar_mass")]),
            "u_molar_mass_g_per_mol",
            "molar_mass",
        ),
        "gas_density" => results(&[("density_g_per_L", "rho"), ("molar_mass_g_per_mol", "molar_mass")]),
        "gas_constant" => results(&[("gas_constant_J_per_mol_K", "R"), ("error_percent", "error")]),
        "gas_yield" => results(&[
            ("expected_gas_mol", "n_expected"),
            ("gas_mol", "n"),
            ("percent_yield", "percent_yield"),
            ("expected_volume_mL_at_lab", "V_expected"),
        ]),
        "gas_correction" => results(&[("volume_mL", "V_2")]),
        "gas_molar_volume" => results(&[("molar_volume_L_per_mol", "V_m")]),
        "ele_deposit" | "ele_undefined" => {
            let found = results(&[
                ("charge_C", "Q"),
                ("electrons_mol", "n_electrons"),
                ("theoretical_mass_g", "m_theory"),
                ("deposited_mol", "n"),
                ("current_efficiency_percent", "efficiency"),
                ("faraday_from_data_C_per_mol", "F"),
                ("avogadro_from_data", "N_A"),
                ("charge_number_from_data", "z"),
            ]);
            let found = joined(without_nulls(found), at(answer, &[("charge_number_nearest", "/charge_number")]));
            with_u(found, "u_current_efficiency_percent", "efficiency")
        }
        "ele_preparation" => results(&[
            ("charge_C", "Q"),
            ("theoretical_mol", "n_theory"),
            ("theoretical_mass_g", "m_theory"),
            ("current_yield_percent", "efficiency"),
            ("charge_lost_C", "Q_lost"),
        ]),
        "ele_time_or_current" => results(&[("charge_C", "Q"), ("time_s", "t"), ("current_A", "I")]),
        "ele_varying_current" => {
            results(&[("charge_C", "Q"), ("mean_current_A", "I_mean"), ("theoretical_mass_g", "m_theory")])
        }
        "ele_gas" => results(&[
            ("charge_C", "Q"),
            ("gas_mol", "n_theory"),
            ("expected_volume_mL", "V_theory"),
            ("found_mol", "n"),
            ("current_efficiency_percent", "efficiency"),
            ("faraday_from_data_C_per_mol", "F"),
        ]),
        "ele_cell" => joined(
            results(&[
                ("cathode_potential_V", "E_cathode"),
                ("anode_potential_V", "E_anode"),
                ("standard_cell_potential_V", "E0"),
                ("cell_potential_V", "E"),
                ("gibbs_energy_kJ_per_mol", "dG"),
                ("standard_gibbs_energy_kJ_per_mol", "dG0"),
                ("log10_K", "lg_K"),
                ("log10_Q", "lg_Q"),
                ("difference_from_measured_V", "difference"),
            ]),
            json!({ "spontaneous_as_written": answer["spontaneous"] }),
        ),
        "ele_slope" => at(
            answer,
            &[
                ("slope_mV_per_decade", "/line/slope"),
                ("se_slope_mV", "/line/scatter/standard/slope"),
                ("intercept_mV", "/line/intercept"),
                ("theoretical_slope_mV", "/theoretical_slope"),
                ("slope_percent_of_theory", "/percent_of_theory"),
                ("log10_concentration", "/unknown/log10/x"),
                ("se_log10_concentration", "/unknown/log10/standard_error"),
                ("concentration", "/unknown/concentration"),
                ("u_concentration", "/unknown/standard_uncertainty"),
            ],
        ),
        "ele_concentration_cell" => results(&[("unknown_mol_per_L", "c"), ("factor", "factor")]),
        "ele_solubility_cell" => results(&[("silver_mol_per_L", "c"), ("Ksp", "Ksp"), ("pKsp", "pKsp")]),
        "eq_ksp_titration" => at(
            answer,
            &[
                ("solubility_mol_per_L", "/solubility"),
                ("solubility_g_per_L", "/solubility_by_mass"),
                ("cation_mol_per_L", "/cation"),
                ("anion_mol_per_L", "/anion"),
                ("ionic_strength_mol_per_L", "/ionic_strength"),
                ("gamma_cation", "/gamma_cation"),
                ("gamma_anion", "/gamma_anion"),
                ("Ksp_concentrations", "/ksp_concentrations"),
                ("Ksp_activities", "/ksp_activities"),
                ("pKsp_concentrations", "/pksp_concentrations"),
                ("pKsp_activities", "/pksp_activities"),
            ],
        ),
        "eq_solubility" => at(
            answer,
            &[
                ("solubility_ideal_mol_per_L", "/ideal"),
                ("solubility_davies_mol_per_L", "/by_davies"),
                ("ionic_strength_mol_per_L", "/ionic_strength"),
            ],
        ),
        "eq_kc_absorbance" => {
            let run = |r: &Value| {
                at(
                    r,
                    &[
                        ("A_initial", "/a"),
                        ("B_initial", "/b"),
                        ("complex", "/complex"),
                        ("A_left", "/a_left"),
                        ("B_left", "/b_left"),
                        ("Kc", "/k"),
                    ],
                )
            };
            let runs: Vec<Value> = answer["runs"].as_array().unwrap().iter().map(run).collect();
            joined(
                json!({ "runs": runs }),
                at(
                    answer,
                    &[
                        ("mean_Kc", "/mean"),
                        ("sd_Kc", "/spread/sd"),
                        ("rsd_percent", "/spread/rsd_percent"),
                        ("half_width_95_mean", "/half_width_95"),
                    ],
                ),
            )
        }
        "eq_kc_titration" => results(&[
            ("acid_left_mol", "acid_left"),
            ("ester_mol", "ester_made"),
            ("alcohol_left_mol", "alcohol_left"),
            ("water_mol", "water_made"),
            ("Kc", "K_c"),
            ("conversion_of_acid_percent", "conversion"),
        ]),
        "eq_pk_indicator" => results(&[("ratio_base_to_acid", "ratio"), ("pK", "pK")]),
        "eq_pka_half" => at(
            answer,
            &[
                ("total_acid_mol_per_L", "/acid"),
                ("sodium_mol_per_L", "/base"),
                ("hydrogen_mol_per_L", "/hydrogen"),
                ("anion_mol_per_L", "/anion"),
                ("acid_left_mol_per_L", "/acid_left"),
                ("ionic_strength_mol_per_L", "/ionic_strength"),
                ("gamma_1", "/gamma"),
                ("pKa_simple", "/simple"),
                ("pKa_concentrations", "/by_concentrations"),
                ("pKa_activities", "/by_activities"),
            ],
        ),
        "eq_equivalence" => at(
            answer,
            &[
                ("V_first_derivative_mL", "/by_first"),
                ("steepest_pH_per_mL", "/steepest"),
                ("V_second_derivative_mL", "/by_second"),
                ("molar_mass_by_second_g_per_mol", "/molar_mass_by_second"),
                ("molar_mass_by_first_g_per_mol", "/molar_mass_by_first"),
            ],
        ),
        "eq_gran" => joined(
            line("/line"),
            at(
                answer,
                &[("V_equivalence_mL", "/equivalence"), ("se_V_mL", "/standard_error"), ("pKa_from_slope", "/pka")],
            ),
        ),
        "eq_freezing_molar_mass" => with_u(
            results(&[
                ("depression_K", "depression"),
                ("molality_particles_mol_per_kg", "molality"),
                ("molar_mass_g_per_mol", "molar_mass"),
            ]),
            "u_molar_mass_g_per_mol",
            "molar_mass",
        ),
        "eq_van_t_hoff" => joined(
            results(&[("i", "i"), ("degree_of_dissociation", "apart")]),
            json!({ "more_than_possible": answer["remarks"].as_array().is_some_and(|all| all.iter().any(|r| r == "more-than-possible")) }),
        ),
        _ => panic!("{kind} has no fields here: {inputs}"),
    }
}
