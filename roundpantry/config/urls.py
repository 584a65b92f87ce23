"""The addresses of the program: login, then one prefix for each step."""

from django.contrib.auth import views as auth
from django.urls import include, path
from django.views.generic import RedirectView

from roundpantry.counter import views

urlpatterns = [
    path("", RedirectView.as_view(pattern_name="today:today"), name="home"),
    path("login/", views.LoginPage.as_view(), name="login"),
    path("first/", views.first_run, name="first-run"),
    path("glossary/", views.glossary, name="glossary"),
    path("logout/", auth.LogoutView.as_view(), name="logout"),
    path("today/", include("roundpantry.today.urls")),
    path("clients/", include("roundpantry.clients.urls")),
    path("targets/", include("roundpantry.targets.urls")),
    path("batches/", include("roundpantry.batches.urls")),
    path("bowls/", include("roundpantry.bowls.urls")),
    path("compare/", include("roundpantry.compare.urls")),
    path("weeks/", include("roundpantry.weeks.urls")),
    path("hand-over/", include("roundpantry.handover.urls")),
    path("s/", include("roundpantry.handover.shared_urls")),
    path("follow/", include("roundpantry.follow.urls")),
    path("prep/", include("roundpantry.prep.urls")),
    path("shopping/", include("roundpantry.shopping.urls")),
    path("shelf/", include("roundpantry.shelf.urls")),
    path("starter/", include("roundpantry.starter.urls")),
]
handler404 = "roundpantry.counter.views.not_found"
handler500 = "roundpantry.counter.views.failed"
