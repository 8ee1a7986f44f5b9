"""A simulated set under hands: plugged, unplugged, emptied, shorted, opened, refitted, warmed, in its own time."""

import math
import random
from collections.abc import Iterable
from dataclasses import dataclass, field, replace
from typing import NamedTuple

from dusky_heron.core.errors import RESISTANCE, InputError, Range
from dusky_heron.core.rig.capacitors import OPEN_OHM, ROOM_C, Capacitor
from dusky_heron.core.rig.drawing import CHASSIS, EARTH_OHM, Drawing, Window
from dusky_heron.core.rig.elements import EARTH, Coil, Element, Resistor, Store
from dusky_heron.core.rig.faults import Fault
from dusky_heron.core.rig.following import NOTHING, Flow, follow
from dusky_heron.core.rig.governors import HEATERS
from dusky_heron.core.rig.mode import Watched
from dusky_heron.core.rig.network import Network
from dusky_heron.core.rig.pieces import Piece, PieceKind

BODY_OHM = 1000.0  # hand to hand above 200 V, dry, the lower end: IEC 60479-1
TOUCHED_S = 0.2
BLADE_OHM = 0.01  # blade and contact
STRUCK_S = 0.05
SHORT_OHM = 0.02  # of a link with its clips
PULSE_S = 1.0  # in which a resistor's body takes its pulse energy and gives none away
PLUGGED = "plugged in"
FIRST_S = 0.01  # a fuse that melts by a surge does so within half a cycle
WINDOWS_S = 0.04  # the next window; each is twice as long as the one before
RINGS_H = 1e-3  # a coil of less is its resistance in a quick set: it rings with its X part some kilohertz above the mains
QUICKLY_RESTS_S = 20.0  # unplugged, a window of more takes all that is left: what coasts or discharges by itself has ended
QUICKLY_GROWS = 6.0  # times the window before; without anything that governs one window is enough
QUICKLY_S = 0.1  # of a quick set what melts is looked at in windows shorter than that: what is shorted melts in them
RESTS_S = 0.1  # the first window unplugged
OVER, REVERSED_V = 1.5, 2.0  # times its rated volts at which a part breaks down; volts an electrolytic stands the wrong way
BROKEN_OHM = 2.0
HIDDEN = 0.8  # of its rated volts, the most that a broken joint hides
REMAKES_C = 60.0  # a broken joint touches again when its part is as warm as that
WARM_S = 900.0  # in which a heated part cools by e
STEPS = 20  # in which volts are counted when they move a part's truth
SECONDS = Range("Time", 0.0, 1e7, "s")
PERCENT = Range("Share of the supply", 0.0, 130.0, "%")
CELSIUS = Range("Temperature", -25.0, 105.0, "°C")


class Limiter(NamedTuple):
    """What stands in the supply: ohms of its own, or a lamp by its rated volts and watts."""

    ohm: float = 0.0
    lamp_v: float = 0.0
    lamp_w: float = 0.0

    def resistance(self, ampere: float) -> float:
        """I = I_n·(V/V_n)^0.55, so R = (V_n/I_n)·(I/I_n)^(1/0.55 − 1); a twelfth of hot when cold."""
        if not self.lamp_w:
            return self.ohm
        rated = self.lamp_w / self.lamp_v
        share = min(max(math.pow(ampere / rated, 1 / 0.55 - 1), 1 / 12), 2.0)
        return self.ohm + self.lamp_v / rated * share


@dataclass(frozen=True)
class Happened:
    """What an action did: volts before, joules through it, its highest current, I²t; what died, what was noticed."""

    what: str
    volts: float = 0.0
    joules: float = 0.0
    peak_a: float = 0.0
    i2t_a2s: float = 0.0
    died: tuple[str, ...] = ()
    noticed: tuple[str, ...] = ()
    flow: Flow = field(default_factory=Flow)


