"""Clients of a practitioner."""

from __future__ import annotations

from collections.abc import Collection
from typing import Any

from django.conf import settings
from django.db import models

from dietetics.targets.conditions import CONDITIONS
from dietetics.targets.person import (
    ACTIVITIES,
    APPETITES,
    CHILD_UNTIL,
    GOALS,
    age_years_on,
    breastfeeding_month_on,
    pregnancy_week_on,
)
from dietetics.targets.schools import DEFAULT_SCHOOL
from roundpantry.counter import clock
from roundpantry.counter.moments import MomentField

STAGES = ("pregnancy_week", "breastfeeding_month", "stage_said_on")


class Client(models.Model):
    """A person a practitioner plans for. `cautions` holds one danger a line, shown beside the name
    everywhere.
    """

    FEMALE, MALE = "female", "male"

    practitioner = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="clients"
    )
    name = models.CharField(max_length=80)
    sex = models.CharField(max_length=6, choices=[(FEMALE, "female"), (MALE, "male")])
    age_years = models.PositiveSmallIntegerField("age (years)")
    height_cm = models.DecimalField("height (cm)", max_digits=4, decimal_places=1)
    weight_kg = models.DecimalField("weight (kg)", max_digits=4, decimal_places=1)
    birth_date = models.DateField(null=True, blank=True)
    activity = models.CharField(
        max_length=12, default="low-active", choices=list(ACTIVITIES.items())
    )
    goal = models.CharField(max_length=12, default="hold", choices=list(GOALS.items()))
    pace_kg_per_week = models.FloatField("pace (kg a week)", default=0.5)
    goal_weight_kg = models.FloatField("goal weight (kg)", null=True, blank=True)
    school = models.CharField("dietary approach", max_length=40, default=DEFAULT_SCHOOL)
    conditions = models.JSONField(default=list, blank=True)
    pregnant = models.BooleanField(default=False)
    breastfeeding = models.BooleanField(default=False)
    pregnancy_week = models.PositiveSmallIntegerField("pregnancy week", null=True, blank=True)
    stage_said_on = models.DateField(null=True, blank=True, editable=False)
    weight_before_kg = models.FloatField("weight before pregnancy (kg)", null=True, blank=True)
    breastfeeding_month = models.PositiveSmallIntegerField(
        "breastfeeding month", null=True, blank=True
    )
    deficit_by = models.CharField("deficit agreed by (clinician)", max_length=80, blank=True)
    deficit_on = models.DateField("agreed on", null=True, blank=True)
    lost_kg = models.FloatField("weight lost in the last six months (kg)", null=True, blank=True)
    lost_unintended = models.BooleanField("lost without wanting it", default=False)
    eats_little_days = models.PositiveSmallIntegerField(
        "days of eating little or nothing", null=True, blank=True
    )
    appetite = models.CharField(max_length=8, default="good", choices=list(APPETITES.items()))
    babies = models.PositiveSmallIntegerField("children expected", default=1)
    bowels = models.CharField("bowels", max_length=120, blank=True)
    fluids = models.CharField("drinks in a day", max_length=120, blank=True)
    usual_day = models.TextField("a usual day, as they tell it", blank=True)
    usual_sodium_mg = models.FloatField("usual sodium (mg a day)", null=True, blank=True)
    usual_vitamin_k_ug = models.FloatField("usual vitamin K (µg a day)", null=True, blank=True)
    clinician_energy_kcal = models.FloatField(
        "energy set by a clinician (kcal a day)", null=True, blank=True
    )
    clinician_energy_by = models.CharField("energy set by (clinician)", max_length=80, blank=True)
    clinician_energy_on = models.DateField("set on", null=True, blank=True)
    supplements = models.TextField("supplements", blank=True)
    allergies = models.JSONField(default=list, blank=True)
    dislikes = models.TextField("dislikes and foods avoided", blank=True)
    meals_a_day = models.PositiveSmallIntegerField(null=True, blank=True)
    meal_hours = models.CharField(max_length=80, blank=True)
    kitchen = models.CharField(max_length=120, blank=True)
    fibre_now_g = models.FloatField(
        "current fibre intake (g a day, if known)", null=True, blank=True
    )
    household = models.PositiveSmallIntegerField("household size", default=1)
    archived = models.BooleanField(default=False)
    cautions = models.TextField("other cautions", blank=True)
    notes = models.TextField(blank=True)
    opened_at = models.DateTimeField(null=True, blank=True, editable=False)
    created_at = MomentField(auto_now_add=True)

    class Meta:
        ordering = ("name",)

    def __str__(self) -> str:
        return self.name

    @classmethod
    def from_db(
        cls, db: str | None, field_names: Collection[str], values: Collection[Any], **more: Any
    ) -> Client:
        """A stored client, as old as they are today where the date of birth is known, and as far
        in a pregnancy or in breastfeeding as today: what was stored grows old.
        """
        client = super().from_db(db, field_names, values, **more)
        if {"age_years", "birth_date"} <= set(field_names) and client.birth_date is not None:
            client.age_years = age_years_on(clock.today(), client.birth_date)
        if set(STAGES) <= set(field_names) and client.stage_said_on is not None:
            client._go_on_with_the_stage()
        return client

    def _go_on_with_the_stage(self) -> None:
        """Bring the week of a pregnancy and the month of breastfeeding to today, from the day on
        which they were said.
        """
        said_on, today = self.stage_said_on, clock.today()
        if said_on is None:
            return
        if self.pregnancy_week is not None:
            self.pregnancy_week = int(pregnancy_week_on(today, self.pregnancy_week, said_on))
        if self.breastfeeding_month is not None:
            month = breastfeeding_month_on(today, self.breastfeeding_month, said_on)
            self.breastfeeding_month = int(month)
        self.stage_said_on = today

    def save(self, *args: Any, **kwargs: Any) -> None:
        """Store; the week of a pregnancy and the month of breastfeeding are those of today."""
        if kwargs.get("update_fields") is None:
            self.stage_said_on = clock.today() if self.pregnant or self.breastfeeding else None
        super().save(*args, **kwargs)

    @property
    def caution_list(self) -> list[str]:
        """Everything that can hurt this client: allergies, conditions and medicines, stages of
        life, and words of one's own.
        """
        found = [f"{allergy.replace('-', ' ')} allergy".capitalize() for allergy in self.allergies]
        named = [CONDITIONS[key].split(" (")[0] for key in self.conditions if key in CONDITIONS]
        found += [name[0].upper() + name[1:] for name in named]
        found += [f"Child of {self.age_years}"] if self.age_years < CHILD_UNTIL else []
        found += [
            word
            for word, yes in (("Pregnant", self.pregnant), ("Breastfeeding", self.breastfeeding))
            if yes
        ]
        return found + [line.strip() for line in self.cautions.splitlines() if line.strip()]


