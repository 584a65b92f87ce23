"""What is at a client's home, the sizes and prices of packages a practitioner knows, the order of
their shop, and what was put into the basket for a week.
"""

from __future__ import annotations

from django.conf import settings
from django.db import models

from roundpantry.clients.models import Client
from roundpantry.weeks.models import Week


class HomeStock(models.Model):
    """Usable grams of a food as bought that a client has at home."""

    client = models.ForeignKey(Client, on_delete=models.CASCADE, related_name="home_stock")
    food_key = models.CharField(max_length=60)
    grams = models.FloatField()

    class Meta:
        ordering = ("food_key",)
        constraints = [
            models.UniqueConstraint(fields=["client", "food_key"], name="one_stock_a_food")
        ]


class PackageSize(models.Model):
    """How a food is sold where a practitioner's clients shop: usable grams of a package and its
    price, each empty where the usual size or no price is known.
    """

    practitioner = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="package_sizes"
    )
    food_key = models.CharField(max_length=60)
    grams = models.FloatField(null=True, blank=True)
    price = models.FloatField(null=True, blank=True)

    class Meta:
        ordering = ("food_key",)
        constraints = [
            models.UniqueConstraint(fields=["practitioner", "food_key"], name="one_package_a_food")
        ]


class ShopOrder(models.Model):
    """The sections of the shop in the order a practitioner's clients walk through them."""

    practitioner = models.OneToOneField(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="shop_order"
    )
    sections = models.JSONField(default=list)


class ShoppingTrip(models.Model):
    """Shopping for a week: the weeks of others in the household that are bought for too, and the
    foods that are in the basket.
    """

    week = models.OneToOneField(Week, on_delete=models.CASCADE, related_name="shopping_trip")
    also = models.JSONField(default=list, blank=True)
    in_basket = models.JSONField(default=list, blank=True)
