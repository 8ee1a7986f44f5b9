"""Putting the pieces of a division together into a reading: every way to answer its choices gives one."""

import datetime
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass

from dusky_heron.core.errors import InputError
from dusky_heron.core.figures import SAME_LENGTH
from dusky_heron.core.markings import capacitances, dates, likely, voltages
from dusky_heron.core.markings.draft import Draft, Part, as_said, ways
from dusky_heron.core.markings.model import Climate, DateCandidate, Duty, Marking, SafetyClass, Section, State, Token
from dusky_heron.core.markings.pieces import UNIT_LIKE, UNREAD_FIGURE, Division, Piece
from dusky_heron.core.markings.ratings import MOTOR
from dusky_heron.core.markings.tolerances import assumed_tolerance
from dusky_heron.core.quantities import show

CARRYING = frozenset({"capacitance", "voltage", "classes"})
LONG_DATE, SHORT_DATE = 0.5, 1.5  # how unlikely it is that figures are a date
SERIES_BELOW_OHM = 10e3  # a resistor in series with a suppression part is tens to hundreds of ohms, a bleeder tens of kilo-ohms


@dataclass(frozen=True, slots=True)
class Candidate:
    """One reading: how unlikely as a part and as text, and how each doubtful piece is typed plainly, by aspect and place."""

    cost: float
    typed_cost: float
    marking: Marking
    pieces: tuple[Piece, ...]
    plainly: Mapping[str, Mapping[int, str]]

    @property
    def grouped(self) -> bool:
        """Whether a separator before three figures was read, which has two readings whatever part it would make."""
        return any(getattr(piece.value, "grouped", False) for piece in self.pieces)

    @property
    def places(self) -> tuple[int, ...]:
        """Where the text was cut: readings of one division share it."""
        return tuple(piece.start for piece in self.pieces)

    def typed(self, abouts: Iterable[str]) -> str:
        """The whole text with what is answered typed plainly."""
        text = self.marking.text
        plain = {start: typed for about in abouts for start, typed in self.plainly.get(about, {}).items()}
        out, at = "", 0
        for piece in self.pieces:
            gap = text[at : piece.start]
            if not gap and out and (piece.start in plain or out[-1].isalnum()):
                gap = " "
            typed = plain.get(piece.start, text[piece.start : piece.end])
            out += gap + (
                as_said(typed) if gap == " " and piece.kind == "unread" and typed.isalpha() and text[at] != " " else typed
            )
            at = piece.end
        return " ".join((out + text[at:]).split())


def assemble(text: str, division: Division, today: datetime.date | None) -> Iterator[Candidate]:
    """Every reading of one division; what gives no capacitance, or one that no capacitor has, is left out.

    :raises InputError: when no way of reading it gives a capacitance
    """
    error: InputError | None = None
    found = False
    for draft in ways(Draft(text, list(division.pieces), division.cost)):
        try:
            marking = _marking(draft, today)
        except InputError as refused:
            error = error or refused
            continue
        found = True
        yield Candidate(draft.cost + likely.cost(marking), draft.cost, marking, tuple(draft.pieces), draft.plainly)
    if not found and error:
        raise error


def _marking(draft: Draft, today: datetime.date | None) -> Marking:
    for piece in draft.of("as_said"):
        draft.mean(piece, "only text, as said")
    capacitances.find(draft)
    voltages.find(draft)
    voltages.classes(draft)
    capacitances.tolerances(draft)
    duty = _duty(draft)
    found_dates = _dates(draft, today)
    _words(draft)
    series, bleeder = _resistors(draft)
    climate, sections = _climate(draft), _sections(draft)
    pieces = _tokens(draft)
    return Marking(
        text=draft.text,
        sections=sections,
        tolerance=draft.tolerance or next((part.tolerance for part in draft.parts if part.tolerance), None),
        rated_ac_v=min(draft.ac, default=None),
        rated_dc_v=_rated_dc(draft),
        ac_ratings=tuple(draft.ac),
        surge_v=draft.surge,
        classes=draft.classes,
        climate=climate,
        dates=found_dates,
        duty=duty,
        printed_range=any(part.low_high for part in draft.parts),
        series_ohm=series,
        bleeder_ohm=bleeder,
        pieces=pieces,
        assumptions=tuple(draft.assumptions),
        unanswered=draft.placeholder,
    )


def _rated_dc(draft: Draft) -> float | None:
    """Of sections with volts of their own the highest, to plan with; of one section the lowest that is printed."""
    own = any(part.own_volts for part in draft.parts)
    return max(draft.dc) if own and draft.dc else min(draft.dc, default=None)


