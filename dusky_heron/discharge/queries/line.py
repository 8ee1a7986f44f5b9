"""The charge line: what may still be on each position."""

import math
from collections.abc import Mapping, Sequence
from uuid import UUID

from django.db.models import Max
from django.utils import timezone

from dusky_heron.core.discharge.falling import HANDS_IN_V
from dusky_heron.core.quantities import show, show_time
from dusky_heron.discharge.models import ChargeNote, ChargeState, FallSample
from dusky_heron.discharge.schemas import ChargeItem
from dusky_heron.jobs.schemas import Named
from dusky_heron.record.clock import Moment, watch

CAUTIONS = {
    ChargeState.UNKNOWN: "Nobody has emptied it yet: empty it before a meter or a hand touches it.",
    ChargeState.ENERGISED: "It is energised: no meter on it, no hand near it.",
    ChargeState.RISING: "Its voltage rose while it was emptied: something feeds it. Stop.",
    ChargeState.EMPTYING: "It is not proved empty yet: prove it before a meter or a hand touches it.",
    ChargeState.LAPSED: "Its proof has lapsed: prove it again.",
}
REVOKING = (ChargeState.ENERGISED, ChargeState.RISING, ChargeState.UNKNOWN)  # each says that there may be a voltage again
EMPTIED = (ChargeState.PROVED, ChargeState.KEPT_SHORTED)
GRAVITY = (  # worst first
    ChargeState.RISING,
    ChargeState.ENERGISED,
    ChargeState.UNKNOWN,
    ChargeState.LAPSED,
    ChargeState.EMPTYING,
    ChargeState.KEPT_SHORTED,
    ChargeState.PROVED,
)
Read = tuple[float, float]  # V, s after the tool was put on


def charge_line(positions: Sequence[Named]) -> list[ChargeItem]:
    """What is known of each position's charge: its newest note, or unknown. Two statements, four where a part is held empty."""
    ids = [position.id for position in positions]
    last = ChargeNote.standing(position_id__in=ids).order_by("position_id", *ChargeNote.NEWEST_FIRST)
    newest = {note.position_id: note for note in last.distinct("position_id")}
    states = {note.position_id: ChargeState(note.state) for note in newest.values()}
    states |= _held([note for note in newest.values() if note.state in EMPTIED])
    emptying = [note.id for note in newest.values() if note.state == ChargeState.EMPTYING]
    samples = FallSample.standing(fall__note_id__in=emptying).values_list("fall__note_id", "volts", "seconds")
    read = {note_id: (volts, seconds) for note_id, volts, seconds in samples}
    return [_show(place, newest.get(place.id), states.get(place.id, ChargeState.UNKNOWN), read) for place in positions]


def gravest(line: list[ChargeItem]) -> ChargeItem | None:
    """The position that may hold the most harm, as far as is known."""
    return min(line, key=lambda item: GRAVITY.index(item.state), default=None)


def _show(position: Named, note: ChargeNote | None, state: ChargeState, read: Mapping[int, Read]) -> ChargeItem:
    """A position on the charge line; `read` holds the last voltage logged of each note."""
    return ChargeItem(
        position_id=position.id,
        name=position.name,
        state=state,
        caution=CAUTIONS.get(state, ""),
        sentence=_sentence(note, state, read.get(note.id)) if note else "",
        tool=note.tool if note else "",
        at=note.when if note else None,
        lapses_at=note.lapses_at if note else None,
        by_name=note.by_name if note else "",
        sequence=note.sequence if note else 0,
    )


def _held(held: Sequence[ChargeNote]) -> dict[UUID, ChargeState]:
    """What parts that were proved empty or kept shorted are now. Two statements, none for no part."""
    if not held:
        return {}
    places = [note.position_id for note in held]
    doubted = ChargeNote.objects.filter(position_id__in=places, state__in=REVOKING).order_by().values("position_id")
    last = doubted.values_list("position_id", Max("sequence"), Max("stands_at"))
    since = {place: (sequence, stands_at) for place, sequence, stands_at in last}
    moment = watch()
    return {note.position_id: _now(note, since.get(note.position_id, (0, 0)), moment) for note in held}


def _now(note: ChargeNote, since: tuple[int, int], moment: Moment) -> ChargeState:
    """The state a proof or a short stands for now; `since` is where the last note of a voltage was written, and stands.

    A proof lapses with its time, with a clock that ran back, and with whatever said that there is a voltage and came into the
    record after it, or stands after what its writer had seen: struck since or not.
    """
    doubted = since[0] > note.sequence or since[1] > note.stands_at
    if note.state == ChargeState.KEPT_SHORTED:
        return ChargeState.UNKNOWN if doubted else ChargeState.KEPT_SHORTED
    gone = moment.gone(note.when, note.turn)
    holds = gone is not None and note.holds_s is not None and gone.total_seconds() < note.holds_s
    return ChargeState.PROVED if holds and not doubted else ChargeState.LAPSED


def _sentence(note: ChargeNote, state: ChargeState, last: Read | None) -> str:
    """What is known in figures: the voltage read last or planned by now, or the target of the proof."""
    if note.found:
        return note.found
    if state not in (ChargeState.EMPTYING, ChargeState.PROVED, ChargeState.LAPSED):
        return ""
    if state != ChargeState.EMPTYING:
        return f"below {show(HANDS_IN_V, 'V')}"
    if last:
        volts, seconds = last
        return f"{show(volts, 'V')} read at {show_time(seconds)}"
    if note.from_v and note.tau_s:
        gone = max((timezone.now() - note.when).total_seconds(), 0.0)
        volts = note.from_v * math.exp(-gone / note.tau_s)
        return f"planned {show(volts, 'V', digits=2) if volts >= HANDS_IN_V else f'under {HANDS_IN_V:g} V'} by now"
    return ""
