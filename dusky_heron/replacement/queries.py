"""Reading what may take a place; each function says how many statements it takes."""

from collections import Counter, defaultdict
from collections.abc import Collection, Sequence
from dataclasses import dataclass, field, replace
from uuid import UUID

from django.db.models import CharField, DateTimeField, F, Value
from django.db.models.functions import Cast

from dusky_heron.core.errors import SUPPLY_VOLTAGE
from dusky_heron.core.model import KIND_TITLES, ROLE_TITLES, Candidate, Need, Part, Policy, Position, Refusal
from dusky_heron.core.quantities import parse_quantity, show_range
from dusky_heron.core.schools import selection_policy
from dusky_heron.core.selection import describe, need_of, rank
from dusky_heron.core.selection.combine import Combination, combinations
from dusky_heron.core.selection.consequences import consequences, limits_beyond
from dusky_heron.core.selection.fit import adaptations, choice, clearance, too_big
from dusky_heron.core.selection.question import may_replace_part
from dusky_heron.core.selection.rules import HARD_RULES
from dusky_heron.core.selection.sieve import loosened, sieve_of
from dusky_heron.jobs.queries import core_position, job_places, place_among
from dusky_heron.presented import Figure, LabelOut
from dusky_heron.record.actor import Actor
from dusky_heron.replacement.bill import CHOSEN_COLUMNS, OUT
from dusky_heron.replacement.models import Choice, Override
from dusky_heron.replacement.schemas import (
    BoxOut,
    CandidateOut,
    CandidatesOut,
    ChoiceOut,
    CombinationOut,
    CountedOut,
    OutlineOut,
    OverrideOut,
    QuestionIn,
    QuestionOut,
    RefusalOut,
    RejectedOut,
    WhyOut,
)
from dusky_heron.sheets import write_sheet
from dusky_heron.stock.queries import Drawer, drawer, loose, one_part
from dusky_heron.workshops.queries import limits_and_schools

TITLES = {rule.id: rule.title for rule in HARD_RULES}
MOST_COMBINED = 6
MOST_SHOWN = 30  # of either list; the others are counted


def candidates(actor: Actor, position_id: UUID) -> CandidatesOut:
    """The drawer judged for a position. Five statements."""
    asked = _asked(actor, position_id)
    found = drawer(actor, sieve_of(asked.need, asked.policy))
    selection = rank(asked.need, found.parts, asked.policy)
    others = Counter(found.others)
    others.update(rejected.reasons[0].rule_id for rejected in selection.rejected[MOST_SHOWN:])
    return CandidatesOut(
        need=list(describe(asked.need)),
        accepted=[_candidate(asked, c, found) for c in selection.accepted[:MOST_SHOWN]],
        rejected=[
            RejectedOut(part=found.shown(r.part), reasons=[_refusal(x) for x in r.reasons], outline=_outline(asked.need, r.part))
            for r in selection.rejected[:MOST_SHOWN]
        ],
        more=max(0, len(selection.accepted) - MOST_SHOWN),
        others=[CountedOut(rule_id=key, title=TITLES[key], parts=number) for key, number in others.items()],
        overrides=asked.overrides,
        choice=asked.choice,
    )


def together(actor: Actor, position_id: UUID) -> list[CombinationOut]:
    """Parts of the drawer that take a place together. Four statements."""
    asked = _asked(actor, position_id)
    found = loose(actor, loosened(sieve_of(asked.need, asked.policy), asked.need))
    return [_combination(c, found) for c in combinations(asked.need, found.parts, asked.policy)[:MOST_COMBINED]]


def why(actor: Actor, position_id: UUID, part_id: UUID) -> WhyOut:
    """One part judged for a position, whatever sieved it. Four statements."""
    asked = _asked(actor, position_id)
    shown, part = one_part(actor, part_id)
    selection = rank(asked.need, [part], asked.policy)
    taken = selection.accepted[0] if selection.accepted else None
    return WhyOut(
        part=shown,
        allowed=taken is not None,
        reasons=[*taken.adaptations, *taken.conditions, *taken.reasons] if taken else [],
        refusals=[_refusal(reason) for row in selection.rejected for reason in row.reasons],
    )


