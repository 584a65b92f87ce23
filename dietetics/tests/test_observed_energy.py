"""Expenditure as observed, against made-up clients whose true expenditure is known."""

from __future__ import annotations

import random
import unittest
from datetime import date, timedelta

from dietetics.follow.expected_weight import expected_days
from dietetics.follow.observed_energy import EatenDay, ObservedEnergy, observed_energy
from dietetics.follow.trajectory import WeighIn, trajectory
from dietetics.targets.energy import required_kcal
from dietetics.targets.person import Person

START, DAYS, CLIENTS = date(2026, 8, 1), 84, 200


def simulated(seed: int, written_down: float = 1.0) -> tuple[ObservedEnergy | str, float]:
    """A client of eight weeks: what is observed in the last six, and the truth. Intake, water and
    need are drawn; the body follows the dynamic model, whose first weeks of water are left out.
    """
    draw = random.Random(seed)
    height, bmi = draw.uniform(155, 190), draw.uniform(22, 36)
    person = Person(
        draw.choice(("female", "male")),
        draw.uniform(25, 70),
        height,
        bmi * (height / 100) ** 2,
    )
    equation = required_kcal(person)
    assert equation is not None
    true_need = equation * draw.gauss(1, 0.08)
    intake = true_need - draw.uniform(0, 600)
    days = expected_days(person, intake, DAYS, true_need)
    weights = [
        WeighIn(START + timedelta(days=n), one.kg * (1 + draw.gauss(0, 0.006)))
        for n, one in enumerate(days)
        if n % 2 == 0
    ]
    window = range(DAYS - 42, DAYS + 1)
    eaten = [
        EatenDay(START + timedelta(days=n), written_down * intake * draw.gauss(1, 0.1))
        for n in window
    ]
    spent = sum(days[n].spent_kcal for n in window) / len(window)
    return observed_energy(trajectory(weights), eaten), spent


class AgainstKnownClients(unittest.TestCase):
    def test_the_interval_holds_the_truth(self) -> None:
        inside, off = 0, []
        for seed in range(CLIENTS):
            found, spent = simulated(seed)
            assert isinstance(found, ObservedEnergy)
            inside += abs(found.kcal - spent) <= found.half
            off.append(abs(found.kcal - spent))
        self.assertGreaterEqual(inside / CLIENTS, 0.93)
        self.assertLess(sum(off) / CLIENTS, 150)

    def test_a_fifth_left_out_of_the_diary_is_a_fifth_of_the_intake_missing(self) -> None:
        full, _ = simulated(5)
        less, _ = simulated(5, written_down=0.8)
        assert isinstance(full, ObservedEnergy) and isinstance(less, ObservedEnergy)
        self.assertAlmostEqual(full.kcal - less.kcal, 0.2 * full.mean_intake, delta=1)


class TooLittle(unittest.TestCase):
    def line(self, days: int):  # type: ignore[no-untyped-def]
        return trajectory([WeighIn(START + timedelta(days=n), 72.0) for n in range(0, days + 1, 3)])

    def test_less_than_three_weeks_is_not_told(self) -> None:
        eaten = [EatenDay(START + timedelta(days=n), 2000.0) for n in range(15)]
        self.assertEqual(observed_energy(self.line(15), eaten), "14 of at least 21 days")

    def test_no_day_with_both_is_not_told(self) -> None:
        self.assertIn("no day with both", str(observed_energy(self.line(30), [])))
        late = [EatenDay(START + timedelta(days=400), 2000.0)]
        self.assertIn("no day with both", str(observed_energy(self.line(30), late)))

    def test_days_without_a_diary_are_not_zero(self) -> None:
        eaten = [EatenDay(START + timedelta(days=n), 2000.0 if n % 2 else None) for n in range(31)]
        self.assertIn("known of 15 of 30 days", str(observed_energy(self.line(30), eaten)))

    def test_a_level_weight_spends_what_is_eaten(self) -> None:
        eaten = [EatenDay(START + timedelta(days=n), 2000.0) for n in range(31)]
        found = observed_energy(self.line(30), eaten)
        assert isinstance(found, ObservedEnergy)
        self.assertAlmostEqual(found.kcal, 2000, places=3)


if __name__ == "__main__":
    unittest.main()
