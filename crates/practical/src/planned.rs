//! What changes along with a planned amount: the readings of that material expect it, and lie within its band. Otherwise one
//! fact would stand in the file in two ways.

use super::amount::Stated;
use super::edit::Edit;
use super::file::{File, ReadingItem, Weighing};
use serde_json::json;

impl File {
    /// The edits that plan another amount of a material, by its place in the list: its own, and those of the readings that
    /// measure it directly, in the unit that is written. A text that is no amount is put in its place alone, to be told
    /// there.
    #[must_use]
    pub fn planning(&self, material: usize, planned: &str) -> Vec<Edit> {
        let set = |path: Vec<super::Key>, value| Edit::Set { path, value };
        let mut edits = vec![set(vec!["materials".into(), material.into(), "planned".into()], json!(planned))];
        let (Some(item), Ok(stated)) = (self.materials.get(material), Stated::parse(planned)) else { return edits };
        let (amount, unit) = (stated.amount.value.to_f64(), &stated.amount.unit);
        for (i, reading) in self.readings.iter().enumerate() {
            let measures = reading.of.as_ref() == Some(&item.symbol) && reading.unit == unit.written();
            if !measures || self.is_part_of_a_difference(reading) {
                continue;
            }
            let path = |key: &str| vec!["readings".into(), i.into(), key.into()];
            let decimals = reading.decimals as usize;
            edits.push(set(path("expected"), json!(format!("{amount:.decimals$}"))));
            let [low, high] = reading.range;
            let banded = stated.half_width > 0.0;
            let half = if banded { stated.half_width } else { (high - low).max(0.0) / 2.0 };
            if banded || !(low..=high).contains(&amount) {
                let round = |x: f64| format!("{x:.*}", decimals + 1).parse::<f64>().unwrap_or(x);
                edits.push(set(path("range"), json!([round(amount - half), round(amount + half)])));
            }
        }
        edits
    }

    /// Whether a weighing takes it for one side of a difference: it shows more than the material.
    fn is_part_of_a_difference(&self, reading: &ReadingItem) -> bool {
        let symbol = &reading.symbol;
        self.weighings.iter().any(|w| match w {
            Weighing::Tared { .. } => false,
            Weighing::ByDifference { before, after, .. } => [before, after].contains(&symbol),
            Weighing::ContainerAndContents { gross, containers, .. } => gross == symbol || containers.contains(symbol),
            Weighing::MatchedBlank { gross, blank, .. } => [gross, blank].contains(&symbol),
        })
    }
}
