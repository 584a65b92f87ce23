"""What people mean who say that they never eat something: a word, foods that it must reach and
foods that it must not (common practice; written before the program could answer).
"""

from __future__ import annotations

CASES: tuple[tuple[str, tuple[str, ...], tuple[str, ...]], ...] = (
    (
        "milk",
        (),
        ("soy-milk-unsweetened", "oat-milk", "coconut-milk-canned", "cashew-milk-unsweetened"),
    ),
    ("dairy", (), ("soy-milk-unsweetened", "soy-yogurt")),
    ("butter", (), ("peanut-butter", "almond-butter", "tahini")),
    ("cream", (), ("coconut-cream-canned",)),
    ("yoghurt", (), ("soy-yogurt", "cashew-yogurt")),
    ("eggs", (), ("flax-ground", "eggplant-raw")),
    ("meat", (), ("coconut-fresh", "seitan")),
    ("soy milk", ("soy-milk-unsweetened",), ("oat-milk", "tofu-firm")),
    ("plant milk", ("soy-milk-unsweetened", "oat-milk"), ("tofu-firm",)),
    (
        "nuts",
        ("almonds", "walnuts", "peanuts-raw", "peanut-butter", "almond-butter"),
        ("nutmeg", "coconut-fresh", "soybeans-roasted-salted"),
    ),
    ("tree nuts", ("almonds", "walnuts"), ("peanuts-raw", "nutmeg")),
    (
        "seeds",
        ("chia-seeds", "pumpkin-seeds", "sesame-seeds"),
        ("pomegranate-seeds", "cumin", "mustard-seed"),
    ),
    (
        "beans",
        ("black-beans-cooked", "kidney-beans-canned", "white-beans-cooked"),
        ("coffee-brewed", "tofu-firm"),
    ),
    ("peas", ("peas-raw", "peas-frozen"), ("tofu-firm",)),
    ("olives", ("olives-green",), ("olive-oil",)),
    ("apples", ("apple-raw",), ("vinegar-cider",)),
    ("cherries", ("cherries-raw",), ("cherry-tomatoes-raw",)),
    ("grapes", ("grapes-raw",), ("cherry-tomatoes-raw", "grape-leaves-canned")),
    ("orange", ("orange-raw", "orange-juice"), ("sweet-potato-raw",)),
    ("lemon", ("lemon-raw", "lemon-juice"), ("lemongrass-raw",)),
    (
        "greens",
        ("kale-raw", "collards-raw", "spinach-raw"),
        ("freekeh-dry", "peas-raw", "lentils-cooked"),
    ),
    ("salt", (), ("chickpeas-canned-no-salt", "white-beans-canned-no-salt")),
    ("sugar", ("sugar-white",), ("muesli",)),
    ("fruit", ("apple-raw", "banana-raw", "kiwi-raw", "figs-dried"), ("tomato-raw", "carrot-raw")),
    ("tomato", ("tomato-raw", "tomato-paste"), ("carrot-raw",)),
    ("coconut", ("coconut-fresh", "coconut-milk-canned", "coconut-oil"), ("almonds",)),
    ("almonds", ("almonds", "almond-butter", "almond-milk-unsweetened"), ("walnuts",)),
    ("soy", ("tofu-firm", "tempeh", "soy-milk-unsweetened"), ("oat-milk",)),
    ("corn", ("corn-raw",), ("almonds",)),
    ("coffee", ("coffee-brewed",), ("creamer-plant",)),
    ("alcohol", ("wine-white", "wine-red"), ("vinegar-red-wine",)),
    ("spicy food", ("jalapeno-raw", "cayenne"), ("black-pepper", "red-pepper-raw")),
    ("raw onion", ("onion-raw",), ("onion-cooked",)),
    ("mushrooms", ("mushrooms-white-raw", "shiitake-dried"), ("tofu-firm",)),
    ("onions", ("onion-raw", "onion-cooked"), ("leek-raw",)),
    ("rice", ("brown-rice-cooked", "white-rice-cooked"), ("vinegar-rice", "quinoa-cooked")),
    ("potatoes", ("potato-raw", "potato-baked"), ("carrot-raw",)),
    ("garlic", ("garlic-raw",), ("onion-raw",)),
)
