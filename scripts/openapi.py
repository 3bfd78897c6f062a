"""Write openapi.json, the bounds in it and what is explained of the trade for the front end; `--check` fails where a committed
one differs.
"""

import json
import sys
from pathlib import Path
from typing import Any

from deriva.core.trade.written import written as explained
from deriva.core.trade.written import written_first_hour
from deriva.service.main import build
from deriva.service.settings import Settings

ROOT = Path(__file__).parent.parent
DOCUMENT, BOUNDS = ROOT / "openapi.json", ROOT / "web/src/api/bounds.ts"
TRADE = ROOT / "web/src/features/trade"


def bounds(document: dict[str, Any]) -> str:
    """Return every bounded number of the document as TypeScript, a constant a schema: a page is sent those that it reads."""
    text = "/** Generated from the service's document: between what numbers lie. Never edited. */\n"
    for schema, model in sorted(document["components"]["schemas"].items()):
        lines = [
            f"  {field}: {{ min: {one['minimum']:g}, max: {one['maximum']:g} }},\n"
            for field, declared in model.get("properties", {}).items()
            for one in (declared, *declared.get("anyOf", ()))
            if "minimum" in one and "maximum" in one
        ]
        if lines:
            text += f"export const {schema} = {{\n{''.join(lines)}}} as const;\n"
    return text


found = build(Settings()).openapi()
written = {
    DOCUMENT: json.dumps(found, indent=2, ensure_ascii=False) + "\n",
    BOUNDS: bounds(found),
    TRADE / "trade.json": json.dumps(explained(), indent=2, ensure_ascii=False) + "\n",
    TRADE / "firstHour.json": json.dumps(written_first_hour(), indent=2, ensure_ascii=False) + "\n",
}
for target, text in written.items():
    if "--check" not in sys.argv:
        target.write_text(text, encoding="utf-8")
    elif not target.exists() or target.read_text(encoding="utf-8") != text:
        sys.exit(f"{target.name} is not what the service says: run `make openapi`")