class SimulatedSet:
    """One set with its truth; every action goes on from where the last one left it."""

    def __init__(self, drawing: Drawing, seed: int = 0, faults: tuple[Fault, ...] = (), *, quick: bool = False) -> None:
        self.drawing, self.faults = drawing, faults
        self.chance = random.Random(seed)  # noqa: S311 # chance, not secrecy
        self.capacitors = {part.name: part for part in drawing.capacitors}
        self.pieces = {part.name: part for part in drawing.pieces}
        self.lifted: set[str] = set()
        self.shorts: set[tuple[str, str]] = set()
        self.attached: dict[str, Element] = {}  # tools, meters, hands
        self.touching = {name for name, part in self.capacitors.items() if part.joint in ("sound", "crackles")}
        self.percent = 0.0
        self.limiter = Limiter()
        self.limiter_ohm = 0.0
        self.network = Network(quick=quick)
        self._sync()
        for name, part in self.capacitors.items():
            if part.joint in ("open", "remakes"):  # the joint went while it was charged: nothing outside tells
                for element in self.store_names(name):
                    volts = self.chance.uniform(0.0, HIDDEN) * part.rated_v
                    self.network.held[element] = tuple(volts for _ in self.network.held[element])

    @property
    def on(self) -> bool:
        """Whether the plug is in."""
        return self.percent > 0

    @property
    def second(self) -> float:
        """Its own time."""
        return self.network.second

    # What it is now

    def store_names(self, name: str) -> tuple[str, ...]:
        """The elements of a capacitor's sections."""
        count = len(self.capacitors[name].sections)
        return (name,) if count == 1 else tuple(f"{name}.{k + 1}" for k in range(count))

    def terminals(self, name: str, k: int = 0) -> tuple[str, str]:
        """Where the section of a capacitor, or another part, ends now: on its own when it is lifted."""
        if name in self.pieces:
            return self.pieces[name].a, self.pieces[name].b
        a, b = self._part(name).terminals[k]
        return (f"{name}.{k + 1} lifted" if name in self.lifted else a, b)

    def _part(self, name: str) -> Capacitor:
        if name not in self.capacitors:
            raise InputError("part", f"There is no capacitor {name} in this set.")
        return self.capacitors[name]

    def elements(self) -> dict[str, Element]:
        """The whole circuit as it stands."""
        drawing, found = self.drawing, dict[str, Element]()
        for name, part in self.capacitors.items():
            found |= self._stores(name, part)
        for piece in self.pieces.values():
            found |= piece.elements()
        found |= drawing.fixed
        for governor in drawing.governors:
            found |= governor.elements(self.pieces)
        open_ = {name for name, piece in self.pieces.items() if piece.fault == "open"}
        for feed in drawing.feeds:
            on = (self.on or feed.by_itself) and not open_ & set(feed.through)
            volts = drawing.supply_v * (1.0 if feed.by_itself else self.percent / 100)
            source = feed.source(volts, drawing.hertz, on=on)
            if source is not None:
                limited = self.limiter_ohm * drawing.reflected**-2 if feed.name == drawing.supply else 0.0
                found[feed.name] = replace(source, ohm=source.ohm + limited)
        if self.on:
            found["neutral"] = Resistor(drawing.neutral, EARTH, EARTH_OHM)
            if drawing.protection == "I":
                found["earth"] = Resistor(CHASSIS, EARTH, EARTH_OHM)
        for a, b in sorted(self.shorts):  # in one order, whatever the process: what is solved is rounded by it
            found[f"short {a} {b}"] = Resistor(a, b, SHORT_OHM)
        if self.network.quick:  # what rings faster than it is looked at
            small = {name: part for name, part in found.items() if isinstance(part, Coil) and part.henry < RINGS_H}
            found |= {name: Resistor(part.a, part.b, part.ohm) for name, part in small.items()}
        return found | self.attached

    def _stores(self, name: str, part: Capacitor) -> dict[str, Element]:
        found: dict[str, Element] = {}
        for k, element in enumerate(self.store_names(name)):
            a, b = self.terminals(name, k)
            held = self.network.held.get(element, (0.0,))[0]
            share = min(round(abs(held) / part.rated_v * STEPS) / STEPS, 1.5)
            store = part.store(k, a, b, share * part.rated_v)
            apart = 0.0 if name in self.touching else OPEN_OHM
            found[element] = replace(store, esr_ohm=store.esr_ohm + apart)
        if part.bleeder_ohm is not None:
            found[f"{name}.bleeder"] = Resistor(*self.terminals(name), part.bleeder_ohm)
        return found

    def _sync(self) -> None:
        """Make the network what the set is now; what holds charge keeps it, also where its capacitance changed."""
        wanted, network = self.elements(), self.network
        network.take(*[name for name in network.parts if name not in wanted]) if network.parts.keys() - wanted.keys() else None
        for name, element in wanted.items():
            before = network.parts.get(name)
            if before == element:
                continue
            if isinstance(element, Store) and isinstance(before, Store) and before.farad != element.farad:
                share = before.farad / element.farad
                network.held[name] = tuple(value * share for value in network.held[name])
            network.put(name, element)

    def volts(self, a: str, b: str) -> float:
        """What stands between two nodes at this instant, before any meter is laid on."""
        network = self.network
        layout = network.resting
        conducting = network.conducting & frozenset(layout.diodes)
        z = layout.vector(network.held, network.second)
        return sum(x * y for x, y in zip(layout.mode(conducting).across(a, b), z, strict=True))

    def held(self, name: str, k: int = 0) -> float:
        """Volts on a section of a capacitor, in truth, whatever its joint lets through."""
        return self.network.held[self.store_names(name)[k]][0]

    def check_nodes(self, *nodes: str) -> None:
        """InputError for a place where nothing is to lay anything on."""
        there = self.network.resting.nodes
        for node in nodes:
            if node not in there and node != EARTH:
                raise InputError("node", f"There is nothing to lay a lead on: {node}.")

    # What is done to it

    def plug(self, percent: float = 100.0, limiter: Limiter | None = None) -> Happened:
        """Plug it in, at a share of its supply and through a limiter, at the phase its time is at; a first half cycle goes by."""
        self.percent = PERCENT.check("percent", percent)
        self.limiter = limiter or Limiter()
        self.limiter_ohm = self.limiter.resistance(0.0)
        return self._go(PLUGGED, FIRST_S)

    def unplug(self, degrees: float | None = None) -> Happened:
        """Pull the plug, at a phase of the mains or where its chance takes it."""
        if not self.on:
            return Happened("was not plugged in")
        turn = self.chance.random() if degrees is None else degrees / 360 % 1
        cycle = 1 / self.drawing.hertz
        rest = (turn * cycle - math.fmod(self.second, cycle)) % cycle
        went = follow(self.network, rest) if rest > 0 else Flow()
        self.percent = 0.0
        self._sync()
        return Happened("unplugged", flow=went)

    def wait(self, seconds: float) -> Happened:
        """Let time go by, plugged in or not."""
        return self._go("waited", SECONDS.check("seconds", seconds))

    def soak(self) -> Happened:
        """As if it had been on for hours: every dielectric has taken up what it does at the mean of its volts."""
        stores = [
            (element, self.terminals(name, k)) for name in self.capacitors for k, element in enumerate(self.store_names(name))
        ]
        pairs = tuple(dict.fromkeys(pair for _, pair in stores))
        flow = self.ahead(between=pairs)
        for element, pair in stores:
            held, mean = self.network.held[element], flow.mean(pairs.index(pair))
            self.network.held[element] = (held[0], *(mean for _ in held[1:]))
        return Happened("soaked")

    def join(self, a: str, b: str, ohm: float, seconds: float, *, called: str = "tool") -> Happened:
        """A resistance between two nodes for a time: a discharge tool, a load, a hand, a blade."""
        RESISTANCE.check("ohm", ohm)
        self.check_nodes(a, b)
        volts = self.volts(a, b)
        self.attached[called] = Resistor(a, b, ohm)
        done = self._go(called, SECONDS.check("seconds", seconds), called)
        self.detach(called)
        return replace(done, volts=volts)

    def touch(self, a: str, b: str) -> Happened:
        """A hand on each of two nodes, until they let go."""
        return self.join(a, b, BODY_OHM, TOUCHED_S, called="body")

    def bridge(self, a: str, b: str) -> Happened:
        """A blade across two nodes."""
        return self.join(a, b, BLADE_OHM, STRUCK_S, called="blade")

    def short(self, a: str, b: str) -> Happened:
        """A link across two nodes that stays."""
        self.check_nodes(a, b)
        volts = self.volts(a, b)
        self.shorts.add((a, b))
        done = self._go("shorted", STRUCK_S, f"short {a} {b}")
        return replace(done, volts=volts)

    def unshort(self, a: str, b: str) -> Happened:
        """Take a link off."""
        self.shorts -= {(a, b), (b, a)}
        self._sync()
        return Happened("link off")

    def lift(self, name: str) -> Happened:
        """One lead of a capacitor off its board."""
        self._part(name)
        self.lifted.add(name)
        noticed = self._handled(name)
        self._sync()
        return Happened(f"{name} lifted", noticed=noticed)

    def lay_back(self, name: str) -> Happened:
        """Its lead back where it was."""
        self._part(name)
        self.lifted.discard(name)
        noticed = self._handled(name)
        self._sync()
        return Happened(f"{name} laid back", noticed=noticed)

    def fit(self, part: Capacitor | Piece) -> Happened:
        """Another part in the place of one, empty; its name says which."""
        if isinstance(part, Piece):
            if part.name not in self.pieces:
                raise InputError("part", f"There is no {part.name} in this set.")
            self.pieces[part.name] = part
        else:
            old = self._part(part.name)
            for element in self.store_names(part.name):
                self.network.take(element)
            self.capacitors[part.name] = replace(part, terminals=old.terminals)
            self.lifted.discard(part.name)
            self.touching.add(part.name)
        self._sync()
        return Happened(f"{part.name} fitted")

    def heat(self, name: str, celsius: float) -> Happened:
        """Warm a part, or chill it; what holds charge keeps its charge. It cools as time goes by."""
        CELSIUS.check("celsius", celsius)
        self.capacitors[name] = replace(self._part(name), celsius=celsius)
        noticed: tuple[str, ...] = ()
        if self.capacitors[name].joint == "remakes" and celsius >= REMAKES_C:
            self.touching.add(name)
            noticed = (f"{name} ticks",)
        self._sync()
        return Happened(f"{name} at {celsius:g} °C", noticed=noticed)

    def knock(self) -> Happened:
        """A knock on the set: joints that remake may touch, those that crackle may part."""
        noticed = tuple(said for name in self.capacitors for said in self._handled(name))
        self._sync()
        return Happened("knocked", noticed=noticed)

    def _handled(self, name: str) -> tuple[str, ...]:
        part = self.capacitors[name]
        if part.joint not in ("remakes", "crackles") or self.chance.random() < 0.5:
            return ()
        self.touching ^= {name}
        return (f"{name} crackles",)

    # How it goes on

    def _watched(self, called: str, *, frail: bool) -> Watched:
        drawing, quick = self.drawing, self.network.quick
        melts = [name for name, piece in self.pieces.items() if frail and (piece.stands_i2t or piece.stands_j)]
        if not called and not self.on:
            return NOTHING
        pairs = [pair for governor in drawing.governors for pair in governor.watches]
        tool = (called,) if called and called in self.network.parts else ()
        return Watched(
            through=(*tool, *melts), between=tuple(dict.fromkeys(pairs)), closely=bool(tool) and not quick, coarsely=quick
        )

    def _go(self, what: str, seconds: float, called: str = "") -> Happened:
        """Time goes by in windows: between them governors act, parts warm, form and die."""
        quick = self.network.quick
        grows = 2.0 if not quick else QUICKLY_GROWS if self.drawing.governors else math.inf
        left, window_s = seconds, RESTS_S if not self.on else WINDOWS_S if quick and what != PLUGGED else FIRST_S
        peak = joules = i2t = 0.0
        died: list[str] = []
        total = Flow()
        self._sync()
        while left > 1e-12:
            length = min(left, window_s) if self.on or self.drawing.governors else left
            length = left if quick and not self.on and window_s > QUICKLY_RESTS_S else length
            watched = self._watched(called, frail=not self.network.quick or window_s < QUICKLY_S)
            before, start = self.network.second, self.aside() if what == PLUGGED or self.network.quick else None
            flow = follow(self.network, length, watched)
            if start and self._melting(watched, flow):  # the first rush may last less than a microsecond: count it closely
                start.quick = False
                flow = follow(start, length, watched._replace(closely=True, coarsely=False))
            if called and called in watched.through:
                ohm = getattr(self.network.parts[called], "ohm", 0.0)
                peak = max(peak, flow.peak(0))
                i2t += flow.integral_of_square(0)
                joules += ohm * flow.integral_of_square(0)
            died += self._dies(watched, flow)
            self._govern(watched, flow)
            self._age(self.network.second - before)
            total.seconds += flow.seconds
            left -= length
            window_s = max(WINDOWS_S, grows * window_s)
            self._sync()
        return Happened(what, joules=joules, peak_a=peak, i2t_a2s=i2t, died=tuple(died), flow=total)

    def _govern(self, watched: Watched, flow: Flow) -> None:
        first = len(watched.through)
        means = {pair: flow.mean(first + k) for k, pair in enumerate(watched.between)}
        rms = {pair: flow.rms(first + k) for k, pair in enumerate(watched.between)}
        for governor in self.drawing.governors:
            for pair in governor.watches:  # without a sine nothing is integrated: what stands there is its mean
                if pair not in means:
                    means[pair] = rms[pair] = self.volts(*pair)
            governor.after(Window(flow.seconds, self.on, self.percent, means, rms, self.network.parts))
        if self.on and self.limiter.lamp_w:
            wanted = self.limiter.resistance(self.supply_current())
            self.limiter_ohm = math.sqrt(self.limiter_ohm * wanted)  # halfway: a lamp is slow, and would swing otherwise

    def supply_current(self) -> float:
        """Amperes (rms) it takes out of the mains, over a cycle from here; nothing is changed."""
        supply, heaters = self.cycle((self.drawing.supply, HEATERS)) if self.on else (0.0, 0.0)
        return supply * self.drawing.reflected + heaters

    def cycle(self, through: Iterable[str] = (), between: Iterable[tuple[str, str]] = ()) -> list[float]:
        """RMS of currents, then of voltages, over the next cycle; 0 for what is not there."""
        names, pairs = tuple(through), tuple(between)
        there = tuple(name for name in names if name in self.network.parts)
        flow = self.ahead(there, pairs)
        told = dict(zip((*there, *pairs), range(len(there) + len(pairs)), strict=True))
        return [flow.rms(told[key]) if key in told else 0.0 for key in (*names, *pairs)]

    def ahead(self, through: tuple[str, ...] = (), between: tuple[tuple[str, str], ...] = ()) -> Flow:
        """What the next cycle would bring: followed on a copy, nothing is changed."""
        return follow(self.aside(), 1 / self.drawing.hertz, Watched(through=through, between=between))

    def aside(self) -> Network:
        """A copy of the circuit as it stands."""
        network = self.network
        return Network(dict(network.parts), dict(network.held), network.second, network.conducting, network.quick)

    def adopt(self, other: Network, *without: str) -> None:
        """Go on from a copy that something was done to, less what was laid on it."""
        other.take(*without)
        self.network = other
        self._sync()

    def detach(self, called: str) -> None:
        """Take off a tool or a meter."""
        self.attached.pop(called, None)
        self._sync()

    def probed(self, *nodes: str) -> None:
        """Leads are laid on: a joint that crackles may part or touch."""
        for name, part in self.capacitors.items():
            ends = {node for k in range(len(part.sections)) for node in self.terminals(name, k)}
            if part.joint == "crackles" and ends & set(nodes):
                self._handled(name)
        self._sync()

    def _melting(self, watched: Watched, flow: Flow) -> list[str]:
        """Fuses, resistors and rectifiers that went beyond their I²t of a surge, or as much each half cycle."""
        beyond = []
        for k, name in enumerate(watched.through):
            piece = self.pieces.get(name)
            if piece is None or piece.fault:
                continue
            if piece.stands_i2t is not None:
                stands = piece.stands_i2t * max(1.0, flow.seconds / FIRST_S)
            else:
                stands = (piece.stands_j or math.inf) / piece.value * max(1.0, flow.seconds / PULSE_S)
            if flow.integral_of_square(k) > stands:
                beyond.append(name)
        return beyond

    def _dies(self, watched: Watched, flow: Flow) -> list[str]:
        """What melted is open, a rectifier shorted; capacitors break down by volts."""
        died = self._melting(watched, flow)
        for name in died:
            piece = self.pieces[name]
            self.pieces[name] = replace(piece, fault="shorted" if piece.kind is PieceKind.DIODE else "open")
        for name, part in self.capacitors.items():
            for k in range(len(part.sections)):
                volts = self.held(name, k)
                wrong = part.material == "electrolytic" and not part.ac and volts < -REVERSED_V
                if (abs(volts) > OVER * part.rated_v * (math.sqrt(2) if part.ac else 1) or wrong) and not self._broken(name, k):
                    sections = list(part.sections)
                    sections[k] = replace(sections[k], leak_ohm=BROKEN_OHM)
                    self.capacitors[name] = replace(part, sections=tuple(sections))
                    died.append(name)
        return died

    def _broken(self, name: str, k: int) -> bool:
        return self.capacitors[name].sections[k].leak_ohm <= BROKEN_OHM

    def _age(self, seconds: float) -> None:
        """Warm parts cool, those that have lain form at their volts."""
        for name, part in self.capacitors.items():
            if part.unformed > 1:
                part = part.formed(seconds, self.held(name))
            if part.celsius != ROOM_C:
                now = ROOM_C + (part.celsius - ROOM_C) * math.exp(-seconds / WARM_S)
                part = replace(part, celsius=round(now, 1))
            self.capacitors[name] = part
