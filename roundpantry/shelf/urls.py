"""Addresses of the shelf."""

from django.urls import path

from roundpantry.shelf import views

app_name = "shelf"
urlpatterns = [
    path("", views.shelf_list, name="list"),
    path("<slug:key>/", views.food, name="food"),
]
