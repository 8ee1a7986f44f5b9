"""The second factor of a member: time-based codes of an authenticator (RFC 6238), and recovery codes for when it is lost."""

from collections.abc import Iterable
from uuid import UUID

from django.db import transaction
from django_otp.plugins.otp_static.models import StaticDevice, StaticToken
from django_otp.plugins.otp_totp.models import TOTPDevice

from dusky_heron.record.errors import CodeAsked

DIGITS = 6  # of a code; a recovery code has eight letters and figures
RECOVERY_CODES = 10
WRONG = "That code does not fit, or was used already. Wait for the next one, then try once more."


def has_one(member_id: UUID) -> bool:
    """Whether a member has set one up. One statement."""
    return bool(TOTPDevice.objects.filter(user_id=member_id, confirmed=True).exists())


def who_has_one(member_ids: Iterable[UUID]) -> set[UUID]:
    """Those of some members who have set one up. One statement."""
    return set(TOTPDevice.objects.filter(user_id__in=list(member_ids), confirmed=True).values_list("user_id", flat=True))


def take_code(member_id: UUID, code: str) -> int | None:
    """Take a code, which counts once: None for an authenticator's, for a recovery code how many are left.

    Each wrong one closes it for twice as long as the one before. Raises CodeAsked; not to be rolled back by its caller.
    """
    typed = "".join(code.split()).lower()
    if not typed:
        raise CodeAsked("Type the code of your authenticator, or a recovery code.")
    kind = TOTPDevice if len(typed) == DIGITS and typed.isascii() and typed.isdecimal() else StaticDevice
    with transaction.atomic():
        device = kind.objects.select_for_update().filter(user_id=member_id, confirmed=True).first()
        fits = device is not None and device.verify_token(typed)
    if not fits:
        raise CodeAsked(WRONG)
    return None if kind is TOTPDevice else StaticToken.objects.filter(device__user_id=member_id).count()


def begin(member_id: UUID, label: str) -> TOTPDevice:
    """A secret for an authenticator, which counts once a code of it was given; one begun before is forgotten."""
    TOTPDevice.objects.filter(user_id=member_id, confirmed=False).delete()
    return TOTPDevice.objects.create(user_id=member_id, name=label, confirmed=False)


def confirm(member_id: UUID, code: str) -> bool:
    """Whether a code shows that the secret arrived; then it counts from now on."""
    device = TOTPDevice.objects.select_for_update().filter(user_id=member_id, confirmed=False).first()
    if device is None or not device.verify_token("".join(code.split())):
        return False
    device.confirmed = True
    device.save(update_fields=["confirmed"])
    return True


def new_recovery_codes(member_id: UUID) -> list[str]:
    """Ten of them, in the place of those from before; they are shown this once."""
    StaticDevice.objects.filter(user_id=member_id).delete()
    device = StaticDevice.objects.create(user_id=member_id, name="recovery", confirmed=True)
    codes = sorted({StaticToken.random_token() for _ in range(2 * RECOVERY_CODES)})[:RECOVERY_CODES]
    StaticToken.objects.bulk_create(StaticToken(device=device, token=code) for code in codes)
    return codes


def remove(member_id: UUID) -> None:
    """Take it off, with its recovery codes."""
    TOTPDevice.objects.filter(user_id=member_id).delete()
    StaticDevice.objects.filter(user_id=member_id).delete()
