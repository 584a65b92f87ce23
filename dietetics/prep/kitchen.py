"""A client's kitchen as a value: how many cooks, ovens, burners and devices there are."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from dietetics.amounts.number_words import whole_number
from dietetics.errors import DieteticsError
from dietetics.prep.heating import BURNER_KW, BURNERS_KW
from dietetics.prep.tasks import BLENDER, BURNER, DEVICES, OVEN, PRESSURE
from dietetics.untrusted_input import MOST_LINE, readable

MOST_OF_A_KIND = 8
STRONG_HOB = re.compile(r"\binduction\b|\bstrong burners?\b")
WEAK_HOB = re.compile(r"\b(?:hot ?plates?|camping stove|weak burners?|small burners?)\b")
NO_FREEZER = re.compile(r"\b(?:no|without(?: an?)?) freezer\b")
_NONE = {"no": 0, "without": 0}


@dataclass(frozen=True)
class Kitchen:
    """What can be used at the same time. `trays` is how many fit into one oven; `others` counts
    further devices by name (a steamer, a press); a big pot holds what a saucepan does not.
    `burner_kw` is the power of a burner, in kilowatts.
    """

    cooks: int = 1
    ovens: int = 1
    trays: int = 2
    burners: int = 4
    blenders: int = 1
    pressure_cookers: int = 1
    big_pots: int = 1
    others: Mapping[str, int] = field(default_factory=dict)
    burner_kw: float = BURNER_KW

    def __post_init__(self) -> None:
        counts = {n: count for n, count in vars(self).items() if n not in ("others", "burner_kw")}
        for name, count in {**counts, **self.others}.items():
            least = 1 if name in ("cooks", "trays", "big_pots") else 0
            if not least <= count <= MOST_OF_A_KIND:
                raise DieteticsError(
                    "prep-kitchen",
                    name=name.replace("_", " "),
                    count=count,
                    least=least,
                    most=MOST_OF_A_KIND,
                )
        if self.burner_kw not in BURNERS_KW:
            raise DieteticsError(
                "prep-burner", kw=self.burner_kw, known=", ".join(map(str, BURNERS_KW))
            )

    def count(self, device: str) -> int:
        """How many of a device there are."""
        known = {
            OVEN: self.ovens,
            BURNER: self.burners,
            BLENDER: self.blenders,
            PRESSURE: self.pressure_cookers,
        }
        return known.get(device, self.others.get(device, 0))

    @property
    def devices(self) -> tuple[str, ...]:
        """Every kind of device there is or could be."""
        return (*DEVICES, *(name for name in self.others if name not in DEVICES))


def kitchen_of_words(text: str) -> tuple[Kitchen, tuple[str, ...]]:
    """The kitchen that a client's record describes ("two burners, oven"), and what of it was taken
    for usual because nothing is said.

    >>> kitchen_of_words("two burners, no oven")[0].burners
    2
    """
    plain = readable(text, MOST_LINE).lower()
    usual = Kitchen()
    found: dict[str, Any] = {}
    assumed = []
    for name, word in (
        ("ovens", "oven"),
        ("burners", "burner"),
        ("blenders", "blender"),
        ("pressure_cookers", "pressure cooker"),
        ("big_pots", "(?:big|large|stock) ?pot"),
    ):
        match = re.search(rf"(?:\b(\d|[a-z]+)\s+)?{word}s?\b", plain)
        if match is None:
            # a pressure cooker is named by who has one; the rest is taken to be there
            found[name] = 0 if name == "pressure_cookers" else getattr(usual, name)
            if found[name] and name != "big_pots":  # a usual kitchen, and not worth a word
                assumed.append(f"{found[name]} {word}{'s' if found[name] > 1 else ''}")
            continue
        given = match[1] or "one"
        said = _NONE.get(given, whole_number(given))
        count = 1 if said is None else max(said, 1 if name == "big_pots" else 0)
        found[name] = min(count, MOST_OF_A_KIND)
    if STRONG_HOB.search(plain):
        found["burner_kw"] = max(BURNERS_KW)
    elif WEAK_HOB.search(plain):
        found["burner_kw"] = min(BURNERS_KW)
    return Kitchen(**found), tuple(assumed)


def has_freezer(text: str) -> bool:
    """True for a kitchen whose record does not say that there is no freezer.

    >>> has_freezer("two burners"), has_freezer("Small kitchen, no freezer")
    (True, False)
    """
    return NO_FREEZER.search(readable(text, MOST_LINE).lower()) is None
