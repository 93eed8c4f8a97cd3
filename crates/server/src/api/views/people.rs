//! People by name.

use crate::app::App;
use crate::problem::ApiError;
use lab::bench::Actor;
use lab::roll::ever_seated_at;
use serde::Serialize;
use store::Person;
use utoipa::ToSchema;

/// A person.
#[derive(Debug, Serialize, ToSchema)]
pub struct PersonView {
    /// The number that events carry.
    pub id: i64,
    /// Name.
    pub name: String,
}

impl From<Person> for PersonView {
    fn from(p: Person) -> PersonView {
        PersonView { id: p.id, name: p.name }
    }
}

/// What an actor is called: an instructor by name, a device by its number.
pub fn name_of(app: &App, actor: Actor) -> Result<String, ApiError> {
    Ok(match actor {
        Actor::Person(id) => app.store.person(id)?.name,
        Actor::Device(id) => format!("device {id}"),
        Actor::Console => "console".into(),
    })
}

/// Whether a person is at one of these benches now, or was at an earlier visit.
pub fn seated_at(app: &App, run: i64, person: i64, groups: &[i64]) -> Result<bool, ApiError> {
    Ok(ever_seated_at(&app.store.seats(run)?, person, groups))
}
