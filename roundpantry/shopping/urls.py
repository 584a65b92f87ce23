"""Addresses of shopping lists."""

from django.urls import path

from roundpantry.shopping import views

app_name = "shopping"
urlpatterns = [
    path("of/<int:client_pk>/", views.of_client, name="of-client"),
    path("batch/<int:pk>/", views.of_batch, name="of-batch"),
    path("bowl/<int:pk>/", views.of_bowl, name="of-bowl"),
    path("<int:pk>/", views.week_list, name="list"),
    path("<int:pk>/also/", views.also, name="also"),
    path("<int:pk>/put-away/", views.put_away, name="put-away"),
    path("<int:pk>/print/", views.print_page, name="print"),
    path("<int:pk>/file/<slug:kind>/", views.export, name="export"),
    path("<int:pk>/use-up/<slug:family>/", views.use_up, name="use-up"),
    path("<int:pk>/up/<slug:section>/", views.move_up, name="move-up"),
    path("<int:pk>/food/<slug:key>/", views.food, name="food"),
    path("<int:pk>/tick/<slug:key>/", views.tick, name="tick"),
    path("<int:pk>/at-home/<slug:key>/", views.at_home, name="at-home"),
    path("<int:pk>/package/<slug:key>/", views.package, name="package"),
]
