"""Write openapi.json from the service; `--check` fails if the committed one differs."""

import json
import sys
from pathlib import Path

from deriva.service.main import build
from deriva.service.settings import Settings

TARGET = Path(__file__).parent.parent / "openapi.json"

text = json.dumps(build(Settings()).openapi(), indent=2, ensure_ascii=False) + "\n"
if "--check" in sys.argv:
    if not TARGET.exists() or TARGET.read_text(encoding="utf-8") != text:
        sys.exit("openapi.json is not what the service says: run `make openapi`")
else:
    TARGET.write_text(text, encoding="utf-8")
