"""The rig against witnesses that share no code with it: ngspice, closed forms, time stepping and complex arithmetic."""

import cmath
import math
import random
import unittest
from concurrent.futures import ThreadPoolExecutor
from typing import Any

from dusky_heron.core import rig
from dusky_heron.core.errors import InputError
from dusky_heron.core.rig.elements import EARTH, Coil, Diode, Element, Resistor, Source, Store
from dusky_heron.core.rig.following import follow
from dusky_heron.core.rig.governors import Heater
from dusky_heron.core.rig.impedance import impedance
from dusky_heron.core.rig.mode import Watched
from dusky_heron.core.rig.network import Network
from tests.core.rig_netlist import Netlist
from tests.core.spice import SPICE, run

CYCLE = 0.02
CASES = ("switched on", "running", "unplugged")


class Chance(random.Random):
    """A chance by seed."""


def network(**parts: Any) -> Network:
    made = Network()
    for name, part in parts.items():
        element, held = part if isinstance(part, tuple) else (part, None)
        made.put(name, element, held)
    return made


def two(chance: random.Random) -> tuple[str, str]:
    a, b = chance.sample([EARTH, "a", "b", "c"], 2)
    return a, b


class Case:
    """A set in a state, followed by both."""

    def __init__(self, set_id: str, state: str) -> None:
        self.title = f"{set_id}, {state}"
        self.set = rig.make(set_id, 5, healthy=state != "unplugged")
        self.seconds = 0.06
        self.begins = 0.0 if state == "switched on" else 0.001  # ngspice has to charge its diodes' junctions first
        if state == "switched on":
            self.set.percent = 100.0
            self.set.wait(0)
        else:
            self.set.plug()
            self.set.wait(15.0 if set_id == "valve_set" else 0.6)  # its heater is warm after twelve seconds
        if state == "unplugged":
            self.set.unplug(77)
            self.seconds = 0.5
        self.network = self.set.aside()
        self.rails = tuple(self.set.drawing.rails.values())
        self.supply = self.set.drawing.supply if self.network.alternating and state != "unplugged" else ""

    def netlist(self) -> str:
        made = Netlist(self.network, absorbing=not self.network.alternating)
        last = f"from={self.seconds - CYCLE:.9g} to={self.seconds:.9g}"
        measures: dict[str, str] = {}
        for k, pair in enumerate(self.rails):
            measures |= {f"mean{k}": f"avg {made.across(*pair)} {last}", f"rms{k}": f"rms {made.across(*pair)} {last}"}
        if self.supply:
            since = f"from={self.begins:.9g} to={self.seconds:.9g}"
            measures |= {"high": f"max {made.through(self.supply)} {since}", "low": f"min {made.through(self.supply)} {since}"}
        return made.text(self.seconds, self.seconds / 5000, measures)

    def ours(self) -> dict[str, float]:
        through = (self.supply,) if self.supply else ()
        follow(self.network, self.begins)
        before = follow(self.network, self.seconds - CYCLE - self.begins, Watched(through=through))
        flow = follow(self.network, CYCLE, Watched(through=through, between=self.rails))
        first = len(through)
        told = {f"mean{k}": flow.mean(first + k) for k in range(len(self.rails))}
        told |= {f"rms{k}": flow.rms(first + k) for k in range(len(self.rails))}
        if through:
            told["peak"] = max(before.peak(0), flow.peak(0))
        return told


@unittest.skipUnless(SPICE, "ngspice is not installed; scripts/setup test installs it")
class Spice(unittest.TestCase):
    """Every set switched on, running and unplugged: rails within 1 %, peaks of the supply's current within 3 %."""

    def test_every_set_in_every_state(self) -> None:
        cases = [Case(set_id, state) for set_id in rig.SETS for state in CASES]
        self.assertGreaterEqual(len(cases), 40)
        with ThreadPoolExecutor() as pool:
            found = list(pool.map(run, [case.netlist() for case in cases]))
        for case, witness in zip(cases, found, strict=True):
            ours = case.ours()
            for k in range(len(case.rails)):
                with self.subTest(case.title, rail=k):
                    within = 0.01 * witness[f"rms{k}"] + 0.002
                    self.assertAlmostEqual(ours[f"rms{k}"], witness[f"rms{k}"], delta=within)
                    self.assertAlmostEqual(ours[f"mean{k}"], witness[f"mean{k}"], delta=within)
            if case.supply:
                peak = max(witness["high"], -witness["low"])
                with self.subTest(case.title, peak=peak):
                    self.assertAlmostEqual(ours["peak"], peak, delta=0.03 * peak + 1e-3)


