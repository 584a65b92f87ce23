"""Timetables against trying everything, against published job shops, and for random kitchens."""

from __future__ import annotations

from dataclasses import replace
from itertools import product
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from dietetics.errors import DieteticsError
from dietetics.prep.doubt import length_range
from dietetics.prep.joining import sharing_heat
from dietetics.prep.kitchen import Kitchen, kitchen_of_words
from dietetics.prep.planning import quick_timetable, timetable
from dietetics.prep.tasks import Minutes, Task
from dietetics.prep.timetable import OVEN_CHANGE_MIN, PREHEAT_MIN, Proof, asked_of
from dietetics.prep.timetable_recheck import broken_rules

# Fisher & Thompson 1963, 6 × 6: machine and minutes of each step of each job. Optimum 55.
FT06 = """
2 1 0 3 1 6 3 7 5 3 4 6
1 8 2 5 4 10 5 10 0 10 3 4
2 5 3 4 5 8 0 9 1 1 4 7
1 5 0 5 2 5 3 3 4 8 5 9
2 9 1 3 4 5 5 4 0 3 3 1
1 3 3 3 5 9 0 10 4 4 2 1
"""
# Lawrence 1984, la01, 10 × 5. Optimum 666. Both instances and optima from memory.
LA01 = """
1 21 0 53 4 95 3 55 2 34
0 21 3 52 4 16 2 26 1 71
3 39 4 98 1 42 2 31 0 12
1 77 0 55 4 79 2 66 3 77
0 83 3 34 2 64 1 19 4 37
1 54 2 43 4 79 0 92 3 62
3 69 4 77 1 87 2 87 0 93
2 38 0 60 1 41 3 24 4 83
3 17 1 49 4 25 0 44 2 98
4 77 3 79 2 43 1 75 0 96
"""


def minutes(value):
    """Exactly so many."""
    return Minutes(value, value, value)


def task(key, hands=0, wait=0, device="", after=(), celsius=None, within=None, dish="dish"):
    """A task in short."""
    return Task(
        key, dish, key, "do", minutes(hands), minutes(wait), device, celsius,
        after=tuple(after), within=within,
    )  # fmt: skip


def job_shop(text):
    """A job shop as tasks of machines, and the kitchen of its machines."""
    tasks = []
    for job, line in enumerate(text.split("\n")[1:-1]):
        numbers = [int(number) for number in line.split()]
        before = ()
        for step, (machine, length) in enumerate(zip(numbers[::2], numbers[1::2], strict=True)):
            key = f"j{job}s{step}"
            tasks.append(task(key, 0, length, f"machine {machine}", before, dish=f"job {job}"))
            before = (key,)
    return tasks, Kitchen(others={one.device: 1 for one in tasks})


class KnownOptima(TestCase):
    def test_the_job_shop_of_fisher_and_thompson(self):
        found = timetable(asked_of(*job_shop(FT06)))
        self.assertEqual((found.length, found.proof), (55, Proof.SHORTEST))

    def test_a_job_shop_of_lawrence(self):
        found = timetable(asked_of(*job_shop(LA01)))
        self.assertEqual((found.length, found.proof), (666, Proof.SHORTEST))


def can_be_cooked(tasks, kitchen, starts):
    """Written a third time, for four tasks: minute by minute, by the words of the rules."""
    span = {}
    for one, at in zip(tasks, starts, strict=True):
        hands = range(at, at + round(one.hands.likely))
        whole = range(at, at + round(one.hands.likely) + round(one.wait.likely))
        span[one.key] = (hands, whole)
        for key in one.after:
            if at < span[key][1].stop:
                return False
            if one.within is not None and at > span[key][1].stop + one.within:
                return False
    for minute in range(max(whole.stop for _, whole in span.values())):
        hands_in = sum(minute in hands for hands, _ in span.values())
        on = [t for t in tasks if t.device == "burner" and minute in span[t.key][1]]
        if hands_in > kitchen.cooks or len(on) > kitchen.burners:
            return False
    return ovens_agree(tasks, kitchen, span)


def ovens_agree(tasks, kitchen, span):
    """One oven: hot before anything goes in, one heat at a time, no more than its trays."""
    loads = [
        (span[t.key][0].stop, span[t.key][1].stop, t.celsius) for t in tasks if t.device == "oven"
    ]
    for n, (start, end, heat) in enumerate(loads):
        if start < PREHEAT_MIN:
            return False
        for start2, end2, heat2 in loads[n + 1 :]:
            gap = OVEN_CHANGE_MIN if heat != heat2 else 0
            together = start < end2 + gap and start2 < end + gap
            if together and (heat != heat2 or kitchen.trays < 2):
                return False
    return True


