//! The room's time on practicals of the library, and on small ones that say what they mean.

use crate::{class, library};
use practical::Practical;
use prepare::lessons::{Lesson, Remedy, Then};
use prepare::replan::{GroupNow, Replan, Waits, replan};
use prepare::schedule::{Effort, NoPlan};
use prepare::{ForClass, preparation};

fn lessons(practical: &Practical, class: &ForClass) -> Vec<Lesson> {
    preparation(practical, class, Effort::Fair).time.lessons
}

/// A practical of nothing but steps.
pub fn steps(steps: &str) -> Practical {
    let text = format!(
        "format = \"1.1\"\nid = \"small\"\ntitle = \"Small\"\nkind = \"practical\"\nfinds = \"\"\nlevel = \"\"\nvisits = 1\n\
         [[resources]]\nname = \"balance\"\ncount = 1\ngroups = 1\n{steps}"
    );
    Practical::parse(&text).unwrap_or_else(|e| panic!("{e}"))
}

fn needed(practical: &Practical, groups: usize) -> u32 {
    lessons(practical, &class(practical, groups))[0].timetable.as_ref().unwrap().makespan
}

/// Four groups at one balance: for the whole of a step of 20 min, or for the 2 min that it says.
#[test]
fn a_thing_is_held_for_the_part_that_the_step_says() {
    let heat = |more: &str| {
        steps(&format!(
            "[[steps]]\ntitle = \"Heat, weigh\"\ntext = \"x\"\nminutes = [20, 20]\nuses = [\"balance\"]\n{more}"
        ))
    };
    assert_eq!(needed(&heat(""), 4), 80);
    assert_eq!(needed(&heat("held = { balance = \"2 min last\" }"), 4), 26);
    // First and last: the balance is needed twice by each, and never by two.
    assert_eq!(needed(&heat("held = { balance = \"2 min first and last\" }"), 4), 26);
    let told = |held: &str| {
        let text = format!("[[steps]]\ntitle = \"x\"\ntext = \"x\"\nminutes = [20, 20]\nuses = [\"balance\"]\n{held}");
        let text = format!(
            "format = \"1.1\"\nid = \"s\"\ntitle = \"S\"\nkind = \"k\"\nfinds = \"\"\nlevel = \"\"\nvisits = 1\n\
             [[resources]]\nname = \"balance\"\ncount = 1\ngroups = 1\n{text}"
        );
        Practical::parse(&text).unwrap_err().to_string()
    };
    assert!(told("held = { balance = \"a while\" }").contains("write '3 min first'"));
    assert!(told("held = { oven = \"3 min last\" }").contains("oven"));
}

/// A wait of a day is another lesson; one of ten minutes is waited for; what is weighed after the wait belongs to the next day.
#[test]
fn a_lesson_ends_where_something_waits_for_another_day() {
    let drying = |wait: &str| {
        steps(&format!(
            "[[steps]]\ntitle = \"Dry\"\ntext = \"x\"\nminutes = [10, 10]\nwait = \"{wait}\"\nuses = [\"balance\"]\n\
             held = {{ balance = \"3 min after the wait\" }}\n[[steps]]\ntitle = \"Go on\"\ntext = \"x\"\nminutes = [5, 5]\n"
        ))
    };
    let of = |wait: &str| {
        let practical = drying(wait);
        let class = class(&practical, 2);
        lessons(&practical, &class).iter().map(|l| l.pieces.len()).collect::<Vec<_>>()
    };
    assert_eq!(of("at least 1 day"), [1, 2]);
    assert_eq!(of("12 to 72 h"), [1, 2]);
    assert_eq!(of("10 min"), [3]);
    let practical = drying("10 min");
    // 10 min, a wait of 10, two weigh one after the other, 5 min.
    assert_eq!(needed(&practical, 2), 10 + 10 + 3 + 3 + 5);
}