class Absorption(unittest.TestCase):
    """A capacitor with branches of absorption, through a resistor, shorted, and left alone."""

    def test_one_branch_against_its_closed_form(self) -> None:
        c, r, ck, tau = 1e-6, 1e6, 5e-8, 10.0
        made = network(c=(Store("a", EARTH, c, 1e-3, branches=((ck, tau),)), (300.0, 300.0)), r=Resistor("a", EARTH, r))
        g, k = 1 / (r + 1e-3) + 1e-12, ck / tau
        a11, a12, a21 = -(g + k) / c, k / c, 1 / tau
        middle, root = (a11 - a21) / 2, math.sqrt(((a11 + a21) / 2) ** 2 + a12 * a21)
        fast, slow = middle - root, middle + root
        for seconds in (0.3, 1.0, 10.0, 60.0):
            one = network(c=(made.parts["c"], (300.0, 300.0)), r=made.parts["r"])
            follow(one, seconds)
            # v = A·e^(slow t) + B·e^(fast t), with v(0) = 300 and v′(0) from the first row
            slope = a11 * 300 + a12 * 300
            a = (slope - fast * 300) / (slow - fast)
            expected = a * math.exp(slow * seconds) + (300 - a) * math.exp(fast * seconds)
            self.assertAlmostEqual(one.held["c"][0] / expected, 1, 6)

    def test_three_branches_against_steps_of_the_tests_own(self) -> None:
        c, branches = 100e-6, ((5e-6, 10.0), (4e-6, 100.0), (3e-6, 1000.0))
        store = Store("a", EARTH, c, 1e-3, 1e6, branches)
        made = network(c=(store, (350.0,) * 4), r=Resistor("a", EARTH, 1000.0))
        v, u = 350.0, [350.0] * 3
        h = 1e-4
        for _ in range(20_000):  # two seconds through 1 kΩ, by the trapezium rule on the capacitor, branch by branch
            drain = v / 1000.001 + v / 1e6 + sum((v - w) * b / t for (b, t), w in zip(branches, u, strict=True))
            half = v - h / 2 * drain / c
            u = [w + h * (half - w) / t for (_, t), w in zip(branches, u, strict=True)]
            drain = half / 1000.001 + half / 1e6 + sum((half - w) * b / t for (b, t), w in zip(branches, u, strict=True))
            v -= h * drain / c
        follow(made, 2.0)
        self.assertAlmostEqual(made.held["c"][0], v, delta=2e-4 * 350)
        for ours, theirs in zip(made.held["c"][1:], u, strict=True):
            self.assertAlmostEqual(ours, theirs, delta=2e-4 * 350)

    def test_it_creeps_back_after_a_short_by_the_share_of_its_branches(self) -> None:
        share = 0.02
        store = Store("a", EARTH, 1e-6, 1e-3, branches=((share * 1e-6, 10.0),))
        made = network(c=(store, (500.0, 500.0)), short=Resistor("a", EARTH, 0.01))
        follow(made, 0.001)
        made.take("short")
        follow(made, 100.0)
        self.assertAlmostEqual(made.held["c"][0] / (500 * share / (1 + share)), 1, 3)

    def test_charge_moves_between_two_until_they_agree(self) -> None:
        c1, c2 = Store("a", EARTH, 3e-6, 0.05), Store("b", EARTH, 1e-6, 0.05)
        made = network(one=(c1, (400.0,)), two=(c2, (-100.0,)), r=Resistor("a", "b", 10.0))
        before = made.stored_j()
        flow = follow(made, 1.0, Watched(energy=True, through=("r",), closely=True))
        self.assertAlmostEqual(made.held["one"][0], (3 * 400 - 100) / 4, 3)
        self.assertAlmostEqual(flow.heat_j, 0.5 * 0.75e-6 * 500**2, 6)  # ½·C₁C₂/(C₁+C₂)·ΔV²
        self.assertAlmostEqual(before - made.stored_j(), flow.heat_j, 7)
        self.assertAlmostEqual(flow.means[0], 3e-6 * (400 - 275), 9)


