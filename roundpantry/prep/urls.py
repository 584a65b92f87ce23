"""Addresses of prep."""

from django.urls import path

from roundpantry.prep import run_views, views

app_name = "prep"
urlpatterns = [
    path("of/<int:client_pk>/", views.of_client, name="of-client"),
    path("<int:pk>/", views.week_prep, name="week"),
    path("<int:pk>/calendar/", views.calendar, name="calendar"),
    path("<int:pk>/<int:number>/", views.evening, name="evening"),
    path("<int:pk>/<int:number>/proof/", views.proof, name="proof"),
    path("<int:pk>/<int:number>/kitchen/", views.kitchen, name="kitchen"),
    path("<int:pk>/<int:number>/start/", views.start, name="start"),
    path("<int:pk>/<int:number>/task/<slug:key>/", views.task, name="task"),
    path("<int:pk>/<int:number>/sheet/", views.sheet, name="sheet"),
    path("<int:pk>/<int:number>/labels/", views.labels, name="labels"),
    path("<int:pk>/<int:number>/begin/", run_views.begin, name="begin"),
    path("<int:pk>/<int:number>/run/", run_views.run, name="run"),
    path("<int:pk>/<int:number>/press/", run_views.press, name="press"),
    path("<int:pk>/<int:number>/stop/", run_views.stop, name="stop"),
]
