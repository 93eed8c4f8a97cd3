//! What a bench has: instruments, readings, a sheet over them.

use measure::{Component, Contribution, Decimal, Distribution, Instrument, InstrumentKind, Source, Unit, combined};
use sheet::{
    Draft, Given, Inputs, Material, Outcome, Program, ReadingName, Repeats, Value, Vocabulary, read_definitions,
};

pub fn unit(text: &str) -> Unit {
    Unit::parse(text).unwrap()
}

pub fn instrument(name: &str, kind: InstrumentKind, unit: &str) -> Instrument {
    Instrument {
        name: name.into(),
        kind,
        unit: unit.into(),
        resolution: 0.0,
        tolerance: 0.0,
        repeatability: 0.0,
        capacity: 1000.0,
        sensitivity: 0.0,
    }
}

/// A sheet in the making, over readings that are put in as they are named.
#[derive(Default)]
pub struct Bench {
    pub vocabulary: Vocabulary,
    pub inputs: Inputs,
}

impl Bench {
    /// A reading on an instrument.
    pub fn read(mut self, symbol: &str, text: &str, on: &Instrument) -> Bench {
        let of = unit(&on.unit);
        self.vocabulary.readings.push(ReadingName { symbol: symbol.into(), unit: of.clone(), repeats: None });
        let given = Given::reading(symbol, Decimal::parse(text).unwrap(), &of, on, sheet::Writing::default());
        self.inputs.readings.insert(symbol.into(), given);
        self
    }

    /// A quantity with components of its own, in its unit.
    pub fn known(mut self, symbol: &str, text: &str, of: &str, components: &[Component]) -> Bench {
        let of = unit(of);
        let typed = Decimal::parse(text).unwrap();
        let mut given = Given::exact_digits(typed, &of);
        given.contributions = vec![Contribution {
            source: Source::Reading(symbol.into()),
            standard_uncertainty: of.difference_to_base(combined(components, typed.to_f64())),
            distribution: Distribution::Normal,
        }];
        self.vocabulary.readings.push(ReadingName { symbol: symbol.into(), unit: of, repeats: None });
        self.inputs.readings.insert(symbol.into(), given);
        self
    }

    /// A reading of each trial; an empty text is a trial that has not been run.
    pub fn series(mut self, symbol: &str, texts: &[&str], rough: usize, on: &Instrument) -> Bench {
        let of = unit(&on.unit);
        let repeats = Repeats { axis: "trial".into(), most: texts.len(), rough };
        self.vocabulary.readings.push(ReadingName { symbol: symbol.into(), unit: of.clone(), repeats: Some(repeats) });
        let given = texts.iter().enumerate().map(|(i, text)| {
            let typed = Decimal::parse(text).ok()?;
            Some(Given::reading(&sheet::trial_name(symbol, i), typed, &of, on, sheet::Writing::default()))
        });
        self.inputs.series.insert(symbol.into(), given.collect());
        self
    }

    pub fn material(mut self, symbol: &str, formula: &str) -> Bench {
        self.vocabulary.materials.push(Material {
            symbol: symbol.into(),
            formula: Some(chem::Formula::parse(formula).unwrap()),
            coefficient: Some(1.into()),
            concentration: None,
            purity: None,
            density: None,
            mass_concentration: None,
        });
        self
    }

    pub fn try_program(&self, text: &str) -> Result<Program, String> {
        let drafts = read_definitions(text).map_err(|e| e.to_string())?;
        let drafts: Vec<Draft> = drafts.into_iter().map(Draft::from).collect();
        Program::compile(&drafts, &self.vocabulary).map_err(|e| e.to_string())
    }

    pub fn program(&self, text: &str) -> Program {
        self.try_program(text).unwrap_or_else(|e| panic!("{e}"))
    }

    /// What the last definition of `text` comes to.
    pub fn outcome(&self, text: &str) -> Outcome {
        let program = self.program(text);
        let name = &program.definitions().last().unwrap().name;
        program.evaluate(&self.inputs).outcome(name).unwrap()
    }

    /// The value of the last definition of `text`.
    pub fn value(&self, text: &str) -> Value {
        match self.outcome(text) {
            Outcome::Value(v) => v,
            other => panic!("{text}: {other:?}"),
        }
    }

    /// What the last definition of `text` fails with.
    pub fn failure(&self, text: &str) -> String {
        match self.outcome(text) {
            Outcome::Failed(failure) => failure.to_string(),
            other => panic!("{text}: {other:?}"),
        }
    }
}
