"""Addresses of bowls."""

from django.urls import path

from roundpantry.bowls import balance_views, pattern_views, shared_bowl_views, views, weighing_views

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
    path("<int:pk>/balance/", balance_views.balance, name="balance"),
    path("<int:pk>/ways/", balance_views.ways, name="ways"),
    path("<int:pk>/ways/take/", balance_views.take_way, name="take-way"),
    path("<int:pk>/hints/", balance_views.hints, name="hints"),
    path("<int:pk>/protein/", balance_views.protein, name="protein"),
    path("<int:pk>/windows/", balance_views.settle, name="settle"),
    path("<int:pk>/targets/", balance_views.take_targets, name="take-targets"),
    path("<int:pk>/beside/", balance_views.beside, name="beside"),
    path("<int:pk>/variant/", balance_views.variant, name="variant"),
    path("<int:pk>/parts/<int:part_pk>/panel/", balance_views.part_panel, name="part-panel"),
    path("<int:pk>/parts/<int:part_pk>/lock/", balance_views.lock, name="lock"),
    path("<int:pk>/parts/<int:part_pk>/double/", balance_views.duplicate, name="double"),
    path("<int:pk>/parts/<int:part_pk>/move/", balance_views.move, name="move"),
    path("<int:pk>/parts/<int:part_pk>/replace/", balance_views.replace, name="replace"),
    path("<int:pk>/parts/<int:part_pk>/limits/", balance_views.limits, name="limits"),
    path("<int:pk>/table/", shared_bowl_views.table, name="table"),
    path("<int:pk>/table/<int:part_pk>/step/", shared_bowl_views.table_step, name="table-step"),
    path("<int:pk>/pattern/", pattern_views.keep_pattern, name="keep-pattern"),
    path("patterns/", pattern_views.pattern_list, name="patterns"),
    path("patterns/<int:pk>/", pattern_views.change_pattern, name="change-pattern"),
    path("patterns/draw/<int:client_pk>/", pattern_views.draw_all, name="draw-all"),
    path(
        "patterns/<int:pk>/draw/<int:client_pk>/", pattern_views.draw_pattern, name="draw-pattern"
    ),
    path("<int:pk>/weigh/", weighing_views.weigh, name="weigh"),
    path("<int:pk>/parts/<int:part_pk>/served/", weighing_views.served, name="served"),
    path("scale/", weighing_views.scale, name="scale"),
]