def _words(draft: Draft) -> None:
    for piece in draft.of("word"):
        draft.mean(piece, piece.value.meaning)
    for piece in draft.of("label", "standard", "parallel"):
        draft.mean(piece, piece.value)
    for piece in draft.of("frequency"):
        draft.mean(piece, "supply frequency")
    for piece in draft.of("service"):
        draft.mean(
            piece, f"made for {piece.value} service" if piece.value in ("continuous", "intermittent") else f"motor {piece.value}"
        )
    for piece in draft.of("symbol"):
        draft.mean(piece, "mark of a section")
    for piece in draft.of("reactive"):
        if piece.start not in draft.meanings:
            draft.mean(piece, f"{piece.value:g} var reactive power")
    for piece in draft.of("watts"):
        draft.mean(piece, "what its resistor stands")


def _climate(draft: Draft) -> Climate | None:
    found: list[Climate] = []
    for piece in draft.of("climate"):
        climate: Climate = piece.value
        damp = f", {climate.damp_heat_days} days damp heat" if climate.damp_heat_days else ""
        span = f"up to {climate.upper_c:g} °C" if climate.lower_c is None else f"{climate.lower_c:g} to {climate.upper_c:g} °C"
        draft.mean(piece, f"{span}{damp}".replace("-", "−"))
        found.append(climate)
    if not found:
        return None
    lowers = [c.lower_c for c in found if c.lower_c is not None]
    days = [c.damp_heat_days for c in found if c.damp_heat_days]
    return Climate(max(lowers, default=None), min(c.upper_c for c in found), min(days, default=None))


def _resistors(draft: Draft) -> tuple[float | None, float | None]:
    """Ohms in series and in parallel: a bleeder empties the part, a resistor in series makes it an RC unit."""
    series: float | None = None
    bleeder: float | None = None
    for piece in draft.of("resistor"):
        ohm: float = piece.value
        before = draft.text[: piece.start].rstrip()
        across = bool(draft.of("parallel")) or "discharge" in draft.words
        if across or (ohm >= SERIES_BELOW_OHM and not before.endswith("+")) or ohm >= 100 * SERIES_BELOW_OHM:
            bleeder = ohm
            draft.mean(piece, f"{show(ohm, 'Ω')} across it, to empty it")
        else:
            series = ohm
            draft.mean(piece, f"{show(ohm, 'Ω')} in series")
    return series, bleeder


def _duty(draft: Draft) -> Duty | None:
    classes = draft.of("operating_class")
    protection = next((piece.value for piece in draft.of("protection")), None)
    current = next((piece.value for piece in draft.of("fault_current")), None)
    service = next((piece.value for piece in draft.of("service")), "")
    for piece in draft.of("protection"):
        draft.mean(piece, f"{piece.value}: {MOTOR['protection_means'][piece.value]}")
    for piece in draft.of("fault_current"):
        draft.mean(piece, f"protected up to {piece.value:g} A fault current")
    pairs: list[tuple[str, float]] = []
    volts = [v for v in draft.of("voltage") if not v.value.surge]
    after = bool(classes and volts and volts[0].start > classes[0].start)
    for piece in classes:
        hours = MOTOR["operating_class_hours"][piece.value]
        draft.mean(piece, f"operating class {piece.value}, {hours} h")
        beside = [v for v in volts if (v.start > piece.start) == after]
        nearest = min(beside, key=lambda v: abs(v.start - piece.start), default=None)
        if nearest:
            pairs += [(piece.value, rating) for rating in nearest.value.values]
    if not (classes or protection or current or service):
        return None
    return Duty(tuple(pairs), protection, current, service)


def _dates(draft: Draft, today: datetime.date | None) -> tuple[DateCandidate, ...]:
    for piece in draft.of("date_pair"):
        pair = dates.letter_pair(piece.value, today)
        if pair and (piece.value[0] != "X" or not piece.value[1].isdigit() or draft.classes):  # else a class not read right
            draft.mean(piece, pair[0].said)
            return pair
    for piece in draft.of("bare", "torn_date"):
        if piece.start not in draft.meanings and piece.value.isdigit() and len(piece.value) in (3, 4):
            alone = _alone(draft, piece)
            found = dates.figures(piece.value, today) if alone or len(piece.value) == 4 else ()
            if found:
                draft.cost += LONG_DATE if alone and len(piece.value) == 4 else SHORT_DATE
                draft.mean(piece, found[0].said)
                return found
    return ()


def _alone(draft: Draft, piece: Piece) -> bool:
    """Whether figures stand by themselves, with space or a comma on both sides."""
    around = draft.text[: piece.start][-1:] + draft.text[piece.end :][:1]
    return not around.strip(" ,;()\n\t")


