"""Reading what may take a place; each function says how many statements it takes."""

from collections import Counter, defaultdict
from collections.abc import Collection, Sequence
from dataclasses import dataclass, field, replace
from uuid import UUID

from dusky_heron.codes import LabelOut
from dusky_heron.core.errors import SUPPLY_VOLTAGE, InputError
from dusky_heron.core.model import KIND_TITLES, ROLE_TITLES, Candidate, Need, Part, Policy, Position, Refusal
from dusky_heron.core.quantities import parse_quantity, show, show_range
from dusky_heron.core.schools import selection_policy
from dusky_heron.core.selection import describe, need_of, rank, why_before
from dusky_heron.core.selection.combine import OF_THE_WHOLE, Combination, combinations, share_of
from dusky_heron.core.selection.conditions import not_compared
from dusky_heron.core.selection.consequences import consequences, limits_beyond, touch_of
from dusky_heron.core.selection.fit import adaptations, choice, clearance, too_big
from dusky_heron.core.selection.fitting_list import Filling
from dusky_heron.core.selection.question import may_replace_part
from dusky_heron.core.selection.rules import HARD_RULES, refusals_of, rules_for
from dusky_heron.core.selection.sieve import loosened, sieve_of
from dusky_heron.core.selection.volts import unknown
from dusky_heron.core.selection.ways import TOGETHER, WAY_TITLES, WITH_PARTS, Way, as_one, specification
from dusky_heron.jobs.queries import core_position, job_places, place_among
from dusky_heron.presented import Figure, read_kept
from dusky_heron.record.actor import Actor
from dusky_heron.replacement.bill import CHOSEN_COLUMNS, OUT
from dusky_heron.replacement.models import Choice, Override
from dusky_heron.replacement.schemas import (
    BoxOut,
    CandidateOut,
    CandidatesOut,
    ChoiceOut,
    ChosenPart,
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
from dusky_heron.stock.queries import Drawer, drawer, known_part, known_parts, loose, one_part
from dusky_heron.stock.schemas import PartOut
from dusky_heron.workshops.queries import limits_and_schools

TITLES = {rule.id: rule.title for rule in HARD_RULES}
MOST_COMBINED = 6
MOST_SHOWN = 30  # of either list at a time; the others are counted
MAKES = {
    Way.PARALLEL: ("Both side by side across the place: a strap, fixed, each on its own.",),
    Way.SERIES: ("One after the other, the point between them made off so that nothing touches it.",),
    Way.SINGLES: ("Singles on a terminal strip, each fixed; the old sections disconnected, never left in parallel.",),
}


def candidates(actor: Actor, position_id: UUID, start: int = 0, words: str = "") -> CandidatesOut:
    """The drawer judged for a position, from a place in the list on; `words` keeps what is printed so. Six statements."""
    asked = _asked(actor, position_id)
    found = drawer(actor, sieve_of(asked.need, asked.policy))
    selection = rank(asked.need, found.parts, asked.policy)
    accepted = [row for row in selection.accepted if _says(row.part, words)]
    others = Counter(found.others)
    others.update(rejected.reasons[0].rule_id for rejected in selection.rejected[MOST_SHOWN:])
    return CandidatesOut(
        need=list(describe(asked.need)),
        not_compared=not_compared(asked.need),
        question=asked.need.open_question or unknown(asked.need),
        specification=list(specification(asked.need, asked.position.surroundings.count)),
        start=start,
        why_first=why_before(*accepted[:2]) if len(accepted) > 1 else "",
        accepted=[_candidate(asked, c, found) for c in accepted[start : start + MOST_SHOWN]],
        rejected=[
            RejectedOut(part=found.shown(r.part), reasons=[_refusal(x) for x in r.reasons], outline=_outline(asked.need, r.part))
            for r in selection.rejected[:MOST_SHOWN]
        ],
        more=max(0, len(accepted) - start - MOST_SHOWN),
        others=[CountedOut(rule_id=key, title=TITLES[key], parts=number) for key, number in others.items()],
        overrides=asked.overrides,
        choice=asked.choice,
    )


def _says(part: Part, words: str) -> bool:
    """Whether a part answers to every word, by its marking."""
    text = part.marking.text.lower()
    return all(word in text for word in words.lower().split())


def together(actor: Actor, position_id: UUID) -> list[CombinationOut]:
    """Parts of the drawer that take a place together. Five statements."""
    asked = _asked(actor, position_id)
    found = loose(actor, loosened(sieve_of(asked.need, asked.policy), asked.need))
    return [_combination(c, found) for c in combinations(asked.need, found.parts, asked.policy)[:MOST_COMBINED]]


@dataclass(frozen=True, slots=True)
class Judged:
    """Parts judged for a place as they would be taken: what it asks, what speaks for them, what has to be made and signed."""

    need: list[str]
    specification: list[str]
    parts: list[PartOut]
    reasons: list[str]
    adaptations: list[str]
    conditions: list[str]
    to_sign: list[str]


def judged(actor: Actor, position_id: UUID, way: Way, part_ids: Sequence[UUID]) -> Judged:
    """Parts of the drawer judged for a place, whatever list they stand in. Four statements, and one for each part.

    Raises InputError with every reason of a refusal.
    """
    asked = _asked(actor, position_id)
    shown, parts = zip(*(one_part(actor, part_id) for part_id in part_ids), strict=True) if part_ids else ((), ())
    what = (list(describe(asked.need)), list(specification(asked.need, asked.position.surroundings.count)), list(shown))
    if way is Way.SINGLE:
        if len(parts) != 1:
            raise InputError("part_id", "Choose a part of the drawer.")
        selection = rank(asked.need, parts, asked.policy)
        if selection.rejected:
            raise InputError("part_id", " ".join(reason.sentence for reason in selection.rejected[0].reasons))
        (taken,) = selection.accepted
        return Judged(*what, list(taken.reasons), list(taken.adaptations), list(taken.conditions), list(taken.to_sign))
    wanted = Counter(part.part_id for part in parts)
    once = list({part.part_id: part for part in parts}.values())
    for one in combinations(asked.need, once, asked.policy):
        if one.way is way and Counter(part.part_id for part in one.parts) == wanted:
            values = " + ".join(show(farads, "F") for farads in one.sections_f)
            told = f"{values}, {show_range(one.low_f, one.high_f, 'F')} by tolerance."
            by_id = {str(row.id): row for row in shown}
            ordered = [by_id[part.part_id] for part in one.parts]
            return Judged(what[0], what[1], ordered, [told], list(one.makes), list(one.to_sign), list(one.to_sign))
    raise InputError("part_ids", _why_not_together(asked, way, parts))


def acceptable(actor: Actor, position_id: UUID, among: Collection[UUID]) -> list[str]:
    """Which of some parts may take a place, best first. Five statements."""
    asked = _asked(actor, position_id)
    return [row.part.part_id for row in rank(asked.need, known_parts(actor, among), asked.policy).accepted]


def _why_not_together(asked: "_Asked", way: Way, parts: Sequence[Part]) -> str:
    """The reasons by which parts refuse to be put together, each in its own share."""
    said: list[str] = []
    for number, part in enumerate(parts):
        share = share_of(asked.need, number) if way is Way.SINGLES and number < len(asked.need.sections_f) else asked.need
        whole = OF_THE_WHOLE if way is not Way.SINGLES else OF_THE_WHOLE - {"capacitance.window"}
        rules = rules_for(share, whole | asked.policy.overridden)
        said += [f"{part.marking.text}: {says}" for _, says in refusals_of(share, part, asked.policy, rules)]
    return " ".join(dict.fromkeys(said)) or "Together they do not come to what the place asks for, or there are not enough of them."


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
    """How a place is to be filled, what it takes, and the distance to keep; `taken` once its parts are out of the drawer."""

    choice_id: int
    choice: ChoiceOut
    order: tuple[int, int]
    filling: Filling
    distance: str

    @property
    def taken(self) -> bool:
        """Whether nothing is left in the drawer that it asks for."""
        return self.choice.out_at is not None or not self.choice.stands


def how_it_fits(actor: Actor, position_id: UUID) -> HowItFits | None:
    """What the choice takes to be fitted; None where none is made. Four statements, and one for each part."""
    asked = _asked(actor, position_id)
    chosen = Choice.standing(position_id=position_id).last()
    if chosen is None:
        return None
    shown = show_choice(chosen)
    takes: list[str] = []
    if shown.way is Way.SINGLE or shown.way in TOGETHER:
        for part_id in dict.fromkeys(part.part_id for part in shown.parts):
            part = known_part(actor, part_id) if part_id else None
            takes += adaptations(asked.need, part) if part and shown.way is Way.SINGLE else ()
    makes = MAKES.get(shown.way, ())
    filling = Filling(shown.way, tuple(t for t in takes if t != clearance(asked.need)), makes, shown.resistor)
    return HowItFits(chosen.id, shown, chosen.order, filling, clearance(asked.need))


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
        rows.append((*own, place.surroundings.count, *((chosen.marking, chosen.place, chosen.lot) if chosen else ("", "", ""))))
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
    """What was decided about positions the asker may see, in the order of the record. Two statements."""
    found: dict[UUID, Decided] = defaultdict(Decided)
    for position_id, chosen in choices(position_ids).items():
        found[position_id].choice = chosen
    for row in Override.signed_here(position_id__in=position_ids):
        here = found[row.position_id].overrides
        if row.stands:
            here[row.rule_id] = OverrideOut(
                rule_id=row.rule_id, title=TITLES.get(row.rule_id, row.rule_id), reason=row.reason, at=row.at,
                by_name=row.by_name, sequence=row.sequence,
            )  # fmt: skip
        else:
            here.pop(row.rule_id, None)
    return found


def choices(position_ids: Collection[UUID]) -> dict[UUID, ChoiceOut]:
    """How each position is to be filled, as chosen last, of positions the asker may see. One statement."""
    return {row.position_id: show_choice(row) for row in Choice.standing(position_id__in=position_ids)}


def show_choice(row: Choice) -> ChoiceOut:
    """A choice as the API shows it."""
    parts = [ChosenPart.model_validate(part) for part in row.parts]
    way = Way(row.way)
    return ChoiceOut(
        position_id=row.position_id,
        way=way,
        way_title=WAY_TITLES[way],
        stands=way in WITH_PARTS,
        part_id=parts[0].part_id if parts else None,
        parts=parts,
        marking=row.marking,
        place=" and ".join(dict.fromkeys(part.place for part in parts if part.place)),
        lot=" and ".join(dict.fromkeys(part.lot for part in parts if part.lot)),
        resistor=row.resistor,
        reason=row.reason,
        signed=row.signed,
        specification=row.specification,
        out_at=row.out_at,
        at=row.at,
        by_name=row.by_name,
        sequence=row.sequence,
    )


def in_the_place(position: Position, chosen: ChoiceOut | None) -> Position | None:
    """A place with what stands in it once the choice is carried out; None where it is left empty."""
    if chosen is None or chosen.way in (Way.LEFT, Way.ORDERED):
        return position
    if chosen.way is Way.REMOVED:
        return None
    return replace(position, marking=as_one(chosen.way, [read_kept(part.marking) for part in chosen.parts]))


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
    """What a position demands. Four statements."""
    _, position, others, job = place_among(actor, position_id)
    here = decided([position_id])[position_id]
    overrides = list(here.overrides.values())
    limits, schools = limits_and_schools(actor)
    school = selection_policy(schools)
    policy = replace(school, overridden=frozenset(row.rule_id for row in overrides))
    standard = job.standard or None
    beyond, touch = limits_beyond(position, others, standard, limits), touch_of(position, others, standard, limits)
    need = need_of(position, beyond, touch)
    return _Asked(position, others, need, policy, here.choice, overrides)


def _candidate(asked: _Asked, candidate: Candidate, found: Drawer) -> CandidateOut:
    marking = candidate.part.marking
    return CandidateOut(
        part=found.shown(candidate.part),
        score=candidate.score,
        reasons=list(candidate.reasons),
        adaptations=list(candidate.adaptations),
        conditions=list(candidate.conditions),
        to_sign=list(candidate.to_sign),
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
        to_sign=list(one.to_sign),
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
