//! Titrations: standardisation, a sample's strength, back titration.

use super::Expansion;
use crate::error::PracticalProblem as Problem;
use crate::file::ReagentItem;
use crate::{SheetRole, TitresAgree, book};

/// How the strength of a sample is asked for.
pub(super) struct Found<'a> {
    pub aliquot: &'a str,
    /// Times that it was diluted.
    pub dilution: Option<&'a str>,
    /// Also as mass in volume.
    pub as_mass: bool,
}

/// Which titres count.
pub(super) enum Counted {
    /// The best set within a limit.
    Within(String),
    /// All accurate ones but one that an outlier test marks.
    WithoutOutlier,
    /// All accurate ones; their relative standard deviation is judged at the bench, against what is stated, or else what the
    /// instruments let expect.
    All,
}

/// What a method chooses, or else the school.
///
/// # Errors
/// When it chooses both.
pub(super) fn agreement(
    limit: &Option<String>,
    rsd: &Option<String>,
    school: &TitresAgree,
) -> Result<Counted, Problem> {
    match (limit, rsd) {
        (Some(limit), None) => Ok(Counted::Within(limit.clone())),
        (None, Some(_)) => Ok(Counted::All),
        (None, None) => Ok(match school {
            TitresAgree::Within(limit) => Counted::Within(limit.clone()),
            TitresAgree::OutlierTest => Counted::WithoutOutlier,
            TitresAgree::Instruments | TitresAgree::Rsd(_) => Counted::All,
        }),
        (Some(_), Some(_)) => Err(Problem::Senseless("titres agree within a limit, or by their rsd: say one of them")),
    }
}

