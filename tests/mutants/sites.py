"""Where a source or a table can be broken in one place, and what stands there then."""

import ast
import itertools
import re
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

COMPARED = {"<": "<=", "<=": "<", ">": ">=", ">=": ">", "==": "!=", "!=": "==", "is not": "is", "not in": "in"}
COMPUTED = {"+": "-", "-": "+", "*": "/", "/": "*", "**": "*"}
TOKENS = re.compile(r"not in|is not|<=|>=|==|!=|\*\*|[<>+\-*/]")
WORDS = re.compile(r"\b(?:and|or)\b")
FIGURE = re.compile(r"(?<![\w.\-#])\d+(?:\.\d+)?(?:e-?\d+)?(?![\w.:\-])")
A_TENTH = 1.1


@dataclass(frozen=True, slots=True)
class Mutant:
    """One place of a file, from one offset to another, and what is put there."""

    file: str
    line: int
    begin: int
    end: int
    was: str
    put: str

    def applied(self, source: str) -> str:
        """The file with it."""
        return source[: self.begin] + self.put + source[self.end :]

    def parses(self, source: str) -> bool:
        """Whether the file can still be read: an operator in a text or a remark between two operands is none."""
        try:
            ast.parse(self.applied(source) if self.file.endswith(".py") else "")
        except SyntaxError:
            return False
        return True


def mutants_of(root: Path, file: Path) -> list[Mutant]:
    """All of a file."""
    source = file.read_text(encoding="utf-8")
    found = _of_python(source) if file.suffix == ".py" else _of_table(source)
    name = str(file.relative_to(root))
    return [Mutant(name, source.count("\n", 0, begin) + 1, begin, end, source[begin:end], put) for begin, end, put in found]


def _of_table(source: str) -> Iterator[tuple[int, int, str]]:
    """Each figure of a table a tenth larger; what stands in a remark or a text is left."""
    for line in re.finditer(r"[^\n]+", source):
        if not line[0].lstrip().startswith("#"):
            bare = re.sub(r'"[^"]*"|#.*', lambda text: " " * len(text[0]), line[0])
            for match in FIGURE.finditer(bare):
                if float(match[0]):
                    yield line.start() + match.start(), line.start() + match.end(), _more(match[0])


def _more(figure: str) -> str:
    return str(int(figure) + 1) if figure.isdecimal() and int(figure) < 10 else f"{float(figure) * A_TENTH:.12g}"


Put = tuple[int, int, str]


class _Places:
    """Offsets in a source from the rows and bytes of its tree."""

    def __init__(self, source: str) -> None:
        self.source, self.lines, self.starts = source, source.splitlines(), [0]
        for line in source.splitlines(keepends=True):
            self.starts.append(self.starts[-1] + len(line))

    def span(self, node: ast.expr) -> tuple[int, int]:
        """From where to where a piece stands."""
        return self._at(node.lineno, node.col_offset), self._at(node.end_lineno or node.lineno, node.end_col_offset or 0)

    def _at(self, row: int, column: int) -> int:
        return self.starts[row - 1] + len(self.lines[row - 1].encode()[:column].decode())

    def token(self, left: ast.expr, right: ast.expr, into: dict[str, str], pattern: re.Pattern[str] = TOKENS) -> Iterator[Put]:
        """The operator between two operands, brackets and breaks left alone."""
        match = pattern.search(self.source, self.span(left)[1], self.span(right)[0])
        if match and match[0] in into:
            yield match.start(), match.end(), into[match[0]]


def _of_python(source: str) -> Iterator[Put]:
    """Comparisons, sums, *and* and *or*, conditions and figures; what only says a type is left."""
    tree, places = ast.parse(source), _Places(source)
    typed = {
        id(inner)
        for node in ast.walk(tree)
        for kind in ("annotation", "returns")
        if getattr(node, kind, None) is not None
        for inner in ast.walk(getattr(node, kind))
    }
    for node in ast.walk(tree):
        if id(node) not in typed:
            yield from _of_node(node, places)


def _of_node(node: ast.AST, places: _Places) -> Iterator[Put]:
    match node:
        case ast.Compare():
            for left, right in itertools.pairwise([node.left, *node.comparators]):
                yield from places.token(left, right, COMPARED)
        case ast.BinOp():
            yield from places.token(node.left, node.right, COMPUTED)
        case ast.BoolOp():
            yield from places.token(node.values[0], node.values[1], {"and": "or", "or": "and"}, WORDS)
        case ast.UnaryOp(op=ast.Not()):
            begin, _ = places.span(node)
            yield begin, begin + 3, "not not"
        case ast.If() | ast.IfExp() | ast.While() if isinstance(node.test, (ast.Name, ast.Attribute, ast.Call, ast.Subscript)):
            begin, end = places.span(node.test)
            yield begin, end, f"(not ({places.source[begin:end]}))"
        case ast.Constant(value=int() | float() as value) if value and not isinstance(value, bool):
            yield *places.span(node), str(value + 1) if isinstance(value, int) else repr(value * A_TENTH)
