"""The person targets are computed for: facts as a first talk gives them, refused when no person has
them.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

from dietetics.errors import DieteticsError
from dietetics.targets.conditions import CONDITIONS, EXCLUSIVE, KIDNEY
from dietetics.targets.growth import FROM_YEARS, TO_YEARS, least_bmi

FEMALE, MALE = "female", "male"
ACTIVITIES = {
    "inactive": "inactive: sits most of the day, no exercise",
    "low-active": "light: daily walks or light work on your feet",
    "active": "active: an hour of brisk walking, cycling or manual work most days",
    "very-active": "very active: two hours or more of training or heavy work most days",
}
GOALS = {
    "lose": "lose weight", "hold": "maintain weight", "gain": "gain weight",
    "build": "build muscle",
    "kidneys": "protect kidney function", "eat-better": "eat better (no weight goal)",
}  # fmt: skip
APPETITES = {"good": "good", "poor": "poor: smaller meals than before"}
BMI_LEAST = 18.5  # adults; below 20 years the fifth percentile of the age is taken
CHILD_UNTIL, NOT_PLANNED_UNTIL = (
    19,
    3,
)  # ages from which the equations of adults, and of children, hold
FIRST_TRIMESTER_WEEKS, LAST_WEEK = 13, 42
FIRST_HALF_YEAR_MONTHS, LAST_MONTH = 6, 36


def age_years_on(day: date, born: date) -> int:
    """Return the age in whole years on `day` of a person who was born on `born`.

    Who was born on a 29 February is a year older on 1 March of years without one (common practice;
    some places count from 28 February).

    >>> age_years_on(date(2027, 2, 28), date(2008, 2, 29))
    18
    >>> age_years_on(date(2027, 3, 1), date(2008, 2, 29))
    19
    """
    return day.year - born.year - ((day.month, day.day) < (born.month, born.day))


def pregnancy_week_on(day: date, said: float, said_on: date) -> float:
    """The week of a pregnancy on `day`, when it was week `said` on `said_on`; at most the last.

    >>> pregnancy_week_on(date(2026, 12, 15), 22, date(2026, 12, 1))
    24
    """
    return min(LAST_WEEK, max(1, said + (day - said_on).days // 7))


def breastfeeding_month_on(day: date, said: float, said_on: date) -> float:
    """The month of breastfeeding on `day`, when it was month `said` on `said_on`.

    >>> breastfeeding_month_on(date(2027, 2, 28), 2, date(2026, 12, 1))
    4
    """
    months = (day.year - said_on.year) * 12 + day.month - said_on.month
    months -= day.day < said_on.day
    return min(LAST_MONTH, max(1, said + months))


@dataclass(frozen=True)
class ClinicianNote:
    """What a clinician decided, by whom and on which day (ISO date)."""

    by: str
    on: str


@dataclass(frozen=True)
class Person:
    """Facts about a client. Raises DieteticsError when they contradict one another or no person has
    them.

    Height in cm, weight in kg, pace in kg a week (positive, whatever the goal). `pregnancy_week`
    counts from the last period, `weight_before_kg` is the weight before the pregnancy,
    `breastfeeding_month` the month since birth (1 the first); None where not known. `deficit_note`
    is a clinician's leave to lose weight where it is held back otherwise. `loss_percent` is the
    share of weight lost in the last six months, `eats_little_days` for how many days little or
    nothing has been eaten, `babies` how many a pregnancy carries, `usual_…` what was eaten a day
    before; None where not known. `clinician_energy_kcal` is a clinician's figure a day.
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
    pregnancy_week: float | None = None
    weight_before_kg: float | None = None
    breastfeeding_month: float | None = None
    deficit_note: ClinicianNote | None = None
    loss_percent: float | None = None
    loss_unintended: bool = False
    eats_little_days: float | None = None
    appetite: str = "good"
    babies: int = 1
    usual_sodium_mg: float | None = None
    usual_vitamin_k_ug: float | None = None
    clinician_energy_kcal: float | None = None
    clinician_energy_note: ClinicianNote | None = None

    def __post_init__(self) -> None:
        self._check_measurements()
        self._check_words()
        self._check_contradictions()
        self._check_goal_weight()

    def _check_measurements(self) -> None:
        """Refuse a height, a weight, an age or a stage that no person has."""
        for name, value, low, high, unit in (
            ("height", self.height_cm, 50, 250, "cm"),
            ("weight", self.weight_kg, 2, 400, "kg"),
            ("age", self.age_years, 1, 120, "years"),
            ("pace", self.pace_kg_per_week, 0, 5, "kg a week"),
            ("week of pregnancy", self.pregnancy_week, 1, LAST_WEEK, "weeks"),
            ("month of breastfeeding", self.breastfeeding_month, 1, LAST_MONTH, "months"),
            ("weight before pregnancy", self.weight_before_kg, 2, 400, "kg"),
            ("weight lost", self.loss_percent, 0, 60, "%"),
            ("days of eating little", self.eats_little_days, 0, 365, "days"),
            ("babies", self.babies, 1, 4, "children"),
            ("usual sodium", self.usual_sodium_mg, 50, 20_000, "mg a day"),
            ("usual vitamin K", self.usual_vitamin_k_ug, 1, 3_000, "µg a day"),
            ("clinician's energy", self.clinician_energy_kcal, 100, 6_000, "kcal a day"),
        ):
            if value is not None and not low <= value <= high:
                raise DieteticsError(
                    "person-impossible", name=name, value=value, low=low, high=high, unit=unit
                )

    def _check_words(self) -> None:
        """Refuse a word that no list of this program holds."""
        for name, word, known in (
            ("sex", self.sex, (FEMALE, MALE)),
            ("activity", self.activity, tuple(ACTIVITIES)),
            ("goal", self.goal, tuple(GOALS)),
            ("appetite", self.appetite, tuple(APPETITES)),
        ):
            if word not in known:
                raise DieteticsError(
                    "person-unknown-word", name=name, value=word, known=", ".join(known)
                )
        unknown = sorted(self.conditions - set(CONDITIONS))
        if unknown:
            raise DieteticsError(
                "person-unknown-word",
                name="condition",
                value=unknown[0],
                known=", ".join(CONDITIONS),
            )

    def _check_contradictions(self) -> None:
        """Refuse facts that nobody can have at once."""
        for group in EXCLUSIVE:
            held = [one for one in group if one in self.conditions]
            if len(held) > 1:
                raise DieteticsError(
                    "person-contradiction", one=CONDITIONS[held[0]], other=CONDITIONS[held[1]]
                )
        if self.sex == MALE and (self.pregnant or self.breastfeeding):
            raise DieteticsError(
                "person-contradiction", one="male", other="pregnant or breastfeeding"
            )
        if self.sex == MALE and "gestational-diabetes" in self.conditions:
            raise DieteticsError(
                "person-contradiction", one="male", other=CONDITIONS["gestational-diabetes"]
            )

    def _check_goal_weight(self) -> None:
        """Refuse a goal that would leave the person underweight."""
        if self.goal_weight_kg is not None and self.bmi_at(self.goal_weight_kg) < self.bmi_least:
            raise DieteticsError(
                "goal-too-light",
                kg=self.goal_weight_kg,
                bmi=self.bmi_at(self.goal_weight_kg),
                least=self.bmi_least,
            )

    def bmi_at(self, weight_kg: float) -> float:
        """Body mass index at a weight, kg/m²."""
        return weight_kg / (self.height_cm / 100) ** 2

    @property
    def bmi(self) -> float:
        """Body mass index, kg/m²; in pregnancy by the weight before it, where that is known."""
        before = self.weight_before_kg if self.pregnant else None
        return self.bmi_at(self.weight_kg if before is None else before)

    @property
    def bmi_least(self) -> float:
        """The BMI under which this person is too light: 18.5, or the fifth percentile of their age
        below 20 years.
        """
        if FROM_YEARS <= self.age_years < TO_YEARS:
            return least_bmi(self.sex, self.age_years)
        return BMI_LEAST

    @property
    def growing(self) -> bool:
        """True under 19 years."""
        return self.age_years < CHILD_UNTIL

    @property
    def stage(self) -> str:
        """Life stage of the intake tables."""
        return "pregnant" if self.pregnant else "breastfeeding" if self.breastfeeding else "none"

    @property
    def kidney_disease(self) -> bool:
        """True for stages G1 to G5, dialysis of both kinds and transplant."""
        return bool(self.conditions & KIDNEY)
