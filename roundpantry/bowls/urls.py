"""Addresses of bowls."""

from django.urls import path

from roundpantry.bowls import views

app_name = "bowls"
urlpatterns = [
    path("ladder/", views.ladder, name="ladder"),
    path("ladder/<slug:key>/", views.ladder_food, name="ladder-food"),
    path("of/<int:client_pk>/", views.bowl_list, name="list"),
    path("<int:pk>/", views.bench, name="bench"),
    path("<int:pk>/parts/", views.add_part, name="add"),
    path("<int:pk>/parts/<int:part_pk>/portion/", views.set_portion, name="portion"),
    path("<int:pk>/parts/<int:part_pk>/step/", views.step_portion, name="step"),
    path("<int:pk>/parts/<int:part_pk>/remove/", views.remove_part, name="remove-part"),
    path("<int:pk>/parts/<int:part_pk>/renew/", views.renew_part, name="renew"),
    path("<int:pk>/cautions/", views.note_caution, name="note-caution"),
    path("<int:pk>/undo/", views.undo, name="undo"),
    path("<int:pk>/remove/", views.remove, name="remove"),
    path("<int:pk>/search/", views.search, name="search"),
    path("<int:pk>/figures/", views.figures, name="figures"),
    path("<int:pk>/why/<slug:key>/", views.why, name="why"),
    path("<int:pk>/parts/<int:part_pk>/why/<slug:key>/", views.why, name="why-part"),
    path("<int:pk>/print/", views.print_page, name="print"),
]
