"""Keeps a file of the present version for the tests, once: `manage.py test tests.api.keeping`, after `job_schema --freeze`."""

from dusky_heron.transfer.formats import VERSION
from tests.api.test_transfer import FILES, FROZEN, Transfer, digest_of


class Keep(Transfer):
    """Job 7 as this version writes it, and the digest of its schema."""

    def test_keep(self) -> None:
        if VERSION not in FROZEN:
            (FILES / f"version-{VERSION}.zip").write_bytes(self.out)
            with (FILES / "schemas.csv").open("a", encoding="utf-8") as listed:
                listed.write(f"{VERSION},{digest_of(VERSION)}\n")
