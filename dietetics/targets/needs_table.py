"""Who needs what: the rows of `tables/needs.toml`, which say what a condition, an age, a weight or
a stage of life does to targets. Code asks the rows and knows no kind of person by itself.
"""

from __future__ import annotations

import tomllib
from collections.abc import Iterable, Iterator, Mapping
from functools import lru_cache

from msgspec import Struct, convert, structs

from dietetics.composition.foods import TABLES
from dietetics.targets.person import Person

HOLD, ASK = "hold", "ask"  # a deficit: none without a clinician's note; or a note is asked for
NONE, ADVISED = "none", "advised"  # energy: no target of ours; or one that is not required
MARKS = ("from memory", "common practice", "published")


class When(Struct, frozen=True, forbid_unknown_fields=True, rename={"and_": "and"}):
    """When a row holds: everything that is named must be so."""

    conditions: frozenset[str] = frozenset()
    and_: frozenset[str] = frozenset()
    without: frozenset[str] = frozenset()
    age_from: float | None = None
    age_to: float | None = None
    bmi_from: float | None = None
    bmi_to: float | None = None
    loss_from: float | None = None
    unintended: bool | None = None
    eats_little_from: float | None = None
    stage: str | None = None
    appetite: str | None = None
    goal: str | None = None
    pregnancy_week_from: float | None = None
    thin_for_age: bool | None = None
    two_of: tuple[When, ...] = ()

    def holds(self, person: Person) -> bool:
        """Whether it is so of a person."""
        return (
            self._having(person)
            and self._measured(person)
            and self.stage in (None, person.stage)
            and self.appetite in (None, person.appetite)
            and self.goal in (None, person.goal)
            and (not self.two_of or sum(sign.holds(person) for sign in self.two_of) > 1)
        )

    def _having(self, person: Person) -> bool:
        having = person.conditions
        return (
            (not self.conditions or bool(self.conditions & having))
            and (not self.and_ or bool(self.and_ & having))
            and not self.without & having
        )

    def _measured(self, person: Person) -> bool:
        lost, little = person.loss_percent, person.eats_little_days
        return (
            (self.age_from is None or person.age_years >= self.age_from)
            and (self.age_to is None or person.age_years < self.age_to)
            and (self.bmi_from is None or person.bmi >= self.bmi_from)
            and (self.bmi_to is None or person.bmi < self.bmi_to)
            and (self.loss_from is None or (lost is not None and lost >= self.loss_from))
            and (not self.unintended or person.loss_unintended)
            and (
                self.eats_little_from is None
                or (little is not None and little >= self.eats_little_from)
            )
            and (not self.thin_for_age or person.bmi < person.bmi_least)
            and (
                self.pregnancy_week_from is None
                or (person.pregnancy_week or self.pregnancy_week_from) >= self.pregnancy_week_from
            )
        )


class RowWindow(Struct, frozen=True, forbid_unknown_fields=True):
    """A window that a row sets in the place of the usual one; without a side only its importance
    changes.
    """

    key: str
    low: float | None = None
    high: float | None = None
    importance: str = "should"


class Row(Struct, frozen=True, forbid_unknown_fields=True):
    """One kind of person: when, what it does, what is said, and on whose word."""

    key: str
    who: str
    when: When
    source: str = ""
    mark: str = ""
    same_as: str = ""
    deficit: str = ""
    energy: str = ""
    floor_kcal: float | None = None
    protein: tuple[float, float] | None = None
    protein_clinician: bool = False
    windows: tuple[RowWindow, ...] = ()
    asked: tuple[str, ...] = ()
    before_hand_over: tuple[str, ...] = ()
    caution: str = ""
    severity: str = ""
    ask: str = ""
    text: str = ""
    action: str = ""
    hides_numbers: bool = False

    @property
    def cited(self) -> str:
        """The source with how far it was looked at."""
        return (
            self.source
            if self.mark in ("published", self.source)
            else f"{self.source}, {self.mark}"
        )

    def who_words(self, person: Person) -> str:
        """What kind of person it is, with this person's own figures."""
        return self.who.format(**figures_of(person))


def figures_of(person: Person) -> dict[str, float]:
    """The figures of a person that the words of a row may speak of."""
    lost = person.loss_percent
    return {"bmi": person.bmi, "least": person.bmi_least, "loss": lost if lost is not None else 0.0}


@lru_cache(maxsize=1)
def rows() -> Mapping[str, Row]:
    """Every row by its key, in the table's order."""
    data = tomllib.loads((TABLES / "needs.toml").read_text(encoding="utf-8"))
    found: dict[str, Row] = {}
    for row in convert(data["row"], list[Row]):
        like = found[row.same_as] if row.same_as else row
        found[row.key] = structs.replace(
            like, key=row.key, who=row.who, when=row.when, same_as=row.same_as
        )
    return found


@lru_cache(maxsize=4096)
def rows_of(person: Person) -> tuple[Row, ...]:
    """The rows that hold for a person, in the table's order."""
    return tuple(row for row in rows().values() if row.when.holds(person))


def hides_numbers(conditions: Iterable[str]) -> bool:
    """Whether numbers can do harm, so that pages for the client show none of themselves."""
    have = set(conditions)
    return any(row.hides_numbers and row.when.conditions & have for row in rows().values())


def said_of(person: Person) -> Iterator[Row]:
    """The rows that hold and have something to say, each caution once."""
    said = set()
    for row in rows_of(person):
        if row.caution and row.caution not in said:
            said.add(row.caution)
            yield row


def row_of_caution(code: str) -> Row | None:
    """The first row that raises a caution; None for one of another kind."""
    return next((row for row in rows().values() if row.caution == code), None)


def energy_rule(person: Person) -> str:
    """What the rows say of energy: "none", "advised", or "" where it is required as usual."""
    said = {row.energy for row in rows_of(person)}
    return NONE if NONE in said else ADVISED if ADVISED in said else ""
