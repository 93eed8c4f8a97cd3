//! What people practise on behaves as the real thing does.

use crate::{library, of_the_library};
use lab::bench::Answer;
use lab::check::Stands;
use lab::evaluated::{Evaluated, ResultState};
use practical::slip::Slip;
use simulate::glass::{BalanceAct, Flask, MeniscusTask, Pan, Titrating, TitrationAct, Weighing, judged, menisci};
use simulate::{ClassAtWork, Problem, class, titrating};
use std::collections::{BTreeMap, BTreeSet};

/// Runs in until shortly before where it should end, then by half drops, swirling.
fn carefully(titrating: &Titrating, about: f64) -> Vec<TitrationAct> {
    let mut acts =
        vec![TitrationAct::Fill, TitrationAct::RunOff { seconds: 2.0 }, TitrationAct::Wait { seconds: 30.0 }];
    acts.push(TitrationAct::Run { seconds: (about - 1.0) / 0.8 });
    acts.push(TitrationAct::Swirl);
    while titrating.after(&acts).flask == Flask::Before {
        assert!(acts.len() < 200, "it never turns");
        acts.extend([TitrationAct::SplitDrop, TitrationAct::Swirl]);
    }
    acts.push(TitrationAct::Wait { seconds: 60.0 });
    acts
}

fn by_hand(id: &str, seed: u64) -> (Problem, Titrating) {
    let practical = of_the_library(id);
    let problem = Problem::by_hand(&practical, seed).unwrap();
    (problem, titrating(&practical, seed, 1).unwrap())
}

#[test]
fn a_careful_hand_stops_within_a_drop_of_the_end_point_at_any_titration_that_can_be_practised() {
    for id in ["vinegar", "sodium-hydroxide-standard", "hydrochloric-acid-standard", "antacid"] {
        for seed in 0..8 {
            let (_, titrating) = by_hand(id, seed);
            let acts = carefully(&titrating, titrating.end_point());
            let start = titrating.after(&acts[..3]).level;
            let told = titrating.told(&acts, titrating.after(&acts).level - start);
            assert!((0.0..0.06).contains(&(told.delivered - told.end_point)), "{id} {seed}: {told:?}");
            assert!((told.read - told.delivered).abs() < 0.01, "{id} {seed}: what runs out is what is read: {told:?}");
            assert_eq!(titrating.after(&acts).flask, Flask::First, "{id} {seed}");
        }
    }
}

/// Against what can be said without the curve: half neutralised, a weak acid stands at its pKa; a strong acid with a tenth
/// left at its own concentration.
#[test]
fn the_flask_follows_the_curve() {
    let vinegar = of_the_library("vinegar");
    let curve = vinegar.file.titres[0].curve().unwrap();
    assert!((curve.ph_at(0.0105, 0.021) - 4.76).abs() < 0.02);
    let antacid = of_the_library("antacid");
    let curve = antacid.file.titres[0].curve().unwrap();
    let left: f64 = 0.2 * 0.1 * 0.020 / (0.075 + 0.018);
    assert!((curve.ph_at(0.018, 0.020) + left.log10()).abs() < 0.001);
    let soda = of_the_library("hydrochloric-acid-standard");
    let curve = soda.file.titres[0].curve().unwrap();
    assert!((curve.ph_at(0.0125, 0.025) - f64::midpoint(6.35, 10.33)).abs() < 0.05, "hydrogencarbonate");
    assert!(curve.turned(0.0245, 0.025) < 0.1 && curve.turned(0.0255, 0.025) > 0.5);
}

