//! The routes of `/api/v1`, one file for each thing a person does. Handlers are thin: read the request, call one
//! function, shape the reply.

mod accounts;
mod acts;
mod begin;
mod bench;
mod board;
mod bottles;
mod calendar;
mod check;
mod classes;
mod compute;
mod devices;
mod drafts;
mod entries;
mod export;
mod group_page;
mod handbook;
mod import;
mod join;
mod keeping;
mod live;
mod on_time;
mod people;
mod pictures;
mod plan;
mod practice;
mod preparing;
mod record;
mod rehearsals;
mod room;
mod runs;
mod school;
pub mod session;
mod shelf;
mod stock;
pub mod texts;
mod views;
mod week;
mod whole;

use crate::problem::ApiError;
use actix_web::error::{JsonPayloadError, PayloadError};
use actix_web::web::{JsonConfig, PathConfig, QueryConfig, ServiceConfig, scope};
use std::io::ErrorKind;
use utoipa::OpenApi;

/// Largest body that is read. A reading with its reason is a few hundred bytes; a question to the core may carry the
/// text of a practical.
const MAX_BODY: usize = 16 * 1024;
const MAX_QUESTION: usize = 512 * 1024;
/// A calendar of years.
const MAX_CALENDAR: usize = 4 * 1024 * 1024;
/// A roster: large enough that a list beyond any class is told what is wrong with it.
const MAX_ROSTER: usize = 4 * 1024 * 1024;

/// JSON of at most so many bytes.
fn bodies(limit: usize) -> JsonConfig {
    JsonConfig::default().limit(limit).error_handler(|e, _| refused(e).into())
}

fn refused(body: JsonPayloadError) -> ApiError {
    match body {
        JsonPayloadError::Payload(PayloadError::Io(e)) if e.kind() == ErrorKind::TimedOut => ApiError::TooSlow,
        other => other.into(),
    }
}

/// What is done in the prep room.
fn prep_room(config: &mut ServiceConfig) {
    config
        .service(week::show_week)
        .service(preparing::show_as_if)
        .service(preparing::show_preparation)
        .service(preparing::choose_preparation)
        .service(preparing::tick)
        .service(bottles::make_bottle)
        .service(bottles::show_bottle)
        .service(bottles::bottle_code)
        .service(bottles::show_found)
        .service(bottles::standardise)
        .service(calendar::show_calendar)
        .service(calendar::keep_calendar)
        .service(calendar::export_calendar)
        .service(scope("/calendar/file").app_data(bodies(MAX_CALENDAR)).service(calendar::read_calendar))
        .service(stock::show_stock)
        .service(stock::put_on_shelf)
        .service(stock::count_stock)
        .service(stock::take_off_shelf)
        .service(stock::export_stock)
        .service(scope("/stock/list").app_data(bodies(MAX_QUESTION)).service(stock::import_stock));
}

/// Problems, and instruments to practise on.
fn practice_place(config: &mut ServiceConfig) {
    config
        .service(practice::problems::show_practice)
        .service(practice::problems::show_problem)
        .service(practice::problems::judge_problem)
        .service(practice::problems::work_problem)
        .service(practice::problems::show_slip)
        .service(practice::problems::name_slip)
        .service(scope("/practice/burette").app_data(bodies(MAX_QUESTION)).service(practice::glass::at_the_burette))
        .service(scope("/practice/balance").app_data(bodies(MAX_QUESTION)).service(practice::glass::at_the_balance))
        .service(practice::glass::at_the_scales)
        .service(rehearsals::show_rehearsals)
        .service(rehearsals::show_rehearsal)
        .service(rehearsals::rehearse)
        .service(rehearsals::set_pace);
}

/// Accounts, what is there of runs afterwards, files of them, and keeping it all.
fn desk_and_record(config: &mut ServiceConfig) {
    config
        .service(session::who)
        .service(session::create_first_account)
        .service(session::sign_in)
        .service(session::sign_out)
        .service(session::add_colleague)
        .service(session::change_passphrase)
        .service(accounts::show_accounts)
        .service(accounts::sign_out_elsewhere)
        .service(accounts::reset_passphrase)
        .service(accounts::close_account)
        .service(keeping::show_keeping)
        .service(keeping::back_up_now)
        .service(keeping::examine_now)
        .service(keeping::put_back)
        .service(record::search::search)
        .service(record::student::show_student)
        .service(record::afterwards::show_afterwards)
        .service(record::afterwards::sign_off)
        .service(record::afterwards::note_next_time)
        .service(record::afterwards::keep_product)
        .service(whole::import_whole)
        .service(whole::export_whole)
        .service(import::read_spreadsheet)
        .service(scope("/runs/{run}/import").app_data(bodies(MAX_ROSTER)).service(import::import_cells));
}

