"""Write docs/glossary.md from the core's glossary; `--check` fails if the committed one differs."""

import sys

from deriva.core.glossary import page
from root import ROOT

TARGET = ROOT / "docs" / "glossary.md"

if "--check" not in sys.argv:
    TARGET.write_text(page(), encoding="utf-8")
elif not TARGET.exists() or TARGET.read_text(encoding="utf-8") != page():
    sys.exit("docs/glossary.md is not what the core says: run `make docs`")
