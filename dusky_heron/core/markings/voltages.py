"""What the volts of a marking belong to: which kind they are, which section or class, working or surge."""

import itertools

from dusky_heron.core.figures import unmistakable
from dusky_heron.core.markings.draft import Draft, Part
from dusky_heron.core.markings.likely import USUAL_V
from dusky_heron.core.markings.model import ClassName, SafetyClass
from dusky_heron.core.markings.pieces import Piece
from dusky_heron.core.markings.ratings import Kind, Volts

LOWEST_BARE_V = 16  # V: smaller bare figures are anything
MAINS_CODE = range(100, 1001)  # V: a bare figure beside a safety class
SURELY_CAN_F = 100e-6  # F: above this bare volts are a polarised can's
MAYBE_CAN_F = 1e-6  # F: from this a can or a motor part, below it a film part of which nothing is known
BARE_VOLTS = 3.0  # how unlikely it is that volts are printed without their unit
SURGE_AT_MOST = 1.3  # surge over working volts of one electrolytic section: IEC 60384-4 has 1.10 and 1.15
GLUED_TO_CLASS = frozenset({"voltage", "capacitance", "climate", "classes", "frequency", "letter", "word", "tolerance"})
OPEN_CLASSES = {"X": (ClassName.X2, ClassName.X1, ClassName.X3), "Y": (ClassName.Y2, ClassName.Y1, ClassName.Y4)}


def find(draft: Draft) -> None:
    """Fill in the volts of a draft: of all, of each section, and the surge volts."""
    _bare_volts(draft)
    printed = draft.of("voltage")
    draft.old |= any(p.value.working for p in printed)
    surges = [p for p in printed if p.value.surge]
    rated = [p for p in printed if not p.value.surge]
    for piece in surges:
        draft.surge = max(draft.surge or 0.0, *piece.value.values)
        draft.mean(piece, f"{_said(piece.value.values)} V, surge or test volts")
    if surges or draft.of("working_test"):
        draft.polarised |= not draft.safety and not draft.materials
    for piece in draft.of("working_test"):
        working, test = piece.value.values
        draft.surge = max(draft.surge or 0.0, test)
        _note(draft, piece, (working,), piece.value.kind or _kind(draft), also=f", tested with {test:g} V")
    if surges and not rated and not draft.of("working_test"):
        _only_surge(draft, surges)
    _rated(draft, rated)


def _only_surge(draft: Draft, surges: list[Piece]) -> None:
    """The working volts are not printed: the surge volts say only that they are lower."""
    if draft.choose((True, 0.0), (False, 0.5)):
        draft.placeholder = True
        draft.assumptions.append("Only surge or test volts are printed: the working volts are lower and not known.")
        return
    for piece in surges:
        draft.dismiss("voltage", piece)


def _rated(draft: Draft, rated: list[Piece]) -> None:
    if not rated:
        return
    if len(draft.parts) > 1 and _of_sections(draft, rated):
        return
    rated = _one_of_each(draft, rated)
    for piece in rated:
        volts: Volts = piece.value
        kind = volts.kind or _kind(draft)
        values = volts.values
        if kind == "dc" and len(values) == 2 and len(draft.parts) == 1 and values[0] < values[1]:
            draft.surge = max(draft.surge or 0.0, values[1])
            draft.assumptions.append(
                f"Of {values[0]:g}/{values[1]:g} V DC the lower is the working voltage, the other surge or test."
            )
            values = values[:1]
        elif kind == "dc" and len(values) > 1:
            values = _serving_all(draft, piece, values)
        _note(draft, piece, values, kind)
        if volts.glued:
            draft.assumptions.append(
                f"{volts.values[0]:g} behind the tolerance is taken as volts{f' {kind.upper()}' if kind else ''}."
            )
    for part in draft.parts:
        part.ac, part.dc = min(draft.ac, default=None), min(draft.dc, default=None)


def _serving_all(draft: Draft, piece: Piece, values: tuple[float, ...]) -> tuple[float, ...]:
    """Several direct volts that fit no count of sections: the lowest for all, or another of them."""
    draft.plain("voltage", piece, _typed((min(values),), "dc", piece))
    return (draft.choose(*((volts, 0.5 * k) for k, volts in enumerate(sorted(set(values))))),)


def _note(draft: Draft, piece: Piece, values: tuple[float, ...], kind: Kind | None, also: str = "") -> None:
    (draft.ac if kind == "ac" else draft.dc if kind == "dc" else []).extend(values)
    draft.mean(piece, f"{_said(values, ' or ')} {_kind_word(kind)}{also}")
    if kind:
        draft.plain("voltage", piece, _typed(values, kind, piece))


