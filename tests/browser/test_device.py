"""No server: the page answers what is typed by the server's own rules, in its own Python; the same, and marked as such."""

import json
import math
from typing import Any
from urllib.parse import urlencode

from django.conf import settings
from selenium.webdriver.common.keys import Keys

from dusky_heron.device.door import WORKS
from dusky_heron.discharge.models import ChargeNote, FallSample
from dusky_heron.discharge.states import ChargeState
from dusky_heron.jobs.models import Position
from tests import some
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
KEPT = "const done = arguments[0]; caches.open('worked').then(async (kept) => done((await kept.keys()).length))"
FILES = 8  # the manifest, five of Python, the compiled half of pydantic, the rules


def alike(one: Any, other: Any) -> bool:
    """The same words and figures as shown; a figure behind them may differ in its last bits, by another libm."""
    if isinstance(one, dict) and isinstance(other, dict):
        return one.keys() == other.keys() and all(alike(one[key], other[key]) for key in one)
    if isinstance(one, list) and isinstance(other, list):
        return len(one) == len(other) and all(map(alike, one, other))
    numbers = isinstance(one, float) and isinstance(other, float)
    return math.isclose(one, other, rel_tol=1e-9, abs_tol=1e-12) if numbers else bool(one == other)


class Device(Cut):
    """The rules are kept once the page was at rest; then the server goes."""

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
        self.cut()

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
        page.see(
            "It stepped up: something fed it again. Stop, hands off", "C1 rising", "something feeds it. Stop. That is not sent"
        )
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
        self.cut()

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
