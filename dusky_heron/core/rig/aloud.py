"""A simulated set read aloud, and played: what it is, what is wrong with it, what each meter would show; a line in, lines out."""

import shlex
from collections.abc import Callable, Iterable, Iterator

from dusky_heron.core.errors import InputError
from dusky_heron.core.model.roles import ROLE_TITLES
from dusky_heron.core.model.terms import SIGN_TITLES
from dusky_heron.core.rig.meter import UNITS, Meter, Shown, engineering, measure
from dusky_heron.core.rig.simulated import Happened, Limiter, SimulatedSet

FINEST_STEP = 1e-15
SUFFIXES = {"p": 1e-12, "n": 1e-9, "u": 1e-6, "µ": 1e-6, "m": 1e-3, "k": 1e3, "M": 1e6, "G": 1e9}
HELP = """plug [percent] [lamp WATT | ohm OHM]     unplug [degrees]      wait SECONDS
join A B OHM SECONDS     touch A B      bridge A B      short A B      unshort A B
lift PART      back PART      heat PART CELSIUS      knock
measure METER QUANTITY A B [hertz|volts]     measure METER QUANTITY PART[.SECTION] [hertz|volts]
meters      where      parts      truth      help      quit"""


def introduce(simulated: SimulatedSet) -> Iterator[str]:
    """What one is told who takes the set onto the bench: no truth yet."""
    drawing = simulated.drawing
    supply = f"{drawing.supply_v:.0f} V {drawing.hertz:g} Hz, protection class {drawing.protection}"
    yield f"{drawing.title} ({drawing.id}): {supply}"
    yield "Terminals: " + ", ".join(drawing.nodes())
    for part in simulated.capacitors.values():
        ends = " · ".join(f"{a} to {b}" for a, b in part.terminals)
        seen = "".join(f", {SIGN_TITLES[sign]}" for sign in part.seen)
        yield f"{part.name}  {ROLE_TITLES[part.role]}, {ends}: “{part.printed}”{seen}"
    for piece in simulated.pieces.values():
        yield f"{piece.name}  {piece.kind}, {piece.a} to {piece.b}"


def truth(simulated: SimulatedSet) -> Iterator[str]:
    """What is wrong with it, and what every capacitor is and holds."""
    yield "Faults: " + ("; ".join(map(str, simulated.faults)) or "none")
    for name, part in simulated.capacitors.items():
        for k, section in enumerate(part.sections):
            label = f"{name}.{k + 1}" if len(part.sections) > 1 else name
            values = (
                engineering(part.farads(k), FINEST_STEP, "F"),
                f"of {engineering(section.marked_f, FINEST_STEP, 'F')}",
                f"{part.material}, {part.years:g} years",
                f"ESR {engineering(part.esr_ohm(k), FINEST_STEP, 'Ω')}",
                f"leaks {engineering(part.leak_ohm(k), FINEST_STEP, 'Ω')}",
                f"holds {simulated.held(name, k):.1f} V",
                "" if name in simulated.touching else "joint apart",
            )
            yield f"{label}: " + _short(", ".join(value for value in values if value))


def _short(text: str) -> str:
    """Long decimals cut to what is read."""
    words = []
    for word in text.split(" "):
        whole, point, rest = word.partition(".")
        words.append(f"{whole}.{rest[:2]}" if point and rest.rstrip("V,").isdigit() else word)
    return " ".join(words)


def everywhere(simulated: SimulatedSet, meters: dict[str, Meter]) -> Iterator[str]:
    """What each meter would show on each part as it is in circuit, laid on one after the other."""
    for name, part in simulated.capacitors.items():
        for k in range(len(part.sections)):
            a, b = simulated.terminals(name, k)
            told = []
            for meter in meters.values():
                for quantity in meter.functions:
                    if quantity != "current":
                        shown = measure(simulated, meter, quantity, a, b)
                        told.append(f"{meter.id} {quantity} {said(shown)}")
            label = f"{name}.{k + 1}" if len(part.sections) > 1 else name
            yield f"{label}: " + " · ".join(told)


def said(shown: Shown) -> str:
    """A display with its conditions."""
    at = f" at {shown.hertz:g} Hz" if shown.hertz else f" at {shown.volts:g} V" if shown.volts else ""
    return shown.text + at + (" and moving" if shown.swings else "") + (": the meter has died" if shown.died else "")


