"""Write the pages that follow from the code: the glossary, from the core's, and the statements that part the database over
machines, from its tables; `--check` fails where a committed one differs.
"""

import sys

from deriva.core.glossary import page
from parted import script
from root import ROOT

PAGES = {ROOT / "docs" / "glossary.md": page, ROOT / "docs" / "many-machines.sql": script}

for target, made in PAGES.items():
    if "--check" not in sys.argv:
        target.write_text(made(), encoding="utf-8")
    elif not target.exists() or target.read_text(encoding="utf-8") != made():
        sys.exit(f"{target.relative_to(ROOT)} is not what the code says: run `make docs`")
