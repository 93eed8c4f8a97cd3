//! The school's calendar: by hand, over weekends, half terms and the night in which the clocks change.

use crate::lessons::steps;
use jiff::Timestamp;
use practical::Allotted;
use prepare::calendar::{
    CalendarFault, DaysOff, Meeting, NoSchool, Period, Return, ReturnStands, SchoolCalendar, SchoolDay, Slot, Use,
    clashes, returns, uses_of,
};
use prepare::schedule::Effort;
use prepare::{ForClass, preparation};

const MINUTE: i64 = 60_000;

/// Five bells a day and a half term, on the clocks of Lisbon.
fn school() -> SchoolCalendar {
    let period = |name: &str, from: &str, minutes| Period { name: name.into(), from: from.parse().unwrap(), minutes };
    SchoolCalendar {
        periods: vec![
            period("1", "08:50", 50),
            period("2", "09:45", 50),
            period("3", "10:50", 50),
            period("4", "11:45", 50),
            period("5", "13:30", 50),
        ],
        days_off: vec![DaysOff {
            name: "half term".into(),
            from: "2027-02-15".parse().unwrap(),
            to: "2027-02-19".parse().unwrap(),
        }],
        ..SchoolCalendar::unsaid("Europe/Lisbon".into())
    }
}

fn at(text: &str) -> i64 {
    text.parse::<Timestamp>().unwrap().as_millisecond()
}

/// What follows for two groups that heat for ten minutes and let it stand, from lessons of 50 minutes at these times.
fn waiting(wait: &str, meetings: &[&str]) -> Vec<Return> {
    let practical = steps(&format!(
        "[[steps]]\ntitle = \"Leave it\"\ntext = \"x\"\nminutes = [10, 10]\nwait = \"{wait}\"\n\
         [[steps]]\ntitle = \"Go on\"\ntext = \"x\"\nminutes = [5, 5]\n"
    ));
    let class = ForClass { groups: vec![Allotted::default(); 2], lessons: vec![50], ..ForClass::default() };
    let lessons = preparation(&practical, &class, Effort::Quick).time.lessons;
    let meetings: Vec<Meeting> = meetings.iter().map(|m| Meeting { begins_at: at(m), minutes: 50 }).collect();
    returns(&lessons, &meetings, &school(), meetings[0].begins_at)
}

fn slot(begins: &str, first: &str) -> Slot {
    Slot { begins_at: at(begins), minutes: 50, first: first.into(), last: None }
}

/// Friday to Monday over the night of 28 March: the clocks go on, the bell rings an hour earlier, and 72 h are still 72 h.
#[test]
fn a_wait_over_the_change_of_the_clocks_is_as_long_as_it_is() {
    let usual = waiting("at least 71 h", &["2027-03-12T10:50:00Z", "2027-03-15T10:50:00Z"]);
    assert_eq!(usual[0].stands, ReturnStands::Fits);
    assert_eq!((usual[0].ready_at, usual[0].latest_at), (at("2027-03-15T10:00:00Z"), None));
    assert_eq!(usual[0].could, []);

    // The same bell, 10:50 in Lisbon, is 9:50 UTC after the change.
    let changed = waiting("at least 71 h", &["2027-03-26T10:50:00Z", "2027-03-29T09:50:00Z"]);
    assert_eq!(changed[0].stands, ReturnStands::TooEarly);
    assert_eq!(
        changed[0].could,
        [slot("2027-03-29T10:45:00Z", "4"), slot("2027-03-29T12:30:00Z", "5"), slot("2027-03-30T07:50:00Z", "1")]
    );
}

/// From Thursday on for one to three days: Friday would do, Monday is too late, and before half term there is no other day.
#[test]
fn a_lesson_is_found_over_weekends_and_half_terms() {
    let first = "2027-02-11T10:50:00Z";
    let of = |next: &[&str]| waiting("20 to 72 h", &[&[first], next].concat()).remove(0);
    let open = of(&[]);
    assert_eq!(open.stands, ReturnStands::NotPlanned);
    // Both are through by 11:00.
    assert_eq!((open.ready_at, open.latest_at), (at("2027-02-12T07:00:00Z"), Some(at("2027-02-14T11:00:00Z"))));
    assert_eq!(open.could.first(), Some(&slot("2027-02-12T08:50:00Z", "1")));
    assert_eq!(of(&["2027-02-12T09:45:00Z"]).stands, ReturnStands::Fits);
    assert_eq!(of(&["2027-02-22T09:45:00Z"]).stands, ReturnStands::TooLate);
    let off = NoSchool::DayOff { name: "half term".into() };
    assert_eq!(of(&["2027-02-15T09:45:00Z"]).stands, ReturnStands::Closed { why: off });
    // What may stay longer comes after half term.
    let long = waiting("at least 3 days", &[first]).remove(0);
    assert_eq!(long.could.first(), Some(&slot("2027-02-22T08:50:00Z", "1")));
    // A wait within a lesson returns nowhere.
    assert_eq!(waiting("10 min", &[first]), []);
}

