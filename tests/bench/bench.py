"""Speed and weight, as ratios within one run; run by scripts/bench. Nothing here can fail for being slow."""

import datetime
import gzip
import math
import re
import resource
import statistics
import time
from collections.abc import Callable
from dataclasses import replace
from functools import partial
from pathlib import Path

from django.test import Client, SimpleTestCase, override_settings

from dusky_heron.assessment.actions import enter_line
from dusky_heron.assessment.schemas import BoardLineIn
from dusky_heron.buying.basket import cheapest
from dusky_heron.core import rig
from dusky_heron.core.circuit import Load
from dusky_heron.core.circuit.dropper import DropperCircuit, give_command, steady_state, symptom_sweep
from dusky_heron.core.circuit.netlist import dropper_netlist
from dusky_heron.core.discharge.decay import fit
from dusky_heron.core.discharge.limits import working_limit
from dusky_heron.core.discharge.planning import plan_charge
from dusky_heron.core.discharge.search import rank_tools
from dusky_heron.core.discharge.tools import Construction, Resistor
from dusky_heron.core.markings import read_marking
from dusky_heron.core.model import Condition, Evidence, LoadState, Position, Quantity, Reading, Role
from dusky_heron.core.rig.meter import glance
from dusky_heron.core.selection.combine import combinations
from dusky_heron.core.verdict import judge
from dusky_heron.jobs.actions import open_job
from dusky_heron.jobs.models import Position as Placed
from dusky_heron.jobs.schemas import JobIn
from dusky_heron.longwork.models import Work
from dusky_heron.stock.actions import ask_to_take
from dusky_heron.stock.actions.imports import undo_import
from dusky_heron.workshops.models import Member
from tests import some
from tests.api.test_basket import large
from tests.api.test_worker import start_worker
from tests.bench.drawer import large_drawer_part
from tests.browser.base import BrowserTest
from tests.core.spice import run
from tests.core.test_dropper_bench import VALVE as RELAY
from tests.core.test_dropper_bench import seeded_cases
from tests.core.test_found_markings import rows
from tests.core.test_replacement_cases import place as place_of
from tests.stage import Stage, Technician

DIST = Path(__file__).resolve().parents[2] / "frontend" / "dist"
ROUNDS = 150
PUMP = "16 µF ±5 % 450 V~"
MARKINGS = [row["text"] for row in rows()][::5][:30]  # thirty of every kind
TODAY = datetime.date(2026, 6, 1)
ROLES = (Role.SMOOTHING, Role.SMPS_BULK, Role.X, Role.DROPPER, Role.MOTOR_RUN)
BOARD = tuple(
    (
        Position("C", ROLES[k % 5], read_marking(("100 µF M 400 VDC", "100 µF K X2 305 V~")[k % 5 > 1]), 230, 50),
        Evidence(
            (
                Reading(97e-6, 96e-6, 98e-6, Condition.LIFTED),
                Reading(0.8, 0.79, 0.81, Condition.LIFTED, quantity=Quantity.ESR, frequency_hz=120.0),
            )
        ),
    )
    for k in range(100)
)
DOSING = DropperCircuit("bridge", 230, 50, 680e-9, 100, 470e3, 470e-6, 24, 5, 0.7, Load(current_a=34e-3))
STATES = (LoadState("standby", 8e-3), LoadState("valve on", 34e-3))
WATTS, OHMS = (5, 10, 25, 50, 100), (47, 100, 220, 360, 470, 1000, 2200, 4700, 10_000, 47_000)
THIRTY = tuple(
    Resistor(str(k), f"r{k}", OHMS[k % 10] * (1 + k / 100), 0.05, WATTS[k % 5], list(Construction)[k % 2], 500 + 100 * (k % 4))
    for k in range(30)
)