@dataclass(frozen=True, slots=True)
class HowItFits:
    """The part chosen for a place, what it takes to make it fit, and the distance to keep."""

    choice_id: int
    marking: str
    lot: str
    taken: bool
    order: tuple[int, int]
    adaptations: tuple[str, ...]
    distance: str


def how_it_fits(actor: Actor, position_id: UUID) -> HowItFits | None:
    """What the chosen part takes to be fitted; None where none is chosen. Five statements."""
    asked = _asked(actor, position_id)
    chosen = Choice.standing(position_id=position_id).last()
    if chosen is None:
        return None
    takes: tuple[str, ...] = ()
    if chosen.part_id:
        _, part = one_part(actor, chosen.part_id)
        takes = adaptations(asked.need, part)
    return HowItFits(chosen.id, chosen.marking, chosen.lot, chosen.out_at is not None, chosen.order, takes, clearance(asked.need))


def bag_tag(actor: Actor, position_id: UUID, origin: str) -> LabelOut:
    """The tag of the bag a removed part goes into; its code opens the position. One statement."""
    shown, _, job = core_position(actor, position_id)
    lines = [f"removed: {shown.marking}", job.title, " ".join(filter(None, (job.maker, job.model, job.serial))), job.customer]
    return LabelOut.of(f"{origin}/jobs/{job.id}/replace?position={position_id}", f"Job {job.number}, {shown.name}", lines)


def bill(actor: Actor, job_id: UUID) -> str:
    """A job's bill of materials as CSV. Three statements."""
    places = job_places(actor, job_id)
    taken = choices([place.id for place in places])
    rows = []
    for place in places:
        chosen = taken.get(place.id)
        own = [getattr(place, column) for column in OUT]
        count = place.surroundings.count
        rows.append((*own, count, *((chosen.marking, chosen.place, chosen.lot) if chosen else ("", "", ""))))
    return "\ufeff" + write_sheet((*OUT, *CHOSEN_COLUMNS), iter(rows))


def question(data: QuestionIn) -> QuestionOut:
    """May this part replace that one, from two markings. No statement."""
    volts = parse_quantity(data.supply_voltage, "V", SUPPLY_VOLTAGE, field="supply_voltage") if data.supply_voltage else None
    found = may_replace_part(data.old, data.new, data.role, data.kind, supply_v=volts)
    return QuestionOut(
        role=found.role,
        role_title=ROLE_TITLES[found.role],
        kind=found.kind,
        kind_title=KIND_TITLES[found.kind],
        allowed=found.allowed,
        reasons=list(found.reasons),
        refusals=[_refusal(reason) for reason in found.refusals],
        conditions=list(found.conditions),
    )


@dataclass(slots=True)
class Decided:
    """What was decided about a place so far: the part chosen last, and the demands that stand overridden."""

    choice: ChoiceOut | None = None
    overrides: dict[str, OverrideOut] = field(default_factory=dict)


