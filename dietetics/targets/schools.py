"""The schools practitioners follow, as rule sets read from files: windows, meals, what is wanted
and left out.

A file is checked when it is read: an unknown key, food group, family, additive, state or importance
is an error that names it, and the file it stands in. `forbid` and `limit` hold tokens: a food
group, "family:", "state:", "additive:", "added:oil", "added:salt" or "processing:".
"""

from __future__ import annotations

import tomllib
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path
from typing import Any

from dietetics.composition.foods import ADDITIVES, GROUP_DENSITY_G_PER_ML, TABLES, load_shelf
from dietetics.errors import DieteticsError

ADDED = frozenset({"oil", "salt"})
TOKEN_WORDS: Mapping[str, str] = {
    "added:oil": "foods made with oil", "added:salt": "added salt",
    "additive:phosphate": "phosphate additives",
    "additive:potassium-chloride": "potassium chloride",
    "state:canned-drained": "canned food that is not rinsed",
    "processing:4": "heavily processed food",
}  # fmt: skip
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
    """What is asked of one bowl or of a day beside the windows: grams of some groups or families,
    or their share of the volume; `of` weight or fibre, that of everything that is eaten.
    """

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
        return (group in self.groups or family in self.families) and (
            not self.state or state == self.state
        )


@dataclass(frozen=True)
class Rung:
    """A step of a ladder of foods, the best first: the groups and families that stand on it."""

    name: str
    groups: tuple[str, ...] = ()
    families: tuple[str, ...] = ()

    def holds(self, group: str, family: str) -> bool:
        """True for a food that stands on this rung."""
        return family in self.families or group in self.groups


@dataclass(frozen=True)
class School:
    """A rule set. `require` are words for a reader, `forbid` and `limit` tokens; `rules` hold for a
    bowl, `days` for a whole day; `ladder` orders what starch is taken from, `led_by` names what the
    plate is built on ("starch" or "").
    """

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
    ladder: tuple[Rung, ...] = ()
    led_by: str = ""
    source: str = "common practice in this approach"

    @property
    def starch_led(self) -> bool:
        """True where whole starch is the base of the plate."""
        return self.led_by == "starch"

    @property
    def forbidden_groups(self) -> frozenset[str]:
        """Food groups that are left out."""
        return frozenset(token for token in self.forbid if ":" not in token)

    @property
    def forbids_added_oil(self) -> bool:
        """True where a food made with oil is left out too."""
        return "added:oil" in self.forbid

    @property
    def forbidden_additives(self) -> frozenset[str]:
        """Additives that are left out."""
        return frozenset(
            token.removeprefix("additive:")
            for token in self.forbid
            if token.startswith("additive:")
        )

    @property
    def left_out(self) -> tuple[str, ...]:
        """What is left out, in words."""
        return tuple(map(token_words, self.forbid))

    @property
    def little_of(self) -> tuple[str, ...]:
        """What is taken little of, in words."""
        return tuple(map(token_words, self.limit))

    def rung_of(self, group: str, family: str) -> int | None:
        """On which rung of the ladder a food stands, 0 the best; a family before a group. None
        where it is on none.
        """
        by_family = next((n for n, rung in enumerate(self.ladder) if family in rung.families), None)
        return (
            by_family
            if by_family is not None
            else next((n for n, rung in enumerate(self.ladder) if group in rung.groups), None)
        )


def token_words(token: str) -> str:
    """A token of `forbid` or `limit` in words."""
    return TOKEN_WORDS.get(token, token.rpartition(":")[2].replace("-", " "))


def _pair(data: Mapping[str, Any], key: str) -> tuple[float, float] | None:
    return (float(data[key][0]), float(data[key][1])) if key in data else None


def _plate_rule(data: Mapping[str, Any]) -> PlateRule:
    lists = {name: tuple(data.get(name, ())) for name in ("groups", "families")}
    return PlateRule(**{**data, **lists})


def _rung(data: Mapping[str, Any]) -> Rung:
    return Rung(data["name"], tuple(data.get("groups", ())), tuple(data.get("families", ())))


_KEYS = frozenset(
    {"key", "name", "since", "default", "why", "density_high", "fat_share", "sodium_high",
    "pral_high", "protein_g_per_kg",
     "protein_per_meal_g", "protein_per_meal_g_per_kg", "require", "forbid", "limit", "meals",
     "rules", "days", "ladder",
     "led_by"}
)  # fmt: skip
_NEEDED = (
    "key",
    "name",
    "since",
    "why",
    "density_high",
    "fat_share",
    "sodium_high",
    "require",
    "forbid",
    "limit",
    "meals",
)
_RULE_KEYS = frozenset(
    {"key", "name", "importance", "why", "groups", "families", "of", "low", "high", "state"}
)
_RULE_NEEDED = ("key", "name", "importance", "why")
_IMPORTANCES, _OF, _LED_BY = ("must", "should", "watch"), ("grams", "volume"), ("", "starch")
# what is asked of everything that is eaten, as `of` and as key; the program sets them, no file does
WEIGHT, FIBRE = "weight", "fibre"