/// A stopping point is a cut only where the lesson is too short for all.
#[test]
fn a_stopping_point_cuts_only_where_it_has_to() {
    let practical = steps(
        "[[steps]]\ntitle = \"One\"\ntext = \"x\"\nminutes = [40, 40]\nstopping_point = true\n\
         [[steps]]\ntitle = \"Two\"\ntext = \"x\"\nminutes = [40, 40]\n",
    );
    let of = |minutes| lessons(&practical, &ForClass { lessons: vec![minutes], ..class(&practical, 3) });
    assert_eq!(of(80).len(), 1);
    let cut = of(79);
    assert_eq!(cut.len(), 2);
    assert!(cut.iter().all(|l| l.timetable.as_ref().unwrap().makespan <= l.minutes && l.remedies.is_empty()));
    assert_eq!((&cut[0].then, &cut[1].then), (&Then::Rests, &Then::Done));
}

/// Twelve groups, two balances, gypsum: ten minutes too long; a third balance or larger groups would do. Eight groups fit.
#[test]
fn what_would_make_a_lesson_fit_is_told_and_nothing_else() {
    let gypsum = library("gypsum-water");
    let too_many = &lessons(&gypsum, &class(&gypsum, 12))[0];
    assert_eq!(too_many.timetable.as_ref().unwrap().makespan, 100);
    assert!(too_many.remedies.contains(&Remedy::More { resource: "balance".into(), count: 3, makespan: 88 }));
    assert!(too_many.remedies.iter().all(|r| match r {
        Remedy::SumsAfterwards { makespan } | Remedy::More { makespan, .. } | Remedy::FewerGroups { makespan, .. } =>
            *makespan <= 90,
    }));
    let fits = &lessons(&gypsum, &class(&gypsum, 8))[0];
    assert!(fits.timetable.as_ref().unwrap().makespan <= 90 && fits.remedies.is_empty());
}

/// What cannot wait: three groups whose precipitate is filtered within 5 min of heating, at one balance.
#[test]
fn chemistry_that_does_not_wait_is_kept_to() {
    let within = |most: &str| {
        steps(&format!(
            "[[steps]]\ntitle = \"Heat\"\ntext = \"x\"\nminutes = [10, 10]\n\
             [[steps]]\ntitle = \"Weigh hot\"\ntext = \"x\"\nminutes = [10, 10]\nuses = [\"balance\"]\n{most}"
        ))
    };
    let gaps = |practical: &Practical| {
        let lesson = lessons(practical, &class(practical, 3)).remove(0);
        let starts = lesson.timetable.unwrap().starts;
        starts.iter().map(|own| own[1] - own[0] - 10).max().unwrap()
    };
    assert!(gaps(&within("within = \"5 min\"")) <= 5);
    assert_eq!(needed(&within("within = \"5 min\""), 3), 40);
}

/// A room without what is needed has no plan, and says what is missing.
#[test]
fn none_of_what_is_needed_is_no_plan() {
    let gypsum = library("gypsum-water");
    let without = ForClass { resources: [("balance".to_owned(), 0)].into(), ..class(&gypsum, 8) };
    let lesson = lessons(&gypsum, &without).remove(0);
    assert!(lesson.timetable.is_none() && lesson.turns.is_empty());
    assert!(matches!(lesson.no_plan, Some(NoPlan::NoneOfIt { resource, .. }) if resource == "balance"));
    // Nobody at all is no trouble.
    let nobody = lessons(&gypsum, &class(&gypsum, 0)).remove(0);
    assert_eq!(nobody.timetable.unwrap().makespan, 0);
}

/// Everybody's turn: no unit is anybody else's at the same time, and no group waits at two.
#[test]
fn turns_do_not_overlap() {
    for id in ["epsom-salt", "strontium-sulfate", "benzylbenzamide", "zinc-iodide"] {
        let practical = library(id);
        for lesson in lessons(&practical, &class(&practical, 9)) {
            for a in &lesson.turns {
                let shared = lesson.shared.iter().find(|s| s.name == a.resource).unwrap();
                assert!((1..=shared.count).contains(&a.unit), "{id}: {a:?}");
                let then = lesson
                    .turns
                    .iter()
                    .filter(|b| b.resource == a.resource && b.unit == a.unit && (b.from..b.to).contains(&a.from));
                assert!(then.count() <= shared.serves as usize, "{id}: {a:?}");
            }
        }
    }
}

