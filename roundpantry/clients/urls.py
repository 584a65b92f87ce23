"""Addresses of clients."""

from django.urls import path

from roundpantry.clients import views

app_name = "clients"
urlpatterns = [
    path("", views.client_list, name="list"),
    path("new/", views.client_new, name="new"),
    path("<int:pk>/", views.client_detail, name="detail"),
    path("<int:pk>/change/", views.client_change, name="change"),
]