def _said(values: tuple[float, ...], between: str = "/") -> str:
    return between.join(f"{volts:g}" for volts in values)


def _typed(values: tuple[float, ...], kind: Kind, piece: Piece) -> str:
    """Volts typed so that they say just this; working volts of an older part stay what they are."""
    working = "W" if piece.value.working and kind == "dc" else ""
    return "/".join(unmistakable(volts) for volts in values) + f" {working}V{kind.upper()}"


def _kind_word(kind: Kind | None) -> str:
    return {"ac": "V AC", "dc": "V DC"}.get(kind or "", "V, AC or DC not printed")


def _kind(draft: Draft) -> Kind | None:
    """AC or DC where only V is printed; None where it cannot be told and has to be asked."""
    if draft.safety or draft.motor or draft.of("reactive"):
        return "ac"
    if draft.electrolytic:
        return "dc"
    total = sum(part.farads for part in draft.parts)
    if total > SURELY_CAN_F:
        draft.assumptions.append("V without a sign is taken as DC, as on a polarised can.")
        return "dc"
    kind: Kind | None
    if total >= MAYBE_CAN_F and not draft.materials:
        kind = _once(draft, "kind", ("dc", 0.0), ("ac", 0.5))
        draft.assumptions.append(f"V without a sign is taken as {str(kind).upper()}: a polarised can is DC, a motor part AC.")
        return kind
    kind = _once(draft, "kind", (None, 0.0), ("dc", 0.3), ("ac", 0.5))
    if kind is None:
        draft.placeholder = True
        draft.assumptions.append("V without a sign on a film part: AC or DC is not known. Choose one.")
    return kind


def _once(draft: Draft, name: str, *answers: tuple[Kind | None, float]) -> Kind | None:
    """Choose once for a whole marking: two bare voltages of it are of one kind."""
    if name not in draft.said:
        draft.said[name] = draft.choose(*answers)
    kind: Kind | None = draft.said[name]
    return kind


def _of_sections(draft: Draft, rated: list[Piece]) -> bool:
    """Give each section its own volts where the marking has them; whether it did."""
    direct = [p for p in rated if (p.value.kind or ("ac" if draft.safety or draft.motor else "dc")) == "dc"]
    lists = [p for p in direct if len(p.value.values) > 1]
    if len(direct) == len(rated) == 1 and len(lists) == 1:
        return _listed(draft, lists[0])
    carriers = list(dict.fromkeys(part.piece.start for part in draft.parts))
    if len(rated) < 2 and not _between(draft, rated):
        return False
    if len({v for p in rated for v in p.value.values}) == 1 and len(rated) == 1:
        return False
    following = {start: [p for p in rated if start < p.start < _next_start(carriers, start)] for start in carriers}
    if all(len(found) == 1 and len(found[0].value.values) == 1 for found in following.values()) and len(carriers) == len(rated):
        for part in draft.parts:
            _own(draft, part, following[part.piece.start][0])
        return True
    if not direct or len(direct) != len(rated):
        return False
    return _some_have_none(draft, rated)


def _next_start(carriers: list[int], start: int) -> float:
    """Where the next printed value begins."""
    return min((other for other in carriers if other > start), default=float("inf"))


def _between(draft: Draft, rated: list[Piece]) -> bool:
    """Whether volts stand behind one section and before the next."""
    carriers = sorted({part.piece.start for part in draft.parts})
    return len(carriers) > 1 and any(carriers[0] < p.start < carriers[-1] for p in rated)


def _own(draft: Draft, part: Part, piece: Piece) -> None:
    kind = piece.value.kind or _kind(draft)
    value = piece.value.values[0]
    if kind == "ac":
        part.ac = value
    else:
        part.dc = value
    part.own_volts = True
    if piece.start not in draft.meanings:
        _note(draft, piece, (value,), kind)