def decided(position_ids: Sequence[UUID]) -> dict[UUID, Decided]:
    """What was decided about positions the asker may see, in the order of the record. One statement."""
    text, never = CharField(max_length=500), Value(None, output_field=DateTimeField())
    of, last = ("position_id", F("at"), "by_name", "sequence"), ("stands_at", "sequence")
    chosen = (
        Choice.standing(position_id__in=position_ids)
        .order_by()
        .values_list(Value("choice"), *of, Cast("part_id", text), "marking", "place", "lot", "out_at", Value(value=True), *last)
    )
    changed = (
        Override.standing(position_id__in=position_ids)
        .order_by()
        .values_list(Value("override"), *of, "rule_id", "reason", Value(""), Value(""), never, "stands", *last)
    )
    found: dict[UUID, Decided] = defaultdict(Decided)
    for kind, position_id, at, by_name, sequence, key, words, place, lot, out_at, stands, *_ in sorted(
        chosen.union(changed, all=True), key=lambda row: row[-2:]
    ):
        here = found[position_id]
        if kind == "choice":
            here.choice = ChoiceOut(
                position_id=position_id, part_id=UUID(key) if key else None, marking=words, place=place, lot=lot,
                out_at=out_at, at=at, by_name=by_name, sequence=sequence,
            )  # fmt: skip
        elif stands:
            here.overrides[key] = OverrideOut(
                rule_id=key, title=TITLES[key], reason=words, at=at, by_name=by_name, sequence=sequence
            )
        else:
            here.overrides.pop(key, None)
    return found


def choices(position_ids: Collection[UUID]) -> dict[UUID, ChoiceOut]:
    """The part chosen last by position, of positions the asker may see. One statement."""
    return {row.position_id: ChoiceOut.from_row(row) for row in Choice.standing(position_id__in=position_ids)}


@dataclass(frozen=True, slots=True)
class _Asked:
    """What a position demands and what the workshop says to it; what was decided about it so far."""

    position: Position
    others: list[Position]
    need: Need
    policy: Policy
    choice: ChoiceOut | None
    overrides: list[OverrideOut]


def _asked(actor: Actor, position_id: UUID) -> _Asked:
    """What a position demands. Three statements."""
    _, position, others, job = place_among(actor, position_id)
    here = decided([position_id])[position_id]
    overrides = list(here.overrides.values())
    limits, schools = limits_and_schools(actor)
    school = selection_policy(schools)
    policy = replace(school, overridden=frozenset(row.rule_id for row in overrides))
    need = need_of(position, limits_beyond(position, others, job.standard or None, limits))
    return _Asked(position, others, need, policy, here.choice, overrides)


def _candidate(asked: _Asked, candidate: Candidate, found: Drawer) -> CandidateOut:
    marking = candidate.part.marking
    return CandidateOut(
        part=found.shown(candidate.part),
        score=candidate.score,
        reasons=list(candidate.reasons),
        adaptations=list(candidate.adaptations),
        conditions=list(candidate.conditions),
        consequences=list(consequences(asked.position, asked.others, marking.capacitance_f, marking.highest_f)),
        outline=_outline(asked.need, candidate.part),
    )


def _outline(need: Need, part: Part) -> OutlineOut | None:
    """The body in the space, where both are known."""
    if need.space_mm is None or part.size_mm is None:
        return None
    over = too_big(need, part)
    return OutlineOut(
        body=_box(part.size_mm),
        space=_box(need.space_mm),
        pitch=part.pitch_mm,
        wanted_pitch=need.pitch_mm,
        other_pitches=list(need.mounting.other_pitches_mm),
        over=over is not None,
        says=over or "It fits the space there is.",
    )


def _box(size: tuple[float, float, float]) -> BoxOut:
    length, width, height = size
    return BoxOut(length=length, width=width, height=height)


def _combination(one: Combination, found: Drawer) -> CombinationOut:
    return CombinationOut(
        way=one.way,
        parts=[found.shown(part) for part in one.parts],
        sections=[Figure.of(farads, "F") for farads in one.sections_f],
        spread=show_range(one.low_f, one.high_f, "F"),
        worst_share=Figure.of(one.worst_share_v, "V") if one.worst_share_v is not None else None,
        makes=list(one.makes),
    )


def _refusal(reason: Refusal) -> RefusalOut:
    chosen = choice(reason.rule_id)
    return RefusalOut(
        rule_id=reason.rule_id,
        title=TITLES[reason.rule_id],
        sentence=reason.sentence,
        source=reason.source,
        hard=reason.hard,
        choice=f"{chosen[0]}. {chosen[1]}" if chosen else "",
    )
