"""Addresses of the shelf."""

from django.urls import path

from roundpantry.shelf import views

app_name = "shelf"
urlpatterns = [
    path("usual-day/", views.usual_day_page, name="usual-day"),
    path("never-eaten/", views.never_eaten, name="never-eaten"),
    path("", views.shelf_list, name="list"),
    path("side-by-side/", views.compare, name="compare"),
    path("units/", views.preferences, name="preferences"),
    path("units/corrections/<int:pk>/forget/", views.forget, name="forget"),
    path("labels/new/", views.label_edit, name="label-new"),
    path("labels/<int:pk>/", views.label_page, name="label"),
    path("labels/<int:pk>/edit/", views.label_edit, name="label-edit"),
    path("labels/<int:pk>/retire/", views.label_retire, name="label-retire"),
    path("own-foods.csv", views.export, {"kind": "csv"}, name="export-csv"),
    path("own-foods.xlsx", views.export, {"kind": "xlsx"}, name="export-xlsx"),
    path("upload/", views.upload, name="upload"),
    path("upload/<int:pk>/confirm/", views.upload_confirm, name="upload-confirm"),
    path("<slug:key>/", views.food, name="food"),
]
