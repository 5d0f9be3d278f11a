/* What the service worker does with an alert: it carries nothing, so Ulsek is asked what is due, and a touch leads to the shift. */
self.addEventListener("push", (event) => {
  event.waitUntil(
    fetch("/api/shift")
      .then((answer) => answer.json())
      .then(({ runs, hands }) => {
        const due = runs.find((run) => run.id === hands);
        return self.registration.showNotification("Hands now", { body: due ? `${due.name}: ${due.step}` : "Something is due.", tag: "hands" });
      })
      .catch(() => self.registration.showNotification("Hands now", { body: "Something is due.", tag: "hands" })),
  );
});
self.addEventListener("notificationclick", (event) => {
  event.notification.close();
  event.waitUntil(self.clients.openWindow("/shift"));
});
