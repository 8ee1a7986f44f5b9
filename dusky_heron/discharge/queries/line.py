"""The charge line: what may still be on each position, and what that could do."""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from uuid import UUID

from django.db.models import Max
from django.utils import timezone

from dusky_heron.assessment.queries import read_since
from dusky_heron.core.discharge.banks import discharge_points
from dusky_heron.core.discharge.energy import EnergyMark, Hazard, mark_of
from dusky_heron.core.discharge.falling import HANDS_IN_V
from dusky_heron.core.discharge.planning import plan_charge
from dusky_heron.core.discharge.proving import charged_by, hides_charge, not_settled
from dusky_heron.core.model import Condition, Evidence, Position, Role, Surroundings
from dusky_heron.core.quantities import show, show_time
from dusky_heron.discharge.models import ChargeNote, FallSample
from dusky_heron.discharge.schemas import ChargeItem, EnergyMarkOut
from dusky_heron.discharge.states import ChargeState
from dusky_heron.jobs.queries import core_by_id
from dusky_heron.jobs.schemas import Named
from dusky_heron.presented import KEPT_MARKINGS, Figure, read_kept
from dusky_heron.record.clock import Moment, watch

CAUTIONS = {
    ChargeState.UNKNOWN: "Nobody has emptied it yet: empty it before a meter or a hand touches it.",
    ChargeState.ENERGISED: "It is energised: no meter on it, no hand near it.",
    ChargeState.RISING: "Its voltage rose while it was emptied: something feeds it. Stop.",
    ChargeState.EMPTYING: "It is not proved empty yet: prove it before a meter or a hand touches it.",
    ChargeState.LAPSED: "Its proof has lapsed: prove it again.",
    ChargeState.REVOKED: "Its proof counts no more: empty it again, and keep it shorted.",
    ChargeState.LINK_OFF: "The link is off: what creeps back comes now. Prove it before a meter or a hand touches it.",
}
REVOKING = (ChargeState.ENERGISED, ChargeState.RISING, ChargeState.UNKNOWN)  # each says that there may be a voltage again
EMPTIED = (ChargeState.PROVED, ChargeState.KEPT_SHORTED)
GRAVITY = (  # worst first
    ChargeState.RISING,
    ChargeState.ENERGISED,
    ChargeState.UNKNOWN,
    ChargeState.REVOKED,
    ChargeState.LAPSED,
    ChargeState.EMPTYING,
    ChargeState.LINK_OFF,
    ChargeState.KEPT_SHORTED,
    ChargeState.PROVED,
)
UNSETTLED = "planned with the worst its marking may mean"
Read = tuple[float, float]  # V, s after the tool was put on


def charge_noted_since(job_id: UUID, sequence: int) -> bool:
    """Whether anything was noted of a charge in a job the asker may see, after an entry of its record. One statement."""
    return ChargeNote.standing(position__job_id=job_id, sequence__gt=sequence).exists()


@dataclass(frozen=True, slots=True)
class Noted:
    """What the record says of a position's charge, whatever the time: its newest note, and what was written since.

    `since` is where the last note of a voltage was written, and stands; `revoked` why its proof counts no more; `charged` what a
    tester did to it while it was emptied; `read` the last voltage logged of its note, `run` the notes of this emptying.
    """

    named: Named
    place: Position
    note: ChargeNote | None
    since: tuple[int, int]
    revoked: str
    charged: str
    read: Read | None
    run: Sequence[ChargeNote]

    def at(self, moment: Moment) -> "Charge":
        """What that stands for now."""
        state = _now(self.note, self.since, moment) if self.note else ChargeState.UNKNOWN
        if state == ChargeState.PROVED and self.revoked:
            return Charge(self, ChargeState.REVOKED, self.revoked)
        if state == ChargeState.EMPTYING and self.charged:
            return Charge(self, ChargeState.UNKNOWN, self.charged)
        return Charge(self, state, "")


@dataclass(frozen=True, slots=True)
class Charge:
    """What is known of a position's charge: the state its newest note stands for now, and why a proof counts no more."""

    noted: Noted
    state: ChargeState
    why: str

    @property
    def holds(self) -> "tuple[Hazard, EnergyMark] | None":
        """The worst it can hold."""
        place = self.noted.place
        return _kept_hazard(place.marking.text, place.role, place.supply_v, place.surroundings)


def charge_line(positions: Sequence[Named]) -> list[ChargeItem]:
    """Each position's charge as it is shown. One statement more than `noted`, and one for its places."""
    moment = watch()
    return [show_charge(one.at(moment)) for one in noted(positions, core_by_id([position.id for position in positions]))]


