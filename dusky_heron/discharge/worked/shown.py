"""The core's results as the API shows them."""

from uuid import UUID

from dusky_heron.core.discharge import banks, bleeders, energy
from dusky_heron.core.discharge import rebound as core_rebound
from dusky_heron.core.discharge.falling import TargetTime
from dusky_heron.core.discharge.limits import CHECK_EDITION, DischargeLimit, WorkingLimit
from dusky_heron.core.discharge.planning import PlannedCharge, circuit_cautions, explain_charge, first_voltage
from dusky_heron.core.discharge.tools import Tool
from dusky_heron.core.model import Bleeder, Position, Role
from dusky_heron.core.model.materials import MATERIALS
from dusky_heron.core.quantities import show, show_time
from dusky_heron.discharge.schemas import (
    BledOut,
    BleederOut,
    ChargeOut,
    EnergyMarkOut,
    LimitCheckOut,
    ReboundOut,
    ShareOut,
    StringOut,
    TargetOut,
    ToolOut,
)
from dusky_heron.presented import Figure


def charge(planned: PlannedCharge, role: Role | None = None, unread: str = "") -> ChargeOut:
    """The worst a whole position can hold, with what stays open until its part was read."""
    shown = _charge(planned, planned.hazard, planned.whole_f, planned.voltage.voltage_v)
    shown.cautions = [*circuit_cautions(role), *shown.cautions, *filter(None, [unread])]
    return shown


def each(planned: PlannedCharge) -> ChargeOut:
    """What one discharge of several has to take."""
    return _charge(planned, planned.each, planned.highest_f, planned.each_v)


def _charge(planned: PlannedCharge, hazard: energy.Hazard, farads: float, volts: float) -> ChargeOut:
    return ChargeOut(
        energy=Figure.of(hazard.energy_j, "J"),
        mark=EnergyMarkOut.from_row(energy.mark_of(hazard, farads, volts)),
        planned_as=show(planned.nominal_f, "F") if planned.second_reading else "",
        capacitance=Figure.of(farads, "F"),
        voltage=Figure.of(volts, "V"),
        charge=Figure.of(hazard.charge_c, "C"),
        rests_on=planned.voltage.rests_on,
        band=hazard.band,
        band_sentence=hazard.sentence,
        grave=hazard.grave,
        touch_limit=Figure.of(hazard.touch_limit_v, "V"),
        es2_limit=Figure.of(energy.es2_limit(farads), "V"),
        explanation=explain_charge(planned),
        source=f"{energy.DEFAULT['source']}; {CHECK_EDITION}",
        cautions=list(energy.cautions(hazard, volts)),
    )


def times(found: tuple[TargetTime, ...]) -> list[TargetOut]:
    """The times to the targets."""
    return [
        TargetOut(
            name=t.name,
            target=Figure.of(t.target_v, "V"),
            nominal=Figure.of_time(t.nominal_s),
            worst=Figure.of_time(t.worst_s),
        )
        for t in found
    ]


def tool(judged: Tool) -> ToolOut:
    """A tool, with what each resistor of it bears."""
    return ToolOut(
        shape=judged.shape,
        resistor_ids=[UUID(key) for key in judged.resistor_ids],
        name=judged.name,
        resistance=Figure.of(judged.resistance_ohm, "Ω"),
        shares=[
            ShareOut(
                name=share.resistor.name,
                voltage=Figure.of(share.voltage_v, "V"),
                energy=Figure.of(share.energy_j, "J"),
                pulse_limit=Figure.of(share.pulse_limit_j, "J") if share.pulse_limit_j is not None else None,
                pulse_source=share.pulse_source,
            )
            for share in judged.shares
        ],
        times=times(judged.times),
        peak=Figure.of(judged.peak_a, "A", digits=2),
        energy=Figure.of(judged.energy_j, "J"),
        live_power=Figure.of(judged.live_w, "W", digits=2),
        live_time=None if judged.live_seconds is None else Figure.of_time(judged.live_seconds),
        refusals=list(judged.refusals),
    )


def string(shares: banks.StringShares) -> StringOut:
    """A series string."""
    return StringOut(
        each=Figure.of(shares.nominal_v, "V"),
        worst=Figure.of(shares.worst_v, "V"),
        residue=Figure.of(shares.residue_v, "V"),
        residue_energy=Figure.of(shares.residue.energy_j, "J"),
        sentence=shares.sentence,
        grave=shares.residue.grave,
    )


def rebound(found: core_rebound.Rebound) -> ReboundOut:
    """What may creep back."""
    return ReboundOut(
        dielectric=found.dielectric,
        voltage=Figure.of(found.voltage_v, "V"),
        energy=Figure.of(found.energy_j, "J"),
        store_shorted=found.store_shorted,
        sentence=found.sentence,
        source=found.source,
    )


def bleeder(
    planned: PlannedCharge, limit: WorkingLimit, position: Position, rows: tuple[DischargeLimit, ...], dielectric: str
) -> BleederOut:
    """What is fitted to empty a position: balancing resistors count as bleeders of a string."""
    around = position.surroundings
    fitted = around.bleeder or (Bleeder(around.balancing_ohm) if around.balancing_ohm else None)
    ohm, counted = bleeders.counted_resistance(fitted)
    leakage = MATERIALS[dielectric].rc_s[1] / planned.highest_f
    checks = bleeders.check_limits(rows, planned.highest_f, ohm or leakage, first_voltage(position, planned), planned.each_v)
    states = bleeders.bled(planned, limit, fitted, dielectric)
    leaking = states[-1].times[0]
    return BleederOut(
        warning=(
            f"Its bleeder measured open: only leakage empties it, {show_time(leaking.nominal_s)} to "
            f"{show_time(leaking.worst_s)} down to {show(leaking.target_v, 'V')}."
            if fitted and fitted.open
            else ""
        ),
        states=[
            BledOut(
                state=state.state,
                resistance=Figure.of(state.resistance_ohm, "Ω") if state.resistance_ohm else None,
                times=times(state.times),
            )
            for state in states
        ],
        split=bleeders.split(fitted, planned.each_v).sentence if fitted else "",
        checks=[check(c) for c in checks],
        counted=counted,
    )


def check(found: bleeders.LimitCheck) -> LimitCheckOut:
    """A limit held against what is left."""
    return LimitCheckOut(
        id=found.row.id,
        said=found.row.said,
        meets=found.meets,
        sentence=found.sentence,
        planned=Figure.of(found.planned_v, "V"),
        source=found.row.source,
    )