#[test]
fn a_bubble_a_quick_stream_and_a_flask_at_rest_show_as_they_do() {
    let bubbly = (0..40).map(|s| by_hand("vinegar", s).1).find(|t| t.after(&[TitrationAct::Fill]).air).unwrap();
    let straight = [TitrationAct::Fill, TitrationAct::Run { seconds: 5.0 }, TitrationAct::Wait { seconds: 90.0 }];
    let fallen = bubbly.after(&straight).level - bubbly.after(&straight[..1]).level;
    let told = bubbly.told(&straight, fallen);
    assert!(told.read - told.delivered > 0.07, "the bubble was read and did not run in: {told:?}");
    let away = [TitrationAct::Fill, TitrationAct::RunOff { seconds: 2.0 }];
    assert!(!bubbly.after(&away).air);

    let run = |wait| {
        bubbly.after(&[away[0], away[1], TitrationAct::Run { seconds: 10.0 }, TitrationAct::Wait { seconds: wait }])
    };
    assert!(run(0.0).level - run(60.0).level > 0.02, "the wall drains");
    let drop = [straight[0], TitrationAct::Drop];
    assert!(bubbly.after(&drop).flash > 0.9);
    assert!(bubbly.after(&[drop[0], drop[1], TitrationAct::Swirl]).flash < 0.01);
    // A tap that is left open runs the burette dry, and no further; nonsense does nothing.
    let open = [TitrationAct::Fill, TitrationAct::Run { seconds: 1e9 }, TitrationAct::Run { seconds: f64::NAN }];
    let seen = bubbly.after(&open);
    assert!(seen.empty && seen.level <= 50.0 && seen.flask == Flask::Past);
    assert!(bubbly.after(&[TitrationAct::Drop]).empty, "nothing was filled in");
}

#[test]
fn what_is_hot_reads_low_and_climbs_a_draught_never_rests_and_a_difference_is_right() {
    for seed in 0..20 {
        let balance = Weighing::at(seed);
        let put = |what, seconds: f64| [BalanceAct::Put { what }, BalanceAct::Wait { seconds }];
        let shows = |acts: &[BalanceAct]| balance.after(acts).text.parse::<f64>().unwrap();
        let (hot, cold) = (shows(&put(Pan::HotCrucible, 5.0)), shows(&put(Pan::HotCrucible, 600.0)));
        let mut clean = vec![BalanceAct::Brush, BalanceAct::Wait { seconds: 10.0 }, BalanceAct::Tare];
        clean.extend(put(Pan::HotCrucible, 600.0));
        clean.extend([BalanceAct::Wait { seconds: 600.0 }]);
        assert!(cold - hot > 0.01 && (shows(&clean) - balance.mass(Pan::HotCrucible)).abs() < 0.0015);

        let full = shows(&put(Pan::FullBoat, 10.0));
        let mut then = put(Pan::FullBoat, 10.0).to_vec();
        then.push(BalanceAct::TakeOff);
        then.extend(put(Pan::EmptyBoat, 10.0));
        let really = balance.mass(Pan::FullBoat) - balance.mass(Pan::EmptyBoat);
        assert!((full - shows(&then) - really).abs() < 0.0021, "what lies on the pan goes out of a difference");
        assert!(balance.after(&then).stable);
        let mut windy = vec![BalanceAct::Doors { open: true }];
        windy.extend(put(Pan::FullBoat, 30.0));
        assert!(!balance.after(&windy).stable);
        assert_eq!(balance.after(&[BalanceAct::Wait { seconds: f64::INFINITY }]), balance.after(&[]));
    }
}

#[test]
fn scales_lie_between_their_marks_and_a_reader_is_told_bias_and_scatter() {
    let tasks = menisci(3, 400);
    assert_eq!(tasks, menisci(3, 400));
    let shown = |t: &MeniscusTask, by: f64| format!("{:.*}", t.decimals as usize, t.stands + by * t.division);
    for t in &tasks {
        assert!(t.stands > 0.0 && t.stands < t.capacity && t.eye.abs() <= 1.0, "{t:?}");
        // From above a burette seems to hold more: it reads less.
        assert_eq!(t.parallax < 0.0, t.zero_at_top);
    }
    let exact = judged(&tasks, &tasks.iter().map(|t| shown(t, 0.0)).collect::<Vec<_>>());
    assert!(exact.bias.abs() < 1e-9 && exact.scatter.unwrap() < 1e-9 && exact.decimals_right.iter().all(|r| *r));
    let high = judged(&tasks, &tasks.iter().map(|t| shown(t, 0.5)).collect::<Vec<_>>());
    assert!((high.bias - 0.5).abs() < 0.02 && high.scatter.unwrap() < 0.06);
    let odd = judged(&tasks[..3], &["no number".into(), "12".into()]);
    assert_eq!(odd.off.len(), 2);
    assert!(odd.off[0].is_none() && !odd.decimals_right[1]);
}

