"""Who is not planned to lose weight: then the window is what the person needs, and the wanted
deficit is only named.

A clinician's note, dated and named, applies the deficit all the same. The reasons are rows of the
table of needs; their words stand there.
"""

from __future__ import annotations

from dietetics.targets.needs_table import ASK, HOLD, rows, rows_of
from dietetics.targets.person import Person


def hold_reasons(person: Person) -> tuple[str, ...]:
    """Keys of everything that forbids a deficit to this person without a clinician's note; none
    for most adults.
    """
    return tuple(row.key for row in rows_of(person) if row.deficit == HOLD)


def advised_against(person: Person) -> tuple[str, ...]:
    """Keys of what asks for a clinician's note before a deficit that is applied."""
    return tuple(row.key for row in rows_of(person) if row.deficit == ASK)


def reason_words(key: str, person: Person) -> str:
    """A reason in a few words, with the person's own figures: "a BMI of 19.4, under 20"."""
    return rows()[key].who_words(person)


def deficit_is_held(person: Person) -> bool:
    """True where a wanted deficit is not applied."""
    return person.goal == "lose" and person.deficit_note is None and bool(hold_reasons(person))
