"""Which benches a position asks for, with its values in them."""

from uuid import UUID

from dusky_heron.circuits.schemas import BenchesOut, BulkIn, FormingIn, StringShareIn, SupplyIn
from dusky_heron.core.model import ROLES, Arrangement, Role
from dusky_heron.core.quantities import show
from dusky_heron.jobs.queries import core_position
from dusky_heron.record.actor import Actor

USUAL_LEAKAGE = "0.5 mA"


def benches(actor: Actor, position_id: UUID) -> BenchesOut:
    """The benches of a position. Two statements."""
    _, position, job = core_position(actor, position_id)
    around, role = position.surroundings, position.role
    marked, rated = show(position.marking.sections[0].capacitance_f, "F", digits=6), position.marking.rated_dc_v
    supply = bulk = string = forming = None
    if role is Role.RESERVOIR:
        supply = SupplyIn(mains=job.supply_voltage, reservoir=marked, supply_frequency=job.supply_frequency)
        if around.volts:
            supply = supply.model_copy(update={"secondary": show(around.volts, "V", digits=6)})
    if role is Role.SMPS_BULK:
        bulk = BulkIn(supply_voltage=job.supply_voltage, bulk=marked, supply_frequency=job.supply_frequency)
    if around.arrangement is Arrangement.SERIES:
        string = StringShareIn(capacitors="\n".join([f"{marked} {USUAL_LEAKAGE}"] * around.count))
        if around.balancing_ohm:
            string = string.model_copy(update={"balance": show(around.balancing_ohm, "Ω", digits=6)})
        if rated:
            string = string.model_copy(update={"rating": show(rated, "V", digits=6)})
    if ROLES[role].polarised and rated:
        forming = FormingIn(capacitance=marked, rating=show(rated, "V", digits=6))
    return BenchesOut(dropper=role is Role.DROPPER, supply=supply, bulk=bulk, string=string, forming=forming)
