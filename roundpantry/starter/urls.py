"""Addresses of the starter pantry."""

from django.urls import path

from roundpantry.starter import views

app_name = "starter"
urlpatterns = [
    path("add/", views.add, name="add"),
    path("remove/", views.remove, name="remove"),
]
