//! What a case expects beside what was got, within the case's tolerances.

use serde_json::Value;

/// Fields that a case carries for information, or for another field's comparison.
const INFORMATION: &[&str] = &[
    "tie",
    "may_reject",
    "may_accept",
    "must_flag_ambiguity_or_match",
    "accept_positions",
    "best_is_clear",
    "reason",
    "published",
    "example_solutions",
    "accepted_readings",
    "fixed_point_independent_of_start",
    "tie_corrected",
    "last_digit_exponent_if_trailing_zeros_not_significant",
];

/// Every expected field that differs, in words; none when the case holds.
pub fn differences(expected: &Value, got: &Value, tolerance: &Value) -> Vec<String> {
    // Nothing may be shown for what is undefined; of the rest some may.
    if expected["status"] == "undefined" && expected["undefined"].is_array() {
        let names = expected["undefined"].as_array().into_iter().flatten().filter_map(Value::as_str);
        let shown = names.filter(|name| got.get(name).is_some_and(|v| !v.is_null()));
        return shown.map(|name| format!("{name}: expected no number, got {}", got[name])).collect();
    }
    let allows = |what: &str| expected.get(what).is_some_and(|v| *v == true);
    let rejected = got.get("reject").is_some_and(|v| *v == true);
    if rejected && allows("may_reject") || !rejected && allows("may_accept") {
        return Vec::new();
    }
    // What is asked back may be refused in words and the other way: either way what was typed stands. What the case leaves
    // open may be taken.
    if expected["reading"] != "value" && expected["reading"].is_string() {
        let taken = got["reading"] == "value" && !allows("may_take");
        let mut out = if taken { vec![format!("taken as {got}")] } else { Vec::new() };
        if expected["unit_is"].is_string()
            && (&expected["unit_is"], &expected["value"]) != (&got["unit_is"], &got["value"])
        {
            out.push(format!("expected the number with an unknown unit, got {got}"));
        }
        return out;
    }
    if allows("may_reject") && ["refuse", "ask"].iter().any(|r| got["reading"] == *r) {
        return Vec::new();
    }
    let mut out = Vec::new();
    fields(expected, got, tolerance, "", &mut out);
    out
}

fn fields(expected: &Value, got: &Value, tolerance: &Value, path: &str, out: &mut Vec<String>) {
    let Value::Object(wanted) = expected else { return };
    for (name, value) in wanted {
        // A tie is a field of its own in the limiting family, and information where a number is rounded.
        let information = INFORMATION.contains(&name.as_str()) && !(name == "tie" && wanted.contains_key("limiting"));
        let unclear =
            matches!(name.as_str(), "best" | "best_x") && wanted.get("best_is_clear") == Some(&Value::Bool(false));
        if information || unclear {
            continue;
        }
        let here = format!("{path}{name}");
        if name == "position" {
            position(wanted, &got["position"], &here, out);
        } else {
            one(value, &got[name.as_str()], tolerance, name, &here, out);
        }
    }
}

fn one(expected: &Value, got: &Value, tolerance: &Value, name: &str, path: &str, out: &mut Vec<String>) {
    let same = match (expected, got) {
        (Value::Object(_), Value::Object(_)) => {
            return fields(expected, got, &inner(tolerance, name), &format!("{path}."), out);
        }
        (Value::Array(a), Value::Array(b)) if a.len() == b.len() => {
            for (i, (x, y)) in a.iter().zip(b).enumerate() {
                one(x, y, tolerance, name, &format!("{path}[{i}]"), out);
            }
            return;
        }
        (Value::Number(a), Value::Number(b)) => {
            let (a, b) = (a.as_f64().unwrap(), b.as_f64().unwrap());
            (a - b).abs() <= allowed(tolerance, name, a)
        }
        // Rounded numbers are compared by value, not by how zeros and powers of ten are spelled.
        (Value::String(a), Value::String(b)) if matches!(name, "half_up" | "half_even") => {
            a.parse::<f64>().unwrap() == b.parse::<f64>().unwrap()
        }
        (a, b) => a == b,
    };
    if !same {
        out.push(format!("{path}: expected {expected}, got {got}"));
    }
}