def _listed(draft: Draft, piece: Piece) -> bool:
    """One list of direct volts: one for each section, or a working and a surge voltage for all."""
    volts: tuple[float, ...] = piece.value.values
    kind = piece.value.kind or _kind(draft)
    count = len(draft.parts)
    if kind != "dc":
        return False
    spread: tuple[float, ...] | None
    if len(volts) == count:
        rising = len(volts) == 2 and volts[0] < volts[1] <= volts[0] * SURGE_AT_MOST
        spread = draft.choose((None, 0.0), (volts, 0.5)) if rising else volts
    elif len(volts) == 2 and volts[0] < volts[1] <= volts[0] * SURGE_AT_MOST:
        spread = None
    else:
        ordered = sorted(set(volts), reverse=True)
        first, last = (ordered[0],) * (count - 1) + (ordered[-1],), (ordered[0],) + (ordered[-1],) * (count - 1)
        spread = draft.choose((first, 0.0), (last, 0.5), ((ordered[0],) * count, 0.7))
    if spread is None:
        draft.surge = max(draft.surge or 0.0, max(volts))
        draft.assumptions.append(f"Of {_said(volts)} V DC the lower is the working voltage, the other surge or test.")
        spread = (min(volts),) * count
    for part, value in zip(draft.parts, spread, strict=True):
        part.dc, part.own_volts = value, True
    draft.dc.extend(spread)
    draft.mean(piece, f"{_said(spread, ' and ')} V DC, each section its own")
    draft.plain("voltage", piece, _typed(spread, "dc", piece))
    return True


def _some_have_none(draft: Draft, rated: list[Piece]) -> bool:
    """Volts stand beside some sections only: the highest for all until it is said which belong to which."""
    values = sorted({v for p in rated for v in p.value.values}, reverse=True)
    count = len(draft.parts)
    options: list[tuple[tuple[float, ...], float]] = [((values[0],) * count, 0.0)]
    if len(values) > 1 and count > 1:
        options.append(((values[0],) * (count - 1) + (values[-1],), 0.3))
        options.append(((values[0],) + (values[-1],) * (count - 1), 0.5))
    else:
        options.append(((values[0],) + (0.0,) * (count - 1), 0.5))
    spread = draft.choose(*options)
    for part, value in zip(draft.parts, spread, strict=True):
        part.dc, part.own_volts = value or None, True
    draft.dc.extend(v for v in spread if v)
    for number, piece in enumerate(rated):
        draft.mean(piece, f"{_said(piece.value.values)} V DC of one section")
        last = number == len(rated) - 1
        draft.plain("voltage", piece, _typed(spread, "dc", piece) if last else "{" + draft.slice(piece) + "}")
    draft.assumptions.append("Volts are printed for some sections only: planned with the highest for all.")
    return True


def _one_of_each(draft: Draft, rated: list[Piece]) -> list[Piece]:
    """Volts printed more than once: by class, by operating class, joined by a stroke, or to be asked about."""
    with_unit = [p for p in rated if not p.value.unitless] or _apart(draft, rated)
    for piece in [p for p in rated if p.value.unitless and with_unit and p not in with_unit]:  # a figure with only a sign
        if not draft.choose((True, 0.0), (False, 0.5)):
            draft.dismiss("voltage", piece)
        else:
            draft.plain("voltage", piece, _typed(piece.value.values, piece.value.kind or "dc", piece))
    rated = [p for p in rated if p.start not in draft.dismissed]
    kinds: dict[str, list[Piece]] = {}
    for piece in rated:
        kinds.setdefault(piece.value.kind or "bare", []).append(piece)
    if "bare" in kinds and len(kinds) > 1:
        kinds.setdefault("ac" if draft.safety or draft.motor else "dc", []).extend(kinds.pop("bare"))
    for pieces in kinds.values():
        pieces.sort(key=lambda piece: piece.start)
        different = {p.value.values for p in pieces}
        if len(different) < 2 or _explained(draft, pieces):
            continue
        ordered = sorted(pieces, key=lambda piece: max(piece.value.values))
        taken = draft.choose(*((piece, 0.4 * k) for k, piece in enumerate(ordered)))
        for piece in pieces:
            if piece is not taken:
                draft.dismiss("voltage", piece)
    return [piece for piece in rated if piece.start not in draft.dismissed]


def _apart(draft: Draft, rated: list[Piece]) -> list[Piece]:
    """The first of several volts that only a sign tells, where they are of two kinds and do not stand together."""
    together = all(draft.text[a.end : b.start].strip() == "/" for a, b in itertools.pairwise(rated))
    return rated[:1] if len({p.value.kind for p in rated}) > 1 and not together else []


def _explained(draft: Draft, pieces: list[Piece]) -> bool:
    """Whether several volts of one kind each have their reason to be there."""
    joints = [draft.text[a.end : b.start].strip() for a, b in itertools.pairwise(pieces)]
    printed = draft.of("classes")
    if len(printed) > 1:
        marks = sorted((*printed, *pieces), key=lambda piece: piece.start)
        if all(a.kind != b.kind for a, b in itertools.pairwise(marks)):  # a class, its volts, a class, its volts
            return True
    elif (
        printed
        and len(pieces) == len(printed[0].value)
        and all(p.value.kind for p in pieces)
        and not any(j.strip("/,") for j in joints)
    ):
        return True
    if len(draft.of("operating_class")) >= len(pieces):
        return True
    return all(joint in ("/", "-") for joint in joints)


