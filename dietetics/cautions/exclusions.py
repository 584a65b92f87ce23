"""What keeps a food from a client, in one place: allergens, what they never eat, the school,
additives, conditions.

Bowl, balance, suggestion, substitution, pattern, fitting, week, label and verbs all ask here. A
rule is a row of EXCLUSIONS: its code and the function that finds it for one food.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass

from dietetics.cautions.facts import ClientFacts, Eaten
from dietetics.cautions.never_eaten import is_meant, refusals
from dietetics.cautions.verdict import Verdict, gravest_first
from dietetics.composition.foods import ADDITIVES, Food
from dietetics.targets.conditions import KIDNEY, THYROID

# Which allergens of the shelf an allergy named by the client stands for; hidden carriers are on
# each food's row.
ALLERGIES: Mapping[str, tuple[str, ...]] = {
    "peanut": ("peanut",), "tree-nuts": ("tree-nuts",), "soy": ("soy",), "wheat": ("wheat",),
    "gluten": ("gluten", "wheat", "gluten-trace"), "sesame": ("sesame",), "mustard": ("mustard",),
    "celery": ("celery",),
    "lupin": ("lupin",), "sulphites": ("sulphites",), "milk": ("milk",), "egg": ("egg",),
    "fish": ("fish",),
    "crustaceans": ("crustaceans",), "molluscs": ("molluscs",),
}  # fmt: skip
COELIAC_ALLERGY = "gluten"
CONDITION_ADDITIVES: Mapping[str, frozenset[str]] = {
    "potassium-chloride": KIDNEY | {"potassium-raising"}, "phosphate": KIDNEY,
}  # fmt: skip
TYRAMINE_FAMILIES = frozenset(
    {"miso-white", "soy-sauce", "soy-sauce-light-asian", "soy-sauce-low-sodium", "tamari",
    "tamari-low-sodium", "tempeh",
     "tempeh-cooked", "sauerkraut", "kimchi", "yeast-extract-spread", "broad-beans", "fava-dry"}
)  # fmt: skip
GRAPEFRUIT_FAMILIES = frozenset({"grapefruit-raw"})
GRAPEFRUIT_MEDICINES: Mapping[str, str] = {
    "statin": "A statin",
    "transplant": "Medicine after a transplant",
}
IODINE_SEAWEED = frozenset({"kelp", "kelp-dried", "kombu-dried"})
SUGGESTED_PROCESSING_MOST = 3
# of what is not eaten or left out, in a serving of a dish: less is not noticed (our judgement)
NOTICED_G = 1.0


@dataclass(frozen=True)
class Terms:
    """For whom a food is looked at, and whether it is to be suggested: then less is let in than by
    hand.
    """

    client: ClientFacts
    suggesting: bool = False


Finder = Callable[[Food, Terms], Iterator[Verdict]]


def _params(food: Food, **more: object) -> dict[str, object]:
    return {"foods": (food.name,), **more}


def allergies_of(client: ClientFacts) -> tuple[str, ...]:
    """The allergies of a client, gluten with coeliac disease."""
    more = (
        (COELIAC_ALLERGY,)
        if "coeliac" in client.conditions and COELIAC_ALLERGY not in client.allergies
        else ()
    )
    return (*client.allergies, *more)


def _allergens(food: Food, terms: Terms) -> Iterator[Verdict]:
    for allergy in allergies_of(terms.client):
        if set(food.allergens) & set(ALLERGIES.get(allergy, (allergy,))):
            yield Verdict(
                "allergen",
                "blocked",
                allergy,
                _params(food),
                "the food's row or label",
                "the client",
                1.0,
            )


def _traces(food: Food, terms: Terms) -> Iterator[Verdict]:
    for allergy in allergies_of(terms.client):
        carried = set(ALLERGIES.get(allergy, (allergy,)))
        if set(food.traces) & carried and not set(food.allergens) & carried:
            yield Verdict("traces", "warn", allergy, _params(food), "the label", "the client", 1.0)


def _never_eaten(food: Food, terms: Terms) -> Iterator[Verdict]:
    for thing in refusals(terms.client.never_eats):
        if is_meant(food, thing):
            yield Verdict(
                "never-eaten",
                "unwanted",
                "-".join(thing),
                _params(food),
                "the client's record",
                "",
                1.0,
            )


def _school_groups(food: Food, terms: Terms) -> Iterator[Verdict]:
    school = terms.client.school
    if school is None:
        return
    if food.group in school.forbidden_groups:
        yield Verdict(
            "forbidden-group",
            "forbidden",
            food.group,
            _params(food, school=school.name),
            school.source,
            "",
            1.0,
        )
    elif school.forbids_added_oil and food.oil_added:
        yield Verdict(
            "forbidden-oil",
            "forbidden",
            "",
            _params(food, school=school.name),
            school.source,
            "",
            1.0,
        )


def additives_of(food: Food) -> frozenset[str]:
    """The additives a food holds by its row or its label."""
    return food.tags & ADDITIVES


def _additives(food: Food, terms: Terms) -> Iterator[Verdict]:
    school = terms.client.school
    for additive in sorted(additives_of(food)):
        by_condition = CONDITION_ADDITIVES[additive] & terms.client.conditions
        by_school = school is not None and additive in school.forbidden_additives
        if not by_condition and not by_school:
            continue
        why = (
            f"The {school.name} approach excludes it"
            if school is not None and by_school
            else ("It adds to the potassium that the kidneys or the medicine already retain")
        )
        params = _params(food, additive=additive, why=why)
        yield Verdict(
            "forbidden-additive",
            "forbidden",
            additive,
            params,
            "KDOQI 2020; common practice",
            "",
            1.0,
        )


def _medicines(food: Food, terms: Terms) -> Iterator[Verdict]:
    conditions = terms.client.conditions
    if "mao-inhibitor" in conditions and food.family in TYRAMINE_FAMILIES:
        yield Verdict(
            "tyramine",
            "serious",
            "",
            _params(food),
            "FDA labels, from memory",
            "the client's doctor",
            1.0,
        )
    medicine = next((name for key, name in GRAPEFRUIT_MEDICINES.items() if key in conditions), None)
    if medicine is not None and food.family in GRAPEFRUIT_FAMILIES:
        params = _params(food, medicine=medicine)
        yield Verdict(
            "grapefruit", "warn", "", params, "FDA labels, from memory", "the client's doctor", 1.0
        )


def _not_suggested(food: Food, terms: Terms) -> Iterator[Verdict]:
    if not terms.suggesting:
        return
    if food.processing > SUGGESTED_PROCESSING_MOST:
        yield Verdict("not-suggested", "forbidden", "", _params(food))
    if terms.client.conditions & THYROID and food.family in IODINE_SEAWEED:
        yield Verdict(
            "iodine-seaweed",
            "forbidden",
            "",
            _params(food, grams=0.0, upper=terms.client.iodine_upper_ug),
        )


# The registry: every code with what finds it. A food is asked about all of them.
EXCLUSIONS: Mapping[str, Finder] = {
    "allergen": _allergens, "traces": _traces, "never-eaten": _never_eaten,
    "forbidden-group and forbidden-oil": _school_groups,
    "forbidden-additive": _additives, "tyramine and grapefruit": _medicines,
    "not-suggested": _not_suggested,
}  # fmt: skip


def exclusions(food: Food, terms: Terms) -> list[Verdict]:
    """Everything that speaks against a food for a client, the gravest first."""
    return gravest_first([verdict for find in EXCLUSIONS.values() for verdict in find(food, terms)])


def keeps_out(food: Food, terms: Terms) -> Verdict | None:
    """What keeps a food out of what is computed or suggested, the gravest; None where it may come
    in.

    A serious verdict of a medicine keeps a food from being suggested, and is only shown where a
    hand put it in.
    """
    for verdict in exclusions(food, terms):
        if verdict.keeps_out or (terms.suggesting and verdict.severity in ("serious", "warn")):
            return verdict
    return None


def exclusions_of(eaten: Sequence[Eaten], client: ClientFacts) -> list[Verdict]:
    """What speaks against the foods of a meal or a week, each code and subject once with all its
    foods.
    """
    together: dict[str, list[Verdict]] = {}
    for one in eaten:
        for verdict in exclusions(one.food, Terms(client)):
            if (
                one.grams >= NOTICED_G
                or verdict.severity == "blocked"
                or verdict.code in ("traces", "tyramine")
            ):
                together.setdefault(verdict.key, []).append(verdict)
    found = []
    for same in together.values():
        foods = tuple(sorted({name for verdict in same for name in verdict.params["foods"]}))
        first = same[0]
        params = {**first.params, "foods": foods}
        found.append(
            Verdict(
                first.code,
                first.severity,
                first.subject,
                params,
                first.source,
                first.ask,
                len(foods),
            )
        )
    return gravest_first(found)


def blocking_allergies(foods: Sequence[Food], client: ClientFacts) -> list[Verdict]:
    """The allergies of a client that these foods carry, hidden carriers counted: each asks for a
    reason.
    """
    eaten = [Eaten(food, NOTICED_G) for food in foods]
    return [verdict for verdict in exclusions_of(eaten, client) if verdict.severity == "blocked"]
