"""The addresses of the program: login, then one prefix for each step."""

from django.contrib.auth import views as auth
from django.urls import include, path
from django.views.generic import RedirectView

urlpatterns = [
    path("", RedirectView.as_view(pattern_name="clients:list"), name="home"),
    path("login/", auth.LoginView.as_view(template_name="counter/login.html"), name="login"),
    path("logout/", auth.LogoutView.as_view(), name="logout"),
    path("clients/", include("roundpantry.clients.urls")),
    path("targets/", include("roundpantry.targets.urls")),
    path("batches/", include("roundpantry.batches.urls")),
    path("bowls/", include("roundpantry.bowls.urls")),
    path("compare/", include("roundpantry.compare.urls")),
    path("weeks/", include("roundpantry.weeks.urls")),
    path("shelf/", include("roundpantry.shelf.urls")),
]
handler404 = "roundpantry.counter.views.not_found"
handler500 = "roundpantry.counter.views.failed"
