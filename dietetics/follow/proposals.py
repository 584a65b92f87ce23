"""What may be changed, and what must not: proposals with their reasons and sizes, and what
withholds them.

The order is that of practice: first what was really eaten, then the plan; a smoothed line over
weeks before anything. Where losing weight is held back (pregnancy, under 18, an eating disorder,
low weight, dialysis), or weight falls that nobody wanted to fall, nothing of energy is proposed
and the caution comes first. A figure that a clinician set is never touched.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date

from dietetics.follow.course import Course, Judgement
from dietetics.follow.eaten import Adherence
from dietetics.follow.observed_energy import ObservedEnergy
from dietetics.follow.red_flags import RedFlag, Scales, red_flags
from dietetics.targets.conditions import KIDNEY
from dietetics.targets.deficit_holds import hold_reasons, reason_words
from dietetics.targets.energy import FLOOR_KCAL, KCAL_PER_KG, SPAN
from dietetics.targets.person import Person

DAYS_A_WEEK = 7
WRITTEN_LITTLE = 0.85  # of the equation: observed below this, more was eaten than was written down
FIRST_TALK_UNDER = 0.8  # of the meals as planned: with fewer the diary comes before the plan
MOST_CHANGE = 0.1  # of the energy target at once (our judgement)
LEAST_KCAL = 50.0
NEAR_GOAL_KG = 4.5  # about ten pounds: the pace halves (common practice)
HUNGRY_FROM = 3.5  # mean of the scores of two weeks, 5 is very hungry
MISSED_FROM = 0.5  # of the days
UNINTENDED_SHARE = 0.05  # of the weight lost in six months without wanting it (common practice)
LEAST_WEIGH_INS, LEAST_DAYS, LEAST_WRITTEN = 4, 14, 0.5  # common practice
NEVER_LOWERED = "Nothing that lowers energy is proposed"


@dataclass(frozen=True)
class BloodFlag:
    """A blood value outside the range its laboratory gives."""

    key: str
    name: str
    text: str
    day: date
    is_high: bool
    range_text: str


@dataclass(frozen=True)
class Basis:
    """What a change of energy would rest on, since targets were changed last: how many weigh-ins,
    over how many days, and the share of those days of which something was written down.
    """

    weigh_ins: int = LEAST_WEIGH_INS
    days: int = LEAST_DAYS
    written: float = LEAST_WRITTEN

    @property
    def is_enough(self) -> bool:
        """Whether a change may rest on it."""
        return (
            self.weigh_ins >= LEAST_WEIGH_INS
            and self.days >= LEAST_DAYS
            and self.written >= LEAST_WRITTEN
        )

    def words(self) -> str:
        """What there is, in words."""
        weighed = f"{self.weigh_ins} weigh-in{'' if self.weigh_ins == 1 else 's'}"
        return (
            f"{weighed} over {self.days} days since the targets were changed last, and something "
            f"written down on {self.written:.0%} of them."
        )


@dataclass(frozen=True)
class FollowFacts:
    """All that a proposal looks at. `agreed` is the agreed pace in kg a week, negative for less;
    `energy` the daily window in kcal; `clinicians` the keys of figures a clinician set; `missed`
    the share of days on which a level was missed, by nutrient; `hunger` the mean score of two
    weeks; `densest` the dish of the last week with most kcal in a gram; `basis` what a change of
    energy would rest on; `values` the newest measurements by their kind, in base units.
    """

    person: Person
    agreed: float
    judgement: Judgement | None
    pace: float | None
    weight_kg: float
    lost_share: float = 0.0
    energy: tuple[float, float] | None = None
    equation_kcal: float | None = None
    observed: ObservedEnergy | None = None
    adherence: Adherence | None = None
    missed: Mapping[str, float] = field(default_factory=dict)
    hunger: float | None = None
    blood: Sequence[BloodFlag] = ()
    clinicians: frozenset[str] = frozenset()
    densest: tuple[str, float] | None = None
    basis: Basis = Basis()
    values: Mapping[str, float] = field(default_factory=dict)

    @property
    def flags(self) -> tuple[RedFlag, ...]:
        """What is somebody else's to look at first."""
        scales = Scales(self.pace, self.weight_kg, self.lost_share, self.values)
        return red_flags(self.person, scales)


@dataclass(frozen=True)
class Proposal:
    """One thing to do. `energy` is the new daily window where taking it makes new targets, `pace` a
    new agreed pace, `breakfast_percent` how much more of the day's protein breakfast gets. A
    proposal with none of them is words to act on.
    """

    code: str
    title: str
    why: str
    effect: str = ""
    energy: tuple[float, float] | None = None
    pace: float | None = None
    breakfast_percent: int | None = None

    @property
    def can_be_taken(self) -> bool:
        """True where a press changes something."""
        return (self.energy, self.pace, self.breakfast_percent) != (None, None, None)


@dataclass(frozen=True)
class Withheld:
    """Why proposals are withheld, said before everything else."""

    code: str
    text: str


