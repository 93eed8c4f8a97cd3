//! Every sentence that refuses something typed at a bench, in one list that is read when it changes.

use lab::bench::{Impossible, NoAnswer, Unsound};
use measure::{Decimal, Dimension};
use practical::{Amount, Stated};
use strum::VariantNames;

/// One line for each, `kind: sentence`; there is one of every kind.
fn listed<T: std::error::Error + VariantNames>(all: &[T]) -> String {
    let kind = |e: &T| format!("{e:?}").split(|c: char| !c.is_alphanumeric()).next().unwrap().to_owned();
    let kinds: Vec<String> = all.iter().map(kind).collect();
    assert_eq!(kinds, T::VARIANTS, "one of every kind, in their order");
    kinds.iter().zip(all).map(|(kind, e)| format!("{kind}: {e}\n")).collect()
}

#[test]
fn what_cannot_be_so_at_a_bench() {
    let number = || Decimal::parse("2,1,5").unwrap_err();
    let value = |text: &str| Decimal::parse(text).unwrap();
    let sentences = listed(&[
        Impossible::NoNumber(number()),
        Impossible::Negative { what: "Dish with crystals".into(), value: value("-2.10"), unit: "g".into() },
        Impossible::BeyondInstrument {
            name: "Balance 2".into(),
            capacity: 220.0,
            value: value("3e6"),
            unit: "g".into(),
        },
        Impossible::UnitOfReading { what: "Dish".into(), unit: "g".into(), typed: "mL".into() },
        Impossible::TooManySteps(30),
        Impossible::NoAnswer { what: "Theoretical yield".into(), why: NoAnswer::Number(number()) },
        Impossible::UnitNotOffered("furlong".into()),
        Impossible::GroupAnswers,
        Impossible::StudentsAnswer,
        Impossible::Clock,
        Impossible::TooLong { what: "a note", most: 500 },
        Impossible::EmptyTag,
        Impossible::EmptyNote,
        Impossible::NotAChoice { choice: "puce".into(), coded: false },
        Impossible::DeviationNumber,
        Impossible::HowMuch(Amount::parse("some g").unwrap_err()),
        Impossible::MeasuredAs { material: "sulfuric acid".into(), wanted: Dimension::VOLUME },
        Impossible::Nothing,
        Impossible::SaysNothing,
    ]);
    insta::assert_snapshot!(sentences);
}

#[test]
fn what_is_no_answer() {
    let sentences = listed(&[
        NoAnswer::Number(Decimal::parse("about 3").unwrap_err()),
        NoAnswer::Formula(chem::Formula::parse("MgSo4").unwrap_err()),
        NoAnswer::Reagent,
        NoAnswer::Empty,
        NoAnswer::TooLong(500),
    ]);
    insta::assert_snapshot!(sentences);
}

#[test]
fn what_cannot_stand_in_a_room() {
    let strength = Stated::positive("0.1 g", &[Dimension::CONCENTRATION]).unwrap_err();
    let sentences = listed(&[
        Unsound::Name,
        Unsound::Unit { unit: "furlong".into(), why: measure::Unit::parse("furlong").unwrap_err() },
        Unsound::Numbers,
        Unsound::EmptyBottle,
        Unsound::Strength(strength),
        Unsound::NoMass(Decimal::parse("0").unwrap()),
        Unsound::Mass(Decimal::parse("heavy").unwrap_err()),
    ]);
    insta::assert_snapshot!(sentences);
}
