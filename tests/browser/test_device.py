"""No server: the page answers what is typed by the server's own rules, in its own Python; the same, and marked as such."""

import json
import math
import re
from contextlib import suppress
from typing import Any
from urllib.parse import urlencode

from django.conf import settings
from selenium.webdriver.common.keys import Keys

from dusky_heron.device.door import WORKS
from dusky_heron.discharge.models import ChargeNote, FallSample
from dusky_heron.discharge.states import ChargeState
from dusky_heron.jobs.models import Job, Position
from dusky_heron.record.models import Entry
from tests import some
from tests.browser.acts import Acts
from tests.browser.test_offline import CONTROLLED, Cut

LABELS = (
    "1 µF ±10 % X2 310 V~ 40/110/56/B", "2,2 nF M Y1 400 V~", "30+5 µF ±6 % 370/440 VAC", ".01 MFD 600 WVDC", "µ22 J 630-",
    "189-227 µF 330 VAC 50/60 Hz", "1.234 µF 250 V", "68 µF 400 V", "0,1 X1 Y2", "blub", "1 µF", "-3 µF", "104K 2KV",
)  # fmt: skip
DROPPER = {"supply_voltage": "230 V", "supply_frequency": "50 Hz", "capacitance": "0.68 µF", "loads": "standby 8 mA\non 21 mA"}
ASKED: tuple[tuple[str, dict[str, Any]], ...] = (
    *(("reading-box", {"text": text}) for text in LABELS),
    ("reading-box", {"text": "16 µF 450 V~", "role": "motor_run"}),
    ("reading-box", {"text": "1 µF", "role": "no such"}),
    ("reading-box", {}),
    ("dropper", DROPPER),
    ("dropper", DROPPER | {"capacitance": "nonsense"}),
    ("dropper/faults", DROPPER | {"rails": ["24 V", "11 V"], "currents": ["40 mA"]}),
    ("supply", {}),
    ("bulk", {}),
    ("string", {"capacitors": "100 µF, 2 mA\n100 µF, 0.2 mA", "voltage": "600 V", "rating": "350 V"}),
    ("forming", {"capacitance": "100 µF", "rating": "450 V"}),
    ("walk", {}),
)
FELL = ((0, 31), (1, 23), (2, 18))
BOTH = """
    const [asked, done] = arguments
    const answer = async (path) => { const found = await fetch(path); return [found.status, await found.json()] }
    Promise.all(asked.map(answer)).then(done, (error) => done(String(error)))
"""
HERE = """
    const [script, asked, ground, done] = arguments
    const worker = new Worker(script, { type: 'module' })
    const told = []
    worker.onmessage = ({ data }) => { if (data.id && told.push(data) === asked.length) done(told) }
    asked.forEach(([path, query], k) => worker.postMessage({ id: k + 1, path, query, ground }))
"""
TIMES = re.compile(r"\d{4}-\d\d-\d\dT[\d:.]+(Z|\+\d\d:\d\d)|\b\d\d:\d\d\b|(?<=\"number\": )\d+")
ID = re.compile(r"[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}")
KEPT = "const done = arguments[0]; caches.open('worked').then(async (kept) => done((await kept.keys()).length))"
FILES = 9  # the manifest, five of Python, the compiled half of pydantic, the rules, the server


def alike(one: Any, other: Any) -> bool:
    """The same words and figures as shown; a figure behind them may differ in its last bits, by another libm."""
    if isinstance(one, dict) and isinstance(other, dict):
        return one.keys() == other.keys() and all(alike(one[key], other[key]) for key in one)
    if isinstance(one, list) and isinstance(other, list):
        return len(one) == len(other) and all(map(alike, one, other))
    numbers = isinstance(one, float) and isinstance(other, float)
    return math.isclose(one, other, rel_tol=1e-9, abs_tol=1e-12) if numbers else bool(one == other)