class Sines(unittest.TestCase):
    """Losses and conversions by complex impedance."""

    def test_series_parallel_and_loss(self) -> None:
        chance = random.Random(7)
        for _ in range(60):
            c, esr, leak = 10 ** chance.uniform(-9, -3), 10 ** chance.uniform(-3, 2), 10 ** chance.uniform(3, 9)
            tan, hertz = chance.uniform(0, 0.05), chance.choice((100, 120, 1000, 10_000, 100_000))
            omega = 2 * math.pi * hertz
            z = impedance({"c": Store("a", "b", c, esr, leak, (), ((hertz, tan),))}, "a", "b", hertz)
            expected = esr + 1 / (omega * c * (1j + tan) + 1 / leak)
            self.assertAlmostEqual(abs(z - expected) / abs(expected), 0, 6)
            d = expected.real / -expected.imag
            series = 1 / (omega * -expected.imag)
            self.assertAlmostEqual(-1 / (omega * z.imag) / series, 1, 6)
            parallel = (1 / z).imag / omega
            self.assertAlmostEqual(parallel * (1 + d * d) / series, 1, 6)

    def test_branches_add_capacitance_below_their_corner(self) -> None:
        store = Store("a", "b", 1e-6, 1e-3, branches=((1e-7, 1.0),))
        slow, fast = (1 / impedance({"c": store}, "a", "b", hertz) for hertz in (0.001, 1000.0))
        self.assertAlmostEqual(slow.imag / (2 * math.pi * 0.001) * 1e6, 1.1, 4)
        self.assertAlmostEqual(fast.imag / (2 * math.pi * 1000) * 1e6, 1.0, 4)

    def test_coil_and_capacitor_resonate_where_thomson_says(self) -> None:
        parts: dict[str, Element] = {"l": Coil("a", "m", 1e-3, 0.5), "c": Store("m", "b", 1e-6, 0.5)}
        resonance = 1 / (2 * math.pi * math.sqrt(1e-9))
        self.assertAlmostEqual(cmath.phase(impedance(parts, "a", "b", resonance)), 0, 2)
        made = network(l=(parts["l"], (0.0,)), c=(parts["c"], (100.0,)), s=Resistor("a", "b", 0.001), e=Resistor("b", EARTH, 1.0))
        follow(made, 1 / resonance / 2)  # half a swing: the other way, less what its ohm took
        self.assertAlmostEqual(made.held["c"][0], -100 * math.exp(-1.001 / 2e-3 / resonance / 2), delta=0.3)