def _sections(draft: Draft) -> tuple[Section, ...]:
    """Each section with its limits, volts and classes: in a network the largest is the X, the others are the Y."""
    x = tuple(c for c in draft.classes if not c.name.is_y)
    y = tuple(c for c in draft.classes if c.name.is_y)
    network = bool(x and y and len(draft.parts) > 1)
    largest = max(range(len(draft.parts)), key=lambda index: draft.parts[index].farads)
    return tuple(
        _section(draft, part, (x if index == largest else y) if network else draft.classes)
        for index, part in enumerate(draft.parts)
    )


def _section(draft: Draft, part: Part, classes: tuple[SafetyClass, ...]) -> Section:
    if part.low_high:
        return Section(part.farads, *part.low_high, classes, part.dc, part.ac, part.symbol)
    if part.tolerance:
        low, high = part.farads * (1 + part.tolerance.minus), part.farads * (1 + part.tolerance.plus)
        return Section(part.farads, low, high, classes, part.dc, part.ac, part.symbol)
    alternating = part.ac is not None and part.dc is None
    electrolytic = draft.electrolytic or (not alternating and not draft.materials and part.farads >= voltages.MAYBE_CAN_F)
    assumed, kind = assumed_tolerance(
        part.farads,
        draft.materials,
        motor=draft.motor or (alternating and not classes and part.farads >= voltages.MAYBE_CAN_F),
        electrolytic=electrolytic,
        old=draft.old,
        classed=bool(classes),
        pico=draft.pico,
    )
    sentence = f"No tolerance is printed: planned with −{-assumed.minus * 100:g} to +{assumed.plus * 100:g} %, as {kind}."
    if sentence not in draft.assumptions:
        draft.assumptions.append(sentence)
    return Section(part.farads, None, None, classes, part.dc, part.ac, part.symbol, assumed)


def _tokens(draft: Draft) -> tuple[Token, ...]:
    """The whole text as pieces: what was read, what is known, what was not understood, and what stands between."""
    tokens: list[Token] = []
    at = 0
    for piece in draft.pieces:
        if at < piece.start:
            tokens.append(Token(draft.text[at : piece.start], "", State.BETWEEN))
        typed = draft.text[piece.start : piece.end]
        meaning = draft.meanings.get(piece.start)
        if meaning is None:
            decides = _decides(draft, piece)
            if decides and piece.kind != "unread":
                draft.cost += UNREAD_FIGURE
            tokens.append(Token(typed, "", State.UNREAD, decides))
        else:
            known = piece.kind in ("word", "standard", "as_said") or piece.start in draft.dismissed
            tokens.append(Token(typed, meaning, State.KNOWN if known else State.READ))
        at = piece.end
    if at < len(draft.text):
        tokens.append(Token(draft.text[at:], "", State.BETWEEN))
    return tuple(_trimmed(tokens))


def _trimmed(tokens: list[Token]) -> Iterator[Token]:
    """Pieces without the spaces at their ends, which stand between them."""
    for token in tokens:
        if token.state is State.BETWEEN or not (token.text[:1].isspace() or token.text[-1:].isspace()):
            yield token
            continue
        bare = token.text.strip()
        start = token.text.index(bare) if bare else 0
        if start:
            yield Token(token.text[:start], "", State.BETWEEN)
        yield Token(bare, token.meaning, token.state, token.decides)
        if token.text[start + len(bare) :]:
            yield Token(token.text[start + len(bare) :], "", State.BETWEEN)


def _decides(draft: Draft, piece: Piece) -> bool:
    """Whether something not understood could change value, volts or class: a figure, a unit, or a sign glued to a figure."""
    text = draft.text.translate(SAME_LENGTH)
    typed = text[piece.start : piece.end].strip()
    beside = text[max(0, piece.start - 1) : piece.start] + text[piece.end : piece.end + 1]
    if any(character.isnumeric() for character in typed + (beside if typed.isalnum() or typed in "-+" else "")):
        return True
    carrying = any(p.kind in CARRYING and (piece.start == p.end or piece.end == p.start) for p in draft.pieces)
    if typed.isalpha() and carrying:
        return True  # torn off something that carries value, volts or class
    if any(p.end <= piece.start and not text[p.end : piece.start].strip() for p in draft.unitless):
        return True  # behind a figure without a unit it may be its unit
    return bool(UNIT_LIKE.fullmatch(typed)) or not any(character.isalnum() for character in typed)


def unread_as_text(marking: Marking, index: int) -> str:
    """The text with one unread piece said to be only text."""
    pieces = list(marking.pieces)
    before = "".join(token.text for token in pieces[:index])
    after = "".join(token.text for token in pieces[index + 1 :])
    return f"{before} {as_said(pieces[index].text)} {after}".strip()
