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
import shutil
import sys
import zipfile
from collections.abc import Iterator
from pathlib import Path

ROOT = Path(__file__).parents[2]
PYTHON = ("pyodide.mjs", "pyodide.asm.mjs", "pyodide.asm.wasm", "python_stdlib.zip", "pyodide-lock.json")
NEEDS = ("pydantic", "annotated_types", "typing_inspection", "typing_extensions", "lazy_loader")
LEFT_OUT = ("/v1/", "/__pycache__/", "/core/rig/", "/core/proving/")  # the simulated sets need arrays
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
    rules = _zipped()
    name = f"rules-{hashlib.sha256(rules).hexdigest()[:12]}.zip"
    (folder / name).write_bytes(rules)
    manifest = {"python": version, "wheel": wheel.name, "rules": name}
    (folder / "manifest.json").write_text(json.dumps(manifest), encoding="utf-8")


def _zipped() -> bytes:
    """The same bytes for the same files."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, file in sorted(_files()):
            archive.writestr(zipfile.ZipInfo(name, EPOCH), file.read_bytes(), zipfile.ZIP_DEFLATED)
    return out.getvalue()


def _files() -> Iterator[tuple[str, Path]]:
    """What the door imports of ours, all of the core, which is loaded when it is asked for, and what both need of others'."""
    importlib.import_module("dusky_heron.device.door")
    ours = (module.__file__ for name, module in sys.modules.items() if name.split(".")[0] == "dusky_heron")
    found = {Path(file) for file in ours if file} | {file for file in (ROOT / "dusky_heron/core").rglob("*") if file.is_file()}
    yield from ((str(file.relative_to(ROOT)), file) for file in found if not _left_out(file))
    for name in NEEDS:
        spec = importlib.util.find_spec(name)
        if spec is None or spec.origin is None:
            raise LookupError(name)
        origin = Path(spec.origin)
        base = origin.parent.parent if origin.name == "__init__.py" else origin.parent
        files = origin.parent.rglob("*.py") if origin.name == "__init__.py" else [origin]
        yield from ((str(file.relative_to(base)), file) for file in files if not _left_out(file))


def _left_out(file: Path) -> bool:
    return any(part in file.as_posix() for part in LEFT_OUT)


if __name__ == "__main__":
    pack(Path(sys.argv[1]), Path(sys.argv[2]))
