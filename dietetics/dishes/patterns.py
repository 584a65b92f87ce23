"""Patterns: a bowl kept as roles with options, so that it can be drawn again for another client.

A role is filled by the first of its options that the client may eat; what none may fill is said,
not left out silently.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass


@dataclass(frozen=True)
class Option:
    """One way to fill a role: a food's key or "batch:ID", and the portion as written."""

    what: str
    amount: str


@dataclass(frozen=True)
class Role:
    """What a place in the bowl is for, with its options, the favoured one first."""

    name: str
    options: tuple[Option, ...]


@dataclass(frozen=True)
class Drawn:
    """A pattern drawn for a client: what fills each role, what was passed over with the reason, and
    the roles that nothing fills.
    """

    chosen: tuple[tuple[Role, Option], ...]
    passed: tuple[str, ...]
    empty_roles: tuple[Role, ...]

    @property
    def empty(self) -> tuple[str, ...]:
        """The names of the roles that nothing fills."""
        return tuple(role.name for role in self.empty_roles)


def draw(
    roles: Iterable[Role], against: Callable[[str], str], names: Callable[[str], str]
) -> Drawn:
    """Fill every role with its first option that nothing speaks against.

    `against` says why something may not come in ("" when it may), `names` gives it a name to speak
    of.
    """
    chosen, passed, empty = [], [], []
    for role in roles:
        for option in role.options:
            reason = against(option.what)
            if not reason:
                chosen.append((role, option))
                break
            passed.append(f"{names(option.what)}: {reason}")
        else:
            empty.append(role)
    return Drawn(tuple(chosen), tuple(passed), tuple(empty))


def roles_json(roles: Sequence[Role]) -> list[dict[str, object]]:
    """Roles as plain values to store."""
    return [
        {"name": r.name, "options": [{"what": o.what, "amount": o.amount} for o in r.options]}
        for r in roles
    ]


def roles_of(stored: Iterable[Mapping[str, object]]) -> list[Role]:
    """Roles from plain values."""
    found = []
    for one in stored:
        options = one["options"]
        assert isinstance(options, list)
        found.append(
            Role(str(one["name"]), tuple(Option(str(o["what"]), str(o["amount"])) for o in options))
        )
    return found
