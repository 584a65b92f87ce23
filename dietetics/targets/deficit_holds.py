"""Who is not planned to lose weight: then the window is what the person needs, and the wanted
deficit is only named.

A clinician's note, dated and named, applies the deficit all the same. The reasons are codes; their
words stand with the words of the cautions. Published advice agrees on all of them; the line drawn
at 70 years is that of GLIM (Cederholm et al., Clin Nutr 2019;38:1, from memory): a BMI under 22 is
low from 70 years on.
"""

from __future__ import annotations

from dietetics.targets.conditions import DIALYSIS
from dietetics.targets.person import FIRST_HALF_YEAR_MONTHS, Person

ADULT_FROM, OLD_FROM = 18, 70
LOW_BMI_WHEN_OLD = 22.0


def hold_reasons(person: Person) -> tuple[str, ...]:
    """Codes of everything that forbids a deficit to this person without a clinician's note; none
    for most adults.
    """
    early = (
        person.breastfeeding_month is None or person.breastfeeding_month <= FIRST_HALF_YEAR_MONTHS
    )
    reasons = (
        ("pregnancy", person.pregnant),
        ("breastfeeding-first-half-year", person.breastfeeding and early),
        ("under-18", person.age_years < ADULT_FROM),
        ("eating-disorder", "eating-disorder" in person.conditions),
        ("low-bmi", person.bmi < person.bmi_least),
        ("dialysis", bool(person.conditions & DIALYSIS)),
        ("low-weight-over-70", person.age_years >= OLD_FROM and person.bmi < LOW_BMI_WHEN_OLD),
    )
    return tuple(code for code, holds in reasons if holds)


def advised_against(person: Person) -> tuple[str, ...]:
    """Codes of what asks for a clinician's note before a deficit that is applied: later
    breastfeeding, over 70.
    """
    held = hold_reasons(person)
    reasons = (
        ("breastfeeding", person.breastfeeding and "breastfeeding-first-half-year" not in held),
        ("over-70", person.age_years >= OLD_FROM and "low-weight-over-70" not in held),
    )
    return tuple(code for code, holds in reasons if holds)


def deficit_is_held(person: Person) -> bool:
    """True where a wanted deficit is not applied."""
    return person.goal == "lose" and person.deficit_note is None and bool(hold_reasons(person))