/// Two periods with five minutes between are one lesson, over the long break they are not.
#[test]
fn periods_are_joined_over_a_short_break_only() {
    let (from, to) = (at("2027-02-01T00:00:00Z"), at("2027-02-01T23:59:00Z"));
    let of = |minutes| school().slots(from, to, minutes, 9);
    let named = |slots: Vec<Slot>| slots.into_iter().map(|s| (s.first, s.last, s.minutes)).collect::<Vec<_>>();
    assert_eq!(of(50).len(), 5);
    let double = |a: &str, b: &str, minutes| (a.to_owned(), Some(b.to_owned()), minutes);
    assert_eq!(named(of(90)), [double("1", "2", 105), double("2", "3", 115), double("3", "4", 105)]);
    assert_eq!(of(300), []);
    // A Saturday has no lessons, and says why.
    let saturday = at("2027-02-06T10:00:00Z");
    assert_eq!(school().closed(saturday), Some(NoSchool::NoLessons { day: SchoolDay::Saturday }));
    assert_eq!(school().closed(from), None);
}

#[test]
fn a_calendar_that_nobody_can_go_by_is_refused_with_what_is_wrong() {
    let told = |change: fn(&mut SchoolCalendar)| {
        let mut calendar = school();
        change(&mut calendar);
        calendar.sound().map_err(|fault| fault.to_string())
    };
    assert_eq!(told(|_| ()), Ok(()));
    let refused = |change: fn(&mut SchoolCalendar)| told(change).unwrap_err();
    assert!(refused(|c| c.zone = "Moon/Tycho".into()).contains("'Moon/Tycho' is no time zone"));
    assert!(refused(|c| c.school_days.clear()).contains("one day of the week"));
    assert_eq!(refused(|c| c.periods[1].minutes = 70), "period 3 begins before period 2 is over");
    assert_eq!(refused(|c| c.periods[4].minutes = 0), "period 5 lasts 1 to 600 minutes");
    assert!(refused(|c| c.days_off[0].to = "2027-02-01".parse().unwrap()).contains("before it begins"));
    let many = |c: &mut SchoolCalendar| c.days_off = vec![c.days_off[0].clone(); 401];
    assert!(refused(many).contains("at most 400 days off, and these are 401"));
    let mut endless = school();
    endless.periods = (0..21).map(|_| school().periods[0].clone()).collect();
    assert_eq!(endless.sound(), Err(CalendarFault::TooMany { what: "periods", most: 20, there: 21 }));
    // A moment beyond any calendar is on no day, and no lesson.
    assert_eq!((school().closed(i64::MAX), school().slots(i64::MIN, i64::MAX, 50, 3)), (None, vec![]));
}

/// One balance, used by one class from minute 0 to 40, by another from a quarter of an hour later.
#[test]
fn two_classes_at_one_thing_are_told_only_where_there_is_not_enough_of_it() {
    let practical = steps("[[steps]]\ntitle = \"Weigh\"\ntext = \"x\"\nminutes = [10, 10]\nuses = [\"balance\"]\n");
    let uses = |run, begins_at, balances: u32| -> Vec<Use> {
        let class = ForClass {
            groups: vec![Allotted::default(); 4],
            resources: [("balance".to_owned(), balances)].into(),
            lessons: vec![90],
            ..ForClass::default()
        };
        let lessons = preparation(&practical, &class, Effort::Quick).time.lessons;
        uses_of(run, &lessons[0], Meeting { begins_at, minutes: 90 })
    };
    let both = |later: i64, balances| clashes(&[uses(7, later * MINUTE, balances), uses(3, 0, balances)].concat());
    let clash = &both(15, 1)[0];
    assert_eq!((clash.runs, clash.groups, clash.places), ([3, 7], 2, 1));
    assert_eq!((clash.from, clash.to), (15 * MINUTE, 40 * MINUTE));
    assert_eq!(both(40, 1), []);
    // Eight balances are enough for both; the same run's own turns are no clash.
    assert_eq!(both(0, 8), []);
    assert_eq!(clashes(&[uses(3, 0, 1), uses(3, 0, 1)].concat()), []);
}
