"""Addresses of targets."""

from django.urls import path

from roundpantry.targets import views

app_name = "targets"
urlpatterns = [
    path("<int:client_pk>/", views.edit, name="edit"),
    path("<int:client_pk>/renew/", views.renew, name="renew"),
    path("<int:client_pk>/schools/", views.two_schools, name="schools"),
    path("<int:client_pk>/cautions/", views.acknowledge, name="acknowledge"),
]
