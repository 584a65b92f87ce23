"""The sentences of every verdict, in one place: what was found and what to do, by code.

A template is filled from the verdict's params; a tuple of names is joined with commas. Where a
sentence has parts that may be missing, a small function makes it. Conditions bring their sentences
with their row of `conditions.csv`.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

from dietetics.nutrients import nutrient
from dietetics.targets.conditions import conditions
from dietetics.targets.needs_table import row_of_caution

LOCAL = "Local rules differ; medical nutrition therapy requires a licensed practitioner."
Params = Mapping[str, Any]
Words = str | Callable[[Params], str]

ADDITIVE_WORDS: Mapping[str, str] = {
    "phosphate": "a phosphate additive",
    "potassium-chloride": "potassium chloride",
}


def _are_names(value: object) -> bool:
    return isinstance(value, tuple) and all(isinstance(one, str) for one in value)


def joined(names: object) -> str:
    """Names with commas between them."""
    return names if isinstance(names, str) else ", ".join(names)  # type: ignore[arg-type]


def plain(subject: str) -> str:
    """A subject as words: "tree-nuts" is tree nuts."""
    return subject.replace("-", " ")


def _no_deficit(p: Params) -> str:
    reasons = joined(p["reasons"])
    if p["held"]:
        return (
            f"The requested deficit is not applied ({reasons}). The target is maintenance energy."
        )
    return f"No deficit without a clinician's note: {reasons}."


def _low_blood_sugar(p: Params) -> str:
    causes = [
        name
        for name, yes in (("fewer calories", p["fewer"]), ("two meals a day", p["few_meals"]))
        if yes
    ]
    return f"Insulin or a sulphonylurea with {' and '.join(causes)} can cause low blood sugar."


def _pregnancy(p: Params) -> str:
    when = f"week {p['week']:g}" if p["week"] is not None else "week not known"
    twins = ", twins" if p["babies"] == 2 else ", more than two children" if p["babies"] > 2 else ""
    gain = (
        f"{p['gain'][0]:g}–{p['gain'][1]:g} kg total gain is the usual advice "
        f"({p['gain_class']} before pregnancy{twins})"
        if p["gain"]
        else f"nothing is published of the gain ({p['gain_class']} before pregnancy{twins})"
    )
    return f"Pregnancy, {when}: the plan covers mother and baby; {gain}."


def _breastfeeding(p: Params) -> str:
    when = f"month {p['month']:g}" if p["month"] is not None else "month not known"
    return f"Breastfeeding, {when}: breast milk uses the mother's energy, iodine and B12."


def _forbidden_additive(p: Params) -> str:
    holders = f"Contains {ADDITIVE_WORDS[p['additive']]}: {joined(p['foods'])}."
    return f"{holders} {p['why']}."


def _allergens_open(p: Params) -> str:
    lines = (
        f"{p['unread']} line{'' if p['unread'] == 1 else 's'} in its dishes not understood"
        if p["unread"]
        else ""
    )
    lists = f"no ingredient list for {joined(p['unlisted'])}" if p["unlisted"] else ""
    return f"Allergens may be incomplete: {'; '.join(filter(None, (lines, lists)))}."


def _potassium_foods(p: Params) -> str:
    foods = ", ".join(f"{name} {mg:,.0f} mg" for name, mg in p["foods"])
    hidden = f" Unknown in {joined(p['unknown'])}." if p["unknown"] else ""
    return f"Potassium {p['total'].shown()} in this meal{f': {foods}' if foods else ''}.{hidden}"


def _iron(p: Params) -> str:
    beside = "no known" if p["vitamin_c_mg"] is None else f"{p['vitamin_c_mg']:.0f} mg"
    return f"{p['iron_mg']:.1f} mg iron with {beside} vitamin C: less iron is absorbed."


def _b12(p: Params) -> str:
    if p["days"]:
        return (
            f"B12 from fortified foods and supplements is below {p['need']:g} µg on "
            f"{joined(p['days'])}."
        )
    return (
        f"{p['ug']:.1f} µg B12 from fortified foods and supplements; the daily target is "
        f"{p['need']:g} µg."
    )


def _on_days(text: str, p: Params) -> str:
    return f"{joined(p['days'])}: {text}" if p.get("days") else text


def _brazil_nuts(p: Params) -> str:
    return _on_days(
        f"{p['nuts']:.0f} Brazil nuts exceed the upper level of selenium ({p['upper']:g} µg).", p
    )


def _iodine_seaweed(p: Params) -> str:
    text = (
        f"{joined(p['foods'])}, {p['grams']:.1f} g: the iodine content is unknown and can be "
        "very high "
        f"(1,000–2,500 µg in a gram of dried kombu; the upper level is {p['upper']:,.0f} µg a day)."
    )
    return _on_days(text, p)


def _iodine(p: Params) -> str:
    return "No known iodine all week." if p["week"] else "No known iodine on this day."


def _upper(p: Params) -> str:
    one = nutrient(p["nutrient"])
    whence = "supplements" if p["supplements_only"] else "food and supplements"
    text = (
        f"{one.name} from {whence} {one.text(p['amount'])}, above the upper level of "
        f"{one.text(p['upper'])} a day."
    )
    return _on_days(text, p)


def _swing(key: str) -> Callable[[Params], str]:
    def words(p: Params) -> str:
        one = nutrient(key)
        hedge = (
            f" {one.name} is unknown in some foods eaten; this counts the known part."
            if p["partly"]
            else ""
        )
        days = f"{p['before']} to {p['after']}: " if p["before"] else ""
        return (
            f"{days}{one.name} changes from {one.number(p['from'])} to {one.text(p['to'])}: "
            f"{p['swing']:.0%}.{hedge}"
        )

    return words


def _potassium_days(p: Params) -> str:
    over = ", ".join(f"{day} {mg:,.0f} mg" for day, mg in p["over"])
    return f"Potassium above the daily limit of {p['ceiling']:,.0f} mg: {over}."


def _soy_thyroid(p: Params) -> str:
    where = f"Soy at {joined(p['meals'])}" if p["meals"] else "Soy in this meal"
    return f"{where}: not at the same time as the thyroid medicine."


def _thyroid_breakfast(p: Params) -> str:
    parts = [*p["meals"]]
    parts += [f"the supplement of {joined(p['pills'])}"] if p["pills"] else []
    return f"Too near to the thyroid medicine: {'; '.join(parts)}."


def _kidney(p: Params) -> str:
    return (
        "Kidney disease: energy, protein, sodium, potassium and phosphorus are set from the "
        "client's blood results."
    )


# code -> (what was found, what to do)
WORDS: Mapping[str, tuple[Words, Words]] = {
    "kidney": (
        _kidney,
        f"Record who set them and when. Until then none of them is a required target. {LOCAL}",
    ),
    "potassium-medicine": (
        "A medicine that raises potassium (ACE inhibitor, ARB, spironolactone).",
        "Ask for a potassium limit; avoid salt substitutes (potassium chloride).",
    ),
    "warfarin": (
        "Warfarin: keep vitamin K steady from day to day, whatever the amount.",
        "Keep greens at the same amount daily; changes of more than half are marked.",
    ),
    "low-blood-sugar": (
        _low_blood_sugar,
        "Do not start until the doses have been reviewed. No skipped meals or fasting.",
    ),
    "insulin-starch": (
        "Insulin with a starch-based approach: a lot of carbohydrate at each meal.",
        "Give the time and carbohydrate of every meal to the person who sets the doses.",
    ),
    "no-deficit": (
        _no_deficit,
        "Plan for weight maintenance until there is a clinician's note with name and date.",
    ),
    "deficit-by-clinician": (
        "A deficit is applied on the note of {by}, {on}.",
        "Keep the note with the record, and go back to them when weight or health changes.",
    ),
    "eating-disorder": (
        "Eating disorder, current or past: numbers can do harm.",
        "Consider hiding calories and weights on hand-overs; work with the treating team.",
    ),
    "underweight": (
        "BMI {bmi:.1f} is under {least:.1f}.",
        "Ask about recent weight change and whether it was intended. Energy density may be "
        "increased.",
    ),
    "energy-floor": (
        "The goal would mean {wanted:,.0f} kcal a day, below the minimum of {floor:,.0f}.",
        "The target was raised to the minimum. Choose a slower pace.",
    ),
    "pace": (
        "{pace:g} kg a week is {share:.1%} of body weight, above 1 %.",
        "0.5 to 1 kg a week is the usual advice. A faster pace needs a clinician's agreement.",
    ),
    "oxalate": (
        "Oxalate stones: spinach, chard, beet greens and almonds are marked.",
        "Choose kale, cabbage or lettuce; include calcium at meals and drink enough.",
    ),
    "thyroid": (
        "Thyroid medicine: soy, coffee, fibre, calcium and iron at the same time reduce its "
        "absorption.",
        "Take it on an empty stomach, one hour before breakfast and coffee, and four hours "
        "apart from calcium or iron. "
        "Keep the routine the same every day.",
    ),
    "gout": (
        "Gout is not a reason to avoid beans, but ask the client.",
        "Ask whether beans have caused problems before.",
    ),
    "young": (
        "Under 19: growth comes first. Follow it on a growth chart.",
        "Work with a paediatric dietitian; weigh and measure at the intervals they set.",
    ),
    "infant": (
        "Under 3 years: not planned here. No energy target is calculated.",
        "Refer to a paediatric dietitian.",
    ),
    "pregnancy": (
        _pregnancy,
        "B12, iodine and folic acid as supplements; blood tests as the midwife or doctor advises.",
    ),
    "breastfeeding": (
        _breastfeeding,
        "B12 and iodine as supplements. Lose weight slowly, if at all.",
    ),
    "vegan-supplements": (
        "B12, iodine, vitamin D and long-chain omega-3 are not found in unfortified plant foods.",
        "A B12 supplement is usual practice; iodine, vitamin D and algae oil likewise. Check "
        "labels for what is added.",
    ),
    "allergen": ("{subject} allergy: {foods}.", "Remove it, or give a reason for proceeding."),
    "traces": (
        "{subject} allergy: {foods} may contain traces, according to the label.",
        "Ask how strict the client is, or choose another brand.",
    ),
    "allergens-open": (
        _allergens_open,
        "Correct the lines, or check the package, before it is eaten.",
    ),
    "never-eaten": ("Client avoids {subject}: {foods}.", "Replace it, or ask the client again."),
    "forbidden-group": (
        "The {school} approach excludes {subject}: {foods}.",
        "Choose another food, or give a reason.",
    ),
    "forbidden-oil": (
        "Made with oil, which the {school} approach excludes: {foods}.",
        "Choose one without oil, or cook it without oil.",
    ),
    "forbidden-additive": (
        _forbidden_additive,
        "Choose a brand without it; check the ingredient list.",
    ),
    "not-suggested": (
        "Heavily processed: {foods}.",
        "You can add it by hand; it is never suggested.",
    ),
    "tyramine": (
        "An MAO inhibitor and tyramine: {foods}.",
        "Remove it. Use fresh tofu or plain beans instead.",
    ),
    "grapefruit": (
        "{medicine} and {foods}: the level of the medicine can rise.",
        "Choose another fruit, or ask which one it is.",
    ),
    "nutmeg": (
        "{grams:.1f} g of nutmeg: about 5 g or more is toxic.",
        "A pinch is enough for a batch.",
    ),
    "potassium-foods": (
        _potassium_foods,
        lambda p: (
            "Halve the first food named, or use it boiled and drained."
            if p["foods"]
            else "Ask the manufacturer for the figure, or leave it out."
        ),
    ),
    "oxalate-foods": ("High in oxalate: {foods}.", "Choose kale, cabbage or lettuce."),
    "thyroid-breakfast": (
        _thyroid_breakfast,
        "Breakfast and coffee an hour after the tablet, calcium and iron four hours after it; or "
        "the tablet at bedtime, if the doctor agrees.",
    ),
    "soy-thyroid": (_soy_thyroid, "Keep them a few hours apart, in the same way every day."),
    "iron-without-c": (_iron, "Add a citrus, pepper, kiwi or raw greens."),
    "brazil-nuts": (_brazil_nuts, "One or two a day are enough."),
    "iodine-seaweed": (
        _iodine_seaweed,
        "Remove it before eating, use nori, or ask the clinician in thyroid disease or pregnancy.",
    ),
    "b12": (_b12, "A B12 supplement is usual practice."),
    "iodine": (_iodine, "Iodised salt, a labelled drink, or a supplement."),
    "upper-level": (_upper, "Lower the dose, or ask the clinician who set it."),
    "vitamin-k-swing": (_swing("vitamin_k_ug"), "Keep greens at the same amount daily."),
    "sodium-swing": (
        _swing("sodium_mg"),
        "Keep salt the same every day; it affects the blood level of the medicine.",
    ),
    "fibre-jump": (
        "Fibre would rise from {before_g:.0f} to {now_g:.0f} g a day within a week.",
        "Increase by about 5 g every few days, with enough water.",
    ),
    "few-meals-insulin": (
        "Two meals or fewer on {days}, with insulin or a sulphonylurea: low blood sugar.",
        f"Ask before the first such day. {LOCAL}",
    ),
    "potassium-unknown": (
        "Potassium is unknown in some foods eaten on {days}: the figures are minimums.",
        "Use foods with known potassium, or find it on the label.",
    ),
    "potassium-days": (
        _potassium_days,
        "Change those days: halve the potato, beans or tomato paste.",
    ),
}
# code -> the reason in a few words
SHORT: Mapping[str, str] = {
    "allergen": "the {subject} allergy",
    "traces": "traces of {subject}",
    "never-eaten": "disliked or never eaten",
    "forbidden-group": "the {school} approach excludes {subject}",
    "forbidden-oil": "the {school} approach excludes foods made with oil",
    "forbidden-additive": "contains {additive_words}",
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
    row = _condition_row(code, params)
    return row[0] if row else _filled(WORDS[code][0], subject, params)


def action(code: str, params: Params) -> str:
    """What to do about a verdict, in words."""
    row = _condition_row(code, params)
    return row[1] if row else _filled(WORDS[code][1], "", params)


def short(code: str, subject: str, params: Params) -> str:
    """The reason of a verdict in a few words; its whole text where none is written."""
    if code not in SHORT:
        return text(code, subject, params)
    additive = (
        {"additive_words": ADDITIVE_WORDS[params["additive"]]} if "additive" in params else {}
    )
    return _filled(SHORT[code], subject, {**params, **additive})


def _condition_row(code: str, params: Params) -> tuple[str, str] | None:
    """The words of a caution that a row of the tables brings: of conditions, or of needs."""
    if code in WORDS:
        return None
    found = next((one for one in conditions().values() if one.code == code), None)
    if found is not None:
        return found.text, found.action
    row = row_of_caution(code)
    return (row.text.format(**params), row.action) if row is not None else None
