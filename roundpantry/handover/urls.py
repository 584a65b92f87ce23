"""Addresses of the hand-over; those of a link are apart, under /s/."""

from django.urls import path

from roundpantry.handover import views

app_name = "handover"
urlpatterns = [
    path("of/<int:client_pk>/", views.of_client, name="of-client"),
    path("portion-card/", views.portion_card, name="portion-card"),
    path("<int:pk>/", views.week_page, name="week"),
    path("<int:pk>/make/", views.make, name="make"),
    path("<int:pk>/booklet/", views.booklet_page, name="booklet"),
    path("<int:pk>/pdf/", views.pdf, name="pdf"),
    path("<int:pk>/link/", views.give_link, name="give-link"),
    path("<int:pk>/link/<int:link_pk>/withdraw/", views.withdraw, name="withdraw"),
]
