"""Cautions as the client reads them: in the second person, without what only the practitioner does.

What is left empty is not told on paper: it is for the practitioner, or numbers in it can do harm.
Sources are those of each caution; the words are ours.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping

from dietetics.cautions.sentences import joined, plain
from dietetics.cautions.verdict import Verdict

Told = str | Callable[[Verdict], str]


def _pregnancy(verdict: Verdict) -> str:
    low, high = verdict.params["gain"]
    return (
        f"You are pregnant: the plan is for you and your baby. The usual gain is {low:g} to "
        f"{high:g} kg in all. Take B12, iodine and folic acid; have your blood tests as your "
        "midwife or doctor says."
    )


def _never_eaten(verdict: Verdict) -> str:
    foods = joined(verdict.params["foods"])
    subject = plain(verdict.subject)
    return f"You avoid {subject}, and it is in this week: {foods}. Leave it out, or ask."


def _allergen(verdict: Verdict) -> str:
    foods = joined(verdict.params["foods"])
    subject = plain(verdict.subject)
    return f"You have an allergy to {subject}, and it is in this week: {foods}. Do not eat it; ask."


def _traces(verdict: Verdict) -> str:
    foods = joined(verdict.params["foods"])
    subject = plain(verdict.subject)
    return f"{foods} may contain traces of {subject}. Read the label, or choose another brand."


def _b12(verdict: Verdict) -> str:
    return "There is little B12 in the foods of this week. Take your B12 supplement."


def _as_found(verdict: Verdict) -> str:
    return f"{verdict.text} {verdict.action}".strip()


# code -> what the client reads; "" is not told
TOLD: Mapping[str, Told] = {
    "kidney": "Your kidneys: protein, salt, potassium and phosphorus are for your "
    "kidney team to set. Show them this plan, and change nothing without asking them.",
    "potassium-medicine": "Your medicine raises potassium. Do not use salt substitutes (potassium "
    "chloride).",
    "warfarin": "Warfarin: keep your greens at the same amount every day. Tell your clinic when "
    "you eat differently.",
    "low-blood-sugar": "Your medicine with less food can cause low blood sugar. Do not start "
    "before your doses have been looked at. No skipped meals and no fasting.",
    "insulin-starch": "Tell whoever sets your insulin doses the time and the carbohydrate of each "
    "meal.",
    "no-deficit": "",
    "deficit-by-clinician": "",
    "eating-disorder": "",
    "underweight": "",
    "energy-floor": "",
    "pace": "",
    "oxalate": "Kidney stones: choose kale, cabbage or lettuce rather than spinach and chard, and "
    "drink enough.",
    "thyroid": "Take your thyroid medicine on an empty stomach, one hour before breakfast "
    "and coffee, and four hours apart from calcium or iron, in the same way every day.",
    "gout": "Gout: if beans have caused you trouble before, tell us.",
    "young": "Growth comes first: have weight and height measured as agreed.",
    "infant": "Ask a dietitian for children before you use this plan.",
    "pregnancy": _pregnancy,
    "breastfeeding": "You breastfeed: take B12 and iodine, and lose weight slowly, if at all.",
    "vegan-supplements": "B12, iodine, vitamin D and long-chain omega-3 are not in plant foods "
    "unless they are added. B12 is usually taken as a supplement; the others often are too.",
    "allergen": _allergen,
    "traces": _traces,
    "allergens-open": "Not every ingredient of this week is known. Read each label for what you "
    "are allergic to.",
    "never-eaten": _never_eaten,
    "forbidden-group": "",
    "forbidden-oil": "",
    "forbidden-additive": "",
    "not-suggested": "",
    "tyramine": _as_found,
    "grapefruit": _as_found,
    "nutmeg": _as_found,
    "potassium-foods": "",
    "oxalate-foods": _as_found,
    "soy-thyroid": _as_found,
    "thyroid-breakfast": _as_found,
    "iron-without-c": "Your body takes up more iron with vitamin C: add citrus, pepper, kiwi or "
    "raw greens to beans and grains.",
    "brazil-nuts": _as_found,
    "iodine-seaweed": "Take seaweed out before you eat; its iodine can be very high. Nori is fine.",
    "b12": _b12,
    "iodine": "There is no sure source of iodine in this week: iodised salt, a drink with iodine "
    "on its label, or a supplement.",
    "upper-level": _as_found,
    "vitamin-k-swing": "Greens differ from day to day in this week. Eat the amounts as written.",
    "sodium-swing": "Keep salt the same every day: it changes the level of your medicine.",
    "fibre-jump": "This is more fibre than you are used to: begin with smaller portions of beans, "
    "more every few days, and drink enough.",
    "few-meals-insulin": "On days with two meals or fewer your medicine can cause low blood "
    "sugar. Ask before the first such day.",
    "potassium-unknown": "",
    "potassium-days": "",
    "peritoneal-glucose": "Your dialysis fluid brings glucose too; your dialysis team knows how "
    "much.",
    "transplant": "After your transplant: no grapefruit, pomelo or Seville orange. Raw sprouts and "
    "unwashed leaves only if your team agrees.",
    "diabetes-1": "Your insulin is matched to the carbohydrate of each meal: do not change meals "
    "before your doses have been looked at.",
    "diabetes-2": "Your glucose can fall quickly on whole plant food. Measure it as agreed, and "
    "have your medicines looked at as you lose weight.",
    "gestational-diabetes": "Spread what you eat over three meals and snacks, as your diabetes "
    "team set it. This is no time to lose weight.",
    "pre-diabetes": "Whole grains and beans before flour; have your HbA1c measured as your doctor "
    "says.",
    "metformin": "Metformin lowers vitamin B12 over the years: take B12, and have it measured.",
    "sglt2-inhibitor": "With your medicine: no fasting, no days low in carbohydrate, and drink "
    "enough. When you are ill, ask whether to pause it.",
    "coeliac": "No wheat, barley or rye. Soy sauce, seitan and malt hold them: use wheat-free "
    "tamari, and only gluten-free oats, if your clinic agrees.",
    "high-ldl": "For your cholesterol: no coconut or palm fat; oats or barley and beans every day.",
    "hypertension": "For your blood pressure: little salt. Measure it at home; your doses may "
    "need to fall.",
    "heart-failure": "Keep to the salt and fluid your clinic set; soups, juicy fruit and porridge "
    "count as fluid. Weigh yourself daily, and call at 1 kg more overnight or 2 kg in three days.",
    "prescribed-sodium": "Your doctor prescribed salt: keep to that amount.",
    "hypothyroidism": "For your thyroid: iodised salt or a supplement rather than seaweed.",
    "iron-deficiency": "Food alone refills iron slowly: vitamin C with beans and greens, coffee "
    "and tea an hour apart, and your supplement as your doctor says.",
    "low-b12": "Food does not refill B12: take it as your doctor says.",
    "reflux": "Smaller meals, the last one three hours before bed.",
    "irritable-bowel": "Begin with small amounts of beans, canned and rinsed; tofu and tempeh are "
    "easier.",
    "gallstones": "No skipped meals, and some fat in every main meal.",
    "bariatric-surgery": "Protein first at every meal, drinks apart from food, and your "
    "supplements as the clinic set them.",
    "mao-inhibitor": "With your medicine: no miso, soy sauce, tempeh, sauerkraut, kimchi, yeast "
    "extract or broad bean pods. They can raise your blood pressure dangerously.",
    "lithium": "Keep salt and drinks the same every day; have your lithium level checked when you "
    "eat differently.",
    "statin": "No grapefruit or pomelo with some statins: ask which one yours is.",
    "osteoporosis": "For your bones: calcium-set tofu, fortified drinks and greens daily, and "
    "your vitamin D as measured.",
    "refeeding": "Do not begin this plan. See a doctor today: after a time of eating little, food "
    "has to be started slowly and with blood tests.",
    "near-underweight": "",
    "unintended-loss": "See your doctor about the weight you lost before you change what you eat.",
    "kidney-not-restricted": "Eat enough: do not cut down on protein by yourself.",
    "small-eater": "Small, rich meals, more often, rather than large ones.",
    "unstable": "Your treating team decides what you eat for now.",
    "frail": "Eat a main protein food at every meal, and keep moving as you can.",
    "sarcopenia": "For your muscles: a main protein food at every meal, breakfast too.",
    "cancer": "Keep your weight: eat what you like and can, and tell your team if it falls.",
    "cachexia": "Small, rich meals as you like them; tell your team how it goes.",
    "ibd-flare": "In a flare: soft food, and as much fibre as your bowel team says.",
    "ibd-remission": "",
    "glp-1": "With your medicine: small meals, protein first, and drink between meals.",
    "diuretic": "With your water tablet: call in heat, with vomiting or diarrhoea, and do not cut "
    "salt by yourself.",
    "alcohol": "",
}


def told_to_client(verdict: Verdict) -> str:
    """A caution as the client reads it; "" where it is not told on paper."""
    words = TOLD[verdict.code]
    return words if isinstance(words, str) else words(verdict)
