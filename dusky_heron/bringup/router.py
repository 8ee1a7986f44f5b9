"""The first power over HTTP."""

from uuid import UUID

from django.http import HttpRequest
from ninja import Router

from dusky_heron.bringup import actions, queries
from dusky_heron.bringup.schemas import PlanIn, PowerUpOut, StepIn
from dusky_heron.workshops.requests import actor_of

router = Router(tags=["power-up"])


@router.get("jobs/{job_id}/powerup", response=PowerUpOut)
def see(request: HttpRequest, job_id: UUID) -> PowerUpOut:
    """How a job is powered up, and what was read."""
    return queries.power_up(actor_of(request), job_id)


@router.put("jobs/{job_id}/powerup", response=PowerUpOut)
def plan(request: HttpRequest, job_id: UUID, data: PlanIn) -> PowerUpOut:
    """Set how it is powered up."""
    return actions.set_plan(actor_of(request), job_id, data)


@router.post("jobs/{job_id}/powerup/steps", response=PowerUpOut)
def log_step(request: HttpRequest, job_id: UUID, data: StepIn) -> PowerUpOut:
    """Write down what was read at a step."""
    return actions.log_step(actor_of(request), job_id, data)
