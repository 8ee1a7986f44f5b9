"""Other ways to empty a charge that people use: lamp, load left on, tool blade. What each does, and why not first."""

from dataclasses import dataclass

from dusky_heron.core.discharge.falling import HANDS_IN_V, time_to
from dusky_heron.core.discharge.planning import MAINS_HIGH, PlannedCharge
from dusky_heron.core.errors import POWER, RESISTANCE, SUPPLY_VOLTAGE
from dusky_heron.core.quantities import show, show_time

LAMP_EXPONENT = 0.55  # I = I_n (V / V_n)^0.55 of an incandescent lamp
COLD_SHARE = 12.0  # the cold filament has about a twelfth of its hot resistance
DARK_SHARE = 1 / 3  # of its rated voltage: below this it does not glow
CONTACT_OHM = 0.010
BLADE_J, BLADE_V = 1.0, 60.0


@dataclass(frozen=True, slots=True)
class OtherTool:
    """One way, with its figures in a sentence and whether it is advised against."""

    name: str
    sentence: str
    why: str
    advised_against: bool


def lamp(charge: PlannedCharge, rated_v: float, rated_w: float) -> OtherTool:
    """Empty through an incandescent lamp: dV/dt = −I_n (V/V_n)^0.55 / C.

    So t = C V_n^0.55 (V₀^0.45 − V^0.45) / (0.45 I_n); the filament is colder, and so quicker, than that.

    :param charge: what is to be emptied
    :param rated_v: rated voltage of the lamp, V
    :param rated_w: rated power of the lamp, W
    :returns: OtherTool with the voltage at which it goes dark and the time to there
    :raises InputError: a value is out of range
    :source: usual exponent of tungsten lamps
    """
    volts, watts = SUPPLY_VOLTAGE.check("lamp_v", rated_v), POWER.check("lamp_w", rated_w)
    current, dark = watts / volts, volts * DARK_SHARE
    power = 1 - LAMP_EXPONENT

    def seconds(to_v: float) -> float:
        if charge.each_v <= to_v:
            return 0.0
        return float(charge.highest_f * volts**LAMP_EXPONENT * (charge.each_v**power - to_v**power) / (power * current))

    first = charge.each_v / (volts**2 / watts / COLD_SHARE)
    over = charge.each_v > volts * 2**0.5 * MAINS_HIGH
    bursts = f" {show(charge.each_v, 'V')} is more than it is made for: it may burst." if over else ""
    return OtherTool(
        "incandescent lamp",
        f"Dark at {show(dark, 'V')} after {show_time(seconds(dark))}: not empty yet. {show(HANDS_IN_V, 'V')} after about "
        f"{show_time(seconds(HANDS_IN_V))}, {show(first, 'A')} at first touch.{bursts}",
        "It shows the charge going, but dark is not dead.",
        over,
    )


def load_left_on(charge: PlannedCharge, resistance_ohm: float) -> OtherTool:
    """A fixed load left across the part during tests, so that it empties each time the supply is switched off.

    :param charge: what is to be emptied
    :param resistance_ohm: the load, ohms
    :returns: OtherTool with time and continuous watts
    :raises InputError: a value is out of range
    :source: first-order discharge
    """
    ohm = RESISTANCE.check("load_ohm", resistance_ohm)
    seconds = time_to(charge.highest_f, ohm, charge.each_v, HANDS_IN_V)
    watts = charge.each_v**2 / ohm
    return OtherTool(
        "load left on",
        f"{show(HANDS_IN_V, 'V')} after {show_time(seconds)}; it takes {show(watts, 'W')} while the supply is on.",
        "It counts as a bleeder, and like a bleeder it is never trusted.",
        False,
    )


def blade(charge: PlannedCharge, esr_ohm: float = 0.0) -> OtherTool:
    """A tool blade straight across: V₀ / (ESR + 10 mΩ), all of the energy in the contact.

    :param charge: what is to be emptied
    :param esr_ohm: ohms of the part itself, 0 when not known
    :returns: OtherTool, advised against above 1 J or above 60 V
    :raises InputError: never
    :source: Ohm's law; ES1 touch limit
    """
    amps = charge.each_v / (esr_ohm + CONTACT_OHM)
    energy = charge.each.energy_j
    against = energy > BLADE_J or charge.each_v > BLADE_V
    return OtherTool(
        "tool blade",
        f"{show(amps, 'A', digits=2)} peak, {show(energy, 'J')} in the contact.",
        "Pitted terminals, molten metal, damage inside the part, a jump of the hand into something live. "
        "Only as the last short on what is already proved.",
        against,
    )
