"""The reading box, the discharge of a position, and the plug pins of a job over HTTP."""

from uuid import UUID

from django.http import HttpRequest
from django.utils import timezone
from ninja import Router

from dusky_heron.core.model import Role
from dusky_heron.discharge import actions, queries, worked
from dusky_heron.discharge.queries.plan import LAMP, LOAD
from dusky_heron.discharge.schemas import (
    ChargeIn,
    ChargeItem,
    DesignOut,
    FallIn,
    FallOut,
    GroundOut,
    OtherToolOut,
    PinsOut,
    PlanOut,
    ProofIn,
    ProofOut,
    ProofsIn,
    ProofsOut,
    ReadOut,
    ToProve,
)
from dusky_heron.record.schemas import Line, Printed, Typed
from dusky_heron.workshops.requests import actor_of

router = Router(tags=["discharge"])


@router.get("reading-box", response=ReadOut)
def read_box(request: HttpRequest, text: Printed, role: Role | None = None) -> ReadOut:
    """What a marking is, what it can do, how fast it empties, and which classes may take its place; in a place where it is said."""
    return worked.read_box(text, role, queries.ground(actor_of(request)), timezone.localdate())


@router.get("ground", response=GroundOut)
def ground(request: HttpRequest) -> GroundOut:
    """What the page works with when no server answers."""
    return queries.ground(actor_of(request))


@router.get("positions/{position_id}/discharge", response=PlanOut)
def plan(request: HttpRequest, position_id: UUID) -> PlanOut:
    """How to empty a position."""
    return queries.plan(actor_of(request), position_id)


@router.post("positions/{position_id}/charge", response=ChargeItem)
def note_charge(request: HttpRequest, position_id: UUID, data: ChargeIn) -> ChargeItem:
    """Note what is on a position now."""
    return actions.note_charge(actor_of(request), position_id, data)


@router.get("positions/{position_id}/other-tools", response=list[OtherToolOut])
def other_tools(
    request: HttpRequest, position_id: UUID, lamp_voltage: Typed = LAMP[0], lamp_power: Typed = LAMP[1], load: Typed = LOAD
) -> list[OtherToolOut]:
    """Other ways to empty a position, with a lamp and a load of one's own."""
    return queries.other_tools(actor_of(request), position_id, lamp_voltage, lamp_power, load)


@router.get("positions/{position_id}/bleeder", response=DesignOut)
def design(request: HttpRequest, position_id: UUID, limit: Line = "", working_v: float = 350.0) -> DesignOut:
    """A bleeder that makes a position meet a limit."""
    return queries.design(actor_of(request), position_id, limit, working_v)


@router.get("positions/{position_id}/fall", response=FallOut | None)
def fall(request: HttpRequest, position_id: UUID) -> FallOut | None:
    """The fall that is watched now, or was last."""
    return queries.fall(actor_of(request), position_id)


@router.post("positions/{position_id}/fall", response=FallOut)
def log_fall(request: HttpRequest, position_id: UUID, data: FallIn) -> FallOut:
    """Add readings to the fall that is watched."""
    return actions.log_fall(actor_of(request), position_id, data)


@router.post("positions/{position_id}/proof", response=ProofOut)
def prove(request: HttpRequest, position_id: UUID, data: ProofIn) -> ProofOut:
    """Record a live-dead-live proof."""
    return actions.prove(actor_of(request), position_id, data)


@router.get("jobs/{job_id}/to-prove", response=list[ToProve])
def to_prove(request: HttpRequest, job_id: UUID) -> list[ToProve]:
    """The places of a job that are not proved and may be."""
    return queries.to_prove(actor_of(request), job_id)


@router.post("jobs/{job_id}/proofs", response=ProofsOut)
def prove_several(request: HttpRequest, job_id: UUID, data: ProofsIn) -> ProofsOut:
    """Record the proofs of several places, taken with one meter in one go."""
    return actions.prove_several(actor_of(request), job_id, data)


@router.get("jobs/{job_id}/plug-pins", response=PinsOut)
def plug_pins(request: HttpRequest, job_id: UUID) -> PinsOut:
    """Voltage between the plug pins after unplugging, held against every limit that applies."""
    return queries.plug_pins(actor_of(request), job_id)