class Play:
    """A set in a terminal: one line of what to do in, lines of what happened out."""

    def __init__(self, simulated: SimulatedSet, meters: dict[str, Meter]) -> None:
        self.simulated, self.meters = simulated, meters
        s = simulated
        self.verbs: dict[str, Callable[[list[str]], Iterable[str]]] = {
            "plug": lambda w: _told(s.plug(number(w[0], "percent") if w else 100.0, _limiter(w[1:]))),
            "unplug": lambda w: _told(s.unplug(number(w[0], "degrees") if w else None)),
            "wait": lambda w: _told(s.wait(number(w[0], "seconds"))),
            "join": lambda w: _told(s.join(w[0], w[1], number(w[2], "ohm"), number(w[3], "seconds"))),
            "touch": lambda w: _told(s.touch(w[0], w[1])),
            "bridge": lambda w: _told(s.bridge(w[0], w[1])),
            "short": lambda w: _told(s.short(w[0], w[1])),
            "unshort": lambda w: _told(s.unshort(w[0], w[1])),
            "lift": lambda w: _told(s.lift(w[0])),
            "back": lambda w: _told(s.lay_back(w[0])),
            "heat": lambda w: _told(s.heat(w[0], number(w[1], "celsius"))),
            "knock": lambda _: _told(s.knock()),
            "measure": self._measure,
            "meters": lambda _: self._listed(),
            "where": lambda _: [self._where()],
            "parts": lambda _: introduce(s),
            "truth": lambda _: truth(s),
            "help": lambda _: HELP.splitlines(),
        }

    def _where(self) -> str:
        s = self.simulated
        lifted = ", ".join(sorted(s.lifted)) or "none"
        return f"{'plugged in' if s.on else 'unplugged'}, at {s.second:.2f} s; lifted: {lifted}"

    def act(self, line: str) -> list[str]:
        """Do what a line says.

        :param line: a verb and its words, as `help` lists them; names with spaces in quotes
        :returns: what happened, or one sentence why nothing did
        :source: HELP
        """
        try:
            words = shlex.split(line)
        except ValueError:
            return ["A quotation mark is missing."]
        if not words:
            return []
        verb = self.verbs.get(words[0])
        if verb is None:
            return [f"Nobody here knows “{words[0]}”; help lists what can be done."]
        try:
            return list(verb(words[1:]))
        except IndexError:
            return [f"“{words[0]}” needs more words; help shows them."]
        except InputError as error:
            return [error.sentence]

    def _measure(self, words: list[str]) -> Iterator[str]:
        meter = self.meters.get(words[0])
        if meter is None:
            raise InputError("meter", f"There is no meter {words[0]}; there are {', '.join(self.meters)}.")
        name, _, section = words[2].partition(".")
        rest = words[3:]
        if words[1] == "current":
            a, b = words[2], ""
        elif name in self.simulated.capacitors or words[2] in self.simulated.pieces:
            k = int(section) - 1 if section.isdigit() else 0
            if name in self.simulated.capacitors and not 0 <= k < len(self.simulated.capacitors[name].sections):
                raise InputError("section", f"{name} has no section {section}.")
            a, b = self.simulated.terminals(words[2] if words[2] in self.simulated.pieces else name, k)
        else:
            a, b, rest = words[2], words[3], words[4:]
        setting = number(rest[0], "setting") if rest else None
        function = meter.functions.get(words[1])
        by_volts = bool(function and function.volts)
        shown = measure(
            self.simulated, meter, words[1], a, b,
            hertz=None if by_volts else setting, volts=setting if by_volts else None,
        )  # fmt: skip
        yield said(shown)

    def _listed(self) -> Iterator[str]:
        for meter in self.meters.values():
            told = ", ".join(f"{name} ({UNITS[name] or 'no unit'})" for name in meter.functions)
            yield f"{meter.id}: {meter.title}: {told}" + ("" if meter.calibrated else "; out of calibration")


def number(text: str, field: str) -> float:
    """A figure with a prefix: 4k7 is not read here, 4.7k is."""
    scale = SUFFIXES.get(text[-1:], 1.0)
    try:
        return float(text[:-1] if scale != 1.0 else text) * scale
    except ValueError:
        raise InputError(field, f"{text} is no number.") from None


def _limiter(words: list[str]) -> Limiter:
    if not words:
        return Limiter()
    if words[0] == "lamp":
        return Limiter(lamp_v=230.0, lamp_w=number(words[1], "lamp"))
    if words[0] == "ohm":
        return Limiter(ohm=number(words[1], "ohm"))
    raise InputError("limiter", "A limiter is “lamp WATT” or “ohm OHM”.")


def _told(happened: Happened) -> Iterator[str]:
    told = [happened.what]
    if happened.peak_a:
        told += [
            f"{happened.volts:.4g} V before", engineering(happened.joules, FINEST_STEP, "J"),
            f"peak {engineering(happened.peak_a, FINEST_STEP, 'A')}", f"I²t {happened.i2t_a2s:.3g} A²s",
        ]  # fmt: skip
    yield _short(", ".join(told))
    yield from (f"{name} has died" for name in happened.died)
    yield from happened.noticed