def _problems(data: Mapping[str, Any]) -> Iterator[str]:
    """Everything in a school's file that is not known, in words that name it."""
    yield from (f"“{key}” is not a setting of an approach" for key in sorted(set(data) - _KEYS))
    yield from (f"“{key}” is missing" for key in _NEEDED if key not in data)
    for name in ("forbid", "limit"):
        for token in data.get(name, ()):
            yield from _token_problem(name, token)
    if data.get("led_by", "") not in _LED_BY:
        yield f"led_by “{data['led_by']}” is not known"
    for part in ("energy", "protein"):
        shares = sum(meal.get(part, 0) for meal in data.get("meals", ()))
        if shares != 100:
            yield f"the meals carry {shares} % of the {part}, not 100"
    for kind in ("rules", "days"):
        for rule in data.get(kind, ()):
            yield from _rule_problems(rule)
    for rung in data.get("ladder", ()):
        yield from _foods_problems(f"the ladder step “{rung.get('name', '')}”", rung)


def _token_problem(where: str, token: str) -> Iterator[str]:
    kind, _, word = token.rpartition(":")
    shelf = load_shelf()
    known: Mapping[str, Sequence[str] | frozenset[str]] = {
        "": tuple(GROUP_DENSITY_G_PER_ML),
        "additive": ADDITIVES,
        "added": ADDED,
        "family": tuple(shelf.families),
        "state": tuple({food.state for food in shelf}),
        "processing": ("1", "2", "3", "4"),
    }
    if kind not in known:
        yield f"{where}: “{kind}:” is not a known kind"
    elif word not in known[kind]:
        yield f"{where}: “{word}” is not a known {kind or 'food group'}"


def _foods_problems(what: str, data: Mapping[str, Any]) -> Iterator[str]:
    yield from (
        f"{what}: “{group}” is not a food group"
        for group in data.get("groups", ())
        if group not in GROUP_DENSITY_G_PER_ML
    )
    families = load_shelf().families
    yield from (
        f"{what}: “{family}” is not a food family"
        for family in data.get("families", ())
        if family not in families
    )


def _rule_problems(rule: Mapping[str, Any]) -> Iterator[str]:
    what = f"the rule “{rule.get('key', '')}”"
    yield from (
        f"{what}: “{key}” is not a setting of a rule" for key in sorted(set(rule) - _RULE_KEYS)
    )
    yield from (f"{what}: “{key}” is missing" for key in _RULE_NEEDED if key not in rule)
    yield from _foods_problems(what, rule)
    if rule.get("importance") not in _IMPORTANCES:
        yield f"{what}: “{rule.get('importance')}” is not a known importance"
    if rule.get("of", "grams") not in _OF:
        yield f"{what}: “{rule['of']}” is not a known measure"
    if rule.get("state") and rule["state"] not in {food.state for food in load_shelf()}:
        yield f"{what}: “{rule['state']}” is not a state of a food"
    low, high = rule.get("low"), rule.get("high")
    if low is None and high is None:
        yield f"{what}: give low, high or both"
    elif low is not None and high is not None and low > high:
        yield f"{what}: low {low} is above high {high}"


def read_school(path: Path) -> School:
    """Read and check one rule file. Raises `school-unreadable` with everything that is not known in
    it.
    """
    try:
        data = tomllib.loads(path.read_text(encoding="utf-8"))
    except (tomllib.TOMLDecodeError, UnicodeDecodeError) as error:
        raise DieteticsError("school-unreadable", file=path.name, problem=str(error)) from None
    problems = list(_problems(data))
    if problems:
        raise DieteticsError("school-unreadable", file=path.name, problem="; ".join(problems))
    return _school(data)


def _school(data: Mapping[str, Any]) -> School:
    fat = _pair(data, "fat_share")
    assert fat is not None
    return School(
        key=data["key"],
        name=data["name"],
        why=data["why"],
        since=data["since"],
        density_high=float(data["density_high"]),
        fat_share=fat,
        sodium_high=float(data["sodium_high"]),
        meals=tuple(SchoolMeal(**meal) for meal in data["meals"]),
        require=tuple(data["require"]),
        forbid=tuple(data["forbid"]),
        limit=tuple(data["limit"]),
        protein_g_per_kg=_pair(data, "protein_g_per_kg"),
        protein_per_meal_g=_pair(data, "protein_per_meal_g"),
        protein_per_meal_g_per_kg=_pair(data, "protein_per_meal_g_per_kg"),
        pral_high=data.get("pral_high"),
        rules=tuple(_plate_rule(rule) for rule in data.get("rules", ())),
        days=tuple(_plate_rule(rule) for rule in data.get("days", ())),
        ladder=tuple(_rung(rung) for rung in data.get("ladder", ())),
        led_by=data.get("led_by", ""),
    )


@lru_cache(maxsize=1)
def schools() -> Mapping[str, School]:
    """Every school by its key."""
    found = {}
    for path in sorted((TABLES / "schools").glob("*.toml")):
        school = read_school(path)
        found[school.key] = school
    return found


def school(key: str) -> School:
    """One school, or DieteticsError `person-unknown-word`."""
    try:
        return schools()[key]
    except KeyError:
        raise DieteticsError(
            "person-unknown-word", name="school", value=key, known=", ".join(schools())
        ) from None