def table(title: str, calls: dict[str, Callable[[], object]], divide: dict[str, int] | None = None, rounds: int = ROUNDS) -> None:
    times: dict[str, list[float]] = {name: [] for name in calls}
    for _ in range(rounds):
        for name, call in calls.items():
            began = time.perf_counter()
            call()
            times[name].append((time.perf_counter() - began) * 1000 / (divide or {}).get(name, 1))
    base = statistics.median(next(iter(times.values())))
    print(f"\n{title}\n{'':34}{'p50 ms':>9}{'p95 ms':>9}{'ratio':>8}")  # noqa: T201
    for name, taken in times.items():
        p50, p95 = statistics.median(taken), statistics.quantiles(taken, n=20)[-1]
        print(f"{name:34}{p50:9.2f}{p95:9.2f}{p50 / base:8.2f}")  # noqa: T201


@override_settings(ROOT_URLCONF="tests.bench.urls")
class Bench(BrowserTest):
    """API calls against a bare view, a large drawer, the page."""

    def test_bench(self) -> None:
        member = Member.objects.get(username="orne")
        client = Client(headers={"host": "127.0.0.1"})
        client.force_login(member, "dusky_heron.workshops.signing_in.Members")
        position = Placed.objects.get(job__number=1)
        calls = {
            "bare signed-in view": "/bare",
            "GET reading-box": f"/api/reading-box?text={PUMP.replace('%', '%25')}",
            "GET positions/…/discharge": f"/api/positions/{position.id}/discharge",
            "GET positions/…/assessment": f"/api/positions/{position.id}/assessment",
            "GET positions/…/candidates": f"/api/positions/{position.id}/candidates",
            "GET bench": "/api/bench",
            "GET jobs/…/sheet": f"/api/jobs/{position.job_id}/sheet",
            "GET jobs/…/record": f"/api/jobs/{position.job_id}/record",
            "GET parts": "/api/parts",
            "GET vocabulary": "/api/vocabulary",
            "GET jobs/…/board, 100 positions": f"/api/jobs/{self.board(member)}/board",
        }
        table("API calls against a bare signed-in view, same middleware", {n: partial(client.get, p) for n, p in calls.items()})
        self.basket()
        self.stock_list(member)
        self.large_drawer()
        self.page_weight()
        self.page_speed()

    def board(self, member: Member) -> str:
        """A job with a hundred positions, each read once; its address."""
        written = JobIn(title="A large board", supply_voltage="230 V", supply_frequency="50 Hz")
        job = open_job(member.actor, written).id
        meter = member.workshop.meters.get(name="Bench LCR bridge").id
        for number, (place, _) in enumerate(BOARD):
            line = BoardLineIn(
                name=f"C{number}", role=place.role, role_chosen=True, marking=place.marking.text, value="97u", meter_id=meter
            )
            enter_line(member.actor, job, line)
        self.large = f"/jobs/{job}/board"
        return str(job)

    def large_drawer(self) -> None:
        """Ranking in a drawer of 100 000 parts, in a server of its own."""
        with Stage("dusky_rank", 8792) as stage:
            stage.manage("shell", "-v", "0", "-c", "from tests.bench.drawer import fill; fill()")
            orne = Technician(stage.url, "orne")
            calls: dict[str, Callable[[], object]] = {"bare signed-in view": partial(orne.ask, "GET", "/api/session")}
            for row in orne.ask("GET", "/api/bench").json():
                for place in orne.ask("GET", f"/api/jobs/{row['job']['id']}/sheet").json()["positions"]:
                    if place["role"] in ("motor_run", "x", "dropper", "reservoir"):
                        path = f"/api/positions/{place['id']}/candidates"
                        calls[f"candidates of 100 000, {place['role']}"] = partial(orne.ask, "GET", path)
            for call in (*calls.values(),) * 4:  # until each process of the server has seen each of them
                call()
            table("Ranking over 100 000 parts, over HTTP", calls, rounds=40)

    def basket(self) -> None:
        """Sixty needs over six suppliers with three price breaks, five instances; and with alternates, packs, short stock."""
        for name, plain in (("each of one part", True), ("with alternates, packs and short stock", False)):
            taken = []
            for seed in range(5):
                needs, offers, shops = large(seed)
                if plain:
                    needs = [replace(need, parts=need.parts[:1]) for need in needs]
                    offers = [replace(offer, pack=1, available=None) for offer in offers]
                began = time.perf_counter()
                found = cheapest(needs, offers, shops, time_s=20)
                taken.append(time.perf_counter() - began)
                assert found.gap == 0.0
            says = ", ".join(f"{t:.2f}" for t in sorted(taken))
            print(f"\nBasket, 60 needs × 6 suppliers × 3 breaks, {name}, proved: {says} s of 2")  # noqa: T201

    def stock_list(self, member: Member) -> None:
        """A stock list of 50 000 rows, seen and taken, and the memory it needed."""
        rows = (
            f"{k % 9973 / 1000 + 0.001:.4f} µF K X2 {(275, 305, 310)[k % 3]} V~;safety film;{k % 9};R{k // 97}"
            for k in range(50_000)
        )
        content = ("marking;kind;quantity;place\n" + "\n".join(rows)).encode()
        asked, began = ask_to_take(member.actor, "large.csv", content), time.perf_counter()
        start_worker().wait()
        seconds = time.perf_counter() - began
        largest = resource.getrusage(resource.RUSAGE_CHILDREN).ru_maxrss / 1024
        taken = some(Work.objects.get(id=asked.id).answer)
        says = f"{seconds:.1f} s of 30, {largest:.0f} MB at most"
        print(f"Stock list of {taken['adds']} rows, by a worker started for it: {says}")  # noqa: T201
        undo_import(member.actor, taken["id"])

    def page_weight(self) -> None:
        index = (DIST / "index.html").read_text(encoding="utf-8")
        files = re.findall(r'(?:src|href)="/static/([^"]+\.(?:js|css))"', index)
        weight = {name: len(gzip.compress((DIST / name).read_bytes())) / 1024 for name in files}
        script = sum(size for name, size in weight.items() if name.endswith(".js"))
        print(f"\nInitial page, gzipped: script {script:.1f} KB of 150, style {sum(weight.values()) - script:.1f} KB")  # noqa: T201

    def page_speed(self) -> None:
        page = self.sign_in()

        def opened(path: str, words: str) -> float:
            began = time.perf_counter()
            page.open(path)
            page.see(words)
            return (time.perf_counter() - began) * 1000

        bare = statistics.median(opened("/robots.txt", "Disallow") for _ in range(7))
        bench = statistics.median(opened("/", "Wave-pool") for _ in range(7))
        print(f"Time to a bench that can be used: {bench:.0f} ms, {bench / bare:.1f} times a line of text ({bare:.0f} ms)")  # noqa: T201
        large = statistics.median(opened(self.large, "C99") for _ in range(5))
        print(f"Time to a board of 100 positions: {large:.0f} ms of 1000, {large / bare:.1f} times a line of text")  # noqa: T201
        answers = []
        opened("/", "Wave-pool")
        for text in MARKINGS:
            page.press("/")
            page.retype(text[:-1])
            time.sleep(0.15)
            answers.append(self.answered_in(text[-1]))
        p95 = statistics.quantiles(answers, n=20)[-1]
        print(f"Last key to answer in the reading box: p50 {statistics.median(answers):.0f} ms, p95 {p95:.0f} ms of 150")  # noqa: T201

    def answered_in(self, key: str) -> float:
        """From a key to the painted answer, by the page's own clock."""
        script = """
            const [key, done] = arguments, field = document.activeElement
            const told = document.querySelector('[aria-live]')
            const began = performance.now()
            const seen = new MutationObserver(() => requestAnimationFrame(() => {
                seen.disconnect(); done(performance.now() - began)
            }))
            seen.observe(told.parentElement.parentElement, { childList: true, characterData: true, subtree: true })
            setTimeout(() => done(null), 2000)
            field.value += key
            field.dispatchEvent(new Event('input', { bubbles: true }))
        """
        return float(self.browser.execute_async_script(script, key) or 2000)


