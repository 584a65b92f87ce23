"""The sentences of every verdict, in one place: what was found and what to do, by code.

A template is filled from the verdict's params; a tuple of names is joined with commas. Where a sentence has parts that
may be missing, a small function makes it. Conditions bring their sentences with their row of `conditions.csv`.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

from dietetics.nutrients import nutrient
from dietetics.targets.conditions import conditions

LOCAL = "Rules differ by place; medical nutrition therapy belongs to licensed practice."
Params = Mapping[str, Any]
Words = str | Callable[[Params], str]

HOLD_WORDS: Mapping[str, str] = {
    "pregnancy": "pregnancy",
    "breastfeeding-first-half-year": "breastfeeding in the first six months",
    "breastfeeding": "breastfeeding",
    "under-18": "under 18",
    "eating-disorder": "an eating disorder",
    "low-bmi": "a BMI of {bmi:.1f}, under {least:.1f}",
    "dialysis": "dialysis",
    "low-weight-over-70": "over 70 with a BMI of {bmi:.1f}, which is low at that age",
    "over-70": "over 70",
}
ADDITIVE_WORDS: Mapping[str, str] = {"phosphate": "a phosphate additive", "potassium-chloride": "potassium chloride"}


def _are_names(value: object) -> bool:
    return isinstance(value, tuple) and all(isinstance(one, str) for one in value)


def joined(names: object) -> str:
    """Names with commas between them."""
    return names if isinstance(names, str) else ", ".join(names)  # type: ignore[arg-type]


def plain(subject: str) -> str:
    """A subject as words: "tree-nuts" is tree nuts."""
    return subject.replace("-", " ")


def _no_deficit(p: Params) -> str:
    reasons = joined(HOLD_WORDS[code].format(**p) for code in p["reasons"])
    if p["held"]:
        return f"The wanted deficit is not applied ({reasons}): the target is what the person needs."
    return f"No deficit without a clinician's note: {reasons}."


def _low_blood_sugar(p: Params) -> str:
    causes = [name for name, yes in (("fewer calories", p["fewer"]), ("two meals a day", p["few_meals"])) if yes]
    return f"Insulin or a sulphonylurea with {' and '.join(causes)} can cause low blood sugar."


def _pregnancy(p: Params) -> str:
    when = f"week {p['week']:g}" if p["week"] is not None else "week not known"
    gain = f"{p['gain'][0]:g}–{p['gain'][1]:g} kg in all is the usual advice ({p['gain_class']} before)"
    return f"Pregnancy, {when}: the plan meets what two need; {gain}."


def _breastfeeding(p: Params) -> str:
    when = f"month {p['month']:g}" if p["month"] is not None else "month not known"
    return f"Breastfeeding, {when}: milk takes energy, iodine and B12 from the mother."


def _forbidden_additive(p: Params) -> str:
    holders = f"Holds {ADDITIVE_WORDS[p['additive']]}: {joined(p['foods'])}."
    return f"{holders} {p['why']}."


def _allergens_open(p: Params) -> str:
    lines = f"{p['unread']} line{'' if p['unread'] == 1 else 's'} of its dishes not read" if p["unread"] else ""
    lists = f"the ingredient list of {joined(p['unlisted'])} is not known" if p["unlisted"] else ""
    return f"Allergens are not all known: {'; '.join(filter(None, (lines, lists)))}."


def _potassium_foods(p: Params) -> str:
    foods = ", ".join(f"{name} {mg:,.0f} mg" for name, mg in p["foods"])
    hidden = f" Not known of {joined(p['unknown'])}." if p["unknown"] else ""
    return f"Potassium {p['total'].shown()} in this meal{f': {foods}' if foods else ''}.{hidden}"


def _iron(p: Params) -> str:
    beside = "no known" if p["vitamin_c_mg"] is None else f"{p['vitamin_c_mg']:.0f} mg"
    return f"{p['iron_mg']:.1f} mg iron with {beside} vitamin C: less is taken up."


def _b12(p: Params) -> str:
    if p["days"]:
        return f"B12 from fortified foods and supplements is below {p['need']:g} µg on {joined(p['days'])}."
    return f"{p['ug']:.1f} µg B12 from fortified foods and supplements; the day wants {p['need']:g} µg."


def _on_days(text: str, p: Params) -> str:
    return f"{joined(p['days'])}: {text}" if p.get("days") else text


def _brazil_nuts(p: Params) -> str:
    return _on_days(f"{p['nuts']:.0f} Brazil nuts pass the upper level of selenium ({p['upper']:g} µg).", p)


def _iodine_seaweed(p: Params) -> str:
    text = (
        f"{joined(p['foods'])}, {p['grams']:.1f} g: how much iodine is not known, and it can be very much "
        f"(1,000–2,500 µg in a gram of dried kombu; the upper level is {p['upper']:,.0f} µg a day)."
    )
    return _on_days(text, p)


def _iodine(p: Params) -> str:
    return "No known iodine all week." if p["week"] else "No known iodine in this day."


def _upper(p: Params) -> str:
    one = nutrient(p["nutrient"])
    whence = "supplements" if p["supplements_only"] else "food and supplements"
    text = f"{one.name} from {whence} {one.text(p['amount'])}, above the upper level of {one.text(p['upper'])} a day."
    return _on_days(text, p)


def _swing(key: str) -> Callable[[Params], str]:
    def words(p: Params) -> str:
        one = nutrient(key)
        hedge = f" {one.name} is not known of everything eaten: these are its known parts." if p["partly"] else ""
        days = f"{p['before']} to {p['after']}: " if p["before"] else ""
        return f"{days}{one.name} goes from {one.number(p['from'])} to {one.text(p['to'])}: {p['swing']:.0%}.{hedge}"

    return words


def _potassium_days(p: Params) -> str:
    over = ", ".join(f"{day} {mg:,.0f} mg" for day, mg in p["over"])
    return f"Potassium above the day's ceiling of {p['ceiling']:,.0f} mg: {over}."


def _soy_thyroid(p: Params) -> str:
    where = f"Soy at {joined(p['meals'])}" if p["meals"] else "Soy in this meal"
    return f"{where}: not at the hour of the thyroid medicine."


def _kidney(p: Params) -> str:
    return "Kidney disease: energy, protein, sodium, potassium and phosphorus are set from the client's bloods."


# code -> (what was found, what to do)
WORDS: Mapping[str, tuple[Words, Words]] = {
    "kidney": (_kidney, f"Record who set them and when; until then none of them is a must. {LOCAL}"),
    "potassium-medicine": (
        "A medicine that raises potassium (ACE inhibitor, ARB, spironolactone).",
        "Ask for a potassium ceiling; leave out salt substitutes (potassium chloride).",
    ),
    "warfarin": (
        "Warfarin: vitamin K must stay steady from day to day, whatever its amount.",
        "Keep greens at the same amount daily; swings of more than half are marked.",
    ),
    "low-blood-sugar": (_low_blood_sugar, "Do not begin before the doses are reviewed; no skipped meals or fasting."),
    "insulin-starch": (
        "Insulin with a school that is led by starch: much carbohydrate at each meal.",
        "Give the hour and the carbohydrate of every meal to whoever sets the doses.",
    ),
    "no-deficit": (_no_deficit, "Plan to hold weight until a clinician's note, dated and named, is there."),
    "deficit-by-clinician": (
        "A deficit is applied by the note of {by}, {on}.",
        "Keep the note with the record, and go back to them when weight or health changes.",
    ),
    "eating-disorder": (
        "An eating disorder, now or before: numbers can do harm.",
        "Consider hiding calories and weights on hand-overs; work with the treating team.",
    ),
    "underweight": (
        "BMI {bmi:.1f} is under {least:.1f}.",
        "Ask how weight has moved and whether it was meant; density may be raised.",
    ),
    "energy-floor": (
        "The goal would come to {wanted:,.0f} kcal a day, under {floor:,.0f}.",
        "The target was raised to the floor; a slower pace fits.",
    ),
    "pace": (
        "{pace:g} kg a week is {share:.1%} of body weight, above 1 %.",
        "0.5 to 1 kg a week is the usual advice; a faster pace needs a clinician's acknowledgement.",
    ),
    "oxalate": (
        "Oxalate stones: spinach, chard, beet greens and almonds are marked.",
        "Choose kale, cabbage or lettuce for greens; keep calcium at meals and drink enough.",
    ),
    "thyroid": (
        "Thyroid medicine: soy, fibre and calcium at the same hour hinder it.",
        "Take it on an empty stomach, an hour before breakfast; calcium and iron four hours apart; the same every day.",
    ),
    "gout": ("Gout is not a reason to avoid beans, but ask.", "Ask how beans went before."),
    "young": (
        "Under 19: growth comes first, and a growth chart says how it goes.",
        "Work with a paediatric dietitian; weigh and measure at the intervals they set.",
    ),
    "infant": (
        "Under 3 years: not planned here. No target of energy is computed.",
        "Refer to a paediatric dietitian.",
    ),
    "pregnancy": (_pregnancy, "B12, iodine and folic acid as supplements; blood values as the midwife or doctor asks."),
    "breastfeeding": (_breastfeeding, "B12 and iodine as supplements; weight is lost slowly, if at all."),
    "vegan-supplements": (
        "B12, iodine, vitamin D and long-chain omega-3 do not come from unfortified plants.",
        "A B12 supplement is usual practice; iodine, vitamin D and algae oil likewise. Check labels for what is added.",
    ),
    "allergen": ("{subject} allergy: {foods}.", "Take it out, or acknowledge with a reason."),
    "traces": (
        "{subject} allergy: {foods} may contain traces, says the label.",
        "Ask how strict they are, or take another make.",
    ),
    "allergens-open": (_allergens_open, "Mend the lines, or read the package, before it is eaten."),
    "never-eaten": ("Never eaten or disliked ({subject}): {foods}.", "Swap it, or ask again."),
    "forbidden-group": ("The school {school} leaves out {subject}: {foods}.", "Take another food, or say why."),
    "forbidden-oil": (
        "Made with oil, which the school {school} leaves out: {foods}.",
        "Take one without oil, or make it without.",
    ),
    "forbidden-additive": (_forbidden_additive, "Take a make without it; read the ingredient list."),
    "not-suggested": ("Heavily processed: {foods}.", "Left to the hand: it is not suggested."),
    "tyramine": (
        "An MAO inhibitor and tyramine: {foods}.",
        "Take it out; fresh tofu and plain beans instead.",
    ),
    "grapefruit": (
        "{medicine} and {foods}: the level of the medicine can rise.",
        "Take another fruit, or ask which one it is.",
    ),
    "nutmeg": (
        "{grams:.1f} g of nutmeg: from about 5 g it makes ill.",
        "A pinch is enough for a pot.",
    ),
    "potassium-foods": (
        _potassium_foods,
        lambda p: (
            "Halve the first, or choose boiled and drained."
            if p["foods"]
            else "Ask for the maker's figure, or leave it out."
        ),
    ),
    "oxalate-foods": ("High in oxalate: {foods}.", "Choose kale, cabbage or lettuce."),
    "soy-thyroid": (_soy_thyroid, "Keep some hours apart, every day alike."),
    "iron-without-c": (_iron, "Add a citrus, pepper, kiwi or raw greens."),
    "brazil-nuts": (_brazil_nuts, "One or two a day are enough."),
    "iodine-seaweed": (
        _iodine_seaweed,
        "Take it out before eating, use nori, or ask the clinician with thyroid illness or in pregnancy.",
    ),
    "b12": (_b12, "A B12 supplement is usual practice."),
    "iodine": (_iodine, "Iodised salt, a labelled drink, or a supplement."),
    "upper-level": (_upper, "Lower the dose, or ask the clinician who set it."),
    "vitamin-k-swing": (_swing("vitamin_k_ug"), "Keep greens at the same amount daily."),
    "sodium-swing": (_swing("sodium_mg"), "Keep salt the same every day; the level in the blood follows it."),
    "fibre-jump": (
        "Fibre goes from {before_g:.0f} to {now_g:.0f} g a day within a week.",
        "Raise by about 5 g every few days, with water.",
    ),
    "few-meals-insulin": (
        "Two meals or fewer on {days}, with insulin or a sulphonylurea: low blood sugar.",
        f"Ask before the first such day. {LOCAL}",
    ),
    "potassium-unknown": (
        "Potassium is not known of everything eaten on {days}: its figure is at least.",
        "Put in foods whose potassium is known, or ask for it on the label.",
    ),
    "potassium-days": (_potassium_days, "Change the days named; halve potato, beans or tomato paste."),
}
# code -> the reason in a few words
SHORT: Mapping[str, str] = {
    "allergen": "the {subject} allergy",
    "traces": "traces of {subject}",
    "never-eaten": "disliked or never eaten",
    "forbidden-group": "the school {school} leaves out {subject}",
    "forbidden-oil": "the school {school} leaves out what is made with oil",
    "forbidden-additive": "holds {additive_words}",
    "not-suggested": "heavily processed",
    "tyramine": "tyramine and an MAO inhibitor",
    "grapefruit": "{medicine}",
    "iodine-seaweed": "its iodine is not known",
}


def _filled(words: Words, subject: str, params: Params) -> str:
    if not isinstance(words, str):
        return words(params)
    values = {key: joined(value) if _are_names(value) else value for key, value in params.items()}
    return words.format(**{"subject": plain(subject), **values})


def text(code: str, subject: str, params: Params) -> str:
    """What a verdict found, in words."""
    row = _condition_row(code)
    return row[0] if row else _filled(WORDS[code][0], subject, params)


def action(code: str, params: Params) -> str:
    """What to do about a verdict, in words."""
    row = _condition_row(code)
    return row[1] if row else _filled(WORDS[code][1], "", params)


def short(code: str, subject: str, params: Params) -> str:
    """The reason of a verdict in a few words; its whole text where none is written."""
    if code not in SHORT:
        return text(code, subject, params)
    additive = {"additive_words": ADDITIVE_WORDS[params["additive"]]} if "additive" in params else {}
    return _filled(SHORT[code], subject, {**params, **additive})


def _condition_row(code: str) -> tuple[str, str] | None:
    found = next((one for one in conditions().values() if one.code == code), None) if code not in WORDS else None
    return (found.text, found.action) if found else None
