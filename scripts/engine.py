"""Put the engine that runs on the phone beside the front end: the core's portable modules, and the Python that runs them.

Everything comes from this project and from the npm package; names carry what they hold, so that a browser may keep them.
Beside them lies the memory of an engine that has started, so that a phone need not start one. That is an option which the
package keeps to itself: where a loader no longer takes it, the phone starts the engine.
"""

import hashlib
import json
import shutil
import subprocess
import sys
import zipfile
from pathlib import Path

from root import ROOT

OUT = ROOT / "web" / "public" / "engine"
PYODIDE = ROOT / "web" / "node_modules" / "pyodide"
RUNTIME = ("pyodide.mjs", "pyodide.asm.mjs", "pyodide.asm.wasm", "python_stdlib.zip", "pyodide-lock.json")

DOORS = """\
import json
from deriva.core.portable import answer
def spoken(door, text):
    return json.dumps(answer(door, json.loads(text)))
"""
"""What passes between two languages: a question in JSON, its answer in JSON."""

LISTED = """
import sys
class Absent:
    def find_spec(self, name, path=None, target=None):
        if name.split(".")[0] in ("numpy", "numba", "scipy"):
            raise ImportError(name)
sys.meta_path.insert(0, Absent())
import deriva.core.portable
for name, module in sorted(sys.modules.items()):
    if name.split(".")[0] == "deriva":
        print(module.__file__)
"""


def portable_modules() -> list[str]:
    """Return the files, under src, that the doors of the phone import, and the tables that they read."""
    listed = subprocess.run(
        [sys.executable, "-c", LISTED], capture_output=True, text=True, check=True, cwd=ROOT
    )
    modules = [str(Path(line).relative_to(ROOT / "src")) for line in listed.stdout.splitlines()]
    tables = sorted(
        str(one.relative_to(ROOT / "src")) for one in (ROOT / "src/deriva/core/data").glob("*.csv")
    )
    return modules + tables


def main() -> None:
    """Write the engine and the list of its files with their sizes."""
    shutil.rmtree(OUT, ignore_errors=True)
    OUT.mkdir(parents=True)
    digest = hashlib.sha256()
    core = OUT / "core.zip"
    with zipfile.ZipFile(core, "w", zipfile.ZIP_DEFLATED) as packed:
        parts = {name: (ROOT / "src" / name).read_bytes() for name in portable_modules()}
        for name, data in (parts | {"doors.py": DOORS.encode()}).items():
            digest.update(name.encode() + b"\0" + data)
            packed.writestr(zipfile.ZipInfo(name), data, zipfile.ZIP_DEFLATED)
    core = core.rename(OUT / f"core-{digest.hexdigest()[:12]}.zip")
    version = json.loads((PYODIDE / "package.json").read_text())["version"]
    runtime = OUT / f"python-{version}"
    runtime.mkdir()
    for name in RUNTIME:
        shutil.copyfile(PYODIDE / name, runtime / name)
    started = OUT / f"started-{version}-{digest.hexdigest()[:12]}.gz"
    node = shutil.which("node") or "node"
    subprocess.run([node, ROOT / "scripts" / "snapshot.mjs", PYODIDE, core, started], check=True)
    files = [core, started, *(runtime / name for name in RUNTIME)]
    listed = {
        "core": f"/engine/{core.name}",
        "python": f"/engine/{runtime.name}/",
        "started": f"/engine/{started.name}",
        "files": [{"url": "/" + str(f.relative_to(OUT.parent)), "bytes": f.stat().st_size} for f in files],
    }
    (OUT / "engine.json").write_text(json.dumps(listed, indent=1) + "\n")


if __name__ == "__main__":
    main()
