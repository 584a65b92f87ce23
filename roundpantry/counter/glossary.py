"""The words of the program and what each means, once; the page, and whatever explains a word, take
them from here.
"""

from __future__ import annotations

GLOSSARY: dict[str, str] = {
    "Course": (
        "How a client's weight moves beside what was agreed: on course, slower, faster, the "
        "other way, or not to be told yet."
    ),
    "Diary": "What was really eaten: the planned week, and only what differed from it.",
    "Far out": (
        "A weigh-in that does not fit the ones around it. It is shown, and believed only when"
        " the next one agrees."
    ),
    "Observed expenditure": (
        "Energy spent a day, worked out from what was eaten and how the weight changed. It is"
        " as good as the diary."
    ),
    "Smoothed weight": (
        "The weight behind the weigh-ins, without the water of single days, with the range it"
        " lies in."
    ),
    "Proposal": (
        "A change the program suggests, with its reason and size. Nothing changes until you "
        "take it."
    ),
    "Acid load": "Potential renal acid load (PRAL), in mEq: an estimate of the acid or base a "
    "food leaves after digestion. "
    "A negative value means alkaline.",
    "Adapt": "Change a recipe for one client, ingredient by ingredient, with the effect of each "
    "change shown. The original "
    "stays as it is.",
    "Amino acid score": "The lowest ratio of an essential amino acid to what adults need "
    "(WHO/FAO/UNU 2007). Below 1 names "
    "the limiting amino acid.",
    "Balance": "Let the program choose portions in household measures so that every required "
    "target is met, staying as "
    "close as possible to the portions you chose.",
    "Batch": (
        "A recipe cooked in one go, with its ingredients, cooked weight and servings. Bowls "
        "and other batches use it."
    ),
    "Bench": (
        "The page where one bowl is put together: the dish from above, its ingredients and "
        "its levels."
    ),
    "Bowl": "One meal of one client, made of ingredients and servings of batches.",
    "Cooked weight": (
        "What a batch weighs after cooking. Until you enter it, the total weight of "
        "the ingredients is used."
    ),
    "Density ladder": "All foods on one chart by energy density and protein per 100 kcal.",
    "Dietary approach": "A set of rules a client follows, for example Balanced bowl, Greens and "
    "beans, Kidney-aware, "
    "Starch-centred or Training: daily food targets, foods excluded and the share of each meal.",
    "Energy density": "Energy per weight as eaten, water included (kcal/g or kcal/lb).",
    "Handed over": (
        "A week given to the client. It is locked with its figures; a later change "
        "creates a new version."
    ),
    "Level": "The tube that shows a figure against its target. Bubble between the lines: on "
    "target. Left: short. Right: "
    "over. A hatched tail: part of the figure is unknown.",
    "Hands, alone": "Of a step: minutes somebody has to be at it, and minutes it waits by itself.",
    "Limiting amino acid": (
        "The essential amino acid that is furthest below what adults need, "
        "relative to the protein eaten."
    ),
    "Required, recommended, tracked": "How a target counts. Required: always met. Recommended: "
    "met where possible. Tracked: shown, "
    "but not used to choose portions.",
    "Pattern": (
        "A bowl kept as roles (base, protein, greens …) with options, so it can be "
        "created again for other clients."
    ),
    "Pantry shelf": "All foods with their composition, plus the package labels you typed.",
    "Proven": (
        "The program has checked that no other household-measure portions (or, for a week, "
        "no other plan) is better."
    ),
    "Score of a week": (
        "Penalty points for missed targets, disliked dishes and cooking effort. 0 "
        "is perfect; lower is better."
    ),
    "Starter": "A recipe or pattern that came with the program. It was never weighed by us: "
    "enter the cooked weight when you "
    "cook it.",
    "Target": "A minimum, a maximum or both for a nutrient, for the day or a meal.",
    "Two plates": "Two dishes side by side, as served or at the same energy or protein.",
    "Unknown": (
        "A figure nobody has published or typed. It is never counted as zero: totals are "
        "marked ≥ (at least) or ≈."
    ),
    "Variant": "A copy of a bowl or batch that you changed.",
    "Why?": (
        "Opens the calculation of a figure: amounts, measures, sources and sums, down to the "
        "table row."
    ),
    "Use by": "The last day a cooked dish is eaten from the refrigerator.",
    "Yield": "Cooked weight divided by raw weight.",
}
