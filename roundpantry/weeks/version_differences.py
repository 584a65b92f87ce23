"""What differs between two versions of a week, in words."""

from __future__ import annotations

from dietetics.amounts.weighing import amount_text
from dietetics.week.daynames import DAY_NAMES
from dietetics.week.plan import Cell, plan_of
from roundpantry.weeks.models import Week
from roundpantry.weeks.week_snapshot import snapshot_of


def differences(before: Week, after: Week) -> list[str]:
    """What stands elsewhere in the second of two versions."""
    one, two = plan_of(before.plan), plan_of(after.plan)
    names = {
        key: pot.name
        for week in (before, after)
        for key, pot in snapshot_of(week).available.pots.items()
    }
    words = []
    for d, m, cell in two.places():
        if m < len(one.meals) and d < len(one.days):
            old = one.cell(d, m)
            if (old.entries, old.skipped) != (cell.entries, cell.skipped):
                words.append(
                    f"{DAY_NAMES[d]} {two.meals[m].lower()}: {_named(old)} → {_named(cell)}"
                )
    for c in sorted({*one.cookings} ^ {*two.cookings}, key=lambda c: (c.day, c.batch)):
        when = DAY_NAMES[c.day] if c.day >= 0 else "the evening before"
        change, name = (
            "now" if c in two.cookings else "no longer",
            names.get(c.batch, "a batch that no longer exists"),
        )
        words.append(f"{when}: {change} {amount_text(c.pots)} × {name}")
    return words


def _named(cell: Cell) -> str:
    if cell.skipped:
        return "no meal"
    return (
        " and ".join(
            f"{'' if e.scale == 1 else f'{amount_text(e.scale)} × '}{e.name}" for e in cell.entries
        )
        or "nothing"
    )
