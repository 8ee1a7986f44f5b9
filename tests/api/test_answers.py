"""What goes out is made whole: no field of an answer can be forgotten where it is made. Needs no database."""

import ast
import importlib
import inspect
import unittest
from collections.abc import Iterator
from pathlib import Path
from typing import Any, get_args

from dusky_heron.api import api
from dusky_heron.presented import Answer, Schema

ROOT = Path(__file__).parents[2]
# Forms that a bench begins with: filled with examples, and kept by nobody.
BEGUN = {"DropperIn", "SupplyIn", "BulkIn", "StringShareIn", "FormingIn", "WalkIn"}
WAYS_WITH_ALL = {"from_row", "nothing_but", "model_validate"}  # each asks for every field itself


def _within(kind: Any) -> Iterator[type[Schema]]:
    if isinstance(kind, type) and issubclass(kind, Schema):
        yield kind
    for inner in get_args(kind):
        yield from _within(inner)


def answers() -> set[type[Schema]]:
    """Every schema an operation answers with, and those within it."""
    found: set[type[Schema]] = set()
    asked: list[Any] = []
    for _, router in api._routers:
        for view in router.path_operations.values():
            for operation in view.operations:
                for model in operation.response_models.values():
                    asked += [field.annotation for field in getattr(model, "model_fields", {}).values()]
    while asked:
        for schema in _within(asked.pop()):
            if schema not in found:
                found.add(schema)
                asked += [field.annotation for field in schema.model_fields.values()]
    return found


class Whole(unittest.TestCase):
    """An answer asks for every field, and every place that makes one gives them all."""

    def test_every_answer_asks_for_every_field(self) -> None:
        for schema in sorted(answers(), key=lambda one: one.__name__):
            if schema.__name__ in BEGUN:
                continue
            with self.subTest(schema.__name__):
                self.assertTrue(issubclass(schema, Answer))
                self.assertEqual([name for name, field in schema.model_fields.items() if not field.is_required()], [])

    def test_every_place_that_makes_one_gives_them_all(self) -> None:
        made = 0
        for path in sorted((ROOT / "dusky_heron").rglob("*.py")):
            tree = ast.parse(path.read_text(encoding="utf-8"))
            calls = [node for node in ast.walk(tree) if isinstance(node, ast.Call) and isinstance(node.func, ast.Name)]
            names = {node.func.id for node in calls if isinstance(node.func, ast.Name)}
            if not any(name[:1].isupper() for name in names) or "core" in path.parts:
                continue
            module = importlib.import_module(".".join(path.relative_to(ROOT).with_suffix("").parts).removesuffix(".__init__"))
            for call in calls:
                schema = getattr(module, call.func.id, None) if isinstance(call.func, ast.Name) else None
                if not inspect.isclass(schema) or not issubclass(schema, Answer):
                    continue
                made += 1
                given = {keyword.arg for keyword in call.keywords}
                if None in given:  # **rows: pydantic says it when it is made
                    continue
                with self.subTest(f"{path.relative_to(ROOT)}:{call.lineno} {schema.__name__}"):
                    self.assertEqual(set(schema.model_fields) - given, set())
        self.assertGreater(made, 90)

    def test_a_forgotten_field_is_an_error_and_no_empty_value(self) -> None:
        class Typed(Schema):
            note: str = ""

        class Shown(Answer, Typed):
            number: int

        with self.assertRaises(ValueError):
            Shown.model_validate({"number": 1})
        self.assertEqual(Typed().note, "")
        self.assertEqual(Shown.nothing_but(number=1).note, "")
