"""What a dropper feeds, as typed: a line for each state, by its current or by its coil."""

import re

from dusky_heron.core.errors import InputError, Range
from dusky_heron.core.model import LoadState, Relay
from dusky_heron.core.quantities import parse_quantity

CURRENT = Range("Current", 0.0, 100.0, "A", open_low=True)
COIL = Range("Coil", 1.0, 1e6, "Ω")
RAIL = Range("Voltage", 0.0, 1e4, "V")
DEGREES = Range("Temperature", -60.0, 200.0, "°C")
SECONDS = Range("Restart", 0.0, 60.0, "s")
VALUE = r"\d+(?:[.,]\d+)?\s*[a-zA-ZµΩ]*"
LOAD = re.compile(rf"(?P<name>.*?[^\d\s.,].*?)\s+(?P<current>{VALUE})")
RELAY = re.compile(
    rf"(?P<name>.*?[^\d\s.,].*?)\s+(?P<coil>\d+(?:[.,]\d+)?\s*[kK]?\s*(?:Ω|ohms?|[rR]))[\s,]+"
    rf"pulls? in (?:at )?(?P<pull>{VALUE})[\s,]+holds? (?:from |to )?(?P<hold>{VALUE})[\s,]+"
    rf"resets? (?:at |below )?(?P<reset>{VALUE})"
    rf"(?:[\s,]+restarts? (?:after )?(?P<restart>{VALUE}))?(?:[\s,]+at (?P<degrees>-?\d+(?:[.,]\d+)?)\s*°?\s*C)?",
    re.IGNORECASE,
)
MOST_STATES = 8


def read_loads(text: str, clamp_v: float | None = None) -> tuple[LoadState, ...]:
    """What a supply feeds, a line for each state.

    By its current, `standby 8 mA`; or a relay by its coil, `valve 920 Ω pulls in 16.8 V holds 12 V resets 9 V`, with `restarts
    0.3 s` and `at 60 °C` where they are known. A relay draws what its coil takes at the clamp, on top of the smallest current.

    :param text: as typed; empty lines are passed over
    :param clamp_v: where the rail is clamped, volts, if known
    :returns: states in the order typed
    :raises InputError: a line without a name or a current, or a relay without a clamp (field `loads`)
    :source: as typed; V/R of the coil
    """
    lines = [line for line in (line.strip() for line in text.splitlines()) if line]
    if len(lines) > MOST_STATES:
        raise InputError("loads", f"At most {MOST_STATES} states.")
    states = [_state(line) for line in lines]
    standby = min((state.current_a for state in states if state.relay is None), default=0.0)
    return tuple(_with_coil(state, standby, clamp_v) if state.relay else state for state in states)


def _state(line: str) -> LoadState:
    if match := RELAY.fullmatch(line):
        volts = {key: parse_quantity(match[key], "V", RAIL, field="loads") for key in ("pull", "hold", "reset")}
        relay = Relay(
            coil_ohm=parse_quantity(match["coil"], "Ω", COIL, field="loads"),
            pull_in_v=volts["pull"],
            hold_v=volts["hold"],
            reset_v=volts["reset"],
            restart_s=parse_quantity(match["restart"], "s", SECONDS, field="loads") if match["restart"] else 0.3,
            coil_c=DEGREES.check("loads", float((match["degrees"] or "20").replace(",", "."))),
        )
        if relay.hold_v > relay.pull_in_v:
            raise InputError("loads", "A relay holds at a lower voltage than it pulls in at.")
        return LoadState(match["name"].rstrip(" :="), 0.0, relay)
    match = LOAD.fullmatch(line)
    if match is None:
        raise InputError("loads", f"“{line[:40]}”: type a name and a current, such as valve on 34 mA.")
    return LoadState(match["name"].rstrip(" :="), parse_quantity(match["current"], "A", CURRENT, field="loads"))


def _with_coil(state: LoadState, standby_a: float, clamp_v: float | None) -> LoadState:
    if state.relay is None or clamp_v is None:
        raise InputError("loads", "A relay by its coil needs the voltage the rail is clamped at.")
    return LoadState(state.name, standby_a + clamp_v / state.relay.warmed.coil_ohm, state.relay)
