"""Changes of state that a balance makes: portions applied, a fix applied. Solved first, stored
afterwards.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from dietetics.balance.answer import IMPOSSIBLE, SECONDS, Answer, balance
from dietetics.balance.conflict import amount_words
from dietetics.errors import DieteticsError
from dietetics.nutrients import nutrient
from roundpantry.bowls import services
from roundpantry.bowls.balance_question import bowl_question_of
from roundpantry.bowls.models import Bowl, BowlChange, BowlPart
from roundpantry.bowls.records import bowls_of, part_fields, snapshot
from roundpantry.counter.state_changes import one_change
from roundpantry.targets.records import clinicians_keys

FIRST_SECONDS = (
    0.3  # a good answer is shown by then; where it is not proven, the proof is asked for at once
)


@dataclass(frozen=True)
class Turned:
    """A part that a balance changed: its name, the portion before and after."""

    name: str
    before: str
    after: str


@dataclass(frozen=True)
class Balanced:
    """What came of a balance: the answer, what it changed, and whether that was stored."""

    answer: Answer
    turned: tuple[Turned, ...]
    stored: bool


def again(bowl: Bowl) -> Bowl:
    """The bowl as it is stored now."""
    return bowls_of(bowl.client.practitioner).get(pk=bowl.pk)


def turned_by(bowl: Bowl, answer: Answer) -> tuple[Turned, ...]:
    """What an answer changes in the bowl as it stands."""
    found = []
    for row, part, amount in zip(
        bowl.parts.all(), answer.question.parts, answer.amounts, strict=True
    ):
        if abs(amount - row.amount) > 1e-9:
            after = (
                amount_words(part, amount)
                if amount
                else f"removed:  {part.kept_out or 'not needed'}"
            )
            found.append(Turned(part.name, row.amount_text, after))
    return tuple(found)


def balance_bowl(bowl: Bowl, seconds: float = SECONDS, even_impossible: bool = False) -> Balanced:
    """Balance a bowl and store the portions; where a must cannot be met nothing is stored unless
    that is wanted.

    Raises DieteticsError where there is nothing to balance.
    """
    seen = snapshot(bowl)
    answer = balance(bowl_question_of(bowl), seconds)
    changes = turned_by(bowl, answer)
    store = bool(changes) and (answer.status != IMPOSSIBLE or even_impossible)
    if store:
        _store(bowl, seen, answer)
    return Balanced(answer, changes, store)


@one_change
def _store(bowl: Bowl, seen: list[dict[str, object]], answer: Answer) -> None:
    """Store an answer for the bowl as it was `seen` when it was balanced. Raises `bowl-moved-on`
    where it is another by now.
    """
    rows = list(bowl.parts.all())
    before = snapshot(bowl)
    if before != seen:
        raise DieteticsError("bowl-moved-on")
    changed: list[BowlPart] = []
    gone: list[BowlPart] = []
    for row, part, amount in zip(rows, answer.question.parts, answer.amounts, strict=True):
        if abs(amount - row.amount) <= 1e-9:
            continue
        if not amount:
            gone.append(row)
            continue
        reading = services.read_amount(bowl, row, f"{amount:.6g} {part.unit.replace(',', '')}")
        for name, value in {
            **part_fields(reading),
            "chosen": part.prefer,
            "served_g": None,
        }.items():
            setattr(row, name, value)
        changed.append(row)
    services.remember(bowl, before, "balanced")
    for row in changed:
        row.save()
    for row in gone:
        row.delete()


@one_change
def one_step(bowl: Bowl, what: str, action: Callable[[], None]) -> None:
    """Run several changes as one that is taken back at once. Nobody else writes meanwhile, also
    while it is balanced anew.
    """
    before, moved = snapshot(bowl), list(bowl.moved)
    newest = bowl.changes.values_list("pk", flat=True).first() or 0
    action()
    bowl.changes.filter(pk__gt=newest).delete()
    BowlChange.objects.create(bowl=bowl, what=what[:160], parts=before, moved=moved)


def take_way(bowl: Bowl, kind: str, key: str, end: str, value: float, food: str) -> Balanced:
    """Take a way out of a conflict and balance again. Raises DieteticsError for one that cannot be
    taken.
    """
    result: list[Balanced] = []

    def action() -> None:
        _change(bowl, kind, key, end, value, food)
        result.append(balance_bowl(again(bowl), even_impossible=True))

    one_step(bowl, "a fix applied", action)
    return result[0]


def _change(bowl: Bowl, kind: str, key: str, end: str, value: float, food: str) -> None:
    if kind == "closest":
        return
    if kind == "widen":
        if bowl.meal is not None and key in clinicians_keys(bowl.meal.target_set):
            raise DieteticsError("window-fixed", name=nutrient(key).name)
        bowl.moved = [m for m in bowl.moved if m[:2] != [key, end]] + [[key, end, value]]
        bowl.save(update_fields=["moved"])
        return
    if kind == "add":
        services.add_food(bowl, food)
        return
    part = next((p for p in bowl.parts.all() if str(p.pk) == key), None)
    if part is None:
        raise DieteticsError(
            "balance-unreadable", problem="the ingredient is no longer in the bowl"
        )
    if kind == "swap":
        services.replace_part(bowl, part, food)
    elif kind == "portion" and end in ("least", "most"):
        part.locked = False
        setattr(part, end, value)
        part.save(update_fields=["locked", end])
        if end == "least" and value == 0:
            services.remove_part(bowl, part)
    else:
        raise DieteticsError("balance-unreadable", problem=f"“{kind}” is not an option")
