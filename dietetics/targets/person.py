"""The person targets are computed for: facts as a first talk gives them, refused when no person has them."""

from __future__ import annotations

from dataclasses import dataclass

from dietetics.errors import DieteticsError

FEMALE, MALE = "female", "male"
ACTIVITIES = {
    "inactive": "sits most of the day, no sport",
    "low-active": "daily walks or light work on one's feet",
    "active": "an hour of brisk walking, cycling or manual work most days",
    "very-active": "training or heavy work of two hours and more most days",
}
GOALS = {
    "lose": "lose weight", "hold": "hold weight", "gain": "gain weight", "build": "build muscle",
    "kidneys": "protect the kidneys", "eat-better": "simply eat better",
}  # fmt: skip
CONDITIONS = {
    "ckd-3": "kidney disease, stage 3", "ckd-4": "kidney disease, stage 4", "ckd-5": "kidney disease, stage 5",
    "dialysis": "on dialysis", "transplant": "kidney transplant", "diabetes-2": "type 2 diabetes", "insulin": "insulin",
    "sulphonylurea": "sulphonylurea", "warfarin": "warfarin", "potassium-raising": "potassium-raising medicine (ACE "
    "inhibitor, ARB, spironolactone)", "thyroid-medicine": "thyroid medicine", "kidney-stones-oxalate": "oxalate kidney stones",
    "eating-disorder": "eating disorder, now or before", "hypertension": "high blood pressure",
    "osteoporosis": "osteoporosis", "gout": "gout",
}  # fmt: skip
CONTRADICTIONS = (
    ("ckd-3", "ckd-4"),
    ("ckd-3", "ckd-5"),
    ("ckd-4", "ckd-5"),
    ("ckd-3", "dialysis"),
    ("ckd-4", "dialysis"),
)
BMI_LEAST = 18.5


@dataclass(frozen=True)
class Person:
    """Facts about a client. Raises DieteticsError when they contradict one another or no person has them.

    Height in cm, weight in kg, pace in kg a week (positive, whatever the goal).
    """

    sex: str
    age_years: float
    height_cm: float
    weight_kg: float
    activity: str = "low-active"
    goal: str = "hold"
    pace_kg_per_week: float = 0.5
    school: str = "balanced-bowl"
    conditions: frozenset[str] = frozenset()
    pregnant: bool = False
    breastfeeding: bool = False
    goal_weight_kg: float | None = None
    meals_a_day: int | None = None

    def __post_init__(self) -> None:
        for name, value, low, high, unit in (
            ("height", self.height_cm, 50, 250, "cm"), ("weight", self.weight_kg, 2, 400, "kg"),
            ("age", self.age_years, 1, 120, "years"), ("pace", self.pace_kg_per_week, 0, 5, "kg a week"),
        ):  # fmt: skip
            if not low <= value <= high:
                raise DieteticsError("person-impossible", name=name, value=value, low=low, high=high, unit=unit)
        for name, word, known in (
            ("sex", self.sex, (FEMALE, MALE)), ("activity", self.activity, tuple(ACTIVITIES)), ("goal", self.goal, tuple(GOALS)),
        ):  # fmt: skip
            if word not in known:
                raise DieteticsError("person-unknown-word", name=name, value=word, known=", ".join(known))
        unknown = sorted(self.conditions - set(CONDITIONS))
        if unknown:
            raise DieteticsError("person-unknown-word", name="condition", value=unknown[0], known=", ".join(CONDITIONS))
        for one, other in CONTRADICTIONS:
            if {one, other} <= self.conditions:
                raise DieteticsError("person-contradiction", one=CONDITIONS[one], other=CONDITIONS[other])
        if self.sex == MALE and (self.pregnant or self.breastfeeding):
            raise DieteticsError("person-contradiction", one="male", other="pregnant or breastfeeding")
        if self.goal_weight_kg is not None and self.bmi_at(self.goal_weight_kg) < BMI_LEAST:
            raise DieteticsError("goal-too-light", kg=self.goal_weight_kg, bmi=self.bmi_at(self.goal_weight_kg))

    def bmi_at(self, weight_kg: float) -> float:
        """Body mass index at a weight, kg/m²."""
        return weight_kg / (self.height_cm / 100) ** 2

    @property
    def bmi(self) -> float:
        """Body mass index, kg/m²."""
        return self.bmi_at(self.weight_kg)

    @property
    def stage(self) -> str:
        """Life stage of the intake tables."""
        return "pregnant" if self.pregnant else "breastfeeding" if self.breastfeeding else "none"

    @property
    def kidney_disease(self) -> bool:
        """True for stages 3 to 5, dialysis and transplant."""
        return bool(self.conditions & {"ckd-3", "ckd-4", "ckd-5", "dialysis", "transplant"})