def noted(positions: Sequence[Named], places: Mapping[UUID, Position]) -> list[Noted]:
    """What the record says of each position's charge; `places` as the core knows them. Two statements, up to three more."""
    ids = [position.id for position in positions]
    newest = {note.position_id: note for note in ChargeNote.newest_of_each(ChargeNote.standing(position_id__in=ids), "position_id")}
    since = _doubted([key for key, note in newest.items() if note.state in EMPTIED])
    proved, emptied = (
        {key: note for key, note in newest.items() if note.state == wanted} for wanted in (ChargeState.PROVED, ChargeState.EMPTYING)
    )
    read_by = read_since({key: note.sequence for key, note in (proved | emptied).items()}) if proved or emptied else {}
    revoked = _revoked(list(proved), places, read_by)
    charged = {key: why for key in emptied if (why := _charged(read_by[key][1]))}
    samples = FallSample.standing(fall__note__in=emptied.values()).values_list("fall__note_id", "volts", "seconds")
    read = {note_id: (volts, seconds) for note_id, volts, seconds in samples}
    runs = _emptied([key for key, note in emptied.items() if note.id not in read])
    found = []
    for named in positions:
        note = newest.get(named.id)
        found.append(
            Noted(
                named,
                places[named.id],
                note,
                since.get(named.id, (0, 0)),
                revoked.get(named.id, ""),
                charged.get(named.id, ""),
                read.get(note.id) if note else None,
                runs.get(named.id, []),
            )
        )
    return found


def gravest(line: Sequence[Charge]) -> ChargeItem | None:
    """The position that may hold the most harm: what can hurt first, by what is known of it, then by its energy."""
    return show_charge(min(line, key=_harm)) if line else None


Harm = tuple[bool, int, float]


def harm_of(line: Sequence[Charge]) -> Harm:
    """How much the worst of a job's positions may do, the lesser the worse; a job without any stands before what cannot hurt."""
    return min(map(_harm, line), default=(False, len(GRAVITY), 0.0))


def may_hurt(line: Sequence[Charge]) -> bool:
    """Whether a position may hold what hurts, and neither a proof nor a link stands against it; so where none is named yet."""
    return not line or any(not _harm(one)[0] and one.state not in EMPTIED for one in line)


def may_kill(line: Sequence[Charge]) -> bool:
    """Whether one of them may hold what kills and nothing stands against it, or is live, rises or came back.

    So may one whose charge nobody can work out.
    """
    loud = (ChargeState.ENERGISED, ChargeState.RISING, ChargeState.REVOKED)
    return any(one.state in loud or (one.state not in EMPTIED and _lethal(one)) for one in line)


def _lethal(one: Charge) -> bool:
    return one.holds is None or one.holds[1].at >= one.holds[1].lethal


def _harm(one: Charge) -> Harm:
    held = one.holds
    harmless = held is not None and held[0].band == "below_touch" and one.state not in REVOKING[:2]
    return harmless, GRAVITY.index(one.state), -(held[0].energy_j if held else math.inf)


def show_charge(one: Charge) -> ChargeItem:
    """A position on the charge line."""
    noted, held = one.noted, one.holds
    note = noted.note
    return ChargeItem(
        position_id=noted.named.id,
        name=noted.named.name,
        state=one.state,
        caution=CAUTIONS.get(one.state, ""),
        sentence=one.why or _sentence(one),
        energy=Figure.of(held[0].energy_j, "J") if held else None,
        mark=EnergyMarkOut.from_row(held[1]) if held else None,
        band=held[0].band if held else "",
        band_sentence=held[0].sentence if held else "",
        tool=note.tool if note else "",
        place=note.place if note else "",
        at=note.when if note else None,
        lapses_at=note.lapses_at if note else None,
        by_name=note.by_name if note else "",
        sequence=note.sequence if note else 0,
    )


@lru_cache(maxsize=KEPT_MARKINGS)
def _kept_hazard(text: str, role: Role, supply_v: float | None, around: Surroundings) -> tuple[Hazard, EnergyMark] | None:
    """The worst a place can hold, by what is printed and drawn: every screen of every job asks for it."""
    charge = plan_charge(read_kept(text), role=role, supply_v=supply_v, surroundings=around)
    return (charge.hazard, mark_of(charge.hazard, charge.whole_f, charge.voltage.voltage_v)) if charge else None