class Kept(Cut):
    """The rules and the jobs in hand are kept once the page was at rest; then the server goes."""

    def setUp(self) -> None:
        super().setUp()
        self.page = self.sign_in()
        self.page.until(lambda: self.browser.execute_script(CONTROLLED))
        self.page.open("/")
        self.page.until(lambda: self.browser.execute_async_script(KEPT) == FILES)
        self.browser.set_script_timeout(60)

    def tearDown(self) -> None:
        self.mend()
        self.browser.get_log("browser")  # says that the server was gone, which it was
        super().tearDown()


class Device(Kept):
    """What is worked out from what is typed alone, and a fall."""

    def test_the_reading_box_and_a_bench(self) -> None:
        page = self.page
        self.cut()
        page.press("/")
        self.browser.switch_to.active_element.send_keys("1 µF ±10 % X2 310 V~")
        page.see("Worked out on this device.", "900 nF to 1.1 µF", "through")  # one of the workshop's resistors
        self.assertNotIn("by the limits of the standards", page.text())
        page.press(Keys.ESCAPE)
        page.open("/dropper")
        page.see("Worked out on this device.", "Everything behind a dropper is at mains potential")
        page.fill("Capacitance", "nonsense")
        page.see("cannot read “nonsense”")
        self.mend()
        page.fill("Capacitance", "0.68 µF")
        page.until(lambda: "Worked out on this device." not in page.text())

    def test_a_fall_that_rises_again_stops_the_work_and_goes_once(self) -> None:
        page = self.page
        page.click("Wave-pool circulation pump")
        page.see("C1 can hold")
        page.press("e", "e")
        page.see("C1 emptying since", "Watching it fall")
        self.cut()
        page.press("f")
        for t, volts in FELL:
            page.press(f"{t}, {volts}", Keys.ENTER)
            page.see(f"Logged last: {t} s, {volts} V not sent yet", "Worked out on this device.")
        page.see("C1 emptying")
        page.press("3, 325", Keys.ENTER)
        page.see("It stepped up: something fed it again. Stop, hands off", "C1 rising", "something feeds it. Stop.")
        self.browser.refresh()
        page.see("C1 rising", "It stepped up")
        self.browser.execute_script("document.activeElement.blur()")
        page.press("b")
        page.see("Open jobs", "C1 rising")
        self.mend()
        place = Position.objects.get(job__number=1, name="C1")
        page.until(lambda: some(ChargeNote.standing(position=place).last()).state == ChargeState.RISING)
        samples = FallSample.standing(fall__note__position=place).order_by("seconds")
        self.assertEqual([(one.seconds, one.volts) for one in samples], [*FELL, (3, 325)])
        page.until(lambda: "No connection" not in page.text())
        page.see("C1 rising since")

    def test_every_answer_is_the_servers(self) -> None:
        self.assertEqual({path for path, _ in ASKED}, {*WORKS} - {"fall"})
        queries = [(path, urlencode(fields, doseq=True)) for path, fields in ASKED]
        there = self.browser.execute_async_script(BOTH, [f"/api/{path}?{query}" for path, query in queries])
        ground = self.browser.execute_async_script("fetch('/api/ground').then((one) => one.text()).then(arguments[0])")
        self.cut()
        (script,) = (settings.PAGE / "assets").glob("worker-*.js")
        told = self.browser.execute_async_script(HERE, f"/static/assets/{script.name}", queries, ground)
        for (path, query), (status, body), one in zip(queries, there, told, strict=True):
            with self.subTest(path, query=query):
                here = json.loads(one["answer"])
                self.assertEqual(here["status"], status)
                self.assertTrue(alike(here["body"], body), (here["body"], body))
        self.assertEqual({status for status, _ in there}, {200, 422})


