"""The charge line: what may still be on each position."""

import math
from collections.abc import Mapping, Sequence

from django.db.models import Max

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
    """What is known of each position's charge: its newest note, or unknown. Four statements."""
    ids = [position.id for position in positions]
    last = ChargeNote.standing().filter(position_id__in=ids).order_by("position_id", *ChargeNote.NEWEST_FIRST)
    newest = {note.position_id: note for note in last.distinct("position_id")}
    doubted = ChargeNote.objects.filter(position_id__in=ids, state__in=REVOKING).order_by().values("position_id")
    since = dict(doubted.values_list("position_id", Max("sequence")))
    emptying = [note.id for note in newest.values() if note.state == ChargeState.EMPTYING]
    samples = FallSample.standing().filter(fall__note_id__in=emptying).select_related("fall")
    read = {sample.fall.note_id: sample for sample in samples}
    moment = watch()
    return [_show(position, newest.get(position.id), since.get(position.id, 0), read, moment) for position in positions]


def gravest(line: list[ChargeItem]) -> ChargeItem | None:
    """The position that may hold the most harm, as far as is known."""
    return min(line, key=lambda item: GRAVITY.index(item.state), default=None)


def _show(position: Named, note: ChargeNote | None, doubted: int, read: Mapping[int, FallSample], moment: Moment) -> ChargeItem:
    """A position on the charge line; `read` holds the last voltage logged of each note."""
    state = state_of(note, doubted, moment)
    return ChargeItem(
        position_id=position.id,
        name=position.name,
        state=state,
        caution=CAUTIONS.get(state, ""),
        sentence=_sentence(note, state, read.get(note.id) if note else None, moment),
        tool=note.tool if note else "",
        at=note.when if note else None,
        lapses_at=note.lapses_at if note else None,
        by_name=note.by_name if note else "",
        sequence=note.sequence if note else 0,
    )


def state_of(note: ChargeNote | None, doubted: int, moment: Moment) -> ChargeState:
    """The state a note stands for now; `doubted` is the last entry that said the part may hold charge again.

    A proof lapses with its time, with a clock that ran back, and with whatever came into the record after it and said that
    there is a voltage: struck since or not, and wherever it stands.
    """
    if note is None:
        return ChargeState.UNKNOWN
    state = ChargeState(note.state)
    if state is ChargeState.KEPT_SHORTED and doubted > note.sequence:
        return ChargeState.UNKNOWN
    if state is not ChargeState.PROVED:
        return state
    gone = moment.gone(note.when, note.turn)
    holds = gone is not None and note.holds_s is not None and gone.total_seconds() < note.holds_s
    return state if holds and doubted < note.sequence else ChargeState.LAPSED


def _sentence(note: ChargeNote | None, state: ChargeState, last: FallSample | None, moment: Moment) -> str:
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
        gone = max((moment.now - note.when).total_seconds(), 0.0)
        volts = note.from_v * math.exp(-gone / note.tau_s)
        return f"planned {show(volts, 'V', digits=2) if volts >= HANDS_IN_V else f'under {HANDS_IN_V:g} V'} by now"
    return ""
