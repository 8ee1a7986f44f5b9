"""Where practitioners disagree: each question with its schools, the default and why; a workshop chooses for itself."""

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache

from dusky_heron.core.errors import InputError
from dusky_heron.core.model import Policy
from dusky_heron.core.model.roles import roles_that
from dusky_heron.core.tables import toml_table

MAY_BE_SALVAGED = roles_that(lambda row: row.salvaged)


@dataclass(frozen=True, slots=True)
class School:
    """One question, its options in words by id, the default, why it is the default, and what the choice does."""

    id: str
    question: str
    options: Mapping[str, str]
    default: str
    why: str
    effect: str


@cache
def schools() -> tuple[School, ...]:
    """Every question, in the order of the table.

    :returns: schools
    :raises InputError: never
    :source: table `schools`
    """
    return tuple(School(id=key, **row) for key, row in toml_table("schools").items())


def default_schools() -> dict[str, str]:
    """The default option of every question, by its id.

    :returns: option by question
    :raises InputError: never
    :source: table `schools`
    """
    return {school.id: school.default for school in schools()}


def selection_policy(chosen: Mapping[str, str]) -> Policy:
    """What the schools say of the drawer: salvaged parts, larger values, duals.

    :param chosen: option by question
    :returns: Policy
    :raises InputError: never
    :source: table `schools`
    """
    return Policy(
        frozenset() if chosen["salvaged"] == "never" else MAY_BE_SALVAGED,
        salvaged_measured=chosen["salvaged"] == "measured",
        larger=chosen["larger"] != "never",
        dual=chosen["dual"],
    )


def find_school(school_id: str, option: str) -> School:
    """The question an option answers.

    :param school_id: id of the question
    :param option: id of the option
    :returns: School
    :raises InputError: an unknown question (`id`) or an option it does not have (`option`)
    :source: table `schools`
    """
    school = next((s for s in schools() if s.id == school_id), None)
    if school is None:
        raise InputError("id", "There is no such question.")
    if option not in school.options:
        raise InputError("option", f"Choose one of: {', '.join(school.options.values())}.")
    return school