/// Puts the routes in place.
pub fn routes(config: &mut ServiceConfig) {
    let questions = bodies(MAX_QUESTION);
    config.service(
        scope("/api/v1")
            .app_data(bodies(MAX_BODY))
            .app_data(PathConfig::default().error_handler(|e, _| ApiError::from(e).into()))
            .app_data(QueryConfig::default().error_handler(|e, _| ApiError::from(e).into()))
            .configure(desk_and_record)
            .service(shelf::show_shelf)
            .service(classes::show_classes)
            .service(classes::make_class)
            .service(
                scope("/classes/{class}")
                    .app_data(bodies(MAX_ROSTER))
                    .service(classes::enrol)
                    .service(classes::erase_person)
                    .service(classes::rename_person)
                    .service(classes::rename_class)
                    .service(classes::delete_class)
                    .service(classes::erase_everybody)
                    .service(classes::share_class)
                    .service(classes::keep_names),
            )
            .service(
                scope("/practicals")
                    .app_data(questions.clone())
                    .service(begin::ask_to_begin)
                    .service(drafts::begin)
                    .service(drafts::change_draft)
                    .service(drafts::publish)
                    .service(plan::show_versions)
                    .service(plan::download)
                    .service(plan::archive_practical)
                    .service(plan::delete_practical)
                    .service(plan::show_plan),
            )
            .service(plan::show_techniques)
            .service(plan::show_instruments)
            .service(school::show_school)
            .service(school::choose_school)
            .service(room::show_room)
            .service(room::put_into_room)
            .service(room::take_out_of_room)
            .configure(prep_room)
            .configure(practice_place)
            .service(runs::open)
            .service(runs::set_closed)
            .service(runs::set_paused)
            .service(runs::set_photos)
            .service(runs::set_visits)
            .service(runs::name_run)
            .service(runs::archive_run)
            .service(runs::delete_run)
            .service(runs::join_code)
            .service(people::show_people)
            .service(people::seat)
            .service(people::add_group)
            .service(people::allot)
            .service(people::place_at)
            .service(people::deal)
            .service(people::merge)
            .service(people::sign_out_devices)
            .service(devices::show_devices)
            .service(devices::take_device_out)
            .service(group_page::show_group)
            .service(group_page::tell)
            .service(entries::enter_for)
            .service(entries::borrow)
            .service(pictures::group_photo)
            .service(pictures::drop_group_photo)
            .service(on_time::show_expected)
            .service(board::show_board)
            .service(check::show_check)
            .service(check::show_worked)
            .service(check::rule)
            .service(check::give_back)
            .service(export::export_table)
            .service(export::export_xlsx)
            .service(export::export_ods)
            .service(export::export_one)
            .service(live::run_events)
            .service(scope("/compute").app_data(questions).service(compute::ask))
            .service(handbook::elements)
            .service(handbook::show_glassware)
            .service(handbook::show_methods)
            .service(handbook::show_substances)
            .service(join::look_up)
            .service(join::claim)
            .service(join::leave)
            .service(bench::show_bench)
            .service(bench::show_instrument)
            .service(entries::enter)
            .service(pictures::take_photo)
            .service(pictures::own_photo)
            .service(pictures::drop_own_photo)
            .service(live::bench_events),
    );
}

