"""Clients of a practitioner."""

from django.conf import settings
from django.db import models


class Client(models.Model):
    """A person a practitioner plans for. `cautions` holds one danger a line, shown beside the name everywhere."""

    FEMALE, MALE = "female", "male"

    practitioner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="clients")
    name = models.CharField(max_length=80)
    sex = models.CharField(max_length=6, choices=[(FEMALE, "female"), (MALE, "male")])
    age_years = models.PositiveSmallIntegerField("age (years)")
    height_cm = models.DecimalField("height (cm)", max_digits=4, decimal_places=1)
    weight_kg = models.DecimalField("weight (kg)", max_digits=4, decimal_places=1)
    cautions = models.TextField(blank=True)
    notes = models.TextField(blank=True)
    created_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ("name",)

    def __str__(self) -> str:
        return self.name

    @property
    def caution_list(self) -> list[str]:
        """The cautions, one each."""
        return [line.strip() for line in self.cautions.splitlines() if line.strip()]
