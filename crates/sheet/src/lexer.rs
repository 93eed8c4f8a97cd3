//! Words and signs of one line of a sheet.

use crate::error::SheetProblem;

#[derive(Debug, Clone, PartialEq)]
pub(crate) enum Word {
    Name(String),
    Number(String),
    Sign(char),
}

/// The words of `line`, each with its place (characters from 0). A `#` begins a comment.
pub(crate) fn words(line: &str) -> Result<Vec<(usize, Word)>, (usize, SheetProblem)> {
    let typed: Vec<char> = line.chars().collect();
    let mut out = Vec::new();
    let mut i = 0;
    while i < typed.len() {
        let start = i;
        let take = |i: &mut usize, belongs: &dyn Fn(char, usize) -> bool| -> String {
            while *i < typed.len() && belongs(typed[*i], *i) {
                *i += 1;
            }
            typed[start..*i].iter().collect()
        };
        match typed[i] {
            '#' => break,
            c if c.is_whitespace() => i += 1,
            c if c.is_alphabetic() || c == '_' => {
                let name = take(&mut i, &|c, _| c.is_alphanumeric() || c == '_' || matches!(c, '³' | '⁻' | '¹' | '²'));
                out.push((start, Word::Name(name)));
            }
            c if c.is_ascii_digit() || c == '.' => {
                // `1e-3`: the sign belongs to the number.
                let number = take(&mut i, &|c, at| {
                    c.is_ascii_digit()
                        || c == '.'
                        || (matches!(c, 'e' | 'E')
                            && typed.get(at + 1).is_some_and(|n| n.is_ascii_digit() || *n == '-'))
                        || (c == '-' && at > start && matches!(typed[at - 1], 'e' | 'E'))
                });
                out.push((start, Word::Number(number)));
            }
            c @ ('+' | '-' | '*' | '/' | '^' | '(' | ')' | ',' | '=' | '%') => {
                out.push((start, Word::Sign(c)));
                i += 1;
            }
            '\u{2212}' => {
                out.push((start, Word::Sign('-')));
                i += 1;
            }
            '×' | '·' => {
                out.push((start, Word::Sign('*')));
                i += 1;
            }
            '÷' => {
                out.push((start, Word::Sign('/')));
                i += 1;
            }
            other => return Err((start, SheetProblem::Unexpected(other.to_string()))),
        }
    }
    Ok(out)
}