def drawn_evenings(most, hands, wait):
    """Up to so many tasks with so many minutes at most, some on a burner, some after another."""
    one = st.tuples(
        st.integers(0, hands),
        st.integers(0, wait),
        st.sampled_from(["", "burner", "burner"]),
        st.booleans(),
    )
    return st.lists(one, min_size=2, max_size=most)


class AgainstTryingEverything(TestCase):
    @settings(max_examples=20, deadline=None)
    @given(drawn_evenings(3, 3, 4), st.integers(1, 2))
    def test_small_evenings_are_as_short_as_any(self, drawn, burners):
        self.is_as_short_as_any(drawn, burners)

    @settings(max_examples=8, deadline=None)
    @given(drawn_evenings(4, 1, 1), st.integers(1, 2))
    def test_so_are_those_with_one_step_more(self, drawn, burners):
        self.is_as_short_as_any(drawn, burners)

    def is_as_short_as_any(self, drawn, burners):
        """Every start of every task is tried."""
        tasks = []
        for n, (hands, wait, device, chained) in enumerate(drawn):
            after = (str(n - 1),) if chained and n else ()
            tasks.append(task(str(n), hands, wait, device, after, dish=f"d{n}"))
        kitchen = Kitchen(burners=burners)
        found = timetable(asked_of(tasks, kitchen))
        shortest = min(
            max(at + one.minutes for at, one in zip(starts, tasks, strict=True))
            for starts in product(*[range(found.length - one.minutes + 1) for one in tasks])
            if can_be_cooked(tasks, kitchen, starts)
        )
        self.assertEqual(found.length, shortest)
        self.assertIs(found.proof, Proof.SHORTEST)
        self.assertLessEqual(found.least, shortest)

    def test_two_heats_in_one_oven(self):
        tasks = [
            task("a", 1, 3, "oven", celsius=200),
            task("b", 1, 2, "oven", celsius=150, dish="e"),
            task("c", 1, 3, "oven", celsius=200, dish="f"),
        ]
        # one cook: a goes in at 12, c at 13 and comes out at 16; the oven cools until 26; b is
        # out at 28. The other way round: b from 12 to 14, a in at 24, c at 25, out at 28.
        found = timetable(asked_of(tasks))
        self.assertEqual((found.length, found.proof), (28, Proof.SHORTEST))


MINUTES = st.integers(0, 40)


@st.composite
def evenings(draw):
    """A random evening in a random kitchen."""
    tasks = []
    for n in range(draw(st.integers(1, 12))):
        device = draw(st.sampled_from(["", "", "burner", "oven", "blender"]))
        after = [str(k) for k in range(n) if draw(st.integers(0, 5)) == 0]
        within = draw(st.sampled_from([None, None, 0, 10])) if after else None
        heat = draw(st.sampled_from([150.0, 180.0, 200.0])) if device == "oven" else None
        tasks.append(
            task(str(n), draw(MINUTES), draw(MINUTES), device, after, heat, within, f"d{n % 4}")
        )
    kitchen = Kitchen(
        cooks=draw(st.integers(1, 2)), ovens=draw(st.integers(1, 2)), trays=draw(st.integers(1, 2)),
        burners=draw(st.integers(1, 3)),
    )  # fmt: skip
    return tasks, kitchen


class RandomKitchens(TestCase):
    @settings(max_examples=40, deadline=None)
    @given(evenings())
    def test_every_timetable_passes_the_re_check_and_none_beats_its_bound(self, drawn):
        asked = asked_of(*drawn)
        for found in (quick_timetable(asked), timetable(asked)):
            self.assertEqual(broken_rules(found), [])
            if not found.late:
                self.assertGreaterEqual(found.length, found.least)

    @settings(max_examples=15, deadline=None)
    @given(evenings())
    def test_the_same_question_gets_the_same_answer(self, drawn):
        asked = asked_of(*drawn)
        self.assertEqual(timetable(asked).starts, timetable(asked).starts)