def withheld(facts: FollowFacts) -> tuple[Withheld, ...]:
    """What forbids a proposal that lowers energy, and what must be looked at first."""
    person = facts.person
    found = [Withheld(flag.key, f"{flag.text} {flag.action}") for flag in facts.flags]
    for code in hold_reasons(person):
        words = reason_words(code, person)
        found.append(Withheld(code, f"{NEVER_LOWERED}: {words}."))
    course = facts.judgement.course if facts.judgement else Course.UNKNOWN
    if course is Course.TOO_FAST:
        found.append(
            Withheld(
                "pace",
                "More than 1 % of the weight is lost a week. Ask about appetite, illness and "
                "medicines first; a clinician decides where it goes on.",
            )
        )
    if person.goal != "lose" and facts.lost_share >= UNINTENDED_SHARE:
        found.append(
            Withheld(
                "unintended-loss",
                f"{100 * facts.lost_share:.0f} % of the weight was lost in half a year without "
                "wanting it. Ask a clinician to look for the cause before the plan is changed.",
            )
        )
    return tuple(found)


def proposals(facts: FollowFacts) -> tuple[Proposal, ...]:
    """What may be done, the most pressing first."""
    found = [*_blood(facts), *_first_the_diary(facts)]
    if not any(one.code == "eating-disorder" for one in withheld(facts)):
        found += [*(_energy(facts) or _basis(facts)), *_pace(facts)]
    return (*found, *_protein(facts), *_hunger(facts))


def _blood(facts: FollowFacts) -> list[Proposal]:
    """Values outside their range go to the clinician; no limit is changed here."""
    kidney = bool(facts.person.conditions & KIDNEY)
    found = []
    for one in facts.blood:
        side = "above" if one.is_high else "below"
        ask = f"Ask the clinician about {_inside(one.name)}"
        if one.key == "potassium" and one.is_high:
            ask = "Ask the clinician about potassium today, and which medicines raise it"
        effect = "Limits a clinician set stay as they are."
        if one.key == "potassium" and kidney:
            effect = (
                "The limit stays as set; until they answer, boil and drain, and halve portions."
            )
        why = (
            f"{one.text} on {one.day:%-d %b %Y} is {side} the laboratory's range {one.range_text}."
        )
        found.append(Proposal(f"blood-{one.key}", ask, why, effect))
    return found


def _inside(name: str) -> str:
    """A name inside a sentence: "Fasting glucose" is small, "HbA1c" and "TSH" stay."""
    return name if any(one.isupper() or one.isdigit() for one in name[1:]) else name.lower()


def _written_little(facts: FollowFacts) -> bool:
    """True where so little was written down that the scales contradict it."""
    seen, equation = facts.observed, facts.equation_kcal
    return (
        seen is not None
        and equation is not None
        and (seen.kcal + seen.half < WRITTEN_LITTLE * equation)
    )


def _first_the_diary(facts: FollowFacts) -> list[Proposal]:
    if _written_little(facts) and facts.observed is not None and facts.equation_kcal is not None:
        less = 1 - facts.observed.kcal / facts.equation_kcal
        return [
            Proposal(
                "written-little",
                "Ask first what was eaten and not written down",
                f"What was reported would mean {facts.observed.words()} spent a day, "
                f"{100 * less:.0f} % less than the equation's {facts.equation_kcal:,.0f}. Nobody "
                "spends so little.",
                "Portions, oil, nuts, drinks, days off the plan. Energy is not lowered before.",
            )
        ]
    off = facts.judgement is not None and facts.judgement.course in (
        Course.SLOWER,
        Course.WRONG_WAY,
        Course.FASTER,
    )
    known = facts.adherence
    if off and not facts.basis.is_enough and known is not None and known.meals:
        return [
            Proposal(
                "weigh-first",
                "Weigh and write down first",
                f"The pace is not as agreed. There are {facts.basis.words()}",
                f"Energy is changed on {LEAST_WEIGH_INS} weigh-ins over {LEAST_DAYS} days, with "
                "half of the days written down; one change rests on one set of them.",
            )
        ]
    if known is None or not known.meals:
        if not off:
            return []
        title = "Ask first what was really eaten"
        why = "The pace is not as agreed, and nothing was reported of what was eaten."
        return [Proposal("diary", title, why, "Portions, oil, nuts, drinks, days off the plan.")]
    if known.share_planned >= FIRST_TALK_UNDER:
        return []
    return [
        Proposal(
            "diary",
            "Talk about the meals that went otherwise before the plan is changed",
            known.words(),
            "A plan that is not eaten cannot be judged by the scales.",
        )
    ]


