"""Lays the rules and the Python they run in beside the page: `python -m dusky_heron.device.pack FOLDER WHEELS`.

Python for the browser comes from the page's packages; pydantic's compiled half from WHEELS, built for it by its makers; the rest is
plain Python as it is installed here. Every name tells its content, so that a browser may keep what it has.
"""

import gzip
import hashlib
import importlib
import importlib.util
import io
import json
import re
import shutil
import sys
import zipfile
from collections.abc import Iterable, Iterator, Mapping
from pathlib import Path

ROOT = Path(__file__).parents[2]
PYTHON = ("pyodide.mjs", "pyodide.asm.mjs", "pyodide.asm.wasm", "python_stdlib.zip", "pyodide-lock.json")
NEEDS = ("pydantic", "annotated_types", "typing_inspection", "typing_extensions", "lazy_loader")
SERVER_NEEDS = ("django", "asgiref", "sqlparse", "ninja", "tzdata")
LEFT_OUT = re.compile(
    r"/(v1|__pycache__|core/rig|core/proving)/|\.pyc$"  # the simulated sets need arrays
    r"|/django/(conf/locale/\w+|conf/\w+_template|contrib/(?!auth/|contenttypes/|postgres/)\w+)/|/(jinja2|static)/"
    r"|/dusky_heron/((settings|demo|play|prove)/|device/pack|\w+/(management|migrations|templates)/)"
)
EPOCH = (2026, 1, 1, 0, 0, 0)


def pack(folder: Path, wheels: Path) -> None:
    """Write the files and `manifest.json`, which names them."""
    shutil.rmtree(folder, ignore_errors=True)
    folder.mkdir(parents=True)
    python = ROOT / "frontend/node_modules/pyodide"
    version = json.loads((python / "package.json").read_text(encoding="utf-8"))["version"]
    for name in PYTHON:
        (folder / version).mkdir(exist_ok=True)
        content = (python / name).read_bytes()
        (folder / version / name).write_bytes(content)
        if not name.endswith(".zip"):
            (folder / version / f"{name}.gz").write_bytes(gzip.compress(content, mtime=0))
    (wheel,) = wheels.glob("pydantic_core-*.whl")
    shutil.copy(wheel, folder / wheel.name)
    rules = dict(_rules())
    parts = {"rules": rules, "server": {name: file for name, file in _server() if name not in rules}}
    manifest = {"python": version, "wheel": wheel.name}
    for part, files in parts.items():
        content = _zipped(files)
        manifest[part] = f"{part}-{hashlib.sha256(content).hexdigest()[:12]}.zip"
        (folder / manifest[part]).write_bytes(content)
    (folder / "manifest.json").write_text(json.dumps(manifest), encoding="utf-8")


def _zipped(files: Mapping[str, Path]) -> bytes:
    """The same bytes for the same files."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, file in sorted(files.items()):
            archive.writestr(zipfile.ZipInfo(name, EPOCH), file.read_bytes(), zipfile.ZIP_DEFLATED)
    return out.getvalue()


def _rules() -> Iterator[tuple[str, Path]]:
    """What the door imports of ours, all of the core, which is loaded when it is asked for, and what both need of others'."""
    importlib.import_module("dusky_heron.device.door")
    ours = (module.__file__ for name, module in sys.modules.items() if name.split(".")[0] == "dusky_heron")
    yield from _named({Path(file) for file in ours if file}, ROOT)
    yield from _named((ROOT / "dusky_heron/core").rglob("*"), ROOT)
    for name in NEEDS:
        yield from _package(name)


def _server() -> Iterator[tuple[str, Path]]:
    """All of ours that the server on a device may import, and Django with what it needs."""
    yield from _named((ROOT / "dusky_heron").rglob("*"), ROOT)
    for name in SERVER_NEEDS:
        yield from _package(name)


def _package(name: str) -> Iterator[tuple[str, Path]]:
    """The files of somebody else's package as it is installed here."""
    spec = importlib.util.find_spec(name)
    if spec is None or spec.origin is None:
        raise LookupError(name)
    origin = Path(spec.origin)
    if origin.name == "__init__.py":
        return _named(origin.parent.rglob("*"), origin.parent.parent)
    return _named([origin], origin.parent)


def _named(files: Iterable[Path], base: Path) -> Iterator[tuple[str, Path]]:
    return ((str(file.relative_to(base)), file) for file in files if file.is_file() and not LEFT_OUT.search(file.as_posix()))


if __name__ == "__main__":
    pack(Path(sys.argv[1]), Path(sys.argv[2]))
