"""The API: the apps' routers together, session sign-in, and one way to say what is wrong."""

from typing import Any

from django.http import HttpRequest
from ninja import NinjaAPI
from ninja.openapi.schema import OpenAPISchema
from ninja.security import SessionAuth

from dusky_heron.api import bench, problems
from dusky_heron.asfound.router import router as asfound
from dusky_heron.assessment.router import router as assessment
from dusky_heron.bringup.router import router as bringup
from dusky_heron.buying.router import router as buying
from dusky_heron.circuits.router import router as circuits
from dusky_heron.correcting.router import router as correcting
from dusky_heron.discharge.router import router as discharge
from dusky_heron.fitting.router import router as fitting
from dusky_heron.handback.router import router as handback
from dusky_heron.instruments.router import router as instruments
from dusky_heron.jobs.router import router as jobs
from dusky_heron.longwork.router import router as longwork
from dusky_heron.memory.router import router as memory
from dusky_heron.proposals.router import router as proposals
from dusky_heron.record.errors import NotAllowed
from dusky_heron.replacement.router import router as replacement
from dusky_heron.stock.router import router as stock
from dusky_heron.transfer.router import router as transfer
from dusky_heron.workshops.requests import must_set_up
from dusky_heron.workshops.router import router as workshops


class MemberAuth(SessionAuth):
    """A session of a member; where the workshop demands a second factor that they have not, nothing but setting it up is open."""

    def authenticate(self, request: HttpRequest, key: str | None) -> Any:
        """The member, or None."""
        member = super().authenticate(request, key)
        if member and must_set_up(request) and not request.path.startswith("/api/session"):
            raise NotAllowed("This workshop demands a second factor: set yours up first.")
        return member


class Api(NinjaAPI):
    """The API, whose document also says what errors look like."""

    def get_openapi_schema(self, **options: Any) -> OpenAPISchema:
        """The OpenAPI document with problems in it."""
        document = super().get_openapi_schema(**options)
        problems.describe(document)
        return document


api = Api(
    title="Dusky Heron",
    version="1",
    description="The bench companion of technicians who service mains-connected and high-voltage equipment.",
    auth=MemberAuth(),
    docs_url=None,
    openapi_url=None,
)
for router in (
    workshops,
    longwork,
    instruments,
    stock,
    jobs,
    asfound,
    discharge,
    circuits,
    assessment,
    replacement,
    buying,
    bringup,
    fitting,
    handback,
    correcting,
    transfer,
    memory,
    proposals,
    bench.router,
):
    api.add_router("", router)
problems.install(api)
