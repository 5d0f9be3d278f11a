"""A device is alerted with no screen open: subscribed, sent to in secret, opened by its keys, shown by the browser's own worker."""

import json

import pytest
from playwright.sync_api import expect

from tests.browser.test_first_day_story import signs_in
from tests.instruments import heard, listening_device, until

pytestmark = [pytest.mark.timeout(300)]
SUBSCRIBES = """(device) => {
  // No push service can be reached from here: the browser gives a subscription whose keys the stand-in holds.
  const bytes = (text) => Uint8Array.from(atob(text.replaceAll("-", "+").replaceAll("_", "/")), (one) => one.charCodeAt(0)).buffer;
  let stands = null;
  PushManager.prototype.getSubscription = async () => stands;
  PushManager.prototype.subscribe = async (options) => {
    stands = { options, toJSON: () => device, unsubscribe: async () => { stands = null; } };
    window.subscribedWith = options.applicationServerKey.length;
    return stands;
  };
}"""
SENDS = """
from django.utils import timezone
from ulsek.devices.alerts import alert
from ulsek.devices.push import Alert
from ulsek.team.models import House
print(alert(House.objects.get(name="Tern House"), "a wait", timezone.now(), Alert("Birch syrup", "Its wait is over. Next: strain", "/make")))
"""
RECORDS = """() => {
  // Asked for its notifications while one is about to be displayed, Chromium drops it: what was shown is written down where it is shown.
  const { registration } = self, shows = registration.showNotification.bind(registration);
  self.shown = [];
  registration.showNotification = async (title, options) => {
    await shows(title, options);
    self.shown.push([title, options.body, options.data]);
  };
}"""


def test_a_device_on_duty_is_alerted_in_words_that_only_it_can_read(hand, context):
    page, base = hand.page, hand.site.base
    port = hand.site.instrument("push_service")
    device = listening_device(port)
    context.grant_permissions(["notifications"], origin=base)
    page.add_init_script(f"({SUBSCRIBES})({json.dumps(device)})")
    signs_in(page, base, "jonas", "steel-bench-4")
    page.get_by_role("navigation", name="Places").wait_for()
    page.evaluate("navigator.serviceWorker.ready.then(() => true)")
    page.get_by_role("banner").get_by_role("button", name="Jonas").click()
    page.get_by_role("button", name="Alert this device when a long wait is over").click()
    expect(page.get_by_role("button", name="On duty: this device is alerted")).to_be_visible()
    assert page.evaluate("window.subscribedWith") == 65, "under the site's own key"
    hand.site.manage("shell", "-c", SENDS)
    (message,) = heard(port, device)
    told = json.loads(message["said"])
    assert told == {"title": "Birch syrup", "body": "Its wait is over. Next: strain", "path": "/make"}
    # The browser's debug protocol stands for the way from the service to the device.
    (worker,) = context.service_workers
    worker.evaluate(RECORDS)
    session, found = context.new_cdp_session(page), []
    session.on("ServiceWorker.workerRegistrationUpdated", lambda event: found.extend(event["registrations"]))
    session.send("ServiceWorker.enable")
    assert until(lambda: page.wait_for_timeout(50) or found)
    deliver = {"origin": base, "registrationId": found[-1]["registrationId"]}
    elsewhere = json.dumps({"title": "x", "body": "y", "path": "https://elsewhere.example"})
    for said in (message["said"], elsewhere):
        session.send("ServiceWorker.deliverPushMessage", {**deliver, "data": said})
    shown = [["Birch syrup", "Its wait is over. Next: strain", "/make"], ["x", "y", "/shift"]]
    assert until(lambda: worker.evaluate("self.shown.length") == 2), "both are shown by the browser"
    assert sorted(worker.evaluate("self.shown")) == shown, "a touch leads to a place of this site alone"
    page.get_by_role("button", name="On duty: this device is alerted").click()
    expect(page.get_by_role("button", name="Alert this device when a long wait is over")).to_be_visible()
    hand.site.manage("shell", "-c", SENDS.replace("a wait", "another"))
    assert heard(port, device) == []
