"""Putting the pieces of a marking together: what belongs to what, what was assumed, what has two readings."""

import datetime
import itertools
from collections.abc import Mapping
from dataclasses import dataclass, field, replace

from dusky_heron.core.errors import InputError
from dusky_heron.core.markings import dates, values
from dusky_heron.core.markings.model import (
    Climate,
    DateCandidate,
    Duty,
    Marking,
    Option,
    SafetyClass,
    Section,
    Token,
    Tolerance,
)
from dusky_heron.core.markings.pieces import Piece, number
from dusky_heron.core.markings.ratings import MOTOR, WORDS, Volts
from dusky_heron.core.markings.values import MICRO, PICO, Printed, scaled
from dusky_heron.core.quantities import show, show_range

SMALLEST_F, LARGEST_F = 0.01e-12, 10.0
MAINS_CODE = range(100, 1001)  # V: a bare figure beside a safety class
LOW_CAN_V = 100.0  # V: bare round figures beside no more than this are an electrolytic's microfarads
MODERN_CAN_MILLI = 50.0  # mF: above this the figures can only be microfarads
Choices = Mapping[str, str]


@dataclass(slots=True)
class Draft:
    """A marking while it is put together. `open_questions` names what has a second plausible answer."""

    text: str
    pieces: list[Piece]
    choices: Choices
    meanings: dict[int, str] = field(default_factory=dict)
    assumptions: list[str] = field(default_factory=list)
    open_questions: dict[str, tuple[str, ...]] = field(default_factory=dict)
    capacitances: list[float] = field(default_factory=list)
    printed_range: tuple[float, float] | None = None
    tolerance: Tolerance | None = None
    ac: list[float] = field(default_factory=list)
    dc: list[float] = field(default_factory=list)
    classes: tuple[SafetyClass, ...] = ()
    settled: dict[int, tuple[Piece, str]] = field(default_factory=dict)

    def of(self, *kinds: str) -> list[Piece]:
        """The pieces of these kinds, in order."""
        return [p for p in self.pieces if p.kind in kinds]

    def words(self) -> set[str]:
        """What the known words of the marking mean."""
        return {WORDS.get(w.value.lower(), w.value) for w in self.of("word")}

    @property
    def motor(self) -> bool:
        """Whether anything printed belongs to motor parts."""
        printed = self.of("operating_class", "protection", "fault_current")
        return bool(printed or self.printed_range or self.words() & {"motor run", "motor start"})

    def choose(self, question: str, likeliest: str, *others: str) -> str:
        """Answer an ambiguity with the likeliest, or with what was asked for; the others are offered."""
        self.open_questions[question] = (likeliest, *others)
        return self.choices.get(question, likeliest)

    def settle(self, question: str, piece: Piece, plainly: str) -> None:
        """Note how a piece is typed plainly, when its question was answered and not only guessed."""
        if question in self.choices:
            self.settled[piece.start] = (piece, plainly)

    def option(self) -> tuple[Option, ...]:
        """The answer that was given, in words and as the whole text typed plainly; none when nothing was asked."""
        text = self.text
        for piece, plainly in sorted(self.settled.values(), key=lambda s: -s[0].start):
            text = f"{text[: piece.start]} {plainly} {text[piece.end :]}"
        says = ", ".join(plainly for _, plainly in self.settled.values())
        return (Option(says, " ".join(text.split())),) if says else ()


def assemble(
    text: str, pieces: list[Piece], today: datetime.date | None, choices: Choices
) -> tuple[Marking, dict[str, tuple[str, ...]]]:
    """Make a Marking of the pieces; also return the questions that have more than one plausible answer."""
    draft = Draft(text, pieces, choices)
    _capacitance(draft)
    _voltages(draft)
    _safety_classes(draft)
    duty = _duty(draft)
    found_dates = _dates(draft, today)
    climate = _single(draft, "climate")
    if isinstance(climate, Climate):
        damp = f", {climate.damp_heat_days} days damp heat" if climate.damp_heat_days else ""
        span = f"up to {climate.upper_c:g} °C" if climate.lower_c is None else f"{climate.lower_c:g} to {climate.upper_c:g} °C"
        _mean(draft, draft.of("climate")[0], f"{span}{damp}".replace("-", "−"))
    for piece in draft.of("frequency"):
        _mean(draft, piece, "supply frequency")
    for piece in draft.of("word", "label", "standard"):
        _mean(draft, piece, piece.value)
    return _finish(draft, duty, found_dates, climate if isinstance(climate, Climate) else None), draft.open_questions


def _mean(draft: Draft, piece: Piece, meaning: str) -> None:
    draft.meanings[piece.start] = meaning


