"""Addresses of following a client."""

from django.urls import path

from roundpantry.follow import adjust_views, diary_views, views, visit_views

app_name = "follow"
urlpatterns = [
    path("practice/", visit_views.practice, name="practice"),
    path("practice.csv", visit_views.practice_table, name="practice-csv"),
    path("<int:client_pk>/", views.course, name="course"),
    path("<int:client_pk>/read/", views.read_line_page, name="read-line"),
    path("<int:client_pk>/enter/", views.enter, name="enter"),
    path("<int:client_pk>/use-weight/", views.use_weight, name="use-weight"),
    path("<int:client_pk>/values/", views.values, name="values"),
    path("<int:client_pk>/values.csv", views.values_csv, name="values-csv"),
    path("<int:client_pk>/values/upload/", views.upload, name="upload"),
    path(
        "<int:client_pk>/values/<int:measurement_pk>/remove/",
        views.remove_value,
        name="remove-value",
    ),
    path("<int:client_pk>/fhir.json", views.exchange, name="exchange"),
    path("<int:client_pk>/diary/", diary_views.diary, name="diary"),
    path("<int:client_pk>/diary/write/", diary_views.write, name="write"),
    path("<int:client_pk>/diary/extra/", diary_views.extra, name="extra"),
    path("<int:client_pk>/diary/remove/", diary_views.remove_entry, name="remove-entry"),
    path("<int:client_pk>/adjust/", adjust_views.adjust, name="adjust"),
    path("<int:client_pk>/adjust/take/", adjust_views.take, name="take"),
    path("<int:client_pk>/adjust/<int:taken_pk>/back/", adjust_views.take_back, name="take-back"),
    path("<int:client_pk>/adjust/next-week/", adjust_views.next_week, name="next-week"),
    path("<int:client_pk>/visits/", visit_views.visits, name="visits"),
    path("<int:client_pk>/visits/new/", visit_views.new_visit, name="new-visit"),
    path("<int:client_pk>/visits/<int:visit_pk>/", visit_views.visit, name="visit"),
    path(
        "<int:client_pk>/visits/<int:visit_pk>/print/", visit_views.print_visit, name="print-visit"
    ),
    path(
        "<int:client_pk>/visits/<int:visit_pk>/remove/",
        visit_views.remove_visit,
        name="remove-visit",
    ),
    path("<int:client_pk>/report/", visit_views.report, name="report"),
    path("<int:client_pk>/letter.pdf", visit_views.letter, name="letter"),
]
