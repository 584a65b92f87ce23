"""Foods and labels against clients: what must keep them out, written before the program could say
it.

`wanted` names verdicts as "code" or "code:subject". Nothing else may arise than what is wanted. A
label is a pasted text with its ingredient list; a food is a key of the shelf. That a row holds oil,
an allergen or an additive follows from what the food is (hummus and pesto are made with oil, baking
powder with phosphate, light salt with potassium chloride); names in other places are common English
of the US, the UK, Australia and India.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

OIL_PHOSPHATE_PEANUTS = """Spiced nut mix
Per 100 g
Energy 602 kcal
Fat 50 g
Carbohydrate 16 g
Protein 25 g
Sodium 12 mg
Ingredients: no salt added peanuts, sunflower oil, stabiliser (sodium phosphate), spices. May contain sesame."""
NO_DAIRY_SOY = """Drink powder
Per 100 g
Energy 400 kcal
Fat 10 g
Carbohydrate 60 g
Protein 17 g
Ingredients: pea protein, sugar, no dairy but soy lecithin, salt."""
JUST_NUTS = """Trail bites
Per 100 g
Energy 450 kcal
Fat 25 g
Carbohydrate 45 g
Protein 12 g
Ingredients: dates, nuts, oats, sea salt."""
POTASSIUM_SOUP = """Reduced salt soup
Per 100 g
Energy 40 kcal
Fat 0.5 g
Carbohydrate 6 g
Protein 2 g
Ingredients: water, lentils, carrots, onion, potassium chloride, spices."""
FREE_OF = """Oat bake
Per 100 g
Energy 380 kcal
Fat 6 g
Carbohydrate 66 g
Protein 11 g
Ingredients: oats, dates, pumpkin seeds. Free from nuts, soy and milk."""
LABELS: Mapping[str, str] = {
    "oil, phosphate, peanuts": OIL_PHOSPHATE_PEANUTS, "no dairy but soy": NO_DAIRY_SOY,
    "nuts": JUST_NUTS,
    "potassium chloride soup": POTASSIUM_SOUP, "free of": FREE_OF,
}  # fmt: skip

Terms = Mapping[str, Any]
KIDNEY: Terms = {"school": "kidney-aware"}
STARCH: Terms = {"school": "starch-centred"}
GREENS: Terms = {"school": "greens-and-beans"}
BALANCED: Terms = {"school": "balanced-bowl"}


def allergy(*names: str) -> Terms:
    """A client with these allergies."""
    return {"allergies": names}


def never(text: str) -> Terms:
    """A client who never eats these."""
    return {"never_eats": text}


CASES: tuple[tuple[str, Terms, frozenset[str]], ...] = tuple(
    (what, terms, frozenset(wanted.split()))
    for what, terms, wanted in (
        # one label, three verdicts, and its trace
        ("label: oil, phosphate, peanuts", allergy("peanut"), "allergen:peanut"),
        ("label: oil, phosphate, peanuts", allergy("sesame"), "traces:sesame"),
        ("label: oil, phosphate, peanuts", KIDNEY, "forbidden-additive:phosphate"),
        ("label: oil, phosphate, peanuts", STARCH, "forbidden-oil"),
        ("label: no dairy but soy", allergy("soy"), "allergen:soy"),
        ("label: no dairy but soy", allergy("milk"), ""),
        ("label: nuts", allergy("tree-nuts"), "allergen:tree-nuts"),
        ("label: potassium chloride soup", KIDNEY, "forbidden-additive:potassium-chloride"),
        (
            "label: potassium chloride soup",
            {"conditions": ["potassium-raising"]},
            "forbidden-additive:potassium-chloride",
        ),
        ("label: free of", allergy("tree-nuts", "soy", "milk"), ""),
        # oil in a food
        *(
            (key, STARCH, "forbidden-oil")
            for key in (
                "hummus-commercial",
                "granola",
                "vegan-mayonnaise",
                "pesto-vegan",
                "artichoke-hearts-in-oil",
                "tofu-fried",
                "marinara-sauce",
                "falafel",
                "tortilla-flour",
                "almonds-salted",
                "vegan-sausage",
            )
        ),
        ("olive-oil", STARCH, "forbidden-group:oil"),
        ("plant-butter", STARCH, "forbidden-group:oil"),
        ("olive-oil", BALANCED, ""),
        ("hummus-commercial", BALANCED, ""),
        ("chickpeas-cooked", STARCH, ""),
        ("dates-medjool", GREENS, ""),
        ("maple-syrup", GREENS, "forbidden-group:sweetener"),
        # additives
        ("salt-substitute", KIDNEY, "forbidden-additive:potassium-chloride"),
        ("salt-light", KIDNEY, "forbidden-additive:potassium-chloride"),
        ("salt-substitute", {"conditions": ["ckd-3"]}, "forbidden-additive:potassium-chloride"),
        ("salt-substitute", BALANCED, ""),
        ("baking-powder", KIDNEY, "forbidden-additive:phosphate"),
        ("salt-table", KIDNEY, ""),
        # allergens, hidden carriers and traces
        ("peanut-oil", allergy("peanut"), "allergen:peanut"),
        ("tahini", allergy("sesame"), "allergen:sesame"),
        ("soy-sauce", allergy("soy"), "allergen:soy"),
        ("soy-sauce", allergy("wheat"), "allergen:wheat"),
        ("soy-sauce", allergy("gluten"), "allergen:gluten"),
        ("soy-sauce", {"conditions": ["coeliac"]}, "allergen:gluten"),
        ("tofu-firm", allergy("peanut"), ""),
        # what a client never eats, by the names of other places
        ("eggplant-raw", never("aubergine"), "never-eaten:aubergine"),
        ("eggplant-raw", never("no aubergines, okra"), "never-eaten:aubergine"),
        ("zucchini-raw", never("courgette"), "never-eaten:courgette"),
        ("arugula-raw", never("rocket"), "never-eaten:rocket"),
        ("chickpeas-cooked", never("hates garbanzo beans"), "never-eaten:garbanzo-bean"),
        ("red-pepper-raw", never("capsicum"), "never-eaten:capsicum"),
        ("okra-raw", never("lady fingers"), "never-eaten:lady-finger"),
        ("mushrooms-white-raw", never("mushrooms"), "never-eaten:mushroom"),
        ("peanuts-raw", never("peanut butter"), ""),
        ("onion-cooked", never("raw onion"), ""),
        ("onion-raw", never("raw onion"), "never-eaten:raw-onion"),
        ("almonds", never("nuts"), "never-eaten:nut"),
        ("nutmeg", never("nuts"), ""),
        ("coconut-milk-canned", never("nuts"), ""),
        # processing: kept out of what is suggested, left to the hand
        ("plant-burger", GREENS, "forbidden-oil"),
        ("plant-burger", {**BALANCED, "suggesting": True}, "not-suggested"),
        ("chickpeas-cooked", {**BALANCED, "suggesting": True}, ""),
        ("plant-burger", BALANCED, ""),
    )
)
