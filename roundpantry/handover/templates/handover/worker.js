{% load static %}/* Keeps one page and what it needs for when there is no network. With a network the page always
   comes fresh; a link that opens nothing any more takes what was kept with it. */
const KEPT = "week-{{ token|slice:':12' }}";
const PAGE = "{% url 'shared:booklet' token %}";
const FILES = ["{% static 'counter/app.css' %}", "{% static 'counter/icon.svg' %}", "{% static 'handover/shared.js' %}"];

self.addEventListener("install", (event) => {
  event.waitUntil(caches.open(KEPT).then((kept) => kept.addAll([PAGE, ...FILES])));
  self.skipWaiting();
});
self.addEventListener("activate", (event) => event.waitUntil(self.clients.claim()));

async function fresh(request) {
  const isPage = request.mode === "navigate";
  try {
    const answer = await fetch(request);
    if (isPage && answer.ok) await (await caches.open(KEPT)).put(PAGE, answer.clone());
    if (isPage && answer.status === 404) {
      await caches.delete(KEPT);
      await self.registration.unregister();
    }
    return answer;
  } catch {
    return (await caches.match(isPage ? PAGE : request)) || Response.error();
  }
}
self.addEventListener("fetch", (event) => {
  if (event.request.method === "GET") event.respondWith(fresh(event.request));
});
