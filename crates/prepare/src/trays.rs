//! What stands on each group's tray: what it takes by its own recipe, and the vial of its unknown.

use crate::ForClass;
use crate::needs::{MaterialNeed, Share};
use practical::Practical;
use serde::Serialize;

/// A group's tray.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Tray {
    /// The group, counted from 0.
    pub group: u32,
    /// Its assignment: `recipe A`.
    pub recipe: Option<String>,
    /// Code of its unknown.
    pub unknown: Option<String>,
    /// What stands on it.
    pub takes: Vec<TrayTake>,
}

/// Something on a tray.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct TrayTake {
    /// As the sheet calls it.
    pub symbol: String,
    /// How much, in the unit of the material; none where the practical does not say.
    pub amount: Option<f64>,
}

/// Vials of one unknown, to be filled by whoever prepares.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct VialNeed {
    /// What is written on it.
    pub code: String,
    /// What is in it: the key.
    pub is: String,
    /// How many groups have it.
    pub count: u32,
}

/// The vials that are dealt out, in the order of the practical.
pub(crate) fn vials(practical: &Practical, class: &ForClass) -> Vec<VialNeed> {
    let dealt = |code: &str| class.groups.iter().filter(|g| practical.unknown_of(g) == Some(code)).count();
    let all = practical.file.unknowns.iter().map(|u| VialNeed {
        code: u.code.clone(),
        is: u.is.clone(),
        count: u32::try_from(dealt(&u.code)).unwrap_or(u32::MAX),
    });
    all.filter(|v| v.count > 0).collect()
}

/// The tray of every group, in bench order.
pub(crate) fn trays(practical: &Practical, class: &ForClass, needs: &[MaterialNeed]) -> Vec<Tray> {
    let all = (0..).zip(&class.groups);
    all.map(|(group, allotted)| {
        // A share without a recipe is everybody's.
        let own = |s: &&Share| s.recipe.is_none() || s.recipe == allotted.assignment;
        let take = |need: &MaterialNeed| {
            let share = need.shares.iter().find(own);
            // What others take by their recipes is not on this tray.
            let here = share.is_some() || need.shares.is_empty();
            here.then(|| TrayTake { symbol: need.symbol.clone(), amount: share.map(|s| s.per_group) })
        };
        Tray {
            group,
            recipe: allotted.assignment.clone(),
            unknown: practical.unknown_of(allotted).map(str::to_owned),
            takes: needs.iter().filter_map(take).collect(),
        }
    })
    .collect()
}
