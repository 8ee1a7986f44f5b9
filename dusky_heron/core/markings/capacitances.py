"""What the figures of a marking hold: its sections, their tolerances, and where the figures leave two readings."""

import itertools

from dusky_heron.core.errors import InputError
from dusky_heron.core.figures import readings, unmistakable
from dusky_heron.core.markings.draft import Draft, Part
from dusky_heron.core.markings.model import Tolerance
from dusky_heron.core.markings.pieces import Piece
from dusky_heron.core.markings.values import MICRO, PICO, TOLERANCES, Absolute, Printed, in_series, scaled, tolerance_of
from dusky_heron.core.quantities import show, show_range

SMALLEST_F, LARGEST_F = 0.01e-12, 10.0
LOW_CAN_V = 100.0  # V: bare round figures beside no more than this are an electrolytic's microfarads
MODERN_CAN_MILLI = 50.0  # mF: above this the figures can only be microfarads
NARROW = 1.3  # high over low: up to here a dash stands in a printed range, on what has no volts DC
WIDE_AC, WIDE_DC = 3.0, 1.6  # from here between two sections; a window with one figure misread (88 as 38) stays below the first
LEAST_TANTALUM_POWER = "4"  # of a pF code: the smallest tantalum chip has 0.1 µF, which is 104
SHORT_SERVICES = {"start", "intermittent"}
SAME = 0.002  # two values that differ by less are one, printed twice
JOINED_BY = {"+", "/", "&", "-"}
LISTED_BY = {",", ";"}


def find(draft: Draft) -> None:
    """Fill in the sections of a draft.

    :raises InputError: nothing printed is a capacitance, or one that no capacitor has
    """
    printed = draft.of("capacitance")
    if printed:
        _printed(draft, printed)
    elif draft.of("slash") and not draft.of("voltage"):
        _over_volts(draft)
    elif draft.of("reactive"):
        _of_power(draft)
    else:
        _bare(draft)
    if not draft.parts:
        raise InputError("marking", "No capacitance found: type the value with its unit, such as 16 µF or 680n.")
    for part in draft.parts:
        if not SMALLEST_F <= part.farads <= LARGEST_F:
            raise InputError("marking", f"{show(part.farads, 'F')} is not a capacitance of this trade (0.01 pF to 10 F).")


def _plainly(draft: Draft, farads: list[float]) -> str:
    """Capacitances as text that can be read one way only, in the unit that tells the kind of part."""
    unit, scale = "µF", 1e6
    if draft.pico:
        unit, scale = "pF", 1e12
    elif draft.old:
        unit = "MFD"
    elif max(farads) < 1e-7:
        unit, scale = "nF", 1e9
    return "+".join(unmistakable(value * scale) for value in farads) + f" {unit}"


def _printed(draft: Draft, printed: list[Piece]) -> None:
    kept = [printed[0]]
    for left, right in itertools.pairwise(printed):
        joint = _joint(draft, left, right)
        if joint == "same":
            draft.mean(right, "the same value again")
        elif joint == "section" or (joint == "open" and _section_or_text(draft, kept, right)):
            kept.append(right)
    for piece in kept:
        _take(draft, piece)


def _joint(draft: Draft, left: Piece, right: Piece) -> str:
    """How two printed values belong together: sections of one can, the same value twice, or not to be told."""
    between = draft.text[left.end : right.start]
    marks = set()
    at = left.end
    for piece in [p for p in draft.pieces if left.end <= p.start < right.start] + [right]:
        marks |= set(draft.text[at : piece.start].strip())
        at = piece.end
    symbols = draft.of("symbol")
    if any(left.end <= s.start < right.start for s in symbols) or marks & JOINED_BY:
        return "section"
    if abs(left.value.values[0] / right.value.values[0] - 1) < SAME and len(left.value.values) == len(right.value.values) == 1:
        return "same"
    own = any(p.kind == "voltage" and left.end <= p.start < right.start for p in draft.pieces)
    after = any(p.kind == "voltage" and p.start >= right.end for p in draft.pieces)
    return "section" if own and after and (marks & LISTED_BY or not between.strip("\n") or "\n" in between) else "open"


