"""What may be on a capacitor."""

from enum import StrEnum


class ChargeState(StrEnum):
    """What may be on a capacitor. There is no state that says all clear.

    `lapsed` is a proof whose time is over, `revoked` one that what was read since took away, `link_off` a part that was kept
    shorted and stands open now.
    """

    UNKNOWN = "unknown"
    ENERGISED = "energised"
    RISING = "rising"
    EMPTYING = "emptying"
    PROVED = "proved"
    LAPSED = "lapsed"
    REVOKED = "revoked"
    KEPT_SHORTED = "kept_shorted"
    LINK_OFF = "link_off"
