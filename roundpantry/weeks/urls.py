"""Addresses of weeks."""

from django.urls import path

from roundpantry.weeks import handover_views, planning_views, removal_views, unreadable, views

app_name = "weeks"
urlpatterns = [
    path("of/<int:client_pk>/", views.week_list, name="list"),
    path("of/<int:client_pk>/favourites/", views.favourites, name="favourites"),
    path("of-batch/<int:batch_pk>/remove/", removal_views.batch, name="remove-batch"),
    path("of-bowl/<int:bowl_pk>/remove/", removal_views.bowl, name="remove-bowl"),
    path("<int:pk>/", views.week, name="week"),
    path("<int:pk>/do/<slug:what>/", views.act, name="act"),
    path("<int:pk>/cautions/", views.note, name="note"),
    path("<int:pk>/undo/", views.undo, name="undo"),
    path("<int:pk>/remove/", views.remove, name="remove"),
    path("<int:pk>/repair/", unreadable.repair, name="repair"),
    path("<int:pk>/stored/", unreadable.stored, name="stored"),
    path("<int:pk>/cell/<int:day>/<int:meal>/", views.cell, name="cell"),
    path("<int:pk>/foods/<int:day>/<int:meal>/", views.foods, name="foods"),
    path("<int:pk>/pots/", views.pots, name="pots"),
    path("<int:pk>/pots/<slug:key>/", views.pot, name="pot"),
    path("<int:pk>/day/<int:number>/", views.day, name="day"),
    path("<int:pk>/day/<int:number>/why/<slug:key>/", views.why_day, name="why-day"),
    path("<int:pk>/nutrients/", handover_views.nutrients, name="nutrients"),
    path("<int:pk>/hand-over/", handover_views.hand_over, name="hand-over"),
    path("<int:pk>/plan/", planning_views.plan, name="plan"),
    path("<int:pk>/rules/", planning_views.set_rules, name="rules"),
    path("<int:pk>/explain/", planning_views.explain, name="explain"),
    path("<int:pk>/why/<int:day>/<int:meal>/", planning_views.why, name="why"),
    path("<int:pk>/ways/", planning_views.ways, name="ways"),
    path("<int:pk>/ways/take/", planning_views.take_way, name="take-way"),
    path("<int:pk>/search/", planning_views.search, name="search"),
    path("<int:pk>/search/<int:search_pk>/", planning_views.progress, name="progress"),
    path("<int:pk>/search/<int:search_pk>/stop/", planning_views.stop, name="stop"),
    path("<int:pk>/search/<int:search_pk>/take/", planning_views.take, name="take"),
    path("<int:pk>/files/", handover_views.files_page, name="files"),
    path("<int:pk>/files/read/", handover_views.take_in, name="take-in"),
    path("<int:pk>/file/<slug:kind>/", handover_views.export, name="export"),
    path("<int:pk>/print/", handover_views.print_page, name="print"),
    path("<int:pk>/under/", handover_views.under, name="under"),
    path("<int:pk>/versions/", handover_views.versions, name="versions"),
]