class FormerName(models.Model):
    """What a client was called before; erased with them, wherever it stands."""

    client = models.ForeignKey(Client, on_delete=models.CASCADE, related_name="former_names")
    name = models.CharField(max_length=80)
    until = MomentField(auto_now_add=True)


class OwnSchool(models.Model):
    """A practitioner's own school: one of the rule sets with some numbers of their own. An empty
    number is the base's.
    """

    practitioner = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="schools"
    )
    base = models.CharField(max_length=40)
    name = models.CharField(max_length=60)
    why = models.TextField(blank=True)
    density_high = models.FloatField("energy density at most (kcal/g)", null=True, blank=True)
    sodium_high = models.FloatField("sodium at most (mg a day)", null=True, blank=True)
    protein_low_g_per_kg = models.FloatField("protein from (g/kg)", null=True, blank=True)
    protein_high_g_per_kg = models.FloatField("protein to (g/kg)", null=True, blank=True)

    class Meta:
        ordering = ("name",)

    def __str__(self) -> str:
        return self.name


class Measurement(models.Model):
    """One thing measured of a client on a day: body, blood, or how they feel. `value` is in the
    base unit of its kind, `typed` what was written; `low` and `high` are the laboratory's own
    range. None of them changes the client's record or their targets by itself.
    """

    PRACTITIONER, CLIENT, CLINICIAN = "practitioner", "client", "clinician"
    REPORTERS = (
        (PRACTITIONER, "the practitioner"),
        (CLIENT, "the client"),
        (CLINICIAN, "the clinician or laboratory"),
    )

    client = models.ForeignKey(Client, on_delete=models.CASCADE, related_name="measurements")
    kind = models.CharField(max_length=20)
    value = models.FloatField()
    day = models.DateField()
    at = models.TimeField(null=True, blank=True)
    typed = models.CharField(max_length=120, blank=True)
    reported_by = models.CharField(max_length=12, choices=REPORTERS, default=PRACTITIONER)
    low = models.FloatField(null=True, blank=True)
    high = models.FloatField(null=True, blank=True)
    remark = models.CharField(max_length=300, blank=True)
    made_at = MomentField(auto_now_add=True)

    class Meta:
        ordering = ("-day", "-at", "-pk")
        indexes = [models.Index(fields=["client", "kind", "day"])]


class Acknowledgement(models.Model):
    """A caution that somebody took note of, with a reason. `scope` is "client" or the bowl it arose
    in.
    """

    client = models.ForeignKey(Client, on_delete=models.CASCADE, related_name="acknowledgements")
    scope = models.CharField(max_length=24, default="client")
    key = models.CharField(max_length=80)
    text = models.TextField()
    reason = models.TextField()
    by = models.CharField(max_length=80)
    measure = models.FloatField(default=0)
    at = MomentField(auto_now_add=True)

    class Meta:
        ordering = ("-pk",)
