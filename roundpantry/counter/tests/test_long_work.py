"""Long work: one place, one that waits, and whoever comes then is told to come back."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from threading import BoundedSemaphore, Event
from unittest import mock

from django.core.files.uploadedfile import SimpleUploadedFile
from django.http import HttpResponse
from django.test import RequestFactory, SimpleTestCase

from roundpantry.counter import long_work


class FewAtOnce(SimpleTestCase):
    def setUp(self) -> None:
        self.begun, self.go_on = Event(), Event()
        for name, place in (("_PLACES", BoundedSemaphore(1)), ("_WAITING", BoundedSemaphore(1))):
            self.enterContext(mock.patch.object(long_work, name, place))
        shown = mock.patch.object(
            long_work, "render", lambda *_, status: HttpResponse("busy", status=status)
        )
        self.enterContext(shown)
        self.request = RequestFactory().get("/")

    def told(self, request: object, template: str, status: int) -> HttpResponse:
        return HttpResponse("busy", status=status)

    def view(self, request: object) -> HttpResponse:
        self.begun.set()
        self.go_on.wait()
        return HttpResponse("done")

    def test_one_works_one_waits_and_the_third_is_asked_to_come_back(self) -> None:
        work = long_work.few_at_once(self.view)
        with ThreadPoolExecutor(2) as pool:
            first = pool.submit(work, self.request)
            self.begun.wait()
            second = pool.submit(work, self.request)
            while long_work._WAITING._value:
                pass
            third = work(self.request)
            self.go_on.set()
            answers = [first.result(), second.result()]
        self.assertEqual([one.status_code for one in answers], [200, 200])
        self.assertEqual((third.status_code, third["Retry-After"]), (503, "5"))

    def test_a_place_is_given_back_when_the_work_fails(self) -> None:
        def broken(request: object) -> HttpResponse:
            raise ValueError("broken")

        for _ in range(3):
            with self.assertRaises(ValueError):
                long_work.few_at_once(broken)(self.request)

    def test_only_what_brings_a_file_waits(self) -> None:
        work = long_work.few_uploads_at_once(lambda request: HttpResponse("done"))
        places = [long_work._PLACES.acquire(blocking=False) for _ in range(9)]
        with mock.patch.object(long_work, "WAIT_SECONDS", 0.0):
            try:
                plain = work(self.request)
                file = SimpleUploadedFile("a.csv", b"a")
                answer = work(RequestFactory().post("/", {"file": file}))
            finally:
                for taken in places:
                    if taken:
                        long_work._PLACES.release()
        self.assertEqual((plain.status_code, answer.status_code), (200, 503))
