"""Addresses of Compare."""

from django.urls import path

from roundpantry.compare import views

app_name = "compare"
urlpatterns = [path("", views.plates, name="plates")]
