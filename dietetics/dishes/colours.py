"""The colours of a bowl: which colour a plant brings, so that they can be counted. Our own
judgement, no source.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from dietetics.composition.foods import Food

COLOURS: Mapping[str, frozenset[str]] = {
    "red": frozenset(
        {"tomato", "cherry-tomatoes", "tomatoes-canned", "crushed-tomatoes-canned", "tomato-paste",
        "tomato-puree",
         "tomato-sauce", "sun-dried-tomatoes", "red-pepper", "red-chili", "radish",
         "strawberries-raw", "raspberries",
         "watermelon-raw", "cranberries-raw", "cherries-raw", "pomegranate-seeds", "kidney-beans",
         "adzuki-beans", "salsa"}
    ),
    "orange": frozenset(
        {"carrot", "sweet-potato", "pumpkin", "butternut-squash", "red-lentils", "orange-raw",
        "clementine-raw", "mango",
         "papaya-raw", "apricot-fresh", "apricots-dried", "persimmon-raw", "cantaloupe-raw", "yam"}
    ),
    "yellow": frozenset(
        {"yellow-pepper", "yellow-squash", "corn", "banana-raw", "pineapple", "spaghetti-squash",
        "lemon-raw", "split-peas",
         "peach-raw"}
    ),
    "purple": frozenset(
        {"beet", "red-cabbage", "eggplant", "blueberries", "blackberries-raw", "black-beans",
        "black-rice", "plum-raw",
         "fig-fresh", "prunes", "radicchio", "grapes-raw", "mixed-berries", "raisins"}
    ),
    "white": frozenset(
        {"cauliflower", "onion", "leek", "daikon", "turnip", "kohlrabi", "fennel", "parsnip",
        "celeriac", "potato", "jicama",
         "bean-sprouts", "white-beans", "butter-beans", "tofu"}
    ),
}  # fmt: skip
GREEN_GROUPS = frozenset({"leafy-green"})
GREEN = frozenset(
    {"broccoli", "broccolini", "green-beans", "green-peas", "snow-peas", "zucchini", "cucumber",
    "green-pepper", "celery",
     "asparagus", "brussels-sprouts", "cabbage", "savoy-cabbage", "napa-cabbage", "okra",
     "green-onion", "artichoke", "edamame",
     "avocado", "kiwi-raw", "nori", "wakame", "nopales", "tomatillo", "alfalfa-sprouts"}
)  # fmt: skip
BROWN_GROUPS = frozenset({"mushroom"})


def colour_of(food: Food) -> str:
    """The colour a plant brings; "" for what brings none worth counting (grains, oils,
    seasonings).
    """
    if food.group in GREEN_GROUPS or food.family in GREEN:
        return "green" if food.family != "radicchio" else "purple"
    if food.group in BROWN_GROUPS:
        return "brown"
    return next((colour for colour, families in COLOURS.items() if food.family in families), "")


def colours_of(foods: Iterable[tuple[Food, float]], at_least_g: float) -> tuple[str, ...]:
    """The colours of a bowl, each brought by at least so many grams in all."""
    grams: dict[str, float] = {}
    for food, amount in foods:
        colour = colour_of(food)
        if colour:
            grams[colour] = grams.get(colour, 0.0) + amount
    return tuple(sorted(colour for colour, amount in grams.items() if amount >= at_least_g))