class TheReCheckNotices(TestCase):
    def setUp(self):
        self.tasks = [
            task("chop", 5),
            task("boil", 1, 20, "burner", ("chop",), within=10),
            task("roast", 2, 30, "oven", (), 200.0, dish="e"),
            task("bake", 2, 15, "oven", (), 150.0, dish="f"),
        ]
        self.found = timetable(asked_of(self.tasks, Kitchen(burners=1, trays=1)))

    def broken(self, **starts):
        return " ".join(broken_rules(replace(self.found, starts={**self.found.starts, **starts})))

    def test_a_good_one_breaks_nothing(self):
        self.assertEqual(self.broken(), "")

    def test_each_rule_that_is_broken(self):
        at = self.found.starts
        self.assertIn("before what it needs", self.broken(boil=0))
        self.assertIn("hands", self.broken(roast=at["chop"]))
        self.assertIn("cold oven", self.broken(roast=0, chop=90, boil=95, bake=60))
        self.assertIn("different heats", self.broken(bake=at["roast"] + 3))
        self.assertIn("too late", self.broken(boil=at["chop"] + 100))
        self.assertIn(
            "in the past",
            " ".join(broken_rules(replace(self.found, asked=replace(self.found.asked, now=5)))),
        )


class BadQuestions(TestCase):
    def test_a_circle_is_named_step_by_step(self):
        tasks = [task("a", 1, after=("b",)), task("b", 1, after=("a",)), task("c", 1)]
        with self.assertRaisesRegex(DieteticsError, "a → b → a"):
            asked_of(tasks)

    def test_what_cannot_be_asked(self):
        for tasks, kitchen, code in (
            ([task("a", 1), task("a", 2)], Kitchen(), "prep-twice"),
            ([task("a", 1, after=("x",))], Kitchen(), "prep-unknown-after"),
            ([task("a", 9999)], Kitchen(), "prep-minutes"),
            ([task("a", 1, 9, "oven", celsius=200.0)], Kitchen(ovens=0), "prep-no-device"),
            ([task(str(n), 1) for n in range(201)], Kitchen(), "prep-too-many"),
        ):
            with self.subTest(code), self.assertRaises(DieteticsError) as raised:
                asked_of(tasks, kitchen)
            self.assertEqual(raised.exception.code, code)
        with self.assertRaises(DieteticsError):
            Kitchen(cooks=0)

    def test_nothing_to_cook_takes_no_time(self):
        found = timetable(asked_of([]))
        self.assertEqual((found.length, found.proof), (0, Proof.SHORTEST))


class Kitchens(TestCase):
    def test_what_a_client_says_of_their_kitchen(self):
        self.assertEqual(kitchen_of_words("two burners, oven")[0].burners, 2)
        self.assertEqual(kitchen_of_words("no oven, 3 burners")[0].ovens, 0)
        found, assumed = kitchen_of_words("oven, pressure cooker")
        self.assertEqual((found.pressure_cookers, found.burners), (1, 4))
        self.assertIn("4 burners", assumed)


class SharedHeat(TestCase):
    def test_about_the_same_heat_is_shared_and_the_time_follows(self):
        roast = task("a", 1, 40, "oven", celsius=200.0, dish="Roots")
        bake = task("b", 1, 20, "oven", celsius=190.0, dish="Balls")
        hot = task("c", 1, 30, "oven", celsius=240.0, dish="Crisps")
        also = task("d", 1, 10, "oven", celsius=200.0, dish="Nuts")
        found, words = sharing_heat([roast, bake, hot, also])
        self.assertEqual([one.celsius for one in found], [200.0, 200.0, 240.0, 200.0])
        self.assertEqual(found[1].wait_min, 18)  # 10 °C hotter: a tenth shorter
        self.assertEqual(found[1].asked_celsius, 190.0)
        self.assertEqual(len(words), 1)
        self.assertIn("200 °C instead of 190", words[0])


class Doubt(TestCase):
    def test_least_and_most_of_a_chain_and_of_one_pair_of_hands(self):
        chop = replace(task("chop", 5), hands=Minutes(4, 5, 8))
        boil = replace(task("boil", 1, 20, "burner", ("chop",)), wait=Minutes(15, 20, 30))
        self.assertEqual(length_range(timetable(asked_of([chop, boil]))), (4 + 1 + 15, 8 + 1 + 30))
        two = [replace(task(key, 5, dish=key), hands=Minutes(4, 5, 8)) for key in ("a", "b")]
        self.assertEqual(length_range(timetable(asked_of(two))), (8, 16))

    @settings(max_examples=30, deadline=None)
    @given(evenings())
    def test_without_doubt_an_evening_takes_no_longer_than_planned(self, drawn):
        found = quick_timetable(asked_of(*drawn))
        low, high = length_range(found)
        self.assertEqual(low, high)
        self.assertLessEqual(high, found.length)
