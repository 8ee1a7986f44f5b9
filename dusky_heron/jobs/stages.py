"""The stages of the work, in their order: the one list of them."""

from collections.abc import Mapping
from enum import StrEnum


class Stage(StrEnum):
    """A stage, by the word its address ends with; the key that leads to it is its place in this order."""

    INTAKE = "intake"
    DISCHARGE = "discharge"
    FOUND = "found"
    ASSESS = "assess"
    REPLACE = "replace"
    FIT = "fit"
    POWER = "power"
    HANDBACK = "handback"
    RECORD = "record"


STAGE_TITLES: Mapping[Stage, str] = {
    Stage.INTAKE: "Intake",
    Stage.DISCHARGE: "Discharge",
    Stage.FOUND: "As found",
    Stage.ASSESS: "Assess",
    Stage.REPLACE: "Replace",
    Stage.FIT: "Fit",
    Stage.POWER: "Power up",
    Stage.HANDBACK: "Hand back",
    Stage.RECORD: "Record",
}