def _single(draft: Draft, kind: str) -> object:
    found = draft.of(kind)
    return found[0].value if found else None


def _capacitance(draft: Draft) -> None:
    printed = draft.of("capacitance")
    if printed:
        _printed_capacitance(draft, printed)
    else:
        _bare_capacitance(draft)
    if not draft.capacitances:
        raise InputError("marking", "No capacitance found: type the value with its unit, such as 16 µF or 680n.")
    for value in draft.capacitances:
        if not SMALLEST_F <= value <= LARGEST_F:
            raise InputError("marking", f"{show(value, 'F')} is not a capacitance of this trade (0.01 pF to 10 F).")
    _tolerance(draft)


def _printed_capacitance(draft: Draft, printed: list[Piece]) -> None:
    joined = [printed[0]]
    for left, right in itertools.pairwise(printed):
        if joined[-1] is not left or not _joined(draft, left, right):
            break
        joined.append(right)
    factor = _ambiguous_scale(draft, printed[0].value)
    question = printed[0].value.notation
    for piece in joined:
        first: Printed = piece.value
        draft.settle(question, piece, _plainly([value * factor for value in first.values], first.low_high, factor))
        draft.capacitances += [value * factor for value in first.values]
        if first.low_high:
            draft.printed_range = (first.low_high[0] * factor, first.low_high[1] * factor)
        _mean(draft, piece, _say_capacitance(draft, [v * factor for v in first.values]))


def _joined(draft: Draft, left: Piece, right: Piece) -> bool:
    """Whether only a plus or a stroke stands between two values, besides what belongs to the first of them."""
    between = draft.text[left.end : right.start]
    for piece in draft.of("classes", "voltage", "letter", "tolerance"):
        if left.end <= piece.start < right.start:
            between = between.replace(draft.text[piece.start : piece.end], "")
    return between.strip() in ("+", "/")


def _plainly(farads: list[float], low_high: tuple[float, float] | None = None, factor: float = 1.0) -> str:
    """Capacitances as text that can be read one way only."""
    if low_high:
        return f"{low_high[0] * factor * 1e6:.10g}-{low_high[1] * factor * 1e6:.10g} µF"
    unit, scale = ("µF", 1e6) if max(farads) >= 1e-7 else ("pF", 1e12)
    return "+".join(f"{value * scale:.10g}" for value in farads) + f" {unit}"


def _ambiguous_scale(draft: Draft, first: Printed) -> float:
    """What the figures are to be multiplied by, as printed in microfarads."""
    if first.notation == "MF":
        draft.assumptions.append("MF and MFD are taken as microfarad, as the trade prints them.")
    if first.notation == "R":
        small = "ceramic" in draft.words() or any("Y" in name for p in draft.of("classes") for name in p.value)
        order = ("pF", "µF") if small else ("µF", "pF")
        return 1.0 if draft.choose("R", *order) == "µF" else 1e-6
    if first.notation != "mF":
        return 1.0
    ac = any(v.kind == "ac" for v in (p.value for p in draft.of("voltage")))
    old = ac or draft.motor or first.values[0] * 1e6 > MODERN_CAN_MILLI
    order = ("microfarad", "millifarad") if old else ("millifarad", "microfarad")
    chosen = draft.choose("mF", *order)
    draft.assumptions.append(f"mF is read as {chosen}; energy is planned with the larger until one is chosen.")
    return 1000.0 if chosen == "millifarad" else 1.0


def _say_capacitance(draft: Draft, found: list[float]) -> str:
    if draft.printed_range:
        return f"{show_range(*draft.printed_range, 'F')}, printed range"
    return " + ".join(show(value, "F") for value in found)


def _bare_capacitance(draft: Draft) -> None:
    for piece in draft.of("bare"):
        value = _bare_value(draft, piece)
        if value is not None:
            draft.capacitances = [value]
            draft.pieces[draft.pieces.index(piece)] = replace(piece, kind="capacitance")
            _mean(draft, piece, show(value, "F"))
            return


def _bare_value(draft: Draft, piece: Piece) -> float | None:
    """What figures without a unit stand for, by what else is printed."""
    text: str = piece.value
    if number(text) == 0:
        return None
    if text.isdigit() and len(text) > 3:
        return _bare_thousands(draft, text)
    if not text.isdigit():
        draft.assumptions.append(f"{text} without a unit is taken as microfarad.")
        return scaled(text, MICRO)
    polarised = "polarised" in draft.words()
    if draft.motor or polarised:
        draft.assumptions.append(
            f"{text} without a unit is taken as microfarad, as on {'motor' if draft.motor else 'polarised'} cans."
        )
        return scaled(text, MICRO)
    code = _three_figures(text)
    if code is None:
        draft.assumptions.append(f"{text} without a unit is taken as picofarad, as on ceramics.")
        return scaled(text, PICO)
    if draft.of("classes") or any(piece.value.from_code for piece in draft.of("voltage")):
        return code
    order = ("microfarad", "pF code") if _low_voltage_can(draft, text) else ("pF code", "microfarad")
    answer = draft.choose("code", *order)
    draft.assumptions.append(f"{text} is read as {'a ' if answer == 'pF code' else ''}{answer}.")
    value = code if answer == "pF code" else scaled(text, MICRO)
    draft.settle("code", piece, _plainly([value]))
    return value