/// The document of the interface, from the types themselves.
#[derive(OpenApi)]
#[openapi(
    info(title = "Keen Beaker", description = "The interface between the server and its own pages."),
    paths(
        session::who,
        session::create_first_account,
        session::sign_in,
        session::sign_out,
        session::add_colleague,
        session::change_passphrase,
        accounts::show_accounts,
        accounts::sign_out_elsewhere,
        accounts::reset_passphrase,
        accounts::close_account,
        keeping::show_keeping,
        keeping::back_up_now,
        keeping::examine_now,
        keeping::put_back,
        record::search::search,
        record::student::show_student,
        record::afterwards::show_afterwards,
        record::afterwards::sign_off,
        record::afterwards::note_next_time,
        record::afterwards::keep_product,
        classes::show_classes,
        classes::make_class,
        classes::enrol,
        classes::erase_person,
        classes::rename_person,
        classes::rename_class,
        classes::delete_class,
        classes::erase_everybody,
        classes::share_class,
        classes::keep_names,
        shelf::show_shelf,
        begin::ask_to_begin,
        plan::show_plan,
        plan::show_versions,
        plan::download,
        plan::archive_practical,
        plan::delete_practical,
        plan::show_techniques,
        plan::show_instruments,
        drafts::begin,
        drafts::change_draft,
        drafts::publish,
        week::show_week,
        preparing::show_as_if,
        preparing::show_preparation,
        preparing::choose_preparation,
        preparing::tick,
        on_time::show_expected,
        bottles::make_bottle,
        bottles::show_bottle,
        bottles::show_found,
        bottles::standardise,
        calendar::show_calendar,
        calendar::keep_calendar,
        calendar::read_calendar,
        stock::show_stock,
        stock::put_on_shelf,
        stock::count_stock,
        stock::take_off_shelf,
        stock::import_stock,
        whole::import_whole,
        import::read_spreadsheet,
        import::import_cells,
        practice::problems::show_practice,
        practice::problems::show_problem,
        practice::problems::judge_problem,
        practice::problems::work_problem,
        practice::problems::show_slip,
        practice::problems::name_slip,
        practice::glass::at_the_burette,
        practice::glass::at_the_balance,
        practice::glass::at_the_scales,
        rehearsals::show_rehearsals,
        rehearsals::show_rehearsal,
        rehearsals::rehearse,
        rehearsals::set_pace,
        runs::open,
        runs::set_closed,
        runs::set_paused,
        runs::set_photos,
        runs::set_visits,
        runs::name_run,
        runs::archive_run,
        runs::delete_run,
        people::show_people,
        people::seat,
        people::add_group,
        people::allot,
        people::place_at,
        people::deal,
        people::merge,
        people::sign_out_devices,
        devices::show_devices,
        devices::take_device_out,
        group_page::show_group,
        group_page::tell,
        entries::enter_for,
        entries::borrow,
        pictures::take_photo,
        pictures::drop_own_photo,
        pictures::drop_group_photo,
        board::show_board,
        check::show_check,
        check::show_worked,
        check::rule,
        check::give_back,
        compute::ask,
        handbook::elements,
        handbook::show_glassware,
        handbook::show_methods,
        handbook::show_substances,
        join::look_up,
        join::claim,
        join::leave,
        bench::show_bench,
        bench::show_instrument,
        entries::enter,
        bottles::bottle_code,
        calendar::export_calendar,
        export::export_table,
        export::export_xlsx,
        export::export_ods,
        export::export_one,
        live::run_events,
        live::bench_events,
        pictures::own_photo,
        pictures::group_photo,
        runs::join_code,
        stock::export_stock,
        whole::export_whole,
        room::show_room,
        school::show_school,
        school::choose_school,
        room::put_into_room,
        room::take_out_of_room,
    ),
    components(schemas(crate::problem::Problem, views::Row, live::RunEvent))
)]
pub struct Document;

/// The document as it is committed.
pub fn document() -> String {
    let mut text = Document::openapi().to_pretty_json().expect("the document is plain data");
    text.push('\n');
    text
}

/// The JSON Schema (2020-12) of the practical file, from the same types: its part of the document, standing alone.
pub fn practical_schema() -> String {
    const ROOT: &str = "File";
    let document = serde_json::to_value(Document::openapi()).expect("the document is plain data");
    let all = &document["components"]["schemas"];
    let mut wanted = vec![ROOT.to_owned()];
    let mut next = 0;
    while let Some(name) = wanted.get(next).cloned() {
        references(&all[name.as_str()], &mut wanted);
        next += 1;
    }
    let definitions = wanted[1..].iter().map(|name| (name.clone(), all[name.as_str()].clone()));
    let mut schema = all[ROOT].clone();
    schema["$schema"] = "https://json-schema.org/draft/2020-12/schema".into();
    schema["title"] = "practical file, format 1.0".into();
    schema["$defs"] = serde_json::Value::Object(definitions.collect());
    let text = serde_json::to_string_pretty(&schema).expect("a schema is plain data");
    text.replace("#/components/schemas/", "#/$defs/") + "\n"
}

/// Names of the schemas that a schema refers to, each once.
fn references(schema: &serde_json::Value, into: &mut Vec<String>) {
    match schema {
        serde_json::Value::Object(fields) => {
            let own = fields.get("$ref").and_then(|r| r.as_str()?.strip_prefix("#/components/schemas/"));
            if let Some(name) = own.filter(|n| !into.iter().any(|known| known == n)) {
                into.push(name.to_owned());
            }
            fields.values().for_each(|f| references(f, into));
        }
        serde_json::Value::Array(items) => items.iter().for_each(|i| references(i, into)),
        _ => {}
    }
}

#[cfg(test)]
mod tests {
    #[test]
    fn the_committed_schema_of_the_practical_file_is_that_of_the_types() {
        let committed = include_str!("../../../../docs/practical.schema.json");
        assert!(super::practical_schema() == committed, "practical.schema.json is stale: run `cargo xtask types`");
    }

    #[test]
    fn the_committed_document_is_that_of_the_types() {
        let committed = include_str!("../../../../openapi.json");
        assert!(super::document() == committed, "openapi.json is stale: run `cargo xtask types`");
    }
}
