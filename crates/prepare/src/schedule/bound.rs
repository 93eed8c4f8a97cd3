//! What no plan can be shorter than.

use super::Bounded;

/// The longest of: a group that has the room to itself; each shared thing, kept busy without a gap from when it can first be
/// needed to when it is last needed.
pub(super) fn lower_bound(room: &Bounded) -> u32 {
    let alone = room.groups.iter().filter_map(|tasks| {
        let (head, last) = (Bounded::heads(tasks).last().copied()?, tasks.last()?);
        Some(head + last.minutes)
    });
    let shared = (0..room.capacities.len()).map(|resource| {
        let (mut load, mut head, mut tail) = (0u32, u32::MAX, u32::MAX);
        for tasks in &room.groups {
            let (heads, tails) = (Bounded::heads(tasks), Bounded::tails(tasks));
            for (i, task) in tasks.iter().enumerate().filter(|(_, t)| t.holds.contains(&resource)) {
                load += task.minutes;
                head = head.min(heads[i]);
                tail = tail.min(tails[i]);
            }
        }
        if load == 0 { 0 } else { head + load.div_ceil(room.capacities[resource]) + tail }
    });
    alone.chain(shared).max().unwrap_or(0)
}