def _bare_thousands(draft: Draft, text: str) -> float | None:
    """Four figures and more are microfarads on a can that prints its volts; otherwise they are no capacitance."""
    dc = [p for p in draft.of("voltage") if p.value.kind != "ac"]
    if len(text) > 6 or draft.of("classes") or not (dc or "polarised" in draft.words()):
        return None
    draft.assumptions.append(f"{text} without a unit is taken as microfarad, as on polarised cans.")
    return scaled(text, MICRO)


def _low_voltage_can(draft: Draft, text: str) -> bool:
    """Round figures beside a low direct voltage: an electrolytic in microfarads rather than a ceramic in picofarads."""
    volts = [v for p in draft.of("voltage") if p.value.kind != "ac" for v in p.value.values]
    return bool(volts) and max(volts) <= LOW_CAN_V and text.endswith("0") and "ceramic" not in draft.words()


def _three_figures(text: str) -> float | None:
    """The three-figure code of IEC 60062 in farads; a third figure of 8 or 9 is ×0.01 or ×0.1."""
    if len(text) != 3 or text[2] == "7":
        return None
    power = {"8": -2, "9": -1}.get(text[2], int(text[2]))
    return scaled(text[:2], PICO + power)


def _tolerance(draft: Draft) -> None:
    for piece in draft.of("tolerance", "letter"):
        said = values.tolerance_of(piece.value, draft.capacitances[0]) if piece.kind == "letter" else piece.value
        if draft.tolerance not in (None, said):
            continue  # a second one that differs is shown as not read
        draft.tolerance = said
        low, high = draft.tolerance.minus * 100, draft.tolerance.plus * 100
        _mean(draft, piece, f"±{high:.3g} %" if abs(low + high) < 1e-9 else f"−{-low:.3g} to +{high:.3g} %")


def _voltages(draft: Draft) -> None:
    for piece in draft.of("voltage"):
        volts: Volts = piece.value
        kind = volts.kind or _kind_of_volts(draft)
        if volts.glued:
            draft.assumptions.append(
                f"{volts.values[0]:g} behind the tolerance is taken as volts{f' {kind.upper()}' if kind else ''}."
            )
        if volts.kind is None and kind:
            rated = "/".join(f"{v:g}" for v in volts.values)
            draft.settle("volts", piece, f"{rated} V{kind.upper()}")
        (draft.ac if kind == "ac" else draft.dc if kind == "dc" else []).extend(volts.values)
        meaning = {"ac": "V AC", "dc": "V DC"}.get(kind or "", "V, AC or DC not printed")
        _mean(draft, piece, " or ".join(f"{v:g}" for v in volts.values) + f" {meaning}")
    if draft.of("classes") and not draft.ac:
        for piece in draft.of("bare"):
            if piece.value.isdigit() and int(piece.value) in MAINS_CODE:
                draft.ac.append(float(piece.value))
                draft.pieces[draft.pieces.index(piece)] = replace(piece, kind="voltage", value=Volts((float(piece.value),), "ac"))
                draft.assumptions.append(f"{piece.value} beside a safety class is taken as volts AC.")
                _mean(draft, piece, f"{piece.value} V AC")
                break


def _kind_of_volts(draft: Draft) -> str | None:
    """AC or DC where only V is printed; None where it cannot be told and has to be asked."""
    if draft.of("classes") or draft.motor:
        return "ac"
    if "polarised" in draft.words():
        return "dc"
    total = sum(draft.capacitances)
    if total > 100e-6:
        draft.assumptions.append("V without a sign is taken as DC, as on a polarised can.")
        return "dc"
    if total >= 1e-6:
        kind = draft.choose("volts", "DC", "AC")
        draft.assumptions.append(f"V without a sign is taken as {kind}: a polarised can is DC, a motor part AC.")
        return kind.lower()
    kind = draft.choose("volts", "unknown", "AC", "DC")
    if kind == "unknown":
        draft.assumptions.append("V without a sign on a film part: AC or DC is not known. Choose one.")
        return None
    return kind.lower()


