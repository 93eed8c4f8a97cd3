//! What stands at each bench, and what groups share.

use crate::ForClass;
use crate::needs::axis_of;
use measure::{Instrument, InstrumentKind};
use practical::Practical;
use practical::file::Step;
use practical::technique::technique;
use serde::Serialize;

/// Something to be put out.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Thing {
    /// As it is called.
    pub name: String,
    /// What it holds, of a vessel.
    pub capacity: Option<String>,
    /// How many each group has; none of what is shared.
    pub per_group: Option<u32>,
    /// How many are put out, those of spare groups counted.
    pub count: u32,
    /// Of what is shared, how many groups one of it serves at once.
    pub serves: Option<u32>,
    /// The technique that takes it; none of what the practical names itself.
    pub technique: Option<String>,
}

/// Of what techniques take, what no group has alone.
const SHARED: [&str; 4] = ["balance", "oven", "pH meter", "melting-point apparatus"];

/// Everything that is put out: vessels, instruments, what the techniques take, what is shared.
pub(crate) fn things(practical: &Practical, class: &ForClass) -> Vec<Thing> {
    let all = u32::try_from(class.groups.len()).unwrap_or(u32::MAX).saturating_add(class.spare_groups);
    let mut out: Vec<Thing> = Vec::new();
    let own = |name: &str, per_group: u32| Thing {
        name: name.to_owned(),
        capacity: None,
        per_group: Some(per_group),
        count: per_group.saturating_mul(all),
        serves: None,
        technique: None,
    };
    for vessel in &practical.file.vessels {
        let used = practical.steps.iter().filter(|s| s.vessel.as_ref() == Some(&vessel.name));
        let times = used.map(|s| times(practical, s)).max().unwrap_or(1);
        out.push(Thing { capacity: Some(vessel.capacity.clone()), ..own(&vessel.name, times) });
    }
    for instrument in instruments(practical) {
        // Where groups share it as a resource, it is counted there.
        let recorded = |r: &practical::Reading| practical.steps.iter().any(|s| uses_for(s, r));
        let shared = practical.readings.iter().any(|r| r.instrument.name == instrument.name && recorded(r));
        if is_glass(instrument.kind) {
            out.push(own(&instrument.name, 1));
        } else if !shared {
            out.push(Thing { per_group: None, count: 1, ..own(&instrument.name, 1) });
        }
    }
    for id in practical.steps.iter().filter_map(|s| s.technique.as_deref()) {
        let Some(technique) = technique(id) else { continue };
        for item in &technique.equipment {
            if is_there(practical, &out, item) {
                continue;
            }
            let technique = Some(technique.name.clone());
            let shared = SHARED.contains(&item.as_str());
            let alone = Thing { technique, ..own(item, 1) };
            out.push(if shared { Thing { per_group: None, count: 1, ..alone } } else { alone });
        }
    }
    for resource in &practical.file.resources {
        let count = class.resources.get(&resource.name).copied().unwrap_or(resource.count);
        out.push(Thing {
            name: resource.name.clone(),
            capacity: None,
            per_group: None,
            count,
            serves: Some(resource.groups),
            technique: None,
        });
    }
    out
}

/// How often a step is done when all goes well.
fn times(practical: &Practical, step: &Step) -> u32 {
    let wanted = axis_of(practical, step).map_or(1, |axis| practical.times_along(&axis));
    u32::try_from(wanted).unwrap_or(u32::MAX)
}

/// What readings are taken on, each once.
fn instruments(practical: &Practical) -> Vec<&Instrument> {
    let mut out: Vec<&Instrument> = Vec::new();
    for reading in &practical.readings {
        if !out.iter().any(|i| i.name == reading.instrument.name) {
            out.push(&reading.instrument);
        }
    }
    out
}

/// Whether a step takes something shared while it records this.
fn uses_for(step: &Step, reading: &practical::Reading) -> bool {
    !step.uses.is_empty() && step.records.contains(&reading.symbol)
}

/// Whether what a technique takes is on the list already, or is one of several that will do and the other is: `hot plate or
/// water bath`. Only so that the list does not name a thing twice.
fn is_there(practical: &Practical, out: &[Thing], item: &str) -> bool {
    let has = |name: &str| {
        let listed = out.iter().any(|t| t.name.eq_ignore_ascii_case(name));
        let shared = practical.file.resources.iter().any(|r| r.name.eq_ignore_ascii_case(name));
        listed || shared || practical.readings.iter().any(|r| kind_words(r.instrument.kind).contains(&name))
    };
    has(item) || item.split(" or ").flat_map(|part| part.split(',')).map(str::trim).any(has)
}

/// What the library of techniques calls an instrument of this kind.
fn kind_words(kind: InstrumentKind) -> &'static [&'static str] {
    match kind {
        InstrumentKind::Balance => &["balance"],
        InstrumentKind::VolumetricPipette => &["volumetric pipette"],
        InstrumentKind::VolumetricFlask => &["volumetric flask", "volumetric flask with stopper"],
        InstrumentKind::Burette => &["burette"],
        InstrumentKind::MeasuringCylinder => &["measuring cylinder"],
        InstrumentKind::GraduatedPipette => &["graduated pipette"],
        InstrumentKind::Syringe => &["syringe", "syringe without needle"],
        InstrumentKind::DroppingPipette => &["dropping pipette", "dropper"],
        InstrumentKind::Thermometer => &["thermometer"],
        InstrumentKind::PhMeter => &["pH meter"],
        InstrumentKind::PhPaper => &["pH paper"],
        InstrumentKind::Timer => &["timer"],
        InstrumentKind::MeltingPoint => &["melting-point apparatus"],
        InstrumentKind::Meter => &[],
    }
}

fn is_glass(kind: InstrumentKind) -> bool {
    match kind {
        InstrumentKind::VolumetricPipette
        | InstrumentKind::VolumetricFlask
        | InstrumentKind::Burette
        | InstrumentKind::MeasuringCylinder
        | InstrumentKind::GraduatedPipette
        | InstrumentKind::Syringe
        | InstrumentKind::DroppingPipette => true,
        InstrumentKind::Balance
        | InstrumentKind::Thermometer
        | InstrumentKind::PhMeter
        | InstrumentKind::PhPaper
        | InstrumentKind::Timer
        | InstrumentKind::MeltingPoint
        | InstrumentKind::Meter => false,
    }
}
