"""How often the true depth lies within the belief's p10 to p90 after 0, 5, 10 and 20 drifts of the coach, on hidden waters:
four in five, were the belief as sure as it may be.

    scripts/calibration.py [WATERS] [SEED]

200 waters a rig take some ten minutes on two cores. Prints, beside the shares, what luck alone moves one by (two standard
errors).
"""

import os
import sys
from concurrent.futures import ProcessPoolExecutor

from deriva.bench.coach import LOOKED_AT, believed
from deriva.core.model.rig import RIG_KINDS
from deriva.core.practice.world import WORLD, hidden_waters


def main(waters: int, seed: int) -> None:
    """Print a line a rig."""
    for kind in RIG_KINDS:
        asked = [(hidden, kind, WORLD) for hidden in hidden_waters(waters, seed)]
        with ProcessPoolExecutor(os.cpu_count()) as pool:
            found = [one for one in pool.map(believed, asked) if one is not None]
        shares = [sum(one[k] for one in found) / len(found) for k in range(len(LOOKED_AT))]
        luck = 2.0 * (0.8 * 0.2 / len(found)) ** 0.5
        said = "  ".join(f"{drifts}: {share:.2f}" for drifts, share in zip(LOOKED_AT, shares, strict=True))
        print(f"{kind:12} {len(found):4d} waters   {said}   +- {luck:.2f}", flush=True)


if __name__ == "__main__":
    numbers = [int(one) for one in sys.argv[1:]]
    main(*(numbers + [200, 54][len(numbers) :]))
