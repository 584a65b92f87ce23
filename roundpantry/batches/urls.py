"""Addresses of batches."""

from django.urls import path

from roundpantry.batches import views

app_name = "batches"
urlpatterns = [
    path("", views.batch_list, name="list"),
    path("new/", views.paste, name="new"),
    path("<int:pk>/", views.detail, name="detail"),
    path("<int:pk>/yield/", views.set_yield, name="yield"),
    path("<int:pk>/remove/", views.remove, name="remove"),
    path("<int:pk>/lines/", views.add_line, name="add-line"),
    path("<int:pk>/lines/<int:line_pk>/", views.change_line, name="line"),
    path("<int:pk>/lines/<int:line_pk>/remove/", views.remove_line, name="remove-line"),
    path("<int:pk>/lines/<int:line_pk>/take/<int:number>/", views.take_alternative, name="alternative"),
    path("<int:pk>/why/<slug:scope>/<slug:key>/", views.why, name="why"),
]
