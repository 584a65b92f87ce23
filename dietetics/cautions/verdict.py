"""A verdict: what a rule found, as values. Its sentences stand in `sentences.py` and are made from
them.

Nothing decides anything by reading a sentence: code, subject, severity and params are what programs
look at.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from dietetics.cautions import sentences

# The gravest first. "blocked" asks for a reason before the food goes in; "forbidden" is left out by
# the school or the condition and kept out of what is computed; "unwanted" is the client's own wish;
# the rest is to be minded.
SEVERITIES = ("blocked", "serious", "forbidden", "warn", "unwanted", "note")
KEEPS_OUT = frozenset({"blocked", "forbidden", "unwanted"})
FORBIDS = frozenset({"blocked", "forbidden"})
GRAVE = frozenset({"blocked", "serious"})


@dataclass(frozen=True)
class Verdict:
    """One finding of one rule.

    `subject` is what it is about (an allergy, an additive, a nutrient), `params` the values its
    sentences speak of, `ask` whom to ask. `measure` grows with what caused it: an acknowledged one
    comes back when it gets worse.
    """

    code: str
    severity: str
    subject: str = ""
    params: Mapping[str, Any] = field(default_factory=dict)
    source: str = "common practice"
    ask: str = ""
    measure: float = 0.0

    @property
    def key(self) -> str:
        """Under what it is acknowledged: the code with its subject."""
        return f"{self.code}-{self.subject}" if self.subject else self.code

    @property
    def grave(self) -> bool:
        """True where somebody can be hurt."""
        return self.severity in GRAVE

    @property
    def keeps_out(self) -> bool:
        """True where a food is kept out of what is computed or suggested."""
        return self.severity in KEEPS_OUT

    @property
    def forbids(self) -> bool:
        """True where a food may not come in by hand either, unless somebody says why: not for a
        mere wish.
        """
        return self.severity in FORBIDS

    @property
    def text(self) -> str:
        """What was found, in words."""
        return sentences.text(self.code, self.subject, self.params)

    @property
    def action(self) -> str:
        """What to do, in words."""
        return sentences.action(self.code, self.params)

    @property
    def short(self) -> str:
        """The reason in a few words, to stand behind a food's name: "the peanut allergy"."""
        return sentences.short(self.code, self.subject, self.params)

    def comes_back(self, acknowledged_measure: float) -> bool:
        """True when it is worse than when it was acknowledged (by more than a hundredth)."""
        return self.measure > acknowledged_measure * 1.01 + 1e-9


def gravest_first(found: list[Verdict]) -> list[Verdict]:
    """Verdicts by severity, each code and subject once."""
    once = {verdict.key: verdict for verdict in reversed(found)}
    kept = [verdict for verdict in found if once[verdict.key] is verdict]
    return sorted(kept, key=lambda verdict: SEVERITIES.index(verdict.severity))
