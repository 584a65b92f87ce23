"""Weeks in the bench: made-up ones of three sizes, the time to a good week, to 5 %, and the gap
after 20 s; the week's page.
"""

from __future__ import annotations

import random
import statistics
import time
from collections.abc import Callable

from dietetics.targets.windows import Window
from dietetics.week.annealing import good_week
from dietetics.week.improving import improve
from dietetics.week.question import Ask, BatchFacts, Offer, Question, Rules, SlotMeal
from dietetics.week.recheck import broken_rules

THREE = (
    SlotMeal("Breakfast", 0.25, 0.25, False),
    SlotMeal("Lunch", 0.35, 0.35),
    SlotMeal("Dinner", 0.4, 0.4),
)
FOUR = (
    SlotMeal("Breakfast", 0.25, 0.25, False),
    SlotMeal("Lunch", 0.3, 0.3),
    SlotMeal("Snack", 0.1, 0.1, False),
    SlotMeal("Dinner", 0.35, 0.35),
)
WINDOWS = (
    Window("energy_kcal", 1900, 2100, "must"), Window("protein_g", 80, 110, "must"),
    Window("kcal_per_g", None, 1.3),
    Window("fibre_g", 30, None), Window("sodium_mg", None, 1800), Window("calcium_mg", 1000, None,
    "watch"),
)  # fmt: skip
SIZES = (
    ("7 × 3 meals, 12 dishes", THREE, 12),
    ("7 × 4 meals, 20 dishes", FOUR, 20),
    ("7 × 4 meals, 40 dishes", FOUR, 40),
)


def made_up(seed: int, meals: tuple[SlotMeal, ...], dishes: int) -> Question:
    """A week of made-up dishes: two thirds of the mains from pots, some of which share one, some
    that do not travel.
    """
    rng = random.Random(seed)
    pots, offers = [], []
    mains = frozenset(meal.name for meal in meals if meal.main)
    for n in range(dishes):
        meal = meals[n % len(meals)]
        energy = 2000 * meal.share * rng.uniform(0.75, 1.25)
        own = {}
        if rng.random() < (0.75 if meal.main else 0.3):
            if not pots or rng.random() < 0.8:
                pots.append(BatchFacts(f"pot-{n}", f"Pot {n}", rng.choice((2, 3, 4, 4, 5))))
            own = {
                rng.choice(pots).key if rng.random() < 0.3 else pots[-1].key: 1
                / rng.choice((3, 4, 5, 6, 7))
            }
        amounts = {
            "energy_kcal": energy,
            "protein_g": energy * rng.uniform(0.03, 0.06),
            "fibre_g": energy * rng.uniform(0.008, 0.025),
            "sodium_mg": energy * rng.uniform(0.3, 1.3),
            "calcium_mg": energy * rng.uniform(0.2, 0.8),
            "ask:greens": rng.choice((0.0, 20.0, 60.0)),
            "ask:beans": rng.choice((0.0, 50.0, 150.0)),
        }
        offers.append(
            Offer(
                f"dish-{n}",
                f"Dish {n}",
                mains if meal.main else frozenset({meal.name}),
                amounts,
                energy / rng.uniform(0.8, 1.7),
                own,
                {},
                rng.random() < 0.6,
                rng.randint(0, 3),
                4 if meal.main else 7,
                rng.choice((1, 1, 2)) if meal.main else 1,
            )
        )
    asks = (Ask("greens", "Greens", 80, "should"), Ask("beans", "Beans", 130, "should"))
    kinds = ("home", "home", "travel", "home", "home", "home", "home")
    return Question(kinds, meals, WINDOWS, tuple(offers), tuple(pots), asks, Rules())


def measured(yardstick: Callable[[], None], seconds: float = 20.0, each: int = 4) -> None:
    """Print for each size: a good week, how far from the proven bound it is, when 5 % is reached,
    and the gap at the end.
    """
    for name, meals, dishes in SIZES:
        firsts, gaps, fives, lasts, units = [], [], [], [], []
        for seed in range(each):
            start = time.perf_counter()
            yardstick()
            units.append(time.perf_counter() - start)
            question = made_up(seed, meals, dishes)
            start = time.perf_counter()
            first = good_week(question, 1)
            firsts.append(time.perf_counter() - start)
            reached: list[float] = []

            def told(
                at: float, points: float, bound: float, reached: list[float] = reached
            ) -> bool:
                if not reached and bound > 0 and (points - bound) / points <= 0.05:
                    reached.append(at)
                return True

            start = time.perf_counter()
            best = improve(question, first, seconds, told)
            took = time.perf_counter() - start
            assert not broken_rules(best), broken_rules(best)
            gap = best.gap if best.gap is not None else 1.0
            gaps.append((first.points - (best.bound or 0.0)) / first.points)
            fives.append(reached[0] if reached else (took if gap <= 0.05 else float("inf")))
            lasts.append(gap)
        unit = statistics.median(units)
        print(
            f"week, {name}: good week {statistics.median(firsts):.2f} s "
            f"({statistics.median(firsts) / unit:.0f} yardsticks), at most "
            f"{statistics.median(gaps):.1%} (worst {max(gaps):.1%}) above the bound; 5 % proven "
            f"after {statistics.median(fives):.1f} s "
            f"(worst {max(fives):.1f}); gap after {seconds:.0f} s: median "
            f"{statistics.median(lasts):.1%}, worst {max(lasts):.1%}"
        )