def _doubted(ids: Sequence[UUID]) -> dict[UUID, tuple[int, int]]:
    """Where the last word of a voltage on each of these positions was written, and stands. One statement, none for no position."""
    if not ids:
        return {}
    doubted = ChargeNote.objects.filter(position_id__in=ids, state__in=REVOKING).order_by().values("position_id")
    last = doubted.values_list("position_id", Max("sequence"), Max("stands_at"))
    return {place: (sequence, stands_at) for place, sequence, stands_at in last}


def _now(note: ChargeNote, since: tuple[int, int], moment: Moment) -> ChargeState:
    """The state a note stands for now; `since` is where the last note of a voltage was written, and stands.

    A proof lapses with its time, with a clock that ran back, and with whatever said that there is a voltage and came into the
    record after it, or stands after what its writer had seen: struck since or not.
    """
    state = ChargeState(note.state)
    if state not in EMPTIED:
        return state
    doubted = since[0] > note.sequence or since[1] > note.stands_at
    if state == ChargeState.KEPT_SHORTED:
        return ChargeState.UNKNOWN if doubted else state
    gone = moment.gone(note.when, note.turn)
    holds = gone is not None and note.holds_s is not None and gone.total_seconds() < note.holds_s
    return ChargeState.PROVED if holds and not doubted else ChargeState.LAPSED


def _revoked(
    proved: Sequence[UUID], places: Mapping[UUID, Position], read: Mapping[UUID, tuple[Evidence, Evidence]]
) -> dict[UUID, str]:
    """Why proofs count no more: read open or far low, struck since or not; charged by a tester; a marking not settled any more."""
    why = {}
    for key in proved:
        place = places[key]
        charge = plan_charge(place.marking, role=place.role, supply_v=place.supply_v, surroundings=place.surroundings)
        capacitances, charging = read[key]
        found = hides_charge(place.marking, capacitances, role=place.role, charge=charge)
        found = found or _charged(charging) or not_settled(place.marking, place.surroundings)
        if found:
            why[key] = found
    return why


def _charged(evidence: Evidence) -> str:
    """What a tester did to a part since it was proved; of a new part laid beside it nothing."""
    said = (charged_by(r.quantity, r.volts) for r in evidence.readings if r.condition != Condition.NEW_PART)
    return next(filter(None, said), "")


def _emptied(ids: Sequence[UUID]) -> dict[UUID, list[ChargeNote]]:
    """The notes of the emptying each of these positions is in, one for each point the tool was laid across. One statement."""
    runs: dict[UUID, list[ChargeNote]] = {}
    if ids:
        for note in ChargeNote.standing(position_id__in=ids):
            run = runs.setdefault(note.position_id, [])
            if note.state != ChargeState.EMPTYING:
                run.clear()
            else:
                run.append(note)
    return runs


def _sentence(one: Charge) -> str:
    """What is known in figures: the voltage read last or planned by now, the target of the proof, or that the marking is open."""
    note, state, place = one.noted.note, one.state, one.noted.place
    if note and note.found:
        return note.found
    if note is None or state == ChargeState.UNKNOWN:
        return UNSETTLED if not_settled(place.marking, place.surroundings) else ""
    if state == ChargeState.KEPT_SHORTED:
        return note.place
    if state not in (ChargeState.EMPTYING, ChargeState.PROVED, ChargeState.LAPSED):
        return ""
    if state != ChargeState.EMPTYING:
        return f"below {show(HANDS_IN_V, 'V')}"
    if one.noted.read:
        volts, seconds = one.noted.read
        return f"{show(volts, 'V')} read at {show_time(seconds)}"
    return _planned(one.noted.run, points_of(place))


def points_of(place: Position) -> int:
    """Across how many points the tool is laid: each part of a string, each section, or once."""
    return len(discharge_points(place.marking, place.surroundings, place.name))


def _planned(run: Sequence[ChargeNote], points: int) -> str:
    """What is planned by now at the worst, of what was emptied; and what was not."""
    by_point = {note.point or 0: note for note in run if points == 1 or note.point is not None}
    if any(note.worst_tau_s is None or note.from_v is None for note in by_point.values()) or not by_point:
        return "nothing planned: watch it fall, or prove it"
    missing = points - len(by_point)
    if missing > 0:
        return f"{len(by_point)} of {points} emptied, the others not yet"
    volts = max(_by_now(note) for note in by_point.values())
    return f"planned {show(volts, 'V', digits=2) if volts >= HANDS_IN_V else f'under {HANDS_IN_V:g} V'} by now, at worst"


def _by_now(note: ChargeNote) -> float:
    gone = max((timezone.now() - note.when).total_seconds(), 0.0)
    return (note.from_v or 0.0) * math.exp(-gone / (note.worst_tau_s or math.inf))
