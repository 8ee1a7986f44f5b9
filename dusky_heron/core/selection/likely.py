"""What a part most likely does, from what is printed on it."""

from dusky_heron.core.markings.model import Marking
from dusky_heron.core.model import Role

SMALLEST_MOTOR_F = 1e-6


def likely_role(marking: Marking) -> Role | None:
    """The role a marking points to, to be offered and never taken for granted; None when it points to none.

    A Y class points to Y before X, since a place that needs Y must not be taken for an X place.

    :param marking: what is printed
    :returns: y, x, motor_start, motor_run or None
    :source: IEC 60384-14 (classes), IEC 60252-1 (motor parts)
    """
    if marking.is_y:
        return Role.Y
    if marking.classes:
        return Role.X
    if marking.printed_range:
        return Role.MOTOR_START
    if marking.duty or (marking.rated_ac_v and marking.capacitance_f >= SMALLEST_MOTOR_F):
        return Role.MOTOR_RUN
    return None
