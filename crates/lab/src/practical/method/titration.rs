//! Titrations: standardisation, a sample's strength, back titration.

use super::Expansion;
use crate::practical::error::PracticalProblem as Problem;
use crate::practical::file::ReagentItem;

/// How the strength of a sample is asked for.
pub(super) struct Found<'a> {
    pub aliquot: &'a str,
    /// Times that it was diluted.
    pub dilution: Option<&'a str>,
    /// Also as mass in volume.
    pub as_mass: bool,
}

/// Which titres count: two schools of practice.
#[derive(Clone, Copy)]
pub(super) enum Agreement<'a> {
    /// The best set within a limit.
    Within(&'a str),
    /// All accurate ones; their relative standard deviation is judged at the bench.
    All,
}

/// The school that a method chooses.
///
/// # Errors
/// When it chooses none, or both.
pub(super) fn agreement<'a>(limit: &'a Option<String>, rsd: &Option<String>) -> Result<Agreement<'a>, Problem> {
    match (limit, rsd) {
        (Some(limit), None) => Ok(Agreement::Within(limit)),
        (None, Some(_)) => Ok(Agreement::All),
        _ => Err(Problem::Senseless("titres agree within a limit, or by their rsd: say one of them")),
    }
}

impl Expansion<'_> {
    /// Defines the mean of the titres by the chosen school, less the blank.
    pub(super) fn mean_titre(&mut self, titre: &str, school: Agreement<'_>, blank: Option<&str>) -> String {
        let (words, mean) = match school {
            Agreement::Within(limit) => ("mean of the concordant titres", format!("concordant_mean({titre}, {limit})")),
            Agreement::All => ("mean of the titres", format!("mean({titre})")),
        };
        let less = blank.map_or(String::new(), |b| format!(" - {b}"));
        self.define("V_mean", words, format!("{mean}{less}"));
        "V_mean".into()
    }

    /// Of a weighed standard each trial has its own concentration; of aliquots the titres are compared.
    pub(super) fn standardise(
        &mut self,
        titrant: &str,
        standard: &ReagentItem,
        titre: &str,
        blank: Option<&str>,
        limit: Option<&str>,
    ) -> Result<(), Problem> {
        let name = &self.material(titrant)?.name;
        let n = self.amount(&standard.material, &standard.reading)?;
        let ratio = format!("ratio({titrant}, {})", standard.material);
        let result = format!("c_{titrant}");
        if let Some(limit) = limit {
            let mean = self.mean_titre(titre, Agreement::Within(limit), blank);
            self.define(result, format!("concentration of {name}"), format!("{n} * {ratio} / {mean}"));
            return Ok(());
        }
        let volume = blank.map_or(titre.to_owned(), |b| format!("({titre} - {b})"));
        self.define("c_each", format!("concentration of {name}, each trial"), format!("{n} * {ratio} / {volume}"));
        self.define(result, format!("concentration of {name}"), "mean(c_each)");
        Ok(())
    }

    pub(super) fn titrate(
        &mut self,
        sample: &str,
        titrant: &str,
        mean: &str,
        found: &Found<'_>,
    ) -> Result<(), Problem> {
        let name = &self.material(sample)?.name;
        let n = self.amount(titrant, mean)?;
        let n_sample = super::amount_name(sample);
        let amount = format!("{n} * ratio({sample}, {titrant})");
        self.define(&n_sample, format!("amount of {name} in the aliquot"), amount);
        let c = format!("c_{sample}");
        let times = found.dilution.map_or(String::new(), |d| format!(" * {d}"));
        self.define(&c, format!("concentration of {name}"), format!("{n_sample} / {}{times}", found.aliquot));
        if found.as_mass {
            let label = format!("mass concentration of {name}");
            self.define(format!("rho_{sample}"), label, format!("{c} * M({sample})"));
        }
        Ok(())
    }

    pub(super) fn back_titration(
        &mut self,
        sample: &str,
        excess: &ReagentItem,
        titrant: &str,
        mean: &str,
        sample_mass: &str,
    ) -> Result<(), Problem> {
        let name = &self.material(sample)?.name;
        let reagent = &excess.material;
        let n_excess = self.amount(reagent, &excess.reading)?;
        let n_titrant = self.amount(titrant, mean)?;
        let ratio = format!("ratio({reagent}, {titrant})");
        self.define("n_left", "amount of the excess left over", format!("{n_titrant} * {ratio}"));
        self.define("n_reacted", "amount that reacted", format!("{n_excess} - n_left"));
        let amount = super::amount_name(sample);
        self.define(&amount, format!("amount of {name}"), format!("n_reacted * ratio({sample}, {reagent})"));
        self.define(format!("m_{sample}"), format!("mass of {name}"), format!("{amount} * M({sample})"));
        let fraction = format!("m_{sample} / {sample_mass}");
        self.define(format!("w_{sample}"), format!("mass fraction of {name}"), fraction);
        Ok(())
    }
}
