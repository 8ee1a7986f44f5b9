"""Writing of a workshop's own: members and their second factors, limits, terms and schools."""

from dusky_heron.workshops.actions.members import (
    add_member,
    appoint_lead,
    change_own_password,
    edit_member,
    found_workshop,
    lock_workshop,
    note_recovery_code,
    reset_password,
)
from dusky_heron.workshops.actions.policy import change_limit, choose_school, end_calendar, renew_calendar, set_terms
from dusky_heron.workshops.actions.second_factor import (
    begin_second_factor,
    confirm_second_factor,
    remove_own_second_factor,
    remove_second_factor,
    renew_recovery_codes,
)

__all__ = [
    "add_member",
    "appoint_lead",
    "begin_second_factor",
    "change_limit",
    "change_own_password",
    "choose_school",
    "confirm_second_factor",
    "edit_member",
    "end_calendar",
    "found_workshop",
    "lock_workshop",
    "note_recovery_code",
    "remove_own_second_factor",
    "remove_second_factor",
    "renew_calendar",
    "renew_recovery_codes",
    "reset_password",
    "set_terms",
]
