"""The charge line: what may still be on each position."""

import math
from collections.abc import Mapping, Sequence

from django.utils import timezone

from dusky_heron.core.discharge.falling import HANDS_IN_V
from dusky_heron.core.quantities import show, show_time
from dusky_heron.discharge.models import ChargeNote, ChargeState, FallSample
from dusky_heron.discharge.schemas import ChargeItem
from dusky_heron.jobs.schemas import Named

CAUTIONS = {
    ChargeState.UNKNOWN: "Nobody has emptied it yet: empty it before a meter or a hand touches it.",
    ChargeState.ENERGISED: "It is energised: no meter on it, no hand near it.",
    ChargeState.RISING: "Its voltage rose while it was emptied: something feeds it. Stop.",
    ChargeState.EMPTYING: "It is not proved empty yet: prove it before a meter or a hand touches it.",
    ChargeState.LAPSED: "Its proof has lapsed: prove it again.",
}
GRAVITY = (  # worst first
    ChargeState.RISING,
    ChargeState.ENERGISED,
    ChargeState.UNKNOWN,
    ChargeState.LAPSED,
    ChargeState.EMPTYING,
    ChargeState.KEPT_SHORTED,
    ChargeState.PROVED,
)


def charge_line(positions: Sequence[Named]) -> list[ChargeItem]:
    """What is known of each position's charge: its newest note, or unknown. Two statements."""
    ids = [position.id for position in positions]
    last = ChargeNote.objects.filter(position_id__in=ids).order_by("position_id", "-id").distinct("position_id")
    newest = {note.position_id: note for note in last}
    emptying = [note.id for note in newest.values() if note.state == ChargeState.EMPTYING]
    read = {s.fall.note_id: s for s in FallSample.objects.filter(fall__note_id__in=emptying).select_related("fall")}
    return [show_note(position, newest.get(position.id), read) for position in positions]


def gravest(line: list[ChargeItem]) -> ChargeItem | None:
    """The position that may hold the most harm, as far as is known."""
    return min(line, key=lambda item: GRAVITY.index(item.state), default=None)


def show_note(position: Named, note: ChargeNote | None, read: Mapping[int, FallSample] | None = None) -> ChargeItem:
    """A position on the charge line; `read` holds the last voltage logged of each note."""
    state = state_of(note)
    return ChargeItem(
        position_id=position.id,
        name=position.name,
        state=state,
        caution=CAUTIONS.get(state, ""),
        sentence=_sentence(note, state, (read or {}).get(note.id) if note else None),
        tool=note.tool if note else "",
        at=note.at if note else None,
        lapses_at=note.lapses_at if note else None,
        by_name=note.by_name if note else "",
    )


def state_of(note: ChargeNote | None) -> ChargeState:
    """The state a note stands for now: a proof lapses with time."""
    if note is None:
        return ChargeState.UNKNOWN
    if note.state == ChargeState.PROVED and (note.lapses_at is None or note.lapses_at <= timezone.now()):
        return ChargeState.LAPSED
    return ChargeState(note.state)


def _sentence(note: ChargeNote | None, state: ChargeState, last: FallSample | None) -> str:
    """What is known in figures: the voltage read last or planned by now, or the target of the proof."""
    if note and note.found:
        return note.found
    if note is None or state not in (ChargeState.EMPTYING, ChargeState.PROVED, ChargeState.LAPSED):
        return ""
    if state != ChargeState.EMPTYING:
        return f"below {show(HANDS_IN_V, 'V')}"
    if last:
        return f"{show(last.volts, 'V')} read at {show_time(last.seconds)}"
    if note.from_v and note.tau_s:
        gone = max((timezone.now() - note.at).total_seconds(), 0.0)
        volts = note.from_v * math.exp(-gone / note.tau_s)
        return f"planned {show(volts, 'V', digits=2) if volts >= HANDS_IN_V else f'under {HANDS_IN_V:g} V'} by now"
    return ""
