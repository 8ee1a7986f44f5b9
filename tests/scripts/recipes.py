"""The recipes of CONTRIBUTING.md as patches: what is written by hand, what a command makes, and the checks that have to pass."""

import os
import subprocess
import sys
import time
from dataclasses import dataclass
from pathlib import Path

from tests.scripts.patches import Slip, copy_of_the_tree, put_in

Change = tuple[str, str, str]  # a file, what stands there, what stands there then; a file that is not there is new
TERMS, ROLES, CELLS = "dusky_heron/core/model/terms.py", "dusky_heron/core/tables/roles.toml", "tests/core/role_quantities.csv"
FIGURES, MARKINGS, EDGES = "tests/core/figures.csv", "tests/core/test_verdict_settles.py", "tests/core/test_roles.py"
FORM, VIEW = "frontend/src/features/job/JobForm.vue", "frontend/src/features/job/JobView.vue"
ROOT = Path(__file__).resolve().parents[2]


@dataclass(frozen=True)
class Recipe:
    """What is added, in at most so many files of the product; `rows` are what the tests are told of it."""

    name: str
    most: int
    changes: tuple[Change, ...]
    rows: tuple[Change, ...] = ()
    tests: tuple[str, ...] = ()


def put(file: str, text: str, before: str) -> Change:
    """A piece of text before what stands in a file."""
    return file, before, text + before


def like(file: str, begins: str, ends: str, *swaps: tuple[str, str], before: str = "") -> Change:
    """A piece of a file once more, behind itself or before something else, with some words changed."""
    text = (ROOT / file).read_text(encoding="utf-8")
    start = text.index(begins)
    piece = text[start : text.index(ends, start)]
    for was, then in swaps:
        piece = piece.replace(was, then)
    return put(file, piece, before or ends)


ROLE = Recipe(
    "a role",
    3,
    (
        put(TERMS, '    OVEN_START = "oven_start"\n', '    POWER_FACTOR = "power_factor"\n'),
        like(
            ROLES,
            "[motor_run]",
            "[motor_start]\n",
            ("[motor_run]", "[oven_start]"),
            ("motor run", "oven start"),
            before="[timing]\n",
        ),
    ),
    (
        like(CELLS, "motor_run,", "motor_start,", ("motor_run", "oven_start")),
        like(FIGURES, "roles,motor_run", "roles,motor_start", ("motor_run", "oven_start")),
        put(MARKINGS, '    Role.OVEN_START: "16 µF ±5 % 450 V~",\n', "    Role.POWER_FACTOR: "),
        put(EDGES, '"oven_start", ', '"motor_start", "magnetron"'),
    ),
    ("tests.core.test_roles", "tests.core.test_tables", "tests.core.test_verdict_settles", "tests.core.test_selection"),
)
PROTECTION = Recipe(
    "a protection class",
    2,
    (
        put("dusky_heron/jobs/schemas.py", '    ZERO = "0"\n', "\n\nclass Connection(StrEnum)"),
        put(FORM, "      { id: '0', title: '0, basic insulation alone' },\n", "      { id: 'II',"),
    ),
    (),
    ("tests.core.test_checks", "tests.core.test_selection"),
)
WORDS = 'refused = "It decides nothing of the part: measure its capacitance."'
QUANTITY = Recipe(
    "a quantity",
    3,
    (
        put(TERMS, '    INDUCTANCE = "inductance"\n', "\n\n@dataclass(frozen=True, slots=True)\nclass Measured"),
        put(TERMS, '    Quantity.INDUCTANCE: Measured("inductance in series", "H", 1.0, "22n"),\n', "}\nQUANTITY_TITLES"),
        put("dusky_heron/core/tables/quantities.toml", f"[inductance]\nac = {{ {WORDS} }}\ndc = {{ {WORDS} }}\n\n", "[current]\n"),
    ),
    (
        (EDGES, '{True: {"volts_dc", "ripple", ', '{True: {"inductance", "volts_dc", "ripple", '),
        (EDGES, 'False: {"volts_ac", "ripple", ', 'False: {"inductance", "volts_ac", "ripple", '),
    ),
    ("tests.core.test_roles", "tests.core.test_metering", "tests.core.test_taking", "tests.core.test_verdict_roles"),
)
SHEET = """<script setup lang="ts">
import StageSheet from '@/ui/StageSheet.vue'
</script>

<template>
  <StageSheet label="Smell"><p>What it smells of.</p></StageSheet>
</template>
"""
STAGE = Recipe(
    "a stage",
    6,
    (
        put("dusky_heron/jobs/stages.py", '    SMELL = "smell"\n', '    REPLACE = "replace"\n'),
        put("dusky_heron/jobs/stages.py", '    Stage.SMELL: "Smell",\n', "    Stage.REPLACE:"),
        put("frontend/src/features/job/stages.ts", "  smell: true,\n", "  replace: true,\n"),
        ("frontend/src/features/smell/SmellStage.vue", "", SHEET),
        put(VIEW, "import SmellStage from '@/features/smell/SmellStage.vue'\n", "import ChargeLine"),
        put(VIEW, "  smell: SmellStage,\n", "  replace: ReplaceStage,\n"),
    ),
)
FIELD = Recipe(
    "a field of the job",
    4,
    (
        put("dusky_heron/jobs/models.py", "    colour = models.CharField(max_length=200, blank=True)\n", "    supply_v = models"),
        put("dusky_heron/jobs/schemas.py", '    colour: Line = ""\n', "    supply_voltage: Typed\n"),
        put("dusky_heron/jobs/queries.py", "        colour=job.colour,\n", "        serial=job.serial,\n"),
        put(FORM, "  colour: { label: 'Colour' },\n", "  maker: { label: 'Maker', kind: 'line' },\n"),
    ),
)
RECIPES = (ROLE, PROTECTION, QUANTITY, STAGE, FIELD)


