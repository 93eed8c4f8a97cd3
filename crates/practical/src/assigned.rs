//! What a group was given that others were not: a recipe, a coded unknown, accepted values of its own.

use super::file::{Assignment, Judgement};
use super::reading::expectation;
use super::{Practical, Role, Stated};
use serde::Serialize;
use std::collections::BTreeMap;

/// What one group works with.
#[derive(Debug, Clone, Default, PartialEq, Eq, Hash, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Allotted {
    /// Name of its assignment: `recipe A`.
    pub assignment: Option<String>,
    /// Code of its unknown; what it is stays with the instructor.
    pub unknown: Option<String>,
}

impl Practical {
    /// The assignment of this name.
    #[must_use]
    pub fn assignment(&self, name: &str) -> Option<&Assignment> {
        self.file.assignments.iter().find(|a| a.name == name)
    }

    /// What is in the unknown with this code, for the instructor alone.
    #[must_use]
    pub fn key_of(&self, code: &str) -> Option<&str> {
        self.file.unknowns.iter().find(|u| u.code == code).map(|u| u.is.as_str())
    }

    /// The code of the unknown that a group with this allotment has: its own, or else that of its assignment.
    #[must_use]
    pub fn unknown_of<'a>(&'a self, to: &'a Allotted) -> Option<&'a str> {
        let given = to.assignment.as_deref().and_then(|name| self.assignment(name));
        to.unknown.as_deref().or_else(|| given?.unknown.as_deref())
    }

    /// The practical as a group with this allotment works it: planned amounts and the reagent that is meant to limit are
    /// its own. The unknown of its assignment is its own unless another one was allotted.
    #[must_use]
    pub fn allotted(&self, to: &Allotted) -> Practical {
        let mut own = self.clone();
        let given = to.assignment.as_deref().and_then(|name| self.assignment(name));
        if let Some(assignment) = given {
            for material in &mut own.materials {
                // Read when the practical was checked.
                if let Some(stated) = assignment.planned.get(&material.symbol).and_then(|t| Stated::parse(t).ok()) {
                    material.planned = Some(stated);
                }
                if let Some(limiting) = &assignment.limiting
                    && matches!(material.role, Role::Limiting | Role::Excess)
                {
                    material.role = if material.symbol == *limiting { Role::Limiting } else { Role::Excess };
                }
            }
        }
        let unknown = self.unknown_of(to).map(str::to_owned);
        own.expect_by_what_limits();
        if let Some(assignment) = given {
            own.expect(&assignment.expected, &assignment.observed);
        }
        if let Some(vial) = own.file.unknowns.iter().find(|u| Some(&u.code) == unknown.as_ref()).cloned() {
            own.expect(&vial.expected, &vial.observed);
        }
        own.allotted = Allotted { assignment: given.map(|a| a.name.clone()), unknown };
        own
    }

    /// Where another reagent is meant to limit, what shows that it does is what is to be seen.
    fn expect_by_what_limits(&mut self) {
        let Some(limits) = self.materials.iter().find(|m| m.role == Role::Limiting) else { return };
        for seen in &mut self.observations {
            let Some(evidence) = seen.evidence.as_ref().filter(|e| e.of == Judgement::Limiting) else { continue };
            let mut fitting = evidence.says.iter().filter(|(_, material)| **material == limits.symbol);
            if let (Some((choice, _)), None) = (fitting.next(), fitting.next()) {
                seen.expected.clone_from(choice);
            }
        }
    }

    /// What this group is to read and to see instead; read when the practical was checked.
    fn expect(&mut self, readings: &BTreeMap<String, String>, seen: &BTreeMap<String, String>) {
        for reading in &mut self.readings {
            let own = readings.get(&reading.symbol).map(|text| expectation(reading.kind, text));
            if let Some(Ok((from, to))) = own {
                (reading.expected, reading.expected_end) = (from, to);
            }
        }
        for observation in &mut self.observations {
            if let Some(choice) = seen.get(&observation.symbol) {
                observation.expected.clone_from(choice);
            }
        }
    }

    /// The practical with the strengths on the labels remembered, where `planned` states others than this one.
    #[must_use]
    pub fn labelled_as(mut self, planned: &Practical) -> Practical {
        for material in &self.materials {
            let label = planned.material(&material.symbol).and_then(|m| m.supply.stated());
            if let Some(label) = label.filter(|l| material.supply.stated() != Some(*l)) {
                self.labelled.insert(material.symbol.clone(), label.clone());
            }
        }
        self
    }

    /// Accepted values of the group's own results, with their unit, as the assignment states them.
    #[must_use]
    pub fn accepted_values(&self) -> BTreeMap<String, String> {
        let own = self.allotted.assignment.as_deref().and_then(|name| self.assignment(name));
        own.map(|a| a.accepted.clone()).unwrap_or_default()
    }
}
