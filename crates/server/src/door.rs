//! `keen-beaker compute`: one question a line on standard input, one answer a line on standard output, in order.
//!
//! A line that is no question, or has no answer, gets an error object on its line; the rest goes on.

use compute::{Request, compute};
use serde_json::{Value, json};
use std::io::{BufRead, Read, Write};

/// Longest line that is read; more than a practical file with all its escapes.
const LONGEST_LINE: u64 = 4 * 1024 * 1024;

/// Answers every line of `input`.
pub fn answer_lines(mut input: impl BufRead, mut output: impl Write) -> anyhow::Result<()> {
    let mut line = Vec::new();
    loop {
        line.clear();
        let taken = input.by_ref().take(LONGEST_LINE).read_until(b'\n', &mut line)?;
        if taken == 0 {
            return Ok(output.flush()?);
        }
        let cut = taken as u64 == LONGEST_LINE && line.last() != Some(&b'\n');
        if cut {
            skip_line(&mut input)?;
        }
        if line.iter().all(u8::is_ascii_whitespace) {
            continue;
        }
        let answer = if cut { refused(&format!("a line has at most {LONGEST_LINE} bytes")) } else { answer(&line) };
        serde_json::to_writer(&mut output, &answer)?;
        output.write_all(b"\n")?;
    }
}

fn answer(line: &[u8]) -> Value {
    let request: Request = match serde_json::from_slice(line) {
        Ok(request) => request,
        Err(e) => return refused(&e.to_string()),
    };
    match compute(&request.resolved(&crate::library::text)) {
        Ok(answer) => json!(answer),
        Err(error) => json!(error),
    }
}

fn refused(message: &str) -> Value {
    json!({ "error": "request", "message": message })
}

fn skip_line(input: &mut impl BufRead) -> std::io::Result<()> {
    loop {
        let buffer = input.fill_buf()?;
        let (end, length) = match buffer.iter().position(|b| *b == b'\n') {
            Some(at) => (true, at + 1),
            None => (buffer.is_empty(), buffer.len()),
        };
        input.consume(length);
        if end {
            return Ok(());
        }
    }
}

#[cfg(test)]
mod tests {
    use super::answer_lines;

    #[test]
    fn each_line_gets_its_answer_in_order_and_a_bad_one_an_error() {
        let long = format!("{{\"kind\":\"formula\",\"formula\":\"{}\"}}", "H".repeat(5_000_000));
        let input = format!(
            "{}\nnot json\n\n{long}\n{}\n{}",
            r#"{"kind":"formula","formula":"MgSO4·7H2O"}"#,
            r#"{"kind":"formula","formula":"FeCL3"}"#,
            r#"{"kind":"number","ask":"read","text":"25.00"}"#
        );
        let mut output = Vec::new();
        answer_lines(input.as_bytes(), &mut output).unwrap();
        let lines: Vec<serde_json::Value> =
            String::from_utf8(output).unwrap().lines().map(|l| serde_json::from_str(l).unwrap()).collect();
        assert_eq!(format!("{:.3}", lines[0]["molar_mass"].as_f64().unwrap()), "246.466");
        assert_eq!(lines[1]["error"], "request");
        assert_eq!(lines[2]["message"], "a line has at most 4194304 bytes");
        assert_eq!((lines[3]["error"].as_str(), lines[3]["offset"].as_u64()), (Some("formula"), Some(3)));
        assert_eq!(lines[4]["figures"], 4);
        assert_eq!(lines.len(), 5);
    }
}