def _section_or_text(draft: Draft, kept: list[Piece], right: Piece) -> bool:
    answer = draft.choose(("section", 0.0), ("first", 0.5), ("second", 0.5))
    if answer == "section":
        for piece in (*kept, right):
            draft.plain("capacitance", piece, draft.slice(piece))
        draft.plain("capacitance", right, f"+ {draft.slice(right)}")
        return True
    if answer == "first":
        draft.dismiss("capacitance", right)
        return False
    for piece in kept:
        draft.dismiss("capacitance", piece)
    kept.clear()
    return True


def _take(draft: Draft, piece: Piece) -> None:
    printed: Printed = piece.value
    factor = _scale(draft, printed)
    values = [value * factor for value in printed.values]
    draft.old |= printed.old
    draft.pico |= printed.values[0] < 1e-9 or draft.slice(piece).lower().endswith("pf")
    symbols = [s for s in draft.of("symbol") if s.start < piece.start]
    low_high = _range(draft, values, told=printed.window) if printed.dashed else None
    if low_high:
        parts = [Part((low_high[0] + low_high[1]) / 2, piece, low_high)]
        text = f"{unmistakable(low_high[0] * 1e6)} to {unmistakable(low_high[1] * 1e6)} µF"
        draft.mean(piece, f"{show_range(*low_high, 'F')}, printed range")
    else:
        parts = [Part(value, piece, symbol=symbols[-1].value if symbols else "") for value in values]
        text = _plainly(draft, values)
        draft.mean(piece, " + ".join(show(value, "F") for value in values))
    draft.plainly.setdefault("capacitance", {}).setdefault(
        piece.start, ("+ " if draft.parts and _joined(draft, piece) else "") + text
    )
    draft.parts += parts


def _joined(draft: Draft, piece: Piece) -> bool:
    return draft.plainly.get("capacitance", {}).get(piece.start, "").startswith("+")


def _range(draft: Draft, values: list[float], *, told: bool) -> tuple[float, float] | None:
    """The limits of a start capacitor, or None where the dash stands between two sections; `told` when it says so.

    No start capacitor has two sections, and one figure of a window misread makes it fall or widen: then it is asked.
    """
    first, second = values
    printed = (min(values), max(values))
    ratio = round(printed[1] / printed[0], 9)
    direct = any(p.value.kind == "dc" for p in draft.of("voltage"))
    intermittent = not SHORT_SERVICES.isdisjoint(p.value for p in draft.of("service"))
    if first == second:
        return None
    if first < second and (told or (ratio <= NARROW and not direct)):
        return printed
    if told:
        return draft.choose((printed, 0.0), (None, 0.5))
    if ratio >= (WIDE_DC if direct else WIDE_AC) and not intermittent:
        return None
    if direct:
        return draft.choose((None, 0.0), (printed, 0.5)) if first < second else None
    return draft.choose((printed, 0.0), (None, 0.5)) if first < second else draft.choose((None, 0.0), (printed, 0.5))


def _scale(draft: Draft, first: Printed) -> float:
    """What the figures are to be multiplied by, as printed in microfarads."""
    if first.notation == "MF":
        draft.assumptions.append("MF and MFD are taken as microfarad, as the trade prints them.")
    if first.notation == "cm":
        draft.assumptions.append("cm is the capacitance of old sets: 1 cm is 1.11 pF.")
    if first.notation == "R":
        if draft.electrolytic or draft.motor:
            return 1.0
        small = "ceramic" in draft.materials or any("Y" in name for p in draft.of("classes") for name in p.value)
        return draft.choose((1e-6, 0.0), (1.0, 0.5)) if small else draft.choose((1.0, 0.0), (1e-6, 0.5))
    if first.notation != "mF":
        return 1.0
    alternating = any(p.value.kind == "ac" for p in draft.of("voltage"))
    old = alternating or draft.motor or first.values[0] * 1e6 > MODERN_CAN_MILLI
    chosen = draft.choose(*(((1.0, 0.0), (1000.0, 0.5)) if old else ((1000.0, 0.0), (1.0, 0.5))))
    word = "millifarad" if chosen == 1000.0 else "microfarad"
    draft.assumptions.append(f"mF is read as {word}; energy is planned with the larger until one is chosen.")
    return chosen