/// Whatever the practical: what follows from its readings is right, and a slip that is to be found can be told.
#[test]
fn any_practical_gives_problems_that_can_be_solved_and_slips_that_can_be_found() {
    let (mut sums, mut without) = (BTreeSet::new(), Vec::new());
    for practical in library() {
        for seed in 0..3 {
            let problem = Problem::of(&practical, seed);
            let bench = Evaluated::of(&problem.practical, &problem.entries);
            let mut asked = 0;
            for result in problem.asked().filter(|r| r.answer == practical::file::AnswerKind::Number) {
                let outcome = bench.outcome();
                let state = outcome.results.into_iter().find(|r| r.name == result.name).unwrap().state;
                let ResultState::Value(shown) = state else { panic!("{}", result.name) };
                let answer = Answer { text: shown.text, unit: result.unit.written().to_owned() };
                let verdict =
                    bench.checked(&BTreeMap::from([(result.name.clone(), answer)])).remove(&result.name).unwrap();
                assert_eq!(verdict.stands, Stands::Right, "{} {}", practical.file.id, result.name);
                asked += 1;
            }
            let Some(sum) = problem.wrong_sum() else {
                if asked > 0 {
                    without.push(format!("{} {seed}", practical.file.id));
                }
                continue;
            };
            assert_eq!(sum.verdict.stands, Stands::Wrong, "{}: {sum:?}", practical.file.id);
            let told = |s: &Slip| sum.verdict.diagnosis.named.iter().any(|e| e.slip == *s);
            assert!(told(&sum.made.slip));
            assert_eq!(sum.choices.iter().filter(|s| told(s)).count(), 1, "{:?}", sum.choices);
            sums.insert(sum.made.slip);
        }
    }
    assert!(sums.len() >= 8, "{sums:?}");
    assert!(without.len() <= 6, "no slip can be told in {without:?}");
}

#[test]
fn a_class_works_side_by_side_and_its_wrong_sums_are_those_of_the_catalogue() {
    let vinegar = of_the_library("vinegar");
    let how = ClassAtWork { groups: 8, seed: 5, slips_at_bench: 0.0, slips_in_sums: 0.5 };
    let said = class(&vinegar, how);
    assert_eq!(said, class(&vinegar, how));
    assert!(said.is_sorted_by_key(|(_, s)| s.at));
    assert_eq!(said.iter().map(|(group, _)| *group).collect::<BTreeSet<_>>().len(), 8);
    let last: BTreeMap<usize, i64> = said.iter().map(|(group, s)| (*group, s.at)).collect();
    assert!(last.values().collect::<BTreeSet<_>>().len() > 4, "nobody is as slow as the next: {last:?}");

    let (mut right, mut named, mut wrong) = (0, 0, 0);
    for group in 0..8 {
        let mut entries = lab::bench::Entries::default();
        for (_, s) in said.iter().filter(|(g, _)| *g == group) {
            entries.put(&s.entry, s.at * 1000, &lab::bench::Room::default());
        }
        for verdict in Evaluated::of(&vinegar, &entries).outcome().verdicts.values() {
            match verdict.stands {
                Stands::Right | Stands::CarriedForward | Stands::Written => right += 1,
                Stands::Wrong if !verdict.diagnosis.named.is_empty() => named += 1,
                Stands::Wrong => wrong += 1,
                Stands::Open => {}
            }
        }
    }
    assert!(right >= 8 && named >= 4 && wrong <= named, "{right} right, {named} named, {wrong} not");
}
