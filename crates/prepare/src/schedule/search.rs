//! A shorter plan by constraint search, from a quick one.

use super::{Bounded, Starts, Timetable};
use pumpkin_conflict_resolvers::resolvers::ResolutionResolver;
use pumpkin_constraints as constraints;
use pumpkin_core::Solver;
use pumpkin_core::predicate;
use pumpkin_core::results::{ProblemSolution, SatisfactionResultUnderAssumptions};
use pumpkin_core::termination::TerminationCondition;
use pumpkin_core::variables::{DomainId, TransformableVariable};

/// Looks at whether to go on, for all tasks of all groups: about two seconds.
const PATIENCE: u64 = 2_000_000;
/// A room with more tasks than this is not searched: the quick plan stands.
const MOST_TASKS_IN_ALL: usize = 1_500;

/// The best that is found from `quick` on, with what was proved.
///
/// With a `part` of the patience: 1 for all of it.
pub(super) fn improved(room: &Bounded, quick: Starts, lower: u32, part: u64) -> Timetable {
    let makespan = quick.makespan(room);
    let tasks: usize = room.groups.iter().map(Vec::len).sum();
    if makespan <= lower || tasks > MOST_TASKS_IN_ALL {
        return quick.timetable(room, lower);
    }
    let Some(mut model) = Model::of(room, makespan - 1, lower) else { return quick.timetable(room, makespan) };
    let mut left = PATIENCE / part / tasks as u64;
    let (mut best, mut lower) = (quick, lower);
    // Halfway between what is proved and what is found, each with a part of what patience is left; at last one less than
    // what is found, with all of it.
    loop {
        let makespan = best.makespan(room);
        if makespan <= lower || left == 0 {
            return best.timetable(room, lower);
        }
        let halfway = lower + (makespan - 1 - lower) / 2;
        let last = halfway == makespan - 1;
        let mut patience = Patience(if last { left } else { left / 4 });
        let given = patience.0;
        let found = model.at_most(halfway, &mut patience);
        left -= given - patience.0;
        match found {
            Found::Plan(starts) => best = starts,
            Found::None => lower = halfway + 1,
            Found::NoneAtAll => return best.timetable(room, makespan),
            Found::Unknown if last => return best.timetable(room, lower),
            Found::Unknown => {
                // A solver that was stopped between two decisions takes no more questions: a new one is asked.
                let Some(anew) = Model::of(room, makespan - 1, lower) else { return best.timetable(room, makespan) };
                model = anew;
                let mut patience = Patience(left);
                match model.at_most(makespan - 1, &mut patience) {
                    Found::Plan(starts) => best = starts,
                    Found::None | Found::NoneAtAll => lower = makespan,
                    Found::Unknown => return best.timetable(room, lower),
                }
                left = patience.0;
            }
        }
    }
}

enum Found {
    Plan(Starts),
    /// None that is so short.
    None,
    /// None that is shorter than the quick one; after that the solver takes no more questions.
    NoneAtAll,
    Unknown,
}

struct Model {
    solver: Solver,
    starts: Vec<Vec<DomainId>>,
    makespan: DomainId,
}

impl Model {
    /// None where it is plain that no plan is so short.
    fn of(room: &Bounded, longest: u32, lower: u32) -> Option<Model> {
        let whole = |minutes: u32| i32::try_from(minutes).unwrap_or(i32::MAX / 4);
        let mut solver = Solver::default();
        let makespan = solver.new_bounded_integer(whole(lower), whole(longest));
        let mut starts: Vec<Vec<DomainId>> = Vec::new();
        for tasks in &room.groups {
            let (heads, tails) = (Bounded::heads(tasks), Bounded::tails(tasks));
            let mut own = Vec::new();
            for (i, task) in tasks.iter().enumerate() {
                let latest = longest.checked_sub(tails[i] + task.minutes).filter(|latest| *latest >= heads[i])?;
                own.push(solver.new_bounded_integer(whole(heads[i]), whole(latest)));
            }
            starts.push(own);
        }
        let tag = solver.new_constraint_tag();
        let at_most = |solver: &mut Solver, a: DomainId, b: DomainId, c: i32| {
            // a − b ≤ c
            let terms = vec![a.scaled(1), b.scaled(-1)];
            solver.add_constraint(constraints::less_than_or_equals(terms, c, tag)).post();
        };
        for (tasks, own) in room.groups.iter().zip(&starts) {
            for (i, pair) in own.windows(2).enumerate() {
                let task = &tasks[i];
                at_most(&mut solver, pair[0], pair[1], -whole(task.minutes + task.least));
                if let Some(most) = task.most {
                    at_most(&mut solver, pair[1], pair[0], whole(task.minutes + most));
                }
            }
            if let (Some(last), Some(task)) = (own.last(), tasks.last()) {
                at_most(&mut solver, *last, makespan, -whole(task.minutes));
            }
        }
        // Groups with the same to do are told apart by nothing but their order.
        for (pair, own) in room.groups.windows(2).zip(starts.windows(2)) {
            if pair[0] == pair[1] {
                for (a, b) in own[0].iter().zip(&own[1]) {
                    at_most(&mut solver, *a, *b, 0);
                }
            }
        }
        for (resource, capacity) in room.capacities.iter().enumerate() {
            let held = room.groups.iter().zip(&starts).flat_map(|(tasks, own)| tasks.iter().zip(own));
            let held: Vec<_> = held.filter(|(t, _)| t.minutes > 0 && t.holds.contains(&resource)).collect();
            if held.len() > *capacity as usize {
                let vars: Vec<DomainId> = held.iter().map(|(_, v)| **v).collect();
                let minutes: Vec<i32> = held.iter().map(|(t, _)| whole(t.minutes)).collect();
                let each = vec![1; held.len()];
                let all = constraints::cumulative(vars, minutes, each, whole(*capacity), tag);
                solver.add_constraint(all).post();
            }
        }
        (!solver.is_inconsistent()).then_some(Model { solver, starts, makespan })
    }

    fn at_most(&mut self, makespan: u32, patience: &mut Patience) -> Found {
        let most = i32::try_from(makespan).unwrap_or(i32::MAX);
        let mut brancher = self.solver.default_brancher();
        let mut resolver = ResolutionResolver::default();
        let objective = self.makespan;
        let wanted = [predicate![objective <= most]];
        match self.solver.satisfy_under_assumptions(&mut brancher, patience, &mut resolver, &wanted) {
            SatisfactionResultUnderAssumptions::Satisfiable(found) => {
                let solution = found.solution();
                let minute = |v: &DomainId| u32::try_from(solution.get_integer_value(*v)).unwrap_or(0);
                Found::Plan(Starts(self.starts.iter().map(|own| own.iter().map(minute).collect()).collect()))
            }
            SatisfactionResultUnderAssumptions::UnsatisfiableUnderAssumptions(_) => Found::None,
            SatisfactionResultUnderAssumptions::Unsatisfiable(_) => Found::NoneAtAll,
            SatisfactionResultUnderAssumptions::Unknown(_) => Found::Unknown,
        }
    }
}

/// So many looks, however long they take: the same room gives the same plan on any machine.
struct Patience(u64);

impl TerminationCondition for Patience {
    fn should_stop(&mut self) -> bool {
        self.0 = self.0.saturating_sub(1);
        self.0 == 0
    }
}
