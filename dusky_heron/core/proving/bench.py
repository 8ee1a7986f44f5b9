"""Hands on a simulated set: a tool laid on, a lead lifted, a meter read, a part changed, a hand where the record allows one."""

import itertools
from dataclasses import dataclass, field, replace

from dusky_heron.core import rig
from dusky_heron.core.discharge.banks import discharge_points
from dusky_heron.core.markings.model import Marking
from dusky_heron.core.metering.accuracy import fine_enough, reads_open
from dusky_heron.core.model import Arrangement, Measurement, Quantity
from dusky_heron.core.proving import manual, truth
from dusky_heron.core.proving.workshop import WAYS, shown_volts, specification
from dusky_heron.core.rig.drawing import Drawing
from dusky_heron.core.rig.following import follow
from dusky_heron.core.rig.meter import Meter, Shown
from dusky_heron.core.rig.simulated import SimulatedSet

Pair = tuple[str, str | None]  # nodes; None where there is no chassis to lay a lead on
LOOKED_AT = (1 / 64, 1 / 16, 1 / 4, 1.0)  # of a time, when one looks
SETTLES = 2  # times one waits for a reading that moves
SEEN_V = 0.05  # a voltage below this loads no meter, and a body of metal nobody reaches shows nothing


@dataclass
class Bench:
    """A set on the bench, with the meters beside it."""

    simulated: SimulatedSet
    meters: dict[str, Meter]
    out: dict[str, SimulatedSet] = field(default_factory=dict)  # parts that are measured by themselves

    def ends(self, name: str, k: int = 0) -> tuple[str, str]:
        """Where a section ends now."""
        return self.simulated.terminals(name, k)

    def points(self, place: manual.Place, marking: Marking) -> list[tuple[str, str, str]]:
        """Across what the tool is laid, in the product's words and order, with the nodes that they are."""
        words = discharge_points(marking, place.around, place.name)
        parts = [(name, k) for name in place.capacitors for k in range(len(self.simulated.capacitors[name].sections))]
        if place.around.arrangement == Arrangement.PARALLEL:
            parts = [parts[0], *parts]
        nodes = [self.ends(*part) for part in parts]
        return [(said, *(nodes[min(k, len(nodes) - 1)])) for k, said in enumerate(words)]

    def pairs(self, place: manual.Place) -> list[Pair]:
        """The nodes of the pairs a proof asks for, in its order."""
        chassis = manual.chassis_of(self.simulated)
        parts = [(name, k) for name in place.capacitors for k in range(len(self.simulated.capacitors[name].sections))]
        ends = [self.ends(*part) for part in parts]
        if place.around.arrangement == Arrangement.PARALLEL:
            return [*ends, (ends[0][0], chassis), (ends[0][1], chassis)]
        if place.around.arrangement == Arrangement.SERIES:
            nodes = [ends[0][0], *(pair[1] for pair in ends)]
        elif len(ends) > 2:  # a network to earth: its lines, and earth is the chassis, or what stands for it
            earth = ends[1][1]
            return [ends[0], (ends[0][0], earth), (ends[0][1], earth)]
        elif len(ends) == 2:
            nodes = [ends[0][1], ends[0][0], ends[1][0]]
        else:
            nodes = list(ends[0])
        return [*itertools.combinations(nodes, 2), *((node, chassis) for node in nodes)]

    def laid(self, place: manual.Place, count: int) -> list[Pair]:
        """As many pairs as are asked for: those there are, over again where a label made it ask for more than there are leads."""
        pairs = self.pairs(place)
        return [pairs[k % len(pairs)] for k in range(count)]

    def empty(self, a: str, b: str, ohm: float, seconds: float) -> None:
        """The tool across two nodes for a time."""
        self.simulated.join(a, b, ohm, seconds)

    def volts(self, meter: Meter, pair: Pair, kind: str) -> str:
        """What a voltmeter shows on a pair, as it is typed."""
        a, b = pair
        function = meter.functions.get(f"volts_{kind}")
        if function is None:
            return ""
        still = b is None or (abs(self.simulated.volts(a, b)) < SEEN_V and not self.simulated.network.alternating)
        if still or b is None or (kind == "ac" and not self.simulated.network.alternating):
            return shown_volts(0.0, function, meter.errs)
        shown = rig.measure(self.simulated, meter, f"volts_{kind}", a, b)
        return shown.text.removesuffix("V").strip().replace("mV", " mV") if shown.value is not None else "OL"

    def lift(self, place: manual.Place) -> None:
        """One lead of every part of a place off; each is then measured by itself."""
        for name in place.capacitors:
            self.simulated.lift(name)

    def alone(self, name: str) -> SimulatedSet:
        """A lifted part by itself: what it holds goes with it."""
        if name not in self.out:
            part = self.simulated.capacitors[name]
            ends = tuple(self.ends(name, k) for k in range(len(part.sections)))
            drawing = Drawing("bench", "a part by itself", 230.0, 50.0, "II", capacitors=[replace(part, terminals=ends)])
            single = SimulatedSet(drawing, seed=self.simulated.chance.getrandbits(32), quick=True)
            for element in single.store_names(name):
                single.network.held[element] = self.simulated.network.held[element]
            single.touching = {name} & self.simulated.touching
            single._sync()  # the same part in another surrounding
            self.out[name] = single
        return self.out[name]

    def measured(self, name: str, k: int, ask: Measurement, times: int, *, way: int | None = None) -> tuple[Shown, str]:
        """What is asked for of a lifted part, with the meter at hand for it, with a finer one when asked again."""
        ways = WAYS[ask.quantity]
        fine = [one for one in ways if fine_enough(specification(one[0]), ask)] if ask.about is not None else []
        meter_id, function = fine[0] if fine else ways[min(times if way is None else way, len(ways) - 1)]
        meter = self.meters[meter_id]
        kept = meter.functions[function]
        hertz = (ask.frequency_hz if ask.frequency_hz in kept.hertz else 1000.0) if kept.hertz else None
        volts = max((v for v in kept.volts if v <= (ask.volts or 0.0) * 1.001), default=kept.volts[0]) if kept.volts else None
        single = self.alone(name)
        for _ in range(SETTLES):
            shown = rig.measure(single, meter, function, *single.terminals(name, k), hertz=hertz, volts=volts, patient=True)
            if not shown.swings:
                break
        return shown, meter_id

    def lay_back(self, place: manual.Place) -> None:
        """The leads back; what a meter left on a part goes back with it."""
        for name in place.capacitors:
            single = self.out.pop(name, None)
            if single is not None:
                self.simulated.capacitors[name] = replace(
                    single.capacitors[name], terminals=self.simulated.capacitors[name].terminals
                )
                for element in self.simulated.store_names(name):
                    self.simulated.network.held[element] = single.network.held[element]
            self.simulated.lay_back(name)

    def handle(self, place: manual.Place) -> None:
        """A lifted part in the hand: a joint may touch again."""
        for name in place.capacitors:
            if name in self.out:
                self.out[name].knock()

    def hand_later(self, place: manual.Place, seconds: float) -> float:
        """The most volts a hand would meet at a place within a time in which nobody does anything."""
        copy, worst, gone = self.simulated.aside(), 0.0, 0.0
        pairs = [(a, b) for a, b in self.pairs(place) if b is not None and a != b]
        for share in LOOKED_AT:
            follow(copy, share * seconds - gone)
            gone = share * seconds
            worst = max(worst, *(truth.across(copy, a, b) for a, b in pairs), 0.0)
        return worst

    def hand_on(self, place: manual.Place) -> float:
        """The most volts a hand meets at a place: at its terminals, or on the part that was taken off and measured."""
        alone = [(self.out[name], name) for name in place.capacitors if name in self.out]
        if alone:
            ends = [(one, one.terminals(name, k)) for one, name in alone for k in range(len(one.capacitors[name].sections))]
            return max(truth.on_hands(one, [pair]) for one, pair in ends)
        pairs = [(a, b) for a, b in self.pairs(place) if b is not None and a != b]
        return truth.on_hands(self.simulated, pairs)


def typed(shown: Shown, quantity: Quantity) -> str:
    """A display as it is typed: a value with its unit, or that there was none."""
    if shown.value is None:
        return "OL" if reads_open(shown.text) or shown.text == "OL" else ""
    return shown.text if quantity is not Quantity.DISSIPATION else shown.text.strip()
