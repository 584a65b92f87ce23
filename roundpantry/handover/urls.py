"""Addresses of the hand-over; those of a link are apart, under /s/."""

from django.urls import path

from roundpantry.handover import views

app_name = "handover"
urlpatterns = [
    path("of/<int:client_pk>/", views.of_client, name="of-client"),
    path("of/<int:client_pk>/everything.zip", views.everything, name="everything"),
    path("outbox/", views.outbox, name="outbox"),
    path("outbox/<int:message_pk>/passed-on/", views.passed_on, name="passed-on"),
    path("outbox/<int:message_pk>/remove/", views.remove_message, name="remove-message"),
    path("closed-links/", views.closed_links, name="closed-links"),
    path("closed-links/<int:link_pk>/", views.after_restore, name="after-restore"),
    path("portion-card/", views.portion_card, name="portion-card"),
    path("<int:pk>/", views.week_page, name="week"),
    path("<int:pk>/make/", views.make, name="make"),
    path("<int:pk>/booklet/", views.booklet_page, name="booklet"),
    path("<int:pk>/pdf/", views.pdf, name="pdf"),
    path("<int:pk>/message/", views.message, name="message"),
    path("<int:pk>/link/", views.give_link, name="give-link"),
    path("<int:pk>/link/<int:link_pk>/withdraw/", views.withdraw, name="withdraw"),
]
