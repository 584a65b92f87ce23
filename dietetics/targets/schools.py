"""The schools practitioners follow, as rule sets read from files: windows, meals, what is wanted and left out."""

from __future__ import annotations

import tomllib
from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from dietetics.composition.foods import TABLES
from dietetics.errors import DieteticsError

DEFAULT_SCHOOL = "balanced-bowl"


@dataclass(frozen=True)
class SchoolMeal:
    """A meal of a school's skeleton, with its share of the day's energy and protein in per cent."""

    name: str
    kind: str
    energy: int
    protein: int


@dataclass(frozen=True)
class PlateRule:
    """What a school asks of one bowl beside its windows: grams of some groups or families, or their share of the volume."""

    key: str
    name: str
    importance: str
    why: str
    groups: tuple[str, ...] = ()
    families: tuple[str, ...] = ()
    of: str = "grams"
    low: float | None = None
    high: float | None = None
    state: str = ""

    def holds(self, group: str, family: str, state: str) -> bool:
        """True for a food that counts for this rule."""
        return (group in self.groups or family in self.families) and (not self.state or state == self.state)


@dataclass(frozen=True)
class School:
    """A rule set. `require`, `forbid` and `limit` are words and food groups; `rules` hold for a bowl,
    `days` for a whole day."""

    key: str
    name: str
    why: str
    since: str
    density_high: float
    fat_share: tuple[float, float]
    sodium_high: float
    meals: tuple[SchoolMeal, ...]
    require: tuple[str, ...]
    forbid: tuple[str, ...]
    limit: tuple[str, ...]
    protein_g_per_kg: tuple[float, float] | None = None
    protein_per_meal_g: tuple[float, float] | None = None
    protein_per_meal_g_per_kg: tuple[float, float] | None = None
    pral_high: float | None = None
    rules: tuple[PlateRule, ...] = ()
    days: tuple[PlateRule, ...] = ()


def _pair(data: Mapping[str, Any], key: str) -> tuple[float, float] | None:
    return (float(data[key][0]), float(data[key][1])) if key in data else None


def _plate_rule(data: Mapping[str, Any]) -> PlateRule:
    lists = {name: tuple(data.get(name, ())) for name in ("groups", "families")}
    return PlateRule(**{**data, **lists})


def _school(data: Mapping[str, Any]) -> School:
    fat = _pair(data, "fat_share")
    assert fat is not None
    return School(
        key=data["key"], name=data["name"], why=data["why"], since=data["since"], density_high=float(data["density_high"]),
        fat_share=fat, sodium_high=float(data["sodium_high"]), meals=tuple(SchoolMeal(**meal) for meal in data["meals"]),
        require=tuple(data["require"]), forbid=tuple(data["forbid"]), limit=tuple(data["limit"]),
        protein_g_per_kg=_pair(data, "protein_g_per_kg"), protein_per_meal_g=_pair(data, "protein_per_meal_g"),
        protein_per_meal_g_per_kg=_pair(data, "protein_per_meal_g_per_kg"), pral_high=data.get("pral_high"),
        rules=tuple(_plate_rule(rule) for rule in data.get("rules", ())),
        days=tuple(_plate_rule(rule) for rule in data.get("days", ())),
    )  # fmt: skip


@lru_cache(maxsize=1)
def schools() -> Mapping[str, School]:
    """Every school by its key."""
    found = {}
    for path in sorted((TABLES / "schools").glob("*.toml")):
        with path.open("rb") as handle:
            school = _school(tomllib.load(handle))
        found[school.key] = school
    return found


def school(key: str) -> School:
    """One school, or DieteticsError `person-unknown-word`."""
    try:
        return schools()[key]
    except KeyError:
        raise DieteticsError("person-unknown-word", name="school", value=key, known=", ".join(schools())) from None
