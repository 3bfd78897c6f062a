"""Take the pinned figures anew: what `advise`, `drift` and `coach` answer in sixty seeded situations.

For a change that is meant to change them, never to make a test pass: the difference belongs in the commit's message.
"""

import json
import sys
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parent.parent))

from tests.pinned import PINNED, figures
from tests.seeded import COUNT

if __name__ == "__main__":
    PINNED.write_text(json.dumps([figures(k) for k in range(COUNT)], indent=0) + "\n")
    print(f"{PINNED}: {COUNT} situations")