def _bare_volts(draft: Draft) -> None:
    """A bare figure that is a usual voltage, where no volts are printed: beside a class AC, elsewhere it is asked."""
    if draft.of("voltage", "working_test") or draft.dc:
        return
    for piece in draft.of("bare"):
        if not piece.value.isdigit():
            continue
        value = int(piece.value)
        if draft.safety and value in MAINS_CODE:
            draft.assumptions.append(f"{piece.value} beside a safety class is taken as volts AC.")
            _become(draft, piece, "ac")
            return
        if value in USUAL_V and value >= LOWEST_BARE_V:
            draft.cost += BARE_VOLTS
            kinds: tuple[tuple[str, float], ...] = (("not known", 0.0), ("dc", 0.3), ("ac", 0.5), ("text", 1.0))
            if draft.motor:
                kinds = (("ac", 0.0), ("text", 1.0))
            answer = draft.choose(*kinds)
            if answer == "not known":
                draft.placeholder = True
                draft.mean(piece, f"{piece.value} V perhaps, AC or DC not printed")
            elif answer == "text":
                draft.dismiss("voltage", piece)
            else:
                draft.assumptions.append(f"{piece.value} without a unit is taken as volts {answer.upper()}.")
                _become(draft, piece, "ac" if answer == "ac" else "dc")
            return


def _become(draft: Draft, piece: Piece, kind: Kind) -> None:
    draft.become(piece, piece._replace(kind="voltage", value=Volts((float(piece.value),), kind)))
    draft.plain("voltage", piece, f"{piece.value} V{kind.upper()}")


def classes(draft: Draft) -> None:
    """Give each safety class its rated voltage; where two of one letter are printed, or none has a figure, ask."""
    printed = _one_class_of_a_letter(draft)
    rated = [p for p in draft.of("voltage") if p.value.kind != "dc" and not p.value.surge]
    volts_first = bool(rated and printed and rated[0].start < printed[0].start)
    found: dict[ClassName, SafetyClass] = {}
    for index, piece in enumerate(printed):
        names: tuple[ClassName, ...] = piece.value
        for number, name in enumerate(names):
            found[name] = SafetyClass(
                name, _class_volts(draft, rated, printed, index, (number, len(names)), volts_first=volts_first)
            )
        draft.mean(piece, "class " + " and ".join(names))
        draft.plain("class", piece, "/".join(names))
    for piece in draft.of("open_class"):
        name = draft.choose(*((name, 0.3 * k) for k, name in enumerate(OPEN_CLASSES[piece.value])))
        found[name] = SafetyClass(name, min(draft.ac, default=None))
        draft.assumptions.append(f"{piece.value} without a figure: read as {name} until it is said which.")
        draft.mean(piece, f"class {piece.value}, figure not printed")
        draft.plain("class", piece, name)
    draft.classes = tuple(found.values())


def _one_class_of_a_letter(draft: Draft) -> list[Piece]:
    starts = {piece.start: piece.kind for piece in draft.pieces}
    for piece in draft.of("classes"):  # glued to figures that are nothing of a label, it may be part of a number
        if starts.get(piece.end, "voltage") not in GLUED_TO_CLASS and not draft.choose((True, 0.0), (False, 0.5)):
            draft.dismiss("class", piece)
    printed = draft.of("classes")
    names = {name for p in printed for name in p.value}
    for letter in "XY":
        of_letter = [p for p in printed if any(name.startswith(letter) for name in p.value)]
        if len({name for name in names if name.startswith(letter)}) > 1:
            taken = draft.choose(*((piece, 0.3 * k) for k, piece in enumerate(of_letter)))
            for piece in of_letter:
                if piece is not taken:
                    draft.dismiss("class", piece)
    return draft.of("classes")


def _class_volts(
    draft: Draft, rated: list[Piece], printed: list[Piece], index: int, among: tuple[int, int], *, volts_first: bool
) -> float | None:
    """The volts of one class, the `number`th `of` those in one piece."""
    number, of = among
    if len(printed) > 1 and len(rated) == len(printed):
        return _lowest(rated[index])
    if len(printed) == 1 and of == len(rated) > 1:
        return _lowest(rated[number])
    if draft.ac and len(printed) == 1 and not volts_first and len(rated) > 1:
        following = [r for r in rated if r.start > printed[index].start]
        return _lowest(following[0]) if following else min(draft.ac)
    return min(draft.ac, default=None)


def _lowest(piece: Piece) -> float:
    volts: Volts = piece.value
    return min(volts.values)