impl Expansion<'_> {
    /// Defines the mean of the titres that count, less the blank.
    pub(super) fn mean_titre(&mut self, titre: &str, counted: &Counted, blank: Option<&str>) -> String {
        let (words, mean) = match counted {
            Counted::Within(limit) => ("mean of the concordant titres", format!("concordant_mean({titre}, {limit})")),
            Counted::WithoutOutlier => {
                ("mean of the titres without an outlier", format!("mean_without_outlier({titre})"))
            }
            Counted::All => ("mean of the titres", format!("mean({titre})")),
        };
        let less = blank.map_or(String::new(), |b| format!(" - {b}"));
        self.define_as((SheetRole::MeanTitre, Some(titre)), "V_mean", words, format!("{mean}{less}"));
        "V_mean".into()
    }

    /// The mean of what each trial found, by the school.
    fn mean_of_each(&self, each: &str) -> String {
        match self.agreement {
            TitresAgree::OutlierTest => format!("mean_without_outlier({each})"),
            TitresAgree::Instruments | TitresAgree::Within(_) | TitresAgree::Rsd(_) => format!("mean({each})"),
        }
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
            let mean = self.mean_titre(titre, &Counted::Within(limit.to_owned()), blank);
            let label = format!("concentration of {name}");
            let found = book::strength_from_standard(&n, &ratio, &mean);
            self.define_as((SheetRole::Concentration, Some(titrant)), result, label, found);
            return Ok(());
        }
        let volume = blank.map_or(titre.to_owned(), |b| format!("({titre} - {b})"));
        let (label, each) =
            (format!("concentration of {name}, each trial"), book::strength_from_standard(&n, &ratio, &volume));
        self.define_as((SheetRole::ConcentrationEach, Some(titrant)), "c_each", label, each);
        let label = format!("concentration of {name}");
        self.define_as((SheetRole::Concentration, Some(titrant)), result, label, self.mean_of_each("c_each"));
        Ok(())
    }

    pub(super) fn titrate(
        &mut self,
        sample: &str,
        titrant: &str,
        titre: &str,
        mean: impl FnOnce(&mut Self) -> String,
        found: &Found<'_>,
    ) -> Result<(), Problem> {
        let name = &self.material(sample)?.name;
        let each = self.repeated.contains(found.aliquot);
        let volume = if each { titre.to_owned() } else { mean(self) };
        let n = self.amount(titrant, &volume)?;
        let n_sample = super::amount_name(sample);
        let amount = book::converted(&n, &format!("ratio({sample}, {titrant})"));
        let of = Some(sample);
        self.define_as((SheetRole::Amount, of), &n_sample, format!("amount of {name} in the aliquot"), amount);
        let c = format!("c_{sample}");
        let times = found.dilution.map_or(String::new(), |d| format!(" * {d}"));
        let strength = format!("{}{times}", book::in_volume(&n_sample, found.aliquot));
        let label = format!("concentration of {name}");
        if each {
            let of_each = format!("{label}, each trial");
            self.define_as((SheetRole::ConcentrationEach, of), "c_each", of_each, strength);
            self.define_as((SheetRole::Concentration, of), &c, label, self.mean_of_each("c_each"));
        } else {
            self.define_as((SheetRole::Concentration, of), &c, label, strength);
        }
        if found.as_mass {
            let label = format!("mass concentration of {name}");
            let as_mass = book::mass_of(&c, &format!("M({sample})"));
            self.define_as((SheetRole::MassConcentration, of), format!("rho_{sample}"), label, as_mass);
        }
        Ok(())
    }

    /// Of a sample weighed for each trial, or with a reagent of its own for each, the means of masses and titres belong
    /// together, and the trials have each their own fraction, by which they are compared.
    pub(super) fn back_titration(
        &mut self,
        sample: &str,
        excess: &ReagentItem,
        titrant: &str,
        titre: &str,
        counted: &Counted,
        sample_mass: &str,
    ) -> Result<(), Problem> {
        let name = &self.material(sample)?.name;
        let each = self.repeated.contains(sample_mass) || self.repeated.contains(&excess.reading);
        let mean = self.mean_titre(titre, if each { &Counted::All } else { counted }, None);
        let of_all = |name: &str, e: &Self| {
            if e.repeated.contains(name) { format!("mean({name})") } else { name.to_owned() }
        };
        let (taken, mass) = (of_all(&excess.reading, self), of_all(sample_mass, self));
        let reagent = &excess.material;
        let n_excess = self.amount(reagent, &taken)?;
        let n_titrant = self.amount(titrant, &mean)?;
        let ratio = format!("ratio({reagent}, {titrant})");
        let of_excess = Some(reagent.as_str());
        let left = book::converted(&n_titrant, &ratio);
        self.define_as((SheetRole::ExcessLeft, of_excess), "n_left", "amount of the excess left over", left);
        let reacted = book::difference(&n_excess, "n_left");
        self.define_as((SheetRole::Reacted, of_excess), "n_reacted", "amount that reacted", reacted);
        let amount = super::amount_name(sample);
        let per_sample = format!("ratio({sample}, {reagent})");
        let (of, found) = (Some(sample), book::converted("n_reacted", &per_sample));
        self.define_as((SheetRole::Amount, of), &amount, format!("amount of {name}"), found);
        let (label, found) = (format!("mass of {name}"), book::mass_of(&amount, &format!("M({sample})")));
        self.define_as((SheetRole::Mass, of), format!("m_{sample}"), label, found);
        let (label, fraction) = (format!("mass fraction of {name}"), book::part(&format!("m_{sample}"), &mass));
        self.define_as((SheetRole::MassFraction, None), format!("w_{sample}"), &label, fraction);
        if each {
            let amount = |material: &str, used: &str| {
                let known = self.material(material).ok().and_then(|m| m.supply.amount(material, used));
                known.unwrap_or_default()
            };
            let left = book::converted(&amount(titrant, titre), &ratio);
            let reacted = book::difference(&amount(reagent, &excess.reading), &left);
            let found = book::mass_of(&book::converted(&format!("({reacted})"), &per_sample), &format!("M({sample})"));
            let of_each = format!("{label}, each trial");
            self.define_as((SheetRole::MassFractionEach, None), "w_each", of_each, book::part(&found, sample_mass));
        }
        Ok(())
    }
}