class Core(SimpleTestCase):
    """The core by itself, with no browser beside it."""

    def test_core(self) -> None:
        charge = plan_charge(read_marking(PUMP))
        limit, resistors = working_limit(None, some(charge).highest_f, some(charge).voltage.voltage_v), THIRTY[:12]
        bank = plan_charge(read_marking("3600 µF 360 V"))
        bank_limit = working_limit(None, some(bank).highest_f, some(bank).each_v)
        falling = [(float(t), round(360 * math.exp(-t / 3.6), 1)) for t in range(20)]
        core: dict[str, Callable[[], object]] = {
            "read_marking, mean of thirty": lambda: [read_marking(text) for text in MARKINGS],
            "plan_charge": lambda: plan_charge(read_marking(PUMP)),
            "rank_tools, twelve resistors": lambda: rank_tools(resistors, some(charge), limit),
            "rank_tools, thirty resistors": lambda: rank_tools(THIRTY, some(bank), bank_limit),
            "decay.fit, twenty readings": lambda: fit(falling, resolution_v=0.1),
            "dropper.steady_state": lambda: steady_state(DOSING),
            "symptom_sweep, two states": lambda: symptom_sweep(DOSING, STATES),
            "symptom_sweep, a relay": lambda: symptom_sweep(DOSING, STATES, RELAY),
            "give_command, a second and a half": lambda: give_command(DOSING, RELAY, 8e-3, 1.5),
            "judge, a board of 100 positions": lambda: [judge(place, known, today=TODAY) for place, known in BOARD],
        }
        table("The core", core, divide={"read_marking, mean of thirty": 30})
        need, drawer = place_of(Role.MOTOR_RUN, PUMP), [large_drawer_part(k) for k in range(500)]
        table("Parts put together from a drawer of 500", {"combinations": lambda: combinations(need, drawer)})
        self.beside_spice()
        self.the_rig()
        marked = [first for _, mark, first in seeded_cases() if mark]
        print(f"\nFault put in comes first: {sum(marked) / len(marked):.1%} of {len(marked)} cases that leave a mark, 90 % asked")  # noqa: T201

    def the_rig(self) -> None:
        """A thousand simulated sets made and read at every terminal, beside one steady state of a dropper."""
        hand = rig.meters(1)["hand"]
        taken, states = [], []
        for seed in range(1000):
            began = time.perf_counter()
            glance(rig.make(rig.SETS[seed % len(rig.SETS)], seed), hand)
            taken.append(time.perf_counter() - began)
            if seed % 10 == 0:
                began = time.perf_counter()
                steady_state(DOSING)
                states.append(time.perf_counter() - began)
        each, state = statistics.median(taken), statistics.median(states)
        says = f"{each * 1000:.1f} ms, {each / state:.1f} × a steady state; 20 asked"
        print(f"\nA simulated set made and read at every terminal: {says}")  # noqa: T201

    def beside_spice(self) -> None:
        """Our steady state and sweep beside ngspice on the same circuit: one run for each edge of the sweep at the least."""
        netlist, edges = dropper_netlist(DOSING), sum(len(row.zones) - 1 for row in symptom_sweep(DOSING, STATES, RELAY))

        def median_of(call: Callable[[], object], times: int) -> float:
            taken = []
            for _ in range(times):
                began = time.perf_counter()
                call()
                taken.append(time.perf_counter() - began)
            return statistics.median(taken)

        spice = median_of(lambda: run(netlist), 5)
        state = median_of(lambda: steady_state(DOSING), 50)
        sweep = median_of(lambda: symptom_sweep(DOSING, STATES, RELAY), 20)
        print(  # noqa: T201
            f"\nBy itself: steady_state {state * 1000:.2f} ms of 2, the sweep of a relay {sweep * 1000:.0f} ms of 150. "
            f"Beside ngspice ({spice * 1000:.0f} ms a run): {spice / state:.0f} times faster, "
            f"the sweep of {edges} edges {edges * spice / sweep:.0f} times; 50 asked"
        )
