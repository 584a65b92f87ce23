"""Measurements and targets as other health programs read them: FHIR R4 Observation and
NutritionOrder.

LOINC and UCUM codes are from memory; a kind without a code is sent by its name alone.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import UTC, date, datetime, time
from typing import Any

from dietetics.follow.kinds import BLOOD, FEELING, Kind
from dietetics.nutrients import nutrient
from dietetics.targets.windows import Window

LOINC, UCUM = "http://loinc.org", "http://unitsofmeasure.org"
CATEGORIES = "http://terminology.hl7.org/CodeSystem/observation-category"
UNIT_CODES: Mapping[str, str] = {
    "kg": "kg", "cm": "cm", "mmHg": "mm[Hg]", "mmol/L": "mmol/L", "µmol/L": "umol/L",
    "mmol/mol": "mmol/mol", "µg/L": "ug/L", "g/L": "g/L", "pmol/L": "pmol/L", "nmol/L": "nmol/L",
    "mIU/L": "m[IU]/L", "mg/L": "mg/L", "mL/min": "mL/min/{1.73_m2}", "of 5": "{score}", "": "1",
    "/min": "/min", "steps": "{steps}", "h": "h", "mL": "mL", "a day": "/d",
    "kcal": "kcal", "g": "g", "mg": "mg", "µg": "ug",
}  # fmt: skip


@dataclass(frozen=True)
class Sent:
    """A measurement to be sent: kind, base value, day, time, and the laboratory's range. One that
    is not believed is preliminary, not final.
    """

    key: str
    kind: Kind
    value: float
    day: date
    at: time | None = None
    low: float | None = None
    high: float | None = None
    remark: str = ""
    is_doubted: bool = False


def observation(one: Sent, subject: str) -> dict[str, Any]:
    """One measurement as an Observation; `subject` refers to the patient."""
    code: dict[str, Any] = {"text": one.kind.name}
    if one.kind.loinc:
        code["coding"] = [{"system": LOINC, "code": one.kind.loinc, "display": one.kind.name}]
    group = {BLOOD: "laboratory", FEELING: "survey"}.get(one.kind.group, "vital-signs")
    found: dict[str, Any] = {
        "resourceType": "Observation",
        "id": one.key,
        "status": "preliminary" if one.is_doubted else "final",
        "category": [{"coding": [{"system": CATEGORIES, "code": group}]}],
        "code": code,
        "subject": {"reference": subject},
        "effectiveDateTime": _moment(one.day, one.at),
        "valueQuantity": _quantity(one.value, one.kind.unit, one.kind.decimals),
    }
    ends = {"low": one.low, "high": one.high}
    bounds = {
        name: _quantity(value, one.kind.unit, one.kind.decimals + 1)
        for name, value in ends.items()
        if value is not None
    }
    if bounds:
        found["referenceRange"] = [bounds]
    if one.remark:
        found["note"] = [{"text": one.remark}]
    return found


def nutrition_order(
    key: str,
    windows: Sequence[Window],
    day: date,
    subject: str,
    orderer: str,
    allergies: Sequence[str],
) -> dict[str, Any]:
    """A version of the targets as a NutritionOrder: each window as an amount of its nutrient."""
    nutrients = []
    for window in windows:
        one = nutrient(window.key)
        end = window.high if window.low is None else window.low
        if end is None or one.base_unit not in UNIT_CODES:
            continue
        text = f"{one.name} {window.text()} {one.unit} a day"
        amount = _quantity(end, one.base_unit, one.base_decimals)
        nutrients.append({"modifier": {"text": text}, "amount": amount})
    order: dict[str, Any] = {
        "resourceType": "NutritionOrder",
        "id": key,
        "status": "active",
        "intent": "plan",
        "patient": {"reference": subject},
        "dateTime": day.isoformat(),
        "orderer": {"display": orderer},
        "oralDiet": {"type": [{"text": "whole-food vegan diet"}], "nutrient": nutrients},
    }
    if allergies:
        order["excludeFoodModifier"] = [{"text": one.replace("-", " ")} for one in allergies]
    return order


def bundle(resources: Sequence[Mapping[str, Any]], made: datetime) -> dict[str, Any]:
    """Resources as one collection."""
    return {
        "resourceType": "Bundle",
        "type": "collection",
        "timestamp": made.astimezone(UTC).isoformat(timespec="seconds"),
        "entry": [{"resource": dict(one)} for one in resources],
    }


def _moment(day: date, at: time | None) -> str:
    return day.isoformat() if at is None else datetime.combine(day, at, UTC).isoformat()


def _quantity(value: float, unit: str, decimals: int) -> dict[str, Any]:
    return {
        "value": round(value, decimals),
        "unit": unit or "1",
        "system": UCUM,
        "code": UNIT_CODES[unit],
    }