class Elements(unittest.TestCase):
    """What a part of the circuit is by itself."""

    def test_loss_lies_on_straight_lines_over_the_logarithm_and_beyond_the_last_point_stays(self) -> None:
        store = Store("a", "b", 1e-6, 0.01, loss=((100, 0.002), (10_000, 0.004), (100_000, 0.009)))
        for hertz, tangent in ((50, 0.002), (100, 0.002), (1000, 0.003), (10_000, 0.004), (100_000, 0.009), (1e6, 0.009)):
            self.assertAlmostEqual(store.dissipation(hertz), tangent, 9)
        self.assertEqual(Store("a", "b", 1e-6, 0.01).dissipation(1000), 0.0)

    def test_a_fault_says_its_size_in_its_own_unit(self) -> None:
        for what, size, said in (
            ("worn", 0.456, "C1 worn, 46% left"), ("dried", 0.5, "C1 dried, 50% left"), ("shorted", 0.5, "C1 shorted, 0.5 Ω"),
            ("shorted", 1.0, "C1 shorted"), ("leaky", 20_000, "C1 leaky, 2e+04 Ω"), ("esr", 3.0, "C1 esr, × 3"),
            ("drifted", 1.0, "C1 drifted, × 1"), ("open", 1.0, "C1 open"), ("open", 2.0, "C1 open"),
        ):  # fmt: skip
            self.assertEqual(str(rig.Fault("C1", what, size)), said)

    def test_heaters_take_the_power_of_the_supply_to_the_1_6(self) -> None:
        """At 230 V 0.4 A, 92 W; at half of it 92 W · 0.5^1.6 = 30.35 W, which are 0.264 A."""
        heater = Heater((), 20.0, ("line", "neutral"), 0.4)
        for percent, amperes in ((100.0, 0.4), (50.0, 0.2639), (10.0, 0.4 * 0.1**0.6)):
            heater.percent = percent
            (element,) = heater.elements({}).values()
            assert isinstance(element, Resistor)
            self.assertAlmostEqual(2.3 * percent / element.ohm, amperes, 4)


