"""Addresses of clients."""

from django.urls import path

from roundpantry.clients import views

app_name = "clients"
urlpatterns = [
    path("schools/", views.own_schools, name="schools"),
    path("new/", views.client_new, name="new"),
    path("erased/", views.client_erased, name="erased"),
    path("<int:pk>/", views.client_detail, name="detail"),
    path("<int:pk>/choose/", views.client_choose, name="choose"),
    path("<int:pk>/archive/", views.client_archive, name="archive"),
    path("<int:pk>/delete/", views.client_delete, name="delete"),
    path("<int:pk>/client.json", views.client_export, name="export"),
    path("<int:pk>/change/", views.client_change, name="change"),
]