def _may_change_energy(facts: FollowFacts, lower: bool) -> bool:
    """Nobody's energy is lowered where that is held back, and nobody's who set it is named."""
    if facts.energy is None or "energy_kcal" in facts.clinicians or facts.pace is None:
        return False
    if not facts.basis.is_enough or facts.flags:
        return False
    known = facts.adherence
    otherwise = known is not None and known.share_planned < FIRST_TALK_UNDER
    otherwise = otherwise or _written_little(facts)
    return not (lower and (withheld(facts) or otherwise))


def _energy(facts: FollowFacts) -> list[Proposal]:
    """More or less energy where the pace is not as agreed."""
    if facts.judgement is None or facts.pace is None or facts.energy is None:
        return []
    if facts.judgement.course in (Course.UNKNOWN, Course.ON_COURSE):
        return []
    wanted = (facts.agreed - facts.pace) * KCAL_PER_KG / DAYS_A_WEEK
    middle = sum(facts.energy) / 2
    change = max(-MOST_CHANGE * middle, min(MOST_CHANGE * middle, wanted))
    floor = FLOOR_KCAL[facts.person.sex]
    change = max(change, floor - facts.energy[0])
    change = round(change / 10) * 10.0
    if abs(change) < LEAST_KCAL or not _may_change_energy(facts, change < 0):
        return []
    low, high = facts.energy[0] + change, facts.energy[1] + change
    word, way = ("less", "lighter") if change < 0 else ("more", "heavier")
    limited = " It is a tenth of the target at most." if abs(wanted) > abs(change) + 10 else ""
    return [
        Proposal(
            "energy",
            f"{abs(change):,.0f} kcal {word} a day: {low:,.0f}–{high:,.0f}",
            facts.judgement.words,
            f"At first about {abs(change) * DAYS_A_WEEK / KCAL_PER_KG:.1f} kg a week {way}, later "
            f"smaller (7,700 kcal/kg).{limited}",
            energy=(low, high),
        )
    ]


def _pace(facts: FollowFacts) -> list[Proposal]:
    """Near the goal the pace halves; at the goal the aim is to hold."""
    goal, agreed = facts.person.goal_weight_kg, abs(facts.agreed)
    if goal is None or facts.person.goal != "lose" or facts.pace is None:
        return []
    left = facts.weight_kg - goal
    if left <= 0:
        why = f"The smoothed weight {facts.weight_kg:.1f} kg has come to the goal of {goal:g} kg."
        return [Proposal("goal-reached", "Plan to maintain from now on", why, pace=0.0)]
    if left > NEAR_GOAL_KG or agreed <= 0.25:
        return []
    why = f"{left:.1f} kg are left to the goal of {goal:g} kg."
    title = f"Halve the agreed pace: {agreed / 2:g} kg a week"
    return [Proposal("near-goal", title, why, "Usual within ten pounds of it.", pace=agreed / 2)]


def _basis(facts: FollowFacts) -> list[Proposal]:
    """The observed expenditure as the basis of the next targets, where it differs from the
    equation's.
    """
    seen, equation = facts.observed, facts.equation_kcal
    if seen is None or equation is None or abs(seen.kcal - equation) <= seen.half:
        return []
    wanted = facts.agreed * KCAL_PER_KG / DAYS_A_WEEK
    if facts.energy is None:
        return []
    present = sum(facts.energy) / 2
    most = MOST_CHANGE * present
    middle = present + max(-most, min(most, seen.kcal + wanted - present))
    floor = FLOOR_KCAL[facts.person.sex]
    low, high = (round(max(middle * share, floor), -1) for share in (1 - SPAN, 1 + SPAN))
    if not _may_change_energy(facts, high < facts.energy[1]):
        return []
    limited = (
        " At most a tenth of the target is changed at once."
        if abs(middle - present) >= most - 1
        else ""
    )
    return [
        Proposal(
            "observed",
            f"Plan with the observed expenditure: {low:,.0f}–{high:,.0f} kcal",
            f"Observed {seen.words()} over {seen.days} days; equation {equation:,.0f}.",
            f"It assumes that what was eaten was written down as fully as before.{limited}",
            energy=(low, high),
        )
    ]


def _protein(facts: FollowFacts) -> list[Proposal]:
    missed = facts.missed.get("protein_g", 0.0)
    if missed < MISSED_FROM or "protein_g" in facts.clinicians:
        return []
    why = f"Protein was below the target on {missed:.0%} of the days as eaten."
    title = "Give breakfast 5 % more of the day's protein"
    return [Proposal("protein", title, why, "Energy stays.", breakfast_percent=5)]


def _hunger(facts: FollowFacts) -> list[Proposal]:
    if facts.hunger is None or facts.hunger < HUNGRY_FROM:
        return []
    why = f"Hunger was {facts.hunger:.1f} of 5 in the last two weeks."
    title = "Swap the densest dish of the week for a lighter one of the same energy"
    if facts.densest is not None:
        name, kcal_per_g = facts.densest
        title = f"Swap {name} ({kcal_per_g:.2f} kcal/g, the densest of the week) for a lighter dish"
    return [Proposal("hunger", title, why, "More to eat for the same energy, and more fibre.")]