MADE = (  # by commands, after every recipe
    ("migrations", ["python", "manage.py", "makemigrations", "-v", "0", "-n", "recipe"]),
    ("the API's document", ["bash", "scripts/openapi"]),
    ("the schema of a job's file", ["python", "manage.py", "job_schema", "--freeze"]),
    ("answers that are another", ["python", "-m", "tests.core.test_same_answers"]),
    ("figures, a second time", ["python", "-m", "tests.core.test_constants"]),
    ("a kept file of it", ["python", "manage.py", "test", "--noinput", "tests.api.keeping.Keep.test_keep"]),
)
CHECKED = (
    ("ruff", ["ruff", "check", "-q", "."]),
    ("ruff: format", ["ruff", "format", "-q", "--check", "."]),
    ("mypy", ["mypy", "--no-error-summary"]),
    ("import-linter", ["lint-imports", "--no-cache"]),
    ("migrations are complete", ["python", "manage.py", "makemigrations", "--check", "--dry-run", "-v", "0"]),
    ("page: types", ["npm", "--prefix", "frontend", "run", "-s", "check:types"]),
    ("page: eslint", ["npm", "--prefix", "frontend", "run", "-s", "check:lint"]),
    ("page: prettier", ["npm", "--prefix", "frontend", "run", "-s", "check:format"]),
)
API = (
    "tests.api.test_answers",
    "tests.api.test_service",
    "tests.api.test_transfer",
    "tests.api.test_work",
    "tests.api.test_assessing",
)


def tried(recipe: Recipe, *, whole: bool) -> list[str]:
    """What went wrong with it; with `whole` every test of the core and the API is run."""
    written = {file for file, _, _ in recipe.changes}
    wrong = [f"{len(written)} files by hand, not {recipe.most}"] if len(written) > recipe.most else []
    with copy_of_the_tree() as tree:
        put_in(Slip(recipe.name, "", recipe.changes + recipe.rows, ()), tree)
        (tree / "staticfiles").mkdir()
        tests = ("tests.core", "tests.api") if whole else recipe.tests + API
        for name, command in (*MADE, *CHECKED, ("tests", ["python", "-W", "error", "manage.py", "test", "--noinput", *tests])):
            done = subprocess.run(
                command, cwd=tree, env=os.environ | {"PYTHONPATH": str(tree)}, capture_output=True, text=True, check=False
            )
            if done.returncode:
                said = done.stdout + done.stderr
                wrong.append(f"{name}: {said[:1500]}\n…\n{said[-1500:]}")
    return wrong


def main() -> int:
    """Each recipe; ends with 1 when one does not pass."""
    chosen, failed = [one for one in sys.argv[1:] if one != "--whole"], False
    for recipe in RECIPES:
        if chosen and recipe.name not in chosen:
            continue
        began = time.perf_counter()
        wrong = tried(recipe, whole="--whole" in sys.argv)
        files, rows = ({file for file, _, _ in changes} for changes in (recipe.changes, recipe.rows))
        told = f"{len(files)} files by hand of {recipe.most}, {len(rows)} of tests"
        sys.stdout.write(
            f"{time.perf_counter() - began:5.0f} s  {'NOT' if wrong else 'ok '}  {recipe.name}: {told}\n"
            + "".join(f"{one}\n" for one in wrong)
        )
        sys.stdout.flush()
        failed |= bool(wrong)
    return int(failed)


if __name__ == "__main__":
    sys.exit(main())
