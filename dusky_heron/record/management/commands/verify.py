"""Prove from the command line that no record was altered, and that heads printed earlier still stand in their chains."""

import sys
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandParser

from dusky_heron.record.verifying import verify_all

HEAD = 64  # letters and figures


class Command(BaseCommand):
    """Ends with 1 when a chain was altered or a printed head is not found; a chain recomputed as a whole is found by its head."""

    help = "Verify every chain of entries, and heads printed on reports."

    def add_arguments(self, parser: CommandParser) -> None:
        """Heads as printed."""
        parser.add_argument("heads", nargs="*", help="heads printed on reports, 64 letters and figures each, blanks or not")
        parser.add_argument("--heads-from", help="a file of heads that must all be found")

    def handle(self, *_: Any, **options: Any) -> None:
        """Every chain, and with it the heads that stand in it."""
        printed = "".join(options["heads"]).replace(" ", "").lower()
        wanted = [printed[k : k + HEAD] for k in range(0, len(printed), HEAD)]
        if options["heads_from"]:
            wanted += Path(options["heads_from"]).read_text(encoding="utf-8").split()
        entries, altered, standing = 0, 0, set[str]()
        for subject_id, found in verify_all(wanted):
            entries += found.length
            standing |= found.printed
            if not found.whole:
                altered += 1
                first = f"entry {found.first_altered} is the first that does not fit" if found.first_altered else ""
                for said in filter(None, (first, *found.differs)):
                    self.stdout.write(f"{subject_id}: altered, {said}")
        self.stdout.write(f"{entries} entries, {altered} chains altered")
        missing = [head for head in wanted if head not in standing]
        for head in missing:
            self.stdout.write(f"{head}: stands in no whole chain; what was printed is not what is kept")
        if altered or missing:
            sys.exit(1)
