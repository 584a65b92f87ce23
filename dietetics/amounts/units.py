"""Units people write, in every spelling, and what each is worth in grams or millilitres where that
is fixed.

US customary volumes; a practitioner who cooks in metric sets `Household` to the metric cup and
spoons.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from dietetics.nutrients import LB_G, OZ_G

ML_PER_US_TSP = 236.588 / 48


@dataclass(frozen=True)
class Household:
    """The spoons and cup a practitioner measures with, in mL. Default: US customary."""

    tsp_ml: float = ML_PER_US_TSP
    tbsp_ml: float = ML_PER_US_TSP * 3
    cup_ml: float = ML_PER_US_TSP * 48

    @classmethod
    def metric(cls) -> Household:
        """Metric cup 250 mL, tablespoon 15 mL, teaspoon 5 mL."""
        return cls(5.0, 15.0, 250.0)


US_HOUSEHOLD = Household()


@dataclass(frozen=True)
class Unit:
    """One unit. `kind`: mass (grams each), volume (mL each), count, container or vague."""

    key: str
    kind: str
    singular: str
    plural: str
    worth: float = 0.0


_UNITS = (
    Unit("g", "mass", "g", "g", 1.0),
    Unit("kg", "mass", "kg", "kg", 1000.0),
    Unit("mg", "mass", "mg", "mg", 0.001),
    Unit("oz", "mass", "oz", "oz", OZ_G),
    Unit("lb", "mass", "lb", "lb", LB_G),
    Unit("ml", "volume", "mL", "mL", 1.0),
    Unit("cl", "volume", "cL", "cL", 10.0),
    Unit("dl", "volume", "dL", "dL", 100.0),
    Unit("l", "volume", "litre", "litres", 1000.0),
    Unit("tsp", "volume", "tsp", "tsp", ML_PER_US_TSP),
    Unit("dessertspoon", "volume", "dessertspoon", "dessertspoons", 10.0),
    Unit("tbsp", "volume", "tbsp", "tbsp", ML_PER_US_TSP * 3),
    Unit("cup", "volume", "cup", "cups", ML_PER_US_TSP * 48),
    Unit("fl-oz", "volume", "fl oz", "fl oz", 29.5735),
    Unit("pint", "volume", "pint", "pints", 473.176),
    Unit("quart", "volume", "quart", "quarts", 946.353),
    Unit("gallon", "volume", "gallon", "gallons", 3785.41),
    Unit("katori", "vague", "katori", "katoris", 150.0),  # a small Indian bowl; common practice
    Unit("mug", "vague", "mug", "mugs", 300.0),
    Unit("ladle", "vague", "ladle", "ladles", 120.0),
    Unit("glass", "vague", "glass", "glasses", 250.0),
    Unit("bowl", "vague", "bowl", "bowls", 400.0),
    Unit("scoop", "count", "scoop", "scoops"),
    Unit("pinch", "vague", "pinch", "pinches", ML_PER_US_TSP / 16),
    Unit("dash", "vague", "dash", "dashes", ML_PER_US_TSP / 8),
    Unit("splash", "vague", "splash", "splashes", ML_PER_US_TSP * 2),
    Unit("drizzle", "vague", "drizzle", "drizzles", ML_PER_US_TSP),
    Unit("glug", "vague", "glug", "glugs", ML_PER_US_TSP * 3),
    Unit("drop", "vague", "drop", "drops", 0.05),  # pharmacopoeia: 20 drops a mL
    Unit("squeeze", "vague", "squeeze", "squeezes", ML_PER_US_TSP),
    Unit("knob", "vague", "knob", "knobs", ML_PER_US_TSP * 3),
    Unit("handful", "vague", "handful", "handfuls"),
    Unit("piece", "count", "piece", "pieces"),
    Unit("clove", "count", "clove", "cloves"),
    Unit("slice", "count", "slice", "slices"),
    Unit("wedge", "count", "wedge", "wedges"),
    Unit("half", "count", "half", "halves"),
    Unit("leaf", "count", "leaf", "leaves"),
    Unit("sprig", "count", "sprig", "sprigs"),
    Unit("stalk", "count", "stalk", "stalks"),
    Unit("spear", "count", "spear", "spears"),
    Unit("floret", "count", "floret", "florets"),
    Unit("head", "count", "head", "heads"),
    Unit("bunch", "count", "bunch", "bunches"),
    Unit("bulb", "count", "bulb", "bulbs"),
    Unit("nest", "count", "nest", "nests"),
    Unit("cube", "count", "cube", "cubes"),
    Unit("sheet", "count", "sheet", "sheets"),
    Unit("square", "count", "square", "squares"),
    Unit("ear", "count", "ear", "ears"),
    Unit("inch", "count", "inch", "inches"),
    Unit("thumb", "count", "thumb", "thumbs"),
    Unit("grind", "count", "grind", "grinds"),
    Unit("serving", "count", "serving", "servings"),
    Unit("can", "container", "can", "cans"),
    Unit("jar", "container", "jar", "jars"),
    Unit("block", "container", "block", "blocks"),
    Unit("pack", "container", "package", "packages"),
    Unit("bag", "container", "bag", "bags"),
    Unit("box", "container", "box", "boxes"),
    Unit("tub", "container", "tub", "tubs"),
    Unit("carton", "container", "carton", "cartons"),
    Unit("bottle", "container", "bottle", "bottles"),
    Unit("tube", "container", "tube", "tubes"),
    Unit("sachet", "container", "sachet", "sachets"),
    Unit("punnet", "container", "punnet", "punnets"),
)
UNITS: Mapping[str, Unit] = {unit.key: unit for unit in _UNITS}

# Written words -> unit. One spelling a line would be longer and no clearer.
_SPELLINGS = {
    "g": "g gm gms gr gram grams gramme grammes",
    "kg": "kg kgs kilo kilos kilogram kilograms kilogramme kilogrammes",
    "mg": "mg milligram milligrams",
    "oz": "oz ozs ounce ounces",
    "lb": "lb lbs pound pounds",
    "ml": "ml mls millilitre millilitres milliliter milliliters cc",
    "cl": "cl centilitre centilitres centiliter centiliters",
    "dl": "dl decilitre decilitres deciliter deciliters",
    "l": "l litre litres liter liters ltr ltrs",
    "tsp": "tsp tsps teaspoon teaspoons teaspoonful teaspoonfuls teasp tl tsk",
    "dessertspoon": "dessertspoon dessertspoons dessertspoonful dessertspoonfuls dsp dstsp dspn",
    "tbsp": (
        "tbsp tbsps tbs tbl tbls tblsp tblsps tablespoon tablespoons tablespoonful "
        "tablespoonfuls tbspn el msk"
    ),
    "cup": "cup cups c cupful cupfuls",
    "fl-oz": "floz",
    "pint": "pint pints pt pts",
    "quart": "quart quarts qt qts",
    "gallon": "gallon gallons gal",
    "katori": "katori katoris",
    "mug": "mug mugs mugful mugfuls",
    "ladle": "ladle ladles ladleful ladlefuls",
    "glass": "glass glasses glassful",
    "bowl": "bowl bowls bowlful bowlfuls",
    "scoop": "scoop scoops",
    "pinch": "pinch pinches",
    "dash": "dash dashes",
    "splash": "splash splashes",
    "drizzle": "drizzle drizzles",
    "glug": "glug glugs",
    "drop": "drop drops",
    "squeeze": "squeeze squeezes",
    "knob": "knob knobs",
    "handful": "handful handfuls handfull",
    "piece": "piece pieces pc pcs whole",
    "clove": "clove cloves",
    "slice": "slice slices",
    "wedge": "wedge wedges",
    "half": "halves",
    "leaf": "leaf leaves",
    "sprig": "sprig sprigs",
    "stalk": "stalk stalks stick sticks rib ribs",
    "spear": "spear spears",
    "floret": "floret florets",
    "head": "head heads",
    "bunch": "bunch bunches",
    "bulb": "bulb bulbs",
    "nest": "nest nests",
    "cube": "cube cubes",
    "sheet": "sheet sheets",
    "square": "square squares",
    "ear": "ear ears cob cobs",
    "inch": "inch inches",
    "thumb": "thumb thumbs",
    "grind": "grind grinds twist twists",
    "serving": "serving servings portion portions",
    "can": "can cans tin tins",
    "jar": "jar jars",
    "block": "block blocks",
    "pack": "pack packs package packages packet packets pkg pkgs pkt pkts pouch pouches",
    "bag": "bag bags",
    "box": "box boxes",
    "tub": "tub tubs container containers pot pots",
    "carton": "carton cartons",
    "bottle": "bottle bottles",
    "tube": "tube tubes",
    "sachet": "sachet sachets",
    "punnet": "punnet punnets",
}
WORDS: Mapping[str, Unit] = {
    word: UNITS[key] for key, words in _SPELLINGS.items() for word in words.split()
}
# Where the capital letter is the whole difference.
CASED: Mapping[str, Unit] = {
    "T": UNITS["tbsp"],
    "t": UNITS["tsp"],
    "Tb": UNITS["tbsp"],
    "C": UNITS["cup"],
}
TWO_WORDS: Mapping[tuple[str, str], Unit] = {
    **{(a, b): UNITS["fl-oz"] for a in ("fl", "fluid") for b in ("oz", "ounce", "ounces")},
    **{("dessert", b): UNITS["dessertspoon"] for b in ("spoon", "spoons", "spoonful", "spoonfuls")},
    **{("table", b): UNITS["tbsp"] for b in ("spoon", "spoons")},
    **{("tea", b): UNITS["tsp"] for b in ("spoon", "spoons")},
    **{("soup", b): UNITS["tbsp"] for b in ("spoon", "spoons")},
}

# Level of a spoon or cup: (low, likely, high) factor. Heaping +25 %, scant -10 % (common practice).
LEVELS: Mapping[str, tuple[float, float, float]] = {
    "heaped": (1.10, 1.25, 1.50),
    "heaping": (1.10, 1.25, 1.50),
    "rounded": (1.05, 1.15, 1.30),
    "generous": (1.0, 1.10, 1.5),
    "good": (1.0, 1.10, 1.5),
    "packed": (1.0, 1.15, 1.35),
    "scant": (0.85, 0.90, 0.97),
    "scanty": (0.85, 0.90, 0.97),
    "level": (0.97, 1.0, 1.03),
    "loosely": (0.8, 0.9, 1.0),
    "loose": (0.8, 0.9, 1.0),
    "firmly": (1.0, 1.1, 1.25),
    "tightly": (1.0, 1.1, 1.25),
    "big": (1.05, 1.2, 1.5),
}
SIZES: Mapping[str, str] = {
    "small": "small",
    "sm": "small",
    "little": "small",
    "baby": "small",
    "medium": "medium",
    "med": "medium",
    "average": "medium",
    "medium-sized": "medium",
    "large": "large",
    "lg": "large",
    "big": "large",
    "fat": "large",
    "thick": "large",
    "thin": "thin",
    "jumbo": "large",
}
SIZE_FACTORS: Mapping[str, float] = {"small": 0.7, "medium": 1.0, "large": 1.3, "thin": 0.75}


def millilitres(unit: Unit, household: Household) -> float:
    """Return the volume of one `unit` in mL with this household's spoons. 0 for units that are no
    volume.
    """
    own = {"tsp": household.tsp_ml, "tbsp": household.tbsp_ml, "cup": household.cup_ml}
    if unit.kind in ("volume", "vague"):
        return own.get(unit.key, unit.worth)
    return 0.0
