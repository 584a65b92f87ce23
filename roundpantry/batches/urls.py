"""Addresses of batches."""

from django.urls import path

from roundpantry.batches import adapting_views, portions_views, views

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
    path(
        "<int:pk>/lines/<int:line_pk>/take/<int:number>/",
        views.take_alternative,
        name="alternative",
    ),
    path("<int:pk>/lines/<int:line_pk>/confirm/", views.confirm_line, name="confirm-line"),
    path("<int:pk>/lines/<int:line_pk>/choose/<int:number>/", views.take_choice, name="choice"),
    path("<int:pk>/servings/", views.set_servings, name="servings"),
    path("<int:pk>/why/<slug:scope>/<slug:key>/", views.why, name="why"),
    path("<int:pk>/portions/", portions_views.portions, name="portions"),
    path("<int:pk>/vessel/", portions_views.vessel, name="vessel"),
    path("<int:pk>/shares/", portions_views.share, name="share"),
    path("<int:pk>/fit/", adapting_views.fit, name="fit"),
    path("<int:pk>/changed/", adapting_views.changed, name="changed"),
    path("<int:pk>/vary/", adapting_views.vary, name="vary"),
    path("<int:pk>/lines/<int:line_pk>/instead/", adapting_views.substitute, name="substitute"),
    path("<int:pk>/lines/<int:line_pk>/method/", adapting_views.method, name="method"),
    path("<int:pk>/water/", adapting_views.water, name="water"),
    path("<int:pk>/log/", portions_views.log, name="log"),
    path("<int:pk>/labels/", portions_views.label, name="label"),
    path("<int:pk>/file/<slug:kind>/", portions_views.export, name="export"),
]
