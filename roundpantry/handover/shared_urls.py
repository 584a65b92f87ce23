"""Addresses of a share link: no name, no number, only the signed token."""

from django.urls import path

from roundpantry.handover import shared_views

app_name = "shared"
urlpatterns = [
    path("<str:token>/", shared_views.shared, name="booklet"),
    path("<str:token>/answer/", shared_views.answer, name="answer"),
    path("<str:token>/calendar.ics", shared_views.calendar, name="calendar"),
    path("<str:token>/worker.js", shared_views.worker, name="worker"),
]