/// A dictionary of numbers has the tolerance of its own name for each entry.
fn inner(tolerance: &Value, name: &str) -> Value {
    match tolerance.get(name) {
        Some(own) => serde_json::json!({ "*": own }),
        None => tolerance.clone(),
    }
}

fn allowed(tolerance: &Value, name: &str, expected: f64) -> f64 {
    let rule = tolerance.get(name).or_else(|| tolerance.get("*"));
    let number = |what: &str| rule.and_then(|r| r.get(what)).and_then(Value::as_f64);
    match (number("abs"), number("rel")) {
        (Some(abs), _) => abs,
        (None, Some(_)) if expected == 0.0 => 1e-12,
        (None, Some(rel)) => rel * expected.abs(),
        // Nothing listed is exact, up to the last bits of a double.
        (None, None) => 1e-12 * expected.abs(),
    }
}

/// Any of the accepted places will do; none listed accepts all.
fn position(wanted: &serde_json::Map<String, Value>, got: &Value, path: &str, out: &mut Vec<String>) {
    let accepted = wanted.get("accept_positions").unwrap_or(&Value::Null);
    let fits = accepted.as_array().is_none_or(|places| places.contains(got));
    if !fits {
        out.push(format!("{path}: expected one of {accepted}, got {got}"));
    }
}

/// What is wrong with a plan: that it cannot be carried out, minute by minute; that it is more than 3 % longer than need be;
/// that more is claimed of it than is so.
pub fn plan(inputs: &Value, expected: &Value, got: &Value) -> Vec<String> {
    if expected["status"] == "infeasible" || got["status"] == "infeasible" {
        let same = expected["status"] == got["status"] && got["why"]["after"].is_string();
        return if same { Vec::new() } else { vec![format!("expected {}, got {got}", expected["status"])] };
    }
    let number = |v: &Value| v.as_u64().unwrap_or(u64::MAX);
    let (best, made, bound) = (number(&expected["makespan"]), number(&got["makespan"]), number(&got["lower_bound"]));
    let mut out = Vec::new();
    if 100 * made > 103 * best {
        out.push(format!("{made} min, where {best} will do"));
    }
    if bound > best || (got["status"] == "optimal") != (bound == made) {
        out.push(format!("claimed {} with a bound of {bound}, where {best} will do", got["status"]));
    }
    let steps = inputs["steps"].as_array().unwrap();
    let starts: Vec<Vec<u64>> = serde_json::from_value(got["starts"].clone()).unwrap();
    if starts.len() as u64 != number(&inputs["groups"]) || starts.iter().any(|own| own.len() != steps.len()) {
        out.push("not all steps of all groups are planned".into());
        return out;
    }
    for own in &starts {
        for (i, pair) in own.windows(2).enumerate() {
            let wait = pair[1].checked_sub(pair[0] + number(&steps[i]["minutes"]));
            let least = number(&steps[i]["min_wait_after"]);
            // No longest wait reads as the largest number.
            if wait.is_none_or(|w| w < least || w > number(&steps[i]["max_wait_after"])) {
                out.push(format!("after step {i} a wait of {wait:?}"));
            }
        }
    }
    for (resource, most) in inputs["resources"].as_object().unwrap() {
        for minute in 0..made {
            let here = |own: &Vec<u64>| {
                let held = steps.iter().zip(own).filter(|(s, _)| s["resource"] == resource.as_str());
                held.filter(|(s, start)| (**start..**start + number(&s["minutes"])).contains(&minute)).count()
            };
            if starts.iter().map(here).sum::<usize>() as u64 > number(most) {
                out.push(format!("{resource} taken too often in minute {minute}"));
                break;
            }
        }
    }
    let last = starts.iter().filter_map(|own| Some(own.last()? + number(&steps.last()?["minutes"]))).max();
    if last != Some(made) {
        out.push(format!("the last group is through in minute {last:?}, not {made}"));
    }
    out
}