def _safety_classes(draft: Draft) -> None:
    printed = draft.of("classes")
    rated = [p for p in draft.of("voltage") if p.value.kind != "dc"]
    volts_first = bool(rated and printed and rated[0].start < printed[0].start)
    found: dict[str, SafetyClass] = {}
    for index, piece in enumerate(printed):
        own: float | None = None
        if len(printed) > 1 and len(rated) == len(printed):
            own = min(rated[index].value.values)
        elif draft.ac and len(printed) == 1 and not volts_first and len(rated) > 1:
            following = [r for r in rated if r.start > piece.start]
            own = min(following[0].value.values) if following else min(draft.ac)
        elif draft.ac:
            own = min(draft.ac)
        for name in piece.value:
            found[name] = SafetyClass(name, own)
        _mean(draft, piece, "class " + " and ".join(piece.value))
    draft.classes = tuple(found.values())


def _duty(draft: Draft) -> Duty | None:
    classes = draft.of("operating_class")
    protection = _single(draft, "protection")
    current = _single(draft, "fault_current")
    for piece in draft.of("protection"):
        _mean(draft, piece, f"{piece.value}: {MOTOR['protection_means'][piece.value]}")
    for piece in draft.of("fault_current"):
        _mean(draft, piece, f"protected up to {piece.value:g} A fault current")
    pairs: list[tuple[str, float]] = []
    volts = draft.of("voltage")
    after = bool(classes and volts and volts[0].start > classes[0].start)
    for piece in classes:
        hours = MOTOR["operating_class_hours"][piece.value]
        _mean(draft, piece, f"operating class {piece.value}, {hours} h")
        beside = [v for v in volts if (v.start > piece.start) == after]
        nearest = min(beside, key=lambda v: abs(v.start - piece.start), default=None)
        if nearest:
            pairs += [(piece.value, rating) for rating in nearest.value.values]
    if not (classes or protection or current):
        return None
    return Duty(tuple(pairs), str(protection) if protection else None, float(str(current)) if current else None)


def _dates(draft: Draft, today: datetime.date | None) -> tuple[DateCandidate, ...]:
    for piece in draft.of("date_pair"):
        pair = dates.letter_pair(piece.value, today)
        if pair:
            _mean(draft, piece, pair[0].said)
            return pair
    for piece in draft.of("bare"):
        if piece.value.isdigit() and len(piece.value) in (3, 4):
            found = dates.figures(piece.value, today)
            if found:
                draft.pieces[draft.pieces.index(piece)] = replace(piece, kind="date")
                _mean(draft, piece, found[0].said)
                return found
    return ()


def _finish(draft: Draft, duty: Duty | None, found_dates: tuple[DateCandidate, ...], climate: Climate | None) -> Marking:
    sections = _sections(draft)
    for piece in draft.of("resistor"):
        _mean(draft, piece, f"{show(piece.value, 'Ω')} in series")
    known = [p for p in draft.pieces if p.start in draft.meanings]
    unread = [draft.text[p.start : p.end].strip() for p in draft.pieces if p.start not in draft.meanings and p.kind != "plus"]
    return Marking(
        text=draft.text,
        sections=sections,
        tolerance=draft.tolerance,
        rated_ac_v=min(draft.ac, default=None),
        rated_dc_v=min(draft.dc, default=None),
        ac_ratings=tuple(draft.ac),
        classes=draft.classes,
        climate=climate,
        dates=found_dates,
        duty=duty,
        printed_range=draft.printed_range is not None,
        series_ohm=next((piece.value for piece in draft.of("resistor")), None),
        tokens=tuple(Token(draft.text[p.start : p.end].strip(), draft.meanings[p.start]) for p in known),
        assumptions=tuple(draft.assumptions),
        unread=" ".join(unread),
        options=draft.option(),
    )


def _sections(draft: Draft) -> tuple[Section, ...]:
    """Each section with its limits and classes: in a network the largest is the X, the others are the Y."""
    x = tuple(c for c in draft.classes if not c.name.is_y)
    y = tuple(c for c in draft.classes if c.name.is_y)
    network = bool(x and y and len(draft.capacitances) > 1)
    largest = draft.capacitances.index(max(draft.capacitances))
    return tuple(
        _section(draft, value, (x if index == largest else y) if network else draft.classes)
        for index, value in enumerate(draft.capacitances)
    )


def _section(draft: Draft, value: float, classes: tuple[SafetyClass, ...]) -> Section:
    if draft.printed_range:
        return Section(value, *draft.printed_range, classes=classes)
    if draft.tolerance:
        return Section(value, value * (1 + draft.tolerance.minus), value * (1 + draft.tolerance.plus), classes)
    return Section(value, classes=classes)