class Whole(Kept):
    """A job from its intake to verdict and proof, with the server away from the first load on."""

    def told(self, number: int) -> Any:
        """What the server has of a job, without what tells it from another: its record, where its parts stand, their verdicts."""
        job = Job.objects.get(number=number, workshop__members__username="orne")
        entries = Entry.objects.filter(chain__subject_id=job.id).order_by("sequence").values_list("text", flat=True)
        record = [(said["kind"], said["body"]) for said in map(json.loads, entries)]
        sheet = self.asked(f"/api/jobs/{job.id}/sheet")
        judged = [self.asked(f"/api/positions/{place.id}/assessment") for place in job.positions.order_by("sequence")]
        self.assertTrue(self.asked(f"/api/jobs/{job.id}/record/verified")["whole"])
        text = TIMES.sub("0", json.dumps([record, sheet["charge_line"], sheet["positions"], judged]))
        names: dict[str, str] = {}
        return json.loads(ID.sub(lambda found: names.setdefault(found[0], f"id {len(names)}"), text))

    def asked(self, url: str) -> Any:
        return self.browser.execute_async_script("fetch(arguments[0]).then((one) => one.json()).then(arguments[1])", url)

    def opened(self) -> None:
        """The server was opened on the device, which takes its time where much else runs."""
        for _ in range(3):
            with suppress(AssertionError):
                self.page.see("Worked out on this device.")
                return
        self.page.see("Worked out on this device.")

    def take(self, name: str) -> None:
        page = self.page
        page.see("Wave-pool circulation pump")
        self.cut()
        page.until(lambda: self.browser.execute_script(CONTROLLED))
        page.click("Ticket-gate lamp supply")  # never opened before
        self.opened()
        page.press("b")
        Acts(page, lambda: None).job(name, until="Replace")
        page.see("Its number comes from the server", "not sent yet")
        page.press("5")  # what the drawer holds is not known here, and nothing is said of it
        page.see("The server does not answer", "Not known yet")
        self.assertNotIn("Nothing in hand", page.text())
        page.press("4")
        page.see("Judge it")
        verdict = page.text().partition("Positions")[2].partition("Reading,")[0]
        path = self.browser.current_url.removeprefix(self.live_server_url)
        page.open(path)  # the tab was closed, and opened again: all of it is worked out anew
        self.opened()
        page.see(*re.findall(r"Replace C\d+|Keep C\d+", verdict)[:1])
        page.press("b")
        page.see("Begun on this device, not sent yet")
        before = Job.objects.count()
        self.mend()
        page.until(lambda: "in this browser" not in page.text() and "No connection" not in page.text())
        self.assertEqual(Job.objects.count(), before + 1)
        offline = self.told(9)
        page.open("/")
        page.see("Wave-pool circulation pump")
        Acts(page, lambda: None).job(name, until="Replace")
        self.assertEqual(offline, self.told(10))

    def test_a_motor(self) -> None:
        self.take("pump")

    def test_a_dropper(self) -> None:
        self.take("dosing")


class NotKept(Cut):
    """The server goes before the rules were fetched."""

    def test_nothing_is_known_of_a_fall_and_what_was_typed_waits_once(self) -> None:
        page = self.sign_in()
        page.until(lambda: self.browser.execute_script(CONTROLLED))
        page.open("/")
        page.click("Wave-pool circulation pump")
        page.see("C1 can hold")
        page.press("e", "e")
        page.see("C1 emptying since", "Watching it fall")
        self.cut()
        self.browser.execute_async_script("caches.delete('worked').then(arguments[0])")
        page.press("f", "0, 31", Keys.ENTER)
        page.see("This device has no rules yet to say what it means: take it for full.", "C1 unknown", "1 entry waits")
        self.assertEqual(page.labelled("Time and volts").get_attribute("value"), "")
        self.mend()
        place = Position.objects.get(job__number=1, name="C1")
        page.until(lambda: FallSample.standing(fall__note__position=place).count() == 1)
        self.browser.get_log("browser")  # says that the server was gone, which it was
