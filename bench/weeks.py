"""Weeks in the bench: made-up ones of three sizes, the time to a good week, and the gap that is
proven after 20 s.
"""

from __future__ import annotations

import random
import statistics
import time
from collections.abc import Callable, Sequence

from dietetics.targets.windows import Window
from dietetics.week.day_prices import Ask
from dietetics.week.question.question import BatchFacts, Offer, Question, Rules, SlotMeal
from dietetics.week.question.recheck import broken_rules
from dietetics.week.search.improving import first_week, improve, settle

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


TUNED_ON, NOT_TUNED_ON = range(4), range(4, 8)  # seeds
PROVEN = 0.01  # a week within so much of its bound counts as proven


def measured(yardstick: Callable[[], None], seconds: float = 20.0) -> None:
    """Print for each size, for the seeds that were looked at while the search was written and for
    others: a good week, how far it is from the best that was found then, and what is proven.
    """
    for title, seeds in (("seeds 0–3", TUNED_ON), ("seeds 4–7, not tuned on", NOT_TUNED_ON)):
        proven, worst, behind = 0, 0.0, list[float]()
        for name, meals, dishes in SIZES:
            firsts, above, gaps, times, units = _size(yardstick, seeds, meals, dishes, seconds)
            unit = statistics.median(units)
            proven += sum(gap <= PROVEN for gap in gaps)
            worst, behind = max(worst, *gaps), behind + above
            print(
                f"week, {name}, {title}: good week {statistics.median(firsts):.2f} s "
                f"({statistics.median(firsts) / unit:.0f} yardsticks), "
                f"{', '.join(f'{share:.1%}' for share in above)} above the best found; gap after "
                f"at most {seconds:.0f} s: {', '.join(f'{gap:.2%}' for gap in gaps)} "
                f"(took {', '.join(f'{took:.1f}' for took in times)} processor seconds)"
            )
        print(
            f"weeks, {title}: {proven} of {len(SIZES) * len(seeds)} within {PROVEN:.0%} of what is "
            f"proven, at worst {worst:.1%}; good weeks {statistics.median(behind):.1%} above the "
            f"best found in the median, {max(behind):.1%} at worst"
        )


def _size(
    yardstick: Callable[[], None],
    seeds: Sequence[int],
    meals: tuple[SlotMeal, ...],
    dishes: int,
    seconds: float,
) -> tuple[list[float], list[float], list[float], list[float], list[float]]:
    """For weeks of one size: seconds to a good week, its share above the best, the proven gap,
    processor seconds of the search, seconds of the yardstick.
    """
    firsts, above, gaps, times, units = (list[float]() for _ in range(5))
    for seed in seeds:
        start = time.perf_counter()
        yardstick()
        units.append(time.perf_counter() - start)
        question = made_up(seed, meals, dishes)
        start = time.perf_counter()
        settled = settle(question)
        first = first_week(question, settled)
        firsts.append(time.perf_counter() - start)
        start = time.process_time()
        best = improve(settled, seconds)
        times.append(time.process_time() - start)
        assert not broken_rules(best), broken_rules(best)
        assert best.bound is None or best.bound <= best.points + 1e-6
        gaps.append(best.gap if best.gap is not None else 1.0)
        above.append((first.points - best.points) / best.points)
    return firsts, above, gaps, times, units
