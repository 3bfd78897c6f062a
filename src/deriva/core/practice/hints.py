"""What helps in a game: the coach's word, once, from what was logged; and what a drift that was just seen could have told."""

from deriva.core.choose.search import Search
from deriva.core.coach.ask import Asked, coached
from deriva.core.coach.next import Advised
from deriva.core.model.logged import Fished
from deriva.core.model.quantity import percent, qty
from deriva.core.practice.cast import Game
from deriva.core.practice.drills import as_judged
from deriva.core.practice.game import Drifted
from deriva.core.practice.river import pace_called
from deriva.core.practice.seen import STUTTER_DIP, events
from deriva.core.practice.world import WORLD


def hint(game: Game, search: Search) -> Advised:
    """Return what the coach would do next, going by what was logged in the lane that was fished last."""
    last = game.casts[-1]
    drifts = tuple(
        Fished(
            one.depth_setting_m, one.point_bead_mm, one.outcome or "clean", one.pace, direction=one.direction
        )
        for one in game.casts
        if one.lane == last.lane and one.rig == last.rig
    )
    judged = as_judged(game.drill, game.seed, last.lane, game.school, game.box)
    return coached(Asked(judged, last.rig, drifts), search).advice


def why(drift: Drifted) -> str:
    """Say what a drift showed, and what such a thing tells: nothing that could not have been seen."""
    ran = drift.ran
    if ran is None:
        return "This rig cannot be fished here."
    said: list[str] = []
    if drift.rig.float_ is None:
        said.append("The sighter was led at its pace: only touches tell how deep the fly was.")
    elif drift.cast.direction == "down":
        said.append(
            f"Fed downstream the float went at {percent(ran.pace)} of the bubbles: held back by its line, it tells nothing."
        )
    else:
        pace = pace_called(ran.pace)
        tells = {
            "slower": "slower, as flies in the slow water below make it",
            "same": "the same: the flies are hardly down",
            "faster": "faster: nothing anchors it",
        }[pace]
        said.append(f"The float went at {percent(ran.pace)} of the bubbles: {tells}.")
    if ran.drags_s is not None:
        said.append(f"From {qty(ran.drags_s, 's', 1)} on the line dragged it.")
    showed = events(ran, drift.luck, drift.take, WORLD)
    for one in showed[:2]:
        held = f"held for {qty(one.lasts_s, 's', 1)}"
        what = "short and slight, as stones are" if one.dip < STUTTER_DIP and one.lasts_s < 0.5 else held
        said.append(f"At {qty(one.at_s, 's', 1)} something showed: {what}.")
    if not showed:
        said.append("Nothing touched it.")
    return " ".join(said)
