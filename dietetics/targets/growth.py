"""Body mass index for age, 2 to 20 years: who is thinner than the fifth percentile of their age and
sex.

CDC growth charts 2000 (public domain): BMI at a percentile z is M (1 + L S z)^(1/L), with L, M and
S by month.
"""

from __future__ import annotations

from bisect import bisect_left
from functools import lru_cache

from dietetics.composition.foods import read_table

SOURCE = "CDC growth charts 2000, BMI for age"
FIFTH_PERCENTILE_Z = -1.6449  # underweight, as the CDC draws the line
FROM_YEARS, TO_YEARS = 2.0, 20.0


@lru_cache(maxsize=2)
def _rows(sex: str) -> tuple[tuple[float, float, float, float], ...]:
    rows = (row for row in read_table("bmi_for_age.csv") if row["sex"] == sex)
    return tuple((float(r["age_years"]), float(r["l"]), float(r["m"]), float(r["s"])) for r in rows)


def least_bmi(sex: str, age_years: float) -> float:
    """The fifth percentile of BMI (kg/m²) at an age of 2 to 20 years, between two months as the
    nearer to them.

    >>> round(least_bmi("male", 10), 1)
    14.2
    """
    rows = _rows(sex)
    at = bisect_left([row[0] for row in rows], age_years)
    if at == 0:
        return _at(rows[0])
    if at == len(rows):
        return _at(rows[-1])
    before, after = rows[at - 1], rows[at]
    share = (age_years - before[0]) / (after[0] - before[0])
    return _at(before) * (1 - share) + _at(after) * share


def _at(row: tuple[float, float, float, float]) -> float:
    _, power, median, spread = row
    return float(median * (1 + power * spread * FIFTH_PERCENTILE_Z) ** (1 / power))