def _over_volts(draft: Draft) -> None:
    piece = draft.of("slash")[0]
    value, volts = (readings(text)[0] for text in piece.value)
    draft.parts = [Part(scaled(value, MICRO), piece, dc=float(volts))]
    draft.dc.append(float(volts))
    draft.polarised = True
    draft.assumptions.append(f"{draft.slice(piece)} is taken as microfarad and volts DC, as on electrolytics.")
    draft.mean(piece, f"{show(draft.parts[0].farads, 'F')}, {float(volts):g} V DC")


def _of_power(draft: Draft) -> None:
    """The total capacitance of a power-factor part from its reactive power: C = Q/(2πf·U²)."""
    piece = draft.of("reactive")[0]
    volts = [v for p in draft.of("voltage") for v in p.value.values]
    if not volts:
        raise InputError("marking", "Reactive power alone says no capacitance: type its volts, and its frequency.")
    frequency = draft.of("frequency")
    hertz = frequency[0].value if frequency else draft.choose((50.0, 0.0), (60.0, 0.5))
    farads = piece.value / (2 * 3.141592653589793 * hertz * max(volts) ** 2)
    draft.parts = [Part(farads, piece)]
    draft.assumptions.append(
        f"The capacitance is computed: C = Q/(2πf·U²) at {hertz:g} Hz and {max(volts):g} V, all of it together."
    )
    draft.mean(piece, f"{show(farads, 'F')} in all, at {hertz:g} Hz")
    draft.plain("capacitance", piece, f"{draft.slice(piece)} {hertz:g} Hz")


def _bare(draft: Draft) -> None:
    lettered = {letter.start for letter in draft.of("letter")}
    for piece in sorted(draft.of("bare"), key=lambda piece: piece.end not in lettered):
        for text in readings(piece.value)[:1]:
            value = _bare_value(draft, piece, text)
            if value is not None:
                draft.parts = [Part(value, piece)]
                draft.become(piece, Piece("capacitance", Printed((value,)), piece.start, piece.end))
                draft.mean(piece, show(value, "F"))
                draft.plain("capacitance", piece, _plainly(draft, [value]))
                return


def _bare_value(draft: Draft, piece: Piece, text: str) -> float | None:
    """What figures without a unit stand for, by what else is printed."""
    if float(text) == 0:
        return None
    if len(readings(piece.value)) > 1:
        return draft.choose(*((scaled(one, MICRO), 0.3 * k) for k, one in enumerate(readings(piece.value))))
    if not text.isdigit():
        draft.assumptions.append(f"{text} without a unit is taken as microfarad.")
        return scaled(text, MICRO)
    if len(text) > 3:
        return _bare_thousands(draft, text)
    if draft.motor or draft.electrolytic:
        code = _three_figures(text)
        if code and "tantalum" in draft.materials and text[2] >= LEAST_TANTALUM_POWER:
            draft.assumptions.append(f"{text} is taken as a pF code, as on tantalum chips.")
            return code
        if code and not in_series(text) and draft.choose((True, 0.0), (False, 0.5)):
            draft.assumptions.append(f"{text} is read as a pF code: no such value is made.")
            return code
        kind = "motor" if draft.motor else "polarised"
        draft.assumptions.append(f"{text} without a unit is taken as microfarad, as on {kind} cans.")
        return scaled(text, MICRO)
    return _code(draft, piece, text)


