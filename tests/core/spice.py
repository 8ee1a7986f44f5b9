"""ngspice as a witness: a netlist run, and what it measured."""

import re
import shutil
import subprocess
import tempfile
from pathlib import Path

SPICE = shutil.which("ngspice") or ""


def run(netlist: str) -> dict[str, float]:
    """Run a netlist in batch and return its `.meas` figures."""
    with tempfile.TemporaryDirectory() as folder:
        file = Path(folder) / "circuit.cir"
        file.write_text(netlist, encoding="utf-8")
        done = subprocess.run([SPICE, "-b", str(file)], capture_output=True, text=True, check=False)
    found = {name: float(value) for name, value in re.findall(r"^(\w+)\s*=\s*([-+.\deE]+)", done.stdout, re.MULTILINE)}
    if not found:
        raise AssertionError(done.stdout[-800:] + done.stderr[-400:])
    return found
