"""Seven people whom a week could hurt, planned from the starter pantry: what the gate then says of
each. What is expected stands beside each person, as a dietitian would want it (the sources are in
`dietetics/tables/needs.toml` and `intakes.csv`).
"""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import date
from typing import Any

from django.contrib.auth import get_user_model
from django.test import TestCase
from django.urls import reverse

from dietetics.targets.proposal import Proposal
from dietetics.tests.samples import again, sample
from dietetics.week.plan import plan_json
from roundpantry.bowls.patterns import draw_all
from roundpantry.clients.services import add_client
from roundpantry.counter import clock
from roundpantry.demo.tests.support import SHORT_SEARCHES
from roundpantry.starter.services import add_starters
from roundpantry.targets.records import proposal_of
from roundpantry.targets.services import set_targets
from roundpantry.weeks.gate import obstacles
from roundpantry.weeks.models import Week
from roundpantry.weeks.nutrients import verdicts_of
from roundpantry.weeks.planning import answer_for
from roundpantry.weeks.services import add_week
from roundpantry.weeks.week_snapshot import WeekSnapshot, snapshot_of

FEMALE, MALE = {"sex": "female"}, {"sex": "male"}


@dataclass(frozen=True)
class Expected:
    """A person, and what a dietitian expects of the gate: the keys of what stops the hand-over, of
    what needs a word (among others), and the nutrients that are short.
    """

    facts: dict[str, Any]
    stops: frozenset[str] = frozenset()
    words: frozenset[str] = frozenset()
    short: frozenset[str] = frozenset()
    no_target: frozenset[str] = field(default_factory=frozenset)


PEOPLE = {
    "dialysis, no limits recorded": Expected(
        FEMALE
        | {"age_years": 58, "height_cm": 163, "weight_kg": 61, "conditions": ["dialysis"]}
        | {"school": "kidney-aware"},
        stops=frozenset({"needed-potassium_mg", "needed-phosphorus_mg", "needed-sodium_mg"}),
        words=frozenset({"caution-kidney"}),
    ),
    "lithium, usual salt unknown": Expected(
        FEMALE | {"age_years": 40, "height_cm": 168, "weight_kg": 66, "conditions": ["lithium"]},
        words=frozenset({"caution-lithium"}),
        short=frozenset({"sodium_mg"}),
        no_target=frozenset({"sodium_mg"}),
    ),
    "refeeding": Expected(
        FEMALE | {"age_years": 29, "height_cm": 165, "weight_kg": 34, "goal": "gain"},
        stops=frozenset({"needed-energy_kcal"}),
        words=frozenset({"caution-refeeding"}),
        no_target=frozenset({"energy_kcal"}),
    ),
    "85 years, osteoporosis, eats little": Expected(
        FEMALE
        | {"age_years": 85, "height_cm": 155, "weight_kg": 48, "conditions": ["osteoporosis"]}
        | {"appetite": "poor"},
        short=frozenset({"calcium_mg", "vitamin_d_ug", "vitamin_b12_ug", "sodium_mg"}),
    ),
    "a boy of 15 who trains": Expected(
        MALE | {"age_years": 15, "height_cm": 172, "weight_kg": 58, "activity": "very-active"},
        words=frozenset({"caution-young"}),
        short=frozenset({"sodium_mg"}),
    ),
    "an eating disorder": Expected(
        FEMALE
        | {"age_years": 24, "height_cm": 168, "weight_kg": 56, "conditions": ["eating-disorder"]},
        words=frozenset({"caution-eating-disorder"}),
    ),
    "coeliac with iron deficiency": Expected(
        FEMALE
        | {"age_years": 33, "height_cm": 166, "weight_kg": 60, "allergies": ["gluten", "wheat"]}
        | {"conditions": ["coeliac", "iron-deficiency"]},
        words=frozenset({"caution-coeliac"}),
        short=frozenset({"iron_mg"}),
    ),
}


class AtRisk(TestCase):
    """Each planned and brought to the gate, with the targets as they are proposed."""

    @classmethod
    def setUpTestData(cls) -> None:
        cls.user = get_user_model().objects.create_user("ines", password="x")
        add_starters(cls.user)

    def planned(self, name: str, facts: dict[str, Any]) -> tuple[WeekSnapshot, Proposal]:
        client = add_client(self.user, name=name, **facts)
        proposal = proposal_of(client)
        windows = [t.window for t in proposal.targets if t.window.importance != "watch"]
        rows = [(m.name, m.kind, m.energy, m.protein) for m in proposal.meals]
        draw_all(self.user, client, list(set_targets(client, windows, rows).meals.all()))
        week = add_week(client, date(2026, 11, 30))
        with SHORT_SEARCHES:
            plan = answer_for(week).plan
        Week.objects.filter(pk=week.pk).update(plan=plan_json(plan))
        week.refresh_from_db()
        return snapshot_of(week), proposal

    def test_what_a_dietitian_expects(self) -> None:
        for name, expected in sample("at risk", PEOPLE.items(), 0.15):
            with self.subTest(name, again=again()):
                found, proposal = self.planned(name, expected.facts)
                asked = obstacles(found)
                self.assertEqual({one.key for one in asked if one.is_stop}, expected.stops)
                self.assertLessEqual(expected.words, {o.key for o in asked if not o.is_stop})
                short = {one.key for one in verdicts_of(found) if one.is_gap}
                self.assertLessEqual(expected.short, short)
                for key in expected.no_target:
                    self.assertIsNone(proposal.target(key))
                self.stands_to_reason(found, proposal)

    def stands_to_reason(self, found: WeekSnapshot, proposal: Proposal) -> None:
        """Whoever it is: no required nutrient is far off on any day, and nothing forbidden is in
        any dish.
        """
        required = [t.window for t in proposal.targets if t.window.importance == "must"]
        for d in found.counted:
            for window in required:
                amount = found.days[d].total[window.key].amount or 0.0
                self.assertGreaterEqual(amount, 0.95 * (window.low or 0.0), window.key)
                self.assertLessEqual(amount, 1.05 * (window.high or float("inf")), window.key)
            for food, grams in found.days[d].foods:
                told = set(food.allergens) & set(found.week.client.allergies)
                self.assertFalse(told and grams > 0, food.name)

    def test_limits_count_once_the_clinician_is_named_with_a_day(self) -> None:
        found, _ = self.planned("dialysis", PEOPLE["dialysis, no limits recorded"].facts)
        present = found.week.client.target_sets.get()
        present.windows.create(key="potassium_mg", high=2500, needs_clinician=True)
        present.windows.create(key="phosphorus_mg", high=1000, needs_clinician=True)
        stops = {one.key for one in obstacles(found) if one.is_stop}
        self.assertIn("needed-potassium_mg", stops)
        present.clinician, present.clinician_on = "Dr A. Marsh", clock.today()
        present.save()
        stops = {one.key for one in obstacles(found) if one.is_stop}
        self.assertFalse({key for key in stops if key.startswith("needed-")})

    def test_the_week_says_what_is_short_and_leads_to_what_would_close_it(self) -> None:
        name = "coeliac with iron deficiency"
        found, _ = self.planned(name, PEOPLE[name].facts)
        self.client.force_login(self.user)
        page = self.client.get(reverse("weeks:week", args=[found.week.pk])).content.decode()
        line = page[page.index("Short a day, supplements counted:") :][:1500]
        gaps = [one for one in verdicts_of(found) if one.is_gap]
        self.assertTrue(gaps)
        for one in gaps:
            self.assertIn(one.brief(), line)
        self.assertIn(reverse("weeks:nutrients", args=[found.week.pk]), line)
