"""The tolerance to plan with where none is printed: by what the part is made of, and never narrower than it may be."""

from collections.abc import Set

from dusky_heron.core.markings.model import Tolerance

# Usual tolerances of parts that print none. Source: IEC 60384-4 (aluminium ±20 %; older practice −20/+50 %), IEC 60384-14
# (safety parts ±20 %), IEC 60252-1 (motor run ±5 and ±10 %), IEC 60384-9 (class 2 ceramic −20/+80 %).
ALUMINIUM, OLD_ALUMINIUM = Tolerance(-0.20, 0.20), Tolerance(-0.20, 0.50)
FILM = Tolerance(-0.20, 0.20)
MOTOR_RUN = Tolerance(-0.10, 0.10)
CERAMIC_2 = Tolerance(-0.20, 0.80)
LARGEST_CERAMIC_F = 100e-9


def assumed_tolerance(
    capacitance_f: float, materials: Set[str], *, motor: bool, electrolytic: bool, old: bool, classed: bool, pico: bool
) -> tuple[Tolerance, str]:
    """The tolerance of a part that prints none, and what it was taken for.

    :param capacitance_f: farads
    :param materials: materials that the marking names
    :param motor: made for a motor
    :param electrolytic: polarised, by words or by value and volts
    :param old: printed as older parts are, in MFD or WVDC
    :param classed: a safety class is printed
    :param pico: printed in picofarads, as ceramics are
    :returns: Tolerance and the kind of part it belongs to
    :source: as beside the figures above
    """
    if motor:
        return MOTOR_RUN, "a motor part"
    if classed:
        return FILM, "a safety part"
    if "ceramic" in materials or (pico and not materials and capacitance_f <= LARGEST_CERAMIC_F):
        return CERAMIC_2, "a class 2 ceramic"
    if electrolytic:
        return (OLD_ALUMINIUM, "an older electrolytic") if old else (ALUMINIUM, "an electrolytic")
    return FILM, "film, paper or mica"