def _code(draft: Draft, piece: Piece, text: str) -> float | None:
    """Up to three figures on a part whose kind is not said: a code or picofarads, or the microfarads of a can."""
    volts = draft.of("voltage")
    code = _three_figures(text)
    if code is None:
        draft.pico = True
        if draft.materials & {"ceramic", "ceramic1", "mica"} or any(name.is_y for p in draft.of("classes") for name in p.value):
            draft.assumptions.append(f"{text} without a unit is taken as picofarad, as on ceramics.")
            return scaled(text, PICO)
        order = (("picofarad", 0.0), ("microfarad", 0.5)) if draft.safety else (("microfarad", 0.0), ("picofarad", 0.5))
        answer = draft.choose(*order)
        draft.pico = answer == "picofarad"
        draft.assumptions.append(f"{text} without a unit is read as {answer}.")
        return scaled(text, MICRO if answer == "microfarad" else PICO)
    lettered = any(
        not draft.text[piece.end : letter.start].strip()
        for letter in draft.of("letter", "as_said")
        if letter.start >= piece.end and letter.value in TOLERANCES
    )
    certain = draft.safety or draft.materials or any(v.value.from_code for v in volts) or (lettered and text[2] != "0")
    if certain and text[2] != "7":
        draft.pico = True
        return code
    answer = draft.choose(
        *((("microfarad", 0.0), ("pF code", 0.5)) if _low_can(draft, text) else (("pF code", 0.0), ("microfarad", 0.5)))
    )
    draft.assumptions.append(f"{text} is read as {'a ' if answer == 'pF code' else ''}{answer}.")
    draft.pico |= answer == "pF code"
    return code if answer == "pF code" else scaled(text, MICRO)


def _bare_thousands(draft: Draft, text: str) -> float | None:
    """Four figures and more are microfarads on a can that prints its volts; otherwise they are no capacitance."""
    direct = [p for p in draft.of("voltage") if p.value.kind != "ac"]
    if len(text) > 6 or draft.safety or not (direct or draft.electrolytic):
        return None
    draft.assumptions.append(f"{text} without a unit is taken as microfarad, as on polarised cans.")
    return scaled(text, MICRO)


def _low_can(draft: Draft, text: str) -> bool:
    """Round figures beside a low direct voltage: an electrolytic in microfarads rather than a ceramic in picofarads."""
    volts = [v for p in draft.of("voltage") if p.value.kind != "ac" for v in p.value.values]
    return bool(volts) and max(volts) <= LOW_CAN_V and text.endswith("0") and "ceramic" not in draft.materials


def _three_figures(text: str) -> float | None:
    """The three-figure code of IEC 60062 in farads; a third figure of 8 or 9 is ×0.01 or ×0.1."""
    if len(text) != 3:
        return None
    power = {"8": -2, "9": -1}.get(text[2], int(text[2]))
    return scaled(text[:2], PICO + power)


def tolerances(draft: Draft) -> None:
    """Give each section its tolerance: the one printed for all, or its own where there are as many as sections."""
    printed = draft.of("tolerance", "letter")
    said = [(piece, _said(piece, draft.parts[0].farads)) for piece in printed]
    own = len({tolerance for _, tolerance in said}) > 1 and len(said) == len(draft.parts) > 1
    different: list[Tolerance | None] = list(dict.fromkeys(tolerance for _, tolerance in said))
    if own:
        for part, (piece, tolerance) in zip(draft.parts, said, strict=True):
            part.tolerance = _said(piece, part.farads)
            draft.mean(piece, _show(tolerance))
        return
    taken = draft.choose(*((one, 0.5 * k) for k, one in enumerate(different))) if len(different) > 1 else (different or [None])[0]
    draft.tolerance = taken
    for piece, tolerance in said:
        if tolerance == taken:
            draft.mean(piece, _show(tolerance))
            draft.plain("tolerance", piece, _typed(tolerance))
        else:
            draft.dismiss("tolerance", piece)
    for part in draft.parts:
        part.tolerance = taken


def _said(piece: Piece, farads: float) -> Tolerance:
    if piece.kind == "letter":
        return tolerance_of(piece.value, farads)
    if isinstance(piece.value, Absolute):
        share = piece.value.farads / farads
        return Tolerance(-share, share)
    tolerance: Tolerance = piece.value
    return tolerance


def _typed(tolerance: Tolerance) -> str:
    """A tolerance typed so that it says just this."""
    low, high = -tolerance.minus * 100, tolerance.plus * 100
    return f" ±{high:.4g}%" if abs(low - high) < 1e-9 else f" -{low:.4g}/+{high:.4g}%"


def _show(tolerance: Tolerance) -> str:
    low, high = tolerance.minus * 100, tolerance.plus * 100
    return f"±{high:.3g} %" if abs(low + high) < 1e-9 else f"−{-low:.3g} to +{high:.3g} %"
