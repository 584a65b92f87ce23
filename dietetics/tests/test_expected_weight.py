"""The dynamic model of weight against what its paper says of it (Hall et al. 2011, from memory):
10 kcal a day for about 0.45 kg in the end, half of it in about a year, 95 % in about three; 24 kcal
a day for a kilogram.
"""

from __future__ import annotations

import unittest

from dietetics.errors import DieteticsError
from dietetics.follow.expected_weight import expected_days, fat_kg, why_not
from dietetics.targets.energy import required_kcal
from dietetics.targets.person import Person

MAN, WOMAN = Person("male", 40, 178, 90), Person("female", 40, 165, 75)


def change(person: Person, kcal: float, days: int) -> list[float]:
    """The change of weight on each day, with so many kcal more a day."""
    need = required_kcal(person)
    assert need is not None
    return [one.kg - person.weight_kg for one in expected_days(person, need + kcal, days)]


class AgainstThePaper(unittest.TestCase):
    def test_ten_kilocalories_a_day_are_a_pound_in_the_end(self) -> None:
        for person in (MAN, WOMAN):
            self.assertAlmostEqual(-change(person, -10, 3650)[-1], 0.45, delta=0.08)

    def test_twenty_four_kilocalories_a_kilogram(self) -> None:
        for person in (MAN, WOMAN):
            self.assertAlmostEqual(100 / -change(person, -100, 3650)[-1], 24, delta=3)

    def test_half_in_a_year_and_nearly_all_in_three(self) -> None:
        for person in (MAN, WOMAN):
            line = change(person, -100, 3650)
            self.assertAlmostEqual(line[365] / line[-1], 0.5, delta=0.15)
            self.assertAlmostEqual(line[3 * 365] / line[-1], 0.95, delta=0.04)

    def test_the_first_days_lose_water(self) -> None:
        line = change(WOMAN, -500, 30)
        self.assertGreater(line[0] - line[3], 3 * 500 / 7700 * 2)  # more than fat alone could be
        self.assertLess(line[14] - line[28], line[0] - line[14])

    def test_what_is_spent_falls_to_what_is_eaten(self) -> None:
        need = required_kcal(MAN)
        assert need is not None
        days = expected_days(MAN, need - 300, 3650)
        self.assertGreater(days[30].spent_kcal, need - 200)
        self.assertAlmostEqual(days[-1].spent_kcal, need - 300, delta=3)

    def test_what_kept_the_weight_keeps_it(self) -> None:
        for one in change(MAN, 0, 400):
            self.assertAlmostEqual(one, 0, places=6)


class Limits(unittest.TestCase):
    def test_whom_it_is_not_made_for(self) -> None:
        for person in (
            Person("female", 30, 165, 70, pregnant=True, pregnancy_week=20),
            Person("female", 15, 165, 60), Person("female", 30, 170, 48),
            Person("female", 30, 165, 70, breastfeeding=True),
        ):  # fmt: skip
            self.assertTrue(why_not(person))
            with self.assertRaises(DieteticsError) as refused:
                expected_days(person, 2000, 10)
            self.assertIn(why_not(person), str(refused.exception))

    def test_body_fat_is_what_people_have(self) -> None:
        self.assertTrue(0.2 < fat_kg(MAN) / MAN.weight_kg < 0.35)
        self.assertTrue(0.3 < fat_kg(WOMAN) / WOMAN.weight_kg < 0.45)


if __name__ == "__main__":
    unittest.main()