fn at(left: &[Vec<f64>]) -> Vec<GroupNow> {
    left.iter().map(|left| GroupNow { left: left.clone(), waits: Vec::new() }).collect()
}

/// Half of a titration of 28 min and the sums are left: 14 + 13 min, whatever other groups do at the balance.
#[test]
fn a_group_is_expected_by_what_it_has_left() {
    let practical = library("sodium-hydroxide-standard");
    let class = class(&practical, 2);
    let half = vec![0.0, 0.0, 0.0, 0.5, 1.0];
    let through = vec![0.0; 5];
    let through_in = |left: &[Vec<f64>]| replan(&practical, &class, 90, 90, &at(left)).unwrap().through;
    assert_eq!(through_in(&[half.clone(), through]), [14 + 13, 0]);
    let fresh = vec![1.0; 5];
    assert_eq!(through_in(&[half, fresh]), [27, 9 + 4 + 3 + 28 + 13]);
}

/// Three groups, one balance for 10 min each: two wait. Heating and weighing go together; the sums, after a stopping point, do
/// not press, and what dries till tomorrow not at all.
#[test]
fn a_class_that_is_late_is_told_who_waits_and_what_must_be_begun_when() {
    let practical = steps(
        "[[steps]]\ntitle = \"Weigh\"\ntext = \"x\"\nminutes = [10, 10]\nuses = [\"balance\"]\n\
         [[steps]]\ntitle = \"Heat\"\ntext = \"x\"\nminutes = [15, 15]\nwait = \"5 to 10 min\"\n\
         [[steps]]\ntitle = \"Filter\"\ntext = \"x\"\nminutes = [10, 10]\nstopping_point = true\n\
         [[steps]]\ntitle = \"Wash\"\ntext = \"x\"\nminutes = [5, 5]\nwait = \"at least 1 day\"\n\
         [[steps]]\ntitle = \"Weigh dry\"\ntext = \"x\"\nminutes = [5, 5]\n",
    );
    let class = class(&practical, 3);
    let after = |remaining, left: &[Vec<f64>]| replan(&practical, &class, 90, remaining, &at(left)).unwrap();
    let fresh = vec![1.0; 5];
    let Replan { through, queue, begin_by } = after(60, &[fresh.clone(), fresh.clone(), fresh.clone()]);
    let waits = |w: &Waits| (w.resource.clone(), w.until);
    assert_eq!(queue.iter().map(waits).collect::<Vec<_>>(), [("balance".to_owned(), 10), ("balance".to_owned(), 20)]);
    assert_eq!(through.iter().max(), Some(&(20 + 10 + 15 + 5 + 10 + 5)));
    // 10 + 15 + 5 + 10 min to the stopping point; 5 min of washing to the night. Nothing of tomorrow.
    let told: Vec<_> = begin_by.iter().map(|b| (b.title.as_str(), b.at, b.groups.len())).collect();
    assert_eq!(told, [("Weigh", 60 - 40, 3), ("Wash", 60 - 5, 3)]);

    // One is in the middle of it and has begun it; the others are too late by 10 min.
    let heating = vec![0.0, 0.5, 1.0, 1.0, 1.0];
    let late = after(30, &[heating, fresh.clone(), fresh]);
    assert_eq!((late.begin_by[0].at, late.begin_by[0].groups.as_slice()), (-10, [1, 2].as_slice()));
    // On the next day, only what is left of it.
    let tomorrow = after(90, &[vec![0.0, 0.0, 0.0, 0.0, 1.0]]);
    assert_eq!((tomorrow.through, tomorrow.begin_by[0].title.as_str()), (vec![5], "Weigh dry"));
    // It dries since this morning: ready in 20 min, it is weighed then; ready tomorrow, today nothing is left to do.
    let drying = |minutes| {
        let now = GroupNow { left: vec![0.0, 0.0, 0.0, 0.0, 1.0], waits: vec![(4, minutes)] };
        let plan = replan(&practical, &class, 90, 60, &[now]).unwrap();
        (plan.through, plan.begin_by.len())
    };
    assert_eq!((drying(20), drying(60), drying(61)), ((vec![25], 1), (vec![65], 1), (vec![0], 0)));
}
