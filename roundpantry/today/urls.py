"""The address of Today."""

from django.urls import path

from roundpantry.today import views

app_name = "today"
urlpatterns = [path("", views.today, name="today")]