class Conserved(unittest.TestCase):
    """Energy and charge over two thousand drawn histories, from microseconds to minutes, and over whole sets."""

    def drawn(self, chance: random.Random) -> Network:
        made = Network()
        for k in range(chance.randint(2, 3)):
            farad = 10 ** chance.uniform(-8, -4)
            branches = ((farad * chance.uniform(0.001, 0.1), 10 ** chance.uniform(-2, 3)),) * chance.randint(0, 1)
            volts = chance.uniform(-400, 400)
            store = Store(*two(chance), farad, 10 ** chance.uniform(-2, 1), 10 ** chance.uniform(5, 12), branches)
            made.put(f"c{k}", store, (volts,) * (1 + len(branches)))
        for k in range(2):
            made.put(f"r{k}", Resistor(*two(chance), 10 ** chance.uniform(-2, 7)))
        for k in range(chance.randint(0, 2)):
            made.put(f"d{k}", Diode(*two(chance), chance.uniform(0.2, 5), 10 ** chance.uniform(-2, 1)))
        if chance.random() < 0.3:  # damped, as a winding with its core is: what rings for ever is followed by ngspice above
            made.put("l", Coil(*two(chance), 10 ** chance.uniform(-5, -3), 10 ** chance.uniform(1.5, 3), 1e4))
        if chance.random() < 0.3:
            made.put("e", Source(*two(chance), 10 ** chance.uniform(0, 5), dc_v=chance.uniform(-100, 100)))
        return made

    def test_two_thousand_histories(self) -> None:
        chance = random.Random(28)
        for history in range(2000):
            made = self.drawn(chance)
            for _ in range(chance.randint(1, 2)):
                stores = tuple(name for name, part in made.parts.items() if isinstance(part, Store))
                before, held = made.stored_j(), dict(made.held)
                flow = follow(made, 10 ** chance.uniform(-6, 2), Watched(energy=True, through=stores, closely=True))
                most = max(before, made.stored_j(), abs(flow.delivered_j), 1e-6)
                with self.subTest(history, held=held):
                    missing = before + flow.delivered_j - flow.heat_j - made.stored_j()
                    self.assertAlmostEqual(missing / most, 0, delta=1e-5)
                    self.assertGreaterEqual(flow.heat_j, -1e-5 * most)
                    for k, name in enumerate(stores):
                        self.charge(made, name, held[name], flow.means[k], flow.seconds)
                made.take(chance.choice(["r0", "r1", "none"]))  # something is cut, or a link is laid
                made.put("link", Resistor(*two(chance), 10 ** chance.uniform(-2, 5)))

    def charge(self, made: Network, name: str, before: tuple[float, ...], through: float, seconds: float) -> None:
        """What flowed in is what it and its branches hold more, and what leaked: between its least and most volts over R."""
        part = made.parts[name]
        assert isinstance(part, Store)
        after = made.held[name]
        gained = part.farad * (after[0] - before[0])
        gained += sum(c * (v - u) for (c, _), v, u in zip(part.branches, after[1:], before[1:], strict=True))
        leaked = through - gained
        most = max(abs(v) for v in (*before, *after, 500.0)) * 2
        self.assertLessEqual(abs(leaked), most / part.leak_ohm * seconds + 3e-4 * part.farad * most)

    def test_sets_with_everything_done_to_them(self) -> None:
        for set_id in rig.SETS:
            simulated = rig.make(set_id, 3)
            simulated.plug()
            simulated.wait(0.3)
            self.balanced(simulated, 2 * CYCLE)
            simulated.unplug(63)
            for name in list(simulated.capacitors)[:2]:
                a, b = simulated.terminals(name)
                self.balanced(simulated, 0.2)
                simulated.join(a, b, 1000.0, 0.3)
                simulated.lift(name)
                self.balanced(simulated, 30.0)
                simulated.short(a, b)
                simulated.lay_back(name)
                self.balanced(simulated, 0.01)
                simulated.unshort(a, b)

    def balanced(self, simulated: rig.SimulatedSet, seconds: float) -> None:
        made = simulated.aside()
        before = made.stored_j()
        flow = follow(made, seconds, Watched(energy=True, closely=True))
        most = max(before, made.stored_j(), abs(flow.delivered_j), 1e-6)
        missing = before + flow.delivered_j + flow.absorbed_j - flow.heat_j - made.stored_j()
        with self.subTest(simulated.drawing.id, seconds=seconds):
            self.assertAlmostEqual(missing / most, 0, delta=2e-3 if simulated.network.alternating else 1e-4)

    def test_charge_stays_when_a_part_is_warmed(self) -> None:
        simulated = rig.make("flash", 1, healthy=True)
        simulated.plug()
        simulated.wait(3.0)
        simulated.unplug(0)
        part = simulated.capacitors["C1"]
        volts, farads = simulated.held("C1"), part.farads()
        simulated.heat("C1", 85.0)
        warm = simulated.capacitors["C1"].farads()
        self.assertAlmostEqual(warm / farads, 1.08, 3)  # rig_materials.toml: +8 % at 85 °C
        self.assertAlmostEqual(simulated.held("C1") * warm, volts * farads, 9)

    def test_a_step_by_a_step_is_the_whole(self) -> None:
        """What is followed in pieces is what is followed at once."""
        for set_id in ("switcher", "oven", "motor"):
            at_once, apart = rig.make(set_id, 2), rig.make(set_id, 2)
            for simulated in (at_once, apart):
                simulated.plug()
                simulated.wait(0.2)
                simulated.unplug(40)
            one, other = at_once.aside(), apart.aside()
            follow(one, 5.0)
            for _ in range(10):
                follow(other, 0.5)
            for name, values in one.held.items():
                for x, y in zip(values, other.held[name], strict=True):
                    self.assertAlmostEqual(x, y, delta=1e-3 + 1e-4 * abs(x))

    def test_what_cannot_be_is_refused(self) -> None:
        simulated = rig.make("switcher", 1)
        for field, act in (
            ("node", lambda: simulated.join("nowhere", "N", 100.0, 1.0)),
            ("ohm", lambda: simulated.join("fused", "N", 0.0, 1.0)),
            ("ohm", lambda: simulated.join("fused", "N", math.nan, 1.0)),
            ("seconds", lambda: simulated.wait(-1.0)),
            ("seconds", lambda: simulated.wait(math.inf)),
            ("percent", lambda: simulated.plug(131.0)),
            ("celsius", lambda: simulated.heat("CX1", 106.0)),
            ("part", lambda: simulated.lift("C99")),
            ("set", lambda: rig.make("toaster", 1)),
        ):
            with self.subTest(field), self.assertRaises(InputError) as caught:
                act()
            self.assertEqual(caught.exception.field, field)
