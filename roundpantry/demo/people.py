"""The invented practice, its practitioners, clients, targets and bowls."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

PRACTICE = "Harbour Row Nutrition Rooms"
PRACTITIONERS = (("petra", "Petra", "Nwosu"), ("joon", "Joon", "Halvorsen"))
PRACTICE, REACH = "Tideline Kitchen Practice", "555-0142, Monday to Thursday 9 to 16"  # made up
PASSWORD = "tideline-bowl-2026"
# Bowls that stand as they were typed: one to be balanced by hand or by key, and those that show
# what can go wrong.
LEFT_AS_TYPED = (
    "Tideline bowl", "Tideline, too much potassium", "Dark-bread tartine, with too much spread",
    "Greens swing",
)  # fmt: skip


@dataclass(frozen=True)
class DemoClient:
    """One invented client: facts, windows as (key, low, high, importance), meals, and bowls as
    text.

    `table` are places laid for others as (bowl, eater, share), `patterns` bowls kept as patterns
    with further options as (role, food, amount).
    """

    practitioner: str
    facts: dict[str, object]
    windows: tuple[tuple[str, float | None, float | None, str], ...]
    meals: tuple[tuple[str, int], ...]
    bowls: tuple[tuple[str, str, str], ...]
    table: tuple[tuple[str, str, float], ...] = ()
    patterns: tuple[tuple[str, tuple[tuple[int, str, str], ...]], ...] = ()


ROWER = DemoClient(
    "petra",
    {
        "name": "Maren Okafor",
        "sex": "female",
        "age_years": 34,
        "height_cm": 178,
        "weight_kg": 72,
        "cautions": "",
        "allergies": ["peanut"],
        "activity": "very-active",
        "goal": "build",
        "school": "training",
        "meals_a_day": 4,
        "meal_hours": "6:30, 12:00, 16:00, 20:00",
        "kitchen": "oven, four burners, blender",
        "supplements": "B12 50 µg daily, vitamin D 25 µg daily, iodine 150 µg daily",
        "notes": "Rowing coach, trains ten hours a week. Wants protein from several sources.",
    },
    (
        ("energy_kcal", 2700, 3000, "must"),
        ("protein_g", 120, 150, "must"),
        ("kcal_per_g", None, 1.7, "should"),
        ("fibre_g", 38, None, "should"),
        ("sodium_mg", None, 2300, "should"),
    ),
    (("Breakfast", 25), ("Lunch", 30), ("Snack", 15), ("Dinner", 30)),
    (
        (
            "Tideline bowl",
            "Lunch",
            "quinoa-cooked 1 1/2 cups; tofu-firm 140 g; edamame-frozen 1/2 cup; kale-raw 1/2 cup "
            "chopped; beet-raw 1 small; "
            "avocado 1/2; nori-dried 1 sheet; tahini 1 tbsp; vinegar-rice 1 tbsp; miso-white 1 tsp",
        ),
        (
            "Bow-wave breakfast",
            "Breakfast",
            "batch:Harbour porridge 1 1/2 servings; soy-yogurt 1/2 cup; blueberries-raw 3/4 cup; "
            "hemp-seeds 2 tbsp; "
            "pumpkin-seeds 1 tbsp",
        ),
        (
            "Stroke-seat supper",
            "Dinner",
            "batch:Lamplighter 1 serving; brown-rice-cooked 1 1/2 cups; broccoli-cooked 1/2 cup; "
            "tempeh 80 g; lemon-juice 1 tbsp",
        ),
        (
            "Slipway snack",
            "Snack",
            "edamame-frozen 3/4 cup; banana-raw 1; almonds 2 tbsp; rye-crispbread 2 slices",
        ),
        (
            "Boathouse seitan",
            "Dinner",
            "seitan 85 g; brown-rice-cooked 2 cups; bok-choy-cooked 1/2 cup; edamame-frozen 1/2 "
            "cup; shiitake-raw 1/2 cup sliced; "
            "soy-sauce-low-sodium 2 tsp; sesame-seeds 1 tbsp; cashews-raw 2 tbsp",
        ),
        (
            "Regatta lentils",
            "Lunch",
            "lentils-cooked 1 cup; sweet-potato-boiled 1 cup mashed; batch:Fogbell 1 serving; "
            "spinach-raw 1 cup; "
            "batch:Breakwater 2 servings; walnuts 1 tbsp",
        ),
    ),
)
KEEPER = DemoClient(
    "petra",
    {
        "name": "Tobias Lindqvist",
        "sex": "male",
        "age_years": 71,
        "height_cm": 174,
        "weight_kg": 76,
        "cautions": "Potassium limit 2,500 mg",
        "conditions": ["ckd-3", "potassium-raising"],
        "activity": "low-active",
        "goal": "kidneys",
        "school": "kidney-aware",
        "meals_a_day": 3,
        "kitchen": "two burners, oven",
        "notes": "Retired lighthouse keeper. Protein and potassium set by his kidney clinician, "
        "letter of 3 May. No salt "
        "substitutes.",
    },
    (
        ("energy_kcal", 1900, 2150, "must"),
        ("protein_g", 45, 60, "must"),
        ("kcal_per_g", None, 1.6, "watch"),
        ("fibre_g", 28, None, "should"),
        ("sodium_mg", None, 1500, "must"),
        ("potassium_mg", None, 2500, "must"),
        ("phosphorus_mg", None, 900, "should"),
    ),
    (("Breakfast", 25), ("Lunch", 35), ("Dinner", 40)),
    (
        (
            "Keeper's barley",
            "Dinner",
            "batch:Saltless 1 1/2 servings; bread-sprouted 2 slices; cabbage-cooked 1/2 cup "
            "shredded; apple-raw 1 small; olive-oil 1 tbsp",
        ),
        (
            "Lantern lunch",
            "Lunch",
            "white-rice-cooked 1 1/2 cups; batch:Lantern 1 1/2 servings; tofu-soft 90 g; "
            "cucumber-raw 1/2 cup sliced; raspberries-raw 1/2 cup; "
            "olive-oil 1 1/2 tbsp; vinegar-cider 2 tsp",
        ),
        (
            "Calm-morning oats",
            "Breakfast",
            "oat-porridge-cooked 1 1/4 cups; blueberries-raw 1 cup; maple-syrup 1 tbsp; "
            "bread-sourdough 1 slice; "
            "jam 1 tbsp",
        ),
        (
            "Breakwall couscous",
            "Lunch",
            "couscous-cooked 2 cups; red-pepper-raw 1/2 cup chopped; cauliflower-cooked 1 cup; "
            "chickpeas-cooked 1/4 cup; "
            "olive-oil 1 1/2 tbsp; lemon-juice 1 tbsp",
        ),
        (
            "Tideline, too much potassium",
            "Dinner",
            "potato-baked 1 large; batch:Lamplighter 1 serving; avocado 1/2; tomato-paste 1 "
            "tbsp; spinach-cooked 1/2 cup",
        ),
        (
            "Noodles at dusk",
            "Dinner",
            "rice-noodles-cooked 2 cups; cabbage-raw 1 cup shredded; carrot-cooked 1/2 cup "
            "sliced; tofu-firm 100 g; snow-peas-raw 1/2 cup; "
            "sesame-oil 1 1/2 tbsp; ginger-raw 1 tsp grated; vinegar-rice 1 tbsp",
        ),
    ),
)
BAKER = DemoClient(
    "petra",
    {
        "name": "Amina Farouk-Hale",
        "sex": "female",
        "age_years": 52,
        "height_cm": 166,
        "weight_kg": 89,
        "cautions": "",
        "conditions": ["diabetes-2", "metformin"],
        "activity": "active",
        "goal": "lose",
        "pace_kg_per_week": 0.5,
        "goal_weight_kg": 77,
        "school": "starch-centred",
        "meals_a_day": 3,
        "meal_hours": "9:00, 13:00, 18:00",
        "notes": "Baker, up at three. Wants to lose 12 kg and keep eating plenty.",
    },
    (
        ("energy_kcal", 1500, 1700, "must"),
        ("protein_g", 70, 90, "must"),
        ("kcal_per_g", None, 1.1, "should"),
        ("fibre_g", 35, None, "should"),
        ("sodium_mg", None, 2000, "should"),
    ),
    (("Breakfast", 30), ("Lunch", 35), ("Dinner", 35)),
    (
        (
            "Fogbell scramble",
            "Breakfast",
            "batch:Fogbell 1 serving; spinach-cooked 1/2 cup; mushrooms-white-cooked 1/2 cup "
            "sliced; "
            "cherry-tomatoes-raw 1 cup; bread-rye 2 slices; orange-raw 1",
        ),
        (
            "Ropewalk soup and slaw",
            "Lunch",
            "batch:Ropewalk 1 1/2 servings; batch:Lantern 1 serving; tofu-firm 60 g; apple-raw 1",
        ),
        (
            "Half-root plate",
            "Dinner",
            "batch:Keel 1 1/2 servings; lentils-cooked 1 cup; broccoli-cooked 1/2 cup; "
            "romaine-raw 1 cup; batch:Breakwater 2 servings",
        ),
        (
            "Oven-gloves oats",
            "Breakfast",
            "batch:Harbour porridge 1 serving; soy-yogurt 3/4 cup; raspberries-raw 3/4 cup; "
            "hemp-seeds 1 tbsp",
        ),
        (
            "Dark-bread tartine, with too much spread",
            "Lunch",
            "bread-rye 3 slices; peanut-butter 3 tbsp; banana-raw 1; granola 1/2 cup",
        ),
        (
            "Black bean boat",
            "Dinner",
            "black-beans-cooked 1 cup; corn-frozen 1/2 cup; butternut-squash-roasted 1 cup "
            "cubed; red-pepper-raw 1/2 cup chopped; "
            "arugula-raw 1 cup; tofu-firm 80 g; salsa 2 tbsp; lime-juice 1 tbsp",
        ),
    ),
)
TEACHER = DemoClient(
    "petra",
    {
        "name": "Sunniva Castellanos",
        "sex": "female",
        "age_years": 31,
        "height_cm": 170,
        "weight_kg": 68,
        "cautions": "",
        "pregnant": True,
        "pregnancy_week": 22,
        "weight_before_kg": 63,
        "supplements": "B12 50 µg daily, vitamin D 25 µg daily, iodine 150 µg daily",
        "activity": "low-active",
        "goal": "hold",
        "school": "balanced-bowl",
        "meals_a_day": 4,
        "notes": "Teacher. Small meals often. B12, iodine and vitamin D as supplements.",
    },
    (
        ("energy_kcal", 2250, 2500, "must"),
        ("protein_g", 75, 100, "must"),
        ("kcal_per_g", None, 1.6, "watch"),
        ("fibre_g", 28, None, "should"),
        ("sodium_mg", None, 2300, "should"),
    ),
    (("Breakfast", 25), ("Lunch", 30), ("Snack", 15), ("Dinner", 30)),
    (
        (
            "Schoolyard porridge",
            "Breakfast",
            "batch:Harbour porridge 1 1/2 servings; banana-raw 1 small; soy-milk-unsweetened 1/2 "
            "cup; walnuts 1 tbsp",
        ),
        (
            "Blackboard bowl",
            "Lunch",
            "bulgur-cooked 1 1/2 cups; chickpeas-cooked 3/4 cup; kale-cooked 1/2 cup; carrot-raw "
            "1; tahini 1 1/2 tbsp; "
            "lemon-juice 1 tbsp; orange-raw 1",
        ),
        (
            "Recess plate",
            "Snack",
            "soy-yogurt 3/4 cup; strawberries-raw 1 cup; almonds 2 tbsp; apricots-dried 4",
        ),
        (
            "Chalk-cliff tofu",
            "Dinner",
            "brown-rice-cooked 1 1/2 cups; tofu-firm 120 g; broccoli-cooked 1 cup; snow-peas-raw "
            "1/2 cup; cashews-raw 2 tbsp; orange-raw 1; "
            "soy-sauce-low-sodium 2 tsp",
        ),
        (
            "Harbour-bell pasta",
            "Dinner",
            "whole-wheat-pasta-cooked 1 1/2 cups; batch:Lamplighter 1 serving; arugula-raw 1 "
            "cup; avocado 1/2; lemon-juice 1 tbsp",
        ),
        (
            "Sweet potato boat",
            "Lunch",
            "sweet-potato-baked 1 large; black-beans-cooked 1 1/4 cups; corn-frozen 3/4 cup; "
            "avocado 1/2; apple-raw 1; cilantro-fresh 2 tbsp chopped; "
            "lime-juice 1 tbsp",
        ),
    ),
)
FAMILY = DemoClient(
    "petra",
    {
        "name": "Kofi Adeyemi-Strand",
        "sex": "male",
        "age_years": 39,
        "height_cm": 181,
        "weight_kg": 82,
        "cautions": "",
        "allergies": ["sesame"],
        "dislikes": "raw onion, okra",
        "activity": "low-active",
        "goal": "eat-better",
        "school": "balanced-bowl",
        "meals_a_day": 3,
        "household": 5,
        "kitchen": "oven, pressure cooker",
        "notes": "Cooks for five: two adults, three children of 6, 9 and 13.",
    },
    (
        ("energy_kcal", 2300, 2600, "should"),
        ("protein_g", 75, 100, "must"),
        ("kcal_per_g", None, 1.5, "should"),
        ("fibre_g", 35, None, "should"),
        ("sodium_mg", None, 2300, "should"),
    ),
    (("Breakfast", 25), ("Lunch", 35), ("Dinner", 40)),
    (
        (
            "Family pot",
            "Dinner",
            "batch:Lamplighter 1 serving; potato-boiled 1 1/2 cups diced; green-beans-cooked 1/2 "
            "cup; bread-whole-wheat 2 slices; avocado 1/2; apple-raw 1",
        ),
        (
            "Pier wrap",
            "Lunch",
            "tortilla-corn 4; batch:Pier 2 servings; black-beans-cooked 3/4 cup; carrot-raw 1; "
            "romaine-raw 1 cup; avocado 1/2; apple-raw 1",
        ),
        (
            "Deckhand oats",
            "Breakfast",
            "batch:Harbour porridge 1 1/2 servings; banana-raw 1; soy-milk-unsweetened 1/2 cup; "
            "sunflower-seeds 1 tbsp",
        ),
        (
            "Mess-room chili",
            "Dinner",
            "kidney-beans-cooked 1 1/2 cups; brown-rice-cooked 1 1/2 cups; tomatoes-canned 3/4 "
            "cup; onion-cooked 1/2 cup chopped; "
            "avocado 1/2; cilantro-fresh 1 tbsp chopped",
        ),
        (
            "Sunday roots",
            "Dinner",
            "batch:Keel 1 1/2 servings; batch:Fogbell 1 serving; quinoa-cooked 1 3/4 cups; "
            "walnuts 3 tbsp; orange-raw 1",
        ),
        (
            "Harbour-wall soup",
            "Lunch",
            "batch:Ropewalk 1 1/2 servings; bread-sprouted 2 slices; batch:Pier 2 servings; "
            "pear-raw 1",
        ),
    ),
    (("Mess-room chili", "Ama, 9", 0.5), ("Mess-room chili", "Yaa", 0.75)),
    (
        (
            "Mess-room chili",
            (
                (0, "chickpeas-cooked", "1 cup"),
                (1, "quinoa-cooked", "3/4 cup"),
                (4, "walnuts", "2 tbsp"),
            ),
        ),
    ),
)
NURSE = DemoClient(
    "petra",
    {
        "name": "Ines Bergström-Vale",
        "sex": "female",
        "age_years": 44,
        "height_cm": 168,
        "weight_kg": 66,
        "cautions": "Keep vitamin K steady",
        "conditions": ["warfarin"],
        "usual_vitamin_k_ug": 600,
        "activity": "low-active",
        "goal": "hold",
        "school": "greens-and-beans",
        "meals_a_day": 2,
        "meal_hours": "16:00, 23:00",
        "notes": "Night-shift nurse. Two meals, at 16:00 and 23:00.",
    },
    (
        ("energy_kcal", 1750, 1950, "must"),
        ("protein_g", 65, 85, "must"),
        ("kcal_per_g", None, 1.4, "should"),
        ("fibre_g", 30, None, "should"),
        ("sodium_mg", None, 2000, "should"),
        ("vitamin_k_ug", 480, 720, "should"),
    ),
    (("Before the shift", 50), ("Midnight meal", 50)),
    (
        (
            "Lighthouse supper",
            "Before the shift",
            "batch:Ropewalk 1 serving; brown-rice-cooked 2 cups; tofu-firm 100 g; romaine-raw 1 "
            "cup; walnuts 2 tbsp; orange-raw 1",
        ),
        (
            "Night-watch box",
            "Midnight meal",
            "quinoa-cooked 1 1/2 cups; chickpeas-cooked 1 cup; cucumber-raw 1 cup sliced; "
            "cherry-tomatoes-raw 1 cup; "
            "walnuts 2 tbsp; batch:Breakwater 2 servings",
        ),
        (
            "Ward oats",
            "Before the shift",
            "batch:Harbour porridge 2 servings; soy-yogurt 1 cup; blueberries-raw 1 cup; almonds "
            "1 tbsp",
        ),
        (
            "Steady greens",
            "Midnight meal",
            "batch:Lamplighter 1 1/2 servings; sweet-potato-boiled 1 cup mashed; "
            "green-leaf-lettuce-raw 1 cup; pumpkin-seeds 2 tbsp",
        ),
        (
            "Greens swing",
            "Midnight meal",
            "kale-cooked 2 cups; spinach-cooked 1 cup; white-beans-cooked 1 cup; spelt-cooked 1 "
            "1/2 cups; tahini 1 tbsp; lemon-juice 1 tbsp",
        ),
        (
            "Ferry soup",
            "Before the shift",
            "split-peas-cooked 1 1/2 cups; carrot-cooked 1 cup sliced; potato-boiled 1 cup "
            "diced; bread-rye 2 slices; tahini 1 tbsp; apple-raw 1",
        ),
    ),
)
STRANGER = DemoClient(
    "joon",
    {
        "name": "Halldóra Mensah",
        "sex": "female",
        "age_years": 47,
        "height_cm": 163,
        "weight_kg": 70,
        "cautions": "",
        "notes": "A client of the other practitioner, to show that nobody sees another's clients.",
    },
    (("energy_kcal", 1700, 1900, "should"), ("protein_g", 60, 80, "should")),
    (("Breakfast", 30), ("Lunch", 35), ("Dinner", 35)),
    (
        (
            "Other room's bowl",
            "Dinner",
            "lentils-cooked 1 cup; brown-rice-cooked 1 cup; broccoli-cooked 1 cup",
        ),
    ),
)
# A dish fitted to the lighthouse keeper: (batch, client, [(words of a line, substitution)]), and
# what was in your cooking log.
FITTED = (
    "Lamplighter beans", "Tobias Lindqvist",
    (("butter beans", "rinsed-half-rice"), ("tsp salt", "no-salt"), ("tomatoes", "half-tomato"),
    ("tomato pur", "half-paste"),
     ("lentils", "lentils-half-rice")),
)  # fmt: skip
COOKED = (
    ("Ropewalk lentil soup", date(2026, 11, 1), "2.41 kg", 4, "A little thin."),
    ("Ropewalk lentil soup", date(2026, 11, 8), "2.30 kg", 5, "Lid off for the last ten minutes."),
    ("Ropewalk lentil soup", date(2026, 11, 15), "2.35 kg", 5, ""),
)
SHARES = (
    ("Ropewalk lentil soup", "Kofi", "1 1/2 servings", 2), ("Ropewalk lentil soup", "Ama, 9",
    "200 g", 2),
    ("Ropewalk lentil soup", "Yaa", "1 serving", 1),
)  # fmt: skip
CLIENTS = (ROWER, KEEPER, BAKER, TEACHER, FAMILY, NURSE, STRANGER)
