"""Five slips that no check may let through, each put into a copy of the tree: `python -m tests.scripts.patches` times them."""

import os
import shutil
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]
LENT = (".venv", "frontend/node_modules")


@dataclass(frozen=True)
class Slip:
    """What is written where, and what the check says that catches it."""

    name: str
    check: str
    changes: tuple[tuple[str, str, str], ...]  # file, what stands there, what stands there then
    says: tuple[str, ...]


CHECKS = {  # as scripts/test names them
    "mypy: types, strict": (".", [".venv/bin/mypy", "--no-error-summary"]),
    "page: vue-tsc": ("frontend", ["npm", "run", "-s", "check:types"]),
    "api: answers are whole": (".", [".venv/bin/python", "manage.py", "test", "--noinput", "tests.api.test_answers"]),
}
OPEN_JOB = "actions.open_job(actor_of(request), data)"
SHEET = "sheetOf(sheet.job.id, 'assess', position.id)"
SLIPS = (
    Slip(
        "an action called with a wrong argument, and with one it does not have",
        "mypy: types, strict",
        (("dusky_heron/jobs/router.py", OPEN_JOB, "actions.open_job(actor_of(request), 42, nonsense=True)"),),
        ("Unexpected keyword argument", '"int"; expected "JobIn"'),
    ),
    Slip(
        "a form that names a field its body does not have",
        "page: vue-tsc",
        (("frontend/src/features/job/JobForm.vue", "  maker: {", "  colour: { label: 'Colour' },\n  maker: {"),),
        ("colour",),
    ),
    Slip(
        "a form that forgets a field of its body",
        "page: vue-tsc",
        (("frontend/src/features/job/JobForm.vue", "  maker: { label: 'Maker', kind: 'line' },\n", ""),),
        ("maker",),
    ),
    Slip(
        "a field added to model and schema, and forgotten where the answer is made",
        "api: answers are whole",
        (
            (
                "dusky_heron/jobs/models.py",
                "    serial = ",
                "    colour = models.CharField(max_length=20)\n    serial = ",
            ),
            ("dusky_heron/jobs/schemas.py", '    serial: Line = ""\n', '    serial: Line = ""\n    colour: Line = ""\n'),
        ),
        ("JobOut", "colour"),
    ),
    Slip(
        "a test that calls the core with a text for a number",
        "mypy: types, strict",
        (("tests/core/test_energy_and_discharge.py", "stored_energy(1e-6, 1000)", 'stored_energy("1e-6", 1000)'),),
        ('incompatible type "str"; expected "float"',),
    ),
    Slip(
        "a stage misspelt in the page",
        "page: vue-tsc",
        (("frontend/src/features/discharge/DischargeStage.vue", SHEET, SHEET.replace("assess", "asses")),),
        ("asses",),
    ),
    Slip(
        "the state of a check misspelt in the page",
        "page: vue-tsc",
        (("frontend/src/features/handback/CheckRow.vue", "check.state !== 'signed'", "check.state !== 'singed'"),),
        ("singed",),
    ),
)


@contextmanager
def copy_of_the_tree() -> Iterator[Path]:
    """All that is in the repository, with what was installed beside it."""
    with tempfile.TemporaryDirectory(prefix="dusky-patch-") as name:
        copy = Path(name)
        listed = subprocess.run(["git", "ls-files", "-z"], cwd=ROOT, capture_output=True, check=True).stdout.decode().split("\0")
        for file in filter(None, listed):
            if (ROOT / file).is_file():
                (copy / file).parent.mkdir(parents=True, exist_ok=True)
                shutil.copy2(ROOT / file, copy / file)
        for lent in LENT:
            (copy / lent).symlink_to(ROOT / lent)
        yield copy


def put_in(slip: Slip, tree: Path) -> None:
    """Write a slip into a tree; what it changes has to be there."""
    for file, stands, then in slip.changes:
        if not stands:  # a new file
            (tree / file).parent.mkdir(parents=True, exist_ok=True)
            (tree / file).write_text(then, encoding="utf-8")
            continue
        text = (tree / file).read_text(encoding="utf-8")
        if stands not in text:
            raise LookupError(f"{slip.name}: {stands!r} is not in {file} any more")
        (tree / file).write_text(text.replace(stands, then, 1), encoding="utf-8")


def check(name: str, tree: Path) -> tuple[int, str]:
    """What a check of scripts/test says of a tree, and with which code it ends."""
    folder, command = CHECKS[name]
    environment = {**os.environ, "PATH": f"{tree / '.venv/bin'}:{os.environ['PATH']}"}
    done = subprocess.run(command, cwd=tree / folder, env=environment, capture_output=True, text=True, check=False)
    return done.returncode, done.stdout + done.stderr


def main() -> None:
    """Each slip by itself: caught or not, by which check, in how many seconds."""
    for slip in SLIPS:
        with copy_of_the_tree() as tree:
            put_in(slip, tree)
            began = time.perf_counter()
            code, says = check(slip.check, tree)
            caught = code != 0 and all(words in says for words in slip.says)
            line = f"{time.perf_counter() - began:5.1f} s  {'caught' if caught else 'MISSED'}  {slip.check:24} {slip.name}\n"
            sys.stdout.write(line)


if __name__ == "__main__":
    main()
