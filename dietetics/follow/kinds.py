"""What is measured of a client: one registry of kinds with units, bounds and names.

Values are kept in one base unit a kind. What was typed is kept beside it, so that nothing depends
on the conversion. Factors and their sources stand at the head of `measured_kinds.csv`.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache

from dietetics.composition.foods import read_table
from dietetics.errors import DieteticsError

BODY, FEELING, BLOOD = "body", "feeling", "blood"
_LINEAR = re.compile(r"^(?P<factor>[\d.]+)(?:\*x(?P<offset>[+-][\d.]+))?$")


@dataclass(frozen=True)
class Unit:
    """A unit that may be typed: base value = factor × typed value + offset."""

    name: str
    factor: float = 1.0
    offset: float = 0.0

    def to_base(self, value: float) -> float:
        """A typed value in the base unit."""
        return self.factor * value + self.offset


@dataclass(frozen=True)
class Kind:
    """One thing that is measured. `aliases` maps a word to the unit it brings, "" for none.

    A value outside `least` to `most` is refused; `likely` tells two units apart.
    """

    key: str
    name: str
    group: str
    unit: str
    decimals: int
    least: float
    most: float
    likely: tuple[float, float]
    units: tuple[Unit, ...]
    aliases: Mapping[str, str]
    loinc: str

    def can_be(self, value: float) -> bool:
        """True for a value in the base unit that somebody may have."""
        return self.least <= value <= self.most

    def is_likely(self, value: float) -> bool:
        """True for a value in the base unit that is seen in practice."""
        return self.likely[0] <= value <= self.likely[1]

    def unit_named(self, name: str) -> Unit | None:
        """The unit of a typed name, whatever its capitals."""
        plain = plain_unit(name)
        return next((one for one in self.units if plain_unit(one.name) == plain), None)

    def number(self, value: float) -> str:
        """A stored value as shown, without its unit."""
        return f"{value:,.{self.decimals}f}"

    def text(self, value: float) -> str:
        """A stored value as shown.

        >>> kind("weight").text(72.44)
        '72.4 kg'
        """
        return f"{self.number(value)} {self.unit}".strip()


def plain_unit(name: str) -> str:
    """A unit's name to compare: "umol / l" is "µmol/l".

    >>> plain_unit("UMOL/L") == plain_unit("μmol / L")
    True
    """
    text = re.sub(r"\s+", "", name.lower()).replace("μ", "µ").replace("mcg", "µg")
    return re.sub(r"^u(?=mol|g|iu|u/)", "µ", text)


@cache
def kinds() -> Mapping[str, Kind]:
    """Every kind by its key, in the order they are shown."""
    return {row["key"]: _kind(row) for row in read_table("measured_kinds.csv")}


def kind(key: str) -> Kind:
    """A kind by its key. Raises DieteticsError `measured-unknown`."""
    found = kinds().get(key)
    if found is None:
        raise DieteticsError("measured-unknown", key=key)
    return found


def _kind(row: Mapping[str, str]) -> Kind:
    units = [Unit(row["unit"]), *(_unit(one) for one in row["units"].split(";") if one)]
    aliases = dict(one.partition("@")[::2] for one in row["aliases"].split(";") if one)
    return Kind(
        row["key"],
        row["name"],
        row["group"],
        row["unit"],
        int(row["decimals"]),
        float(row["least"]),
        float(row["most"]),
        (float(row["likely_low"]), float(row["likely_high"])),
        tuple(units),
        aliases,
        row["loinc"],
    )


def _unit(written: str) -> Unit:
    name, _, linear = written.rpartition(":")
    found = _LINEAR.match(linear)
    assert found is not None, written
    return Unit(name, float(found["factor"]), float(found["offset"] or 0))


@cache
def names() -> tuple[tuple[str, str, str], ...]:
    """(word, key of its kind, unit it brings), the longest words first."""
    found = [
        (word, one.key, unit) for one in kinds().values() for word, unit in one.aliases.items()
    ]
    return tuple(sorted(found, key=lambda row: -len(row[0])))
