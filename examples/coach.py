"""Six drifts at a lie that was read too shallow: what the coach makes of them, drift by drift."""

from deriva.core.choose.search import coarse
from deriva.core.coach.ask import Asked, coached
from deriva.core.model.logged import Fished, Outcome
from deriva.core.model.quantity import plain
from deriva.core.model.situation import Situation
from deriva.core.model.water import Water

situation = Situation(Water(depth_m=1.0, depth_sd_m=0.3, surface_speed_m_s=0.5, bed="gravel"))
drifts: tuple[Fished, ...] = ()
outcomes: tuple[Outcome, ...] = ("clean", "clean", "clean", "clean", "tick", "clean")
for outcome in outcomes:
    drifts = (*drifts, Fished(1.0, 3.0, outcome, "same"))
    done = coached(Asked(situation, "indicator", drifts), coarse)
    belief = ", ".join(f"{done.belief.depth(share):.2f}" for share in (0.1, 0.5, 0.9))
    print(f"{outcome:>6}: {belief} m; {done.advice.action}: {plain(done.advice.reason)}")
